"""What is told of a difference is what was changed, by as much, of the foot that has it: on the same side and the other."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.trying import tries
from waltzmark.core.base.angles import rotated
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import replace
from waltzmark.core.edit.resizing import mirrored_form
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.read import read_score
from waltzmark.core.sides.alignment import Match
from waltzmark.core.sides.deeds import deeds_of
from waltzmark.core.sides.differences import Compared, Span, span_of, way_between
from waltzmark.core.sides.forms import compare_forms
from waltzmark.core.sides.pairs import declared_pairs
from waltzmark.core.sides.points import off_points, sides_of
from waltzmark.core.sides.tolerance import SAME, Tolerance
from waltzmark.core.walk.walk import walk

#: A step of one foot (F), whose weight comes from the other (O), and how far out "out" is to that foot's side.
LINES = (
    "shift O 100",
    "step F 12 bow {length}x{width} toe {toe}",
    "shift F {load}, torso 12:{turned:02d}",
    "sink {sink}, lean {lean}",
)
USUAL: dict[str, int | str] = {"length": 45, "width": 25, "toe": "+0", "load": 70, "turned": 20, "sink": 20, "lean": 5}


class Changed(NamedTuple):
    """A field of the lines, what it is instead, and what is to be told: kind, whose foot, by how much, in which count."""

    field: str
    value: int | str
    kind: str
    foot: str  # F, O or nobody's
    by: float
    row: int


def change(field: str, by: int, side: Side) -> Changed:
    """What is to be told when a field of a step of that side becomes more by so much."""
    up = by > 0
    out = (by < 0) if side is Side.LEFT else up  # clockwise leads a right foot out
    told: dict[str, tuple[str, str, float, int]] = {
        "length": ("side.step.longer" if up else "side.step.shorter", "F", abs(by) / 100, 1),
        "width": ("side.step.wider" if up else "side.step.narrower", "F", abs(by) / 100, 1),
        "toe": ("side.foot.out" if out else "side.foot.in", "F", abs(by), 1),
        "load": ("side.weight", "F" if up else "O", abs(by), 2),
        "turned": ("side.chest.right" if up else "side.chest.left", "", abs(by) / 2, 2),
        "sink": ("side.knees.deeper" if up else "side.knees.higher", "", abs(by), 3),
        "lean": ("side.trunk.forward" if up else "side.trunk.back", "", abs(by), 3),
    }
    before = USUAL[field]
    return Changed(field, before + by if isinstance(before, int) else f"{by:+d}", *told[field])


def lines(side: Side, **instead: int | str) -> str:
    text = "\n".join(LINES).format(**{**USUAL, **instead})
    return text.replace("F", side.letter).replace("O", side.other.letter)


def told(compared: Compared, count: int) -> list[Message]:
    for number, each in enumerate(compared.counts):
        if number < count:  # what comes after it may begin otherwise
            assert off_points(each.off, sides_of(compared), SAME) == []
    return off_points(compared.counts[count].off, sides_of(compared), SAME)


def form(*postures: Posture) -> Form:
    return Form(postures=postures, torso="stated")


def check(point: Message, wanted: Changed, foot: Side | None) -> None:
    assert point.kind == wanted.kind and point["by"] == pytest.approx(wanted.by, abs=1e-6)
    assert dict(point.fields).get("side") == foot


@settings(max_examples=tries(80), deadline=None)
@given(st.data())
def test_what_is_changed_is_told_of_the_same_side_and_of_the_other(data: st.DataObject) -> None:
    side = data.draw(st.sampled_from(list(Side)))
    field = data.draw(st.sampled_from(sorted(USUAL)))
    by = data.draw(st.integers(3, 15)) * data.draw(st.sampled_from([1, -1]))
    wanted = change(field, by, side)
    whose = {"F": side, "O": side.other, "": None}[wanted.foot]
    own, other = (Posture("a", lines=read_score(each)) for each in (lines(side), lines(side, **{field: wanted.value})))

    (two,) = compare_forms(form(own), form(other)).postures
    assert two.compared is not None
    (point,) = told(two.compared, wanted.row)
    check(point, wanted, whose)
    # The other way round it is the other's that is less.
    (back,) = compare_forms(form(other), form(own)).postures
    assert back.compared is not None
    (point,) = told(back.compared, wanted.row)
    turned = change(field, -by, side)
    check(point, turned, {"F": side, "O": side.other, "": None}[turned.foot])

    mirrored = replace(mirrored_form(form(other)).postures[0], id="b", side_of="a")
    between = Posture("home", lines=read_score("step L beside\nshift 50/50\nsink 0, lean 0, torso 12"))
    both = form(own, between, mirrored)
    (pair,) = declared_pairs(both, walk(both))
    (point,) = told(pair.compared, wanted.row)
    swapped = {"side.chest.right": "side.chest.left", "side.chest.left": "side.chest.right"}
    check(
        point, wanted._replace(kind=swapped.get(wanted.kind, wanted.kind)), whose.other if whose is not None else None
    )
    assert not pair.same and pair.worst is not None
    # What may differ by so much is no difference; by a hair less it is.
    most = abs(by) / (2 if field == "turned" else 1)
    for within, same in ((most + 0.01, True), (most - 0.01, False)):
        loose = {
            "length": Tolerance(cm=within), "width": Tolerance(cm=within), "load": Tolerance(percent=within),
        }.get(field, Tolerance(degrees=within))  # fmt: skip
        (again,) = declared_pairs(both, walk(both), within=loose)
        assert again.same is same


@settings(max_examples=tries(60), deadline=None)
@given(st.integers(0, 719), st.booleans())
def test_the_angle_between_two_passages_is_the_one_that_they_were_turned_by(minutes: int, mirror: bool) -> None:
    """Turned by so much, or mirrored before, and read off the headings."""
    texts = ["shift R 100", "step L 12 bow 45x25", "shift L 70, torso 12", "step R 3 bow 40x25, torso 3"]
    one = form(Posture("a", lines=read_score("\n".join(texts))))
    other = mirrored_form(one) if mirror else one
    other = form(
        *(replace(p, lines=tuple(line.turned(minutes / 2.0, "N") for line in p.lines)) for p in other.postures)
    )
    mine, theirs = walk(one), walk(other)
    rows = [Match(n, n) for n in range(4)]
    angle = way_between(mine, span_of(mine, "a"), theirs, span_of(theirs, "a"), rows, mirror)
    assert np.cos(np.radians(angle - minutes / 2.0)) == pytest.approx(1.0, abs=1e-9)
    # Without a pair of counts it is what the chests say where both begin.
    alone = way_between(mine, Span("a", 3, 4), theirs, Span("a", 4, 5), [], mirror)
    wanted = float(theirs.torso[3] + (mine.torso[2] if mirror else -mine.torso[2]))
    assert np.cos(np.radians(alone - wanted)) == pytest.approx(1.0, abs=1e-9)


@pytest.mark.parametrize(
    ("before", "cause"), [("sink 20, lean 5", "none"), ("sink 26, lean 5", "entry"), ("sink 20, lean 11", "entry")]
)
def test_a_bend_that_is_carried_in_is_no_bend_of_a_count(before: str, cause: str) -> None:
    ends = "\n".join(["shift R 100", "step L 12 bow 45x25", "shift L 70", "sink 30, lean 10"])
    mine, theirs = (
        form(Posture("x", lines=read_score(first)), Posture("a", lines=read_score(ends)))
        for first in ("sink 20, lean 5", before)
    )
    two = next(each for each in compare_forms(mine, theirs).postures if each.a == "a")
    assert two.compared is not None and two.compared.cause == cause
    assert all(count.written_same(SAME) for count in two.compared.counts)
    bent = deeds_of(walk(mine)).bent
    assert bent.tolist() == [False, True, False, False, False, True]


@settings(max_examples=tries(30), deadline=None)
@given(st.integers(-350, 350).filter(lambda minutes: abs(minutes) >= 4))
def test_a_form_that_was_turned_as_a_whole_is_told_which_way_and_by_how_much(minutes: int) -> None:
    one = form(
        Posture(
            "a", "Out", read_score("\n".join(["shift R 100, torso 12", "step L 12 bow 45x25", "shift L 70, torso 12"]))
        )
    )
    other = form(
        replace(one.postures[0], lines=tuple(line.turned(minutes / 2.0, "N") for line in one.postures[0].lines))
    )
    told = [
        each.message for each in compare_forms(one, other).whole if each.message.kind.startswith("form.whole-turned")
    ]
    (turned,) = told
    assert turned.kind == f"form.whole-turned.{'cw' if minutes > 0 else 'ccw'}"
    assert turned["by"] == pytest.approx(abs(minutes) / 2.0, abs=1e-6)
    assert not [each for each in compare_forms(one, one).whole if each.message.kind.startswith("form.whole-turned")]


A = ("a", "shift R 100 @2\nbreathe in\nstep L 12 bow\nshift L 70, hand R 12 chest push")
B = ("b", "shift L 100\nstep R 12 bow\nshift R 70")
C = ("c", "shift R 100\nstep L 3 bow\nshift L 100\nstep R beside\nshift 50/50")


def beside(
    one: list[tuple[str, str]], other: list[tuple[str, str]]
) -> list[tuple[str | None, str | None, float, list[Message]]]:
    """Which postures stand beside each other, how alike they are, and what is told of them."""
    both = [
        Form(postures=tuple(Posture(name, lines=read_score(text)) for name, text in each), torso="stated")
        for each in (one, other)
    ]
    return [
        (
            two.a,
            two.b,
            two.likeness,
            [each.message for each in two.differences],
        )
        for two in compare_forms(both[0], both[1]).postures
    ]


def apart(named: list[tuple[str, str]]) -> tuple[float, float]:
    """How far the left heel is ahead of the right one, and to the left of it, where the last posture is entered."""
    form = Form(postures=tuple(Posture(name, lines=read_score(text)) for name, text in named), torso="stated")
    trace = walk(form)
    pose = trace.pose(trace.span(named[-1][0])[0] - 1)
    right, ahead = rotated(pose.left.x - pose.right.x, pose.left.y - pose.right.y, -pose.torso)
    return ahead, -right


def test_a_posture_that_has_moved_or_that_only_one_form_has_is_told_with_its_places() -> None:
    moved, *rest = beside([A, B, C], [B, C, A])
    assert moved[:2] == ("a", "a") and moved[3][0].kind == "form.place"
    assert dict(moved[3][0].fields) == {"here": 1, "there": 3}
    # It is entered differently: how far the left heel is ahead of the right one, and to its own side, as the chest faces.
    ahead, aside = (there - here for here, there in zip(*(apart(each) for each in ([A], [B, C, A])), strict=True))
    points = {each.kind: dict(each.fields) for each in dict(moved[3][1].fields)["points"]}  # type: ignore[union-attr]
    for value, ways in ((ahead, ("back", "ahead")), (aside, ("narrower", "wider"))):
        told_of = points[f"side.stance.{ways[value > 0]}"]
        assert told_of["side"] is Side.LEFT and told_of["by"] == pytest.approx(abs(value), abs=1e-4)
    assert [each[:2] for each in rest] == [("b", "b"), ("c", "c")] and all(
        each[2] == 1.0 and not each[3] for each in rest
    )
    for one, other, names, kind in (
        ([A, B], [B], ("a", None), "form.only-first"),
        ([B], [A, B], (None, "a"), "form.only-second"),
    ):
        alone, same = beside(one, other)
        assert alone[:3] == (*names, 0.0) and [each.kind for each in alone[3]] == [kind]
        assert same[:2] == ("b", "b") and not same[3]


def test_beats_and_breath_are_told_as_what_they_are() -> None:
    other = ("a", A[1].replace("@2", "@3").replace("breathe in", "breathe out"))
    [(_, _, likeness, found)] = beside([A], [other])
    assert likeness == 1.0

    def point(kind: str, here: Message, there: Message) -> Message:
        return message(f"beside.{kind}", there=(there,), here=(here,))

    assert found == [
        message("form.count", count=1, point=point("beats", *(message("beside.lasts", beats=n) for n in (2.0, 3.0)))),
        message("form.count", count=2, point=point("breath", message("breath.in"), message("breath.out"))),
    ]
