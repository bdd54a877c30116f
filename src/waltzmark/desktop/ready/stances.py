"""A school's stances: where each puts the feet, as its file says it and for the body of the form; read or changed."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QDoubleSpinBox, QGridLayout, QHBoxLayout, QToolButton, QWidget

from waltzmark.core.base.leftright import Contact
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import METRES, Length, number_text, written_length
from waltzmark.core.body.body import Body
from waltzmark.core.body.reach import longest_empty_length
from waltzmark.core.school.school import NAMED_WIDTHS, ReachShare, School, StanceGeometry, load_school
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import Label, faint, set_tip
from waltzmark.desktop.theme import font
from waltzmark.desktop.widgets.fields import number_field
from waltzmark.desktop.widgets.parts import choice_box, take_place
from waltzmark.words.figures import Figures
from waltzmark.words.language import number, tr

__all__ = ["StanceTable"]

_REACH = "reach"
_UNITS = {unit: unit for unit in METRES} | {
    "fl": tr("foot lengths"),
    "sw": tr("shoulder breadths"),
    "hw": tr("hip breadths"),
}
_NAMED = {
    "together": tr("feet together"),
    "vee": tr("heels together"),
    "hip": tr("hip width"),
    "shoulder": tr("shoulder width"),
}
_LANDS = {
    "": tr("any"),
    "heel": tr("on the heel"),
    "ball": tr("on the ball"),
    "flat": tr("flat"),
    "air": tr("stays in the air"),
}
_LANDING = {
    "": tr("lands in any way"),
    "heel": tr("lands on the heel"),
    "ball": tr("lands on the ball"),
    "flat": tr("lands flat"),
    "air": tr("stays in the air"),
}
#: Metres within which a stance is kept; negative widths are crossed.
_LENGTHS, _WIDTHS = (0.0, 2.0), (-0.5, 2.0)
#: Pixels: both fields of a length together, the gap between them, the number's.
_FIELDS, _GAP, _WIDE = 250, 4, 80
_LINES = 3  # of the grid for a stance: two that say something, and a gap

Changed = Callable[[str, StanceGeometry | None], None]


class StanceTable(QWidget):
    """A row a stance. *changed* is told a name and its new geometry, None where it is taken out.

    Only rows that say something else than before are built anew.
    """

    def __init__(self, changed: Changed | None) -> None:
        super().__init__()
        self._changed = changed
        self._rows: dict[str, tuple[object, tuple[QWidget, ...]]] = {}  # by stance: what is said of it, and its parts
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(12)
        self._grid.setVerticalSpacing(3)
        heads = ("", tr("for this body"), tr("length"), tr("width"), tr("toes"), tr("rear toes"), tr("lands"))
        self._line(0, [_faint(words) for words in (heads if changed is None else (tr("for this body"), *heads[2:4]))])
        self._grid.setColumnStretch(7, 1)

    def show_school(self, school: School, body: Body, say: Figures) -> None:
        """Says the stances as a school has them, for a body. They are the same ones each time."""
        self._school, self._body, self._say = school, body, say
        for row, (name, stance) in enumerate(school.stances.items()):
            said = stance, say, body
            old = self._rows.get(name)
            if old is None or old[0] != said:
                make = self._read if self._changed is None else self._edited
                parts = make(1 + _LINES * row, name, stance)
                if old is not None:
                    take_place(self._grid, old[1], parts)
                self._rows[name] = said, parts

    def _line(self, row: int, parts: Sequence[QWidget]) -> None:
        for column, part in enumerate(parts):
            self._grid.addWidget(part, row, column, Qt.AlignmentFlag.AlignLeft)

    def _read(self, row: int, name: str, stance: StanceGeometry) -> tuple[QWidget, ...]:
        texts = (
            self._size(name),
            _length_words(stance),
            _width_words(stance),
            f"{number(stance.toe)}°",
            f"{number(stance.rear_toe)}°",
            _LANDS[stance.land],
        )
        parts = (_bold(name), *(Label(text) for text in texts))
        self._line(row, parts)
        return parts

    def _edited(self, row: int, name: str, stance: StanceGeometry) -> tuple[QWidget, ...]:
        """Two lines: length and width, and under them the toes and the landing."""
        front = self._degrees(name, stance, "toe", tr("toes"), 90)
        rear = self._degrees(name, stance, "rear_toe", tr("rear toes"), _FIELDS - _GAP - 90)
        lands = choice_box(
            tr("{name}: lands on", name=name),
            list(_LANDING.values()),
        )
        lands.setFixedWidth(_FIELDS)
        lands.setCurrentIndex(list(_LANDS).index(stance.land))
        lands.activated.connect(safely(lambda at: self._change(name, stance, land=list(_LANDS)[at])))
        out = QToolButton()
        out.setText("×")
        out.setAccessibleName(tr("{name}: remove", name=name))
        set_tip(out, tr("Remove {name} from this school", name=name))
        out.clicked.connect(safely(lambda: self._changed and self._changed(name, None)))
        bundled = load_school(self._school.base or "broad-frame").stances
        title = _bold(name) if name in bundled else _together(_bold(name), out)
        above = title, self._length(name, stance), self._width(name, stance)
        below = Label(self._size(name)), _together(front, rear), lands
        self._line(row, above)
        self._line(row + 1, below)
        self._grid.setRowMinimumHeight(row + 2, 4)
        return (*above, *below)

    def _size(self, name: str) -> str:
        length, width = self._metres(name)
        return f"{self._say.length(length)} × {self._say.length(width)}".replace("-", "−")

    def _metres(self, name: str) -> tuple[float, float]:
        """Length and width of a stance at the body's seat, stepped ahead of a rear foot as the stance turns it."""
        rear = self._school.stances[name].rear_toe
        return self._school.stance_size(name, self._body, self._body.seat, away=-rear)[:2]

    def _change(self, name: str, stance: StanceGeometry, **values: Any) -> None:
        if self._changed is not None:
            self._changed(name, replace(stance, **values))

    # Fields.

    def _degrees(self, name: str, stance: StanceGeometry, key: str, words: str, width: int) -> QDoubleSpinBox:
        spin = _spin(f"{name}: {words}", -90.0, 90.0, 0, getattr(stance, key), width)
        spin.setAlignment(Qt.AlignmentFlag.AlignLeft)
        spin.setPrefix(f"{words} ")
        spin.setSuffix("°")
        spin.setToolTip(tr("Degrees outward from the facing; negative is inward"))
        spin.valueChanged.connect(safely(lambda value: self._change(name, stance, **{key: value})))
        return spin

    def _length(self, name: str, stance: StanceGeometry) -> QWidget:
        metres = self._metres(name)[0]
        reach = longest_empty_length(
            self._body,
            self._body.seat,
            stance.width_metres(self._body),
            contact=Contact.of(stance.land) if stance.land else Contact.HEEL,
            away=-stance.rear_toe,
            toe=-stance.rear_toe - stance.toe,
        )

        def write(value: float, unit: str) -> None:
            length = ReachShare(value / 100.0) if unit == _REACH else number_text(value) + unit
            self._change(name, stance, length=length)

        def turn(unit: str) -> None:
            share = min(max(100.0 * metres / reach if reach else 0.0, 1.0), 150.0)
            write(round(share) if unit == _REACH else self._in(metres, unit), unit)

        if isinstance(stance.length, str):
            written = written_length(stance.length)
            spin = self._spin_of(tr("{name}: length", name=name), written, _LENGTHS)
            unit = written.unit
        else:
            spin, unit = (
                _spin(tr("{name}: length", name=name), 1.0, 150.0, 0, 100.0 * stance.length.reach, _WIDE),
                _REACH,
            )
        spin.valueChanged.connect(safely(lambda value: write(value, unit)))
        return _together(
            spin, _combo(tr("{name}: unit of length", name=name), {_REACH: tr("% of reach"), **_UNITS}, unit, turn)
        )

    def _width(self, name: str, stance: StanceGeometry) -> QWidget:
        metres = stance.width_metres(self._body)

        def turn(unit: str) -> None:
            width = unit if unit in NAMED_WIDTHS else number_text(self._in(metres, unit)) + unit
            self._change(name, stance, width=width)

        if stance.width in NAMED_WIDTHS:
            named = _combo(tr("{name}: unit of width", name=name), {**_NAMED, **_UNITS}, stance.width, turn)
            named.setFixedWidth(_FIELDS)
            return named
        written = written_length(stance.width)
        spin = self._spin_of(tr("{name}: width", name=name), written, _WIDTHS)
        spin.valueChanged.connect(
            safely(lambda value: self._change(name, stance, width=number_text(value) + written.unit))
        )
        return _together(spin, _combo(tr("{name}: unit of width", name=name), {**_NAMED, **_UNITS}, written.unit, turn))

    def _spin_of(self, name: str, written: Length, within: tuple[float, float]) -> QDoubleSpinBox:
        metres = Length(1.0, written.unit).metres(self._body)
        spin = _spin(name, within[0] / metres, within[1] / metres, _decimals(metres), written.value, _WIDE)
        spin.setSingleStep(1.0 if metres < 0.05 else 0.05)
        return spin

    def _in(self, metres: float, unit: str) -> float:
        """A length in another unit, as near as its field can tell it."""
        one = Length(1.0, unit).metres(self._body)
        return round(metres / one, _decimals(one))


def _decimals(metres: float) -> int:
    """Decimals that tell the millimetre or so in a unit of some metres."""
    if metres < 0.005:
        return 0
    if metres < 0.05:
        return 1
    return 2


def _length_words(stance: StanceGeometry) -> str:
    if isinstance(stance.length, ReachShare):
        return tr("{reach} % of reach", reach=number(100 * stance.length.reach))
    return _written_words(stance.length)


def _width_words(stance: StanceGeometry) -> str:
    return _NAMED[stance.width] if stance.width in NAMED_WIDTHS else _written_words(stance.width)


def _written_words(text: str) -> str:
    written = written_length(text)
    width = f"{number_text(abs(written.value))} {_UNITS[written.unit]}"
    return tr("{width}, crossed", width=width) if written.value < 0 else width


def _spin(name: str, least: float, most: float, decimals: int, value: float, width: int = 0) -> QDoubleSpinBox:
    # A file may say more than the field would let one type.
    spin = number_field(name, min(least, value), max(most, value), decimals, width)
    spin.setValue(value)
    return spin


def _combo(name: str, choices: dict[str, str], now: str, chosen: Callable[[str], None]) -> QComboBox:
    combo = choice_box(name, list(choices.values()))
    combo.setFixedWidth(_FIELDS - _GAP - _WIDE)
    combo.setCurrentIndex(list(choices).index(now))
    combo.activated.connect(safely(lambda at: None if list(choices)[at] == now else chosen(list(choices)[at])))
    return combo


def _together(*parts: QWidget) -> QWidget:
    both = QWidget()
    row = QHBoxLayout(both)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(_GAP)
    for part in parts:
        row.addWidget(part)
    return both


def _bold(words: str) -> Label:
    label = Label(words)
    label.setFont(font(10.5, bold=True))
    return label


def _faint(words: str) -> Label:
    return faint(words)
