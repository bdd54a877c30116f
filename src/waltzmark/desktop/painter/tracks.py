"""Long lines: many points brought from arrays into Qt at once."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QByteArray, QDataStream, QRectF
from PySide6.QtGui import QPainter, QPolygonF, QTransform

from waltzmark.core.base.arrays import Floats

__all__ = ["draw_track", "hull", "polygon", "polygons"]


def polygon(points: Floats) -> QPolygonF:
    """A polygon of points (n, 2)."""
    (made,) = polygons([points])
    return made


def polygons(outlines: Sequence[Floats]) -> list[QPolygonF]:
    """A polygon for each of some outlines (n, 2); through a stream: a QPointF for each point takes ten times longer."""
    data = [
        part
        for points in outlines
        for part in (len(points).to_bytes(4, "big"), np.ascontiguousarray(points, dtype=">f8").tobytes())
    ]
    made = [QPolygonF() for _ in outlines]
    stream = QDataStream(QByteArray(b"".join(data)))
    for each in made:
        stream >> each
    return made


def draw_track(painter: QPainter, floor: QTransform, view: QRectF, places: Floats) -> None:
    """The line through places (n, 2) of the floor, metres, from where it first is in view to where it last is.

    What leaves the view in between is left to the painter, which is quicker at it than many short lines would be.
    """
    m = np.array([[floor.m11(), floor.m12()], [floor.m21(), floor.m22()]])
    points = places @ m + (floor.dx(), floor.dy())
    low, high = np.minimum(points[:-1], points[1:]), np.maximum(points[:-1], points[1:])
    inside = (high[:, 0] >= view.left()) & (low[:, 0] <= view.right())
    inside &= (high[:, 1] >= view.top()) & (low[:, 1] <= view.bottom())
    seen = np.flatnonzero(inside)
    if len(seen):
        painter.drawPolyline(polygon(points[seen[0] : seen[-1] + 2]))


def hull(points: Floats) -> Floats:
    """Convex hull of points (n, 2), counter-clockwise: Andrew's monotone chain."""
    rows = sorted(map(tuple, points.tolist()))
    halves: list[list[tuple[float, float]]] = []
    for way in (rows, rows[::-1]):
        half: list[tuple[float, float]] = []
        for p in way:
            while len(half) > 1 and (half[-1][0] - half[-2][0]) * (p[1] - half[-2][1]) <= (
                half[-1][1] - half[-2][1]
            ) * (p[0] - half[-2][0]):
                half.pop()
            half.append(p)
        halves.append(half[:-1])
    return np.array(halves[0] + halves[1])
