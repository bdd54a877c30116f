"""Between two counts: where feet, weight, torso and centre are while a count is being walked."""

from __future__ import annotations

from typing import TypeVar

import numpy as np

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.foot import pivoted
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.walk.ground import CARRIED, PIVOT, STEP, Move
from waltzmark.core.walk.step import step
from waltzmark.core.walk.trace import Trace

__all__ = ["centre_of", "ease", "feet_between", "foot_between", "pose_between", "swing_of"]


Number = TypeVar("Number", float, Floats)


def ease(t: Number) -> Number:
    """A smooth beginning and end: 3t^2 - 2t^3 for t in [0, 1]."""
    return t * t * (3.0 - 2.0 * t)


def foot_between(before: FootPose, after: FootPose, move: Move, t: float) -> FootPose:
    """Where a foot is at *t* in [0, 1] of its move: on the pivot's arc, or on the swing's quadratic curve."""
    if t <= 0.0:
        return before
    if t >= 1.0:
        return after
    if move.kind in (PIVOT, CARRIED):
        x, y = pivoted(before.x, before.y, (move.x, move.y), move.turn * t)
        grounded = min(before.contact, after.contact) > Contact.AIR
        contact = Contact(int(move.contact)) if grounded and abs(move.turn) > 1e-6 else before.contact
        return FootPose(x, y, normal(before.heading + move.turn * t), contact)
    if move.kind == STEP:
        a, b, c = (1 - t) ** 2, 2 * t * (1 - t), t * t
        return FootPose(
            a * before.x + b * move.x + c * after.x,
            a * before.y + b * move.y + c * after.y,
            normal(before.heading + move.turn * t),
            Contact(int(move.contact)),
        )
    return before if t < 0.5 else after


def swing_of(before: FootPose, after: FootPose, move: Move, times: Floats) -> Floats:
    """(k, 2) heel centres of a foot that steps, metres, at *times* (k,) in [0, 1]: the curve of `foot_between`."""
    t = times[:, None]
    ends, over = np.array([before[:2], after[:2]]), np.array([move.x, move.y])
    return np.asarray((1 - t) ** 2 * ends[0] + 2 * t * (1 - t) * over + t * t * ends[1])


def feet_between(trace: Trace, side: Side, times: Floats) -> tuple[Ints, Floats]:
    """Where one foot is at *times* (k,) in [0, 1] of each of its moves.

    (m,) rows that move it, and (m, k, 3) heel centre in metres and heading in degrees. The same curves as
    `foot_between`, for a whole walk at once.
    """
    kinds = trace.move_kinds[:, side]
    rows = np.flatnonzero(kinds)
    before, after = trace.heels[rows - 1, side], trace.heels[rows, side]
    point, turn = trace.move_points[rows, side], trace.move_turns[rows, side]
    t = times[None, :, None]
    stepping = (1 - t) ** 2 * before[:, None] + 2 * t * (1 - t) * point[:, None] + t * t * after[:, None]
    angle = np.radians(turn[:, None] * times)
    cos, sin = np.cos(angle), np.sin(angle)
    arm = (before - point)[:, None]
    x, y = arm[..., 0] * cos + arm[..., 1] * sin, arm[..., 1] * cos - arm[..., 0] * sin
    turning = point[:, None] + np.stack([x, y], axis=2)
    heels = np.where((kinds[rows] != STEP)[:, None, None], turning, stepping)
    headings = trace.headings[rows - 1, side][:, None] + turn[:, None] * times
    return rows, np.concatenate([heels, headings[..., None]], axis=2)


def pose_between(trace: Trace, row: int, t: float) -> Pose:
    """The pose at *t* in [0, 1] of the count of a row, which begins in the row before."""
    if row <= 0:
        return trace.pose(0)
    before, after = trace.pose(row - 1), trace.pose(row)
    if t >= 1.0:
        return after
    parts = trace.written[row].parts
    if len(parts) == 1:
        return _between(before, after, (trace.move(row, Side.LEFT), trace.move(row, Side.RIGHT)), t)
    # One part after the other, each taking as long.
    at = min(int(max(t, 0.0) * len(parts)), len(parts) - 1)
    for part in parts[:at]:
        before = step(before, part, trace.ground)[0]
    after, moves, _ = step(before, parts[at], trace.ground)
    return _between(before, after, moves, max(t, 0.0) * len(parts) - at)


def _between(before: Pose, after: Pose, moves: tuple[Move, Move], t: float) -> Pose:
    """The pose at *t* in [0, 1] of the way from one pose to the next, with how each foot moves."""
    s = ease(max(t, 0.0))
    torso_turn = heading_difference(before.torso, after.torso)
    gaze_turn = heading_difference(before.gaze, after.gaze)
    return after._replace(
        left=foot_between(before.left, after.left, moves[Side.LEFT], s),
        right=foot_between(before.right, after.right, moves[Side.RIGHT], s),
        left_share=before.left_share + (after.left_share - before.left_share) * s,
        torso=normal(before.torso + torso_turn * s),
        gaze=normal(before.gaze + gaze_turn * s),
    )


def centre_of(pose: Pose, body: Body) -> tuple[float, float]:
    """Centre of pressure of one pose, metres: the shares' mean of the contact patches' centroids."""
    x = y = 0.0
    for side in SIDES:
        foot, share = pose.foot(side), pose.share(side)
        patch_x, patch_y = body.sole.patch_centre(side, foot.contact, foot.x, foot.y, foot.heading)
        x, y = x + share * float(patch_x), y + share * float(patch_y)
    return x, y
