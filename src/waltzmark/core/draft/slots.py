"""Where each part of a drafted count is from."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from waltzmark.core.draft.pieces import Span

__all__ = ["How", "Slot"]

How = Literal["said", "given", "chosen", "doubtful", "inserted"]


@dataclass
class Slot:
    """What of a count, where it is from, the kind of reason where that asks for one, and the words."""

    what: str
    how: How
    why: str = ""
    spans: tuple[Span, ...] = ()
