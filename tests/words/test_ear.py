"""What is spoken: nothing that a voice would read as a sign, and where things are as one says it."""

from __future__ import annotations

import math
import re
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waltzmark.core.base.records import replace
from waltzmark.core.form.film import VOICES
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Obstacle, Room, Start
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document, read_file
from waltzmark.words.ear import (
    beat_words,
    drill_words,
    hour_words,
    places_of,
    recall_words,
    seconds_words,
    wordings,
)

FORMS = sorted((Path(__file__).parent.parent / "forms").glob("*.waltz"))
SPOKEN = re.compile(r"[A-Za-z0-9 ,.?-]*")


def lines(form: Form, level: str) -> list[tuple[str, ...]]:
    trace, places = walk(form), places_of(form)
    titles = {posture.id: "Haul the net" for posture in form.postures}
    return [wordings(trace, row, level, titles, places) for row in range(len(trace))]


@pytest.mark.parametrize("path", FORMS, ids=lambda path: path.stem)
def test_no_sign_is_ever_read_aloud(path: Path) -> None:
    form = read_file(path).form
    told = [lines(form, level) for level in VOICES]
    for level in told:
        for texts in level:
            for text in texts:
                assert SPOKEN.fullmatch(text), text
                assert not re.search(r"\d\s*:\s*\d|\b[LR]\b", text)
            # The fullest comes first.
            assert list(texts) == sorted(set(texts), key=len, reverse=True)
    # Each level says what the one before says of a count, and more.
    nothing, postures, steps, everything = told
    assert not any(nothing)
    for some, more, most in zip(postures, steps, everything, strict=True):
        for less, fuller in ((some, more), (more, most)):
            assert not less or (fuller and len(fuller[0]) >= len(less[0]))


def test_the_demo_is_spoken_in_every_count_and_its_names_are_as_they_are() -> None:
    form = read_document(demo_text()).form
    trace = walk(form)
    titles = {posture.id: posture.title for posture in form.postures}
    told = [wordings(trace, row, "all", titles) for row in range(1, len(trace))]
    assert all(told)
    first = [told[trace.span(posture.id)[0] - 1][0] for posture in form.postures]
    assert all(text.startswith(posture.title) for text, posture in zip(first, form.postures, strict=True))


@given(st.floats(-720.0, 720.0))
def test_an_hour_is_said_to_the_nearest_quarter(heading: float) -> None:
    said = hour_words(heading)
    names = ["twelve", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven"]
    match = re.fullmatch(r"to (?:(quarter past|half past|quarter to) )?(\w+)", said)
    assert match is not None
    part = {None: 0.0, "quarter past": 0.25, "half past": 0.5, "quarter to": -0.25}[match[1]]
    hours = names.index(match[2]) + part
    away = math.remainder(30.0 * hours - heading, 360.0)
    assert abs(away) <= 3.75 + 1e-9


LOFT = Room(
    "Loft",
    ((0.0, 0.0), (6.0, 0.0), (6.0, 4.0), (0.0, 4.0)),
    Start(3.0, 1.0, 0.0),
    obstacles=(Obstacle("post", centre=(4.0, 2.0), radius=0.1),),
    walls=((0, "door wall"), (1, "window"), (2, "mirror"), (3, "stairs")),
)


@pytest.mark.parametrize("heading", [0.0, 40.0, 90.0, 215.0])
@pytest.mark.parametrize("turned", [0.0, 90.0, 200.0])
def test_walls_and_things_are_named_where_they_are(heading: float, turned: float) -> None:
    form = Form(room=replace(LOFT, start=replace(LOFT.start, heading=heading)))
    places = places_of(form, turned)
    # In the room's own frame: the mirror wall is straight up, the window to the right.
    for name, towards in (("mirror", 0.0), ("window", 90.0), ("door wall", 180.0), ("stairs", 270.0)):
        seen = towards - heading - turned
        for off in (-11.0, 0.0, 11.0):
            assert places.way(seen + off) == f"to the {name}"
        assert places.way(seen + 14.0) == hour_words(seen + 14.0)
    # The post is a metre to the right and a metre ahead of the mark: 45° in the room.
    seen = 45.0 - heading - turned
    assert places.way(seen, (0.0, 0.0)) == "to the post"
    assert places.way(seen) == hour_words(seen)  # a foot is not set down “to the post”
    x, y = places.things["post"]
    assert math.hypot(x, y) == pytest.approx(math.sqrt(2.0))
    assert math.remainder(math.degrees(math.atan2(x, y)) - seen, 360.0) == pytest.approx(0.0, abs=1e-9)


def test_drills_questions_and_counting() -> None:
    assert len({drill_words("Haul the net", side, after) for side in ("", "left", "right") for after in range(4)}) == 12
    assert all("Haul the net" in recall_words("Haul the net", 2, mark)[:12] for mark in (None,))
    assert [str(mark) in recall_words("", 1, mark) for mark in range(6)] == [True] * 6
    assert [len(beat_words(beats)) for beats in (0.5, 1.0, 2.0, 4.0, 30.0)] == [0, 0, 1, 3, 11]
    assert list(seconds_words()) == [10, 5, 4, 3, 2, 1] and len(set(seconds_words().values())) == 6
