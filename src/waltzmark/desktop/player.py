"""Playback: moves the document's playhead smoothly through the counts, as long as their beats last."""

from __future__ import annotations

from PySide6.QtCore import QElapsedTimer, QObject, Qt, QTimer, Signal

from waltzmark.desktop.document import Document

__all__ = ["TEMPOS", "Player"]

#: Seconds a beat may last.
TEMPOS = (0.5, 1.0, 1.5, 2.0, 3.0)
_FRAME_MS = 16


class Player(QObject):
    """Plays a document's form at so many seconds a beat."""

    playing_changed = Signal(bool)

    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.seconds_per_beat = 1.5
        self._clock = QElapsedTimer()
        self._timer = QTimer(self)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.setInterval(_FRAME_MS)
        self._timer.timeout.connect(self._frame)
        document.form_changed.connect(self.pause)

    @property
    def playing(self) -> bool:
        return self._timer.isActive()

    def toggle(self) -> None:
        if self.playing:
            self.pause()
        else:
            self.play()

    def play(self) -> None:
        """Plays from the playhead, or from the beginning when it stands at the end."""
        last = len(self._document.trace) - 1
        if last < 1:
            return
        if self._document.position >= last:
            self._document.go(0.0)
        self._clock.start()
        self._timer.start()
        self.playing_changed.emit(True)

    def pause(self) -> None:
        if self.playing:
            self._timer.stop()
            self.playing_changed.emit(False)

    def _frame(self) -> None:
        self.advance(self._clock.restart() / 1000.0)

    def advance(self, seconds: float) -> None:
        """Moves the playhead by a time, through as many counts as it takes."""
        document = self._document
        beats, position = document.trace.beats, document.position
        last = float(len(document.trace) - 1)
        left = seconds / self.seconds_per_beat
        while left > 0 and position < last:
            row = int(position) + 1
            lasts = float(beats[row])
            to_go = (row - position) * lasts
            if left < to_go:
                position += left / lasts
                left = 0.0
            else:
                position, left = float(row), left - to_go
        document.go(position)
        if position >= last:
            self.pause()
