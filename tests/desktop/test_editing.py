"""Writing and changing a form in the window: anywhere, with completion, clipboard and whole postures."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import answers, chooses, found, reviewed, type_count
from waltzmark.core.form.form import Posture
from waltzmark.core.score import write_count
from waltzmark.core.score.facings import Clock
from waltzmark.desktop.history import Selection
from waltzmark.desktop.plot.score_model import ENTRY, EntryKind
from waltzmark.desktop.window import MainWindow
from waltzmark.files.reading import read_file
from waltzmark.files.writing import render


def lines(window: MainWindow, posture: str) -> list[str]:
    form = window.document.form
    return [write_count(line) for line in form.lines(form.posture(posture))]


def answer(monkeypatch: pytest.MonkeyPatch, value: Any) -> None:
    """Lets the next question be answered."""
    answers(monkeypatch, text=value, number=value)


def test_a_count_is_changed_in_its_place(demo: MainWindow) -> None:
    document, entry = demo.document, demo.plot.entry
    document.session.go(document.trace.row_of("coil", 5))
    demo.desk.book["change"].trigger()
    assert entry.changing and entry.field.text() == "step L 12 bow"
    QTest.keyClicks(entry.field, " 60x36")
    assert document.session.ghost is not None and document.session.ghost.trace.size(document.session.ghost.row)[
        0
    ] == pytest.approx(0.60)
    assert len(document.session.ghost.whole) == len(document.trace)
    QTest.keyClick(entry.field, Qt.Key.Key_Return)
    assert lines(demo, "coil")[4] == "step L 12 bow 60x36" and not entry.changing
    assert document.undo_words == "change “step L 12 bow” to “step L 12 bow 60x36”"
    assert document.session.row == document.trace.row_of("coil", 5)
    demo.desk.book["change"].trigger()
    document.session.go(document.trace.row_of("coil", 1))
    assert not entry.changing and entry.field.text() == ""  # another count was selected


def test_words_are_offered_and_taken_with_tab(demo: MainWindow) -> None:
    field = demo.plot.entry.field
    field.setFocus()
    QTest.keyClicks(field, "ste")
    QTest.keyClick(field, Qt.Key.Key_Tab)
    assert field.text() == "step "
    QTest.keyClicks(field, "L 9 h")
    offered = [field._offers.item(row).text() for row in range(field._offers.rowCount())]
    assert offered == ["heel", "half", "horse"]
    QTest.keyClicks(field, "o")
    QTest.keyClick(field, Qt.Key.Key_Tab)
    assert field.text() == "step L 9 horse "
    QTest.keyClick(field, Qt.Key.Key_Escape)
    type_count(demo, "hold # one")
    type_count(demo, "L 50")
    QTest.keyClick(field, Qt.Key.Key_Up)
    QTest.keyClick(field, Qt.Key.Key_Up)
    assert field.text() == "hold # one"
    QTest.keyClick(field, Qt.Key.Key_Down)
    assert field.text() == "L 50" and lines(demo, "quay")[-1] == "shift L 50"


def test_two_hundred_lines_with_ten_bad_ones_are_pasted_and_none_is_dropped(demo: MainWindow, qtbot: QtBot) -> None:
    document = demo.document
    pasted = [f"nonsense {n}" if n % 20 == 7 else f"hold # {n}" for n in range(200)]
    before = lines(demo, "moor")
    document.session.go(document.trace.row_of("moor", 2))
    QApplication.clipboard().setText("\r\n".join(pasted) + "\n\n")
    demo.plot.entry.field.setFocus()
    QTest.keyClick(demo.plot.entry.field, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert lines(demo, "moor") == before[:2] + pasted + before[2:]
    assert "10 lines could not be read" in demo.plot.entry.saying.text()
    document.undo()
    assert demo.editor.paste("#\n \n# \n") == 0 and lines(demo, "moor") == before  # what says nothing is not put in
    document.redo()
    assert document.undo_words == "add 200 counts to Moor at dusk"
    unread = [e for e in demo.plot.score.rows.entries if e.kind is EntryKind.UNREAD]
    assert len(unread) == 10 and all(e.note for e in unread)
    reviewed(demo, qtbot)
    assert sum(f.rule == "score.unread" for f in found(document)) == 10
    # mended in its place
    document.session.select(Selection("moor", 9, 10))
    assert demo.plot.score.currentIndex().data(ENTRY).text == "nonsense 7"
    demo.desk.book["change"].trigger()
    demo.plot.entry.field.setText("sink 40")
    QTest.keyClick(demo.plot.entry.field, Qt.Key.Key_Return)
    assert lines(demo, "moor")[9] == "sink 40"
    document.undo()
    document.undo()
    assert lines(demo, "moor") == before


def test_several_counts_are_selected_cut_pasted_moved_and_counted(demo: MainWindow, qtbot: QtBot) -> None:
    document, score = demo.document, demo.plot.score
    document.session.select(Selection("coil", 1, 2))
    score.setFocus()
    qtbot.keyClick(score, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    qtbot.keyClick(score, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert document.session.selection == ("coil", 1, 4)
    before = lines(demo, "coil")
    qtbot.keyClick(score, Qt.Key.Key_X, Qt.KeyboardModifier.ControlModifier)
    assert QApplication.clipboard().text() == "\n".join(before[1:4]) + "\n"
    assert lines(demo, "coil") == before[:1] + before[4:]
    document.session.select(Selection("quay", 0, 1))
    qtbot.keyClick(score, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert lines(demo, "quay")[1:4] == before[1:4] and document.session.selection == ("quay", 1, 4)
    qtbot.keyClick(score, Qt.Key.Key_Down, Qt.KeyboardModifier.AltModifier)
    assert lines(demo, "quay")[2:5] == before[1:4] and document.undo_words == "move 3 counts down"
    demo.desk.book["duplicate"].trigger()
    assert lines(demo, "quay")[5:8] == before[1:4]
    qtbot.keyClick(score, Qt.Key.Key_Delete)
    assert document.undo_words == "delete 3 counts"
    for _ in range(5):
        document.undo()
    assert lines(demo, "coil") == before and not document.changed


def test_beats_are_set_and_a_mirror_is_not_changed_behind_its_back(
    demo: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    answer(monkeypatch, 3.0)
    demo.document.session.select(Selection("coil", 0, 2))
    demo.desk.book["beats"].trigger()
    assert [line.endswith(" @3") or " @3 #" in line for line in lines(demo, "coil")[:3]] == [True, True, False]
    demo.document.session.select(Selection("cast-left", 0, 1))
    form = demo.document.form
    demo.desk.book["delete"].trigger()
    box = demo.findChild(QMessageBox)
    assert box is not None and "“Cast the line, right”" in box.informativeText()
    box.close()
    assert demo.document.form is form


def test_postures_are_made_named_turned_and_taken_apart(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    document, actions = window.document, window.desk.book
    answer(monkeypatch, "Open the gate")
    actions["add"].trigger()
    for text in ("R 100", "s L 9 bow", "L 70, t 9", "p R h 10:30"):
        type_count(window, text)
    assert lines(window, "open-the-gate") == [
        "shift R 100",
        "step L 9 bow",
        "shift L 70, torso 9",
        "pivot R heel 10:30",
    ]
    answer(monkeypatch, "9")
    actions["ends"].trigger()
    assert document.form.posture("open-the-gate").ends == Clock(540)
    answer(monkeypatch, "12")
    actions["other side"].trigger()
    side = document.form.postures[1]
    assert (side.mirror_of, side.axis, document.session.selection.posture) == ("open-the-gate", Clock(0), side.id)
    answer(monkeypatch, -90.0)
    document.session.select(Selection("open-the-gate"))
    actions["repeat"].trigger()
    assert document.form.postures[1].turned == -90.0 and document.undo_words == "repeat Open the gate"
    actions["detach"].trigger()
    assert document.form.postures[1].source is None
    document.session.select(Selection("open-the-gate", 2, 3))
    actions["split"].trigger()
    assert [len(p.lines) for p in document.form.postures] == [2, 2, 4, 4]  # the mirror keeps its counts
    document.session.select(Selection("open-the-gate"))
    actions["join"].trigger()
    assert len(document.form.postures) == 3 and len(document.form.postures[0].lines) == 4
    actions["posture down"].trigger()
    actions["duplicate posture"].trigger()
    answer(monkeypatch, "Close it")
    actions["rename"].trigger()
    answer(monkeypatch, "kept")
    actions["note"].trigger()
    titles = [p.title for p in document.form.postures]
    assert titles[1:3] == ["Open the gate", "Close it"] and document.form.postures[2].note == "kept"
    actions["delete posture"].trigger()
    assert document.undo_words == "delete Close it" and len(document.form.postures) == 3
    assert render(document.form)
    steps = 0
    while document.undo_words:
        document.undo()
        steps += 1
    assert not document.form.postures and steps == 16
    while document.redo_words:
        document.redo()
    assert len(document.form.postures) == 3


@pytest.mark.parametrize(
    ("posture", "action", "says"),
    [
        (None, "rename", "Select a posture first."),
        (None, "delete", "Select one or more counts first."),
        ("moor", "join", "“Moor at dusk”"),
        ("cast-left", "ends", "half past nine"),
    ],
)
def test_what_cannot_be_done_is_told(
    demo: MainWindow, monkeypatch: pytest.MonkeyPatch, posture: str | None, action: str, says: str
) -> None:
    answer(monkeypatch, "half past nine")
    demo.document.session.select(Selection(posture))
    form = demo.document.form
    demo.desk.book[action].trigger()
    box = demo.findChild(QMessageBox)
    assert box is not None and says in box.informativeText()
    box.close()
    assert demo.document.form is form


def test_a_new_posture_goes_after_the_selected_one(demo: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    answer(monkeypatch, "Between")
    demo.document.session.select(Selection("coil"))
    demo.desk.book["add"].trigger()
    names = [p.title for p in demo.document.form.postures]
    assert names[1:4] == ["Coil the rope", "Between", "Cast the line, right"]
    assert demo.document.form.postures[2] == Posture("between", "Between")
    assert demo.plot.score.currentIndex().data(ENTRY).text == "Between"
    type_count(demo, "hold")
    assert lines(demo, "between") == ["hold"]


def test_the_score_goes_out_as_text_and_table_and_comes_back(
    demo: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    for action, kind in ((demo.desk.book["export text"], "txt"), (demo.desk.book["export csv"], "csv")):
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, k=kind: (str(tmp_path / f"out.{k}"), ""))
        action.trigger()
    assert (tmp_path / "out.txt").read_text(encoding="utf-8").startswith("The ferry round")
    rows = len(demo.document.trace)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(tmp_path / "out.csv"), ""))
    demo.desk.book["import csv"].trigger()
    assert len(demo.document.trace) == rows and demo.document.undo_words == "import out.csv" and demo.document.changed
    (tmp_path / "out.csv").write_text("no table", encoding="utf-8")
    chooses(monkeypatch, "Discard them")
    form = demo.document.form
    demo.desk.book["import csv"].trigger()
    box = demo.findChild(QMessageBox)
    assert box is not None and "should name the columns" in box.informativeText() and demo.document.form is form
    box.close()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "none" / "out.csv"), ""))
    demo.desk.book["export csv"].trigger()
    qtbot.waitUntil(lambda: demo.findChild(QMessageBox) is not None)


def test_a_file_changed_by_another_program_is_noticed(
    demo: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "form.waltz"
    asked = chooses(monkeypatch, "Keep my version")
    demo.filing.look_at_file()
    assert demo.filing.save_to(path)
    demo.filing.look_at_file()
    assert asked == []
    path.write_text(path.read_text(encoding="utf-8").replace("The ferry round", "Another round"), encoding="utf-8")
    demo.filing.look_at_file()
    demo.filing.look_at_file()
    assert len(asked) == 1 and demo.document.form.title == "The ferry round"  # asked once, and left as it was
    type_count(demo, "hold")
    path.write_text(path.read_text(encoding="utf-8") + "\n", encoding="utf-8")
    asked = chooses(monkeypatch, "Reload")
    demo.filing.look_at_file()
    assert "Undo brings" in asked[0] and demo.document.form.title == "Another round" and not demo.document.changed
    demo.document.undo()  # nothing was lost
    assert demo.document.form.title == "The ferry round" and demo.document.changed
    path.write_text("somebody else's", encoding="utf-8")
    asked = chooses(monkeypatch, "Do not save")
    assert not demo.filing.save() and "form.waltz" in asked[0] and path.read_text() == "somebody else's"
    chooses(monkeypatch, "Overwrite")
    assert demo.filing.save() and read_file(path).form == demo.document.form
