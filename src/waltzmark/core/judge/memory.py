"""What was found in a posture, remembered with its passage."""

from __future__ import annotations

from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form
from waltzmark.core.judge.finding import Finding
from waltzmark.core.walk.passage import Passage

__all__ = ["Memory"]


class Memory:
    """The findings of the rules that look at a posture and the pose it begins in.

    What was found in a passage holds for it and for its moved copies, which share its ``memo``, as long as the posture
    has counts of its own, or has not: only what is its own can be mended there.

    All else that such a rule may ask for (lines, entry, body, school, frame) makes another passage when it changes. A
    rule that asks for anything beyond its posture is a rule of the whole form, and is not remembered.

    Threads: see `Passage.known`. What is kept is never changed; a copy at another row takes its place whole.
    """

    def __init__(self, form: Form) -> None:
        self._form = form

    def _key(self, passage: Passage) -> object:
        own = passage.posture is None or self._form.posture(passage.posture).source is None
        return "findings", own

    def known(self, passage: Passage, start: int) -> tuple[Finding, ...] | None:
        """What was found in a passage whose first row is *start*; None when it has not been judged like this."""
        kept = passage.memo.get(self._key(passage))
        if kept is None:
            return None
        then: int
        found: tuple[Finding, ...]
        then, found = kept  # type: ignore[misc]
        if then != start:
            found = tuple(replace(finding, row=finding.row + start - then) for finding in found)
            passage.memo[self._key(passage)] = start, found
        return found

    def keep(self, passage: Passage, start: int, found: tuple[Finding, ...]) -> None:
        """Remembers what was found in a passage whose first row was *start*."""
        passage.memo[self._key(passage)] = start, found
