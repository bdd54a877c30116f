"""A drill: a posture, a pair or a chain of them, so many times a side.

With rests and headings; one repetition after the other, each an entry of the book.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Literal

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.form import Form
from waltzmark.core.practice.entries import Entry, Outcome, WhichSide, passage_words, sides_of_form
from waltzmark.core.sides.pairs import Pair
from waltzmark.core.walk.trace import Trace

__all__ = ["MOST_REPS", "Done", "Drill", "Order", "Rep", "drill_for", "needs_rest"]

Order = Literal["alternating", "blocks"]
MOST_REPS = 50  # a side
_TURNED = 90.0  # degrees from one start heading to the next
#: A repetition with a knee bent so deep, or so many beats on one leg, asks for a rest (coaching defaults).
_LOW, _ALONE = 55.0, 3.0


class Rep(Record):
    """One repetition: of which postures, on which side, facing where, and the how manieth of that side."""

    postures: tuple[str, ...]
    side: WhichSide
    heading: float
    number: int


class Drill(Record):
    """What is to be done: repetitions in their order.

    rest: seconds between; hard: whether what is drilled is low or on one leg, so that rests are proposed.
    """

    title: str
    reps: tuple[Rep, ...]
    rest: float = 0.0
    hard: bool = False


class Done(Record):
    """How far a drill has come. A value: what was done is never lost by what comes after."""

    drill: Drill
    entries: tuple[Entry, ...] = ()
    stopped: bool = False

    @property
    def next(self) -> Rep | None:
        """The repetition that is to be done now; None when it is over."""
        if self.stopped or len(self.entries) >= len(self.drill.reps):
            return None
        return self.drill.reps[len(self.entries)]

    def with_rep(
        self, form: Form, when: datetime, minutes: float, outcome: Outcome = "done", note: str = "", person: str = ""
    ) -> Done:
        """The repetition that was due, done; one that hurts ends the drill. Raises WaltzmarkError when it is over."""
        rep = self.next
        if rep is None:
            raise WaltzmarkError("drill.over")
        entry = Entry(
            when,
            "drill",
            person,
            form.title,
            rep.postures[0],
            _title(form, rep.postures),
            rep.side,
            rep.heading,
            1,
            minutes,
            passage_words(rep.postures),
            outcome=outcome,
            note=note,
        )
        return replace(self, entries=(*self.entries, entry), stopped=outcome == "hurts")

    def done(self, side: WhichSide) -> int:
        """How many repetitions of a side have been done."""
        return sum(entry.side == side and entry.outcome != "hurts" for entry in self.entries)


def _title(form: Form, postures: Sequence[str]) -> str:
    """What the postures of a repetition are called."""
    first = form.posture(postures[0]).title
    return first if len(postures) == 1 else f"{first} to {form.posture(postures[-1]).title}"


def drill_for(
    form: Form,
    trace: Trace,
    postures: Sequence[str],
    each: int,
    other: Sequence[str] = (),
    order: Order = "alternating",
    rest: float = 0.0,
    headings: int = 1,
) -> Drill:
    """A drill of some postures in a row, and of their other side, *each* times a side.

    order: one side and the other by turns, or in blocks; headings: how many start headings it goes through, a quarter
    turn apart. Raises WaltzmarkError.
    """
    if not 1 <= each <= MOST_REPS:
        raise WaltzmarkError("drill.reps", most=MOST_REPS, n=each)
    chains = [tuple(chain) for chain in (postures, other) if chain]
    if not chains:
        raise WaltzmarkError("drill.nothing")
    sides = sides_of_form(form, trace)
    named: list[WhichSide] = [sides[chain[0]] if len(chain) == 1 else "" for chain in chains]
    if len(chains) == 2 and (not named[0] or named[0] == named[1]):
        named = ["left", "right"]
    turns = [(n, chain) for n in range(each) for chain in range(len(chains))]
    if order == "blocks":
        turns = [(n, chain) for chain in range(len(chains)) for n in range(each)]
    by_turns = len(chains) == 2 and order == "alternating"
    reps = tuple(
        Rep(chains[chain], named[chain], _TURNED * _heading(at, max(headings, 1), by_turns) % 360.0, n + 1)
        for at, (n, chain) in enumerate(turns)
    )
    hard = any(needs_rest(trace, posture) for chain in chains for posture in chain)
    return Drill(_title(form, chains[0]), reps, rest, hard)


def _heading(at: int, headings: int, by_turns: bool) -> int:
    """Which of so many headings a repetition has.

    With sides by turns and an even number of headings, each side would always get the same ones: there each time
    through them begins one further on.
    """
    return (at + at // headings if by_turns and headings % 2 == 0 else at) % headings


def other_side_of(pairs: Sequence[Pair], posture: str) -> str | None:
    """The posture that is a posture's other side, by the pairs that are known."""
    for pair in pairs:
        if pair.kind == "mirror" and all(pair.whole) and posture in (pair.posture, pair.other):
            return pair.other if pair.posture == posture else pair.posture
    return None


def needs_rest(trace: Trace, posture: str) -> bool:
    """Whether a posture is so low, or so long on one leg, that a rest after it is proposed. Raises KeyError."""
    start, stop = trace.span(posture)
    if start == stop:
        return False
    low = float(trace.sinks[start:stop].max()) > _LOW
    alone = (trace.contacts[start:stop] == 0).any(axis=1)
    return low or float(trace.beats[start:stop][alone].sum()) >= _ALONE
