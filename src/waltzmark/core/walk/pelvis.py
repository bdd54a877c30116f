"""Where the pelvis faces under the chest: closed form, for whole walks.

Everything takes arrays of n poses, by side where there are two columns. Where the pelvis stands: `core.body.mass`; the
legs under it: `core.walk.stand`.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np

from waltzmark.core.base.angles import ahead, heading_differences
from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.leftright import SIDES, Contact
from waltzmark.core.body.body import Body
from waltzmark.core.body.mass import BELOW, WHOLE, ankle_reach, lean_moves
from waltzmark.core.body.pose import Pose, rest_of

__all__ = [
    "CARRIES",
    "HOLDS",
    "HOLDS_WHOLE",
    "Pelvis",
    "hip_gaps",
    "holds",
    "pelvis_heading",
    "pelvis_headings",
    "pelvis_of",
]

#: A flat foot that carries more than this share begins to hold the pelvis, and from so much on holds it wholly.
HOLDS, HOLDS_WHOLE = 0.20, 0.30
#: Shares of the fuller foot's side between which the pelvis crosses where the hips of two feet do not meet.
_CROSSES = (0.40, 0.60)
_TOLERANCE = 1e-9  # of shares and angles, so that mirror images are judged alike
#: A foot counts as carrying when it has more than this share of the weight.
CARRIES = 0.02


def holds(contacts: Ints, shares: Floats) -> Floats:
    """How far each foot holds the pelvis.

    Parameters
    ----------
    contacts, shares : (n, 2)
        What is down of each foot, by side, and its share of the weight.

    Returns
    -------
    (n, 2)
        1 for a flat foot with 30 % or more, nothing up to 20 %, evenly between; so that the pelvis goes with the
        weight and does not jump.
    """
    held = np.clip((shares - HOLDS) / (HOLDS_WHOLE - HOLDS), 0.0, 1.0)
    held = np.where(held < _TOLERANCE, 0.0, np.where(held > 1.0 - _TOLERANCE, 1.0, held))
    return np.where(contacts == Contact.FLAT, held, 0.0)


def pelvis_headings(body: Body, headings: Floats, contacts: Ints, shares: Floats, torso: Floats) -> Floats:
    """The heading of the pelvis: it follows the chest as far as the hips of the feet that hold it allow.

    A right foot of heading θ allows [θ - out, θ + in], a left one [θ - in, θ + out]. The pelvis is the heading nearest
    to the chest in all that hold, ties clockwise; with none that holds, it is the chest. Where two do not meet, it
    crosses the gap evenly while the weight goes from 40 to 60 %. A foot that holds in part (see `holds`) draws the
    pelvis that part of the way from where it would be without it.

    Parameters
    ----------
    headings, contacts, shares : (n, 2)
        Of the feet, by side; headings in degrees.
    torso : (n,)
        Heading of the chest, degrees.

    Returns
    -------
    (n,)
        Degrees, from 0 to 360.
    """
    allowed = _Allowed(body, headings, contacts, shares)
    base, low, high = allowed.base, allowed.low, allowed.high
    wanted = heading_differences(base, torso)
    alone = _nearest(wanted, -allowed.wide, allowed.wide)
    # Where they do not meet, the two ends that are nearest each other are `high` and `low`.
    own, other = np.where(allowed.away > 0, high, low), np.where(allowed.away > 0, low, high)
    fuller = np.round(np.maximum(shares[:, 0], shares[:, 1]), 12)
    crossing = other + (own - other) * np.clip((fuller - _CROSSES[0]) / (_CROSSES[1] - _CROSSES[0]), 0.0, 1.0)
    together = np.where(low > high + _TOLERANCE, crossing, _nearest(wanted, low, high))
    # Of two that hold, one holds wholly; one alone that does not lets the pelvis go toward the chest.
    turn = np.where(allowed.both, alone + allowed.light * (together - alone), alone)
    free = heading_differences(np.mod(base + alone, 360.0), torso)
    turn = np.where(allowed.both | (allowed.light == 1.0), turn, turn + (1.0 - allowed.light) * free)
    return np.asarray(np.where(allowed.any, np.mod(base + turn, 360.0), np.mod(torso, 360.0)))


def _nearest(wanted: Floats, low: Floats, high: Floats) -> Floats:
    """(n,) what of an interval is nearest to a turn, all in degrees from the same heading."""
    inside = (wanted >= low - _TOLERANCE) & (wanted <= high + _TOLERANCE)
    ends = np.where(_apart(wanted, high) <= _apart(wanted, low) + _TOLERANCE, high, low)
    return np.where(inside, wanted, ends)


class Pelvis(NamedTuple):
    """Where the pelvis of one pose stands, metres, and where it faces, degrees."""

    x: float
    y: float
    heading: float


def pelvis_of(body: Body, pose: Pose) -> Pelvis:
    """The pelvis of one pose, on the way between two counts too; the same as for whole walks, without their arrays."""
    x = y = 0.0
    for side in SIDES:
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
    """Which turns the hips of the feet that hold the pelvis allow it.

    From *low* to *high*, clockwise of *base*, (n,) each; they have changed places where the two feet do not meet. wide:
    (n,) half the width of what the foot allows that gives the base, the fuller one of two; away: (n,) from the middle
    of one to the other's; light: (n,) how far the lighter of two holds, or the only one.
    """

    def __init__(self, body: Body, headings: Floats, contacts: Ints, shares: Floats) -> None:
        held = holds(contacts, shares)
        out, inward = np.array([body.hip_range(side) for side in SIDES]).T
        # Each foot's interval by its middle and half its width, clockwise positive.
        middle = headings + np.array([1.0, -1.0]) * (out - inward) / 2.0
        half = (out + inward) / 2.0
        full = (shares[:, 1] > shares[:, 0]).astype(np.int64)
        self.both, self.any = (held > 0.0).all(axis=1), (held > 0.0).any(axis=1)
        first = np.where(self.both, full, (held[:, 1] > 0.0).astype(np.int64))
        rows = np.arange(len(headings))
        self.base, self.wide = middle[rows, first], half[first]
        self.light = np.where(self.both, held.min(axis=1), held.max(axis=1))
        self.away = heading_differences(self.base, middle[rows, 1 - first])
        self.low = np.where(self.both, np.maximum(-self.wide, self.away - half[1 - first]), -self.wide)
        self.high = np.where(self.both, np.minimum(self.wide, self.away + half[1 - first]), self.wide)


def hip_gaps(body: Body, headings: Floats, contacts: Ints, shares: Floats) -> Floats:
    """(n,) degrees by which what the hips of two feet allow the pelvis does not meet.

    0 where it does; as far as the lighter of them holds it.
    """
    allowed = _Allowed(body, headings, contacts, shares)
    return np.where(allowed.both, allowed.light * np.maximum(allowed.low - allowed.high, 0.0), 0.0)


def _apart(one: Floats, other: Floats) -> Floats:
    return np.abs(heading_differences(one, other))
