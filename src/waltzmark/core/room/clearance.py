"""Does the walk fit the room from a start? The clearance of what it sweeps, with the count and the thing."""

from __future__ import annotations

import math

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.messages import Message
from waltzmark.core.base.records import Record
from waltzmark.core.form.room import Room, Start, rotated_points
from waltzmark.core.room.breaks import parts_of
from waltzmark.core.room.sweep import CELL, Places, Sweep
from waltzmark.core.room.things import Thing, Things, things_of, wall_name
from waltzmark.core.walk.trace import Trace

__all__ = ["Clearance", "Demand", "RoomCheck", "check_room", "clearance_at", "name_of", "told"]

#: Metres by which a clearance may fall short for how numbers are stored.
EXACT = 1e-9
#: Metres from one place that is looked at behind a backward step to the next: soles are rows of places anyway.
_BEHIND = 0.05
_FINELY = 0.002  # and when it is told how far behind is free


class Clearance(Record):
    """How near a walk comes from one start, where that matters most.

    clearance: metres between the swept place and the thing, negative when it goes in or beyond; behind a backward step
    (*behind*), how far there is room to go on backward, keeping what is wanted around; wanted: metres that are wanted
    there; row: the count; thing: the number of what it is near to, 0 for the walls; place: (x, y) the point of the
    thing, point: that of the sweep, both in the room frame, metres.
    """

    clearance: float
    wanted: float
    row: int
    thing: int
    place: tuple[float, float]
    point: tuple[float, float]
    behind: bool = False

    @property
    def fits(self) -> bool:
        return self.clearance >= self.wanted - EXACT

    @property
    def spare(self) -> float:
        """Metres to spare; negative when it does not fit."""
        return self.clearance - self.wanted


class RoomCheck(Record):
    """Whether the walk fits, and where it comes closest.

    clearance: least distance in metres between the swept space and a wall or an obstacle, negative when it goes in or
    beyond; wanted: what is wanted there; what: its name; row: the count; place: that point in the floor frame
    of its start, metres.
    """

    fits: bool
    clearance: float
    wanted: float
    what: Message
    row: int
    place: tuple[float, float]


def check_room(trace: Trace, room: Room) -> RoomCheck:
    """Whether the walk fits the room from its start, with the clearance where that matters most."""
    found: Clearance | None = None
    here = room
    for part in parts_of(trace, room):
        near = clearance_at(Sweep(trace, room.arms, part.rows(trace)), room, part.start)
        if found is None or near.spare < found.spare:
            found, here = near, room.begun_at(part.start)
    assert found is not None
    what = name_of(room, found)
    x, y = here.to_floor(np.array(found.place)).tolist()
    return RoomCheck(found.fits, found.clearance, found.wanted, what, found.row, (x, y))


def name_of(room: Room, near: Clearance) -> Message:
    """What a walk comes near to."""
    thing = things_of(room).every[near.thing]
    return thing.name or wall_name(room, np.array(near.place))


class Demand(Record, eq=False):
    """What swept places ask of a room.

    points: (m, 2) in the floor frame; needs: (m,) metres from anything, their radius among them; high: (m,) whether
    they pass above what is low; which: (m,) their numbers among *places*. From *behind* on they are where feet that
    step backward would get to if they went on: there the sole must keep what is wanted around as well, up to what is
    wanted behind. So nothing is asked to its sides that is not asked anyway.
    """

    places: Places
    points: Floats
    needs: Floats
    high: Bools
    which: Ints
    behind: int

    @staticmethod
    def of(places: Places, room: Room) -> Demand:
        """What some places ask of a room."""
        further = room.behind - room.clearance
        back = np.flatnonzero(~np.isnan(places.back)) if further > 0.0 else np.zeros(0, dtype=np.int64)
        steps = further * _shares(math.ceil(further / _BEHIND)) if len(back) else np.zeros(0)
        which = np.concatenate([np.arange(len(places)), np.tile(back, len(steps))])
        points = places.points[which]
        on = steps[:, None, None] * _ways(places.back[back])
        points[len(places) :] += on.reshape(-1, 2)
        return Demand(places, points, places.radii[which] + room.clearance, places.high[which], which, len(places))


def _shares(parts: int) -> Floats:
    return np.arange(1, parts + 1) / parts


def _ways(headings: Floats) -> Floats:
    """(m, 2) unit vectors of headings."""
    angles = np.radians(headings)
    return np.column_stack([np.sin(angles), np.cos(angles)])


def told(all_of_it: Floats, behind: Floats, reach: float = 0.0) -> Floats:
    """(k,) what starts have to spare: what is wanted behind backward steps counts where it is not there.

    reach: metres that both may be better by, for a bound.
    """
    return np.where(behind + reach >= 0.0, all_of_it, np.minimum(all_of_it, behind)) + reach


def clearance_at(sweep: Sweep, room: Room, start: Start) -> Clearance:
    """The clearance of a start, exactly: the least, over things and swept places, of distance less radius.

    Where there is less behind a backward step than is wanted there, and nothing is worse, it is that.
    """
    things = things_of(room)
    tightest = np.inf

    def below() -> float:
        """What is known not to be tighter than this need not be measured; what there is too little of always is."""
        return max(tightest, 0.0) + 2 * CELL

    def placed(points: Floats) -> Floats:
        return rotated_points(points, start.heading) + (start.x, start.y)

    def spare_of(places: Places, real: bool) -> tuple[Floats, Floats]:
        nonlocal tightest
        demand = Demand.of(places, room)
        points, least = placed(demand.points), np.full(len(demand.which), np.inf)
        for thing in things.every:
            least = np.minimum(least, tightness(thing, points, demand, below()))
        if real:
            tightest = min(tightest, float(least[: demand.behind].min(initial=np.inf)))
        behind = np.full(len(places), np.inf)
        np.minimum.at(behind, demand.which[demand.behind :], least[demand.behind :])
        return least[: demand.behind], behind

    places = sweep.near(spare_of)
    demand = Demand.of(places, room)
    points = placed(demand.points)
    which, at, best, least = 0, 0, np.inf, np.full(len(points), np.inf)
    for number, thing in enumerate(things.every):
        spare = tightness(thing, points, demand, below())
        first = int(np.argmin(spare[: demand.behind]))
        if spare[first] < best:
            which, at, best = number, first, float(spare[first])
        np.minimum(least, spare, out=least)
    px, py = points[at].tolist()
    found = Clearance(
        best + room.clearance,
        room.clearance,
        int(places.rows[at]),
        which,
        _nearest(things.every[which], points[at]),
        (px, py),
    )
    short = demand.which[demand.behind :][least[demand.behind :] < -EXACT]
    short = np.unique(short[least[short] >= 0.0])  # the others are told of as too near anyway
    if len(short):
        back = _behind(places[short], points[short], things, room, start)
        if back is not None and back.spare < min(found.spare, 0.0):
            return back
    return found


def _nearest(thing: Thing, point: Floats) -> tuple[float, float]:
    x, y = thing.nearest(point).tolist()
    return x, y


def _behind(places: Places, points: Floats, things: Things, room: Room, start: Start) -> Clearance | None:
    """Where feet that step backward have least room to go on.

    Of places (m,) at *points* (m, 2) of the room that have what is wanted around them, but not what is wanted behind.
    """
    ways, needs = _ways(places.back + start.heading), places.radii + room.clearance

    def spare(on: Floats, some: Ints) -> tuple[Floats, Ints]:
        """(k,) what some of these have to spare so far on (k,), and to which thing."""
        at = points[some] + on[:, None] * ways[some]
        each = np.where(things.low & places.high[some], np.inf, things.distances(at) - needs[some])
        return each.min(axis=0), each.argmin(axis=0)

    further = room.behind - room.clearance
    steps = further * _shares(math.ceil(further / _FINELY))
    every, last = np.arange(len(places)), 0.0
    for on in steps.tolist():
        caught = every[spare(np.full(len(every), on), every)[0] < -EXACT]
        if len(caught):
            break
        last = on
    else:
        return None
    low, high_ = np.full(len(caught), last), np.full(len(caught), on)
    for _ in range(30):  # halved down to less than a nanometre
        middle = (low + high_) / 2.0
        inside = spare(middle, caught)[0] < 0.0
        low, high_ = np.where(inside, low, middle), np.where(inside, middle, high_)
    first = int(np.argmin(low))
    number, gone = int(caught[first]), float(low[first])
    thing = int(spare(high_[first : first + 1], caught[first : first + 1])[1][0])
    point = points[number] + gone * ways[number]
    x, y = point.tolist()
    return Clearance(
        room.clearance + gone,
        room.behind,
        int(places.rows[number]),
        thing,
        _nearest(things.every[thing], point),
        (x, y),
        behind=True,
    )


def tightness(thing: Thing, points: Floats, demand: Demand, below: float = np.inf) -> Floats:
    """(m,) metres that each of some demands has to spare to a thing.

    At *points* (m, 2) of the room; endless for those that have more than *below* anyway, and for what passes above it.
    """
    spare = np.full(len(points), np.inf)
    look = ~(demand.high & thing.low)
    if np.isfinite(below) and not thing.around:
        low, high = thing.bounds
        # No place outside the box around a thing is nearer to it than to the box.
        look &= np.maximum(low - points, points - high).max(axis=1) - demand.needs < below
    if look.any():
        spare[look] = thing.distances(points[look]) - demand.needs[look]
    return spare
