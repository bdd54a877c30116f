"""Whole walks reckoned again on paper: where every heel comes to lie, which way it points and what it carries.

Sizes are written out, and a foot that moves is empty, so that nothing but school geometry is needed: a heel is laid so
far along the clock that is said and so far to its own side; a pivot turns a foot about one point of its sole.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.home.ledger import check_return
from waltzmark.core.score import read_score
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

#: How far ahead of the heel's centre each point of a sole lies, in foot lengths.
POINTS = {"heel": 0.0, "ball": 0.6, "toe": 0.87}


class Foot(NamedTuple):
    x: float
    y: float
    heading: float


class Paper:
    """Both feet and the weight, as somebody would write them down. Angles clockwise from 12, metres."""

    def __init__(self, trace: Trace) -> None:
        pose = trace.pose(0)
        self.feet = {side: Foot(*pose.foot(side)[:3]) for side in Side}
        self.left, self.long = pose.left_share, trace.body.sole.length

    def shift(self, side: Side, percent: int) -> str:
        self.left = percent / 100.0 if side is Side.LEFT else 1.0 - percent / 100.0
        return f"shift {side.letter} {percent}"

    def step(self, side: Side, clock: int, length: int, width: int, manner: str) -> str:
        """Empties onto the other foot first, where it is not empty yet."""
        rests, facing = self.feet[side.other], math.radians(30.0 * clock)
        ahead = (-1.0 if manner == "back" else 1.0) * length / 100.0
        out = (1.0 if side is Side.RIGHT else -1.0) * width / 100.0
        self.feet[side] = Foot(
            rests.x + ahead * math.sin(facing) + out * math.cos(facing),
            rests.y + ahead * math.cos(facing) - out * math.sin(facing),
            30.0 * clock % 360.0,
        )
        return f"step {side.letter} {clock or 12}{' back' if manner == 'back' else ''} {length}x{width} flat"

    def pivot(self, side: Side, part: str, by: int) -> str:
        """Turns the foot by so many degrees, inward where they are more than none."""
        foot, turn = self.feet[side], by if side is Side.LEFT else -by
        far = POINTS[part] * self.long
        now, then = math.radians(foot.heading), math.radians(foot.heading + turn)
        self.feet[side] = Foot(
            foot.x + far * (math.sin(now) - math.sin(then)),
            foot.y + far * (math.cos(now) - math.cos(then)),
            (foot.heading + turn) % 360.0,
        )
        return f"pivot {side.letter} {part} {'in' if by > 0 else 'out'} {abs(by)}"


sides = st.sampled_from(Side)
steps = st.tuples(
    st.just("step"),
    sides,
    st.integers(0, 11),
    st.integers(15, 70),
    st.integers(5, 45),
    st.sampled_from(["", "back"]),
)
pivots = st.tuples(
    st.just("pivot"), sides, st.sampled_from(sorted(POINTS)), st.integers(-80, 80).filter(lambda by: abs(by) > 2)
)
shifts = st.tuples(st.just("shift"), sides, st.integers(0, 100))
deeds = st.lists(st.one_of(steps, pivots, shifts), min_size=1, max_size=9)


def written(deeds: list[tuple], paper: Paper) -> tuple[list[str], list[tuple[dict[Side, Foot], float]]]:  # type: ignore[type-arg]
    """The lines of what is done, and where both feet are after each; a foot that steps is emptied first."""
    lines, after = [], []
    for what, side, *more in deeds:
        if what == "step" and abs(paper.left - (side is Side.RIGHT)) > 1e-9:
            lines.append(paper.shift(side.other, 100))
            after.append((dict(paper.feet), paper.left))
        lines.append(getattr(paper, what)(side, *more))
        after.append((dict(paper.feet), paper.left))
    return lines, after


@settings(max_examples=tries(160))
@given(deeds, st.floats(0.22, 0.30))
def test_every_foot_comes_to_lie_where_it_does_on_paper(deeds: list[tuple], foot: float) -> None:  # type: ignore[type-arg]
    form = Form(body=Body(measured=(("foot_length", round(foot, 3)),)))
    lines, after = written(deeds, Paper(walk(form)))
    trace = walk(replace(form, postures=(Posture("p", lines=read_score("\n".join(lines))),)))
    assert len(trace) == 1 + len(after)
    for row, (feet, left) in enumerate(after, 1):
        pose = trace.pose(row)
        assert pose.left_share == pytest.approx(left, abs=1e-9), lines[:row]
        for side in Side:
            x, y, heading = feet[side]
            assert math.hypot(pose.foot(side).x - x, pose.foot(side).y - y) < 1e-6, lines[:row]
            away = abs(pose.foot(side).heading - heading) % 360.0
            assert min(away, 360.0 - away) < 1e-6, lines[:row]


@settings(max_examples=tries(80))
@given(st.lists(deeds, min_size=1, max_size=4))
def test_a_form_ends_as_far_from_its_start_as_on_paper(parts: list[list[tuple]]) -> None:  # type: ignore[type-arg]
    form = Form()
    paper = Paper(walk(form))
    begins = {side: paper.feet[side] for side in Side}
    postures, ends = [], []
    for number, each in enumerate(parts):
        lines, after = written(each, paper)
        postures.append(Posture(f"p{number}", lines=read_score("\n".join(lines))))
        ends.append(after[-1][0])
    whole = replace(form, postures=tuple(postures))
    trace = walk(whole)

    def middle(feet: dict[Side, Foot]) -> tuple[float, float]:
        return (feet[Side.LEFT].x + feet[Side.RIGHT].x) / 2.0, (feet[Side.LEFT].y + feet[Side.RIGHT].y) / 2.0

    (x, y), (home_x, home_y) = middle(ends[-1]), middle(begins)
    told = check_return(trace, whole)
    assert told.distance == pytest.approx(math.hypot(x - home_x, y - home_y), abs=1e-6)
    assert told.offset == pytest.approx((x - home_x, y - home_y), abs=1e-6)
    places = [(home_x, home_y), *map(middle, ends)]
    assert len(told.contributions) == len(parts)
    for entry, (was_x, was_y), (now_x, now_y) in zip(told.contributions, places, places[1:], strict=False):
        assert entry.offset == pytest.approx((now_x - was_x, now_y - was_y), abs=1e-6)
        ways = [each.offset for each in entry.counts]
        assert tuple(map(sum, zip(*ways, strict=True))) == pytest.approx(entry.offset, abs=1e-9)
    if told.distance > 1e-6:  # what each adds along the way home is all of it
        assert sum(entry.share for entry in told.contributions) == pytest.approx(told.distance, abs=1e-6)
    assert told.good == (told.distance <= whole.home.within + 1e-9 and abs(told.turn) <= whole.home.turn + 1e-9)
