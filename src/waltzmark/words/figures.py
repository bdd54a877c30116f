"""How figures are said: facings by the clock, the walker's own clock, the compass or degrees; lengths in any unit.

The core computes in metres and degrees, and the score keeps what was written; this is about what is shown.
"""

from __future__ import annotations

from typing import Literal, Protocol, get_args

from waltzmark.core.base.angles import COMPASS, clock_text, compass_heading, heading_difference, normal
from waltzmark.core.base.records import Record
from waltzmark.core.base.units import METRES, LengthUnit, Measured
from waltzmark.words.language import N_, number, tr

__all__ = ["FACINGS", "LENGTHS", "PLAIN", "FacingWay", "Figures", "LengthUnit"]

FacingWay = Literal["clock", "own", "compass", "degrees"]
FACINGS: tuple[FacingWay, ...] = get_args(FacingWay)
LENGTHS: tuple[LengthUnit, ...] = get_args(LengthUnit)

#: Decimals of each unit: about the centimetre that a floor can show. From 1 m on, centimetres become metres.
_DECIMALS = {"cm": 0, "m": 2, "in": 1, "fl": 2, "sw": 2}
_SAID = {
    "cm": N_("{length} cm"),
    "m": N_("{length} m"),
    "in": N_("{length} in"),
    "fl": N_("{length} foot lengths"),
    "sw": N_("{length} shoulder widths"),
}


class Framed(Protocol):
    """What figures are said of: a body, and the compass point at 12 o'clock."""

    @property
    def twelve(self) -> str: ...

    @property
    def body(self) -> Measured: ...


class Figures(Record):
    """A way of saying facings and lengths, for one body and frame.

    facings: by ``clock``, ``own`` clock, ``compass`` or ``degrees``; unit: of lengths; twelve: the compass point at 12
    o'clock; foot_length, shoulder_breadth: metres, for lengths told in them.
    """

    facings: FacingWay = "clock"
    unit: LengthUnit = "cm"
    twelve: str = "N"
    foot_length: float = 0.26
    shoulder_breadth: float = 0.44

    def of(self, form: Framed) -> Figures:
        """The same way of saying things, for the body and the frame of a form."""
        return Figures(self.facings, self.unit, form.twelve, form.body.foot_length, form.body.shoulder_breadth)

    def toward(self, heading: float, torso: float | None = None) -> str:
        """A heading in degrees, said. torso: the heading at 12 of the walker's own clock, where there is one.

        >>> Figures("compass").toward(45.0), Figures("degrees").toward(45.0), Figures("own").toward(45.0, 90.0)
        ('NE', '45°', '~10:30')
        """
        if self.facings == "degrees":
            return f"{round(normal(heading)) % 360}°"
        if self.facings == "compass":
            return self._compass(heading)
        if self.facings == "own" and torso is not None:
            return "~" + clock_text(heading - torso)
        return clock_text(heading)

    def _compass(self, heading: float) -> str:
        """The compass point within half a degree, else the nearest one and how far past it, clockwise positive."""
        bearings = {point: compass_heading(point, self.twelve) for point in COMPASS}
        point = min(bearings, key=lambda p: abs(heading_difference(bearings[p], heading)))
        off = round(heading_difference(bearings[point], heading))
        return point if off == 0 else f"{point}{off:+d}°"

    def hour(self, heading: float, torso: float) -> str:
        """The numeral at a heading of the clock laid on the floor about a body whose torso faces *torso*."""
        if self.facings == "own":
            return clock_text(heading - torso)
        return self.toward(heading) if self.facings != "clock" else clock_text(heading)

    def length(self, metres: float) -> str:
        """A length in metres, said with its unit.

        >>> Figures().length(0.123), Figures().length(2.5), Figures(unit="in").length(0.5)
        ('12 cm', '2.50 m', '19.7 in')
        """
        unit: str = self.unit
        if unit == "cm" and abs(metres) >= 0.995:
            unit = "m"
        return self._said(metres, unit, _DECIMALS[unit])

    def _said(self, metres: float, unit: str, decimals: int) -> str:
        return tr(_SAID[unit], length=number(metres / self._metres(unit), decimals))

    def change(self, before: float, after: float) -> str:
        """A change of a length in metres, said so finely that one sees it is one.

        >>> Figures().change(0.3, 0.4), Figures().change(0.3338, 0.33)
        ('30 cm → 40 cm', '33.4 cm → 33.0 cm')
        """
        said = [self.length(before), self.length(after)]
        if said[0] == said[1]:
            said = [self._said(each, self.unit, _DECIMALS[self.unit] + 1) for each in (before, after)]
        return " → ".join(said)

    @property
    def metres_of_unit(self) -> float:
        """Metres in one of the units that lengths are said in."""
        return self._metres(self.unit)

    def _metres(self, unit: str) -> float:
        return {"fl": self.foot_length, "sw": self.shoulder_breadth}.get(unit) or METRES[unit]


#: Clock and centimetres, as the command line says it.
PLAIN = Figures()
