"""Where in the text of a TOML file a thing stands, for messages that point at the line."""

from __future__ import annotations

import re
from collections import defaultdict
from functools import cached_property

from waltzmark.core.base.errors import Position
from waltzmark.core.base.records import Record

__all__ = ["Places"]

# Most documents have nothing wrong with them: patterns are made when something is looked for.
_NAME = r"[\w.\"'-]+"
_KEY = r"\s*(\"[^\"]*\"|'[^']*'|[\w-]+)\s*[.=]"
_PART = r"\"[^\"]*\"|'[^']*'|[^.\"']+"
_STRING = r"\"((?:[^\"\\]|\\.)*)\"|'([^']*)'"


class _Section(Record):
    """Lines of a table, from 0, without its header: from *start* up to *stop*."""

    start: int
    stop: int


def _header(line: str) -> str | None:
    """The name in a table's header line; None for any other line."""
    text = line.strip()
    if not text.startswith("["):
        return None
    mark = "]]" if text.startswith("[[") else "]"
    name, closed, rest = text[len(mark) :].partition(mark)
    name = name.replace(" ", "").replace("\t", "")
    rest = rest.strip()
    return name if closed and re.fullmatch(_NAME, name) and (not rest or rest.startswith("#")) else None


class Places:
    """Where the keys and strings of a text stand. The text is looked through once, whatever is asked of it."""

    def __init__(self, text: str) -> None:
        self._text = text
        self._keys: dict[_Section, dict[str, int]] = {}
        self._strings: dict[_Section, dict[str, list[Position]]] = {}

    @cached_property
    def _lines(self) -> list[str]:
        return self._text.split("\n")

    @cached_property
    def _sections(self) -> dict[str, list[_Section]]:
        found: dict[str, list[_Section]] = defaultdict(list)
        name, start = "", 0
        for number, line in enumerate(self._lines):
            header = _header(line)
            if header is not None:
                found[name].append(_Section(start, number))
                name, start = header, number + 1
        found[name].append(_Section(start, len(self._lines)))
        return found

    def _section(self, table: str, index: int | None) -> _Section | None:
        sections = self._sections.get(table, [])
        at = index or 0
        return sections[at] if at < len(sections) else None

    def key(self, table: str, key: str, index: int | None = None) -> Position:
        """Place of a key in a table (the *index*-th of an array of tables), or of the table that it is; else of what
        it is written in."""
        section = self._section(table, index)
        name = f"{table}.{key}" if table else key
        if section is not None and (place := self._in(section, key, name)) is not None:
            return place
        if index is None and (line := self._headed(name)):
            return Position(line, 1, name)
        if section is None and index is None:
            parts = re.findall(_PART, table)
            for cut in range(len(parts) - 1, -1, -1):  # it may be written in a line of what holds it
                outer = self._section(".".join(parts[:cut]), None)
                if outer is not None and (place := self._in(outer, parts[cut].strip("\"'"), name)) is not None:
                    return place
                if line := self._headed(".".join(parts[: cut + 1])):
                    return Position(line, 1, name)
        return Position((section.start if section else 0) or None, None, name)

    def _headed(self, name: str) -> int:
        """The line of the first table of a name, or below it; 0 where there is none."""
        for header, sections in self._sections.items():
            if header == name or header.startswith(f"{name}."):
                return sections[0].start
        return 0

    def _in(self, section: _Section, key: str, name: str) -> Position | None:
        """Where a key is written in a section."""
        if section not in self._keys:
            self._keys[section] = self._keys_in(section)
        line = self._keys[section].get(key)
        if line is None:
            return None
        written = self._lines[line]
        return Position(line + 1, len(written) - len(written.lstrip()) + 1, name)

    def _keys_in(self, section: _Section) -> dict[str, int]:
        found: dict[str, int] = {}
        for line in range(section.start, section.stop):
            match = re.match(_KEY, self._lines[line])
            if match:
                found.setdefault(match[1].strip("\"'"), line)
        return found

    def string(self, table: str, index: int, wanted: str, nth: int = 0) -> Position:
        """Place of the *nth* string *wanted* in the *index*-th table of an array of tables."""
        section = self._section(table, index)
        if section is None:
            return Position()
        if section not in self._strings:
            self._strings[section] = self._strings_in(section)
        places = self._strings[section].get(wanted, [])
        return places[nth] if nth < len(places) else Position(section.start or None, None)

    def _strings_in(self, section: _Section) -> dict[str, list[Position]]:
        found: dict[str, list[Position]] = defaultdict(list)
        for line in range(section.start, section.stop):
            for match in re.finditer(_STRING, self._lines[line]):
                found[match[1] if match[1] is not None else match[2]].append(Position(line + 1, match.start() + 2))
        return found
