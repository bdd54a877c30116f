"""Does the walk return home? The end against where it should be, and what each posture and count adds."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from waltzmark.core.base.angles import heading_difference, heading_differences
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form, Home
from waltzmark.core.room.things import things_of
from waltzmark.core.walk.ground import STEP
from waltzmark.core.walk.trace import Trace

__all__ = [
    "SCATTER",
    "Contribution",
    "CountShare",
    "Return",
    "cancelling",
    "check_return",
    "home_heading",
    "home_outside",
]

#: How far a foot lands off its place, metres a step, one way or the other (an assumption).
SCATTER = 0.03
#: Home unless a form says otherwise.
START = Home()
_CANCELS, _MOVES = 0.06, 0.10  # metres that out and back may differ by, and that each must move


class CountShare(Record):
    """What one count adds.

    Metres right and ahead in the floor frame, degrees the torso turns, and metres of it along the final offset.
    """

    count: int
    offset: tuple[float, float]
    turn: float
    share: float


class Contribution(Record):
    """What one posture adds: metres right and ahead in the floor frame, and degrees the torso turns.

    share: metres of it along the final offset; all shares add up to the length of the way from start to end along it.
    """

    posture: str
    offset: tuple[float, float]
    turn: float
    share: float
    counts: tuple[CountShare, ...] = ()


class Return(Record):
    """Where the walk ends against where it should.

    offset: of the midpoint between the heels from home, metres right and ahead; distance: its length; turn: torso
    heading at the end against that of home, degrees in (-180, 180]; contributions: by posture, in the order of the
    walk; turned: degrees the torso has turned in all; home: what is asked; heading: that home faces, degrees; scatter:
    how far feet scatter over so many steps anyway, metres.
    """

    offset: tuple[float, float]
    distance: float
    turn: float
    contributions: tuple[Contribution, ...]
    turned: float = 0.0
    home: Home = START
    heading: float = 0.0
    scatter: float = 0.0

    @property
    def good(self) -> bool:
        """Whether that counts as home."""
        return self.distance <= self.home.within + 1e-9 and abs(self.turn) <= self.home.turn + 1e-9


def home_heading(form: Form | None, trace: Trace) -> float:
    """The heading the form should end in, degrees: as it began, unless it says otherwise."""
    facing = form.home.facing if form is not None else None
    if facing is None or form is None:
        return float(trace.torso[0])
    return facing.heading(float(trace.torso[0]), form.twelve)


def check_return(trace: Trace, form: Form | None = None) -> Return:
    """Offset and turn of the end against home, by posture and count. Without a form home is the start mark."""
    home = form.home if form is not None else START
    heading = home_heading(form, trace)
    middles, torso = trace.midpoints, trace.torso
    total = middles[-1] - np.array(home.place)
    distance = float(np.hypot(*total))
    toward = total / distance if distance > 1e-9 else np.zeros(2)
    moved = np.diff(middles, axis=0, prepend=middles[:1])
    turns = [0.0, *heading_differences(torso[:-1], torso[1:]).tolist()]
    parts: list[Contribution] = []
    along, ways, numbers = (moved @ toward).tolist(), moved.tolist(), trace.counts.tolist()
    for number, passage in enumerate(trace.passages[1:], 1):
        first, after = int(trace.starts[number]), int(trace.starts[number + 1])
        assert passage.posture is not None
        counts = tuple(
            CountShare(numbers[row], (ways[row][0], ways[row][1]), turns[row], along[row])
            for row in range(first, after)
        )
        x, y = moved[first:after].sum(axis=0).tolist()
        turn, share = sum(turns[first:after]), sum(along[first:after])
        parts.append(Contribution(passage.posture, (x, y), turn, share, counts))
    steps = int((trace.move_kinds == STEP).sum())
    turn, offset = heading_difference(heading, float(torso[-1])), (float(total[0]), float(total[1]))
    scatter = SCATTER * math.sqrt(steps)
    return Return(offset, distance, turn, tuple(parts), float(sum(turns)), home, heading, scatter)


def cancelling(parts: Sequence[Contribution]) -> tuple[tuple[str, str], ...]:
    """Pairs of postures that carry out and back: each in one pair at most, the best first."""
    offsets = np.array([part.offset for part in parts]).reshape(-1, 2)
    far = np.hypot(*offsets.T)
    left = np.hypot(*(offsets[:, None] + offsets[None]).transpose(2, 0, 1))
    pairs: list[tuple[str, str]] = []
    taken: set[int] = set()
    for flat in np.argsort(left, axis=None).tolist():
        one, other = divmod(flat, len(parts))
        if left[one, other] > _CANCELS:
            break
        if one < other and not {one, other} & taken and min(far[one], far[other]) >= _MOVES:
            taken |= {one, other}
            pairs.append((parts[one].posture, parts[other].posture))
    return tuple(pairs)


def home_outside(form: Form) -> bool:
    """Whether nobody can stand at home, because it lies outside the room or in a thing."""
    room = form.room
    return room is not None and float(things_of(room).free(room.to_room(np.array([form.home.place])))[0]) < 0.0
