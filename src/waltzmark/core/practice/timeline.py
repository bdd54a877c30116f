"""Cues for the ear laid into time: each ends as its movement begins, and none speaks over another."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import NamedTuple

__all__ = ["FASTEST", "Cue", "Timeline", "lay"]

#: How much quicker than usual a voice may speak so that a cue fits.
FASTEST = 1.3
#: Seconds of quiet between two cues.
_BETWEEN = 0.08

#: How long a text takes at a speed of the voice, seconds.
Length = Callable[[str, float], float]


class Cue(NamedTuple):
    """Words that are spoken.

    row: before whose movement, or None where they only count; speed: of the voice, 1 for the usual; begin, end:
    seconds.
    """

    row: int | None
    text: str
    speed: float
    begin: float
    end: float


class Timeline(NamedTuple):
    """When everything is.

    rows: row, beginning and end of its movement in seconds, in order; cues: what is spoken, in order; left: rows whose
    words had no room; length: of the whole, seconds.
    """

    rows: tuple[tuple[int, float, float], ...]
    cues: tuple[Cue, ...]
    left: tuple[int, ...]
    length: float

    def at(self, seconds: float) -> tuple[int, float]:
        """The row that is walked at a time, and the part of its count that is done: 1 where the body waits."""
        found = (self.rows[0][0] - 1, 1.0) if self.rows else (0, 1.0)
        for row, begin, end in self.rows:
            if seconds < begin:
                break
            found = (row, min((seconds - begin) / (end - begin), 1.0) if end > begin else 1.0)
        return found

    def when(self, number: int, part: float) -> float:
        """The time at which a part of the movement of a row is done, by its number in `rows`."""
        _row, begin, end = self.rows[number]
        return begin + part * (end - begin)

    def pause(self, number: int) -> float:
        """Seconds that the body waits before the movement of a row, by its number in `rows`."""
        return self.rows[number][1] - self.rows[number - 1][2] if number > 0 else 0.0


def lay(
    rows: Sequence[tuple[int, float]],
    words: Mapping[int, Sequence[str]],
    length: Length,
    count_in: float = 0.0,
    *,
    waits: bool = False,
    rests: Mapping[int, float] | None = None,
    seconds: Mapping[int, str] | None = None,
    beats: Mapping[int, Sequence[str]] | None = None,
) -> Timeline:
    """Lays cues into the time of a walk.

    Parameters
    ----------
    rows
        Each row that is walked, and how long its movement takes, seconds.
    words
        By row, what may be spoken before its movement, the fullest wording first.
    length
        How long a text takes at a speed of the voice, seconds.
    count_in
        Seconds before the first movement.
    waits
        Whether a movement waits for its words where no wording fits; else they are left out, and the tempo is kept.
    rests
        By row, seconds of rest before its movement.
    seconds
        What is said when so many seconds of the count-in are left.
    beats
        By row, what is said at its second beat and at each one after, the beats being equally long.

    Returns
    -------
    Timeline
        A cue lies in the time before its movement: the fullest wording that fits there is taken, then the shortest at
        up to `FASTEST` times the speed. What only counts is said where it is in nobody's way.
    """
    at, free = count_in, 0.0
    walked: list[tuple[int, float, float]] = []
    cues: list[Cue] = []
    left: list[int] = []
    for row, takes in rows:
        at += (rests or {}).get(row, 0.0)
        wordings = [text for text in words.get(row, ()) if text]
        if wordings:
            placed = _fitting(wordings, at - free, length)
            if placed is None and waits:
                placed = wordings[-1], 1.0
                at = free + length(*placed)
            if placed is None:
                left.append(row)
            else:
                cues.append(Cue(row, *placed, at - length(*placed), at))
                free = at + _BETWEEN
        walked.append((row, at, at + takes))
        at += takes
    counted = [(count_in - left_, text) for left_, text in (seconds or {}).items() if left_ <= count_in]
    for row, begin, end in walked:
        said = (beats or {}).get(row, ())
        counted += [(begin + nth * (end - begin) / (len(said) + 1), text) for nth, text in enumerate(said, 1)]
    return Timeline(tuple(walked), _with_counting(cues, counted, length, at), tuple(left), at)


def _fitting(wordings: Sequence[str], room: float, length: Length) -> tuple[str, float] | None:
    """The fullest wording that fits into a room, else the shortest as much quicker as it must be."""
    for text in wordings:
        if length(text, 1.0) <= room:
            return text, 1.0
    shortest = min(wordings, key=lambda text: length(text, 1.0))
    for speed in (1.1, 1.2, FASTEST):
        if length(shortest, speed) <= room:
            return shortest, speed
    return None


def _with_counting(
    cues: Sequence[Cue], counted: Sequence[tuple[float, str]], length: Length, whole: float
) -> tuple[Cue, ...]:
    """The cues, and between them what counts seconds or beats, each from its time on."""
    found: list[Cue] = []
    waiting = list(cues)
    free = 0.0
    for begin, text in sorted(counted):
        while waiting and waiting[0].end <= begin:
            found.append(waiting.pop(0))
            free = found[-1].end + _BETWEEN
        end = begin + length(text, 1.0)
        if begin >= free and end + _BETWEEN <= (waiting[0].begin if waiting else whole + _BETWEEN):
            found.append(Cue(None, text, 1.0, begin, end))
            free = end + _BETWEEN
    return (*found, *waiting)
