"""The whole score as one text that can be edited: a heading line for each posture, its counts below it.

```
posture cast-right ends 12: Cast the line, right
note: learnt on the jetty
shift R 80, torso 12
step R 12 bow

posture cast-left mirror of cast-right axis 12: Cast the line, left
posture cast-again repeat of cast-right turned -90: Cast the line, again
posture lean-right side of lean-left: Lean on the pole, right
```

``read_score_text(write_score_text(form), form)`` gives the same postures. A count that cannot be read is kept as it was
typed.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field

from waltzmark.core.base.errors import FormError, quoted
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import Record, replace
from waltzmark.core.base.units import number_text
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.score.actions import Count
from waltzmark.core.score.read import read_facing, read_line
from waltzmark.core.score.words import nearest
from waltzmark.core.score.write import write_aim, write_count

__all__ = ["Mistake", "ReadScore", "heading_of", "read_score_text", "write_score_text"]

_ID = r'(?:[^\s:"]+|"[^"\n]*")'
_HEADING = re.compile(
    rf"posture\s+(?P<id>{_ID})(?P<words>[^:\n]*(?::\d\d[^:\n]*)*):(?!\d\d\b)(?P<name>.*)", re.IGNORECASE
)
_BEGINS = re.compile(r"posture\b", re.IGNORECASE)
_NOTE = re.compile(r"note:[ \t]?(.*)", re.IGNORECASE)
_WORDS = re.compile(
    rf"\s*(?:(?P<kind>mirror|repeat|side)\s+of\s+(?P<of>{_ID})|(?P<key>axis|ends|turned)\s+(?P<value>\S+))",
    re.IGNORECASE,
)
_KEPT = "\\"  # before a line that would read as something else


class Mistake(Record):
    """What cannot be read in a text: line from 0, column from 1, how many characters, and the remedy."""

    line: int
    column: int
    length: int
    advice: Message


class ReadScore(Record):
    """A score text that was read.

    form: None when a heading cannot be read or postures do not fit together. places: posture and line of each line of
    the text, the line -1 for a heading or a note; None for an empty line.
    """

    form: Form | None
    mistakes: tuple[Mistake, ...]
    places: tuple[tuple[str, int] | None, ...]


def _quoted(posture_id: str) -> str:
    return posture_id if re.fullmatch(r'[^\s:"]+', posture_id) else '"' + posture_id.replace('"', "'") + '"'


def heading_of(posture: Posture) -> str:
    """The heading line of a posture."""
    words = ["posture", _quoted(posture.id)]
    for kind, of in (("mirror", posture.mirror_of), ("repeat", posture.repeat_of), ("side", posture.side_of)):
        if of is not None:
            words += [kind, "of", _quoted(of)]
    if posture.axis is not None:
        words += ["axis", write_aim(posture.axis)]
    if posture.turned:
        words += ["turned", number_text(posture.turned)]
    if posture.ends is not None:
        words += ["ends", write_aim(posture.ends)]
    return f"{' '.join(words)}: {posture.name}".rstrip()


def _line(count: Count) -> str:
    text = write_count(count)
    other = text.startswith(_KEPT) or _BEGINS.match(text) or _NOTE.match(text)
    return _KEPT + text if other else text


def write_score_text(form: Form) -> str:
    """The postures of a form as one text."""
    parts: list[str] = []
    for posture in form.postures:
        lines = [heading_of(posture)]
        lines += [f"note: {each}".rstrip() for each in (posture.note.split("\n") if posture.note is not None else ())]
        lines += [_line(count) for count in posture.lines]
        parts.append("\n".join(lines))
    return "\n\n".join(parts) + ("\n" if parts else "")


@dataclass
class _Open:
    """A posture being read."""

    posture: Posture
    notes: list[str] = field(default_factory=list)
    lines: list[Count] = field(default_factory=list)

    def closed(self) -> Posture:
        note = "\n".join(self.notes) if self.notes else None
        return replace(self.posture, note=note, lines=tuple(self.lines))


def read_score_text(text: str, base: Form) -> ReadScore:
    """The form that a score text says, with everything but the postures taken from *base*.

    Lines that have not changed stay the very same values, so that only what changed is walked again.
    """
    stances = base.school.stance_names
    mistakes: list[Mistake] = []
    found: list[_Open] = []
    places: list[tuple[str, int] | None] = []
    whole = True
    for number, written in enumerate(text.split("\n")):
        line = written.strip()
        indent = len(written) - len(written.lstrip())
        if not line:
            places.append(None)
            continue
        if _BEGINS.match(line):
            posture, mistake = _heading(line, number, indent)
            if mistake is not None:
                mistakes.append(mistake)
            if posture is not None:
                found.append(_Open(posture))
            whole = whole and posture is not None
            places.append((posture.id, -1) if posture is not None else None)
            continue
        if not found:
            found.append(_Open(Posture("first", "First posture")))
        current = found[-1]
        note = _NOTE.match(line)
        if note and not current.lines:
            current.notes.append(note[1])
            places.append((current.posture.id, -1))
            continue
        line = line.removeprefix(_KEPT)
        count = read_line(line, stances)
        if (unread := count.unread) is not None:
            mistakes.append(Mistake(number, indent + unread.column, unread.length, unread.advice))
        places.append((current.posture.id, len(current.lines)))
        current.lines.append(count)
    old = {posture.id: posture for posture in base.postures}
    if not whole:
        return ReadScore(None, tuple(mistakes), tuple(places))
    postures = tuple(_shared(each.closed(), old) for each in found)
    try:
        return ReadScore(replace(base, postures=postures), tuple(mistakes), tuple(places))
    except FormError as error:
        named = dict(error.message.fields).get("posture")
        at = next((n for n, place in enumerate(places) if place and place[1] == -1 and place[0] == named), 0)
        mistakes.append(Mistake(at, 1, len(text.split("\n")[at]) or 1, error.message))
        return ReadScore(None, tuple(mistakes), tuple(places))


def _shared(posture: Posture, old: dict[str, Posture]) -> Posture:
    """The old value where it says the same."""
    before = old.get(posture.id)
    if before is None:
        return posture
    if before == posture:
        return before
    return replace(posture, lines=before.lines) if before.lines == posture.lines else posture


def _heading(line: str, number: int, indent: int) -> tuple[Posture | None, Mistake | None]:
    """The posture of a heading line, or what is wrong with it."""
    match = _HEADING.fullmatch(line)
    if match is None:
        return None, Mistake(number, indent + 1, len(line), message("score.heading"))
    values: dict[str, object] = {"id": match["id"].strip('"'), "name": match["name"].strip()}
    at = match.start("words")
    words = line[at : match.end("words")]
    place = 0
    while words[place:].strip():
        one = _WORDS.match(words, place)
        start = place + len(words[place:]) - len(words[place:].lstrip())
        if one is None:
            word = words[start:].split()[0]
            return None, Mistake(number, indent + at + start + 1, len(word), _unknown(word))
        if one["kind"]:
            values[f"{one['kind'].lower()}_of"] = one["of"].strip('"')
        else:
            key, said = one["key"].lower(), one["value"]
            values[key] = _turn(said) if key == "turned" else read_facing(said)
            if values[key] is None:
                advice = message("score.no-turn" if key == "turned" else "score.no-facing", value=quoted(said))
                return None, Mistake(number, indent + at + one.start("value") + 1, len(said), advice)
        place = one.end()
    return Posture(**values), None  # type: ignore[arg-type]


def _unknown(word: str) -> Message:
    choices = ("mirror of", "repeat of", "side of", "axis", "turned", "ends")
    hint, problem = nearest(word, choices), message("score.misplaced", word=quoted(word))
    if hint:
        return message("score.meant", problem=problem, suggestion=hint)
    return message("score.expected", problem=problem, expected=choices)


def _turn(text: str) -> float | None:
    try:
        value = float(text.removesuffix("°"))
    except ValueError:
        return None
    return value if -360.0 <= value <= 360.0 and value * 2 == round(value * 2) else None
