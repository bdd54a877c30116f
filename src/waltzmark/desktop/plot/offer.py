"""After an edit that moved what follows: how far, and the offer to keep it where it was."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, QObject
from PySide6.QtWidgets import QFrame, QHBoxLayout, QWidget

from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import Label
from waltzmark.desktop.theme import font
from waltzmark.desktop.widgets.parts import push_button
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.core.edit.keeping import Moved

__all__ = ["MoveOffer"]


@guarded
class MoveOffer(QFrame):
    """A card at the foot of the floor, shown while there is something to offer."""

    def __init__(self, document: Document, editor: Editor, floor: QWidget) -> None:
        super().__init__(floor)
        self._document, self._editor = document, editor
        self.moved: Moved | None = None
        self.setObjectName("answer")
        self.words = Label()
        self.words.setFont(font(10))
        self.keep = push_button(
            tr("Keep them in place"), self.take, tr("Sets the next steps to where they were on the floor (Ctrl+K)")
        )
        self.leave = push_button(tr("Let them move"), self.dismiss, tr("Leaves the later steps where they fall now"))
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 5, 8, 5)
        row.addWidget(self.words)
        row.addWidget(self.keep)
        row.addWidget(self.leave)
        self.hide()
        floor.installEventFilter(self)
        document.form_changed.connect(safely(self._look))
        document.session.figures_changed.connect(safely(self._say))

    def _look(self) -> None:
        self.moved = self._document.session.moved_by_edit
        self.setVisible(self.moved is not None)
        self._say()

    def _say(self) -> None:
        if self.moved is not None:
            how = self._document.session.say.length(self.moved.distance)
            told = (
                tr("The later steps moved by {how}. The faint feet show where they were.", how=how)
                if self.moved.distance >= 0.005
                else tr("The later steps moved on the way. The faint feet show where they were.")
            )
            if self.words.text() != told:
                self.words.setText(told)
                self._place()

    def _place(self) -> None:
        floor = self.parentWidget()
        if floor is not None:
            self.adjustSize()
            self.move((floor.width() - self.width()) // 2, floor.height() - self.height() - 44)
            self.raise_()

    def eventFilter(self, _watched: QObject, event: QEvent) -> bool:
        if event.type() == QEvent.Type.Resize and self.isVisible():
            self._place()
        return False

    def take(self) -> None:
        """Keeps what follows where it was."""
        before, moved = self._document.session.before_edit, self.moved
        if before is not None and moved is not None:
            self._editor.keep_places(before, moved)

    def dismiss(self) -> None:
        """Lets it move."""
        self.moved = None
        self._document.session.forget_before()
        self.hide()
