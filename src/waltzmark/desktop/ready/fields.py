"""The fields of the Ready stage."""

from __future__ import annotations

from PySide6.QtCore import QLocale, Qt
from PySide6.QtGui import QValidator
from PySide6.QtWidgets import QDoubleSpinBox

from waltzmark.desktop.guard import guarded

__all__ = ["number_field"]


@guarded
class _NumberField(QDoubleSpinBox):
    """A field for a number that takes a point and a comma alike, whatever the language of the machine: figures are
    shown with a point everywhere, and what is read as a mark of thousands would be another number."""

    def __init__(self) -> None:
        super().__init__()
        plain = QLocale(QLocale.Language.C)
        plain.setNumberOptions(QLocale.NumberOption.OmitGroupSeparator | QLocale.NumberOption.RejectGroupSeparator)
        self.setLocale(plain)

    def validate(self, text: str, at: int) -> tuple[QValidator.State, str, int]:
        state, _, at = super().validate(text.replace(",", "."), at)
        return state, text.replace(",", "."), at

    def valueFromText(self, text: str) -> float:
        return float(super().valueFromText(text.replace(",", ".")))


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
