"""Hands on the floor, the score and the ribbon: everything is moved, turned and poured with the mouse alone."""

from __future__ import annotations

from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QPointF, QRectF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import found, row_index
from waltzmark.core.body.pose import FootPose
from waltzmark.core.score import write_count
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.plot.foot_drag import pivot_part
from waltzmark.desktop.plot.score_delegate import beam_box, dial_centre
from waltzmark.desktop.window import MainWindow
from waltzmark.files.writing import render


def pixel(window: MainWindow, x: float, y: float) -> QPoint:
    floor = window.plot.floor
    return floor.camera.transform(floor.size().toSizeF()).map(QPointF(x, y)).toPoint()


def on_foot(window: MainWindow, foot: FootPose, along: float) -> QPoint:
    """The pixel of a place on a foot's axis, in foot lengths ahead of the heel centre."""
    sole = window.document.trace.body.sole
    x, y = sole.landmark(foot.x, foot.y, foot.heading, "heel")
    tx, ty = sole.landmark(foot.x, foot.y, foot.heading, "toe")
    return pixel(window, x + (tx - x) * along / 0.87, y + (ty - y) * along / 0.87)


def drag(window: MainWindow, start: QPoint, end: QPoint, release: bool = True, on: QWidget | None = None) -> None:
    widget = on or window.plot.floor
    QTest.mousePress(widget, Qt.MouseButton.LeftButton, pos=start)
    for k in range(1, 11):
        QTest.mouseMove(widget, start + (end - start) * k / 10)
    if release:
        QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, pos=end)


def row_of(window: MainWindow) -> QRectF:
    """Where the selected count stands in the score."""
    index = row_index(window, window.document.session.row)
    window.plot.score.scrollTo(index)
    return QRectF(window.plot.score.visualRect(index))


def selected(window: MainWindow) -> str:
    row = window.document.trace.row(window.document.session.row)
    return write_count(row.written)


@pytest.fixture
def stepped(demo: MainWindow) -> MainWindow:
    """The demo at a step: count 5 of Coil the rope, ``step L 12 bow``."""
    demo.document.session.go(demo.document.trace.row_of("coil", 5))
    demo.grab()
    return demo


def test_a_dragged_step_keeps_its_form_and_is_one_undo(stepped: MainWindow) -> None:
    document = stepped.document
    foot = document.session.pose.left
    start = on_foot(stepped, foot, 0.3)
    scale = stepped.plot.floor.camera.scale
    drag(stepped, start, start + QPoint(0, -round(0.10 * scale)), release=False)
    assert document.session.ghost is not None and stepped.plot.floor.hand is not None
    assert stepped.plot.floor.hand.label == "54 cm long, 31 cm wide  ·  width of bow"
    assert document.form is document.read.form  # type: ignore[union-attr]
    QTest.mouseRelease(stepped.plot.floor, Qt.MouseButton.LeftButton, pos=start + QPoint(0, -round(0.10 * scale)))
    assert selected(stepped) == "step L 12 bow 54x31" and document.session.ghost is None
    assert document.undo_words == "change “step L 12 bow” to “step L 12 bow 54x31”"
    document.undo()
    assert selected(stepped) == "step L 12 bow" and document.session.pose.left == foot
    assert render(document.form, document.read) == document.read.text


def test_an_empty_foot_steps_and_a_loaded_one_says_why_not(demo: MainWindow) -> None:
    document = demo.document
    document.session.go(document.trace.row_of("quay", 1))
    demo.grab()
    start = on_foot(demo, document.session.pose.left, 0.3)
    drag(demo, start, start + QPoint(-60, 0))
    assert selected(demo).startswith("step L to -0.3") and document.session.row == document.trace.row_of("quay", 2)
    document.undo()
    loaded = on_foot(demo, document.session.pose.right, 0.3)
    form = document.form
    drag(demo, loaded, loaded + QPoint(60, 0), release=False)
    assert demo.plot.floor.hand is not None
    assert demo.plot.floor.hand.label == "carries 100%: shift onto the left foot first"
    QTest.mouseRelease(demo.plot.floor, Qt.MouseButton.LeftButton, pos=loaded + QPoint(60, 0))
    assert document.form is form


def test_a_dragged_toe_pivots_and_escape_lets_go(demo: MainWindow, qtbot: QtBot) -> None:
    document = demo.document
    document.session.go(document.trace.row_of("coil", 1))
    demo.grab()
    foot = document.session.pose.right
    toe, aside = on_foot(demo, foot, 0.8), pixel(demo, foot.x + 0.15, foot.y + 0.15)
    drag(demo, toe, aside, release=False)
    assert demo.plot.floor.hand is not None and demo.plot.floor.hand.label == "45° out, to 1:30, on the heel"
    qtbot.keyClick(demo.plot.floor, Qt.Key.Key_Escape)
    assert document.session.ghost is None and not document.changed
    QTest.mouseRelease(demo.plot.floor, Qt.MouseButton.LeftButton, pos=aside)
    drag(demo, toe, aside)
    assert selected(demo) == "pivot R heel 1:30" and document.session.pose.right[:2] == pytest.approx(foot[:2])
    assert [pivot_part(*keys) for keys in ((False, False), (True, False), (False, True), (True, True))] == [
        None,
        "ball",
        "toe",
        "heel",
    ]


def test_feet_of_a_mirrored_posture_and_feet_on_the_way_are_not_moved(demo: MainWindow) -> None:
    document = demo.document
    document.session.go(document.trace.row_of("cast-left", 5))
    demo.grab()
    form = document.form
    start = on_foot(demo, document.session.pose.left, 0.3)
    drag(demo, start, start + QPoint(40, 40))
    assert document.form is form
    document.session.go(document.session.row - 0.5)
    x = demo.plot.floor.camera.x
    drag(demo, start, start + QPoint(40, 40))
    assert document.form is form and demo.plot.floor.camera.x != x  # the floor itself was dragged


def test_weight_and_waist_are_dragged_in_the_row_and_on_the_ribbon(demo: MainWindow, qtbot: QtBot) -> None:
    document, score, ribbon = demo.document, demo.plot.score, demo.plot.ribbon
    document.session.go(document.trace.row_of("coil", 6))
    demo.grab()
    written = selected(demo)
    beam = beam_box(row_of(demo)).center().toPoint()
    drag(demo, beam, beam + QPoint(13, 0), release=False, on=score.viewport())
    assert score.hand is not None and score.hand.drag.label == "left 55%, right 45%"
    assert selected(demo) == written and document.session.ghost is not None
    QTest.mouseRelease(score.viewport(), Qt.MouseButton.LeftButton, pos=beam + QPoint(13, 0))
    assert document.session.pose.left_share == pytest.approx(0.55) and "shift L 55" in selected(demo)
    # A quarter turn about the dial, counter-clockwise: from its top to its left.
    dial, before = dial_centre(row_of(demo)).toPoint(), document.session.pose.torso
    drag(demo, dial - QPoint(0, 10), dial - QPoint(10, 0), release=False, on=score.viewport())
    assert (
        score.hand is not None and score.hand.drag.label == f"body faces {document.session.say.toward(before - 90.0)}"
    )
    qtbot.keyClick(score, Qt.Key.Key_Escape)
    assert document.session.pose.torso == before and document.session.ghost is None
    QTest.mouseRelease(score.viewport(), Qt.MouseButton.LeftButton, pos=dial)
    drag(demo, dial - QPoint(0, 10), dial - QPoint(10, 0), on=score.viewport())
    assert document.session.pose.torso == pytest.approx((before - 90.0) % 360.0)
    knob, band = ribbon._knob().toPoint(), ribbon._band()
    drag(demo, knob, QPoint(knob.x(), round(band.top() + 0.8 * band.height())), on=ribbon)
    assert document.session.pose.left_share == pytest.approx(0.80)
    for _ in range(3):
        document.undo()
    assert selected(demo) == written and not document.changed


def test_drag_pivot_pour_undo_all_redo_all_saves_the_same_bytes(demo: MainWindow, tmp_path: Path) -> None:
    document, score, path = demo.document, demo.plot.score, tmp_path / "form.waltz"
    assert demo.filing.save_to(path)
    first = path.read_bytes()
    document.session.go(document.trace.row_of("coil", 5))
    demo.grab()
    start = on_foot(demo, document.session.pose.left, 0.3)
    drag(demo, start, start + QPoint(5, -30))
    document.session.go(document.trace.row_of("coil", 6))
    toe = on_foot(demo, document.session.pose.right, 0.8)
    drag(demo, toe, toe + QPoint(30, 10))
    document.session.go(document.trace.row_of("coil", 6))
    beam = beam_box(row_of(demo)).center().toPoint()
    drag(demo, beam, beam + QPoint(17, 0), on=score.viewport())
    steps = 0
    assert demo.filing.save_to(path)
    last = path.read_bytes()
    while document.undo_words:
        demo.desk.book["undo"].trigger()
        steps += 1
    assert steps == 3 and demo.filing.save_to(path) and path.read_bytes() == first
    while document.redo_words:
        demo.desk.book["redo"].trigger()
    assert demo.filing.save_to(path) and path.read_bytes() == last != first


def test_what_follows_a_dragged_step_is_kept_where_it_was(demo: MainWindow) -> None:
    document, offer = demo.document, demo.plot.offer
    document.session.go(document.trace.row_of("coil", 5))
    demo.grab()
    end = document.trace.heels[-1].copy()
    start = on_foot(demo, document.session.pose.left, 0.3)
    drag(demo, start, start + QPoint(0, -round(0.10 * demo.plot.floor.camera.scale)))
    assert (
        offer.isVisible()
        and offer.words.text() == "The later steps moved by 10 cm. The faint feet show where they were."
    )
    assert abs(document.trace.heels[-1] - end).max() > 0.05
    demo.desk.book["keep"].trigger()
    assert document.undo_words == "keep the steps that follow where they were" and not offer.isVisible()
    assert document.trace.heels[-1] == pytest.approx(end, abs=0.006)
    document.undo()
    assert not offer.isVisible()
    document.redo()
    document.undo()
    document.undo()
    assert document.trace.heels[-1] == pytest.approx(end) and not document.changed


def test_eight_counts_and_their_other_side_are_made_with_the_mouse_alone(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    document, score = window.document, window.plot.score
    monkeypatch.setattr(Asking, "text", lambda *arguments: arguments[3])  # what is offered is taken

    def pour(sideways: int) -> None:
        beam = beam_box(
            row_of(window) if document.session.row else QRectF(score.visualRect(score.rows.index(0)))
        ).center()
        drag(window, beam.toPoint(), beam.toPoint() + QPoint(sideways, 0), on=score.viewport())

    def turn_waist() -> None:
        dial = dial_centre(row_of(window)).toPoint()
        drag(window, dial - QPoint(0, 11), dial - QPoint(8, 8), on=score.viewport())

    def step(foot: FootPose, across: float, ahead: float) -> None:
        window.grab()
        drag(
            window,
            on_foot(window, foot, 0.3),
            on_foot(window, foot, 0.3) + pixel(window, across, ahead) - pixel(window, 0, 0),
        )

    pour(50)
    step(document.session.pose.left, -0.30, 0.40)
    pour(-70)
    turn_waist()
    window.grab()
    toe = on_foot(window, document.session.pose.right, 0.8)
    drag(window, toe, toe + QPoint(-40, 20))
    window.desk.book["new count"].trigger()
    pour(-30)
    step(document.session.pose.right, 0.05, 0.80)
    pour(60)
    window.desk.book["new count"].trigger()
    turn_waist()
    (posture,) = document.form.postures
    kinds = [[type(action).__name__ for action in line.actions] for line in posture.lines]
    assert kinds == [["Shift"], ["Step"], ["Shift", "Torso"], ["Pivot"], ["Shift"], ["Step"], ["Shift"], ["Torso"]]
    assert not document.trace.problems
    window.desk.book["other side"].trigger()
    assert document.form.postures[1].mirror_of == posture.id and len(document.trace) == 17
    assert not any(f.severity == "stop" for f in found(document))
