"""What is drawn, said for those who hear it: views keep a sentence of what they show, and announce it as it changes."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import SignalInstance
from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent
from PySide6.QtWidgets import QWidget

from waltzmark.desktop.guard import safely

__all__ = ["tell"]


def tell(view: QWidget, says: Callable[[], str], *when: SignalInstance) -> Callable[[], None]:
    """Lets a view say what it shows, now and whenever something changes.

    While nobody listens with a screen reader nothing is worked out. The view that has the focus announces what is new.
    Returns what says it at once.
    """

    def say(*_: object) -> None:
        if not QAccessible.isActive() or not view.isVisible():
            return
        words = says()
        if not words or words == view.accessibleDescription():
            return
        view.setAccessibleDescription(words)
        if view.hasFocus():
            QAccessible.updateAccessibility(QAccessibleAnnouncementEvent(view, words))

    for signal in when:
        signal.connect(safely(say))
    return say
