"""Small signs for buttons, in the theme's ink: files in ``resources/icons``, whose INK is its colour."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QByteArray, Qt
from PySide6.QtGui import QIcon, QPainter, QPixmap

from waltzmark.desktop.theme import Theme

__all__ = ["icon"]

_FOLDER = Path(__file__).parent.parent / "resources" / "icons"
_PIXELS = 60  # three for each of a sign's own, so that it is sharp on every screen


def icon(name: str, theme: Theme) -> QIcon:
    """The sign of that name."""
    from PySide6.QtSvg import QSvgRenderer  # a library of its own

    drawing = (_FOLDER / f"{name}.svg").read_text(encoding="utf-8").replace("INK", theme.ink)
    pixmap = QPixmap(_PIXELS, _PIXELS)
    pixmap.fill(Qt.GlobalColor.transparent)
    with QPainter(pixmap) as painter:
        QSvgRenderer(QByteArray(drawing.encode())).render(painter)
    return QIcon(pixmap)
