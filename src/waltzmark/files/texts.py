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
    """The text of a file, its line ends as they are. what: form, plan or entries; most: bytes that it may have.

    Raises DocumentError when it cannot be opened, is no regular file, is too large or is not UTF-8.
    """
    path = Path(path)
    try:
        state = os.stat(path)  # looked at before it is opened: opening a pipe waits for somebody to write
        if not stat.S_ISREG(state.st_mode):
            folder = stat.S_ISDIR(state.st_mode)
            raise DocumentError.of("file.folder" if folder else "file.not-regular", name=path.name)
        with path.open("rb") as file:
            raw = file.read(most + 1)
        if len(raw) > most:
            size = max(state.st_size, len(raw)) / 1e6
            raise DocumentError.of(f"file.large.{what}", name=path.name, size=size, most=most / 1e6)
    except OSError as error:
        raise DocumentError.of("file.unopened", name=path.name, reason=error.strerror or "") from None
    except ValueError:
        raise DocumentError.of("file.name") from None
    try:
        return raw.decode("utf-8")
    except UnicodeDecodeError as error:
        line = raw[: error.start].count(b"\n") + 1
        raise DocumentError.of("file.encoding", Position(line), path.name) from None
