"""Turns before or after the shift of their count, and what one expects of the hips."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_rules import form_of, found
from waltzmark.cli.main import run
from waltzmark.core.base.errors import ScoreError
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.judge.judging import judge
from waltzmark.core.score import read_count, write_count
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.motion import pose_between
from waltzmark.core.walk.walk import walk
from waltzmark.files.writing import render

L, R = Side.LEFT, Side.RIGHT
START = "shift R 100, torso 12:30\nstep L 12 40x30\n"


@given(
    st.integers(0, 100),
    st.sampled_from(list(Side)),
    st.sampled_from(["heel", "ball", "toe"]),
    st.integers(-80, 80),
    st.none() | st.integers(-60, 60),
    st.sampled_from(["early", "late"]),
    st.sampled_from(["early", "late"]),
)
def test_a_count_in_parts_ends_where_its_parts_end_as_counts(
    share: int, side: Side, part: str, turn: int, torso: int | None, feet: Any, chest: Any
) -> None:
    pivot, shift = f"pivot {side.letter} {part} {turn:+d}", f"shift L {share}"
    said = "" if torso is None else f", torso {torso:+d} {chest}"
    one = walk(form_of(START + f"{shift}, {pivot} {feet}{said}"))
    parts: dict[str, list[str]] = {"early": [], "late": []}
    parts[feet].append(pivot)
    if torso is not None:
        parts[chest].append(f"torso {torso:+d}")
    texts = [", ".join(parts["early"]), shift, ", ".join(parts["late"])]
    several = walk(form_of(START + "\n".join(text for text in texts if text)))
    assert len(one) == 4
    ends = [np.array([*p.left, *p.right, p.left_share, p.torso, p.facing]) for p in (one.pose(-1), several.pose(-1))]
    assert ends[0] == pytest.approx(ends[1], abs=1e-6)


def test_each_part_of_a_count_takes_its_own_time() -> None:
    trace = walk(form_of(START + "shift L 80, pivot R heel 2 late, torso 11 early"))
    quarter, third, two, five = (pose_between(trace, 3, t) for t in (1 / 6, 1 / 3, 2 / 3, 5 / 6))
    assert quarter.left_share == 0.0 and quarter.torso == pytest.approx(352.5)
    assert (third.left_share, third.right.heading) == (0.0, 0.0) and third.torso == pytest.approx(330.0)
    assert two.left_share == pytest.approx(0.8) and two.right.heading == pytest.approx(0.0)
    assert five.left_share == pytest.approx(0.8) and five.right.heading == pytest.approx(30.0)
    late = pose_between(trace, 3, 1.0)
    assert late.right.heading == pytest.approx(60.0) and late.right.contact is Contact.FLAT


def test_a_turn_carries_what_its_foot_has_before_the_shift_or_after_and_is_told_where_it_is_written() -> None:
    def loads(when: str) -> list[tuple[int | None, float | None]]:
        text = START + f"shift L 70, pivot R heel out 45{when}\nhold"
        return [(f.count, f.measured) for f in found("pivot.loaded", text)]

    assert loads(" late") == [] and loads(" early") == loads("") == [(3, 100.0)]
    form = form_of("hold @2", START + "shift L 70, pivot R heel out 45 early\nshift R 100\nlift L\nshift L 60")
    trace = walk(form)
    told = [(f.posture, f.count, f.row) for f in judge(form, trace)]
    assert all(row == trace.row_of(posture, count) for posture, count, row in told)
    assert ("p2", 3, 4) in told and ("p2", 6, 7) in told


@pytest.mark.parametrize("text", ["pivot R heel 3 late", "torso 3 early", "step L 12 bow, torso 3 late"])
def test_early_and_late_are_said_only_beside_a_shift(text: str) -> None:
    with pytest.raises(ScoreError, match=r"score\.when") as refused:
        read_count(text)
    assert text[refused.value.column - 1 :].split(",")[0] in ("late", "early")


def test_both_words_are_written_as_they_were_read_and_dropped_with_the_shift() -> None:
    text = "shift L 70, pivot R heel 3 cw late, torso +30 early"
    assert write_count(read_count(text)) == text
    mirrored = read_count(text).mirrored(0.0, "N")
    assert write_count(mirrored) == "shift R 70, pivot L heel 9 ccw late, torso -30 early"
    bare = read_count(text)
    without = bare.exchanged(bare.actions[0], read_count("hold").actions[0])
    assert write_count(without) == "hold, pivot R heel 3 cw, torso +30"


@pytest.mark.parametrize(("hours", "met"), [("12", False), ("1:30", True), ("2", False), ("10:30", False)])
def test_the_hips_are_held_against_what_is_expected_of_them(hours: str, met: bool) -> None:
    text = f"shift L 100, torso 1\npivot R heel 1:30\nshift R 100, torso 1:30\nexpect hips {hours}"
    form = form_of(text)
    assert Mechanics(walk(form)).pelvis[-1] == pytest.approx(45.0)
    unmet = [f.measured for f in judge(form, walk(form)) if f.rule == "expect.unmet"]
    assert unmet == ([] if met else [pytest.approx(45.0)])


def test_the_trace_tells_which_heels_and_toes_come_up_by_themselves(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    form = form_of("sink 60\nshift R 100\nstep L 12 55x30 flat\nshift L 100\nshift R 100, torso 12\nlift L")
    file = tmp_path / "up.waltz"
    file.write_text(render(form), encoding="utf-8")
    assert run(["trace", str(file), "--json"]) == 0
    counts = json.loads(capsys.readouterr().out)["counts"]
    raised = Mechanics(walk(form)).raised
    for count, degrees in zip(counts, raised.tolist(), strict=True):
        words = ["heel" if each > 0 else "toes" if each < 0 else None for each in degrees]
        assert [count["raised"]["left"], count["raised"]["right"]] == words
    assert counts[4]["raised"]["right"] == "heel" and counts[5]["raised"]["left"] == "toes"
