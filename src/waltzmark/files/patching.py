"""Changing the values of a TOML text that are said otherwise now, and nothing else of it.

What is changed is found by comparing the old values with the new ones, not with the text: whatever the text says in its
own way, or says beside, stays as it is written.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, MutableMapping, Sequence
from difflib import SequenceMatcher
from typing import Any

import tomlkit
from tomlkit.items import Array, Comment, InlineTable, Table, Whitespace

__all__ = ["patch"]

_Table = MutableMapping[str, Any]
#: Keys that say the same in another way: when one is written, the others must go.
_INSTEAD = {"outline": ("centre", "radius")}
#: Tables that have a header of their own where they are new, and those in which all have; others stand in a line.
_TABLES = ("form", "body", "fitted", "room", "school", "stances", "rules", "words", "film")
#: Characters from which a text of several lines stands in several.
_LONG = 40
_TABLES_IN = ("stances", "rules")


def patch(table: _Table, old: dict[str, Any], new: dict[str, Any], name: str = "") -> None:
    """Makes a table that says *old* say *new*. Both are plain values; what the table has beside them stays. name: the
    table's own."""
    for key in old:
        if key not in new and key in table:
            del table[key]
    for key, value in new.items():
        if key in old and old[key] == value:
            continue
        before, present = old.get(key), table.get(key)
        own_table = isinstance(value, dict) and (key in _TABLES or name in _TABLES_IN)
        if own_table and present is None and not isinstance(table, InlineTable):
            before, present = {}, _add_table(table, key)
        if _are_tables(value) and (present is None or _are_tables(before)):
            _patch_tables(table, key, before or [], value)
        elif isinstance(value, dict) and isinstance(before, dict) and isinstance(present, MutableMapping):
            patch(present, before, value, key)
        elif _are_texts(value) and isinstance(before, list) and isinstance(present, Array):
            _patch_array(present, before, value)
        else:
            table[key] = _item(value)
            for other in _INSTEAD.get(key, ()):
                table.pop(other, None)


def _add_table(parent: _Table, key: str) -> _Table:
    """A table of its own, with an empty line above it."""
    if isinstance(parent, tomlkit.TOMLDocument):
        parent.add(tomlkit.nl())
    parent[key] = tomlkit.table()
    made = parent[key]
    assert isinstance(made, MutableMapping)
    return made


def _are_tables(value: object) -> bool:
    return isinstance(value, list) and bool(value) and all(isinstance(each, dict) for each in value)


def _are_texts(value: object) -> bool:
    return isinstance(value, list) and all(isinstance(each, str) for each in value)


def _item(value: Any) -> Any:
    """A new item: tables stand in one line, several texts in one line each."""
    if isinstance(value, dict):
        table = tomlkit.inline_table()
        table.update({key: _item(each) for key, each in value.items()})
        return table
    if isinstance(value, str) and len(value) > _LONG and "\n" in value[1:] and "\r" not in value:
        return tomlkit.string(value, multiline=True)
    if value and _are_texts(value):
        array = tomlkit.array()
        array.extend(value)
        return array.multiline(len(value) > 1)
    return value


def _patch_array(array: Array, old: list[str], new: list[str]) -> None:
    """Changes only the texts that differ, so that spelling and comments of the others stay."""
    for kind, first, after, new_first, new_after in reversed(_changes(old, new)):
        if kind == "equal":
            continue
        texts = new[new_first:new_after]
        common = min(after - first, len(texts))
        for offset in range(common):
            array[first + offset] = texts[offset]
        for index in range(after - 1, first + common - 1, -1):
            del array[index]
        for offset, text in enumerate(texts[common:]):
            array.insert(first + common + offset, text)
    if len(array) > 1 and "\n" not in array.as_string():
        array.multiline(True)


def _changes(old: list[Any], new: list[Any]) -> Sequence[tuple[str, int, int, int, int]]:
    return SequenceMatcher(a=old, b=new, autojunk=False).get_opcodes()


def _patch_tables(parent: _Table, key: str, old: list[dict[str, Any]], new: list[dict[str, Any]]) -> None:
    """Changes a list of tables. One is known again by its id, else by all that it says, else by where it stands."""
    present = parent.get(key)
    listed: list[Any] = list(present) if present is not None else []
    pairs = _pairs(old, new)
    if len(listed) == len(old) == len(new) and pairs == list(range(len(old))):
        for each, before, after in zip(listed, old, new, strict=True):
            patch(each, before, after)
        return
    inside = isinstance(present, Array) or isinstance(parent, InlineTable)
    made: Any = tomlkit.array() if inside else tomlkit.aot()
    gone = [table for at, table in enumerate(listed) if at not in pairs]
    kept: list[Any] = []
    for at, after in zip(pairs, new, strict=True):
        if at is None:
            table: Any = tomlkit.inline_table() if inside else tomlkit.table()
            patch(table, {}, after)
        else:
            table = listed[at]
            patch(table, old[at], after)
        kept.append(table)
    for table in gone:
        _hand_over(table, listed, kept)
    for table in kept:
        made.append(table)
    if inside:
        made.multiline(True)
    if present is not None:
        del parent[key]
    parent[key] = made


def _pairs(old: list[dict[str, Any]], new: list[dict[str, Any]]) -> list[int | None]:
    """Of each new table which old one it was; None for one that is new."""
    by_id: Callable[[dict[str, Any]], Hashable] = lambda table: table.get("id")  # noqa: E731
    if all(by_id(table) is not None for table in (*old, *new)):
        places = {by_id(table): at for at, table in enumerate(old)}
        return [places.get(by_id(table)) for table in new]
    pairs: list[int | None] = [None] * len(new)
    for kind, first, after, new_first, new_after in _changes(
        [repr(each) for each in old], [repr(each) for each in new]
    ):
        if kind in ("equal", "replace"):
            for offset in range(min(after - first, new_after - new_first)):
                pairs[new_first + offset] = first + offset
    return pairs


def _hand_over(gone: Any, listed: list[Any], kept: list[Any]) -> None:
    """Comments at the end of a table that goes stand before the next one's header, and are about that one: they go to
    the end of the nearest table before it that stays."""
    if not isinstance(gone, Table):
        return
    tail = []
    for key, item in reversed(gone.value.body):
        if key is not None:
            break
        tail.append(item)
    if not any(isinstance(item, Comment) for item in tail):
        return
    before = [table for table in listed[: listed.index(gone)] if any(table is each for each in kept)]
    if before:
        to = before[-1]
    elif kept:
        to = kept[0]
    else:
        to = None
    if isinstance(to, Table):
        for item in reversed(tail):
            if isinstance(item, Comment | Whitespace):
                to.value.body.append((None, item))
