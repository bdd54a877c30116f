"""The lengths of a walk: which ones its steps have, and how far each of them moves every foot after it.

While headings, landing parts and who stands on what stay, heels and pelvis are affine in the lengths: half steps,
mirrored and repeated postures included. So one pass over the rows says what any change of lengths does, without walking
again. The curve of a swing is not affine; on its way a foot is taken to move with its ends.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Literal, NamedTuple

import numpy as np

from waltzmark.core.base.angles import ahead, rightward
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.mass import BELOW, WHOLE
from waltzmark.core.form.form import Form
from waltzmark.core.score import actions as act
from waltzmark.core.walk.ground import CARRIED
from waltzmark.core.walk.trace import Trace

__all__ = ["Measure", "Measures", "TooLongError", "measures_of", "scaled_spots"]

#: Counts × lengths that are weighed against each other; several arrays are so large, or a few times.
MOST = 8_000_000

What = Literal["length", "width", "gap", "distance"]


class Measure(Record):
    """One length that the score says, or leaves to a stance.

    posture: the one that has the line, whoever walks it; line: which of its lines, from 0, and action: which of its
    actions; count: the number of the count; what: *length* or *width* of a step to a facing, the *gap* of one beside,
    the *distance* of one from a landmark; value: metres, as walked; aside: whether it is the width of a step to the
    side.
    """

    posture: str
    line: int
    action: int
    count: int
    what: What
    value: float
    aside: bool = False


class Measures(Record, eq=False):
    """The k measures of a walk.

    heels: (n, 2, 2, k) how far each heel moves, by side, right and ahead, in metres a metre of each measure; steps: of
    each step to a facing its row, its side, and the numbers of its length and width, or -1.
    """

    every: tuple[Measure, ...]
    heels: Floats
    steps: tuple[tuple[int, Side, int, int], ...]

    def pelvis_of(self, trace: Trace) -> Floats:
        """(n, 2, k) how far the pelvis centre moves, which the shares of the weight carry (mechanics of the masses)."""
        carried = (trace.shares - BELOW) / WHOLE
        return np.asarray(np.einsum("ns,nsxk->nxk", carried, self.heels))


class _Found:
    """Numbers measures as they are met, those of a mirrored or repeated posture by their source's."""

    def __init__(self) -> None:
        self.every: list[Measure] = []
        self._number: dict[tuple[str, int, int, What], int] = {}

    def number(self, measure: Measure) -> int:
        key = measure.posture, measure.line, measure.action, measure.what
        if key not in self._number:
            self._number[key] = len(self.every)
            self.every.append(measure)
        return self._number[key]


class TooLongError(WaltzmarkError):
    """A form has more lengths than can be weighed against each other."""


def measures_of(form: Form, trace: Trace) -> Measures:
    """The measures of a form's walk and what they move. A step that crosses keeps its width.

    Raises TooLongError where counts × measures are more than `MOST`.
    """
    found, steps, moves = _found(form, trace)
    if len(trace) * len(found.every) > MOST:
        raise TooLongError("form.too-long", counts=len(trace) - 1, lengths=len(found.every))
    heels = _carried(form, trace, moves, len(found.every), _Spots(form, trace))
    return Measures(tuple(found.every), heels, tuple(steps))


#: What of each step's measures moves its foot, and which way for a metre more of it: by row and side.
_Moves = dict[tuple[int, Side], list[tuple[int, tuple[float, float]]]]


def _found(form: Form, trace: Trace) -> tuple[_Found, list[tuple[int, Side, int, int]], _Moves]:
    """All measures, the steps to a facing, and what moves each foot that steps."""
    found, steps, moves = _Found(), list[tuple[int, Side, int, int]](), _Moves()
    roots = _roots(form)
    for row in range(1, len(trace)):
        posture = trace.posture(row)
        assert posture is not None
        for number, action in enumerate(trace.written[row].actions):
            if not isinstance(action, act.Step):
                continue
            at = (roots[posture], trace.line(row), number, int(trace.counts[row]))
            moved = _moves(found, trace, row, action, at)
            moves[row, action.side] = [(n, way) for n, way, _ in moved]
            if isinstance(action.place, act.Faced):
                named = {what: n for n, _, what in moved}
                steps.append((row, action.side, named.get("length", -1), named.get("width", -1)))
    return found, steps, moves


def _roots(form: Form) -> dict[str, str]:
    """The posture that has the lines of each."""
    roots: dict[str, str] = {}
    for posture in form.postures:
        at = posture
        while at.source is not None:
            at = form.posture(at.source)
        roots[posture.id] = at.id
    return roots


def _moves(
    found: _Found, trace: Trace, row: int, step: act.Step, at: tuple[str, int, int, int]
) -> list[tuple[int, tuple[float, float], What]]:
    """The measures of a step: the number of each, and where the foot goes for a metre more of it."""
    posture, line, number, count = at
    side, place = step.side, step.place
    if isinstance(place, act.Faced):
        facing = place.facing.heading(float(trace.torso[row - 1]), trace.ground.twelve)
        u, v = np.array(ahead(facing)), np.array(rightward(facing))
        way = trace.heels[row, side] - trace.heels[row - 1, side.other]
        back = -1.0 if place.manner == "back" else 1.0
        across = float(way @ v) * side.sign
        made: list[tuple[int, tuple[float, float], What]] = []
        if place.manner != "side":
            length = Measure(posture, line, number, count, "length", back * float(way @ u))
            made.append((found.number(length), (back * u[0], back * u[1]), "length"))
        if place.manner != "cross" and across >= 0.0:
            width = Measure(posture, line, number, count, "width", across, place.manner == "side")
            made.append((found.number(width), (side.sign * v[0], side.sign * v[1]), "width"))
        return made
    if isinstance(place, act.Beside):
        x, y = rightward(float(trace.headings[row - 1, side.other]))
        gap = place.gap.metres(trace.body) if place.gap else trace.body.foot_breadth
        beside = Measure(posture, line, number, count, "gap", gap)
        return [(found.number(beside), (side.sign * x, side.sign * y), "gap")]
    if isinstance(place, act.Mark) and place.facing is not None and place.distance is not None:
        x, y = ahead(place.facing.heading(float(trace.torso[row - 1]), trace.ground.twelve))
        distance = Measure(posture, line, number, count, "distance", place.distance.metres(trace.body))
        return [(found.number(distance), (x, y), "distance")]
    return []


def _carried(form: Form, trace: Trace, moves: _Moves, k: int, spots: _Spots) -> Floats:
    """(n, 2, 2, k) the recurrence over the rows: a step goes with the foot it is taken from, a pivot stays."""
    heels = np.zeros((len(trace), 2, 2, k))
    for row in range(1, len(trace)):
        before, now = heels[row - 1], heels[row]
        now[:] = before
        for side in SIDES:
            if trace.move_kinds[row, side] == CARRIED:
                # In the air it turns with the body, about a point that goes with the standing foot.
                turn = _turned(float(trace.move_turns[row, side]))
                now[side] = turn @ before[side] + (np.eye(2) - turn) @ before[side.other]
        for number, action in enumerate(trace.written[row].actions):
            if not isinstance(action, act.Step):
                continue
            side, place = action.side, action.place
            if isinstance(place, act.Half):
                u = np.array(ahead(place.facing.heading(float(trace.torso[row - 1]), trace.ground.twelve)))
                half = np.outer(u, u) / 2.0
                now[side] = before[side] - half @ (before[side] - before[side.other])
            elif isinstance(place, act.Mark):
                now[side] = before[place.side]
            elif isinstance(place, act.Spot):
                now[side] = spots.moved(row, number, side, heels)
            else:
                now[side] = before[side.other]
            for measure, way in moves.get((row, side), ()):
                now[side][:, measure] += way
    return heels


class _Spots:
    """How steps to places on the floor move.

    With nothing; taken over from another posture they lie relative to where the two begin.
    """

    def __init__(self, form: Form, trace: Trace) -> None:
        self.form, self.trace = form, trace
        self.begins = dict(zip((p.posture for p in trace.passages), trace.starts.tolist(), strict=False))

    def own(self, row: int, number: int, side: Side, heels: Floats) -> Floats:
        """(2, k) how one moves that is written there."""
        return np.zeros(heels.shape[2:])

    def moved(self, row: int, number: int, side: Side, heels: Floats) -> Floats:
        """(2, k) how far the foot goes with each measure; *number*: of the action in its count."""
        name = self.trace.posture(row)
        assert name is not None
        posture = self.form.posture(name)
        if posture.source is None:
            return self.own(row, number, side, heels)
        first = {each: self.begins[each] for each in (name, posture.source)}
        here, there = (heels[max(at - 1, 0)].mean(axis=0) for at in first.values())
        taken = _turned(posture.turned)
        if posture.mirror_of is not None:
            axis = posture.axis.heading(0.0, self.form.twelve) if posture.axis else 0.0
            taken = _turned(2.0 * axis) @ np.diag([-1.0, 1.0])
        other = side.other if posture.mirror_of is not None else side
        away = self.moved(first[posture.source] + row - first[name], number, other, heels)
        return np.asarray(here + taken @ (away - there))


class Placed(NamedTuple):
    """A place on the floor that a step goes to, metres, the number of its count, and its length before and after."""

    x: float
    y: float
    number: int
    before: float
    after: float


class _Scaled(_Spots):
    """Steps to places, each shortened like a step to a facing.

    By its length from the standing foot in the frame of its stance, and by its width where it goes to the side.
    """

    def __init__(self, form: Form, trace: Trace, factor: float) -> None:
        super().__init__(form, trace)
        self.factor = factor
        self.places: dict[tuple[str, int, int], Placed] = {}

    def own(self, row: int, number: int, side: Side, heels: Floats) -> Floats:
        trace = self.trace
        stands = trace.heels[row - 1, side.other]
        u, v = (np.array(way(float(trace.facing[row]))) for way in (ahead, rightward))
        way = trace.heels[row, side] - stands
        along, across = float(way @ u), float(way @ v)
        shorter = along * self.factor * u + across * (self.factor if abs(across) > abs(along) else 1.0) * v
        away = heels[row - 1, side.other, :, 0] + shorter - way
        posture = trace.posture(row)
        assert posture is not None
        x, y = (trace.heels[row, side] + away).round(4).tolist()
        self.places[posture, trace.line(row), number] = Placed(x, y, int(trace.counts[row]), along, along * self.factor)
        return np.asarray(away[:, None])


def scaled_spots(
    form: Form, trace: Trace, lengths: Mapping[Measure, float], factor: float
) -> dict[tuple[str, int, int], Placed]:
    """Where steps to places on the floor go when other lengths change.

    They are shortened by a factor as well; by the posture, the line and the action that have them.
    """
    found, _, moves = _found(form, trace)
    by = [lengths.get(measure, measure.value) - measure.value for measure in found.every]
    summed = _Moves()
    for at, ways in moves.items():
        summed[at] = [(0, (by[number] * way[0], by[number] * way[1])) for number, way in ways]
    spots = _Scaled(form, trace, factor)
    _carried(form, trace, summed, 1, spots)
    return spots.places


def _turned(degrees: float) -> Floats:
    """(2, 2) the matrix that turns clockwise."""
    cos, sin = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    return np.array([[cos, sin], [-sin, cos]])
