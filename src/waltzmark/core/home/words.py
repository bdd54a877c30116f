"""Loops and their rounds in words, the same on the screen and on the command line."""

from __future__ import annotations

from waltzmark.core.base.figures import Figures
from waltzmark.core.form.form import Form
from waltzmark.core.home.drill import as_walked
from waltzmark.core.home.loops import Loop, with_back
from waltzmark.core.home.rounds import MOST
from waltzmark.core.walk.trace import Trace

__all__ = ["carries", "comes_home", "loop_lines", "stays"]


def carries(metres: float, turn: float, say: Figures) -> str:
    """What a round does."""
    away = "ends where it began" if metres < 0.005 else f"carries {say.length(metres)} away"
    if abs(turn) < 0.5:
        return f"A round {away}, and does not turn."
    return f"A round {away}, and turns {abs(turn):.0f}° {'clockwise' if turn > 0 else 'counter-clockwise'}."


def _rounds(number: int) -> str:
    return f"{number} round{'s' if number != 1 else ''}"


def comes_home(after: int | None) -> str:
    """When rounds are home."""
    return f"In {MOST} rounds it never comes home." if after is None else f"It is home after {_rounds(after)}."


def stays(rounds: int, wanted: int | None) -> str:
    """For how many rounds it stays in the room, of those it takes until it is home."""
    if rounds >= MOST:
        return "It stays in the room however often."
    if wanted is not None and rounds >= wanted:
        return f"It stays in the room for {_rounds(rounds)}."
    return f"It stays in the room for {_rounds(rounds) if rounds else 'no round'}" + (
        f": not the {_rounds(wanted)} until it is home." if wanted is not None else "."
    )


def loop_lines(form: Form, trace: Trace, loop: Loop, say: Figures) -> list[str]:
    """A loop as it is walked: what it is, what is left out and why, how each join fits, what a round does."""
    titles = [posture.title for posture in form.postures]
    first, last = titles[loop.postures[0]], titles[loop.postures[-1]]
    lines = [f"{first} … {last}: {len(loop.postures)} postures, {loop.beats:g} beats."]
    for block, back in zip(loop.blocks, with_back(trace, loop), strict=True):
        names = ", ".join(titles[each] for each in block)
        back = as_walked(form, trace, back)
        more = carries(back.away, back.turn, say).removesuffix(".")
        lines.append(f"Left out: {names}. With {'it' if len(block) == 1 else 'them'} {more[:1].lower()}{more[1:]}.")
    for (one, other), join in zip(loop.joined, loop.joins, strict=True):
        where = f"From {titles[one]} {'back to' if other == loop.postures[0] else 'to'} {titles[other]}"
        parts = [
            say.length(join.cm / 100.0) if join.cm >= 0.5 else "",
            f"{join.degrees:.0f}°" if join.degrees >= 0.5 else "",
            f"{join.percent:.0f} % of the weight" if join.percent >= 0.5 else "",
        ]
        said = [part for part in parts if part]
        differs = " and ".join(filter(None, [", ".join(said[:-1]), *said[-1:]]))
        lines.append(f"{where} {f'the stance differs by {differs}' if said else 'nothing differs'}.")
    lines.append(carries(loop.away, loop.turn, say))
    return lines
