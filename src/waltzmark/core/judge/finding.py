"""A finding: what is wrong with a walk, where, by how much, why it matters and what would mend it.

What it says is a `Message`; `waltzmark.words.findings` makes the sentences.
"""

from __future__ import annotations

from functools import cached_property
from typing import Literal

from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import Message, Value
from waltzmark.core.base.records import Record
from waltzmark.core.edit.forms import replace_lines
from waltzmark.core.form.form import Form
from waltzmark.core.form.mutes import Mute
from waltzmark.core.score.actions import Count

__all__ = ["SEVERITIES", "Finding", "Judged", "Mend", "Severity"]

Severity = Literal["stop", "caution", "note"]

#: The order of severities, the gravest first.
SEVERITIES: dict[Severity, int] = {"stop": 0, "caution": 1, "note": 2}


class Mend(Record):
    """A change of the score that puts a finding right: the lines of a posture from *start* up to *stop* become *lines*.

    does: what it does.
    """

    does: Message
    posture: str
    start: int
    stop: int
    lines: tuple[Count, ...]

    def applied(self, form: Form) -> Form:
        """The form with the mend made."""
        return replace_lines(form, self.posture, self.start, self.stop, self.lines)


class Finding(Record):
    """Something wrong or worth knowing, and where it begins.

    posture: id, None for the opening; count: its number, 0 for the beginning of the posture; row: of the trace.
    kind: the rule's id, or that and what tells this from its other findings. measured, limit: in *unit*, None where
    nothing is measured; side: the foot or leg it is about; fields: what else it speaks of, each by its name. why,
    caution: the school's reason and its safety words; mends: changes that put it right. again: the same thing in the
    postures that take their counts from the same source; it is told once, where it is mended.
    """

    rule: str
    severity: Severity
    posture: str | None
    count: int
    row: int
    kind: str
    measured: float | None = None
    limit: float | None = None
    unit: str = ""
    side: Side | None = None
    why: str = ""
    caution: str = ""
    fields: tuple[tuple[str, Value], ...] = ()
    mends: tuple[Mend, ...] = ()
    again: tuple[Finding, ...] = ()

    @property
    def message(self) -> Message:
        """What is found, with all that its sentences may speak of."""
        sides = () if self.side is None else (("side", self.side), ("other", self.side.other))
        return Message(self.kind, (("measured", self.measured), ("limit", self.limit), *sides, *self.fields))

    @property
    def everywhere(self) -> tuple[Finding, ...]:
        """It and where it is so again, each by itself."""
        return (self, *self.again)

    @property
    def times(self) -> int:
        """How often it is so."""
        return 1 + len(self.again)


class Judged(Record, dict=True):
    """What was found, and what was found but is muted, each with the mute."""

    findings: tuple[Finding, ...]
    muted: tuple[tuple[Finding, Mute], ...] = ()

    @cached_property
    def everywhere(self) -> tuple[Finding, ...]:
        """The findings, those that are told once in every place they are so."""
        return tuple(each for finding in self.findings for each in finding.everywhere)
