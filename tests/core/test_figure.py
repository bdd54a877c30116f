"""The body in space: bones keep their length, soles stay above the floor, sides mirror, and picture and rule agree."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_judging import Lines, full
from tests.core.test_rules import form_of
from tests.trying import tries
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.figure import JOINTS, SIDED, Figure
from waltzmark.core.body.foot import ANKLE, LANDMARKS
from waltzmark.core.form.form import Form, Opening, Posture
from waltzmark.core.judge.judging import judge
from waltzmark.core.score import actions as act
from waltzmark.core.score import read_score
from waltzmark.core.walk.figures import Figures, _knees_up, raised_at
from waltzmark.core.walk.mechanics import UNSURE, Mechanics
from waltzmark.core.walk.seen import seen_of
from waltzmark.core.walk.walk import walk

lines = st.lists(full, max_size=8).map(tuple)
times = st.floats(0.0, 1.0)


def figures(lines: Lines, body: Body | None = None) -> Figures:
    return Figures(walk(Form(body=body or Body(1.7), postures=(Posture("a", lines=lines),))))


def length(figure: Figure, one: str, other: str) -> np.ndarray[tuple[int, ...], np.dtype[np.float64]]:
    return np.asarray(np.sqrt(((figure.joint(one) - figure.joint(other)) ** 2).sum(axis=-1)))


def bones(body: Body) -> dict[tuple[str, str], float]:
    """Every bone of one side, metres."""
    arm = body.measure("arm")
    return {
        ("hip", "knee"): body.thigh,
        ("knee", "ankle"): body.shank,
        ("shoulder", "elbow"): arm * 0.186 / 0.44,
        ("elbow", "hand"): arm * 0.254 / 0.44,
        ("elbow", "wrist"): arm * 0.146 / 0.44,
        ("ball", "toe"): (LANDMARKS["toe"] - LANDMARKS["ball"]) * body.sole.length,
        ("heel", "ball"): LANDMARKS["ball"] * body.sole.length,
        ("heel", "ankle"): float(np.hypot(ANKLE * body.sole.length, body.measure("ankle_height"))),
    }


@settings(max_examples=tries(60))
@given(lines, times)
def test_bones_keep_their_length_and_soles_stay_above_the_floor(lines: Lines, t: float) -> None:
    walked = figures(lines)
    made = [walked.settled, *(walked.at(row, t) for row in range(1, len(walked.trace)))]
    for figure in made:
        assert np.isfinite(figure.joints).all()
        for (one, other), wanted in bones(walked.body).items():
            for side in ("left", "right"):
                assert length(figure, f"{side} {one}", f"{side} {other}") == pytest.approx(wanted, abs=0.001)
        assert length(figure, "pelvis", "neck") == pytest.approx(0.288 * 1.7, abs=0.001)
        if not figure.gaps.any():
            for name in ("heel", "ball", "toe"):
                for side in ("left", "right"):
                    assert (figure.joint(f"{side} {name}")[:, 2] > -0.002).all()


@settings(max_examples=tries(60))
@given(lines)
def test_a_settled_figure_is_the_body_that_the_rules_judge(lines: Lines) -> None:
    """Its hips, and its knees by the bend and past the toes, are those of the mechanics."""
    walked = figures(lines)
    found, figure, trace = Mechanics(walked.trace), walked.settled, walked.trace
    past = found.past_toe(found.shin_lean)
    for side in Side:
        hip, knee, ankle = (figure.joint(f"{side.name.lower()} {name}") for name in ("hip", "knee", "ankle"))
        known = np.isfinite(found.stand.tops[:, side])
        assert hip[known, 2] == pytest.approx(found.stand.tops[known, side], abs=1e-6)
        seat = known & (np.abs(found.stand.tops - found.seat.tops)[:, side] < 1e-9)
        seat &= (np.abs(found.stand.hips - found.seat.hips) < 1e-9).all(axis=(1, 2))
        seat &= (trace.contacts[:, side] != Contact.AIR) & (np.abs(found.raised[:, side]) < 1e-9)
        thigh, shank = hip - knee, knee - ankle
        cos = (thigh * shank).sum(axis=1) / np.sqrt((thigh**2).sum(axis=1) * (shank**2).sum(axis=1))
        bends = np.degrees(np.arccos(np.clip(cos, -1.0, 1.0)))
        tight = figure.gaps[:, side] < 1e-6
        assert bends[seat & tight] == pytest.approx(found.seat.bends[seat & tight, side], abs=0.2)
        out, inward = walked.body.hip_range(side)
        free = (found.hip_turns[:, side] <= out) & (found.hip_turns[:, side] >= -inward)
        here = seat & free & tight & np.isfinite(past[:, side]) & (trace.contacts[:, side] == Contact.FLAT)
        here &= knee[:, 2] > 0.0  # who sits on the floor has none of it in the air
        angle = np.radians(trace.headings[here, side])
        u = np.stack([np.sin(angle), np.cos(angle)], axis=-1)
        ahead = ((knee[here, :2] - trace.heels[here, side]) * u).sum(axis=1) - LANDMARKS[
            "toe"
        ] * walked.body.sole.length
        assert ahead == pytest.approx(past[here, side], abs=0.002)


@settings(max_examples=tries(30))
@given(lines, times)
def test_the_other_side_of_a_form_has_mirrored_figures(lines: Lines, t: float) -> None:
    lines = tuple(line for line in lines if not line.spots)
    one, other = figures(lines), figures(tuple(line.mirrored(0.0, "N") for line in lines))
    exchanged = list(JOINTS.values())
    for at in range(len(SIDED)):
        exchanged[2 * at : 2 * at + 2] = exchanged[2 * at + 1], exchanged[2 * at]
    for row in range(len(one.trace)):
        if abs(one.trace.move_turns[row]).max() > 179.0 or (row and _opposite(one, row)):
            return  # half a turn goes clockwise on either side
        for when in (t, 1.0):
            flat = other.at(row, when).joints[:, exchanged] * (-1.0, 1.0, 1.0)
            assert one.at(row, when).joints == pytest.approx(flat, abs=0.001)


def _opposite(walked: Figures, row: int) -> bool:
    """Whether chest or eyes turn by half a turn in a count, or stand so to the hips, or the chest as no waist lets it."""
    trace, found = walked.trace, walked._mechanics
    turns = np.array(
        [
            trace.torso[row] - trace.torso[row - 1],
            trace.gaze[row] - trace.gaze[row - 1],
            found.waist[row],
            *found.hip_gap[row : row + 1],
        ]
    )
    turned = np.abs(np.mod(turns[:3] + 180.0, 360.0) - 180.0) > 170.0
    return bool(turned.any() or turns[3] > 0.0 or abs(found.waist[row]) > 100.0)


@pytest.mark.parametrize("stature", [1.5, 1.72, 1.95])
def test_one_who_stands_straight_is_as_tall_as_the_body(stature: float) -> None:
    body = Body(stature, knee_bend=1.0)
    figure = Figures(walk(form_of("hold", body=body, opening=Opening("together")))).settled
    assert figure.joint("crown")[-1, 2] == pytest.approx(stature, rel=0.006)  # ten degrees stay in a knee
    hands = [figure.joint(f"{side} hand")[-1] for side in ("left", "right")]
    assert all(0.3 * stature < hand[2] < 0.45 * stature for hand in hands)
    assert hands[0][0] < -0.1 * stature and hands[1][0] > 0.1 * stature


@given(st.integers(30, 85), st.integers(25, 70), st.integers(20, 40), st.integers(50, 100))
@settings(max_examples=tries(100))
def test_a_knee_is_drawn_past_its_toes_where_the_rule_says_so(bend: int, long: int, wide: int, share: int) -> None:
    form = form_of(f"sink {bend}\nshift R 100\nstep L 12 {long}x{wide} flat\nshift L {share}, torso 12")
    trace = walk(form)
    figure, told = Figures(trace).settled, [f for f in judge(form, trace) if f.rule == "knee.past-toe" and f.row == 4]
    past = 100 * (figure.joint("left knee")[4, 1] - figure.joint("left toe")[4, 1])
    if told:
        assert past == pytest.approx(told[0].measured, abs=0.2) and past > told[0].limit
    elif trace.shares[4, 1] > 0.03 and np.isfinite(Mechanics(trace).past_toe(Mechanics(trace).shin_lean)[4, 0]):
        assert past < form.school.limit("knee.past-toe", "past") + 3.0  # five degrees of bend that are not sure


def test_toes_turned_in_bring_the_knees_nearer_than_the_ankles() -> None:
    text = "shift R 100\nstep L 12 side 60\nshift L 100\npivot R heel in 25\nshift R 100\npivot L heel in 25\nshift 50/50, sink 60, torso 12"
    figure = Figures(walk(form_of(text))).settled
    apart = [float(length(figure, f"left {name}", f"right {name}")[-1]) for name in ("knee", "ankle")]
    assert apart[0] < apart[1]


LIFTS = st.lists(
    st.sampled_from(
        ["lift L knee", "lift R knee", "lift L", "flat L", "flat R", "step L beside", "shift R 100", "shift L 100"]
    ),
    max_size=4,
).map(lambda lines: tuple(read_score("\n".join(lines))))


@given(LIFTS, LIFTS)
@settings(max_examples=tries(80))
def test_a_knee_stays_up_until_its_foot_is_put_down(first: Lines, second: Lines) -> None:
    """Told count by count; into the next posture too where a foot is held up, which may be one without counts."""
    postures = (
        Posture("a", lines=first),
        Posture("b", repeat_of="a", turned=90.0),
        Posture("c", lines=second),
        Posture("d"),
    )
    trace = walk(Form(postures=postures))
    up, told = [False, False], []
    for row, count in enumerate(trace.written):
        begins = row > 0 and trace.posture(row) != trace.posture(row - 1)
        if begins and not (trace.contacts[row - 1] == Contact.AIR).any():
            up = [False, False]
        for action in count.actions:
            if isinstance(action, act.Lift | act.Step | act.Land):
                up[action.side] = isinstance(action, act.Lift) and action.knee
        told.append(list(up))
    assert _knees_up(trace).tolist() == told


def test_a_kick_goes_where_it_is_written_and_a_lifted_knee_hangs() -> None:
    text = "shift R 100\nlift L knee\nkick L 12 waist heel, gaze 12"
    figure = Figures(walk(form_of(text))).settled
    hip, knee, ankle = (figure.joint(f"left {name}") for name in ("hip", "knee", "ankle"))
    assert knee[2, 2] < hip[2, 2] and (knee - ankle)[2] == pytest.approx([0.0, 0.0, 0.246 * 1.7], abs=0.002)
    assert ankle[3, 2] == pytest.approx(0.63 * 1.7, abs=0.05) and ankle[3, 1] > hip[3, 1] + 0.5


def test_hands_are_where_the_score_has_them() -> None:
    text = "hand R 12 chest push, hand L 9 hip guard\nhold"
    figure = Figures(walk(form_of(text))).settled
    right, shoulder = figure.joint("right hand")[-1], figure.joint("right shoulder")[-1]
    assert right[1] > shoulder[1] + 0.5 and abs(right[0] - shoulder[0]) < 0.01
    assert figure.joint("left hand")[-1, 0] < figure.joint("left shoulder")[-1, 0]
    hips = figure.joint("pelvis")[-1, 2]
    assert right[2] - hips == pytest.approx((0.72 - 0.53) * 1.7, abs=0.01)


def test_a_leg_that_does_not_reach_is_drawn_as_far_as_it_goes() -> None:
    form = Form(body=Body(1.6), postures=(Posture("a", lines=read_score("shift R 100\nstep L 12 150x30\nshift L 50")),))
    figure = Figures(walk(form)).settled
    assert figure.gaps[-1].max() > 0.1 and np.isfinite(figure.joints).all()


@settings(max_examples=tries(60))
@given(lines)
def test_a_light_foot_is_reached_wherever_the_weight_can_reach_it(lines: Lines) -> None:
    walked = figures(lines)
    trace, found, gaps = walked.trace, walked._mechanics, walked.settled.gaps
    past = np.nan_to_num(found.past_toe(found.shin_lean_within(UNSURE)), nan=0.0)[:, ::-1] > 0.0
    flat = (trace.contacts == Contact.FLAT).all(axis=1, keepdims=True)
    left = flat & (trace.shares < 0.3) & ~found.steps & ~past
    assert (gaps[left] <= found.beyond[left] + 0.002).all()


@settings(max_examples=tries(40))
@given(st.lists(lines, min_size=1, max_size=3))
def test_what_comes_up_in_one_row_is_what_comes_up_in_the_whole_walk(texts: list[Lines]) -> None:
    trace = walk(Form(postures=tuple(Posture(f"p{n}", lines=lines) for n, lines in enumerate(texts))))
    whole = Mechanics(trace).raised
    for row in range(len(trace)):
        assert raised_at(trace, row) == pytest.approx(tuple(whole[row]), abs=1e-9)


@settings(max_examples=tries(60))
@given(lines)
def test_no_limb_jumps_where_one_count_goes_over_into_the_next(lines: Lines) -> None:
    walked = figures(lines)
    found = walked.trace
    for row in range(1, len(found)):
        if abs(found.move_turns[row]).max() > 179.0 or _opposite(walked, row):
            continue  # half a turn begins the one way or the other
        for at, t in ((row - 1, 1e-4), (row, 1.0 - 1e-4)):
            away = walked.at(row, t).joints[0] - walked.settled.joints[at]
            assert np.sqrt((away**2).sum(axis=1)).max() < 0.03


def test_what_is_seen_is_told_in_figures() -> None:
    """Knees that fall in, a lean, a head that sinks, a front knee behind its toes, a leg that does not reach."""
    seat = "shift R 100\nstep L 12 side 60\nshift L 100\npivot R heel in 25\nshift R 100\npivot L heel in 25\nshift 50/50, sink 60, torso 12"
    trace = walk(form_of(seat, "lean 20\nshift R 100\nstep L 12 45x30\nflat L, shift L 70"))
    walked = Figures(trace)
    told = [seen_of(walked.at(row, 1.0), trace.pose(row), walked.at(row - 1, 1.0)) for row in range(1, len(trace))]
    assert told[6].inward > 0.1 and told[6].risen < -0.01 and told[6].front is None
    assert told[0].inward < 0.05 and told[7].lean == 20.0
    last, figure = told[-1], walked.at(len(trace) - 1, 1.0)
    assert last.front is Side.LEFT and last.gap is None
    assert last.past == pytest.approx(figure.joint("left knee")[0, 1] - figure.joint("left toe")[0, 1])
    torn = walk(form_of("shift R 100\nstep L 12 150x30\nshift L 50"))
    assert seen_of(Figures(torn).at(3, 1.0), torn.pose(3)).gap is not None
