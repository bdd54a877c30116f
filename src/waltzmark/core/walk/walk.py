"""The walk: a fold of counts over poses. Only what an edit touched is walked again."""

from __future__ import annotations

from waltzmark.core.base.angles import mirrored, rotated
from waltzmark.core.base.records import replace
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.ground import STILL, Ground
from waltzmark.core.walk.passage import Expectation, Located, Passage, RowValues, row_values, rows_table
from waltzmark.core.walk.reuse import Reuse, taken_over
from waltzmark.core.walk.step import step
from waltzmark.core.walk.trace import Trace

__all__ = ["ground_of", "walk", "walk_passage"]


def ground_of(form: Form) -> Ground:
    """What the steps of a form need to know."""
    return Ground(form.body, form.school, form.twelve, form.torso)


def walk(form: Form, before: Trace | None = None, begun: Pose | None = None) -> Trace:
    """Walk a whole form from its opening.

    before: the trace of an earlier version; what of it still holds is used again, see `Reuse`. begun: the pose it is
    begun in instead of its opening, as when it is walked a second time.
    """
    ground = ground_of(form)
    reuse = Reuse(before, ground)
    pose = begun or form.opening.pose(form.body)._replace(lean=form.school.lean)
    walked: dict[str, Passage] = {}
    last = Passage(None, (), pose, pose, rows_table([row_values(pose, (STILL, STILL), 1.0, 0, 0)]))
    passages = [last]
    for posture in form.postures:
        lines, source = _lines(form, posture, walked, last, reuse)
        way = taken_over(form, posture)
        passage = reuse.passage(posture, lines, last, source, way)
        if passage is None:
            passage = replace(walk_passage(posture.id, lines, last.exit, ground), source=source, way=way)
        walked[posture.id] = last = passage
        passages.append(last)
    return Trace(ground, tuple(passages))


def walk_passage(posture: str, lines: tuple[Count, ...], entry: Pose, ground: Ground, swings: bool = True) -> Passage:
    """Walk the lines of one posture from the pose it is entered in. swings: see `step`."""
    rows: list[RowValues] = []
    problems: list[Located] = []
    expectations: list[Expectation] = []
    pose = entry
    for number, line in enumerate(lines):
        if line.moves:
            pose, moves, found = step(pose, line, ground, swings)
            problems.extend(Located(len(rows), problem) for problem in found)
            rows.append(row_values(pose, moves, line.beats, len(rows) + 1, number))
        expectations.extend(Expectation(len(rows) - 1, number, expect) for expect in line.expectations)
    return Passage(posture, lines, entry, pose, rows_table(rows), tuple(problems), tuple(expectations))


def _lines(
    form: Form, posture: Posture, walked: dict[str, Passage], last: Passage, reuse: Reuse
) -> tuple[tuple[Count, ...], tuple[Count, ...] | None]:
    """The lines to walk, and those they were made from: the very same object means nothing has changed."""
    if posture.source is None:
        return posture.lines, None
    source = walked.get(posture.source)
    if source is None:
        return form.lines(posture), None
    known = reuse.lines(form, posture, source)
    if known is not None:
        return known, source.lines
    lines = posture.taken_from(source.lines, form.twelve)
    if any(line.spots for line in lines):
        # Floor positions are taken over relative to where the two postures begin.
        x, y = _about_origin(form, posture, *source.entry.midpoint)
        here_x, here_y = last.exit.midpoint
        lines = tuple(line.moved(here_x - x, here_y - y) for line in lines)
    return lines, source.lines


def _about_origin(form: Form, posture: Posture, x: float, y: float) -> tuple[float, float]:
    """A floor position mirrored or turned about the origin, as the posture takes its counts over."""
    if posture.mirror_of is None:
        return rotated(x, y, posture.turned)
    axis = posture.axis.heading(0.0, form.twelve) if posture.axis else 0.0
    # Reflecting in a line turns the mirror image about 12 o'clock by twice its heading.
    return rotated(-x, y, mirrored(0.0, axis))
