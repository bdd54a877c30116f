"""Reads a text by the tables that the build makes of ``grammar.lark``.

Lark works out what can follow what: the tables of an LALR(1) parser (DeRemer and Pennello, "Efficient computation of
LALR(1) look-ahead sets", 1982). To go by them takes no more than is here, which a start need not wait for.
"""

from __future__ import annotations

import re
from functools import cache, lru_cache
from typing import Any, NamedTuple

from waltzmark.core.score.generated import ACTS, IGNORED, LAST, PATTERNS, RULES, TURNS, WORDS

__all__ = ["END", "Machine", "Token", "UnexpectedError"]

#: What stands after the last word.
END = "$END"
#: What parts the words, and the letters, figures and underlines after it: a word in a table has to be all of them.
_NEXT = re.compile(rf"(?:{IGNORED})?(\w*)", re.ASCII)


class Token(str):
    """A word of a text. *kind*: the terminal it was found as; *at*: where it begins, from 0."""

    __slots__ = ("at", "kind")
    at: int
    kind: str

    def __new__(cls, word: str, kind: str, at: int = 0) -> Token:
        made = super().__new__(cls, word)
        made.kind, made.at = kind, at
        return made


class UnexpectedError(Exception):
    """Nothing that can stand at a place stands there.

    at : where, from 0; the length of the text where more had to follow.
    expected : the terminals that could stand there, `END` among them where nothing has to.
    """

    def __init__(self, at: int, expected: frozenset[str]) -> None:
        super().__init__(at, expected)
        self.at, self.expected = at, expected


class _Sight(NamedTuple):
    """How the words that can stand in a state are found.

    words : by what is written, the place of its terminal in the order of trying, and the terminal.
    ways : terminals that are found by a pattern, with their places.
    """

    words: dict[str, tuple[int, str]]
    ways: tuple[tuple[int, str, re.Pattern[str]], ...]


@cache
def _sight(state: int) -> _Sight:
    words: dict[str, tuple[int, str]] = {}
    ways = []
    for order, kind in enumerate(ACTS[state]):
        for word in WORDS.get(kind, ()):
            words.setdefault(word, (order, kind))
        if kind in PATTERNS:
            ways.append((order, kind, _pattern(kind)))
    return _Sight(words, tuple(ways))


@cache
def _pattern(kind: str) -> re.Pattern[str]:
    return re.compile(PATTERNS[kind], re.ASCII)


@lru_cache(maxsize=4096)  # what is typed is asked about with each letter, and finding out is slow
def _expected(states: tuple[int, ...]) -> frozenset[str]:
    """The terminals that could come next, by the states that have been gone through."""
    return frozenset(kind for kind in ACTS[states[-1]] if _can_follow([*states], kind))


def _can_follow(states: list[int], kind: str) -> bool:
    """Whether a terminal is taken after all that would be put together before it."""
    while (act := ACTS[states[-1]].get(kind)) is not None:
        if act >= 0:
            return True
        whole, size, *_ = RULES[-1 - act]
        del states[len(states) - size :]
        states.append(TURNS[states[-1]][whole])
        if kind == END and states[-1] == LAST:
            return True
    return False


class Machine:
    """Reads texts into what *builder* makes of their parts.

    builder : has a method for each rule of the grammar, or for each name that a rule gives to one of its ways, which
        gets what the rule's parts became: None for one that was left out.
    """

    def __init__(self, builder: object) -> None:
        self._makers = [getattr(builder, name, None) if name else None for _, _, name, *_ in RULES]

    def parse(self, text: str) -> Any:
        """What the builder makes of a text. Raises UnexpectedError, and what the builder raises."""
        states, values = [0], []  # type: ignore[var-annotated]
        self._read(text, states, values)
        self._take(END, states, values, len(text))
        return values[-1]

    def expected(self, text: str) -> frozenset[str]:
        """The terminals that can follow a text. Raises UnexpectedError where it cannot be begun with."""
        states = [0]
        self._read(text, states, [])
        return _expected(tuple(states))

    def _read(self, text: str, states: list[int], values: list[Any]) -> None:
        at = 0
        while True:
            run = _NEXT.match(text, at)
            assert run  # it may be of no signs
            at, word = run.start(1), run[1]
            if at == len(text):
                return
            sight = _sight(states[-1])
            order, kind = sight.words.get(word.lower(), (len(ACTS), ""))
            for earlier, name, way in sight.ways:
                if earlier > order:
                    break
                if found := way.match(text, at):
                    word, kind = found[0], name
                    break
            if not kind:
                raise UnexpectedError(at, _expected(tuple(states)))
            self._take(kind, states, values, at)
            values.append(Token(word, kind, at))
            at += len(word)

    def _take(self, kind: str, states: list[int], values: list[Any], at: int) -> None:
        """Puts together what is whole before a terminal, and goes on to the state after it."""
        while (act := ACTS[states[-1]].get(kind)) is not None:
            if act >= 0:
                states.append(act)
                return
            whole, size, _, alone, parts = RULES[-1 - act]
            first = len(values) - size
            made: list[Any] = []
            for part, inner in parts:
                if part < 0:
                    made.append(None)
                elif inner:
                    made += values[first + part]
                else:
                    made.append(values[first + part])
            maker = self._makers[-1 - act]
            del values[first:], states[len(states) - size :]
            values.append(made[0] if alone and len(made) == 1 else made if maker is None else maker(*made))
            states.append(TURNS[states[-1]][whole])
            if kind == END and states[-1] == LAST:
                return
        raise UnexpectedError(at, _expected(tuple(states)))
