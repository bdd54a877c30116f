"""The registry of the rules, and what a rule judges.

A rule is one small function from a `Case` to findings, registered by id. Its limits, its choices, its reason and its
caution stand in the school's TOML under the same id.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import cached_property

import numpy as np

from waltzmark.core.base.arrays import Bools
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import Heading, Message, Value
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.core.judge.finding import Finding, Mend, Severity
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.unrolled import Halves

__all__ = ["RULES", "Case", "Rule", "begins", "rule"]

#: Decimals of what is measured.
_DIGITS = 9


def begins(holds: Bools) -> Bools:
    """(n,) or (n, 2) where something begins to be so: what lasts over several counts is told once."""
    return np.asarray(holds & ~np.concatenate([np.zeros_like(holds[:1]), holds[:-1]]))


class Case(Record, dict=True):
    """What a rule judges: a form and its walk, or a part of it whose first row is the pose it begins in."""

    form: Form
    trace: Trace

    @cached_property
    def body(self) -> Mechanics:
        """What the body does in each row."""
        return Mechanics(self.trace)

    @cached_property
    def taken(self) -> Bools:
        """(n,) whether a stance is taken in a row: both feet carry, for the first time since a step."""
        return self.firsts(self.both_carry)

    @cached_property
    def landed(self) -> Bools:
        """(n,) whether a foot that stepped carries for the first time, however little stays on the other one."""
        down = (self.trace.contacts != Contact.AIR).all(axis=1, keepdims=True)
        return self.firsts((self._stepped_last & self.body.carries & down).any(axis=1))

    @cached_property
    def took_the_weight(self) -> Bools:
        """(n,) whether the foot that stepped last carries half or more."""
        return np.asarray((self._stepped_last & (self.trace.shares >= 0.5)).any(axis=1))

    @cached_property
    def _stepped_last(self) -> Bools:
        """(n, 2) whether a foot is the one that stepped last."""
        rows = np.arange(len(self.trace))[:, None]
        last = np.maximum.accumulate(np.where(self.body.steps, rows, -1), axis=0)
        return np.asarray((last >= 0) & (last >= last.max(axis=1, keepdims=True)))

    @cached_property
    def both_carry(self) -> Bools:
        """(n,) whether both feet carry."""
        return np.asarray(self.body.carries.all(axis=1))

    def firsts(self, holds: Bools) -> Bools:
        """(n,) whether something (n,) holds in a row, for the first time since a step."""
        steps = np.cumsum(self.body.steps.any(axis=1))
        found = np.zeros(len(self.trace), dtype=bool)
        rows = np.flatnonzero(holds)
        if len(rows):
            found[rows[1:]] = np.diff(steps[rows]) > 0
            found[rows[0]] = steps[rows[0]] > 0
        return found

    def toward(self, heading: float, row: int) -> Heading:
        """A heading, as the count of a row sees it."""
        return Heading(heading, float(self.trace.torso[max(row - 1, 0)]))

    def limit(self, rule_id: str, name: str) -> float:
        return self.form.school.limit(rule_id, name)

    def choice(self, rule_id: str, name: str) -> str:
        return self.form.school.choice(rule_id, name)

    def limits(self, rule_id: str, *names: str) -> tuple[float, ...]:
        return tuple(self.limit(rule_id, name) for name in names)

    def rows(self, wrong: np.ndarray[tuple[int], np.dtype[np.bool_]]) -> Iterator[int]:
        """The rows of counts for which something is so; the opening, or the pose a part begins in, is no count."""
        return (row for row in wrong.nonzero()[0].tolist() if row > 0)

    def feet(self, wrong: np.ndarray[tuple[int, int], np.dtype[np.bool_]]) -> Iterator[tuple[int, Side]]:
        """The rows and sides for which something is so."""
        rows, sides = wrong.nonzero()
        return ((row, SIDES[side]) for row, side in zip(rows.tolist(), sides.tolist(), strict=True) if row > 0)

    # Mends. A posture that takes its counts from another one is mended there.

    def count(self, row: int) -> Count:
        """The count of a row as written."""
        return self.trace.written[row]

    def _line(self, row: int) -> tuple[str, int] | None:
        posture = self.trace.posture(row)
        if posture is None or self.form.posture(posture).source is not None:
            return None
        return posture, self.trace.line(row)

    def _beside(self, row: int) -> tuple[tuple[Count, ...], tuple[Count, ...]] | None:
        """The parts of a count before and after the one that a row is, where a count has several."""
        passage = self.trace.passages[int(self.trace.passage_of[row])]
        halves: Halves = passage.memo.get("halves", ())  # type: ignore[assignment]
        half = halves[row - int(self.trace.starts[int(self.trace.passage_of[row])])] if halves else None
        if half is None:
            return None
        parts, at = half
        return parts[:at], parts[at + 1 :]

    def exchange(self, row: int, does: Message, *lines: Count) -> tuple[Mend, ...]:
        """The mend that writes other lines in place of a row's count.

        A count in parts stays one where it can, and else each part becomes a count.
        """
        at, parts = self._line(row), self._beside(row)
        if parts is not None:
            before, after = parts
            own = self.form.posture(at[0]).lines[at[1]] if at is not None else None
            joined = None if own is None or len(lines) != 1 else Count.of_parts((*before, *lines, *after), own)
            lines = (joined,) if joined is not None else (*before, *lines, *after)
        return () if at is None else (Mend(does, at[0], at[1], at[1] + 1, lines),)

    def exchange_both(
        self, does: Message, row: int, lines: tuple[Count, ...], later: int, later_lines: tuple[Count, ...]
    ) -> tuple[Mend, ...]:
        """The mend that writes other lines in place of the counts of two rows of a posture.

        What stands between them stays.
        """
        at, after = self._line(row), self._line(later)
        if at is None or after is None or at[0] != after[0] or self._beside(row) or self._beside(later):
            return ()
        between = self.form.posture(at[0]).lines[at[1] + 1 : after[1]]
        return (Mend(does, at[0], at[1], after[1] + 1, (*lines, *between, *later_lines)),)

    def put_before(self, row: int, does: Message, *lines: Count) -> tuple[Mend, ...]:
        """The mend that puts counts before a row's."""
        at, parts = self._line(row), self._beside(row)
        if parts is not None and parts[0]:
            return self.exchange(row, does, *lines, self.count(row))
        return () if at is None else (Mend(does, at[0], at[1], at[1], lines),)

    def put_after(self, row: int, does: Message, line: Count) -> tuple[Mend, ...]:
        """The mend that puts a count after a row's."""
        at, parts = self._line(row), self._beside(row)
        if parts is not None and parts[1]:
            return self.exchange(row, does, self.count(row), line)
        return () if at is None else (Mend(does, at[0], at[1] + 1, at[1] + 1, (line,)),)

    def found(
        self,
        rule_id: str,
        row: int,
        *,
        which: str = "",
        measured: float | None = None,
        limit: float | None = None,
        unit: str = "",
        side: Side | None = None,
        mends: tuple[Mend, ...] = (),
        at: tuple[str | None, int] | None = None,
        severity: Severity | None = None,
        **fields: Value,
    ) -> Finding:
        """A finding of a rule at a row.

        which: what tells it from others of the rule; *at* overrides the posture and count it names, *severity* how
        grave the rule usually is; fields: what else its sentences speak of.
        """
        setting = self.form.school.rules[rule_id]
        posture, count = at or (self.trace.posture(row), int(self.trace.counts[row]))
        return Finding(
            rule_id,
            severity or RULES[rule_id].severity,
            posture,
            count,
            row,
            f"{rule_id}.{which}" if which else rule_id,
            # Finer than any measure is: where a form stands on the floor must not tell findings apart.
            None if measured is None else round(measured, _DIGITS),
            limit,
            unit,
            side,
            setting.why,
            setting.caution,
            tuple(fields.items()),
            mends,
        )


class Rule(Record):
    """A registered rule: its id, how serious what it finds is, and the function that finds it.

    whole: it needs the whole form; other rules look at a posture and the pose it begins in, so that a posture that
    has not changed need not be judged again. seat: its notes are of the body and how deep it sits, not of one count,
    and are told once in a form.
    """

    id: str
    severity: Severity
    find: Callable[[Case], Iterator[Finding]]
    whole: bool = False
    seat: bool = False

    @property
    def family(self) -> str:
        return self.id.partition(".")[0]


RULES: dict[str, Rule] = {}

_Find = Callable[[Case], Iterator[Finding]]


def rule(rule_id: str, severity: Severity, whole: bool = False, seat: bool = False) -> Callable[[_Find], _Find]:
    """Registers a function as the rule *rule_id*. whole, seat: see `Rule`.

    A stop cannot be walked or contradicts itself; a caution can hurt or breaks the school's rule; a note is worth
    knowing.
    """

    def register(find: _Find) -> _Find:
        RULES[rule_id] = Rule(rule_id, severity, find, whole, seat)
        return find

    return register
