"""Other lengths for the steps of a form: written where they were left to a stance, the rest of the step kept."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Literal

from waltzmark.core.base.angles import mirrored
from waltzmark.core.base.records import Record, replace
from waltzmark.core.base.units import METRES, Length
from waltzmark.core.body.pose import rest_of
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score import actions as act
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.lengths import Measure, Measures, scaled_spots
from waltzmark.core.walk.trace import Trace

__all__ = ["Resize", "mirrored_form", "resized", "scaled"]


class Resize(Record):
    """One length that changes. count: its number in the posture that has the line; before, after: metres."""

    posture: str
    count: int
    what: Literal["length", "width", "gap", "distance"]
    before: float
    after: float

    @property
    def by(self) -> float:
        """Metres, without its sign."""
        return abs(self.after - self.before)


def resized(form: Form, measures: Measures, lengths: Mapping[Measure, float]) -> tuple[Form, tuple[Resize, ...]]:
    """The form with other lengths for some measures, metres, and what that changes; to a tenth of a millimetre."""
    changes: list[Resize] = []
    lines: dict[str, list[act.Count]] = {}
    known = {(m.posture, m.line, m.action, m.what): m for m in measures.every}
    for measure, metres in lengths.items():
        if abs(metres - measure.value) < 5e-5:
            continue
        own = lines.setdefault(measure.posture, list(form.posture(measure.posture).lines))
        line = own[measure.line]
        step = line.actions[measure.action]
        assert isinstance(step, act.Step)
        both = tuple(known.get((measure.posture, measure.line, measure.action, what)) for what in ("length", "width"))
        place = _placed(form, step.place, measure, metres, both)
        actions = list(line.actions)
        actions[measure.action] = replace(step, place=place)
        own[measure.line] = replace(line, actions=tuple(actions))
        changes.append(Resize(measure.posture, measure.count, measure.what, measure.value, metres))
    if not changes:
        return form, ()
    postures = tuple(
        replace(posture, lines=tuple(lines[posture.id])) if posture.id in lines else posture
        for posture in form.postures
    )
    return replace(form, postures=postures), tuple(changes)


def scaled(form: Form, trace: Trace, measures: Measures, factor: float) -> tuple[Form, tuple[Resize, ...]]:
    """The form with all lengths of steps changed by one factor, and what that changes.

    With the widths of those to the side, and steps to places on the floor among them.
    """
    lengths = {m: m.value * factor for m in measures.every if m.what in ("length", "distance") or m.aside}
    changed, changes = resized(form, measures, lengths)
    for (posture, line, action), to in scaled_spots(form, trace, lengths, factor).items():
        own = changed.posture(posture)
        lines = list(own.lines)
        step = lines[line].actions[action]
        assert isinstance(step, act.Step)
        actions = list(lines[line].actions)
        actions[action] = replace(step, place=act.Spot(to.x, to.y))
        lines[line] = replace(lines[line], actions=tuple(actions))
        changed = changed.with_posture(replace(own, lines=tuple(lines)))
        changes = (*changes, Resize(posture, to.number, "length", to.before, to.after))
    return changed, changes


def _placed(
    form: Form, place: act.Place, measure: Measure, metres: float, both: tuple[Measure | None, ...]
) -> act.Place:
    """The place of a step with one length changed.

    Length and width of a step to a facing are written together, as walked; *both*: those measures, where it has them.
    """
    if isinstance(place, act.Faced):
        length, width = place.length, place.width
        if measure.what == "width":
            width = _length(metres, width)
        else:
            length = _length(metres, length)
        if length is None and place.manner != "side":
            length = _length(both[0].value, None) if both[0] is not None else None
        if width is None:
            stance = form.school.stances.get(place.stance or ("cross" if place.manner == "cross" else "bow"))
            usual = stance.width_metres(form.body) if stance is not None else 0.0
            width = _length(both[1].value if both[1] is not None else usual, None)
        return replace(place, length=length, width=width)
    if isinstance(place, act.Beside):
        return replace(place, gap=_length(metres, place.gap))
    assert isinstance(place, act.Mark)
    return replace(place, distance=_length(metres, place.distance))


def _length(metres: float, like: Length | None) -> Length:
    """A length in the unit that was written, where that is one of no body; else centimetres."""
    unit = like.unit if like is not None and like.unit in METRES else "cm"
    return Length(round(metres / METRES[unit], 2 if unit == "cm" else 4), unit)


def mirrored_form(form: Form) -> Form:
    """The whole form walked as its own other side.

    Left and right are exchanged about 12 o'clock, in the names of its postures too; home lies where the mirror shows
    it.
    """

    def other(posture: Posture) -> Posture:
        axis = posture.axis
        if axis is not None:
            axis = Clock.at(mirrored(axis.heading(0.0, form.twelve), 0.0))
        ends = posture.ends.mirrored(0.0, form.twelve) if posture.ends is not None else None
        lines = tuple(line.mirrored(0.0, form.twelve) for line in posture.lines)
        return replace(
            posture,
            name=_exchanged(posture.name),
            lines=lines,
            ends=ends,
            axis=axis,
            turned=-posture.turned if posture.turned else 0.0,
        )

    opening = form.opening
    if opening.feet is not None:
        left, right = opening.feet
        feet = (
            right._replace(x=-right.x, heading=mirrored(right.heading, 0.0)),
            left._replace(x=-left.x, heading=mirrored(left.heading, 0.0)),
        )
        opening = replace(opening, feet=feet, left_share=float(rest_of(opening.left_share)))
    home = form.home
    facing = home.facing.mirrored(0.0, form.twelve) if home.facing is not None else None
    home = replace(home, place=(-home.place[0] + 0.0, home.place[1]), facing=facing)
    postures = tuple(other(posture) for posture in form.postures)
    return replace(form, opening=opening, postures=postures, home=home)


def _exchanged(name: str) -> str:
    """A name with left and right exchanged, as words of their own."""
    return re.sub(r"\b(left|right)\b", _other_word, name, flags=re.IGNORECASE)


def _other_word(found: re.Match[str]) -> str:
    word = found.group()
    other = "right" if word.lower() == "left" else "left"
    if word.isupper():
        return other.upper()
    if word[0].isupper():
        return other.capitalize()
    return other
