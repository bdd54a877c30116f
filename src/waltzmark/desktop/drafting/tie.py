"""The line that ties the count under the hand to its words."""

from __future__ import annotations

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from waltzmark.desktop.drafting.draft_rows import DraftRows
from waltzmark.desktop.drafting.page_text import PageText
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.theme import Theme

__all__ = ["Tie"]


@guarded
class Tie(QWidget):
    """Lies over text and rows, and takes nothing."""

    def __init__(self, text: PageText, rows: DraftRows, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._text, self._rows, self.theme, self._over = text, rows, theme, parent
        self.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setAttribute(Qt.WidgetAttribute.WA_NoSystemBackground)
        for view in (text, rows):
            view.verticalScrollBar().valueChanged.connect(safely(self.update))
        text.updateRequest.connect(safely(lambda _rect, _by: self.update()))

    def ends(self) -> tuple[QPointF, QPointF] | None:
        """Where it begins and ends; None where one of both is not seen."""
        words, row = self._text.hand_at(), self._rows.hand_at()
        if words is None or row is None or not self._rows.isVisible():
            return None
        start = self._text.viewport().mapTo(self._over, words.toPoint())
        end = self._rows.viewport().mapTo(self._over, row.toPoint())
        return QPointF(start), QPointF(end)

    def paintEvent(self, _event: QPaintEvent) -> None:
        ends = self.ends()
        if ends is None:
            return
        start, end = ends
        margin = self._text.mapTo(self._over, self._text.rect().topRight()).x()
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(QPen(self.theme.color("centre", 0.8), 1.6))
            path = QPainterPath(start)
            path.lineTo(QPointF(margin - 10.0, start.y()))
            path.cubicTo(QPointF(margin + 4.0, start.y()), QPointF(margin - 10.0, end.y()), end)
            painter.drawPath(path)
