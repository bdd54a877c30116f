"""What is tried on the way to a change: other starts, other sizes, less that is wanted; and how a mark is told."""

from __future__ import annotations

import math
import time
from collections.abc import Sequence

import numpy as np

from waltzmark.core.base.angles import heading_difference, rotated
from waltzmark.core.base.leftright import SIDES
from waltzmark.core.base.messages import Message, Value, message
from waltzmark.core.base.records import replace
from waltzmark.core.form.room import Room, Start
from waltzmark.core.room.clearance import clearance_at
from waltzmark.core.room.starts import Starts
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.walk.ground import STEP
from waltzmark.core.walk.trace import Trace

__all__ = ["FACING", "away_from", "first_that_fits", "less_wanted", "longer", "told_turned"]


FACING = 0.05  # degrees from which one start is turned against another


def less_wanted(sweep: Sweep, room: Room) -> Room | None:
    """The room with as much space wanted as there is from its start.

    Around, and behind backward steps; None where the walk does not keep within it.
    """
    least = clearance_at(sweep, replace(room, behind=0.0), room.start).clearance
    around = min(math.floor(100.0 * least) / 100.0, room.clearance)
    if around < 0.0:
        return None
    made = replace(room, clearance=around)
    near = clearance_at(sweep, made, room.start)
    if near.fits or not near.behind:
        return made
    return replace(made, behind=max(math.floor(100.0 * near.clearance) / 100.0, around))


def longer(trace: Trace, other: Trace) -> bool:
    """Whether a step of another walk of the same counts is longer than that of a walk, by more than can be written."""
    for side in SIDES:
        rows = np.flatnonzero(trace.move_kinds[:, side] == STEP)
        was, now = (
            np.hypot(*(each.heels[rows, side] - each.heels[np.maximum(rows - 1, 0), side.other]).T)
            for each in (trace, other)
        )
        if (now > was + 1e-3).any():
            return True
    return False


def away_from(own: Start, to: Start) -> tuple[Message, ...]:
    """How far one start is from another, for somebody who stands there."""
    right, ahead = rotated(to.x - own.x, to.y - own.y, -own.heading)
    ways = tuple(
        message(f"away.{kinds[value < 0]}", by=abs(value))
        for value, kinds in ((ahead, ("ahead", "back")), (right, ("right", "left")))
        if abs(value) >= 0.005
    )
    return ways or (message("away.here" if math.hypot(right, ahead) < 5e-4 else "away.hair"),)


def told_turned(kind: str, own: Start, to: Start, **fields: Value) -> Message:
    """A message about a mark, with how it is turned against another one where it is."""
    turn = heading_difference(own.heading, to.heading)
    if abs(turn) < FACING:
        return message(kind, **fields)
    return message(f"{kind}.{'cw' if turn > 0 else 'ccw'}", turn=abs(turn), **fields)


def first_that_fits(starts: Starts, headings: Sequence[float], until: float) -> Start | None:
    """The best start at the first heading where one fits, exactly; none when there is no time to look any further."""
    for heading, goes_in in zip(headings, starts.goes_in(headings).tolist(), strict=True):
        if time.monotonic() > until:
            return None
        if goes_in and starts.fits_at(heading):
            x, y, _ = starts.best_of([heading])[0].tolist()
            start, near = starts.polished(Start(x, y, heading), turns=False)
            if near.fits:
                return start
    return None
