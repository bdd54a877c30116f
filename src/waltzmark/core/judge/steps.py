"""Steps: set down empty and within reach, on the part the school lands on, in the order it turns and steps."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.angles import heading_differences
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import sided
from waltzmark.core.body.gap import gaps
from waltzmark.core.body.reach import least_bends
from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.registry import Case, rule
from waltzmark.core.judge.sizing import size_mends
from waltzmark.core.score import actions as act
from waltzmark.core.walk.motion import feet_between
from waltzmark.core.walk.pelvis import CARRIES
from waltzmark.core.walk.swing import SAMPLES

__all__: list[str] = []


@rule("step.reach", "caution")
def reach(case: Case) -> Iterator[Finding]:
    """A step goes further than the foot can be laid down empty.

    At the bend of the standing knee: a note where that knee could bend so far, a caution where it could not.
    """
    trace, body = case.trace, case.body
    slack = case.limit("step.reach", "slack")
    for side in SIDES:
        rows = np.flatnonzero(body.steps[:, side] & (trace.contacts[:, side] != Contact.AIR))
        rows = rows[rows > 0]
        if not len(rows):
            continue
        support = side.other
        need = least_bends(
            trace.body,
            support,
            trace.heels[rows, side],
            trace.headings[rows, side],
            trace.contacts[rows, side],
            trace.heels[rows, support],
            trace.headings[rows, support],
        )
        most = _deepest(case, support)
        for row, bend in zip(rows.tolist(), need.tolist(), strict=True):
            has = float(trace.sinks[row])
            if bend <= has + slack + 1e-6:
                continue
            far = 100 * float(np.hypot(*(trace.heels[row, side] - trace.heels[row, support])))
            yield case.found(
                "step.reach",
                row,
                which=_how_far(bend, most),
                measured=bend if math.isfinite(bend) else None,
                limit=has,
                unit="°",
                side=side,
                far=far,
                most=most,
                severity="note" if bend <= most + 1e-6 else None,
                mends=_nearer(case, row, side, bend, has),
            )


def _deepest(case: Case, side: Side) -> float:
    """The bend in degrees that the standing leg takes while it carries all."""
    body = case.trace.body
    return min(sided(body.knee_most, side), body.one_leg(side))


def _how_far(bend: float, most: float) -> str:
    """Whether a step can be reached: with no bend at all, with more than the body has, or with more than it has now."""
    if not math.isfinite(bend):
        return "never"
    return "most" if bend > most + 1e-6 else ""


def _nearer(case: Case, row: int, side: Side, bend: float, has: float) -> tuple[Mend, ...]:
    count = case.count(row)
    mends: tuple[Mend, ...] = ()
    deep = math.ceil(bend) if math.isfinite(bend) else 999
    if deep <= _deepest(case, side.other):
        sink = act.Sink(float(deep))
        old = count.one(act.Sink)
        changed = count.exchanged(old, sink) if old else replace(count, actions=(sink, *count.actions))
        mends += case.exchange(row, message("mend.sink-for-step", bend=deep), changed)
    return (*mends, *size_mends(case, row))


@rule("step.landing", "note")
def landing(case: Case) -> Iterator[Finding]:
    """A foot lands on another part than it does in this school."""
    trace, body = case.trace, case.body
    for row, side in case.feet(body.steps):
        step = case.count(row).one(act.Step, side)
        if step is None or not isinstance(step.place, act.Faced) or step.place.manner == "side":
            continue
        if body.front[row] < 0:
            continue
        ahead = body.front[row] == side
        want = case.choice("step.landing", "ahead" if ahead else "back")
        stance = case.form.school.stances.get(step.place.stance or "")
        if stance is not None and stance.land and ahead:
            want = stance.land
        has = Contact(int(trace.contacts[row, side])).word
        if want == "any" or has == want or has == "air":
            continue
        if ahead and has == "ball" and _stays_light(case, row, side):
            continue  # a light stance on the ball, not a step that landed on another part
        changed = case.count(row).exchanged(step, replace(step, land=Contact.of(want)))
        yield case.found(
            "step.landing",
            row,
            which="ahead" if ahead else "back",
            side=side,
            part=has,
            wanted=want,
            mends=case.exchange(row, message("mend.land-on", part=want), changed),
        )


def _stays_light(case: Case, row: int, side: Side) -> bool:
    """Whether a foot that lands in a row carries less than half until the stance has settled."""
    settled = int(np.argmax(case.body.settled[row:])) + row
    return bool((case.trace.shares[row : settled + 1, side] < 0.45).all())


@rule("step.order", "note")
def order(case: Case) -> Iterator[Finding]:
    """The waist turns before, with or after a step in another order than this school's."""
    trace, body = case.trace, case.body
    way, limit = case.choice("step.order", "order"), case.limit("step.order", "angle")
    before = np.concatenate([trace.torso[:1], trace.torso[:-1]])
    faced = np.concatenate([trace.facing[:1], trace.facing[:-1]])
    left = np.abs(heading_differences(before, trace.facing))  # how far the waist has to go when the foot leaves
    after = np.abs(heading_differences(trace.torso, trace.facing))
    turn = np.abs(heading_differences(faced, trace.facing))  # of the whole change of facing
    for row, side in case.feet(body.steps & (turn > limit)[:, None]):
        step = case.count(row).one(act.Step, side)
        if step is None or not isinstance(step.place, act.Faced):
            continue
        to_go, gone = float(left[row]), float(turn[row] - after[row])
        if way == "turn first" and to_go > limit + 1e-6:
            which, measured = "turn-first", to_go
        elif way == "step first" and gone > limit + 1e-6:
            which, measured = "step-first", gone
        elif way == "together" and float(after[row]) > limit + 1e-6:
            which, measured = "together", float(after[row])
        else:
            continue
        yield case.found("step.order", row, which=which, measured=measured, limit=limit, unit="°", side=side)


@rule("step.cross-again", "caution", whole=True)
def cross_again(case: Case) -> Iterator[Finding]:
    """Two crossing steps in a row."""
    trace, stepped = case.trace, case.body.steps.any(axis=1)
    rows = np.flatnonzero(stepped)
    crossed = trace.sizes[rows, 1] < 0
    for row in rows[1:][crossed[1:] & crossed[:-1]].tolist():
        yield case.found("step.cross-again", row, measured=2.0, limit=1.0, unit="crossing steps")


@rule("step.swing", "caution")
def swing(case: Case) -> Iterator[Finding]:
    """The swinging foot runs into the standing one."""
    trace = case.trace
    limit = case.limit("step.swing", "into") / 100.0
    sole = trace.body.sole
    for side in SIDES:
        rows, placed = feet_between(trace, side, SAMPLES)
        steps = case.body.steps[rows, side] & (rows > 0) & (trace.contacts[rows, side.other] != Contact.AIR)
        rows, placed = rows[steps], placed[steps]
        if not len(rows):
            continue
        standing = np.concatenate([trace.heels[rows, side.other], trace.headings[rows, side.other, None]], axis=1)
        gap = gaps(sole, side, np.broadcast_to(standing[:, None, :], placed.shape), placed)
        # A foot that begins or ends on the other one is told by stance.overlap.
        ends = np.minimum(gap[:, 0], gap[:, -1])
        near = gap.min(axis=1)
        for row, least, end in zip(rows.tolist(), near.tolist(), ends.tolist(), strict=True):
            if least >= min(-limit, end - limit):
                continue
            step = case.count(row).one(act.Step, side)
            mends: tuple[Mend, ...] = ()
            if step is not None and step.via is not None:
                mends = case.exchange(
                    row, message("mend.own-way"), case.count(row).exchanged(step, replace(step, via=None))
                )
            yield case.found(
                "step.swing", row, measured=-100 * least, limit=100 * limit, unit="cm", side=side, mends=mends
            )


@rule("step.flow", "note", whole=True)
def flow(case: Case) -> Iterator[Finding]:
    """A posture begins by moving a foot that the one before left loaded."""
    trace, body = case.trace, case.body
    most = max(case.limit("step.flow", "share"), 100 * CARRIES)
    first = np.array(sorted(set(trace.starts[2:-1].tolist())), dtype=np.int64)
    first = first[first < len(trace)]
    first = first[trace.passage_of[first - 1] > 0]  # the opening is no posture
    left = 100 * trace.shares[first - 1]
    lifted = (trace.contacts[first] == Contact.AIR) & (trace.contacts[first - 1] != Contact.AIR)
    for at, index in np.argwhere((body.steps[first] | lifted) & (left > most)):
        row, side, share = int(first[at]), Side(int(index)), float(left[at, index])
        shift = act.Count((act.Shift(side.other, 100.0),))
        before = case.form.posture(trace.posture(row - 1) or "").title
        yield case.found(
            "step.flow",
            row,
            measured=share,
            limit=most,
            unit="%",
            side=side,
            before=before,
            mends=case.put_before(row, message("mend.begin-on", foot=side.other), shift),
        )
