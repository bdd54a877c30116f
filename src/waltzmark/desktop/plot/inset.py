"""The whole room in a corner of the floor, while only a part of it is in view."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, QSizeF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF

from waltzmark.desktop.document import Document
from waltzmark.desktop.painter.ground import obstacle_corners, room_corners
from waltzmark.desktop.plot.camera import Camera
from waltzmark.desktop.theme import Theme

__all__ = ["draw_inset", "whole_of"]

_BOX = QSizeF(168.0, 132.0)
_ROUND = 0.9  # metres shown around a walk that has no room


def whole_of(document: Document) -> list[QPointF]:
    """Corners of the room in the floor frame, or of a box around the walk where there is no room."""
    if document.form.room is not None:
        return room_corners(document.form.room)
    heels = document.trace.heels.reshape(-1, 2)
    (x0, y0), (x1, y1) = (heels.min(axis=0) - _ROUND).tolist(), (heels.max(axis=0) + _ROUND).tolist()
    return [QPointF(x0, y0), QPointF(x1, y0), QPointF(x1, y1), QPointF(x0, y1)]


def draw_inset(painter: QPainter, size: QSize, document: Document, camera: Camera, theme: Theme) -> None:
    """Room, obstacles, path, what is in view, and where one stands."""
    card = QRectF(size.width() - _BOX.width() - 12, 12, _BOX.width(), _BOX.height())
    whole = whole_of(document)
    plan = Camera(up=camera.up).fitted(_BOX, whole, margin=10.0).transform(_BOX)
    painter.save()
    painter.setPen(QPen(theme.color("rule"), 1.0))
    painter.setBrush(theme.color("raised", 0.93))
    painter.drawRoundedRect(card, 5, 5)
    painter.translate(card.topLeft())
    painter.setPen(QPen(theme.color("wall"), 1.6) if document.form.room else QPen(Qt.PenStyle.NoPen))
    painter.setBrush(theme.color("board"))
    painter.drawPolygon(plan.map(QPolygonF(whole)))
    if document.form.room is not None:
        painter.setBrush(theme.color("obstacle"))
        painter.setPen(Qt.PenStyle.NoPen)
        for corners in obstacle_corners(document.form.room):
            painter.drawPolygon(plan.map(QPolygonF(corners)))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(theme.color("centre", 0.6), 1.0))
    painter.drawPolyline(plan.map(QPolygonF([QPointF(x, y) for x, y in document.trace.centres.tolist()])))
    inverse, _ = camera.transform(QSizeF(size)).inverted()
    seen = inverse.map(QPolygonF(QRectF(0, 0, size.width(), size.height())))
    painter.setClipRect(QRectF(1, 1, _BOX.width() - 2, _BOX.height() - 2))
    painter.setPen(QPen(theme.color("ink", 0.7), 1.0, Qt.PenStyle.DashLine))
    painter.drawPolygon(plan.map(seen))
    x, y = document.pose.midpoint
    painter.setPen(QPen(theme.color("paper"), 1.2))
    painter.setBrush(theme.color("centre"))
    painter.drawEllipse(plan.map(QPointF(x, y)), 4.5, 4.5)
    painter.restore()
