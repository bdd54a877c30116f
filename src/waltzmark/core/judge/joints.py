"""Rules about hips and waist: the hips turn first, then the waist."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import message
from waltzmark.core.body.body import sided
from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.registry import Case, begins, rule
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Toward
from waltzmark.core.walk.mechanics import UNSURE

__all__ = ["ALL", "SLIGHT"]

#: A leg carries all from this share on.
ALL = 0.98
#: Less than this is only how numbers are stored.
SLIGHT = 1e-6


def _waist_gives(case: Case) -> tuple[Floats, Floats]:
    """(n,) degrees that the waist gives the way it is turned, and (n,) what halves it.

    How many of two things make only half of it count: a knee bent deep, and one leg that carries nearly all.
    """
    trace, body = case.trace, case.body
    gives = np.where(body.waist > 0, *(sided(trace.body.waist, side) for side in (Side.RIGHT, Side.LEFT)))
    deep, share = case.limits("hip.range", "bend", "share")
    fuller = trace.shares >= 0.5 - SLIGHT
    with np.errstate(invalid="ignore"):
        # What the legs come to is known less well than the bend that is set.
        bent = (trace.sinks > deep + SLIGHT) | (fuller & (body.seat.bends > deep + UNSURE)).any(axis=1)
    loaded = (100 * trace.shares >= share - SLIGHT).any(axis=1)
    return np.asarray(gives, dtype=float), bent.astype(float) + loaded


@rule("hip.range", "caution")
def hip_range(case: Case) -> Iterator[Finding]:
    """The chest is turned further than hips and waist give.

    Or two feet that carry are turned further apart than the hips give: the knee takes what is missing.
    """
    trace, body = case.trace, case.body
    slack = case.limit("hip.range", "slack")
    gives, halved = _waist_gives(case)
    turned = np.abs(body.waist)
    counts = np.where(halved == 2, gives / 2.0, gives)
    beyond = turned > counts + slack + SLIGHT
    near = ~beyond & (halved == 1) & (turned > gives / 2.0 + slack + SLIGHT)
    calm = ~(beyond | near)
    for row in case.rows(begins(beyond)):
        yield _twisted(case, row, float(counts[row]), False, calm)
    # A note that a caution follows at once would say the same twice.
    follows = np.append(beyond[1:] & (trace.passage_of[1:] == trace.passage_of[:-1]), False)
    for row in case.rows(begins(near | beyond) & near & ~follows):
        yield _twisted(case, row, float(gives[row]) / 2.0, True, calm)
    passing = np.abs(body.passing_waist)
    for row in case.rows((passing > gives + slack + SLIGHT) & ~beyond & ~near):
        yield _in_passing(case, row, float(passing[row]), float(gives[row]))
    apart = body.settled & (body.hip_gap > slack + SLIGHT)
    for row in case.rows(begins(apart)):
        yield _feet_apart(case, row)


def _said(case: Case, row: int) -> bool:
    """Whether the score says where the chest faces: in the posture up to a row, and the chest has not moved since."""
    trace = case.trace
    if trace.ground.torso == "stated":
        return True
    first = int(trace.starts[int(trace.passage_of[row])])
    for at in range(row, first - 1, -1):
        if case.count(at).one(act.Torso) is not None:
            return True
        if abs(heading_difference(float(trace.torso[at - 1]), float(trace.torso[at]))) > SLIGHT:
            return False
    return False


def _twisted(case: Case, row: int, limit: float, near: bool, calm: Bools) -> Finding:
    trace, body = case.trace, case.body
    said = _said(case, row)
    waist, pelvis = float(body.waist[row]), float(body.pelvis[row])
    asked = abs(waist)
    heading = pelvis + np.sign(waist) * limit
    side = _fuller(case, row)
    whole = sided(trace.body.waist, Side.RIGHT if waist > 0 else Side.LEFT)
    if said:
        if near:
            which = "near"
        elif limit < whole - SLIGHT:
            which = "loaded"
        else:
            which = ""
        mends = (*_turn_less(case, row, heading), *_in_two(case, row, calm))
    else:
        which, mends = "unsaid", _turn_less(case, row, pelvis)
    return case.found(
        "hip.range",
        row,
        which=which,
        measured=asked,
        limit=limit,
        unit="°",
        side=side,
        missing=asked - limit,
        pelvis=case.toward(pelvis, row),
        to=case.toward(heading, row),
        severity="note" if near or not said else None,
        mends=mends,
    )


def _in_passing(case: Case, row: int, turned: float, gives: float) -> Finding:
    """What a count that turns and shifts at once comes to on its way."""
    count, old = case.count(row), case.count(row).one(act.Torso)
    mends: tuple[Mend, ...] = ()
    if old is not None:
        mends = case.exchange(row, message("mend.chest-late"), count.exchanged(old, act.Torso(old.aim, "late")))
    return case.found(
        "hip.range",
        row,
        which="passing",
        measured=turned,
        limit=gives,
        unit="°",
        side=_fuller(case, row),
        missing=turned - gives,
        mends=mends,
    )


def _turn_less(case: Case, row: int, heading: float) -> tuple[Mend, ...]:
    """The mend that turns the waist only as far as it goes. The heading is rounded toward where it came from."""
    torso = Clock.at(heading)
    count = case.count(row)
    old = count.one(act.Torso)
    new = act.Torso(torso)
    changed = count.exchanged(old, new) if old is not None else count.with_more(new)
    return case.exchange(row, message("mend.chest-to", to=case.toward(torso.minutes / 2.0, row)), changed)


def _in_two(case: Case, row: int, calm: Bools) -> tuple[Mend, ...]:
    """The mend that lets the waist turn in two parts.

    Half of the way here, the rest once the weight has moved in the next count, which must then give it all.
    """
    at = case.trace
    count, old = case.count(row), case.count(row).one(act.Torso)
    if old is None or row + 1 >= len(at) or at.passage_of[row + 1] != at.passage_of[row] or not calm[row + 1]:
        return ()
    after = case.count(row + 1)
    if after.one(act.Torso) is not None or after.one(act.Shift) is None:
        return ()
    before = float(at.torso[row - 1])
    turn = (float(at.torso[row]) - before + 180.0) % 360.0 - 180.0
    half = act.Torso(Clock.at(before + turn / 2.0))
    whole = act.Torso(Clock.at(float(at.torso[row])), "late")
    return case.exchange_both(
        message("mend.chest-in-two"), row, (count.exchanged(old, half),), row + 1, (after.with_more(whole),)
    )


def _feet_apart(case: Case, row: int) -> Finding:
    trace, body = case.trace, case.body
    missing = float(body.hip_gap[row])
    full = _fuller(case, row)
    out = [trace.body.hip_range(side) for side in SIDES]
    # The feet stand toes apart where each is turned outward of the pelvis, else toes together.
    apart = float(body.hip_turns[row].sum()) > 0
    gives = sum(each[0 if apart else 1] for each in out)
    light = None if full is None else full.other
    follow = Toward(apart, float(np.ceil(missing)))
    mends: tuple[Mend, ...] = ()
    if light is not None:
        turn = act.Count((act.Pivot(light, "heel", follow),))
        mends = case.put_after(row, message("mend.follow", foot=light, turn=follow.degrees), turn)
    return case.found(
        "hip.range",
        row,
        which="apart" if apart else "together",
        measured=gives + missing,
        limit=gives,
        unit="°",
        side=light,
        missing=missing,
        mends=mends,
    )


def _fuller(case: Case, row: int) -> Side | None:
    """The foot that carries more, None where both carry alike."""
    left = float(case.trace.shares[row, 0])
    return None if abs(left - 0.5) < SLIGHT else Side(int(left < 0.5))


@rule("waist.twist", "note")
def waist_twist(case: Case) -> Iterator[Finding]:
    """A posture ends with the waist twisted further than the school leaves it."""
    trace, body = case.trace, case.body
    limit = trace.ground.school.waist_twist
    last = np.append(trace.passage_of[1:] != trace.passage_of[:-1], True)
    stands = (trace.contacts != Contact.AIR).all(axis=1) & body.carries.all(axis=1)
    for row in case.rows(last & stands & (np.abs(body.waist) > limit + SLIGHT)):
        waist = float(body.waist[row])
        yield case.found(
            "waist.twist",
            row,
            which="right" if waist > 0 else "left",
            measured=abs(waist),
            limit=limit,
            unit="°",
            mends=_turn_less(case, row, float(body.pelvis[row])),
        )
