"""Body, schools and findings in the window: measured, copied, mended, muted and drawn."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPoint, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QApplication,
    QComboBox,
    QDoubleSpinBox,
    QMessageBox,
    QPushButton,
    QToolButton,
)
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import answers, found, judged, news, type_count
from tests.waiting import rest
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.judge.judging import judge
from waltzmark.core.school.school import ReachShare, StanceGeometry, bundled_schools, load_school
from waltzmark.core.score import read_count, write_count
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.cautions import GENERAL, CautionsPage
from waltzmark.desktop.history import Selection
from waltzmark.desktop.ready.schools import SchoolView
from waltzmark.desktop.ready.stage import ReadyStage
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.widgets.beats import beat_ends, beat_pixels
from waltzmark.desktop.widgets.strip import Walked, heat
from waltzmark.desktop.window import MainWindow
from waltzmark.files import library
from waltzmark.files.reading import read_document
from waltzmark.files.writing import render
from waltzmark.words import named
from waltzmark.words.findings import remedy_kind
from waltzmark.words.rules import changed, rule_title
from waltzmark.words.sentences import sentence


def answer(monkeypatch: pytest.MonkeyPatch, value: str) -> None:
    answers(monkeypatch, text=value)


@pytest.fixture
def ready(demo: MainWindow, qtbot: QtBot) -> ReadyStage:
    qtbot.keyClick(demo, Qt.Key.Key_1, Qt.KeyboardModifier.ControlModifier)
    assert demo.stages.currentWidget() is demo.ready and demo.ready.isVisible()
    return demo.ready


def set_value(spin: QDoubleSpinBox, text: str) -> None:
    """Types a value into a field."""
    spin.setFocus()
    spin.selectAll()
    QTest.keyClicks(spin, text)
    QTest.keyClick(spin, Qt.Key.Key_Return)


def test_a_body_is_measured_and_everything_follows(demo: MainWindow, ready: ReadyStage) -> None:
    document, panel = demo.document, ready.measures
    before = document.trace.heels[-1].copy()
    assert panel.stature.text() == "172.0 cm" and "<b>20 kg</b>" in ready.figures.text()
    set_value(panel.mass, "80")
    assert document.form.body.mass == 80 and document.undo_words == "set the mass"
    assert "<b>24 kg</b>" in ready.figures.text()  # 30 % of 80 kg
    set_value(panel.sided["hip_out"][Side.LEFT], "20")
    assert document.form.body.hip_range(Side.LEFT) == (20.0, 35.0)
    assert document.form.body.hip_range(Side.RIGHT) == (45.0, 35.0)
    assert "hip" in news(document) and "new" in news(document) and ready.news.text() == news(document)
    set_value(panel.lengths["shoulder_breadth"], "40")
    assert dict(document.form.body.measured)["shoulder_breadth"] == 0.40
    assert abs(document.trace.heels[-1] - before).max() > 0.01  # shoulder-wide stances are narrower now
    panel.resets["shoulder_breadth"].click()
    assert "shoulder_breadth" not in dict(document.form.body.measured)
    set_value(panel.sided["waist"][Side.RIGHT], "30")
    assert document.form.body.waist == (45.0, 30.0) and panel.ranges.currentText() == "as measured"
    assert "clinical norm" in panel.sided["waist"][Side.LEFT].toolTip()
    panel.ranges.activated.emit(2)
    body = document.form.body
    assert (body.hip_range(Side.LEFT), body.waist, body.one_leg(Side.LEFT)) == ((35.0, 25.0), 30.0, 50.0)
    assert document.undo_words == "use stiff ranges" and panel.ranges.currentText() == "stiff ranges"
    panel.spare.activated.emit(1)
    assert document.form.body.hip_range(Side.LEFT) == (26.25, 18.75) and document.undo_words == "protect the left side"
    set_value(panel.lengths["thigh"], "5")
    box = demo.findChild(QMessageBox)
    assert box is not None and "5 cm" in box.informativeText()
    box.close()
    assert panel.lengths["thigh"].value() > 40
    set_value(panel.left_foot, "24")
    assert document.form.body.sole.of(Side.LEFT) == 0.24 and document.form.body.sole.of(Side.RIGHT) == 0.26
    panel.support.click()
    panel.soles.activated.emit(2)
    assert document.form.body.support and document.form.body.friction == 0.80
    next(a for a in demo.choices.lengths if a.data() == "in").trigger()
    assert panel.stature.text() == "67.7 in" and "in" in ready.figures.text()
    set_value(panel.stature, "70")
    assert document.form.body.stature == pytest.approx(1.778)
    assert read_document(render(document.form, document.read)).form.body == document.form.body
    while document.undo_words:
        document.undo()
    assert panel.stature.text() == "67.7 in" and not document.changed


def test_the_drawn_body_and_its_reach_follow_the_measures(demo: MainWindow, ready: ReadyStage) -> None:
    def ink(image: QImage) -> Any:
        held = image.convertToFormat(QImage.Format.Format_RGB32)  # its bits are only lent
        return np.frombuffer(held.constBits(), np.uint32).copy()

    views = (ready.figure, ready.curve, ready.reach)
    first = [ink(view.grab().toImage()) for view in views]
    for _ in range(20):  # until the stage has taken its place
        rest(20)
        before, first = first, [ink(view.grab().toImage()) for view in views]
        if all(len(a) == len(b) and (a == b).all() for a, b in zip(before, first, strict=True)):
            break
    set_value(ready.measures.sided["knee_bend"][Side.RIGHT], "25")
    after = [ink(view.grab().toImage()) for view in views]
    changed = [len(new) != len(old) or bool((new != old).any()) for new, old in zip(after, first, strict=True)]
    assert changed == [False, True, True]
    set_value(ready.measures.lengths["shank"], "50")
    assert (ink(ready.figure.grab().toImage()) != first[0]).any()
    ready.openings["vee"].click()
    assert demo.document.form.opening.name == "vee" and demo.document.undo_words == "change the opening"


def test_bodies_and_schools_are_kept_by_name(
    demo: MainWindow, ready: ReadyStage, monkeypatch: pytest.MonkeyPatch
) -> None:
    answer(monkeypatch, "Mo")
    ready.measures.keep.click()
    assert [body.name for body in library.bodies()] == ["Mo"] == [demo.document.form.body.name]
    demo.document.undo()
    assert ready.measures.kept.itemText(1) == "Mo"
    ready.measures.kept.activated.emit(1)
    assert demo.document.form.body.name == "Mo"
    answer(monkeypatch, "")
    ready.measures.keep.click()
    answer(monkeypatch, "?")
    ready.measures.keep.click()
    box = demo.findChild(QMessageBox)
    assert box is not None and sentence(message("library.name")) in box.informativeText()
    box.close()
    assert len(library.bodies()) == 1


def change_stances(view: SchoolView, monkeypatch: pytest.MonkeyPatch) -> None:
    """Changes the bow of the school that is shown, and gives it a stance of its own."""

    def field(kind: type[Any], name: str) -> Any:
        return next(f for f in view.page.findChildren(kind) if f.accessibleName() == name)

    def stance(name: str) -> StanceGeometry:
        return view.school.stances[name]

    set_value(field(QDoubleSpinBox, "Trunk: leans forward"), "7")
    set_value(field(QDoubleSpinBox, "Trunk: waist left twisted"), "30")
    assert (view.school.lean, view.school.waist_twist) == (7.0, 30.0)
    set_value(field(QDoubleSpinBox, "bow: length"), "80")
    assert stance("bow").length == ReachShare(0.8)
    body = view.window().document.form.body  # type: ignore[attr-defined]
    before = view.school.stance_size("bow", body, body.seat, away=-45.0)[0]
    unit = field(QComboBox, "bow: unit of length")
    unit.activated.emit(unit.findText("cm"))
    assert str(stance("bow").length).endswith("cm")
    assert view.school.stance_size("bow", body, body.seat, away=-45.0)[0] == pytest.approx(before, abs=0.0006)
    set_value(field(QDoubleSpinBox, "bow: length"), "44.5")
    set_value(field(QDoubleSpinBox, "bow: rear toes"), "50")
    unit = field(QComboBox, "bow: unit of width")
    unit.activated.emit(unit.findText("shoulder width"))
    lands = field(QComboBox, "empty-heel: lands on")
    lands.activated.emit(0)
    assert stance("bow") == StanceGeometry("44.5cm", "shoulder", 0.0, 50.0) and stance("empty-heel").land == ""
    answer(monkeypatch, "Crane")
    next(b for b in view.page.findChildren(QPushButton) if b.text().startswith("Add a stance")).click()
    assert stance("crane") == stance("bow")
    answer(monkeypatch, "half")
    view.add_stance()
    box = view.window().findChild(QMessageBox)
    assert box is not None and "“half”" in box.informativeText() and "half" not in view.school.stances
    box.close()
    field(QToolButton, "crane: remove").click()
    assert "crane" not in view.school.stances and not view.page.findChildren(QToolButton)


def test_a_school_is_chosen_copied_changed_and_kept(
    demo: MainWindow, ready: ReadyStage, monkeypatch: pytest.MonkeyPatch
) -> None:
    document, view = demo.document, ready.school
    ready.tabs[2].click()
    names = [view.list.item(row).text() for row in range(view.list.count())]
    assert len(names) == len(bundled_schools()) == 6 and "Broad frame  (this form)" in names
    view.list.setCurrentRow(names.index("Ball turn"))
    assert view.name.text() == "Ball turn" and not view.page.findChildren(QDoubleSpinBox)
    view.judge.click()
    assert document.form.school.id == "ball-turn" and "Ball turn" in news(document)
    assert rule_title("pivot.part") in ready.news.text() and any(f.rule == "pivot.part" for f in found(document))
    answer(monkeypatch, "Mine")
    view.copy.click()
    own = document.form.school
    assert (own.id, own.name, own.base) == ("mine", "Mine", "ball-turn") and view.name.text() == "Mine"
    part = next(
        c
        for c in view.page.findChildren(QComboBox)
        if c.accessibleName() == f"{rule_title('pivot.part')}: {named.limit('part')}"
    )
    part.activated.emit(part.findText("heel"))
    assert document.form.school.choice("pivot.part", "part") == "heel"
    assert not any(f.rule == "pivot.part" for f in found(document)) and "gone" in news(document)
    loaded = f"{rule_title('pivot.loaded')}: {named.limit('load')}"
    load = next(s for s in view.page.findChildren(QDoubleSpinBox) if s.accessibleName() == loaded)
    set_value(load, "15")
    assert document.form.school.limit("pivot.loaded", "load") == 15
    change_stances(view, monkeypatch)
    view.keep.click()
    assert [s.name for s in library.schools()] == ["Mine"] and library.schools()[0] == document.form.school
    text = render(document.form, document.read)
    assert "[school]" in text and read_document(text).form == document.form
    while document.undo_words:
        document.undo()
    assert document.form.school == load_school("broad-frame") and not document.changed


def test_a_finding_is_mended_with_one_key_and_undone(demo: MainWindow, qtbot: QtBot) -> None:
    document, panel = demo.document, demo.plot.findings.mending
    for _ in range(2):
        qtbot.keyClick(demo, Qt.Key.Key_F4)
    assert panel.finding is not None and panel.finding.rule == "weight.loaded-lift"
    assert panel.mends[0].text() == "Shift onto the right foot first" and not panel.mends[1].isVisible()
    panel_words = panel.mends[0].text()
    qtbot.keyClick(demo, Qt.Key.Key_F7)
    lines = [write_count(line) for line in document.form.posture("oars").lines]
    assert lines[1] == "shift R 100" and document.session.selection == ("oars", 1, 2)
    assert document.undo_words == panel_words
    assert not {"weight.loaded-lift", "balance.left"} & {f.rule for f in found(document)}
    document.undo()
    assert not document.changed and len(found(document)) == 4


def test_a_finding_is_left_with_a_reason_and_heard_again(
    demo: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    document, panel = demo.document, demo.plot.findings.mending
    qtbot.keyClick(demo, Qt.Key.Key_F4)
    answer(monkeypatch, "")
    panel.mute(0)
    assert not document.changed  # no reason, no mute
    answer(monkeypatch, "planted for the tour")
    panel.mute(0)
    (mute,) = document.form.mutes
    assert (mute.rule, mute.posture, mute.count) == ("expect.unmet", "haul", 3)
    assert len(found(document)) == 3
    assert "planted for the tour" in panel._heard.actions()[0].text()
    panel._heard.actions()[0].trigger()
    assert not document.form.mutes and len(found(document)) == 4
    document.undo()
    document.undo()
    assert not document.changed


def test_findings_that_repeat_are_one_and_the_list_is_grouped_by_what_mends_them(demo: MainWindow) -> None:
    document = demo.document
    document.session.select(Selection("cast-right", 1, 2))
    demo.editor.change(read_count("pivot L ball 10:30, torso 12"))
    demo.desk.book["findings"].setChecked(True)
    (told,) = (f for f in found(document) if f.rule == "pivot.part")
    assert (told.posture, told.times) == ("cast-right", 4)
    model, drawer = demo.plot.findings.list.model(), demo.plot.findings
    words = [str(model.index(row, 0).data()) for row in range(model.rowCount())]
    assert any(line.startswith("note: Cast the line, right, count 2, 4 times:") for line in words)
    rows = {row for f in judged(document).everywhere if f.rule == "pivot.part" for row in [f.row]}
    assert {document.trace.posture(row) for row in rows} == {"cast-right", "cast-left", "cast-right-again", "cast-home"}
    demo.editor.change(read_count("pivot L ball 10, torso 12"))
    type_count(demo, "pivot L ball 10:30, torso 12")
    drawer.by_mend.click()
    every = found(document)
    entries = [model.index(row, 0).data(Qt.ItemDataRole.UserRole + 1) for row in range(model.rowCount())]
    mends = [remedy_kind(finding) for finding in entries]
    assert [m for m, _ in itertools.groupby(mends)] == list(dict.fromkeys(mends))  # each mend's stand together
    assert {f.rule for f in entries} == {f.rule for f in every}
    drawer.step(1)
    drawer.by_mend.click()
    assert [model.index(row, 0).data(Qt.ItemDataRole.UserRole + 1) for row in range(model.rowCount())] == list(
        found(document)
    )


def test_each_kind_of_finding_is_drawn_on_the_floor(window: MainWindow) -> None:
    seen: set[str] = set()
    for lines in (
        "shift R 100|step L 12 40x3|shift L 60",
        "shift R 100|step L 12 80x30|shift R 80, torso 3",
        "shift R 100|heel R|sink 100",
        "shift R 85|step L 12 bow",
        "shift L 90|pivot L heel out 60|shift R 100|lift L|hold @9",
    ):
        window.document.new()
        for line in lines.split("|"):
            type_count(window, line)
        for finding in found(window.document):
            if finding.measured is None:
                continue
            window.plot._go_to(finding)
            with_it = window.plot.floor.grab().toImage()
            window.plot.floor.chosen = None
            assert window.plot.floor.grab().toImage() != with_it, finding.rule
            seen.add(finding.rule.partition(".")[0])
    assert {"stance", "step", "hip", "balance", "knee", "pivot", "weight"} <= seen


def test_support_reach_and_hips_are_shown_when_asked_for(demo: MainWindow) -> None:
    demo.document.session.go(demo.document.trace.row_of("coil", 5))
    images = [demo.plot.floor.grab().toImage()]
    for name in ("support", "reach", "hips"):
        demo.desk.book[name].trigger()
        images.append(demo.plot.floor.grab().toImage())
    assert all(a != b for a, b in itertools.pairwise(images))
    demo.player.play()
    demo.player.advance(0.7)  # on the way between two counts they are drawn too
    assert demo.plot.floor.grab().toImage() != images[-1]
    demo.player.pause()


def test_the_cautions_come_once_before_the_first_playing(
    make_window: Callable[[], MainWindow], settings: Settings, qtbot: QtBot
) -> None:
    settings.set_text("cautions", "")
    window = make_window()
    window.filing.open_demo()
    window.desk.book["play"].trigger()
    page = window.findChild(CautionsPage)
    assert page is not None and page.isVisible() and not window.player.playing
    page.accept()
    assert window.player.playing and settings.text("cautions", "") == "seen"
    QApplication.sendPostedEvents(page, QEvent.Type.DeferredDelete)
    window.desk.book["play"].trigger()
    assert not window.player.playing
    window.desk.book["cautions"].trigger()
    assert window.findChild(CautionsPage) is not None and len(GENERAL) >= 6


def test_the_ribbon_says_which_kinds_of_findings_a_posture_has(demo: MainWindow) -> None:
    ribbon, document = demo.plot.ribbon, demo.document
    borders = beat_pixels(beat_ends(document.trace), ribbon.width())[document.trace.starts[1:] - 1]
    walked = Walked(document.form, document.trace, document.judge.everywhere)
    hot = {round(left): severity for left, _, severity in heat(walked, borders)}
    starts = {name: round(float(borders[document.form.index(name)])) for name in ("haul", "oars", "light", "coil")}
    assert hot == {starts[name]: "stop" for name in ("haul", "oars", "light")}
    document.session.select(Selection("coil", 1, 2))
    QTest.mouseMove(ribbon, QPoint(starts["oars"] + 6, 40))
    assert demo.plot.ribbon.accessibleName() == "Weight ribbon"


def test_what_another_school_changes_is_told_against_the_form_as_it_was_even_when_that_was_not_judged_yet(
    window: MainWindow, qtbot: QtBot
) -> None:
    window.filing.open_demo()
    document, school = window.document, window.document.form.school
    assert document.judge.judgement is None
    window.editor.set_school(replace(school, id="own", name="Own", base=school.id))
    qtbot.waitUntil(lambda: bool(document.judge.news), timeout=20_000)
    assert document.judge.news == changed("Own", (), ())  # the same rules: the same findings
    # Two changes right after each other: the last is told against the one before it.
    known = []
    for name in ("ball-turn", "full-shift"):
        form = replace(document.form, school=load_school(name))
        known.append(judge(form, walk(form)))
        window.editor.set_school(load_school(name))
    qtbot.waitUntil(lambda: bool(document.judge.news), timeout=20_000)
    assert document.judge.news == changed(document.form.school.name, *known)
