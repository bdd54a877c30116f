"""The practice book of a window: opened when it is first wanted, told of what cannot be kept, and never the demo's."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QTimer, Signal

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.desktop.guard import safely
from waltzmark.words.errors import explained
from waltzmark.words.language import ntr, tr

if TYPE_CHECKING:
    from waltzmark.core.practice.entries import Entry
    from waltzmark.files.book import Book, BookError

__all__ = ["Logbook"]

_AGAIN_MS = 2000


class Logbook(QObject):
    """What was practised. demo: whether the demo's made-up book is shown, in which nothing is kept."""

    changed = Signal()
    trouble = Signal(str, bool)  # something could not be kept or read: why; whether the book is damaged

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.demo = False
        self.person = ""
        self._book: Book | None = None
        self._demo_book: Book | None = None
        self._demo_entries: Callable[[], Sequence[Entry]] = tuple
        self._known: tuple[Entry, ...] | None = None
        self.unkept: list[Entry] = []  # what could not be written; tried again with the next
        self.wrong: BookError | None = None  # why the book cannot be opened
        self._told_odd = 0
        self._again = QTimer(self)  # while another program has the book
        self._again.setSingleShot(True)
        self._again.setInterval(_AGAIN_MS)
        self._again.timeout.connect(safely(self._try_again))

    @property
    def book(self) -> Book | None:
        """The book that is shown, opened now if it is not; None where it cannot be, see `wrong`."""
        from waltzmark.files.book import Book, BookError, book_path

        if self.demo:
            if self._demo_book is None:
                self._demo_book = Book()
                self._demo_book.add_all(self._demo_entries())
                self._demo_book._undo.clear()  # what comes with it is not something the user has done
            return self._demo_book
        if self._book is not None and not self._book.there:  # its folder was taken away: another is begun
            self._book.close()
            self._book = None
        if self._book is None:
            try:
                self._book = Book(book_path())
                self.wrong = None
            except BookError as error:
                self.wrong = error
        return self._book

    def show_demo(self, entries: Callable[[], Sequence[Entry]] | None) -> None:
        """Shows the demo's book with its entries, made up when it is first looked into, or the user's own again."""
        self.demo = entries is not None
        if entries is not None:
            self._demo_book, self._demo_entries = None, entries
        self._changed()

    @property
    def entries(self) -> tuple[Entry, ...]:
        """All entries of the book, in the order of their times; those that could not be written among them."""
        if self._known is None:
            try:
                self._known = self.book.entries() if self.book is not None else ()
                if self._book is not None and self._book.odd > self._told_odd:
                    self._told_odd = self._book.odd
                    self.trouble.emit(
                        tr(
                            "{odd} rows of the practice book cannot be read; they are left in the file.",
                            odd=self._book.odd,
                        ),
                        False,
                    )
            except WaltzmarkError as error:
                self._known = ()
                self.tell(error)
        return (*self._known, *self.unkept)

    def _changed(self) -> None:
        self._known = None
        self.changed.emit()

    def keep(self, entry: Entry) -> bool:
        """Puts an entry into the book at once; whether it could be. What could not is tried again with the next."""
        waiting = [*self.unkept, entry]
        try:
            if self.book is None:
                raise self.cannot()
            behind = self.book.clock_behind(entry.when)
            self.book.add_all(waiting)
        except WaltzmarkError as error:
            self.unkept = waiting
            self.tell(error, tr("{waiting} practice entries are not saved yet: ", waiting=len(waiting)))
            self._again.start()
            self._changed()
            return False
        self.unkept = []
        self._again.stop()
        if behind is not None:
            minutes = max(round(behind.total_seconds() / 60.0), 1)
            days = round(minutes / 1440.0)
            said = ntr("{n} day", "{n} days", days) if days >= 2 else ntr("{n} minute", "{n} minutes", minutes)
            self.trouble.emit(
                tr(
                    "This computer’s clock is {said} behind your last practice entry; it may have been set back.",
                    said=said,
                ),
                False,
            )
        self._changed()
        return True

    def do(self, done: Callable[[Book], object]) -> bool:
        """Does something with the book; whether it could be done."""
        try:
            if self.book is None:
                raise self.cannot()
            done(self.book)
        except WaltzmarkError as error:
            self.tell(error)
            return False
        self._changed()
        return True

    def cannot(self) -> BookError:
        """Why there is no book."""
        from waltzmark.files.book import BookError

        return self.wrong or BookError("book.none")

    def tell(self, error: WaltzmarkError, head: str = "") -> None:
        """Tells what is wrong with the book."""
        from waltzmark.files.book import DamagedBookError

        self.trouble.emit(f"{head}{explained(error)}", isinstance(error, DamagedBookError))

    def _try_again(self) -> None:
        """Tries to keep what could not be written."""
        from waltzmark.files.book import BookError

        if not self.unkept:
            return
        try:
            if self.book is None:
                raise self.cannot()
            self.book.add_all(self.unkept)
        except BookError:
            self._again.start()
            return
        self.unkept = []
        self._changed()

    def name(self, person: str) -> None:
        """Who practises from now on."""
        self.person = person
        self.changed.emit()

    def begin_anew(self) -> None:
        """Puts a damaged book aside and begins another with what can be read of it. Raises WaltzmarkError."""
        from waltzmark.core.practice.entries import now
        from waltzmark.files.book import Book, book_path, put_aside, rescued

        path = book_path()
        if self._book is not None:
            self._book.close()
            self._book = None
        found = rescued(path)
        put_aside(path, now())
        self._book = Book(path)
        self._book.add_all(found)
        self.wrong, self._told_odd = None, 0
        self._changed()

    def close(self) -> None:
        """Lets go of the files; what could not be written so far is tried once more."""
        self._again.stop()
        if self.unkept:
            self._try_again()
            self._again.stop()
        for book in (self._book, self._demo_book):
            if book is not None:
                book.close()
        self._book = self._demo_book = None
