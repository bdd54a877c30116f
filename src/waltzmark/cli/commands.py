"""The names of the commands, by themselves: a window that starts need not import what they do."""

from __future__ import annotations

__all__ = ["COMMANDS"]

COMMANDS = ("trace", "check", "room", "home", "loop", "sides", "compare", "mirror", "scale")
