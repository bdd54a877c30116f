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
_STEPS = 4  # that carry, at the most; after each the other foot closes up
_FINE = 0.005  # metres that are not worth a step


class Added(Record):
    """Steps that are put in. posture: the one that they are; after: the one they come after; steps: how many."""

    posture: str
    after: str
    steps: int


def added_forms(form: Form, trace: Trace, offset: Floats, spared: Collection[str]) -> list[tuple[Form, Added]]:
    """Forms with plain steps more that carry the rest of the way, the last places that take them first.

    One to four of them, ahead or back and aside, none longer than a bow; after each the other foot closes up. As few as
    do it come first, then more and shorter ones.

    Parameters
    ----------
    offset
        (2,) metres from home to the end.
    spared
        Postures after which nothing is put in.
    """
    bow = form.school.stance_size("bow", form.body, form.body.seat)
    found: list[tuple[Form, Added]] = []
    places = 0
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
        ways = _ways(forward, aside, bow.length)
        name = fresh_id(form, "steps more")
        for numbers in ways:
            lines = _steps(pose, forward, aside, width, numbers)
            steps = sum(line.one(act.Step) is not None for line in lines)
            made = add_posture(form, number + 1, Posture(name, lines=lines))
            found.append((made, Added(name, posture.id, steps)))
        places += bool(ways)
        if places == _PLACES:
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


def _ways(forward: float, aside: float, most: float) -> list[tuple[int, int]]:
    """How many steps ahead and aside carry so far, each way of at most *most*; fewest first."""
    far = [abs(each) if abs(each) >= _LEAST else 0.0 for each in (forward, aside)]
    numbers = [math.ceil(each / most) for each in far]
    found: list[tuple[int, int]] = []
    while 0 < sum(numbers) <= _STEPS:
        found.append((numbers[0], numbers[1]))
        longest = int(np.argmax([each / number if number else 0.0 for each, number in zip(far, numbers, strict=True)]))
        numbers[longest] += 1
        if far[longest] / numbers[longest] < _LEAST:
            break
    return found


def _steps(pose: Pose, forward: float, aside: float, width: float, numbers: tuple[int, int]) -> tuple[act.Count, ...]:
    """The counts that carry so far ahead and to the right from feet beside each other, by so many steps each way.

    What is too little for a step of its own goes into the first one of the other way: a little wider, or ahead.
    """
    facing = Clock.at(pose.torso)
    lines: tuple[act.Count, ...] = ()
    over = [
        far if not number and abs(far) >= _FINE else 0.0 for far, number in zip((forward, aside), numbers, strict=True)
    ]
    for whole, number, ahead in ((forward, numbers[0], True), (aside, numbers[1], False)):
        for _ in range(number):
            far = whole / number
            side = Side.LEFT if ahead or far < 0.0 else Side.RIGHT
            if ahead:
                manner = "back" if far < 0.0 else None
                place = act.Faced(facing, manner, None, _cm(far), _cm(width - over[1]))  # type: ignore[arg-type]
            else:
                place = act.Faced(facing, "side", None, _cm(over[0]) if over[0] > 0.0 else None, _cm(width + abs(far)))
            over = [0.0, 0.0]
            lines += (
                act.Count((act.Shift(side.other, 100.0), act.Torso(facing))),
                act.Count((act.Step(side, place, facing),)),
                act.Count((act.Shift(side, 100.0), act.Torso(facing))),
                act.Count((act.Step(side.other, act.Beside(_cm(width))),)),
                act.Count((act.Shift(None, 50.0), act.Torso(facing))),
            )
    return lines


def _cm(metres: float) -> Length:
    return Length(round(abs(metres) * 1000.0) / 10.0)
