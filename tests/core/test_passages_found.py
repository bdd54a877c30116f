"""Passages that were put into long postures are found again: where they are, of what kind, as often as they are there."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.actions import Count
from waltzmark.core.score.read import read_score
from waltzmark.core.sides.pairs import Pair, proposed_pairs
from waltzmark.core.walk.walk import walk

#: What stands around a passage: nothing of it is a step.
BETWEEN = ("hold @2", "hand L 12 chest open", "breathe in", "gaze 3", "torso 12, hand R 3 waist palm-up", "gaze 9")
HOURS = ("12", "1:30", "3", "10:30", "9")


#: Feet beside each other and the chest at 12, wherever one comes from.
HOME = ("shift R 100, torso 12", "step L beside", "shift 50/50, torso 12")


def a_passage(random: np.random.Generator) -> tuple[Count, ...]:
    """From feet beside each other two or three steps with what belongs to them: nine counts or twelve."""
    lines = list(HOME)
    for _ in range(random.integers(2, 4)):
        side, other = random.permutation(["L", "R"]).tolist()
        hour = random.choice(HOURS)
        stance = random.choice(
            [f"bow {random.integers(30, 60)}x{random.integers(18, 32)}", f"side {random.integers(25, 50)}"]
        )
        lines += [
            f"shift {other} 100",
            f"step {side} {hour} {stance}, torso {hour}",
            f"shift {side} {random.integers(6, 10) * 10}",
        ]
    return read_score("\n".join(lines))


def between(random: np.random.Generator, least: int = 1) -> tuple[Count, ...]:
    return read_score("\n".join(random.choice(BETWEEN, random.integers(least, 4)).tolist()))


def other_side(lines: tuple[Count, ...]) -> tuple[Count, ...]:
    return tuple(line.mirrored(0.0, "N") for line in lines)


def rows(pair: Pair) -> tuple[tuple[int, int], tuple[int, int]]:
    """The counts of both passages, from the first, up to the last."""
    compared = pair.compared
    return (compared.span.start, compared.span.stop), (compared.other.start, compared.other.stop)


@settings(max_examples=tries(50), deadline=None)
@given(st.integers(0, 100_000), st.booleans())
def test_a_passage_that_comes_again_in_another_long_posture_is_found_with_all_its_counts(
    seed: int, mirror: bool
) -> None:
    random = np.random.default_rng(seed)
    passage = a_passage(random)
    again = other_side(passage) if mirror else passage
    # As many counts before it as make each posture a long one.
    before, after = between(random, 3), between(random, 3)
    first = (*before, *passage, *between(random))
    second = (*after, *again, *between(random))
    form = Form(postures=(Posture("a", lines=first), Posture("b", lines=second)), torso="stated")
    trace = walk(form)
    found = proposed_pairs(form, trace)
    at = 1 + len(before), 1 + len(first) + len(after)
    wanted = tuple((start, start + len(passage)) for start in at)
    covering = [
        pair
        for pair in found
        if all(own[0] <= start and stop <= own[1] for own, (start, stop) in zip(rows(pair), wanted, strict=True))
    ]
    assert covering, [(pair.names, pair.kind) for pair in found]
    (pair,) = covering
    assert pair.kind == ("mirror" if mirror else "repeat")
    assert not pair.declared
    # Nothing that steps besides, and hardly more than was put in.
    for own, (start, stop) in zip(rows(pair), wanted, strict=True):
        assert start - own[0] <= 3 and own[1] - stop <= 3
    inside = [count for count in pair.compared.counts if count.row in range(wanted[0][0] + 3, wanted[0][1])]
    assert len(inside) == len(passage) - 3 and all(count.feet_same(pair.compared.within) for count in inside)


@pytest.mark.parametrize("times", [1, 2, 3])
@pytest.mark.parametrize("mirror", [False, True])
def test_no_count_is_in_two_passages_and_the_ones_put_in_are_in_one(times: int, mirror: bool) -> None:
    """In one posture, one after the other."""
    random = np.random.default_rng(times)
    text = [*HOME, "shift R 100", "step L 10:30 bow 50x25, torso 10:30", "shift L 70", "step R 9 side 30, torso 9"]
    passage = read_score("\n".join([*text, "shift R 70"]))
    again = other_side(passage) if mirror else passage
    lines, starts = (*between(random, 3), *passage, *between(random, 3), *between(random, 3)), []
    for _ in range(times):
        starts.append(1 + len(lines))
        lines = (*lines, *again, *between(random, 3), *between(random, 3))
    form = Form(postures=(Posture("a", lines=lines),), torso="stated")
    found = proposed_pairs(form, walk(form))
    assert found and (times > 1 or [pair.kind for pair in found] == ["mirror" if mirror else "repeat"])
    taken = [set(range(*rows(pair)[1])) for pair in found]
    assert all(not one & other for n, one in enumerate(taken) for other in taken[:n])
    for own, later in map(rows, found):
        assert own[1] <= later[0]  # one after the other
    covered = set().union(*taken)
    steps = {start + 4 for start in starts} | {start + 6 for start in starts}
    assert len(steps & covered) >= 2 * times - 2 and steps & covered


@pytest.mark.parametrize("steps", [0, 1])
def test_what_hardly_steps_is_no_passage(steps: int) -> None:
    still = ["hold @2", "hand L 12 chest open", "breathe in", "gaze 3", "sink 10", "rise 5", "torso 12", "hold"]
    moved = ["shift R 100", "step L 12 bow 40x25", "shift L 100"][: 3 * steps]
    lines = read_score("\n".join([*still, *moved, *still]))
    form = Form(postures=(Posture("a", lines=lines), Posture("b", lines=lines)), torso="stated")
    found = proposed_pairs(form, walk(form))
    assert [pair.names for pair in found if "a:" in pair.names[0]] == []
    assert bool(found) is bool(steps)  # a whole posture that steps once is like another
