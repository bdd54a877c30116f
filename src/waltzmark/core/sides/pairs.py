"""The pairs of a form: those that it declares, checked, and those that are not declared, proposed.

A proposal is a posture, or a passage of one, that is nearly the mirror image or a repeat of an earlier one.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import cached_property
from typing import Literal

import numpy as np

from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.sides.alignment import Match, likeness, local_ends, local_match, totals
from waltzmark.core.sides.deeds import Deeds, costs, deeds_of
from waltzmark.core.sides.differences import Cause, Compared, CountPair, Span, compare, span_of
from waltzmark.core.sides.tolerance import SAME, Tolerance
from waltzmark.core.walk.ground import STEP
from waltzmark.core.walk.trace import Trace

__all__ = ["LIKE", "Kind", "Pair", "check_sides", "declared_pairs", "pair_of", "proposed_pairs"]

Kind = Literal["mirror", "repeat"]
#: How alike undeclared pairs are at least: postures of so many counts, one of them a step; passages of so many, two
#: of them steps, inside postures that are long.
LIKE, LIKE_PASSAGE = 0.8, 0.85
LEAST, LEAST_PASSAGE, LONG = 3, 4, 8
_WORTH = 2.1  # of a passage, in the alignment's own measure: four counts that are nearly the same
_EDGE = 0.12  # what the first and the last counts of a passage cost at most
_PASSES = 6  # passages looked for in the same two postures
_MOST = 40  # passages proposed


class Pair(Record, dict=True):
    """A posture or passage and its other side, or its repeat.

    declared: whether the form says that it is one, by ``mirror_of``, ``repeat_of`` or ``side_of``.
    """

    kind: Kind
    declared: bool
    compared: Compared
    whole: tuple[bool, bool] = (True, True)  # whether each is all its posture has

    @property
    def posture(self) -> str:
        """Id of the posture that is looked at first."""
        return self.compared.span.posture

    @property
    def other(self) -> str:
        return self.compared.other.posture

    @property
    def same(self) -> bool:
        return self.compared.same

    @property
    def cause(self) -> Cause:
        return self.compared.cause

    @property
    def worst(self) -> CountPair | None:
        return self.compared.worst

    @property
    def empty(self) -> bool:
        """Whether there is nothing to compare: neither has counts."""
        return not self.compared.counts

    @cached_property
    def names(self) -> tuple[str, str]:
        """The ids of both, a passage with its counts."""
        return tuple(  # type: ignore[return-value]
            span.posture if whole else f"{span.posture}:{first}-{last}"
            for span, whole, (first, last) in zip(
                (self.compared.span, self.compared.other), self.whole, self.numbers, strict=True
            )
        )

    @cached_property
    def numbers(self) -> tuple[tuple[int, int], tuple[int, int]]:
        """The numbers of the first and the last count of each."""
        counts = self.compared.counts
        mine = [each.count for each in counts if each.count is not None] or [0]
        theirs = [each.other for each in counts if each.other is not None] or [0]
        return (mine[0], mine[-1]), (theirs[0], theirs[-1])


def pair_of(
    trace: Trace,
    posture: Posture,
    source: str,
    kind: Kind,
    angle: float | None,
    taken: bool,
    deeds: Deeds,
    within: Tolerance = SAME,
) -> Pair:
    """A posture that is declared to be the other side or the repeat of *source*, compared with it."""
    spans = span_of(trace, source), span_of(trace, posture.id)
    compared = compare(
        trace, spans[0], trace, spans[1], kind == "mirror", angle, (deeds, deeds), within=within, taken=taken
    )
    return Pair(kind, True, compared)


def declared_pairs(form: Form, trace: Trace, deeds: Deeds | None = None, within: Tolerance = SAME) -> tuple[Pair, ...]:
    """Every posture that says whose other side or repeat it is, compared with that one; each two once.

    One that says it is its own other side is passed over.
    """
    found: list[Pair] = []
    known: set[frozenset[str]] = set()
    for posture in form.postures:
        for source, kind, angle, taken in _said(form, posture):
            both = frozenset((source, posture.id))
            if source == posture.id or both in known:
                continue
            known.add(both)
            if deeds is None:
                deeds = deeds_of(trace)
            found.append(pair_of(trace, posture, source, kind, angle, taken, deeds, within))
    return tuple(found)


def check_sides(form: Form, trace: Trace, within: Tolerance = SAME) -> tuple[Pair, ...]:
    """The pairs that the form declares; see `declared_pairs`."""
    return declared_pairs(form, trace, None, within)


def _said(form: Form, posture: Posture) -> Iterator[tuple[str, Kind, float | None, bool]]:
    """What a posture says it is: of which one, of what kind, at which angle, and whether it takes its counts."""
    if posture.mirror_of is not None:
        axis = posture.axis.heading(0.0, form.twelve) if posture.axis is not None else 0.0
        yield posture.mirror_of, "mirror", 2.0 * axis, True
    if posture.repeat_of is not None:
        yield posture.repeat_of, "repeat", posture.turned, True
    if posture.side_of is not None:
        yield posture.side_of, "mirror", None, False


def proposed_pairs(
    form: Form, trace: Trace, within: Tolerance = SAME, progress: Progress = SILENT, passages: bool = True
) -> tuple[Pair, ...]:
    """Pairs that the form does not declare, the likest first. Raises StoppedError of *progress*."""
    deeds = deeds_of(trace)
    search = _Search(form, trace, deeds, within)
    found: list[Pair] = []
    own = search.own
    for number in range(len(own)):
        progress.tell(0.6 * number / max(len(own), 1), "postures")
        search.score(number)
    found += [pair for number in range(len(own)) if (pair := search.whole(number)) is not None]
    if passages:
        found += search.passages(progress, {pair.other for pair in found})
    return tuple(sorted(found, key=lambda pair: (not all(pair.whole), -pair.compared.likeness)))


class _Search:
    """Looks for pairs among the postures that have counts of their own."""

    def __init__(self, form: Form, trace: Trace, deeds: Deeds, within: Tolerance) -> None:
        self.form, self.trace, self.deeds, self.within = form, trace, deeds, within
        self.own = [
            posture for posture in form.postures if posture.source is None and len(span_of(trace, posture.id)) >= LEAST
        ]
        self.spans = [span_of(trace, posture.id) for posture in self.own]
        rows = [row for span in self.spans for row in range(span.start, span.stop)]
        self.all = deeds.part(rows)
        self.ways: dict[Kind, Deeds] = {"repeat": self.all, "mirror": self.all.mirrored()}
        self.starts: Ints = np.cumsum([0, *(len(span) for span in self.spans)]).astype(np.int64)
        self.family = _families(form)
        self.best: dict[int, tuple[float, int, Kind]] = {}

    def _columns(self, way: Deeds, first: int, last: int | None = None) -> Deeds:
        return way.part(slice(int(self.starts[first]), int(self.starts[len(self.own) if last is None else last])))

    def _places(self, numbers: list[int]) -> tuple[Ints, Ints]:
        """Where the counts of some postures are, one after the other, and where each posture begins among them."""
        lengths = [len(self.spans[number]) for number in numbers]
        starts = np.cumsum([0, *lengths[:-1]]).astype(np.int64)
        return np.concatenate([np.arange(self.starts[n], self.starts[n + 1]) for n in numbers]), starts

    def score(self, number: int) -> None:
        """How alike the later postures are to this one; each keeps the likest that came so far."""
        if number + 1 >= len(self.own):
            return
        mine = self.all.part(slice(int(self.starts[number]), int(self.starts[number + 1])))
        # Counts that only one has cost one each: where the lengths differ by more, no alignment is like enough.
        later_ones = [
            later
            for later in range(number + 1, len(self.own))
            if likeness(abs(len(mine) - len(self.spans[later])), len(mine), len(self.spans[later])) >= LIKE - 1e-9
        ]
        if not later_ones:
            return
        places, starts = self._places(later_ones)
        for kind, way in self.ways.items():
            total = totals(costs(mine, way.part(places)), starts)
            for later, cost in zip(later_ones, total.tolist(), strict=True):
                like = likeness(cost, len(mine), len(self.spans[later]))
                known = self.best.get(later, (0.0, 0, kind))[0]
                if like >= LIKE and like > known + 1e-6 and not self._kin(number, later):
                    self.best[later] = like, number, kind

    def _kin(self, a: int, b: int) -> bool:
        """Whether the form says already how they belong together."""
        return self.family[self.own[a].id] == self.family[self.own[b].id]

    def whole(self, number: int) -> Pair | None:
        """The likest earlier posture of one, if one is like enough."""
        if number not in self.best:
            return None
        _, source, kind = self.best[number]
        if not self._steps(self.spans[number], 1):
            return None
        compared = compare(
            self.trace,
            self.spans[source],
            self.trace,
            self.spans[number],
            kind == "mirror",
            None,
            (self.deeds, self.deeds),
            within=self.within,
        )
        return Pair(kind, False, compared)

    def _steps(self, span: Span, least: int) -> bool:
        return int((self.deeds.kinds[span.start : span.stop] == STEP).sum()) >= least

    def passages(self, progress: Progress, copies: set[str]) -> list[Pair]:
        """Passages inside long postures that are no copies of others as a whole."""
        found: list[tuple[float, Kind, int, int, tuple[Match, ...]]] = []
        for number, later in self._partners(progress, copies):
            mine = self._columns(self.all, number, number + 1)
            for kind, way in self.ways.items():
                theirs = self._columns(way, later, later + 1)
                cost = costs(mine, theirs)
                for _ in range(_PASSES):
                    matches = _passage(cost, number == later)
                    if matches is None:
                        break
                    alike, kept = self._likest(cost, matches, mine, theirs)
                    if alike is not None:
                        found.append((alike, kind, number, later, kept))
                    taken = [m.b for m in kept if m.b is not None]
                    cost[:, taken[0] : taken[-1] + 1] = 9.0
        return self._apart(found)

    def _partners(self, progress: Progress, copies: set[str]) -> list[tuple[int, int]]:
        """The postures that are likeliest to share passages, each with itself or a later one.

        One of both is long, and they are no pair. Those that share none are left out by a look at all at once.
        """
        able = [
            number
            for number, posture in enumerate(self.own)
            if len(self.spans[number]) >= LEAST_PASSAGE and posture.id not in copies
        ]
        long = {number for number in able if len(self.spans[number]) >= LONG}
        found: list[tuple[float, int, int]] = []
        for at, number in enumerate(able):
            progress.tell(0.6 + 0.3 * at / len(able), "passages")
            later = [each for each in able[at:] if number in long or each in long]
            later = [each for each in later if each == number or not self._kin(number, each)]
            if not later:
                continue
            mine = self._columns(self.all, number, number + 1)
            places, starts = self._places(later)
            worth = [local_ends(costs(mine, way.part(places)), starts)[0] for way in self.ways.values()]
            found += [
                (value, number, each)
                for value, each in zip(np.max(worth, axis=0).tolist(), later, strict=True)
                if value >= _WORTH
            ]
        best = sorted(found, key=lambda each: (-each[0], each[1], each[2]))[:_MOST]
        return [(number, later) for _, number, later in best]

    def _likest(
        self, cost: Floats, matches: tuple[Match, ...], mine: Deeds, theirs: Deeds
    ) -> tuple[float | None, tuple[Match, ...]]:
        """How alike a passage is, and the passage, all of it where it is too unlike anyhow.

        What stands at either end and is less alike is left out, if it is no passage with that.
        """
        kept = matches
        while len(kept) >= LEAST_PASSAGE:
            alike = self._like(kept, mine, theirs)
            if alike is not None:
                return alike, kept
            first, last = (1.0 if m.a is None or m.b is None else float(cost[m.a, m.b]) for m in (kept[0], kept[-1]))
            kept = kept[1:] if first > last else kept[:-1]
        return None, matches

    def _like(self, matches: tuple[Match, ...], mine: Deeds, theirs: Deeds) -> float | None:
        """How alike a passage is; None where it is too short or too unlike."""
        both = [(m.a, m.b) for m in matches if m.a is not None and m.b is not None]
        counts = len(matches)
        if len(both) < LEAST_PASSAGE:
            return None
        a, b = [pair[0] for pair in both], [pair[1] for pair in both]
        if int((mine.kinds[a] == STEP).sum()) < 2:
            return None
        cost = float(np.diag(costs(mine.part(a), theirs.part(b))).sum()) + counts - len(both)
        alike = likeness(cost, counts, counts)
        return alike if alike >= LIKE_PASSAGE else None

    def _apart(self, found: list[tuple[float, Kind, int, int, tuple[Match, ...]]]) -> list[Pair]:
        """The best passages, none of which shares a count of its later part with another."""
        pairs: list[Pair] = []
        taken: set[int] = set()
        ranked = sorted(found, key=lambda each: (-each[0] * len(each[4]), each[1] != "repeat"))
        for _, kind, number, later, matches in ranked:
            span, other = self._part(number, [m.a for m in matches]), self._part(later, [m.b for m in matches])
            rows = set(range(other.start, other.stop))
            if rows & taken or rows & set(range(span.start, span.stop)):
                continue
            taken |= rows
            a, b = span.start - self.spans[number].start, other.start - self.spans[later].start
            shifted = [Match(None if m.a is None else m.a - a, None if m.b is None else m.b - b) for m in matches]
            compared = compare(
                self.trace,
                span,
                self.trace,
                other,
                kind == "mirror",
                None,
                (self.deeds, self.deeds),
                shifted,
                self.within,
            )
            whole = (span == self.spans[number], other == self.spans[later])
            pairs.append(Pair(kind, False, compared, whole))
            if len(pairs) == _MOST:
                break
        return pairs

    def _part(self, number: int, places: list[int | None]) -> Span:
        """The rows of a passage of a posture, from its places in it."""
        real = [each for each in places if each is not None]
        span = self.spans[number]
        return replace(span, start=span.start + real[0], stop=span.start + real[-1] + 1)


def _passage(cost: Floats, own: bool) -> tuple[Match, ...] | None:
    """The best passage of a table of costs; of one row with itself, the two one after the other."""
    worth, ends = local_ends(cost, np.zeros(1, dtype=np.int64), own)
    if worth[0] < _WORTH:
        return None
    if own:
        cost = np.where(np.arange(cost.shape[1])[None, :] > np.arange(cost.shape[0])[:, None], cost, 9.0)
    matches = local_match(cost, int(ends[0, 0]), int(ends[0, 1]))
    if own:
        matches = _one_after_the_other(matches)
    while matches and _loose(cost, matches[0]):
        matches = matches[1:]
    while matches and _loose(cost, matches[-1]):
        matches = matches[:-1]
    return matches or None


def _loose(cost: Floats, match: Match) -> bool:
    """Whether a passage should not begin or end with a match: only one side has it, or both do hardly the same."""
    return match.a is None or match.b is None or float(cost[match.a, match.b]) > _EDGE


def _one_after_the_other(matches: tuple[Match, ...]) -> tuple[Match, ...]:
    """So much of a passage that its second part begins after its first has ended."""
    begins = next((m.b for m in matches if m.b is not None), 0)
    kept = [m for m in matches if m.a is None or m.a < begins]
    while kept and (kept[-1].a is None or kept[-1].b is None):
        kept.pop()
    return tuple(kept)


def _families(form: Form) -> dict[str, str]:
    """Of each posture the first of those that it is said to belong with."""
    first = {posture.id: posture.id for posture in form.postures}

    def root(name: str) -> str:
        while first[name] != name:
            name = first[name]
        return name

    for posture in form.postures:
        for other in (posture.source, posture.side_of):
            if other is not None:
                a, b = sorted((root(posture.id), root(other)), key=form.index)
                first[b] = a
    return {name: root(name) for name in first}
