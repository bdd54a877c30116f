"""What the faces of the Practise stage have in common."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QVBoxLayout, QWidget

from waltzmark.core.practice.entries import Entry
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.plain import Label
from waltzmark.desktop.practise.large import LargeView
from waltzmark.desktop.theme import font

__all__ = ["PractiseFace"]


class PractiseFace(QWidget):
    """A face of the Practise stage, beside the large view. name, purpose: as `Named`; running: whether it leads, so
    that the keys are its own."""

    name = ""
    purpose = ""

    def __init__(self, desk: Desk, large: LargeView) -> None:
        super().__init__()
        self.desk, self.document, self.large = desk, desk.document, large
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(14, 10, 14, 10)
        self.column.setSpacing(7)
        self.acts: tuple[tuple[str, Qt.Key], ...] = ()  # what can be done while it leads, and by which key
        self.alone: Callable[[bool], None] = lambda _alone: None  # shows the large view alone; the stage sets it

    @property
    def running(self) -> bool:
        return False

    def refresh(self) -> None:
        """Shows the document as it is."""

    def key(self, key: int | None) -> None:
        """A key, or the mouse, on the large view."""

    def leave(self) -> None:
        """Another face is shown, or the stage is left: what runs is ended."""

    def keep(self, entry: Entry) -> None:
        """Puts an entry into the book."""
        self.desk.practice.keep(entry)

    def caution(self, words: str) -> Label:
        """A caution at the end of the panel."""
        label = Label(words)
        label.setObjectName("faint")
        label.setFont(font(9.0))
        label.setWordWrap(True)
        self.column.addWidget(label)
        return label
