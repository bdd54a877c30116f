"""Scales: feel what 30 % is. The plates' readings against a band, held for some seconds, seen or blind; or typed in."""

from __future__ import annotations

import random
import statistics

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QAccessible, QBrush, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QPushButton, QWidget

from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.practice.balancing import LEVEL, Band, Holding, Reading, bias_of, share_of
from waltzmark.core.practice.entries import Entry, now
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import heading, set_tip, wrapped
from waltzmark.desktop.practise.face import PractiseFace
from waltzmark.desktop.practise.large import LargeView
from waltzmark.desktop.practise.plates import Plates
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.fields import number_field, row_of_fields, whole_field
from waltzmark.desktop.widgets.parts import choice_box, push_button
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words import named
from waltzmark.words.language import ntr, number, percent, tr
from waltzmark.words.sentences import sentence

__all__ = ["PlatesView", "ScaleFace"]

_TARGETS = (0.3, 0.7, 0.5, 0.2, 0.8, 0.4, 0.6)


@guarded
class PlatesView(QWidget):
    """Both plates with their kilograms, the share of the left foot on a beam with the band about the target, and how
    long it has been held. blind: the figures are hidden until it has been held."""

    role = QAccessible.Role.Indicator

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.reading: Reading | None = None
        self.share: float | None = None
        self.band = Band(0.3)
        self.holding = Holding(self.band)
        self.blind, self.found = False, False
        self.words = ""
        self.setAccessibleName(tr("Scales"))
        self.telling = Telling(self, self.told)
        self.setMinimumSize(320, 240)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            theme, wide, high = self._theme, float(self.width()), float(self.height())
            painter.fillRect(self.rect(), theme.color("paper"))
            unit = min(high / 100.0, wide / 140.0)
            hidden = self.blind and not self.found
            self._text(painter, QRectF(0, 3 * unit, wide, 9 * unit), self.words, 5.0 * unit, "ink")
            plate = QRectF(0, 0, 40 * unit, 34 * unit)
            values = (self.reading.left, self.reading.right) if self.reading is not None else (None, None)
            for side in SIDES:
                plate.moveCenter(QPointF(wide / 2 + side.sign * 26 * unit, 34 * unit))
                painter.setPen(QPen(theme.foot(side), 2.0))
                painter.setBrush(theme.foot_pale(side))
                painter.drawRoundedRect(plate, 8, 8)
                if side is Side.LEFT:
                    painter.setBrush(QBrush(theme.color("left", 0.25), Qt.BrushStyle.BDiagPattern))
                    painter.drawRoundedRect(plate, 8, 8)
                kilograms = values[side]
                if self.share is None:
                    share = None
                elif side is Side.LEFT:
                    share = self.share
                else:
                    share = 1.0 - self.share
                if hidden:
                    large = "?"
                elif share is None:
                    large = tr("no reading")
                else:
                    large = percent(100 * share)
                if hidden:
                    below = ""
                elif kilograms is None:
                    below = tr("no plate")
                else:
                    below = f"{kilograms:.1f} kg"
                self._text(
                    painter,
                    plate.adjusted(4, 6 * unit, -4, -10 * unit),
                    large,
                    13 * unit,
                    side.word,
                    bold=True,
                )
                self._text(painter, plate.adjusted(4, 24 * unit, -4, -2 * unit), below, 4.5 * unit, "ink")
                title = QRectF(plate.left(), plate.top() + unit, plate.width(), 6 * unit)
                self._text(painter, title, tr("{side} foot", side=named.side(side.word)), 4.0 * unit, "ink")
            self._beam(painter, QRectF(0.1 * wide, 62 * unit, 0.8 * wide, 9 * unit), hidden, unit)
            self._held(painter, QRectF(0.1 * wide, 84 * unit, 0.8 * wide, 5 * unit), unit)

    def _beam(self, painter: QPainter, box: QRectF, hidden: bool, unit: float) -> None:
        theme = self._theme
        painter.setPen(QPen(theme.color("rule"), 1.0))
        painter.setBrush(theme.color("raised"))
        painter.drawRoundedRect(box, 4, 4)

        def x(share: float) -> float:
            return box.right() - share * box.width()  # the left foot's share grows to the left

        low, high = x(self.band.target + self.band.beside), x(self.band.target - self.band.beside)
        painter.fillRect(QRectF(low, box.top(), high - low, box.height()), theme.color("good", 0.35))
        painter.setPen(QPen(theme.color("good"), 2.0))
        at = x(self.band.target)
        painter.drawLine(QPointF(at, box.top() - 3), QPointF(at, box.bottom() + 3))
        self._text(
            painter, QRectF(at - 40 * unit, box.bottom() + unit, 80 * unit, 6 * unit), self._goal(), 4.0 * unit, "ink"
        )
        if self.share is not None and not hidden:
            painter.setPen(QPen(theme.color("paper"), 2.0))
            painter.setBrush(theme.color("torso"))
            painter.drawEllipse(QPointF(x(self.share), box.center().y()), 2.6 * unit, 2.6 * unit)

    def _goal(self) -> str:
        return tr(
            "left {target} ± {beside}", target=percent(100 * self.band.target), beside=percent(100 * self.band.beside)
        )

    def told(self) -> str:
        """What is to be found, and what has been said of it."""
        return ". ".join(filter(None, (self.words.rstrip("."), self._goal())))

    def _held(self, painter: QPainter, box: QRectF, unit: float) -> None:
        theme, holding = self._theme, self.holding
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("rule"))
        painter.drawRoundedRect(box, 3, 3)
        part = min(holding.held / holding.needed, 1.0) if holding.needed else 0.0
        painter.setBrush(theme.color("good" if self.found else "centre"))
        painter.drawRoundedRect(QRectF(box.left(), box.top(), part * box.width(), box.height()), 3, 3)
        words = tr("held {held} of {needed} s", held=number(holding.held, 1), needed=number(holding.needed, 0))
        self._text(painter, QRectF(box.left(), box.bottom() + unit, box.width(), 6 * unit), words, 4.0 * unit, "ink")

    def _text(self, painter: QPainter, box: QRectF, words: str, pixels: float, role: str, bold: bool = False) -> None:
        size = 0.75 * pixels
        painter.setPen(self._theme.color(role))
        while size > 7.0:
            painter.setFont(font(size, bold=bold))
            if painter.fontMetrics().horizontalAdvance(words) <= box.width():
                break
            size *= 0.92
        painter.drawText(box, Qt.AlignmentFlag.AlignCenter, words)


class ScaleFace(PractiseFace):
    """Which scale, which target, how long it is to be held; what was found goes into the book."""

    name = tr("Scales")
    purpose = tr("Learn how a share of your weight feels, with a scale under one foot or both")

    def __init__(self, desk: Desk, large: LargeView, view: PlatesView) -> None:
        super().__init__(desk, large)
        self.view = view
        self.plates = Plates(self)
        self._tried: list[tuple[float, float]] = []  # target and share found, of this session
        self._during: list[float] = []
        self._dice = random.Random()
        self.caution(
            tr(
                "First, stand next to something you can hold. Put something equally high under the foot"
                " that has no plate. Never turn a foot on a plate: step off, turn, and step on again."
            )
        )
        self.port = whole_field(tr("Port"), 1, 65_535, self.plates.port)
        row = QHBoxLayout()
        self.listen, self.stand_in = QPushButton(tr("Connect")), QPushButton(tr("Start the simulated scale"))
        set_tip(self.listen, tr("Listens to a scale on this computer; docs/scales.md describes what the scale sends"))
        set_tip(self.stand_in, tr("A simulated person who sways and leans, to try this without a scale"))
        self.listen.clicked.connect(safely(lambda: self.toggle()))
        self.stand_in.clicked.connect(safely(lambda: self.toggle_stand_in()))
        for button in (self.listen, self.stand_in):
            row.addWidget(button)
        self.column.addLayout(row_of_fields(((tr("Port"), self.port),)))
        self.column.addLayout(row)
        self.state = wrapped()
        self.column.addWidget(self.state)
        self.column.addWidget(heading(tr("Find it and hold it")))
        self.target = whole_field(tr("Weight on the left foot"), 0, 100, 30, " " + tr("% left"))
        self.beside = whole_field(tr("Within"), 1, 30, 5, " %")
        self.needed = whole_field(tr("Hold for"), 1, 120, 5, " " + tr("s"))
        self.follow = choice_box(
            tr("Target"), [tr("this target"), tr("the weight at the playhead"), tr("a new target each time")]
        )
        for field in (self.target, self.beside, self.needed):
            field.valueChanged.connect(safely(lambda _value: self._aim()))
        self.follow.activated.connect(safely(lambda _at: self._aim()))
        self.column.addLayout(
            row_of_fields(
                (
                    (tr("Find"), self.follow),
                    ("", self.target),
                    (tr("Within"), self.beside),
                    (tr("Hold for"), self.needed),
                )
            )
        )
        self.blind = QCheckBox(tr("Blind: hide the figure until you hold it"))
        self.blind.toggled.connect(safely(lambda _on: self._aim()))
        self.column.addWidget(self.blind)
        self.column.addWidget(heading(tr("Or read your own scale")))
        typed = QHBoxLayout()
        self.side = choice_box(tr("Foot on the scale"), [tr("left foot"), tr("right foot")])
        self.kilograms = number_field(tr("Reading"), 0.0, 300.0, 1, 96)
        self.kilograms.setSuffix(" " + tr("kg"))
        self.note = push_button(tr("Record it"), self.keep_typed)
        for part in (self.side, self.kilograms, self.note):
            typed.addWidget(part)
        self.column.addLayout(typed)
        self.said = wrapped()
        self.column.addWidget(self.said)
        self.column.addStretch(1)
        self.plates.read.connect(safely(self._take))
        self.plates.changed.connect(safely(self._show))
        self.plates.greeted.connect(safely(lambda _hello: self._show()))
        self.document.session.row_changed.connect(
            safely(lambda _row: self._follow() if self.follow.currentIndex() == 1 else None)
        )
        self._aim()
        self._show()

    # The scale.

    def toggle(self) -> None:
        """Connects to a scale, or lets it go."""
        if self.plates.state == "off":
            self.plates.connect_to(self.port.value())
        else:
            self.plates.leave()

    def toggle_stand_in(self) -> None:
        """Starts the simulated scale, or ends it."""
        if self.plates.simulated:
            self.plates.close()
        else:
            self.plates.start_stand_in(["--mass", f"{self.document.form.body.mass:g}", "--bias", "4", "--sway", "1.5"])
        self._show()

    def _show(self) -> None:
        plates, words = self.plates, []
        if plates.state == "off":
            words.append(
                tr("No scale connected. Connect one, start the simulated one, or type your own scale’s reading.")
            )
        elif plates.state == "on":
            hello = plates.hello
            kind = tr("The simulated scale") if hello is not None and hello.simulated else tr("A scale")
            words.append(
                tr("{kind} on port {port}.", kind=kind, port=plates.port)
                if hello is None
                else ntr(
                    "{kind} on port {port}, {n} plate.",
                    "{kind} on port {port}, {n} plates.",
                    hello.plates,
                    kind=kind,
                    port=plates.port,
                )
            )
            if hello is not None and abs(hello.height) > LEVEL:
                high = "left" if hello.height > 0 else "right"
                apart = f"{100 * abs(hello.height):.0f} cm"
                words.append(
                    tr(
                        "The {high} plate is {apart} higher, so the lower foot carries more. Level them.",
                        high=high,
                        apart=apart,
                    )
                )
        words.append(plates.trouble)
        self.state.setText(" ".join(word for word in words if word))
        self.listen.setText(tr("Connect") if plates.state == "off" else tr("Disconnect"))
        self.stand_in.setText(tr("Stop the simulated scale") if plates.simulated else tr("Start the simulated scale"))
        self._aim_scale()
        if plates.state != "on":
            self.view.reading = self.view.share = None
            self.view.holding.begin_anew()
        self.view.update()

    def refresh(self) -> None:
        if self.follow.currentIndex() == 1:
            self._follow()

    def _follow(self) -> None:
        """The target is the weight at the playhead: aims anew where that is another one."""
        if abs(float(self.document.trace.shares[self.document.session.row, 0]) - self.view.band.target) > 1e-6:
            self._aim()

    # Finding and holding.

    def _aim(self) -> None:
        """Sets the target anew."""
        way = self.follow.currentIndex()
        self.target.setEnabled(way == 0)
        target = self.target.value() / 100.0
        if way == 1:
            target = float(self.document.trace.shares[self.document.session.row, 0])
        elif way == 2:
            target = self._dice.choice([each for each in _TARGETS if each != self.view.band.target])
        self.view.band = Band(target, self.beside.value() / 100.0)
        self.view.holding = Holding(self.view.band, float(self.needed.value()))
        self.view.blind, self.view.found = self.blind.isChecked(), False
        self.view.words = tr("Put {target} on the left foot and hold it", target=percent(100 * target))
        self._during.clear()
        self._aim_scale()
        self.view.update()

    def _aim_scale(self) -> None:
        if self.plates.hello is not None and self.plates.hello.simulated:
            self.plates.ask(self.view.band.target)

    def _take(self, reading: Reading) -> None:
        """A reading has come."""
        view = self.view
        share = share_of(reading, self.document.form.body.mass)
        view.reading, view.share = reading, share
        if not view.found:
            held = view.holding.take(reading.t, share)
            if share is not None and view.holding.held > 0:
                self._during.append(share)
            elif view.holding.held == 0:
                self._during.clear()
            if held:
                self._held(statistics.fmean(self._during or [share or 0.0]))
        view.update()

    def _held(self, share: float) -> None:
        """The band was held for long enough."""
        self.view.found = True
        self._found(
            share,
            tr("held for {needed} s, blind", needed=number(self.view.holding.needed, 0))
            if self.view.blind
            else tr("held for {needed} s", needed=number(self.view.holding.needed, 0)),
        )
        if self.follow.currentIndex() == 2:
            self._aim()
        else:
            self.view.words = tr("Held. Step off and find it again.")

    def _found(self, share: float, how: str) -> None:
        target = self.view.band.target
        self._tried.append((target, share))
        trace, document = self.document.trace, self.document
        posture = trace.posture(document.session.row) if self.follow.currentIndex() == 1 else None
        self.keep(
            Entry(
                now(),
                "scale",
                self.desk.practice.person,
                document.form.title,
                posture or "",
                "" if posture is None else document.form.posture(posture).title,
                "",
                0.0,
                1,
                0.0,
                "share L",
                round(100 * share, 1),
                round(100 * target, 1),
                "%",
                "done" if self.view.band.holds(share) else "missed",
                how,
            )
        )
        words = [
            tr(
                "{share} on the left; the target was {target}. Recorded in the practice book.",
                share=percent(100 * share),
                target=percent(100 * target),
            )
        ]
        if (bias := bias_of(self._tried[-20:])) is not None:
            words.append(sentence(bias.message))
        self.said.setText(" ".join(words))

    def keep_typed(self) -> None:
        """Keeps a reading that was typed in."""
        mass, value = self.document.form.body.mass, self.kilograms.value()
        if value > 1.02 * mass:
            self.said.setText(
                tr(
                    "{value} kg is more than this body weighs ({mass} kg, set in Ready).",
                    value=number(value, 1),
                    mass=number(mass),
                )
            )
            return
        share = min(value / mass, 1.0)
        self._found(
            share if self.side.currentIndex() == 0 else 1.0 - share, tr("read as {value} kg", value=number(value, 1))
        )

    def leave(self) -> None:
        """Another face is shown: the scale goes on, but nothing is held."""
        self.view.holding.begin_anew()
