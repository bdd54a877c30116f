"""A window as large as it wants to be, but no larger than the screen has room for, its frame included."""

from __future__ import annotations

from PySide6.QtCore import QByteArray, QSize
from PySide6.QtWidgets import QMainWindow

__all__ = ["fit_frame", "fit_screen"]


def fit_screen(window: QMainWindow, kept: QByteArray | None) -> QSize:
    """Gives a window its size, as it was *kept* if it was, and returns it."""
    free = window.screen().availableGeometry()
    window.setMinimumSize(min(900, free.width()), min(600, free.height() - 40))
    window.resize(min(1280, free.width()), min(800, free.height() - 40))
    if kept is not None:
        window.restoreGeometry(kept)
    return window.size()


def fit_frame(window: QMainWindow, chosen: QSize) -> None:
    """Moves and shrinks a window whose frame does not lie on the screen, unless somebody has made it as large as it is.
    chosen: the size that it was given."""
    free, frame = window.screen().availableGeometry(), window.frameGeometry()
    own = window.size() != chosen
    if own or window.isMaximized() or window.isFullScreen() or free.contains(frame):
        return
    wide, high = max(frame.width() - free.width(), 0), max(frame.height() - free.height(), 0)
    if wide or high:
        window.resize(window.width() - wide, window.height() - high)
        frame = window.frameGeometry()
    x = min(max(frame.x(), free.x()), max(free.right() - frame.width() + 1, free.x()))
    y = min(max(frame.y(), free.y()), max(free.bottom() - frame.height() + 1, free.y()))
    window.move(x, y)
