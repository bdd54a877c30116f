"""What a speaker says of counts is drafted as those counts again, in both languages, and nothing of it is doubted."""

from __future__ import annotations

import re

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.draft.figures import form_of
from tests.draft.speaker import LANGUAGES, Talk, talk
from waltzmark.core.draft.drafting import Draft, draft
from waltzmark.core.score.read import read_count
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.walk import ground_of, walk

_SWAPPED = {"left": "right", "right": "left", "izquierd": "derech", "derech": "izquierd"}


def drafted(text: str, language: str) -> Draft:
    form = form_of(())
    return draft(text, walk(form).passages[-1].exit, ground_of(form), language)


def lines(found: Draft) -> list[str]:
    """The counts of a draft, an action a line: which of them come together is another question."""
    made = [made for posture in found.postures for made in posture.counts]
    return [part.strip() for each in made for part in write_count(each.count).split(", ")]


@given(st.integers(0, 1 << 30), st.sampled_from(LANGUAGES), st.integers(1, 9))
@settings(max_examples=250, deadline=None)
def test_what_is_said_of_counts_becomes_those_counts(seed: int, language: str, sentences: int) -> None:
    said = talk(seed, language, sentences)
    found = drafted(said.text, language)
    assert lines(found) == list(said.counts), said.text
    doubts = [made.slots for posture in found.postures for made in posture.counts if made.how == "doubtful"]
    assert len(doubts) <= _unsure(said), said.text
    assert not [each for each in found.unused if each.why != "idle"], said.text


def _unsure(said: Talk) -> int:
    """How often a foot steps twice with no weight between, which may be doubted."""
    steps = [re.match(r"(step|shift) (?:([LR]) )?", count) for count in said.counts]
    twice, last = 0, ""
    for each in steps:
        if each is None:
            continue
        twice += each[1] == "step" and each[2] == last
        last = each[2] if each[1] == "step" else ""
    return twice


@given(st.integers(0, 1 << 30), st.sampled_from(LANGUAGES), st.integers(1, 6))
@settings(max_examples=80, deadline=None)
def test_the_other_side_said_is_the_other_side_drafted(seed: int, language: str, sentences: int) -> None:
    said = talk(seed, language, sentences)
    if any(re.match(r"torso|(step|pivot) [LR] (heel )?\d", count) for count in said.counts):
        return  # hours would have to be mirrored in words
    other = re.sub("|".join(_SWAPPED), lambda each: _SWAPPED[each[0]], said.text)
    mirrored = [write_count(read_count(count).mirrored(0.0, "N")) for count in lines(drafted(said.text, language))]
    assert lines(drafted(other, language)) == mirrored


@given(st.integers(0, 1 << 30), st.integers(1, 6), st.sampled_from(["and", "then", ",", "; then"]))
@settings(max_examples=120, deadline=None)
def test_how_sentences_are_joined_does_not_change_what_they_mean(seed: int, sentences: int, link: str) -> None:
    said = talk(seed, "en", sentences)
    joined = f"{link} ".join(
        f"{each[0].lower()}{each[1:-1]}" + (" " if link[0].isalpha() else "") for each in said.sentences
    )
    assert lines(drafted(joined + ".", "en")) == list(said.counts), joined


@pytest.mark.parametrize("idle", ["That is lovely.", "Keep your shoulders loose.", "Don't look down.", "Okay, good."])
@given(st.integers(0, 1 << 30), st.integers(1, 5))
@settings(max_examples=25, deadline=None)
def test_praise_between_sentences_changes_nothing(idle: str, seed: int, sentences: int) -> None:
    said = talk(seed, "en", sentences)
    assert lines(drafted(f" {idle} ".join(said.sentences), "en")) == list(said.counts)


@given(st.integers(0, 1 << 30), st.sampled_from(LANGUAGES), st.integers(1, 8))
@settings(max_examples=60, deadline=None)
def test_every_count_stands_in_the_sentence_that_says_it(seed: int, language: str, sentences: int) -> None:
    said = talk(seed, language, sentences)
    found = drafted(said.text, language)
    starts = [0]
    for sentence in said.sentences:
        starts.append(starts[-1] + len(sentence) + 1)
    for posture in found.postures:
        for made in posture.counts:
            for action in write_count(made.count).split(", "):
                if said.counts.count(action) == 1:  # else nobody can tell which of them it is
                    begun, ended = starts[said.counts.index(action) :][:2]
                    assert any(begun <= start < stop <= ended for start, stop in made.spans)
