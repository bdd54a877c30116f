"""Below the floor: step and play, how long a beat lasts, and how the floor is looked at."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QHBoxLayout, QMenu, QToolButton, QWidget

__all__ = ["Transport"]


class Transport(QWidget):
    """A row of buttons for the given actions: walking at the left, looking at the right."""

    def __init__(self, walking: list[QAction], tempos: list[QAction], looking: list[QAction]) -> None:
        super().__init__()
        row = QHBoxLayout(self)
        row.setContentsMargins(8, 3, 8, 3)
        row.setSpacing(3)
        for action in walking:
            row.addWidget(_button(action))
        self.tempo = QToolButton()
        self.tempo.setToolTip("How long a beat lasts")
        self.tempo.setAccessibleName("Tempo")
        self.tempo.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.tempo.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
        menu = QMenu(self.tempo)
        for action in tempos:
            menu.addAction(action)
            action.toggled.connect(self._say_tempo)
        self._tempos = tempos
        self.tempo.setMenu(menu)
        row.addSpacing(6)
        row.addWidget(self.tempo)
        row.addStretch(1)
        for action in looking:
            row.addWidget(_button(action))
        self._say_tempo()

    def _say_tempo(self) -> None:
        self.tempo.setText(next((a.text().removesuffix(" a beat") for a in self._tempos if a.isChecked()), "Tempo"))


def _button(action: QAction) -> QToolButton:
    button = QToolButton()
    button.setDefaultAction(action)
    button.setIconSize(QSize(18, 18))
    button.setAccessibleName(action.text().replace("&", ""))
    button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    if action.icon().isNull():
        button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
    return button
