"""Findings: what is wrong with a walk, where, by how much, why it matters and what would mend it."""

from __future__ import annotations

from waltzmark.core.findings import expectations, pivots, stance, weight
from waltzmark.core.findings.registry import RULES, Case, Finding, Rule, Severity
from waltzmark.core.form import Form
from waltzmark.core.speech import PLAIN, Speech
from waltzmark.core.trace import Trace

__all__ = ["FAMILIES", "GRAVITY", "RULES", "Case", "Finding", "Rule", "Severity", "judge"]

#: The modules whose rules are registered.
FAMILIES = (weight, pivots, stance, expectations)

#: The order of severities, the gravest first.
GRAVITY = {"stop": 0, "caution": 1, "note": 2}


def judge(form: Form, trace: Trace, say: Speech = PLAIN) -> tuple[Finding, ...]:
    """Everything that every rule of the form's school finds, in the order of the walk, the gravest first in a count.

    A rule that the school's file does not mention does not apply in that school.
    """
    case = Case(form, trace, say.of(form))
    found = [f for each in RULES.values() if each.id in form.school.rules for f in each.find(case)]
    return tuple(sorted(found, key=lambda f: (f.row, GRAVITY[f.severity], f.rule)))
