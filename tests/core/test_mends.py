"""Mends write what they say, and the finding is gone."""

from __future__ import annotations

import pytest

from tests.core.test_rules import ACROSS, STEP, R, form_of, read_clock
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Posture
from waltzmark.core.form.mutes import Mute
from waltzmark.core.judge.judging import judge, judge_all
from waltzmark.core.score import write_count
from waltzmark.core.walk.walk import walk


@pytest.mark.parametrize(
    ("rule", "text", "number", "lines"),
    [
        ("weight.loaded-lift", "shift R 85\nstep L 12 bow", 0, ["shift R 85", "shift R 100", "step L 12 bow"]),
        ("weight.falling-step", STEP + "bow, shift L 60", 0, ["shift R 100", "step L 12 bow", "shift L 60"]),
        ("pivot.half-turn", "shift R 100\npivot L heel 6", 1, ["shift R 100", "pivot L heel 6 ccw"]),
        (
            "pivot.loaded",
            "shift L 70\npivot L heel 10:30, torso 12",
            0,
            ["shift L 70", "shift R 60", "pivot L heel 10:30, torso 12"],
        ),
        (
            "pivot.loaded",
            "shift R 100\npivot L heel 10:30, shift L 70",
            0,
            ["shift R 100", "pivot L heel 10:30", "shift L 70"],
        ),
        ("pivot.part", "shift R 100\npivot L ball out 30", 0, ["shift R 100", "pivot L heel out 30"]),
        (
            "pivot.hip-range",
            "shift R 100\nstep L 12 40x30\npivot L heel in 90, torso 12\nshift L 100",
            1,
            ["shift R 100", "step L 12 40x30", "pivot L heel in 70, torso 12", "shift L 100", "pivot L ball in 20"],
        ),
        (
            "pivot.hip-range",
            "shift R 100\nstep L 12 40x30\nshift L 70\nshift R 80\npivot L heel in 90, torso 1",
            1,
            [
                "shift R 100",
                "step L 12 40x30",
                "shift L 70",
                "shift R 80",
                "shift L 100",
                "step R 12 half toe 12:40",
                "shift R 100, flat R",
                "pivot L heel in 90, torso 1",
            ],
        ),
        (
            "pivot.hip-range",
            "shift R 100\nstep L 12 40x30\npivot L heel in 90, torso 12",
            0,
            ["shift R 100", "step L 12 40x30", "pivot L heel in 70, torso 12"],
        ),
        ("hip.range", "shift R 79, torso 3", 0, ["shift R 79, torso 2:40"]),
        (
            "hip.range",
            "shift R 100\npivot L heel in 60\ntorso 3:30\nshift L 85",
            1,
            ["shift R 100", "pivot L heel in 60", "torso 1:45", "shift L 85, torso 3:30 late"],
        ),
        ("hip.range", ACROSS + "9:30", 0, [*ACROSS.splitlines()[:-1], "shift L 79, torso 9:30 late"]),
        ("waist.twist", "shift R 60, torso 2:02", 0, ["shift R 60, torso 1:10"]),
        ("knee.rising", "shift R 100\nsink 20", 0, ["shift R 100", "sink 30"]),
        (
            "stance.heel-floats",
            STEP + "bow\nshift L 70, ball R",
            0,
            ["shift R 100", "step L 12 bow", "shift L 70, ball R", "flat R"],
        ),
        ("step.swing", "shift R 100\nstep L at R.ball 3 30 via straight", 0, ["shift R 100", "step L at R.ball 3 30"]),
        ("stance.narrow", STEP + "40x5\nshift L 60", 0, ["shift R 100", "step L 12 40x35", "shift L 60"]),
        ("split.forward", STEP + "bow\nshift L 55", 0, ["shift R 100", "step L 12 bow", "shift L 70"]),
        ("step.reach", STEP + "58x30", 0, ["shift R 100", "sink 62, step L 12 58x30"]),
        ("step.reach", STEP + "70x30", 0, ["shift R 100", "step L 12 51x30"]),
        (
            "stance.rear-angle",
            STEP + "bow\nshift L 70, torso 12",
            0,
            ["shift R 100", "step L 12 bow", "shift L 70, torso 12", "pivot R heel out 45"],
        ),
        (
            "hand.front-leg",
            STEP + "bow\nshift L 70, hand R 12 chest push\nhand L 12 chest push",
            0,
            ["shift R 100", "step L 12 bow", "shift L 70, hand R 12 chest push", "hand R 12 chest push"],
        ),
    ],
)
def test_a_mend_writes_what_it_says_and_the_finding_is_gone(
    rule: str, text: str, number: int, lines: list[str]
) -> None:
    form = form_of(text)
    finding = next(f for f in judge(form, walk(form)) if f.rule == rule)
    mended = finding.mends[number].applied(form)
    assert [write_count(line) for line in mended.postures[0].lines] == lines
    assert rule not in {f.rule for f in judge(mended, walk(mended))}


def test_a_mirrored_posture_is_mended_at_its_source() -> None:
    form = form_of("shift R 100\npivot L ball out 30")
    form = replace(form, postures=(*form.postures, Posture("m", mirror_of="p1", axis=read_clock("12"))))
    postures = (*form.postures, Posture("t", repeat_of="m"), Posture("own", lines=form.postures[0].lines))
    form = replace(form, postures=postures)
    told, own = (f for f in judge(form, walk(form)) if f.rule == "pivot.part")
    # What a source and those that take their counts from it have in common is told once, where it can be mended.
    assert (told.posture, told.times, own.posture, own.times) == ("p1", 3, "own", 1) and told.mends
    assert [(f.posture, f.count, f.side, f.mends) for f in told.again] == [("m", 2, R, ()), ("t", 2, R, ())]
    everywhere = judge_all(form, walk(form)).everywhere
    assert [f.posture for f in everywhere if f.rule == "pivot.part"] == ["p1", "m", "t", "own"]
    muted = judge_all(replace(form, mutes=(Mute("pivot.part", "so", "m"),)), walk(form))
    assert next(f for f in muted.findings if f.rule == "pivot.part").times == 2 and len(muted.muted) == 1
