"""A class, marks and tape, reckoned again from the walk as it is drawn: whole soles and trunks, every quarter beat."""

from __future__ import annotations

import functools
import itertools
import math

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely import affinity

from tests.core.reckoning import placed, reckoned
from tests.core.test_room_truth import AHEAD, BACK, TURNED, any_room, box, form_of
from tests.trying import tries
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose
from waltzmark.core.form.room import Break, Obstacle, Room, Start
from waltzmark.core.room.breaks import in_room, mark_of, parts_of, start_at
from waltzmark.core.room.clearance import clearance_at
from waltzmark.core.room.fields import Field
from waltzmark.core.room.group import _Lattices, arranged, greatest
from waltzmark.core.room.offsets import Offsets
from waltzmark.core.room.starts import Starts
from waltzmark.core.room.sweep import SHOE_MARGIN, Sweep
from waltzmark.core.room.tape import tape_plan
from waltzmark.core.room.things import named_wall, things_of
from waltzmark.core.walk.ground import PIVOT
from waltzmark.core.walk.motion import pose_between
from waltzmark.core.walk.pelvis import pelvis_of
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

TEXTS = (AHEAD, BACK, TURNED, "shift L 100\nlift R knee @2\nstep R 3 bow 40x20\nshift R 100\nstep L beside")


def sole_at(body: Body, side: Side, foot: FootPose) -> shapely.Geometry:
    """A sole on the floor: its outline turned clockwise by the heading, about the heel."""
    drawn = shapely.Polygon(body.sole.outlines[side])
    return affinity.translate(affinity.rotate(drawn, -foot.heading, origin=(0.0, 0.0)), foot.x, foot.y)


def beats_of(trace: Trace) -> Floats:
    """(n,) when each count ends, the opening lasting no time."""
    lasts = trace.beats.copy()
    lasts[0] = 0.0
    return np.cumsum(lasts)


def taken(trace: Trace, beat: float) -> shapely.Geometry:
    """What a walker takes of the floor at a beat: both shoes, and the trunk as wide as the shoulders."""
    ends = beats_of(trace)
    row = int(np.flatnonzero(ends >= beat - 1e-9)[0])
    lasts = float(trace.beats[row]) if row else 1.0
    pose = pose_between(trace, row, 1.0 - (float(ends[row]) - beat) / lasts if row else 1.0)
    shoes = [sole_at(trace.body, side, pose.foot(side)).buffer(SHOE_MARGIN) for side in Side]
    pelvis = pelvis_of(trace.body, pose)
    return shapely.union_all([*shoes, shapely.Point(pelvis.x, pelvis.y).buffer(trace.body.shoulder_breadth / 2.0)])


@functools.lru_cache(maxsize=4)
def all_taken(trace: Trace) -> tuple[Floats, np.ndarray[tuple[int], np.dtype[np.object_]]]:
    """Every quarter beat of a walk (n,), and what the walker takes of the floor then."""
    times = np.arange(0.0, float(beats_of(trace)[-1]) + 1e-9, 0.25)
    return times, np.array([taken(trace, float(beat)) for beat in times])


def least_gap(trace: Trace, way: Floats, off: float) -> float:
    """How near two walkers come, the second so far from the first, either early or late by so many beats."""
    times, mine = all_taken(trace)
    theirs = np.array([affinity.translate(each, *way) for each in mine])
    late = np.abs(times[:, None] - times[None]) <= 2.0 * off + 1e-9
    one, other = np.nonzero(late)
    return float(shapely.distance(mine[one], theirs[other]).min())


@settings(max_examples=tries(20))
@given(st.integers(0, 100_000), st.sampled_from([0.0, 0.5, 1.0]))
def test_two_walkers_come_as_near_as_their_soles_and_trunks_do(seed: int, off: float) -> None:
    random = np.random.default_rng(seed)
    trace = walk(form_of(TEXTS[random.integers(4)]))
    offsets = Offsets(trace, off)
    for way in random.uniform(-1.8, 1.8, (2, 2)):
        drawn, (gap, beat, lag, ends) = least_gap(trace, way, off), offsets.tightest(way)
        if drawn < 0.02:
            assert gap < 0.06
            continue
        # Of either sole a row of discs stands out by about two centimetres at the most, and falls short by about one.
        assert -0.025 < drawn - gap < 0.045, (gap, drawn)
        assert 0.0 <= beat <= beats_of(trace)[-1] + 1e-9 and abs(lag) <= 2.0 * off + 1e-9
        assert math.dist(*ends) == pytest.approx(gap)
        for end, when, there in ((ends[0], beat, (0.0, 0.0)), (ends[1], beat + lag, tuple(way))):
            edge = affinity.translate(taken(trace, float(round(when * 4) / 4)), *there).boundary
            assert shapely.distance(edge, shapely.Point(end)) < 0.03  # it is at the edge of that walker, then


@settings(max_examples=tries(24))
@given(st.integers(0, 100_000))
def test_a_lattice_has_every_place_that_is_free_in_it_and_no_other(seed: int) -> None:
    random = np.random.default_rng(seed)
    trace = walk(form_of(TEXTS[random.integers(4)]))
    room = replace(any_room(random), clearance=0.1, behind=float(random.choice([0.1, 0.4])))
    heading = float(random.choice([0.0, 40.0]))
    starts = Starts(Sweep(trace, room.arms), room)
    lattices = _Lattices(starts, Offsets(trace, 0.5), heading, 0.3)
    high, wide = lattices.free.shape
    for _ in range(4 if high and wide else 0):
        a, b = random.integers(4, 12, 2).tolist()
        shift = int(random.choice([0, a // 2]))
        counted = lattices.counts(a, b, shift)
        first = int(random.integers(2 * b)), int(random.integers(a))
        on = [
            (x, y)
            for y, x in itertools.product(range(high), range(wide))
            if (y - first[0]) % b == 0 and (x - first[1] - shift * ((y - first[0]) // b % 2)) % a == 0
        ]
        free = [(x, y) for x, y in on if lattices.free[y, x]]
        assert counted[first] == len(free)
        fits = [(x, y) for x, y in free if starts.check(standing(lattices, x, y)).fits]
        wanted = lattices.low + 0.1 * np.array(fits, dtype=float).reshape(-1, 2)
        assert not len(lattices.places(a, b, shift, first, len(fits) + 1))
        assert lattices.places(a, b, shift, first, len(fits)) == pytest.approx(wanted)
        assert lattices.places(a, b, shift, first) == pytest.approx(wanted)


def standing(lattices: _Lattices, x: int, y: int) -> Start:
    """The start at a place of the grid, in the room."""
    (at,) = placed(np.array([lattices.low + 0.1 * np.array([x, y])]), Start(0.0, 0.0, lattices.heading)).tolist()
    return Start(round(at[0], 4), round(at[1], 4), lattices.heading)


@settings(max_examples=tries(16))
@given(st.integers(0, 100_000))
def test_no_rows_and_columns_hold_more_than_the_greatest_class(seed: int) -> None:
    """Rows and columns as far apart as two soles and trunks need, laid anywhere, and counted place by place."""
    random = np.random.default_rng(seed)
    trace = walk(form_of(TEXTS[random.integers(3)]))
    wide, deep = random.uniform(2.4, 4.5, 2).tolist()
    room = box(wide, deep, Start(1.0, 1.0), clearance=0.1, behind=0.1)
    most = greatest(trace, room, 0.0, 0.3, 0.0)
    sweep = Sweep(trace)
    for _ in range(3):
        across, ahead = random.uniform(0.9, 2.2, 2).tolist()
        near = [least_gap(trace, np.array(way), 0.0) for way in ((across, 0.0), (0.0, ahead), (across, ahead))]
        if min(near) < 0.33 or least_gap(trace, np.array([-across, ahead]), 0.0) < 0.33:
            continue
        x, y = random.uniform(0.0, across), random.uniform(0.0, ahead)
        places = [
            Start(float(right), float(up), 0.0)
            for right in np.arange(x, wide, across)
            for up in np.arange(y, deep, ahead)
        ]
        held = sum(reckoned(sweep, room, start)[1] for start in places)
        assert held <= (0 if most is None else len(most.walkers)) + (1 if held > 3 else 0)
    if most is not None:
        assert arranged(trace, room, len(most.walkers), 0.0, 0.3, 0.0) is not None
        gaps = [
            least_gap(trace, np.array([b.x - a.x, b.y - a.y]), 0.0)
            for a, b in itertools.combinations(most.walkers[:5], 2)
        ]
        assert min(gaps, default=1.0) > 0.27 and all(reckoned(sweep, room, each)[1] for each in most.walkers)


# Where the walk lies in the room.


def start_by(random: np.random.Generator, low: float, top: float) -> Start:
    x, y = random.uniform(low, top, 2).round(3).tolist()
    return Start(x, y, float(random.integers(0, 360)))


@settings(max_examples=tries(24))
@given(st.integers(0, 100_000))
def test_after_every_break_the_walk_lies_as_it_is_walked_from_its_mark(seed: int) -> None:
    random = np.random.default_rng(seed)
    form = form_of(*(TEXTS[n] for n in random.integers(0, 4, 4)))
    marks = [start_by(random, 0.5, 4.0) for _ in range(3)]
    broken = sorted(random.choice([1, 2, 3], int(random.integers(0, 4)), replace=False).tolist())
    room = replace(
        box(6.0, 6.0, marks[0]),
        breaks=tuple(Break(f"p{number}", mark) for number, mark in zip(broken, marks, strict=False)),
    )
    trace = walk(form)
    lies = in_room(trace, room, trace.midpoints)
    parts = parts_of(trace, room)
    assert len(lies) == len(parts) == 1 + len(broken) and parts[-1].after == len(trace)
    for number, (part, points) in enumerate(zip(parts, lies, strict=True)):
        mark = room.breaks[number - 1].mark if number else room.start
        begins = max(part.first - 1, 0)  # one stands at the mark as the count before has ended
        walked = trace.midpoints[begins : part.after] - (trace.midpoints[begins] if number else 0.0)
        assert points == pytest.approx(placed(walked, mark), abs=1e-6)
        for row in range(part.first, part.after):
            here = room.begun_at(start_at(trace, room, row))
            assert here.to_room(trace.midpoints[row]) == pytest.approx(points[row - begins], abs=1e-6)
        if number:
            assert trace.posture(part.first) == part.posture == room.breaks[number - 1].posture


def test_the_mark_of_a_break_is_where_one_stands_when_the_whole_walk_had_begun_at_a_start() -> None:
    form = form_of(*TEXTS)
    trace, start = walk(form), Start(1.0, 2.0, 77.0)
    for posture in ("p0", "p2", "p3"):
        made = mark_of(trace, posture, start)
        before = max(trace.span(posture)[0] - 1, 0)
        (stands,) = placed(trace.midpoints[before : before + 1], start)
        assert (made.mark.x, made.mark.y) == pytest.approx(tuple(stands), abs=2e-6) and made.mark.heading == 77.0
        assert made.posture == posture


# Tape.


@settings(max_examples=tries(16))
@given(st.integers(0, 100_000))
def test_tape_lies_close_beside_the_sole_and_off_whatever_is_pivoted_there(seed: int) -> None:
    random = np.random.default_rng(seed)
    form = form_of(*(TEXTS[n] for n in random.integers(0, 4, 2)))
    start = start_by(random, 2.5, 3.5)
    form = replace(form, room=box(6.0, 6.0, start))
    trace = walk(form)
    ends = [posture.id for posture in form.postures]
    first, *feet = tape_plan(form, trace, ends)
    assert first.place == (start.x, start.y) and first.heading % 360.0 == pytest.approx(start.heading)
    (ax, ay), (bx, by) = first.tape
    across = np.array([bx - ax, by - ay])
    assert np.hypot(*across) == pytest.approx(0.2) and ((ax + bx) / 2, (ay + by) / 2) == pytest.approx(first.place)
    assert placed(np.array([[1.0, 0.0]]), Start(0.0, 0.0, start.heading))[0] @ across == pytest.approx(0.2)
    turned = pivoted_soles(trace)
    for mark, (posture, side) in zip(feet, itertools.product(ends, Side), strict=True):
        row = trace.span(posture)[1] - 1
        foot = trace.pose(row).foot(side)
        assert mark.place == pytest.approx(tuple(placed(np.array([[foot.x, foot.y]]), start)[0]))
        assert mark.heading % 360.0 == pytest.approx((foot.heading + start.heading) % 360.0)
        strip = shapely.LineString(mark.tape)
        sole = in_the_room(sole_at(trace.body, side, foot), start)
        assert 0.0 < shapely.distance(strip, sole) < 0.06 and strip.length == pytest.approx(strip.length)
        away = shapely.distance(strip, turned.get(side, shapely.Point(99.0, 99.0)))
        assert away > 0.0 or not mark.clear


def pivoted_soles(trace: Trace) -> dict[Side, shapely.Geometry]:
    """All that the soles pass over while they pivot."""
    found: dict[Side, shapely.Geometry] = {}
    for side in Side:
        soles = [
            sole_at(trace.body, side, pose_between(trace, row, part).foot(side))
            for row in range(1, len(trace))
            if trace.move_kinds[row, side] == PIVOT
            for part in np.linspace(0.0, 1.0, 9).tolist()
        ]
        if soles:
            found[side] = shapely.union_all(soles)
    return found


def in_the_room(shape: shapely.Geometry, start: Start) -> shapely.Geometry:
    return affinity.translate(affinity.rotate(shape, -start.heading, origin=(0.0, 0.0)), start.x, start.y)


# Starts.


@settings(max_examples=tries(30))
@given(st.integers(0, 100_000))
def test_the_raster_of_a_room_is_as_far_from_the_truth_as_it_says(seed: int) -> None:
    random = np.random.default_rng(seed)
    room = any_room(random)
    things = things_of(room)
    low, top = things.bounds
    points = random.uniform(low - 0.5, top + 0.5, (200, 2))
    for high in (False, True):
        field = Field(things.bounds, things, high)
        looked_up = field.spare(field.laid(points, np.zeros(len(points))), np.zeros((1, 2)))[0]
        true = spare_of(room, points, high)
        assert np.abs(looked_up - true).max() <= field.error + 2e-3


def spare_of(room: Room, points: Floats, high: bool) -> Floats:
    """(m,) how far places are from the walls and from all things, by Shapely."""
    dots, walls = shapely.points(points), shapely.Polygon(room.outline)
    away = shapely.distance(walls.exterior, dots)
    spare = np.where(shapely.covers(walls, dots), away, -away)
    for each in (*room.obstacles, *room.kept_free):
        if each.kind == "low" and high:
            continue
        if each.centre is not None:
            away = shapely.distance(shapely.Point(each.centre), dots) - each.radius
        else:
            shape = shapely.Polygon(each.outline)
            away = shapely.distance(shape.exterior, dots)
            away = np.where(shapely.covers(shape, dots), -away, away)
        spare = np.minimum(spare, away)
    return np.asarray(spare)


@settings(max_examples=tries(30))
@given(st.integers(0, 100_000))
def test_no_start_anywhere_at_a_heading_is_better_than_the_best(seed: int) -> None:
    """In rooms of every shape, with things in them: thirty starts by chance, and thirty about the one that is best."""
    random = np.random.default_rng(seed)
    room = any_room(random)
    if random.random() < 0.5:
        room = replace(room, behind=room.clearance)
    sweep = Sweep(walk(form_of(TEXTS[random.integers(4)])), room.arms)
    starts = Starts(sweep, room)
    heading = float(random.integers(0, 72) * 5)
    x, y, spare = starts.best_of([heading])[0].tolist()
    best = clearance_at(sweep, room, Start(x, y, heading))
    assert best.spare == pytest.approx(spare, abs=0.03) and starts.fits_at(heading) == (spare >= -1e-9)
    # Headings are asked for together; one that is left out has no start that fits, one turned about goes in alike.
    goes_in = starts.goes_in([heading - 40.0, heading, heading + 180.0]).tolist()
    assert goes_in[1] == goes_in[2] and (goes_in[1] or not best.fits)
    low, top = np.min(room.outline, axis=0), np.max(room.outline, axis=0)
    tried = np.concatenate([random.uniform(low, top, (30, 2)), (x, y) + random.normal(0.0, 0.05, (30, 2))])
    for right, ahead in tried.tolist():
        other = clearance_at(sweep, room, Start(right, ahead, heading)).spare
        # Where neither fits, what is wanted behind counts for more in the one than in the other.
        assert other <= spare + 0.03 or (other < 0.0 and room.behind > room.clearance)


# Things and walls.


@settings(max_examples=tries(40))
@given(st.integers(0, 100_000))
def test_the_nearest_place_of_a_thing_is_at_its_edge_and_none_is_nearer(seed: int) -> None:
    random = np.random.default_rng(seed)
    things = things_of(any_room(random))
    for thing in things.every:
        for point in random.uniform(-2.0, 8.0, (6, 2)):
            at = thing.nearest(point)
            away = float(np.abs(thing.distances(point[None]))[0])
            assert math.dist(at, point) == pytest.approx(away, abs=1e-6)
            assert abs(float(thing.distances(at[None])[0])) < 1e-6  # it is at the edge
    round_ = replace(box(3.0, 3.0, Start()), obstacles=(Obstacle("post", (), "solid", (1.0, 2.0), 0.25),))
    (_, post) = things_of(round_).every
    assert post.nearest(np.array([1.0, 4.0])) == pytest.approx((1.0, 2.25))
    assert post.nearest(np.array([0.0, 2.0])) == pytest.approx((0.75, 2.0))
    assert math.dist(post.nearest(np.array([1.0, 2.0])), (1.0, 2.0)) == pytest.approx(0.25)  # from its very middle


def test_walls_that_somebody_called_alike_are_told_apart() -> None:
    room = replace(box(4.0, 3.0, Start(1.0, 1.0)), walls=((0, "window"), (1, "window"), (2, "door"), (3, "window")))
    told = [named_wall(room, number) for number in range(4)]
    assert len(set(told)) == 4
    bare = replace(room, walls=())
    assert len({named_wall(bare, number) for number in range(4)}) == 4
    steps = ((0.0, 0.0), (4.0, 0.0), (4.0, 1.0), (3.0, 1.0), (3.0, 2.0), (2.0, 2.0), (2.0, 3.0), (0.0, 3.0))
    many = replace(bare, outline=steps, start=Start(1.0, 1.0))
    assert len({named_wall(many, number) for number in range(len(steps))}) == len(steps)
