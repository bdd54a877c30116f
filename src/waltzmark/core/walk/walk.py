"""The walk: a fold of counts over poses. Only what an edit touched is walked again."""

from __future__ import annotations

import operator

import numpy as np

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

__all__ = ["ground_of", "walk", "walk_passage", "walk_to"]


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
            walked_before = reuse.begun(posture, last.exit)
            passage = replace(
                walk_passage(posture.id, lines, last.exit, ground, before=walked_before), source=source, way=way
            )
        walked[posture.id] = last = passage
        passages.append(last)
    return Trace(ground, tuple(passages))


def walk_to(form: Form, posture: str, line: int, known: Form, before: Trace) -> Trace:
    """The walk of a form as far as a line of a posture, which is enough to show what that does.

    known: the form that *before* is the walk of. Where they differ in more than that posture and later ones, it is
    walked whole.
    """
    number, ground = form.index(posture), ground_of(form)
    here, earlier = form.postures[number], form.postures[:number]
    as_before = len(known.postures) > number and all(map(operator.is_, earlier, known.postures))
    # One that takes its counts from this posture or a later one may be walked otherwise as well.
    on_their_own = {each.source for each in earlier} <= {None, *(each.id for each in earlier)}
    same = as_before and on_their_own and form.opening == known.opening and ground == before.ground
    if here.source is not None or not same:
        return walk(form, before)
    entry = before.passages[number].exit
    old = Reuse(before, ground).begun(here, entry)
    return Trace(
        ground,
        (*before.passages[: number + 1], walk_passage(posture, here.lines[: line + 1], entry, ground, before=old)),
    )


def walk_passage(
    posture: str,
    lines: tuple[Count, ...],
    entry: Pose,
    ground: Ground,
    swings: bool = True,
    before: Passage | None = None,
) -> Passage:
    """Walk the lines of one posture from the pose it is entered in.

    swings: see `step`; before: a passage of the same ground from this pose, with other lines: as far as they are the
    same, they are not walked again.
    """
    same, done = (0, 0) if before is None else _alike(before.lines, lines)
    known = before.placed[:done] if before is not None else rows_table([])
    problems = [each for each in before.problems if each.row < done] if before is not None else []
    expectations = [each for each in before.expectations if each.line < same] if before is not None else []
    pose = RowValues(*known[-1].tolist()).pose if done else entry
    rows: list[RowValues] = []
    for number, line in enumerate(lines[same:], same):
        if line.moves:
            pose, moves, found = step(pose, line, ground, swings)
            problems.extend(Located(done + len(rows), problem) for problem in found)
            rows.append(row_values(pose, moves, line.beats, done + len(rows) + 1, number))
        expectations.extend(Expectation(done + len(rows) - 1, number, expect) for expect in line.expectations)
    table = rows_table(rows) if not done else np.concatenate([known, rows_table(rows)])
    return Passage(posture, lines, entry, pose, table, tuple(problems), tuple(expectations))


def _alike(before: tuple[Count, ...], lines: tuple[Count, ...]) -> tuple[int, int]:
    """How many lines are the same from the first one on, and how many of those are rows."""
    same = 0
    for one, other in zip(before, lines, strict=False):
        if one is not other and one != other:
            break
        same += 1
    return same, sum(line.moves for line in lines[:same])


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
