"""Room to room: walls, corners and what stands there, moved and measured. What cannot be raises WaltzmarkError."""

from __future__ import annotations

import math
from collections.abc import Iterable

import numpy as np

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
from waltzmark.core.form.outlines import turns_left
from waltzmark.core.form.room import Door, Obstacle, Point, Room, Start, rotated_points

__all__ = [
    "box_of",
    "made_room",
    "move_corner",
    "move_door",
    "move_obstacle",
    "resize_obstacle",
    "set_wall_length",
    "split_wall",
    "without_corner",
    "without_door",
]

_LEAST = 0.05  # metres of a wall


def made_room(name: str, width: float, depth: float) -> Room:
    """A rectangular room, the start in its middle, a hand's breadth nearer to the wall behind."""
    outline = ((0.0, 0.0), (width, 0.0), (width, depth), (0.0, depth))
    return Room(name, outline, Start(round(width / 2.0, 2), round(depth / 2.0 - 0.1, 2)), clearance=0.1)


def _point(x: float, y: float) -> Point:
    return round(x, 4) + 0.0, round(y, 4) + 0.0


def _down(metres: float) -> float:
    """To a tenth of a millimetre and never more: a leaf that is rounded up is longer than its wall."""
    return math.floor(1e4 * metres + 1e-4) / 1e4


def _kept_in(outline: tuple[Point, ...], every: Iterable[Door]) -> tuple[Door, ...]:
    """Doors kept in their walls, moved along where a wall has become too short for them."""
    doors = []
    for door in every:
        length = math.dist(outline[door.wall], outline[(door.wall + 1) % len(outline)])
        if length < 0.1:
            continue
        leaf = min(door.leaf, _down(length))
        doors.append(replace(door, leaf=leaf, at=max(min(door.at, _down(length - leaf)), 0.0)))
    return tuple(doors)


def _reshaped(room: Room, corners: list[Point]) -> Room:
    outline = tuple(corners)
    return replace(room, outline=outline, doors=_kept_in(outline, room.doors))


def move_corner(room: Room, number: int, x: float, y: float) -> Room:
    """Puts a corner elsewhere."""
    corners = list(room.outline)
    corners[number] = _point(x, y)
    return _reshaped(room, corners)


def set_wall_length(room: Room, number: int, metres: float) -> Room:
    """Make a wall so long, from its first corner on.

    The wall after it moves along in parallel, so that a rectangle stays one.
    """
    if not _LEAST <= metres <= 1000.0:
        raise WaltzmarkError("room.wall-length", least=_LEAST, metres=metres)
    corners, n = list(room.outline), len(room.outline)
    (ax, ay), (bx, by) = room.wall(number)
    length = math.dist((ax, ay), (bx, by))
    dx, dy = (bx - ax) / length * (metres - length), (by - ay) / length * (metres - length)
    for each in ((number + 1) % n, (number + 2) % n) if n > 3 else ((number + 1) % n,):
        corners[each] = _point(corners[each][0] + dx, corners[each][1] + dy)
    made = _reshaped(room, corners)
    if inside(room, room.start.x, room.start.y) and not inside(made, made.start.x, made.start.y):
        made = replace(made, start=_start_within(room, made))
    return made


def _start_within(before: Room, after: Room) -> Start:
    """The start as far along and across the room as it was: who measures a room must not find it behind a wall."""
    places = []
    for axis, at in enumerate((before.start.x, before.start.y)):
        old, new = ([corner[axis] for corner in room.outline] for room in (before, after))
        share = (at - min(old)) / max(max(old) - min(old), 1e-9)
        places.append(min(new) + share * (max(new) - min(new)))
    return replace(before.start, x=_point(*places)[0], y=_point(*places)[1])


def split_wall(room: Room, number: int, x: float, y: float) -> Room:
    """Puts a new corner into a wall.

    Names and doors stay with the part they are in, a door that is cut in two with the part that has more of it.
    """
    a, b = room.wall(number)
    at = min(max(_along(a, b, (x, y)), 0.0), math.dist(a, b))
    corner = _point(a[0] + (b[0] - a[0]) * at / math.dist(a, b), a[1] + (b[1] - a[1]) * at / math.dist(a, b))
    corners = (*room.outline[: number + 1], corner, *room.outline[number + 1 :])
    walls = tuple((wall + (wall > number), name) for wall, name in room.walls)
    doors = []
    for door in room.doors:
        if door.wall == number and door.at + 0.5 * door.leaf >= at:
            doors.append(replace(door, wall=number + 1, at=max(round(door.at - at, 4), 0.0)))
        else:
            doors.append(replace(door, wall=door.wall + (door.wall > number)))
    return replace(room, outline=corners, walls=walls, doors=_kept_in(corners, doors))


def without_corner(room: Room, number: int) -> Room:
    """Takes a corner out; the wall before it goes on to the next one, and keeps its name and doors."""
    if len(room.outline) <= 3:
        raise WaltzmarkError("room.corners")
    corners = (*room.outline[:number], *room.outline[number + 1 :])
    gone = number
    walls = tuple((wall - (wall > gone), name) for wall, name in room.walls if wall != gone)
    doors = tuple(replace(door, wall=door.wall - (door.wall > gone)) for door in room.doors if door.wall != gone)
    if gone == 0:  # the wall before the first corner is the last
        walls = tuple((wall, name) for wall, name in walls if 0 <= wall < len(corners))
    return replace(room, outline=corners, walls=walls, doors=_kept_in(corners, doors))


def _along(a: Point, b: Point, place: Point) -> float:
    """How far along from a to b a place lies, metres."""
    length = math.dist(a, b)
    return ((place[0] - a[0]) * (b[0] - a[0]) + (place[1] - a[1]) * (b[1] - a[1])) / length


def move_obstacle(obstacle: Obstacle, dx: float, dy: float, turn: float = 0.0) -> Obstacle:
    """Moves an obstacle, and turns it clockwise about its middle."""
    if obstacle.centre is not None:
        return replace(obstacle, centre=_point(obstacle.centre[0] + dx, obstacle.centre[1] + dy))
    corners = np.array(obstacle.outline)
    middle = (corners.min(axis=0) + corners.max(axis=0)) / 2.0
    moved = rotated_points(corners - middle, turn) + middle + (dx, dy)
    return replace(obstacle, outline=tuple(_point(x, y) for x, y in moved.tolist()))


def box_of(obstacle: Obstacle) -> tuple[float, float, float, float]:
    """The box an obstacle lies in: its left and near side, its width and its depth, metres."""
    corners = np.array(obstacle.ring)
    (x, y), (right, far) = corners.min(axis=0).tolist(), corners.max(axis=0).tolist()
    return x, y, right - x, far - y


def resize_obstacle(obstacle: Obstacle, width: float, depth: float) -> Obstacle:
    """Makes an obstacle so wide and deep, its left near corner staying; a circle takes the width for its diameter."""
    if min(width, depth) < 0.02:
        raise WaltzmarkError("room.obstacle-size")
    x, y, wide, deep = box_of(obstacle)
    if obstacle.centre is not None:
        return replace(obstacle, radius=round(width / 2.0, 4), centre=_point(x + width / 2.0, y + width / 2.0))
    corners = (np.array(obstacle.outline) - (x, y)) * (width / wide, depth / deep) + (x, y)
    return replace(obstacle, outline=tuple(_point(a, b) for a, b in corners.tolist()))


def move_door(room: Room, number: int, x: float, y: float) -> Room:
    """Moves a door to the wall nearest to a place, its middle as near to it as there is room."""
    door = room.doors[number]
    best, found = math.inf, door
    for wall in range(len(room.outline)):
        a, b = room.wall(wall)
        length = math.dist(a, b)
        if length < door.leaf:
            continue
        along = min(max(_along(a, b, (x, y)), 0.0), length)
        foot = (a[0] + (b[0] - a[0]) * along / length, a[1] + (b[1] - a[1]) * along / length)
        if math.dist(foot, (x, y)) < best:
            at = min(max(along - door.leaf / 2.0, 0.0), length - door.leaf)
            best, found = math.dist(foot, (x, y)), replace(door, wall=wall, at=_down(at))
    return replace(room, doors=(*room.doors[:number], found, *room.doors[number + 1 :]))


def without_door(room: Room, number: int) -> Room:
    """Takes a door out."""
    return replace(room, doors=(*room.doors[:number], *room.doors[number + 1 :]))


def inside(room: Room, x: float, y: float) -> bool:
    """Whether a place lies within the walls."""
    found = False
    for (ax, ay), (bx, by) in zip(room.outline, room.outline[1:] + room.outline[:1], strict=True):
        if (ay > y) != (by > y) and x < ax + (y - ay) * (bx - ax) / (by - ay):
            found = not found
    return found


def left_of_wall(room: Room) -> float:
    """1 where the floor lies to the left of each wall, from its first corner on; else -1."""
    return 1.0 if turns_left(room.outline) else -1.0
