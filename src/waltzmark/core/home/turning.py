"""Which single turn would make a form end in the facing it should."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection
from typing import Literal

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.home.ledger import home_heading
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock, Compass, Toward, Turn
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk

__all__ = ["Turning", "turned_forms"]

_MOST = 400  # turns that are tried
_OFFERED = 3
_LAST = 3  # postures whose facings on the floor are looked at
_CLOSED = 1.0  # degrees


#: What is turned: a facing that is written, or a turn by degrees.
Turned = Literal["facing", "turn"]


class Turning(Record):
    """One facing or turn that changes, in the posture that has the line; before, after: degrees.

    what: *facing* for one on the floor, *turn* for one from where the body is.
    """

    posture: str
    count: int
    what: Turned
    before: float
    after: float


def turned_forms(
    form: Form, trace: Trace, off: float, locked: Collection[str], progress: Progress = SILENT
) -> list[tuple[Form, tuple[Turning, ...]]]:
    """Forms that end in the right facing, each with one turn changed.

    The likeliest slip first: a turn that differs from others of its kind and then does not. off: degrees the end is
    off, clockwise positive.
    """
    tried: list[tuple[float, Form, Turning]] = []
    usual = _usual(form)
    target = home_heading(form, trace)
    last = {_root(form, posture) for posture in form.postures[-_LAST:]}
    places = [
        (posture.id, number, line, at, action)
        for posture in form.postures
        if posture.id not in locked
        for number, line in enumerate(posture.lines)
        for at, action in enumerate(line.actions)
        # A facing on the floor holds whatever was before it: only the last ones can be what is off.
        if _relative(action) or (posture.id in last and isinstance(action, (act.Pivot, act.Torso, act.Step)))
    ]
    for index, (name, number, line, at, action) in enumerate(places[-_MOST:]):
        progress.tell(0.3 * index / max(len(places), 1), "wrong-turn")
        for share in (1, 2, 3, 4):  # a source is walked several times
            made = _changed(action, -off / share)
            if made is None or (share > 1 and not _walked_again(form, name)):
                break
            changed, before, after, what = made
            actions = (*line.actions[:at], changed, *line.actions[at + 1 :])
            posture = form.posture(name)
            lines = (*posture.lines[:number], replace(line, actions=actions), *posture.lines[number + 1 :])
            other = form.with_posture(replace(posture, lines=lines))
            if abs(heading_difference(target, float(walk(other, trace).torso[-1]))) <= _CLOSED:
                count = sum(each.moves for each in posture.lines[: number + 1])
                likely = usual[abs(after)] - usual[abs(before)]
                tried.append((-likely, other, Turning(name, count, what, before, after)))
                break
    tried.sort(key=lambda each: each[0])
    return [(other, (turning,)) for _, other, turning in tried[:_OFFERED]]


def _relative(action: act.Action) -> bool:
    """Whether an action turns from where the body is."""
    if isinstance(action, act.Step):
        aim = action.toe
    elif isinstance(action, (act.Pivot, act.Torso)):
        aim = action.aim
    else:
        aim = None
    return isinstance(aim, (Turn, Toward)) or (isinstance(aim, Clock) and aim.own)


def _root(form: Form, posture: Posture) -> str:
    """The posture that has the lines of one."""
    while posture.source is not None:
        posture = form.posture(posture.source)
    return posture.id


def _walked_again(form: Form, name: str) -> bool:
    return any(posture.source == name for posture in form.postures)


def _usual(form: Form) -> Counter[float]:
    """How often each turn is written, degrees without their sign."""
    found: Counter[float] = Counter()
    for posture in form.postures:
        for line in form.lines(posture):
            for action in line.actions:
                if isinstance(action, (act.Pivot, act.Torso)) and isinstance(action.aim, (Turn, Toward)):
                    found[abs(action.aim.degrees)] += 1
    return found


def _changed(action: act.Action, by: float) -> tuple[act.Action, float, float, Turned] | None:
    """An action that turns by other degrees, with its figure before and after and what that is.

    By whole half hours of the clock where it names a facing. None where it turns nothing.
    """
    if isinstance(action, act.Step):
        aim = action.toe
    elif isinstance(action, (act.Pivot, act.Torso)):
        aim = action.aim
    else:
        return None
    what: Turned = "turn"
    if isinstance(aim, Turn):
        to = round((aim.degrees + by) * 2) / 2
        if abs(to) > 360.0:
            return None
        made: object = replace(aim, degrees=to)
        before, after = aim.degrees, to
    elif isinstance(aim, Toward):
        sign = 1.0 if aim.turn(action.side) > 0 else -1.0  # type: ignore[union-attr]
        to = round((aim.degrees + sign * by) * 2) / 2
        if not 0.0 <= to <= 180.0:
            return None  # nobody could write it
        made, before, after = replace(aim, degrees=to), aim.degrees, to
    elif isinstance(aim, Clock):
        before = aim.minutes / 2.0
        made = Clock(round((before + by) * 2.0) % 720, aim.own)
        after, what = made.minutes / 2.0, "turn" if aim.own else "facing"
    elif isinstance(aim, Compass):
        return None  # a compass point is meant
    else:
        return None
    if abs(heading_difference(before, after)) < 0.25:
        return None
    field = "toe" if isinstance(action, act.Step) else "aim"
    return replace(action, **{field: made}), before, after, what  # type: ignore[arg-type]
