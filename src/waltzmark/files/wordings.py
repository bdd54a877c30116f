"""Words to be drafted: a text, a Markdown file, or captions with the times at which each was said."""

from __future__ import annotations

import re
from pathlib import Path
from typing import NamedTuple

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.libraries import library
from waltzmark.files.texts import read_text
from waltzmark.files.values import DocumentError

__all__ = ["Wording", "read_words"]

#: Bytes of a file of words: a page has a few thousand.
MOST = 1_000_000
_CAPTIONS = (".srt", ".vtt")
#: Seconds without a caption from which a sentence has ended.
_PAUSE = 1.0
_TAGS = re.compile(r"<[^>]*>|\{[^}]*\}")


class Wording(NamedTuple):
    """Words, and for captions at which of their characters each began, and when, seconds."""

    text: str
    times: tuple[tuple[int, float], ...] = ()


def read_words(path: Path | str) -> Wording:
    """The words of a file. Raises DocumentError, also for captions that cannot be read."""
    text = read_text(path, "words", MOST).removeprefix("\ufeff").replace("\r\n", "\n")
    if "\x00" in text:
        raise DocumentError.of("file.encoding", name=Path(path).name)
    return _captions(text, Path(path).name) if Path(path).suffix.lower() in _CAPTIONS else Wording(text)


def _captions(text: str, name: str) -> Wording:
    """Captions as one text: their marks are left out, and lines that roll up stand once."""
    try:
        every = library("pysubs2").SSAFile.from_string(text)
    except Exception:  # whatever the library trips over
        raise DocumentError.of("file.captions", name=name) from None
    lines: list[str] = []
    times: list[tuple[int, float]] = []
    at, last, ended = 0, "", 0.0
    for event in sorted(every, key=lambda each: each.start):
        begun = event.start / 1000.0
        if lines and begun - ended > _PAUSE:  # whoever speaks pauses: what comes is another sentence
            lines[-1] += "\n"
            at += 1
        ended = event.end / 1000.0
        for line in _TAGS.sub("", event.plaintext).replace("&nbsp;", " ").replace("&amp;", "&").split("\n"):
            line = line.strip()
            if not line or line == last:
                continue
            times.append((at, begun))
            lines.append(line)
            at, last = at + len(line) + 1, line
    if not lines:
        raise WaltzmarkError("file.no-captions", name=name)
    return Wording("\n".join(lines), tuple(times))
