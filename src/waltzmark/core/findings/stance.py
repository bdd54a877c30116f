"""The stance: the heels on two lines, never crossed by accident."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.arrays import Bools
from waltzmark.core.findings.registry import Case, Finding, rule
from waltzmark.core.step import STEP
from waltzmark.core.trace import Trace

__all__: list[str] = []

#: A foot counts as carrying when it has more than this share of the weight.
CARRIES = 0.02


def stances_taken(trace: Trace) -> Bools:
    """(n,) whether a stance is taken in a row: both feet carry, for the first time since a step."""
    both = trace.shares.min(axis=1) > CARRIES
    steps = np.cumsum((trace.move_kinds == STEP).any(axis=1))
    taken = np.zeros(len(trace), dtype=bool)
    rows = np.flatnonzero(both)
    if len(rows):
        taken[rows[1:]] = np.diff(steps[rows]) > 0
        taken[rows[0]] = steps[rows[0]] > 0
    return taken


@rule("stance.narrow", "caution")
def narrow(case: Case) -> Iterator[Finding]:
    """The heel lines of a stance of some length lie too close together, or on one line."""
    trace = case.trace
    length, width = 100 * trace.sizes[:, 0], 100 * trace.sizes[:, 1]
    front_light = 100 * trace.shares.min(axis=1) <= case.limit("stance.narrow", "light")
    least = np.where(front_light, case.limit("stance.narrow", "width_light"), case.limit("stance.narrow", "width"))
    crossed_from = case.limit("stance.crossed", "width")
    wrong = (width < least - 1e-6) & (width >= crossed_from) & (length > case.limit("stance.narrow", "length"))
    for row in np.flatnonzero(stances_taken(trace) & wrong & ~trace.crossing):
        yield case.found(
            "stance.narrow", int(row),
            f"the heels stand {case.cm(float(width[row]))} apart across a stance {case.cm(float(length[row]))} long",
            measured=float(width[row]), limit=float(least[row]), unit="cm",
            mend="widen the step: turn the waist first, or give it a width, "
            f"such as {length[row]:.0f}x{_good_width(case):.0f}",
        )  # fmt: skip


def _good_width(case: Case) -> float:
    """The school's own bow width, cm."""
    return 100 * case.form.school.stances["bow"].width_metres(case.form.body)


@rule("stance.crossed", "caution")
def crossed(case: Case) -> Iterator[Finding]:
    """The feet have changed sides without the score saying cross."""
    trace = case.trace
    width, limit = 100 * trace.sizes[:, 1], case.limit("stance.crossed", "width")
    for row in np.flatnonzero(stances_taken(trace) & (width < limit) & ~trace.crossing):
        yield case.found(
            "stance.crossed", int(row), f"the heels have crossed by {case.cm(-float(width[row]))}",
            measured=float(width[row]), limit=limit, unit="cm",
            mend="write cross if it is meant, else curve the foot in and out and widen the step",
        )  # fmt: skip
