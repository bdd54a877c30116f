"""How large stances come out by themselves, and that nothing a school or a body gives by default is found fault with."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_rules import form_of
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import RANGES, Body
from waltzmark.core.body.gap import gaps
from waltzmark.core.body.reach import least_bends
from waltzmark.core.form.form import Opening
from waltzmark.core.judge.judging import judge
from waltzmark.core.school.school import School, bundled_schools, load_school
from waltzmark.core.walk.step import size_given
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

L, R = Side.LEFT, Side.RIGHT


@pytest.mark.parametrize(
    ("stature", "bend", "parallel", "turned"),
    [
        (1.50, 40.0, (39, 25, 0), (39, 20, 9)),
        (1.50, 50.0, (40, 31, 0), (39, 21, 0)),
        (1.50, 60.0, (45, 31, 0), (39, 27, 0)),
        (1.72, 40.0, (44, 29, 0), (44, 23, 9)),
        (1.72, 50.0, (46, 35, 0), (44, 24, 0)),
        (1.72, 60.0, (52, 35, 0), (44, 31, 0)),
        (1.95, 40.0, (50, 32, 0), (50, 27, 9)),
        (1.95, 50.0, (52, 40, 0), (50, 27, 0)),
        (1.95, 60.0, (59, 40, 0), (50, 35, 0)),
    ],
)
def test_a_bow_is_as_large_as_the_body_gives_it(
    stature: float, bend: float, parallel: tuple[int, int, int], turned: tuple[int, int, int]
) -> None:
    school, body = load_school("broad-frame"), Body(stature)
    for away, wanted in ((0.0, parallel), (-45.0, turned)):
        size = school.stance_size("bow", body, bend, R, away)
        assert 100 * np.array(size[:2]) == pytest.approx(np.array(wanted[:2]), abs=1.0)
        assert size.more == pytest.approx(wanted[2], abs=1.0)
        assert size.full == (wanted[1] >= round(100 * school.stances["bow"].width_metres(body)))


@given(
    st.sampled_from(bundled_schools()),
    st.sampled_from(["bow", "low", "cross"]),
    st.floats(1.45, 2.0),
    st.sampled_from(list(RANGES)),
    st.floats(20.0, 75.0),
    st.integers(-60, 60),
    st.booleans(),
    st.sampled_from(list(Side)),
)
def test_a_stance_is_stepped_into_empty_at_the_bend_it_says(
    name: str, stance: str, stature: float, ranges: str, bend: float, away: int, back: bool, support: Side
) -> None:
    """Held against the least bend that lands it, or it is no longer than the shortest there is."""
    school, body = load_school(name), Body(stature, **RANGES[ranges])  # type: ignore[arg-type]
    size = school.stance_size(stance, body, bend, support, float(away), back)
    least = 1.1 if stance == "cross" else 1.3
    assert size.length >= least * body.foot_length - 1e-9 and 0.0 <= size.more <= 10.0
    if size.length < (least + 0.01) * body.foot_length or stance == "cross":
        return
    ahead = np.array([np.sin(np.radians(away)), np.cos(np.radians(away))])
    across = np.array([ahead[1], -ahead[0]])
    heel = ahead * size.length * (-1.0 if back else 1.0) + support.other.sign * size.width * across
    own = school.stances[stance]
    turn = support.other.sign * (own.rear_toe if back else own.toe)
    land = Contact.BALL if back else Contact.HEEL
    needs = least_bends(
        body,
        support,
        heel[None],
        np.array([away + turn]),
        np.array([int(land)]),
        np.zeros((1, 2)),
        np.zeros(1),
    )[0]
    assert needs <= bend + size.more + 0.5


@given(st.sampled_from(bundled_schools()), st.floats(1.45, 2.0), st.floats(20.0, 75.0), st.integers(-50, 50))
def test_a_crossing_foot_is_set_down_clear_of_the_other(name: str, stature: float, bend: float, away: int) -> None:
    school, body = load_school(name), Body(stature)
    for support in Side:
        length, width, *_ = school.stance_size("cross", body, bend, support, float(away))
        ahead = np.array([np.sin(np.radians(away)), np.cos(np.radians(away))])
        heel = ahead * length + support.other.sign * width * np.array([ahead[1], -ahead[0]])
        toe = away + support.other.sign * school.stances["cross"].toe
        assert gaps(body.sole, support.other, np.zeros(3), np.array([[*heel, toe]]))[0] >= 0.02 - 1e-9


def ways_in(school: School, side: Side) -> Iterator[str]:
    """How each stance of a school is stepped into and loaded as the school has it."""
    foot, other = side.letter, side.other.letter
    front, part = school.rules["split.forward"].limits["front"], school.rules["pivot.part"].choices["part"]
    part = "heel" if part == "heel" else "ball"
    for stance in ("bow", "low"):
        out = school.stances[stance].rear_toe
        turn = f"{'+' if side is L else '-'}{min(out, 45):g}"
        yield (
            f"shift {foot} 100\npivot {other} {part} out {out:g}, torso {turn}\nshift {other} 100\n"
            f"step {foot} 12 {stance}\nshift {foot} {front:g}, torso 12"
        )
        yield f"shift {other} 100, torso {turn}\nstep {foot} 12 back {stance}\nshift {foot} 70, torso 12"
    for stance in ("empty-heel", "empty-ball"):
        yield f"shift {other} 100\nstep {foot} 12 {stance}\nhold"
    for stance in ("horse", "parallel"):
        yield f"shift {other} 100\nstep {foot} 12 side {stance}\nshift 50/50"
    turn = "+30" if side is L else "-30"
    yield f"shift {other} 100, torso {turn}\nstep {foot} 12 cross\nshift {foot} 100"
    yield f"shift {other} 100\nstep {foot} beside\nshift {foot} 100"


@pytest.mark.parametrize("ranges", list(RANGES))
@pytest.mark.parametrize("name", bundled_schools())
def test_no_default_of_any_school_preset_and_stature_is_found_fault_with(name: str, ranges: str) -> None:
    school = load_school(name)
    held = school.rules["stance.low-held"].limits["bend"]  # who is not to sit so low does not by default
    for number, stature in enumerate((1.50, 1.61, 1.72, 1.83, 1.95)):
        values = {**RANGES[ranges], "knee_bend": min(RANGES[ranges]["knee_bend"], held - 5.0)}
        body = Body(stature, **values)  # type: ignore[arg-type]
        for text in ways_in(school, Side(number % 2)):
            form = form_of(text, school=name, body=body, opening=Opening("shoulder" if number % 3 else "hip"))
            assert not [(f.rule, f.count, f.measured) for f in judge(form, walk(form))], text


def test_what_gave_way_is_told_for_a_step_whose_size_is_not_written() -> None:
    def given_to(text: str, stature: float) -> tuple[float, float, float] | None:
        form = form_of(text, body=Body(stature, knee_bend=40.0), opening=Opening("shoulder"))
        trace = walk(form)
        row = len(trace) - 1
        found = size_given(trace.pose(row - 1), trace.written[row], trace.ground)
        if found is None:
            return None
        size, bend = found
        assert bend == trace.sinks[row] and landed(trace, row) == pytest.approx(size[:2])
        return size.length, size.width, size.more

    def landed(trace: Trace, row: int) -> tuple[float, float]:
        return float(trace.sizes[row, 0]), float(trace.sizes[row, 1])

    turned = "shift L 100\npivot R heel out 45\nshift R 100\nstep L 12 "
    assert given_to(turned + "bow", 1.72) == pytest.approx((0.444, 0.234, 9.2), abs=0.5)
    assert given_to(turned + "bow 44x24", 1.72) is None
    assert given_to("sink 60\nshift R 100\nstep L 12 bow", 1.72) is None


@given(st.sampled_from(bundled_schools()), st.floats(1.5, 1.95), st.integers(-60, 60))
def test_a_step_to_the_side_is_as_wide_as_the_school_has_it_or_as_the_body_reaches(
    name: str, stature: float, out: int
) -> None:
    text = f"shift L 100\npivot R heel {'out' if out >= 0 else 'in'} {abs(out)}\nshift R 100\nstep L 12 side horse"
    form = form_of(text, school=name, body=Body(stature))
    trace = walk(form)
    width, wanted = trace.sizes[-1, 1], form.school.stances["horse"].width_metres(form.body)
    needs = least_bends(
        form.body,
        R,
        trace.heels[-1:, L],
        trace.headings[-1:, L],
        trace.contacts[-1:, L],
        trace.heels[-1:, R],
        trace.headings[-1:, R],
    )[0]
    assert width <= wanted + 1e-9 and (needs <= form.body.seat + 0.5 or out > 50)
