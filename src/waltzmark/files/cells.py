"""Texts in the cells of a CSV table: a spreadsheet reckons what begins like a formula, so such a text begins with '."""

from __future__ import annotations

import re

__all__ = ["from_cell", "to_cell"]

_FORMULA = re.compile(r"'*[=+\-@\t\r]")


def to_cell(text: str) -> str:
    """A text as it stands in a cell; `from_cell` gives it back as it was."""
    return f"'{text}" if _FORMULA.match(text) else text


def from_cell(text: str) -> str:
    """The text that a cell says."""
    return text[1:] if text.startswith("'") and _FORMULA.match(text) else text
