"""The schools: each rule with its reason, to be read, copied and changed, and the form judged by."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QApplication,
    QCheckBox,
    QComboBox,
    QDoubleSpinBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QListWidget,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
from waltzmark.core.judge.judging import RULES
from waltzmark.core.school.school import CHOICES, RuleSetting, School, StanceGeometry, bundled_schools, load_school
from waltzmark.core.score.read import is_stance_name
from waltzmark.desktop.actions import menu_text
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import Label, RichLabel, rich, set_tip, wrapped
from waltzmark.desktop.ready.stances import StanceTable
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.widgets.parts import choice_box, push_button
from waltzmark.files import library
from waltzmark.words import named
from waltzmark.words.errors import explained
from waltzmark.words.findings import severity_name
from waltzmark.words.language import shipped, tr
from waltzmark.words.rules import rule_title

__all__ = ["SchoolView"]

_FAMILIES = {
    "weight": tr("Weight"),
    "score": tr("Score"),
    "pivot": tr("Pivots"),
    "stance": tr("Stances"),
    "split": tr("How weight is shared"),
    "step": tr("Steps"),
    "hip": tr("Hips and waist"),
    "waist": "",
    "knee": tr("Knees"),
    "balance": tr("Balance"),
    "hand": tr("Hands and eyes"),
    "gaze": "",
    "expect": tr("Expectations"),
    "posture": "",
}
_UNITS = {
    "load": "%",
    "share": "%",
    "front": "%",
    "within": "",
    "angle": "°",
    "slack": "°",
    "width": "cm",
    "lean": "°",
    "width_light": "cm",
    "light": "%",
    "length": "cm",
    "past": "cm",
    "margin": "cm",
    "half": "cm",
    "beats": tr("beats"),
    "supported": tr("beats"),
    "bend": "°",
    "square": "°",
    "shoulders": tr("% of the shoulders"),
    "little": "%",
    "together": "°",
    "friction": tr("of the sole"),
    "near": "°",
    "change": "°",
    "height": "cm",
    "into": "cm",
}
_DECIMALS = 1
#: What a school says of the trunk: how it is called, from where to where, and what it means.
_TRUNK = {
    "lean": (
        tr("leans forward"),
        -30.0,
        60.0,
        tr("Used where the score does not say; it moves the pelvis."),
    ),
    "waist_twist": (
        tr("waist left twisted"),
        0.0,
        180.0,
        tr("How far the waist may stay twisted at the end of a posture."),
    ),
}


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
        self.news = wrapped(points=10)
        left = QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(16, 12, 12, 12)
        column.setSpacing(8)
        column.addWidget(self.list, 1)
        for part in (self.judge, self.copy, self.keep, self.news):
            column.addWidget(part)
        left.setFixedWidth(300)
        self.name = Label()
        self.name.setFont(font(15, bold=True))
        self.summary = wrapped(points=10.5)
        self.rules = QScrollArea()
        self.rules.setAccessibleName(tr("Stances and rules"))
        self.rules.setWidgetResizable(True)
        self.rules.setFrameShape(QFrame.Shape.NoFrame)
        self.rules.setObjectName("wide")  # a table of all its stances, which a narrow window scrolls
        right = QVBoxLayout()
        right.setContentsMargins(18, 12, 8, 8)
        right.addWidget(self.name)
        right.addWidget(self.summary)
        right.addSpacing(6)
        right.addWidget(self.rules, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(left)
        row.addLayout(right, 1)
        document.form_changed.connect(safely(self.refresh))
        document.session.figures_changed.connect(safely(self.refresh))
        document.judge.news_changed.connect(safely(self._say_news))

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
        self._say_news()

    @property
    def school(self) -> School:
        """The school that is shown."""
        return self._schools[max(self.list.currentRow(), 0)]

    def _say_news(self) -> None:
        self.news.setText(self._document.judge.news)
        self.news.setVisible(bool(self._document.judge.news))

    # What is done with them.

    def take(self) -> None:
        """Judges the form by the shown school."""
        self._editor.set_school(self.school)

    def copy_school(self) -> None:
        """Makes a school of one's own from the shown one, and judges by it."""
        base = self.school
        name = self._asking.text(
            tr("A school of your own"), tr("Name of the posture:"), tr("{name}, changed", name=base.name)
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
        bar = self.rules.verticalScrollBar().value()
        page = QWidget()
        grid = QGridLayout(page)
        grid.setContentsMargins(0, 8, 12, 12)
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(4)
        grid.setColumnStretch(2, 1)
        editable = own and not bundled
        row = self._trunk(grid, self._stances(grid, school, editable), school, editable)
        for family, title in _FAMILIES.items():
            for number, rule in enumerate(r for r in RULES if r.partition(".")[0] == family and r in school.rules):
                if number == 0 and title:
                    grid.addWidget(_title(title), row, 0, 1, 3)
                    row += 1
                row = self._rule(grid, row, rule, school.rules[rule], editable)
        # The field that was changed is in the old page and is still speaking: the page goes when it has done.
        old, focused = self.rules.takeWidget(), QApplication.focusWidget()
        known = (
            focused.accessibleName() if focused is not None and old is not None and old.isAncestorOf(focused) else ""
        )
        self.rules.setWidget(page)
        self.rules.verticalScrollBar().setValue(bar)
        if old is not None:
            old.deleteLater()
        for field in (*page.findChildren(QDoubleSpinBox), *page.findChildren(QComboBox)):
            if known and field.accessibleName() == known:
                field.setFocus()

    def _stances(self, grid: QGridLayout, school: School, editable: bool) -> int:
        """The geometry of the school's stances, and what it comes to for the body of the form."""
        grid.addWidget(_title(tr("Stances")), 0, 0, 1, 3)
        changed = self.change_stance if editable else None
        grid.addWidget(StanceTable(school, self._document.form.body, self._document.session.say, changed), 1, 0, 1, 3)
        if editable:
            more = push_button(
                tr("Add a stance …"),
                self.add_stance,
                tr("A stance of your own, to be written in the score by its name"),
            )
            grid.addWidget(more, 2, 0, 1, 3, Qt.AlignmentFlag.AlignLeft)
        return 3

    def _trunk(self, grid: QGridLayout, row: int, school: School, editable: bool) -> int:
        """How the school holds the trunk."""
        grid.addWidget(_title(tr("Trunk")), row, 0, 1, 3)
        for key, (words, least, most, means) in _TRUNK.items():
            row += 1
            grid.addWidget(Label(words), row, 0, Qt.AlignmentFlag.AlignTop)
            value: float = getattr(school, key)
            if editable:
                spin = number_field(tr("Trunk: {words}", words=words), least, most, 0)
                spin.setSuffix("°")
                spin.setMaximumWidth(200)
                spin.setValue(value)
                spin.valueChanged.connect(safely(lambda typed, key=key: self._set_trunk(key, typed)))
                grid.addWidget(spin, row, 1, Qt.AlignmentFlag.AlignTop)
            else:
                grid.addWidget(RichLabel(f"<b>{value:g}</b>°"), row, 1, Qt.AlignmentFlag.AlignTop)
            meaning = wrapped(means)
            grid.addWidget(meaning, row, 2, Qt.AlignmentFlag.AlignTop)
        return row + 1

    def _set_trunk(self, key: str, degrees: float) -> None:
        changes: dict[str, Any] = {key: degrees}
        self._editor.set_school(replace(self._document.form.school, **changes))

    def _rule(self, grid: QGridLayout, row: int, rule: str, setting: RuleSetting, editable: bool) -> int:
        name = QCheckBox(menu_text(rule_title(rule)))
        name.setChecked(not setting.off)
        name.setEnabled(editable)
        set_tip(name, f"{severity_name(RULES[rule].severity)}  ({rule})")
        name.clicked.connect(safely(lambda on: self.change(rule, replace(setting, off=not on))))
        grid.addWidget(name, row, 0, Qt.AlignmentFlag.AlignTop)
        values = QWidget()
        line = QVBoxLayout(values)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(2)
        for key, choice in setting.choices.items():
            line.addWidget(self._choice(rule, setting, key, choice, editable))
        for key, value in setting.limits.items():
            line.addWidget(self._limit(rule, setting, key, value, editable))
        grid.addWidget(values, row, 1, Qt.AlignmentFlag.AlignTop)
        caution = f"<br><i>{rich(shipped(setting.caution))}</i>" if setting.caution else ""
        why = RichLabel(rich(shipped(setting.why)) + caution)
        why.setWordWrap(True)
        why.setObjectName("faint" if setting.off else "")
        grid.addWidget(why, row, 2, Qt.AlignmentFlag.AlignTop)
        return row + 1

    def _choice(self, rule: str, setting: RuleSetting, key: str, value: str, editable: bool) -> QWidget:
        if not editable:
            return RichLabel(f"{rich(named.limit(key))}: <b>{rich(named.choice(value))}</b>")
        combo = choice_box(
            f"{rule_title(rule)}: {named.limit(key)}", [named.choice(each) for each in CHOICES[rule, key]]
        )
        combo.setCurrentText(named.choice(value))
        combo.activated.connect(
            safely(
                lambda at: self.change(
                    rule, replace(setting, choices=dict(setting.choices) | {key: CHOICES[rule, key][at]})
                )
            )
        )
        return combo

    def _limit(self, rule: str, setting: RuleSetting, key: str, value: float, editable: bool) -> QWidget:
        unit, one = _UNITS.get(key, ""), 1.0
        if unit == "cm" and self._document.session.say.unit in ("in", "m"):
            unit, one = self._document.session.say.unit, 100.0 * self._document.session.say.metres_of_unit
        words = named.limit(key)
        if not editable:
            return RichLabel(f"{rich(words)}: <b>{round(value / one, 2):g}</b>{'' if unit == '°' else ' '}{unit}")
        most, decimals = 1000.0 / one, 3 if unit == "m" else _DECIMALS
        spin = number_field(f"{rule_title(rule)}: {words}", -100.0 / one, most, decimals)
        spin.setSingleStep(0.01 if unit == "m" else 1.0)
        spin.setMaximumWidth(200)
        spin.setPrefix(f"{words} ")
        spin.setSuffix(unit if unit in ("", "°") else f" {unit}")
        spin.setValue(value / one)
        spin.valueChanged.connect(safely(lambda typed: self._set_limit(rule, setting, key, round(typed * one, 2))))
        return spin

    def _set_limit(self, rule: str, setting: RuleSetting, key: str, value: float) -> None:
        self.change(rule, replace(setting, limits=dict(setting.limits) | {key: value}))


def _title(words: str) -> Label:
    label = Label(words)
    label.setFont(font(11.5, bold=True))
    label.setContentsMargins(0, 10, 0, 2)
    return label
