"""Quick checks of consistency that reveal a missed transition: hands against legs, eyes against the centre."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from waltzmark.core.base.angles import heading_difference, heading_differences
from waltzmark.core.base.arrays import Bools, Floats
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.judge.finding import Finding, Mend
from waltzmark.core.judge.registry import Case, begins, rule
from waltzmark.core.score import actions as act

__all__: list[str] = []


@rule("hand.front-leg", "note", whole=True)
def front_leg(case: Case) -> Iterator[Finding]:
    """A hand pushes on the side the school does not push on with this leg in front.

    The form itself must say that it is a slip: the same posture pushes with the other hand elsewhere, or it breaks a
    run of hands that take turns.
    """
    way = case.choice("hand.front-leg", "push")
    if way == "either":
        return
    pushes = list(_pushes(case))
    same = [hand.side is front for _, hand, front in pushes]
    for number, (row, hand, front) in enumerate(pushes):
        if same[number] == (way == "same") or not (_elsewhere(case, pushes, same, number) or _breaks(pushes, number)):
            continue
        count = case.count(row)
        other = count.exchanged(hand, replace(hand, side=hand.side.other))
        taken = any(isinstance(a, act.Hand) and a.side is hand.side.other for a in count.actions)
        mends = () if taken else case.exchange(row, message("mend.push-with", hand=hand.side.other), other)
        yield case.found("hand.front-leg", row, side=front, hand=hand.side, free=hand.side.other, mends=mends)


def _pushes(case: Case) -> Iterator[tuple[int, act.Hand, Side]]:
    """Each count in which one hand pushes with a foot in front that carries: its row, the hand and the front foot."""
    body = case.body
    for row in case.rows((body.front >= 0) & (body.front_share >= 0.5)):
        hands = [a for a in case.count(row).actions if isinstance(a, act.Hand) and a.shape == "push"]
        if len(hands) == 1:
            yield row, hands[0], Side(int(body.front[row]))


def _elsewhere(case: Case, pushes: list[tuple[int, act.Hand, Side]], same: list[bool], number: int) -> bool:
    """Whether the same posture, or one that takes its counts from the same, pushes the school's way elsewhere."""
    root = _root(case, pushes[number][0])
    return any(same[n] != same[number] and _root(case, row) == root for n, (row, _, _) in enumerate(pushes))


def _root(case: Case, row: int) -> str | None:
    """The posture that the counts of a row are taken from; by its name, where several are called alike."""
    name = case.trace.posture(row)
    while name is not None and (source := case.form.posture(name).source) is not None:
        name = source
    return None if name is None else case.form.posture(name).title.casefold()


def _breaks(pushes: list[tuple[int, act.Hand, Side]], number: int) -> bool:
    """Whether hands take turns before a push, and would go on doing so if it were made with the other hand."""
    sides = [hand.side for _, hand, _ in pushes]
    before, after = sides[max(number - 2, 0) : number], sides[number + 1 : number + 3]
    takes_turns = len(before) == 2 and before[0] is not before[1]
    return bool(takes_turns and after and before[-1] is sides[number] is after[0])


@rule("gaze.beyond", "note")
def beyond(case: Case) -> Iterator[Finding]:
    """The head is turned away from the centre, where the eyes should do it.

    So far that one no longer sees where one goes, or away from a kick, it is a danger.
    """
    trace = case.trace
    limit, hand, far, kick = case.limits("gaze.beyond", "angle", "hand", "far", "kick")
    away = np.abs(heading_differences(trace.torso, trace.gaze))
    # Along a hand that points there the eyes may go further.
    most = np.where(_along_hand(case), max(hand, limit), limit)
    off = _off_kick(case)
    blind = off > kick + 1e-6
    grave = (away > far + 1e-6) | blind
    wrong = grave | (away > most + 1e-6)
    for row in case.rows(begins(grave) | (begins(wrong) & ~grave)):
        count = case.count(row)
        old = count.one(act.Gaze)
        mends: tuple[Mend, ...] = ()
        if old is not None and len(count.actions) > 1:
            rest = replace(count, actions=tuple(a for a in count.actions if a is not old))
            mends = case.exchange(row, message("mend.gaze-follows"), rest)
        yield case.found(
            "gaze.beyond",
            row,
            which="kick" if blind[row] else "",
            measured=float(off[row] if blind[row] else away[row]),
            limit=float(kick if blind[row] else most[row]),
            unit="°",
            severity="caution" if grave[row] else None,
            mends=mends,
        )


def _along_hand(case: Case) -> Bools:
    """(n,) whether a hand of the count points where the eyes look, give or take half an hour of the clock."""
    trace = case.trace
    found = np.zeros(len(trace), dtype=bool)
    for row, hand in trace.of_kind(act.Hand):
        way = hand.facing.heading(float(trace.torso[row]), case.form.twelve)
        found[row] |= abs(heading_difference(way, float(trace.gaze[row]))) <= 15.0
    return found


def _off_kick(case: Case) -> Floats:
    """(n,) degrees from the eyes to the kick of the count, 0 where there is none."""
    trace = case.trace
    found = np.zeros(len(trace))
    for row, kick in trace.of_kind(act.Kick):
        before = float(trace.torso[max(row - 1, 0)])
        way = kick.facing.heading(before, case.form.twelve)
        found[row] = max(found[row], abs(heading_difference(way, float(trace.gaze[row]))))
    return found
