"""Text that shows as it is written. Nothing in a document is more than text, so Qt must not guess at mark-up in it.

`QLabel`, `QMessageBox` and `QInputDialog` guess; they are made here and in `asking.py`, nowhere else: ruff holds that.
"""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QLabel, QTableWidgetItem, QWidget

from waltzmark.desktop.guard import guarded
from waltzmark.desktop.theme import font

__all__ = ["Label", "RichLabel", "faint", "heading", "key_words", "plain", "rich", "set_tip", "wrapped"]


class Label(QLabel):
    """A label that shows its text as it is written."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


def heading(words: str) -> Label:
    """A heading in a panel."""
    label = Label(words)
    label.setFont(font(11.0, bold=True))
    return label


def faint(words: str, points: float = 0.0, bold: bool = False) -> Label:
    """Words that stand back. points: of their font, 0 for the usual."""
    label = Label(words)
    label.setObjectName("faint")
    if points:
        label.setFont(font(points, bold=bold))
    return label


def wrapped(words: str = "", points: float = 0.0, bold: bool = False, faint: bool = False) -> Label:
    """Words that take as many lines as they need. points: of their font, 0 for the usual; faint: they stand back."""
    label = Label(words)
    label.setWordWrap(True)
    if points:
        label.setFont(font(points, bold=bold))
    if faint:
        label.setObjectName("faint")
    return label


@guarded
class RichLabel(QLabel):
    """A label for mark-up of our own; whatever of a document goes into it goes through `rich`. It follows no links."""

    def __init__(self, text: str = "", parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setOpenExternalLinks(False)
        self.setTextInteractionFlags(Qt.TextInteractionFlag.NoTextInteraction)
        self.setText(text)

    def setText(self, text: str) -> None:
        marked = "<" in text or "&" in text  # else Qt need not make a document of it
        self.setTextFormat(Qt.TextFormat.RichText if marked else Qt.TextFormat.PlainText)
        super().setText(text)


def rich(text: str) -> str:
    """Text as part of mark-up: it shows as it is written."""
    for sign, written in (("&", "&amp;"), ("<", "&lt;"), (">", "&gt;"), ('"', "&quot;"), ("\n", "<br>")):
        text = text.replace(sign, written)
    return text


def plain(text: str) -> str:
    """Text for where Qt guesses whether it is mark-up, such as tips: it shows as it is written."""
    return f"<qt>{rich(text)}</qt>" if "<" in text else text


def set_tip(of: QWidget | QAction | QTableWidgetItem, text: str) -> None:
    """Gives a widget or an action a tip that may have anything of a document in it."""
    of.setToolTip(plain(text))


def key_words(keys: QKeySequence) -> str:
    """Keys as menus name them, in the language of the desktop: Ctrl+B."""
    return keys.toString(QKeySequence.SequenceFormat.NativeText)
