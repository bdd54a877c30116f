"""How often: a run of postures done once more, twice more, or once less, so that a form comes round.

A pass is some postures in a row that can be walked again at once: the stance they end in is the one they begin in, and
they end facing as they began. Doing them again moves all that follows by what they carry; so the end is a sum, and
every change of one run, and of two, is looked at.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Sequence
from typing import NamedTuple

import numpy as np

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.records import Record, replace
from waltzmark.core.edit.forms import fresh_id
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.walk.joins import Join, join_of
from waltzmark.core.walk.trace import Trace

__all__ = ["Passing", "fewer_forms", "passed_forms", "repeatable"]

#: Postures of a pass at the most, and how many times more it is done.
_LONGEST, _MORE = 4, 2
#: What the stance a pass ends in may differ by from the one it begins in: cm and degrees of either foot, % of weight.
_JOIN = (6.0, 10.0, 10.0)
_FACING = 1.0  # degrees that a pass may turn
_FORMS = 6  # that are offered to be walked
_RUN, _POSTURE = 0.10, 0.01  # metres nearer home that another run, and another posture, has to bring
_STILL = 0.02  # metres that a pass carries at the least


class Passing(Record):
    """A run that is done another number of times. postures: those of one pass; before, after: times."""

    postures: tuple[str, ...]
    before: int
    after: int


class _Choice(NamedTuple):
    """A run from one posture to another, done so many times more; times below 0: it is left out where it stands."""

    first: int
    last: int
    times: int


def _passes(form: Form, trace: Trace, spared: Collection[str]) -> list[tuple[int, int, Floats]]:
    """First and last posture of each run that can be walked again at once, and what it carries, metres."""
    found, keys = [], [_key(form, posture) for posture in form.postures]
    passages = trace.passages[1:]
    for first in range(len(passages)):
        for last in range(first, min(first + _LONGEST, len(passages))):
            one, other = passages[first].entry, passages[last].exit
            if form.postures[last].id in spared:
                break
            own = keys[first : last + 1]
            if _is_several(own) or keys[last + 1 : 2 * last - first + 2] == own:
                continue  # of a run that is done several times the last one stands for all
            if abs(heading_difference(one.torso, other.torso)) > _FACING or not _fits(join_of(other, one)):
                continue
            moves = np.array(other.midpoint) - np.array(one.midpoint)
            if math.hypot(*moves) >= _STILL:
                found.append((first, last, moves))
    return found


def _fits(join: Join) -> bool:
    own = (join.cm, join.degrees, join.percent)
    return all(each <= most + 1e-9 for each, most in zip(own, _JOIN, strict=True))


def repeatable(form: Form, trace: Trace) -> frozenset[str]:
    """The ids of postures that can be walked again at once."""
    return frozenset(form.postures[first].id for first, last, _ in _passes(form, trace, ()) if first == last)


def passed_forms(
    form: Form, trace: Trace, offset: Floats, spared: Collection[str]
) -> list[tuple[Form, tuple[Passing, ...], float]]:
    """Forms with one run or two done another number of times, nearest to home first.

    With how far they would end from it, metres; fewer changes first where they are equally near.

    Parameters
    ----------
    offset
        (2,) metres from home to the end.
    spared
        Postures that are left alone.
    """
    found = _changes(form, trace, offset, spared, (*range(1, _MORE + 1), -1, -2))
    # A second run that is changed has to be worth it, and so has each posture that comes or goes.
    found.sort(key=lambda each: each[0] + _RUN * (len(each[1]) - 1) + _POSTURE * _posts(each[1]))
    return [(*_made(form, made), left) for left, made in found[:_FORMS]]


def fewer_forms(form: Form, trace: Trace, within: float) -> list[tuple[Form, tuple[Passing, ...]]]:
    """Forms with one run or two done less often.

    Those first that end where the form ends, within so many metres, then those that leave out the fewest postures.
    """
    found = _changes(form, trace, np.zeros(2), (), (-1, -2))
    found.sort(key=lambda each: (each[0] > within, _posts(each[1]), each[0]))
    return [_made(form, made) for _, made in found]


def _changes(
    form: Form, trace: Trace, offset: Floats, spared: Collection[str], often: Sequence[int]
) -> list[tuple[float, tuple[_Choice, ...]]]:
    """The changes of one run, and of two, that end nearest to a place, with how far from it.

    The end (2,) is *offset* from it now, metres. often: how many times more, or, negative, less.
    """
    choices: list[_Choice] = []
    moves: list[Floats] = []
    for first, last, carried in _passes(form, trace, spared):
        for times in often:
            if times < 0 and not _can_go(form, first, last, -times):
                continue
            choices.append(_Choice(first, last, times))
            moves.append(times * carried)
    if not choices:
        return []
    ends = np.array(offset) + np.array(moves)  # (m, 2)
    singles = np.hypot(*ends.T)
    found: list[tuple[float, tuple[_Choice, ...]]]
    found = [(float(singles[n]), (choices[n],)) for n in np.argsort(singles, kind="stable")[:_FORMS].tolist()]
    both = np.hypot(ends[:, None, 0] + np.array(moves)[None, :, 0], ends[:, None, 1] + np.array(moves)[None, :, 1])
    # Two runs that do not lie over each other, each pair once.
    firsts = np.array([each.first + min(each.times + 1, 0) * (each.last - each.first + 1) for each in choices])
    lasts = np.array([each.last for each in choices])
    both[lasts[:, None] >= firsts[None, :]] = np.inf
    for n in np.argsort(both, axis=None, kind="stable")[:_FORMS].tolist():
        one, other = divmod(int(n), len(choices))
        if np.isfinite(both[one, other]):
            found.append((float(both[one, other]), (choices[one], choices[other])))
    return found


def _posts(choices: tuple[_Choice, ...]) -> int:
    """Postures that are put in or left out."""
    return sum(abs(each.times) * (each.last - each.first + 1) for each in choices)


def _key(form: Form, posture: Posture) -> tuple[object, ...]:
    """What tells postures apart that are walked otherwise: the lines, and how they are turned over."""
    over: list[object] = []
    while posture.source is not None:
        over.append(posture.axis if posture.mirror_of is not None else posture.turned)
        posture = form.posture(posture.source)
    return posture.lines, tuple(each for each in over if each != 0.0)


def _is_several(keys: Sequence[object]) -> bool:
    """Whether a run is a shorter one done several times."""
    size = len(keys)
    return any(size % part == 0 and all(keys[n] == keys[n % part] for n in range(size)) for part in range(1, size))


def _can_go(form: Form, first: int, last: int, times: int) -> bool:
    """Whether a run, and those before it that are like it, can be left out so often.

    One of them stays right before, and nothing that stays takes its counts from what goes.
    """
    size = last - first + 1
    keys = [_key(form, posture) for posture in form.postures]
    own, before = keys[first : last + 1], first - size * times
    if before < 0 or any(keys[before + size * n : before + size * (n + 1)] != own for n in range(times)):
        return False
    going = {posture.id for posture in form.postures[first - size * (times - 1) : last + 1]}
    return all(posture.source not in going for posture in form.postures if posture.id not in going)


def _times(form: Form, first: int, last: int) -> int:
    """How many times in a row a run is done where it stands."""
    size, keys = last - first + 1, [_key(form, posture) for posture in form.postures]
    own, number = keys[first : last + 1], 1
    for step in (-size, size):
        at = first + step
        while at >= 0 and keys[at : at + size] == own:
            number, at = number + 1, at + step
    return number


def _made(form: Form, choices: tuple[_Choice, ...]) -> tuple[Form, tuple[Passing, ...]]:
    """The form with some runs done another number of times."""
    passings = []
    made = form
    for choice in sorted(choices, key=lambda each: -each.first):  # from behind, so that numbers stay
        run = form.postures[choice.first : choice.last + 1]
        times = _times(form, choice.first, choice.last)
        passings.append(Passing(tuple(_named(form, posture) for posture in run), times, times + choice.times))
        if choice.times < 0:
            first = choice.first + (choice.times + 1) * len(run)
            kept = (*made.postures[:first], *made.postures[choice.last + 1 :])
            gone = {posture.id for posture in made.postures[first : choice.last + 1]}
            made = replace(made, postures=tuple(replace(p, side_of=None) if p.side_of in gone else p for p in kept))
            continue
        for _ in range(choice.times):
            at = choice.last + 1
            for posture in reversed(run):
                made = replace(made, postures=(*made.postures[:at], _again(made, posture), *made.postures[at:]))
    return made, tuple(reversed(passings))


def _named(form: Form, posture: Posture) -> str:
    """The id of the posture that a repeat repeats."""
    while posture.repeat_of is not None and not posture.turned:
        posture = form.posture(posture.repeat_of)
    return posture.id


def _again(form: Form, posture: Posture) -> Posture:
    """A posture once more, which takes its counts from the same source."""
    again = replace(posture, id=fresh_id(form, f"{posture.id} again"), note="", side_of=None)
    return again if posture.source is not None else replace(again, lines=(), repeat_of=posture.id)
