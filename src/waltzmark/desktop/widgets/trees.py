"""A tree of things said, whose lines break where the panel ends."""

from __future__ import annotations

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtGui import QFontMetrics, QResizeEvent
from PySide6.QtWidgets import QTreeWidget, QTreeWidgetItem

from waltzmark.desktop.guard import guarded

__all__ = ["WrappedTree"]

_BESIDE, _AROUND = 22, 6  # pixels beside the words of a line, and above and below them


@guarded
class WrappedTree(QTreeWidget):
    """Headings with what is said under each; every line gets the height its words take."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.setAccessibleName(name)
        self.setHeaderHidden(True)
        self.setWordWrap(True)
        self.setUniformRowHeights(False)
        self.setIndentation(12)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOn)  # else lines would break anew
        self.setTextElideMode(Qt.TextElideMode.ElideNone)

    def fit(self) -> None:
        """Gives every line its height; to be called when others have come."""
        wide = self.viewport().width() - _BESIDE
        for n in range(self.topLevelItemCount()):
            if (top := self.topLevelItem(n)) is not None:
                self._fit_item(top, wide - self.indentation())
                for k in range(top.childCount()):
                    if (child := top.child(k)) is not None:
                        self._fit_item(child, wide - 2 * self.indentation())

    def _fit_item(self, item: QTreeWidgetItem, wide: int) -> None:
        words, lines = QFontMetrics(item.font(0)), int(Qt.TextFlag.TextWordWrap)
        high = words.boundingRect(QRect(0, 0, wide, 2000), lines, item.text(0)).height()
        item.setSizeHint(0, QSize(0, high + _AROUND))

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.fit()
