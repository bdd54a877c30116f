"""What two counts do differently, point by point, as messages: the right step is 3 cm longer."""

from __future__ import annotations

import math

from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import Heading, Message, message
from waltzmark.core.score.actions import Pivot
from waltzmark.core.score.write import write_count
from waltzmark.core.sides.beside import TOPICS, Beside, Said
from waltzmark.core.sides.differences import Compared, CountPair
from waltzmark.core.sides.offs import Off
from waltzmark.core.sides.tolerance import Tolerance
from waltzmark.core.walk.ground import STEP
from waltzmark.core.walk.trace import Trace

__all__ = ["beside_point", "count_points", "entry_points", "off_points", "rest_point", "sides_of", "worst_point"]

Sides = tuple[Side, Side]


def sides_of(compared: Compared) -> Sides:
    """Which of the other's feet is the posture's left one, and which its right one."""
    return compared.fold.side(Side.LEFT), compared.fold.side(Side.RIGHT)


def off_points(off: Off, side_of: Sides, within: Tolerance, entered: bool = False) -> list[Message]:
    """What the other count does differently, what matters most first.

    side_of: which of its feet is the posture's left and right one. entered: it is a stance that is spoken of, not a
    step.
    """
    found: list[tuple[float, Message]] = []

    def tell(value: float, most: float, kind: str, **fields: float | Side) -> None:
        if abs(value) > most * (1.0 + 1e-9):
            found.append((abs(value) / most, message(kind, **fields)))

    for side in SIDES:
        foot = side_of[side]
        if not entered:
            found += _step_points(off, side, foot, within)
        elif side is Side.LEFT:  # the right foot says the same of the left one
            ahead, aside = off.ahead[side], off.aside[side]
            tell(ahead, within.cm, f"side.stance.{'ahead' if ahead > 0 else 'back'}", side=foot, by=abs(ahead) / 100)
            tell(
                aside, within.cm, f"side.stance.{'wider' if aside > 0 else 'narrower'}", side=foot, by=abs(aside) / 100
            )
        turn = off.heading[side] * (-1.0 if side_of[0] is Side.RIGHT else 1.0)
        tell(turn, within.degrees, f"side.foot.{'out' if turn * foot.sign > 0 else 'in'}", side=foot, by=abs(turn))
        for name, flags in (("round", off.round), ("part", off.part), ("contact", off.contact)):
            if flags[side]:
                found.append((2.0, message(f"side.foot.{name}", side=foot)))
    torso = off.torso * (-1.0 if side_of[0] is Side.RIGHT else 1.0)
    heavier = side_of[Side.LEFT if off.weight > 0 else Side.RIGHT]
    tell(torso, within.degrees, f"side.chest.{'right' if torso > 0 else 'left'}", by=abs(torso))
    tell(off.weight, within.percent, "side.weight", side=heavier, by=abs(off.weight))
    tell(off.sink, within.degrees, f"side.knees.{'deeper' if off.sink > 0 else 'higher'}", by=abs(off.sink))
    tell(off.lean, within.degrees, f"side.trunk.{'forward' if off.lean > 0 else 'back'}", by=abs(off.lean))
    found.sort(key=lambda each: -each[0])
    return [point for _, point in found]


def _step_points(off: Off, side: Side, foot: Side, within: Tolerance) -> list[tuple[float, Message]]:
    """Where a foot lands otherwise: how much longer and wider the step is, else how far off its place."""
    ahead, aside, length, width = off.ahead[side], off.aside[side], off.length[side], off.width[side]
    far = max(abs(ahead), abs(aside)) / within.cm
    if far <= 1.0 + 1e-9:
        return []
    found = []
    if abs(length) > within.cm:
        found.append((f"side.step.{'longer' if length > 0 else 'shorter'}", abs(length)))
    if abs(width) > within.cm:
        found.append((f"side.step.{'wider' if width > 0 else 'narrower'}", abs(width)))
    if not found:  # neither its length nor its width by so much
        own = math.hypot(length, width)
        found.append(("side.step.off", own if abs(length) + abs(width) >= 0.05 else math.hypot(ahead, aside)))
    return [(far, message(kind, side=foot, by=by / 100.0)) for kind, by in found]


def count_points(
    compared: Compared, pair: CountPair, traces: tuple[Trace, Trace], beside: bool = True
) -> list[Message]:
    """What the other's count does differently; empty where it does the same.

    traces: of the posture and the other; beside: with what it says besides feet, weight and chest.
    """
    if pair.other is None:
        assert pair.row is not None
        return [message("side.count.missing", text=write_count(traces[0].written[pair.row]))]
    if pair.count is None:
        assert pair.other_row is not None
        return [message("side.count.added", text=write_count(traces[1].written[pair.other_row]))]
    points = off_points(pair.off, sides_of(compared), compared.within)
    points = [_exactly(each, compared, pair, traces) for each in points]
    return points + [beside_point(each, compared) for each in pair.beside] if beside else points


def _exactly(point: Message, compared: Compared, pair: CountPair, traces: tuple[Trace, Trace]) -> Message:
    """The same, with what it is and what it should be."""
    assert pair.row is not None and pair.other_row is not None
    if point.kind not in ("side.foot.part", "side.foot.contact"):
        return point
    foot = point["side"]
    assert isinstance(foot, Side)
    side = next(each for each in SIDES if compared.fold.side(each) is foot)
    if point.kind == "side.foot.part":
        pivots = traces[0].written[pair.row].one(Pivot, side), traces[1].written[pair.other_row].one(Pivot, foot)
        if pivots[0] is None or pivots[1] is None:
            return point
        return message("side.foot.turns-on", side=foot, there=pivots[1].part, here=pivots[0].part)
    both = ((traces[0], pair.row, side), (traces[1], pair.other_row, foot))
    here, there = (Contact(int(trace.contacts[row, each])) for trace, row, each in both)
    if here != there:
        return message("side.foot.rests", side=foot, there=there, here=here)
    steps = [trace.move_kinds[row, each] == STEP for trace, row, each in both]
    if steps[0] != steps[1]:
        return message("side.foot.steps" if steps[1] else "side.foot.stays", side=foot)
    slides = traces[1].move_contacts[pair.other_row, foot] != Contact.AIR
    return message("side.foot.slides" if slides else "side.foot.lifted", side=foot)


def beside_point(each: Beside, compared: Compared) -> Message:
    """What the other says differently besides feet, weight and chest.

    Facings are told where they differ, or where only one of both says anything.
    """
    mine, theirs = each.mine, each.theirs
    heading = None if mine is None or mine.heading is None else compared.fold.heading(mine.heading)
    facings = [None if theirs is None else theirs.heading, heading]
    if facings[0] is not None and facings[1] is not None and abs((facings[0] - facings[1] + 180) % 360 - 180) < 0.5:
        facings = [None, None]
    there, here = (
        None if said is None else _said(each.topic, said, facing)
        for said, facing in zip((theirs, mine), facings, strict=True)
    )
    sides = {} if each.side is None else {"side": compared.fold.side(each.side)}
    kind = f"beside.{each.topic}"
    if each.topic == "path":  # it goes close unless it says otherwise
        close = (message("path.close"),)
        return message(kind, **sides, there=there or close, here=here or close)
    if there is None:
        return message(f"{kind}.missing", **sides, here=here)
    if here is None:
        return message(f"{kind}.added", **sides, there=there)
    return message(kind, **sides, there=there, here=here)


def _said(topic: str, said: Said, toward: float | None) -> tuple[Message, ...]:
    """What a count says of a topic, in parts."""
    if topic == "beats":
        return (message("beside.lasts", beats=said.beats),)
    if topic == "breath":
        return (message(f"breath.{said.height}"),)
    if topic == "path":
        return (message(f"path.{said.height}"),)
    parts = [message("beside.toward", heading=Heading(toward))] if toward is not None else []
    if said.height:
        parts.append(message(f"{topic}.height.{said.height}"))
    if said.part:
        parts.append(message(f"{topic}.shape.{said.part}"))
    return tuple(parts) or (message("beside.same-way"),)


def rest_point(compared: Compared) -> Message | None:
    """What differs where feet, weight and chest do not; None where they do, or where nothing differs."""
    topics = tuple(message(f"topic.{topic}") for topic in TOPICS if topic in compared.beside)
    return message("side.rest", topics=topics) if topics and compared.feet_same else None


def worst_point(compared: Compared, traces: tuple[Trace, Trace]) -> Message | None:
    """What differs most, and in which count."""
    count = compared.worst
    if count is None:
        return None
    if count.lone:
        number = count.count if count.other is None else count.other
        return message("side.in-count", count=number, point=count_points(compared, count, traces)[0])
    if count.feet_same(compared.within):
        return message("side.in-count", count=count.other, point=beside_point(count.beside[0], compared))
    kind = "side.in-count.entry" if count.cause(compared.within) == "entry" else "side.in-count"
    return message(kind, count=count.other, point=count_points(compared, count, traces)[0])


def entry_points(compared: Compared) -> list[Message]:
    """How the stance that the other is entered in differs; empty where it does not."""
    return off_points(compared.entry, sides_of(compared), compared.within, entered=True)
