"""What records promise: they are frozen, alike by their fields, and handed on without what was found out about them."""

from __future__ import annotations

import copy
import pickle
from functools import cached_property

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waltzmark.core.base.messages import Message
from waltzmark.core.base.records import Record, field_names, replace
from waltzmark.core.score.actions import Unread

VALUES = st.one_of(st.integers(-2, 2), st.sampled_from(["", "a"]), st.none(), st.tuples(st.integers(0, 1)))


class Pair(Record, dict=True):
    """Two values, and what is found out about them."""

    first: object
    second: object = 0

    @cached_property
    def both(self) -> tuple[object, object]:
        return self.first, self.second


@given(VALUES, VALUES, VALUES, VALUES)
def test_records_are_alike_when_their_fields_are(a: object, b: object, c: object, d: object) -> None:
    one, other = Pair(a, b), Pair(c, d)
    assert (one == other) == ((a, b) == (c, d))
    assert replace(one, second=d) == Pair(a, d) and one.second == b
    if one == other:
        assert hash(one) == hash(other) and len({one, other}) == 1


def test_what_was_found_out_is_not_handed_on() -> None:
    pair = Pair(1, 2)
    assert pair.both == (1, 2) and pair.both is pair.both
    for other in (pickle.loads(pickle.dumps(pair)), copy.deepcopy(pair), replace(pair)):
        assert other == pair and not vars(other)
    assert replace(pair, first=3).both == (3, 2)


def test_nothing_of_a_record_is_set_anew() -> None:
    pair = Pair(1)
    for change in (lambda: setattr(pair, "first", 2), lambda: delattr(pair, "second")):
        with pytest.raises(AttributeError):
            change()
    assert field_names(Pair) == ("first", "second") and pair == Pair(1, 0)


def test_unread_lines_are_alike_by_their_text_alone() -> None:
    one, other = Unread("x y", Message("score.unread"), 1, 2), Unread("x y", Message("score.empty"), 3, 1)
    assert one == other and hash(one) == hash(other) and one != Unread("x z")
