"""How the body stands over its feet: pelvis, hips and knees.

Closed form, for whole walks: everything takes arrays of n poses, by side where there are two columns. What the rules
judge, the trace tells and the figure shows is this one body.
"""

from __future__ import annotations

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import Contact
from waltzmark.core.base.records import Record
from waltzmark.core.body.body import LEAST_BEND, Body

__all__ = [
    "BINDS",
    "LEFT_IN_KNEE",
    "TOLERANCE",
    "Placed",
    "Stand",
    "bends_of",
    "hips_of",
    "leg_lengths",
    "longest_legs",
    "stand_of",
]

TOLERANCE = 1e-9  # of shares, so that mirror images are judged alike
#: Shares between which a leg goes from nearly straight to the bend that is set.
_BENDS = (0.40, 0.50)
#: Feet with this share or more bind the hips.
BINDS = 0.30
#: A lighter one begins to draw the hips down here, and does so the more the more it carries.
_DRAWS = 0.05
#: But by no more than this for each part of the weight beyond, metres: a foot far out of reach would draw them down
#: with a jerk as it begins to.
_MOST_DRAWN = 1.7
#: A foot with this share that is out of reach leaves the height unknown.
_OUT_OF_REACH = 0.10
#: Degrees that are left in a knee whose leg is as long as it can be with a foot that is light.
LEFT_IN_KNEE = 5.0


class Stand(Record, eq=False):
    """Over n poses, by side where there are two columns.

    places : (n, 2) floor positions of the pelvis centre, metres
    hips : (n, 2, 2) floor positions of the hip joints, metres
    tops : (n, 2) their heights above the floor, metres; they differ where the pelvis tilts toward a foot that lands
    bends : (n, 2) of the knees, degrees; NaN where a leg that carries cannot reach, and for a foot in the air. A light
        leg that is further from its foot than it is long is straight.
    """

    places: Floats
    hips: Floats
    tops: Floats
    bends: Floats

    @property
    def height(self) -> Floats:
        """(n,) of the pelvis centre above the floor, metres; NaN where a leg that carries cannot reach."""
        return np.asarray(self.tops.mean(axis=1))


class Placed(Record):
    """Where a body stands over n poses.

    pelvis : (n,) its heading, degrees
    heels, headings : (n, 2, 2), (n, 2) of the feet, by side; metres and degrees
    centres : (n, 2) centres of pressure, metres
    """

    pelvis: Floats
    heels: Floats
    headings: Floats
    centres: Floats


def hips_of(body: Body, places: Floats, pelvis: Floats) -> Floats:
    """(n, 2, 2) floor positions of the hip joints, metres.

    Half their spacing to either side of the pelvis centre (n, 2) across its heading (n,).
    """
    angle = np.radians(pelvis)
    across = np.stack([np.cos(angle), -np.sin(angle)], axis=-1) * (body.hip_spacing / 2.0)
    return np.stack([places - across, places + across], axis=1)


def leg_lengths(body: Body, bends: Floats) -> Floats:
    """From hip to ankle for knee bends in degrees, metres: d(k)² = a² + b² + 2ab cos k for shank a and thigh b."""
    a, b = body.shank, body.thigh
    return np.asarray(np.sqrt(a * a + b * b + 2 * a * b * np.cos(np.radians(bends))))


def longest_legs(body: Body, shares: Floats, sinks: Floats) -> Floats:
    """How long a leg is at the most, from hip to ankle.

    Parameters
    ----------
    shares : (n, 2)
        Of the weight, by side.
    sinks : (n,)
        Bend of the standing knee that is set, degrees.

    Returns
    -------
    (n, 2)
        Metres: d(10°) up to 40 % of the weight, d(sink) from 50 % on, evenly between.
    """
    straight, seat = body.leg(LEAST_BEND), leg_lengths(body, np.maximum(sinks, LEAST_BEND))
    part = np.clip((shares - _BENDS[0]) / (_BENDS[1] - _BENDS[0]), 0.0, 1.0)
    return np.asarray(straight + (seat - straight)[:, None] * part)


def stand_of(
    body: Body,
    places: Floats,
    pelvis: Floats,
    ankles: Floats,
    heights: Floats,
    contacts: Ints,
    shares: Floats,
    sinks: Floats,
) -> Stand:
    """The hips as high as the feet let them be.

    Feet with 30 % or more bind them: none of those legs is longer than `longest_legs`. A lighter one draws them down
    by clip((share - 0.05) / 0.25) of what it is short, at most 1.7 cm for each percent beyond 5. A foot of 10 % or more
    that is out of reach even with its hip as low as its ankle leaves the height unknown.

    Parameters
    ----------
    places, pelvis : (n, 2), (n,)
        Where the pelvis centre stands, metres, and faces, degrees.
    ankles, heights : (n, 2, 2), (n, 2)
        Floor positions and heights of the ankles, metres.
    contacts, shares, sinks : (n, 2), (n, 2), (n,)
        What is down of each foot, its share of the weight, and the bend that is set, degrees.
    """
    hips = hips_of(body, places, pelvis)
    longest = longest_legs(body, shares, sinks)
    room = longest**2 - ((hips - ankles) ** 2).sum(axis=2)
    most = heights + np.sqrt(np.maximum(room, 0.0))
    down = contacts != Contact.AIR
    binds: Bools = down & (shares >= BINDS - TOLERANCE)
    height = np.where(binds, most, np.inf).min(axis=1)
    drawn = np.where(down & ~binds, np.clip((shares - _DRAWS) / (BINDS - _DRAWS), 0.0, 1.0), 0.0)
    known = np.where(np.isfinite(height), height, 0.0)
    most_drawn = _MOST_DRAWN * np.maximum(shares - _DRAWS, 0.0)
    height = height - np.minimum(drawn * np.maximum(known[:, None] - most, 0.0), most_drawn).max(axis=1)
    unknown = (down & (shares >= _OUT_OF_REACH - TOLERANCE) & (room < 0.0)).any(axis=1) | ~np.isfinite(height)
    tops = np.repeat(np.where(unknown, np.nan, height)[:, None], 2, axis=1)
    return Stand(places, hips, tops, bends_of(body, hips, tops, ankles, heights, contacts))


def bends_of(body: Body, hips: Floats, tops: Floats, ankles: Floats, heights: Floats, contacts: Ints) -> Floats:
    """(n, 2) bends of the knees in degrees, by the law of cosines over the slants from hip to ankle."""
    a, b = body.shank, body.thigh
    slant = ((hips - ankles) ** 2).sum(axis=2) + (tops - heights) ** 2
    cosine = (slant - a * a - b * b) / (2 * a * b)
    bends = np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0)))
    return np.where(contacts != Contact.AIR, bends, np.nan)
