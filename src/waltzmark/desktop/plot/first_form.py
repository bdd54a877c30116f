"""The first form, step by step: five counts typed by a newcomer, each with a word about what it does."""

from __future__ import annotations

from dataclasses import dataclass

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QPushButton, QVBoxLayout

from waltzmark.core.score.read import read_count
from waltzmark.desktop.document import Document
from waltzmark.desktop.plain import Label, RichLabel
from waltzmark.desktop.theme import font

__all__ = ["LESSONS", "FirstForm", "Lesson"]


@dataclass(frozen=True)
class Lesson:
    """A count to type, why first, and what to look at once it stands."""

    text: str
    before: str
    after: str


LESSONS = (
    Lesson("shift R 100, torso 10:30", "Pour all the weight onto the right foot, the waist half-way to 9.",
           "The right sole is full now: a sole is a vessel, filled as far as it carries weight."),
    Lesson("step L 9 bow", "The left foot is empty, so it can step: toward 9 o'clock, into a bow stance.",
           "Only its heel is inked: it landed empty, heel first."),
    Lesson("shift L 70, torso 10:30", "Pour 70 % onto it; the waist waits at 10:30, where the rear hip lets it.",
           "The foot rolled flat. The ribbon below shows the weight through the whole form."),
    Lesson("pivot R heel 10:30, torso 9", "The rear foot follows on its heel, and now the waist can face 9.",
           "The arc shows the turn about the point that stayed where it was."),
    Lesson("expect L 70, expect torso 9", "Last, say what should be true now. It moves nothing; it is checked.",
           "A tick: what you expected is so. Ctrl+M makes the other side; Ctrl+Z takes anything back."),
)  # fmt: skip


class FirstForm(QFrame):
    """A card above the entry line. It goes on by itself when the count has been entered."""

    closed = Signal()
    wanted = Signal(str)  # the text of the count, to be put into the entry line

    def __init__(self, document: Document) -> None:
        super().__init__()
        self._document = document
        self.at = 0
        self.setObjectName("answer")
        self.heading = Label()
        self.heading.setFont(font(10.5, bold=True))
        self.words = RichLabel()
        self.words.setWordWrap(True)
        self.words.setFont(font(10))
        self.type = QPushButton("Type it for me")
        self.type.setToolTip("Put the count into the entry line; Enter is yours")
        self.type.clicked.connect(lambda: self.wanted.emit(LESSONS[self.at].text))
        self.done = QPushButton("Leave")
        self.done.setToolTip("End the first form; what you wrote stays")
        self.done.clicked.connect(self.closed.emit)
        row = QHBoxLayout()
        row.addWidget(self.heading, 1)
        row.addWidget(self.type)
        row.addWidget(self.done)
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 10, 10)
        column.setSpacing(6)
        column.addLayout(row)
        column.addWidget(self.words)
        document.form_changed.connect(self._look)
        self.hide()

    def begin(self) -> None:
        """Begins at the first count."""
        self.at = 0
        self.show()
        self._say()

    def _look(self) -> None:
        """Goes on when the last line written is the one asked for, and back when it was taken back."""
        if self.isHidden():
            return
        form = self._document.form
        lines = form.postures[0].lines if form.postures else ()
        done = 0
        for lesson, line in zip(LESSONS, lines, strict=False):
            if line.actions != read_count(lesson.text).actions:
                break
            done += 1
        self.at = done
        self._say()

    def _say(self) -> None:
        finished = self.at == len(LESSONS)
        told = f"{LESSONS[self.at - 1].after}<br><br>" if self.at else ""
        self.type.setVisible(not finished)
        if finished:
            self.heading.setText("Your first form stands")
            self.words.setText(told.removesuffix("<br><br>"))
            self.done.setText("Done")
            return
        lesson = LESSONS[self.at]
        self.done.setText("Leave")
        self.heading.setText(f"First form: count {self.at + 1} of {len(LESSONS)}")
        self.words.setText(f"{told}{lesson.before} Type below and press Enter:<br><b>{lesson.text}</b>")
