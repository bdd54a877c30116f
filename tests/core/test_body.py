"""Measures: clock, units, foot, body and reach, against values worked by hand or given by their source."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from waltzmark.core.base import angles
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.units import Length, UnitError, number_text, read_length, read_mass, written_length
from waltzmark.core.body.body import Body
from waltzmark.core.body.foot import Sole, centroid
from waltzmark.core.body.reach import longest_empty_length
from waltzmark.core.school.school import bundled_schools, load_school
from waltzmark.files.schools import school_from_text

degrees = st.floats(-1e4, 1e4)


@given(degrees, degrees)
def test_a_difference_of_headings_leads_from_one_to_the_other(a: float, b: float) -> None:
    turn = angles.heading_difference(a, b)
    assert -180 < turn <= 180
    assert angles.heading_difference(a + turn, b) == pytest.approx(0, abs=1e-6)


def test_the_clock_and_the_compass() -> None:
    assert [angles.clock_text(h) for h in (0, 45, 270, 359.9, 22.5)] == ["12", "1:30", "9", "12", "12:45"]
    assert angles.ahead(90) == pytest.approx((1, 0)) and angles.rightward(0) == pytest.approx((1, 0))
    assert angles.compass_heading("S", "E") == 90
    assert angles.normal(-1e-15) == 0.0
    assert angles.circular_mean(350, 30) == pytest.approx(10) and angles.circular_mean(0, 180) is None
    assert angles.mirrored(30, 270) == pytest.approx(150)


@pytest.mark.parametrize(
    ("text", "metres"),
    [("170cm", 1.7), ("0.62 m", 0.62), ("24in", 0.6096), ("5.5ft", 1.6764), (1.8, 1.8), ("900mm", 0.9)],
)
def test_lengths_are_read_in_any_unit(text: str | float, metres: float) -> None:
    assert read_length(text, 0.1, 2.5, "stature") == pytest.approx(metres)


@pytest.mark.parametrize("bad", ["170", "-170cm", "1e9m", "tall", "170 furlongs", math.nan, math.inf, True, None, []])
def test_impossible_lengths_are_refused_with_what_was_meant(bad: object) -> None:
    with pytest.raises(UnitError, match="stature"):
        read_length(bad, 0.1, 2.5, "stature")  # type: ignore[arg-type]


def test_masses_and_lengths_of_the_body() -> None:
    assert read_mass("150lb", 10, 400, "mass") == pytest.approx(68.04, abs=0.01)
    body = Body(2.0, measured=(("foot_length", 0.25),))
    assert Length(2, "fl").metres(body) == 0.5
    assert Length(1, "sw").metres(body) == pytest.approx(0.518) and Length(1, "hw").metres(body) == pytest.approx(0.382)
    assert [number_text(v) for v in (62.0, 0.1 + 0.2, 1e-7)] == ["62", "0.30000000000000004", "0.0000001"]


def test_a_body_has_the_proportions_of_its_source_until_measured() -> None:
    body = Body(1.70)
    assert (body.foot_length, body.shank, body.thigh) == pytest.approx((0.2584, 0.4182, 0.4165))
    assert body.named_width("shoulder") == pytest.approx((0.259 - 0.055) * 1.70)
    assert body.named_width("together") == pytest.approx(0.0935)
    assert body.leg(0) == pytest.approx(body.shank + body.thigh)
    assert body.leg(90) == pytest.approx(math.hypot(body.shank, body.thigh))
    for wrong in (math.nan, -1.0, 0.0):
        with pytest.raises(WaltzmarkError):
            Body(wrong)


@pytest.mark.parametrize(
    ("contact", "lengths"),
    [
        (Contact.HEEL, (0.385, 0.45, 0.51, 0.57, 0.63)),
        (Contact.FLAT, (0.34, 0.41, 0.475, 0.535, 0.595)),
        (Contact.BALL, (0.405, 0.455, 0.50, 0.55, 0.60)),
    ],
)
def test_the_longest_empty_step_for_a_knee_bend(contact: Contact, lengths: tuple[float, ...]) -> None:
    """Worked for a stature of 1.70 m and a width of 0.30 m: ahead on the heel and flat, back on the ball."""
    back = contact is Contact.BALL
    for bend, length in zip((30, 40, 50, 60, 70), lengths, strict=True):
        for side, other in ((Side.RIGHT, 40.0), (Side.LEFT, -40.0)):
            found = longest_empty_length(Body(1.70), bend, 0.30, side, contact, back=back)
            assert found == pytest.approx(length, abs=0.01)
            # Turned away from the facing, on either side alike.
            turned = longest_empty_length(Body(1.70), bend, 0.30, side, contact, other, other, back)
            assert turned == pytest.approx(
                longest_empty_length(Body(1.70), bend, 0.30, side.other, contact, -other, -other, back), abs=1e-6
            )


def test_a_straight_leg_or_a_wide_stance_allows_only_a_short_step() -> None:
    body = Body(1.70)
    assert longest_empty_length(body, 5, 0.40) < 0.15
    assert longest_empty_length(body, 50, 0.40) < longest_empty_length(body, 50, 0.20)
    assert longest_empty_length(body, 50, 1.50) == 0.0


def test_the_sole_lies_in_its_box_and_the_left_is_the_mirror_of_the_right() -> None:
    sole = Sole(0.26, 0.10)
    left, right = sole.outlines
    np.testing.assert_allclose(left, right * (-1, 1))
    np.testing.assert_allclose([right.min(axis=0), right.max(axis=0)], [[-0.05, -0.0338], [0.05, 0.2262]], atol=1e-9)
    assert right[right[:, 1] > 0.15][:, 0].mean() != pytest.approx(0, abs=1e-3)  # handed
    # Drawn without a step or a corner: no two neighbours far apart, nowhere a sharp turn.
    sides = np.roll(right, -1, axis=0) - right
    ways = np.degrees(np.arctan2(sides[:, 0], sides[:, 1]))
    turns = (np.roll(ways, -1) - ways + 180.0) % 360.0 - 180.0
    assert np.hypot(*sides.T).max() < 0.02 and np.abs(turns).max() < 30.0 and abs(turns.sum()) == pytest.approx(360.0)
    assert centroid(np.array([[0, 0], [2, 0], [2, 1], [0, 1]], dtype=float)) == pytest.approx((1.0, 0.5))


def test_contact_patches_have_their_centroids() -> None:
    sole = Sole(0.26, 0.10)
    heel, ball = sole.patch(Side.LEFT, Contact.HEEL), sole.patch(Side.LEFT, Contact.BALL)
    assert heel is not None and ball is not None and sole.patch(Side.LEFT, Contact.AIR) is None
    assert np.ptp(heel, axis=0) == pytest.approx((0.0572, 0.0572), abs=1e-3)
    assert np.ptp(ball, axis=0) == pytest.approx((0.08, 0.0728), abs=1e-3)
    assert sole.centroids[0, Contact.BALL] == pytest.approx(centroid(ball), abs=1e-9)
    assert sole.landmark(1.0, 2.0, 90.0, "toe") == pytest.approx((1.2262, 2.0))


def test_placing_many_soles_is_placing_each() -> None:
    sole = Sole(0.26, 0.10)
    local = sole.outlines[1]
    many = sole.placed(local, np.array([0.0, 1.0]), np.array([0.5, 2.0]), np.array([0.0, 270.0]))
    np.testing.assert_allclose(many[0], local + (0.0, 0.5))
    np.testing.assert_allclose(many[1], np.column_stack([1.0 - local[:, 1], 2.0 + local[:, 0]]), atol=1e-12)


def test_lengths_are_written_with_their_unit_up_to_five_metres() -> None:
    assert written_length("-5m") == Length(-5.0, "m") and written_length("1.5sw") == Length(1.5, "sw")
    for text, kind in (
        ("501cm", "unit.too-long"),
        ("5.1m", "unit.too-long"),
        ("5", "unit.stance-length"),
        ("xcm", "unit.stance-length"),
    ):
        with pytest.raises(UnitError, match=kind):
            written_length(text)


def test_schools_are_files_and_a_broken_one_says_where() -> None:
    assert "broad-frame" in bundled_schools()
    with pytest.raises(WaltzmarkError, match="school.unknown"):
        load_school("narrow")
    for text, told in (
        ("id = ", "school.toml"),
        (
            'id="x"\nname="x"\nsummary=""\n[rules]\n[stances.bow]\nlength="long"\nwidth="hip"',
            "unit.stance-length.*text=long",
        ),
        ('id="x"\nname="x"\nsummary=""\n[rules]\n[stances.bow]\nlength="2fl"\nwidth="hip"', "school.stances.*cross"),
        ('base="school.toml"', "school.unknown.*broad-frame"),
        ("base=3", "school.base"),
        ('base="ball-turn"\n[rules."pivot.part"]\nchoices={part="knee"}', "school.choice"),
        ('base="ball-turn"\n[stances.bow]\nwidth="nancm"', "nancm"),
        ('base="ball-turn"\n[stances.bow]\nwidth="5.01m"', "unit.too-long"),
        ('base="ball-turn"\n[stances.bow]\nlength="1e9m"', "unit.too-long"),
        ('base="ball-turn"\n[stances.bow]\nlength="-20cm"', "school.length"),
        ('base="ball-turn"\n[stances.bow]\nrear_toe=nan', "file.range"),
        ('base="ball-turn"\n[stances.bow]\nland="toe"', r"stances\.bow\.land"),
        ('base="ball-turn"\n[rules."pivot.loaded"]\nlimits={load=inf}', "file.range"),
    ):
        with pytest.raises(WaltzmarkError, match=told):
            school_from_text(text, "school.toml")
    school = load_school("broad-frame")
    bare = school_from_text(
        '[stances.bow]\nlength = "60cm"\nwidth = "30cm"\n[stances.cross]\nlength = "40cm"\nwidth = "-4cm"\n'
        '[rules."pivot.loaded"]\nwhy = "x"\n[rules."pivot.part"]\n',
        "bare",
    )
    # What a school leaves unsaid is the broad frame's.
    assert bare.limit("pivot.loaded", "load") == school.limit("pivot.loaded", "load")
    assert bare.choice("pivot.part", "part") == school.choice("pivot.part", "part")
