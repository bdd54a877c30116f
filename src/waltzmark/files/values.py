"""Reading single values of a document, so that each error has its place and says what to write instead."""

from __future__ import annotations

import math
from collections.abc import Iterable
from typing import Any

from waltzmark.core.base.errors import Position, WaltzmarkError, quoted
from waltzmark.core.base.messages import Message, Value, message
from waltzmark.core.base.records import Record
from waltzmark.core.base.units import as_float, read_length
from waltzmark.core.body.body import Sided
from waltzmark.core.score.facings import Facing
from waltzmark.core.score.read import read_facing
from waltzmark.core.score.words import nearest
from waltzmark.files.locate import Places

__all__ = ["NOWHERE", "DocumentError", "Notice", "Values", "place_of"]

NOWHERE = Position()


def place_of(place: Position) -> Message:
    """A place in what was read, to be told."""
    return message("file.place", key=place.key, line=place.line, column=place.column)


class DocumentError(WaltzmarkError):
    """A document that cannot be read: every problem found, each with its place."""

    def __init__(self, problems: Iterable[tuple[Position, Message]], name: str = "") -> None:
        self.problems, self.name = tuple(problems), name
        super().__init__("file.problems")

    @staticmethod
    def of(kind: str, place: Position = NOWHERE, name: str = "", **fields: Value) -> DocumentError:
        """The error of one problem."""
        return DocumentError(((place, message(kind, **fields)),), name)

    def __str__(self) -> str:
        return "; ".join(f"{place} {problem}" for place, problem in self.problems)

    @property
    def message(self) -> Message:
        """All of it; made when it is asked for, since the name may be known later."""
        told = tuple(message("file.problem", place=place_of(place), problem=each) for place, each in self.problems)
        return message("file.problems", name=self.name, problems=told)

    @message.setter
    def message(self, _: Message) -> None:
        pass


class Notice(Record):
    """Something in a document that was kept but not understood."""

    place: Position
    message: Message

    @property
    def told(self) -> Message:
        """It with its place."""
        return message("file.problem", place=place_of(self.place), problem=self.message)


class Values:
    """Reads values of one text, gathering problems and notices, so that all are told at once."""

    def __init__(self, text: str) -> None:
        self.places = Places(text)
        self.problems: list[tuple[Position, Message]] = []
        self.notices: list[Notice] = []
        self.within: dict[str, int | None] = {}  # which of several tables of a name is being read

    def fail(self, place: Position, kind: str | Message, **fields: Value) -> None:
        self.problems.append((place, kind if isinstance(kind, Message) else message(kind, **fields)))

    def note(self, place: Position, kind: str, **fields: Value) -> None:
        """Notes something that is kept but not understood."""
        self.notices.append(Notice(place, message(kind, **fields)))

    def place(self, table: str, key: str, index: int | None = None) -> Position:
        return self.places.key(table, key, self.within.get(table) if index is None else index)

    def unknown(self, table: str, key: str, known: tuple[str, ...], index: int | None = None) -> None:
        """Notes a key that is kept but not used."""
        hint = nearest(key, known) if len(key) <= 40 else None
        self.note(self.place(table, key, index), "file.unknown-key.meant" if hint else "file.unknown-key", hint=hint)

    def string(self, table: str, raw: dict[str, Any], key: str, index: int | None = None) -> str | None:
        value = raw.get(key)
        if value is None or isinstance(value, str):
            return value
        self.fail(self.place(table, key, index), "file.text", key=key)
        return None

    def number(
        self, table: str, raw: dict[str, Any], key: str, default: float, least: float, most: float, unit: str
    ) -> float:
        value = raw.get(key, default)
        if isinstance(value, str):
            try:
                value = float(value.removesuffix(unit))
            except ValueError:
                self.fail(self.place(table, key), "file.number.not", unit=unit, value=quoted(value))
                return default
        if isinstance(value, bool) or not isinstance(value, (int, float)):
            self.fail(self.place(table, key), "file.number", unit=unit)
            return default
        number = as_float(value)
        if not math.isfinite(number) or not least <= number <= most:
            self.fail(self.place(table, key), "file.range", value=quoted(value), unit=unit, least=least, most=most)
            return default
        return number

    def sided(
        self, table: str, raw: dict[str, Any], key: str, default: float, least: float, most: float, unit: str
    ) -> Sided:
        """A number for both sides, or a table of one for each: { left = 40, right = 45 }."""
        value = raw.get(key, default)
        if not isinstance(value, dict):
            return self.number(table, raw, key, default, least, most, unit)
        if set(value) != {"left", "right"}:
            self.fail(self.place(table, key), "file.sided", unit=unit)
            return default
        left, right = (self.number(table, {key: value[side]}, key, default, least, most, unit) for side in value)
        return (left, right) if list(value) == ["left", "right"] else (right, left)

    def choice(self, table: str, raw: dict[str, Any], key: str, choices: tuple[str, ...], default: str) -> str:
        value = self.string(table, raw, key)
        if value is None:
            return default
        if value not in choices:
            hint = nearest(value, choices)
            kind = "file.choice.meant" if hint else "file.choice"
            self.fail(
                self.place(table, key), kind, value=quoted(value), choices=tuple(filter(None, choices)), hint=hint
            )
            return default
        return value

    def length(self, table: str, raw: dict[str, Any], key: str, default: float, least: float, most: float) -> float:
        if key not in raw:
            return default
        try:
            return read_length(raw[key], least, most, key)
        except WaltzmarkError as error:
            self.fail(self.place(table, key), error.message)
            return default

    def facing(self, table: str, raw: dict[str, Any], key: str, index: int | None = None) -> Facing | None:
        """A facing in any way of saying it: by the clock, by the walker's own clock, by the compass."""
        value = self.string(table, raw, key, index)
        if value is None:
            return None
        found = read_facing(value)
        if found is None:
            self.fail(self.place(table, key, index), "file.facing", value=quoted(value))
        return found

    def point(self, value: object) -> tuple[float, float] | None:
        """A list of two numbers of metres within 1000; None when it is none."""
        if not isinstance(value, list) or len(value) != 2:
            return None
        if not all(isinstance(v, (int, float)) and not isinstance(v, bool) for v in value):
            return None
        x, y = (as_float(v) for v in value)
        if not all(math.isfinite(v) and abs(v) <= 1000.0 for v in (x, y)):
            return None
        return x, y
