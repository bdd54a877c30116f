"""What a walk must keep clear of: the walls around it, obstacles and doors; how far any place is from each."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property, lru_cache
from typing import NamedTuple

import numpy as np

from waltzmark.core.base.angles import normal
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.messages import Heading, Message, message
from waltzmark.core.base.records import Record
from waltzmark.core.form.outlines import turns_left
from waltzmark.core.form.room import Obstacle, Point, Room

__all__ = ["Thing", "Things", "called", "named_wall", "things_of", "wall_heading", "wall_name"]

_APART = 0.05  # metres from which one sees which of two walls is further
_TILE = 48  # points of a raster, each way, that are looked at together
_NEAR = 6  # things of which one is near enough to tell which others can be nearest
_AT_ONCE = 30_000  # pairs of a place and an edge that are looked at together: what fits into the cache


class _Edges(NamedTuple):
    """The edges of some polygons, one after another: a row for each, which is as long as there are places.

    start: (2, n, 1) where they begin; way: (2, n, 1) from there to the next corner; squares: (n, 1) of their lengths;
    slope: (n, 1) metres to the right for one up, 0 where an edge is level; after: (n,) the number of the next one;
    first: (p,) of each polygon's first; around: (p, 1) whether its free side is within it.
    """

    start: Floats
    way: Floats
    squares: Floats
    slope: Floats
    after: Ints
    first: Ints
    around: Bools

    @staticmethod
    def of(things: Sequence[Thing]) -> _Edges:
        """Those of some things that are no circles."""
        many = np.array([len(thing.corners) for thing in things])
        corners, last = np.concatenate([thing.corners for thing in things]), np.cumsum(many) - 1
        after = np.arange(1, len(corners) + 1)
        after[last] = last + 1 - many
        way = (corners[after] - corners).T[:, :, None]
        level = way[1] == 0.0
        slope = np.where(level, 0.0, way[0] / np.where(level, 1.0, way[1]))
        around = np.array([[thing.around] for thing in things])
        return _Edges(corners.T[:, :, None], way, (way**2).sum(axis=0), slope, after, last + 1 - many, around)

    def distances(self, points: Floats) -> Floats:
        """(p, m) signed distance in metres of places (m, 2) from each polygon, positive on the free side."""
        step = max(_AT_ONCE // len(self.after), 1)
        if len(points) <= step:
            return self._distances(points)
        return np.concatenate([self._distances(points[at : at + step]) for at in range(0, len(points), step)], axis=1)

    def _distances(self, points: Floats) -> Floats:
        # One array for each axis.
        rx, ry = points[:, 0] - self.start[0], points[:, 1] - self.start[1]
        along = rx * self.way[0] + ry * self.way[1]
        along /= self.squares
        np.minimum(np.maximum(along, 0.0, out=along), 1.0, out=along)
        dx, dy = rx - along * self.way[0], ry - along * self.way[1]
        distance = np.sqrt(np.minimum.reduceat(dx * dx + dy * dy, self.first, axis=0))
        # A line from the place to the right crosses an odd number of edges when it is inside; it crosses no level one.
        above = ry < 0.0
        over = above != above[self.after]
        over &= rx < ry * self.slope
        inside = np.logical_xor.reduceat(over, self.first, axis=0)
        return np.asarray(np.where(inside == self.around, distance, -distance))


class _Boxes(NamedTuple):
    """Rectangles along the axes: (2, b, 1) their least and greatest corners, (b, 1) whether they are around."""

    low: Floats
    high: Floats
    around: Bools

    @staticmethod
    def of(things: Sequence[Thing]) -> _Boxes:
        low, high = (np.array([thing.bounds[end] for thing in things]).T[:, :, None] for end in (0, 1))
        return _Boxes(low, high, np.array([[thing.around] for thing in things]))

    def distances(self, points: Floats) -> Floats:
        """(b, m) as of polygons, without looking at sides one by one."""
        x, y = points[:, 0], points[:, 1]
        beyond_x = np.maximum(self.low[0] - x, x - self.high[0])  # negative within
        beyond_y = np.maximum(self.low[1] - y, y - self.high[1])
        distance = np.maximum(beyond_x, beyond_y)
        corner = (beyond_x > 0.0) & (beyond_y > 0.0)
        distance[corner] = np.hypot(beyond_x[corner], beyond_y[corner])
        return np.asarray(np.where(self.around, -distance, distance))


class _Circles(NamedTuple):
    """(2, c, 1) middles and (c, 1) radii."""

    centres: Floats
    radii: Floats

    @staticmethod
    def of(things: Sequence[Thing]) -> _Circles:
        centres, radii = np.array([thing.centre for thing in things]), np.array([thing.radius for thing in things])
        return _Circles(centres.T[:, :, None], radii[:, None])

    def distances(self, points: Floats) -> Floats:
        """(c, m) as of polygons."""
        return np.asarray(np.hypot(points[:, 0] - self.centres[0], points[:, 1] - self.centres[1]) - self.radii)


class Thing(Record, eq=False, dict=True):
    """One thing, in the room frame, metres.

    name: of an obstacle, None of the walls; corners: (n, 2) of a polygon, or none for a circle. around: whether the
    free side is within it, as for the walls; low: whether arms pass above it.
    """

    name: Message | None
    corners: Floats
    centre: tuple[float, float] = (0.0, 0.0)
    radius: float = 0.0
    around: bool = False
    low: bool = False

    @cached_property
    def bounds(self) -> Floats:
        """(2, 2) the corners of the box it lies in."""
        if self.radius:
            return np.array(self.centre) + np.array([[-1.0, -1.0], [1.0, 1.0]]) * self.radius
        return np.stack([self.corners.min(axis=0), self.corners.max(axis=0)])

    @cached_property
    def is_box(self) -> bool:
        """Whether it is a rectangle with its sides along the axes."""
        if len(self.corners) != 4:
            return False
        (wide, high), way = self.bounds[1] - self.bounds[0], np.roll(self.corners, -1, axis=0) - self.corners
        return bool((np.abs(way).min(axis=1) == 0.0).all() and np.isclose(np.abs(way).sum(), 2 * (wide + high)))

    def distances(self, points: Floats) -> Floats:
        """(m,) signed distance in metres of places (m, 2), positive on the free side."""
        return np.asarray(self._shape.distances(points)[0])

    @cached_property
    def _shape(self) -> _Circles | _Boxes | _Edges:
        return _shape(self).of([self])

    def nearest(self, point: Floats) -> Floats:
        """(2,) the point of its edge nearest to a place (2,)."""
        if self.radius:
            away = point - self.centre
            far = float(np.hypot(*away))
            return np.asarray(self.centre + (away / far if far > 1e-12 else np.array([1.0, 0.0])) * self.radius)
        way = np.roll(self.corners, -1, axis=0) - self.corners
        along = np.clip(((point - self.corners) * way).sum(axis=1) / (way**2).sum(axis=1), 0.0, 1.0)
        feet = self.corners + along[:, None] * way
        return np.asarray(feet[int(np.argmin(np.hypot(*(feet - point).T)))])


def _shape(thing: Thing) -> type[_Circles | _Boxes | _Edges]:
    if thing.radius:
        return _Circles
    return _Boxes if thing.is_box else _Edges


class Things(Record, eq=False, dict=True):
    """Everything in a room that a walk must keep clear of, the walls first."""

    every: tuple[Thing, ...]

    @property
    def bounds(self) -> Floats:
        """(2, 2) the corners of the box around the walls."""
        return self.every[0].bounds

    def distances(self, points: Floats) -> Floats:
        """(t, m) signed distances in metres of places (m, 2) from each thing, all at once: for a few places."""
        found = np.empty((len(self.every), len(points)))
        for which, kind in self._kinds:
            found[which] = kind.distances(points)
        return found

    @cached_property
    def _kinds(self) -> list[tuple[Ints, _Circles | _Boxes | _Edges]]:
        """The things by their shapes, with their numbers."""
        kinds: dict[type[_Circles | _Boxes | _Edges], list[int]] = {}
        for number, thing in enumerate(self.every):
            kinds.setdefault(_shape(thing), []).append(number)
        return [(np.array(which), kind.of([self.every[n] for n in which])) for kind, which in kinds.items()]

    @cached_property
    def low(self) -> Bools:
        """(t, 1) of which arms pass above."""
        return np.array([[each.low] for each in self.every])

    def free(self, points: Floats, high: bool = False) -> Floats:
        """(m,) how far places (m, 2) are from the nearest thing, metres; for *high* ones what is low does not count."""
        return _least(self._of(high), points)

    def free_on(self, x: Floats, y: Floats, high: bool = False) -> Floats:
        """(ny, nx) the same on a raster, x: (nx,), y: (ny,).

        Of each part of it only those things are looked at that can be the nearest anywhere in it.
        """
        things, found = self._of(high), np.empty((len(y), len(x)))
        low, top = (np.stack([thing.bounds[end] for thing in things]) for end in (0, 1))
        around = np.array([thing.around for thing in things])
        for row in range(0, len(y), _TILE):
            for column in range(0, len(x), _TILE):
                xs, ys = x[column : column + _TILE], y[row : row + _TILE]
                first, last = np.array([xs[0], ys[0]]), np.array([xs[-1], ys[-1]])
                apart = np.hypot(*np.maximum(np.maximum(low - last, first - top), 0.0).T)
                apart[around | (apart == 0.0)] = -np.inf  # it may be inside of these, where a distance is negative
                near = np.argsort(apart)[:_NEAR]
                middle = ((first + last) / 2.0)[None, :]
                # Nowhere in it is the nearest further away than this.
                most = float(_least([things[at] for at in near], middle)[0]) + float(np.hypot(*(last - first))) / 2.0
                grid = np.stack(np.meshgrid(xs, ys), axis=-1).reshape(-1, 2)
                those = [thing for thing, far in zip(things, apart, strict=True) if far <= most]
                found[row : row + _TILE, column : column + _TILE] = _least(those, grid).reshape(len(ys), len(xs))
        return found

    def _of(self, high: bool) -> list[Thing]:
        return [thing for thing in self.every if not (high and thing.low)]


def _least(things: Sequence[Thing], points: Floats) -> Floats:
    """(m,) how far places are from the nearest of some things."""
    least = np.full(len(points), np.inf)
    for thing in things:
        np.minimum(least, thing.distances(points), out=least)
    return least


def things_of(room: Room) -> Things:
    """The things in a room. They are made once, wherever its walk begins."""
    return _made(room.outline, room.obstacles, room.kept_free)


@lru_cache(maxsize=16)
def _made(outline: tuple[Point, ...], obstacles: tuple[Obstacle, ...], free: tuple[Obstacle, ...]) -> Things:
    walls = Thing(None, np.array(outline, dtype=float), around=True)
    return Things((walls, *(_thing(each) for each in (*obstacles, *free))))


def _thing(obstacle: Obstacle) -> Thing:
    low = obstacle.kind == "low"
    if obstacle.centre is not None:
        return Thing(called(obstacle.name), np.zeros((0, 2)), obstacle.centre, obstacle.radius, low=low)
    return Thing(called(obstacle.name), np.array(obstacle.outline, dtype=float), low=low)


def called(name: str) -> Message:
    """What an obstacle is called in a sentence; one whose name ends in a number needs no article."""
    return message("thing.numbered" if name[-1:].isdigit() else "thing.named", name=name)


def wall_name(room: Room, place: Floats) -> Message:
    """The wall nearest to a place (2,) of the room: its name, else the facing one looks at it in."""
    corners = np.array(room.outline, dtype=float)
    way = np.roll(corners, -1, axis=0) - corners
    along = np.clip(((place - corners) * way).sum(axis=1) / (way**2).sum(axis=1), 0.0, 1.0)
    number = int(np.argmin(np.hypot(*(corners + along[:, None] * way - place).T)))
    return named_wall(room, number)


def named_wall(room: Room, number: int) -> Message:
    """A wall by its name, else by the facing one looks at it in; no two walls of a room are called alike."""
    return _wall_names(room.outline, room.walls, room.start.heading)[number]


@lru_cache(maxsize=32)
def _wall_names(outline: tuple[Point, ...], walls: tuple[tuple[int, str], ...], turned: float) -> tuple[Message, ...]:
    """What each wall is called from a start turned so many degrees.

    Told apart by where they face; those that face the same way by which is further left as one looks at them, or else
    nearer.
    """
    headings = [normal(wall_heading(outline, number) - turned) for number in range(len(outline))]
    own = dict(walls)
    # To the half hour, as it is said, unless that would be said of another wall too.
    rough = [normal(round(heading / 15.0) * 15.0) for heading in headings]
    at = [
        Heading(coarse if rough.count(coarse) == 1 else normal(round(exact)))
        for coarse, exact in zip(rough, headings, strict=True)
    ]
    called_ = [own.get(number, "").casefold() for number in range(len(outline))]

    def kind_of(number: int) -> Message:
        if number not in own:
            return message("wall.at", at=at[number])
        if called_.count(called_[number]) == 1:
            return message("wall.named", name=own[number])
        return message("wall.named-at", name=own[number], at=at[number])

    kinds = [kind_of(number) for number in range(len(outline))]
    names = [message("wall", wall=kind) for kind in kinds]
    for kind in {kind for kind in kinds if kinds.count(kind) > 1}:
        alike = [number for number, other in enumerate(kinds) if other == kind]
        for number, (which, n) in zip(alike, _told_apart(outline, alike), strict=True):
            names[number] = message(f"wall.{which}", wall=kind, n=n)
    taken: dict[Message, int] = {}
    for number, name in enumerate(names):  # whatever somebody called them
        taken[name] = taken.get(name, 0) + 1
        names[number] = name if taken[name] == 1 else message("wall.again", wall=name, n=taken[name])
    return tuple(names)


def _told_apart(outline: tuple[Point, ...], walls: list[int]) -> list[tuple[str, int]]:
    """What tells each of some walls that face the same way from the others.

    As one looks at them from within, and its number in that order, from 1.
    """
    angle = np.radians(wall_heading(outline, walls[0]))
    corners = np.array(outline, dtype=float)
    middles = ((corners + np.roll(corners, -1, axis=0)) / 2.0)[walls]
    right = middles @ np.array([np.cos(angle), -np.sin(angle)])
    far = middles @ np.array([np.sin(angle), np.cos(angle)])
    for along, pair, many in ((right, ("left", "right"), "from-left"), (far, ("nearer", "farther"), "nearest")):
        order = np.argsort(along, kind="stable")
        if len(walls) > 1 and np.diff(along[order]).min() < _APART:
            continue
        place = np.argsort(order).tolist()
        if len(walls) == 2:
            return [(pair[each], each + 1) for each in place]
        return [(many, each + 1) for each in place]
    order = np.lexsort((far, right))  # some are in line with each other: row by row
    return [("row", each + 1) for each in np.argsort(order).tolist()]


def wall_heading(outline: tuple[Point, ...], number: int) -> float:
    """The heading in the room frame in which one looks straight at a wall from within, degrees."""
    (ax, ay), (bx, by) = outline[number], outline[(number + 1) % len(outline)]
    along = float(np.degrees(np.arctan2(bx - ax, by - ay)))
    return normal(along + (90.0 if turns_left(outline) else -90.0))
