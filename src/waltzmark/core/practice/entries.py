"""An entry of the practice book: what was done, on which side, and what was measured against what was planned."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Literal, get_args

from waltzmark.core.base.errors import WaltzmarkError, quoted
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.form import Form
from waltzmark.core.walk.trace import Trace

__all__ = [
    "KINDS",
    "OUTCOMES",
    "Entry",
    "EntryError",
    "Kind",
    "Outcome",
    "WhichSide",
    "now",
    "passage_words",
    "side_of",
    "sides_of_form",
]

Kind = Literal["walk", "drill", "recall", "scale", "turn", "step", "end", "note"]
Outcome = Literal["done", "off", "missed", "hurts"]
WhichSide = Literal["", "left", "right"]
KINDS: tuple[Kind, ...] = get_args(Kind)
OUTCOMES: tuple[Outcome, ...] = get_args(Outcome)
#: What an entry may have at most: characters of a text, and a figure.
_LONGEST, _MOST = 2000, 1e6
_TEXTS = "person", "form", "posture", "title", "what", "unit", "note"
_FIGURES = "heading", "reps", "minutes", "measured", "planned"
_PASSAGE, _BETWEEN = "postures ", ", "


class EntryError(WaltzmarkError):
    """Something that cannot be an entry."""


class Entry(Record):
    """One thing that was done.

    when: with its time zone. kind: of practice; person: whose; form, posture, title: the form's title, the posture's id
    and what it was called then, so that an entry stays what it was. side: which leg it was about; heading: degrees of
    the room that 12 o'clock faced; reps, minutes: how often and how long. what: the name of what was measured, such
    as ``pivot L`` or ``share``, or which postures a passage had, see `passage`; measured, planned: in *unit*, None
    where nothing was. outcome; note. id: in the store, 0 before it is kept.
    """

    when: datetime
    kind: Kind
    person: str = ""
    form: str = ""
    posture: str = ""
    title: str = ""
    side: WhichSide = ""
    heading: float = 0.0
    reps: int = 1
    minutes: float = 0.0
    what: str = ""
    measured: float | None = None
    planned: float | None = None
    unit: str = ""
    outcome: Outcome = "done"
    note: str = ""
    id: int = 0

    def __post_init__(self) -> None:
        if self.when.tzinfo is None:
            raise EntryError("entry.zone")
        if self.kind not in KINDS:
            raise EntryError("entry.kind", kind=quoted(self.kind), known=tuple(KINDS))
        if self.outcome not in OUTCOMES:
            raise EntryError("entry.outcome", outcome=quoted(self.outcome), known=tuple(OUTCOMES))
        if self.side not in ("", "left", "right"):
            raise EntryError("entry.side", side=quoted(self.side))
        texts = self.person, self.form, self.posture, self.title, self.what, self.unit, self.note
        if max(map(len, texts)) > _LONGEST:
            name = next(name for name, text in zip(_TEXTS, texts, strict=True) if len(text) > _LONGEST)
            raise EntryError("entry.long", name=name, most=_LONGEST)
        figures = self.heading, self.reps, self.minutes, self.measured, self.planned
        for name, value in zip(_FIGURES, figures, strict=True):
            if value is not None and not -_MOST < value < _MOST:  # which no nan is
                raise EntryError("entry.figure", name=name, value=quoted(value))
        if self.reps < 0 or self.minutes < 0:
            raise EntryError("entry.below")

    @property
    def off(self) -> float | None:
        """Measured less planned; None where one of them is missing."""
        return None if self.measured is None or self.planned is None else self.measured - self.planned

    @property
    def passage(self) -> tuple[str, ...]:
        """The ids of the postures it was about; none for a whole form, and for what is about none."""
        if self.kind in ("walk", "drill") and self.what.startswith(_PASSAGE):
            return tuple(self.what.removeprefix(_PASSAGE).split(_BETWEEN))
        return (self.posture,) if self.posture else ()

    @property
    def day(self) -> str:
        """The day it was done, where it was done, as YYYY-MM-DD."""
        return self.when.date().isoformat()

    def at(self, when: datetime) -> Entry:
        """The same done at another time."""
        return replace(self, when=when)


def passage_words(postures: Sequence[str]) -> str:
    """What an entry about several postures in a row says they were; empty for one, and for more than an entry holds."""
    words = _PASSAGE + _BETWEEN.join(postures)
    return words if len(postures) > 1 and len(words) <= _LONGEST else ""


def now() -> datetime:
    """The present time in the local time zone."""
    return datetime.now(UTC).astimezone()


def side_of(trace: Trace, posture: str) -> WhichSide:
    """The side that a posture is called by. Raises KeyError.

    That of the foot in front at its end, else of the one that acts more; empty where neither is told.
    """
    start, stop = trace.span(posture)
    if start == stop:
        return ""
    ahead = float(trace.apart[stop - 1, 0])
    if abs(ahead) > 0.1:
        return "right" if ahead > 0 else "left"
    acted = (trace.move_kinds[start:stop] > 0).sum(axis=0)
    if acted[0] != acted[1]:
        return "left" if acted[0] > acted[1] else "right"
    return ""


def sides_of_form(form: Form, trace: Trace) -> dict[str, WhichSide]:
    """The side of every posture; a mirror image has the other side of what it mirrors."""
    found: dict[str, WhichSide] = {}
    for posture in form.postures:
        found[posture.id] = side_of(trace, posture.id)
    for posture in form.postures:
        source = posture.mirror_of or posture.side_of
        if source is not None and found.get(source) and found[posture.id] in ("", found[source]):
            found[posture.id] = Side[found[source].upper()].other.word
    return found
