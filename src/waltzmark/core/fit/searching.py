"""The search for the nearest form that a body can walk: which moves clear what is wrong, and which are needed."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from typing import NamedTuple

from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.edit.forms import detached
from waltzmark.core.fit.depths import governed, higher_moves, sunk_rows
from waltzmark.core.fit.move import Move
from waltzmark.core.fit.moves import moves_for
from waltzmark.core.fit.rewriting import Place, Rewritten
from waltzmark.core.fit.troubles import Key, Trouble, known_troubles, new_troubles
from waltzmark.core.form.form import Form, Home, Posture
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import judge_all
from waltzmark.core.judge.registry import Case
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["ApartError", "Search", "State", "Step", "root_of", "together"]

#: Moves that may have to go together, how many that bring something new are followed, and how many walks that may take.
_DEEP, _WIDE, _WALKS = 3, 4, 150
#: Times that all is looked at again for what was brought further off.
_LOOKS = 4
#: Places in which a passage is too deep, from which on its own bend is looked at.
_SEVERAL = 3


class ApartError(Exception):
    """Postures that share their counts have to differ: the one that has them."""

    def __init__(self, root: str) -> None:
        self.root = root


class State(NamedTuple):
    """A form on its way, with its walk and what is wrong with it."""

    rewritten: Rewritten
    trace: Trace
    wrong: dict[Key, Trouble]


class Step(NamedTuple):
    """A move that was made: what stood in the places that it touched, None for what was written."""

    move: Move
    why: Finding
    before: dict[Place, tuple[Count, ...] | None]


class Near:
    """Walks and judges a few postures by themselves, in the pose that they are entered in.

    What is tried hundreds of times need not walk all of a form. What it finds good is looked at as a whole afterwards.
    """

    def __init__(self, search: Search, now: State, at: int | None) -> None:
        """at: the number of the posture in the middle; None for the whole form."""
        self._search, self._now, self._at = search, now, at

    def wrong(self, rewritten: Rewritten) -> dict[Key, Trouble]:
        """What is wrong there in a form on its way."""
        if self._at is None:
            return self._search.state(rewritten, self._now.trace).wrong
        self._search.walks += 1
        form, first = rewritten.form, max(self._at - 1, 0)
        part = tuple(
            Posture(posture.id, posture.name, form.lines(posture), form.ends(posture))
            for posture in form.postures[first : self._at + 2]
        )
        few = replace(form, postures=part, mutes=(), home=Home())
        trace = walk(few, self._now.trace, self._now.trace.passages[first].exit)
        found = known_troubles(
            judge_all(few, trace).everywhere, lambda f: rewritten.origin(f.posture, trace.line(f.row))
        )
        return new_troubles(found, self._search.before)

    def state(self, rewritten: Rewritten) -> State:
        """A form walked, and judged near by; what was known of the rest of it is taken to hold."""
        if self._at is None:
            return self._search.state(rewritten, self._now.trace)
        trace, form = walk(rewritten.form, self._now.trace), rewritten.form
        seen = {posture.id for posture in form.postures[max(self._at - 1, 0) : self._at + 2]}
        kept = {key: each for key, each in self._now.wrong.items() if key[1] not in seen}
        wrong = {
            key: Trouble(key, replace(each.finding, row=trace.row_of(each.finding.posture, each.finding.count)))
            for key, each in (kept | self.wrong(rewritten)).items()
        }
        return State(rewritten, trace, wrong)


class Search:
    """Looks for the nearest form that a body can walk."""

    def __init__(self, form: Form, body: Body, apart: set[str], progress: Progress) -> None:
        self.written, self.progress = form, progress
        self.usual = Case(form, walk(form))
        own = form
        for posture in form.postures:
            if posture.source is not None and root_of(form, posture.id) in apart:
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
        self.spots = any(line.spots for posture in own.postures for line in posture.lines)
        self.walks = 0

    def state(self, rewritten: Rewritten, near: Trace | None = None) -> State:
        """A form walked and judged."""
        form = rewritten.form
        trace = walk(form, near)
        found = known_troubles(
            judge_all(form, trace).everywhere, lambda f: rewritten.origin(f.posture, trace.line(f.row))
        )
        self.walks += 1
        return State(rewritten, trace, new_troubles(found, self.before))

    def found(self) -> tuple[State, list[Step]]:
        """The form that was found, and the moves that made it. Raises ApartError."""
        now = self.state(Rewritten(self.source))
        steps: list[Step] = []
        for row in sunk_rows(now.trace):
            now, made = self._higher(now, row)
            steps += made
        given_up: set[Key] = set()
        all_of_it = max(len(now.wrong), 1)
        looks = 0
        while True:
            open_ = [each for key, each in now.wrong.items() if key not in given_up]
            if not open_:
                # What was looked at near by is looked at as a whole.
                now = self.state(now.rewritten, now.trace)
                open_ = [each for key, each in now.wrong.items() if key not in given_up]
                looks += 1
                if not open_ or looks > _LOOKS:
                    break
            self.progress.tell(min(1.0 - len(open_) / all_of_it, 0.99), "fitting")
            first, alike = self._first(now, open_)
            self.walks = 0
            then, made = self._cleared(now, first.key, alike, _DEEP)
            if then is None:
                if len(alike) > 1:
                    raise ApartError(now.rewritten.root(first.finding.posture or ""))
                self._look_before(now, first)
                given_up.add(first.key)
                continue
            # What a move brings and another one clears is done for what the first was for.
            steps += [each._replace(why=first.finding) for each in made]
            now = then
        return self._needed(now, steps)

    def _higher(self, now: State, row: int) -> tuple[State, list[Step]]:
        """A bend that is written once and holds for a passage, less deep where it is too deep.

        In several places at once: as deep as leaves the least that is wrong.
        """
        deep = [each for each in now.wrong.values() if governed(now.trace, row, each.finding)]
        if len(deep) < _SEVERAL:
            return now, []
        best: tuple[int, State, Move] | None = None
        for move in higher_moves(Case(now.rewritten.form, now.trace), row):
            self.progress.tell(0.0, "fitting")
            then = self._moved(now, deep[0], move)
            if then is None:
                continue
            if best is None or len(then.wrong) < best[0]:
                best = len(then.wrong), then, move
        if best is None or best[0] > len(now.wrong) - _SEVERAL:
            return now, []
        return best[1], [Step(best[2], deep[0].finding, _touched(now.rewritten, best[1].rewritten))]

    def _first(self, now: State, open_: list[Trouble]) -> tuple[Trouble, frozenset[Key]]:
        """The first that is wrong, and all that is the same in postures that share its counts.

        What all of those have, or one of every side that they are walked on, is put right where the counts are written;
        else each gets counts of its own.
        """
        first = min(open_, key=lambda each: each.finding.row)
        alone = first, frozenset({first.key})
        name = first.finding.posture
        if name is None:
            return alone
        root = now.rewritten.root(name)
        sharing = {p.id for p in self.source.postures if now.rewritten.root(p.id) == root}
        if len(sharing) == 1:
            return alone
        rule, _, line, _ = first.key
        alike = {key: each for key, each in now.wrong.items() if (key[0], key[2]) == (rule, line) and key[1] in sharing}
        sides = {each.finding.posture: self._mirrored(each.finding.posture or "") for each in alike.values()}
        main = next((each for each in alike.values() if each.finding.posture == root and each in open_), None)
        if main is None or set(sides.values()) != {self._mirrored(posture) for posture in sharing}:
            raise ApartError(root)
        return main, frozenset(alike)

    def _mirrored(self, name: str) -> bool:
        """Whether a posture walks its counts on the other side than they are written."""
        posture, other = self.source.posture(name), False
        while posture.source is not None:
            other ^= posture.mirror_of is not None
            posture = self.source.posture(posture.source)
        return other

    def _look_before(self, now: State, trouble: Trouble) -> None:
        """What nothing helps may have its cause in the posture before: one that shares its counts gets its own."""
        number = int(now.trace.passage_of[trouble.finding.row])
        name = now.trace.passages[number - 1].posture if number > 1 else None
        if name is not None:
            root = now.rewritten.root(name)
            if any(p.source is not None and now.rewritten.root(p.id) == root for p in self.source.postures):
                raise ApartError(root)

    def _cleared(self, now: State, key: Key, alike: frozenset[Key], deep: int) -> tuple[State | None, list[Step]]:
        """The form without one thing that is wrong, and nothing else instead; None where nothing helps.

        alike: the same thing wherever it is to be cleared.
        """
        trouble = now.wrong[key]
        instead: list[tuple[int, int, Rewritten, Step]] = []
        near = self._near(now, trouble) if len(alike) == 1 else Near(self, now, None)
        for number, move in enumerate(self._moves(now, trouble)):
            if self.walks > _WALKS:
                break
            self.progress.tell(0.0, "fitting")
            made = self._made(now, trouble, move)
            wrong = None if made is None else near.wrong(made)
            if made is None or wrong is None or (key in wrong and wrong[key].excess > trouble.excess - 1e-6):
                continue
            step = Step(move, trouble.finding, _touched(now.rewritten, made))
            new = [each for each in wrong if each not in now.wrong]
            left = len(alike & wrong.keys())
            if not left and not new:
                then = near.state(made)
                if not _worse(then, now, alike):
                    return self._finer(now, trouble, alike, move, near) or (then, [step])
            instead.append((len(new) + left, number, made, step))
        if deep > 1:
            for _, _, made, step in sorted(instead, key=lambda each: each[:2])[:_WIDE]:
                end, more = self._cleared_of(self.state(made, now.trace), now, alike, deep - 1)
                if end is not None:
                    return end, [step, *more]
        return None, []

    def _cleared_of(self, then: State, now: State, alike: frozenset[Key], deep: int) -> tuple[State | None, list[Step]]:
        """The same of all that a move has brought, and of what it left of what it was for."""
        steps: list[Step] = []
        for _ in range(deep):
            worse = _worse(then, now, alike)
            if not worse:
                return then, steps
            next_, made = self._cleared(then, worse[0], frozenset({worse[0]}), 1)
            if next_ is None:
                return None, []
            then, steps = next_, [*steps, *made]
        return (None, []) if _worse(then, now, alike) else (then, steps)

    def _finer(
        self, now: State, trouble: Trouble, alike: frozenset[Key], move: Move, near: Near
    ) -> tuple[State, list[Step]] | None:
        """The same by the least that is enough, where a move comes in finer steps."""
        for mend in move.finer:
            less = move._replace(does=mend.does, mend=mend)
            made = self._made(now, trouble, less)
            if made is None or any(each not in now.wrong or each in alike for each in near.wrong(made)):
                continue
            then = near.state(made)
            if not _worse(then, now, alike):
                return then, [Step(less, trouble.finding, _touched(now.rewritten, made))]
        return None

    def _near(self, now: State, trouble: Trouble) -> Near:
        """What looks at a trouble and its neighbours alone; at everything, where it is not seen like that."""
        posture = trouble.finding.posture
        if posture is not None and not self.spots:
            near = Near(self, now, self.source.index(posture))
            if trouble.key in near.wrong(now.rewritten):
                return near
        return Near(self, now, None)

    def _moves(self, now: State, trouble: Trouble) -> list[Move]:
        row = trouble.finding.row
        posture = now.trace.posture(row)
        was = self.rows.get((posture, trouble.key[2])) if posture is not None else None
        return moves_for(Case(now.rewritten.form, now.trace), self.usual, trouble.finding, row, was)

    def _moved(self, now: State, trouble: Trouble, move: Move) -> State | None:
        """The form with a move made, walked and judged; None where it changes nothing."""
        made = self._made(now, trouble, move)
        return None if made is None else self.state(made, now.trace)

    def _made(self, now: State, trouble: Trouble, move: Move) -> Rewritten | None:
        """The form with a move made; None where it changes nothing."""
        mend = move.mend
        if mend is None:
            then = replace(now.rewritten, support=True)
        else:
            about = now.trace.line(trouble.finding.row) if mend.posture == trouble.finding.posture else mend.start
            then = now.rewritten.mended(mend.posture, mend.start, mend.stop, mend.lines, about)
        if then.changed == now.rewritten.changed and then.support == now.rewritten.support:
            return None
        return then

    # What is needed of it.

    def _needed(self, now: State, steps: list[Step]) -> tuple[State, list[Step]]:
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
                if self._is_missed(now, step.before, back):
                    continue
                then = self.state(back, now.trace)
                if not new_troubles(then.wrong, now.wrong):
                    now, steps, again = then, [each for each in steps if each is not step], True
                    break
        for places in filter(None, together(steps)):  # and of lines that several steps have changed, all of them
            back = now.rewritten.undone(dict.fromkeys(places))
            if self._is_missed(now, places, back):
                continue
            then = self.state(back, now.trace)
            if not new_troubles(then.wrong, now.wrong):
                now, steps = then, [each for each in steps if not places & each.before.keys()]
        return now, steps

    def _is_missed(self, now: State, places: Collection[Place], without: Rewritten) -> bool:
        """Whether something is wrong near some places without what was changed in them, as far as it is seen there."""
        if not places or self.spots:
            return False
        near = Near(self, now, self.source.index(min(places)[0]))
        return bool(new_troubles(near.wrong(without), now.wrong))


def _worse(then: State, now: State, alike: frozenset[Key]) -> list[Key]:
    """What is wrong now that should be cleared, or was not wrong before."""
    return [each for each in then.wrong if each in alike or each not in now.wrong]


def _touched(one: Rewritten, other: Rewritten) -> dict[Place, tuple[Count, ...] | None]:
    """What stood in the places in which two differ."""
    places = {p for p in {*one.changed, *other.changed} if one.changed.get(p) != other.changed.get(p)}
    return {place: one.changed.get(place) for place in places}


def together(steps: Iterable[Step]) -> list[set[Place]]:
    """The places that steps have touched, together where steps after each other have.

    An empty one for what touches no line.
    """
    groups: list[set[Place]] = []
    for step in steps:
        mine = set(step.before)
        if mine:
            for group in [each for each in groups if each & mine]:
                groups.remove(group)
                mine |= group
        groups.append(mine)
    return groups


def root_of(form: Form, name: str) -> str:
    """The id of the posture that the counts of one come from in the end."""
    posture = form.posture(name)
    while posture.source is not None:
        posture = form.posture(posture.source)
    return posture.id
