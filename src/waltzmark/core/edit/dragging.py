"""What a hand writes when it drags a foot, the weight or the waist: the count that puts it there."""

from __future__ import annotations

from waltzmark.core.base.angles import ahead, heading_difference, rightward
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record, replace
from waltzmark.core.base.units import Length
from waltzmark.core.body.pose import Pose
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock

__all__ = ["Dragged", "dragged_foot", "dragged_share", "dragged_toe", "dragged_torso"]

#: A step of less than this ahead or behind is a step to the side, metres.
_ASIDE = 0.015


class Dragged(Record):
    """The count that a drag writes. replaces: whether it takes the place of the count it began in, or follows it."""

    count: act.Count
    replaces: bool


def _change(count: act.Count, old: act.Action | None, new: act.Action) -> Dragged:
    """The count with one action exchanged, or added where there was none."""
    if old is None:
        return Dragged(count.with_more(new), True)
    return Dragged(count.exchanged(old, new), True)


def _new(count: act.Count, action: act.Action) -> Dragged:
    """A new count after this one, or this one where it only holds."""
    if count.actions and all(isinstance(each, act.Hold) for each in count.actions):
        return _change(count, None, action)
    return Dragged(act.Count((action,)), False)


def dragged_foot(
    count: act.Count,
    before: Pose,
    side: Side,
    x: float,
    y: float,
    twelve: str,
    own_size: tuple[float, float] | None = None,
    decimals: int = 0,
) -> Dragged:
    """The heel of a foot is put at (x, y), metres of the floor frame.

    count: the selected one, walked from *before*. A step of it to a facing keeps its form, with a new length and
    width in centimetres of so many *decimals*, or without any where they are its stance's *own_size* (metres); any
    other step of that foot goes to the place; without one, a new count does.
    """
    spot = act.Spot(round(x, 2 + decimals), round(y, 2 + decimals))
    step = count.one(act.Step, side)
    if step is None:
        return _new(count, act.Step(side, spot))
    if not isinstance(step.place, act.Faced):
        return _change(count, step, replace(step, place=spot))
    support = before.foot(side.other)
    facing = step.place.facing.heading(before.torso, twelve)
    ux, uy = ahead(facing)
    vx, vy = rightward(facing)
    along = (x - support.x) * ux + (y - support.y) * uy
    across = side.sign * ((x - support.x) * vx + (y - support.y) * vy)
    length, width = (Length(round(100 * value, decimals) + 0.0) for value in (abs(along), across))
    if own_size is not None and step.place.manner != "side" and (along >= 0) == (step.place.manner != "back"):
        own = [round(100 * value, decimals) for value in own_size]
        if own == [length.value, width.value]:
            return _change(count, step, replace(step, place=replace(step.place, length=None, width=None)))
    if abs(along) < _ASIDE and width.value >= 0:
        place = replace(step.place, manner="side", length=None, width=width)
    else:
        manner: act.Manner | None = "back" if along < 0 else None
        if along >= 0 and step.place.manner == "cross":
            manner = "cross"  # only ahead: a step back has no word for it
        place = replace(step.place, manner=manner, length=length, width=width)
    return _change(count, step, replace(step, place=place))


def dragged_toe(
    count: act.Count, before: Pose, side: Side, part: act.Part | None, heading: float, turned: float
) -> Dragged:
    """Turn the toe of a foot to a heading, on a part of the foot.

    *turned* is how far the hand went, clockwise positive: it says the way round when that is not the shortest. Without
    a part it is that of the pivot there is, else the heel.

    A step or pivot of that foot in the selected count takes the facing; without one, a new count pivots.
    """
    facing = Clock.at(heading)
    step = count.one(act.Step, side)
    if step is not None:
        return _change(count, step, replace(step, toe=facing))
    pivot = count.one(act.Pivot, side)
    shortest = heading_difference(before.foot(side).heading, heading)
    sense: act.Sense | None = None
    if abs(turned) > 179.0 or (abs(shortest) > 1e-6 and abs(turned) > 1e-6 and (turned > 0) != (shortest > 0)):
        sense = "cw" if turned > 0 else "ccw"
    if pivot is not None:
        return _change(count, pivot, replace(pivot, part=part or pivot.part, aim=facing, sense=sense))
    return _new(count, act.Pivot(side, part or "heel", facing, sense))


def dragged_share(count: act.Count, left: float) -> Dragged:
    """The weight is poured so that the left foot carries a share of 0 to 1 at the end of the count.

    It is said of the fuller foot, in whole percent; a pair stays a pair, and 50/50 becomes one. A foot that lands in
    the count must land empty: the weight comes onto it in a new count.
    """
    percent = float(round(100 * min(max(left, 0.0), 1.0)))
    old = count.one(act.Shift)
    if percent == 50 or (old is not None and old.side is None):
        shift = act.Shift(None, percent)
    else:
        side = Side.LEFT if percent > 50 else Side.RIGHT
        shift = act.Shift(side, percent if side is Side.LEFT else 100.0 - percent)
    shares = {Side.LEFT: percent, Side.RIGHT: 100.0 - percent}
    if old is None and any(isinstance(a, act.Step) and shares[a.side] > 0 for a in count.actions):
        return _new(count, shift)
    return _change(count, old, shift)


def dragged_torso(count: act.Count, heading: float) -> Dragged:
    """The waist is turned to a heading at the end of the count."""
    old = count.one(act.Torso)
    return _change(count, old, act.Torso(Clock.at(heading), old.when if old else None))
