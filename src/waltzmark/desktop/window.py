"""The main window: one document, its menus, and the stage that fills it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QEvent, Qt, QTimer, Signal
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QApplication, QDialog, QFileDialog, QMainWindow, QMessageBox, QStackedWidget, QWidget

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.demo import demo_text
from waltzmark.desktop.actions import Actions
from waltzmark.desktop.choices import Choices
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.player import Player
from waltzmark.desktop.plot.findings import summary
from waltzmark.desktop.plot.stage import PlotStage
from waltzmark.desktop.recovery import Recovery, left_behind
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.theme import DARK, LIGHT, Theme, font
from waltzmark.desktop.windows import open_window

if TYPE_CHECKING:
    from waltzmark.desktop.ready.stage import ReadyStage

__all__ = ["MainWindow"]

_FILTER = "Waltzmark forms (*.waltz);;All files (*)"


class MainWindow(QMainWindow):
    """One window on one document."""

    closed = Signal()
    plot: PlotStage

    def __init__(self, settings: Settings | None = None, theme: Theme | None = None) -> None:
        super().__init__()
        self.settings = settings or Settings()
        self.theme = theme or (DARK if self.settings.text("theme", "light") == "dark" else LIGHT)
        self._style(self.theme)
        self.document = Document(self)
        self.player = Player(self.document, self)
        self.recovery = Recovery(self.document, self)
        self.editor = Editor(self.document)
        self.choices = Choices(self)
        self.actions_ = Actions(self)
        self.plot = PlotStage(
            self.document, self.editor, self.theme, self.actions_.walking, self.actions_.tempos, self.actions_.looking
        )
        self._ready: ReadyStage | None = None
        self.stages = QStackedWidget()
        self.stages.addWidget(self.plot)
        self.setCentralWidget(self.stages)
        self.actions_.build_menus(self)
        self.actions_.editing.add_context_menu(self.actions_)
        self.setAcceptDrops(True)
        self.setMinimumSize(900, 600)
        self.resize(1280, 800)
        if self.settings.geometry is not None:
            self.restoreGeometry(self.settings.geometry)
        self.document.file_changed.connect(self._name_window)
        self.document.form_changed.connect(self._say_findings)
        self.document.figures_changed.connect(self._say_findings)
        self.player.playing_changed.connect(self.actions_.show_playing)
        self._name_window()
        self._say_findings()
        self.plot.score.setFocus()

    # Files.

    def open_path(self, path: Path) -> bool:
        """Opens a file; what cannot be read is told, and the open document stays."""
        try:
            notices = self.document.open_file(path)
        except WaltzmarkError as error:
            self.tell("This form cannot be opened", str(error))
            return False
        self.settings.remember(path)
        if notices:
            words = f"{path.name}: " + "; ".join(str(notice) for notice in notices)
            QTimer.singleShot(0, self, lambda: self.tell("Some of this file was not understood", words))
        return True

    def open_demo(self) -> None:
        """Opens the demo form as a new document, so that saving asks for a place."""
        if self.may_leave():
            self.document.open_text(demo_text())

    def offer_recovery(self) -> bool:
        """Asks about what a crash left behind, a window for each; returns whether any was opened."""
        window, opened = self, False
        for found in left_behind():
            buttons = QMessageBox.StandardButton
            where = f"It was last saved as {found.path}." if found.path else "It was never saved."
            answer = QMessageBox.question(
                self, "Go on where it stopped?",
                f"Waltzmark did not end well. The changes to “{found.title}” were kept. {where}\n\nOpen them? "
                "They stay as they are until you save them; with No they are thrown away.",
                buttons.Yes | buttons.No | buttons.Cancel, buttons.Yes,
            )  # fmt: skip
            if answer == buttons.Cancel:
                break
            if answer == buttons.No:
                found.forget()
                continue
            if opened:  # one window each
                window = open_window(self.settings)
            try:
                window.document.recover(found.text, found.sheet, found.path)
            except WaltzmarkError as error:
                self.tell("The changes cannot be read", f"{error}\nThey stay in {found.file}.")
                continue
            window.recovery.keep_now()  # kept under this window's name before the old file goes
            found.forget()
            opened = True
        return opened

    def choose_file(self) -> None:
        if not self.may_leave():
            return
        folder = str(self.document.path.parent) if self.document.path else ""
        name, _ = QFileDialog.getOpenFileName(self, "Open a form", folder, _FILTER)
        if name:
            self.open_path(Path(name))

    def open_recent(self, path: Path) -> None:
        if self.may_leave():
            self.open_path(path)

    def new_form(self) -> None:
        """Begins another form, as chosen."""
        if not self.may_leave():
            return
        from waltzmark.desktop.new_form import NewForm  # dialogs are imported when they are first wanted

        asked = NewForm(self.theme, self)
        if asked.exec() == NewForm.DialogCode.Accepted:
            self.document.new(asked.form())
            self.plot.entry.field.setFocus()

    def begin_first_form(self) -> None:
        """A newcomer's first form, step by step, in a new document."""
        if self.may_leave():
            self.document.new()
            self.actions_.text.setChecked(False)
            self.plot.first_form.begin()
            self.plot.entry.field.setFocus()

    def save(self) -> bool:
        """Saves to the document's own file, or asks for one."""
        return self.save_to(self.document.path) if self.document.path else self.save_as()

    def save_as(self) -> bool:
        start = self.document.path or Path(f"{self.document.title}.waltz")
        name, _ = QFileDialog.getSaveFileName(self, "Save the form", str(start), _FILTER)
        if not name:
            return False
        path = Path(name)
        return self.save_to(path if path.suffix else path.with_suffix(".waltz"))

    def save_to(self, path: Path) -> bool:
        """Saves; a failure is told with its reason, the document stays as it is."""
        try:
            self.document.save(path)
        except WaltzmarkError as error:
            return self._save_elsewhere(str(error))
        self.settings.remember(path)
        return True

    def _save_elsewhere(self, reason: str) -> bool:
        """Tells why the form was not saved, and offers another place; it stays as it is, and changed."""
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self, "The form was not saved", f"{reason}\n\nThe form is still here as it was. Save it somewhere else?",
            buttons.Save | buttons.Cancel, buttons.Save,
        )  # fmt: skip
        return answer == buttons.Save and self.save_as()

    def look_at_file(self) -> None:
        """Notices when another program has changed the file, and offers to read it anew."""
        document = self.document
        if document.path is None or not document.changed_on_disk():
            return
        document.note_disk()  # asked once for each change
        buttons = QMessageBox.StandardButton
        lost = " Your own changes since the last save would be lost." if document.changed else ""
        answer = QMessageBox.question(
            self, "The file has changed", f"Another program has changed {document.path.name}. Read it anew?{lost}",
            buttons.Yes | buttons.No, buttons.No,
        )  # fmt: skip
        if answer == buttons.Yes:
            self.open_path(document.path)

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.ActivationChange and self.isActiveWindow():
            QTimer.singleShot(0, self, self.look_at_file)

    def may_leave(self) -> bool:
        """Whether the document may be left: asks when it has changes that are not saved."""
        if not self.document.changed:
            return True
        buttons = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self, "Save the changes?", f"{self.document.title} has changes that are not saved.",
            buttons.Save | buttons.Discard | buttons.Cancel, buttons.Save,
        )  # fmt: skip
        if answer == buttons.Save:
            return self.save()
        return answer == buttons.Discard

    def tell(self, heading: str, words: str) -> None:
        """Tells of something that went wrong, where and what to do."""
        box = QMessageBox(QMessageBox.Icon.NoIcon, heading, f"<b>{heading}</b>", QMessageBox.StandardButton.Ok, self)
        box.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        box.setStyleSheet("QLabel#qt_msgbox_informativelabel { min-width: 480px; }")
        lines = words.splitlines()
        box.setInformativeText("\n".join(lines[:12] + ([f"… and {len(lines) - 12} more"] if len(lines) > 12 else [])))
        box.open()

    def attempt(self, edit: Callable[[], object]) -> None:
        """Does an edit, or tells why it cannot be done."""
        try:
            edit()
        except WaltzmarkError as error:
            words = str(error)
            self.tell("That cannot be done", f"{words[:1].upper()}{words[1:]}.")

    # Walking and looking.

    def step(self, by: int) -> None:
        """Goes to the end of the next or the previous count."""
        self.player.pause()
        position = self.document.position
        whole = abs(position - round(position)) < 1e-9
        if by < 0:
            target = position - 1 if whole else float(int(position))
        else:
            target = position + 1 if whole else float(int(position) + 1)
        self.document.go(round(target))

    def step_posture(self, by: int) -> None:
        """Goes to the beginning of the next posture, or of this one and then the one before."""
        self.player.pause()
        starts = [int(s) for s in self.document.trace.starts[:-1]]
        row = self.document.row
        later, before = [s for s in starts if s > row], [s for s in starts if s < row]
        if by > 0 and later:
            self.document.go(later[0])
        elif by < 0 and before:
            self.document.go(before[-1])

    def go_to_end(self, last: bool) -> None:
        self.player.pause()
        self.document.go(float(len(self.document.trace) - 1) if last else 0.0)

    def set_dark(self, dark: bool) -> None:
        self.theme = DARK if dark else LIGHT
        self.settings.set_text("theme", self.theme.name)
        self._style(self.theme)
        self.plot.set_theme(self.theme)
        if self._ready is not None:
            self._ready.set_theme(self.theme)
        self.actions_.set_theme(self.theme)

    def _style(self, theme: Theme) -> None:
        application = QApplication.instance()
        assert isinstance(application, QApplication)
        application.setFont(font(10.5))
        application.setPalette(theme.palette())
        application.setStyleSheet(theme.style_sheet())

    @property
    def ready(self) -> ReadyStage:
        """The Ready stage, made when it is first wanted."""
        if self._ready is None:
            # Imported here: the window opens on the plot, and need not wait for this.
            from waltzmark.desktop.ready.stage import ReadyStage

            self._ready = ReadyStage(self.document, self.editor, self.theme, self.tell)
            self.stages.addWidget(self._ready)
        return self._ready

    def show_stage(self, stage: QWidget) -> None:
        """Fills the window with a stage."""
        self.stages.setCurrentWidget(stage)
        self.actions_.show_stage(1 if stage is self.plot else 0)

    def show_cautions(self) -> None:
        """The cautions, on one page."""
        self._cautions().open()

    def _cautions(self) -> QDialog:
        from waltzmark.desktop.cautions import CautionsPage

        return CautionsPage(self.document.form.school, self)

    def play(self) -> None:
        """Plays or pauses; before the first time ever, the cautions are shown."""
        if self.settings.text("cautions", "") == "seen":
            self.player.toggle()
            return
        self.settings.set_text("cautions", "seen")
        page = self._cautions()
        page.finished.connect(lambda _: self.player.toggle())
        page.open()

    def show_shortcuts(self) -> None:
        from waltzmark.desktop.shortcuts import ShortcutSheet

        ShortcutSheet(self.actions_, self).open()

    def step_finding(self, by: int) -> None:
        """Opens the findings and goes to the next one."""
        self.actions_.findings.setChecked(True)
        self.plot.findings.step(by)

    def undo(self) -> None:
        """Takes back the last edit; a text that could not be taken over goes first."""
        if not self.plot.text.text.drop_held():
            self.document.undo()

    def begin_search(self) -> None:
        """Opens find and replace."""
        self.plot.search.show()
        self.plot.search.begin()

    def _say_findings(self) -> None:
        self.actions_.findings.setText(f"&Findings: {summary(self.document)}")
        self.actions_.findings.setIconText(summary(self.document))

    def _name_window(self) -> None:
        self.setWindowModified(self.document.changed)
        place = self.document.path.name if self.document.path else "not saved yet"
        self.setWindowTitle(f"{self.document.title} ({place})[*] - Waltzmark")
        self.actions_.show_undo(self.document)

    # Events.

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if any(url.isLocalFile() for url in event.mimeData().urls()):
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        paths = [Path(url.toLocalFile()) for url in event.mimeData().urls() if url.isLocalFile()]
        if paths:
            self.open_recent(paths[0])

    def closeEvent(self, event: QCloseEvent) -> None:
        if self.may_leave():
            self.player.pause()
            self.settings.geometry = self.saveGeometry()
            self.recovery.forget()
            self.document.close()
            self.closed.emit()
            event.accept()
        else:
            event.ignore()
