"""Outlines of rooms and of what stands in them: simple polygons, and where one is none."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.messages import Message

__all__ = ["LARGEST", "Point", "check_outline", "turns_left"]

Point = tuple[float, float]
LARGEST = 1000.0
"""No room is larger than this, metres."""

#: From so many corners on an outline is looked through by Shapely first.
_MANY = 60


def turns_left(outline: tuple[Point, ...]) -> bool:
    """Whether the corners go round counter-clockwise, the floor to the left of each side."""
    pairs = zip(outline, outline[1:] + outline[:1], strict=True)
    return sum(x1 * y2 - x2 * y1 for (x1, y1), (x2, y2) in pairs) > 0


def check_outline(outline: tuple[Point, ...], what: Message) -> None:
    """Raises WaltzmarkError saying where an outline has too few corners, is impossibly large or crosses itself."""
    if len(outline) < 3:
        raise WaltzmarkError("outline.corners", what=what, n=len(outline))
    for number, (x, y) in enumerate(outline, 1):
        if not (math.isfinite(x) and math.isfinite(y) and max(abs(x), abs(y)) <= LARGEST):
            raise WaltzmarkError("outline.far", what=what, corner=number, x=x, y=y, most=LARGEST)
    crossing = _first_crossing(outline)
    if crossing:
        first, second = crossing
        raise WaltzmarkError("outline.crosses", what=what, first=first, second=second)
    area = sum(x1 * y2 - x2 * y1 for (x1, y1), (x2, y2) in zip(outline, outline[1:] + outline[:1], strict=True)) / 2
    if abs(area) < 1e-4:
        raise WaltzmarkError("outline.flat", what=what)


@lru_cache(maxsize=256)  # a room is made anew for each start that is tried, its outline is not
def _first_crossing(outline: tuple[Point, ...]) -> tuple[int, int] | None:
    """Numbers of the corners before the first two sides that touch without being neighbours, or lie on each other."""
    n = len(outline)
    corners = np.array(outline, dtype=float)
    after = np.roll(corners, -1, axis=0)
    empty = np.flatnonzero((corners == after).all(axis=1))
    if len(empty):
        return int(empty[0]) + 1, int(empty[0]) + 1
    if n > _MANY:
        import shapely  # it sweeps over the sides instead of holding each against each, but brings a slow import

        if shapely.is_simple(shapely.linearrings(corners)):
            return None
    touches = _touching(corners, after)
    number = np.arange(n)
    apart = (number[None, :] - number[:, None]) % n
    touches &= (apart > 1) & (apart < n - 1)
    # Neighbours share a corner: they lie on each other where the second goes back along the first.
    way = after - corners
    on = np.roll(way, -1, axis=0)
    back = (_cross(way, on) == 0) & ((way * on).sum(axis=1) < 0)
    touches[number[back], (number[back] + 1) % n] = True
    found = np.argwhere(touches)
    if not len(found):
        return None
    first, second = sorted((int(found[0][0]), int(found[0][1])))
    return first + 1, second + 1


def _cross(a: Floats, b: Floats) -> Floats:
    return np.asarray(a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0])


def _touching(starts: Floats, ends: Floats) -> Bools:
    """(n, n) whether two of n sides, from starts to ends (n, 2), have a point in common."""
    way = ends - starts
    # Row i, column j: on which side of side i the ends of side j lie.
    s1, s2 = (_cross(way[:, None], to[None, :] - starts[:, None]) for to in (starts, ends))
    low, high = np.minimum(starts, ends).T[:, :, None], np.maximum(starts, ends).T[:, :, None]

    def within(points: Floats) -> Bools:
        (left, below), (right, above), (x, y) = low, high, points.T
        return np.asarray((left <= x) & (x <= right) & (below <= y) & (y <= above))

    meets = ((s1 == 0) & within(starts)) | ((s2 == 0) & within(ends))  # an end of side j lies on side i
    across = s1 * s2 < 0
    return np.asarray((across & across.T) | meets | meets.T)
