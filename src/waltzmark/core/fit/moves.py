"""What may be done about something that a body is cautioned for: the moves that mends know, and others like them."""

from __future__ import annotations

import math
from collections.abc import Iterator

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.leftright import Contact
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.fit.depths import BY_DEPTH, depth_moves
from waltzmark.core.fit.lengths import length_moves
from waltzmark.core.fit.lines import Lines
from waltzmark.core.fit.move import Kind, Move
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.registry import Case
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Toward, Turn

__all__ = ["moves_for"]

#: What each mend is a change of, and how soon it is tried among those of its kind.
_MENDS: dict[str, tuple[Kind, float]] = {
    "mend.shorten": ("length", 0.4),
    "mend.size": ("length", 0.5),
    "mend.widen": ("length", 0.5),
    "mend.narrow": ("length", 0.5),
    "mend.sink": ("depth", 0.3),
    "mend.sink-for-step": ("depth", 0.9),
    "mend.rise": ("depth", 0.3),
    "mend.turn-and-push": ("turn", 0.2),
    "mend.turn-in": ("turn", 0.5),
    "mend.half-step": ("turn", 0.9),
    "mend.open": ("turn", 0.7),
    "mend.rear-foot": ("turn", 0.6),
    "mend.turn-first": ("pour", 0.3),
    "mend.sit-back": ("pour", 0.5),
    "mend.one-by-one": ("pour", 0.8),
    "mend.shift-first": ("pour", 0.8),
    "mend.chest-to": ("waist", 0.2),
    "mend.chest-late": ("waist", 0.3),
    "mend.chest-in-two": ("waist", 0.4),
    "mend.follow": ("waist", 0.6),
    "mend.upright": ("waist", 0.1),
    "mend.turn-toward-kick": ("way", 0.7),
    "mend.own-way": ("way", 0.1),
}
#: Rules that a shorter step may help.
_BY_LENGTH = frozenset(
    {
        "step.reach", "step.drag", "stance.long", "stance.overlap", "stance.low-held", "step.swing", "knee.one-leg",
        "knee.deep", "knee.ankle", "knee.past-toe", "knee.inward", "knee.rising", "hip.range", "balance.left",
    }
)  # fmt: skip
_BY_TURN = frozenset({"pivot.hip-range", "pivot.far", "hip.range", "knee.inward"})
_ONE_LEG = frozenset({"balance.one-leg", "knee.one-leg", "kick.across", "balance.left"})
_HEIGHTS: tuple[act.KickHeight, ...] = ("ankle", "knee", "hip", "waist", "chest", "head")
#: A foot carries all from this share on.
_ALL = 0.98
_HALF = 0.5  # degrees: what an angle is written to


def moves_for(case: Case, usual: Case, finding: Finding, row: int, was: int | None) -> list[Move]:
    """The moves for a finding at a row, in the order they are to be tried within each kind.

    Parameters
    ----------
    case
        The form as it now is, walked by the other body; the finding is in it.
    usual
        The form as written, walked by the body that it was written for.
    was
        The row of the same line there; None where there is none.
    """
    found: list[Move] = []
    for mend in finding.mends:
        kind, rank = _MENDS.get(mend.does.kind, ("way", 0.9))
        found.append(Move(kind, rank, mend.does, mend))
    rule = finding.rule
    if rule in _BY_LENGTH:
        found += length_moves(case, usual, row, was)
    if rule in BY_DEPTH:
        found += depth_moves(case, finding, row)
    if rule in _BY_TURN:
        found += _turned_less(case, finding, row)
    if rule == "hip.range":
        found += _turned_later(case, finding, row)
    if rule.startswith("pivot.") or rule == "weight.loaded-lift":
        found += _poured_back(case, finding, row)
    if rule in _ONE_LEG:
        found += _other_ways(case, row)
    return sorted(found, key=lambda move: (case.form.school.price(move.kind), move.rank))


def _turned_less(case: Case, finding: Finding, row: int) -> Iterator[Move]:
    """A foot turned only as far as its hip gives.

    What is missing is made up by its next turn once it carries, where that is said as so many degrees.
    """
    lines, side = Lines.at(case, row), finding.side
    if lines is None or side is None or finding.measured is None or finding.limit is None:
        return
    pivot, step = case.count(row).one(act.Pivot, side), case.count(row).one(act.Step, side)
    missing = finding.measured - finding.limit
    turn = float(case.trace.move_turns[row, side])
    can = math.floor((abs(turn) - missing) / _HALF) * _HALF
    if can < 1.0:
        return
    does = message("mend.turn-in" if (turn > 0) == (side == 0) else "mend.turn-less", turn=can)
    if pivot is not None:
        aim = Toward((turn > 0) == (side == 0), can)
        less = case.count(row).exchanged(pivot, replace(pivot, aim=aim, sense=None))
        rest = abs(turn) - can
        for at in range(row + 1, lines.after):
            push = case.count(at).one(act.Pivot, side)
            if push is None:
                continue
            if isinstance(push.aim, Toward | Turn):
                same = (float(case.trace.move_turns[at, side]) > 0) == (turn > 0)
                if not same:
                    break
                more = case.count(at).exchanged(push, replace(push, aim=_more(push.aim, rest)))
                told = message("mend.turn-and-push", turn=can, rest=rest)
                yield Move("turn", 0.1, told, lines.mend(told, {row: (less,), at: (more,)}))
            else:
                yield Move("turn", 0.1, does, lines.mend(does, {row: (less,)}))  # the push goes to where it went
            break
        yield Move("turn", 0.6, does, lines.mend(does, {row: (less,)}))
        # A push under all the weight goes only so far; what is left is carried on.
        most = math.floor(min(rest, case.limit("pivot.loaded", "angle")) / _HALF) * _HALF
        full = [at for at in range(row + 1, lines.after) if float(case.trace.shares[at, side]) >= _ALL]
        if full and most >= 1.0 and most < rest - 1e-6:
            told = message("mend.turn-and-push", turn=can, rest=most)
            push_out = act.Count((act.Pivot(side, "ball", Toward((turn > 0) == (side == 0), most)),))
            later = (case.count(full[0]), push_out)
            yield Move("turn", 0.4, told, lines.mend(told, {row: (less,), full[0]: later}))
    elif step is not None and isinstance(step.toe, Toward | Turn):
        less = case.count(row).exchanged(step, replace(step, toe=_more(step.toe, -missing)))
        yield Move("turn", 0.6, does, lines.mend(does, {row: (less,)}))


def _turned_later(case: Case, finding: Finding, row: int) -> Iterator[Move]:
    """The chest turned here only as far as it goes, and the rest of the way in the next count, or in one of its own."""
    lines, torso = Lines.at(case, row), case.count(row).one(act.Torso)
    if lines is None or torso is None or finding.measured is None or finding.limit is None:
        return
    begun, end = (float(case.trace.torso[at]) for at in (row - 1, row))
    turn = heading_difference(begun, end)
    part = abs(turn) - (finding.measured - finding.limit)
    if part < 0.0:
        return
    here = case.count(row).exchanged(torso, act.Torso(Clock.at(begun + math.copysign(part, turn)), torso.when))
    does, rest = message("fit.chest-later"), act.Torso(Clock.at(end))
    if row + 1 < lines.after and case.count(row + 1).one(act.Torso) is None:
        after = (case.count(row + 1).with_more(rest),)
        yield Move("waist", 0.35, does, lines.mend(does, {row: (here,), row + 1: after}))
    yield Move("waist", 0.5, does, lines.mend(does, {row: (here, act.Count((rest,)))}))


def _more(aim: Toward | Turn, degrees: float) -> Toward | Turn:
    """A turn by so many degrees more, the way it goes."""
    if isinstance(aim, Toward):
        return Toward(aim.inward, round((aim.degrees + degrees) / _HALF) * _HALF)
    way = -1.0 if aim.degrees < 0 else 1.0
    return Turn(way * round((abs(aim.degrees) + degrees) / _HALF) * _HALF)


def _poured_back(case: Case, finding: Finding, row: int) -> Iterator[Move]:
    """More weight poured off the foot that turns: in the shift that comes before, where one does."""
    lines, side = Lines.at(case, row), finding.side
    if lines is None or side is None:
        return
    limit = finding.limit if finding.unit == "%" and finding.limit is not None else case.limit("pivot.loaded", "load")
    deep = 100.0 - case.limit("pivot.sit-back", "share")
    for number, most in enumerate(dict.fromkeys((min(limit, 100.0), min(limit, deep), 0.0))):
        does = message("fit.pour", share=100.0 - most, foot=side.other)
        before = case.count(row - 1).one(act.Shift) if row - 1 >= lines.first else None
        if before is not None and case.count(row).one(act.Shift) is None:
            poured = case.count(row - 1).exchanged(before, act.Shift(side.other, 100.0 - most))
            yield Move("pour", 0.1 + 0.1 * number, does, lines.mend(does, {row - 1: (poured,)}))
        if case.count(row).one(act.Shift) is None:
            put_in = (act.Count((act.Shift(side.other, 100.0 - most),)), case.count(row))
            yield Move("pour", 0.4 + 0.1 * number, does, lines.mend(does, {row: put_in}))


def _other_ways(case: Case, row: int) -> Iterator[Move]:
    """What is done on one leg done another way: the kick lower, a knee lifted instead, the toe left down, a support."""
    if not case.form.body.support:
        yield Move("way", 0.5, message("fit.support"), None)
    lines = Lines.at(case, row)
    if lines is None:
        return
    for at in range(row, lines.first - 1, -1):
        count = case.count(at)
        kick, lift = count.one(act.Kick), count.one(act.Lift)
        if kick is not None:
            height = _HEIGHTS.index(kick.height)
            for lower in reversed(_HEIGHTS[:height]):
                does = message("fit.kick-lower", height=lower)
                changed = count.exchanged(kick, replace(kick, height=lower))
                yield Move(
                    "way", 0.1 + 0.05 * (height - _HEIGHTS.index(lower)), does, lines.mend(does, {at: (changed,)})
                )
            does = message("fit.knee-lift")
            yield Move("way", 0.4, does, lines.mend(does, {at: (count.exchanged(kick, act.Lift(kick.side, True)),)}))
        elif lift is not None:
            does = message("fit.toe-down")
            down = act.Land(lift.side, Contact.BALL)
            yield Move("way", 0.6, does, lines.mend(does, {at: (count.exchanged(lift, down),)}))
        if kick is not None or lift is not None:
            return
