"""Hips and knees: the hips do the turning, the knee stays over the toes."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.angles import clock_text
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.judge.registry import Case, Finding, Mend, rule
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock

__all__: list[str] = []


def _over(case: Case, slack: float) -> np.ndarray[tuple[int, int], np.dtype[np.float64]]:
    """(n, 2) degrees by which each hip is asked to turn beyond its range; outward positive, 0 within it."""
    turns, over = case.body.hip_turns, np.zeros_like(case.body.hip_turns)
    for side in Side:
        out, inward = case.trace.body.hip_range(side)
        turn = turns[:, side]
        over[:, side] = np.where(
            turn > out + slack + 1e-6, turn - out, np.where(turn < -inward - slack - 1e-6, turn + inward, 0.0)
        )
    return over


def _new(wrong: np.ndarray[tuple[int, ...], np.dtype[np.bool_]]) -> np.ndarray[tuple[int, int], np.dtype[np.bool_]]:
    """Where something begins to be so: told once, not in every count it lasts."""
    before = np.vstack([np.zeros((1, wrong.shape[1]), dtype=bool), wrong[:-1]])
    return np.asarray(wrong & ~before)


@rule("hip.range", "caution", "a hip turned too far")
def hip_range(case: Case) -> Iterator[Finding]:
    """A leg that carries is turned against the torso further than its hip allows."""
    trace, body = case.trace, case.body
    over = _over(case, case.limit("hip.range", "slack"))
    loaded = 100 * trace.shares >= case.limit("hip.range", "share")
    front = body.front[:, None] == np.arange(2)[None, :]
    wrong = (over != 0) & loaded & ~(front & (body.front_share >= 0.5)[:, None])
    pivoted_in = body.pivots & (over < 0)  # told by pivot.hip-range
    for row, side in case.feet(_new(wrong) & ~pivoted_in):
        yield _finding(case, "hip.range", row, side, float(over[row, side]))


@rule("hip.front", "caution", "the waist beyond the front hip")
def front_hip(case: Case) -> Iterator[Finding]:
    """The torso turns further than the hip of the loaded front leg allows."""
    over = _over(case, case.limit("hip.front", "slack"))
    front = case.body.front[:, None] == np.arange(2)[None, :]
    wrong = (over != 0) & front & (case.body.front_share >= 0.5)[:, None]
    pivoted_in = case.body.pivots & (over < 0)
    for row, side in case.feet(_new(wrong) & ~pivoted_in):
        yield _finding(case, "hip.front", row, side, float(over[row, side]))


def _finding(case: Case, rule_id: str, row: int, side: Side, over: float) -> Finding:
    turn = float(case.body.hip_turns[row, side])
    out, inward = case.trace.body.hip_range(side)
    most, way = (out, "out") if over > 0 else (inward, "in")
    knee = "the knee is drawn inside the toes" if over > 0 else "the shank twists under the knee"
    heading = float(case.trace.headings[row, side]) - side.sign * (most if over > 0 else -most)
    mends: tuple[Mend, ...] = ()
    count = case.count(row)
    if not any(isinstance(action, act.Torso) for action in count.actions):
        torso = Clock.at(heading)
        added = act.Count((*count.actions, act.Torso(torso)), count.beats, count.note)
        mends = case.exchange(row, f"turn the waist only to {clock_text(heading)}", added)
    which = "front hip" if rule_id == "hip.front" else "hip"
    return case.found(
        rule_id, row,
        f"the {side.word} {which} is asked to turn {abs(turn):.0f}° {way}, {abs(over):.0f}° beyond its range: {knee}",
        measured=abs(turn), limit=most, unit="°", side=side,
        mend=f"turn the waist no further than {case.toward(heading, row)}, or turn the foot with it", mends=mends,
    )  # fmt: skip


@rule("knee.past-toe", "caution", "a knee past its toes")
def past_toe(case: Case) -> Iterator[Finding]:
    """The knee of a leg that carries much runs past its toes."""
    past, limit = 100 * case.body.past_toe, case.limit("knee.past-toe", "past")
    with np.errstate(invalid="ignore"):
        wrong = (past > limit + 1e-6) & _share_over(case, "knee.past-toe")
    for row, side in case.feet(_new(wrong)):
        yield case.found(
            "knee.past-toe", row, f"the {side.word} knee stands {case.cm(float(past[row, side]))} past the toes",
            measured=float(past[row, side]), limit=limit, unit="cm", side=side,
            mend="sit back into the hip, or bend less", mends=_rise(case, row),
        )  # fmt: skip


@rule("knee.shin", "note", "a leaning shin")
def shin(case: Case) -> Iterator[Finding]:
    """The shin of a leg that carries much leans far from upright."""
    lean, limit = case.body.shin_lean, case.limit("knee.shin", "lean")
    with np.errstate(invalid="ignore"):
        wrong = (lean > limit + 1e-6) & _share_over(case, "knee.shin")
    for row, side in case.feet(_new(wrong)):
        yield case.found(
            "knee.shin", row, f"the {side.word} shin leans {lean[row, side]:.0f}° forward",
            measured=float(lean[row, side]), limit=limit, unit="°", side=side,
            mend="sit back into the hip, or bend less", mends=_rise(case, row),
        )  # fmt: skip


def _share_over(case: Case, rule_id: str) -> np.ndarray[tuple[int, int], np.dtype[np.bool_]]:
    """(n, 2) whether a foot stands flat and carries enough for a rule to look at its knee."""
    enough = 100 * case.trace.shares >= case.limit(rule_id, "share") - 1e-6
    return np.asarray(enough & (case.trace.contacts == Contact.FLAT))


def _rise(case: Case, row: int) -> tuple[Mend, ...]:
    sink = float(case.trace.sinks[row])
    if sink <= 20:
        return ()
    less = round((sink - 10) / 5) * 5
    count = case.count(row)
    old = count.one(act.Sink)
    actions = tuple(a for a in count.actions if a is not old)
    return case.exchange(
        row, f"rise to {less}°", act.Count((*actions, act.Sink(float(less))), count.beats, count.note)
    )  # fmt: skip


@rule("knee.deep", "caution", "knees bent too deep")
def deep(case: Case) -> Iterator[Finding]:
    """The knees bend further than this body does."""
    trace = case.trace
    most = trace.body.deepest
    sink = trace.sinks
    wrong = sink > most + 1e-6
    for row in case.rows(wrong & ~np.append(False, wrong[:-1])):
        yield case.found(
            "knee.deep", row, f"the knees are to bend {sink[row]:.0f}°, and this body bends {most:.0f}°",
            measured=float(sink[row]), limit=most, unit="°", mend=f"sink to at most {most:.0f}°",
        )  # fmt: skip
