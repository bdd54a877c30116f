"""Everything that is known of a walked form: its findings and its three answers."""

from __future__ import annotations

from waltzmark.core.answers.answers import Answer, return_answer, room_answer, sides_answer
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.core.form.mutes import Mute
from waltzmark.core.home.ledger import Return, check_return
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import judge_all
from waltzmark.core.room.clearance import RoomCheck, check_room
from waltzmark.core.sides.pairs import Pair, check_sides
from waltzmark.core.sides.tolerance import SAME, Tolerance
from waltzmark.core.walk.trace import Trace

__all__ = ["Review", "review"]


class Review(Record):
    """Findings and the three checks of one walk; room is None without one."""

    findings: tuple[Finding, ...]
    muted: tuple[tuple[Finding, Mute], ...]
    room: RoomCheck | None
    home: Return
    sides: tuple[Pair, ...]
    answers: tuple[Answer, Answer, Answer]

    @property
    def stops(self) -> int:
        return sum(finding.severity == "stop" for finding in self.findings)


def review(form: Form, trace: Trace, within: Tolerance = SAME) -> Review:
    """Judge a walk and make its three checks: room, return, sides. within: what two sides may differ by."""
    room = check_room(trace, form.room) if form.room else None
    home = check_return(trace, form)
    sides = check_sides(form, trace, within)
    answers = room_answer(form, trace, room), return_answer(home, len(trace) - 1), sides_answer(form, sides, trace)
    judged = judge_all(form, trace)
    return Review(judged.findings, judged.muted, room, home, sides, answers)
