"""From a message to its sentence.

Every kind has a sentence with named fields. After a colon stands how a field is said, such as ``{past:length}``: see
`SPECS`. A kind whose sentence depends on a number has two, as `Plural`; one that needs more is a function.
"""

from __future__ import annotations

import string
from collections.abc import Callable, Mapping
from functools import cache
from importlib import import_module
from typing import Any

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import Change, Heading, Message, Value
from waltzmark.core.base.records import Record
from waltzmark.words import language
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import N_, listed, ntr, number, percent, ptr, quoted, tr

__all__ = ["SPECS", "Plural", "Sentence", "sentence", "sentence_of", "whole"]

#: The modules that have sentences, each a table of its own.
TABLES = (
    "answers",
    "documents",
    "errors",
    "findings",
    "fitting",
    "mends",
    "practice",
    "returns",
    "room",
    "sides",
    "snaps",
)


class Plural(Record):
    """Two sentences, for one and for many of a field."""

    one: str
    many: str
    of: str


Sentence = str | Plural | Callable[[Mapping[str, Any], Figures], str]

_FEET = (N_("left foot"), N_("right foot"))
_KNEES = (N_("left knee"), N_("right knee"))
_LEGS = (N_("left leg"), N_("right leg"))
_HEELS = (N_("left heel"), N_("right heel"))
_SHINS = (N_("left shin"), N_("right shin"))
_HANDS = (N_("left hand"), N_("right hand"))
_SOLES = (N_("left sole"), N_("right sole"))
_TOES = (N_("left toes"), N_("right toes"))
_STEPS = (N_("left step"), N_("right step"))


def _side(nouns: tuple[str, str]) -> Callable[[Any, Figures], str]:
    return lambda side, _: tr(nouns[Side(side)])


def _part(contact: Any, _: Figures) -> str:
    """The part of a foot, by a contact or by the score's word for it."""
    word = contact.word if isinstance(contact, Contact) else str(contact)
    return {
        "ball": ptr("part of a foot", "ball"),
        "heel": ptr("part of a foot", "heel"),
        "toe": ptr("part of a foot", "toe tips"),
        "flat": ptr("part of a foot", "whole sole"),
    }.get(word, word)


def _resting(contact: Any, _: Figures) -> str:
    """How a foot meets the floor."""
    return {
        "air": ptr("how a foot is", "in the air"),
        "flat": ptr("how a foot is", "flat"),
        "heel": ptr("how a foot is", "on its heel"),
        "ball": ptr("how a foot is", "on its ball"),
    }[contact.word if isinstance(contact, Contact) else str(contact)]


def _rule(rule: str) -> str:
    from waltzmark.words.rules import rule_title  # which has sentences itself

    return rule_title(rule)


def _heading(value: Any, figures: Figures) -> str:
    return figures.toward(value.degrees, value.torso) if isinstance(value, Heading) else figures.toward(float(value))


def _change(value: Change, figures: Figures) -> str:
    return figures.change(value.before, value.after)


def _items(style: str) -> Callable[[Any, Figures], str]:
    return lambda items, figures: listed([_plainly(each, figures) for each in items], style)


def _turn(value: Any, _: Figures) -> str:
    """A turn; a small one to a tenth of a degree."""
    return f"{number(value, 0)}°" if value >= 0.95 else f"{number(max(value, 0.1), 1)}°"


def _nth(n: int) -> str:
    """A number as an ordinal."""
    if 10 <= n % 100 <= 20:
        return ptr("ordinal", "{n}th", n=n)
    endings = (
        N_("{n}th"),
        N_("{n}st"),
        N_("{n}nd"),
        N_("{n}rd"),
        N_("{n}th"),
        N_("{n}th"),
        N_("{n}th"),
        N_("{n}th"),
        N_("{n}th"),
        N_("{n}th"),
    )
    return tr(endings[n % 10], n=n)


def _beats(value: Any, _: Figures) -> str:
    return ntr("{n} beat", "{n} beats", round(float(value), 2))


#: How a field is said. Lengths are metres, ``cm`` are centimetres, angles degrees, shares per cent.
SPECS: dict[str, Callable[[Any, Figures], str]] = {
    "length": lambda value, figures: figures.length(float(value)),
    "cm": lambda value, figures: figures.length(float(value) / 100.0),
    "change": _change,
    "degrees": lambda value, _: f"{number(float(value), 0)}°",
    "halves": lambda value, _: f"{number(float(value))}°",
    "percent": lambda value, _: percent(float(value)),
    "heading": _heading,
    "beats": _beats,
    "turn": _turn,
    "whole": lambda value, _: number(float(value), 0),
    "nth": lambda value, _: _nth(int(value)),
    "foot": _side(_FEET),
    "knee": _side(_KNEES),
    "leg": _side(_LEGS),
    "heel": _side(_HEELS),
    "shin": _side(_SHINS),
    "hand": _side(_HANDS),
    "sole": _side(_SOLES),
    "toes": _side(_TOES),
    "step": _side(_STEPS),
    "side": _side((N_("left"), N_("right"))),
    "letter": lambda side, _: Side(side).letter,
    "part": _part,
    "resting": _resting,
    "rule": lambda value, _: _rule(str(value)),
    "percents": lambda value, _: f"{percent(value.before)} → {percent(value.after)}",
    "parts": _items("unit"),
    "reason": lambda value, figures: _plainly(value, figures).strip().rstrip("."),  # of a library, or the system
    "name": lambda value, _: quoted(str(value)),
    "list": _items("standard"),
    "or": _items("or"),
}


class _Filler(string.Formatter):
    """Fills a sentence's fields, each said as its specification has it."""

    def __init__(self, figures: Figures) -> None:
        self.figures = figures

    def format_field(self, value: Any, format_spec: str) -> str:
        return SPECS[format_spec](value, self.figures) if format_spec else _plainly(value, self.figures)


def _plainly(value: Value, figures: Figures) -> str:
    """A field without a specification: names as they are, numbers as they are written, messages said."""
    if isinstance(value, Message):
        return sentence(value, figures)
    if isinstance(value, (int, float)) and not isinstance(value, bool):
        return number(value)
    return str(value)


@cache
def _sentences() -> dict[str, Sentence]:
    known: dict[str, Sentence] = {}
    for name in TABLES:
        known |= import_module(f"waltzmark.words.{name}").SENTENCES
    return known


def sentence_of(kind: str) -> Sentence | None:
    """The sentence of a kind, before it is translated; None where it has none."""
    return _sentences().get(kind)


def fill(sentence: Sentence, fields: Mapping[str, Any], figures: Figures = PLAIN) -> str:
    """A sentence in the language that is set, its fields filled in."""
    if isinstance(sentence, Plural):
        n = float(fields[sentence.of])
        said = language.plural(sentence.one, sentence.many, n)
        return _Filler(figures).vformat(said, (), {**fields, "n": number(n)})
    if isinstance(sentence, str):
        return _Filler(figures).vformat(tr(sentence), (), fields)
    return sentence(fields, figures)


def sentence(message: Message, figures: Figures = PLAIN) -> str:
    """The sentence of a message."""
    return fill(_sentences()[message.kind], dict(message.fields), figures)


def whole(text: str) -> str:
    """A sentence that ends as sentences do."""
    return text if text.endswith((".", "!", "?", "…")) else f"{text}."
