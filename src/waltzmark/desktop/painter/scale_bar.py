"""A measure laid on the view, so that the plan always shows how large a metre is."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPen

from waltzmark.desktop.theme import Theme, font
from waltzmark.words.figures import Figures

__all__ = ["draw_legend", "draw_scale_bar"]

_ROUND = (1, 2, 5, 10, 20, 50, 100, 200, 500)


def draw_scale_bar(painter: QPainter, size: QSize, scale: float, say: Figures, theme: Theme) -> None:
    """Draws the longest round length that is at most 130 pixels. *scale*: pixels a metre."""
    unit = say.metres_of_unit / (1 if say.unit == "cm" else 10)  # tenths of all but centimetres
    number = max((each for each in _ROUND if each * unit * scale <= 130), default=_ROUND[0])
    wide = number * unit * scale
    left, base = 16.0, size.height() - 14.0
    text = say.length(number * unit).replace(".0 ", " ")  # round numbers need no decimals
    painter.save()
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("raised", 0.85))
    painter.drawRoundedRect(QRectF(left - 8, base - 24, wide + 16, 32), 4, 4)
    painter.setPen(QPen(theme.color("ink"), 1.6))
    painter.drawLine(QPointF(left, base), QPointF(left + wide, base))
    for x in (left, left + wide):
        painter.drawLine(QPointF(x, base - 5), QPointF(x, base + 1))
    painter.setFont(font(9.0))
    painter.drawText(QRectF(left, base - 22, wide, 16), Qt.AlignmentFlag.AlignCenter, text)
    painter.restore()


def draw_legend(painter: QPainter, size: QSize, text: str, theme: Theme) -> None:
    """Draws what a picture's marks mean, in the lower right corner, on a card so that it is read over anything."""
    painter.save()
    painter.setFont(font(9.0))
    painter.setPen(theme.color("ink"))  # without a pen, nothing has bounds
    where = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
    box = QRectF(158.0, size.height() - 42.0, size.width() - 174.0, 36.0)
    card = painter.boundingRect(box, int(where), text).adjusted(-8.0, -3.0, 8.0, 3.0)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("raised", 0.85))
    painter.drawRoundedRect(card, 4, 4)
    painter.setPen(theme.color("ink"))
    painter.drawText(box, int(where), text)
    painter.restore()
