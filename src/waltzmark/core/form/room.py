"""The room: its walls, what stands in it, and where in it the walk begins."""

from __future__ import annotations

import math
from typing import Literal

import numpy as np

from waltzmark.core.base.angles import rotated
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.outlines import LARGEST, Point, check_outline, turns_left

__all__ = ["BEHIND", "KINDS", "LARGEST", "Break", "Door", "FloorLines", "Kind", "Obstacle", "Point", "Room", "Start"]

Kind = Literal["solid", "low", "support"]
KINDS: tuple[Kind, ...] = ("solid", "low", "support")
#: Metres wanted behind a backward step unless a room says otherwise.
BEHIND = 0.30
_RING = 48  # corners a circle is drawn with


class Start(Record):
    """Where the start mark lies in the room, metres from its corner, and where 12 o'clock points, degrees."""

    x: float = 0.0
    y: float = 0.0
    heading: float = 0.0


class Obstacle(Record):
    """Something that stands in the room: a polygon of at least three corners, or a circle, metres.

    kind: *solid*; *low*, which arms pass above; or *support*, solid and wanted near.
    """

    name: str
    outline: tuple[Point, ...] = ()
    kind: Kind = "solid"
    centre: Point | None = None
    radius: float = 0.0

    @property
    def ring(self) -> tuple[Point, ...]:
        """Its corners; for a circle, enough points of it to draw."""
        if self.centre is None:
            return self.outline
        angles = (2 * math.pi * k / _RING for k in range(_RING))
        x, y = self.centre
        return tuple((x + self.radius * math.cos(a), y + self.radius * math.sin(a)) for a in angles)


class Door(Record):
    """A leaf of so many metres in a wall, by the number of the corner the wall begins at.

    Its hinge is *at* metres from that corner. One that swings *inward* is kept free.
    """

    wall: int
    at: float
    leaf: float
    inward: bool = True


class FloorLines(Record):
    """The lines of the floor.

    spacing: metres between boards, or between the joints of *tiles* across; other: between the joints along, 0 for the
    same. direction: degrees clockwise from the room's y axis that they run along; offset: metres of the first line from
    the room's corner, across and along.
    """

    spacing: float = 0.12
    tiles: bool = False
    other: float = 0.0
    direction: float = 0.0
    offset: Point = (0.0, 0.0)

    @property
    def spacings(self) -> tuple[float, ...]:
        """Metres between lines across, and along where there are joints that way."""
        return (self.spacing, self.other or self.spacing) if self.tiles else (self.spacing,)


class Break(Record):
    """Where the walk breaks off before a posture, to go on from another mark in the room.

    mark: where one stands then, midway between the heels, and where 12 o'clock points.
    """

    posture: str
    mark: Start


class Room(Record):
    """A floor with its walls, in metres from the room's own corner.

    clearance: metres wanted between the swept space and anything else; behind: at least so much behind backward steps.
    lines: boards or tiles; tape: pieces of tape on the floor, from one end to the other. arms: whether the arms' reach
    counts. walls: names of walls, by the number of the corner each begins at, from 0. doors: in the walls. breaks:
    postures before which the walker goes back to another mark.
    """

    name: str
    outline: tuple[Point, ...]
    start: Start
    obstacles: tuple[Obstacle, ...] = ()
    clearance: float = 0.0
    behind: float = BEHIND
    lines: FloorLines = FloorLines()
    tape: tuple[tuple[Point, Point], ...] = ()
    arms: bool = False
    walls: tuple[tuple[int, str], ...] = ()
    doors: tuple[Door, ...] = ()
    breaks: tuple[Break, ...] = ()

    def __post_init__(self) -> None:
        check_outline(self.outline, message("outline.room"))
        for number, name in self.walls:
            if not 0 <= number < len(self.outline):
                raise WaltzmarkError("room.wall", name=name, corner=number, last=len(self.outline) - 1)
        for obstacle in self.obstacles:
            if obstacle.centre is None:
                check_outline(obstacle.outline, message("outline.obstacle", name=obstacle.name))
            elif not (0 < obstacle.radius <= 100 and _on_floor(*obstacle.centre)):
                raise WaltzmarkError("room.circle", name=obstacle.name, radius=obstacle.radius)

        for mark in (self.start, *(each.mark for each in self.breaks)):
            if not (_on_floor(mark.x, mark.y) and math.isfinite(mark.heading)):
                raise WaltzmarkError("room.mark", x=mark.x, y=mark.y, heading=mark.heading, most=LARGEST)
        for piece in self.tape:
            if not all(_on_floor(*end) for end in piece):
                raise WaltzmarkError("room.tape", most=LARGEST)
        for name, metres in (("clearance", self.clearance), ("behind", self.behind), ("spacing", self.lines.spacing)):
            if not (math.isfinite(metres) and abs(metres) <= LARGEST):
                raise WaltzmarkError("room.measure", name=name, most=LARGEST)
        for door in self.doors:
            if not 0 <= door.wall < len(self.outline):
                raise WaltzmarkError("room.door-wall", wall=door.wall, last=len(self.outline) - 1)
            length = math.dist(*self.wall(door.wall))
            if not 0 <= door.at <= door.at + door.leaf <= length + 1e-6:
                raise WaltzmarkError("room.door", leaf=door.leaf, at=door.at, corner=door.wall, length=length)

    def wall(self, number: int) -> tuple[Point, Point]:
        """The two corners of a wall."""
        return self.outline[number], self.outline[(number + 1) % len(self.outline)]

    @property
    def kept_free(self) -> tuple[Obstacle, ...]:
        """What the leaves that swing inward need, a quarter of a disc each, as things to keep out of."""
        return tuple(self._leaf(door) for door in self.doors if door.inward)

    def _leaf(self, door: Door) -> Obstacle:
        (ax, ay), (bx, by) = self.wall(door.wall)
        length = math.hypot(bx - ax, by - ay)
        ux, uy = (bx - ax) / length, (by - ay) / length
        inward = 1.0 if turns_left(self.outline) else -1.0  # to the left of the wall, or to its right
        hinge = (ax + door.at * ux, ay + door.at * uy)
        angles = (math.radians(degrees) for degrees in range(0, 91, 9))
        arc = (
            (
                hinge[0] + door.leaf * (math.cos(t) * ux - inward * math.sin(t) * uy),
                hinge[1] + door.leaf * (math.cos(t) * uy + inward * math.sin(t) * ux),
            )
            for t in angles
        )
        name = dict(self.walls).get(door.wall)
        return Obstacle(f"door in the {name}" if name else "door", (hinge, *arc))

    def begun_at(self, start: Start) -> Room:
        """The room with the walk begun elsewhere in it."""
        return replace(self, start=start)

    def to_room(self, points: Floats) -> Floats:
        """Floor positions (..., 2) in the room frame."""
        turned = rotated_points(points, self.start.heading)
        return turned + (self.start.x, self.start.y)

    def to_floor(self, points: Floats) -> Floats:
        """Room positions (..., 2) in the floor frame, metres from the start mark."""
        return rotated_points(points - np.array((self.start.x, self.start.y)), -self.start.heading)

    def to_lines(self, points: Floats) -> Floats:
        """Room positions (..., 2) in the frame of the floor's lines: metres across them from the first, and along."""
        return np.asarray(rotated_points(points, -self.lines.direction) - np.array(self.lines.offset))

    def from_lines(self, points: Floats) -> Floats:
        """Positions (..., 2) in the frame of the floor's lines in the room frame."""
        return rotated_points(points + np.array(self.lines.offset), self.lines.direction)


def _on_floor(x: float, y: float) -> bool:
    """Whether a place is one, and as near as anything in a room may be."""
    return abs(x) <= LARGEST and abs(y) <= LARGEST  # which no nan is


def rotated_points(points: Floats, degrees: float) -> Floats:
    """Points (..., 2) turned clockwise about the origin."""
    x, y = rotated(1.0, 0.0, degrees), rotated(0.0, 1.0, degrees)
    return np.asarray(points @ np.array([x, y]))
