"""The parser of the score language: what the grammar finds turned into values, and errors at the very word.

The build makes tables of ``grammar.lark`` (setup.py), so that a start has nothing to work out; ``machine.py`` goes by
them. This module is imported when the first line is parsed.
"""

from __future__ import annotations

import re
from contextlib import suppress
from functools import lru_cache
from typing import Any

from waltzmark.core.base.angles import COMPASS
from waltzmark.core.base.errors import ScoreError, quoted
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import Value, message
from waltzmark.core.base.units import BODY_UNITS, METRES, NAMED, Length
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Aim, Clock, Compass, Toward, Turn
from waltzmark.core.score.limits import LONGEST_NOTE, MOST_ACTIONS, UNSEEN
from waltzmark.core.score.machine import END, Machine, Token, UnexpectedError
from waltzmark.core.score.words import EXAMPLES, MEANT, STANCES, TERMINAL_WORDS, nearest

__all__ = ["SlipError", "UnexpectedError", "parse", "parser_for"]

_UNITS = "|".join([*METRES, *BODY_UNITS])
#: Shares as people say them, in percent.
SHARES = {"all": 100.0, "none": 0.0, "half": 50.0, "third": 33.3, "quarter": 25.0, "two-thirds": 66.7}
_LENGTH = re.compile(rf"(-?\d+(?:\.\d+)?)\s*({_UNITS})?", re.IGNORECASE | re.ASCII)
_WORD = re.compile(r"[^\s,@#]+")
_ENDS = re.compile(r"[,@#]|$")  # of an action
_MOST_WORDS = 12  # of an action of which one is tried elsewhere

#: More than this is a slip of the pen, not a stance: metres from the start mark, and for a step.
FARTHEST = 1000.0
_LONGEST = {"cm": 1000.0, "mm": 10000.0, "m": 10.0, "in": 400.0, "ft": 33.0, "fl": 40.0, "sw": 25.0, "hw": 30.0}


class SlipError(Exception):
    """A word that is read but cannot be meant."""

    def __init__(self, token: Token, kind: str, suggestion: str | None = None, /, **fields: Value) -> None:
        super().__init__(kind)
        self.token, self.problem, self.suggestion = token, message(kind, **fields), suggestion


def _number(token: Token, least: float, most: float, what: str, text: str | None = None, **fields: Value) -> float:
    value = float(text if text is not None else token)
    if not least <= value <= most:
        raise SlipError(token, f"score.{what}", value=value, least=least, most=most, **fields)
    return value


def _share(token: Token) -> float:
    """A share in percent, as a figure or in words."""
    word = SHARES.get(token.lower())
    if word is not None:
        return word
    share = _number(token, 0, 100, "share")
    if 0.0 < share < 1.0:  # nobody means a hundredth of a body
        raise SlipError(token, "score.fraction", f"{100 * share:g}", value=share)
    return share


def _length(token: Token, text: str | None = None, unit: str | None = None) -> Length:
    named = (text or str(token)).strip().lower()
    if named in NAMED:
        return Length(1.0, named)
    match = _LENGTH.fullmatch((text or str(token)).strip())
    assert match, token
    unit = (match[2] or unit or "cm").lower()
    value = _number(token, -_LONGEST[unit], _LONGEST[unit], "length", match[1], unit=unit)
    return Length(value + 0.0, unit)


class _Build:
    """Turns what the grammar found into the values of `waltzmark.core.score.actions`."""

    def __init__(self, stances: frozenset[str]) -> None:
        self.stances = stances

    def count(self, actions: tuple[act.Action, ...] | None, beats: float | None, note: str | None) -> act.Count:
        return act.Count(actions or (), 1.0 if beats is None else beats, note)

    def actions(self, *actions: act.Action) -> tuple[act.Action, ...]:
        if len(actions) > MOST_ACTIONS:
            raise SlipError(Token(",", "COMMA"), "score.actions", n=len(actions), most=MOST_ACTIONS)
        return actions

    def beats(self, token: Token) -> float:
        value = float(token[1:])
        if not 0 < value <= 1000:
            raise SlipError(token, "score.beats", value=value)
        return value

    def note(self, token: Token) -> str | None:
        note = token[1:].translate(UNSEEN).strip()
        if len(note) > LONGEST_NOTE:
            raise SlipError(token, "score.note", n=len(note), most=LONGEST_NOTE)
        return note or None

    def clock(self, token: Token) -> Clock:
        own = token.startswith("~")
        hour, _, minute = token.lstrip("~").partition(":")
        if not 1 <= int(hour) <= 12:
            raise SlipError(token, "score.hour", hour=hour)
        if int(minute or 0) > 59:
            raise SlipError(token, "score.minute", minute=minute)
        return Clock(int(hour) % 12 * 60 + int(minute or 0), own)

    def compass(self, token: Token) -> Compass:
        assert token.upper() in COMPASS
        return Compass(token.upper())

    def turn(self, token: Token) -> Turn:
        return Turn(_number(token, -360, 360, "turn") + 0.0)

    def toward(self, word: Token, degrees: Token) -> Toward:
        return Toward(word.lower() == "in", _number(degrees, 0, 180, "turn"))

    def shift_side(self, side: Token, percent: Token) -> act.Shift:
        return act.Shift(Side.of(side), _share(percent))

    def shift_pair(self, pair: Token) -> act.Shift:
        return act.Shift(None, self._pair(pair))

    def _pair(self, token: Token) -> float:
        left, right = (float(part) for part in token.split("/"))
        if abs(left + right - 100.0) > 1e-9:
            raise SlipError(token, "score.pair", pair=str(token), sum=left + right)
        return left

    def part(self, token: Token) -> str:
        return token.kind.lower()  # the terminal's name is the whole word

    manner = sense = when = kick_part = part

    def pivot(self, side: Token, part: act.Part, aim: Aim, sense: act.Sense | None, when: act.When | None) -> act.Pivot:
        if sense and isinstance(aim, (Turn, Toward)):
            raise SlipError(side, "score.sense", sense=sense)
        return act.Pivot(Side.of(side), part, aim, sense, when)

    def contact(self, token: Token) -> Contact:
        return Contact.of(token.kind)

    def toe(self, _word: Token, aim: Aim) -> tuple[str, Aim]:
        return "toe", aim

    def via(self, path: Token) -> tuple[str, str]:
        return "via", path.lower()

    def step(self, side: Token, place: act.Place, *modifiers: Any) -> act.Step:
        found: dict[str, Any] = {}
        for modifier in modifiers:
            name, value = modifier if isinstance(modifier, tuple) else ("land", modifier)
            if name in found:
                raise SlipError(side, f"score.two-{name}")
            found[name] = value
        return act.Step(Side.of(side), place, **found)

    def _stance(self, token: Token | None) -> str | None:
        if token is None:
            return None
        name = token.lower()
        if name not in self.stances:
            also = ["back", "side", "cross", "half", "toe", "via", "ball", "heel", "flat", "air", "touch"]
            raise SlipError(token, "score.stance", nearest(name, [*sorted(self.stances), *also]), stance=str(token))
        return name

    def _faced(
        self, facing: Clock | Compass, manner: act.Manner | None, stance: Token | None, size: Token | None
    ) -> act.Faced:
        length = width = None
        if size is not None:
            first, _, second = re.sub(r"\s", "", size).lower().partition("x")
            width = _length(size, second)
            unit = None if second in NAMED else re.search(r"[a-z]+$", second)  # one after both goes for both
            length = _length(size, first, unit[0] if unit else None)
        return act.Faced(facing, manner, self._stance(stance), length, width)

    faced = _faced

    def sideways_size(self, facing: Clock | Compass, stance: Token | None, size: Token) -> act.Faced:
        return self._faced(facing, "side", stance, size)

    def length(self, token: Token) -> Length:
        return _length(token)

    def sideways(self, facing: Clock | Compass, stance: Token | None, width: Length | None) -> act.Faced:
        return act.Faced(facing, "side", self._stance(stance), None, width)

    def half(self, facing: Clock | Compass) -> act.Half:
        return act.Half(facing)

    def beside(self, gap: Length | None) -> act.Beside:
        return act.Beside(gap)

    def mark(self, token: Token, move: tuple[Clock | Compass, Length] | None) -> act.Mark:
        side, _, part = token.partition(".")
        facing, distance = move or (None, None)
        return act.Mark(Side.of(side), part.lower(), facing, distance)  # type: ignore[arg-type]

    def mark_move(self, facing: Clock | Compass, distance: Length) -> tuple[Clock | Compass, Length]:
        return facing, distance

    def spot(self, x: Token, y: Token) -> act.Spot:
        return act.Spot(*(_number(at, -FARTHEST, FARTHEST, "place") + 0.0 for at in (x, y)))

    def land(self, contact: Token, side: Token) -> act.Land:
        return act.Land(Side.of(side), Contact.of(contact.kind))

    def lift(self, side: Token, knee: Token | None) -> act.Lift:
        return act.Lift(Side.of(side), knee is not None)

    def torso(self, aim: Aim, when: act.When | None) -> act.Torso:
        return act.Torso(aim, when)

    def gaze(self, aim: Aim) -> act.Gaze:
        return act.Gaze(aim)

    def hand(self, side: Token, facing: Clock | Compass, height: act.Height, shape: Token | None) -> act.Hand:
        named = shape.lower() if shape else None
        return act.Hand(Side.of(side), facing, height, named)  # type: ignore[arg-type]

    def sink(self, degrees: Token) -> act.Sink:
        return act.Sink(_number(degrees, 0, act.DEEPEST, "bend"))

    def sink_more(self, degrees: Token) -> act.Sink:
        return act.Sink(_number(degrees, 0, act.DEEPEST, "bend", degrees.lstrip("+")), "more")

    def rise(self, degrees: Token) -> act.Sink:
        return act.Sink(_number(degrees, 0, act.DEEPEST, "rise"), "less")

    def lean(self, degrees: Token) -> act.Lean:
        return act.Lean(_number(degrees, -30, 60, "lean") + 0.0)

    def height(self, token: Token) -> str:
        return token.lower()

    kick_height = height

    def kick(self, side: Token, facing: Clock | Compass, height: act.KickHeight, part: act.KickPart | None) -> act.Kick:
        return act.Kick(Side.of(side), facing, height, part)

    def breathe(self, way: Token) -> act.Breathe:
        return act.Breathe(way.lower() == "in")

    def hold(self) -> act.Hold:
        return act.Hold()

    def expect_side(self, side: Token, percent: Token) -> act.ExpectShare:
        return act.ExpectShare(Side.of(side), _share(percent))

    def expect_pair(self, pair: Token) -> act.ExpectShare:
        return act.ExpectShare(None, self._pair(pair))

    def expect_torso(self, facing: Clock | Compass) -> act.ExpectHeading:
        return act.ExpectHeading("torso", facing)

    def expect_gaze(self, facing: Clock | Compass) -> act.ExpectHeading:
        return act.ExpectHeading("gaze", facing)

    def expect_hips(self, facing: Clock | Compass) -> act.ExpectHeading:
        return act.ExpectHeading("hips", facing)

    def expect_toe(self, side: Token, _word: Token, facing: Clock | Compass) -> act.ExpectHeading:
        return act.ExpectHeading("toe", facing, Side.of(side))

    def expect_contact(self, side: Token, contact: Contact) -> act.ExpectContact:
        return act.ExpectContact(Side.of(side), contact)

    def expect_measure(self, of: Token, length: Length) -> act.ExpectMeasure:
        return act.ExpectMeasure(of.lower(), length)  # type: ignore[arg-type]


@lru_cache(maxsize=8)
def parser_for(stances: frozenset[str]) -> Machine:
    """The parser for the stances that a school knows."""
    return Machine(_Build(stances))


def parse(text: str, stances: frozenset[str], line: int) -> act.Count:
    """One count. Raises ScoreError with its line, column and advice."""
    try:
        count: act.Count = parser_for(stances).parse(text)
    except SlipError as slip:
        raise ScoreError(slip.problem, line, slip.token.at + 1, len(slip.token), (), slip.suggestion) from None
    except UnexpectedError as error:
        raise _explained(error, text, line, stances) from None
    if count.one(act.Shift) is None:
        for action in count.actions:
            if isinstance(action, act.Pivot | act.Torso) and action.when:
                column = _said_at(text, action.when)
                raise ScoreError(message("score.when", when=action.when), line, column, len(action.when))
    return count


def _said_at(text: str, word: str) -> int:
    """The column of a word, from 1."""
    return next((match.start() + 1 for match in _WORD.finditer(text) if match[0].lower() == word), 1)


def _explained(error: UnexpectedError, text: str, line: int, stances: frozenset[str]) -> ScoreError:
    """The parser's complaint in the user's words."""
    start = min(error.at, len(text.rstrip()))
    match = _WORD.match(text, start)
    word = match[0] if match else text[start : start + 1].strip()
    names = error.expected
    expected: list[Value] = []
    for name in (*TERMINAL_WORDS, *EXAMPLES):
        if name in names or f"_{name}" in names:
            found: tuple[Value, ...] = TERMINAL_WORDS.get(name, ()) or (message(f"expected.{name.lower()}"),)
            expected.extend(each for each in found if each not in expected)
    choices = [each for each in expected if isinstance(each, str)] + (list(STANCES) if "STANCE" in names else [])
    suggestion = nearest(word, choices) if word else None
    meant = [each for each in MEANT.get(word.lower(), ()) if each in choices]
    if meant:  # a word as people say it, for which the score has others
        expected, suggestion = list(meant), meant[0] if len(meant) == 1 else None
    if word == suggestion or len(word) < 2:
        suggestion = None
    problem = message("score.misplaced", word=quoted(word)) if word else message("score.too-short")
    if not text[:start].strip() and word:
        problem = message("score.no-action", word=quoted(word))
        expected = [each for each in expected if each != message(f"expected.{END.lower()}")]
    if "CLOCK" in names and word.lower() in {"back", "side", "cross", "half", "follow", *STANCES}:
        manner = "half" if word.lower() == "follow" else word
        problem = message("score.facing-first", word=quoted(word), example=f"{text[:start].strip()} 12 {manner}")
        expected, suggestion = [], None
    elif ordered := _in_order(text, start, stances):
        problem = message("score.order", word=quoted(word), example=ordered)
        expected, suggestion = [], None
    return ScoreError(problem, line, start + 1, max(len(word), 1), tuple(expected), suggestion)


def _in_order(text: str, start: int, stances: frozenset[str]) -> str | None:
    """The action whose word at *start* cannot stand there, with that word where it can; None where it can nowhere."""
    first = text.rfind(",", 0, start) + 1
    words = list(_WORD.finditer(text, first, _ENDS.search(text, start).start()))  # type: ignore[union-attr]
    at = next((number for number, each in enumerate(words) if each.start() <= start < each.end()), None)
    if at is None or len(words) > _MOST_WORDS:
        return None
    others = [each[0] for each in words]
    word = others.pop(at)
    elsewhere = sorted((place for place in range(len(words)) if place != at), key=lambda place: abs(place - at))
    for place in elsewhere:  # the nearest one
        tried = " ".join((*others[:place], word, *others[place:]))
        with suppress(UnexpectedError, SlipError):
            parser_for(stances).parse(tried)
            return tried
    return None
