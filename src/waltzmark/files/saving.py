"""Writing a file whole or not at all."""

from __future__ import annotations

import contextlib
import os
import tempfile
from pathlib import Path

from waltzmark.core.base.errors import WaltzmarkError

__all__ = ["SaveError", "save_atomically"]


class SaveError(WaltzmarkError):
    """A document that could not be written; nothing on disk was changed."""


def save_atomically(path: Path, text: str) -> None:
    """Writes a file whole or not at all: to a new file beside it, flushed to disk, then put in its place.

    Raises SaveError with the reason; the file that was there is then still there, unchanged.
    """
    path = Path(os.path.realpath(path))
    temporary: str | None = None
    try:
        if path.exists() and not os.access(path, os.W_OK):
            raise PermissionError(13, "the file is read-only")
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name}.", suffix=".part", dir=path.parent)
        with os.fdopen(handle, "w", encoding="utf-8", newline="\n") as file:
            file.write(text)
            file.flush()
            os.fsync(file.fileno())
        mode = path.stat().st_mode & 0o777 if path.exists() else 0o666 & ~_umask()
        os.chmod(temporary, mode)
        os.replace(temporary, path)
        temporary = None
        with contextlib.suppress(OSError):
            folder = os.open(path.parent, os.O_RDONLY)
            os.fsync(folder)
            os.close(folder)
    except OSError as error:
        raise SaveError(f"{path.name} was not saved: {error.strerror}. Save it elsewhere.") from error
    finally:
        if temporary is not None:
            with contextlib.suppress(OSError):
                os.unlink(temporary)


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask
