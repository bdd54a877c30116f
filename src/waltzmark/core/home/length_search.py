"""Which lengths of steps bring a form home whose facing is right.

With headings fixed, the end is affine in the lengths of the steps (`walk.lengths`), so what closes it exactly is a
linear programme with two equations: the least sum, the most even, or the fewest changes (with a yes or no for each,
where no single length and no pair of them does it).
Each length stays within what the body reaches and the school takes for a stance, and within a quarter of what it was
unless asked. What is found is rounded to whole units on the lengths it changes.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Iterator
from typing import Any

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.programmes import cheapest
from waltzmark.core.base.progress import Progress
from waltzmark.core.base.units import METRES, LengthUnit
from waltzmark.core.edit.bounds import QUARTER, less_and_more, within_reach
from waltzmark.core.edit.resizing import Resize, resized
from waltzmark.core.form.form import Form
from waltzmark.core.home.ledger import check_return
from waltzmark.core.walk.lengths import measures_of
from waltzmark.core.walk.trace import Trace

__all__ = ["CLOSED", "LengthSearch"]

#: Metres and degrees within which a form is brought home.
CLOSED = (0.01, 1.0)
_EXACT = 1e-4  # metres that lengths are written to
_SECONDS = 10.0  # that one solution may take
_SMALL = 1e-6
_MANY = 40  # lengths from which rounding is tried before a programme
_TRIED = 500  # pairs of lengths whose reach is looked at one by one


class LengthSearch:
    """The ways home of one form whose facing is right."""

    def __init__(
        self,
        form: Form,
        trace: Trace,
        spared: Collection[str],
        unit: LengthUnit,
        progress: Progress,
        freely: bool,
    ) -> None:
        self.form, self.trace, self.unit, self.progress = form, trace, unit, progress
        self.now = check_return(self.trace, form)
        self.measures = measures_of(form, self.trace)
        self.moves = self.measures.heels[-1].mean(axis=0)  # (2, k) what the end does for a metre more of each
        self.less, self.more = less_and_more(form, self.measures.every, spared)
        if not freely:
            most = np.array([QUARTER * measure.value for measure in self.measures.every])
            self.less, self.more = np.minimum(self.less, most), np.minimum(self.more, most)
        idle = np.abs(self.moves).max(axis=0, initial=0.0) < _SMALL
        self.less[idle] = self.more[idle] = 0.0
        self.rows, self.least = within_reach(self.trace, self.measures)
        self.nearest: Message | None = None
        self._bound: tuple[Floats, Floats, Floats] | None = None

    def found(self) -> Iterator[tuple[str, Form, tuple[Resize, ...]]]:
        """Kind, form and changes of each way home."""
        if self.now.distance <= CLOSED[0]:
            yield "turn", self.form, ()
            return
        full = self.less, self.more
        # Changes much larger than what is missing are looked at only where smaller ones do not do.
        most = 2.0 * self.now.distance + 0.05
        self.less, self.more = (np.minimum(each, most) for each in full)
        # The least sum is found first because it is found fastest.
        for number, kind in enumerate(("least", "fewest", "even")):
            self.progress.tell(0.3 + 0.7 * number / 3, "closings")
            lengths = self._single() if kind == "fewest" else None
            if lengths:
                x = None
            elif kind == "fewest":
                x = self._pair()
            else:
                x = self._solve(kind)
            if x is None and lengths is None and kind == "fewest":
                x = self._solve(kind)
            if x is None and number == 0:
                self.less, self.more = full
                x = self._solve(kind)
            if x is None and lengths is None:
                self.nearest, x = self._found_nearest()
                if x is not None:
                    form, changes = resized(self.form, self.measures, self._rounded_within(x))
                    yield "near", form, changes
                return
            for whole in (True, False):
                if x is not None:
                    lengths = self._whole(x, kind == "even") if whole else self._written(x)
                if lengths is not None:
                    form, changes = resized(self.form, self.measures, lengths)
                    yield kind, form, changes
                    break

    # One or two lengths are tried without a programme.

    def _single(self) -> dict[Any, float] | None:
        """The one length, in whole units, that alone brings the end within a centimetre, and nearest; None if none."""
        unit = self._unit()
        values = np.array([measure.value for measure in self.measures.every])
        square = np.maximum((self.moves**2).sum(axis=0), _SMALL)
        x = np.round((values - np.array(self.now.offset) @ self.moves / square) / unit) * unit - values
        left = np.hypot(*(np.array(self.now.offset)[:, None] + self.moves * x))
        good = (left <= CLOSED[0]) & (x <= self.more + 1e-9) & (x >= -self.less - 1e-9) & (np.abs(x) > _SMALL)
        rows, least = self._binding()
        at = np.flatnonzero(good)
        for n in at[np.argsort(left[at], kind="stable")].tolist():
            if np.all(rows[:, n] * x[n] >= least - 1e-9):
                return {self.measures.every[n]: float(values[n] + x[n])}
        return None

    def _pair(self) -> Floats | None:
        """(k,) the two lengths that close it with the least sum; None where the nearest pairs are not within reach."""
        free = np.flatnonzero(self.less + self.more > _SMALL)
        one, other = (free[each] for each in np.triu_indices(len(free), 1))
        (a, b), (c, d), (right, ahead) = self.moves[:, one], self.moves[:, other], -np.array(self.now.offset)
        det = a * d - b * c
        even = np.abs(det) < 1e-4  # both lead the same way
        det[even] = np.inf
        x, y = (right * d - c * ahead) / det, (a * ahead - right * b) / det
        good = (x <= self.more[one]) & (x >= -self.less[one]) & (y <= self.more[other]) & (y >= -self.less[other])
        at = np.flatnonzero(good & ~even)
        rows, least = self._binding()
        for n in at[np.argsort((np.abs(x) + np.abs(y))[at], kind="stable")][:_TRIED].tolist():
            if np.all(rows[:, one[n]] * x[n] + rows[:, other[n]] * y[n] >= least - 1e-9):
                changed = np.zeros(len(self.less))
                changed[one[n]], changed[other[n]] = x[n], y[n]
                return changed
        return None

    # The programme: more (k), less (k), and what each kind needs beside.

    def _solve(self, kind: str) -> Floats | None:
        """(k,) the changes of one kind; None where nothing closes it."""
        k = len(self.less)
        price = np.ones(2 * k)
        extra = 0
        own, at_least = self._binding()
        rows = [np.concatenate([own, -own], axis=1)] if len(own) else []
        least = [at_least] if len(own) else []
        high = np.concatenate([self.more, self.less])
        if kind == "fewest":  # a yes or no for each measure
            extra = k
            allow = np.concatenate([np.diag(self.more), np.diag(self.less)])
            rows = [np.pad(each, ((0, 0), (0, k))) for each in rows]
            rows.append(np.concatenate([-np.eye(2 * k), allow], axis=1))
            least.append(np.zeros(2 * k))
            price = np.concatenate([price * 0.01, np.ones(k)])
        elif kind == "even":  # the largest of all
            extra = 1
            rows = [np.pad(each, ((0, 0), (0, 1))) for each in rows]
            rows.append(np.concatenate([-np.eye(2 * k), np.ones((2 * k, 1))], axis=1))
            least.append(np.zeros(2 * k))
            price = np.concatenate([price * 0.001, np.ones(1)])
        high = np.concatenate([high, np.ones(extra)])
        whole = np.concatenate([np.zeros(2 * k), np.full(extra, float(kind == "fewest"))])
        home = np.pad(np.concatenate([self.moves, -self.moves], axis=1), ((0, 0), (0, extra)))
        solved = _milp(price, whole, high, home, -np.array(self.now.offset), rows, least)
        return None if solved is None else solved[:k] - solved[k : 2 * k]

    def _binding(self) -> tuple[Floats, Floats]:
        """The rows of what is within reach that some change could break, and what they must be at least."""
        # It is asked for several times while the bounds stay.
        if self._bound is None or self._bound[0] is not self.more:
            self._bound = self.more, *self._found_binding()
        return self._bound[1:]

    def _found_binding(self) -> tuple[Floats, Floats]:
        worst = np.minimum(self.rows * self.more, -self.rows * self.less).sum(axis=1)
        binds = worst < self.least - 1e-9
        return self.rows[binds], self.least[binds]

    def _found_nearest(self) -> tuple[Message, Floats | None]:
        """How near it gets and what stands in the way; and (k,) the changes, where that counts as home."""
        k = len(self.less)
        if not (self.less.any() or self.more.any()):
            return message("closing.locked"), None
        # Beside the changes what is missing, each way to both sides.
        missing = np.array([[1.0, -1.0, 0.0, 0.0], [0.0, 0.0, 1.0, -1.0]])
        home = np.concatenate([self.moves, -self.moves, missing], axis=1)
        price = np.concatenate([np.full(2 * k, 1e-4), np.ones(4)])
        high = np.concatenate([self.more, self.less, np.full(4, np.inf)])
        rows = [np.pad(np.concatenate([self.rows, -self.rows], axis=1), ((0, 0), (0, 4)))] if len(self.rows) else []

        def solved_at(price: Floats, high: Floats) -> Floats | None:
            whole, least = np.zeros(len(price)), [self.least] if rows else []
            return _milp(price, whole, high, home, -np.array(self.now.offset), rows, least)

        solved = solved_at(price, high)
        if solved is None:
            return message("closing.not-by-lengths"), None
        left = float(np.hypot(*(missing @ solved[2 * k :])))
        x = solved[:k] - solved[k : 2 * k]
        full = (np.abs(x) > _SMALL) & ((x >= self.more - 1e-6) | (x <= -self.less + 1e-6))
        names = dict.fromkeys(self.form.posture(self.measures.every[n].posture).title for n in np.flatnonzero(full))
        near = None
        if left <= self.form.home.within:
            # The least that counts as home, with half of what does to spare: a teacher asks for no more.
            price[: 2 * k], price[2 * k :] = 1.0, 0.0
            high[2 * k :] = max(self.form.home.within / 2.0, left) / math.sqrt(2.0)
            least = solved_at(price, high)
            near = x if least is None else least[:k] - least[k : 2 * k]
        if names:
            return message("closing.nearest.full", left=left, postures=tuple(names)[:3]), near
        return message("closing.nearest", left=left), near

    # What is written.

    def _unit(self) -> float:
        return METRES["in"] if self.unit == "in" else METRES["cm"]

    def _whole(self, x: Floats, even: bool) -> dict[Any, float] | None:
        """The lengths that change, in whole units, so that the end is as near home as can be.

        None where that is not within a centimetre, or changes much more. even: none by more than the unit above the
        greatest change.
        """
        unit, at = self._unit(), np.flatnonzero(np.abs(x) > _SMALL)
        values = np.array([self.measures.every[n].value for n in at])
        wanted = (values + x[at]) / unit
        n = len(at)
        most = float(np.abs(x).max()) + unit if even else np.inf
        less, more = np.minimum(self.less[at], most), np.minimum(self.more[at], most)
        # Whole numbers (n), what each is off by (n), and what the end is off by (2).
        low = np.concatenate([np.ceil((values - less) / unit - 1e-9), np.zeros(n + 2)])
        high = np.concatenate([np.floor((values + more) / unit + 1e-9), np.full(n + 2, np.inf)])
        if (low[:n] > high[:n]).any():
            return None
        moves = self.moves[:, at] * unit
        goal = self.moves[:, at] @ values - np.array(self.now.offset)
        near = _rounded(wanted, low[:n], high[:n], moves, goal) if n > _MANY else None
        if near is not None:
            return {self.measures.every[number]: float(m) * unit for number, m in zip(at, near, strict=True)}
        eye, ends = np.eye(n), np.eye(2)
        rows = [np.concatenate([sign * eye, eye, np.zeros((n, 2))], axis=1) for sign in (1.0, -1.0)] + [
            np.concatenate([sign * moves, np.zeros((2, n)), ends], axis=1) for sign in (1.0, -1.0)
        ]
        least = [wanted, -wanted, goal, -goal]
        price = np.concatenate([np.zeros(n), np.full(n, 1e-4), np.ones(2)])
        whole, none = np.concatenate([np.ones(n), np.zeros(n + 2)]), np.zeros((0, 2 * n + 2))
        solved = _milp(price, whole, high, none, np.zeros(0), rows, least, low)
        if solved is None or float(np.hypot(*solved[-2:])) > CLOSED[0]:
            return None
        rounded = np.round(solved[:n]) * unit
        if float(np.abs(rounded - values).sum() - np.abs(x[at]).sum()) > unit * max(1.0, n / 4):
            return None  # what is whole would be no small change any more
        return {self.measures.every[number]: float(m) for number, m in zip(at, rounded, strict=True)}

    def _rounded_within(self, x: Floats) -> dict[Any, float]:
        """The lengths that change, in the nearest whole units that are within reach."""
        unit, found = self._unit(), {}
        for n in np.flatnonzero(np.abs(x) > unit / 2.0).tolist():
            measure = self.measures.every[n]
            least, most = measure.value - float(self.less[n]), measure.value + float(self.more[n])
            whole = round((measure.value + float(x[n])) / unit) * unit
            found[measure] = whole if least - 1e-9 <= whole <= most + 1e-9 else measure.value + float(x[n])
        return found

    def _written(self, x: Floats) -> dict[Any, float]:
        """The lengths that change, to a tenth of a millimetre."""
        return {
            self.measures.every[n]: round((self.measures.every[n].value + float(x[n])) / _EXACT) * _EXACT
            for n in np.flatnonzero(np.abs(x) > _SMALL)
        }


def _rounded(wanted: Floats, low: Floats, high: Floats, moves: Floats, goal: Floats) -> Floats | None:
    """(n,) whole numbers next to those wanted, whose end is within half a centimetre; None if there are none.

    Where many lengths change there nearly always are, and a programme would take longer.
    """
    whole = np.clip(np.floor(wanted), low, high)
    off = np.zeros(2)
    for n, move in enumerate(moves.T):  # each is rounded so that what has been lost by rounding is made good
        down, up = off + move * (whole[n] - wanted[n]), off + move * (whole[n] + 1.0 - wanted[n])
        if whole[n] + 1.0 <= high[n] and up @ up < down @ down:
            whole[n] += 1.0
            off = up
        else:
            off = down
    other = whole + np.where(wanted >= whole, 1.0, -1.0)
    step = np.where((other >= low) & (other <= high), other - whole, 0.0)
    off = moves @ whole - goal  # what is left, two of them may make good
    by = np.concatenate([np.zeros((2, 1)), moves * step], axis=1)  # none, or one of them the other way
    left = np.hypot(*(off[:, None, None] + by[:, :, None] + by[:, None, :]))
    np.fill_diagonal(left[1:, 1:], np.inf)
    one, two = (int(each) for each in np.unravel_index(np.argmin(left), left.shape))
    if float(left[one, two]) > CLOSED[0] / 2.0:
        return None
    for chosen in (one - 1, two - 1):
        if chosen >= 0:
            whole[chosen] += step[chosen]
    return whole


def _milp(
    price: Floats,
    whole: Floats,
    high: Floats,
    equal: Floats,
    to: Floats,
    rows: list[Floats],
    least: list[Floats],
    low: Floats | None = None,
) -> Floats | None:
    """The cheapest of what is between *low* and *high*, *equal* @ x being *to*, each of *rows* at least so much."""
    limits: list[tuple[Floats, Floats | float, Floats | float]] = [(equal, to - 1e-7, to + 1e-7)]
    if rows:
        limits.append((np.concatenate(rows), np.concatenate(least) - 1e-9, np.inf))
    return cheapest(price, whole, np.zeros(len(price)) if low is None else low, high, limits, _SECONDS, 1e-4)
