"""``waltzmark``: the commands of the command line, else the window."""

from __future__ import annotations

import contextlib
import gc
import os
import sys
from typing import Any


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
            from waltzmark.desktop.sheet_command import run as run_sheet

            return run_sheet(arguments)
    return open_window(arguments)


def _read_no_sources() -> None:
    """Keeps PySide6 from reading the source of every module that is imported after it.

    It looks for an import of ``__feature__``, which there is none of; a tenth of the start goes into that. Where this
    inner part of it is not as it was, the start only takes longer.
    """
    import PySide6.QtCore  # noqa: F401

    feature: Any = sys.modules.get("shibokensupport.feature")
    if hasattr(feature, "_mod_uses_pyside"):
        feature._mod_uses_pyside = lambda _module: False


def open_window(arguments: list[str]) -> int:
    """Imports and runs the window, in the order that is quickest to start."""
    # While modules are made nothing becomes garbage, and looking for it takes a tenth of the start.
    gc.disable()
    # PySide6 reads the source of every module that is imported after it; so what needs no Qt goes first.

    _read_no_sources()
    from waltzmark.desktop.settings import Settings
    from waltzmark.words.language import pick

    pick(Settings().text("language", ""))  # first: tables of texts are made as their modules are imported
    from waltzmark.desktop.app import run as run_window

    gc.freeze()
    gc.enable()
    return run_window(arguments)


if __name__ == "__main__":
    sys.exit(main())
