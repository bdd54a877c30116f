"""The score as text, find and replace, units, first forms: the window's other ways of writing."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import found, reviewed, type_count
from waltzmark.core.form.form import Opening
from waltzmark.core.form.score_text import write_score_text
from waltzmark.core.score import read_count, write_count
from waltzmark.desktop.history import Selection
from waltzmark.desktop.plot.text_view import ScoreText
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import all_windows
from waltzmark.files.writing import render
from waltzmark.words.figures import FACINGS
from waltzmark.words.findings import what


def lines(window: MainWindow, posture: str) -> list[str]:
    return [write_count(line) for line in window.document.form.posture(posture).lines]


def type_text(view: ScoreText, words: str) -> None:
    """Types several lines."""
    for number, line in enumerate(words.split("\n")):
        if number:
            QTest.keyClick(view, Qt.Key.Key_Return)
        QTest.keyClicks(view, line)


@pytest.fixture
def text(demo: MainWindow) -> ScoreText:
    """The demo as text, the cursor at the end of the step of Coil the rope."""
    demo.desk.book["text"].setChecked(True)
    demo.document.session.go(demo.document.trace.row_of("coil", 5))
    view = demo.plot.text.text
    view.setFocus()
    assert view.textCursor().block().text().strip() == "step L 12 bow"
    QTest.keyClick(view, Qt.Key.Key_End)
    return view


def test_the_text_and_the_drawn_score_are_always_in_step(demo: MainWindow, text: ScoreText) -> None:
    document = demo.document
    assert text.toPlainText() == write_score_text(document.form)
    QTest.keyClicks(text, " 60x36")
    assert lines(demo, "coil")[4] == "step L 12 bow 60x36"
    assert document.undo_words == "edit the text of Coil the rope"
    assert demo.plot.text.saying.text().count("stance 60 cm long and 36 cm wide")
    QTest.keyClick(text, Qt.Key.Key_Return)
    QTest.keyClicks(text, "l 70")
    assert lines(demo, "coil")[5] == "shift L 70" and document.session.selection == ("coil", 5, 6)
    QTest.keyClick(text, Qt.Key.Key_Up)  # the line that was left is written out
    assert "shift L 70" in text.toPlainText()
    document.undo()
    document.undo()
    assert lines(demo, "coil")[4] == "step L 12 bow" and text.toPlainText() == write_score_text(document.form)
    document.redo()
    assert "step L 12 bow 60x36" in text.toPlainText()
    type_count(demo, "hold # typed below")
    assert "hold # typed below" in text.toPlainText()


def test_a_mistake_in_the_text_is_marked_at_its_word_and_never_lost(demo: MainWindow, text: ScoreText) -> None:
    document = demo.document
    QTest.keyClicks(text, "s")
    assert lines(demo, "coil")[4] == "step L 12 bows"  # kept as text with its error
    mistake = text.mistake()
    assert mistake is not None and (mistake.column, mistake.length) == (11, 4)
    assert demo.plot.text.saying.text().endswith("bow?</span>")
    document.undo()
    form = document.form
    heading = "\nposture gate mirror of nowhere axis 12: The gate"  # it cannot be taken over as it stands
    QTest.keyClick(text, Qt.Key.Key_End, Qt.KeyboardModifier.ControlModifier)
    type_text(text, heading)
    assert demo.plot.text.text.read.form is None and document.form.postures[-1].mirror_of is None
    demo.desk.book["undo"].trigger()  # first of all drops the text that was not taken over
    assert text.toPlainText() == write_score_text(document.form) and text.toPlainText().endswith("\npostur\n")
    while document.undo_words:
        document.undo()
    assert document.form == form and text.toPlainText() == write_score_text(form)
    QTest.keyClick(text, Qt.Key.Key_End, Qt.KeyboardModifier.ControlModifier)
    type_text(text, heading)
    held = text.toPlainText()
    document.session.select(Selection("moor", 0, 1))
    demo.editor.duplicate()  # changed elsewhere meanwhile: what was held goes to the clipboard
    assert QApplication.clipboard().text() == held and text.toPlainText() == write_score_text(document.form)


def test_postures_are_written_as_text_with_completion(demo: MainWindow, text: ScoreText) -> None:
    QTest.keyClick(text, Qt.Key.Key_End, Qt.KeyboardModifier.ControlModifier)
    count = len(demo.document.form.postures)
    type_text(text, "\n\nposture gate ends 9: Open the gate\nR 100\n")
    QTest.keyClicks(text, "ste")
    assert text.completions() == ["step"]
    QTest.keyClick(text, Qt.Key.Key_Tab)
    QTest.keyClicks(text, "L 9 bo")
    assert text.completions() == ["bow"]
    QTest.keyClick(text, Qt.Key.Key_Tab)
    type_text(text, "\nposture gate2 mirror of gate axis 12:\n")
    postures = demo.document.form.postures
    assert len(postures) == count + 2 and postures[-2].name == "Open the gate" and postures[-1].mirror_of == "gate"
    assert lines(demo, "gate") == ["shift R 100", "step L 9 bow"]
    while demo.document.undo_words:
        demo.document.undo()
    assert not demo.document.changed


def test_words_are_found_and_replaced_in_counts_and_names(demo: MainWindow, qtbot: QtBot) -> None:
    document, bar = demo.document, demo.plot.search
    demo.desk.book["find"].trigger()
    QTest.keyClicks(bar.words, "rope")
    assert bar.said.text() == "1 of 1 matches" and document.session.selection.posture == "coil"
    bar.other.setText("line")
    QTest.keyClick(bar.other, Qt.Key.Key_Return)
    assert document.form.posture("coil").name == "Coil the line" and document.undo_words == "replace “rope” with “line”"
    bar.names.setChecked(False)
    bar.words.setText("torso 12")
    hits = bar.hits()
    assert len(hits) > 3 and bar.said.text() == f"2 of {len(hits)} matches"  # seen from what is selected
    QTest.keyClick(bar.words, Qt.Key.Key_Return)
    assert bar.said.text() == f"3 of {len(hits)} matches"
    bar.other.setText("torsoo 12")
    bar.all.click()
    assert f" {len({(h.posture, h.line) for h in hits})} lines" in bar.said.text()
    document.undo()
    document.undo()
    assert not document.changed
    qtbot.keyClick(bar.words, Qt.Key.Key_Escape)
    assert not bar.isVisible()


def test_units_and_frames_change_everywhere_and_the_score_stays(
    demo: MainWindow, settings: Settings, qtbot: QtBot
) -> None:
    document, choices = demo.document, demo.choices
    document.session.go(document.trace.row_of("coil", 5))
    written = render(document.form, document.read)
    demo.plot.entry.field.setText("step R 3 bow")
    says: dict[str, set[str]] = {}
    for action in choices.facings:
        action.trigger()
        messages = [what(f, document.session.say) for f in found(document) if f.rule == "posture.ends"]
        assert messages
        says[action.data()] = {messages[0], demo.plot.entry.saying.text()}
    assert all(not says[a] & says[b] for a in FACINGS for b in FACINGS if a < b)
    assert any("NE" in word or "E" in word for word in says["compass"])
    next(a for a in choices.lengths if a.data() == "in").trigger()
    assert all(" cm" not in card.words.text() for card in demo.answers.cards)
    reviewed(demo, qtbot)
    cards = " ".join(card.words.text() for card in demo.answers.cards)
    assert " in from the wall" in cards and " cm" not in cards and " in " in demo.plot.entry.saying.text()
    assert demo.plot.score.rows.entries[0].text.endswith("facing 0°")
    document.session.select(Selection("coil", 4, 5))
    demo.editor.change(read_count("step L 12 bow 47x6"))
    narrow = next(f for f in found(document) if f.rule == "stance.narrow")
    mending = demo.plot.findings.mending
    mending.show_finding(narrow)
    assert " in" in mending.mends[0].text()
    next(a for a in choices.lengths if a.data() == "m").trigger()
    assert (
        mending.finding is not None
        and mending.finding.rule == "stance.narrow"
        and mending.mends[0].text().endswith(" m")
    )
    next(a for a in choices.lengths if a.data() == "in").trigger()
    document.undo()
    assert render(document.form, document.read) == written and not document.changed
    assert (settings.text("facings", ""), settings.text("lengths", "")) == ("degrees", "in")


def test_new_forms_open_as_chosen_and_in_windows_of_their_own(
    make_window: Callable[[], MainWindow], monkeypatch: pytest.MonkeyPatch
) -> None:
    window = make_window()
    from waltzmark.desktop.new_form import NewForm

    def choose(dialog: NewForm) -> NewForm.DialogCode:
        dialog.title.setText("Evening")
        dialog.cards["vee"].click()
        dialog.twelve.setCurrentText("S")
        return NewForm.DialogCode.Accepted

    monkeypatch.setattr(NewForm, "exec", choose)
    window.desk.book["new"].trigger()
    form = window.document.form
    assert (form.title, form.opening, form.twelve) == ("Evening", Opening("vee"), "S")
    assert window.document.trace.headings[0].tolist() == [315.0, 45.0] and not window.document.changed
    window.desk.book["new window"].trigger()
    other = all_windows()[-1]
    assert other is not window
    type_count(other, "R 100")
    assert len(other.document.trace) == 2 and len(window.document.trace) == 1
    assert window.choices.facings[0].isChecked() and other.choices.facings[0].isChecked()
