"""A list of things that are offered."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtGui import QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QListView, QListWidget, QListWidgetItem

from waltzmark.desktop.guard import guarded

__all__ = ["OfferList"]

_BESIDE, _AROUND = 26, 14  # pixels beside the words of an offer, and above and below them


@guarded
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

    def sizeHint(self) -> QSize:
        """No more than it needs: a panel whose lists wanted more than there is would scroll its buttons out of view."""
        return QSize(super().sizeHint().width(), self.minimumHeight())

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
        self._fit()

    def _fit(self) -> None:
        """Gives every offer the height its words take; the list reckons without its own margins."""
        wide = QRect(0, 0, self.viewport().width() - _BESIDE, 1000)
        for number in range(self.count()):
            item = self.item(number)
            text = self.fontMetrics().boundingRect(wide, int(Qt.TextFlag.TextWordWrap), item.text())
            item.setSizeHint(QSize(0, text.height() + _AROUND))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._fit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.currentItem() is not None:
            self.itemActivated.emit(self.currentItem())
        else:
            super().keyPressEvent(event)
