"""A document's file as it is on disk, whether another program has written it since, and how a file may be called."""

from __future__ import annotations

import os
from pathlib import Path

__all__ = ["OnDisk", "file_name", "has_text"]


def _stamp(path: Path | None) -> tuple[int, int] | None:
    """When a file was last written, and its size; None when there is none."""
    try:
        state = path.stat() if path else None
    except OSError:
        return None
    return (state.st_mtime_ns, state.st_size) if state else None


def has_text(path: Path, text: str) -> bool:
    """Whether a file still has the text that it was read with."""
    try:
        return path.read_bytes() == text.encode()
    except (OSError, ValueError):
        return False


def file_name(title: str) -> str:
    """A title as a file may be called."""
    name = "".join("-" if sign in "/\\:\0" or not sign.isprintable() else sign for sign in title).strip(". ")
    while len(os.fsencode(name)) > 200:
        name = name[:-1]
    return name or "form"


class OnDisk:
    """What is known of a document's file."""

    def __init__(self) -> None:
        self._known: tuple[int, int] | None = None
        self._told: tuple[int, int] | None = None  # what of it the user has been told

    def note(self, path: Path | None) -> None:
        """Remembers the file as it is now."""
        self._known = _stamp(path)

    def changed(self, path: Path | None) -> bool:
        """Whether another program has written it since it was read or saved."""
        now = _stamp(path)
        return now is not None and now != self._known

    def news(self, path: Path | None) -> bool:
        """Whether another program has written it, and the user is to be told: once for each time."""
        now = _stamp(path)
        news = self.changed(path) and now != self._told
        self._told = now
        return news
