"""Work off the interface thread: the review of a walk, of which only the newest one matters."""

from __future__ import annotations

from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer, Signal

from waltzmark.core.base.figures import Figures
from waltzmark.core.form.form import Form
from waltzmark.core.walk.trace import Trace

__all__ = ["Reviewer"]

_PAUSE_MS = 120


class _Signals(QObject):
    finished = Signal(object, object, object)


class _Job(QRunnable):
    def __init__(self, form: Form, trace: Trace, say: Figures, signals: _Signals) -> None:
        super().__init__()
        self._form, self._trace, self._say, self._signals = form, trace, say, signals

    def run(self) -> None:
        # Imported here: it brings Shapely, which the window need not wait for.
        from waltzmark.core.answers.review import review

        try:
            result: object = review(self._form, self._trace, self._say)
            error: Exception | None = None
        except Exception as caught:  # a thread's exception would be lost; the interface thread raises it again
            result, error = None, caught
        self._signals.finished.emit(self._trace, result, error)


class Reviewer(QObject):
    """Reviews walks one after the other; asked again while at work, it goes on with the newest only."""

    done = Signal(object, object)  # Trace, Review

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._signals = _Signals(self)
        self._signals.finished.connect(self._finished)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._waiting: tuple[Form, Trace, Figures] | None = None
        self._working = False
        self._pause = QTimer(self)
        self._pause.setSingleShot(True)
        self._pause.timeout.connect(self._begin)

    @property
    def busy(self) -> bool:
        return self._working or self._waiting is not None

    def ask(self, form: Form, trace: Trace, say: Figures) -> None:
        """Asks for the review of a walk; `done` brings it."""
        self._waiting = (form, trace, say)
        if not self._working:
            self._pause.start(_PAUSE_MS)  # what asked is painted first; quick edits become one

    def _begin(self) -> None:
        if self._waiting is None:
            return
        (form, trace, say), self._waiting, self._working = self._waiting, None, True
        self._pool.start(_Job(form, trace, say, self._signals))

    def _finished(self, trace: Trace, result: object, error: Exception | None) -> None:
        self._working = False
        if self._waiting is not None:
            self._pause.start(_PAUSE_MS)
        if error is not None:
            raise error
        self.done.emit(trace, result)

    def wait(self) -> None:
        """Waits for the thread to end, for a window that closes."""
        self._waiting = None
        self._pause.stop()
        self._pool.waitForDone()
