"""The windows that are open: each has its own document, all share the settings, and each knows of the others' files."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import QApplication

from waltzmark.desktop.collecting import collect_between_events
from waltzmark.desktop.filing import Filing
from waltzmark.desktop.guard import safely
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.wishes import Wish, Wishes

__all__ = ["all_windows", "heed_desktop", "open_window"]


class _Windows:
    """Those that are open, for each of them."""

    def __init__(self) -> None:
        self.open_ones: list[MainWindow] = []
        self.wishes: Wishes | None = None

    def open(self) -> Filing:
        settings = self.open_ones[-1].desk.settings if self.open_ones else None
        return open_window(settings).filing

    def on(self, path: Path, but: Filing) -> Filing | None:
        for window in self.open_ones:
            theirs = window.filing.document.path
            if window.filing is not but and theirs is not None and _same(theirs, path):
                return window.filing
        return None


def _same(one: Path, other: Path) -> bool:
    try:
        return one.samefile(other)
    except (OSError, ValueError):
        return one == other


_windows = _Windows()


def open_window(
    settings: Settings | None = None, first: Callable[[Filing], object] = lambda _: None, late: bool = False
) -> MainWindow:
    """Opens another window, a little beside the last one, on a new form or what *first* opens. late: see
    `MainWindow`."""
    collect_between_events()
    window = MainWindow(_windows, settings, first=first, late=late)
    if _windows.open_ones:
        last = _windows.open_ones[-1].pos()
        window.move(last.x() + 28, last.y() + 28)
    _windows.open_ones.append(window)
    if _windows.wishes is not None:
        window.looks.take(_windows.wishes.wish)
    window.closed.connect(safely(lambda: _closed(window)))
    window.show()
    return window


def heed_desktop() -> Wishes:
    """Asks what the desktop wishes of all programs; the windows that are open and those to come heed it."""
    wishes = _windows.wishes = Wishes(QApplication.instance())

    def heeded(wish: Wish) -> None:
        for window in _windows.open_ones:
            window.looks.take(wish)

    wishes.changed.connect(safely(heeded))
    wishes.ask()
    return wishes


def _closed(window: MainWindow) -> None:
    """Lets a window go, with all that is in it."""
    _windows.open_ones.remove(window)
    window.deleteLater()


def all_windows() -> tuple[MainWindow, ...]:
    """The windows opened here that are not closed."""
    return tuple(_windows.open_ones)
