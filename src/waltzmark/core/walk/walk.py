"""The walk: a fold of counts over poses. Only what an edit touched is walked again."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from waltzmark.core.base.angles import mirrored, rotated
from waltzmark.core.body.pose import Pose, same_but_moved
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.step import STILL, Ground, step
from waltzmark.core.walk.trace import COLUMNS, Expectation, Located, Passage, Trace, row_values

__all__ = ["walk", "walk_passage"]


def ground_of(form: Form) -> Ground:
    """What the steps of a form need to know."""
    return Ground(form.body, form.school, form.twelve, form.torso)


def walk(form: Form, before: Trace | None = None) -> Trace:
    """Walk a whole form from its opening.

    before: the trace of an earlier version; where body, school and frame are the same, its passages are used
    again if nothing in them changed, moved as a whole if only their place did.
    """
    ground = ground_of(form)
    known: dict[str | None, Passage] = {}
    follows: dict[Passage, Passage] = {}
    if before is not None and before.ground == ground:
        known = {passage.posture: passage for passage in before.passages}
        follows = dict(zip(before.passages[1:], before.passages, strict=False))
    pose = form.opening.pose(form.body)
    walked: dict[str, Passage] = {}
    last = Passage(None, (), pose, pose, np.array([row_values(pose, (STILL, STILL), 1.0, 0, 0)]))
    passages = [last]
    went: tuple[Passage | None, tuple[float, float]] = None, (0.0, 0.0)  # the last one's old self, how far it moved
    for posture in form.postures:
        old = known.get(posture.id)
        lines, source = _lines(form, posture, walked, last, old)
        # What comes after a passage that was merely moved is entered in the same pose, as far away.
        move = went[1] if old is not None and follows.get(old) is went[0] else None
        move = _same_walk(old, lines, last, move)
        if old is not None and move is not None:
            last = old.moved(*move)
            went = old, move
        else:
            last = walk_passage(posture.id, lines, last.exit, ground)
            last = replace(last, source=source, way=_way(form, posture))
            went = None, (0.0, 0.0)
        walked[posture.id] = last
        passages.append(last)
    return Trace(ground, tuple(passages))


def walk_passage(posture: str, lines: tuple[Count, ...], entry: Pose, ground: Ground) -> Passage:
    """Walk the lines of one posture from the pose it is entered in."""
    rows: list[tuple[float, ...]] = []
    problems: list[Located] = []
    expectations: list[Expectation] = []
    pose = entry
    for number, line in enumerate(lines):
        if line.moves:
            pose, moves, found = step(pose, line, ground)
            problems.extend(Located(len(rows), problem) for problem in found)
            rows.append(row_values(pose, moves, line.beats, len(rows) + 1, number))
        expectations.extend(Expectation(len(rows) - 1, number, expect) for expect in line.expectations)
    table = np.array(rows, dtype=float) if rows else np.zeros((0, COLUMNS))
    return Passage(posture, lines, entry, pose, table, tuple(problems), tuple(expectations))


def _lines(
    form: Form, posture: Posture, walked: dict[str, Passage], last: Passage, old: Passage | None
) -> tuple[tuple[Count, ...], tuple[Count, ...] | None]:
    """The lines to walk, and those they were made from: the very same object means nothing has changed."""
    if posture.source is None:
        return posture.lines, None
    source = walked.get(posture.source)
    if source is None:
        return form.lines(posture), None
    if old is not None and old.source is source.lines and old.way == _way(form, posture) and not old.stays_put:
        return old.lines, source.lines
    lines = posture.taken_from(source.lines, form.twelve)
    if any(line.spots for line in lines):
        # Floor positions are taken over relative to where the two postures begin.
        x, y = _about_origin(form, posture, *source.entry.midpoint)
        here_x, here_y = last.exit.midpoint
        lines = tuple(line.moved(here_x - x, here_y - y) for line in lines)
    return lines, source.lines


def _way(form: Form, posture: Posture) -> tuple[object, ...]:
    """How a posture takes over the counts of its source."""
    return posture.mirror_of, posture.axis, posture.repeat_of, posture.turned, form.twelve


def _about_origin(form: Form, posture: Posture, x: float, y: float) -> tuple[float, float]:
    """A floor position mirrored or turned about the origin, as the posture takes its counts over."""
    if posture.mirror_of is None:
        return rotated(x, y, posture.turned)
    axis = posture.axis.heading(0.0, form.twelve) if posture.axis else 0.0
    # Reflecting in a line turns the mirror image about 12 o'clock by twice its heading.
    return rotated(-x, y, mirrored(0.0, axis))


def _same_walk(
    old: Passage | None, lines: tuple[Count, ...], last: Passage, move: tuple[float, float] | None
) -> tuple[float, float] | None:
    """How far the old passage has to be moved to be what follows *last*; None when it would be walked otherwise.

    move: how far, where that is known already.
    """
    if old is None or (old.lines is not lines and old.lines != lines):
        return None
    if move is None:
        move = same_but_moved(old.entry, last.exit)
    return None if move is not None and move != (0.0, 0.0) and old.stays_put else move
