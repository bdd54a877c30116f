"""The one document of a window: the form, its walk, the playhead, undo. It signals what changed.

Stages and views never talk to each other; they listen to this.
"""

from __future__ import annotations

import math
from collections import deque
from pathlib import Path
from typing import TYPE_CHECKING, Literal

from PySide6.QtCore import QObject, Signal

from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import replace
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Room
from waltzmark.core.judge.finding import Finding, Judged
from waltzmark.core.score.actions import Count
from waltzmark.core.sides.tolerance import SAME, Tolerance
from waltzmark.core.walk.motion import pose_between
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.disk import OnDisk, has_text
from waltzmark.desktop.foresight import Foresight, Ghost
from waltzmark.desktop.guard import safely
from waltzmark.desktop.history import Edit, History, Selection, Walks
from waltzmark.desktop.jobs import Jobs
from waltzmark.files.reading import Notice, ReadForm, read_document, read_file
from waltzmark.files.saving import save_atomically
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import tr

if TYPE_CHECKING:  # what the first picture of the window need not wait for is imported where it is used
    from waltzmark.core.answers.review import Review
    from waltzmark.core.edit.keeping import Moved

__all__ = ["Document", "Ghost", "Selection", "Where"]

#: Where typed lines go, seen from what is selected.
Where = Literal["before", "after", "end"]

_REVIEW_MS = 120  # until a review begins
#: Families of rules that are not held against a count while it is typed.
_LATER = ("expect", "posture", "score")


class Document(QObject):
    """A form being worked on.

    The playhead is a position in rows of the trace: a whole number is the end of that count, anything between
    is on the way to the next one. The selected row is the one the playhead is in.
    """

    form_changed = Signal()
    opened = Signal()  # the form that has come is another one, not an edit of the last
    moved = Signal()  # the playhead, by any amount
    row_changed = Signal(int)  # the selected row
    selected = Signal()  # which lines are selected
    reviewed = Signal()
    ghost_changed = Signal()
    ghost_judged = Signal()  # what would be found wrong with it is known now
    file_changed = Signal()  # path, or whether it is saved
    figures_changed = Signal()  # how figures are said
    news_changed = Signal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.path: Path | None = None
        self.read: ReadForm | None = None
        self.form = Form()
        self.trace: Trace = walk(self.form)
        self.review: Review | None = None
        self.position = 0.0
        self.selection = Selection()
        self.ghost: Ghost | None = None
        self._saved: Form | None = self.form
        self.disk = OnDisk()
        self._figures = PLAIN
        self.within = SAME
        self._judged: Judged | None = None
        self.waits = False  # nothing is judged yet: the window is to be seen first
        self.news = ""  # what the last change of body or school did to the findings
        self.history = History()
        self._walks = Walks()
        self._moved: deque[tuple[Trace, Trace, Moved | None]] = deque(maxlen=2)  # by the walks before and after
        self.before_edit: Trace | None = None  # the walk before the last edit, while what it moved is shown
        self.jobs = Jobs(self)
        self._foresight = Foresight(self.jobs, self)
        self._foresight.judged.connect(safely(self._foresee))

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
        self._moved.clear()
        self.disk = OnDisk()
        self._set_form(form or (read.form if read else Form()), Selection(), remember=False)
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

    def close(self) -> None:
        """Ends what goes on in the background."""
        self._foresight.forget()
        self.jobs.close()

    # The form and undo.

    def edit(self, words: str, form: Form, selection: Selection, joins: str = "", shows: bool = True) -> None:
        """Makes *form* the document's, as one undoable step described by *words*, and selects lines of it.

        joins: edits in a row with the same word become one step. shows: whether what it moved is shown.
        """
        before = None if not shows else self.before_edit if self.history.would_join(joins) else self.trace
        self.history.add(Edit(words, self.form, form, self.selection, selection, joins))
        self._set_form(form, selection, before)
        self.file_changed.emit()

    def undo(self) -> None:
        if (edit := self.history.undo()) is not None:
            self._set_form(edit.before, edit.selected_before)
            self.file_changed.emit()

    def redo(self) -> None:
        if (edit := self.history.redo()) is not None:
            self._set_form(edit.after, edit.selected_after)
            self.file_changed.emit()

    @property
    def undo_words(self) -> str | None:
        return self.history.undo_words

    @property
    def redo_words(self) -> str | None:
        return self.history.redo_words

    def _set_form(
        self, form: Form, selection: Selection, before_edit: Trace | None = None, remember: bool = True
    ) -> None:
        """Takes another form and selects lines of it; everything is in place before anybody is told. remember: the walk
        of the last one, for when undo brings it back."""
        if remember:
            self._walks.keep(self.form, self.trace, self._judged)
        self.form, self.before_edit = form, before_edit
        known = self._walks.of(form) or self._foresight.come(form)
        self.trace, self._judged = known if known is not None else (walk(form, self.trace), None)
        self._foresight.forget()
        self.ghost = None
        self.news = ""
        self.review = None
        gone = selection.posture is not None and all(each.id != selection.posture for each in form.postures)
        self.selection = Selection(form.postures[0].id if form.postures else None) if gone else selection
        self.position = float(self._row_of(self.selection))
        self.form_changed.emit()
        self.moved.emit()
        self.row_changed.emit(self.row)
        self.selected.emit()
        self._ask_for_review()

    def _ask_for_review(self) -> None:
        if self.waits:
            return
        form, trace, within = self.form, self.trace, self.within

        def work(_progress: Progress) -> Review:
            from waltzmark.core.answers.review import review

            return review(form, trace, within)

        # What asked is painted first, and quick edits become one.
        self.jobs.ask("review", work, self._take_review, pause=_REVIEW_MS)

    def _take_review(self, review: Review) -> None:
        self.review = review
        self.reviewed.emit()

    @property
    def moved_by_edit(self) -> Moved | None:
        """What the last edit moved without touching it, as long as that is shown."""
        if self.before_edit is None:
            return None
        return self._moved_between(self.before_edit, self.trace)

    def _moved_between(self, before: Trace, after: Trace) -> Moved | None:
        for old, new, moved in self._moved:
            if old is before and new is after:
                return moved
        from waltzmark.core.edit.keeping import moved_after

        self._moved.append((before, after, moved_after(before, after)))
        return self._moved[-1][2]

    @property
    def moved_by_ghost(self) -> Moved | None:
        """What entering the count being typed would move without touching it."""
        return None if self.ghost is None else self._moved_between(self.trace, self.ghost.trace)

    def forget_before(self) -> None:
        """What the last edit moved is no longer shown."""
        self.before_edit = None
        self.moved.emit()

    # How figures are said.

    @property
    def say(self) -> Figures:
        """How facings and lengths are said to the user, for the body and the frame of the form."""
        return self._figures.of(self.form)

    def set_figures(self, figures: Figures) -> None:
        """Says everything in other units; the form stays as it is written."""
        self._figures = replace(self._figures, facings=figures.facings, unit=figures.unit)
        self.figures_changed.emit()
        if self.review is None:
            self._ask_for_review()

    def set_within(self, within: Tolerance) -> None:
        """What two sides may differ by and count as the same; the form stays as it is written."""
        self.within = within
        self.review = None
        self._ask_for_review()

    # The playhead.

    @property
    def row(self) -> int:
        """The selected row: the count the playhead is in."""
        return math.ceil(self.position - 1e-9)

    def go(self, position: float) -> None:
        """Moves the playhead; when it comes into another count, that is selected."""
        before = self.row
        self.position = min(max(float(position), 0.0), float(len(self.trace) - 1))
        self.moved.emit()
        if self.row != before:
            self._set_selection(self._selection_of(self.row))
            self.row_changed.emit(self.row)

    def _selection_of(self, row: int) -> Selection:
        posture = self.trace.posture(row)
        if posture is None:
            return Selection()
        line = self.trace.line(row)
        return Selection(posture, line, line + 1)

    def select(self, selection: Selection) -> None:
        """Selects lines, and goes to the end of the last count among them, or of what came before."""
        row = self._row_of(selection)
        if row != self.position:
            self.go(float(row))
        self._set_selection(selection)

    def _row_of(self, selection: Selection) -> int:
        if selection.posture is None or all(p.id != selection.posture for p in self.form.postures):
            return 0
        first, after = self.trace.span(selection.posture)
        lines = self.trace.passages[self.trace.numbers[selection.posture]].lines
        if selection.start == selection.stop:  # the posture as a whole: its first count
            return min(first, len(self.trace) - 1)
        counts = sum(line.moves for line in lines[: selection.stop])
        return min(max(first + counts - 1, 0), max(after - 1, first - 1, 0))

    def _set_selection(self, selection: Selection) -> None:
        if selection != self.selection:
            self.selection = selection
            self.selected.emit()

    @property
    def pose(self) -> Pose:
        """Where the body is at the playhead."""
        row = self.row
        return pose_between(self.trace, row, 1.0 - (row - self.position))

    @property
    def findings(self) -> tuple[Finding, ...]:
        """All findings that are not muted, in the order of the walk."""
        return self.judged.findings

    @property
    def judged(self) -> Judged:
        """The findings and those that are muted; judged when first asked for after a change."""
        if self._judged is None:
            if self.waits:
                return Judged(())
            from waltzmark.core.judge.judging import judge_all

            self._judged = judge_all(self.form, self.trace)
        return self._judged

    def wait_no_more(self) -> None:
        """Judges and reviews what waited until the window was seen."""
        if self.waits:
            self.waits = False
            self.figures_changed.emit()
            self._ask_for_review()

    def tell_news(self, words: str) -> None:
        """Tells what a change did to the findings, until the next one."""
        self.news = words
        self.news_changed.emit()

    # The ghost of a count being typed.

    @property
    def ghost_problem(self) -> Finding | None:
        """What would be found wrong with the count being typed, gravest first; None when nothing would, or while that
        is not known yet. What the analyst expects of it, and where its posture ends, is left out: more may follow."""
        known = self._foresight.come(self.ghost.form) if self.ghost is not None else None
        if self.ghost is None or known is None or known[1] is None:
            return None
        here = (f for f in known[1].everywhere if f.row == self.ghost.row)
        return next((f for f in here if f.rule.partition(".")[0] not in _LATER), None)

    @property
    def room(self) -> Room | None:
        """The room as the posture at the playhead is walked in it: begun at the mark it is walked from."""
        room = self.form.room
        if room is None or not room.breaks:
            return room
        from waltzmark.core.room.breaks import start_at  # only where there are breaks

        return room.begun_at(start_at(self.trace, room, self.row))

    def _foresee(self) -> None:
        """The ghost has been judged: what entering it will ask for beside is worked out while there is time."""
        if self.ghost is not None:
            _ = self.ghost.trace.centres
            self._moved_between(self.trace, self.ghost.trace)
        self.ghost_judged.emit()

    def show_ghost(
        self, count: Count | None, form: Form | None = None, posture: str = "", line: int = 0, dragged: bool = False
    ) -> None:
        """Shows what a count would do as a line of a posture of *form*, which has it already; None shows nothing.
        dragged: by a hand that may move on at once."""
        ghost: Ghost | None = None
        if count is not None and form is not None and count.moves:
            trace = walk(form, self.trace)
            first, _ = trace.span(posture)
            ghost = Ghost(count, form, trace, first + sum(each.moves for each in form.posture(posture).lines[:line]))
            self._foresight.expect(form, trace, dragged)
        if ghost is not self.ghost:
            self.ghost = ghost
            self.ghost_changed.emit()
