"""The practice book: one SQLite file, written so that a crash loses nothing that was kept, migrated when it is old."""

from __future__ import annotations

import contextlib
import os
import sqlite3
from collections import deque
from collections.abc import Callable, Iterable, Iterator, Sequence
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

import platformdirs

from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import replace
from waltzmark.core.practice.entries import Entry, EntryError
from waltzmark.files.exchange import COLUMNS, BookError, entries_csv, entries_json, entry_values, read_entries

__all__ = ["VERSION", "Book", "BookError", "DamagedBookError", "book_path", "put_aside", "rescued"]

#: What each version of the file needs to become the next; the first makes it.
_MIGRATIONS: tuple[tuple[str, ...], ...] = (
    (
        """create table entry (id integer primary key autoincrement, at text not null, kind text not null,
           person text not null default '', form text not null default '', posture text not null default '',
           title text not null default '', side text not null default '', heading real not null default 0,
           reps integer not null default 1, minutes real not null default 0, what text not null default '',
           measured real, planned real, unit text not null default '', outcome text not null default 'done',
           note text not null default '')""",
    ),
    ("alter table entry add column gone integer not null default 0", "create index entry_at on entry (at)"),
)
VERSION = len(_MIGRATIONS)
_NAMES = {name: "at" if name == "when" else name for name in COLUMNS}
_STORED = ", ".join(("id", *_NAMES.values()))
#: How long another program that writes is waited for: when the book is opened, and with each thing that is done.
_OPENING_MS, _BUSY_MS = 3000, 150
_BACK = timedelta(minutes=1)
_STEPS = 500  # that can be undone


class DamagedBookError(BookError):
    """What stands in the book's place is no book, or a torn one."""


def book_path() -> Path:
    """Where the user's own book is kept."""
    return Path(platformdirs.user_data_dir("waltzmark")) / "practice.sqlite"


class Book:
    """The entries of one book. The last of what is done to them can be undone as long as it is open.

    path: its file; None keeps it in memory only. Raises BookError, and DamagedBookError where the file is no book.
    """

    def __init__(self, path: Path | None = None) -> None:
        self.path = path
        self._begun = False
        self.odd = 0  # rows that cannot be read, as far as has been seen; they stay in the file
        self._undo: deque[tuple[Message, Callable[[], None]]] = deque(maxlen=_STEPS)
        try:
            if path is not None:
                path.parent.mkdir(parents=True, exist_ok=True)
                if path.exists() and not path.is_file():
                    raise BookError("book.not-a-file", path=str(path))
            self._store = sqlite3.connect(str(path) if path else ":memory:", isolation_level=None)
        except (OSError, sqlite3.Error) as error:
            raise BookError("book.opened", path=str(path), reason=_reason(error)) from None
        try:
            self._begin()
        except BaseException:
            self._store.close()
            raise

    def _begin(self) -> None:
        with self._told("opened"):
            self._store.execute(f"pragma busy_timeout = {_OPENING_MS}")
            version = int(self._store.execute("pragma user_version").fetchone()[0])
            if version > VERSION:
                raise BookError("book.newer", path=str(self.path), version=version, known=VERSION)
            if self._store.execute("pragma quick_check(1)").fetchone()[0] != "ok":
                raise DamagedBookError("book.damaged", path=str(self.path))
            if self.path is not None:
                self._store.execute("pragma journal_mode = wal")
            self._store.execute("pragma synchronous = full")
            while version < VERSION:
                with self._whole():  # another window may have done it since
                    version = int(self._store.execute("pragma user_version").fetchone()[0])
                    if version < VERSION:
                        for command in _MIGRATIONS[version]:
                            self._store.execute(command)
                        version += 1
                        self._store.execute(f"pragma user_version = {version}")
            self._store.execute(f"select {_STORED} from entry limit 0")  # whether it is a book at all
            self._store.execute(f"pragma busy_timeout = {_BUSY_MS}")
        self._begun = True

    @contextlib.contextmanager
    def _told(self, done: str) -> Iterator[None]:
        """What goes wrong in the file while it is *opened*, *read* or *written*, such that something can be done."""
        try:
            yield
        except sqlite3.OperationalError as error:
            if "full" in str(error) or "disk I/O" in str(error):
                raise BookError("book.full", path=str(self.path)) from None
            if any(word in str(error) for word in ("locked", "busy")):
                raise BookError("book.busy", path=str(self.path)) from None
            if any(word in str(error) for word in ("no such", "malformed", "schema", "syntax", "has no column")):
                raise DamagedBookError("book.damaged", path=str(self.path)) from None
            raise BookError(f"book.{done}", path=str(self.path), reason=_reason(error)) from None
        except sqlite3.DatabaseError as error:
            if isinstance(error, sqlite3.IntegrityError | sqlite3.ProgrammingError):
                raise BookError(f"book.{done}", path=str(self.path), reason=_reason(error)) from None
            raise DamagedBookError("book.damaged", path=str(self.path)) from None

    @contextlib.contextmanager
    def _whole(self) -> Iterator[None]:
        """All or nothing."""
        if not self.there and self._begun:
            raise BookError("book.gone", path=str(self.path))
        self._store.execute("begin immediate")
        try:
            yield
            self._store.execute("commit")
        except BaseException:
            if self._store.in_transaction:  # a full disk has ended it already
                self._store.execute("rollback")
            raise

    @property
    def there(self) -> bool:
        """Whether its file is still where it was opened."""
        return self.path is None or self.path.exists()

    def close(self) -> None:
        """Lets go of the file."""
        self._store.close()

    # What is in it.

    def entries(self, since: datetime | None = None) -> tuple[Entry, ...]:
        """All entries, or those since a time, in the order of their times."""
        with self._told("read"):
            rows = self._store.execute(f"select {_STORED} from entry where gone = 0").fetchall()
        found = _entries(rows)
        self.odd = len(rows) - len(found)
        # Here and not in the store: times may be in several time zones, and their texts do not sort as they do.
        found.sort(key=lambda entry: (entry.when, entry.id))
        return tuple(found if since is None else (entry for entry in found if entry.when >= since))

    def __len__(self) -> int:
        with self._told("read"):
            return int(self._store.execute("select count(*) from entry where gone = 0").fetchone()[0])

    def clock_behind(self, when: datetime) -> timedelta | None:
        """How far a time lies before the last entry put in, as after the clock was set back; None where not."""
        with self._told("read"):
            row = self._store.execute("select at from entry where gone = 0 order by id desc limit 1").fetchone()
        last = _time(row[0]) if row else None
        return last - when if last is not None and last - when > _BACK else None

    # What is done to it.

    def add(self, entry: Entry) -> Entry:
        """Keeps an entry; returns it with its id. Raises BookError."""
        return self.add_all((entry,))[0]

    def add_all(self, entries: Sequence[Entry], does: Message | None = None) -> tuple[Entry, ...]:
        """Keeps entries, all or none; as one step that can be undone. Raises BookError."""
        if not entries:
            return ()
        command = f"insert into entry ({', '.join(_NAMES.values())}) values ({', '.join('?' * len(COLUMNS))})"
        with self._told("written"), self._whole():
            ids = [self._store.execute(command, entry_values(entry)).lastrowid or 0 for entry in entries]
        said = does or message("book.add", n=len(ids))
        self._undo.append((said, lambda: self._gone(ids, True)))
        return tuple(replace(entry, id=number) for entry, number in zip(entries, ids, strict=True))

    def change(self, entry: Entry) -> None:
        """Puts an entry in the place of the one with its id. Raises BookError."""
        before = next((each for each in self.entries() if each.id == entry.id), None)
        if before is None:
            raise BookError("book.no-entry")
        self._write(entry)
        self._undo.append((message("book.correct"), lambda: self._write(before)))

    def _write(self, entry: Entry) -> None:
        sets = ", ".join(f"{name} = ?" for name in _NAMES.values())
        with self._told("written"):
            self._store.execute(f"update entry set {sets} where id = ?", (*entry_values(entry), entry.id))

    def delete(self, ids: Sequence[int]) -> None:
        """Takes entries out; undo brings them back. Raises BookError."""
        self._gone(ids, True)
        self._undo.append((message("book.delete", n=len(ids)), lambda: self._gone(ids, False)))

    def _gone(self, ids: Sequence[int], gone: bool) -> None:
        with self._told("written"), self._whole():
            self._store.executemany("update entry set gone = ? where id = ?", [(int(gone), each) for each in ids])

    @property
    def undoes(self) -> Message | None:
        """What undo would take back."""
        return self._undo[-1][0] if self._undo else None

    def undo(self) -> None:
        """Takes back the last thing that was done to the book. Raises BookError, and then it is still to be undone."""
        if self._undo:
            self._undo[-1][1]()
            self._undo.pop()

    # Out and in.

    def as_csv(self) -> str:
        """All entries as a table."""
        return entries_csv(self.entries())

    def as_json(self) -> str:
        """All entries as one JSON object."""
        return entries_json(self.entries())

    def take_in(self, text: str, name: str) -> int:
        """Takes entries of a table or a JSON object in, those that are there already passed over; how many were new.
        Raises BookError, which says the line, and then none is taken in."""
        return self.take(read_entries(text, name))

    def take(self, found: Iterable[Entry]) -> int:
        """Takes entries in that were read, as `take_in` does."""
        known = {replace(entry, id=0) for entry in self.entries()}
        fresh = [entry for entry in dict.fromkeys(found) if entry not in known]
        self.add_all(fresh, message("book.import", n=len(fresh)))
        return len(fresh)


def put_aside(path: Path, when: datetime) -> Path:
    """Moves a damaged book aside, with what SQLite keeps beside it, so that another can begin; where it is then. Raises
    BookError."""
    to = path.with_name(f"{path.name}.damaged-{when:%Y%m%d-%H%M%S}")
    moved: list[tuple[Path, str]] = []
    try:
        for end in ("-wal", "-shm", ""):
            old = Path(f"{path}{end}")
            if old.exists():
                os.replace(old, f"{to}{end}")
                moved.append((old, f"{to}{end}"))
    except OSError as error:
        for old, new in reversed(moved):  # all of it, or nothing
            with contextlib.suppress(OSError):
                os.replace(new, old)
        raise BookError("book.not-aside", path=str(path), reason=error.strerror or "") from None
    return to


def rescued(path: Path) -> tuple[Entry, ...]:
    """What can still be read of a damaged book, as far as it goes; what was deleted stays so."""
    found: list[Entry] = []
    with contextlib.suppress(sqlite3.Error, EntryError, ValueError, OSError):
        store = sqlite3.connect(f"{path.absolute().as_uri()}?mode=ro", uri=True)
        with contextlib.closing(store):
            known = {str(row[1]) for row in store.execute("pragma table_info(entry)")}
            there = "where gone = 0" if "gone" in known else ""
            for row in store.execute(f"select {_STORED} from entry {there} order by id"):
                found += _entries([row])  # what was read before it breaks is kept
    return tuple(found)


def _reason(error: Exception) -> str:
    if isinstance(error, OSError) and error.strerror:
        return error.strerror
    return str(error) or type(error).__name__


def _time(text: object) -> datetime | None:
    """A time as it was stored; without its time zone, that of this machine. None where it is none."""
    try:
        time = datetime.fromisoformat(text)  # type: ignore[arg-type]
        return time if time.tzinfo is not None else time.astimezone()
    except (ValueError, TypeError, OverflowError, OSError):
        return None


#: Where in a row stand texts, figures, and figures that may be missing.
_TEXTS = tuple(
    at
    for at, name in enumerate(("id", *COLUMNS))
    if name in ("kind", "person", "form", "posture", "title", "side", "what", "unit", "outcome", "note")
)
_FIGURES = tuple(at for at, name in enumerate(("id", *COLUMNS)) if name in ("heading", "reps", "minutes"))
_MISSING = tuple(at for at, name in enumerate(("id", *COLUMNS)) if name in ("measured", "planned"))
_NUMERIC, _PERHAPS = frozenset((int, float)), frozenset((int, float, type(None)))


def _entries(rows: Iterable[Sequence[Any]]) -> list[Entry]:
    """Entries of the store; rows that something else has made of another kind are passed over."""
    found = []
    known: dict[tuple[type, ...], bool] = {}  # a few kinds of rows, many times
    for row in rows:
        types = tuple(map(type, row))
        if types not in known:
            known[types] = (
                all(types[at] is str for at in _TEXTS)
                and all(types[at] in _NUMERIC for at in _FIGURES)
                and all(types[at] in _PERHAPS for at in _MISSING)
            )
        when = _time(row[1]) if known[types] else None
        if when is None:
            continue
        with contextlib.suppress(EntryError):
            found.append(Entry(*(when, *row[2:], row[0])))
    return found
