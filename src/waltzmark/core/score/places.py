"""Where a step goes: frozen values, one class for each way to say it."""

from __future__ import annotations

from typing import Literal

from waltzmark.core.base.angles import ahead, rotated
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record, replace
from waltzmark.core.base.units import Length
from waltzmark.core.score.facings import Facing

__all__ = ["Beside", "Faced", "Half", "Manner", "Mark", "Part", "Place", "Spot", "mirrored_place", "turned_place"]

Part = Literal["heel", "ball", "toe"]
Manner = Literal["back", "side", "cross"]


class Faced(Record):
    """A place ahead of, behind or beside the supporting heel, in the frame of a facing."""

    facing: Facing
    manner: Manner | None = None
    stance: str | None = None
    length: Length | None = None
    width: Length | None = None


class Half(Record):
    """The follow-up: half the present length in the frame of a facing, the same width."""

    facing: Facing


class Beside(Record):
    """Next to the other foot, parallel to it; no gap means one foot breadth."""

    gap: Length | None = None


class Mark(Record):
    """A landmark of either foot as it lay before the step, moved along a facing by a length."""

    side: Side
    part: Part
    facing: Facing | None = None
    distance: Length | None = None


class Spot(Record):
    """A place on the floor in metres, in the floor frame."""

    x: float
    y: float


Place = Faced | Half | Beside | Mark | Spot


def mirrored_place(place: Place, axis: float, twelve: str) -> Place:
    """The same place for the other foot, mirrored about an axis through the start mark."""
    if isinstance(place, Spot):
        ux, uy = ahead(axis)
        along = place.x * ux + place.y * uy
        return Spot(2 * along * ux - place.x, 2 * along * uy - place.y)
    if isinstance(place, Mark):
        facing = place.facing.mirrored(axis, twelve) if place.facing else None
        return replace(place, side=place.side.other, facing=facing)
    if isinstance(place, (Faced, Half)):
        return replace(place, facing=place.facing.mirrored(axis, twelve))
    return place


def turned_place(place: Place, degrees: float, twelve: str) -> Place:
    """The same place, turned clockwise about the start mark."""
    if isinstance(place, Spot):
        return Spot(*rotated(place.x, place.y, degrees))
    if isinstance(place, Beside) or place.facing is None:
        return place
    return replace(place, facing=place.facing.turned(degrees, twelve))
