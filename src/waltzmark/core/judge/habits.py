"""Quick checks of consistency that reveal a missed transition: hands against legs, eyes against the centre."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.angles import heading_differences
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.registry import Case, rule
from waltzmark.core.score import actions as act

__all__: list[str] = []


@rule("hand.front-leg", "note")
def front_leg(case: Case) -> Iterator[Finding]:
    """A hand pushes on the side the school does not push on with this leg in front."""
    way = case.choice("hand.front-leg", "push")
    if way == "either":
        return
    body = case.body
    for row in case.rows((body.front >= 0) & (body.front_share >= 0.5)):
        count, front = case.count(row), Side(int(body.front[row]))
        pushes = [a for a in count.actions if isinstance(a, act.Hand) and a.shape == "push"]
        if len(pushes) != 1 or (pushes[0].side is front) == (way == "same"):
            continue
        hand = pushes[0]
        other = count.exchanged(hand, replace(hand, side=hand.side.other))
        yield case.found(
            "hand.front-leg",
            row,
            side=front,
            hand=hand.side,
            free=hand.side.other,
            mends=case.exchange(row, message("mend.push-with", hand=hand.side.other), other)
            if not any(isinstance(a, act.Hand) and a.side is hand.side.other for a in count.actions)
            else (),
        )


@rule("gaze.beyond", "note")
def beyond(case: Case) -> Iterator[Finding]:
    """The head is turned away from the centre, where the eyes should do it."""
    trace, limit = case.trace, case.limit("gaze.beyond", "angle")
    away = np.abs(heading_differences(trace.torso, trace.gaze))
    wrong = away > limit + 1e-6
    for row in case.rows(wrong & ~np.append(False, wrong[:-1])):
        count = case.count(row)
        old = count.one(act.Gaze)
        mends: tuple[Mend, ...] = ()
        if old is not None and len(count.actions) > 1:
            rest = replace(count, actions=tuple(a for a in count.actions if a is not old))
            mends = case.exchange(row, message("mend.gaze-follows"), rest)
        yield case.found("gaze.beyond", row, measured=float(away[row]), limit=limit, unit="°", mends=mends)
