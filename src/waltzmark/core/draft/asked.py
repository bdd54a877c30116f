"""What a clause says of feet, facings, shares and ways."""

from __future__ import annotations

from itertools import pairwise

from waltzmark.core.base.units import Length
from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.clauses import Clause, Ref
from waltzmark.core.draft.lexicon import Said

__all__ = [
    "ONE",
    "WHICH",
    "WIDTHS",
    "clock_of",
    "comes_from",
    "contact_of",
    "does",
    "foot_of",
    "goes_round",
    "hours_of",
    "inout_of",
    "is_same",
    "is_swung",
    "leftright_of",
    "on_toes",
    "opened",
    "share_of",
    "sided_of",
    "sizes_of",
    "toes_of",
    "way_of",
    "whither",
    "width_of",
]

#: Widths of the body that a step is told by, and what the score calls them.
WIDTHS = {"width": "shoulder", "hips": "hip"}
#: Words for one that are hours only after "to".
ONE = frozenset({"one", "un", "una", "uno"})


#: Words that say more of what was just named.
WHICH = frozenset({"which", "that", "que"})
#: Words before the foot that moves, and ways before one that only tells a place.
_WITH = frozenset({"with", "con"})
_PLACES = frozenset({"forward", "back", "beside", "close", "behind", "to"})
#: Parts that a foot comes down on: "R 3 heel".
_PARTS = frozenset({"heel", "ball", "toes", "flat"})


def foot_of(c: Clause, refs: list[Ref] | None = None) -> Ref | None:
    """The foot that moves: what it moves with, else the first that it does not move past, to, or in front of."""
    named = [r for r in (c.refs if refs is None else refs) if r.side or r.which]
    for ref in named:
        if _before(c, ref) in _WITH:
            return ref
    moved = next((r for r in named if _before(c, r) not in _PLACES), None)
    itself = next((r for r in c.refs if r.part == "it"), None)
    if moved is None and named and itself is not None and itself.span < named[0].span:
        return itself  # "set it down behind the left heel"
    if moved is None and named and c.said[0].low in WHICH:
        return Ref("", "", "it", 0, c.said[0].span)  # "which lands behind the left"
    return moved or (named[0] if named else None)


def _before(c: Clause, ref: Ref) -> str:
    """The word, or the way, before a part of the body."""
    said = [each for each in c.said if each.span[1] <= ref.span[0]]
    while said and said[-1].kind == "ordinary" and said[-1].low not in _WITH and len(said[-1].low) < 5:
        said.pop()
    if not said:
        return ""
    return said[-1].low if said[-1].low in _WITH else said[-1].value


def sided_of(c: Clause) -> Ref | None:
    """The foot that a clause names by its side; None where it names none."""
    side = c.first_of("side", "left", "right")
    return None if side is None else Ref(side.value, "", "", 0, side.span)


def whither(c: Clause) -> str:
    """The side that something goes to, "step to the left"; empty where none is said."""
    said = [each for each in c.said if each.kind != "ordinary"]
    for at, (one, other) in enumerate(pairwise(said)):
        after = said[at + 2].kind if at + 2 < len(said) and not said[at + 2].low.startswith("in") else ""
        to = one.kind == "link" and one.value == "to" and other.kind == "side" and other.value in ("left", "right")
        if to and after not in ("stance", "part"):
            return other.value
    return ""


def clock_of(c: Clause) -> float | None:
    """The facing that is said: a clock, or a bare number of an hour after "to" or a foot."""
    clock = c.first_of("clock")
    if clock is not None:
        return clock.number
    for at, each in enumerate(c.said):
        if (
            each.kind == "number"
            and each.number in range(1, 13)
            and not comes_from(c, at)
            and (at == 0 or c.said[at - 1].kind in ("link", "part", "way", "verb", "side", "ordinary", "stance"))
        ):
            short = (
                at
                and c.said[at - 1].kind in ("side", "part")
                and at + 1 < len(c.said)
                and c.said[at + 1].value in _PARTS
            )
            told = next((e.value for e in reversed(c.said[:at]) if e.kind != "ordinary"), "")
            stepped = at and c.said[at - 1].kind == "verb" and c.said[at - 1].value == "step"
            after = c.said[at + 1].kind if at + 1 < len(c.said) else ""
            on_it = after == "part" and c.said[at + 1].value in _PARTS
            if not (short or (stepped and after == "part") or (told == "to" and on_it)) and (
                after in ("part", "unit", "amount", "way", "verb") or (after == "stance" and told not in ("to", "face"))
            ):
                continue
            if each.low in ONE and told not in ("to", "face"):
                continue
            return (each.number or 0.0) % 12 * 60.0
    return None


def hours_of(c: Clause) -> list[Said]:
    """All facings that are said, in order, as clocks: minutes past 12."""
    found = []
    for at, each in enumerate(c.said):
        told = next((e.value for e in reversed(c.said[:at]) if e.kind != "ordinary"), "")
        hour = each.kind == "number" and each.number in range(1, 13) and told in ("to", "face")
        if each.kind == "clock":
            found.append(each)
        elif hour or (each.kind == "number" and not c.has("clock") and (each.number or 0.0) * 60 % 720 == clock_of(c)):
            found.append(each._replace(kind="clock", number=(each.number or 0.0) % 12 * 60.0))
    return found


def comes_from(c: Clause, at: int) -> bool:
    """Whether a facing is where something was: "from nine", "de las nueve"."""
    before = [each.low for each in c.said[max(at - 2, 0) : at]]
    return (
        before[-1:] == ["from"] or before[-1:] == ["desde"] or before in (["de", "las"], ["de", "la"], ["desde", "las"])
    )


def sizes_of(c: Clause, *, going: bool = False) -> tuple[Length | None, Length | None]:
    """How long and how wide a step is said to be. going: whether a length was told: a bare number may be a width."""
    both = c.first_of("size")
    if both is not None:
        return Length(both.number or 0.0), Length(both.other or 0.0)
    length: Length | None = None
    width: Length | None = None
    for at, each in enumerate(c.said):
        after = c.said[at + 1] if at + 1 < len(c.said) else None
        named = after.value if after is not None and after.kind == "dimension" else ""
        bare = each.kind == "number" and named != "" and (going or length is not None)
        if each.number is None or not (each.kind in ("cm", "fl", "sw") or bare):
            continue
        size = Length(each.number, {"fl": "fl", "sw": "sw"}.get(each.kind, "cm"))
        wide = named == "wide" or (named == "" and (each.kind == "sw" or c.has("way", "side") or length is not None))
        if wide:
            width = size
        else:
            length = size
    return length, width


def width_of(c: Clause) -> str:
    """The width of the body that a clause names, as `WIDTHS` has it; empty where it names none."""
    found = c.first_of("amount", *WIDTHS)
    return "" if found is None else found.value


def share_of(c: Clause) -> float | None:
    """The share of the weight that a clause names, per cent; None where it names none."""
    percent = c.first_of("percent")
    if percent is not None:
        return percent.number
    if c.has("part_of", "half") and c.has("part", "weight"):
        return 50.0
    numbers = [
        each.number
        for at, each in enumerate(c.said)
        if each.kind == "number" and each.number is not None and each.number > 12
        if c.said[at + 1 : at + 2] == () or c.said[at + 1].kind != "dimension"
    ]
    if numbers and not c.has("degrees") and numbers[0] <= 100:
        return numbers[0]
    return None


def contact_of(c: Clause) -> str:
    """What a foot lands on, as the clause says it; empty where it does not."""
    found = c.first_of("contact")
    if found is None or (found.low in _ON_TOES and (toes_of(c) or _point(c))):
        return ""
    return found.value


def _point(c: Clause) -> bool:
    """Whether something points or looks somewhere."""
    return any(each.low.startswith(("mira", "apunt", "point", "look")) for each in c.said)


def inout_of(c: Clause) -> str:
    """Whether a foot turns in or out, as the clause says it; empty where it does not."""
    way = c.first_of("way", "in", "out")
    if way is not None:
        return way.value
    narrower = c.first_of("way", "closer")
    if narrower is not None and narrower.low.split()[0] in ("in", "inwards"):
        return "in"  # "turn in a little"
    turned = c.first_of("verb", "turnin", "turnout")
    return "" if turned is None else turned.value.removeprefix("turn")


#: What says where toes point as well as that a foot is on them: "con la punta hacia fuera".
_ON_TOES = frozenset({"con la punta", "la punta", "toe", "toes"})
#: What may stand between toes and their way.
_BETWEEN = frozenset({"ordinary", "verb", "comma", "degrees", "number", "amount"})


def on_toes(c: Clause) -> bool:
    """Whether a clause speaks of toes in words that may also say what a foot is on: "con la punta mirando a la una"."""
    return any(each.low in _ON_TOES for each in c.all_of("contact"))


def toes_of(c: Clause) -> str:
    """Whether a foot lands with its toes turned in or out: "with the toes out"; empty where that is not said."""
    for at, each in enumerate(c.said):
        toes = each.kind == "part" and each.value == "toes"
        if toes or (each.kind == "contact" and each.low in _ON_TOES):
            after = [other for other in c.said[at + 1 :] if other.kind not in _BETWEEN]
            if after and after[0].kind == "way" and after[0].value in ("in", "out"):
                return after[0].value
    return ""


def does(c: Clause, *begun: str) -> bool:
    """Whether a verb of a clause begins like one of some words."""
    return any(each.low.startswith(begun) for each in c.all_of("verb"))


def is_swung(c: Clause) -> bool:
    """Whether a leg is swung forward or back, and so steps there."""
    return (
        does(c, "swing", "balance")
        and c.has("way", "forward", "back")
        and any(r.part in ("foot", "") and r.side for r in c.refs)
    )


def goes_round(act: Act | None) -> bool:
    """Whether a foot was swung or carried round, which may turn it or set it elsewhere."""
    return act is not None and act.clause is not None and does(act.clause, "swing", "carry")


def opened(act: Act) -> bool:
    """Whether a foot was opened, which may turn it or set it elsewhere."""
    return act.clause is not None and does(act.clause, "open", "abr")


def leftright_of(c: Clause, foot: Ref) -> str:
    """A turn to the left or right of a foot that is another side's word."""
    sides = [
        each.value
        for each in c.all_of("side")
        if each.value in ("left", "right") and not foot.span[0] <= each.span[0] < foot.span[1]
    ]
    return sides[-1] if sides and foot.side else ""


#: How verbs begin that say forward by themselves.
_ONWARD = ("adelant", "avanz", "advanc")


def way_of(c: Clause) -> str:
    """How a step is taken, as the clause says it; empty where it does not."""
    if (
        c.has("way", "side")
        and any(each.low == "al lado" for each in c.all_of("way"))
        and {"put", "bring"} & set(c.verbs)
    ):
        return "beside"  # "coloca el pie derecho al lado"
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
    if any(each.kind == "verb" and each.low.startswith(_ONWARD) for each in c.said):
        return "forward"
    for each in c.all_of("verb"):
        for word, name in (("forward", "forward"), ("back", "back"), ("in", "in"), ("out", "out")):
            if word in each.low.split()[1:]:
                return name
    return ""


def is_same(one: Ref, other: Ref | None) -> bool:
    """Whether two clauses speak of the same foot, as far as they say."""
    return other is None or (one.side == other.side and one.which == other.which) or one.part == "it"
