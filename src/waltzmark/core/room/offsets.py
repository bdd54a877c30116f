"""What the way from one walker of a class to another does to the room between them.

Each may be early or late, so any two may be apart in time by up to twice that; the clocks stand still at both ends.
Whatever two walkers do, they come too near when the way from one's start to the other's falls into a forbidden offset:
these are discs about the differences of where their parts are, over all times and lags. Soles are taken as rows of
discs. Everything is found on the sampled walk.
"""

from __future__ import annotations

import math
from functools import cached_property

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.base.libraries import library
from waltzmark.core.room.sweep import SHOE_MARGIN
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.motion import ease, feet_between
from waltzmark.core.walk.trace import Trace

__all__ = ["BEATS_OFF", "Offsets"]

#: Beats that each walker may be early or late unless somebody asks otherwise.
BEATS_OFF = 1.0
_BEAT = 0.25  # beats from one sample to the next
_MOST_SAMPLES = 4000
_DISCS = (-0.02, 0.16, 0.34, 0.52, 0.70, 0.76)  # middles along a sole, foot lengths ahead of the heel centre
_CELL = 0.02  # metres within which differences are told as one


class Offsets:
    """What the way from one walker to another does to the room between them, all of it in the walker's own frame."""

    def __init__(self, trace: Trace, off: float = BEATS_OFF) -> None:
        self.trace, self.off = trace, off
        self.times, self.parts, self.radii = _sampled(trace)

    @cached_property
    def _lags(self) -> Ints:
        step = float(self.times[1] - self.times[0]) if len(self.times) > 1 else 1.0
        most = min(round(2.0 * self.off / step), len(self.times))
        return np.arange(-most, most + 1)

    @cached_property
    def _trees(self) -> list[tuple[float, object]]:
        """For each sum of two radii, the differences of where those parts are, at the edge of all.

        At any time and lag: those within are never nearest, and where two walkers meet it is no layout.
        """
        ndimage = library("scipy.ndimage")
        binary_erosion, binary_fill_holes = ndimage.binary_erosion, ndimage.binary_fill_holes
        tree_of = library("scipy.spatial").cKDTree

        n, kinds = len(self.times), np.round(self.radii, 6)
        span = self.parts.reshape(-1, 2).max(axis=0) - self.parts.reshape(-1, 2).min(axis=0)
        middle = np.ceil(span / _CELL).astype(np.int64) + 2
        taken: dict[float, Bools] = {}
        for one in np.unique(kinds).tolist():
            for other in np.unique(kinds).tolist():
                map_ = taken.setdefault(round(one + other, 6), np.zeros(2 * middle + 1, dtype=bool))
                a, b = self.parts[:, kinds == one], self.parts[:, kinds == other]
                for lag in self._lags.tolist():
                    later = np.clip(np.arange(n) + lag, 0, n - 1)
                    ways = (a[:, :, None] - b[later][:, None]).reshape(-1, 2)
                    at = np.floor(ways / _CELL).astype(np.int64) + middle
                    map_[at[:, 0], at[:, 1]] = True
        trees = []
        for radii, map_ in taken.items():
            whole = binary_fill_holes(map_)
            at = np.argwhere(whole & ~binary_erosion(whole))
            trees.append((radii, tree_of((at - middle + 0.5) * _CELL)))
        return trees

    @cached_property
    def reach(self) -> float:
        """How far apart two walkers may be, along either axis of their frame, and still come nearer than 0, metres."""
        return max(float(np.abs(tree.data).max()) + radii + _CELL for radii, tree in self._trees)  # type: ignore[attr-defined]

    def gaps(self, ways: Floats) -> Floats:
        """(k,) the least distance of two walkers, metres, to about a centimetre.

        Their starts lie such ways (k, 2) apart in their own frame; not less than 0 where they meet.
        """
        least = np.full(len(ways), np.inf)
        for radii, tree in self._trees:
            away, _ = tree.query(ways)  # type: ignore[attr-defined]
            least = np.minimum(least, away - radii)
        return least - _CELL * math.sqrt(0.5)

    def tightest(self, way: Floats) -> tuple[float, float, float, Floats]:
        """The least distance of two walkers, and where and when it is.

        The second lies such a way (2,) from the first; in metres, at which beat of the first, by how many beats the
        second is ahead then, and (2, 2) the nearest places, from the first one's start.
        """
        best = (np.inf, 0.0, 0.0, np.zeros((2, 2)))
        n, (x, y) = len(self.times), np.moveaxis(self.parts, 2, 0)
        both = self.radii[:, None] + self.radii
        for lag in self._lags.tolist():
            later = np.clip(np.arange(n) + lag, 0, n - 1)
            away, up = x[:, :, None] - x[later][:, None], y[:, :, None] - y[later][:, None]
            away -= way[0]
            up -= way[1]
            away *= away
            up *= up
            away += up
            gap = np.sqrt(away, out=away)
            gap -= both
            at, one, other = np.unravel_index(int(gap.argmin()), gap.shape)
            if gap[at, one, other] < best[0]:
                a, b = self.parts[at, one], self.parts[later[at], other] + way
                along = (b - a) / max(float(np.hypot(*(b - a))), 1e-9)
                ends = np.stack([a + along * self.radii[one], b - along * self.radii[other]])
                ahead = float(self.times[later[at]] - self.times[at])
                best = float(gap[at, one, other]), float(self.times[at]), ahead, ends
        return best


def _sampled(trace: Trace) -> tuple[Floats, Floats, Floats]:
    """(n,) beats, (n, parts, 2) where body and soles are then, and (parts,) their radii, metres."""
    beats = trace.beats.copy()
    beats[0] = 0.0
    ends = np.cumsum(beats)
    whole = float(ends[-1])
    times = np.linspace(0.0, whole, min(math.ceil(whole / _BEAT) + 1, _MOST_SAMPLES)) if whole else np.zeros(1)
    rows = np.minimum(np.searchsorted(ends, times - 1e-9), len(trace) - 1)
    share = np.where(rows > 0, 1.0 - (ends[rows] - times) / np.maximum(beats[rows], 1e-9), 1.0)
    share = np.clip(share, 0.0, 1.0)
    pelvis = Mechanics(trace).pelvis_places
    before = np.maximum(rows - 1, 0)
    parts = [pelvis[before] + ease(share)[:, None] * (pelvis[rows] - pelvis[before])]
    radii = [trace.body.shoulder_breadth / 2.0]
    for side in SIDES:
        placed = _foot(trace, side, rows, ease(share))
        angle = np.radians(placed[:, 2])
        way = np.column_stack([np.sin(angle), np.cos(angle)])
        for along in _DISCS:
            parts.append(placed[:, :2] + along * trace.body.sole.of(side) * way)
            radii.append(trace.body.foot_breadth / 2.0 + SHOE_MARGIN)
    return times, np.stack(parts, axis=1), np.array(radii)


def _foot(trace: Trace, side: Side, rows: Ints, share: Floats) -> Floats:
    """(n, 3) heel and heading of a foot when so much of the counts of some rows has been walked."""
    placed = np.concatenate([trace.heels[rows, side], trace.headings[rows, side, None]], axis=1)
    moved, ways = feet_between(trace, side, np.linspace(0.0, 1.0, 65))
    at = np.full(len(trace), -1)
    at[moved] = np.arange(len(moved))
    here = at[rows] >= 0
    placed[here] = ways[at[rows[here]], np.round(share[here] * 64).astype(np.int64)]
    return placed
