"""The people a form is fitted to: who can walk it as written, what changes for whom, and where they end."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import Progress
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.fit.fitting import Change, Fitted, fitted
from waltzmark.core.form.form import Form
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import Face
from waltzmark.desktop.fits import fit_all, keep_fit, known_fit
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import Label, heading, set_tip, wrapped
from waltzmark.desktop.ready.fit_floor import FitFloor
from waltzmark.desktop.ready.person import NewPerson, PersonDialog, free_name
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.offers import OfferList
from waltzmark.desktop.widgets.parts import choice_box, push_button, quiet, refill, row_of
from waltzmark.desktop.widgets.search import Search
from waltzmark.desktop.widgets.tables import filling, make_row_table
from waltzmark.files import library
from waltzmark.files.bodies import read_body
from waltzmark.files.fits import fitted_form
from waltzmark.files.reading import read_file
from waltzmark.words.answers import where
from waltzmark.words.errors import explained
from waltzmark.words.findings import severity_name, what
from waltzmark.words.fitting import difference, does, ends_words, fits_words, why
from waltzmark.words.language import tr

__all__ = ["BodiesFace"]

_COLUMNS = (tr("Name"), tr("Stature"), tr("The form"))
_FILES = tr("Bodies and forms (*.toml *.waltz);;All files (*)")


def _again(path: Path, body: Body, told: Progress) -> Fitted:
    """The form of a file, as it now is, fitted to a body."""
    return fitted(read_file(path).form, body, told)


@guarded
class BodiesFace(Face):
    """The people on the left, both walks on the floor, the changes on the right."""

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self._own = False
        self._gone = 0  # people for whom it was stopped
        self.column.setContentsMargins(0, 0, 0, 0)
        row = QHBoxLayout()
        row.setSpacing(0)
        self.column.addLayout(row, 1)
        self.floor = FitFloor(desk.document, desk.theme)
        row.addWidget(self._left())
        row.addWidget(_upright())
        row.addWidget(self.floor, 1)
        row.addWidget(_upright())
        row.addWidget(self._right())
        for signal in (desk.document.form_changed, desk.document.session.figures_changed):
            signal.connect(safely(self.refresh))

    def _left(self) -> QWidget:
        side = QWidget()
        side.setFixedWidth(344)
        column = QVBoxLayout(side)
        column.setContentsMargins(16, 10, 12, 10)
        column.setSpacing(7)
        self.tied = wrapped(points=10.0)
        self.again = push_button(
            tr("Fit it again"), self._fit_again, tr("Fits the source, as it is now, to this form’s body")
        )
        column.addWidget(self.tied)
        column.addWidget(self.again)
        column.addWidget(heading(tr("Who walks it")))
        self.table = QTableWidget()
        make_row_table(self.table, tr("People"), _COLUMNS, 2)
        self.table.currentCellChanged.connect(safely(lambda *_: self._show_one()))
        self.table.itemActivated.connect(safely(lambda _item: self.measure()))
        set_tip(self.table, tr("Enter or a double click: the measures of this person"))
        column.addWidget(self.table, 1)
        self.search = Search(self.desk.jobs, "fitting")
        self.search.stopped.connect(safely(self.refresh))
        column.addWidget(self.search)
        self.new = NewPerson(self.document, self.desk.asking)
        self.new.added.connect(safely(self.add))
        column.addWidget(self.new)
        self.saved = choice_box(tr("Saved bodies"), (), self._take_saved, narrow=True)
        self.measures = push_button(tr("Measures …"), self.measure, tr("All measures of this person"))
        self.remove = push_button(tr("Remove"), self._remove, tr("Takes this person out of the form"))
        from_file = push_button(tr("From files …"), self._from_files, tr("Adds people from files with a [body] table"))
        column.addLayout(row_of(self.measures, self.remove))
        column.addLayout(row_of(self.saved, from_file, wide=self.saved))
        self.sheet = push_button(tr("Class sheet …"), self.class_sheet, tr("A table of what differs, person by person"))
        column.addWidget(self.sheet)
        return side

    def _right(self) -> QWidget:
        side = QWidget()
        side.setFixedWidth(332)
        column = QVBoxLayout(side)
        column.setContentsMargins(14, 10, 16, 10)
        column.setSpacing(7)
        self.whose: Label = heading("")
        self.whose.setWordWrap(True)
        column.addWidget(self.whose)
        self.list = OfferList(tr("Changes"))
        self.list.currentRowChanged.connect(safely(self._go_to))
        set_tip(self.list, tr("Choose a change to see it on the floor"))
        column.addWidget(self.list, 1)
        self.ends = wrapped(points=10.0)
        column.addWidget(self.ends)
        self.theirs = QPushButton(tr("Make it theirs"))
        set_tip(self.theirs, tr("Opens a form of its own for this person, tied to this one"))
        self.theirs.clicked.connect(safely(lambda: self.make_theirs()))
        self.own_sheet = push_button(
            tr("Their sheet …"), self.their_sheet, tr("The postures with this person’s own figures, to print")
        )
        column.addLayout(row_of(self.theirs, self.own_sheet))
        return side

    def set_theme(self, theme: Theme) -> None:
        self.floor.set_theme(theme)

    # Who there is.

    @property
    def bodies(self) -> tuple[Body, ...]:
        return self.document.form.bodies

    @property
    def chosen(self) -> Body | None:
        """The person who is chosen."""
        row = self.table.currentRow()
        return self.bodies[row] if 0 <= row < len(self.bodies) else None

    def fit_of(self, body: Body) -> Fitted | None:
        """What the form is for somebody, where it is known."""
        return known_fit(self.document.form, body)

    def refresh(self) -> None:
        """Shows the people of the form, and works out what is not known of them."""
        if not self.isVisible():
            return
        self._show_people()
        form = self.document.form
        self.tied.setVisible(form.fitted is not None)
        self.again.setVisible(form.fitted is not None)
        if form.fitted is not None:
            self.tied.setText(tr("Fitted from {source}.", source=form.fitted.source or tr("another form")))
        saved = [body.name for body in library.bodies()]
        refill(self.saved, [tr("Add a saved body …"), *saved], 0)
        self.saved.setEnabled(bool(saved))
        missing = tuple(body for body in self.bodies if self.fit_of(body) is None)
        if missing and form.postures:
            take = partial(self._take, form, missing)
            self.search.ask((form, missing), partial(fit_all, form, missing), take, partial=take)
        elif not missing:
            self.search.rest()
        self._show_one()

    def leave(self) -> None:
        self.search.rest()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self.refresh()

    def hideEvent(self, event: object) -> None:
        super().hideEvent(event)  # type: ignore[arg-type]
        self.leave()

    def _take(self, form: Form, bodies: Sequence[Body], found: Sequence[Fitted]) -> None:
        for body, fit in zip(bodies, found, strict=False):
            keep_fit(form, body, fit)
        self._show_people()
        self._show_one()

    def _show_people(self) -> None:
        chosen = max(self.table.currentRow(), 0)
        with quiet(self.table), filling(self.table):
            self.table.setRowCount(len(self.bodies))
            for row, body in enumerate(self.bodies):
                fit = self.fit_of(body)
                words = tr("…") if fit is None else fits_words(fit)
                for column, text in enumerate((body.name, self.document.session.say.length(body.stature), words)):
                    item = QTableWidgetItem(text)
                    if column == 1:
                        item.setTextAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
                    set_tip(item, text)
                    self.table.setItem(row, column, item)
            if self.bodies:
                self.table.setCurrentCell(min(chosen, len(self.bodies) - 1), 0)
        for button in (self.measures, self.remove, self.sheet):
            button.setEnabled(bool(self.bodies))

    def _set(self, bodies: Sequence[Body], words: str) -> None:
        self.editor.set_bodies(bodies, words)

    def add(self, *people: Body) -> None:
        """Adds people, and shows the last of them."""
        bodies = list(self.bodies)
        for body in people:
            bodies.append(replace(body, name=free_name(body.name, [each.name for each in bodies])))
        self._set(bodies, tr("add {name}", name=bodies[-1].name))
        self.table.setCurrentCell(len(bodies) - 1, 0)

    def _remove(self) -> None:
        if (body := self.chosen) is not None:
            self._set([each for each in self.bodies if each is not body], tr("remove {name}", name=body.name))

    def _put(self, at: int, body: Body) -> None:
        """Another body in somebody's place; a name that another one has stays what it was."""
        others = [each.name for number, each in enumerate(self.bodies) if number != at]
        if not body.name or body.name in others:
            body = replace(body, name=self.bodies[at].name)
        bodies = [body if number == at else each for number, each in enumerate(self.bodies)]
        self._set(bodies, tr("measure {name}", name=body.name))

    def measure(self) -> PersonDialog | None:
        """Opens the measures of the person who is chosen."""
        at = self.table.currentRow()
        if self.chosen is None:
            return None
        dialog = PersonDialog(
            self.document, self.editor, self.desk.asking, lambda: self.bodies[at], partial(self._put, at), self
        )
        dialog.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        dialog.open()
        return dialog

    def _take_saved(self, at: int) -> None:
        body = next((each for each in library.bodies() if each.name == self.saved.itemText(at)), None)
        if body is not None and at > 0:
            self.add(body)

    def _from_files(self) -> None:
        self.add_files(self.desk.files.several_to_open(tr("Add people from files"), _FILES, self))

    def add_files(self, paths: Sequence[Path]) -> None:
        """Adds the people of some files; one that cannot be read is told, and the others are added."""
        found: list[Body] = []
        for path in paths:
            try:
                found.append(read_body(path))
            except WaltzmarkError as error:
                self.desk.asking.tell(tr("Nobody was added from {file}", file=path.name), explained(error))
        if found:
            self.add(*found)

    # What is shown of the one who is chosen.

    def _show_one(self) -> None:
        body = self.chosen
        fit = None if body is None else self.fit_of(body)
        self.floor.show_fit(fit)
        self.theirs.setEnabled(fit is not None)
        self.own_sheet.setEnabled(fit is not None)
        if body is None:
            self.whose.setText(tr("Add the people who walk this form. Each sees what it is for their own body."))
        elif not self.document.form.postures:
            self.whose.setText(tr("The form has no postures yet."))
        elif fit is None:
            self.whose.setText(tr("{name}: being worked out …", name=body.name) if self.search.busy else body.name)
        else:
            self.whose.setText(tr("{name}: {fits}", name=body.name, fits=fits_words(fit)))
        self.list.show_lines([] if fit is None else [self._words(each) for each in fit.changes] + self._left_words(fit))
        self.ends.setText("" if fit is None else ends_words(fit, self.document.session.say))

    def _words(self, change: Change) -> str:
        form, say = self.document.form, self.document.session.say
        lines = [tr("{place}: {does}", place=where(form, change.posture, change.count), does=does(change, say))]
        for line in change.lines:
            gone, come = difference(line)
            count = "" if line.count == change.count else tr("count {n}: ", n=line.count)
            lines.append(f"{count}{gone} → {come}" if gone else f"{count}+ {come}")
        lines.append(why(change, say))
        if change.also:
            titles = [form.posture(name).title for name in change.also]
            lines.append(tr("Also in {titles}", titles=", ".join(titles)))
        return "\n".join(lines)

    def _left_words(self, fit: Fitted) -> list[str]:
        """What is still in the way."""
        form, say = self.document.form, self.document.session.say
        return [
            tr(
                "{severity}: {place}: {what}",
                severity=severity_name(each.severity).capitalize(),
                place=where(form, each.posture, each.count),
                what=what(each, say),
            )
            for each in fit.left
        ]

    def _go_to(self, row: int) -> None:
        """Shows a change, or what is in the way, on the floor."""
        body = self.chosen
        fit = None if body is None else self.fit_of(body)
        if fit is None or row < 0:
            return
        every: list[tuple[str | None, int]] = [(each.posture, each.count) for each in fit.changes]
        every += [(each.posture, each.count) for each in fit.left]
        if row < len(every):
            self.document.session.go(float(self.document.trace.row_of(*every[row])))

    # What is made of it.

    def make_theirs(self) -> None:
        """Opens a form of its own for the person who is chosen, tied to this one."""
        body = self.chosen
        fit = None if body is None else self.fit_of(body)
        if body is None or fit is None:
            return
        path = self.document.path
        source = path.name if path is not None else self.document.title
        made = fitted_form(fit, source)
        title = tr("{title}, for {name}", title=self.document.form.title or self.document.title, name=body.name)
        self.desk.begin_beside(replace(made, title=title), tr("fit {title} to {name}", title=source, name=body.name))

    def their_sheet(self) -> None:
        """The postures as this person walks them, to print."""
        body = self.chosen
        fit = None if body is None else self.fit_of(body)
        if fit is not None and body is not None:
            title = tr("{title}, for {name}", title=self.document.form.title, name=body.name)
            self.desk.show_sheet(replace(fit.form, title=title, bodies=()), "postures")

    def class_sheet(self) -> None:
        """The table of what differs, to print."""
        self.desk.show_sheet(None, "bodies")

    def _fit_again(self) -> None:
        """Fits the source, as it is now, to the body of this form."""
        form, path = self.document.form, self.document.path
        if form.fitted is None:
            return
        source = (path.parent if path is not None else Path.cwd()) / Path(form.fitted.source).name
        if not form.fitted.source or not source.is_file():
            self.desk.asking.tell(
                tr("The source was not found"),
                tr(
                    "{source} is expected in the folder of this form. Put it there, then fit again.", source=source.name
                ),
            )
            return
        self.desk.jobs.ask("fit again", partial(_again, source, form.body), self._take_again, process=True)

    def _take_again(self, fit: Fitted) -> None:
        form = self.document.form
        made = fitted_form(fit, form.fitted.source if form.fitted is not None else "")
        kept = replace(made, title=form.title, room=form.room, sheet=form.sheet, bodies=form.bodies, body=made.body)
        self.editor.take_form(kept, tr("fit it again"))


def _upright() -> QFrame:
    rule = QFrame()
    rule.setObjectName("rule")
    rule.setFixedWidth(1)
    return rule
