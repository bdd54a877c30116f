"""What a figure shows to one who looks at it from a side: knees over toes, the trunk, how high the head is."""

from __future__ import annotations

from typing import Literal

import numpy as np

from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.figure import Figure
from waltzmark.core.body.pose import Pose

__all__ = ["Seen", "seen_of"]

#: Metres from which something is worth a word.
_WORTH = 0.01
_AHEAD = 0.10  # metres that a foot in front is ahead of the other
#: A foot that carries so much has its knee looked at.
_CARRIES = 0.30


class Seen(Record):
    """What is seen of a figure. All lengths in metres.

    front : the side of the front foot that carries, None where there is none
    past : how far its knee is past its toe tip along the foot, negative behind it
    lean : degrees that the trunk leans forward, negative back
    inward : how much nearer to each other the knees are than half-way from hips to ankles, across the hips
    risen : how much higher the head is than it was
    gap : the side of a leg that does not reach its foot, None where both do
    """

    front: Side | None
    past: float
    lean: float
    inward: float
    risen: float
    gap: Side | None


def seen_of(figure: Figure, pose: Pose, before: Figure | None = None) -> Seen:
    """What is seen of the first figure of some, and against the one before."""
    past, front = 0.0, _front(pose)
    if front is not None:
        name = "left" if front is Side.LEFT else "right"
        angle = np.radians(pose.foot(front).heading)
        away = figure.joint(f"{name} knee")[0] - figure.joint(f"{name} toe")[0]
        past = float(away[0] * np.sin(angle) + away[1] * np.cos(angle))
    # Across the hips, as one sees it from behind.
    turn = np.radians(figure.pelvises[0])
    across = np.array([np.cos(turn), -np.sin(turn)])
    apart = [
        float((figure.joint(f"right {name}")[0] - figure.joint(f"left {name}")[0])[:2] @ across)
        for name in ("hip", "knee", "ankle")
    ]
    straight = (apart[0] + apart[2]) / 2.0  # shank and thigh are nearly as long
    head = float(figure.joint("crown")[0, 2])
    risen = 0.0 if before is None else head - float(before.joint("crown")[0, 2])
    gap = next((side for side in SIDES if figure.gaps[0, side] > _WORTH), None)
    both = Contact.AIR not in (pose.left.contact, pose.right.contact)
    return Seen(front, past, pose.lean, straight - apart[1] if both else 0.0, risen, gap)


def _front(pose: Pose) -> Side | None:
    """The foot in front, in the stance's facing, where it carries and stands flat."""
    angle = np.radians(pose.facing)
    along = [pose.foot(side).x * np.sin(angle) + pose.foot(side).y * np.cos(angle) for side in SIDES]
    ahead: Literal[0, 1] = 0 if along[0] >= along[1] else 1
    side = Side(ahead)
    stands = (
        abs(along[0] - along[1]) > _AHEAD and pose.foot(side).contact is Contact.FLAT and pose.share(side) >= _CARRIES
    )
    return side if stands else None
