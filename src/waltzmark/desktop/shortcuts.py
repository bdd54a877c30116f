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
from waltzmark.desktop.plain import Label, faint
from waltzmark.desktop.stages import STAGES
from waltzmark.desktop.theme import font
from waltzmark.words.language import tr

__all__ = ["ShortcutSheet"]

_ELSEWHERE = (
    (tr("Enter, in the entry line"), tr("Add after the selected count")),
    ("Shift+Enter", tr("Add before it")),
    ("Ctrl+Enter", tr("Add at the end of the posture")),
    ("Tab", tr("Accept the first suggestion")),
    (tr("Up, Down, in the entry line"), tr("Earlier entries")),
    (tr("Escape, in the entry line"), tr("Clear the line")),
    (tr("Up, Down, in the score"), tr("Move through the counts")),
    (tr("Left, Right, on the ribbon"), tr("Move by a quarter of a count")),
    (tr("Drag a foot, its toe"), tr("Step there; pivot on the heel")),
    (tr("Ctrl, Shift held on a toe"), tr("Pivot on the ball, on the toe")),
    (tr("Drag beam, dial or knob"), tr("Shift the weight; turn the waist")),
    (tr("Alt held while dragging"), tr("Do not snap")),
    (tr("Escape while dragging"), tr("Cancel")),
    (tr("Shift+arrows, on the floor"), tr("Move the floor")),
    (tr("Wheel, on the floor"), tr("Zoom")),
)


class ShortcutSheet(QDialog):
    """Lists the shortcuts of the window, then those of each stage, made from what they do; it scrolls."""

    def __init__(self, book: Book, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Shortcuts"))
        groups = [(tr("Everywhere"), book.lines(""))]
        groups += [(tr("In {stage}", stage=row.title.replace("&", "")), book.lines(row.name)) for row in STAGES]
        groups.append((tr("Mouse and focus"), list(_ELSEWHERE)))
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
        shown = faint(keys)
        grid.addWidget(shown, row, 0)
        grid.addWidget(Label(words), row, 1, Qt.AlignmentFlag.AlignLeft)
    grid.setColumnStretch(1, 1)
    grid.setColumnMinimumWidth(0, 150)
    return grid
