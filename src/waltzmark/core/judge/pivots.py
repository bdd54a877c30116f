"""Pivots: which way round, on which part, how far, and how much weight the turning foot carries."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Literal

import numpy as np

from waltzmark.core.base.angles import heading_differences
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import sided
from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.registry import Case, rule
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Toward
from waltzmark.core.walk.pelvis import HOLDS

__all__: list[str] = []


@rule("pivot.half-turn", "stop")
def half_turn(case: Case) -> Iterator[Finding]:
    """A pivot of exactly half a turn that does not say which way round."""
    for each in case.trace.problems:
        row, problem = each.row, each.problem
        if problem.rule == "pivot.half-turn" and problem.side is not None:
            pivot = case.count(row).one(act.Pivot, problem.side)
            mends: tuple[Mend, ...] = ()
            if pivot is not None:
                senses: tuple[tuple[Literal["cw", "ccw"], str], ...] = (
                    ("cw", "mend.clockwise"),
                    ("ccw", "mend.counter"),
                )
                mends = tuple(
                    mend
                    for sense, kind in senses
                    for mend in case.exchange(
                        row, message(kind), case.count(row).exchanged(pivot, replace(pivot, sense=sense))
                    )
                )
            yield case.found(
                "pivot.half-turn", row, measured=180.0, limit=180.0, unit="°", side=problem.side, mends=mends
            )


def _sit_back(case: Case, row: int, side: Side, most: float) -> tuple[Mend, ...]:
    """The mend that sits back before a turn. Where the count itself pours onto the foot, the pour comes after."""
    share = 100.0 - most
    does = message("mend.sit-back", share=share, foot=side.other)
    count = case.count(row)
    before = act.Count((act.Shift(side.other, share),))
    rest = tuple(action for action in count.actions if not isinstance(action, act.Shift))
    shifts = tuple(action for action in count.actions if isinstance(action, act.Shift))
    if not shifts:
        return case.put_before(row, does, before)
    lines = (before, replace(count, actions=rest), act.Count(shifts))
    light = 100.0 * float(case.body.shares_before[row, side]) <= most + 1e-6
    return case.exchange(row, message("mend.turn-first") if light else does, *(lines[1:] if light else lines))


@rule("pivot.loaded", "caution")
def loaded_pivot(case: Case) -> Iterator[Finding]:
    """A foot turns while it carries more than the school allows.

    The load of a pivot is the larger of the foot's shares before and after the count.
    """
    trace, body = case.trace, case.body
    angle, limits = case.limit("pivot.loaded", "angle"), _most_load(case)
    load, turned = 100 * body.load, np.abs(trace.move_turns)
    for row, side in case.feet(body.pivots & (turned > angle + 1e-6) & (load > limits + 1e-6)):
        share, turn, limit = float(load[row, side]), float(turned[row, side]), float(limits[side])
        together = _as_one(case, row, side)
        if (
            together
            and (body.pivots[row] & (turned[row] > angle + 1e-6)).all()
            and case.form.school.applies("pivot.both")
        ):
            continue  # pivot.both tells of both at once
        yield case.found(
            "pivot.loaded",
            row,
            which="together" if together else "",
            measured=share,
            limit=limit,
            unit="%",
            side=side,
            turn=turn,
            severity="note" if together else None,
            mends=_sit_back(case, row, side, limit),
        )


def _most_load(case: Case) -> Floats:
    """(2,) % that a foot may carry while it turns: of a side that is spared no more than before a big turn."""
    load, share = case.limit("pivot.loaded", "load"), case.limit("pivot.sit-back", "share")
    spared = case.trace.body.spare
    return np.array([min(load, 100.0 - share) if side.word == spared else load for side in SIDES])


def _as_one(case: Case, row: int, side: Side) -> bool:
    """Whether a turn on the ball takes the pelvis with it, on soles that do not stick."""
    pivot = case.count(row).one(act.Pivot, side)
    on_ball = case.trace.move_contacts[row, side] == Contact.BALL and (pivot is None or pivot.part != "toe")
    within, sticks = case.limits("pivot.loaded", "together", "friction")
    off = abs(float(case.body.hip_turns[row, side]))
    return bool(on_ball and off <= within + 1e-6 and case.trace.body.friction < sticks - 1e-6)


@rule("pivot.both", "caution")
def both(case: Case) -> Iterator[Finding]:
    """Both soles turn in one count while both carry: on the balls with the body a note, else it wrings the knees."""
    trace, body = case.trace, case.body
    angle, least, most, within = case.limits("pivot.both", "angle", "least", "most", "together")
    turned = body.pivots & (np.abs(trace.move_turns) > angle + 1e-6)
    shares = 100 * np.stack([body.shares_before, trace.shares])
    loaded = ((shares >= least - 1e-6) & (shares <= most + 1e-6)).all(axis=0)
    for row in case.rows(np.asarray((turned & loaded).all(axis=1))):
        parts = [case.count(row).one(act.Pivot, side) for side in SIDES]
        balls = (trace.move_contacts[row] == Contact.BALL).all() and not any(p and p.part == "toe" for p in parts)
        together = bool(balls) and bool((np.abs(body.hip_turns[row]) <= within + 1e-6).all())
        yield case.found(
            "pivot.both",
            row,
            which="together" if together else "",
            measured=float(np.abs(trace.move_turns[row]).min()),
            limit=angle,
            unit="°",
            severity="note" if together else None,
            mends=_one_by_one(case, row),
        )


def _one_by_one(case: Case, row: int) -> tuple[Mend, ...]:
    """The mend that turns one foot after the other, each emptied before."""
    count = case.count(row)
    pivots = [count.one(act.Pivot, side) for side in SIDES]
    rest = tuple(action for action in count.actions if action not in pivots)
    if None in pivots or any(isinstance(action, act.Shift) for action in rest):
        return ()
    lines = [
        each
        for side, pivot in zip(Side, pivots, strict=True)
        if pivot is not None
        for each in (act.Count((act.Shift(side.other, 100.0),)), act.Count((pivot,)))
    ]
    lines[-1] = replace(lines[-1], actions=(*lines[-1].actions, *rest))
    return case.exchange(row, message("mend.one-by-one"), *lines)


@rule("pivot.sit-back", "note")
def sit_back(case: Case) -> Iterator[Finding]:
    """A big turn of a foot without sitting back as far as the school asks for before it."""
    trace, body = case.trace, case.body
    angle, share = case.limits("pivot.sit-back", "angle", "share")
    most, free = 100.0 - share, _most_load(case) if case.form.school.applies("pivot.loaded") else np.full(2, 100.0)
    load, turned = 100 * body.load, np.abs(trace.move_turns)
    # A heavier foot is told by pivot.loaded.
    wrong = body.pivots & (turned >= angle - 1e-6) & (load > most + 1e-6) & (load <= free + 1e-6)
    for row, side in case.feet(wrong):
        carried = 100.0 - float(load[row, side])
        yield case.found(
            "pivot.sit-back",
            row,
            measured=carried,
            limit=share,
            unit="%",
            side=side,
            turn=float(turned[row, side]),
            mends=_sit_back(case, row, side, most),
        )


@rule("pivot.far", "caution")
def far(case: Case) -> Iterator[Finding]:
    """A foot turns further against the pelvis at once than the school lets any foot turn."""
    trace, body = case.trace, case.body
    limit, before = case.limit("pivot.far", "angle"), np.concatenate([body.pelvis[:1], body.pelvis[:-1]])
    with_it = heading_differences(before, body.pelvis)[:, None]
    turned = np.where(
        np.sign(with_it) == np.sign(trace.move_turns), np.abs(trace.move_turns - with_it), np.abs(trace.move_turns)
    )
    for row, side in case.feet(body.pivots & (turned > limit + 1e-6)):
        whole = abs(float(trace.move_turns[row, side]))
        yield case.found(
            "pivot.far",
            row,
            which="" if whole - turned[row, side] < 1.0 else "against",
            measured=float(turned[row, side]),
            limit=limit,
            unit="°",
            side=side,
            turn=whole,
        )


@rule("pivot.part", "note", whole=True)
def part_of(case: Case) -> Iterator[Finding]:
    """A foot turns on another part than it does in this school."""
    trace, pivots = case.trace, case.body.pivots
    asked, on = case.choice("pivot.part", "part"), trace.move_contacts
    wanted = np.full(on.shape, Contact.BALL if asked == "ball" else Contact.HEEL)
    known = np.ones(on.shape, dtype=bool)
    if asked == "heel-front-ball-rear":
        front = np.concatenate([case.body.front[:1], case.body.front[:-1]])[:, None]
        wanted, known = (
            np.where(front == np.arange(2), Contact.HEEL, Contact.BALL),
            np.broadcast_to(front >= 0, on.shape),
        )
    # The heel is pushed after a turn that the hip did not give whole.
    heel = pivots & (on == Contact.HEEL)
    pushed = np.vstack([np.zeros((1, 2), dtype=bool), heel[:-1]]) & (on == Contact.BALL)
    # A rear foot is put right as the school has it.
    behind = (case.body.front[:, None] == 1 - np.arange(2)) & (on == Contact.BALL)
    corrects = case.choice("stance.rear-angle", "correction") != "hips"
    pushed |= behind & corrects
    for row, side in case.feet(pivots & known & (on != wanted) & ~pushed & (np.abs(trace.move_turns) >= 1.0)):
        pivot = case.count(row).one(act.Pivot, side)
        if pivot is None or pivot.part == "toe":
            continue
        want = Contact(int(wanted[row, side])).word
        changed = case.count(row).exchanged(pivot, replace(pivot, part=want))  # type: ignore[arg-type]
        yield case.found(
            "pivot.part",
            row,
            side=side,
            part=pivot.part,
            wanted=want,
            mends=case.exchange(row, message("mend.turn-on", part=want), changed),
        )


@rule("pivot.contact", "caution")
def contact(case: Case) -> Iterator[Finding]:
    """A foot is to turn on a part that is not on the floor."""
    trace = case.trace
    before = np.vstack([trace.contacts[:1], trace.contacts[:-1]])
    on = trace.move_contacts
    wrong = case.body.pivots & (before != Contact.FLAT) & (before != on) & (np.abs(trace.move_turns) > 1.0)
    for row, side in case.feet(wrong):
        part, stands = (Contact(int(a[row, side])) for a in (on, before))
        flat = act.Count((act.Land(side, Contact.FLAT),))
        yield case.found(
            "pivot.contact",
            row,
            which="air" if stands is Contact.AIR else "",
            side=side,
            part=part,
            stands=stands,
            mends=case.put_before(row, message("mend.flat-first", foot=side), flat),
        )


def _pelvis_room(case: Case, row: int, side: Side) -> tuple[float, float]:
    """Degrees that the pelvis could turn further toward where a foot turns in.

    What the standing hip and the waist leave it.
    """
    trace, body = case.trace, case.body
    toward = -side.sign  # a left foot turns in clockwise
    other = side.other
    # Turning in on one side is turning the pelvis over the standing foot, whose hip turns inward with it.
    holds = trace.shares[row, other] > HOLDS and trace.contacts[row, other] == Contact.FLAT
    hip = trace.body.hip_range(other)[1] + float(body.hip_turns[row, other]) if holds else math.inf
    gives = sided(trace.body.waist, Side.LEFT if toward > 0 else Side.RIGHT)
    return max(hip, 0.0), max(gives + toward * float(body.waist[row]), 0.0)


def _turned_less(case: Case, row: int, pivot: act.Pivot, turn: float, missing: float) -> tuple[Mend, ...]:
    """The mends that turn a foot in only as far as the hip gives.

    They push its heel out once all stands on it, where the posture comes to that.
    """
    trace, side, part = case.trace, pivot.side, "ball"
    can = math.floor((turn - missing) * 2) / 2
    less = case.count(row).exchanged(pivot, replace(pivot, aim=Toward(True, can), sense=None))
    mends = case.exchange(row, message("mend.turn-in", turn=can), less)
    rest = round((turn - can) * 2) / 2
    after = int(trace.starts[int(trace.passage_of[row]) + 1])
    full = np.flatnonzero(trace.shares[row + 1 : after, side] >= 0.98)
    if len(full):
        later = row + 1 + int(full[0])
        push = act.Count((act.Pivot(side, part, Toward(True, rest)),))  # type: ignore[arg-type]
        mends += case.exchange_both(
            message("mend.turn-and-push", turn=can, rest=rest), row, (less,), later, (case.count(later), push)
        )
    return mends


def _half_step_first(case: Case, row: int, side: Side, missing: float) -> tuple[Mend, ...]:
    """The mend that follows up by half a step in the old facing first.

    The rear foot is opened the way of the turn, so that its hip gives what is missing.
    """
    trace, other = case.trace, side.other
    before = trace.pose(row - 1)
    behind = case.body.front[row - 1] == side
    if not behind or missing > 60.0:
        return ()
    opened = Clock.at(before.foot(other).heading - side.sign * math.ceil(missing))
    lines = (
        act.Count((act.Shift(side, 100.0),)),
        act.Count((act.Step(other, act.Half(Clock.at(before.facing)), opened),)),
        act.Count((act.Shift(other, 100.0), act.Land(other, Contact.FLAT))),
    )
    return case.put_before(row, message("mend.half-step"), *lines)


@rule("pivot.hip-range", "caution")
def hip_range(case: Case) -> Iterator[Finding]:
    """A foot is turned in further than the hip lets it; what is missing has to be made up afterwards."""
    trace, body = case.trace, case.body
    slack = case.limit("pivot.hip-range", "slack")
    for row, side in case.feet(body.pivots & (np.abs(trace.move_turns) > 1.0)):
        most = trace.body.hip_range(side)[1]
        inward = (float(trace.move_turns[row, side]) > 0) == (side is Side.LEFT)
        if not inward:
            continue
        # The waist lets the pelvis go further round than the chest does, as far as the standing hip allows.
        hip, waist = _pelvis_room(case, row, side)
        if case.count(row).one(act.Torso) is None:
            waist = math.inf  # where the score does not hold the chest it goes along
        asked = -float(body.hip_turns[row, side]) - min(hip, waist)
        if asked <= most + slack + 1e-6:
            continue
        pivot, turn = case.count(row).one(act.Pivot, side), abs(float(trace.move_turns[row, side]))
        missing = asked - most
        mends = () if pivot is None or turn <= missing else _turned_less(case, row, pivot, turn, missing)
        if hip + missing <= waist:  # else the chest would have to turn too
            mends += _half_step_first(case, row, side, missing)
        yield case.found(
            "pivot.hip-range",
            row,
            measured=asked,
            limit=most,
            unit="°",
            side=side,
            missing=missing,
            severity="note" if 100 * float(body.load[row, side]) < 30.0 - 1e-6 else None,  # an empty leg twists nothing
            mends=mends,
        )
