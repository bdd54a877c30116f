"""Shell completion of the commands and their options, by argcomplete; see docs/file-format.md for how to turn it on."""

from __future__ import annotations

import argparse

__all__ = ["complete", "parser"]


def parser() -> argparse.ArgumentParser:
    """All that can be typed after ``waltzmark``, those that draw among it."""
    from argcomplete.completers import FilesCompleter

    from waltzmark.cli.main import parser as commands
    from waltzmark.desktop.figure_command import figure_arguments
    from waltzmark.desktop.film_command import film_arguments
    from waltzmark.desktop.sheet_command import sheet_arguments

    made = commands(also=(figure_arguments, film_arguments, sheet_arguments))
    for words in ("--demo", "--shot", "--version"):
        made.add_argument(words)
    listed = [made, *(each for action in made._actions for each in (getattr(action, "choices", None) or {}).values())]
    for each in listed:
        for action in each._actions:
            if action.metavar in ("FILE", "A", "B"):
                action.completer = FilesCompleter(["waltz"])
    return made


def complete() -> None:
    """Answers the shell, which asks by running the program, and leaves."""
    import argcomplete

    argcomplete.autocomplete(parser())
