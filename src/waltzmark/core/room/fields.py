"""How far each place of a room is from what stands in it and from its walls, looked up or worked out."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.libraries import library
from waltzmark.core.room.things import Things

__all__ = ["Field", "Laid", "Walls", "field_of", "walls_of"]

_RASTER = 0.02  # metres between the points of the raster
_MOST = 400_000  # points of the raster
_BEYOND = 1.0  # metres around the walls that are looked up too
_AT_ONCE = 100_000  # places that are looked up together: what fits into the cache


Single = NDArray[np.float32]
Whole = NDArray[np.int32]


class Laid(NamedTuple):
    """Places ready to be looked up: (m,) where they are in cells of a raster, and what is taken off of each.

    bounds: the least and the greatest of the cells across, and of those up.
    """

    x: Single
    y: Single
    needs: Single
    bounds: tuple[float, float, float, float]


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

    def laid(self, points: Floats, needs: Floats) -> Laid:
        """Places (m, 2) ready to be looked up from many starts; needs (m,) are taken off what each has to spare."""
        scaled = ((points - self.low) / self.step + 0.5).astype(np.float32)
        x, y = np.ascontiguousarray(scaled[:, 0]), np.ascontiguousarray(scaled[:, 1])
        bounds = (float(x.min()), float(x.max()), float(y.min()), float(y.max())) if len(x) else (0.0, 0.0, 0.0, 0.0)
        return Laid(x, y, needs.astype(np.float32), bounds)

    def spare(self, laid: Laid, starts: Floats) -> Floats:
        """(k, m) what places have to spare from starts (k, 2)."""
        begun = (starts / self.step).astype(np.float32)
        wide, high = int(self.shape[0]), int(self.shape[1])
        x = _cells(begun[:, :1], laid.x, laid.bounds[:2], wide)
        y = _cells(begun[:, 1:], laid.y, laid.bounds[2:], high)
        y *= wide
        y += x
        found = self.values.take(y, mode="wrap")  # none is out of range; to raise for one takes as long again
        found -= laid.needs
        return np.asarray(found)

    def least(self, laid: Laid, starts: Floats) -> Floats:
        """(k,) the least of these of each start."""
        best = np.empty(len(starts), dtype=np.float64)
        at_once = max(_AT_ONCE // max(len(laid.x), 1), 1)
        for first in range(0, len(starts), at_once):
            best[first : first + at_once] = self.spare(laid, starts[first : first + at_once]).min(axis=1)
        return best


@lru_cache(maxsize=4)
def field_of(things: Things, high: bool = False) -> Field:
    """The raster of a room: made once, however many walks are looked at in it."""
    return Field(things.bounds, things, high)


def _cells(begun: Single, along: Single, bounds: tuple[float, float], many: int) -> Whole:
    """(k, m) the cell of a row of so many that each place is in from each start; the first or last one beyond it."""
    cells = (begun + along).astype(np.int32)
    if len(begun) and not (float(begun.min()) + bounds[0] > 1.0 and float(begun.max()) + bounds[1] < many - 1.0):
        np.clip(cells, 0, many - 1, out=cells)
    return cells


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


@lru_cache(maxsize=4)
def walls_of(things: Things) -> Walls:
    """The straight walls around a room."""
    return Walls(things.every[0].corners)


def _area(outline: Floats) -> float:
    after = np.roll(outline, -1, axis=0)
    return float((outline[:, 0] * after[:, 1] - after[:, 0] * outline[:, 1]).sum()) / 2.0
