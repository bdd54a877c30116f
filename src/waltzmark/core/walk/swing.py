"""The way a foot travels from where it is lifted to where it is set down.

A step that does not say its way keeps clear of the standing foot: nobody kicks their own foot on purpose.
"""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache

import numpy as np

from waltzmark.core.base.angles import ahead, normal, rightward
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.foot import LANDMARKS, Sole
from waltzmark.core.body.gap import FAR, gaps
from waltzmark.core.body.pose import FootPose

__all__ = ["CLEAR", "SAMPLES", "control_point"]

#: A swing keeps this far from the standing sole, or as far as it is at the nearer of its ends; metres.
CLEAR = 0.02
#: Parts of the way at which it is looked at.
SAMPLES = np.linspace(0.0, 1.0, 17)
_DIGITS = 9  # to which the same step is the same
_SLACK = 0.0015  # metres that the distance of two soles is known to
#: How far from the supporting heel, in foot breadths, a swing passes, the nearest first.
CLOSE = (1.25, 1.5, 1.9, 2.4)
#: Clearance in foot lengths of a swing that goes round the toes or the heel of the supporting foot.
ROUND = (0.35, 0.7, 1.1, 1.6)
#: How far to its own side, in foot lengths, a swing that comes in from there begins to come in.
OUTSIDE = (0.8, 1.4, 2.0)
_INNER = (0.1, 0.9)

Point = tuple[float, float]


def control_point(
    start: FootPose, end: FootPose, support: FootPose, side: Side, via: str | None, sole: Sole, turn: float = 0.0
) -> Point:
    """Control point in metres of the quadratic curve that a swinging heel travels.

    turn: degrees the foot turns on its way.

    ``close`` passes near the supporting heel on the foot's own side, as close as is clear, unless the straight way is
    nearer or does not pass the support at all; ``front`` and ``behind`` go round its toes or its heel, and are done as
    written. Without it, the first of close, straight, round the toes, round the heel and in from its own side that
    keeps `CLEAR`; each kind is tried further out before the next one, so that a small change of a step does not lead
    it round the other side of the foot.
    """
    # Seen from the support, most steps of a form are the same again wherever they are taken, and are known.
    (ux, uy), (vx, vy) = ahead(support.heading), rightward(support.heading)
    first, last = (_seen(foot, support) for foot in (start, end))
    right, forward = _control_point(first, last, side, via, sole, round(turn, _DIGITS))
    return support.x + right * vx + forward * ux, support.y + right * vy + forward * uy


def _seen(foot: FootPose, support: FootPose) -> tuple[float, float, float]:
    """Where a foot is, to the right and ahead of the support, and its heading from that of the support."""
    (ux, uy), (vx, vy) = ahead(support.heading), rightward(support.heading)
    dx, dy = foot.x - support.x, foot.y - support.y
    right, forward = dx * vx + dy * vy, dx * ux + dy * uy
    return round(right, _DIGITS), round(forward, _DIGITS), round(normal(foot.heading - support.heading), _DIGITS)


@lru_cache(maxsize=8192)
def _control_point(
    first: tuple[float, float, float],
    last: tuple[float, float, float],
    side: Side,
    via: str | None,
    sole: Sole,
    turn: float,
) -> Point:
    """The control point in a frame of the support."""
    start, end = FootPose(*first, Contact.FLAT), FootPose(*last, Contact.FLAT)
    support = FootPose(0.0, 0.0, 0.0, Contact.FLAT)
    if via is not None and via != "close":
        return next(_ways(via, start, end, support, side, sole))
    best, best_gap = (0.0, 0.0), -1.0
    dx, dy = end.x - start.x, end.y - start.y
    heading = start.heading + turn * SAMPLES
    t = SAMPLES
    a, b, c = (1 - t) ** 2, 2 * t * (1 - t), t * t
    standing = np.array([support.x, support.y, support.heading])
    for way in ("close",) if via == "close" else ("close", "straight", "front", "behind", "outside"):
        for point in _ways(way, start, end, support, side, sole):
            if _past(start, end, point, support, 2.0 * sole.length + FAR):
                return point
            path = np.column_stack(
                [a * start.x + b * point[0] + c * end.x, a * start.y + b * point[1] + c * end.y, heading]
            )
            found = gaps(sole, side, standing, path)
            gap = float(found.min() - min(CLEAR, float(found[0]), float(found[-1])))
            if gap >= -_SLACK:
                return point
            if gap > best_gap + 1e-6:
                best, best_gap = point, gap
            if way == "close" and dx * dx + dy * dy < 1e-12:
                return point  # it does not go anywhere
    return best


def _past(start: FootPose, end: FootPose, point: Point, support: FootPose, reach: float) -> bool:
    """Whether the whole way keeps out of reach of the support: so do its ends and its control point, on one side."""
    mx, my = (start.x + end.x) / 2.0 - support.x, (start.y + end.y) / 2.0 - support.y
    size = (mx * mx + my * my) ** 0.5
    if size < reach:
        return False
    ux, uy = mx / size, my / size
    return all((x - support.x) * ux + (y - support.y) * uy >= reach for x, y in (start[:2], end[:2], point))


def _ways(way: str, start: FootPose, end: FootPose, support: FootPose, side: Side, sole: Sole) -> Iterator[Point]:
    """The control points of one kind of way, the nearest first."""
    middle_x, middle_y = (start.x + end.x) / 2.0, (start.y + end.y) / 2.0
    if way in ("straight", "slide"):
        yield middle_x, middle_y
        return
    ux, uy = ahead(support.heading)
    vx, vy = rightward(support.heading)
    # A quadratic curve passes half-way between its control point and the middle of its ends.
    if way in ("front", "behind"):
        for clear in ROUND:
            mark = LANDMARKS["toe"] + clear if way == "front" else LANDMARKS["back"] - clear - LANDMARKS["toe"]
            along = mark * sole.of(side.other)
            yield 2 * (support.x + along * ux) - middle_x, 2 * (support.y + along * uy) - middle_y
        return
    if way == "outside":
        for clear in OUTSIDE:
            far = side.sign * clear * sole.length
            yield end.x + far * vx, end.y + far * vy
        return
    dx, dy = end.x - start.x, end.y - start.y
    distance = dx * dx + dy * dy
    for clear in CLOSE:
        near = side.sign * clear * sole.breadth
        near_x, near_y = support.x + near * vx, support.y + near * vy
        passing = ((near_x - start.x) * dx + (near_y - start.y) * dy) / distance if distance > 1e-12 else 0.0
        apart = ((middle_x - support.x) ** 2 + (middle_y - support.y) ** 2) ** 0.5
        if not _INNER[0] < passing < _INNER[1] or apart < abs(near):
            yield middle_x, middle_y
            return
        yield 2 * near_x - middle_x, 2 * near_y - middle_y
