"""The turn check: how far a foot really came round, and the range it offers to the body.

A smaller range is offered at once, a larger one only after five measures on different days none of which hurt: a foot
that is forced round opens no hip, and the knee pays for it.
"""

from __future__ import annotations

import statistics
from collections.abc import Iterable
from typing import Literal

from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import Record
from waltzmark.core.practice.entries import Entry

__all__ = ["DAYS", "Offer", "Way", "offered", "turn_name"]

Way = Literal["out", "in"]
#: Measures on so many different days before a larger range is offered; so many of the last measures are looked at.
DAYS, _LAST = 5, 3
_SEEN = 1.0  # degrees below which a range is the same
_WITHIN = 1.0, 90.0  # degrees that a hip's range may be


class Offer(Record):
    """A range that the measures offer: degrees, of which hip and which way, from how many measures, and why."""

    side: Side
    way: Way
    degrees: float
    measures: int
    why: Message


def turn_name(side: Side, way: Way) -> str:
    """What an entry about such a turn measures."""
    return f"hip {side.word} {way}"


def offered(entries: Iterable[Entry], side: Side, way: Way, known: float) -> Offer | None:
    """What the book offers for a hip that is set to turn *known* degrees a way.

    As in `Body.hip_set`: nothing is taken off for a side that is spared. None where it offers nothing.
    """
    name = turn_name(side, way)
    every = sorted(
        (each for each in entries if each.kind == "turn" and each.what == name),
        key=lambda each: (each.when, each.id),
    )
    found = [each for each in every if each.measured is not None]
    if not found:
        return None
    last = [float(each.measured or 0.0) for each in found[-_LAST:]]
    smaller = max(statistics.median(last), _WITHIN[0])
    if smaller < known - _SEEN:
        return Offer(side, way, smaller, len(last), message("turn.less", n=len(last), measured=smaller, known=known))
    larger: list[Entry] = []
    for each in reversed(every):  # since it hurt last, measured or not, or came less far
        if each.outcome == "hurts" or (each.measured is not None and each.measured <= known + _SEEN):
            break
        if each.measured is not None:
            larger.append(each)
    days = {each.day: float(each.measured or 0.0) for each in larger}
    if len(days) < DAYS:
        return None
    least = min(_WITHIN[1], *(float(each.measured or 0.0) for each in larger))
    if least <= known + _SEEN:
        return None
    return Offer(side, way, least, len(larger), message("turn.more", n=len(days), least=least))
