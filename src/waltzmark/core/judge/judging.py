"""Findings: what is wrong with a walk, where, by how much, why it matters and what would mend it."""

from __future__ import annotations

from collections.abc import Iterable

from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form
from waltzmark.core.judge import (
    alignment,
    balance,
    emptying,
    expectations,
    habits,
    joints,
    knees,
    pivots,
    split,
    stance,
    steps,
    weight,
)
from waltzmark.core.judge.finding import SEVERITIES, Finding, Judged
from waltzmark.core.judge.memory import Memory
from waltzmark.core.judge.registry import RULES, Case
from waltzmark.core.walk.ground import STILL
from waltzmark.core.walk.passage import Passage, row_values, rows_table
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.unrolled import own_rows, unrolled, unrolled_passage

__all__ = ["FAMILIES", "RULES", "judge", "judge_all"]

#: The modules whose rules are registered.
FAMILIES = (weight, pivots, stance, split, steps, emptying, joints, knees, alignment, balance, habits, expectations)


def judge(form: Form, trace: Trace) -> tuple[Finding, ...]:
    """Everything that every rule of the form's school finds, in the order of the walk, the gravest first in a count.

    A rule that the school's file does not mention does not apply in that school; what is muted is left out.
    """
    return judge_all(form, trace).findings


def judge_all(form: Form, trace: Trace) -> Judged:
    """The findings, and those that are muted."""
    found = list(_of_postures(form, trace))
    whole, own = unrolled(trace)
    case = Case(form, whole)
    told = [f for each in RULES.values() if each.whole and form.school.applies(each.id) for f in each.find(case)]
    found += told if own is None else [replace(finding, row=int(own[finding.row])) for finding in told]
    found.sort(key=lambda f: (f.row, SEVERITIES[f.severity], f.rule))
    if not form.mutes:
        return Judged(_once(form, found))
    heard, muted = [], []
    for finding in found:
        mute = next((m for m in form.mutes if m.covers(finding.rule, finding.posture, finding.count)), None)
        if mute is None:
            heard.append(finding)
        else:
            muted.append((finding, mute))
    return Judged(_once(form, heard), tuple(muted))


def _once(form: Form, found: list[Finding]) -> tuple[Finding, ...]:
    """Findings in order, those that repeat told once, where they come first.

    They repeat in a source's mirrors and repeats; notes about the body's seat are told once in a form.
    """
    roots: dict[str | None, tuple[str | None, bool]] = {}
    for posture in form.postures:  # a source comes before what takes its counts from it
        if posture.source is not None:
            root, other = roots.get(posture.source, (posture.source, False))
            roots[posture.id] = root, other != (posture.mirror_of is not None)
    groups: dict[object, list[Finding]] = {}
    for finding in found:
        known = RULES[finding.rule]
        key: object = id(finding)
        if known.seat and finding.severity == "note":
            key = finding.rule, finding.side
        elif finding.posture is not None and roots:
            root, other = roots.get(finding.posture, (finding.posture, False))
            side = finding.side.other if finding.side is not None and other else finding.side
            key = finding.rule, root, finding.count, side, finding.severity
        groups.setdefault(key, []).append(finding)
    return tuple(each[0] if len(each) == 1 else replace(each[0], again=tuple(each[1:])) for each in groups.values())


def _of_postures(form: Form, trace: Trace) -> Iterable[Finding]:
    """What is found within postures, each judged by itself after the pose it begins in, unless it is remembered.

    Always by themselves, whether one is new or all are: so that what is found does not depend on how one came there.
    """
    memory = Memory(form)
    starts = trace.starts.tolist()
    new = [p for n, p in enumerate(trace.passages) if p.posture and memory.known(p, starts[n]) is None]
    if new:
        part = _alone(new, trace)
        found: list[list[Finding]] = [[] for _ in part.passages]
        of = part.passage_of.tolist()
        for finding in _judged(form, part):
            found[of[finding.row]].append(finding)
        for number, passage in enumerate(new):
            at = 2 * number + 1  # before it stands the pose it begins in
            first, own = int(part.starts[at]), own_rows(part.passages[at])
            mine = tuple(replace(finding, row=first + int(own[finding.row - first])) for finding in found[at])
            memory.keep(passage, first, mine)
    for passage, start in zip(trace.passages, starts, strict=False):
        if passage.posture:
            yield from memory.known(passage, start) or ()


def _alone(passages: Iterable[Passage], trace: Trace) -> Trace:
    """Postures by themselves, each after the pose it begins in."""
    parts: list[Passage] = []
    for passage in passages:
        before = rows_table([row_values(passage.entry, (STILL, STILL), 1.0, 0, 0)])
        parts += [Passage(None, (), passage.entry, passage.entry, before), unrolled_passage(passage, trace.ground)]
    return Trace(trace.ground, tuple(parts))


def _judged(form: Form, trace: Trace) -> Iterable[Finding]:
    case = Case(form, trace)
    for each in RULES.values():
        if not each.whole and form.school.applies(each.id):
            yield from each.find(case)
