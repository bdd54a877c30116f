"""Speaks while somebody practises: the cues of a walk in time, and what a drill or a question has to say."""

from __future__ import annotations

import contextlib
import shutil
import subprocess
from functools import cache, partial
from typing import Any

from PySide6.QtCore import QObject, Signal

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import Record, replace
from waltzmark.core.form.film import VOICES
from waltzmark.core.form.form import Form
from waltzmark.core.practice.timeline import Timeline, lay
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.guard import safely
from waltzmark.desktop.jobs import Jobs
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.sound import Sound
from waltzmark.files.sounds import breath_sound, ticks
from waltzmark.files.speech import length_of, speech
from waltzmark.words.ear import beat_words, places_of, seconds_words, wordings
from waltzmark.words.errors import explained
from waltzmark.words.language import language, tr

__all__ = ["BY", "Led", "Speaker", "VoiceSettings"]

#: Who speaks: this program, or the desktop's speech-dispatcher.
BY = ("own", "desktop")
_DISPATCHER = "spd-say"
_LATE = 0.25  # seconds of a cue that may be past when it is begun


class VoiceSettings(Record):
    """What is chosen of the voice, and remembered on this machine. level: how much is spoken, one of `VOICES`; speed,
    volume: per cent; by: one of `BY`; tick, breath: whether they are heard; beats: whether those of long counts are
    counted aloud; waits: whether a count waits for its words."""

    level: str = "none"
    speed: int = 100
    volume: int = 100
    by: str = "own"
    tick: bool = False
    breath: bool = False
    beats: bool = False
    waits: bool = False


class Led(Record):
    """What is led. rows: the first and the last of the passage; rounds: how often; seconds: a beat; count_in, pause:
    seconds, before the first movement and after each posture; turned: degrees to the right of the start mark."""

    rows: tuple[int, int]
    rounds: int = 1
    seconds: float = 1.5
    count_in: float = 0.0
    pause: float = 0.0
    turned: float = 0.0


def _laid(form: Form, trace: Trace, led: Led, chosen: VoiceSettings, tongue: str, told: Progress) -> Timeline:
    """When what is spoken of a passage; its rows are numbered through all rounds."""
    titles, places = {posture.id: posture.title for posture in form.postures}, places_of(form, led.turned)
    passage = range(led.rows[0], led.rows[1] + 1)
    rows = list(enumerate(list(passage) * led.rounds))

    said = {row: wordings(trace, row, chosen.level, titles, places) for row in passage}

    @cache
    def length(text: str, speed: float) -> float:
        told.tell(0.0)
        return length_of(text, speed * chosen.speed / 100.0, tongue)

    begins = {at for at, row in rows if (at and int(trace.counts[row]) == 1) or (at and row == led.rows[0])}
    return lay(
        [(at, float(trace.beats[row]) * led.seconds) for at, row in rows],
        {at: said[row] for at, row in rows},
        length,
        led.count_in,
        waits=chosen.waits,
        rests=dict.fromkeys(begins, led.pause),
        seconds=seconds_words() if chosen.level != "none" else None,
        beats={at: beat_words(float(trace.beats[row])) for at, row in rows} if chosen.beats else None,
    )


class Speaker(QObject):
    """One for a window. failed: there is no voice, or nothing to play it with, told once; spoken: what is being said;
    changed: what is chosen of it."""

    failed = Signal(str)
    spoken = Signal(str)
    changed = Signal()

    def __init__(self, jobs: Jobs, settings: Settings, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._jobs, self._settings = jobs, settings
        self.sound = Sound(self)
        self.sound.failed.connect(safely(self._mute))
        self.chosen = _remembered(settings)
        self.timeline: Timeline | None = None
        self._next = 0
        self._told = False

    @property
    def speaks(self) -> bool:
        """Whether anything is to be spoken."""
        return self.chosen.level != "none"

    @property
    def dispatcher(self) -> str | None:
        """The command of the desktop's speech-dispatcher, where there is one."""
        return shutil.which(_DISPATCHER)

    def choose(self, **changes: Any) -> None:
        """Chooses otherwise, and remembers it."""
        made = replace(self.chosen, **changes)
        if made == self.chosen:
            return
        self.chosen = made
        for name in changes:
            value = getattr(made, name)
            self._settings.set_text(f"voice_{name}", str(int(value)) if isinstance(value, (bool, int)) else value)
        self.changed.emit()

    # A walk that is led.

    def prepare(self, form: Form, trace: Trace, led: Led) -> None:
        """Lays out what is said of a passage; what is ready later than its time is not said."""
        self._next, self.timeline = 0, None
        chosen = self.chosen
        if self.speaks or chosen.beats:
            work = partial(_laid, form, trace, led, chosen, language())
            self._jobs.ask("voice", work, self._take, failed=self._wrong)

    def _take(self, timeline: Timeline) -> None:
        self.timeline = timeline

    def at(self, now: float) -> None:
        """It is so many seconds in the timeline: says what is due."""
        timeline = self.timeline
        while timeline is not None and self._next < len(timeline.cues) and timeline.cues[self._next].begin <= now:
            cue = timeline.cues[self._next]
            self._next += 1
            if now - cue.begin <= _LATE:
                self._say(cue.text, cue.speed)

    def seek(self, now: float) -> None:
        """The walk goes on from a time: what was due before is not said any more."""
        if self.timeline is not None:
            self._next = sum(cue.begin < now - _LATE for cue in self.timeline.cues)

    def tick(self, begins: bool, breath: bool | None, seconds: float) -> None:
        """A count begins, with a posture or not: the tick and the breath that are wanted."""
        if self.chosen.tick:
            self.sound.add(ticks()[begins])
        if self.chosen.breath and breath is not None:
            self.sound.add(breath_sound(seconds, breath))

    # Speech.

    def speak(self, text: str) -> None:
        """Says something now, instead of what is being said, where anything is to be spoken."""
        if self.speaks:
            self.hush()
            self._say(text, 1.0)

    def attempt(self, text: str) -> None:
        """Says something whatever is chosen; what failed before is tried again."""
        self._told = False
        self.sound.retry()
        self.hush()
        self._say(text, 1.0)

    def _say(self, text: str, speed: float) -> None:
        self.spoken.emit(text)
        chosen = self.chosen
        if chosen.by == "desktop" and (command := self.dispatcher) is not None:
            rate = str(max(min(round(chosen.speed * speed) - 100, 100), -100))
            volume = str(2 * chosen.volume - 100)
            asked = [command, "-l", language(), "-r", rate, "-i", volume, "--", text]
            try:
                subprocess.Popen(asked, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
            except OSError as error:
                self._mute(error.strerror or str(error))
            return
        work = partial(_spoken, text, language(), speed * chosen.speed / 100.0)
        self._jobs.ask("voice now", work, self._heard, failed=self._wrong)

    def _heard(self, samples: Floats) -> None:
        self.sound.speak(self.chosen.volume / 100.0 * samples)

    def hush(self) -> None:
        """Says nothing more of what waits."""
        self.sound.mixer.hush()
        if self.chosen.by == "desktop" and (command := self.dispatcher) is not None:
            with contextlib.suppress(OSError):
                subprocess.Popen([command, "-C"], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)

    def close(self) -> None:
        """Lets the sound card go."""
        self._jobs.stop("voice")
        self._jobs.stop("voice now")
        self.sound.close()

    def _wrong(self, error: BaseException) -> None:
        self._fail(explained(error))

    def _mute(self, reason: str) -> None:
        self._fail(tr("No sound card could be opened ({reason}).", reason=reason))

    def _fail(self, words: str) -> None:
        if not self._told:
            self._told = True
            self.failed.emit(words)


def _spoken(text: str, tongue: str, speed: float, _told: Progress) -> Floats:
    return speech(text, tongue, speed)


def _remembered(settings: Settings) -> VoiceSettings:
    """What was chosen lately; what cannot be read is as it usually is."""
    usual = VoiceSettings()
    level, by = settings.text("voice_level", usual.level), settings.text("voice_by", usual.by)
    speed, volume = (settings.text(f"voice_{name}", "100") for name in ("speed", "volume"))
    on = {name: settings.text(f"voice_{name}", "0") == "1" for name in ("tick", "breath", "beats", "waits")}
    return VoiceSettings(
        level if level in VOICES else usual.level,
        min(max(int(speed), 50), 200) if speed.isdecimal() else usual.speed,
        min(int(volume), 100) if volume.isdecimal() else usual.volume,
        by if by in BY else usual.by,
        **on,
    )
