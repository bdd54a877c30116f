"""Soles that keep clear of each other, and steps that are set down empty: held against exact shapes and plain trying."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import assume, example, given, settings
from hypothesis import strategies as st

from tests.core import strategies as write
from tests.trying import tries
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import RANGES, Body
from waltzmark.core.body.foot import Sole
from waltzmark.core.body.gap import FAR, gaps
from waltzmark.core.body.mass import ankle_reach, pelvis_places
from waltzmark.core.body.pose import FootPose
from waltzmark.core.body.reach import least_bends, longest_empty_length
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.judge.judging import judge
from waltzmark.core.school.school import load_school
from waltzmark.core.score import Count, read_score
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.motion import feet_between
from waltzmark.core.walk.swing import CLEAR, SAMPLES, control_point
from waltzmark.core.walk.walk import walk
from waltzmark.words.findings import remedy, what

SOLE = Sole(0.26, 0.095, left=0.25)
BODY = Body(1.70)
near = write.decimals(-0.6, 0.6)
headings = st.integers(0, 359).map(float)


def sole_at(side: Side, foot: tuple[float, float, float]) -> shapely.Polygon:
    return shapely.Polygon(SOLE.placed(SOLE.outlines[side], *foot))


def _body(stature: float, ranges: str) -> Body:
    values: dict[str, Any] = dict(RANGES[ranges])
    return Body(stature=stature, **values)


@given(near, near, headings, headings, st.sampled_from(Side))
def test_the_gap_between_two_soles_is_that_of_their_outlines(
    x: float, y: float, turned: float, standing: float, side: Side
) -> None:
    found = float(gaps(SOLE, side, np.array([0.3, -0.2, standing]), np.array([0.3 + x, y - 0.2, turned])))
    one, other = sole_at(side, (0.3 + x, y - 0.2, turned)), sole_at(side.other, (0.3, -0.2, standing))
    if one.intersects(other):
        assert found < 0.003
    else:
        assert found == pytest.approx(min(one.distance(other), FAR), abs=0.003)
    mirrored = Sole(SOLE.left, SOLE.breadth, left=SOLE.length)
    same = gaps(mirrored, side.other, np.array([-0.3, -0.2, -standing]), np.array([-0.3 - x, y - 0.2, -turned]))
    assert float(same) == pytest.approx(found, abs=1e-9)


def clear_on(start: FootPose, end: FootPose, point: tuple[float, float], turn: float, side: Side) -> float:
    """How much clearer than it has to be a curve is of a foot that stands at the origin, metres."""
    t = SAMPLES[:, None]
    path = (1 - t) ** 2 * np.array(start[:2]) + 2 * t * (1 - t) * np.array(point) + t * t * np.array(end[:2])
    found = gaps(SOLE, side, np.zeros(3), np.column_stack([path, start.heading + turn * SAMPLES]))
    return float(found.min() - min(CLEAR, found[0], found[-1]))


@given(st.tuples(near, near, headings), st.tuples(near, near, headings), st.sampled_from(Side))
@settings(max_examples=tries(150))
def test_a_step_that_says_no_way_keeps_clear_where_any_simple_way_does(
    start: tuple[float, float, float], end: tuple[float, float, float], side: Side
) -> None:
    assume(start[:2] != end[:2])  # a foot that is set down where it was does not go round anything
    before, after = FootPose(*start, Contact.FLAT), FootPose(*end, Contact.HEEL)
    turn = (end[2] - start[2] + 180.0) % 360.0 - 180.0
    support = FootPose(0.0, 0.0, 0.0, Contact.FLAT)
    taken = clear_on(before, after, control_point(before, after, support, side, None, SOLE, turn), turn, side)
    for via in ("close", "straight", "front", "behind"):
        written = clear_on(before, after, control_point(before, after, support, side, via, SOLE, turn), turn, side)
        assert taken >= min(written, -0.002) - 1e-9


def test_a_small_change_of_a_step_does_not_lead_it_round_the_other_side() -> None:
    support = FootPose(0.0, 0.0, 0.0, Contact.FLAT)
    for turn in (0.0, 30.0):
        points = [
            control_point(
                FootPose(-0.3, -0.35, 0.0, Contact.FLAT),
                FootPose(x, 0.45, turn, Contact.HEEL),
                support,
                Side.LEFT,
                None,
                SOLE,
                turn,
            )
            for x in np.linspace(-0.45, -0.15, 61)
        ]
        assert np.abs(np.diff(np.array(points), axis=0)).max() < 0.05


def plain_empty(body: Body, bend: float, heel: tuple[float, float], contact: Contact, turn: float) -> bool:
    """Whether a left foot can be set down empty from a right one at the origin: the definition, place by place."""
    forward, up = ankle_reach(body, Side.LEFT, contact)
    angle = math.radians(turn)
    ankle = np.array([heel[0] + forward * math.sin(angle), heel[1] + forward * math.cos(angle)])
    own = np.array([0.0, 0.12 * body.foot_length])
    out, inward = body.hip_range(Side.RIGHT)
    headings = np.radians(np.arange(-out, inward + 0.1, 8.0))
    across = np.column_stack([np.cos(headings), -np.sin(headings)])
    spacing, tilt = body.hip_spacing, math.radians(6.0)
    standing, longest, ankle_height = body.leg(bend), body.leg(5.0), body.measure("ankle_height")
    for y in np.linspace(0.0, 0.60 * body.foot_length, 7):
        for x in (-0.2 * body.foot_breadth, 0.0, 0.2 * body.foot_breadth):
            place = pelvis_places(body, np.array([[x, y]]), np.array([[ankle, own]]))[0]
            for way in across:
                hip = place + way * spacing / 2.0
                high = standing**2 - math.dist(hip, own) ** 2
                if high < 0:
                    continue
                stepping = hip - way * spacing * math.cos(tilt)
                drop = math.sqrt(high) + ankle_height - spacing * math.sin(tilt) - up
                if math.dist(stepping, ankle) ** 2 + drop**2 <= longest**2:
                    return True
    return False


@given(
    st.sampled_from([_body(1.55, "stiff"), _body(1.85, "supple")]),
    st.integers(20, 85),
    write.decimals(0.1, 0.5),
    st.sampled_from([Contact.HEEL, Contact.FLAT, Contact.BALL]),
    st.integers(-60, 60),
)
@settings(max_examples=tries(40))
def test_the_longest_empty_step_is_found_as_by_trying_every_place(
    body: Body, bend: int, width: float, contact: Contact, turn: int
) -> None:
    found = longest_empty_length(body, float(bend), width, Side.RIGHT, contact, 0.0, float(turn))
    tried = [length for length in np.arange(0.0, 1.2, 0.02) if plain_empty(body, bend, (-width, length), contact, turn)]
    # Where only a hand's breadth of lengths is within reach it may be told as none.
    assert found == pytest.approx(max(tried, default=0.0), abs=0.03) or (found < 0.06 and len(tried) <= 4)
    if tried and found > 0.05:
        need = least_bends(
            body,
            Side.RIGHT,
            np.array([[-width, found]]),
            np.array([float(turn)]),
            np.array([contact]),
            np.zeros((1, 2)),
            np.zeros(1),
        )
        assert need[0] == pytest.approx(bend, abs=1.0) or need[0] < bend


@pytest.mark.parametrize("school", ["broad-frame", "loaded-turn", "chair-side"])
@pytest.mark.parametrize("ranges", list(RANGES))
def test_a_bow_is_within_reach_and_never_shrinks_to_nothing(school: str, ranges: str) -> None:
    body = Body(1.70, **RANGES[ranges])  # type: ignore[arg-type]
    for sink in (30, 50, 65):
        for heading in ("12", "1:30"):
            text = f"sink {sink}\nshift R 100\npivot R heel {heading}\nstep L 12 bow"
            form = Form(school=load_school(school), body=body, postures=(Posture("a", lines=read_score(text)),))
            trace = walk(form)
            length, width = trace.sizes[-1]
            assert length >= 1.3 * body.foot_length - 1e-6 and width <= body.named_width("shoulder") + 1e-9
            told = [f for f in judge(form, trace) if f.rule == "step.reach"]
            least = 1.3 * body.foot_length + 1e-3
            assert not told or (length <= least and width == pytest.approx(body.named_width("hip")))


bodies = st.builds(
    Body,
    write.decimals(1.2, 2.1),
    hip_out=write.decimals(1, 90),
    hip_in=write.decimals(1, 90),
    waist=write.decimals(1, 90),
    ankle=write.decimals(1, 80),
    knee_bend=write.decimals(1, 120),
    knee_one=write.decimals(1, 120),
    spare=st.sampled_from(["", "left", "right"]),
)
lines = st.lists(write.counts, min_size=1, max_size=8).map(tuple)


@given(bodies, lines, st.sampled_from(["broad-frame", "loaded-turn", "chair-side", "full-shift"]))
@example(Body(1.7), tuple(read_score("step L 12 300x200\nshift 50/50\nkick L 3 head")), "broad-frame")
@settings(max_examples=tries(120))
def test_no_rule_fails_or_measures_nothing_on_any_walk(body: Body, counts: tuple[Count, ...], school: str) -> None:
    form = Form(school=load_school(school), body=body, postures=(Posture("a", lines=counts),))
    trace = walk(form)
    for finding in judge(form, trace):
        said = what(finding)
        assert "nan" not in said and "-0°" not in said and remedy(finding)
        assert finding.measured is None or math.isfinite(finding.measured)
        assert finding.limit is None or math.isfinite(finding.limit)
        for mend in finding.mends:
            assert walk(mend.applied(form)) is not None
    body_of = Mechanics(trace)
    assert np.isfinite(body_of.pelvis_places).all() and np.isfinite(body_of.waist).all()
    for side in Side:
        rows, placed = feet_between(trace, side, SAMPLES)
        assert np.isfinite(placed).all() and len(rows) == len(placed)
