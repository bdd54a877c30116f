"""What carries a form away from home, what closes it, and the loops hidden in it."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.answers.review import review
from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.messages import message
from waltzmark.core.base.progress import StoppedError
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.edit.bounds import less_and_more
from waltzmark.core.form.form import Form, Home, Posture
from waltzmark.core.form.room import Room, Start
from waltzmark.core.home.closing import CLOSED, Closing, closings
from waltzmark.core.home.ledger import SCATTER, cancelling, check_return, home_outside
from waltzmark.core.home.loops import loops_of
from waltzmark.core.home.rounds import MOST, rounds_in_room, rounds_of
from waltzmark.core.home.turning import _changed
from waltzmark.core.score import read_score, write_count
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.lengths import measures_of
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document

DEMO = read_document(demo_text()).form


def form_of(*texts: str, **more: object) -> Form:
    postures = tuple(Posture(f"p{n}", f"Posture {n}", read_score(text)) for n, text in enumerate(texts))
    return Form(postures=postures, **more)  # type: ignore[arg-type]


def ten_steps(length: float = 40.0) -> list[str]:
    """Ten equal steps straight ahead, each a posture, closed with a step beside."""
    texts = []
    for n in range(10):
        side, other = ("L", "R") if n % 2 == 0 else ("R", "L")
        texts.append(f"shift {other} 100\nstep {side} 12 bow {length:g}x30\nshift {side} 100")
    return [*texts, "step L beside\nshift 50/50"]


FAR = Home((9.0, 9.0))
#: Straight ahead and closed up, 30 cm further than home.
STRAIGHT = form_of(*ten_steps(), home=Home((0.0, 3.7)))


def check(form: Form, closing: Closing) -> None:
    """A closing is what it says: walked again it ends there, and its changes are those of its form."""
    then = check_return(walk(closing.form), closing.form)
    assert then.distance == pytest.approx(closing.distance) and then.turn == pytest.approx(closing.turn)
    if closing.added is not None:
        return  # it has a posture more
    assert closing.total == pytest.approx(sum(abs(c.after - c.before) for c in closing.changes))
    changed = {c.posture for c in closing.changes} | {c.posture for c in closing.turns}
    assert {p.id for p, q in zip(form.postures, closing.form.postures, strict=True) if p != q} == changed


# The ledger.


def test_the_ledger_adds_up_by_posture_and_count() -> None:
    trace = walk(DEMO)
    result = check_return(trace, DEMO)
    moved = trace.midpoints[-1] - trace.midpoints[0]
    for part in result.contributions:
        assert np.array([c.offset for c in part.counts]).sum(axis=0) == pytest.approx(part.offset, abs=1e-12)
        assert sum(c.turn for c in part.counts) == pytest.approx(part.turn)
        assert [c.count for c in part.counts] == list(range(1, len(part.counts) + 1))
    assert np.array([c.offset for c in result.contributions]).sum(axis=0) == pytest.approx(moved)
    assert sum(c.share for c in result.contributions) == pytest.approx(result.distance)
    assert result.turned == pytest.approx(sum(c.turn for c in result.contributions)) and result.turned == 360.0
    steps = int((trace.move_kinds == 2).sum())
    assert result.scatter == pytest.approx(SCATTER * math.sqrt(steps))
    pairs = cancelling(result.contributions)
    # Going out and coming back cancel.
    assert any({one.partition("-")[0], other.partition("-")[0]} == {"cast", "tide"} for one, other in pairs)
    assert len({name for pair in pairs for name in pair}) == 2 * len(pairs)


def test_home_may_be_elsewhere_and_face_otherwise() -> None:
    form = replace(STRAIGHT, home=Home((0.1, 4.0), Clock(90 * 2), 0.05, 5.0))
    result = check_return(walk(form), form)
    end = walk(form).midpoints[-1]
    assert result.offset == pytest.approx((end[0] - 0.1, end[1] - 4.0)) and result.turn == -90.0 and not result.good
    at_home = replace(form, home=Home((float(end[0]), float(end[1])), Clock(0), 0.05, 5.0))
    assert review(at_home, walk(at_home)).answers[1].message.kind == "return.on-home"
    near = replace(form, home=Home((float(end[0]), float(end[1]) + 0.04), None, 0.05, 5.0))
    answer = review(near, walk(near)).answers[1]
    assert (
        answer.good
        and answer.message.kind == "return.within-home"
        and answer.message["distance"] == pytest.approx(0.04)
    )
    assert not review(replace(near, home=replace(near.home, within=0.03)), walk(near)).answers[1].good


# Closing.


def test_a_home_outside_the_room_is_told() -> None:
    room = DEMO.room
    assert room is not None and not home_outside(DEMO) and not home_outside(replace(DEMO, room=None, home=FAR))
    assert home_outside(replace(DEMO, home=FAR))
    # The same place in the room, wherever the walk begins and whichever way it faces.
    x, y = room.outline[0]
    for start in (Start(1.0, 1.0, 0.0), Start(2.0, 1.5, 130.0)):
        turned = replace(room, start=start)
        inside, beyond = turned.to_floor(np.array([[x + 0.4, y + 0.4], [x - 0.1, y + 0.4]])).tolist()
        assert home_outside(replace(DEMO, room=turned, home=Home(tuple(beyond))))
        assert not home_outside(replace(DEMO, room=turned, home=Home(tuple(inside))))


def test_a_straight_walk_closes_in_one_step_or_spread_over_all() -> None:
    every = closings(STRAIGHT, freely=True).every
    found = {closing.kind: closing for closing in every if closing.changes}
    for closing in found.values():
        check(STRAIGHT, closing)
        lengths = [c for c in closing.changes if c.what == "length"]
        assert sum(c.before - c.after for c in lengths) == pytest.approx(0.30, abs=0.011) and not closing.brings
    least = min(found.values(), key=lambda each: len(each.changes))
    assert found["fewest"] is least and len(least.changes) <= 2
    assert found["even"].total <= 0.36 and max(c.by for c in found["even"].changes) <= 0.041
    assert len(found["even"].changes) >= 8


def test_many_lengths_are_rounded_so_that_the_end_stays_home() -> None:
    """Two hundred steps that each change by little are written in whole centimetres, none by more than one."""
    texts = [text for _ in range(20) for text in ten_steps()[:10]]
    form = form_of(*texts, torso="stated")
    end = walk(form).midpoints[-1]
    found = closings(replace(form, home=Home((float(end[0]), float(end[1]) - 0.57))))
    (even,) = [each for each in found.every if each.kind == "even"]
    check(replace(form, home=Home((float(end[0]), float(end[1]) - 0.57))), even)
    assert len(even.changes) > 40 and even.distance <= CLOSED[0] / 2 + 1e-6
    for change in even.changes:
        whole = change.after * 100
        assert abs(whole - round(whole)) < 1e-6 and abs(change.after - change.before) <= 0.0101


def test_a_locked_posture_is_spared() -> None:
    steps = [f"p{n}" for n in range(1, 11)]
    for locked, home in ((steps, ()), (steps[:5], tuple(steps[5:]))):
        form = replace(STRAIGHT, home=replace(STRAIGHT.home, locked=home))
        found = closings(form, locked, freely=True).every
        assert found and all({c.posture for c in closing.changes} == {"p0"} for closing in found)
    none = closings(STRAIGHT, [p.id for p in STRAIGHT.postures])
    assert not none.every and none.nearest == message("closing.locked")


def test_a_mirrored_pair_closes_along_its_axis_by_half_and_not_across_it() -> None:
    right = "shift L 100\nstep R 12 bow 40x25\nshift R 100"
    pair = Form(
        postures=(
            Posture("a", "Out", read_score(right)),
            Posture("b", "Out, other side", mirror_of="a", axis=Clock(0)),
            Posture("c", "Close", read_score("step R beside\nshift 50/50")),
        )
    )
    end = walk(pair).midpoints[-1]
    along = replace(pair, home=Home((float(end[0]), float(end[1]) - 0.20)))
    found = closings(along, freely=True).every
    assert found
    for closing in found:
        check(along, closing)
    length = [c for c in found[0].changes if c.what == "length"]
    assert len(length) == 1 and length[0].by == pytest.approx(0.10, abs=0.005) and length[0].posture == "a"
    across = replace(pair, home=Home((float(end[0]) + 0.20, float(end[1]))), postures=pair.postures)
    spared = closings(across, ["c"])
    assert not spared.every and spared.nearest is not None and spared.nearest.kind.startswith("closing.nearest")


def test_the_turn_that_is_off_is_told() -> None:
    turns = ["45"] * 7
    turns.insert(3, "35")
    texts = [
        f"shift L 100\npivot R heel +{t}, torso +{t}\nshift R 100\npivot L heel +{t}, torso +0\nshift 50/50, torso +0"
        for t in turns
    ]
    form = form_of(*texts, torso="stated")
    result = check_return(walk(form), form)
    assert result.turn == pytest.approx(-10.0) and result.turned == pytest.approx(350.0)
    found = closings(form).every
    first = found[0]
    assert first.turns[0].posture == "p3" and (first.turns[0].before, first.turns[0].after) == (35.0, 45.0)
    assert all(abs(each.turn) <= CLOSED[1] and each.distance <= 2 * CLOSED[0] for each in found)


@settings(max_examples=tries(3))  # test_home_truth.py tries many more of what takes no judging
@given(st.integers(0, 10_000))
def test_random_forms_walk_home_by_every_closing(seed: int) -> None:
    random = np.random.default_rng(seed)
    texts = []
    for n in range(random.integers(2, 6)):
        side, other = ("L", "R") if n % 2 else ("R", "L")
        facing = random.choice(["12", "10:30", "1:30", "3"])
        kind = random.choice(
            [
                f"bow {random.integers(25, 50)}x{random.integers(20, 32)}",
                f"back bow {random.integers(20, 40)}x25",
                f"side {random.integers(25, 50)}",
            ]
        )
        texts.append(f"shift {other} 100\nstep {side} {facing} {kind}, torso 12\nshift {side} 100, torso 12")
    form = form_of(*texts, torso="stated")
    end = walk(form).midpoints[-1]
    x, y = (end + random.uniform(-0.12, 0.12, 2)).tolist()
    form = replace(form, home=Home((x, y)))
    unit = 0.0254 if seed % 3 == 0 else 0.01
    found = closings(form, unit="cm" if unit == 0.01 else "in", freely=True)
    for closing in found.every:
        check(form, closing)
        assert closing.distance <= CLOSED[0] + 1e-6 and abs(closing.turn) <= CLOSED[1]
    by = {closing.kind: closing for closing in found.every}
    if {"fewest", "least"} <= set(by):
        assert len(by["fewest"].changes) <= len(by["least"].changes)
        assert by["least"].total <= by["fewest"].total + 0.02 + unit  # what is whole, and home to a centimetre
    assert found.every or found.nearest


def test_no_closing_of_a_small_form_is_smaller() -> None:
    form = form_of(
        "shift R 100\nstep L 12 bow 40x25\nshift L 100",
        "step R 3 bow 35x25, torso 12\nshift R 100, torso 12",
        torso="stated",
    )
    measures = measures_of(form, walk(form))
    end = walk(form).midpoints[-1]
    form = replace(form, home=Home((float(end[0]) - 0.06, float(end[1]) - 0.04)))
    least = min(closings(form, freely=True).every, key=lambda each: each.total)
    every = np.array(list(itertools.product(np.arange(-0.14, 0.141, 0.02), repeat=len(measures.every))))
    trace = walk(form)
    ends = trace.midpoints[-1] + every @ measures.heels[-1].mean(axis=0).T - form.home.place
    best = float(np.abs(every[np.hypot(*ends.T) <= 0.012]).sum(axis=1).min())
    assert least.total <= best + 0.015 and best < math.inf


@given(st.floats(-0.12, 0.12), st.floats(-0.12, 0.12))
@settings(max_examples=tries(40))
def test_no_closing_of_a_small_form_changes_fewer_lengths(right: float, ahead: float) -> None:
    """Every single length and every pair of them, in whole centimetres, tried by walking the measures."""
    form = form_of(
        "shift R 100\nstep L 12 bow 40x25\nshift L 100",
        "step R 3 bow 35x25, torso 12\nshift R 100, torso 12",
        torso="stated",
    )
    trace = walk(form)
    end = trace.midpoints[-1]
    form = replace(form, home=Home((float(end[0]) - right, float(end[1]) - ahead)))
    if math.hypot(right, ahead) <= CLOSED[0]:
        return
    found = closings(form, freely=True)
    by = {each.kind: each for each in found.every}
    moves = measures_of(form, trace).heels[-1].mean(axis=0)
    less, more = less_and_more(form, measures_of(form, trace).every, ())
    steps = np.arange(-0.2, 0.2001, 0.01)
    fewest = 3
    for one, other in itertools.combinations(range(len(less)), 2):
        x, y = np.meshgrid(steps, steps)
        left = np.hypot(
            *(np.array([right, ahead])[:, None, None] + moves[:, one, None, None] * x + moves[:, other, None, None] * y)
        )
        good = (left <= CLOSED[0] * 0.98) & (x <= more[one]) & (x >= -less[one]) & (y <= more[other])
        good &= y >= -less[other]
        fewest = min([fewest, *((abs(x[good]) > 1e-6) * 1 + (abs(y[good]) > 1e-6) * 1).tolist()])
    if "fewest" in by and fewest < 3:
        assert len(by["fewest"].changes) <= fewest


def test_what_cannot_be_closed_says_how_near_it_gets() -> None:
    assert closings(Form()).nearest == message("closing.no-posture")
    assert closings(form_of("hold")).nearest == message("closing.home")
    far = closings(replace(STRAIGHT, home=Home((0.0, 30.0))), freely=True)
    assert not far.every and far.nearest is not None and far.nearest.kind == "closing.nearest.full"

    ahead = form_of("shift R 100\nstep L 12 bow 40x20\nshift L 100\nstep R 12 bow 40x20\nshift R 70")
    for within, lengths in ((0.40, None), (0.50, [40, 30, 20, 15, 40, 30, 20, 21])):  # shortened by a quarter, to 45 cm
        found = closings(replace(ahead, home=Home(within=within)))
        assert found.nearest is not None and found.nearest["left"] == pytest.approx(0.45, abs=1e-6)
        assert [each.kind for each in found.every] == ([] if lengths is None else ["near"])
        for each in found.every:
            told = [100 * value for change in each.changes for value in (change.before, change.after)]
            assert told == pytest.approx(lengths) and each.distance == pytest.approx(0.45, abs=0.001)

    class Stopped:
        def tell(self, share: float, words: str = "") -> None:
            raise StoppedError

        def hand_out(self, so_far: object) -> None:
            raise AssertionError

    with pytest.raises(StoppedError):
        closings(STRAIGHT, progress=Stopped())
    with pytest.raises(StoppedError):
        loops_of(walk(DEMO), progress=Stopped())


def test_what_is_too_long_to_be_weighed_is_said(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("waltzmark.core.walk.lengths.MOST", 20 * 10)
    far = closings(replace(STRAIGHT, home=Home((0.0, 9.0))))
    assert not far.every and far.nearest is not None and far.nearest.kind == "form.too-long"
    monkeypatch.setattr("waltzmark.core.home.loops.MOST_POSTURES", 10)
    with pytest.raises(WaltzmarkError, match="loops.too-many.most=10, n=11"):
        loops_of(walk(STRAIGHT))


@given(
    st.sampled_from(
        [
            "pivot L heel in 170",
            "pivot R ball out 175",
            "pivot L heel -350",
            "torso +355",
            "torso 12",
            "step L 3 bow toe 2",
            "torso ~3",
        ]
    ),
    st.floats(-180.0, 180.0),
)
def test_no_turn_is_offered_that_nobody_could_write(text: str, by: float) -> None:
    count = read_score(text)[0]
    made = _changed(count.actions[0], by)
    if made is not None:
        changed = replace(count, actions=(made[0], *count.actions[1:]))
        assert read_score(write_count(changed)) == (changed,) and changed != count


def test_a_closing_says_which_caution_it_would_bring() -> None:
    texts = ["shift R 100\nstep L 12 bow 60x30\nexpect length 60\nshift L 100", "step R beside\nshift 50/50"]
    form = form_of(*texts)
    end = walk(form).midpoints[-1]
    found = closings(replace(form, home=Home((float(end[0]), float(end[1]) - 0.2))), ["p1"], freely=True).every
    assert found and found[0].brings and found[0].brings[0][0] in ("stop", "caution")


# Rounds.


def test_four_quarter_turns_come_home_after_four_rounds() -> None:
    text = "shift L 100\npivot R heel 3, torso 3\nstep R 3 bow 40x20, torso 3\nshift R 100, torso 3\npivot L heel 3\nstep L beside\nshift 50/50, torso 3"
    form = form_of(text, torso="stated")
    found = rounds_of(form, walk(form))
    assert found.turn == 90.0 and found.home_after == 4 and math.hypot(*found.drift) > 0.3
    ahead = form_of(*ten_steps()[:2], "step L beside\nshift 50/50")
    trace = walk(ahead)
    far = float(trace.midpoints[-1][1])
    room = Room("", ((0, 0), (3, 0), (3, 3 * far + 0.9), (0, 3 * far + 0.9)), Start(1.5, 0.4), clearance=0.0)
    assert rounds_in_room(replace(ahead, room=room), trace) == 3
    assert rounds_in_room(ahead, trace, 5) == 5  # without a room nothing stops it


ROUND = [
    "shift R 100\nstep L 12 bow 40x20\nshift L 70",
    "shift L 100\npivot R heel 3, torso 3\nstep R 3 bow 40x20",
    "shift R 80, sink 30\npivot L heel 1:30",
    "shift L 100\nstep R 6 back bow 35x25\nshift R 100",
    "step R beside\nshift 50/50",
    "shift L 100\nstep R at L.toe 1:30 20cm\nshift R 60",
    "shift R 100\nstep L 9 half\nshift L 100, torso 9",
]


@settings(max_examples=tries(30))
@given(st.lists(st.sampled_from(ROUND), min_size=1, max_size=4), st.sampled_from([0.05, 0.2, 0.5]))
def test_rounds_are_those_of_a_form_that_has_all_of_them_written_out(texts: list[str], within: float) -> None:
    """Whatever stance a round ends in: the next one begins in it."""
    form = form_of(*texts, home=Home(within=within, turn=15.0), torso="stated")
    trace = walk(form)
    found = rounds_of(form, trace)
    postures, ends, wide = form.postures, list[np.ndarray](), form
    for number in range(2, 7):
        end = walk(wide)
        ends.append(end.midpoints[-1])
        turned = round(2.0 * heading_difference(0.0, float(end.torso[-1]))) / 2.0
        if abs(heading_difference(turned, float(end.torso[-1]))) > 1e-6:
            return  # a turn that cannot be written
        more = tuple(Posture(f"{p.id}-{number}", repeat_of=p.id, turned=turned) for p in form.postures)
        postures = (*postures, *more)
        wide = replace(form, postures=postures)
        near = math.hypot(*ends[-1]) <= within and abs(heading_difference(0.0, turned)) <= 15.0
        if near:
            break
    after = len(ends) if near else None
    assert found.drift == pytest.approx(tuple(ends[0]), abs=1e-9)
    assert found.home_after == after or (after is None and (found.home_after or MOST) > len(ends))


GATE = (
    "shift R 100\npivot L ball in 20\nstep L 9 bow heel\nshift L 70, torso 9\nshift L 100\nstep R beside\nshift 50/50"
)
BRIDGE = "shift L 100\nstep R 12 bow heel\nshift R 70, gaze 12"


@settings(max_examples=tries(24))
@given(st.lists(st.sampled_from([*ROUND, GATE, BRIDGE]), min_size=1, max_size=4), st.booleans())
@example([GATE, GATE, GATE, BRIDGE], True)
def test_where_nothing_closes_a_form_it_is_told_what_stands_in_the_way(texts: list[str], freely: bool) -> None:
    form = form_of(*texts)
    found, now = closings(form, freely=freely), check_return(walk(form), form)
    near = [closing for closing in found.every if closing.kind == "near"]
    assert (not found.every or bool(near)) is (found.nearest is not None)
    if near:  # alone, and where it is not home as it is
        assert len(found.every) == 1 and not now.good
        assert near[0].distance <= form.home.within and abs(near[0].turn) <= CLOSED[1]
    for closing in found.every:
        end = check_return(walk(closing.form), closing.form)
        assert end.distance == pytest.approx(closing.distance) and abs(end.turn) == pytest.approx(abs(closing.turn))


@pytest.mark.parametrize("stature", [1.45, 1.95])
def test_no_step_is_made_so_short_that_it_is_none(stature: float) -> None:
    """Whatever may change, a third of a foot is left of every step ahead."""
    body = Body(stature=stature)
    found = closings(form_of(*ten_steps(), home=Home((0.0, 0.6)), body=body), freely=True).every
    after = [each.after for closing in found for each in closing.changes if each.what == "length"]
    assert after and body.foot_length / 3 - 0.0051 <= min(after) < body.foot_length / 3 + 0.0101
