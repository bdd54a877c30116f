"""Weight: what is lifted, placed or loaded at the wrong time, and lines that cannot be walked as written."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.registry import Case, rule
from waltzmark.core.score import actions as act
from waltzmark.core.walk.step import Problem

__all__: list[str] = []


def _problems(case: Case, rule_id: str) -> Iterator[tuple[int, Problem]]:
    for row, problem in case.trace.problems:
        if problem.rule == rule_id:
            yield row, problem


@rule("weight.loaded-lift", "stop", "lifting a loaded foot")
def loaded_lift(case: Case) -> Iterator[Finding]:
    """A foot is stepped with or lifted while it carries weight; a relaxed foot weighs a little."""
    limit, little = case.limits("weight.loaded-lift", "share", "little")
    for row, problem in _problems(case, "weight.loaded-lift"):
        assert problem.side is not None and problem.value is not None
        share = 100 * problem.value
        if share >= little - 1e-6:
            foot, other = problem.side, problem.side.other
            yield case.found(
                "weight.loaded-lift", row, f"the {foot.word} foot is lifted while it carries {share:.0f} %",
                measured=share, limit=limit, unit="%", side=foot, severity=None if share >= limit - 1e-6 else "note",
                mend=f"pour the weight onto the {other.word} first: shift {other.letter} 100",
                mends=case.put_before(
                    row, f"pour onto the {other.word} first", act.Count((act.Shift(other, 100.0),))
                ),
            )  # fmt: skip


@rule("weight.in-air", "stop", "weight on a foot in the air")
def weight_in_air(case: Case) -> Iterator[Finding]:
    """Weight is put on a foot that is not on the floor."""
    for row, problem in _problems(case, "weight.in-air"):
        assert problem.side is not None and problem.value is not None
        yield case.found(
            "weight.in-air", row,
            f"{100 * problem.value:.0f} % is put on the {problem.side.word} foot, which is in the air",
            measured=100 * problem.value, limit=0.0, unit="%", side=problem.side,
            mend=f"set the foot down before: flat {problem.side.letter}, or step {problem.side.letter} …",
        )  # fmt: skip


@rule("weight.both-in-air", "stop", "both feet in the air")
def both_in_air(case: Case) -> Iterator[Finding]:
    """Neither foot is on the floor."""
    for row, _ in _problems(case, "weight.both-in-air"):
        yield case.found(
            "weight.both-in-air", row, "both feet leave the floor", measured=2.0, limit=1.0, unit="feet in the air",
            mend="make two counts of it: set one foot down before the other moves",
        )  # fmt: skip


@rule("weight.falling-step", "caution", "falling into a step")
def falling_step(case: Case) -> Iterator[Finding]:
    """A foot is loaded in the very count it lands in."""
    limit = case.limit("weight.falling-step", "share")
    for row, problem in _problems(case, "weight.falling-step"):
        assert problem.side is not None and problem.value is not None
        share = 100 * problem.value
        if share > limit + 1e-6:
            yield case.found(
                "weight.falling-step", row,
                f"the {problem.side.word} foot lands and takes {share:.0f} % in the same count: "
                "the body falls into the step",
                measured=share, limit=limit, unit="%", side=problem.side,
                mend="step in one count and shift in the next", mends=_apart(case, row),
            )  # fmt: skip


def _apart(case: Case, row: int) -> tuple[Mend, ...]:
    """The shift of a count taken into a count of its own."""
    count = case.count(row)
    shifts = tuple(action for action in count.actions if isinstance(action, act.Shift))
    rest = tuple(action for action in count.actions if not isinstance(action, act.Shift))
    return case.exchange(row, "step first, pour in a count of its own", replace(count, actions=rest), act.Count(shifts))


@rule("score.unread", "stop", "a line that cannot be read", whole=True)
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
                    "score.unread", max(row, 0),
                    f"“{text.text}” is not walked: at character {text.column}, {text.advice}",
                    at=(passage.posture, row - int(start) + 1), mend="write the line anew",
                )  # fmt: skip


@rule("score.contradiction", "stop", "a count that contradicts itself")
def contradiction(case: Case) -> Iterator[Finding]:
    """Two actions of one count ask for different things."""
    for row, problem in _problems(case, "score.contradiction"):
        of = f"the {problem.side.word} foot's {problem.about}" if problem.side is not None else f"the {problem.about}"
        words = (
            "hold stands beside something that moves"
            if problem.about == "hold"
            else f"{of} is given twice in one count"
        )
        yield case.found(
            "score.contradiction", row, words, measured=2.0, limit=1.0, unit="actions", side=problem.side,
            mend="keep one of them, or write two counts",
        )  # fmt: skip
