"""What a walk must keep clear of: the walls around it, obstacles and doors; how far any place is from each."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property, lru_cache

import numpy as np

from waltzmark.core.base.angles import normal
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.messages import Heading, Message, message
from waltzmark.core.base.records import Record
from waltzmark.core.form.outlines import turns_left
from waltzmark.core.form.room import Obstacle, Point, Room

__all__ = ["Thing", "Things", "called", "named_wall", "things_of", "wall_heading", "wall_name"]

_APART = 0.05  # metres from which one sees which of two walls is further
_TILE = 48  # points of a raster, each way, that are looked at together
_NEAR = 6  # things of which one is near enough to tell which others can be nearest
_AT_ONCE = 30_000  # pairs of a place and an edge that are looked at together: what fits into the cache


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
        if self.radius:
            return np.asarray(np.hypot(*(points - self.centre).T) - self.radius)
        step = max(_AT_ONCE // len(self.corners), 1)
        parts = [self._polygon(points[at : at + step]) for at in range(0, len(points), step)]
        return np.concatenate(parts) if parts else np.zeros(0)

    def _polygon(self, points: Floats) -> Floats:
        if self.is_box:
            return self._box(points)
        start, way, wide = self._edges
        # One array for each axis: a row for each edge, which is as long as there are places.
        rx, ry = points[:, 0] - start[0], points[:, 1] - start[1]
        along = rx * way[0] + ry * way[1]
        along /= wide
        np.clip(along, 0.0, 1.0, out=along)
        dx, dy = rx - along * way[0], ry - along * way[1]
        distance = np.sqrt((dx * dx + dy * dy).min(axis=0))
        # A line from the place to the right crosses an odd number of edges when it is inside.
        above = ry < 0.0
        over = above != np.roll(above, -1, axis=0)
        with np.errstate(divide="ignore", invalid="ignore"):
            right = rx < ry * (way[0] / way[1])
        inside = np.logical_xor.reduce(over & right, axis=0)
        return np.asarray(np.where(inside == self.around, distance, -distance))

    @cached_property
    def _edges(self) -> tuple[Floats, Floats, Floats]:
        """(2, n, 1) where its edges begin, (2, n, 1) their ways, and (n, 1) the squares of their lengths."""
        way = np.roll(self.corners, -1, axis=0) - self.corners
        return self.corners.T[:, :, None], way.T[:, :, None], (way**2).sum(axis=1)[:, None]

    def _box(self, points: Floats) -> Floats:
        """The same for a rectangle along the axes, without looking at its sides one by one."""
        (low_x, low_y), (high_x, high_y) = self.bounds
        x, y = points[:, 0], points[:, 1]
        beyond_x, beyond_y = np.maximum(low_x - x, x - high_x), np.maximum(low_y - y, y - high_y)  # negative within
        distance = np.maximum(beyond_x, beyond_y)
        corner = (beyond_x > 0.0) & (beyond_y > 0.0)
        distance[corner] = np.hypot(beyond_x[corner], beyond_y[corner])
        return np.asarray(-distance if self.around else distance)

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


class Things(Record, eq=False):
    """Everything in a room that a walk must keep clear of, the walls first."""

    every: tuple[Thing, ...]

    @property
    def bounds(self) -> Floats:
        """(2, 2) the corners of the box around the walls."""
        return self.every[0].bounds

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
