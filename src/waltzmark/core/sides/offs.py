"""What one count does otherwise than another, as figures with their tolerances."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from waltzmark.core.base.angles import along_across, heading_difference, heading_differences
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.base.records import Record, field_names
from waltzmark.core.body.pose import Pose
from waltzmark.core.sides.deeds import CONTACT, PART, PLACE, TURN, Deeds
from waltzmark.core.sides.tolerance import Tolerance
from waltzmark.core.walk.ground import PIVOT, STEP, STILL, Move

__all__ = ["NOTHING", "Off", "off_between", "off_of_deeds"]

Both = tuple[float, float]  # the left foot's and the right foot's
_ZERO: Both = (0.0, 0.0)
_STILL = 1e-9


class Off(Record):
    """What one count does otherwise: the other's less the posture's, left and right being the posture's.

    ahead, aside: centimetres, where a foot lands from the other heel, ahead and to its own side, in the frame of the
    chest as the count begins; length, width: the same in the frame of the step's own facing, where it is longer and
    wider. heading: degrees clockwise on the posture's side, of each foot; torso: of the chest. weight: % on the left.
    contact, part: whether another part of a foot is on the floor, or a foot pivots on another; round: whether it pivots
    the other way round. sink, lean: degrees.
    """

    ahead: Both = _ZERO
    aside: Both = _ZERO
    length: Both = _ZERO
    width: Both = _ZERO
    heading: Both = _ZERO
    torso: float = 0.0
    weight: float = 0.0
    contact: tuple[bool, bool] = (False, False)
    part: tuple[bool, bool] = (False, False)
    sink: float = 0.0
    lean: float = 0.0
    round: tuple[bool, bool] = (False, False)

    def __add__(self, other: Off) -> Off:
        def both(mine: object, theirs: object) -> object:
            if isinstance(mine, tuple) and isinstance(theirs, tuple):
                return tuple(both(a, b) for a, b in zip(mine, theirs, strict=True))
            return mine or theirs if isinstance(mine, bool) else mine + theirs  # type: ignore[operator]

        return Off(*(both(getattr(self, name), getattr(other, name)) for name in field_names(self)))  # type: ignore[arg-type]

    def figures(self, within: Tolerance) -> dict[str, tuple[float, float, str]]:
        """Each figure by name: its value, how many times what it may be it is, and its unit."""
        found: dict[str, tuple[float, float, str]] = {}
        for side in SIDES:
            for name, values, most, unit in (
                ("ahead", self.ahead, within.cm, "cm"),
                ("aside", self.aside, within.cm, "cm"),
                ("heading", self.heading, within.degrees, "°"),
            ):
                found[f"{side.word}_{name}"] = values[side], abs(values[side]) / most, unit
        for name, value, most, unit in (
            ("torso", self.torso, within.degrees, "°"),
            ("weight", self.weight, within.percent, "%"),
            ("sink", self.sink, within.degrees, "°"),
            ("lean", self.lean, within.degrees, "°"),
        ):
            found[name] = value, abs(value) / most, unit
        for name, flags in (("contact", self.contact), ("part", self.part), ("round", self.round)):
            found[name] = float(any(flags)), 2.0 * any(flags), ""
        return found

    def worst(self, within: Tolerance) -> tuple[str, float, str, float]:
        """What is furthest beyond its tolerance: its name, value and unit, and how many times that is.

        Of a step it is the step as a whole: how much longer or wider it is, else how far off its place.
        """
        figures = self.figures(within)
        name = max(figures, key=lambda each: figures[each][1])
        value, off, unit = figures[name]
        if name.endswith(("_ahead", "_aside")):
            side = Side.LEFT if name.startswith("left") else Side.RIGHT
            name, value = self.stepped(side)
            name = f"{side.word}_{name}"
        return name, value, unit, off

    def stepped(self, side: Side) -> tuple[str, float]:
        """What is off about where a foot lands, and by how many centimetres.

        Its *length* or its *width* in the frame of the step, whichever is more, or its *place*, where neither says it.
        """
        length, width = self.length[side], self.width[side]
        apart = math.hypot(self.ahead[side], self.aside[side])
        if max(abs(length), abs(width)) < 0.5 * apart:
            return "place", apart
        return ("length", length) if abs(length) >= abs(width) else ("width", width)

    def same(self, within: Tolerance) -> bool:
        return self.worst(within)[3] <= 1.0 + _STILL

    @property
    def cost(self) -> float:
        """How unlike the two counts are, in the measure of `deeds.costs`."""
        places = sum(math.hypot(a, b) for a, b in zip(self.ahead, self.aside, strict=True)) / 100.0
        turns = sum(map(abs, (*self.heading, self.torso, self.sink, self.lean)))
        flags = CONTACT * sum(self.contact) + PART * (sum(self.part) + sum(self.round))
        return 0.5 * places / PLACE + 0.5 * turns / TURN + abs(self.weight) / 100.0 + flags

    def exchanged(self) -> Off:
        """What the mirror image does otherwise."""
        if self is NOTHING:
            return self

        def swap(pair: tuple[float, float]) -> Both:
            return pair[1], pair[0]

        def turn(pair: Both) -> Both:
            return -pair[1] + 0.0, -pair[0] + 0.0

        return Off(
            swap(self.ahead),
            swap(self.aside),
            swap(self.length),
            swap(self.width),
            turn(self.heading),
            -self.torso + 0.0,
            -self.weight + 0.0,
            self.contact[::-1],
            self.part[::-1],
            self.sink,
            self.lean,
            self.round[::-1],
        )


NOTHING = Off()
Moves = tuple[Move, ...]


def off_between(
    mine: Pose,
    theirs: Pose,
    before: tuple[Pose, Pose],
    moves: tuple[Moves, Moves] | None = None,
    parts: tuple[Sequence[str | None], Sequence[str | None]] = ((None, None), (None, None)),
    landed: bool = False,
) -> Off:
    """What a pose has otherwise, both in the same frame.

    before: the poses both counts began in; moves: of both counts; landed: both feet are looked at as if they had just
    been set down.
    """
    ahead, aside, length, width, heading = ([0.0, 0.0] for _ in range(5))
    contact, part, round_ = [False, False], [False, False], [False, False]
    for side in SIDES:
        kinds = (STILL.kind, STILL.kind) if moves is None else (moves[0][side].kind, moves[1][side].kind)
        a, b = mine.foot(side), theirs.foot(side)
        if landed or STEP in kinds:
            base = (mine, theirs) if landed else before
            feet = [(a, base[0].foot(side.other)), (b, base[1].foot(side.other))]
            for values, across, frame in (
                (ahead, aside, mine.torso if landed else before[0].torso),
                (length, width, mine.facing),
            ):
                ways = [along_across(foot.x - near.x, foot.y - near.y, frame) for foot, near in feet]
                along = [100.0 * float(way[0]) for way in ways]
                out = [100.0 * side.sign * float(way[1]) for way in ways]
                values[side] = abs(along[1]) - abs(along[0]) if values is length else along[1] - along[0]
                across[side] = out[1] - out[0]
        if moves is not None and kinds == (PIVOT, PIVOT):
            heading[side], round_[side] = _turns(moves[0][side].turn, moves[1][side].turn)
            part[side] = parts[0][side] != parts[1][side]
        else:
            heading[side] = heading_difference(a.heading, b.heading)
        on = moves is not None and kinds[0] != kinds[1] and min(kinds) > 0
        slid = moves is not None and kinds == (STEP, STEP) and moves[0][side].contact != moves[1][side].contact
        contact[side] = a.contact != b.contact or on or slid
    pairs = [(_tidy(pair[0]), _tidy(pair[1])) for pair in (ahead, aside, length, width, heading)]
    return Off(
        pairs[0],
        pairs[1],
        pairs[2],
        pairs[3],
        pairs[4],
        torso=_tidy(heading_difference(mine.torso, theirs.torso)),
        weight=_tidy(100.0 * (theirs.left_share - mine.left_share)),
        contact=(contact[0], contact[1]),
        part=(part[0], part[1]),
        sink=_tidy(theirs.sink - mine.sink),
        lean=_tidy(theirs.lean - mine.lean),
        round=(round_[0], round_[1]),
    )


def _turns(mine: float, theirs: float) -> tuple[float, bool]:
    """How much further clockwise a foot pivots, degrees, and whether the other way round.

    Then it is where it points in the end that is compared.
    """
    further = theirs - mine
    if mine * theirs < 0.0 and abs(further) > 180.0 - 1e-6:
        return heading_difference(0.0, further), True
    return further, False


def _tidy(value: float) -> float:
    """What is nothing but how numbers are stored is nothing."""
    return 0.0 if abs(value) < 1e-7 else value


def off_of_deeds(a: Deeds, b: Deeds, n: int) -> Off:
    """What count *n* of *b* does otherwise than that of *a*."""

    def pair(values: object) -> Both:
        left, right = (_tidy(float(each)) for each in values)  # type: ignore[attr-defined]
        return left, right

    def flags(values: object) -> tuple[bool, bool]:
        left, right = (bool(each) for each in values)  # type: ignore[attr-defined]
        return left, right

    places, sizes = 100.0 * (b.places[n] - a.places[n]), 100.0 * (b.sizes[n] - a.sizes[n])
    lengths = 100.0 * (np.abs(b.sizes[n, :, 0]) - np.abs(a.sizes[n, :, 0]))
    poured, acted, bent = a.poured[n] or b.poured[n], a.acted[n] | b.acted[n], a.bent[n] or b.bent[n]
    turned = [_turns(float(mine), float(theirs)) for mine, theirs in zip(a.headings[n], b.headings[n], strict=True)]
    pivots = (a.kinds[n] == PIVOT) & (b.kinds[n] == PIVOT)
    turns = np.array([turn for turn, _ in turned])
    landing = heading_differences(a.headings[n], b.headings[n])
    return Off(
        pair(places[:, 0]),
        pair(places[:, 1]),
        pair(lengths),
        pair(sizes[:, 1]),
        pair(np.where(pivots, turns, landing)),
        _tidy(heading_difference(float(a.torso[n]), float(b.torso[n]))),
        _tidy(100.0 * float(b.shares[n, 0] - a.shares[n, 0])) if poured else 0.0,
        flags(acted & (a.contacts[n] != b.contacts[n])),
        flags(a.parts[n] != b.parts[n]),
        _tidy(float(b.sinks[n] - a.sinks[n])) if bent else 0.0,
        _tidy(float(b.leans[n] - a.leans[n])) if bent else 0.0,
        flags(pivots & np.array([round_ for _, round_ in turned])),
    )
