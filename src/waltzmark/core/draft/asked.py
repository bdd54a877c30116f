"""What a clause says of feet, facings, shares and ways."""

from __future__ import annotations

from waltzmark.core.draft.clauses import Clause, Ref

__all__ = [
    "ONE",
    "clock_of",
    "contact_of",
    "foot_of",
    "inout_of",
    "is_same",
    "leftright_of",
    "share_of",
    "sided_of",
    "way_of",
]

#: Words for one that are hours only after "to".
ONE = frozenset({"one", "un", "una", "uno"})


def foot_of(c: Clause) -> Ref | None:
    return next((r for r in c.refs if r.side or r.which), None)


def sided_of(c: Clause) -> Ref | None:
    side = c.first_of("side", "left", "right")
    return None if side is None else Ref(side.value, "", "", 0, side.span)


def clock_of(c: Clause) -> float | None:
    """The facing that is said: a clock, or a bare number of an hour after "to" or a foot."""
    clock = c.first_of("clock")
    if clock is not None:
        return clock.number
    for at, each in enumerate(c.said):
        if (
            each.kind == "number"
            and each.number in range(1, 13)
            and (at == 0 or c.said[at - 1].kind in ("link", "part", "way", "verb", "side", "ordinary", "stance"))
        ):
            if at + 1 < len(c.said) and c.said[at + 1].kind in ("part", "unit", "amount", "way", "stance", "verb"):
                continue
            if each.low in ONE and (at == 0 or c.said[at - 1].value != "to"):
                continue
            return (each.number or 0.0) % 12 * 60.0
    return None


def share_of(c: Clause) -> float | None:
    percent = c.first_of("percent")
    if percent is not None:
        return percent.number
    if c.has("part_of", "half") and c.has("part", "weight"):
        return 50.0
    numbers = [each.number for each in c.all_of("number") if each.number is not None and each.number > 12]
    if numbers and not c.has("degrees") and numbers[0] <= 100:
        return numbers[0]
    return None


def contact_of(c: Clause) -> str:
    found = c.first_of("contact")
    return found.value if found is not None else ""


def inout_of(c: Clause) -> str:
    way = c.first_of("way", "in", "out")
    return way.value if way is not None else ""


def leftright_of(c: Clause, foot: Ref) -> str:
    """A turn to the left or right of a foot that is another side's word."""
    sides = [each.value for each in c.all_of("side") if each.value in ("left", "right")]
    return sides[-1] if len(sides) > 1 else ""


def way_of(c: Clause) -> str:
    for name in (
        "half",
        "beside",
        "close",
        "corner",
        "behind",
        "side",
        "closer",
        "back",
        "forward",
        "around",
        "out",
        "in",
    ):
        if c.has("way", name):
            return name
    if any(each.value == "stepback" for each in c.said):
        return "back"
    for each in c.all_of("verb"):
        for word, name in (("forward", "forward"), ("back", "back"), ("in", "in"), ("out", "out")):
            if word in each.low.split()[1:]:
                return name
    return ""


def is_same(one: Ref, other: Ref | None) -> bool:
    return other is None or (one.side == other.side and one.which == other.which) or one.part == "it"
