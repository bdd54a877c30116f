"""Everything the window can do, once: its words, its shortcut, its place in the menus."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, Qt
from PySide6.QtGui import QAction, QActionGroup, QKeySequence
from PySide6.QtWidgets import QHBoxLayout, QMainWindow, QMenu, QToolButton, QWidget

from waltzmark.desktop.document import Document
from waltzmark.desktop.editing_actions import EditingActions
from waltzmark.desktop.exchange import export, import_csv
from waltzmark.desktop.painter.icons import icon
from waltzmark.desktop.player import TEMPOS
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.windows import open_window

if TYPE_CHECKING:
    from waltzmark.desktop.plot.score import ScoreView
    from waltzmark.desktop.window import MainWindow

__all__ = ["Actions"]


class Actions(QObject):
    """The actions of a window, by menu."""

    def __init__(self, window: MainWindow) -> None:
        super().__init__(window)
        self._window = window
        w = window
        self._icons: list[tuple[QAction, str]] = []
        self.new = self._make("&New form …", "Ctrl+N", w.new_form)
        self.window = self._make("New &window", "Ctrl+Shift+W", lambda: open_window(w.settings))
        self.open = self._make("&Open …", "Ctrl+O", w.choose_file)
        self.demo = self._make("Open the &demo form", "", w.open_demo)
        self.save = self._make("&Save", "Ctrl+S", w.save)
        self.save_as = self._make("Save &as …", "Ctrl+Shift+S", w.save_as)
        self.export_text = self._make("Export the score as &text …", "", lambda: export(w, "txt"))
        self.export_csv = self._make("Export the trace as &CSV …", "", lambda: export(w, "csv"))
        self.import_csv = self._make("&Import a CSV table …", "", lambda: import_csv(w))
        self.close = self._make("&Close", "Ctrl+Q", w.close)
        self.undo = self._make("&Undo", "Ctrl+Z", w.undo)
        self.redo = self._make("&Redo", "Ctrl+Shift+Z", lambda: w.document.redo())
        self.type = self._make("&Type a count", "Ctrl+E", lambda: w.plot.entry.field.setFocus())
        self.find = self._make("&Find and replace …", "Ctrl+F", w.begin_search)
        self.text = self._make("Score as te&xt", "Ctrl+T", None)
        self.text.setCheckable(True)
        self.text.toggled.connect(lambda on: w.plot.show_text(on))
        self.keep = self._make("&Keep what follows where it was", "Ctrl+K", lambda: w.plot.offer.take())
        self.back = self._make("Count &back", "Alt+Left", lambda: w.step(-1), "back", "PgUp")
        self.play = self._make("&Play", "Ctrl+Space", w.play, "play", "F5")
        self.forward = self._make("Count &forward", "Alt+Right", lambda: w.step(1), "forward", "PgDown")
        self.posture_back = self._make("Posture back", "Ctrl+PgUp", lambda: w.step_posture(-1))
        self.posture_forward = self._make("Posture forward", "Ctrl+PgDown", lambda: w.step_posture(1))
        self.first = self._make("To the &opening", "Ctrl+Home", lambda: w.go_to_end(False), "first")
        self.last = self._make("To the &end", "Ctrl+End", lambda: w.go_to_end(True), "last")
        self.findings = self._make("&Findings", "F8", None)
        self.findings.setCheckable(True)
        self.findings.toggled.connect(lambda shown: w.plot.show_findings(shown))
        self.next_finding = self._make("Next finding", "F4", lambda: w.step_finding(1))
        self.previous_finding = self._make("Previous finding", "Shift+F4", lambda: w.step_finding(-1))
        self.mend = self._make("&Mend the finding", "F7", lambda: w.plot.findings.mending.mend())
        self.leave = self._make("&Leave the finding so …", "Shift+F7", lambda: w.plot.findings.mending.ask_where())
        self.larger = self._make("&Larger", "Ctrl++", lambda: w.plot.floor.zoom(1.25), "larger", "Ctrl+=")
        self.smaller = self._make("S&maller", "Ctrl+-", lambda: w.plot.floor.zoom(0.8), "smaller")
        self.fit = self._make("Show the &whole room", "Ctrl+0", lambda: self._fit(), "fit")
        self.follow = self._make("Follow the &feet", "F6", None, "follow")
        self.follow.setCheckable(True)
        self.follow.setChecked(True)
        self.follow.toggled.connect(lambda on: w.plot.floor.set_following(on))
        self.own = self._make("Own facing &up", "Ctrl+U", None, "own")
        self.own.setCheckable(True)
        self.own.toggled.connect(lambda own: w.plot.floor.set_own_facing(own))
        self.overlays = []
        for name, words, keys in (
            ("support", "Support and &balance", "Shift+F8"), ("reach", "&Reach of the empty foot", "Ctrl+F8"),
            ("hips", "Room of the &hips", "Ctrl+Shift+F8"),
        ):  # fmt: skip
            action = self._make(words, keys, None)
            action.setCheckable(True)
            action.toggled.connect(lambda on, name=name: w.plot.floor.set_overlays(**{name: on}))
            self.overlays.append(action)
        self.dark = self._make("&Dark theme", "Ctrl+D", None)
        self.dark.setCheckable(True)
        self.dark.setChecked(w.theme.name == "dark")
        self.dark.toggled.connect(w.set_dark)
        self.editing = EditingActions(w, self._make)
        self.shortcuts = self._make("&Shortcut sheet", "F1", w.show_shortcuts)
        self.cautions = self._make("&Cautions", "", w.show_cautions)
        self.stages = [
            self._make("Stage: &Ready", "Ctrl+1", lambda: w.show_stage(w.ready)),
            self._make("Stage: &Plot", "Ctrl+2", lambda: w.show_stage(w.plot)),
        ]
        group = QActionGroup(self)
        for number, action in enumerate(self.stages):
            action.setCheckable(True)
            action.setChecked(number == 1)
            group.addAction(action)
        self.first_form = self._make("Your &first form, step by step", "", w.begin_first_form)
        self.tempos = self._make_tempos()
        self.walking = [self.back, self.play, self.forward]
        self.looking = [self.fit, self.follow, self.own, self.findings]
        self.menus: list[tuple[str, list[QAction | None]]] = [
            ("&File", [self.new, self.window, self.open, None, self.save, self.save_as, None, self.export_text,
                       self.export_csv, self.import_csv, None, self.demo, None, self.close]),
            ("&Edit", [self.undo, self.redo, self.keep, None, self.find, self.type, *self.editing.lines]),
            ("&Posture", self.editing.postures),
            ("&Walk", [self.play, None, self.back, self.forward, self.posture_back, self.posture_forward,
                       self.first, self.last]),
            ("&Look", [*self.stages, None, self.larger, self.smaller, self.fit, self.follow, self.own, None, self.text,
                       self.findings, self.next_finding, self.previous_finding, self.mend, self.leave, None,
                       *self.overlays, None, self.dark]),
            ("&Help", [self.first_form, self.cautions, self.shortcuts]),
        ]  # fmt: skip
        self.set_theme(w.theme)

    def _make(
        self, text: str, shortcut: str, run: Callable[[], object] | None, sign: str = "", also: str = ""
    ) -> QAction:
        action = QAction(text, self._window)
        keys = [QKeySequence(key) for key in (shortcut, also) if key]
        action.setShortcuts(keys)
        plain = text.replace("&", "").replace(" …", "")
        action.setToolTip(plain + (f"  ({keys[0].toString()})" if keys else ""))
        if run is not None:
            action.triggered.connect(lambda _checked=False: run())
        if sign:
            self._icons.append((action, sign))
        self._window.addAction(action)
        return action

    def _make_tempos(self) -> list[QAction]:
        group = QActionGroup(self)
        made = []
        for seconds in TEMPOS:
            action = QAction(f"{seconds:g} s a beat", self._window)
            action.setCheckable(True)
            action.setChecked(seconds == self._window.player.seconds_per_beat)
            action.triggered.connect(
                lambda _checked=False, s=seconds: setattr(self._window.player, "seconds_per_beat", s)
            )
            group.addAction(action)
            made.append(action)
        return made

    def _fit(self) -> None:
        self.own.setChecked(False)
        self.follow.setChecked(False)
        self._window.plot.floor.fit()

    def set_theme(self, theme: Theme) -> None:
        for action, sign in self._icons:
            action.setIcon(icon(sign, theme))
        self.show_playing(self._window.player.playing)

    def show_playing(self, playing: bool) -> None:
        self.play.setIcon(icon("pause" if playing else "play", self._window.theme))
        self.play.setText("&Pause" if playing else "&Play")

    def show_stage(self, number: int) -> None:
        """Marks the stage that fills the window."""
        self.stages[number].setChecked(True)

    def show_undo(self, document: Document) -> None:
        """Undo and redo say what they would do."""
        for action, name, words in (
            (self.undo, "&Undo", document.undo_words),
            (self.redo, "&Redo", document.redo_words),
        ):
            action.setEnabled(words is not None)
            action.setText(f"{name}: {words}" if words else name)

    def build_menus(self, window: QMainWindow) -> None:
        for title, actions in self.menus:
            menu = window.menuBar().addMenu(title)
            menu.setToolTipsVisible(True)
            for action in actions:
                if action is None:
                    menu.addSeparator()
                else:
                    menu.addAction(action)
                if action is self.open:
                    self._add_recent(menu)
                if action is self.play:
                    self._add_tempos(menu)
            if title == "&Look":
                self._window.choices.add_to(menu)
        corner = self._stage_buttons(window.menuBar())
        window.menuBar().setCornerWidget(corner, Qt.Corner.TopRightCorner)

    def _stage_buttons(self, bar: QWidget) -> QWidget:
        """The stages in the order of the work, at the end of the menu bar."""
        holder = QWidget(bar)
        row = QHBoxLayout(holder)
        row.setContentsMargins(0, 0, 10, 0)
        row.setSpacing(4)
        for action, name in zip(self.stages, ("Ready", "Plot"), strict=True):
            button = QToolButton()
            button.setDefaultAction(action)
            button.setText(name)
            button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
            action.setIconText(name)
            row.addWidget(button)
        return holder

    def context_menu(self, view: ScoreView, actions: list[QAction | None]) -> None:
        """Gives the score a menu of its own."""
        view.menu = QMenu(view)
        for action in actions:
            if action is None:
                view.menu.addSeparator()
            else:
                view.menu.addAction(action)

    def _add_tempos(self, menu: QMenu) -> None:
        tempo = menu.addMenu("&Tempo")
        for action in self.tempos:
            tempo.addAction(action)

    def _add_recent(self, menu: QMenu) -> None:
        recent = menu.addMenu("Open &recent")

        def fill() -> None:
            recent.clear()
            for path in self._window.settings.recent:
                action = recent.addAction(path.name)
                action.setToolTip(str(path))
                action.triggered.connect(lambda _checked=False, path=path: self._window.open_recent(path))
            if not recent.actions():
                recent.addAction("No forms yet").setEnabled(False)

        recent.setToolTipsVisible(True)
        recent.aboutToShow.connect(fill)
        fill()
