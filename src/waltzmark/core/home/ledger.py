"""Does the walk return to its start? The end against the start mark, and what each posture adds."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.walk.trace import Trace

__all__ = ["Contribution", "Return", "check_return"]


@dataclass(frozen=True)
class Contribution:
    """What one posture adds: metres right and ahead in the floor frame, and degrees the torso turns.

    share: metres of it along the final offset; all shares add up to its length.
    """

    posture: str
    offset: tuple[float, float]
    turn: float
    share: float


@dataclass(frozen=True)
class Return:
    """Where the walk ends against where it began.

    offset: of the midpoint between the heels from the start mark, metres right and ahead; distance: its length;
    turn: torso heading at the end against the start, degrees in (-180, 180].
    """

    offset: tuple[float, float]
    distance: float
    turn: float
    contributions: tuple[Contribution, ...]


def check_return(trace: Trace) -> Return:
    """Offset and turn of the end against the start, by posture."""
    middles, torso = trace.midpoints, trace.torso
    total = middles[-1] - middles[0]
    distance = float(np.hypot(*total))
    toward = total / distance if distance > 1e-9 else np.zeros(2)
    parts: list[Contribution] = []
    for number, passage in enumerate(trace.passages[1:], 1):
        last, first = int(trace.starts[number + 1]) - 1, int(trace.starts[number]) - 1
        moved = middles[last] - middles[first]
        turn = _turned(trace, first, last)
        assert passage.posture is not None
        parts.append(Contribution(passage.posture, (float(moved[0]), float(moved[1])), turn, float(moved @ toward)))
    return Return(
        (float(total[0]), float(total[1])), distance,
        heading_difference(float(torso[0]), float(torso[-1])), tuple(parts),
    )  # fmt: skip


def _turned(trace: Trace, first: int, last: int) -> float:
    """How far the torso turns from one row to another, degrees, summed over its counts so that turns add up."""
    headings = trace.torso[first : last + 1]
    return float(sum(heading_difference(float(a), float(b)) for a, b in pairwise(headings)))
