"""Closed by how often something is done, as people do it; lengths change by little, and stances stay what they are."""

from __future__ import annotations

from contextlib import suppress

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_home import form_of
from tests.trying import tries
from waltzmark.core.base.progress import StoppedError
from waltzmark.core.base.records import replace
from waltzmark.core.edit.forms import fresh_id
from waltzmark.core.edit.passes import passed_forms, repeatable
from waltzmark.core.form.form import Form, Home, Opening, Posture
from waltzmark.core.form.room import Room, Start
from waltzmark.core.home.closing import CLOSED, closings
from waltzmark.core.home.ledger import check_return
from waltzmark.core.room.changes import Advice, Change, advice, here
from waltzmark.core.score import read_score
from waltzmark.core.walk.joins import join_of
from waltzmark.core.walk.naming import recognised
from waltzmark.core.walk.walk import walk

OUT = "shift R 100, torso 12\nstep L 12 bow 40x35\nshift L 100\nstep R beside 35\nshift 50/50, torso 12"
BACK = "shift L 100, torso 12\nstep R 12 back bow 40x35 toe 12\nshift R 100, torso 12\nstep L beside 35\nshift 50/50, torso 12"
ASIDE = "shift R 100, torso 12\nstep L 12 side 60\nshift L 100, torso 12\nstep R beside 35\nshift 50/50, torso 12"
OPEN = "shift R 100, torso 12\nstep L 12 bow 42x35\nshift L 70, torso 12"  # ends otherwise than it began


def again(*counts: tuple[str, int]) -> Form:
    """Postures that are written once and repeated, so many times each."""
    postures: list[Posture] = []
    for number, (text, times) in enumerate(counts):
        postures.append(Posture(f"p{number}", f"Posture {number}", read_score(text)))
        postures += [Posture(f"p{number}-{n}", repeat_of=f"p{number}") for n in range(2, times + 1)]
    return Form(postures=tuple(postures), torso="stated", opening=Opening("shoulder"))


def test_five_out_and_four_back_close_by_one_pass() -> None:
    form = again((OUT, 5), (BACK, 4))
    assert check_return(walk(form), form).distance == pytest.approx(0.4, abs=0.01)
    first = closings(form).every[0]
    assert first.kind == "passes" and not first.changes and first.distance < CLOSED[0]
    (passing,) = first.passes
    assert (passing.postures, passing.before, passing.after) in {(("p0",), 5, 4), (("p1",), 4, 5)}
    assert check_return(walk(first.form), first.form).distance == pytest.approx(first.distance)
    spared = closings(form, [posture.id for posture in form.postures if posture.id.startswith("p0")]).every[0]
    assert spared.passes[0].postures == ("p1",) and spared.passes[0].after == 5


def test_a_pass_and_what_lengths_still_lack_come_last() -> None:
    form = replace(again((OUT, 5), (BACK, 4)), home=Home((0.0, 0.08)))
    found = closings(form).every
    both = [each for each in found if each.passes and each.changes]
    assert both == [found[-1]] and both[0].distance <= CLOSED[0]
    assert all(each.by <= 0.25 * each.before + 1e-9 for each in both[0].changes)


def test_what_ends_otherwise_than_it_began_is_not_done_twice() -> None:
    form = again((OUT, 1), (OPEN, 1))
    assert repeatable(form, walk(form)) == {"p0"}
    assert all(
        "p1" not in each.postures for _, passes, _ in passed_forms(form, walk(form), np.ones(2), ()) for each in passes
    )


@settings(max_examples=tries(30))
@given(
    st.lists(st.tuples(st.sampled_from([OUT, BACK, ASIDE, OPEN]), st.integers(1, 3)), min_size=1, max_size=3),
    st.floats(-0.5, 0.5),
    st.floats(-0.9, 0.9),
)
def test_no_single_pass_brings_a_small_form_nearer(counts: list[tuple[str, int]], right: float, ahead: float) -> None:
    """Every run of up to four postures that ends as it begins, done once and twice more, walked as it is written out."""
    form = again(*counts)
    trace = walk(form)
    end = trace.midpoints[-1]
    form = replace(form, home=Home((float(end[0]) - right, float(end[1]) - ahead)))
    offset = check_return(trace, form).offset
    found = passed_forms(form, trace, np.array(offset), ())
    for made, _, left in found:
        assert check_return(walk(made), made).distance == pytest.approx(left, abs=0.07)  # a join may be off by so much
    best = np.inf
    for first in range(len(form.postures)):
        for last in range(first, min(first + 4, len(form.postures))):
            one, other = trace.passages[first + 1].entry, trace.passages[last + 1].exit
            join = join_of(other, one)
            if join.cm > 6.0 or join.degrees > 10.0 or join.percent > 10.0 or abs(one.torso - other.torso) > 1.0:
                continue
            if np.hypot(other.midpoint[0] - one.midpoint[0], other.midpoint[1] - one.midpoint[1]) < 0.02:
                continue  # it carries nothing
            for times in (1, 2):
                lines = [form.lines(posture) for posture in form.postures[first : last + 1]] * times
                postures = list(form.postures)
                for number, each in enumerate(lines):
                    postures.insert(last + 1 + number, Posture(fresh_id(form, f"x{number}"), lines=each))
                written = replace(form, postures=tuple(postures))
                best = min(best, check_return(walk(written), written).distance)
    if np.isfinite(best):
        assert min(left for _, _, left in found) <= best + 0.04  # fewer postures come first


@settings(max_examples=tries(40))
@given(st.integers(0, 100_000))
def test_no_closing_shown_unasked_takes_a_step_apart(seed: int) -> None:
    """None changes a length by more than a quarter, or what a stance is called; each is where it says."""
    random = np.random.default_rng(seed)
    texts = []
    for n in range(int(random.integers(3, 8))):
        side, other = ("L", "R") if n % 2 else ("R", "L")
        kind = random.choice(["bow", f"bow {random.integers(34, 52)}x{random.integers(22, 34)}", "back bow", "side 40"])
        texts.append(f"shift {other} 100, torso 12\nstep {side} 12 {kind}\nshift {side} 80, torso 12")
    form = form_of(*texts, torso="stated")
    end = walk(form).midpoints[-1]
    x, y = (end + random.uniform(-1.2, 1.2, 2)).tolist()
    form = replace(form, home=Home((x, y)))
    trace = walk(form)
    for closing in closings(form).every:
        walked = walk(closing.form)
        assert check_return(walked, closing.form).distance == pytest.approx(closing.distance)
        assert all(change.by <= 0.25 * change.before + 1e-4 for change in closing.changes)
        if not closing.passes:
            for row in range(len(trace)):
                names = [recognised(each.pose(row), each.body, form.school).name for each in (trace, walked)]
                assert names[0] == names[1]
        assert not any(severity == "stop" for severity, _ in closing.brings)


@pytest.mark.parametrize(("right", "ahead"), [(0.0, 0.2), (0.2, 0.0), (-0.15, -0.3), (0.25, 0.15)])
def test_plain_steps_are_put_in_where_the_feet_stand_beside_each_other(right: float, ahead: float) -> None:
    form = again((OUT, 2), (OPEN, 1))
    end = walk(form).midpoints[-1]
    form = replace(form, home=Home((float(end[0]) + right, float(end[1]) + ahead)))
    (added,) = [each for each in closings(form).every if each.kind == "added"]
    assert added.added is not None and added.added.after == "p0-2"  # not after the one that ends in a bow
    assert added.added.steps == (2 if 0.0 in (right, ahead) else 4) and added.distance <= CLOSED[0]
    walked = walk(added.form)
    assert check_return(walked, added.form).distance == pytest.approx(added.distance)
    assert not [severity for severity, _ in added.brings]


@pytest.mark.parametrize("deep", [1.9, 2.3, 2.7, 3.0])
def test_a_room_too_small_for_five_has_as_many_as_fit(deep: float) -> None:
    """The most passes that fit, counted by walking every number of them out and back from many starts."""

    def room(ahead: float, heading: float = 0.0) -> Room:
        outline = ((0.0, 0.0), (1.1, 0.0), (1.1, deep), (0.0, deep))
        return Room("hall", outline, Start(0.55, ahead, heading), clearance=0.1)

    def fits(times: int) -> bool:
        form = again((OUT, times), (BACK, times))
        trace = walk(form)
        starts = [room(0.1 * n, heading) for n in range(round(deep / 0.1)) for heading in (0.0, 180.0)]
        return any(here(replace(form, room=each), trace).fits for each in starts)

    most = next(times for times in (5, 4, 3, 2) if fits(times))
    form = replace(again((OUT, 5), (BACK, 5)), room=room(0.8))
    found: list[Change] = []

    class Watcher:
        """Whoever has seen the passes need not wait for what else there is."""

        def tell(self, share: float, words: str = "") -> None:
            if words == "shorter-steps":
                raise StoppedError

        def hand_out(self, so_far: object) -> None:
            assert isinstance(so_far, Advice)
            found[:] = [each for each in so_far.changes if each.kind == "passes"]

    with suppress(StoppedError):
        advice(form, Watcher())
    if most < 3 or most == 5:
        assert not found  # twice less of each is the least that is looked at
        return
    (change,) = found
    assert change.near.fits and here(change.form, walk(change.form)).fits
    assert len(change.form.postures) == 2 * most
    assert check_return(walk(change.form), change.form).distance < 0.05
