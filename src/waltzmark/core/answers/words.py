"""The three answers in plain words: does it fit the room, does it return, do its sides mirror?"""

from __future__ import annotations

from typing import TYPE_CHECKING

from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.base.records import record
from waltzmark.core.form.form import Form
from waltzmark.core.home.ledger import Return
from waltzmark.core.sides.pairs import Pair
from waltzmark.core.sides.words import rest_words, worst_words
from waltzmark.core.walk.trace import Trace

if TYPE_CHECKING:
    from waltzmark.core.judge.finding import Finding
    from waltzmark.core.room.clearance import RoomCheck

__all__ = ["Answer", "return_answer", "room_answer", "sides_answer"]

#: So many other places of a finding are named.
_PLACES = 3


@record
class Answer:
    """One answer. good: yes, no, or None where there is nothing to ask; row: of the trace, where to look."""

    good: bool | None
    text: str
    row: int | None = None


def where(form: Form, posture: str | None, count: int) -> str:
    """A count's place in words."""
    if posture is None:
        return "the opening"
    return f"{form.posture(posture).title}, count {count}"


def places(form: Form, finding: Finding) -> str:
    """Where else a finding that is told once is so, in words; the first few of many."""
    found = [where(form, each.posture, each.count) for each in finding.again]
    return "; ".join(found[:_PLACES]) + (f" and {len(found) - _PLACES} more" if len(found) > _PLACES else "")


def room_answer(form: Form, check: RoomCheck | None, posture: str | None, count: int, say: Figures = PLAIN) -> Answer:
    """Whether the walk fits, with the least clearance; *posture* and *count* are those of ``check.row``."""
    if check is None:
        return Answer(None, "No room is given yet.")
    place = f"{check.what}, in {where(form, posture, count)}"
    if check.clearance < 0:
        return Answer(False, f"Does not fit: {say.length(-check.clearance)} too far at {place}.", check.row)
    if not check.fits:
        return Answer(
            False, f"Too close: {say.length(check.clearance)} of {say.length(check.wanted)} from {place}.", check.row
        )
    return Answer(True, f"Fits: {say.length(check.clearance)} from {place}.", check.row)


def return_answer(result: Return, last_row: int, say: Figures = PLAIN) -> Answer:
    """How far from home the walk ends, and which way."""
    if last_row == 0:
        return Answer(None, "Nothing is walked yet.")
    elsewhere = result.home.place != (0.0, 0.0) or result.home.facing is not None
    mark, facing = ("its home", "it should") if elsewhere else ("its start mark", "it began")
    if result.distance < 0.005 and abs(result.turn) < 0.5:
        return Answer(True, f"Returns: it ends on {mark}, facing as {facing}.", last_row)
    right, ahead = result.offset
    ways = [
        (say.length(abs(value)), words[value < 0])
        for value, words in ((ahead, ("ahead", "behind")), (right, ("to the right", "to the left")))
        if abs(value) >= 0.005
    ]
    turn = ""
    if abs(result.turn) >= 0.5:
        turn = f", turned {abs(result.turn):.0f}° {'clockwise' if result.turn > 0 else 'counter-clockwise'}"
    good = result.good
    head = "Returns within" if good else "Ends"
    off = ""
    if len(ways) > 1:
        off = f" ({' and '.join(f'{figure} {way}' for figure, way in ways)})"
    elif ways:
        off = f" ({ways[0][1]})"  # the figure has been said
    tail = ("of" if good else "from") + (" its home" if elsewhere else " its start")
    return Answer(good, f"{head} {say.length(result.distance)} {tail}{off}{turn}.", last_row)


def sides_answer(form: Form, pairs: tuple[Pair, ...], trace: Trace, say: Figures = PLAIN) -> Answer:
    """Whether all postures with another side mirror it, and all repeats repeat; where not, what differs most."""
    sides = [pair for pair in pairs if pair.kind == "mirror" or not pair.same]
    different = [pair for pair in sides if not pair.same]
    if not sides:
        return Answer(None, "No posture has another side yet.")
    number = f"{len(sides)} pair" + ("s" if len(sides) > 1 else "")
    if not different:
        entered = sum(pair.cause == "entry" for pair in sides)
        tail = f"; {entered} of them entered otherwise" if entered else ""
        if rest := next((words for pair in sides if (words := rest_words(pair.compared))), ""):
            tail += f"; {rest}"
        agree = "agree" if len(sides) > 1 else "agrees"
        return Answer(True, f"Mirror: {number} of sides {agree}{tail}.", _first_row(trace, sides[0]))
    worst = max(different, key=lambda pair: pair.worst.weight(pair.compared.within) if pair.worst is not None else 0.0)
    title = form.posture(worst.other).title
    words = rest_words(worst.compared) or worst_words(worst, trace, say)
    differ = "differs" if len(different) == 1 else "differ"
    return Answer(False, f"{len(different)} of {number} {differ}: {title}: {words}.", _first_row(trace, worst))


def _first_row(trace: Trace, pair: Pair) -> int:
    """Where to look at a pair: at what differs most, else at the other's first count."""
    worst = pair.worst
    if worst is not None and worst.other_row is not None:
        return worst.other_row
    if worst is not None and worst.row is not None:
        return worst.row
    return min(pair.compared.other.start, len(trace) - 1)
