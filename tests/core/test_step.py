"""Known answers for every kind of pivot and step, worked by hand for a body of round measures."""

from __future__ import annotations

import math
from typing import Any

import pytest

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose, Pose, stance_size
from waltzmark.core.body.reach import longest_empty_length
from waltzmark.core.school.school import load_school
from waltzmark.core.score import read_count
from waltzmark.core.walk.ground import Ground
from waltzmark.core.walk.step import step

F, B = 0.25, 0.10  # foot length and breadth, metres
BODY = Body(1.70, measured=(("foot_length", F), ("foot_breadth", B), ("hip_breadth", 0.30), ("shoulder_breadth", 0.45)))
GROUND = Ground(BODY, load_school("broad-frame"), "N")
FLAT, HEEL, BALL, AIR = Contact.FLAT, Contact.HEEL, Contact.BALL, Contact.AIR


Place = tuple[float, float, float]


def stand(left_share: float = 0.0, left: Place = (-0.1, 0.0, 0.0), right: Place = (0.1, 0.0, 0.0), **more: Any) -> Pose:
    return Pose(FootPose(*left, FLAT), FootPose(*right, FLAT), left_share, **more)


def after(text: str, pose: Pose | None = None, ground: Ground = GROUND) -> Pose:
    return step(pose or stand(), read_count(text), ground)[0]


def rules(text: str, pose: Pose | None = None) -> list[str]:
    return [problem.rule for problem in step(pose or stand(), read_count(text), GROUND)[2]]


def is_foot(foot: FootPose, x: float, y: float, heading: float, contact: Contact) -> None:
    assert (foot.x, foot.y, foot.heading) == pytest.approx((x, y, heading), abs=1e-9)
    assert foot.contact is contact


@pytest.mark.parametrize(
    ("text", "x", "y", "heading"),
    [
        # about the heel centre: it stays
        ("pivot L heel 9", -0.1, 0.0, 270),
        ("pivot L heel in 45", -0.1, 0.0, 45),
        ("pivot L heel out 45", -0.1, 0.0, 315),
        ("pivot R heel in 45", 0.1, 0.0, 315),
        ("pivot R heel out 45", 0.1, 0.0, 45),
        ("pivot R heel -30", 0.1, 0.0, 330),
        ("pivot R heel 6 cw", 0.1, 0.0, 180),
        ("pivot R heel ~1", 0.1, 0.0, 30),
        ("pivot R heel SE", 0.1, 0.0, 135),
        # about the ball at (0.1, 0.15): the heel swings round it, 0.6 F = 0.15 m away
        ("pivot R ball 3", 0.1 - 0.15, 0.15, 90),
        ("pivot R ball 6 ccw", 0.1, 0.30, 180),
        # about the toe tip at (0.1, 0.2175), 0.87 F from the heel centre
        ("pivot R toe 9", 0.1 + 0.2175, 0.2175, 270),
    ],
)
def test_a_pivot_turns_the_foot_about_its_point(text: str, x: float, y: float, heading: float) -> None:
    side = Side.of(text.split()[1])
    pose = after(text, stand(0.5))
    is_foot(pose.foot(side), x, y, heading, FLAT)
    assert pose.foot(side.other) == stand(0.5).foot(side.other)


def test_a_pivot_goes_the_way_it_is_told() -> None:
    for sense, turn in (("cw", 270.0), ("ccw", -90.0)):
        _, moves, problems = step(stand(), read_count(f"pivot L heel 9 {sense}"), GROUND)
        assert moves[Side.LEFT].turn == pytest.approx(turn)
        assert not problems
    assert rules("pivot L heel 6") == ["pivot.half-turn"]
    assert rules("pivot L heel 6 ccw") == []


WIDE = 0.45 - B  # shoulder width between heel centres
LONG = 0.95 * longest_empty_length(BODY, 50.0, WIDE)  # the school's bow


@pytest.mark.parametrize(
    ("text", "x", "y", "heading", "contact"),
    [
        # the supporting right heel is at (0.1, 0); u(9) = (-1, 0), its right is v(9) = (0, 1)
        ("step L 9 62x38", 0.1 - 0.62, -0.38, 270, HEEL),
        ("step L 12 62x38", 0.1 - 0.38, 0.62, 0, HEEL),
        ("step L 12 back 62x38", 0.1 - 0.38, -0.62, 0, BALL),
        ("step L 12 back bow 62x38", 0.1 - 0.38, -0.62, 315, BALL),
        ("step L 12 side 40", 0.1 - 0.40, 0.0, 0, BALL),
        ("step L 12 40x-5", 0.1 + 0.05, 0.40, 0, HEEL),
        ("step L 12 cross 40x-5", 0.1 + 0.05, 0.40, 315, HEEL),
        ("step L 12 2flx1sw", 0.1 - 0.45, 0.50, 0, HEEL),
        ("step L 12 bow", 0.1 - WIDE, LONG, 0, HEEL),
        ("step L 12", 0.1 - WIDE, LONG, 0, HEEL),
        ("step L 1:30 40x0", 0.1 + 0.4 * math.sqrt(0.5), 0.4 * math.sqrt(0.5), 45, HEEL),
        ("step L 12 40x20 toe in 45", -0.1, 0.40, 45, HEEL),
        ("step L 12 40x20 toe +90", -0.1, 0.40, 90, HEEL),
        ("step L 9 40x20 toe 10:30 flat", 0.1 - 0.40, -0.20, 315, FLAT),
        ("step L beside", 0.1 - B, 0.0, 0, BALL),
        ("step L beside 25 heel", 0.1 - 0.25, 0.0, 0, HEEL),
        # the left toe lies at (-0.1, 0.2175), the right ball at (0.1, 0.15)
        ("step L at L.toe", -0.1, 0.2175, 0, HEEL),
        ("step L at R.ball 9 1fl", 0.1 - 0.25, 0.15, 0, HEEL),
        ("step L at L.heel 12 1fl toe 9", -0.1, 0.25, 270, HEEL),
        ("step L to -0.5 -0.25", -0.5, -0.25, 0, BALL),
        ("step L to -0.5 0.25 toe in 10", -0.5, 0.25, 10, HEEL),
    ],
)
def test_a_step_sets_the_heel_where_it_says(text: str, x: float, y: float, heading: float, contact: Contact) -> None:
    pose = after(text)
    is_foot(pose.left, x, y, heading, contact)
    assert pose.right == stand().right and pose.left_share == 0.0


def test_a_step_is_taken_on_its_own_side_of_a_turned_support() -> None:
    # The left supports at the origin, turned to 10:30; the right steps to 9 with v(9) = (0, 1).
    pose = stand(1.0, left=(0.0, 0.0, 315.0), right=(0.3, 0.0, 0.0))
    is_foot(after("step R 9 50x30", pose).right, -0.5, 0.3, 270, HEEL)
    # beside: parallel to the other foot, one breadth to its right
    is_foot(after("step R beside", pose).right, B * math.sqrt(0.5), B * math.sqrt(0.5), 315, BALL)


def test_a_half_step_halves_the_length_and_keeps_width_and_heading() -> None:
    pose = stand(1.0, left=(-0.2, 0.6, 0.0), right=(0.2, 0.0, 45.0))
    moved = after("step R 12 half", pose)
    is_foot(moved.right, 0.2, 0.3, 45, BALL)
    assert stance_size(moved.left, moved.right, 0.0) == pytest.approx((0.3, 0.4))


def test_a_deeper_seat_steps_longer() -> None:
    lengths = [stance_size(*after(f"sink {k}, step L 12 bow")[:2], 0.0)[0] for k in (30, 50, 70)]
    assert lengths == sorted(lengths) and lengths[2] > lengths[0] + 0.1


def test_compass_facings_count_from_the_point_at_twelve() -> None:
    east_ahead = GROUND._replace(twelve="E")
    assert after("torso N", ground=east_ahead).torso == 270
    assert after("torso SE", ground=east_ahead).torso == 45


def test_half_the_weight_rolls_a_raised_foot_flat_unless_told_otherwise() -> None:
    on_heel = after("step L 12 40x20")
    assert after("shift L 49", on_heel).left.contact is HEEL
    assert after("shift L 50", on_heel).left.contact is FLAT
    assert after("shift L 80, heel L", on_heel).left.contact is HEEL
    assert after("shift R 100", after("shift L 30", on_heel)).left.contact is HEEL


@pytest.mark.parametrize(
    ("text", "found", "share", "contact"),
    [
        ("step L 9", ["weight.loaded-lift"], 0.0, HEEL),
        ("lift L", ["weight.loaded-lift"], 0.0, AIR),
        ("step L 9, shift L 60", ["weight.loaded-lift", "weight.falling-step"], 0.6, FLAT),
        ("shift R 100, step L 9", ["weight.loaded-lift"], 0.0, HEEL),
        ("step L 9, step R 9", ["weight.loaded-lift", "weight.loaded-lift", "weight.both-in-air"], 0.3, HEEL),
        ("shift L 20, shift L 40", ["score.contradiction"], 0.4, FLAT),
        ("pivot L heel 9, pivot L heel 10", ["score.contradiction"], 0.3, FLAT),
        ("hold, torso 9", ["score.contradiction"], 0.3, FLAT),
        ("shift R 100, torso 9, gaze 10, breathe in, sink 40, hand L 9 chest", [], 0.0, FLAT),
    ],
)
def test_what_cannot_be_walked_is_reported_and_the_walk_goes_on(
    text: str, found: list[str], share: float, contact: Contact
) -> None:
    pose, _, problems = step(stand(0.3), read_count(text), GROUND)
    assert [problem.rule for problem in problems] == found
    assert pose.left_share == pytest.approx(share)
    assert pose.left.contact is contact


def test_weight_on_a_foot_in_the_air_sets_it_down() -> None:
    lifted = after("lift L knee")
    assert lifted.left.contact is AIR and not rules("lift L knee")
    pose, _, problems = step(lifted, read_count("shift L 70"), GROUND)
    assert [p.rule for p in problems] == ["weight.in-air"] and problems[0].value == pytest.approx(0.7)
    assert pose.left.contact is FLAT and pose.left_share == pytest.approx(0.7)
    assert rules("lift R", lifted) == ["weight.loaded-lift", "weight.both-in-air"]
    standing = after("lift R", lifted)
    assert max(standing.left.contact, standing.right.contact) is FLAT


def test_the_torso_follows_the_fuller_foot_where_it_turns_or_comes_in_front_and_else_stays() -> None:
    pose = stand(0.3, left=(-0.15, 0.45, 345.0), right=(0.15, 0.0, 45.0), torso=20.0)
    assert after("pivot R ball in 30, shift R 80", pose).torso == 350.0  # round with the fuller foot
    assert after("pivot L heel in 30", pose).torso == 20.0  # the light one leaves it
    for little in ("shift R 65", "shift R 100", "breathe in", "heel L", "step L 12 side 30"):
        assert after(little, pose).torso == 20.0
    front = after("shift L 70", pose)
    assert front.torso == 345.0  # a foot in front becomes the fuller: square to it
    assert after("shift R 80", front).torso == 345.0  # sitting back leaves it
    assert after("shift 50/50", pose).torso == 15.0  # even: half-way between the feet
    assert after("pivot L heel 12", after("shift 50/50", pose)).torso == 15.0  # neither is the fuller one
    # In front is half a foot length ahead in the stance's facing.
    for ahead, turned in ((0.124, 20.0), (0.126, 345.0)):
        assert after("shift L 70", pose._replace(left=pose.left._replace(y=ahead))).torso == turned
    assert after("shift L 70, torso -30", pose).torso == 350.0
    assert after("shift L 70", pose, GROUND._replace(torso="stated")).torso == 20.0


def test_a_stance_keeps_the_facing_of_its_last_step_until_both_feet_have_turned() -> None:
    bow = after("step L 10 62x38")
    assert bow.facing == 300.0 and after("shift L 70", bow).facing == 300.0
    one = after("pivot L heel 9", after("shift L 70", bow))
    assert one.facing == 300.0 and stance_size(one.left, one.right, one.facing) == pytest.approx((0.62, 0.38))
    # Both feet have turned counter-clockwise: by 30 and by 45 degrees, so the stance by 30.
    assert after("pivot R heel -45", one).facing == pytest.approx(270.0)
    assert after("pivot R heel +45", one).facing == 300.0  # against each other
    assert after("step R at R.heel toe 2", bow).facing == 60.0  # a step that names none: its own new heading


def test_a_foot_in_the_air_goes_with_the_body() -> None:
    lifted = after("lift L")
    turned, moves, _ = step(lifted, read_count("pivot R heel 3"), GROUND)
    # About the right heel at (0.1, 0): the left heel, 0.2 m to its left, comes to lie behind it.
    is_foot(turned.left, 0.1, 0.2, 90, AIR)
    assert moves[Side.LEFT].kind == 3.0 and turned.facing == 90.0 and turned.torso == 90.0
    assert after("pivot R heel 3", stand()).left == stand().left


def test_a_slide_keeps_the_floor_and_may_carry_a_tenth() -> None:
    for left, found in ((0.1, []), (0.11, ["weight.loaded-lift"])):
        _, moves, problems = step(stand(left), read_count("step L 12 20x20 via slide"), GROUND)
        assert [p.rule for p in problems] == found and moves[Side.LEFT].contact == FLAT
    assert rules("step L 12 20x20 via slide, shift L 10") == [] != rules("step L 12 20x20 via slide, shift L 11")


def test_kicks_leans_and_changes_of_the_seat() -> None:
    kicked = after("kick L 12 waist heel")
    assert kicked.left.contact is AIR and rules("kick L 12 waist", stand(0.2)) == ["weight.loaded-lift"]
    assert after("flat L", kicked).left.contact is FLAT
    assert [after(text, stand(sink=40.0)).sink for text in ("rise 10", "sink +10", "rise 60", "sink 55")] == [
        30,
        50,
        0,
        55,
    ]
    assert after("hold", after("lean -5")).lean == -5.0
    assert rules("kick L 12 waist, hold") == ["score.contradiction"] == rules("sink 40, rise 5")


def test_the_gaze_goes_with_the_torso_unless_stated() -> None:
    looking = after("torso 11, gaze 9")
    assert (looking.torso, looking.gaze) == (330, 270)
    assert after("shift L 100", looking).gaze == after("shift L 100", looking).torso
