"""Pairs of a form found, proposed and mended; whole forms, schools and bodies compared."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.sided import ENTRY, SIDE
from tests.trying import tries
from waltzmark.core.answers.review import review
from waltzmark.core.base.errors import FormError
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.progress import StoppedError
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.edit.resizing import mirrored_form
from waltzmark.core.form.form import Form, Home, Opening, Posture
from waltzmark.core.school.school import load_school
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.read import read_score
from waltzmark.core.sides.balance import balance_of
from waltzmark.core.sides.differences import Span
from waltzmark.core.sides.forms import by_school, compare_forms, walked_by
from waltzmark.core.sides.mends import alike, count_alike, named_side, shift_of, tied
from waltzmark.core.sides.offs import Off
from waltzmark.core.sides.pairs import Pair, check_sides, declared_pairs, proposed_pairs
from waltzmark.core.sides.points import count_points, worst_point
from waltzmark.core.sides.telling import Told
from waltzmark.core.sides.tolerance import Tolerance
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document
from waltzmark.words.sides import pair_difference, report

# Pairs of a form.


def form_of(*postures: Posture, **more: object) -> Form:
    return Form(postures=postures, **more)  # type: ignore[arg-type]


def own(name: str, *lines: str, **more: str) -> Posture:
    return Posture(name, lines=read_score("\n".join(lines)), **more)  # type: ignore[arg-type]


def mirrored(*lines: str) -> tuple[str, ...]:
    """The lines of the other side about 12 o'clock, as one writes them."""
    exchange = str.maketrans("LR", "RL")
    hours = {"10:30": "1:30", "1:30": "10:30", "torso 1": "torso 11"}
    made = []
    for line in lines:
        words = [
            hours.get(word.strip(","), word.strip(",")) + ("," if word.endswith(",") else "") for word in line.split()
        ]
        made.append(" ".join(words).translate(exchange).replace("torso 1#", "torso 11"))
    return tuple(made)


CAST = SIDE[:6]
STAND = (
    "shift L 100, torso 12",
    "step R 12 side parallel 12",
    "shift 50/50",
    "shift L 100",
    "step R beside",
    "shift 50/50",
)


def test_a_repeat_written_out_by_hand_is_proposed_as_a_repeat_and_a_mirror_as_a_mirror() -> None:
    form = form_of(own("a", *CAST), own("b", *mirrored(*CAST)), own("c", *CAST), own("d", *STAND))
    trace = walk(form)
    assert not declared_pairs(form, trace)
    found = {pair.names: pair for pair in proposed_pairs(form, trace)}
    assert found["a", "b"].kind == "mirror" and found["a", "c"].kind == "repeat"
    assert not any("d" in names for names in found) and not any(pair.declared for pair in found.values())
    assert all(pair.cause in ("none", "entry") for pair in found.values())
    # One that is told already is not proposed.
    told = form.with_posture(replace(form.posture("b"), side_of="a"))
    assert {p.names for p in proposed_pairs(told, trace)} == {("a", "c")}
    assert [(p.names, p.kind, p.declared) for p in declared_pairs(told, trace)] == [(("a", "b"), "mirror", True)]


def test_a_passage_inside_a_long_posture_is_proposed_with_its_counts() -> None:
    long = own("long", *STAND, *CAST, "hold @2", *mirrored(*CAST))
    form = form_of(long)
    found = proposed_pairs(form, walk(form))
    assert [(pair.names, pair.kind) for pair in found] == [(("long:7-12", "long:14-19"), "mirror")]
    # Tied, it becomes a posture of its own, and nothing moves.
    trace = walk(form)
    made = tied(form, trace, found[0])
    assert [p.id for p in made.form.postures] == ["long", "long-4", "long-3", "long-2"]
    last = made.form.postures[3]
    assert last.mirror_of == "long-4" and last.lines == () and last.name == "long, counts 14 to 19"
    np.testing.assert_allclose(walk(made.form).heels, trace.heels, atol=1e-9)


class Stopping:
    def tell(self, share: float, words: str = "") -> None:
        raise StoppedError

    def hand_out(self, so_far: object) -> None:
        raise AssertionError


def test_what_cannot_be_compared_is_no_pair_and_does_no_harm() -> None:
    empty = form_of(own("a", "# nothing yet"), Posture("b", side_of="a"), Posture("self", side_of="self"))
    (pair,) = check_sides(empty, walk(empty))
    assert pair.same and pair.empty and pair.cause == "none" and pair_difference(pair, walk(empty))
    assert proposed_pairs(empty, walk(empty)) == ()
    # Both say it of each other: one pair. One has no counts: every count is told as lacking.
    both = form_of(own("a", *CAST, side_of="b"), Posture("b", side_of="a"))
    (pair,) = check_sides(both, walk(both))
    assert [each.lone for each in pair.compared.counts] == [True] * len(CAST) and not pair.same
    # Very different in length.
    lengths = form_of(own("a", *CAST * 9), own("b", *mirrored(CAST[0]), side_of="a"))
    (pair,) = check_sides(lengths, walk(lengths))
    assert sum(each.lone for each in pair.compared.counts) == 9 * len(CAST) - 1
    worst = worst_point(pair.compared, (walk(lengths), walk(lengths)))
    assert worst is not None and worst["point"].kind == "side.count.missing"  # type: ignore[union-attr]
    form = form_of(own("a", *CAST), own("b", *CAST))
    with pytest.raises(StoppedError):
        proposed_pairs(form, walk(form), progress=Stopping())


def demo() -> Form:
    return read_document(demo_text()).form


def pair_named(form: Form, other: str) -> Pair:
    return next(pair for pair in declared_pairs(form, walk(form)) if pair.other == other)


def test_the_demo_tells_what_differs_in_words() -> None:
    form = demo()
    trace = walk(form)
    pair = pair_named(form, "lean-right")
    assert not pair.same and pair.cause == "written" and pair.compared.fold.axis == 0.0
    (off,) = [each for each in pair.compared.counts if not each.same(pair.compared.within)]
    (longer,) = count_points(pair.compared, off, (trace, trace))
    assert (longer.kind, longer["side"]) == ("side.step.longer", Side.RIGHT) and longer["by"] == pytest.approx(
        0.03, abs=0.003
    )
    assert worst_point(pair.compared, (trace, trace)) == message("side.in-count", count=2, point=longer)
    # A wider tolerance takes them for the same.
    loose = declared_pairs(form, trace, within=Tolerance(5.0, 5.0, 5.0))
    assert all(each.same for each in loose)


def test_the_answer_tells_what_differs_most_and_where() -> None:
    form = demo()
    answer = review(form, walk(form)).answers[2]
    told = dict(answer.message.fields)
    assert (told["n"], told["of"], told["title"]) == (1, 4, "Lean on the pole, right")
    assert answer.good is False and answer.row == walk(form).row_of("lean-right", 2)
    tied_up = tied(form, walk(form), pair_named(form, "lean-right")).form
    agreed = review(tied_up, walk(tied_up)).answers[2]
    assert agreed.good and (agreed.message.kind, agreed.message["n"]) == ("sides.same", 4)
    # A count too many comes before any figure; the answer leads to it.
    more = form_of(own("a", *CAST), own("b", *mirrored(*CAST[:3]), "hold", *mirrored(*CAST[3:]), side_of="a"))
    answer = review(more, walk(more)).answers[2]
    assert answer.message["point"] == message("side.in-count", count=4, point=message("side.count.added", text="hold"))
    assert answer.row == 10
    loose = review(form, walk(form), within=Tolerance(cm=4.0)).answers[2]
    assert loose.good


def test_a_pair_is_mended_whole_or_by_one_count_from_either_side() -> None:
    form = demo()
    trace = walk(form)
    pair = pair_named(form, "lean-right")
    for back in (False, True):
        whole = alike(form, trace, pair, back)
        assert pair_named(whole.form, "lean-right").cause == "none"
        changed = whole.form.posture("lean-left" if back else "lean-right")
        assert changed.name == form.posture(changed.id).name and changed.note == form.posture(changed.id).note
        one = count_alike(form, trace, pair, pair.compared.counts[1], back)
        assert pair_named(one.form, "lean-right").cause == "none"
        assert whole.moves == pytest.approx(one.moves) and 0.02 < one.moves < 0.05
    made = tied(form, trace, pair)
    assert made.form.posture("lean-right").mirror_of == "lean-left" and made.form.posture("lean-right").side_of is None
    assert made.form.posture("lean-right").name == "Lean on the pole, right" and made.moves == pytest.approx(
        whole.moves
    )
    # What is written alike already cannot be made so; the reason is told.
    with pytest.raises(FormError, match="mend.same-counts.*source=Cast the line, right"):
        alike(form, trace, pair_named(form, "cast-left"))


@settings(max_examples=tries(25))
@given(st.integers(0, len(SIDE) - 1), st.sampled_from(["more", "less", "other"]), st.booleans())
def test_counts_are_put_in_and_taken_out_until_both_sides_are_the_same(at: int, way: str, back: bool) -> None:
    changed = {
        "more": [*SIDE[:at], "hold @3", *SIDE[at:]],
        "less": [*SIDE[:at], *SIDE[at + 1 :]],
        "other": [*SIDE[:at], "shift L 61, torso 11:44", *SIDE[at + 1 :]],
    }[way]
    form = form_of(own("a", *SIDE), own("b", *mirrored(*changed), side_of="a"))
    for _ in range(3):
        trace = walk(form)
        (pair,) = check_sides(form, trace)
        wrong = [each for each in pair.compared.counts if each.lone or not each.written.same(pair.compared.within)]
        if not wrong:
            break
        form = count_alike(form, trace, pair, wrong[0], back).form
    assert check_sides(form, walk(form))[0].cause in ("none", "entry")


def test_a_proposal_becomes_a_side_or_a_repeat_and_keeps_name_and_place() -> None:
    form = form_of(own("a", *CAST), replace(own("b", *mirrored(*CAST)), name="Mine", note="kept"), own("c", *CAST))
    trace = walk(form)
    mirror, repeat = sorted(proposed_pairs(form, trace), key=lambda pair: pair.names)
    sided = named_side(form, trace, mirror)
    assert sided.form.posture("b").side_of == "a" and sided.moves == 0.0
    for pair in (mirror, repeat):
        made = tied(form, trace, pair)
        posture = made.form.posture(pair.other)
        assert posture.source == "a" and posture.name == form.posture(pair.other).name
        assert posture.note == form.posture(pair.other).note and made.form.index(posture.id) == form.index(posture.id)
        assert made.moves == pytest.approx(shift_of(trace, walk(made.form))) == pytest.approx(0.0, abs=1e-9)
    with pytest.raises(FormError, match="mend.no-repeat"):
        named_side(form, trace, repeat)
    # What would take its counts from itself, round about, is told.
    turned = form.with_posture(replace(form.posture("a"), lines=(), mirror_of="b", axis=Clock(0)))
    with pytest.raises(FormError, match="form.circle"):
        tied(turned, walk(turned), mirror)


# The whole form.


def test_the_whole_form_s_other_side_exchanges_everything() -> None:
    form = replace(
        demo(), home=Home((0.4, 0.2), Clock(90)), opening=Opening(feet=(ENTRY.left, ENTRY.right), left_share=0.3)
    )
    other = mirrored_form(form)
    assert other.posture("cast-right").name == "Cast the line, left" and other.home.place == (-0.4, 0.2)
    assert other.home.facing == Clock(630) and mirrored_form(other) == form
    one, two = walk(form), walk(other)
    np.testing.assert_allclose(two.heels, one.heels[:, ::-1] * (-1.0, 1.0), atol=1e-9)
    here, there = (balance_of(each, trace, declared_pairs(each, trace)) for each, trace in ((form, one), (other, two)))
    assert here.left != here.right
    for a, b in ((here.left, there.right), (here.right, there.left)):
        assert (a.steps, a.stances, a.pivots_out, a.pivots_in, a.one_leg, a.pushes) == (
            b.steps,
            b.stances,
            b.pivots_out,
            b.pivots_in,
            b.one_leg,
            b.pushes,
        )
        assert (a.load, a.turned, a.alone) == pytest.approx((b.load, b.turned, b.alone))
    assert here.beats == pytest.approx(here.left.load + here.right.load)


def test_what_has_no_other_side_is_told() -> None:
    form = form_of(
        own("a", *CAST), own("b", *mirrored(*CAST), side_of="a"), own("c", *SIDE), own("d", *SIDE), own("e", "hold")
    )
    trace = walk(form)
    pairs = (*declared_pairs(form, trace), *proposed_pairs(form, trace))
    assert balance_of(form, trace, pairs).one_sided == ("c",)  # d repeats it; nothing moves in e


# Two forms.


def test_a_form_is_the_same_as_itself_and_as_itself_walked_elsewhere() -> None:
    form = demo()
    assert compare_forms(form, form).same
    assert len(report(compare_forms(form, form), ("one", "two")).splitlines()) == 4


def points(told: Sequence[Told], kind: str) -> list[Message]:
    """What is told of a kind, or of a kind in a count."""
    found = [each.message for each in told]
    inner = [each["point"] for each in found if each.kind == "form.count"]
    return [each for each in (*found, *inner) if isinstance(each, Message) and each.kind == kind]


def test_two_writings_of_a_form_differ_in_what_was_changed() -> None:
    text = demo_text()
    for old, new in (
        ('opening = "together"', 'opening = "hip"'),
        ('  "pivot L heel 10:30, torso 12",\n', '  "pivot L ball 10:30, torso 12",\n'),
        (
            "shift L 70, torso 12, hand R 12 chest push, hand L 12 hip guard",
            "shift L 60, torso 12, hand R 12 head push, hand L 12 hip guard",
        ),
        ('"step L 9 bow, torso 10:30"', '"step L 9 bow 52x24, torso 10:30"'),
        ('name = "Haul the net"', 'name = "Haul in the net"'),
        (
            '  "shift 50/50, torso 12, breathe out",\n]\n\n[[posture]]\nid = "gunwale"',
            ']\n\n[[posture]]\nid = "gunwale"',
        ),
        ('  "shift R 80, torso 1, breathe in",', '  "shift R 60, torso 1, breathe in",'),
    ):
        assert old in text
        text = text.replace(old, new, 1)
    found = compare_forms(demo(), read_document(text).form)
    told = {two.a: two.differences for two in found.postures}
    (opening,) = points(found.whole, "form.opening")
    assert (opening["here"], opening["there"]) == (message("opening.together"), message("opening.hip"))
    (turns,) = points(told["cast-right"], "side.foot.turns-on")
    assert (turns["side"], turns["there"], turns["here"]) == (Side.LEFT, "ball", "heel")
    (more,) = points(told["coil"], "side.weight.split")
    assert (more["side"], more["here"], more["there"]) == (Side.RIGHT, "70/30", "60/40")
    (hand,) = points(told["coil"], "beside.hand")
    assert hand["here"] == (message("hand.height.chest"), message("hand.shape.push"))
    assert hand["there"] == (message("hand.height.head"), message("hand.shape.push"))
    (step,) = [each for kind in ("longer", "shorter") for each in points(told["lean-left"], f"side.step.{kind}")]
    assert step["sizes"].after == pytest.approx(0.52) and step["reach"].after > 20.0  # type: ignore[union-attr]
    assert told["haul"][0].message == message("form.name", here="Haul the net", there="Haul in the net")
    assert points(told["oars"], "form.counts") == [message("form.counts", here=5, there=4)]
    assert points(told["oars"], "side.count.missing")
    (load,) = points(told["boat"], "side.foot.load")
    assert (load["loads"].before, load["loads"].after) == pytest.approx((20.0, 40.0))  # type: ignore[union-attr]
    for two in found.postures:  # every difference leads somewhere
        assert all(each.row is not None or each.other_row is not None for each in two.differences)
    words = report(found, ("this year", "last year"))
    assert len(words.splitlines()) > 10 and "this year" in words and "Haul in the net" in words


def test_postures_are_laid_beside_each_other_by_name_and_by_likeness_in_any_order() -> None:
    a = form_of(own("one", *CAST), own("two", *STAND), own("three", *SIDE))
    b = form_of(own("zwei", *STAND), own("one", *CAST), own("new", "hold", "sink 20", "hold"))
    found = compare_forms(a, b)
    assert [(two.a, two.b) for two in found.postures] == [
        ("one", "one"),
        (None, "new"),
        ("two", "zwei"),
        ("three", None),
    ]
    told = Counter(each.message.kind for two in found.postures for each in two.differences)
    assert told["form.only-first"] == told["form.only-second"] == told["form.place"] == 1
    swapped = form_of(own("one", CAST[0], CAST[1], *CAST[3:], CAST[2]))
    differences = compare_forms(form_of(own("one", *CAST)), swapped).postures[0].differences
    (moved,) = points(differences, "form.order")
    assert (moved["here"], moved["there"]) == (3, 6)


def test_one_form_by_two_schools_and_two_bodies() -> None:
    form = demo()
    other = compare_forms(form, by_school(form, load_school("chair-side")), judged=True)
    assert points(other.whole, "form.school")
    assert any(points(two.differences, "form.found.second") for two in other.postures)
    body = compare_forms(form, walked_by(form, Body(stature=1.55)))
    (changed,) = points(body.whole, "form.body")
    assert changed["there"] == message("form.a-body", height=1.55)
    (parts,) = [each for each in body.whole if each.message.kind == "form.parting"]
    one, two = body.traces
    assert parts.row is not None and parts.other_row is not None
    assert np.hypot(*(two.midpoints[parts.other_row] - one.midpoints[parts.row])) > 0.10
    assert np.hypot(*(two.midpoints[parts.other_row - 1] - one.midpoints[parts.row - 1])) <= 0.10


def test_spans_and_offs_are_plain_values() -> None:
    assert len(Span("a", 3, 7)) == 4
    off = Off(ahead=(1.0, 2.0), heading=(3.0, -4.0), weight=5.0, torso=6.0, contact=(True, False))
    assert (off.exchanged().weight, off.exchanged().torso, off.exchanged().contact) == (-5.0, -6.0, (False, True))
    assert off.exchanged().exchanged() == off and (off + off).weight == 10.0
    assert off.exchanged().ahead == (2.0, 1.0) and off.exchanged().heading == (4.0, -3.0)
    assert all(a <= b for a, b in pairwise([1, 2]))


def test_what_each_side_does_is_what_one_counts_by_hand() -> None:
    lines = [
        "shift R 100 @2",
        "lift L @4",  # on the right leg alone
        "step L 12 bow",
        "shift L 70 @3",
        "pivot R heel out 45",  # lightly
        "shift L 100, torso 3 @2",
        "pivot L heel in 30, hand R 12 chest push",  # with everything on it
        "lift R knee @0.5",
        "kick R 3 knee heel, hand L 3 chest fist",
        "step R 3 beside, torso 1:30",
        "shift 50/50 @2",
    ]
    form = Form(
        postures=(Posture("a", lines=read_score("\n".join(lines).replace("R 3 beside", "R beside"))),), torso="stated"
    )
    found = balance_of(form, walk(form), ())
    left, right = found.left, found.right
    assert found.beats == 18.5
    assert (left.beats, right.beats) == (3 + 1 + 2 + 1 + 0.5 + 1 + 1, 2 + 4 + 1)
    assert left.load == pytest.approx(0.7 * 4 + 2 + 1 + 0.5 + 1 + 1 + 1) and right.load == pytest.approx(
        7 + 0.3 * 4 + 1
    )
    assert (left.alone, right.alone) == (1.5, 4.0) and (left.one_leg, right.one_leg) == (2, 1)
    assert (left.steps, right.steps) == (1, 1)
    assert (left.pivots_out, left.pivots_in, left.loaded) == (0, 1, 1)
    assert (right.pivots_out, right.pivots_in, right.loaded) == (1, 0, 0)
    assert (left.turned, right.turned) == pytest.approx((45.0, 90.0))
    assert (left.pushes, right.pushes) == (1, 1) and (left.kicks, right.kicks) == (0, 1)
    assert left.stances.get("bow") == 1 and "bow" not in right.stances
