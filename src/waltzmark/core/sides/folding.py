"""One passage laid onto another: mirrored or turned, and moved."""

from __future__ import annotations

import numpy as np

from waltzmark.core.base.angles import normal, rotated
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.pose import FootPose, Pose, rest_of

__all__ = ["Fold", "best_fold"]

#: Metres from which on it does not matter how far a heel is from its counterpart.
FAR = 0.10


class Fold(Record):
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
            left=left,
            right=right,
            torso=self.heading(pose.torso),
            gaze=self.heading(pose.gaze),
            facing=self.heading(pose.facing),
        )
        if not self.mirror:
            return folded
        return folded._replace(
            left=right,
            right=left,
            left_share=float(rest_of(pose.left_share)),
            left_turned=-pose.right_turned + 0.0,
            right_turned=-pose.left_turned + 0.0,
        )

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


def best_fold(a: Floats, b: Floats, mirror: bool, angle: float) -> Fold:
    """The fold of an *angle* that lays heels a (n, 2, 2), by side, where most of b (n, 2, 2) are, metres.

    What differs in one place then remains there, instead of a little of it everywhere as the least squares would have
    it: of the moves that lay one heel onto its counterpart, that with the least sum of distances is taken, each
    counted for no more than `FAR`.
    """
    bare = Fold(mirror, normal(angle))
    onto = b[:, ::-1] if mirror else b
    laid = np.array([bare.place(x, y) for x, y in a.reshape(-1, 2).tolist()])
    moves = onto.reshape(-1, 2) - laid
    apart = np.linalg.norm(moves[:, None] - moves[None, :], axis=2)
    x, y = moves[int(np.minimum(apart, FAR).sum(axis=1).argmin())]
    return Fold(mirror, bare.angle, float(x), float(y))
