"""How far a search is, in words and as a bar, and a button that stops it."""

from __future__ import annotations

from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QVBoxLayout, QWidget

from waltzmark.desktop.plain import Label
from waltzmark.desktop.theme import font
from waltzmark.words.language import tr
from waltzmark.words.snaps import doing

__all__ = ["Waiting"]


class Waiting(QWidget):
    """Shown below what is searched for. again: the words of the button when nothing is searched; it is hidden then
    without."""

    def __init__(self, again: str = "") -> None:
        super().__init__()
        self._again = again
        self.bar = QProgressBar()
        self.bar.setRange(0, 100)
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(6)
        self.bar.setAccessibleName(tr("Search progress"))
        self.said = Label()
        self.said.setObjectName("faint")
        self.said.setFont(font(9.0))
        self.button = QPushButton(tr("Stop"))
        self.button.setObjectName("small")
        row = QHBoxLayout()
        row.addWidget(self.said, 1)
        row.addWidget(self.button)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.bar)
        column.addLayout(row)
        self.tell(False)

    def tell(self, searching: bool, share: float = 0.0, kind: str = "") -> None:
        """Shows whether a search goes on, how much of it is done, and what is being done."""
        self.bar.setVisible(searching)
        self.bar.setValue(round(100 * share))
        self.button.setText(tr("Stop") if searching else self._again)
        self.button.setVisible(searching or bool(self._again))
        self.said.setText(doing(kind) if searching else "")
