"""How evenly a form uses both sides of the body: stances, load and time on each leg, turns, one-leg counts, pushes."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence

import numpy as np

from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.records import Record, field
from waltzmark.core.form.form import Form
from waltzmark.core.score.actions import Hand, Kick
from waltzmark.core.sides.pairs import Pair
from waltzmark.core.walk.ground import PIVOT, STEP
from waltzmark.core.walk.naming import recognised
from waltzmark.core.walk.trace import Trace

__all__ = ["Balance", "OneSide", "balance_of", "one_sided"]

_TURN = 1.0  # degrees below which nothing has turned
_LOADED = 0.5  # a leg carries when it has more than this share


class OneSide(Record):
    """What one side of the body does.

    load: beats times the share of the weight; beats: in which it carries more than half; alone: beats in which it
    carries all with the other foot in the air; one_leg: counts in which it does; steps; stances: how often each kind
    comes with this side in front, or on this leg alone; pivots_out, pivots_in: how often its foot turns away from the
    midline and toward it, loaded: those under more than half the weight; turned: degrees that the chest turns to this
    side in all; pushes, kicks: how often its hand pushes and its foot kicks.
    """

    load: float = 0.0
    beats: float = 0.0
    alone: float = 0.0
    one_leg: int = 0
    steps: int = 0
    stances: Mapping[str, int] = field(default_factory=dict)
    pivots_out: int = 0
    pivots_in: int = 0
    loaded: int = 0
    turned: float = 0.0
    pushes: int = 0
    kicks: int = 0


class Balance(Record):
    """Both sides, and which postures have none on the other side: doing those too would even it out."""

    left: OneSide
    right: OneSide
    beats: float
    one_sided: tuple[str, ...] = ()

    def side(self, side: Side) -> OneSide:
        return self.right if side else self.left


def balance_of(form: Form, trace: Trace, pairs: Sequence[Pair]) -> Balance:
    """What each side does over a whole form. pairs: those that it declares, and those that are proposed."""
    one = tuple(_one_side(trace, side) for side in SIDES)
    return Balance(one[0], one[1], float(trace.beats[1:].sum()), one_sided(form, trace, pairs))


def _one_side(trace: Trace, side: Side) -> OneSide:
    beats, share = trace.beats[1:], trace.shares[1:, side]
    air = trace.contacts[1:, side.other] == Contact.AIR
    kinds, turns = trace.move_kinds[1:, side], side.sign * trace.move_turns[1:, side]
    pivots = (kinds == PIVOT) & (np.abs(turns) > _TURN)
    before = trace.shares[:-1, side]
    chest = (np.diff(trace.torso) + 180.0) % 360.0 - 180.0
    stances: Counter[str] = Counter()
    named = ""
    for row in range(1, len(trace)):
        stance = recognised(trace.pose(row), trace.body, trace.ground.school)
        front = stance.front
        if stance.name == "one-leg":
            front = Side.LEFT if trace.shares[row, 0] > _LOADED else Side.RIGHT
        name = f"{stance.name} {front}" if stance.name and front is not None else ""
        # A stance that lasts over several counts is one.
        if name and name != named and front is side:
            stances[stance.name] += 1
        named = name or ("" if not stance.name else named)
    hands = [hand for _, hand in trace.of_kind(Hand)]
    return OneSide(
        load=float((beats * share).sum()),
        beats=float(beats[share > _LOADED + 1e-9].sum()),
        alone=float(beats[air & (share > 0.99)].sum()),
        one_leg=int((air & (share > 0.99)).sum()),
        steps=int((kinds == STEP).sum()),
        stances=dict(sorted(stances.items())),
        pivots_out=int((pivots & (turns > 0)).sum()),
        pivots_in=int((pivots & (turns < 0)).sum()),
        loaded=int((pivots & (np.maximum(before, share) > _LOADED)).sum()),
        turned=float(np.maximum(side.sign * chest, 0.0).sum()),
        pushes=sum(hand.side is side and hand.shape in ("push", "fist") for hand in hands),
        kicks=len({row for row, kick in trace.of_kind(Kick) if kick.side is side}),
    )


def one_sided(form: Form, trace: Trace, pairs: Sequence[Pair]) -> tuple[str, ...]:
    """Ids of the postures, in their order, that lean to one side and have no other side.

    One that repeats counts with that which it repeats. Only what steps, lifts, or turns a foot leans to a side.
    """
    first = {posture.id: posture.id for posture in form.postures}

    def root(name: str) -> str:
        while first[name] != name:
            name = first[name]
        return name

    for pair in pairs:
        if pair.kind == "repeat" and all(pair.whole):
            a, b = sorted((root(pair.posture), root(pair.other)), key=form.index)
            first[b] = a
    mirrored = {
        root(name) for pair in pairs if pair.kind == "mirror" and all(pair.whole) for name in (pair.posture, pair.other)
    }
    found = []
    for posture in form.postures:
        name = root(posture.id)
        if name == posture.id and name not in mirrored and _leans(trace, posture.id):
            found.append(posture.id)
    return tuple(found)


def _leans(trace: Trace, posture: str) -> bool:
    """Whether a posture does more on one side than on the other: steps, turns, or weight by a tenth."""
    start, stop = trace.span(posture)
    if start == stop:
        return False
    kinds = trace.move_kinds[start:stop]
    beats = trace.beats[start:stop]
    load = beats @ trace.shares[start:stop]
    uneven = abs(load[0] - load[1]) > 0.1 * beats.sum()
    return bool((kinds > 0).any()) and bool(((kinds > 0).sum(axis=0)[0] != (kinds > 0).sum(axis=0)[1]) or uneven)
