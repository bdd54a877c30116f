"""The sound card: what is spoken one after the other, with ticks and breath over it, as it is asked for."""

from __future__ import annotations

import contextlib
import ctypes
import os
import threading
from functools import cache
from typing import Any

import numpy as np
from PySide6.QtCore import QObject, Signal

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.libraries import library
from waltzmark.files.speech import RATE

__all__ = ["SILENT_SOUND", "Mixer", "Sound"]

#: Set in the environment, everything is played to nobody: a device that swallows what it is given.
SILENT_SOUND = "WALTZMARK_SILENT"
_BUFFER_MS = 80


@cache
def _hushed_alsa() -> object:
    """Keeps ALSA's library from printing what it does not find: where there is no card, the window tells it."""
    with contextlib.suppress(OSError, AttributeError):
        alsa = ctypes.CDLL("libasound.so.2")
        kind = ctypes.CFUNCTYPE(None, ctypes.c_char_p, ctypes.c_int, ctypes.c_char_p, ctypes.c_int, ctypes.c_char_p)
        handler = kind(lambda *_: None)
        alsa.snd_lib_error_set_handler(handler)
        return alsa, handler  # kept, since the library calls it
    return None


class Mixer:
    """What is played, piece by piece; it is filled from one thread and emptied from another."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._spoken: list[Floats] = []
        self._over: list[Floats] = []

    def speak(self, samples: Floats) -> None:
        """Comes after what is spoken already."""
        with self._lock:
            self._spoken.append(samples)

    def add(self, samples: Floats) -> None:
        """Sounds at once, over whatever else does."""
        with self._lock:
            self._over.append(samples)

    def hush(self) -> None:
        """Says nothing more."""
        with self._lock:
            self._spoken.clear()
            self._over.clear()

    def take(self, number: int) -> Any:
        """The next samples, an array of shape (number,) of 32 bits from -1 to 1: silence where nothing is left."""
        made = np.zeros(number)
        with self._lock:
            at = 0
            while at < number and self._spoken:
                piece = self._spoken[0][: number - at]
                made[at : at + len(piece)] += piece
                at += len(piece)
                self._spoken[0] = self._spoken[0][len(piece) :]
                if not len(self._spoken[0]):
                    self._spoken.pop(0)
            for each in self._over:
                piece = each[:number]
                made[: len(piece)] += piece
            self._over = [each[number:] for each in self._over if len(each) > number]
        return np.clip(made, -1.0, 1.0).astype(np.float32)


class Sound(QObject):
    """Plays through PulseAudio, PipeWire or ALSA. failed: there is nothing to play with, told once; why."""

    failed = Signal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self.mixer = Mixer()
        self._device: Any = None
        self._broken = False

    def speak(self, samples: Floats) -> None:
        """Comes after what is spoken already."""
        if self._opened():
            self.mixer.speak(samples)

    def add(self, samples: Floats) -> None:
        """Sounds at once, over whatever else does."""
        if self._opened():
            self.mixer.add(samples)

    def retry(self) -> None:
        """What could not be opened is tried again."""
        self._broken = False

    def close(self) -> None:
        """Lets the sound card go."""
        self.mixer.hush()
        if self._device is not None:
            self._device.close()
            self._device = None

    def _opened(self) -> bool:
        """Whether there is something to play with; it is opened when it is first wanted."""
        if self._device is not None or self._broken:
            return not self._broken
        try:
            audio = library("miniaudio")
            _hushed_alsa()
            silent = {"backends": [audio.Backend.NULL]} if os.environ.get(SILENT_SOUND) else {}
            self._device = audio.PlaybackDevice(
                output_format=audio.SampleFormat.FLOAT32,
                nchannels=1,
                sample_rate=RATE,
                buffersize_msec=_BUFFER_MS,
                **silent,
            )
            stream = self._stream()
            next(stream)
            self._device.start(stream)
        except Exception as error:  # whatever a sound card may have
            self._broken = True
            self.failed.emit(str(error.args[0]) if error.args else str(error))
            return False
        return True

    def _stream(self) -> Any:
        """What the device asks for, so many samples at a time."""
        mixer, wanted = self.mixer, (yield b"")
        while True:
            wanted = yield mixer.take(wanted).tobytes()
