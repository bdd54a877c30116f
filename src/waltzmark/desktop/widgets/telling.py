"""What is drawn, said for those who hear it: views keep a sentence of what they show, and announce it as it changes."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject, SignalInstance
from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent
from PySide6.QtWidgets import QWidget

from waltzmark.desktop.guard import safely

__all__ = ["Telling"]


class Telling(QObject):
    """Lets a view say what it shows, now and whenever something changes; it lives as long as the view.

    While nobody listens with a screen reader nothing is worked out. The view that has the focus announces what is new.
    """

    def __init__(self, view: QWidget, says: Callable[[], str], *when: SignalInstance) -> None:
        super().__init__(view)
        self._view, self._says = view, says
        for signal in when:
            signal.connect(safely(self.say))

    def say(self) -> None:
        """Says what is shown."""
        view = self._view
        if not QAccessible.isActive() or not view.isVisible():
            return
        words = self._says()
        if not words or words == view.accessibleDescription():
            return
        view.setAccessibleDescription(words)
        if view.hasFocus():
            QAccessible.updateAccessibility(QAccessibleAnnouncementEvent(view, words))
