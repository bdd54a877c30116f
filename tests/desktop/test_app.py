"""Starting the program as a user does, in a process of its own."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest
from PySide6.QtGui import QImage

from waltzmark.desktop.app import _AHEAD


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
        (("--demo",), 1, "there is no display here"),
        (("broken.waltz", "--shot", "x.png"), 2, ""),
        (("--version",), 0, "waltzmark 0."),
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


def test_what_is_imported_off_the_interface_thread_makes_no_class_of_qt() -> None:
    """One that is made there can end the program: about one start in ten did."""
    names = [f"waltzmark.core.{name}" for name in _AHEAD]
    code = (
        f"import importlib, sys\nfor name in {names!r}: importlib.import_module(name)\nprint('PySide6' in sys.modules)"
    )
    told = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert told.stdout.strip() == "False" and len(set(names)) == len(names) > 10
