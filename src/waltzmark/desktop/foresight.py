"""What the count being typed or dragged would come to, judged while the hands rest: entering it finds it done."""

from __future__ import annotations

from PySide6.QtCore import QObject, QTimer, Signal

from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form
from waltzmark.core.judge.finding import Judged
from waltzmark.core.score.actions import Count
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.guard import safely
from waltzmark.desktop.jobs import Jobs

__all__ = ["Foresight", "Ghost"]

_REST_MS = 15
_REST_OF_A_HAND_MS = 150  # a hand that drags moves on every few milliseconds


class Ghost(Record):
    """A count not entered yet, walked from where it would begin."""

    count: Count
    form: Form
    trace: Trace
    row: int


class Foresight(QObject):
    """One form that may come next, with its walk, and what is found in it as soon as there was time to judge."""

    judged = Signal()

    def __init__(self, jobs: Jobs, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._jobs = jobs
        self._next: tuple[Form, Trace] | None = None
        self._judged: Judged | None = None
        self._rest = _REST_MS
        self._painted = QTimer(self)  # the rest begins when what was asked for has been painted
        self._painted.setSingleShot(True)
        self._painted.timeout.connect(safely(self._ask))

    def expect(self, form: Form, trace: Trace, dragged: bool = False) -> None:
        """Expects a form that has been walked already, typed or *dragged*."""
        self.forget()
        self._rest = _REST_OF_A_HAND_MS if dragged else _REST_MS
        self._next = form, trace
        self._painted.start(0)

    def forget(self) -> None:
        """Nothing is expected any more."""
        self._painted.stop()
        self._jobs.stop("foresight")
        self._next = self._judged = None

    def _ask(self) -> None:
        if self._next is not None:
            form, trace = self._next

            def work(_progress: Progress) -> Judged:
                from waltzmark.core.judge.judging import judge_all

                return judge_all(form, trace)

            self._jobs.ask("foresight", work, self._take, pause=self._rest)

    def _take(self, judged: Judged) -> None:
        self._judged = judged
        self.judged.emit()

    def come(self, form: Form) -> tuple[Trace, Judged | None] | None:
        """The walk of a form, and its judgement where there was time for it; None when another one was expected."""
        if self._next is None or self._next[0] != form:
            return None
        return self._next[1], self._judged
