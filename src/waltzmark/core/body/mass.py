"""The centre of mass above the feet: segments, and where ankles are over the contact.

Shares of the body's mass and places of their centres: D. A. Winter, *Biomechanics and Motor Control of Human Movement*.
Head, arms and trunk are 0.678 of it, their centre 0.626 of the way from hip to shoulder (0.288 H); each whole leg is
0.161 of it, its centre 0.447 of the way from hip to ankle. It is taken on the straight line between them, which is off
by about 2 cm at 60 degrees of bend. The walk is slow, so the centre of mass stands above the centre of pressure.
"""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np

from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.foot import ANKLE, LANDMARKS

__all__ = ["BELOW", "TRUNK", "WHOLE", "ankle_reach", "ankles_over", "lean_moves", "pelvis_places"]

_UPPER, _LEG, _LEG_CENTRE = 0.678, 0.161, 0.447
#: From hip to shoulder, and how high above the hips the centre of head, arms and trunk is, in statures.
TRUNK = 0.288
_TRUNK_UP = 0.626 * TRUNK
#: What each ankle adds to the centre of mass, and what the pelvis does.
BELOW = _LEG * _LEG_CENTRE
WHOLE = _UPPER + 2 * _LEG * (1.0 - _LEG_CENTRE)
#: Degrees that toes are up on the heel, and the heel is up on the ball.
_TOES_UP, _HEEL_UP = math.radians(20.0), math.radians(25.0)


@lru_cache(maxsize=256)
def ankle_reach(body: Body, side: Side, contact: Contact) -> tuple[float, float]:
    """How far the ankle is ahead of the heel centre along the foot, and how high, metres.

    It is over the heel when the toes are up, over the ball when the heel is. A foot in the air is taken as flat.
    """
    foot, high = body.sole.of(side), body.measure("ankle_height")
    ankle, ball = ANKLE * foot, LANDMARKS["ball"] * foot
    if contact is Contact.HEEL:
        sin, cos = math.sin(_TOES_UP), math.cos(_TOES_UP)
        return ankle * cos - high * sin, ankle * sin + high * cos
    if contact is Contact.BALL:
        sin, cos = math.sin(_HEEL_UP), math.cos(_HEEL_UP)
        return ball - (ball - ankle) * cos + high * sin, (ball - ankle) * sin + high * cos
    return ankle, high


def ankles_over(body: Body, heels: Floats, headings: Floats, contacts: Ints) -> tuple[Floats, Floats]:
    """(n, 2, 2) floor positions of the ankles and (n, 2) their heights above the floor, metres; by `ankle_reach`."""
    table = np.array([[ankle_reach(body, side, contact) for contact in Contact] for side in SIDES])
    reach = table[np.arange(2)[None, :], contacts]
    angle = np.radians(headings)
    way = np.stack([np.sin(angle), np.cos(angle)], axis=-1)
    return np.asarray(heels + reach[..., :1] * way), np.asarray(reach[..., 1])


def lean_moves(body: Body, leans: Floats | float) -> Floats:
    """How far a trunk that leans so many degrees moves the mass ahead, in metres times its share of the whole."""
    return np.asarray(_UPPER * _TRUNK_UP * body.stature * np.sin(np.radians(leans)))


def pelvis_places(
    body: Body, centres: Floats, ankles: Floats, torso: Floats | float = 0.0, leans: Floats | float = 0.0
) -> Floats:
    """(n, 2) floor position of the pelvis centre, metres: the centre of mass stands above the centre of pressure.

    centres: (n, 2) centre of pressure; ankles: (n, 2, 2); torso, leans: (n,) heading of the chest and degrees that the
    trunk leans that way. P = (c - 0.678 0.18 H sin(lean) u(torso) - 0.072 (A_L + A_R)) / 0.856.
    """
    found = centres - BELOW * ankles.sum(axis=1)
    if np.any(leans):
        angle = np.radians(torso)
        far = lean_moves(body, leans)
        found = found - np.stack([far * np.sin(angle), far * np.cos(angle)], axis=-1)
    return np.asarray(found / WHOLE)
