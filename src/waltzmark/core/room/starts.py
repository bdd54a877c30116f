"""Where to stand: the clearance of every start at a heading, the best of each heading, the best of all.

The clearance of a start is 1-Lipschitz in x and y, so a square of starts can be put aside when its middle is too far
below the best there is. Places are looked up in a raster of the room's free distances, coarse ones first; what is told
of a start is the exact clearance.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import cached_property
from typing import NamedTuple

import numpy as np

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.room import Room, Start, rotated_points
from waltzmark.core.room.clearance import Clearance, Demand, clearance_at, told
from waltzmark.core.room.fields import Field, Laid, Walls, field_of, walls_of
from waltzmark.core.room.sweep import Places, Sweep
from waltzmark.core.room.things import things_of, wall_heading
from waltzmark.core.room.thinning import at_the_edge, on_hulls, quarters_of, squares_over

__all__ = ["APART", "HEADINGS", "Standing", "StartMap", "Starts"]

#: Headings that are tried, degrees in the room frame: every 5°.
HEADINGS = tuple(float(degrees) for degrees in range(0, 360, 5))
#: Starts in a list differ by at least so many metres, or so many degrees.
APART = (0.5, 30.0)
_FINE = 0.008  # metres of the cells that are thinned to where it matters
#: Down to which half of a square which thinning will do, metres.
_LEVELS = ((0.24, 0.12), (0.06, 0.04), (0.0, 0.016))
_LAST = 0.012  # half a square that is not divided any more, metres
_SLACK = 0.004  # metres that a square must promise more, to be divided
_SURE = 0.08  # half a square from which on the best is looked at exactly, metres
_EXACTLY = 4  # squares of a heading that are looked at exactly
_MAPPED = 0.04  # metres of the cells that a map is made with
_POLISHED = 0.1  # metres that a start is moved at most, about, when it is polished
_LEAST_PLAIN = 1_000
_READY = 8  # demands at headings that are kept ready
_ROUGHLY = 0.6  # of the raster's step: the cells that thin what is looked up in it
_PLAIN, _LOOKED_UP = 20_000, 16_000_000  # squares that are divided at most, and places that are then looked up


class Standing(Record):
    """A start with what is known of it.

    suits: how its heading suits the room, None where it does nothing for it.
    """

    start: Start
    near: Clearance
    suits: Message | None = None


class StartMap(Record, eq=False):
    """What starts at one heading have to spare, metres.

    low: (2,) the first start, step: metres from one to the next; spare: (ny, nx), rows along y.
    """

    heading: float
    low: Floats
    step: float
    spare: Floats


class _Part(NamedTuple):
    """Places (m,) at a heading: where they are from a start, what they need, whether they are high.

    fields: each raster, with those that are looked up in it.
    """

    points: Floats
    needs: Floats
    high: Bools
    fields: list[tuple[Field, Ints, Laid]]


class Starts:
    """Looks for starts of a sweep in a room."""

    def __init__(self, sweep: Sweep, room: Room) -> None:
        self.sweep, self.room, self.things = sweep, room, things_of(room)
        self._ready: dict[tuple[float, int], tuple[Demand, _Part, _Part]] = {}
        self._walls_at: tuple[float, Floats, Floats] = (math.nan, np.zeros(0), np.zeros(0))

    @cached_property
    def _walls(self) -> Walls:
        return walls_of(self.things)

    @cached_property
    def _fields(self) -> tuple[Field, Field | None]:
        """Rasters of the room: for all places, and for high ones where that differs."""
        low = any(thing.low for thing in self.things.every) and self.room.arms
        return field_of(self.things), field_of(self.things, high=True) if low else None

    @cached_property
    def _thinned(self) -> dict[float, Demand]:
        return {}

    def thinned(self, cell: float) -> Demand:
        """Places that stand for all: one of each cell of so many metres at the edge of what is swept.

        The clearance of these is at least that of all, and at most 1.5 cells more where there is any.
        """
        if cell not in self._thinned:
            finest = self._finest
            which = at_the_edge(finest, cell) if cell > _FINE else np.arange(len(finest))
            self._thinned[cell] = self._less_behind(Demand.of(finest[which], self.room), cell)
        return self._thinned[cell]

    def _less_behind(self, demand: Demand, cell: float) -> Demand:
        """The same with fewer places behind backward steps: one of each cell at the edge of all of them."""
        behind = slice(demand.behind, None)
        if demand.behind == len(demand.which):
            return demand
        rows = demand.which[behind]
        places = Places.made(demand.points[behind], demand.needs[behind], rows)
        kept = at_the_edge(replace(places, high=demand.high[behind]), max(cell, _FINE))
        which = np.concatenate([np.arange(demand.behind), demand.behind + kept])
        return Demand(
            demand.places,
            demand.points[which],
            demand.needs[which],
            demand.high[which],
            demand.which[which],
            demand.behind,
        )

    @cached_property
    def _finest(self) -> Places:
        every = self.sweep.every
        return every[at_the_edge(every, _FINE)]

    def spare(self, heading: float, starts: Floats, demand: Demand, above: float = -math.inf) -> tuple[Floats, Floats]:
        """What starts (k, 2) at a heading have to spare by straight walls and raster, metres.

        (k,) of all, and (k,) behind backward steps; where the walls leave no more than *above*, only what they leave.
        """
        found, ends = (self._walls.spare(starts, at) for at in self._at_walls(heading))
        look = np.flatnonzero(told(found, ends) > above)
        if len(look):
            front, behind = self._by_raster(heading, starts[look], demand)
            found[look], ends[look] = np.minimum(found[look], front), np.minimum(ends[look], behind)
        return found, ends

    def _by_raster(self, heading: float, starts: Floats, demand: Demand) -> tuple[Floats, Floats]:
        """The same by the raster alone, endless where straight walls say all there is."""
        found = np.full((2, len(starts)), np.inf)
        if self._only_walls:
            return found[0], found[1]
        for part, least in zip(self._turned(heading, demand), found, strict=True):
            for field, _, laid in part.fields:
                np.minimum(least, field.least(laid, starts), out=least)
        return found[0], found[1]

    def _turned(self, heading: float, demand: Demand) -> tuple[_Part, _Part]:
        """What is asked at a heading: of all, and behind backward steps. The last ones are kept ready."""
        key = heading, id(demand)
        if key not in self._ready:
            if len(self._ready) > _READY:
                self._ready.clear()
            points, whole = rotated_points(demand.points, heading), self._fields[1] is None
            parts = []
            for here in (slice(0, demand.behind), slice(demand.behind, None)):
                some, needs, high = points[here], demand.needs[here], demand.high[here]
                fields = []
                for field, these in zip(self._fields, (whole | ~high, ~whole & high), strict=True):
                    of = np.flatnonzero(these)
                    if field is not None and len(of):
                        fields.append((field, of, field.laid(some[of], needs[of])))
                parts.append(_Part(some, needs, high, fields))
            self._ready[key] = demand, parts[0], parts[1]
        return self._ready[key][1:]

    def _at_walls(self, heading: float) -> tuple[Floats, Floats]:
        """(k,) what the start at the room's corner has to spare to each straight wall.

        At a heading, of all and behind backward steps.
        """
        if self._walls_at[0] != heading:
            needs = self.thinned(_FINE).needs
            parts = ((rotated_points(points, heading), needs[which]) for which, points in self._outmost)
            front, behind = (self._walls.at(points, wanted) for points, wanted in parts)
            self._walls_at = heading, front, behind
        return self._walls_at[1:]

    @cached_property
    def _outmost(self) -> tuple[tuple[Ints, Floats], tuple[Ints, Floats]]:
        """The places that come first to a straight wall, and where they are: of all, and behind backward steps."""
        demand = self.thinned(_FINE)
        parts = (np.arange(demand.behind), np.arange(demand.behind, len(demand.which)))
        front, behind = (part[on_hulls(demand.points[part], demand.needs[part])] for part in parts)
        return (front, demand.points[front]), (behind, demand.points[behind])

    def exactly(self, heading: float, starts: Floats, demand: Demand) -> Floats:
        """(k,) what starts have to spare by the things themselves, for some of the places.

        Those that the raster does not show to be further away than others.
        """
        sure, found = 2.0 * self._fields[0].error + 1e-3, []
        for part in self._turned(heading, demand):
            least = np.full(len(starts), np.inf)
            for field, of, laid in part.fields:
                rough = field.spare(laid, starts)
                near = np.flatnonzero(rough <= rough.min(axis=1, keepdims=True) + sure)
                start, place = near // len(of), of[near % len(of)]
                points, needs, high = part.points[place] + starts[start], part.needs[place], part.high[place]
                apart = self.things.distances(points)
                apart[self.things.low & high] = np.inf  # they pass above it
                np.minimum.at(least, start, apart.min(axis=0) - needs)
            found.append(least)
        return told(found[0], found[1])

    @cached_property
    def _only_walls(self) -> bool:
        """Whether straight walls say all there is."""
        return self._walls.convex and len(self.things.every) == 1

    def box(self, heading: float) -> tuple[Floats, Floats]:
        """(2,), (2,) the corners of the box of starts that are looked at.

        Those from which the walk lies within the walls' box, or holds it where it is larger.
        """
        points = rotated_points(self._outmost[0][1], heading)
        (low, top), (first, last) = self.things.bounds, (points.min(axis=0), points.max(axis=0))
        return np.minimum(low - first, top - last), np.maximum(low - first, top - last)

    def best_of(self, headings: Sequence[float] = HEADINGS, progress: Progress = SILENT) -> Floats:
        """(n, 3) of each heading the best start, x and y in metres, and what it has to spare, to about a centimetre."""
        found = np.empty((len(headings), 3))
        for number, heading in enumerate(headings):
            progress.tell(number / len(headings), "headings")
            found[number] = self._best_at(heading)
        return found

    def fits_at(self, heading: float) -> bool:
        """Whether there is a start at a heading that fits, to about a centimetre."""
        return bool(self._best_at(heading, enough=0.0)[2] >= -1e-9)

    def goes_in(self, headings: Sequence[float]) -> Bools:
        """(h,) at which headings the walk, with what it must keep clear, is no larger than the walls' box.

        At the others no start fits.
        """
        points, needs = self._hull
        angles = np.radians(headings)
        along = np.array([[np.cos(angles), np.sin(angles)], [-np.sin(angles), np.cos(angles)]])  # x and y, turned
        turned = points @ along
        sizes = (turned + needs).max(axis=1) - (turned - needs).min(axis=1)
        low, top = self.things.bounds
        return np.asarray((sizes <= (top - low)[:, None] + 1e-9).all(axis=0))

    @cached_property
    def _hull(self) -> tuple[Floats, Floats]:
        """(k, 2) the outmost of all places, and (k, 1) what each needs."""
        every = self.sweep.every
        which = on_hulls(every.points, every.radii)
        return every.points[which], every.radii[which, None] + self.room.clearance

    def _best_at(self, heading: float, enough: float = math.inf) -> Floats:
        """(3,) the best start at a heading and what it has to spare.

        The search ends when that is *enough*, or cannot be had.
        """
        low, top = self.box(heading)
        size, fine = np.maximum(top - low, 1e-6), self.thinned(_FINE)
        half = max(float(size.min()) / 2.0, float(size.max()) / 16.0, _LAST)
        # What a wide raster cannot tell apart is not looked at one by one.
        roughly = 0.0 if self._only_walls else _ROUGHLY * self._fields[0].step
        last_half = max(_LAST, roughly / 2.0)
        squares = squares_over(low, top, half)
        error = 0.0 if self._only_walls else self._fields[0].error
        best = np.array([0.0, 0.0, -np.inf])
        while True:
            cell = max(next(cell for least, cell in _LEVELS if half >= least), roughly)
            reach = half * math.sqrt(2.0) + error - _SLACK
            found, ends = self.spare(heading, squares, self.thinned(cell), best[2] - reach)
            value = told(found, ends)
            if half > _SURE:
                at = int(np.argmax(value))
                order = np.array([at])
                exact = told(found, ends, -error - 1.5 * cell)[order]
            else:
                order = np.argsort(-value)[: 1 if half > last_half else _EXACTLY]
                exact = self.exactly(heading, squares[order], fine)
            if exact.max() > best[2]:
                best = np.array([*squares[order[int(np.argmax(exact))]], exact.max()])
            if best[2] >= enough or half <= last_half:
                return best
            # One that cannot be enough need not be known better.
            keep = told(found, ends, reach) >= (max(best[2], enough) if enough < math.inf else best[2])
            if not keep.any():
                return best
            squares, half = quarters_of(squares[keep], half), half / 2.0
            most = min(_PLAIN, max(_LOOKED_UP // len(self.thinned(cell).points), _LEAST_PLAIN))
            if len(squares) > most:  # many are as good: any of them will do
                squares = squares[:: len(squares) // most + 1]

    def map_at(self, heading: float, step: float = 0.05) -> StartMap:
        """What every start at a heading has to spare, within about 5 cm."""
        low, top = self.box(heading)
        step = max(step, float((top - low).max()) / 400.0)
        x, y = (np.arange(low[axis], top[axis] + step, step) for axis in (0, 1))
        grid = np.stack(np.meshgrid(x, y), axis=-1).reshape(-1, 2)
        walls = [self._walls.spare(grid, at) for at in self._at_walls(heading)]
        # A few places say where anything but the straight walls can matter at all.
        few, cell = self._by_raster(heading, grid, self.thinned(_LEVELS[0][1])), _LEVELS[0][1]
        sure = self._fields[0].error + 1.5 * cell
        near = np.flatnonzero((few[0] < walls[0] + sure) | (few[1] < walls[1] + sure))
        if len(near):
            for values, found in zip(walls, self._by_raster(heading, grid[near], self.thinned(_MAPPED)), strict=True):
                values[near] = np.minimum(values[near], found)
        spare = told(walls[0], walls[1])
        return StartMap(heading, low, step, spare.reshape(len(y), len(x)))

    def surely(self, heading: float, starts: Floats) -> tuple[Bools, Bools]:
        """Which starts (k, 2) at a heading certainly fit, and which are too close to say without measuring exactly."""
        front, behind = self.spare(heading, starts, self.thinned(_FINE))
        error = 1e-3 + (0.0 if self._only_walls else self._fields[0].error)
        fits = np.minimum(front, behind) >= error + 1.5 * _FINE
        return fits, ~fits & (told(front, behind, error) >= 0.0)

    def check(self, start: Start) -> Clearance:
        """The exact clearance of a start."""
        self.sweep.prepare()
        return clearance_at(self.sweep, self.room, start)

    def polished(self, start: Start, turns: bool = True) -> tuple[Start, Clearance]:
        """The best start near one: moved by centimetres, then millimetres, and *turned* by degrees, then tenths."""
        fine, best = self.thinned(_FINE), start
        spare = float(self.exactly(start.heading, np.array([[start.x, start.y]]), fine)[0])
        for step, turn in ((0.02, 1.0), (0.005, 0.25), (0.001, 0.1)):
            ways = step * np.array([(x, y) for x in (-1, 0, 1) for y in (-1, 0, 1)])
            while True:
                tried: list[tuple[float, Start]] = []
                for by in (0.0, turn, -turn) if turns else (0.0,):
                    heading = normal(round(best.heading + by, 3))
                    places = np.round(np.array([best.x, best.y]) + ways, 4)
                    found = self.exactly(heading, places, fine)
                    at = int(np.argmax(found))
                    tried.append((float(found[at]), Start(float(places[at, 0]), float(places[at, 1]), heading)))
                better, to = max(tried, key=lambda each: each[0])
                if better <= spare + 1e-5:
                    break
                spare, best = better, to
        return best, self.check(best)

    def suiting(self) -> dict[float, Message]:
        """Headings that suit the room, and why: along its lines, facing a named wall, square to a wall."""
        found: dict[float, Message] = {}
        names = dict(self.room.walls)
        for number in range(len(self.room.outline)):
            heading = normal(round(wall_heading(self.room.outline, number), 3))
            if number in names:
                found[heading] = message("suits.wall", name=names[number])
            else:
                found.setdefault(heading, message("suits.square"))
        lines = self.room.lines
        for turn in (0.0, 180.0) if not lines.tiles else (0.0, 90.0, 180.0, 270.0):
            found.setdefault(normal(lines.direction + turn), message("suits.tiles" if lines.tiles else "suits.boards"))
        return found

    def _free(self, start: Start) -> float:
        """How far a start's mark lies on free floor, metres: nobody can stand on one that lies outside of it."""
        return float(self.things.free(np.array([[start.x, start.y]]))[0])

    def listed(self, rose: Floats, headings: Sequence[float] = HEADINGS, most: int = 6) -> list[Standing]:
        """The best starts, each exact and polished, the best first, different enough from each other.

        Among them the best of the headings that suit the room. rose: what `best_of` gives for *headings*.
        """
        suits = self.suiting()
        asked = [heading for heading in suits if heading not in headings]
        every = np.concatenate([rose, self.best_of(asked)]) if asked else rose
        pool = [
            (spare, Start(x, y, heading))
            for (x, y, spare), heading in zip(every.tolist(), (*headings, *asked), strict=True)
        ]
        pool.sort(key=lambda each: -each[0])
        found: list[Standing] = []

        def take(start: Start, turns: bool) -> bool:
            if any(not apart(start, other.start) for other in found) or self._free(start) < -_POLISHED:
                return False
            at, near = self.polished(start, turns)
            if any(not apart(at, other.start) for other in found) or self._free(at) <= 0.0:
                return False
            found.append(Standing(at, near, suits.get(at.heading)))
            return True

        for _, start in pool:
            if len(found) >= most - 2 or (found and found[0].near.fits and self.check(start).spare < 0):
                break
            take(start, True)
        taken = 0
        for _, start in pool:
            if taken < 2 and start.heading in suits:
                taken += take(start, False)
        # The very best may lie between the headings that were tried.
        return sorted(found, key=lambda each: -each.near.spare)


def apart(one: Start, other: Start) -> bool:
    """Whether two starts are different enough to be listed both."""
    far = math.hypot(one.x - other.x, one.y - other.y) >= APART[0]
    return far or abs(heading_difference(one.heading, other.heading)) >= APART[1]
