"""The fields of the body: every measure by proportion until it is typed over, sides apart where they may differ."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtWidgets import (
    QCheckBox,
    QComboBox,
    QDoubleSpinBox,
    QGridLayout,
    QScrollArea,
    QToolButton,
    QWidget,
)

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import METRES
from waltzmark.core.body.body import MEASURES, RANGES, SOLES, Body, Sided, sided
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.plain import Label, faint, set_tip
from waltzmark.desktop.theme import font
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.widgets.parts import choice_box, push_button, refill
from waltzmark.files import library
from waltzmark.words import named
from waltzmark.words.errors import explained
from waltzmark.words.language import number, tr

__all__ = ["MeasuresPanel"]

_NAMES = {
    "foot_length": tr("Foot length"),
    "foot_breadth": tr("Foot breadth"),
    "ankle_height": tr("Ankle height"),
    "shank": tr("Shank"),
    "thigh": tr("Thigh"),
    "hip_breadth": tr("Hip breadth"),
    "shoulder_breadth": tr("Shoulder breadth"),
    "arm": tr("Arm"),
    "hip_spacing": tr("Hip joints apart"),
}
_SIDED = {
    "knee_bend": (tr("Knee, comfortable"), 5.0, 120.0),
    "knee_most": (tr("Knee, greatest"), 5.0, 150.0),
    "knee_one": (tr("Knee, on one leg"), 5.0, 150.0),
    "hip_out": (tr("Hip turn outward"), 1.0, 90.0),
    "hip_in": (tr("Hip turn inward"), 1.0, 90.0),
    "waist": (tr("Waist turn"), 1.0, 90.0),
    "ankle": (tr("Ankle, heel down"), 1.0, 80.0),
}
_TIPS = {
    "knee_one": tr("The deepest knee bend while that leg carries all the weight"),
    "waist": tr(
        "How far the chest turns against the pelvis, to the left and to the right. The usual clinical norm for "
        "rotation of the trunk is 45° each way (American Academy of Orthopaedic Surgeons)"
    ),
    "ankle": tr("How far the shin leans forward while the heel stays down"),
}
_AS_MEASURED = tr("as measured")
_SPARED = {"": tr("neither side"), "left": tr("left side"), "right": tr("right side")}


@guarded
class MeasuresPanel(QScrollArea):
    """Edits the body of the document; every change is one undo step."""

    def __init__(self, document: Document, editor: Editor, asking: Asking, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self._editor, self._asking = document, editor, asking
        self._own = False
        self.setAccessibleName(tr("Measures"))
        self.setWidgetResizable(True)
        self.setFrameShape(QScrollArea.Shape.NoFrame)
        page = QWidget(self.viewport())
        self._grid = QGridLayout(page)
        self._grid.setContentsMargins(16, 12, 12, 12)
        self._grid.setHorizontalSpacing(8)
        self._grid.setVerticalSpacing(5)
        self._grid.setColumnStretch(0, 1)
        self._row = 0
        self.kept = choice_box(tr("Saved bodies"), run=self._take, narrow=True)
        self.keep = push_button(tr("Save as …"), self._keep, tr("Saves this body under a name, to use in other forms"))
        self._heading(tr("Body"))
        self._grid.addWidget(self.kept, self._row, 0, 1, 2)
        self._grid.addWidget(self.keep, self._row, 2)
        self._row += 1
        self.stature = self._length(tr("Stature"), 0.5, 2.8, lambda v: self._set("stature", v))
        self.mass = self._spin(tr("Mass"), 10.0, 400.0, " kg", 0, lambda v: self._set("mass", v))
        self._heading(tr("Ranges"), tr("left"), tr("right"))
        self.ranges = self._choice(
            tr("Starting values"),
            [*map(named.ranges, RANGES), _AS_MEASURED],
            self._take_ranges,
        )
        self.sided: dict[str, list[QDoubleSpinBox]] = {}
        for key, (name, least, most) in _SIDED.items():
            self._label(name)
            self.sided[key] = []
            for side in SIDES:
                changed = partial(self._set_side, key, side)
                spin = self._made(
                    tr("{range}, {side}", range=name, side=named.side(side.word)), least, most, "°", 0, changed
                )
                set_tip(spin, _TIPS.get(key, ""))
                self._grid.addWidget(spin, self._row, 1 + side)
                self.sided[key].append(spin)
            self._row += 1
        self.spare = self._choice(tr("Side to protect"), list(_SPARED.values()), self._spare)
        set_tip(
            self.spare, tr("Hip, ankle and one-leg knee ranges on that side count as three quarters of what is set")
        )
        self._heading(tr("Measures"), "", "")
        self.lengths: dict[str, QDoubleSpinBox] = {}
        self.resets: dict[str, QToolButton] = {}
        for key in MEASURES:
            self.lengths[key] = self._length(_NAMES[key], 0.005, 1.5, partial(self._measure, key))
            reset = QToolButton()
            reset.setText(tr("from stature"))
            set_tip(reset, tr("{measure}: work it out from the stature", measure=_NAMES[key]))
            reset.clicked.connect(safely(partial(self._unmeasure, key)))
            self._grid.addWidget(reset, self._row - 1, 2)
            self.resets[key] = reset
            if key == "foot_length":
                self.left_foot = self._length(tr("Left foot, if different"), 0.0, 0.5, self._set_left_foot)
                self.left_foot.setSpecialValueText(tr("as the right"))
                self.left_foot.setFixedWidth(128)
                self._grid.addWidget(self.left_foot, self._row - 1, 1, 1, 2)
        self._heading(tr("Soles, floor and hands"))
        self.soles = choice_box(
            tr("Soles on the floor"),
            [f"{named.soles(name)} ({number(mu)})" for name, mu in SOLES.items()],
            lambda at: self._set("friction", list(SOLES.values())[at]),
            narrow=True,
        )
        self._grid.addWidget(self.soles, self._row, 0, 1, 3)
        self._row += 1
        self.implement = self._length(tr("Length of anything held"), 0.0, 5.0, lambda v: self._set("implement", v))
        self.support = QCheckBox(tr("A support stands within reach"))
        self.support.clicked.connect(safely(lambda on: self._set("support", on)))
        self._grid.addWidget(self.support, self._row, 0, 1, 3)
        self._grid.setRowStretch(self._row + 1, 1)
        self.setWidget(page)
        document.form_changed.connect(safely(self.refresh))
        document.session.figures_changed.connect(safely(self.refresh))
        self.refresh()

    def let_go(self) -> None:
        """Follows the document no more: it goes."""
        self._document.form_changed.disconnect(safely(self.refresh))
        self._document.session.figures_changed.disconnect(safely(self.refresh))

    # Building.

    @property
    def needs(self) -> int:
        """Pixels across that all of it takes."""
        page = self.widget()
        return 0 if page is None else page.minimumSizeHint().width() + 20

    def _heading(self, words: str, *columns: str) -> None:
        label = Label(words)
        label.setFont(font(11.5, bold=True))
        self._grid.addWidget(label, self._row, 0)
        for column, word in enumerate(columns, 1):
            small = faint(word)
            self._grid.addWidget(small, self._row, column)
        self._row += 1

    def _label(self, words: str) -> None:
        label = Label(words)
        label.setWordWrap(True)
        label.setMinimumWidth(120)
        self._grid.addWidget(label, self._row, 0)

    def _made(
        self, name: str, least: float, most: float, suffix: str, decimals: int, changed: Callable[[float], None]
    ) -> QDoubleSpinBox:
        spin = number_field(name, least, most, decimals, width=92)
        spin.setSuffix(suffix)
        spin.valueChanged.connect(safely(lambda value: None if self._own else changed(value)))
        return spin

    def _choice(self, name: str, choices: list[str], chosen: Callable[[int], None]) -> QComboBox:
        self._label(name)
        box = choice_box(name, choices, chosen, narrow=True)
        self._grid.addWidget(box, self._row, 1, 1, 2)
        self._row += 1
        return box

    def _spin(
        self,
        name: str,
        least: float,
        most: float,
        suffix: str,
        decimals: int,
        changed: Callable[[float], None],
    ) -> QDoubleSpinBox:
        self._label(name)
        spin = self._made(name, least, most, suffix, decimals, changed)
        self._grid.addWidget(spin, self._row, 1)
        self._row += 1
        return spin

    def _length(self, name: str, least: float, most: float, changed: Callable[[float], None]) -> QDoubleSpinBox:
        """A field of a length, shown in the unit that lengths are said in; the range is in metres."""
        spin = self._spin(name, least, most, "", 1, lambda value: changed(value * self._unit[1]))
        spin.setProperty("metres", (least, most))
        return spin

    @property
    def _unit(self) -> tuple[str, float]:
        """The unit that lengths are typed in, and its metres: the user's, where a body can be told in it."""
        unit = self._document.session.say.unit
        return (unit, METRES[unit]) if unit in ("cm", "m", "in") else ("cm", 0.01)

    # Between fields and document.

    @property
    def body(self) -> Body:
        return self._document.form.body

    def put(self, body: Body, words: str) -> None:
        """Lets another body be the one."""
        self._editor.set_body(body, words)

    def refresh(self) -> None:
        """Shows the body as it is."""
        if not self.isVisible() and self._row == 0:
            return
        self._own = True
        body, (unit, metres) = self.body, self._unit
        for spin, value in (
            (self.stature, body.stature),
            (self.implement, body.implement),
            (self.left_foot, body.left_foot),
            *((self.lengths[key], body.measure(key)) for key in MEASURES),
        ):
            least, most = spin.property("metres")
            spin.setDecimals(3 if unit == "m" else 1)
            spin.setRange(least / metres, most / metres)
            spin.setSuffix(f" {unit}")
            spin.setSingleStep(0.01 if unit == "m" else 1.0)
            spin.setValue(value / metres)
        self.mass.setValue(body.mass)
        for key, spins in self.sided.items():
            for side in SIDES:
                spins[side].setValue(sided(getattr(body, key), side))
        usual = (n for n, values in enumerate(RANGES.values()) if all(getattr(body, k) == v for k, v in values.items()))
        self.ranges.setCurrentIndex(next(usual, len(RANGES)))
        self.spare.setCurrentIndex(list(_SPARED).index(body.spare))
        measured = dict(body.measured)
        for key, reset in self.resets.items():
            reset.setEnabled(key in measured)
            reset.setText(tr("from stature") if key not in measured else tr("measured ×"))
        near = min(range(len(SOLES)), key=lambda n: abs(list(SOLES.values())[n] - body.friction))
        self.soles.setCurrentIndex(near)
        self.support.setChecked(body.support)
        self._show_kept()
        self._own = False

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self._show_kept()

    def _show_kept(self) -> None:
        self._bodies = library.bodies() if self.isVisible() else ()
        others = [body.name for body in self._bodies if body.name != self.body.name]
        refill(self.kept, [self.body.name or tr("this form’s own"), *others], 0)

    def _change(self, words: str, **changes: Any) -> None:
        """The body with other values; what cannot be is told, and the fields show what is."""
        try:
            self.put(replace(self.body, **changes), words)
        except WaltzmarkError as error:
            self._asking.tell(tr("Not a possible body"), explained(error))
        self.refresh()

    def _set(self, key: str, value: float | bool) -> None:
        names = {
            "stature": "stature",
            "mass": "mass",
            "friction": tr("soles"),
            "support": tr("support within reach"),
            "implement": tr("what the hand holds"),
        }
        self._change(tr("set the {names}", names=names[key]), **{key: value})

    def _set_side(self, key: str, side: Side, value: float) -> None:
        old: Sided = getattr(self.body, key)
        both = [sided(old, each) for each in SIDES]
        both[side] = value
        new: Sided = both[0] if both[0] == both[1] else (both[0], both[1])
        self._change(
            tr("set {measure}, {side}", measure=_SIDED[key][0].lower(), side=named.side(side.word)), **{key: new}
        )

    def _take_ranges(self, at: int) -> None:
        """Ranges that people have, all at once; what has been measured since stays what it is."""
        if at < len(RANGES):
            name = list(RANGES)[at]
            self._change(tr("use {ranges}", ranges=named.ranges(name)), **RANGES[name])
        else:
            self.refresh()

    def _spare(self, at: int) -> None:
        side = list(_SPARED)[at]
        self._change(
            tr("protect the {side} side", side=named.side(side)) if side else tr("protect neither side"), spare=side
        )

    def _measure(self, key: str, metres: float) -> None:
        measured = dict(self.body.measured) | {key: round(metres, 4)}
        ordered = tuple((name, measured[name]) for name in MEASURES if name in measured)
        self._change(tr("measure the {measure}", measure=_NAMES[key].lower()), measured=ordered)

    def _set_left_foot(self, metres: float) -> None:
        """The left foot by itself; the right one counts as measured then."""
        body = self.body
        measured = dict(body.measured) | {"foot_length": round(body.foot_length, 4)} if metres else dict(body.measured)
        ordered = tuple((name, measured[name]) for name in MEASURES if name in measured)
        self._change(tr("measure the left foot"), left_foot=round(metres, 4), measured=ordered)

    def _unmeasure(self, key: str, _checked: bool = False) -> None:
        left = tuple((name, value) for name, value in self.body.measured if name != key)
        foot = 0.0 if key == "foot_length" else self.body.left_foot
        self._change(tr("{measure} by stature", measure=_NAMES[key].lower()), measured=left, left_foot=foot)

    # The library.

    def _take(self, at: int) -> None:
        chosen = next((body for body in self._bodies if body.name == self.kept.itemText(at)), None)
        if chosen is not None and chosen != self.body:
            self.put(chosen, tr("take the body of {name}", name=chosen.name))

    def _keep(self) -> None:
        name = self._asking.text(tr("Save this body"), tr("Save it under which name?"), self.body.name)
        if not name:
            return
        body = replace(self.body, name=name)
        if library.replaced_by(body) and not self._asking.replaces("body", name):
            return
        try:
            library.keep_body(body)
        except WaltzmarkError as error:
            self._asking.tell(tr("The body was not saved"), explained(error))
            return
        self._change(tr("name the body {name}", name=body.name), name=body.name)
