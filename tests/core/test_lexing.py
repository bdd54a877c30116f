"""Words are found one by one as Lark's own expression of all of them finds them."""

from __future__ import annotations

from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.strategies import counts
from tests.trying import tries
from waltzmark.core.score import Count, write_count
from waltzmark.core.score.generated import Lark_StandAlone, UnexpectedInput
from waltzmark.core.score.lexing import PLUGINS

OURS, THEIRS = Lark_StandAlone(_plugins=PLUGINS), Lark_StandAlone()
#: What is written over a count: letters and signs that are in many words, and some that are in none.
SCRATCHES = st.text(alphabet="lrtphbeswx019 .,:/@#+-~!é", max_size=3)


def parsed(parser: Any, text: str) -> object:
    """The tree of a text, else where it cannot be read and what could stand there."""
    try:
        return parser.parse(text)
    except UnexpectedInput as error:
        expected = getattr(error, "allowed", None) or getattr(error, "expected", None)
        return type(error).__name__, error.line, error.column, expected


@given(counts, st.integers(0, 60), st.integers(0, 3), SCRATCHES)
@settings(max_examples=tries(400))
def test_a_count_is_read_as_by_an_expression_of_all_words(count: Count, at: int, gone: int, scratch: str) -> None:
    whole = write_count(count)
    for text in (whole, whole[:at] + scratch + whole[at + gone :]):
        assert parsed(OURS, text) == parsed(THEIRS, text)
