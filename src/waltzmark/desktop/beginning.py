"""How one begins in a window: through the doors, and step by step into a first form."""

from __future__ import annotations

from collections.abc import Callable
from functools import cached_property
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import QStackedWidget

from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.filing import Filing
from waltzmark.desktop.guard import safely

if TYPE_CHECKING:
    from waltzmark.desktop.doors import Doors
    from waltzmark.desktop.first_form import FirstForm, Lesson

__all__ = ["Beginning"]

_WRITING = "plot"  # the stage where a form is written
_WORDS = "words"  # the stage where it is drafted from words


class Beginning(QObject):
    """before_doors: the doors are going to be shown; card_made: there is a card now, which leads through a first form,
    and wants a place."""

    before_doors = Signal()
    card_made = Signal(object)

    def __init__(self, desk: Desk, filing: Filing, stages: QStackedWidget, show_stage: Callable[[str], Stage]) -> None:
        """stages: where the doors stand in place of one; show_stage: shows a stage by its name, and returns it."""
        super().__init__(stages)
        self._desk, self._filing, self._stages, self._show_stage = desk, filing, stages, show_stage
        self.doors: Doors | None = None

    @cached_property
    def card(self) -> FirstForm:
        """The first form's, hidden unless one is being written; most windows never need it."""
        from waltzmark.desktop.first_form import FirstForm

        made = FirstForm(self._desk.document)
        made.wanted.connect(safely(self._do))
        made.closed.connect(safely(made.hide))
        self.card_made.emit(made)
        return made

    def begin(self, guided: bool) -> None:
        """A form has been begun: shows where to write, and what, if that is wanted."""
        if guided:
            self.card.begin()
        elif "card" in self.__dict__:
            self.card.hide()
        self._show_stage(_WRITING).begin()

    def _do(self, lesson: Lesson) -> None:
        """Does a step of the first form, up to what is the user's own."""
        stage = self._show_stage(lesson.stage)
        if lesson.text:
            stage.begin(lesson.text)
        else:
            self._desk.book[lesson.act].trigger()

    def show_doors(self) -> None:
        """What is seen first when nothing was asked for."""
        from waltzmark.desktop.doors import Doors

        self.before_doors.emit()
        doors = self.doors = Doors(self._desk.settings.recent, self._desk.theme)
        doors.chosen.connect(safely(self._open))
        doors.opened.connect(safely(self._filing.open_instead))
        self._desk.document.opened.connect(safely(self._leave))
        self._stages.addWidget(doors)
        self._stages.setCurrentWidget(doors)
        self._desk.book.show_stage("")  # nothing is done to what stands behind them
        self._desk.book[f"stage {_WRITING}"].setChecked(False)
        doors.setFocus()

    def _open(self, name: str) -> None:
        filing = self._filing
        doors = {
            "demo": filing.open_demo,
            "begin": filing.new_form,
            "words": self._bring_words,
            "open": filing.choose_file,
        }
        doors.get(name, self._leave)()

    def _bring_words(self) -> None:
        self._leave()
        self._show_stage(_WORDS)

    def _leave(self) -> None:
        """The doors go as soon as there is something else to be seen, and do not come back."""
        if (doors := self.doors) is None:
            return
        self.doors = None
        self._desk.document.opened.disconnect(safely(self._leave))
        self._show_stage(_WRITING)
        self._stages.removeWidget(doors)
        doors.deleteLater()
