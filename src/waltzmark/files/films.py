"""Films: pictures, sound, captions and chapters in one file, through PyAV."""

from __future__ import annotations

import contextlib
import io
import queue
import threading
from collections.abc import Iterable, Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.libraries import library
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.files.saving import save_atomically
from waltzmark.files.sounds import Captioned, audio_stream, captions_text, put_sound, whole

__all__ = ["FILMS", "MOVING", "Chapter", "write_film", "write_moving"]

#: Suffixes of films, with the codecs of picture and sound, and the layout of samples.
FILMS = {".webm": ("libvpx-vp9", "libopus", "s16"), ".mp4": ("libx264", "aac", "fltp")}
#: The suffix of pictures that move on a page, without sound.
MOVING = ".webp"
#: Pictures that may wait to be encoded.
_AHEAD = 8
_LOOKS = 0.2  # seconds between two looks at whether it is given up
_OPTIONS = {
    "libvpx-vp9": {
        "deadline": "realtime",
        "cpu-used": "8",
        "row-mt": "1",
        "tile-columns": "2",
        "crf": "34",
        "b": "0",
        "lag-in-frames": "0",
        "static-thresh": "200",
    },
    "libx264": {"preset": "veryfast", "crf": "23"},
}


class Chapter(NamedTuple):
    """A part of a film, seconds."""

    begin: float
    end: float
    title: str


def write_film(
    path: Path,
    frames: Iterable[Any],
    size: tuple[int, int],
    rate: int,
    sound: Floats | None,
    captions: Sequence[Captioned],
    chapters: Sequence[Chapter],
    title: str,
    told: Progress = SILENT,
) -> tuple[Path, ...]:
    """Writes a film, whole or not at all.

    Parameters
    ----------
    path
        Its suffix says what is written: see `FILMS`.
    frames
        Pictures in order, each an array of shape (height, width, 4): blue, green, red and nothing, 8 bits each.
    size
        Width and height, pixels.
    rate
        Frames a second.
    sound
        Samples from -1 to 1, or None for none.
    captions, chapters
        Words that are shown and parts that can be chosen. Captions are a track in a WebM, and a file beside an MP4.
    title
        Of the form.
    told
        Is told how far its sound is, the last of it; may stop it.

    Returns
    -------
    tuple of Path
        The files that were written.

    Raises
    ------
    WaltzmarkError
        Where it cannot be written; then there is no half file.
    """
    kind = FILMS.get(path.suffix.lower())
    if kind is None:
        raise WaltzmarkError("film.kind", name=path.name)
    inside = path.suffix.lower() == ".webm"

    def make(name: str) -> None:
        av = library("av")
        try:
            with av.open(name, "w", format=path.suffix[1:].lower()) as container:
                container.metadata["title"] = title
                shown = captions if inside else ()
                _write(av, container, kind, frames, size, rate, sound, shown, chapters, told)
        except av.FFmpegError as error:
            if isinstance(error, OSError):  # of the disk
                raise
            raise WaltzmarkError("film.unwritten", reason=str(error)) from None

    whole(path, make)
    if inside or not captions:
        return (path,)
    words = path.with_suffix(".vtt")
    save_atomically(words, captions_text(captions))
    return path, words


def _write(
    av: Any,
    container: Any,
    kind: tuple[str, str, str],
    frames: Iterable[Any],
    size: tuple[int, int],
    rate: int,
    sound: Floats | None,
    captions: Sequence[Captioned],
    chapters: Sequence[Chapter],
    told: Progress,
) -> None:
    picture, voice, layout = kind
    video = container.add_stream(picture, rate=rate, options=_OPTIONS[picture])
    video.width, video.height, video.pix_fmt = *size, "yuv420p"
    video.thread_type = "AUTO"
    audio = audio_stream(container, voice) if sound is not None else None
    words = _captions(av, container, captions) if captions else ()
    container.set_chapters(
        [
            {
                "id": number,
                "start": round(1000 * each.begin),
                "end": round(1000 * each.end),
                "time_base": Fraction(1, 1000),
                "metadata": {"title": each.title},
            }
            for number, each in enumerate(chapters, 1)
        ]
    )
    _encode(av, container, video, frames, rate)
    for packet in words:
        container.mux(packet)
    if audio is not None and sound is not None:
        put_sound(container, audio, sound, layout, told)


def _encode(av: Any, container: Any, video: Any, frames: Iterable[Any], rate: int) -> None:
    """Encodes pictures in a thread, while the next ones are drawn in this one."""
    waiting: queue.Queue[Any] = queue.Queue(_AHEAD)
    wrong: list[BaseException] = []
    given_up = threading.Event()

    def encode() -> None:
        try:
            while not given_up.is_set():
                # Whoever draws may be ended at any moment, also while it hands something over.
                with contextlib.suppress(queue.Empty):
                    made = waiting.get(timeout=_LOOKS)
                    container.mux(video.encode(made))  # of None comes what is still in the encoder
                    if made is None:
                        return
        except BaseException as error:  # told by who draws
            wrong.append(error)

    def hand_over(made: Any) -> None:
        while not wrong:
            with contextlib.suppress(queue.Full):
                waiting.put(made, timeout=_LOOKS)
                return

    worker = threading.Thread(target=encode, name="waltzmark film", daemon=True)
    worker.start()
    try:
        for number, frame in enumerate(frames):
            if wrong:
                break
            made = av.VideoFrame.from_ndarray(np.ascontiguousarray(frame), format="bgra")
            made.pts, made.time_base = number, Fraction(1, rate)
            hand_over(made)
        hand_over(None)
        worker.join()
    finally:
        given_up.set()  # where it is not done, what waits is not worth its time any more
        worker.join()
    if wrong:
        raise wrong[0]


def _captions(av: Any, container: Any, captions: Sequence[Captioned]) -> list[Any]:
    """A stream of captions, and its packets: the library takes them from a text of words."""
    with av.open(io.BytesIO(captions_text(captions).encode()), format="webvtt") as read:
        stream = container.add_stream_from_template(read.streams.subtitles[0])
        packets = [packet for packet in read.demux() if packet.dts is not None]
    for packet in packets:
        packet.stream = stream
    return packets


def write_moving(path: Path, frames: Iterable[Any], rate: int, every: int, width: int) -> tuple[Path, ...]:
    """Writes pictures that move on a page, an animated WebP, whole or not at all.

    Parameters
    ----------
    path
        Where.
    frames, rate
        As for a film.
    every
        Of how many frames one is taken.
    width
        To which they are made smaller, pixels.

    Returns
    -------
    tuple of Path
        The file that was written.

    Raises
    ------
    WaltzmarkError
        Where it cannot be written; then there is no half file.
    """
    images = library("PIL.Image")
    taken: list[Any] = []
    for at, frame in enumerate(frames):
        if at % every == 0:
            picture = images.fromarray(np.ascontiguousarray(frame[:, :, 2::-1]))
            high = round(picture.height * width / picture.width)
            taken.append(picture.resize((width, high), images.Resampling.LANCZOS))

    def make(name: str) -> None:
        with open(name, "wb") as file:
            taken[0].save(
                file,
                "WEBP",
                save_all=True,
                append_images=taken[1:],
                duration=round(1000 * every / rate),
                loop=0,
                quality=60,
                method=4,
                allow_mixed=True,
            )

    whole(path, make)
    return (path,)
