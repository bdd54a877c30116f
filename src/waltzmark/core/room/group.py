"""A class: several walkers of one form at the same time, so placed that they never come too near each other.

One heading for all, and rows and columns. How near two of them come to each other, `Offsets` knows.
"""

from __future__ import annotations

import math
from functools import cached_property

import numpy as np

from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record
from waltzmark.core.form.room import Room, Start, rotated_points
from waltzmark.core.room.clearance import clearance_at
from waltzmark.core.room.offsets import BEATS_OFF, Offsets
from waltzmark.core.room.starts import Starts
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.walk.trace import Trace

__all__ = ["GAP", "Group", "arranged", "greatest"]

#: Metres wanted between two walkers unless somebody asks otherwise.
GAP = 0.30
_GRID = 0.1  # metres from one place that is tried to the next, and from one spacing to the next
_WIDEST = 5.0  # metres between columns or rows
_LOOKED_AT = 60  # lattices that are looked at exactly
_AT_ONCE = 64  # places for a teacher that are looked at together
_TRIED = 20  # and those of them, far enough from all, whose clearance is asked for


class Group(Record):
    """A layout.

    walkers: their starts, row by row from the front; teacher: a place in front, where there is one; gap: the least
    distance in metres between any two, which comes at a *beat* of the first of the *pair*, the second being *lag* beats
    ahead then; points: where the two are nearest then, in the room frame.
    """

    walkers: tuple[Start, ...]
    gap: float
    wanted: float
    beat: float
    lag: float
    pair: tuple[int, int]
    points: tuple[tuple[float, float], tuple[float, float]]
    teacher: Start | None = None


class _Lattices:
    """Rows and columns of walkers in a room at one heading, in the walkers' frame: turned about the room's corner."""

    def __init__(self, starts: Starts, offsets: Offsets, heading: float, gap: float) -> None:
        self.starts, self.offsets, self.heading, self.gap = starts, offsets, heading, gap
        found = starts.map_at(heading)
        y, x = np.nonzero(found.spare >= -found.step)
        free = rotated_points(found.low + found.step * np.column_stack([x, y]), -heading)
        self.low = free.min(axis=0) if len(free) else np.zeros(2)
        size = np.ceil((free.max(axis=0) - self.low) / _GRID).astype(np.int64) + 1 if len(free) else np.zeros(2, int)
        grid = self.low + _GRID * np.stack(np.meshgrid(*(np.arange(n) for n in size)), axis=-1)
        at = (rotated_points(grid, heading) - found.low) / found.step
        column, row = (np.round(at[..., axis]).astype(np.int64) for axis in (0, 1))
        high, wide = found.spare.shape
        inside = (column >= 0) & (row >= 0) & (column < wide) & (row < high)
        self._spare = np.full(grid.shape[:2], -np.inf)
        self._spare[inside] = found.spare[row[inside], column[inside]]
        #: Whether one may stand there, on a grid in the walkers' frame, rows ahead of each other.
        self.free = self._spare >= 0.0
        self._fits: dict[tuple[int, int], bool] = {}  # many lattices share a place

    @cached_property
    def spacings(self) -> list[tuple[float, int, int, int]]:
        """The gap that comes of columns and rows so many steps of the grid apart.

        Every other row is shifted by so many; the widest gap first, those in which two come too near left out.
        """
        high, wide = self.free.shape
        if not high or not wide:
            return []
        most = round(_WIDEST / _GRID)
        across = np.append(np.arange(4, min(wide, most) + 1), wide + most)  # the last: one column, or one row
        down = np.append(np.arange(4, min(high, most) + 1), high + most)
        far = self.offsets.reach + self.gap  # what is further apart never comes near
        n = math.ceil(far / (4 * _GRID))
        number = np.array([(i, j) for j in range(n + 1) for i in range(-n, n + 1) if (j, i) > (0, 0)])
        tried = []
        for staggered in (False, True):
            a, b = (each.ravel() for each in np.meshgrid(across, down))
            shift = a // 2 if staggered else np.zeros_like(a)
            # From a row that is shifted to one that is not, and the other way; with an odd shift these are not mirrors.
            sides = (number[:, 1] % 2) * shift[:, None]
            across_ = number[:, 0] * a[:, None]
            x = np.concatenate([across_ + sides, across_ - sides], axis=1) if staggered else across_
            y = np.tile(number[:, 1] * b[:, None], (1, 2 if staggered else 1))
            ways = _GRID * np.stack([x, y], axis=-1)
            near = (np.abs(ways) < far).all(axis=-1)
            every = np.full(near.shape, np.inf)
            every[near] = self.offsets.gaps(ways[near])
            least = every.min(axis=1)
            tried += [
                (gap, *each)
                for gap, *each in zip(least.tolist(), a.tolist(), b.tolist(), shift.tolist(), strict=True)
                if gap >= self.gap
            ]
        return sorted(tried, key=lambda each: -each[0])

    def counts(self, a: int, b: int, shift: int) -> Ints:
        """(2b, a) how many of a lattice's places are free, by where its first one lies."""
        high, wide = self.free.shape
        rows, columns = -(-high // (2 * b)) * 2 * b, -(-(wide + shift) // a) * a
        whole = np.zeros((rows, columns), dtype=np.int32)
        whole[:high, :wide] = self.free
        blocks = whole.reshape(-1, 2, b, columns)
        here = blocks[:, 0].sum(axis=0).reshape(b, -1, a).sum(axis=1)
        other = blocks[:, 1].sum(axis=0).reshape(b, -1, a).sum(axis=1)
        # Where the first row begins at x, the other begins at x + shift.
        even, odd = np.roll(other, -shift, axis=1), np.roll(here, -shift, axis=1)
        return np.concatenate([here + even, other + odd])

    def places(self, a: int, b: int, shift: int, first: tuple[int, int], least: int = 0) -> Floats:
        """(k, 2) the free places of a lattice, exactly, in the walkers' frame; none where there are not *least*."""
        high, wide = self.free.shape
        y, x = first
        found = [
            (column, row)
            for row in range(y % (2 * b) - 2 * b, high, b)
            if row >= 0
            for column in range((x + shift * ((row - y) // b % 2)) % a, wide, a)
            if self.free[row, column]
        ]
        left, new = len(found), [each for each in found if each not in self._fits]
        known = zip(*self.starts.surely(self.heading, rotated_points(self._at(new), self.heading)), strict=True)
        self._fits |= {each: bool(fits) for each, (fits, doubtful) in zip(new, known, strict=True) if not doubtful}
        for each in sorted(found, key=lambda each: (each not in self._fits, self._spare[each[1], each[0]])):
            left -= not self._stands(each)  # what is known, then the tightest: where too few fit is seen early
            if left < least:
                return np.zeros((0, 2))
        return self._at([each for each in found if self._stands(each)])

    def _at(self, cells: list[tuple[int, int]]) -> Floats:
        """(k, 2) where some columns and rows of the grid are, in the walkers' frame."""
        return np.asarray(self.low + _GRID * np.array(cells, dtype=float).reshape(-1, 2))

    def _stands(self, cell: tuple[int, int]) -> bool:
        """Whether the form fits exactly from a column and row of the grid."""
        if cell not in self._fits:
            start = _start(self._at([cell])[0], self.heading)
            self._fits[cell] = self.starts.check(start).fits
        return self._fits[cell]

    def for_n(self, n: int, progress: Progress) -> Floats | None:
        """(k, 2) places for at least *n*, of the lattice with the widest gap that has them."""
        for number, (_, a, b, shift) in enumerate(self.spacings):
            if number % 20 == 0:
                progress.tell(number / len(self.spacings), "rows-columns")
            counts = self.counts(a, b, shift)
            for _ in range(2):
                first = _fullest(counts)
                if counts[first] < n:
                    break
                places = self.places(a, b, shift, first, n)
                if len(places) >= n:
                    return places
                counts[first] = 0
        return None

    def most(self, progress: Progress) -> Floats:
        """(k, 2) places for as many as there are in any lattice, the one with the widest gap of those."""
        every = []
        for number, (gap, a, b, shift) in enumerate(self.spacings):
            if number % 20 == 0:
                progress.tell(number / len(self.spacings), "rows-columns")
            counts = self.counts(a, b, shift)
            first = _fullest(counts)
            every.append((int(counts[first]), gap, a, b, shift, first))
        best = np.zeros((0, 2))
        for count, _, a, b, shift, first in sorted(every, reverse=True)[:_LOOKED_AT]:
            if count <= len(best):
                break
            places = self.places(a, b, shift, first, len(best) + 1)
            best = places if len(places) > len(best) else best
        return best


def _fullest(counts: Ints) -> tuple[int, int]:
    row, column = divmod(int(np.argmax(counts)), counts.shape[1])
    return row, column


def arranged(
    trace: Trace,
    room: Room,
    n: int,
    heading: float | None = None,
    gap: float = GAP,
    off: float = BEATS_OFF,
    progress: Progress = SILENT,
) -> Group | None:
    """A layout for *n* walkers, the widest apart there is of rows and columns; None where there is none.

    heading: of all; tries the document's own and those that suit the room unless given. gap: metres wanted between
    any two; off: beats that each may be early or late.
    """
    starts, offsets = Starts(Sweep(trace, room.arms), room), Offsets(trace, off)
    for tried in _headings(starts, heading):
        lattices = _Lattices(starts, offsets, tried, gap)
        places = lattices.for_n(n, progress)
        if places is not None:
            return _group(lattices, _chosen(places, n))
    return None


def greatest(
    trace: Trace,
    room: Room,
    heading: float | None = None,
    gap: float = GAP,
    off: float = BEATS_OFF,
    progress: Progress = SILENT,
) -> Group | None:
    """The layout with the most walkers among rows and columns; None where not even one fits."""
    starts, offsets = Starts(Sweep(trace, room.arms), room), Offsets(trace, off)
    best: tuple[_Lattices, Floats] | None = None
    for tried in _headings(starts, heading):
        lattices = _Lattices(starts, offsets, tried, gap)
        places = lattices.most(progress)
        if len(places) and (best is None or len(places) > len(best[1])):
            best = lattices, places
    return None if best is None else _group(best[0], _chosen(best[1], len(best[1])))


def _headings(starts: Starts, heading: float | None) -> list[float]:
    if heading is not None:
        return [heading]
    return list(dict.fromkeys([starts.room.start.heading, *starts.suiting()]))


def _chosen(places: Floats, n: int) -> Floats:
    """(n, 2) so many of the places of a lattice, row by row from the front, those nearest the middle of the room."""
    middle = places.mean(axis=0)
    near = places[np.argsort(np.hypot(*(places - middle).T), kind="stable")[:n]]
    return np.asarray(near[np.lexsort((near[:, 0], -near[:, 1].round(6)))])


def _group(lattices: _Lattices, places: Floats) -> Group:
    """The layout of some places in the walkers' frame."""
    heading, offsets = lattices.heading, lattices.offsets
    pairs = [(i, j) for i in range(len(places)) for j in range(i + 1, len(places))]
    gap, beat, lag, pair, ends = math.inf, 0.0, 0.0, (0, 0), np.zeros((2, 2))
    if pairs:
        ways = np.array([places[j] - places[i] for i, j in pairs])
        near = offsets.gaps(ways)
        known: dict[tuple[float, float], tuple[float, float, float, Floats]] = {}
        for at in np.flatnonzero(near < near.min() + 0.05).tolist():
            x, y = ways[at].round(6).tolist()
            if (x, y) not in known:
                known[x, y] = offsets.tightest(ways[at])
            if known[x, y][0] < gap - 1e-9:
                (gap, beat, lag, ends), pair = known[x, y], pairs[at]
    starts = tuple(_start(place, heading) for place in places)
    (ax, ay), (bx, by) = rotated_points(ends + places[pair[0]], heading).tolist()
    points = ((ax, ay), (bx, by))
    return Group(starts, gap, lattices.gap, beat, lag, pair, points, _teacher(lattices, places))


def _start(place: Floats, heading: float) -> Start:
    x, y = rotated_points(place, heading).tolist()
    return Start(round(x, 4), round(y, 4), heading)


def _teacher(lattices: _Lattices, places: Floats) -> Start | None:
    """A place in front of all, as near to their middle line as there is, from which the form can be walked too."""
    front, middle = float(places[:, 1].max()), float(places[:, 0].mean())
    free = lattices.low + _GRID * np.argwhere(lattices.free)[:, ::-1]
    ahead = free[free[:, 1] > front + 0.3]
    if not len(ahead):
        return None
    ahead = ahead[np.argsort(np.abs(ahead[:, 0] - middle) + 0.2 * (ahead[:, 1] - front), kind="stable")]
    tried = 0
    for first in range(0, len(ahead), _AT_ONCE):  # the nearest first: how far all the others are apart is not needed
        some = ahead[first : first + _AT_ONCE]
        ways = (places[None] - some[:, None]).reshape(-1, 2)
        apart = lattices.offsets.gaps(ways).reshape(len(some), -1).min(axis=1) >= lattices.gap
        for place in some[apart][: _TRIED - tried]:
            start = _start(place, lattices.heading)
            if clearance_at(lattices.starts.sweep, lattices.starts.room, start).fits:
                return start
            tried += 1
        if tried >= _TRIED:
            break
    return None
