"""Fields for lengths of the floor, which can be typed in any unit, boards and paces among them."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QWheelEvent
from PySide6.QtWidgets import QLineEdit

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.units import METRES
from waltzmark.core.edit.measuring import read_measure
from waltzmark.core.form.room import FloorLines
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import set_tip
from waltzmark.words.errors import explained
from waltzmark.words.language import tr

__all__ = ["LengthField", "named"]

_STEP = 0.01  # metres that an arrow key changes


@guarded
class LengthField(QLineEdit):
    """A length: shown in the user's unit, typed in any. changed: metres, when the hand has done typing."""

    changed = Signal(float)

    def __init__(self, document: Document, name: str, width: int = 84, tip: str = "") -> None:
        super().__init__()
        self._document, self._name = document, name
        self.metres = 0.0
        self.setAccessibleName(name)
        self.setFixedWidth(width)
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self._tip = tip or tr("{name}: such as 3.2m, 120cm, 12 boards or 5 paces", name=name)
        set_tip(self, self._tip)
        self.editingFinished.connect(safely(self._take))
        # A method of its own: what a function closes over would live as long as the session.
        document.session.figures_changed.connect(safely(self._show_anew))

    @property
    def _unit(self) -> str:
        """The unit it is shown in: the user's, where a room can be told in it."""
        unit = self._document.session.say.unit
        return unit if unit in ("cm", "m", "in") else "cm"

    def _show_anew(self) -> None:
        self.show_length(self.metres)

    def show_length(self, metres: float) -> None:
        """Shows a length; the field counts as untouched then."""
        self.metres = metres
        decimals = {"cm": 0, "m": 2, "in": 1}[self._unit]
        value = metres / METRES[self._unit]
        if decimals == 0 and abs(value - round(value)) > 0.05:
            decimals = 1
        self.setText(f"{value:.{decimals}f} {self._unit}")
        self._mark(None)

    def _mark(self, problem: str | None) -> None:
        set_tip(self, problem or self._tip)
        self.setProperty("wrong", problem is not None)
        self.style().unpolish(self)
        self.style().polish(self)

    def _take(self) -> None:
        room = self._document.form.room
        try:
            metres = read_measure(
                self.text(), self._unit, room.lines if room is not None else FloorLines(), self._document.form.body
            )
        except WaltzmarkError as error:
            self._mark(explained(error))
            return
        if abs(metres - self.metres) > 5e-5 and self._shown_is_other(metres):
            self._give(metres)
        else:
            self.show_length(self.metres)

    def _shown_is_other(self, metres: float) -> bool:
        """Whether something else was typed than what was shown, which is rounded."""
        return round(metres / METRES[self._unit], 1) != round(self.metres / METRES[self._unit], 1) or self.isModified()

    def _give(self, metres: float) -> None:
        self.show_length(metres)
        self.changed.emit(metres)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        ways = {Qt.Key.Key_Up: 1, Qt.Key.Key_Down: -1}
        if event.key() in ways:
            far = 10 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
            self._give(round(self.metres + ways[Qt.Key(event.key())] * far * _STEP, 4))
        elif event.key() == Qt.Key.Key_Escape:
            self.show_length(self.metres)
        else:
            super().keyPressEvent(event)

    def wheelEvent(self, event: QWheelEvent) -> None:
        event.ignore()  # a page that scrolls must not change what it passes over


def named(field: LengthField, taken: Callable[[float], None]) -> LengthField:
    """A field with what is done with its length."""
    field.changed.connect(safely(taken))
    return field
