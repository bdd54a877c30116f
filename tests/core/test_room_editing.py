"""Rooms under the hand: whatever is moved, measured, put in or taken out, the rest stays what it was."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from PySide6.QtCore import QPointF

from tests.core.strategies import decimals
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.edit import rooms
from waltzmark.core.form.room import Door, Obstacle, Point, Room, Start
from waltzmark.desktop.room.parts import (
    Part,
    added,
    described,
    dragged,
    on_wall,
    part_at,
    parts_of_room,
    removed,
)
from waltzmark.words.figures import PLAIN


@st.composite
def made_rooms(draw: st.DrawFn) -> Room:
    """Rooms of three to seven corners about the place (4, 4), with names, doors, something in them and tape."""
    n = draw(st.integers(3, 7))
    turns = [2.0 * math.pi * (k + draw(decimals(-0.3, 0.3))) / n for k in range(n)]
    if draw(st.booleans()):
        turns.reverse()
    outline = []
    for turn in turns:
        far = draw(decimals(2.0, 3.9))
        outline.append((round(4.0 + far * math.cos(turn), 2), round(4.0 + far * math.sin(turn), 2)))
    bare = Room("Shed", tuple(outline), Start(4.0, 4.0))
    doors = []
    for wall in draw(st.lists(st.integers(0, n - 1), max_size=2, unique=True)):
        length = math.dist(*bare.wall(wall))
        leaf = round(min(0.8, length), 2) - 0.01
        doors.append(
            Door(wall, math.floor(1e4 * draw(decimals(0.0, 1.0)) * (length - leaf)) / 1e4, leaf, draw(st.booleans()))
        )
    x, y = draw(decimals(3.2, 4.2)), draw(decimals(3.2, 4.2))
    box = Obstacle("chest", ((x, y), (x + 0.6, y), (x + 0.6, y + 0.3), (x, y + 0.3)))
    ring = Obstacle("post", (), "low", (draw(decimals(3.5, 4.5)), draw(decimals(3.5, 4.5))), 0.2)
    walls = tuple((wall, f"wall {wall}") for wall in sorted(draw(st.sets(st.integers(0, n - 1)))))
    return replace(bare, walls=walls, doors=tuple(doors), obstacles=(box, ring), tape=(((3.0, 3.0), (3.5, 4.0)),))


ways = st.builds(QPointF, decimals(-0.5, 0.5, 3), decimals(-0.5, 0.5, 3))
HERE = QPointF(4.0, 4.0)


def grip(room: Room, part: Part) -> Point:
    """Where a hand takes a part."""
    if part.kind == "corner":
        return room.outline[part.number]
    if part.kind == "wall":
        return on_wall(*room.wall(part.number), 0.31 * math.dist(*room.wall(part.number)))
    if part.kind == "tape":
        return room.tape[part.number][part.end]
    if part.kind == "door":
        door = room.doors[part.number]
        return on_wall(*room.wall(door.wall), door.at + 0.5 * door.leaf)
    x, y, wide, deep = rooms.box_of(room.obstacles[part.number])
    return (x + wide, y + deep) if part.kind == "size" else (x + wide / 2.0, y + deep / 2.0)


@given(made_rooms(), st.data(), ways)
def test_a_wall_moves_at_right_angles_and_back_again(room: Room, data: st.DataObject, way: QPointF) -> None:
    number = data.draw(st.integers(0, len(room.outline) - 1))
    a, b = (np.array(end) for end in room.wall(number))
    normal = np.array([b[1] - a[1], a[0] - b[0]]) / np.hypot(*(b - a))
    moved = dragged(room, Part("wall", number), HERE, HERE + way, free=False)
    out = round(float(normal @ (way.x(), way.y())), 2)
    ends = {number: a + out * normal, (number + 1) % len(room.outline): b + out * normal}
    for each, corner in enumerate(moved.outline):
        assert corner == pytest.approx(ends.get(each, room.outline[each]), abs=2e-4)
    assert (moved.walls, moved.obstacles, moved.tape, moved.start) == (
        room.walls,
        room.obstacles,
        room.tape,
        room.start,
    )
    assert [(door.wall, door.inward) for door in moved.doors] == [(door.wall, door.inward) for door in room.doors]
    back = dragged(moved, Part("wall", number), HERE, HERE - QPointF(*(out * normal).tolist()), free=False)
    assert np.allclose(back.outline, room.outline, atol=3e-4)


@given(made_rooms(), st.data(), decimals(0.06, 6.0, 3))
def test_a_wall_gets_its_length_and_what_it_carries_stays_on_it(room: Room, data: st.DataObject, metres: float) -> None:
    number = data.draw(st.integers(0, len(room.outline) - 1))
    try:
        made = rooms.set_wall_length(room, number, metres)
    except WaltzmarkError as error:
        assume(error.message["what"] != message("outline.room"))  # its walls would cross; nothing else is in the way
        raise
    assert math.dist(*made.wall(number)) == pytest.approx(metres, abs=2e-4)
    for door in made.doors:
        was = next(old for old in room.doors if old.wall == door.wall)
        assert door.leaf <= was.leaf and door.at <= was.at
        assert 0.0 <= door.at <= door.at + door.leaf <= math.dist(*made.wall(door.wall)) + 1e-9
    if rooms.inside(made, room.start.x, room.start.y):
        assert made.start == room.start


@given(made_rooms(), st.data(), decimals(0.05, 0.95))
def test_a_corner_put_in_and_taken_out_leaves_the_room_as_it_was(room: Room, data: st.DataObject, at: float) -> None:
    number = data.draw(st.integers(0, len(room.outline) - 1))
    place = on_wall(*room.wall(number), at * math.dist(*room.wall(number)))
    split = rooms.split_wall(room, number, *place)
    assert split.outline[number + 1] == pytest.approx(place, abs=2e-4)
    assert {name for _, name in split.walls} == {name for _, name in room.walls}
    for wall, name in split.walls:  # a name stays at the corner where its wall begins
        assert (split.outline[wall], name) in [(room.outline[old], known) for old, known in room.walls]
    for old, new in zip(room.doors, split.doors, strict=True):  # and a door where it was, unless it was cut in two
        was, now = (on_wall(*of.wall(door.wall), door.at) for of, door in ((room, old), (split, new)))
        cut = old.wall == number and old.at < at * math.dist(*room.wall(number)) < old.at + old.leaf
        assert cut or now == pytest.approx(was, abs=5e-4)
    again = rooms.without_corner(split, number + 1)
    assert again.outline == room.outline and again.walls == room.walls
    if len(room.outline) == 3:
        with pytest.raises(WaltzmarkError, match="room.corners"):
            rooms.without_corner(room, number)


@given(made_rooms(), decimals(0.0, 8.0), decimals(0.0, 8.0))
def test_a_door_goes_to_the_nearest_wall_that_has_room_for_it(room: Room, x: float, y: float) -> None:
    assume(room.doors)
    moved = dragged(room, Part("door", 0), HERE, QPointF(x, y), free=False)
    door, was = moved.doors[0], room.doors[0]
    assert (door.leaf, door.inward, moved.doors[1:]) == (was.leaf, was.inward, room.doors[1:])
    tries = []  # every place of every wall, a centimetre apart
    for wall in range(len(room.outline)):
        a, b = room.wall(wall)
        length = math.dist(a, b)
        if length >= door.leaf:
            tries += [math.dist(on_wall(a, b, far), (x, y)) for far in np.arange(0.0, length + 0.005, 0.01).tolist()]
    a, b = room.wall(door.wall)
    length = math.dist(a, b)
    along = min(max(((x - a[0]) * (b[0] - a[0]) + (y - a[1]) * (b[1] - a[1])) / length, 0.0), length)
    assert math.dist(on_wall(a, b, along), (x, y)) <= min(tries) + 0.006
    middle = min(max(along, door.leaf / 2.0), length - door.leaf / 2.0)
    assert door.at + door.leaf / 2.0 == pytest.approx(middle, abs=1e-3)


@given(made_rooms(), ways, st.booleans())
def test_what_stands_there_is_carried_and_stretched(room: Room, way: QPointF, free: bool) -> None:
    for number, each in enumerate(room.obstacles):
        x, y, wide, deep = rooms.box_of(each)
        carried = dragged(room, Part("obstacle", number), HERE, HERE + way, free)
        assert rooms.box_of(carried.obstacles[number]) == pytest.approx(
            (x + way.x(), y + way.y(), wide, deep), abs=0.006
        )
        assert carried.obstacles[1 - number] == room.obstacles[1 - number]
        if min(wide + way.x(), deep + way.y()) < 0.026:
            if min(wide + way.x(), deep + way.y()) < 0.014:
                with pytest.raises(WaltzmarkError, match="room.obstacle-size"):
                    dragged(room, Part("size", number), HERE, HERE + way, free)
            continue
        stretched = dragged(room, Part("size", number), HERE, HERE + way, free).obstacles[number]
        across = (wide + way.x(), wide + way.x() if each.centre is not None else deep + way.y())
        box = rooms.box_of(stretched)
        assert box == pytest.approx((x, y, *across), abs=0.006) and (stretched.name, stretched.kind) == (
            each.name,
            each.kind,
        )


@given(made_rooms(), ways)
def test_a_piece_of_tape_moves_by_its_end_and_a_corner_alone(room: Room, way: QPointF) -> None:
    for end in (0, 1):
        moved = dragged(room, Part("tape", 0, end), HERE, HERE + way, free=True).tape[0]
        assert moved[1 - end] == room.tape[0][1 - end]
        assert math.dist(moved[end], room.tape[0][end]) == pytest.approx(math.hypot(way.x(), way.y()), abs=2e-4)
    moved_corner = dragged(room, Part("corner", 1), HERE, HERE + way, free=False).outline
    assert moved_corner[:1] + moved_corner[2:] == room.outline[:1] + room.outline[2:]
    assert all(round(value, 2) == value for value in moved_corner[1])


@given(made_rooms())
def test_a_hand_takes_what_it_is_on_and_every_part_can_be_taken_out(room: Room) -> None:
    near = 0.04
    parts = [*parts_of_room(room), *(Part("corner", n) for n in range(len(room.outline))), Part("tape", 0, 1)]
    order = ("size", "tape", "corner", "door", "obstacle", "wall")
    for part in parts:
        taken = part_at(room, QPointF(*grip(room, part)), near, None)
        assert taken is not None and order.index(taken.kind) <= order.index(part.kind)  # it, or what lies above it
        if taken.kind == part.kind == "tape":
            assert taken == part
        assert described(room, part, PLAIN)
        if part.kind in ("wall", "corner"):
            continue
        less = removed(room, part)
        left = {"obstacle": less.obstacles, "door": less.doors, "tape": less.tape}[part.kind]
        had = {"obstacle": room.obstacles, "door": room.doors, "tape": room.tape}[part.kind]
        assert left == had[: part.number] + had[part.number + 1 :]
        assert parts_of_room(less) != parts_of_room(room) and less.outline == room.outline
    ring = Part("obstacle", 1)
    at = QPointF(*grip(room, Part("size", 1)))
    over = part_at(room, at, near, ring)
    assert over == Part("size", 1)


@given(made_rooms(), st.sampled_from(["box", "circle", "door", "tape", "corner"]), st.data())
def test_what_is_put_in_is_there_and_can_be_taken_out_again(room: Room, kind: str, data: st.DataObject) -> None:
    wall = data.draw(st.integers(0, len(room.outline) - 1))
    more, part = added(room, kind, wall)
    assert (part in parts_of_room(more) and part not in parts_of_room(room)) or part.kind == "corner"
    assert removed(more, part).obstacles == room.obstacles and removed(more, part).tape == room.tape
    assert removed(more, part).outline == room.outline
    if kind in ("box", "circle"):
        names = [each.name for each in added(more, kind, wall)[0].obstacles]
        assert len(set(names)) == len(names) == len(room.obstacles) + 2
