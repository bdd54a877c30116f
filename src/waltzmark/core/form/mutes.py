"""Findings that the analyst has looked at and leaves as they are, each with the reason."""

from __future__ import annotations

from waltzmark.core.base.errors import FormError
from waltzmark.core.base.records import Record

__all__ = ["Mute"]


class Mute(Record):
    """Silences a rule: everywhere, in one posture, or in one count of it. The reason is kept with the form."""

    rule: str
    reason: str
    posture: str | None = None
    count: int | None = None

    def __post_init__(self) -> None:
        if not self.reason.strip():
            raise FormError("mute.reason", rule=self.rule)
        if self.count is not None and self.posture is None:
            raise FormError("mute.posture", rule=self.rule)

    def covers(self, rule: str, posture: str | None, count: int) -> bool:
        """Whether it silences a finding of a rule in a count of a posture."""
        return (
            rule == self.rule
            and (self.posture is None or posture == self.posture)
            and (self.count is None or count == self.count)
        )
