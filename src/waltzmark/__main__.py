"""``waltzmark``: the commands of the command line, else the window."""

from __future__ import annotations

import contextlib
import gc
import importlib
import os
import sys
from collections.abc import Callable

#: What of the window needs no Qt is imported first: PySide6 reads the source of every module that comes after it.
_WITHOUT_QT = (
    "core.edit.forms",
    "core.edit.snapping",
    "core.judge.finding",
    "core.score.parser",
    "core.sides.tolerance",
    "core.walk.figures",
    "core.walk.mechanics",
    "core.walk.naming",
    "core.walk.walk",
    "files.reading",
    "files.saving",
    "words.language",
)


def _trust_no_folder() -> None:
    """Nothing is imported out of the folder somebody happens to be in, here and by what is started from here."""
    os.environ["PYTHONSAFEPATH"] = "1"
    ours = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
    with contextlib.suppress(OSError):  # it may be gone
        if not sys.flags.safe_path and sys.path and os.path.abspath(sys.path[0]) == os.getcwd() != ours:
            del sys.path[0]  # ``python -m`` has put it there


def main() -> int:
    """Runs Waltzmark with the arguments of the command line and returns the exit status."""
    _trust_no_folder()
    arguments = sys.argv[1:]
    if "_ARGCOMPLETE" in os.environ:  # a shell asks what can be typed
        from waltzmark.completing import complete

        complete()
    # Imported when needed: commands need no window, and a window should not wait for commands.
    if arguments and not arguments[0].startswith("-"):
        from waltzmark.cli.commands import COMMANDS, DRAWN

        if arguments[0] in {**COMMANDS, **DRAWN}:
            from waltzmark.words.language import pick

            pick()
        if arguments[0] in COMMANDS:
            from waltzmark.cli.main import run

            return run(arguments)
        if arguments[0] in DRAWN:  # it draws, so it needs what the window draws with
            drawing = importlib.import_module(f"waltzmark.desktop.{arguments[0]}_command")
            return int(drawing.run(arguments))
    return open_window(arguments)


def open_window(arguments: list[str]) -> int:
    """Runs the window."""
    return imported_window()(arguments)


def imported_window() -> Callable[[list[str]], int]:
    """Imports the window, and gives what runs it."""
    gc.disable()  # until there is a loop of events, between which it is collected
    for name in _WITHOUT_QT:
        importlib.import_module(f"waltzmark.{name}")
    from waltzmark.desktop.settings import Settings
    from waltzmark.words.language import pick

    pick(Settings().text("language", ""))  # first: tables of texts are made as their modules are imported
    from waltzmark.desktop.app import run

    return run


if __name__ == "__main__":
    sys.exit(main())
