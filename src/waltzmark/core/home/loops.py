"""Drills hidden in a form: runs of its postures, in order, that end as they begin, so that they can be walked again.

A posture is its recorded rigid motion between the stance it is entered in and the one it is left in. A join costs what
these two differ by, each in its own frame: cm, degrees and % of the weight. What is searched, and searched completely:
any run of consecutive postures with up to K of its postures left out (leaving out ones at its ends is a shorter run),
and a run with one inner run of any length left out beside. Drift and turn belong to the whole loop.
"""

from __future__ import annotations

import math

import numpy as np

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record
from waltzmark.core.walk.joins import LIMITS, WEIGHTS, Join, mismatches, stance
from waltzmark.core.walk.trace import Trace

Complexes = np.ndarray[tuple[int, ...], np.dtype[np.complex128]]

__all__ = ["LOOPS", "Loop", "loops_of", "with_back"]

#: Postures of a form that is searched: the work grows with their cube.
MOST_POSTURES = 500
#: So many loops are told.
LOOPS = 12
_LEAST = 2  # postures of a loop
_DRIFT = 10.0  # what a metre of drift costs
_VARIETY = 1.0  # what each posture that is kept is worth
_ALIKE = 2  # loops that begin and end alike that are told at most


class Loop(Record):
    """One drill.

    postures, left_out: numbers of postures, from 0; drift: metres right and ahead in the frame of its beginning; turn:
    degrees a round, clockwise; joins: at each place where something is left out, and the last, back to its beginning;
    beats: of a round.
    """

    postures: tuple[int, ...]
    left_out: tuple[int, ...]
    drift: tuple[float, float]
    turn: float
    joins: tuple[Join, ...]
    beats: float

    @property
    def blocks(self) -> tuple[tuple[int, ...], ...]:
        """What is left out, in runs of postures that follow each other."""
        runs: list[tuple[int, ...]] = []
        for each in self.left_out:
            if runs and runs[-1][-1] == each - 1:
                runs[-1] = (*runs[-1], each)
            else:
                runs.append((each,))
        return tuple(runs)

    @property
    def joined(self) -> tuple[tuple[int, int], ...]:
        """(posture left, posture entered) at each of its joins."""
        after = (*self.postures[1:], self.postures[0])
        return tuple((one, other) for one, other in zip(self.postures, after, strict=True) if other != one + 1)

    @property
    def away(self) -> float:
        """How far a round carries, metres."""
        return math.hypot(*self.drift)

    @property
    def worst(self) -> Join:
        """The most of each that any join differs by."""
        return Join(*(max(values) for values in zip(*((j.cm, j.degrees, j.percent) for j in self.joins), strict=True)))

    @property
    def cost(self) -> float:
        """What loops are ranked by: what is left out within, mismatch of joins, drift, less the variety kept."""
        joins = sum(join.cost for join in self.joins)
        return len(self.left_out) + joins + _DRIFT * self.away - _VARIETY * len(self.postures)


class _Motions(Record, eq=False):
    """Every posture's stance where it is entered and left, in its own frame, and its motion as a turn and a way."""

    enters: Floats  # (n, 7): both heels, both headings relative to the torso, the left share
    leaves: Floats
    turns: Floats  # (n,) degrees
    ways: Floats  # (n, 2) metres, in the frame of the entry
    beats: Floats


def _motions(trace: Trace) -> _Motions:
    enters, leaves, turns, ways, beats = [], [], [], [], []
    for number, passage in enumerate(trace.passages[1:], 1):
        a, b = passage.entry, passage.exit
        enters.append(stance(a))
        leaves.append(stance(b))
        dx, dy = b.midpoint[0] - a.midpoint[0], b.midpoint[1] - a.midpoint[1]
        angle = math.radians(a.torso)
        ways.append([dx * math.cos(angle) - dy * math.sin(angle), dx * math.sin(angle) + dy * math.cos(angle)])
        turns.append(heading_difference(a.torso, b.torso))
        beats.append(float(trace.beats[int(trace.starts[number]) : int(trace.starts[number + 1])].sum()))
    n = len(enters)
    return _Motions(
        np.array(enters).reshape(n, 7),
        np.array(leaves).reshape(n, 7),
        np.array(turns),
        np.array(ways).reshape(n, 2),
        np.array(beats),
    )


def loops_of(trace: Trace, most_left_out: int = 3, most: int = LOOPS, progress: Progress = SILENT) -> tuple[Loop, ...]:
    """The best loops of a walk, the best first, few that begin and end alike.

    most_left_out: K, up to 3. Raises WaltzmarkError for more than `MOST_POSTURES`.
    """
    n = len(trace.passages) - 1
    if n < _LEAST:
        return ()
    if n > MOST_POSTURES:
        raise WaltzmarkError("loops.too-many", most=MOST_POSTURES, n=n)
    motions = _motions(trace)
    search = _Search(motions, min(most_left_out, 3), 20 * most)
    runs = np.argwhere(np.triu(search.fits.T, 1))  # the last posture leaves as the first is entered
    runs = runs[np.argsort(runs[:, 0] - runs[:, 1], kind="stable")]  # long ones first: they are worth the most
    for number, (first, last) in enumerate(runs.tolist()):
        if number % 32 == 0:
            progress.tell(number / len(runs), "loops")
        search.look(first, last)
    told: list[Loop] = []
    for loop in search.found():
        ends = [(each.postures[0], each.postures[-1]) for each in told]
        if ends.count((loop.postures[0], loop.postures[-1])) < _ALIKE:
            told.append(loop)
    return tuple(told[:most])


def with_back(trace: Trace, loop: Loop) -> tuple[Loop, ...]:
    """Why each run of postures is left out: the loop with that run back in it, for each of its `blocks`."""
    motions = _motions(trace)
    mismatch = mismatches(motions.leaves, motions.enters)
    first, last = loop.postures[0], loop.postures[-1]
    return tuple(
        _loop(motions, mismatch, first, last, tuple(each for each in loop.left_out if each not in block))
        for block in loop.blocks
    )


class _Search:
    """All loops of a walk, of which the *most* best are kept.

    A motion is a turn and a way, as complex numbers; leaving out a block of postures is a motion between: so any choice
    of blocks is a product, for whole arrays of choices.
    """

    def __init__(self, motions: _Motions, left_out: int, most: int) -> None:
        self.motions, self.left_out, self.most = motions, left_out, most
        self.mismatch = mismatches(motions.leaves, motions.enters)
        self.fits: Bools = np.all(self.mismatch <= np.array(LIMITS) + 1e-9, axis=2)
        self.costs = self.mismatch @ np.array(WEIGHTS)
        n = len(motions.turns)
        # Where each posture is entered if all are walked: turns counter-clockwise as complex numbers go.
        self.at: Complexes = np.ones(n + 1, dtype=complex)
        self.way: Complexes = np.zeros(n + 1, dtype=complex)
        for k in range(n):
            self.at[k + 1] = self.at[k] * np.exp(-1j * np.radians(motions.turns[k]))
            self.way[k + 1] = self.way[k] + self.at[k] * complex(*motions.ways[k])
        self._bar = math.inf
        self._kept: list[tuple[float, int, int, tuple[int, ...]]] = []

    def _block(self, starts: Ints, length: int) -> tuple[Complexes, Complexes, Floats]:
        """What leaving out so many postures from each of some starts does: turn, way and cost of the join."""
        turn: Complexes = self.at[starts] / self.at[starts + length]
        return turn, self.way[starts] - turn * self.way[starts + length], self.costs[starts - 1, starts + length]

    def look(self, first: int, last: int) -> None:
        """Looks at every choice of what is left out between two postures."""
        length = last - first + 1
        base = float(self.costs[last, first]) - _VARIETY * length
        self._weigh(first, last, np.zeros((1, 0), dtype=np.int64), (), base)
        for sizes in _SIZES:
            if sum(sizes) > self.left_out or base + (1.0 + _VARIETY) * sum(sizes) > self._bar:
                continue
            starts = _choices([self._starts(first, last, size) for size in sizes], sizes)
            if len(starts):
                self._weigh(first, last, starts, sizes, base)
        longest = length - 1 if self.left_out else 0  # whoever wants nothing left out wants no inner run left out
        for size in range(self.left_out + 1, longest):  # one inner run, longer than what is left out singly
            if base + (1.0 + _VARIETY) * size > self._bar:
                break
            starts = self._starts(first, last, size)
            if len(starts):
                self._weigh(first, last, starts[:, None], (size,), base)

    def _starts(self, first: int, last: int, size: int) -> Ints:
        """Where a block of so many postures may be left out within a run, so that its join fits."""
        inner = np.arange(first + 1, last - size + 1)
        return inner[self.fits[inner - 1, inner + size]]

    def _weigh(self, first: int, last: int, starts: Ints, sizes: tuple[int, ...], base: float) -> None:
        """Weighs choices: starts (c, blocks) of blocks of some sizes."""
        if last - first + 1 - sum(sizes) < _LEAST:
            return
        turn = np.full(len(starts), 1.0 / self.at[first])
        way = np.full(len(starts), -self.way[first] / self.at[first])
        cost = np.full(len(starts), base + (1.0 + _VARIETY) * sum(sizes))
        for number, size in enumerate(sizes):
            by, along, join = self._block(starts[:, number], size)
            way, turn, cost = way + turn * along, turn * by, cost + join
        cost = cost + _DRIFT * np.abs(way + turn * self.way[last + 1])
        good = np.flatnonzero(cost <= self._bar)
        if len(good) > self.most:
            good = good[np.argpartition(cost[good], self.most)[: self.most]]
        for at in good.tolist():
            gone = tuple(
                each
                for start, size in zip(starts[at].tolist(), sizes, strict=True)
                for each in range(start, start + size)
            )
            self._kept.append((float(cost[at]), first, last, gone))
        if len(self._kept) > 4 * self.most:
            self._kept = sorted(self._kept)[: self.most]
            self._bar = self._kept[-1][0]

    def found(self) -> list[Loop]:
        """The loops that are kept, the best first."""
        kept = sorted(self._kept)[: self.most]
        return [_loop(self.motions, self.mismatch, first, last, gone) for _, first, last, gone in kept]


#: Blocks that up to three postures are left out in.
_SIZES = ((1,), (2,), (1, 1), (3,), (1, 2), (2, 1), (1, 1, 1))


def _choices(starts: list[Ints], sizes: tuple[int, ...]) -> Ints:
    """(c, blocks) starts of blocks in order, at least one posture between two of them."""
    chosen = starts[0][:, None]
    for block, size in zip(starts[1:], sizes[:-1], strict=True):
        one, other = np.nonzero(chosen[:, -1:] + size < block[None, :])
        chosen = np.concatenate([chosen[one], block[other][:, None]], axis=1)
    return chosen


def _loop(motions: _Motions, mismatch: Floats, first: int, last: int, left_out: tuple[int, ...]) -> Loop:
    gone = set(left_out)
    kept = tuple(each for each in range(first, last + 1) if each not in gone)
    x = y = heading = 0.0
    joins = []
    for number, each in enumerate(kept):
        dx, dy = motions.ways[each]
        angle = math.radians(heading)
        x += dx * math.cos(angle) + dy * math.sin(angle)
        y += dy * math.cos(angle) - dx * math.sin(angle)
        heading += float(motions.turns[each])
        after = kept[(number + 1) % len(kept)]
        if after != each + 1:
            joins.append(Join(*mismatch[each, after].tolist()))
    turn = heading_difference(0.0, heading)
    return Loop(kept, left_out, (x, y), turn, tuple(joins), float(motions.beats[list(kept)].sum()))
