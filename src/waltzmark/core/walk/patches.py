"""The patch of floor that a sole rests on: how far it reaches, and what it takes to turn a foot on it."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.foot import LANDMARKS, Sole

__all__ = ["SIGNS", "STANDARD_GRAVITY", "TABLE", "mean_arm", "outward", "pivot_torque", "supports", "tied"]


#: Metres a second squared.
STANDARD_GRAVITY = 9.81
TABLE = 0.25  # degrees between the directions in which the reach of a patch is known
SIGNS = np.array([-1.0, 1.0])  # outward is counter-clockwise on the left, clockwise on the right
TIE = 1e-5  # metres between edges that are equally near


@lru_cache(maxsize=64)
def mean_arm(sole: Sole, side: Side, contact: Contact, part: str) -> float:
    """Mean distance in metres of a contact patch's points from a landmark, under even pressure."""
    patch = sole.patch(side, contact)
    if patch is None:
        return 0.0
    # A fine grid of the patch: inside when it lies to the same side of every edge's winding.
    low, high = patch.min(axis=0), patch.max(axis=0)
    xs, ys = np.meshgrid(np.linspace(low[0], high[0], 41), np.linspace(low[1], high[1], 61))
    points = np.column_stack([xs.ravel(), ys.ravel()])
    inside = inside_of(points, patch)
    away = points[inside] - (0.0, LANDMARKS[part] * sole.of(side))
    return float(np.hypot(away[:, 0], away[:, 1]).mean())


def inside_of(points: Floats, polygon: Floats) -> Bools:
    """(n,) whether points lie in a polygon: the crossing rule."""
    a, b = polygon, np.roll(polygon, -1, axis=0)
    above = points[:, None, 1] < a[None, :, 1]
    crosses = above != (points[:, None, 1] < b[None, :, 1])
    with np.errstate(divide="ignore", invalid="ignore"):
        x = a[:, 0] + (points[:, None, 1] - a[:, 1]) / (b[:, 1] - a[:, 1]) * (b[:, 0] - a[:, 0])
    return np.asarray((crosses & (points[:, None, 0] < x)).sum(axis=1) % 2 == 1)


def pivot_torque(body: Body, side: Side, contact: Contact, part: str, share: float) -> float:
    """Newton metres that the floor can resist a turning foot with: T = mu (share m g) r, r the `mean_arm`.

    An estimate, to compare ways of doing the same turn.
    """
    return body.friction * share * body.mass * STANDARD_GRAVITY * mean_arm(body.sole, side, contact, part)


@lru_cache(maxsize=16)
def supports(sole: Sole) -> Floats:
    """(2, 4, directions): how far each contact patch reaches from the heel centre.

    By direction from the axis, every `TABLE` degrees; the last is the first again.
    """
    angle = np.radians(np.arange(0.0, 360.0 + TABLE / 2, TABLE))
    ways = np.stack([np.sin(angle), np.cos(angle)])
    found = np.full((2, 4, len(angle)), -1e6)  # in the air: nowhere
    for side in SIDES:
        for contact in (Contact.BALL, Contact.HEEL, Contact.FLAT):
            patch = sole.patch(side, contact)
            assert patch is not None
            found[side, contact] = (patch @ ways).max(axis=0)
    return found


def outward(turns: Floats) -> Floats:
    """Turns outward positive; half a turn counts as outward on both sides."""
    signed = turns * SIGNS
    return np.asarray(np.where(signed <= -180.0, 180.0, signed))


def tied(values: Floats) -> Floats:
    """Values (k, m) with those within `TIE` of a row's least made equal to it.

    Edges that are equally near are told apart by their order, never by how their place on the floor rounds them.
    """
    least = values.min(axis=1, keepdims=True)
    return np.where(values <= least + TIE, least, values)
