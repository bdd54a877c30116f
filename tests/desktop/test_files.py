"""Forms opened and saved in the window: nothing that was written is lost."""

from __future__ import annotations

import os
from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog, QMessageBox
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import chooses, type_count
from waltzmark.desktop.window import MainWindow
from waltzmark.files.reading import read_file


def told(window: MainWindow) -> str:
    """The text of the message box that is open."""
    box = window.findChild(QMessageBox)
    assert box is not None
    text = f"{box.text()} {box.informativeText()}"
    box.close()
    return text


def test_saving_keeps_every_word_and_opens_again(
    demo: MainWindow,
    qtbot: QtBot,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    make_window: Callable[[], MainWindow],
) -> None:
    path = tmp_path / "mine"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    demo.document.session.go(demo.document.trace.row_of("coil", 2))
    type_count(demo, "hold # breathe")
    assert demo.isWindowModified()
    qtbot.keyClick(demo, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    saved = path.with_suffix(".waltz")
    assert not demo.isWindowModified() and "mine.waltz" in demo.windowTitle()
    assert read_file(saved).form == demo.document.form
    assert "# north stands at 12 o'clock, toward the river door" in saved.read_text(encoding="utf-8")
    again = make_window()
    assert again.desk.settings.recent == [saved.resolve()]
    copy = saved.with_name("copy.waltz")
    copy.write_bytes(saved.read_bytes())
    again.filing.open_instead(copy)
    assert again.document.form == demo.document.form and not again.document.changed


@pytest.mark.parametrize(
    ("content", "says"),
    [
        ("waltzmark = 1\n[posture", "line 2"),
        ("waltzmark = 99\n", "newer Waltzmark"),
        ("waltzmark = 1\n[room]\noutline = [[0,0],[4,4],[4,0],[0,4]]", "crosses itself"),
    ],
)
def test_a_broken_file_is_told_and_the_open_form_stays(
    demo: MainWindow, tmp_path: Path, content: str, says: str
) -> None:
    path = tmp_path / "broken.waltz"
    path.write_text(content, encoding="utf-8")
    before, row = demo.document.form, 7
    demo.document.session.go(row)
    assert not demo.filing.open_path(path)
    assert says in told(demo)
    assert demo.document.form is before and demo.document.session.row == row
    assert path not in demo.desk.settings.recent


def test_a_save_that_fails_is_told_and_nothing_is_lost(
    demo: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "form.waltz"
    assert demo.filing.save_to(path)
    demo.document.session.go(2)
    type_count(demo, "hold")

    def full(_descriptor: int) -> None:
        raise OSError(28, "No space left on device")

    text, form = path.read_text(encoding="utf-8"), demo.document.form
    elsewhere = tmp_path / "elsewhere.waltz"
    asked = chooses(monkeypatch, "Save as …")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: ("", ""))
    monkeypatch.setattr(os, "fsync", full)
    assert not demo.filing.save()
    assert len(asked) == 1 and "No space left on device. Save it elsewhere." in asked[0]
    assert demo.document.changed and demo.document.form is form and path.read_text(encoding="utf-8") == text
    monkeypatch.undo()
    path.chmod(0o444)
    monkeypatch.setattr(os, "access", lambda *_: False)
    asked = chooses(monkeypatch, "Save as …")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(elsewhere), ""))
    monkeypatch.setattr("waltzmark.files.saving.os.access", lambda where, _: "elsewhere" in str(where))
    assert demo.filing.save() and "read-only" in asked[-1]
    assert demo.document.path == elsewhere and not demo.document.changed and path.read_text(encoding="utf-8") == text


def test_changes_are_not_thrown_away_unasked(demo: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    asked = chooses(monkeypatch, "Cancel")
    demo.desk.book["new"].trigger()
    assert not asked and demo.document.form.postures == ()
    type_count(demo, "shift R 100")
    demo.desk.book["demo"].trigger()
    assert len(asked) == 1 and "New form" in asked[0] and demo.document.changed
    assert not demo.close() and demo.isVisible()
    chooses(monkeypatch, "Discard them")
    demo.desk.book["demo"].trigger()
    assert demo.document.form.title == "The ferry round"
    kept = list(demo.filing.thrown_away())  # and it is not gone
    assert len(kept) == 1
    demo.filing.open_thrown_away(kept[0])
    assert demo.document.form == kept[0].form and kept[0].form.postures and demo.document.changed
    assert not demo.filing.thrown_away()


def test_unknown_keys_are_told_when_a_file_is_opened(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    path = tmp_path / "odd.waltz"
    path.write_text('waltzmark = 1\n[form]\ntilte = "x"\n', encoding="utf-8")
    assert window.filing.open_path(path)
    qtbot.waitUntil(lambda: window.findChild(QMessageBox) is not None)
    assert "form.tilte, line 3" in told(window)


def test_files_are_asked_for_beside_the_form_else_where_one_was_last(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    begun: list[Path] = []
    answers: list[Path | None] = []

    def asked(_parent: object, _words: str, start: str, _kinds: str) -> tuple[str, str]:
        begun.append(Path(start))
        answer = answers.pop(0)
        return (str(answer) if answer else "", "")

    for name in ("getOpenFileName", "getSaveFileName"):
        monkeypatch.setattr(QFileDialog, name, asked)
    files, lessons, forms = window.desk.files, tmp_path / "lessons", tmp_path / "forms"
    for folder in (lessons, forms):
        folder.mkdir()
    answers += [None, lessons / "one.md", None, forms / "a/b.waltz"]
    assert files.to_open("", "") is None
    assert files.to_open("", "") == lessons / "one.md"
    assert files.to_save("", "sheet.pdf", "") is None
    assert begun[0] == begun[1] != lessons and begun[1].is_dir() and begun[2] == lessons / "sheet.pdf"
    assert files.to_save_as("", "b.waltz", "") == (forms / "a/b.waltz", "")
    answers += [None, None]
    files.to_open("", "")  # what was chosen last is in a folder that is not there
    assert begun[-1] not in (lessons, forms / "a") and begun[-1].is_dir()
    window.document.save(forms / "mine.waltz")
    files.to_open("", "")
    assert begun[-1] == forms
