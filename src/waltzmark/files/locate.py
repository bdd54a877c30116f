"""Where in the text of a TOML file a thing stands, for messages that point at the line."""

from __future__ import annotations

import re

from waltzmark.core.base.errors import Position

__all__ = ["line_of_key", "line_of_text"]

_HEADER = re.compile(r"^\s*(\[\[?)\s*([^\[\]]+?)\s*\]\]?\s*(#.*)?$")


def _section(text: str, table: str, index: int | None) -> tuple[int, list[str]]:
    """Line number (from 0) after a table's header, and the lines up to the next one."""
    lines = text.split("\n")
    seen = -1
    start = 0 if not table else None
    for number, line in enumerate(lines):
        match = _HEADER.match(line)
        if not match:
            continue
        if start is not None:
            return start, lines[start:number]
        if match[2].replace(" ", "") == table:
            seen += 1
            if index is None or seen == index:
                start = number + 1
    return (start, lines[start:]) if start is not None else (0, [])


def line_of_key(text: str, table: str, key: str, index: int | None = None) -> Position:
    """Position of a key in a table (the *index*-th of an array of tables); of its header when it is not found."""
    start, lines = _section(text, table, index)
    name = f"{table}.{key}" if table else key
    for offset, line in enumerate(lines):
        match = re.match(rf"\s*[\"']?{re.escape(key)}[\"']?\s*[.=]", line)
        if match:
            return Position(start + offset + 1, len(line) - len(line.lstrip()) + 1, name)
    if not table:
        for number, line in enumerate(text.split("\n"), 1):
            header = _HEADER.match(line)
            if header and header[2].split(".")[0].strip() == key:
                return Position(number, 1, name)
    return Position(start or None, None, name)


def line_of_text(text: str, table: str, index: int, wanted: str, nth: int = 0) -> Position:
    """Position of the *nth* string *wanted* in the *index*-th table of an array of tables."""
    start, lines = _section(text, table, index)
    strings = re.compile("|".join(re.escape(quote + wanted + quote) for quote in "\"'"))
    for offset, line in enumerate(lines):
        for match in strings.finditer(line):
            if nth == 0:
                return Position(start + offset + 1, match.start() + 2)
            nth -= 1
    return Position(start or None, None)
