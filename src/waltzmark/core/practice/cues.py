"""When each count of a walk is, and a soft tick as a sound."""

from __future__ import annotations

import io
import math
import struct
import wave

from waltzmark.core.walk.trace import Trace

__all__ = ["beats_at", "tick"]

_RATE = 22_050


def beats_at(
    trace: Trace, first: int, last: int, seconds: float, count_in: float = 0.0
) -> list[tuple[int, float, float]]:
    """Row, beginning and end in seconds of each count from row *first* to *last*, at so many seconds a beat."""
    found, at = [], count_in
    for row in range(first, last + 1):
        long = float(trace.beats[row]) * seconds
        found.append((row, at, at + long))
        at += long
    return found


def tick(high: bool = False) -> bytes:
    """A soft tick, a WAV of a tenth of a second: a sine that dies away, higher where a posture begins."""
    pitch = 1320.0 if high else 880.0
    samples = [math.sin(math.tau * pitch * n / _RATE) * math.exp(-60.0 * n / _RATE) * 0.35 for n in range(_RATE // 10)]
    data = io.BytesIO()
    with wave.open(data, "wb") as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(_RATE)
        sound.writeframes(b"".join(struct.pack("<h", round(32_767 * each)) for each in samples))
    return data.getvalue()
