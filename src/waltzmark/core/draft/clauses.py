"""What was said in clauses: each with what it says of feet, places and shares, and how it hangs on the one before."""

from __future__ import annotations

from collections.abc import Iterable
from itertools import islice
from typing import NamedTuple

from waltzmark.core.draft.lexicon import Said
from waltzmark.core.draft.pieces import Span

__all__ = ["RESUMES", "Clause", "Ref", "clauses_of"]

#: Links at which another clause begins, and whether what it says happens together with the one before.
_LINKS = {
    "then": False,
    "and": False,
    "as": True,
    "until": False,
    "before": False,
    "after": False,
    "but": False,
    "no": False,
}


#: Words that hang on what was said before, and not on what comes next.
_MEANWHILE = frozenset(
    {"simultaneously", "all the while", "at once", "in the same moment", "meanwhile", "during this", "at the same time"}
    | {"together with this", "al mismo tiempo", "a la vez"}
)
#: Words with which somebody comes back to what is done.
RESUMES = frozenset({"now", "okay", "ok", "alright", "all right", "from here", "ahora", "entonces", "vale", "bueno"})
#: Words that hang a share of the weight on a clause.
_WITH = frozenset({"with", "con"})


#: How Spanish verbs end that say what is done along with what was told: "pasa el peso girando el cuerpo".
_GERUNDS = ("ando", "iendo")
#: How notes begin to say where the torso faces.
_TORSO = "t"
#: Verbs that say a way too, as what they are read.
_VERBS = {"stepback": "step", "turnin": "turn", "turnout": "turn"}


class Ref(NamedTuple):
    """A part of the body that was said. side: by its name; which: by what it does; part: of the lexicon."""

    side: str
    which: str
    part: str
    at: int
    span: tuple[int, int]


class Clause(NamedTuple):
    """What is said in one clause.

    said: what is in it; link: how it hangs on what came before; together: at the same time as that; sentence: its
    number; first: whether it begins a sentence; colon: whether what it says is told one by one after it; asks: whether
    it is part of a question; on: whether only a semicolon parts its sentence from the one before.
    """

    said: tuple[Said, ...]
    link: str
    together: bool
    sentence: int
    first: bool
    colon: bool = False
    asks: bool = False
    on: bool = False

    def has(self, kind: str, *values: str) -> bool:
        return any(each.kind == kind and (not values or each.value in values) for each in self.said)

    def first_of(self, kind: str, *values: str) -> Said | None:
        return next((each for each in self.said if each.kind == kind and (not values or each.value in values)), None)

    def all_of(self, kind: str) -> list[Said]:
        return [each for each in self.said if each.kind == kind]

    @property
    def verbs(self) -> list[str]:
        return [_VERBS.get(each.value, each.value) for each in self.said if each.kind == "verb"]

    @property
    def refs(self) -> list[Ref]:
        """The parts of the body in it: "the ball of the right foot" is one."""
        found: list[Ref] = []
        side = which = ""
        begun: Said | None = None
        for at, each in enumerate(self.said):
            if each.kind == "side":
                if side and begun is not None:
                    found.append(Ref(side, which, "", at - 1, begun.span))
                side, begun = each.value, each
            elif each.kind == "which":
                which, begun = each.value, begun or each
            elif each.kind == "part" and each.value not in ("weight", "body", "hand", "eyes"):
                last = found[-1] if found else None
                of_it = last is not None and not last.side and not last.which and last.part != "foot"
                if last is not None and of_it and each.value == "foot" and (side or which):
                    found[-1] = last._replace(side=side, which=which, span=_around(last.span, each.span))
                else:
                    span = _around(begun.span, each.span) if begun is not None else each.span
                    found.append(Ref(side, which, each.value, at, span))
                side = which = ""
                begun = None
            elif each.kind not in ("ordinary",) and (side or which) and begun is not None:
                found.append(Ref(side, which, "", at - 1, begun.span))
                side = which = ""
                begun = None
        if begun is not None and (side or which):
            found.append(Ref(side, which, "", len(self.said), begun.span))
        return found

    @property
    def span(self) -> tuple[int, int]:
        return min(each.span[0] for each in self.said), max(each.span[1] for each in self.said)


def _around(one: Span, other: Span) -> Span:
    """From the first of two to the end of the last; a side may stand after its part."""
    return min(one[0], other[0]), max(one[1], other[1])


def clauses_of(said: Iterable[Said], text: str = "") -> list[Clause]:
    """What was said, cut at stops, commas and links; and in a text of short lines without stops at verbs."""
    found: list[Clause] = []
    part: list[Said] = []
    link, together, sentence, first, on = "", False, 0, True, False

    def close(colon: bool = False) -> None:
        nonlocal part, first
        if any(each.kind not in ("ordinary", "comma") for each in part):
            found.append(Clause(tuple(part), link, together, sentence, first, colon, on=on))
            first = False
        part = []

    said = list(said)
    broken = _is_broken(said, 0, text)
    for at, each in enumerate(said):
        if each.kind in ("stop", "line"):
            asked = each.value.startswith("?") and any(other.kind in ("verb", "part") for other in part)
            close()
            if asked:
                found = [c._replace(asks=c.asks or c.sentence == sentence) for c in found]
            link, together, first, on = "", False, True, each.value == ";"
            sentence += 1
            broken = _is_broken(said, at + 1, text)
        elif each.kind == "comma" and each.value == ":" and part and not any(o.kind == "verb" for o in part):
            continue  # "Weight: 70 left."
        elif each.kind == "comma":
            spoken = any(other.kind not in ("ordinary",) for other in part)
            close(each.value == ":")
            if link == "as" and not spoken:
                link = "meanwhile"  # "as you do, turn"
            if spoken or not link:  # "no, heel first" and "at the same time, turn" hang on what was said before
                link, together = ",", False
        elif each.kind == "link" and each.value in _LINKS:
            close()
            link, together = each.value, _LINKS[each.value]
            link = "meanwhile" if link == "as" and each.low in _MEANWHILE else link
        elif each.low in RESUMES and at and "\n" in text[said[at - 1].span[1] : each.span[0]]:
            close()
            link, together, first = "", False, True
            sentence += 1
            part.append(each)
        elif each.low == _TORSO and part:
            close()  # "70R t3"
            link, together = ",", False
            part.append(each)
        elif each.kind == "link" and _cuts(each, said, at, part, text):
            close()
            link, together = ",", False
            part.append(each)
        elif each.low in _WITH and _says_more(part) and _is_of_weight(said[at + 1 : at + 7]):
            close()
            link, together = ",", False
        else:
            if _is_subject(said, at) and (any(other.kind == "verb" for other in part) or _is_poured(part)):
                close()  # "as the weight goes back the right foot turns in"
                link = ","
            elif each.kind == "side" and _is_other(each, part, text):
                close()  # "weight onto the right / left foot comes in"
                link, together = ",", False
            if _is_subject(said, at) and _is_turned(part) and "\n" in text[part[-1].span[1] : each.span[0]]:
                close()  # "waist to the right / right foot turns"
                link, together = "then", False
            its = each.kind == "side" and said[at + 1 : at + 2] and said[at + 1].kind == "part"
            if its and _is_told(part) and "\n" in text[part[-1].span[1] : each.span[0]]:
                close()  # "weight goes back / right toes lift"
                link, together = "then", False
            if (
                each.kind == "part"
                and (_is_told(part) or (each.value == "weight" and _is_placed(part)))
                and "\n" in text[part[-1].span[1] : each.span[0]]
            ):
                close()  # a line that begins with a part of the body, after one that is whole
                link, together = "then", False
            onto = part and each.kind == "verb" and _is_onto(part) and "\n" in text[part[0].span[0] : each.span[0]]
            placed = each.kind == "verb" and (_is_told(part) or (each.value == "shift" and _is_placed(part)))
            placed = (
                placed and "\n" in text[part[-1].span[1] : each.span[0]]
            )  # "left heel to twelve / follow it with …"
            if onto or placed or (each.kind == "verb" and _is_whole(part) and _begins(each, part, text, broken)):
                close()
                link, together = "then", False
            part.append(each)
    close()
    return found


def _is_whole(part: list[Said]) -> bool:
    """Whether there is a verb already, and after it what it is done with."""
    verb = next((at for at, each in enumerate(part) if each.kind == "verb"), None)
    if verb is None:
        return False
    after = part[verb + 1 :]
    return any(each.kind in ("side", "which", "clock", "percent") for each in after)


def _is_told(part: list[Said]) -> bool:
    """Whether what stands before the end of a line is told to its end."""
    if part[-1:] and part[-1].kind == "verb":
        return any(each.kind == "part" for each in part[:-1])  # "right toes lift"
    done = any(each.kind == "verb" or each.value == "weight" for each in part[:-1])
    return done and part[-1].kind in ("way", "part", "clock", "percent", "contact", "amount")


def _is_poured(part: list[Said]) -> bool:
    """Whether it was said where the weight goes: "weight into the right leg"."""
    at = next((n for n, each in enumerate(part) if each.value == "weight"), len(part))
    return any(each.kind in ("side", "which") for each in part[at:])


def _is_turned(part: list[Said]) -> bool:
    """Whether it was said where the body turns: "waist to the right"."""
    return any(each.value == "body" for each in part) and any(
        each.kind in ("side", "clock", "degrees") for each in part
    )


def _is_placed(part: list[Said]) -> bool:
    """Whether a foot and where it goes were said: "right foot to the side"."""
    return any(each.kind == "side" for each in part) and any(each.kind in ("way", "clock", "number") for each in part)


def _is_broken(said: list[Said], at: int, text: str) -> bool:
    """Whether the sentence that begins at a word goes on over the end of a line, as captions do."""
    if at >= len(said):
        return False
    words = islice(said, at, None)
    stop = next((each.span[0] for each in words if each.kind in ("stop", "line")), said[-1].span[1])
    return "\n" in text[said[at].span[0] : stop]


def _begins(verb: Said, part: list[Said], text: str, broken: bool) -> bool:
    """Whether a verb after a whole clause begins another one.

    It does after a line's end, as a command in the middle of a sentence of several lines, and as a Spanish gerund.
    """
    if verb.value == "repeat":
        return False
    if "\n" in text[part[0].span[0] : verb.span[0]]:
        return True
    if verb.low.split()[0].endswith(_GERUNDS):
        return True
    command = not verb.low.split()[0].endswith(("s", "ing", "ed"))
    return command and broken and part[-1].kind in ("side", "part", "clock", "percent")


def _cuts(link: Said, said: list[Said], at: int, part: list[Said], text: str) -> bool:
    """Whether another clause begins with what is not done at the beginning of a line, or with another time."""
    if link.value == "not":
        return at > 0 and "\n" in text[said[at - 1].span[1] : link.span[0]]
    return link.value == "past" and any(each.kind in ("verb", "percent") for each in part)


def _says_more(part: list[Said]) -> bool:
    """Whether more was said than what is done: "retrocede con el peso" is one thing."""
    return any(each.kind not in ("verb", "ordinary") for each in part)


def _is_onto(part: list[Said]) -> bool:
    """Whether what was said so far is where to: "onto the left leg"."""
    kinds = [each.kind for each in part if each.kind != "ordinary"]
    return kinds[:2] == ["link", "side"] and kinds[-1] == "part" and part[0].value == "to"


def _is_subject(said: list[Said], at: int) -> bool:
    """Whether a foot begins here that does something: a side or what it does, a part, and a verb of it."""
    if at + 2 >= len(said) or said[at].kind not in ("side", "which") or said[at + 1].kind != "part":
        return False
    if said[at + 1].value == "it":
        return False  # "on the left it points to …"
    verb, many = said[at + 2], said[at + 1].low in ("toes", "feet", "heels", "puntas", "pies", "talones")
    return verb.kind == "verb" and (many or verb.low.split()[0].endswith("s")) and len(verb.low) > 3


def _is_other(side: Said, part: list[Said], text: str) -> bool:
    """Whether a side comes right after the other one, or begins a line after it."""
    said = [each for each in part if each.kind != "ordinary"]
    if not said or said[-1].kind != "side" or said[-1].value == side.value:
        return False
    return said[-1] is part[-1] or "\n" in text[said[-1].span[1] : side.span[0]]


def _is_of_weight(said: list[Said]) -> bool:
    """Whether what comes after "with" is a share of the weight."""
    for each in said:
        if each.kind in ("comma", "stop", "line", "verb", "contact") or (each.kind == "part" and each.value == "foot"):
            return False
        if each.kind == "percent" or (each.kind == "part" and each.value == "weight"):
            return True
    return False
