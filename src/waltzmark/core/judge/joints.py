"""Hips, waist, knees and ankles: hips first, then the waist; what neither gives is taken by the knee."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import message
from waltzmark.core.body.body import sided
from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.registry import Case, begins, rule
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Toward
from waltzmark.core.walk.mechanics import UNSURE
from waltzmark.core.walk.stand import BINDS

__all__ = ["depths"]

#: A leg carries all from this share on.
ALL = 0.98
_SAME = 1e-6


def _waist_gives(case: Case) -> tuple[Floats, Floats]:
    """(n,) degrees that the waist gives the way it is turned, and (n,) what halves it.

    How many of two things make only half of it count: a knee bent deep, and one leg that carries nearly all.
    """
    trace, body = case.trace, case.body
    gives = np.where(body.waist > 0, *(sided(trace.body.waist, side) for side in (Side.RIGHT, Side.LEFT)))
    deep, share = case.limits("hip.range", "bend", "share")
    fuller = trace.shares >= 0.5 - _SAME
    with np.errstate(invalid="ignore"):
        # What the legs come to is known less well than the bend that is set.
        bent = (trace.sinks > deep + _SAME) | (fuller & (body.seat.bends > deep + UNSURE)).any(axis=1)
    loaded = (100 * trace.shares >= share - _SAME).any(axis=1)
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
    beyond = turned > counts + slack + _SAME
    near = ~beyond & (halved == 1) & (turned > gives / 2.0 + slack + _SAME)
    calm = ~(beyond | near)
    for row in case.rows(begins(beyond)):
        yield _twisted(case, row, float(counts[row]), False, calm)
    # A note that a caution follows at once would say the same twice.
    follows = np.append(beyond[1:] & (trace.passage_of[1:] == trace.passage_of[:-1]), False)
    for row in case.rows(begins(near | beyond) & near & ~follows):
        yield _twisted(case, row, float(gives[row]) / 2.0, True, calm)
    passing = np.abs(body.passing_waist)
    for row in case.rows((passing > gives + slack + _SAME) & ~beyond & ~near):
        yield _in_passing(case, row, float(passing[row]), float(gives[row]))
    apart = body.settled & (body.hip_gap > slack + _SAME)
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
        if abs(heading_difference(float(trace.torso[at - 1]), float(trace.torso[at]))) > _SAME:
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
        elif limit < whole - _SAME:
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
    out = [trace.body.hip_range(side) for side in Side]
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
    return None if abs(left - 0.5) < _SAME else Side(int(left < 0.5))


@rule("waist.twist", "note")
def waist_twist(case: Case) -> Iterator[Finding]:
    """A posture ends with the waist twisted further than the school leaves it."""
    trace, body = case.trace, case.body
    limit = trace.ground.school.waist_twist
    last = np.append(trace.passage_of[1:] != trace.passage_of[:-1], True)
    stands = (trace.contacts != Contact.AIR).all(axis=1) & body.carries.all(axis=1)
    for row in case.rows(last & stands & (np.abs(body.waist) > limit + _SAME)):
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


@rule("knee.past-toe", "caution")
def past_toe(case: Case) -> Iterator[Finding]:
    """The knee of a front leg that carries half or more runs past its toes."""
    body, limit = case.body, case.limit("knee.past-toe", "past")
    past = 100 * body.past_toe(body.shin_lean)
    with np.errstate(invalid="ignore"):
        sure = 100 * body.past_toe(body.shin_lean_within(UNSURE)) > limit + _SAME
        wrong = sure & _leads(case, "knee.past-toe")
    for row, side in case.feet(begins(wrong)):
        yield case.found(
            "knee.past-toe",
            row,
            measured=float(past[row, side]),
            limit=limit,
            unit="cm",
            side=side,
            mends=_rise(case, row, side),
        )


@rule("knee.shin", "note")
def shin(case: Case) -> Iterator[Finding]:
    """The shin of a front leg that carries much leans far from upright."""
    lean, limit = case.body.shin_lean, case.limit("knee.shin", "lean")
    with np.errstate(invalid="ignore"):
        wrong = (case.body.shin_lean_within(UNSURE) > limit + _SAME) & _leads(case, "knee.shin")
    for row, side in case.feet(begins(wrong)):
        yield case.found(
            "knee.shin",
            row,
            measured=float(lean[row, side]),
            limit=limit,
            unit="°",
            side=side,
            mends=_rise(case, row, side),
        )


def _leads(case: Case, rule_id: str) -> Bools:
    """(n, 2) whether a foot is in front and carries enough for a rule to look at its knee.

    It is in front of one that carries too, and stands flat.
    """
    enough = 100 * case.trace.shares >= case.limit(rule_id, "share") - _SAME
    front = case.body.front[:, None] == np.arange(2)[None, :]
    return np.asarray(
        enough & front & case.body.carries.all(axis=1, keepdims=True) & (case.trace.contacts == Contact.FLAT)
    )


@rule("knee.ankle", "caution", seat=True)
def ankle(case: Case) -> Iterator[Finding]:
    """The shin of a leg that is sat back on leans further than its ankle lets it with the heel down."""
    trace, body = case.trace, case.body
    near, share = case.limits("knee.ankle", "near", "share")
    most = np.array([trace.body.ankle_range(side) for side in Side])
    behind = (body.front[:, None] == 1 - np.arange(2)[None, :]) & (100 * trace.shares >= share - _SAME)
    sat = behind & (trace.contacts == Contact.FLAT)
    with np.errstate(invalid="ignore"):
        close = sat & (body.shin_lean > most - near + _SAME)
        far = sat & (body.shin_lean >= most + near - _SAME)
    for row, side in case.feet(begins(far) | (begins(close) & ~far)):
        lean, limit = float(body.shin_lean[row, side]), float(most[side])
        beyond = bool(far[row, side])
        yield case.found(
            "knee.ankle",
            row,
            which="" if beyond else "near",
            measured=lean,
            limit=limit,
            unit="°",
            side=side,
            severity=None if beyond else "note",
            mends=_rise(case, row, side),
        )


@rule("knee.locked", "caution")
def locked(case: Case) -> Iterator[Finding]:
    """A knee is set straight while its leg carries all, or while its loaded foot turns."""
    trace, body = case.trace, case.body
    least = case.limit("knee.locked", "bend")
    # The bend that is set is that of the leg that carries more.
    straight = (trace.shares >= 0.5 - _SAME) & (trace.sinks < least - _SAME)[:, None]
    turning = body.pivots & (np.abs(trace.move_turns) > 1.0)
    wrong = straight & ((trace.shares >= ALL) | turning)
    for row, side in case.feet(begins(wrong)):
        yield case.found(
            "knee.locked",
            row,
            which="turning" if turning[row, side] else "",
            measured=float(trace.sinks[row]),
            limit=least,
            unit="°",
            side=side,
            mends=_sink(case, row, max(least, 15.0)),
        )


def depths(case: Case, share: float = BINDS) -> tuple[Floats, Floats]:
    """How deep each leg is bent.

    Parameters
    ----------
    share
        Of the weight from which on a leg counts.

    Returns
    -------
    (n, 2)
        What is judged, degrees: the bend that the leg walks with, less what that may be off, or the one that is set for
        the fuller leg where that is more. NaN for a leg that does not count.
    (n, 2)
        What is told, degrees: the bend it walks with, or the one that is set where the leg does not reach.
    """
    trace, bends = case.trace, case.body.seat.bends
    set_ = np.where(trace.shares >= 0.5 - _SAME, trace.sinks[:, None], 0.0)
    counts = trace.shares >= share - _SAME
    judged = np.where(counts, np.fmax(set_, bends - UNSURE), np.nan)
    return judged, np.where(np.isnan(bends), set_, np.where(set_ > judged - _SAME, np.maximum(bends, set_), bends))


@rule("knee.one-leg", "caution")
def one_leg(case: Case) -> Iterator[Finding]:
    """A leg that carries nearly all bends further than this body does on one leg."""
    trace = case.trace
    most = np.array([trace.body.one_leg(side) for side in Side])
    judged, told = depths(case, case.limit("knee.one-leg", "share") / 100.0)
    with np.errstate(invalid="ignore"):
        wrong = judged > most + 0.5
    for row, side in case.feet(begins(wrong)):
        yield case.found(
            "knee.one-leg",
            row,
            measured=float(told[row, side]),
            limit=float(most[side]),
            unit="°",
            side=side,
            mends=_sink(case, row, float(np.floor(most[side]))),
        )


@rule("knee.rising", "caution")
def rising(case: Case) -> Iterator[Finding]:
    """The standing knee bends or straightens far while one leg carries nearly all."""
    trace = case.trace
    share, limit = case.limits("knee.rising", "share", "change")
    alone = trace.shares >= share / 100.0 - _SAME
    both = alone & np.vstack([alone[:1], alone[:-1]])
    set_ = np.diff(trace.sinks, prepend=trace.sinks[:1])[:, None]
    bends = case.body.seat.bends
    walked = np.diff(bends, axis=0, prepend=bends[:1])  # NaN where a leg does not reach
    with np.errstate(invalid="ignore"):
        far = np.abs(walked) > limit + UNSURE
    far |= np.abs(set_) > limit + _SAME
    for row, side in case.feet(both & far):
        change = float(set_[row, 0])
        if np.isfinite(walked[row, side]):
            change = max(change, float(walked[row, side]), key=abs)
        yield case.found(
            "knee.rising",
            row,
            which="sinking" if change > 0 else "",
            measured=abs(change),
            limit=limit,
            unit="°",
            side=side,
            mends=_sink(case, row, float(trace.sinks[row - 1] + np.sign(change) * limit)),
        )


def _sink(case: Case, row: int, bend: float) -> tuple[Mend, ...]:
    """The mend that sinks to a bend in the count of a row."""
    count, old = case.count(row), case.count(row).one(act.Sink)
    new = act.Sink(float(round(bend)))
    changed = count.exchanged(old, new) if old is not None else count.with_more(new)
    return case.exchange(row, message("mend.sink", bend=new.degrees), changed)


def _rise(case: Case, row: int, side: Side) -> tuple[Mend, ...]:
    """The mend that bends the knees less, where the bend that is set is what bends this one."""
    sink = float(case.trace.sinks[row])
    if sink <= 20 or not case.body.seat.bends[row, side] <= sink + 1.0:
        return ()
    less = act.Sink(float(round((sink - 10) / 5) * 5))
    count, old = case.count(row), case.count(row).one(act.Sink)
    changed = count.exchanged(old, less) if old is not None else count.with_more(less)
    return case.exchange(row, message("mend.rise", bend=less.degrees), changed)


@rule("knee.deep", "caution")
def deep(case: Case) -> Iterator[Finding]:
    """The knees bend further than this body does."""
    most = case.trace.body.deepest
    judged, told = depths(case)
    deepest, told = np.fmax.reduce(judged, axis=1), np.fmax.reduce(np.where(np.isnan(judged), np.nan, told), axis=1)
    for row in case.rows(begins(deepest > most + _SAME)):
        yield case.found(
            "knee.deep",
            row,
            measured=float(told[row]),
            limit=most,
            unit="°",
            mends=_sink(case, row, float(np.floor(most))),
        )
