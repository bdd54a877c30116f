"""Where somebody is in a document: the playhead, what is selected, what is being typed, and how figures are said."""

from __future__ import annotations

import math
from collections import deque
from functools import cached_property
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal

from waltzmark.core.base.records import Record, replace
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Room
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.motion import pose_between
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk, walk_to
from waltzmark.desktop.history import Selection
from waltzmark.words.figures import PLAIN, Figures

if TYPE_CHECKING:
    from waltzmark.core.edit.keeping import Moved

__all__ = ["Ghost", "Session"]


class Ghost(Record, eq=False, dict=True):
    """A count not entered yet. trace: the walk up to it, of which it is the last row; before: the walk without it."""

    count: Count
    form: Form
    trace: Trace
    row: int
    before: Trace

    @cached_property
    def whole(self) -> Trace:
        """The walk of the whole form with it, which what is shown at every key need not wait for."""
        return walk(self.form, self.before)


class Session(QObject):
    """One look at a form. It is shown another one by the document, and tells what of it is another then.

    The playhead is a position in rows of the trace: a whole number is the end of that count, anything between is on the
    way to the next one. The selected row is the one the playhead is in.
    """

    moved = Signal()  # the playhead, by any amount
    row_changed = Signal(int)  # the selected row
    selected = Signal()  # which lines are selected
    ghost_changed = Signal()
    figures_changed = Signal()  # how figures are said

    def __init__(self, form: Form, trace: Trace, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._form, self._trace = form, trace
        self.position = 0.0
        self.stepping = False  # played from count to count: each is shown as it ends
        self.selection = Selection()
        self.ghost: Ghost | None = None
        self._figures = PLAIN
        self.before_edit: Trace | None = None  # the walk before the last edit, while what it moved is shown
        self._moved: deque[tuple[Trace, Trace, Moved | None]] = deque(maxlen=2)  # by the walks before and after

    def take(self, form: Form, trace: Trace, selection: Selection, before_edit: Trace | None) -> None:
        """Takes another form, and selects lines of it; nobody is told yet. before_edit: the walk before the edit it
        comes from, where what that moved is shown."""
        self._form, self._trace, self.before_edit, self.ghost = form, trace, before_edit, None
        gone = selection.posture is not None and all(each.id != selection.posture for each in form.postures)
        self.selection = Selection(form.postures[0].id if form.postures else None) if gone else selection
        self.position = float(self.row_in(form, trace, self.selection))

    def tell(self) -> None:
        """Tells that another form has come."""
        self.moved.emit()
        self.row_changed.emit(self.row)
        self.selected.emit()

    def forget(self) -> None:
        """Another document has come."""
        self._moved.clear()

    # The playhead.

    @property
    def row(self) -> int:
        """The selected row: the count the playhead is in."""
        return math.ceil(self.position - 1e-9)

    @property
    def pose(self) -> Pose:
        """Where the body is at the playhead."""
        return pose_between(self._trace, self.row, self.part)

    @property
    def shown(self) -> float:
        """The position that is shown: while it steps from count to count, the end of the one that is played."""
        return float(self.row) if self.stepping else self.position

    @property
    def part(self) -> float:
        """How much of the selected row's count is shown as walked, 0 to 1."""
        return 1.0 - (self.row - self.shown)

    @property
    def room(self) -> Room | None:
        """The room as the posture at the playhead is walked in it: begun at the mark it is walked from."""
        room = self._form.room
        if room is None or not room.breaks:
            return room
        from waltzmark.core.room.breaks import start_at  # only where there are breaks

        return room.begun_at(start_at(self._trace, room, self.row))

    def go(self, position: float) -> None:
        """Moves the playhead; when it comes into another count, that is selected."""
        before = self.row
        self.position = min(max(float(position), 0.0), float(len(self._trace) - 1))
        self.moved.emit()
        if self.row != before:
            self._set_selection(self._selection_of(self.row))
            self.row_changed.emit(self.row)

    def _selection_of(self, row: int) -> Selection:
        posture = self._trace.posture(row)
        if posture is None:
            return Selection()
        line = self._trace.line(row)
        return Selection(posture, line, line + 1)

    def select(self, selection: Selection) -> None:
        """Selects lines, and goes to the end of the last count among them, or of what came before."""
        row = self.row_in(self._form, self._trace, selection)
        if row != self.position:
            self.go(float(row))
        self._set_selection(selection)

    @staticmethod
    def row_in(form: Form, trace: Trace, selection: Selection) -> int:
        """The row that selecting lines of a form goes to."""
        if selection.posture is None or all(p.id != selection.posture for p in form.postures):
            return 0
        first, after = trace.span(selection.posture)
        lines = trace.passages[trace.numbers[selection.posture]].lines
        if selection.start == selection.stop:  # the posture as a whole: its first count
            return min(first, len(trace) - 1)
        counts = sum(line.moves for line in lines[: selection.stop])
        return min(max(first + counts - 1, 0), max(after - 1, first - 1, 0))

    def _set_selection(self, selection: Selection) -> None:
        if selection != self.selection:
            self.selection = selection
            self.selected.emit()

    # How figures are said.

    @property
    def say(self) -> Figures:
        """How facings and lengths are said to the user, for the body and the frame of the form."""
        return self._figures.of(self._form)

    def set_figures(self, figures: Figures) -> None:
        """Says everything in other units; the form stays as it is written."""
        self._figures = replace(self._figures, facings=figures.facings, unit=figures.unit)
        self.figures_changed.emit()

    # What is being typed or dragged, and what an edit has moved.

    def show_ghost(self, count: Count | None, form: Form | None = None, posture: str = "", line: int = 0) -> bool:
        """Shows what a count would do as a line of a posture of *form*, which has it already; None shows nothing.
        Whether there is one to see."""
        ghost: Ghost | None = None
        if count is not None and form is not None and count.moves:
            trace = walk_to(form, posture, line, self._form, self._trace)
            first, _ = trace.span(posture)
            row = first + sum(each.moves for each in form.posture(posture).lines[:line])
            ghost = Ghost(count, form, trace, row, self._trace)
        if ghost is not self.ghost:
            self.ghost = ghost
            self.ghost_changed.emit()
        return ghost is not None

    @property
    def moved_by_edit(self) -> Moved | None:
        """What the last edit moved without touching it, as long as that is shown."""
        return None if self.before_edit is None else self._moved_between(self.before_edit, self._trace)

    @property
    def moved_by_ghost(self) -> Moved | None:
        """What entering the count being typed would move without touching it."""
        return None if self.ghost is None else self._moved_between(self._trace, self.ghost.whole)

    def _moved_between(self, before: Trace, after: Trace) -> Moved | None:
        for old, new, moved in self._moved:
            if old is before and new is after:
                return moved
        from waltzmark.core.edit.keeping import moved_after

        self._moved.append((before, after, moved_after(before, after)))
        return self._moved[-1][2]

    def forget_before(self) -> None:
        """What the last edit moved is no longer shown."""
        self.before_edit = None
        self.moved.emit()
