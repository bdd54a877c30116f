"""From threads to the interface thread, by one object that lives as long as the program.

An object of a window may be destroyed at the very moment a thread sends through it, and that ends the program; this one
never is. What it brings looks by itself whether there is still somebody to give it to.
"""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, Qt, Signal

from waltzmark.desktop.guard import safely

__all__ = ["Courier", "courier"]


class Courier(QObject):
    """Calls on the interface thread what any thread sends."""

    #: What any thread sends, on its way.
    sent = Signal(object)

    def __init__(self) -> None:
        super().__init__()
        self.sent.connect(safely(self._call), Qt.ConnectionType.QueuedConnection)

    def send(self, call: Callable[[], object]) -> None:
        """Lets something be called on the interface thread, after what was sent before."""
        self.sent.emit(call)

    def _call(self, call: Callable[[], object]) -> None:
        call()


_known: list[Courier] = []


def courier() -> Courier:
    """The courier of the program; it is made on the interface thread, by who asks first."""
    if not _known:
        _known.append(Courier())
    return _known[0]
