"""Poses and counts as one would say them: feet first, then waist, with figures where figures matter."""

from __future__ import annotations

import math

from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.pose import Pose, stance_size
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Toward, Turn
from waltzmark.core.walk.step import PIVOT, STEP, Move

__all__ = ["count_sentence", "pose_sentence"]

_KICKED = {"ankle": "ankle height", "knee": "knee height", "hip": "hip height", "waist": "waist height",
           "chest": "chest height", "head": "head height"}  # fmt: skip

_ANNOTATIONS = (act.Hand, act.Kick, act.Gaze, act.Breathe)


def pose_sentence(pose: Pose, settled: bool = True, say: Figures = PLAIN, torso: float | None = None) -> str:
    """Weight, torso and stance: ``left 70 %, right 30 %; body faces 9; stance 47 cm long, 35 cm wide``.

    settled: False while a count is being walked. The feet then, and wherever they have passed each other without
    the score saying so, make no stance; only how far the heels are apart is said. torso: its heading when the count
    began, where the own clock has its 12.
    """
    return (
        f"left {100 * pose.left_share:.0f} %, right {100 * (1 - pose.left_share):.0f} %  ·  "
        f"body faces {say.toward(pose.torso, torso)}  ·  {_stance(pose, settled, say)}"
    )


def _stance(pose: Pose, settled: bool, say: Figures) -> str:
    if Contact.AIR in (pose.left.contact, pose.right.contact):
        return "on one leg"
    length, width = stance_size(pose.left, pose.right, pose.facing)
    if not settled or (width < -0.005 and not pose.crossing):
        return f"heels {say.length(math.hypot(length, width))} apart"
    wide = f"{say.length(abs(width))} wide" if width > -0.005 else f"crossed by {say.length(-width)}"
    return f"stance {say.length(length)} long, {wide}"


def count_sentence(before: Pose, after: Pose, moves: tuple[Move, Move], count: act.Count, say: Figures = PLAIN) -> str:
    """What a count does, read aloud: ``left foot steps to 9, lands on the heel 47 cm ahead, 35 cm wide, empty``."""
    parts: list[str] = []
    for side in Side:
        was, foot, move = before.foot(side), after.foot(side), moves[side]
        if move.kind == STEP:
            parts.append(_stepped(before, after, side, say, move.contact != Contact.AIR))
        elif move.kind == PIVOT:
            way = "in" if (move.turn > 0) == (side is Side.LEFT) else "out"
            parts.append(
                f"{side.word} foot turns {abs(move.turn):.0f}° {way}, to {say.toward(foot.heading, before.torso)}"
            )
        elif foot.contact != was.contact:
            words = ("lifts", "rises onto the ball", "stands on the heel", "rolls flat")
            parts.append(f"{side.word} foot {words[foot.contact]}")
    if abs(after.left_share - before.left_share) > 0.005:
        heavier = Side.LEFT if after.left_share > before.left_share else Side.RIGHT
        parts.append(f"{100 * after.share(heavier):.0f} % pours onto the {heavier.word}")
    if abs(after.torso - before.torso) > 0.5:
        parts.append(f"body turns to {say.toward(after.torso, before.torso)}")
    if abs(after.sink - before.sink) > 0.5:
        parts.append(f"knees bend to {after.sink:.0f}°")
    if abs(after.lean - before.lean) > 0.5:
        upright = abs(after.lean) < 0.5
        way = "forward" if after.lean > 0 else "back"
        parts.append("trunk comes upright" if upright else f"trunk leans {abs(after.lean):.0f}° {way}")
    parts.extend(_annotation(action, before, say) for action in count.actions if isinstance(action, _ANNOTATIONS))
    if count.beats != 1.0:
        parts.append(f"over {count.beats:g} beats")
    return "; ".join(parts) or "nothing moves"


def _annotation(action: act.Action, before: Pose, say: Figures) -> str:
    """Arms, eyes and breath, as one would say them."""
    if isinstance(action, act.Breathe):
        return f"breathe {'in' if action.inward else 'out'}"
    if isinstance(action, act.Gaze):
        aim = action.aim
        if isinstance(aim, Turn):
            return f"eyes turn {abs(aim.degrees):.0f}° {'right' if aim.degrees > 0 else 'left'}"
        assert not isinstance(aim, Toward)
        return f"eyes to {say.toward(aim.heading(before.torso, say.twelve), before.torso)}"
    if isinstance(action, act.Kick):
        facing = say.toward(action.facing.heading(before.torso, say.twelve), before.torso)
        part = f" with the {action.part}" if action.part else ""
        return f"{action.side.word} foot kicks at {_KICKED[action.height]}{part}, to {facing}"
    assert isinstance(action, act.Hand)
    shapes = {"push": "pushes", "guard": "guards", "fist": "makes a fist", "hook": "hooks", "open": "is open",
              "palm-up": "turns its palm up", "palm-down": "turns its palm down", "palm-in": "turns its palm in",
              "palm-out": "turns its palm out"}  # fmt: skip
    does = shapes[action.shape] if action.shape else "points"
    where = "above the head" if action.height == "above" else f"at the {action.height}"
    facing = say.toward(action.facing.heading(before.torso, say.twelve), before.torso)
    return f"{action.side.word} hand {does} {where}, to {facing}"


def _stepped(before: Pose, after: Pose, side: Side, say: Figures, slides: bool) -> str:
    foot = after.foot(side)
    contact = "slides" if slides else ("hovers", "lands on the ball", "lands on the heel", "lands flat")[foot.contact]
    length, width = stance_size(after.left, after.right, after.facing)
    share = after.share(side)
    load = "empty" if share < 0.005 else f"taking {100 * share:.0f} %"
    if foot.contact is Contact.AIR:
        load = "carrying nothing"
    return (
        f"{side.word} foot {contact} toward {say.toward(foot.heading, before.torso)}, stance {say.length(length)} long "
        f"and {say.length(width)} wide, {load}"
    )
