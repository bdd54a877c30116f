"""Rounds and loops: drills hidden in the form, each as a small drawing of its way."""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import partial

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF, QTransform
from PySide6.QtWidgets import QComboBox, QPushButton, QVBoxLayout, QWidget

from waltzmark.core.base.angles import rotated
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import Progress
from waltzmark.core.form.form import Form
from waltzmark.core.home.drill import drill_of
from waltzmark.core.home.loops import Loop, loops_of
from waltzmark.core.home.rounds import home_after, rounds_in_room, rounds_of
from waltzmark.core.home.words import carries, comes_home, loop_lines, stays
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.document import Document
from waltzmark.desktop.home.chain import draw_arrow
from waltzmark.desktop.painter.tracks import polygon
from waltzmark.desktop.plain import Label, heading, set_tip
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.waiting import Waiting

__all__ = ["LoopsFace", "LoopsView"]

_PAUSE_MS = 200
_COLUMNS = 4
_ROUNDS = ("home rounds", "home form rounds")


def _searched(form: Form, most: int, told: Progress) -> tuple[Loop, ...]:
    return loops_of(walk(form), most, progress=told)


def way_of(trace: Trace, loop: Loop) -> list[Floats]:
    """The way of the feet's middle in each posture of a loop, (k, 2) metres in the frame of its beginning."""
    parts: list[Floats] = []
    x = y = heading = 0.0
    for index in loop.postures:
        first, last = int(trace.starts[index + 1]) - 1, int(trace.starts[index + 2])
        entry = trace.passages[index + 1].entry
        own = trace.midpoints[first:last] - trace.midpoints[first]
        angle = math.radians(heading - entry.torso)
        turn = np.array([[math.cos(angle), -math.sin(angle)], [math.sin(angle), math.cos(angle)]])
        parts.append(own @ turn + (x, y))
        exit_ = trace.passages[index + 1].exit
        dx, dy = exit_.midpoint[0] - entry.midpoint[0], exit_.midpoint[1] - entry.midpoint[1]
        dx, dy = rotated(dx, dy, heading - entry.torso)
        x, y, heading = x + dx, y + dy, heading + exit_.torso - entry.torso
    return parts


class LoopsView(QWidget):
    """The loops side by side; the arrow keys and a click choose one, Enter takes it."""

    chosen = Signal(int)
    wanted = Signal()

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__()
        self._document, self._theme = document, theme
        self.loops: tuple[Loop, ...] = ()
        self.at = -1
        self._ways: list[list[Floats]] = []
        self.setAccessibleName("Loops as small drawings")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumSize(320, 240)

    def sizeHint(self) -> QSize:
        return QSize(900, 560)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def show_loops(self, loops: tuple[Loop, ...]) -> None:
        """Shows other loops."""
        self.loops = loops
        self._ways = [way_of(self._document.trace, loop) for loop in loops]
        self.choose(0 if loops else -1)

    def choose(self, number: int) -> None:
        """Chooses a loop."""
        self.at = min(max(number, 0), len(self.loops) - 1) if self.loops else -1
        self.chosen.emit(self.at)
        self.update()

    def _card(self, number: int) -> QRectF:
        rows = max(math.ceil(max(len(self.loops), 1) / _COLUMNS), 2)
        wide, high = self.width() / _COLUMNS, self.height() / rows
        return QRectF(number % _COLUMNS * wide, number // _COLUMNS * high, wide, high).adjusted(5, 5, -5, -5)

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            theme = self._theme
            painter.fillRect(self.rect(), theme.color("outside"))
            if not self.loops:
                painter.setPen(theme.color("faint"))
                painter.setFont(font(11.0))
                painter.drawText(self.rect(), Qt.AlignmentFlag.AlignCenter, "No loop is known yet.")
            for number, loop in enumerate(self.loops):
                self._paint_loop(painter, self._card(number), number, loop)

    def _paint_loop(self, painter: QPainter, card: QRectF, number: int, loop: Loop) -> None:
        theme, document = self._theme, self._document
        chosen = number == self.at
        painter.setPen(QPen(theme.color("centre" if chosen else "rule"), 2.4 if chosen else 1.0))
        painter.setBrush(theme.color("board"))
        painter.drawRoundedRect(card, 5.0, 5.0)
        ways = self._ways[number]
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
        head = f"{len(loop.postures)} postures, {loop.beats:g} beats"
        painter.drawText(card.adjusted(8, 4, -8, 0), Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft, head)
        painter.setFont(font(9.0))
        first, last = loop.postures[0] + 1, loop.postures[-1] + 1
        out = ", ".join(str(each + 1) for each in loop.left_out)
        words = f"{first} to {last}" + (f", without {out}" if out else "")
        words += f"\n{document.say.length(loop.away)} away a round"
        words += f", turned {loop.turn:+z.0f}°" if abs(loop.turn) >= 0.5 else ""
        painter.drawText(card.adjusted(8, 0, -8, -5), Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignLeft, words)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for number in range(len(self.loops)):
            if self._card(number).contains(event.position()):
                self.choose(number)

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


def _stayed(form: Form, trace: Trace, _told: Progress) -> int:
    """For how many rounds a form stays in the room."""
    return rounds_in_room(form, trace)


def _loop_stayed(form: Form, trace: Trace, loop: Loop, told: Progress) -> int:
    """For how many rounds the drill of a loop, begun at the start mark, stays in the room."""
    drill = drill_of(form, trace, loop)
    return _stayed(drill, walk(drill), told)


class LoopsFace(QWidget):
    """What a round does, and the loop that is chosen; a button makes it a form of its own."""

    name = "Rounds and loops"
    purpose = "The form walked round and round, and the drills hidden in it"

    def __init__(self, desk: Desk, view: LoopsView) -> None:
        super().__init__()
        self.desk, self.document, self.view = desk, desk.document, view
        self._asked: object = None
        self._ended = False  # the search for loops
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 14, 10)
        column.setSpacing(8)
        column.addWidget(heading("The form, round and round"))
        self.rounds = Label()
        self.rounds.setWordWrap(True)
        column.addWidget(self.rounds)
        column.addWidget(heading("Loops hidden in it"))
        self.most = QComboBox()
        self.most.setAccessibleName("How many postures may be left out")
        self.most.addItems(["Nothing left out", "Up to one left out", "Up to two left out", "Up to three left out"])
        self.most.setCurrentIndex(3)
        self.most.activated.connect(lambda _at: self.refresh())
        column.addWidget(self.most)
        self.said = Label()
        self.said.setWordWrap(True)
        self.said.setAlignment(Qt.AlignmentFlag.AlignTop)
        column.addWidget(self.said, 1)
        self.make = QPushButton("Make it a form of its own")
        set_tip(self.make, "Opens the loop in a window of its own, with bridges where its joins need one  (Enter)")
        self.make.clicked.connect(lambda: self.take())
        column.addWidget(self.make)
        self.waiting = Waiting()
        self.waiting.button.clicked.connect(self._stop)
        column.addWidget(self.waiting)
        view.chosen.connect(self._say)
        view.wanted.connect(self.take)

    def refresh(self) -> None:
        """Shows the document as it is now, and looks for its loops."""
        form, trace, say = self.document.form, self.document.trace, self.document.say
        found = rounds_of(form, trace)
        words = [carries(math.hypot(*found.drift), found.turn, say), comes_home(found.home_after)]
        self._tell(self.rounds, " ", words, "home form rounds", partial(_stayed, form, trace), found.home_after)
        asked = (form.postures, form.body, form.opening, form.school, form.torso, self.most.currentIndex())
        if asked == self._asked:
            self._say()  # home, the room or the units may be others
            return
        self._asked, self._ended = asked, False
        self.view.show_loops(())
        self.desk.jobs.ask(
            "home loops", partial(_searched, form, self.most.currentIndex()), self._take, pause=_PAUSE_MS, process=True,
            failed=self._failed, progress=lambda share, words: self.waiting.tell(True, share, words),
        )  # fmt: skip
        self.waiting.tell(True)

    def rest(self) -> None:
        """The form changes where this is not seen: what is still looked for is not wanted any more."""
        for asker in _ROUNDS:
            self.desk.jobs.stop(asker)
        if self.desk.jobs.busy("home loops"):
            self._stop()
            self._asked = None

    def _tell(
        self, label: Label, between: str, words: list[str], asker: str, work: Callable[[Progress], int],
        after: int | None,
    ) -> None:  # fmt: skip
        """Says what is known at once, and how long it stays in the room as soon as that is worked out."""
        label.setText(between.join(words))
        self.desk.jobs.stop(asker)
        if self.document.form.room is not None:
            self.desk.jobs.ask(
                asker, work, lambda rounds: label.setText(between.join([*words, stays(rounds, after)])), pause=_PAUSE_MS
            )

    def _take(self, loops: tuple[Loop, ...]) -> None:
        self._ended = True
        self.view.show_loops(loops)
        self.waiting.tell(False)

    def _failed(self, error: BaseException) -> None:
        self.waiting.tell(False)
        if not isinstance(error, WaltzmarkError):
            raise error
        self.said.setText(str(error))

    def _stop(self) -> None:
        self.desk.jobs.stop("home loops")
        self.waiting.tell(False)

    @property
    def loop(self) -> Loop | None:
        """The loop that is chosen."""
        return self.view.loops[self.view.at] if 0 <= self.view.at < len(self.view.loops) else None

    def _say(self, _number: int = 0) -> None:
        loop, form, trace = self.loop, self.document.form, self.document.trace
        self.make.setEnabled(loop is not None)
        if loop is None:
            self.desk.jobs.stop("home rounds")
            self.said.setText("No run of its postures ends as it begins." if self._ended else "")
            return
        lines = loop_lines(form, trace, loop, self.document.say)
        after = home_after(loop.drift, loop.turn, form.home.within, form.home.turn)
        self._tell(self.said, "\n", lines, "home rounds", partial(_loop_stayed, form, trace, loop), after)

    def take(self) -> None:
        """Opens the chosen loop as a form of its own."""
        if (loop := self.loop) is not None:
            drill = drill_of(self.document.form, self.document.trace, loop)
            self.desk.begin_beside(drill, f"make a drill of {self.document.title}")
