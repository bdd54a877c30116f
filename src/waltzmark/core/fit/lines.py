"""The counts of a posture by the rows of the walk, to be written otherwise."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from waltzmark.core.base.messages import Message
from waltzmark.core.judge.finding import Mend
from waltzmark.core.judge.registry import Case
from waltzmark.core.score.actions import Count

__all__ = ["Lines"]


class Lines(NamedTuple):
    """Those of the posture of a row. first, after: its first row, and the one after its last."""

    case: Case
    posture: str
    first: int
    after: int

    @classmethod
    def at(cls, case: Case, row: int) -> Lines | None:
        """Those of the posture that a row belongs to; None for the opening, and where its counts are another one's."""
        posture = case.trace.posture(row)
        if posture is None or case.form.posture(posture).source is not None:
            return None
        return cls(case, posture, *case.trace.span(posture))

    def mend(self, does: Message, changed: Mapping[int, tuple[Count, ...]]) -> Mend:
        """The mend that writes other lines in place of the counts of some rows; what stands between them stays."""
        trace, own = self.case.trace, self.case.form.posture(self.posture).lines
        by_line = {trace.line(row): lines for row, lines in changed.items()}
        start, stop = min(by_line), max(by_line) + 1
        lines = [line for at in range(start, stop) for line in by_line.get(at, (own[at],))]
        return Mend(does, self.posture, start, stop, tuple(lines))
