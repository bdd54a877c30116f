"""Bends that another body takes less deep: for a count, from where the weight is on both feet, or for a passage."""

from __future__ import annotations

import math
from collections.abc import Iterator

from waltzmark.core.base.messages import message
from waltzmark.core.fit.lines import Lines
from waltzmark.core.fit.move import Move
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.registry import Case
from waltzmark.core.score import actions as act
from waltzmark.core.walk.trace import Trace

__all__ = ["BY_DEPTH", "depth_moves", "governed", "higher_moves", "sunk_rows"]

#: Rules that a less deep bend may help.
BY_DEPTH = frozenset(
    {
        "step.reach", "stance.low-held", "knee.one-leg", "knee.deep", "knee.ankle", "knee.past-toe", "knee.inward",
        "knee.rising", "hip.range",
    }
)  # fmt: skip
#: Degrees less that a knee is bent, tried in turn, and the least that is left.
_LESS, _LEAST = (5, 10, 15, 20, 30, 40), 10
#: Bends that a passage is tried at, degrees less.
_HIGHER = (5, 10, 15, 20, 25, 30, 35, 40)
#: From this share on a foot carries while a knee may rise or sink.
_CARRIES = 0.20


def sunk_rows(trace: Trace) -> list[int]:
    """The rows whose counts say how deep it is from there on."""
    return [row for row in range(1, len(trace)) if trace.written[row].one(act.Sink) is not None]


def governed(trace: Trace, row: int, finding: Finding) -> bool:
    """Whether a finding is about a depth that was said in a row and holds until another one says another."""
    if finding.rule not in BY_DEPTH or finding.row < row:
        return False
    return all(trace.written[at].one(act.Sink) is None for at in range(row + 1, finding.row + 1))


def higher_moves(case: Case, row: int) -> Iterator[Move]:
    """The bend that a row says made less, the deepest first."""
    lines, sink = Lines.at(case, row), float(case.trace.sinks[row])
    for less in _HIGHER if lines is not None else ():
        bend = float(round(sink - less))
        if bend >= _LEAST and lines is not None:
            does = message("mend.sink", bend=bend)
            yield Move("depth", 0.0, does, lines.mend(does, {row: _bent(case.count(row), bend)}))


def depth_moves(case: Case, finding: Finding, row: int) -> Iterator[Move]:
    """Go less deep: for this count, or from where the weight is last on both feet.

    As deep as before once it is on both again.
    """
    lines, sink = Lines.at(case, row), float(case.trace.sinks[row])
    if lines is None:
        return
    bends = [sink - less for less in _LESS if sink - less >= _LEAST]
    if finding.limit is not None and finding.unit == "°" and _LEAST <= math.floor(finding.limit) < sink:
        bends.insert(0, float(math.floor(finding.limit)))
    shares = case.trace.shares
    both = [at for at in range(lines.first, row) if float(shares[at].min()) >= _CARRIES]
    begins = dict.fromkeys((row, *both[-1:], lines.first))
    after = next((at for at in range(row + 1, lines.after) if float(shares[at].min()) >= _CARRIES), None)
    for number, bend in enumerate(bends):
        for place, begin in enumerate(begins):
            changed = {begin: _bent(case.count(begin), bend)}
            later = [at for at in range(begin + 1, lines.after) if case.count(at).one(act.Sink) is not None]
            if any(at <= row for at in later):
                continue  # it says itself how deep: that is where it is changed
            if after is not None and not any(row < at <= after for at in later):
                changed[after] = _bent(case.count(after), sink)
            rank = min(0.1 + 0.1 * number + 0.03 * place, 1.0)
            does = message("mend.sink", bend=bend)
            yield Move("depth", rank, does, lines.mend(does, changed))


def _bent(count: act.Count, bend: float) -> tuple[act.Count, ...]:
    old, new = count.one(act.Sink), act.Sink(float(round(bend)))
    return (count.exchanged(old, new) if old is not None else count.with_more(new),)
