"""Arms and breath: what is written beside the walk, and holds within a posture until it is written anew."""

from __future__ import annotations

from dataclasses import dataclass

from waltzmark.core.base.leftright import Side
from waltzmark.core.score import actions as act
from waltzmark.core.walk.trace import Trace

__all__ = ["HandMark", "hands_at", "hands_of"]


@dataclass(frozen=True)
class HandMark:
    """A hand at the end of a count: where it points in degrees, how high, and its shape."""

    side: Side
    heading: float
    height: str
    shape: str | None

    @property
    def words(self) -> str:
        return f"{self.height} {self.shape}" if self.shape else self.height


def hands_of(trace: Trace, row: int) -> tuple[HandMark, ...]:
    """The hands that the count of a row writes."""
    torso, twelve = float(trace.torso[max(row - 1, 0)]), trace.ground.twelve
    return tuple(
        HandMark(action.side, action.facing.heading(torso, twelve), action.height, action.shape)
        for action in trace.written[row].actions
        if isinstance(action, act.Hand)
    )


def hands_at(trace: Trace, row: int) -> tuple[HandMark, ...]:
    """The hands as last written within the posture of a row, up to it."""
    first = int(trace.starts[int(trace.passage_of[row])])
    found: dict[Side, HandMark] = {}
    for at in range(row, first - 1, -1):
        for hand in hands_of(trace, at):
            found.setdefault(hand.side, hand)
        if len(found) == 2:
            break
    return tuple(found.values())
