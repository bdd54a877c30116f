"""What the desktop asks of every program for people who see less, or bear less that moves.

The settings portal is asked over the session bus, once the first picture is there, and tells when somebody changes a
setting. Where there is no bus or no portal, nothing is asked for.
"""

from __future__ import annotations

import os
from collections.abc import Mapping

from PySide6.QtCore import QObject, Signal

from waltzmark.core.base.records import Record

__all__ = ["Wish", "Wishes", "wish_of"]

_SETTINGS = (
    ("org.freedesktop.appearance", "contrast"),
    ("org.freedesktop.appearance", "reduced-motion"),
    ("org.gnome.desktop.interface", "enable-animations"),
    ("org.gnome.desktop.a11y.interface", "high-contrast"),
)


class Wish(Record):
    """What is asked for: colours that stand out more, and nothing that glides."""

    contrast: bool = False
    still: bool = False


def wish_of(settings: Mapping[tuple[str, str], object]) -> Wish:
    """What the settings of a desktop ask for, by namespace and key; what is not there asks for nothing."""
    contrast, reduced, animated, high = (settings.get(each) for each in _SETTINGS)
    return Wish(contrast == 1 or high is True, reduced == 1 or animated is False)


class Wishes(QObject):
    """Asks the desktop, and goes on listening."""

    changed = Signal(object)  # the Wish, when it is another

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.wish = Wish()
        self._settings: dict[tuple[str, str], object] = {}

    def ask(self) -> None:
        """Asks; the answers come when they come."""
        if os.environ.get("DBUS_SESSION_BUS_ADDRESS"):
            from waltzmark.desktop.portal import Portal

            Portal(self.learn, self).ask(_SETTINGS)

    def learn(self, setting: tuple[str, str], value: object) -> None:
        """Takes what a setting is."""
        if setting not in _SETTINGS:
            return
        self._settings[setting] = value
        wish = wish_of(self._settings)
        if wish != self.wish:
            self.wish = wish
            self.changed.emit(wish)
