"""A picture of what stays as it is from one frame to the next."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPixmap

__all__ = ["Layer"]


class Layer:
    """Drawn anew only when what it shows is another than before, and on the same pixels where it is as large: new ones
    take their time."""

    def __init__(self) -> None:
        self._shown: object = None
        self._pixmap = QPixmap()

    def drawn(
        self, shows: object, size: QSize, ratio: float, draw: Callable[[QPainter], None], clear: bool = False
    ) -> QPixmap:
        """The picture of *shows*, which *draw* draws. ratio: pixels of the device a pixel; clear: it can be seen
        through."""
        shows = (shows, size.width(), size.height(), ratio)
        if self._shown != shows:
            self._shown = None
            if self._pixmap.size() != size * ratio:
                self._pixmap = QPixmap(size * ratio)
            self._pixmap.setDevicePixelRatio(ratio)
            if clear:
                self._pixmap.fill(Qt.GlobalColor.transparent)
            painter = QPainter(self._pixmap)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw(painter)
            painter.end()
            self._shown = shows
        return self._pixmap
