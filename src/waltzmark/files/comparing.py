"""Sides and comparisons as plain JSON values, in centimetres, degrees and % of the weight."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, cast

from waltzmark.core.base.leftright import Side
from waltzmark.core.sides.balance import Balance, OneSide
from waltzmark.core.sides.beside import Beside
from waltzmark.core.sides.differences import CountPair
from waltzmark.core.sides.forms import FormsCompared
from waltzmark.core.sides.offs import Off
from waltzmark.core.sides.pairs import Pair
from waltzmark.files.printed import BesideFeet, CompareAnswer, EntryOffs, OneSideDoes, PairCompared, SidesAnswer, Worst
from waltzmark.files.report import tidy
from waltzmark.words.figures import PLAIN
from waltzmark.words.sentences import sentence

__all__ = ["compare_values", "sides_values"]


def sides_values(pairs: Sequence[Pair], balance: Balance) -> SidesAnswer:
    """The pairs of a form, declared and proposed, and how even both sides are."""
    return {
        "pairs": [_pair(pair) for pair in pairs],
        "balance": {"left": _one_side(balance.left), "right": _one_side(balance.right)},
    }


def _pair(pair: Pair) -> PairCompared:
    compared, (posture, other) = pair.compared, pair.names
    axis = compared.fold.axis
    return {
        "posture": posture,
        "other": other,
        "kind": pair.kind,
        "declared": pair.declared,
        "same": pair.same,
        "axis": None if axis is None else tidy(axis),
        "cause": pair.cause,
        "entry": _off(compared.entry),
        "worst": _worst(pair),
        "counts": [
            {"count": each.count, "other": each.other, **_off(each.off), "beside": [_beside(b) for b in each.beside]}
            for each in compared.counts
        ],
        "likeness": round(compared.likeness, 4),
    }


def _off(off: Off) -> EntryOffs:
    left, right = Side.LEFT, Side.RIGHT
    return {
        "left_ahead": tidy(off.ahead[left]),
        "left_aside": tidy(off.aside[left]),
        "right_ahead": tidy(off.ahead[right]),
        "right_aside": tidy(off.aside[right]),
        "left_heading": tidy(off.heading[left]),
        "right_heading": tidy(off.heading[right]),
        "torso": tidy(off.torso),
        "weight": tidy(off.weight),
        "contact": any(off.contact),
        "part": any(off.part),
        "round": any(off.round),
        "sink": tidy(off.sink),
        "lean": tidy(off.lean),
    }


def _worst(pair: Pair) -> Worst | None:
    worst = pair.worst
    if worst is None:
        return None
    count = worst.count if worst.count is not None else worst.other
    assert count is not None
    if worst.lone:
        return {"count": count, "what": "count", "by": _lone(worst), "unit": "count"}
    if worst.feet_same(pair.compared.within):
        first = worst.beside[0]
        side = "" if first.side is None else f"{first.side.word}_"
        return {"count": count, "what": f"{side}{first.topic}", "by": 1.0, "unit": ""}
    what, by, unit, _ = worst.off.worst(pair.compared.within)
    return {"count": count, "what": what, "by": tidy(by), "unit": cast(Literal["cm", "°", "%"], unit)}


def _beside(beside: Beside) -> BesideFeet:
    return {"what": beside.topic, "side": None if beside.side is None else beside.side.word}


def _lone(pair: CountPair) -> int:
    """Counts the other has more."""
    return 1 if pair.count is None else -1


def _one_side(side: OneSide) -> OneSideDoes:
    return {
        "load": tidy(side.load),
        "beats": tidy(side.beats),
        "alone": tidy(side.alone),
        "one_leg": side.one_leg,
        "steps": side.steps,
        "stances": dict(side.stances),
        "pivots_out": side.pivots_out,
        "pivots_in": side.pivots_in,
        "loaded_pivots": side.loaded,
        "turned": tidy(side.turned),
        "pushes": side.pushes,
        "kicks": side.kicks,
    }


def compare_values(found: FormsCompared) -> CompareAnswer:
    """Two forms beside each other."""
    figures = PLAIN.of(found.forms[0])
    return {
        "form": [sentence(each.message, figures) for each in found.whole],
        "postures": [
            {
                "a": two.a,
                "b": two.b,
                "likeness": two.likeness,
                "differences": [sentence(each.message, figures) for each in two.differences],
            }
            for two in found.postures
        ],
    }
