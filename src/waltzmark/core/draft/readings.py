"""Other readings of a drafted count: what else the words can mean where something of it was not said."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from waltzmark.core.base.leftright import Contact
from waltzmark.core.base.records import replace
from waltzmark.core.draft.slots import Slot
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Toward, Turn

__all__ = ["readings"]

#: Readings that are offered at most.
_MOST = 5
#: Shares that are poured where nobody says how much, %; degrees that a foot or the body turns.
_SHARES = (100.0, 70.0, 80.0, 50.0)
_DEGREES = (45.0, 90.0, 30.0)


def readings(count: act.Count, slots: Iterable[Slot]) -> tuple[act.Count, ...]:
    """What else a count can be, the likeliest first.

    Parameters
    ----------
    count
        As it was drafted.
    slots
        Where its parts are from: what was said stays.

    Returns
    -------
    tuple of Count
        None of them the count itself.
    """
    open_slots = {slot.what for slot in slots if slot.how in ("given", "chosen", "doubtful")}
    found: list[act.Count] = []
    for at, action in enumerate(count.actions):
        for other in _others(action, open_slots):
            actions = (*count.actions[:at], other, *count.actions[at + 1 :])
            made = replace(count, actions=actions)
            if made != count and made not in found:
                found.append(made)
    return tuple(found[:_MOST])


def _others(action: act.Action, left: set[str]) -> Iterator[act.Action]:
    """An action with something else where nothing was said."""
    if isinstance(action, act.Step):
        yield from _steps(action, left)
    elif isinstance(action, act.Shift) and action.side is not None:
        if "share" in left:
            yield from (replace(action, percent=share) for share in _SHARES)
        if "foot" in left:
            yield replace(action, side=action.side.other)
    elif isinstance(action, act.Pivot):
        if "angle" in left and isinstance(action.aim, Toward):
            yield replace(action, aim=Toward(not action.aim.inward, action.aim.degrees))
            yield from (replace(action, aim=Toward(action.aim.inward, degrees)) for degrees in _DEGREES)
        if "foot" in left:
            yield replace(action, side=action.side.other)
        if "part" in left:
            yield replace(action, part="ball" if action.part == "heel" else "heel")
    elif isinstance(action, act.Torso) and isinstance(action.aim, Turn) and "turn" in left:
        sign = 1.0 if action.aim.degrees > 0 else -1.0
        yield from (replace(action, aim=Turn(sign * degrees)) for degrees in _DEGREES)
    elif isinstance(action, (act.Land, act.Lift)) and "foot" in left:
        yield replace(action, side=action.side.other)


def _steps(action: act.Step, left: set[str]) -> Iterator[act.Action]:
    place = action.place
    if isinstance(place, act.Faced):
        if "stance" in left:
            yield from (replace(action, place=replace(place, stance=stance)) for stance in ("empty-heel", "empty-ball"))
        if left & {"way", "stance"}:
            for manner in ("side", "back"):
                yield replace(action, place=replace(place, manner=manner, stance=None))
            yield replace(action, place=act.Beside())
    elif "place" in left:
        yield replace(action, land=Contact.BALL if action.land is not Contact.BALL else Contact.FLAT)
    if "foot" in left:
        yield replace(action, side=action.side.other)
