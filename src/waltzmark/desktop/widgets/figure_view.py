"""The figure at the playhead, seen from any side; drag it round like a potter's wheel."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import NamedTuple

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QCheckBox, QHBoxLayout, QVBoxLayout, QWidget

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.base.leftright import Side
from waltzmark.core.body.pose import Pose
from waltzmark.core.walk.figures import Figures, facing_between
from waltzmark.core.walk.motion import pose_between
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.bearings import draw_bearings, draw_told
from waltzmark.desktop.painter.figure import Looking, draw_figure, draw_ground
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.parts import choice_box, quiet
from waltzmark.words.language import percent, tr

__all__ = ["SEEN_FROM", "FigurePane", "FigureView", "looked_along"]


class _Seen(NamedTuple):
    """A side that a figure is seen from. turn: degrees from the way the body faces to the way one looks; flip: whether
    left and right are exchanged."""

    words: str
    turn: float
    flip: bool = False


#: By name. Across the stance the turn follows the feet.
SEEN_FROM = {
    "behind": _Seen(tr("From behind"), 0.0),
    "front": _Seen(tr("From the front"), 180.0),
    "left": _Seen(tr("From the left"), 90.0),
    "right": _Seen(tr("From the right"), -90.0),
    "across": _Seen(tr("Across the stance"), -90.0),
    "mirrored": _Seen(tr("As a teacher facing you, mirrored"), 180.0, True),
}
_HAND = tr("Turned by hand")
_BELOW = 104.0  # pixels under the ground line, for the feet from above and what they carry
_MARGIN = 14.0  # pixels that it keeps from the sides
_TALL = 1.12  # statures that fit above it
_DEGREES = 0.6  # that the figure turns for a pixel


def looked_along(name: str, facing: float, pose: Pose) -> float:
    """The heading one looks along from a side that is named, for a body that faces so."""
    if name != "across":
        return normal(facing + SEEN_FROM[name].turn)
    dx, dy = pose.right.x - pose.left.x, pose.right.y - pose.left.y
    if math.hypot(dx, dy) < 1e-6:
        return normal(facing + SEEN_FROM[name].turn)
    line = math.degrees(math.atan2(dx, dy))
    ways = (normal(line + 90.0), normal(line - 90.0))
    return min(ways, key=lambda way: abs(heading_difference(normal(facing - 90.0), way)))


@guarded
class FigureView(QWidget):
    """Draws the body at the playhead over its feet on the floor, which turn along."""

    turned = Signal()  # by a hand

    def __init__(self, document: Document, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self._theme = document, theme
        self.seen, self.by_hand, self.lines = "behind", 0.0, True
        self.moment: Callable[[], tuple[int, float]] | None = None  # row and part of its count, else the playhead's
        self._known: tuple[Trace, Figures] | None = None
        self._pressed: QPointF | None = None
        self.setMinimumSize(190, 220)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setAccessibleName(tr("Figure"))
        self.setAccessibleDescription(tr("The body at the playhead; drag or use the arrow keys to turn it"))
        for signal in (document.session.moved, document.session.figures_changed, document.form_changed):
            signal.connect(safely(self.update))
        document.judge.judged.connect(safely(self.update))

    def sizeHint(self) -> QSize:
        return QSize(300, 420)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def set_seen(self, name: str) -> None:
        """Looks at it from another side."""
        self.seen, self.by_hand = name, 0.0
        self.update()

    def set_lines(self, shown: bool) -> None:
        """Whether plumb line, support, knees over toes and the upright are drawn with it."""
        self.lines = shown
        self.update()

    def turn(self, degrees: float) -> None:
        """Turns the figure, as a hand turns a wheel."""
        self.by_hand = normal(self.by_hand + degrees)
        self.turned.emit()
        self.update()

    # What is shown.

    @property
    def figures(self) -> Figures:
        """The figures of the document's walk."""
        trace = self._document.trace
        if self._known is None or self._known[0] is not trace:
            self._known = trace, Figures(trace)
        return self._known[1]

    def looking(self) -> Looking:
        """Where it is looked at from, at the playhead."""
        trace = self._document.trace
        row, t = self._when()
        pose = pose_between(trace, row, t)
        facing = facing_between(trace, row, t)
        heading = normal(looked_along(self.seen, facing, pose) - self.by_hand)
        ground = self.height() - _BELOW
        tall = _TALL * self._document.trace.body.stature
        scale = min((ground - 8.0) / tall, self.width() / (0.95 * self._document.trace.body.stature))
        return Looking(heading, self.width() / 2.0, ground, scale, pose.midpoint, SEEN_FROM[self.seen].flip)

    def _when(self) -> tuple[int, float]:
        """The row that is shown, and the part of its count."""
        if self.moment is not None:
            return self.moment()
        session = self._document.session
        return session.row, 1.0 - (session.row - session.position)

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self.paint(painter)

    def paint(self, painter: QPainter) -> None:
        """Draws one frame."""
        document, theme = self._document, self._theme
        session, trace = document.session, document.trace
        row, t = self._when()
        figure, pose = self.figures.at(row, t), pose_between(trace, row, t)
        looking = self.looking().holding(figure.joints[0], _MARGIN, self.width() - _MARGIN)
        painter.fillRect(self.rect(), theme.color("paper"))
        draw_ground(painter, looking, QRectF(self.rect()), pose, trace.body.sole, theme)
        if self.lines:
            draw_bearings(painter, looking, figure, trace.body, pose, theme)
        draw_figure(painter, looking, figure, trace.body, theme)
        here = [each for each in document.judge.everywhere if each.row == row]
        if t >= 1.0 and self.moment is None:
            draw_told(painter, looking, figure, here, session.say, theme, QRectF(self.rect()))
        self._paint_shares(painter, looking, pose)

    def _paint_shares(self, painter: QPainter, looking: Looking, pose: Pose) -> None:
        """What each foot carries, below it."""
        painter.setFont(font(9.0, bold=True))
        places = []
        for side in Side:
            foot = pose.foot(side)
            places.append(looking.point(np.array([foot.x, foot.y, 0.0])).x())
        if abs(places[0] - places[1]) < 46.0:  # side by side where they would lie over each other
            middle, way = sum(places) / 2.0, 1.0 if places[0] <= places[1] else -1.0
            places = [middle - 23.0 * way, middle + 23.0 * way]
        for side, x in zip(Side, places, strict=True):
            painter.setPen(self._theme.color("left" if side is Side.LEFT else "right"))
            box = QRectF(x - 24.0, self.height() - 22.0, 48.0, 16.0)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, percent(100.0 * pose.share(side)))

    # Hands.

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() == Qt.MouseButton.LeftButton:
            self._pressed = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._pressed is not None:
            moved = event.position().x() - self._pressed.x()
            self._pressed = event.position()
            if moved:
                self.turn(_DEGREES * moved * (-1.0 if SEEN_FROM[self.seen].flip else 1.0))

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        self._pressed = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {Qt.Key.Key_Left: -15.0, Qt.Key.Key_Right: 15.0}
        if event.key() in ways:
            self.turn(ways[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)


@guarded
class FigurePane(QWidget):
    """The figure with the choice of where it is seen from, and of what is drawn with it."""

    chosen = Signal(str)  # where it is seen from

    def __init__(self, document: Document, theme: Theme, seen: str = "behind", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.view = FigureView(document, theme)
        self._names = list(SEEN_FROM)
        self.sides = choice_box(tr("Seen from"), [each.words for each in SEEN_FROM.values()], self._choose, narrow=True)
        self.lines = QCheckBox(tr("Lines"))
        self.lines.setToolTip(tr("Plumb line and support, knees over toes, the trunk against upright"))
        self.lines.setChecked(True)
        self.lines.toggled.connect(safely(self.view.set_lines))
        self.view.turned.connect(safely(self._say_turned))
        bar = QHBoxLayout()
        bar.setContentsMargins(8, 4, 8, 4)
        bar.setSpacing(10)
        bar.addWidget(self.sides, 1)
        bar.addWidget(self.lines)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(bar)
        column.addWidget(self.view, 1)
        self.set_seen(seen if seen in SEEN_FROM else "behind")

    def set_theme(self, theme: Theme) -> None:
        self.view.set_theme(theme)

    def set_seen(self, name: str) -> None:
        """Looks at it from a side by name."""
        self.sides.setCurrentIndex(self._names.index(name))
        self._choose(self._names.index(name))

    def _choose(self, number: int) -> None:
        if number >= len(self._names):
            return
        with quiet(self.sides):
            if self.sides.count() > len(self._names):
                self.sides.removeItem(len(self._names))
        self.view.set_seen(self._names[number])
        self.chosen.emit(self._names[number])

    def _say_turned(self) -> None:
        """A hand has turned it away from the side that was chosen."""
        with quiet(self.sides):
            if self.sides.count() == len(self._names):
                self.sides.addItem(_HAND)
            self.sides.setCurrentIndex(len(self._names))
