"""The score: postures and their counts, drawn; selecting a count here selects it everywhere."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QItemSelection, QItemSelectionModel, QModelIndex, QPoint, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QAbstractItemView, QWidget

from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.plot.score_delegate import COUNT_HEIGHT, ScoreDelegate
from waltzmark.desktop.plot.score_model import ENTRY, EntryKind, ScoreEntry, ScoreModel
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.rows import RowsView
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.plot.row_drag import RowDrag

__all__ = ["ScoreView"]

_DRAWN = (EntryKind.OPENING, EntryKind.COUNT)  # rows with a beam and a dial


@guarded
class ScoreView(RowsView):
    """The list of postures and counts. Neighbouring lines of one posture can be selected together.

    The beam of a row is dragged to pour, its dial to turn the waist; Alt turns snapping off, Escape lets go.
    """

    change_wanted = Signal()  # the selected line is to be changed
    menu_wanted = Signal(QPoint)  # here on the screen

    def __init__(self, document: Document, editor: Editor, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(COUNT_HEIGHT, parent)
        self._document, self._editor, self._theme = document, editor, theme
        self.hand: RowDrag | None = None
        self._pointer = QPointF()
        self.rows = ScoreModel(document, self)
        self.painter_of_rows = ScoreDelegate(document, self.rows, theme, self)
        self.set_rows(self.rows, self.painter_of_rows.height)
        self.setItemDelegate(self.painter_of_rows)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ContiguousSelection)
        self.setAccessibleName(tr("Score"))
        self.setAccessibleDescription(tr("Postures and their counts; the up and down keys move through them"))
        self._following = False
        self.selectionModel().selectionChanged.connect(safely(self._chosen))
        self.doubleClicked.connect(safely(self._double_clicked))
        document.session.selected.connect(safely(self._follow))
        document.form_changed.connect(safely(self._look_again))
        self._follow()

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.painter_of_rows.theme = theme
        self.viewport().update()

    def _look_again(self) -> None:
        """Draws the rows in view anew that look otherwise than before: a walk that changed may change any."""
        first, last = self.rowAt(0), self.rowAt(self.viewport().height() - 1)
        last = last if last >= 0 else len(self.rows.entries) - 1
        for row in range(max(first, 0), last + 1):
            if self.painter_of_rows.looks_new(row):
                self.viewport().update(self.visualRect(self.rows.index(row)))

    def _chosen(self, _selected: QItemSelection, _deselected: QItemSelection) -> None:
        """Takes over what is selected here: lines of the posture of the current entry."""
        current = self.currentIndex()
        if self._following or self.rows.changing or not current.isValid():
            return
        entry: ScoreEntry = current.data(ENTRY)
        if entry.posture is None or entry.line < 0:
            self._document.session.select(Selection(entry.posture.id if entry.posture else None))
            return
        chosen: list[ScoreEntry] = [index.data(ENTRY) for index in self.selectedIndexes()]
        lines = [e.line for e in chosen if e.posture is entry.posture and e.line >= 0] or [entry.line]
        self._document.session.select(Selection(entry.posture.id, min(lines), max(lines) + 1))

    def _follow(self) -> None:
        """Shows what the document has selected."""
        first, last = self.rows.span_of(self._document.session.selection)
        self._following = True
        flags = QItemSelectionModel.SelectionFlag
        model = self.selectionModel()
        if {index.row() for index in self.selectedIndexes()} != set(range(first, last + 1)):
            model.select(QItemSelection(self.rows.index(first), self.rows.index(last)), flags.ClearAndSelect)
        if not first <= self.currentIndex().row() <= last:
            model.setCurrentIndex(self.rows.index(last), flags.NoUpdate)
        index = self.currentIndex()
        near = self.viewport().rect().adjusted(0, -60, 0, 60).intersects(self.visualRect(index))
        hints = QAbstractItemView.ScrollHint
        self.scrollTo(index, hints.EnsureVisible if near else hints.PositionAtCenter)
        self._following = False

    def _double_clicked(self, index: QModelIndex) -> None:
        entry: ScoreEntry = index.data(ENTRY)
        if entry.kind not in (EntryKind.OPENING, EntryKind.POSTURE):
            self.change_wanted.emit()

    # Hands on the beam and the dial.

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        index = self.indexAt(event.position().toPoint())
        if event.button() != Qt.MouseButton.LeftButton or not index.isValid():
            return
        entry: ScoreEntry = index.data(ENTRY)
        row = QRectF(self.visualRect(index))
        from waltzmark.desktop.plot.row_drag import RowDrag, handle_at  # not needed until something is taken

        handle = handle_at(row, event.position()) if entry.kind in _DRAWN else None
        if handle is not None and self._document.session.row == entry.row:
            self._document.session.go(float(entry.row))
            self.hand = RowDrag(self._document, self._editor, handle, row, event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.hand is None:
            super().mouseMoveEvent(event)
            return
        self._pointer = event.position()
        self.hand.move(event.position(), bool(event.modifiers() & Qt.KeyboardModifier.AltModifier))
        self.viewport().update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        hand, self.hand = self.hand, None
        if hand is None:
            super().mouseReleaseEvent(event)
        else:
            hand.drag.release()
            self.viewport().update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.hand is not None:
            self.hand.drag.cancel()
            self.hand = None
            self.viewport().update()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if self.hand is not None and self.hand.drag.label:
            with QPainter(self.viewport()) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                wide = self.viewport().width()
                at = QPointF(min(max(self._pointer.x(), 110.0), wide - 110.0), max(self._pointer.y() - 26, 14.0))
                draw_tag(painter, at, self.hand.drag.label, self._theme)

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self.menu_wanted.emit(event.globalPos())
