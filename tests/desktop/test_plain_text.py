"""Nothing in a document is more than text: mark-up in any field is shown as it is written, and nothing is loaded."""

from __future__ import annotations

import ast
from collections.abc import Callable

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QTextDocument
from PySide6.QtWidgets import QApplication, QLabel, QMessageBox, QWidget
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import reviewed
from tests.desktop.test_same_picture import ink
from tests.sources import sources
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.mutes import Mute
from waltzmark.core.form.room import Obstacle, Room, Start
from waltzmark.core.school.school import load_school
from waltzmark.core.score.read import read_line
from waltzmark.desktop.history import Selection
from waltzmark.desktop.plain import plain
from waltzmark.desktop.plot.score_model import EntryKind
from waltzmark.desktop.window import MainWindow

MARK = '<b>x</b><img src="/nowhere.png">&amp;<a href="https://nowhere">y</a>'
SQUARE = ((0.0, 0.0), (0.6, 0.0), (0.6, 0.6), (0.0, 0.6))


def form_with(words: str) -> Form:
    """A form that has the same words in every field that takes any."""
    school = load_school("broad-frame")
    rules = {name: replace(rule, why=words, caution=words) for name, rule in school.rules.items()}
    lines = ("shift R 100", f"step L 9 bow # {words}", "shift L 70, expect R 100", words, f"# {words}", "lift L")
    return Form(
        words,
        school=replace(school, name=words, summary=words, id="own", rules=rules),
        body=replace(Form().body, name=words),
        mutes=(Mute("pivot.part", words), Mute("step.order", words, "a")),
        room=Room(words, SQUARE, Start(0.3, 0.3), (Obstacle(words, ((0.0, 0.0), (0.1, 0.0), (0.1, 0.1))),)),
        postures=(Posture("a", words, tuple(map(read_line, lines)), note=words), Posture("b", words, side_of="a")),
    )


def seen(widget: QWidget) -> list[str]:
    """What labels under a widget show, after Qt has taken it for mark-up or not."""
    found = []
    for label in widget.findChildren(QLabel):
        text = label.text()
        if label.textFormat() == Qt.TextFormat.RichText:
            page = QTextDocument()
            page.setHtml(text)
            assert "￼" not in page.toPlainText()  # the sign that stands for a picture
            text = page.toPlainText()
        else:
            assert label.textFormat() == Qt.TextFormat.PlainText, text
        found.append(text)
    return found


def test_mark_up_in_any_field_is_shown_as_it_is_written(
    make_window: Callable[[], MainWindow], qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window = make_window()
    window.document.new(form_with(MARK))
    reviewed(window, qtbot)
    book = window.desk.book
    book["findings"].setChecked(True)
    window.plot.step_finding(1)
    window.document.session.select(Selection("a", 0, 1))
    window.plot.entry.change_selected()
    assert any(MARK in text for text in seen(window.answers))
    assert any(MARK in entry.text for entry in window.plot.score.rows.entries if entry.kind is EntryKind.UNREAD)
    window.show_stage("ready")
    window.ready.show_page(2)
    assert sum(MARK in text for text in seen(window.ready)) > 10
    window.show_stage("room")
    room, home = window.room, window.home
    qtbot.waitUntil(lambda: any(MARK in text for text in seen(room)), timeout=60_000)
    window.show_stage("return")
    qtbot.waitUntil(lambda: home.ledger.found is not None, timeout=60_000)
    assert MARK in home.ledger.table.item(0, 1).text()  # type: ignore[union-attr]
    home.show_face("loops")
    seen(home)
    home.chain.grab()
    window.dialogs.cautions()
    window.desk.asking.tell(MARK, MARK)
    for dialog in window.findChildren(QMessageBox):
        assert any(MARK in text for text in seen(dialog))
        dialog.close()
    tips = [window.plot.score.rows.data(window.plot.score.rows.index(n), Qt.ItemDataRole.ToolTipRole) for n in range(6)]
    tips += [view.toolTip() for view in window.findChildren(QWidget)] + [book[name].toolTip() for name in book]
    for tip in tips:
        assert isinstance(tip, str) and ("<b>" not in tip and "<img" not in tip), tip
    assert any("&lt;img" in tip for tip in tips if isinstance(tip, str))
    assert plain("a < b & c") != "a < b & c" and plain("plain & simple") == "plain & simple"
    seen(window)
    for top in QApplication.topLevelWidgets():
        if top is not window and top.parent() is window:
            seen(top)
            top.close()


def test_mark_up_takes_the_same_room_as_any_other_letters(make_window: Callable[[], MainWindow], qtbot: QtBot) -> None:
    shots = []
    for words in ("<b>bold</b>", "(b)bold(/b)"):  # as wide, letter by letter, or nearly
        window = make_window()
        window.document.new(form_with(words))
        reviewed(window, qtbot)
        window.desk.book["findings"].setChecked(True)
        shots.append(ink(window.plot.score))
        qtbot.waitUntil(lambda: window.plot.findings.list.model().rowCount() > 0)  # noqa: B023 - waited for here
    a, b = shots
    assert a.shape == b.shape and 0 < np.mean(a != b) < 0.04  # the brackets differ, the layout does not


def test_tips_with_words_of_a_document_go_through_the_helper() -> None:
    """What would be easy to forget: a tip that is made of anything but our own fixed words."""
    wrong = []
    for path, node in sources().calls:
        if "desktop" in path.parts and path.name != "plain.py" and isinstance(node.func, ast.Attribute) and node.args:
            first = node.args[0]
            gate = isinstance(first, ast.Call) and getattr(first.func, "id", "") == "tr" and not first.keywords
            fixed = isinstance(first, ast.Constant) or gate  # our own words, through the gate of languages
            if node.func.attr in ("setToolTip", "setWhatsThis", "setStatusTip", "setHtml") and not fixed:
                wrong.append(f"{path}:{node.lineno}")
    assert wrong == []
