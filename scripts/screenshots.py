"""Makes the pictures in docs/screenshots from the demo form: ``make shots``."""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
# Pictures show Waltzmark as it comes, not as this user has set it up.
os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp(prefix="waltzmark-shots-")

from PySide6.QtWidgets import QApplication

from waltzmark.desktop.app import make_application, settle
from waltzmark.desktop.window import MainWindow

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


def plot(window: MainWindow) -> None:
    """The third cast of the line, as the weight has poured forward."""
    window.document.go(float(window.document.trace.row_of("cast-right-again", 6)))


def pivot(window: MainWindow) -> None:
    """In the three-quarter turn, the right foot half-way round on its heel."""
    window.document.go(window.document.trace.row_of("light", 8) - 0.45)


def findings(window: MainWindow) -> None:
    """The findings, the second one chosen."""
    window.actions_.findings.setChecked(True)
    window.plot.findings.step(1)
    window.plot.findings.step(1)


def typing(window: MainWindow) -> None:
    """A count being typed, with its ghost on the floor."""
    window.document.go(float(window.document.trace.row_of("coil", 6)))
    window.plot.entry.field.setText("shift L 100, torso 12")
    window.plot.entry.enter()
    window.plot.entry.field.setText("step R 1:30 bow")


def own_facing(window: MainWindow) -> None:
    """The half turn, the walker's own facing up."""
    window.actions_.own.setChecked(True)
    window.document.go(window.document.trace.row_of("boat", 5) - 0.4)


def whole_room(window: MainWindow) -> None:
    """The whole room with the whole path."""
    window.actions_.fit.trigger()
    window.document.go(float(window.document.trace.row_of("cast-home", 6)))


SHOTS: dict[str, tuple[Callable[[MainWindow], None], bool]] = {
    "plot-light": (plot, False),
    "plot-dark": (plot, True),
    "three-quarter-turn": (pivot, False),
    "findings": (findings, False),
    "entry": (typing, False),
    "own-facing": (own_facing, False),
    "whole-room-dark": (whole_room, True),
}


def main() -> None:
    """Makes all pictures, or those named on the command line."""
    make_application()
    FOLDER.mkdir(parents=True, exist_ok=True)
    for name in sys.argv[1:] or SHOTS:
        prepare, dark = SHOTS[name]
        window = MainWindow()
        window.set_dark(dark)
        window.resize(1280, 800)
        window.open_demo()
        window.show()
        settle(window)
        prepare(window)
        settle(window)
        window.grab().save(str(FOLDER / f"{name}.png"))
        window.document.close()
        window.hide()
        QApplication.processEvents()
        print(f"docs/screenshots/{name}.png")


if __name__ == "__main__":
    main()
