"""The field of the entry line: it underlines the word an error points at, offers what can follow, and recalls."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QRect, Qt, Signal
from PySide6.QtGui import (
    QKeyEvent,
    QKeySequence,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QStandardItem,
    QStandardItemModel,
)
from PySide6.QtWidgets import QApplication, QCompleter, QLineEdit

from waltzmark.core.base.errors import ScoreError
from waltzmark.desktop.document import Where
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.core.score.complete import Completion

__all__ = ["EntryField"]

_WHOLE = Qt.ItemDataRole.UserRole + 1  # of an offer: the whole text with the word


@guarded
class EntryField(QLineEdit):
    """A line edit for one count."""

    typed = Signal()
    entered = Signal(str)  # a `Where`
    escaped = Signal()
    recalled = Signal(int)  # back (-1) or forth (+1) through what was entered
    lines_pasted = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.error: ScoreError | None = None
        self._stances: frozenset[str] = frozenset()
        self._torso = 0.0
        self.setFont(font(11.5))
        self.setAccessibleName(tr("Entry line"))
        self.setToolTip(tr("Type a count and press Enter (Ctrl+E comes here); Tab accepts the first suggestion"))
        self.textChanged.connect(safely(self._changed))

    @cached_property
    def _offers(self) -> QStandardItemModel:
        """The words that are offered, in a list that is made when there is something to offer first."""
        model = QStandardItemModel(self)
        completer = QCompleter(model, self)
        completer.setCompletionRole(_WHOLE)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        if popup := completer.popup():
            popup.setFont(font(10.5))
            popup.setObjectName("offers")
        completer.setMaxVisibleItems(9)
        self.setCompleter(completer)
        return model

    def offer(self, stances: frozenset[str], torso: float) -> None:
        """What the words offered depend on: the school's stances, and the torso heading offered first."""
        self._stances, self._torso = stances, torso

    def completions(self) -> tuple[Completion, ...]:
        """What can follow the text up to the cursor's end."""
        from waltzmark.core.score.complete import complete

        return complete(self.text(), self._stances, self._torso)

    def clear_quietly(self) -> None:
        """Clears the field without saying so, of what has been entered: undo goes to the form then."""
        self.blockSignals(True)
        self.setText("")
        self.blockSignals(False)

    def _hide_offers(self) -> bool:
        """Whether there were any to be seen."""
        popup = completer.popup() if (completer := self.completer()) else None
        if popup is None or not popup.isVisible():
            return False
        popup.hide()
        return True

    def _changed(self) -> None:
        # Filled before the line edit asks its completer, which is after this signal.
        self._offers.clear()
        for each in self.completions() if self.text() else ():
            item = QStandardItem(each.word)
            item.setData(each.text, _WHOLE)
            self._offers.appendRow(item)
        if not self._offers.rowCount():
            self._hide_offers()
        self.typed.emit()

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride:
            undo, redo = QKeySequence.StandardKey.Undo, QKeySequence.StandardKey.Redo
            typed = self.isUndoAvailable() if event.matches(undo) else self.isRedoAvailable()
            if not typed and (event.matches(undo) or event.matches(redo)):
                event.ignore()  # what was typed is all taken back, or entered
                return False
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress and event.key() == Qt.Key.Key_Tab:
            offers = self.completions() if self.text() else ()
            if offers:
                self._hide_offers()
                self.setText(offers[0].text + " ")
                return True
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key, modifiers = event.key(), event.modifiers()
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._hide_offers()
            where: Where = "after"
            if modifiers & Qt.KeyboardModifier.ShiftModifier:
                where = "before"
            elif modifiers & Qt.KeyboardModifier.ControlModifier:
                where = "end"
            self.entered.emit(where)
        elif key == Qt.Key.Key_Escape:
            if not self._hide_offers():  # those go first
                self.escaped.emit()
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self.recalled.emit(-1 if key == Qt.Key.Key_Up else 1)
        elif event.matches(QKeySequence.StandardKey.Paste) and "\n" in QApplication.clipboard().text().strip():
            self.lines_pasted.emit(QApplication.clipboard().text())
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if self.error is None or not self.text():
            return
        from PySide6.QtWidgets import QStyle, QStyleOptionFrame  # their enumerations take a while to be made

        option = QStyleOptionFrame()
        self.initStyleOption(option)
        box: QRect = self.style().subElementRect(QStyle.SubElement.SE_LineEditContents, option, self)
        metrics, text = self.fontMetrics(), self.text()
        # The cursor tells how far the text is scrolled.
        shift = self.cursorRect().center().x() - metrics.horizontalAdvance(text[: self.cursorPosition()])
        start = self.error.column - 1
        x0 = shift + metrics.horizontalAdvance(text[:start])
        x1 = max(shift + metrics.horizontalAdvance(text[: start + self.error.length]), x0 + 10)
        y = box.center().y() + metrics.height() // 2 + 1
        path = QPainterPath()
        path.moveTo(x0, y)
        x, up = x0, True
        while x < x1:
            x += 3
            path.lineTo(x, y - 2 if up else y)
            up = not up
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(QPen(self.theme.color("stop"), 1.4))
            painter.drawPath(path)
