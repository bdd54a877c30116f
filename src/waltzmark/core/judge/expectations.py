"""What the analyst said should be true, held against what the counts lead to."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.angles import clock_text, heading_difference
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import Value
from waltzmark.core.base.records import replace
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.registry import Case, rule
from waltzmark.core.score import actions as act
from waltzmark.core.score.write import write_action

__all__: list[str] = []


@rule("expect.unmet", "stop", whole=True)
def unmet(case: Case) -> Iterator[Finding]:
    """A stated expectation is not met at the end of its count."""
    trace = case.trace
    for row, number, said in trace.expectations:
        measured, limit, unit, tolerance, which, fields = _held_against(case, row, said.expect)
        off = abs(heading_difference(limit, measured)) if unit == "°" else abs(measured - limit)
        if off <= tolerance + 1e-6:
            continue
        passage = trace.passages[number]
        found = case.found(
            "expect.unmet",
            row,
            which=which,
            measured=measured,
            limit=limit,
            unit=unit,
            at=(passage.posture, int(trace.counts[row]) if said.row >= 0 else 0),
            side=getattr(said.expect, "side", None),
        )
        yield replace(found, fields=(("expected", write_action(said.expect)), *fields.items()))


def _held_against(case: Case, row: int, expect: act.Expect) -> tuple[float, float, str, float, str, dict[str, Value]]:
    """Measured, wanted, unit, tolerance, what it is about, and what else is told of it."""
    trace, rule_id = case.trace, "expect.unmet"
    if isinstance(expect, act.ExpectShare):
        side = Side.LEFT if expect.side is None else expect.side
        share = 100 * float(trace.shares[row, side])
        return share, expect.percent, "%", case.limit(rule_id, "share"), "share", {"foot": side}
    if isinstance(expect, act.ExpectMeasure):
        measure = 100 * float(trace.sizes[row, 0 if expect.of == "length" else 1])
        wanted = 100 * expect.length.metres(case.form.body)
        return measure, wanted, "cm", case.limit(rule_id, "length"), expect.of, {}
    if isinstance(expect, act.ExpectContact):
        contact = Contact(int(trace.contacts[row, expect.side]))
        which = "air" if contact is Contact.AIR else "contact"
        return float(contact != expect.contact), 0.0, "contact", 0.0, which, {"part": contact}
    # An own-clock facing counts from the torso at the beginning of the count.
    torso_before = float(trace.torso[max(row - 1, 0)])
    wanted = expect.facing.heading(torso_before, case.form.twelve)
    if expect.of == "toe" and expect.side is not None:
        heading = float(trace.headings[row, expect.side])
    elif expect.of == "hips":
        heading = float(case.body.pelvis[row])
    else:
        heading = float((trace.gaze if expect.of == "gaze" else trace.torso)[row])
    off = heading_difference(wanted, heading)
    fields: dict[str, Value] = {"heading": case.toward(heading, row), "off": abs(off), "clockwise": off > 0}
    return heading, wanted, "°", case.limit(rule_id, "angle"), expect.of, fields


@rule("posture.ends", "stop", whole=True)
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
                "posture.ends",
                after - 1,
                measured=float(np.abs(off)),
                limit=limit,
                unit="°",
                title=posture.title,
                wanted=case.toward(wanted, after - 1),
                found=case.toward(torso, after - 1),
                score=clock_text(wanted),
            )
