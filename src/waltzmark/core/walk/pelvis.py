"""The pelvis under the chest, and the legs between it and the feet: closed form, for whole walks.

Everything takes arrays of n poses, by side where there are two columns. Where the pelvis stands: `core.body.mass`.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np

from waltzmark.core.base.angles import ahead, heading_differences
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.body import LEAST_BEND, Body
from waltzmark.core.body.mass import BELOW, WHOLE, ankle_reach, lean_moves
from waltzmark.core.body.pose import Pose, rest_of

__all__ = [
    "CARRIES",
    "HOLDS",
    "Legs",
    "Pelvis",
    "hip_gaps",
    "hips_of",
    "legs_of",
    "pelvis_heading",
    "pelvis_headings",
    "pelvis_of",
]

#: A flat foot that carries more than this share holds the pelvis.
HOLDS = 0.20
_TOLERANCE = 1e-9  # of shares and angles, so that mirror images are judged alike
#: A foot counts as carrying when it has more than this share of the weight.
CARRIES = 0.02


def pelvis_headings(body: Body, headings: Floats, contacts: Ints, shares: Floats, torso: Floats) -> Floats:
    """(n,) heading of the pelvis: it follows the chest as far as the hips of the feet that hold it allow.

    headings, contacts, shares: (n, 2) of the feet; torso: (n,) heading of the chest. A right foot of heading θ allows
    [θ - out, θ + in], a left one [θ - in, θ + out]. The pelvis is the heading nearest to the chest in all that hold;
    where two do not meet, that end of the fuller foot's interval which is nearest the other, at equal shares the
    middle of the gap; with none that holds, it is the chest. Ties go clockwise.
    """
    allowed = _Allowed(body, headings, contacts, shares)
    base, low, high, both = allowed.base, allowed.low, allowed.high, allowed.both
    wanted = heading_differences(base, torso)
    nearest = np.where(
        (wanted >= low - _TOLERANCE) & (wanted <= high + _TOLERANCE),
        wanted,
        np.where(_apart(wanted, high) <= _apart(wanted, low) + _TOLERANCE, high, low),
    )
    # Where they do not meet, the two ends that are nearest each other are `high` and `low`; the fuller foot's is it.
    equal = np.abs(shares[:, 0] - shares[:, 1]) <= _TOLERANCE
    own = np.where(allowed.away > 0, high, low)
    turn = np.where(both & (low > high + _TOLERANCE), np.where(equal, (low + high) / 2.0, own), nearest)
    return np.asarray(np.where(allowed.any, np.mod(base + turn, 360.0), np.mod(torso, 360.0)))


class Pelvis(NamedTuple):
    """Where the pelvis of one pose stands, metres, and where it faces, degrees."""

    x: float
    y: float
    heading: float


def pelvis_of(body: Body, pose: Pose) -> Pelvis:
    """The pelvis of one pose, on the way between two counts too; the same as for whole walks, without their arrays."""
    x = y = 0.0
    for side in Side:
        foot, share = pose.foot(side), pose.share(side)
        across, along = body.sole.centroids[side, foot.contact].tolist()
        ux, uy = ahead(foot.heading)
        forward, _ = ankle_reach(body, side, foot.contact)
        x += share * (foot.x + across * uy + along * ux) - BELOW * (foot.x + forward * ux)
        y += share * (foot.y - across * ux + along * uy) - BELOW * (foot.y + forward * uy)
    if pose.lean:
        ux, uy = ahead(pose.torso)
        far = float(lean_moves(body, pose.lean))
        x, y = x - far * ux, y - far * uy
    return Pelvis(x / WHOLE, y / WHOLE, pelvis_heading(body, pose))


def pelvis_heading(body: Body, pose: Pose) -> float:
    """The heading of the pelvis of one pose; quick where feet and weight have been so before, wherever on the floor."""
    left, right = pose.left, pose.right
    return _heading(body, left.heading, right.heading, left.contact, right.contact, pose.left_share, pose.torso)


@lru_cache(maxsize=8192)
def _heading(
    body: Body, left: float, right: float, left_on: Contact, right_on: Contact, left_share: float, torso: float
) -> float:
    shares = np.array([[left_share, float(rest_of(left_share))]])
    headings, contacts = np.array([[left, right]]), np.array([[left_on, right_on]])
    return float(pelvis_headings(body, headings, contacts, shares, np.array([torso]))[0])


class _Allowed:
    """Which turns the hips of the feet that hold the pelvis allow it: from *low* to *high*, clockwise of *base*, (n,)
    each; they have changed places where the two feet do not meet. away: (n,) from the middle of one to the other's."""

    def __init__(self, body: Body, headings: Floats, contacts: Ints, shares: Floats) -> None:
        holds = (contacts == Contact.FLAT) & (shares > HOLDS + _TOLERANCE)
        out, inward = np.array([body.hip_range(side) for side in Side]).T
        # Each foot's interval by its middle and half its width, clockwise positive.
        middle = headings + np.array([1.0, -1.0]) * (out - inward) / 2.0
        half = (out + inward) / 2.0
        full = (shares[:, 1] > shares[:, 0]).astype(np.int64)
        first = np.where(holds.all(axis=1), full, holds[:, 1].astype(np.int64))
        rows = np.arange(len(headings))
        self.both, self.any = holds.all(axis=1), holds.any(axis=1)
        self.base, wide = middle[rows, first], half[first]
        self.away = heading_differences(self.base, middle[rows, 1 - first])
        self.low = np.where(self.both, np.maximum(-wide, self.away - half[1 - first]), -wide)
        self.high = np.where(self.both, np.minimum(wide, self.away + half[1 - first]), wide)


def hip_gaps(body: Body, headings: Floats, contacts: Ints, shares: Floats) -> Floats:
    """(n,) degrees by which what the hips of two feet that hold the pelvis allow it do not meet, 0 where they do."""
    allowed = _Allowed(body, headings, contacts, shares)
    return np.where(allowed.both, np.maximum(allowed.low - allowed.high, 0.0), 0.0)


def _apart(one: Floats, other: Floats) -> Floats:
    return np.abs(heading_differences(one, other))


class Legs(Record):
    """What the legs do: height (n,) of the hips above the floor, metres; bends (n, 2) of the knees, degrees. Both are
    NaN where a leg that carries cannot reach, a bend also where the foot is in the air; a leg that carries nothing and
    is further away than it is long is straight."""

    height: Floats
    bends: Floats


def hips_of(body: Body, places: Floats, pelvis: Floats) -> Floats:
    """(n, 2, 2) floor positions of the hip joints, half their spacing to either side of the pelvis centre (n, 2) across
    its heading (n,), metres."""
    angle = np.radians(pelvis)
    across = np.stack([np.cos(angle), -np.sin(angle)], axis=-1) * (body.hip_spacing / 2.0)
    return np.stack([places - across, places + across], axis=1)


def legs_of(
    body: Body,
    hips: Floats,
    ankles: Floats,
    heights: Floats,
    contacts: Ints,
    shares: Floats,
    sinks: Floats,
    light: float = CARRIES,
) -> Legs:
    """Hips as high as they can be while the slant from hip to ankle is at most d(sink) on the fuller foot (on both, at
    equal shares) and at most d(10°) on every foot that carries.

    light: a foot with no more than this share carries nothing. hips, ankles: (n, 2, 2) floor positions; heights: (n, 2)
    of the ankles; sinks: (n,) degrees. d(k)² = a² + b² + 2ab cos k for shank a and thigh b.
    """
    a, b = body.shank, body.thigh
    seat = a * a + b * b + 2 * a * b * np.cos(np.radians(sinks))
    fuller = shares >= 0.5 - _TOLERANCE
    carries: Bools = (shares > light + _TOLERANCE) & (contacts != Contact.AIR)
    longest = np.where(fuller, np.minimum(seat[:, None], body.leg(LEAST_BEND) ** 2), body.leg(LEAST_BEND) ** 2)
    away = ((hips - ankles) ** 2).sum(axis=2)
    with np.errstate(invalid="ignore"):
        most = heights + np.sqrt(longest - away)  # NaN where hip and ankle lie too far apart
    height = np.where(carries, most, np.inf).min(axis=1)  # NaN where any that carries is
    slant = away + (height[:, None] - heights) ** 2
    cosine = (slant - a * a - b * b) / (2 * a * b)
    bends = np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0)))
    known = (contacts != Contact.AIR) & np.isfinite(height)[:, None]
    return Legs(np.where(np.isfinite(height), height, np.nan), np.where(known, bends, np.nan))
