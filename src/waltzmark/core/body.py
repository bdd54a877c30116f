"""The practitioner's measures: proportions of stature until measured values replace them."""

from __future__ import annotations

import math
from dataclasses import dataclass, field, fields
from functools import cached_property

from waltzmark.core.errors import WaltzmarkError
from waltzmark.core.foot import Sole

__all__ = ["MEASURES", "PROPORTIONS", "Body"]

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

#: The stepping leg keeps at least this bend, degrees.
LEAST_BEND = 10.0


@dataclass(frozen=True)
class Body:
    """One practitioner.

    stature: metres; mass: kilograms; measured: metres by name, replacing `PROPORTIONS`.
    knee_bend: comfortable bend of the standing leg, degrees, 0 straight.
    hip_out, hip_in: hip turn available outward and inward, degrees.
    """

    stature: float = 1.70
    mass: float = 65.0
    knee_bend: float = 50.0
    hip_out: float = 45.0
    hip_in: float = 35.0
    measured: tuple[tuple[str, float], ...] = field(default=())

    def __post_init__(self) -> None:
        for name in fields(self)[:5]:
            value = getattr(self, name.name)
            if not math.isfinite(value) or value <= 0:
                raise WaltzmarkError(f"{name.name} must be a number above 0, not {value}")

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
        return Sole(self.foot_length, self.foot_breadth)

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
