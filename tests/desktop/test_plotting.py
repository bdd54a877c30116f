"""A form written from nothing in the real window, and what its views show of it."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
import shapely
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QImage, QPainter, QPixmap, QTransform
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialogButtonBox, QMenu
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import answers, found, reviewed, type_count
from tests.waiting import until
from waltzmark.core.base.leftright import Side
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import judge
from waltzmark.core.score import read_score, write_count
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.history import Selection, UndoStep
from waltzmark.desktop.new_form import NewForm
from waltzmark.desktop.painter.judgement import draw_support
from waltzmark.desktop.painter.tracks import draw_track, hull, polygon
from waltzmark.desktop.theme import DARK, LIGHT
from waltzmark.desktop.widgets.beats import beat_ends, beat_pixels
from waltzmark.desktop.widgets.strip import band_of, left_shares, weights
from waltzmark.desktop.window import MainWindow
from waltzmark.files.reading import read_file
from waltzmark.words.findings import what
from waltzmark.words.rules import rule_title

KEYS, MODIFIERS = Qt.Key, Qt.KeyboardModifier
GATE = (
    "R 100, t 10:30",
    "s L 9 bow",
    "L 70",
    "p R h 10:30, t 9",
    "R 85, t 10:30",
    "p L h 10:30",
    "R 100",
    "s L beside",
)


def pressed(window: MainWindow, key: Qt.Key, *modifiers: Qt.KeyboardModifier) -> None:
    held = MODIFIERS.NoModifier
    for modifier in modifiers:
        held |= modifier
    QTest.keyClick(QApplication.focusWidget() or window, key, held)


def test_eight_counts_and_their_other_side_are_written_with_keys_alone(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    asked = iter(["Open the gate", "12"])
    monkeypatch.setattr(Asking, "text", lambda *_: next(asked))

    def begin(dialog: NewForm) -> NewForm.DialogCode:
        QTest.keyClicks(dialog.title, "Gate form")
        QTest.keyClick(dialog.cards["hip"], KEYS.Key_Space)
        buttons = dialog.findChild(QDialogButtonBox)
        assert buttons is not None
        QTest.keyClick(buttons.button(QDialogButtonBox.StandardButton.Ok), KEYS.Key_Space)
        return NewForm.DialogCode.Accepted

    monkeypatch.setattr(NewForm, "exec", begin)
    pressed(window, KEYS.Key_N, MODIFIERS.ControlModifier)
    pressed(window, KEYS.Key_N, MODIFIERS.ControlModifier, MODIFIERS.ShiftModifier)
    field = window.plot.entry.field
    assert QApplication.focusWidget() is field or field.hasFocus()
    for text in GATE:
        QTest.keyClicks(field, text)
        assert window.document.session.ghost is not None and field.error is None
        QTest.keyClick(field, KEYS.Key_Return)
    pressed(window, KEYS.Key_M, MODIFIERS.ControlModifier)
    form = window.document.form
    assert [write_count(line) for line in form.posture("open-the-gate").lines] == [
        write_count(line) for line in read_score("\n".join(GATE))
    ]
    assert form.opening.name == "hip" and form.postures[1].mirror_of == "open-the-gate"
    assert len(window.document.trace) == 17
    reviewed(window, qtbot)
    assert "Open the gate, other side" in window.answers.cards[2].words.text()
    path = tmp_path / "gate.waltz"
    assert window.filing.save_to(path) and read_file(path).form == form


def test_two_keys_go_between_the_stages_and_the_score_stays_where_it_was(demo: MainWindow) -> None:
    document = demo.document
    document.session.select(Selection("boat", 2, 4))
    pressed(demo, KEYS.Key_1, MODIFIERS.ControlModifier)
    assert demo.stages.currentWidget() is demo.ready and demo.desk.book["stage ready"].isChecked()
    demo.set_dark(True)
    dark = demo.ready.figure.grab().toImage()
    demo.set_dark(False)
    assert demo.ready.figure.grab().toImage() != dark
    pressed(demo, KEYS.Key_3, MODIFIERS.ControlModifier)
    assert demo.stages.currentWidget() is demo.plot and document.session.selection == ("boat", 2, 4)
    assert document.undo_words is None and not document.changed  # another theme is no edit
    demo.desk.book["text"].setChecked(True)
    demo.set_dark(True)
    demo.set_dark(False)
    assert document.undo_words is None and not document.changed


def test_what_belongs_to_a_stage_works_where_it_is_shown_and_nowhere_else(demo: MainWindow) -> None:
    document, book = demo.document, demo.desk.book
    document.session.select(Selection("coil", 0, 2))
    form = document.form
    demo.show_stage("ready").setFocus()
    for key in (KEYS.Key_Delete, KEYS.Key_Insert, KEYS.Key_F7):
        pressed(demo, key)
    book["delete"].trigger()  # nor from a menu
    assert document.form is form and not book["findings"].isEnabled() and book["undo"].isEnabled() is False
    pressed(demo, KEYS.Key_2, MODIFIERS.AltModifier)
    assert demo.ready.pages.currentIndex() == 1
    demo.show_stage("plot")
    pressed(demo, KEYS.Key_Delete)
    assert document.form is not form and not book["body page"].isEnabled()
    book["sample lesson"].trigger()  # but this is done from everywhere, and goes there
    assert demo.shown == "words" and document.form.words is not None


def test_undoing_the_first_edit_leaves_the_floor_as_it_is_looked_at(demo: MainWindow) -> None:
    floor = demo.plot.floor
    demo.plot.show_whole_room()
    floor.zoom(1.7)
    type_count(demo, "hold")
    camera = floor.camera
    demo.document.undo()
    demo.grab()
    assert floor.camera == camera and demo.document.undo_words is None
    demo.document.new()
    demo.grab()
    assert floor.camera != camera  # another form is looked at anew


def test_what_a_day_of_edits_keeps_has_a_bound(demo: MainWindow) -> None:
    document = demo.document
    for number in range(2100):
        document.history.add(UndoStep(str(number), document.form, document.form, Selection(), Selection()))
    assert len(document.history._done) == 2000
    type_count(demo, "hold")
    assert document._walks.of(document.history._done[-1].before) is not None
    document.open_text("waltzmark = 1\n")
    assert document._walks._kept == {}  # the walks of a document go with it


def test_muting_may_go_as_far_as_one_likes(demo: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    document, panel = demo.document, demo.plot.findings.mending
    answers(monkeypatch, text="because")
    opened: list[str] = []
    monkeypatch.setattr(type(panel.leave), "showMenu", lambda self: opened.append(self.text()))
    qtbot.keyClick(demo, KEYS.Key_F4)
    qtbot.keyClick(demo, KEYS.Key_F7, MODIFIERS.ShiftModifier)
    assert len(opened) == 1
    menu = panel.leave.menu()
    assert isinstance(menu, QMenu) and [a.text() for a in menu.actions()][1] == "In this &posture"
    menu.actions()[1].trigger()
    assert (document.form.mutes[0].posture, document.form.mutes[0].count) == ("haul", None)
    document.undo()
    demo.plot.findings.list.setCurrentIndex(demo.plot.findings.list.model().index(1, 0))
    demo.plot.findings.list.setCurrentIndex(demo.plot.findings.list.model().index(0, 0))
    menu.actions()[2].trigger()
    assert document.form.mutes[0].posture is None and rule_title("expect.unmet") in str(document.undo_words)


def pixel(image: QImage, x: float, y: float) -> QColor:
    return image.pixelColor(round(x), round(y))


def test_the_ribbon_is_filled_from_above_as_far_as_the_left_foot_carries(demo: MainWindow) -> None:
    ribbon, document = demo.plot.ribbon, demo.document
    times, band = beat_ends(document.trace), band_of(ribbon.size())
    image = weights(document.trace, times, band.size().toSize(), 1.0, LIGHT)
    assert (image.width(), image.height()) == (round(band.width()), round(band.height()))
    left, right = LIGHT.color("left"), LIGHT.color("right")

    def nearer_left(color: QColor) -> bool:
        def away(other: QColor) -> int:
            return sum(
                abs(a - b)
                for a, b in zip(color.getRgb()[:3], other.getRgb()[:3], strict=True)  # type: ignore[index]
            )

        return away(left) < away(right)

    ends = beat_pixels(times, ribbon.width()) - band.left()
    checked = 0
    for row in range(1, len(document.trace), 7):
        share, x = float(document.trace.shares[row, 0]), min(float(ends[row]) - 0.5, image.width() - 1)
        for down in (0.15, 0.85):
            if abs(down - share) > 0.14:
                y = down * image.height()
                around = [nearer_left(pixel(image, x + by, y)) for by in (-2, -1, 0)]  # a hatching line is paler
                assert (sum(around) > 1) == (down < share), (row, down)
                checked += 1
    assert checked > 20
    shares = left_shares(document.trace, times, 500)
    assert shares.shape == (500,) and 0.0 <= shares.min() <= shares.max() <= 1.0


def test_long_lines_come_whole_from_arrays_and_only_where_they_are_seen(demo: MainWindow) -> None:
    points = np.array([[0.0, 0.5], [1.25, -3.0], [1e6, 2.0]])
    assert [(p.x(), p.y()) for p in polygon(points).toList()] == [tuple(p) for p in points.tolist()]
    image = QImage(100, 100, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.white)
    painter = QPainter(image)
    # In and out of the view: what lies outside is left out, what crosses it is drawn.
    track = np.array([[10.0, 50.0], [90.0, 50.0], [90.0, 500.0], [900.0, 500.0], [900.0, 20.0], [50.0, 20.0]])
    draw_track(painter, QTransform(), QRectF(0, 0, 100, 100), track)
    painter.end()
    dark = [(x, y) for x in range(100) for y in range(100) if pixel(image, x, y).lightness() < 128]
    assert (50, 50) in dark and (70, 20) in dark and (30, 20) not in dark and (50, 80) not in dark


def test_the_support_that_is_drawn_is_the_hull_that_is_judged(demo: MainWindow) -> None:
    trace = demo.document.trace
    found = Mechanics(trace)
    sheet = QPixmap(50, 50)
    for row in range(1, len(trace), 9):
        painter = QPainter(sheet)
        margin = draw_support(painter, QTransform(), trace, trace.pose(row), DARK)
        painter.end()
        assert margin == pytest.approx(found.margin[row], abs=0.001)
        foot = trace.pose(row).foot(Side.RIGHT)
        outline = trace.body.sole.placed(trace.body.sole.outlines[1], foot.x, foot.y, foot.heading)
        area = shapely.area(shapely.convex_hull(shapely.multipoints(outline)))
        assert shapely.area(shapely.polygons(hull(outline))) == pytest.approx(float(area))


def test_only_the_marks_that_can_be_told_apart_are_drawn(demo: MainWindow) -> None:
    """Hundreds of findings in one place are one mark; the gravest."""
    document, floor = demo.document, demo.plot.floor
    document.session.select(Selection("moor", 5, 6))
    demo.editor.paste("\n".join(["pivot L ball out 2", "pivot L ball in 2"] * 60))
    document.session.go(0.0)
    assert sum(f.rule == "pivot.part" for f in found(document)) > 50
    floor.fit()
    floor.grab()
    at = floor.camera.transform(floor.size().toSizeF()).map(QPointF(*document.trace.midpoints[-1].tolist()))
    assert floor.rect().contains(at.toPoint())
    assert demo.plot.findings.list.model().rowCount() == len(found(document))


def said(findings: tuple[Finding, ...]) -> list[tuple[object, ...]]:
    """What findings say, with figures as exact as they are worked out."""
    measured = (None if f.measured is None else round(f.measured, 6) for f in findings)
    return [(f.rule, f.row, what(f), f.mends, each) for f, each in zip(findings, measured, strict=True)]


def test_a_count_that_was_judged_while_it_was_typed_is_entered_as_if_it_were_new(
    demo: MainWindow, qtbot: QtBot
) -> None:
    document, field = demo.document, demo.plot.entry.field
    document.session.select(Selection("coil", 4, 5))
    before = found(document)
    demo.plot.entry.change_selected()
    field.setText("step R 12 bow 20x2")  # on one line: the rest of the form moves, and is found wrong elsewhere
    ghost = document.session.ghost
    assert ghost is not None
    qtbot.waitUntil(lambda: document.judge.problem(ghost.row) is not None)
    QTest.keyClick(field, KEYS.Key_Return)
    assert document.trace is ghost.whole and said(found(document)) != said(before)
    assert said(found(document)) == said(judge(document.form, walk(document.form)))
    assert np.allclose(document.trace.table, walk(document.form).table)
    # A count that turns out otherwise than it was shown is walked and judged anew.
    demo.plot.entry.change_selected()
    field.setText("step R 12 bow 30x2")
    shown = document.session.ghost
    demo.editor.change(read_score("step R 12 bow 40x30")[0])
    assert shown is not None and document.trace is not shown.trace
    assert said(found(document)) == said(judge(document.form, walk(document.form)))


def test_the_score_does_not_jump_while_one_types(demo: MainWindow) -> None:
    field, score, tall = demo.plot.entry.field, demo.plot.score, [demo.plot.score.height()]
    demo.document.session.select(Selection("coil", 4, 5))
    field.setFocus()
    for key in "shift L 80, pivot R heel 1:30, torso 3, gaze 2, hand L 12 chest push, hand R 3 waist open, breathe in":
        QTest.keyClicks(field, key)
        QTest.qWait(0)
        tall.append(score.height())
    assert tall == sorted(tall, reverse=True)
    until(lambda: score.height() < tall[-1])  # what is wrong with it is told as well
    QTest.keyClick(field, KEYS.Key_Escape)
    QTest.keyClick(field, KEYS.Key_Escape)
    until(lambda: not field.text() and score.height() == tall[0])


def test_undo_takes_back_what_is_typed_and_then_what_was_entered(demo: MainWindow) -> None:
    document, field, control = demo.document, demo.plot.entry.field, Qt.KeyboardModifier.ControlModifier
    document.session.select(Selection("coil", 4, 5))
    before = document.form
    type_count(demo, "torso 3")
    entered = document.form
    assert entered != before and not field.text()
    QTest.keyClicks(field, "torso 9")
    QTest.keyClick(field, KEYS.Key_Z, control)
    assert not field.text() and document.form == entered
    QTest.keyClick(field, KEYS.Key_Z, control)
    assert not field.text() and document.form == before
    QTest.keyClick(field, KEYS.Key_Z, control | Qt.KeyboardModifier.ShiftModifier)
    assert field.text() == "torso 9" and document.form == before  # what was typed last comes again
