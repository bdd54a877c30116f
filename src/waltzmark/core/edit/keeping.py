"""What an edit moved further on in the form, and keeping it where it was."""

from __future__ import annotations

import math

import numpy as np

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record, replace
from waltzmark.core.edit import forms
from waltzmark.core.form.form import Form
from waltzmark.core.score.actions import Count, Spot, Step
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.ground import STEP
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["Moved", "kept_places", "moved_after"]

#: Less than this is not seen on a floor, metres.
_SEEN = 0.005
#: Places are kept to the millimetre.
_KEPT = 0.001


class Moved(Record):
    """What follows an edit and is written as before, but steps elsewhere.

    old, new: its first row in the trace before and after; distance: metres that the end of the form moved.
    """

    old: int
    new: int
    distance: float


def _common_tail(before: Trace, after: Trace) -> int:
    """How many counts at the end of both traces are written the same, in postures of the same id."""
    rows = 0
    for old, new in zip(reversed(before.passages[1:]), reversed(after.passages[1:]), strict=False):
        if old.posture != new.posture:
            break
        if old.lines is new.lines or old.lines == new.lines:
            rows += len(new)
            continue
        for mine, theirs in zip(reversed(old.lines), reversed(new.lines), strict=False):
            if mine != theirs:
                break
            rows += mine.moves
        break
    return rows


def moved_after(before: Trace, after: Trace) -> Moved | None:
    """What an edit moved without touching it; None when every step after it goes where it went."""
    tail = _common_tail(before, after)
    if tail == 0 or before.body != after.body:
        return None
    old, new = len(before) - tail, len(after) - tail
    apart = np.linalg.norm(after.heels[new:] - before.heels[old:], axis=2)
    if not ((apart > _SEEN) & (after.move_kinds[new:] == STEP)).any():
        return None
    return Moved(old, new, float(np.linalg.norm(after.midpoints[-1] - before.midpoints[-1])))


def kept_places(form: Form, before: Trace, moved: Moved) -> Form:
    """The form with steps of what follows an edit set to where they were before it, each foot once where that will do.

    The steps become floor positions with the toe facing and the landing they had. A posture that takes its counts
    from another is given counts of its own when a step of either has to change: a floor position is no one else's.
    """
    tail = len(before) - moved.old
    trace = walk(form)
    for _ in range(tail):
        first = len(trace) - tail
        apart = np.linalg.norm(trace.heels[first:] - before.heels[moved.old :], axis=2)
        stepped = trace.move_kinds[first:] == STEP
        wrong = np.argwhere(stepped & (apart > _KEPT))
        if not len(wrong):
            break
        at, side = int(wrong[0][0]), Side(int(wrong[0][1]))
        changed = _set_down(form, trace, first + at, side, before, moved.old + at)
        if changed == form:
            break
        form, trace = changed, walk(changed, trace)
    return form


def _set_down(form: Form, trace: Trace, row: int, side: Side, before: Trace, old: int) -> Form:
    """The form with the step of a row set to where that foot stood in an old row."""
    place = trace.row(row)
    assert place.posture is not None
    foot = before.pose(old).foot(side)
    walked = next(p.lines for p in trace.passages if p.posture == place.posture)
    form = forms.without_followers(forms.detached(form, place.posture, walked), place.posture)
    count: Count = form.posture(place.posture).lines[place.line]
    step = count.one(Step, side)
    if step is None:
        return form
    spot = Spot(round(foot.x, 3) + 0.0, round(foot.y, 3) + 0.0)
    there = Step(side, spot, Clock.at(foot.heading), step.via, Contact(before.pose(old).foot(side).contact))
    if math.isclose(foot.heading, trace.pose(row - 1).foot(side).heading, abs_tol=1e-6):
        there = replace(there, toe=None)  # a step to a place keeps its heading
    return forms.replace_lines(form, place.posture, place.line, place.line + 1, [count.exchanged(step, there)])
