"""A form walked round and round: what each round adds, when it is home, how long it stays in the room."""

from __future__ import annotations

import math

from waltzmark.core.base.angles import heading_difference, normal, rotated
from waltzmark.core.base.records import record
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Start
from waltzmark.core.room.clearance import clearance_at
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.walk.trace import Trace

__all__ = ["MOST", "Rounds", "home_after", "rounds_in_room", "rounds_of"]

#: So many rounds are looked at.
MOST = 72


@record
class Rounds:
    """The first round's rigid motion, repeated. drift: metres right and ahead in the frame of its beginning; turn:
    degrees a round; home_after: rounds until it is home within the tolerance, None for never in `MOST`."""

    drift: tuple[float, float]
    turn: float
    home_after: int | None


def rounds_of(form: Form, trace: Trace) -> Rounds:
    """What a whole round does."""
    drift = trace.midpoints[-1] - trace.midpoints[0]
    x, y = rotated(float(drift[0]), float(drift[1]), -float(trace.torso[0]))
    turn = heading_difference(float(trace.torso[0]), float(trace.torso[-1]))
    return Rounds((x, y), turn, home_after((x, y), turn, form.home.within, form.home.turn))


def home_after(drift: tuple[float, float], turn: float, within: float, degrees: float) -> int | None:
    """How many rounds of a drift and a turn end within so many metres and degrees of where they began."""
    x = y = heading = 0.0
    for number in range(1, MOST + 1):
        dx, dy = rotated(drift[0], drift[1], heading)
        x, y, heading = x + dx, y + dy, heading + turn
        if math.hypot(x, y) <= within + 1e-9 and abs(heading_difference(0.0, normal(heading))) <= degrees + 1e-9:
            return number
    return None


def rounds_in_room(form: Form, trace: Trace, most: int = MOST) -> int:
    """For how many rounds the walk stays in the room, as it should; at most *most*."""
    room = form.room
    if room is None:
        return most
    sweep, found = Sweep(trace, room.arms), rounds_of(form, trace)
    sweep.prepare()
    drift = trace.midpoints[-1] - trace.midpoints[0]
    start = room.start
    for number in range(most):
        if not clearance_at(sweep, room, start).fits:
            return number
        # The next round begins where this one ended, turned as far as it turned.
        dx, dy = rotated(float(drift[0]), float(drift[1]), start.heading)
        start = Start(start.x + dx, start.y + dy, normal(start.heading + found.turn))
    return most
