"""What changed between two judgements of a form, such as by two schools or for two bodies."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable

from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.registry import RULES

__all__ = ["changed_words", "changes", "graver", "rule_words"]


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


def graver(before: Iterable[Finding], after: Iterable[Finding]) -> tuple[str, ...]:
    """The stops and cautions that are new, each kind once: “caution: a narrow stance”."""
    old = {(f.rule, f.posture, f.count, f.side) for f in before if f.severity != "note"}
    new = (f for f in after if f.severity != "note" and (f.rule, f.posture, f.count, f.side) not in old)
    return tuple(dict.fromkeys(f"{f.severity}: {rule_words(f.rule)}" for f in new))


def changed_words(name: str, before: Iterable[Finding], after: Iterable[Finding]) -> str:
    """The same in words: “With Ball turn: 3 gone (a narrow stance 3), 20 new (the part a foot turns on 20).”"""
    parts = []
    for found, word in zip(changes(before, after), ("gone", "new"), strict=True):
        if found:
            rules = ", ".join(f"{rule_words(rule)} {number}" for rule, number in found.most_common(4))
            more = "" if len(found) <= 4 else ", …"
            parts.append(f"{sum(found.values())} {word} ({rules}{more})")
    return f"{name[:1].upper()}{name[1:]}: {'; '.join(parts) or 'nothing else is found'}."


def rule_words(rule: str) -> str:
    """What a rule finds, in a few words; the id of one that is not known here, as words."""
    known = RULES.get(rule)
    return known.title if known is not None else rule.replace(".", " ").replace("-", " ")
