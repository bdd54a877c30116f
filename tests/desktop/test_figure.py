"""The figure beside the floor, driven as a hand drives it."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.body.figure import JOINTS
from waltzmark.core.walk.figures import Figures
from waltzmark.desktop.painter.seen import SEEN_FROM, looked_along
from waltzmark.desktop.plot.stage import FIGURE_PLACES
from waltzmark.desktop.theme import DARK
from waltzmark.desktop.window import MainWindow


def test_one_key_shows_the_figure_beside_the_floor_instead_of_it_and_hides_it(
    demo: MainWindow, make_window: Callable[[], MainWindow]
) -> None:
    plot, key = demo.plot, demo.desk.book["figure"]
    shown = []
    for _ in FIGURE_PLACES:
        key.trigger()
        head = plot.head.isVisibleTo(plot) if "head" in plot.__dict__ else False
        shown.append((plot.figure.isVisibleTo(plot), plot.floor.isVisibleTo(plot), head))
    assert shown == [(True, True, True), (True, False, True), (False, True, False)]
    key.trigger()
    demo.desk.book["head height"].trigger()
    assert plot.figure.isVisibleTo(plot) and not plot.head.isVisibleTo(plot)
    plot.figure.set_seen("left")
    again = make_window().plot
    assert again.figure.isVisibleTo(again) and again.figure.view.seen == "left"


def test_a_hand_turns_the_figure_like_a_wheel_and_a_choice_turns_it_back(demo: MainWindow) -> None:
    demo.desk.book["figure"].trigger()
    pane = demo.plot.figure
    view = pane.view
    before = view.looking().heading
    middle = QPoint(view.width() // 2, view.height() // 2)
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=middle)
    QTest.mouseMove(view, middle + QPoint(50, 0))
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=middle + QPoint(50, 0))
    turned = heading_difference(before, view.looking().heading)
    assert turned == pytest.approx(-30.0, abs=0.1) and pane.sides.currentIndex() == len(SEEN_FROM)
    QTest.keyClick(view, Qt.Key.Key_Left)
    assert heading_difference(before, view.looking().heading) == pytest.approx(-15.0, abs=0.1)
    pane.set_seen("behind")
    assert view.looking().heading == before and pane.sides.count() == len(SEEN_FROM)


@pytest.mark.parametrize(("seen", "turn"), [("behind", 0.0), ("front", 180.0), ("left", 90.0), ("right", -90.0)])
def test_a_figure_is_seen_from_where_it_says(demo: MainWindow, seen: str, turn: float) -> None:
    demo.document.session.go(demo.document.trace.row_of("coil", 6))
    demo.desk.book["figure"].trigger()
    view = demo.plot.figure.view
    demo.plot.figure.set_seen(seen)
    looking, facing = view.looking(), float(demo.document.trace.facing[demo.document.session.row])
    assert heading_difference(facing, looking.heading) == pytest.approx(turn)
    # What is to the right for one who looks that way is to the right in the picture.
    joints = view.figures.at(demo.document.session.row, 1.0).joints[0]
    angle = np.radians(looking.heading)
    across = joints[:, 0] * np.cos(angle) - joints[:, 1] * np.sin(angle)
    pixels = looking.flat(joints)
    assert pixels[:, 0] - pixels[0, 0] == pytest.approx(looking.scale * (across - across[0]))
    assert pixels[JOINTS["crown"], 1] == pixels[:, 1].min()
    assert not np.allclose(looking.depth(joints), across)


def test_across_the_stance_shows_all_of_its_length(demo: MainWindow) -> None:
    pose = demo.document.trace.pose(demo.document.trace.row_of("coil", 6))
    along = looked_along("across", pose.facing, pose)
    dx, dy = pose.right.x - pose.left.x, pose.right.y - pose.left.y
    away = np.hypot(dx, dy)
    across = dx * np.cos(np.radians(along)) - dy * np.sin(np.radians(along))
    assert abs(across) == pytest.approx(away)


def test_a_mirrored_teacher_has_the_left_foot_where_the_learners_left_is(demo: MainWindow) -> None:
    demo.document.session.go(demo.document.trace.row_of("quay", 5))
    demo.desk.book["figure"].trigger()
    view = demo.plot.figure.view
    places = {}
    for seen in ("front", "mirrored"):
        demo.plot.figure.set_seen(seen)
        flat = view.looking().flat(view.figures.at(demo.document.session.row, 1.0).joints[0])
        places[seen] = flat[JOINTS["left ankle"], 0] < flat[JOINTS["right ankle"], 0]
    assert places == {"front": False, "mirrored": True}


def test_the_figure_and_the_head_follow_the_playhead_and_every_theme(demo: MainWindow, qtbot: QtBot) -> None:
    demo.desk.book["figure"].trigger()
    view, head = demo.plot.figure.view, demo.plot.head
    shots = []
    for row in (3, 3.5, 4):
        demo.document.session.go(float(row))
        shots.append(view.grab().toImage())
    assert shots[0] != shots[1] != shots[2]
    demo.plot.set_theme(DARK)
    assert view.grab().toImage() != shots[2]
    assert head.heights == pytest.approx(Figures(demo.document.trace).settled.joint("crown")[:, 2])
    qtbot.mouseClick(head, Qt.MouseButton.LeftButton, pos=QPoint(head.width() // 2, 30))
    ribbon = demo.plot.ribbon
    assert demo.document.session.position == pytest.approx(ribbon.position_at(head.width() // 2), abs=0.2)


def test_a_kick_that_goes_far_stays_in_the_picture(demo: MainWindow) -> None:
    demo.desk.book["figure"].trigger()
    view = demo.plot.figure.view
    for row in range(len(demo.document.trace)):
        demo.document.session.go(float(row))
        joints = view.figures.at(row, 1.0).joints[0]
        across = view.looking().holding(joints, 14.0, view.width() - 14.0).flat(joints)[:, 0]
        assert across.min() >= 13.0 and across.max() <= view.width() - 13.0
