"""How far each place of a room is from what stands in it and from its walls, looked up or worked out."""

from __future__ import annotations

import math

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.libraries import library
from waltzmark.core.room.things import Things

__all__ = ["Field", "Walls"]

_RASTER = 0.02  # metres between the points of the raster
_MOST = 400_000  # points of the raster
_BEYOND = 1.0  # metres around the walls that are looked up too
_AT_ONCE = 4_000_000


class Field:
    """How far every place of a room is from the nearest of some things, on a raster.

    high: for what passes above low things.
    """

    def __init__(self, bounds: Floats, things: Things, high: bool) -> None:
        low, top = bounds
        self.low, size = low - _BEYOND, top - low + 2 * _BEYOND
        self.step = max(_RASTER, math.sqrt(float(size[0] * size[1]) / _MOST))
        self.shape = np.ceil(size / self.step).astype(np.int64) + 1
        x, y = (self.low[axis] + self.step * np.arange(self.shape[axis]) for axis in (0, 1))
        self.values = things.free_on(x, y, high).astype(np.float32).reshape(-1)
        #: A value that is looked up is at most so far from the true one, metres.
        self.error = self.step * math.sqrt(0.5)

    def spare(self, points: Floats, needs: Floats, starts: Floats) -> Floats:
        """(k, m) what places (m, 2) have to spare from starts (k, 2), needs (m,) being taken off each."""
        scaled = ((points - self.low) / self.step + 0.5).astype(np.float32)
        begun = (starts / self.step).astype(np.float32)
        wide, high = int(self.shape[0]), int(self.shape[1])
        x = (begun[:, :1] + scaled[:, 0]).astype(np.int32)
        y = (begun[:, 1:] + scaled[:, 1]).astype(np.int32)
        np.clip(x, 0, wide - 1, out=x)
        np.clip(y, 0, high - 1, out=y)
        y *= wide
        y += x
        return np.asarray(self.values.take(y) - needs.astype(np.float32))

    def least(self, points: Floats, needs: Floats, starts: Floats) -> Floats:
        """(k,) the least of these of each start."""
        best = np.empty(len(starts), dtype=np.float64)
        at_once = max(_AT_ONCE // max(len(points), 1), 1)
        for first in range(0, len(starts), at_once):
            begun = starts[first : first + at_once]
            best[first : first + at_once] = self.spare(points, needs, begun).min(axis=1)
        return best


class Walls:
    """The straight walls around a room, and what starts have to spare to them: exact, without looking at places."""

    def __init__(self, outline: Floats) -> None:
        convex_hull = library("scipy.spatial").ConvexHull

        hull = convex_hull(outline)
        self.convex = len(hull.vertices) == len(outline) or math.isclose(hull.volume, abs(_area(outline)))
        self.normals, self.offsets = -hull.equations[:, :2], -hull.equations[:, 2]

    def at(self, points: Floats, needs: Floats) -> Floats:
        """(k,) what the start at the origin has to spare to each wall, for places (m, 2) in the room frame."""
        if not len(points):
            return np.full(len(self.offsets), np.inf)
        return np.asarray((points @ self.normals.T - needs[:, None]).min(axis=0) + self.offsets)

    def spare(self, starts: Floats, at: Floats) -> Floats:
        """(k,) what starts (k, 2) have to spare to the nearest wall."""
        return np.asarray((starts @ self.normals.T + at).min(axis=1))


def _area(outline: Floats) -> float:
    after = np.roll(outline, -1, axis=0)
    return float((outline[:, 0] * after[:, 1] - after[:, 0] * outline[:, 1]).sum()) / 2.0
