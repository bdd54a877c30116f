"""Waiting as the application does: for what is true in the end, with the interpreter let go of meanwhile.

`QTest.qWait` holds the interpreter, so that what works in a thread beside comes to nothing for as long.
"""

from __future__ import annotations

import time
from collections.abc import Callable

from PySide6.QtCore import QCoreApplication, QEventLoop, QTimer

__all__ = ["rest", "until"]


def rest(ms: int) -> None:
    """Lets the hands rest."""
    if QCoreApplication.instance() is None:  # a loop of no application never ends
        time.sleep(ms / 1000.0)
        return
    loop = QEventLoop()
    QTimer.singleShot(ms, loop.quit)
    loop.exec()


def until(true: Callable[[], object], seconds: float = 20.0) -> None:
    """Waits until something is true; an error when it never is."""
    end = time.monotonic() + seconds
    while not true():
        if time.monotonic() > end:
            raise AssertionError(f"not within {seconds:g} s")
        rest(2)
