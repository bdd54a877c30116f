"""Where a dragged foot keeps to: earlier marks, the school's stances, the lines of the floor, clock facings."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from waltzmark.core.base.angles import ahead, normal, rightward
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import Record
from waltzmark.core.body.pose import FootPose
from waltzmark.core.form.room import Room

__all__ = ["NO_SNAPS", "Snapped", "Snaps", "StanceSize", "snapped_heading", "snapped_place"]

#: An earlier mark nearer than this to the supporting heel is no place to step to, metres.
_UNDERFOOT = 0.05


class Snaps(Record):
    """What a dragged foot keeps to, each on or off."""

    facings: bool = True
    stances: bool = True
    boards: bool = True
    marks: bool = True


NO_SNAPS = Snaps(False, False, False, False)


class StanceSize(Record):
    """Length and width in metres that a stance of the school would have here."""

    name: str
    length: float
    width: float


class Snapped(Record):
    """A place in metres, and what it kept to; exact: whether whole centimetres would miss it."""

    x: float
    y: float
    to: tuple[Message, ...] = ()
    exact: bool = False


def snapped_heading(heading: float, snaps: Snaps) -> float:
    """A heading at the nearest half hour of the clock, or at the nearest half degree when that is off."""
    step = 15.0 if snaps.facings else 0.5
    return normal(round(heading / step) * step)


def snapped_place(
    x: float,
    y: float,
    near: float,
    snaps: Snaps,
    support: FootPose,
    side: Side,
    facing: float,
    sizes: Iterable[StanceSize],
    room: Room | None,
    marks: Floats,
) -> Snapped:
    """The place that a heel at (x, y) keeps to, each way by at most *near* metres.

    An earlier mark (marks: (n, 2) metres) wins; else length and width of a stance in the frame of *facing* relative
    to the supporting heel, each on its own; then the room's lines, as far as that moves neither of them.
    """
    if snaps.marks and len(marks):
        far = np.hypot(*(marks - (support.x, support.y)).T) > _UNDERFOOT
        apart = np.where(far, np.hypot(*(marks - (x, y)).T), np.inf)
        at = int(np.argmin(apart))
        if apart[at] <= near:
            return Snapped(float(marks[at, 0]), float(marks[at, 1]), (message("snap.mark"),), exact=True)
    u, v = np.array(ahead(facing)), np.array(rightward(facing)) * side.sign
    apart = np.array((x - support.x, y - support.y))
    along, across = float(apart @ u), float(apart @ v)
    to: list[Message] = []
    free: list[Floats] = [u, v]
    if snaps.stances:
        sizes = tuple(sizes)
        sign = -1.0 if along < 0 else 1.0
        length = min(sizes, key=lambda s: abs(s.length - abs(along)), default=None)
        width = min(sizes, key=lambda s: abs(s.width - across), default=None)
        free = []
        if length is not None and abs(length.length - abs(along)) <= near:
            along = sign * length.length
            level = length.length <= 1e-9
            to.append(message("snap.level") if level else message("snap.length", stance=length.name))
        else:
            free.append(u)
        if width is not None and abs(width.width - across) <= near:
            across = width.width
            to.append(message("snap.width", stance=width.name))
        else:
            free.append(v)
    place = np.array((support.x, support.y)) + along * u + across * v
    exact = False
    if snaps.boards and room is not None:
        place, lines = _on_lines(place, near, free, room)
        to += lines
        exact = bool(lines)
    return Snapped(float(place[0]), float(place[1]), tuple(to), exact)


def _on_lines(place: Floats, near: float, free: list[Floats], room: Room) -> tuple[Floats, list[Message]]:
    """A place on the floor's lines: boards one way, tiles both."""
    inside = room.to_lines(room.to_room(place))
    found: list[Message] = []
    for axis, spacing in enumerate(room.lines.spacings):
        line = round(float(inside[axis]) / spacing) * spacing
        if abs(line - float(inside[axis])) > near:
            continue
        onto = inside.copy()
        onto[axis] = line
        move = room.to_floor(room.from_lines(onto)) - room.to_floor(room.from_lines(inside))
        length = float(np.hypot(*move))
        # Only along what no stance holds: with both free, any way will do.
        if len(free) < 2 and not any(abs(abs(float(move @ way)) - length) < 1e-6 for way in free):
            continue
        inside = onto
        found.append(message("snap.tiles" if room.lines.tiles else "snap.boards"))
    return room.to_floor(room.from_lines(inside)), found
