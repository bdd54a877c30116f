"""The places a walk sweeps on the floor: soles on their way, the body above them, arms and kicks.

Everything is a place with a radius, in the floor frame: a point of a sole with the shoe's margin, the pelvis centre
with the body's radius. So a clearance is the least of distances, and the sweep is made once and moved about.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from functools import cached_property

import numpy as np

from waltzmark.core.base.angles import ahead
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.foot import LANDMARKS
from waltzmark.core.score import actions as act
from waltzmark.core.walk.annotations import hands_at, kicks_out
from waltzmark.core.walk.ground import STEP
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.motion import feet_between
from waltzmark.core.walk.trace import Trace

__all__ = ["BODY", "CELL", "SHOE_MARGIN", "Places", "Sweep"]

#: What a place is of that is of no foot.
BODY = -1
#: How far a shoe stands out around the sole, metres.
SHOE_MARGIN = 0.03
_SAMPLES = 33  # places of a foot on its way
_TIMES = np.linspace(0.0, 1.0, _SAMPLES)
_SOLE_STEP = 2  # every so many points of the drawn outline are enough for clearances
#: Places of a move within a square of so many metres are looked at together first.
CELL = 0.04
_LINE = 0.02  # metres between the places of a line, such as the pelvis' way


class Places(Record, eq=False):
    """Swept places.

    points: (m, 2) metres in the floor frame; radii: (m,) metres about each; rows: (m,) the row each belongs to; high:
    (m,) whether it is of the arms, which pass above what is low; back: (m,) of a foot that steps backward the heading
    that is behind it, degrees in the floor frame, else NaN; of: (m,) the side of the foot it is of, `BODY` for the
    body; share: (m,) how much of the way of its count has been gone there, 0 to 1.
    """

    points: Floats
    radii: Floats
    rows: Ints
    high: Bools
    back: Floats
    of: Ints
    share: Floats

    def __len__(self) -> int:
        return len(self.points)

    def __getitem__(self, which: Bools | Ints) -> Places:
        return Places(
            self.points[which],
            self.radii[which],
            self.rows[which],
            self.high[which],
            self.back[which],
            self.of[which],
            self.share[which],
        )

    @staticmethod
    def joined(*parts: Places) -> Places:
        """All of several."""
        return Places(
            np.concatenate([part.points for part in parts]),
            np.concatenate([part.radii for part in parts]),
            np.concatenate([part.rows for part in parts]),
            np.concatenate([part.high for part in parts]),
            np.concatenate([part.back for part in parts]),
            np.concatenate([part.of for part in parts]),
            np.concatenate([part.share for part in parts]),
        )

    @staticmethod
    def made(
        points: Floats,
        radii: Floats | float,
        rows: Ints,
        share: Floats | float = 1.0,
        high: bool = False,
        back: Floats | None = None,
        of: int = BODY,
    ) -> Places:
        """Places of one kind."""
        n = len(points)
        none = np.zeros(n, dtype=bool)
        return Places(
            points,
            np.broadcast_to(radii, (n,)).astype(float),
            rows,
            none | high,
            np.full(n, np.nan) if back is None else back,
            np.full(n, of),
            np.broadcast_to(share, (n,)).astype(float),
        )

    @property
    def kinds(self) -> Ints:
        """(m,) a number for each kind of place.

        Places of one kind have one radius, pass above the same things and want the same behind them.
        """
        behind = np.where(np.isnan(self.back), -1, np.round(np.nan_to_num(self.back) * 10.0)).astype(np.int64)
        radii = np.round(self.radii * 1e6).astype(np.int64)
        each = (radii * 2 + self.high) * 3602 + behind
        begins = np.flatnonzero(np.diff(each, prepend=each[:1] - 1))  # places of one kind mostly come together
        kinds = np.unique(each[begins], return_inverse=True)[1]
        return np.asarray(np.repeat(kinds, np.diff(begins, append=len(each))))


class Sweep:
    """What a walk sweeps. arms: whether the arms' reach counts; rows: only these rows (n,) of it, all unless given.

    A foot's way is known by a disc about each of its moves; where exactly its sole goes is worked out for those moves
    that can matter. So whether a long walk fits is found in a few milliseconds. One that is to be moved about is
    `prepared` first: then a few places stand for each move.
    """

    _prepared: tuple[Places, Ints] | None = None

    def __init__(self, trace: Trace, arms: bool = False, rows: Bools | None = None) -> None:
        self.trace = trace
        self._wanted = np.ones(len(trace), dtype=bool) if rows is None else rows
        self.body = _kept(self._wanted, _body(trace), _kicks(trace), *((_arms(trace),) if arms else ()))
        self._moves = [self._ways(side) for side in SIDES]

    def _ways(self, side: Side) -> tuple[Ints, Floats, Floats]:
        """Rows (k,) in which a foot moves, or that begin the walk, with its placings.

        Placings: (k, times, 3); what is behind those that step backward, as `Places.back`.
        """
        rows, ways = feet_between(self.trace, side, _TIMES)
        opening = np.array([*self.trace.heels[0, side], self.trace.headings[0, side]])
        # Where a foot stands when these rows begin, if it has not moved in them before.
        ways = np.concatenate([np.broadcast_to(opening, (1, _SAMPLES, 3)), ways])
        rows = np.concatenate([[0], rows]).astype(np.int64)
        here = self._wanted[rows]
        if not self._wanted[0] and self._wanted.any():
            first = int(np.argmax(self._wanted))
            stands = np.array([*self.trace.heels[first - 1, side], self.trace.headings[first - 1, side]])
            ways = np.concatenate([np.broadcast_to(stands, (1, _SAMPLES, 3)), ways[here]])
            rows = np.concatenate([[first], rows[here]])
        else:
            ways, rows = ways[here], rows[here]
        return rows, ways, _backward(self.trace, side)[rows]

    @cached_property
    def _discs(self) -> tuple[Floats, Floats]:
        """(k, 2) and (k,) a disc that holds the sole on each move of either foot, with its margin."""
        centres, radii = [], []
        for side, (_, ways, _) in zip(Side, self._moves, strict=True):
            heels = ways[:, :, :2]
            middle = (heels.min(axis=1) + heels.max(axis=1)) / 2.0
            far = np.sqrt(((heels - middle[:, None]) ** 2).sum(axis=2)).max(axis=1)
            sole = LANDMARKS["toe"] * self.trace.body.sole.of(side) + self.trace.body.foot_breadth / 2.0
            centres.append(middle)
            radii.append(far + sole + SHOE_MARGIN)
        return np.concatenate(centres), np.concatenate(radii)

    def prepare(self) -> None:
        """Makes ready for being asked about many starts: one place stands for all of its kind within `CELL`."""
        if self._prepared is None:
            every = self.every
            at = np.floor(every.points / CELL).astype(np.int64)
            at -= at.min(axis=0)
            wide, high = (at.max(axis=0) + 1).tolist()
            cell = (every.kinds * wide + at[:, 0]) * high + at[:, 1]
            order = np.argsort(cell, kind="stable")
            first = np.flatnonzero(np.diff(cell[order], prepend=-1))
            self.every = every[order]
            self._prepared = self.every[first], np.append(first, len(order))

    def soles(self, which: Bools | None = None) -> Places:
        """The places of the soles on some of the moves (k,), or on all."""
        parts, at = [], 0
        sole = self.trace.body.sole
        for side, (rows, ways, back) in zip(Side, self._moves, strict=True):
            here = slice(None) if which is None else which[at : at + len(rows)]
            at += len(rows)
            local = sole.outlines[side][::_SOLE_STEP]
            placed = ways[here]
            corners = sole.placed(local, placed[..., 0].ravel(), placed[..., 1].ravel(), placed[..., 2].ravel())
            each = _SAMPLES * len(local)
            of = np.repeat(rows[here], each)
            share = np.tile(np.repeat(_TIMES, len(local)), len(placed))
            points = corners.reshape(-1, 2)
            parts.append(Places.made(points, SHOE_MARGIN, of, share, back=np.repeat(back[here], each), of=int(side)))
        return Places.joined(*parts)

    def near(self, spare: Callable[[Places, bool], tuple[Floats, Floats]]) -> Places:
        """All places that can come nearest.

        spare: gives what some places (m,) have to spare, metres, and what they have where more is wanted behind them,
        and is told whether they are real ones or only hold such; it may give too much where that is more than the least
        it has given for real ones, and more than nothing. All places are given that have less than nothing to spare
        behind them.
        """
        if self._prepared is None:
            bound = float(spare(self.body, True)[0].min())
            centres, radii = self._discs
            _, _, back = (np.concatenate(parts) for parts in zip(*self._moves, strict=True))
            discs = Places.made(centres, radii, np.zeros(len(centres), dtype=np.int64), back=back)
            front, behind = spare(discs, False)
            return Places.joined(self.body, self.soles((front < bound) | (behind < 0.0)))
        places, first = self._prepared
        reach = CELL * math.sqrt(2.0)
        front, behind = spare(places, True)
        cells = (front < front.min() + reach) | (behind < reach)
        starts, counts = first[:-1][cells], np.diff(first)[cells]
        ends = np.cumsum(counts)
        return self.every[np.arange(ends[-1]) + np.repeat(starts - ends + counts, counts)]

    @cached_property
    def every(self) -> Places:
        """All places."""
        return Places.joined(self.body, self.soles())


def _kept(wanted: Bools, *parts: Places) -> Places:
    whole = Places.joined(*parts)
    return whole if wanted.all() else whole[wanted[whole.rows]]


def _backward(trace: Trace, side: Side) -> Floats:
    """(n,) the heading that is behind a foot which steps backward in a row, else NaN.

    It lands behind the standing foot in the frame of the stance's facing, and what is behind is opposite that facing.
    """
    way = trace.heels[:, side] - trace.heels[:, side.other]
    angle = np.radians(trace.facing)
    along = way[:, 0] * np.sin(angle) + way[:, 1] * np.cos(angle)
    steps = trace.move_kinds[:, side] == STEP
    # A follow-up half step ends behind too, but comes from further behind.
    before = np.roll(trace.heels[:, side], 1, axis=0) - trace.heels[:, side.other]
    came = before[:, 0] * np.sin(angle) + before[:, 1] * np.cos(angle)
    back = steps & (along < -0.05) & (came > along + 0.05)
    return np.where(back, np.mod(trace.facing + 180.0, 360.0), np.nan)


def _body(trace: Trace) -> Places:
    """Discs of half the shoulder breadth about the pelvis centre, which is taken to move straight between counts."""
    centres = Mechanics(trace).pelvis_places
    before = np.concatenate([centres[:1], centres[:-1]])
    points, of, share = _along(before, centres)
    return Places.made(points, trace.body.shoulder_breadth / 2.0, of, share)


def _kicks(trace: Trace) -> Places:
    """A leg that kicks sweeps the floor below it, from the pelvis to the foot."""
    kicks = kicks_out(trace)
    if not kicks:
        return Places.made(np.zeros((0, 2)), 0.0, np.zeros(0, dtype=np.int64))
    centres = Mechanics(trace).pelvis_places[[row for row, _ in kicks]]
    ends = centres + np.array([mark.reach * np.array(ahead(mark.heading)) for _, mark in kicks])
    points, of, _ = _along(centres, ends)
    return Places.made(points, SHOE_MARGIN + trace.body.foot_breadth / 2.0, np.array([row for row, _ in kicks])[of])


def _arms(trace: Trace) -> Places:
    """Where the hands reach.

    A hand that is stated reaches half the shoulder breadth and 0.85 of the arm from the pelvis centre, the way it
    points; where a hand is not, the arms reach 0.35 of the stature all round (assumption). What is held adds to both.
    """
    body, pelvis = trace.body, Mechanics(trace).pelvis_places
    far = body.shoulder_breadth / 2.0 + 0.85 * body.measure("arm") + body.implement
    starts: list[Floats] = []
    ends: list[Floats] = []
    of: list[int] = []
    reach: list[float] = []
    has_hands = any(True for _ in trace.of_kind(act.Hand))
    for row, centre in enumerate(pelvis):
        hands = hands_at(trace, row) if has_hands else ()
        for hand in hands:
            starts.append(centre)
            ends.append(centre + far * np.array(ahead(hand.heading)))
            of.append(row)
            reach.append(0.0)
        if len(hands) < 2:
            starts.append(centre)
            ends.append(centre)
            of.append(row)
            reach.append(0.35 * body.stature + body.implement)
    points, which, _ = _along(np.array(starts), np.array(ends))
    return Places.made(points, np.array(reach)[which], np.array(of, dtype=np.int64)[which], high=True)


def _along(starts: Floats, ends: Floats) -> tuple[Floats, Ints, Floats]:
    """Points (m, 2) along lines from *starts* to *ends* (k, 2), both ends among them.

    With (m,) the line of each, and (m,) how much of it lies before, 0 to 1.
    """
    parts = np.ceil(np.hypot(*(ends - starts).T) / _LINE - 1e-9).astype(np.int64)
    of = np.repeat(np.arange(len(starts)), parts + 1)
    first = np.cumsum(parts + 1) - (parts + 1)
    share = (np.arange(len(of)) - first[of]) / np.maximum(parts, 1)[of]
    share = np.where(parts[of] > 0, share, 1.0)
    return np.asarray(starts[of] + share[:, None] * (ends - starts)[of]), of, share
