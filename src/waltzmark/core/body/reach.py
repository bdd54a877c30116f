"""Empty reach: how far a foot can be set down while it carries nothing.

The weight stands above the supporting sole: the centre of pressure between its heel centre and its ball, and a fifth of
its breadth to either side. The centre of mass above it carries the pelvis (`pelvis_places`), which turns within the
supporting hip's range and tilts 6 degrees down toward the stepping side, about the standing hip. The supporting knee's
bend gives the height of that hip. A landing is empty when its ankle, over the contact it lands on, is no further from
the stepping hip than the leg is long with 5 degrees left in the knee.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.foot import ANKLE, LANDMARKS
from waltzmark.core.body.mass import BELOW, WHOLE, ankle_reach

__all__ = ["least_bends", "longest_empty_length", "reach_outline"]

#: Places of the centre of pressure along the sole, and across it in breadths (the furthest reach from an edge); degrees
#: between the headings of the pelvis.
_ALONG, _ACROSS, _DEGREES = 7, (-0.2, 0.2), 5.0
_TILT = math.radians(6.0)
_LEFT_IN_KNEE = 5.0
_FARTHEST = 2.5  # metres: no leg is longer


@lru_cache(maxsize=64)
def _tries(body: Body, side: Side) -> tuple[Floats, Floats]:
    """Every place and heading of the pelvis to try, as standing and stepping hip (k, 2), metres.

    For a support on a side whose heel is the origin and whose foot points along y, as if the stepping ankle were at the
    origin.
    """
    foot, spacing = body.sole.of(side), body.hip_spacing
    along = np.linspace(0.0, LANDMARKS["ball"] * foot, _ALONG)
    across = np.array(_ACROSS) * body.foot_breadth
    out, inward = body.hip_range(side)
    # A right foot at 0 lets the pelvis go from `out` to the left of it to `in` to the right; both ends are tried.
    turns = np.append(np.arange(-out, inward, _DEGREES), inward) * side.sign
    y, x, turn = (each.ravel() for each in np.meshgrid(along, across, np.radians(turns)))
    pelvis = (np.column_stack([x, y]) - BELOW * np.array([0.0, ANKLE * foot])) / WHOLE
    way = np.column_stack([np.cos(turn), -np.sin(turn)]) * side.sign
    standing = pelvis + way * (spacing / 2.0)
    return standing, standing - way * (spacing * math.cos(_TILT))


def _hips(body: Body, side: Side, ankles: Floats) -> tuple[Floats, Floats]:
    """Squared distances across the floor (m, k) from each hip to its own ankle.

    First of the standing hip, then of the stepping one; ankles: (m, 2) of the stepping foot in the frame of the
    supporting one.
    """
    standing, stepping = _tries(body, side)
    moved = ankles * (-BELOW / WHOLE)  # the stepping leg draws the pelvis the other way
    own, off = moved - (0.0, ANKLE * body.sole.of(side)), moved - ankles
    return _squares(standing, own), _squares(stepping, off)


def _squares(places: Floats, moved: Floats) -> Floats:
    """(m, k) squared distances from the origin of (k, 2) places moved by (m, 2)."""
    x, y = (places[:, i] + moved[:, i, None] for i in (0, 1))
    x *= x
    y *= y
    x += y
    return x


def _empty(body: Body, side: Side, bend: float, ankles: Floats, heights: Floats | float) -> Bools:
    """(m,) whether a foot can be set down empty with its ankle at (m, 2), so high above the floor, at a bend."""
    near, far = _hips(body, side, ankles)
    high = body.leg(bend) ** 2 - near
    drop = body.hip_spacing * math.sin(_TILT) + np.asarray(heights) - body.measure("ankle_height")
    up = np.sqrt(np.maximum(high, 0.0)) - np.reshape(drop, (-1, 1))
    return np.asarray(((high > 0) & (far + up**2 <= body.leg(_LEFT_IN_KNEE) ** 2)).any(axis=1))


@lru_cache(maxsize=4096)
def longest_empty_length(
    body: Body,
    knee_bend: float,
    width: float,
    side: Side = Side.RIGHT,
    contact: Contact = Contact.HEEL,
    away: float = 0.0,
    toe: float = 0.0,
    back: bool = False,
) -> float:
    """Longest empty step, metres between heel centres in the frame of its facing.

    knee_bend: of the supporting leg, degrees. width: metres between heel centres, at right angles to the facing; side:
    the supporting one. contact: what the foot lands on; away: the facing, and toe: the landing foot, degrees clockwise
    from the supporting foot's heading; back: whether it steps behind. 0.0 when no empty step of that width exists,
    or only for lengths within 8 cm of each other.
    """
    forward, up = ankle_reach(body, side.other, contact)
    angle, landing = math.radians(away), math.radians(toe)
    ahead = np.array([math.sin(angle), math.cos(angle)]) * (-1.0 if back else 1.0)
    across = np.array([math.cos(angle), -math.sin(angle)]) * (-side.sign * width)
    ankle = across + forward * np.array([math.sin(landing), math.cos(landing)])

    def longest(lengths: Floats) -> int:
        empty = np.flatnonzero(_empty(body, side, knee_bend, ankle + lengths[:, None] * ahead, up))
        return int(empty[-1]) if len(empty) else -1

    lengths = np.linspace(0.0, 0.5 * _FARTHEST, 16)
    for _ in range(3):
        at = longest(lengths)
        if at < 0:
            return 0.0
        first = float(lengths[at])
        if at + 1 == len(lengths):
            break
        lengths = np.linspace(first, float(lengths[at + 1]), 16)
    return round(first, 6)


def least_bends(
    body: Body, side: Side, heels: Floats, headings: Floats, contacts: Ints, supports: Floats, support_headings: Floats
) -> Floats:
    """(m,) least bend in degrees of the supporting leg that lets a foot be set down empty; inf where none does.

    side: of the supporting leg; heels, headings, contacts: (m, 2), (m,) and (m,) of the landing feet; supports,
    support_headings: (m, 2) and (m,) of the supporting ones.
    """
    ahead = np.zeros(len(heels))
    up = np.zeros(len(heels))
    for contact in Contact:
        on = np.asarray(contacts) == contact
        if on.any():
            ahead[on], up[on] = ankle_reach(body, side.other, contact)
    landing, angle = np.radians(headings), np.radians(support_headings)
    off = heels - supports + ahead[:, None] * np.column_stack([np.sin(landing), np.cos(landing)])
    cos, sin = np.cos(angle), np.sin(angle)
    ankles = np.column_stack([off[:, 0] * cos - off[:, 1] * sin, off[:, 0] * sin + off[:, 1] * cos])
    near, far = _hips(body, side, ankles)
    room = body.leg(_LEFT_IN_KNEE) ** 2 - far
    drop = body.hip_spacing * math.sin(_TILT) + up - body.measure("ankle_height")
    most = np.sqrt(np.maximum(room, 0.0)) + drop[:, None]  # the standing hip is at most so high above its ankle
    fine = (room >= 0) & (most >= 0) & (near <= body.leg(0.0) ** 2)
    longest = np.where(fine, most**2 + near, -np.inf).max(axis=1)  # d(k)^2 may be at most this
    a, b = body.shank, body.thigh
    cosine = (longest - a * a - b * b) / (2 * a * b)
    return np.where(cosine < -0.95, np.inf, np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0))))


@lru_cache(maxsize=32)
def reach_outline(body: Body, knee_bend: float, side: Side, rays: int = 72) -> Floats:
    """(rays, 2) how far heels can be set down empty around a supporting foot, metres.

    In its own frame: its heel the origin, x to the right and y ahead. side: the supporting one; the landing foot is
    parallel to it and lands on its heel or its ball, whichever gets further.
    """
    angle = np.linspace(0.0, 2 * np.pi, rays, endpoint=False)
    way = np.column_stack([np.sin(angle), np.cos(angle)])
    farthest = np.zeros(rays)
    for contact in (Contact.HEEL, Contact.BALL):
        forward, up = ankle_reach(body, side.other, contact)
        start = np.array([0.0, forward])
        low, high = np.zeros(rays), np.full(rays, 0.5 * _FARTHEST)
        for _ in range(10):
            middle = (low + high) / 2.0
            empty = _empty(body, side, knee_bend, start + middle[:, None] * way, up)
            low, high = np.where(empty, middle, low), np.where(empty, high, middle)
        farthest = np.maximum(farthest, low)
    return np.asarray(way * farthest[:, None])
