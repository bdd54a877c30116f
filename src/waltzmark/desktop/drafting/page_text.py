"""The text of the page: what of it was said, chosen, doubtful and not used, each by a shape of its own."""

from __future__ import annotations

from bisect import bisect_right

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import (
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QTextCharFormat,
    QTextCursor,
)
from PySide6.QtWidgets import QFrame, QPlainTextEdit, QTextEdit, QWidget

from waltzmark.core.draft.pages import Row
from waltzmark.core.form.spoken import MOST_CHARACTERS
from waltzmark.desktop.drafting.workbench import Workbench
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.language import number, tr

__all__ = ["PageText", "units_of"]


def units_of(text: str) -> list[int]:
    """Where characters beyond the basic plane stand: Qt counts each of them as two."""
    return [at for at, sign in enumerate(text) if ord(sign) > 0xFFFF]


@guarded
class PageText(QPlainTextEdit):
    """The words. What is typed is drafted; a click puts the hand on the count of the words there; undo is the
    document's."""

    too_long = Signal(str)  # what was not taken, in words

    def __init__(self, bench: Workbench, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._bench, self._theme = bench, theme
        self._own = False
        self._text = ""
        self._high: list[int] = []
        self.setUndoRedoEnabled(False)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setFont(font(11.5))
        self.setTabChangesFocus(True)
        self.setAccessibleName(tr("Words"))
        self.setAccessibleDescription(tr("The text that the form is drafted from"))
        self.setPlaceholderText(
            tr(
                "Type, paste or drop what is said of a form, for example:\n\n"
                "Shift your weight to the right and touch the ball of the left foot next to it.\n"
                "Step out with the left to nine, heel first, and bend the knee."
            )
        )
        self.viewport().setContentsMargins(8, 4, 8, 4)
        self.document().contentsChange.connect(safely(self._changed))
        bench.drafted.connect(safely(self.refresh))
        bench.moved.connect(safely(self._follow))
        self.refresh()

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self._mark()

    # The text and the page.

    def refresh(self) -> None:
        """Shows the text of the page, and the marks of its draft."""
        text = self._bench.page.text if self._bench.page is not None else ""
        if text != self._text:
            bar, place = self.verticalScrollBar().value(), self.textCursor().position()
            self._own = True
            self.setPlainText(text)
            self._own = False
            self._know(text)
            cursor = self.textCursor()
            cursor.setPosition(min(place, self.document().characterCount() - 1))
            self.setTextCursor(cursor)
            self.verticalScrollBar().setValue(bar)
        self._mark()

    def _know(self, text: str) -> None:
        self._text, self._high = text, units_of(text)

    def _changed(self, _at: int, _removed: int, _added: int) -> None:
        if self._own:
            return
        old, new = self._text, self.toPlainText()
        if old == new:
            return  # colours are a change to Qt too
        if len(new) > MOST_CHARACTERS:
            self.too_long.emit(
                tr("A page has at most {most} characters; give the rest in another form.", most=number(MOST_CHARACTERS))
            )
            self._text = ""
            self.refresh()
            return
        same = _common(old, new)
        after = min(_common(old[::-1], new[::-1]), len(old) - same, len(new) - same)
        self._know(new)
        self._bench.type(same, len(old) - same - after, new[same : len(new) - after])

    # Places: ours count characters, Qt's count units of sixteen bits.

    def unit(self, place: int) -> int:
        """Qt's place of a character."""
        return place + bisect_right(self._high, place - 1)

    def place(self, unit: int) -> int:
        """The character at a place of Qt's."""
        return unit - sum(high + at < unit for at, high in enumerate(self._high))

    @property
    def selected(self) -> tuple[int, int]:
        """The characters that are selected."""
        cursor = self.textCursor()
        return self.place(cursor.selectionStart()), self.place(cursor.selectionEnd())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        super().mouseReleaseEvent(event)
        if event.button() == Qt.MouseButton.LeftButton and not self.textCursor().hasSelection():
            self._bench.go_to_place(self.place(self.textCursor().position()))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            event.ignore()
            return
        super().keyPressEvent(event)

    # Marks.

    def _mark(self) -> None:
        """Marks what the draft made of the words, and those under the hand."""
        found, theme = self._bench.found, self._theme
        marks: list[QTextEdit.ExtraSelection] = []
        if found is not None and found.of.page.text == self._text:
            settled = QTextCharFormat()
            settled.setForeground(theme.color("faint"))
            if found.of.page.upto:
                marks.append(self._span(0, found.of.page.upto, settled))
            for each in found.of.draft.unused:
                look = QTextCharFormat()
                look.setForeground(theme.color("faint", 0.75))
                if each.why != "idle" and each.span[1] > found.of.page.upto:
                    look.setForeground(theme.color("stop"))
                    look.setFontItalic(True)
                marks.append(self._span(*each.span, look))
            for row in found.of.rows:
                if row.done or row.made is None or row.made.yours or row.made.how not in ("chosen", "doubtful"):
                    continue
                look = QTextCharFormat()
                look.setUnderlineStyle(QTextCharFormat.UnderlineStyle.DotLine)
                look.setUnderlineColor(theme.color("stop" if row.made.how == "doubtful" else "caution"))
                marks += [self._span(start, stop, look) for start, stop in row.made.spans]
            hand = QTextCharFormat()
            hand.setBackground(theme.color("chosen"))
            hand.setForeground(theme.color("chosen_ink"))
            marks += [self._span(start, stop, hand) for start, stop in spans_of(self._bench.row)]
        self.setExtraSelections(marks)
        self.viewport().update()

    def _span(self, start: int, stop: int, look: QTextCharFormat) -> QTextEdit.ExtraSelection:
        made = QTextEdit.ExtraSelection()
        cursor = QTextCursor(self.document())
        last = self.document().characterCount() - 1
        cursor.setPosition(min(self.unit(start), last))
        cursor.setPosition(min(self.unit(stop), last), QTextCursor.MoveMode.KeepAnchor)
        made.cursor, made.format = cursor, look
        return made

    def _follow(self) -> None:
        """Brings the words under the hand into view, and moves nothing where they are."""
        spans = spans_of(self._bench.row)
        if spans:
            box = self.box_at(spans[-1][1])
            if not self.viewport().rect().adjusted(0, 0, 0, -8).contains(box.toRect()) and not self.hasFocus():
                cursor = self.textCursor()
                cursor.setPosition(min(self.unit(spans[-1][1]), self.document().characterCount() - 1))
                self.setTextCursor(cursor)
                self.ensureCursorVisible()
        self._mark()

    def box_at(self, place: int) -> QRectF:
        """Where a character stands in the view."""
        cursor = QTextCursor(self.document())
        cursor.setPosition(min(self.unit(place), self.document().characterCount() - 1))
        return QRectF(self.cursorRect(cursor))

    def hand_at(self) -> QPointF | None:
        """Where the line below the words under the hand ends, in the view; None where it is not seen."""
        spans = spans_of(self._bench.row)
        if not spans:
            return None
        box = self.box_at(max(stop for _, stop in spans))
        return QPointF(box.right(), box.bottom() - 1.0) if self.viewport().rect().intersects(box.toRect()) else None

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        found = self._bench.found
        if found is None or found.of.page.text != self._text:
            return
        with QPainter(self.viewport()) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setFont(font(8.0, bold=True))
            painter.setPen(QPen(self._theme.color("stop"), 1.3))
            rise = QFontMetricsF(self.font()).ascent()
            for place in self._doubts():
                box = self.box_at(place)
                if self.viewport().rect().intersects(box.toRect()):
                    at = QPointF(box.left() + 3.0, box.top() + 0.15 * rise)
                    painter.drawText(QRectF(at.x() - 3, at.y() - 7, 10, 12), Qt.AlignmentFlag.AlignCenter, "?")

    def _doubts(self) -> list[int]:
        """Where what is doubtful or was not understood ends."""
        found = self._bench.found
        assert found is not None
        doubts = [
            row.stop for row in found.of.rows if not row.done and row.made is not None and row.made.how == "doubtful"
        ]
        lost = [u.span[1] for u in found.of.draft.unused if u.why != "idle" and u.span[1] > found.of.page.upto]
        return sorted({*doubts, *lost})


def spans_of(row: Row | None) -> list[tuple[int, int]]:
    """The words of a row."""
    if row is None:
        return []
    return sorted(row.made.spans) if row.made is not None else [(row.start, row.stop)]


def _common(one: str, other: str) -> int:
    """How many characters two texts have in common at their beginning."""
    low, high = 0, min(len(one), len(other))
    while low < high:  # halves the question: comparing slices is quick
        middle = (low + high + 1) // 2
        if one[:middle] == other[:middle]:
            low = middle
        else:
            high = middle - 1
    return low
