"""The room: its walls, what stands in it, and where in it the walk begins."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from waltzmark.core.base.angles import rotated
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError

__all__ = ["Obstacle", "Room", "Start"]

Point = tuple[float, float]
LARGEST = 1000.0
"""No room is larger than this, metres."""


@dataclass(frozen=True)
class Start:
    """Where the start mark lies in the room, metres from its corner, and where 12 o'clock points, degrees."""

    x: float = 0.0
    y: float = 0.0
    heading: float = 0.0


@dataclass(frozen=True)
class Obstacle:
    """Something that stands in the room: a polygon of at least three corners, metres."""

    name: str
    outline: tuple[Point, ...]


@dataclass(frozen=True)
class Room:
    """A floor with its walls, in metres from the room's own corner.

    clearance: metres wanted between the swept space and anything else. boards: spacing of the floor's lines in
    metres; tiles: whether they run both ways.
    """

    name: str
    outline: tuple[Point, ...]
    start: Start
    obstacles: tuple[Obstacle, ...] = ()
    clearance: float = 0.0
    boards: float = 0.12
    tiles: bool = False

    def __post_init__(self) -> None:
        check_outline(self.outline, "room outline")
        for obstacle in self.obstacles:
            check_outline(obstacle.outline, f"outline of {obstacle.name!r}")

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
    """Numbers of the corners before the first two sides that touch without being neighbours."""
    sides = list(zip(outline, outline[1:] + outline[:1], strict=True))
    for i, (a, b) in enumerate(sides):
        if a == b:
            return i + 1, i + 1
        for j in range(i + 1, len(sides)):
            c, d = sides[j]
            if j == i + 1 or (i == 0 and j == len(sides) - 1):
                if _folds_back(a, b, c, d):
                    return i + 1, j + 1
                continue
            if _touch(a, b, c, d):
                return i + 1, j + 1
    return None


def _side(a: Point, b: Point, p: Point) -> float:
    return (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])


def _between(a: Point, b: Point, p: Point) -> bool:
    return min(a[0], b[0]) <= p[0] <= max(a[0], b[0]) and min(a[1], b[1]) <= p[1] <= max(a[1], b[1])


def _touch(a: Point, b: Point, c: Point, d: Point) -> bool:
    s1, s2, s3, s4 = _side(a, b, c), _side(a, b, d), _side(c, d, a), _side(c, d, b)
    if s1 * s2 < 0 and s3 * s4 < 0:
        return True
    return any(s == 0 and _between(*e, p) for s, e, p in (
        (s1, (a, b), c), (s2, (a, b), d), (s3, (c, d), a), (s4, (c, d), b)
    ))  # fmt: skip


def _folds_back(a: Point, b: Point, c: Point, d: Point) -> bool:
    """Whether two neighbouring sides lie on each other."""
    shared, first, second = (b, a, d) if b == c else (a, b, c)
    if _side(shared, first, second) != 0:
        return False
    one = (first[0] - shared[0], first[1] - shared[1])
    two = (second[0] - shared[0], second[1] - shared[1])
    return one[0] * two[0] + one[1] * two[1] > 0
