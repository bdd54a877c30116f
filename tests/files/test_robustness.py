"""Odd input: a document that was damaged anywhere is read or refused with words, and what is read can be walked."""

from __future__ import annotations

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core import strategies as write
from tests.trying import tries
from waltzmark.core.answers.review import review
from waltzmark.core.base.messages import Message
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import DocumentError, read_document
from waltzmark.files.report import check_values, trace_values
from waltzmark.files.writing import render
from waltzmark.words.findings import remedy, what
from waltzmark.words.sentences import sentence

DEMO = demo_text()
LINES = DEMO.splitlines(keepends=True)
snippets = st.sampled_from(
    [
        "[",
        "]",
        '"',
        "=",
        "nan",
        "-inf",
        "1e999",
        "0",
        "-1",
        "\n",
        "[[posture]]\n",
        "[room]\n",
        "{",
        "'",
        "\\",
        "\x00",
        "é",
        "true",
        ",",
        "[[]]",
        'mirror_of = "moor"\n',
        'repeat_of = "quay"\n',
        'axis = "3:00"\n',
        'id = "quay"\n',
        "counts = []\n",
    ]
)


@st.composite
def damaged(draw: st.DrawFn) -> str:
    text = DEMO
    for _ in range(draw(st.integers(1, 3))):
        at, how = draw(st.integers(0, len(text))), draw(st.sampled_from(["cut", "put", "swap", "line"]))
        if how == "cut":
            text = text[:at] + text[at + draw(st.integers(1, 60)) :]
        elif how == "put":
            text = text[:at] + draw(snippets) + text[at:]
        elif how == "swap":
            text = text[:at] + draw(snippets) + text[at + 1 :]
        else:
            lines = text.splitlines(keepends=True)
            del lines[draw(st.integers(0, max(len(lines) - 1, 0))) :][:1]
            text = "".join(lines)
    return text


@given(damaged())
@settings(max_examples=tries(250))
def test_a_damaged_document_is_read_or_refused_with_words(text: str) -> None:
    refused = ""
    try:
        read = read_document(text)
    except DocumentError as error:
        refused = str(error)
    else:
        trace = walk(read.form)
        assert len(trace_values(trace)["counts"]) == len(trace)
        assert render(read.form, read) == read.text
    assert refused == "" or len(refused) > 15


@given(
    st.dictionaries(
        st.sampled_from(["waltzmark", "form", "body", "room", "posture", "x"]),
        st.recursive(
            st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=5),
            lambda inner: (
                st.lists(inner, max_size=3)
                | st.dictionaries(
                    st.sampled_from(
                        [
                            "id",
                            "name",
                            "counts",
                            "outline",
                            "start",
                            "obstacle",
                            "stature",
                            "mass",
                            "title",
                            "opening",
                            "left",
                            "right",
                            "heel",
                            "x",
                            "y",
                            "heading",
                            "radius",
                            "centre",
                            "turned",
                            "ends",
                            "knee_bend",
                            "boards",
                        ]
                    ),
                    inner,
                    max_size=4,
                )
            ),
            max_leaves=12,
        ),
        max_size=5,
    )
)
@settings(max_examples=tries(300))
def test_values_of_any_kind_in_any_place_are_refused_with_words(raw: dict[str, object]) -> None:
    from waltzmark.files.reading import _Reader

    problems: tuple[tuple[object, Message], ...] | None = None
    try:
        _Reader("", {"waltzmark": 1, **raw}).form()
    except DocumentError as error:
        problems = error.problems
    assert problems is None or (problems and all(sentence(problem) for _, problem in problems))


lines = st.lists(write.counts, max_size=6).map(tuple)


@given(lines, lines, write.floor_clocks)
@settings(max_examples=tries(60))
def test_whatever_is_written_can_be_judged_and_reported(first: tuple, second: tuple, axis: Clock) -> None:  # type: ignore[type-arg]
    room = read_document(DEMO).form.room
    form = Form(
        room=room,
        postures=(
            Posture("a", "A", first, Clock(0)),
            Posture("b", "B", second, side_of="a"),
            Posture("c", mirror_of="a", axis=axis),
        ),
    )
    trace = walk(form)
    result = review(form, trace)
    values = check_values(form, result)
    assert values["fits"] in (True, False)
    for finding in result.findings:
        assert 0 <= finding.row < len(trace) and what(finding) and remedy(finding)
    for answer in result.answers:
        text = sentence(answer.message)
        assert text.endswith(".") and "nan" not in text
