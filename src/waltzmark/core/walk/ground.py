"""What a step begins with and leaves: the ground it is taken on, how a foot moved, what could not be walked."""

from __future__ import annotations

from typing import NamedTuple

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.body import Body
from waltzmark.core.school.school import School, StanceGeometry
from waltzmark.core.school.sizes import Stepping, StepSize, side_width
from waltzmark.core.score import actions as act

__all__ = ["CARRIED", "PIVOT", "SLID", "STEP", "STILL", "Ground", "Move", "Problem"]

#: Kinds of move: a foot turns on the floor, steps, or goes round in the air with the body.
PIVOT, STEP, CARRIED = 1.0, 2.0, 3.0
#: A foot that slides may carry this share.
SLID = 0.10


class Move(NamedTuple):
    """How a foot moved.

    Its kind (0 none, `PIVOT`, `STEP`, `CARRIED`), the pivot point or the swing's control point in metres, the turn in
    degrees (clockwise positive), and the contact it moves on.
    """

    kind: float = 0.0
    x: float = 0.0
    y: float = 0.0
    turn: float = 0.0
    contact: float = float(Contact.AIR)


STILL = Move()


class Problem(Record):
    """Something that cannot be walked as written; *value* is the measured share, or None."""

    rule: str
    side: Side | None
    value: float | None
    about: str = ""


class Ground(NamedTuple):
    """All a step needs to know beside the pose: whose body, which school, where north is, how the torso goes."""

    body: Body
    school: School
    twelve: str = "N"
    torso: str = "follow"

    def size(
        self, place: act.Faced, sink: float, support: Side, away: float = 0.0, toe: float | None = None
    ) -> tuple[StepSize, StanceGeometry]:
        """The size of a step in the frame of its facing, its length negative going back, and the stance that gives it.

        sink: bend of the supporting leg, degrees; away: the facing, degrees clockwise from the supporting foot's
        heading; toe: the same of the landing foot from the facing, where the score says it.
        """
        stances = self.school.stances
        name = place.stance or ("cross" if place.manner == "cross" else "bow")
        stance = stances.get(name, stances["bow"])
        back = place.manner == "back"
        size = StepSize(0.0, stance.width_metres(self.body))
        if place.length is not None:
            size = size._replace(length=place.length.metres(self.body))
        elif place.manner != "side":
            size = self.school.stance_size(name, self.body, sink, support, away, back, toe)
        if place.width is not None:
            size = size._replace(width=place.width.metres(self.body))
        elif place.length is None and place.manner == "side":
            landing = Contact.of(stance.land) if stance.land and place.stance else Contact.BALL
            own_toe = support.other.sign * stance.toe if place.stance else 0.0
            turned = away + (own_toe if toe is None else toe)
            how = Stepping(support, round(away, 6) + 0.0, landing, round(turned, 6) + 0.0, False)
            width = side_width(self.body, sink, size.width, how)
            size = StepSize(0.0, width, full=width > size.width - 0.005)
        return (size._replace(length=-size.length) if back else size), stance
