"""Reading score text, with errors that point at the very word."""

from __future__ import annotations

import threading

from waltzmark.core.base.errors import ScoreError
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import message
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Facing
from waltzmark.core.score.limits import LONGEST_COUNT, UNSEEN
from waltzmark.core.score.words import STANCES

__all__ = [
    "forget_counts",
    "is_stance_name",
    "plain_line",
    "read_count",
    "read_facing",
    "read_line",
    "read_score",
]

#: Counts that have been read, by their text and the stances there were; so many at the most.
_known: dict[tuple[str, frozenset[str]], act.Count] = {}
_MOST_KNOWN = 8192
_knowing = threading.Lock()


def forget_counts() -> None:
    """Forgets every count that is known, so that it is parsed again."""
    _known.clear()


def read_count(text: str, stances: frozenset[str] = frozenset(STANCES), line: int = 1) -> act.Count:
    """One count of score text. *stances*: the names the school knows; *line*: for the error's place.

    Raises ScoreError with line, column, what was expected and, for a slip, what was likely meant.

    >>> read_count("shift 70/30 @2").beats
    2.0
    """
    if len(text) > LONGEST_COUNT:
        problem = message("score.characters", n=len(text), most=LONGEST_COUNT)
        raise ScoreError(problem, line, LONGEST_COUNT + 1, 1)
    if "\n" in text:
        raise ScoreError(message("score.one-line"), line, text.index("\n") + 1, 1)
    known = _known.get((text, stances))
    if known is None:
        from waltzmark.core.score.parser import parse  # an empty form need not wait for it

        known = parse(text, stances, line)
        with _knowing:
            if len(_known) >= _MOST_KNOWN:
                del _known[next(iter(_known))]
            _known[text, stances] = known
    return known


def read_line(text: str, stances: frozenset[str] = frozenset(STANCES)) -> act.Count:
    """One line of score text that must not be lost: what cannot be read is kept as `Unread`.

    Line breaks within it become spaces, since a count is one line: see `plain_line`.
    """
    text = plain_line(text)
    try:
        return read_count(text, stances)
    except ScoreError as error:
        return act.Count((act.Unread(text, error.advice, error.column, error.length),))


def plain_line(text: str) -> str:
    """Text as one line: breaks of every kind and signs that cannot be seen become spaces, half a sign becomes �."""
    return text.translate(UNSEEN).strip().encode("utf-16", "surrogatepass").decode("utf-16", "replace")


def read_facing(text: str) -> Facing | None:
    """A facing by itself, such as ``9:00``, ``~3`` or ``NE``; None when the text is none."""
    try:
        actions = read_count(f"torso {plain_line(text)}").actions
    except ScoreError:
        return None
    aim = actions[0].aim if len(actions) == 1 and isinstance(actions[0], act.Torso) else None
    return aim if isinstance(aim, Facing) else None


def is_stance_name(name: str) -> bool:
    """Whether a stance of that name can be read in a score, and is not taken for another word."""
    try:
        count = read_count(f"step L 12 {name}", frozenset({name}))
    except ScoreError:
        return False
    return count == act.Count((act.Step(Side.LEFT, act.Faced(Clock(0), None, name)),))


def read_score(text: str, stances: frozenset[str] = frozenset(STANCES)) -> tuple[act.Count, ...]:
    """The counts of several lines; empty lines are passed over. Raises ScoreError at the first bad word."""
    lines = text.split("\n")
    return tuple(read_count(each, stances, number) for number, each in enumerate(lines, 1) if each.strip())
