"""The form as a chain of arrows on the floor, and the way home as the thing to get rid of."""

from __future__ import annotations

import math
from functools import partial

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, QSizeF, Qt, Signal
from PySide6.QtGui import QPainter, QPen, QPolygonF, QTransform

from waltzmark.core.base.angles import ahead
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.records import replace
from waltzmark.core.home.ledger import check_return
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.painter.layer import Layer
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.placing import placed, tag_size
from waltzmark.desktop.painter.scale_bar import draw_legend, draw_scale_bar
from waltzmark.desktop.painter.standing import draw_walker
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.camera import Camera
from waltzmark.desktop.widgets.plan_view import PlanView
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.language import tr

__all__ = ["ChainView", "draw_arrow", "ends_of"]

_NEAR = 9.0  # pixels a hand may miss an arrow by
_STRIP = 40.0  # pixels at the bottom for scale and words
_SHORT = 0.02  # metres below which a posture is a ring and no arrow
_HOME = 0.005  # metres from home that are none
_BESIDE = 3.5  # pixels that an arrow is moved to its right


def ends_of(trace: Trace) -> Floats:
    """(n + 1, 2) where the walk stands before each posture and at its end, metres."""
    return np.asarray(trace.midpoints[[0, *(int(each) - 1 for each in trace.starts[2:])]])


def beside(start: QPointF, end: QPointF) -> tuple[QPointF, QPointF]:
    """An arrow moved a little to its right, so that one out and one back are both seen."""
    way = end - start
    far = math.hypot(way.x(), way.y())
    if far < 5.0:
        return start, end
    right = QPointF(-way.y(), way.x()) * (_BESIDE / far)
    return start + right, end + right


def draw_arrow(
    painter: QPainter, start: QPointF, end: QPointF, theme: Theme, role: str, width: float = 2.4, dashed: bool = False
) -> None:
    """An arrow from one pixel to another; a ring where it goes nowhere."""
    start, end = beside(start, end)
    color = theme.color(role)
    style = Qt.PenStyle.DashLine if dashed else Qt.PenStyle.SolidLine
    painter.setPen(QPen(color, width, style, Qt.PenCapStyle.RoundCap))
    dx, dy = end.x() - start.x(), end.y() - start.y()
    far = math.hypot(dx, dy)
    if far < 5.0:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(end, 5.0, 5.0)
        return
    painter.drawLine(start, end)
    ux, uy = dx / far, dy / far
    size = min(5.0 + 2.0 * width, far)
    back = QPointF(end.x() - size * ux, end.y() - size * uy)
    side = QPointF(-uy, ux) * (size * 0.42)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(color)
    painter.drawPolygon(QPolygonF([end, back + side, back - side]))


@guarded
class ChainView(PlanView):
    """Each posture an arrow from where it began to where it ended. A click chooses a posture. sorted_tails: the arrows
    laid head to tail, those that carry furthest the same way first, so that what cancels is seen."""

    chosen = Signal(str)
    legend = tr("Each posture is an arrow. Red: the distance still to close.")

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__(document, theme, tr("The form as a chain of arrows"))
        Telling(self, partial(document.answered, 1), document.judge.reviewed)
        self.ghost: Trace | None = None  # a walk that would close it
        self.changed: frozenset[str] = frozenset()  # postures that it changes
        self.sorted_tails = False
        self._ground = Layer()
        for signal in (document.form_changed, document.opened):
            signal.connect(safely(self.fit))
        for signal in (document.session.moved, document.session.selected, document.session.figures_changed):
            signal.connect(safely(self.update))

    def show_ghost(self, trace: Trace | None, changed: frozenset[str] = frozenset()) -> None:
        """Shows a walk beside the present one, and which postures it changes."""
        self.ghost, self.changed = trace, changed
        self.fit()

    def show_sorted(self, tails: bool) -> None:
        """Lays the arrows head to tail by what they carry, or where they are walked."""
        self.sorted_tails = tails
        self.fit()

    def _chain(self, trace: Trace) -> list[tuple[str, Floats, Floats]]:
        """Posture, beginning and end of each arrow, metres."""
        ends = ends_of(trace)
        names = [passage.posture or "" for passage in trace.passages[1:]]
        arrows = [(name, ends[n], ends[n + 1]) for n, name in enumerate(names)]
        if not self.sorted_tails:
            return arrows
        ways = sorted(((name, b - a) for name, a, b in arrows), key=lambda each: math.atan2(each[1][0], each[1][1]))
        laid, at = [], ends[0]
        for name, way in ways:
            laid.append((name, at, at + way))
            at = at + way
        return laid

    def fitted(self, camera: Camera) -> Camera:
        room = self._document.form.room
        traces = [self._document.trace, *([self.ghost] if self.ghost is not None else [])]
        points = [np.array(self._document.form.home.place)]
        for trace in traces:
            points += [end for _, a, b in self._chain(trace) for end in (a, b)]
        low, high = np.min(points, axis=0) - 0.35, np.max(points, axis=0) + 0.35
        corners = [QPointF(x, y) for x in (low[0], high[0]) for y in (low[1], high[1])]
        free = QSizeF(self.width(), self.height() - _STRIP)
        turned = replace(camera, up=-room.start.heading if room else 0.0)
        return turned.fitted(free, corners).panned(free, QPointF(0.0, 0.0), QPointF(0.0, -_STRIP / 2.0))

    def paint(self, painter: QPainter) -> None:
        document, theme, floor = self._document, self._theme, self.frame
        room, view = document.session.room, QRectF(self.rect())
        ground = self._ground.drawn(
            (self.camera, room, theme.name),
            self.size(),
            self.devicePixelRatioF(),
            lambda ground: draw_ground(ground, view, floor, room, theme),
        )
        painter.drawPixmap(0, 0, ground)
        if not self.sorted_tails:
            draw_walker(painter, floor, document.trace.body, document.session.pose, theme)
        self._paint_chain(painter, floor)
        draw_scale_bar(painter, self.size(), self.camera.scale, document.session.say, theme)
        draw_legend(painter, self.size(), self.legend, theme)

    def _paint_chain(self, painter: QPainter, floor: QTransform) -> None:
        document, theme = self._document, self._theme
        chosen = document.session.selection.posture
        if self.ghost is not None:
            for name, a, b in self._chain(self.ghost):
                width = 4.0 if name in self.changed else 1.6
                draw_arrow(
                    painter, _pixel(floor, a), _pixel(floor, b), theme, "ghost", width, dashed=name not in self.changed
                )
        arrows = self._chain(document.trace)
        for name, a, b in arrows:
            role, width = ("right", 4.6) if name == chosen else ("torso", 2.4)
            draw_arrow(painter, _pixel(floor, a), _pixel(floor, b), theme, role, width)
        end = arrows[-1][2] if arrows else document.trace.midpoints[-1]
        self._paint_home(painter, floor, end)
        cards = self._cards(floor, arrows, end)
        for at, line, _ in cards:
            if line.length() < 5.0 or math.hypot(*(at - line.center()).toTuple()) > line.length() / 2.0 + 24.0:
                painter.setPen(QPen(theme.color("note", 0.9), 1.0))  # a card that lies further off is tied to its arrow
                painter.drawLine(at, line.center())
        for at, _, (whose, words) in cards:
            draw_tag(painter, at, words, theme, "stop" if whose is None else "right" if whose == chosen else "ink")

    def _cards(
        self, floor: QTransform, arrows: list[tuple[str, Floats, Floats]], end: Floats
    ) -> list[tuple[QPointF, QLineF, tuple[str | None, str]]]:
        """The cards of the way home and of each arrow, the longest first: where, for which line, whose, its words."""
        document = self._document
        drawn = [QLineF(*beside(_pixel(floor, a), _pixel(floor, b))) for _, a, b in arrows]
        wanted: list[tuple[QLineF, tuple[str | None, str]]] = []
        if (distance := check_return(document.trace, document.form).distance) > _HOME:
            home = QLineF(_pixel(floor, end), floor.map(QPointF(*document.form.home.place)))
            wanted.append((home, (None, document.session.say.length(distance))))
        for line, (name, _, _) in sorted(zip(drawn, arrows, strict=True), key=lambda each: -each[0].length()):
            wanted.append((line, (name, str(document.form.index(name) + 1))))
        lines = drawn + [line for line, (name, _) in wanted if name is None]
        for _, a, b in self._chain(self.ghost) if self.ghost is not None else ():
            lines.append(QLineF(*beside(_pixel(floor, a), _pixel(floor, b))))
        view = QRectF(0.0, 0.0, self.width(), self.height() - _STRIP)
        places = placed([(line, tag_size(words)) for line, (_, words) in wanted], lines, view)
        return [(at, *each) for at, each in zip(places, wanted, strict=True)]

    def _paint_home(self, painter: QPainter, floor: QTransform, end: Floats) -> None:
        """Home with its tolerance and facing, and the way there."""
        document, theme = self._document, self._theme
        home, form = document.form.home, document.form
        result = check_return(document.trace, form)
        place = floor.map(QPointF(*home.place))
        painter.setBrush(theme.color("good", 0.10))
        painter.setPen(QPen(theme.color("good"), 1.4, Qt.PenStyle.DotLine))
        radius = home.within * self.camera.scale
        painter.drawEllipse(place, radius, radius)
        ux, uy = ahead(result.heading)
        tip = floor.map(QPointF(home.place[0] + 0.22 * ux, home.place[1] + 0.22 * uy))
        draw_arrow(painter, place, tip, theme, "good", 2.0)
        if result.distance > _HOME:
            draw_arrow(painter, _pixel(floor, end), place, theme, "stop", 3.4, dashed=True)

    # Hands.

    def click(self, at: QPointF) -> None:
        if (name := self._at(at)) is not None:
            self.chosen.emit(name)

    def _at(self, pixel: QPointF) -> str | None:
        """The posture whose arrow is nearest to a pixel, if one is near."""
        floor = self.frame
        best, found = _NEAR, None
        for name, a, b in self._chain(self._document.trace):
            start, end = _pixel(floor, a), _pixel(floor, b)
            way, off = end - start, pixel - start
            length = way.x() ** 2 + way.y() ** 2
            share = min(max((off.x() * way.x() + off.y() * way.y()) / length, 0.0), 1.0) if length else 0.0
            away = off - way * share
            if math.hypot(away.x(), away.y()) <= best:
                best, found = math.hypot(away.x(), away.y()), name
        return found


def _pixel(floor: QTransform, place: Floats) -> QPointF:
    return floor.map(QPointF(float(place[0]), float(place[1])))
