"""Edits of a form: functions from a form to a new one, which shares what did not change.

Nothing written is lost by an edit: postures that take their counts from one that is cut up or taken out keep
those counts as their own. All raise FormError when the parts would not fit together.
"""

from __future__ import annotations

import re
from collections.abc import Iterable

from waltzmark.core.base.errors import FormError
from waltzmark.core.base.messages import Message
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.school.school import School
from waltzmark.core.score.actions import Count, Faced, Step
from waltzmark.core.score.facings import Facing
from waltzmark.core.score.read import read_line
from waltzmark.core.score.write import write_count

__all__ = [
    "add_posture",
    "changed_posture",
    "delete_posture",
    "detached",
    "duplicate_posture",
    "fresh_id",
    "insert_lines",
    "join_postures",
    "judged_by",
    "move_lines",
    "move_posture",
    "other_side",
    "remove_lines",
    "repeated",
    "replace_lines",
    "split_posture",
    "without_followers",
]


def fresh_id(form: Form, name: str) -> str:
    """An id made of a name's words that no posture of the form has yet."""
    base = "-".join(re.findall(r"[a-z0-9]+", name.lower())) or "posture"
    taken = {posture.id for posture in form.postures}
    number, candidate = 1, base
    while candidate in taken:
        number += 1
        candidate = f"{base}-{number}"
    return candidate


# Lines of a posture. Positions count all its lines, from 0: counts, expectations and notes.


def _own(form: Form, posture_id: str) -> Posture:
    posture = form.posture(posture_id)
    if posture.source is not None:
        source = form.posture(posture.source).title
        raise FormError("edit.counts-elsewhere", title=posture.title, source=source)
    return posture


def insert_lines(form: Form, posture_id: str, at: int, lines: Iterable[Count]) -> Form:
    """Puts lines before the one at a position; at the number of lines, after the last."""
    posture = _own(form, posture_id)
    return form.with_posture(replace(posture, lines=(*posture.lines[:at], *lines, *posture.lines[at:])))


def replace_lines(form: Form, posture_id: str, start: int, stop: int, lines: Iterable[Count]) -> Form:
    """Exchanges the lines from *start* up to *stop* for others."""
    posture = _own(form, posture_id)
    return form.with_posture(replace(posture, lines=(*posture.lines[:start], *lines, *posture.lines[stop:])))


def remove_lines(form: Form, posture_id: str, start: int, stop: int) -> Form:
    """Takes the lines from *start* up to *stop* out."""
    return replace_lines(form, posture_id, start, stop, ())


def move_lines(form: Form, posture_id: str, start: int, stop: int, by: int) -> Form:
    """Moves the lines from *start* up to *stop* up (negative) or down within their posture, as far as it goes."""
    posture = _own(form, posture_id)
    moved, rest = posture.lines[start:stop], (*posture.lines[:start], *posture.lines[stop:])
    at = min(max(start + by, 0), len(rest))
    return form.with_posture(replace(posture, lines=(*rest[:at], *moved, *rest[at:])))


# Whole postures.


def add_posture(form: Form, at: int, posture: Posture) -> Form:
    """Puts a posture before the one at a position."""
    return replace(form, postures=(*form.postures[:at], posture, *form.postures[at:]))


def changed_posture(form: Form, posture_id: str, **changes: object) -> Form:
    """Changes fields of a posture; with a new ``id``, those that refer to it follow."""
    posture = replace(form.posture(posture_id), **changes)  # type: ignore[arg-type]

    def followed(other: Posture) -> Posture:
        if other.id == posture_id:
            return posture
        names = {key: posture.id for key in ("mirror_of", "repeat_of", "side_of") if getattr(other, key) == posture_id}
        return replace(other, **names) if names and posture.id != posture_id else other  # type: ignore[arg-type]

    return replace(form, postures=tuple(followed(other) for other in form.postures))


def detached(form: Form, posture_id: str, walked: tuple[Count, ...] | None = None) -> Form:
    """Turns a reference into plain counts, with the facing it ends in.

    walked: its lines as walked, which have floor positions where they were stepped on; else as written.
    """
    posture = form.posture(posture_id)
    if posture.source is None:
        return form
    lines = form.lines(posture) if walked is None else walked
    side_of = posture.side_of or posture.mirror_of  # it still means to be the other side
    own = replace(
        posture,
        lines=lines,
        ends=form.ends(posture),
        side_of=side_of,
        mirror_of=None,
        axis=None,
        repeat_of=None,
        turned=0.0,
    )
    return form.with_posture(own)


def without_followers(form: Form, posture_id: str) -> Form:
    """The form with every posture that takes its counts from this one given them for its own."""
    for other in form.postures:
        if other.source == posture_id:
            form = detached(form, other.id)
    return form


def delete_posture(form: Form, posture_id: str) -> Form:
    """Takes a posture out. What others took from it becomes their own."""
    form = without_followers(form, posture_id)
    kept = (replace(p, side_of=None) if p.side_of == posture_id else p for p in form.postures if p.id != posture_id)
    return replace(form, postures=tuple(kept))


def move_posture(form: Form, posture_id: str, by: int) -> Form:
    """Moves a posture up (negative) or down, as far as it goes."""
    posture, at = form.posture(posture_id), form.index(posture_id)
    rest = tuple(p for p in form.postures if p.id != posture_id)
    to = min(max(at + by, 0), len(rest))
    return replace(form, postures=(*rest[:to], posture, *rest[to:]))


def _second(posture: Posture) -> str:
    """What a posture made of another is called where nobody says."""
    return f"{posture.title} 2"


def duplicate_posture(form: Form, posture_id: str, name: str = "") -> Form:
    """Puts a copy after a posture, with an id and a name of its own."""
    posture = form.posture(posture_id)
    copy = replace(posture, id=fresh_id(form, posture.id), name=name or _second(posture))
    return add_posture(form, form.index(posture_id) + 1, copy)


def split_posture(form: Form, posture_id: str, at: int, name: str = "") -> Form:
    """Makes two postures of one: the lines from a position on become a new one after it, which takes its end.

    name: of the new one; its number after the name of the other where none is given.
    """
    posture = _own(form, posture_id)
    if not 0 < at < len(posture.lines):
        raise FormError("edit.split", title=posture.title)
    form = without_followers(form, posture_id)
    first = replace(posture, lines=posture.lines[:at], ends=None)
    second = Posture(fresh_id(form, posture.id), name or _second(posture), posture.lines[at:], posture.ends)
    return add_posture(form.with_posture(first), form.index(posture_id) + 1, second)


def join_postures(form: Form, posture_id: str) -> Form:
    """Joins a posture with the one after it, which gives its end."""
    at = form.index(posture_id)
    if at + 1 == len(form.postures):
        raise FormError("edit.join", title=form.posture(posture_id).title)
    after = form.postures[at + 1].id
    for each in (after, posture_id):
        form = without_followers(detached(form, each), each)
    first, second = form.posture(posture_id), form.posture(after)
    joined = replace(first, lines=first.lines + second.lines, ends=second.ends)
    return delete_posture(form.with_posture(joined), after)


def other_side(form: Form, posture_id: str, axis: Facing, name: str = "") -> Form:
    """Puts the other side of a posture after it, under a name: mirrored about a line of that facing."""
    posture = form.posture(posture_id)
    mirror = Posture(
        fresh_id(form, f"{posture.id} other side"), name or _second(posture), mirror_of=posture_id, axis=axis
    )
    return add_posture(form, form.index(posture_id) + 1, mirror)


def repeated(form: Form, posture_id: str, turned: float = 0.0, name: str = "") -> Form:
    """Puts a repeat of a posture after it, under a name, turned clockwise by whole or half degrees."""
    posture = form.posture(posture_id)
    again = Posture(
        fresh_id(form, f"{posture.id} again"), name or _second(posture), repeat_of=posture_id, turned=turned
    )
    return add_posture(form, form.index(posture_id) + 1, again)


# The school, which says what stances there are.


def judged_by(form: Form, school: School) -> Form:
    """The form under another school.

    Counts with a stance that this school has not are kept as text with that error, and text that it can read becomes
    counts: the form is what reading its file under that school would give.
    """
    stances = school.stance_names

    def read(line: Count) -> Count:
        if line.unread is None and stances.issuperset(_stances(line)):
            return line
        found = read_line(write_count(line), stances)
        # Unread lines of the same text are equal; their advice need not be, for it names the stances there are.
        return line if found == line and _advice(found) == _advice(line) else found

    postures = []
    for posture in form.postures:
        lines = tuple(read(line) for line in posture.lines)
        same = all(new is old for new, old in zip(lines, posture.lines, strict=True))
        postures.append(posture if same else replace(posture, lines=lines))
    return replace(form, school=school, postures=tuple(postures))


def _advice(line: Count) -> Message | None:
    return line.unread.advice if line.unread is not None else None


def _stances(line: Count) -> set[str]:
    places = (action.place for action in line.actions if isinstance(action, Step))
    return {place.stance for place in places if isinstance(place, Faced) and place.stance}
