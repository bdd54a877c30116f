"""Which stance a pose is, from its geometry and its weights, and how well it matches."""

from __future__ import annotations

import math

import numpy as np

from waltzmark.core.base.angles import along_across, heading_difference
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.base.units import written_length
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import Pose
from waltzmark.core.school.school import School
from waltzmark.core.walk.mechanics import IN_FRONT
from waltzmark.core.walk.trace import Trace

__all__ = ["Recognised", "keeps_stances", "recognised"]

#: Differences that halve a match, roughly: metres of length and of width, degrees of toe angles.
_LENGTH, _WIDTH, _TOE = 0.16, 0.12, 22.0
#: Below this match a pose is on the way between stances.
_LEAST = 0.45


class Recognised(Record):
    """A pose named as a stance of the school.

    name: empty in transition; front: the side in front, None where neither is; match: 0 to 1. length, width: metres;
    rear: degrees the rear foot points out of the front.
    """

    name: str
    front: Side | None
    match: float
    length: float
    width: float
    rear: float
    left: float


def recognised(pose: Pose, body: Body, school: School) -> Recognised:
    """The stance of the school that a pose matches best."""
    apart = along_across(pose.right.x - pose.left.x, pose.right.y - pose.left.y, pose.facing)
    along, width = (float(value) for value in apart)
    if abs(along) < IN_FRONT:
        front = None
    elif along > 0:
        front = Side.RIGHT
    else:
        front = Side.LEFT
    outward = [side.sign * heading_difference(pose.facing, pose.foot(side).heading) for side in SIDES]
    toes = [180.0 if turn <= -180.0 else turn for turn in outward]  # half a turn is outward on either side
    rear = toes[front.other] if front is not None else max(toes)
    best, name = 0.0, ""
    for each in school.stances:
        match = _match(each, school, pose, body, front, abs(along), width, toes)
        if match > best + 1e-9:
            best, name = match, each
    return Recognised(name if best >= _LEAST else "", front, best, abs(along), width, rear, pose.left_share)


def _match(
    name: str,
    school: School,
    pose: Pose,
    body: Body,
    front: Side | None,
    length: float,
    width: float,
    toes: list[float],
) -> float:
    """How well a pose matches one stance, 0 to 1.

    exp(-d^2 / 2), d the distance in tolerances; 0 where the weight or what is on the floor rules it out.
    """
    stance = school.stances[name]
    contacts = (pose.left.contact, pose.right.contact)
    if (stance.land == "air") != (Contact.AIR in contacts):
        return 0.0
    if stance.land == "air":
        return 1.0
    # A step that goes as far as the reach lets it, or a share of that, has a foot in front.
    far = not isinstance(stance.length, str) or written_length(stance.length).metres(body) >= IN_FRONT
    wide = stance.width_metres(body)
    if far != (front is not None):
        return 0.0
    if (wide < 0) != (width < -0.005):
        return 0.0
    if front is not None:
        share, contact = pose.share(front), pose.foot(front).contact
        light = stance.land if stance.land in ("heel", "ball") else None
        if light is not None and (contact.word != light or share > 0.45):
            return 0.0
        if light is None and (share < 0.45 or contact is not Contact.FLAT):
            return 0.0
        off = [(toes[front] - stance.toe) / _TOE, (toes[front.other] - stance.rear_toe) / _TOE]
    else:
        off = [(toes[side] - stance.toe) / _TOE for side in SIDES]
    support = Side.RIGHT if front is None else front.other
    away = heading_difference(pose.foot(support).heading, pose.facing)
    wanted, wide, *_ = school.stance_size(name, body, pose.sink, support, away)
    off += [(length - wanted) / _LENGTH, (width - wide) / _WIDTH]
    return math.exp(-sum(value * value for value in off) / len(off))


def keeps_stances(before: Trace, after: Trace) -> bool:
    """Whether every stance that a change of lengths has made larger or smaller is called what it was."""
    if len(before) != len(after):
        return False
    other = np.flatnonzero(np.abs(before.sizes - after.sizes).max(axis=1) > 1e-3)
    named: dict[tuple[float, ...], bool] = {}
    for row in other.tolist():
        one, two = before.pose(row), after.pose(row)
        key = (*before.sizes[row].tolist(), *after.sizes[row].tolist(), *after.headings[row].tolist(), one.left_share)
        if key not in named:
            school = before.ground.school
            names = [recognised(pose, before.body, school).name for pose in (one, two)]
            named[key] = names[0] == names[1]
        if not named[key]:
            return False
    return True
