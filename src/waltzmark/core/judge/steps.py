"""Steps: set down empty and within reach, on the part the school lands on, in the order it turns and steps."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from waltzmark.core.base.angles import heading_differences
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.reach import least_bends
from waltzmark.core.judge.registry import Case, Finding, Mend, rule
from waltzmark.core.judge.stance import axes_apart, sized
from waltzmark.core.score import actions as act
from waltzmark.core.walk.motion import feet_between
from waltzmark.core.walk.pelvis import CARRIES

__all__: list[str] = []


@rule("step.reach", "caution", "a step beyond reach")
def reach(case: Case) -> Iterator[Finding]:
    """A step goes further than the foot can be laid down empty at the present bend of the standing knee."""
    trace, body = case.trace, case.body
    slack = case.limit("step.reach", "slack")
    for side in Side:
        rows = np.flatnonzero(body.steps[:, side])
        rows = rows[rows > 0]
        if not len(rows):
            continue
        support = side.other
        need = least_bends(
            trace.body, support, body.ankles[rows, side], trace.heels[rows, support], trace.headings[rows, support]
        )
        for row, bend in zip(rows.tolist(), need.tolist(), strict=True):
            has = float(trace.sinks[row])
            if bend <= has + slack + 1e-6 or trace.contacts[row, side] == Contact.AIR:
                continue
            far = 100 * float(np.hypot(*(trace.heels[row, side] - trace.heels[row, support])))
            asks = f"asks for {bend:.0f}° of knee bend" if math.isfinite(bend) else "is beyond any bend"
            yield case.found(
                "step.reach", row,
                f"the {side.word} foot lands {case.cm(far)} away, which {asks}; the knee bends {has:.0f}°",
                measured=bend if math.isfinite(bend) else None, limit=has, unit="°", side=side,
                mend="sink more before the step, or shorten it",
                mends=_nearer(case, row, side, bend - slack, has + slack),
            )  # fmt: skip


def _nearer(case: Case, row: int, side: Side, bend: float, has: float) -> tuple[Mend, ...]:
    count = case.count(row)
    mends: tuple[Mend, ...] = ()
    deep = math.ceil(bend) if math.isfinite(bend) else 999
    if deep <= case.form.body.deepest:
        sink = act.Sink(float(deep))
        old = count.one(act.Sink)
        changed = count.exchanged(old, sink) if old else replace(count, actions=(sink, *count.actions))
        mends += case.exchange(row, f"sink to {deep}°", changed)
    length, width = (float(v) for v in case.trace.sizes[row])
    best = _longest(case, row, side, has)
    if best is not None and best < length:
        mends += sized(case, row, f"shorten the step to {case.cm(100 * best)}", 100 * best, 100 * width)
    return mends


def _longest(case: Case, row: int, side: Side, bend: float) -> float | None:
    """The longest length in metres, in whole cm, that lands empty in the direction and width of a step."""
    trace, body = case.trace, case.body
    length = float(trace.sizes[row, 0])
    angle = math.radians(float(trace.facing[row]))
    back = np.dot(trace.heels[row, side] - trace.heels[row, side.other], (math.sin(angle), math.cos(angle))) < 0
    lengths = np.arange(math.floor(100 * length), 4, -1) / 100.0
    if not len(lengths):
        return None
    away = (lengths - length) * (-1.0 if back else 1.0)
    ankles = body.ankles[row, side] + away[:, None] * (math.sin(angle), math.cos(angle))
    count = len(lengths)
    need = least_bends(
        trace.body, side.other, ankles, np.tile(trace.heels[row, side.other], (count, 1)),
        np.full(count, trace.headings[row, side.other]),
    )  # fmt: skip
    fine = np.flatnonzero(need <= bend + 1e-6)
    return float(lengths[fine[0]]) if len(fine) else None


@rule("step.landing", "note", "the part a step lands on")
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
        way = "ahead" if ahead else "back"
        changed = case.count(row).exchanged(step, replace(step, land=Contact.of(want)))
        yield case.found(
            "step.landing", row, f"the {side.word} foot lands {way} on its {has}, in this school on the {want}",
            side=side, mend=f"land on the {want}", mends=case.exchange(row, f"land on the {want}", changed),
        )  # fmt: skip


@rule("step.order", "note", "turn and step in another order")
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
            words, measured = f"when the foot leaves, the waist has still {to_go:.0f}° to turn", to_go
            mend = "turn the waist part of the way first, then step, then turn a little more"
        elif way == "step first" and gone > limit + 1e-6:
            words, measured = f"the waist has turned {gone:.0f}° before the weight is poured", gone
            mend = "step, pour, and turn last"
        elif way == "together" and float(after[row]) > limit + 1e-6:
            words, measured = f"the foot lands and the waist has still {after[row]:.0f}° to turn", float(after[row])
            mend = "let waist and foot turn in the same count"
        else:
            continue
        yield case.found("step.order", row, words, measured=measured, limit=limit, unit="°", side=side, mend=mend)


@rule("step.cross-again", "caution", "crossing twice", whole=True)
def cross_again(case: Case) -> Iterator[Finding]:
    """Two crossing steps in a row."""
    trace, stepped = case.trace, case.body.steps.any(axis=1)
    rows = np.flatnonzero(stepped)
    crossed = trace.crossing[rows] & (trace.sizes[rows, 1] < 0)
    for row in rows[1:][crossed[1:] & crossed[:-1]].tolist():
        yield case.found(
            "step.cross-again", row, "this is the second crossing step in a row", measured=2.0, limit=1.0,
            unit="crossing steps", mend="open the stance with a step in between; a count may have been missed",
        )  # fmt: skip


@rule("step.swing", "caution", "a foot through the other")
def swing(case: Case) -> Iterator[Finding]:
    """The swinging foot passes through the standing one."""
    trace = case.trace
    limit = case.limit("step.swing", "share") / 100 * trace.body.foot_breadth
    times = np.array([0.0, 0.15, 0.29, 0.43, 0.57, 0.71, 0.85, 1.0])
    for side in Side:
        rows, placed = feet_between(trace, side, times)
        steps = case.body.steps[rows, side] & (rows > 0)
        rows, placed = rows[steps], placed[steps]
        if not len(rows):
            continue
        shape = placed.shape[:2]
        other = np.broadcast_to(trace.heels[rows, side.other][:, None, :], (*shape, 2))
        heading = np.broadcast_to(trace.headings[rows, side.other][:, None], shape)
        way = axes_apart(case, placed[..., :2], placed[..., 2], other, heading)
        apart, start, end = way[:, 1:-1].min(axis=1), way[:, 0], way[:, -1]
        for row, near, first, last in zip(rows.tolist(), apart.tolist(), start.tolist(), end.tolist(), strict=True):
            if near < limit and near < min(first, last) - 0.01:
                yield case.found(
                    "step.swing", row, f"on its way the {side.word} foot comes within {case.cm(100 * near)} of the "
                    "middle of the standing one", measured=100 * near, limit=100 * limit, unit="cm", side=side,
                    mend="lead it around: via close, via front or via behind",
                )  # fmt: skip


@rule("step.flow", "note", "beginning on a loaded foot", whole=True)
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
            "step.flow", row, f"{before} ends with {share:.0f} % on the {side.word} foot, and this posture begins by "
            "moving it", measured=share, limit=most, unit="%", side=side,
            mend="pour onto the other foot at the end of the posture before, or first of all here",
            mends=case.put_before(row, f"begin with all on the {side.other.word}", shift),
        )  # fmt: skip
