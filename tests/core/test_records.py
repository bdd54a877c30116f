"""A record is a frozen dataclass in all that can be seen of it."""

from __future__ import annotations

import pickle
from dataclasses import FrozenInstanceError, dataclass, field, replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waltzmark.core.base.records import record

VALUES = st.one_of(st.integers(-2, 2), st.sampled_from(["", "a", "b"]), st.none())


def pair(slots: bool) -> tuple[type[Any], type[Any]]:
    """The same class as a record and as a dataclass, new ones so that nothing of them is compiled yet."""

    class Plain:
        first: object
        second: object = 0
        known: object = field(default=0, compare=False, repr=False)

    plain = {"__annotations__": Plain.__annotations__, "second": 0, "__qualname__": "Plain", "__module__": __name__}

    def made() -> dict[str, Any]:
        return {**plain, "known": field(default=0, compare=False, repr=False)}

    wrap = record(slots=True) if slots else record
    return wrap(type("Plain", (), made())), dataclass(frozen=True, slots=slots)(type("Plain", (), made()))


@given(
    st.booleans(), st.tuples(VALUES, VALUES, VALUES), st.tuples(VALUES, VALUES, VALUES), st.permutations("ehr"),
)  # fmt: skip
def test_a_record_compares_hashes_and_shows_itself_as_a_dataclass(
    slots: bool, one: tuple[object, ...], other: tuple[object, ...], first: list[str]
) -> None:
    ours, theirs = pair(slots)
    for each in first:
        if each == "e":
            assert (ours(*one) == ours(*other)) == (theirs(*one) == theirs(*other))
            assert ours(*one) != theirs(*one)
        elif each == "h":
            assert hash(ours(*one)) == hash(ours(*one[:2], "not compared"))
        else:
            assert repr(ours(*one)) == repr(theirs(*one))
    assert replace(ours(*one), first=other[0]) == ours(other[0], *one[1:])
    with pytest.raises(FrozenInstanceError):
        ours(*one).first = 1


@record(slots=True)
class Written:
    """One that can be found by its name, as pickling needs."""

    number: int

    def __repr__(self) -> str:
        return f"number {self.number}"


def test_what_a_record_says_of_itself_stays_and_it_can_be_kept() -> None:
    assert repr(Written(3)) == "number 3"
    assert pickle.loads(pickle.dumps(Written(3))) == Written(3) != Written(4)
    assert len({Written(3), Written(3), Written(4)}) == 2
