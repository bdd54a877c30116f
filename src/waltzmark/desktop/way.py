"""The way through the stages: where one has been in a window, to go back to it and forward again."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

__all__ = ["Place", "Way"]

_LONGEST = 100


class Place(NamedTuple):
    """Where one is: a stage, its face, empty where it has none, and the playhead in rows of the trace."""

    stage: str
    face: str
    position: float


class Way:
    """here: says where one is now; go: goes to a place. A place is kept when it is left for another stage or face."""

    def __init__(self, here: Callable[[], Place], go: Callable[[Place], object]) -> None:
        self._here, self._go = here, go
        self._past: list[Place] = []
        self._ahead: list[Place] = []
        self._going = False

    def leave(self) -> None:
        """Another stage or face will be shown: the place as it is now is kept."""
        if self._going:
            return
        now = self._here()
        if now.stage and (not self._past or self._past[-1] != now):
            self._past.append(now)
            del self._past[:-_LONGEST]
        self._ahead.clear()

    def back(self) -> bool:
        """Goes to where one was before; whether there was such a place."""
        return self._step(self._past, self._ahead)

    def forward(self) -> bool:
        """Goes forward again, after going back."""
        return self._step(self._ahead, self._past)

    def _step(self, source: list[Place], other: list[Place]) -> bool:
        now = self._here()
        while source and source[-1][:2] == now[:2]:  # where one is already
            source.pop()
        if not source:
            return False
        other.append(now)
        self._going = True
        self._go(source.pop())
        self._going = False
        return True
