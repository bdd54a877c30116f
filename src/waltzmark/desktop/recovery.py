"""What is not saved yet is kept beside, so that a crash loses at most the last seconds of typing.

Each window keeps one file in the user's state folder: JSON with the document's text as it was read, the score as it
is now, its path and its process. The score is kept as a sheet, since writing a whole long document would slow the
typing. It is written off the interface thread, at most `DELAY_MS` behind, and taken away when the document is saved or
given up. A file whose process is gone belongs to a crash.
"""

from __future__ import annotations

import contextlib
import json
import os
import uuid
from dataclasses import dataclass, replace
from pathlib import Path

import platformdirs
from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer

from waltzmark.core.form.form import Form
from waltzmark.desktop.document import Document
from waltzmark.files.reading import ReadForm

__all__ = ["DELAY_MS", "Recovered", "Recovery", "left_behind"]

#: A change is on disk at most about this long after it was made.
DELAY_MS = 500


@dataclass(frozen=True)
class Recovered:
    """A document that a crash left behind. text: without its last changes to the score; sheet: the score with them;
    path: where it was saved before, None for nowhere."""

    file: Path
    title: str
    text: str
    sheet: str
    path: Path | None

    def forget(self) -> None:
        """Takes the file away."""
        with contextlib.suppress(OSError):
            self.file.unlink()


def folder() -> Path:
    """Where recovery files are kept; only the user can read it."""
    return Path(platformdirs.user_state_dir("waltzmark")) / "recovery"


def left_behind() -> list[Recovered]:
    """The documents of processes that are gone, the newest first. Files that cannot be read are left alone."""
    found: list[tuple[float, Recovered]] = []
    for file in folder().glob("*.json"):
        try:
            kept = json.loads(file.read_text(encoding="utf-8"))
            if _alive(int(kept["process"])):
                continue
            path = Path(kept["path"]) if kept["path"] else None
            recovered = Recovered(file, str(kept["title"]), str(kept["text"]), str(kept["sheet"]), path)
        except (OSError, ValueError, KeyError, TypeError):
            continue
        found.append((file.stat().st_mtime, recovered))
    return [recovered for _, recovered in sorted(found, key=lambda pair: pair[0], reverse=True)]


def _alive(process: int) -> bool:
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return True


class _Keep(QRunnable):
    """Writes one version of a document."""

    def __init__(self, file: Path, form: Form, read: ReadForm | None, path: Path | None, title: str) -> None:
        super().__init__()
        self._file, self._form, self._read, self._path, self._title = file, form, read, path, title

    def run(self) -> None:
        # Imported here: the TOML writer is not needed to start.
        from waltzmark.core.base.errors import WaltzmarkError
        from waltzmark.core.form.score_text import write_score_text
        from waltzmark.files.saving import save_atomically
        from waltzmark.files.writing import render

        # A disk that is full must not disturb the typing; the next save will say so.
        with contextlib.suppress(WaltzmarkError, OSError):
            # What the text says beside the score, with the score as it was read: that is quickly written.
            head = replace(self._form, postures=self._read.form.postures if self._read else ())
            kept = {
                "process": os.getpid(),
                "path": str(self._path) if self._path else None,
                "title": self._title,
                "text": render(head, self._read),
                "sheet": write_score_text(self._form),
            }
            self._file.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
            save_atomically(self._file, json.dumps(kept))


class Recovery(QObject):
    """Keeps a document's unsaved changes on disk."""

    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self._file = folder() / f"{uuid.uuid4().hex}.json"
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(DELAY_MS)
        self._timer.timeout.connect(self._keep)
        document.file_changed.connect(self._changed)

    def _changed(self) -> None:
        """Begins to wait, or, when there is nothing to lose, takes the file away."""
        if self._document.changed:
            if not self._timer.isActive():
                self._timer.start()
        else:
            self.forget()

    def _keep(self) -> None:
        document = self._document
        if document.changed:
            self._pool.start(_Keep(self._file, document.form, document.read, document.path, document.title))

    def keep_now(self) -> None:
        """Writes what is not saved, and waits until it is on disk."""
        self._keep()
        self._pool.waitForDone()

    def forget(self) -> None:
        """Takes the file away: the document was saved, or given up."""
        self._timer.stop()
        self._pool.clear()
        self._pool.waitForDone()
        with contextlib.suppress(OSError):
            self._file.unlink()
