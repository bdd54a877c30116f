"""The one gate to the solver of linear programmes, some of whose unknowns may be whole numbers."""

from __future__ import annotations

import contextlib
import ctypes
import os
import threading
from collections.abc import Iterator, Sequence

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.libraries import library

__all__ = ["cheapest", "quiet"]

_lock = threading.Lock()
_kept: list[int] = []  # where the output really goes, while somebody wants it quiet
_within = 0


@contextlib.contextmanager
def quiet() -> Iterator[None]:
    """What a compiled library prints by itself in the meantime goes nowhere, whichever threads ask for it.

    The C library keeps what is printed until its buffer is full, or the program ends: so it is emptied before the
    output is put back.
    """
    global _within
    with _lock:
        _within += 1
        if _within == 1:
            _turn_away()
    try:
        yield
    finally:
        with _lock:
            _within -= 1
            if not _within and _kept:
                _empty()
                os.dup2(_kept[0], 1)
                os.close(_kept.pop())


def _turn_away() -> None:
    with contextlib.suppress(OSError):  # there is no output
        _empty()
        kept = os.dup(1)
        nowhere = os.open(os.devnull, os.O_WRONLY)
        os.dup2(nowhere, 1)
        os.close(nowhere)
        _kept.append(kept)


def _empty() -> None:
    """Writes what the C library still keeps."""
    with contextlib.suppress(OSError, AttributeError):
        ctypes.CDLL(None).fflush(None)


def cheapest(
    price: Floats,
    whole: Floats,
    low: Floats,
    high: Floats,
    rows: Sequence[tuple[Floats, Floats | float, Floats | float]],
    seconds: float,
    gap: float,
) -> Floats | None:
    """(k,) the values that cost least, between *low* and *high* (k,); None where none were found.

    price: (k,) of a unit of each; whole: (k,) 1 where only whole numbers will do; rows: matrices (c, k), and what their
    products must be at least and at most; seconds: that it may take; gap: how much dearer than the cheapest it may be,
    as a share. The best that was found in time is given.
    """
    optimize = library("scipy.optimize")
    constraint, milp = optimize.LinearConstraint, optimize.milp
    csr_array = library("scipy.sparse").csr_array

    limits = [constraint(csr_array(matrix), least, most) for matrix, least, most in rows if len(matrix)]
    if not len(price):
        return None
    with quiet():
        solved = milp(
            price,
            integrality=whole,
            bounds=(low, high),
            constraints=limits,
            options={"time_limit": seconds, "mip_rel_gap": gap},
        )
    return None if solved.x is None else np.asarray(solved.x)
