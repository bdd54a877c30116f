"""Fields for whole numbers, and fields below each other with their words."""

from __future__ import annotations

from PySide6.QtWidgets import QGridLayout, QSpinBox, QWidget

from waltzmark.desktop.plain import Label

__all__ = ["row_of_fields", "whole_field"]


def whole_field(name: str, least: int, most: int, value: int, unit: str = "") -> QSpinBox:
    """A field for a whole number."""
    field = QSpinBox()
    field.setAccessibleName(name)
    field.setRange(least, most)
    field.setValue(value)
    field.setSuffix(unit)
    if (line := field.lineEdit()) is not None:
        line.setTextMargins(6, 0, 6, 0)
    return field


def row_of_fields(fields: tuple[tuple[str, QWidget], ...]) -> QGridLayout:
    """Fields below each other, each with its words before it."""
    grid = QGridLayout()
    grid.setColumnStretch(1, 1)
    for row, (words, field) in enumerate(fields):
        grid.addWidget(Label(words), row, 0)
        grid.addWidget(field, row, 1)
    return grid
