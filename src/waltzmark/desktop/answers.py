"""The three answers, always in sight: room, return, sides. A click goes to where each is decided."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QSize, Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import faint, set_tip, wrapped
from waltzmark.desktop.theme import Theme
from waltzmark.words.figures import Figures
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence

if TYPE_CHECKING:
    from waltzmark.core.answers.answers import Answer

__all__ = ["AnswerStrip"]

_QUESTIONS = (
    (tr("Room"), tr("Does the walk fit the room?")),
    (tr("Return"), tr("Does it return to its start?")),
    (tr("Sides"), tr("Do its two sides mirror each other?")),
)
_DOUBT_MS = 400  # after a change, the old answers are shown as old after so long


@guarded
class _Sign(QWidget):
    """A tick, a cross-bar or a dot: yes, no, nothing to say yet."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.good: bool | None = None
        self.setFixedSize(QSize(20, 20))

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            if self.good is None:
                painter.setPen(QPen(self.theme.color("faint"), 2.0))
                painter.drawEllipse(QPointF(10, 10), 4, 4)
            elif self.good:
                painter.setPen(QPen(self.theme.color("good"), 2.8, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
                painter.drawPolyline([QPointF(4, 11), QPointF(8, 15), QPointF(16, 5)])
            else:
                painter.setPen(QPen(self.theme.color("caution"), 2.8, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
                painter.drawLine(QPointF(10, 3), QPointF(10, 11))
                painter.drawPoint(QPointF(10, 16))


@guarded
class _Card(QPushButton):
    """One answer: its name, its words and its sign. It is pressed by a click, by Enter or by Space."""

    def __init__(self, name: str, purpose: str, theme: Theme) -> None:
        super().__init__()
        self.setObjectName("answer")
        self.name, self.purpose = name, purpose
        self.sign = _Sign(theme)
        self.heading = faint(name, 9.5, bold=True)
        self.words = wrapped("…", 10.5)
        self.words.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self._make_room()
        self.words.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)
        for part in (self.sign, self.heading, self.words):
            part.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Preferred)  # as high as the highest one
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 6, 10, 6)
        row.setSpacing(8)
        row.addWidget(self.sign, 0, Qt.AlignmentFlag.AlignVCenter)
        column = QVBoxLayout()
        column.setSpacing(0)
        column.addWidget(self.heading)
        column.addWidget(self.words, 1)
        row.addLayout(column, 1)
        self._say(tr("{purpose} Checking now.", purpose=purpose))

    def _say(self, text: str) -> None:
        self.setAccessibleName(f"{self.name}: {text}")
        set_tip(self, tr("{text}\nClick to go there.", text=text))

    def sizeHint(self) -> QSize:
        """That of what lies in it: a button knows only of its own text."""
        return self.layout().sizeHint()  # type: ignore[union-attr]

    minimumSizeHint = sizeHint  # noqa: N815

    def show_answer(self, answer: Answer | None, figures: Figures) -> None:
        """Shows an answer; None while it is being looked for: the old one stays, without its sign."""
        self.sign.good = answer.good if answer else None
        self.sign.update()
        self.words.setEnabled(answer is not None)
        if answer is None:
            return
        text = sentence(answer.message, figures)
        self.words.setText(text)
        self._say(text)
        self._make_room()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._make_room()

    def _make_room(self) -> None:
        """Room for all the words: two lines at least, so that little jumps when an answer changes."""
        two = 2 * self.words.fontMetrics().lineSpacing()
        self.words.setMinimumHeight(max(two, self.words.heightForWidth(self.words.width())))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)


class AnswerStrip(QWidget):
    """Three cards in a row. asked: the number of the answer that was pressed."""

    asked = Signal(int)

    def __init__(self, document: Document, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.cards = [_Card(name, purpose, theme) for name, purpose in _QUESTIONS]
        row = QHBoxLayout(self)
        row.setContentsMargins(10, 8, 10, 8)
        row.setSpacing(10)
        for number, card in enumerate(self.cards):
            card.clicked.connect(safely(lambda _checked=False, number=number: self.asked.emit(number)))
            row.addWidget(card, 1)
        # An answer that comes at once need not be doubted in between.
        self._doubt = QTimer(self)
        self._doubt.setSingleShot(True)
        self._doubt.setInterval(_DOUBT_MS)
        self._doubt.timeout.connect(safely(self._show))
        document.judge.reviewed.connect(safely(self._show))
        document.form_changed.connect(safely(self._doubt.start))
        document.session.figures_changed.connect(safely(self._show))
        self._show()

    def set_theme(self, theme: Theme) -> None:
        for card in self.cards:
            card.sign.theme = theme
            card.sign.update()

    def _show(self) -> None:
        review = self._document.judge.review
        for number, card in enumerate(self.cards):
            card.show_answer(review.answers[number] if review else None, self._document.session.say)
