"""The whole room in a corner of the floor, while only a part of it is in view."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QPainter, QPen, QPixmap, QPolygonF, QTransform

from waltzmark.core.base.arrays import Floats
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.room import Room
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.painter.ground import obstacle_corners, room_corners
from waltzmark.desktop.painter.layer import Layer
from waltzmark.desktop.painter.scene import draw_path
from waltzmark.desktop.plot.still import View
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.camera import Camera

__all__ = ["Inset", "whole_of"]

_BOX = QSizeF(168.0, 132.0)
_ROUND = 0.9  # metres shown around a walk that has no room


def whole_of(trace: Trace, room: Room | None) -> list[QPointF]:
    """Corners of the room in the floor frame, or of a box around the walk where there is no room."""
    if room is not None:
        return room_corners(room)
    heels = trace.heels.reshape(-1, 2)
    (x0, y0), (x1, y1) = (heels.min(axis=0) - _ROUND).tolist(), (heels.max(axis=0) + _ROUND).tolist()
    return [QPointF(x0, y0), QPointF(x1, y0), QPointF(x1, y1), QPointF(x0, y1)]


class Inset:
    """The inset of one view; what stands still in it is drawn once, once more the path through it, and all of it at
    the end of a count, also before that is shown."""

    def __init__(self) -> None:
        self._empty, self._path, self._whole = Layer(), Layer(ahead=True), Layer(ahead=True)

    def draw(self, painter: QPainter, view: View, trace: Trace, pose: Pose, stays: bool) -> None:
        """Draws it into its corner of a view. stays: whether nothing of it changes at once."""
        painter.save()
        painter.translate(view.size.width() - _BOX.width() - 12, 12)
        if stays:
            painter.drawPixmap(0, 0, self.drawn(view, trace, pose))
        else:
            self._draw(painter, view, trace, pose)
        painter.restore()

    def drawn(self, view: View, trace: Trace, pose: Pose) -> QPixmap:
        """Its picture."""
        shows = view.ground, view.size.width(), view.size.height(), trace, pose.midpoint
        return self._whole.drawn(
            shows, _BOX.toSize(), view.ratio, lambda p: self._draw(p, view, trace, pose), clear=True
        )

    def _draw(self, painter: QPainter, view: View, trace: Trace, pose: Pose) -> None:
        """Room, obstacles, path, what of it is in view, and where one stands; always the room's own way up."""
        pixmap, plan = self._plan(trace, view.room, view.theme, view.ratio)
        painter.drawPixmap(0, 0, pixmap)
        inverse, _ = view.floor.inverted()
        painter.setClipRect(QRectF(1, 1, _BOX.width() - 2, _BOX.height() - 2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(view.theme.color("ink", 0.7), 1.0, Qt.PenStyle.DashLine))
        painter.drawPolygon(plan.map(inverse.map(QPolygonF(view.rect))))
        painter.setPen(QPen(view.theme.color("paper"), 1.2))
        painter.setBrush(view.theme.color("centre"))
        painter.drawEllipse(plan.map(QPointF(*pose.midpoint)), 4.5, 4.5)

    def _plan(self, trace: Trace, room: Room | None, theme: Theme, ratio: float) -> tuple[QPixmap, QTransform]:
        """Room and path, and where a place of the floor is in it."""
        whole = whole_of(trace, room)
        plan = Camera(up=-room.start.heading if room else 0.0).fitted(_BOX, whole, margin=10.0).transform(_BOX)
        ground = ([(point.x(), point.y()) for point in whole], room, theme.name)

        def path(painter: QPainter) -> None:
            painter.drawPixmap(0, 0, empty)
            draw_path(painter, plan, QRectF(QPointF(), _BOX), _seen(trace.centres, plan), theme)

        empty = self._empty.drawn(
            ground, _BOX.toSize(), ratio, lambda p: _draw_empty(p, plan, whole, room, theme), clear=True
        )
        return self._path.drawn((ground, trace), _BOX.toSize(), ratio, path, clear=True), plan


def _draw_empty(painter: QPainter, plan: QTransform, whole: list[QPointF], room: Room | None, theme: Theme) -> None:
    """The room without a path."""
    painter.setPen(QPen(theme.color("rule"), 1.0))
    painter.setBrush(theme.color("raised"))
    painter.drawRoundedRect(QRectF(QPointF(0.5, 0.5), _BOX - QSizeF(1, 1)), 5, 5)
    painter.setPen(QPen(theme.color("wall"), 1.6) if room else QPen(Qt.PenStyle.NoPen))
    painter.setBrush(theme.color("board"))
    painter.drawPolygon(plan.map(QPolygonF(whole)))
    painter.setBrush(theme.color("obstacle"))
    painter.setPen(Qt.PenStyle.NoPen)
    for corners in obstacle_corners(room) if room else []:
        painter.drawPolygon(plan.map(QPolygonF(corners)))


def _seen(places: Floats, plan: QTransform) -> Floats:
    """The places (n, 2) that differ by a pixel from those before them: a long walk has many that do not."""
    m = np.array([[plan.m11(), plan.m12()], [plan.m21(), plan.m22()]])
    moved = np.any(np.diff(np.rint(places @ m), axis=0) != 0, axis=1)
    return np.asarray(places[np.concatenate([[True], moved])])
