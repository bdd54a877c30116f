"""The shortcut sheet: every action with its keys, one key away."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QGridLayout, QLabel, QVBoxLayout, QWidget

from waltzmark.desktop.theme import font

if TYPE_CHECKING:
    from waltzmark.desktop.actions import Actions

__all__ = ["ShortcutSheet"]

_ELSEWHERE = (
    ("Enter, in the entry line", "Add the count"),
    ("Escape, in the entry line", "Clear it"),
    ("Up, Down, in the score", "Walk through the counts"),
    ("Left, Right, on the ribbon", "Walk a quarter of a count"),
    ("Shift+arrows, on the floor", "Move the floor"),
    ("Wheel, on the floor", "Larger or smaller"),
)


class ShortcutSheet(QDialog):
    """Lists the shortcuts of all actions, menu by menu."""

    def __init__(self, actions: Actions, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Shortcuts")
        grid = QGridLayout()
        grid.setHorizontalSpacing(18)
        grid.setVerticalSpacing(4)
        columns = (0, 3)
        rows = [0, 0]
        groups = [
            (title.replace("&", ""), [(a.shortcuts(), a.text()) for a in listed if a is not None and a.shortcuts()])
            for title, listed in actions.menus
        ]
        for title, lines in groups:
            side = 0 if rows[0] <= rows[1] else 1
            self._heading(grid, rows[side], columns[side], title)
            for offset, (keys, text) in enumerate(lines, 1):
                shown = " or ".join(k.toString(QKeySequence.SequenceFormat.NativeText) for k in keys)
                plain = text.replace("&", "").partition(":")[0].replace(" …", "")
                self._line(grid, rows[side] + offset, columns[side], shown, plain)
            rows[side] += len(lines) + 1
        side = 0 if rows[0] <= rows[1] else 1
        self._heading(grid, rows[side], columns[side], "Where the focus is")
        for offset, (keys_text, text) in enumerate(_ELSEWHERE, 1):
            self._line(grid, rows[side] + offset, columns[side], keys_text, text)
        grid.setColumnMinimumWidth(2, 24)
        column = QVBoxLayout(self)
        column.setContentsMargins(22, 18, 22, 16)
        column.addLayout(grid)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column.addSpacing(10)
        column.addWidget(buttons)

    def _heading(self, grid: QGridLayout, row: int, column: int, text: str) -> None:
        label = QLabel(text)
        label.setFont(font(11.5, bold=True))
        label.setContentsMargins(0, 8 if row else 0, 0, 0)
        grid.addWidget(label, row, column, 1, 2)

    def _line(self, grid: QGridLayout, row: int, column: int, keys: str, text: str) -> None:
        label = QLabel(keys)
        label.setObjectName("faint")
        grid.addWidget(label, row, column)
        grid.addWidget(QLabel(text), row, column + 1, Qt.AlignmentFlag.AlignLeft)
