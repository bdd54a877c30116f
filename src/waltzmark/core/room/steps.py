"""The smallest changes of steps that make a walk fit a room.

At a fixed heading all places where the body or a sole rests are affine in the lengths of the steps (`walk.lengths`),
so the smallest sum of changes is a linear programme: each place inside each wall less what it needs, each landing
within reach. What walking again shows to be too near is added, until nothing is. In a convex room without obstacles
that is the smallest there is at that heading. With obstacles each place keeps to the far side of one edge of each,
chosen anew after each solution: then it is the best found.
"""

from __future__ import annotations

import math
import time
from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.programmes import cheapest
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record
from waltzmark.core.edit.bounds import less_and_more, within_reach
from waltzmark.core.edit.resizing import Resize, resized
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Room, Start, rotated_points
from waltzmark.core.room.clearance import Demand, clearance_at
from waltzmark.core.room.fields import walls_of
from waltzmark.core.room.starts import Starts
from waltzmark.core.room.sweep import BODY, Places, Sweep
from waltzmark.core.room.things import Thing, Things, things_of
from waltzmark.core.walk.lengths import Measure, measures_of
from waltzmark.core.walk.walk import walk

__all__ = ["Fitted", "fitted_steps"]

_ROUNDS = 24
_SECONDS = 3.0  # that one solution may take
_A_POSTURE = 10.0  # metres of change that sparing a posture is worth
_MORE = 160  # places that are added in one round
_NEAR = 0.8  # metres from a thing within which a place keeps to one of its edges
_EXACT = 1e-4  # metres that what is written is told to
_SURE = 2e-5  # metres more than wanted, for how lengths are written; in each round so much more


class Fitted(Record):
    """A form that fits from a start, and what of its steps was changed for it."""

    form: Form
    start: Start
    changes: tuple[Resize, ...]

    @property
    def total(self) -> float:
        """The sum of all changes, metres."""
        return sum(change.by for change in self.changes)

    @property
    def postures(self) -> int:
        """How many postures are changed."""
        return len({change.posture for change in self.changes})


def fitted_steps(
    form: Form,
    room: Room,
    begun: Start,
    fewest: bool = False,
    progress: Progress = SILENT,
    locked: Sequence[str] = (),
    until: float = math.inf,
    most: float = math.inf,
) -> Fitted | None:
    """The form with the smallest sum of changes of its steps that fits.

    Of lengths and widths, at the heading of *begun*, which is a start to look from; with *fewest*, the fewest postures
    changed. None where none was found, or where no step has a length. until: the search ends then, by `time.monotonic`;
    most: the part of itself by which a length may change.
    """
    fitting = _Fitting(form, room, begun, fewest, locked, until, most)
    return fitting.found(progress) if fitting.measures.every else None


class _Fitting:
    """One search, at one heading. x: (k + 2,) the changes of the measures and the start, metres."""

    def __init__(
        self, form: Form, room: Room, begun: Start, fewest: bool, locked: Sequence[str], until: float, most: float
    ) -> None:
        self.form, self.room, self.heading, self.fewest = form, room, begun.heading, fewest
        self.until = until
        self.trace = walk(form)
        self.measures = measures_of(form, self.trace)
        self.things = things_of(room)
        self.walls, self.blocks = _convex(self.things)
        every = self.measures.every
        low, high = less_and_more(form, every, locked)
        if math.isfinite(most):
            part = np.array([most * measure.value for measure in every])
            low, high = np.minimum(low, part), np.minimum(high, part)
        self.low, self.high = low, high
        self.start = np.array([begun.x, begun.y])
        self.x = np.zeros(len(every))
        turn = rotated_points(np.eye(2), self.heading).T  # of the floor frame into the room's
        self._heels = np.einsum("ij,nsjk->nsik", turn, self.measures.heels)
        self._pelvis = np.einsum("ij,njk->nik", turn, self.measures.pelvis_of(self.trace))
        self.places = np.zeros((0, 2))  # as they would be with nothing changed, from the room's corner
        self.moves = np.zeros((0, 2, len(every)))
        self.needs = np.zeros(0)
        self._reach = within_reach(self.trace, self.measures)
        self.sure = _SURE
        self.above = np.zeros(0, dtype=bool)  # whether they pass above what is low

    def found(self, progress: Progress) -> Fitted | None:
        """Solves, walks again, adds what is too near, until nothing is."""
        fitted, sweep = Fitted(self.form, self._begun, ()), Sweep(self.trace, self.room.arms)
        for number in range(_ROUNDS):
            progress.tell(number / _ROUNDS, "smallest-changes")
            if number and clearance_at(sweep, self.room, fitted.start).fits:
                return fitted
            self._add(sweep, first=number == 0)
            self.sure += 2 * _SURE if number > 1 else 0.0  # rounded lengths add up
            left = self.until - time.monotonic()
            if left <= 0.0 or not self._solve(min(left, _SECONDS)):
                return None
            fitted = self._written()
            sweep = Sweep(walk(fitted.form), self.room.arms)
        return None

    @property
    def _begun(self) -> Start:
        x, y = (round(float(each), 5) for each in self.start)
        return Start(x, y, self.heading)

    def _written(self) -> Fitted:
        """The form with the changes as they are written; what is too small to write is none."""
        wanted = {
            measure: round((measure.value + by) / _EXACT) * _EXACT if abs(by) > _EXACT / 2 else measure.value
            for measure, by in zip(self.measures.every, self.x.tolist(), strict=True)
        }
        self.x = np.array([wanted[measure] - measure.value for measure in self.measures.every])
        return Fitted(*self._resized(wanted))

    def _resized(self, wanted: dict[Measure, float]) -> tuple[Form, Start, tuple[Resize, ...]]:
        form, changes = resized(self.form, self.measures, wanted)
        return form, self._begun, changes

    def _add(self, sweep: Sweep, first: bool) -> None:
        """Adds the places that are too near now; at first also those that are outermost."""
        demand = Starts(sweep, self.room).thinned(0.02 if first else 0.008)
        spare = self._spare(demand)
        if not first and spare.min() >= self.sure:
            demand = Demand.of(sweep.every, self.room)  # what is thinned out is nearer by a hair
            spare = self._spare(demand)
        bad = np.flatnonzero(spare < self.sure)
        chosen = bad[np.argsort(spare[bad])][:_MORE]
        points = rotated_points(demand.points, self.heading)
        if first:
            outer = [np.argsort(points @ normal - demand.needs)[:12] for normal in self.walls[0]]
            chosen = np.unique(np.concatenate([chosen, *outer]))
        moves = self._moves(demand.places[demand.which[chosen]])
        self.moves = np.concatenate([self.moves, moves])
        self.places = np.concatenate([self.places, points[chosen] - moves @ self.x])
        self.needs = np.append(self.needs, demand.needs[chosen])
        self.above = np.append(self.above, demand.high[chosen])

    def _spare(self, demand: Demand) -> Floats:
        """(m,) what each place has to spare from the present start, metres."""
        at = rotated_points(demand.points, self.heading) + self.start
        spare = np.full(len(at), np.inf)
        for thing in self.things.every:
            away = thing.distances(at) - demand.needs
            spare = np.where(demand.high & thing.low, spare, np.minimum(spare, away))
        return spare

    def _moves(self, places: Places) -> Floats:
        """(m, 2, k) how far places move in the room for a metre more of each measure."""
        rows, before = places.rows, np.maximum(places.rows - 1, 0)
        t = places.share[:, None, None]
        body = (1 - t) * self._pelvis[before] + t * self._pelvis[rows]
        side = np.maximum(places.of, 0)
        leaves, lands, stands = self._heels[before, side], self._heels[rows, side], self._heels[before, 1 - side]
        foot = (1 - t) ** 2 * leaves + 2 * t * (1 - t) * stands + t * t * lands
        foot = np.where((np.abs(leaves - lands).max(axis=(1, 2)) < 1e-12)[:, None, None], lands, foot)
        return np.asarray(np.where((places.of == BODY)[:, None, None], body, foot))

    # The programme: (k) more, (k) less, start; least sum of more and less.

    def _solve(self, seconds: float) -> bool:
        """Finds other changes and another start, in so many seconds; whether there are any."""
        k = len(self.x)
        rows, least = self._near()
        own, at_least = self._reach
        grip = np.concatenate(
            [
                np.concatenate([rows[:, :k], -rows[:, :k], rows[:, k:]], axis=1),
                np.concatenate([own, -own, np.zeros((len(own), 2))], axis=1),
            ]
        )
        bounds = np.concatenate([least, at_least])
        price = np.concatenate([np.ones(2 * k), np.zeros(2)])
        low, high = np.zeros(2 * k + 2), np.concatenate([self.high, self.low, np.zeros(2)])
        low[-2:], high[-2:] = -np.inf, np.inf
        whole = np.zeros(len(price))
        if self.fewest:
            # One yes or no for each posture: only what it allows may change.
            names = sorted({measure.posture for measure in self.measures.every})
            allows = np.zeros((2 * k, len(names)))
            for number, measure in enumerate(self.measures.every):
                for at in (number, k + number):
                    allows[at, names.index(measure.posture)] = high[at]
            grip = np.concatenate(
                [
                    np.pad(grip, ((0, 0), (0, len(names)))),
                    np.concatenate([-np.eye(2 * k, 2 * k + 2), allows], axis=1),
                ]
            )
            bounds = np.append(bounds, np.zeros(2 * k))
            price = np.concatenate([price, np.full(len(names), _A_POSTURE)])
            low, high = np.append(low, np.zeros(len(names))), np.append(high, np.ones(len(names)))
            whole = np.append(whole, np.ones(len(names)))
        solved = cheapest(price, whole, low, high, [(grip, bounds, np.inf)], seconds, 1e-6)
        if solved is None:
            return False
        self.x, self.start = solved[:k] - solved[k : 2 * k], solved[2 * k : 2 * k + 2]
        return True

    def _near(self) -> tuple[Floats, Floats]:
        """Rows (c, k + 2) over changes and start, and what each must be at least (c,).

        Every place lies within each wall, and beyond one edge of each block that is near.
        """
        n, k = len(self.needs), len(self.x)
        normals, offsets = self.walls
        rows = [
            np.concatenate(
                [np.einsum("wx,nxk->nwk", normals, self.moves).reshape(-1, k), np.tile(normals, (n, 1))], axis=1
            )
        ]
        least = [(self.needs[:, None] + self.sure - offsets - self.places @ normals.T).ravel()]
        now = self.places + self.moves @ self.x + self.start
        for block in self.blocks:
            these = np.flatnonzero(~(self.above & block.low) & (block.distances(now) - self.needs < _NEAR))
            if not len(these):
                continue
            normal, offset = _edges(block, now[these])
            rows.append(np.concatenate([np.einsum("nx,nxk->nk", normal, self.moves[these]), normal], axis=1))
            least.append(self.needs[these] + self.sure + offset - (self.places[these] * normal).sum(axis=1))
        return np.concatenate(rows), np.concatenate(least)


@lru_cache(maxsize=4)
def _convex(things: Things) -> tuple[tuple[Floats, Floats], tuple[Thing, ...]]:
    """The straight walls around all, and convex blocks for everything else.

    The walls as normals (w, 2) and offsets (w,); the blocks for what the walls bend in around, and obstacles in pieces.
    """
    import shapely

    walls = walls_of(things)
    outline = shapely.Polygon(things.every[0].corners)
    blocks = [Thing(None, pocket) for pocket in _pieces(outline.convex_hull.difference(outline))]
    for thing in things.every[1:]:
        if thing.radius:
            blocks.append(thing)
        else:
            blocks += [Thing(thing.name, piece, low=thing.low) for piece in _pieces(shapely.Polygon(thing.corners))]
    return (walls.normals, walls.offsets), tuple(blocks)


def _pieces(shape: object) -> list[Floats]:
    """Convex pieces, each (n, 2) counter-clockwise, that together are a shape."""
    import shapely

    found: list[Floats] = []
    for part in shapely.get_parts(shape):
        if shapely.area(part) < 1e-6:
            continue
        whole = shapely.area(shapely.convex_hull(part)) - shapely.area(part) < 1e-9
        cut = [part] if whole else shapely.get_parts(shapely.constrained_delaunay_triangles(part)).tolist()
        found += [shapely.get_coordinates(shapely.orient_polygons(each))[:-1] for each in cut]
    return found


def _edges(block: Thing, points: Floats) -> tuple[Floats, Floats]:
    """Of a convex block the edge each place (m, 2) is furthest beyond: normals (m, 2) outward, and offsets (m,)."""
    if block.radius:
        away = points - block.centre
        far = np.maximum(np.hypot(*away.T), 1e-9)[:, None]
        normal = away / far
        return normal, (normal * block.centre).sum(axis=1) + block.radius
    edge = np.roll(block.corners, -1, axis=0) - block.corners
    normals = np.column_stack([edge[:, 1], -edge[:, 0]]) / np.hypot(*edge.T)[:, None]
    offsets = (normals * block.corners).sum(axis=1)
    best = np.argmax(points @ normals.T - offsets, axis=1)
    return normals[best], offsets[best]
