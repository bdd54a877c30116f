"""The pelvis under the chest, the centre of mass above the feet, and the legs between: closed form, for whole walks.

Everything takes arrays of n poses, by side where there are two columns. Shares of the body's mass and places of their
centres: D. A. Winter, *Biomechanics and Motor Control of Human Movement*. Head, arms and trunk are 0.678 of it and
upright above the hips; each whole leg is 0.161 of it, its centre 0.447 of the way from hip to ankle. It is taken on the
straight line between them, which is off by about 2 cm at 60 degrees of bend. The walk is slow, so the centre of mass
stands above the centre of pressure.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from waltzmark.core.base.angles import heading_differences
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import LEAST_BEND, Body, sided
from waltzmark.core.body.foot import ANKLE, LANDMARKS

__all__ = ["CARRIES", "HOLDS", "Legs", "ankles_over", "legs_of", "pelvis_headings", "pelvis_places"]

#: A flat foot that carries more than this share holds the pelvis.
HOLDS = 0.20
_TOLERANCE = 1e-9  # of shares and angles, so that mirror images are judged alike
_TRUNK, _LEG, _LEG_CENTRE = 0.678, 0.161, 0.447
_BELOW = _LEG * _LEG_CENTRE  # what each ankle adds to the centre of mass
#: Degrees that toes are up on the heel, and the heel is up on the ball.
_TOES_UP, _HEEL_UP = 20.0, 25.0
#: A foot counts as carrying when it has more than this share of the weight.
CARRIES = 0.02


def pelvis_headings(body: Body, headings: Floats, contacts: Ints, shares: Floats, torso: Floats) -> Floats:
    """(n,) heading of the pelvis: it follows the chest as far as the hips of the feet that hold it allow.

    headings, contacts, shares: (n, 2) of the feet; torso: (n,) heading of the chest. A right foot of heading θ allows
    [θ - out, θ + in], a left one [θ - in, θ + out]. The pelvis is the heading nearest to the chest in all that hold;
    where two do not meet, that end of the fuller foot's interval which is nearest the other, at equal shares the
    middle of the gap; with none that holds, it is the chest. Ties go clockwise.
    """
    holds = (contacts == Contact.FLAT) & (shares > HOLDS + _TOLERANCE)
    out = np.array([sided(body.hip_out, side) for side in Side])
    inward = np.array([sided(body.hip_in, side) for side in Side])
    # Each foot's interval by its middle and half its width, clockwise positive.
    middle = headings + np.array([1.0, -1.0]) * (out - inward) / 2.0
    half = (out + inward) / 2.0
    full = (shares[:, 1] > shares[:, 0]).astype(np.int64)
    first = np.where(holds.all(axis=1), full, holds[:, 1].astype(np.int64))
    rows = np.arange(len(torso))
    base, wide = middle[rows, first], half[first]
    other, other_wide = middle[rows, 1 - first], half[1 - first]
    away = heading_differences(base, other)
    both = holds.all(axis=1)
    low = np.where(both, np.maximum(-wide, away - other_wide), -wide)
    high = np.where(both, np.minimum(wide, away + other_wide), wide)
    wanted = heading_differences(base, torso)
    nearest = np.where(
        (wanted >= low - _TOLERANCE) & (wanted <= high + _TOLERANCE),
        wanted,
        np.where(_apart(wanted, high) <= _apart(wanted, low) + _TOLERANCE, high, low),
    )
    equal = np.abs(shares[:, 0] - shares[:, 1]) <= _TOLERANCE
    end = np.where(away > 0, wide, -wide)
    gap = np.where(away > 0, (wide + away - other_wide) / 2.0, (-wide + away + other_wide) / 2.0)
    turn = np.where(both & (low > high + _TOLERANCE), np.where(equal, gap, end), nearest)
    return np.asarray(np.where(holds.any(axis=1), np.mod(base + turn, 360.0), np.mod(torso, 360.0)))


def _apart(one: Floats, other: Floats) -> Floats:
    return np.abs(heading_differences(one, other))


def ankles_over(body: Body, heels: Floats, headings: Floats, contacts: Ints) -> tuple[Floats, Floats]:
    """(n, 2, 2) floor positions of the ankles and (n, 2) their heights above the floor, metres: over the heel when the
    toes are up, over the ball when the heel is. A foot in the air is taken as flat."""
    foot = np.array([body.sole.of(side) for side in Side])
    high = body.measure("ankle_height")
    toes, heel = np.radians(_TOES_UP), np.radians(_HEEL_UP)
    ankle, ball = ANKLE * foot, LANDMARKS["ball"] * foot
    on_heel, on_ball = contacts == Contact.HEEL, contacts == Contact.BALL
    ahead = np.where(on_heel, ankle * np.cos(toes) - high * np.sin(toes), ankle)
    up = np.where(on_heel, ankle * np.sin(toes) + high * np.cos(toes), high)
    ahead = np.where(on_ball, ball - (ball - ankle) * np.cos(heel) + high * np.sin(heel), ahead)
    up = np.where(on_ball, (ball - ankle) * np.sin(heel) + high * np.cos(heel), up)
    angle = np.radians(headings)
    way = np.stack([np.sin(angle), np.cos(angle)], axis=-1)
    return np.asarray(heels + ahead[..., None] * way), np.asarray(up)


def pelvis_places(centres: Floats, ankles: Floats) -> Floats:
    """(n, 2) floor position of the pelvis centre, metres: the centre of mass stands above the centre of pressure.

    centres: (n, 2) centre of pressure; ankles: (n, 2, 2). The trunk is upright, so its centre stands above the pelvis:
    P = (c - 0.072 (A_L + A_R)) / 0.856.
    """
    whole = _TRUNK + 2 * _LEG * (1.0 - _LEG_CENTRE)
    return np.asarray((centres - _BELOW * ankles.sum(axis=1)) / whole)


@dataclass(frozen=True)
class Legs:
    """What the legs do: height (n,) of the hips above the floor, metres; bends (n, 2) of the knees, degrees. Both are
    NaN where a leg that carries cannot reach, a bend also where the foot is in the air; a leg that carries nothing and
    is further away than it is long is straight."""

    height: Floats
    bends: Floats


def legs_of(
    body: Body, places: Floats, pelvis: Floats, ankles: Floats, heights: Floats, contacts: Ints, shares: Floats,
    sinks: Floats,
) -> Legs:  # fmt: skip
    """Hips as high as they can be while the slant from hip to ankle is at most d(sink) on the fuller foot (on both, at
    equal shares) and at most d(10°) on every foot that carries.

    places, pelvis: (n, 2) and (n,) of the pelvis; ankles, heights: (n, 2, 2) and (n, 2) of the ankles; sinks: (n,)
    degrees. d(k)² = a² + b² + 2ab cos k for shank a and thigh b.
    """
    a, b = body.shank, body.thigh
    angle = np.radians(pelvis)
    across = np.stack([np.cos(angle), -np.sin(angle)], axis=-1) * (body.hip_spacing / 2.0)
    hips = np.stack([places - across, places + across], axis=1)
    seat = a * a + b * b + 2 * a * b * np.cos(np.radians(sinks))
    fuller = shares >= 0.5 - _TOLERANCE
    carries: Bools = (shares > CARRIES + _TOLERANCE) & (contacts != Contact.AIR)
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
