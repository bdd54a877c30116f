"""What the Edit and Posture menus do: what each asks for, and what it does with the answer."""

from __future__ import annotations

from PySide6.QtWidgets import QApplication, QLineEdit, QPlainTextEdit

from waltzmark.core.base.angles import clock_text
from waltzmark.core.base.errors import FormError, quoted
from waltzmark.core.score.facings import Facing
from waltzmark.core.score.read import read_count, read_facing
from waltzmark.core.score.write import write_aim
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.plot.entry import EntryLine
from waltzmark.words.language import tr

__all__ = ["EditCommands"]


class EditCommands:
    """Edits where something is selected. Everything here raises FormError where it cannot be done."""

    def __init__(self, desk: Desk, entry: EntryLine) -> None:
        self._document, self.editor, self._asking, self._entry = desk.document, desk.editor, desk.asking, entry

    def new_count(self) -> None:
        """Puts in a count in which nothing moves, for the hand to fill."""
        self.editor.insert([read_count("hold")])

    # The clipboard holds score text, so that counts go to and from any editor. In the entry line the keys are its own.

    def _field(self) -> QLineEdit | QPlainTextEdit | None:
        focused = QApplication.focusWidget()
        return focused if isinstance(focused, QLineEdit | QPlainTextEdit) else None

    def copy(self) -> None:
        if field := self._field():
            field.copy()
        elif text := self.editor.copied():
            QApplication.clipboard().setText(text + "\n")

    def cut(self) -> None:
        if field := self._field():
            field.cut()
        else:
            text = self.editor.copied()
            self.editor.remove("cut")
            QApplication.clipboard().setText(text + "\n")

    def paste(self) -> None:
        text = QApplication.clipboard().text()
        field = self._field()
        if isinstance(field, QPlainTextEdit) or (field is not None and "\n" not in text.strip()):
            field.paste()
        else:
            self._entry.paste(text)

    # Actions that ask for something first.

    def _facing(self, title: str, label: str, text: str, empty: bool = False) -> tuple[bool, Facing | None]:
        """Whether a facing was given, and which; None for an *empty* answer where that is allowed."""
        answer = self._asking.text(title, label, text)
        if answer is None:
            return False, None
        if not answer and empty:
            return True, None
        facing = read_facing(answer)
        if facing is None:
            raise FormError("score.no-facing", value=quoted(answer))
        return True, facing

    def beats(self) -> None:
        lines = self.editor.selected_lines()
        now = lines[0].beats if lines else 1.0
        beats = self._asking.number(tr("Beats"), tr("How many beats should it last?"), now, 0.1, 1000.0)
        if beats is not None:
            self.editor.set_beats(beats)

    def add(self) -> None:
        number = len(self._document.form.postures) + 1
        if name := self._asking.text(
            tr("New posture"), tr("Name of the posture:"), tr("Posture {number}", number=number)
        ):
            self.editor.add_posture(name)
            self._entry.field.setFocus()

    def rename(self) -> None:
        if name := self._asking.text(tr("Rename the posture"), tr("Name of the posture:"), self.editor.posture.title):
            self.editor.rename_posture(name)

    def ends(self) -> None:
        ends = self.editor.posture.ends
        now = write_aim(ends) if ends else ""
        given, facing = self._facing(
            tr("Facing it ends in"),
            tr("Which way should the chest face at the end? Leave empty for no check."),
            now,
            empty=True,
        )
        if given:
            self.editor.set_end(facing)

    def note(self) -> None:
        note = self._asking.text(tr("Note"), tr("Your note on this posture:"), self.editor.posture.note or "")
        if note is not None:
            self.editor.set_note(note)

    def other_side(self) -> None:
        posture = self.editor.posture
        trace = self._document.trace
        row = trace.span(posture.id)[1] - 1
        now = clock_text(float(trace.torso[max(row, 0)]))
        given, axis = self._facing(
            tr("The other side"), tr("Mirror about a line facing which way? Left and right change places."), now
        )
        if given and axis is not None:
            self.editor.other_side(axis)

    def way(self) -> None:
        """Another mirror line, or another turn, for a posture that takes its counts from one."""
        posture = self.editor.posture
        if posture.mirror_of:
            now = write_aim(posture.axis) if posture.axis else ""
            given, axis = self._facing(tr("The mirror line"), tr("Which way should the mirror line face?"), now)
            if given and axis is not None:
                self.editor.set_axis(axis)
        elif posture.repeat_of:
            label = tr("By how many degrees clockwise?")
            turned = self._asking.number(tr("The turn"), label, posture.turned, -360.0, 360.0)
            if turned is not None:
                self.editor.set_turn(round(turned * 2) / 2)
        else:
            raise FormError("edit.own-counts", title=posture.title)

    def side(self) -> None:
        """Says of which posture this one, with counts of its own, is the other side."""
        posture = self.editor.posture
        if posture.source is not None:
            raise FormError("edit.taken", title=posture.title)
        others = [p for p in self._document.form.postures if p.id != posture.id]
        names = [tr("none"), *(f"{n}  {p.title}" for n, p in enumerate(others, 1))]
        now = next((n for n, p in enumerate(others, 1) if p.id == posture.side_of), 0)
        label = tr("Which posture is it the other side of?")
        at = self._asking.item(tr("The other side"), label, names, now)
        if at is not None:
            self.editor.set_side(others[at - 1].id if at else None)

    def repeat(self) -> None:
        _ = self.editor.posture  # says so when none is selected
        label = tr("By how many degrees clockwise?")
        turned = self._asking.number(tr("Repeat the posture"), label, 0.0, -360.0, 360.0)
        if turned is not None:
            self.editor.repeat(round(turned * 2) / 2)
