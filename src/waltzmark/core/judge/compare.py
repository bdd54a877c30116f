"""What changed between two judgements of a form, such as by two schools or for two bodies."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable

from waltzmark.core.judge.finding import Finding, Severity

__all__ = ["changes", "graver"]


def changes(before: Iterable[Finding], after: Iterable[Finding]) -> tuple[Counter[str], Counter[str]]:
    """How many findings of each rule are gone, and how many are new."""
    old = Counter((f.rule, f.posture, f.count, f.side) for f in before)
    new = Counter((f.rule, f.posture, f.count, f.side) for f in after)
    gone: Counter[str] = Counter()
    come: Counter[str] = Counter()
    for key, number in (old - new).items():
        gone[key[0]] += number
    for key, number in (new - old).items():
        come[key[0]] += number
    return gone, come


def graver(before: Iterable[Finding], after: Iterable[Finding]) -> tuple[tuple[Severity, str], ...]:
    """The stops and cautions that are new, each kind once: how grave it is, and the rule."""
    old = {(f.rule, f.posture, f.count, f.side) for f in before if f.severity != "note"}
    new = (f for f in after if f.severity != "note" and (f.rule, f.posture, f.count, f.side) not in old)
    return tuple(dict.fromkeys((f.severity, f.rule) for f in new))
