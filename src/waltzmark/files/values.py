"""Reading single values of a document, so that each error has its place and says what to write instead."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from waltzmark.core.base.errors import Position, WaltzmarkError, shown
from waltzmark.core.base.records import record
from waltzmark.core.base.units import as_float, read_length
from waltzmark.core.body.body import Sided
from waltzmark.core.score.facings import Facing
from waltzmark.core.score.read import read_facing
from waltzmark.core.score.words import nearest
from waltzmark.files.locate import Places

__all__ = ["DocumentError", "Notice", "Values"]


@dataclass(eq=False)
class DocumentError(WaltzmarkError):
    """A document that cannot be read: every problem found, each with its place."""

    problems: tuple[tuple[Position, str], ...]
    name: str = ""

    def __str__(self) -> str:
        lines = [f"{place}: {words}" if str(place) else words for place, words in self.problems]
        head = f"{self.name}: " if self.name else ""
        return head + ("\n".join(lines) if len(lines) == 1 else f"{len(lines)} problems\n" + "\n".join(lines))


@record
class Notice:
    """Something in a document that was kept but not understood."""

    place: Position
    words: str

    def __str__(self) -> str:
        return f"{self.place}: {self.words}"


class Values:
    """Reads values of one text, gathering problems and notices, so that all are told at once."""

    def __init__(self, text: str) -> None:
        self.places = Places(text)
        self.problems: list[tuple[Position, str]] = []
        self.notices: list[Notice] = []

    def fail(self, place: Position, words: str) -> None:
        self.problems.append((place, words))

    def place(self, table: str, key: str, index: int | None = None) -> Position:
        return self.places.key(table, key, index)

    def unknown(self, table: str, key: str, known: tuple[str, ...], index: int | None = None) -> None:
        """Notes a key that is kept but not used."""
        hint = nearest(key, known) if len(key) <= 40 else None
        words = "unknown key, kept but not used" + (f"; did you mean {hint}?" if hint else "")
        self.notices.append(Notice(self.place(table, key, index), words))

    def string(self, table: str, raw: dict[str, Any], key: str, index: int | None = None) -> str | None:
        value = raw.get(key)
        if value is None or isinstance(value, str):
            return value
        self.fail(self.place(table, key, index), f'should be text in quotes, such as {key} = "…"')
        return None

    def number(
        self, table: str, raw: dict[str, Any], key: str, default: float, least: float, most: float, unit: str
    ) -> float:
        value = raw.get(key, default)
        named = f" of {unit}" if unit else ""
        if isinstance(value, str):
            try:
                value = float(value.removesuffix(unit))
            except ValueError:
                self.fail(self.place(table, key), f"should be a number{named}, not {shown(value)}")
                return default
        if isinstance(value, bool) or not isinstance(value, (int, float)):
            self.fail(self.place(table, key), f"should be a number{named}")
            return default
        number = as_float(value)
        if not math.isfinite(number) or not least <= number <= most:
            impossible = f"{shown(value)} {unit}".rstrip()
            self.fail(self.place(table, key), f"{impossible} is impossible; use {least:g} to {most:g}")
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
            self.fail(self.place(table, key), f"should be a number of {unit}, or {{ left = 40, right = 45 }}")
            return default
        left, right = (self.number(table, {key: value[side]}, key, default, least, most, unit) for side in value)
        return (left, right) if list(value) == ["left", "right"] else (right, left)

    def choice(self, table: str, raw: dict[str, Any], key: str, choices: tuple[str, ...], default: str) -> str:
        value = self.string(table, raw, key)
        if value is None:
            return default
        if value not in choices:
            hint = nearest(value, choices)
            words = f"{shown(value)} is none of {', '.join(choices)}" + (f"; did you mean {hint}?" if hint else "")
            self.fail(self.place(table, key), words)
            return default
        return value

    def length(self, table: str, raw: dict[str, Any], key: str, default: float, least: float, most: float) -> float:
        if key not in raw:
            return default
        try:
            return read_length(raw[key], least, most, key)
        except WaltzmarkError as error:
            self.fail(self.place(table, key), str(error))
            return default

    def facing(self, table: str, raw: dict[str, Any], key: str, index: int | None = None) -> Facing | None:
        """A facing in any way of saying it: by the clock, by the walker's own clock, by the compass."""
        value = self.string(table, raw, key, index)
        if value is None:
            return None
        found = read_facing(value)
        if found is None:
            words = f'{shown(value)} is no facing; write for example "9:00", "~3" or "NE"'
            self.fail(self.place(table, key, index), words)
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
