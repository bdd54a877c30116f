"""Below the floor: step and play, how long a beat lasts, and how the floor is looked at."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QHBoxLayout, QMenu, QToolButton, QWidget

from waltzmark.desktop.guard import safely
from waltzmark.desktop.player import Player, tempo_actions
from waltzmark.words.language import number, tr

__all__ = ["Transport"]


class Transport(QWidget):
    """A row of buttons for the given actions: walking at the left with the tempo, looking at the right."""

    def __init__(self, walking: list[QAction], player: Player, looking: list[QAction]) -> None:
        super().__init__()
        self._player = player
        row = QHBoxLayout(self)
        row.setContentsMargins(8, 3, 8, 3)
        row.setSpacing(3)
        for action in walking:
            row.addWidget(_button(action))
        self.tempo = QToolButton()
        self.tempo.setToolTip(tr("How long a beat lasts"))
        self.tempo.setAccessibleName(tr("Tempo"))
        self.tempo.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.tempo.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
        menu = QMenu(self.tempo)
        self._tempos = tempo_actions(player, menu)
        for action in self._tempos:
            menu.addAction(action)
        self.tempo.setMenu(menu)
        player.tempo_changed.connect(safely(self._say_tempo))
        row.addSpacing(6)
        row.addWidget(self.tempo)
        row.addStretch(1)
        for action in looking:
            row.addWidget(_button(action))
        self._say_tempo()

    def _say_tempo(self) -> None:
        self.tempo.setText(f"{number(self._player.seconds_per_beat)} s")


def _button(action: QAction) -> QToolButton:
    button = QToolButton()
    button.setDefaultAction(action)
    button.setIconSize(QSize(18, 18))
    button.setAccessibleName(action.text().replace("&", ""))
    button.setFocusPolicy(Qt.FocusPolicy.TabFocus)
    if action.icon().isNull():
        button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
    return button
