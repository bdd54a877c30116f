"""The document of a window: the form, its walk, undo and its file; beside it the session and the judge.

Stages and views never talk to each other; they listen to these. An edit goes one way: a count is read once and shown
as a ghost, entering takes the ghost's form with its walk, what changed is told, and what listens paints.
"""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Literal

from PySide6.QtCore import QObject, Signal

from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.core.judge.finding import Finding
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.disk import OnDisk, file_name, has_text
from waltzmark.desktop.guard import safely
from waltzmark.desktop.history import History, Selection, UndoStep, Walks
from waltzmark.desktop.jobs import Jobs
from waltzmark.desktop.judge import Judge
from waltzmark.desktop.session import Session
from waltzmark.files.reading import Notice, ReadForm, read_document, read_file
from waltzmark.files.saving import save_atomically
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.core.edit.keeping import Moved

__all__ = ["Coming", "Document", "Where"]

#: Where typed lines go, seen from what is selected.
Where = Literal["before", "after", "end"]


class Coming(Record, eq=False):
    """A form that the next act may bring, and the row where the playhead will be.

    found: each finding at every count that it is about. before: the walk before it, where what moved is shown.
    """

    form: Form
    trace: Trace
    row: int
    found: tuple[Finding, ...]
    before: Trace | None = None
    moved: Moved | None = None


class Document(QObject):
    """A form being worked on. session: where somebody is in it; judge: what is found in it."""

    form_changed = Signal()
    opened = Signal()  # the form that has come is another one, not an edit of the last
    file_changed = Signal()  # path, or whether it is saved
    rested = Signal()  # what may come is known, and the hands rest: it can be drawn ahead

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.path: Path | None = None
        self.read: ReadForm | None = None
        self.form = Form()
        self.trace: Trace = walk(self.form)
        self._saved: Form | None = self.form
        self.disk = OnDisk()
        self.history = History()
        self._walks = Walks()
        self.jobs = Jobs(self)
        self.session = Session(self.form, self.trace, self)
        self.judge = Judge(self.jobs, self.form, self.trace, self)
        self.judge.foreseen.connect(safely(self.rested.emit))
        self.judge.reviewed.connect(safely(self.rested.emit))

    # Files.

    def open_file(self, path: Path) -> tuple[Notice, ...]:
        """Opens a form; raises DocumentError and leaves everything as it was when it cannot be read."""
        read = read_file(path)
        self._start(read, path)
        self.disk.note(self.path)
        return read.notices

    def open_text(self, text: str) -> None:
        """Opens a form that has no file of its own yet, such as the demo."""
        self._start(read_document(text), None)

    def recover(self, form: Form, read: ReadForm | None, path: Path | None) -> None:
        """Opens what was kept of a document: it stands as changed, and saves to where it was saved before."""
        self._start(read, path, form)
        self._saved = None
        if path is not None and read is not None and has_text(path, read.text):
            self.disk.note(self.path)
        self.file_changed.emit()

    def read_anew(self) -> tuple[Notice, ...]:
        """Takes over what another program has written into the file; as one step, so that undo brings back what stood
        here. Raises DocumentError."""
        assert self.path is not None
        read = read_file(self.path)
        self.edit(tr("reload {name}", name=self.path.name), read.form, Selection(), shows=False)
        self.read, self._saved = read, read.form
        self.disk.note(self.path)
        self.file_changed.emit()
        return read.notices

    def new(self, form: Form | None = None) -> None:
        """Begins with a form that has no file yet, an empty one unless given."""
        self._start(None, None, form)

    def _start(self, read: ReadForm | None, path: Path | None, form: Form | None = None) -> None:
        self.read, self.path = read, path
        self.history.clear()
        self._walks.clear()
        self.session.forget()
        self.disk = OnDisk()
        self._set_form(form or (read.form if read else Form()), Selection(), anew=True)
        self._saved = self.form
        self.opened.emit()
        self.file_changed.emit()

    def save(self, path: Path) -> None:
        """Writes the form; raises SaveError with the file on disk unharmed."""
        # Imported here: its TOML writer is not needed to start.
        from waltzmark.files.writing import render

        text = render(self.form, self.read)
        save_atomically(path, text)
        self.read, self.path, self._saved = read_document(text), path, self.form
        self.disk.note(self.path)
        self.file_changed.emit()

    @property
    def changed(self) -> bool:
        """Whether there is something to save."""
        return self.form is not self._saved and self.form != self._saved

    @property
    def title(self) -> str:
        return self.form.title or (self.path.stem if self.path else tr("New form"))

    def beside(self, suffix: str, what: str = "") -> Path:
        """A file to propose for something made of the form: beside its own, and called after it. what: the kind."""
        called = file_name(", ".join(part for part in (self.title, what) if part))
        return (self.path.parent if self.path else Path()) / f"{called}{suffix}"

    def told(self) -> str:
        """The count at the playhead and how the body stands then, for who cannot see it."""
        from waltzmark.words.cues import told_count  # nobody may ask

        titles = {posture.id: posture.title for posture in self.form.postures}
        return told_count(self.trace, self.session.row, titles, self.session.say)

    def answered(self, number: int) -> str:
        """One of the three answers in words: room, return, sides; empty while it is being looked for."""
        from waltzmark.words.sentences import sentence  # nobody may ask

        review = self.judge.review
        return "" if review is None else sentence(review.answers[number].message, self.session.say)

    def close(self) -> None:
        """Ends what goes on in the background."""
        self.judge.forget_next()
        self.jobs.close()

    # The form and undo.

    def edit(self, words: str, form: Form, selection: Selection, joins: str = "", shows: bool = True) -> None:
        """Makes *form* the document's, as one undoable step described by *words*, and selects lines of it.

        joins: edits in a row with the same word become one step. shows: whether what it moved is shown.
        """
        before = self.session.before_edit if self.history.would_join(joins) else self.trace
        self.history.add(UndoStep(words, self.form, form, self.session.selection, selection, joins))
        self._set_form(form, selection, before if shows else None)
        self.file_changed.emit()

    def undo(self) -> None:
        if (edit := self.history.undo()) is not None:
            self._set_form(edit.before, edit.selected_before)
            self.file_changed.emit()

    def redo(self) -> None:
        if (edit := self.history.redo()) is not None:
            self._set_form(edit.after, edit.selected_after)
            self.file_changed.emit()

    def coming(self) -> Coming | None:
        """The form with the count being typed, or else the one that undo brings back; None where it is not known."""
        ghost, found = self.session.ghost, self.judge.expected
        if ghost is not None:
            if found is None:
                return None
            moved = self.session.moved_by_ghost
            return Coming(ghost.form, ghost.whole, ghost.row, found.everywhere, self.trace, moved)
        last = self.history.last
        known = None if last is None else self._walks.of(last.before)
        if last is None or known is None or known[1] is None:
            return None
        row = self.session.row_in(last.before, known[0], last.selected_before)
        return Coming(last.before, known[0], row, known[1].everywhere)

    @property
    def undo_words(self) -> str | None:
        return self.history.undo_words

    @property
    def redo_words(self) -> str | None:
        return self.history.redo_words

    def _set_form(self, form: Form, selection: Selection, before_edit: Trace | None = None, anew: bool = False) -> None:
        """Takes another form and selects lines of it; everything is in place before anybody is told. anew: it is not
        an edit of the last one, whose walk need not be kept for when undo brings it back."""
        if not anew:
            self._walks.keep(self.form, self.trace, self.judge.judgement)
        known = self._walks.of(form) or self.judge.come(form)
        trace, judged = known if known is not None else (walk(form, self.trace), None)
        self.form, self.trace = form, trace
        self.session.take(form, trace, selection, before_edit)
        self.judge.take(form, trace, judged, anew)
        self.form_changed.emit()
        self.session.tell()
        self.judge.ask()

    def show_ghost(
        self, count: Count | None, form: Form | None = None, posture: str = "", line: int = 0, dragged: bool = False
    ) -> None:
        """Shows what a count would do as a line of a posture of *form*, which has it already; None shows nothing.
        dragged: by a hand that may move on at once. What would be found wrong with it is worked out meanwhile."""
        if self.session.show_ghost(count, form, posture, line) and (ghost := self.session.ghost) is not None:
            self.judge.expect(ghost.form, lambda: ghost.whole, dragged)
