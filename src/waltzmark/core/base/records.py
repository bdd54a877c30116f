"""Frozen values: what the form, the walk and every answer are made of.

A record's fields are set once, when it is made. By them it is compared, hashed, shown and handed to another process. It
has no dictionary unless it is made with ``dict=True``, which is what ``cached_property`` writes into.
"""

from __future__ import annotations

from typing import TYPE_CHECKING, dataclass_transform

import msgspec
from msgspec import field
from msgspec.structs import replace as _replace

__all__ = ["Record", "field", "field_names", "replace"]

if TYPE_CHECKING:
    from dataclasses import replace  # whose fields a type checker knows

    @dataclass_transform(frozen_default=True, field_specifiers=(field,))
    class Record:
        """A frozen value; see the module."""

        def __init_subclass__(cls, *, eq: bool = True, dict: bool = False) -> None: ...  # noqa: A002 - the library's name
else:

    class Record(msgspec.Struct, frozen=True):
        """A frozen value; see the module."""

    def replace(record, /, **changes):
        """The record with other values in some fields."""
        return _replace(record, **changes)


def field_names(record: type[Record] | Record) -> tuple[str, ...]:
    """The names of the fields, in their order."""
    names: tuple[str, ...] = record.__struct_fields__  # type: ignore[union-attr]
    return names
