"""Headings: degrees clockwise from 12 o'clock, and the clock and compass that name them.

The floor frame has x toward 3 o'clock and y toward 12 o'clock, so the forward
unit vector of a heading is (sin, cos) and its rightward one (cos, -sin).
"""

from __future__ import annotations

import math

import numpy as np

from waltzmark.core.base.arrays import Floats

__all__ = [
    "COMPASS",
    "ahead",
    "along_across",
    "circular_mean",
    "clock_text",
    "compass_heading",
    "heading_difference",
    "heading_differences",
    "mirrored",
    "normal",
    "rightward",
    "rotated",
]

#: Compass points and their bearing in degrees clockwise from north.
COMPASS = {"N": 0, "NE": 45, "E": 90, "SE": 135, "S": 180, "SW": 225, "W": 270, "NW": 315}


def normal(degrees: float) -> float:
    """The same heading in [0, 360)."""
    turned = degrees % 360.0
    # A tiny negative angle rounds up to 360 itself.
    return 0.0 if turned >= 360.0 else turned


def heading_difference(before: float, after: float) -> float:
    """Shortest turn in degrees from one heading to another, clockwise positive, in (-180, 180]."""
    turn = (after - before) % 360.0
    return turn - 360.0 if turn > 180.0 else turn


def heading_differences(before: Floats, after: Floats) -> Floats:
    """`heading_difference` for whole arrays, in (-180, 180]."""
    turn = np.mod(after - before, 360.0)
    return np.asarray(np.where(turn > 180.0, turn - 360.0, turn), dtype=float)


def circular_mean(first: float, second: float) -> float | None:
    """Heading half-way between two, the short way; None when they are opposite."""
    turn = heading_difference(first, second)
    if abs(abs(turn) - 180.0) < 1e-9:
        return None
    return normal(first + turn / 2.0)


def ahead(heading: float) -> tuple[float, float]:
    """Unit vector u of a heading in the floor frame."""
    angle = math.radians(heading)
    return math.sin(angle), math.cos(angle)


def rightward(heading: float) -> tuple[float, float]:
    """Unit vector v to the right of a heading in the floor frame."""
    angle = math.radians(heading)
    return math.cos(angle), -math.sin(angle)


def along_across(dx: Floats | float, dy: Floats | float, heading: Floats | float) -> tuple[Floats, Floats]:
    """A way on the floor in the frame of a heading: how far along it and how far to its right; for whole arrays too."""
    angle = np.radians(heading)
    sin, cos = np.sin(angle), np.cos(angle)
    return np.asarray(dx * sin + dy * cos), np.asarray(dx * cos - dy * sin)


def rotated(x: float, y: float, degrees: float) -> tuple[float, float]:
    """A vector turned clockwise by an angle."""
    angle = math.radians(degrees)
    cos, sin = math.cos(angle), math.sin(angle)
    return x * cos + y * sin, y * cos - x * sin


def mirrored(heading: float, axis: float) -> float:
    """A heading reflected in a line of heading *axis*: 2 axis - heading."""
    return normal(2.0 * axis - heading)


def compass_heading(point: str, twelve: str = "N") -> float:
    """Heading in the floor frame of a compass point, when the point *twelve* stands at 12 o'clock."""
    return normal(COMPASS[point] - COMPASS[twelve])


def clock_text(heading: float) -> str:
    """A heading as the clock says it, to the nearest minute of the dial (half a degree).

    >>> clock_text(45.0), clock_text(270.0), clock_text(0.0)
    ('1:30', '9', '12')
    """
    hour, minute = divmod(round(normal(heading) * 2.0) % 720, 60)
    name = str(hour or 12)
    return f"{name}:{minute:02d}" if minute else name
