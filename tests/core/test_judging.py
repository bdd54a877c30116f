"""What must hold of every judgement, whatever is written: found by trying forms at random."""

from __future__ import annotations

from collections import Counter

import numpy as np
import pytest
import shapely
from hypothesis import assume, example, given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import written_length
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.judge.compare import changes
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import RULES, judge
from waltzmark.core.school.school import CHOICES, School, bundled_schools, load_school, school_table
from waltzmark.core.score import read_count, read_score, write_count
from waltzmark.core.score.actions import Count, Faced, Step
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.ground import STEP
from waltzmark.core.walk.mechanics import IN_FRONT, Mechanics
from waltzmark.core.walk.motion import feet_between, foot_between, swing_of
from waltzmark.core.walk.naming import recognised
from waltzmark.core.walk.walk import walk
from waltzmark.files.schools import read_school
from waltzmark.files.values import Values
from waltzmark.words.findings import remedy, what
from waltzmark.words.rules import changed


def school_from(table: dict[str, object]) -> School | None:
    return read_school(table, Values(""))


schools = st.sampled_from(bundled_schools())
#: Counts as they are really written: most of what is walked at random breaks every rule at once.
sane = st.sampled_from(
    [
        "shift R 100",
        "shift L 100",
        "shift 50/50",
        "shift R 70",
        "shift L 85",
        "step L 12 bow",
        "step R 12 bow",
        "step L 9 bow 70x4",
        "step R 3 back bow",
        "step L 12 side parallel",
        "step R beside",
        "step L 12 cross",
        "step L 12 empty-heel",
        "step R 12 empty-ball",
        "pivot L heel in 90",
        "pivot R ball out 60",
        "pivot L heel 10:30",
        "pivot R heel in 45",
        "torso 1:30",
        "torso 9",
        "sink 30",
        "sink 95",
        "lift R knee",
        "lift L",
        "hold @9",
        "heel R",
        "ball L",
        "hand R 12 chest push",
        "hand L 9 chest push",
        "gaze 3",
        "step R to 0.3 0.4",
        "step L at R.toe 9 5",
        "shift R 80",
        "shift L 80",
        "shift L 45",
        "shift R 55",
        "shift R 98",
        "shift L 3",
        "shift R 60",
        "torso 10:30",
        "pivot L heel out 40, pivot R heel out 30",
        "pivot L ball in 25, pivot R ball out 25, torso 1",
        "step L 12 side 60",
        "step R 12 40x-10",
        "step L 12 back bow",
        "shift L 50, sink 60",
        "lean 25",
        "lean -10",
        "lift L knee, kick L 2:30 waist",
        "gaze 5",
        "shift L 70, pivot R heel 1:30 late",
        "shift R 80, pivot L heel out 30 early, torso 1 late",
    ]
).map(read_count)
Lines = tuple[Count, ...]
#: Counts in which several things happen together.
full = st.lists(sane, min_size=1, max_size=3).map(
    lambda parts: Count(tuple(action for part in parts for action in part.actions), max(part.beats for part in parts))
)
scores = st.lists(sane, max_size=9).map(tuple)


def key(finding: Finding) -> tuple[object, ...]:
    measured = None if finding.measured is None else round(finding.measured, 4)
    return finding.rule, finding.posture, finding.count, finding.row, finding.side, measured, what(finding)


@settings(max_examples=tries(40))
@given(st.lists(scores, min_size=1, max_size=4), st.integers(0, 3), scores, schools)
def test_a_form_judged_after_an_edit_is_judged_as_if_it_were_new(
    texts: list[Lines], at: int, instead: Lines, school: str
) -> None:
    form = Form(
        school=load_school(school), postures=tuple(Posture(f"p{n}", lines=lines) for n, lines in enumerate(texts))
    )
    trace = walk(form)
    judge(form, trace)
    edited = form.with_posture(replace(form.postures[at % len(texts)], lines=instead))
    after = walk(edited, trace)
    assert list(map(key, judge(edited, after))) == list(map(key, judge(edited, walk(edited))))


#: The last shift is onto a leg that does not reach, so that how far its shin leans is not known.
_NOT_REACHED = """step L 12 bow, step R 3 back bow
step L 12 bow, step R 12 bow
sink 95, shift R 80, pivot L heel out 30 early, torso 1 late"""


@settings(max_examples=tries(40))
@given(st.lists(full, max_size=9).map(tuple), schools)
@example(read_score("step L 12 bow, torso 9\nshift L 100, pivot L heel in 90"), "ball-turn")
@example(read_score(_NOT_REACHED), "broad-frame")
def test_the_other_side_of_a_form_has_the_same_findings_with_left_and_right_exchanged(
    lines: Lines, school: str
) -> None:
    lines = tuple(line for line in lines if not line.spots)
    form = Form(school=load_school(school), postures=(Posture("a", lines=lines),))
    mirror = form.with_posture(Posture("a", lines=tuple(line.mirrored(0.0, "N") for line in lines)))

    def told(form: Form, exchanged: bool) -> tuple[list[tuple[object, ...]], list[float]]:
        found = []
        for f in judge(form, walk(form)):
            side = -1 if f.side is None else int(f.side.other if exchanged else f.side)
            found.append(((f.rule, f.row, side, len(f.mends)), f.measured or 0.0, f.limit or 0.0))
        found.sort()
        return [key for key, *_ in found], [value for _, *both in found for value in both]

    (keys, values), (mirrored, measured) = told(form, False), told(mirror, True)
    assume("pivot.half-turn" not in {rule for rule, *_ in keys})  # walked clockwise, on either side
    assert keys == mirrored
    # A margin is found to the tenth of a millimetre, from whichever side it is looked for.
    assert measured == pytest.approx(values, abs=0.02)


@settings(max_examples=tries(30))
@given(scores, st.integers(1, 11), schools)
def test_a_form_turned_on_the_floor_has_the_same_findings(lines: Lines, hours: int, school: str) -> None:
    turned = tuple(line.turned(30.0 * hours, "N") for line in (read_count("torso 12"), *lines))
    rules = []
    for text in ((read_count("torso 12"), *lines), turned):
        form = Form(school=load_school(school), postures=(Posture("a", lines=text),))
        # The body has to face the new way before: it does so by turning both empty feet.
        head = read_score("shift R 100\npivot L heel 12\nshift L 100\npivot R heel 12\nshift 50/50")
        head = head if text is not turned else tuple(line.turned(30.0 * hours, "N") for line in head)
        if text is turned:
            head = tuple(read_count(write_count(line).replace("heel 6", "heel 6 cw")) for line in head)
        form = form.with_posture(replace(form.postures[0], lines=(*head, *text)))
        found = judge(form, walk(form))
        rules.append(
            Counter((f.rule, f.count, f.side) for f in found if f.count > len(head) + 1 and "order" not in f.rule)
        )
    # The feet stand where the turn has left them, so only what the counts themselves say is compared.
    assert {r[0] for r in rules[0] if r[0].startswith(("weight", "gaze", "knee.deep", "pivot.far"))} == {
        r[0] for r in rules[1] if r[0].startswith(("weight", "gaze", "knee.deep", "pivot.far"))
    }


@settings(max_examples=tries(40))
@given(scores, schools)
@example(read_score("step L 9 bow 70x4\npivot R ball out 60\npivot R ball out 60\nshift L 80"), "ball-turn")
def test_every_mend_gives_a_score_that_can_be_written_and_walked(lines: Lines, school: str) -> None:
    form = Form(school=load_school(school), postures=(Posture("a", lines=lines),))
    for finding in judge(form, walk(form)):
        assert finding.rule in RULES and what(finding) and remedy(finding)
        for mend in finding.mends:
            mended = mend.applied(form)
            text = "\n".join(write_count(line) for line in mended.postures[0].lines)
            assert read_score(text) == mended.postures[0].lines and len(walk(mended)) >= 1
            assert mended != form


@settings(max_examples=tries(60))
@given(scores, schools)
def test_no_mend_leaves_what_it_mends_where_it_writes(lines: Lines, school: str) -> None:
    form = Form(school=load_school(school), postures=(Posture("a", lines=lines),))
    for finding in judge(form, walk(form)):
        for mend in finding.mends:
            if mend.does.kind == "mend.half-step":
                continue  # opens a hip, which may not be what is short
            mended = mend.applied(form)
            trace = walk(mended)
            stop = mend.start + len(mend.lines) + (mend.start == mend.stop)
            for left in judge(mended, trace):
                if (left.kind, left.side) == (finding.kind, finding.side) and left.measured is not None:
                    better = abs(left.measured - (finding.measured or 0.0)) > 0.5
                    assert better or not mend.start <= trace.line(left.row) < stop


@settings(max_examples=tries(60))
@given(scores, schools)
def test_no_two_findings_ask_for_two_lengths_of_one_step(lines: Lines, school: str) -> None:
    form = Form(school=load_school(school), postures=(Posture("a", lines=lines),))
    asked: dict[tuple[int, str], set[float]] = {}
    for finding in judge(form, walk(form)):
        for mend in finding.mends:
            if mend.does.kind in ("mend.shorten", "mend.size", "mend.widen", "mend.narrow"):
                step = next(line for line in mend.lines if line.one(Step) is not None).one(Step)
                assert step is not None and isinstance(step.place, Faced)
                if step.place.length is not None:
                    asked.setdefault((mend.start, school), set()).add(step.place.length.value)
    assert all(len(lengths) == 1 for lengths in asked.values())


@settings(max_examples=tries(30))
@given(st.lists(sane, min_size=1, max_size=6).map(tuple))
@example(read_score("step R 12 bow\nshift L 85\npivot R ball out 60"))  # two edges that are nearly as near
def test_balance_agrees_with_the_hull_of_the_soles(lines: Lines) -> None:
    trace = walk(Form(postures=(Posture("a", lines=lines),)))
    found, sole = Mechanics(trace), trace.body.sole
    for row in range(len(trace)):
        pose = trace.pose(row)
        patches = [
            sole.placed(patch, foot.x, foot.y, foot.heading)
            for side in Side
            if pose.share(side) > 0.02
            and (foot := pose.foot(side)).contact is not Contact.AIR
            and (patch := sole.patch(side, foot.contact)) is not None
        ]
        hull = shapely.convex_hull(shapely.multipoints(np.concatenate(patches)))
        centre = shapely.points(trace.centres[row])
        away = float(shapely.distance(centre, shapely.boundary(hull)))
        signed = away if shapely.covers(hull, centre) else -away
        assert found.margin[row] == pytest.approx(signed, abs=0.0005)
        assert signed - 0.001 <= found.rough_margin[row] <= signed + 0.03


@settings(max_examples=tries(40))
@given(st.lists(sane, min_size=1, max_size=6).map(tuple), st.floats(0.0, 1.0))
@example(read_score("shift R 100\npivot L ball out 70\npivot L toe 9 cw\nstep L 12 bow"), 0.4)
def test_feet_of_a_whole_walk_travel_as_each_foot_does(lines: Lines, time: float) -> None:
    trace = walk(Form(postures=(Posture("a", lines=lines),)))
    for side in Side:
        rows, placed = feet_between(trace, side, np.array([0.0, time, 1.0]))
        for row, three in zip(rows.tolist(), placed, strict=True):
            before, after = trace.pose(row - 1).foot(side), trace.pose(row).foot(side)
            for t, (x, y, heading) in zip((0.0, time, 1.0), three.tolist(), strict=True):
                foot = foot_between(before, after, trace.move(row, side), t)
                assert (foot.x, foot.y) == pytest.approx((x, y), abs=1e-6)
                assert (foot.heading - heading + 180) % 360 == pytest.approx(180, abs=1e-6)
            if trace.move_kinds[row, side] == STEP:
                (swung,) = swing_of(before, after, trace.move(row, side), np.array([time]))
                assert swung == pytest.approx(foot_between(before, after, trace.move(row, side), time)[:2], abs=1e-6)


@settings(max_examples=tries(30))
@given(scores)
def test_a_stance_and_its_mirror_image_have_the_same_name(lines: Lines) -> None:
    lines = tuple(line for line in lines if not line.spots)
    forms = [Form(postures=(Posture("a", lines=text),)) for text in (lines, tuple(e.mirrored(0.0, "N") for e in lines))]
    traces = [walk(form) for form in forms]
    for row in range(len(traces[0])):
        one, other = (recognised(t.pose(row), t.body, f.school) for t, f in zip(traces, forms, strict=True))
        assert one.name == other.name and one.match == pytest.approx(other.match, abs=1e-9)
        if one.name and one.name != "one-leg":  # with a foot in front it is never named as a stance without, nor else
            length = forms[0].school.stances[one.name].length
            assert (not isinstance(length, str) or written_length(length).metres(Body()) >= IN_FRONT) == (
                one.front is not None
            )
        assert one.front is (None if other.front is None else other.front.other)


@pytest.mark.parametrize("name", bundled_schools())
def test_a_school_is_written_as_its_differences_and_read_back(name: str) -> None:
    school = load_school(name)
    assert school_from(school_table(school)) == school
    own = replace(
        school,
        id="own",
        name="Own",
        base=name,
        rules=dict(school.rules)
        | {
            "gaze.beyond": replace(
                school.rules["gaze.beyond"], limits=dict(school.rules["gaze.beyond"].limits) | {"angle": 12.0}
            )
        },
    )
    table = school_table(own)
    assert table["rules"] == {"gaze.beyond": {"limits": {"angle": 12.0}}} and "stances" not in table
    assert school_from(table) == own
    lands = replace(school.stances["empty-heel"], land="", width="1.1sw")
    other = replace(own, stances=dict(school.stances) | {"empty-heel": lands, "crane": school.stances["bow"]})
    table = school_table(other)
    assert table["stances"]["empty-heel"] == {"width": "1.1sw", "land": ""} and set(table["stances"]["crane"]) > {"toe"}
    assert school_from(table) == other
    for rule, choice in CHOICES:
        assert school.choice(rule, choice) in CHOICES[rule, choice]


def test_what_changed_between_two_judgements_is_said() -> None:
    form = Form(
        postures=(Posture("a", lines=read_score("shift R 100\npivot L ball out 30\nstep L 12 40x3\nshift L 60")),)
    )
    before = judge(form, walk(form))
    other = replace(form, school=load_school("ball-turn"))
    after = judge(other, walk(other))
    gone, new = changes(before, after)
    assert gone["pivot.part"] == 1 and new["split.even"] + sum(new.values()) >= 0 and sum(gone.values()) >= 1
    assert changes(before, before) == (Counter(), Counter()) and changed("Ball turn", before, after)


def test_bodies_and_ends_of_postures_reach_the_findings() -> None:
    lines = read_score("shift R 100\nlift L\nhold @8\nflat L")
    one_leg = Form(postures=(Posture("a", lines=lines, ends=Clock(0)),))
    helped = replace(one_leg, body=Body(support=True))
    assert [f.rule for f in judge(one_leg, walk(one_leg)) if f.rule == "balance.one-leg"] == ["balance.one-leg"]
    assert not [f for f in judge(helped, walk(helped)) if f.rule == "balance.one-leg"]
    stiff = replace(one_leg, body=Body(knee_most=40.0))
    assert walk(stiff).pose(0).sink == 40.0 and "knee.deep" not in {f.rule for f in judge(stiff, walk(stiff))}
    lower = stiff.with_posture(Posture("a", lines=read_score("sink 41")))
    assert "knee.deep" in {f.rule for f in judge(lower, walk(lower))}
