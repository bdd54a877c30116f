"""Findings as they are told: what, how grave, how many, and what to do about them."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable

from waltzmark.core.judge.finding import SEVERITIES, Finding, Severity
from waltzmark.words.body_texts import OF_THE_BODY
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.finding_texts import OF_FEET
from waltzmark.words.language import listed, ntr, tr
from waltzmark.words.sentences import Plural, Sentence, fill

__all__ = ["SENTENCES", "how_many", "remedy", "remedy_kind", "severity_name", "what"]


_ALL = {**OF_FEET, **OF_THE_BODY}
SENTENCES: dict[str, Sentence] = {
    **{kind: both[0] for kind, both in _ALL.items()},
    **{f"{kind}:remedy": both[1] for kind, both in _ALL.items()},
}


def what(finding: Finding, figures: Figures = PLAIN) -> str:
    """What is found, and by how much."""
    return fill(SENTENCES[finding.kind], dict(finding.message.fields), figures)


def remedy_kind(finding: Finding) -> str:
    """What tells apart the ways to put findings right."""
    sentence = SENTENCES[f"{finding.kind}:remedy"]
    return sentence if isinstance(sentence, str) else finding.kind


def remedy(finding: Finding, figures: Figures = PLAIN) -> str:
    """What to do about it."""
    return fill(SENTENCES[f"{finding.kind}:remedy"], dict(finding.message.fields), figures)


def severity_name(severity: Severity) -> str:
    """How grave something is, in a word."""
    return {"stop": tr("stop"), "caution": tr("caution"), "note": tr("note")}[severity]


def how_many(findings: Iterable[Finding]) -> str:
    """How many findings there are, by severity: “2 cautions and 1 note”."""
    counts = Counter(finding.severity for finding in findings)
    forms = {
        "stop": Plural("{n} stop", "{n} stops", "n"),
        "caution": Plural("{n} caution", "{n} cautions", "n"),
        "note": Plural("{n} note", "{n} notes", "n"),
    }
    return listed([ntr(forms[name].one, forms[name].many, counts[name]) for name in SEVERITIES if counts[name]]) or tr(
        "no findings"
    )
