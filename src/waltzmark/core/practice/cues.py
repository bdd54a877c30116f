"""Cues for the ear and the eye: the words of each count at its time as WebVTT, and a soft tick as a sound."""

from __future__ import annotations

import io
import math
import struct
import wave
from collections.abc import Mapping, Sequence

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.pose import Pose
from waltzmark.core.walk.sentences import count_sentence
from waltzmark.core.walk.step import PIVOT, STEP
from waltzmark.core.walk.trace import Trace

__all__ = ["beats_at", "cue_track", "short", "spoken", "tick"]

_RATE = 22_050


def beats_at(
    trace: Trace, first: int, last: int, seconds: float, count_in: float = 0.0
) -> list[tuple[int, float, float]]:
    """Row, beginning and end in seconds of each count from row *first* to *last*, at so many seconds a beat."""
    found, at = [], count_in
    for row in range(first, last + 1):
        long = float(trace.beats[row]) * seconds
        found.append((row, at, at + long))
        at += long
    return found


def spoken(trace: Trace, row: int, say: Figures = PLAIN) -> str:
    """What a count does, as it is said."""
    if row <= 0:
        return "stand as it begins"
    moves = trace.move(row, Side.LEFT), trace.move(row, Side.RIGHT)
    return count_sentence(trace.pose(row - 1), trace.pose(row), moves, trace.written[row], say)


def short(trace: Trace, row: int, say: Figures = PLAIN) -> tuple[str, ...]:
    """What a count does in a few words a line, to be read from afar: feet, weight, chest, breath."""
    if row <= 0:
        return ("stand as it begins",)
    before, after, lines = trace.pose(row - 1), trace.pose(row), []
    for side in Side:
        move, foot = trace.move(row, side), after.foot(side)
        toward = say.toward(foot.heading, before.torso)
        if move.kind == STEP:
            lines.append(f"step {side.word} to {toward}" + _LANDS[foot.contact])
        elif move.kind == PIVOT and abs(move.turn) > 0.5:
            lines.append(f"turn {side.word} foot to {toward}")
        elif foot.contact != before.foot(side).contact and not _rolls(before, after, side):
            words = {Contact.AIR: "lift", Contact.BALL: "ball of", Contact.HEEL: "heel of", Contact.FLAT: "flat"}
            lines.append(f"{words[foot.contact]} {side.word} foot")
    if abs(after.left_share - before.left_share) > 0.005:
        heavier = Side.LEFT if after.left_share > before.left_share else Side.RIGHT
        lines.append(f"weight {heavier.word} {100 * after.share(heavier):.0f} %")
    if abs(heading_difference(before.torso, after.torso)) > 0.5:
        lines.append(f"body to {say.toward(after.torso, before.torso)}")
    if abs(after.sink - before.sink) > 0.5:
        lines.append("sink" if after.sink > before.sink else "rise")
    if (inward := trace.breaths[row]) is not None:
        lines.append(f"breathe {'in' if inward else 'out'}")
    return tuple(lines) or ("hold",)


def _rolls(before: Pose, after: Pose, side: Side) -> bool:
    """Whether a foot comes flat by itself, as weight is poured onto it."""
    return after.foot(side).contact is Contact.FLAT and after.share(side) > before.share(side) + 0.005


_LANDS = {Contact.AIR: "", Contact.BALL: ", ball", Contact.HEEL: ", heel", Contact.FLAT: ", flat"}


def cue_track(
    trace: Trace, titles: Mapping[str, str], seconds: float, count_in: float = 10.0, say: Figures = PLAIN,
    rows: Sequence[int] = (),
) -> str:  # fmt: skip
    """The whole walk, or its rows from the first to the last of *rows*, as a WebVTT track (W3C): one cue a count, the
    posture's title before its first count. count_in: seconds before it begins."""
    first, last = (rows[0], rows[-1]) if rows else (1, len(trace) - 1)
    lines = ["WEBVTT", ""]
    if count_in > 0:
        lines += [f"{_time(0.0)} --> {_time(count_in)}", "Count-in: stand as it begins", ""]
    for number, (row, start, end) in enumerate(beats_at(trace, first, last, seconds, count_in), 1):
        posture = trace.posture(row)
        words = spoken(trace, row, say)
        if int(trace.counts[row]) == 1 or number == 1:
            words = f"{titles.get(posture or '', '')}: {words}"
        lines += [str(number), f"{_time(start)} --> {_time(end)}", _plain(words), ""]
    return "\n".join(lines)


def _plain(words: str) -> str:
    """Words as the text of a cue: nothing in them is mark-up, nor an arrow that would end it."""
    for sign, written in (("&", "&amp;"), ("<", "&lt;"), (">", "&gt;"), ("\n", " ")):
        words = words.replace(sign, written)
    return words


def _time(seconds: float) -> str:
    whole = round(1000.0 * seconds)
    hours, rest = divmod(whole, 3_600_000)
    minutes, rest = divmod(rest, 60_000)
    return f"{hours:02d}:{minutes:02d}:{rest // 1000:02d}.{rest % 1000:03d}"


def tick(high: bool = False) -> bytes:
    """A soft tick, a WAV of a tenth of a second: a sine that dies away, higher where a posture begins."""
    pitch = 1320.0 if high else 880.0
    samples = [math.sin(math.tau * pitch * n / _RATE) * math.exp(-60.0 * n / _RATE) * 0.35 for n in range(_RATE // 10)]
    data = io.BytesIO()
    with wave.open(data, "wb") as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(_RATE)
        sound.writeframes(b"".join(struct.pack("<h", round(32_767 * each)) for each in samples))
    return data.getvalue()
