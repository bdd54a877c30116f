"""A form walked round and round: what each round adds, when it is home, how long it stays in the room.

Every round is walked, from the stance that the one before it ended in. As soon as one ends in the stance it began in,
all that follow it do the same, and need not be walked any more.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

from waltzmark.core.base.angles import heading_difference, normal, rotated
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record
from waltzmark.core.body.pose import Pose, same_but_moved
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Start
from waltzmark.core.room.clearance import clearance_at
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["MOST", "Rounds", "rounds_in_room", "rounds_of"]

#: So many rounds are looked at.
MOST = 72
_SAME = 1e-6  # metres and degrees


class Rounds(Record):
    """What comes of walking a form round after round.

    drift: metres that the first round carries, right and ahead in the frame of its beginning; turn: degrees that it
    turns; home_after: rounds until it is home within the tolerance, None for never in `MOST`.
    """

    drift: tuple[float, float]
    turn: float
    home_after: int | None


class _Round(Record, eq=False):
    """One round: its walk, as if it had begun on the start mark.

    With where it really begins and ends: (x, y) metres from the start mark and degrees that it is turned by then.
    """

    trace: Trace
    begins: tuple[float, float, float]
    ends: tuple[float, float, float]


def _each(form: Form, trace: Trace) -> Iterator[_Round]:
    """Round after round, without end."""
    opening = trace.pose(0)
    at = (0.0, 0.0, 0.0)
    while True:
        last = trace.pose(len(trace) - 1)
        (x, y), (x0, y0) = last.midpoint, opening.midpoint
        turn = heading_difference(opening.torso, last.torso)
        dx, dy = rotated(x - x0, y - y0, at[2])
        ends = (at[0] + dx, at[1] + dy, at[2] + turn)
        yield _Round(trace, at, ends)
        at = ends
        begins = _begun(last, opening)
        entry = trace.pose(0)
        if same_but_moved(begins, entry, _SAME) is None:
            trace = walk(form, trace, begins)


def _begun(pose: Pose, opening: Pose) -> Pose:
    """A pose turned and moved to where the opening stands and faces."""
    turned = pose.turned(heading_difference(pose.torso, opening.torso))
    (x, y), (x0, y0) = turned.midpoint, opening.midpoint
    return turned.moved(x0 - x, y0 - y)


def rounds_of(form: Form, trace: Trace, progress: Progress = SILENT) -> Rounds:
    """What the first round does, and after how many rounds it is home."""
    within, degrees = form.home.within, form.home.turn
    first: _Round | None = None
    after: int | None = None
    for number, each in zip(range(1, MOST + 1), _each(form, trace), strict=False):
        progress.tell(number / MOST, "rounds")
        first = first or each
        x, y, turned = each.ends
        if math.hypot(x, y) <= within + 1e-9 and abs(heading_difference(0.0, normal(turned))) <= degrees + 1e-9:
            after = number
            break
    assert first is not None
    x, y = rotated(first.ends[0], first.ends[1], -float(trace.torso[0]))
    return Rounds((x, y), heading_difference(0.0, first.ends[2]), after)


def rounds_in_room(form: Form, trace: Trace, most: int = MOST, progress: Progress = SILENT) -> int:
    """For how many rounds the walk stays in the room, as it should, without breaking off; at most *most*."""
    room = form.room
    if room is None:
        return most
    sweep: Sweep | None = None
    walked: Trace | None = None
    x0, y0 = trace.pose(0).midpoint
    for number, each in zip(range(most), _each(form, trace), strict=False):
        progress.tell(number / most, "rounds")
        if sweep is None or each.trace is not walked:
            sweep, walked = Sweep(each.trace, room.arms), each.trace
            sweep.prepare()
        x, y, turn = each.begins
        # Where the floor lies in the room when the round begins on its own start mark.
        mark_x, mark_y = rotated(x0, y0, turn)
        dx, dy = rotated(x + x0 - mark_x, y + y0 - mark_y, room.start.heading)
        start = Start(room.start.x + dx, room.start.y + dy, normal(room.start.heading + turn))
        if not clearance_at(sweep, room, start).fits:
            return number
    return most
