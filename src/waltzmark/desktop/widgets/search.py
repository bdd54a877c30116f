"""A search of a face: it goes on off the interface thread, shows how far it is, and can be stopped."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Signal

from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.jobs import Jobs, Work
from waltzmark.desktop.widgets.waiting import Waiting

__all__ = ["Search"]

_PAUSE_MS = 250  # before a search begins: what is changed quickly is searched once


@guarded
class Search(Waiting):
    """What is searched for, once for everything it is asked with."""

    stopped = Signal()  # by its button

    def __init__(
        self,
        jobs: Jobs,
        asker: str,
        pause: int = _PAUSE_MS,
        process: bool = True,
        alone: bool = False,
        even: bool = False,
    ) -> None:
        """asker: in whose name `Jobs` are asked. pause: milliseconds before it begins. process: whether it runs in
        another process, alone: in one of its own. even: see `Waiting`."""
        super().__init__(even=even)
        self._jobs, self._asker, self._pause, self._process, self._alone = jobs, asker, pause, process, alone
        self._asked: object = None
        self.button.clicked.connect(safely(self._press))

    @property
    def busy(self) -> bool:
        """Whether it goes on."""
        return self._jobs.busy(self._asker)

    def ask(
        self,
        asked: object,
        work: Work,
        done: Callable[[Any], None],
        *,
        partial: Callable[[Any], None] | None = None,
        failed: Callable[[BaseException], None] | None = None,
    ) -> bool:
        """Searches, unless what is *asked* was asked last; whether it does. The rest as `Jobs.ask` has it."""
        if asked == self._asked:
            return False
        self._asked = asked

        def ended(found: Any) -> None:
            self.tell(False)
            done(found)

        def broken(error: BaseException) -> None:
            self.tell(False)
            if failed is None:
                self._jobs.trouble.emit(self._asker, error)
            else:
                failed(error)

        self._jobs.ask(
            self._asker,
            work,
            ended,
            failed=broken,
            partial=partial,
            progress=lambda share, kind: self.tell(True, share, kind),
            pause=self._pause,
            process=self._process,
            alone=self._alone,
        )
        self.tell(True)
        return True

    def forget(self) -> None:
        """The next time it searches, whatever it is asked."""
        self._asked = None

    def stop(self) -> None:
        """Stops; what has been found stays, and is not searched for again."""
        self._jobs.stop(self._asker)
        self.tell(False)

    def rest(self) -> None:
        """Nobody sees it any more: what goes on is stopped, and searched for again when it is asked."""
        if self.busy:
            self.stop()
            self.forget()

    def _press(self) -> None:
        self.stop()
        self.stopped.emit()
