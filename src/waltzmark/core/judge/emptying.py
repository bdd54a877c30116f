"""Emptying a foot: it must stay within the hips' reach, or it is dragged."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.arrays import Bools
from waltzmark.core.base.leftright import Contact
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.registry import Case, begins, rule
from waltzmark.core.walk.stand import BINDS

__all__: list[str] = []

_SAME = 1e-6


def _left_behind(case: Case) -> Bools:
    """(n, 2) whether a foot stands light where it has carried before: not one that has just landed."""
    trace = case.trace
    rows = np.arange(len(trace))[:, None]
    stepped = np.maximum.accumulate(np.where(case.body.steps, rows, 0), axis=0)
    carried = np.maximum.accumulate(np.where(trace.shares >= BINDS - _SAME, rows, -1), axis=0)
    down = (trace.contacts != Contact.AIR) & ~case.body.steps
    return np.asarray(down & (trace.shares < BINDS - _SAME) & (carried >= stepped))


def _dragged(case: Case) -> Bools:
    """(n, 2) whether a foot is emptied, or lifted empty, so far away that it is dragged."""
    trace, body = case.trace, case.body
    share, far = case.limits("step.drag", "share", "far")
    emptied = _left_behind(case) & (100 * trace.shares <= share + _SAME)
    return np.asarray(begins(emptied) & (100 * body.beyond > far + _SAME))


@rule("step.drag", "caution", whole=True)
def drag(case: Case) -> Iterator[Finding]:
    """A foot is emptied so far from the hips that its leg does not reach it: it is dragged, or pulls the body back."""
    limit = case.limit("step.drag", "far")
    for row, side in case.feet(_dragged(case)):
        yield case.found(
            "step.drag", row, measured=100 * float(case.body.beyond[row, side]), limit=limit, unit="cm", side=side
        )


@rule("stance.unemptied", "note", whole=True)
def unemptied(case: Case) -> Iterator[Finding]:
    """A light foot is further away than its leg reaches, even with its heel or its toes up."""
    limit = case.limit("stance.unemptied", "far")
    beyond = 100 * case.body.beyond
    dragged = _dragged(case) if case.form.school.applies("step.drag") else np.zeros(beyond.shape, dtype=bool)
    for row, side in case.feet(begins(_left_behind(case) & (beyond > limit + _SAME)) & ~dragged):
        yield case.found("stance.unemptied", row, measured=float(beyond[row, side]), limit=limit, unit="cm", side=side)
