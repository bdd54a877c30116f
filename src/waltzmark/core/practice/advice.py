"""What the book says: what was done when, how measures go against their plan, left against right, what to do next."""

from __future__ import annotations

import statistics
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from datetime import date, datetime

from waltzmark.core.base.records import record
from waltzmark.core.form.form import Form
from waltzmark.core.practice.entries import Entry, WhichSide

__all__ = ["Advice", "Series", "Worked", "advice", "calendar", "left_right", "series_of", "worked"]

_PRACTISED = ("walk", "drill", "recall", "scale", "turn")
_LONG = 7  # days after which a posture is long not done
_OFTEN = 3  # entries before what is missed counts
_WEAK = 0.15  # how much more one side misses before it is called weaker


def calendar(entries: Iterable[Entry]) -> dict[str, tuple[float, int]]:
    """Of each day its minutes and repetitions."""
    found: dict[str, tuple[float, int]] = {}
    for each in entries:
        minutes, reps = found.get(each.day, (0.0, 0))
        found[each.day] = minutes + each.minutes, reps + each.reps
    return dict(sorted(found.items()))


@record
class Worked:
    """What was done of a posture on a side: repetitions, minutes, how many were missed or off, and when last."""

    posture: str
    title: str
    side: WhichSide
    reps: int
    minutes: float
    missed: int
    entries: int
    last: datetime

    @property
    def missing(self) -> float:
        """The share of entries that were missed or off."""
        return self.missed / self.entries if self.entries else 0.0


def worked(entries: Iterable[Entry]) -> tuple[Worked, ...]:
    """By posture and side, what was done last first."""
    groups: dict[tuple[str, WhichSide], list[Entry]] = defaultdict(list)
    for each in entries:
        if each.posture and each.kind in _PRACTISED:
            groups[each.posture, each.side].append(each)
    found = [
        Worked(
            posture, max(each, key=lambda e: (e.when, e.id)).title, side, sum(e.reps for e in each),
            sum(e.minutes for e in each), sum(e.outcome in ("off", "missed") for e in each), len(each),
            max(e.when for e in each),
        )
        for (posture, side), each in groups.items()
    ]  # fmt: skip
    return tuple(sorted(found, key=lambda each: each.last, reverse=True))


@record
class Series:
    """One measure over time: days, what was measured each time, and what was planned."""

    what: str
    unit: str
    when: tuple[datetime, ...]
    measured: tuple[float, ...]
    planned: tuple[float | None, ...]

    @property
    def spread(self) -> float:
        """The standard deviation of the measures; 0 of one."""
        return statistics.stdev(self.measured) if len(self.measured) > 1 else 0.0

    @property
    def mean(self) -> float:
        return statistics.fmean(self.measured)


def series_of(entries: Iterable[Entry]) -> tuple[Series, ...]:
    """Every measure there is, with the most entries first; each in one unit."""
    groups: dict[tuple[str, str], list[Entry]] = defaultdict(list)
    for each in entries:
        if each.measured is not None:
            name = f"{each.title}: {each.what}" if each.title and each.kind != "turn" else each.what or each.kind
            groups[name, each.unit].append(each)
    found = []
    for (what, unit), group in groups.items():
        group.sort(key=lambda each: (each.when, each.id))
        found.append(Series(
            what, unit, tuple(e.when for e in group), tuple(float(e.measured or 0.0) for e in group),
            tuple(e.planned for e in group),
        ))  # fmt: skip
    return tuple(sorted(found, key=lambda each: (-len(each.measured), each.what)))


def left_right(entries: Iterable[Entry]) -> Mapping[WhichSide, tuple[int, float, int]]:
    """Of each side its repetitions, minutes, and how many entries were missed or off."""
    found: dict[WhichSide, tuple[int, float, int]] = {"left": (0, 0.0, 0), "right": (0, 0.0, 0)}
    for each in entries:
        if each.side in found:
            reps, minutes, missed = found[each.side]
            found[each.side] = reps + each.reps, minutes + each.minutes, missed + (each.outcome in ("off", "missed"))
    return found


@record
class Advice:
    """What to do next, and why. posture: its id, empty where it is about none."""

    posture: str
    words: str
    why: str


def advice(form: Form, entries: Sequence[Entry], today: date) -> tuple[Advice, ...]:
    """What to do next of a form: what hurt first, then what is most missed, the weaker side, what was longest not done,
    and what was never done; at most one of each kind."""
    own = [each for each in entries if each.form == form.title]
    titles = {posture.id: posture.title for posture in form.postures}
    found: list[Advice] = []
    last_hurt = max((e for e in own if e.outcome == "hurts"), key=lambda e: e.when, default=None)
    if last_hurt is not None and (today - last_hurt.when.date()).days < _LONG:
        name = titles.get(last_hurt.posture, last_hurt.title)
        found.append(Advice(
            last_hurt.posture if last_hurt.posture in titles else "", f"Leave {name or 'it'} be, and ask about it",
            f"it hurt on {last_hurt.day}; a physician or physiotherapist knows more",
        ))  # fmt: skip
    done = [each for each in worked(own) if each.posture in titles]
    often = [each for each in done if each.entries >= _OFTEN and each.missing > 0]
    if often:
        most = max(often, key=lambda each: (each.missing, each.missed))
        side = f" ({most.side} side)" if most.side else ""
        found.append(Advice(
            most.posture, f"{titles[most.posture]}{side}", f"missed or off in {most.missed} of {most.entries}"
        ))  # fmt: skip
    sides = left_right(own)
    (left_reps, _, left_missed), (right_reps, _, right_missed) = sides["left"], sides["right"]
    if left_reps >= _OFTEN and right_reps >= _OFTEN:
        apart = left_missed / left_reps - right_missed / right_reps
        if abs(apart) > _WEAK:
            weak = "left" if apart > 0 else "right"
            found.append(
                Advice("", f"The {weak} side", f"it misses {100 * abs(apart):.0f} % more often than the other")
            )
    elif left_reps + right_reps >= 2 * _OFTEN:
        less = "left" if left_reps < right_reps else "right"
        found.append(Advice("", f"The {less} side", f"{min(left_reps, right_reps)} repetitions against "
                                                   f"{max(left_reps, right_reps)}"))  # fmt: skip
    last: dict[str, datetime] = {}
    for each in done:
        last[each.posture] = max(each.last, last.get(each.posture, each.last))
    if last:
        oldest = min(last, key=lambda name: last[name])
        days = (today - last[oldest].date()).days
        if days >= _LONG:
            found.append(Advice(oldest, titles[oldest], f"not done for {days} days"))
    never = [posture.id for posture in form.postures if posture.id not in last]
    if never:
        why = "never done yet" if len(never) == 1 else f"never done yet, nor are {len(never) - 1} others"
        found.append(Advice(never[0], titles[never[0]], why))
    return tuple(found)
