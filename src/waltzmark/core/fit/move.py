"""One thing that may be done so that a body can walk a form."""

from __future__ import annotations

from typing import Literal, NamedTuple

from waltzmark.core.base.messages import Message
from waltzmark.core.judge.finding import Mend

__all__ = ["Kind", "Move"]

#: What it is a change of; `FIT_PRICES` of a school has what each costs.
Kind = Literal["length", "depth", "turn", "pour", "waist", "way"]


class Move(NamedTuple):
    """One way to fit a count to a body.

    rank: 0 to 1, among others of its kind; mend: None where only something to hold is wanted; finer: the same by less,
    the least first.
    """

    kind: Kind
    rank: float
    does: Message
    mend: Mend | None
    finer: tuple[Mend, ...] = ()
