"""Buttons and choices, made in one line."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from itertools import pairwise

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QLayout, QPushButton, QWidget

from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import set_tip

__all__ = ["choice_box", "push_button", "quiet", "refill", "row_of", "take_place"]


def push_button(words: str, run: Callable[[], object], tip: str = "", name: str = "") -> QPushButton:
    """A button that does something. name: of its style."""
    made = QPushButton(words)
    if tip:
        set_tip(made, tip)
    if name:
        made.setObjectName(name)
    made.clicked.connect(safely(lambda _checked=False: run()))
    return made


def choice_box(
    name: str, lines: Sequence[str] = (), run: Callable[[int], object] | None = None, narrow: bool = False
) -> QComboBox:
    """One of several lines. name: for those who hear it; run: is given the number of the line that a hand has chosen;
    narrow: it takes the room there is, however long its lines."""
    box = QComboBox()
    box.setAccessibleName(name)
    if narrow:
        box.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
    box.addItems(list(lines))
    if run is not None:
        box.activated.connect(safely(run))
    return box


def refill(box: QComboBox, lines: Sequence[str], at: int = -1) -> bool:
    """Gives a choice other lines, without anybody being told; whether they are others. at: the line that is chosen;
    else what was chosen stays so where it is still there."""
    same = list(lines) == [box.itemText(n) for n in range(box.count())]
    chosen = box.currentText()
    with quiet(box):
        if not same:
            box.clear()
            box.addItems(list(lines))
        if at >= 0 or not same:
            box.setCurrentIndex(at if at >= 0 else max(box.findText(chosen), 0))
    return not same


@contextmanager
def quiet(*widgets: QWidget) -> Iterator[None]:
    """What is changed in widgets meanwhile is told to nobody."""
    before = [widget.blockSignals(True) for widget in widgets]
    try:
        yield
    finally:
        for widget, blocked in zip(widgets, before, strict=True):
            widget.blockSignals(blocked)


def take_place(layout: QLayout, old: Sequence[QWidget], new: Sequence[QWidget]) -> None:
    """Parts of a layout, which are in it already, take the place of others, for the Tab key too. The old ones go when
    the one that was changed has done speaking."""
    order = [*_stops(old)[-1:], *_stops(new)]
    for before, stop in pairwise(order):
        QWidget.setTabOrder(before, stop)
    away = QWidget(old[0].window())
    for part in old:
        layout.removeWidget(part)
        part.setParent(away)
    away.deleteLater()


def _stops(parts: Sequence[QWidget]) -> list[QWidget]:
    """What of some widgets, and in them, the Tab key goes to."""
    every = (each for part in parts for each in (part, *part.findChildren(QWidget)) if each.window() is part.window())
    return [each for each in every if each.focusPolicy() & Qt.FocusPolicy.TabFocus and each.focusProxy() is None]


def row_of(*parts: QWidget, wide: QWidget | None = None) -> QHBoxLayout:
    """Widgets beside each other. wide: the one that takes the room there is."""
    row = QHBoxLayout()
    for part in parts:
        row.addWidget(part, int(part is wide))
    return row
