"""The Practise stage, as hands use it: walked, drilled, recalled, weighed, measured, read back from the book."""

from __future__ import annotations

from datetime import timedelta
from pathlib import Path

import pytest
from PySide6.QtCore import QLocale, QPointF, QSizeF, Qt
from PySide6.QtNetwork import QHostAddress, QTcpServer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import kept, logged, opened, reviewed
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import SHEETS
from waltzmark.core.practice.entries import Entry, now
from waltzmark.core.practice.turns import turn_name
from waltzmark.desktop.sheets.dialog import SheetsDialog
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.window import MainWindow
from waltzmark.words.measures import measure_name

SPACE = Qt.Key.Key_Space


# Walk.


def test_a_walk_counts_in_pauses_at_any_key_rests_after_postures_and_is_kept(demo: MainWindow, qtbot: QtBot) -> None:
    stage, document = opened(demo), demo.document
    walk, walking = stage.walk, stage.walk.walking

    def state() -> str:
        return walking.state

    walk.first.setCurrentIndex(1)
    walk.last.setCurrentIndex(2)
    walk.rounds.setValue(2)
    walk.pause.setValue(3)
    qtbot.keyClick(stage.large, SPACE)
    assert state() == "count-in" and stage.side.isHidden() and stage.large.banner is not None
    assert stage.large.banner.large == "10" and document.session.row == document.trace.span("coil")[0] - 1
    walking.advance(4.5)
    assert stage.large.banner.large == "6"
    qtbot.keyClick(stage.large, Qt.Key.Key_PageDown)  # a clicker
    assert state() == "walking" and demo.player.playing and stage.large.banner is None
    qtbot.keyClick(stage.large, SPACE)
    assert state() == "paused" and not demo.player.playing and stage.large.banner.large == "Paused"
    qtbot.keyClick(stage.large, SPACE)
    seconds = demo.player.seconds_per_beat
    first, last = document.trace.span("coil")[0], document.trace.span("cast-right")[1] - 1
    ticks: list[bool] = []
    walking.counted.connect(ticks.append)
    demo.player.advance(6.5 * seconds)  # past the end of the first posture
    assert state() == "resting" and document.session.position == document.trace.span("cast-right")[0] - 1
    walking.advance(3.0)
    assert state() == "walking" and ticks == []
    demo.player.advance(0.01 * seconds)  # the next frame is in the posture that was rested before
    assert state() == "walking" and ticks == [True]
    demo.player.advance(30 * seconds)
    assert (state(), walking.done) == ("resting", 1) and document.session.position == first - 1
    walking.advance(5.0)
    demo.player.advance(6.5 * seconds)
    walking.advance(5.0)
    demo.player.advance(30 * seconds)
    assert state() == "done" and document.session.row == last and not stage.side.isHidden()
    (entry,) = kept()
    assert (entry.kind, entry.reps, entry.posture, entry.outcome) == ("walk", 2, "coil", "done")


def test_the_words_can_be_read_from_afar_and_say_this_count_and_the_next(demo: MainWindow) -> None:
    stage, document = opened(demo), demo.document
    document.session.go(float(document.trace.row_of("cast-right", 5)))
    stage.show_alone(True)
    demo.grab()
    here, after, place = stage.large.lines()
    assert here == ("step right to 12, heel",) and after == ("weight right 70%", "chest to 12", "breathe out")
    assert all(each in place for each in ("Cast the line, right", "5", "10:30"))
    pictures = {}
    for view in ("above", "behind", "mirrored"):
        demo.desk.book[f"practise {view}"].setChecked(True)
        pictures[view] = stage.large.grab().toImage()
    assert len({image.cacheKey() for image in pictures.values()}) == 3
    assert pictures["above"] != pictures["behind"] != pictures["mirrored"]
    # Any heading of the room: the floor is turned, the form stays.
    before, form = stage.large.grab().toImage(), document.form
    stage.walk.facing.setCurrentIndex(1)
    stage.walk.facing.activated.emit(1)
    assert stage.large.turned == 90.0 and stage.large.grab().toImage() != before and document.form is form
    demo.set_dark(True)
    assert stage.large.grab().toImage() != before


def test_what_hurts_stops_the_walk_notes_it_and_asks_nothing(demo: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    stage = opened(demo)
    stage.walk.count_in.setValue(0)
    stage.walk.begin()
    qtbot.keyClick(stage.large, Qt.Key.Key_H)
    assert not stage.walk.running and kept()[0].outcome == "hurts" and "physiotherapist" in stage.walk.said.text()
    stage.walk.write_cues(tmp_path / "cues.vtt")
    track = (tmp_path / "cues.vtt").read_text(encoding="utf-8")
    assert track.startswith("WEBVTT") and track.count("-->") == len(demo.document.trace) - 1
    # Before the first practice ever the cautions are shown; it begins when they have been read.
    for face, begin in (
        (stage.walk, lambda: qtbot.keyClick(stage.large, SPACE)),
        (stage.walk, stage.walk.start.click),
        (stage.drill, stage.drill.start.click),
    ):
        stage.show_face("walk" if face is stage.walk else "drill")
        demo.desk.settings.set_text("cautions", "")
        begin()
        assert not face.running and demo.desk.settings.text("cautions", "") == "seen"
        page = next(each for each in demo.findChildren(QDialog) if each.isVisible())
        page.close()
        assert face.running
        face.leave()


# Drill.


def test_a_drill_of_five_a_side_is_in_the_book_one_by_one(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, "drill")
    reviewed(demo, qtbot)
    drill = stage.drill
    drill.what.setCurrentIndex(demo.document.form.index("lean-left"))
    drill.what.activated.emit(drill.what.currentIndex())
    assert drill.other.isChecked() and "Lean on the pole, right" in drill.other.text()
    drill.headings.setValue(4)
    drill.rest.setValue(0)
    qtbot.keyClick(stage.large, SPACE)
    for n in range(10):
        assert drill.running and stage.large.banner is not None
        assert stage.large.banner.above.startswith("Lean on the pole,") and stage.large.banner.large == f"{n + 1} of 10"
        assert stage.large.turned == 90.0 * ((n + n // 4) % 4)
        if n % 2:  # by the mouse, which can say all that the keys can
            said = {button.text().partition(" (")[0]: button for button in stage.large.buttons}
            assert list(said) == ["Done", "Off", "Missed", "It hurts", "End"]
            qtbot.mouseClick(said["Done"], Qt.MouseButton.LeftButton)
            assert stage.large.hasFocus()
        else:
            qtbot.keyClick(stage.large, Qt.Key.Key_M if n == 4 else SPACE)
        assert len(kept()) == n + 1  # at most the one in progress can be lost
    entries = kept()
    assert [sum(e.side == side for e in entries) for side in ("left", "right")] == [5, 5]
    assert [e.outcome for e in entries].count("missed") == 1 and not drill.running and stage.large.turned == 0.0
    assert stage.large.buttons == []
    assert "5 on the left, 5 on the right, 1 of them off or missed" in drill.said.text()
    # Read back in the Log.
    log = logged(demo, "book")
    assert log.table.rowCount() == 10 and log.table.item(0, 2).text() == "Lean on the pole, right"  # type: ignore[union-attr]


def test_what_is_low_or_on_one_leg_proposes_a_rest_and_what_hurts_ends_it(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, "drill")
    drill = stage.drill
    drill.what.setCurrentIndex(demo.document.form.index("lantern-right"))
    drill.what.activated.emit(drill.what.currentIndex())
    assert drill.rest.value() == 20 and "20 s" in drill.said.text()
    drill.begin()
    qtbot.keyClick(stage.large, Qt.Key.Key_O)
    assert drill.resting and stage.large.banner is not None and stage.large.banner.large == "20"
    drill.advance(5.2)
    assert stage.large.banner.large == "15"
    qtbot.keyClick(stage.large, SPACE)  # any key goes on
    assert not drill.resting and drill.running
    qtbot.keyClick(stage.large, Qt.Key.Key_H)
    assert not drill.running and [e.outcome for e in kept()] == ["off", "hurts"]
    assert "It hurt" in drill.said.text() and not stage.side.isHidden()
    # Leaving in the middle keeps what was done; a drill that was not begun leaves nothing.
    drill.begin()
    stage.show_face("walk")
    assert len(kept()) == 2 and not drill.running


def test_the_loops_of_the_form_are_offered(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, "drill")
    qtbot.waitUntil(lambda: not demo.desk.jobs.busy("practise loops"), timeout=60_000)
    lines = [stage.drill.what.itemText(n) for n in range(stage.drill.what.count())]
    loops = [n for n, line in enumerate(lines) if line.startswith("Loop: ")]
    assert loops
    stage.drill.what.setCurrentIndex(loops[0])
    stage.drill.what.activated.emit(loops[0])
    drill = stage.drill.drill()
    assert len(drill.reps) == 5 and len(drill.reps[0].postures) > 1 and not stage.drill.other.isEnabled()


# Recall.


def test_a_count_is_placed_from_memory_measured_and_asked_again(demo: MainWindow, qtbot: QtBot) -> None:
    stage, document = opened(demo, "recall"), demo.document
    recall, floor = stage.recall, stage.floor
    waiting = len(recall._due())
    assert recall.weight.value() == 50 and not recall.weight.isEnabled()  # as the words beside it, until it is asked
    demo.desk.book["ask me"].trigger()
    assert recall.weight.isEnabled()
    assert recall.question == ("quay", 1) and floor.placed == document.trace.pose(0)
    recall.weight.setValue(0)  # all on the right: as it is written
    qtbot.mouseClick(recall.answer, Qt.MouseButton.LeftButton)
    assert kept()[-1].measured == 5.0
    demo.desk.book["ask me"].trigger()
    assert recall.question == ("quay", 2)  # the left foot steps out
    floor.grab()
    at = floor.camera.transform(QSizeF(floor.size()))
    left = floor.placed.left
    start, end = at.map(QPointF(left.x, left.y + 0.05)), at.map(QPointF(left.x - 0.10, left.y + 0.05))
    QTest.mousePress(floor, Qt.MouseButton.LeftButton, pos=start.toPoint())
    QTest.mouseMove(floor, end.toPoint())
    QTest.mouseRelease(floor, Qt.MouseButton.LeftButton, pos=end.toPoint())
    moved = floor.placed.left
    assert moved.x == pytest.approx(left.x - 0.10, abs=0.01)
    qtbot.keyClick(floor, Qt.Key.Key_Left)
    qtbot.keyClick(floor, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    nudged = floor.placed.left
    assert nudged.x == pytest.approx(moved.x - 0.01, abs=1e-6) and nudged.heading == pytest.approx(moved.heading + 5)
    floor.put(left=nudged._replace(x=nudged.x - 0.5))
    demo.desk.book["ask me"].trigger()  # shows the answer
    assert floor.shown and "35 cm" in recall.said.text()
    first, second = kept()
    assert (first.measured, second.measured) == (5.0, 0.0) and second.outcome == "missed" and second.what == "count 2"
    assert len(recall._due()) == waiting - 2
    floor.put(left_share=0.9)  # the answer is out: nothing moves any more
    assert floor.placed.left_share != 0.9
    # What goes while it is asked is asked no more.
    demo.desk.book["ask me"].trigger()
    document.session.select(demo.document.session.selection._replace(posture="quay", start=0, stop=0))
    demo.editor.delete_posture()
    assert recall.question is None and floor.placed is None


# Scales.


def test_thirty_percent_is_found_and_held_with_the_simulated_scale(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, "scales")
    scales, view = stage.scales, stage.scales_view
    scales.beside.setValue(12)
    scales.needed.setValue(1)
    scales.blind.setChecked(True)
    scales.stand_in.click()
    qtbot.waitUntil(lambda: scales.plates.state == "on", timeout=20_000)
    qtbot.waitUntil(lambda: view.found, timeout=30_000)
    assert (
        scales.plates.hello is not None and scales.plates.hello.simulated and "simulated scale" in scales.state.text()
    )
    (entry,) = kept()
    assert (entry.kind, entry.planned, entry.outcome) == ("scale", 30.0, "done") and "blind" in entry.note
    assert abs((entry.measured or 0) - 30) <= 12 and view.share is not None
    view.grab()
    # It goes away in the middle: told, nothing lost; it is looked for again, and let go at last.
    scales.plates.end_stand_in()
    qtbot.waitUntil(lambda: scales.plates.state == "waiting", timeout=10_000)
    assert scales.plates.trouble and view.reading is None and len(kept()) == 1
    scales.toggle()
    assert scales.plates.state == "off"


def test_a_scale_that_sends_nonsense_or_a_million_lines_is_told_and_comes_back_by_itself(
    demo: MainWindow, qtbot: QtBot
) -> None:
    stage = opened(demo, "scales")
    plates = stage.scales.plates
    server = QTcpServer()
    assert server.listen(QHostAddress("127.0.0.1"), 0)
    plates.connect_to(server.serverPort())
    qtbot.waitUntil(server.hasPendingConnections, timeout=5000)
    line = server.nextPendingConnection()
    line.write(b'{"scale": "mine", "plates": 1, "height": 0.03}\nnonsense\n{"t": 1, "left": 34}\n')
    qtbot.waitUntil(lambda: stage.scales_view.reading is not None, timeout=5000)
    assert stage.scales_view.share == pytest.approx(0.5) and stage.scales.plates.nonsense == 1
    assert "3 cm" in stage.scales.state.text()
    line.write(b"x" * 9000 + b"\n" + b'{"t": 2, "left": 1}\n' * 100_000 + b'{"t": 3, "left": 17}\n')
    qtbot.waitUntil(
        lambda: stage.scales_view.reading is not None and stage.scales_view.reading.t == 3.0, timeout=20_000
    )
    line.disconnectFromHost()
    qtbot.waitUntil(lambda: plates.state == "waiting", timeout=5000)
    qtbot.waitUntil(server.hasPendingConnections, timeout=8000)  # it has come back by itself
    qtbot.waitUntil(lambda: plates.state == "on", timeout=5000)
    assert plates.trouble == ""
    plates.leave()
    server.close()


def test_a_reading_is_typed_and_a_bias_is_told(demo: MainWindow) -> None:
    stage = opened(demo, "scales")
    scales = stage.scales
    scales.kilograms.setValue(90.0)
    scales.note.click()
    assert "68 kg" in scales.said.text() and not kept()
    for n in range(10):
        scales.kilograms.setValue(68.0 * (0.34 + 0.004 * (n % 3)))
        scales.note.click()
    assert "4%" in scales.said.text() and len(kept()) == 10
    scales.side.setCurrentIndex(1)
    scales.kilograms.setValue(68.0 * 0.7)
    scales.note.click()
    assert kept()[-1].measured == 30.0
    scales.follow.setCurrentIndex(1)
    scales.follow.activated.emit(1)
    demo.document.session.go(float(demo.document.trace.row_of("coil", 6)))
    assert stage.scales_view.band.target == pytest.approx(0.7)


# Turns.


def test_a_measured_range_is_offered_to_the_body_and_taken(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, "turns")
    turns, body = stage.turns, demo.document.form.body
    assert (
        turns.what.currentText() == measure_name("hip left in", begins=True)
        and turns.measured.value() == 35
        and not turns.take.isEnabled()
    )
    centre = stage.dial._centre()
    QTest.mousePress(stage.dial, Qt.MouseButton.LeftButton, pos=(centre + QPointF(57.7, -100.0)).toPoint())
    assert turns.measured.value() == 30
    qtbot.keyClick(stage.dial, Qt.Key.Key_Right)
    for _ in range(3):
        turns.note.click()
    assert "the last 3 measures came to 31°, not 35°" in turns.offer.text()
    turns.take.click()
    assert demo.document.form.body.hip_in == (31.0, 35.0) and "31°" in (demo.document.undo_words or "")
    demo.undo()
    assert demo.document.form.body == body
    stage.dial.grab()
    # Of pivots, steps and where the walk ended there is nothing to offer; they are kept with their plan.
    for words, what, kind in (
        ("Turn the boat 2: left foot", "pivot L, count 2", "turn"),
        ("Turn the boat 5: right step", "step R, count 5", "step"),
        ("where the walk ended", "end of the walk, from home", "end"),
    ):
        at = next(n for n in range(turns.what.count()) if turns.what.itemText(n).startswith(words))
        turns.what.setCurrentIndex(at)
        turns.what.activated.emit(at)
        assert not turns.take.isEnabled()
        stage.dial.grab()
        turns.note.click()
        last = kept()[-1]
        assert (last.what, last.kind) == (what, kind) and last.planned == pytest.approx(last.measured, abs=0.6)


def test_a_larger_range_is_offered_after_five_days_without_pain(demo: MainWindow) -> None:
    practice, then = demo.desk.practice, now() - timedelta(days=9)
    for day in range(5):
        practice.keep(
            Entry(then + timedelta(days=day), "turn", what=turn_name(Side.LEFT, "in"), measured=38.0, unit="°")
        )
        stage = opened(demo, "turns")
        assert stage.turns.take.isEnabled() == (day == 4)
    demo.desk.book["take range"].trigger()
    assert demo.document.form.body.hip_in == (38.0, 35.0)


def test_the_loops_of_one_form_are_not_offered_for_another(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, "drill")
    drill = stage.drill
    many = len(demo.document.form.postures)
    qtbot.waitUntil(lambda: drill.what.count() > many, timeout=60_000)
    drill.what.setCurrentIndex(drill.what.count() - 1)  # a loop of the old form is chosen
    demo.show_stage("plot")
    demo.document.open_text('waltzmark = 1\n[[posture]]\nid = "a"\ncounts = ["hold"]\n')
    demo.show_stage("practise")
    stage.show_face("drill")
    assert drill.what.count() == 1 and drill._postures() == ("a",) and drill._loops == ()
    demo.document.open_text("waltzmark = 1\n")
    assert drill.what.count() == 0 and not drill.start.isEnabled()


@pytest.mark.parametrize("left", [0, 1])
def test_a_form_that_grows_shorter_ends_what_runs_and_it_is_kept_as_it_was(
    demo: MainWindow, left: int, tmp_path: Path
) -> None:
    form = demo.document.form
    shorter = replace(form, postures=form.postures[:left], mutes=())
    for face in ("walk", "drill"):
        stage = opened(demo, face)
        running = stage.walk if face == "walk" else stage.drill
        if face == "walk":
            stage.walk.first.setCurrentIndex(5)
            stage.walk.count_in.setValue(0)
        running.begin()
        assert running.running
        if face == "walk":
            stage.walk.key(Qt.Key.Key_H)
            running.begin()
        else:
            stage.drill.finish("done")
        demo.desk.editor.take_form(shorter, "shorten it")
        assert not running.running
        stage.walk.write_cues(tmp_path / "cues.vtt")
        assert (tmp_path / "cues.vtt").read_text(encoding="utf-8").startswith("WEBVTT")
        running.begin()  # as far as there is anything
        running.leave()
        demo.undo()
        assert demo.document.form.postures == form.postures
    entries = kept()
    assert [entry.kind for entry in entries][:2] == ["walk", "drill"]
    assert entries[0].posture == form.postures[5].id and form.postures[5].title in entries[0].title


def test_sheets_that_are_closed_at_once_are_not_made(demo: MainWindow, qtbot: QtBot) -> None:
    dialog = SheetsDialog(demo.desk, demo)
    dialog.show()
    dialog.kind.setCurrentIndex(2)
    dialog._changed()
    dialog.accept()
    assert not dialog._soon.isActive() and demo.document.form.sheet.kind == SHEETS[2]
    qtbot.waitUntil(lambda: not demo.desk.jobs.busy("sheets"))


@pytest.mark.parametrize("language", ["de_DE", "en_US", "fr_CH"])
def test_a_number_is_the_same_with_a_point_and_with_a_comma(qtbot: QtBot, language: str) -> None:
    usual = QLocale()
    QLocale.setDefault(QLocale(language))
    try:
        field = number_field("Reading", 0.0, 999.0, 1)
        qtbot.addWidget(field)
        for text in ("71.5", "71,5"):
            field.selectAll()
            qtbot.keyClicks(field, text)
            field.interpretText()
            assert (field.value(), field.text()) == (71.5, "71.5")
    finally:
        QLocale.setDefault(usual)
