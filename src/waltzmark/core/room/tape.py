"""What to tape to the floor: marks that keep a walker on the way, and how to find each with a tape measure."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import lru_cache

import numpy as np

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.base.libraries import library
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.core.form.outlines import turns_left
from waltzmark.core.form.room import Point, Room, rotated_points
from waltzmark.core.room.breaks import parts_of, start_at
from waltzmark.core.room.things import named_wall
from waltzmark.core.walk.ground import PIVOT, STEP
from waltzmark.core.walk.motion import feet_between
from waltzmark.core.walk.trace import Trace

__all__ = ["SCATTER", "Mark", "fewest_ends", "tape_plan", "turning_ends"]

#: How far a foot lands off its place, metres a step, one way or the other: feet scatter (an assumption, until logged).
SCATTER = 0.03
#: A walker is kept within so many metres unless somebody asks otherwise.
WITHIN = 0.15
_TURNED = 40.0  # degrees from which the direction has changed
_BESIDE = 0.03  # metres from the sole to its tape
_STRIP = (0.10, 0.02)  # metres: a piece of tape


class Mark(Record):
    """One thing to lay.

    what: its name; place: (x, y) of the heel or of the mark, tape: the two ends of its piece, both in the room frame,
    metres; heading: degrees in the room frame; posture, side: whose end and which foot it marks; a mark to stand on has
    no side, and the posture that is gone on with there, None at the start; square: two distances square from walls,
    corner: two from the left and the right corner of one wall, in metres, and what each is from; lines: of each way of
    the floor's lines, how far into which board or tile from which wall. clear: whether no foot pivots on the tape.
    """

    what: Message
    place: tuple[float, float]
    heading: float
    tape: tuple[tuple[float, float], tuple[float, float]]
    square: tuple[tuple[float, Message], ...]
    corner: tuple[tuple[float, Message], tuple[float, Message]]
    lines: tuple[Message, ...]
    posture: str | None = None
    side: Side | None = None
    clear: bool = True


def fewest_ends(form: Form, trace: Trace, within: float = WITHIN) -> tuple[str, ...]:
    """The fewest postures at whose end a mark keeps a walker within so many metres.

    Errors of single steps add up like steps of a drunkard, so a stretch of n steps is off by √n times `SCATTER`.
    """
    most = max((within / SCATTER) ** 2, 1.0)
    steps = (trace.move_kinds == STEP).sum(axis=1)
    chosen: list[str] = []
    gone = 0
    for number in range(1, len(form.postures) + 1):
        here = int(steps[int(trace.starts[number]) : int(trace.starts[number + 1])].sum())
        if gone and gone + here > most:
            chosen.append(form.postures[number - 2].id)
            gone = 0
        gone += here
    return (*chosen, *(posture.id for posture in form.postures[-1:]))


def turning_ends(form: Form, trace: Trace) -> tuple[str, ...]:
    """The postures after which the form goes another way."""
    found: list[str] = []
    for number, posture in enumerate(form.postures, 1):
        first, last = int(trace.starts[number]) - 1, int(trace.starts[number + 1]) - 1
        if abs(heading_difference(float(trace.torso[first]), float(trace.torso[last]))) >= _TURNED:
            found.append(posture.id)
    return tuple(found)


def tape_plan(form: Form, trace: Trace, ends: Sequence[str], progress: Progress = SILENT) -> tuple[Mark, ...]:
    """The mark of each part of the walk, and both feet at the end of each of some postures.

    Every mark with its ways of measuring. Raises StoppedError of *progress*.
    """
    room = form.room
    assert room is not None
    plan: list[Mark] = []
    for part in parts_of(trace, room):
        mark, title = part.mark, "" if part.posture is None else form.posture(part.posture).title
        along = rotated_points(np.array([[-0.1, 0.0], [0.1, 0.0]]), mark.heading) + (mark.x, mark.y)
        what = message("tape.go-on", title=title) if title else message("tape.start")
        plan.append(_mark(room, what, np.array([mark.x, mark.y]), mark.heading, along, part.posture))
    pivots = _pivoting(trace, room)
    for place, posture in enumerate(ends):
        progress.tell(place / len(ends), "marks")
        number = trace.numbers[posture]
        row = int(trace.starts[number + 1]) - 1
        here = room.begun_at(start_at(trace, room, row))
        for side in SIDES:
            heel, heading = trace.heels[row, side], float(trace.headings[row, side])
            strip, clear = _beside(trace, side, here, row, pivots)
            title = form.posture(posture).title
            plan.append(
                _mark(
                    here,
                    message("tape.heel", title=title, side=side),
                    here.to_room(heel),
                    heading + here.start.heading,
                    strip,
                    posture,
                    side,
                    clear,
                )
            )
    return tuple(plan)


def _mark(
    room: Room,
    what: Message,
    place: Floats,
    heading: float,
    tape: Floats,
    posture: str | None = None,
    side: Side | None = None,
    clear: bool = True,
) -> Mark:
    ends = tuple((float(x), float(y)) for x, y in tape)
    assert len(ends) == 2
    x, y = place.tolist()
    ways = _square(room, place), _from_corners(room, place), _by_lines(room, place)
    return Mark(what, (x, y), heading % 360.0, ends, *ways, posture, side, clear)


def _square(room: Room, place: Floats) -> tuple[tuple[float, Message], ...]:
    """Distances square from the two nearest walls that are not parallel, named ones first."""
    corners = np.array(room.outline, dtype=float)
    way = np.roll(corners, -1, axis=0) - corners
    length = np.hypot(*way.T)
    inward = np.column_stack([-way[:, 1], way[:, 0]]) / length[:, None] * (1.0 if turns_left(room.outline) else -1.0)
    away = ((place - corners) * inward).sum(axis=1)
    share = ((place - corners) * way).sum(axis=1) / length**2
    named = {number for number, _ in room.walls}
    # Only walls one can measure square from: the foot of the perpendicular lies on the wall itself.
    fit = [n for n in range(len(corners)) if -1e-9 <= share[n] <= 1 + 1e-9 and away[n] >= -1e-9]
    seen = _seen(room, place, corners + share[:, None] * way)
    order = sorted(fit, key=lambda n: (not seen[n], n not in named, round(float(away[n]), 6)))
    for first in order:
        for second in order:
            if abs(float(inward[first] @ inward[second])) < 0.9:
                return tuple((float(away[n]), named_wall(room, n)) for n in (first, second))
    return tuple((float(away[n]), named_wall(room, n)) for n in order[:1])


def _seen(room: Room, place: Floats, points: Floats) -> Bools:
    """(n,) whether a tape can be stretched from a place (2,) to points (n, 2) without a wall in between."""
    import shapely

    tapes = shapely.linestrings(np.stack([points, np.broadcast_to(place, points.shape)], axis=1))
    return np.asarray(shapely.covers(_floor(room.outline), tapes))


@lru_cache(maxsize=4)
def _floor(outline: tuple[Point, ...]) -> object:
    """The floor of a room, a hair wider for how numbers are stored."""
    import shapely

    floor = shapely.buffer(shapely.Polygon(outline), 1e-6)
    shapely.prepare(floor)
    return floor


def _from_corners(room: Room, place: Floats) -> tuple[tuple[float, Message], tuple[float, Message]]:
    """Distances from both corners of the wall from which two tapes cross at the best angle.

    Of a wall that the place lies in front of, both of whose corners it is seen from, where there is one.
    """
    corners = np.array(room.outline, dtype=float)
    away = place - corners
    far, seen = np.hypot(*away.T), _seen(room, place, corners)
    best, pair = (-1.0, -1.0, -1.0), (0, 1)
    for n in range(len(corners)):
        m = (n + 1) % len(corners)
        if min(far[n], far[m]) < 1e-6:
            continue
        cross = float(away[n, 0] * away[m, 1] - away[n, 1] * away[m, 0]) / (far[n] * far[m])
        before = cross if turns_left(room.outline) else -cross  # what is behind a wall sees its corners exchanged
        tape = abs(cross) / (1.0 + 0.2 * (far[n] + far[m]))  # a short tape is a straight one
        value = (float(before > 0.0), float(seen[n] and seen[m]), tape)
        if value > best:
            best, pair = value, (n, m)
    wall = named_wall(room, pair[0])
    # Whoever faces a wall from within has its second corner at the left where the corners go round counter-clockwise.
    right, left = (float(far[n]) for n in (pair if turns_left(room.outline) else pair[::-1]))
    return (left, message("tape.left-corner", wall=wall)), (right, message("tape.right-corner", wall=wall))


def _by_lines(room: Room, place: Floats) -> tuple[Message, ...]:
    """The place by the floor's own lines: which board, or which tile both ways, counted from a wall."""
    corners = room.to_lines(np.array(room.outline, dtype=float))
    here = room.to_lines(place)
    found = []
    for axis, spacing in enumerate(room.lines.spacings):
        first = math.floor(float(corners[:, axis].min()) / spacing + 1e-9)
        at = math.floor(float(here[axis]) / spacing + 1e-9)
        into = float(here[axis]) - at * spacing
        wall = named_wall(room, _outermost(room, axis))
        kind = "tape.tile" if room.lines.tiles else "tape.board"
        found.append(message(kind, into=into, n=at - first + 1, wall=wall))
    return tuple(found)


def _outermost(room: Room, axis: int) -> int:
    """The wall that the lines of one way are counted from."""
    corners = room.to_lines(np.array(room.outline, dtype=float))[:, axis]
    return int(np.argmin(corners + np.roll(corners, -1)))


def _pivoting(trace: Trace, room: Room) -> object:
    """A tree of the places in the room where soles are while they pivot on the floor; None where none does."""
    tree_of = library("scipy.spatial").cKDTree

    found: list[Floats] = []
    parts = parts_of(trace, room)
    for side in SIDES:
        rows, ways = feet_between(trace, side, np.linspace(0.0, 1.0, 7))
        turning = trace.move_kinds[rows, side] == PIVOT
        outline = trace.body.sole.outlines[side][::2]
        inner = np.concatenate([outline, outline * 0.5 + (0.0, 0.18 * trace.body.sole.of(side))])
        for part in parts:
            turns = ways[turning & (rows >= part.first) & (rows < part.after)].reshape(-1, 3)
            placed = trace.body.sole.placed(inner, turns[:, 0], turns[:, 1], turns[:, 2]).reshape(-1, 2)
            found.append(room.begun_at(part.start).to_room(placed))
    points = np.concatenate(found)
    return tree_of(points) if len(points) else None


def _beside(trace: Trace, side: Side, here: Room, row: int, pivots: object) -> tuple[Floats, bool]:
    """Where the piece of tape of a foot lies at the end of a row, (2, 2) in the room frame.

    And whether no foot pivots on it: outside the foot, behind it, before it or inside it, the first that is free. here:
    the room as that row is walked in it.
    """
    sole = trace.body.sole
    half, length = trace.body.foot_breadth / 2.0 + _BESIDE, sole.of(side)
    out = side.sign
    middle = 0.37 * length
    tried = [
        ((out * half, middle - _STRIP[0] / 2), (out * half, middle + _STRIP[0] / 2)),
        ((-_STRIP[0] / 2, -0.13 * length - _BESIDE), (_STRIP[0] / 2, -0.13 * length - _BESIDE)),
        ((-_STRIP[0] / 2, 0.87 * length + _BESIDE), (_STRIP[0] / 2, 0.87 * length + _BESIDE)),
        ((-out * half, middle - _STRIP[0] / 2), (-out * half, middle + _STRIP[0] / 2)),
    ]
    heel, heading = trace.heels[row, side], float(trace.headings[row, side])
    strips = [here.to_room(rotated_points(np.array(each), heading) + heel) for each in tried]
    for strip in strips:
        along = strip[0] + np.linspace(0.0, 1.0, 6)[:, None] * (strip[1] - strip[0])
        if pivots is None or pivots.query(along)[0].min() > _STRIP[1]:  # type: ignore[attr-defined]
            return strip, True
    return strips[0], False
