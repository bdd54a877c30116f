"""Where a walk breaks off and goes on from another mark: the parts of it, and where in the room each is walked.

A mark is where one stands, midway between the heels, when the posture after a break begins. A part of a walk lies in
the room as if the whole had begun at some start; that start may lie anywhere, also outside the room.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from waltzmark.core.base.angles import rotated
from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.records import Record
from waltzmark.core.form.room import Break, Room, Start, rotated_points
from waltzmark.core.walk.trace import Trace

__all__ = ["Part", "in_room", "mark_of", "parts_of", "start_at"]


class Part(Record):
    """A part of a walk between breaks.

    start: of the whole walk, as this part lies in the room; first, after: its first row and the one after its last;
    mark: where one stands as it begins, with 12 o'clock's heading; posture: the one it begins with, None for the
    opening.
    """

    start: Start
    first: int
    after: int
    mark: Start
    posture: str | None

    def rows(self, trace: Trace) -> Bools | None:
        """(n,) which rows are of this part; None where all are."""
        if (self.first, self.after) == (0, len(trace)):
            return None
        rows = np.zeros(len(trace), dtype=bool)
        rows[self.first : self.after] = True
        return rows


def parts_of(trace: Trace, room: Room) -> list[Part]:
    """The parts of a walk in a room, in order; breaks before postures that are not walked are passed over."""
    marks = {each.posture: each.mark for each in room.breaks}
    found = [Part(room.start, 0, len(trace), room.start, None)]
    for number, passage in enumerate(trace.passages[1:], 1):
        if passage.posture not in marks:
            continue
        first, mark = int(trace.starts[number]), marks[passage.posture]
        last = found.pop()
        if last.first < first:
            found.append(Part(last.start, last.first, first, last.mark, last.posture))
        found.append(Part(_begun(trace, first, mark), first, len(trace), mark, passage.posture))
    return [part for part in found if part.first < part.after] or found[:1]


def _begun(trace: Trace, first: int, mark: Start) -> Start:
    """The start of the whole walk from which one stands at a mark before a row."""
    x, y = trace.midpoints[max(first - 1, 0)].tolist()
    dx, dy = rotated(x, y, mark.heading)
    return Start(mark.x - dx, mark.y - dy, mark.heading)


def mark_of(trace: Trace, posture: str, start: Start) -> Break:
    """The break before a posture whose mark is where one stands then, if the whole walk had begun at a start."""
    x, y = trace.midpoints[max(trace.span(posture)[0] - 1, 0)].tolist()
    dx, dy = rotated(x, y, start.heading)
    return Break(posture, Start(round(start.x + dx, 6), round(start.y + dy, 6), start.heading))


def start_at(trace: Trace, room: Room, row: int) -> Start:
    """The start of the whole walk, as the part that a row belongs to lies in the room."""
    if not room.breaks:
        return room.start
    return next(part.start for part in parts_of(trace, room) if part.first <= row < part.after)


def in_room(trace: Trace, room: Room, points: Floats, parts: Sequence[Part] | None = None) -> list[Floats]:
    """Floor positions (n, 2), one for each row, in the room frame: an array for each part of the walk.

    Each but the first begins with the position of the row before it, where one stands again after a break.
    """
    found = []
    for part in parts if parts is not None else parts_of(trace, room):
        here = points[max(part.first - 1, 0) : part.after]
        found.append(rotated_points(here, part.start.heading) + (part.start.x, part.start.y))
    return found
