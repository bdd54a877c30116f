"""Measures plotting by driving the real window offscreen: ``make bench`` runs it after the rest.

Every figure is the time from a key press or a pointer's move to everything repainted, given in frames of a display
that shows 60 a second, since that is what the hand feels. Before and after each of them bare windows are started, and a
plain Python loop is timed in between: they tell how quick, and how even, the machine was meanwhile.
"""

from __future__ import annotations

import gc
import os
import resource
import sys
import tempfile
import time
from collections.abc import Callable

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("QT_LOGGING_RULES", "default.warning=false")  # what the offscreen screen cannot do
os.environ["XDG_CONFIG_HOME"] = tempfile.mkdtemp(prefix="waltzmark-bench-")
os.environ["XDG_STATE_HOME"] = tempfile.mkdtemp(prefix="waltzmark-bench-")

import numpy as np
from PySide6.QtCore import QEvent, QEventLoop, QPointF, QSizeF, Qt, QTimer
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from bare import bare_window
from made_form import made_text
from waltzmark.core.score.read import read_count
from waltzmark.demo import demo_text
from waltzmark.desktop.app import make_application, settle
from waltzmark.desktop.history import Selection
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import open_window

FRAME = 1.0 / 60.0
#: Seconds of the plain loop in between.
machine: list[float] = []
#: Seconds that bare windows took before what is measured.
windows: list[float] = []
_WINDOWS = 5
_BETWEEN_KEYS_MS = 100
_BETWEEN_COUNTS_MS = 400
_LEFT = Qt.MouseButton.LeftButton


def opened(text: str) -> MainWindow:
    """The window on a form, its middle count that steps selected, the findings open."""
    window = open_window()
    window.resize(1280, 800)
    window.document.open_text(text)
    window.show()
    window.desk.book["findings"].setChecked(True)
    settle(window)
    document = window.document
    middle = document.form.postures[len(document.form.postures) // 2]
    row = document.trace.row_of(middle.id, 5)
    document.session.go(float(row))
    settle(window)
    return window


def rest(ms: int) -> None:
    """Lets some time pass as it does in the application, where the background thread works meanwhile: QTest.qWait does
    not let go of the interpreter."""
    loop = QEventLoop()
    QTimer.singleShot(ms, loop.quit)
    loop.exec()


def look_at_machine() -> None:
    """Times a loop that takes 5 to 10 ms on a machine that is left alone."""
    start, total = time.perf_counter(), 0
    for number in range(100_000):
        total += number
    machine.append(time.perf_counter() - start)


def painted(task: Callable[[], object], times: int, between: int = 5) -> np.ndarray[tuple[int], np.dtype[np.float64]]:
    """Seconds (times,) from the beginning of a task to everything repainted; milliseconds between two of them."""
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        task()
        QApplication.processEvents()
        taken.append(time.perf_counter() - start)
        rest(between)
        look_at_machine()
    return np.array(taken)


def report(what: str, taken: np.ndarray[tuple[int], np.dtype[np.float64]], aim: str) -> None:
    middle, worst = float(np.median(taken)), float(np.percentile(taken, 95))
    bare = float(np.median([*windows, *bare_window(_WINDOWS)]))
    windows.clear()
    figures = f"median {1e3 * middle:.1f} ms, 95 % {1e3 * worst:.1f} ms, bare window {bare:.2f} s"
    print(f"{worst / FRAME:8.2f}  {what}, 95 % / one frame of 60 a second  ({figures}, {aim})", flush=True)
    usual, slow = 1e3 * float(np.median(machine)), 1e3 * float(np.percentile(machine, 95))
    print(f"{slow / usual:8.2f}  a plain loop meanwhile, 95 % / median  ({slow:.1f} ms / {usual:.1f} ms)", flush=True)
    machine.clear()


def entering(window: MainWindow, size: str, aim: str) -> None:
    """A count in the middle is changed: the key press that enters it, as somebody types who is quick."""
    field, numbers, keys = window.plot.entry.field, iter(range(10_000)), Qt.Key
    taken = []
    for _ in range(60):
        window.plot.entry.change_selected()
        field.setText(f"step R 12 bow {40 + next(numbers) % 20}x3")
        rest(_BETWEEN_COUNTS_MS)
        QTest.keyClicks(field, "5")
        rest(_BETWEEN_KEYS_MS)
        taken.append(painted(lambda: QTest.keyClick(field, keys.Key_Return), 1)[0])
    report(f"changing one count in the middle of {size}", np.array(taken), aim)


def undoing(window: MainWindow, size: str, aim: str) -> None:
    """Those changes taken back one by one."""
    taken = []
    for _ in range(60):
        rest(_BETWEEN_COUNTS_MS)
        taken.append(painted(window.desk.book["undo"].trigger, 1)[0])
    report(f"undoing such a change of {size}", np.array(taken), aim)


def typing(window: MainWindow, size: str, aim: str) -> None:
    """Each key of a count typed in the middle, with its ghost: ten keys a second, as somebody types who is quick."""
    field, keys = window.plot.entry.field, "step L 3 bow 50x31, torso 3"
    field.setFocus()
    taken: list[float] = []
    for _ in range(4):
        field.clear()
        left = iter(keys)
        press = lambda left=left: QTest.keyClicks(field, next(left))  # noqa: E731 - keys of its own
        taken += painted(press, len(keys), _BETWEEN_KEYS_MS).tolist()
    field.clear()
    report(f"one key of a count typed in the middle of {size}", np.array(taken), aim)


def _mouse(widget: QWidget, kind: QEvent.Type, at: QPointF) -> None:
    button = Qt.MouseButton.NoButton if kind == QEvent.Type.MouseMove else _LEFT
    event = QMouseEvent(kind, at, widget.mapToGlobal(at), button, _LEFT, Qt.KeyboardModifier.NoModifier)
    QApplication.sendEvent(widget, event)


def dragging(window: MainWindow, size: str, aim: str) -> None:
    """A foot dragged over the floor, each move of the pointer."""
    document, floor = window.document, window.plot.floor
    foot = document.session.pose.right
    start = floor.camera.transform(QSizeF(floor.size())).map(QPointF(foot.x, foot.y))
    _mouse(floor, QEvent.Type.MouseButtonPress, start)
    steps = iter(range(10_000))

    def move() -> None:
        k = next(steps)
        _mouse(floor, QEvent.Type.MouseMove, start + QPointF(5 + k % 40, 5 + k % 23))

    taken = painted(move, 120)
    floor.hand = None
    document.show_ghost(None)
    report(f"one move of a dragged foot in the middle of {size}", taken, aim)


def remembering(window: MainWindow, edits: int = 10_000) -> None:
    """Memory and the reference count of None over many edits and undos of the demo."""
    document, editor = window.document, window.editor
    counts = [read_count(f"step L 12 bow {40 + n}x35") for n in range(20)]
    document.session.select(Selection("coil", 4, 5))

    def work(times: int) -> None:
        for n in range(times):
            if n % 2:
                document.undo()
            else:
                editor.change(counts[n // 2 % 20])
            if n % 50 == 0:
                QApplication.processEvents()

    def held() -> float:
        gc.collect()
        with open("/proc/self/statm") as file:
            return int(file.read().split()[1]) * resource.getpagesize() / 1e6

    work(600)  # caches fill
    before, least, nones = held(), sys.getrefcount(None), [sys.getrefcount(None)]
    for _ in range(10):
        work(edits // 10)
        nones.append(sys.getrefcount(None))
    after = held()
    print(
        f"{after / before:8.2f}  memory after {edits:,} edits and undos / before  ({after:.0f} MB / {before:.0f} MB)",
        flush=True,
    )
    print(
        f"{min(nones) / least:8.2f}  least reference count of None meanwhile / before  "
        f"({min(nones):,} / {least:,}; must not fall)",
        flush=True,
    )


def close(window: MainWindow) -> None:
    window.document.close()
    window.hide()


def main() -> None:
    make_application()
    for counts, aim in ((1500, "aim 16.7 ms"), (650, "aim 8.3 ms")):
        window = opened(made_text(counts))
        for measure in (entering, undoing, typing, dragging):
            windows.extend(bare_window(_WINDOWS))
            measure(window, f"{counts:,}", aim)
        close(window)
    window = opened(made_text(100))
    window.document.open_text(demo_text())
    remembering(window)
    close(window)


if __name__ == "__main__":
    main()
