"""What the analyst said should be true, held against what the counts lead to."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.angles import clock_text, heading_difference
from waltzmark.core.base.leftright import Side
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.registry import Case, rule
from waltzmark.core.score import actions as act
from waltzmark.core.score.write import write_action

__all__: list[str] = []


@rule("expect.unmet", "stop", "an expectation not met", whole=True)
def unmet(case: Case) -> Iterator[Finding]:
    """A stated expectation is not met at the end of its count."""
    trace = case.trace
    for row, number, said in trace.expectations:
        measured, limit, unit, tolerance, found = _held_against(case, row, said.expect)
        off = abs(heading_difference(limit, measured)) if unit == "°" else abs(measured - limit)
        if off <= tolerance + 1e-6:
            continue
        passage = trace.passages[number]
        yield case.found(
            "expect.unmet", row, f"“{write_action(said.expect)}” is not so: {found}",
            measured=measured, limit=limit, unit=unit, at=(passage.posture, said.row + 1),
            side=getattr(said.expect, "side", None),
            mend="mend the counts before it, or what is expected",
        )  # fmt: skip


def _held_against(case: Case, row: int, expect: act.Expect) -> tuple[float, float, str, float, str]:
    """Measured, wanted, unit, tolerance, and what is found in words."""
    trace, rule_id = case.trace, "expect.unmet"
    if isinstance(expect, act.ExpectShare):
        side = Side.LEFT if expect.side is None else expect.side
        share = 100 * float(trace.shares[row, side])
        found = f"the {side.word} foot carries {share:.0f} %"
        return share, expect.percent, "%", case.limit(rule_id, "share"), found
    if isinstance(expect, act.ExpectMeasure):
        measure = 100 * float(trace.sizes[row, 0 if expect.of == "length" else 1])
        wanted = 100 * expect.length.metres(case.form.body)
        found = f"the {expect.of} is {case.cm(measure)}"
        return measure, wanted, "cm", case.limit(rule_id, "length"), found
    if isinstance(expect, act.ExpectContact):
        contact = int(trace.contacts[row, expect.side])
        found = f"the {expect.side.word} foot is on the {('floor nowhere', 'ball', 'heel', 'whole sole')[contact]}"
        if contact == 0:
            found = f"the {expect.side.word} foot is in the air"
        return float(contact != expect.contact), 0.0, "contact", 0.0, found
    # An own-clock facing counts from the torso at the beginning of the count.
    torso_before = float(trace.torso[max(row - 1, 0)])
    wanted = expect.facing.heading(torso_before, case.form.twelve)
    if expect.of == "toe" and expect.side is not None:
        heading, what = float(trace.headings[row, expect.side]), f"the {expect.side.word} toe points to"
    else:
        heading = float((trace.gaze if expect.of == "gaze" else trace.torso)[row])
        what = "the gaze goes to" if expect.of == "gaze" else "the torso faces"
    off = heading_difference(wanted, heading)
    found = (
        f"{what} {case.toward(heading, row)}, {abs(off):.0f}° {'clockwise' if off > 0 else 'counter-clockwise'} of it"
    )
    return heading, wanted, "°", case.limit(rule_id, "angle"), found


@rule("posture.ends", "stop", "another facing at the end", whole=True)
def posture_ends(case: Case) -> Iterator[Finding]:
    """A posture does not end in its stated facing."""
    trace, limit = case.trace, case.limit("posture.ends", "angle")
    starts = trace.starts.tolist()
    for posture, first, after in zip(case.form.postures, starts[1:-1], starts[2:], strict=True):
        ends = case.form.ends(posture)
        if ends is None or first == after:
            continue
        # The walker's own clock has its 12 where the torso faces as the posture begins.
        wanted = ends.heading(float(trace.torso[max(first - 1, 0)]), case.form.twelve)
        torso = float(trace.torso[after - 1])
        off = heading_difference(wanted, torso)
        if abs(off) > limit + 1e-6:
            yield case.found(
                "posture.ends", after - 1,
                f"“{posture.title}” should end facing {case.toward(wanted, after - 1)}, "
                f"but the torso faces {case.toward(torso, after - 1)}, "
                f"{abs(off):.0f}° off",
                measured=float(np.abs(off)), limit=limit, unit="°",
                mend=f"end it with torso {clock_text(wanted)}, or change the facing it should end in",
            )  # fmt: skip
