"""Left and right, and how a sole meets the floor."""

from __future__ import annotations

from enum import IntEnum
from typing import Final, Literal

__all__ = ["SIDES", "Contact", "Side"]


class Side(IntEnum):
    """A side of the body; the value is its index in every array of the core."""

    LEFT = 0
    RIGHT = 1

    @property
    def other(self) -> Side:
        return Side.RIGHT if self is Side.LEFT else Side.LEFT

    @property
    def sign(self) -> int:
        """+1 for the right side, -1 for the left: the sigma of the step formula."""
        return 1 if self is Side.RIGHT else -1

    @property
    def letter(self) -> str:
        return "LR"[self]

    @property
    def word(self) -> Literal["left", "right"]:
        return "right" if self else "left"

    @classmethod
    def of(cls, letter: str) -> Side:
        """Side of ``L`` or ``R``, in either case."""
        return cls("LR".index(letter.upper()))


#: Both, left first: to go through the class itself takes fifteen times as long.
SIDES: Final = (Side.LEFT, Side.RIGHT)


class Contact(IntEnum):
    """The part of a sole that is on the floor."""

    AIR = 0
    BALL = 1
    HEEL = 2
    FLAT = 3

    @property
    def word(self) -> Literal["air", "ball", "heel", "flat"]:
        words: tuple[Literal["air", "ball", "heel", "flat"], ...] = ("air", "ball", "heel", "flat")
        return words[self]

    @classmethod
    def of(cls, word: str) -> Contact:
        """Contact of ``air``, ``ball`` (or ``touch``), ``heel`` or ``flat``."""
        return cls[{"touch": "ball"}.get(word.lower(), word).upper()]
