"""What a finding is, and the registry of the rules that make them.

A rule is one small function from a `Case` to findings, registered by id. Its limits, its reason and its
caution stand in the school's TOML under the same id.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal

from waltzmark.core.form import Form
from waltzmark.core.side import Side
from waltzmark.core.speech import PLAIN, Speech
from waltzmark.core.trace import Trace

__all__ = ["RULES", "Case", "Finding", "Rule", "Severity", "rule"]

Severity = Literal["stop", "caution", "note"]


@dataclass(frozen=True)
class Finding:
    """Something wrong or worth knowing, and where it begins.

    posture: id, None for the opening; count: its number, 0 for the beginning of the posture; row: of the trace.
    measured, limit: in *unit*, None where nothing is measured. message: what, in words. why, caution, mend: the
    school's reason, the safety words, and what would put it right.
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


@dataclass(frozen=True)
class Case:
    """What a rule judges: a form and its walk. say: how its words say figures."""

    form: Form
    trace: Trace
    say: Speech = PLAIN

    def cm(self, centimetres: float) -> str:
        """A length in centimetres, said."""
        return self.say.length(centimetres / 100.0)

    def toward(self, heading: float, row: int) -> str:
        """A heading, said as the count of a row sees it."""
        return self.say.toward(heading, float(self.trace.torso[max(row - 1, 0)]))

    def limit(self, rule_id: str, name: str) -> float:
        return self.form.school.limit(rule_id, name)

    def found(
        self,
        rule_id: str,
        row: int,
        message: str,
        *,
        measured: float | None = None,
        limit: float | None = None,
        unit: str = "",
        side: Side | None = None,
        mend: str = "",
        at: tuple[str | None, int] | None = None,
    ) -> Finding:
        """A finding of a rule at a row, with the school's words; *at* overrides the posture and count it names."""
        setting = self.form.school.rules[rule_id]
        posture, count = at or (self.trace.posture(row), int(self.trace.counts[row]))
        return Finding(
            rule_id, RULES[rule_id].severity, posture, count, row, message, measured, limit, unit, side,
            setting.why, setting.caution, mend,
        )  # fmt: skip


@dataclass(frozen=True)
class Rule:
    """A registered rule: its id, how serious what it finds is, and the function that finds it."""

    id: str
    severity: Severity
    find: Callable[[Case], Iterator[Finding]]


RULES: dict[str, Rule] = {}


def rule(
    rule_id: str, severity: Severity
) -> Callable[[Callable[[Case], Iterator[Finding]]], Callable[[Case], Iterator[Finding]]]:
    """Registers a function as the rule *rule_id*. A stop cannot be walked or contradicts itself; a caution can hurt
    or breaks the school's rule; a note is worth knowing."""

    def register(find: Callable[[Case], Iterator[Finding]]) -> Callable[[Case], Iterator[Finding]]:
        RULES[rule_id] = Rule(rule_id, severity, find)
        return find

    return register
