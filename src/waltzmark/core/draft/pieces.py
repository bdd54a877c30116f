"""A text in pieces that keep their place: words, numbers of every kind, and where one stops."""

from __future__ import annotations

import re
from typing import Literal, NamedTuple

from waltzmark.core.base.libraries import library

__all__ = ["Piece", "Span", "pieces_of"]

Span = tuple[int, int]
Kind = Literal["word", "number", "clock", "size", "comma", "stop", "line"]

#: "1.30", which is a time but before a unit.
_DOTTED = r"\b(?:1[0-2]|[1-9])\.(?:15|30|45)\b(?!\s*(?:%|°|[a-z]*met|[cm]?m\b|per|por|deg|grad|ft|feet|foot|sw|fl|x|×))"
_TOKEN = re.compile(
    rf"(?P<clock>\b\d{{1,2}}(?::|-|h)[0-5]\d\b|{_DOTTED})|"
    r"(?P<size>\b\d+(?: ?[x×] ?| by | por )\d+\b)|(?P<number>\d+(?:[.,]\d+)?)"
    r"|(?P<word>[^\W\d_]+(?:[’'-][^\W\d_]+)*|[’'][a-z]+)"
    r"|(?P<line>\n\s*\n|\n(?=\s*(?:#|\d+\.\s|[-*•–]\s)))|(?P<stop>[.;!?…])|(?P<arrow>->|→|=>)|(?P<comma>[,()\[\]–—:]|-(?=\s)|(?<=\s)/(?=\s))|(?P<sign>[%°&/])"
)


#: What ends with a dot and no sentence: "izq. adelante", "the l. foot".
_SHORTENED = re.compile(
    r"\b(izq|izqda|izqdo|der|dcha|dcho|drcha|wt|fwd|bwd|deg|pct|aprox|approx)\.(?=\s*[a-zà-ÿ,])"
    r"|\b(l|r|lft|rt)\.(?=\s*(?:foot|ft|leg|heel|toes?|ball|knee|hand)\b)",
    re.IGNORECASE,
)
#: An end that says about: "one thirty-ish".
_ABOUT = re.compile(r"(?<=\w)-ish\b", re.IGNORECASE)
_TENS = "ten|twenty|thirty|forty|fifty|sixty|seventy|eighty|ninety"
#: Two shares of the weight in one word: "sixty-forty".
_SHARES = re.compile(rf"\b({_TENS})-({_TENS})\b(?<!fifty-fifty)", re.IGNORECASE)
#: The number of a sentence in a list within a line: "1. Step forward. 2. Shift."
_NUMBERED = re.compile(r"(?:(?<=^)|(?<=[.;:!?] ))\d{1,2}[.)](?= +[A-ZÁÉÍÓÚÑ])")
#: Words for about, that would be read as a one.
_SOME = frozenset({"unos", "unas"})


class Piece(NamedTuple):
    """A word, a number or a clock time of a text.

    kind: which of them; low: in small letters; value: of a number, or minutes past 12 of a clock; span: where it
    stands, in characters.
    """

    kind: Kind
    low: str
    span: Span
    value: float | None = None
    other: float | None = None


class _Word:
    """A word as the reader of numbers wants it."""

    def __init__(self, low: str) -> None:
        self._low = low

    def text(self) -> str:
        return self._low

    def text_lowercase(self) -> str:
        return self._low

    def nt_separated(self, _previous: _Word) -> bool:
        return False

    def not_a_number_part(self) -> bool:
        return not self._low[:1].isalpha()


def pieces_of(text: str, language: str) -> list[Piece]:
    """The pieces of a text."""
    found: list[Piece] = []
    text = _ABOUT.sub(lambda each: " " * len(each.group()), text)
    text = _SHARES.sub(r"\1/\2", text)
    text = _NUMBERED.sub(lambda each: " " * len(each.group()), text)
    text = _SHORTENED.sub(lambda each: f"{each[1] or each[2]} ", text)
    if language == "es":  # else the reader of numbers takes it for a hundred
        text = re.sub(r"\bpor ciento?\b", lambda each: "%".ljust(len(each.group())), text, flags=re.IGNORECASE)
    for match in _TOKEN.finditer(text):
        kind, low, span = match.lastgroup or "word", match.group().lower().replace("’", "'"), match.span()
        if kind == "clock":
            hour, minute = (int(each) for each in re.split(r"[:h.-]", low))
            if not 0 <= hour <= 12:
                continue
            found.append(Piece("clock", low, span, float(hour % 12 * 60 + minute)))
        elif kind == "size":
            length, width = (float(each) for each in re.split(r" ?[x×] ?| by | por ", low))
            found.append(Piece("size", low, span, length, width))
        elif kind == "number":
            found.append(Piece("number", low, span, float(low.replace(",", "."))))
        elif kind == "arrow":
            found.append(Piece("word", "to", span))
        elif kind == "sign":
            found.append(Piece("word", low, span))
        else:
            found.append(Piece(kind, low, span))  # type: ignore[arg-type]
    return _numbered(found, language)


def _numbered(pieces: list[Piece], language: str) -> list[Piece]:
    """The same with numbers that are spoken as numbers."""
    words = [_Word(piece.low if piece.kind == "word" and piece.low not in _SOME else ".") for piece in pieces]
    made: list[Piece] = []
    at = 0
    for each in library("text_to_num").find_numbers(words, language, threshold=0):
        if each.is_ordinal or any(piece.kind != "word" for piece in pieces[each.start : each.end]):
            continue
        made += pieces[at : each.start]
        span = (pieces[each.start].span[0], pieces[each.end - 1].span[1])
        low = " ".join(piece.low for piece in pieces[each.start : each.end])
        made.append(Piece("number", low, span, float(each.value)))
        at = each.end
    return made + pieces[at:]
