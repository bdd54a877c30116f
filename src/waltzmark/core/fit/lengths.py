"""Steps that another body takes shorter: at the same share of its reach, then shorter still."""

from __future__ import annotations

import math
from collections.abc import Iterator

from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import METRES, Length
from waltzmark.core.fit.lines import Lines
from waltzmark.core.fit.move import Move
from waltzmark.core.judge.finding import Mend
from waltzmark.core.judge.registry import Case
from waltzmark.core.judge.sizing import longest_step
from waltzmark.core.score import actions as act

__all__ = ["length_moves"]

#: Shares of its length that a step is tried at, after the same share of reach.
_SHARES = (0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.6, 0.5)
_FINER = (0.2, 0.4, 0.6, 0.8)
_LEAST, _SAME = 0.05, 0.005  # metres of a step that is too short to be one, and that make no other one


def length_moves(case: Case, usual: Case, row: int, was: int | None) -> Iterator[Move]:
    """The last step up to a row shorter, the longest first; each with those between it and the one before.

    case, usual, was: as for `moves_for`.
    """
    found = _last_step(case, row)
    lines = Lines.at(case, found[0]) if found is not None else None
    if found is None or lines is None:
        return
    at, step = found
    far = float(math.hypot(*(case.trace.heels[at, step.side] - case.trace.heels[at, step.side.other])))
    same = _same_share(case, usual, at, step, was - (row - at) if was is not None else None)
    shares = [same] if _LEAST < same * far < far - _SAME else []
    shares += [share for share in _SHARES if share * far >= _LEAST and (not shares or share < shares[0])]
    longer = 1.0
    for number, share in enumerate(shares):
        finer = [longer + (share - longer) * part for part in _FINER] if share != same else []
        narrower = _narrower(case, usual) if share == same else 1.0
        mends = [_mend(case, lines, at, step, each, narrower) for each in (share, *finer)]
        if mends[0] is not None:
            does = message("fit.shorter", share=100.0 * share)
            yield Move("length", min(0.04 * number, 1.0), does, mends[0], tuple(each for each in mends[1:] if each))
        longer = share


def _mend(case: Case, lines: Lines, row: int, step: act.Step, share: float, narrower: float) -> Mend | None:
    """The step of a row at a share of its length, with its written width.

    None where it says no length, or that is what it was.
    """
    sized = _sized(case, row, step, share, narrower)
    if sized is None or sized == step:
        return None
    return lines.mend(message("fit.shorter", share=100.0 * share), {row: (case.count(row).exchanged(step, sized),)})


def _last_step(case: Case, row: int) -> tuple[int, act.Step] | None:
    """The row of the last step up to a row, in its posture or in the one before, and the step as written."""
    trace = case.trace
    first = int(trace.starts[max(int(trace.passage_of[row]) - 1, 0)])
    for at in range(row, max(first, 1) - 1, -1):
        step = case.count(at).one(act.Step)
        if step is not None:
            return at, step
    return None


def _same_share(case: Case, usual: Case, row: int, step: act.Step, was: int | None) -> float:
    """The part of its length at which a step is the same share of what this body reaches as it was of the other's."""
    aside = isinstance(step.place, act.Faced) and step.place.manner == "side"
    reaches = []
    for each, at in ((case, row), (usual, was)):
        if at is None or not 0 < at < len(each.trace) or each.count(at).one(act.Step, step.side) is None:
            return case.form.body.stature / usual.form.body.stature
        wide = 0.0 if aside else float(each.trace.sizes[at, 1])
        if each is case and isinstance(step.place, act.Faced) and step.place.width is not None:
            wide *= _narrower(case, usual) if step.place.width.unit in METRES else 1.0
        reaches.append(longest_step(each, at, step.side, wide, float(each.trace.sinks[at]), aside))
    if min(reaches) < _LEAST:
        return case.form.body.stature / usual.form.body.stature
    return reaches[0] / reaches[1]


def _narrower(case: Case, usual: Case) -> float:
    """The part of its width at which a step is as wide for this body's shoulders as it was for the other's."""
    return min(case.form.body.shoulder_breadth / usual.form.body.shoulder_breadth, 1.0)


def _sized(case: Case, row: int, step: act.Step, share: float, narrower: float) -> act.Step | None:
    """A step at a share of its length; None where it says none."""
    place, body = step.place, case.form.body
    if isinstance(place, act.Faced):
        length, width = (float(each) for each in case.trace.sizes[row])
        if place.manner == "side":
            return replace(step, place=replace(place, width=_shorter(width * share, place.width)))
        sized = replace(place, length=_shorter(length * share, place.length))
        if place.width is None:  # length and width are written together
            sized = replace(sized, width=Length(float(round(100.0 * width)), "cm"))
        elif narrower < 1.0 and place.width.unit in METRES and place.width.value > 0:
            sized = replace(sized, width=_shorter(place.width.metres(body) * narrower, place.width))
        return replace(step, place=sized)
    if isinstance(place, act.Beside):
        gap = place.gap.metres(body) if place.gap else body.foot_breadth
        return replace(step, place=replace(place, gap=_shorter(gap * share, place.gap)))
    if isinstance(place, act.Mark) and place.facing is not None and place.distance is not None:
        return replace(
            step, place=replace(place, distance=_shorter(place.distance.metres(body) * share, place.distance))
        )
    if isinstance(place, act.Spot):
        x, y = case.trace.heels[row, step.side.other].tolist()
        return replace(step, place=act.Spot(round(x + share * (place.x - x), 3), round(y + share * (place.y - y), 3)))
    return None


def _shorter(metres: float, like: Length | None) -> Length:
    """A length in the unit that was written, down to a whole centimetre, or to a hundredth of another unit."""
    unit = like.unit if like is not None and like.unit in METRES else "cm"
    value = metres / METRES[unit]
    return Length(float(math.floor(value + 1e-6)) if unit == "cm" else math.floor(value * 100 + 1e-6) / 100, unit)
