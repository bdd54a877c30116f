"""What differs between two forms, said from the first to the second: “right step 3 cm longer, 52 cm → 55 cm long”."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.figures import Figures
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import record
from waltzmark.core.body.body import Body
from waltzmark.core.body.reach import longest_empty_length
from waltzmark.core.form.form import Form
from waltzmark.core.score.actions import Count
from waltzmark.core.score.write import write_action, write_count
from waltzmark.core.sides.deeds import Deeds
from waltzmark.core.sides.differences import Compared, CountPair, Span, written_off
from waltzmark.core.sides.tolerance import Tolerance
from waltzmark.core.sides.words import count_words, entry_words, said_beside
from waltzmark.core.walk.step import PIVOT, STEP
from waltzmark.core.walk.trace import Trace

__all__ = ["Found", "Teller", "Told"]

_PARTED = 0.10  # metres that two paths are apart when they have parted
#: Which postures are beside each other, by number, and how they compare.
Found = Sequence[tuple[int | None, int | None, float, Compared | None]]


@record
class Told:
    """A difference in words, and where to look: rows of both traces, None where there is none."""

    words: str
    row: int | None = None
    other_row: int | None = None


class Teller:
    """Says what differs, from the first form to the second."""

    def __init__(
        self, forms: tuple[Form, Form], traces: tuple[Trace, Trace], deeds: tuple[Deeds, Deeds], within: Tolerance,
        say: Figures, turned: float,
    ) -> None:  # fmt: skip
        self.forms, self.traces, self.deeds, self.within, self.turned = forms, traces, deeds, within, turned
        self.say = say.of(forms[0])

    def posture(self, i: int | None, j: int | None, compared: Compared | None, moved: set[int]) -> list[Told]:
        """What differs in one posture."""
        if compared is None or i is None or j is None:
            which = 0 if j is None else 1
            number = i if j is None else j
            assert number is not None
            posture = self.forms[which].postures[number]
            row = self.traces[which].row_of(posture.id, 1)
            if j is None:
                return [Told("only in the first", row, None)]
            return [Told("only in the second", None, row)]
        one, other = self.forms[0].postures[i], self.forms[1].postures[j]
        rows = self.traces[0].row_of(one.id, 1), self.traces[1].row_of(other.id, 1)
        told = []
        if one.title != other.title:
            told.append(Told(f"called “{one.title}” → “{other.title}”", *rows))
        if i in moved:
            told.append(Told(f"comes as number {i + 1} → {j + 1}", *rows))
        if one.source != other.source and (one.source is None or other.source is None):
            told.append(Told(f"{_written(self.forms[0], one.source)} → {_written(self.forms[1], other.source)}", *rows))
        turn = heading_difference(self.turned, compared.fold.angle)
        if compared.counts and abs(turn) > self.within.degrees:
            way = "clockwise" if turn > 0 else "counter-clockwise"
            told.append(Told(f"walked turned {abs(turn):.0f}° {way}", *rows))
        if len(compared.span) != len(compared.other):
            told.append(Told(f"{_counts(len(compared.span))} → {_counts(len(compared.other))}", *rows))
        # How it is entered is told where it was left so before; here, where it makes a difference.
        carried = any(not each.carried.same(self.within) for each in compared.counts)
        if carried and (entered := entry_words(compared, self.say)):
            told.append(Told(f"entered with {', '.join(entered)}", *rows))
        if one.source is not None and other.source is not None and not carried:
            if any(not each.same(self.within) for each in compared.counts):
                told.append(Told(f"as in {self.forms[0].posture(one.source).title}", *rows))
        else:
            told += self._counts_of(compared)
        if compared.counts:
            heads = [self._end(n, span) for n, span in enumerate((compared.span, compared.other))]
            if abs(heading_difference(normal(compared.fold.heading(heads[0])), heads[1])) > self.within.degrees:
                facings = [self.say.toward(each) for each in heads]
                told.append(Told(f"ends facing {facings[0]} → {facings[1]}",
                                 compared.span.stop - 1, compared.other.stop - 1))  # fmt: skip
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
            words = count_words(compared, pair, self.traces, self.say, beside=False)
            if pair.count is None:
                told.append(Told(f"count {number} of the second: {words[0]}", pair.row, pair.other_row))
                continue
            words = [self._measured(each, pair) for each in words]
            if pair.other is not None:
                words += self._loads(pair) + self._beside(pair, compared) + self._remarks(pair, compared)
            told += [Told(f"count {number}: {each}", pair.row, pair.other_row) for each in words]
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
                    found[one] = Told(f"“{text}” comes as count {one.count} → {other.other}", *rows)
                    found[other] = None
                    break
        return found

    def _measured(self, words: str, pair: CountPair) -> str:
        """Words about a step with both lengths and their shares of the reach; of weight with both splits."""
        assert pair.row is not None
        if pair.other_row is None:
            return words
        rows = (pair.row, pair.other_row)
        for side in Side:
            if not words.startswith(f"{side.word} step"):
                continue
            sizes = [deeds.sizes[row, side] for deeds, row in zip(self.deeds, rows, strict=True)]
            shares = [_share_of_reach(trace, row, side, size)
                      for trace, row, size in zip(self.traces, rows, sizes, strict=True)]  # fmt: skip
            seen = np.abs(np.abs(sizes[1]) - np.abs(sizes[0])) * 100.0 > self.within.cm
            if seen[0] and ("longer" in words or "shorter" in words):
                words += f", {self.say.change(abs(sizes[0][0]), abs(sizes[1][0]))} long"
                if None not in shares:
                    words += f", {100 * float(shares[0] or 0):.0f} → {100 * float(shares[1] or 0):.0f} % of its reach"
            if seen[1] and ("wider" in words or "narrower" in words):
                words += f", {self.say.change(sizes[0][1], sizes[1][1])} wide"
        if "% more on the" in words:
            splits = [trace.shares[row] for trace, row in zip(self.traces, rows, strict=True)]
            said = [f"{100 * left:.0f}/{100 * right:.0f}" for left, right in splits]
            words += f", {said[0]} → {said[1]}"
        return words

    def _loads(self, pair: CountPair) -> list[str]:
        """Pivots that carry more or less."""
        assert pair.row is not None and pair.other_row is not None
        found = []
        for side in Side:
            rows = ((self.traces[0], pair.row), (self.traces[1], pair.other_row))
            if any(trace.move_kinds[row, side] != PIVOT for trace, row in rows):
                continue
            loads = [100.0 * max(trace.shares[row - 1, side], trace.shares[row, side]) for trace, row in rows]
            if abs(loads[1] - loads[0]) > self.within.percent:
                found.append(f"{side.word} pivot under {loads[0]:.0f} → {loads[1]:.0f} %")
        return found

    def _beside(self, pair: CountPair, compared: Compared) -> list[str]:
        """What is written otherwise beside feet, weight and chest."""
        found = []
        for each in pair.beside:
            there, here = (words or "not written" for words in said_beside(each, compared, self.say))
            side = "" if each.side is None else f"{each.side.word} "
            subject = {"hand": "hand ", "kick": "kick ", "gaze": "eyes ", "path": "foot "}.get(each.topic, "")
            found.append(f"{side}{subject}{here} → {there}")
        return found

    def _remarks(self, pair: CountPair, compared: Compared) -> list[str]:
        """What the analyst says should be true, and notes beside the count."""
        assert pair.row is not None and pair.other_row is not None
        rows, found = (pair.row, pair.other_row), []
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
            told = (", ".join(map(write_action, each)) or "nothing" for each in (mine, theirs))
            found.append("expects {} → {}".format(*(words.replace("expect ", "") for words in told)))
        notes = [trace.written[row].note or "" for trace, row in zip(self.traces, rows, strict=True)]
        if notes[0] != notes[1]:
            found.append("note {} → {}".format(*(f"“{note}”" if note else "none" for note in notes)))
        return found

    def whole(self, found: Found) -> list[Told]:
        """What differs in the forms as wholes."""
        (a, b), told = self.forms, []
        if a.opening != b.opening:
            told.append(Told(f"opening {_opening(a)} → {_opening(b)}", 0, 0))
        for words, one, other in (
            ("school", a.school.name, b.school.name), ("the torso", a.torso, b.torso), ("at 12", a.twelve, b.twelve),
        ):  # fmt: skip
            if one != other:
                told.append(Told(f"{words} {one} → {other}", 0, 0))
        if a.body != b.body:
            told.append(Told(f"body {_body(a.body)} → {_body(b.body)}", 0, 0))
        if len(a.postures) != len(b.postures):
            told.append(Told(f"{len(a.postures)} → {len(b.postures)} postures"))
        if abs(heading_difference(0.0, self.turned)) > self.within.degrees:
            turn = heading_difference(0.0, self.turned)
            way = "clockwise" if turn > 0 else "counter-clockwise"
            told.append(Told(f"the second is walked turned {abs(turn):.0f}° {way}", 0, 0))
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
                    words = (f"the paths part in {title}, count {pair.count}, by {self.say.length(apart)}; at the end "
                             f"they are {self.say.length(end)} apart")  # fmt: skip
                    return Told(words, pair.row, pair.other_row)
        return None


def _written(form: Form, source: str | None) -> str:
    return "counts of its own" if source is None else f"counts taken from {form.posture(source).title}"


def _counts(number: int) -> str:
    return f"{number} count" + ("s" if number != 1 else "")


def _opening(form: Form) -> str:
    opening = form.opening
    return "two feet of its own" if opening.feet is not None else opening.name


def _body(body: Body) -> str:
    return f"{body.name + ', ' if body.name else ''}{100 * body.stature:.0f} cm tall"


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
        trace.body, before.sink, round(float(size[1]), 3), side.other, landing, round(away, 3), round(toe, 3),
        bool(size[0] < 0),
    )  # fmt: skip
    return abs(float(size[0])) / longest if longest > 0 else None
