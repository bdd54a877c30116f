"""What is useful next: the first thing that is still open, in the order of the work."""

from __future__ import annotations

from waltzmark.core.answers.review import Review
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form

__all__ = ["Onward", "onward"]


class Onward(Record):
    """Something to go on with.

    does: what; stage, face: where it is done, the present one where empty; act: what to do there, by the name it has in
    the menus.
    """

    does: Message
    stage: str = ""
    face: str = ""
    act: str = ""


_WRITE = Onward(message("onward.write"), "plot", act="type")
_DRAFT = Onward(message("onward.draft"), "words", act="to draft")
_SURE = Onward(message("onward.sure"), act="take sure")
_PRACTISE = Onward(message("onward.practise"), "practise", "walk")
_SHEET = Onward(message("onward.sheet"), act="sheets")
_LOG = Onward(message("onward.log"), "log", "next")


def onward(form: Form, review: Review, here: str) -> tuple[Onward, ...]:
    """One or two things to go on with from a stage: what is open, and when nothing is, the sheet and the practice."""
    if not any(count.moves for posture in form.postures for count in form.lines(posture)):
        if form.words is None or not form.words.text.strip():
            return (_WRITE,)
        return (_SURE if here == "words" else _DRAFT), _WRITE
    waits = form.words is not None and form.words.upto < len(form.words.text.rstrip())
    room, home, sides = (answer.good for answer in review.answers)
    stops = review.stops
    matters = (
        (here == "words" and waits, _SURE),
        (stops > 0, Onward(message("onward.mend", n=stops), "plot", act="next finding")),
        (form.room is None, Onward(message("onward.room"), "room", "room")),
        (form.room is not None and room is False, Onward(message("onward.fit"), "room", "place")),
        (home is False, Onward(message("onward.home"), "return", "ledger")),
        (sides is False, Onward(message("onward.sides"), "sides", "pairs")),
    )
    if still := [matter for is_open, matter in matters if is_open]:
        return tuple(still[:2])
    after = {"practise": (_LOG, _SHEET), "log": (_PRACTISE,)}
    return after.get(here, (_PRACTISE, _SHEET))
