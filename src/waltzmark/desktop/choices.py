"""What is chosen once and holds everywhere: how facings and lengths are shown, what a dragged foot snaps to, and the
language."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QObject
from PySide6.QtGui import QAction, QActionGroup
from PySide6.QtWidgets import QMenu, QWidget

from waltzmark.core.base.records import field_names, replace
from waltzmark.core.edit.snapping import Snaps
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import set_tip
from waltzmark.words.figures import FACINGS, LENGTHS, FacingWay, Figures, LengthUnit
from waltzmark.words.language import languages, own_name, tr

__all__ = ["Choices"]

_FACINGS: dict[str, str] = {
    "clock": tr("By the &clock on the floor (10:30)"),
    "own": tr("By the &walker’s own clock (~10:30)"),
    "compass": tr("By the com&pass (NW)"),
    "degrees": tr("In &degrees (315°)"),
}
_LENGTHS: dict[str, str] = {
    "cm": tr("&Centimetres"),
    "m": tr("&Metres"),
    "in": tr("&Inches"),
    "fl": tr("&Foot lengths"),
    "sw": tr("&Shoulder widths"),
}
_SNAPS = {
    "facings": tr("Half hours of the &clock"),
    "stances": tr("Lengths and widths of &stances"),
    "boards": tr("&Lines of the floor"),
    "marks": tr("Earlier &marks"),
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
        desk.editor.snaps = Snaps(**{each: each not in off for each in field_names(Snaps)})
        desk.document.session.set_figures(Figures(facings, unit))
        self.facings = self._group(_FACINGS, facings, lambda way: self._say(facings=way))
        self.lengths = self._group(_LENGTHS, unit, lambda way: self._say(unit=way))
        self.snaps = [self._snap(name, words) for name, words in _SNAPS.items()]
        self.languages: list[QAction] = []

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
        figures = replace(document.session.say, **changes)  # type: ignore[arg-type]
        self._desk.settings.set_text("facings", figures.facings)
        self._desk.settings.set_text("lengths", figures.unit)
        document.session.set_figures(figures)

    def _speak(self, name: str) -> None:
        self._desk.settings.set_text("language", name)
        self._desk.asking.tell(
            tr("The language changes at the next start"),
            tr("Waltzmark keeps its present language until you close all its windows and open it again."),
        )

    def _snap(self, name: str, words: str) -> QAction:
        action = QAction(words, self._window)
        action.setCheckable(True)
        action.setChecked(getattr(self._desk.editor.snaps, name))
        action.toggled.connect(safely(lambda on: self._set_snap(name, on)))
        return action

    def _set_snap(self, name: str, on: bool) -> None:
        editor = self._desk.editor
        editor.snaps = replace(editor.snaps, **{name: on})
        off = [each for each in field_names(Snaps) if not getattr(editor.snaps, each)]
        self._desk.settings.set_text("snaps_off", " ".join(off))

    def add_to(self, menu: QMenu) -> None:
        """Puts the choices at the end of a menu."""
        # What languages call themselves takes a while to find, and the window is to be seen first.
        tongues = {"": tr("As the &desktop"), **{name: own_name(name) for name in languages()}}
        self.languages = self._group(tongues, self._desk.settings.text("language", ""), self._speak)
        menu.addSeparator()
        for title, actions, tip in (
            (tr("Show f&acings"), self.facings, tr("How facings are shown everywhere; the score keeps what you wrote")),
            (
                tr("Show &lengths in"),
                self.lengths,
                tr("How lengths are shown everywhere; the score keeps what you wrote"),
            ),
            (tr("S&nap dragging to"), self.snaps, tr("What a dragged foot snaps to; hold Alt to move freely")),
            (
                tr("Lan&guage"),
                self.languages,
                tr("The language of everything Waltzmark says; takes effect at the next start"),
            ),
        ):
            under = menu.addMenu(title)
            set_tip(under.menuAction(), tip)
            for action in actions:
                under.addAction(action)
