"""The demo that ships with Waltzmark: a form, its rooms, and who is made up to practise it."""

from __future__ import annotations

from pathlib import Path

__all__ = ["PERSONS", "demo_earlier", "demo_rooms", "demo_text"]

#: Simulated; nobody is meant.
PERSONS = ("the ferryman", "the apprentice")


def demo_text() -> str:
    """The text of the demo form."""
    return (Path(__file__).parent / "ferry-round.waltz").read_text(encoding="utf-8")


def demo_earlier() -> Path:
    """The file of the demo form as it was written down two summers before, to compare it with."""
    return Path(__file__).parent / "ferry-round-earlier.waltz"


def demo_rooms() -> tuple[Path, ...]:
    """The files of the rooms of the demo's scenario."""
    return tuple(sorted((Path(__file__).parent / "rooms").glob("*.waltz")))
