"""Findings: what is wrong with a walk, where, by how much, why it matters and what would mend it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace

import numpy as np

from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.form.form import Form
from waltzmark.core.form.mutes import Mute
from waltzmark.core.judge import balance, expectations, habits, joints, pivots, split, stance, steps, weight
from waltzmark.core.judge.registry import RULES, Case, Finding, Mend, Rule, Severity
from waltzmark.core.walk.step import STILL
from waltzmark.core.walk.trace import Passage, Trace, row_values

__all__ = [
    "FAMILIES",
    "RULES",
    "SEVERITIES",
    "Case",
    "Finding",
    "Judged",
    "Mend",
    "Rule",
    "Severity",
    "judge",
    "judge_all",
]

#: The modules whose rules are registered.
FAMILIES = (weight, pivots, stance, split, steps, joints, balance, habits, expectations)

#: The order of severities, the gravest first.
SEVERITIES: dict[Severity, int] = {"stop": 0, "caution": 1, "note": 2}


@dataclass(frozen=True)
class Judged:
    """What was found, and what was found but is muted, each with the mute."""

    findings: tuple[Finding, ...]
    muted: tuple[tuple[Finding, Mute], ...] = ()


def judge(form: Form, trace: Trace, say: Figures = PLAIN) -> tuple[Finding, ...]:
    """Everything that every rule of the form's school finds, in the order of the walk, the gravest first in a count.

    A rule that the school's file does not mention does not apply in that school; what is muted is left out.
    """
    return judge_all(form, trace, say).findings


def judge_all(form: Form, trace: Trace, say: Figures = PLAIN) -> Judged:
    """The findings, and those that are muted."""
    say = say.of(form)
    found = list(_of_postures(form, trace, say))
    case = Case(form, trace, say)
    for each in RULES.values():
        if each.whole and form.school.applies(each.id):
            found.extend(each.find(case))
    found.sort(key=lambda f: (f.row, SEVERITIES[f.severity], f.rule))
    if not form.mutes:
        return Judged(tuple(found))
    heard, muted = [], []
    for finding in found:
        mute = next((m for m in form.mutes if m.covers(finding.rule, finding.posture, finding.count)), None)
        if mute is None:
            heard.append(finding)
        else:
            muted.append((finding, mute))
    return Judged(tuple(heard), tuple(muted))


def _of_postures(form: Form, trace: Trace, say: Figures) -> Iterable[Finding]:
    """What is found within postures. What was found of one that is walked the same is remembered with its passage."""
    starts = trace.starts.tolist()
    keys = [(say, passage.source is None) for passage in trace.passages]
    new = [n for n, passage in enumerate(trace.passages) if keys[n] not in passage.memo]
    if new:
        # Few are judged by themselves; many at once with all the others, as whole arrays.
        few = 2 * len(new) <= len(trace.passages)
        part = _alone([trace.passages[n] for n in new], trace) if few else trace
        whose = {2 * at + 1: n for at, n in enumerate(new)} if few else {n: n for n in range(len(trace.passages))}
        kept: dict[int, list[Finding]] = {at: [] for at in whose}
        of = part.passage_of.tolist()
        for finding in _judged(form, part, say):
            if (at := of[finding.row]) in kept:  # else it is about the pose that a posture begins in
                kept[at].append(finding)
        for at, number in whose.items():
            trace.passages[number].memo[keys[number]] = int(part.starts[at]), kept[at]
    for number, passage in enumerate(trace.passages):
        start: int
        found: list[Finding]
        start, found = passage.memo[keys[number]]  # type: ignore[misc]
        if start != starts[number]:
            found = [replace(finding, row=finding.row + starts[number] - start) for finding in found]
            passage.memo[keys[number]] = starts[number], found
        yield from found


def _alone(passages: Iterable[Passage], trace: Trace) -> Trace:
    """Postures by themselves, each after the pose it begins in."""
    parts: list[Passage] = []
    for passage in passages:
        before = np.array([row_values(passage.entry, (STILL, STILL), 1.0, 0, 0)])
        parts += [Passage(None, (), passage.entry, passage.entry, before), passage]
    return Trace(trace.ground, tuple(parts))


def _judged(form: Form, trace: Trace, say: Figures) -> Iterable[Finding]:
    case = Case(form, trace, say)
    for each in RULES.values():
        if not each.whole and form.school.applies(each.id):
            yield from each.find(case)
