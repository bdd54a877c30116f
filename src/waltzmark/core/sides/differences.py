"""Two passages count by count: what each does otherwise, and whether it is written so or comes from the entry.

What is written otherwise shows where it is made and nowhere after: each count of the other passage is walked from the
pose the one was in before it, folded over. What comes from the entry is told by walking the other passage's own words
from the folded entry: what it does otherwise there than where it stands is the entry's.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property
from typing import Literal

import numpy as np

from waltzmark.core.base.angles import heading_difference, heading_differences, normal
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.pose import Pose
from waltzmark.core.score.actions import Pivot
from waltzmark.core.sides.alignment import Match, aligned, likeness
from waltzmark.core.sides.beside import TOPICS, Beside, Topic, beside_of
from waltzmark.core.sides.deeds import MOST, Deeds, costs, deeds_of
from waltzmark.core.sides.folding import Fold
from waltzmark.core.sides.offs import NOTHING, Off, off_between, off_of_deeds
from waltzmark.core.sides.tolerance import SAME, Tolerance
from waltzmark.core.walk.ground import STILL
from waltzmark.core.walk.passage import Passage, row_values, rows_table
from waltzmark.core.walk.step import step
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk_passage

__all__ = ["Cause", "Compared", "CountPair", "Span", "compare", "span_of", "way_between", "written_off"]

_TIE = 0.01
Cause = Literal["none", "entry", "written", "both"]


class Span(Record):
    """Rows of a trace, from *start* up to *stop*, all of one posture."""

    posture: str
    start: int
    stop: int

    def __len__(self) -> int:
        return self.stop - self.start


def span_of(trace: Trace, posture: str) -> Span:
    """All counts of a posture. Raises KeyError."""
    return Span(posture, *trace.span(posture))


class CountPair(Record, dict=True):
    """Two counts side by side.

    count, other: their numbers in their passages' postures; row, other_row: of their traces; None where one side has no
    such count. written: what of feet, weight and chest is written otherwise; carried: what comes from the entry;
    beside: what else is written otherwise.
    """

    count: int | None
    other: int | None
    row: int | None
    other_row: int | None
    written: Off = NOTHING
    carried: Off = NOTHING
    beside: tuple[Beside, ...] = ()

    @property
    def lone(self) -> bool:
        """Whether only one side has it."""
        return self.count is None or self.other is None

    @cached_property
    def off(self) -> Off:
        """All it does otherwise."""
        return self.written if self.carried is NOTHING else self.written + self.carried

    def same(self, within: Tolerance) -> bool:
        return self.feet_same(within) and not (within.beside and self.beside)

    def feet_same(self, within: Tolerance) -> bool:
        """Whether feet, weight and chest do the same."""
        return not self.lone and self.off.same(within)

    def written_same(self, within: Tolerance) -> bool:
        """Whether nothing is written otherwise."""
        return not self.lone and self.written.same(within) and not (within.beside and self.beside)

    def weight(self, within: Tolerance) -> float:
        """How much it matters: how many times its tolerance the worst figure is.

        A count that only one side has comes before all, and what stands beside feet, weight and chest after all that
        they do.
        """
        worst = 1e6 if self.lone else self.off.worst(within)[3]
        return worst if worst > 1.0 + 1e-9 or not self.beside else 1.0 + 1e-9

    def cause(self, within: Tolerance) -> Cause:
        """Where its difference comes from."""
        if self.same(within):
            return "none"
        written = not self.written_same(within)
        return _cause(written, not self.carried.same(within) or not written)


def _cause(written: bool, entry: bool) -> Cause:
    if written:
        return "both" if entry else "written"
    return "entry" if entry else "none"


class Compared(Record, dict=True):
    """Two passages.

    fold: lays this one onto the other; entry: what the stance the other is entered in has otherwise, folded; likeness:
    0 to 1.
    """

    span: Span
    other: Span
    fold: Fold
    entry: Off
    counts: tuple[CountPair, ...]
    likeness: float
    within: Tolerance = SAME

    @property
    def same(self) -> bool:
        """Whether every count does the same, and both have equally many."""
        return all(each.same(self.within) for each in self.counts)

    @property
    def feet_same(self) -> bool:
        """Whether feet, weight and chest do the same in every count."""
        return all(each.feet_same(self.within) for each in self.counts)

    @property
    def beside(self) -> tuple[Topic, ...]:
        """What else differs in any count, in the order in which it is told."""
        topics = {each.topic for count in self.counts for each in count.beside}
        return tuple(topic for topic in TOPICS if topic in topics)

    @cached_property
    def cause(self) -> Cause:
        """Where what differs comes from, all in all: an entry that differs counts though no count shows it."""
        written = any(not each.written_same(self.within) for each in self.counts)
        entry = not self.entry.same(self.within) or any(not each.carried.same(self.within) for each in self.counts)
        return _cause(written, entry)

    @property
    def worst(self) -> CountPair | None:
        """The count that matters most among those that differ."""
        different = [each for each in self.counts if not each.same(self.within)]
        return max(different, key=lambda each: each.weight(self.within), default=None)


def way_between(
    trace: Trace, span: Span, other_trace: Trace, other: Span, matches: Sequence[Match], mirror: bool
) -> float:
    """The angle of the fold that most headings agree on, degrees.

    Of chest and feet at the end of each pair of counts: the facings that are written tell how one passage lies to the
    other, also where it was entered differently.
    """
    rows = [(span.start + m.a, other.start + m.b) for m in matches if m.a is not None and m.b is not None]
    before = [(max(span.start - 1, 0), max(other.start - 1, 0))]
    mine, theirs = (np.array(each, dtype=int) for each in zip(*(rows or before), strict=True))
    sign = 1.0 if mirror else -1.0
    feet = other_trace.headings[theirs][:, ::-1] if mirror else other_trace.headings[theirs]
    acted = other_trace.move_kinds[theirs][:, ::-1] if mirror else other_trace.move_kinds[theirs]
    angles = (
        np.concatenate(
            [
                other_trace.torso[theirs] + sign * trace.torso[mine],
                (feet + sign * trace.headings[mine])[(acted > 0) & (trace.move_kinds[mine] > 0)],
            ]
        )
        % 360.0
    )
    near = np.abs(heading_differences(angles[:, None], angles[None, :]))
    # Among those with most about them, the one that lies nearest to them.
    best = np.lexsort((np.minimum(near, 5.0).sum(axis=1), -(near < 1.0).sum(axis=1)))[0]
    return float(angles[best])


def compare(
    trace: Trace,
    span: Span,
    other_trace: Trace,
    other: Span,
    mirror: bool,
    angle: float | None = None,
    deeds: tuple[Deeds, Deeds] | None = None,
    given: Sequence[Match] | None = None,
    within: Tolerance = SAME,
    taken: bool = False,
) -> Compared:
    """Compares two passages of one trace or of two.

    angle: of the fold, where it is written; else what most headings agree on. deeds: of both traces, where they are
    known; given: which counts are laid side by side, from 0 in each passage. taken: the other passage takes its
    counts from this one, so that nothing is written otherwise.
    """
    mine, theirs = deeds or (deeds_of(trace), deeds_of(other_trace))
    a = mine.part(slice(span.start, span.stop))
    b = theirs.part(slice(other.start, other.stop))
    folded = b.mirrored() if mirror else b
    cost = costs(a, folded)
    matches = given
    if matches is None:
        matches = [Match(n, n) for n in range(len(span))] if taken else aligned(cost)
    if angle is None:
        angle = way_between(trace, span, other_trace, other, matches, mirror)
    entry, there = trace.pose(max(span.start - 1, 0)), other_trace.pose(max(other.start - 1, 0))
    fold = Fold(mirror, normal(angle)).through(entry.midpoint, there.midpoint)
    if given is None and any(m.a is None or m.b is None for m in matches):
        matches = _realigned(trace, span, other_trace, other, fold, matches, cost)
    known = _unchanged(trace, other_trace, span, other, matches, fold, cost)
    if taken:  # from the folded entry it would be walked just as the posture is
        carried = [NOTHING if cost[n, n] < 1e-9 else off_of_deeds(a, folded, n) for n in range(len(span))]
    else:
        carried = _carried(other_trace, other, fold.pose(entry), there, b)
        carried = [each.exchanged() for each in carried] if mirror else carried
    pairs, last = [], max(span.start - 1, 0)
    for match, unchanged in zip(matches, known, strict=True):
        row = None if match.a is None else span.start + match.a
        other_row = None if match.b is None else other.start + match.b
        if row is not None:
            last = row - 1
        written = NOTHING if taken or unchanged else written_off(trace, row, last, other_trace, other_row, fold)
        from_entry = NOTHING if match.b is None else carried[match.b]
        beside: tuple[Beside, ...] = ()
        if row is not None and other_row is not None and not taken:
            beside = beside_of(trace, row, other_trace, other_row, fold, within.degrees)
        pairs.append(
            CountPair(
                None if row is None else int(trace.counts[row]),
                None if other_row is None else int(other_trace.counts[other_row]),
                row,
                other_row,
                written,
                from_entry,
                beside,
            )
        )
        if row is not None:
            last = row
    total = sum(float(cost[m.a, m.b]) if m.a is not None and m.b is not None else 1.0 for m in matches)
    differs = off_between(entry, fold.back().pose(there), (entry, entry), landed=True)
    return Compared(span, other, fold, differs, tuple(pairs), likeness(total, len(span), len(other)), within)


def _realigned(
    trace: Trace, span: Span, other_trace: Trace, other: Span, fold: Fold, matches: Sequence[Match], deeds: Floats
) -> tuple[Match, ...]:
    """The alignment by what is written, where only one side has a count.

    What that does to the counts after it does not mislead then. Only counts are laid side by side that lie no further
    apart than in the alignment there is; where two are as good, what they do decides, by *deeds* (n, m), its cost.
    """
    both = [(m.a, m.b) for m in matches if m.a is not None and m.b is not None]
    apart = [b - a for a, b in both] + [0, len(other) - len(span)]
    cost = np.full((len(span), len(other)), MOST)
    for i in range(len(span)):
        for j in range(max(i + min(apart), 0), min(i + max(apart) + 1, len(other))):
            row = span.start + i
            written = written_off(trace, row, row - 1, other_trace, other.start + j, fold).cost
            cost[i, j] = min(written + _TIE * deeds[i, j], MOST)
    return aligned(cost)


def _unchanged(
    trace: Trace, other_trace: Trace, span: Span, other: Span, matches: Sequence[Match], fold: Fold, cost: Floats
) -> list[bool]:
    """Which counts do the same from the same pose, as the fold lays it.

    Nothing is written differently there, and they need not be walked again.
    """
    both = [(m.a, m.b) for m in matches if m.a is not None and m.b is not None]
    if not both or trace.ground != other_trace.ground:
        return [False] * len(matches)
    a, b = (np.array(each, dtype=int) for each in zip(*both, strict=True))
    mine, theirs = span.start + a, other.start + b
    same = cost[a, b] < 1e-9
    for before in (1, 0):
        same &= _alike(trace, np.maximum(mine - before, 0), other_trace, np.maximum(theirs - before, 0), fold)
    found = dict(zip(both, same.tolist(), strict=True))
    return [found.get((m.a, m.b), False) if m.a is not None and m.b is not None else False for m in matches]


def _alike(trace: Trace, rows: Ints, other_trace: Trace, others: Ints, fold: Fold) -> Bools:
    """(k,) whether rows have the same pose, folded, wherever it stands."""
    way = -1 if fold.mirror else 1  # the order of the feet, and the sense of turns

    def turned(name: str) -> Floats:
        mine, theirs = getattr(trace, name)[rows], getattr(other_trace, name)[others]
        theirs = theirs[:, ::way] if theirs.ndim == 2 else theirs
        return np.asarray(np.abs(heading_differences(fold.angle + way * mine, theirs))).reshape(len(rows), -1)

    def equal(name: str, sign: int = 1) -> Floats:
        mine, theirs = getattr(trace, name)[rows], getattr(other_trace, name)[others]
        theirs = theirs[:, ::way] if theirs.ndim == 2 else theirs
        return np.asarray(np.abs(sign * mine - np.asarray(theirs, dtype=float))).reshape(len(rows), -1)

    off = np.concatenate(
        [
            *(turned(name) for name in ("headings", "torso", "facing")),
            *(equal(name) for name in ("contacts", "shares", "sinks", "leans", "crossing")),
            equal("turned", way),
            1e3
            * np.abs(_apart(trace, rows, fold) - way * (other_trace.heels[others, 1] - other_trace.heels[others, 0])),
        ],
        axis=1,
    )
    return np.asarray(off.max(axis=1) < 1e-6)


def _apart(trace: Trace, rows: Ints, fold: Fold) -> Floats:
    """(k, 2) from the left heel to the right one, as the fold lays it, metres."""
    way = (trace.heels[rows, 1] - trace.heels[rows, 0]) * (-1.0 if fold.mirror else 1.0, 1.0)
    angle = np.radians(fold.angle)
    cos, sin = np.cos(angle), np.sin(angle)
    return np.column_stack([way[:, 0] * cos + way[:, 1] * sin, way[:, 1] * cos - way[:, 0] * sin])


def written_off(trace: Trace, row: int | None, last: int, other_trace: Trace, other_row: int | None, fold: Fold) -> Off:
    """What the other count does otherwise when it begins in the posture's own pose, that of the row *last*.

    row, other_row: of both traces; None where a side has no such count.
    """
    before = trace.pose(last)
    after, moves = before, (STILL, STILL)
    if row is not None:
        after, moves = trace.pose(row), (trace.move(row, Side.LEFT), trace.move(row, Side.RIGHT))
    parts = _parts(trace, row)
    if other_row is None:
        return off_between(after, before, (before, before), (moves, (STILL, STILL)), (parts, (None, None)))
    there, done, _ = step(fold.pose(before), other_trace.written[other_row], other_trace.ground, False)
    back = fold.back()
    theirs = _parts(other_trace, other_row)
    if fold.mirror:
        done, theirs = (done[1], done[0]), (theirs[1], theirs[0])
    turned = tuple(move._replace(turn=(-1.0 if fold.mirror else 1.0) * move.turn) for move in done)
    return off_between(after, back.pose(there), (before, before), (moves, turned), (parts, theirs))


def _parts(trace: Trace, row: int | None) -> tuple[str | None, str | None]:
    """The part that each foot pivots on in a row."""
    if row is None:
        return None, None
    pivots = [trace.written[row].one(Pivot, side) for side in SIDES]
    left, right = (pivot.part if pivot is not None else None for pivot in pivots)
    return left, right


def _carried(trace: Trace, span: Span, wanted: Pose, entry: Pose, deeds: Deeds) -> list[Off]:
    """What each count of a passage does otherwise because it is not entered in the pose *wanted*; in its own sides."""
    if off_between(wanted, entry, (wanted, entry), landed=True) == NOTHING and _turned(wanted, entry):
        return [NOTHING] * len(span)
    lines = tuple(trace.written[row] for row in range(span.start, span.stop))
    passage = walk_passage(span.posture, lines, wanted, trace.ground, False)
    opening = Passage(None, (), wanted, wanted, rows_table([row_values(wanted, (STILL, STILL), 1.0, 0, 0)]))
    should = deeds_of(Trace(trace.ground, (opening, passage))).part(slice(1, None))
    return [off_of_deeds(should, deeds, n) for n in range(len(span))]


def _turned(a: Pose, b: Pose) -> bool:
    """Whether two poses go on alike, as to the facing of the stance and how the feet have turned."""
    return (
        abs(heading_difference(a.facing, b.facing)) < 1e-6
        and abs(a.left_turned - b.left_turned) < 1e-6
        and abs(a.right_turned - b.right_turned) < 1e-6
    )
