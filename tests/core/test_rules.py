"""What an experienced teacher sees: every rule of body and school from both sides of its limit, and its mends."""

from __future__ import annotations

from typing import Any

import pytest

from waltzmark.core.base.errors import FormError, WaltzmarkError
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.mutes import Mute
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import RULES, judge, judge_all
from waltzmark.core.school.school import bundled_schools, load_school
from waltzmark.core.score import read_score
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.walk import walk
from waltzmark.words.findings import remedy, what

L, R = Side.LEFT, Side.RIGHT
STEP = "shift R 100\nstep L 12 "
WIDE = STEP + "side "
IN_LINE = "shift R 100\npivot L heel out 20\nstep L 12 40x15 toe 12\nshift L 60\npivot R heel in "
ACROSS = "shift L 100, torso 1\npivot R heel out 90, torso 1:30\nshift R 100, torso 3\nshift L 79, torso "
SEAT = "shift R 100\nstep L 12 side 60\nshift L 50\nshift R 100\n"
LOW = BACK = "shift L 100\npivot R heel out "


def form_of(*texts: str, school: str = "broad-frame", **options: Any) -> Form:
    postures = tuple(Posture(f"p{n}", f"Posture {n}", read_score(text)) for n, text in enumerate(texts, 1))
    return Form(school=load_school(school), postures=postures, **options)


def found(rule: str, *texts: str, **options: Any) -> list[Finding]:
    form = form_of(*texts, **options)
    return [f for f in judge(form, walk(form)) if f.rule == rule]


@pytest.mark.parametrize(
    ("rule", "wrong", "right", "measured", "limit"),
    [
        ("pivot.sit-back", "shift L 30\npivot L heel in 90", "shift L 20\npivot L heel in 90", 70, 80),
        ("pivot.far", "shift R 100\npivot L heel out 136", "shift R 100\npivot L heel out 135", 136, 135),
        ("pivot.part", "shift R 100\npivot L ball out 30", "shift R 100\npivot L heel out 30", None, None),
        (
            "pivot.contact",
            "shift R 100\nball L\npivot L heel out 9",
            "shift R 100\nball L\npivot L ball out 9",
            None,
            None,
        ),
        (
            "pivot.hip-range",
            "shift R 100\npivot L heel in 76, torso 12",
            "shift R 100\npivot L heel in 74, torso 12",
            41,
            35,
        ),
        (
            "pivot.far",
            "shift R 100\npivot L heel out 136, torso 12",
            "shift R 100\npivot L heel out 160, torso 10",
            136,
            135,
        ),
        (
            "stance.wide",
            "shift R 100\nstep L 12 side 76\nshift L 50",
            "shift R 100\nstep L 12 side 74\nshift L 50",
            76,
            74.85,
        ),
        ("stance.long", STEP + "115x30\nshift L 60", STEP + "70x30\nshift L 60", 115, None),
        (
            "stance.rear-angle",
            STEP + "bow\nshift L 70\npivot R heel out 24",
            STEP + "bow\nshift L 70\npivot R heel out 25",
            24,
            45,
        ),
        ("stance.overlap", "shift R 100\nstep L at R.ball", "shift R 100\nstep L beside", 0, 6.545),
        ("stance.low-held", "sink 75\nhold @16", "sink 75\nhold @15", 17, 16),
        ("split.forward", STEP + "bow\nshift L 59", STEP + "bow\nshift L 60", 59, 70),
        ("split.light", STEP + "empty-heel\nshift R 89", STEP + "empty-heel\nshift R 90", 11, 10),
        ("step.reach", STEP + "75x30", STEP + "56x30", 94, 50),
        ("step.landing", STEP + "bow ball\nshift L 45", STEP + "bow ball\nshift L 44", None, None),
        ("step.landing", "shift R 100\nstep L 12 back bow heel", "shift R 100\nstep L 12 back bow", None, None),
        ("step.order", "shift R 100\nstep L 9 bow", "shift R 100, torso 10\nstep L 9 bow", 90, 65),
        (
            "step.cross-again",
            STEP + "cross\nshift L 100\nstep R 12 cross",
            STEP + "cross\nshift L 100\nstep R 12 bow",
            2,
            1,
        ),
        (
            "step.swing",
            "shift R 100\nstep L at R.ball 3 30 via straight",
            "shift R 100\nstep L at R.ball 9 30 via straight",
            None,
            1,
        ),
        (
            "step.swing",
            "shift R 100\nstep L at R.ball 3 30 via straight",
            "shift R 100\nstep L at R.ball 3 30",
            None,
            1,
        ),
        ("hip.range", "shift R 79, torso 2:52", "shift R 79, torso 2:50", 51, 45),
        ("hip.range", "sink 61\nshift R 80, torso 2:06", "sink 60\nshift R 79, torso 2:06", 28, 22.5),
        (
            "hip.range",
            "pivot L heel out 48\npivot R heel out 48\nshift 50/50",
            "pivot L heel out 47\npivot R heel out 47\nshift 50/50",
            96,
            90,
        ),
        ("waist.twist", "shift R 60, torso 2:02", "shift R 60, torso 2", 26, 25),
        (
            "knee.past-toe",
            "sink 80\nshift R 100\nstep L 12 38x30\nshift L 70",
            "sink 60\nshift R 100\nstep L 12 38x30\nshift L 70",
            6.5,
            4,
        ),
        (
            "knee.shin",
            "sink 90\nshift R 100\nstep L 12 20x30\nshift L 90",
            "sink 60\nshift R 100\nstep L 12 38x30\nshift L 70",
            None,
            50,
        ),
        (
            "knee.ankle",
            "sink 90\nshift R 100\nstep L 12 40x30\nshift R 80",
            "sink 50\nshift R 100\nstep L 12 40x30\nshift R 80",
            None,
            42,
        ),
        ("knee.ankle", STEP + "25x30\nshift R 60\nsink 110", STEP + "25x30\nshift R 59\nsink 110", None, 42),
        ("knee.locked", "sink 4\nshift R 100", "sink 6\nshift R 100", 4, 5),
        ("knee.one-leg", "sink 66\nshift R 100", "sink 65\nshift R 100", 66, 65),
        ("knee.one-leg", "sink 66\nshift R 90", "sink 66\nshift R 89", 66, 65),
        ("step.drag", WIDE + "74\nshift L 50\nshift L 100", WIDE + "72\nshift L 50\nshift L 100", 11.2, 10),
        ("step.drag", WIDE + "74\nshift L 50\nshift L 98", WIDE + "74\nshift L 50\nshift L 97", 11, 10),
        ("stance.unemptied", WIDE + "68\nshift L 50\nshift L 95", WIDE + "66\nshift L 50\nshift L 95", 6.3, 5),
        ("stance.crossed", IN_LINE + "28", IN_LINE + "27", 4.9, 5),
        ("hip.range", ACROSS + "9:30", ACROSS + "11", 78.75, 45),
        (
            "pivot.loaded",
            STEP + "bow\nshift L 60, pivot R heel out 45 early",
            STEP + "bow\nshift L 60, pivot R heel out 45 late",
            100,
            40,
        ),
        ("knee.rising", "shift R 100\nsink 29", "shift R 100\nsink 30", 21, 20),
        ("knee.rising", "shift R 100\nsink +21", "shift R 60\nsink +21", 21, 20),
        ("knee.deep", "sink 91", "sink 90", 91, 90),
        (
            "balance.left",
            "shift R 85\nstep L 12 side 60\nshift L 12\nstep L 12 bow",
            "shift R 100\nstep L 12 bow",
            None,
            -0.5,
        ),
        ("balance.margin", "shift R 100\nheel R", "shift R 100\nball R", 2.84, 3),
        ("balance.part", "shift R 70, heel R\nhold", "shift R 70, heel R\nflat R", 2, 1),
        ("balance.part", "shift R 50, ball R @2", "shift R 49, ball R @2", 2, 1),
        ("stance.heel-floats", STEP + "bow\nshift L 90, ball R", STEP + "bow\nshift L 91, ball R", 10, 10),
        ("balance.bob", "shift L 60\nsink 10\nsink 50\nshift L 100", "shift L 60\nsink 10\nshift L 70", None, 6),
        (
            "stance.crossed",
            "shift R 100\nstep L at R.toe 3 8\nshift L 100",
            "shift R 100\nstep L at R.toe 9 15\nshift L 100",
            -8,
            -1,
        ),
        (
            "stance.narrow",
            "shift R 100\nstep L 12 back 40x5\nshift L 100",
            "shift R 100\nstep L 12 back 40x7\nshift L 100",
            5,
            6,
        ),
        ("balance.weak-line", STEP + "40x0\nshift L 50", STEP + "bow\nshift L 60", None, 5.5),
        ("balance.one-leg", "shift R 100\nlift L\nhold @6", "shift R 100\nlift L\nhold @5", 7, 6),
        (
            "hand.front-leg",
            STEP + "bow\nshift L 70, hand R 12 chest push\nhand L 12 chest push",
            STEP + "bow\nshift L 70, hand L 12 chest push",
            None,
            None,
        ),
        ("gaze.beyond", "gaze 1:32", "gaze 1:30", 46, 45),
        ("gaze.beyond", "gaze 2:22, hand R 2 chest", "gaze 2:20, hand R 2 chest", 71, 70),
        (
            "gaze.beyond",
            "shift R 100\nlift L knee\nkick L 2 waist, gaze 4:02",
            "shift R 100\nlift L knee\nkick L 2 waist, gaze 1",
            61,
            60,
        ),
        ("pivot.both", "pivot L heel out 21, pivot R heel out 21", "pivot L heel out 21, pivot R heel out 20", 21, 20),
        (
            "pivot.both",
            "shift L 70\npivot L heel out 25, pivot R heel in 25",
            "shift L 71\npivot L heel out 25, pivot R heel in 25",
            25,
            20,
        ),
        (
            "knee.inward",
            SEAT + "pivot L heel in 11\nshift L 50, sink 60, torso 12",
            SEAT + "pivot L heel in 10\nshift L 50, sink 60, torso 12",
            11,
            10,
        ),
        (
            "knee.inward",
            SEAT + "pivot L heel in 15\nshift L 50, sink 46, torso 12",
            SEAT + "pivot L heel in 15\nshift L 50, sink 44, torso 12",
            15,
            10,
        ),
        (
            "knee.inward",
            LOW + "34\nshift R 100\nstep L 12 40x25\nsink 60\nshift R 70",
            LOW + "35\nshift R 100\nstep L 12 40x25\nsink 60\nshift R 70",
            34,
            35,
        ),
        ("trunk.lean", STEP + "bow\nshift L 90, lean 25", STEP + "bow\nshift L 50, lean 19", 25, 0),
        ("trunk.lean", "lean -5", "lean -4", 5, 0),
        (
            "kick.across",
            "shift R 100\nlift L knee\nkick L 2:02 waist, gaze 2",
            "shift R 100\nlift L knee\nkick L 2 waist",
            61,
            60,
        ),
        (
            "step.back-open",
            BACK + "30\nshift R 100\nstep L 12 back bow\nshift L 70",
            BACK + "29\nshift R 100\nstep L 12 back bow\nshift L 70",
            30,
            30,
        ),
    ],
)
def test_each_rule_is_broken_on_one_side_of_its_limit_and_kept_on_the_other(
    rule: str, wrong: str, right: str, measured: float | None, limit: float | None
) -> None:
    assert found(rule, right) == []
    finding = found(rule, wrong)[0]
    graded = rule in ("gaze.beyond", "knee.inward", "trunk.lean", "pivot.hip-range")  # `grave` looks at those below
    assert graded or finding.severity == RULES[rule].severity
    assert what(finding) and finding.why and remedy(finding)
    if measured is not None:
        assert finding.measured == pytest.approx(measured, abs=0.6)
    if limit is not None:
        assert finding.limit == pytest.approx(limit, abs=0.02)


@pytest.mark.parametrize(
    ("rule", "school", "wrong", "right"),
    [
        (
            "split.light-contact",
            "ball-turn",
            STEP + "empty-heel\nshift R 80, torso 12",
            STEP + "empty-heel\nshift R 80, torso 1",
        ),
        (
            "split.light-contact",
            "follow-step",
            STEP + "empty-ball\nshift R 80, torso 1",
            STEP + "empty-ball\nshift R 80, torso 12",
        ),
        ("step.order", "full-shift", "shift R 100\nstep L 9 bow, torso 10", "shift R 100\nstep L 9 bow, torso 11"),
        ("step.order", "follow-step", "shift R 100\nstep L 9 bow, torso 11", "shift R 100\nstep L 9 bow, torso 10:30"),
        ("pivot.part", "ball-turn", "shift R 100\npivot L heel out 30", "shift R 100\npivot L ball out 30"),
        (
            "pivot.part",
            "follow-step",
            STEP + "bow\nshift L 60\npivot R heel out 30",
            STEP + "bow\nshift L 60\npivot R ball out 30",
        ),
        ("pivot.loaded", "full-shift", "shift L 5\npivot L heel out 30", "shift L 0\npivot L heel out 30"),
        ("pivot.loaded", "chair-side", "shift L 11\npivot L heel out 30", "shift L 10\npivot L heel out 30"),
        ("split.forward", "full-shift", STEP + "bow\nshift L 70", STEP + "bow\nshift L 95"),
        ("split.forward", "follow-step", STEP + "bow\nshift L 75", STEP + "bow\nshift L 60"),
        ("split.light", "full-shift", STEP + "empty-heel\nshift R 92", STEP + "empty-heel\nshift R 96"),
        ("pivot.far", "chair-side", "shift R 100\npivot L heel out 61", "shift R 100\npivot L heel out 60"),
        ("balance.one-leg", "chair-side", "shift R 100\nlift L\nhold", "shift R 100\nlift L\nflat L"),
        ("stance.low-held", "chair-side", "sink 40\nhold @4", "sink 40\nhold @3"),
    ],
)
def test_schools_differ_as_they_say(rule: str, school: str, wrong: str, right: str) -> None:
    assert found(rule, wrong, school=school) and not found(rule, right, school=school)


def test_a_loaded_turn_is_free_in_the_school_that_turns_loaded_and_its_limits_replace_the_base_ones() -> None:
    text = "shift L 70\npivot L heel out 60"
    assert found("pivot.loaded", text) and not found("pivot.loaded", text, school="loaded-turn")
    assert not found("hand.front-leg", STEP + "bow\nshift L 70, hand L 12 chest push", school="loaded-turn")
    wide, own = load_school("broad-frame"), load_school("full-shift")
    assert own.limit("stance.narrow", "width") == 8 and own.limit("stance.narrow", "light") == 30
    assert own.stances["bow"].width == "hip" and own.stances["bow"].length == wide.stances["bow"].length
    assert len(bundled_schools()) == 6


def test_even_weight_and_the_flow_between_postures() -> None:
    texts = ("hold", "shift R 70\nshift 50/50", "hold")
    (even,) = found("split.even", *texts, school="full-shift")
    assert (even.posture, even.count, even.measured, even.limit) == ("p2", 2, 50.0, 54.0)
    assert not found("split.even", *texts) and found("split.even", *texts, school="ball-turn")
    assert not found("split.even", "hold", "shift R 70\nshift 50/50\nshift R 80", "hold", school="ball-turn")
    (flow,) = found("step.flow", "shift R 80", "step L 12 bow")
    assert flow.measured == pytest.approx(20) and flow.mends[0].lines[0] == read_score("shift R 100")[0]
    assert not found("step.flow", "shift R 100", "step L 12 bow")


def test_a_chest_that_the_score_does_not_hold_goes_along() -> None:
    """Where nothing says what the chest does, a turned foot is no wrung waist: it is worth a note, no more."""
    turn = "shift R 100\npivot R heel 1:30\nstep L 12 bow\nshift L 70\nshift R 60\npivot L heel in 90"
    (quiet,) = found("hip.range", turn)
    assert quiet.severity == "note" and quiet.kind == "hip.range.unsaid"
    held = turn.replace("shift R 60", "shift R 60, torso 12")
    assert found("hip.range", held)[0].severity == "caution"
    deep = turn.replace("shift R 60", "shift R 80")
    assert not found("pivot.hip-range", deep) and found("pivot.hip-range", deep + ", torso 12")


def test_notes_of_the_seat_are_told_once_and_its_cautions_each_where_they_are() -> None:
    back = "shift R 100\nstep L 12 40x30\nshift R 80\nshift L 100\nstep R beside\nshift 50/50"
    forms = [form_of(back, back, back, body=Body(1.70, knee_bend=bend)) for bend in (65.0, 80.0)]
    (told,), deep = ([f for f in judge(form, walk(form)) if f.rule == "knee.ankle" and f.side is R] for form in forms)
    assert told.severity == "note" and [f.posture for f in told.everywhere] == ["p1", "p2", "p3"]
    cautions = [(f.posture, f.times) for f in deep if f.severity == "caution"]
    assert cautions == [("p1", 1), ("p2", 1), ("p3", 1)]


def test_a_leg_that_cannot_reach_its_foot_is_told_however_short_it_is() -> None:
    short = Body(1.70, measured=(("shank", 0.21), ("thigh", 0.21)))
    text = "shift R 100\nstep L 12 60x30\nshift L 50"
    assert any(f.kind == "stance.long.torn" for f in found("stance.long", text, body=short))
    assert not any(f.kind == "stance.long.torn" for f in found("stance.long", text))


def test_a_school_leans_and_leaves_the_waist_twisted_as_it_says() -> None:
    upright, leaning = load_school("broad-frame"), load_school("loaded-turn")
    assert (upright.lean, leaning.lean) == (0.0, 5.0)
    traces = [
        walk(Form(school=school, postures=form_of("shift L 100\nlean 10").postures)) for school in (upright, leaning)
    ]
    assert [trace.leans.tolist() for trace in traces] == [[0.0, 0.0, 10.0], [5.0, 5.0, 10.0]]
    y = [Mechanics(trace).pelvis_places[1, 1] for trace in traces]
    assert y[1] < y[0] - 0.01  # the seat goes back as the trunk goes ahead
    text = "shift R 60, torso 2"
    loose, strict = (replace(upright, waist_twist=limit) for limit in (40.0, 20.0))
    for school, found in ((loose, 0), (strict, 1)):
        form = Form(school=school, postures=form_of(text).postures)
        assert sum(f.rule == "waist.twist" for f in judge(form, walk(form))) == found
    for wrong in ({"lean": 80.0}, {"waist_twist": -1.0}):
        with pytest.raises(WaltzmarkError, match=r"school\.(lean|waist-twist)"):
            replace(upright, **wrong)  # type: ignore[arg-type]


def read_clock(text: str) -> Any:
    return getattr(read_score(f"torso {text}")[0].actions[0], "aim")  # noqa: B009


def test_muted_findings_are_kept_with_their_reason() -> None:
    text = "shift R 100\npivot L ball out 30\npivot L ball out 30"
    form = form_of(text, text)
    rows = [f.row for f in judge(form, walk(form)) if f.rule == "pivot.part"]
    for mute, left in (
        (Mute("pivot.part", "the teacher turns so"), 0),
        (Mute("pivot.part", "only here", "p1"), 2),
        (Mute("pivot.part", "only once", "p1", 3), 3),
        (Mute("pivot.far", "another"), 4),
    ):
        judged = judge_all(replace(form, mutes=(mute,)), walk(form))
        assert sum(f.rule == "pivot.part" for f in judged.findings) == left
        assert len(judged.muted) == len(rows) - left and all(m is mute for _, m in judged.muted)
    with pytest.raises(FormError, match="mute.reason"):
        Mute("pivot.part", " ")


def test_what_was_found_before_is_found_again_after_an_edit_elsewhere() -> None:
    """Postures that have not changed are not judged anew; the findings are those of a fresh walk all the same."""
    texts = [
        "shift R 100\npivot L ball out 50\nstep L 12 bow\nshift L 55",
        STEP + "80x5\nshift L 60\nsink 95",
        "shift R 70\nlift L",
        STEP + "cross\nshift L 100",
    ]
    form = form_of(*texts)
    trace = walk(form)
    judge(form, trace)
    for at, text in ((1, "hold\nhold"), (0, "shift L 80\nstep R 12 bow"), (3, "shift R 60\nstep L 9 70x30")):
        form = form.with_posture(replace(form.postures[at], lines=read_score(text)))
        trace = walk(form, trace)
        assert judge(form, trace) == judge(form, walk(form))


# What the body does, against answers worked by hand.


@pytest.mark.parametrize(
    ("spare", "share", "told"), [("left", 79, True), ("left", 80, False), ("", 60, False), ("right", 79, False)]
)
def test_a_side_that_is_spared_turns_its_foot_only_as_light_as_before_a_big_turn(
    spare: Any, share: int, told: bool
) -> None:
    turned = found("pivot.loaded", f"shift R {share}\npivot L heel in 30", body=Body(spare=spare))
    assert bool(turned) == told
    if told:
        assert turned[0].limit == 20.0 and turned[0].measured == pytest.approx(100.0 - share)
