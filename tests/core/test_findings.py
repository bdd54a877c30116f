"""Every finding from both sides of its threshold, on small made forms."""

from __future__ import annotations

import pytest

from waltzmark.core.base.messages import Heading
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import RULES, judge
from waltzmark.core.school.school import bundled_schools, load_school
from waltzmark.core.score import read_score
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.walk import walk
from waltzmark.words.findings import remedy, what


def found(text: str, ends: Clock | None = None) -> list[Finding]:
    form = Form(postures=(Posture("a", "First", read_score(text), ends),))
    return list(judge(form, walk(form)))


def rules(text: str, ends: Clock | None = None) -> list[str]:
    return [f.rule for f in found(text, ends)]


@pytest.mark.parametrize(
    ("wrong", "right", "rule", "count", "measured", "limit", "unit"),
    [
        ("shift R 85\nstep L 12 bow", "shift R 100\nstep L 12 bow", "weight.loaded-lift", 2, 15, 10, "%"),
        ("shift R 90\nlift L", "shift R 98\nlift L", "weight.loaded-lift", 2, 10, 10, "%"),
        ("shift R 100\nlift L\nshift L 30", "shift R 100\nlift L\nflat L\nshift L 30", "weight.in-air", 3, 30, 0, "%"),
        (
            "shift R 100\nstep L 12 bow, shift L 60",
            "shift R 100\nstep L 12 bow\nshift L 60",
            "weight.falling-step",
            2,
            60,
            0,
            "%",
        ),
        (
            "shift R 100\nlift L\nlift R, shift L 0",
            "shift R 100\nlift L",
            "weight.both-in-air",
            3,
            2,
            1,
            "feet in the air",
        ),
        ("shift L 20, shift L 30", "shift L 20", "score.contradiction", 1, 2, 1, "actions"),
        ("shift R 100\npivot L heel 6", "shift R 100\npivot L heel 6 ccw", "pivot.half-turn", 2, 180, 180, "°"),
        ("shift L 41\npivot L heel 9", "shift L 40\npivot L heel 9", "pivot.loaded", 2, 41, 40, "%"),
        ("shift L 100\npivot L heel -21", "shift L 100\npivot L heel -20", "pivot.loaded", 2, 100, 40, "%"),
        ("shift R 100\npivot L heel 9, shift L 70", "shift R 100\npivot L heel 9", "pivot.loaded", 2, 70, 40, "%"),
        (
            "shift R 100\nstep L 12 40x11\nshift L 60",
            "shift R 100\nstep L 12 40x12\nshift L 60",
            "stance.narrow",
            3,
            11,
            12,
            "cm",
        ),
        (
            "shift R 100\nstep L at R.toe 3 0.5\nshift L 20",
            "shift R 100\nstep L at R.toe 9 1\nshift L 20",
            "stance.narrow",
            3,
            -0.5,
            0,
            "cm",
        ),
        (
            "shift R 100\nstep L at R.toe 3 8\nshift L 60",
            "shift R 100\nstep L at R.toe 9 15\nshift L 60",
            "stance.crossed",
            3,
            -8,
            -1,
            "cm",
        ),
        ("shift R 100\nexpect R 98.5", "shift R 100\nexpect R 99", "expect.unmet", 1, 100, 98.5, "%"),
        ("shift R 100\nexpect 5/95", "shift R 100\nexpect 0/100", "expect.unmet", 1, 0, 5, "%"),
        ("torso 11\nexpect torso 12", "torso 11\nexpect torso ~11", "expect.unmet", 1, 330, 0, "°"),
        ("gaze 3\nexpect gaze 12", "gaze 3\nexpect gaze E", "expect.unmet", 1, 90, 0, "°"),
        ("hold\nexpect R toe 12:10", "hold\nexpect R toe 12:04", "expect.unmet", 1, 0, 5, "°"),
        ("hold\nexpect L heel", "hold\nexpect L flat", "expect.unmet", 1, 1, 0, "contact"),
        ("hold\nexpect width 12", "hold\nexpect width 10", "expect.unmet", 1, 9.35, 12, "cm"),
        (
            "shift R 100\nstep L 12 62x30\nexpect length 59",
            "shift R 100\nstep L 12 62x30\nexpect length 61",
            "expect.unmet",
            2,
            62,
            59,
            "cm",
        ),
    ],
)
def test_each_rule_finds_what_is_wrong_and_only_that(
    wrong: str, right: str, rule: str, count: int, measured: float, limit: float, unit: str
) -> None:
    assert rule not in rules(right)
    finding = next(f for f in found(wrong) if f.rule == rule)
    assert (finding.posture, finding.count, finding.unit) == ("a", count, unit)
    assert finding.measured == pytest.approx(measured) and finding.limit == pytest.approx(limit)
    assert finding.severity == RULES[rule].severity
    assert what(finding) and finding.why and remedy(finding)


def test_a_posture_ends_in_its_stated_facing() -> None:
    assert rules("torso 12:12", Clock(0)) == ["posture.ends"]
    assert rules("torso 12:10", Clock(0)) == []
    finding = found("torso 1:30", Clock(0))[0]
    assert finding.message["found"] == Heading(45.0, 0.0) and finding.message["wanted"] == Heading(0.0, 0.0)
    assert finding.measured == pytest.approx(45) and finding.limit == 5 and finding.severity == "stop"


def test_an_expectation_before_any_count_is_about_what_came_before() -> None:
    form = Form(
        postures=(Posture("a", lines=read_score("shift R 100")), Posture("b", lines=read_score("expect L 100\nhold")))
    )
    finding = judge(form, walk(form))[0]
    assert (finding.posture, finding.count, finding.row) == ("b", 0, 1)


def test_a_stance_is_judged_once_when_it_is_taken_and_not_when_crossing_is_meant() -> None:
    narrow = "shift R 100\nstep L 12 40x2\nshift L 60"
    assert rules(narrow + "\nshift L 50\nshift L 60").count("stance.narrow") == 1
    for weights, row in (("shift L 70", 3), ("shift L 100\nshift L 80", 3), ("shift L 30\nshift L 31\nshift L 60", 4)):
        told = [f for f in found(f"shift R 100\nstep L 12 40x2\n{weights}") if f.rule == "stance.narrow"]
        assert [f.row for f in told] == [row]
    assert "stance.narrow" not in rules("shift R 100\nstep L 12 40x2\nshift L 30\nshift L 0")  # light in front
    assert "stance.crossed" not in rules("shift R 100\nstep L 12 cross\nshift L 60")
    assert "stance.narrow" not in rules("shift R 100\nstep L beside 2\nshift L 60")  # side by side is no tightrope


def test_cautions_come_with_their_words_and_a_school_may_leave_a_rule_out() -> None:
    text = "shift L 70\npivot L heel 10:30, torso 12"
    (loaded,) = [f for f in found(text) if f.rule == "pivot.loaded"]
    assert "knee" in loaded.caution
    school = load_school("broad-frame")
    silent = {k: v for k, v in school.rules.items() if k != "pivot.loaded"}
    off = dict(school.rules) | {"pivot.loaded": replace(school.rules["pivot.loaded"], off=True)}
    for rules_left in (silent, off):
        form = Form(school=replace(school, rules=rules_left), postures=(Posture("a", lines=read_score(text)),))
        assert {f.rule for f in judge(form, walk(form))} == {f.rule for f in found(text)} - {"pivot.loaded"}


def test_findings_come_in_the_order_of_the_walk_the_gravest_first() -> None:
    text = "expect L 0\nshift L 70\npivot L heel 9\nstep L 9 bow, shift L 60\nhold\nexpect R 0"
    rows = [(f.row, f.severity) for f in found(text)]
    assert [r for r, _ in rows] == sorted(r for r, _ in rows)
    grave = [s for r, s in rows if r == 3]
    assert grave[0] == "stop" and grave == sorted(grave, key=["stop", "caution", "note"].index)


def test_every_registered_rule_stands_in_the_school_with_its_reason() -> None:
    for name in bundled_schools():
        school = load_school(name)
        assert set(RULES) == set(school.rules)
        assert all(setting.why for setting in school.rules.values())
