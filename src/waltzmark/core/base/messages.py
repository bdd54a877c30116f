"""What the program has to say, as values: a kind and its fields. `waltzmark.words` makes sentences of them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Union

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record

__all__ = ["Change", "Heading", "Message", "Value", "message", "plain"]


class Heading(Record):
    """A direction over the floor, degrees clockwise from 12 o'clock; torso: where 12 of the walker's own clock lies."""

    degrees: float
    torso: float | None = None


class Change(Record):
    """A figure before and after, both in the unit of its field."""

    before: float
    after: float


class Message(Record):
    """A kind, such as ``knee.past-toe``, and what its sentence speaks of, each by its name."""

    kind: str
    fields: tuple[tuple[str, Value], ...] = ()

    def __str__(self) -> str:
        """For whoever looks for a fault; nobody else sees it."""
        return f"{self.kind}({', '.join(f'{name}={value}' for name, value in self.fields)})"

    def __getitem__(self, name: str) -> Value:
        return dict(self.fields)[name]


Value = Union[None, bool, int, float, str, Side, Contact, Heading, Change, Message, tuple["Value", ...]]  # noqa: UP007


def message(kind: str, /, **fields: Value) -> Message:
    """A message of a kind.

    >>> message("step.shorten", length=0.4)["length"]
    0.4
    """
    return Message(kind, tuple(fields.items()))


def plain(value: Value) -> object:
    """A field or a message as it stands in JSON: sides and contacts by their names, headings in degrees."""
    if isinstance(value, (Side, Contact)):
        return value.word
    if isinstance(value, Heading):
        return round(value.degrees, 6) + 0.0
    if isinstance(value, Change):
        return {"before": plain(value.before), "after": plain(value.after)}
    if isinstance(value, Message):
        return {"kind": value.kind, "fields": fields(value.fields)}
    if isinstance(value, tuple):
        return [plain(each) for each in value]
    if isinstance(value, float):
        return round(value, 6) + 0.0 if abs(value) < float("inf") else None
    return value


def fields(named: tuple[tuple[str, Value], ...]) -> Mapping[str, object]:
    """Fields as they stand in JSON."""
    return {name: plain(value) for name, value in named}
