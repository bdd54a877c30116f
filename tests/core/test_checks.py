"""The three checks: room, return and sides."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.told import thing, wall_at, wall_named
from tests.trying import tries
from waltzmark.core.answers.answers import return_answer, room_answer
from waltzmark.core.answers.review import review
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.room import Door, Obstacle, Room, Start
from waltzmark.core.home.ledger import Return, check_return
from waltzmark.core.room.clearance import RoomCheck, check_room
from waltzmark.core.room.sweep import SHOE_MARGIN, Sweep
from waltzmark.core.score import read_score
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

SQUARE = ((0.0, 0.0), (4.0, 0.0), (4.0, 4.0), (0.0, 4.0))


def walked(text: str, **more: object) -> Trace:
    return walk(Form(postures=(Posture("a", lines=read_score(text)),), **more))  # type: ignore[arg-type]


STILL = walked("hold")
RADIUS = STILL.body.shoulder_breadth / 2.0
CENTRE = STILL.centres[0]  # of the opening stance: straight ahead of the start mark


def room(start: Start, *obstacles: Obstacle, clearance: float = 0.0) -> Room:
    return Room("", SQUARE, start, obstacles, clearance)


def test_standing_still_the_body_is_its_radius_from_the_wall() -> None:
    fit = check_room(STILL, room(Start(0.5, 2.0)))
    assert fit.fits and fit.clearance == pytest.approx(0.5 - RADIUS)
    assert fit.what == wall_at(270.0)
    # The body stands about the pelvis: the centre of mass is above the soles, and the ankles are behind their middle.
    pelvis = (CENTRE[1] - 2 * 0.072 * 0.12 * STILL.body.foot_length) / 0.856
    assert fit.place == pytest.approx((-0.5, pelvis), abs=1e-4)


def test_arms_count_when_they_are_asked_for_and_pass_above_what_is_low() -> None:
    body = STILL.body
    wide = replace(room(Start(2.0, 2.0)), arms=True)
    plain = check_room(STILL, wide)
    assert check_room(STILL, room(Start(2.0, 2.0))).clearance > plain.clearance
    pelvis = (CENTRE[1] - 2 * 0.072 * 0.12 * body.foot_length) / 0.856
    assert plain.clearance == pytest.approx(
        2.0 - pelvis - 0.35 * body.stature, abs=1e-3
    )  # all round, where none is stated
    pushing = walked("hand R 12 chest push, hand L 9 chest guard")
    reach = body.shoulder_breadth / 2.0 + 0.85 * body.measure("arm")
    told = check_room(pushing, wide)
    assert told.clearance == pytest.approx(min(plain.clearance, 2.0 - pelvis - reach), abs=1e-3) and told.row in (0, 1)
    bench = Obstacle("bench", ((1.7, 2.5), (2.3, 2.5), (2.3, 2.7), (1.7, 2.7)))
    low, high = (
        check_room(pushing, replace(wide, obstacles=(replace(bench, kind=kind),))) for kind in ("low", "solid")
    )
    assert high.what == thing("bench") and high.clearance < 0.05 < low.clearance
    held = walk(Form(body=replace(body, implement=0.5), postures=(Posture("a", lines=read_score("hand R 12 chest")),)))
    assert check_room(held, wide).clearance < told.clearance - 0.3


def test_a_door_that_swings_in_is_kept_free() -> None:
    for outline in (SQUARE, SQUARE[::-1]):
        # The wall that begins at (4, 0) or (4, 4), its hinge a metre from the corner.
        at = next(
            n for n, (a, b) in enumerate(zip(outline, outline[1:] + outline[:1], strict=True)) if a[0] == b[0] == 4.0
        )
        door = Door(at, 1.0, 0.9)
        hall = replace(
            room(Start(3.0, 1.0 if outline is SQUARE else 3.0)), outline=outline, doors=(door,), walls=((at, "hall"),)
        )
        found, shut = check_room(STILL, hall), check_room(STILL, replace(hall, doors=(replace(door, inward=False),)))
        assert found.what == thing("door in the hall") and found.clearance < 0.0 < shut.clearance
        (leaf,) = hall.kept_free
        assert all(3.1 - 1e-9 <= x <= 4.0 + 1e-9 for x, _ in leaf.outline) and shut.what != found.what
    with pytest.raises(WaltzmarkError, match="room.door.*length=4"):
        replace(hall, doors=(Door(at, 3.5, 0.9),))


def test_a_wall_is_called_by_its_name() -> None:
    named = replace(room(Start(0.5, 2.0)), walls=((3, "window"),))
    assert check_room(STILL, named).what == wall_named("window")
    assert check_room(STILL, replace(named, start=Start(3.5, 2.0))).what == wall_at(90.0)
    with pytest.raises(WaltzmarkError, match="room.wall.*corner=4, last=3"):
        replace(named, walls=((4, "door"),))


def test_a_start_outside_or_too_near_does_not_fit() -> None:
    near = check_room(STILL, room(Start(0.1, 2.0)))
    assert not near.fits and near.clearance == pytest.approx(0.1 - RADIUS)
    out = check_room(STILL, room(Start(-1.0, 2.0)))
    toe = STILL.body.sole.outlines[0][:, 0].min() - STILL.body.foot_breadth / 2
    assert out.clearance <= -1.0 + toe + SHOE_MARGIN  # the soles are further out than the body's middle
    assert not check_room(STILL, room(Start(0.5, 2.0), clearance=0.5)).fits


def test_the_start_heading_turns_the_walk_in_the_room() -> None:
    step = walked("shift R 100\nstep L 12 bow 100x20\nshift L 100")
    ahead = [check_room(step, room(Start(2.0, 2.6, heading))).what for heading in (0.0, 180.0)]
    assert ahead[0] == wall_at(0.0) and check_room(step, room(Start(2.0, 1.0, 180.0))).what == ahead[0]
    assert check_room(step, room(Start(2.0, 3.0))).clearance == pytest.approx(
        check_room(step, room(Start(2.0, 1.0, 180.0))).clearance
    )


def test_an_obstacle_is_named_and_its_count_found() -> None:
    step = walked("shift R 100\nstep L 12 bow 100x20\nshift L 100")
    chair = Obstacle("chair", ((1.9, 3.6), (2.1, 3.6), (2.1, 3.8), (1.9, 3.8)))
    fit = check_room(step, room(Start(2.0, 2.0), chair))
    assert fit.what == thing("chair") and fit.row == 3
    # Standing still within something is told like walking into it, by how deep one stands in it.
    deep = Obstacle("tub", ((1.0, 1.0), (3.0, 1.0), (3.0, 3.0), (1.0, 3.0)))
    stuck = check_room(STILL, room(Start(2.0, 2.0), deep))
    assert stuck.what == thing("tub") and stuck.clearance < -0.8 - RADIUS
    inside = Obstacle("pole", ((1.99, 2.05), (2.01, 2.05), (2.01, 2.07), (1.99, 2.07)))
    assert check_room(STILL, room(Start(2.0, 2.0), inside)).clearance < 0


def test_the_swept_space_holds_every_sole_and_the_body() -> None:
    step = walked("shift R 100\nstep L 9 bow\nshift L 100\npivot R ball 9\nstep R beside")
    places = Sweep(step).every

    def apart(point: tuple[float, float]) -> float:
        return float(np.hypot(*(places.points - point).T).min())

    sole, foot = step.body.sole, step.body.foot_length
    for row in range(len(step)):
        for side in range(2):
            (x, y), heading = step.heels[row, side].tolist(), float(step.headings[row, side])
            assert (
                apart(sole.landmark(x, y, heading, "back")) < 0.01 and apart(sole.landmark(x, y, heading, "toe")) < 0.01
            )
        near = np.hypot(*(places.points - step.centres[row]).T) < 0.12 * foot
        assert (places.radii[near] == RADIUS).any() and set(places.radii.round(6)) == {round(RADIUS, 6), SHOE_MARGIN}
    # On its way the sole never jumps, so nothing fits between two of its places; and every row has some.
    steps = places[(places.rows == 2) & (places.radii < 0.1)]
    assert max(np.sort(np.hypot(*(steps.points - point).T))[1] for point in steps.points[::7]) < 0.03
    assert set(places.rows) == set(range(len(step)))


@pytest.mark.parametrize(
    ("outline", "kind"),
    [
        (((0, 0), (1, 0)), "outline.corners"),
        (((0, 0), (2, 2), (2, 0), (0, 2)), "outline.crosses"),
        (((0, 0), (1, 0), (2, 0)), "outline.crosses"),
        (((0, 0), (math.nan, 0), (1, 1)), "outline.far"),
        (((0, 0), (1e9, 0), (1, 1)), "outline.far"),
        (((0, 0), (0, 0), (1, 1), (1, 0)), "outline.crosses"),
        (((0, 0), (4, 0), (4, 4), (2, 0), (0, 4)), "outline.crosses"),
    ],
)
def test_an_impossible_outline_says_which_corner(outline: tuple[tuple[float, float], ...], kind: str) -> None:
    with pytest.raises(WaltzmarkError, match=kind):
        Room("", outline, Start())


def test_the_return_is_offset_turn_and_what_each_posture_adds() -> None:
    postures = (
        Posture("go", lines=read_score("shift R 100\nstep L 12 bow 50x20\nshift L 100\nstep R beside 20")),
        Posture("turn", lines=read_score("shift 50/50\ntorso 3")),
    )
    home = check_return(walk(Form(postures=postures)))
    start_x = Body().foot_breadth / 2  # the right heel, from which the left steps 20 cm aside
    assert home.offset == pytest.approx((start_x - 0.10, 0.50))
    assert home.distance == pytest.approx(math.hypot(*home.offset)) and home.turn == 90
    go, turn = home.contributions
    assert go.offset == pytest.approx(home.offset) and turn.offset == pytest.approx((0, 0))
    assert (go.turn, turn.turn) == (0, 90)
    assert go.share + turn.share == pytest.approx(home.distance)


def test_the_answer_says_which_way_home_is_missed() -> None:
    trace = walked("shift R 100\nstep L 12 bow 50x20\nshift L 100\nstep R beside 20, torso 3")
    answer = return_answer(check_return(trace), len(trace) - 1)
    assert answer.good is False
    assert answer.message.kind == "return.ends-mark"
    ways = [(each.kind, each["by"]) for each in answer.message["ways"]]  # type: ignore[union-attr, index, call-overload]
    assert [kind for kind, _ in ways] == ["off.ahead", "off.left", "off.turned.cw"]
    assert [by for _, by in ways] == pytest.approx([0.5, 0.05, 90.0], abs=0.005)
    for way in (90, -90):  # half a turn ends the same, whichever way round it went
        back = walked(f"shift R 100\npivot L heel {way:+d}, torso {way:+d}\ntorso {way:+d}")
        told = return_answer(check_return(back), len(back) - 1).message["ways"]
        assert told[-1] == message("off.opposite")  # type: ignore[index]
    home = walked("hold")
    assert return_answer(check_return(home), 1).good is True


@pytest.mark.parametrize(
    ("offset", "turn", "good", "kind", "ways"),
    [
        ((0.0, 0.0049), 0.49, True, "on", []),
        ((0.0, 0.0051), 0.0, True, "within", ["ahead"]),
        ((0.0, -0.0051), 0.51, True, "within", ["behind", "turned.cw"]),
        ((0.30, 0.0), 0.0, True, "within", ["right"]),
        ((-0.3001, 0.0), 0.0, False, "ends", ["left"]),
        ((0.0, 0.0), 15.0, True, "turned", ["turned.cw"]),
        ((0.0, 0.0), -15.1, False, "turned", ["turned.ccw"]),
        ((0.006, -0.004), 0.0, True, "within", ["right"]),
    ],
)
def test_where_one_answer_of_the_return_ends_and_the_next_begins(
    offset: tuple[float, float], turn: float, good: bool, kind: str, ways: list[str]
) -> None:
    answer = return_answer(Return(offset, math.hypot(*offset), turn, ()), 7)
    assert (answer.good, answer.message.kind, answer.row) == (good, f"return.{kind}-mark", 7)
    told = dict(answer.message.fields).get("ways", ())
    assert [each.kind for each in told] == [f"off.{way}" for way in ways]  # type: ignore[union-attr]


@pytest.mark.parametrize(
    ("clearance", "wanted", "good", "kind"),
    [
        (-0.01, 0.0, False, "room.does-not-fit"),
        (0.0, 0.0, True, "room.fits"),
        (0.05, 0.051, False, "room.too-close"),
        (0.05, 0.05, True, "room.fits"),
    ],
)
def test_where_one_answer_of_the_room_ends_and_the_next_begins(
    clearance: float, wanted: float, good: bool, kind: str
) -> None:
    form = Form(postures=(Posture("go", "Go", read_score("hold\nhold\nhold")),))
    check = RoomCheck(clearance >= wanted - 1e-9, clearance, wanted, thing("stove"), 3, (0.0, 0.0))
    answer = room_answer(form, walk(form), check)
    assert (answer.good, answer.message.kind, answer.row) == (good, kind, 3)
    assert answer.message["thing"] == thing("stove") and answer.message["place"] == message(
        "place.count", title="Go", count=3
    )


@given(st.lists(st.tuples(st.integers(0, 4), st.integers(0, 4)), min_size=3, max_size=7))
@settings(max_examples=tries(300))
def test_an_outline_is_told_when_it_is_no_simple_polygon_and_only_then(corners: list[tuple[int, int]]) -> None:
    import shapely

    outline = tuple((float(x), float(y)) for x, y in corners)
    repeats = any(a == b for a, b in zip(outline, outline[1:] + outline[:1], strict=True))
    simple = not repeats and shapely.Polygon(outline).is_valid and shapely.Polygon(outline).area > 0
    refused = False
    try:
        Room("", outline, Start())
    except WaltzmarkError:
        refused = True
    assert refused is not simple
    many = tuple((math.cos(math.tau * k / 80), math.sin(math.tau * k / 80)) for k in range(80))
    assert Room("", many, Start()) and len(many) > 60  # those with many corners go another way
    with pytest.raises(WaltzmarkError, match="outline.crosses"):
        Room("", (*many[:40], *many[40:][::-1]), Start())


def test_a_form_without_room_or_sides_has_nothing_to_answer() -> None:
    form = Form(postures=(Posture("a"),))
    result = review(form, walk(form))
    assert [a.good for a in result.answers] == [None, None, None] and result.answers[1].message.kind == "return.nothing"
    assert result.room is None and result.findings == ()
