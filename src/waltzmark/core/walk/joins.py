"""What a stance that is left and one that is entered differ by, whatever place and facing they are in."""

from __future__ import annotations

import math

import numpy as np

from waltzmark.core.base.angles import heading_difference, heading_differences
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.records import Record
from waltzmark.core.body.pose import Pose

__all__ = ["LIMITS", "WEIGHTS", "Join", "join_of", "mismatches", "stance"]

#: What a join may differ by at most: cm of either foot, degrees of either foot, % of the weight.
LIMITS = (15.0, 30.0, 60.0)
#: What a cm, a degree and a % of mismatch cost, in postures left out.
WEIGHTS = (0.06, 0.02, 0.006)


class Join(Record):
    """What the stance that is left and the one that is entered differ by.

    cm and degrees of the foot that differs most, % of the weight.
    """

    cm: float
    degrees: float
    percent: float

    @property
    def fits(self) -> bool:
        return all(own <= most + 1e-9 for own, most in zip((self.cm, self.degrees, self.percent), LIMITS, strict=True))

    @property
    def cost(self) -> float:
        """What it costs, in postures left out."""
        return WEIGHTS[0] * self.cm + WEIGHTS[1] * self.degrees + WEIGHTS[2] * self.percent


def stance(pose: Pose) -> list[float]:
    """(7) both heels, both headings and the left share of a stance, in the frame of its midpoint and torso."""
    x, y = pose.midpoint
    angle = math.radians(pose.torso)
    own: list[float] = []
    for foot in (pose.left, pose.right):
        dx, dy = foot.x - x, foot.y - y
        own += [dx * math.cos(angle) - dy * math.sin(angle), dx * math.sin(angle) + dy * math.cos(angle)]
    own += [heading_difference(pose.torso, foot.heading) for foot in (pose.left, pose.right)]
    return [*own, pose.left_share]


def mismatches(leaves: Floats, enters: Floats) -> Floats:
    """(n, m, 3) cm, degrees and % between each of some stances (n, 7) that are left and each of some (m, 7) entered."""
    a, b = leaves[:, None], enters[None]
    cm = 100.0 * np.sqrt(((a[..., :4] - b[..., :4]).reshape(*np.broadcast(a, b).shape[:2], 2, 2) ** 2).sum(axis=3)).max(
        axis=2
    )
    degrees = np.abs(heading_differences(a[..., 4:6], b[..., 4:6])).max(axis=2)
    percent = 100.0 * np.abs(a[..., 6] - b[..., 6])
    return np.stack([cm, degrees, percent], axis=2)


def join_of(one: Pose, other: Pose) -> Join:
    """What a stance that is left and one that is entered differ by."""
    return Join(*mismatches(np.array([stance(one)]), np.array([stance(other)]))[0, 0].tolist())
