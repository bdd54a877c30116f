"""A crash loses at most the last seconds of typing."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
from pathlib import Path

import pytest
from PySide6.QtCore import QEvent
from PySide6.QtWidgets import QApplication, QMessageBox
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import type_count
from waltzmark.core.form.score_text import read_score_text
from waltzmark.core.score import write_count
from waltzmark.desktop.recovery import folder, left_behind
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import all_windows
from waltzmark.files.reading import read_document

WRITER = """
import sys, platformdirs
platformdirs.user_state_dir = lambda *_: sys.argv[1] + "/state"
platformdirs.user_config_dir = lambda *_: sys.argv[1] + "/config"
from waltzmark.desktop.app import make_application
from waltzmark.core.score import read_count
application = make_application()
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import all_windows
window = MainWindow()
window.open_demo()
window.show()
window.editor.insert([read_count("hold # typed before the crash")])
print("typed", flush=True)
application.exec()
"""


def files() -> list[Path]:
    return sorted(folder().glob("*.json"))


def answer(monkeypatch: pytest.MonkeyPatch, button: QMessageBox.StandardButton) -> list[str]:
    asked: list[str] = []

    def question(*arguments: object) -> QMessageBox.StandardButton:
        asked.append(str(arguments[2]))
        return button

    monkeypatch.setattr(QMessageBox, "question", question)
    return asked


def test_what_was_typed_before_a_kill_is_offered_again(
    window: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    writer = subprocess.Popen([sys.executable, "-c", WRITER, str(tmp_path)], stdout=subprocess.PIPE, text=True)
    assert writer.stdout is not None and writer.stdout.readline() == "typed\n"
    qtbot.waitUntil(lambda: len(files()) == 1, timeout=10_000)
    assert left_behind() == []  # the writer still lives: its document is its own
    writer.send_signal(signal.SIGKILL)
    writer.wait()
    asked = answer(monkeypatch, QMessageBox.StandardButton.Yes)
    assert window.offer_recovery()
    assert "“The ferry round”" in asked[0] and "never saved" in asked[0]
    last = window.document.form.postures[0].lines[-1]
    assert write_count(last) == "hold # typed before the crash"
    assert window.document.changed and window.isWindowModified()
    assert len(files()) == 1 and left_behind() == []  # now kept as this window's own


def test_a_save_or_giving_up_takes_the_kept_changes_away(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    type_count(window, "shift R 100")
    qtbot.waitUntil(lambda: len(files()) == 1, timeout=5000)
    kept = json.loads(files()[0].read_text(encoding="utf-8"))
    assert kept["process"] == os.getpid() and kept["path"] is None
    assert read_score_text(kept["sheet"], read_document(kept["text"]).form).form == window.document.form
    assert files()[0].stat().st_mode & 0o077 == 0 or folder().stat().st_mode & 0o077 == 0
    assert window.save_to(tmp_path / "a.waltz") and files() == []
    type_count(window, "hold")
    qtbot.waitUntil(lambda: len(files()) == 1, timeout=5000)
    assert json.loads(files()[0].read_text(encoding="utf-8"))["path"] == str(tmp_path / "a.waltz")
    window.document.undo()
    assert files() == []  # nothing to lose any more


def test_kept_changes_may_be_thrown_away_or_left_for_later(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    folder().mkdir(parents=True)
    gone = subprocess.run(
        [sys.executable, "-c", "import os; print(os.getpid())"], capture_output=True, text=True, check=True
    )
    kept = {"process": int(gone.stdout), "path": "/tmp/form.waltz", "title": "Mine", "text": "waltzmark = 1\n"}
    kept["sheet"] = "posture quay: Quay\nhold\n"
    (folder() / "a.json").write_text(json.dumps(kept), encoding="utf-8")
    (folder() / "broken.json").write_text("{", encoding="utf-8")
    (folder() / "odd.json").write_text('{"process": "x"}', encoding="utf-8")
    asked = answer(monkeypatch, QMessageBox.StandardButton.Cancel)
    assert not window.offer_recovery() and len(files()) == 3 and "/tmp/form.waltz" in asked[0]
    answer(monkeypatch, QMessageBox.StandardButton.No)
    assert not window.offer_recovery() and [file.name for file in files()] == ["broken.json", "odd.json"]
    answer(monkeypatch, QMessageBox.StandardButton.Yes)
    broken = {"text": "waltzmark = 9\n"}, {"sheet": "posture quay mirror of nowhere axis 12:"}
    for bad, says in zip(broken, ("newer Waltzmark", "line 1 of its score"), strict=True):
        (folder() / "a.json").write_text(json.dumps(kept | bad), encoding="utf-8")
        assert not window.offer_recovery() and (folder() / "a.json").exists()  # it stays where it is
        box = window.findChild(QMessageBox)
        assert box is not None and says in box.informativeText()
        box.close()
        box.deleteLater()
        QApplication.sendPostedEvents(box, QEvent.Type.DeferredDelete)


def test_every_window_that_crashed_comes_back_in_one_of_its_own(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    folder().mkdir(parents=True)
    for name in ("One", "Two"):
        kept = {"process": 2**22 + 1, "path": None, "title": name, "text": "waltzmark = 1\n"}
        kept["sheet"] = f"posture p: {name}\nhold\n"
        (folder() / f"{name}.json").write_text(json.dumps(kept), encoding="utf-8")
    answer(monkeypatch, QMessageBox.StandardButton.Yes)
    assert window.offer_recovery()
    titles = {each.document.form.postures[0].name for each in (window, *all_windows())}
    assert titles == {"One", "Two"} and all(each.document.changed for each in all_windows())
    assert len(files()) == 2 and not {"One.json", "Two.json"} & {file.name for file in files()}
