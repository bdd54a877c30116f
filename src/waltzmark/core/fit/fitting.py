"""The nearest form that a body can walk: what it is stopped or cautioned for is put right by the cheapest moves.

It is no general optimiser: the first thing that is wrong is looked at, what may be done about it is tried in the order
of its price, each walked and judged, and what clears it without bringing anything new is kept. In the end whatever can
be left out is left out again.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from waltzmark.core.base.messages import Message
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record, replace
from waltzmark.core.body.body import Body
from waltzmark.core.edit.forms import detached
from waltzmark.core.fit.depths import governed, higher_moves, sunk_rows
from waltzmark.core.fit.move import Kind, Move
from waltzmark.core.fit.moves import moves_for
from waltzmark.core.fit.rewriting import Place, Rewritten
from waltzmark.core.fit.troubles import Key, Trouble, known_troubles, new_troubles
from waltzmark.core.form.form import Form
from waltzmark.core.home.ledger import Return, check_return
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import judge_all
from waltzmark.core.judge.registry import Case
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["Change", "ChangedLine", "Fitted", "fitted"]

#: Moves that may have to go together, how many that bring something new are followed, and how many walks that may take.
_DEEP, _WIDE, _WALKS = 3, 4, 150
#: Places in which a passage is too deep, from which on its own bend is looked at.
_SEVERAL = 3


class ChangedLine(Record):
    """A line of the score, and what stands for it: nothing, itself otherwise, or several. count: its number in the
    posture as written; before, after: as they are to be read."""

    posture: str
    count: int
    before: tuple[Count, ...]
    after: tuple[Count, ...]


class Change(Record):
    """What belongs together of what is changed. kind: what it is a change of; does: what it does; why: the finding that
    it puts right; also: postures that take their counts from the one that is changed."""

    kind: Kind
    does: Message
    why: Finding
    lines: tuple[ChangedLine, ...]
    also: tuple[str, ...] = ()

    @property
    def posture(self) -> str | None:
        return self.lines[0].posture if self.lines else self.why.posture

    @property
    def count(self) -> int:
        return self.lines[0].count if self.lines else self.why.count


class Fitted(Record, eq=False):
    """A form fitted to a body. left: what that body is still stopped or cautioned for, and the written form is not;
    back: where it ends; rewritten: as it was made."""

    form: Form
    changes: tuple[Change, ...]
    left: tuple[Finding, ...]
    back: Return
    trace: Trace
    rewritten: Rewritten
    places: tuple[tuple[Place, ...], ...]
    linked: Form

    @property
    def fits(self) -> bool:
        return not self.left

    def without(self, number: int) -> Form:
        """The form with one of the changes left out."""
        back = self.rewritten.undone(dict.fromkeys(self.places[number]))
        if not self.places[number]:
            back = replace(back, support=False)
        return _linked(back, self.linked)


class _ApartError(Exception):
    """Postures that share their counts have to differ: the one that has them."""

    def __init__(self, root: str) -> None:
        self.root = root


class _State(NamedTuple):
    """A form on its way, with its walk and what is wrong with it."""

    rewritten: Rewritten
    trace: Trace
    wrong: dict[Key, Trouble]


class _Step(NamedTuple):
    """A move that was made: what stood in the places that it touched, None for what was written."""

    move: Move
    why: Finding
    before: dict[Place, tuple[Count, ...] | None]


def fitted(form: Form, body: Body, progress: Progress = SILENT) -> Fitted:
    """The nearest form to one that another body can walk.

    Nothing is left that this body is stopped or cautioned for, unless the body that the form was written for is so too
    and as much, or nothing could be found. The room, home and everything else of the form stay.
    """
    apart: set[str] = set()
    while True:
        try:
            return _Search(form, body, apart, progress).found()
        except _ApartError as one:
            apart.add(one.root)


class _Search:
    def __init__(self, form: Form, body: Body, apart: set[str], progress: Progress) -> None:
        self.written, self.progress = form, progress
        self.usual = Case(form, walk(form))
        own = form
        for posture in form.postures:
            if posture.source is not None and _root(form, posture.id) in apart:
                passage = self.usual.trace.passages[form.index(posture.id) + 1]
                own = detached(own, posture.id, passage.lines)
        self.source = replace(own, body=body)
        self.linked = replace(form, body=body)
        plain = Rewritten(own)
        trace = self.usual.trace
        self.rows = {(trace.posture(row), trace.line(row)): row for row in range(1, len(trace))}
        self.before = known_troubles(
            judge_all(form, trace).everywhere, lambda f: plain.origin(f.posture, trace.line(f.row)), all_notes=True
        )
        self.walks = 0

    def state(self, rewritten: Rewritten, near: Trace | None = None) -> _State:
        """A form walked and judged."""
        form = rewritten.form
        trace = walk(form, near)
        found = known_troubles(
            judge_all(form, trace).everywhere, lambda f: rewritten.origin(f.posture, trace.line(f.row))
        )
        self.walks += 1
        return _State(rewritten, trace, new_troubles(found, self.before))

    def found(self) -> Fitted:
        """The fitted form. Raises _ApartError."""
        now = self.state(Rewritten(self.source))
        steps: list[_Step] = []
        for row in sunk_rows(now.trace):
            now, made = self._higher(now, row)
            steps += made
        given_up: set[Key] = set()
        all_of_it = max(len(now.wrong), 1)
        while open_ := [each for key, each in now.wrong.items() if key not in given_up]:
            self.progress.tell(min(1.0 - len(open_) / all_of_it, 0.99), "fitting")
            first = self._first(now, open_)
            self.walks = 0
            then, made = self._cleared(now, first.key, _DEEP)
            if then is None:
                self._look_before(now, first)
                given_up.add(first.key)
                continue
            # What a move brings and another one clears is done for what the first was for.
            steps += [each._replace(why=first.finding) for each in made]
            now = then
        now, steps = self._needed(now, steps)
        return self._told(now, steps)

    def _higher(self, now: _State, row: int) -> tuple[_State, list[_Step]]:
        """A bend that is written once and holds for a passage, less deep where it is too deep in several places: as
        deep as leaves the least that is wrong."""
        deep = [each for each in now.wrong.values() if governed(now.trace, row, each.finding)]
        if len(deep) < _SEVERAL:
            return now, []
        best: tuple[int, _State, Move] | None = None
        for move in higher_moves(Case(now.rewritten.form, now.trace), row):
            self.progress.tell(0.0, "fitting")
            then = self._moved(now, deep[0], move)
            if then is None:
                continue
            if best is None or len(then.wrong) < best[0]:
                best = len(then.wrong), then, move
        if best is None or best[0] > len(now.wrong) - _SEVERAL:
            return now, []
        return best[1], [_Step(best[2], deep[0].finding, _touched(now.rewritten, best[1].rewritten))]

    def _first(self, now: _State, open_: list[Trouble]) -> Trouble:
        """The first that is wrong. What postures that share their counts have in common is put right where those are;
        what not all of them have asks for counts of their own."""
        first = min(open_, key=lambda each: each.finding.row)
        name = first.finding.posture
        if name is None:
            return first
        root = now.rewritten.root(name)
        sharing = {p.id for p in self.source.postures if now.rewritten.root(p.id) == root}
        if len(sharing) == 1:
            return first
        rule, _, line, _ = first.key
        alike = [each for key, each in now.wrong.items() if (key[0], key[2]) == (rule, line) and key[1] in sharing]
        if {each.finding.posture for each in alike} != sharing:
            raise _ApartError(root)
        return next((each for each in alike if each.finding.posture == root and each in open_), first)

    def _look_before(self, now: _State, trouble: Trouble) -> None:
        """What nothing helps may have its cause in the posture before: one that shares its counts gets its own."""
        number = int(now.trace.passage_of[trouble.finding.row])
        name = now.trace.passages[number - 1].posture if number > 1 else None
        if name is not None:
            root = now.rewritten.root(name)
            if any(p.source is not None and now.rewritten.root(p.id) == root for p in self.source.postures):
                raise _ApartError(root)

    def _cleared(self, now: _State, key: Key, deep: int) -> tuple[_State | None, list[_Step]]:
        """The form without one thing that is wrong, and nothing else instead; None where nothing helps."""
        trouble = now.wrong[key]
        instead: list[tuple[int, int, _State, _Step]] = []
        for number, move in enumerate(self._moves(now, trouble)):
            if self.walks > _WALKS:
                break
            self.progress.tell(0.0, "fitting")
            then = self._moved(now, trouble, move)
            if then is None or (key in then.wrong and then.wrong[key].excess > trouble.excess - 1e-6):
                continue
            step = _Step(move, trouble.finding, _touched(now.rewritten, then.rewritten))
            new = [each for each in then.wrong if each not in now.wrong]
            if key not in then.wrong and not new:
                return self._finer(now, trouble, move) or (then, [step])
            instead.append((len(new) + (key in then.wrong), number, then, step))
        if deep > 1:
            for _, _, then, step in sorted(instead, key=lambda each: each[:2])[:_WIDE]:
                end, more = self._cleared_of(then, now, key, deep - 1)
                if end is not None:
                    return end, [step, *more]
        return None, []

    def _cleared_of(self, then: _State, now: _State, key: Key, deep: int) -> tuple[_State | None, list[_Step]]:
        """The same of all that a move has brought, and of what it left of what it was for."""
        steps: list[_Step] = []
        for _ in range(deep):
            worse = [each for each in then.wrong if each == key or each not in now.wrong]
            if not worse:
                return then, steps
            next_, made = self._cleared(then, worse[0], 1)
            if next_ is None:
                return None, []
            then, steps = next_, [*steps, *made]
        still = any(each == key or each not in now.wrong for each in then.wrong)
        return (None, []) if still else (then, steps)

    def _finer(self, now: _State, trouble: Trouble, move: Move) -> tuple[_State, list[_Step]] | None:
        """The same by the least that is enough, where a move comes in finer steps."""
        for mend in move.finer:
            less = move._replace(does=mend.does, mend=mend)
            then = self._moved(now, trouble, less)
            if then is not None and trouble.key not in then.wrong and all(each in now.wrong for each in then.wrong):
                return then, [_Step(less, trouble.finding, _touched(now.rewritten, then.rewritten))]
        return None

    def _moves(self, now: _State, trouble: Trouble) -> list[Move]:
        row = trouble.finding.row
        posture = now.trace.posture(row)
        was = self.rows.get((posture, trouble.key[2])) if posture is not None else None
        return moves_for(Case(now.rewritten.form, now.trace), self.usual, trouble.finding, row, was)

    def _moved(self, now: _State, trouble: Trouble, move: Move) -> _State | None:
        """The form with a move made; None where it changes nothing."""
        mend = move.mend
        if mend is None:
            then = replace(now.rewritten, support=True)
        else:
            about = now.trace.line(trouble.finding.row) if mend.posture == trouble.finding.posture else mend.start
            then = now.rewritten.mended(mend.posture, mend.start, mend.stop, mend.lines, about)
        if then.changed == now.rewritten.changed and then.support == now.rewritten.support:
            return None
        return self.state(then, now.trace)

    # What is needed of it, and how it is told.

    def _needed(self, now: _State, steps: list[_Step]) -> tuple[_State, list[_Step]]:
        """Without every step that nothing needs, the dearest first: later ones may have done its work."""
        price = self.source.school.price
        again = True
        while again:
            again = False
            for step in sorted(steps, key=lambda each: -price(each.move.kind)):
                later = steps[steps.index(step) + 1 :]
                if any(place in each.before for each in later for place in step.before):
                    continue
                back = now.rewritten.undone(step.before)
                if step.move.mend is None:
                    back = replace(back, support=False)
                then = self.state(back, now.trace)
                if not new_troubles(then.wrong, now.wrong):
                    now, steps, again = then, [each for each in steps if each is not step], True
                    break
        for places in filter(None, _together(steps)):  # and of lines that several steps have changed, all of them
            then = self.state(now.rewritten.undone(dict.fromkeys(places)), now.trace)
            if not new_troubles(then.wrong, now.wrong):
                now, steps = then, [each for each in steps if not places & each.before.keys()]
        return now, steps

    def _told(self, now: _State, steps: list[_Step]) -> Fitted:
        form = _linked(now.rewritten, self.linked)
        trace = walk(form, now.trace)
        changes, places = list[Change](), list[tuple[Place, ...]]()
        for group in _together(steps):
            own = [each for each in steps if (each.before.keys() & group) or (not group and not each.before)]
            shown = sorted((place for place in group if place in now.rewritten.changed), key=self._order)
            if group and not shown:
                continue
            main = [place for place in shown if form.posture(place[0]).source is None]
            if group and not main:
                continue  # told of the posture whose counts these are again
            lines = tuple(self._line(now.rewritten, place) for place in main)
            also = tuple(
                posture.id
                for posture in form.postures
                if posture.source is not None and main and _root(form, posture.id) == main[0][0]
            )
            first = own[0]
            changes.append(Change(first.move.kind, first.move.does, first.why, lines, also))
            others = {(name, at) for name in also for _, at in main if (name, at) in now.rewritten.changed}
            places.append((*shown, *sorted(others - set(shown), key=self._order)))
        ranked = sorted(range(len(changes)), key=lambda n: self._order(places[n][0]) if places[n] else (-1, 0))
        left = sorted((each.finding for each in now.wrong.values()), key=lambda f: f.row)
        return Fitted(
            form,
            tuple(changes[n] for n in ranked),
            tuple(left),
            check_return(trace, form),
            trace,
            now.rewritten,
            tuple(places[n] for n in ranked),
            self.linked,
        )

    def _order(self, place: Place) -> tuple[int, int]:
        return self.source.index(place[0]), place[1]

    def _line(self, rewritten: Rewritten, place: Place) -> ChangedLine:
        own = self.source.posture(place[0]).lines
        count = sum(line.moves for line in own[: place[1] + 1])
        return ChangedLine(place[0], count, (own[place[1]],), rewritten.changed[place])


def _touched(one: Rewritten, other: Rewritten) -> dict[Place, tuple[Count, ...] | None]:
    """What stood in the places in which two differ."""
    places = {p for p in {*one.changed, *other.changed} if one.changed.get(p) != other.changed.get(p)}
    return {place: one.changed.get(place) for place in places}


def _together(steps: Iterable[_Step]) -> list[set[Place]]:
    """The places that steps have touched, those together that one step or several after each other have; an empty one
    for what touches no line."""
    groups: list[set[Place]] = []
    for step in steps:
        mine = set(step.before)
        if mine:
            for group in [each for each in groups if each & mine]:
                groups.remove(group)
                mine |= group
        groups.append(mine)
    return groups


def _root(form: Form, name: str) -> str:
    posture = form.posture(name)
    while posture.source is not None:
        posture = form.posture(posture.source)
    return posture.id


def _linked(rewritten: Rewritten, linked: Form) -> Form:
    """The form with postures that had to be looked at by themselves tied to their sources again, where they are still
    what those make of them."""
    form = rewritten.form
    roots = {place[0] for place in rewritten.changed}
    for posture in linked.postures:
        own = form.posture(posture.id)
        if posture.source is None or own.source is not None:
            continue
        tied = form.with_posture(posture)
        untouched = posture.id not in roots and _root(linked, posture.id) not in roots
        spots = any(line.spots for line in own.lines)
        if untouched or (not spots and tied.lines(tied.posture(posture.id)) == own.lines):
            form = tied
    return form
