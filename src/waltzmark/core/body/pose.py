"""A pose: where both feet, the weight, the torso and the eyes are at the end of a count."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from waltzmark.core.base.angles import along_across, heading_difference, normal, rotated
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Contact, Side

__all__ = ["FootPose", "Pose"]


def rest_of(share: Floats | float) -> Floats | float:
    """What the other foot carries, for arrays too.

    Rounded to what was meant: 80/20 is the same numbers whichever foot carries the 80, so that both sides are judged
    alike.
    """
    if isinstance(share, float):
        return round((1.0 - share) * 1e12) / 1e12  # just as arrays are rounded, in a hundredth of the time
    return np.asarray(np.round(1.0 - share, 12))


class FootPose(NamedTuple):
    """Heel centre in metres, heading in degrees, and the part that is on the floor."""

    x: float
    y: float
    heading: float
    contact: Contact


class Pose(NamedTuple):
    """One moment of the walk.

    left_share: share of the left foot, 0 to 1. torso, gaze: headings. sink: knee bend of the standing leg, degrees.
    facing: the heading in whose frame the stance has its length and width. crossing: whether the last step was meant to
    cross. left_turned, right_turned: degrees each foot has turned since the last step, clockwise positive. lean:
    degrees that the trunk leans forward.
    """

    left: FootPose
    right: FootPose
    left_share: float = 0.5
    torso: float = 0.0
    gaze: float = 0.0
    sink: float = 50.0
    facing: float = 0.0
    crossing: bool = False
    left_turned: float = 0.0
    right_turned: float = 0.0
    lean: float = 0.0

    def foot(self, side: Side) -> FootPose:
        return self.right if side else self.left

    def share(self, side: Side) -> float:
        return float(rest_of(self.left_share)) if side else self.left_share

    @property
    def midpoint(self) -> tuple[float, float]:
        """Half-way between the heels, metres."""
        return (self.left.x + self.right.x) / 2.0, (self.left.y + self.right.y) / 2.0

    def moved(self, dx: float, dy: float) -> Pose:
        """The same pose elsewhere on the floor."""
        left, right = self.left, self.right
        return self._replace(
            left=left._replace(x=left.x + dx, y=left.y + dy),
            right=right._replace(x=right.x + dx, y=right.y + dy),
        )

    def turned(self, degrees: float) -> Pose:
        """The same pose turned clockwise about the floor's origin."""

        def foot(f: FootPose) -> FootPose:
            return FootPose(*rotated(f.x, f.y, degrees), normal(f.heading + degrees), f.contact)

        return self._replace(
            left=foot(self.left),
            right=foot(self.right),
            torso=normal(self.torso + degrees),
            gaze=normal(self.gaze + degrees),
            facing=normal(self.facing + degrees),
        )


def stance_size(left: FootPose, right: FootPose, facing: float) -> tuple[float, float]:
    """Length and width in metres between heels in the frame of *facing*; a negative width is crossed."""
    along, width = along_across(right.x - left.x, right.y - left.y, facing)
    return abs(float(along)), float(width)


def same_but_moved(first: Pose, second: Pose, tolerance: float = 1e-9) -> tuple[float, float] | None:
    """The move (dx, dy) in metres that brings the first pose onto the second, or None when they differ."""
    if first.crossing != second.crossing or first.lean != second.lean:
        return None
    dx, dy = second.left.x - first.left.x, second.left.y - first.left.y
    for mine, theirs in ((first.left, second.left), (first.right, second.right)):
        if mine.contact != theirs.contact or abs(heading_difference(mine.heading, theirs.heading)) > tolerance:
            return None
        if abs(mine.x + dx - theirs.x) > tolerance or abs(mine.y + dy - theirs.y) > tolerance:
            return None
    for mine_value, their_value in (
        (first.left_share, second.left_share),
        (first.sink, second.sink),
        (first.left_turned, second.left_turned),
        (first.right_turned, second.right_turned),
    ):
        if abs(mine_value - their_value) > tolerance:
            return None
    for mine_heading, their_heading in (
        (first.torso, second.torso),
        (first.gaze, second.gaze),
        (first.facing, second.facing),
    ):
        if abs(heading_difference(mine_heading, their_heading)) > tolerance:
            return None
    return dx, dy
