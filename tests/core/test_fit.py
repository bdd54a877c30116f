"""A form fitted to other bodies, held against what its definition says: nothing that hurts, and nothing without need."""

from __future__ import annotations

from collections import Counter, defaultdict
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_rules import form_of
from tests.trying import tries
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import RANGES, Body
from waltzmark.core.fit.fitting import Fitted, fitted
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.judge.judging import judge_all
from waltzmark.core.score import actions as act
from waltzmark.core.score import read_score
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document

WRITTEN_FOR = Body(1.72)
SUPPLE, STIFF = (replace(Body(), **RANGES[name]) for name in ("supple", "stiff"))  # type: ignore[arg-type]
BODIES = {
    "supple": replace(SUPPLE, stature=1.55),
    "tall": Body(1.94),
    "stiff": replace(STIFF, stature=1.74),
    "spared": Body(1.68, spare="left"),
    "stiff and spared": replace(STIFF, stature=1.66, spare="right"),
}


def hurts(form: Form, body: Body) -> Counter[Any]:
    """What a body is stopped or cautioned for, and which hips do not give what is asked, by posture; reckoned anew."""
    form = replace(form, body=body)
    found = judge_all(form, walk(form)).everywhere
    return Counter(
        (each.rule, each.posture, each.side)
        for each in found
        if each.severity != "note" or each.rule == "pivot.hip-range"
    )


def how_bad(form: Form, body: Body) -> dict[Any, float]:
    """The same with how far each is beyond its limit, and a thousand more for a graver one: of a posture's findings by
    one rule the worst, the second, and so on, since a fitted form may have a count more."""
    form, found = replace(form, body=body), defaultdict[Any, list[float]](list)
    for each in judge_all(form, walk(form)).everywhere:
        if each.severity != "note" or each.rule == "pivot.hip-range":
            by = abs((each.measured or 0.0) - (each.limit or 0.0)) + 1000.0 * (each.severity != "note")
            found[each.rule, each.posture, each.side].append(by)
    return {(*key, rank): by for key, every in found.items() for rank, by in enumerate(sorted(every, reverse=True))}


def worse(one: dict[Any, float], other: dict[Any, float]) -> bool:
    """Whether something hurts more than it does otherwise, or hurts that does not."""
    return any(by > other.get(key, -1000.0) + 1.0 for key, by in one.items())


def smaller(body: Body, by: float) -> Body:
    """A body that is smaller in all measures."""
    return replace(
        body,
        stature=by * body.stature,
        measured=tuple((name, by * value) for name, value in body.measured),
        left_foot=by * body.left_foot,
    )


def texts(fit: Fitted) -> dict[tuple[str, int], list[str]]:
    """What stands in each place that was changed."""
    return {
        (each.posture, each.count): [write_count(line) for line in each.after] for c in fit.changes for each in c.lines
    }


def test_the_body_that_it_was_written_for_changes_nothing() -> None:
    form = read_document(demo_text()).form
    fit = fitted(form, form.body)
    assert fit.form == form
    assert (fit.changes, fit.left) == ((), ())


@pytest.mark.parametrize("by", [0.9, 0.8])
def test_a_smaller_body_changes_only_written_lengths(by: float) -> None:
    form = read_document(demo_text()).form
    fit = fitted(form, smaller(form.body, by))
    assert fit.fits
    assert fit.changes
    for change in fit.changes:
        for line in change.lines:
            (old,), (new,) = line.before, line.after
            (was,), (now) = ([a for a in count.actions if isinstance(a, act.Step)] for count in (old, new))
            assert isinstance(was.place, act.Faced)
            assert was.place.length is not None or was.place.width is not None
            assert old.exchanged(was, now[0]) == new


def test_a_written_length_becomes_the_same_share_of_reach() -> None:
    # At a tenth smaller everything a body reaches is a tenth smaller, and so is a step as long as it can be.
    body = Body(1.70)

    def stepping(length: int) -> Form:
        return form_of(f"shift R 100\nstep L 12 {length}x24 heel\nshift L 70", body=body)

    longest = max(length for length in range(30, 110) if not hurts(stepping(length), body))
    fit = fitted(stepping(longest), smaller(body, 0.9))
    (step,) = (action for change in fit.changes for line in change.lines for action in line.after[0].actions)
    assert isinstance(step, act.Step) and isinstance(step.place, act.Faced)
    assert step.place.length is not None and step.place.width is not None
    assert step.place.length.value == pytest.approx(0.9 * longest - 0.5, abs=0.5)  # whole centimetres within it
    assert step.place.width.value == pytest.approx(0.9 * 24 - 0.5, abs=0.5)


@pytest.mark.parametrize("push", ["in 20", "2"])
def test_a_stiffer_hip_stops_each_pivot_and_the_push_that_follows_grows_by_as_much(push: str) -> None:
    """A hip that turns in 20 degrees less: the foot stops there, and what is missing is pushed out afterwards; a push
    to a facing goes there anyway."""
    lines = ["shift R 100", "pivot L heel in 40", "shift L 50", f"pivot L ball {push}", "shift L 100"]
    form = form_of("\n".join(lines), body=WRITTEN_FOR, school="loaded-turn", torso="stated")
    before = walk(form).headings[:, 0].tolist()
    stiffer = replace(WRITTEN_FOR, hip_in=WRITTEN_FOR.hip_range(Side.LEFT)[1] - 20.0)
    fit = fitted(form, stiffer)
    changed = texts(fit)
    (turned,) = changed["p1", 2]
    assert turned.startswith("pivot L heel in ")
    stops = float(turned.removeprefix("pivot L heel in "))
    # As far as the old hip took it, less 20 degrees; from a place in the middle of what both give.
    after = walk(fit.form).headings[:, 0].tolist()
    assert after[2] == pytest.approx(stops, abs=1e-6)
    assert before[2] - after[2] <= 20.0 + 5.0 + 0.5  # within the school's slack and half a degree
    assert after[4] == pytest.approx(before[4], abs=1.0)


def test_a_side_that_is_spared_is_changed_where_it_is_asked_and_its_mirror_is_left_alone() -> None:
    lines = "shift R 60\npivot L heel in 30\nshift L 100\nstep R 12 bow\nshift R 70"
    one = form_of(lines, body=WRITTEN_FOR).postures[0]
    other = Posture("other", "The other side", mirror_of="p1", axis=Clock.at(0.0))
    between = Posture("between", "Between", read_score("shift R 100\nstep L beside\nshift 50/50"))
    form = Form(body=WRITTEN_FOR, postures=(one, between, other))
    fit = fitted(form, replace(WRITTEN_FOR, spare="left"))
    loaded = [line for c in fit.changes if c.why.rule == "pivot.loaded" for line in c.lines]
    assert {line.posture for line in loaded} == {"p1"}
    assert texts(fit)["p1", 1] == ["shift R 80"]  # as the school asks before a big turn
    kept = fit.form.lines(fit.form.posture("other"))
    assert write_count(kept[0]) == "shift L 60"


def test_what_every_side_needs_is_changed_once_where_it_is_written() -> None:
    one = form_of("sink 60\nshift R 100\nstep L 12 bow\nshift L 70\nshift R 100\nstep L beside\nshift 50/50").postures[
        0
    ]
    other = Posture("other", "The other side", mirror_of="p1", axis=Clock.at(0.0))
    form = Form(body=WRITTEN_FOR, postures=(one, other))
    fit = fitted(form, replace(WRITTEN_FOR, knee_one=50.0))
    assert fit.fits
    assert fit.form.posture("other").mirror_of == "p1"
    assert {line.posture for change in fit.changes for line in change.lines} == {"p1"}


def test_something_to_hold_is_asked_for_where_one_leg_lasts_too_long() -> None:
    lines = "shift R 100\nlift L knee @4\nhold @5\nstep L beside\nshift 50/50"
    form = form_of(lines, body=replace(WRITTEN_FOR, support=True))
    fit = fitted(form, WRITTEN_FOR)
    assert [(change.kind, change.lines) for change in fit.changes] == [("way", ())]
    assert fit.form.body.support


def test_what_cannot_be_is_told_and_nothing_is_changed_for_it() -> None:
    form = form_of("shift L 100", body=WRITTEN_FOR)
    opening = replace(form.opening, name="shoulder")
    form = replace(form, opening=opening, postures=form_of("torso 4\ntorso 12", body=WRITTEN_FOR).postures)
    fit = fitted(form, replace(WRITTEN_FOR, waist=1.0))
    assert fit.fits == (not fit.left)
    for change in fit.changes:
        assert change.why.rule == "hip.range"


@st.composite
def small_forms(draw: Any) -> Form:
    """A few postures that turn, step, kick and sink."""
    passages = {
        "turn": "shift R {pour}\npivot L heel in {turn}\nshift L 100\nstep R 12 bow\nshift R 70",
        "step": "shift R 100\nstep L 12 {long}x26 heel\nshift L 70, torso {facing}\nshift 50/50, torso 12",
        "kick": "shift L 100\nlift R knee\nkick R 12 waist heel\nstep R 12 {short}x24 heel\nshift R 70",
        "sink": "sink {bend}\nshift L 100\nstep R 3 side 44\nshift R 50\nshift L 100\nstep R beside\nshift 50/50",
        "chest": "shift L 80\ntorso {facing}\nshift R 80, torso 12",
    }
    names = draw(st.lists(st.sampled_from(sorted(passages)), min_size=1, max_size=3))
    written = [
        passages[name].format(
            pour=draw(st.sampled_from([60, 70, 80, 100])),
            turn=draw(st.integers(20, 80)),
            long=draw(st.integers(40, 60)),
            short=draw(st.integers(24, 40)),
            bend=draw(st.integers(30, 70)),
            facing=draw(st.sampled_from(["1", "1:30", "2", "10:30"])),
        )
        for name in names
    ]
    return form_of(*written, body=WRITTEN_FOR, school=draw(st.sampled_from(["broad-frame", "ball-turn", "full-shift"])))


@given(small_forms(), st.sampled_from(sorted(BODIES)))
@settings(max_examples=tries(40))
def test_what_fits_hurts_no_more_than_as_written_and_nothing_of_it_can_be_left_out(form: Form, name: str) -> None:
    body = BODIES[name]
    before = hurts(form, form.body)
    fit = fitted(form, body)
    after = hurts(fit.form, fit.form.body)
    if fit.fits:
        assert not worse(how_bad(fit.form, fit.form.body), how_bad(form, form.body))
    assert (after - before).total() <= (hurts(form, body) - before).total()
    # Without a change something hurts more than with it, or more than as written where with it nothing does.
    written, fine = how_bad(form, form.body), how_bad(fit.form, fit.form.body)
    for number, change in enumerate(fit.changes):
        less = fit.without(number)
        left = how_bad(less, less.body)
        spared = worse(left, written) and not worse(fine, written)
        assert hurts(less, less.body) - after or worse(left, fine) or spared, change.lines
    again = fitted(fit.form, fit.form.body)
    assert (again.form, again.changes) == (fit.form, ())


@pytest.mark.parametrize("name", BODIES)
def test_fitting_a_fitted_form_changes_nothing(name: str) -> None:
    once = fitted(read_document(demo_text()).form, BODIES[name])
    again = fitted(once.form, once.form.body)
    assert (again.form, again.changes, again.left) == (once.form, (), ())
