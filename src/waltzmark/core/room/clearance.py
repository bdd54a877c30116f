"""Does the walk fit the room? The swept space against walls and obstacles.

Shapely takes a moment to import, so this module is imported when a room is first asked about.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from waltzmark.core.base.angles import normal
from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.form.room import Room
from waltzmark.core.room.sweep import Shapes, Swept, swept_space
from waltzmark.core.walk.trace import Trace

__all__ = ["RoomCheck", "check_room"]


@dataclass(frozen=True)
class RoomCheck:
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


def check_room(trace: Trace, room: Room, swept: Swept | None = None, say: Figures = PLAIN) -> RoomCheck:
    """Whether the walk fits the room from its start, with the least clearance and where it is."""
    swept = swept_space(trace, room.arms) if swept is None else swept
    walls = room.to_floor(np.array(room.outline, dtype=float))
    every = np.arange(len(swept.rows))
    best = _Nearest(every, *_inside(swept, Polygon(walls)), "")
    bounds = shapely.bounds(swept.shapes)
    for obstacle in (*room.obstacles, *room.kept_free):
        shape = Polygon(room.to_floor(np.array(obstacle.outline, dtype=float)))
        above = swept.high & (obstacle.kind == "low")  # arms pass above what is low
        near = np.flatnonzero((_least(bounds, shape) - swept.margins < best.clearance) & ~above)
        if len(near):  # what is further away than the nearest so far need not be measured
            found = _Nearest(near, *_outside(swept, near, shape), f"the {obstacle.name}")
            best = found if found.clearance < best.clearance else best
    what = best.what or _wall_name(room, walls, best.place, say)
    fits = best.clearance >= room.clearance - 1e-9
    return RoomCheck(fits, best.clearance, room.clearance, what, int(swept.rows[best.shape]), best.place)


class _Nearest:
    """Of shapes (k,) with their clearances (k,) to a thing, and where (k, 2), the one that comes nearest."""

    def __init__(self, shapes: Ints, clear: Floats, points: Floats, what: str) -> None:
        at = int(np.argmin(clear))
        self.shape, self.clearance, self.what = int(shapes[at]), float(clear[at]), what
        self.place = (float(points[at, 0]), float(points[at, 1]))


def _least(bounds: Floats, shape: Polygon) -> Floats:
    """(m,) what the distance of shapes within boxes (m, 4) to a shape is at least; negative where they may overlap."""
    low_x, low_y, high_x, high_y = shape.bounds
    dx = np.maximum(np.maximum(low_x - bounds[:, 2], bounds[:, 0] - high_x), 0.0)
    dy = np.maximum(np.maximum(low_y - bounds[:, 3], bounds[:, 1] - high_y), 0.0)
    apart = np.hypot(dx, dy)
    return np.asarray(np.where(apart > 0.0, apart, -min(high_x - low_x, high_y - low_y)))


def _inside(swept: Swept, outline: Polygon) -> tuple[Floats, Floats]:
    """Clearance (m,) of each shape to the walls around it, and (m, 2) where."""
    ring = outline.exterior
    shapely.prepare(outline)
    clear = shapely.distance(swept.shapes, ring)
    points = _nearest(swept.shapes, ring)
    out = np.flatnonzero(~shapely.covers(outline, swept.shapes))
    if len(out):
        clear[out], points[out] = _depth(swept.shapes[out], outline)
    return clear - swept.margins, points


def _outside(swept: Swept, which: Ints, shape: Polygon) -> tuple[Floats, Floats]:
    """Clearance (k,) of some of the swept shapes to something they must keep out of, and (k, 2) where."""
    shapely.prepare(shape)
    shapes = swept.shapes[which]
    clear = shapely.distance(shapes, shape)
    points = _nearest(shapes, shape)
    inside = np.flatnonzero(clear <= 0.0)
    if len(inside):
        overlap = shapely.intersection(shapes[inside], shape)
        # A body that stands still is a line without length, which nothing intersects.
        overlap = np.where(shapely.is_empty(overlap), shapes[inside], overlap)
        clear[inside], points[inside] = _depth(overlap, shape.exterior)
    return clear - swept.margins[which], points


def _depth(shapes: Shapes, beyond: LineString | Polygon) -> tuple[Floats, Floats]:
    """(k,) how far the furthest corner of each shape lies from what it should be beyond or within, as a negative
    clearance, and (k, 2) that corner."""
    corners, of = shapely.get_coordinates(shapes, return_index=True)
    depth = shapely.distance(shapely.points(corners), beyond)
    order = np.lexsort((np.arange(len(depth)), -depth, of))  # the deepest of each shape first
    _, first = np.unique(of[order], return_index=True)
    deepest = order[first]
    return -depth[deepest], corners[deepest]


def _nearest(shapes: Shapes, thing: LineString | Polygon) -> Floats:
    """(m, 2) the point of *thing* nearest to each shape."""
    lines = shapely.shortest_line(shapes, thing)
    return np.asarray(shapely.get_coordinates(lines).reshape(-1, 2, 2)[:, 1], dtype=float)


def _wall_name(room: Room, walls: Floats, place: tuple[float, float], say: Figures) -> str:
    """The wall nearest to a place: its name, else the facing one looks at it in."""
    sides = shapely.linestrings(np.stack([walls, np.roll(walls, -1, axis=0)], axis=1))
    nearest = int(np.argmin(shapely.distance(sides, shapely.points(place))))
    if (name := dict(room.walls).get(nearest)) is not None:
        return f"the {name}"
    a, b = walls[nearest], walls[(nearest + 1) % len(walls)]
    heading = float(np.degrees(np.arctan2(b[0] - a[0], b[1] - a[1])))
    counter_clockwise = shapely.is_ccw(shapely.linearrings(walls))
    facing = say.toward(normal(round(heading + (90 if counter_clockwise else -90))))
    return f"the wall at {facing}" + (" o'clock" if say.facings in ("clock", "own") else "")
