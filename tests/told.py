"""What is told, as tests expect it."""

from __future__ import annotations

from waltzmark.core.base.messages import Heading, Message, message

__all__ = ["thing", "wall_at", "wall_named"]


def thing(name: str) -> Message:
    """Something that stands in a room."""
    return message("thing.named", name=name)


def wall_at(heading: float) -> Message:
    """A wall without a name, by the heading in degrees in which one looks at it."""
    return message("wall", wall=message("wall.at", at=Heading(heading)))


def wall_named(name: str) -> Message:
    return message("wall", wall=message("wall.named", name=name))
