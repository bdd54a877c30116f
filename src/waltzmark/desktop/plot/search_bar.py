"""Find and replace, above the score: in the counts, in the names of postures, or in both."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QCheckBox, QGridLayout, QHBoxLayout, QLineEdit, QPushButton, QWidget

from waltzmark.core.form.search import Hit, find, replaced
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.plain import Label, faint, set_tip
from waltzmark.words.language import ntr, tr

__all__ = ["SearchBar"]


@guarded
class SearchBar(QWidget):
    """Two lines: what to find, and what to put in its place. Escape closes it."""

    closed = Signal()

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self._at: Hit | None = None
        self.words = self._field(tr("Find"), tr("Text to find (Enter goes to the next match)"))
        self.other = self._field(tr("Replace with"), tr("Text to replace it with"))
        self.counts = self._check("counts", tr("Look in the counts"))
        self.names = self._check("names", tr("Look in the names of postures"))
        self.said = faint("", 9.5)
        self.next = self._button(tr("Next"), tr("Go to the next match (Enter)"), lambda: self.step(1))
        self.previous = self._button(
            tr("Previous"), tr("Go to the previous match (Shift+Enter)"), lambda: self.step(-1)
        )
        self.one = self._button(tr("Replace"), tr("Replace this match and go to the next"), self.replace_one)
        self.all = self._button(
            tr("Replace all"), tr("Replace every match, as one step you can undo"), self.replace_all
        )
        grid = QGridLayout(self)
        grid.setContentsMargins(12, 8, 8, 6)
        grid.setHorizontalSpacing(4)
        grid.setVerticalSpacing(4)
        grid.addWidget(self.words, 0, 0)
        grid.addWidget(self.other, 1, 0)
        for row, pair in enumerate(((self.previous, self.next), (self.one, self.all))):
            for column, button in enumerate(pair, 1):
                grid.addWidget(button, row, column)
        below = QHBoxLayout()
        below.setSpacing(12)
        below.addWidget(Label(tr("in")))
        below.addWidget(self.counts)
        below.addWidget(self.names)
        below.addWidget(self.said, 1)
        grid.addLayout(below, 2, 0, 1, 3)
        self.words.textChanged.connect(safely(self._changed))
        self.words.returnPressed.connect(safely(lambda: self.step(1)))
        self.other.returnPressed.connect(safely(self.replace_one))
        self.counts.toggled.connect(safely(self._changed))
        self.names.toggled.connect(safely(self._changed))
        document.form_changed.connect(safely(self._say))

    def _field(self, name: str, tip: str) -> QLineEdit:
        field = QLineEdit()
        field.setPlaceholderText(name)
        field.setAccessibleName(name)
        set_tip(field, tip)
        field.setMinimumWidth(90)
        return field

    def _check(self, name: str, tip: str) -> QCheckBox:
        check = QCheckBox(name)
        check.setChecked(True)
        set_tip(check, tip)
        return check

    def _button(self, name: str, tip: str, run: object) -> QPushButton:
        button = QPushButton(name)
        button.setObjectName("small")
        set_tip(button, tip)
        button.setAccessibleName(name)
        button.clicked.connect(safely(run))
        return button

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.closed.emit()
        elif event.key() == Qt.Key.Key_Return and event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self.step(-1)
        else:
            super().keyPressEvent(event)

    def begin(self) -> None:
        """Ready to type what to find."""
        self.words.setFocus()
        self.words.selectAll()
        self._say()

    def hits(self) -> tuple[Hit, ...]:
        """Every place there is."""
        return find(self._document.form, self.words.text(), self.names.isChecked(), self.counts.isChecked())

    def _changed(self) -> None:
        self._at = None
        if self.words.text():
            self.step(1, stay=True)
        self._say()

    def _say(self) -> None:
        hits = self.hits()
        if not self.words.text():
            self.said.setText("")
        elif self._at in hits:
            self.said.setText(tr("{index} of {hits} matches", index=hits.index(self._at) + 1, hits=len(hits)))
        else:
            self.said.setText(ntr("{n} match", "{n} matches", len(hits)) if hits else tr("no match"))
        for button in (self.next, self.previous, self.one, self.all):
            button.setEnabled(bool(hits))

    def _key(self, hit: Hit) -> tuple[int, int, int]:
        return self._document.form.index(hit.posture), hit.line, hit.start

    def step(self, by: int, stay: bool = False) -> None:
        """Goes to the next or previous place, seen from where the last one was, or from what is selected."""
        hits = self.hits()
        if not hits:
            self._at = None
            return
        if self._at in hits and not stay:
            at = (hits.index(self._at) + by) % len(hits)
        else:
            selection = self._document.session.selection
            form = self._document.form
            known = selection.posture is not None and any(p.id == selection.posture for p in form.postures)
            line = selection.start if selection.start != selection.stop else -1
            here = (form.index(selection.posture) if known and selection.posture else -1, line, 0)
            later = [n for n, hit in enumerate(hits) if self._key(hit) >= here]
            at = later[0] if later else 0
        self._at = hits[at]
        hit = self._at
        stop = hit.line + 1 if hit.line >= 0 else 0
        self._document.session.select(Selection(hit.posture, max(hit.line, 0), stop))
        self._say()

    def replace_one(self) -> None:
        """Replaces the place one is at and goes on."""
        hits = self.hits()
        if self._at not in hits:
            self.step(1)
            return
        at = hits.index(self._at)
        self._replace((hits[at],))
        after = self.hits()
        if after:
            self._at = (
                after[(at - 1) % len(after)]
                if self.words.text().lower() not in self.other.text().lower()
                else after[at]
            )
            self.step(1)
        self._say()

    def replace_all(self) -> None:
        """Replaces every place, as one undo step."""
        hits = self.hits()
        if hits:
            self._replace(hits)

    def _replace(self, hits: tuple[Hit, ...]) -> None:
        old, new = self.words.text(), self.other.text()
        form, unread = replaced(self._document.form, hits, new)
        words = ntr(
            "replace “{old}” with “{new}”", "replace “{old}” with “{new}” in {n} places", len(hits), old=old, new=new
        )
        self._document.edit(words, form, self._document.session.selection)
        said = ntr("Replaced {n} match.", "Replaced {n} matches.", len(hits))
        if unread:
            said += " " + ntr("{n} line can no longer be read.", "{n} lines can no longer be read.", unread)
        self.said.setText(said)
