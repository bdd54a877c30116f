"""Answers about rooms reckoned another way: with Shapely, place by place, without anything of the room's own code."""

from __future__ import annotations

import math

import numpy as np
import shapely

from waltzmark.core.base.arrays import Floats
from waltzmark.core.form.room import Room, Start
from waltzmark.core.room.sweep import Sweep

__all__ = ["free_shapes", "placed", "reckoned"]


def placed(points: Floats, start: Start) -> Floats:
    """Floor positions (m, 2) in the room, from a start."""
    angle = math.radians(start.heading)
    x, y = points[:, 0], points[:, 1]
    turned = np.column_stack([x * math.cos(angle) + y * math.sin(angle), y * math.cos(angle) - x * math.sin(angle)])
    return np.asarray(turned + (start.x, start.y))


def free_shapes(room: Room) -> list[tuple[shapely.Geometry, bool]]:
    """Everything in a room but its walls, and whether arms pass above it. Circles are drawn with many corners."""
    found: list[tuple[shapely.Geometry, bool]] = []
    for each in (*room.obstacles, *room.kept_free):
        if each.centre is not None:
            shape = shapely.buffer(shapely.Point(each.centre), each.radius, quad_segs=400)
        else:
            shape = shapely.Polygon(each.outline)
        found.append((shape, each.kind == "low"))
    return found


def _spare(room: Room, points: object, high: np.ndarray) -> Floats:
    """How far geometries are from the walls and all things, negative in and beyond them."""
    walls = shapely.Polygon(room.outline)
    away = shapely.distance(walls.exterior, points)
    spare = np.where(shapely.covers(walls, points), away, -away)
    for shape, low in free_shapes(room):
        away = shapely.distance(shape.exterior, points)
        here = np.where(shapely.intersects(shape, points), -away, away)
        spare = np.minimum(spare, np.where(high & low, np.inf, here))
    return np.asarray(spare)


def reckoned(sweep: Sweep, room: Room, start: Start) -> tuple[float, bool]:
    """The clearance of a start and whether it fits: of every place by itself; and of every place where a foot steps
    backward, how far it could go on so before it came nearer to anything than is wanted around, to half a
    millimetre."""
    every = sweep.every
    points = placed(every.points, start)
    spare = _spare(room, shapely.points(points), every.high) - every.radii
    least = float(spare.min())
    further = room.behind - room.clearance
    back = np.flatnonzero(~np.isnan(every.back) & (spare >= room.clearance))
    if further <= 0 or not len(back):
        return least, least >= room.clearance - 1e-9
    angle = np.radians(every.back[back] + start.heading)
    ways = np.column_stack([np.sin(angle), np.cos(angle)])
    needs = every.radii[back] + room.clearance

    def stopped(on: float) -> np.ndarray:
        lines = shapely.linestrings(np.stack([points[back], points[back] + on * ways], axis=1))
        return np.asarray(_spare(room, lines, every.high[back]) < needs - 1e-7)

    if not stopped(further).any():
        return least, least >= room.clearance - 1e-9
    low, high = 0.0, further
    while high - low > 1e-4:
        middle = (low + high) / 2.0
        low, high = (low, middle) if stopped(middle).any() else (middle, high)
    behind = room.clearance + low
    if behind - room.behind < min(least - room.clearance, 0.0):
        return behind, False
    return least, False
