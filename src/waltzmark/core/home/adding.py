"""A step more: plain steps put in where the feet stand beside each other, which carry a form the rest of the way."""

from __future__ import annotations

import math
from collections.abc import Collection

import numpy as np

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.base.units import Length
from waltzmark.core.body.pose import Pose
from waltzmark.core.edit.forms import add_posture, fresh_id
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.trace import Trace

__all__ = ["Added", "added_forms"]

#: Metres that a plain step carries at the least.
_LEAST = 0.10
#: How nearly the feet stand beside each other: metres along, degrees apart, share of the weight off half.
_BESIDE = (0.03, 3.0, 0.06)
_PLACES = 3  # that are offered
_FINE = 0.005  # metres that are not worth a step


class Added(Record):
    """Steps that are put in. posture: the one that they are; after: the one they come after; steps: how many."""

    posture: str
    after: str
    steps: int


def added_forms(form: Form, trace: Trace, offset: Floats, spared: Collection[str]) -> list[tuple[Form, Added]]:
    """Forms with one to four plain steps more, the last places that take them first.

    Ahead or back, and aside, each with the foot that closes up.

    Parameters
    ----------
    offset
        (2,) metres from home to the end.
    spared
        Postures after which nothing is put in.
    """
    bow = form.school.stance_size("bow", form.body, form.body.seat)
    found: list[tuple[Form, Added]] = []
    for number in range(len(form.postures) - 1, -1, -1):
        posture = form.postures[number]
        pose = trace.passages[number + 1].exit
        width = _beside(pose)
        if width is None or posture.id in spared:
            continue
        angle = math.radians(pose.torso)
        right, ahead = -np.asarray(offset, dtype=float)
        # What is missing, in the frame of the stance.
        forward = float(right * math.sin(angle) + ahead * math.cos(angle))
        aside = float(right * math.cos(angle) - ahead * math.sin(angle))
        lines = _steps(pose, forward, aside, width, bow.length)
        if lines is None:
            continue
        name = fresh_id(form, "steps more")
        steps = sum(line.one(act.Step) is not None for line in lines)
        made = add_posture(form, number + 1, Posture(name, lines=lines))
        found.append((made, Added(name, posture.id, steps)))
        if len(found) == _PLACES:
            break
    return found


def _beside(pose: Pose) -> float | None:
    """How wide both feet stand beside each other, metres; None where they do not."""
    left, right = pose.left, pose.right
    angle = math.radians(pose.torso)
    dx, dy = right.x - left.x, right.y - left.y
    along = dx * math.sin(angle) + dy * math.cos(angle)
    apart = max(abs(heading_difference(pose.torso, foot.heading)) for foot in (left, right))
    flat = left.contact is Contact.FLAT and right.contact is Contact.FLAT
    even = abs(pose.left_share - 0.5) <= _BESIDE[2]
    if not flat or not even or abs(along) > _BESIDE[0] or apart > _BESIDE[1]:
        return None
    return dx * math.cos(angle) - dy * math.sin(angle)


def _steps(pose: Pose, forward: float, aside: float, width: float, most: float) -> tuple[act.Count, ...] | None:
    """The counts that carry so far ahead and to the right from feet beside each other; None where no plain steps do."""
    facing = Clock.at(pose.torso)
    lines: tuple[act.Count, ...] = ()
    for far, ahead in ((forward, True), (aside, False)):
        if abs(far) < _FINE:
            continue
        if not _LEAST <= abs(far) <= most:
            return None
        side = Side.LEFT if ahead or far < 0.0 else Side.RIGHT
        if ahead:
            manner = "back" if far < 0.0 else None
            place = act.Faced(facing, manner, None, _cm(far), _cm(width))  # type: ignore[arg-type]
        else:
            place = act.Faced(facing, "side", None, None, _cm(width + abs(far)))
        lines += (
            act.Count((act.Shift(side.other, 100.0), act.Torso(facing))),
            act.Count((act.Step(side, place, facing),)),
            act.Count((act.Shift(side, 100.0), act.Torso(facing))),
            act.Count((act.Step(side.other, act.Beside(_cm(width))),)),
            act.Count((act.Shift(None, 50.0), act.Torso(facing))),
        )
    return lines or None


def _cm(metres: float) -> Length:
    return Length(round(abs(metres) * 1000.0) / 10.0)
