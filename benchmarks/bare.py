"""A window with nothing in it: how long it takes to start says how quick the machine is just then."""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import time

__all__ = ["BARE", "bare_window", "environment"]

BARE = """
import os
import numpy
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QApplication, QWidget
application = QApplication([])
class Window(QWidget):
    def paintEvent(self, event):
        QPainter(self).drawText(20, 20, str(numpy.pi))
        os._exit(0)
window = Window()
window.resize(1280, 800)
window.show()
application.exec()
"""


def environment() -> dict[str, str]:
    """As on a user's machine: modules are compiled once."""
    return {key: value for key, value in os.environ.items() if key != "PYTHONDONTWRITEBYTECODE"}


def bare_window(times: int) -> list[float]:
    """Seconds that it takes from the command to the first picture, so many times."""
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        subprocess.run([sys.executable, "-c", BARE], check=True, env=environment(), stderr=subprocess.DEVNULL)
        taken.append(time.perf_counter() - start)
    return taken


if __name__ == "__main__":
    bare_window(1)
    print(f"{statistics.median(bare_window(5)):.3f}")
