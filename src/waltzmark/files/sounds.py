"""The sound of a led walk: voice, ticks and breath, mixed into samples, and written as a track."""

from __future__ import annotations

import io
import os
import secrets
import tempfile
import wave
from collections.abc import Callable, Iterable, Sequence
from fractions import Fraction
from functools import lru_cache
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.libraries import library
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.practice.cues import tick
from waltzmark.core.practice.timeline import Cue, Timeline
from waltzmark.files.saving import SaveError, save_atomically
from waltzmark.files.speech import RATE, speech

__all__ = [
    "TRACKS",
    "Captioned",
    "audio_stream",
    "breath_sound",
    "captions_text",
    "mixed",
    "put_sound",
    "ticks",
    "whole",
    "write_track",
]

#: Suffixes of tracks, with the container and the codec of each.
TRACKS = {".opus": ("ogg", "libopus"), ".flac": ("flac", "flac"), ".wav": ("wav", "pcm_s16le")}
#: The rate of what is written, samples a second, as Opus wants it.
_WRITTEN = 48_000
#: Where a process finds its own open files by their numbers.
_HANDLES = "/proc/self/fd/"
#: Bits a second of speech that is packed.
_BITS = 48_000


class Captioned(NamedTuple):
    """Words that are shown from one second to another."""

    begin: float
    end: float
    text: str


@lru_cache(maxsize=1)
def ticks() -> tuple[Floats, Floats]:
    """A tick for a count, and one for a posture that begins."""
    found = []
    for high in (False, True):
        with wave.open(io.BytesIO(tick(high))) as sound:
            found.append(np.frombuffer(sound.readframes(sound.getnframes()), "<i2").astype(float) / 32_768.0)
    return found[0], found[1]


def breath_sound(seconds: float, inward: bool) -> Floats:
    """A breath: noise that swells and falls, brighter on the way in."""
    n = max(int(seconds * RATE), 1)
    noise = np.random.default_rng(7).normal(0.0, 1.0, n)
    smooth = 5 if inward else 14  # samples: the longer, the darker
    noise = np.convolve(noise, np.ones(smooth) / smooth, "same")
    softened: Floats = 0.05 * noise * np.sin(np.linspace(0.0, np.pi, n)) ** 2
    return softened


def mixed(
    timeline: Timeline,
    begins: Sequence[bool],
    breaths: Sequence[bool | None],
    *,
    language: str = "en",
    ticking: bool = True,
    breathing: bool = False,
    volume: float = 1.0,
) -> Floats:
    """All sounds of a led walk as one.

    Parameters
    ----------
    timeline
        When everything is; its cues are spoken.
    begins, breaths
        By row of the timeline: whether a posture begins, and which way the breath goes.
    language
        Of the voice.
    ticking, breathing
        Whether counts tick, and breath is heard.
    volume
        Of the voice, 0 to 1.

    Returns
    -------
    numpy.ndarray, shape (n,)
        Samples from -1 to 1, `RATE` a second. Where sounds together would be louder, all are softened alike.
    """
    made = np.zeros(int(np.ceil(timeline.length * RATE)) + 1)

    def put(at: float, sound: Floats) -> None:
        start = round(at * RATE)
        stop = min(start + len(sound), len(made))
        if 0 <= start < stop:
            made[start:stop] += sound[: stop - start]

    low, high = ticks()
    for (_row, begin, end), first, way in zip(timeline.rows, begins, breaths, strict=True):
        if ticking:
            put(begin, high if first else low)
        if breathing and way is not None:
            put(begin, breath_sound(end - begin, way))
    for cue in timeline.cues:
        spoken = speech(cue.text, language, cue.speed)
        # From its end back: the same words are now and then a sample longer than when they were laid out.
        put(np.floor(cue.end * RATE - len(spoken)) / RATE, volume * spoken)
    loudest = float(np.abs(made).max(initial=0.0))
    return made / loudest if loudest > 1.0 else made


def captions_text(shown: Iterable[Captioned | Cue]) -> str:
    """Words with their times as a WebVTT text (W3C)."""

    def at(seconds: float) -> str:
        thousandths = round(1000.0 * max(seconds, 0.0))
        return f"{thousandths // 3_600_000:02d}:{thousandths // 60_000 % 60:02d}:{thousandths % 60_000 / 1000:06.3f}"

    lines = ["WEBVTT", ""]
    for number, each in enumerate(shown, 1):
        text = each.text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;").replace("\n", " ")
        lines += [str(number), f"{at(each.begin)} --> {at(max(each.end, each.begin + 0.2))}", text, ""]
    return "\n".join(lines)


def whole(path: Path, make: Callable[[str], None]) -> None:
    """Writes a file whole or not at all. Raises SaveError.

    It has no name until it is whole, where the file system can do so (``O_TMPFILE``, Linux): nothing is left behind,
    however the process ends. Elsewhere it is made beside, and taken away where that fails.
    """
    folder = path.resolve().parent
    try:
        handle, name = _nameless(folder) or tempfile.mkstemp(suffix=path.suffix, prefix=".waltzmark-", dir=folder)
    except OSError as error:
        raise SaveError("save.failed", name=path.name, reason=error.strerror or str(error)) from None
    try:
        make(name)
        os.fchmod(handle, 0o644)
        if name.startswith(_HANDLES):
            beside = folder / f".waltzmark-{secrets.token_hex(8)}{path.suffix}"
            os.link(name, beside, src_dir_fd=handle)  # with a folder named, the link is followed to the file itself
            name = str(beside)
        os.replace(name, path)
    except OSError as error:
        raise SaveError("save.failed", name=path.name, reason=error.strerror or str(error)) from None
    finally:
        os.close(handle)
        if not name.startswith(_HANDLES):
            Path(name).unlink(missing_ok=True)


def _nameless(folder: Path) -> tuple[int, str] | None:
    """A file in a folder without a name, and by what it can be opened meanwhile; None where there is no such thing."""
    try:
        handle = os.open(folder, os.O_TMPFILE | os.O_RDWR, 0o600)
    except (AttributeError, OSError):
        return None
    if not os.path.exists(f"{_HANDLES}{handle}"):
        os.close(handle)
        return None
    return handle, f"{_HANDLES}{handle}"


def audio_stream(container: Any, codec: str) -> Any:
    """A stream of one channel of sound."""
    stream = container.add_stream(codec, rate=_WRITTEN, layout="mono")
    if codec in ("libopus", "aac"):
        stream.bit_rate = _BITS
    return stream


def put_sound(container: Any, stream: Any, samples: Floats, layout: str, told: Progress = SILENT) -> None:
    """Encodes samples into a stream, a few seconds at a time; it is told how far it is, and may be stopped."""
    av = library("av")
    resampler = av.AudioResampler(
        format=layout, layout="mono", rate=_WRITTEN, frame_size=stream.codec_context.frame_size or 960
    )
    step = 5 * RATE
    for start in range(0, len(samples), step):
        told.tell(start / len(samples), "sound")
        piece = samples[start : start + step].astype(np.float32).reshape(1, -1)
        frame = av.AudioFrame.from_ndarray(piece, format="fltp", layout="mono")
        frame.sample_rate, frame.pts, frame.time_base = RATE, start, Fraction(1, RATE)
        for part in resampler.resample(frame):
            container.mux(stream.encode(part))
    for part in resampler.resample(None):
        container.mux(stream.encode(part))
    container.mux(stream.encode(None))


def write_track(
    path: Path, samples: Floats, title: str, shown: Sequence[Cue], told: Progress = SILENT
) -> tuple[Path, ...]:
    """Writes the sound alone, and its words beside it as WebVTT, ``NAME.words.vtt``.

    Parameters
    ----------
    path
        Its suffix says what is written: see `TRACKS`.
    samples
        From -1 to 1, `RATE` a second.
    title
        Of the form.
    shown
        What is spoken.
    told
        Is told how far it is; may stop it.

    Returns
    -------
    tuple of Path
        The files that were written.

    Raises
    ------
    WaltzmarkError
        Where it cannot be written; then there is no half file.
    """
    kind = TRACKS.get(path.suffix.lower())
    if kind is None:
        raise WaltzmarkError("film.kind", name=path.name)

    def make(name: str) -> None:
        av = library("av")
        try:
            with av.open(name, "w", format=kind[0]) as container:
                container.metadata["title"] = title
                stream = audio_stream(container, kind[1])
                container.start_encoding()
                put_sound(container, stream, samples, "s16", told)
        except av.FFmpegError as error:
            if isinstance(error, OSError):  # of the disk
                raise
            raise WaltzmarkError("film.unwritten", reason=str(error)) from None

    whole(path, make)
    words = path.with_suffix(".words.vtt")
    save_atomically(words, captions_text(shown))
    return path, words
