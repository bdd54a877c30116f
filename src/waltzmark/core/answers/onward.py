"""What is useful next: the first thing that is still open, in the order of the work."""

from __future__ import annotations

from waltzmark.core.answers.review import Review
from waltzmark.core.base.records import record
from waltzmark.core.form.form import Form

__all__ = ["Onward", "onward"]


@record
class Onward:
    """Something to go on with. stage, face: where it is done, the present one where empty; act: what to do there, by
    the name it has in the menus."""

    words: str
    stage: str = ""
    face: str = ""
    act: str = ""


_WRITE = Onward("Write the first count", "plot", act="type")
_PRACTISE = Onward("Practise it", "practise", "walk")
_SHEET = Onward("Print a sheet for the floor", act="sheets")
_LOG = Onward("See what to practise next", "log", "next")


def onward(form: Form, review: Review, here: str) -> tuple[Onward, ...]:
    """One or two things to go on with from a stage: what is open, and when nothing is, the sheet and the practice."""
    if not any(count.moves for posture in form.postures for count in form.lines(posture)):
        return (_WRITE,)
    room, home, sides = (answer.good for answer in review.answers)
    stops = review.stops
    matters = (
        (stops > 0, Onward(f"Mend {stops} stop{'s' if stops > 1 else ''}", "plot", act="next finding")),
        (form.room is None, Onward("Say in which room it is walked", "room", "room")),
        (form.room is not None and room is False, Onward("Make it fit the room", "room", "place")),
        (home is False, Onward("Bring it home", "return", "ledger")),
        (sides is False, Onward("See where its sides differ", "sides", "pairs")),
    )
    if still := [matter for is_open, matter in matters if is_open]:
        return tuple(still[:2])
    after = {"practise": (_LOG, _SHEET), "log": (_PRACTISE,)}
    return after.get(here, (_PRACTISE, _SHEET))
