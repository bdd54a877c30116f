"""Rounds and loops: drills hidden in the form, each as a small drawing of its way."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial
from itertools import pairwise

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QAccessible, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF, QTransform
from PySide6.QtWidgets import QWidget

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import Progress
from waltzmark.core.form.form import Form
from waltzmark.core.home.loop_drill import drill_of, walked_loops
from waltzmark.core.home.loops import Loop
from waltzmark.core.home.rounds import rounds_in_room, rounds_of
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.document import Document
from waltzmark.desktop.faced import Face
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.tracks import polygon
from waltzmark.desktop.plain import Label, heading, wrapped
from waltzmark.desktop.returns.chain import draw_arrow
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.parts import choice_box, push_button
from waltzmark.desktop.widgets.search import Search
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.errors import explained
from waltzmark.words.figures import Figures
from waltzmark.words.language import ntr, tr
from waltzmark.words.returns import carries, comes_home, loop_lines, stays

__all__ = ["LoopsFace", "LoopsView"]

_PAUSE_MS = 200
_COLUMNS = 4
_ROUNDS = ("home rounds", tr("home form rounds"))


#: The loops that are drawn, each with its ways.
Drawn = tuple[tuple[Loop, list[Floats]], ...]


def _searched(form: Form, most: int, told: Progress) -> Drawn:
    trace = walk(form)
    return tuple((loop, way_of(form, trace, loop)) for loop in walked_loops(form, trace, most, told))


def way_of(form: Form, trace: Trace, loop: Loop) -> list[Floats]:
    """The way of the feet's middle in each posture of a loop's drill, bridges among them, (k, 2) metres in the frame of
    its beginning."""
    walked = walk(drill_of(form, trace, loop))
    ends = walked.starts.tolist()
    return [walked.midpoints[first - 1 : after] for first, after in pairwise(ends[1:])]


@guarded
class LoopsView(QWidget):
    """The loops side by side; the arrow keys and a click choose one, Enter takes it."""

    role = QAccessible.Role.Graphic

    chosen = Signal(int)
    wanted = Signal()

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__()
        self._document, self._theme = document, theme
        self.loops: tuple[Loop, ...] = ()
        self.at = -1
        self._ways: list[list[Floats]] = []
        self.setAccessibleName(tr("Loops as small drawings"))
        self._telling = Telling(self, self.told)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(320, 240)

    def sizeHint(self) -> QSize:
        return QSize(900, 560)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def show_loops(self, drawn: Drawn) -> None:
        """Shows other loops."""
        self.loops = tuple(loop for loop, _ in drawn)
        self._ways = [ways for _, ways in drawn]
        self.choose(0 if drawn else -1)

    def choose(self, nth: int) -> None:
        """Chooses a loop."""
        self.at = min(max(nth, 0), len(self.loops) - 1) if self.loops else -1
        self.chosen.emit(self.at)
        self._telling.say()
        self.update()

    def told(self) -> str:
        """The loop that is chosen."""
        if self.at < 0:
            return tr("No loops found yet.")
        return ", ".join(self._words(self.loops[self.at])).replace("\n", ", ")

    def _card(self, nth: int) -> QRectF:
        rows = max(math.ceil(max(len(self.loops), 1) / _COLUMNS), 2)
        wide, high = self.width() / _COLUMNS, self.height() / rows
        return QRectF(nth % _COLUMNS * wide, nth // _COLUMNS * high, wide, high).adjusted(5, 5, -5, -5)

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            theme = self._theme
            painter.fillRect(self.rect(), theme.color("outside"))
            if not self.loops:
                painter.setPen(theme.color("faint"))
                painter.setFont(font(11.0))
                painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, tr("No loops found yet."))
            for nth, loop in enumerate(self.loops):
                self._paint_loop(painter, self._card(nth), nth, loop)

    def _paint_loop(self, painter: QPainter, card: QRectF, nth: int, loop: Loop) -> None:
        theme = self._theme
        chosen = nth == self.at
        painter.setPen(QPen(theme.color("centre" if chosen else "rule"), 2.4 if chosen else 1.0))
        painter.setBrush(theme.color("board"))
        painter.drawRoundedRect(card, 5.0, 5.0)
        ways = self._ways[nth]
        points = np.concatenate(ways)
        low, high = points.min(axis=0), points.max(axis=0)
        size = np.maximum(high - low, 0.3)
        box = card.adjusted(22, 26, -22, -46)
        scale = min(box.width() / size[0], box.height() / size[1])
        middle = (low + high) / 2.0
        place = QTransform()
        place.translate(box.center().x(), box.center().y())
        place.scale(scale, -scale)
        place.translate(-middle[0], -middle[1])
        for count, way in enumerate(ways):
            painter.setPen(QPen(theme.color("torso" if count % 2 else "centre"), 2.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolyline(QPolygonF(place.map(polygon(way))))
        start, end = place.map(QPointF(0.0, 0.0)), place.map(QPointF(*ways[-1][-1].tolist()))
        if loop.away > 0.005:
            draw_arrow(painter, start, end, theme, "stop", 2.4, dashed=True)
        painter.setBrush(theme.color("good"))
        painter.setPen(QPen(theme.color("paper"), 1.0))
        painter.drawEllipse(start, 5.0, 5.0)
        painter.setPen(theme.color("ink"))
        painter.setFont(font(9.5, bold=True))
        head, words = self._words(loop)
        painter.drawText(card.adjusted(8, 4, -8, 0), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, head)
        painter.setFont(font(9.0))
        painter.drawText(card.adjusted(8, 0, -8, -5), Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, words)

    def _words(self, loop: Loop) -> tuple[str, str]:
        """How many postures and beats a loop has; and from where to where it goes, and how far it drifts."""
        postures = ntr("{n} posture", "{n} postures", len(loop.postures))
        head = tr("{postures}, {beats}", postures=postures, beats=ntr("{n} beat", "{n} beats", loop.beats))
        first, last = loop.postures[0] + 1, loop.postures[-1] + 1
        out = ", ".join(str(each + 1) for each in loop.left_out)
        words = tr("{first} to {last}, skipping {out}", first=first, last=last, out=out) if out else ""
        words = words or tr("{first} to {last}", first=first, last=last)
        drift, turn = self._document.session.say.length(loop.away), f"{loop.turn:+.0f}"
        words += "\n" + (
            tr("drifts {length} each time, turned {turn}°", length=drift, turn=turn)
            if abs(loop.turn) >= 0.5
            else tr("drifts {length} each time", length=drift)
        )
        return head, words

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for nth in range(len(self.loops)):
            if self._card(nth).contains(event.position()):
                self.choose(nth)

    def mouseDoubleClickEvent(self, _event: QMouseEvent) -> None:
        if self.at >= 0:
            self.wanted.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: -_COLUMNS, Qt.Key.Key_Down: _COLUMNS}
        if event.key() in ways and not event.modifiers():
            self.choose(self.at + ways[Qt.Key(event.key())])
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.at >= 0:
            self.wanted.emit()
        else:
            super().keyPressEvent(event)


def _rounds(form: Form, trace: Trace, say: Figures | None, told: Progress) -> list[str]:
    """What rounds of a form do, in words: what the first does if *say* is given, when they are home, and for how many
    it stays in the room."""
    found = rounds_of(form, trace, told)
    words = [carries(math.hypot(*found.drift), found.turn, say)] if say is not None else []
    words.append(comes_home(found.home_after))
    if form.room is not None:
        words.append(stays(rounds_in_room(form, trace, progress=told), found.home_after))
    return words


def _loop_rounds(form: Form, trace: Trace, loop: Loop, told: Progress) -> list[str]:
    """The same of the drill of a loop, begun at the start mark; what a round does is known."""
    drill = drill_of(form, trace, loop)
    return _rounds(drill, walk(drill), None, told)


class LoopsFace(Face):
    """What a round does, and the loop that is chosen; a button makes it a form of its own."""

    name = tr("Rounds and loops")
    purpose = tr("What happens when you repeat the form, and drills hidden inside it")

    def __init__(self, desk: Desk, view: LoopsView) -> None:
        super().__init__(desk)
        self.view = view
        self._ended = False  # the search for loops
        self._of: Trace | None = None  # the walk whose loops are shown
        column = self.column
        column.addWidget(heading(tr("The form, repeated")))
        self.rounds = wrapped()
        column.addWidget(self.rounds)
        column.addWidget(heading(tr("Loops inside the form")))
        self.most = choice_box(
            tr("How many postures may be skipped"),
            [
                tr("Skip nothing"),
                tr("Skip up to one posture"),
                tr("Skip up to two postures"),
                tr("Skip up to three postures"),
            ],
        )
        self.most.setCurrentIndex(3)
        self.most.activated.connect(safely(lambda _at: self.refresh()))
        column.addWidget(self.most)
        self.said = wrapped()
        self.said.setAlignment(Qt.AlignmentFlag.AlignTop)
        column.addWidget(self.said, 1)
        self.make = push_button(
            tr("Open it as a drill"),
            self.take,
            tr("Opens the loop in its own window, with bridging steps where its joins need them  (Enter)"),
        )
        column.addWidget(self.make)
        self.search = Search(desk.jobs, "home loops")
        column.addWidget(self.search)
        view.chosen.connect(safely(self._say))
        view.wanted.connect(safely(self.take))

    def refresh(self) -> None:
        """Shows the document as it is now, and looks for its loops."""
        form, trace, say = self.document.form, self.document.trace, self.document.session.say
        self._tell(self.rounds, " ", [], tr("home form rounds"), partial(_rounds, form, trace, say))
        asked = (form.postures, form.body, form.opening, form.school, form.torso, self.most.currentIndex())
        most = self.most.currentIndex()
        self._of = trace
        if self.search.ask(asked, partial(_searched, form, most), self._take, failed=self._failed):
            self._ended = False
            self.view.show_loops(())
        else:
            self._say()  # home, the room or the units may be others

    def leave(self) -> None:
        for asker in _ROUNDS:
            self.desk.jobs.stop(asker)
        self.search.rest()

    def _tell(
        self, label: Label, between: str, words: list[str], asker: str, work: Callable[[Progress], list[str]]
    ) -> None:
        """Says what is known at once, and what rounds do as soon as they have been walked."""
        label.setText(between.join(words) or tr("Working this out …"))
        self.desk.jobs.ask(asker, work, lambda more: label.setText(between.join([*words, *more])), pause=_PAUSE_MS)

    def _take(self, found: Drawn) -> None:
        self._ended = True
        self.view.show_loops(found)

    def _failed(self, error: BaseException) -> None:
        if not isinstance(error, WaltzmarkError):
            raise error
        self.said.setText(explained(error))

    @property
    def loop(self) -> Loop | None:
        """The loop that is chosen."""
        return self.view.loops[self.view.at] if 0 <= self.view.at < len(self.view.loops) else None

    def _say(self, _number: int = 0) -> None:
        loop, form, trace = self.loop, self.document.form, self.document.trace
        self.make.setEnabled(loop is not None)
        if loop is None:
            self.desk.jobs.stop("home rounds")
            self.said.setText(tr("No run of postures ends the way it begins.") if self._ended else "")
            return
        lines = loop_lines(form, trace, loop, self.document.session.say)
        self._tell(self.said, "\n", lines, "home rounds", partial(_loop_rounds, form, trace, loop))

    def take(self) -> None:
        """Opens the chosen loop as a form of its own."""
        if (loop := self.loop) is not None and self._of is self.document.trace:  # else they are those of another form
            drill = drill_of(self.document.form, self.document.trace, loop)
            self.desk.begin_beside(drill, tr("make a drill of {title}", title=self.document.title))
