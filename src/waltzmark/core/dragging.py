"""What a hand writes when it drags a foot on the floor: the count that puts it there."""

from __future__ import annotations

from dataclasses import dataclass, replace

from waltzmark.core.angles import ahead, heading_difference, normal, rightward
from waltzmark.core.pose import Pose
from waltzmark.core.score import actions as say
from waltzmark.core.score.facings import Clock
from waltzmark.core.side import Side
from waltzmark.core.units import Length

__all__ = ["Dragged", "dragged_foot", "dragged_toe", "snapped_heading"]

#: A step of less than this ahead or behind is a step to the side, metres.
_ASIDE = 0.015


@dataclass(frozen=True)
class Dragged:
    """The count that a drag writes. replaces: whether it takes the place of the count it began in, or follows it."""

    count: say.Count
    replaces: bool


def _change(count: say.Count, old: say.Action, new: say.Action) -> Dragged:
    actions = tuple(new if action is old else action for action in count.actions)
    return Dragged(replace(count, actions=actions), True)


def dragged_foot(count: say.Count, before: Pose, side: Side, x: float, y: float, twelve: str) -> Dragged:
    """The heel of a foot is put at (x, y), metres of the floor frame.

    count: the selected one, walked from *before*. A step of it to a facing keeps its form, with a new length and
    width in whole centimetres; any other step of that foot goes to the place; without one, a new count does.
    """
    spot = say.Spot(round(x, 2), round(y, 2))
    step = next((a for a in count.actions if isinstance(a, say.Step) and a.side is side), None)
    if step is None:
        return Dragged(say.Count((say.Step(side, spot),)), False)
    place: say.Place = spot
    if isinstance(step.place, say.Faced):
        facing = step.place.facing.heading(before.torso, twelve)
        support = before.foot(side.other)
        ux, uy = ahead(facing)
        vx, vy = rightward(facing)
        along = (x - support.x) * ux + (y - support.y) * uy
        width = Length(float(round(100 * side.sign * ((x - support.x) * vx + (y - support.y) * vy))))
        length = Length(float(round(100 * abs(along))))
        if abs(along) < _ASIDE and width.value >= 0:
            place = replace(step.place, manner="side", length=None, width=width)
        else:
            manner: say.Manner | None = "back" if along < 0 else None
            if along >= 0 and step.place.manner == "cross":
                manner = "cross"  # only ahead: a step back has no word for it
            place = replace(step.place, manner=manner, length=length, width=width)
    return _change(count, step, replace(step, place=place))


def snapped_heading(heading: float, step: float = 15.0) -> float:
    """A heading at the nearest multiple of a step of degrees: half hours of the clock by default."""
    return normal(round(heading / step) * step)


def dragged_toe(count: say.Count, before: Pose, side: Side, part: say.Part, heading: float, turned: float) -> Dragged:
    """The toe of a foot is turned to a heading, on a part of the foot; *turned*: how far the hand went, clockwise
    positive, which says the way round when it is not the shortest.

    A step or pivot of that foot in the selected count takes the facing; without one, a new count pivots.
    """
    facing = Clock.at(heading)
    step = next((a for a in count.actions if isinstance(a, say.Step) and a.side is side), None)
    if step is not None:
        return _change(count, step, replace(step, toe=facing))
    pivot = next((a for a in count.actions if isinstance(a, say.Pivot) and a.side is side), None)
    shortest = heading_difference(before.foot(side).heading, heading)
    sense: say.Sense | None = None
    if abs(turned) > 179.0 or (abs(shortest) > 1e-6 and abs(turned) > 1e-6 and (turned > 0) != (shortest > 0)):
        sense = "cw" if turned > 0 else "ccw"
    if pivot is not None:
        return _change(count, pivot, replace(pivot, aim=facing, sense=sense))
    return Dragged(say.Count((say.Pivot(side, part, facing, sense),)), False)
