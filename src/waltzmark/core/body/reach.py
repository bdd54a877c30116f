"""Empty reach: how far a foot can be set down while it carries nothing.

The pelvis stands above a point of the supporting foot's axis between heel and ball, the two hip
joints half the hip spacing to either side of it across the torso heading. The supporting leg's
bend gives the height of its hip; the stepping leg keeps at least 10 degrees of bend, so at that
height it reaches a disc about its own hip joint. A landing is empty when its ankle is in that disc
for some allowed pelvis point and torso heading. Both hips are taken to be level and both ankles
equally high.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Side
from waltzmark.core.body.body import LEAST_BEND, Body
from waltzmark.core.body.foot import ANKLE, LANDMARKS

__all__ = ["least_bends", "longest_empty_length", "reach_outline"]

_PELVIS_PLACES = 25
_TORSO_DEGREES = 1.0
_COARSE = (9, 4.0)  # pelvis places and degrees of the torso where many landings are tried at once


@lru_cache(maxsize=64)
def _tries(body: Body, side: Side, places: int, degrees: float) -> tuple[Floats, Floats, Floats]:
    """Every pelvis point and torso heading to try, for a support on a side whose heel is the origin and whose foot
    points along y: supporting hip and stepping hip (k, 2) in metres, x to the right, and the squared distance (k,)
    from supporting hip to supporting ankle across the floor."""
    foot, half = body.sole.of(side), body.hip_spacing / 2.0
    along = np.linspace(0.0, LANDMARKS["ball"] * foot, places)
    out, inward = body.hip_range(side)
    # Hip turn is foot minus torso on the right, torso minus foot on the left: outward positive.
    torso = np.radians(-side.sign * np.arange(-inward, out + degrees / 2, degrees))
    across = np.stack([np.cos(torso), -np.sin(torso)], axis=-1) * (half * side.sign)
    pelvis = np.stack([np.zeros(places), along], axis=-1)
    hips = (pelvis[:, None, :] + across).reshape(-1, 2)
    steppers = (pelvis[:, None, :] - across).reshape(-1, 2)
    return hips, steppers, hips[:, 0] ** 2 + (hips[:, 1] - ANKLE * foot) ** 2


@lru_cache(maxsize=4096)
def longest_empty_length(body: Body, knee_bend: float, width: float, side: Side = Side.RIGHT) -> float:
    """Longest empty step straight ahead, metres between heel centres.

    knee_bend: of the supporting leg, degrees. width: metres between heel centres, at right angles; side: the
    supporting one. The supporting foot points ahead; the torso is free within its hip's range. 0.0 when no empty
    step of that width exists.
    """
    _, steppers, support = _tries(body, side, _PELVIS_PLACES, _TORSO_DEGREES)
    height = body.leg(knee_bend) ** 2 - support
    reach = np.where(height > 0, body.leg(LEAST_BEND) ** 2 - height, -1.0)
    room = reach - (-side.sign * width - steppers[:, 0]) ** 2
    length = steppers[:, 1] + np.sqrt(np.where(room > 0, room, np.nan)) - ANKLE * body.sole.of(side.other)
    best = np.nanmax(length) if np.isfinite(length).any() else 0.0
    return float(max(best, 0.0))


def least_bends(body: Body, side: Side, ankles: Floats, heels: Floats, headings: Floats) -> Floats:
    """(m,) least bend in degrees of the supporting leg that lets a foot be set down empty; inf where none does.

    side: of the supporting leg; ankles: (m, 2) floor positions of the landing ankles; heels, headings: (m, 2) and
    (m,) of the supporting feet. A bend k lets it when d(k)^2 <= d(10)^2 - r^2 + s^2, with r the distance on the floor
    from stepping hip to landing ankle and s that from supporting hip to supporting ankle (both hips equally high).
    """
    _, steppers, support = _tries(body, side, *_COARSE)
    angle = np.radians(headings)
    cos, sin = np.cos(angle), np.sin(angle)
    away = ankles - heels
    local = np.stack([away[:, 0] * cos - away[:, 1] * sin, away[:, 0] * sin + away[:, 1] * cos], axis=-1)
    far = ((local[:, None, :] - steppers) ** 2).sum(axis=2)
    most = body.leg(LEAST_BEND) ** 2
    longest = np.where(far < most, most - far + support, -np.inf).max(axis=1)  # d(k)^2 may be at most this
    a, b = body.shank, body.thigh
    cosine = (longest - a * a - b * b) / (2 * a * b)
    return np.where(cosine < -0.95, np.inf, np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0))))


def reach_outline(body: Body, knee_bend: float, side: Side, rays: int = 72) -> Floats:
    """(rays, 2) how far heels can be set down empty around a supporting foot, in its own frame: its heel the origin,
    x to the right and y ahead, metres. side: the supporting one."""
    _, steppers, support = _tries(body, side, *_COARSE)
    height = body.leg(knee_bend) ** 2 - support
    squared = np.where(height > 0, body.leg(LEAST_BEND) ** 2 - height, 0.0)
    angle = np.linspace(0.0, 2 * np.pi, rays, endpoint=False)
    way = np.stack([np.sin(angle), np.cos(angle)], axis=-1)
    origin = np.array([0.0, ANKLE * body.sole.of(side.other)])  # from the landing heel to its ankle
    off = origin - steppers
    along, rest = way @ off.T, (off**2).sum(axis=1)
    root = along**2 - rest + squared
    far = np.where(root > 0, np.sqrt(np.maximum(root, 0.0)) - along, 0.0).max(axis=1)
    return np.asarray(way * np.maximum(far, 0.0)[:, None])
