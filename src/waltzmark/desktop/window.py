"""The main window: one document, its menus, the three answers, and the stage that fills it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QEvent, Qt, QTimer, Signal
from PySide6.QtGui import QAction, QCloseEvent, QDragEnterEvent, QDropEvent, QShowEvent
from PySide6.QtWidgets import (
    QApplication,
    QDialog,
    QHBoxLayout,
    QMainWindow,
    QMenu,
    QStackedWidget,
    QToolButton,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.score.read import keep_counts
from waltzmark.desktop.actions import LINE, Act, Book, fill, menu_text
from waltzmark.desktop.answers import AnswerStrip
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.choices import Choices
from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.filing import Filing, OtherWindows
from waltzmark.desktop.history import Selection
from waltzmark.desktop.notice import NoticeBar
from waltzmark.desktop.plain import set_tip
from waltzmark.desktop.player import Player, tempo_actions
from waltzmark.desktop.practice import Practice
from waltzmark.desktop.recovery import Recovery
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.stages import FIRST_SHOWN, STAGES
from waltzmark.desktop.theme import DARK, LIGHT, Theme, font

if TYPE_CHECKING:
    from waltzmark.core.form.form import Form
    from waltzmark.desktop.home.stage import HomeStage
    from waltzmark.desktop.log.stage import LogStage
    from waltzmark.desktop.plot.stage import PlotStage
    from waltzmark.desktop.practise.stage import PractiseStage
    from waltzmark.desktop.ready.stage import ReadyStage
    from waltzmark.desktop.room.stage import RoomStage
    from waltzmark.desktop.sheets.dialog import SheetsDialog
    from waltzmark.desktop.sides.stage import SidesStage

__all__ = ["MainWindow"]

#: What the window can do in every stage, by menu.
_FILE = (
    Act("new", "&New form …", lambda w: w.filing.new_form(), ("Ctrl+N",)),
    Act("new window", "New &window", lambda w: w.others.open(), ("Ctrl+Shift+W",)),
    Act("open", "&Open …", lambda w: w.filing.choose_file(), ("Ctrl+O",)),
    LINE,
    Act("save", "&Save", lambda w: w.filing.save(), ("Ctrl+S",)),
    Act("save as", "Save &as …", lambda w: w.filing.save_as(), ("Ctrl+Shift+S",)),
    LINE,
    Act("sheets", "S&heets …", lambda w: w.show_sheets(), ("Ctrl+P",)),
    LINE,
    Act("export text", "Export the score as &text …", lambda w: w.filing.export("txt")),
    Act("export csv", "Export the trace as &CSV …", lambda w: w.filing.export("csv")),
    Act("import csv", "&Import a CSV table …", lambda w: w.filing.import_csv()),
    LINE,
    Act("demo", "Open the &demo form", lambda w: w.filing.open_demo()),
    LINE,
    Act("close", "&Close", lambda w: w.close(), ("Ctrl+Q",)),
)
_EDIT = (
    Act("undo", "&Undo", lambda w: w.undo(), ("Ctrl+Z",)),
    Act("redo", "&Redo", lambda w: w.document.redo(), ("Ctrl+Shift+Z",)),
)
_WALK = (
    Act("play", "&Play", lambda w: w.play(), ("Ctrl+Space", "F5"), sign="play"),
    LINE,
    Act("back", "Count &back", lambda w: w.player.step(-1), ("Alt+Left", "PgUp"), sign="back"),
    Act("forward", "Count &forward", lambda w: w.player.step(1), ("Alt+Right", "PgDown"), sign="forward"),
    Act("posture back", "Posture back", lambda w: w.player.step_posture(-1), ("Ctrl+PgUp",)),
    Act("posture forward", "Posture forward", lambda w: w.player.step_posture(1), ("Ctrl+PgDown",)),
    Act("first", "To the &opening", lambda w: w.player.go_to_end(False), ("Ctrl+Home",)),
    Act("last", "To the &end", lambda w: w.player.go_to_end(True), ("Ctrl+End",)),
)
_HELP = (
    Act("first form", "Your &first form, step by step", lambda w: w.begin_first_form()),
    Act("cautions", "&Cautions", lambda w: w.show_cautions()),
    Act("shortcuts", "&Shortcut sheet", lambda w: w.show_shortcuts(), ("F1",)),
)


class MainWindow(QMainWindow):
    """One window on one document."""

    closed = Signal()

    def __init__(
        self, others: OtherWindows, settings: Settings | None = None, theme: Theme | None = None,
        first: Callable[[Filing], object] = lambda _: None,
    ) -> None:  # fmt: skip
        """first: opens the document that it begins with; the stage is made for that one, and not anew."""
        super().__init__()
        settings = settings or Settings()
        theme = theme or (DARK if settings.text("theme", "light") == "dark" else LIGHT)
        self._style(theme)
        self.others = others
        self.document = Document(self)
        self.document.within = settings.within
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
            theme,
            Practice(self),
            self._begin_beside,
        )
        self.recovery = Recovery(self.document, self)
        self.filing = Filing(self.desk, self.recovery, self, others)
        self.filing.begun = lambda: self.show_stage(FIRST_SHOWN).begin()
        self._stages: dict[str, Stage] = {}
        self.stages = QStackedWidget()
        self.answers = AnswerStrip(self.document, theme)
        self.notices = NoticeBar()
        self.choices = Choices(self.desk, self)
        self._make_menus()
        self._lay_out()
        self.setAcceptDrops(True)
        self._fit_screen()
        self.document.file_changed.connect(self._name_window)
        self.answers.asked.connect(self._open_answer)
        self.player.playing_changed.connect(self._show_playing)
        self.recovery.failed.connect(self._tell_not_kept)
        self.desk.practice.trouble.connect(self._tell_of_book)
        self.document.jobs.trouble.connect(lambda _asker, error: self.tell_trouble(str(error) or type(error).__name__))
        self._name_window()
        first(self.filing)
        self.show_stage(FIRST_SHOWN).setFocus()

    def _lay_out(self) -> None:
        whole = QWidget()
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        for part in (self.notices, self.answers):
            column.addWidget(part)
        column.addWidget(self.stages, 1)
        self.setCentralWidget(whole)

    def _fit_screen(self) -> None:
        """As large as it wants to be, but no larger than the screen has room for."""
        free = self.screen().availableGeometry()
        self.setMinimumSize(min(900, free.width()), min(600, free.height() - 40))
        self.resize(min(1280, free.width()), min(800, free.height() - 40))
        if self.desk.settings.geometry is not None:
            self.restoreGeometry(self.desk.settings.geometry)
        self._chosen = self.size()

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        QTimer.singleShot(0, self, self._fit_frame)  # its frame is known once it is shown

    def _fit_frame(self) -> None:
        free, frame = self.screen().availableGeometry(), self.frameGeometry()
        own = self.size() != self._chosen  # somebody has made it as large as it is
        if own or self.isMaximized() or self.isFullScreen() or free.contains(frame):
            return
        wide, high = max(frame.width() - free.width(), 0), max(frame.height() - free.height(), 0)
        if wide or high:
            self.resize(self.width() - wide, self.height() - high)
            frame = self.frameGeometry()
        x = min(max(frame.x(), free.x()), max(free.right() - frame.width() + 1, free.x()))
        y = min(max(frame.y(), free.y()), max(free.bottom() - frame.height() + 1, free.y()))
        self.move(x, y)

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
        if self.stages.currentWidget() is not stage:
            self.stages.setCurrentWidget(stage)
            stage.setFocus()  # else the keys go to whatever Qt finds next to what has gone
        self.desk.book.show_stage(name)
        self.desk.book[f"stage {name}"].setChecked(True)
        return stage

    def _open_answer(self, number: int) -> None:
        """Shows the stage that an answer is about, at what decides it."""
        for row in STAGES:
            if row.answer == number:
                self.show_stage(row.name)

    def _begin_beside(self, form: Form, words: str) -> None:
        """Opens a form in a window beside; it stands there as not saved yet."""
        filing = self.others.open()
        filing.document.edit(words, form, Selection())

    @property
    def home(self) -> HomeStage:
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

    # Menus.

    def _make_menus(self) -> None:
        book = self.desk.book
        own: dict[str, list[QAction | None]] = {
            "&File": book.add(_FILE, lambda: self),
            "&Edit": book.add(_EDIT, lambda: self),
            "&Posture": [],
            "&Walk": book.add(_WALK, lambda: self),
            "&Room": [],
            "Re&turn": [],
            "&Sides": [],
            "Pra&ctise": [],
            "Lo&g": [],
            "&Look": book.add([_stage_act(row.name, row.title, row.key, row.purpose) for row in STAGES], lambda: self),
            "&Help": book.add(_HELP, lambda: self),
        }
        book.group(f"stage {row.name}" for row in STAGES)
        for row in STAGES:
            for menu, acts in row.acts:
                listed = book.add(acts, lambda name=row.name: self.stage(name), row.name)  # type: ignore[misc]
                own[menu] += [LINE, *listed] if own[menu] else listed
            for names in row.groups:
                book.group(names)
        dark = Act("dark", "&Dark theme", lambda w, on: w.set_dark(on), ("Ctrl+D",), on=self.desk.theme.name == "dark")
        own["&Look"] += [LINE, *book.add([dark], lambda: self)]
        for title, actions in own.items():
            menu_ = self.menuBar().addMenu(title)
            menu_.setToolTipsVisible(True)
            fill(menu_, actions)
            if title == "&File":
                self._add_lists(menu_)
            elif title == "&Walk":
                self._add_tempos(menu_)
            elif title == "&Look":
                self.choices.add_to(menu_)
        self.menuBar().setCornerWidget(self._stage_buttons(), Qt.Corner.TopRightCorner)

    def _stage_buttons(self) -> QWidget:
        """The stages in the order of the work, at the end of the menu bar."""
        holder = QWidget(self.menuBar())
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 10, 0)
        row.setSpacing(4)
        for stage in STAGES:
            action = self.desk.book[f"stage {stage.name}"]
            action.setIconText(stage.title.replace("&", ""))
            button = QToolButton()
            button.setDefaultAction(action)
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
            row.addWidget(button)
        return holder

    def _add_lists(self, menu: QMenu) -> None:
        """Files opened lately, and what was given up lately, each filled when it is looked into."""
        after = self.desk.book["open"]
        before = menu.actions()[menu.actions().index(after) + 1]
        for title, empty, listed in (
            ("Open &recent", "No forms yet", self._recent), ("Thrown awa&y lately", "Nothing", self._thrown_away),
        ):  # fmt: skip
            under = QMenu(title, menu)
            under.setToolTipsVisible(True)
            menu.insertMenu(before, under)

            def refill(under: QMenu = under, empty: str = empty, listed: Any = listed) -> None:
                under.clear()
                listed(under)
                if not under.actions():
                    under.addAction(empty).setEnabled(False)

            under.aboutToShow.connect(refill)
            refill()

    def _recent(self, under: QMenu) -> None:
        for path in self.desk.settings.recent:
            action = under.addAction(menu_text(path.name))
            set_tip(action, str(path))
            action.triggered.connect(lambda _checked=False, path=path: self.filing.open_instead(path))

    def _thrown_away(self, under: QMenu) -> None:
        for kept in self.filing.thrown_away():
            action = under.addAction(menu_text(kept.title))
            set_tip(action, f"Given up without saving; last saved as {kept.path or 'nothing'}")
            action.triggered.connect(lambda _checked=False, kept=kept: self.filing.open_thrown_away(kept))

    def _add_tempos(self, menu: QMenu) -> None:
        under = QMenu("&Tempo", menu)
        under.addActions(tempo_actions(self.player, under))
        menu.insertMenu(menu.actions()[1], under)

    # What it does.

    def show_demo_book(self) -> None:
        """Shows the demo's made-up practice book instead of the user's own; nothing of it is kept."""
        from waltzmark.core.practice.entries import now
        from waltzmark.demo.book import PERSONS, demo_book

        form, trace = self.document.form, self.document.trace
        self.desk.practice.person = PERSONS[0]
        self.desk.practice.show_demo(lambda: demo_book(form, trace, now()))

    def begin_first_form(self) -> None:
        """A newcomer's first form, step by step, in a new document."""
        if self.filing.may_leave():
            self.document.new()
            self.show_stage("plot")
            self.plot.begin_first_form()

    def undo(self) -> None:
        """Takes back the last edit; what is not in the document yet goes first."""
        shown = self.stages.currentWidget()
        if not (isinstance(shown, Stage) and shown.take_back()):
            self.document.undo()

    def play(self) -> None:
        """Plays or pauses; before the first time ever, the cautions are shown."""
        if self.desk.settings.text("cautions", "") == "seen":
            self.player.toggle()
            return
        self.desk.settings.set_text("cautions", "seen")
        page = self._cautions()
        page.finished.connect(lambda _: self.player.toggle())
        page.open()

    def show_cautions(self) -> None:
        """The cautions, on one page."""
        self._cautions().open()

    def _cautions(self) -> QDialog:
        from waltzmark.desktop.cautions import CautionsPage  # dialogs are imported when they are first wanted

        return CautionsPage(self.document.form.school, self)

    def show_sheets(self) -> SheetsDialog:
        """The sheets that can be printed or saved, with their preview."""
        from waltzmark.desktop.sheets.dialog import SheetsDialog

        dialog = SheetsDialog(self.desk, self)
        dialog.open()
        return dialog

    def show_shortcuts(self) -> None:
        from waltzmark.desktop.shortcuts import ShortcutSheet

        ShortcutSheet(self.desk.book, self).open()

    def set_dark(self, dark: bool) -> None:
        theme = self.desk.theme = DARK if dark else LIGHT
        self.desk.settings.set_text("theme", theme.name)
        self._style(theme)
        self.answers.set_theme(theme)
        for stage in self._stages.values():
            stage.set_theme(theme)
        self.desk.book.set_theme(theme)
        self._show_playing(self.player.playing)

    def _style(self, theme: Theme) -> None:
        application = QApplication.instance()
        assert isinstance(application, QApplication)
        application.setFont(font(10.5))
        application.setPalette(theme.palette())
        application.setStyleSheet(theme.style_sheet())

    # What it tells.

    def tell_trouble(self, words: str) -> None:
        """Something went wrong inside: told once, with a way to save. The form is as it was."""
        self.notices.tell(
            f"Something went wrong inside Waltzmark ({words}). Your form is still here; it is best saved now.",
            "Save a copy …", self.filing.save_as,
        )  # fmt: skip

    def _tell_of_book(self, words: str) -> None:
        practice = self.desk.practice
        if "put it aside" in words:
            anew = lambda: self.desk.asking.attempt(practice.begin_anew)  # noqa: E731 - a button of its own
            self.notices.tell(words, "Put it aside and begin another", anew)
        else:
            self.notices.tell(words)

    def _tell_not_kept(self, reason: str) -> None:
        self.notices.tell(
            f"Unsaved changes cannot be kept beside, so a crash would lose them: {reason}", "Save …", self.filing.save
        )

    def _show_playing(self, playing: bool) -> None:
        self.desk.book.set_sign("play", "pause" if playing else "play")
        self.desk.book["play"].setText("&Pause" if playing else "&Play")

    def _name_window(self) -> None:
        document, book = self.document, self.desk.book
        self.setWindowModified(document.changed)
        place = document.path.name if document.path else "not saved yet"
        title = f"{document.title} ({place})".replace("[*]", "[*][*]")  # which would be the mark of changes
        self.setWindowTitle(f"{title}[*] - Waltzmark")
        # Undo and redo say what they would do.
        for name, words in (("undo", document.undo_words), ("redo", document.redo_words)):
            book[name].setEnabled(words is not None)
            book[name].setText(f"{book.act(name).words}: {menu_text(words)}" if words else book.act(name).words)

    # Events.

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.ActivationChange and self.isActiveWindow():
            QTimer.singleShot(0, self, self.filing.look_at_file)

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
        self.recovery.forget()
        for stage in self._stages.values():
            stage.end()
        self.document.close()
        self.desk.practice.close()
        keep_counts()
        self.closed.emit()
        event.accept()


def _stage_act(name: str, title: str, key: str, purpose: str) -> Act:
    return Act(f"stage {name}", f"{title}: {purpose}", lambda w, on: on and w.show_stage(name), (key,), on=False)
