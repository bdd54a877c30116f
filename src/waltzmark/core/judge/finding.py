"""A finding: what is wrong with a walk, where, by how much, why it matters and what would mend it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from functools import cached_property
from typing import Literal

from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import record
from waltzmark.core.edit.editing import replace_lines
from waltzmark.core.form.form import Form
from waltzmark.core.form.mutes import Mute
from waltzmark.core.score.actions import Count

__all__ = ["SEVERITIES", "Finding", "Judged", "Mend", "Severity", "how_many"]

Severity = Literal["stop", "caution", "note"]

#: The order of severities, the gravest first.
SEVERITIES: dict[Severity, int] = {"stop": 0, "caution": 1, "note": 2}


@record
class Mend:
    """A change of the score that puts a finding right: the lines of a posture from *start* up to *stop* become
    *lines*. words: what it does."""

    words: str
    posture: str
    start: int
    stop: int
    lines: tuple[Count, ...]

    def applied(self, form: Form) -> Form:
        """The form with the mend made."""
        return replace_lines(form, self.posture, self.start, self.stop, self.lines)


@record
class Finding:
    """Something wrong or worth knowing, and where it begins.

    posture: id, None for the opening; count: its number, 0 for the beginning of the posture; row: of the trace.
    measured, limit: in *unit*, None where nothing is measured. message: what, in words. why, caution, mend: the
    school's reason, the safety words, and what would put it right; mends: the same as changes that can be made. again:
    the same thing in the postures that take their counts from the same source; it is told once, where it is mended.
    """

    rule: str
    severity: Severity
    posture: str | None
    count: int
    row: int
    message: str
    measured: float | None = None
    limit: float | None = None
    unit: str = ""
    side: Side | None = None
    why: str = ""
    caution: str = ""
    mend: str = ""
    mends: tuple[Mend, ...] = ()
    again: tuple[Finding, ...] = ()

    @property
    def everywhere(self) -> tuple[Finding, ...]:
        """It and where it is so again, each by itself."""
        return (self, *self.again)

    @property
    def times(self) -> int:
        """How often it is so."""
        return 1 + len(self.again)


@record
class Judged:
    """What was found, and what was found but is muted, each with the mute."""

    findings: tuple[Finding, ...]
    muted: tuple[tuple[Finding, Mute], ...] = ()

    @cached_property
    def everywhere(self) -> tuple[Finding, ...]:
        """The findings, those that are told once in every place they are so."""
        return tuple(each for finding in self.findings for each in finding.everywhere)


def how_many(findings: Iterable[Finding]) -> str:
    """How many findings there are, by severity, in words."""
    counts = Counter(finding.severity for finding in findings)
    words = [f"{counts[name]} {name}{'s' if counts[name] > 1 else ''}" for name in SEVERITIES if counts[name]]
    return ", ".join(words) or "no findings"
