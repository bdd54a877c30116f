"""Poses, stances and counts as one would say them: feet first, then the waist, with figures where they matter."""

from __future__ import annotations

import math

from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import Heading, Value
from waltzmark.core.body.pose import Pose, stance_size
from waltzmark.core.school.sizes import StepSize
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Toward, Turn
from waltzmark.core.walk.annotations import HandMark, KickMark
from waltzmark.core.walk.ground import PIVOT, STEP, Move
from waltzmark.core.walk.naming import Recognised
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import N_, tr
from waltzmark.words.sentences import fill

__all__ = [
    "count_sentence",
    "hand_words",
    "kick_words",
    "pose_parts",
    "pose_sentence",
    "size_sentence",
    "stance_sentence",
    "stance_title",
    "turns_when",
]

_ANNOTATIONS = (act.Hand, act.Kick, act.Gaze, act.Breathe)
_STANCES = {
    "": N_("in transition"),
    "bow": N_("bow"),
    "empty-heel": N_("empty on the heel"),
    "empty-ball": N_("empty on the ball"),
    "parallel": N_("parallel"),
    "horse": N_("horse"),
    "cross": N_("cross"),
    "low": N_("low"),
    "one-leg": N_("one leg"),
    "together": N_("together"),
    "vee": N_("vee"),
}
_LANDS = {
    Contact.AIR: N_(
        "the {side:foot} hovers toward {to:heading}, stance {length:length} long and {width:length} wide, carrying nothing"
    ),
    Contact.BALL: N_(
        "the {side:foot} lands on the ball toward {to:heading}, stance {length:length} long and {width:length} wide, {load}"
    ),
    Contact.HEEL: N_(
        "the {side:foot} lands on the heel toward {to:heading}, stance {length:length} long and {width:length} wide, {load}"
    ),
    Contact.FLAT: N_(
        "the {side:foot} lands flat toward {to:heading}, stance {length:length} long and {width:length} wide, {load}"
    ),
}
_SLIDES = N_("the {side:foot} slides toward {to:heading}, stance {length:length} long and {width:length} wide, {load}")
_CONTACTS = {
    Contact.AIR: N_("the {side:foot} lifts"),
    Contact.BALL: N_("the {side:foot} rises onto the ball"),
    Contact.HEEL: N_("the {side:foot} stands on the heel"),
    Contact.FLAT: N_("the {side:foot} rolls flat"),
}
_KICKS = {
    "ankle": N_("the {side:foot} kicks at ankle height, to {to:heading}"),
    "knee": N_("the {side:foot} kicks at knee height, to {to:heading}"),
    "hip": N_("the {side:foot} kicks at hip height, to {to:heading}"),
    "waist": N_("the {side:foot} kicks at waist height, to {to:heading}"),
    "chest": N_("the {side:foot} kicks at chest height, to {to:heading}"),
    "head": N_("the {side:foot} kicks at head height, to {to:heading}"),
}
_KICK_PARTS = {
    "heel": N_("with the heel"),
    "toe": N_("with the toes"),
    "edge": N_("with the edge"),
    "sole": N_("with the sole"),
}
_HANDS = {
    None: N_("the {side:hand} points {where}, to {to:heading}"),
    "push": N_("the {side:hand} pushes {where}, to {to:heading}"),
    "guard": N_("the {side:hand} guards {where}, to {to:heading}"),
    "fist": N_("the {side:hand} makes a fist {where}, to {to:heading}"),
    "hook": N_("the {side:hand} makes a hook {where}, to {to:heading}"),
    "open": N_("the {side:hand} is open {where}, to {to:heading}"),
    "palm-up": N_("the {side:hand} turns its palm up {where}, to {to:heading}"),
    "palm-down": N_("the {side:hand} turns its palm down {where}, to {to:heading}"),
    "palm-in": N_("the {side:hand} turns its palm in {where}, to {to:heading}"),
    "palm-out": N_("the {side:hand} turns its palm out {where}, to {to:heading}"),
}
_HIGH = {
    "ankle": N_("ankle-high"),
    "knee": N_("knee-high"),
    "hip": N_("hip-high"),
    "waist": N_("waist-high"),
    "chest": N_("chest-high"),
    "head": N_("head-high"),
}
_SHAPES = {
    "push": N_("pushing"),
    "guard": N_("guarding"),
    "fist": N_("as a fist"),
    "hook": N_("as a hook"),
    "open": N_("open"),
    "palm-up": N_("palm up"),
    "palm-down": N_("palm down"),
    "palm-in": N_("palm in"),
    "palm-out": N_("palm out"),
}
_HEIGHTS = {
    "knee": N_("at the knee"),
    "hip": N_("at the hip"),
    "waist": N_("at the waist"),
    "chest": N_("at the chest"),
    "shoulder": N_("at the shoulder"),
    "head": N_("at the head"),
    "above": N_("above the head"),
}


def hand_words(hand: HandMark) -> str:
    """A hand's height and shape, as they stand beside it on the floor."""
    height = tr(_HEIGHTS[hand.height])
    return tr("{height}, {shape}", height=height, shape=tr(_SHAPES[hand.shape])) if hand.shape else height


def kick_words(kick: KickMark) -> str:
    """A kick's height and the part of the foot, as they stand beside it on the floor."""
    height = tr(_HIGH[kick.height])
    return tr("{height}, {part}", height=height, part=tr(_KICK_PARTS[kick.part])) if kick.part else height


def stance_title(name: str) -> str:
    """A stance's name in words, as a school calls it where it is one of its own."""
    known = _STANCES.get(name)
    return tr(known) if known is not None else name.replace("-", " ")


def stance_sentence(stance: Recognised, figures: Figures = PLAIN) -> str:
    """A stance said aloud: “bow, left foot in front, 70/30, 61 cm long, 33 cm wide, rear foot 47° out”."""
    front = stance.front if stance.name not in ("", "one-leg") else None
    parts = [stance_title(stance.name)]
    if front is not None:
        parts.append(_say(N_("{side:foot} in front"), figures, side=front))
    parts.append(f"{100 * stance.left:.0f}/{100 - 100 * stance.left:.0f}")
    parts.append(
        _say(N_("{length:length} long, {width:length} wide"), figures, length=stance.length, width=stance.width)
    )
    if front is not None:
        parts.append(_say(N_("rear foot {turn:degrees} out"), figures, turn=stance.rear))
    return ", ".join(parts)


def _say(sentence: str, figures: Figures, **fields: Value) -> str:
    return fill(sentence, fields, figures)


def pose_sentence(pose: Pose, settled: bool = True, figures: Figures = PLAIN, torso: float | None = None) -> str:
    """Weight, chest and stance: ``left 70%, right 30% · chest faces 9 · stance 47 cm long, 35 cm wide``."""
    return "  ·  ".join(pose_parts(pose, settled, figures, torso))


def pose_parts(
    pose: Pose, settled: bool = True, figures: Figures = PLAIN, torso: float | None = None
) -> tuple[str, str, str]:
    """Weight, chest and stance, each by itself.

    settled: False while a count is being walked. The feet then, and wherever they have passed each other without
    the score saying so, make no stance; only how far the heels are apart is said. torso: its heading when the count
    began, where the own clock has its 12.
    """
    weight = _say(
        N_("left {left:percent}, right {right:percent}"),
        figures,
        left=100 * pose.left_share,
        right=100 * (1 - pose.left_share),
    )
    chest = _say(N_("chest faces {to:heading}"), figures, to=Heading(pose.torso, torso))
    return weight, chest, _stance(pose, settled, figures)


def _stance(pose: Pose, settled: bool, figures: Figures) -> str:
    if Contact.AIR in (pose.left.contact, pose.right.contact):
        return tr("on one leg")
    length, width = stance_size(pose.left, pose.right, pose.facing)
    if not settled or (width < -0.005 and not pose.crossing):
        return _say(N_("heels {apart:length} apart"), figures, apart=math.hypot(length, width))
    if width > -0.005:
        return _say(N_("stance {length:length} long, {width:length} wide"), figures, length=length, width=abs(width))
    return _say(N_("stance {length:length} long, crossed by {width:length}"), figures, length=length, width=-width)


def count_sentence(
    before: Pose, after: Pose, moves: tuple[Move, Move], count: act.Count, figures: Figures = PLAIN
) -> str:
    """What a count does, read aloud: ``the left foot lands on the heel toward 9, stance 47 cm long and 35 cm wide``."""
    parts: list[str] = []
    when = turns_when(count)
    timed: dict[str | None, list[str]] = {"early": [], None: parts, "late": []}
    for side in SIDES:
        was, foot, move = before.foot(side), after.foot(side), moves[side]
        to = Heading(foot.heading, before.torso)
        if move.kind == STEP:
            parts.append(_stepped(before, after, side, figures, move.contact != Contact.AIR))
        elif move.kind == PIVOT:
            inward = (move.turn > 0) == (side is Side.LEFT)
            sentence = N_("the {side:foot} turns {turn:degrees} in, to {to:heading}")
            if not inward:
                sentence = N_("the {side:foot} turns {turn:degrees} out, to {to:heading}")
            if abs(move.turn) < 0.5:
                sentence = N_("the {side:foot} already points to {to:heading}")
            timed[when.get(side)].append(_say(sentence, figures, side=side, turn=abs(move.turn), to=to))
        elif foot.contact != was.contact:
            parts.append(_say(_CONTACTS[Contact(foot.contact)], figures, side=side))
    if abs(after.left_share - before.left_share) > 0.005:
        heavier = Side.LEFT if after.left_share > before.left_share else Side.RIGHT
        share = 100 * after.share(heavier)
        parts.append(_say(N_("{share:percent} shifts onto the {side:foot}"), figures, share=share, side=heavier))
    if abs(after.torso - before.torso) > 0.5:
        turned = _say(N_("the chest turns to {to:heading}"), figures, to=Heading(after.torso, before.torso))
        timed[when.get(None)].append(turned)
    if abs(after.sink - before.sink) > 0.5:
        parts.append(_say(N_("the knees bend to {bend:degrees}"), figures, bend=after.sink))
    if abs(after.lean - before.lean) > 0.5:
        parts.append(_leans(after.lean, figures))
    parts.extend(_annotation(action, before, figures) for action in count.actions if isinstance(action, _ANNOTATIONS))
    if count.beats != 1.0:
        parts.append(_say(N_("over {beats:beats}"), figures, beats=count.beats))
    first = [tr("first {what}", what=what) for what in timed["early"]]
    return "; ".join((*first, *parts, *(tr("then {what}", what=what) for what in timed["late"]))) or tr("nothing moves")


def size_sentence(size: StepSize, bend: float, figures: Figures = PLAIN) -> str:
    """Why a stance comes to less than the school wants, as the entry line says it after its size."""
    given = N_("That is as large as your knee bend of {bend:degrees} lets it be.")
    deeper = N_("At your knee bend of {bend:degrees}, the standing knee bends {more:degrees} further to reach it.")
    return fill(deeper if size.more >= 0.5 else given, {"bend": bend, "more": size.more}, figures)


def turns_when(count: act.Count) -> dict[Side | None, str | None]:
    """Which turns of a count come before its shift or after: by the side of the foot, None for the chest."""
    if len(count.parts) == 1:
        return {}
    return {getattr(a, "side", None): a.when for a in count.actions if isinstance(a, act.Pivot | act.Torso)}


def _leans(lean: float, figures: Figures) -> str:
    if abs(lean) < 0.5:
        return tr("the trunk comes upright")
    forward = N_("the trunk leans {lean:degrees} forward")
    return _say(forward if lean > 0 else N_("the trunk leans {lean:degrees} back"), figures, lean=abs(lean))


def _annotation(action: act.Action, before: Pose, figures: Figures) -> str:
    """Arms, eyes and breath, as one would say them."""
    if isinstance(action, act.Breathe):
        return tr("breathe in") if action.inward else tr("breathe out")
    if isinstance(action, act.Gaze):
        return _gaze(action, before, figures)
    assert isinstance(action, (act.Kick, act.Hand))
    to = Heading(action.facing.heading(before.torso, figures.twelve), before.torso)
    if isinstance(action, act.Kick):
        said = _say(_KICKS[action.height], figures, side=action.side, to=to)
        return f"{said}, {tr(_KICK_PARTS[action.part])}" if action.part else said
    return _say(_HANDS[action.shape], figures, side=action.side, where=tr(_HEIGHTS[action.height]), to=to)


def _gaze(action: act.Gaze, before: Pose, figures: Figures) -> str:
    aim = action.aim
    if isinstance(aim, Turn):
        right = N_("the eyes turn {turn:degrees} right")
        sentence = right if aim.degrees > 0 else N_("the eyes turn {turn:degrees} left")
        return _say(sentence, figures, turn=abs(aim.degrees))
    assert not isinstance(aim, Toward)
    return _say(
        N_("the eyes go to {to:heading}"), figures, to=Heading(aim.heading(before.torso, figures.twelve), before.torso)
    )


def _stepped(before: Pose, after: Pose, side: Side, figures: Figures, slides: bool) -> str:
    foot = after.foot(side)
    length, width = stance_size(after.left, after.right, after.facing)
    share = 100 * after.share(side)
    load = tr("empty") if share < 0.5 else _say(N_("taking {share:percent}"), figures, share=share)
    return _say(
        _SLIDES if slides else _LANDS[Contact(foot.contact)],
        figures,
        side=side,
        to=Heading(foot.heading, before.torso),
        length=length,
        width=width,
        load=load,
    )
