"""A record is a frozen dataclass in all that can be seen of it."""

from __future__ import annotations

import pickle
from collections.abc import Callable
from dataclasses import FrozenInstanceError, dataclass, field, replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waltzmark.core.base.records import record

VALUES = st.one_of(st.integers(-2, 2), st.sampled_from(["", "a", "b"]), st.none())


def pair(slots: bool) -> tuple[type[Any], type[Any]]:
    """The same class as a record and as a dataclass, new ones so that nothing of them is compiled yet."""

    def plain() -> type[Any]:
        def begun(self: Any) -> None:
            if self.second == "b":
                raise ValueError("no second b")
            object.__setattr__(self, "both", (self.first, self.second))

        named = ("first", "second", "known", "listed", "both", "fixed")
        values: dict[str, Any] = {
            "second": 0,
            "known": field(default=0, compare=False, repr=False),
            "listed": field(default_factory=list, hash=False),
            "both": field(init=False, repr=False),
            "fixed": field(default=7, init=False),
            "__annotations__": dict.fromkeys(named, "object"),
            "__qualname__": "Plain",
            "__module__": __name__,
            "__post_init__": begun,
        }
        return type("Plain", (), values)

    wrap = record(slots=True) if slots else record
    return wrap(plain()), dataclass(frozen=True, slots=slots)(plain())


def tried(make: Callable[[], Any]) -> object:
    """What comes of making an object: how it shows itself, or what went wrong."""
    try:
        return repr(make())
    except (TypeError, ValueError) as error:
        return type(error), str(error).replace("Plain.", "")


@given(
    st.booleans(), st.lists(VALUES, max_size=5),
    st.dictionaries(st.sampled_from(["first", "second", "known", "listed", "both", "fixed", "none"]), VALUES, max_size=3),
)  # fmt: skip
def test_a_record_begins_as_a_dataclass(slots: bool, values: list[object], named: dict[str, object]) -> None:
    ours, theirs = pair(slots)
    for _ in range(10):  # the last ones are compiled
        assert tried(lambda: ours(*values, **named)) == tried(lambda: theirs(*values, **named))
    assert ours(1).listed is not ours(1).listed


@given(
    st.booleans(), st.tuples(VALUES, VALUES, VALUES), st.tuples(VALUES, VALUES, VALUES), st.permutations("ehr"),
)  # fmt: skip
def test_a_record_compares_hashes_and_shows_itself_as_a_dataclass(
    slots: bool, one: tuple[object, ...], other: tuple[object, ...], first: list[str]
) -> None:
    ours, theirs = pair(slots)
    one, other = (tuple("c" if value == "b" else value for value in values) for values in (one, other))
    for each in 4 * first:
        if each == "e":
            assert (ours(*one) == ours(*other)) == (theirs(*one) == theirs(*other))
            assert ours(*one) != theirs(*one)
        elif each == "h":
            assert hash(ours(*one)) == hash(ours(*one[:2], "not compared"))
        else:
            assert repr(ours(*one)) == repr(theirs(*one))
    assert replace(ours(*one), first=other[0]) == ours(other[0], *one[1:])
    frozen = ours(*one)
    for change in (
        lambda: setattr(frozen, "first", 1),
        lambda: delattr(frozen, "known"),
        lambda: setattr(frozen, "x", 1),
    ):
        with pytest.raises(FrozenInstanceError):
            change()


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


@record(eq=False)
class Itself:
    """One that is only like itself, and one made of it that has more of its own."""

    number: int


class More(Itself):
    other = 0


def test_a_record_may_be_like_itself_alone_and_what_is_made_of_it_may_have_more() -> None:
    assert Itself(1) != Itself(1)
    more = More(1)
    more.other = 2
    assert (more.number, more.other) == (1, 2)
    with pytest.raises(FrozenInstanceError):
        more.number = 2  # type: ignore[misc]
