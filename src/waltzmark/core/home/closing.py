"""What brings a form home, as a teacher would do it: how often a run is done, a turn, lengths, and both.

What is found is walked again, and told as it then is. When the facing is off, single turns are tried first. Unless
asked otherwise lengths change by at most a quarter, and no stance becomes another one.
"""

from __future__ import annotations

from collections.abc import Collection

import numpy as np

from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record, replace
from waltzmark.core.base.units import LengthUnit
from waltzmark.core.edit.passes import Passing, passed_forms
from waltzmark.core.edit.resizing import Resize
from waltzmark.core.form.form import Form
from waltzmark.core.home.adding import Added, added_forms
from waltzmark.core.home.ledger import Return, check_return
from waltzmark.core.home.length_search import CLOSED, LengthSearch
from waltzmark.core.home.turning import Turning, turned_forms
from waltzmark.core.judge.compare import graver
from waltzmark.core.judge.finding import Finding, Severity
from waltzmark.core.judge.judging import judge_all
from waltzmark.core.walk.lengths import TooLongError
from waltzmark.core.walk.naming import keeps_stances
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["CLOSED", "Closing", "Closings", "closings"]

_NEAR = 0.15  # metres from home to which a pass alone brings it
_BETTER = 0.6  # of the distance now, that a pass leaves at the most
_SMALL = 1e-6
#: In which order they are told.
_ORDER = ("passes", "turn", "fewest", "least", "even", "added", "near")


class Closing(Record):
    """One way home.

    kind: *passes*, *turn*, *fewest*, *least*, *even*, *added* or *near*; does: what it is; form: with it made; passes:
    runs that are done another number of times; changes: of lengths, turns: of facings; added: steps that are put in;
    distance, turn: what is left of the way home and of the facing; brings: new stops and cautions.
    """

    kind: str
    does: Message
    form: Form
    changes: tuple[Resize, ...]
    turns: tuple[Turning, ...]
    distance: float
    turn: float
    brings: tuple[tuple[Severity, str], ...] = ()
    passes: tuple[Passing, ...] = ()
    added: Added | None = None

    @property
    def total(self) -> float:
        """The sum of all changes of lengths, metres."""
        return sum(change.by for change in self.changes)

    def called(self, name: str) -> Form:
        """The form with it made, plain steps that were put in called by a name."""
        if self.added is None:
            return self.form
        own = self.added.posture
        postures = tuple(replace(each, name=name) if each.id == own else each for each in self.form.postures)
        return replace(self.form, postures=postures)


class Closings(Record):
    """The ways home there are, and when there is none, how near it gets and what stands in the way."""

    every: tuple[Closing, ...]
    nearest: Message | None = None


def closings(
    form: Form,
    locked: Collection[str] = (),
    unit: LengthUnit = "cm",
    progress: Progress = SILENT,
    freely: bool = False,
) -> Closings:
    """What brings a form home to a centimetre and a degree; where nothing does, the least that counts as home.

    locked: postures that are left alone, besides the form's own; unit: lengths come to whole ones of it where that is
    inches, else to whole centimetres; freely: lengths change as far as body and school let them, else by at most a
    quarter, and no stance becomes another. What is known so far is handed out on the way.
    """
    trace = walk(form)
    now = check_return(trace, form)
    if not form.postures:
        return Closings((), message("closing.no-posture"))
    if now.distance <= CLOSED[0] and abs(now.turn) <= CLOSED[1]:
        return Closings((), message("closing.home"))
    spared = {*locked, *form.home.locked}
    found: list[Closing] = []
    walks: dict[int, Trace] = {}
    nearest: Message | None = None
    bases: list[tuple[Form, tuple[Turning, ...]]] = [(form, ())]
    passed = _by_passes(form, trace, now, spared, unit, progress, freely)
    for closing, walked in passed:
        found.append(closing)
        walks[id(closing.form)] = walked
    if found:
        progress.hand_out(Closings(tuple(found)))
    if abs(now.turn) > CLOSED[1]:
        bases = turned_forms(form, trace, now.turn, spared, progress)
        if not bases and not found:
            return Closings((), message("closing.no-turn", off=abs(now.turn)))
    for base, turns in bases:
        try:
            search = LengthSearch(base, trace if base is form else walk(base, trace), spared, unit, progress, freely)
        except TooLongError as error:
            nearest = error.message
            break
        for kind, made, changes in search.found():
            if kind == "near" and now.good:
                continue
            walked = walk(made, search.trace)
            then = check_return(walked, made)
            limit = form.home.within if kind == "near" else 2 * CLOSED[0] + _SMALL
            if then.distance > limit or abs(then.turn) > CLOSED[1]:
                continue  # a step landed otherwise than it did: what was promised is not what happens
            if not freely and not keeps_stances(search.trace, walked):
                continue
            same = next((e for e in found if (e.changes, e.turns, e.passes) == (changes, turns, ())), None)
            if same is not None and _ORDER.index(kind) > _ORDER.index(same.kind):
                continue
            if same is not None:
                found.remove(same)
            does = _does(kind, changes, turns, then)
            found.append(Closing(kind, does, made, changes, turns, then.distance, then.turn))
            walks[id(made)] = walked
            found.sort(key=_order)
            progress.hand_out(Closings(tuple(found)))
        nearest = nearest or search.nearest
    before: tuple[Finding, ...] | None = None
    plain: list[tuple[int, Closing]] = []
    for made, added in added_forms(form, trace, np.array(now.offset), spared) if abs(now.turn) <= CLOSED[1] else ():
        walked = walk(made, trace)
        then = check_return(walked, made)
        if then.distance > min(form.home.within, _NEAR) or abs(then.turn) > CLOSED[1]:
            continue
        after, left = form.posture(added.after).title, then.distance
        does = message("closing.added", n=added.steps, after=after)
        if left > CLOSED[0]:
            does = message("closing.added.left", n=added.steps, after=after, left=left)
        closing = Closing("added", does, made, (), (), then.distance, then.turn, added=added)
        walks[id(made)] = walked
        before = judge_all(form, trace).everywhere if before is None else before
        brings = graver(before, judge_all(made, walked).everywhere)
        plain.append((len(brings), closing))
        if not brings:
            break
    if plain:  # the first that brings nothing along, else the one that brings least
        found.append(min(plain, key=lambda each: each[0])[1])
        found.sort(key=_order)
    exact = [each for each in found if each.kind != "near"]
    found = exact or sorted(found, key=lambda each: (each.distance, _order(each)))[:1]
    # What they bring along takes longer than they do.
    if before is None:
        before = judge_all(form, trace).everywhere if found else ()
    judged = tuple(
        replace(each, brings=graver(before, judge_all(each.form, walks[id(each.form)]).everywhere)) for each in found
    )
    return Closings(judged, None if exact else nearest or message("closing.not-by-lengths"))


def _order(closing: Closing) -> tuple[int, ...]:
    """As a teacher would offer them: how often alone, turns, lengths; then how often with lengths."""
    both = bool(closing.passes and closing.changes)
    return both, len(closing.turns), _ORDER.index(closing.kind)


def _by_passes(
    form: Form,
    trace: Trace,
    now: Return,
    spared: Collection[str],
    unit: LengthUnit,
    progress: Progress,
    freely: bool,
) -> list[tuple[Closing, Trace]]:
    """The best way home by how often something is done, and the best with lengths besides; each with its walk."""
    progress.tell(0.05, "closings")
    tried: list[tuple[Form, tuple[Passing, ...], Trace, Return]] = []
    for made, passes, _ in passed_forms(form, trace, np.array(now.offset), spared):
        walked = walk(made, trace)
        then = check_return(walked, made)
        if then.distance < _BETTER * now.distance and abs(then.turn) <= max(abs(now.turn), CLOSED[1]):
            tried.append((made, passes, walked, then))
    found: list[tuple[Closing, Trace]] = []
    for made, passes, walked, then in tried:
        if then.distance <= min(form.home.within, _NEAR) and abs(then.turn) <= CLOSED[1]:
            does = _does("passes", (), (), then, passes, form)
            found.append((Closing("passes", does, made, (), (), then.distance, then.turn, passes=passes), walked))
            break
    for made, passes, walked, then in tried:
        if then.distance <= CLOSED[0] or abs(then.turn) > CLOSED[1]:
            continue
        try:
            search = LengthSearch(made, walked, spared, unit, progress, freely)
        except TooLongError:
            break
        for _, fitted, changes in search.found():
            again = walk(fitted, walked)
            end = check_return(again, fitted)
            kept = freely or keeps_stances(walked, again)
            if end.distance <= 2 * CLOSED[0] + _SMALL and abs(end.turn) <= CLOSED[1] and kept:
                does = _does("passes", changes, (), end, passes, form)
                closing = Closing("passes", does, fitted, changes, (), end.distance, end.turn, passes=passes)
                return [*found, (closing, again)]
        break  # what is further from home asks for more
    return found


def _does(
    kind: str,
    changes: tuple[Resize, ...],
    turns: tuple[Turning, ...],
    then: Return,
    passes: tuple[Passing, ...] = (),
    form: Form | None = None,
) -> Message:
    """What a closing does. form: the one whose postures are done more or less often."""
    parts: tuple[Message, ...] = (message("closing.turns", n=len(turns)),) if turns else ()
    for each in passes:
        assert form is not None
        titles = tuple(form.posture(name).title for name in each.postures)
        more = each.after - each.before
        parts += (
            message(f"closing.pass.{'less' if more < 0 else 'more' if more == 1 else 'often'}", titles=titles, n=more),
        )
    if kind == "even" and changes:
        parts += (message("closing.lengths.even", n=len(changes), most=max(change.by for change in changes)),)
    elif changes:
        parts += (message("closing.lengths", n=len(changes), total=sum(change.by for change in changes)),)
    if then.distance > CLOSED[0] / 2 + 1e-9:
        return message(f"closing.{kind}.left", parts=parts, left=then.distance)
    return message(f"closing.{kind}", parts=parts)
