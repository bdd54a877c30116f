"""How far the lengths of steps may change: what a body reaches, and what a school finds narrow or too wide."""

from __future__ import annotations

from collections.abc import Collection, Sequence

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.body.reach import reach_outline
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import rotated_points
from waltzmark.core.walk.lengths import Measure, Measures
from waltzmark.core.walk.trace import Trace

__all__ = ["QUARTER", "less_and_more", "within_reach"]

#: Of a length that it changes at the most, unless asked.
QUARTER = 0.25
_SHORTEST = 1 / 3  # of a foot length: what is shorter is no step ahead or behind, but a foot put beside the other
_LONGEST = 1.5  # metres
_RAYS = 24


def within_reach(trace: Trace, measures: Measures) -> tuple[Floats, Floats]:
    """Rows (c, k) over the changes of k measures, and what each must be at least (c,).

    Every landing of a step to a facing lies within reach of its standing foot (24 edges), or no further out of it than
    it is.
    """
    k = len(measures.every)
    rows, least = [np.zeros((0, k))], [np.zeros(0)]
    for row, side, length, width in measures.steps:
        if length < 0 and width < 0:
            continue
        support = side.other
        outline = reach_outline(trace.body, float(trace.sinks[row]), support, _RAYS)
        turned = rotated_points(outline, float(trace.headings[row - 1, support]))
        edge = np.roll(turned, -1, axis=0) - turned
        inner = np.column_stack([edge[:, 1], -edge[:, 0]]) / np.hypot(*edge.T)[:, None]  # clockwise: to the right
        away = trace.heels[row, side] - trace.heels[row - 1, support]
        slack = ((away - turned) * inner).sum(axis=1)
        moves = measures.heels[row, side] - measures.heels[row - 1, support]
        rows.append(inner @ moves)
        least.append(-np.maximum(slack, 0.0))
    return np.concatenate(rows), np.concatenate(least)


def less_and_more(form: Form, every: Sequence[Measure], locked: Collection[str] = ()) -> tuple[Floats, Floats]:
    """(k,) and (k,) metres by which each measure may become less, and more.

    Lengths down to a third of a foot, widths between what the school finds narrow and too wide; none of a locked
    posture, and none further out of that than it is.
    """
    body, school = form.body, form.school

    def limit(rule: str, name: str, otherwise: float) -> float:
        known = school.rules.get(rule)
        return float(known.limits.get(name, otherwise)) if known is not None and not known.off else otherwise

    narrow = max(limit("stance.narrow", "width", 0.0) / 100.0, 0.0)
    wide = limit("stance.wide", "shoulders", 200.0) / 100.0 * body.shoulder_breadth
    less, more = np.zeros(len(every)), np.zeros(len(every))
    for number, measure in enumerate(every):
        if measure.posture in locked:
            continue
        if measure.what == "width":
            least, most = body.foot_breadth if measure.aside else narrow, wide
        elif measure.what == "gap":
            least, most = body.foot_breadth, 2.0 * body.foot_breadth
        else:
            least, most = _SHORTEST * body.foot_length, _LONGEST
        less[number], more[number] = max(measure.value - least, 0.0), max(most - measure.value, 0.0)
    return less, more
