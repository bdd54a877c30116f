"""The Room stage: one plan of the room, and four faces on it."""

from __future__ import annotations

from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QStackedWidget, QVBoxLayout, QWidget

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import Progress
from waltzmark.core.edit.rooms import made_room
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.disk import file_name
from waltzmark.desktop.faced import FacedStage
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import Label, faint
from waltzmark.desktop.room.grouping import GroupFace
from waltzmark.desktop.room.place import PlaceFace
from waltzmark.desktop.room.plan import RoomPlan
from waltzmark.desktop.room.search import RoomSearch
from waltzmark.desktop.room.taping import TapeFace
from waltzmark.desktop.room.walls_face import MakingFace
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.parts import push_button
from waltzmark.desktop.workers import TooMuchError
from waltzmark.files import library
from waltzmark.files.saving import save_atomically
from waltzmark.words.errors import explained
from waltzmark.words.language import tr
from waltzmark.words.sentences import sentence

if TYPE_CHECKING:
    from waltzmark.files.plans import Plan

__all__ = ["RoomStage"]

_PANEL = 344  # pixels
_DXF = tr("Drawings (*.dxf);;All files (*)")


@guarded
class RoomStage(FacedStage):
    """Plan at the left, the face's panel at the right; playhead and weight below."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        document, theme = desk.document, desk.theme
        self._document = document
        self.search = RoomSearch(desk, self)
        self.plan = RoomPlan(document, theme)
        self.place = PlaceFace(desk, self.search)
        self.making = MakingFace(desk, self.search)
        self.tape = TapeFace(desk, self.search)
        self.group = GroupFace(desk, self.search)
        faces = {"place": self.place, "room": self.making, "tape": self.tape, "class": self.group}
        for face in faces.values():
            face.drawn.connect(safely(self.plan.update))
        self.pages = QStackedWidget(self)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(self.pages)
        full = QWidget(self.pages)
        self.pages.addWidget(full)
        for part in (self.pictures, self.side):  # while there is nothing in them that would be styled anew
            part.setParent(full)
        full.setLayout(self.lay_out(faces, dict.fromkeys(faces, self.plan), ["tightest", "room whole"], _PANEL))
        self.pages.addWidget(self._no_room())
        document.form_changed.connect(safely(self._changed))
        document.session.figures_changed.connect(safely(self._refresh))
        self.show_face("place")
        self.setFocusProxy(self.plan)

    def _no_room(self) -> QWidget:
        """What is shown where there is no room yet: three ways to one."""
        page = QWidget()
        column = QVBoxLayout(page)
        column.setAlignment(Qt.AlignmentFlag.AlignCenter)
        column.setSpacing(12)
        title = Label(tr("No room yet"))
        title.setFont(font(15.0, bold=True))
        words = faint(tr("Describe the floor you will walk on, and see where to stand."))
        column.addWidget(title, 0, Qt.AlignmentFlag.AlignHCenter)
        column.addWidget(words, 0, Qt.AlignmentFlag.AlignHCenter)
        self.make = push_button(tr("Start with a room of 5 × 4 m"), self.new_room)
        plan = push_button(tr("Import a plan (DXF) …"), self.import_plan)
        column.addWidget(self.make, 0, Qt.AlignmentFlag.AlignHCenter)
        column.addWidget(plan, 0, Qt.AlignmentFlag.AlignHCenter)
        self._kept = QVBoxLayout()
        column.addLayout(self._kept)
        return page

    # What is shown.

    def show_face(self, name: str) -> None:
        """Shows a face: place, room, tape or class."""
        self.plan.face = self.faces[name]
        super().show_face(name)
        self.face.shown_now()
        self.plan.update()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)
        self.face.shown_now()

    def _refresh(self) -> None:
        """Shows the document as it is; nothing is worked out while the stage is not seen."""
        if not self.isVisible():
            return
        none = self._document.form.room is None
        if self.pages.currentIndex() != int(none):
            within = self.focusWidget()
            held = self.hasFocus() or (within is not None and within.hasFocus())
            self.pages.setCurrentIndex(int(none))
            self.setFocusProxy(self.make if none else self.plan)  # else the keys go to what is not seen
            if held:
                self.setFocus()
        if none:
            self._show_kept()
            self.search.forget()
            return
        if self.face is self.place:
            self.search.look()  # what was known of another form is forgotten before anything is shown of it
        self.face.refresh()

    def _show_kept(self) -> None:
        while (item := self._kept.takeAt(0)) is not None:
            if (widget := item.widget()) is not None:
                widget.deleteLater()
        for room in library.rooms()[:6]:
            use = partial(self.desk.editor.set_room, room, tr("use the room {name}", name=room.name))
            button = push_button(tr("Use: {name}", name=room.name).replace("&", "&&"), use)
            self._kept.addWidget(button, 0, Qt.AlignmentFlag.AlignHCenter)

    def set_theme(self, theme: Theme) -> None:
        self.plan.set_theme(theme)
        self.ribbon.set_theme(theme)

    # What can be done.

    def nudge(self, dx: float, dy: float, turn: float) -> None:
        """Moves the start, or the chosen part of the room, by keys."""
        if self._document.form.room is not None:
            (self.making if self.face is self.making else self.place).nudge(dx, dy, turn)

    def go_to_tightest(self) -> None:
        """Goes to the count that matters most in the face that is shown."""
        (self.group if self.face is self.group else self.place).go_to_tightest()

    def put(self, kind: str) -> None:
        """Puts something new into the room."""
        if self._document.form.room is not None:
            self.show_face("room")
            self.making.put(kind)

    def take_out(self) -> None:
        """Takes the chosen part out of the room."""
        if self.face is self.making and self._document.form.room is not None:
            self.making.take_out()

    def new_room(self) -> None:
        """A new room to be measured, in place of the one there is."""
        self.desk.editor.set_room(made_room("", 5.0, 4.0), tr("make a room"))
        self.show_face("room")
        self.plan.fit()
        self.plan.setFocus()

    def import_plan(self) -> None:
        """Takes the room of a drawing that is asked for."""
        if path := self.desk.files.to_open(tr("Import a plan"), _DXF):
            self.take_plan(path)

    def take_plan(self, path: Path) -> None:
        """Takes the room of a drawing, which is read in a process of its own; what was not used of it, or why it cannot
        be read, is told."""
        self.desk.jobs.ask(
            "room plan",
            partial(_read_plan, path),
            partial(self._take_plan, path.name),
            strange=True,
            failed=lambda error: self.desk.asking.tell(tr("This plan cannot be read"), _why(path.name, error)),
        )

    def _take_plan(self, name: str, plan: Plan) -> None:
        self.desk.editor.set_room(plan.room, tr("import the plan {name}", name=name))
        self.show_face("room")
        self.plan.fit()
        if plan.notes:
            self.desk.asking.tell(tr("Parts of the plan were not used"), "\n".join(map(sentence, plan.notes)))

    def export_plan(self) -> None:
        """Writes the room as a drawing to a file that is asked for."""
        room = self._document.form.room
        if room is None:
            self.desk.asking.tell(tr("Nothing to export"), tr("There is no room yet."))
            return
        from waltzmark.files.plans import plan_text

        named = file_name(room.name or tr("room"))
        if path := self.desk.files.to_save(tr("Export the plan"), f"{named}.dxf", _DXF):
            self.desk.asking.attempt(lambda: save_atomically(path, plan_text(room)))


def _read_plan(path: Path, told: Progress) -> Plan:
    from waltzmark.files.plans import read_plan

    told.tell(0.0)
    return read_plan(path)


def _why(name: str, error: BaseException) -> str:
    if isinstance(error, MemoryError | TooMuchError):
        return tr(
            "{name} takes too much time or memory to read. Keep only the outlines of the room and save it again.",
            name=name,
        )
    return explained(error) if isinstance(error, WaltzmarkError) else f"{name}: {type(error).__name__}: {error}"
