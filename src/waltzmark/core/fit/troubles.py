"""What a body is stopped or cautioned for in a form, that the form's own body is not."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import NamedTuple

from waltzmark.core.judge.finding import SEVERITIES, Finding

__all__ = ["Key", "Trouble", "known_troubles", "new_troubles"]

#: Rules whose notes count as well: what a hip does not give cannot be walked, however light the foot.
_EVEN_NOTES = frozenset({"pivot.hip-range"})
#: What a figure may be worse by before it is worse, in its own unit.
_AS_GOOD = 1.0

#: What is told of which line: rule, posture, line as it was written, side.
Key = tuple[str, str | None, int, object]


class Trouble(NamedTuple):
    """A finding, and the line that it is about as the source has it."""

    key: Key
    finding: Finding

    @property
    def excess(self) -> float:
        """How far it is beyond what its rule allows, in its own unit."""
        told = self.finding
        if told.measured is None or told.limit is None:
            return 0.0
        return abs(told.measured - told.limit)


def known_troubles(
    findings: Iterable[Finding], line_of: Callable[[Finding], int], all_notes: bool = False
) -> dict[Key, Trouble]:
    """Stops and cautions by their key, the worst of each.

    line_of: which written line one is about; all_notes: notes as well, for what the form was written with.
    """
    found: dict[Key, Trouble] = {}
    for each in findings:
        if each.severity == "note" and not all_notes and each.rule not in _EVEN_NOTES:
            continue
        trouble = Trouble((each.rule, each.posture, line_of(each), each.side), each)
        old = found.get(trouble.key)
        if old is None or _rank(trouble) < _rank(old):
            found[trouble.key] = trouble
    return found


def new_troubles(found: Mapping[Key, Trouble], before: Mapping[Key, Trouble]) -> dict[Key, Trouble]:
    """Those that were not there before, or are graver or further beyond than they were."""

    def as_before(trouble: Trouble) -> bool:
        old = before.get(trouble.key)
        if old is None or SEVERITIES[old.finding.severity] > SEVERITIES[trouble.finding.severity]:
            return False
        return trouble.excess <= old.excess + _AS_GOOD

    return {key: trouble for key, trouble in found.items() if not as_before(trouble)}


def _rank(trouble: Trouble) -> tuple[int, float]:
    return SEVERITIES[trouble.finding.severity], -trouble.excess
