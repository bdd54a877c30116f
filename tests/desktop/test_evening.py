"""The whole job in one evening, in one window, by somebody new: from the doors to a page on the floor and an entry in
the book."""

from __future__ import annotations

import json
from collections.abc import Callable
from pathlib import Path

import pytest
from pypdf import PdfReader
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QFileDialog, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import answers, kept, reviewed, type_count
from waltzmark.core.answers.review import review
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.new_form import NewForm
from waltzmark.desktop.widgets.lengths import LengthField
from waltzmark.desktop.window import MainWindow
from waltzmark.files.reading import read_file
from waltzmark.words.sentences import sentence

CTRL, ALT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.AltModifier
#: A page of notes; the step on the right came out longer, as it does when nobody measures.
NOTES = {
    "Open the gate": ("shift R 100", "step L 12 bow", "shift L 70", "expect L 70, expect torso 12"),
    "Open the gate, right": ("shift L 100", "step R 12 bow 46x20", "shift R 70"),
    "Back to the bench": ("shift L 100", "step R 12 back 24x14", "shift R 100", "step L beside", "shift L 50"),
}


class Evening:
    """Somebody at the keyboard of a window."""

    def __init__(self, window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
        self.window, self.qtbot, self.patch = window, qtbot, monkeypatch

    def press(self, key: Qt.Key, modifier: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier) -> None:
        at = QApplication.focusWidget()
        if at is None or not at.isVisible() or at.window() is not self.window:
            self.window.activateWindow()  # a dialog has just closed
            self.until(self.window.isActiveWindow)
            at = self.window
        QTest.keyClick(at, key, modifier)

    def into(self, field: QWidget, text: str) -> None:
        """Types into a field in place of what is there."""
        field.setFocus()
        QTest.keyClick(field, Qt.Key.Key_A, CTRL)
        QTest.keyClicks(field, text)
        QTest.keyClick(field, Qt.Key.Key_Return)

    def until(self, holds: Callable[[], object], seconds: int = 60) -> None:
        self.qtbot.waitUntil(lambda: bool(holds()), timeout=1000 * seconds)

    def answers(self) -> list[bool | None]:
        reviewed(self.window, self.qtbot)
        found = self.window.document.judge.review
        assert found is not None
        return [answer.good for answer in found.answers]

    def write(self) -> None:
        """Begins behind the second door and writes the notes down."""

        def choose(dialog: NewForm) -> NewForm.DialogCode:
            dialog.title.setText("Evening round")
            dialog.guided.setChecked(False)
            return NewForm.DialogCode.Accepted

        self.patch.setattr(NewForm, "exec", choose)
        self.window.beginning.show_doors()
        assert self.window.beginning.doors is not None
        QTest.keyClicks(self.window.beginning.doors, "2")
        for number, (title, counts) in enumerate(NOTES.items()):
            answers(self.patch, text=title)
            if number:
                self.press(Qt.Key.Key_N, CTRL | Qt.KeyboardModifier.ShiftModifier)
            for text in counts:
                type_count(self.window, text)
            if not number:
                self.window.desk.book["rename"].trigger()
        form = self.window.document.form
        assert [posture.title for posture in form.postures] == list(NOTES) and form.title == "Evening round"

    def spare_the_knee(self) -> None:
        """Says whose body walks: not tall, stiff, and with a right side to be careful of."""
        self.press(Qt.Key.Key_1, CTRL)
        assert self.window.shown == "ready"
        measures = self.window.ready.measures
        self.into(measures.stature, "164 cm")
        self.choose(measures.ranges, "stiff ranges")
        self.choose(measures.spare, "right side")
        body = self.window.document.form.body
        assert body.stature == pytest.approx(1.64) and body.spare == "right"

    def choose(self, box: QComboBox, words: str) -> None:
        """Chooses a line of a box by typing its first letters."""
        box.setFocus()
        QTest.keyClicks(box, words.partition(" ")[0])
        assert box.currentText() == words

    def enter_the_room(self) -> None:
        """A living room of 2.6 by 1.9 m with a sofa, in which the form does not fit where it begins."""
        self.press(Qt.Key.Key_4, CTRL)
        stage, book = self.window.room, self.window.desk.book
        assert self.window.shown == "room"
        stage.make.click()
        for wall, length in ((0, "260 cm"), (1, "190 cm")):
            stage.making.list.setCurrentRow(wall)
            self.into(self.figures()[0], length)
        book["add box"].trigger()
        room = self.window.document.form.room
        assert room is not None and len(room.obstacles) == 1
        assert {round(float(x), 2) for corner in room.outline for x in corner} == {0.0, 2.6, 1.9}
        for number, length in enumerate(("0 cm", "0 cm", "180 cm", "60 cm")):  # along the wall behind
            self.into(self.figures()[number], length)
        assert self.answers()[0] is False

    def figures(self) -> list[LengthField]:
        """The figures of the chosen part of the room."""
        fields = self.window.room.making.detail.findChildren(LengthField)
        return [field for field in fields if field.isVisible()]

    def make_it_fit(self) -> None:
        """Takes the best start there is; where none is, the first change that makes it fit."""
        self.press(Qt.Key.Key_3, CTRL)
        assert self.window.onward.buttons[0].text() == "Make it fit the room"
        self.press(Qt.Key.Key_G, CTRL)
        assert self.window.shown == "room" and self.window.room.face_name == "place"
        place, search = self.window.room.place, self.window.room.search
        for listed in (place.starts, place.changes):
            if self.answers()[0] is True:
                break
            self.until(lambda listed=listed: listed.count() and not search.searching)  # type: ignore[misc]
            if listed.count():
                listed.setCurrentRow(0)
                QTest.keyClick(listed, Qt.Key.Key_Return)
        assert self.answers()[0] is True

    def tie_the_sides(self) -> None:
        """Sees that the step on the other side is longer, and ties it to the first."""
        self.press(Qt.Key.Key_6, CTRL)
        pairs = self.window.sides.pairs
        self.until(lambda: pairs.proposed)
        pairs.others.setCurrentRow(0)
        assert pairs.pair is not None and not pairs.pair.same
        self.press(Qt.Key.Key_T, CTRL)
        assert self.answers()[2] is True
        first, other = self.window.document.form.postures[:2]
        assert other.mirror_of == first.id

    def bring_it_home(self) -> None:
        """Takes the first of what would close it; what is off may have been within what is as good as home."""
        self.window.answers.cards[1].click()
        ledger = self.window.home.ledger
        self.until(lambda: ledger.list.count() and not self.window.desk.jobs.busy("home closings"))
        plain = ledger.closing(0)
        assert plain is None or not plain.changes  # four steps, by a quarter each
        QTest.mouseClick(ledger.freely, Qt.MouseButton.LeftButton, pos=QPoint(8, ledger.freely.height() // 2))
        self.until(lambda: not self.window.desk.jobs.busy("home closings") and ledger.list.count())
        lengths = ledger.closing(0)
        assert lengths is not None and lengths.changes
        ledger.list.setCurrentRow(0)
        QTest.keyClick(ledger.list, Qt.Key.Key_Return)
        assert self.answers() == [True, True, True]
        form = self.window.document.form
        assert review(form, walk(form)).home.distance < 0.02

    def practise(self) -> None:
        """Three a side, then thirty percent on the simulated scale."""
        self.press(Qt.Key.Key_G, CTRL)
        stage = self.window.practise
        assert self.window.shown == "practise"
        stage.show_face("drill")
        stage.drill.what.setCurrentIndex(0)
        stage.drill.what.activated.emit(0)
        assert stage.drill.other.isChecked()
        stage.drill.each.setValue(3)
        stage.drill.rest.setValue(0)
        stage.large.setFocus()
        for _ in range(7):  # begins, then done six times
            QTest.keyClick(stage.large, Qt.Key.Key_Space)
        assert not stage.drill.running
        stage.show_face("scales")
        scales = stage.scales
        scales.beside.setValue(15)
        scales.needed.setValue(1)
        scales.stand_in.click()
        self.until(lambda: stage.scales_view.found, 40)
        scales.toggle()

    def look_it_up(self) -> None:
        self.press(Qt.Key.Key_8, CTRL)
        self.window.log.show_face("book")
        entries = kept()
        assert [entry.kind for entry in entries] == ["drill"] * 6 + ["scale"]
        assert {(entry.form, entry.side) for entry in entries[:6]} == {
            ("Evening round", "left"),
            ("Evening round", "right"),
        }
        assert self.window.log.book.table.rowCount() == 7

    def print_and_save(self, folder: Path) -> None:
        """A chart to take to the floor, and the form in a file that reads back as it is shown."""
        dialog = self.window.dialogs.sheets()
        self.until(lambda: dialog.preview.made is not None)
        dialog.write(folder / "chart.pdf")
        self.until(lambda: (folder / "chart.pdf").exists() and "chart.pdf" in dialog.said.text())
        text = " ".join(PdfReader(folder / "chart.pdf").pages[0].extract_text().split())
        assert "Evening round" in text and "Open the gate" in text, text
        dialog.accept()
        self.patch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(folder / "evening.waltz"), ""))
        self.press(Qt.Key.Key_S, CTRL)
        assert not self.window.document.changed
        assert read_file(folder / "evening.waltz").form == self.window.document.form


def test_somebody_new_does_the_whole_job_in_one_evening(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    evening = Evening(window, qtbot, monkeypatch)
    evening.write()
    evening.spare_the_knee()
    evening.enter_the_room()
    evening.make_it_fit()
    evening.tie_the_sides()
    evening.bring_it_home()
    evening.practise()
    evening.look_it_up()
    evening.print_and_save(tmp_path)
    # And back, step by step, to the stage where it began.
    while window.way.back():
        pass
    assert window.shown == "plot"


CLASS = """
waltzmark = 1
[form]
title = "Class round"
[room]
outline = [[0, 0], [9, 0], [9, 8], [0, 8]]
start = {x = 4, y = 3, heading = 0}
[[room.obstacle]]
outline = [[0, 0], [1.8, 0], [1.8, 0.4], [0, 0.4]]
[[posture]]
id = "gate"
name = "Open the gate"
counts = ["shift R 100", "step L 12 bow", "shift L 70"]
[[posture]]
id = "gate-right"
name = "Open the gate, right"
mirror_of = "gate"
axis = "12"
[[posture]]
id = "bench"
name = "Back to the bench"
counts = ["shift L 100", "step R 12 back 40x14", "shift R 100", "step L beside", "shift L 50"]
"""


def test_a_teacher_places_a_class_closes_drills_and_looks_it_up_by_keys_alone(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    file = tmp_path / "class.waltz"
    file.write_text(CLASS, encoding="utf-8")
    assert window.filing.open_path(file)
    teacher = Evening(window, qtbot, monkeypatch)
    assert teacher.answers() == [True, True, True]

    def tab_to(words: str) -> QWidget:
        """Tabs on until something that is called so has the keys."""
        for _ in range(40):
            at = QApplication.focusWidget()
            if at is not None and words in (at.accessibleName(), getattr(at, "text", str)()):
                return at
            teacher.press(Qt.Key.Key_Tab)
        raise AssertionError(f"no tab leads to {words}")

    # A class of eight: the face's keys pressed twice go into its first field.
    teacher.press(Qt.Key.Key_4, CTRL)
    teacher.press(Qt.Key.Key_4, ALT)
    teacher.press(Qt.Key.Key_4, ALT)
    teacher.into(tab_to("Walkers"), "8")
    QTest.keyClick(tab_to("Place them"), Qt.Key.Key_Space)
    teacher.until(lambda: window.room.group.group is not None)
    group = window.room.group.group
    assert group is not None and len(group.walkers) == 8 and group.gap >= group.wanted
    # Home to the centimetre.
    teacher.press(Qt.Key.Key_5, CTRL)
    ledger = window.home.ledger
    teacher.until(lambda: ledger.list.count() and not window.desk.jobs.busy("home closings"))
    offers = tab_to("any length")  # four steps alone do not come home by a quarter of their lengths
    QTest.keyClick(offers, Qt.Key.Key_Space)
    teacher.until(lambda: ledger.list.count() and not window.desk.jobs.busy("home closings"))
    offers = tab_to("Ways to close it")
    QTest.keyClick(offers, Qt.Key.Key_Home)
    QTest.keyClick(offers, Qt.Key.Key_Return)
    assert teacher.answers()[1] is True and review(window.document.form, window.document.trace).home.distance < 0.02
    # Whole, it is a loop; the first posture and its other side are drilled five a side.
    teacher.press(Qt.Key.Key_2, ALT)
    teacher.until(lambda: not window.desk.jobs.busy("home loops"))
    assert "home after 1 round" in window.home.loops.said.text().lower() or window.home.loops.make.isEnabled()
    teacher.press(Qt.Key.Key_7, CTRL)
    teacher.press(Qt.Key.Key_2, ALT)
    teacher.press(Qt.Key.Key_Return, CTRL)
    for key in [Qt.Key.Key_Space] * 8 + [Qt.Key.Key_M, Qt.Key.Key_O]:
        QTest.keyClick(window.practise.large, key)
    assert not window.practise.drill.running
    assert [entry.outcome for entry in kept()] == ["done"] * 8 + ["missed", "off"]
    # What is next is what was never done; and back the way one came.
    teacher.press(Qt.Key.Key_8, CTRL)
    told = [window.log.next.list.item(row).text() for row in range(window.log.next.list.count())]
    assert window.log.face_name == "next" and " of " in told[0]
    assert any("Back to the bench" in line for line in told)
    for stage in ("practise", "return", "room", "plot"):
        while window.shown != stage:
            teacher.press(Qt.Key.Key_Left, ALT)
    assert not window.way.back()


def test_an_archivist_compares_two_writings_and_keeps_what_differs_by_mouse_alone(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    """Sixty postures, and an older writing of them in which three splits and one turn are otherwise."""
    counts = ("shift R 100", "step L 12 bow", "shift L 70", "shift L 100", "step R 12 bow", "shift R 70")
    postures = [
        f'[[posture]]\nid = "p{n}"\nname = "Mooring {n}"\ncounts = {json.dumps(counts)}\n' for n in range(1, 61)
    ]
    text = 'waltzmark = 1\n[form]\ntitle = "Club form"\n' + "".join(postures)
    older = text.replace("shift L 70", "shift L 60", 3)
    files = {name: tmp_path / f"{name}.waltz" for name in ("club", "older")}
    files["club"].write_text(text, encoding="utf-8")
    files["older"].write_text(older, encoding="utf-8")
    asked = iter([files["club"], files["older"]])
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(next(asked)), ""))
    left = Qt.MouseButton.LeftButton
    window.beginning.show_doors()
    assert window.beginning.doors is not None
    qtbot.mouseClick(window.beginning.doors.doors["open"], left)
    archivist = Evening(window, qtbot, monkeypatch)
    assert archivist.answers()[0] is None and len(window.document.form.postures) == 60
    # A hall from those that are kept.
    qtbot.mouseClick(window.answers.cards[0], left)
    hall = next(b for b in window.room.findChildren(QPushButton) if "Net hall" in b.text())
    qtbot.mouseClick(hall, left)
    assert archivist.answers()[0] is False  # sixty times two steps ahead fit no hall
    qtbot.mouseClick(window.answers.cards[1], left)
    assert window.home.ledger.table.rowCount() == 60 and archivist.answers()[1] is False
    # The two writings.
    qtbot.mouseClick(window.answers.cards[2], left)
    sides = window.sides
    tab = next(each for each in sides._tabs.buttons() if each.text() == "Compare")
    qtbot.mouseClick(tab, left)
    choose = next(b for b in sides.compare.findChildren(QPushButton) if b.text() == "Choose a document …")
    qtbot.mouseClick(choose, left)
    archivist.until(lambda: sides.compare.found is not None)
    found = sides.compare.found
    assert found is not None
    told = [(each.a, sentence(line.message)) for each in found.postures for line in each.differences]
    assert [posture for posture, _ in told] == ["p1", "p2", "p3"] and all("70/30 → 60/40" in words for _, words in told)
    saved = tmp_path / "differs.txt"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(saved), ""))
    keep = next(b for b in sides.compare.findChildren(QPushButton) if b.text() == "Save as text …")
    qtbot.mouseClick(keep, left)
    assert saved.read_text(encoding="utf-8").count("70/30 → 60/40") == 3
