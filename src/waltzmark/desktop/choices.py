"""What is chosen once and holds everywhere: how facings and lengths are said, and what a dragged foot keeps to."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import fields, replace

from PySide6.QtCore import QObject
from PySide6.QtGui import QAction, QActionGroup
from PySide6.QtWidgets import QMenu, QWidget

from waltzmark.core.base.figures import FACINGS, LENGTHS, FacingWay, Figures, LengthUnit
from waltzmark.core.edit.snapping import Snaps
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import set_tip

__all__ = ["Choices"]

_FACINGS: dict[str, str] = {
    "clock": "By the &clock on the floor (10:30)",
    "own": "By the &walker's own clock (~10:30)",
    "compass": "By the com&pass (NW)",
    "degrees": "In &degrees (315°)",
}
_LENGTHS: dict[str, str] = {
    "cm": "&Centimetres",
    "m": "&Metres",
    "in": "&Inches",
    "fl": "&Foot lengths",
    "sw": "&Shoulder widths",
}
_SNAPS = {
    "facings": "Half hours of the &clock",
    "stances": "Lengths and widths of &stances",
    "boards": "&Lines of the floor",
    "marks": "Earlier &marks",
}


class Choices(QObject):
    """The menus of choices of a window, kept in its settings."""

    def __init__(self, desk: Desk, window: QWidget) -> None:
        super().__init__(window)
        self._window, self._desk = window, desk
        settings = desk.settings
        facings: FacingWay = next((f for f in FACINGS if f == settings.text("facings", "clock")), "clock")
        unit: LengthUnit = next((u for u in LENGTHS if u == settings.text("lengths", "cm")), "cm")
        off = settings.text("snaps_off", "").split()
        desk.editor.snaps = Snaps(**{each.name: each.name not in off for each in fields(Snaps)})
        desk.document.set_figures(Figures(facings, unit))
        self.facings = self._group(_FACINGS, facings, lambda way: self._say(facings=way))
        self.lengths = self._group(_LENGTHS, unit, lambda way: self._say(unit=way))
        self.snaps = [self._snap(name, words) for name, words in _SNAPS.items()]

    def _group(self, ways: dict[str, str], now: str, choose: Callable[[str], None]) -> list[QAction]:
        group = QActionGroup(self)
        made = []
        for way, words in ways.items():
            action = QAction(words, self._window)
            action.setCheckable(True)
            action.setChecked(way == now)
            action.setData(way)
            action.triggered.connect(safely(lambda _checked=False, way=way: choose(way)))
            group.addAction(action)
            made.append(action)
        return made

    def _say(self, **changes: str) -> None:
        document = self._desk.document
        figures = replace(document.say, **changes)  # type: ignore[arg-type]
        self._desk.settings.set_text("facings", figures.facings)
        self._desk.settings.set_text("lengths", figures.unit)
        document.set_figures(figures)

    def _snap(self, name: str, words: str) -> QAction:
        action = QAction(words, self._window)
        action.setCheckable(True)
        action.setChecked(getattr(self._desk.editor.snaps, name))
        action.toggled.connect(safely(lambda on: self._set_snap(name, on)))
        return action

    def _set_snap(self, name: str, on: bool) -> None:
        editor = self._desk.editor
        editor.snaps = replace(editor.snaps, **{name: on})
        off = [each.name for each in fields(Snaps) if not getattr(editor.snaps, each.name)]
        self._desk.settings.set_text("snaps_off", " ".join(off))

    def add_to(self, menu: QMenu) -> None:
        """Puts the choices at the end of a menu."""
        menu.addSeparator()
        for title, actions, tip in (
            ("Say f&acings", self.facings, "How facings are said everywhere; the score keeps what was written"),
            ("Say &lengths in", self.lengths, "How lengths are said everywhere; the score keeps what was written"),
            ("Dragging &keeps to", self.snaps, "What a dragged foot keeps to; Alt held turns it off"),
        ):
            under = menu.addMenu(title)
            set_tip(under.menuAction(), tip)
            for action in actions:
                under.addAction(action)
