"""Recall: the count is hidden; the hand places feet, weight and chest, and is told how far off it was."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPen, QTransform
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSlider

from waltzmark.core.base.angles import normal
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.pose import Pose
from waltzmark.core.practice.entries import Entry, now, side_of
from waltzmark.core.practice.recall import Answer, Card, answered, cards_of, due, missed, quality, reviewed
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.painter.marks import draw_tag, draw_torso
from waltzmark.desktop.painter.scale_bar import draw_legend, draw_scale_bar
from waltzmark.desktop.painter.soles import draw_sole, draw_sole_outline, foot_transform, outline_path
from waltzmark.desktop.plain import Label, heading, wrapped
from waltzmark.desktop.practise.face import PractiseFace
from waltzmark.desktop.practise.large import LargeView
from waltzmark.desktop.practise.voice import VoiceChoice
from waltzmark.desktop.speaker import Speaker
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.camera import Camera
from waltzmark.desktop.widgets.plan_view import PlanView
from waltzmark.words.ear import recall_words
from waltzmark.words.language import number, percent, tr

__all__ = ["RecallFace", "RecallFloor"]

_TOE = 0.62  # ahead of this share of the foot a hand turns it
_AROUND = 0.75  # metres shown about the feet
_NUDGE, _TURN = 0.01, 5.0  # what an arrow key moves and turns
_WAYS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}


@guarded
class RecallFloor(PlanView):
    """The pose before the hidden count, and the feet as the hand places them. Drag a foot to move it, its toe to turn
    it; or choose one with Space, move it with the arrow keys, turn it with Shift and them."""

    changed = Signal()
    asked = Signal()  # another count, or its answer

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__(document, theme, tr("Place your feet here"))
        self.row = 0
        self.placed: Pose | None = None
        self.shown = False  # the answer
        self.chosen = Side.LEFT
        self._grip: tuple[Side, bool, QPointF] | None = None

    def ask(self, row: int) -> None:
        """Hides the count of a row and shows the pose before it, for the hand to change; row 0 asks nothing."""
        self.row, self.shown = row, False
        self.placed = self._trace.pose(row - 1) if row > 0 else None
        self._grip = None
        self.fit()
        self.asked.emit()

    @property
    def _trace(self) -> Trace:
        return self._document.trace

    def show_answer(self) -> None:
        """Shows where the count really ends."""
        self.shown = True
        self.update()
        self.asked.emit()

    def put(self, **changes: object) -> None:
        """Changes what is placed."""
        if self.placed is not None and not self.shown:
            self.placed = self.placed._replace(**changes)  # type: ignore[arg-type]
            self.changed.emit()
            self.update()

    def fitted(self, camera: Camera) -> Camera:
        if self.placed is None:
            return camera
        x, y = self._trace.pose(self.row - 1).midpoint
        room = self._document.session.room
        corners = [QPointF(x + dx, y + dy) for dx in (-_AROUND, _AROUND) for dy in (-_AROUND, _AROUND)]
        return Camera(up=-room.start.heading if room is not None else 0.0).fitted(self.area, corners)

    def paint(self, painter: QPainter) -> None:
        theme, document = self._theme, self._document
        if self.placed is None:
            self.paint_words(painter, tr("Press “Ask me” to begin."))
            return
        floor = self.frame
        draw_ground(painter, self.rect().toRectF(), floor, document.session.room, theme)
        trace, sole = self._trace, self._trace.body.sole
        before = trace.pose(self.row - 1)
        for side in SIDES:
            draw_sole_outline(painter, floor, sole, side, before.foot(side), theme, 0.35)
        for side in SIDES:
            foot = self.placed.foot(side)
            draw_sole(painter, floor, sole, side, foot, self.placed.share(side), theme)
            if side is self.chosen and self.hasFocus() and not self.shown:
                at = floor.map(QPointF(foot.x, foot.y))
                painter.setPen(QPen(theme.color("centre"), 1.6, Qt.PenStyle.DotLine))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawEllipse(at, 22.0, 22.0)
        x, y = self.placed.midpoint
        draw_torso(painter, floor, x, y, self.placed.torso, trace.body.shoulder_breadth, theme)
        if self.shown:
            self._paint_answer(painter, floor)
        draw_scale_bar(painter, self.size(), self.camera.scale, document.session.say, theme)
        asked, told = (
            tr("Pale: before the count. Drag the feet to where the count ends."),
            tr("Dashed: where the count really ends."),
        )
        draw_legend(painter, self.size(), told if self.shown else asked, theme)

    def _paint_answer(self, painter: QPainter, floor: QTransform) -> None:
        theme, trace = self._theme, self._trace
        pose, placed = trace.pose(self.row), self.placed
        assert placed is not None
        for side in SIDES:
            foot, mine = pose.foot(side), placed.foot(side)
            draw_sole_outline(painter, floor, trace.body.sole, side, foot, theme, 1.0, True, False)
            apart = math.hypot(foot.x - mine.x, foot.y - mine.y)
            if apart > 0.005:
                a, b = (floor.map(QPointF(each.x, each.y)) for each in (mine, foot))
                painter.setPen(QPen(theme.color("stop"), 2.4))
                painter.drawLine(a, b)
                draw_tag(painter, b + QPointF(34.0, -12.0), self._document.session.say.length(apart), theme, "stop")
        x, y = pose.midpoint
        draw_torso(painter, floor, x, y, pose.torso, trace.body.shoulder_breadth, theme, "ghost")

    # Hands.

    def take(self, event: QMouseEvent) -> bool:
        self.setFocus()
        if self.placed is None or self.shown:
            return False
        floor, sole = self.frame, self._trace.body.sole
        for side in sorted(Side, key=lambda each: each is not self.chosen):
            own, _ = (foot_transform(self.placed.foot(side)) * floor).inverted()
            at = own.map(event.position())
            if outline_path(sole, side).contains(at):
                self.chosen = side
                self._grip = (side, at.y() > _TOE * sole.of(side), self.place(event.position()))
                return True
        return False

    def carry(self, event: QMouseEvent) -> None:
        if self._grip is None or self.placed is None:
            return
        side, toe, start = self._grip
        at = self.place(event.position())
        foot = self.placed.foot(side)
        if toe:
            turned = math.degrees(math.atan2(at.x() - foot.x, at.y() - foot.y))
            made = foot._replace(heading=normal(round(turned)))
        else:
            made = foot._replace(x=foot.x + at.x() - start.x(), y=foot.y + at.y() - start.y())
            self._grip = (side, toe, at)
        self.put(**{side.word: made._replace(contact=Contact.FLAT)})

    def drop(self, kept: bool) -> None:
        self._grip = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        if self.placed is None or self.shown:
            super().keyPressEvent(event)
        elif key == Qt.Key.Key_Space:
            self.chosen = self.chosen.other
            self.update()
        elif key in _WAYS:
            right, ahead = _WAYS[Qt.Key(key)]
            foot = self.placed.foot(self.chosen)
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                made = foot._replace(heading=normal(foot.heading + _TURN * (right or -ahead)))
            else:
                angle = math.radians(self.camera.up)
                dx = right * math.cos(angle) + ahead * math.sin(angle)
                dy = ahead * math.cos(angle) - right * math.sin(angle)
                made = foot._replace(x=foot.x + _NUDGE * dx, y=foot.y + _NUDGE * dy)
            self.put(**{self.chosen.word: made})
        else:
            super().keyPressEvent(event)


class RecallFace(PractiseFace):
    """Asks what is due, measures the answer, and says when it comes again."""

    name = tr("Recall")
    purpose = tr("Place a hidden count from memory; counts you miss come back sooner")

    def __init__(self, desk: Desk, large: LargeView, floor: RecallFloor, speaker: Speaker) -> None:
        super().__init__(desk, large)
        self.speaker = speaker
        self.floor = floor
        self._began = now()
        self.question: tuple[str, int] | None = None
        self.column.addWidget(heading(tr("Where does this count end?")))
        self.asked = wrapped(points=12.0, bold=True)
        self.column.addWidget(self.asked)
        self.weight, self.chest = QSlider(Qt.Orientation.Horizontal), QSlider(Qt.Orientation.Horizontal)
        self.weight.setRange(0, 100)
        self.weight.setValue(50)
        self.chest.setRange(0, 71)
        self.weighed, self.faces = Label(), Label()
        for name, slider, label in ((tr("Weight"), self.weight, self.weighed), (tr("Chest"), self.chest, self.faces)):
            slider.setAccessibleName(name)
            self.column.addWidget(label)
            self.column.addWidget(slider)
        self.weight.setInvertedAppearance(True)  # the left foot's share grows to the left
        self.weight.valueChanged.connect(safely(lambda value: self.floor.put(left_share=value / 100.0)))
        self.chest.valueChanged.connect(safely(lambda value: self.floor.put(torso=5.0 * value)))
        row = QHBoxLayout()
        self.ask, self.answer = QPushButton(tr("Ask me")), QPushButton(tr("Show the answer"))
        self.ask.clicked.connect(safely(lambda: self.begin()))
        self.answer.clicked.connect(safely(lambda: self.show_answer()))
        row.addWidget(self.ask)
        row.addWidget(self.answer)
        self.column.addLayout(row)
        self.said = wrapped()
        self.column.addWidget(self.said)
        self.voice = VoiceChoice(speaker)
        self.column.addWidget(self.voice)
        self.column.addStretch(1)
        self.caution(
            tr(
                "Counts you miss come back sooner (the SM-2 rule): after 1 day, 6 days, then at longer "
                "and longer gaps while you remember; from the start again when you do not."
            )
        )
        floor.changed.connect(safely(self._tell))
        self._tell()

    def refresh(self) -> None:
        form = self.document.form
        if self.question is not None and (
            all(p.id != self.question[0] for p in form.postures) or self.floor.row >= len(self.document.trace)
        ):
            self.question = None
            self.floor.ask(0)
        waiting = self._due()
        words = (
            tr("{waiting} due today.", waiting=len(waiting))
            if waiting
            else tr("Nothing is due today. Well remembered.")
        )
        if self.question is None:
            self.asked.setText(words)
        self.ask.setEnabled(bool(waiting) or self.question is not None)
        self.answer.setEnabled(self.question is not None and not self.floor.shown)
        for slider in (self.weight, self.chest):
            slider.setEnabled(self.question is not None)

    def _entries(self) -> Sequence[Entry]:
        person = self.desk.practice.person
        return [
            each
            for each in self.desk.practice.entries
            if each.form == self.document.form.title and each.person == person and answered(each) is not None
        ]

    def _due(self) -> tuple[tuple[str, int], ...]:
        return due(self.document.trace, cards_of(self._entries()), now().date())

    def begin(self, question: tuple[str, int] | None = None) -> None:
        """Asks what is due next, or a count of one's own choice: posture and number."""
        waiting = [question] if question else [each for each in self._due() if each != self.question]
        if not waiting:
            self.question = None
            self.floor.ask(0)
            self.refresh()
            return
        self.question = waiting[0]
        self._began = now()
        trace = self.document.trace
        row = trace.row_of(*self.question)
        self.document.session.go(float(row - 1))
        self.floor.ask(row)
        pose = trace.pose(row - 1)
        for slider, value in ((self.weight, round(100 * pose.left_share)), (self.chest, round(pose.torso / 5.0) % 72)):
            slider.blockSignals(True)
            slider.setValue(value)
            slider.blockSignals(False)
        title = self.document.form.posture(self.question[0]).title
        self.asked.setText(tr("{title}, count {question}", title=title, question=self.question[1]))
        self.said.setText("")
        self.speaker.speak(recall_words(title, self.question[1]))
        self._tell()
        self.refresh()
        self.floor.setFocus()

    def show_answer(self) -> None:
        """Shows the answer, tells how far it was off, and keeps it."""
        placed = self.floor.placed
        if self.question is None or placed is None or self.floor.shown:
            return
        trace, say, form = self.document.trace, self.document.session.say, self.document.form
        off = missed(trace, self.floor.row, Answer.of(placed))
        q = quality(off)
        known = cards_of(self._entries()).get(self.question)
        self.floor.show_answer()
        posture, count = self.question
        minutes = (now() - self._began).total_seconds() / 60.0
        words = tr(
            "{length} and {degrees}° at the feet, {torso}° at the chest, {percent} of the weight",
            length=say.length(off.cm / 100),
            degrees=number(off.degrees, 0),
            torso=number(off.torso, 0),
            percent=percent(off.percent),
        )
        self.keep(
            Entry(
                now(),
                "recall",
                self.desk.practice.person,
                form.title,
                posture,
                form.posture(posture).title,
                side_of(trace, posture),
                0.0,
                1,
                round(max(minutes, 0.0), 3),
                f"count {count}",
                float(q),
                5.0,
                "of 5",
                "done" if q >= 3 else "missed",
                words,
            )
        )
        self.speaker.speak(recall_words(form.posture(posture).title, count, q))
        card = reviewed(known or Card(posture, count), q, now().date())
        again = tr("tomorrow") if card.interval == 1 else tr("in {interval} days", interval=card.interval)
        self.said.setText(tr("Off by {words}: {q} out of 5. It comes back {again}.", words=words, q=q, again=again))
        self.refresh()

    def _tell(self) -> None:
        placed, say = self.floor.placed, self.document.session.say
        left = 0.5 if placed is None else placed.left_share
        self.weighed.setText(
            tr("Weight: left {left}, right {right}", left=percent(100 * left), right=percent(100 - 100 * left))
        )
        self.faces.setText(tr("Chest faces {toward}", toward=say.toward(0.0 if placed is None else placed.torso)))

    def leave(self) -> None:
        self.question = None
        self.floor.ask(0)
        self.asked.setText("")
