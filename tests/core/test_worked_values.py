"""What the body does in simple counts, against answers worked by hand."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.test_rules import L, R, form_of
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.reach import least_bends, longest_empty_length, reach_outline
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.naming import recognised
from waltzmark.core.walk.patches import mean_arm, pivot_torque
from waltzmark.core.walk.walk import walk
from waltzmark.words.steps import stance_sentence


def test_the_knee_bend_that_a_landing_asks_for_is_the_one_it_was_made_with() -> None:
    body = Body(1.70)

    def needed(side: Side, heel: tuple[float, float], contact: Contact) -> float:
        foot = np.array([heel]), np.zeros(1), np.array([contact])
        return float(least_bends(body, side, *foot, np.zeros((1, 2)), np.zeros(1))[0])

    for bend in (30, 45, 60):
        for contact in (Contact.HEEL, Contact.FLAT, Contact.BALL):
            longest = longest_empty_length(body, bend, 0.30, R, contact)
            assert needed(R, (-0.30, longest), contact) == pytest.approx(bend, abs=0.5)
            assert needed(L, (0.30, longest), contact) == pytest.approx(bend, abs=0.5)
    assert np.isinf(needed(R, (-0.3, 2.0), Contact.HEEL))
    outline = reach_outline(body, 50, R)
    assert outline[0, 1] > 0.5 and outline[:, 0].min() < -outline[:, 0].max()


def test_the_twist_of_a_turning_foot_grows_with_its_load() -> None:
    body = Body(1.70, 65.0)
    # A disc of radius r turning about its middle: the mean arm is 2r/3.
    assert mean_arm(body.sole, L, Contact.HEEL, "heel") == pytest.approx(2 / 3 * 0.11 * body.foot_length, rel=0.02)
    by_hand = 0.40 * 0.60 * 65.0 * 9.81 * 2 / 3 * 0.11 * 0.152 * 1.70
    assert pivot_torque(body, L, Contact.HEEL, "heel", 0.60) == pytest.approx(by_hand, rel=0.02)
    heavy, light = (pivot_torque(body, R, Contact.FLAT, "heel", share) for share in (0.60, 0.20))
    assert heavy == pytest.approx(3 * light) and heavy > 4 * by_hand


def test_balance_of_simple_stances() -> None:
    body, form = Body(1.70), form_of("shift R 100\nheel R\nball R\nflat R\nstep L 12 40x30\nshift L 50")
    found = Mechanics(walk(form))
    foot, breadth = body.foot_length, body.foot_breadth
    assert found.margin[2] == pytest.approx(0.11 * foot, abs=0.001)  # a disc about the heel
    assert found.margin[3] == pytest.approx(min(0.14 * foot, 0.40 * breadth), abs=0.001)  # an ellipse about the ball
    # Two parallel soles: half-way between them the support is as broad as a sole, seen along their line.
    assert 0.3 * breadth < found.margin[4] < breadth / 2
    assert found.weak_half[6] > found.weak_half[0] / 2 and found.margin[6] > found.margin[4]
    assert found.front.tolist() == [-1, -1, -1, -1, -1, 0, 0]


def test_hips_and_knees_of_simple_stances() -> None:
    body = Body(1.70, hip_out=(30.0, 45.0), knee_bend=(40.0, 55.0), spare="left")
    form = form_of("shift R 100, torso 12", "pivot L heel 10:30, torso 2", body=body)
    found = Mechanics(walk(form))
    # All stands on the right foot at 12: its hip lets the pelvis go 35 degrees of the 60; the waist turns the rest.
    assert found.pelvis[2] == 35.0 and found.waist[2] == pytest.approx(25.0)
    assert found.hip_turns[2].tolist() == [80.0, -35.0]
    assert body.seat == 40.0 and body.hip_range(L) == (22.5, 26.25) and body.hip_range(R) == (45.0, 35.0)
    assert body.one_leg(L) == 0.75 * 65 and body.ankle_range(R) == 42.0
    # On one flat foot the leg keeps the seat's length, its hip as far ahead as the centre of mass asks for.
    leg = body.leg(40.0)
    hip, ankle = found.seat.hips[1, R], found.ankles[0][1, R]
    slant = np.hypot(found.seat.height[1] - found.ankles[1][1, R], np.hypot(*(hip - ankle)))
    assert slant == pytest.approx(leg) and np.isnan(found.shin_lean[1, 0])
    ahead = float((hip - ankle)[1])
    shank = np.degrees(np.arccos((body.shank**2 + leg**2 - body.thigh**2) / (2 * body.shank * leg)))
    assert found.shin_lean[1, 1] == pytest.approx(np.degrees(np.arcsin(ahead / leg)) + shank, abs=0.1)
    assert body.scale_reading(30) == pytest.approx(0.3 * body.mass)


def test_poses_are_named_as_stances() -> None:
    lines = (
        "shift L 100\npivot R heel out 45\nshift R 100\nstep L 12 bow\nshift L 68\nshift R 100\nlift L\n"
        "step L 12 empty-ball\nstep L 12 side parallel toe 12\nshift L 100\npivot R heel 12\nstep R 12 side horse\n"
        "shift L 50\npivot L heel 10\npivot R heel 2"
    )
    form = form_of(lines)
    trace = walk(form)
    named = [recognised(trace.pose(row), trace.body, form.school) for row in range(len(trace))]
    assert [each.name for each in named] == [
        "together",
        "together",
        "",
        "",
        "empty-heel",
        "bow",
        "",
        "one-leg",
        "empty-ball",
        "",
        "",
        "parallel",
        "horse",
        "horse",
        "",
        "",
    ]
    bow = named[5]
    assert bow.front is L and bow.match == pytest.approx(1.0, abs=0.01)
    assert (bow.left, bow.rear) == pytest.approx((0.68, 45.0)) and named[6].left == 0.0
    assert len({stance_sentence(each) for each in named}) > 8


def test_feet_of_different_lengths_turn_and_reach_each_by_its_own() -> None:
    body = Body(1.70, measured=(("foot_length", 0.26),), left_foot=0.22)
    trace = walk(form_of("shift R 100\npivot L ball in 90", "shift L 100\npivot R ball in 90", body=body))
    left, right = (np.hypot(*(trace.heels[row, side] - trace.heels[row - 1, side])) for row, side in ((2, L), (4, R)))
    # A quarter turn about the ball moves the heel by the root of two times its distance to the ball.
    assert (left, right) == pytest.approx((0.22 * 0.60 * 2**0.5, 0.26 * 0.60 * 2**0.5))
    assert np.ptp(body.sole.outlines[L][:, 1]) == pytest.approx(0.22) and body.sole.of(R) == 0.26
    assert longest_empty_length(body, 50, 0.30, L) != pytest.approx(longest_empty_length(body, 50, 0.30, R), abs=1e-4)
    with pytest.raises(WaltzmarkError, match="body.left-foot"):
        Body(1.70, left_foot=0.22)
