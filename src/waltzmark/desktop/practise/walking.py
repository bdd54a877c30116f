"""Walking hands-free: a count-in, the walk of a passage round and round, pauses, and what was done for the book."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Literal

from PySide6.QtCore import QElapsedTimer, QObject, QTimer, Signal

from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import safely
from waltzmark.desktop.player import Player

__all__ = ["Walking"]

State = Literal["ready", "count-in", "walking", "paused", "resting", "waiting", "done"]
_STEP_MS = 50
_WAITING = ("count-in", "resting", "waiting")


class Walking(QObject):
    """Leads through a passage: rows first to last, *rounds* times, with a count-in and a pause after each posture.

    ended: minutes and rounds that were walked, when it is over or given up.
    """

    changed = Signal()
    waited = Signal()  # a moment of the count-in, a rest or a wait has gone by
    counted = Signal(bool)  # another count has begun; whether a posture begins with it
    ended = Signal(float, int)

    def __init__(self, document: Document, player: Player, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document, self._player = document, player
        self.state: State = "ready"
        self.count_in, self.pause, self.rounds = 10.0, 0.0, 1
        self.first, self.last = 1, 1
        self.done, self.left = 0, 0.0  # rounds walked; seconds of the count-in, the rest or the wait that are left
        self.waits: Callable[[int], float] = lambda _number: 0.0  # how long a count waits for its words, seconds
        self._waited = -1
        self._clock = QElapsedTimer()
        self._spent = 0.0
        self._since: float | None = None
        self._timer = QTimer(self)
        self._timer.setInterval(_STEP_MS)
        self._timer.timeout.connect(safely(lambda: self.advance(_STEP_MS / 1000.0)))
        document.session.row_changed.connect(safely(self._row))
        document.form_changed.connect(safely(self.give_up))
        player.playing_changed.connect(safely(self._played))

    @property
    def running(self) -> bool:
        """Whether it leads, or waits for a key to lead on."""
        return self.state not in ("ready", "done")

    # Where it is, by the number of the count through all rounds.

    @property
    def _many(self) -> int:
        return self.last - self.first + 1

    @property
    def number(self) -> int:
        """The count that is walked, or comes next where it waits."""
        row = min(max(math.floor(self._document.session.position + 1e-9) + 1, self.first), self.last)
        return self.done * self._many + row - self.first

    @property
    def part(self) -> float:
        """How much of that count is done, 0 to 1."""
        row = self.row_of(self.number)
        return min(max(self._document.session.position - (row - 1), 0.0), 1.0)

    def row_of(self, number: int) -> int:
        """The row of a count by its number."""
        return self.first + number % self._many

    def begin(self, first: int, last: int) -> None:
        """Begins with the count-in, standing as the first row's count begins."""
        self.first, self.last = first, max(last, first)
        self.done, self._spent, self._waited = 0, 0.0, -1
        self._document.session.go(float(self.first - 1))
        self.left = self.count_in
        self._to("count-in" if self.count_in > 0 else "walking")

    def key(self) -> None:
        """Any key: pauses, goes on, or skips the count-in and a rest."""
        if self.state == "walking" or self.state == "waiting":
            self._to("paused")
        elif self.state in ("paused", "count-in", "resting"):
            self._to("walking")

    def give_up(self) -> None:
        """Ends it where it is."""
        if self.running:
            self._end()

    def advance(self, seconds: float) -> None:
        """Time goes on while it counts in or rests."""
        if self.state in _WAITING:
            before = math.ceil(self.left)
            self.left -= seconds
            self.waited.emit()
            if self.left <= 1e-9:
                self._to("walking")
            elif math.ceil(self.left) != before:
                self.changed.emit()

    def _to(self, state: State) -> None:
        was, self.state = self.state, state
        if was == "walking":
            self._spent += self._clock.elapsed() / 1000.0
        if state == "walking":
            self._clock.start()
            if self._document.session.position >= self.last:
                self._document.session.go(float(self.first - 1))
            self._player.play()
        elif self._player.playing:
            self._player.pause()
        if state in _WAITING:
            self._timer.start()
        else:
            self._timer.stop()
        self.changed.emit()

    def _row(self, row: int) -> None:
        if self.state != "walking":
            return
        trace = self._document.trace
        begins = int(trace.counts[row]) == 1
        if row > self.last:
            self._round()
            return
        number = self.done * self._many + row - self.first
        if (held := self.held(number)) > 0:
            self._hold(number, held)
            return
        self.counted.emit(begins)

    def _played(self, playing: bool) -> None:
        """The player stops by itself at the end of the form; a hand may stop it anywhere."""
        if playing or self.state != "walking":
            return
        if self._document.session.position >= self.last - 1e-9:
            self._round()
        else:
            self._to("paused")

    def _round(self) -> None:
        """A round is over."""
        self.done += 1
        if self.done >= self.rounds:
            self._end()
            self._document.session.go(float(self.last))
            return
        number = self.done * self._many
        if (held := self.held(number)) > 0:
            self._hold(number, held)
        else:
            self._document.session.go(float(self.first - 1))
            self._to("walking")

    def _hold(self, number: int, seconds: float) -> None:
        """Rests or waits before a count that would come next."""
        self._waited, self.left = number, seconds
        self._to("resting" if self.pause > 0 and self._begins(number) else "waiting")
        self._document.session.go(float(self.row_of(number) - 1))

    def _begins(self, number: int) -> bool:
        """Whether a posture begins with a count."""
        return int(self._document.trace.counts[self.row_of(number)]) == 1

    def held(self, number: int) -> float:
        """Seconds of rest and of waiting for words that are still to come before a count, by its number."""
        if number <= 0 or number == self._waited:
            return 0.0
        return (self.pause if self._begins(number) else 0.0) + self.waits(number)

    def _end(self) -> None:
        self._to("done")
        self.ended.emit(self._spent / 60.0, self.done)
