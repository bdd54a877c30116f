"""What words of a language mean: a folder of data, so that another language is another file and no code."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cached_property, lru_cache
from itertools import pairwise
from pathlib import Path
from threading import Lock
from typing import NamedTuple

import tomli

from waltzmark.core.base.libraries import library
from waltzmark.core.draft.pieces import Piece, Span, pieces_of
from waltzmark.core.form.spoken import LANGUAGES

__all__ = ["Lexicon", "Said", "lexicon", "lexicon_of", "said_of"]

_FOLDER = Path(__file__).parent / "lexicons"
_SNOWBALL = {"en": "english", "es": "spanish"}
#: Kinds of which a word alone is never taken by its stem.
_EXACT = frozenset({"side", "which", "link", "way", "ordinary", "unit", "part_of", "clock"})
#: Letters of a word from which a slip in it is mended, and how alike the words have to be.
_LONG, _ALIKE = 4, 0.75
_PLAIN_VOWELS = str.maketrans("áéíóú", "aeiou")


class Said(NamedTuple):
    """Something that was said.

    kind, value: of the lexicon, or a piece's; number: what it comes to, of a clock minutes; mended: whether a slip of a
    letter was mended in it; low: its words in small letters.
    """

    kind: str
    value: str
    span: Span
    number: float | None = None
    other: float | None = None
    mended: bool = False
    low: str = ""


class Lexicon:
    """The phrases of a language."""

    def __init__(self, language: str) -> None:
        self.language = language
        self.table: dict[str, dict[str, list[str]]] = tomli.loads(
            (_FOLDER / f"{language}.toml").read_text(encoding="utf-8")
        )
        self.phrases: dict[tuple[str, ...], list[tuple[str, str]]] = {}
        grammar = self.table.pop("grammar", {})
        self.side_after = "side_after" in grammar
        #: What begins the line of a posture's name, "Posture 3: Open the gate"; the first of them without a number too.
        self.heads = tuple(grammar.get("heads", ()))
        self.other_side, self.again = (" ".join(grammar.get(word, ())) for word in ("other_side", "again"))
        #: Pronouns that hang on a verb: "llévalo"; the word that each stands for, if it stands for one.
        self.hanging = dict.fromkeys(grammar.get("hanging_it", ()), "".join(grammar.get("it", ())))
        self.hanging |= dict.fromkeys(grammar.get("hanging_self", ()), "")
        for kind, values in self.table.items():
            for value, phrases in values.items():
                for phrase in phrases:
                    for words in _spelled(phrase):
                        self.phrases.setdefault(words, []).append((kind, value))
        self.longest = max(len(words) for words in self.phrases)
        self.near = lru_cache(maxsize=4096)(self._near)
        stemmer, one = library("snowballstemmer").stemmer(_SNOWBALL[language]), Lock()

        def stem(word: str) -> str:
            with one:  # it keeps the word in itself, and a page is drafted in a thread while somebody types
                return str(stemmer.stemWord(word))

        self._stem = lru_cache(maxsize=4096)(stem)

    @cached_property
    def stems(self) -> dict[str, list[tuple[str, str]]]:
        """What single words mean, by their stems."""
        found: dict[str, list[tuple[str, str]]] = {}
        for words, meanings in self.phrases.items():
            if len(words) == 1 and not any(kind in _EXACT for kind, _ in meanings):
                found.setdefault(self._stem(words[0]), meanings)
        return found

    @cached_property
    def words(self) -> list[str]:
        """All words that mean something, to mend slips by."""
        return sorted({w for words in self.phrases for w in words if len(w) >= _LONG})

    @cached_property
    def spelled(self) -> frozenset[str]:
        """All words of all phrases."""
        return frozenset(word for words in self.phrases for word in words)

    @cached_property
    def spelled_stems(self) -> frozenset[str]:
        """Their stems."""
        return frozenset(map(self._stem, self.spelled))

    def at(self, lows: list[str], at: int) -> tuple[int, list[tuple[str, str]]]:
        """How many words from a place on mean something together, and what."""
        for size in range(min(self.longest, len(lows) - at), 0, -1):
            meanings = self.phrases.get(tuple(lows[at : at + size]))
            if meanings:
                return size, meanings
        word = lows[at]
        if word and (meanings := self.stems.get(self._stem(word))):
            return 1, meanings
        return 1, []

    def parted(self, piece: Piece) -> list[Piece]:
        """A verb and the pronoun that hangs on it; the piece itself where nothing does."""
        if piece.low.endswith("'s") and piece.low not in self.spelled:  # "the left one's empty"
            base = piece.low.removesuffix("'s")
            if any(kind == "part" for kind, _ in self.phrases.get((base,), [])):
                middle = piece.span[1] - 2
                return [
                    piece._replace(low=base, span=(piece.span[0], middle)),
                    piece._replace(low="is", span=(middle, piece.span[1])),
                ]
        for end, stands_for in self.hanging.items():
            verb = piece.low.removesuffix(end)
            if piece.kind != "word" or piece.low in self.spelled or verb == piece.low:
                continue
            verb = verb.translate(_PLAIN_VOWELS)  # the accent is there for the longer word
            if verb in self.spelled:
                middle = piece.span[1] - len(end)
                parts = [piece._replace(low=verb, span=(piece.span[0], middle))]
                if stands_for:
                    parts.append(piece._replace(low=stands_for, span=(middle, piece.span[1])))
                return parts
        return [piece]

    def _near(self, word: str, after: str) -> str:
        """A word with a slip of a letter as it was meant; the word itself where it is known, or like none.

        Of several that are as near, the one that makes a phrase with the word after it, then the one with the same
        letters in another order, then the one that says something.
        """
        if len(word) < _LONG or word in self.spelled or self._stem(word) in self.spelled_stems:
            return word
        near = library("rapidfuzz.process").extract(
            word, self.words, scorer=library("rapidfuzz.distance").DamerauLevenshtein.normalized_similarity, limit=8
        )
        alike: list[str] = [other for other, similar, _ in near if similar >= max(near[0][1], _ALIKE)]
        if not alike or {alike[0], word} <= {"toes", "does"}:
            return word
        return max(
            alike,
            key=lambda other: (
                (other, after) in self.phrases,
                sorted(other) == sorted(word),
                any(kind != "ordinary" for kind, _ in self.phrases.get((other,), [])),
            ),
        )


def _spelled(phrase: str) -> list[tuple[str, ...]]:
    """The words of a phrase, each way of "a|b" by itself: an alternative may be several words."""
    return [tuple(piece.split()) for piece in phrase.split("|")]


@lru_cache(maxsize=4)
def lexicon(language: str) -> Lexicon:
    """The lexicon of a language."""
    return Lexicon(language)


def lexicon_of(name: str) -> str:
    """The language of the lexicon for one that a desktop names, such as ``es_CO``; English where there is none."""
    return next((each for each in LANGUAGES if name.startswith(each)), LANGUAGES[0])


def said_of(text: str, language: str, taught: Mapping[tuple[str, ...], int] | None = None) -> list[Said]:
    """What was said, in order: concepts, numbers, commas, stops, and words that are unknown.

    taught: phrases of the writer's own, with numbers of them.
    """
    return list(_said_of(text, language, tuple((taught or {}).items())))


@lru_cache(maxsize=512)  # what is drafted anew after a change is mostly the same text
def _said_of(text: str, language: str, phrases: tuple[tuple[tuple[str, ...], int], ...]) -> tuple[Said, ...]:
    taught = dict(phrases)
    book = lexicon(language)
    pieces = [part for piece in pieces_of(text, language) for part in book.parted(piece)]
    # A one or a two may be part of a phrase and no number: "un poco", "the two feet".
    spoken = [piece.kind == "number" and piece.value in (1.0, 2.0) and piece.low.isalpha() for piece in pieces]
    written = [piece.low if piece.kind == "word" or each else "" for piece, each in zip(pieces, spoken, strict=True)]
    lows = [book.near(low, after) for low, after in pairwise([*written, ""])]
    found: list[Said] = []
    at = 0
    while at < len(pieces):
        piece = pieces[at]
        if piece.kind != "word" and not (spoken[at] and book.at(lows, at)[0] > 1):
            found.append(_plain(piece))
            at += 1
            continue
        own = _taught(lows, at, taught)
        if own is not None:
            size, number = own
            span = (piece.span[0], pieces[at + size - 1].span[1])
            found.append(Said("taught", str(number), span, low=" ".join(lows[at : at + size])))
            at += size
            continue
        size, meanings = book.at(lows, at)
        span = (piece.span[0], pieces[at + size - 1].span[1])
        if meanings:
            kind, value = _meant(book, meanings, lows, at + size, lows[at - 1] if at else "")
            mended = lows[at : at + size] != written[at : at + size]
            found.append(Said(kind, value, span, mended=mended, low=" ".join(lows[at : at + size])))
        else:
            found.append(Said("unknown", piece.low, span, low=piece.low))
        at += size
    return tuple(_measured(_swapped(found) if book.side_after else _ones(found)))


def _taught(lows: list[str], at: int, taught: Mapping[tuple[str, ...], int] | None) -> tuple[int, int] | None:
    """How many words from a place on are a taught phrase, and its number."""
    found = [
        (len(words), number) for words, number in (taught or {}).items() if tuple(lows[at : at + len(words)]) == words
    ]
    return max(found, default=None)


def _ones(found: list[Said]) -> list[Said]:
    """The same with "the left one" as a foot: after a side or a kind of leg it is no number."""
    made = list(found)
    for at in range(1, len(made)):
        one, before, after = made[at], made[at - 1], made[at + 1 : at + 2]
        hour = bool(after) and after[0].kind in ("number", "unit", "clock")
        if one.kind == "number" and one.low == "one" and before.kind in ("side", "which") and not hour:
            made[at] = Said("part", "foot", one.span, low=one.low)
    return made


def _swapped(found: list[Said]) -> list[Said]:
    """Sides before the parts that they are of, where the language has them after."""
    made = list(found)
    for at in range(len(made) - 1):
        one, other = made[at], made[at + 1]
        if one.kind == "part" and one.value not in ("weight", "body") and other.kind in ("side", "which"):
            made[at], made[at + 1] = other, one
    return made


def _meant(
    book: Lexicon, meanings: list[tuple[str, str]], lows: list[str], after: int, before: str = ""
) -> tuple[str, str]:
    """What something means before what comes after it: "back" is a foot's in "the back leg", and a way else."""
    which = [each for each in meanings if each[0] == "which"]
    if not which:
        return meanings[0]
    following = book.at(lows, after)[1] if after < len(lows) else []
    stepped = [each for each in book.phrases.get((before,), []) if each == ("verb", "step")]
    if stepped and ("part", "ball") in following:
        following = []  # "step back ball"
    others = [each for each in meanings if each[0] != "which"]
    if any(kind == "part" and value not in ("weight", "body") for kind, value in following):
        return which[0]
    if book.side_after and len(meanings) == 1:
        return which[0]
    return others[0] if others else ("ordinary", "idle")


def _plain(piece: Piece) -> Said:
    return Said(piece.kind, piece.low, piece.span, piece.value, piece.other, low=piece.low)


def _is_and_a(found: list[Said]) -> bool:
    return [each.kind for each in found] == ["number", "link", "ordinary"] and found[1].value == "and"


def _measured(found: list[Said]) -> list[Said]:
    """Numbers with their units: clocks, degrees, per cent, lengths, fractions."""
    made: list[Said] = []
    for each in found:
        last = made[-1] if made else None
        if each.kind == "part_of" and each.value == "half" and _is_and_a(made[-3:]):  # "one and a half"
            counted = made[-3]
            del made[-3:]
            made.append(counted._replace(span=(counted.span[0], each.span[1]), number=(counted.number or 0.0) + 0.5))
        elif each.kind == "unit" and last is not None and last.kind in ("number", "clock"):
            kind = {"oclock": "clock"}.get(each.value, each.value)
            number = (last.number or 0.0) * 60.0 if each.value == "oclock" else last.number
            made[-1] = Said(kind, each.value, (last.span[0], each.span[1]), number)
        elif each.kind == "amount" and each.value == "width" and last is not None and last.kind == "often":
            made[-1] = Said("sw", "sw", (last.span[0], each.span[1]), float(last.value))  # "twice shoulder width"
        elif each.kind == "part_of" and each.value != "half":
            times = last.number if last is not None and last.kind == "number" else 1.0
            whole = {"third": 3.0, "quarter": 4.0, "fifth": 5.0, "tenth": 10.0}[each.value]
            start = made.pop().span[0] if last is not None and last.kind == "number" else each.span[0]
            made.append(Said("percent", each.value, (start, each.span[1]), round(100.0 * (times or 1.0) / whole, 1)))
        elif each.kind == "number" and last is not None and last.kind == "clock_word":
            minutes = {"half": 30.0, "quarter": 15.0, "to": -15.0}[last.value]
            made[-1] = Said(
                "clock", each.value, (last.span[0], each.span[1]), ((each.number or 0) * 60 + minutes) % 720
            )
        elif (
            each.kind == "number"
            and last is not None
            and last.kind == "number"
            and 1 <= (last.number or 0) <= 12
            and each.number in (15.0, 30.0, 45.0)
            and each.span[0] - last.span[1] <= 1
        ):
            made[-1] = Said("clock", "", (last.span[0], each.span[1]), (last.number or 0) % 12 * 60 + each.number)
        elif each.kind == "clock_after" and last is not None and last.kind == "number":
            minutes = {"half": 30.0, "quarter": 15.0, "to": -15.0}[each.value]
            hours = (last.number or 0.0) * 60.0 + minutes
            made[-1] = Said("clock", each.value, (last.span[0], each.span[1]), hours % 720)
        elif each.kind == "clock" and each.number is None:
            made.append(Said("clock_word", each.value, each.span))
        else:
            made.append(each)
    return made
