"""Answers about rooms reckoned another way: with Shapely, place by place, without anything of the room's own code."""

from __future__ import annotations

import math

import numpy as np
import shapely

from waltzmark.core.base.arrays import Floats
from waltzmark.core.form.room import Obstacle, Room, Start
from waltzmark.core.room.sweep import Sweep

__all__ = ["placed", "reckoned"]


def placed(points: Floats, start: Start) -> Floats:
    """Floor positions (m, 2) in the room, from a start."""
    angle = math.radians(start.heading)
    x, y = points[:, 0], points[:, 1]
    turned = np.column_stack([x * math.cos(angle) + y * math.sin(angle), y * math.cos(angle) - x * math.sin(angle)])
    return np.asarray(turned + (start.x, start.y))


def _away(thing: Obstacle, geometries: object) -> Floats:
    """How far geometries are from a thing's edge, negative within it: a round one is its middle and its radius."""
    if thing.centre is not None:
        return np.asarray(shapely.distance(shapely.Point(thing.centre), geometries) - thing.radius)
    shape = shapely.Polygon(thing.outline)
    shapely.prepare(shape)
    away = shapely.distance(shape.exterior, geometries)
    return np.asarray(np.where(shapely.intersects(shape, geometries), -away, away))


def _spare(room: Room, geometries: object, high: np.ndarray) -> Floats:
    """How far geometries are from the walls and all things, negative in and beyond them."""
    walls = shapely.Polygon(room.outline)
    shapely.prepare(walls)
    away = shapely.distance(walls.exterior, geometries)
    spare = np.where(shapely.covers(walls, geometries), away, -away)
    for each in (*room.obstacles, *room.kept_free):
        spare = np.minimum(spare, np.where(high & (each.kind == "low"), np.inf, _away(each, geometries)))
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

    def stopped(on: float, these: np.ndarray) -> np.ndarray:
        """Those of some places that could not go on so far: what stops one sooner stops it later too."""
        lines = shapely.linestrings(np.stack([points[back][these], points[back][these] + on * ways[these]], axis=1))
        return np.asarray(these[_spare(room, lines, every.high[back][these]) < needs[these] - 1e-7])

    left = stopped(further, np.arange(len(back)))
    if not len(left):
        return least, least >= room.clearance - 1e-9
    low, high = 0.0, further
    while high - low > 1e-4:
        middle = (low + high) / 2.0
        sooner = stopped(middle, left)
        low, high, left = (low, middle, sooner) if len(sooner) else (middle, high, left)
    behind = room.clearance + low
    if behind - room.behind < min(least - room.clearance, 0.0):
        return behind, False
    return least, False
