"""The ways home by lengths against an independent reckoning: which ends a few lengths reach, by the zonotope that they
span, and the least sum that reaches one, by the dual programme, whose best point is a crossing of two lines."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence

import numpy as np
import pytest
import scipy.optimize
from hypothesis import assume, example, given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.messages import Message
from waltzmark.core.base.progress import SILENT
from waltzmark.core.base.records import replace
from waltzmark.core.edit.bounds import less_and_more, within_reach
from waltzmark.core.edit.passes import passed_forms
from waltzmark.core.form.form import Form, Home, Posture
from waltzmark.core.home.adding import added_forms
from waltzmark.core.home.closing import closings
from waltzmark.core.home.ledger import check_return
from waltzmark.core.home.length_search import CLOSED, LengthSearch, _rounded
from waltzmark.core.home.turning import turned_forms
from waltzmark.core.score import read_score
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.lengths import measures_of
from waltzmark.core.walk.walk import walk

FACINGS = ("12", "10:30", "1:30", "3", "9", "4:30")


def small_form(random: np.random.Generator) -> Form:
    """Two to four steps, left and right by turns."""
    texts = []
    for n in range(random.integers(2, 5)):
        side, other = ("L", "R") if n % 2 else ("R", "L")
        stance = random.choice(
            [f"bow {random.integers(25, 50)}x{random.integers(20, 32)}", f"side {random.integers(25, 50)}"]
        )
        texts.append(
            f"shift {other} 100\nstep {side} {random.choice(FACINGS)} {stance}, torso 12\nshift {side} 100, torso 12"
        )
    postures = tuple(Posture(f"p{n}", f"Posture {n}", read_score(text)) for n, text in enumerate(texts))
    return Form(postures=postures, torso="stated")


class Reckoned:
    """What changes of the lengths of a form do, *missing* metres from home: their moves, and how far each may go."""

    def __init__(self, form: Form, quarter: bool) -> None:
        self.trace = walk(form)
        self.measures = measures_of(form, self.trace)
        self.moves = self.measures.heels[-1].mean(axis=0)
        self.missing = np.array(form.home.place) - self.trace.midpoints[-1]
        self.less, self.more = less_and_more(form, self.measures.every)
        if quarter:
            most = np.array([measure.value / 4.0 for measure in self.measures.every])
            self.less, self.more = np.minimum(self.less, most), np.minimum(self.more, most)
        near = 2.0 * float(np.hypot(*self.missing)) + 0.05
        if self.reaches(np.full(len(self.less), near)):  # much larger changes are not looked at
            self.less, self.more = np.minimum(self.less, near), np.minimum(self.more, near)

    def reaches(self, most: Floats, slack: float = 0.0) -> bool:
        """Whether home lies in what the lengths reach, each changed by at most so much; to so many metres."""
        less, more = np.minimum(self.less, most), np.minimum(self.more, most)
        round_ = np.radians(np.arange(0.0, 360.0, 3.0))
        edges = np.column_stack([-self.moves[1], self.moves[0]])
        edges = edges[np.hypot(*edges.T) > 1e-9]
        edges /= np.hypot(*edges.T)[:, None]
        ways = np.concatenate([edges, -edges, np.column_stack([np.cos(round_), np.sin(round_)])])
        far = ways @ self.moves
        support = np.maximum(far * more, -far * less).sum(axis=1)
        return bool(np.all(ways @ self.missing <= support + slack + 1e-9))

    def least_sum(self) -> tuple[float, float]:
        """The least sum of changes that brings it home, and how much less it is for each metre it may be off."""
        lines = np.concatenate([self.moves.T, -self.moves.T])
        points = [np.zeros(2)]
        for one, other in itertools.combinations(lines, 2):
            both = np.array([one, other])
            if abs(np.linalg.det(both)) > 1e-9:
                points.append(np.linalg.solve(both, np.ones(2)))
        prices = np.array(points)
        beyond = prices @ self.moves
        paid = self.more * np.maximum(beyond - 1.0, 0.0) + self.less * np.maximum(-beyond - 1.0, 0.0)
        value = prices @ self.missing - paid.sum(axis=1)
        return float(value.max()), float(np.hypot(*prices[int(value.argmax())]))

    def least_sum_to(self, off: float) -> float | None:
        """The least sum of changes that brings it home to so many metres in each of two ways; None where none does."""
        moves = np.concatenate([self.moves, -self.moves], axis=1)
        found = scipy.optimize.linprog(
            np.ones(2 * len(self.less)),
            np.concatenate([moves, -moves]),
            np.concatenate([self.missing + off, off - self.missing]),
            bounds=np.column_stack([np.zeros(2 * len(self.less)), np.concatenate([self.more, self.less])]),
        )
        return float(found.fun) if found.success else None

    def evenest(self, slack: float = 0.0) -> float:
        """The least that the greatest change must be."""
        low, high = 0.0, 2.0
        for _ in range(40):
            middle = (low + high) / 2.0
            if self.reaches(np.full(len(self.less), middle), slack):
                high = middle
            else:
                low = middle
        return high

    def fewest(self, slack: float = 0.0) -> int:
        """How many lengths must change at the least."""
        k = len(self.less)
        for number in range(1, k + 1):
            for chosen in itertools.combinations(range(k), number):
                most = np.zeros(k)
                most[list(chosen)] = 9.0
                if self.reaches(most, slack):
                    return number
        raise AssertionError("nothing reaches it")

    def binds(self) -> bool:
        """Whether what a leg reaches stands in the way of some change."""
        rows, least = within_reach(self.trace, self.measures)
        return bool((np.minimum(rows * self.more, -rows * self.less).sum(axis=1) < least - 1e-9).any())


@settings(max_examples=tries(60), deadline=None)
@given(st.integers(0, 100_000), st.booleans())
def test_each_way_home_by_lengths_is_the_best_of_its_kind(seed: int, quarter: bool) -> None:
    random = np.random.default_rng(seed)
    form = small_form(random)
    end = walk(form).midpoints[-1]
    form = replace(form, home=Home(tuple((end + random.uniform(-0.12, 0.12, 2)).tolist())))
    known = Reckoned(form, quarter)
    assume(np.hypot(*known.missing) > 1.5 * CLOSED[0])
    search = LengthSearch(form, known.trace, (), "cm", SILENT, not quarter)
    found = {kind: (made, changes) for kind, made, changes in search.found()}
    anywhere = np.full(len(known.less), 9.0)
    if not known.reaches(anywhere):
        assert set(found) <= {"near"} and search.nearest is not None
        if "near" in found and not known.binds():
            made, changes = found["near"]
            assert np.hypot(*(walk(made).midpoints[-1] - form.home.place)) <= form.home.within
            total, rounding = known.least_sum_to(form.home.within / 2.0 / np.sqrt(2.0)), 0.01 * (1 + len(changes))
            assert total is None or sum(change.by for change in changes) <= total + rounding
        return
    if known.binds():
        return
    assert set(found) == {"least", "fewest", "even"}
    number = {(m.posture, m.count, m.what): n for n, m in enumerate(known.measures.every)}
    by: dict[str, Floats] = {}
    for kind, (made, changes) in found.items():
        x = by[kind] = np.zeros(len(number))
        for change in changes:
            at = number[change.posture, change.count, change.what]
            assert change.before == known.measures.every[at].value
            x[at] = change.after - change.before
        assert np.all(x <= known.more + 1e-4) and np.all(x >= -known.less - 1e-4)
        left = known.moves @ x - known.missing
        assert np.hypot(*left) <= CLOSED[0] + 1e-4
        assert walk(made).midpoints[-1] - form.home.place == pytest.approx(left, abs=2e-4)
        whole = np.array([100.0 * change.after for change in changes])
        fine = np.abs(whole - np.round(whole)).max() < 1e-6
        assert fine or np.hypot(*left) < 4e-4 * len(changes)  # else to a tenth of a millimetre
    total, price = known.least_sum()
    rounding = 0.01 * max(1.0, np.count_nonzero(by["least"]) / 4.0) + 1e-3
    assert total - price * CLOSED[0] - 1e-4 <= np.abs(by["least"]).sum() <= total + rounding
    assert known.evenest(CLOSED[0]) - 1e-4 <= np.abs(by["even"]).max() <= known.evenest() + 0.011
    assert known.fewest(CLOSED[0]) <= np.count_nonzero(by["fewest"]) <= known.fewest()


@settings(max_examples=tries(60), deadline=None)
@given(st.integers(0, 100_000), st.integers(41, 120))
def test_many_lengths_that_are_rounded_end_where_they_were_to(seed: int, n: int) -> None:
    random = np.random.default_rng(seed)
    values = random.uniform(20.0, 60.0, n)
    wanted = values + random.uniform(-3.0, 3.0, n)
    low, high = np.ceil(values - 5.0), np.floor(values + 5.0)
    turned = random.uniform(0.0, 2.0 * np.pi, n)
    moves = 0.01 * np.array([np.sin(turned), np.cos(turned)])
    whole = _rounded(wanted, low, high, moves, moves @ wanted)
    assert whole is not None and np.array_equal(whole, np.round(whole))
    assert np.all(whole >= low) and np.all(whole <= high)
    assert np.hypot(*(moves @ (whole - wanted))) <= CLOSED[0] / 2.0
    assert np.all(np.abs(whole - wanted) < 2.0) and np.count_nonzero(np.abs(whole - wanted) >= 1.0) <= 2
    # Where one step is as long as the room there is nothing between the whole ones that would do.
    assert _rounded(np.full(2, 0.5), np.zeros(2), np.zeros(2), np.eye(2), np.full(2, 0.5)) is None


def turning(*turns: int) -> Form:
    """Turns of the right foot and the body with it, one a posture, the last count one too."""
    texts = [f"shift L 100\npivot R heel +{turn}, torso +{turn}\nshift R 100, torso +0" for turn in turns]
    texts[-1] += f"\nshift L 100, torso +0\npivot R heel +{turns[0]}, torso +{turns[0]}"
    return Form(
        postures=tuple(Posture(f"p{n}", f"Posture {n}", read_score(text)) for n, text in enumerate(texts)),
        torso="stated",
    )


@settings(max_examples=tries(30), deadline=None)
@given(st.lists(st.integers(10, 60), min_size=2, max_size=4), st.integers(-25, 25).filter(lambda off: abs(off) > 1))
def test_a_turn_that_is_changed_ends_in_the_right_facing_and_is_the_only_one(turns: Sequence[int], off: int) -> None:
    form = turning(*turns)
    faces = float(walk(form).torso[-1])
    form = replace(form, home=Home(facing=Clock(round((faces - off) / 0.5) % 720)))
    trace = walk(form)
    assert check_return(trace, form).turn == pytest.approx(off)
    made = turned_forms(form, trace, float(off), ())
    assert made
    for changed, (turn,) in made:
        assert abs(heading_difference(faces - off, float(walk(changed).torso[-1]))) < 1e-6
        others = [p.id for p, q in zip(form.postures, changed.postures, strict=True) if p != q]
        assert others == [turn.posture]
        assert turn.after - turn.before == pytest.approx(-off)


def test_what_is_done_more_or_less_often_says_by_how_many() -> None:
    texts = [
        "shift R 100",
        *["shift R 100\nstep L 12 bow 40x20\nshift L 100\nstep R 12 bow 40x20\nshift R 100"],
        "step L beside",
    ]
    postures = [Posture(f"p{n}", f"Posture {n}", read_score(text)) for n, text in enumerate(texts)]
    postures[2:2] = [Posture(f"again{n}", "Again", repeat_of="p1") for n in range(2)]
    form = Form(postures=tuple(postures))
    trace = walk(form)
    before, after = (walk(replace(form, postures=form.postures[:n])).midpoints[-1] for n in (3, 4))
    once = after - before  # of any but the first
    seen = set()
    for more in (-1, 1, 2):
        home = replace(form, home=Home(tuple((trace.midpoints[-1] + more * once).tolist()), within=0.05))
        result = check_return(trace, home)
        listed = [passes for _, passes, _ in passed_forms(home, trace, np.array(result.offset), ())]
        assert any(each.after - each.before == more for passes in listed for each in passes), more
        best = closings(home).every[0]
        assert best.kind == "passes" and best.distance < 0.05
        (each,) = best.passes
        assert each.after - each.before == more
        parts = best.does["parts"]
        assert isinstance(parts, tuple)
        (part,) = parts
        assert isinstance(part, Message) and part["n"] == more
        seen.add(part.kind)
    assert seen == {"closing.pass.less", "closing.pass.more", "closing.pass.often"}


@settings(max_examples=tries(40), deadline=None)
@given(st.integers(0, 719), st.integers(-150, 150), st.integers(-150, 150))
@example(540, 0, 137)
def test_steps_that_are_put_in_carry_as_far_as_was_missing(minutes: int, forward: int, aside: int) -> None:
    """From feet beside each other that face anywhere, each way from a handbreadth to a few bows, or not at all."""
    ways = [way + int(math.copysign(2, way)) if 9 <= abs(way) <= 10 else way for way in (forward, aside)]
    main = [abs(way) > 10 for way in ways]
    assume(any(main))
    if ways[0] < 0 and not main[0]:  # a little back has no step of its own, and a step aside goes only ahead
        ways[0] = 0
    clock = f"{minutes // 60 or 12}:{minutes % 60:02d}"
    text = f"shift R 100\nstep L {clock} bow 40x25 toe {clock}\nshift L 100, torso {clock}\nstep R beside 20 cm\nshift 50/50, torso {clock}"
    form = Form(postures=(Posture("p", lines=read_score(text)),), torso="stated")
    trace = walk(form)
    angle = np.radians(minutes / 2.0)
    ahead, right = np.array([np.sin(angle), np.cos(angle)]), np.array([np.cos(angle), -np.sin(angle)])
    missing = (ahead * ways[0] + right * ways[1]) / 100.0
    made = added_forms(form, trace, -missing, ())
    bow = form.school.stance_size("bow", form.body, form.body.seat).length
    carry = sum(math.ceil(abs(way) / 100.0 / bow) for way, of_its_own in zip(ways, main, strict=True) if of_its_own)
    assert bool(made) is (carry <= 4)
    assume(made)
    longer, added = made[0]
    walked = walk(longer)
    # Each of four steps at the most is rounded to a millimetre.
    assert walked.midpoints[-1] - trace.midpoints[-1] == pytest.approx(missing, abs=2e-3 + 1e-9)
    assert added.steps == 2 * carry and added.after == "p"
    steps = [
        float(np.hypot(*(b - a)))
        for heels in np.swapaxes(walked.heels[len(trace) :], 0, 1)
        for a, b in itertools.pairwise(heels)
    ]
    assert max(steps) <= bow + 0.09  # of which a little goes the other way
    assert all(longer.steps > added.steps for _, longer in made[1:]) and len({more.after for _, more in made}) == 1
    assert float(walked.torso[-1]) == pytest.approx(minutes / 2.0)
    # The feet stand as they did, beside each other.
    for heels in (trace.heels[-1], walked.heels[-1]):
        assert (heels[1] - heels[0]) @ ahead == pytest.approx(0.0, abs=1e-6)
        assert (heels[1] - heels[0]) @ right == pytest.approx(0.20, abs=1e-6)
    assert added_forms(form, trace, -missing, ("p",)) == []


@pytest.mark.parametrize(
    "standing",
    [
        "shift L 60",
        "step R beside 20 cm toe +8\nshift 50/50",
        "step R 12 bow 20x20\nshift 50/50",
        "step R beside 20 cm ball",
    ],
)
def test_steps_are_put_in_only_where_both_feet_stand_beside_each_other(standing: str) -> None:
    text = f"shift R 100\nstep L 12 bow 40x25 toe 12\nshift L 100, torso 12\nstep R beside 20 cm\n{{}}\nshift L 100\n{standing}"
    for end, well in (("hold", False), ("step R beside 20 cm\nshift 50/50", True)):
        form = Form(postures=(Posture("p", lines=read_score(text.format("hold") + "\n" + end)),), torso="stated")
        assert bool(added_forms(form, walk(form), np.array([0.0, -0.3]), ())) is well


def test_what_stands_in_the_way_of_home_are_the_lengths_that_are_used_up() -> None:
    """Far ahead and a little to the right: the step aside has some left, those ahead have not."""
    texts = [
        "shift R 100\nstep L 12 bow 40x25\nshift L 100, torso 12",
        "step R 12 side 40\nshift R 100, torso 12",
        "step L 12 bow 40x25\nshift L 100, torso 12",
    ]
    postures = tuple(Posture(f"p{n}", f"Posture {n}", read_score(text)) for n, text in enumerate(texts))
    form = Form(postures=postures, torso="stated")
    for right in (0.02, -0.02):
        end = walk(form).midpoints[-1] + (right, 3.0)
        found = closings(replace(form, home=Home(tuple(end.tolist()))))
        assert not found.every and found.nearest is not None and found.nearest.kind == "closing.nearest.full"
        assert found.nearest["postures"] == ("Posture 0", "Posture 2")
        # A quarter of each length, of which the middle between the feet moves by half as long as the other stays.
        moves = measures_of(form, walk(form)).heels[-1].mean(axis=0)
        most = sum(
            0.25 * m.value * abs(move) for m, move in zip(measures_of(form, walk(form)).every, moves[1], strict=True)
        )
        assert found.nearest["left"] == pytest.approx(3.0 - most, abs=0.02)
