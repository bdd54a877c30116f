"""A walk in which every part of a count has a row of its own: what is judged where turns are early or late."""

from __future__ import annotations

import numpy as np

from waltzmark.core.base.arrays import Ints
from waltzmark.core.base.records import replace
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.ground import Ground
from waltzmark.core.walk.passage import COLUMN, Passage
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk_passage

__all__ = ["Halves", "own_rows", "unrolled", "unrolled_passage"]

#: Of each row of an unrolled passage the parts of its count and which of them it is; None where it has one.
Halves = tuple[tuple[tuple[Count, ...], int] | None, ...]


def unrolled_passage(passage: Passage, ground: Ground) -> Passage:
    """The passage with a row for each part of its counts, numbered as the counts are; itself where each has one.

    Its memo has the `Halves` as "halves" and the row of each as "own".
    """
    if all(len(line.parts) == 1 for line in passage.lines):
        return passage
    made = passage.known("unrolled", lambda: _unrolled(passage, ground))
    return made.moved(*passage.by)


def _unrolled(passage: Passage, ground: Ground) -> Passage:
    lines, at = list[Count](), list[int]()
    own, halves = list[int](), list[tuple[tuple[Count, ...], int] | None]()
    for number, line in enumerate(passage.lines):
        parts = line.parts
        lines += parts
        at += [number] * len(parts)
        if line.moves:
            own += [own[-1] + 1 if own else 0] * len(parts)
            halves += [(parts, part) if len(parts) > 1 else None for part in range(len(parts))]
    made = walk_passage(passage.posture or "", tuple(lines), passage.start, ground)
    rows = made.rows.copy()
    rows[:, COLUMN["number"]] = np.array(own, dtype=float) + 1.0
    rows[:, COLUMN["line"]] = np.array(at, dtype=float)[made.rows[:, COLUMN["line"]].astype(np.int64)]
    return replace(made, rows=rows, memo={"halves": tuple(halves), "own": np.array(own, dtype=np.int64)})


def unrolled(trace: Trace) -> tuple[Trace, Ints | None]:
    """A whole walk so, and the row of the walk that each of its rows belongs to; None where they are the same."""
    passages = tuple(unrolled_passage(passage, trace.ground) for passage in trace.passages)
    if all(new is old for new, old in zip(passages, trace.passages, strict=True)):
        return trace, None
    own = [int(first) + own_rows(passage) for first, passage in zip(trace.starts, passages, strict=False)]
    return Trace(trace.ground, passages), np.concatenate(own)


def own_rows(passage: Passage) -> Ints:
    """Of each row of an unrolled passage the row in the passage it was made of."""
    known: Ints | None = passage.memo.get("own")  # type: ignore[assignment]
    return np.arange(len(passage)) if known is None else known
