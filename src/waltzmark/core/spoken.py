"""Poses and counts as one would say them: feet first, then waist, with figures where figures matter."""

from __future__ import annotations

import math

from waltzmark.core.angles import clock_text
from waltzmark.core.pose import Pose, stance_size
from waltzmark.core.score import actions as say
from waltzmark.core.side import Contact, Side
from waltzmark.core.step import PIVOT, STEP, Move

__all__ = ["count_sentence", "pose_sentence"]


def pose_sentence(pose: Pose, settled: bool = True) -> str:
    """Weight, torso and stance: ``left 70 %, right 30 %; body faces 9; stance 47 cm long, 35 cm wide``.

    settled: False while a count is being walked. The feet then, and wherever they have passed each other without
    the score saying so, make no stance; only how far the heels are apart is said.
    """
    return (
        f"left {100 * pose.left_share:.0f} %, right {100 * (1 - pose.left_share):.0f} %  ·  "
        f"body faces {clock_text(pose.torso)}  ·  {_stance(pose, settled)}"
    )


def _stance(pose: Pose, settled: bool) -> str:
    if Contact.AIR in (pose.left.contact, pose.right.contact):
        return "on one leg"
    length, width = stance_size(pose.left, pose.right, pose.facing)
    if not settled or (width < -0.005 and not pose.crossing):
        return f"heels {100 * math.hypot(length, width):.0f} cm apart"
    wide = f"{100 * width:.0f} cm wide" if width > -0.005 else f"crossed by {-100 * width:.0f} cm"
    return f"stance {100 * length:.0f} cm long, {wide}"


def count_sentence(before: Pose, after: Pose, moves: tuple[Move, Move], count: say.Count) -> str:
    """What a count does, read aloud: ``left foot steps to 9, lands on the heel 47 cm ahead, 35 cm wide, empty``."""
    parts: list[str] = []
    for side in Side:
        was, foot, move = before.foot(side), after.foot(side), moves[side]
        if move.kind == STEP:
            parts.append(_stepped(after, side))
        elif move.kind == PIVOT:
            way = "in" if (move.turn > 0) == (side is Side.LEFT) else "out"
            parts.append(f"{side.word} foot turns {abs(move.turn):.0f}° {way}, to {clock_text(foot.heading)}")
        elif foot.contact != was.contact:
            words = ("lifts", "rises onto the ball", "stands on the heel", "rolls flat")
            parts.append(f"{side.word} foot {words[foot.contact]}")
    if abs(after.left_share - before.left_share) > 0.005:
        heavier = Side.LEFT if after.left_share > before.left_share else Side.RIGHT
        parts.append(f"{100 * after.share(heavier):.0f} % pours onto the {heavier.word}")
    if abs(after.torso - before.torso) > 0.5:
        parts.append(f"body turns to {clock_text(after.torso)}")
    if abs(after.sink - before.sink) > 0.5:
        parts.append(f"knees bend to {after.sink:.0f}°")
    breaths = (action for action in count.actions if isinstance(action, say.Breathe))
    parts.extend(f"breathe {'in' if breath.inward else 'out'}" for breath in breaths)
    return "; ".join(parts) or "nothing moves"


def _stepped(after: Pose, side: Side) -> str:
    foot = after.foot(side)
    contact = ("hovers", "lands on the ball", "lands on the heel", "lands flat")[foot.contact]
    length, width = stance_size(after.left, after.right, after.facing)
    share = after.share(side)
    load = "empty" if share < 0.005 else f"taking {100 * share:.0f} %"
    if foot.contact is Contact.AIR:
        load = "carrying nothing"
    return (
        f"{side.word} foot {contact} toward {clock_text(foot.heading)}, stance {100 * length:.0f} cm long and "
        f"{100 * width:.0f} cm wide, {load}"
    )
