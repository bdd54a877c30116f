"""Every short word of the core, and of the schools that ship, has a name in the language of the window."""

from __future__ import annotations

import gettext

import pytest

from waltzmark.core.body.body import RANGES, SOLES
from waltzmark.core.form.room import KINDS as THINGS
from waltzmark.core.practice.entries import KINDS, OUTCOMES
from waltzmark.core.school.school import CHOICES, bundled_schools, load_school
from waltzmark.words import language, named


class Marked(gettext.NullTranslations):
    """A catalogue that marks what goes through it."""

    def gettext(self, message: str) -> str:
        return f"[{message}]"


@pytest.fixture(autouse=True)
def marked() -> object:
    language.set_language("en", Marked())
    yield
    language.set_language("en")


def test_every_limit_and_choice_of_every_school_has_a_name() -> None:
    schools = [load_school(name) for name in bundled_schools()]
    limits = {
        key for school in schools for setting in school.rules.values() for key in (*setting.limits, *setting.choices)
    }
    assert len(limits) > 25
    assert sorted(key for key in limits if not named.limit(key).startswith("[")) == []
    choices = {each for known in CHOICES.values() for each in known}
    choices |= {value for school in schools for setting in school.rules.values() for value in setting.choices.values()}
    assert sorted(value for value in choices if not named.choice(value).startswith("[")) == []


@pytest.mark.parametrize(
    ("name", "words"),
    [
        (named.kind_of_thing, THINGS),
        (named.kind_of_entry, KINDS),
        (named.outcome, OUTCOMES),
        (named.ranges, tuple(RANGES)),
        (named.soles, tuple(SOLES)),
        (named.side, ("left", "right")),
        (named.width, ("together", "hip", "shoulder")),
    ],
)
def test_every_kind_has_a_name(name: object, words: tuple[str, ...]) -> None:
    assert callable(name)
    assert [word for word in words if not name(word).startswith("[")] == []


def test_a_word_that_a_document_brings_stays_as_it_is() -> None:
    assert named.limit("own_limit") == "own limit" and named.choice("as it likes") == "as it likes"
