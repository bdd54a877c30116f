"""The shortcut sheet: every action with its keys, one key away."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from waltzmark.desktop.actions import Book
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import Label
from waltzmark.desktop.stages import STAGES
from waltzmark.desktop.theme import font

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
    """Lists the shortcuts of the window, then those of each stage, made from what they do; it scrolls."""

    def __init__(self, book: Book, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Shortcuts")
        groups = [("Everywhere", book.lines(""))]
        groups += [(f"In {row.title.replace('&', '')}", book.lines(row.name)) for row in STAGES]
        groups.append(("With the hand, and where the focus is", list(_ELSEWHERE)))
        sides = (QVBoxLayout(), QVBoxLayout())
        filled = [0, 0]
        for title, lines in groups:
            side = 0 if filled[0] <= filled[1] else 1
            filled[side] += len(lines) + 2
            sides[side].addLayout(_group(title, lines))
        page = QWidget()
        row = QHBoxLayout(page)
        row.setContentsMargins(24, 12, 24, 12)
        row.setSpacing(44)
        for half in sides:
            half.setSpacing(14)
            half.addStretch(1)
            row.addLayout(half)
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(page)
        area.setMinimumWidth(page.sizeHint().width() + 16)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 8, 0, 14)
        column.addWidget(area, 1)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.setContentsMargins(0, 0, 22, 0)
        buttons.rejected.connect(safely(self.reject))
        column.addWidget(buttons)
        free = self.screen().availableGeometry()
        self.resize(
            min(page.sizeHint().width() + 20, free.width() - 80),
            min(page.sizeHint().height() + 80, 700, free.height() - 80),
        )


def _group(title: str, lines: list[tuple[str, str]]) -> QGridLayout:
    grid = QGridLayout()
    grid.setHorizontalSpacing(18)
    grid.setVerticalSpacing(3)
    heading = Label(title)
    heading.setFont(font(11.5, bold=True))
    grid.addWidget(heading, 0, 0, 1, 2)
    for row, (keys, words) in enumerate(lines, 1):
        shown = Label(keys)
        shown.setObjectName("faint")
        grid.addWidget(shown, row, 0)
        grid.addWidget(Label(words), row, 1, Qt.AlignmentFlag.AlignLeft)
    grid.setColumnStretch(1, 1)
    grid.setColumnMinimumWidth(0, 150)
    return grid
