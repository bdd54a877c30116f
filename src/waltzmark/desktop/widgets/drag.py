"""One hand on the selected count: what it would write is shown as a ghost, and written when it lets go."""

from __future__ import annotations

from waltzmark.core.base.records import replace
from waltzmark.core.edit import forms
from waltzmark.core.edit.dragging import Dragged, dragged_share, dragged_torso
from waltzmark.core.edit.snapping import Snaps, snapped_heading
from waltzmark.desktop.document import Document, Where
from waltzmark.desktop.editor import Editor
from waltzmark.words.language import percent, tr

__all__ = ["CountDrag", "ShareDrag", "TorsoDrag"]


class CountDrag:
    """One drag of something of the selected count, from taking it to letting it go: one undo step.

    label: its figures, or why it cannot be done; refused: only the latter.
    """

    def __init__(self, document: Document, editor: Editor) -> None:
        self._document, self._editor = document, editor
        row = document.trace.row(document.session.row)
        self._count, self._pose = row.written, row.pose
        self._before = document.trace.pose(max(document.session.row - 1, 0))
        self._dragged: Dragged | None = None
        self._selected = (row.posture or "", row.line)
        self.label = ""
        self.refused = ""
        posture = document.form.posture(row.posture) if row.posture else None
        if posture is None:  # at the opening a first count is begun
            _, posture, _ = editor.place("before")
        if posture.source is not None:
            self.refused = tr("its counts come from {title}", title=document.form.posture(posture.source).title)

    def _propose(self, dragged: Dragged) -> bool:
        """Shows what would be written as a ghost; whether there is one to see."""
        if self._document.session.row == 0:
            dragged = replace(dragged, replaces=False)
        self._dragged = dragged
        if dragged.replaces:
            posture, at = self._selected
            form = forms.replace_lines(self._document.form, posture, at, at + 1, [dragged.count])
        else:
            form, into, at = self._editor.place(self._where)
            posture = into.id
            form = forms.insert_lines(form, posture, at, [dragged.count])
        self._document.show_ghost(dragged.count, form, posture, at, dragged=True)
        return self._document.session.ghost is not None

    @property
    def _where(self) -> Where:
        """Where a new count goes: after the selected one, at the opening before all others."""
        return "before" if self._document.session.row == 0 else "after"

    def release(self) -> None:
        """Writes what was dragged."""
        dragged, self._dragged = self._dragged, None
        self._document.show_ghost(None)
        if dragged is None:
            return
        if not dragged.replaces:
            self._editor.insert([dragged.count], self._where)
        elif dragged.count != self._count:
            self._editor.change(dragged.count)

    def cancel(self) -> None:
        """Lets go without writing anything."""
        self._dragged = None
        self._document.show_ghost(None)


class ShareDrag(CountDrag):
    """Pours the weight of the selected count."""

    def move(self, left: float, free: bool) -> None:
        """Shows the left foot carrying a share, by steps of 5 %, or of 1 % when *free*."""
        self.label = self.refused
        if not self.refused:
            step = 0.01 if free else 0.05
            share = min(max(round(left / step) * step, 0.0), 1.0)
            self._propose(dragged_share(self._count, share))
            self.label = tr("left {left}, right {right}", left=percent(100 * share), right=percent(100 - 100 * share))


class TorsoDrag(CountDrag):
    """Turns the waist of the selected count."""

    def move(self, heading: float, snaps: Snaps) -> None:
        """Shows the torso at a heading."""
        self.label = self.refused
        if not self.refused:
            heading = snapped_heading(heading, snaps)
            self._propose(dragged_torso(self._count, heading))
            self.label = tr(
                "body faces {toward}", toward=self._document.session.say.toward(heading, self._before.torso)
            )
