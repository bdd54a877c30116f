"""``waltzmark``: the commands of the command line, else the window."""

from __future__ import annotations

import sys


def main() -> int:
    """Runs Waltzmark with the arguments of the command line and returns the exit status."""
    arguments = sys.argv[1:]
    # Imported when needed: commands need no window, and a window should not wait for commands.
    if arguments and arguments[0] in ("trace", "check"):
        from waltzmark.cli.main import run

        return run(arguments)
    from waltzmark.desktop.app import run as run_window

    return run_window(arguments)


if __name__ == "__main__":
    sys.exit(main())
