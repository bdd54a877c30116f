"""The ground under the walk: boards or tiles, walls, obstacles and the start mark."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen, QPolygonF, QTransform

from waltzmark.core.base.arrays import Floats
from waltzmark.core.form.room import FloorLines, Room
from waltzmark.desktop.painter.box import fill_box
from waltzmark.desktop.theme import Theme, font

__all__ = ["draw_ground", "draw_start", "obstacle_corners", "room_corners"]

_MOST_SEAMS = 400
_NAME = 240.0  # units from which a name goes into several lines


def room_corners(room: Room) -> list[QPointF]:
    """Corners of the room's outline in the floor frame."""
    return _points(room.to_floor(np.array(room.outline, dtype=float)))


def obstacle_corners(room: Room) -> list[list[QPointF]]:
    """Corners of each obstacle in the floor frame."""
    return [_points(room.to_floor(np.array(obstacle.ring, dtype=float))) for obstacle in room.obstacles]


def _points(array: Floats) -> list[QPointF]:
    return [QPointF(x, y) for x, y in array.tolist()]


def _path(points: list[QPointF]) -> QPainterPath:
    path = QPainterPath()
    path.addPolygon(QPolygonF(points))
    path.closeSubpath()
    return path


def draw_ground(
    painter: QPainter, view: QRectF, floor: QTransform, room: Room | None, theme: Theme, start: bool = True
) -> None:
    """Boards with their seams, the room around them, and the *start* mark with the way of 12 o'clock."""
    fill_box(painter, view, theme.color("board"))
    outline = None if room is None else floor.map(_path(room_corners(room)))
    painter.save()
    painter.setClipRect(view, Qt.ClipOperation.IntersectClip)
    _draw_boards(painter, view if outline is None else outline.boundingRect().intersected(view), floor, room, theme)
    if outline is not None:  # painted over what lies around it: to clip each of the boards takes longer
        around = QPainterPath()
        around.addRect(view)
        around.addPath(outline)
        painter.fillPath(around, theme.color("outside"))
    painter.restore()
    if room is not None and outline is not None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(
            QPen(theme.color("wall"), 4.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.SquareCap, Qt.PenJoinStyle.MiterJoin)
        )
        painter.drawPath(outline)
        _draw_things(painter, view, floor, room, theme)
    if start:
        draw_start(painter, floor, theme)


def _draw_things(painter: QPainter, view: QRectF, floor: QTransform, room: Room, theme: Theme) -> None:
    """Doors and what they sweep, and what stands there."""
    for door in room.doors:  # an opening in the wall, whichever way it swings
        a, b = (np.array(corner) for corner in room.wall(door.wall))
        along = (b - a) / np.hypot(*(b - a))
        ends = room.to_floor(np.stack([a + door.at * along, a + (door.at + door.leaf) * along]))
        painter.setPen(QPen(theme.color("paper"), 3.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        painter.drawLine(*(floor.map(end) for end in _points(ends)))
        painter.setPen(QPen(theme.color("wall"), 1.0))
    for leaf in room.kept_free:  # the floor that a door sweeps
        painter.setPen(QPen(theme.color("wall"), 1.2, Qt.PenStyle.DotLine))
        painter.setBrush(theme.color("obstacle", 0.18))
        painter.drawPath(floor.map(_path(_points(room.to_floor(np.array(leaf.outline, dtype=float))))))
    for obstacle, corners in zip(room.obstacles, obstacle_corners(room), strict=True):
        shape = floor.map(_path(corners))
        low = obstacle.kind == "low"  # arms pass above it
        painter.setPen(QPen(theme.color("wall"), 1.6, Qt.PenStyle.DashLine if low else Qt.PenStyle.SolidLine))
        painter.setBrush(theme.color("obstacle", 0.45 if low else 1.0))
        painter.drawPath(shape)
        _name(painter, view, shape.boundingRect(), obstacle.name, theme)


def _name(painter: QPainter, view: QRectF, box: QRectF, text: str, theme: Theme) -> None:
    """The name of a thing in it where it has room, else below it; a long one in several lines, within the view."""
    painter.setFont(font(9.0))
    painter.setPen(theme.color("ink"))
    wide = float(painter.fontMetrics().horizontalAdvance(text) + 8)
    way = int(Qt.AlignmentFlag.AlignCenter)
    inside = box.width() >= wide
    place = QRectF(0.0, 0.0, wide, 18.0)
    if wide > _NAME:
        way |= int(Qt.TextFlag.TextWrapAnywhere)
        place = painter.boundingRect(QRectF(0.0, 0.0, _NAME, 1000.0), way, text)
    place.moveCenter(box.center())
    if not inside:
        place.moveTop(box.bottom() + 2)
    if view.intersects(box):
        place.moveLeft(max(min(place.left(), view.right() - place.width()), view.left()))
    painter.drawText(place, way, text)


def _draw_boards(painter: QPainter, seen: QRectF, floor: QTransform, room: Room | None, theme: Theme) -> None:
    """Boards run along the way the room says, tiles both ways; without a room along 12 o'clock."""
    lines = room.lines if room else FloorLines()
    scale = math.sqrt(abs(floor.determinant()))
    if min(lines.spacings) * scale < 4.0:
        return
    # Draw in a frame in which boards are upright: that of the lines, or the floor's own.
    frame = floor
    if room is not None:
        turn = QTransform()
        turn.rotate(room.start.heading)
        turn.translate(-room.start.x, -room.start.y)
        turn.rotate(-lines.direction)
        turn.translate(*lines.offset)
        frame = turn * floor
    inverse, fine = frame.inverted()
    if not fine:
        return
    seen, spacing = inverse.mapRect(seen), lines.spacing
    first, last = math.floor(seen.left() / spacing), math.ceil(seen.right() / spacing)
    if last - first > _MOST_SEAMS:
        return
    other = theme.color("board_other")
    painter.save()
    painter.setTransform(frame, True)  # a turned box is filled ten times as fast as a polygon with the same corners
    for k in range(first, last):
        if k % 2:
            painter.fillRect(QRectF(k * spacing, seen.top(), spacing, seen.height()), other)
    painter.restore()
    seams = [QLineF(k * spacing, seen.top(), k * spacing, seen.bottom()) for k in range(first, last + 1)]
    if lines.tiles:
        along = lines.spacings[1]
        across = range(math.floor(seen.top() / along), math.ceil(seen.bottom() / along) + 1)
        seams += [QLineF(seen.left(), k * along, seen.right(), k * along) for k in across]
    painter.setPen(QPen(theme.color("seam"), 1.0))
    painter.drawLines([frame.map(seam) for seam in seams])
    if room is None:
        return
    for piece in room.tape:
        painter.setPen(QPen(theme.color("tape"), max(0.03 * scale, 2.0), Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        painter.drawLine(*(floor.map(end) for end in _points(room.to_floor(np.array(piece, dtype=float)))))


def draw_start(painter: QPainter, floor: QTransform, theme: Theme) -> None:
    """The start mark: a taped cross on the floor, with a tick toward 12 o'clock."""
    painter.setPen(QPen(theme.color("wall"), 3.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
    for a, b in (((-0.07, 0.0), (0.07, 0.0)), ((0.0, -0.07), (0.0, 0.13))):
        painter.drawLine(floor.map(QPointF(*a)), floor.map(QPointF(*b)))
