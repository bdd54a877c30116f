"""How the body stands over its feet, held against the words of its definition: height, landing, heels that come up."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.core.test_rules import form_of
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.foot import ANKLE, LANDMARKS
from waltzmark.core.body.mass import ankles_over, pelvis_places
from waltzmark.core.body.reach import least_bends
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.pelvis import pelvis_headings
from waltzmark.core.walk.stand import Stand, stand_of
from waltzmark.core.walk.walk import walk

BODY = Body(1.70)
FLAT, HEEL, BALL = Contact.FLAT, Contact.HEEL, Contact.BALL


def standing(left: Any, right: Any, shares: Any, torso: float, sink: float = 50.0) -> Stand:
    """Over two feet, (x, y, heading, contact) each, for the share of the left foot in one row or in many."""
    share = np.atleast_1d(np.asarray(shares, dtype=float))
    n = len(share)
    heels = np.repeat([[left[:2], right[:2]]], n, axis=0)
    headings = np.repeat([[float(left[2]), float(right[2])]], n, axis=0)
    contacts = np.repeat([[left[3], right[3]]], n, axis=0)
    both = np.column_stack([share, 1.0 - share])
    sides = np.arange(2)[None, :]
    soles = np.stack(BODY.sole.patch_centre(sides, contacts, heels[..., 0], heels[..., 1], headings), axis=-1)
    ankles, heights = ankles_over(BODY, heels, headings, contacts)
    places = pelvis_places(BODY, (both[:, :, None] * soles).sum(axis=1), ankles)
    pelvis = pelvis_headings(BODY, headings, contacts, both, np.full(n, torso))
    return stand_of(BODY, places, pelvis, ankles, heights, contacts, both, np.full(n, sink))


def leg(bend: float) -> float:
    return math.sqrt(BODY.shank**2 + BODY.thigh**2 + 2 * BODY.shank * BODY.thigh * math.cos(math.radians(bend)))


feet = st.tuples(
    st.floats(-0.35, 0.0), st.floats(-0.5, 0.5), st.integers(-60, 60), st.sampled_from([FLAT, FLAT, HEEL, BALL])
)


@given(feet, st.integers(-60, 60), st.integers(0, 100), st.integers(-45, 45), st.sampled_from([20.0, 40.0, 60.0]))
def test_the_hips_are_as_high_as_the_feet_let_them_be(
    left: Any, right_heading: int, percent: int, torso: int, sink: float
) -> None:
    """By the words: no leg with 30 % or more is longer than its share allows, and one is just so long; a lighter one
    draws the hips down by its part of what it is short, by no more than 1.7 cm for each percent beyond 5."""
    right = (0.15, 0.0, right_heading, FLAT)
    stand = standing(left, right, percent / 100.0, float(torso), sink)
    ankles, heights = ankles_over(
        BODY,
        np.array([[left[:2], right[:2]]]),
        np.array([[float(left[2]), float(right[2])]]),
        np.array([[left[3], FLAT]]),
    )
    highest: list[tuple[float, float]] = []
    light: list[tuple[float, float]] = []
    for side, share in ((0, percent / 100.0), (1, 1.0 - percent / 100.0)):
        part = min(max((share - 0.4) / 0.1, 0.0), 1.0)
        long = leg(10.0) + (leg(max(sink, 10.0)) - leg(10.0)) * part
        across = float(np.hypot(*(stand.hips[0, side] - ankles[0, side])))
        if share >= 0.1 and across > long + 1e-9:
            assert np.isnan(stand.height[0])
            return
        top = float(heights[0, side]) + math.sqrt(max(long**2 - across**2, 0.0))
        (highest if share >= 0.3 - 1e-9 else light).append((top, share))
    wanted = min(top for top, _ in highest)
    for top, share in light:
        drawn = min(max((share - 0.05) / 0.25, 0.0), 1.0) * max(wanted - top, 0.0)
        wanted -= min(drawn, 1.7 * max(share - 0.05, 0.0))
    assert stand.height[0] == pytest.approx(wanted, abs=1e-6)


@given(feet, st.integers(-60, 60), st.integers(-45, 45), st.sampled_from([20.0, 40.0, 60.0]))
def test_a_hundredth_of_the_weight_moves_a_hip_by_less_than_two_centimetres(
    left: Any, right_heading: int, torso: int, sink: float
) -> None:
    shares = np.linspace(0.0, 1.0, 101)
    stand = standing(left, (0.15, 0.0, right_heading, FLAT), shares, float(torso), sink)
    places = np.concatenate([stand.hips, stand.tops[..., None]], axis=-1)
    known = np.isfinite(stand.height)
    # The chest goes where it likes while no hip holds it: the pelvis that goes with it is no matter of the weight.
    moved = np.linalg.norm(np.diff(places, axis=0), axis=-1)[known[1:] & known[:-1]]
    assert len(moved) == 0 or float(moved.max()) < 0.02


@given(st.integers(20, 65), st.integers(10, 40), st.integers(-45, 45), st.sampled_from(["heel", "flat", "ball"]))
def test_a_landing_leg_reaches_its_foot_and_the_standing_knee_bends_no_more_than_it_must(
    length: int, width: int, out: int, lands: str
) -> None:
    form = form_of(
        f"shift R 100\npivot R heel {'out' if out >= 0 else 'in'} {abs(out)}\nstep L 12 {length}x{width} {lands}"
    )
    trace = walk(form)
    found = Mechanics(trace)
    row, body = len(trace) - 1, form.body
    need = float(
        least_bends(
            body,
            Side.RIGHT,
            trace.heels[row, :1],
            trace.headings[row, :1],
            trace.contacts[row, :1],
            trace.heels[row, 1:],
            trace.headings[row, 1:],
        )[0]
    )
    assume(need < 100.0)
    ankle, up = found.ankles[0][row, 0], found.ankles[1][row, 0]
    slant = math.hypot(*(found.stand.hips[row, 0] - ankle), found.stand.tops[row, 0] - up)
    assert slant <= body.leg(5.0) + 1e-3 or need > 80.0
    # Where the seat is deep enough wherever the pelvis faces, it stays; else it is no less deep than it must be.
    bend = float(found.stand.bends[row, 1])
    assert bend >= min(need, 50.0) - 0.6 and bend >= 49.9
    # The hips tilt toward the foot by 6 degrees at the most.
    lower = float(found.stand.tops[row, 1] - found.stand.tops[row, 0])
    assert -1e-9 <= lower <= body.hip_spacing * math.sin(math.radians(6.0)) + 1e-9


@pytest.mark.parametrize(
    "lines", ["shift R 100\nstep L 12 40x30\nflat L, shift L 100", "shift R 100\nstep L 12 side 60\nshift L 100"]
)
def test_a_light_foot_comes_up_by_the_least_angle_that_reaches(lines: str) -> None:
    """Every degree is tried in turn on the very sole, under the body before it leans after a foot that it left."""
    form = form_of(lines)
    trace, body = walk(form), form.body
    found = Mechanics(trace)
    row, side = len(trace) - 1, Side.RIGHT
    hip = np.append(found.landed.hips[row, side], found.landed.tops[row, side])
    heading = math.radians(float(trace.headings[row, side]))
    u = np.array([math.sin(heading), math.cos(heading)])
    foot = body.sole.of(side)
    ankle, ball, high = ANKLE * foot, LANDMARKS["ball"] * foot, body.measure("ankle_height")
    ahead = float((found.landed.hips[row, side] - trace.heels[row, side]) @ u)

    def short(degrees: float) -> float:
        turn = math.radians(degrees)
        if ahead > ankle:
            along, top = ball - (ball - ankle) * math.cos(turn) + high * math.sin(turn), (ball - ankle) * math.sin(turn)
            top += high * math.cos(turn)
        else:
            along = ankle * math.cos(turn) - high * math.sin(turn)
            top = ankle * math.sin(turn) + high * math.cos(turn)
        return float(np.linalg.norm(hip - np.append(trace.heels[row, side] + along * u, top))) - body.leg(5.0)

    most = 60.0 if ahead > ankle else 30.0
    enough = [degrees for degrees in np.arange(0.0, most + 0.05, 0.1) if short(float(degrees)) <= 0.0]
    assert short(0.0) > 0.0
    # Where none reaches, the one that comes nearest.
    wanted = enough[0] if enough else min(np.arange(0.0, most + 0.05, 0.1), key=short)
    assert abs(float(found.raised[row, side])) == pytest.approx(wanted, abs=0.11)
    assert (float(found.raised[row, side]) > 0.0) == (ahead > ankle)


def test_a_part_on_which_the_next_count_turns_stays_down() -> None:
    lines = "shift R 100\nstep L 12 40x30\nflat L, shift L 100\n"
    free, held = (Mechanics(walk(form_of(lines + each))) for each in ("hold", "pivot R heel in 30"))
    assert free.raised[3, 1] > 0.0 and held.raised[3, 1] == 0.0


def test_a_foot_out_of_reach_is_so_wherever_the_weight_stands_over_the_other_sole() -> None:
    near, far = (
        Mechanics(walk(form_of(f"shift R 100\nstep L 12 {size}\nflat L, shift L 100"))) for size in ("40x30", "85x40")
    )
    assert near.beyond.max() == 0.0
    assert 0.10 < float(far.beyond[3, 1]) < float(far._raised.short[3, 1])  # the centre moves back to the heel
