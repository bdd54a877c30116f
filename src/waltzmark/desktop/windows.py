"""The windows that are open: each has its own document, all share the settings."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from waltzmark.desktop.settings import Settings
    from waltzmark.desktop.window import MainWindow

__all__ = ["all_windows", "open_window"]

_open: list[MainWindow] = []


def open_window(settings: Settings | None = None) -> MainWindow:
    """Opens another window on a new form, a little beside the last one."""
    # Imported here: windows make their actions, which can open windows.
    from waltzmark.desktop.window import MainWindow

    window = MainWindow(settings)
    if _open:
        window.move(_open[-1].pos().x() + 28, _open[-1].pos().y() + 28)
    _open.append(window)
    window.closed.connect(lambda: _open.remove(window))
    window.show()
    return window


def all_windows() -> tuple[MainWindow, ...]:
    """The windows opened here that are not closed."""
    return tuple(_open)
