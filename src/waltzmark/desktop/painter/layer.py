"""A picture of what stays as it is from one frame to the next."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPixmap

__all__ = ["Layer"]


class Layer:
    """Drawn anew only when what it shows is another than before, and on the same pixels where it is as large: new ones
    take their time. ahead: whether it keeps two pictures, since the next one is drawn before it is shown."""

    def __init__(self, ahead: bool = False) -> None:
        self._kept: list[tuple[object, QPixmap]] = [(None, QPixmap()) for _ in range(2 if ahead else 1)]

    def drawn(
        self, shows: object, size: QSize, ratio: float, draw: Callable[[QPainter], None], clear: bool = False
    ) -> QPixmap:
        """The picture of *shows*, which *draw* draws. ratio: pixels of the device a pixel; clear: it can be seen
        through."""
        shows = _on(shows, size, ratio)
        for at, (shown, pixmap) in enumerate(self._kept):
            if shown == shows:
                self._kept.append(self._kept.pop(at))  # the one used last is drawn over last
                return pixmap
        _, pixmap = self._kept.pop(0)
        if pixmap.size() != size * ratio:
            pixmap = QPixmap(size * ratio)
        pixmap.setDevicePixelRatio(ratio)
        self._kept.append((None, pixmap))
        if clear:
            pixmap.fill(Qt.GlobalColor.transparent)
        with QPainter(pixmap) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            draw(painter)
        self._kept[-1] = shows, pixmap
        return pixmap

    def holds(self, shows: object, size: QSize, ratio: float) -> bool:
        """Whether the picture of *shows* is drawn already."""
        wanted = _on(shows, size, ratio)
        return any(shown == wanted for shown, _ in self._kept)


def _on(shows: object, size: QSize, ratio: float) -> object:
    return shows, size.width(), size.height(), ratio
