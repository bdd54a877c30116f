"""A class: several walkers of the form at once, each a little early or late."""

from __future__ import annotations

import math
from functools import partial

from PySide6.QtCore import QPointF
from PySide6.QtGui import QPainter, QTransform
from PySide6.QtWidgets import QCheckBox, QGridLayout, QHBoxLayout, QPushButton, QWidget

from waltzmark.core.base.progress import Progress
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Room, Start
from waltzmark.core.room.group import GAP, Group, arranged, greatest
from waltzmark.core.room.offsets import BEATS_OFF
from waltzmark.core.walk.motion import pose_between
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.standing import draw_between, draw_walker, to_floor
from waltzmark.desktop.plain import Label, set_tip, wrapped
from waltzmark.desktop.room.face import RoomFace
from waltzmark.desktop.room.search import RoomSearch
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.widgets.lengths import LengthField, named
from waltzmark.desktop.widgets.parts import push_button
from waltzmark.desktop.widgets.search import Search
from waltzmark.words.language import ntr, number, tr

__all__ = ["GroupFace"]


def _searched(form: Form, n: int | None, heading: float | None, gap: float, off: float, told: Progress) -> Group | None:
    assert form.room is not None
    trace = walk(form)
    if n is None:
        return greatest(trace, form.room, heading, gap, off, told)
    return arranged(trace, form.room, n, heading, gap, off, told)


class GroupFace(RoomFace):
    """How many, how far apart; the layout on the plan, walking with the playhead."""

    name = tr("Class")
    purpose = tr("How many people can walk the form together, and where each stands")

    def __init__(self, desk: Desk, search: RoomSearch) -> None:
        super().__init__(desk, search)
        self.group: Group | None = None
        self._for: object = None  # what it was worked out for
        self.heading(tr("How many people"))
        grid = QGridLayout()
        self.n = number_field(tr("Walkers"), 1, 200, 0, 84)
        self.n.setValue(4)
        self.gap = named(LengthField(self.document, tr("Minimum distance")), lambda _: None)
        self.gap.show_length(GAP)
        self.off = number_field(tr("Early or late"), 0.0, 16.0, 1, 84)
        self.off.setSuffix(" " + tr("beats"))
        self.off.setValue(BEATS_OFF)
        self.off.setFixedWidth(100)
        fields: tuple[tuple[str, QWidget], ...] = (
            (tr("Walkers"), self.n),
            (tr("Minimum distance"), self.gap),
            (tr("Each early or late by up to"), self.off),
        )
        for row, (words, field) in enumerate(fields):
            grid.addWidget(Label(words), row, 0)
            grid.addWidget(field, row, 1)
        self.same = QCheckBox(tr("Everyone keeps the form’s facing"))
        set_tip(self.same, tr("When off, headings along the walls and floor lines are tried too"))
        self.same.setChecked(True)
        grid.addWidget(self.same, len(fields), 0, 1, 2)
        self.column.addLayout(grid)
        row_ = QHBoxLayout()
        self.place = QPushButton(tr("Place them"))
        self.most = QPushButton(tr("Fit as many as possible"))
        self.place.clicked.connect(safely(lambda: self.search_for(round(self.n.value()))))
        self.most.clicked.connect(safely(lambda: self.search_for(None)))
        row_.addWidget(self.place)
        row_.addWidget(self.most)
        self.column.addLayout(row_)
        self.placing = Search(desk.jobs, "room class", pause=0)
        self.placing.stopped.connect(safely(self._say_stopped))
        self.column.addWidget(self.placing)
        self.said = wrapped(tr("Nobody has been placed yet."), 10.5)
        self.column.addWidget(self.said)
        self.tight = push_button(tr("Go to the closest moment"), self.go_to_tightest)
        self.tight.hide()
        self.column.addWidget(self.tight)
        caution = wrapped(
            tr(
                "Someone always steps earlier, later or wider than planned. With swords, sticks or "
                "fans, set the length held in Ready and leave more room."
            ),
            faint=True,
        )
        self.column.addStretch(1)
        self.column.addWidget(caution)

    def refresh(self) -> None:
        if self.group is not None and self._for != self._asked:
            self.group = None
            self.said.setText(tr("The form or the room has changed. Place them again."))
            self.tight.hide()
        self.drawn.emit()

    @property
    def _asked(self) -> object:
        form = self.document.form
        return form.postures, form.body, form.opening, form.room

    def search_for(self, n: int | None) -> None:
        """Looks for a layout of *n*, or of as many as there is room for."""
        if self.document.form.room is None:
            return
        heading = self.room.start.heading if self.same.isChecked() else None
        asked = self._asked

        def take(group: Group | None) -> None:
            self._for = asked
            self._take(group, n)

        work = partial(_searched, self.document.form, n, heading, self.gap.metres, self.off.value())
        self.placing.forget()
        self.placing.ask(asked, work, take)
        self.said.setText(tr("Trying rows and columns …"))

    def leave(self) -> None:
        if self.placing.busy:
            self.placing.rest()
            self._say_stopped()

    def _say_stopped(self) -> None:
        self.said.setText(tr("Stopped."))

    def _take(self, group: Group | None, n: int | None) -> None:
        self.group = group
        if group is None:
            many = tr("{n} walkers", n=n) if n != 1 else tr("one walker")
            self.said.setText(
                tr("No arrangement of {many} fits this room.", many=many)
                if n
                else tr("Not even one person fits this room.")
            )
        else:
            words = [
                tr("{walkers} walkers fit.", walkers=len(group.walkers))
                if len(group.walkers) != 1
                else tr("One walker fits.")
            ]
            if math.isfinite(group.gap):
                words.append(self._closest(group))
            teacher = (
                tr("The teacher’s place is marked T.")
                if group.teacher
                else tr("There is no room for a teacher in front.")
            )
            self.said.setText("\n".join([*words, teacher]))
        self.tight.setVisible(group is not None and math.isfinite(group.gap))
        self.drawn.emit()

    def _closest(self, group: Group) -> str:
        """Who come nearest to each other, and when."""
        (a, b), lag = group.pair, round(group.lag, 2)
        said = {
            "a": a + 1,
            "b": b + 1,
            "length": self.document.session.say.length(group.gap),
            "beat": number(group.beat, 0),
        }
        if not lag:
            return tr("The closest are walkers {a} and {b}: {length} apart at beat {beat}.", **said)
        if lag > 0:
            off = ntr("{n} beat ahead", "{n} beats ahead", lag)
        else:
            off = ntr("{n} beat behind", "{n} beats behind", -lag)
        return tr(
            "The closest are walkers {a} and {b}: {length} apart at beat {beat}, when walker {b} is {off}.",
            **said,
            off=off,
        )

    def go_to_tightest(self) -> None:
        """Goes to the beat at which two come nearest."""
        if self.group is not None and math.isfinite(self.group.gap):
            self.document.session.go(self._position(self.group.beat))

    def _position(self, beat: float) -> float:
        """The position of the playhead at a beat."""
        beats = self.document.trace.beats.copy()
        beats[0] = 0.0
        at = 0.0
        for row in range(1, len(beats)):
            if beat <= at + beats[row] + 1e-9:
                return row - 1 + max(beat - at, 0.0) / max(float(beats[row]), 1e-9)
            at += float(beats[row])
        return float(len(beats) - 1)

    def _beat(self, position: float) -> float:
        beats = self.document.trace.beats
        row = math.ceil(position - 1e-9)
        before = float(beats[1:row].sum()) if row > 0 else 0.0
        return before + (position - (row - 1)) * float(beats[row]) if row > 0 else 0.0

    def paint(self, painter: QPainter, frame: QTransform) -> None:
        document, theme = self.document, self.desk.theme
        trace, group = document.trace, self.group
        room: Room = self.room
        walkers: tuple[Start, ...] = group.walkers if group is not None else (room.start,)
        now = document.session.pose
        for nth, start in enumerate(walkers, 1):
            floor = to_floor(start, frame)
            draw_walker(painter, floor, trace.body, now, theme)
            if group is not None:
                draw_tag(painter, floor.map(QPointF(0.0, 0.0)) + QPointF(0.0, 26.0), str(nth), theme)
        if group is None:
            return
        if group.teacher is not None:
            floor = to_floor(group.teacher, frame)
            draw_walker(painter, floor, trace.body, now, theme)
            draw_tag(painter, floor.map(QPointF(0.0, 0.0)) + QPointF(0.0, 26.0), "T", theme, "centre")
        position = document.session.position
        if math.isfinite(group.gap) and abs(self._beat(position) - group.beat) < 0.51:
            self._paint_pair(painter, frame, group)

    def _paint_pair(self, painter: QPainter, frame: QTransform, group: Group) -> None:
        """The two that come nearest, the second as far ahead or behind as it may be."""
        trace, theme = self.document.trace, self.desk.theme
        other = group.walkers[group.pair[1]]
        position = self._position(max(group.beat + group.lag, 0.0))
        row = math.ceil(position - 1e-9)
        pose = pose_between(trace, row, 1.0 - (row - position))
        floor = to_floor(other, frame)
        painter.setOpacity(0.55)
        draw_walker(painter, floor, trace.body, pose, theme)
        painter.setOpacity(1.0)
        words = tr("{length} minimum", length=self.document.session.say.length(group.gap))
        draw_between(painter, frame, *group.points, words, group.gap >= group.wanted, theme)
