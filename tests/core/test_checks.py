"""The three checks: room, return and sides."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from waltzmark.core.answers.review import review
from waltzmark.core.answers.words import return_answer, room_answer
from waltzmark.core.base.errors import WaltzmarkError
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
    assert fit.what == "the wall at 9 o'clock"
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
    assert high.what == "the bench" and high.clearance < 0.05 < low.clearance
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
        assert found.what == "the door in the hall" and found.clearance < 0.0 < shut.clearance
        (leaf,) = hall.kept_free
        assert all(3.1 - 1e-9 <= x <= 4.0 + 1e-9 for x, _ in leaf.outline) and not shut.what.startswith("the door")
    with pytest.raises(WaltzmarkError, match="longer than what is left of its wall, 4 m"):
        replace(hall, doors=(Door(at, 3.5, 0.9),))


def test_a_wall_is_called_by_its_name() -> None:
    named = replace(room(Start(0.5, 2.0)), walls=((3, "window"),))
    assert check_room(STILL, named).what == "the window"
    assert check_room(STILL, replace(named, start=Start(3.5, 2.0))).what == "the wall at 3 o'clock"
    with pytest.raises(WaltzmarkError, match="corner 4; this room's are 0 to 3"):
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
    assert ahead[0] == "the wall at 12 o'clock" and check_room(step, room(Start(2.0, 1.0, 180.0))).what == ahead[0]
    assert check_room(step, room(Start(2.0, 3.0))).clearance == pytest.approx(
        check_room(step, room(Start(2.0, 1.0, 180.0))).clearance
    )


def test_an_obstacle_is_named_and_its_count_found() -> None:
    step = walked("shift R 100\nstep L 12 bow 100x20\nshift L 100")
    chair = Obstacle("chair", ((1.9, 3.6), (2.1, 3.6), (2.1, 3.8), (1.9, 3.8)))
    fit = check_room(step, room(Start(2.0, 2.0), chair))
    assert fit.what == "the chair" and fit.row == 3
    # Standing still within something is told like walking into it, by how deep one stands in it.
    deep = Obstacle("tub", ((1.0, 1.0), (3.0, 1.0), (3.0, 3.0), (1.0, 3.0)))
    stuck = check_room(STILL, room(Start(2.0, 2.0), deep))
    assert stuck.what == "the tub" and stuck.clearance < -0.8 - RADIUS
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
    ("outline", "says"),
    [
        (((0, 0), (1, 0)), "at least three"),
        (((0, 0), (2, 2), (2, 0), (0, 2)), "crosses itself: the side after corner 1 meets the side after corner 3"),
        (((0, 0), (1, 0), (2, 0)), "crosses itself"),
        (((0, 0), (math.nan, 0), (1, 1)), "corner 2"),
        (((0, 0), (1e9, 0), (1, 1)), "corner 2"),
        (((0, 0), (0, 0), (1, 1), (1, 0)), "crosses itself"),
        (((0, 0), (4, 0), (4, 4), (2, 0), (0, 4)), "crosses itself"),
    ],
)
def test_an_impossible_outline_says_which_corner(outline: tuple[tuple[float, float], ...], says: str) -> None:
    with pytest.raises(WaltzmarkError, match=says):
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
    assert answer.text == "Ends 50 cm from its start (50 cm ahead and 5 cm to the left), turned 90° clockwise."
    home = walked("hold")
    assert return_answer(check_return(home), 1).good is True


@pytest.mark.parametrize(
    ("offset", "turn", "good", "text"),
    [
        ((0.0, 0.0049), 0.49, True, "Returns: it ends on its start mark, facing as it began."),
        ((0.0, 0.0051), 0.0, True, "Returns within 1 cm of its start (ahead)."),
        ((0.0, -0.0051), 0.51, True, "Returns within 1 cm of its start (behind), turned 1° clockwise."),
        ((0.30, 0.0), 0.0, True, "Returns within 30 cm of its start (to the right)."),
        ((-0.3001, 0.0), 0.0, False, "Ends 30 cm from its start (to the left)."),
        ((0.0, 0.0), 15.0, True, "Returns within 0 cm of its start, turned 15° clockwise."),
        ((0.0, 0.0), -15.1, False, "Ends 0 cm from its start, turned 15° counter-clockwise."),
        ((0.006, -0.004), 0.0, True, "Returns within 1 cm of its start (to the right)."),
    ],
)
def test_where_one_wording_of_the_return_ends_and_the_next_begins(
    offset: tuple[float, float], turn: float, good: bool, text: str
) -> None:
    answer = return_answer(Return(offset, math.hypot(*offset), turn, ()), 7)
    assert (answer.good, answer.text, answer.row) == (good, text, 7)


@pytest.mark.parametrize(
    ("clearance", "wanted", "good", "begins"),
    [
        (-0.01, 0.0, False, "Does not fit: 1 cm too far at the stove, in Go, count 2."),
        (0.0, 0.0, True, "Fits: 0 cm from the stove"),
        (0.05, 0.051, False, "Too close: 5 cm of 5 cm from the stove"),
        (0.05, 0.05, True, "Fits: 5 cm from the stove"),
    ],
)
def test_where_one_wording_of_the_room_ends_and_the_next_begins(
    clearance: float, wanted: float, good: bool, begins: str
) -> None:
    form = Form(postures=(Posture("go", "Go"),))
    check = RoomCheck(clearance >= wanted - 1e-9, clearance, wanted, "the stove", 3, (0.0, 0.0))
    answer = room_answer(form, check, "go", 2)
    assert answer.good is good and answer.text.startswith(begins) and answer.row == 3


@given(st.lists(st.tuples(st.integers(0, 4), st.integers(0, 4)), min_size=3, max_size=7))
@settings(max_examples=300)
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
    with pytest.raises(WaltzmarkError, match="crosses itself"):
        Room("", (*many[:40], *many[40:][::-1]), Start())


def test_a_form_without_room_or_sides_has_nothing_to_answer() -> None:
    form = Form(postures=(Posture("a"),))
    result = review(form, walk(form))
    assert [a.good for a in result.answers] == [None, None, None] and "walked yet" in result.answers[1].text
    assert result.room is None and result.findings == ()
