"""Boxes of one colour."""

from __future__ import annotations

from PySide6.QtCore import QRect, QRectF
from PySide6.QtGui import QColor, QPainter, QPainterPath

__all__ = ["fill_box"]


def fill_box(painter: QPainter, box: QRect | QRectF, color: QColor) -> None:
    """Fills a box. For ``QPainter.fillRect`` PySide6 makes all gradients known that Qt has a name for, while the first
    picture of a window waits."""
    path = QPainterPath()
    path.addRect(QRectF(box))
    painter.fillPath(path, color)
