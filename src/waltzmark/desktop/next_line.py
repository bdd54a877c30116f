"""The line below the answers: what the stage is for, and what is useful next."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton

from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import Label, faint, set_tip
from waltzmark.desktop.theme import font
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence

if TYPE_CHECKING:
    from waltzmark.core.answers.onward import Onward

__all__ = ["OnwardLine"]


class OnwardLine(QFrame):
    """asked: something to go on with was pressed, an `Onward`."""

    asked = Signal(object)

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document, self._stage, self._quiet = document, "", False
        self._offered: tuple[Onward, ...] = ()
        self.setObjectName("onward")
        self.purpose = Label()
        self.purpose.setWordWrap(True)  # where the window is narrow
        self.purpose.setFont(font(9.5))
        self.purpose.setObjectName("faint")
        self.next = faint(tr("Next:"), 9.5)
        self.buttons = [QPushButton() for _ in range(2)]
        row = QHBoxLayout(self)
        row.setContentsMargins(14, 0, 14, 5)
        row.setSpacing(8)
        row.addWidget(self.purpose, 1)
        row.addWidget(self.next)
        for number, button in enumerate(self.buttons):
            button.setObjectName("onward")
            button.clicked.connect(safely(lambda _checked=False, number=number: self._press(number)))
            row.addWidget(button)
        document.judge.reviewed.connect(safely(self.refresh))
        document.opened.connect(safely(self.refresh))
        self.refresh()

    def show_stage(self, name: str, title: str, purpose: str) -> None:
        """Says what a stage is for, and what is useful after it."""
        self._stage = name
        self.purpose.setText(f"{title}: {purpose}")
        self.refresh()

    def refresh(self) -> None:
        """Shows what is next, once that is known; until then what was."""
        review = self._document.judge.review
        if review is None:
            return
        from waltzmark.core.answers.onward import onward  # known only after the first picture

        self._offered = () if self._quiet else onward(self._document.form, review, self._stage)
        for number, button in enumerate(self.buttons):
            shown = number < len(self._offered)
            button.setVisible(shown)
            if shown:
                words = sentence(self._offered[number].does)
                button.setText(words)
                set_tip(button, words + ("  (Ctrl+G)" if not number else ""))
        self.next.setVisible(bool(self._offered))

    def keep_quiet(self, quiet: bool) -> None:
        """Says what is next, or leaves that to a first form that is being written."""
        self._quiet = quiet
        self.refresh()

    def go(self) -> None:
        """Goes on with the first of them."""
        self._press(0)

    def _press(self, number: int) -> None:
        if self._document.judge.review is not None and number < len(self._offered):
            self.asked.emit(self._offered[number])
