"""What two sides may differ by and count as the same."""

from __future__ import annotations

from waltzmark.core.base.records import Record

__all__ = ["SAME", "Tolerance"]


class Tolerance(Record):
    """What two sides may differ by and count as the same: centimetres, degrees, % of the weight.

    beside: whether hands, kicks, eyes, breath, beats and the ways of steps count too, or only feet, weight and chest;
    they are told anyway.
    """

    cm: float = 1.0
    degrees: float = 1.0
    percent: float = 1.0
    beside: bool = True


SAME = Tolerance()
