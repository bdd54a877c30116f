"""A text is read by the tables as Lark reads it by its grammar."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import cache
from pathlib import Path

from hypothesis import given, settings
from hypothesis import strategies as st
from lark import Lark, Tree
from lark.exceptions import UnexpectedInput

import waltzmark.core.score
from tests.core.strategies import counts
from tests.trying import tries
from waltzmark.core.score import Count, write_count
from waltzmark.core.score.machine import Machine, UnexpectedError

GRAMMAR = Path(waltzmark.core.score.__file__).parent / "grammar.lark"


@cache
def theirs() -> Lark:
    return Lark(
        GRAMMAR.read_text("utf-8"), start="count", parser="lalr", maybe_placeholders=True, g_regex_flags=re.ASCII
    )


class _Trees:
    """Makes of each rule its name with its parts."""

    def __getattr__(self, name: str) -> Callable[..., object]:
        return lambda *parts: (name, parts)


OURS = Machine(_Trees())
#: What is written over a count: letters and signs that are in many words, and some that are in none.
SCRATCHES = st.text(alphabet="lrtphbeswx019 .,:/@#+-~!é", max_size=3)


def by_lark(text: str) -> object:
    """The tree of a text, else where it cannot be read and what could stand there."""
    try:
        return _plain(theirs().parse(text))
    except UnexpectedInput as error:
        at = len(text) if getattr(error, "token", None) == "" else error.pos_in_stream
        return at, error.interactive_parser.accepts()


def by_tables(text: str) -> object:
    """The same of ours."""
    try:
        return OURS.parse(text)
    except UnexpectedError as error:
        return error.at, error.expected


def _plain(tree: object) -> object:
    return (str(tree.data), tuple(_plain(each) for each in tree.children)) if isinstance(tree, Tree) else tree


@given(counts, st.integers(0, 60), st.integers(0, 3), SCRATCHES)
@settings(max_examples=tries(400))
def test_a_count_is_read_as_lark_reads_it(count: Count, at: int, gone: int, scratch: str) -> None:
    whole = write_count(count)
    for text in (whole, whole[:at] + scratch + whole[at + gone :]):
        assert by_tables(text) == by_lark(text)
