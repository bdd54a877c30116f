"""Lengths of a room as people say them: in metres and inches, and in boards, tiles and paces."""

from __future__ import annotations

import re

from waltzmark.core.base.errors import WaltzmarkError, quoted
from waltzmark.core.base.units import METRES
from waltzmark.core.body.body import Body
from waltzmark.core.form.room import FloorLines

__all__ = ["PACE", "read_measure"]

#: A pace of somebody who measures a room: 0.41 of the stature, the usual ratio of an easy step (assumption).
PACE = 0.41
_MEASURE = re.compile(r"(?P<number>-?\d+(?:[.,]\d+)?)\s*(?P<unit>[a-zA-Z]*)")
_LONGEST = 40  # signs


def read_measure(text: str, unit: str, lines: FloorLines, body: Body) -> float:
    """Metres of a length such as ``3.2m``, ``12 boards``, ``4 tiles`` or ``5 paces``; a bare number is in *unit*.

    Raises WaltzmarkError saying what can be written.
    """
    match = _MEASURE.fullmatch(text.strip()) if len(text) <= _LONGEST else None
    if match is None:
        raise WaltzmarkError("measure.length", value=quoted(text))
    number, word = float(match["number"].replace(",", ".")), match["unit"].lower() or unit
    metres = {
        **METRES,
        "board": lines.spacing,
        "tile": lines.spacing,
        "pace": PACE * body.stature,
        "fl": body.foot_length,
        "sw": body.shoulder_breadth,
        "hw": body.hip_breadth,
    }
    known = metres.get(word, metres.get(word.removesuffix("s")))
    if known is None:
        raise WaltzmarkError("measure.unit", value=quoted(word))
    return number * known
