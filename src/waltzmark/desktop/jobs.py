"""The one way to run long work: off the interface thread, or in a process of its own.

An asker has one thing running at the most. Asked again, it goes on with the newest: what waits is forgotten, what runs
is told to stop, and whatever still comes of it is passed over. Results, progress and errors come back on the interface
thread. Closing waits for nothing: what still runs finds nobody to talk to, and ends with the program.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal
from shiboken6 import isValid

from waltzmark.core.base.progress import Progress, StoppedError
from waltzmark.core.base.records import Record, field
from waltzmark.desktop.courier import courier
from waltzmark.desktop.guard import safely

__all__ = ["Jobs", "Work"]

#: What is done: it is given whom to tell how far it is, and returns what came of it.
Work = Callable[[Progress], Any]


class _Asked(Record, eq=False):
    """Who is told what of a job."""

    done: Callable[[Any], None]
    failed: Callable[[BaseException], None] | None
    progress: Callable[[float, str], None] | None
    partial: Callable[[Any], None] | None


class _Job(Record, eq=False):
    """What a thread knows of a job: not who asked, who would live as long as it runs."""

    asker: str
    work: Work
    process: bool
    alone: bool
    strange: bool
    stopped: threading.Event = field(default_factory=threading.Event)


class _Teller:
    """The progress of a job in a thread."""

    def __init__(self, job: _Job, send: Callable[[str, object], None]) -> None:
        self._job, self._send = job, send

    def tell(self, share: float, words: str = "") -> None:
        if self._job.stopped.is_set():
            raise StoppedError
        self._send("progress", (share, words))

    def hand_out(self, so_far: object) -> None:
        if not self._job.stopped.is_set():
            self._send("partial", so_far)


class Jobs(QObject):
    """Runs the long work of a window."""

    #: Something went wrong in work whose asker has no way to tell of it: asker, error.
    trouble = Signal(str, object)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._courier = courier()
        self._asked: dict[_Job, _Asked] = {}
        self._waiting: dict[str, _Job] = {}
        self._running: dict[str, _Job] = {}
        self._pauses: dict[str, QTimer] = {}
        self._closed = False

    def ask(
        self,
        asker: str,
        work: Work,
        done: Callable[[Any], None],
        *,
        failed: Callable[[BaseException], None] | None = None,
        progress: Callable[[float, str], None] | None = None,
        partial: Callable[[Any], None] | None = None,
        pause: int = 0,
        process: bool = False,
        alone: bool = False,
        strange: bool = False,
    ) -> None:
        """Asks for work in the name of an asker.

        done: is given the result. failed: is given the error; without it, `trouble` tells. progress, partial: are told
        how far it is, and given what it has so far. pause: milliseconds to wait for something newer before it begins.
        process: it runs in another process, so that it does not hold the interpreter; it and what it returns must be
        such as can be pickled. alone: as that, in a process that does nothing before or after it, since it changes what
        others would find. strange: alone, and it reads what somebody else made: it is ended, as an error, where that
        takes more than half a minute's work or three gigabytes.
        """
        if self._closed:
            return
        self.stop(asker)
        job = self._waiting[asker] = _Job(asker, work, process or alone or strange, alone or strange, strange)
        self._asked[job] = _Asked(done, failed, progress, partial)
        timer = self._pauses.get(asker)
        if timer is None:
            timer = self._pauses[asker] = QTimer(self)
            timer.setSingleShot(True)
            timer.timeout.connect(safely(lambda: self._begin(asker)))
        timer.start(pause)

    def stop(self, asker: str) -> None:
        """What an asker asked for is no longer wanted."""
        if asker in self._waiting:
            self._asked.pop(self._waiting.pop(asker), None)
        if asker in self._pauses:
            self._pauses[asker].stop()
        if asker in self._running:
            self._running[asker].stopped.set()
            self._asked.pop(self._running[asker], None)

    def busy(self, asker: str) -> bool:
        """Whether something wanted of an asker waits or runs."""
        running = self._running.get(asker)
        return asker in self._waiting or (running is not None and not running.stopped.is_set())

    def close(self) -> None:
        """Stops everything, without waiting for it."""
        self._closed = True
        for asker in {*self._waiting, *self._running}:
            self.stop(asker)

    def _begin(self, asker: str) -> None:
        if asker in self._running or asker not in self._waiting:
            return  # what runs hands over when it has ended
        job = self._running[asker] = self._waiting.pop(asker)
        run = self._run_far_away if job.process else self._run
        threading.Thread(target=run, args=(job,), name=f"waltzmark {asker}", daemon=True).start()

    def _send(self, job: _Job, what: str, value: object) -> None:
        """From a thread to the interface thread."""
        if not self._closed:
            self._courier.send(lambda: self._take(job, what, value))

    def _run(self, job: _Job) -> None:
        def send(what: str, value: object) -> None:
            self._send(job, what, value)

        try:
            send("done", job.work(_Teller(job, send)))
        except StoppedError:
            send("stopped", None)
        except BaseException as error:  # a thread's error would be lost: it is told on the interface thread
            send("failed", error)

    def _run_far_away(self, job: _Job) -> None:
        def send(what: str, value: object) -> None:
            self._send(job, what, value)

        from waltzmark.desktop.workers import work_far_away  # not needed until a solver runs

        work_far_away(job.work, job.stopped, send, alone=job.alone, strange=job.strange)

    def _take(self, job: _Job, what: str, value: Any) -> None:
        if not isValid(self):
            return  # the window has gone
        ended = what in ("done", "failed", "stopped")
        asked = self._asked.pop(job, None) if ended else self._asked.get(job)
        if ended:
            self._running.pop(job.asker, None)
            if job.asker in self._waiting and not self._pauses[job.asker].isActive():
                self._begin(job.asker)
        if asked is None or self._closed:
            return  # nobody waits for it any more
        asks = getattr(asked.done, "__self__", None)
        if isinstance(asks, QObject) and not isValid(asks):
            return  # who did was closed
        if what == "done":
            asked.done(value)
        elif what == "failed":
            asked.failed(value) if asked.failed is not None else self.trouble.emit(job.asker, value)
        elif what == "progress" and asked.progress is not None:
            asked.progress(*value)
        elif what == "partial" and asked.partial is not None:
            asked.partial(value)
