"""Edits of a form: what they change, and that nothing written is lost by them."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.errors import FormError
from waltzmark.core.base.messages import Message
from waltzmark.core.base.records import replace
from waltzmark.core.edit import forms
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.school.school import load_school
from waltzmark.core.score import Count, read_count, read_score, write_count
from waltzmark.core.score.complete import complete
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.read import is_stance_name, read_line
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document

HOLD, POUR = read_count("hold"), read_count("shift L 70")
FORM = Form(
    postures=(
        Posture("a", "First", read_score("shift R 100\nstep L 12 bow\nshift L 70\npivot R heel 1:30"), Clock(0)),
        Posture("b", "Mirror", mirror_of="a", axis=Clock(0)),
        Posture("c", "Third", (HOLD, POUR), side_of="a"),
    )
)


CRANE = replace(
    load_school("broad-frame"),
    id="own",
    base="broad-frame",
    stances=dict(load_school("broad-frame").stances) | {"crane": load_school("broad-frame").stances["low"]},
)


def ids(form: Form) -> list[str]:
    return [posture.id for posture in form.postures]


def written(form: Form, posture_id: str) -> list[str]:
    return [write_count(line) for line in form.lines(form.posture(posture_id))]


def test_lines_are_put_in_exchanged_moved_and_taken_out() -> None:
    assert written(forms.insert_lines(FORM, "c", 1, [POUR, HOLD]), "c") == [
        "hold",
        "shift L 70",
        "hold",
        "shift L 70",
    ]
    assert written(forms.replace_lines(FORM, "c", 0, 1, [POUR]), "c") == ["shift L 70", "shift L 70"]
    assert written(forms.remove_lines(FORM, "c", 0, 1), "c") == ["shift L 70"]
    assert written(forms.move_lines(FORM, "a", 0, 2, 1), "a")[:3] == ["shift L 70", "shift R 100", "step L 12 bow"]
    assert forms.move_lines(FORM, "a", 0, 1, -5) == FORM
    assert written(forms.move_lines(FORM, "a", 0, 1, 99), "a")[-1] == "shift R 100"
    with pytest.raises(FormError, match="edit.counts-elsewhere"):
        forms.insert_lines(FORM, "b", 0, [HOLD])
    with pytest.raises(FormError, match="edit.counts-elsewhere"):
        forms.remove_lines(FORM, "b", 0, 1)


def test_postures_are_moved_copied_renamed_and_followed() -> None:
    assert ids(forms.move_posture(FORM, "c", -1)) == ["a", "c", "b"]
    assert ids(forms.move_posture(FORM, "a", 99)) == ["b", "c", "a"]
    assert ids(forms.duplicate_posture(FORM, "c")) == ["a", "b", "c", "c-2"]
    renamed = forms.changed_posture(FORM, "a", id="first", name="New")
    assert renamed.posture("b").mirror_of == "first" and renamed.posture("c").side_of == "first"
    assert forms.changed_posture(FORM, "c", name="Other").posture("c").title == "Other"
    assert forms.fresh_id(FORM, "Löffel & C!") == "l-ffel-c" and forms.fresh_id(FORM, "C") == "c-2"


def test_a_posture_taken_out_leaves_its_counts_to_those_that_took_them() -> None:
    left = forms.delete_posture(FORM, "a")
    assert ids(left) == ["b", "c"] and written(left, "b") == written(FORM, "b")
    assert left.posture("b").source is None and left.posture("c").side_of is None
    assert left.posture("b").ends == FORM.ends(FORM.posture("b"))


def test_splitting_and_joining_are_each_others_reverse() -> None:
    split = forms.split_posture(FORM, "a", 2)
    assert ids(split) == ["a", "a-2", "b", "c"] and written(split, "b") == written(FORM, "b")
    assert split.posture("a").ends is None and split.posture("a-2").ends == Clock(0)
    assert walk(split).table[1:].tolist()[0][:14] == walk(FORM).table[1:].tolist()[0][:14]
    joined = forms.join_postures(split, "a")
    assert written(joined, "a") == written(FORM, "a") and joined.posture("a").ends == Clock(0)
    mixed = forms.join_postures(FORM, "a")  # with a mirror of itself
    assert written(mixed, "a") == written(FORM, "a") + written(FORM, "b") and ids(mixed) == ["a", "c"]
    for at in (0, 4):
        with pytest.raises(FormError, match="edit.split"):
            forms.split_posture(FORM, "a", at)
    with pytest.raises(FormError, match="edit.join"):
        forms.join_postures(FORM, "c")


def test_the_other_side_the_repeat_and_back_to_plain_counts() -> None:
    sided = forms.other_side(FORM, "c", Clock(180))
    assert ids(sided)[-1] == "c-other-side" and written(sided, "c-other-side") == ["hold", "shift R 70"]
    again = forms.repeated(FORM, "a", -90.0)
    assert written(again, "a-again")[1] == "step L 9 bow" and again.ends(again.posture("a-again")) == Clock(540)
    plain = forms.detached(again, "a-again")
    assert plain.posture("a-again").source is None and written(plain, "a-again") == written(again, "a-again")
    assert forms.detached(plain, "a-again") == plain


def _edited(form: Form, what: str, name: str, number: int) -> Form:
    simple = {
        "delete": forms.delete_posture,
        "duplicate": forms.duplicate_posture,
        "join": forms.join_postures,
        "detach": forms.detached,
    }
    if what in simple:
        return simple[what](form, name)
    if what == "move":
        return forms.move_posture(form, name, number)
    if what == "split":
        return forms.split_posture(form, name, number)
    if what == "side":
        return forms.other_side(form, name, Clock(0))
    return forms.repeated(form, name, 45.0 * number)


DEMO = read_document(demo_text()).form
names = st.sampled_from([p.id for p in DEMO.postures])


@given(
    st.lists(
        st.tuples(
            st.sampled_from(["delete", "duplicate", "move", "split", "join", "detach", "side", "repeat"]),
            names,
            st.integers(-6, 6),
        ),
        max_size=6,
    )
)
@settings(max_examples=tries(80))
def test_any_sequence_of_edits_leaves_a_form_that_walks(edits: list[tuple[str, str, int]]) -> None:
    form = DEMO
    for what, name, number in edits:
        if name not in ids(form):
            continue
        try:
            form = _edited(form, what, name, number)
        except FormError:
            continue
        trace = walk(form)
        assert len(trace.passages) == len(form.postures) + 1
    # Every edit but taking a posture out keeps every count that was written by hand.
    if all(what != "delete" for what, _, _ in edits):
        kept = [line for p in form.postures for line in p.lines]
        assert all(line in kept for p in DEMO.postures for line in p.lines)


def test_a_line_that_cannot_be_read_is_kept_as_it_was_typed() -> None:
    count = read_line("  pivott R heel 9 # oh\r\n")
    assert count.unread is not None and count.unread.advice["suggestion"] == "pivot"
    assert (write_count(count), count.moves) == ("pivott R heel 9 # oh", False)
    assert read_line(write_count(count)) == count
    assert count.mirrored(90.0, "N") == count and read_line("hold") == HOLD
    form = Form(postures=(Posture("a", lines=(HOLD, count, POUR)),))
    assert len(walk(form)) == 3


@pytest.mark.parametrize(
    ("typed", "whole"),
    [
        ("s L 9 bow 62x38", "step L 9 bow 62x38"),
        ("L 70", "shift L 70"),
        ("70/30", "shift 70/30"),
        ("p R h 10:30", "pivot R heel 10:30"),
        ("p L b in 45, t 9", "pivot L ball in 45, torso 9"),
        ("s R 9 back bow t 10:30 f", "step R 9 back bow toe 10:30 flat"),
        ("h L, b R, f L", "heel L, ball R, flat L"),
        ("e L 70, e L t 12, e t 9", "expect L 70, expect L toe 12, expect torso 9"),
        ("g e", "gaze E"),
    ],
)
def test_short_forms_keep_up_with_speech(typed: str, whole: str) -> None:
    assert write_count(read_count(typed)) == whole


@pytest.mark.parametrize(
    ("typed", "offered", "not_offered"),
    [
        ("st", {"step"}, {"shift"}),
        ("step L ", {"12", "9", "beside", "at", "to"}, {"bow", "shift"}),
        ("step L 9 ", {"bow", "horse", "back", "side", "half", "toe", "via"}, {"9"}),
        ("step L 9 b", {"bow", "back", "ball"}, {"horse"}),
        ("step L at R.", {"R.heel", "R.toe"}, {"L.heel"}),
        ("pivot R ", {"heel", "ball", "toe"}, {"flat"}),
        ("shift L 70, tor", {"torso"}, {"step"}),
        ("expect L ", {"toe", "heel", "flat"}, {"torso"}),
        ("nonsense ", set(), {"step"}),
    ],
)
def test_what_can_follow_is_offered(typed: str, offered: set[str], not_offered: set[str]) -> None:
    found = {completion.word for completion in complete(typed)}
    assert offered <= found and not (not_offered & found)


@given(st.lists(st.integers(0, 30), max_size=8))
@settings(max_examples=tries(60))
def test_whatever_is_taken_of_the_offers_can_be_gone_on_with(choices: list[int]) -> None:
    text = ""
    for choice in choices:
        offers = complete(text, torso=45.0)
        if not offers:
            break
        text = offers[choice % len(offers)].text + " "
    count: Count = read_line(text)
    if count.unread is not None:
        advice = count.unread.advice
        problem = advice["problem"] if advice.kind == "score.expected" else advice
        assert isinstance(problem, Message), text
        assert (
            problem.kind in ("score.too-short", "score.pair", "score.sense", "score.when") or "two" in problem.kind
        ), text


def test_another_school_reads_the_stances_it_has_and_keeps_the_rest_as_text() -> None:
    text = "step L 12 crane @2 # high"
    form = Form(postures=(Posture("a", lines=(HOLD, read_line(text), POUR, read_line("pivott"))),))
    assert form.postures[0].lines[1].unread is not None
    own = forms.judged_by(form, CRANE)
    assert written(own, "a") == ["hold", text, "shift L 70", "pivott"] and own.postures[0].lines[1].beats == 2
    assert len(walk(own)) == len(walk(form)) + 1
    assert own.postures[0].lines[3] is form.postures[0].lines[3] and own.postures[0].lines[0] is HOLD
    back = forms.judged_by(own, form.school)
    assert back == form
    unread = back.postures[0].lines[1].unread
    assert unread is not None and "score.stance(stance=crane)" in str(unread.advice)
    assert forms.judged_by(FORM, CRANE).postures == FORM.postures
    assert "crane" in [offer.word for offer in complete("step L 12 cr", CRANE.stance_names)]
    good = {"crane", "wide-2", "bow"}
    assert {
        name for name in (*good, "half", "back", "two words", "2wide", "heel", "", "crane,") if is_stance_name(name)
    } == good
