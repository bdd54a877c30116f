"""The faces of the Log stage: what to do next, measures, and the book itself."""

from __future__ import annotations

import statistics

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QTableWidget,
    QTableWidgetItem,
)

from waltzmark.core.practice.advice import Advice, Series, advice, calendar, series_of, worked
from waltzmark.core.practice.entries import KINDS, Entry, now
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import Face
from waltzmark.desktop.guard import safely
from waltzmark.desktop.history import Selection
from waltzmark.desktop.log.calendar import CalendarView
from waltzmark.desktop.log.entering import CorrectDialog, PracticeDialog
from waltzmark.desktop.log.measures import MeasureChart, against_plan
from waltzmark.desktop.plain import heading, wrapped
from waltzmark.desktop.widgets.offers import OfferList
from waltzmark.desktop.widgets.parts import choice_box, push_button
from waltzmark.desktop.widgets.tables import filling, make_row_table
from waltzmark.words import named
from waltzmark.words.errors import explained
from waltzmark.words.language import day, ntr, number, tr
from waltzmark.words.measures import measure_name
from waltzmark.words.sentences import sentence

__all__ = ["BookFace", "BookTable", "MeasuresFace", "NextFace"]

_COLUMNS = (
    tr("When"),
    tr("What"),
    tr("Posture"),
    tr("Side"),
    tr("Times"),
    tr("Minutes"),
    tr("Measured"),
    tr("Planned"),
    tr("How"),
    tr("Note"),
)
_SHOWN = 2000  # entries in the table, the newest


class _LogFace(Face):
    @property
    def entries(self) -> tuple[Entry, ...]:
        """Those of who practises, or all where nobody in particular does."""
        practice = self.desk.practice
        return tuple(e for e in practice.entries if not practice.person or e.person == practice.person)


class NextFace(_LogFace):
    """What to do next, with the reason; what was done of each posture and side."""

    name = tr("Next")
    purpose = tr("What to practise next, and why")

    def __init__(self, desk: Desk, view: CalendarView) -> None:
        super().__init__(desk)
        self._view = view
        self._advice: tuple[Advice, ...] = ()
        self.column.addWidget(heading(tr("Practise next")))
        self.list = OfferList(tr("Practise next"))
        self.list.currentRowChanged.connect(safely(self._touch))
        self.list.itemActivated.connect(safely(lambda _item: self.practise()))
        self.column.addWidget(self.list, 2)
        self.go = push_button(tr("Practise this"), self.practise)
        self.column.addWidget(self.go)
        self.column.addWidget(heading(tr("Most recent practice")))
        self.done = wrapped()
        self.done.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.column.addWidget(self.done, 1)

    def _nothing(self) -> str:
        """Why nothing is next."""
        if not self.document.form.postures:
            return tr("Nothing yet: this form has no postures. Write some in Plot; your practice is recorded here.")
        return tr("Nothing is due: you have practised all of it recently.")

    def refresh(self) -> None:
        entries, today = self.entries, now().date()
        self._advice = advice(self.document.form, entries, today)
        lines = [f"{sentence(each.what)}\n{sentence(each.why)}" for each in self._advice]
        self.list.show_lines(lines or [self._nothing()])
        self.go.setEnabled(bool(self._advice))
        self._view.show_days(calendar(entries), entries, today)
        lately = [
            tr(
                "{posture}: {times}, last on {day}",
                posture=tr("{title} ({side} side)", title=each.title, side=named.side(each.side))
                if each.side
                else each.title,
                times=_times(each.reps),
                day=day(each.last),
            )
            for each in worked(entries, self.document.form)[:9]
        ]
        self.done.setText("\n".join(lately) or tr("Nothing yet: what you do in Practise is recorded here."))

    def _touch(self, row: int) -> None:
        if 0 <= row < len(self._advice) and self._advice[row].posture:
            self.document.session.select(Selection(self._advice[row].posture, 0, 0))

    def practise(self) -> None:
        """Goes to the drill of what is chosen."""
        row = max(self.list.currentRow(), 0)
        if row < len(self._advice):
            self._touch(row)
            self.desk.book["stage practise"].trigger()
            self.desk.book["face drill"].trigger()


class MeasuresFace(_LogFace):
    """Which measure is drawn, its mean and its spread."""

    name = tr("Measures")
    purpose = tr("Your measures over time, against the plan")

    def __init__(self, desk: Desk, chart: MeasureChart) -> None:
        super().__init__(desk)
        self._chart = chart
        self._series: tuple[Series, ...] = ()
        self.column.addWidget(heading(tr("Measures")))
        self.list = OfferList(tr("Measures"))
        self.list.currentRowChanged.connect(safely(self._touch))
        self.column.addWidget(self.list, 1)
        self.said = wrapped()
        self.column.addWidget(self.said)

    def refresh(self) -> None:
        self._series = series_of(self.entries)
        self.list.show_lines(
            [f"{measure_name(each.what, begins=True)}\n{_times(len(each.measured))}" for each in self._series]
            or [tr("Nothing yet.")]
        )
        if self._series and self.list.currentRow() < 0:
            self.list.setCurrentRow(0)
        else:
            self._touch(self.list.currentRow())

    def _touch(self, row: int) -> None:
        series = self._series[row] if 0 <= row < len(self._series) else None
        self._chart.show_series(series)
        if series is None:
            self.said.setText("")
            return
        values, plan = against_plan(series)
        mean = statistics.fmean(values)
        spread = statistics.stdev(values) if len(values) > 1 else 0.0
        unit = series.unit
        if plan == 0.0:
            words = [
                tr(
                    "On average {mean:+.1f} {unit} from the target, ± {spread} {unit}.",
                    mean=mean,
                    unit=unit,
                    spread=number(spread, 1),
                )
            ]
        else:
            words = [
                tr(
                    "On average {mean} {unit}, ± {spread} {unit}.",
                    mean=number(mean, 1),
                    unit=unit,
                    spread=number(spread, 1),
                )
            ]
            words += (
                [tr("{mean:+.1f} {unit} against the plan.", mean=mean - plan, unit=unit)] if plan is not None else []
            )
        half = len(values) // 2
        if half >= 3:
            change = statistics.fmean(values[half:]) - statistics.fmean(values[:half])
            words.append(
                tr("{change:+.1f} {unit} from the first half of the entries to the second.", change=change, unit=unit)
            )
        self.said.setText(" ".join(words))


def _times(nth: int) -> str:
    return tr("once") if nth == 1 else ntr("{n} time", "{n} times", nth)


class BookTable(QTableWidget):
    """The entries, the newest first."""

    def __init__(self) -> None:
        super().__init__()
        self.shown: list[Entry] = []
        make_row_table(self, tr("The practice book"), _COLUMNS, 2, 9.5)
        self.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)

    def show_entries(self, entries: tuple[Entry, ...]) -> None:
        """Shows entries, the newest first, as many as can be looked at."""
        self.shown = list(reversed(entries[-_SHOWN:]))
        with filling(self):
            self.setRowCount(len(self.shown))
            for row, entry in enumerate(self.shown):
                for column, text in enumerate(_cells(entry)):
                    self.setItem(row, column, QTableWidgetItem(text))

    @property
    def chosen(self) -> list[Entry]:
        """The entries that are chosen."""
        rows = sorted({index.row() for index in self.selectedIndexes()})
        return [self.shown[row] for row in rows if row < len(self.shown)]


def _cells(entry: Entry) -> tuple[str, ...]:
    unit = f" {entry.unit}" if entry.unit and entry.unit != "°" else entry.unit
    measured, planned = ("" if value is None else f"{value:g}{unit}" for value in (entry.measured, entry.planned))
    what = (
        f"{named.kind_of_entry(entry.kind)}: {measure_name(entry.what)}"
        if entry.what
        else named.kind_of_entry(entry.kind)
    )
    return (
        f"{entry.when:%Y-%m-%d %H:%M}",
        what,
        entry.title,
        named.side(entry.side) if entry.side else "",
        str(entry.reps),
        f"{entry.minutes:.1f}",
        measured,
        planned,
        named.outcome(entry.outcome),
        entry.note,
    )


class BookFace(_LogFace):
    """What is chosen is corrected, deleted, brought back; notes are written."""

    name = tr("Book")
    purpose = tr("Every entry: correct it, delete it or export it")

    def __init__(self, desk: Desk, table: BookTable) -> None:
        super().__init__(desk)
        self.table = table
        self.kinds = choice_box(
            tr("Which entries"),
            [tr("all entries"), *(tr("{kind} only", kind=named.kind_of_entry(kind)) for kind in KINDS)],
            lambda _at: self.refresh(),
        )
        self.column.addWidget(self.kinds)
        self.said = wrapped()
        self.column.addWidget(self.said)
        for name, words in (
            ("add practice", tr("Add practice …")),
            ("correct entry", tr("Correct it …")),
            ("delete entry", tr("Delete")),
            ("undo log", tr("Undo")),
            ("write note", tr("Write a note …")),
            ("export book csv", tr("Export as CSV …")),
            ("export book json", tr("Export as JSON …")),
            ("import book", tr("Import …")),
        ):
            button = push_button(words, self.desk.book[name].trigger)
            self.column.addWidget(button)
        self.column.addStretch(1)
        table.cellDoubleClicked.connect(safely(lambda *_: self.correct()))

    def refresh(self) -> None:
        kind = self.kinds.currentIndex()
        entries = tuple(e for e in self.entries if kind == 0 or e.kind == KINDS[kind - 1])
        self.table.show_entries(entries)
        practice = self.desk.practice
        whose = (
            tr("The demo’s made-up book: changes to it are not saved.")
            if practice.demo
            else tr("Your own book, on this computer only.")
        )
        more = " " + tr("Showing the newest {n}.", n=_SHOWN) if len(entries) > _SHOWN else ""
        undo = practice.book.undoes if practice.book is not None else None
        said = " " + tr("Undo: {sentence}.", sentence=sentence(undo)) if undo is not None else ""
        words = ntr("{n} entry.", "{n} entries.", len(entries)) + f"{more} {whose}{said}"
        self.said.setText(words if practice.wrong is None else explained(practice.wrong))

    def add(self) -> None:
        """Asks what was practised away from the screen, and puts it into the book."""
        practice = self.desk.practice
        dialog = PracticeDialog(self.document.form, practice.person, self)
        if dialog.exec() == QDialog.DialogCode.Accepted:
            made = dialog.made
            practice.do(lambda book: book.add_all([made]))
        dialog.deleteLater()

    def delete(self) -> None:
        """Deletes what is chosen; undo brings it back."""
        ids = [entry.id for entry in self.table.chosen if entry.id]
        if ids:
            self.desk.practice.do(lambda book: book.delete(ids))

    def correct(self) -> None:
        """Asks what is wrong with the entry that is chosen."""
        chosen = self.table.chosen
        if len(chosen) != 1 or not chosen[0].id:
            self.desk.asking.tell(tr("Select one entry"), tr("You can correct one entry at a time."))
            return
        dialog = CorrectDialog(chosen[0], self)
        if dialog.exec() == QDialog.DialogCode.Accepted and dialog.made is not None:
            made = dialog.made
            self.desk.practice.do(lambda book: book.change(made))
        dialog.deleteLater()

    def write_note(self) -> None:
        """Asks for a note and puts it into the book."""
        words = self.desk.asking.text(tr("A note for the book"), tr("What do you want to remember?"))
        if words:
            practice, form = self.desk.practice, self.document.form
            practice.keep(Entry(now(), "note", practice.person, form.title, reps=0, note=words[:2000]))
