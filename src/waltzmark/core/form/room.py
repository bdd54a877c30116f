"""The room: its walls, what stands in it, and where in it the walk begins."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from waltzmark.core.base.angles import rotated
from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.errors import WaltzmarkError

__all__ = ["Door", "Obstacle", "Room", "Start"]

Point = tuple[float, float]
LARGEST = 1000.0
"""No room is larger than this, metres."""

#: From so many corners on an outline is looked through by Shapely first.
_MANY = 60


@dataclass(frozen=True)
class Start:
    """Where the start mark lies in the room, metres from its corner, and where 12 o'clock points, degrees."""

    x: float = 0.0
    y: float = 0.0
    heading: float = 0.0


@dataclass(frozen=True)
class Obstacle:
    """Something that stands in the room: a polygon of at least three corners, metres. kind: *solid*; *low*, which arms
    pass above; or *support*, solid and wanted near."""

    name: str
    outline: tuple[Point, ...]
    kind: Literal["solid", "low", "support"] = "solid"


@dataclass(frozen=True)
class Door:
    """A leaf of so many metres in a wall, by the number of the corner the wall begins at; its hinge is *at* metres from
    that corner. One that swings *inward* is kept free."""

    wall: int
    at: float
    leaf: float
    inward: bool = True


@dataclass(frozen=True)
class Room:
    """A floor with its walls, in metres from the room's own corner.

    clearance: metres wanted between the swept space and anything else. boards: spacing of the floor's lines in
    metres; tiles: whether they run both ways. arms: whether the arms' reach counts. walls: names of walls, by the
    number of the corner each begins at, from 0. doors: in the walls.
    """

    name: str
    outline: tuple[Point, ...]
    start: Start
    obstacles: tuple[Obstacle, ...] = ()
    clearance: float = 0.0
    boards: float = 0.12
    tiles: bool = False
    arms: bool = False
    walls: tuple[tuple[int, str], ...] = ()
    doors: tuple[Door, ...] = ()

    def __post_init__(self) -> None:
        check_outline(self.outline, "room outline")
        for number, name in self.walls:
            if not 0 <= number < len(self.outline):
                raise WaltzmarkError(
                    f"the wall {name!r} begins at corner {number}; this room's are 0 to {len(self.outline) - 1}"
                )
        for obstacle in self.obstacles:
            check_outline(obstacle.outline, f"outline of {obstacle.name!r}")

        for door in self.doors:
            if not 0 <= door.wall < len(self.outline):
                raise WaltzmarkError(f"a door is in wall {door.wall}; this room's are 0 to {len(self.outline) - 1}")
            a, b = self.outline[door.wall], self.outline[(door.wall + 1) % len(self.outline)]
            if not 0 <= door.at <= door.at + door.leaf <= math.dist(a, b) + 1e-6:
                raise WaltzmarkError(
                    f"a leaf of {door.leaf:g} m, {door.at:g} m from corner {door.wall}, is longer than what is left of "
                    f"its wall, {math.dist(a, b):g} m long"
                )

    @property
    def kept_free(self) -> tuple[Obstacle, ...]:
        """What the leaves that swing inward need, a quarter of a disc each, as things to keep out of."""
        return tuple(self._leaf(door) for door in self.doors if door.inward)

    def _leaf(self, door: Door) -> Obstacle:
        (ax, ay), (bx, by) = self.outline[door.wall], self.outline[(door.wall + 1) % len(self.outline)]
        length = math.hypot(bx - ax, by - ay)
        ux, uy = (bx - ax) / length, (by - ay) / length
        pairs = zip(self.outline, self.outline[1:] + self.outline[:1], strict=True)
        inward = 1.0 if sum(x1 * y2 - x2 * y1 for (x1, y1), (x2, y2) in pairs) > 0 else -1.0  # to the left, or right
        hinge = (ax + door.at * ux, ay + door.at * uy)
        angles = (math.radians(degrees) for degrees in range(0, 91, 9))
        arc = (
            (hinge[0] + door.leaf * (math.cos(t) * ux - inward * math.sin(t) * uy),
             hinge[1] + door.leaf * (math.cos(t) * uy + inward * math.sin(t) * ux))
            for t in angles
        )  # fmt: skip
        name = dict(self.walls).get(door.wall)
        return Obstacle(f"door in the {name}" if name else "door", (hinge, *arc))

    def to_room(self, points: Floats) -> Floats:
        """Floor positions (..., 2) in the room frame."""
        turned = rotated_points(points, self.start.heading)
        return turned + (self.start.x, self.start.y)

    def to_floor(self, points: Floats) -> Floats:
        """Room positions (..., 2) in the floor frame, metres from the start mark."""
        return rotated_points(points - np.array((self.start.x, self.start.y)), -self.start.heading)


def rotated_points(points: Floats, degrees: float) -> Floats:
    """Points (..., 2) turned clockwise about the origin."""
    x, y = rotated(1.0, 0.0, degrees), rotated(0.0, 1.0, degrees)
    return np.asarray(points @ np.array([x, y]))


def check_outline(outline: tuple[Point, ...], what: str) -> None:
    """Raises WaltzmarkError saying where an outline has too few corners, is impossibly large or crosses itself."""
    if len(outline) < 3:
        raise WaltzmarkError(f"{what} needs at least three corners, it has {len(outline)}")
    for number, (x, y) in enumerate(outline, 1):
        if not (math.isfinite(x) and math.isfinite(y) and max(abs(x), abs(y)) <= LARGEST):
            raise WaltzmarkError(f"{what}: corner {number} at ({x:g}, {y:g}) m is not within {LARGEST:g} m")
    crossing = _first_crossing(outline)
    if crossing:
        first, second = crossing
        raise WaltzmarkError(
            f"{what} crosses itself: the side after corner {first} meets the side after corner {second}; "
            "list the corners in order around the floor"
        )
    area = sum(x1 * y2 - x2 * y1 for (x1, y1), (x2, y2) in zip(outline, outline[1:] + outline[:1], strict=True)) / 2
    if abs(area) < 1e-4:
        raise WaltzmarkError(f"{what} has no floor in it: its corners lie on one line")


def _first_crossing(outline: tuple[Point, ...]) -> tuple[int, int] | None:
    """Numbers of the corners before the first two sides that touch without being neighbours, or lie on each other."""
    n = len(outline)
    corners = np.array(outline, dtype=float)
    after = np.roll(corners, -1, axis=0)
    empty = np.flatnonzero((corners == after).all(axis=1))
    if len(empty):
        return int(empty[0]) + 1, int(empty[0]) + 1
    if n > _MANY:
        import shapely  # it sweeps over the sides instead of holding each against each, but brings a slow import

        if shapely.is_simple(shapely.linearrings(corners)):
            return None
    touches = _touching(corners, after)
    number = np.arange(n)
    apart = (number[None, :] - number[:, None]) % n
    touches &= (apart > 1) & (apart < n - 1)
    # Neighbours share a corner: they lie on each other where the second goes back along the first.
    way = after - corners
    on = np.roll(way, -1, axis=0)
    back = (_cross(way, on) == 0) & ((way * on).sum(axis=1) < 0)
    touches[number[back], (number[back] + 1) % n] = True
    found = np.argwhere(touches)
    if not len(found):
        return None
    first, second = sorted((int(found[0][0]), int(found[0][1])))
    return first + 1, second + 1


def _cross(a: Floats, b: Floats) -> Floats:
    return np.asarray(a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0])


def _touching(starts: Floats, ends: Floats) -> Bools:
    """(n, n) whether two of n sides, from starts to ends (n, 2), have a point in common."""
    way = ends - starts
    # Row i, column j: on which side of side i the ends of side j lie.
    s1, s2 = (_cross(way[:, None], to[None, :] - starts[:, None]) for to in (starts, ends))
    low, high = np.minimum(starts, ends), np.maximum(starts, ends)

    def within(points: Floats) -> Bools:
        return np.asarray(((low[:, None] <= points[None, :]) & (points[None, :] <= high[:, None])).all(axis=2))

    meets = ((s1 == 0) & within(starts)) | ((s2 == 0) & within(ends))  # an end of side j lies on side i
    across = s1 * s2 < 0
    return np.asarray((across & across.T) | meets | meets.T)
