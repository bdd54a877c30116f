"""The entry line: a count typed, shown at once as a ghost and a sentence, and added with Enter."""

from __future__ import annotations

from html import escape

from PySide6.QtCore import QRect, Qt
from PySide6.QtGui import QKeyEvent, QPainter, QPainterPath, QPaintEvent, QPen
from PySide6.QtWidgets import QLabel, QLineEdit, QStyle, QStyleOptionFrame, QVBoxLayout, QWidget

from waltzmark.core.angles import clock_text
from waltzmark.core.errors import ScoreError
from waltzmark.core.score.actions import Count
from waltzmark.core.score.read import read_count
from waltzmark.core.side import Side
from waltzmark.core.spoken import count_sentence
from waltzmark.desktop.document import Document
from waltzmark.desktop.theme import Theme, font

__all__ = ["EntryLine"]


class _Field(QLineEdit):
    """A line edit that underlines the word an error points at."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self.theme = theme
        self.error: ScoreError | None = None

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if self.error is None or not self.text():
            return
        option = QStyleOptionFrame()
        self.initStyleOption(option)
        box: QRect = self.style().subElementRect(QStyle.SubElement.SE_LineEditContents, option, self)
        metrics, text = self.fontMetrics(), self.text()
        # The cursor tells how far the text is scrolled.
        shift = self.cursorRect().center().x() - metrics.horizontalAdvance(text[: self.cursorPosition()])
        start = self.error.column - 1
        x0 = shift + metrics.horizontalAdvance(text[:start])
        x1 = max(shift + metrics.horizontalAdvance(text[: start + self.error.length]), x0 + 10)
        y = box.center().y() + metrics.height() // 2 + 1
        path = QPainterPath()
        path.moveTo(x0, y)
        x, up = x0, True
        while x < x1:
            x += 3
            path.lineTo(x, y - 2 if up else y)
            up = not up
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(self.theme.color("stop"), 1.4))
        painter.drawPath(path)
        painter.end()


class EntryLine(QWidget):
    """Where counts are typed. Enter adds the count to the selected posture, Escape clears the line."""

    def __init__(self, document: Document, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.field = _Field(theme)
        self.field.setFont(font(11.5))
        self.field.setAccessibleName("Entry line")
        self.field.setToolTip("Type a count and press Enter (Ctrl+E goes here)")
        self.field.textChanged.connect(self._typed)
        self.field.returnPressed.connect(self.enter)
        self.saying = QLabel()
        self.saying.setFont(font(10))
        self.saying.setWordWrap(True)
        self.saying.setTextFormat(Qt.TextFormat.RichText)
        self.saying.setMinimumHeight(50)
        self.saying.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self.saying.setAccessibleName("What the count means")
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 4)
        column.setSpacing(5)
        column.addWidget(self.field)
        column.addWidget(self.saying)
        document.form_changed.connect(self._typed)
        document.row_changed.connect(lambda _row: self._typed())
        self._typed()

    def set_theme(self, theme: Theme) -> None:
        self.field.theme = theme
        self._typed()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.field.clear()
        else:
            super().keyPressEvent(event)

    @property
    def _target(self) -> str:
        posture = self._document.writable_posture
        return posture.title if posture else "a first posture"

    def _read(self) -> Count | None:
        """The count typed; None, with the field's error set, when it cannot be read."""
        self.field.error = None
        try:
            return read_count(self.field.text(), self._document.form.school.stance_names)
        except ScoreError as error:
            self.field.error = error
            return None

    def _typed(self) -> None:
        posture = self._document.writable_posture
        self.field.setPlaceholderText(f"a count, for example: {self._example()}")
        if posture is not None and posture.source is not None:
            source = self._document.form.posture(posture.source).title
            self._document.show_ghost(None)
            self._say(f"The counts of {posture.title} come from {source}: add to that one, and this one follows.")
            return
        if not self.field.text().strip():
            self.field.error = None
            self._document.show_ghost(None)
            self._say(f"Enter adds the count to the end of {self._target}.")
            return
        count = self._read()
        self._document.show_ghost(count)
        if count is None:
            assert self.field.error is not None
            advice = self.field.error.advice
            stop = "" if advice.endswith("?") else "."
            self._say(f"At character {self.field.error.column}: {advice}{stop}", problem=True)
        elif self._document.ghost is not None:
            trace, row = self._document.ghost.trace, self._document.ghost.row
            moves = (trace.move(row, Side.LEFT), trace.move(row, Side.RIGHT))
            sentence = count_sentence(trace.pose(row - 1), trace.pose(row), moves, count)
            problem = self._document.ghost_problem
            self._say(f"{sentence[:1].upper()}{sentence[1:]}.", but=problem)
        else:
            self._say("Expected at the end of the count before; nothing moves.")
        self.field.update()

    def _example(self) -> str:
        """A count that can be walked from where the selected posture ends."""
        posture, trace = self._document.writable_posture, self._document.trace
        pose = trace.pose(trace.span(posture.id)[1] - 1 if posture else 0)
        empty = next((side for side in Side if pose.share(side) < 0.005), None)
        if empty is None:
            return "shift R 100"
        return f"step {empty.letter} {clock_text(pose.torso)} bow"

    def _say(self, words: str, problem: bool = False, but: str | None = None) -> None:
        """Shows a sentence; a *problem* is the whole of it, *but* is what would be found wrong with it."""
        words = escape(words)
        if but:
            words += f'<br><span style="color: {self.field.theme.stop}">But {escape(but)}.</span>'
        self.saying.setText(words)
        name = "problem" if problem else "faint"
        if self.saying.objectName() != name:
            self.saying.setObjectName(name)
            self.saying.style().unpolish(self.saying)
            self.saying.style().polish(self.saying)

    def enter(self) -> None:
        """Adds the typed count; what cannot be read stays in the line."""
        posture = self._document.writable_posture
        if posture is not None and posture.source is not None:
            return
        count = self._read()
        if count is None or not (count.actions or count.note):
            return
        self.field.blockSignals(True)
        self.field.clear()
        self.field.blockSignals(False)
        self._document.append_count(count)
