"""The walk as a whole: invariants that hold for every score, references, and walking again after an edit."""

from __future__ import annotations

import pickle
import threading

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core import strategies as write
from tests.trying import tries
from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.errors import FormError
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import replace
from waltzmark.core.body.pose import FootPose, Pose, same_but_moved
from waltzmark.core.form.form import Form, Opening, Posture
from waltzmark.core.score import Count, read_count, read_score
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.motion import pose_between
from waltzmark.core.walk.step import step
from waltzmark.core.walk.walk import ground_of, walk, walk_passage, walk_to
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document

counts = st.lists(write.counts.map(lambda c: replace(c, beats=1.0)), max_size=5).map(tuple)
headings = st.integers(0, 719).map(lambda n: n / 2.0)
turned = st.integers(-90, 90).map(float)


@st.composite
def poses(draw: st.DrawFn) -> Pose:
    def foot() -> FootPose:
        x, y = draw(write.decimals(-1, 1)), draw(write.decimals(-1, 1))
        return FootPose(x, y, draw(headings), draw(st.sampled_from(Contact)))

    left, right = foot(), foot()
    share = draw(st.sampled_from([0.0, 0.3, 0.5, 1.0]))
    if left.contact is Contact.AIR:
        share, right = 0.0, right._replace(contact=Contact.FLAT)
    elif right.contact is Contact.AIR:
        share = 1.0
    return Pose(
        left,
        right,
        share,
        draw(headings),
        draw(headings),
        facing=draw(headings),
        left_turned=draw(turned),
        right_turned=draw(turned),
    )


def fold(pose: Pose, lines: tuple[Count, ...]) -> Pose:
    ground = ground_of(Form())
    for line in lines:
        pose, _, _ = step(pose, line, ground)
    return pose


def same(first: Pose, second: Pose) -> None:
    move = same_but_moved(first, second, 1e-6)
    assert move is not None and move == pytest.approx((0.0, 0.0), abs=1e-6)


def no_undecided_turns(pose: Pose, lines: tuple[Count, ...]) -> bool:
    """Whether no pivot, torso or mean along the way is exactly half a turn, which has no side to prefer."""
    ground = ground_of(Form())
    for line in lines:
        pose, moves, problems = step(pose, line, ground)
        if any(p.rule == "pivot.half-turn" for p in problems):
            return False
        if any(abs(abs(m.turn) - 180) < 1e-6 for m in moves):
            return False
        if pose.left_share == 0.5 and abs(heading_difference(pose.left.heading, pose.right.heading)) > 179.9:
            return False
    return True


@given(poses(), counts, st.integers(0, 719))
@settings(max_examples=tries(200))
def test_a_walk_turned_by_an_angle_is_the_turned_walk(pose: Pose, lines: tuple[Count, ...], minutes: int) -> None:
    angle = minutes / 2.0
    if no_undecided_turns(pose, lines):
        same(fold(pose, lines).turned(angle), fold(pose.turned(angle), tuple(c.turned(angle, "N") for c in lines)))


def mirrored(pose: Pose) -> Pose:
    """The pose reflected in the line through 12 and 6, left and right exchanged."""

    def foot(f: FootPose) -> FootPose:
        return FootPose(-f.x, f.y, -f.heading % 360.0, f.contact)

    return pose._replace(
        left=foot(pose.right),
        right=foot(pose.left),
        left_share=1.0 - pose.left_share,
        torso=-pose.torso % 360,
        gaze=-pose.gaze % 360,
        facing=-pose.facing % 360,
        left_turned=-pose.right_turned,
        right_turned=-pose.left_turned,
    )


@given(poses(), counts)
@settings(max_examples=tries(200))
def test_the_mirrored_score_walks_the_mirrored_way(pose: Pose, lines: tuple[Count, ...]) -> None:
    falls = any(p.rule == "weight.both-in-air" for line in lines for p in step(pose, line, ground_of(Form()))[2])
    if no_undecided_turns(pose, lines) and not falls:
        ends = fold(pose, lines)
        if 0.0 < ends.left_share < 1.0 or Contact.AIR not in (ends.left.contact, ends.right.contact):
            same(mirrored(ends), fold(mirrored(pose), tuple(c.mirrored(0.0, "N") for c in lines)))


@given(poses(), st.sampled_from(Side), write.aims, st.sampled_from(["heel", "ball", "toe"]))
def test_a_pivot_leaves_its_point_where_it_was(pose: Pose, side: Side, aim: object, part: act.Part) -> None:
    ground = ground_of(Form())
    before = pose.foot(side)
    after, _, _ = step(pose, Count((act.Pivot(side, part, aim),)), ground)  # type: ignore[arg-type]
    foot, sole = after.foot(side), ground.body.sole
    assert sole.landmark(*foot[:3], part) == pytest.approx(sole.landmark(*before[:3], part), abs=1e-9)


@given(poses(), counts)
def test_whatever_is_written_somebody_still_stands(pose: Pose, lines: tuple[Count, ...]) -> None:
    for line in lines:
        pose, _, _ = step(pose, line, ground_of(Form()))
        for side in Side:
            assert 0.0 <= pose.share(side) <= 1.0
            assert pose.foot(side).contact is not Contact.AIR or pose.share(side) < 1e-9
            assert 0.0 <= pose.foot(side).heading < 360.0


FIRST = read_score("shift R 100, torso 10:30\nstep L 9 bow\nshift L 70, torso 9\npivot R heel 10:30\nexpect L 70")


def form(*postures: Posture, **more: object) -> Form:
    return Form(postures=postures, **more)  # type: ignore[arg-type]


def test_a_trace_has_a_row_for_the_opening_and_for_every_count() -> None:
    trace = walk(form(Posture("a", lines=FIRST), Posture("b", lines=read_score("# only a note"))))
    assert [trace.posture(r) for r in range(len(trace))] == [None, "a", "a", "a", "a"]
    assert trace.counts.tolist() == [0, 1, 2, 3, 4]
    assert trace.shares[3].tolist() == pytest.approx([0.7, 0.3])
    assert trace.span("b") == (5, 5)
    assert [(row, said.row) for row, _, said in trace.expectations] == [(4, 3)]


def test_openings() -> None:
    body = Form().body
    for name in ("together", "shoulder", "hip", "vee"):
        pose = Opening(name).pose(body)
        assert pose.right.x - pose.left.x == pytest.approx(body.named_width(name))
        assert pose.midpoint == (0.0, 0.0) and pose.torso == 0.0
    assert Opening("vee").pose(body).left.heading == 315
    own = Opening("", (FootPose(1, 1, 0, Contact.FLAT), FootPose(1.4, 1.2, 30, Contact.BALL)), 0.8).pose(body)
    assert own.left[:2] == pytest.approx((-0.2, -0.1)) and own.left_share == 0.8


def test_the_other_side_and_the_repeat_follow_their_source() -> None:
    source = Posture("a", lines=FIRST, ends=Clock(540))
    whole = form(
        source,
        Posture("b", mirror_of="a", axis=Clock(0)),
        Posture("c", repeat_of="a", turned=-90.0),
        Posture("d", mirror_of="b", axis=Clock(0)),
    )
    trace = walk(whole)
    assert trace.torso[[4, 8, 12, 16]].tolist() == [270, 90, 180, 270]
    assert whole.ends(whole.posture("b")) == Clock(180)
    assert whole.ends(whole.posture("c")) == Clock(360)
    longer = whole.with_posture(replace(source, lines=(*FIRST, read_count("shift L 100"))))
    assert walk(longer, trace).shares[[5, 10, 15, 20], 0].tolist() == [1.0, 0.0, 1.0, 1.0]


def test_floor_positions_of_a_source_are_taken_over_from_where_the_posture_begins() -> None:
    lines = read_score("shift R 100\nstep L to -0.50 0.40\nshift L 100\nstep R beside 20")
    trace = walk(
        form(
            Posture("a", lines=lines),
            Posture("b", mirror_of="a", axis=Clock(0)),
            Posture("c", repeat_of="a", turned=90.0),
        )
    )
    begin_a, begin_b, begin_c = trace.midpoints[0], trace.midpoints[4], trace.midpoints[8]
    went = trace.heels[2, Side.LEFT] - begin_a
    assert trace.heels[6, Side.RIGHT] - begin_b == pytest.approx(went * (-1, 1))
    assert trace.heels[10, Side.LEFT] - begin_c == pytest.approx((went[1], -went[0]))


@pytest.mark.parametrize(
    ("postures", "kind"),
    [
        ((Posture("a"), Posture("a")), "form.two-ids"),
        ((Posture("a", mirror_of="x", axis=Clock(0)),), "form.source-unknown"),
        ((Posture("a", repeat_of="a"),), "form.own-source"),
        ((Posture("a", repeat_of="b"), Posture("b", repeat_of="a")), "form.circle"),
        ((Posture("a"), Posture("b", mirror_of="a")), "form.no-axis"),
        ((Posture("a", lines=FIRST), Posture("b", lines=FIRST, repeat_of="a")), "form.source-and-counts"),
        ((Posture("b", repeat_of="a"), Posture("a", lines=read_score("step L to 1 1"))), "form.later-places"),
    ],
)
def test_parts_that_do_not_fit_together_are_refused(postures: tuple[Posture, ...], kind: str) -> None:
    with pytest.raises(FormError, match=kind):
        form(*postures)


def test_a_later_source_without_floor_positions_is_fine() -> None:
    trace = walk(form(Posture("b", mirror_of="a", axis=Clock(0)), Posture("a", lines=FIRST)))
    assert trace.torso[4] == 90


def test_what_an_earlier_posture_takes_from_a_changed_one_is_in_the_walk_up_to_that() -> None:
    whole = form(Posture("b", mirror_of="a", axis=Clock(0)), Posture("a", lines=FIRST))
    edited = whole.with_posture(replace(whole.posture("a"), lines=(read_count("step L 9 bow 60x34"), *FIRST)))
    so_far = walk_to(edited, "a", 0, whole, walk(whole))
    row = walk(edited).span("a")[0]
    np.testing.assert_allclose(so_far.table[: row + 1], walk(edited).table[: row + 1], atol=1e-9)


edits = st.lists(
    st.tuples(st.integers(0, 3), st.sampled_from(["add", "between", "drop", "change"]), write.counts), max_size=6
)


@given(st.lists(counts, min_size=4, max_size=4), edits)
@settings(max_examples=tries(80))
def test_walking_again_after_an_edit_gives_what_a_fresh_walk_gives(lines: list[tuple[Count, ...]], todo: list) -> None:  # type: ignore[type-arg]
    whole = form(
        *(Posture(f"p{i}", lines=each) for i, each in enumerate(lines)),
        Posture("again", repeat_of="p0", turned=90.0),
        Posture("other", mirror_of="p1", axis=Clock(60)),
    )
    trace = walk(whole)
    for at, how, count in todo:
        posture = whole.posture(f"p{at}")
        old = posture.lines
        middle = len(old) // 2
        new, line = {
            "add": ((*old, count), len(old)),
            "between": ((*old[:middle], count, *old[middle:]), middle),
            "drop": (old[1:], 0),
            "change": ((count, *old[1:]), 0),
        }[how]
        edited = whole.with_posture(replace(posture, lines=new))
        so_far = walk_to(edited, posture.id, line, whole, trace)
        whole, trace = edited, walk(edited, trace)
        # What is shown of it at once is the beginning of its walk, and ends with that line.
        np.testing.assert_allclose(so_far.table, trace.table[: len(so_far)], atol=1e-7)
        assert len(so_far) == trace.span(posture.id)[0] + sum(each.moves for each in new[: line + 1])
        ended = [each for each in trace.problems if each.row < len(so_far)]
        assert list(so_far.problems) == ended
    fresh = walk(whole)
    np.testing.assert_allclose(trace.table, fresh.table, atol=1e-7)
    assert trace.problems == fresh.problems and trace.expectations == fresh.expectations
    for kind in (act.Step, act.Pivot, act.Hand, act.Kick, act.Lift):  # asked by kind, every action is in its row
        every = [(row, each) for row, count in enumerate(trace.written) for each in count.actions]
        assert list(trace.of_kind(kind)) == [(row, each) for row, each in every if isinstance(each, kind)]


@given(counts, counts, st.floats(-5.0, 5.0), st.floats(-5.0, 5.0))
@settings(max_examples=tries(40))
def test_a_posture_goes_on_from_where_its_lines_are_still_the_same(
    lines: tuple[Count, ...], more: tuple[Count, ...], x: float, y: float
) -> None:
    ground, begun = ground_of(form()), walk(form()).pose(0)
    before = walk_passage("p", lines, begun, ground)
    elsewhere = before.moved(x, y)
    for new in ((*lines, *more), lines[:1], (*lines[:-1], *more), more):
        whole = walk_passage("p", new, elsewhere.entry, ground)
        again = walk_passage("p", new, elsewhere.entry, ground, before=elsewhere)
        if not before.stays_put:
            np.testing.assert_allclose(again.rows, whole.rows, atol=1e-9)
            assert again.problems == whole.problems and again.expectations == whole.expectations


def test_only_what_an_edit_touched_is_walked_again() -> None:
    walks_on = (*FIRST, *read_score("shift L 100\nstep R beside"))
    whole = form(*(Posture(f"p{i}", lines=walks_on) for i in range(6)))
    trace = walk(whole)
    # A longer step moves all that follows, but changes none of it.
    edited = whole.with_posture(
        replace(whole.posture("p1"), lines=(FIRST[0], read_count("step L 9 bow 60x34"), *walks_on[2:]))
    )
    again = walk(edited, trace)
    kept = [
        new.lines is old.lines and new.problems is old.problems
        for new, old in zip(again.passages, trace.passages, strict=True)
    ]
    assert again.passages[1] is trace.passages[1]
    np.testing.assert_allclose(again.table, walk(edited).table, atol=1e-9)
    assert kept[3:] == [True] * 4 and not np.allclose(again.midpoints[-1], trace.midpoints[-1])


@given(counts, st.floats(0.0, 1.0))
def test_between_counts_nothing_jumps(lines: tuple[Count, ...], t: float) -> None:
    trace = walk(form(Posture("a", lines=lines)))
    for row in range(1, len(trace)):
        assert pose_between(trace, row, 1.0) == trace.pose(row)
        near, far = pose_between(trace, row, t), pose_between(trace, row, min(t + 1e-4, 1.0))
        for side in Side:
            moved = np.hypot(near.foot(side).x - far.foot(side).x, near.foot(side).y - far.foot(side).y)
            reach = 1.0 + np.abs(trace.heels).max() + np.abs(trace.move_points[row]).max()
            assert moved < 1e-3 * reach * 4
            still = trace.move_kinds[row, side] == 0
            assert not still or near.foot(side)[:3] == trace.pose(row).foot(side)[:3]


def test_a_walk_is_handed_to_another_process_while_others_find_things_out_about_it() -> None:
    """Forms and walks are pickled in a thread while the interface judges them."""
    form = read_document(demo_text()).form
    wrong: list[BaseException] = []
    stop = threading.Event()

    def find_out() -> None:
        number = 0
        while not stop.is_set():
            for passage in trace.passages:
                passage.known(f"n{number}", lambda: 1)
            trace.__dict__[f"_n{number}"] = form.__dict__[f"_n{number}"] = number  # as a cached property does
            number += 1

    trace = walk(form)
    finder = threading.Thread(target=find_out)
    finder.start()
    try:
        for _ in range(60):
            again = pickle.loads(pickle.dumps((form, trace)))
    except RuntimeError as error:
        wrong.append(error)
    finally:
        stop.set()
        finder.join()
    assert not wrong and again[0] == form and (again[1].table == trace.table).all()
    assert all(not passage.memo for passage in again[1].passages)
