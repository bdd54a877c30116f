"""Where to stand: the start under the hand, the best starts, and what would make it fit."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QImage, QPainter, QTransform
from PySide6.QtWidgets import (
    QDoubleSpinBox,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QWidget,
)

from waltzmark.core.answers.answers import room_answer
from waltzmark.core.base.angles import normal
from waltzmark.core.base.records import replace
from waltzmark.core.form.room import Start
from waltzmark.core.room.breaks import parts_of, start_at
from waltzmark.core.room.changes import Change
from waltzmark.core.room.changes import here as clearance_here
from waltzmark.core.room.clearance import Clearance, RoomCheck, clearance_at, name_of
from waltzmark.core.room.shape import to_supports
from waltzmark.core.room.starts import HEADINGS, Standing
from waltzmark.core.room.things import called
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.painter.standing import (
    arm_length,
    draw_between,
    draw_cross,
    draw_region,
    draw_rose,
    draw_swept,
    draw_walker,
    region_image,
    to_floor,
)
from waltzmark.desktop.plain import faint, set_tip, wrapped
from waltzmark.desktop.room.face import RoomFace
from waltzmark.desktop.room.preview import SweptParts, paint_preview, tag_preview
from waltzmark.desktop.room.search import RoomSearch
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.widgets.lengths import LengthField
from waltzmark.desktop.widgets.offers import OfferList
from waltzmark.desktop.widgets.parts import push_button
from waltzmark.desktop.widgets.waiting import Waiting
from waltzmark.words.answers import where
from waltzmark.words.figures import Figures
from waltzmark.words.language import listed, tr
from waltzmark.words.room import change_text
from waltzmark.words.rules import graver_title
from waltzmark.words.sentences import sentence

__all__ = ["PlaceFace"]

_NEAR = 12.0  # pixels a hand may miss by


class PlaceFace(RoomFace):
    """The start mark under the hand; what is known of starts and changes."""

    name = tr("Place")
    purpose = tr("Where to stand, which way to face, and what to change if it does not fit")
    legend = tr(
        "Drag the mark or turn its knob. Green: where the mark can go with this facing. The "
        "ring shows the clearance for each heading."
    )

    def __init__(self, desk: Desk, search: RoomSearch) -> None:
        super().__init__(desk, search)
        self.start = Start()  # shown: the document's, or that of a hand
        self.near: Clearance | None = None
        self.ghost: Standing | Change | None = None
        self._grip = ""
        self._from = QPointF()
        self._parts = SweptParts()
        self._image: tuple[object, QImage] | None = None
        self.heading(tr("Position of the start mark"))
        self._fields()
        self.verdict = wrapped(points=10.5)
        self.verdict.setMinimumHeight(3 * self.verdict.fontMetrics().lineSpacing())
        self.verdict.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.column.addWidget(self.verdict)
        row = QHBoxLayout()
        row.setSpacing(6)
        for act in ("tightest", "best here"):
            row.addWidget(_button(desk, act))
        self.column.addLayout(row)
        self.heading(tr("Best starts"))
        self.starts = OfferList(tr("Best starts"))
        self.column.addWidget(self.starts, 3)
        self.change_heading = self.heading(tr("Ways to make it fit"))
        self.changes = OfferList(tr("Changes that make it fit"))
        self.column.addWidget(self.changes, 4)
        self.apply = QPushButton(tr("Stand here"))
        self.apply.setEnabled(False)
        set_tip(self.apply, tr("Applies the preview, as one step you can undo  (Enter)"))
        self.column.addWidget(self.apply)
        self.waiting = Waiting(tr("Search again"))
        self.waiting.button.clicked.connect(safely(self._stop))
        self.column.addWidget(self.waiting)
        for offers in (self.starts, self.changes):
            offers.currentRowChanged.connect(safely(lambda _row, offers=offers: self._touch(offers)))
            offers.itemActivated.connect(safely(lambda _item: self.take()))
        self.apply.clicked.connect(safely(lambda: self.take()))
        search.grounded.connect(safely(self._grounded))
        search.mapped.connect(self.drawn.emit)
        search.advised.connect(safely(self._show_advice))
        search.told.connect(safely(self._tell))

    def _fields(self) -> None:
        grid = QGridLayout()
        grid.setHorizontalSpacing(8)
        self.across, self.along = (
            LengthField(self.document, words) for words in (tr("From the left"), tr("From the bottom"))
        )
        self.across.changed.connect(safely(lambda v: self._typed(replace(self.start, x=v))))
        self.along.changed.connect(safely(lambda v: self._typed(replace(self.start, y=v))))
        self.turn: QDoubleSpinBox = number_field(tr("Direction of 12 o’clock"), -360.0, 720.0, 0, width=84)
        self.turn.setSuffix("°")
        self.turn.setWrapping(True)
        self.turn.valueChanged.connect(safely(self._turned))
        fields: tuple[tuple[str, QWidget], ...] = (
            (tr("from the left"), self.across),
            (tr("from the bottom"), self.along),
            (tr("12 turned"), self.turn),
        )
        for column, (words, field) in enumerate(fields):
            label = faint(words)
            grid.addWidget(label, 0, column, Qt.AlignmentFlag.AlignLeft)
            grid.addWidget(field, 1, column, Qt.AlignmentFlag.AlignLeft)
        self.column.addLayout(grid)

    # What is shown.

    def shown_now(self) -> None:
        self.search.look()

    def leave(self) -> None:
        self.search.rest()

    def refresh(self) -> None:
        if self.document.form.room is None:
            return
        self.ghost = None
        self.starts.setCurrentRow(-1)
        self.changes.setCurrentRow(-1)
        self._show(self.room.start)
        self._show_advice()

    def _show(self, start: Start) -> None:
        """Shows a start with its clearance."""
        self.start = start
        self.across.show_length(start.x)
        self.along.show_length(start.y)
        self.turn.blockSignals(True)
        self.turn.setValue(start.heading % 360.0)
        self.turn.blockSignals(False)
        self.near = self._clearance(start)
        self._say()
        self.search.ask_map(start.heading)
        self.drawn.emit()

    def _clearance(self, start: Start) -> Clearance | None:
        """The exact clearance, as soon as the sweep is ready to be moved about."""
        ground = self.search.ground
        if self.room.breaks and start == self.room.start:
            return clearance_here(self.document.form, self.document.trace)
        if ground is None:
            return None
        return clearance_at(ground.starts.sweep, self.room, start)

    def _grounded(self) -> None:
        if self.document.form.room is not None:
            self._show(self.start)

    def _say(self) -> None:
        near, say = self.near, self.document.session.say
        if near is None:
            self.verdict.setText(tr("Working this out …"))
            return
        check = RoomCheck(near.fits, near.clearance, near.wanted, name_of(self.room, near), near.row, near.place)
        words = sentence(room_answer(self.document.form, self.document.trace, check).message, say)
        found = to_supports(self.document.trace, self.room.begun_at(self.start))
        every = [
            tr("{place}: {thing} is {away} away", place=self._count(row), thing=_called(name), away=say.length(away))
            for row, name, away in found
        ]
        set_tip(self.verdict, "\n".join([tr("To hold on to while on one leg:"), *every]) if every else "")
        if found:
            row, name, away = max(found, key=lambda each: each[2])
            fields = {"thing": _called(name), "away": say.length(away), "place": self._count(row)}
            words += "\n" + tr("On one leg, {thing} is at most {away} away ({place}). It must not tip.", **fields)
        self.verdict.setText(words)

    def _count(self, row: int) -> str:
        trace = self.document.trace
        return where(self.document.form, trace.posture(row), int(trace.counts[row]))

    def _where(self, near: Clearance) -> str:
        return tr(
            "{sentence}, in {count}",
            sentence=sentence(name_of(self.room, near), self.document.session.say),
            count=self._count(near.row),
        )

    def _show_advice(self) -> None:
        known, say = self.search.advice, self.document.session.say
        if self.document.form.room is None:
            return
        starts = known.starts if known else ()
        self.starts.show_lines([self._start_text(each) for each in starts])
        changes = known.changes if known else ()
        self.changes.show_lines([_words(each, say) for each in changes])
        fits = self.near.fits if self.near is not None else True
        for part in (self.change_heading, self.changes):
            part.setVisible(bool(changes) or not fits)
        self._tell(1.0 if not self.search.searching else 0.0, "")
        self.drawn.emit()

    def _start_text(self, standing: Standing) -> str:
        """What is known of a start, and what is nearest to it."""
        say, near = self.document.session.say, standing.near
        clear = say.length(max(near.clearance, 0.0))
        fields = {"clear": clear, "turn": f"{standing.start.heading:.0f}°"}
        if near.fits:
            head = tr("{clear} clear, turned {turn}", **fields)
        elif near.clearance >= 0:
            head = tr("{clear}, too close, turned {turn}", **fields)
        else:
            head = tr("does not fit, turned {turn}", **fields)
        if standing.suits is not None:
            head = tr("{start}, {suits}", start=head, suits=sentence(standing.suits, say))
        return head + "\n" + tr("nearest: {place}", place=self._where(near))

    def _tell(self, share: float, doing: str) -> None:
        self.waiting.tell(self.search.searching, share, doing)

    def _stop(self) -> None:
        if self.search.searching:
            self.search.stop()
        else:
            self.search.search_again()
        self._tell(0.0, "")

    # What is offered.

    def _touch(self, listed: OfferList) -> None:
        """Previews what is touched."""
        known, row = self.search.advice, listed.currentRow()
        self.ghost = None
        if known is not None and row >= 0:
            other = self.changes if listed is self.starts else self.starts
            other.blockSignals(True)
            other.setCurrentRow(-1)
            other.blockSignals(False)
            self.ghost = known.starts[row] if listed is self.starts else known.changes[row]
        self.apply.setEnabled(self.ghost is not None)
        self.apply.setText(tr("Make this change") if isinstance(self.ghost, Change) else tr("Stand here"))
        self.drawn.emit()

    def take(self) -> None:
        """Takes what is previewed into the document."""
        ghost = self.ghost
        if isinstance(ghost, Standing):
            room = replace(self.room.begun_at(ghost.start), breaks=())
            self.editor.set_room(
                room,
                tr(
                    "stand where there is {length} of clearance",
                    length=self.document.session.say.length(ghost.near.clearance),
                ),
            )
        elif isinstance(ghost, Change):
            self.editor.take_form(ghost.form, sentence(ghost.does, self.document.session.say))

    def best_here(self) -> None:
        """Stands where there is most room at this heading."""
        if self.search.ground is not None:
            starts = self.search.ground.starts
            x, y, _ = starts.best_of([self.start.heading])[0].tolist()
            best, _ = starts.polished(Start(x, y, self.start.heading), turns=False)
            self.editor.set_room(self.room.begun_at(best), tr("stand at the best place for this facing"))

    def go_to_tightest(self) -> None:
        """Goes to the count that comes nearest to something."""
        if self.near is not None:
            self.document.session.go(float(self.near.row))

    # Hands.

    def _typed(self, start: Start) -> None:
        if self.document.form.room is None:
            return  # a field is left after its room has gone
        self.desk.asking.attempt(lambda: self.editor.set_room(self.room.begun_at(start), tr("move the start"), "start"))

    def _turned(self, degrees: float) -> None:
        if self.document.form.room is not None:
            self._typed(replace(self.start, heading=normal(degrees)))

    def _grip_at(self, at: QPointF, near: float) -> str:
        floor = to_floor(self.start, QTransform())
        knob, cross = floor.map(QPointF(0.0, arm_length(_NEAR / near))), floor.map(QPointF(0.0, 0.0))
        if _apart(at, knob) <= near:
            return "knob"
        return "cross" if _apart(at, cross) <= max(1.4 * near, 0.1) else ""

    def over(self, at: QPointF, near: float) -> bool:
        return bool(self._grip_at(at, near))

    def press(self, at: QPointF, near: float) -> bool:
        self._grip, self._from = self._grip_at(at, near), at
        return bool(self._grip)

    def drag(self, at: QPointF, free: bool) -> None:
        start = self.room.start
        if self._grip == "knob":
            heading = float(np.degrees(np.arctan2(at.x() - self.start.x, at.y() - self.start.y)))
            start = replace(self.start, heading=normal(heading if free else round(heading)))
        elif self._grip == "cross":
            moved = at - self._from
            x, y = start.x + moved.x(), start.y + moved.y()
            start = replace(self.start, x=round(x, 4 if free else 2), y=round(y, 4 if free else 2))
        self._show(start)

    def drop(self, kept: bool) -> None:
        self._grip = ""
        if kept and self.start != self.room.start:
            turned = self.start.heading != self.room.start.heading
            self.editor.set_room(
                self.room.begun_at(self.start), tr("turn the start") if turned else tr("move the start")
            )
        else:
            self._show(self.room.start)

    def nudge(self, dx: float, dy: float, turn: float) -> None:
        """Moves the start by centimetres, or turns it, by keys."""
        start = self.room.start
        moved = Start(round(start.x + dx, 4), round(start.y + dy, 4), normal(start.heading + turn))
        self.editor.set_room(self.room.begun_at(moved), tr("turn the start") if turn else tr("move the start"), "nudge")

    # Drawing.

    def extent(self) -> list[QPointF]:
        if self.search.ground is None:
            return []
        floor = to_floor(self.start, QTransform())
        return [floor.map(QPointF(*point)) for ring in self.search.ground.rings for point in ring.tolist()]

    def paint_under(self, painter: QPainter, frame: QTransform) -> None:
        theme, search = self.desk.theme, self.search
        if search.map is not None and search.fine is not None and abs(search.map.heading - self.start.heading) < 1e-6:
            if self._image is None or self._image[0] != (id(search.map), theme.name):
                self._image = (id(search.map), theme.name), region_image(search.fine, theme)
            step = search.map.step * search.map.spare.shape[1] / search.fine.shape[1]
            low = search.map.low - (search.map.step - step) / 2.0
            draw_region(painter, frame, self._image[1], (float(low[0]), float(low[1])), step)
        known = search.advice
        if known is not None and known.rose is not None:
            draw_rose(painter, frame, self.start, HEADINGS, known.rose[:, 2], self.room.clearance, theme)

    def paint(self, painter: QPainter, frame: QTransform) -> None:
        theme, document = self.desk.theme, self.document
        room = self.room.begun_at(self.start)
        strength = 0.16 if self.ghost is None else 0.05
        if room.breaks:
            for start, rings in self._parts.of("here", replace(document.form, room=room), document.trace):
                draw_swept(painter, to_floor(start, frame), rings, theme, strength=strength)
        elif self.search.ground is not None:
            draw_swept(painter, to_floor(self.start, frame), self.search.ground.rings, theme, strength=strength)
        for part in parts_of(document.trace, room)[1:]:
            draw_cross(painter, frame, part.mark, theme, ghost=True)
        if self.ghost is not None:
            paint_preview(painter, frame, self.ghost, document.form, self._parts, theme)
        at = start_at(document.trace, room, document.session.row)
        draw_walker(painter, to_floor(at, frame), document.trace.body, document.session.pose, theme)
        draw_cross(painter, frame, self.start, theme)
        near = self.near
        if near is not None:
            far = document.session.say.length(abs(near.clearance))
            words = far if near.clearance >= 0 else tr("{far} too far", far=far)
            draw_between(painter, frame, near.point, near.place, words, near.fits, theme)
        if self.ghost is not None:
            tag_preview(painter, frame, self.ghost, self.start, document.session.say, theme)


def _called(name: str) -> str:
    return sentence(called(name))


def _words(change: Change, say: Figures) -> str:
    brings = (
        " " + tr("It would add: {listed}.", listed=listed(map(graver_title, change.brings[:2])))
        if change.brings
        else ""
    )
    return f"{change_text(change, say)}{brings}"


def _apart(one: QPointF, other: QPointF) -> float:
    return float(np.hypot(one.x() - other.x(), one.y() - other.y()))


def _button(desk: Desk, act: str) -> QPushButton:
    """A button for an act of the stage."""
    action = desk.book[act]
    return push_button(desk.book.act(act).plain, action.trigger, action.toolTip())
