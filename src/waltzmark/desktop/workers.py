"""Processes that do long work, one job after another.

A process that has done its work waits for the next: starting Python and loading what a solver needs takes longer than
many a search. One that has been left alone for a while, or that has grown large, ends by itself.
"""

from __future__ import annotations

import contextlib
import os
import threading
from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import StoppedError
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from multiprocessing.connection import Connection

__all__ = ["TooMuchError", "work_far_away"]

#: What a process that reads what somebody else made may take: seconds of work, and bytes.
_SECONDS, _BYTES = 30, 3 << 30
_IDLE = 90.0  # seconds that a process waits for more work
_LARGE = 700  # megabytes above which a process is not used again
_KEPT = 2  # processes that wait at the most
_DEAF = 2.0  # seconds within which a process that is told to stop does so, or is ended


class TooMuchError(WaltzmarkError):
    """What somebody else made takes too much to be read."""


class _LostError(Exception):
    """A process ended before it took the work up."""


class _FarTeller:
    """The progress of a job in a process of its own."""

    def __init__(self, line: Connection) -> None:
        self._line = line

    def tell(self, share: float, words: str = "") -> None:
        if self._line.poll():
            self._line.recv()
            raise StoppedError
        self._line.send(("progress", (share, words)))

    def hand_out(self, so_far: object) -> None:
        self._line.send(("partial", so_far))


def _serve(line: Connection, strange: bool) -> None:
    """What such a process does: work, until nobody asks for any. What a library prints by itself goes nowhere.

    strange: it reads what somebody else made, and is ended where that takes too much.
    """
    import resource

    if strange:
        resource.setrlimit(resource.RLIMIT_CPU, (_SECONDS, _SECONDS))
        resource.setrlimit(resource.RLIMIT_AS, (_BYTES, _BYTES))
    with contextlib.suppress(OSError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), 1)
    with contextlib.suppress(EOFError, OSError):  # whoever asked is gone
        while line.poll(_IDLE):
            work = _taken(line)
            if work is not None:
                _do(line, work)
            if _memory() > _LARGE << 20:
                return


def _memory() -> int:
    """Bytes of memory that this process holds; what getrusage tells as the most includes whoever started it."""
    with open("/proc/self/statm", encoding="ascii") as told:
        return int(told.read().split()[1]) * os.sysconf("SC_PAGE_SIZE")


def _taken(line: Connection) -> Callable[[Any], Any] | None:
    """The work that was sent, None for a word to stop what is already done, or for what cannot be read here."""
    try:
        work: Callable[[Any], Any] | None = line.recv()
    except (EOFError, OSError):
        raise
    except BaseException as error:
        line.send(("begun", None))
        line.send(("failed", error))
        return None
    if work is not None:
        line.send(("begun", None))
    return work


def _do(line: Connection, work: Callable[[Any], Any]) -> None:
    try:
        line.send(("done", work(_FarTeller(line))))
    except StoppedError:
        line.send(("stopped", None))
    except (EOFError, OSError):
        raise
    except BaseException as error:
        line.send(("failed", error))


class _Worker:
    """One of these processes, seen from here. Raises OSError where it cannot be started."""

    def __init__(self, strange: bool = False) -> None:
        import multiprocessing  # not needed until a solver runs

        context = multiprocessing.get_context("spawn")
        self.line, there = context.Pipe()
        self._process = context.Process(target=_serve, args=(there, strange), daemon=True)
        self._process.start()
        there.close()

    def run(
        self, work: object, stopped: threading.Event, send: Callable[[str, object], None]
    ) -> tuple[str, object, bool]:
        """Has work done, sends what it tells meanwhile; what came of it, and whether the process can be used again.

        Raises _LostError where the process has ended meanwhile, and EOFError where it ends before the work is done.
        """
        begun = asked = False
        try:
            self.line.send(work)
        except OSError as error:
            raise _LostError from error
        while True:
            if stopped.is_set() and not asked:
                asked = True
                with contextlib.suppress(OSError):  # it has ended, which shows at once
                    self.line.send(None)
            if not self.line.poll(_DEAF if asked else 0.05):
                if asked:  # it does not listen
                    return "stopped", None, False
                continue
            try:
                what, value = self.line.recv()
            except (EOFError, ConnectionResetError) as error:
                raise EOFError if begun else _LostError from error
            if what == "begun":
                begun = True
                continue
            if what in ("done", "failed", "stopped"):
                return what, value, True
            send(what, value)

    def end(self) -> None:
        if self._process.is_alive():
            self._process.kill()
        self.line.close()


_waiting: list[_Worker] = []
_lock = threading.Lock()


def _kept(worker: _Worker) -> bool:
    """Keeps a process for the next work, unless enough of them wait."""
    with _lock:
        if len(_waiting) >= _KEPT:
            return False
        _waiting.append(worker)
    return True


def work_far_away(
    work: object,
    stopped: threading.Event,
    send: Callable[[str, object], None],
    *,
    alone: bool = False,
    strange: bool = False,
) -> None:
    """Has work done in another process, while the thread that calls this waits for it.

    Parameters
    ----------
    work
        What is called there with the progress to tell; it and what it returns can be pickled.
    stopped
        Set from another thread when the work is no longer wanted.
    send
        Is given "progress", "partial", and at last one of "done", "failed" and "stopped", with what belongs to it.
    alone
        It has a process to itself, which ends with it.
    strange
        It reads what somebody else made: it is alone, and is ended where that takes too much.
    """
    alone = alone or strange
    try:
        while True:
            with _lock:
                old = _waiting.pop() if _waiting and not alone else None
            worker = old or _Worker(strange)
            again = False
            try:
                what, value, again = worker.run(work, stopped, send)
            except _LostError as error:
                if old is None:
                    raise EOFError from error
                continue
            finally:  # before the outcome is sent: whoever asks at once for more is given the same process
                if not (again and not alone and _kept(worker)):
                    worker.end()
            send(what, value)
            return
    except EOFError:
        wrong = RuntimeError("its process ended before the work was done")
        send("failed", TooMuchError(tr("it takes too much time or memory")) if strange else wrong)
    except BaseException as error:
        send("failed", error)
