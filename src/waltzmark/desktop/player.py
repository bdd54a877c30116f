"""Playback: moves the document's playhead smoothly through the counts, as long as their beats last."""

from __future__ import annotations

from PySide6.QtCore import QElapsedTimer, QObject, Qt, QTimer, Signal
from PySide6.QtGui import QAction, QActionGroup

from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import safely
from waltzmark.words.language import number, tr

__all__ = ["TEMPOS", "Player", "tempo_actions"]

#: Seconds a beat may last.
TEMPOS = (0.5, 1.0, 1.5, 2.0, 3.0)
_FRAME_MS = 16


class Player(QObject):
    """Plays a document's form at so many seconds a beat."""

    playing_changed = Signal(bool)
    tempo_changed = Signal()

    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.seconds_per_beat = 1.5
        self.still = False
        self._clock = QElapsedTimer()
        self._timer = QTimer(self)
        self._timer.setTimerType(Qt.TimerType.PreciseTimer)
        self._timer.setInterval(_FRAME_MS)
        self._timer.timeout.connect(safely(self._frame))
        document.form_changed.connect(safely(self.pause))

    def set_tempo(self, seconds: float) -> None:
        """Plays at so many seconds a beat."""
        self.seconds_per_beat = seconds
        self.tempo_changed.emit()

    def set_still(self, still: bool) -> None:
        """Whether each count is shown as it ends, for those whom what glides makes dizzy."""
        self.still = still
        self._document.session.stepping = still and self.playing

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
        if self._document.session.position >= last:
            self._document.session.go(0.0)
        self._document.session.stepping = self.still
        self._clock.start()
        self._timer.start()
        self.playing_changed.emit(True)

    def pause(self) -> None:
        if self.playing:
            self._timer.stop()
            if self._document.session.stepping:
                self._document.session.stepping = False
                self._document.session.moved.emit()
            self.playing_changed.emit(False)

    def step(self, by: int) -> None:
        """Goes to the end of the next or the previous count."""
        self.pause()
        position = self._document.session.position
        whole = abs(position - round(position)) < 1e-9
        if by < 0:
            target = position - 1 if whole else float(int(position))
        else:
            target = position + 1 if whole else float(int(position) + 1)
        self._document.session.go(round(target))

    def step_posture(self, by: int) -> None:
        """Goes to the beginning of the next posture, or of this one and then the one before."""
        self.pause()
        starts = [int(s) for s in self._document.trace.starts[:-1]]
        row = self._document.session.row
        later, before = [s for s in starts if s > row], [s for s in starts if s < row]
        if by > 0 and later:
            self._document.session.go(later[0])
        elif by < 0 and before:
            self._document.session.go(before[-1])

    def go_to_end(self, last: bool) -> None:
        """Goes to the last count, or to the opening."""
        self.pause()
        self._document.session.go(float(len(self._document.trace) - 1) if last else 0.0)

    def _frame(self) -> None:
        self.advance(self._clock.restart() / 1000.0)

    def advance(self, seconds: float) -> None:
        """Moves the playhead by a time, through as many counts as it takes."""
        document = self._document
        beats, position = document.trace.beats, document.session.position
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
        document.session.go(position)
        if position >= last:
            self.pause()


def tempo_actions(player: Player, parent: QObject) -> list[QAction]:
    """An action for each tempo; the one that is played is on."""
    group = QActionGroup(parent)
    made = []
    for seconds in TEMPOS:
        action = QAction(tr("{seconds} s a beat", seconds=number(seconds)), parent)
        action.setCheckable(True)
        action.triggered.connect(safely(lambda _checked=False, seconds=seconds: player.set_tempo(seconds)))
        group.addAction(action)
        made.append(action)

    def show() -> None:
        for seconds, action in zip(TEMPOS, made, strict=True):
            action.setChecked(seconds == player.seconds_per_beat)

    player.tempo_changed.connect(safely(show))
    show()
    return made
