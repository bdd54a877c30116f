"""The whole score as one text, edited as text: completed, checked word by word, always in step with the drawn one."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QStringListModel, Qt
from PySide6.QtGui import (
    QColor,
    QKeyEvent,
    QKeySequence,
    QSyntaxHighlighter,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
)
from PySide6.QtWidgets import QApplication, QCompleter, QFrame, QPlainTextEdit, QTextEdit, QVBoxLayout, QWidget

from waltzmark.core.base.leftright import Side
from waltzmark.core.form.score_text import Mistake, ReadScore, read_score_text, write_score_text
from waltzmark.core.score.complete import complete
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.plain import RichLabel, rich
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence
from waltzmark.words.steps import count_sentence

__all__ = ["TextPane"]


@guarded
class _Inks(QSyntaxHighlighter):
    """Headings stand out, notes step back."""

    def __init__(self, text: QTextDocument, theme: Theme) -> None:
        super().__init__(text)
        self.theme = theme

    def highlightBlock(self, text: str) -> None:
        words = text.strip().lower()
        ink = QTextCharFormat()
        if words.startswith("posture"):
            ink.setFontWeight(700)
            self.setFormat(0, len(text), ink)
        elif words.startswith("note:") or "#" in text:
            ink.setForeground(self.theme.color("faint"))
            ink.setFontItalic(True)
            start = 0 if words.startswith("note:") else text.index("#")
            self.setFormat(start, len(text) - start, ink)


@guarded
class ScoreText(QPlainTextEdit):
    """The text itself. Every change is read at once; undo is the document's."""

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__()
        self._document, self._theme = document, theme
        self._own = False  # whether a change of form or selection comes from here
        self._held = False  # whether the text cannot be taken over as it stands
        self._line = -1
        self._text = ""
        self.read: ReadScore = read_score_text("", document.form)
        self.setUndoRedoEnabled(False)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFont(font(10.5))
        self.setAccessibleName(tr("Score as text"))
        self.setAccessibleDescription(tr("Every posture with its heading and its counts, a line each"))
        self.setTabChangesFocus(True)
        self._inks = _Inks(self.document(), theme)
        self._words = QStringListModel(self)
        self._completer = QCompleter(self._words, self)
        self._completer.setWidget(self)
        self._completer.setCompletionMode(QCompleter.CompletionMode.UnfilteredPopupCompletion)
        if popup := self._completer.popup():
            popup.setFont(font(10.5))
            popup.setObjectName("offers")
        self._completer.activated.connect(safely(self._insert))
        self.refill()
        self._text = self.toPlainText()
        self.textChanged.connect(safely(self._changed))
        self.cursorPositionChanged.connect(safely(self._moved))
        document.form_changed.connect(safely(self._form_changed))
        document.session.selected.connect(safely(self._follow))

    def set_theme(self, theme: Theme) -> None:
        self._theme = self._inks.theme = theme
        self._inks.rehighlight()
        self._mark()

    # Between text and form.

    def refill(self) -> None:
        """Writes the text anew from the form, with the cursor where it was."""
        text = write_score_text(self._document.form)
        self._held = False
        if text != self.toPlainText():
            cursor, bar = self.textCursor(), self.verticalScrollBar().value()
            block, column = cursor.blockNumber(), cursor.positionInBlock()
            self._own, before = True, self._own
            self.setPlainText(text)
            self._own = before
            self._put_cursor(block, column)
            self.verticalScrollBar().setValue(bar)
        self.read = read_score_text(text, self._document.form)
        self._mark()

    def _put_cursor(self, block: int, column: int = 0) -> None:
        at = self.document().findBlockByNumber(min(max(block, 0), self.blockCount() - 1))
        cursor = self.textCursor()
        cursor.setPosition(at.position() + min(column, max(at.length() - 1, 0)))
        self._own, before = True, self._own
        self.setTextCursor(cursor)
        self._own = before

    def _changed(self) -> None:
        text = self.toPlainText()
        changed, self._text = text != self._text, text
        if self._own or not changed:  # colours are a change to Qt too
            return
        self.read = read_score_text(text, self._document.form)
        form = self.read.form
        self._held = form is None
        if form is not None and form != self._document.form:
            selection = self._selection()
            title = next((p.title for p in form.postures if p.id == selection.posture), tr("the score"))
            self._own = True
            # Keys typed in one line are one step; another line begins the next.
            self._document.edit(
                tr("edit the text of {title}", title=title), form, selection, f"text {self.textCursor().blockNumber()}"
            )
            self._own = False
        self._mark()

    def _form_changed(self) -> None:
        if self._own:
            return
        if self._held:  # it is not in the form: it must not be lost
            QApplication.clipboard().setText(self.toPlainText())
        if self.isVisible():
            self.refill()

    def drop_held(self) -> bool:
        """Takes back a text that could not be taken over; whether there was one."""
        held = self._held
        if held:
            self.refill()
        return held

    # Between cursor and selection.

    def _selection(self) -> Selection:
        """What of the form the cursor's line is."""
        at = self.textCursor().blockNumber()
        place = self.read.places[at] if at < len(self.read.places) else None
        while place is None and at > 0:
            at -= 1
            place = self.read.places[at] if at < len(self.read.places) else None
        if place is None:
            return Selection()
        posture, line = place
        return Selection(posture, line, line + 1) if line >= 0 else Selection(posture)

    def _moved(self) -> None:
        line = self.textCursor().blockNumber()
        if self._own or line == self._line:
            self._line = line
            return
        self._line = line
        self._document.history.seal()
        self._tidy()
        if not self._held:
            self._own = True
            self._document.session.select(self._selection())
            self._own = False
        self._mark()

    def _tidy(self) -> None:
        """Writes the line that was left in its canonical form."""
        if self._held:
            return
        text = write_score_text(self._document.form)
        here = [line.strip() for line in self.toPlainText().split("\n") if line.strip()]
        if here != [line for line in text.split("\n") if line]:
            cursor = self.textCursor()
            block, column = cursor.blockNumber(), cursor.positionInBlock()
            if cursor.block().text().strip():  # an empty line just begun stays
                self.refill()
                self._put_cursor(block, column)
            else:
                self._write_left(text)

    def _write_left(self, text: str) -> None:
        """While a new line is begun, only the spelling of the others is tidied."""
        canonical = iter(line for line in text.split("\n") if line)
        lines = [next(canonical, line) if line.strip() else line for line in self.toPlainText().split("\n")]
        cursor, bar = self.textCursor(), self.verticalScrollBar().value()
        block = cursor.blockNumber()
        self._own = True
        self.setPlainText("\n".join(lines))
        self._own = False
        self._put_cursor(block)
        self.verticalScrollBar().setValue(bar)
        self.read = read_score_text(self.toPlainText(), self._document.form)

    def _follow(self) -> None:
        """Puts the cursor on the line that is selected elsewhere."""
        if self._own or not self.isVisible() or self._held:
            return
        wanted = self._document.session.selection
        if self._selection() == wanted or wanted.posture is None:
            return
        place = (wanted.posture, wanted.start if wanted.start != wanted.stop else -1)
        if place in self.read.places:
            self._put_cursor(self.read.places.index(place))
            self._line = self.textCursor().blockNumber()
            self.centerCursor()
            self._mark()

    # What is said and marked.

    def mistake(self) -> Mistake | None:
        """The mistake in the cursor's line, else the first one that keeps the text from being taken over."""
        line = self.textCursor().blockNumber()
        here = next((m for m in self.read.mistakes if m.line == line), None)
        return here or (self.read.mistakes[-1] if self._held and self.read.mistakes else None)

    def saying(self) -> str:
        """The cursor's line read aloud; empty where it is no count."""
        selection, document = self._document.session.selection, self._document
        if self._held or selection.posture is None or selection.start == selection.stop or document.session.row == 0:
            return ""
        row, trace = document.session.row, document.trace
        if trace.line(row) != selection.start or trace.posture(row) != selection.posture:
            return ""
        moves = (trace.move(row, Side.LEFT), trace.move(row, Side.RIGHT))
        words = count_sentence(trace.pose(row - 1), trace.pose(row), moves, trace.written[row], document.session.say)
        return f"{words[:1].upper()}{words[1:]}."

    def _mark(self) -> None:
        """Underlines every mistake at its word, and tints the cursor's line."""
        marks = []
        line = QTextEdit.ExtraSelection()
        line.format.setBackground(self._theme.color("chosen", 0.45))
        line.format.setProperty(QTextCharFormat.Property.FullWidthSelection, True)
        line.cursor = self.textCursor()
        line.cursor.clearSelection()
        marks.append(line)
        for mistake in self.read.mistakes:
            mark = QTextEdit.ExtraSelection()
            mark.format.setUnderlineStyle(QTextCharFormat.UnderlineStyle.WaveUnderline)
            mark.format.setUnderlineColor(QColor(self._theme.stop))
            mark.format.setForeground(QColor(self._theme.stop))
            block = self.document().findBlockByNumber(mistake.line)
            cursor = QTextCursor(block)
            start = min(mistake.column - 1, max(block.length() - 2, 0))
            cursor.setPosition(block.position() + start)
            end = min(start + mistake.length, block.length() - 1)
            cursor.setPosition(block.position() + max(end, start), QTextCursor.MoveMode.KeepAnchor)
            mark.cursor = cursor
            marks.append(mark)
        self.setExtraSelections(marks)

    # Completion and keys.

    def _typed(self) -> str:
        """The cursor's line up to the cursor."""
        cursor = self.textCursor()
        return cursor.block().text()[: cursor.positionInBlock()]

    def completions(self) -> list[str]:
        """The words that can follow at the cursor."""
        typed = self._typed()
        if typed.strip().lower().startswith(("posture", "note:")) or not typed.strip():
            return []
        stances = self._document.form.school.stance_names
        return [each.word for each in complete(typed.lstrip(), stances, self._document.session.pose.torso)]

    def _offer(self) -> None:
        words = self.completions()
        popup = self._completer.popup()
        if popup is None:
            return
        if not words or self.textCursor().positionInBlock() < len(self.textCursor().block().text()):
            popup.hide()
            return
        self._words.setStringList(words)
        box = self.cursorRect()
        box.setWidth(180)
        self._completer.complete(box)
        popup.setCurrentIndex(self._words.index(-1))

    def _insert(self, word: str) -> None:
        typed = self._typed()
        partial = len(typed) - max(typed.rfind(" "), typed.rfind(",")) - 1
        cursor = self.textCursor()
        cursor.movePosition(QTextCursor.MoveOperation.Left, QTextCursor.MoveMode.KeepAnchor, partial)
        cursor.insertText(word + " ")
        self.setTextCursor(cursor)

    def focusNextPrevChild(self, _forward: bool) -> bool:
        """Tab completes where there is something to complete, and else leaves the text."""
        return False if self.completions() else super().focusNextPrevChild(_forward)

    def event(self, event: QEvent) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride:
            keys = QKeySequence.StandardKey
            if event.matches(keys.Undo) or event.matches(keys.Redo):  # the document's, not the text's own
                event.ignore()
                return False
        return super().event(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        popup, key = self._completer.popup(), event.key()
        shown = popup is not None and popup.isVisible()
        if key == Qt.Key.Key_Tab and (words := self.completions()):
            if popup is not None:
                popup.hide()
            self._insert(words[0])
            return
        if shown and popup is not None:
            if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and popup.currentIndex().isValid():
                event.ignore()  # the completer takes it
                return
            if key == Qt.Key.Key_Escape:
                popup.hide()
                return
        super().keyPressEvent(event)
        if event.text().strip() or key == Qt.Key.Key_Space:
            self._offer()
        elif popup is not None:
            popup.hide()


@guarded
class TextPane(QWidget):
    """The text, and below it what the cursor's line does or what is wrong with it."""

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self.text = ScoreText(document, theme)
        self.saying = RichLabel()
        self.saying.setFont(font(10))
        self.saying.setWordWrap(True)
        self.saying.setMinimumHeight(52)
        self.saying.setContentsMargins(12, 6, 12, 6)
        self.saying.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self.saying.setAccessibleName(tr("Meaning of the line"))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.text, 1)
        column.addWidget(self.saying)
        self.text.textChanged.connect(safely(self._say))
        self.text.cursorPositionChanged.connect(safely(self._say))
        document.session.selected.connect(safely(self._say))
        document.session.figures_changed.connect(safely(self._say))

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.text.set_theme(theme)
        self._say()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self.text.refill()
        self.text._follow()
        self._say()

    def _say(self) -> None:
        mistake = self.text.mistake()
        if mistake is None:
            words = self.text.saying() or tr("Edit the lines; “posture ID: NAME” starts a new posture.")
            self.saying.setText(f'<span style="color: {self._theme.faint}">{rich(words)}</span>')
            return
        held = " " + tr("Until then the score stays unchanged.") if self.text.read.form is None else ""
        advice = sentence(mistake.advice)
        words = tr(
            "Line {line}, character {column}: {advice}", line=mistake.line + 1, column=mistake.column, advice=advice
        )
        words += held
        self.saying.setText(f'<span style="color: {self._theme.stop}">{rich(words)}</span>')
