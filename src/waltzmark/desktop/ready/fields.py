"""The fields of the Ready stage."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDoubleSpinBox

__all__ = ["number_field"]


def number_field(name: str, least: float, most: float, decimals: int, width: int = 0) -> QDoubleSpinBox:
    """A field for a number that is taken over when the hand has done typing; width in pixels, 0 for its own."""
    spin = QDoubleSpinBox()
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
