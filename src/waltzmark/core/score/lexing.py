"""Finds the words of the score language without having worked out first how all of them could be found at once.

Lark makes one expression of all words that can stand in a place, for each kind of place: six times as much to compile
as the words themselves, which a start would wait for. A place that is come to again and again gets it all the same.
"""

from __future__ import annotations

import re
from functools import lru_cache
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:  # what is generated is Lark's own, and Lark has the types
    from lark.lexer import BasicLexer, ContextualLexer, Scanner, TerminalDef
    from lark.utils import TextSlice
else:
    from waltzmark.core.score.generated import BasicLexer, ContextualLexer, Scanner

__all__ = ["PLUGINS"]

_OFTEN = 400  # words found in one kind of place, from which on it pays to find them at once

#: A pattern of nothing but words that end where a word ends: ``side\b``, ``(heel|h)\b``.
_WORDS_ALONE = re.compile(r"\(?([a-z|]+)\)?\\b")
#: All letters, figures and underlines from a place on: what such a pattern finds has to be all of it.
_RUN = re.compile(r"\w*", re.ASCII)


class _OneByOne(Scanner):
    """Looks for each word by itself, in the order in which the expression of all of them would try them.

    What is written in one way only stands in a table, and the others are tried each by its pattern.
    """

    def _build_mres(self, terminals: list[TerminalDef], max_size: int) -> list[re.Pattern[str]]:
        self._words: dict[str, tuple[int, str]] = {}
        self._ways: list[tuple[int, str, re.Pattern[str]]] = []
        for at, each in enumerate(terminals):
            alone = _WORDS_ALONE.fullmatch(each.pattern.value)
            if alone and list(each.pattern.flags) == ["i"] and self.g_regex_flags == re.ASCII:
                for word in alone[1].split("|"):
                    self._words.setdefault(word, (at, each.name))
            else:
                self._ways.append((at, each.name, _compiled(each.pattern.to_regexp(), self.g_regex_flags)))
        self._found = 0
        return []

    def match(self, text: TextSlice[str], pos: int) -> tuple[str, str] | None:
        """What stands at a place, and which word it is."""
        if self._mres:
            return super().match(text, pos)  # type: ignore[no-any-return]
        self._found += 1
        if self._found > _OFTEN:
            self._mres = super()._build_mres(self.terminals, len(self.terminals))  # type: ignore[no-untyped-call]
        run = _RUN.match(text.text, pos, text.end)[0]  # type: ignore[index]
        known = self._words.get(run.lower())
        for at, name, way in self._ways:
            if known and known[0] < at:
                break
            if found := way.match(text.text, pos, text.end):
                return found[0], name
        return (run, known[1]) if known else None


@lru_cache(maxsize=256)
def _compiled(pattern: str, flags: int) -> re.Pattern[str]:
    return re.compile(pattern, flags)


class _Lexer(BasicLexer):
    def _build_scanner(self) -> Scanner:
        # No word of the language is written like one that a pattern finds: nothing has to be told apart afterwards.
        self.callback = dict(self.user_callbacks)
        return _OneByOne(self.terminals, self.g_regex_flags, self.re, self.use_bytes)  # type: ignore[no-untyped-call]


class _Contextual(ContextualLexer):
    BasicLexer = _Lexer


#: What Lark takes in place of its own.
PLUGINS: dict[str, Any] = {"ContextualLexer": _Contextual}
