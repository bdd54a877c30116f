"""The shortcut sheet: every action with its keys, one key away."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QGridLayout, QHBoxLayout, QLabel, QVBoxLayout, QWidget

from waltzmark.desktop.theme import font

if TYPE_CHECKING:
    from waltzmark.desktop.actions import Actions

__all__ = ["ShortcutSheet"]

_ELSEWHERE = (
    ("Enter, in the entry line", "After the selected count"),
    ("Shift+Enter", "Before it"),
    ("Ctrl+Enter", "At the end of the posture"),
    ("Tab", "The first word offered"),
    ("Up, Down, in the entry line", "What was entered before"),
    ("Escape, in the entry line", "Clear it"),
    ("Up, Down, in the score", "Walk through the counts"),
    ("Left, Right, on the ribbon", "Walk a quarter of a count"),
    ("Drag a foot, its toe", "Step there, pivot on the heel"),
    ("Ctrl, Shift held on a toe", "Pivot on the ball, on the toe"),
    ("Drag beam, dial or knob", "Pour the weight, turn the waist"),
    ("Alt held while dragging", "Keep to nothing"),
    ("Escape while dragging", "Let go without a change"),
    ("Shift+arrows, on the floor", "Move the floor"),
    ("Wheel, on the floor", "Larger or smaller"),
)


class ShortcutSheet(QDialog):
    """Lists the shortcuts of all actions, menu by menu."""

    def __init__(self, actions: Actions, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Shortcuts")
        groups = [
            (title.replace("&", ""), [_line(a) for a in listed if a is not None and a.shortcuts()])
            for title, listed in actions.menus
        ]
        groups.append(("Where the focus is", list(_ELSEWHERE)))
        sides = (QVBoxLayout(), QVBoxLayout())
        filled = [0, 0]
        for title, lines in groups:
            side = 0 if filled[0] <= filled[1] else 1
            filled[side] += len(lines) + 2
            sides[side].addLayout(_group(title, lines))
        row = QHBoxLayout()
        row.setSpacing(44)
        for half in sides:
            half.setSpacing(14)
            half.addStretch(1)
            row.addLayout(half)
        column = QVBoxLayout(self)
        column.setContentsMargins(24, 18, 24, 16)
        column.addLayout(row)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column.addSpacing(10)
        column.addWidget(buttons)


def _line(action: QAction) -> tuple[str, str]:
    """Keys and words of an action."""
    keys = " or ".join(key.toString(QKeySequence.SequenceFormat.NativeText) for key in action.shortcuts())
    return keys, action.text().replace("&", "").partition(":")[0].replace(" …", "")


def _group(title: str, lines: list[tuple[str, str]]) -> QGridLayout:
    grid = QGridLayout()
    grid.setHorizontalSpacing(18)
    grid.setVerticalSpacing(3)
    heading = QLabel(title)
    heading.setFont(font(11.5, bold=True))
    grid.addWidget(heading, 0, 0, 1, 2)
    for row, (keys, words) in enumerate(lines, 1):
        shown = QLabel(keys)
        shown.setObjectName("faint")
        grid.addWidget(shown, row, 0)
        grid.addWidget(QLabel(words), row, 1, Qt.AlignmentFlag.AlignLeft)
    grid.setColumnStretch(1, 1)
    grid.setColumnMinimumWidth(0, 150)
    return grid
