"""The text of a file, read whole or refused with words."""

from __future__ import annotations

import os
import stat
from pathlib import Path

from waltzmark.core.base.errors import Position
from waltzmark.files.values import DocumentError

__all__ = ["LARGEST_FILE", "read_text"]

#: A form of thousands of counts is far below a megabyte; anything above this is no form.
LARGEST_FILE = 8_000_000


def read_text(path: Path | str, what: str = "form", most: int = LARGEST_FILE) -> str:
    """The text of a file, its line ends as they are; *what* it should be, in words; at *most* so many bytes.

    Raises DocumentError when it cannot be opened, is no regular file, is too large or is not UTF-8.
    """
    path = Path(path)
    try:
        state = os.stat(path)  # looked at before it is opened: opening a pipe waits for somebody to write
        if not stat.S_ISREG(state.st_mode):
            kind = "a folder" if stat.S_ISDIR(state.st_mode) else "no file that can be read whole"
            raise DocumentError(((Position(), f"cannot be opened: this is {kind}"),), path.name)
        with path.open("rb") as file:
            raw = file.read(most + 1)
        if len(raw) > most:
            words = (
                f"the file has {max(state.st_size, len(raw)) / 1e6:.0f} MB; a {what} has at most "
                f"{most / 1e6:.0f} MB, so this is probably not one"
            )
            raise DocumentError(((Position(), words),), path.name)
    except OSError as error:
        raise DocumentError(((Position(), f"cannot be opened: {error.strerror}"),), path.name) from None
    except ValueError:
        raise DocumentError(((Position(), "cannot be opened: its name has a sign that no file name has"),)) from None
    try:
        return raw.decode("utf-8")
    except UnicodeDecodeError as error:
        line = raw[: error.start].count(b"\n") + 1
        problem = (Position(line), "this is not UTF-8 text; save the file as UTF-8")
        raise DocumentError((problem,), path.name) from None
