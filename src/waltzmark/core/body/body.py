"""The practitioner's measures: proportions of stature until measured values replace them."""

from __future__ import annotations

import math
from functools import cached_property
from typing import Literal

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import Record, field
from waltzmark.core.body.foot import Sole

__all__ = ["LINK", "MEASURES", "PROPORTIONS", "RANGES", "SOLES", "SPARED", "Body", "Sided", "link_problem", "sided"]

#: Segment lengths as shares of stature: R. Drillis and R. Contini, Body Segment Parameters (1966),
#: as tabulated in D. A. Winter, Biomechanics and Motor Control of Human Movement.
#: Hip-joint spacing is an assumption of ours: adults are near 0.17 m.
PROPORTIONS = {
    "foot_length": 0.152,
    "foot_breadth": 0.055,
    "ankle_height": 0.039,
    "shank": 0.246,
    "thigh": 0.245,
    "hip_breadth": 0.191,
    "shoulder_breadth": 0.259,
    "arm": 0.44,
    "hip_spacing": 0.10,
}
MEASURES = tuple(PROPORTIONS)

#: A leg that carries keeps at least this bend, degrees.
LEAST_BEND = 10.0
#: A shank and a thigh are at least and at most so long, in statures; else no leg can be made of them.
LINK = (0.12, 0.40)


#: A value for both sides, or one for the left and one for the right.
Sided = float | tuple[float, float]

#: Friction of soles on floors, mu. Round engineering values, to compare ways of doing the same turn.
SOLES = {
    "sock on polished wood": 0.25,
    "smooth leather or cotton on wood": 0.40,
    "rubber on wood": 0.80,
}


def link_problem(name: str, length: float, stature: float) -> Message:
    """What is wrong with a shank or thigh of so many metres."""
    low, high = (share * stature for share in LINK)
    usual = PROPORTIONS[name] * stature
    return message(f"body.{name}", length=length, stature=stature, low=low, high=high, usual=usual)


def sided(value: Sided, side: Side) -> float:
    """The value of one side."""
    return value[side] if isinstance(value, tuple) else value


#: What a side that is spared counts of its ranges.
SPARED = 0.75

#: Ranges that people have, in degrees: teachers' figures, to be measured. Rotation of the trunk of 45 degrees each way
#: is the usual clinical norm (American Academy of Orthopaedic Surgeons).
RANGES: dict[str, dict[str, float]] = {
    "supple": {"hip_out": 50.0, "hip_in": 40.0, "waist": 45.0, "ankle": 45.0, "knee_bend": 50.0, "knee_one": 80.0},
    "ordinary": {"hip_out": 45.0, "hip_in": 35.0, "waist": 45.0, "ankle": 42.0, "knee_bend": 50.0, "knee_one": 65.0},
    "stiff": {"hip_out": 35.0, "hip_in": 25.0, "waist": 30.0, "ankle": 33.0, "knee_bend": 30.0, "knee_one": 50.0},
}


class Body(Record, dict=True):
    """One practitioner, in the shoes and on the floor of the day.

    stature: metres; mass: kilograms. knee_bend: comfortable bend of the standing leg, knee_most: the greatest one,
    knee_one: the deepest on one leg, degrees, 0 straight. hip_out, hip_in: hip turn available outward and inward,
    waist: how far the chest turns against the pelvis to the left and to the right, ankle: how far the shin leans with
    the heel down, degrees. measured: metres by name, replacing `PROPORTIONS`. friction: mu of soles on the floor;
    support: whether something to hold stands within reach; implement: metres of what the hand holds. Joints may differ
    by side, and so may the feet: left_foot is the left one's length in metres, 0 where it is that of the right one,
    which ``foot_length`` measures. spare: the side that is to be spared, ``left`` or ``right``, or empty: its hip,
    ankle and bend on one leg count at three quarters.
    """

    stature: float = 1.70
    mass: float = 65.0
    knee_bend: Sided = 50.0
    hip_out: Sided = 45.0
    hip_in: Sided = 35.0
    measured: tuple[tuple[str, float], ...] = field(default=())
    knee_most: Sided = 90.0
    friction: float = SOLES["smooth leather or cotton on wood"]
    support: bool = False
    implement: float = 0.0
    name: str = ""
    left_foot: float = 0.0
    waist: Sided = 45.0
    ankle: Sided = 42.0
    knee_one: Sided = 65.0
    spare: Literal["", "left", "right"] = ""

    def __post_init__(self) -> None:
        for name in ("stature", "mass", "knee_bend", "friction", "knee_most", *RANGES["ordinary"]):
            given = getattr(self, name)
            for value in given if isinstance(given, tuple) else (given,):
                if not math.isfinite(value) or value <= 0:
                    raise WaltzmarkError("body.measure", name=name, value=value)
        for name in ("shank", "thigh"):
            if not LINK[0] * self.stature <= self.measure(name) <= LINK[1] * self.stature:
                raise WaltzmarkError(link_problem(name, self.measure(name), self.stature))
        if self.left_foot and "foot_length" not in dict(self.measured):
            raise WaltzmarkError("body.left-foot")

    @cached_property
    def seat(self) -> float:
        """The bend in degrees at which both knees are comfortable, and that both can take."""
        return min(self.deepest, *(sided(self.knee_bend, side) for side in SIDES))

    @cached_property
    def deepest(self) -> float:
        """The bend in degrees that both knees can take."""
        return min(sided(self.knee_most, side) for side in SIDES)

    def _share(self, side: Side) -> float:
        """What counts of the ranges of a side."""
        return SPARED if self.spare == side.word else 1.0

    def hip_range(self, side: Side) -> tuple[float, float]:
        """Degrees that a hip turns outward and inward."""
        share = self._share(side)
        return share * sided(self.hip_out, side), share * sided(self.hip_in, side)

    def hip_set(self, side: Side) -> tuple[float, float]:
        """Degrees outward and inward that a hip is set to, before anything is taken off for a side that is spared."""
        return sided(self.hip_out, side), sided(self.hip_in, side)

    def ankle_range(self, side: Side) -> float:
        """Degrees that a shin leans forward with the heel down."""
        return self._share(side) * sided(self.ankle, side)

    def one_leg(self, side: Side) -> float:
        """Degrees that the knee bends at the most while that leg carries all."""
        return self._share(side) * sided(self.knee_one, side)

    def measure(self, name: str) -> float:
        """A measure in metres: the measured one, else its share of the stature."""
        return dict(self.measured).get(name, PROPORTIONS[name] * self.stature)

    @cached_property
    def foot_length(self) -> float:
        return self.measure("foot_length")

    @cached_property
    def foot_breadth(self) -> float:
        return self.measure("foot_breadth")

    @cached_property
    def shank(self) -> float:
        return self.measure("shank")

    @cached_property
    def thigh(self) -> float:
        return self.measure("thigh")

    @cached_property
    def hip_breadth(self) -> float:
        return self.measure("hip_breadth")

    @cached_property
    def shoulder_breadth(self) -> float:
        return self.measure("shoulder_breadth")

    @cached_property
    def hip_spacing(self) -> float:
        return self.measure("hip_spacing")

    @cached_property
    def sole(self) -> Sole:
        return Sole(self.foot_length, self.foot_breadth, self.left_foot)

    def named_width(self, name: str) -> float:
        """Metres between heel centres for ``together``, ``hip``, ``shoulder`` or ``vee``.

        Hip and shoulder width put the outer edges of the soles under hips or shoulders.
        """
        if name == "together":
            return self.foot_breadth
        if name == "vee":
            return 0.7 * self.foot_breadth
        breadth = {"hip": self.hip_breadth, "shoulder": self.shoulder_breadth}[name]
        return breadth - self.foot_breadth

    def leg(self, knee_bend: float) -> float:
        """Hip-to-ankle distance d(k) in metres for a knee bend in degrees: the law of cosines."""
        a, b = self.shank, self.thigh
        return math.sqrt(a * a + b * b + 2 * a * b * math.cos(math.radians(knee_bend)))

    def scale_reading(self, percent: float) -> float:
        """Kilograms that a scale shows under a foot that carries a percentage of the weight.

        The other foot stands equally high.
        """
        return self.mass * percent / 100.0
