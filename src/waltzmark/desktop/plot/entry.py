"""The entry line: a count typed, completed, shown at once as a ghost and a sentence, and put where it belongs."""

from __future__ import annotations

import re
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from waltzmark.core.base.angles import clock_text
from waltzmark.core.base.errors import FormError, ScoreError
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.base.records import replace
from waltzmark.core.edit import forms
from waltzmark.core.form.form import Form
from waltzmark.core.score.actions import Count
from waltzmark.core.score.read import read_count
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.step import size_given
from waltzmark.desktop.document import Document, Where
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import RichLabel, rich
from waltzmark.desktop.plot.entry_field import EntryField
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.findings import what
from waltzmark.words.language import language as language_set
from waltzmark.words.language import ntr, tr
from waltzmark.words.sentences import sentence
from waltzmark.words.steps import count_sentence, size_sentence

if TYPE_CHECKING:
    from waltzmark.core.draft.standing import Made

__all__ = ["EntryLine"]

_WORD = re.compile(r"[^\W\d_]{2,}")
_SIDE = re.compile(r"\b[LR]\b")  # as a score has it: a slip in one is told, and not read as a sentence
_SAID = 64  # pixels of what is said of the line, at the least: most of it has room there
_SENTENCE = 2  # words from which a line may be a sentence


@guarded
class EntryLine(QWidget):
    """Where counts are typed.

    Enter puts the count after the selected one, Shift+Enter before it, Ctrl+Enter at the end of the posture. While
    a selected line is being changed, Enter puts the new one in its place. Escape clears the line.
    """

    def __init__(self, document: Document, editor: Editor, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setAutoFillBackground(True)  # nothing behind it has to be painted
        self._document, self._editor = document, editor
        self.changing = False
        self._spoken: tuple[Count, ...] = ()  # the counts that a typed sentence becomes
        self._sentence = ""  # what the typed count would do
        self._history: list[str] = []
        self._recalled = 0
        self.field = EntryField(theme)
        self.field.typed.connect(safely(self._typed))
        self.field.entered.connect(safely(self.enter))
        self.field.escaped.connect(safely(self.clear))
        self.field.recalled.connect(safely(self._recall))
        self.field.lines_pasted.connect(safely(self.paste))
        self.saying = RichLabel()
        self.saying.setObjectName("faint")
        self.saying.setFont(font(10))
        self.saying.setWordWrap(True)
        self.saying.setMinimumHeight(_SAID)
        self.saying.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self.saying.setAccessibleName(tr("Meaning of the count"))
        column = QVBoxLayout(self)
        column.setContentsMargins(12, 8, 12, 4)
        column.setSpacing(5)
        column.addWidget(self.field)
        column.addWidget(self.saying)
        document.session.figures_changed.connect(safely(self._typed))
        document.session.selected.connect(safely(self._selected))  # which is told of another form as well
        document.judge.foreseen.connect(safely(self._say_problem))
        self._typed()

    def set_theme(self, theme: Theme) -> None:
        self.field.theme = theme
        self._typed()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.clear()
        else:
            super().keyPressEvent(event)

    def clear(self) -> None:
        """Clears the line and leaves off changing."""
        self.changing = False
        self.field.clear()
        self._typed()

    def change_selected(self) -> None:
        """Takes the selected line into the entry line, to be changed."""
        selection, form = self._document.session.selection, self._document.form
        if selection.posture is None or selection.start == selection.stop:
            self.field.setFocus()
            return
        posture = form.posture(selection.posture)
        if posture.source is None:
            self.changing = True
            self.field.setText(write_count(posture.lines[selection.start]))
        self.field.setFocus()
        self._typed()

    def _selected(self) -> None:
        if self.changing:
            self.clear()  # another line is selected now
        else:
            self._typed()

    def _read(self) -> Count | None:
        """The count typed; None, with the field's error set, when it cannot be read."""
        self.field.error = None
        try:
            return read_count(self.field.text(), self._document.form.school.stance_names)
        except ScoreError as error:
            self.field.error = error
            return None

    def _typed(self) -> None:
        """Says and shows what the typed count would do."""
        self._sentence = ""
        form, posture, at = self._editor.place("before" if self.changing else "after")
        self.field.offer(form.school.stance_names, self._document.session.pose.torso)
        self.field.setPlaceholderText(tr("a count, for example: {example}", example=self._example()))
        self.field.error = None
        if posture.source is not None:
            source = form.posture(posture.source).title
            self._document.show_ghost(None)
            self._say(
                tr(
                    "The counts of {title} come from {source}: change them there, and this posture follows.",
                    title=posture.title,
                    source=source,
                )
            )
            return
        if not self.field.text().strip():
            self._document.show_ghost(None)
            where = (
                tr("after count {number} of", number=self._number(at))
                if at < len(posture.lines)
                else tr("to the end of")
            )
            verb = tr("puts the count") if at < len(posture.lines) else tr("adds the count")
            self._say(
                tr(
                    "Enter {verb} {where} {title}. F2 changes the selected one.",
                    verb=verb,
                    where=where,
                    title=posture.title,
                )
            )
            return
        count = self._read()
        self._spoken = ()
        if count is None and (spoken := self._drafted(at)):
            self._show_spoken(spoken, form, posture.id, at)
            return
        if count is None:
            self._document.show_ghost(None)
            assert self.field.error is not None
            error = self.field.error
            said = tr("At character {column}: {advice}", column=error.column, advice=sentence(error.advice))
            self._say(said, problem=True)
            return
        shown = forms.replace_lines(form, posture.id, at, at + self.changing, [count])
        self._document.show_ghost(count, shown, posture.id, at)
        if self._document.session.ghost is None:
            self._say(tr("Checked at the end of the count before; nothing moves."))
            return
        trace, row = self._document.session.ghost.trace, self._document.session.ghost.row
        moves = (trace.move(row, Side.LEFT), trace.move(row, Side.RIGHT))
        words = count_sentence(trace.pose(row - 1), trace.pose(row), moves, count, self._document.session.say)
        self._sentence = f"{words[:1].upper()}{words[1:]}."
        given = size_given(trace.pose(row - 1), count, trace.ground)
        if given is not None:
            self._sentence += f" {size_sentence(*given, self._document.session.say)}"
        self._say(self._sentence)

    def _drafted(self, at: int) -> tuple[Made, ...]:
        """The counts that a plain sentence becomes where it would be put; none where it is not one."""
        text = self.field.text()
        if self.changing or _SIDE.search(text) or len(_WORD.findall(text)) < _SENTENCE:
            return ()
        from waltzmark.core.draft.lexicon import lexicon_of
        from waltzmark.core.draft.pages import sentence_drafted  # only where somebody writes sentences
        from waltzmark.files import library

        page = self._document.form.words
        language = page.language if page is not None else lexicon_of(language_set())
        row = self._document.session.row
        pose = self._document.trace.pose(row)
        return sentence_drafted(text, pose, self._document.trace.ground, language, library.taught())

    def _show_spoken(self, spoken: tuple[Made, ...], form: Form, posture: str, at: int) -> None:
        """Says what a sentence becomes, and shows the first count of it."""
        self.field.error = None
        self._spoken = tuple(made.count for made in spoken)
        shown = forms.insert_lines(form, posture, at, self._spoken)
        self._document.show_ghost(self._spoken[0], shown, posture, at)
        counts = " · ".join(write_count(count) for count in self._spoken)
        from waltzmark.words.drafts import reasons

        doubt = "; ".join(dict.fromkeys(filter(None, (reasons(made) for made in spoken))))
        words = ntr(
            "As a score: {counts}. Enter puts it in.",
            "As a score: {counts}. Enter puts {n} counts in.",
            len(spoken),
            counts=counts,
        )
        self._say(words + (f" ({doubt})" if doubt else ""))

    def _say_problem(self) -> None:
        """Says what would be found wrong with the typed count, as soon as it has been judged."""
        if self._sentence and self._document.session.ghost is not None:
            problem = self._document.judge.problem(self._document.session.ghost.row)
            self._say(self._sentence, but=None if problem is None else what(problem, self._document.session.say))

    def _number(self, at: int) -> int:
        """The number of the last count before a position of the selected posture."""
        _, posture, _ = self._editor.place("after")
        return sum(line.moves for line in posture.lines[:at])

    def _example(self) -> str:
        """A count that can be walked from the pose at the playhead."""
        pose = self._document.trace.pose(self._document.session.row)
        empty = next((side for side in SIDES if pose.share(side) < 0.005), None)
        if empty is None:
            return "shift R 100"
        return f"step {empty.letter} {clock_text(pose.torso)} bow"

    def _say(self, words: str, problem: bool = False, but: str | None = None) -> None:
        """Shows a sentence; a *problem* is the whole of it, *but* says what would be found wrong with it."""
        words = rich(words)
        if but:
            words += f'<br><span style="color: {self.field.theme.stop}">{rich(but)}</span>'
        if words != self.saying.text():
            self.saying.setText(words)
        # While one types it grows and does not shrink again: else the score above it would jump at every other key.
        high = self.saying.heightForWidth(self.saying.width()) if self.field.text() else 0
        self.saying.setMinimumHeight(max(self.saying.minimumHeight(), high) if high else _SAID)
        name = "problem" if problem else "faint"
        if self.saying.objectName() != name:
            self.saying.setObjectName(name)
            self.saying.style().unpolish(self.saying)
            self.saying.style().polish(self.saying)
        self.field.update()

    def enter(self, where: Where = "after") -> None:
        """Puts the typed count where it belongs; what cannot be read stays in the line."""
        if self._spoken and not self.changing:
            self._enter_spoken(where)
            return
        count = self._read()
        if count is None or not (count.actions or count.note):
            self._typed()
            return
        text, changing = self.field.text(), self.changing
        self.changing = False
        self.field.clear_quietly()
        try:
            if changing:
                self._editor.change(count)
            else:
                self._editor.insert([count], where)
        except FormError:  # the counts come from another posture: the line above says so
            self.field.setText(text)
            return
        self._history.append(text)
        self._recalled = len(self._history)

    def _enter_spoken(self, where: Where) -> None:
        """Puts the counts of a sentence where they belong, the sentence as the note of the first."""
        text, counts = self.field.text(), self._spoken
        self._spoken = ()
        self.field.clear_quietly()
        noted = replace(counts[0], note=" ".join(text.split()))
        try:
            self._editor.insert([noted, *counts[1:]], where)
        except FormError:
            self.field.setText(text)
            return
        self._history.append(text)
        self._recalled = len(self._history)

    def paste(self, text: str) -> None:
        """Several lines at once become several counts; those that cannot be read are kept as text."""
        unread = self._editor.paste(text)
        if unread:
            said = ntr("{n} line could not be read.", "{n} lines could not be read.", unread)
            self._say(said + " " + tr("The score keeps what you typed, for you to correct."), problem=True)

    def _recall(self, by: int) -> None:
        """Goes back and forth through what was entered."""
        if self._history:
            self._recalled = min(max(self._recalled + by, 0), len(self._history))
            text = self._history[self._recalled] if self._recalled < len(self._history) else ""
            self.field.setText(text)
