"""Weight: what is lifted, placed or loaded at the wrong time, and lines that cannot be walked as written."""

from __future__ import annotations

from collections.abc import Iterator

from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.registry import Case, rule
from waltzmark.core.score import actions as act
from waltzmark.core.walk.ground import Problem

__all__: list[str] = []


def _problems(case: Case, rule_id: str) -> Iterator[tuple[int, Problem]]:
    for each in case.trace.problems:
        if each.problem.rule == rule_id:
            yield each.row, each.problem


@rule("weight.loaded-lift", "stop")
def loaded_lift(case: Case) -> Iterator[Finding]:
    """A foot is stepped with or lifted while it carries weight; a relaxed foot weighs a little."""
    limit, little = case.limits("weight.loaded-lift", "share", "little")
    for row, problem in _problems(case, "weight.loaded-lift"):
        assert problem.side is not None and problem.value is not None
        share = 100 * problem.value
        if share >= little - 1e-6:
            foot, other = problem.side, problem.side.other
            yield case.found(
                "weight.loaded-lift",
                row,
                measured=share,
                limit=limit,
                unit="%",
                side=foot,
                severity=None if share >= limit - 1e-6 else "note",
                mends=case.put_before(
                    row, message("mend.shift-first", foot=other), act.Count((act.Shift(other, 100.0),))
                ),
            )


@rule("weight.in-air", "stop")
def weight_in_air(case: Case) -> Iterator[Finding]:
    """Weight is put on a foot that is not on the floor."""
    for row, problem in _problems(case, "weight.in-air"):
        assert problem.side is not None and problem.value is not None
        yield case.found("weight.in-air", row, measured=100 * problem.value, limit=0.0, unit="%", side=problem.side)


@rule("weight.both-in-air", "stop")
def both_in_air(case: Case) -> Iterator[Finding]:
    """Neither foot is on the floor."""
    for row, _ in _problems(case, "weight.both-in-air"):
        yield case.found("weight.both-in-air", row, measured=2.0, limit=1.0, unit="feet in the air")


@rule("weight.falling-step", "caution")
def falling_step(case: Case) -> Iterator[Finding]:
    """A foot is loaded in the very count it lands in."""
    limit = case.limit("weight.falling-step", "share")
    for row, problem in _problems(case, "weight.falling-step"):
        assert problem.side is not None and problem.value is not None
        share = 100 * problem.value
        if share > limit + 1e-6:
            yield case.found(
                "weight.falling-step",
                row,
                measured=share,
                limit=limit,
                unit="%",
                side=problem.side,
                mends=_apart(case, row),
            )


def _apart(case: Case, row: int) -> tuple[Mend, ...]:
    """The shift of a count taken into a count of its own."""
    count = case.count(row)
    shifts = tuple(action for action in count.actions if isinstance(action, act.Shift))
    rest = tuple(action for action in count.actions if not isinstance(action, act.Shift))
    return case.exchange(row, message("mend.step-first"), replace(count, actions=rest), act.Count(shifts))


@rule("score.unread", "stop", whole=True)
def unread(case: Case) -> Iterator[Finding]:
    """A line that could not be read, and so was not walked."""
    trace = case.trace
    for start, passage in zip(trace.starts, trace.passages, strict=False):
        if not passage.unread:
            continue
        row = int(start) - 1
        for line in passage.lines:
            row += line.moves
            if (text := line.unread) is not None:
                yield case.found(
                    "score.unread",
                    max(row, 0),
                    at=(passage.posture, row - int(start) + 1),
                    text=text.text,
                    column=text.column,
                    advice=text.advice,
                )


@rule("score.contradiction", "stop")
def contradiction(case: Case) -> Iterator[Finding]:
    """Two actions of one count ask for different things."""
    for row, problem in _problems(case, "score.contradiction"):
        yield case.found(
            "score.contradiction",
            row,
            which=problem.about,
            measured=2.0,
            limit=1.0,
            unit="actions",
            side=problem.side,
        )
