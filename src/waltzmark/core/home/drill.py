"""A loop made a form of its own, to be walked again and again: postures copied, bridges where a join needs one."""

from __future__ import annotations

from dataclasses import replace

from waltzmark.core.base.angles import heading_difference, normal, rotated
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.units import Length
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.form import Form, Home, Opening, Posture
from waltzmark.core.home.loops import Join, Loop, join_of
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["drill_of"]

#: What a join may differ by without a bridge: cm, degrees, % of the weight.
_ALIKE = (2.0, 4.0, 4.0)


def drill_of(form: Form, trace: Trace, loop: Loop) -> Form:
    """The form of a loop. It opens in the stance its first posture is entered in, facing 12; each posture is walked as
    it was in its own frame, turned to where the one before it has led."""
    first = trace.passages[loop.postures[0] + 1].entry
    drill = replace(
        form, title=f"{form.title}, loop" if form.title else "Loop", opening=_opening(first), postures=(), mutes=(),
        home=Home(), room=None if form.room is None else replace(form.room, breaks=()),
    )  # fmt: skip
    walked = walk(drill)
    for number, index in enumerate(loop.postures):
        passage = trace.passages[index + 1]
        here = walked.pose(len(walked) - 1)
        if number and loop.postures[number - 1] != index - 1:
            drill = _bridged(drill, here, passage.entry, form.postures[index].title)
            walked = walk(drill, walked)
            here = walked.pose(len(walked) - 1)
        copy = _copied(form, form.postures[index], passage.lines, passage.entry, here)
        drill = replace(drill, postures=(*drill.postures, copy))
        walked = walk(drill, walked)
    return _bridged(drill, walked.pose(len(walked) - 1), walked.pose(0), "the beginning")


def _opening(entry: Pose) -> Opening:
    """The stance a posture is entered in as an opening: its middle the start mark, the torso at 12."""
    turned = []
    for foot in (entry.left, entry.right):
        x, y = rotated(foot.x, foot.y, -entry.torso)
        turned.append(foot._replace(x=round(x, 4), y=round(y, 4), heading=normal(foot.heading - entry.torso)))
    return Opening("", (turned[0], turned[1]), entry.left_share)


def _copied(form: Form, posture: Posture, lines: tuple[act.Count, ...], entry: Pose, here: Pose) -> Posture:
    """A posture with counts of its own, turned from where it was entered to where it is entered now."""
    turn = round(2.0 * heading_difference(entry.torso, here.torso)) / 2.0
    x, y = rotated(*entry.midpoint, turn)
    dx, dy = here.midpoint[0] - x, here.midpoint[1] - y
    counts = tuple(line.turned(turn, form.twelve).moved(dx, dy) for line in lines)
    ends = form.ends(posture)
    return Posture(
        posture.id, posture.name, counts, None if ends is None else ends.turned(turn, form.twelve), note=posture.note
    )


def _bridged(drill: Form, here: Pose, entry: Pose, before: str) -> Form:
    """The drill with a bridge from a stance to one that is entered, where they differ."""
    join = join_of(here, entry)
    if all(own <= most for own, most in zip((join.cm, join.degrees, join.percent), _ALIKE, strict=True)):
        return drill
    ids = {posture.id for posture in drill.postures}
    name = next(f"bridge-{n}" for n in range(1, len(ids) + 2) if f"bridge-{n}" not in ids)
    bridge = Posture(name, f"Bridge to {before}", tuple(_bridge(here, entry, join)))
    return replace(drill, postures=(*drill.postures, bridge))


def _bridge(here: Pose, entry: Pose, join: Join) -> list[act.Count]:
    """Counts from one stance to another: pour off the lighter foot, set it where it is wanted, pour back."""
    counts: list[act.Count] = []
    share = round(100.0 * entry.left_share, 1)
    if join.cm > _ALIKE[0] or join.degrees > _ALIKE[1]:
        side = Side.LEFT if here.left_share <= 0.5 else Side.RIGHT
        if here.share(side) > 1e-9:
            counts.append(act.Count((act.Shift(side.other, 100.0),)))
        counts.append(act.Count(tuple(_placed(here, entry, side))))
        here_share = 0.0 if side is Side.LEFT else 100.0
    else:
        here_share = round(100.0 * here.left_share, 1)
    if abs(here_share - share) > _ALIKE[2]:
        full = Side.LEFT if share > 50.0 else Side.RIGHT
        shift = act.Shift(None, 50.0) if share == 50.0 else act.Shift(full, share if share > 50.0 else 100.0 - share)
        facing = act.Torso(Clock.at(_facing(here, entry, Side.LEFT if here.left_share <= 0.5 else Side.RIGHT)))
        moved = join.cm > _ALIKE[0] or join.degrees > _ALIKE[1]
        counts.append(act.Count((shift, facing) if moved else (shift, act.Torso(Clock.at(here.torso)))))
    return counts


def _facing(here: Pose, entry: Pose, side: Side) -> float:
    """Where the torso should face when a foot has been set: as it does to the other foot in the stance entered."""
    standing = side.other
    return normal(here.foot(standing).heading - heading_difference(entry.torso, entry.foot(standing).heading))


def _placed(here: Pose, entry: Pose, side: Side) -> list[act.Action]:
    """The step that makes of one stance the other."""
    facing = _facing(here, entry, side)
    moved, stands = entry.foot(side), entry.foot(side.other)
    dx, dy = rotated(moved.x - stands.x, moved.y - stands.y, -entry.torso)
    length, width = round(100.0 * dy, 1), round(100.0 * dx * side.sign, 1)
    toe = Clock.at(facing + heading_difference(entry.torso, moved.heading))
    manner: act.Manner | None = "back" if length < -1.0 else "side" if abs(length) <= 1.0 else None
    place = act.Faced(
        Clock.at(facing), manner, None, None if manner == "side" else Length(abs(length)), Length(width)
    )  # fmt: skip
    land = moved.contact if moved.contact is not Contact.AIR else Contact.BALL
    step: list[act.Action] = [act.Step(side, place, toe, None, land), act.Torso(Clock.at(facing))]
    if moved.contact is Contact.AIR:
        step.append(act.Lift(side))
    return step
