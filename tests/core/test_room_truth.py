"""What is told about a room is true: every answer held against another way of reckoning it."""

from __future__ import annotations

import itertools
import math
from typing import Any

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.reckoning import placed, reckoned
from tests.trying import tries
from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.messages import Message
from waltzmark.core.base.records import replace
from waltzmark.core.edit.resizing import scaled
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.room import KINDS, Break, Obstacle, Room, Start
from waltzmark.core.room.breaks import parts_of
from waltzmark.core.room.changes import advice
from waltzmark.core.room.clearance import check_room
from waltzmark.core.room.group import GAP, arranged, greatest
from waltzmark.core.room.offsets import Offsets
from waltzmark.core.room.starts import Starts
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.room.tape import tape_plan
from waltzmark.core.room.things import named_wall, wall_heading, wall_name
from waltzmark.core.score import read_score
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.lengths import measures_of
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document
from waltzmark.words.figures import Figures
from waltzmark.words.sentences import sentence

DEMO = read_document(demo_text()).form
BACK = "shift R 100\nstep L 12 back bow 50x20\nshift L 100\nstep R 12 back bow 50x20\nshift R 100"
TURNED = "shift L 100\nstep R 1:30 back bow 45x25\nshift R 100\npivot L heel 3\nstep L 3 bow\nshift L 70"
AHEAD = "shift R 100\nstep L 12 bow 50x20\nshift L 100\nstep R 12 bow 50x20\nshift R 100\nstep L 12 bow 50x20"


def form_of(*texts: str, **more: object) -> Form:
    postures = tuple(Posture(f"p{number}", lines=read_score(text)) for number, text in enumerate(texts))
    return Form(postures=postures, **more)  # type: ignore[arg-type]


def box(wide: float, deep: float, start: Start, *things: Obstacle, **more: object) -> Room:
    outline = ((0.0, 0.0), (wide, 0.0), (wide, deep), (0.0, deep))
    return Room("", outline, start, things, **more)  # type: ignore[arg-type]


def any_room(random: np.random.Generator) -> Room:
    """A box, an L, a U or a round-about polygon, perhaps turned, with or without things in it."""
    wide, deep = random.uniform(1.5, 6.0, 2)
    a, b = random.uniform(0.2, 0.8, 2)
    shapes = (
        [(0, 0), (1, 0), (1, 1), (0, 1)],
        [(0, 0), (1, 0), (1, b), (a, b), (a, 1), (0, 1)],
        [(0, 0), (1, 0), (1, 1), (0.7, 1), (0.7, b), (0.3, b), (0.3, 1), (0, 1)],
        [
            (math.cos(t) * r, math.sin(t) * r)
            for t, r in zip(np.arange(7) * 0.89, random.uniform(0.5, 1, 7), strict=True)
        ],
    )
    ring = np.array(shapes[random.integers(4)], dtype=float) * (wide, deep)
    turn = float(random.choice([0.0, 0.0, 30.0, 77.0]))
    ring = placed(ring, Start(0.0, 0.0, turn))
    things = []
    for kind in KINDS[: random.integers(4)]:
        x, y = random.uniform(ring.min(axis=0), ring.max(axis=0)).tolist()
        if random.random() < 0.5:
            things.append(Obstacle(kind, (), kind, (x, y), 0.15))
        else:
            things.append(Obstacle(kind, ((x, y), (x + 0.4, y + 0.1), (x + 0.2, y + 0.5)), kind))
    outline = tuple((float(x), float(y)) for x, y in ring)
    around = float(random.choice([0.0, 0.1, 0.2]))
    return Room("", outline, Start(), tuple(things), around, 0.3, arms=bool(random.random() < 0.3))


def any_start(random: np.random.Generator, room: Room) -> Start:
    """A start in a room, near its corners or well outside it."""
    low, high = np.min(room.outline, axis=0), np.max(room.outline, axis=0)
    x, y = random.uniform(low - 0.8, high + 0.8).tolist()
    return Start(x, y, float(random.uniform(0, 360)))


# Clearance.


@settings(max_examples=tries(30))
@given(st.integers(0, 100_000))
def test_the_clearance_of_any_start_is_finite_and_that_of_every_place_by_itself(seed: int) -> None:
    random = np.random.default_rng(seed)
    form = (DEMO, form_of(BACK), form_of(TURNED, BACK), form_of(AHEAD))[random.integers(4)]
    trace, room = walk(form), any_room(random)
    for _ in range(2):
        start = any_start(random, room)
        told = check_room(trace, room.begun_at(start))
        clearance, fits = reckoned(Sweep(trace, room.arms), room, start)
        assert math.isfinite(told.clearance)
        assert told.clearance == pytest.approx(clearance, abs=3e-4) and told.fits == fits


def test_a_walk_that_leaves_a_box_past_a_corner_is_told_how_far() -> None:
    room = box(6.0, 3.0, Start(5.5, 2.75, 50.0), clearance=0.1)
    told = check_room(walk(DEMO), room)
    assert told.clearance == pytest.approx(reckoned(Sweep(walk(DEMO)), room, room.start)[0]) and told.clearance < -1.0


def test_a_backward_step_asks_for_nothing_at_its_sides() -> None:
    form = form_of(BACK)
    trace = walk(form)
    every = Sweep(trace).every
    low, high = (every.points - every.radii[:, None]).min(axis=0), (every.points + every.radii[:, None]).max(axis=0)
    room = box(float(high[0] - low[0]) + 0.2, 6.0, Start(0.1 - float(low[0]), 3.0), clearance=0.1, behind=0.3)
    assert check_room(trace, room).fits  # 10 cm at either side, and plenty behind
    foot = float((every.points[:, 1] - every.radii)[~np.isnan(every.back)].min())
    for free, fits in ((0.301, True), (0.28, False)):
        behind = check_room(trace, room.begun_at(replace(room.start, y=free - foot)))
        assert behind.fits is fits
        assert fits or (behind.clearance == pytest.approx(free) and behind.wanted == 0.3)
    # Whatever it is that is behind, how far the foot can go on is told, along the way it goes.
    post = Obstacle("post", (), "solid", (room.start.x + 0.1, 3.0 + foot - 0.2), 0.05)
    crossed = check_room(trace, replace(room, obstacles=(post,)))
    assert crossed.clearance == pytest.approx(
        reckoned(Sweep(trace), replace(room, obstacles=(post,)), room.start)[0], abs=3e-4
    )


# Breaks.


def test_one_stands_on_the_mark_after_a_break_and_walks_on_in_the_room() -> None:
    form = form_of(AHEAD, TURNED, AHEAD, BACK)
    trace = walk(form)
    room = box(2.0, 2.6, Start(1.0, 0.5), clearance=0.1)
    found = [each for each in advice(replace(form, room=room)).changes if each.kind == "break"]
    assert found and found[0].room.breaks
    walls = shapely.Polygon(room.outline)
    for part in parts_of(trace, found[0].room):
        stands = trace.midpoints[max(part.first - 1, 0)][None]
        assert placed(stands, part.start)[0] == pytest.approx((part.mark.x, part.mark.y), abs=1e-5)
        assert part.mark.heading == part.start.heading
        assert shapely.contains(walls, shapely.Point(part.mark.x, part.mark.y))
        path = placed(trace.centres[max(part.first - 1, 0) : part.after], part.start)
        assert shapely.contains_xy(walls, *path.T).all()
    marks = [mark for mark in tape_plan(replace(form, room=found[0].room), trace, []) if mark.side is None]
    assert [mark.place for mark in marks] == [(p.mark.x, p.mark.y) for p in parts_of(trace, found[0].room)]


# Changes.


@settings(max_examples=tries(25))
@given(st.integers(0, 100_000), st.floats(0.5, 0.99))
def test_no_step_is_longer_when_all_are_shortened(seed: int, factor: float) -> None:
    random = np.random.default_rng(seed)
    spots = "\n".join(
        f"shift {a} 100\nstep {b} to {x:.2f} {y:.2f}"
        for (a, b), x, y in zip((("R", "L"), ("L", "R"), ("R", "L")), *random.uniform(-0.8, 0.8, (2, 3)), strict=True)
    )
    form = form_of(AHEAD, spots, TURNED)
    more = (Posture("again", repeat_of="p1", turned=40.0), Posture("other", mirror_of="p1", axis=Clock(45)))
    form = replace(form, postures=(*form.postures, *more))
    trace = walk(form)
    less, changes = scaled(form, trace, measures_of(form, trace), factor)
    again = walk(less)
    stepped = trace.move_kinds == 2.0
    for side in (0, 1):
        rows = np.flatnonzero(stepped[:, side])
        rows = rows[rows < trace.span("again")[0]]  # what is taken over lies relative to where it begins
        own, new = (each.heels[rows, side] - each.heels[rows - 1, 1 - side] for each in (trace, again))
        ahead = np.abs(
            [t @ (math.sin(a), math.cos(a)) for t, a in zip(own, np.radians(trace.facing[rows]), strict=True)]
        )
        now = np.abs([t @ (math.sin(a), math.cos(a)) for t, a in zip(new, np.radians(trace.facing[rows]), strict=True)])
        assert now == pytest.approx(factor * ahead, abs=2e-3)  # a length is written to a tenth of a millimetre
    assert {change.posture for change in changes} == {"p0", "p1", "p2"}


def followed(told: Message, own: Start) -> tuple[float, float, float]:
    """Where one stands, and how turned, who does what is told of a start: so far ahead and aside, and turned so far."""
    said: dict[str, Any] = dict(told.fields)
    ways = {each.kind: float(dict(each.fields).get("by", 0.0)) for each in said["away"]}
    ahead = ways.get("away.ahead", 0.0) - ways.get("away.back", 0.0)
    right = ways.get("away.right", 0.0) - ways.get("away.left", 0.0)
    angle = math.radians(own.heading)
    turn = {"cw": 1.0, "ccw": -1.0}.get(told.kind.rpartition(".")[2], 0.0)
    return (
        own.x + ahead * math.sin(angle) + right * math.cos(angle),
        own.y + ahead * math.cos(angle) - right * math.sin(angle),
        (own.heading + turn * said.get("turn", 0.0)) % 360.0,
    )


@settings(max_examples=tries(4))
@given(st.integers(0, 100_000))
def test_every_change_fits_from_where_it_says_and_asks_for_no_less_than_it_says(seed: int) -> None:
    random = np.random.default_rng(seed)
    form = form_of(*random.choice([AHEAD, BACK, TURNED], random.integers(1, 4)).tolist())
    wide, deep = random.uniform(1.1, 2.6, 2).tolist()
    room = box(wide, deep, Start(wide / 2, deep / 2, float(random.choice([0.0, 20.0]))), clearance=0.1)
    known = advice(replace(form, room=room))
    free = shapely.Polygon(room.outline)
    assert all(shapely.contains(free, shapely.Point(each.start.x, each.start.y)) for each in known.starts)
    for change in known.changes:
        trace, made = walk(change.form), change.room
        parts = [
            reckoned(Sweep(trace, made.arms, part.rows(trace)), made, part.start) for part in parts_of(trace, made)
        ]
        assert all(fits for _, fits in parts)
        assert change.near.clearance == pytest.approx(min(clearance for clearance, _ in parts), abs=3e-4)
        if change.kind not in ("clearance", "arms"):
            assert (made.clearance, made.behind) == (room.clearance, room.behind)
        assert (change.kind in ("move", "turn") or change.stand is not None) == (made.start != room.start)
        if change.kind == "turn":
            assert made.start.heading != room.start.heading
        for told in (change.stand, change.does if change.kind in ("move", "turn") else None):
            if told is None:
                continue
            to = made.start
            x, y, heading = followed(told, room.start)
            assert (x, y) == pytest.approx((to.x, to.y), abs=0.008)
            assert heading_difference(heading, to.heading) == pytest.approx(0.0, abs=0.5)


def test_a_form_without_a_length_is_told_what_it_can_be_told() -> None:
    form = form_of("shift R 100\nshift L 100\nshift 50/50")
    for wide in (0.3, 3.0):
        known = advice(replace(form, room=box(wide, wide, Start(wide / 2, wide / 2), clearance=0.1)))
        assert known.done and known.here.fits == (wide == 3.0)
        assert not {"shorter", "steps", "postures"} & {each.kind for each in known.changes}


# Tape and walls.


def seen_from(room: Room, corner: Message) -> tuple[float, float]:
    """The left or the right corner of a wall, as whoever looks at that wall from within sees it."""
    (number,) = [n for n in range(len(room.outline)) if named_wall(room, n) == corner["wall"]]
    ends = room.wall(number)
    angle = math.radians(wall_heading(room.outline, number))
    right = [x * math.cos(angle) - y * math.sin(angle) for x, y in ends]
    return ends[int(np.argmin(right) if corner.kind == "tape.left-corner" else np.argmax(right))]


@settings(max_examples=tries(60))
@given(st.integers(0, 100_000))
def test_no_two_walls_are_called_alike_and_every_mark_is_where_its_tapes_meet(seed: int) -> None:
    random = np.random.default_rng(seed)
    room = replace(any_room(random), obstacles=())
    names = ["window", "mirror", "window", "the door side"]
    walls = tuple((n, str(random.choice(names))) for n in range(len(room.outline)) if random.random() < 0.4)
    say = Figures(str(random.choice(["clock", "degrees", "compass"])))  # type: ignore[arg-type]
    x, y = random.uniform(np.min(room.outline, axis=0), np.max(room.outline, axis=0)).tolist()
    room = replace(room, walls=walls, start=Start(x, y, float(random.uniform(0, 360))))
    told = [named_wall(room, number) for number in range(len(room.outline))]
    assert len(set(told)) == len({sentence(each, say) for each in told}) == len(told)
    form = form_of(AHEAD, TURNED, room=room)
    for one, other in itertools.permutations(range(len(told)), 2):
        kinds = told[one].kind, told[other].kind
        if told[one]["wall"] != told[other]["wall"]:
            continue
        # As one looks at both from within: further to the right, or further away.
        middles = [shapely.LineString(room.wall(n)).interpolate(0.5, normalized=True) for n in (other, one)]
        angle, (dx, dy) = (
            math.radians(wall_heading(room.outline, one)),
            np.diff([(m.x, m.y) for m in middles], axis=0)[0],
        )
        right, ahead = dx * math.cos(angle) - dy * math.sin(angle), dx * math.sin(angle) + dy * math.cos(angle)
        if kinds == ("wall.left", "wall.right"):
            assert right < 0.0
        if kinds == ("wall.nearer", "wall.farther"):
            assert ahead < 0.0
        if kinds == ("wall.from-left", "wall.from-left"):
            assert bool(right < 0.0) is (int(told[one]["n"]) < int(told[other]["n"]))  # type: ignore[arg-type]
    for place in random.uniform(np.min(room.outline, axis=0), np.max(room.outline, axis=0), (8, 2)):
        away = [shapely.distance(shapely.LineString(room.wall(n)), shapely.Point(place)) for n in range(len(told))]
        assert away[told.index(wall_name(room, place))] == pytest.approx(min(away))
    floor = shapely.Polygon(room.outline)
    seen = shapely.buffer(floor, 1e-6)
    for mark in tape_plan(form, walk(form), ["p0", "p1"]):
        if not shapely.contains(floor, shapely.Point(mark.place)):
            continue  # the walk leaves the room: nothing is measured there
        for far, name in mark.corner:
            assert math.dist(seen_from(room, name), mark.place) == pytest.approx(far)
        for far, name in mark.square:
            wall = shapely.LineString(room.wall(told.index(name)))
            assert shapely.distance(wall, shapely.Point(mark.place)) == pytest.approx(far)
        (_, left), (_, right) = mark.corner
        (ax, ay), (bx, by) = seen_from(room, left), seen_from(room, right)
        x, y = mark.place
        assert (ax - x) * (by - y) - (ay - y) * (bx - x) < 1e-9  # the left one is to the left of the right one
        sights = [shapely.covers(seen, shapely.LineString([mark.place, at])) for at in room.outline]
        free = [n for n in range(len(told)) if sights[n] and sights[(n + 1) % len(told)]]
        assert (
            not free or [named_wall(room, n) == left["wall"] for n in free].count(True) == 1
        )  # a tape goes through no wall where it need not


# A class.


@settings(max_examples=tries(8))
@given(st.integers(0, 100_000))
def test_nobody_of_a_class_comes_nearer_to_anybody_than_is_wanted(seed: int) -> None:
    random = np.random.default_rng(seed)
    form = form_of(*random.choice([AHEAD, BACK, TURNED], 2).tolist())
    trace = walk(form)
    wide, deep = random.uniform(4.0, 7.0, 2).tolist()
    room = box(wide, deep, Start(wide / 2, deep / 2), clearance=0.1)
    offsets = Offsets(trace)
    for group in (arranged(trace, room, int(random.integers(2, 6)), 0.0), greatest(trace, room, 0.0)):
        if group is None:
            continue
        places = [np.array([start.x, start.y]) for start in group.walkers]
        gaps = [offsets.tightest(b - a)[0] for a, b in itertools.combinations(places, 2)]
        assert min(gaps, default=math.inf) >= GAP and min(gaps, default=math.inf) == pytest.approx(group.gap)
        assert all(Starts(Sweep(trace), room).check(start).fits for start in group.walkers)
    staggered = [each for each in (group,) if each is not None and len({w.x for w in each.walkers}) > 1]
    assert all(each.gap >= each.wanted for each in staggered)


@pytest.mark.parametrize("wrong", [math.nan, math.inf, 1e6])
def test_a_room_takes_nothing_that_could_not_be_saved(wrong: float) -> None:
    room = box(3.0, 4.0, Start(1.0, 1.0))
    for more in (
        {"start": Start(wrong, 1.0)},
        {"start": Start(1.0, wrong)},
        {"breaks": (Break("a", Start(1.0, wrong)),)},
        {"tape": (((0.0, 0.0), (wrong, 1.0)),)},
        {"obstacles": (Obstacle("o", (), "solid", (1.0, wrong), 0.2),)},
        {"clearance": wrong},
        {"behind": wrong},
    ):
        with pytest.raises(WaltzmarkError, match=r"room\.(mark|tape|measure|circle)"):
            replace(room, **more)
