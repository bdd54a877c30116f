"""Printing the result of a command, on whatever it is written to."""

from __future__ import annotations

import json
import math
import os
import sys
from collections.abc import Mapping
from typing import Any

from waltzmark.core.base.showing import obeyed, shown
from waltzmark.words.errors import explained
from waltzmark.words.language import tr

__all__ = ["as_json", "complain", "number_from_one", "say"]


def number_from_one(text: str) -> int:
    """A number of something that is listed, from 1. Raises ValueError."""
    number = int(text)
    if number < 1:
        raise ValueError(text)
    return number


def as_json(values: Mapping[str, Any]) -> str:
    """One object, in letters that the output can take; a number that is none, as JSON knows it, is null."""
    wide = (getattr(sys.stdout, "encoding", None) or "").lower().replace("-", "") in ("utf8", "utf16", "utf32")
    text = json.dumps(_finite(values), ensure_ascii=not wide, allow_nan=False)
    return obeyed().sub(lambda sign: f"\\u{ord(sign[0]):04x}", text)


def _finite(value: Any) -> Any:
    if isinstance(value, dict):
        return {key: _finite(each) for key, each in value.items()}
    if isinstance(value, list | tuple):
        return [_finite(each) for each in value]
    return None if isinstance(value, float) and not math.isfinite(value) else value


def complain(trouble: str | BaseException) -> None:
    """Prints what is wrong, where one is told such things."""
    if sys.stderr is not None:
        words = trouble if isinstance(trouble, str) else explained(trouble)
        print(f"waltzmark: {shown(words, lines=True)}", file=sys.stderr)


def say(words: str, status: int) -> int:
    """Prints the result of a command and returns its status; 2 when it cannot be printed."""
    if sys.stdout is None:  # it was closed before this began
        complain(tr("The result cannot be written: there is no output."))
        return 2
    encoding = sys.stdout.encoding or "ascii"
    try:
        # A terminal that knows fewer signs shows "?" for the others.
        print(shown(words, lines=True).encode(encoding, "replace").decode(encoding), flush=True)
    except OSError as error:
        complain(tr("The result cannot be written: {reason}.", reason=error.strerror))
        sys.stdout = open(os.devnull, "w", encoding="utf-8")  # noqa: SIM115 - or Python complains once more as it ends
        return 2
    return status
