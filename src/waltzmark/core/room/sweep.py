"""The space a walk sweeps on the floor: soles on their way, and the body above them.

Shapely takes a moment to import, so this module is imported when a room is first asked about.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import MultiPolygon, Polygon

from waltzmark.core.base.angles import ahead
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import Side
from waltzmark.core.walk.annotations import hands_at, kicks_out
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.motion import feet_between
from waltzmark.core.walk.trace import Trace

__all__ = ["SHOE_MARGIN", "Shapes", "Swept", "swept_space"]

#: Shapely's geometries, (m,).
Shapes = np.ndarray[tuple[int], np.dtype[np.object_]]

#: How far a shoe stands out around the sole, metres.
SHOE_MARGIN = 0.03
_SAMPLES = 9
_SOLE_STEP = 4  # every so many points of the drawn outline are enough for clearances


@dataclass(frozen=True, eq=False)
class Swept:
    """The space a walk sweeps, in the floor frame, before margins.

    shapes: (m,) soles, as hulls of neighbouring samples, and paths of the pelvis centre; rows: (m,) the row each
    belongs to; margins: (m,) metres each reaches beyond its shape: a shoe's margin, or the body's radius; high: (m,)
    whether it is of the arms, which pass above what is low.
    """

    shapes: Shapes
    rows: Ints
    margins: Floats
    high: Bools

    def area(self) -> MultiPolygon | Polygon:
        """The union of it all with its margins, for drawing."""
        return shapely.union_all(shapely.buffer(self.shapes, self.margins, quad_segs=6))


def swept_space(trace: Trace, arms: bool = False) -> Swept:
    """What soles and body sweep from count to count, and the arms where they count.

    A sole's sweep is the union of the convex hulls of neighbouring samples of it. The body is a disc of half the
    shoulder breadth about the pelvis centre, which is taken to move straight from count to count.
    """
    sole, radius = trace.body.sole, trace.body.shoulder_breadth / 2.0
    shapes: list[object] = []
    rows: list[Ints] = []
    for side in Side:
        local = sole.outlines[side][::_SOLE_STEP]
        placed, of = _samples(trace, side)
        corners = sole.placed(local, placed[:, 0], placed[:, 1], placed[:, 2])
        # Each shape joins a sample to the one before it in the same count; still feet give one each.
        joined = np.concatenate([corners[:1], corners[:-1]])
        same = np.concatenate([[True], of[1:] == of[:-1]])
        joined[~same] = corners[~same]
        # Hulls of lines through the points: a line needs no object for each of its points.
        shapes.append(shapely.convex_hull(shapely.linestrings(np.concatenate([corners, joined], axis=1))))
        rows.append(of)
    centres = Mechanics(trace).pelvis_places
    before = np.concatenate([centres[:1], centres[:-1]])
    shapes.append(shapely.linestrings(np.stack([before, centres], axis=1)))
    rows.append(np.arange(len(trace)))
    feet = len(rows[0]) + len(rows[1])
    margins = np.concatenate([np.full(feet, SHOE_MARGIN), np.full(len(trace), radius)])
    if kicks := kicks_out(trace):
        # A leg that kicks sweeps the floor below it, from the pelvis to the foot.
        legs = [[centres[row], centres[row] + mark.reach * np.array(ahead(mark.heading))] for row, mark in kicks]
        shapes.append(shapely.linestrings(np.array(legs)))
        rows.append(np.array([row for row, _ in kicks], dtype=np.int64))
        margins = np.append(margins, np.full(len(kicks), SHOE_MARGIN + trace.body.foot_breadth / 2.0))
    low = len(margins)
    if arms:
        lines, of, reach = _arms(trace, centres)
        shapes.append(shapely.linestrings(lines))
        rows.append(of)
        margins = np.append(margins, reach)
    high = np.arange(len(margins)) >= low
    return Swept(np.concatenate(shapes), np.concatenate(rows), margins, high)  # type: ignore[arg-type]


def _arms(trace: Trace, centres: Floats) -> tuple[Floats, Ints, Floats]:
    """Lines (k, 2, 2) from the pelvis to where the hands reach, the row of each (k,), and metres (k,) about them.

    A hand that is stated reaches half the shoulder breadth and 0.85 of the arm from the pelvis centre, the way it
    points; where a hand is not, the arms reach 0.35 of the stature all round (assumption). What is held adds to both.
    """
    body = trace.body
    far = body.shoulder_breadth / 2.0 + 0.85 * body.measure("arm") + body.implement
    lines: list[list[Floats]] = []
    of: list[int] = []
    reach: list[float] = []
    for row, centre in enumerate(centres):
        hands = hands_at(trace, row)
        for hand in hands:
            lines.append([centre, centre + far * np.array(ahead(hand.heading))])
            of.append(row)
            reach.append(0.0)
        if len(hands) < 2:
            lines.append([centre, centre])
            of.append(row)
            reach.append(0.35 * body.stature + body.implement)
    return np.array(lines), np.array(of, dtype=np.int64), np.array(reach)


def _samples(trace: Trace, side: Side) -> tuple[Floats, Ints]:
    """Placings (m, 3) of one foot through the walk, x, y and heading, and (m,) the row of each."""
    rows, placed = feet_between(trace, side, np.linspace(0.0, 1.0, _SAMPLES))
    opening = np.array([[*trace.heels[0, side], trace.headings[0, side]]])
    return np.concatenate([opening, placed.reshape(-1, 3)]), np.concatenate([[0], np.repeat(rows, _SAMPLES)])
