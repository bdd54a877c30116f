"""One side against the other: what differs, where and why; alignment and fold against brute force."""

from __future__ import annotations

from functools import cache

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.core.sided import ENTRY, SIDE
from tests.core.strategies import counts
from tests.trying import tries
from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.leftright import Side
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.form import Form
from waltzmark.core.score.actions import Count
from waltzmark.core.score.read import read_score
from waltzmark.core.sides.alignment import Match, aligned, local_ends, local_match, totals
from waltzmark.core.sides.deeds import GAP, costs, deeds_of
from waltzmark.core.sides.differences import Compared, compare, span_of
from waltzmark.core.sides.folding import Fold, best_fold
from waltzmark.core.sides.points import entry_points
from waltzmark.core.sides.tolerance import Tolerance
from waltzmark.core.walk.ground import STILL
from waltzmark.core.walk.passage import Passage, row_values, rows_table
from waltzmark.core.walk.step import step
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import ground_of, walk_passage

FORM = Form()


def trace_of(entry: Pose, lines: tuple[Count, ...], form: Form = FORM) -> Trace:
    """A walk of one posture from any pose."""
    opening = Passage(None, (), entry, entry, rows_table([row_values(entry, (STILL, STILL), 1.0, 0, 0)]))
    return Trace(ground_of(form), (opening, walk_passage("p", lines, entry, ground_of(form))))


def compared(
    entry: Pose,
    lines: tuple[Count, ...],
    other_entry: Pose,
    others: tuple[Count, ...],
    mirror: bool,
    angle: float | None,
) -> Compared:
    one, two = trace_of(entry, lines), trace_of(other_entry, others)
    return compare(one, span_of(one, "p"), two, span_of(two, "p"), mirror, angle)


folds = st.builds(
    Fold, st.booleans(), st.integers(0, 719).map(lambda n: n / 2.0), st.integers(-5, 5), st.integers(-5, 5)
).map(lambda f: Fold(f.mirror, f.angle if f.mirror else float(round(f.angle)), f.x, f.y))


def over(lines: tuple[Count, ...], fold: Fold) -> tuple[Count, ...]:
    if fold.axis is None:
        return tuple(line.turned(fold.angle, "N").moved(fold.x, fold.y) for line in lines)
    return tuple(line.mirrored(fold.axis, "N").moved(fold.x, fold.y) for line in lines)


@settings(max_examples=tries(150))
@given(st.lists(counts, min_size=1, max_size=6).map(tuple), folds)
def test_whatever_is_mirrored_or_turned_and_moved_is_the_same(lines: tuple[Count, ...], fold: Fold) -> None:
    one = trace_of(ENTRY, lines)
    # Half a turn that is not said which way goes clockwise on either side: it is found as such, and no mirror image.
    assume(all(each.problem.rule != "pivot.half-turn" for each in one.problems))
    found = compared(ENTRY, lines, fold.pose(ENTRY), over(lines, fold), fold.mirror, fold.angle)
    assert found.same and found.cause == "none" and found.likeness == pytest.approx(1.0)
    for each in (found.entry, *(pair.off for pair in found.counts)):
        assert all(value == pytest.approx(0.0, abs=1e-6) for value, _, _ in each.figures(Tolerance()).values())
    # Folding there and back again is nothing.
    back = fold.back().pose(fold.pose(ENTRY))
    assert np.allclose([*back.left[:2], *back.right[:2]], [*ENTRY.left[:2], *ENTRY.right[:2]])
    assert abs(heading_difference(back.torso, ENTRY.torso)) < 1e-9 and back.left_share == pytest.approx(0.5)


PLANTED = [
    (0, "shift R 80", "shift R 65", "weight", 15.0),
    (1, "pivot L heel 10:30", "pivot L heel 10", "left_heading", -15.0),
    (2, "torso 10:30", "torso 10", "torso", -15.0),
    (4, "55x30", "58x30", "right length", 3.0),
    (4, "55x30", "55x34", "right width", 4.0),
    (6, "ball", "toe", "part", 1.0),
    (6, "out 15", "out 25", "left_heading", -10.0),
    (7, "torso 1", "torso 2", "torso", 30.0),
    (9, "parallel 30", "parallel 36", "left width", 6.0),
    (9, "parallel 30", "parallel 30 flat", "contact", 1.0),
]


@settings(max_examples=tries(60))
@given(st.sampled_from(PLANTED), folds)
def test_one_planted_change_is_named_where_it_is_made_and_nowhere_after(
    planted: tuple[int, str, str, str, float], fold: Fold
) -> None:
    at, old, new, what, by = planted
    lines = read_score("\n".join(SIDE))
    changed = read_score("\n".join(line.replace(old, new) if n == at else line for n, line in enumerate(SIDE)))
    assert changed != lines
    for angle in (fold.angle, None):  # the way is found where it is not said
        found = compared(ENTRY, lines, fold.pose(ENTRY), over(changed, fold), fold.mirror, angle)
        assert [n for n, each in enumerate(found.counts) if not each.same(found.within)] == [at]
        assert found.cause == "written" and found.worst is found.counts[at]
        name, value, _, _ = found.worst.off.worst(found.within)
        if " " in what:  # the step goes to 12 while the chest faces elsewhere: its own length and width tell
            side, size = what.split()
            assert getattr(found.worst.off, size)[side == "right"] == pytest.approx(by)
            other = found.worst.off.width if size == "length" else found.worst.off.length
            assert other == pytest.approx((0.0, 0.0), abs=1e-6)
        else:
            assert name == what and value == pytest.approx(by)
        for n, each in enumerate(found.counts):
            if n != at:
                assert all(abs(v) < 1e-6 for v, _, _ in each.off.figures(found.within).values())


@settings(max_examples=tries(60))
@given(
    st.integers(0, len(SIDE)),
    st.sampled_from(["hold", "shift L 93", "torso 11:17", "step R 12 bow 20x20"]),
    folds,
    st.booleans(),
)
def test_a_count_that_one_side_has_more_is_named_and_all_others_are_the_same(
    at: int, more: str, fold: Fold, swap: bool
) -> None:
    lines = read_score("\n".join(SIDE))
    longer = read_score("\n".join([*SIDE[:at], more, *SIDE[at:]]))
    a, b = (longer, lines) if swap else (lines, longer)
    found = compared(ENTRY, a, fold.pose(ENTRY), over(b, fold), fold.mirror, None)
    lone = [each for each in found.counts if each.lone]
    assert len(lone) == 1 and (lone[0].other if swap else lone[0].count) is None
    assert (lone[0].count if swap else lone[0].other) == at + 1 and found.worst is lone[0]
    assert all(each.same(found.within) for each in found.counts if not each.lone)


def test_the_same_words_from_another_stance_differ_by_their_entry_only() -> None:
    lines = read_score("pivot L heel 10:30\nshift L 100, torso 10:30\nstep R 12 bow 55x30\nshift R 70, torso 12")
    other = ENTRY._replace(left=ENTRY.left._replace(heading=345.0, x=-0.2), left_share=0.4)
    found = compared(ENTRY, lines, other, lines, False, 0.0)
    assert found.cause == "entry"
    assert [each.cause(found.within) for each in found.counts] == ["entry", "none", "none", "none"]
    assert found.counts[0].off.heading[0] == pytest.approx(-15.0)  # it has 15° further to turn
    assert found.entry.heading[0] == pytest.approx(15.0) and found.entry.weight == pytest.approx(-10.0)
    assert (entry_points(found)[0].kind, entry_points(found)[0]["side"]) == ("side.foot.in", Side.LEFT)
    # The same with one step longer: both.
    longer = read_score("pivot L heel 10:30\nshift L 100, torso 10:30\nstep R 12 bow 65x30\nshift R 70, torso 12")
    assert compared(ENTRY, lines, other, longer, False, 0.0).cause == "both"


@settings(max_examples=tries(80))
@given(st.lists(counts, min_size=1, max_size=5).map(tuple), st.integers(0, 719), st.booleans(), st.integers(0, 2**31))
def test_what_comes_from_the_entry_is_the_same_whether_counts_are_taken_over_or_written_out(
    lines: tuple[Count, ...], half: int, mirror: bool, seed: int
) -> None:
    """Taken over, a posture need not be walked again from its folded entry: that is the source's own walk."""
    made = np.random.default_rng(seed)
    fold = Fold(mirror, half / 2.0 if mirror else float(half // 2))
    one = trace_of(ENTRY, lines)
    assume(all(each.problem.rule != "pivot.half-turn" for each in one.problems))
    there = fold.pose(ENTRY)
    there = there._replace(
        left=there.left._replace(x=there.left.x + made.uniform(-0.2, 0.2), heading=made.uniform(0, 360)),
        left_share=float(made.uniform(0.1, 0.9)),
        torso=float(made.uniform(0, 360)),
    )
    two = trace_of(there, over(lines, Fold(mirror, fold.angle).through(ENTRY.midpoint, there.midpoint)))
    assume(all(each.problem.rule != "pivot.half-turn" for each in two.problems))
    spans = span_of(one, "p"), span_of(two, "p")
    taken, written = (
        compare(one, spans[0], two, spans[1], mirror, fold.angle, given=known, taken=taken)
        for taken, known in ((True, None), (False, [Match(n, n) for n in range(len(spans[0]))]))
    )
    assert taken.cause in ("none", "entry") and written.cause == taken.cause
    for a, b in zip(taken.counts, written.counts, strict=True):
        assert b.written.same(Tolerance(1e-4, 1e-4, 1e-4))
        ours, theirs = a.off.figures(Tolerance()), b.off.figures(Tolerance())
        assert {k: v[0] for k, v in ours.items()} == pytest.approx({k: v[0] for k, v in theirs.items()}, abs=1e-5)


@settings(max_examples=tries(60))
@given(st.lists(counts, min_size=1, max_size=5).map(tuple), st.lists(counts, min_size=1, max_size=5).map(tuple))
def test_how_unlike_counts_are_is_the_same_on_the_other_side_and_either_way_round(
    lines: tuple[Count, ...], others: tuple[Count, ...]
) -> None:
    a, b = (deeds_of(trace_of(ENTRY, each)).part(slice(1, None)) for each in (lines, others))
    if not len(a) or not len(b):
        return
    cost = costs(a, b)
    np.testing.assert_allclose(costs(a.mirrored(), b.mirrored()), cost, atol=1e-9)
    np.testing.assert_allclose(costs(b, a).T, cost, atol=1e-9)
    assert np.diag(costs(a, a)).max() == 0.0 and cost.max() <= 1.9 < 2 * GAP
    # Without the ways of feet through the air everything else is the same.
    pose = ENTRY
    for line in lines:
        if line.moves:
            full, moves, problems = step(pose, line, ground_of(FORM))
            bare, others_moves, same = step(pose, line, ground_of(FORM), False)
            assert bare == full and problems == same
            assert all(
                (m.kind, m.turn, m.contact) == (o.kind, o.turn, o.contact)
                for m, o in zip(moves, others_moves, strict=True)
            )
            pose = full


# Alignment against all there is.


def brute(cost: np.ndarray) -> float:
    @cache
    def least(i: int, j: int) -> float:
        if i == 0 or j == 0:
            return GAP * (i + j)
        return min(least(i - 1, j - 1) + float(cost[i - 1, j - 1]), least(i - 1, j) + GAP, least(i, j - 1) + GAP)

    return least(*cost.shape)


def of(cost: np.ndarray, matches: tuple[Match, ...]) -> float:
    return sum(float(cost[m.a, m.b]) if m.a is not None and m.b is not None else GAP for m in matches)


tables = st.integers(1, 6).flatmap(
    lambda n: st.lists(
        st.integers(0, 5).flatmap(lambda m: st.lists(st.integers(0, 19), min_size=n * m, max_size=n * m)),
        min_size=1,
        max_size=4,
    ).map(lambda parts: [np.array(part, dtype=float).reshape(n, -1) / 10.0 for part in parts])
)


@given(tables)
def test_no_alignment_costs_less_than_the_one_that_is_found(parts: list[np.ndarray]) -> None:
    whole = np.concatenate(parts, axis=1)
    starts = np.cumsum([0, *(part.shape[1] for part in parts[:-1])])
    found = totals(whole, starts) if whole.shape[1] else np.full(len(parts), GAP * len(whole))
    for part, cost in zip(parts, found, strict=True):
        matches = aligned(part)
        assert [m.a for m in matches if m.a is not None] == list(range(part.shape[0]))
        assert [m.b for m in matches if m.b is not None] == list(range(part.shape[1]))
        assert of(part, matches) == pytest.approx(brute(part)) == pytest.approx(float(cost), abs=1e-6)


@given(tables)
def test_no_passage_is_worth_more_than_the_one_that_is_found(parts: list[np.ndarray]) -> None:
    whole = np.concatenate(parts, axis=1)
    starts = np.cumsum([0, *(part.shape[1] for part in parts[:-1])])
    if not whole.shape[1]:
        return
    worth, ends = local_ends(whole, starts)
    for part, start, value, (row, column) in zip(parts, starts, worth, ends, strict=True):
        n, m = part.shape
        best = max(
            (
                0.6 * min(b - a, d - c) - _least(part[a:b, c:d])
                for a in range(n)
                for b in range(a + 1, n + 1)
                for c in range(m)
                for d in range(c + 1, m + 1)
            ),
            default=0.0,
        )
        assert value >= best - 1e-6
        if value > 0.0:
            matches = local_match(whole, int(row), int(column), int(start))
            both = sum(m.a is not None and m.b is not None for m in matches)
            assert 0.6 * both - of(whole, matches) == pytest.approx(value, abs=1e-6)


def _least(cost: np.ndarray) -> float:
    """Least cost of a passage in which the shorter row is paired through: gaps in the longer one only."""
    return brute(cost)


@given(st.booleans(), st.integers(0, 359), st.integers(0, 2**31))
def test_the_fold_that_is_drawn_leaves_what_differs_in_one_place_there(mirror: bool, angle: int, seed: int) -> None:
    made = np.random.default_rng(seed)
    heels = made.normal(size=(6, 2, 2))
    fold = Fold(mirror, float(angle), 1.5, -2.0)
    onto = np.array([[fold.place(*foot) for foot in (pair[::-1] if mirror else pair)] for pair in heels])
    at, off = (int(made.integers(6)), int(made.integers(2))), made.uniform(0.01, 0.2, size=2)
    onto[at] += off
    found = best_fold(heels, onto, mirror, fold.angle)
    assert (found.x, found.y) == pytest.approx((fold.x, fold.y)) and found.angle == fold.angle
