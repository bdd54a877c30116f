"""Arms, kicks and breath: what is written beside the walk, and holds within a posture until it is written anew."""

from __future__ import annotations

import math

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.score import actions as act
from waltzmark.core.walk.trace import Trace

__all__ = ["HandMark", "KickMark", "hand_mark", "hands_at", "hands_of", "kicks_at", "kicks_out"]

#: How high a kick goes, in statures: proportions of R. Drillis and R. Contini (1966).
HEIGHTS = {"ankle": 0.039, "knee": 0.285, "hip": 0.53, "waist": 0.63, "chest": 0.72, "head": 0.93}


class HandMark(Record):
    """A hand at the end of a count: where it points in degrees, how high, and its shape."""

    side: Side
    heading: float
    height: str
    shape: str | None


def hands_of(trace: Trace, row: int) -> tuple[HandMark, ...]:
    """The hands that the count of a row writes."""
    return tuple(hand_mark(trace, row, each) for each in trace.written[row].actions if isinstance(each, act.Hand))


def hand_mark(trace: Trace, row: int, hand: act.Hand) -> HandMark:
    """The hand that an action of a row's count sets."""
    torso, twelve = float(trace.torso[max(row - 1, 0)]), trace.ground.twelve
    return HandMark(hand.side, hand.facing.heading(torso, twelve), hand.height, hand.shape)


def hands_at(trace: Trace, row: int) -> tuple[HandMark, ...]:
    """The hands as last written within the posture of a row, up to it."""
    first = int(trace.starts[int(trace.passage_of[row])])
    found: dict[Side, HandMark] = {}
    for at in range(row, first - 1, -1):
        for hand in hands_of(trace, at):
            found.setdefault(hand.side, hand)
        if len(found) == 2:
            break
    return tuple(found.values())


class KickMark(Record):
    """A lifted foot that is out.

    Where it goes in degrees, how high, with which part, and how far across the floor from its hip the foot is, metres.
    """

    side: Side
    heading: float
    height: str
    part: str | None
    reach: float


def kicks_at(trace: Trace, row: int) -> tuple[KickMark, ...]:
    """The foot that is out at the end of a row's count: kicked there or before, and not brought back since."""
    passage = int(trace.passage_of[row])
    first, written = int(trace.starts[passage]), trace.passages[passage].counts
    for at in range(row, first - 1, -1):
        kick = written[at - first].one(act.Kick)
        if kick is not None and trace.contacts[row, kick.side] == Contact.AIR:
            torso, twelve = float(trace.torso[max(at - 1, 0)]), trace.ground.twelve
            heading = kick.facing.heading(torso, twelve)
            return (KickMark(kick.side, heading, kick.height, kick.part, _reach(trace, row, kick)),)
        if any(isinstance(action, (act.Step, act.Lift, act.Land)) for action in written[at - first].actions):
            break
    return ()


def kicks_out(trace: Trace) -> list[tuple[int, KickMark]]:
    """Every row in which a foot is out, and how."""
    wrote = dict.fromkeys(row for row, _ in trace.of_kind(act.Kick))  # each row once, in their order
    found: list[tuple[int, KickMark]] = []
    for row in wrote:
        at = row
        while at < len(trace) and trace.passage_of[at] == trace.passage_of[row] and (marks := kicks_at(trace, at)):
            found.append((at, marks[0]))
            at += 1
            if at in wrote:
                break
    return found


def _reach(trace: Trace, row: int, kick: act.Kick) -> float:
    """How far a leg of full length gets at the height of the kick, metres.

    The foot's own length is added when the toes are pointed.
    """
    body = trace.body
    hips = body.leg(float(trace.sinks[row])) + body.measure("ankle_height")
    leg, up = body.leg(0.0), HEIGHTS[kick.height] * body.stature - hips
    along = math.sqrt(max(leg * leg - up * up, (0.3 * leg) ** 2))
    return along + (0.6 if kick.part == "toe" else 0.2) * body.sole.of(kick.side)
