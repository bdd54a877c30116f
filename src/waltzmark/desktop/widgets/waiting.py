"""How far a search is, in words and as a bar, and a button that stops it."""

from __future__ import annotations

import math
import time

from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QVBoxLayout, QWidget

from waltzmark.desktop.plain import Label
from waltzmark.desktop.theme import font
from waltzmark.words.language import ntr, tr
from waltzmark.words.snaps import doing

__all__ = ["Waiting"]

_EARLY = 0.03  # of the work, before which nobody knows how long the rest takes
_LONG = 90.0  # seconds above which minutes are told


class Waiting(QWidget):
    """Shown below what is searched for. again: the words of the button when nothing is searched; it is hidden then
    without. even: whether each share of the work takes about as long as any other, so that the time left is told."""

    def __init__(self, again: str = "", even: bool = False) -> None:
        super().__init__()
        self._again, self._even = again, even
        self._since = 0.0
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
        if not searching or share <= 0.0:
            self._since = time.monotonic()
        self.bar.setVisible(searching)
        self.bar.setValue(round(100 * share))
        self.button.setText(tr("Stop") if searching else self._again)
        self.button.setVisible(searching or bool(self._again))
        self.said.setText(self._words(share, kind) if searching else "")

    def _words(self, share: float, kind: str) -> str:
        """What is being done, and how much longer it takes."""
        spent = time.monotonic() - self._since
        if not self._even or share < _EARLY or spent < 1.0:
            return doing(kind)
        left = spent * (1.0 - share) / share
        words = (
            tr("{n} s left", n=math.ceil(left))
            if left < _LONG
            else ntr("{n} minute left", "{n} minutes left", math.ceil(left / 60.0))
        )
        return tr("{doing}, about {left}", doing=doing(kind), left=words)
