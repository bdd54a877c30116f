"""The schools: to be read, copied and changed, and the form judged by."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import (
    QHBoxLayout,
    QListWidget,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
from waltzmark.core.school.school import RuleSetting, School, StanceGeometry, bundled_schools, load_school
from waltzmark.core.score.read import is_stance_name
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import Label, wrapped
from waltzmark.desktop.ready.school_page import SchoolChanges, SchoolPage
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.parts import push_button
from waltzmark.files import library
from waltzmark.words.errors import explained
from waltzmark.words.language import shipped, tr

__all__ = ["SchoolView"]


@guarded
class SchoolView(QWidget):
    """At the left the schools, at the right the chosen one's rules."""

    def __init__(self, document: Document, editor: Editor, theme: Theme, asking: Asking) -> None:
        super().__init__()
        self._document, self._editor, self._theme, self._asking = document, editor, theme, asking
        self._schools: list[School] = []
        self._shown: School | None = None
        self._own = ""  # id of the form's school when it was last looked at
        self.list = QListWidget()
        self.list.setAccessibleName(tr("Schools"))
        self.list.setFont(font(11))
        self.list.currentRowChanged.connect(safely(self._show))
        self.judge = push_button(tr("Judge by this school"), self.take)
        self.copy = push_button(
            tr("Copy and edit …"), self.copy_school, tr("Makes a school of your own, starting from this one")
        )
        self.keep = push_button(tr("Save to my schools"), self._keep, tr("Saves it to use in other forms"))
        left = QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(16, 12, 12, 12)
        column.setSpacing(8)
        column.addWidget(self.list, 1)
        for part in (self.judge, self.copy, self.keep):
            column.addWidget(part)
        left.setFixedWidth(300)
        self.name = Label()
        self.name.setFont(font(15, bold=True))
        self.summary = wrapped(points=10.5)
        self.page = SchoolPage()
        self._changes = SchoolChanges(self.change, self.change_stance, self.add_stance, self._set_trunk)
        right = QVBoxLayout()
        right.setContentsMargins(18, 12, 8, 8)
        right.addWidget(self.name)
        right.addWidget(self.summary)
        right.addSpacing(6)
        right.addWidget(self.page, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(left)
        row.addLayout(right, 1)
        document.form_changed.connect(safely(self.refresh))
        document.session.figures_changed.connect(safely(self.refresh))

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self._show(self.list.currentRow())

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self.refresh()

    # Which schools there are.

    def refresh(self) -> None:
        """Lists the document's own school, those that come with Waltzmark and those that are kept."""
        if not self.isVisible():
            return
        own = self._document.form.school
        known = [load_school(name) for name in bundled_schools()]
        found = [school for school in library.schools() if school.id != own.id]
        self._schools = known + found
        if own not in self._schools:
            self._schools = [own, *self._schools]
        self.list.blockSignals(True)
        self.list.clear()
        for school in self._schools:
            self.list.addItem(school.name + (tr("  (this form)") if school == own else ""))
        # The one that is being read stays, whatever its place; another school of the form comes into view.
        wanted = own.id if self._shown is None or own.id != self._own else self._shown.id
        self._own = own.id
        ids = [school.id for school in self._schools]
        self.list.setCurrentRow(ids.index(wanted if wanted in ids else own.id))
        self.list.blockSignals(False)
        self._show(self.list.currentRow())

    @property
    def school(self) -> School:
        """The school that is shown."""
        return self._schools[max(self.list.currentRow(), 0)]

    # What is done with them.

    def take(self) -> None:
        """Judges the form by the shown school."""
        self._editor.set_school(self.school)

    def copy_school(self) -> None:
        """Makes a school of one's own from the shown one, and judges by it."""
        base = self.school
        name = self._asking.text(
            tr("A school of your own"), tr("Name of the school:"), tr("{name}, changed", name=base.name)
        )
        if not name:
            return
        made = "-".join(name.lower().split())
        if made in bundled_schools():
            self._asking.tell(
                tr("The school was not copied"),
                tr("{name} is built into Waltzmark; choose a different name", name=name),
            )
            return
        origin = base.id if base.id in bundled_schools() else base.base
        self._editor.set_school(replace(base, id=made, name=name, base=origin))

    def _keep(self) -> None:
        if library.replaced_by(self.school) and not self._asking.replaces("school", self.school.name):
            return
        try:
            library.keep_school(self.school)
        except WaltzmarkError as error:
            self._asking.tell(tr("The school was not saved"), explained(error))
        self.refresh()

    def change(self, rule: str, setting: RuleSetting) -> None:
        """Changes a rule of the form's own school."""
        school = self._document.form.school
        self._editor.set_school(replace(school, rules=dict(school.rules) | {rule: setting}))

    def change_stance(self, name: str, stance: StanceGeometry | None) -> None:
        """Changes a stance of the form's own school, adds one, or takes it out: None."""
        school = self._document.form.school
        stances = {each: geometry for each, geometry in school.stances.items() if each != name or stance is not None}
        if stance is not None:
            stances[name] = stance
        self._editor.set_school(replace(school, stances=stances))

    def add_stance(self) -> None:
        """Asks for the name of a new stance, which begins like the bow."""
        name = (self._asking.text(tr("A stance of your own"), tr("Its name in the score:")) or "").lower()
        school = self._document.form.school
        if not name:
            return
        if name in school.stances:
            self._asking.tell(tr("The stance was not added"), tr("this school already has a stance {name}", name=name))
        elif not is_stance_name(name):
            words = tr(
                "“{name}” cannot be the name of a stance in a score: use one word of letters, with "
                "hyphens if you like, that the score does not already use",
                name=name,
            )
            self._asking.tell(tr("The stance was not added"), words)
        else:
            self.change_stance(name, school.stances["bow"])

    def _set_trunk(self, key: str, degrees: float) -> None:
        changes: dict[str, Any] = {key: degrees}
        self._editor.set_school(replace(self._document.form.school, **changes))

    # Showing one.

    def _show(self, at: int) -> None:
        if not 0 <= at < len(self._schools):
            return
        school = self._schools[at]
        self._shown = school
        bundled = school.id in bundled_schools()
        own = school == self._document.form.school
        self.judge.setEnabled(not own)
        self.keep.setVisible(not bundled)
        self.name.setText(school.name)
        if bundled:
            hint = tr("Copy it to make changes.")
        elif own:
            hint = tr("Change what you like; the form is judged again at once.")
        else:
            hint = ""
        spine = tr("Spine: {spine}.", spine=shipped(school.spine))
        self.summary.setText(f"{shipped(school.summary)} {spine} {hint}")
        changes = self._changes if own and not bundled else None
        self.page.show_school(school, self._document.form.body, self._document.session.say, changes)
