"""What can follow what has been typed: the words, stances, landmarks and facings that fit the context."""

from __future__ import annotations

import re
from functools import lru_cache

from waltzmark.core.base.angles import clock_text
from waltzmark.core.base.records import Record
from waltzmark.core.score.words import EXAMPLES, STANCES, TERMINAL_WORDS

__all__ = ["Completion", "complete"]

_PARTIAL = re.compile(r"[^\s,]*$")
#: Said only beside a shift of weight.
_BESIDE_A_SHIFT = ("early", "late")
_SHIFTS = re.compile(r"\bshift\b|\d/\d|(^|,)\s*[lr] \d", re.IGNORECASE)
_FACINGS = ("12", "1:30", "3", "4:30", "6", "7:30", "9", "10:30")
_MARKS = tuple(f"{side}.{part}" for side in "LR" for part in ("heel", "ball", "toe"))
_SHARES = ("0", "30", "50", "70", "80", "100", "all", "none", "half", "third", "quarter", "two-thirds")
#: What is offered for terminals that stand for more than a fixed word.
_OFFERED: dict[str, tuple[str, ...]] = {
    "CLOCK": _FACINGS,
    "COMPASS": (),
    "MARK": _MARKS,
    "PERCENT": _SHARES,
    "PAIR": ("50/50", "70/30", "30/70"),
    "TURN": ("+45", "-45", "+90", "-90"),
    "DEGREES": ("45", "90"),
    "METRES": (),
    "SIZE": (),
    "LENGTH_VALUE": (),
    "MORE": ("+10",),
    "FORWARD": ("0", "5", "10"),
    "BEATS": ("@2",),
    "NOTE": (),
    "COMMA": (),
    "$END": (),
}


class Completion(Record):
    """A way to go on. text: the whole line so far with it; word: what is added."""

    text: str
    word: str


def complete(
    text: str, stances: frozenset[str] = frozenset(STANCES), torso: float | None = None, most: int = 40
) -> tuple[Completion, ...]:
    """The words that can follow, or finish, the last word of *text*.

    torso: heading whose clock facing is offered first. Nothing follows what cannot be read.
    """
    partial_match = _PARTIAL.search(text)
    partial = partial_match[0] if partial_match else ""
    before = text[: len(text) - len(partial)]
    found: list[str] = []
    for word in _words(before, stances, torso):
        fits = word.lower().startswith(partial.lower()) and word.lower() != partial.lower()
        if fits and word not in found and (word not in _BESIDE_A_SHIFT or _SHIFTS.search(before)):
            found.append(word)
    return tuple(Completion(before + word, word) for word in found[:most])


@lru_cache(maxsize=64)  # asked again with each letter of a word
def _words(before: str, stances: frozenset[str], torso: float | None) -> tuple[str, ...]:
    # Imported here: it brings the parser, which is not needed until somebody types.
    from waltzmark.core.score.parser import SlipError, UnexpectedError, parser_for

    try:
        return tuple(_offers(parser_for(stances).expected(before), stances, torso))
    except (UnexpectedError, SlipError):  # a slip earlier in the line: nothing sensible follows it
        return ()


def _offers(expected: frozenset[str], stances: frozenset[str], torso: float | None) -> list[str]:
    offers: list[str] = []
    for name in (*TERMINAL_WORDS, *EXAMPLES):
        if name not in expected and f"_{name}" not in expected:
            continue
        if name == "STANCE":
            offers += [stance for stance in STANCES if stance in stances] + sorted(stances.difference(STANCES))
        elif name == "CLOCK" and torso is not None:
            offers += [clock_text(torso), *_FACINGS]
        else:
            offers += _OFFERED.get(name, TERMINAL_WORDS.get(name, ()))
    return offers
