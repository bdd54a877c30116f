"""The nearest form that a body can walk: what it is stopped or cautioned for is put right by the cheapest moves.

It is no general optimiser: the first thing that is wrong is looked at, what may be done about it is tried in the order
of its price, each walked and judged, and what clears it without bringing anything new is kept. In the end whatever can
be left out is left out again.
"""

from __future__ import annotations

from waltzmark.core.base.messages import Message
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record, replace
from waltzmark.core.body.body import Body
from waltzmark.core.fit.move import Kind
from waltzmark.core.fit.rewriting import Place, Rewritten
from waltzmark.core.fit.searching import ApartError, Search, State, Step, root_of, together
from waltzmark.core.form.form import Form
from waltzmark.core.home.ledger import Return, check_return
from waltzmark.core.judge.finding import Finding
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["Change", "ChangedLine", "Fitted", "fitted"]


class ChangedLine(Record):
    """A line of the score, and what stands for it: nothing, itself otherwise, or several.

    count: its number in the posture as written; before, after: as they are to be read.
    """

    posture: str
    count: int
    before: tuple[Count, ...]
    after: tuple[Count, ...]


class Change(Record):
    """What belongs together of what is changed.

    kind: what it is a change of; does: what it does; why: the finding that it puts right; also: postures that take
    their counts from the one that is changed.
    """

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
    """A form fitted to a body.

    left: what that body is still stopped or cautioned for, and the written form is not; back: where it ends; rewritten:
    as it was made.
    """

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


def fitted(form: Form, body: Body, progress: Progress = SILENT) -> Fitted:
    """The nearest form to one that another body can walk.

    Nothing is left that this body is stopped or cautioned for, unless the body that the form was written for is so too
    and as much, or nothing could be found. The room, home and everything else of the form stay.
    """
    apart: set[str] = set()
    while True:
        try:
            search = Search(form, body, apart, progress)
            return _told(search, *search.found())
        except ApartError as one:
            apart.add(one.root)


def _told(search: Search, now: State, steps: list[Step]) -> Fitted:
    """What was found, as it is told."""

    def order(place: Place) -> tuple[int, int]:
        return search.source.index(place[0]), place[1]

    form = _linked(now.rewritten, search.linked)
    trace = walk(form, now.trace)
    changes, places = list[Change](), list[tuple[Place, ...]]()
    for group in together(steps):
        own = [each for each in steps if (each.before.keys() & group) or (not group and not each.before)]
        shown = sorted((place for place in group if place in now.rewritten.changed), key=order)
        if group and not shown:
            continue
        main = [place for place in shown if form.posture(place[0]).source is None]
        if group and not main:
            continue  # told of the posture whose counts these are again
        lines = tuple(_line(search, now.rewritten, place) for place in main)
        also = tuple(
            posture.id
            for posture in form.postures
            if posture.source is not None and main and root_of(form, posture.id) == main[0][0]
        )
        first = own[0]
        changes.append(Change(first.move.kind, first.move.does, first.why, lines, also))
        others = {(name, at) for name in also for _, at in main if (name, at) in now.rewritten.changed}
        places.append((*shown, *sorted(others - set(shown), key=order)))
    ranked = sorted(range(len(changes)), key=lambda n: order(places[n][0]) if places[n] else (-1, 0))
    left = sorted((each.finding for each in now.wrong.values()), key=lambda f: f.row)
    return Fitted(
        form,
        tuple(changes[n] for n in ranked),
        tuple(left),
        check_return(trace, form),
        trace,
        now.rewritten,
        tuple(places[n] for n in ranked),
        search.linked,
    )


def _line(search: Search, rewritten: Rewritten, place: Place) -> ChangedLine:
    own = search.source.posture(place[0]).lines
    count = sum(line.moves for line in own[: place[1] + 1])
    return ChangedLine(place[0], count, (own[place[1]],), rewritten.changed[place])


def _linked(rewritten: Rewritten, linked: Form) -> Form:
    """The form with postures that were looked at by themselves tied to their sources again.

    Where they are still what those make of them.
    """
    form = rewritten.form
    roots = {place[0] for place in rewritten.changed}
    for posture in linked.postures:
        own = form.posture(posture.id)
        if posture.source is None or own.source is not None:
            continue
        tied = form.with_posture(posture)
        untouched = posture.id not in roots and root_of(linked, posture.id) not in roots
        spots = any(line.spots for line in own.lines)
        if untouched or (not spots and tied.lines(tied.posture(posture.id)) == own.lines):
            form = tied
    return form
