"""The main window: one document, its menus, and the stage that fills it."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QCloseEvent, QDragEnterEvent, QDropEvent
from PySide6.QtWidgets import QApplication, QFileDialog, QMainWindow, QMessageBox

from waltzmark.core.errors import WaltzmarkError
from waltzmark.demo import demo_text
from waltzmark.desktop.actions import Actions
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.player import Player
from waltzmark.desktop.plot.findings import summary
from waltzmark.desktop.plot.stage import PlotStage
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.shortcuts import ShortcutSheet
from waltzmark.desktop.theme import DARK, LIGHT, Theme, font

__all__ = ["MainWindow"]

_FILTER = "Waltzmark forms (*.waltz);;All files (*)"


class MainWindow(QMainWindow):
    """One window on one document."""

    plot: PlotStage

    def __init__(self, settings: Settings | None = None, theme: Theme | None = None) -> None:
        super().__init__()
        self.settings = settings or Settings()
        self.theme = theme or (DARK if self.settings.text("theme", "light") == "dark" else LIGHT)
        self._style(self.theme)
        self.document = Document(self)
        self.player = Player(self.document, self)
        self.editor = Editor(self.document)
        self.actions_ = Actions(self)
        self.plot = PlotStage(
            self.document, self.editor, self.theme, self.actions_.walking, self.actions_.tempos, self.actions_.looking
        )
        self.setCentralWidget(self.plot)
        self.actions_.build_menus(self)
        self.actions_.editing.add_context_menu(self.actions_)
        self.setAcceptDrops(True)
        self.setMinimumSize(900, 600)
        self.resize(1280, 800)
        if self.settings.geometry is not None:
            self.restoreGeometry(self.settings.geometry)
        self.document.file_changed.connect(self._name_window)
        self.document.form_changed.connect(self._say_findings)
        self.document.reviewed.connect(self._say_findings)
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
        if self.may_leave():
            self.document.new()
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
            self.tell("The form was not saved", str(error))
            return False
        self.settings.remember(path)
        return True

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
        self.actions_.set_theme(self.theme)

    def _style(self, theme: Theme) -> None:
        application = QApplication.instance()
        assert isinstance(application, QApplication)
        application.setFont(font(10.5))
        application.setPalette(theme.palette())
        application.setStyleSheet(theme.style_sheet())

    def show_shortcuts(self) -> None:
        ShortcutSheet(self.actions_, self).open()

    def step_finding(self, by: int) -> None:
        """Opens the findings and goes to the next one."""
        self.actions_.findings.setChecked(True)
        self.plot.findings.step(by)

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
            self.document.close()
            event.accept()
        else:
            event.ignore()
