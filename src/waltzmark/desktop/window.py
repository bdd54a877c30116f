"""The main window: one document, its menus, the three answers, and the stage that fills it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, Qt, QTimer, Signal
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent, QKeyEvent, QPaintEvent, QShowEvent
from PySide6.QtWidgets import (
    QAbstractButton,
    QMainWindow,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from waltzmark.desktop.actions import Book, menu_text
from waltzmark.desktop.answers import AnswerStrip
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.beginning import Beginning
from waltzmark.desktop.choices import Choices
from waltzmark.desktop.choosing import Files
from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.dialogs import Dialogs
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.filing import Filing, OtherWindows
from waltzmark.desktop.fitting import fit_frame, fit_screen
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.logbook import Logbook
from waltzmark.desktop.looks import Looks
from waltzmark.desktop.menus import Menus
from waltzmark.desktop.next_line import OnwardLine
from waltzmark.desktop.notice import NoticeBar
from waltzmark.desktop.player import Player
from waltzmark.desktop.recovery import Recovery
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.stages import FIRST_SHOWN, STAGES
from waltzmark.desktop.theme import Theme, dress
from waltzmark.desktop.way import Place, Way
from waltzmark.words.errors import explained
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.core.answers.onward import Onward
    from waltzmark.core.form.form import Form
    from waltzmark.core.practice.entries import Entry
    from waltzmark.desktop.first_form import FirstForm
    from waltzmark.desktop.helping import HelpWindow
    from waltzmark.desktop.log.stage import LogStage
    from waltzmark.desktop.plot.stage import PlotStage
    from waltzmark.desktop.practise.stage import PractiseStage
    from waltzmark.desktop.ready.stage import ReadyStage
    from waltzmark.desktop.returns.stage import ReturnStage
    from waltzmark.desktop.room.stage import RoomStage
    from waltzmark.desktop.sides.stage import SidesStage

__all__ = ["MainWindow"]


@guarded
class MainWindow(QMainWindow):
    """One window on one document."""

    closed = Signal()
    completed = Signal()  # nothing has to wait for its first picture any more

    def __init__(
        self,
        others: OtherWindows,
        settings: Settings | None = None,
        theme: Theme | None = None,
        first: Callable[[Filing], object] = lambda _: None,
        late: bool = False,
    ) -> None:
        """first: opens the document that it begins with; the stage is made for that one, and not anew. late: menus and
        judgement come once it has been seen."""
        super().__init__()
        settings = settings or Settings()
        self.looks = Looks(settings, self)
        theme = theme or self.looks.theme
        dress(theme)
        self.others = others
        self.document = Document(self)
        self.document.judge.within = settings.within
        self.document.judge.waits = late
        self.player = Player(self.document, self)
        self.editor = Editor(self.document)
        book = Book(self, theme)
        self.desk = Desk(
            self.document,
            self.editor,
            self.player,
            settings,
            Asking(self),
            self.document.jobs,
            book,
            Files(self, self.document, settings),
            theme,
            Logbook(self),
            self._begin_beside,
            careful=lambda then: self.dialogs.careful(then),
            show_sheet=lambda form, kind: self.dialogs.sheets(form, kind),
        )
        self.dialogs = Dialogs(self.desk, self)
        self.recovery = Recovery(self.document, self)
        self.filing = Filing(self.desk, self.recovery, self, others)
        self.filing.begun = lambda guided: self.beginning.begin(guided)
        self._stages: dict[str, Stage] = {}
        whole = QWidget(self)
        self.stages = self.desk.shown_in = QStackedWidget(whole)
        self.answers = AnswerStrip(self.document, theme)
        self.notices = NoticeBar()
        self.choices = Choices(self.desk, self)
        self.way = Way(self._here, self._go_to)
        self.desk.leaving = self.way.leave
        self.onward = OnwardLine(self.document)
        self.beginning = Beginning(self.desk, self.filing, self.stages, self.show_stage)
        self.beginning.before_doors.connect(safely(lambda: self.show_answers(False)))
        self.beginning.card_made.connect(safely(self._show_card))
        self.menus = Menus(self, self, self.desk, self.filing, self.choices, self.stage, FIRST_SHOWN)
        self._lay_out(whole)
        self.setAcceptDrops(True)
        self._chosen = fit_screen(self, settings.geometry)
        self.document.file_changed.connect(safely(self._name_window))
        self.answers.asked.connect(safely(self._open_answer))
        self.onward.asked.connect(safely(self._go_on))
        self.player.playing_changed.connect(safely(self._show_playing))
        self.recovery.failed.connect(safely(self._tell_not_kept))
        self.desk.practice.trouble.connect(safely(self._tell_of_book))
        self.document.jobs.trouble.connect(
            safely(lambda _asker, error: self.tell_trouble(explained(error) or type(error).__name__))
        )
        self.looks.changed.connect(safely(self._show_looks))
        self.player.set_still(self.looks.still)
        self._name_window()
        first(self.filing)
        self.show_stage(FIRST_SHOWN).setFocus()
        if not late:
            self._complete()

    def _complete(self) -> None:
        """What the first picture of the window did not wait for."""
        self.menus.complete(self.shown)
        self.document.judge.begin()
        self.completed.emit()

    def _lay_out(self, whole: QWidget) -> None:
        column = self._column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for part in (self.notices, self.answers, self.onward):
            column.addWidget(part)
        column.addWidget(self.stages, 1)
        self.setCentralWidget(whole)

    def _show_card(self, card: FirstForm) -> None:
        self._column.insertWidget(self._column.indexOf(self.stages), card)
        card.shown.connect(safely(self.onward.keep_quiet))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter does what the button that has the keys does, as Space does."""
        at = self.focusWidget()
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and isinstance(at, QAbstractButton) and at.hasFocus():
            at.click()
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        if self.document.judge.waits:  # what is on it is painted before the next event comes
            QTimer.singleShot(0, self, safely(self._complete))

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        QTimer.singleShot(0, self, safely(lambda: fit_frame(self, self._chosen)))  # its frame is known once it is shown

    # Stages.

    def stage(self, name: str) -> Stage:
        """A stage, made when it is first wanted."""
        if name not in self._stages:
            row = next(row for row in STAGES if row.name == name)
            self._stages[name] = row.make(self.desk)
            self.stages.addWidget(self._stages[name])
        return self._stages[name]

    def show_stage(self, name: str) -> Stage:
        """Fills the window with a stage, and lets its actions work."""
        stage = self.stage(name)
        self.show_answers(True)
        if self.stages.currentWidget() is not stage:
            self.way.leave()
            self.stages.setCurrentWidget(stage)
            stage.setFocus()  # else the keys go to whatever Qt finds next to what has gone
        self.desk.book.show_stage(name)
        self.desk.book[f"stage {name}"].setChecked(True)
        row = next(row for row in STAGES if row.name == name)
        self.onward.show_stage(name, row.title.replace("&", ""), row.purpose)
        return stage

    def show_answers(self, shown: bool) -> None:
        """The answers are there wherever there is a form to speak of."""
        for part in (self.answers, self.onward):
            part.setVisible(shown)

    @property
    def shown(self) -> str:
        """The name of the stage that is shown; empty before there is one."""
        return next((name for name, stage in self._stages.items() if stage is self.stages.currentWidget()), "")

    def _open_answer(self, number: int) -> None:
        """Shows the stage that an answer is about, at what decides it."""
        review = self.document.judge.review
        stage = self.show_stage(next(row.name for row in STAGES if row.answer == number))
        if review is not None and (row := review.answers[number].row) is not None:
            self.document.session.go(float(row))
        stage.show_matter()

    def _go_on(self, step: Onward) -> None:
        """Goes on with what was offered as useful next."""
        if step.stage:
            stage = self.show_stage(step.stage)
            if step.face and stage.face_name != step.face:
                stage.show_face(step.face)
        if step.act:
            self.desk.book[step.act].trigger()

    def _here(self) -> Place:
        name = self.shown
        return Place(name, self._stages[name].face_name if name else "", self.document.session.position)

    def _go_to(self, place: Place) -> None:
        self.document.session.go(place.position)
        stage = self.show_stage(place.stage)
        if place.face != stage.face_name:
            stage.show_face(place.face)

    def _begin_beside(self, form: Form, words: str) -> None:
        """Opens a form in a window beside; it stands there as not saved yet."""
        filing = self.others.open()
        filing.document.edit(words, form, Selection())

    @property
    def home(self) -> ReturnStage:
        return self.stage("return")  # type: ignore[return-value]

    @property
    def log(self) -> LogStage:
        return self.stage("log")  # type: ignore[return-value]

    @property
    def practise(self) -> PractiseStage:
        return self.stage("practise")  # type: ignore[return-value]

    @property
    def sides(self) -> SidesStage:
        return self.stage("sides")  # type: ignore[return-value]

    @property
    def room(self) -> RoomStage:
        return self.stage("room")  # type: ignore[return-value]

    @property
    def plot(self) -> PlotStage:
        return self.stage("plot")  # type: ignore[return-value]

    @property
    def ready(self) -> ReadyStage:
        return self.stage("ready")  # type: ignore[return-value]

    # What it does.

    def show_demo_book(self) -> None:
        """Shows the demo's made-up practice book instead of the user's own; nothing of it is kept."""
        from waltzmark.demo import persons

        form, trace = self.document.form, self.document.trace

        def made() -> tuple[Entry, ...]:
            from waltzmark.core.practice.entries import now
            from waltzmark.demo.book import demo_book

            return demo_book(form, trace, now())

        self.desk.practice.person = persons()[0]
        self.desk.practice.show_demo(made)

    def begin_first_form(self) -> None:
        """A newcomer's first form, step by step, in a new document."""
        if self.filing.may_leave():
            self.document.new()
            self.beginning.begin(True)

    def undo(self) -> None:
        """Takes back the last edit; what is not in the document yet goes first."""
        shown = self.stages.currentWidget()
        if not (isinstance(shown, Stage) and shown.take_back()):
            self.document.undo()

    def play(self) -> None:
        """Plays or pauses; before the first time ever, the cautions are shown."""
        self.dialogs.careful(self.player.toggle)

    def show_help(self) -> HelpWindow:
        """Help on the stage that is shown."""
        return self.dialogs.help(next((row.help for row in STAGES if row.name == self.shown), ""))

    def set_dark(self, dark: bool) -> None:
        self.looks.set_dark(dark)

    def _show_looks(self) -> None:
        self.player.set_still(self.looks.still)
        self.menus.show_looks(self.looks.contrast, self.looks.still)
        theme = self.looks.theme
        if theme == self.desk.theme:
            return
        self.desk.theme = theme
        dress(theme)
        self.answers.set_theme(theme)
        if self.beginning.doors is not None:
            self.beginning.doors.set_theme(theme)
        self.dialogs.set_theme(theme)
        for stage in self._stages.values():
            stage.set_theme(theme)
        self.desk.book.set_theme(theme)
        self._show_playing(self.player.playing)

    # What it tells.

    def tell_trouble(self, words: str) -> None:
        """Something went wrong inside: told once, with a way to save. The form is as it was."""
        self.notices.tell(
            tr("Something went wrong inside Waltzmark ({words}). Your form is still here. Save it now.", words=words),
            tr("Save a copy …"),
            self.filing.save_as,
        )

    def _tell_of_book(self, words: str, damaged: bool) -> None:
        practice = self.desk.practice
        if damaged:
            anew = lambda: self.desk.asking.attempt(practice.begin_anew)  # noqa: E731 - a button of its own
            self.notices.tell(words, tr("Set it aside and start a new one"), anew)
        else:
            self.notices.tell(words)

    def _tell_not_kept(self, reason: str) -> None:
        self.notices.tell(
            tr("Unsaved changes cannot be backed up, so a crash would lose them: {reason}", reason=reason),
            tr("Save …"),
            self.filing.save,
        )

    def _show_playing(self, playing: bool) -> None:
        self.desk.book.set_sign("play", "pause" if playing else "play")
        self.desk.book["play"].setText(tr("&Pause") if playing else tr("&Play"))

    def _name_window(self) -> None:
        document, book = self.document, self.desk.book
        if self.isWindowModified() != document.changed:  # the style of a window is polished anew for it
            self.setWindowModified(document.changed)
        place = document.path.name if document.path else tr("not saved yet")
        title = f"{document.title} ({place})".replace("[*]", "[*][*]")  # which would be the mark of changes
        self.setWindowTitle(tr("{title}[*] - Waltzmark", title=title))
        # Undo and redo say what they would do.
        for name, words in (("undo", document.undo_words), ("redo", document.redo_words)):
            book[name].setEnabled(words is not None)
            book[name].setText(f"{book.act(name).words}: {menu_text(words)}" if words else book.act(name).words)

    # Events.

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.ActivationChange and self.isActiveWindow():
            QTimer.singleShot(0, self, safely(self.filing.look_at_file))

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if any(url.isLocalFile() for url in event.mimeData().urls()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        paths = [Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()]
        if paths:
            self.filing.open_instead(paths[0])

    def closeEvent(self, event: QCloseEvent) -> None:
        if not self.filing.may_leave():
            event.ignore()
            return
        self.player.pause()
        self.desk.settings.geometry = self.saveGeometry()
        self.recovery.end()
        for stage in self._stages.values():
            stage.end()
        self.document.close()
        self.desk.practice.close()
        self.closed.emit()
        event.accept()
