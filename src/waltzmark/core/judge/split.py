"""How the weight is shared: the forward split, the light front foot, and 50/50."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import message
from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.registry import Case, rule
from waltzmark.core.score import actions as act

__all__: list[str] = []


def _shifted(case: Case, row: int, side: Side, percent: float) -> tuple[Mend, ...]:
    """The mend that lets a count end with a percentage on a foot."""
    count = case.count(row)
    old = count.one(act.Shift)
    new = act.Shift(side, percent)
    does = message("mend.shift", share=percent, foot=side)
    if old is None:
        return case.put_after(row, does, act.Count((new,)))
    return case.exchange(row, does, count.exchanged(old, new))


@rule("split.forward", "note", whole=True)
def forward(case: Case) -> Iterator[Finding]:
    """A forward stance is loaded otherwise than in this school."""
    trace, body = case.trace, case.body
    front, within = case.limits("split.forward", "front", "within")
    stepped = np.where(body.steps, np.arange(len(trace))[:, None], -1)
    last = np.maximum.accumulate(stepped, axis=0)
    ahead = (body.front_share >= 0.5) & (100 * trace.sizes[:, 0] > 20)
    ahead &= np.where(body.front == 1, last[:, 1] > last[:, 0], last[:, 0] > last[:, 1])  # it stepped ahead
    # Judged once a step, where the stance has settled: what is passed through is none.
    for row in case.rows(case.firsts(ahead & body.settled)):
        share, side = 100 * float(body.front_share[row]), Side(int(body.front[row]))
        through = share > 99 and row + 1 < len(trace) and body.steps[row + 1, side.other]  # on the way to a step
        if abs(share - front) <= within + 1e-6 or trace.crossing[row] or (through and share > front):
            continue
        yield case.found(
            "split.forward",
            row,
            measured=share,
            limit=front,
            unit="%",
            side=side,
            within=within,
            mends=_shifted(case, row, side, front),
        )


def _light(case: Case) -> Iterator[tuple[int, Side, float]]:
    """Rows in which a front foot rests lightly on its heel or its ball, and its share in percent."""
    trace, body = case.trace, case.body
    part = np.isin(trace.contacts, (Contact.HEEL, Contact.BALL))
    for row in case.rows((body.front >= 0) & (body.front_share < 0.5) & body.settled):
        side = Side(int(body.front[row]))
        if part[row, side] and trace.shares[row, side] > 0.004:
            yield row, side, 100 * float(trace.shares[row, side])


@rule("split.light", "note")
def light(case: Case) -> Iterator[Finding]:
    """A light front foot carries more than in this school."""
    most = case.limit("split.light", "share")
    for row, side, share in _light(case):
        if share > most + 1e-6:
            yield case.found(
                "split.light",
                row,
                measured=share,
                limit=most,
                unit="%",
                side=side,
                mends=_shifted(case, row, side.other, 100.0 - most),
            )


@rule("split.light-contact", "note")
def light_contact(case: Case) -> Iterator[Finding]:
    """A light front foot rests on its heel with a square waist, or on its ball with an open one."""
    if case.choice("split.light-contact", "contact") != "waist":
        return
    trace, square = case.trace, case.limit("split.light-contact", "square")
    for row, side, _ in _light(case):
        away = abs(float(case.body.hip_turns[row, side] - case.body.toe_angles[row, side]))
        want = Contact.HEEL if away > square else Contact.BALL
        if trace.contacts[row, side] != want:
            flat = act.Count((act.Land(side, want),))
            yield case.found(
                "split.light-contact",
                row,
                which="open" if want is Contact.HEEL else "square",
                side=side,
                measured=away,
                limit=square,
                unit="°",
                part=Contact(int(trace.contacts[row, side])),
                wanted=want,
                mends=case.put_after(row, message("mend.rest-on", part=want), flat),
            )


@rule("split.even", "note", whole=True)
def even(case: Case) -> Iterator[Finding]:
    """The weight stays evenly shared where the school does not have it."""
    policy, within = case.choice("split.even", "even"), case.limit("split.even", "within")
    if policy == "on purpose":
        return
    trace = case.trace
    half = np.abs(100 * trace.shares[:, 0] - 50) <= within
    last = np.append(trace.passage_of[1:] != trace.passage_of[:-1], True)
    inner = (trace.passage_of > 1) & (trace.passage_of < len(trace.passages) - 1)
    rests = half & inner & (case.body.settled if policy == "opening and closing" else last)
    came = np.append(False, ~half[:-1])  # told once, where it becomes even
    which = "ends" if policy == "passed through" else ""
    for row in case.rows(rests & (came | (last & ~np.append(False, rests[:-1])))):
        yield case.found("split.even", row, which=which, measured=50.0, limit=50.0 + within, unit="%")
