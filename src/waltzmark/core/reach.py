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

from waltzmark.core.body import LEAST_BEND, Body
from waltzmark.core.foot import ANKLE, LANDMARKS

__all__ = ["longest_empty_length"]

_PELVIS_PLACES = 25
_TORSO_DEGREES = 1.0


@lru_cache(maxsize=4096)
def longest_empty_length(body: Body, knee_bend: float, width: float) -> float:
    """Longest empty step straight ahead, metres between heel centres.

    knee_bend: of the supporting leg, degrees. width: metres between heel centres, at right angles.
    The supporting foot points ahead; the torso is free within its hip's range. By the symmetry of the
    body it is the same for both sides. 0.0 when no empty step of that width exists.
    """
    foot = body.foot_length
    # Frame of the step: x to the supporting side, y ahead; the supporting heel at the origin.
    along = np.linspace(0.0, LANDMARKS["ball"] * foot, _PELVIS_PLACES)[:, None]
    # For a right support the hip turn is foot minus torso: outward at most hip_out, inward hip_in.
    torso = np.radians(np.arange(-body.hip_out, body.hip_in + 0.5, _TORSO_DEGREES))[None, :]
    half = body.hip_spacing / 2.0
    hip_x, hip_y = half * np.cos(torso), along - half * np.sin(torso)
    support = hip_x**2 + (hip_y - ANKLE * foot) ** 2
    height = body.leg(knee_bend) ** 2 - support
    reach = np.where(height > 0, body.leg(LEAST_BEND) ** 2 - height, -1.0)
    aside = -half * np.cos(torso) + width  # stepping hip to stepping ankle, across
    room = reach - aside**2
    step_hip_y = along + half * np.sin(torso)
    length = step_hip_y + np.sqrt(np.where(room > 0, room, np.nan)) - ANKLE * foot
    best = np.nanmax(length) if np.isfinite(length).any() else 0.0
    return float(max(best, 0.0))
