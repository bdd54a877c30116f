"""Does the walk fit the room? The swept space of soles and body against walls and obstacles.

Shapely takes a moment to import, so this module is imported when a room is first asked about.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import LineString, MultiPolygon, Polygon

from waltzmark.core.base.angles import normal
from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.base.leftright import Side
from waltzmark.core.form.room import Room
from waltzmark.core.walk.motion import feet_between
from waltzmark.core.walk.trace import Trace

__all__ = ["SHOE_MARGIN", "Fit", "Swept", "check_room", "swept_space"]

#: How far a shoe stands out around the sole, metres.
SHOE_MARGIN = 0.03
_SAMPLES = 9
_SOLE_STEP = 4  # every so many points of the drawn outline are enough for clearances


@dataclass(frozen=True, eq=False)
class Swept:
    """The space a walk sweeps, in the floor frame, before margins.

    shapes: (m,) soles, as hulls of neighbouring samples, and paths of the pelvis centre; rows: (m,) the row each
    belongs to; margins: (m,) metres each reaches beyond its shape: a shoe's margin, or the body's radius.
    """

    shapes: np.ndarray[tuple[int], np.dtype[np.object_]]
    rows: Ints
    margins: Floats

    def area(self) -> MultiPolygon | Polygon:
        """The union of it all with its margins, for drawing."""
        return shapely.union_all(shapely.buffer(self.shapes, self.margins, quad_segs=6))


@dataclass(frozen=True)
class Fit:
    """Whether the walk fits, and where it comes closest.

    clearance: least distance in metres between the swept space and a wall or an obstacle, negative when it goes
    in or beyond; what: its name in words; row: the count; place: that point in the floor frame, metres.
    """

    fits: bool
    clearance: float
    wanted: float
    what: str
    row: int
    place: tuple[float, float]


def swept_space(trace: Trace) -> Swept:
    """What soles and body sweep from count to count.

    A sole's sweep is the union of the convex hulls of neighbouring samples of it. The body is a disc of half the
    shoulder breadth about the pelvis centre, which stands above the centre of pressure and is taken to move
    straight from count to count.
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
    centres = trace.centres
    before = np.concatenate([centres[:1], centres[:-1]])
    shapes.append(shapely.linestrings(np.stack([before, centres], axis=1)))
    rows.append(np.arange(len(trace)))
    feet = len(rows[0]) + len(rows[1])
    margins = np.concatenate([np.full(feet, SHOE_MARGIN), np.full(len(trace), radius)])
    return Swept(np.concatenate(shapes), np.concatenate(rows), margins)  # type: ignore[arg-type]


def _samples(trace: Trace, side: Side) -> tuple[Floats, Ints]:
    """Placings (m, 3) of one foot through the walk, x, y and heading, and (m,) the row of each."""
    rows, placed = feet_between(trace, side, np.linspace(0.0, 1.0, _SAMPLES))
    opening = np.array([[*trace.heels[0, side], trace.headings[0, side]]])
    return np.concatenate([opening, placed.reshape(-1, 3)]), np.concatenate([[0], np.repeat(rows, _SAMPLES)])


def check_room(trace: Trace, room: Room, swept: Swept | None = None, say: Figures = PLAIN) -> Fit:
    """Whether the walk fits the room from its start, with the least clearance and where it is."""
    swept = swept_space(trace) if swept is None else swept
    walls = room.to_floor(np.array(room.outline, dtype=float))
    outline = Polygon(walls)
    best: tuple[float, int, str, tuple[float, float]] | None = None
    clear, points = _inside(swept, outline)
    things = [(clear, points, "")]
    for obstacle in room.obstacles:
        shape = Polygon(room.to_floor(np.array(obstacle.outline, dtype=float)))
        things.append((*_outside(swept, shape), f"the {obstacle.name}"))
    for clear, points, name in things:
        at = int(np.argmin(clear))
        if best is None or clear[at] < best[0]:
            place = (float(points[at, 0]), float(points[at, 1]))
            best = (float(clear[at]), int(swept.rows[at]), name or _wall_name(walls, place, say), place)
    assert best is not None
    fits = best[0] >= room.clearance - 1e-9
    return Fit(fits, best[0], room.clearance, best[2], best[1], best[3])


def _inside(swept: Swept, outline: Polygon) -> tuple[Floats, Floats]:
    """Clearance (m,) of each shape to the walls around it, and (m, 2) where."""
    ring = outline.exterior
    shapely.prepare(outline)
    clear = shapely.distance(swept.shapes, ring)
    out = ~shapely.covers(outline, swept.shapes)
    points = _nearest(swept.shapes, ring)
    for index in np.flatnonzero(out):
        corners = shapely.points(shapely.get_coordinates(swept.shapes[index]))
        depth = shapely.distance(corners, outline)
        far = int(np.argmax(depth))
        clear[index] = -float(depth[far])
        points[index] = shapely.get_coordinates(corners[far])[0]
    return clear - swept.margins, points


def _outside(swept: Swept, shape: Polygon) -> tuple[Floats, Floats]:
    """Clearance (m,) of each swept shape to something it must keep out of, and (m, 2) where."""
    shapely.prepare(shape)
    clear = shapely.distance(swept.shapes, shape)
    points = _nearest(swept.shapes, shape)
    for index in np.flatnonzero(clear <= 0.0):
        overlap = shapely.intersection(swept.shapes[index], shape)
        corners = shapely.points(shapely.get_coordinates(overlap))
        depth = shapely.distance(corners, shape.exterior)
        deep = int(np.argmax(depth))
        clear[index] = -float(depth[deep])
        points[index] = shapely.get_coordinates(corners[deep])[0]
    return clear - swept.margins, points


def _nearest(shapes: np.ndarray[tuple[int], np.dtype[np.object_]], thing: LineString | Polygon) -> Floats:
    """(m, 2) the point of *thing* nearest to each shape."""
    lines = shapely.shortest_line(shapes, thing)
    return np.asarray(shapely.get_coordinates(lines).reshape(-1, 2, 2)[:, 1], dtype=float)


def _wall_name(walls: Floats, place: tuple[float, float], say: Figures) -> str:
    """The wall nearest to a place, by the facing one looks at it in."""
    sides = shapely.linestrings(np.stack([walls, np.roll(walls, -1, axis=0)], axis=1))
    nearest = int(np.argmin(shapely.distance(sides, shapely.points(place))))
    a, b = walls[nearest], walls[(nearest + 1) % len(walls)]
    heading = float(np.degrees(np.arctan2(b[0] - a[0], b[1] - a[1])))
    counter_clockwise = shapely.is_ccw(shapely.linearrings(walls))
    facing = say.toward(normal(round(heading + (90 if counter_clockwise else -90))))
    return f"the wall at {facing}" + (" o'clock" if say.facings in ("clock", "own") else "")
