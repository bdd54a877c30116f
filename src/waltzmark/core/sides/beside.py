"""What a count says beside feet, weight and chest, and how another count differs in it.

Hands, kicks, eyes, breath, beats and the way of a step.
"""

from __future__ import annotations

from typing import Literal

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record
from waltzmark.core.score.actions import Gaze, Hand, Kick, Step
from waltzmark.core.score.facings import Toward, Turn
from waltzmark.core.sides.folding import Fold
from waltzmark.core.walk.trace import Trace

__all__ = ["TOPICS", "Beside", "Said", "Topic", "beside_of"]

Topic = Literal["hand", "kick", "gaze", "breath", "beats", "path"]
#: In the order in which they are told.
TOPICS: tuple[Topic, ...] = ("kick", "hand", "gaze", "beats", "breath", "path")
_BEATS = 1e-6


class Said(Record):
    """What one count says of a topic.

    heading: degrees in the floor frame of its own walk, where it names a facing; height, part: where a hand or a foot
    is and its shape or part, the path of a step, "in" or "out" of breath; beats: how long it lasts.
    """

    heading: float | None = None
    height: str = ""
    part: str = ""
    beats: float = 0.0


class Beside(Record):
    """One topic on which two counts differ.

    side: the posture's hand or foot, None where there is none; mine, theirs: what each says, None where it says
    nothing.
    """

    topic: Topic
    side: Side | None
    mine: Said | None
    theirs: Said | None


def beside_of(
    trace: Trace, row: int, other_trace: Trace, other_row: int, fold: Fold, degrees: float
) -> tuple[Beside, ...]:
    """What the count of another row says differently from that of a row, both folded.

    Facings within so many degrees are the same. What it says by the walker's own clock is taken as if it began in the
    same pose, so that how it was entered makes no difference.
    """
    before = trace.pose(max(row - 1, 0))
    mine = _said(trace, row, before.torso, before.gaze)
    theirs = _said(other_trace, other_row, fold.heading(before.torso), fold.heading(before.gaze))
    found: list[Beside] = []
    for topic in TOPICS:
        for side in (*Side, None):
            one = mine.get((topic, side))
            other = theirs.get((topic, None if side is None else fold.side(side)))
            if topic == "gaze" and (one is None) != (other is None):
                # Eyes that nobody mentions go with the chest: they may look there all the same.
                along = _along_chest(*((trace, row) if other is None else (other_trace, other_row)), degrees)
                if along:
                    continue
            if not _alike(one, other, fold, degrees):
                found.append(Beside(topic, side, one, other))
    return tuple(found)


def _said(trace: Trace, row: int, torso: float, gaze: float) -> dict[tuple[Topic, Side | None], Said]:
    """What a count says, by topic and by side, of somebody whose chest and eyes face so many degrees as it begins."""
    twelve = trace.ground.twelve
    found: dict[tuple[Topic, Side | None], Said] = {("beats", None): Said(beats=float(trace.beats[row]))}
    for action in trace.written[row].actions:
        if isinstance(action, Hand):
            heading = action.facing.heading(torso, twelve)
            found["hand", action.side] = Said(heading, action.height, action.shape or "")
        elif isinstance(action, Kick):
            heading = action.facing.heading(torso, twelve)
            found["kick", action.side] = Said(heading, action.height, action.part or "")
        elif isinstance(action, Step) and action.via not in (None, "close"):  # it goes close unless it says otherwise
            found["path", action.side] = Said(height=str(action.via))
        elif isinstance(action, Gaze):
            if isinstance(action.aim, Turn):
                heading = normal(gaze + action.aim.degrees)
            elif isinstance(action.aim, Toward):
                heading = normal(gaze + action.aim.turn(Side.RIGHT))
            else:
                heading = action.aim.heading(torso, twelve)
            found["gaze", None] = Said(heading)
    if (inward := trace.breaths[row]) is not None:
        found["breath", None] = Said(height="in" if inward else "out")
    return found


def _along_chest(trace: Trace, row: int, degrees: float) -> bool:
    return abs(heading_difference(float(trace.torso[row]), float(trace.gaze[row]))) <= degrees + 1e-6


def _alike(one: Said | None, other: Said | None, fold: Fold, degrees: float) -> bool:
    if one is None or other is None:
        return one is other
    if (one.height, one.part) != (other.height, other.part) or abs(one.beats - other.beats) > _BEATS:
        return False
    if one.heading is None or other.heading is None:
        return one.heading is other.heading
    return abs(heading_difference(fold.heading(one.heading), other.heading)) <= degrees + 1e-6
