"""The Return stage: the chain on the floor beside its ledger, and the loops beside what a round does."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.form.form import Home
from waltzmark.core.score.facings import Clock
from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.history import Selection
from waltzmark.desktop.home.chain import ChainView
from waltzmark.desktop.home.ledger import LedgerFace
from waltzmark.desktop.home.loops import LoopsFace, LoopsView
from waltzmark.desktop.plain import set_tip
from waltzmark.desktop.plot.ribbon import WeightRibbon
from waltzmark.desktop.plot.transport import Transport
from waltzmark.desktop.theme import Theme

__all__ = ["HomeStage"]

_PANEL = 432  # pixels


class HomeStage(Stage):
    """Two faces: ledger, and rounds and loops."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        document, theme, book = desk.document, desk.theme, desk.book
        self._document = document
        self.chain = ChainView(document, theme)
        self.drawings = LoopsView(document, theme)
        self.ledger = LedgerFace(desk, self.chain)
        self.loops = LoopsFace(desk, self.drawings)
        self.ribbon = WeightRibbon(document, desk.editor, theme)
        transport = Transport([book[name] for name in ("back", "play", "forward")], desk.player,
                              [book["head to tail"], book["home whole"]])  # fmt: skip
        self.names = ("ledger", "loops")
        self._tabs = QButtonGroup(self)
        tabs = QHBoxLayout()
        tabs.setContentsMargins(14, 8, 14, 2)
        tabs.setSpacing(6)
        self.panels, self.pictures = QStackedWidget(), QStackedWidget()
        faces: tuple[LedgerFace | LoopsFace, ...] = (self.ledger, self.loops)
        for name, face, picture in zip(self.names, faces, (self.chain, self.drawings), strict=True):
            scroll = QScrollArea()
            scroll.setWidgetResizable(True)
            scroll.setFrameShape(QFrame.Shape.NoFrame)
            scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
            scroll.setWidget(face)
            self.panels.addWidget(scroll)
            self.pictures.addWidget(picture)
            tab = QPushButton(face.name)
            tab.setObjectName("tab")
            tab.setCheckable(True)
            set_tip(tab, f"{face.purpose}  ({book['face ' + name].shortcut().toString()})")
            tab.clicked.connect(lambda _checked=False, name=name: self.show_face(name))
            self._tabs.addButton(tab)
            tabs.addWidget(tab)
        side = QWidget()
        side.setFixedWidth(_PANEL)
        column = QVBoxLayout(side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(tabs)
        column.addWidget(self.panels, 1)
        middle = QVBoxLayout()
        middle.setSpacing(0)
        for part, stretch in ((self.pictures, 1), (transport, 0), (self.ribbon, 0)):
            middle.addWidget(part, stretch)
        rule = QFrame()
        rule.setObjectName("rule")
        rule.setFixedWidth(1)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(middle, 1)
        row.addWidget(rule)
        row.addWidget(side)
        self.chain.chosen.connect(lambda name: document.select(Selection(name, 0, 0)))
        document.form_changed.connect(self._refresh)
        document.figures_changed.connect(self._refresh)
        document.selected.connect(self.ledger.show_selected)
        self.show_face("ledger")
        self.setFocusProxy(self.ledger.table)

    def show_face(self, name: str) -> None:
        """Shows a face: ledger or loops."""
        at = self.names.index(name)
        self.panels.setCurrentIndex(at)
        self.pictures.setCurrentIndex(at)
        self._tabs.buttons()[at].setChecked(True)
        self._refresh()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self._refresh()

    def _refresh(self) -> None:
        """Shows the document as it is; nothing is worked out while the stage is not seen."""
        if self.isVisible():
            (self.ledger, self.loops)[self.panels.currentIndex()].refresh()

    def set_theme(self, theme: Theme) -> None:
        for view in (self.chain, self.drawings, self.ribbon):
            view.set_theme(theme)

    # What can be done.

    def lock(self) -> None:
        """Locks the selected posture, or frees it."""
        name = self._document.selection.posture
        if name is not None:
            self.ledger.lock(name, name not in self._document.form.home.locked)

    def home_here(self) -> None:
        """Home is where the form ends now, and faces as it does."""
        trace, home = self._document.trace, self._document.form.home
        x, y = (round(float(each), 3) for each in trace.midpoints[-1])
        made = replace(home, place=(x, y), facing=Clock.at(float(trace.torso[-1])))
        self.desk.editor.set_home(made, "let home be where it ends")

    def home_at_start(self) -> None:
        """Home is the start mark, facing as it began."""
        usual, home = Home(), self._document.form.home
        made = replace(home, place=usual.place, facing=usual.facing)
        self.desk.editor.set_home(made, "let home be the start mark")
