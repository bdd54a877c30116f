"""What a dragging hand writes, and that walking it puts the foot where the hand let go."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_step import GROUND, after, stand
from waltzmark.core.base.leftright import Side
from waltzmark.core.edit.dragging import dragged_foot, dragged_share, dragged_toe, dragged_torso
from waltzmark.core.edit.snapping import NO_SNAPS, Snaps, StanceSize, snapped_heading, snapped_place
from waltzmark.core.form.room import FloorLines, Room, Start
from waltzmark.core.score import read_count, write_count
from waltzmark.core.walk.step import step

L, R = Side.LEFT, Side.RIGHT


@pytest.mark.parametrize(
    ("count", "x", "y", "written"),
    [
        # the right foot supports at (0.1, 0)
        ("step L 12 bow", -0.28, 0.62, "step L 12 bow 62x38"),
        ("step L 12 bow toe 10:30 ball # kept", -0.28, 0.62, "step L 12 bow 62x38 toe 10:30 ball # kept"),
        ("step L 9, torso 9", -0.52, -0.38, "step L 9 62x38, torso 9"),
        ("step L 12 bow", -0.28, -0.50, "step L 12 back bow 50x38"),
        ("step L 12 back bow", -0.28, 0.50, "step L 12 bow 50x38"),
        ("step L 12 bow", -0.28, 0.004, "step L 12 side bow 38"),
        ("step L 12 cross", 0.15, 0.30, "step L 12 cross 30x-5"),
        ("step L 12 bow", 0.15, 0.30, "step L 12 bow 30x-5"),
        ("step L beside", -0.2, 0.1, "step L to -0.20 0.10"),
        ("step L to 1 1", -0.2, 0.1, "step L to -0.20 0.10"),
    ],
)
def test_a_step_keeps_its_form_with_new_figures(count: str, x: float, y: float, written: str) -> None:
    dragged = dragged_foot(read_count(count), stand(), L, x, y, "N")
    assert (write_count(dragged.count), dragged.replaces) == (written, True)


def test_without_a_step_a_new_count_takes_the_foot_there() -> None:
    dragged = dragged_foot(read_count("shift R 100"), stand(), L, -0.333, 0.1, "N")
    assert (write_count(dragged.count), dragged.replaces) == ("step L to -0.33 0.10", False)


@given(
    st.sampled_from(["12", "9", "1:30", "~2", "SW"]),
    st.sampled_from(["", " bow", " back", " cross"]),
    st.integers(-80, 80),
    st.integers(-80, 80),
)
def test_the_foot_ends_where_the_hand_let_go(facing: str, how: str, right: int, ahead: int) -> None:
    x, y = 0.1 + right / 100, ahead / 100
    dragged = dragged_foot(read_count(f"step L {facing}{how}"), stand(), L, x, y, "N")
    pose, _, _ = step(stand(), dragged.count, GROUND)
    assert (pose.left.x, pose.left.y) == pytest.approx((x, y), abs=0.022)
    assert write_count(read_count(write_count(dragged.count))) == write_count(dragged.count)


@pytest.mark.parametrize(
    ("count", "heading", "turned", "written", "replaces"),
    [
        ("pivot L heel 9", 315.0, -45.0, "pivot L ball 10:30", True),
        ("pivot L heel 9 # kept", 90.0, -270.0, "pivot L ball 3 ccw # kept", True),
        ("pivot L heel 9", 180.0, 180.0, "pivot L ball 6 cw", True),
        ("step L 12 bow", 315.0, -45.0, "step L 12 bow toe 10:30", True),
        ("shift R 100", 45.0, 45.0, "pivot L ball 1:30", False),
        ("pivot R heel 3", 45.0, 45.0, "pivot L ball 1:30", False),
    ],
)
def test_a_toe_turns_what_is_written(count: str, heading: float, turned: float, written: str, replaces: bool) -> None:
    dragged = dragged_toe(read_count(count), stand(), L, "ball", heading, turned)
    assert (write_count(dragged.count), dragged.replaces) == (written, replaces)
    assert after(write_count(dragged.count)).left.heading == pytest.approx(heading)


@pytest.mark.parametrize(
    ("count", "left", "written"),
    [
        ("shift R 100 # kept", 0.7, "shift L 70 # kept"),
        ("shift 70/30", 0.2, "shift 20/80"),
        ("pivot R heel 9, expect L flat", 0.5, "pivot R heel 9, shift 50/50, expect L flat"),
        ("step L 9 bow, torso 9", 0.7, "shift L 70"),  # it lands empty: a new count pours
        ("step L 9 bow", 0.0, "step L 9 bow, shift R 100"),
        ("step L 9 bow, shift L 20", 0.7, "step L 9 bow, shift L 70"),
        ("hold", 0.304, "shift R 70"),
        ("torso 9", -3.0, "torso 9, shift R 100"),
    ],
)
def test_a_pour_is_said_of_the_fuller_foot(count: str, left: float, written: str) -> None:
    assert write_count(dragged_share(read_count(count), left).count) == written
    assert after(written).left_share == pytest.approx(min(max(round(left, 2), 0.0), 1.0))


def test_a_turned_dial_writes_the_torso() -> None:
    assert write_count(dragged_torso(read_count("shift L 70, torso 9"), 315.0).count) == "shift L 70, torso 10:30"
    assert write_count(dragged_torso(read_count("step L 9 bow, expect L heel"), 45.2).count) == (
        "step L 9 bow, torso 1:30, expect L heel"
    )


def test_headings_keep_to_half_hours() -> None:
    assert [snapped_heading(h, Snaps()) for h in (7.4, 7.6, 359.0, 46.0)] == [0, 15, 0, 45]
    assert snapped_heading(46.3, NO_SNAPS) == 46.5


SUPPORT = stand().right  # at (0.1, 0)
SIZES = (StanceSize("bow", 0.50, 0.35), StanceSize("parallel", 0.0, 0.35))
#: Boards every 20 cm, whose lines lie at x = -0.30, -0.10, 0.10 of the floor; the start mark at the room's (0.5, 1).
ROOM = Room("", ((0.0, 0.0), (3.0, 0.0), (3.0, 3.0), (0.0, 3.0)), Start(0.5, 1.0), lines=FloorLines(0.20))


@pytest.mark.parametrize(
    ("x", "y", "snaps", "place", "kinds"),
    [
        (-0.27, 0.51, Snaps(), (-0.25, 0.50), ("length", "width")),
        (-0.27, 0.70, Snaps(), (-0.25, 0.70), ("width",)),  # the board line would move the width
        (-0.09, 0.51, Snaps(), (-0.10, 0.50), ("length", "boards")),
        (-0.09, 0.51, Snaps(stances=False), (-0.10, 0.51), ("boards",)),
        (-0.09, 0.51, Snaps(boards=False), (-0.09, 0.50), ("length",)),
        (-0.32, 0.32, Snaps(), (-0.31, 0.33), ("mark",)),
        (-0.32, 0.32, Snaps(marks=False, boards=False), (-0.32, 0.32), ()),
        (-0.27, 0.51, NO_SNAPS, (-0.27, 0.51), ()),
    ],
)
def test_a_foot_keeps_to_marks_stances_and_lines(
    x: float, y: float, snaps: Snaps, place: tuple[float, float], kinds: tuple[str, ...]
) -> None:
    marks = np.array([(-0.31, 0.33), (0.11, 0.01)])
    to = snapped_place(x, y, 0.03, snaps, SUPPORT, L, 0.0, SIZES, ROOM, marks)
    assert (to.x, to.y) == pytest.approx(place) and [each.kind for each in to.to] == [f"snap.{kind}" for kind in kinds]


def test_a_mark_under_the_supporting_foot_and_one_out_of_reach_are_passed_over() -> None:
    marks = np.array([(0.11, 0.01), (0.9, 0.9)])
    to = snapped_place(0.12, 0.02, 0.03, Snaps(stances=False, boards=False), SUPPORT, L, 0.0, SIZES, ROOM, marks)
    assert to.to == ()


def test_tiles_hold_a_foot_both_ways() -> None:
    tiles = Room("", ROOM.outline, Start(0.5, 1.0, 90.0), lines=FloorLines(0.20, True))
    to = snapped_place(0.21, -0.28, 0.03, Snaps(stances=False), SUPPORT, L, 0.0, SIZES, tiles, np.zeros((0, 2)))
    inside = tiles.to_room(np.array((to.x, to.y))) / 0.20
    assert np.allclose(inside, np.round(inside)) and [each.kind for each in to.to] == ["snap.tiles"] * 2


def test_a_step_at_its_stances_own_size_needs_no_figures() -> None:
    count, own = read_count("step L 12 bow 40x30"), (0.502, 0.349)
    dragged = dragged_foot(count, stand(), L, 0.1 - 0.35, 0.50, "N", own)
    assert write_count(dragged.count) == "step L 12 bow"
    exact = dragged_foot(count, stand(), L, 0.1 - 0.353, 0.504, "N", own, decimals=1)
    assert write_count(exact.count) == "step L 12 bow 50.4x35.3"
