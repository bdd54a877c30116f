"""One passage laid onto another: mirrored or turned, and moved.

The best reflection Q (det Q = -1) and translation t, with left and right exchanged, that minimise the sum of
|Q a + t - b|^2 over all heels come from the singular value decomposition of the covariance of the centred points (the
orthogonal Procrustes problem: Schönemann 1966; Kabsch 1976, here for the improper rotation too).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from waltzmark.core.base.angles import normal, rotated
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Side
from waltzmark.core.body.pose import FootPose, Pose, rest_of

__all__ = ["Fold", "best_fold", "best_reflection", "best_rotation"]


@dataclass(frozen=True)
class Fold:
    """Lays the poses of one passage onto those of another.

    mirror: whether left and right are exchanged; angle: degrees, the sum of a heading and its mirror image (twice the
    heading of the line), or how far a repeat is turned clockwise; x, y: metres, where the floor's origin comes to lie.
    """

    mirror: bool
    angle: float
    x: float = 0.0
    y: float = 0.0

    @property
    def axis(self) -> float | None:
        """Heading of the mirror line in [0, 180), degrees; None for a repeat."""
        return normal(self.angle) / 2.0 if self.mirror else None

    def heading(self, heading: float) -> float:
        return normal(self.angle - heading if self.mirror else self.angle + heading)

    def place(self, x: float, y: float) -> tuple[float, float]:
        """A place on the floor, metres."""
        if self.mirror:
            # A mirror image about 12 o'clock, turned: reflecting in a line turns by twice its heading.
            x = -x
        x, y = rotated(x, y, self.angle)
        return x + self.x, y + self.y

    def foot(self, foot: FootPose) -> FootPose:
        return FootPose(*self.place(foot.x, foot.y), self.heading(foot.heading), foot.contact)

    def pose(self, pose: Pose) -> Pose:
        """The pose that the other side should have."""
        left, right = self.foot(pose.left), self.foot(pose.right)
        folded = pose._replace(
            left=left, right=right, torso=self.heading(pose.torso), gaze=self.heading(pose.gaze),
            facing=self.heading(pose.facing),
        )  # fmt: skip
        if not self.mirror:
            return folded
        return folded._replace(
            left=right, right=left, left_share=float(rest_of(pose.left_share)),
            left_turned=-pose.right_turned + 0.0, right_turned=-pose.left_turned + 0.0,
        )  # fmt: skip

    def side(self, side: Side) -> Side:
        """Which foot of the other passage is this one's."""
        return side.other if self.mirror else side

    def back(self) -> Fold:
        """Lays the other passage onto the one."""
        way = Fold(self.mirror, self.angle if self.mirror else -self.angle)
        x, y = way.place(self.x, self.y)
        return Fold(way.mirror, way.angle, -x, -y)

    def through(self, start: tuple[float, float], end: tuple[float, float]) -> Fold:
        """The same that lays one place onto another."""
        x, y = Fold(self.mirror, self.angle).place(*start)
        return Fold(self.mirror, self.angle, end[0] - x, end[1] - y)


def best_reflection(a: Floats, b: Floats) -> tuple[Floats, Floats]:
    """Reflection Q (2, 2) and translation t (2,) that bring points a (n, 2) onto b (n, 2) best: Q a + t ~ b."""
    return _best(a, b, -1.0)


def best_rotation(a: Floats, b: Floats) -> tuple[Floats, Floats]:
    """Rotation Q (2, 2) and translation t (2,) that bring points a (n, 2) onto b (n, 2) best: Q a + t ~ b."""
    return _best(a, b, 1.0)


def _best(a: Floats, b: Floats, wanted: float) -> tuple[Floats, Floats]:
    mean_a, mean_b = a.mean(axis=0), b.mean(axis=0)
    u, _, vt = np.linalg.svd((a - mean_a).T @ (b - mean_b))
    sign = wanted * np.sign(np.linalg.det(vt.T @ u.T)) or wanted
    q = vt.T @ np.diag([1.0, sign]) @ u.T
    return q, mean_b - q @ mean_a


def best_fold(a: Floats, b: Floats, mirror: bool, angle: float) -> Fold:
    """The fold that lays heels a (n, 2, 2), by side, onto b (n, 2, 2) best, metres; of the given *angle* where they do
    not say which way."""
    b = b[:, ::-1] if mirror else b
    points, onto = a.reshape(-1, 2), b.reshape(-1, 2)
    if len(points) < 2 or np.ptp(points, axis=0).max() < 0.05:
        fold = Fold(mirror, angle)
        return fold.through(*((float(p[0]), float(p[1])) for p in (points.mean(axis=0), onto.mean(axis=0))))
    q, t = (best_reflection if mirror else best_rotation)(points, onto)
    # A reflection in a line of heading alpha is [[-cos 2a, sin 2a], [sin 2a, cos 2a]]; a turn clockwise by a is
    # [[cos a, sin a], [-sin a, cos a]].
    found = np.degrees(np.arctan2(q[0, 1], q[1, 1]))
    return Fold(mirror, normal(float(found)), float(t[0]), float(t[1]))
