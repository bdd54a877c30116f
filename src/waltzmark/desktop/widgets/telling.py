"""What is drawn, said for those who hear it: views keep a sentence of what they show, and announce it as it changes."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QEvent, QObject, SignalInstance
from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent, QAccessibleInterface
from PySide6.QtWidgets import QAccessibleWidget, QScrollArea, QWidget

from waltzmark.desktop.guard import guarded, safely

__all__ = ["Telling", "name_roles"]


def name_roles() -> None:
    """Lets every view that has a `role` be met as that by a screen reader, and what scrolls as a pane.

    By itself Qt takes them for empty space.
    """
    QAccessible.installFactory(_as_what_it_is)


def _as_what_it_is(_name: str, it: QObject) -> QAccessibleInterface | None:
    role = QAccessible.Role.Pane if isinstance(it, QScrollArea) else getattr(type(it), "role", None)
    if isinstance(it, QWidget) and isinstance(role, QAccessible.Role):
        return QAccessibleWidget(it, role)
    return None


@guarded
class Telling(QObject):
    """Lets a view say what it shows, now and whenever something changes; it lives as long as the view.

    While nobody listens with a screen reader nothing is worked out. The view that has the focus announces what is new.
    """

    def __init__(self, view: QWidget, says: Callable[[], str], *when: SignalInstance) -> None:
        super().__init__(view)
        self._view, self._says = view, says
        view.installEventFilter(self)
        for signal in when:
            signal.connect(safely(self.say))

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """What is shown, or gone to, is said as it is by then."""
        if event.type() in (QEvent.Type.Show, QEvent.Type.FocusIn):
            self.say()
        return False

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
