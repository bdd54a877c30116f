"""The practice book on disk, and the scale on its socket: nothing kept is lost, nothing sent can break it."""

from __future__ import annotations

import csv
import io
import json
import os
import random
import shutil
import signal
import sqlite3
import subprocess
import sys
import time
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.practice.entries import KINDS, OUTCOMES, Entry
from waltzmark.files.book import VERSION, Book, BookError, DamagedBookError, put_aside, rescued

NOON = datetime(2026, 5, 4, 12, 0, tzinfo=UTC)
#: Kills of a drill that writes; more with WALTZMARK_KILLS=100.
KILLS = int(os.environ.get("WALTZMARK_KILLS", "6"))

texts = st.text(st.characters(exclude_categories=["Cs"]), max_size=12)
figures = st.none() | st.floats(-1000, 1000).map(lambda v: round(v, 3))
entries = st.builds(
    Entry,
    st.datetimes(datetime(2020, 1, 1), datetime(2030, 1, 1), timezones=st.just(UTC)),
    st.sampled_from(KINDS),
    texts,
    texts,
    texts,
    texts,
    st.sampled_from(["", "left", "right"]),
    st.floats(0, 360),
    st.integers(0, 99),
    st.floats(0, 99),
    texts,
    figures,
    figures,
    texts,
    st.sampled_from(OUTCOMES),
    texts,
)


def entry(n: int = 0, **more: object) -> Entry:
    return Entry(NOON + timedelta(minutes=n), "drill", posture="coil", **more)  # type: ignore[arg-type]


def bare(book: Book) -> list[Entry]:
    return [replace(each, id=0) for each in book.entries()]


def test_what_is_kept_is_there_when_the_book_is_opened_again(tmp_path: Path) -> None:
    path = tmp_path / "deep" / "practice.sqlite"
    book = Book(path)
    kept = [book.add(entry(n)) for n in range(3)]
    assert [each.id for each in kept] == [1, 2, 3]
    # Times are told apart, whatever time zone they were written in.
    early = replace(entry(), when=datetime.fromisoformat("2026-05-04T13:59:00+02:00"))
    book.add(early)
    again = Book(path)
    assert [each.when for each in again.entries()] == [early.when, *(each.when for each in kept)]
    assert len(again.entries(NOON + timedelta(seconds=30))) == 2 and len(again) == 4
    with sqlite3.connect(path) as store:
        assert store.execute("pragma journal_mode").fetchone() == ("wal",)
        assert store.execute("pragma user_version").fetchone() == (VERSION,)


def test_entries_are_corrected_and_deleted_and_all_of_it_undone(tmp_path: Path) -> None:
    book = Book(tmp_path / "b.sqlite")
    one, two = book.add(entry(0)), book.add(entry(1))
    book.change(replace(one, note="better"))
    book.delete([one.id, two.id])
    assert book.entries() == () and book.undoes == message("book.delete", n=2)
    book.undo()
    assert [each.note for each in book.entries()] == ["better", ""] and book.undoes == message("book.correct")
    book.undo()
    assert book.entries() == (one, two)
    book.undo()
    book.undo()
    assert len(book) == 0 and book.undoes is None
    book.undo()
    with pytest.raises(BookError, match="book.no-entry"):
        book.change(replace(one, id=99))
    assert book.clock_behind(NOON) is None
    book.add(entry(10))
    assert book.clock_behind(NOON) == timedelta(minutes=10) and book.clock_behind(NOON + timedelta(hours=1)) is None


@settings(max_examples=tries(40))
@given(st.lists(entries, max_size=6))
def test_a_book_comes_back_from_csv_and_from_json_as_it_went(kept: list[Entry]) -> None:
    book = Book()
    book.add_all(kept)
    for text in (book.as_csv(), book.as_json()):
        other = Book()
        assert other.take_in(text, "file") == len(set(kept))
        assert set(bare(other)) == set(kept)
        assert other.take_in(text, "file") == 0  # what is there already is passed over
        other.undo()
        assert len(other) == 0 or not kept


def test_half_a_sign_becomes_a_whole_one_and_a_formula_stays_a_text() -> None:
    book = Book()
    assert book.take_in('[{"when": "2026-05-04T12:00Z", "kind": "walk", "note": "=1\\ud800"}]', "x") == 1
    (row,) = csv.DictReader(io.StringIO(book.as_csv()))
    assert row["note"] == "'=1\ufffd" and [each.note for each in bare(book)] == ["=1\ufffd"]
    assert Book().take_in("\ufeff" + book.as_csv(), "x") == 1


def test_other_programs_can_read_it() -> None:
    book = Book()
    book.add(entry(0, measured=31.5, planned=35.0, unit="°", note='a "quoted", note'))
    (row,) = csv.DictReader(io.StringIO(book.as_csv()))
    assert (row["when"], row["measured"], row["note"]) == ("2026-05-04T12:00:00+00:00", "31.5", 'a "quoted", note')
    (values,) = json.loads(book.as_json())["entries"]
    assert values["posture"] == "coil" and values["planned"] == 35.0


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("a,b\n1,2\n", "entries.columns"),
        ("when,kind\n2026-05-04T12:00,walk\nyesterday,walk\n", "entries.entry"),
        ("when,kind\n2026-05-04T12:00,swim\n", "entries.entry"),
        ('when,kind,reps\n2026-05-04T12:00,walk,"two"\n', "entries.entry"),
        ("{", "entries.json"),
        ("[1]", "entries.object"),
        ('{"entries": {}}', "entries.list"),
        ('[{"kind": "walk"}]', "entries.entry"),
        ('[{"when": "2026-05-04T12:00", "kind": "walk", "measured": 1e400}]', "entries.entry"),
        ("[" * 100_000, "entries.json"),
        ("when,kind\n" + "2026-05-04T12:00,walk\n" * 100_001, "entries.many"),
        ('[{"when": "2026-05-04T12:00", "kind": "walk", "note": 5}]', "entries.entry"),
        ("", "entries.columns"),
    ],
)
def test_what_cannot_be_taken_in_is_told_with_its_place_and_nothing_of_it_is(text: str, says: str) -> None:
    book = Book()
    with pytest.raises(BookError, match=says):
        book.take_in(text, "file.csv")
    assert len(book) == 0


def test_an_old_book_is_brought_up_to_date_and_a_newer_one_is_left_alone(tmp_path: Path) -> None:
    path = tmp_path / "old.sqlite"
    from waltzmark.files.book import _MIGRATIONS

    with sqlite3.connect(path) as store:
        for command in _MIGRATIONS[0]:
            store.execute(command)
        store.execute("insert into entry (at, kind, note) values ('2024-01-01T10:00:00+01:00', 'walk', 'long ago')")
        store.execute("pragma user_version = 1")
    book = Book(path)
    assert [each.note for each in book.entries()] == ["long ago"]
    book.delete([1])
    book.close()
    with sqlite3.connect(path) as store:
        store.execute(f"pragma user_version = {VERSION + 3}")
    before = path.read_bytes()
    with pytest.raises(BookError, match=f"book.newer.*version={VERSION + 3}"):
        Book(path)
    assert path.read_bytes() == before


def test_a_torn_book_is_told_left_as_it_is_and_what_can_be_read_is_rescued(tmp_path: Path) -> None:
    path = tmp_path / "practice.sqlite"
    book = Book(path)
    book.add_all([entry(n, note="x" * 500) for n in range(200)])
    book.close()
    whole = path.read_bytes()
    for torn in (
        b"this is no book at all" * 300,
        whole[:5000] + os.urandom(4096) + whole[9096:],
        whole[: len(whole) // 2],
    ):
        path.write_bytes(torn)
        with pytest.raises(DamagedBookError, match="book.damaged"):
            Book(path)
        assert path.read_bytes() == torn
    found = rescued(path)
    assert all(each.note == "x" * 500 for each in found)
    aside = put_aside(path, NOON)
    assert aside.read_bytes() == torn and not path.exists() and len(Book(path)) == 0
    folder = tmp_path / "folder"
    folder.mkdir()
    with pytest.raises(BookError, match="book.not-a-file"):
        Book(folder)


def test_a_full_disk_and_a_locked_book_are_told_and_lose_nothing(tmp_path: Path) -> None:
    path = tmp_path / "practice.sqlite"
    book = Book(path)
    book.add(entry())
    book._store.execute("pragma max_page_count = 8")
    with pytest.raises(BookError, match="book.full"):
        book.add_all([entry(n, note="x" * 2000) for n in range(100)])
    assert bare(book) == [entry()]
    book._store.execute("pragma busy_timeout = 50")
    with sqlite3.connect(path) as other:
        other.execute("begin exclusive")
        with pytest.raises(BookError, match="book.busy"):
            book.add(entry(1))
        other.rollback()
    book.add(entry(1))
    assert len(Book(path)) == 2


def test_a_hundred_thousand_entries_are_all_there(tmp_path: Path) -> None:
    book = Book(tmp_path / "large.sqlite")
    book.add_all([entry(n) for n in range(100_000)])
    book.close()
    again = Book(tmp_path / "large.sqlite")
    found = again.entries()
    assert len(found) == len(again) == 100_000 and found[-1].when == NOON + timedelta(minutes=99_999)


_WRITES = """
import sys
from datetime import datetime, UTC
from pathlib import Path
from waltzmark.core.practice.entries import Entry
from waltzmark.files.book import Book
book = Book(Path(sys.argv[1]))
for n in range(10**6):
    book.add(Entry(datetime.now(UTC), "drill", posture="coil", reps=n))
    print(n, flush=True)
"""


def test_killed_in_a_drill_at_most_the_repetition_in_progress_is_lost(tmp_path: Path) -> None:
    path, dice, last = tmp_path / "practice.sqlite", random.Random(5), 0
    for _ in range(KILLS):
        drill = subprocess.Popen([sys.executable, "-c", _WRITES, str(path)], stdout=subprocess.PIPE, text=True)
        assert drill.stdout is not None
        drill.stdout.readline()
        time.sleep(dice.uniform(0.0, 0.15))
        drill.send_signal(signal.SIGKILL)
        told = 1 + len(drill.stdout.read().split())
        drill.wait()
        kept = len(Book(path))
        assert last + told <= kept <= last + told + 1
        last = kept


def spoilt(path: Path, *commands: str) -> None:
    """Does something to a book that Waltzmark would not."""
    store = sqlite3.connect(path)
    for command in commands:
        store.execute(command)
    store.commit()
    store.close()


ODD = (
    "update entry set at = 'yesterday' where id = 2",
    "update entry set minutes = 'much' where id = 3",
    "update entry set title = x'00ff' where id = 4",
    "update entry set at = '2026-05-04T10:00:00' where id = 5",
)


def test_odd_rows_are_passed_over_and_counted_and_later_practice_is_kept(tmp_path: Path) -> None:
    path = tmp_path / "practice.sqlite"
    book = Book(path)
    book.add_all([entry(note=str(n)) for n in range(6)])
    book.close()
    spoilt(path, *ODD)
    book = Book(path)
    assert {each.id for each in book.entries()} == {1, 5, 6} and book.odd == 3
    assert all(each.when.tzinfo is not None for each in book.entries())  # one without its zone is of this machine
    spoilt(path, "update entry set at = 'odd' where id = 6")
    assert book.clock_behind(NOON) is None
    kept = book.add(entry(note="later"))
    assert kept.id == 7 and book.entries()[-1].note in ("later", "4")
    book.close()


@pytest.mark.parametrize("name", ["a#b", "a?b", "100%", "ünïcode", "a%20b"])
def test_what_can_be_read_of_a_damaged_book_is_rescued_and_what_was_deleted_is_not(tmp_path: Path, name: str) -> None:
    folder = tmp_path / name
    path = folder / "practice.sqlite"
    book = Book(path)
    kept = book.add_all([entry(note=str(n)) for n in range(3)])
    book.delete([kept[1].id])
    book.close()
    assert [each.note for each in rescued(path)] == ["0", "2"]


@pytest.mark.parametrize(
    "spoil",
    [
        ("drop table entry",),
        ("alter table entry rename to other",),
        ("alter table entry drop column note",),
        ("drop index entry_at", "alter table entry drop column at"),
    ],
)
def test_a_book_of_another_shape_is_told_as_damaged_and_can_be_put_aside(
    tmp_path: Path, spoil: tuple[str, ...]
) -> None:
    path = tmp_path / "practice.sqlite"
    Book(path).close()
    spoilt(path, *spoil)
    with pytest.raises(DamagedBookError):
        Book(path)
    aside = put_aside(path, NOON)
    assert aside.exists() and not path.exists()
    Book(path).close()


def test_putting_aside_moves_all_or_nothing(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    path = tmp_path / "practice.sqlite"
    for end in ("", "-wal", "-shm"):
        Path(f"{path}{end}").write_text(end)
    real, done = os.replace, list[object]()

    def once_refused(old: Path, new: str) -> None:
        if old == path:
            raise OSError(13, "Permission denied")
        done.append(old)
        real(old, new)

    monkeypatch.setattr("waltzmark.files.book.os.replace", once_refused)
    with pytest.raises(BookError, match="book.not-aside"):
        put_aside(path, NOON)
    assert done and {each.name for each in tmp_path.iterdir()} == {path.name, f"{path.name}-wal", f"{path.name}-shm"}


def test_two_programs_begin_one_book_at_once(tmp_path: Path) -> None:
    path = tmp_path / "practice.sqlite"
    begin = (
        "import sys; from waltzmark.files.book import Book; from pathlib import Path; Book(Path(sys.argv[1])).close()"
    )
    for _ in range(3):
        both = [subprocess.Popen([sys.executable, "-c", begin, str(path)], stderr=subprocess.PIPE) for _ in range(3)]
        assert [each.wait(60) for each in both] == [0, 0, 0]
        for each in both:
            assert each.stderr is not None
            each.stderr.close()
        for end in ("", "-wal", "-shm"):
            Path(f"{path}{end}").unlink(missing_ok=True)


def test_a_book_that_another_program_has_is_not_waited_for(tmp_path: Path) -> None:
    path = tmp_path / "practice.sqlite"
    book = Book(path)
    other = sqlite3.connect(path, isolation_level=None)
    other.execute("begin immediate")
    begun = time.monotonic()
    with pytest.raises(BookError, match="book.busy") as told:
        book.add(entry())
    assert time.monotonic() - begun < 1.0 and not isinstance(told.value, DamagedBookError)
    other.execute("rollback")
    assert book.add(entry()).id == 1
    other.close()
    book.close()


def test_a_book_whose_folder_was_taken_away_does_not_say_that_it_keeps(tmp_path: Path) -> None:
    path = tmp_path / "data" / "practice.sqlite"
    book = Book(path)
    book.add(entry())
    shutil.rmtree(path.parent)
    assert not book.there
    with pytest.raises(BookError, match="book.gone"):
        book.add(entry())
    book.close()
