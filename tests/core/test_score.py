"""The score language: what is written reads back as it was meant, and slips are explained at the word."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.strategies import counts
from tests.trying import tries
from waltzmark.core.base.errors import ScoreError
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import message
from waltzmark.core.base.units import Length
from waltzmark.core.score import Count, read_count, read_score, write_count, write_score
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Compass, Toward, Turn

L, R = Side.LEFT, Side.RIGHT


@given(counts)
@settings(max_examples=tries(600))
def test_every_count_reads_back_as_it_was_written(count: Count) -> None:
    assert read_count(write_count(count)) == count


@given(st.lists(counts.filter(lambda c: write_count(c)), max_size=5))
def test_canonical_text_of_a_score_is_unchanged_by_reading_and_writing(lines: list[Count]) -> None:
    text = write_score(tuple(lines))
    assert write_score(read_score(text)) == text


@given(counts, st.integers(0, 719))
def test_mirroring_twice_is_the_identity(count: Count, minutes: int) -> None:
    axis = minutes / 2.0
    twice = count.mirrored(axis, "E").mirrored(axis, "E")
    # A compass facing comes back as the clock facing it means; floor positions up to rounding.
    for a, b in zip(count.actions, twice.actions, strict=True):
        if isinstance(a, act.Step) and isinstance(a.place, act.Spot):
            assert isinstance(b, act.Step) and isinstance(b.place, act.Spot)
            assert (b.place.x, b.place.y) == pytest.approx((a.place.x, a.place.y), abs=1e-9)
        elif "Compass" not in repr(a):
            assert a == b


@pytest.mark.parametrize(
    ("text", "actions"),
    [
        ("shift L 70", [act.Shift(L, 70)]),
        ("SHIFT 70/30", [act.Shift(None, 70)]),
        ("pivot R heel 10:30", [act.Pivot(R, "heel", Clock(630))]),
        ("pivot L ball in 45", [act.Pivot(L, "ball", Toward(True, 45))]),
        ("pivot R heel 6 ccw", [act.Pivot(R, "heel", Clock(360), "ccw")]),
        ("pivot R toe -22.5", [act.Pivot(R, "toe", Turn(-22.5))]),
        ("step L 9 bow", [act.Step(L, act.Faced(Clock(540), None, "bow"))]),
        ("step L 9 bow 62x38", [act.Step(L, act.Faced(Clock(540), None, "bow", Length(62), Length(38)))]),
        ("step L 9 24x15in", [act.Step(L, act.Faced(Clock(540), None, None, Length(24, "in"), Length(15, "in")))]),
        ("step R ~3:00 back bow", [act.Step(R, act.Faced(Clock(180, own=True), "back", "bow"))]),
        ("step L 12 side 40", [act.Step(L, act.Faced(Clock(0), "side", None, None, Length(40)))]),
        ("step R SW cross", [act.Step(R, act.Faced(Compass("SW"), "cross"))]),
        ("step R 9 half", [act.Step(R, act.Half(Clock(540)))]),
        ("step R beside 10 touch", [act.Step(R, act.Beside(Length(10)), land=Contact.BALL)]),
        ("step L at L.toe", [act.Step(L, act.Mark(L, "toe"))]),
        ("step R at R.heel 12 1fl", [act.Step(R, act.Mark(R, "heel", Clock(0), Length(1, "fl")))]),
        ("step L to -0.40 1.25", [act.Step(L, act.Spot(-0.4, 1.25))]),
        (
            "step R 3 back ball via straight toe in 45",
            [act.Step(R, act.Faced(Clock(180), "back"), Toward(True, 45), "straight", Contact.BALL)],
        ),
        ("lift R knee, torso -30, gaze NE", [act.Lift(R, True), act.Torso(Turn(-30)), act.Gaze(Compass("NE"))]),
        (
            "kick R 1:30 waist heel, kick L ~3 ankle",
            [act.Kick(R, Clock(90), "waist", "heel"), act.Kick(L, Clock(180, own=True), "ankle")],
        ),
        ("lean 10", [act.Lean(10)]),
        ("lean -5, sink +10", [act.Lean(-5), act.Sink(10, "more")]),
        ("rise 7.5", [act.Sink(7.5, "less")]),
        (
            "step L 12 side shoulder via slide",
            [act.Step(L, act.Faced(Clock(0), "side", None, None, Length(1, "shoulder")), via="slide")],
        ),
        ("step L 12 40xhip", [act.Step(L, act.Faced(Clock(0), None, None, Length(40), Length(1, "hip")))]),
        (
            "step R beside hip, expect width SHOULDER",
            [act.Step(R, act.Beside(Length(1, "hip"))), act.ExpectMeasure("width", Length(1, "shoulder"))],
        ),
        ("L all", [act.Shift(L, 100)]),
        ("shift R two-thirds, expect L third", [act.Shift(R, 66.7), act.ExpectShare(L, 33.3)]),
        (
            "hand L 12 hip palm-up, hand R 12 shoulder open",
            [act.Hand(L, Clock(0), "hip", "palm-up"), act.Hand(R, Clock(0), "shoulder", "open")],
        ),
        ("hand R 9 chest push", [act.Hand(R, Clock(540), "chest", "push")]),
        ("expect 70/30, expect L toe 12", [act.ExpectShare(None, 70), act.ExpectHeading("toe", Clock(0), L)]),
        (
            "expect R heel, expect width 38",
            [act.ExpectContact(R, Contact.HEEL), act.ExpectMeasure("width", Length(38))],
        ),
    ],
)
def test_what_each_action_means(text: str, actions: list[act.Action]) -> None:
    assert list(read_count(text).actions) == actions


def test_beats_and_notes_are_kept_and_a_note_may_hold_anything() -> None:
    count = read_count("shift L 70 @2.5   # rear foot, @3 # follows ")
    assert (count.beats, count.note) == (2.5, "rear foot, @3 # follows")
    assert write_count(count) == "shift L 70 @2.5 # rear foot, @3 # follows"
    silent = Count()  # one beat in which nothing is done stands in the score too
    assert write_count(silent) == "@1" and read_count("@1") == silent


def test_expectations_alone_are_no_count() -> None:
    assert not read_count("expect R 100, expect torso 3").moves
    assert not read_count("# only a remark").moves
    assert read_count("hold, expect R 100").moves


@pytest.mark.parametrize(
    ("text", "column", "suggestion", "kind"),
    [
        ("pivott R heel 9", 1, "pivot", "no-action"),
        ("pivot R hell 9", 9, "heel", "misplaced"),
        ("shift L 70, tosro 9", 13, "torso", "misplaced"),
        ("step L 9 bwo", 10, "bow", "stance"),
        ("step L 9 via clse", 14, "close", "misplaced"),
        ("expect with 30", 8, "width", "misplaced"),
        ("step L", 7, None, "too-short"),
        ("step L  ", 7, None, "too-short"),
        ("kick R 12 wast", 11, "waist", "misplaced"),
        ("lean 75", 6, None, "lean"),
        ("sink -10", 6, None, "misplaced"),
        ("shift 70/40", 7, None, "pair"),
        ("shift L 130", 9, None, "share"),
        ("torso 13", 7, None, "hour"),
        ("torso 9:75", 7, None, "minute"),
        ("hold @0", 6, None, "beats"),
        ("step L 9 bow toe 9 toe 8", 6, None, "two-toe"),
        ("step L to 1000000000 0", 11, None, "place"),
        ("step L 9 9999x38", 10, None, "length"),
        ("hold\nhold", 5, None, "one-line"),
        ("step L to nan 0", 11, None, "misplaced"),
        ("hold " + "x" * 20_000, 16_001, None, "characters"),
        ("hold # " + "x" * 3000, 6, None, "note"),
        (", ".join(["L 70"] * 300), 1, None, "actions"),
        ("\u017fhift L 70", 1, "shift", "no-action"),
    ],
)
def test_a_slip_is_explained_at_the_very_word(text: str, column: int, suggestion: str | None, kind: str) -> None:
    with pytest.raises(ScoreError) as caught:
        read_count(text, line=4)
    error = caught.value
    assert (error.line, error.column, error.suggestion) == (4, column, suggestion)
    assert error.problem.kind == f"score.{kind}"
    assert suggestion is None or error.advice["suggestion"] == suggestion


@pytest.mark.parametrize(
    ("text", "column", "example"),
    [
        ("shift L 70, step R 12 bow heel 50x30 @2", 32, "step R 12 bow 50x30 heel"),
        ("step R heel 12 bow", 8, "step R 12 bow heel"),
        ("step R 12 50x30 bow # at once", 17, "step R 12 bow 50x30"),
        ("shift 70 L", 7, "shift L 70"),
        ("R shift 70", 3, "shift R 70"),
        ("kick R 12 heel waist", 11, "kick R 12 waist heel"),
        ("lift knee L", 6, "lift L knee"),
        ("breathe in in", 12, None),
        ("pivot L heel 9 9", 16, None),
        ("step R 12 bow 50x30, kick R waist", 29, None),
    ],
)
def test_words_in_another_order_are_put_in_theirs(text: str, column: int, example: str | None) -> None:
    with pytest.raises(ScoreError) as caught:
        read_count(text)
    assert caught.value.column == column and dict(caught.value.problem.fields).get("example") == example
    assert example is None or read_count(example).moves


def test_an_error_tells_what_could_stand_there() -> None:
    with pytest.raises(ScoreError) as caught:
        read_count("shift L seventy")
    assert caught.value.expected == (message("expected.percent"),)


def test_several_lines_are_read_and_the_bad_one_is_named() -> None:
    assert len(read_score("shift L 100\n\n  hold\n")) == 2
    with pytest.raises(ScoreError) as caught:
        read_score("shift L 100\nhold\nshfit R 3")
    assert (caught.value.line, caught.value.column) == (3, 1)


@given(st.text(st.characters(codec="utf-8"), max_size=40))
@settings(max_examples=tries(300))
def test_any_text_is_read_or_explained(text: str) -> None:
    problem: ScoreError | None = None
    try:
        read_count(text)
    except ScoreError as error:
        problem = error
    assert problem is None or 1 <= problem.column <= len(text) + 1


@pytest.mark.parametrize(
    ("text", "column", "suggestion", "expected"),
    [
        ("turn L 45", 1, None, ("pivot", "torso")),
        ("bend 50", 1, "sink", ("sink",)),
        ("shift left 70", 7, "L", ("L",)),
        ("shift L 0.7", 9, "70", ()),
        ("shift L 0.99", 9, "99", ()),
    ],
)
def test_words_as_people_say_them_are_offered_what_the_score_has(
    text: str, column: int, suggestion: str | None, expected: tuple[str, ...]
) -> None:
    with pytest.raises(ScoreError) as caught:
        read_count(text)
    assert (caught.value.column, caught.value.suggestion, caught.value.expected) == (column, suggestion, expected)
    assert read_count("shift L 0").moves and read_count("shift L 1").moves
