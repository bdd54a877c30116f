"""The loops hidden in a form, against every loop there is."""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.test_home import form_of
from tests.trying import tries
from waltzmark.core.answers.review import review
from waltzmark.core.base.angles import heading_difference, rotated
from waltzmark.core.base.leftright import Contact
from waltzmark.core.base.records import replace
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.form.form import Form, Opening
from waltzmark.core.home.loop_drill import as_walked, drill_of, walked_loops
from waltzmark.core.home.loops import Loop, loops_of, with_back
from waltzmark.core.home.rounds import MOST, rounds_of
from waltzmark.core.walk.joins import LIMITS, Join, join_of
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document
from waltzmark.words.figures import Figures
from waltzmark.words.returns import carries, loop_lines, stays

DEMO = read_document(demo_text()).form


def brute(form: Form, most: int) -> list[Loop]:
    """Every loop there is, one choice after the other, with its motion from the poses themselves."""
    trace = walk(form)
    passages = trace.passages[1:]
    found = []
    for first in range(len(passages)):
        for last in range(first + 1, len(passages)):
            inner = range(first + 1, last)
            ways = [c for k in range(min(most, len(inner)) + 1) for c in itertools.combinations(inner, k)]
            ways += [tuple(range(a, b)) for a in inner for b in range(a + 1, last + 1) if b - a > most > 0]
            for gone in ways:
                kept = [n for n in range(first, last + 1) if n not in gone]
                pairs = [(a, b) for a, b in zip(kept, [*kept[1:], kept[0]], strict=True) if b != a + 1]
                joins = tuple(join_of(passages[a].exit, passages[b].entry) for a, b in pairs)
                if len(kept) < 2 or not all(join.fits for join in joins):
                    continue
                x = y = heading = 0.0
                for n in kept:
                    one, other = passages[n].entry, passages[n].exit
                    dx, dy = rotated(
                        other.midpoint[0] - one.midpoint[0], other.midpoint[1] - one.midpoint[1], heading - one.torso
                    )
                    x, y, heading = x + dx, y + dy, heading + heading_difference(one.torso, other.torso)
                beats = sum(float(passages[n].rows[:, 13].sum()) for n in kept)
                found.append(Loop(tuple(kept), gone, (x, y), heading_difference(0, heading), joins, beats))
    return sorted(found, key=lambda loop: loop.cost)


@settings(max_examples=tries(10))
@given(st.integers(0, 10_000))
def test_the_search_finds_the_best_loops_there_are(seed: int) -> None:
    random = np.random.default_rng(seed)
    pool = [p for p in DEMO.postures if p.source is None]
    chosen = [pool[n] for n in random.permutation(len(pool))[: random.integers(4, 9)]]
    form = replace(DEMO, postures=tuple(replace(p, side_of=None) for p in chosen), mutes=())
    most = int(random.integers(0, 4))
    every = brute(form, most)
    found = loops_of(walk(form), most, most=60)
    ends: list[tuple[int, int]] = []
    expected = []
    for loop in every:
        if ends.count((loop.postures[0], loop.postures[-1])) < 2:
            ends.append((loop.postures[0], loop.postures[-1]))
            expected.append(loop)
    assert [loop.cost for loop in found] == pytest.approx([loop.cost for loop in expected[:60]], abs=1e-6)
    known = {loop.postures: loop for loop in every}  # which of two that cost the same comes first is open
    for loop in found:
        other = known[loop.postures]
        assert loop.left_out == other.left_out
        assert (
            loop.away == pytest.approx(other.away, abs=1e-9) and abs(heading_difference(loop.turn, other.turn)) < 1e-6
        )
        assert loop.beats == pytest.approx(other.beats)


# Each begins and ends with the feet side by side, 20 cm apart.
OUT = "shift R 100\nstep L 12 bow {}x20\nshift L 100\nstep R 12 side 20\nshift 50/50"
BACK = "shift L 100\nstep R 12 back {}x20 toe 12\nshift R 100\nstep L 12 side 20\nshift 50/50"
ASIDE = "shift R 100\nstep L 12 side 60\nshift L 100\nstep R 12 side 20\nshift 50/50"
SIDE_BY_SIDE = Opening("", (FootPose(-0.1, 0.0, 0.0, Contact.FLAT), FootPose(0.1, 0.0, 0.0, Contact.FLAT)))


def test_a_known_loop_with_three_postures_put_in_is_found_without_them() -> None:
    texts = [
        OUT.format(40),
        ASIDE,
        OUT.format(30),
        ASIDE,
        BACK.format(20),
        OUT.format(20),
        ASIDE,
        BACK.format(45),
        BACK.format(25),
    ]
    form = form_of(*texts, opening=SIDE_BY_SIDE, torso="stated")
    best = loops_of(walk(form))[0]
    assert best.left_out == (1, 3, 6) and best.postures == (0, 2, 4, 5, 7, 8) and best.away < 0.02
    assert best.worst.fits and all(loop.left_out == () for loop in loops_of(walk(form), 0))
    assert loops_of(walk(Form())) == () and loops_of(walk(form_of(ASIDE))) == ()
    # Why each is left out: with one step aside back in it, it ends that step away.
    trace = walk(form)
    assert best.blocks == ((1,), (3,), (6,)) and best.joined == ((0, 2), (2, 4), (5, 7), (8, 0))
    for back in with_back(trace, best):
        assert len(back.left_out) == 2 and back.away == pytest.approx(math.hypot(0.4, best.drift[1]), abs=0.03)
    lines = loop_lines(form, trace, best, Figures())
    assert len(lines) == 1 + 3 + 4 + 1
    drill = drill_of(form, trace, best)
    assert rounds_of(drill, walk(drill)).home_after == 1


def test_rounds_are_said_by_what_they_do() -> None:
    say = Figures()
    rounds = {carries(away, turn, say) for away in (0.004, 1.2) for turn in (0.3, 90.0, -90.0)}
    assert len(rounds) == 6 and sum("1.20 m" in said for said in rounds) == 3
    # However often, as often as it takes, not as often, and not once, are said differently.
    assert len({stays(MOST, None), stays(4, 4), stays(1, 4), stays(0, None)}) == 4


def test_a_loop_becomes_a_form_that_can_be_walked_again() -> None:
    trace = walk(DEMO)
    for loop in loops_of(trace)[:8]:
        drill = drill_of(DEMO, trace, loop)
        walked = walk(drill)
        assert join_of(walked.pose(len(walked) - 1), walked.pose(0)).cm < 3.0
        kept = [DEMO.postures[n].id for n in loop.postures]
        assert [p.id for p in drill.postures if not p.id.startswith("bridge")] == kept
        assert not [f for f in review(drill, walked).findings if f.rule.startswith("score")]
        told, (right, ahead) = as_walked(DEMO, trace, loop), walked.midpoints[-1] - walked.midpoints[0]
        assert told.drift == pytest.approx((right, ahead), abs=1e-9) and told.beats == walked.beats[1:].sum()
        assert told.turn == pytest.approx(heading_difference(float(walked.torso[0]), float(walked.torso[-1])))
        if all(join.cm < 2 and join.degrees < 4 and join.percent < 4 for join in loop.joins):
            assert not any(p.id.startswith("bridge") for p in drill.postures)
            far = math.hypot(*(walked.midpoints[-1] - walked.midpoints[0]))
            assert far == pytest.approx(loop.away, abs=1e-3)
        else:
            assert any(p.id.startswith("bridge") for p in drill.postures)
    assert Join(*LIMITS).fits and not Join(LIMITS[0] + 0.1, 0.0, 0.0).fits


@settings(max_examples=tries(20))
@given(st.integers(0, 10_000))
def test_what_is_told_of_a_loop_is_what_its_drill_does(seed: int) -> None:
    """Knees that were bent, and a trunk that leaned, before a loop began are so in its drill."""
    random = np.random.default_rng(seed)
    deep = [
        "shift R 100, sink {}\nstep L 12 bow\nshift L 100\nstep R 12 side 20\nshift 50/50",
        "shift L 100, sink +{}\nstep R 12 back bow\nshift R 100\nstep L 12 side 20\nshift 50/50, rise 5",
        "shift R 100\nstep L 12 bow\nshift L 100, lean {}\nstep R 12 side 20\nshift 50/50",
    ]
    texts = [str(random.choice(deep)).format(int(random.integers(5, 30))) for _ in range(random.integers(3, 7))]
    form = form_of(*texts, opening=SIDE_BY_SIDE, torso="stated")
    trace = walk(form)
    for loop in walked_loops(form, trace)[:4]:
        drill = drill_of(form, trace, loop)
        walked = walk(drill)
        far = walked.midpoints[-1] - walked.midpoints[0]
        assert loop.drift == pytest.approx(tuple(far), abs=1e-9)
        # Each posture is walked as deep as it was, in the first round and in the next.
        again = walk(drill, begun=walked.pose(len(walked) - 1))
        for number in loop.postures:
            name = form.postures[number].id
            (first, after), own = trace.span(name), walked.span(name)
            for round_ in (walked, again):
                assert round_.sinks[own[0] : own[1]] == pytest.approx(trace.sinks[first:after])
                assert round_.leans[own[0] : own[1]] == pytest.approx(trace.leans[first:after])


def stance(pose: Pose) -> tuple[list[float], list[float], float]:
    """A stance as it is seen from its own middle and torso: places in cm, headings in degrees, % on the left."""
    places, headings = list[float](), list[float]()
    for foot in (pose.left, pose.right):
        x, y = rotated(foot.x - pose.midpoint[0], foot.y - pose.midpoint[1], -pose.torso)
        places += [100.0 * x, 100.0 * y]
        headings.append(heading_difference(pose.torso, foot.heading))
    return places, headings, 100.0 * pose.left_share


def any_moves(random: np.random.Generator) -> str:
    """Some steps, turns and shifts that can be walked from wherever one stands."""
    lines = []
    for _ in range(int(random.integers(1, 3))):
        foot, other = ("L", "R") if random.integers(2) else ("R", "L")
        facing = f"{int(random.integers(12)) or 12}{random.choice(['', ':30'])}"
        size = f"{int(random.integers(5, 50))}x{int(random.integers(10, 30))}"
        manner = random.choice(["bow", "back bow", "bow", f"side {int(random.integers(20, 50))}"])
        lines.append(f"shift {other} 100")
        lines.append(f"step {foot} {facing} {manner}{'' if 'side' in manner else ' ' + size}, torso {facing}")
        lines.append(f"shift {foot} {random.choice([0, 30, 50, 70, 100])}, torso {random.choice(['+20', '-30', '+0'])}")
        if random.integers(3) == 0:
            lines.append(f"pivot {random.choice(['L', 'R'])} heel {random.choice(['in', 'out'])} 30")
    return "\n".join(lines)


@settings(max_examples=tries(60))
@given(st.integers(0, 10_000))
def test_a_bridge_ends_in_the_stance_that_is_entered(seed: int) -> None:
    random = np.random.default_rng(seed)
    form = form_of(*(any_moves(random) for _ in range(4)), opening=SIDE_BY_SIDE, torso="stated")
    trace = walk(form)
    walked = walk(drill_of(form, trace, Loop((1, 3), (2,), (0.0, 0.0), 0.0, (), 0.0)))
    begun, ended = walked.pose(0), walked.pose(len(walked) - 1)
    pairs = [(trace.pose(trace.span(each)[0] - 1), walked.pose(walked.span(each)[0] - 1)) for each in ("p1", "p3")]
    for wanted, there in (*pairs, (begun, ended)):
        (places, headings, share), (x, y, z) = stance(there), stance(wanted)
        assert places == pytest.approx(x, abs=2.01)
        assert headings == pytest.approx(y, abs=4.01)
        assert share == pytest.approx(z, abs=4.01)
