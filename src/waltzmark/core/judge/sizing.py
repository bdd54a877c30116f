"""What a mend makes of a step: one size, whichever rule asks for another, and one that the body takes."""

from __future__ import annotations

import math

from waltzmark.core.base.angles import along_across, heading_difference
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import Length
from waltzmark.core.body.reach import longest_empty_length
from waltzmark.core.judge.finding import Mend
from waltzmark.core.judge.registry import Case
from waltzmark.core.score import actions as act

__all__ = ["good_width", "last_step", "longest_step", "size_mends"]

#: Metres of a step that is too short to be one.
_LEAST = 0.05
#: Centimetres from which one size is another.
_OTHER = 1.0


def last_step(case: Case, row: int) -> tuple[int, act.Step] | None:
    """The row of the last step up to a row within its posture, and the step as written."""
    trace = case.trace
    first = int(trace.starts[int(trace.passage_of[row])])
    for at in range(row, max(first, 1) - 1, -1):
        step = case.count(at).one(act.Step)
        if step is not None:
            return at, step
    return None


def good_width(case: Case) -> float:
    """The school's own bow width, cm."""
    return 100 * case.form.school.stances["bow"].width_metres(case.form.body)


def size_mends(case: Case, row: int, width: float | None = None, most: float = math.inf) -> tuple[Mend, ...]:
    """The mend that gives the last step to a facing up to a row the size it should have.

    None where it has that, or where it is no step to a facing.

    Whichever rule asks, its length is the same: as it was, or what is within reach at the width that it should have.
    So two findings never ask for two lengths of one step, and none asks for what another would refuse.

    Parameters
    ----------
    width
        Centimetres, where it is to be another.
    most
        Centimetres that it is to be long at the most.
    """
    found = last_step(case, row)
    if found is None or not isinstance(found[1].place, act.Faced):
        return ()
    at, step = found
    place = step.place
    assert isinstance(place, act.Faced)
    own_length, own_width = (100 * float(v) for v in case.trace.sizes[at])
    wide = own_width if width is None else width
    if place.manner == "side":
        wide = min(wide, _within(case, at, step.side, wide, aside=True))
        if abs(wide - own_width) < _OTHER:
            return ()
        does = _changed(own_length, own_length, own_width, wide)
        sized = replace(place, width=Length(float(round(wide))))
    else:
        # A step that is too narrow is asked to be wider, by another rule if not by this one.
        narrow = own_width < case.limit("stance.narrow", "width")
        across = max(wide, good_width(case) if narrow else own_width)
        length = min(own_length, most, _within(case, at, step.side, own_length, across))
        if own_length - length < _OTHER and abs(wide - own_width) < _OTHER:
            return ()
        does = _changed(own_length, length, own_width, wide)
        sized = replace(place, length=Length(float(round(length))), width=Length(float(round(wide))))
    return case.exchange(at, does, case.count(at).exchanged(step, replace(step, place=sized)))


def _changed(own_length: float, length: float, own_width: float, width: float) -> Message:
    """What a mend does, by what it changes; cm."""
    if abs(width - own_width) < _OTHER:
        return message("mend.shorten", length=length)
    if own_length - length >= _OTHER:
        return message("mend.size", length=length, width=width)
    return message("mend.widen" if width > own_width else "mend.narrow", width=width)


def longest_step(case: Case, row: int, side: Side, across: float, bend: float, aside: bool = False) -> float:
    """The longest empty step of the foot that steps in a row, the way it steps there, metres.

    Parameters
    ----------
    across
        Metres from the line of the step.
    bend
        Of the standing knee, degrees.
    aside
        Whether it goes to its own side instead of ahead or back.
    """
    trace, support = case.trace, side.other
    facing, own = float(trace.facing[row]), float(trace.headings[row, support])
    dx, dy = (trace.heels[row, side] - trace.heels[row, support]).tolist()
    along, _ = along_across(dx, dy, facing)
    way = facing + (90.0 * side.sign if aside else 0.0)
    return longest_empty_length(
        trace.body,
        bend,
        round(across, 4),
        support,
        Contact(int(trace.contacts[row, side])),
        round(heading_difference(own, way), 2),
        round(heading_difference(own, float(trace.headings[row, side])), 2),
        bool(along < 0) and not aside,
    )


def _within(case: Case, row: int, side: Side, far: float, across: float = 0.0, aside: bool = False) -> float:
    """As far as wanted where the foot can be laid down empty there, else as far as it can, in whole cm.

    The school's own slack goes for what is wanted, and none for what is offered instead. across: cm from the line of
    the step; aside: whether it goes to its own side instead of ahead or back.
    """
    bend, slack = float(case.trace.sinks[row]), case.limit("step.reach", "slack")
    if far <= 100.0 * longest_step(case, row, side, across / 100.0, bend + slack, aside):
        return far
    found = longest_step(case, row, side, across / 100.0, bend, aside)
    return math.floor(100.0 * found) if found > _LEAST else far
