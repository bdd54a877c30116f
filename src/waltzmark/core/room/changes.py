"""What would make a walk fit its room: where else to stand, and when no start fits, the least change, of several kinds.

Every change is whole: a form with a room and a start in it, checked by the same check as the answer, and judged, so
that what it would bring along is told.
"""

from __future__ import annotations

import math
import time
from collections.abc import Iterator, Sequence
from contextlib import suppress
from typing import Literal

import numpy as np

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.messages import Change as Sizes
from waltzmark.core.base.messages import Message, Value, message
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record, replace
from waltzmark.core.edit.bounds import QUARTER
from waltzmark.core.edit.passes import fewer_forms
from waltzmark.core.edit.resizing import Resize, mirrored_form, scaled
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Room, Start
from waltzmark.core.judge.compare import graver
from waltzmark.core.judge.finding import Severity
from waltzmark.core.judge.judging import judge_all
from waltzmark.core.room.breaks import mark_of, parts_of
from waltzmark.core.room.clearance import Clearance, clearance_at
from waltzmark.core.room.starts import HEADINGS, Standing, Starts
from waltzmark.core.room.steps import Fitted, fitted_steps
from waltzmark.core.room.sweep import Sweep
from waltzmark.core.room.trials import FACING, away_from, first_that_fits, less_wanted, longer, told_turned
from waltzmark.core.walk.lengths import TooLongError, measures_of
from waltzmark.core.walk.naming import keeps_stances
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["Advice", "Change", "advice", "here"]

_LEAST = 0.5  # no form is shortened further than to half
_TRIED = 6  # headings at which single steps are fitted
_FEWEST = 3  # and at which the fewest postures are looked for
_BREAKS = 4
_SECONDS = 12.0  # that looking for changes may take, and as much again for breaks; what has been found by then is told
_TURN = 0.5  # degrees from which a form is turned, where it fits as it faces


#: What is changed.
HowToFit = Literal["move", "turn", "passes", "shorter", "steps", "postures", "side", "break", "clearance", "arms"]


class Change(Record):
    """One way to make it fit.

    kind: *move*, *turn*, *passes*, *shorter*, *steps*, *postures*, *side*, *break*, *clearance* or *arms*; does: what
    it is; form: with it made; near: what clearance it leaves; resizes: the steps it changes; brings: new stops and
    cautions; stand: where to stand for it, None where one stands.
    """

    kind: HowToFit
    does: Message
    form: Form
    near: Clearance
    resizes: tuple[Resize, ...] = ()
    brings: tuple[tuple[Severity, str], ...] = ()
    stand: Message | None = None

    @property
    def room(self) -> Room:
        assert self.form.room is not None
        return self.form.room


class Advice(Record):
    """All that is known of a form in its room.

    here: the clearance of its own start; rose: (72, 3) the best start of each of `HEADINGS`, x and y in metres, and
    what it has to spare; starts: the best, the best first; changes: when it does not fit where it is; done: whether the
    search has ended.
    """

    here: Clearance
    rose: Floats | None = None
    starts: tuple[Standing, ...] = ()
    changes: tuple[Change, ...] = ()
    done: bool = False


def here(form: Form, trace: Trace) -> Clearance:
    """The clearance of the document's own start, with its breaks."""
    room = form.room
    assert room is not None
    found = [
        clearance_at(Sweep(trace, room.arms, part.rows(trace)), room, part.start) for part in parts_of(trace, room)
    ]
    return min(found, key=lambda each: each.spare)


def advice(form: Form, progress: Progress = SILENT, changes: bool = True) -> Advice:
    """Where to stand, and what to change when it does not fit. What is known so far is handed out on the way."""
    room = form.room
    assert room is not None
    trace = walk(form)
    so_far = Advice(here(form, trace))
    progress.hand_out(so_far)
    starts = Starts(Sweep(trace, room.arms), room)
    rose = starts.best_of(progress=_Part(progress, 0.0, 0.3 if changes else 0.9))
    so_far = replace(so_far, rose=rose)
    progress.hand_out(so_far)
    so_far = replace(so_far, starts=tuple(starts.listed(rose)))
    progress.hand_out(so_far)
    if changes and not so_far.here.fits:
        search = _Search(form, trace, starts, so_far, _Part(progress, 0.35, 1.0))
        for change in search.found():
            so_far = replace(so_far, changes=(*so_far.changes, change))
            progress.hand_out(so_far)
    return replace(so_far, done=True)


class _Part:
    """A part of the whole work, for whoever watches it."""

    def __init__(self, progress: Progress, first: float, last: float) -> None:
        self._progress, self._first, self._last = progress, first, last

    def tell(self, share: float, doing: str = "") -> None:
        self._progress.tell(self._first + share * (self._last - self._first), doing)

    def hand_out(self, so_far: object) -> None:
        self._progress.hand_out(so_far)


class _Search:
    """The changes of one form, one after the other."""

    def __init__(self, form: Form, trace: Trace, starts: Starts, so_far: Advice, progress: Progress) -> None:
        assert form.room is not None and so_far.rose is not None
        self.form, self.room, self.trace, self.starts = form, replace(form.room, breaks=()), trace, starts
        self.rose, self.listed, self.progress = so_far.rose, so_far.starts, progress
        self._until = 0.0  # monotonic seconds
        self._before = judge_all(form, trace).everywhere

    def found(self) -> Iterator[Change]:
        """The ways to make it fit: other starts where there are any; else changes of the form and of what is wanted."""
        if any(each.near.fits for each in self.listed):
            yield from self._elsewhere()
            return
        for number, kind in enumerate((self._passes, self._shorter, self._steps, self._side, self._broken, self._less)):
            self.progress.tell(number / 6.0, "least-change")
            if kind in (
                self._passes,
                self._shorter,
                self._broken,
            ):  # to break off nearly always helps: it has a time of its own
                self._until = time.monotonic() + _SECONDS
            with suppress(TooLongError):  # other changes may do
                yield from kind()

    def _change(
        self,
        kind: HowToFit,
        does: Message,
        room: Room,
        form: Form | None = None,
        resizes: tuple[Resize, ...] = (),
        stand: Message | None = None,
    ) -> Iterator[Change]:
        """A change, if the check of the answer says that it fits."""
        made = replace(form or self.form, room=room)
        trace = self.trace if form is None else walk(made)
        near = here(made, trace)
        if not near.fits:
            return
        brings: tuple[tuple[Severity, str], ...] = ()
        if form is not None:
            brings = graver(self._before, judge_all(made, trace).everywhere)
        yield Change(kind, does, made, near, resizes, brings, stand)

    # Another start.

    def _elsewhere(self) -> Iterator[Change]:
        own = self.room.start
        at, near = self.starts.polished(self._best(own.heading), turns=False)
        if near.fits:
            yield from self._change("move", message("change.move", away=away_from(own, at)), self.room.begun_at(at))
        least = _TURN if near.fits else 0.0
        for standing in sorted(self.listed, key=lambda each: abs(heading_difference(own.heading, each.start.heading))):
            turn = heading_difference(own.heading, standing.start.heading)
            if standing.near.fits and abs(turn) > least:
                away, way = away_from(own, standing.start), "cw" if turn > 0 else "ccw"
                does = message(f"change.turn.{way}", turn=abs(turn), away=away)
                yield from self._change("turn", does, self.room.begun_at(standing.start))
                return

    def _stand(self, to: Start) -> Message | None:
        """Where to stand, if that is elsewhere."""
        own = self.room.start
        away, turn = math.hypot(to.x - own.x, to.y - own.y), heading_difference(own.heading, to.heading)
        if away < 5e-4 and abs(turn) < FACING:
            return None
        return told_turned("change.stand", own, to, away=away_from(own, to))

    def _best(self, heading: float) -> Start:
        x, y, _ = self.starts.best_of([heading])[0].tolist()
        return Start(x, y, heading)

    # Other steps.

    def _headings(self) -> list[float]:
        """Headings from the one that comes nearest to fitting on, the document's own among the first."""
        order = [HEADINGS[number] for number in np.argsort(-self.rose[:, 2]).tolist()]
        own = self.room.start.heading
        return [own, *(heading for heading in order if heading != own)]

    def _standing(self, form: Form, room: Room, headings: Sequence[float]) -> Start | None:
        """A start from which a form fits: the document's own, else one at the first of some headings that has one."""
        starts = Starts(Sweep(walk(form), room.arms), room)
        if clearance_at(starts.sweep, room, room.start).fits:
            return room.start
        return first_that_fits(starts, headings, self._until)

    def _passes(self) -> Iterator[Change]:
        """Postures done less often: those first that leave the end where it is."""
        for form, passes in fewer_forms(self.form, self.trace, self.form.home.within):
            if time.monotonic() > self._until:
                return
            start = self._standing(form, self.room, self._headings())
            if start is None:
                continue
            parts = tuple(
                message(
                    "change.pass",
                    titles=tuple(self.form.posture(name).title for name in each.postures),
                    n=each.after,
                    before=each.before,
                )
                for each in passes
            )
            does = message("change.passes", parts=parts)
            for change in self._change("passes", does, self.room.begun_at(start), form, stand=self._stand(start)):
                yield change
                return

    def _shorter(self) -> Iterator[Change]:
        """All lengths, and widths of steps to the side, by one factor: the largest of whole percents that fits.

        Whether it fits need not be monotone in it, so each is tried.
        """
        measures = measures_of(self.form, self.trace)
        if not scaled(self.form, self.trace, measures, _LEAST)[1]:
            return
        headings = sorted(self._headings(), key=lambda heading: heading != self.room.start.heading)
        for percent in range(99, round(100 * _LEAST) - 1, -1):
            if time.monotonic() > self._until:
                return
            self.progress.tell(0.2 * (99 - percent) / 50.0, "shorter-steps")
            form, resizes = scaled(self.form, self.trace, measures, percent / 100.0)
            if longer(self.trace, walk(form)):
                continue  # a step to a place that is taken over from another posture
            start = self._standing(form, self.room, headings)
            if start is None:
                continue
            longest = max((r for r in resizes if r.what == "length"), key=lambda r: r.before, default=None)
            does = message("change.shorter", percent=percent)
            if longest is not None:
                sizes = Sizes(longest.before, longest.after)
                does = message("change.shorter.longest", percent=percent, longest=sizes)
            room = self.room.begun_at(start)
            yield from self._change("shorter", does, room, form, resizes, self._stand(start))
            return

    def _steps(self) -> Iterator[Change]:
        """Single steps changed: the least sum of changes, and the fewest postures.

        If it can be, by at most a quarter of a length and with no stance becoming another one.
        """
        found = self._fitted(QUARTER)
        if not found:  # what took its time for nothing leaves as much for what may do
            self._until = time.monotonic() + _SECONDS
            found = self._fitted(math.inf)
        if not found:
            return
        least = min(found, key=lambda each: each.total)
        fewest_ = min(found, key=lambda each: (each.postures, each.total))
        ways: tuple[tuple[HowToFit, Fitted], ...] = (("steps", least), ("postures", fewest_))
        for kind, fitted in ways:
            if kind == "postures" and fitted.postures == least.postures:
                continue
            names = list(dict.fromkeys(self.form.posture(change.posture).title for change in fitted.changes))
            listed: tuple[Value, ...] = tuple(names[:3])
            if len(names) > 3:
                listed += (message("and-more", n=len(names) - 3),)
            does = message(f"change.{kind}", n=len(fitted.changes), total=fitted.total, postures=listed)
            room = self.room.begun_at(fitted.start)
            yield from self._change(kind, does, room, fitted.form, fitted.changes, self._stand(fitted.start))

    def _fitted(self, most: float) -> list[Fitted]:
        """Single steps at some headings.

        most: the part of itself by which a length may change; stances are kept where there is one.
        """
        found: list[Fitted] = []
        for number, heading in enumerate(self._headings()[:_TRIED]):
            for fewest in (False, True) if number < _FEWEST else (False,):
                self.progress.tell(0.2 + 0.2 * number / _TRIED, "smallest-changes")
                fitted = fitted_steps(self.form, self.room, self._best(heading), fewest, until=self._until, most=most)
                if fitted is not None and (math.isinf(most) or keeps_stances(self.trace, walk(fitted.form))):
                    found.append(fitted)
        return found

    def _side(self) -> Iterator[Change]:
        """The whole form as its own other side."""
        form = mirrored_form(self.form)
        start = self._standing(form, self.room, self._headings())
        if start is not None:
            room = self.room.begun_at(start)
            yield from self._change("side", message("change.side"), room, form, stand=self._stand(start))

    def _broken(self) -> Iterator[Change]:
        """The fewest places to break off and go on from another mark.

        What fits stays fitting when less of it is walked, so each stretch is as long as it can be.
        """
        order = [posture.id for posture in self.form.postures]
        at, marks = 0, list[tuple[str, Start]]()
        while at < len(order):
            if len(marks) > _BREAKS:
                return
            low, high, start = at, len(order), None
            while low < high:  # the longest stretch from here on that fits
                middle = (low + high + 1) // 2
                self.progress.tell(0.6 + 0.2 * at / len(order), "breaks")
                found = self._stretch(at, middle)
                if found is None:
                    high = middle - 1
                else:
                    low, start = middle, found
            if low == at or start is None:
                return
            marks.append((order[at], start))
            at = low
        if len(marks) < 2:
            return
        breaks = tuple(mark_of(self.trace, posture, start) for posture, start in marks[1:])
        first = marks[0][1]
        told = tuple(
            told_turned(
                "break.before",
                first,
                each.mark,
                title=self.form.posture(each.posture).title,
                n=number,
                away=away_from(first, each.mark),
            )
            for number, each in enumerate(breaks, 2)
        )
        room = replace(self.room, start=first, breaks=breaks)
        yield from self._change("break", message("change.break", breaks=told), room, stand=self._stand(first))

    def _stretch(self, first: int, after: int) -> Start | None:
        """A start from which the postures from *first* up to *after* fit."""
        rows = np.zeros(len(self.trace), dtype=bool)
        rows[int(self.trace.starts[first + 1]) if first else 0 : int(self.trace.starts[after + 1])] = True
        return first_that_fits(
            Starts(Sweep(self.trace, self.room.arms, rows), self.room), self._headings(), self._until
        )

    # Less that is wanted.

    def _less(self) -> Iterator[Change]:
        """The clearance there can be, and the arms drawn in."""
        room = self.room
        rooms: list[tuple[HowToFit, Room, Standing]] = [("clearance", room, best) for best in self.listed[:1]]
        if room.arms:
            bare = replace(room, arms=False)
            starts = Starts(Sweep(self.trace), bare)
            listed = starts.listed(starts.best_of(), most=3)
            rooms += [("arms", bare, best) for best in listed[:1]]
        for kind, asked, standing in rooms:
            made = less_wanted(Sweep(self.trace, asked.arms), asked.begun_at(standing.start))
            if made is None or (kind == "clearance" and made == asked.begun_at(standing.start)):
                continue
            less = tuple(
                message(f"less.{where}", change=Sizes(before, after))
                for before, after, where in (
                    (room.clearance, made.clearance, "around"),
                    (room.behind, made.behind, "behind"),
                )
                if after < before - 5e-4
            )
            does = message(f"change.{kind}.less", less=less) if less else message(f"change.{kind}")
            yield from self._change(kind, does, made, stand=self._stand(standing.start))
