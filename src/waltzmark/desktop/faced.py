"""A stage with faces: panels behind tabs beside what is drawn, above the walk's playhead and its weights."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Protocol

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

from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import set_tip
from waltzmark.desktop.widgets.ribbon import WeightRibbon
from waltzmark.desktop.widgets.transport import Transport
from waltzmark.words.language import tr

__all__ = ["FacedStage", "Named"]


class Named(Protocol):
    """What a face is called, and what it is for."""

    name: str
    purpose: str


@guarded
class FacedStage(Stage):
    """What stages with faces have in common. `show_face` is what a tab does; beside each face something is drawn."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.ribbon = WeightRibbon(desk.document, desk.editor, desk.theme)
        self.side = QWidget(self)  # from the outside in: what is put into something is styled anew, with all in it
        self.panels, self.pictures = QStackedWidget(self.side), QStackedWidget(self)
        self._drawn: dict[str, QWidget] = {}
        self._names: list[str] = []
        self._tabs = QButtonGroup(self)

    @property
    def face_name(self) -> str:
        return self._names[self.panels.currentIndex()]

    def show_face(self, name: str) -> None:
        """Shows a face by its name, with what is drawn for it; asked for once more, it goes into the face."""
        at = self._names.index(name)
        if self.isVisible() and at != self.panels.currentIndex():
            self.desk.leaving()
        elif self.isVisible():
            self._enter()
        self.panels.setCurrentIndex(at)
        self._tabs.buttons()[at].setChecked(True)
        self.pictures.setCurrentWidget(self._drawn[name])
        self._refresh()

    def _enter(self) -> None:
        """Puts the keys into the first field of the face, so that it need not be tabbed to."""
        face = self.panels.currentWidget()
        within = None if face is None else face.nextInFocusChain()
        while face is not None and within is not None and within is not face and face.isAncestorOf(within):
            if within.focusPolicy() & Qt.FocusPolicy.TabFocus and within.isEnabled() and within.isVisible():
                within.setFocus()
                return
            within = within.nextInFocusChain()

    def show_matter(self) -> None:
        if self.face_name != self._names[0]:
            self.show_face(self._names[0])

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self._refresh()

    def hideEvent(self, event: object) -> None:
        super().hideEvent(event)  # type: ignore[arg-type]
        self.left()

    def left(self) -> None:
        """The stage is not seen any more: what is still worked out for it is not wanted."""

    def _refresh(self) -> None:
        """Shows the document as it is, where the stage is seen."""

    def show_alone(self, alone: bool) -> None:
        """Shows what is drawn without anything beside or below it, or with all of it again."""
        for part in (self.side, self.transport, self.ribbon):
            part.setVisible(not alone)

    def lay_out(
        self, faces: Mapping[str, QWidget], drawn: Mapping[str, QWidget], looking: list[str], width: int
    ) -> QHBoxLayout:
        """What is drawn, playhead and weights at the left, the faces at the right. faces: by name, each a `Named`;
        drawn: for each of them; looking: actions of the transport beside the walk's; width: of the panel, pixels."""
        self._drawn = dict(drawn)
        for picture in dict.fromkeys(drawn.values()):
            self.pictures.addWidget(picture)
        book = self.desk.book
        walking = [book[name] for name in ("back", "play", "forward")]
        self.transport = Transport(walking, self.desk.player, [book[name] for name in looking])
        tabs = QHBoxLayout()
        tabs.setContentsMargins(14, 8, 14, 2)
        tabs.setSpacing(6)
        for name, face in faces.items():
            self._names.append(name)
            tabs.addWidget(self._tab(name, face))
        self.side.setFixedWidth(width)
        column = QVBoxLayout(self.side)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(tabs)
        column.addWidget(self.panels, 1)
        middle = QVBoxLayout()
        middle.setSpacing(0)
        for part, stretch in ((self.pictures, 1), (self.transport, 0), (self.ribbon, 0)):
            middle.addWidget(part, stretch)
        rule = QFrame()
        rule.setObjectName("rule")
        rule.setFixedWidth(1)
        row = QHBoxLayout()
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addLayout(middle, 1)
        row.addWidget(rule)
        row.addWidget(self.side)
        return row

    def _tab(self, name: str, face: QWidget) -> QPushButton:
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setWidget(face)
        scroll.setAccessibleName(tr("Face {name}", name=face.name))  # type: ignore[attr-defined]
        self.panels.addWidget(scroll)
        named: Named = face  # type: ignore[assignment]
        tab = QPushButton(named.name)
        tab.setObjectName("tab")
        tab.setCheckable(True)
        set_tip(tab, f"{named.purpose}  ({self.desk.book['face ' + name].shortcut().toString()})")
        tab.clicked.connect(safely(lambda _checked=False: self.show_face(name)))
        self._tabs.addButton(tab)
        return tab
