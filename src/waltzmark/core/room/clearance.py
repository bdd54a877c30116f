"""Does the walk fit the room from a start? The clearance of what it sweeps, with the count and the thing."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.form.room import Room, Start, rotated_points
from waltzmark.core.room.sweep import CELL, Places, Sweep
from waltzmark.core.room.things import Thing, things_of, wall_name
from waltzmark.core.walk.trace import Trace

__all__ = ["Clearance", "RoomCheck", "check_room", "clearance_at", "parts_of", "tightness"]

#: Metres by which a clearance may fall short for how numbers are stored.
EXACT = 1e-9


@dataclass(frozen=True)
class Clearance:
    """How near a walk comes from one start, where that matters most.

    clearance: metres between the swept place and the thing, negative when it goes in or beyond; wanted: metres that are
    wanted there; row: the count; thing: the number of what it is near to, 0 for the walls; place: (x, y) the point of
    the thing, point: that of the sweep, both in the room frame, metres.
    """

    clearance: float
    wanted: float
    row: int
    thing: int
    place: tuple[float, float]
    point: tuple[float, float]

    @property
    def fits(self) -> bool:
        return self.clearance >= self.wanted - EXACT

    @property
    def spare(self) -> float:
        """Metres to spare; negative when it does not fit."""
        return self.clearance - self.wanted


@dataclass(frozen=True)
class RoomCheck:
    """Whether the walk fits, and where it comes closest.

    clearance: least distance in metres between the swept space and a wall or an obstacle, negative when it goes in or
    beyond; wanted: what is wanted there; what: its name in words; row: the count; place: that point in the floor frame
    of its start, metres.
    """

    fits: bool
    clearance: float
    wanted: float
    what: str
    row: int
    place: tuple[float, float]


def check_room(trace: Trace, room: Room, say: Figures = PLAIN) -> RoomCheck:
    """Whether the walk fits the room from its start, with the clearance where that matters most."""
    found: Clearance | None = None
    here = room
    for start, rows in parts_of(trace, room):
        near = clearance_at(Sweep(trace, room.arms, rows), room, start)
        if found is None or near.spare < found.spare:
            found, here = near, room.begun_at(start)
    assert found is not None
    what = name_of(room, found, say)
    x, y = here.to_floor(np.array(found.place)).tolist()
    return RoomCheck(found.fits, found.clearance, found.wanted, what, found.row, (x, y))


def parts_of(trace: Trace, room: Room) -> list[tuple[Start, Bools | None]]:
    """The parts of a walk between its breaks: the start of each, and (n,) its rows; None where it is the whole."""
    order = [passage.posture for passage in trace.passages[1:] if passage.posture is not None]
    known = {each.posture for each in room.breaks}
    if not known.intersection(order):
        return [(room.start, None)]
    found: list[tuple[Start, Bools | None]] = []
    for number, posture in enumerate([None, *order]):
        if posture is None or posture in known:
            rows = np.zeros(len(trace), dtype=bool)
            found.append((room.start_of(posture, order), rows))
        rows[int(trace.starts[number]) : int(trace.starts[number + 1])] = True
    return [(start, rows) for start, rows in found if rows is not None and rows.any()]


def name_of(room: Room, near: Clearance, say: Figures = PLAIN) -> str:
    """What a walk comes near to, in words."""
    thing = things_of(room).every[near.thing]
    return thing.name or wall_name(room, np.array(near.place), say)


def clearance_at(sweep: Sweep, room: Room, start: Start) -> Clearance:
    """The clearance of a start, exactly: the least, over things and swept places, of distance and radius; where more is
    wanted behind backward steps, that counts there."""
    things = things_of(room)

    def placed(points: Floats) -> Floats:
        return rotated_points(points, start.heading) + (start.x, start.y)

    tightest = np.inf

    def spare_of(places: Places) -> Floats:
        nonlocal tightest
        points, least = placed(places.points), np.full(len(places), np.inf)
        for thing in things.every:
            # What is known not to be tighter by so much need not be measured.
            least = np.minimum(least, tightness(thing, points, places, room, tightest + 2 * CELL))
        tightest = min(tightest, float(least.min(initial=np.inf)))
        return least

    places = sweep.near(spare_of)
    points = placed(places.points)
    best, found = np.inf, (0, 0)
    for number, thing in enumerate(things.every):
        spare = tightness(thing, points, places, room, best)
        at = int(np.argmin(spare))
        if spare[at] < best:
            best, found = float(spare[at]), (number, at)
    which, at = found
    wanted = float(wanted_of(places, room)[at])
    x, y = things.every[which].nearest(points[at]).tolist()
    px, py = points[at].tolist()
    return Clearance(best + wanted, wanted, int(places.rows[at]), which, (x, y), (px, py))


def wanted_of(places: Places, room: Room) -> Floats:
    """(m,) metres wanted about each place."""
    return np.where(places.back, max(room.clearance, room.behind), room.clearance)


def tightness(thing: Thing, points: Floats, places: Places, room: Room, below: float = np.inf) -> Floats:
    """(m,) metres that each place, at *points* (m, 2) of the room, has to spare to a thing; endless for those that have
    more than *below* anyway, and for what passes above it."""
    needs = places.radii + wanted_of(places, room)
    spare = np.full(len(points), np.inf)
    look = ~(places.high & thing.low)
    if np.isfinite(below):
        low, high = thing.bounds
        if thing.around:
            if thing.is_box:
                away = np.minimum(points - low, high - points).min(axis=1)
                look &= away - needs < below
        else:
            away = np.hypot(*np.maximum(np.maximum(low - points, points - high), 0.0).T)
            inside = away <= 0.0
            look &= inside | (away - needs < below)
    if look.any():
        spare[look] = thing.distances(points[look]) - needs[look]
    return spare
