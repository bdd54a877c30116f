"""The score as one text, found and replaced in, and read aloud in the units one likes."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.strategies import counts, floor_clocks
from tests.trying import tries
from waltzmark.core.answers.review import review
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.score_text import heading_of, read_score_text, write_score_text
from waltzmark.core.form.search import Hit, find, replaced
from waltzmark.core.room.clearance import check_room
from waltzmark.core.score import read_count, read_score, write_count
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.read import read_line
from waltzmark.core.walk.annotations import hands_at
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.findings import what
from waltzmark.words.sentences import sentence
from waltzmark.words.steps import count_sentence, pose_sentence

DEMO = read_document(demo_text()).form
names = st.text(st.characters(exclude_characters="\n\r\x85\u2028\u2029", exclude_categories=["Cs", "Cc"]), max_size=12)
unread = st.sampled_from(["posture x: Name", "posture", "note: hm", "\\hold", "stepp L 9", "shift L 170"]).map(
    read_line
)


@st.composite
def forms(draw: st.DrawFn) -> Form:
    """Forms with own, mirrored, repeated and compared postures, notes, and lines that cannot be read."""
    made: list[Posture] = []
    for number in range(draw(st.integers(0, 4))):
        posture = Posture(
            draw(st.sampled_from(["a{}", "one two {}", "é{}"])).format(number),
            draw(names.map(str.strip)),
            ends=draw(st.none() | floor_clocks),
            note=draw(st.none() | names.map(str.rstrip)),
        )
        kind = draw(st.sampled_from(["own", "mirror", "repeat", "side"])) if made else "own"
        other = made[0].id if made else None
        written = st.one_of(counts.filter(lambda c: c.actions or c.note), unread)
        if kind == "mirror":
            posture = replace(posture, mirror_of=other, axis=draw(floor_clocks))
        elif kind == "repeat":
            posture = replace(posture, repeat_of=other, turned=draw(st.integers(-720, 720)) / 2)
        else:
            lines = tuple(draw(st.lists(written, max_size=3)))
            posture = replace(posture, lines=lines, side_of=other if kind == "side" else None)
        made.append(posture)
    return Form(postures=tuple(made))


@settings(max_examples=tries(60))
@given(forms())
def test_a_sheet_reads_back_as_the_same_form(form: Form) -> None:
    text = write_score_text(form)
    sheet = read_score_text(text, form)
    assert sheet.form == form
    assert all(mine is old for mine, old in zip(sheet.form.postures, form.postures, strict=True))
    assert write_score_text(sheet.form) == text
    assert len(sheet.places) == text.count("\n") + 1


def test_a_heading_says_all_of_a_posture() -> None:
    posture = Posture("lean 2", "Lean: again", mirror_of="a", axis=Clock(120), ends=Clock(630))
    assert heading_of(posture) == 'posture "lean 2" mirror of a axis 2 ends 10:30: Lean: again'
    assert heading_of(Posture("b", repeat_of="a", turned=-90.0)) == "posture b repeat of a turned -90:"


def test_only_the_posture_that_was_changed_is_new() -> None:
    sheet = read_score_text(
        write_score_text(DEMO).replace("step R 12 bow\nshift R 70", "s R 12 bow 50x30\nR 70", 1), DEMO
    )
    assert sheet.form is not None
    changed = [p.id for p, old in zip(sheet.form.postures, DEMO.postures, strict=True) if p is not old]
    assert changed == ["cast-right"]
    assert write_count(sheet.form.posture("cast-right").lines[4]) == "step R 12 bow 50x30"


@pytest.mark.parametrize(
    ("text", "line", "column", "length", "kind", "whole"),
    [
        ("posture a: A\nstep L 9 boww", 1, 10, 4, "score.meant", True),
        ("posture a: A\n  stepp L 9", 1, 3, 5, "score.meant", True),
        ("posture a: A\nhold\nposture b ends 99: B", 2, 16, 2, "score.no-facing", False),
        ("posture a: A\nposture b repeat of a turned x: B", 1, 30, 1, "score.no-turn", False),
        ("posture a: A\nposture b miror of a: B", 1, 11, 5, "score.meant", False),
        ("posture a: A\nposture b\nhold", 1, 1, 9, "score.heading", False),
        ("posture a: A\nposture a: B", 0, 1, 12, "form.two-ids", False),
        ("posture b mirror of x axis 12: B", 0, 1, 32, "form.source-unknown", False),
    ],
)
def test_a_mistake_is_marked_at_its_word(
    text: str, line: int, column: int, length: int, kind: str, whole: bool
) -> None:
    sheet = read_score_text(text, Form())
    (mistake,) = sheet.mistakes
    assert (mistake.line, mistake.column, mistake.length) == (line, column, length)
    assert mistake.advice.kind == kind and (sheet.form is not None) is whole


def test_counts_without_a_heading_begin_a_first_posture() -> None:
    form = read_score_text("shift R 100\n\nstep L 9 bow", Form()).form
    assert form is not None and form.postures == (
        Posture("first", "First posture", read_score("shift R 100\nstep L 9 bow")),
    )


FORM = Form(
    postures=(
        Posture("a", "Lift the lamp", read_score("step L 12 bow # bow low\nshift L 70")),
        Posture("b", "Lower it", read_score("step L 12 bow 40x30")),
    )
)


def test_words_are_found_in_counts_and_names() -> None:
    assert find(FORM, "BOW") == (Hit("a", 0, 10, 13), Hit("a", 0, 16, 19), Hit("b", 0, 10, 13))
    assert find(FORM, "low", names=True, score=False) == (Hit("b", -1, 0, 3),)
    assert find(FORM, "low", names=False) == (Hit("a", 0, 20, 23),)
    assert find(FORM, "") == find(FORM, "b.w") == ()


def test_words_are_replaced_and_what_cannot_be_read_then_is_kept() -> None:
    form, lost = replaced(FORM, find(FORM, "bow"), "parallel")
    assert lost == 0 and write_count(form.postures[0].lines[0]) == "step L 12 parallel # parallel low"
    assert write_count(form.postures[1].lines[0]) == "step L 12 parallel 40x30"
    assert form.postures[0].lines[1] is FORM.postures[0].lines[1]
    form, lost = replaced(FORM, find(FORM, "L"), "q")
    assert lost == 3 and form.postures[0].lines[1].unread is not None
    assert write_count(form.postures[0].lines[1]) == "shift q 70" and form.postures[0].name == "qift the qamp"


@pytest.mark.parametrize(
    ("say", "heading", "torso", "said"),
    [
        (PLAIN, 315.0, 90.0, "10:30"),
        (Figures("own"), 315.0, 90.0, "~7:30"),
        (Figures("own"), 315.0, None, "10:30"),
        (Figures("degrees"), 359.7, 0.0, "0°"),
        (Figures("compass"), 45.2, 0.0, "NE"),
        (Figures("compass", twelve="E"), 0.0, 0.0, "E"),
        (Figures("compass", twelve="E"), 100.0, 0.0, "S+10°"),
    ],
)
def test_facings_are_said_as_one_likes(say: Figures, heading: float, torso: float | None, said: str) -> None:
    assert say.toward(heading, torso) == said


def test_lengths_are_said_in_units_of_the_body_that_walks() -> None:
    form = replace(DEMO, twelve="S")
    said = [Figures(unit=unit).of(form).length(0.52) for unit in ("cm", "m", "in", "fl", "sw")]
    assert said == ["52 cm", "0.52 m", "20.5 in", "2.00 foot lengths", "1.17 shoulder widths"]
    assert Figures("compass").of(form).toward(0.0) == "S"


def test_answers_and_findings_speak_the_same_units() -> None:
    result, figures = review(DEMO, walk(DEMO)), Figures("compass", "in").of(DEMO)
    room, home, _ = (sentence(answer.message, figures) for answer in result.answers)
    assert DEMO.room is not None
    clearance = check_room(walk(DEMO), DEMO.room).clearance
    assert figures.length(clearance) in room and " in ahead" in home and "cm" not in room + home
    assert "NW" in what(result.findings[0], figures) and "NW" not in what(result.findings[0])


def test_arms_eyes_breath_and_beats_are_spoken() -> None:
    form = Form(
        postures=(
            Posture(
                "a",
                lines=read_score(
                    "shift R 100, hand L ~3 chest push, hand R 12 above, gaze +45, breathe in @2\nshift 50/50, gaze NW, breathe out"
                ),
            ),
        )
    )
    trace = walk(form)
    sentences = [
        count_sentence(
            trace.pose(r - 1), trace.pose(r), (trace.move(r, Side.LEFT), trace.move(r, Side.RIGHT)), trace.written[r]
        )
        for r in (1, 2)
    ]
    assert sentences == [
        "100% shifts onto the right foot; the left hand pushes at the chest, to 3; the right hand points above the head, "
        "to 12; the eyes turn 45° right; breathe in; over 2 beats",
        "50% shifts onto the right foot; the eyes go to 10:30; breathe out"
        if trace.pose(2).left_share < 0.5
        else sentences[1],
    ]
    assert [(hand.side, hand.heading, hand.height, hand.shape) for hand in hands_at(trace, 2)] == [
        (Side.LEFT, 90.0, "chest", "push"),
        (Side.RIGHT, 0.0, "above", None),
    ]
    assert [count.inward for count in trace.written] == [None, True, False]


def test_a_pose_is_said_in_the_units_of_the_floor() -> None:
    pose = walk(DEMO).pose(6)
    assert pose_sentence(pose, True, Figures("degrees", "m").of(DEMO)).endswith("m wide")
    assert "faces ~1:30" in pose_sentence(pose._replace(torso=45.0), True, Figures("own"), 0.0)
    assert read_count("hold").moves
