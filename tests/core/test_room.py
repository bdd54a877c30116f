"""Where a walk fits: clearance, starts, and what of the steps would make it fit."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.reckoning import reckoned
from tests.told import thing
from tests.trying import tries
from waltzmark.core.answers.review import review
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.edit.resizing import mirrored_form, resized
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.room import Break, Obstacle, Room, Start, rotated_points
from waltzmark.core.room.breaks import mark_of, parts_of
from waltzmark.core.room.changes import advice, here
from waltzmark.core.room.clearance import Clearance, Demand, check_room, clearance_at
from waltzmark.core.room.shape import silhouette, to_supports
from waltzmark.core.room.starts import APART, HEADINGS, Starts, apart
from waltzmark.core.room.steps import fitted_steps
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.room.things import Thing, things_of
from waltzmark.core.score import read_score
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.write import write_score
from waltzmark.core.walk.lengths import measures_of
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.naming import recognised
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document, read_file

AHEAD = (
    "shift R 100\nstep L 12 bow 50x20\nshift L 100\nstep R 12 bow 50x20\nshift R 100\nstep L 12 bow 50x20\nshift 50/50"
)
ROOMS = sorted((Path(__file__).parent.parent / "rooms").glob("*.waltz"))
DEMO = read_document(demo_text()).form


def form_of(text: str = AHEAD, **more: object) -> Form:
    return Form(postures=(Posture("a", "A", read_score(text)),), **more)  # type: ignore[arg-type]


def box(wide: float, deep: float, *things: Obstacle, clearance: float = 0.1, **more: object) -> Room:
    outline = ((0.0, 0.0), (wide, 0.0), (wide, deep), (0.0, deep))
    return Room("", outline, Start(wide / 2, deep / 2), things, clearance, **more)  # type: ignore[arg-type]


def smaller(room: Room, by: float) -> Room:
    """A room of which all that stands in it is smaller too."""
    things = tuple(
        replace(
            each,
            outline=tuple((by * x, by * y) for x, y in each.outline),
            centre=None if each.centre is None else (by * each.centre[0], by * each.centre[1]),
            radius=by * each.radius,
        )
        for each in room.obstacles
    )
    start = replace(room.start, x=by * room.start.x, y=by * room.start.y)
    return replace(room, outline=tuple((by * x, by * y) for x, y in room.outline), obstacles=things, start=start)


def extents(form: Form, heading: float = 0.0) -> tuple[Floats, Floats]:
    """How far a walk reaches from its start, with every radius: the least and the most x and y."""
    every = Sweep(walk(form)).every
    points = rotated_points(every.points, heading)
    return (points - every.radii[:, None]).min(axis=0), (points + every.radii[:, None]).max(axis=0)


def starts_of(form: Form, room: Room) -> Starts:
    return Starts(Sweep(walk(form), room.arms), room)


# What is near.


@settings(max_examples=tries(40))
@given(st.integers(0, 10_000))
def test_the_distance_to_a_thing_is_that_of_geometry(seed: int) -> None:
    random = np.random.default_rng(seed)
    angles = np.sort(random.uniform(0, 2 * math.pi, random.integers(3, 9)))
    ring = np.column_stack([np.cos(angles), np.sin(angles)]) * random.uniform(0.4, 2.0, (len(angles), 1))
    shape = shapely.Polygon(ring)
    points = random.uniform(-2.5, 2.5, (60, 2))
    away = shapely.distance(shape.exterior, shapely.points(points))
    inside = shapely.contains(shape, shapely.points(points))
    for around in (False, True):
        found = Thing(None, ring, around=around).distances(points)
        assert found == pytest.approx(np.where(inside == around, away, -away), abs=1e-9)
    nearest = [Thing(None, ring).nearest(point) for point in points]
    assert np.hypot(*(nearest - points).T) == pytest.approx(away, abs=1e-9)
    square = Thing(None, np.array([[0.0, 0.0], [1.0, 0.0], [1.0, 2.0], [0.0, 2.0]]))
    assert square.is_box
    tilted = Thing(None, rotated_points(square.corners, 30.0))
    assert not tilted.is_box
    assert square.distances(points) == pytest.approx(tilted.distances(rotated_points(points, 30.0)), abs=1e-9)


@pytest.mark.parametrize("path", ROOMS, ids=lambda path: path.stem)
def test_a_clearance_is_the_same_whichever_way_it_is_asked(path: Path) -> None:
    room = read_file(path).form.room
    assert room is not None
    trace = walk(DEMO)
    sweep, ready = Sweep(trace, room.arms), Sweep(trace, room.arms)
    ready.prepare()
    random = np.random.default_rng(4)
    low, high = things_of(room).bounds
    for _ in range(3):
        x, y = random.uniform(low, high).tolist()
        start = Start(x, y, float(random.uniform(0, 360)))
        one, other = clearance_at(sweep, room, start), clearance_at(ready, room, start)
        assert one == other and one.clearance == pytest.approx(reckoned(sweep, room, start)[0], abs=2e-4)
        near = things_of(room).every[one.thing]
        assert abs(float(near.distances(np.array([one.place]))[0])) < 1e-9
        radius = math.dist(one.place, one.point) - (one.clearance if one.clearance > 0 else 0.0)
        assert one.clearance < 0 or 0.0 <= radius <= 0.9  # what is between the two places and the figure is a radius
    assert check_room(trace, room.begun_at(start)).clearance == pytest.approx(one.clearance)


def test_more_is_wanted_behind_a_backward_step_and_only_there() -> None:
    back = form_of("shift R 100\nstep L 12 back bow 50x20\nshift L 100")
    places = Sweep(walk(back)).every
    foot = float((places.points[:, 1] - places.radii)[~np.isnan(places.back)].min())
    # The foot that steps back leaves 28 cm to the wall behind; the body, which follows it, less.
    room = box(3.0, 4.0, clearance=0.1).begun_at(Start(1.5, 0.28 - foot, 0.0))
    found = check_room(walk(back), room)
    assert not found.fits and found.wanted == 0.30 and found.clearance == pytest.approx(0.28, abs=1e-3)
    assert found.row == 2 and review(replace(back, room=room), walk(back)).answers[0].message["wanted"] == 0.30
    less = check_room(walk(back), replace(room, behind=0.25))
    assert less.fits and less.wanted == 0.1 and 0.1 < less.clearance < 0.27 and less.row == 3
    ahead = room.begun_at(Start(1.5, 0.15 - extents(form_of())[0][1], 0.0))
    assert check_room(walk(form_of()), ahead).fits  # nothing steps back: 15 cm will do
    half = form_of("shift R 100\nstep L 12 bow 50x20\nshift L 100\nstep R 12 half\nshift R 100")
    assert np.isnan(Sweep(walk(half)).every.back).all()


def test_after_a_break_the_walk_goes_on_from_another_mark() -> None:
    one, two = form_of().postures[0], replace(form_of().postures[0], id="b")
    form = Form(postures=(one, two))
    whole, half = (extents(each)[1][1] - extents(each)[0][1] for each in (form, form_of()))
    room = box(3.0, half + 0.6)
    assert whole > half + 0.9
    trace = walk(form)
    assert not check_room(trace, room.begun_at(Start(1.5, 0.15 - extents(form)[0][1]))).fits
    x, again = trace.midpoints[int(trace.starts[2]) - 1].tolist()
    broken = replace(room, start=Start(1.5, 0.55), breaks=(Break("b", Start(1.5, 0.55)),))
    assert check_room(trace, broken).fits and here(replace(form, room=broken), trace).fits
    first, second = parts_of(trace, broken)
    before, after = first.rows(trace), second.rows(trace)
    assert (first.start, second.start) == (Start(1.5, 0.55), Start(1.5 - x, 0.55 - again))
    assert before is not None and after is not None
    assert (before ^ after).all() and int(before.sum()) == int(trace.starts[2])
    assert mark_of(trace, "b", second.start) == broken.breaks[0]
    (whole,) = parts_of(trace, replace(room, breaks=(Break("gone", Start()),)))
    assert whole.start == room.start and whole.rows(trace) is None


def test_supports_are_told_for_counts_on_one_leg() -> None:
    form = form_of("shift L 100\nlift R knee\nhold\nstep R beside")
    rail = Obstacle("rail", ((3.0, 0.0), (3.1, 0.0), (3.1, 4.0), (3.0, 4.0)), "support")
    room = box(4.0, 4.0, rail)
    told_ = to_supports(walk(form), room)
    pelvis = room.to_room(Mechanics(walk(form)).pelvis_places)
    assert [row for row, _, _ in told_] == [2, 3] and {name for _, name, _ in told_} == {"rail"}
    assert told_[0][2] == pytest.approx(3.0 - pelvis[2, 0] - form.body.shoulder_breadth / 2)
    assert not to_supports(walk(form), box(4.0, 4.0)) and not to_supports(walk(form_of()), room)


def test_the_silhouette_holds_what_is_swept() -> None:
    trace = walk(DEMO)
    rings = [shapely.Polygon(ring) for ring in silhouette(trace)]
    outer = max(rings, key=lambda ring: ring.area)
    places = Sweep(trace).every
    assert shapely.distance(outer, shapely.points(places.points)).max() < 0.01
    edge = shapely.get_coordinates(outer)
    near = np.min([np.hypot(*(places.points - point).T) - places.radii for point in edge[::9]], axis=1)
    assert np.abs(near).max() < 0.02


# Where to stand.


def test_starts_of_a_straight_walk_are_the_room_less_what_it_reaches() -> None:
    form, room = form_of(), box(3.0, 4.0)
    low, high = extents(form)
    least, most = 0.1 - low, np.array([3.0, 4.0]) - 0.1 - high
    starts = starts_of(form, room)
    found = starts.map_at(0.0)
    y, x = np.meshgrid(
        *(found.low[a] + found.step * np.arange(found.spare.shape[1 - a]) for a in (1, 0)), indexing="ij"
    )
    spare = np.minimum.reduce([x - least[0], most[0] - x, y - least[1], most[1] - y])
    assert np.abs(found.spare - spare).max() < 0.05
    random = np.random.default_rng(1)
    for px, py in random.uniform([0, 0], [3, 4], (40, 2)).tolist():
        inside = least[0] <= px <= most[0] and least[1] <= py <= most[1]
        assert starts.check(Start(px, py)).fits == inside
    best = starts.best_of([0.0])[0]
    assert best[2] == pytest.approx(float(spare.max()), abs=0.02)


def test_a_square_room_has_four_equal_headings_and_a_long_walk_needs_the_diagonal() -> None:
    form = form_of("\n".join([AHEAD, *AHEAD.splitlines()[2:]]))
    rose = starts_of(form, box(3.4, 3.4)).best_of()
    for turn in (18, 36, 54):  # of 72 headings
        assert rose[:, 2] == pytest.approx(np.roll(rose[:, 2], turn), abs=0.012)
    low, high = extents(form)
    deep = float(high[1] - low[1]) + 0.2 - 0.08
    slanted = starts_of(form, box(deep, deep)).listed(starts_of(form, box(deep, deep)).best_of())
    fit = [each for each in slanted if each.near.fits]
    assert fit and all(abs(each.start.heading % 90.0 - 45.0) < 35.0 for each in fit)
    assert not any(each.near.fits for each in slanted if each.start.heading % 90.0 == 0.0)


def test_a_pillar_in_the_way_is_named_and_gone_round() -> None:
    form, pillar = form_of(), Obstacle("pillar", (), "solid", (1.5, 1.6), 0.15)
    room = box(3.0, 3.4, pillar).begun_at(Start(1.5, 0.9))
    found = check_room(walk(form), room)
    assert not found.fits and found.what == thing("pillar") and found.clearance < 0
    known = advice(replace(form, room=room))
    assert known.starts[0].near.fits and abs(known.starts[0].start.x - 1.5) > 0.4
    assert known.changes[0].kind == "move" and all(each.near.fits for each in known.changes)


SHORT = (
    "shift R 100\nstep L 12 bow 40x20\nshift L 100",
    "shift R 100\nstep L 9 back bow 40x25\nshift L 100\nstep R 9 half",
    "shift L 100\npivot R heel 1:30\nshift R 100\nstep L 3 cross 20x-5\nshift L 70",
)


@settings(max_examples=tries(8))
@given(st.sampled_from(SHORT), st.integers(0, 10_000))
def test_no_start_of_a_grid_is_better_than_the_best_found(text: str, seed: int) -> None:
    random = np.random.default_rng(seed)
    wide, deep = random.uniform(1.3, 2.1, 2).round(2).tolist()
    x, y = random.uniform(0.2, 1.1, 2).round(2).tolist()
    things = [Obstacle("post", (), "solid", (x, y), 0.1)] if seed % 3 else []
    outline: tuple[tuple[float, float], ...] = ((0.0, 0.0), (wide, 0.0), (wide, deep), (0.0, deep))
    if seed % 2:
        outline = ((0.0, 0.0), (wide, 0.0), (wide, deep / 2), (wide / 2, deep / 2), (wide / 2, deep), (0.0, deep))
    room = Room("", outline, Start(), tuple(things), 0.05, 0.12)
    starts = starts_of(form_of(text), room)
    rose = starts.best_of()
    listed = starts.listed(rose)
    whole = Demand.of(starts.sweep.every, room)
    grid = np.stack(np.meshgrid(np.arange(0.0, wide, 0.07), np.arange(0.0, deep, 0.07)), axis=-1).reshape(-1, 2)
    best = max(
        float(starts.exactly(heading, grid[at : at + 40], whole).max())
        for heading in HEADINGS[:: 4 if seed % 5 else 2]
        for at in range(0, len(grid), 40)
    )
    assert best <= listed[0].near.spare + 0.01
    assert best <= float(rose[:, 2].max()) + 0.01
    for number, each in enumerate(listed):
        assert starts.check(each.start) == each.near
        assert each.near.clearance == pytest.approx(reckoned(starts.sweep, room, each.start)[0], abs=2e-4)
        assert all(apart(each.start, other.start) for other in listed[:number])
    assert APART == (0.5, 30.0)


def test_headings_that_suit_the_room_are_said_so() -> None:
    room = replace(box(4.0, 3.0), walls=((2, "window"),))
    suits = starts_of(form_of(), room).suiting()
    assert suits[0.0] == message("suits.wall", name="window") and suits[90.0] == message("suits.square")
    assert len(suits) == 4
    slanted = replace(room, lines=replace(room.lines, direction=30.0))
    assert starts_of(form_of(), slanted).suiting()[30.0] == message("suits.boards")


# Lengths of steps.


@settings(max_examples=tries(12))
@given(st.integers(0, 10_000))
def test_a_walk_is_affine_in_its_lengths(seed: int) -> None:
    random = np.random.default_rng(seed)
    more = read_score(
        "shift L 100\nstep R at L.toe 1:30 30cm ball\nshift R 100\nlift L\npivot R ball 3\nstep L to 0.3 0.6"
    )
    rest = (
        Posture("spots", lines=more),
        Posture("round", mirror_of="spots", axis=Clock(45)),
        Posture("on", repeat_of="spots", turned=50.0),
    )
    form = replace(DEMO, postures=(*DEMO.postures, *rest))
    trace = walk(form)
    measures = measures_of(form, trace)
    by = random.uniform(0.001, 0.03, len(measures.every)) * random.choice([-1, 1], len(measures.every))
    changed, changes = resized(form, measures, {m: m.value + d for m, d in zip(measures.every, by, strict=True)})
    written = {m: round(m.value + d, 4) - m.value for m, d in zip(measures.every, by, strict=True) if abs(d) >= 5e-5}
    moved = np.array([written.get(m, 0.0) for m in measures.every])
    changed = replace(
        changed,
        postures=tuple(  # as it is written, and read again
            replace(p, lines=read_score(write_score(p.lines))) for p in changed.postures
        ),
    )
    again = walk(changed)
    assert np.abs(trace.heels + measures.heels @ moved - again.heels).max() < 1e-9
    pelvis = Mechanics(trace).pelvis_places + measures.pelvis_of(trace) @ moved
    assert np.abs(pelvis - Mechanics(again).pelvis_places).max() < 1e-9
    assert {m.what for m in measures.every} == {"length", "width", "gap", "distance"} and len(changes) == len(written)


def test_the_other_side_of_a_form_is_walked_as_in_a_mirror() -> None:
    trace, other = walk(DEMO), walk(mirrored_form(DEMO))
    assert np.abs(other.heels[:, ::-1] * (-1.0, 1.0) - trace.heels).max() < 1e-9
    assert mirrored_form(mirrored_form(DEMO)) == replace(DEMO, postures=mirrored_form(mirrored_form(DEMO)).postures)
    back = review(mirrored_form(mirrored_form(DEMO)), walk(mirrored_form(mirrored_form(DEMO)))).findings
    assert [f.message for f in back] == [f.message for f in review(DEMO, trace).findings]


# What would make it fit.


def test_a_room_a_centimetre_too_short_is_mended_by_a_centimetre() -> None:
    form = form_of()
    low, high = extents(form)
    for short in (0.01, 0.06):
        room = box(1.6, float(high[1] - low[1]) + 0.2 - short)
        begun = Start(0.8, 0.1 - float(low[1]))
        fitted = fitted_steps(form, room, begun)
        assert fitted is not None and fitted.start.heading == 0.0
        assert fitted.total == pytest.approx(short, abs=0.0015 + 0.1 * short)
        assert clearance_at(Sweep(walk(fitted.form)), room, fitted.start).fits
        assert all(change.after < change.before for change in fitted.changes)
    one = fitted_steps(form, room, begun, fewest=True)
    assert one is not None and one.postures == 1
    tiny = box(0.5, 0.5)
    assert fitted_steps(form, tiny, Start(0.25, 0.25)) is None  # nobody fits there, whatever the steps
    assert fitted_steps(form, room, begun, locked=("a",)) is None


def test_the_smallest_sum_is_no_larger_than_any_that_is_tried() -> None:
    steps = "shift R 100\nstep L 12 bow 45x20\nshift L 100\nstep R 3 bow 40x20\nshift R 100"
    form = form_of(steps)
    trace, low, high = walk(form), *extents(form)
    measures = measures_of(form, trace)
    lengths = [m for m in measures.every if m.what == "length"]
    room = box(float(high[0] - low[0]) + 0.2 - 0.05, float(high[1] - low[1]) + 0.2 - 0.05)
    fitted = fitted_steps(form, room, Start(*(0.1 - low).tolist()))
    assert fitted is not None and len(lengths) == 2
    sums = []
    for one in np.arange(0.0, 0.12, 0.01):
        for other in np.arange(0.0, 0.12, 0.01):
            tried, _ = resized(
                form, measures, {lengths[0]: lengths[0].value - one, lengths[1]: lengths[1].value - other}
            )
            if Starts(Sweep(walk(tried)), room).best_of([0.0])[0, 2] >= 0:
                sums.append(one + other)
    assert fitted.total <= min(sums) + 0.002


def test_a_form_that_fits_nowhere_is_offered_every_kind_of_change() -> None:
    room = read_file(Path(__file__).parents[2] / "src/waltzmark/demo/rooms/2-harbour-office.waltz").form.room
    assert room is not None
    found: list[object] = []

    class Watcher:
        def tell(self, share: float, words: str = "") -> None:
            assert 0.0 <= share <= 1.0

        def hand_out(self, so_far: object) -> None:
            found.append(so_far)

    form = replace(DEMO, postures=DEMO.postures[:4], room=smaller(room, 0.65))
    room = form.room
    assert room is not None
    known = advice(form, progress=Watcher())
    assert not known.here.fits and known.done and len(found) >= 7
    kinds = [change.kind for change in known.changes]
    assert {"shorter", "steps", "break"} <= set(kinds) and not {"move", "turn"} & set(kinds)
    for change in known.changes:
        again = check_room(walk(change.form), change.room)
        assert again.fits and again.clearance == pytest.approx(change.near.clearance)
    by = {change.kind: change for change in known.changes}
    assert sum(each.by for each in by["steps"].resizes) <= sum(each.by for each in by["shorter"].resizes)
    percent = int(by["shorter"].does["percent"])  # type: ignore[arg-type]
    bigger, _ = resized(
        form,
        measures_of(form, walk(form)),
        {
            m: m.value * (percent + 1) / 100
            for m in measures_of(form, walk(form)).every
            if m.what == "length" or m.aside
        },
    )
    starts = Starts(Sweep(walk(bigger)), room)
    assert not any(starts.fits_at(heading) for heading in HEADINGS)
    assert len(by["break"].room.breaks) == 1
    for change in (each for each in known.changes if each.kind in ("steps", "postures")):
        assert all(abs(each.after - each.before) <= 0.25 * each.before + 1e-4 for each in change.resizes)
        named = []
        for made in (form, change.form):
            trace = walk(made)
            named.append([recognised(trace.pose(n), made.body, made.school).name for n in range(len(trace))])
        assert named[0] == named[1]


def test_a_room_that_is_short_of_a_little_clearance_is_offered_less_of_it() -> None:
    form = form_of("shift R 100\nstep L 12 45x20\nshift L 100")
    low, high = extents(form)
    wide, deep = (high - low).tolist()
    known = advice(replace(form, room=replace(box(wide + 0.12, deep + 0.12), clearance=0.1)))
    (less,) = [change for change in known.changes if change.kind == "clearance"]
    assert not known.here.fits and 0.0 < less.room.clearance < 0.1 and check_room(walk(form), less.room).fits


def test_a_change_says_what_it_would_bring_along_and_arms_can_be_drawn_in() -> None:
    wide = "\n".join(f"shift {a} 100\nstep {b} 12 side 70" for a, b in ("RL", "LR", "RL"))
    reach = form_of(f"hand R 3 chest open, hand L 9 chest open\n{wide}")
    low, high = extents(reach)
    room = box(float(high[0] - low[0]) + 0.15, 1.2, arms=True)
    kinds = {each.kind: each for each in advice(replace(reach, room=room)).changes}
    assert "arms" in kinds and not kinds["arms"].room.arms
    narrow = form_of("shift R 100\nstep L 12 bow 45x20, expect length 45\nshift L 100\nexpect length 45")
    low, high = extents(narrow)
    tight = box(float(high[0] - low[0]) + 0.12, float(high[1] - low[1]) + 0.2 - 0.08)
    steps = [each for each in advice(replace(narrow, room=tight)).changes if each.kind == "steps"]
    assert steps and any(rule == "expect.unmet" for _, rule in steps[0].brings)


def test_the_other_side_fits_where_the_form_does_not() -> None:
    text = "shift R 100\nstep L 9 bow 70x20\nshift L 100\nstep R 12 bow 30x20\nshift R 100"
    form = form_of(text)
    mirror = mirrored_form(form)
    # An L as the mirror image goes: ahead, and then to the right.
    rings = [shapely.Polygon(ring) for ring in silhouette(walk(mirror))]
    shape = shapely.buffer(shapely.union_all(rings), 0.13, quad_segs=2).simplify(0.01)
    corners = shapely.get_coordinates(shape)[:-1].round(3)
    room = Room("", tuple(map(tuple, corners.tolist())), Start(0.0, 0.0), clearance=0.1)
    kinds = {each.kind: each for each in advice(replace(form, room=room)).changes}
    assert "side" in kinds and kinds["side"].near.fits and isinstance(kinds["side"].near, Clearance)
