"""What is laid on a floor and who stands on it: tape, a class, and the room measured and changed."""

from __future__ import annotations

import itertools
import math
from pathlib import Path
from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.edit import rooms
from waltzmark.core.edit.measuring import PACE, read_measure
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.room import Door, FloorLines, Obstacle, Room, Start, rotated_points
from waltzmark.core.room.clearance import clearance_at
from waltzmark.core.room.group import arranged, greatest
from waltzmark.core.room.offsets import Offsets
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.room.tape import SCATTER, _beside, fewest_ends, tape_plan, turning_ends
from waltzmark.core.score import read_score
from waltzmark.core.walk.ground import STEP
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document, read_file

DEMO = read_document(demo_text()).form
TRACE = walk(DEMO)
ROOMS = sorted((Path(__file__).parent.parent / "rooms").glob("*.waltz"))


def room_of(path: Path) -> Room:
    room = read_file(path).form.room
    assert room is not None
    return room


# Tape.


@pytest.mark.parametrize("path", ROOMS, ids=lambda path: path.stem)
def test_every_mark_can_be_found_again_from_its_measures(path: Path) -> None:
    room = room_of(path)
    form = replace(DEMO, room=room)
    plan = tape_plan(form, TRACE, [posture.id for posture in form.postures])
    assert len(plan) == 1 + 2 * len(form.postures) and plan[0].what.kind == "tape.start"
    assert plan[0].place == (room.start.x, room.start.y)
    corners = np.array(room.outline)
    way = np.roll(corners, -1, axis=0) - corners
    for mark in plan:
        place = np.array(mark.place)
        square = np.abs((place[0] - corners[:, 0]) * way[:, 1] - (place[1] - corners[:, 1]) * way[:, 0])
        square /= np.hypot(*way.T)
        assert all(np.abs(square - each).min() < 0.006 for each, _ in mark.square)
        far = np.hypot(*(corners - place).T)
        (left, _), (right, _) = mark.corner
        assert any(abs(far[n] - right) < 0.006 and abs(far[(n + 1) % len(far)] - left) < 0.006 for n in range(len(far)))
        into = [float(each["into"]) for each in mark.lines]  # type: ignore[arg-type]
        lines = room.to_lines(place)
        for axis, each in enumerate(into):
            spacing = room.lines.spacings[axis]
            assert (lines[axis] - each) / spacing == pytest.approx(round((lines[axis] - each) / spacing), abs=0.06)
            # The boards begin at the wall they are counted from, and there is a line where each of the others does.
            every = np.arange(-2000, 2000) * spacing
            least = room.to_lines(corners)[:, axis].min()
            between = (every > least + 1e-6) & (every <= lines[axis] + 1e-9)
            assert mark.lines[axis]["n"] == 1 + between.sum()
        assert len(into) == len(room.lines.spacings)
    row = int(TRACE.starts[TRACE.numbers["moor"] + 1]) - 1
    left_heel, right_heel = (next(m for m in plan if m.posture == "moor" and m.side is side) for side in Side)
    for mark, side in ((left_heel, Side.LEFT), (right_heel, Side.RIGHT)):
        assert mark.place == pytest.approx(room.to_room(TRACE.heels[row, side]).tolist())


@pytest.mark.parametrize("side", list(Side))
def test_a_piece_of_tape_is_ten_centimetres_long_and_off_the_sole_wherever_it_lies(side: Side) -> None:
    sole, row = TRACE.body.sole, len(TRACE) // 2
    foot = TRACE.pose(row).foot(side)
    printed = shapely.Polygon(sole.placed(sole.outlines[side], foot.x, foot.y, foot.heading))
    here = Room("", ((0.0, 0.0), (9.0, 0.0), (9.0, 9.0), (0.0, 9.0)), Start())
    middles = []
    for taken in range(4):  # places where somebody pivots: outside, behind, before, inside the foot

        class Pivots:
            def __init__(self, taken: int) -> None:
                self.asked, self.taken = 0, taken

            def query(self, points: object) -> tuple[Any, None]:
                self.asked += 1
                return np.array([0.0 if self.asked <= self.taken else 1.0]), None

        strip, clear = _beside(TRACE, side, here, row, Pivots(taken))
        line = shapely.LineString(strip)
        assert clear and line.length == pytest.approx(0.10) and 0.005 < line.distance(printed) < 0.06
        middles.append(strip.mean(axis=0) - (foot.x, foot.y))
    local = rotated_points(np.array(middles), -foot.heading) / sole.of(side)
    outside, behind, before, inside = local.tolist()
    assert outside[0] * side.sign > 0.15 and inside[0] == pytest.approx(-outside[0])
    assert behind[1] < 0.0 and before[1] > 0.75 and behind[0] == pytest.approx(0.0, abs=1e-9) == before[0]


def test_tape_lies_beside_a_foot_and_not_where_one_pivots() -> None:
    turns = Form(
        room=DEMO.room,
        postures=(
            Posture("a", lines=read_score("shift R 100\npivot L heel out 60\npivot L heel in 60")),
            Posture("b", lines=read_score("hold")),
        ),
    )
    trace = walk(turns)
    left, right = tape_plan(turns, trace, ["a"])[1:]
    assert turns.room is not None
    x, y = trace.heels[0, 0].tolist()
    sole = trace.body.sole
    outline = sole.placed(sole.outlines[0], x, y, float(trace.headings[0, 0]) - 30.0)
    swept = turns.room.to_room(outline)
    for end in left.tape:
        assert np.hypot(*(swept - end).T).min() > 0.01
    assert left.clear and right.clear and left.tape[0][1] < left.place[1]  # behind it, for the toes go out
    assert right.tape[0][0] > right.place[0]  # outside the foot that stays


def test_the_fewest_marks_keep_a_walker_within_what_is_asked() -> None:
    steps = (TRACE.move_kinds == STEP).sum(axis=1)
    order = [posture.id for posture in DEMO.postures]
    for within in (0.09, 0.15, 0.3):
        ends = fewest_ends(DEMO, TRACE, within)
        marks = [int(TRACE.starts[TRACE.numbers[each] + 1]) for each in ends]
        stretches = [int(steps[a:b].sum()) for a, b in itertools.pairwise([0, *marks])]
        longest = max(
            int(steps[int(TRACE.starts[n]) : int(TRACE.starts[n + 1])].sum()) for n in range(1, len(order) + 1)
        )
        assert all(SCATTER * math.sqrt(each) <= max(within, SCATTER * math.sqrt(longest)) + 1e-9 for each in stretches)
        assert ends[-1] == order[-1]
        for number in range(len(ends) - 1):  # none can be left out
            whole = stretches[number] + stretches[number + 1]
            assert SCATTER * math.sqrt(whole) > within or number == len(ends) - 2
    assert len(fewest_ends(DEMO, TRACE, 5.0)) == 1 and set(turning_ends(DEMO, TRACE)) >= {"boat", "light"}


# A class.


def test_a_class_of_two_fits_where_three_do_not() -> None:
    form = Form(postures=(Posture("a", lines=read_score("shift R 100\nstep L 12 bow 45x20\nshift L 100")),))
    trace = walk(form)
    every = Sweep(trace).every
    low, high = ((every.points - every.radii[:, None]).min(axis=0), (every.points + every.radii[:, None]).max(axis=0))
    wide, deep = (high - low).tolist()
    room = Room(
        "", ((0, 0), (2 * wide + 0.7, 0), (2 * wide + 0.7, deep + 0.3), (0, deep + 0.3)), Start(1, 0.6), clearance=0.05
    )
    two, three = arranged(trace, room, 2, 0.0, gap=0.2), arranged(trace, room, 3, 0.0, gap=0.2)
    assert two is not None and len(two.walkers) == 2 and three is None and two.gap >= 0.2
    most = greatest(trace, room, 0.0, gap=0.2)
    assert most is not None and len(most.walkers) == 2
    assert arranged(trace, replace(room, clearance=1.0), 1, 0.0) is None


@settings(max_examples=tries(6))
@given(st.integers(0, 1000), st.sampled_from([0.0, 0.5, 1.0]))
def test_the_gap_of_two_walkers_is_the_least_at_any_time_and_lag(seed: int, off: float) -> None:
    random = np.random.default_rng(seed)
    text = "shift R 100\nstep L 9 bow 60x20 @2\nshift L 100\nstep R 12 bow 40x20\nshift R 100 @0.5"
    offsets = Offsets(walk(Form(postures=(Posture("a", lines=read_score(text)),))), off)
    ways = random.uniform(-1.6, 1.6, (12, 2))
    rough = offsets.gaps(ways)
    n = len(offsets.times)
    for way, told in zip(ways, rough, strict=True):
        gap, beat, lag, ends = offsets.tightest(way)
        least = math.inf
        for one in range(n):
            for other in range(n):
                if abs(offsets.times[one] - offsets.times[other]) <= 2 * off + 1e-9:
                    away = offsets.parts[one][:, None] - offsets.parts[other][None] - way
                    least = min(
                        least,
                        float((np.hypot(*away.transpose(2, 0, 1)) - offsets.radii[:, None] - offsets.radii).min()),
                    )
        assert gap == pytest.approx(least) and abs(lag) <= 2 * off + 1e-9 and 0 <= beat <= offsets.times[-1]
        if least > 0.05:
            assert told == pytest.approx(least, abs=0.035) and np.hypot(*(ends[1] - ends[0])) == pytest.approx(least)


def test_a_class_keeps_its_distance_and_its_walls() -> None:
    hall = room_of(Path(__file__).parents[2] / "src/waltzmark/demo/rooms/3-net-hall.waltz")
    group = arranged(TRACE, hall, 5)
    assert group is not None and len(group.walkers) == 5
    sweep, offsets = Sweep(TRACE), Offsets(TRACE)
    for start in (*group.walkers, *filter(None, [group.teacher])):
        assert clearance_at(sweep, hall, start).fits
    places = [rotated_points(np.array([s.x, s.y]), -s.heading) for s in group.walkers]
    gaps = [offsets.tightest(b - a)[0] for a, b in itertools.combinations(places, 2)]
    assert min(gaps) == pytest.approx(group.gap, abs=1e-6) and group.gap >= group.wanted
    assert math.dist(*group.points) == pytest.approx(group.gap, abs=1e-6)
    most = greatest(TRACE, hall, 0.0)
    assert most is not None and len(most.walkers) > 12 and most.gap >= 0.3 - 0.02


# The room measured.


def test_a_wall_is_given_a_length_and_the_next_one_comes_along() -> None:
    room = replace(rooms.made_room("", 5.0, 4.0), doors=(Door(1, 1.0, 0.8),), walls=((1, "hall"),))
    wide = rooms.set_wall_length(room, 0, 6.5)
    small = rooms.set_wall_length(rooms.set_wall_length(rooms.made_room("", 5.0, 4.0), 0, 2.6), 1, 1.9)
    assert rooms.inside(small, small.start.x, small.start.y) and small.start.y == pytest.approx(
        1.9 * 1.9 / 4.0, abs=1e-3
    )
    assert wide.outline == ((0.0, 0.0), (6.5, 0.0), (6.5, 4.0), (0.0, 4.0)) and wide.doors == room.doors
    assert rooms.set_wall_length(room, 1, 1.5).doors == (Door(1, 0.7, 0.8),)  # it moves along where the wall is short
    split = rooms.split_wall(room, 1, 5.0, 1.5)
    assert split.outline[2] == (5.0, 1.5) and split.walls == ((1, "hall"),) and split.doors == (Door(1, 0.7, 0.8),)
    assert rooms.split_wall(room, 1, 5.0, 0.5).doors == (Door(2, 0.5, 0.8),)
    assert rooms.without_corner(split, 2).outline == room.outline
    for bad in (0.0, 5000.0):
        with pytest.raises(WaltzmarkError, match="room.wall-length"):
            rooms.set_wall_length(room, 0, bad)
    with pytest.raises(WaltzmarkError, match="outline.crosses"):
        rooms.move_corner(room, 0, 2.5, 5.0)
    triangle = rooms.without_corner(room, 0)
    with pytest.raises(WaltzmarkError, match="room.corners"):
        rooms.without_corner(triangle, 0)


def test_what_stands_there_is_moved_turned_and_measured() -> None:
    sofa = Obstacle("sofa", ((1.0, 1.0), (3.0, 1.0), (3.0, 1.8), (1.0, 1.8)))
    assert rooms.box_of(rooms.move_obstacle(sofa, 0.5, -0.25)) == pytest.approx((1.5, 0.75, 2.0, 0.8))
    assert rooms.box_of(rooms.move_obstacle(sofa, 0.0, 0.0, 90.0)) == pytest.approx((1.6, 0.4, 0.8, 2.0))
    assert rooms.box_of(rooms.resize_obstacle(sofa, 1.0, 0.5)) == pytest.approx((1.0, 1.0, 1.0, 0.5))
    ring = Obstacle("stool", (), "solid", (1.0, 1.0), 0.2)
    assert rooms.resize_obstacle(ring, 0.6, 9.0) == replace(ring, centre=(1.1, 1.1), radius=0.3)
    with pytest.raises(WaltzmarkError, match="room.obstacle-size"):
        rooms.resize_obstacle(sofa, 0.0, 1.0)
    room = replace(rooms.made_room("", 5.0, 4.0), doors=(Door(0, 1.0, 0.8),))
    assert rooms.move_door(room, 0, 4.9, 2.0).doors == (Door(1, 1.6, 0.8),)
    assert rooms.inside(room, 2.0, 2.0) and not rooms.inside(room, 5.5, 2.0)


def test_lengths_are_said_in_boards_tiles_and_paces() -> None:
    body, lines = Body(stature=1.8), FloorLines(0.14)
    for text, metres in (
        ("3.2m", 3.2),
        ("120", 1.2),
        ("120 cm", 1.2),
        ("12 boards", 1.68),
        ("1 board", 0.14),
        ("4 tiles", 0.56),
        ("5 paces", 5 * PACE * 1.8),
        ("2,5 m", 2.5),
        ("10in", 0.254),
        ("2fl", 2 * body.foot_length),
    ):
        assert read_measure(text, "cm", lines, body) == pytest.approx(metres)
    assert read_measure("3", "m", lines, body) == 3.0
    for wrong, kind in (("much", "measure.length"), ("3 yards of", "measure.length"), ("3 ells", "measure.unit")):
        with pytest.raises(WaltzmarkError, match=kind):
            read_measure(wrong, "cm", lines, body)
