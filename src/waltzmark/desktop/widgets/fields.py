"""Fields for numbers, and fields below each other with their words."""

from __future__ import annotations

from PySide6.QtCore import QLocale, Qt
from PySide6.QtGui import QValidator
from PySide6.QtWidgets import QDoubleSpinBox, QGridLayout, QSpinBox, QWidget

from waltzmark.desktop.guard import guarded
from waltzmark.desktop.plain import Label
from waltzmark.words.language import number

__all__ = ["number_field", "row_of_fields", "whole_field"]


@guarded
class _NumberField(QDoubleSpinBox):
    """A field for a number that takes a point and a comma alike, whatever the language: what is read as a mark of
    thousands would be another number. It shows the mark of the language."""

    def __init__(self) -> None:
        super().__init__()
        plain = QLocale(QLocale.Language.C)
        plain.setNumberOptions(QLocale.NumberOption.OmitGroupSeparator | QLocale.NumberOption.RejectGroupSeparator)
        self.setLocale(plain)

    def validate(self, text: str, at: int) -> tuple[QValidator.State, str, int]:
        state, _, at = super().validate(text.replace(",", "."), at)
        return state, text, at

    def valueFromText(self, text: str) -> float:
        return float(super().valueFromText(text.replace(",", ".")))

    def textFromValue(self, value: float) -> str:
        return str(super().textFromValue(value)).replace(".", number(0.5, 1)[1])


def number_field(name: str, least: float, most: float, decimals: int, width: int = 0) -> QDoubleSpinBox:
    """A field for a number that is taken over when the hand has done typing; width in pixels, 0 for its own."""
    spin = _NumberField()
    spin.setAccessibleName(name)
    spin.setDecimals(decimals)
    spin.setRange(least, most)
    spin.setKeyboardTracking(False)
    if width:
        spin.setFixedWidth(width)
        spin.setAlignment(Qt.AlignmentFlag.AlignRight)
    if (line := spin.lineEdit()) is not None:
        line.setTextMargins(6, 0, 6, 0)
    return spin


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
