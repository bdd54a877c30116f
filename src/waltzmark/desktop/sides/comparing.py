"""Comparing: this form with another document, with itself by another school, or walked by another body."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QHBoxLayout,
    QStackedWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import Progress
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import Form
from waltzmark.core.school.school import School, bundled_schools, load_school
from waltzmark.core.sides.forms import FormsCompared, Two, by_school, compare_forms, walked_by
from waltzmark.core.sides.telling import Told
from waltzmark.core.sides.tolerance import Tolerance
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.faced import Face
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import wrapped
from waltzmark.desktop.sides.picture import PairView
from waltzmark.desktop.sides.shown import Shown
from waltzmark.desktop.theme import font
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.widgets.parts import choice_box, push_button, refill
from waltzmark.desktop.widgets.search import Search
from waltzmark.desktop.widgets.trees import WrappedTree
from waltzmark.files import library
from waltzmark.files.reading import read_document, read_file
from waltzmark.files.saving import save_atomically
from waltzmark.words.errors import explained
from waltzmark.words.language import ntr, number, percent, tr
from waltzmark.words.sentences import sentence
from waltzmark.words.sides import report

__all__ = ["CompareFace"]

_WITH = (tr("With another document"), tr("By another school"), tr("Walked by another body"))


def _compared(form: Form, other: Form, within: Tolerance, judged: bool, told: Progress) -> FormsCompared:
    return compare_forms(form, other, within, told, judged)


class CompareFace(Face):
    """What it is compared with, and what differs: the whole first, then posture by posture and count by count."""

    name = tr("Compare")
    purpose = tr("This form against another document, school or body")

    def __init__(self, desk: Desk, picture: PairView) -> None:
        super().__init__(desk)
        self._picture = picture
        self.other: Form | None = None  # the document it is compared with
        self.other_name = ""
        self.found: FormsCompared | None = None
        self._own = False
        self._schools: list[School] = []
        self._bodies: list[Body] = []
        column = self.column
        self.kind = choice_box(tr("What to compare it with"), _WITH, lambda _at: self._kind_chosen())
        column.addWidget(self.kind)
        self.pages = QStackedWidget()
        for page in (self._document_page(), self._school_page(), self._body_page()):
            self.pages.addWidget(page)
        column.addWidget(self.pages)
        self.said = wrapped(points=10.5, bold=True)
        column.addWidget(self.said)
        self.tree = WrappedTree(tr("Differences"))
        self.tree.currentItemChanged.connect(safely(lambda item, _before: self._touch(item)))
        column.addWidget(self.tree, 1)
        self.save = push_button(tr("Save as text …"), self.save_report, tr("Saves all the differences to a text file"))
        column.addWidget(self.save)
        self.search = Search(desk.jobs, "sides compare")
        column.addWidget(self.search)

    # What it is compared with.

    def _document_page(self) -> QWidget:
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        self.which = wrapped(tr("No document chosen yet."))
        column.addWidget(self.which)
        row = QHBoxLayout()
        self.choose = push_button(tr("Choose a document …"), self.desk.book["compare document"].trigger)
        self.demo = push_button(
            tr("The demo’s earlier version"),
            self.desk.book["compare demo"].trigger,
            tr("The demo form as it was two summers earlier"),
        )
        for button in (self.choose, self.demo):
            row.addWidget(button)
        column.addLayout(row)
        return page

    def _school_page(self) -> QWidget:
        self.school = choice_box(tr("The other school"), run=lambda _at: self.refresh())
        return _alone(self.school)

    def _body_page(self) -> QWidget:
        page = QWidget()
        row = QHBoxLayout(page)
        row.setContentsMargins(0, 0, 0, 0)
        self.body = choice_box(tr("The other body"), run=lambda _at: self._body_chosen())
        self.stature = number_field(tr("Stature of the other body"), 100.0, 220.0, 0, 86)
        self.stature.setSuffix(" " + tr("cm"))
        self.stature.setValue(160.0)
        self.stature.valueChanged.connect(safely(lambda _value: self.refresh()))
        row.addWidget(self.body, 1)
        row.addWidget(self.stature)
        return page

    def _kind_chosen(self) -> None:
        self.pages.setCurrentIndex(self.kind.currentIndex())
        self.refresh()

    def _body_chosen(self) -> None:
        self.stature.setEnabled(self.body.currentIndex() == 0)
        self.refresh()

    def _fill(self) -> None:
        """Lists the schools and bodies there are, the chosen ones kept."""
        own = self.document.form.school
        known = [load_school(name) for name in bundled_schools()]
        self._schools = [s for s in (*known, *library.schools()) if s != own]
        self._bodies = [body for body in library.bodies() if body != self.document.form.body]
        for box, lines in (
            (self.school, [school.name for school in self._schools]),
            (self.body, [tr("By stature"), *(body.name for body in self._bodies)]),
        ):
            refill(box, lines)

    def compare_with(self, path: Path, name: str = "", told: Callable[[str], str] | None = None) -> None:
        """Reads another document, to compare with it; it is only read. told: changes its text first."""
        own = self.document.path
        if own is not None and path.resolve() == own.resolve():
            self.desk.asking.tell(
                tr("This is the same document"),
                tr("{name} is the document you have open. Choose a different one to compare with.", name=path.name),
            )
            return
        try:
            read = read_file(path) if told is None else read_document(told(path.read_text(encoding="utf-8")))
        except WaltzmarkError as error:
            self.desk.asking.tell(tr("This form cannot be read"), explained(error))
            return
        self.other, self.other_name = read.form, name or read.form.title or path.stem
        self.which.setText(
            tr(
                "Compared with “{other_name}” ({name}), which is not changed.",
                other_name=self.other_name,
                name=path.name,
            )
        )
        self.kind.setCurrentIndex(0)
        self._kind_chosen()

    def _other(self) -> tuple[Form, str, bool] | None:
        """The form it is compared with, what it is called, and whether what is found wrong is compared too."""
        form, kind = self.document.form, self.kind.currentIndex()
        if kind == 0:
            return (self.other, self.other_name, False) if self.other is not None else None
        if kind == 1:
            school = self._schools[max(self.school.currentIndex(), 0)]
            return by_school(form, school), tr("judged by {name}", name=school.name), True
        at = self.body.currentIndex()
        if at > 0:
            body = self._bodies[at - 1]
            return walked_by(form, body), tr("walked by {name}", name=body.name), True
        tall = self.stature.value()
        return (
            walked_by(form, Body(stature=tall / 100.0)),
            tr("walked by a body of {tall} cm", tall=number(tall, 0)),
            True,
        )

    # What is shown.

    def refresh(self) -> None:
        """Compares the document as it is now."""
        self._fill()
        other, form, within = self._other(), self.document.form, self.document.judge.within
        if other is None:
            self.search.forget()
            self.found = None
        elif self.search.ask(
            (form, other[0], within), partial(_compared, form, other[0], within, other[2]), self._take
        ):
            self.found = None
        self._show()

    def leave(self) -> None:
        self.search.rest()
        self.search.forget()

    def _take(self, found: FormsCompared) -> None:
        self.found = found
        self._show()

    def _show(self) -> None:
        self._own = True
        self.tree.clear()
        found, other = self.found, self._other()
        self.save.setEnabled(found is not None)
        if found is None or other is None:
            self.said.setText(tr("Comparing …") if other is not None else "")
            self._picture.empty = tr("Choose what to compare this form with.") if other is None else tr("Comparing …")
            self._picture.show_pair(None)
            self._own = False
            return
        nth = len(found.whole) + sum(len(two.differences) for two in found.postures)
        words = ntr(
            "{n} difference, this form → {other}:", "{n} differences, this form → {other}:", nth, other=other[1]
        )
        self.said.setText(tr("No differences.") if found.same else words)
        if found.whole:
            self._branch(tr("The form as a whole"), None, found.whole)
        for two in found.postures:
            titles = [
                form.posture(name).title
                for form, name in zip(found.forms, (two.a, two.b), strict=True)
                if name is not None
            ]
            title = titles[0]
            if two.compared is not None and two.compared.counts:
                title = tr("{title}, {likeness} alike", title=title, likeness=percent(100 * two.likeness))
            if two.differences:
                self._branch(title, two, two.differences)
        self.tree.fit()
        self._own = False
        self._choose_here()

    def _branch(self, words: str, two: Two | None, told: tuple[Told, ...]) -> None:
        top = QTreeWidgetItem([words])
        top.setFont(0, font(10.0, bold=True))
        top.setData(0, Qt.ItemDataRole.UserRole, (two, told[0]))
        self.tree.addTopLevelItem(top)
        for each in told:
            item = QTreeWidgetItem([sentence(each.message, self.document.session.say)])
            item.setData(0, Qt.ItemDataRole.UserRole, (two, each))
            top.addChild(item)
        top.setExpanded(True)

    def _choose_here(self) -> None:
        """Chooses the posture that the playhead is in, else the first that both have and that differs."""
        assert self.found is not None
        name = self.document.trace.posture(self.document.session.row)
        items = [self.tree.topLevelItem(n) for n in range(self.tree.topLevelItemCount())]
        both = [(item, two) for item in items if item is not None and (two := self._of(item)[0]) is not None]
        here = next((item for item, two in both if two.a == name), None)
        chosen = here or next((item for item, two in both if two.compared is not None), None)
        if chosen is not None:
            self._own = True
            self.tree.setCurrentItem(chosen)
            self._own = False
            self._draw(self._of(chosen)[0])
        else:
            self._draw(next((two for two in self.found.postures if two.compared is not None), None))

    def _of(self, item: QTreeWidgetItem) -> tuple[Two | None, Told]:
        two, told = item.data(0, Qt.ItemDataRole.UserRole)
        return two, told

    def _draw(self, two: Two | None) -> None:
        found, other = self.found, self._other()
        if found is None or other is None or two is None or two.compared is None:
            self._picture.empty = tr("Only one of the two forms has this posture.")
            self._picture.show_pair(None)
            return
        form = self.document.form
        title = form.posture(two.a or "").title
        self._picture.show_pair(Shown(two.compared, found.traces, (title, other[1]), mine=False))

    def _touch(self, item: QTreeWidgetItem | None) -> None:
        """Goes to a difference and draws its posture."""
        if item is None or self.found is None:
            return
        two, told = self._of(item)
        if two is None:  # a difference of the whole: where it is
            two = next(
                (
                    each
                    for each in self.found.postures
                    if each.compared is not None
                    and told.row is not None
                    and any(pair.row == told.row for pair in each.compared.counts)
                ),
                None,
            )
            two = two or next((each for each in self.found.postures if each.compared is not None), None)
        self._draw(two)
        if not self._own and told.row is not None:
            self.document.session.go(float(min(told.row, len(self.document.trace) - 1)))

    def show_position(self) -> None:
        """Nothing in the list goes with the playhead: it is the list that leads."""

    def step_difference(self, by: int) -> None:
        """Goes to the next difference in the list."""
        tops = [item for n in range(self.tree.topLevelItemCount()) if (item := self.tree.topLevelItem(n)) is not None]
        leaves = [leaf for item in tops for k in range(item.childCount()) if (leaf := item.child(k)) is not None]
        if leaves:
            now = self.tree.currentItem()
            if now is not None and now in leaves:
                at = (leaves.index(now) + by) % len(leaves)
            else:  # a posture as a whole: its first
                at = next((n for n, leaf in enumerate(leaves) if leaf.parent() is now), 0)
            self.tree.setCurrentItem(leaves[at])

    def save_report(self) -> None:
        """Asks for a file, and writes all that differs into it."""
        other = self._other()
        if self.found is None or other is None:
            self.desk.asking.tell(tr("Nothing to save yet"), tr("First choose what to compare this form with."))
            return
        beside = self.document.beside(".txt", tr("comparison"))
        if path := self.desk.files.to_save(tr("Save the comparison"), beside, tr("Texts (*.txt)")):
            self.write_report(path)

    def write_report(self, path: Path) -> None:
        """Writes all that differs into a file; tells why where it cannot."""
        other = self._other()
        assert self.found is not None and other is not None
        text = report(self.found, (self.document.title, other[1]), self.document.session.say)
        self.desk.asking.attempt(lambda: save_atomically(path, text))


def _alone(field: QWidget) -> QWidget:
    page = QWidget()
    row = QHBoxLayout(page)
    row.setContentsMargins(0, 0, 0, 0)
    row.addWidget(field, 1)
    return page
