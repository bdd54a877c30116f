"""What a dragging hand writes, and that walking it puts the foot where the hand let go."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_step import GROUND, after, stand
from waltzmark.core.dragging import dragged_foot, dragged_toe, snapped_heading
from waltzmark.core.score import read_count, write_count
from waltzmark.core.side import Side
from waltzmark.core.step import step

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


@given(st.sampled_from(["12", "9", "1:30", "~2", "SW"]), st.sampled_from(["", " bow", " back", " cross"]),
       st.integers(-80, 80), st.integers(-80, 80))  # fmt: skip
def test_the_foot_ends_where_the_hand_let_go(facing: str, how: str, right: int, ahead: int) -> None:
    x, y = 0.1 + right / 100, ahead / 100
    dragged = dragged_foot(read_count(f"step L {facing}{how}"), stand(), L, x, y, "N")
    pose, _, _ = step(stand(), dragged.count, GROUND)
    assert (pose.left.x, pose.left.y) == pytest.approx((x, y), abs=0.022)
    assert write_count(read_count(write_count(dragged.count))) == write_count(dragged.count)


@pytest.mark.parametrize(
    ("count", "heading", "turned", "written", "replaces"),
    [
        ("pivot L heel 9", 315.0, -45.0, "pivot L heel 10:30", True),
        ("pivot L heel 9 # kept", 90.0, -270.0, "pivot L heel 3 ccw # kept", True),
        ("pivot L heel 9", 180.0, 180.0, "pivot L heel 6 cw", True),
        ("step L 12 bow", 315.0, -45.0, "step L 12 bow toe 10:30", True),
        ("shift R 100", 45.0, 45.0, "pivot L ball 1:30", False),
        ("pivot R heel 3", 45.0, 45.0, "pivot L ball 1:30", False),
    ],
)
def test_a_toe_turns_what_is_written(count: str, heading: float, turned: float, written: str, replaces: bool) -> None:
    dragged = dragged_toe(read_count(count), stand(), L, "ball", heading, turned)
    assert (write_count(dragged.count), dragged.replaces) == (written, replaces)
    assert after(write_count(dragged.count)).left.heading == pytest.approx(heading)


def test_headings_snap_to_half_hours() -> None:
    assert [snapped_heading(h) for h in (7.4, 7.6, 359.0, 46.0)] == [0, 15, 0, 45]
    assert snapped_heading(46.3, 0.5) == 46.5
