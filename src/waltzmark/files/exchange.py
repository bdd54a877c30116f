"""Entries of the practice book as tables and objects that other programs read and write."""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Iterable
from dataclasses import fields
from datetime import datetime
from itertools import islice
from typing import Any

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.practice.entries import Entry, EntryError
from waltzmark.files.cells import from_cell, to_cell
from waltzmark.files.plain import whole_signs

__all__ = ["COLUMNS", "BookError", "entries_csv", "entries_json", "entry_values", "read_entries"]


class BookError(WaltzmarkError):
    """The book cannot be opened, read or written; its text says why and what to do."""


COLUMNS = tuple(field.name for field in fields(Entry) if field.name != "id")
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
        raise BookError(f"{name} has more than {_MOST_ENTRIES} entries; take them in in parts")
    return found


def _made(values: dict[str, Any], where: str) -> Entry:
    """An entry of values that were read. Raises BookError."""
    known = {name: whole_signs(values[name]) for name in COLUMNS if values.get(name) not in (None, "")}
    try:
        if not isinstance(known.get("when"), str):
            raise EntryError("it needs its time, such as 2026-05-04T18:30:00+02:00")
        known["when"] = datetime.fromisoformat(known["when"])
        if known["when"].tzinfo is None:
            known["when"] = known["when"].astimezone()
        for name in _NUMBERS:
            if name in known:
                known[name] = float(known[name])
        if "reps" in known:
            known["reps"] = int(known["reps"])
        for name in known:
            if name not in ("when", "reps", *_NUMBERS) and not isinstance(known[name], str):
                raise EntryError(f"{name} is no text")
        return Entry(**known)
    except (EntryError, ValueError, TypeError, OverflowError) as error:
        raise BookError(f"{where}: {error}") from None


def _from_csv(text: str, name: str) -> Iterable[Entry]:
    table = csv.DictReader(io.StringIO(text))
    try:
        if table.fieldnames is None or "when" not in table.fieldnames or "kind" not in table.fieldnames:
            raise BookError(f"{name}: the first line of a practice table names its columns, when and kind among them")
        for row in table:
            told = {key: from_cell(value) for key, value in row.items() if isinstance(value, str)}
            yield _made(told, f"{name}, line {table.line_num}")
    except csv.Error as error:
        raise BookError(f"{name}, line {table.line_num}: {error}") from None


def _from_json(text: str, name: str) -> Iterable[Entry]:
    try:
        read = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise BookError(f"{name} is no JSON: {error}") from None
    entries = read.get("entries") if isinstance(read, dict) else read
    if not isinstance(entries, list):
        raise BookError(f'{name}: a practice book as JSON has a list of "entries"')
    for number, values in enumerate(entries, 1):
        if not isinstance(values, dict):
            raise BookError(f"{name}, entry {number}: it is no object")
        yield _made(values, f"{name}, entry {number}")
