"""What every stage works with: the document, its editor, who plays it, who asks, who works off the interface thread."""

from __future__ import annotations

from collections.abc import Callable

import msgspec
from PySide6.QtWidgets import QWidget

from waltzmark.core.form.form import Form
from waltzmark.desktop.actions import Book
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.choosing import Files
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.jobs import Jobs
from waltzmark.desktop.logbook import Logbook
from waltzmark.desktop.player import Player
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.theme import Theme

__all__ = ["Desk", "Stage"]


class Desk(msgspec.Struct, eq=False):
    """One window's own; stages talk to each other through nothing else. theme: that of the window now; begin_beside:
    opens a form, made as some words say, in a window beside; leaving: is told before another face is shown; careful:
    does something, the first time ever after the cautions; shown_in: where stages are; show_sheet: shows a sheet of a
    kind, of the document or of another form."""

    document: Document
    editor: Editor
    player: Player
    settings: Settings
    asking: Asking
    jobs: Jobs
    book: Book
    files: Files
    theme: Theme
    practice: Logbook
    begin_beside: Callable[[Form, str], object] = lambda _form, _words: None
    leaving: Callable[[], object] = lambda: None
    careful: Callable[[Callable[[], object]], None] = lambda then: then()  # type: ignore[assignment]
    shown_in: QWidget | None = None
    show_sheet: Callable[[Form | None, str], object] = lambda _form, _kind: None


class Stage(QWidget):
    """A stage fills the window. What it may be asked for, whichever it is, has an answer here."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk.shown_in)  # what is put there when it is whole would be styled once more, with all in it
        self.desk = desk

    def set_theme(self, theme: Theme) -> None:
        """Draws everything in another theme."""

    def take_back(self) -> bool:
        """Takes back what is not in the document yet, before undo does; whether there was something."""
        return False

    @property
    def face_name(self) -> str:
        """The face that is shown; empty where the stage has none."""
        return ""

    def show_face(self, name: str) -> None:
        """Shows a face by its name."""

    def show_matter(self) -> None:
        """Shows what decides the answer that the stage is about."""

    def begin(self, text: str = "") -> None:
        """A form is to be written here: shows where. text: what is put there, for the user to enter."""

    def end(self) -> None:
        """The window closes: what was started outside it is ended."""
