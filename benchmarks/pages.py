"""Measures sheets and the practice book against what they may cost, each figure as a ratio: ``make bench``."""

from __future__ import annotations

import tempfile
from datetime import UTC, datetime, timedelta
from pathlib import Path

from made_form import made_form
from run import report, seconds
from waltzmark.core.form.form import Sheet
from waltzmark.core.practice.entries import Entry
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.app import make_application
from waltzmark.desktop.sheets.output import make, write
from waltzmark.files.book import Book

#: Seconds that making and writing a sheet of 1,500 counts may take.
_GOALS: dict[str, float] = {"chart": 2.0, "tape": 3.5, "postures": 3.5, "class": 3.5, "cues": 0.5}
_ENTRIES = 100_000


def sheets() -> None:
    """Each sheet of a form of 1,500 counts, made and written as PDF."""
    form = made_form(1500)
    trace = walk(form)
    with tempfile.TemporaryDirectory(prefix="waltzmark-bench-") as folder:
        for kind, goal in _GOALS.items():
            file = Path(folder) / f"{kind}.pdf"
            taken = seconds(lambda kind=kind, file=file: write(make(form, trace, Sheet(kind)), file), 3)  # type: ignore[misc]
            report(
                f"sheet of 1,500 counts as PDF, {kind} / {goal:g} s",
                taken / goal,
                f"{taken:.2f} s, {file.stat().st_size / 1e6:.1f} MB, aim at most 1",
            )


def book() -> None:
    """A practice book of a hundred thousand entries, opened and read."""
    first = datetime(2026, 5, 4, 18, 0, tzinfo=UTC)
    with tempfile.TemporaryDirectory(prefix="waltzmark-bench-") as folder:
        path = Path(folder) / "book.sqlite"
        made = Book(path)
        made.add_all([Entry(first + timedelta(minutes=n), "drill", "somebody") for n in range(_ENTRIES)])
        made.close()

        def opened() -> None:
            again = Book(path)
            again.entries()
            again.close()

        taken = seconds(opened, 3)
    report("a book of 100,000 entries opened and read / 1 s", taken, f"{taken:.2f} s, aim at most 1")


if __name__ == "__main__":
    make_application()
    sheets()
    book()
