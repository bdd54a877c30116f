"""“The same” and “nothing differs” are true: whatever a score can say is compared."""

from __future__ import annotations

import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.core.sided import SIDE
from tests.core.strategies import counts
from tests.trying import tries
from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.leftright import Contact
from waltzmark.core.base.records import replace
from waltzmark.core.body.pose import FootPose
from waltzmark.core.edit.resizing import mirrored_form
from waltzmark.core.form.form import Form, Opening, Posture
from waltzmark.core.score.actions import Count, Unread
from waltzmark.core.score.read import read_score
from waltzmark.core.score.write import write_score
from waltzmark.core.sides.deeds import PART, TURN, costs, deeds_of
from waltzmark.core.sides.forms import compare_forms
from waltzmark.core.sides.offs import NOTHING
from waltzmark.core.sides.pairs import declared_pairs
from waltzmark.core.sides.tolerance import Tolerance
from waltzmark.core.walk.walk import walk

FLAT = Contact.FLAT
KICK = ["shift L 100", "lift R knee", "kick R 12 waist heel", "step R beside", "shift 50/50"]
ARMS = ["shift L 100, hand R 12 chest push, hand L 9 waist palm-up", "torso 10:30, gaze 9", "breathe in", "hold @2"]
STEP = ["shift R 100", "step L 9 bow 45x25", "shift L 70", "step R 9 half", "expect torso 9"]
#: A line, what is said in it instead, and the topic of that (None: feet, weight or chest; "": only told in compare).
SAID = [
    (KICK, 2, "kick R 12 head heel", "kick"),
    (KICK, 2, "kick R 12 waist toe", "kick"),
    (KICK, 2, "kick R 1:30 waist heel", "kick"),
    (KICK, 2, "kick R 9 head toe", "kick"),
    (ARMS, 0, "shift L 100, hand R 12 chest fist, hand L 9 waist palm-up", "hand"),
    (ARMS, 0, "shift L 100, hand R 12 knee push, hand L 9 waist palm-up", "hand"),
    (ARMS, 0, "shift L 100, hand R 6 chest push, hand L 9 waist palm-up", "hand"),
    (ARMS, 0, "shift L 100, hand R 12 chest push", "hand"),
    (ARMS, 1, "torso 10:30, gaze 12", "gaze"),
    (ARMS, 1, "torso 10:30", "gaze"),
    (ARMS, 2, "breathe out", "breath"),
    (ARMS, 2, "hold", "breath"),
    (ARMS, 3, "hold @3", "beats"),
    (ARMS, 3, "lean 10 @2", None),
    (STEP, 1, "step L 9 bow 45x25 via straight", "path"),
    (STEP, 1, "step L 9 bow 45x25 via slide", None),
    (STEP, 1, "step L 9 bow 45x25 ball", None),
    (STEP, 4, "expect torso 10:30", ""),
    (STEP, 4, "expect width 30", ""),
    (STEP, 2, "shift L 70 # slowly", ""),
]


def written(lines: list[str], at: int = -1, instead: str = "") -> tuple[Count, ...]:
    return read_score("\n".join(instead if number == at else line for number, line in enumerate(lines)))


@pytest.mark.parametrize(("lines", "at", "instead", "topic"), SAID, ids=lambda each: str(each)[:32])
def test_whatever_a_count_says_differently_is_told(lines: list[str], at: int, instead: str, topic: str | None) -> None:
    own, changed = (
        Form(postures=(Posture("a", lines=each),)) for each in (written(lines), written(lines, at, instead))
    )
    assert not compare_forms(own, changed).same and not compare_forms(changed, own).same
    assert compare_forms(own, own).same
    other = replace(mirrored_form(changed).postures[0], side_of="a")
    both = Form(postures=(Posture("a", lines=written(lines)), replace(other, id="b")))
    # A stance to begin the other side in as the first one began.
    both = replace(
        both, postures=(both.postures[0], Posture("home", lines=read_score("shift 50/50")), both.postures[1])
    )
    (pair,) = declared_pairs(both, walk(both))
    feet = Tolerance(beside=False)
    (loosely,) = declared_pairs(both, walk(both), within=feet)
    if topic == "":
        assert pair.compared.beside == ()
    elif topic is None:
        assert not pair.compared.feet_same and not loosely.same
    else:
        assert topic in pair.compared.beside and not pair.same
        told = {each.topic for count in pair.compared.counts for each in count.beside}
        assert told == set(pair.compared.beside)
        if pair.compared.feet_same:
            assert loosely.same and pair.worst is not None and pair.worst.beside


def said(lines: tuple[Count, ...]) -> bool:
    return any(isinstance(action, Unread) for line in lines for action in line.actions)


@settings(max_examples=tries(80))
@given(st.lists(counts, min_size=1, max_size=4).map(tuple), st.lists(counts, min_size=1, max_size=4).map(tuple))
def test_two_forms_of_which_nothing_differs_are_written_alike_and_walked_alike(
    one: tuple[Count, ...], other: tuple[Count, ...]
) -> None:
    assume(not said(one) and not said(other))
    mine, theirs = (Form(postures=(Posture("a", lines=lines),)) for lines in (one, other))
    found, traces = compare_forms(mine, theirs), (walk(mine), walk(theirs))
    if write_score(one) == write_score(other):
        assert found.same
    elif found.same:  # other words for the same walk
        assert len(traces[0]) == len(traces[1])
        assert abs(traces[0].heels - traces[1].heels).max() < 0.0101 + 1e-9
        assert abs(traces[0].shares - traces[1].shares).max() < 0.0101
        assert (traces[0].beats == traces[1].beats).all() and traces[0].breaths == traces[1].breaths
        assert (traces[0].contacts == traces[1].contacts).all()


@pytest.mark.parametrize(("first", "second"), [("cw", "ccw"), ("ccw", "cw")])
def test_half_a_turn_the_other_way_round_is_no_turn_further(first: str, second: str) -> None:
    lines = ["shift R 100", f"pivot L heel 6 {first}", "shift L 100"]
    mine, theirs = (
        Form(postures=(Posture("a", lines=written(each)),))
        for each in (lines, [lines[0], f"pivot L heel 6 {second}", lines[2]])
    )
    (two,) = compare_forms(mine, theirs).postures
    assert two.compared is not None and two.differences
    off = two.compared.counts[1].off
    assert off.round == (True, False) and off.heading == pytest.approx((0.0, 0.0))
    assert costs(deeds_of(walk(mine)), deeds_of(walk(theirs)))[2, 2] == pytest.approx(PART) == off.cost
    assert compare_forms(mine, mine).same


@pytest.mark.parametrize("left", [10.0, 350.0])
def test_a_turn_that_goes_the_other_way_round_for_its_entry_is_seen_to_come_from_there(left: float) -> None:
    """The shorter way to 6 is clockwise from just after 12, and counter-clockwise from just before it."""
    mine, theirs = (
        Form(
            postures=(Posture("a", lines=written(["shift R 100", "pivot L heel 6", "shift L 100"])),),
            opening=Opening("", (FootPose(-0.15, 0.0, heading, FLAT), FootPose(0.15, 0.0, 0.0, FLAT)), 0.5),
            torso="stated",
        )
        for heading in (left, 360.0 - left)
    )
    (two,) = compare_forms(mine, theirs).postures
    assert two.compared is not None
    offs = [each.written for each in two.compared.counts]
    assert offs == [NOTHING] * 3 and not any(each.cost for each in offs)
    carried = two.compared.counts[1].carried
    assert carried.round == (True, False)
    assert carried.heading == pytest.approx((2.0 * heading_difference(0.0, left), 0.0))
    assert carried.cost == pytest.approx(0.5 * 20.0 / TURN + PART)


def test_what_is_worst_of_a_step_is_the_step() -> None:
    longer = [line.replace("45x25", "48x25") for line in STEP]
    for facing in ("9", "10:30", "11", "7:30"):
        mine, theirs = (
            Form(postures=(Posture("a", lines=written([line.replace(" 9 ", f" {facing} ") for line in each])),))
            for each in (STEP, longer)
        )
        (two,) = compare_forms(mine, theirs).postures
        assert two.compared is not None and two.compared.worst is not None
        name, by, unit, _ = two.compared.worst.off.worst(two.compared.within)
        assert (name, unit) == ("left_length", "cm") and by == pytest.approx(3.0, abs=1e-6)


def test_a_form_beside_its_own_mirror_is_matched_by_what_it_does() -> None:
    def own(name: str, title: str, lines: tuple[Count, ...]) -> Posture:
        return Posture(name, title, lines)

    side = read_score("\n".join(SIDE))
    form = Form(
        postures=(
            own("a", "Reed", side),
            own("b", "Rush", tuple(line.mirrored(0.0, "N") for line in side)),
            own("c", "Sedge", written(KICK)),
        )
    )
    found = compare_forms(form, mirrored_form(form))
    matched = {two.a: two.b for two in found.postures if two.a is not None}
    assert matched["a"] == "b" and matched["b"] == "a"
    # Where what they do does not tell, the names do.
    again = replace(form, postures=tuple(replace(p, lines=written(STEP)) for p in form.postures))
    assert [(two.a, two.b) for two in compare_forms(again, again).postures] == [("a", "a"), ("b", "b"), ("c", "c")]
