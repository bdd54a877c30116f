"""A list of things that are offered."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QListView, QListWidget, QListWidgetItem

__all__ = ["OfferList"]


class OfferList(QListWidget):
    """What is offered: touched, it is previewed; Enter or a double click takes it."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setWordWrap(True)
        self.setResizeMode(QListView.ResizeMode.Adjust)  # lines break anew when a scroll bar comes
        self.setMinimumHeight(90)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setTextElideMode(Qt.TextElideMode.ElideNone)

    def show_lines(self, lines: Sequence[str]) -> None:
        """Shows other offers, the chosen one kept where it is still there."""
        if lines == [self.item(n).text() for n in range(self.count())]:
            return
        self.blockSignals(True)
        self.clear()
        for line in lines:
            QListWidgetItem(line, self)
        self.setCurrentRow(-1)
        self.blockSignals(False)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.currentItem() is not None:
            self.itemActivated.emit(self.currentItem())
        else:
            super().keyPressEvent(event)
