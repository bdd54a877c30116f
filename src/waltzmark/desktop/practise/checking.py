"""The turn check: how far a foot really came round, how long a step was, where the walk ended; and the range that the
book offers to the body."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QAccessible, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QCheckBox, QWidget

from waltzmark.core.base.angles import ahead
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.body.foot import Sole
from waltzmark.core.body.pose import FootPose
from waltzmark.core.home.ledger import check_return
from waltzmark.core.practice.entries import Entry, Kind, Outcome, WhichSide, now
from waltzmark.core.practice.turns import Offer, Way, offered, turn_name
from waltzmark.core.walk.ground import PIVOT, STEP
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.soles import draw_sole, draw_sole_outline
from waltzmark.desktop.plain import heading, wrapped
from waltzmark.desktop.practise.face import PractiseFace
from waltzmark.desktop.practise.large import LargeView
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.fields import number_field, row_of_fields
from waltzmark.desktop.widgets.parts import choice_box, push_button, refill
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.language import N_, number, tr
from waltzmark.words.measures import measure_name
from waltzmark.words.sentences import sentence

__all__ = ["TurnDial", "TurnFace"]

_HIPS: tuple[tuple[Side, Way], ...] = tuple((side, way) for side in SIDES for way in ("in", "out"))

#: What can be measured of a count, by its foot.
_TURNED = (N_("{title} {count}: left foot {turn}°"), N_("{title} {count}: right foot {turn}°"))
_STEPPED = (N_("{title} {count}: left step {length} cm"), N_("{title} {count}: right step {length} cm"))


@guarded
class TurnDial(QWidget):
    """One sole on a protractor: drag its toe to where it came, or turn it with the arrow keys. Beside it the plan. Of a
    length a rule, to be dragged along."""

    role = QAccessible.Role.Dial

    turned = Signal(float)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.side, self.planned, self.measured, self.sign = Side.LEFT, 35.0, 0.0, 1
        self.sole: Sole = Body().sole
        self.rule = False  # a length, centimetres
        self.setAccessibleName(tr("How far it turned"))
        self._telling = Telling(self, self.told)
        self.setMinimumSize(320, 240)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def show_turn(self, side: Side, planned: float, measured: float, sign: int, sole: Sole) -> None:
        """Shows a turn: degrees planned and measured, clockwise where the sign is 1."""
        self.side, self.planned, self.measured, self.sign, self.sole = side, planned, measured, sign, sole
        self.rule = False
        self._telling.say()
        self.update()

    def show_length(self, side: Side, planned: float, measured: float) -> None:
        """Shows a length, planned and measured, centimetres."""
        self.side, self.planned, self.measured, self.rule = side, planned, measured, True
        self._telling.say()
        self.update()

    def told(self) -> str:
        """What was measured and what was planned."""
        if self.rule:
            return f"{self.measured:.0f} cm, {self._plan()}"
        return f"{self.measured:.0f}°, {self._plan()}"

    def _plan(self) -> str:
        if self.rule:
            return tr("planned {planned} cm", planned=number(self.planned, 0))
        return tr("planned {planned}°", planned=number(self.planned, 0))

    @property
    def _longest(self) -> float:
        """The length of the rule, centimetres."""
        return max(math.ceil(1.4 * max(self.planned, self.measured, 20.0) / 10.0) * 10.0, 50.0)

    def _paint_rule(self, painter: QPainter) -> None:
        theme, left, wide = self._theme, 40.0, self.width() - 80.0
        middle = self.height() / 2.0
        longest = self._longest
        for centimetre in range(int(longest) + 1):
            x = left + wide * centimetre / longest
            if centimetre % 10 == 0:
                high = 22.0
            elif centimetre % 5 == 0:
                high = 14.0
            else:
                high = 7.0
            painter.setPen(QPen(theme.color("faint"), 1.0))
            painter.drawLine(QPointF(x, middle), QPointF(x, middle - high))
            if centimetre % 10 == 0:
                painter.setPen(theme.color("ink"))
                painter.setFont(font(9.5))
                painter.drawText(QRectF(x - 24, middle - 44, 48, 18), Qt.AlignmentFlag.AlignCenter, str(centimetre))
        for value, down, words, role in (
            (self.planned, 26.0, self._plan(), "ghost"),
            (self.measured, 66.0, f"{self.measured:.0f} cm", self.side.word),
        ):
            x = left + wide * value / longest
            painter.setPen(QPen(theme.color(role), 5.0))
            painter.drawLine(QPointF(left, middle + down), QPointF(x, middle + down))
            draw_tag(painter, QPointF(x, middle + down - 16.0), words, theme, role)

    def _centre(self) -> QPointF:
        return QPointF(self.width() / 2.0, 0.66 * self.height())

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            theme, centre = self._theme, self._centre()
            painter.fillRect(self.rect(), theme.color("board"))
            if self.rule:
                self._paint_rule(painter)
                return
            radius = min(self.width() * 0.42, self.height() * 0.54)
            painter.setPen(QPen(theme.color("faint"), 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(centre, radius, radius)
            for degrees in range(-180, 180, 5):
                ux, uy = ahead(float(degrees))
                long = 14.0 if degrees % 15 == 0 else 7.0
                painter.setPen(QPen(theme.color("faint"), 1.6 if degrees % 15 == 0 else 0.8))
                painter.drawLine(centre + QPointF(ux, -uy) * (radius - long), centre + QPointF(ux, -uy) * radius)
                if degrees % 15 == 0:
                    painter.setFont(font(9.0))
                    painter.setPen(theme.color("ink"))
                    at = centre + QPointF(ux, -uy) * (radius + 15.0)
                    box = QRectF(at.x() - 20, at.y() - 9, 40, 18)
                    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"{abs(degrees)}°")
            floor = painter.worldTransform()
            floor.translate(centre.x(), centre.y())
            scale = 0.82 * radius / self.sole.length
            floor.scale(scale, -scale)
            still = FootPose(0.0, 0.0, 0.0, Contact.FLAT)
            draw_sole_outline(painter, floor, self.sole, self.side, still, theme, 0.4)
            plan = still._replace(heading=self.sign * self.planned % 360.0)
            draw_sole_outline(painter, floor, self.sole, self.side, plan, theme, 1.0, True, False)
            foot = still._replace(heading=self.sign * self.measured % 360.0)
            draw_sole(painter, floor, self.sole, self.side, foot, 0.0, theme)
            for degrees_, inward, words, role in (
                (self.planned, 76.0, self._plan(), "ghost"),
                (self.measured, 34.0, f"{self.measured:.0f}°", self.side.word),
            ):
                ux, uy = ahead(self.sign * degrees_)
                draw_tag(painter, centre + QPointF(ux, -uy) * (radius - inward), words, theme, role)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.setFocus()
        self.mouseMoveEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.rule:
            part = (event.position().x() - 40.0) / max(self.width() - 80.0, 1.0)
            self.turned.emit(float(round(min(max(part, 0.0), 1.0) * self._longest)))
            return
        way = event.position() - self._centre()
        degrees = self.sign * math.degrees(math.atan2(way.x(), -way.y()))
        self.turned.emit(float(round(min(max(degrees, 0.0), 180.0))))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {Qt.Key.Key_Right: 1, Qt.Key.Key_Up: 1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: -1}
        if event.key() in ways:
            self.turned.emit(min(max(self.measured + ways[Qt.Key(event.key())], 0.0), 999.0 if self.rule else 180.0))
        else:
            super().keyPressEvent(event)


class TurnFace(PractiseFace):
    """Hips and pivots, measured against what is planned; ranges offered to the body."""

    name = tr("Turns")
    purpose = tr("Measure how far your turns and steps really go, and update the body")

    def __init__(self, desk: Desk, large: LargeView, dial: TurnDial) -> None:
        super().__init__(desk, large)
        self.dial = dial
        self._pivots: list[tuple[str, int, Side, float]] = []  # posture, count, side, degrees
        self._steps: list[tuple[str, int, Side, float]] = []  # the same of steps, centimetres
        self.what = choice_box(tr("What you turn"), run=lambda _at: self._chosen())
        self.measured = number_field(tr("It reached"), 0.0, 999.0, 0)
        self.measured.setSuffix("°")
        self.measured.valueChanged.connect(safely(lambda _value: self._draw()))
        self.column.addLayout(row_of_fields(((tr("Measured"), self.what), (tr("It reached"), self.measured))))
        self.hurts = QCheckBox(tr("It hurt"))
        self.column.addWidget(self.hurts)
        self.note = push_button(tr("Record it"), self.keep_it)
        self.column.addWidget(self.note)
        self.said = wrapped()
        self.column.addWidget(self.said)
        self.column.addWidget(heading(tr("Ranges from your measures")))
        self.offer = wrapped()
        self.column.addWidget(self.offer)
        self.take = push_button(
            tr("Update the body"),
            self.take_offer,
            tr("Writes the range into the body, as one step you can undo  (Ctrl+Return)"),
        )
        self.column.addWidget(self.take)
        self.column.addStretch(1)
        self.caution(
            tr(
                "Never force a turn: stop where it stops by itself. A smaller range is offered at once;"
                " a larger one only after five measures on different days, none of which hurt. Forcing "
                "the foot does not open the hip."
            )
        )
        dial.turned.connect(safely(self.measured.setValue))
        desk.practice.changed.connect(safely(self._show_offer))

    def refresh(self) -> None:
        form, trace = self.document.form, self.document.trace
        self._pivots, self._steps = [], []
        for row in range(1, len(trace)):
            for side in SIDES:
                posture = trace.posture(row)
                if (
                    trace.move_kinds[row, side] == PIVOT
                    and posture is not None
                    and abs(trace.move_turns[row, side]) > 1
                ):
                    self._pivots.append((posture, int(trace.counts[row]), side, float(trace.move_turns[row, side])))
                if trace.move_kinds[row, side] == STEP and posture is not None and trace.sizes[row, 0] > 0.05:
                    size = 100.0 * float(trace.sizes[row, 0])
                    self._steps.append((posture, int(trace.counts[row]), side, size))
        lines = [measure_name(f"hip {side.word} {way}", begins=True) for side, way in _HIPS]
        lines += [
            tr(
                _TURNED[side],
                title=form.posture(posture).title,
                count=count,
                turn=number(abs(turn), 0),
            )
            for posture, count, side, turn in self._pivots
        ]
        lines += [
            tr(
                _STEPPED[side],
                title=form.posture(posture).title,
                count=count,
                length=number(length, 0),
            )
            for posture, count, side, length in self._steps
        ]
        lines.append(tr("where the walk ended, from home"))
        if refill(self.what, lines):
            self._chosen()
        self._draw()
        self._show_offer()

    @property
    def _length(self) -> bool:
        """Whether a length is measured, and no turn."""
        return max(self.what.currentIndex(), 0) >= len(_HIPS) + len(self._pivots)

    def _turn(self) -> tuple[Side, float, int]:
        """The side, the plan in degrees, and which way: 1 clockwise. Of a length the plan in centimetres."""
        at = max(self.what.currentIndex(), 0)
        if self._length:
            step = at - len(_HIPS) - len(self._pivots)
            if step < len(self._steps):
                return self._steps[step][2], self._steps[step][3], 1
            return Side.RIGHT, 100.0 * check_return(self.document.trace, self.document.form).distance, 1
        if at < len(_HIPS):
            side, way = _HIPS[at]
            out, inward = self.document.form.body.hip_range(side)
            return side, inward if way == "in" else out, side.sign * (-1 if way == "in" else 1)
        _, _, side, turn = self._pivots[at - len(_HIPS)]
        return side, abs(turn), 1 if turn > 0 else -1

    def _chosen(self) -> None:
        self.measured.setValue(round(self._turn()[1]))
        self._draw()
        self._show_offer()

    def _draw(self) -> None:
        side, planned, sign = self._turn()
        self.measured.setSuffix(" " + tr("cm") if self._length else "°")
        if self._length:
            self.dial.show_length(side, planned, self.measured.value())
            return
        self.dial.show_turn(side, planned, self.measured.value(), sign, self.document.form.body.sole)

    def keep_it(self) -> None:
        """Puts the measure into the book."""
        at = max(self.what.currentIndex(), 0)
        side, planned, _ = self._turn()
        measured, form = self.measured.value(), self.document.form
        posture = "" if at < len(_HIPS) or self._length else self._pivots[at - len(_HIPS)][0]
        kind: Kind = "turn"
        if at < len(_HIPS):
            what = turn_name(*_HIPS[at])
        elif not self._length:
            what = f"pivot {side.letter}, count {self._pivots[at - len(_HIPS)][1]}"
        elif (step := at - len(_HIPS) - len(self._pivots)) < len(self._steps):
            kind, posture = "step", self._steps[step][0]
            what = f"step {side.letter}, count {self._steps[step][1]}"
        else:
            kind, posture, what = "end", "", "end of the walk, from home"
        side_word: WhichSide = "right" if side else "left"
        near = abs(measured - planned) <= 3.0 if self._length else measured >= planned - 1
        outcome: Outcome = "done" if near else "off"
        if self.hurts.isChecked():
            outcome = "hurts"
        self.keep(
            Entry(
                now(),
                kind,
                self.desk.practice.person,
                form.title,
                posture,
                form.posture(posture).title if posture else "",
                side_word,
                0.0,
                1,
                0.0,
                what,
                measured,
                round(planned, 1),
                "cm" if self._length else "°",
                outcome,
            )
        )
        off = measured - planned
        if abs(off) < 1:
            how = tr("as planned")
        elif off > 0:
            how = tr("{by} more than planned", by=number(off, 0))
        else:
            how = tr("{by} less than planned", by=number(-off, 0))
        hurt = " " + tr("It hurt: leave it for today.") if self.hurts.isChecked() else ""
        unit = " cm" if self._length else "°"
        self.said.setText(
            tr(
                "{measured}{unit}, {how}. Recorded in the practice book.{hurt}",
                measured=number(measured, 0),
                unit=unit,
                how=how,
                hurt=hurt,
            )
        )
        self.hurts.setChecked(False)

    def _offered(self) -> Offer | None:
        at = max(self.what.currentIndex(), 0)
        if at >= len(_HIPS):
            return None
        side, way = _HIPS[at]
        out, inward = self.document.form.body.hip_set(side)
        own = [each for each in self.desk.practice.entries if each.person == self.desk.practice.person]
        return offered(own, side, way, inward if way == "in" else out)

    def _show_offer(self) -> None:
        found = self._offered()
        self.take.setEnabled(found is not None)
        if found is None:
            self.offer.setText(
                tr("Nothing to change for this turn: the range agrees with your measures, or there are too few.")
            )
        else:
            hip = measure_name(f"hip {found.side.word} {found.way}", begins=True)
            why = sentence(found.why)
            self.offer.setText(tr("{hip}: {degrees}°, for {why}.", hip=hip, degrees=number(found.degrees, 0), why=why))

    def take_offer(self) -> None:
        """Writes the range that is offered into the body."""
        found = self._offered()
        if found is None:
            return
        body, name = self.document.form.body, f"hip_{found.way}"
        both = [body.hip_set(side)[found.way == "in"] for side in SIDES]
        both[found.side] = round(found.degrees, 1)
        made = replace(body, **{name: both[0] if both[0] == both[1] else (both[0], both[1])})  # type: ignore[arg-type]
        self.desk.editor.set_body(
            made,
            tr(
                "set the {hip}, to {degrees}°",
                hip=measure_name(f"hip {found.side.word} {found.way}"),
                degrees=number(found.degrees, 0),
            ),
        )
        self.refresh()
