"""Balance: how far the centre stands inside the support, and how firm the stance is across its line."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import message
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.registry import Case, begins, rule
from waltzmark.core.judge.sizing import size_mends
from waltzmark.core.score import actions as act
from waltzmark.core.walk.mechanics import ROUGH

__all__: list[str] = []

#: A rise and a fall with more steps than these between them are no bobbing.
_STEPS = 3
#: A chest that turns further than this turns the body along, degrees.
_TURN_OF_BODY = 20.0


@rule("balance.left", "caution")
def left_support(case: Case) -> Iterator[Finding]:
    """A foot leaves the floor while the centre is not yet over the other one."""
    trace, body = case.trace, case.body
    limit = case.limit("balance.left", "margin")
    lifted = (trace.contacts == Contact.AIR) & (np.vstack([trace.contacts[:1], trace.contacts[:-1]]) != Contact.AIR)
    leaves = (body.steps & (trace.move_contacts == Contact.AIR)) | lifted  # a foot that slides keeps the floor
    centres = np.vstack([trace.centres[:1], trace.centres[:-1]])
    for side in SIDES:
        rows = np.array(list(case.rows(leaves[:, side] & ~leaves[:, side.other])), dtype=np.int64)
        if len(rows):
            rows = rows[100 * (body.rough_margin_on(side.other, centres, rows) - ROUGH) < limit]
        if not len(rows):
            continue
        margins = 100 * body.margin_on(side.other, centres, rows)
        for row, margin in zip(rows.tolist(), margins.tolist(), strict=True):
            if margin >= limit - 1e-6:
                continue
            yield case.found("balance.left", row, measured=margin, limit=limit, unit="cm", side=side, outside=-margin)


@rule("balance.margin", "note")
def margin(case: Case) -> Iterator[Finding]:
    """The centre comes close to the edge of the support."""
    trace, body = case.trace, case.body
    limit = case.limit("balance.margin", "margin")
    close = np.flatnonzero(100 * (body.rough_margin - ROUGH) < limit)
    if not len(close):
        return
    margins, toward = body.margins(close)
    near = np.zeros(len(trace), dtype=bool)
    near[close] = 100 * margins < limit - 1e-6
    for row in case.rows(near & ~np.append(False, near[:-1])):
        at = int(np.searchsorted(close, row))
        yield case.found(
            "balance.margin",
            row,
            measured=100 * float(margins[at]),
            limit=limit,
            unit="cm",
            toward=case.toward(float(toward[at]), row),
        )


@rule("balance.weak-line", "note")
def weak_line(case: Case) -> Iterator[Finding]:
    """Across the line that joins the feet there is little support."""
    trace, body = case.trace, case.body
    limit, length = case.limits("balance.weak-line", "half", "length")
    both = body.carries.all(axis=1) & (100 * trace.sizes[:, 0] > length) & ~trace.crossing
    weak = both & (100 * body.weak_half < limit - 1e-6)
    good = 100 * case.form.school.stances["bow"].width_metres(case.form.body)
    for row in case.rows(weak & ~np.append(False, weak[:-1])):
        yield case.found(
            "balance.weak-line",
            row,
            measured=100 * float(body.weak_half[row]),
            limit=limit,
            unit="cm",
            mends=size_mends(case, row, width=good),
        )


@rule("balance.part", "caution", whole=True)
def part(case: Case) -> Iterator[Finding]:
    """Half or more of the weight stays on a heel or a ball only."""
    trace = case.trace
    share, beats = case.limits("balance.part", "share", "beats")
    turns_on_balls = case.form.school.applies("pivot.part") and case.choice("pivot.part", "part") != "heel"
    raised = np.isin(trace.contacts, (Contact.HEEL, Contact.BALL)) & (100 * trace.shares >= share - 1e-6)
    for side in SIDES:
        starts = np.flatnonzero(begins(raised[:, side]))
        ends = np.flatnonzero(begins(~raised[:, side] & (np.arange(len(trace)) > 0)))
        for first in starts.tolist():
            at = int(np.searchsorted(ends, first, side="right"))
            after = int(ends[at]) if at < len(ends) else len(trace)
            held = float(trace.beats[first:after].sum())
            if first == 0 or held <= beats + 1e-6:
                continue
            count, flat = case.count(first), act.Land(side, Contact.FLAT)
            free = not any(isinstance(a, act.Land) and a.side is side for a in count.actions)
            on = Contact(int(trace.contacts[first, side]))
            turned = float(np.abs(np.diff(np.unwrap(trace.torso[first - 1 : after], period=360.0))).sum())
            # A school that turns on the balls stands on one while the body turns.
            passing = on is Contact.BALL and turns_on_balls and turned > _TURN_OF_BODY
            yield case.found(
                "balance.part",
                first,
                measured=held,
                limit=beats,
                unit="beats",
                side=side,
                severity="note" if passing else None,
                part=on,
                share=100 * float(trace.shares[first, side]),
                mends=case.exchange(first, message("mend.flat", foot=side), count.with_more(flat)) if free else (),
            )


@rule("balance.bob", "note")
def bob(case: Case) -> Iterator[Finding]:
    """The hips rise between two steps and come down again."""
    trace, limit = case.trace, case.limit("balance.bob", "height")
    high = 100 * case.body.seat.height
    steps = np.cumsum(case.body.steps.any(axis=1))
    for passage, first, after in zip(trace.passages, trace.starts, trace.starts[1:], strict=False):
        if passage.posture is None:
            continue
        rows = np.arange(max(int(first) - 1, 0), int(after))  # from the pose it begins in
        rows = rows[np.isfinite(high[rows])]
        if len(rows) < 3 or np.ptp(high[rows]) <= limit:
            continue
        way = np.sign(np.diff(high[rows]))
        moving = np.flatnonzero(way)
        turns = moving[np.append(way[moving[1:]] != way[moving[:-1]], True)] + 1
        ends = np.concatenate([rows[:1], rows[turns]])
        swing = np.diff(high[ends])
        up = (swing[:-1] > limit) & (-swing[1:] > limit) & (steps[ends[2:]] - steps[ends[:-2]] <= _STEPS)
        for at in np.flatnonzero(up).tolist():
            rise, fall = float(swing[at]), -float(swing[at + 1])
            yield case.found(
                "balance.bob",
                int(ends[at + 1]),
                measured=min(rise, fall),
                limit=limit,
                unit="cm",
                rise=rise,
                fall=fall,
            )


@rule("balance.one-leg", "caution", whole=True)
def one_leg(case: Case) -> Iterator[Finding]:
    """One stands on one leg for some time."""
    trace = case.trace
    beats = case.limit("balance.one-leg", "supported" if trace.body.support else "beats")
    air = (trace.contacts == Contact.AIR).any(axis=1)
    edges = np.flatnonzero(np.diff(np.concatenate([[0], air.astype(np.int8), [0]])))
    for first, after in edges.reshape(-1, 2).tolist():
        held = float(trace.beats[first:after].sum())
        if first and held > beats + 1e-6:
            foot = Side(int(np.argmax(trace.contacts[first] != Contact.AIR)))
            yield case.found("balance.one-leg", first, measured=held, limit=beats, unit="beats", side=foot)
