"""Laying two rows of counts beside each other so that they differ least, with counts that only one has.

The least cost is found by dynamic programming (Needleman and Wunsch 1970); passages inside longer rows by its local
form (Smith and Waterman 1981). One row against all rows of the rest at once: since a gap costs the same wherever it
is, what gaps along a row do is a running minimum.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.sides.deeds import GAP

__all__ = ["Match", "aligned", "likeness", "local_ends", "local_match", "totals"]

#: What two counts that do the same add to a passage; unlike ones take away what they cost beyond it.
WORTH = 0.6
_FAR = 1e4  # more than any row of counts can cost


class Match(NamedTuple):
    """Two counts side by side, by their places in their rows; None where one row has no such count."""

    a: int | None
    b: int | None


def likeness(cost: float, a: int, b: int) -> float:
    """How alike two rows of so many counts are that can be aligned at a cost: 1 the same, 0 nothing in common."""
    longer = max(a, b)
    return max(0.0, 1.0 - cost / longer) if longer else 1.0


def totals(cost: Floats, starts: Ints) -> Floats:
    """(k,) least cost of aligning all rows of *cost* with each stretch of its columns.

    Of *cost* (n, m); the k stretches begin at *starts* (the first at 0).
    """
    n, m = cost.shape
    lengths = np.diff([*starts, m])
    within = np.arange(m) - np.repeat(starts, lengths) + 1
    # Each stretch lies so far below the one before it that a running minimum never looks back across the border.
    border = -_FAR * np.repeat(np.arange(len(starts)), lengths)
    heads = np.zeros(m, dtype=bool)
    heads[starts[lengths > 0]] = True
    row = GAP * within
    for i in range(n):
        diagonal = np.concatenate([[0.0], row[:-1]])
        diagonal[heads] = GAP * i
        best = np.minimum(diagonal + cost[i], row + GAP)
        best = np.minimum(best, GAP * (i + 1) + GAP * within)  # from the very beginning
        row = np.minimum.accumulate(best - GAP * within + border) - border + GAP * within
    ends = np.asarray(starts) + lengths - 1
    return np.where(lengths > 0, row[np.maximum(ends, 0)], GAP * n)


def aligned(cost: Floats) -> tuple[Match, ...]:
    """The alignment of least cost of the rows and columns of *cost* (n, m).

    Counts are paired where that costs the same.
    """
    n, m = cost.shape
    table = np.zeros((n + 1, m + 1))
    table[:, 0] = GAP * np.arange(n + 1)
    table[0] = GAP * np.arange(m + 1)
    steps = GAP * np.arange(m + 1)
    for i in range(n):
        best = np.empty(m + 1)
        best[0] = table[i + 1, 0]
        best[1:] = np.minimum(table[i, :-1] + cost[i], table[i, 1:] + GAP)
        table[i + 1] = np.minimum.accumulate(best - steps) + steps
    found: list[Match] = []
    i, j = n, m
    while i or j:
        here = table[i, j] + 1e-9
        if i and j and table[i - 1, j - 1] + cost[i - 1, j - 1] <= here:
            i, j = i - 1, j - 1
            found.append(Match(i, j))
        elif j and table[i, j - 1] + GAP <= here:
            j -= 1
            found.append(Match(None, j))
        else:
            i -= 1
            found.append(Match(i, None))
    return tuple(reversed(found))


def local_ends(cost: Floats, starts: Ints, own: bool = False) -> tuple[Floats, Ints]:
    """(k,) worth of the best passage of the rows in each stretch of columns, and where it ends.

    Of *cost* (n, m); ends: (k, 2) row and column. own: the columns are the rows themselves, and the passages must lie
    one after the other.
    """
    n, m = cost.shape
    lengths = np.diff([*starts, m])
    border = -_FAR * np.repeat(np.arange(len(starts)), lengths)
    within = np.arange(m) - np.repeat(starts, lengths)
    filled = np.flatnonzero(lengths > 0)
    row = np.zeros(m)
    worth, ends = np.zeros(len(starts)), np.zeros((len(starts), 2), dtype=np.int64)
    for i in range(n):
        diagonal = np.concatenate([[0.0], row[:-1]])
        diagonal[starts[filled]] = 0.0
        best = np.maximum(np.maximum(diagonal + WORTH - cost[i], row - GAP), 0.0)
        if own:
            best = np.where(within > i, best, 0.0)
        row = border - GAP * within - np.minimum.accumulate(border - GAP * within - best)
        if own:
            row = np.where(within > i, row, 0.0)
        here = np.maximum.reduceat(row, starts[filled]) if len(filled) else row
        for k in np.flatnonzero(here > worth[filled] + 1e-9).tolist():
            stretch = int(filled[k])
            begins = int(starts[stretch])
            at = int(row[begins : begins + lengths[stretch]].argmax())
            worth[stretch], ends[stretch] = here[k], (i, begins + at)
    return worth, ends


def local_match(cost: Floats, row: int, column: int, first: int = 0) -> tuple[Match, ...]:
    """The best passage that ends in a row and a column, not reaching back before the column *first*."""
    rows, columns = row + 1, column - first + 1
    part = cost[:rows, first : column + 1]
    table = np.zeros((rows + 1, columns + 1))
    for i in range(rows):
        for j in range(columns):
            table[i + 1, j + 1] = max(
                0.0, table[i, j] + WORTH - part[i, j], table[i, j + 1] - GAP, table[i + 1, j] - GAP
            )
    found: list[Match] = []
    i, j = rows, columns
    while i and j and table[i, j] > 1e-9:
        here = table[i, j] - 1e-9
        if table[i - 1, j - 1] + WORTH - part[i - 1, j - 1] >= here:
            i, j = i - 1, j - 1
            found.append(Match(i, first + j))
        elif table[i, j - 1] - GAP >= here:
            j -= 1
            found.append(Match(None, first + j))
        else:
            i -= 1
            found.append(Match(i, None))
    return tuple(reversed(found))
