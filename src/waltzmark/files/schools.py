"""Reading a school from a table of TOML, with every problem told at its place."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any, TypeVar

import tomli

from waltzmark.core.base.errors import WaltzmarkError, quoted
from waltzmark.core.base.messages import Message, Value
from waltzmark.core.school.school import ReachShare, RuleSetting, School, StanceGeometry, whole_table
from waltzmark.files.values import DocumentError, Values

__all__ = ["read_school", "school_from_text"]

_SCHOOL = ("id", "name", "summary", "spine", "base", "lean", "waist_twist", "fit", "stances", "rules")
_STANCE = ("length", "width", "toe", "rear_toe", "land")
_RULE = ("why", "limits", "choices", "caution", "off")
T = TypeVar("T")


def school_from_text(text: str, name: str) -> School:
    """A school from the text of its own file; *name* says in errors which one. Raises DocumentError."""
    values = Values(text)
    try:
        raw = tomli.loads(text)
    except (ValueError, RecursionError) as error:  # TOMLDecodeError is a ValueError, and so is an endless number
        raise DocumentError.of("school.toml", name=name, reason=str(error)) from None
    school = read_school(raw, values, "")
    if school is None or values.problems:
        raise DocumentError(tuple(values.problems), name)
    return school


def read_school(raw: Mapping[str, Any], values: Values, table: str = "school") -> School | None:
    """A school from a table, laid over the one it is based on; None with problems told to *values*. table: its name in
    the document, empty in a file of its own."""
    try:
        whole = whole_table(dict(raw), str(raw.get("name", "of this document")))
    except WaltzmarkError as error:
        values.fail(values.place(table, "base"), error.message)
        return None
    return _Reader(values, table, raw).school(whole)


class _Reader:
    def __init__(self, values: Values, table: str, own: Mapping[str, Any]) -> None:
        self.values, self.table, self.own = values, table, own

    def name(self, *parts: str) -> str:
        """The name of a table within the school's."""
        quoted = [part if part.replace("-", "").isalnum() else f'"{part}"' for part in parts]
        return ".".join([self.table, *quoted] if self.table else quoted)

    def fail(self, table: str, key: str, kind: str | Message, **fields: Value) -> None:
        self.values.fail(self.values.place(table, key), kind, **fields)

    def unknown(self, table: str, raw: Mapping[str, Any], known: tuple[str, ...]) -> None:
        for key in raw:
            if key not in known:
                self.values.unknown(table, key, known)

    def made(self, table: str, key: str, make: Callable[[], T]) -> T | None:
        """A value of the core, or the problem that it has with what it was given."""
        try:
            return make()
        except WaltzmarkError as error:
            self.fail(table, key, error.message)
            return None

    def table_of(self, raw: Mapping[str, Any], table: str, key: str) -> dict[str, Any]:
        value = raw.get(key, {})
        if isinstance(value, dict):
            return value
        self.fail(table, key, "school.table", value=quoted(value))
        return {}

    def school(self, raw: dict[str, Any]) -> School | None:
        self.unknown(self.table, self.own, _SCHOOL)
        texts = {key: self.values.string(self.table, raw, key) or "" for key in _SCHOOL[:5]}
        texts["spine"] = texts["spine"] or "upright"
        stances = {name: self.stance(name, each) for name, each in self.table_of(raw, self.table, "stances").items()}
        rules = {name: self.rule(name, each) for name, each in self.table_of(raw, self.table, "rules").items()}
        lean = self.values.number(self.table, raw, "lean", 0.0, -30.0, 60.0, "degrees")
        twist = self.values.number(self.table, raw, "waist_twist", 25.0, 0.0, 180.0, "degrees")
        prices = {
            key: self.values.number(self.name("fit"), {key: value}, key, 1.0, 0.01, 100.0, "")
            for key, value in self.table_of(raw, self.table, "fit").items()
        }
        if self.values.problems:
            return None
        fine = {name: stance for name, stance in stances.items() if stance is not None}
        settings = {name: rule for name, rule in rules.items() if rule is not None}
        return self.made(
            "",
            self.table or "id",
            lambda: School(stances=fine, rules=settings, lean=lean, waist_twist=twist, fit=prices, **texts),
        )

    def stance(self, name: str, raw: object) -> StanceGeometry | None:
        table, before = self.name("stances", name), len(self.values.problems)
        if not isinstance(raw, dict):
            self.fail(self.name("stances"), name, "school.stance")
            return None
        self.unknown(table, raw, _STANCE)
        length: ReachShare | str | None
        if isinstance(given := raw.get("length"), dict):
            share = self.values.number(table, {"length": given.get("reach")}, "length", 1.0, 0.0, 1.5, "of reach")
            length = self.made(table, "length", lambda: ReachShare(share))
        elif isinstance(given, str):
            length = given
        else:
            self.fail(table, "length", "school.stance-length")
            return None
        width = self.values.string(table, raw, "width") or ""
        toe, rear = (
            self.values.number(table, raw, key, default, -180.0, 180.0, "degrees")
            for key, default in (("toe", 0.0), ("rear_toe", 45.0))
        )
        land = self.values.choice(table, raw, "land", ("", "heel", "ball", "flat", "air"), "")
        if length is None or len(self.values.problems) > before:
            return None
        self.made(table, "width", lambda: StanceGeometry("0cm", width))  # else it would be told of the length
        if len(self.values.problems) > before:
            return None
        return self.made(table, "length", lambda: StanceGeometry(length, width, toe, rear, land))  # type: ignore[arg-type]

    def rule(self, name: str, raw: object) -> RuleSetting | None:
        table = self.name("rules", name)
        if not isinstance(raw, dict):
            self.fail(self.name("rules"), name, "school.rule")
            return None
        self.unknown(table, raw, _RULE)
        limits = self.table_of(raw, table, "limits")
        choices = self.table_of(raw, table, "choices")
        numbers = {
            key: self.values.number(table, {"limits": value}, "limits", 0.0, -10_000.0, 10_000.0, f"({key})")
            for key, value in limits.items()
        }
        for key, value in choices.items():
            if not isinstance(value, str):
                self.fail(table, "choices", "school.choice-text", name=key, value=quoted(value))
        off = raw.get("off", False)
        if not isinstance(off, bool):
            self.fail(table, "off", "file.switch")
        why, caution = (self.values.string(table, raw, key) or "" for key in ("why", "caution"))
        return self.made(table, "limits", lambda: RuleSetting(why, numbers, choices, caution, off is True))
