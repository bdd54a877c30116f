"""A school's page: its stances, how it holds the trunk, and each rule with its reason, read or changed."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial
from typing import NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QApplication,
    QCheckBox,
    QComboBox,
    QDoubleSpinBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.judge.judging import RULES
from waltzmark.core.school.school import CHOICES, RuleSetting, School, StanceGeometry
from waltzmark.desktop.actions import menu_text
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import Label, RichLabel, rich, set_tip, wrapped
from waltzmark.desktop.ready.stances import StanceTable
from waltzmark.desktop.theme import font
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.widgets.parts import choice_box, push_button, take_place
from waltzmark.words import named
from waltzmark.words.figures import Figures
from waltzmark.words.findings import severity_name
from waltzmark.words.language import number, shipped, tr
from waltzmark.words.rules import rule_title

__all__ = ["SchoolChanges", "SchoolPage"]

_FAMILIES = {
    "weight": tr("Weight"),
    "score": tr("Score"),
    "pivot": tr("Pivots"),
    "stance": tr("Stances"),
    "split": tr("How weight is shared"),
    "step": tr("Steps"),
    "hip": tr("Hips and waist"),
    "waist": "",
    "trunk": tr("Trunk"),
    "knee": tr("Knees"),
    "balance": tr("Balance"),
    "kick": "",
    "hand": tr("Hands and eyes"),
    "gaze": "",
    "expect": tr("Expectations"),
    "posture": "",
}
#: Units of limits, whatever rule has them, and where a rule means something else by one.
_UNITS = {
    **dict.fromkeys(("share", "little", "load", "front", "light", "carries", "half", "shoulders"), "%"),
    **dict.fromkeys(("least", "most", "seat", "wide"), "%"),
    **dict.fromkeys(("angle", "slack", "together", "lean", "bend", "square", "near", "change", "within", "low"), "°"),
    **dict.fromkeys(("inward", "open", "short", "far_short"), "°"),
    **dict.fromkeys(("over", "twisted", "twist", "note", "back", "far_back"), "°"),
    **dict.fromkeys(("width", "width_light", "line", "length", "past", "margin", "far", "height", "into"), "cm"),
}
_OTHER_UNITS = {
    ("balance.weak-line", "half"): "cm",
    ("split.forward", "within"): "%",
    ("split.even", "within"): "%",
    ("knee.inward", "far"): "°",
    ("gaze.beyond", "hand"): "°",
    ("gaze.beyond", "far"): "°",
    ("gaze.beyond", "kick"): "°",
}
_DECIMALS = 1
#: Pixels: a limit's field, and its words beside it.
_FIELD, _WORDS = 96, 124
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


class SchoolChanges(NamedTuple):
    """Who is told what is changed on the page."""

    rule: Callable[[str, RuleSetting], None]
    stance: Callable[[str, StanceGeometry | None], None]  # None: it is taken out
    new_stance: Callable[[], None]
    trunk: Callable[[str, float], None]


class SchoolPage(QScrollArea):
    """What a school says, line by line. Only lines that say something else are built anew."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(tr("Stances and rules"))
        self.setWidgetResizable(True)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setObjectName("wide")  # a table of all its stances, which a narrow window scrolls
        self._changes: SchoolChanges | None = None
        self._say = Figures()
        self._rules: Sequence[str] = ()
        self._grid = QGridLayout()
        self._built: dict[str, tuple[object, tuple[QWidget, ...]]] = {}  # by line: what it is made of, and its parts
        self._line = 0

    def show_school(self, school: School, body: Body, say: Figures, changes: SchoolChanges | None) -> None:
        """Shows a school as it is for a body; without *changes* to be read only."""
        rules = [rule for family in _FAMILIES for rule in RULES if _family(rule) == family and rule in school.rules]
        bar = self.verticalScrollBar().value()
        focused = QApplication.focusWidget()
        known = focused.accessibleName() if focused is not None and self.isAncestorOf(focused) else ""
        if self._rules != rules or (changes is None) != (self._changes is None):
            self._clear(rules)
        self._changes, self._say = changes, say
        self._line = 0
        self._stances(school, body)
        self._trunk(school)
        for family, title in _FAMILIES.items():
            here = [rule for rule in rules if _family(rule) == family]
            if here and title:
                self._put(family, title, partial(_heading, title))
            for rule in here:
                setting = school.rules[rule]
                self._put(rule, (setting, say.unit), partial(self._rule, rule, setting))
        self.verticalScrollBar().setValue(bar)
        for field in (*self.findChildren(QDoubleSpinBox), *self.findChildren(QComboBox), *self.findChildren(QCheckBox)):
            if known and field.isEnabled() and field.accessibleName() == known and field is not focused:
                field.setFocus()

    def _clear(self, rules: Sequence[str]) -> None:
        # The field that was changed is in the old page and is still speaking: it goes when it has done.
        old = self.takeWidget()
        if old is not None:
            old.deleteLater()
        page = QWidget()
        self._grid = QGridLayout(page)
        self._grid.setContentsMargins(0, 8, 12, 12)
        self._grid.setHorizontalSpacing(12)
        self._grid.setVerticalSpacing(4)
        self._grid.setColumnStretch(2, 1)
        self._built.clear()
        self._rules = rules
        self.setWidget(page)

    def _put(self, line: str, made_of: object, make: Callable[[], tuple[QWidget, ...]]) -> tuple[QWidget, ...]:
        """Puts a line next, anew if it is made of something else; one part alone has the whole width."""
        built = self._built.get(line)
        if built is None or built[0] != made_of:
            parts = make()
            for column, part in enumerate(parts):
                if len(parts) == 1:
                    self._grid.addWidget(part, self._line, 0, 1, 3)
                else:
                    self._grid.addWidget(part, self._line, column, Qt.AlignmentFlag.AlignTop)
            if built is not None:
                take_place(self._grid, built[1], parts)
            self._built[line] = made_of, parts
        self._line += 1
        return self._built[line][1]

    def _stances(self, school: School, body: Body) -> None:
        """The geometry of the school's stances, and what it comes to for the body of the form."""
        changes = self._changes
        self._put("stances", "", partial(_heading, tr("Stances")))
        made_of = tuple(school.stances), school.base
        stance = changes.stance if changes is not None else None
        (table,) = self._put("table", made_of, lambda: (StanceTable(stance),))
        assert isinstance(table, StanceTable)
        table.show_school(school, body, self._say)
        if changes is not None:
            self._put("new stance", "", lambda: (_new_stance(changes.new_stance),))

    def _trunk(self, school: School) -> None:
        """How the school holds the trunk."""
        self._put("held trunk", "", partial(_heading, tr("Trunk")))
        for key in _TRUNK:
            degrees: float = getattr(school, key)
            self._put(key, degrees, partial(self._trunk_line, key, degrees))

    def _trunk_line(self, key: str, degrees: float) -> tuple[QWidget, ...]:
        words, least, most, means = _TRUNK[key]
        value: QWidget = RichLabel(f"<b>{number(degrees)}</b>°")
        changes = self._changes
        if changes is not None:
            spin = number_field(tr("Trunk: {words}", words=words), least, most, 0)
            spin.setSuffix("°")
            spin.setMaximumWidth(_FIELD)
            spin.setValue(degrees)
            spin.valueChanged.connect(safely(lambda typed: changes.trunk(key, typed)))
            value = spin
        return Label(words), value, wrapped(means)

    def _rule(self, rule: str, setting: RuleSetting) -> tuple[QWidget, ...]:
        changes = self._changes
        name = QCheckBox(menu_text(rule_title(rule)))
        name.setChecked(not setting.off)
        name.setEnabled(changes is not None)
        set_tip(name, f"{severity_name(RULES[rule].severity)}  ({rule})")
        if changes is not None:
            name.clicked.connect(safely(lambda on: changes.rule(rule, replace(setting, off=not on))))
        values = QWidget()
        column = QVBoxLayout(values)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        for key, choice in setting.choices.items():
            column.addWidget(self._choice(rule, setting, key, choice))
        for key, value in setting.limits.items():
            column.addWidget(self._limit(rule, setting, key, value))
        caution = f"<br><i>{rich(shipped(setting.caution))}</i>" if setting.caution else ""
        why = RichLabel(rich(shipped(setting.why)) + caution)
        why.setWordWrap(True)
        why.setObjectName("faint" if setting.off else "")
        return name, values, why

    def _choice(self, rule: str, setting: RuleSetting, key: str, value: str) -> QWidget:
        changes = self._changes
        if changes is None:
            return RichLabel(f"{rich(named.limit(key, rule))}: <b>{rich(named.choice(value))}</b>")
        can_be = CHOICES[rule, key]
        combo = choice_box(f"{rule_title(rule)}: {named.limit(key, rule)}", [named.choice(each) for each in can_be])
        combo.setCurrentText(named.choice(value))

        def choose(at: int) -> None:
            changes.rule(rule, replace(setting, choices=dict(setting.choices) | {key: can_be[at]}))

        combo.activated.connect(safely(choose))
        return _beside(named.limit(key, rule), combo)

    def _limit(self, rule: str, setting: RuleSetting, key: str, value: float) -> QWidget:
        changes = self._changes
        unit, one = _OTHER_UNITS.get((rule, key), _UNITS.get(key, "")), 1.0
        if unit == "cm" and self._say.unit in ("in", "m"):
            unit, one = self._say.unit, 100.0 * self._say.metres_of_unit
        words = named.limit(key, rule)
        if changes is None:
            return RichLabel(f"{rich(words)}: <b>{number(round(value / one, 2))}</b>{'' if unit == '°' else ' '}{unit}")
        name, decimals = f"{rule_title(rule)}: {words}", 3 if unit == "m" else _DECIMALS
        spin = number_field(name, -100.0 / one, 1000.0 / one, decimals, _FIELD)
        spin.setSingleStep(0.01 if unit == "m" else 1.0)
        spin.setSuffix(unit if unit in ("", "°") else f" {unit}")
        spin.setValue(value / one)

        def limit(typed: float) -> None:
            changes.rule(rule, replace(setting, limits=dict(setting.limits) | {key: round(typed * one, 2)}))

        spin.valueChanged.connect(safely(limit))
        return _beside(words, spin)


def _family(rule: str) -> str:
    return rule.partition(".")[0]


def _beside(words: str, field: QWidget) -> QWidget:
    """A field with its words before it, in as many lines as they need; both below each other where it is a wide one."""
    line = QWidget()
    row = QHBoxLayout(line) if field.maximumWidth() == _FIELD else QVBoxLayout(line)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(4)
    label = wrapped(words)
    label.setFixedWidth(_WORDS if field.maximumWidth() == _FIELD else _WORDS + 4 + _FIELD)
    row.addWidget(label)
    row.addWidget(field)
    return line


def _new_stance(ask: Callable[[], None]) -> QWidget:
    line = QWidget()
    row = QHBoxLayout(line)
    row.setContentsMargins(0, 0, 0, 0)
    row.addWidget(
        push_button(tr("Add a stance …"), ask, tr("A stance of your own, to be written in the score by its name"))
    )
    row.addStretch(1)
    return line


def _heading(words: str) -> tuple[QWidget, ...]:
    label = Label(words)
    label.setFont(font(11.5, bold=True))
    label.setContentsMargins(0, 10, 0, 2)
    return (label,)
