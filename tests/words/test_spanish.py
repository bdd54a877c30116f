"""What is said in Spanish has the figures that it has in English, and none of its words."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from waltzmark import demo
from waltzmark.core.answers.review import review
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form
from waltzmark.core.home.closing import closings
from waltzmark.core.judge.judging import judge
from waltzmark.core.room.changes import advice
from waltzmark.core.sides.pairs import declared_pairs
from waltzmark.core.walk.walk import walk
from waltzmark.files.reading import read_file
from waltzmark.words.cues import told_count
from waltzmark.words.figures import Figures
from waltzmark.words.findings import remedy, what
from waltzmark.words.language import language, set_language
from waltzmark.words.sentences import sentence

HERE = Path(__file__).parent.parent
DEMO = Path(demo.__file__).parent
FORMS = (DEMO / "ferry-round.waltz", DEMO / "ferry-round-earlier.waltz", *sorted((HERE / "forms").glob("*.waltz")))
#: Words of English that no Spanish sentence has; those of the score are the same in both.
ENGLISH = re.compile(
    r"\b(the|and|with|of|foot|feet|left|right|weight|toward|turns?|stands?|knee|from|its|is|are|not|cm too)\b",
    re.IGNORECASE,
)


@pytest.fixture(autouse=True)
def as_it_was() -> Iterator[None]:
    before = language()
    yield
    set_language(before)


def form_of(path: Path) -> Form:
    """A form whose names are no words of either language."""
    form = read_file(path).form
    named = tuple(replace(posture, name=f"P{number}") for number, posture in enumerate(form.postures))
    room = None
    if form.room is not None:
        things = tuple(replace(each, name=f"T{number}") for number, each in enumerate(form.room.obstacles))
        room = replace(form.room, name="R", obstacles=things, walls=())
    return replace(form, postures=named, room=room, mutes=())


def figures_of(text: str) -> Counter[str]:
    """The numbers in a text, whichever mark they have, and no hours of the clock that are told as words."""
    return Counter(each.replace(",", ".") for each in re.findall(r"\d+(?:[.,]\d+)?", text))


def both(say: Callable[[], list[str]]) -> list[tuple[str, str]]:
    """What is said, in English and in Spanish."""
    told = []
    for name in ("en", "es"):
        set_language(name)
        told.append(say())
    assert len(told[0]) == len(told[1])
    return list(zip(*told, strict=True))


def alike(pairs: list[tuple[str, str]]) -> int:
    """Whether every sentence has the same figures in both languages, and is Spanish in the second; how many differ."""
    for english, spanish in pairs:
        assert figures_of(english) == figures_of(spanish), (english, spanish)
        left = ENGLISH.search(spanish)
        assert left is None or (spanish == english and len(english) < 4), (english, spanish)
    return sum(english != spanish for english, spanish in pairs)


@pytest.mark.parametrize("path", FORMS, ids=lambda path: path.stem)
def test_findings_and_answers_have_the_same_figures(path: Path) -> None:
    form = form_of(path)
    trace, figures = walk(form), Figures()
    findings, answers = judge(form, trace), review(form, trace).answers
    said = both(
        lambda: [
            *(what(each, figures) for each in findings),
            *(remedy(each, figures) for each in findings),
            *(sentence(mend.does, figures) for each in findings for mend in each.mends),
            *(sentence(each.message, figures) for each in answers),
        ]
    )
    assert alike(said) >= len([each for each in said if each[0]]) - 2


@pytest.mark.parametrize("path", FORMS[:6], ids=lambda path: path.stem)
def test_every_count_is_told_with_the_same_figures(path: Path) -> None:
    form = form_of(path)
    trace, figures = walk(form), Figures()
    titles = {posture.id: posture.name or posture.id for posture in form.postures}
    said = both(lambda: [told_count(trace, row, titles, figures) for row in range(1, len(trace))])
    assert alike(said) == len(said)


def test_what_brings_a_form_home_or_into_its_room_has_the_same_figures() -> None:
    form = form_of(DEMO / "ferry-round.waltz")
    trace, figures = walk(form), Figures()
    office = read_file(DEMO / "rooms" / "2-harbour-office.waltz").form.room
    assert office is not None
    corner = tuple((0.65 * x, 0.65 * y) for x, y in office.outline)
    tight = replace(
        form, postures=form.postures[:4], room=replace(office, name="R", outline=corner, obstacles=(), walls=())
    )
    home = closings(form)
    room = advice(tight)
    pairs = declared_pairs(form, trace)
    said = both(
        lambda: [
            *(sentence(each.does, figures) for each in room.changes),
            *(sentence(each.stand, figures) for each in room.changes if each.stand is not None),
            *(sentence(told.message, figures) for pair in pairs for told in getattr(pair.compared, "told", ())),
        ]
    )
    assert alike(said) == len(said) >= 3 and home is not None
