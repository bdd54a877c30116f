"""What was said in clauses: each with what it says of feet, places and shares, and how it hangs on the one before."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from waltzmark.core.draft.lexicon import Said

__all__ = ["Clause", "Ref", "clauses_of"]

#: Links at which another clause begins, and whether what it says happens together with the one before.
_LINKS = {"then": False, "and": False, "as": True, "until": False, "before": False, "but": False, "no": False}


class Ref(NamedTuple):
    """A part of the body that was said. side: by its name; which: by what it does; part: of the lexicon."""

    side: str
    which: str
    part: str
    at: int
    span: tuple[int, int]


class Clause(NamedTuple):
    """said: what is in it; link: how it hangs on what came before; together: at the same time as that; sentence: its
    number; first: whether it begins a sentence."""

    said: tuple[Said, ...]
    link: str
    together: bool
    sentence: int
    first: bool

    def has(self, kind: str, *values: str) -> bool:
        return any(each.kind == kind and (not values or each.value in values) for each in self.said)

    def first_of(self, kind: str, *values: str) -> Said | None:
        return next((each for each in self.said if each.kind == kind and (not values or each.value in values)), None)

    def all_of(self, kind: str) -> list[Said]:
        return [each for each in self.said if each.kind == kind]

    @property
    def verbs(self) -> list[str]:
        return ["step" if each.value == "stepback" else each.value for each in self.said if each.kind == "verb"]

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
                if last is not None and not last.side and not last.which and each.value == "foot" and (side or which):
                    found[-1] = last._replace(side=side, which=which, span=(last.span[0], each.span[1]))
                else:
                    start = begun.span[0] if begun is not None else each.span[0]
                    found.append(Ref(side, which, each.value, at, (start, each.span[1])))
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


def clauses_of(said: Iterable[Said], text: str = "") -> list[Clause]:
    """What was said, cut at stops, commas and links; and in a text of short lines without stops at verbs."""
    found: list[Clause] = []
    part: list[Said] = []
    link, together, sentence, first = "", False, 0, True

    def close() -> None:
        nonlocal part, first
        if any(each.kind not in ("ordinary", "comma") for each in part):
            found.append(Clause(tuple(part), link, together, sentence, first))
            first = False
        part = []

    for each in said:
        if each.kind in ("stop", "line"):
            close()
            link, together, first = "", False, True
            sentence += 1
        elif each.kind == "comma":
            spoken = any(other.kind not in ("ordinary",) for other in part)
            close()
            if spoken or not link:  # "no, heel first" and "at the same time, turn" hang on what was said before
                link, together = ",", False
        elif each.kind == "link" and each.value in _LINKS:
            close()
            link, together = each.value, _LINKS[each.value]
        else:
            if each.kind == "verb" and _is_whole(part) and "\n" in text[part[0].span[0] : each.span[0]]:
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
    return any(each.kind in ("part", "clock", "percent", "degrees") for each in after) and any(
        each.kind in ("side", "which", "clock", "percent") for each in after
    )
