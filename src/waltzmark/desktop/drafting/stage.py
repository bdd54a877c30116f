"""The Words stage: the text on the left, its draft on the right, the floor below the draft."""

from __future__ import annotations

from functools import cached_property
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QKeyEvent, QResizeEvent
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLineEdit, QSplitter, QVBoxLayout, QWidget

from waltzmark.core.base.errors import ScoreError, WaltzmarkError
from waltzmark.core.draft.pages import progress
from waltzmark.core.form.spoken import LANGUAGES
from waltzmark.core.score.read import read_count
from waltzmark.core.score.write import write_count
from waltzmark.demo import demo_lesson
from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.drafting.draft_floor import DraftFloor
from waltzmark.desktop.drafting.draft_rows import DraftRows
from waltzmark.desktop.drafting.page_text import PageText
from waltzmark.desktop.drafting.teaching import TeachLine
from waltzmark.desktop.drafting.tie import Tie
from waltzmark.desktop.drafting.workbench import Workbench
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import faint, set_tip, wrapped
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.parts import choice_box, push_button, quiet, row_of
from waltzmark.files import library
from waltzmark.files.saving import save_atomically
from waltzmark.files.taught import read_taught, taught_text
from waltzmark.files.wordings import read_words
from waltzmark.words.drafts import how_named, reasons
from waltzmark.words.errors import explained
from waltzmark.words.findings import what
from waltzmark.words.language import ntr, number, tr
from waltzmark.words.sentences import sentence

if TYPE_CHECKING:
    from waltzmark.desktop.widgets.figure_view import FigurePane

__all__ = ["WordsStage"]

_NAMES = {"en": tr("English"), "es": tr("Spanish")}
_FILES = tr("Words (*.txt *.md *.srt *.vtt);;All files (*)")
_TAUGHT = tr("Taught phrases (*.toml)")


@guarded
class WordsStage(Stage):
    """Reads words, shows what they are drafted as, and lets each count be taken, changed or refused."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.setAcceptDrops(True)
        self.bench = Workbench(desk.document, desk.jobs, self)
        self.text = PageText(self.bench, desk.theme)
        self.rows = DraftRows(self.bench, desk.theme)
        self.floor = DraftFloor(self.bench, desk.document, desk.theme)
        self.told = wrapped(points=10.0)
        self.told.setMinimumHeight(42)
        self.told.setAlignment(Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        self.change = QLineEdit()
        self.change.setFont(font(11.0))
        self.change.setAccessibleName(tr("The count under the hand"))
        set_tip(self.change, tr("Enter keeps the count for these words, Escape leaves it as it was"))
        self.change.returnPressed.connect(safely(self._changed))
        self.change.hide()
        self.teaching = TeachLine(self.bench, desk.document)
        self.teaching.hide()
        left = QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self._head())
        column.addWidget(self.text, 1)
        column.addWidget(self.teaching)
        below = QWidget()
        lower = QVBoxLayout(below)
        lower.setContentsMargins(14, 6, 14, 6)
        lower.setSpacing(4)
        lower.addWidget(self.change)
        lower.addWidget(self.told)
        lower.addWidget(self._hands())
        upper = QWidget()
        rows = QVBoxLayout(upper)
        rows.setContentsMargins(0, 0, 0, 0)
        rows.setSpacing(0)
        rows.addWidget(self.rows, 1)
        rows.addWidget(below)
        right = QSplitter(Qt.Orientation.Vertical)
        right.setChildrenCollapsible(False)
        right.setHandleWidth(1)
        right.addWidget(upper)
        self.shown = QSplitter(Qt.Orientation.Horizontal)
        self.shown.setChildrenCollapsible(False)
        self.shown.setHandleWidth(1)
        self.shown.addWidget(self.floor)
        right.addWidget(self.shown)
        right.setSizes([380, 260])
        self.splitter = QSplitter(Qt.Orientation.Horizontal, self)
        self.splitter.setChildrenCollapsible(False)
        self.splitter.setHandleWidth(1)
        self.splitter.addWidget(left)
        self.splitter.addWidget(right)
        self.splitter.setSizes([540, 740])
        whole = QHBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(self.splitter)
        self.tie = Tie(self.text, self.rows, desk.theme, self)
        for signal in (self.bench.drafted, self.bench.moved):
            signal.connect(safely(self._tell))
        self.bench.drafted.connect(safely(self._progress))
        self.rows.change_wanted.connect(safely(self.change_count))
        self.rows.told.connect(safely(self.told.setText))
        self.text.too_long.connect(safely(self.told.setText))
        self.splitter.splitterMoved.connect(safely(self.tie.update))
        desk.document.opened.connect(safely(self.bench.begin))
        self.setFocusProxy(self.text)
        self._tell()
        self._progress()

    @cached_property
    def figure(self) -> FigurePane:
        """The body at the count under the hand; made when it is first wanted."""
        from waltzmark.desktop.widgets.figure_view import FigurePane

        made = FigurePane(self.desk.document, self.desk.theme)
        made.view.walk, made.view.moment = (lambda: self.floor.trace), (lambda: (self.floor.row, 1.0))
        for signal in (self.bench.drafted, self.bench.moved):
            signal.connect(safely(made.view.update))
            signal.connect(safely(made.say))
        self.shown.addWidget(made)
        self.shown.setSizes([420, 320])
        return made

    def show_figure(self, shown: bool) -> None:
        """Shows the body beside the floor."""
        if shown or "figure" in self.__dict__:
            self.figure.setVisible(shown)

    def _hands(self) -> QWidget:
        """What the keys of the draft do, for who has a mouse in the hand."""
        self.hands = QWidget()
        self._grid = QGridLayout(self.hands)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._buttons = (
            push_button(tr("Take this count"), self.take, tr("Writes it into the form and goes on  (Enter)")),
            push_button(
                tr("Take the posture"), lambda: self.take(whole=True), tr("Takes all its counts  (Shift+Enter)")
            ),
            push_button(
                tr("Up to the next question"),
                self.take_sure,
                tr("Takes all counts up to the next of which something is doubtful  (Ctrl+Alt+Enter)"),
            ),
            push_button(tr("Other reading"), self.bench.other_reading, tr("What else the words can mean  (Tab)")),
            push_button(tr("Change it …"), self.change_count, tr("Lets you write the count yourself  (F2)")),
            push_button(tr("Refuse it"), self.bench.refuse, tr("Leaves these words out of the form  (Del)")),
        )
        for button in self._buttons:
            button.setObjectName("small")
        self.hands.hide()
        self._lay_hands()
        return self.hands

    def _lay_hands(self) -> None:
        """Lays the buttons beside each other where they have room, else in two rows."""
        needs = sum(button.sizeHint().width() + self._grid.horizontalSpacing() for button in self._buttons)
        across = len(self._buttons) if needs <= self.rows.width() - 28 else 3
        for at, button in enumerate(self._buttons):
            self._grid.addWidget(button, at // across, at % across)
        self._grid.setColumnStretch(len(self._buttons), 1)

    def _head(self) -> QWidget:
        head = QWidget()
        row = QHBoxLayout(head)
        row.setContentsMargins(12, 6, 12, 6)
        row.setSpacing(8)
        self.language = choice_box(tr("Language of the words"), [_NAMES[each] for each in LANGUAGES], self._language)
        set_tip(self.language, tr("The language that the words are read in"))
        self.open = push_button(tr("Open …"), self.open_words, tr("Opens a text, a Markdown file or captions"))
        self.progress = faint("", 10.0)
        self.progress.setWordWrap(True)
        row.addLayout(row_of(self.language, self.open))
        row.addWidget(self.progress, 1)
        return head

    def set_theme(self, theme: Theme) -> None:
        for view in (self.text, self.rows, self.floor):
            view.set_theme(theme)
        if "figure" in self.__dict__:
            self.figure.set_theme(theme)
        self.tie.theme = theme
        self.tie.update()

    def showEvent(self, _event: object) -> None:
        self.bench.show()
        self._progress()

    def hideEvent(self, _event: object) -> None:
        self.bench.hide()

    def end(self) -> None:
        self.bench.hide()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._lay_hands()
        self.tie.setGeometry(self.rect())
        self.tie.raise_()

    def begin(self, text: str = "") -> None:
        if text:
            self.bench.write(text, tr("write the words"))
        self.text.setFocus()

    # What is told.

    def _progress(self) -> None:
        found = self.bench.found
        with quiet(self.language):
            self.language.setCurrentIndex(LANGUAGES.index(self.bench.language))
        if found is None:
            self.progress.setText("")
            return
        far = progress(found.of)
        asked = ntr("{n} question", "{n} questions", far.questions)
        self.progress.setText(
            tr("{used} of {words} words used, {asked}", used=number(far.used), words=number(far.words), asked=asked)
        )

    def _tell(self) -> None:
        """Says what the row under the hand is, why, and what the keys do."""
        self.tie.update()
        found, row = self.bench.found, self.bench.row
        self.hands.setVisible(row is not None)
        page = self.bench.page
        if found is None or row is None:
            if found is not None and found.doubt is not None:
                self.told.setText(sentence(found.doubt))
            elif page is not None and page.text.strip() and found is not None:
                self.told.setText(tr("Nothing in these words moves a foot, the weight or the body."))
            else:
                self.told.setText(tr("What the words are drafted as appears here, count by count."))
            return
        if row.made is None:
            self.told.setText(tr("Enter takes this posture. Its counts come from the one that it repeats or mirrors."))
            return
        if row.done:
            self.told.setText(tr("Taken. Change it in Plot, or undo.") if not row.made.refused else _REFUSED)
            return
        parts = []
        why = reasons(row.made, given=self.rows.show_given)
        how = how_named("yours" if row.made.yours else row.made.how)
        parts.append(tr("{how}: {why}.", how=how[:1].upper() + how[1:], why=why) if why and not row.made.yours else "")
        finding = next((f for f in found.findings if f.row == found.walked[self.bench.hand]), None)
        if finding is not None:
            parts.append(tr("Found: {finding}", finding=what(finding, self.desk.document.session.say)))
        if row.made.others:
            others = " · ".join(write_count(other) for other in row.made.others[:3])
            parts.append(tr("Tab: {others}.", others=others))
        parts.append(tr("Enter takes it, F2 changes it, Del refuses it, N keeps the words as its note."))
        if found.doubt is not None:
            parts.insert(0, sentence(found.doubt))
        self.told.setText(" ".join(filter(None, parts)))

    # Changing a count.

    def change_count(self) -> None:
        """Shows the count under the hand to be changed."""
        row = self.bench.row
        if row is None or row.made is None or row.done:
            return
        self.change.setText(write_count(row.made.count))
        self.change.show()
        self.change.selectAll()
        self.change.setFocus()

    def _changed(self) -> None:
        try:
            count = read_count(self.change.text(), self.desk.document.form.school.stance_names)
        except ScoreError as error:
            self.told.setText(tr("At character {column}: {advice}", column=error.column, advice=sentence(error.advice)))
            return
        self.change.hide()
        self.rows.setFocus()
        self.bench.choose(count, tr("change the draft to “{count}”", count=write_count(count)))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and (self.change.isVisible() or self.teaching.isVisible()):
            self.change.hide()
            self.teaching.hide()
            self.rows.setFocus()
            self._tell()
            return
        super().keyPressEvent(event)

    def take_back(self) -> bool:
        self.bench.commit()
        return False

    # What the acts do.

    def go_to_draft(self) -> None:
        """Lets the keys go to the counts that are drafted, out of the words."""
        self.rows.setFocus()

    def take(self, whole: bool = False) -> None:
        """Takes the count under the hand, or its posture."""
        if not self.bench.take(whole):
            self.told.setText(tr("Nothing waits to be taken."))
        self.rows.setFocus()

    def take_sure(self) -> None:
        """Takes all counts up to the next one of which something is doubtful."""
        if not self.bench.take_sure():
            waits = self.bench.row is not None and not self.bench.row.done
            asked = tr("The next count is a question: take it, change it or refuse it.")
            self.told.setText(asked if waits else tr("Nothing waits to be taken."))
        self.rows.setFocus()

    def beats(self) -> None:
        """Takes the beats of the count under the hand from its captions."""
        if not self.bench.beats(self.desk.player.seconds_per_beat):
            self.told.setText(tr("These words have no times. Open captions (.srt, .vtt) to take beats from them."))

    def teach(self) -> None:
        """Asks what the marked words mean."""
        start, stop = self.text.selected
        words = " ".join((self.bench.page.text[start:stop] if self.bench.page is not None else "").split())
        if not words:
            self.told.setText(tr("Mark the words in the text first, then say what they mean."))
            return
        self.teaching.begin(words)

    def _language(self, at: int) -> None:
        self.bench.set_language(LANGUAGES[at])

    def open_words(self) -> None:
        """Asks for a file of words, and opens it."""
        if path := self.desk.files.to_open(tr("Open words"), _FILES):
            self.open_path(path)

    def open_path(self, path: Path) -> None:
        """Opens a file of words; tells why where it cannot. Undo brings the words back that stood here."""
        try:
            wording = read_words(path)
        except WaltzmarkError as error:
            self.desk.asking.tell(tr("{name} cannot be opened", name=path.name), explained(error))
            return
        self.bench.write(wording.text, tr("open {name}", name=path.name), wording.times)
        self.rows.setFocus()

    def try_sample(self, kind: str = "md") -> None:
        """Opens a lesson that comes with Waltzmark, in the language that is set where there is one."""
        path, language = demo_lesson(kind)
        self.bench.set_language(language)
        self.open_path(path)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if any(url.isLocalFile() and _is_words(Path(url.toLocalFile())) for url in event.mimeData().urls()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        path = next((Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()), None)
        if path is not None:
            self.open_path(path)

    def export_taught(self) -> None:
        """Saves the phrases that were taught as a file."""
        if path := self.desk.files.to_save(tr("Save taught phrases"), "phrases.toml", _TAUGHT):
            self.desk.asking.attempt(lambda: save_atomically(path, taught_text(library.taught())))

    def import_taught(self) -> None:
        """Takes in phrases from a file."""
        if path := self.desk.files.to_open(tr("Import taught phrases"), _TAUGHT):
            self.desk.asking.attempt(lambda: library.keep_taught(read_taught(path)))
            self.bench.know()


_REFUSED = tr("Refused. Del takes it in again.")


def _is_words(path: Path) -> bool:
    return path.suffix.lower() in (".txt", ".md", ".srt", ".vtt")
