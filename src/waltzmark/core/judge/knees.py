"""Rules about knees and ankles: what hips and waist do not give is taken by the knee."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import message
from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.joints import ALL, SLIGHT
from waltzmark.core.judge.registry import Case, begins, rule
from waltzmark.core.score import actions as act
from waltzmark.core.walk.mechanics import UNSURE
from waltzmark.core.walk.stand import BINDS

__all__ = ["deep", "depths"]


@rule("knee.past-toe", "caution")
def past_toe(case: Case) -> Iterator[Finding]:
    """The knee of a front leg that carries half or more runs past its toes."""
    body, limit = case.body, case.limit("knee.past-toe", "past")
    past = 100 * body.past_toe(body.shin_lean)
    with np.errstate(invalid="ignore"):
        sure = 100 * body.past_toe(body.shin_lean_within(UNSURE)) > limit + SLIGHT
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
        wrong = (case.body.shin_lean_within(UNSURE) > limit + SLIGHT) & _leads(case, "knee.shin")
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
    enough = 100 * case.trace.shares >= case.limit(rule_id, "share") - SLIGHT
    front = case.body.front[:, None] == np.arange(2)[None, :]
    return np.asarray(
        enough & front & case.body.carries.all(axis=1, keepdims=True) & (case.trace.contacts == Contact.FLAT)
    )


@rule("knee.ankle", "caution", seat=True)
def ankle(case: Case) -> Iterator[Finding]:
    """The shin of a leg that is sat back on leans further than its ankle lets it with the heel down."""
    trace, body = case.trace, case.body
    near, share = case.limits("knee.ankle", "near", "share")
    most = np.array([trace.body.ankle_range(side) for side in SIDES])
    behind = (body.front[:, None] == 1 - np.arange(2)[None, :]) & (100 * trace.shares >= share - SLIGHT)
    sat = behind & (trace.contacts == Contact.FLAT)
    with np.errstate(invalid="ignore"):
        close = sat & (body.shin_lean > most - near + SLIGHT)
        far = sat & (body.shin_lean >= most + near - SLIGHT)
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
    straight = (trace.shares >= 0.5 - SLIGHT) & (trace.sinks < least - SLIGHT)[:, None]
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
    set_ = np.where(trace.shares >= 0.5 - SLIGHT, trace.sinks[:, None], 0.0)
    counts = trace.shares >= share - SLIGHT
    judged = np.where(counts, np.fmax(set_, bends - UNSURE), np.nan)
    return judged, np.where(np.isnan(bends), set_, np.where(set_ > judged - SLIGHT, np.maximum(bends, set_), bends))


@rule("knee.one-leg", "caution")
def one_leg(case: Case) -> Iterator[Finding]:
    """A leg that carries nearly all bends further than this body does on one leg."""
    trace = case.trace
    most = np.array([trace.body.one_leg(side) for side in SIDES])
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
    alone = trace.shares >= share / 100.0 - SLIGHT
    both = alone & np.vstack([alone[:1], alone[:-1]])
    set_ = np.diff(trace.sinks, prepend=trace.sinks[:1])[:, None]
    bends = case.body.seat.bends
    walked = np.diff(bends, axis=0, prepend=bends[:1])  # NaN where a leg does not reach
    with np.errstate(invalid="ignore"):
        far = np.abs(walked) > limit + UNSURE
    far |= np.abs(set_) > limit + SLIGHT
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
    for row in case.rows(begins(deepest > most + SLIGHT)):
        yield case.found(
            "knee.deep",
            row,
            measured=float(told[row]),
            limit=most,
            unit="°",
            mends=_sink(case, row, float(np.floor(most))),
        )
