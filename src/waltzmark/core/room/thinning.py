"""Fewer places that stand for all of them, and squares of starts that are divided."""

from __future__ import annotations

from contextlib import suppress

import numpy as np

from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.libraries import library
from waltzmark.core.room.sweep import Places

__all__ = ["at_the_edge", "on_hulls", "quarters_of", "squares_over"]


def squares_over(low: Floats, top: Floats, half: float) -> Floats:
    """(k, 2) middles of squares that cover a box."""
    counts = np.maximum(np.ceil((top - low) / (2 * half) - 1e-9), 1)
    first = (low + top) / 2.0 - half * counts
    x, y = (first[axis] + half * (2 * np.arange(counts[axis]) + 1) for axis in (0, 1))
    return np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)


def quarters_of(squares: Floats, half: float) -> Floats:
    """(4k, 2) middles of the quarters of squares."""
    quarter = half / 2.0 * np.array([[-1.0, -1.0], [1.0, -1.0], [-1.0, 1.0], [1.0, 1.0]])
    return np.asarray((squares[:, None, :] + quarter).reshape(-1, 2))


def on_hulls(points: Floats, needs: Floats) -> Ints:
    """Numbers of the places that can be the outmost of all in some direction: corners of the hull of each kind."""
    spatial = library("scipy.spatial")
    found: list[Ints] = []
    for need in np.unique(needs).tolist():
        here = np.flatnonzero(needs == need)
        if len(here) > 2:
            with suppress(spatial.QhullError):  # all in a row: none is left out
                here = here[spatial.ConvexHull(points[here]).vertices]
        found.append(here)
    return np.sort(np.concatenate(found)) if found else np.zeros(0, dtype=np.int64)


def at_the_edge(places: Places, cell: float) -> Ints:
    """Numbers of places, one of each cell, at the edge of what their kind sweeps.

    They lie in no larger disc.
    """
    tree_of = library("scipy.spatial").cKDTree

    kinds = places.kinds
    found: list[Ints] = []
    for kind in range(int(kinds.max(initial=-1)), -1, -1):
        here = np.flatnonzero(kinds == kind)
        points = places.points[here]
        at = np.floor((points - points.min(axis=0)) / cell).astype(np.int64) + 1
        wide, high = (at.max(axis=0) + 2).tolist()
        cells = at[:, 0] * high + at[:, 1]
        if wide * high <= 4_000_000:
            taken = np.zeros((wide, high), dtype=bool)
            taken.reshape(-1)[cells] = True
            across = taken[:-2] & taken[1:-1] & taken[2:]
            edge = taken.copy()  # nothing is taken at its rim
            edge[1:-1, 1:-1] &= ~(across[:, :-2] & across[:, 1:-1] & across[:, 2:])
            which = np.empty(wide * high, dtype=np.int64)
            which[cells[::-1]] = np.arange(len(cells))[::-1]  # of those in one cell the first is written last
            first = which[np.flatnonzero(edge)]
        else:
            _, first = np.unique(cells, return_index=True)
        here = here[first]
        for larger in found:
            # What lies within a larger disc of the same kind is never nearest.
            over = float(places.radii[larger[0]] - places.radii[here[0]]) if len(larger) and len(here) else -1.0
            if over <= 0 or not np.isnan(places.back[here[0]]) or (places.high[larger[0]] and not places.high[here[0]]):
                continue
            away, _ = tree_of(places.points[larger]).query(places.points[here], distance_upper_bound=over)
            here = here[~(away <= over)]
        found.append(here)
    return np.sort(np.concatenate(found))
