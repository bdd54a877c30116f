"""The actions that change the form: what each asks for, and what it does."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtGui import QAction
from PySide6.QtWidgets import QApplication, QInputDialog, QLineEdit, QPlainTextEdit

from waltzmark.core.base.angles import clock_text
from waltzmark.core.base.errors import FormError, shown
from waltzmark.core.score.facings import Facing
from waltzmark.core.score.read import read_count, read_facing
from waltzmark.core.score.write import write_aim

if TYPE_CHECKING:
    from waltzmark.desktop.actions import Actions
    from waltzmark.desktop.window import MainWindow

__all__ = ["EditingActions"]


class EditingActions:
    """Makes the Edit and Posture menus' actions for a window."""

    def __init__(self, window: MainWindow, make: Callable[..., QAction]) -> None:
        self._window = window
        editor = window.editor

        def action(text: str, keys: str, run: Callable[[], object]) -> QAction:
            return make(text, keys, lambda: window.attempt(run))

        self.change = action("&Change the count", "F2", lambda: window.plot.entry.change_selected())
        self.hold = action("Ne&w count", "Ins", lambda: editor.insert([read_count("hold")]))
        self.cut = action("Cu&t counts", "Ctrl+X", self._cut)
        self.copy = action("&Copy counts", "Ctrl+C", self._copy)
        self.paste = action("&Paste counts", "Ctrl+V", self._paste)
        self.delete = action("&Delete counts", "Del", lambda: editor.remove())
        self.duplicate = action("Du&plicate counts", "Ctrl+Shift+D", lambda: editor.duplicate())
        self.up = action("Move counts &up", "Alt+Up", lambda: editor.move(-1))
        self.down = action("Move counts do&wn", "Alt+Down", lambda: editor.move(1))
        self.beats = action("&Beats …", "Ctrl+B", self._beats)
        self.add = action("&New posture …", "Ctrl+Shift+N", self._add)
        self.rename = action("&Rename …", "Shift+F2", self._rename)
        self.ends = action("&Facing it ends in …", "", self._ends)
        self.note = action("No&te …", "", self._note)
        self.posture_up = action("Move posture &up", "Ctrl+Shift+Up", lambda: editor.move_posture(-1))
        self.posture_down = action("Move posture do&wn", "Ctrl+Shift+Down", lambda: editor.move_posture(1))
        self.posture_duplicate = action("D&uplicate posture", "", lambda: editor.duplicate_posture())
        self.split = action("&Split before this count", "", lambda: editor.split_posture())
        self.join = action("&Join with the next", "", lambda: editor.join_posture())
        self.other_side = action("Make the &other side …", "Ctrl+M", self._other_side)
        self.repeat = action("Re&peat it …", "Ctrl+R", self._repeat)
        self.axis = action("Mirror &line or turn …", "", self._way)
        self.side = action("It is the other side o&f …", "", self._side)
        self.detach = action("Give it counts of its o&wn", "", lambda: editor.detach())
        self.posture_delete = action("&Delete posture", "Ctrl+Shift+Del", lambda: editor.delete_posture())
        self.lines: list[QAction | None] = [
            self.change, self.hold, None, self.cut, self.copy, self.paste, self.delete, self.duplicate, None,
            self.up, self.down, self.beats,
        ]  # fmt: skip
        self.postures: list[QAction | None] = [
            self.add, self.rename, self.ends, self.note, None, self.other_side, self.repeat, self.axis, self.side,
            self.detach, None, self.split, self.join, self.posture_duplicate, self.posture_up, self.posture_down, None,
            self.posture_delete,
        ]  # fmt: skip

    def add_context_menu(self, actions: Actions) -> None:
        """Gives the score a menu of these actions."""
        actions.context_menu(self._window.plot.score, [*self.lines, None, *self.postures])

    # The clipboard holds score text, so that counts go to and from any editor. In the entry line the keys are its own.

    def _field(self) -> QLineEdit | QPlainTextEdit | None:
        focused = QApplication.focusWidget()
        return focused if isinstance(focused, QLineEdit | QPlainTextEdit) else None

    def _copy(self) -> None:
        if field := self._field():
            field.copy()
        elif text := self._window.editor.copied():
            QApplication.clipboard().setText(text + "\n")

    def _cut(self) -> None:
        if field := self._field():
            field.cut()
        else:
            text = self._window.editor.copied()
            self._window.editor.remove("cut")
            QApplication.clipboard().setText(text + "\n")

    def _paste(self) -> None:
        text = QApplication.clipboard().text()
        field = self._field()
        if isinstance(field, QPlainTextEdit) or (field is not None and "\n" not in text.strip()):
            field.paste()
        else:
            self._window.plot.entry.paste(text)

    # Actions that ask for something first.

    def _asked(self, title: str, label: str, text: str = "") -> str | None:
        answer, fine = QInputDialog.getText(self._window, title, label, QLineEdit.EchoMode.Normal, text)
        return answer.strip() if fine else None

    def _facing(self, title: str, label: str, text: str, empty: bool = False) -> tuple[bool, Facing | None]:
        """Whether a facing was given, and which; None for an *empty* answer where that is allowed."""
        answer = self._asked(title, label, text)
        if answer is None:
            return False, None
        if not answer and empty:
            return True, None
        facing = read_facing(answer)
        if facing is None:
            raise FormError(f"{shown(answer)} is no facing, such as 9, 1:30, ~3 or NE")
        return True, facing

    def _beats(self) -> None:
        lines = self._window.editor.selected_lines()
        now = lines[0].beats if lines else 1.0
        beats, fine = QInputDialog.getDouble(
            self._window, "Beats", "How many beats should it last?", now, 0.1, 1000.0, 1
        )
        if fine:
            self._window.editor.set_beats(beats)

    def _add(self) -> None:
        number = len(self._window.document.form.postures) + 1
        if name := self._asked("New posture", "What is it called?", f"Posture {number}"):
            self._window.editor.add_posture(name)
            self._window.plot.entry.field.setFocus()

    def _rename(self) -> None:
        if name := self._asked("Rename the posture", "What is it called?", self._window.editor.posture.title):
            self._window.editor.rename_posture(name)

    def _ends(self) -> None:
        ends = self._window.editor.posture.ends
        now = write_aim(ends) if ends else ""
        given, facing = self._facing(
            "Facing it ends in", "Which way should the torso face at its end? Empty to leave it open.", now, empty=True
        )
        if given:
            self._window.editor.set_end(facing)

    def _note(self) -> None:
        note = self._asked("Note", "What is to be noted of it?", self._window.editor.posture.note or "")
        if note is not None:
            self._window.editor.set_note(note)

    def _other_side(self) -> None:
        posture = self._window.editor.posture
        trace = self._window.document.trace
        row = trace.span(posture.id)[1] - 1
        now = clock_text(float(trace.torso[max(row, 0)]))
        given, axis = self._facing(
            "The other side", "About a line facing which way? Left and right change places.", now
        )
        if given and axis is not None:
            self._window.editor.other_side(axis)

    def _way(self) -> None:
        """Another mirror line, or another turn, for a posture that takes its counts from one."""
        posture = self._window.editor.posture
        if posture.mirror_of:
            now = write_aim(posture.axis) if posture.axis else ""
            given, axis = self._facing("The mirror line", "Which way does the line face?", now)
            if given and axis is not None:
                self._window.editor.set_axis(axis)
        elif posture.repeat_of:
            turned, fine = QInputDialog.getDouble(
                self._window, "The turn", "Turned by how many degrees, clockwise?", posture.turned, -360.0, 360.0, 1
            )
            if fine:
                self._window.editor.set_turn(round(turned * 2) / 2)
        else:
            raise FormError(f"{posture.title} has counts of its own: it has no mirror line and no turn")

    def _side(self) -> None:
        """Says of which posture this one, with counts of its own, is the other side."""
        posture = self._window.editor.posture
        if posture.source is not None:
            raise FormError(f"{posture.title} takes its counts from another posture already")
        others = [p for p in self._window.document.form.postures if p.id != posture.id]
        names = ["none", *(f"{n}  {p.title}" for n, p in enumerate(others, 1))]
        now = next((n for n, p in enumerate(others, 1) if p.id == posture.side_of), 0)
        chosen, fine = QInputDialog.getItem(
            self._window, "The other side", "Of which posture is it the other side, to be compared?", names, now, False
        )
        if fine:
            at = names.index(chosen)
            self._window.editor.set_side(others[at - 1].id if at else None)

    def _repeat(self) -> None:
        _ = self._window.editor.posture  # says so when none is selected
        label = "Turned by how many degrees, clockwise?"
        turned, fine = QInputDialog.getDouble(self._window, "Repeat the posture", label, 0.0, -360.0, 360.0, 1)
        if fine:
            self._window.editor.repeat(round(turned * 2) / 2)
