"""The Log stage: calendar, chart or book at the left, what is said of it at the right."""

from __future__ import annotations

from pathlib import Path

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import Progress
from waltzmark.core.practice.entries import Entry
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import FacedStage
from waltzmark.desktop.guard import safely
from waltzmark.desktop.log.calendar import CalendarView
from waltzmark.desktop.log.faces import BookFace, BookTable, MeasuresFace, NextFace
from waltzmark.desktop.log.measures import MeasureChart
from waltzmark.desktop.theme import Theme
from waltzmark.files.exchange import read_entries
from waltzmark.files.saving import save_atomically
from waltzmark.files.texts import read_text
from waltzmark.files.values import DocumentError
from waltzmark.words.errors import explained
from waltzmark.words.language import tr

__all__ = ["LogStage"]

_PANEL = 348  # pixels
_MOST = 50_000_000  # bytes of a book that is taken in


class LogStage(FacedStage):
    """Three faces: what to do next, measures, the book."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.calendar, self.chart, self.table = CalendarView(desk.theme), MeasureChart(desk.theme), BookTable()
        self.next = NextFace(desk, self.calendar)
        self.measures = MeasuresFace(desk, self.chart)
        self.book = BookFace(desk, self.table)
        faces = {"next": self.next, "measures": self.measures, "book": self.book}
        drawn = {"next": self.calendar, "measures": self.chart, "book": self.table}
        self.setLayout(self.lay_out(faces, drawn, [], _PANEL))
        for part in (self.transport, self.ribbon):
            part.hide()  # there is no playhead in a book
        desk.practice.changed.connect(safely(self._refresh))
        desk.document.form_changed.connect(safely(self._refresh))
        self.show_face("next")
        self.setFocusProxy(self.next.list)

    def _refresh(self) -> None:
        if not self.isVisible():
            return
        practice = self.desk.practice
        if practice.book is None and practice.wrong is not None:
            practice.tell(practice.wrong)
        self.face.refresh()

    def set_theme(self, theme: Theme) -> None:
        for view in (self.calendar, self.chart, self.ribbon):
            view.set_theme(theme)

    # What can be done.

    def undo(self) -> None:
        """Takes back the last thing that was done to the book."""
        self.desk.practice.do(lambda book: book.undo())

    def export(self, kind: str) -> None:
        """Asks for a file and writes the book into it, as ``csv`` or ``json``."""
        if path := self.desk.files.to_save(tr("Export the book"), f"practice.{kind}", f"*.{kind}"):
            self.write_book(path, kind)

    def write_book(self, path: Path, kind: str) -> None:
        """Writes the book into a file; tells why where it cannot."""

        def write() -> None:
            book = self.desk.practice.book
            if book is None:
                raise self.desk.practice.cannot()
            save_atomically(path, book.as_csv() if kind == "csv" else book.as_json())

        self.desk.asking.attempt(write)

    def take_in(self) -> None:
        """Asks for a file and takes its entries in."""
        if path := self.desk.files.to_open(tr("Import entries"), tr("Books (*.csv *.json);;All files (*)")):
            self.read_book(path)

    def read_book(self, path: Path) -> None:
        """Takes the entries of a file in; tells how many were new, or why none was."""

        def failed(error: BaseException) -> None:
            if isinstance(error, DocumentError):
                self.desk.asking.tell(tr("This file cannot be read"), explained(error))
            elif isinstance(error, WaltzmarkError):
                self.desk.asking.tell(tr("This file cannot be imported"), explained(error))
            else:
                raise error

        def done(found: list[Entry]) -> None:
            practice, asking = self.desk.practice, self.desk.asking
            if practice.book is None:
                asking.tell(tr("This file cannot be imported"), explained(practice.cannot()))
                return
            try:
                number = practice.book.take(found)
            except WaltzmarkError as error:
                failed(error)
                return
            practice.do(lambda _book: None)  # it has changed
            asking.tell(
                tr("Import finished"), tr("{number} new entries were imported. Undo removes them.", number=number)
            )

        def work(_told: Progress) -> list[Entry]:
            return read_entries(read_text(path, "entries", _MOST), path.name)

        # A year's practice takes a second or two to read.
        self.desk.jobs.ask("book taken in", work, done, failed=failed)

    def show_demo(self) -> None:
        """Shows the demo's made-up book."""
        self.window().show_demo_book()  # type: ignore[attr-defined]

    def show_own(self) -> None:
        """Shows the user's own book."""
        self.desk.practice.person = ""
        self.desk.practice.show_demo(None)
