"""What the book says: what was done when, how measures go against their plan, left against right, what to do next."""

from __future__ import annotations

import statistics
from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from datetime import date, datetime

from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.core.practice.entries import Entry, WhichSide

__all__ = ["Advice", "OfSide", "Series", "Worked", "about", "advice", "calendar", "left_right", "series_of", "worked"]

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


class Worked(Record):
    """What was done of a posture on a side.

    Repetitions, minutes, how many *entries* about it alone were missed or off, and when last.
    """

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


def about(entry: Entry, form: Form | None) -> tuple[str, ...]:
    """The postures that an entry of practice is about: of a walk of the whole *form* all of them."""
    if entry.kind not in _PRACTISED:
        return ()
    if entry.kind == "walk" and not entry.posture and form is not None and entry.form == form.title:
        return tuple(posture.id for posture in form.postures)
    return entry.passage


def worked(entries: Iterable[Entry], form: Form | None = None) -> tuple[Worked, ...]:
    """By posture and side, what was done last first.

    What was done of several postures in a row counts for each of them, its minutes in equal shares; what was missed in
    it is not known of any. form: whose walks as a whole count.
    """
    groups: dict[tuple[str, str, WhichSide], list[tuple[Entry, int]]] = defaultdict(list)
    for each in entries:
        postures = about(each, form)
        for posture in postures:
            groups[each.form, posture, each.side].append((each, len(postures)))
    titles = {} if form is None else {posture.id: posture.title for posture in form.postures}
    found = []
    for (of, posture, side), group in groups.items():
        alone = [each for each, many in group if many == 1]
        title = max(alone, key=lambda e: (e.when, e.id)).title if alone else ""
        if form is not None and of == form.title and posture in titles:
            title = titles[posture]
        found.append(
            Worked(
                posture,
                title or posture,
                side,
                sum(e.reps for e, _ in group),
                sum(e.minutes / many for e, many in group),
                sum(e.outcome in ("off", "missed") for e in alone),
                len(alone),
                max(e.when for e, _ in group),
            )
        )
    return tuple(sorted(found, key=lambda each: each.last, reverse=True))


class Series(Record):
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
        found.append(
            Series(
                what,
                unit,
                tuple(e.when for e in group),
                tuple(float(e.measured or 0.0) for e in group),
                tuple(e.planned for e in group),
            )
        )
    return tuple(sorted(found, key=lambda each: (-len(each.measured), each.what)))


class OfSide(Record):
    """What was done on one side: repetitions, minutes, entries, and how many of these were missed or off."""

    reps: int = 0
    minutes: float = 0.0
    entries: int = 0
    missed: int = 0

    @property
    def missing(self) -> float:
        """The share of entries that were missed or off."""
        return self.missed / self.entries if self.entries else 0.0


def left_right(entries: Iterable[Entry]) -> Mapping[WhichSide, OfSide]:
    """What was done on each side."""
    found: dict[WhichSide, OfSide] = {"left": OfSide(), "right": OfSide()}
    for each in entries:
        if each.side in found:
            was, missed = found[each.side], each.outcome in ("off", "missed")
            found[each.side] = OfSide(
                was.reps + each.reps, was.minutes + each.minutes, was.entries + 1, was.missed + missed
            )
    return found


class Advice(Record):
    """What to do next, and why. posture: its id, empty where it is about none."""

    posture: str
    what: Message
    why: Message


def advice(form: Form, entries: Sequence[Entry], today: date) -> tuple[Advice, ...]:
    """What to do next of a form, at most one of each kind.

    What hurt first, then what is most missed, the weaker side, what was longest not done, and what was never done.
    """
    own = [each for each in entries if each.form == form.title]
    titles = {posture.id: posture.title for posture in form.postures}
    found: list[Advice] = []
    last_hurt = max((e for e in own if e.outcome == "hurts"), key=lambda e: e.when, default=None)
    if last_hurt is not None and (today - last_hurt.when.date()).days < _LONG:
        name = titles.get(last_hurt.posture, last_hurt.title)
        found.append(
            Advice(
                last_hurt.posture if last_hurt.posture in titles else "",
                message("advice.rest", title=name) if name else message("advice.rest.it"),
                message("advice.hurt", day=last_hurt.day),
            )
        )
    done = [each for each in worked(own, form) if each.posture in titles]
    often = [each for each in done if each.entries >= _OFTEN and each.missing > 0]
    if often:
        most = max(often, key=lambda each: (each.missing, each.missed))
        kind = f"advice.posture.{most.side}" if most.side else "advice.posture"
        why = message("advice.missed", missed=most.missed, entries=most.entries)
        found.append(Advice(most.posture, message(kind, title=titles[most.posture]), why))
    sides = left_right(each for each in own if each.kind in _PRACTISED)
    left, right = sides["left"], sides["right"]
    if min(left.entries, right.entries) >= _OFTEN and abs(left.missing - right.missing) > _WEAK:
        weak = "left" if left.missing > right.missing else "right"
        worse, better = sorted((100 * left.missing, 100 * right.missing), reverse=True)
        why = message("advice.weaker", here=worse, there=better)
        found.append(Advice("", message(f"advice.side.{weak}"), why))
    elif left.reps + right.reps >= 2 * _OFTEN and min(left.reps, right.reps) < _OFTEN:
        less = "left" if left.reps < right.reps else "right"
        why = message("advice.less", n=min(left.reps, right.reps), other=max(left.reps, right.reps))
        found.append(Advice("", message(f"advice.side.{less}"), why))
    last: dict[str, datetime] = {}
    for each in done:
        last[each.posture] = max(each.last, last.get(each.posture, each.last))
    if last:
        oldest = min(last, key=lambda name: last[name])
        days = (today - last[oldest].date()).days
        if days >= _LONG:
            why = message("advice.long-ago", n=days)
            found.append(Advice(oldest, message("advice.posture", title=titles[oldest]), why))
    never = [posture.id for posture in form.postures if posture.id not in last]
    if never:
        why = message("advice.never") if len(never) == 1 else message("advice.never.others", n=len(never) - 1)
        found.append(Advice(never[0], message("advice.posture", title=titles[never[0]]), why))
    return tuple(found)
