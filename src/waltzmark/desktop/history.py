"""Undo: a list of forms, since every edit makes a new one that shares what did not change; the walks of the last."""

from __future__ import annotations

from typing import NamedTuple

from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.form import Form
from waltzmark.core.judge.finding import Judged
from waltzmark.core.walk.trace import Trace

__all__ = ["History", "Selection", "UndoStep", "Walks"]

_WALKS = 80
_STEPS = 2000


class Selection(NamedTuple):
    """Lines of a posture, from *start* up to *stop*; with none, the posture as a whole. No posture: the opening."""

    posture: str | None = None
    start: int = 0
    stop: int = 0


class UndoStep(Record):
    """One undoable step: the form before and after it, and what it did, in words.

    joins: edits in a row with the same word, such as the keys typed into one line, are one step.
    """

    words: str
    before: Form
    after: Form
    selected_before: Selection
    selected_after: Selection
    joins: str = ""


class History:
    """What was done and can be undone: the last `_STEPS` steps, so that what a day of edits keeps has a bound."""

    def __init__(self) -> None:
        self._done: list[UndoStep] = []
        self._undone: list[UndoStep] = []
        self._sealed = True

    def clear(self) -> None:
        self._done, self._undone, self._sealed = [], [], True

    def seal(self) -> None:
        """The next edit is a step of its own, whatever it joins."""
        self._sealed = True

    def would_join(self, joins: str) -> bool:
        """Whether an edit with that word would become one with the last."""
        return bool(joins and self._done and self._done[-1].joins == joins and not self._sealed)

    def add(self, edit: UndoStep) -> None:
        if self.would_join(edit.joins):
            last = self._done[-1]
            self._done[-1] = replace(last, words=edit.words, after=edit.after, selected_after=edit.selected_after)
        else:
            self._done.append(edit)
            del self._done[:-_STEPS]
        self._sealed = False
        self._undone.clear()

    def undo(self) -> UndoStep | None:
        """The edit to take back, if there is one."""
        if not self._done:
            return None
        self._sealed = True
        self._undone.append(self._done.pop())
        return self._undone[-1]

    @property
    def last(self) -> UndoStep | None:
        """The edit that undo would take back."""
        return self._done[-1] if self._done else None

    def redo(self) -> UndoStep | None:
        """The edit to make again, if there is one."""
        if not self._undone:
            return None
        self._sealed = True
        self._done.append(self._undone.pop())
        return self._done[-1]

    @property
    def undo_words(self) -> str | None:
        return self._done[-1].words if self._done else None

    @property
    def redo_words(self) -> str | None:
        return self._undone[-1].words if self._undone else None


class Walks:
    """The walks of the forms that were shown last, and what was found in them, for when undo brings one back."""

    def __init__(self) -> None:
        self._kept: dict[int, tuple[Form, Trace, Judged | None]] = {}  # by the form's identity, oldest first

    def clear(self) -> None:
        """Forgets them: another document has come."""
        self._kept.clear()

    def keep(self, form: Form, trace: Trace, judged: Judged | None) -> None:
        """Keeps the walk of a form that another one takes the place of."""
        self._kept.pop(id(form), None)
        self._kept[id(form)] = (form, trace, judged)
        if len(self._kept) > _WALKS:
            del self._kept[next(iter(self._kept))]

    def of(self, form: Form) -> tuple[Trace, Judged | None] | None:
        """The walk of that very form and what was found in it; None when it is not kept."""
        if id(form) not in self._kept:
            return None
        _, trace, judged = self._kept[id(form)]  # kept with the form, so that the identity is still its own
        return trace, judged
