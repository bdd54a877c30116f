"""How long work tells how far it is, hands out what it has so far, and hears that it should stop."""

from __future__ import annotations

from typing import Protocol

__all__ = ["SILENT", "Progress", "StoppedError"]


class StoppedError(Exception):
    """Raised within work that is no longer wanted; whoever asked for it catches it."""


class Progress(Protocol):
    """Whom a long computation talks to: it calls `tell` often, and lets a `StoppedError` of it pass through."""

    def tell(self, share: float, doing: str = "") -> None:
        """How much is done, 0 to 1, and what is being done now, as a word that `waltzmark.words` has a sentence for.

        Raises StoppedError when it should stop.
        """

    def hand_out(self, so_far: object) -> None:
        """What has been found until now."""


class _Silent:
    def tell(self, share: float, doing: str = "") -> None:
        pass

    def hand_out(self, so_far: object) -> None:
        pass


#: For work that nobody watches.
SILENT: Progress = _Silent()
