"""The demo form that ships with Waltzmark."""

from __future__ import annotations

from importlib import resources

__all__ = ["demo_text"]


def demo_text() -> str:
    """The text of the demo form."""
    return resources.files(__name__).joinpath("ferry-round.waltz").read_text(encoding="utf-8")
