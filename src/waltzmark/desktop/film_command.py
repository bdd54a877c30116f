"""The command ``film``: the led walk as a film, or its sound alone, without a window."""

from __future__ import annotations

import argparse
import os
import signal
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
from waltzmark.core.form.film import FILM_SHOWS, FILM_SIZES, FILM_VIEWS, VOICES
from waltzmark.words.language import tr

__all__ = ["film_arguments", "run"]


def parser() -> argparse.ArgumentParser:
    """The command line of the command."""
    top = argparse.ArgumentParser(prog="waltzmark")
    film_arguments(top.add_subparsers(dest="command", required=True))
    return top


def film_arguments(commands: Any) -> None:
    """Adds the command to others."""
    words = tr("the form walked, as a film with voice, captions and chapters, or its sound alone")
    example = tr("for example: waltzmark film my-form.waltz --voice all --tempo 2 -o my-form.webm")
    made = commands.add_parser("film", help=words, description=words, epilog=example)
    made.add_argument("file", metavar="FILE", help=tr("a .waltz form"))
    made.add_argument("-o", dest="out", type=Path, metavar="OUT", help=tr("OUT.webm or OUT.mp4"))
    made.add_argument("--track", type=Path, metavar="OUT", help=tr("the sound alone: OUT.opus, .flac or .wav"))
    made.add_argument("--view", choices=FILM_VIEWS, help=tr("where the floor is watched from"))
    made.add_argument("--show", choices=FILM_SHOWS, help=tr("what is shown beside the words"))
    made.add_argument("--voice", choices=VOICES, help=tr("how much is spoken"))
    made.add_argument("--from", dest="first", default="", metavar="ID", help=tr("the first posture of the passage"))
    made.add_argument("--to", dest="last", default="", metavar="ID", help=tr("the last posture of the passage"))
    made.add_argument("--tempo", type=_seconds, metavar="S", help=tr("seconds a beat"))
    made.add_argument("--passes", type=_times, metavar="N", help=tr("how often it is walked"))
    made.add_argument("--size", choices=tuple(FILM_SIZES), help=tr("size of the picture"))


def _seconds(text: str) -> float:
    """Seconds a beat. Raises ValueError."""
    seconds = float(text)
    if not 0.2 <= seconds <= 20.0:
        raise ValueError(text)
    return seconds


def _times(text: str) -> int:
    """How often. Raises ValueError."""
    times = int(text)
    if not 1 <= times <= 99:
        raise ValueError(text)
    return times


class _UntilStopped:
    """Nobody asks how far it is; but it ends when it is asked to, as if by a key, and takes what is half made away."""

    def __init__(self) -> None:
        self._stopped = False
        for each in (signal.SIGINT, signal.SIGTERM):
            signal.signal(each, self._stop)

    def _stop(self, *_: object) -> None:
        # Raised in the middle of a picture being painted it would be lost; then the next picture ends it.
        self._stopped = True
        raise KeyboardInterrupt

    def tell(self, share: float, words: str = "") -> None:
        if self._stopped:
            raise KeyboardInterrupt

    def hand_out(self, so_far: object) -> None:
        pass


def run(arguments: Sequence[str]) -> int:
    """Runs the command; its exit status is 0, or 2 when it cannot be done."""
    top = parser()
    options = top.parse_args(arguments)
    if options.out is None and options.track is None:
        top.error(tr("say where to write: -o OUT.webm or --track OUT.opus"))
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    until_stopped = _UntilStopped()
    from waltzmark.cli.saying import complain, say
    from waltzmark.desktop.app import make_application
    from waltzmark.desktop.filming import make_film
    from waltzmark.files.reading import read_file

    written: list[Path] = []
    try:
        form = read_file(options.file).form
        names = ("view", "show", "voice", "tempo", "passes", "size")
        chosen = {name: getattr(options, name) for name in names if getattr(options, name) is not None}
        film = replace(form.film, **chosen)
        application = make_application()
        for out in (options.out, options.track):
            if out is not None:
                written += make_film(form, film, out, options.first, options.last, until_stopped)
        del application
    except WaltzmarkError as error:
        complain(error)
        return 2
    return say("\n".join(str(each) for each in written), 0)
