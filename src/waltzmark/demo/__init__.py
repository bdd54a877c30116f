"""The demo that ships with Waltzmark: a form, its rooms, and who is made up to practise it."""

from __future__ import annotations

import re
from collections.abc import Iterator
from pathlib import Path

from waltzmark.words.language import N_, as_written, language, shipped, tr

__all__ = ["demo_earlier", "demo_lesson", "demo_names", "demo_rooms", "demo_text", "persons", "told_here"]

#: Simulated; nobody is meant.
_PERSONS = (N_("the ferryman"), N_("the apprentice"))
_NAMED = (
    r'(?m)(?<=^title = ")[^"\n]+(?=")|(?<=^name = ")[^"\n]+(?=")|(?<=^note = ")[^"\n]+(?=")',
    r'(?m)(?<=# )[^"\n]+(?=",?$)',  # a note of a count
    r'(?<=\d = ")[^"\n]+(?=")',  # the name of a wall
)


def persons() -> tuple[str, ...]:
    """Who is made up to practise the demo, in the language that is set."""
    return tuple(tr(each) for each in _PERSONS)


def demo_names(text: str) -> Iterator[str]:
    """The names and notes in the text of a document that ships."""
    for pattern in _NAMED:
        yield from re.findall(pattern, text)


def told_here(text: str) -> str:
    """The text of a document that ships, with its names and notes in the language that is set."""
    for pattern in () if as_written() else _NAMED:
        text = re.sub(pattern, lambda found: shipped(found[0]), text)
    return text


def demo_lesson(kind: str) -> tuple[Path, str]:
    """A lesson that comes with Waltzmark, as Markdown (md) or captions (srt), and the language it is in."""
    here = language()[:2]
    own = Path(__file__).parent / f"lesson.{here}.{kind}"
    return (own, here) if own.exists() else (Path(__file__).parent / f"lesson.{kind}", "en")


def demo_text() -> str:
    """The text of the demo form."""
    return (Path(__file__).parent / "ferry-round.waltz").read_text(encoding="utf-8")


def demo_earlier() -> Path:
    """The file of the demo form as it was written down two summers before, to compare it with."""
    return Path(__file__).parent / "ferry-round-earlier.waltz"


def demo_rooms() -> tuple[Path, ...]:
    """The files of the rooms of the demo's scenario."""
    return tuple(sorted((Path(__file__).parent / "rooms").glob("*.waltz")))
