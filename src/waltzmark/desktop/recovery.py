"""What is not saved yet is kept beside, so that a crash loses at most the last seconds of typing.

Each window keeps one file in the user's state folder: JSON with the document's text as it was read, what the form says
now as plain values, and its path. Saved from there it gives the very text that saving would have given. It is written
in a thread that waits for nothing else, `DELAY` behind the first change, however quickly others follow; it is taken
away when the document is saved. What is given up without saving is moved aside and stays for a while. A window holds a
lock as long as it lives: a file without one belongs to a crash.
"""

from __future__ import annotations

import contextlib
import itertools
import os
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import platformdirs
from PySide6.QtCore import QLockFile, QObject, Signal
from shiboken6 import isValid

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.desktop.courier import courier
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import safely
from waltzmark.files.reading import ReadForm, read_document, read_values
from waltzmark.files.saving import save_atomically, sweep
from waltzmark.words.errors import explained

__all__ = ["DELAY", "Kept", "LeftBehind", "Recovery", "folder", "kept_values", "left_behind", "thrown_away"]

#: Seconds from a change until it is written, with all that follow it by then.
DELAY = 0.15
#: So many of those that were given up stay.
_THROWN_AWAY = 20
#: Tables that a document can be read without, those that matter least first.
_LESS = ("sheet", "mute", "home", "room", "school", "body")
_STALE = 3600.0  # seconds after which a lock without a file is of no use to anybody


class Kept(Record):
    """A document that was kept. read: what it was read from; path: where it was saved before, None for nowhere; when:
    it was kept, seconds since 1970."""

    file: Path
    title: str
    form: Form
    read: ReadForm | None
    path: Path | None
    when: float

    def forget(self) -> None:
        """Takes the file away: another one has it now."""
        _remove(self.file)

    def throw_away(self) -> None:
        """Moves the file aside, where it stays for a while. Raises WaltzmarkError where it cannot be; it stays then."""
        try:
            _move_aside(self.file)
        except OSError as error:
            raise WaltzmarkError("recovery.not-aside", path=str(self.file), reason=error.strerror or "") from None


class LeftBehind(Record):
    """What crashes left behind, the newest first, and what of it cannot be read, in words."""

    kept: tuple[Kept, ...]
    damaged: tuple[str, ...]


def folder() -> Path:
    """Where documents are kept; only the user can read it."""
    return Path(platformdirs.user_state_dir("waltzmark")) / "recovery"


def _aside() -> Path:
    return folder() / "thrown-away"


def _made(path: Path) -> Path:
    """A folder that is there, and the user's alone."""
    path.mkdir(mode=0o700, parents=True, exist_ok=True)
    if path.stat().st_mode & 0o077:
        path.chmod(0o700)
    return path


def kept_values(form: Form, read: ReadForm | None, path: Path | None, title: str) -> dict[str, Any]:
    """What is written of a document."""
    from waltzmark.files.document_values import document_values  # not needed to start

    return {
        "kept": 2,
        "title": title,
        "path": str(path) if path else None,
        "text": read.text if read else None,
        "values": document_values(form),
    }


def _read(file: Path) -> Kept:
    """A kept document. Raises WaltzmarkError, OSError or ValueError."""
    import json  # not needed to start

    kept = json.loads(file.read_text(encoding="utf-8"))
    if not isinstance(kept, dict) or kept.get("kept") != 2 or not isinstance(kept.get("values"), dict):
        raise ValueError("it was not written by this Waltzmark")
    text, path = kept.get("text"), kept.get("path")
    read = read_document(text) if isinstance(text, str) else None
    form = _form_of(kept["values"])
    return Kept(file, str(kept.get("title")), form, read, Path(path) if path else None, file.stat().st_mtime)


def _form_of(values: dict[str, Any]) -> Form:
    """The form of plain values. What of it cannot be read is left out, a table as a whole, so that the rest is not lost
    with it. Raises WaltzmarkError where nothing helps."""
    try:
        return read_values(values)
    except WaltzmarkError:
        tables = [name for name in _LESS if name in values]
        for many in range(1, len(tables) + 1):
            for gone in itertools.combinations(tables, many):
                with contextlib.suppress(WaltzmarkError):
                    return read_values({name: value for name, value in values.items() if name not in gone})
        raise


def _all_in(where: Path) -> LeftBehind:
    kept: list[Kept] = []
    damaged: list[str] = []
    for file in where.glob("*.json"):
        if not file.is_file() or _locked(file):  # to open a pipe would wait for somebody to write
            continue
        try:
            kept.append(_read(file))
        except FileNotFoundError:
            continue  # another window has taken it meanwhile
        except (WaltzmarkError, OSError, ValueError, RecursionError) as error:
            damaged.append(f"{file}: {explained(error)}")
    return LeftBehind(tuple(sorted(kept, key=lambda each: -each.when)), tuple(sorted(damaged)))


def left_behind() -> LeftBehind:
    """The documents of windows that ended without saving or giving up."""
    _clean_up()
    return _all_in(folder())


def thrown_away() -> LeftBehind:
    """The documents that were given up lately."""
    return _all_in(_aside())


def _lock_of(file: Path) -> QLockFile:
    """The lock of a kept file, which the program that made it holds as long as it lives."""
    lock = QLockFile(str(file.with_suffix(".lock")))
    lock.setStaleLockTime(0)  # however old: it is over when its program is
    return lock


def _locked(file: Path) -> bool:
    """Whether the window that a kept file belongs to still lives."""
    try:
        if not file.with_suffix(".lock").stat().st_size:
            return False  # it names no program: it is an older version's, or its program ended just then
    except FileNotFoundError:
        return False
    except OSError:
        return True
    lock = _lock_of(file)
    if not lock.tryLock(0):
        return True
    lock.unlock()
    return False


def _remove(file: Path) -> None:
    for each in (file, file.with_suffix(".lock")):
        with contextlib.suppress(OSError):
            each.unlink()


def _move_aside(file: Path) -> None:
    """Moves a kept file to those that were given up; it is only ever moved. Raises OSError, and then it is where it
    was."""
    if file.exists():
        aside = _made(_aside())
        os.replace(file, aside / file.name)
        with contextlib.suppress(OSError):
            os.utime(aside / file.name)
            newest = sorted(aside.glob("*.json"), key=lambda each: -each.stat().st_mtime)
            for each in newest[_THROWN_AWAY:]:
                each.unlink()
    _remove(file)


def _clean_up() -> None:
    """Takes away what ended badly left: parts of files, and locks without a file."""
    now = time.time()
    for each in (*folder().glob("*.lock"), *folder().glob("*.json")):
        with contextlib.suppress(OSError):
            sweep(each.with_suffix(".json"))
            lone = not each.with_suffix(".json").exists() and now - each.stat().st_mtime > _STALE
            if lone and not _locked(each.with_suffix(".json")):
                each.unlink()


class _Keeper:
    """Writes what it is given in a thread of its own: what was given last, `DELAY` after the first since it last wrote.

    It does not go through `jobs`: those begin when the interface thread has time, and a change must be kept also where
    that is busy with the next ones.
    """

    def __init__(self, failed: Callable[[BaseException | None], None]) -> None:
        self._failed = failed
        self._given: Callable[[], None] | None = None
        self._news = threading.Condition()
        self._begun = False

    def keep(self, write: Callable[[], None] | None) -> None:
        """Lets something be written; None lets nothing be."""
        with self._news:
            self._given = write
            if write is not None and not self._begun:
                self._begun = True
                threading.Thread(target=self._run, name="waltzmark keep", daemon=True).start()
            self._news.notify()

    def end(self) -> None:
        """Nothing will be given any more."""
        with self._news:
            self._given, self._begun = None, False
            self._news.notify()

    def _run(self) -> None:
        while True:
            with self._news:
                self._news.wait_for(lambda: self._given is not None or not self._begun)
                if not self._begun:
                    return
            time.sleep(DELAY)
            with self._news:
                write, self._given = self._given, None
            if write is None:
                continue
            wrong: BaseException | None = None
            try:
                write()
            except Exception as error:  # it is told; the next change is tried again
                wrong = error
            self._failed(wrong)


class Recovery(QObject):
    """Keeps a document's unsaved changes on disk."""

    #: They cannot be kept, and why; told once until it goes again.
    failed = Signal(str)

    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self._file = folder() / f"{os.urandom(16).hex()}.json"
        self._lock = _lock_of(self._file)
        self._writing = threading.Lock()  # a file that was forgotten must not be written by a job that began before
        self._turn = 0
        self._told = False
        self._courier = courier()
        self._keeper = _Keeper(self._ended)
        document.file_changed.connect(safely(self._changed))

    def _changed(self) -> None:
        """Lets the document be kept, or, when there is nothing to lose, takes the file away."""
        if self._document.changed:
            self._keeper.keep(self._work())
        else:
            self.forget()

    def _work(self) -> Callable[[], None]:
        document, turn = self._document, self._turn
        form, read, path, title = document.form, document.read, document.path, document.title

        def work() -> None:
            import json

            values = kept_values(form, read, path, title)
            with self._writing:
                if turn == self._turn:
                    _made(self._file.parent)
                    self._hold()
                    save_atomically(self._file, json.dumps(values), mode=0o600)

        return work

    def _hold(self) -> None:
        """Says that the window lives. Where nothing can be locked, nothing looks alive."""
        if not self._lock.isLocked():
            self._lock.tryLock(0)

    def _ended(self, error: BaseException | None) -> None:
        """From the thread that writes: why it could not, None where it could."""
        self._courier.send(lambda: self._fail(error) if isValid(self) else None)

    def _fail(self, error: BaseException | None) -> None:
        """Tells that it cannot be kept, once until it could."""
        if error is None:
            self._told = False
        elif not self._told:
            self._told = True
            self.failed.emit(explained(error))

    def keep_now(self) -> bool:
        """Writes what is not saved, and waits until it is on disk; whether it is."""
        try:
            self._work()()
        except (WaltzmarkError, OSError, ValueError) as error:
            self._fail(error)
            return False
        return True

    def _end(self) -> None:
        """Nothing that is under way writes the file any more."""
        self._keeper.keep(None)
        with self._writing:
            self._turn += 1

    def forget(self) -> None:
        """Takes the file away: the document was saved."""
        self._end()
        if self._lock.isLocked():
            _remove(self._file)
            self._lock.unlock()

    def end(self) -> None:
        """The window closes, and its document was saved or given up."""
        self.forget()
        self._keeper.end()

    def throw_away(self) -> None:
        """The document is given up without saving: its changes are moved aside, where they stay for a while. Raises
        WaltzmarkError where they cannot be kept as they are now; then nothing is given up."""
        if self._document.changed:
            try:
                self._work()()
            except (WaltzmarkError, OSError, ValueError) as error:
                raise WaltzmarkError("recovery.not-kept", reason=explained(error)) from None
        try:
            with self._writing:
                _move_aside(self._file)
                self._turn += 1
        except OSError as error:
            raise WaltzmarkError("recovery.not-aside", path=str(self._file), reason=error.strerror or "") from None
        self._end()
        self._lock.unlock()
