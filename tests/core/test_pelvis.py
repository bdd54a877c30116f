"""The pelvis under the chest and the legs below it: worked values, and the definitions taken at their word."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.mass import ankles_over, pelvis_places
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.school.school import load_school
from waltzmark.core.walk.ground import STILL, Ground
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.passage import Passage, row_values, rows_table
from waltzmark.core.walk.pelvis import HOLDS, hip_gaps, pelvis_headings, pelvis_of
from waltzmark.core.walk.stand import stand_of
from waltzmark.core.walk.trace import Trace

AIR, BALL, HEEL, FLAT = (Contact[name] for name in ("AIR", "BALL", "HEEL", "FLAT"))
BODY = Body(1.70)
whole_degrees = st.integers(0, 359)


def taken(left: Any, right: Any, share: float, torso: float, centre: tuple[float, float], sink: float = 50.0) -> Any:
    """Pelvis heading and place, hip height and knee bends of one pose; a foot is (heel, heading, contact)."""
    heels, headings = np.array([[left[0], right[0]]]), np.array([[left[1], right[1]]], dtype=float)
    contacts, shares = np.array([[left[2], right[2]]]), np.array([[share, 1.0 - share]])
    ankles, heights = ankles_over(BODY, heels, headings, contacts)
    places = pelvis_places(BODY, np.array([centre]), ankles)
    heading = pelvis_headings(BODY, headings, contacts, shares, np.array([torso]))
    stand = stand_of(BODY, places, heading, ankles, heights, contacts, shares, np.array([sink]))
    return heading[0], places[0], stand.height[0], stand.bends[0]


@pytest.mark.parametrize(
    ("left", "right", "share", "torso", "centre", "place", "heading", "height", "bends"),
    [
        (
            ((-0.15, 0.45), 0, FLAT),
            ((0.15, 0.0), 45, FLAT),
            0.7,
            0,
            (-0.040, 0.402),
            (-0.048, 0.428),
            0,
            0.779,
            (62, 10),
        ),
        (
            ((-0.15, 0.45), 0, HEEL),
            ((0.15, 0.0), 45, FLAT),
            0.1,
            315,
            (0.181, 0.106),
            (0.209, 0.083),
            0,
            0.801,
            (0, 53),
        ),
        (
            ((-0.30, 0.30), 0, AIR),
            ((0.15, 0.0), 30, FLAT),
            0.0,
            30,
            (0.198, 0.083),
            (0.242, 0.067),
            30,
            0.808,
            (None, 50),
        ),
    ],
)
def test_worked_poses(
    left: Any,
    right: Any,
    share: float,
    torso: float,
    centre: Any,
    place: Any,
    heading: float,
    height: float,
    bends: Any,
) -> None:
    """By hand for a stature of 1.70 m and a seat of 50 degrees: a forward stance, sitting back from it with the chest
    turned away, whose light front leg draws the hips down by a fifth of the 4.6 cm it is short, and one leg."""
    found = taken(left, right, share, torso, centre)
    assert found[0] == pytest.approx(heading, abs=1e-9)
    assert found[1] == pytest.approx(place, abs=0.01) and found[2] == pytest.approx(height, abs=0.01)
    for bend, wanted in zip(found[3], bends, strict=True):
        assert np.isnan(bend) if wanted is None else bend == pytest.approx(wanted, abs=1.5)


def test_a_leg_that_carries_and_cannot_reach_leaves_height_and_knees_unknown() -> None:
    far = taken(((-0.9, 0.0), 0, FLAT), ((0.9, 0.0), 0, FLAT), 0.5, 0, (0.0, 0.1))
    assert np.isnan(far[2]) and np.isnan(far[3]).all()
    # A light foot as far away holds nothing up: the other leg is as it would be alone, and the light one is straight.
    light = taken(((-0.9, 0.0), 0, FLAT), ((0.9, 0.0), 0, FLAT), 0.02, 0, (0.85, 0.1))
    assert light[3][1] == pytest.approx(50.0, abs=0.1) and light[3][0] == 0.0


def _gap(one: Floats, other: float) -> Floats:
    return np.abs((one - other + 180.0) % 360.0 - 180.0)


def _held(headings: tuple[int, int], contacts: Ints, shares: Floats, body: Body) -> list[tuple[Floats, float]]:
    """By the definition: for each foot that holds, wholly or in part, every whole degree the hip allows, and its
    share."""
    found = []
    for side in Side:
        out, inward = body.hip_range(side)
        if contacts[side] == FLAT and shares[side] > HOLDS:
            least, most = (-inward, out) if side is Side.LEFT else (-out, inward)
            found.append((np.mod(headings[side] + np.arange(least, most + 1.0), 360.0), float(shares[side])))
    return found


@given(
    st.tuples(whole_degrees, whole_degrees),
    whole_degrees,
    st.tuples(st.sampled_from(list(Contact)), st.sampled_from(list(Contact))),
    st.integers(0, 20),
    st.tuples(st.integers(1, 80), st.integers(1, 80), st.integers(1, 80), st.integers(1, 80)),
)
def test_the_pelvis_is_the_heading_nearest_to_the_chest_that_every_loaded_hip_allows(
    headings: tuple[int, int], torso: int, contacts: tuple[Contact, Contact], fifths: int, hips: tuple[int, ...]
) -> None:
    body = Body(1.70, hip_out=(float(hips[0]), float(hips[1])), hip_in=(float(hips[2]), float(hips[3])))
    shares, ground = np.array([fifths / 20.0, 1.0 - fifths / 20.0]), np.array([contacts])
    pelvis = pelvis_headings(
        body, np.array([headings], dtype=float), ground, shares[None, :], np.array([float(torso)])
    )[0]
    held = _held(headings, ground[0], shares, body)
    assume(all(each[1] > 0.29 for each in held))  # a foot that holds in part: see below
    if not held:
        assert pelvis == torso % 360
        return
    allowed = held[0][0] if len(held) == 1 else np.intersect1d(held[0][0], held[1][0])
    if len(allowed):
        # Whole degrees are enough: ends and chest are whole. Either way round is as near when two are.
        assert _gap(allowed, pelvis).min() < 1e-6
        assert _gap(np.array([pelvis]), torso)[0] == pytest.approx(_gap(allowed, torso).min(), abs=1e-6)
    else:
        # It crosses the gap evenly while the weight goes from 40 to 60 % of the one foot.
        away, apart = _gap(held[0][0], pelvis).min(), min(_gap(held[0][0], float(one)).min() for one in held[1][0])
        assert away == pytest.approx(apart * np.clip((0.6 - held[0][1]) / 0.2, 0.0, 1.0), abs=1e-6)
        assert away + _gap(held[1][0], pelvis).min() == pytest.approx(apart, abs=1e-6)


@given(
    st.tuples(whole_degrees, whole_degrees),
    st.integers(1, 179),
    st.integers(0, 20),
    st.floats(-0.4, 0.4),
    st.floats(-0.5, 0.5),
    st.floats(15.0, 80.0),
)
def test_mirrored_poses_have_mirrored_pelvises_and_the_same_knees(
    headings: tuple[int, int], torso: int, fifths: int, across: float, ahead: float, sink: float
) -> None:
    left, right = ((-0.15 - across, ahead), headings[0], FLAT), ((0.15, 0.0), headings[1], FLAT)
    centre, share = (across / 3.0, ahead / 2.0), fifths / 20.0
    one = taken(left, right, share, float(torso), centre, sink)

    def turned(foot: Any) -> Any:
        return (-foot[0][0], foot[0][1]), -foot[1] % 360, foot[2]

    assume(
        # Opposite hips leave both ways as near: left and right are each turned 5 degrees from their foot.
        abs(_gap(np.array([headings[0] + 5.0]), headings[1] - 5.0)[0] - 180.0) > 1.0 and not _tied(headings, torso)
    )
    other = taken(turned(right), turned(left), 1.0 - share, float(-torso % 360), (-centre[0], centre[1]), sink)
    assert _gap(np.array([-one[0] % 360]), other[0])[0] < 1e-6
    assert one[1] * (-1.0, 1.0) == pytest.approx(other[1])
    assert other[2] == pytest.approx(one[2], nan_ok=True) and other[3][::-1] == pytest.approx(one[3], nan_ok=True)


def _tied(headings: tuple[int, int], torso: int) -> bool:
    """Whether the chest is opposite the middle of what one hip allows, or of what both do: then both ways are as near,
    and clockwise is taken."""
    held = [each[0] for each in _held(headings, np.array([FLAT, FLAT]), np.array([0.5, 0.5]), BODY)]
    for allowed in (*held, np.intersect1d(held[0], held[1])):
        away = _gap(allowed, torso)
        if len(allowed) and (away <= away.min() + 1e-6).sum() > 1:
            return True
    return False


@given(
    st.tuples(whole_degrees, whole_degrees),
    whole_degrees,
    st.integers(0, 20),
    st.floats(-0.5, 0.5),
    st.floats(-0.5, 0.5),
    st.tuples(st.sampled_from([BALL, HEEL, FLAT]), st.sampled_from([BALL, HEEL, FLAT])),
    st.integers(-20, 40),
)
def test_the_pelvis_of_one_pose_is_that_of_a_whole_walk(
    headings: tuple[int, int], torso: int, fifths: int, x: float, y: float, on: tuple[Contact, Contact], lean: int
) -> None:
    body = Body(1.70, hip_out=(40.0, 55.0), left_foot=0.24, measured=(("foot_length", 0.26),))
    feet = (FootPose(x, y, float(headings[0]), on[0]), FootPose(0.1, -0.2, float(headings[1]), on[1]))
    pose = Pose(*feet, fifths / 20.0, float(torso), facing=10.0, lean=float(lean))
    table = rows_table([row_values(pose, (STILL, STILL), 1.0, 0, 0)])
    found = Mechanics(Trace(Ground(body, load_school("broad-frame")), (Passage(None, (), pose, pose, table),)))
    one = pelvis_of(body, pose)
    assert one[:2] == pytest.approx(found.pelvis_places[0]) and one.heading == pytest.approx(found.pelvis[0])
    # A trunk that leans carries the pelvis the other way: 0.678 of the mass, 0.18 of the stature above the hips.
    upright = pelvis_of(body, pose._replace(lean=0.0))
    away = np.array(upright[:2]) - np.array(one[:2])
    far = 0.678 * 0.180288 * 1.70 * np.sin(np.radians(lean)) / 0.856
    assert away == pytest.approx(far * np.array([np.sin(np.radians(torso)), np.cos(np.radians(torso))]), abs=1e-4)


@given(st.tuples(whole_degrees, whole_degrees), whole_degrees, st.floats(0.2, 0.3))
def test_a_foot_that_holds_in_part_draws_the_pelvis_that_part_of_the_way(
    headings: tuple[int, int], torso: int, share: float
) -> None:
    def pelvis(right: float) -> float:
        shares, feet = np.array([[1.0 - right, right]]), np.array([headings], dtype=float)
        return float(pelvis_headings(BODY, feet, np.array([[FLAT, FLAT]]), shares, np.array([float(torso)]))[0])

    without, wholly = pelvis(0.2), pelvis(0.3)
    way = (wholly - without + 180.0) % 360.0 - 180.0
    assume(abs(way) < 179.0)
    assert _gap(np.array([pelvis(share)]), without + (share - 0.2) / 0.1 * way)[0] < 1e-6


@given(st.tuples(whole_degrees, whole_degrees), st.integers(0, 20))
def test_two_loaded_hips_miss_each_other_by_the_gap_between_what_they_allow(
    headings: tuple[int, int], fifths: int
) -> None:
    shares, ground = np.array([fifths / 20.0, 1.0 - fifths / 20.0]), np.array([[FLAT, FLAT]])
    gap = float(hip_gaps(BODY, np.array([headings], dtype=float), ground, shares[None, :])[0])
    held = _held(headings, ground[0], shares, BODY)
    if len(held) < 2:
        assert gap == 0.0
    else:
        least = min(float(_gap(held[1][0], float(one)).min()) for one in held[0][0])
        part = 1.0 if shares.min() > 0.29 else 0.5  # with a quarter of the weight it holds half
        assert gap == pytest.approx(part * least, abs=1e-6)
