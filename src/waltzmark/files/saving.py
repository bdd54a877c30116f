"""Writing a file whole or not at all."""

from __future__ import annotations

import contextlib
import fcntl
import os
import shutil
import stat
import tempfile
from pathlib import Path

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.messages import message

__all__ = ["SaveError", "save_atomically", "sweep"]

#: How files end that are being written; and those that have the whole text of one that is being written over.
_PART, _WHOLE = ".part", ".whole"


class SaveError(WaltzmarkError):
    """A document that could not be written; nothing on disk was changed."""


class _RefusedError(OSError):
    """Why a file must not be written over, or was not as a whole: a message."""


def save_atomically(path: Path, text: str | bytes, mode: int | None = None) -> None:
    """Writes a file whole or not at all: to a new file beside it, flushed to disk, then put in its place.

    What the file was beside its text stays: its owner, group, mode and extended attributes, as far as the system lets
    us, and its other names (hard links); *mode* sets the permissions whatever they were. Line ends are written as they
    are. Raises SaveError with the reason; the file that was there is then still there, unchanged.
    """
    try:
        path = Path(os.path.realpath(path))
        data = text.encode("utf-8") if isinstance(text, str) else text
    except ValueError as error:  # a name with a sign that no name has; half a sign in the text
        raise SaveError("save.name", name=path.name, reason=str(error)) from error
    temporary: str | None = None
    try:
        old = _state(path)
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name[:100]}.", suffix=_PART, dir=path.parent)
        with os.fdopen(handle, "wb") as file:  # held until it is in its place
            _hold(file.fileno())
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
            if old is not None and (old.st_nlink > 1 or not _made_like(temporary, path, old)):
                part, temporary = temporary, None
                beside = part.removesuffix(_PART) + _WHOLE  # it stays until its text is in its place
                os.replace(part, beside)
                _overwrite(path, data, Path(beside))
                os.unlink(beside)
            else:
                os.chmod(temporary, mode if mode is not None else _mode(old))
                os.replace(temporary, path)
                temporary = None
        with contextlib.suppress(OSError):
            folder = os.open(path.parent, os.O_RDONLY)
            os.fsync(folder)
            os.close(folder)
    except OSError as error:
        reason = error.args[0] if isinstance(error, _RefusedError) else error.strerror or type(error).__name__
        raise SaveError("save.failed", name=path.name, reason=reason) from error
    finally:
        if temporary is not None:
            with contextlib.suppress(OSError):
                os.unlink(temporary)
    sweep(path)


def _state(path: Path) -> os.stat_result | None:
    """The file that will be replaced, if there is one. Raises OSError where it must not be."""
    try:
        state = path.stat()
    except FileNotFoundError:
        return None
    if not stat.S_ISREG(state.st_mode):
        raise _RefusedError(message("save.not-a-file"))
    if not os.access(path, os.W_OK):
        raise _RefusedError(message("save.read-only"))
    return state


def _mode(old: os.stat_result | None) -> int:
    return stat.S_IMODE(old.st_mode) if old is not None else 0o666 & ~_umask()


def _made_like(temporary: str, path: Path, old: os.stat_result) -> bool:
    """Gives the new file what the old one was; whether its owner and group could be kept."""
    with contextlib.suppress(OSError):
        shutil.copystat(path, temporary)  # mode and extended attributes, and times, which are set anew
        os.utime(temporary)
    with contextlib.suppress(OSError):
        os.chown(temporary, old.st_uid, old.st_gid)
        os.chmod(temporary, stat.S_IMODE(old.st_mode))  # a change of owner may take bits away
    new = os.stat(temporary)
    return (new.st_uid, new.st_gid) == (old.st_uid, old.st_gid)


def _overwrite(path: Path, data: bytes, beside: Path) -> None:
    """Writes into the file that is there: a new one could not take its place without losing its other names or its
    owner. The whole text is on disk *beside* it meanwhile."""
    try:
        with path.open("r+b") as file:
            file.write(data)
            file.truncate()
            file.flush()
            os.fsync(file.fileno())
    except OSError as error:
        raise _RefusedError(message("save.in-part", reason=error.strerror or "", beside=beside.name)) from error


def sweep(path: Path) -> None:
    """Takes away the part files of a file that saves which were killed have left behind: those that nobody holds."""
    prefix = f".{path.name[:100]}."
    with contextlib.suppress(OSError, ValueError):
        for each in os.scandir(path.parent):
            if each.name.startswith(prefix) and each.name.endswith(_PART):
                with contextlib.suppress(OSError), open(each.path, "rb") as part:
                    fcntl.flock(part, fcntl.LOCK_EX | fcntl.LOCK_NB)
                    os.unlink(each.path)


def _hold(file: int) -> None:
    """Says that a part file is being written, as long as it is open."""
    with contextlib.suppress(OSError):  # a file system without locks
        fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask
