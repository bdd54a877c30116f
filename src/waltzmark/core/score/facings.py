"""Ways to say where something points, kept as they were said."""

from __future__ import annotations

from waltzmark.core.base.angles import compass_heading, mirrored, normal
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record

__all__ = ["Aim", "Clock", "Compass", "Facing", "Toward", "Turn"]


class Clock(Record):
    """A clock facing: minutes of the dial past 12 (half a degree each), 0 to 719.

    own: whether 12 is the torso heading at the beginning of the count instead of the floor's.
    """

    minutes: int
    own: bool = False

    @classmethod
    def at(cls, heading: float) -> Clock:
        """The floor clock facing nearest to a heading in degrees."""
        return cls(round(normal(heading) * 2.0) % 720)

    def heading(self, torso: float, twelve: str) -> float:
        own = self.minutes / 2.0
        return normal(torso + own) if self.own else own

    def mirrored(self, axis: float, twelve: str) -> Clock:
        if self.own:
            return Clock(-self.minutes % 720, True)
        return Clock.at(mirrored(self.minutes / 2.0, axis))

    def turned(self, degrees: float, twelve: str) -> Clock:
        return self if self.own else Clock.at(self.minutes / 2.0 + degrees)


class Compass(Record):
    """A compass facing, one of `waltzmark.core.base.angles.COMPASS`."""

    point: str

    def heading(self, torso: float, twelve: str) -> float:
        return compass_heading(self.point, twelve)

    def mirrored(self, axis: float, twelve: str) -> Clock:
        return Clock.at(mirrored(self.heading(0.0, twelve), axis))

    def turned(self, degrees: float, twelve: str) -> Clock:
        return Clock.at(self.heading(0.0, twelve) + degrees)


class Turn(Record):
    """A turn in degrees, clockwise positive."""

    degrees: float

    def mirrored(self, axis: float, twelve: str) -> Turn:
        return Turn(-self.degrees + 0.0)

    def turned(self, degrees: float, twelve: str) -> Turn:
        return self


class Toward(Record):
    """A turn of the toes toward the body's midline (``in``) or away from it (``out``), degrees."""

    inward: bool
    degrees: float

    def turn(self, side: Side) -> float:
        """The same as a clockwise turn of that side's foot."""
        return self.degrees * side.sign * (-1.0 if self.inward else 1.0)

    def mirrored(self, axis: float, twelve: str) -> Toward:
        return self

    def turned(self, degrees: float, twelve: str) -> Toward:
        return self


Facing = Clock | Compass
Aim = Clock | Compass | Turn | Toward
