"""The schools: each rule with its reason, to be read, copied and changed, and the form judged by."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QApplication,
    QCheckBox,
    QComboBox,
    QDoubleSpinBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QLineEdit,
    QListWidget,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.errors import WaltzmarkError
from waltzmark.core.findings import RULES
from waltzmark.core.findings.compare import rule_words
from waltzmark.core.school import CHOICES, RuleSetting, School, bundled_schools, load_school
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.theme import Theme, font
from waltzmark.files import library

__all__ = ["SchoolView"]

_FAMILIES = {
    "weight": "Weight", "score": "Score", "pivot": "Pivots", "stance": "Stances", "split": "How the weight is shared",
    "step": "Steps", "hip": "Hips", "knee": "Knees", "balance": "Balance", "hand": "Hands and eyes", "gaze": "",
    "expect": "What was said", "posture": "",
}  # fmt: skip
_UNITS = {
    "load": "%", "share": "%", "front": "%", "within": "", "angle": "°", "slack": "°", "width": "cm", "lean": "°",
    "width_light": "cm", "light": "%", "length": "cm", "past": "cm", "margin": "cm", "half": "cm", "beats": "beats",
    "supported": "beats", "bend": "°", "square": "°", "shoulders": "% of the shoulders",
}  # fmt: skip
_DECIMALS = 1


class SchoolView(QWidget):
    """At the left the schools, at the right the chosen one's rules."""

    def __init__(
        self, document: Document, editor: Editor, theme: Theme, tell: Callable[[str, str], None]
    ) -> None:  # fmt: skip
        super().__init__()
        self._document, self._editor, self._theme, self._tell = document, editor, theme, tell
        self._schools: list[School] = []
        self.list = QListWidget()
        self.list.setAccessibleName("Schools")
        self.list.setFont(font(11))
        self.list.currentRowChanged.connect(self._show)
        self.judge = QPushButton("Judge by this school")
        self.judge.clicked.connect(self.take)
        self.copy = QPushButton("Copy and change …")
        self.copy.setToolTip("Make a school of your own that begins like this one")
        self.copy.clicked.connect(self.copy_school)
        self.keep = QPushButton("Keep in my schools")
        self.keep.setToolTip("Keep it for other forms")
        self.keep.clicked.connect(self._keep)
        self.news = QLabel()
        self.news.setWordWrap(True)
        self.news.setFont(font(10))
        left = QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(16, 12, 12, 12)
        column.setSpacing(8)
        column.addWidget(self.list, 1)
        for part in (self.judge, self.copy, self.keep, self.news):
            column.addWidget(part)
        left.setFixedWidth(300)
        self.name = QLabel()
        self.name.setFont(font(15, bold=True))
        self.summary = QLabel()
        self.summary.setWordWrap(True)
        self.summary.setFont(font(10.5))
        self.rules = QScrollArea()
        self.rules.setWidgetResizable(True)
        self.rules.setFrameShape(QFrame.Shape.NoFrame)
        self.rules.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        right = QVBoxLayout()
        right.setContentsMargins(18, 12, 8, 8)
        right.addWidget(self.name)
        right.addWidget(self.summary)
        right.addWidget(self.rules, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(left)
        row.addLayout(right, 1)
        document.form_changed.connect(self.refresh)
        document.news_changed.connect(self._say_news)

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
        before = self.list.currentRow()
        self.list.clear()
        for school in self._schools:
            self.list.addItem(school.name + ("  (this form)" if school == own else ""))
        at = self._schools.index(own) if before < 0 or self._changed_own(before) else before
        self.list.setCurrentRow(min(at, len(self._schools) - 1))
        self.list.blockSignals(False)
        self._show(self.list.currentRow())
        self._say_news()

    def _changed_own(self, before: int) -> bool:
        """Whether the school shown is now that of the form in another version."""
        return self._shown is not None and self._shown.id == self._document.form.school.id

    _shown: School | None = None

    @property
    def school(self) -> School:
        """The school that is shown."""
        return self._schools[max(self.list.currentRow(), 0)]

    def _say_news(self) -> None:
        self.news.setText(self._document.news)
        self.news.setVisible(bool(self._document.news))

    # What is done with them.

    def take(self) -> None:
        """Judges the form by the shown school."""
        self._editor.set_school(self.school)

    def copy_school(self) -> None:
        """Makes a school of one's own from the shown one, and judges by it."""
        base = self.school
        name, fine = QInputDialog.getText(self, "A school of your own", "What is it called?", QLineEdit.EchoMode.Normal,
                                          f"{base.name}, changed")  # fmt: skip
        if not fine or not name.strip():
            return
        made = "-".join(name.lower().split())
        origin = base.id if base.id in bundled_schools() else base.base
        self._editor.set_school(replace(base, id=made, name=name.strip(), base=origin))

    def _keep(self) -> None:
        try:
            library.keep_school(self.school)
        except WaltzmarkError as error:
            self._tell("The school was not kept", str(error))
        self.refresh()

    def change(self, rule: str, setting: RuleSetting) -> None:
        """Changes a rule of the form's own school."""
        school = self._document.form.school
        self._editor.set_school(replace(school, rules=dict(school.rules) | {rule: setting}))

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
        hint = (
            "Copy it to change it." if bundled else ("Change what you like; the form is judged at once." if own else "")
        )
        spine = f"Spine: {school.spine} (the score does not say it, so it is not judged)."
        self.summary.setText(f"{school.summary} {spine} {hint}")
        bar = self.rules.verticalScrollBar().value()
        page = QWidget()
        grid = QGridLayout(page)
        grid.setContentsMargins(0, 8, 12, 12)
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(4)
        grid.setColumnStretch(2, 1)
        row = self._stances(grid, school)
        for family, title in _FAMILIES.items():
            for number, rule in enumerate(r for r in RULES if r.partition(".")[0] == family and r in school.rules):
                if number == 0 and title:
                    grid.addWidget(_title(title), row, 0, 1, 3)
                    row += 1
                row = self._rule(grid, row, rule, school.rules[rule], own and not bundled)
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

    def _stances(self, grid: QGridLayout, school: School) -> int:
        """The geometry of the school's stances, for the body of the form."""
        body, say = self._document.form.body, self._document.say
        parts = []
        for name, stance in school.stances.items():
            length, width = stance.length_metres(body, body.seat), stance.width_metres(body)
            parts.append(f"<b>{name}</b> {say.length(length)} × {say.length(width)}, toes {stance.toe:.0f}°, "
                         f"rear {stance.rear_toe:.0f}°")  # fmt: skip
        grid.addWidget(_title("Stances for this body: length × width"), 0, 0, 1, 3)
        label = QLabel("  ·  ".join(parts))
        label.setWordWrap(True)
        label.setTextFormat(Qt.TextFormat.RichText)
        grid.addWidget(label, 1, 0, 1, 3)
        return 2

    def _rule(self, grid: QGridLayout, row: int, rule: str, setting: RuleSetting, editable: bool) -> int:
        name = QCheckBox(rule_words(rule.partition(".")[2] or rule))
        name.setChecked(not setting.off)
        name.setEnabled(editable)
        name.setToolTip(f"{rule}: {RULES[rule].severity}")
        name.clicked.connect(lambda on: self.change(rule, replace(setting, off=not on)))
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
        why = QLabel(setting.why + (f"<br><i>{setting.caution}</i>" if setting.caution else ""))
        why.setWordWrap(True)
        why.setTextFormat(Qt.TextFormat.RichText)
        why.setObjectName("faint" if setting.off else "")
        grid.addWidget(why, row, 2, Qt.AlignmentFlag.AlignTop)
        return row + 1

    def _choice(self, rule: str, setting: RuleSetting, key: str, value: str, editable: bool) -> QWidget:
        if not editable:
            return QLabel(f"{key}: <b>{value}</b>")
        combo = QComboBox()
        combo.setAccessibleName(f"{rule_words(rule)}: {key}")
        combo.addItems(list(CHOICES[rule, key]))
        combo.setCurrentText(value)
        combo.activated.connect(
            lambda at: self.change(
                rule, replace(setting, choices=dict(setting.choices) | {key: CHOICES[rule, key][at]})
            )
        )
        return combo

    def _limit(self, rule: str, setting: RuleSetting, key: str, value: float, editable: bool) -> QWidget:
        unit = _UNITS.get(key, "")
        words = key.replace("_", " ")
        if not editable:
            return QLabel(f"{words}: <b>{value:g}</b> {unit}")
        spin = QDoubleSpinBox()
        spin.setDecimals(_DECIMALS)
        spin.setRange(-100.0, 1000.0)
        spin.setPrefix(f"{words} ")
        spin.setSuffix(f" {unit}" if unit else "")
        spin.setValue(value)
        spin.setKeyboardTracking(False)
        spin.setAccessibleName(f"{rule_words(rule)}: {words}")
        spin.valueChanged.connect(partial(self._set_limit, rule, setting, key))
        return spin

    def _set_limit(self, rule: str, setting: RuleSetting, key: str, value: float) -> None:
        self.change(rule, replace(setting, limits=dict(setting.limits) | {key: value}))


def _title(words: str) -> QLabel:
    label = QLabel(words)
    label.setFont(font(11.5, bold=True))
    label.setContentsMargins(0, 10, 0, 2)
    return label
