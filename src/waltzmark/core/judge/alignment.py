"""How the body stands in line: the knee over its foot, the trunk over the feet, a kick over the leg that stands."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.angles import ahead, heading_differences
from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import message
from waltzmark.core.body.foot import LANDMARKS
from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.registry import Case, begins, rule
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Toward

__all__: list[str] = []

_SAME = 1e-6
#: A foot that turns more than this in a count is being turned: it is judged once it rests, degrees.
_TURNING = 1.0
#: From the hips to the middle of the head along the trunk, as a share of the stature.
HEAD = 0.41
_SIGNS = np.array([-1.0, 1.0])  # outward is counter-clockwise on the left, clockwise on the right


@rule("knee.inward", "caution")
def inward(case: Case) -> Iterator[Finding]:
    """A bent knee that carries falls inward of its foot's line.

    In a wide seat with a foot turned in, or when one sits low on a rear foot that is not opened.
    """
    body = case.body
    bends = body.seat.bends
    wide, most = _turned_in(case)
    near, far = case.limits("knee.inward", "inward", "far")
    for row, side in case.feet(begins(wide & (most > near + _SAME)) | begins(wide & (most > far + _SAME))):
        turned = float(most[row, side])
        yield case.found(
            "knee.inward",
            row,
            measured=turned,
            limit=near,
            unit="°",
            side=side,
            bend=float(bends[row, side]),
            severity=None if turned > far + _SAME else "note",
            mends=_opened(case, row, side, turned),
        )
    seated, short = _not_opened(case)
    some, much = case.limits("knee.inward", "short", "far_short")
    for row, side in case.feet(begins(seated & (short > some + _SAME)) | begins(seated & (short > much + _SAME))):
        missing = float(short[row, side])
        yield case.found(
            "knee.inward",
            row,
            which="seat",
            measured=float(body.toe_angles[row, side]),
            limit=float(bends[row, side]) - some,
            unit="°",
            side=side,
            bend=float(bends[row, side]),
            severity=None if missing > much + _SAME else "note",
            mends=_opened(case, row, side, missing - some),
        )


def _turned_in(case: Case) -> tuple[Bools, Floats]:
    """(n, 2) whether a foot of a wide, bent seat is turned in, and how far, degrees.

    It faces across the line of the heels, and rests; the degrees are those inward of that line.
    """
    trace, body = case.trace, case.body
    share, bend, wide, square = case.limits("knee.inward", "share", "bend", "wide", "square")
    line = trace.heels[:, 1] - trace.heels[:, 0]
    apart = np.hypot(line[:, 0], line[:, 1])
    across = np.degrees(np.arctan2(line[:, 0], line[:, 1])) - 90.0
    faces = np.abs(heading_differences(across, body.pelvis)) <= square + _SAME
    seat = (
        faces
        & (apart >= wide / 100.0 * trace.body.shoulder_breadth - _SAME)
        & (100 * trace.shares >= share - _SAME).all(axis=1)
    )
    with np.errstate(invalid="ignore"):
        bent = body.seat.bends >= bend - _SAME
    rests = (trace.contacts == Contact.FLAT) & ~(body.pivots & (np.abs(trace.move_turns) > _TURNING))
    # The thigh goes between the seat and the pelvis: a pelvis that turns toward a foot takes the knee along.
    inward, of_pelvis = -heading_differences(across[:, None], trace.headings) * _SIGNS, -body.hip_turns
    return np.asarray(seat[:, None] & bent & rests & (of_pelvis > 0.0)), np.asarray((inward + of_pelvis) / 2.0)


def _not_opened(case: Case) -> tuple[Bools, Floats]:
    """(n, 2) whether a rear foot that is sat low on is opened too little, and by how much.

    It is opened against the pelvis; the degrees are those by which its toes are less turned out than its knee is bent.
    """
    trace, body = case.trace, case.body
    share, bend, open_ = case.limits("knee.inward", "seat", "low", "open")
    rear = body.front[:, None] == 1 - np.arange(2)[None, :]
    bends = body.seat.bends
    with np.errstate(invalid="ignore"):
        low = (bends >= bend - _SAME) & (100 * trace.shares >= share - _SAME)
    seated = rear & low & (trace.contacts == Contact.FLAT) & (body.hip_turns >= open_ - _SAME)
    return np.asarray(seated), np.asarray(np.where(seated, bends - body.toe_angles, 0.0))


def _opened(case: Case, row: int, side: Side, degrees: float) -> tuple[Mend, ...]:
    """The mend that turns a foot out once it carries nothing: it is offered as a count of its own before."""
    open_ = act.Count((act.Pivot(side, "heel", Toward(False, float(np.ceil(degrees)))),))
    light = 100 * float(case.body.shares_before[row, side]) <= 10.0
    return case.put_before(row, message("mend.open", foot=side, turn=float(np.ceil(degrees))), open_) if light else ()


@rule("trunk.lean", "caution")
def lean(case: Case) -> Iterator[Finding]:
    """The trunk leans so far that the head hangs out past the toes, or leans back."""
    trace = case.trace
    own = float(case.form.school.lean)
    over, twisted, twist, much = case.limits("trunk.lean", "over", "twisted", "twist", "note")
    back, far_back = case.limits("trunk.lean", "back", "far_back")
    extra = trace.leans - own
    hangs = _head_hangs(case)
    wrung = np.abs(case.body.waist) > twist + _SAME
    forward = (hangs & (extra >= over - _SAME)) | (wrung & (extra >= twisted - _SAME))
    behind = -trace.leans
    grave = forward | (behind >= far_back - _SAME)
    slight = (extra >= much - _SAME) | (behind >= back - _SAME)
    for row in case.rows(begins(grave) | (begins(slight) & ~grave)):
        leans = float(trace.leans[row])
        which = "back" if leans < 0 else ""
        if forward[row] and not hangs[row]:
            which = "wrung"
        yield case.found(
            "trunk.lean",
            row,
            which=which,
            measured=abs(leans),
            limit=own if leans >= 0 else 0.0,
            unit="°",
            severity=None if grave[row] else "note",
            mends=_upright(case, row, own),
        )


def _head_hangs(case: Case) -> Bools:
    """(n,) whether the middle of the head is past the furthest toe tip on the floor, the way the chest faces."""
    trace, body = case.trace, case.body
    ways = np.array([ahead(float(each)) for each in trace.torso])
    head = (body.seat.places * ways).sum(axis=1) + HEAD * trace.body.stature * np.sin(np.radians(trace.leans))
    lengths = np.array([trace.body.sole.of(side) for side in SIDES]) * LANDMARKS["toe"]
    angle = np.radians(trace.headings)
    tips = trace.heels + lengths[None, :, None] * np.stack([np.sin(angle), np.cos(angle)], axis=-1)
    reach = (tips * ways[:, None, :]).sum(axis=-1)
    down = np.where(trace.contacts == Contact.AIR, -np.inf, reach)
    return np.asarray(head > down.max(axis=1) + _SAME)


def _upright(case: Case, row: int, own: float) -> tuple[Mend, ...]:
    count = case.count(row)
    old = count.one(act.Lean)
    if old is None:
        return ()
    return case.exchange(row, message("mend.upright", lean=own), count.exchanged(old, act.Lean(own)))


@rule("kick.across", "caution")
def across(case: Case) -> Iterator[Finding]:
    """A kick goes far across the foot that stands: its knee is twisted."""
    trace, most = case.trace, case.limit("kick.across", "angle")
    kicks = np.zeros(len(trace), dtype=bool)
    kicks[[row for row, _ in trace.of_kind(act.Kick)]] = True
    for row in case.rows(kicks):
        for kick in (a for a in case.count(row).actions if isinstance(a, act.Kick)):
            stands = kick.side.other
            way = kick.facing.heading(float(trace.torso[max(row - 1, 0)]), case.form.twelve)
            # Inward of the standing foot's line: a right leg across to the left.
            turn = float(heading_differences(trace.headings[row, stands], np.asarray(way)))
            crossed = -kick.side.sign * turn
            if crossed > most + _SAME:
                yield case.found(
                    "kick.across",
                    row,
                    measured=crossed,
                    limit=most,
                    unit="°",
                    side=kick.side,
                    mends=_follow_kick(case, row, stands, way),
                )


def _follow_kick(case: Case, row: int, stands: Side, way: float) -> tuple[Mend, ...]:
    """The mend that turns the standing foot toward the kick before it, while it can still be turned."""
    if 100 * float(case.body.shares_before[row, stands]) > 40.0:
        return ()
    turn = act.Count((act.Pivot(stands, "heel", Clock.at(way)),))
    return case.put_before(row, message("mend.turn-toward-kick", foot=stands), turn)


def _is_back(step: act.Step) -> bool:
    return isinstance(step.place, act.Faced) and step.place.manner == "back"


@rule("step.back-open", "note")
def back_open(case: Case) -> Iterator[Finding]:
    """After a step back has settled, the front foot still points far out of the facing."""
    trace, body, most = case.trace, case.body, case.limit("step.back-open", "angle")
    back: dict[Side, bool] = dict.fromkeys(SIDES, False)
    if not any(_is_back(step) for _, step in trace.of_kind(act.Step)):
        return
    for row, count in enumerate(trace.written):
        if row and trace.passage_of[row] != trace.passage_of[row - 1]:
            back = dict.fromkeys(SIDES, False)  # it has settled where its posture ended
        for side in SIDES:
            if body.steps[row, side]:
                step = count.one(act.Step, side)
                back = dict.fromkeys(SIDES, False)
                back[side] = step is not None and _is_back(step)
        for side in SIDES:
            front = side.other
            if not row or not back[side] or not body.settled[row] or body.front[row] != front:
                continue
            out = float(body.toe_angles[row, front])
            if trace.contacts[row, front] == Contact.FLAT and out >= most - _SAME:
                back[side] = False
                turn = act.Count((act.Pivot(front, "heel", Toward(True, float(np.floor(out)))),))
                yield case.found(
                    "step.back-open",
                    row,
                    measured=out,
                    limit=most,
                    unit="°",
                    side=front,
                    mends=case.put_after(row, message("mend.close-front", foot=front), turn),
                )
