"""Starting the program as a user does, in a process of its own."""

from __future__ import annotations

import ast
import os
import subprocess
import sys
from pathlib import Path

import pytest
from PySide6.QtGui import QImage

SEEN = """
import os, sys, threading
import waltzmark.__main__
run = waltzmark.__main__.imported_window()
from waltzmark.desktop.plot.floor import FloorView
paint = FloorView.paintEvent
def painted(self, event):
    paint(self, event)
    print(threading.active_count(), *sorted(name for name in sys.modules if name.startswith('waltzmark') or '.' not in name))
    sys.stdout.flush()
    os._exit(0)
FloorView.paintEvent = painted
run(['--demo'])
"""


def start(tmp_path: Path, *arguments: str, display: bool = True) -> subprocess.CompletedProcess[str]:
    hidden = ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
    environment = {key: value for key, value in os.environ.items() if key not in hidden}
    environment |= {
        "HOME": str(tmp_path),
        "XDG_CONFIG_HOME": str(tmp_path / "config"),
        "XDG_CACHE_HOME": str(tmp_path / "cache"),
    }
    if display:
        environment["QT_QPA_PLATFORM"] = "offscreen"
    return subprocess.run(
        [sys.executable, "-m", "waltzmark", *arguments],
        env=environment,
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )


def test_the_demo_is_drawn_without_a_display(tmp_path: Path) -> None:
    shot = tmp_path / "demo.png"
    done = start(tmp_path, "--demo", "--shot", str(shot), display=False)
    assert done.returncode == 0, done.stderr
    image = QImage(str(shot))
    assert (image.width(), image.height()) == (1280, 800)
    colors = {image.pixel(x, y) for x in range(0, 1280, 16) for y in range(0, 800, 16)}
    assert len(colors) > 30


@pytest.mark.parametrize(
    ("arguments", "status", "says"),
    [
        (("--demo",), 1, "--shot PNG"),
        (("broken.waltz", "--shot", "x.png"), 2, ""),
        (("--version",), 0, "waltzmark 1."),
        (("--nonsense",), 2, "usage"),
        (("check", "missing.waltz"), 2, "cannot be opened"),
    ],
)
def test_the_exit_status_and_the_words_of_a_start(
    tmp_path: Path, arguments: tuple[str, ...], status: int, says: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.chdir(tmp_path)
    (tmp_path / "broken.waltz").write_text("waltzmark = 1\n[form", encoding="utf-8")
    done = start(tmp_path, *arguments, display=False)
    assert done.returncode == status, done.stderr
    assert says in done.stdout + done.stderr and "Traceback" not in done.stderr


@pytest.mark.parametrize("slow", [False, True])
def test_the_first_picture_waits_for_nothing_that_is_not_on_it(tmp_path: Path, slow: bool) -> None:
    """Also where everything takes so long that what is put off comes due meanwhile."""
    home = {"HOME": str(tmp_path), "XDG_CACHE_HOME": str(tmp_path / "cache"), "XDG_STATE_HOME": str(tmp_path / "state")}
    environment = {**os.environ, **home, "QT_QPA_PLATFORM": "offscreen"}
    wait = "import time; from waltzmark.desktop.window import MainWindow; show = MainWindow.showEvent\n"
    wait += "MainWindow.showEvent = lambda self, event: (time.sleep(1.0), show(self, event))[1]\n"
    code = SEEN.replace("run([", f"{wait * slow}run([")
    told = subprocess.run(
        [sys.executable, "-c", code], env=environment, capture_output=True, text=True, check=True, timeout=60
    )
    threads, *modules = told.stdout.split()
    assert int(threads) == 1
    late = {"lark", "scipy", "sqlite3", "json", "tomlkit", "pydantic", "ezdxf"}
    late |= {f"waltzmark.core.{name}" for name in ("judge.judging", "answers.review", "score.complete", "practice")}
    stages = ("ready", "room", "returns", "sides", "practise", "log", "sheets")
    late |= {
        f"waltzmark.desktop.{name}"
        for name in (*stages, "first_form", "doors", "helping", "plot.text_view", "plot.foot_drag")
    }
    assert "waltzmark.desktop.plot.floor" in modules and not late & set(modules)


_DIALOG = """
from waltzmark.words.language import pick
pick("es")
from PySide6.QtCore import QFileInfo
from PySide6.QtWidgets import QFileDialog, QFileIconProvider, QLabel
from waltzmark.desktop.app import make_application
kept = make_application()
dialog = QFileDialog()
dialog.setOption(QFileDialog.Option.DontUseNativeDialog)
print([label.text().replace("&", "") for label in dialog.findChildren(QLabel)])
print(QFileIconProvider().type(QFileInfo("/")))
"""


def test_the_dialog_that_chooses_a_file_speaks_the_language_too(tmp_path: Path) -> None:
    home = {f"XDG_{name}_HOME": str(tmp_path) for name in ("CONFIG", "DATA", "STATE", "CACHE")}
    ran = subprocess.run(
        [sys.executable, "-c", _DIALOG], env={**os.environ, **home}, capture_output=True, text=True, check=True
    )
    assert not {"Look in:", "Files of type:", "Folder", "File name:"} & set(
        ast.literal_eval(ran.stdout.splitlines()[0])
    )
    assert ran.stdout.splitlines()[1] not in ("Folder", "Drive")
