"""The joints of a walk as plain values, as the command ``figure`` prints them."""

from __future__ import annotations

from collections.abc import Iterable

from waltzmark.core.body.figure import JOINTS
from waltzmark.core.walk.figures import Figures
from waltzmark.core.walk.trace import Trace
from waltzmark.files.printed_forms import FigureAnswer, FigureCount
from waltzmark.files.report import tidy

__all__ = ["figure_values"]


def figure_values(trace: Trace, rows: Iterable[int]) -> FigureAnswer:
    """``{"joints": [...], "counts": [...]}``: places of every joint at the end of each count, metres."""
    walked = Figures(trace)
    return {"joints": list(JOINTS), "counts": [_count(trace, walked, row) for row in rows]}


def _count(trace: Trace, walked: Figures, row: int) -> FigureCount:
    figure, one = walked.at(row, 1.0), trace.row(row)
    return {
        "posture": one.posture,
        "count": one.count,
        "places": [[tidy(value) for value in place] for place in figure.joints[0].tolist()],
        "faces": tidy(float(figure.faces[0])),
        "gaps": {"left": tidy(float(figure.gaps[0, 0])), "right": tidy(float(figure.gaps[0, 1]))},
    }
