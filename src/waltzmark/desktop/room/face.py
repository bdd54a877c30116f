"""A face of the Room stage: a panel beside the plan, what it draws on the plan, and what a hand does there."""

from __future__ import annotations

from PySide6.QtCore import QPointF, Signal
from PySide6.QtGui import QPainter, QTransform

from waltzmark.core.form.room import Room
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import Face
from waltzmark.desktop.room.search import RoomSearch

__all__ = ["RoomFace"]


class RoomFace(Face):
    """What a face may do on the plan. Places are in the room frame, metres; *near*: metres a hand may miss by."""

    #: What it draws on the plan is another.
    drawn = Signal()
    #: What its drawing on the plan means, in one line.
    legend = ""
    #: The room as a hand would make it, while it drags.
    draft: Room | None = None

    def __init__(self, desk: Desk, search: RoomSearch) -> None:
        super().__init__(desk)
        self.search = search

    @property
    def room(self) -> Room:
        """The document's room, where there is one."""
        room = self.document.form.room
        assert room is not None
        return room

    def extent(self) -> list[QPointF]:
        """Places beside the room that the plan should show too."""
        return []

    def shown_now(self) -> None:
        """It has come to the front."""

    def paint_under(self, painter: QPainter, frame: QTransform) -> None:
        """Draws on the floor, below the walls' figures and whoever stands there."""

    def paint(self, painter: QPainter, frame: QTransform) -> None:
        """Draws above everything. *frame*: from the room to pixels."""

    def press(self, at: QPointF, near: float) -> bool:
        """A hand takes hold; whether there is something to take."""
        return False

    def drag(self, at: QPointF, free: bool) -> None:
        """The hand moves what it has taken; *free*: it keeps to nothing."""

    def drop(self, kept: bool) -> None:
        """The hand lets go; what it did is *kept*, or is as it was."""

    def double(self, at: QPointF, near: float) -> None:
        """A double click."""

    def over(self, at: QPointF, near: float) -> bool:
        """Whether something can be taken there."""
        return False
