"""``waltzmark``: the commands of the command line, else the window."""

from __future__ import annotations

import gc
import sys


def main() -> int:
    """Runs Waltzmark with the arguments of the command line and returns the exit status."""
    arguments = sys.argv[1:]
    # Imported when needed: commands need no window, and a window should not wait for commands.
    if arguments and not arguments[0].startswith("-"):
        from waltzmark.cli.commands import COMMANDS

        if arguments[0] in COMMANDS:
            from waltzmark.cli.main import run

            return run(arguments)
    return open_window(arguments)


def open_window(arguments: list[str]) -> int:
    """Imports and runs the window, in the order that is quickest to start."""
    # While modules are made nothing becomes garbage, and looking for it takes a tenth of the start.
    gc.disable()
    # PySide6 reads the source of every module that is imported after it; so what needs no Qt goes first.
    import waltzmark.core.answers.words
    import waltzmark.core.edit.dragging
    import waltzmark.core.edit.keeping
    import waltzmark.core.edit.snapping
    import waltzmark.core.form.score_text
    import waltzmark.core.form.search
    import waltzmark.core.judge.compare
    import waltzmark.core.walk.naming
    import waltzmark.core.walk.sentences
    import waltzmark.files.reading  # noqa: F401
    from waltzmark.desktop.app import run as run_window

    gc.freeze()
    gc.enable()
    return run_window(arguments)


if __name__ == "__main__":
    sys.exit(main())
