"""Entries of the practice book as tables and objects that other programs read and write."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable
from datetime import datetime
from itertools import islice
from typing import Any

from waltzmark.core.base.errors import Position, WaltzmarkError, quoted
from waltzmark.core.base.messages import Value
from waltzmark.core.base.records import field_names
from waltzmark.core.practice.entries import Entry, EntryError
from waltzmark.files.cells import from_cell, to_cell
from waltzmark.files.document_values import whole_signs
from waltzmark.files.values import place_of

__all__ = ["COLUMNS", "BookError", "entries_csv", "entries_json", "entry_values", "read_entries"]


class BookError(WaltzmarkError):
    """The book cannot be opened, read or written; its text says why and what to do."""


COLUMNS = tuple(name for name in field_names(Entry) if name != "id")
_NUMBERS = ("heading", "minutes", "measured", "planned")
_MOST_ENTRIES = 100_000  # that are taken in at once: ten years of thirty a day


def entry_values(entry: Entry) -> tuple[Any, ...]:
    """Its values as they are stored, in the order of `COLUMNS`, without half signs, which nothing can store."""
    values = [getattr(entry, name) for name in COLUMNS]
    values[0] = entry.when.isoformat()
    return tuple(whole_signs(values))


def entries_csv(entries: Iterable[Entry]) -> str:
    """Entries as a table."""
    out = io.StringIO()
    table = csv.writer(out)
    table.writerow(COLUMNS)
    for entry in entries:
        told = (to_cell(value) if isinstance(value, str) else value for value in entry_values(entry))
        table.writerow(["" if value is None else value for value in told])
    return out.getvalue()


def entries_json(entries: Iterable[Entry]) -> str:
    """Entries as one JSON object."""
    found = [dict(zip(COLUMNS, entry_values(entry), strict=True)) for entry in entries]
    return json.dumps({"practice": 1, "entries": found}, ensure_ascii=False, indent=1)


def read_entries(text: str, name: str) -> list[Entry]:
    """The entries of a table or a JSON object. Raises BookError, which says the line."""
    text = text.removeprefix("\ufeff")
    read = _from_json(text, name) if text.lstrip()[:1] in ("{", "[") else _from_csv(text, name)
    found = list(islice(read, _MOST_ENTRIES + 1))
    if len(found) > _MOST_ENTRIES:
        raise BookError("entries.many", name=name, most=_MOST_ENTRIES)
    return found


def _time(text: str) -> datetime:
    """A time as a table has it. Raises EntryError."""
    try:
        return datetime.fromisoformat(text)
    except ValueError:
        raise EntryError("entries.not-time", text=quoted(text, 40)) from None


def _made(values: dict[str, Any], name: str, place: Position) -> Entry:
    """An entry of values that were read at a place of a file. Raises BookError."""
    known = {key: whole_signs(values[key]) for key in COLUMNS if values.get(key) not in (None, "")}
    try:
        if not isinstance(known.get("when"), str):
            raise EntryError("entries.time")
        known["when"] = _time(known["when"])
        if known["when"].tzinfo is None:
            known["when"] = known["when"].astimezone()
        for key in _NUMBERS:
            if key in known:
                known[key] = float(known[key])
        if "reps" in known:
            known["reps"] = int(known["reps"])
        for key in known:
            if key not in ("when", "reps", *_NUMBERS) and not isinstance(known[key], str):
                raise EntryError("entries.text", name=key)
        return Entry(**known)
    except (EntryError, ValueError, TypeError, OverflowError) as error:
        reason: Value = error.message if isinstance(error, EntryError) else quoted(str(error), 80)
        raise BookError("entries.entry", name=name, place=place_of(place), reason=reason) from None


def _from_csv(text: str, name: str) -> Iterable[Entry]:
    table = csv.DictReader(io.StringIO(text))
    try:
        if table.fieldnames is None or "when" not in table.fieldnames or "kind" not in table.fieldnames:
            raise BookError("entries.columns", name=name)
        for row in table:
            told = {key: from_cell(value) for key, value in row.items() if isinstance(value, str)}
            yield _made(told, name, Position(table.line_num))
    except csv.Error as error:
        place = place_of(Position(table.line_num))
        raise BookError("entries.entry", name=name, place=place, reason=str(error)) from None


def _from_json(text: str, name: str) -> Iterable[Entry]:
    try:
        read = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise BookError("entries.json", name=name, reason=str(error)) from None
    entries = read.get("entries") if isinstance(read, dict) else read
    if not isinstance(entries, list):
        raise BookError("entries.list", name=name)
    for number, values in enumerate(entries, 1):
        if not isinstance(values, dict):
            raise BookError("entries.object", name=name, n=number)
        yield _made(values, name, Position(key=str(number)))
