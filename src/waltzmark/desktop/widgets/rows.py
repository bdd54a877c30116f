"""Long lists whose rows differ in height: an edit changes only the rows it is about.

They are tables of one column, since a table remembers the height of each row: a list would ask for all of them after
every change.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import compress, count
from operator import is_not
from typing import Any

from PySide6.QtCore import QAbstractListModel, QEvent, QModelIndex, QObject, QPersistentModelIndex, QTimer, Signal
from PySide6.QtGui import QPalette, QResizeEvent
from PySide6.QtWidgets import QAbstractItemView, QHeaderView, QTableView, QWidget

from waltzmark.desktop.guard import guarded, safely

__all__ = ["RowsModel", "RowsView"]


@guarded
class RowsModel(QAbstractListModel):
    """Rows of entries; entries that are equal take the same room. changing: while rows come and go, when those that are
    still there may be about what is no more."""

    exchanged = Signal()

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.entries: Sequence[Any] = ()
        self.changing = False

    def rowCount(self, parent: QModelIndex | QPersistentModelIndex | None = None) -> int:
        return 0 if parent is not None and parent.isValid() else len(self.entries)

    def exchange(self, entries: Sequence[Any]) -> None:
        """Takes other entries: changes the rows between those that are the same at the beginning and at the end."""
        old, least = self.entries, min(len(self.entries), len(entries))
        same = _same(old, entries)
        after = min(_same(old[::-1], entries[::-1]), least - same)
        gone, new = len(old) - same - after, len(entries) - same - after
        both, none = same + min(gone, new), QModelIndex()
        self.changing = True
        if gone > new:
            self.beginRemoveRows(none, both, same + gone - 1)
            self.entries = entries
            self.endRemoveRows()
        elif new > gone:
            self.beginInsertRows(none, both, same + new - 1)
            self.entries = entries
            self.endInsertRows()
        self.entries = entries
        self.changing = False
        if new:
            self.dataChanged.emit(self.index(same), self.index(same + new - 1))
        self.exchanged.emit()


def _same(old: Sequence[Any], new: Sequence[Any]) -> int:
    """How many entries are the same from the beginning on."""
    # Most are the very same, which is told more quickly than that they are equal.
    for at in compress(count(), map(is_not, old, new)):
        if old[at] != new[at]:
            return at
    return min(len(old), len(new))


@guarded
class RowsView(QTableView):
    """Shows a `RowsModel`; *height_of* says how high an entry's row is, in pixels."""

    def __init__(self, usual: int, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        seen = QWidget()  # for one that Qt made, PySide6 would look through all classes of widgets
        seen.setBackgroundRole(QPalette.ColorRole.Window)
        seen.setAutoFillBackground(True)  # nothing behind it has to be painted
        self.setViewport(seen)
        self.setFrameShape(QTableView.Shape.NoFrame)
        self.height_of: Callable[[Any], int] = lambda _: usual
        self._seen = self._wrapping = False
        self.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setShowGrid(False)
        self.setTabKeyNavigation(False)
        self.horizontalHeader().hide()
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        self.verticalHeader().hide()
        self.verticalHeader().setMinimumSectionSize(10)
        self.verticalHeader().setDefaultSectionSize(usual)

    def set_rows(self, rows: RowsModel, height_of: Callable[[Any], int]) -> None:
        """Shows these rows."""
        self.height_of = height_of
        self.setModel(rows)
        rows.dataChanged.connect(safely(lambda first, last: self.size_rows(first.row(), last.row())))
        rows.exchanged.connect(safely(self._size_current))
        if self.isVisible():  # else once it has its width
            self.size_all()

    def _size_current(self) -> None:
        """The current row may be another one now, and a current one may tell more."""
        row = self.currentIndex().row()
        if row >= 0:
            self.size_rows(row, row)

    def viewportEvent(self, event: QEvent) -> bool:
        """The rows look the same in a window that is active and in one that is not: offers that come up while somebody
        types are no reason to draw them anew."""
        if event.type() in (QEvent.Type.WindowActivate, QEvent.Type.WindowDeactivate):
            return False
        return super().viewportEvent(event)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if event.oldSize().width() != event.size().width():
            current = self.currentIndex()
            self._seen = self._seen or self.viewport().rect().intersects(self.visualRect(current))
            if not self._wrapping:
                self._wrapping = True
                QTimer.singleShot(0, self, safely(self._resized))  # words wrap differently

    def _resized(self) -> None:
        """Wraps the words anew; a current row that was in view stays in view."""
        self._wrapping = False
        self.size_all()
        if self._seen and self.currentIndex().isValid():
            self.updateGeometries()  # how far one can scroll is told late otherwise
            self.scrollTo(self.currentIndex())
        self._seen = False

    def size_all(self) -> None:
        """Gives every row the height that its words need."""
        model = self.model()
        self.size_rows(0, model.rowCount() - 1 if model is not None else -1)

    def size_rows(self, first: int, last: int) -> None:
        """Gives some rows the height that their words need."""
        model = self.model()
        assert model is None or isinstance(model, RowsModel)
        if model is None or model.changing:
            return
        for row in range(first, last + 1):
            height = self.height_of(model.entries[row])
            if self.rowHeight(row) != height:
                self.setRowHeight(row, height)
