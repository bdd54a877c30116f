"""The room with its measures: walls with their lengths, corners to drag, and the chosen part."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QPolygonF, QTransform

from waltzmark.core.edit import rooms
from waltzmark.core.form.room import Obstacle, Room
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.room.parts import Part, middle_of_wall, on_wall
from waltzmark.desktop.theme import Theme
from waltzmark.words.figures import Figures

__all__ = ["draw_measured"]

_OUTSIDE = 19.0  # pixels that a wall's figure lies outside it
_HANDLE = 5.0  # pixels of half a handle


def draw_measured(
    painter: QPainter, frame: QTransform, room: Room, part: Part | None, say: Figures, theme: Theme
) -> None:
    """Draws what can be measured and dragged, and the chosen part."""
    if part is not None and part.kind in ("obstacle", "size"):
        _draw_box(painter, frame, room.obstacles[part.number], say, theme)
    pixels = math.sqrt(abs(frame.determinant()))
    for number in range(len(room.outline)):
        chosen = part == Part("wall", number)
        a, b = (frame.map(QPointF(*corner)) for corner in room.wall(number))
        if chosen:
            painter.setPen(QPen(theme.color("centre"), 5.0))
            painter.drawLine(a, b)
        at = frame.map(QPointF(*middle_of_wall(room, number, _OUTSIDE / pixels)))
        length = say.length(math.dist(*room.wall(number)))
        name = dict(room.walls).get(number)
        words, view = f"{name}  {length}" if name else length, QRectF(painter.viewport())
        draw_tag(painter, at, words, theme, "centre" if chosen else "ink", view)
    for number, corner in enumerate(room.outline):
        _draw_handle(
            painter, frame.map(QPointF(*corner)), theme, "centre" if part == Part("corner", number) else "wall"
        )
    if part is not None and part.kind == "tape":
        for end in room.tape[part.number]:
            _draw_handle(painter, frame.map(QPointF(*end)), theme, "centre")
    if part is not None and part.kind == "door":
        door = room.doors[part.number]
        ends = [on_wall(*room.wall(door.wall), far) for far in (door.at, door.at + door.leaf)]
        painter.setPen(QPen(theme.color("centre"), 6.0))
        painter.drawLine(frame.map(QPointF(*ends[0])), frame.map(QPointF(*ends[1])))


def _draw_handle(painter: QPainter, at: QPointF, theme: Theme, role: str) -> None:
    painter.setPen(QPen(theme.color("paper"), 1.2))
    painter.setBrush(theme.color(role))
    painter.drawRect(QRectF(at.x() - _HANDLE, at.y() - _HANDLE, 2 * _HANDLE, 2 * _HANDLE))


def _draw_box(painter: QPainter, frame: QTransform, each: Obstacle, say: Figures, theme: Theme) -> None:
    """The chosen obstacle with its size, and the handle that changes it."""
    x, y, wide, deep = rooms.box_of(each)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(theme.color("centre"), 2.4))
    painter.drawPolygon(frame.map(QPolygonF([QPointF(*corner) for corner in each.ring])))
    _draw_handle(painter, frame.map(QPointF(x + wide, y + deep)), theme, "centre")
    size = say.length(wide) if each.centre is not None else f"{say.length(wide)} × {say.length(deep)}"
    draw_tag(painter, frame.map(QPointF(x + wide / 2.0, y + deep)) + QPointF(0, -16), size, theme, "centre")
