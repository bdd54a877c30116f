"""What is said to be so, held against where the body stands."""

from __future__ import annotations

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.draft.acts import Act
from waltzmark.core.draft.slots import Slot
from waltzmark.core.draft.standing import Standing
from waltzmark.core.score import actions as act

__all__ = ["Expecting"]

#: How many % or degrees off people still call something so.
_NEAR = 10.0


class Expecting(Standing):
    """Makes expectations."""

    def _expect(self, each: Act) -> list[act.Action] | None:
        made = self._expected(each)
        if made is not None and not all(self._is_so(expected) for expected in made):
            self._slots.append(Slot("expect", "doubtful", "expect.false"))
        told = self.made[-1].count.actions if self.made else ()
        if made is not None and any(_is_same_share(made[0], other) or made[0] == other for other in told):
            self.made[-1].spans += each.spans  # "all the weight is on the right, the left is empty" is one
            return None
        return made

    def _is_so(self, expected: act.Action) -> bool:
        """Whether what is said to be so is so, as near as people say it."""
        if isinstance(expected, act.ExpectShare):
            side = Side.LEFT if expected.side is None else expected.side
            return abs(100.0 * self.pose.share(side) - expected.percent) <= _NEAR
        if isinstance(expected, act.ExpectHeading):
            now = self.pose.torso if expected.side is None else self.pose.foot(expected.side).heading
            return heading_difference(expected.facing.heading(self.pose.torso, self.ground.twelve), now) <= _NEAR
        if isinstance(expected, act.ExpectContact):
            return self.pose.foot(expected.side).contact is expected.contact
        return True

    def _expected(self, each: Act) -> list[act.Action] | None:
        if each.share == 50.0 and each.foot is None:
            return [act.ExpectShare(None, 50.0)]
        if each.share is not None:
            side = self.side(each.foot, self.front if self._last is None and each.share > 50.0 else self._last)
            return None if side is None else [act.ExpectShare(side, each.share)]
        facing = self.facing(each)
        if facing is None and not each.contact:
            return None
        if facing is not None and each.way == "torso":
            return [act.ExpectHeading("torso", facing)]
        side = self.side(each.foot, self._last)
        if side is None:
            return None
        if facing is not None:
            return [act.ExpectHeading("toe", facing, side)]
        return [act.ExpectContact(side, Contact.of(each.contact))]


def _is_same_share(one: act.Action, other: act.Action) -> bool:
    """Whether two expectations of the weight say the same, of one foot or the other."""
    if not (isinstance(one, act.ExpectShare) and isinstance(other, act.ExpectShare)):
        return False
    share = other.percent if one.side is other.side else 100.0 - other.percent
    return abs(one.percent - share) < 0.5
