"""How one begins in a window: through the doors, and step by step into a first form."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QObject

from waltzmark.desktop.first_form import FirstForm, Lesson

if TYPE_CHECKING:
    from waltzmark.desktop.doors import Doors
    from waltzmark.desktop.window import MainWindow

__all__ = ["Beginning"]


class Beginning(QObject):
    """card: the first form's, hidden unless one is being written; first: the stage where a form is written."""

    def __init__(self, window: MainWindow, first: str) -> None:
        super().__init__(window)
        self._window, self._first = window, first
        self.doors: Doors | None = None
        self.card = FirstForm(window.document)
        self.card.shown.connect(window.onward.keep_quiet)
        self.card.wanted.connect(self._do)
        self.card.closed.connect(self.card.hide)

    def begin(self, guided: bool) -> None:
        """A form has been begun: shows where to write, and what, if that is wanted."""
        if guided:
            self.card.begin()
        else:
            self.card.hide()
        self._window.show_stage(self._first).begin()

    def _do(self, lesson: Lesson) -> None:
        """Does a step of the first form, up to what is the user's own."""
        self._window.show_stage(lesson.stage)
        if lesson.text:
            self._window.plot.type_for(lesson.text)
        else:
            self._window.desk.book[lesson.act].trigger()

    def show_doors(self) -> None:
        """What is seen first when nothing was asked for."""
        from waltzmark.desktop.doors import Doors

        window = self._window
        doors = self.doors = Doors(window.desk.settings.recent, window.desk.theme)
        doors.chosen.connect(self._open)
        doors.opened.connect(window.filing.open_instead)
        window.document.opened.connect(self._leave)
        window.stages.addWidget(doors)
        window.stages.setCurrentWidget(doors)
        window.show_answers(False)
        doors.setFocus()

    def _open(self, name: str) -> None:
        filing = self._window.filing
        doors = {"demo": filing.open_demo, "begin": filing.new_form, "open": filing.choose_file}
        doors.get(name, self._leave)()

    def _leave(self) -> None:
        """The doors go as soon as there is something else to be seen, and do not come back."""
        if (doors := self.doors) is None:
            return
        self.doors = None
        self._window.document.opened.disconnect(self._leave)
        self._window.show_stage(self._first)
        self._window.stages.removeWidget(doors)
        doors.deleteLater()
