"""Printing the result of a command, on whatever it is written to."""

from __future__ import annotations

import json
import os
import sys
from typing import Any

__all__ = ["as_json", "number_from_one", "say"]


def number_from_one(text: str) -> int:
    """A number of something that is listed, from 1. Raises ValueError."""
    number = int(text)
    if number < 1:
        raise ValueError(text)
    return number


def as_json(values: dict[str, Any]) -> str:
    """One object, in letters that the output can take."""
    wide = (sys.stdout.encoding or "").lower().replace("-", "") in ("utf8", "utf16", "utf32")
    return json.dumps(values, ensure_ascii=not wide)


def say(words: str, status: int) -> int:
    """Prints the result of a command and returns its status; 2 when it cannot be printed."""
    encoding = sys.stdout.encoding or "ascii"
    try:
        # A terminal that knows fewer signs shows "?" for the others.
        print(words.encode(encoding, "replace").decode(encoding), flush=True)
    except OSError as error:
        print(f"waltzmark: the result cannot be written: {error.strerror}", file=sys.stderr)
        sys.stdout = open(os.devnull, "w", encoding="utf-8")  # noqa: SIM115 - or Python complains once more as it ends
        return 2
    return status
