"""The parts of a room a hand can take: corners, walls, what stands there, doors and tape."""

from __future__ import annotations

import math
from typing import NamedTuple

from PySide6.QtCore import QPointF

from waltzmark.core.base.records import replace
from waltzmark.core.edit import rooms
from waltzmark.core.form.room import Door, Obstacle, Point, Room, Start
from waltzmark.core.room.things import named_wall
from waltzmark.words import named
from waltzmark.words.figures import Figures
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence

__all__ = [
    "Part",
    "added",
    "described",
    "dragged",
    "held_at",
    "middle_of_wall",
    "on_wall",
    "part_at",
    "part_name",
    "parts_of_room",
    "removed",
    "with_door",
    "with_obstacle",
    "with_tape",
]


class Part(NamedTuple):
    """A part: *wall*, *corner*, *obstacle*, *size* of an obstacle, *door*, or *tape*; its number, and which end."""

    kind: str
    number: int
    end: int = 0


def parts_of_room(room: Room) -> list[Part]:
    """Everything that can be chosen by its name, in the order of a list."""
    return [
        *(Part("wall", n) for n in range(len(room.outline))),
        *(Part("obstacle", n) for n in range(len(room.obstacles))),
        *(Part("door", n) for n in range(len(room.doors))),
        *(Part("tape", n) for n in range(len(room.tape))),
    ]


def part_name(room: Room, part: Part, say: Figures) -> str:
    """What a part is called, within a sentence."""
    if part.kind in ("wall", "corner"):
        return sentence(named_wall(room, part.number), say)
    if part.kind in ("obstacle", "size"):
        return room.obstacles[part.number].name
    if part.kind == "door":
        return tr("the door in {wall}", wall=sentence(named_wall(room, room.doors[part.number].wall), say))
    return tr("a piece of tape")


def described(room: Room, part: Part, say: Figures) -> str:
    """A part in words, with its size."""
    if part.kind in ("wall", "corner"):
        return f"{sentence(named_wall(room, part.number), say)}: {say.length(math.dist(*room.wall(part.number)))}"
    if part.kind in ("obstacle", "size"):
        each = room.obstacles[part.number]
        _, _, wide, deep = rooms.box_of(each)
        size = (
            tr("{length} across", length=say.length(wide))
            if each.centre is not None
            else tr("{wide} × {deep}", wide=say.length(wide), deep=say.length(deep))
        )
        within = any(rooms.inside(room, *corner) for corner in each.ring)
        kind = named.kind_of_thing(each.kind)
        words = tr("{name}, {kind}: {size}", name=each.name, kind=kind, size=size)
        return words if within else tr("{thing} (outside the walls)", thing=words)
    if part.kind == "door":
        door = room.doors[part.number]
        wall = sentence(named_wall(room, door.wall), say)
        return (
            tr("Door in {wall}: {length}, opens in", wall=wall, length=say.length(door.leaf))
            if door.inward
            else tr("Door in {wall}: {length}, opens out", wall=wall, length=say.length(door.leaf))
        )
    return tr("Tape: {length}", length=say.length(math.dist(*room.tape[part.number])))


def middle_of_wall(room: Room, number: int, out: float = 0.0) -> Point:
    """The middle of a wall, so many metres outside it."""
    (ax, ay), (bx, by) = room.wall(number)
    length = math.dist((ax, ay), (bx, by))
    away = out * rooms.left_of_wall(room) / length
    return (ax + bx) / 2.0 + away * (by - ay), (ay + by) / 2.0 - away * (bx - ax)


def part_at(room: Room, at: QPointF, near: float, chosen: Part | None) -> Part | None:
    """What a hand takes at a place: handles first, then what stands there, then walls."""
    here = (at.x(), at.y())
    if chosen is not None and chosen.kind in ("obstacle", "size"):
        x, y, wide, deep = rooms.box_of(room.obstacles[chosen.number])
        if math.dist(here, (x + wide, y + deep)) <= near:
            return Part("size", chosen.number)
    for number, piece in enumerate(room.tape):
        for end in (0, 1):
            if math.dist(here, piece[end]) <= near:
                return Part("tape", number, end)
    for number, corner in enumerate(room.outline):
        if math.dist(here, corner) <= near:
            return Part("corner", number)
    for number, door in enumerate(room.doors):
        a, b = room.wall(door.wall)
        hinge, latch = on_wall(a, b, door.at), on_wall(a, b, door.at + door.leaf)
        if _from_line(here, hinge, latch) <= near:
            return Part("door", number)
    for number in range(len(room.obstacles) - 1, -1, -1):
        if rooms.inside(_as_room(room.obstacles[number]), *here):
            return Part("obstacle", number)
    for number in range(len(room.outline)):
        if math.dist(here, middle_of_wall(room, number, 1.6 * near)) <= 1.8 * near:
            return Part("wall", number)  # its figure
    for number in range(len(room.outline)):
        if _from_line(here, *room.wall(number)) <= near / 2.0:
            return Part("wall", number)
    return None


def _as_room(obstacle: Obstacle) -> Room:
    return Room("", obstacle.ring, Start())


def on_wall(a: Point, b: Point, far: float) -> Point:
    """The place so many metres from *a* toward *b*."""
    share = far / math.dist(a, b)
    return a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])


def _from_line(place: Point, a: Point, b: Point) -> float:
    length = math.dist(a, b)
    along = ((place[0] - a[0]) * (b[0] - a[0]) + (place[1] - a[1]) * (b[1] - a[1])) / length
    return math.dist(place, on_wall(a, b, min(max(along, 0.0), length)))


def held_at(room: Room, part: Part) -> Point:
    """Where keys take a part that they move: a door goes to where it is led, anything else as far as it is led."""
    if part.kind != "door":
        return 0.0, 0.0
    door = room.doors[part.number]
    return on_wall(*room.wall(door.wall), door.at + door.leaf / 2.0)


def dragged(room: Room, part: Part, start: QPointF, at: QPointF, free: bool) -> Room:
    """The room with a part dragged from one place to another, to whole centimetres unless *free*. Raises WaltzmarkError
    where that cannot be."""
    digits = 4 if free else 2
    moved = at - start

    def placed(point: Point) -> Point:
        return round(point[0] + moved.x(), digits), round(point[1] + moved.y(), digits)

    if part.kind == "corner":
        return rooms.move_corner(room, part.number, *placed(room.outline[part.number]))
    if part.kind == "wall":
        a, b = room.wall(part.number)
        length = math.dist(a, b)
        out = (moved.x() * (b[1] - a[1]) - moved.y() * (b[0] - a[0])) / length
        dx, dy = round(out, digits) * (b[1] - a[1]) / length, -round(out, digits) * (b[0] - a[0]) / length
        after = (part.number + 1) % len(room.outline)
        first = rooms.move_corner(room, part.number, a[0] + dx, a[1] + dy)
        return rooms.move_corner(first, after, b[0] + dx, b[1] + dy)
    if part.kind in ("obstacle", "size"):
        each = room.obstacles[part.number]
        if part.kind == "size":
            _, _, wide, deep = rooms.box_of(each)
            other = rooms.resize_obstacle(each, round(wide + moved.x(), digits), round(deep + moved.y(), digits))
        else:
            x, y, _, _ = rooms.box_of(each)
            to_x, to_y = placed((x, y))
            other = rooms.move_obstacle(each, to_x - x, to_y - y)
        return with_obstacle(room, part.number, other)
    if part.kind == "door":
        return rooms.move_door(room, part.number, at.x(), at.y())
    piece = list(room.tape[part.number])
    piece[part.end] = placed(piece[part.end])
    return with_tape(room, part.number, (piece[0], piece[1]))


def with_obstacle(room: Room, number: int, other: Obstacle | None) -> Room:
    """The room with another obstacle in the place of one, or without it."""
    kept = (other,) if other is not None else ()
    return replace(room, obstacles=(*room.obstacles[:number], *kept, *room.obstacles[number + 1 :]))


def with_tape(room: Room, number: int, piece: tuple[Point, Point] | None) -> Room:
    """The room with another piece of tape in the place of one, or without it."""
    kept = (piece,) if piece is not None else ()
    return replace(room, tape=(*room.tape[:number], *kept, *room.tape[number + 1 :]))


def with_door(room: Room, number: int, door: Door) -> Room:
    """The room with another door in the place of one."""
    return replace(room, doors=(*room.doors[:number], door, *room.doors[number + 1 :]))


def removed(room: Room, part: Part) -> Room:
    """The room without a part. Raises WaltzmarkError where it must stay."""
    if part.kind in ("obstacle", "size"):
        return with_obstacle(room, part.number, None)
    if part.kind == "door":
        return rooms.without_door(room, part.number)
    if part.kind == "tape":
        return with_tape(room, part.number, None)
    return rooms.without_corner(room, part.number)


def added(room: Room, kind: str, wall: int) -> tuple[Room, Part]:
    """The room with something new in it: *box*, *circle*, *door*, *tape*, or a *corner* in a wall; and that."""
    xs, ys = [x for x, _ in room.outline], [y for _, y in room.outline]
    x, y = round((min(xs) + max(xs)) / 2.0, 2), round((min(ys) + max(ys)) / 2.0, 2)
    names = {each.name for each in room.obstacles}
    name = next(tr("obstacle {n}", n=n) for n in range(1, 1000) if f"obstacle {n}" not in names)
    if kind == "box":
        box = Obstacle(name, ((x, y), (x + 0.6, y), (x + 0.6, y + 0.4), (x, y + 0.4)))
        return replace(room, obstacles=(*room.obstacles, box)), Part("obstacle", len(room.obstacles))
    if kind == "circle":
        ring = Obstacle(name, (), "solid", (x, y), 0.25)
        return replace(room, obstacles=(*room.obstacles, ring)), Part("obstacle", len(room.obstacles))
    if kind == "door":
        length = math.dist(*room.wall(wall))
        leaf = min(0.8, round(length, 2))
        door = Door(wall, round((length - leaf) / 2.0, 2), leaf)
        return replace(room, doors=(*room.doors, door)), Part("door", len(room.doors))
    if kind == "tape":
        piece = ((x - 0.5, y), (x + 0.5, y))
        return replace(room, tape=(*room.tape, piece)), Part("tape", len(room.tape))
    (ax, ay), (bx, by) = room.wall(wall)
    return rooms.split_wall(room, wall, (ax + bx) / 2.0, (ay + by) / 2.0), Part("corner", wall + 1)
