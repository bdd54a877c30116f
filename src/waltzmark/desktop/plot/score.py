"""The score: postures and their counts, drawn; selecting a count here selects it everywhere."""

from __future__ import annotations

from PySide6.QtCore import QItemSelectionModel, QModelIndex
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QAbstractItemView, QListView, QWidget

from waltzmark.desktop.document import Document
from waltzmark.desktop.plot.score_delegate import ScoreDelegate
from waltzmark.desktop.plot.score_model import ENTRY, ScoreEntry, ScoreModel
from waltzmark.desktop.theme import Theme

__all__ = ["ScoreView"]


class ScoreView(QListView):
    """The list of postures and counts."""

    def __init__(self, document: Document, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.rows = ScoreModel(document, self)
        self.painter_of_rows = ScoreDelegate(document, self.rows, theme, self)
        self.setModel(self.rows)
        self.setItemDelegate(self.painter_of_rows)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setResizeMode(QListView.ResizeMode.Adjust)
        self.setAccessibleName("Score")
        self.setAccessibleDescription("Postures and their counts; up and down walk through them")
        self._following = False
        self.selectionModel().currentChanged.connect(self._chosen)
        document.row_changed.connect(self._follow)
        self.rows.modelReset.connect(self._follow)
        self._follow()

    def set_theme(self, theme: Theme) -> None:
        self.painter_of_rows.theme = theme
        self.viewport().update()

    def _chosen(self, current: QModelIndex, _before: QModelIndex) -> None:
        if self._following or not current.isValid():
            return
        entry: ScoreEntry = current.data(ENTRY)
        self._document.go(float(entry.row))

    def _follow(self, _row: int = 0) -> None:
        """Shows the row the document is in, unless the entry chosen already stands for it."""
        current = self.currentIndex()
        if current.isValid() and current.data(ENTRY).row == self._document.row:
            return
        self._following = True
        index = self.rows.index_of_row(self._document.row)
        self.selectionModel().setCurrentIndex(index, QItemSelectionModel.SelectionFlag.ClearAndSelect)
        near = self.viewport().rect().adjusted(0, -60, 0, 60).intersects(self.visualRect(index))
        hints = QAbstractItemView.ScrollHint
        self.scrollTo(index, hints.EnsureVisible if near else hints.PositionAtCenter)
        self._following = False

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.scheduleDelayedItemsLayout()  # words wrap differently
