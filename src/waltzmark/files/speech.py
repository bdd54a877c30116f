"""Speech, made on this machine: eSpeak NG out of its package, one text at a time, as samples."""

from __future__ import annotations

import ctypes
import threading
from functools import lru_cache
from typing import Any

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.libraries import library

__all__ = ["RATE", "length_of", "speech"]

#: Samples a second.
RATE = 22_050
#: Words a minute at the usual speed.
_WORDS = 160
_RETRIEVE, _UTF8, _RATE_OF_SPEECH = 2, 1, 1
_ONE_AT_A_TIME = threading.RLock()


class _Engine:
    """The library with its callback, which is given what was spoken."""

    def __init__(self) -> None:
        try:
            loader = library("espeakng_loader")
            self._library = ctypes.CDLL(loader.get_library_path())
            data = loader.get_data_path().encode()
        except (ImportError, OSError) as error:
            raise WaltzmarkError("voice.none", reason=str(error)) from None
        self._got: list[Any] = []
        kind = ctypes.CFUNCTYPE(ctypes.c_int, ctypes.POINTER(ctypes.c_short), ctypes.c_int, ctypes.c_void_p)
        self._callback = kind(self._take)
        if self._library.espeak_Initialize(_RETRIEVE, 0, data, 0) != RATE:
            raise WaltzmarkError("voice.none", reason="eSpeak NG")
        self._library.espeak_SetSynthCallback(self._callback)

    def _take(self, samples: Any, number: int, _events: Any) -> int:
        if number and samples:
            self._got.append(np.ctypeslib.as_array(samples, (number,)).copy())
        return 0

    def speak(self, text: str, language: str, speed: float) -> Floats:
        """A text as samples from -1 to 1."""
        self._got.clear()
        for name in _voices(language):
            if self._library.espeak_SetVoiceByName(name.encode()) == 0:
                break
        self._library.espeak_SetParameter(_RATE_OF_SPEECH, round(_WORDS * speed), 0)
        written = text.encode("utf-8", "replace")
        self._library.espeak_Synth(written, len(written) + 1, 0, 1, 0, _UTF8, None, None)
        self._library.espeak_Synchronize()
        spoken = np.concatenate(self._got) / 32_768.0 if self._got else np.zeros(0)
        return _trimmed(spoken.astype(np.float32))


def _voices(language: str) -> tuple[str, ...]:
    """Voices for a language, the best first; Spanish of the Americas has one of its own."""
    base, _, country = language.replace("-", "_").partition("_")
    american = ("es-419",) if base == "es" and country not in ("", "ES") else ()
    return (*american, f"{base}-{country.lower()}" if country else base, base, "en")


@lru_cache(maxsize=1)
def _engine() -> _Engine:
    return _Engine()


def _trimmed(samples: Floats) -> Floats:
    """Samples without the quiet at both ends."""
    loud = np.flatnonzero(np.abs(samples) > 0.004)
    return samples[loud[0] : loud[-1] + 1] if len(loud) else samples[:0]


@lru_cache(maxsize=200)
def speech(text: str, language: str = "en", speed: float = 1.0) -> Floats:
    """A text as it is spoken.

    Parameters
    ----------
    text
        Plain words.
    language
        Of the voice: ``en``, ``es``.
    speed
        Of the voice, 1 for the usual.

    Returns
    -------
    numpy.ndarray, shape (n,)
        Samples from -1 to 1, `RATE` a second; read only.

    Raises
    ------
    WaltzmarkError
        Where there is no voice on this machine.
    """
    with _ONE_AT_A_TIME:
        samples = _engine().speak(text, language, speed)
    samples.setflags(write=False)
    return samples


@lru_cache(maxsize=20_000)
def length_of(text: str, speed: float, language: str = "en") -> float:
    """How long a text takes to speak, seconds; no sound card is needed."""
    return len(speech(text, language, speed)) / RATE
