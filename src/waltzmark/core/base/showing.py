"""Texts somebody else may have written, made such that to show them is all that showing them does."""

from __future__ import annotations

import re
from functools import cache

__all__ = ["obeyed", "shown"]


@cache
def obeyed() -> re.Pattern[str]:
    """What a terminal obeys, and what turns the letters around it round.

    Joiners, which scripts and emoji need, are none.
    """
    return re.compile("[\x00-\x1f\x7f-\x9f\u061c\u200e\u200f\u2028-\u202e\u2066-\u2069\ufeff\ud800-\udfff]")


def shown(text: str, lines: bool = False) -> str:
    """Make a text safe to show: each character that would be obeyed becomes �.

    Line ends become spaces, or stay where *lines* are wanted.
    """
    if text.isprintable():
        return text
    return obeyed().sub(lambda found: _instead(found[0], lines), text)


def _instead(sign: str, lines: bool) -> str:
    if sign in "\n\t":
        return sign if lines else " "
    return "" if sign == "\r" else "�"
