"""What opens beside a window: sheets, film, help, shortcuts, cautions. Each is imported when it is first wanted."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QDialog, QWidget

from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.theme import Theme

if TYPE_CHECKING:
    from waltzmark.core.form.form import Form
    from waltzmark.desktop.film_dialog import FilmDialog
    from waltzmark.desktop.helping import HelpWindow
    from waltzmark.desktop.sheets.dialog import SheetsDialog

__all__ = ["Dialogs"]


class Dialogs:
    """The dialogs of a window."""

    def __init__(self, desk: Desk, window: QWidget) -> None:
        self.desk, self._window = desk, window
        self._help: HelpWindow | None = None
        self._film: FilmDialog | None = None

    def cautions(self) -> QDialog:
        """The cautions, on one page."""
        from waltzmark.desktop.cautions import CautionsPage

        page = CautionsPage(self.desk.document.form.school, self._window)
        page.open()
        return page

    def careful(self, then: Callable[[], object]) -> None:
        """Does something that one walks along with; the first time ever once the cautions have been read."""
        settings = self.desk.settings
        if settings.text("cautions", "") == "seen":
            then()
            return
        settings.set_text("cautions", "seen")
        self.cautions().finished.connect(safely(lambda _: then()))

    def film(self) -> FilmDialog:
        """What is filmed, with a picture of it."""
        from waltzmark.desktop.film_dialog import FilmDialog

        if self._film is None:
            self._film = FilmDialog(self.desk, self._window)
            self._film.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
            self._film.finished.connect(safely(self._let_film_go))
        self._film.show()
        self._film.raise_()
        self._film.activateWindow()
        return self._film

    def _let_film_go(self) -> None:
        self._film = None

    def sheets(self, form: Form | None = None, kind: str = "") -> SheetsDialog:
        """The sheets that can be printed or saved, with their preview. form: another one than the document's; kind: the
        sheet that is shown first."""
        from waltzmark.desktop.sheets.dialog import SheetsDialog

        dialog = SheetsDialog(self.desk, self._window, form, kind)
        dialog.open()
        return dialog

    def help(self, topic: str) -> HelpWindow:
        """Help on a topic."""
        from waltzmark.desktop.helping import HelpWindow

        if self._help is None:
            self._help = HelpWindow(self.desk.theme, self._window)
        self._help.show_topic(topic)
        return self._help

    def shortcuts(self) -> None:
        """The keys of every stage."""
        from waltzmark.desktop.shortcuts import ShortcutSheet

        sheet = ShortcutSheet(self.desk.book, self._window)
        sheet.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        sheet.open()

    def set_theme(self, theme: Theme) -> None:
        if self._help is not None:
            self._help.set_theme(theme)
