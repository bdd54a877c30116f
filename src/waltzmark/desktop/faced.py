"""A stage with faces: panels behind tabs beside what is drawn, above the walk's playhead and its weights."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from PySide6.QtCore import Qt, QTimer
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
from waltzmark.desktop.plain import Label, heading, key_words, set_tip, wrapped
from waltzmark.desktop.widgets.ribbon import WeightRibbon
from waltzmark.desktop.widgets.transport import Transport
from waltzmark.words.language import tr

__all__ = ["Face", "FacedStage"]


class Face(QWidget):
    """A panel behind a tab. name, purpose: what the tab says, and its tip."""

    name = ""
    purpose = ""

    def __init__(self, desk: Desk, spacing: int = 7) -> None:
        """spacing: pixels between what is put below each other in its `column`."""
        super().__init__()
        self.desk, self.document, self.editor = desk, desk.document, desk.editor
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(14, 10, 14, 10)
        self.column.setSpacing(spacing)

    def heading(self, words: str) -> Label:
        """Puts a heading in."""
        label = heading(words)
        self.column.addWidget(label)
        return label

    def wrapped(self, words: str = "", points: float = 0.0, bold: bool = False, stretch: int = 0) -> Label:
        """Puts words in that take as many lines as they need. points: of their font, 0 for the usual; stretch: of the
        room there is."""
        label = wrapped(words, points, bold)
        if stretch:
            label.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.column.addWidget(label, stretch)
        return label

    def refresh(self) -> None:
        """Shows the document as it is."""

    def leave(self) -> None:
        """It is not seen any more: what goes on for it is ended."""


_AROUND = 20  # pixels about the name of a face on its tab
_BAR, _WIDEST = 12, 500  # pixels of a scroll bar, and of a panel


@guarded
class FacedStage(Stage):
    """What stages with faces have in common. `show_face` is what a tab does; beside each face something is drawn."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.ribbon = WeightRibbon(desk.document, desk.editor, desk.theme)
        self.side = QWidget(self)  # from the outside in: what is put into something is styled anew, with all in it
        self.panels, self.pictures = QStackedWidget(self.side), QStackedWidget(self)
        self._drawn: dict[str, QWidget] = {}
        self.faces: dict[str, Any] = {}  # by name, each a `Face`
        self._tabs = QButtonGroup(self)

    @property
    def face_name(self) -> str:
        return list(self.faces)[self.panels.currentIndex()]

    @property
    def face(self) -> Any:
        """The face that is shown."""
        return self.faces[self.face_name]

    def show_face(self, name: str) -> None:
        """Shows a face by its name, with what is drawn for it; asked for once more, it goes into the face."""
        at = list(self.faces).index(name)
        if self.isVisible() and at != self.panels.currentIndex():
            self.desk.leaving()
        elif self.isVisible():
            self._enter()
        self.panels.setCurrentIndex(at)
        self._tabs.buttons()[at].setChecked(True)
        self.pictures.setCurrentWidget(self._drawn[name])
        self._refresh()
        QTimer.singleShot(0, self, safely(self._widen))  # once its words are laid out

    def _enter(self) -> None:
        """Puts the keys into the first field of the face, so that it need not be tabbed to."""
        face = self.panels.currentWidget()
        within = None if face is None else face.nextInFocusChain()
        while face is not None and within is not None and within is not face and face.isAncestorOf(within):
            if within.focusPolicy() & Qt.FocusPolicy.TabFocus and within.isEnabled() and within.isVisible():
                within.setFocus(Qt.FocusReason.TabFocusReason)  # what is in it is chosen, so that typing replaces it
                return
            within = within.nextInFocusChain()

    def show_matter(self) -> None:
        first = next(iter(self.faces))
        if self.face_name != first:
            self.show_face(first)

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self._refresh()
        QTimer.singleShot(0, self, safely(self._widen))  # once its words are laid out

    def hideEvent(self, event: object) -> None:
        super().hideEvent(event)  # type: ignore[arg-type]
        self.left()

    def left(self) -> None:
        """The stage is not seen any more: what is still worked out for it is not wanted."""
        for face in self.faces.values():
            face.leave()

    def _changed(self) -> None:
        """Another form: what is worked out for faces that are not seen is not waited for, since nobody may be told of
        what has gone."""
        for face in self.faces.values():
            if face is not self.face or not self.isVisible():
                face.leave()
        self._refresh()

    def _refresh(self) -> None:
        """Shows the document as it is, where the stage is seen; nothing is worked out where it is not."""
        if self.isVisible():
            self.face.refresh()

    def _widen(self) -> None:
        """Gives the faces the width that their words need, which is more in some languages than in others."""
        width = min(self.face.minimumSizeHint().width() + _BAR, _WIDEST)
        if width > self.side.minimumWidth():
            self.side.setFixedWidth(width)

    def show_alone(self, alone: bool) -> None:
        """Shows what is drawn without anything beside or below it, or with all of it again."""
        for part in (self.side, self.transport, self.ribbon):
            part.setVisible(not alone)

    def lay_out(
        self, faces: Mapping[str, Face], drawn: Mapping[str, QWidget], looking: list[str], width: int
    ) -> QHBoxLayout:
        """What is drawn, playhead and weights at the left, the faces at the right. faces: by name;
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
            self.faces[name] = face
            tab = self._tab(name, face)
            tabs.addWidget(tab, tab.fontMetrics().horizontalAdvance(face.name) + _AROUND)  # each as its name is long
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

    def _tab(self, name: str, face: Face) -> QPushButton:
        scroll = QScrollArea()
        scroll.setWidgetResizable(True)
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAsNeeded)
        scroll.setAccessibleName(tr("Face {name}", name=face.name))
        self.panels.addWidget(scroll)  # before the face is in it, which would be styled twice
        scroll.setWidget(face)
        tab = QPushButton(face.name)
        tab.setObjectName("tab")
        tab.setCheckable(True)
        keys = key_words(self.desk.book["face " + name].shortcut())
        set_tip(tab, f"{face.purpose}  ({keys})")
        tab.clicked.connect(safely(lambda _checked=False: self.show_face(name)))
        self._tabs.addButton(tab)
        return tab
