"""The one way to run long work: off the interface thread, or in a process of its own.

An asker has one thing running at the most. Asked again, it goes on with the newest: what waits is forgotten, what runs
is told to stop, and whatever still comes of it is passed over. Results, progress and errors come back on the interface
thread. Closing waits for nothing: what still runs finds nobody to talk to, and ends with the program.
"""

from __future__ import annotations

import contextlib
import os
import threading
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, QTimer, Signal
from shiboken6 import isValid

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import Progress, StoppedError
from waltzmark.core.base.records import Record, field
from waltzmark.desktop.courier import courier
from waltzmark.desktop.guard import safely
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from multiprocessing.connection import Connection

__all__ = ["Jobs", "TooMuchError", "Work"]

#: What is done: it is given whom to tell how far it is, and returns what came of it.
Work = Callable[[Progress], Any]


class TooMuchError(WaltzmarkError):
    """What somebody else made takes too much to be read."""


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


class _FarTeller:
    """The progress of a job in a process of its own."""

    def __init__(self, line: Connection) -> None:
        self._line = line

    def tell(self, share: float, words: str = "") -> None:
        if self._line.poll():
            raise StoppedError
        self._line.send(("progress", (share, words)))

    def hand_out(self, so_far: object) -> None:
        self._line.send(("partial", so_far))


#: What a process that reads what somebody else made may take: seconds of work, and bytes.
_SECONDS, _BYTES = 30, 3 << 30


def _far_away(line: Connection, work: Work, strange: bool) -> None:
    """What the process of a job does. What a solver's library prints by itself goes nowhere. strange: it reads what
    somebody else made, and is ended where that takes too much."""
    if strange:
        import resource

        resource.setrlimit(resource.RLIMIT_CPU, (_SECONDS, _SECONDS))
        resource.setrlimit(resource.RLIMIT_AS, (_BYTES, _BYTES))
    with contextlib.suppress(OSError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), 1)
    try:
        line.send(("done", work(_FarTeller(line))))
    except StoppedError:
        with contextlib.suppress(OSError):  # whoever asked may be gone
            line.send(("stopped", None))
    except (EOFError, OSError):
        pass  # whoever asked is gone
    except BaseException as error:
        line.send(("failed", error))


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
        strange: bool = False,
    ) -> None:
        """Asks for work in the name of an asker.

        done: is given the result. failed: is given the error; without it, `trouble` tells. progress, partial: are told
        how far it is, and given what it has so far. pause: milliseconds to wait for something newer before it begins.
        process: it runs in a process of its own, so that it does not hold the interpreter; it and what it returns must
        be such as can be pickled. strange: as that, and it reads what somebody else made: it is ended, as an error,
        where that takes more than half a minute's work or three gigabytes.
        """
        if self._closed:
            return
        self.stop(asker)
        job = self._waiting[asker] = _Job(asker, work, process or strange, strange)
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
        import multiprocessing  # not needed until a solver runs

        context = multiprocessing.get_context("spawn")
        here, there = context.Pipe()
        worker = context.Process(target=_far_away, args=(there, job.work, job.strange), daemon=True)
        try:
            worker.start()
            there.close()
            asked = False
            while True:
                if job.stopped.is_set() and not asked:
                    here.send("stop")
                    asked = True
                if not here.poll(2.0 if asked else 0.05):
                    if asked:  # it does not listen
                        self._send(job, "stopped", None)
                        return
                    continue
                what, value = here.recv()
                self._send(job, what, value)
                if what in ("done", "failed", "stopped"):
                    return
        except EOFError:
            wrong = RuntimeError("its process ended before the work was done")
            self._send(job, "failed", TooMuchError(tr("it takes too much time or memory")) if job.strange else wrong)
        except BaseException as error:
            self._send(job, "failed", error)
        finally:
            if worker.is_alive():
                worker.kill()
            here.close()

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
