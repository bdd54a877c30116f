"""The sole of a foot: landmarks, outline, contact patches and pivots.

A sole has length F and breadth B. It is placed by its heel centre and its heading; the axis runs
from the back of the heel to the toe tip. Local coordinates are (across, along) in metres from the
heel centre, across positive to the right of the axis.
"""

from __future__ import annotations

import math
from functools import cached_property

import numpy as np

from waltzmark.core.base.angles import ahead, rotated
from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.records import Record

__all__ = ["ANKLE", "LANDMARKS", "Sole", "centroid", "pivoted"]

#: Landmarks on the axis, in foot lengths ahead of the heel centre. The heel-to-ball distance of
#: about 0.73 F from the back of the heel is the usual shoe-fitting ratio.
LANDMARKS = {"back": -0.13, "heel": 0.0, "ball": 0.60, "toe": 0.87}
#: The ankle stands above this axis point, in foot lengths ahead of the heel centre (assumption).
ANKLE = 0.12

#: A right sole in its box: shares of F from the back of the heel, and of B from the inner edge.
_RIGHT_SOLE = (
    (0.000, 0.46),
    (0.020, 0.26),
    (0.090, 0.16),
    (0.220, 0.17),
    (0.380, 0.24),
    (0.520, 0.17),
    (0.660, 0.04),
    (0.760, 0.00),
    (0.880, 0.06),
    (0.965, 0.20),
    (1.000, 0.38),
    (0.975, 0.58),
    (0.900, 0.78),
    (0.780, 0.95),
    (0.680, 1.00),
    (0.540, 0.97),
    (0.380, 0.88),
    (0.220, 0.83),
    (0.090, 0.81),
    (0.020, 0.68),
)
_SMOOTH = 4  # points drawn for each of the listed ones


class Sole(Record, dict=True):
    """The soles of one practitioner, F metres long and B metres broad.

    left: the left one's length where it differs from the right one's, 0 where it does not.
    """

    length: float
    breadth: float
    left: float = 0.0

    def of(self, side: Side) -> float:
        """The length of one foot, metres."""
        return self.left if side is Side.LEFT and self.left else self.length

    def landmark(self, x: float, y: float, heading: float, name: str, side: Side = Side.RIGHT) -> tuple[float, float]:
        """Floor position of ``heel``, ``ball``, ``toe`` or ``back`` of a side's foot for a heel centre and heading."""
        ux, uy = ahead(heading)
        along = LANDMARKS[name] * self.of(side)
        return x + along * ux, y + along * uy

    @cached_property
    def outlines(self) -> tuple[Floats, Floats]:
        """Outlines of the left and the right sole, each (n, 2) metres (across, along)."""
        left, right = (
            _smooth(
                np.array(
                    [((across - 0.5) * self.breadth, (along - 0.13) * self.of(side)) for along, across in _RIGHT_SOLE]
                )
            )
            for side in SIDES
        )
        return left * (-1.0, 1.0), right

    @cached_property
    def centroids(self) -> Floats:
        """(2, 4, 2): local centroid of the contact patch, by side and contact; air has the heel's."""
        found = np.zeros((2, 4, 2))
        for side in SIDES:
            found[side, Contact.BALL] = (0.0, LANDMARKS["ball"] * self.of(side))
            found[side, Contact.FLAT] = centroid(self.outlines[side])
        return found

    def patch(self, side: Side, contact: Contact) -> Floats | None:
        """Local outline (n, 2) of the part that touches the floor; None in the air.

        Heel: a disc of radius 0.11 F about the heel centre. Ball: an ellipse about the ball, half-axes
        0.40 B across and 0.14 F along. Flat: the whole sole.
        """
        if contact is Contact.AIR:
            return None
        if contact is Contact.FLAT:
            return self.outlines[side]
        angles = np.linspace(0.0, 2 * math.pi, 28, endpoint=False)
        ring = np.column_stack([np.sin(angles), np.cos(angles)])
        if contact is Contact.HEEL:
            return np.asarray(ring * (0.11 * self.of(side)))
        length = self.of(side)
        return np.asarray(ring * (0.40 * self.breadth, 0.14 * length) + (0.0, LANDMARKS["ball"] * length))

    def patch_centre(
        self, side: Ints | Side, contact: Ints | Contact, x: Floats | float, y: Floats | float, heading: Floats | float
    ) -> tuple[Floats, Floats]:
        """Centroid k of a contact patch on the floor, x and y in metres; for arrays of feet as for one."""
        local = self.centroids[side, contact]
        angle = np.radians(heading)
        cos, sin = np.cos(angle), np.sin(angle)
        return np.asarray(x + local[..., 0] * cos + local[..., 1] * sin), np.asarray(
            y - local[..., 0] * sin + local[..., 1] * cos
        )

    def placed(self, local: Floats, x: Floats | float, y: Floats | float, heading: Floats | float) -> Floats:
        """Local points (n, 2) on the floor, for one placing or for m of them: (n, 2) or (m, n, 2)."""
        angle = np.radians(np.asarray(heading, dtype=float))[..., None]
        cos, sin = np.cos(angle), np.sin(angle)
        across, along = local[:, 0], local[:, 1]
        return np.stack(
            [
                np.asarray(x, dtype=float)[..., None] + across * cos + along * sin,
                np.asarray(y, dtype=float)[..., None] - across * sin + along * cos,
            ],
            axis=-1,
        )


def pivoted(x: float, y: float, point: tuple[float, float], turn: float) -> tuple[float, float]:
    """The heel centre after a pivot of *turn* degrees about *point*: h' = p + R(turn)(h - p)."""
    dx, dy = rotated(x - point[0], y - point[1], turn)
    return point[0] + dx, point[1] + dy


def centroid(outline: Floats) -> Floats:
    """Centroid (2,) of the area inside a closed polygon (n, 2): the shoelace formula."""
    after = np.roll(outline, -1, axis=0)
    cross = outline[:, 0] * after[:, 1] - after[:, 0] * outline[:, 1]
    return np.asarray(((outline + after) * cross[:, None]).sum(axis=0) / (3.0 * cross.sum()))


def _smooth(points: Floats) -> Floats:
    """A closed curve through the points (Catmull-Rom), `_SMOOTH` points for each."""
    before, after = np.roll(points, 1, axis=0), np.roll(points, -1, axis=0)
    beyond = np.roll(points, -2, axis=0)
    t = np.linspace(0.0, 1.0, _SMOOTH, endpoint=False)[:, None, None]
    curve = 0.5 * (
        2 * points
        + (after - before) * t
        + (2 * before - 5 * points + 4 * after - beyond) * t**2
        + (3 * points - before - 3 * after + beyond) * t**3
    )
    # A spline may pass a hair outside the box of its points; the sole must not.
    low, high = points.min(axis=0), points.max(axis=0)
    return np.clip(curve.transpose(1, 0, 2).reshape(-1, 2), low, high)
