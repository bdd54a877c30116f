"""What a clause asks for, before it is known how the body stands: an act with what was said of it."""

from __future__ import annotations

from dataclasses import dataclass, field

from waltzmark.core.base.units import Length
from waltzmark.core.draft.clauses import Clause, Ref
from waltzmark.core.draft.pieces import Span

__all__ = ["Act"]


@dataclass
class Act:
    """Something that a clause asks for.

    kind: shift, step, pivot, torso, land, lift, kick, sink, lean, gaze, hand, breathe, hold, expect, stand, repeat,
    mirror.

    The rest is what was said of it, None or empty where nothing was. together: with the act before; stated: in words
    that may also say what is so; awaited: told before its time, so that what follows may be it.
    """

    kind: str
    spans: list[Span] = field(default_factory=list)
    foot: Ref | None = None
    share: float | None = None
    clock: float | None = None
    degrees: float | None = None
    way: str = ""
    part: str = ""
    contact: str = ""
    toe: float | None = None
    toes: str = ""  # in, out or straight, of a foot that lands so
    amount: str = ""
    length: Length | None = None
    width: Length | None = None
    stance: str = ""
    height: str = ""
    times: float | None = None
    together: bool = False
    until: bool = False
    mended: bool = False
    unread: bool = False
    stated: bool = False
    awaited: bool = False
    passing: bool = False  # close by the other foot
    other: list[tuple[str, object]] = field(default_factory=list)
    clause: Clause | None = None
