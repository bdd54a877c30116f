"""Does the walk fit the room from a start? The clearance of what it sweeps, with the count and the thing."""

from __future__ import annotations

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.base.records import record
from waltzmark.core.form.room import Room, Start, rotated_points
from waltzmark.core.room.sweep import CELL, Places, Sweep
from waltzmark.core.room.things import Thing, things_of, wall_name
from waltzmark.core.walk.trace import Trace

__all__ = ["Clearance", "Demand", "RoomCheck", "check_room", "clearance_at", "name_of", "parts_of", "told"]

#: Metres by which a clearance may fall short for how numbers are stored.
EXACT = 1e-9


@record
class Clearance:
    """How near a walk comes from one start, where that matters most.

    clearance: metres between the swept place and the thing, negative when it goes in or beyond; wanted: metres that are
    wanted there, which is more behind backward steps; row: the count; thing: the number of what it is near to, 0 for
    the walls; place: (x, y) the point of the thing, point: that of the sweep, both in the room frame, metres.
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


@record
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


@record(eq=False)
class Demand:
    """What swept places ask for. points: (m, 2) in the floor frame; needs: (m,) metres from anything, their radius
    among them; high: (m,) whether they pass above what is low; which: (m,) their numbers among *places*. Those of
    backward steps come twice, the second time with what is wanted behind them: from *behind* on."""

    places: Places
    points: Floats
    needs: Floats
    high: Bools
    which: Ints
    behind: int

    @staticmethod
    def of(places: Places, room: Room) -> Demand:
        """What some places ask of a room."""
        back = np.flatnonzero(places.back) if room.behind > room.clearance else np.zeros(0, dtype=np.int64)
        which = np.concatenate([np.arange(len(places)), back])
        needs = places.radii[which] + room.clearance
        needs[len(places) :] += room.behind - room.clearance
        return Demand(places, places.points[which], needs, places.high[which], which, len(places))


def told(all_of_it: Floats, behind: Floats, reach: float = 0.0) -> Floats:
    """(k,) what starts have to spare: what is wanted behind backward steps counts where it is not there. reach: metres
    that both may be better by, for a bound."""
    return np.where(behind + reach >= 0.0, all_of_it, np.minimum(all_of_it, behind)) + reach


def clearance_at(sweep: Sweep, room: Room, start: Start) -> Clearance:
    """The clearance of a start, exactly: the least, over things and swept places, of distance less radius. Where there
    is less behind a backward step than is wanted there, it is that."""
    things = things_of(room)
    limit = max(room.behind - room.clearance, 0.0) + 2 * CELL

    def placed(points: Floats) -> Floats:
        return rotated_points(points, start.heading) + (start.x, start.y)

    tightest = np.inf

    def spare_of(places: Places, real: bool) -> tuple[Floats, Floats]:
        nonlocal tightest
        demand = Demand.of(places, room)
        points, least = placed(demand.points), np.full(len(demand.which), np.inf)
        for thing in things.every:
            # What is known not to be tighter by so much need not be measured.
            least = np.minimum(least, tightness(thing, points, demand, tightest + limit))
        if real:
            tightest = min(tightest, float(least.min(initial=np.inf)))
        behind = np.full(len(places), np.inf)
        behind[demand.which[demand.behind :]] = least[demand.behind :]
        return least[: demand.behind], behind

    places = sweep.near(spare_of)
    demand = Demand.of(places, room)
    points = placed(demand.points)
    spare = np.stack([tightness(thing, points, demand, tightest + limit) for thing in things.every])
    front = spare[:, : demand.behind]
    which, at = (int(each) for each in np.unravel_index(int(np.argmin(front)), front.shape))
    best, wanted = float(spare[which, at]), room.clearance
    if demand.behind < len(demand.which):
        back = spare[:, demand.behind :]
        thing, place = (int(each) for each in np.unravel_index(int(np.argmin(back)), back.shape))
        if back[thing, place] < min(best, 0.0):
            which, at, best, wanted = thing, demand.behind + place, float(back[thing, place]), room.behind
    x, y = things.every[which].nearest(points[at]).tolist()
    px, py = points[at].tolist()
    return Clearance(best + wanted, wanted, int(places.rows[demand.which[at]]), which, (x, y), (px, py))


def tightness(thing: Thing, points: Floats, demand: Demand, below: float = np.inf) -> Floats:
    """(m,) metres that each of some demands, at *points* (m, 2) of the room, has to spare to a thing; endless for those
    that have more than *below* anyway, and for what passes above it."""
    spare = np.full(len(points), np.inf)
    look = ~(demand.high & thing.low)
    if np.isfinite(below):
        low, high = thing.bounds
        if thing.around:
            if thing.is_box:
                away = np.minimum(points - low, high - points).min(axis=1)
                look &= away - demand.needs < below
        else:
            beyond = np.maximum(low - points, points - high)
            # No place outside the box around a thing is nearer to it than to the box.
            look &= beyond.max(axis=1) - demand.needs < below
    if look.any():
        spare[look] = thing.distances(points[look]) - demand.needs[look]
    return spare
