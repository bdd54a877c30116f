"""How the window looks: light or dark, with how much contrast, and whether what is walked glides.

What somebody chooses here is kept; where nothing is chosen it is as the desktop asks.
"""

from __future__ import annotations

from PySide6.QtCore import QObject, Signal

from waltzmark.desktop.settings import Settings
from waltzmark.desktop.theme import Theme, theme_of
from waltzmark.desktop.wishes import Wish

__all__ = ["Looks"]


class Looks(QObject):
    """The look of a window."""

    changed = Signal()

    def __init__(self, settings: Settings, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._settings = settings
        self._wish = Wish()

    @property
    def dark(self) -> bool:
        """Whether it is dark."""
        return self._settings.text("theme", "light") == "dark"

    @property
    def contrast(self) -> bool:
        """Whether its colours stand out more."""
        return self._chosen("contrast", self._wish.contrast)

    @property
    def still(self) -> bool:
        """Whether the walk goes from count to count without gliding."""
        return self._chosen("still", self._wish.still)

    @property
    def theme(self) -> Theme:
        """Its colours."""
        return theme_of(self.dark, self.contrast)

    def set_dark(self, on: bool) -> None:
        self._keep("theme", "dark" if on else "light")

    def set_contrast(self, on: bool) -> None:
        self._keep("contrast", "on" if on else "off")

    def set_still(self, on: bool) -> None:
        self._keep("still", "on" if on else "off")

    def take(self, wish: Wish) -> None:
        """Heeds what the desktop asks for."""
        self._wish = wish
        self.changed.emit()

    def _chosen(self, key: str, wished: bool) -> bool:
        return {"on": True, "off": False}.get(self._settings.text(key, ""), wished)

    def _keep(self, key: str, value: str) -> None:
        self._settings.set_text(key, value)
        self.changed.emit()
