"""What differs between two forms, from the first to the second, as messages."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import Change, Heading, Message, Value, message
from waltzmark.core.base.records import Record
from waltzmark.core.body.body import Body
from waltzmark.core.body.reach import longest_empty_length
from waltzmark.core.form.form import Form
from waltzmark.core.score.actions import Count
from waltzmark.core.score.write import write_action, write_count
from waltzmark.core.sides.deeds import Deeds
from waltzmark.core.sides.differences import Compared, CountPair, Span, written_off
from waltzmark.core.sides.points import beside_point, count_points, entry_points
from waltzmark.core.sides.tolerance import Tolerance
from waltzmark.core.walk.ground import PIVOT, STEP
from waltzmark.core.walk.trace import Trace

__all__ = ["Found", "Teller", "Told"]

#: Points about the size of a step: which of its sizes, and whether only how long it is counts, not which way.
_SIZED = {
    "side.step.longer": (0, True),
    "side.step.shorter": (0, True),
    "side.step.wider": (1, False),
    "side.step.narrower": (1, False),
}
_PARTED = 0.10  # metres that two paths are apart when they have parted
#: Which postures are beside each other, by number, and how they compare.
Found = Sequence[tuple[int | None, int | None, float, Compared | None]]


class Told(Record):
    """A difference, and where to look: rows of both traces, None where there is none."""

    message: Message
    row: int | None = None
    other_row: int | None = None


class Teller:
    """Says what differs, from the first form to the second."""

    def __init__(
        self,
        forms: tuple[Form, Form],
        traces: tuple[Trace, Trace],
        deeds: tuple[Deeds, Deeds],
        within: Tolerance,
        turned: float,
    ) -> None:
        self.forms, self.traces, self.deeds, self.within, self.turned = forms, traces, deeds, within, turned

    def posture(self, i: int | None, j: int | None, compared: Compared | None, moved: set[int]) -> list[Told]:
        """What differs in one posture."""
        if compared is None or i is None or j is None:
            which = 0 if j is None else 1
            number = i if j is None else j
            assert number is not None
            posture = self.forms[which].postures[number]
            row = self.traces[which].row_of(posture.id, 1)
            if j is None:
                return [Told(message("form.only-first"), row, None)]
            return [Told(message("form.only-second"), None, row)]
        one, other = self.forms[0].postures[i], self.forms[1].postures[j]
        rows = self.traces[0].row_of(one.id, 1), self.traces[1].row_of(other.id, 1)
        told = []
        if one.title != other.title:
            told.append(Told(message("form.name", here=one.title, there=other.title), *rows))
        if i in moved:
            told.append(Told(message("form.place", here=i + 1, there=j + 1), *rows))
        if one.source != other.source and (one.source is None or other.source is None):
            here, there = _written(self.forms[0], one.source), _written(self.forms[1], other.source)
            told.append(Told(message("form.source", here=here, there=there), *rows))
        turn = heading_difference(self.turned, compared.fold.angle)
        if compared.counts and abs(turn) > self.within.degrees:
            told.append(Told(message(f"form.turned.{'cw' if turn > 0 else 'ccw'}", by=abs(turn)), *rows))
        if len(compared.span) != len(compared.other):
            told.append(Told(message("form.counts", here=len(compared.span), there=len(compared.other)), *rows))
        # How it is entered is told where it was left so before; here, where it makes a difference.
        carried = any(not each.carried.same(self.within) for each in compared.counts)
        if carried and (entered := entry_points(compared)):
            told.append(Told(message("form.entered", points=tuple(entered)), *rows))
        if one.source is not None and other.source is not None and not carried:
            if any(not each.same(self.within) for each in compared.counts):
                told.append(Told(message("form.as-source", title=self.forms[0].posture(one.source).title), *rows))
        else:
            told += self._counts_of(compared)
        if compared.counts:
            heads = [self._end(n, span) for n, span in enumerate((compared.span, compared.other))]
            if abs(heading_difference(normal(compared.fold.heading(heads[0])), heads[1])) > self.within.degrees:
                ends = message("form.ends", here=Heading(heads[0]), there=Heading(heads[1]))
                told.append(Told(ends, compared.span.stop - 1, compared.other.stop - 1))
        return told

    def _end(self, which: int, span: Span) -> float:
        return float(self.traces[which].torso[max(span.stop - 1, 0)])

    def _counts_of(self, compared: Compared) -> list[Told]:
        told: list[Told] = []
        exchanged = self._order(compared)
        for pair in compared.counts:
            if pair in exchanged:
                if (where := exchanged[pair]) is not None:
                    told.append(where)
                continue
            number = pair.count if pair.count is not None else pair.other
            points = count_points(compared, pair, self.traces, beside=False)
            if pair.count is None:
                added = message("form.count-second", count=number, point=points[0])
                told.append(Told(added, pair.row, pair.other_row))
                continue
            points = [self._measured(each, pair) for each in points]
            if pair.other is not None:
                points += self._loads(pair) + [beside_point(each, compared) for each in pair.beside]
                points += self._remarks(pair, compared)
            told += [Told(message("form.count", count=number, point=each), pair.row, pair.other_row) for each in points]
        return told

    def _order(self, compared: Compared) -> dict[CountPair, Told | None]:
        """Counts that both have, but in another order: told once, at the first."""
        gone = [pair for pair in compared.counts if pair.other is None]
        come = [pair for pair in compared.counts if pair.count is None]
        found: dict[CountPair, Told | None] = {}
        for one in gone:
            for other in come:
                if other in found:
                    continue
                rows = one.row, other.other_row
                assert rows[0] is not None and rows[1] is not None
                off = written_off(self.traces[0], rows[0], rows[0] - 1, self.traces[1], rows[1], compared.fold)
                if off.same(self.within):
                    text = write_count(self.traces[0].written[rows[0]])
                    found[one] = Told(message("form.order", text=text, here=one.count, there=other.other), *rows)
                    found[other] = None
                    break
        return found

    def _measured(self, point: Message, pair: CountPair) -> Message:
        """A point about a step with both lengths and their shares of the reach; about weight with both splits."""
        assert pair.row is not None
        if pair.other_row is None:
            return point
        rows = (pair.row, pair.other_row)
        if point.kind == "side.weight":
            here, there = (trace.shares[row] for trace, row in zip(self.traces, rows, strict=True))
            return message("side.weight.split", **dict(point.fields), here=_split(here), there=_split(there))
        if point.kind not in _SIZED:
            return point
        side = point["side"]
        assert isinstance(side, Side)
        sizes = [deeds.sizes[row, side] for deeds, row in zip(self.deeds, rows, strict=True)]
        along, signless = _SIZED[point.kind]
        change = [abs(float(each[along])) if signless else float(each[along]) for each in sizes]
        fields: dict[str, Value] = {"sizes": Change(change[0], change[1])}
        if signless:
            shares = [
                _share_of_reach(trace, row, side, size)
                for trace, row, size in zip(self.traces, rows, sizes, strict=True)
            ]
            if shares[0] is not None and shares[1] is not None:
                fields["reach"] = Change(100 * shares[0], 100 * shares[1])
        return message(point.kind, **dict(point.fields), **fields)

    def _loads(self, pair: CountPair) -> list[Message]:
        """Pivots that carry more or less."""
        assert pair.row is not None and pair.other_row is not None
        found = []
        for side in SIDES:
            rows = ((self.traces[0], pair.row), (self.traces[1], pair.other_row))
            if any(trace.move_kinds[row, side] != PIVOT for trace, row in rows):
                continue
            loads = [100.0 * max(trace.shares[row - 1, side], trace.shares[row, side]) for trace, row in rows]
            if abs(loads[1] - loads[0]) > self.within.percent:
                found.append(message("side.foot.load", side=side, loads=Change(loads[0], loads[1])))
        return found

    def _remarks(self, pair: CountPair, compared: Compared) -> list[Message]:
        """What the analyst says should be true, and notes beside the count."""
        assert pair.row is not None and pair.other_row is not None
        rows, found = (pair.row, pair.other_row), list[Message]()
        twelve = self.traces[0].ground.twelve
        mine, theirs = (
            [said.expect for row, _, said in trace.expectations if row == at]
            for trace, at in zip(self.traces, rows, strict=True)
        )
        # The angle is reckoned from headings: what it is off by is no other facing.
        turns = normal(round(compared.fold.angle, 6)), 0.0  # both, since what is turned may be told in other words
        here, there = (
            sorted(map(write_action, Count(tuple(said)).turned(turn, twelve).actions))
            for said, turn in zip((mine, theirs), turns, strict=True)
        )
        if here != there:
            nothing: tuple[Value, ...] = (message("form.expects-nothing"),)
            said = [
                tuple(write_action(each).removeprefix("expect ") for each in every) or nothing
                for every in (mine, theirs)
            ]
            found.append(message("form.expects", here=said[0], there=said[1]))
        notes = [trace.written[row].note or "" for trace, row in zip(self.traces, rows, strict=True)]
        if notes[0] != notes[1]:
            told = [message("form.quoted", text=note) if note else message("form.no-note") for note in notes]
            found.append(message("form.note", here=told[0], there=told[1]))
        return found

    def whole(self, found: Found) -> list[Told]:
        """What differs in the forms as wholes."""
        (a, b), told = self.forms, []
        if a.opening != b.opening:
            told.append(Told(message("form.opening", here=_opening(a), there=_opening(b)), 0, 0))
        for kind, one, other in (
            ("form.school", a.school.name, b.school.name),
            ("form.torso", a.torso, b.torso),
            ("form.twelve", a.twelve, b.twelve),
        ):
            if one != other:
                told.append(Told(message(kind, here=one, there=other), 0, 0))
        if a.body != b.body:
            told.append(Told(message("form.body", here=_body(a.body), there=_body(b.body)), 0, 0))
        if len(a.postures) != len(b.postures):
            told.append(Told(message("form.postures", here=len(a.postures), there=len(b.postures))))
        if abs(heading_difference(0.0, self.turned)) > self.within.degrees:
            turn = heading_difference(0.0, self.turned)
            told.append(Told(message(f"form.whole-turned.{'cw' if turn > 0 else 'ccw'}", by=abs(turn)), 0, 0))
        if (parting := self._parting(found)) is not None:
            told.append(parting)
        return told

    def _parting(self, found: Found) -> Told | None:
        """Where the two paths part on the floor, both begun on the start mark, and how far apart they end."""
        for _, _, _, compared in found:
            for pair in compared.counts if compared is not None else ():
                if pair.row is None or pair.other_row is None:
                    continue
                way = self.traces[1].midpoints[pair.other_row] - self.traces[0].midpoints[pair.row]
                apart = float(np.hypot(*way))
                if apart > _PARTED:
                    assert compared is not None
                    title = self.forms[0].posture(compared.span.posture).title
                    end = float(np.hypot(*(self.traces[1].midpoints[-1] - self.traces[0].midpoints[-1])))
                    parting = message("form.parting", title=title, count=pair.count, apart=apart, end=end)
                    return Told(parting, pair.row, pair.other_row)
        return None


def _split(shares: Floats) -> str:
    return "/".join(f"{100 * float(each):.0f}" for each in shares)


def _written(form: Form, source: str | None) -> Message:
    return message("form.own") if source is None else message("form.taken", title=form.posture(source).title)


def _opening(form: Form) -> Message:
    return message(f"opening.{form.opening.name}" if form.opening.feet is None else "opening.free")


def _body(body: Body) -> Message:
    if body.name:
        return message("form.named-body", name=body.name, height=body.stature)
    return message("form.a-body", height=body.stature)


def _share_of_reach(trace: Trace, row: int, side: Side, size: Floats) -> float | None:
    """How much of the longest empty step of its width a step is, from 0; None where there is none."""
    if trace.move_kinds[row, side] != STEP:
        return None
    before = trace.pose(max(row - 1, 0))
    support = before.foot(side.other)
    away = heading_difference(support.heading, float(trace.facing[row]))
    toe = heading_difference(support.heading, float(trace.headings[row, side]))
    contact = Contact(int(trace.contacts[row, side]))
    landing = contact if contact in (Contact.HEEL, Contact.BALL) else Contact.HEEL
    longest = longest_empty_length(
        trace.body,
        before.sink,
        round(float(size[1]), 3),
        side.other,
        landing,
        round(away, 3),
        round(toe, 3),
        bool(size[0] < 0),
    )
    return abs(float(size[0])) / longest if longest > 0 else None
