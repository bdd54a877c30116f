"""What the faces of the Practise stage have in common."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt

from waltzmark.core.practice.entries import Entry
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import Face
from waltzmark.desktop.plain import wrapped
from waltzmark.desktop.practise.large import LargeView

__all__ = ["PractiseFace"]


class PractiseFace(Face):
    """A face of the Practise stage, beside the large view. running: whether it leads, so that the keys are its own."""

    def __init__(self, desk: Desk, large: LargeView) -> None:
        super().__init__(desk)
        self.large = large
        self.acts: tuple[tuple[str, Qt.Key], ...] = ()  # what can be done while it leads, and by which key
        self.alone: Callable[[bool], None] = lambda _alone: None  # shows the large view alone; the stage sets it

    @property
    def running(self) -> bool:
        return False

    def key(self, key: int | None) -> None:
        """A key, or the mouse, on the large view."""

    def keep(self, entry: Entry) -> None:
        """Puts an entry into the book."""
        self.desk.practice.keep(entry)

    def caution(self, words: str) -> None:
        """A caution at the end of the panel."""
        self.column.addWidget(wrapped(words, 9.0, faint=True))
