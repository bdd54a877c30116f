"""Questions and messages to the user. Everything in them shows as it is written, and buttons say what they do."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6 import QtWidgets  # its dialogs are made when they are first named: that takes a while
from PySide6.QtCore import Qt

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.words.errors import explained
from waltzmark.words.language import tr

__all__ = ["Asking"]

_LINES = 12  # of a message; the rest is counted

#: Pixels that a question is wide at the least.
_WIDE = 380


class Asking:
    """Asks and tells on behalf of a window."""

    def __init__(self, window: QtWidgets.QWidget) -> None:
        self._window = window

    def tell(self, heading: str, words: str) -> None:
        """Tells of something, without waiting for an answer."""
        box = self._box(heading, words)
        box.addButton(tr("OK"), QtWidgets.QMessageBox.ButtonRole.AcceptRole)
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.open()

    def choose(self, heading: str, words: str, answers: Sequence[str], *, default: int = 0, escape: int = -1) -> int:
        """Asks which of several things to do, each in words that say what it does; returns its number.

        default: the one that Enter takes; escape: the one that Escape, or closing the question, takes.
        """
        box = self._box(heading, words)
        buttons = [box.addButton(answer, QtWidgets.QMessageBox.ButtonRole.ActionRole) for answer in answers]
        box.setDefaultButton(buttons[default])
        box.setEscapeButton(buttons[escape])
        box.exec()
        clicked = box.clickedButton()
        box.deleteLater()
        return next((n for n, button in enumerate(buttons) if button is clicked), range(len(answers))[escape])

    def _box(self, heading: str, words: str) -> QtWidgets.QMessageBox:
        box = QtWidgets.QMessageBox(self._window)
        box.setIcon(QtWidgets.QMessageBox.Icon.NoIcon)
        box.setTextFormat(Qt.TextFormat.PlainText)
        box.setWindowTitle(heading)
        box.setText(heading)
        box.setStyleSheet(
            "QLabel#qt_msgbox_label { font-weight: bold; } QLabel#qt_msgbox_informativelabel { min-width: 480px; }"
        )
        lines = words.splitlines()
        box.setInformativeText(
            "\n".join(
                lines[:_LINES] + ([tr("… and {lines} more", lines=len(lines) - _LINES)] if len(lines) > _LINES else [])
            )
        )
        for label in box.findChildren(QtWidgets.QLabel):
            label.setTextFormat(Qt.TextFormat.PlainText)
        return box

    def attempt(self, edit: Callable[[], object]) -> None:
        """Does something, or tells why it cannot be done."""
        try:
            edit()
        except WaltzmarkError as error:
            self.tell(tr("This cannot be done"), explained(error))

    # What is asked for returns None when the dialog is closed without an answer.

    def replaces(self, what: str, name: str) -> bool:
        """Asks whether another that is kept under a name may be written over."""
        words = tr(
            "“{name}” already exists as a saved {what}. Saving this one replaces it; this cannot be undone.",
            what=what,
            name=name,
        )
        answers = tr("Replace it"), tr("Keep the other")
        return self.choose(tr("Replace the saved {what}?", what=what), words, answers, default=1, escape=1) == 0

    def text(self, heading: str, words: str, now: str = "") -> str | None:
        """Asks for a text of one line."""
        dialog = self._dialog(heading, words)
        dialog.setInputMode(QtWidgets.QInputDialog.InputMode.TextInput)
        dialog.setTextEchoMode(QtWidgets.QLineEdit.EchoMode.Normal)
        dialog.setTextValue(now)
        return dialog.textValue().strip() if self._answered(dialog) else None

    def number(self, heading: str, words: str, now: float, least: float, most: float) -> float | None:
        """Asks for a number with one decimal."""
        dialog = self._dialog(heading, words)
        dialog.setInputMode(QtWidgets.QInputDialog.InputMode.DoubleInput)
        dialog.setDoubleDecimals(1)
        dialog.setDoubleRange(least, most)
        dialog.setDoubleValue(now)
        return dialog.doubleValue() if self._answered(dialog) else None

    def item(self, heading: str, words: str, items: Sequence[str], now: int = 0) -> int | None:
        """Asks for one of several things; returns its number."""
        dialog = self._dialog(heading, words)
        dialog.setComboBoxItems(list(items))
        dialog.setComboBoxEditable(False)
        dialog.setTextValue(items[now])
        return list(items).index(dialog.textValue()) if self._answered(dialog) else None

    def _dialog(self, heading: str, words: str) -> QtWidgets.QInputDialog:
        dialog = QtWidgets.QInputDialog(self._window)
        dialog.setWindowTitle(heading)
        dialog.setLabelText(words)
        return dialog

    def _answered(self, dialog: QtWidgets.QInputDialog) -> bool:
        for label in dialog.findChildren(QtWidgets.QLabel):
            label.setTextFormat(Qt.TextFormat.PlainText)
            label.setWordWrap(True)
            label.setMinimumWidth(_WIDE)  # the dialog's layout heeds no width of its own
        fine = dialog.exec() == QtWidgets.QInputDialog.DialogCode.Accepted
        dialog.deleteLater()
        return fine
