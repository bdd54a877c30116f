"""What the menus ask for: mirror lines, turns and sides of postures, the clipboard, and what cannot be."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

import pytest
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QAction, QContextMenuEvent, QDropEvent, QImage
from PySide6.QtWidgets import QApplication, QFileDialog, QMenu

from tests.desktop.conftest import answers, chooses, found, row_index, type_count
from tests.waiting import rest
from waltzmark.core.base.messages import message
from waltzmark.core.score import write_count
from waltzmark.core.score.facings import Clock
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.history import Selection
from waltzmark.desktop.window import MainWindow
from waltzmark.words.sentences import sentence


@pytest.fixture
def told(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """What the window has told in a box."""
    words: list[str] = []
    monkeypatch.setattr(Asking, "tell", lambda _self, title, text="": words.append(f"{title}: {text}"))
    return words


def lines(window: MainWindow, posture: str) -> list[str]:
    form = window.document.form
    return [write_count(line) for line in form.lines(form.posture(posture))]


def test_a_mirror_line_a_turn_and_a_side_are_asked_for(
    demo: MainWindow, monkeypatch: pytest.MonkeyPatch, told: list[str]
) -> None:
    document, menu = demo.document, demo.desk.book
    mirrored = next(p for p in document.form.postures if p.mirror_of)
    document.session.select(Selection(mirrored.id))
    before = lines(demo, mirrored.id)
    answers(monkeypatch, text="9")
    menu["axis"].trigger()
    axis = document.form.posture(mirrored.id).axis
    assert axis is not None and axis == Clock(540) and lines(demo, mirrored.id) != before
    for wrong in ("25", "9, hold", "left"):
        answers(monkeypatch, text=wrong)
        menu["axis"].trigger()
        assert f"“{wrong}”" in told[-1]
    answers(monkeypatch, text=None)
    menu["axis"].trigger()
    assert document.form.posture(mirrored.id).axis == axis and len(told) == 3
    document.undo()
    assert lines(demo, mirrored.id) == before

    document.session.select(Selection("coil"))
    answers(monkeypatch, number=90.0)
    menu["repeat"].trigger()
    again = next(p for p in document.form.postures if p.repeat_of == "coil")
    assert again.turned == 90 and document.session.selection.posture == again.id
    answers(monkeypatch, number=-44.8)
    menu["axis"].trigger()
    assert document.form.posture(again.id).turned == -45 and document.undo_words == f"turn {again.title} by -45°"
    menu["side"].trigger()
    assert sentence(message("edit.taken", title="Coil the rope, again")) in told[-1]
    menu["detach"].trigger()
    menu["axis"].trigger()
    assert "no mirror line and no turn" in told[-1]
    others = [p for p in document.form.postures if p.id != again.id]
    answers(monkeypatch, item=2)
    menu["side"].trigger()
    assert document.form.posture(again.id).side_of == others[1].id
    answers(monkeypatch, item=0)
    menu["side"].trigger()
    assert document.form.posture(again.id).side_of is None


def test_facing_note_beats_and_name_are_asked_for_and_left_when_nothing_is_said(
    demo: MainWindow, monkeypatch: pytest.MonkeyPatch, told: list[str]
) -> None:
    document, menu = demo.document, demo.desk.book
    document.session.select(Selection("coil", 0, 2))
    first = document.form
    answers(monkeypatch, text=None, number=None)
    for name in ("ends", "note", "rename", "add", "other side", "repeat", "beats"):
        menu[name].trigger()
    assert document.form is first and not told
    answers(monkeypatch, text="1:30", number=2.5)
    for name in ("ends", "note", "rename"):
        menu[name].trigger()
    assert document.session.selection == Selection("coil")  # beats are those of counts
    menu["beats"].trigger()
    assert len(told) == 1 and document.form is not first
    document.session.select(Selection("coil", 0, 2))
    menu["beats"].trigger()
    posture = document.form.posture("coil")
    assert posture.ends == Clock(90) and (posture.note, posture.name) == ("1:30",) * 2
    assert [line.beats for line in posture.lines[:3]] == [2.5, 2.5, 1.0]
    answers(monkeypatch, text="")
    menu["ends"].trigger()
    menu["note"].trigger()
    assert document.form.posture("coil").ends is None and not document.form.posture("coil").note


def test_the_clipboard_takes_counts_in_the_score_and_words_in_a_field(demo: MainWindow) -> None:
    document, menu, field = demo.document, demo.desk.book, demo.plot.entry.field
    board = QApplication.clipboard()
    document.session.select(Selection("coil", 1, 3))
    demo.plot.score.setFocus()
    taken = lines(demo, "coil")[1:3]
    menu["copy"].trigger()
    assert board.text() == "\n".join(taken) + "\n" and not document.changed
    menu["cut"].trigger()
    assert lines(demo, "coil")[:2] != taken and document.undo_words is not None and "cut" in document.undo_words
    menu["paste"].trigger()
    assert taken[0] in lines(demo, "coil") and taken[1] in lines(demo, "coil")
    document.undo()
    document.undo()
    type_count(demo, "shift L 100", enter=False)
    field.selectAll()
    menu["copy"].trigger()
    assert board.text() == "shift L 100"
    menu["cut"].trigger()
    assert field.text() == "" and board.text() == "shift L 100"
    menu["paste"].trigger()
    assert field.text() == "shift L 100" and not document.changed
    field.clear()
    board.setText("shift L 100\nnonsense here\n")
    menu["paste"].trigger()  # several lines are counts, even with the hands in the field
    text = "\n".join(lines(demo, "coil"))
    assert (
        "nonsense here" in text
        and sum(p.lines != () and any(e.unread for e in p.lines) for p in document.form.postures) == 1
    )


def test_the_score_has_a_menu_of_what_can_be_done_and_says_what_its_rows_are(demo: MainWindow, qtbot: Any) -> None:
    score = demo.plot.score
    event = QContextMenuEvent(QContextMenuEvent.Reason.Mouse, QPoint(20, 20), score.mapToGlobal(QPoint(20, 20)))
    QApplication.sendEvent(score.viewport(), event)
    menu = QApplication.activePopupWidget()
    assert isinstance(menu, QMenu)
    words = [action.text().replace("&", "") for action in menu.actions() if action.text()]
    assert "Make the other side …" in words and "Cut" in " ".join(words) and len(words) > 20
    menu.close()
    row = next(f.row for f in found(demo.document) if f.rule == "weight.loaded-lift")
    index = row_index(demo, row)
    spoken, tip = (index.data(role) for role in (Qt.ItemDataRole.AccessibleTextRole, Qt.ItemDataRole.ToolTipRole))
    assert spoken.startswith("Count 2: ") and "left" in spoken.lower()
    assert tip.startswith(spoken) and "stop: " in tip and "15%" in tip
    heading = score.rows.index(score.rows.span_of(Selection("coil"))[0])
    assert heading.data(Qt.ItemDataRole.AccessibleTextRole) == "Posture Coil the rope"
    opening = score.rows.index(0)
    assert opening.data(Qt.ItemDataRole.AccessibleTextRole).startswith("Opening: feet together")
    assert score.rows.data(opening.sibling(-1, 0)) is None


def test_a_wrong_word_is_underlined_where_it_stands(demo: MainWindow) -> None:
    field = demo.plot.entry.field

    def red(text: str) -> list[int]:
        """The columns of pixels in which the mark is drawn."""
        field.clear()
        type_count(demo, text, enter=False)
        rest(300)  # what is shown of the offers goes
        wanted, image = (
            demo.desk.theme.color("stop"),
            field.grab().toImage().convertToFormat(QImage.Format.Format_RGB32),
        )
        near = [
            (x, y)
            for x in range(image.width())
            for y in range(image.height() // 2, image.height())
            if abs(image.pixelColor(x, y).red() - wanted.red()) + abs(image.pixelColor(x, y).green() - wanted.green())
            < 60
        ]
        return sorted({x for x, _ in near})

    assert red("shift L 70") == []
    marked = red("shift L 70, pivott R heel 3")
    assert field.error is not None and field.error.column == 13
    metrics = field.fontMetrics()
    before, word = metrics.horizontalAdvance("shift L 70, "), metrics.horizontalAdvance("pivott")
    assert marked and marked[-1] - marked[0] == pytest.approx(word, abs=8)
    assert marked[0] - before == pytest.approx(min(red("pivott R heel 3")), abs=4)


def test_a_dropped_and_a_chosen_file_are_opened(
    demo: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, told: list[str]
) -> None:
    file, broken = tmp_path / "mine.waltz", tmp_path / "broken.waltz"
    file.write_text('waltzmark = 1\n[form]\ntitle = "Mine"\n', encoding="utf-8")
    broken.write_text("waltzmark = ", encoding="utf-8")

    def drop(*urls: QUrl) -> None:
        data = QMimeData()
        data.setUrls(list(urls))
        event = QDropEvent(
            QPointF(5, 5), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
        )
        demo.dropEvent(event)

    title = demo.document.form.title
    drop(QUrl("https://example.org/other.waltz"))
    assert demo.document.form.title == title
    drop(QUrl.fromLocalFile(str(broken)))
    assert demo.document.form.title == title and len(told) == 1
    drop(QUrl.fromLocalFile(str(file)))
    assert demo.document.form.title == "Mine" and demo.document.path == file
    type_count(demo, "hold")
    chooses(monkeypatch, "Cancel")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(file), ""))
    demo.filing.choose_file()  # what is not saved is asked about first
    assert demo.document.changed
    chooses(monkeypatch, "Discard them")
    demo.filing.choose_file()
    assert not demo.document.changed and demo.document.form.title == "Mine"


def test_language_and_what_a_hand_keeps_to_are_chosen_and_remembered(
    demo: MainWindow, make_window: Callable[[], MainWindow], told: list[str]
) -> None:
    demo.choices.languages[1].trigger()  # English, which this desktop speaks anyhow: kept for the next start
    assert len(told) == 1 and demo.desk.settings.text("language", "") == "en"
    boards: QAction = demo.choices.snaps[2]
    assert demo.editor.snaps.boards and boards.isChecked()
    boards.trigger()
    assert not demo.editor.snaps.boards and demo.editor.snaps.facings
    other = make_window()
    assert not other.editor.snaps.boards and not other.choices.snaps[2].isChecked() and other.editor.snaps.marks
    other.choices.snaps[2].trigger()
    assert other.editor.snaps.boards and make_window().editor.snaps.boards
