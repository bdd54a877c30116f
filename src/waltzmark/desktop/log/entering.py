"""What is put into the book by hand: practice away from the screen, and what was wrong with an entry."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import get_args

from PySide6.QtCore import QDateTime
from PySide6.QtGui import QFocusEvent
from PySide6.QtWidgets import (
    QAbstractSpinBox,
    QDateTimeEdit,
    QDialog,
    QDialogButtonBox,
    QFormLayout,
    QLineEdit,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form
from waltzmark.core.practice.entries import OUTCOMES, Entry, EntryError, Kind, WhichSide
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import wrapped
from waltzmark.desktop.widgets.fields import number_field, row_of_fields, whole_field
from waltzmark.desktop.widgets.parts import choice_box
from waltzmark.words import named
from waltzmark.words.errors import explained
from waltzmark.words.language import tr

__all__ = ["CorrectDialog", "PracticeDialog"]

_KINDS: tuple[Kind, ...] = ("walk", "drill", "recall")
_SIDES: tuple[WhichSide, ...] = get_args(WhichSide)
_LONGEST = 2000  # characters of a note


@guarded
class _When(QDateTimeEdit):
    """A time to the minute. It begins with the day, so that Down is the day before; Tab goes on to the next field, and
    the arrows to the sides between the parts."""

    def __init__(self) -> None:
        super().__init__(QDateTime.currentDateTime())
        self.setDisplayFormat("yyyy-MM-dd HH:mm")
        self.setMaximumDateTime(QDateTime.currentDateTime())
        self.setAccessibleName(tr("When"))
        if (line := self.lineEdit()) is not None:
            line.setTextMargins(6, 0, 6, 0)

    def focusNextPrevChild(self, on: bool) -> bool:
        return QAbstractSpinBox.focusNextPrevChild(self, on)

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self.setSelectedSection(QDateTimeEdit.Section.DaySection)


class PracticeDialog(QDialog):
    """What was practised: when, what of the form, how often, how long and how it went."""

    def __init__(self, form: Form, person: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Add practice"))
        self._form, self._person = form, person
        self.when = _When()
        self.kind = choice_box(tr("What"), [named.kind_of_entry(kind) for kind in _KINDS])
        self.what = choice_box(tr("Posture"), [tr("the whole form"), *(each.title for each in form.postures)])
        self.side = choice_box(tr("Side"), [tr("both sides"), *(named.side(side) for side in _SIDES if side)])
        self.times = whole_field(tr("Times"), 1, 999, 1)
        self.minutes = number_field(tr("Minutes"), 0.0, 1440.0, 1)
        self.minutes.setValue(10.0)
        self.outcome = choice_box(tr("How"), [named.outcome(outcome) for outcome in OUTCOMES])
        self.note = QLineEdit()
        self.note.setMaxLength(_LONGEST)
        self.note.setAccessibleName(tr("Note"))
        shown: tuple[tuple[str, QWidget], ...] = (
            (tr("When"), self.when),
            (tr("What"), self.kind),
            (tr("Posture"), self.what),
            (tr("Side"), self.side),
            (tr("Times"), self.times),
            (tr("Minutes"), self.minutes),
            (tr("How"), self.outcome),
            (tr("Note"), self.note),
        )
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.button(QDialogButtonBox.StandardButton.Ok).setText(tr("Add"))
        buttons.accepted.connect(safely(self.accept))
        buttons.rejected.connect(safely(self.reject))
        column = QVBoxLayout(self)
        column.addLayout(row_of_fields(shown))
        column.addWidget(buttons)

    @property
    def made(self) -> Entry:
        """The entry that the fields make."""
        at = self.what.currentIndex() - 1
        posture = self._form.postures[at] if at >= 0 else None
        return Entry(
            datetime.fromtimestamp(self.when.dateTime().toSecsSinceEpoch(), UTC).astimezone(),
            _KINDS[self.kind.currentIndex()],
            self._person,
            self._form.title,
            "" if posture is None else posture.id,
            "" if posture is None else posture.title,
            _SIDES[self.side.currentIndex()],
            reps=int(self.times.value()),
            minutes=round(self.minutes.value(), 3),
            outcome=OUTCOMES[self.outcome.currentIndex()],
            note=self.note.text().strip(),
        )


class CorrectDialog(QDialog):
    """The fields of an entry; what cannot be is told below them, and nothing is lost."""

    def __init__(self, entry: Entry, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setWindowTitle(tr("Correct an entry"))
        self.entry = entry
        self.made: Entry | None = None
        self.fields: dict[str, QLineEdit] = {}
        self._texts: dict[str, str] = {}
        form = QFormLayout(self)
        for name, words in (
            ("when", tr("When")),
            ("title", tr("Posture")),
            ("side", tr("Side")),
            ("reps", tr("Times")),
            ("minutes", tr("Minutes")),
            ("measured", tr("Measured")),
            ("planned", tr("Planned")),
            ("unit", tr("Unit")),
            ("outcome", tr("How")),
            ("note", tr("Note")),
        ):
            value = getattr(entry, name)
            if value is None:
                text = ""
            elif name == "when":
                text = value.isoformat(timespec="minutes")
            else:
                text = f"{value}"
            self._texts[name] = text
            field = self.fields[name] = QLineEdit(text)
            field.setAccessibleName(words)
            form.addRow(words, field)
        self.wrong = wrapped()
        form.addRow(self.wrong)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(safely(self.take))
        buttons.rejected.connect(safely(self.reject))
        form.addRow(buttons)

    def take(self) -> None:
        """Takes the fields over, where they make an entry."""
        changes: dict[str, object] = {}
        try:
            for name, field in self.fields.items():
                text = field.text().strip()
                if text == self._texts[name]:
                    continue  # a time is shown to the minute; what is not touched stays to the second
                if name == "when":
                    when = datetime.fromisoformat(text)
                    changes[name] = when if when.tzinfo else when.astimezone()
                elif name == "reps":
                    changes[name] = int(text)
                elif name in ("measured", "planned"):
                    changes[name] = float(text) if text else None
                elif name == "minutes":
                    changes[name] = float(text)
                else:
                    changes[name] = text
            self.made = replace(self.entry, **changes)  # type: ignore[arg-type]
        except EntryError as error:
            self.wrong.setText(explained(error))
        except ValueError as error:
            self.wrong.setText(
                tr(
                    "This cannot be read: {error}. Write a time such as 2026-05-04T18:30; “How” is one of {known}.",
                    error=error,
                    known=", ".join(OUTCOMES),
                )
            )
        else:
            self.accept()
