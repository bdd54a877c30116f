"""The three answers: does it fit the room, does it return, do its sides mirror?"""

from __future__ import annotations

from waltzmark.core.base.messages import Message, Value, message
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.core.home.ledger import Return
from waltzmark.core.room.clearance import RoomCheck
from waltzmark.core.sides.pairs import Pair
from waltzmark.core.sides.points import rest_point, worst_point
from waltzmark.core.walk.trace import Trace

__all__ = ["Answer", "place_of", "return_answer", "room_answer", "sides_answer"]


class Answer(Record):
    """One answer. good: yes, no, or None where there is nothing to ask; row: of the trace, where to look."""

    good: bool | None
    message: Message
    row: int | None = None


def place_of(form: Form, posture: str | None, count: int) -> Message:
    """The place of a count in the form."""
    if posture is None:
        return message("place.opening")
    if count == 0:  # what cannot be read before the first count has none
        return message("place.beginning", title=form.posture(posture).title)
    return message("place.count", title=form.posture(posture).title, count=count)


def room_answer(form: Form, trace: Trace, check: RoomCheck | None) -> Answer:
    """Whether the walk fits, with the least clearance."""
    if check is None:
        return Answer(None, message("room.none"))
    place = place_of(form, trace.posture(check.row), int(trace.counts[check.row]))
    fields: dict[str, Value] = {"thing": check.what, "place": place}
    if check.clearance < 0:
        return Answer(False, message("room.does-not-fit", beyond=-check.clearance, **fields), check.row)
    if not check.fits:
        found = message("room.too-close", clearance=check.clearance, wanted=check.wanted, **fields)
        return Answer(False, found, check.row)
    return Answer(True, message("room.fits", clearance=check.clearance, **fields), check.row)


def return_answer(result: Return, last_row: int) -> Answer:
    """How far from home the walk ends, and which way."""
    if last_row == 0:
        return Answer(None, message("return.nothing"))
    elsewhere = result.home.place != (0.0, 0.0) or result.home.facing is not None
    of = "home" if elsewhere else "mark"
    if result.distance < 0.005 and abs(result.turn) < 0.5:
        return Answer(True, message(f"return.on-{of}"), last_row)
    right, ahead = result.offset
    ways: list[Value] = [
        message(f"off.{kinds[value < 0]}", by=abs(value))
        for value, kinds in ((ahead, ("ahead", "behind")), (right, ("right", "left")))
        if abs(value) >= 0.005
    ]
    if abs(result.turn) >= 179.5:  # which is the same both ways round
        ways.append(message("off.opposite"))
    elif abs(result.turn) >= 0.5:
        ways.append(message(f"off.turned.{'cw' if result.turn > 0 else 'ccw'}", by=abs(result.turn)))
    if result.distance < 0.005:
        return Answer(result.good, message(f"return.turned-{of}", ways=tuple(ways)), last_row)
    kind = f"return.{'within' if result.good else 'ends'}-{of}"
    return Answer(result.good, message(kind, distance=result.distance, ways=tuple(ways)), last_row)


def sides_answer(form: Form, pairs: tuple[Pair, ...], trace: Trace) -> Answer:
    """Whether all postures with another side mirror it, and all repeats repeat; where not, what differs most."""
    sides = [pair for pair in pairs if pair.kind == "mirror" or not pair.same]
    different = [pair for pair in sides if not pair.same]
    if not sides:
        return Answer(None, message("sides.none"))
    if not different:
        entered = sum(pair.cause == "entry" for pair in sides)
        rest = next((found for pair in sides if (found := rest_point(pair.compared)) is not None), None)
        same = message("sides.same", n=len(sides), entered=entered, rest=rest)
        return Answer(True, same, _first_row(trace, sides[0]))
    worst = max(different, key=lambda pair: pair.worst.weight(pair.compared.within) if pair.worst is not None else 0.0)
    point = rest_point(worst.compared) or worst_point(worst.compared, (trace, trace))
    title = form.posture(worst.other).title
    differ = message("sides.differ", n=len(different), of=len(sides), title=title, point=point)
    return Answer(False, differ, _first_row(trace, worst))


def _first_row(trace: Trace, pair: Pair) -> int:
    """Where to look at a pair: at what differs most, else at the other's first count."""
    worst = pair.worst
    if worst is not None and worst.other_row is not None:
        return worst.other_row
    if worst is not None and worst.row is not None:
        return worst.row
    return min(pair.compared.other.start, len(trace) - 1)
