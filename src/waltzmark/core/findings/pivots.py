"""Pivots: which way round, and how much weight the turning foot carries."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.findings.registry import Case, Finding, rule
from waltzmark.core.side import Side
from waltzmark.core.step import PIVOT

__all__: list[str] = []


@rule("pivot.half-turn", "stop")
def half_turn(case: Case) -> Iterator[Finding]:
    """A pivot of exactly half a turn that does not say which way round."""
    for row, problem in case.trace.problems:
        if problem.rule == "pivot.half-turn" and problem.side is not None:
            yield case.found(
                "pivot.half-turn", row, f"the {problem.side.word} foot turns exactly 180°, and either way round fits",
                measured=180.0, limit=180.0, unit="°", side=problem.side, mend="write cw or ccw after the facing",
            )  # fmt: skip


@rule("pivot.loaded", "caution")
def loaded_pivot(case: Case) -> Iterator[Finding]:
    """A foot turns while it carries more than the school allows.

    The load of a pivot is the larger of the foot's shares before and after the count.
    """
    trace = case.trace
    limit, angle = case.limit("pivot.loaded", "load"), case.limit("pivot.loaded", "angle")
    before = np.vstack([trace.shares[:1], trace.shares[:-1]])
    load = 100 * np.maximum(before, trace.shares)
    turned = np.abs(trace.move_turns)
    for row, index in np.argwhere((trace.move_kinds == PIVOT) & (turned > angle + 1e-6) & (load > limit + 1e-6)):
        side, share, turn = Side(int(index)), float(load[row, index]), float(turned[row, index])
        yield case.found(
            "pivot.loaded", int(row), f"the {side.word} foot turns {turn:.0f}° under {share:.0f} % of the weight",
            measured=share, limit=limit, unit="%", side=side,
            mend=f"sit back first, to at most {limit:.0f} % on the {side.word}, then turn it",
        )  # fmt: skip
