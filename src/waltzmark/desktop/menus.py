"""The menus of a window, made from its acts and those of its stages, and the buttons of the stages beside them."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING, Any, Protocol

from PySide6.QtCore import QSignalBlocker, Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QBoxLayout, QHBoxLayout, QMainWindow, QMenu, QMenuBar, QToolButton, QWidget

from waltzmark.desktop.actions import LINE, Act, Acts, Switch, menu_text
from waltzmark.desktop.choices import Choices
from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.filing import Filing
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.looks import Looks
from waltzmark.desktop.plain import set_tip
from waltzmark.desktop.player import tempo_actions
from waltzmark.desktop.stages import STAGES, StageRow
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.dialogs import Dialogs
    from waltzmark.desktop.document import Document
    from waltzmark.desktop.filing import OtherWindows
    from waltzmark.desktop.next_line import OnwardLine
    from waltzmark.desktop.player import Player
    from waltzmark.desktop.way import Way

__all__ = ["Menus"]


class Doing(Protocol):
    """What a window is asked to do by its menus."""

    others: OtherWindows
    document: Document
    player: Player
    filing: Filing
    way: Way
    onward: OnwardLine
    looks: Looks
    dialogs: Dialogs

    def begin_first_form(self) -> None: ...
    def close(self) -> bool: ...
    def play(self) -> None: ...
    def show_help(self) -> object: ...
    def show_stage(self, name: str) -> object: ...
    def undo(self) -> None: ...


#: What the window can do in every stage, by menu.
_FILE: Acts[Doing] = (
    Act("new", tr("&New form …"), lambda w: w.filing.new_form(), ("Ctrl+N",)),
    Act("new window", tr("New &window"), lambda w: w.others.open(), ("Ctrl+Shift+W",)),
    Act("open", tr("&Open …"), lambda w: w.filing.choose_file(), ("Ctrl+O",)),
    LINE,
    Act("save", tr("&Save"), lambda w: w.filing.save(), ("Ctrl+S",)),
    Act("save as", tr("Save &as …"), lambda w: w.filing.save_as(), ("Ctrl+Shift+S",)),
    LINE,
    Act("sheets", tr("S&heets …"), lambda w: w.dialogs.sheets(), ("Ctrl+P",)),
    Act("film", tr("F&ilm …"), lambda w: w.dialogs.film(), ("Ctrl+Shift+F",)),
    LINE,
    Act("export text", tr("Export the score as &text …"), lambda w: w.filing.export("txt")),
    Act("export csv", tr("Export the trace as &CSV …"), lambda w: w.filing.export("csv")),
    Act("import csv", tr("&Import a CSV table …"), lambda w: w.filing.import_csv()),
    LINE,
    Act("demo", tr("Open the &demo form"), lambda w: w.filing.open_demo()),
    LINE,
    Act("close", tr("&Close"), lambda w: w.close(), ("Ctrl+Q",)),
)
_EDIT: Acts[Doing] = (
    Act("undo", tr("&Undo"), lambda w: w.undo(), ("Ctrl+Z",)),
    Act("redo", tr("&Redo"), lambda w: w.document.redo(), ("Ctrl+Shift+Z",)),
)
_WALK: Acts[Doing] = (
    Act("play", tr("&Play"), lambda w: w.play(), ("Ctrl+Space", "F5"), sign="play"),
    LINE,
    Act("back", tr("Count &back"), lambda w: w.player.step(-1), ("PgUp",), sign="back"),
    Act("forward", tr("Count &forward"), lambda w: w.player.step(1), ("PgDown",), sign="forward"),
    Act("posture back", tr("Posture back"), lambda w: w.player.step_posture(-1), ("Ctrl+PgUp",)),
    Act("posture forward", tr("Posture forward"), lambda w: w.player.step_posture(1), ("Ctrl+PgDown",)),
    Act("first", tr("To the &opening"), lambda w: w.player.go_to_end(False), ("Ctrl+Home",)),
    Act("last", tr("To the &end"), lambda w: w.player.go_to_end(True), ("Ctrl+End",)),
)
_WAY: Acts[Doing] = (
    Act("onward", tr("&Go to the next task"), lambda w: w.onward.go(), ("Ctrl+G",)),
    Act("way back", tr("&Back"), lambda w: w.way.back(), ("Alt+Left",)),
    Act("way forward", tr("For&ward"), lambda w: w.way.forward(), ("Alt+Right",)),
)
_HELP: Acts[Doing] = (
    Act("help", tr("&Help on this stage"), lambda w: w.show_help(), ("F1",)),
    Act("first form", tr("Your &first form, step by step"), lambda w: w.begin_first_form()),
    Act("cautions", tr("&Cautions"), lambda w: w.dialogs.cautions()),
    Act("shortcuts", tr("Keyboard &shortcuts"), lambda w: w.dialogs.shortcuts(), ("Shift+F1",)),
)


class Menus:
    """The menu bar of a window: what the window and its first stage can do at once, the other stages and the menus
    themselves when they are completed. stage: makes a stage when it is first wanted; first: the one shown first;
    doing: the window again, as what its acts are done with."""

    def __init__(
        self,
        window: QMainWindow,
        doing: Doing,
        desk: Desk,
        filing: Filing,
        choices: Choices,
        stage: Callable[[str], Stage],
        first: str,
    ) -> None:
        self._doing = doing
        self._window, self._desk, self._filing, self._choices, self._stage = window, desk, filing, choices, stage
        book = self._book = desk.book
        shown = [_stage_act(row.name, row.title, row.key, row.purpose) for row in STAGES]
        looks = doing.looks
        shades: Acts[Doing] = (
            Switch("dark", tr("&Dark theme"), lambda w, on: w.looks.set_dark(on), ("Ctrl+D",), on=looks.dark),
            Switch("contrast", tr("&High contrast"), lambda w, on: w.looks.set_contrast(on), on=looks.contrast),
            Switch(
                "still",
                tr("R&educe motion"),
                lambda w, on: w.looks.set_still(on),
                on=looks.still,
            ),
        )
        self._own: dict[str, list[str | None]] = {
            tr("&File"): self._add(_FILE),
            tr("&Edit"): self._add(_EDIT),
            tr("&Posture"): [],
            tr("&Walk"): self._add(_WALK),
            tr("&Room"): [],
            tr("Re&turn"): [],
            tr("&Sides"): [],
            tr("Pra&ctise"): [],
            tr("Lo&g"): [],
            tr("&Look"): [*self._add(shown), LINE, *self._add(_WAY)],
            tr("&Help"): self._add(_HELP),
        }
        self._shades = self._add(shades)
        book.group(f"stage {row.name}" for row in STAGES)
        self._of_stages: dict[str, list[tuple[str, list[str | None]]]] = {}
        self._add_stage(next(row for row in STAGES if row.name == first))
        self.bar = QMenuBar()
        self._menus = {title: self.bar.addMenu(title) for title in self._own}
        window.setMenuWidget(_Top(self.bar, _stage_buttons(desk)))

    def _add(self, acts: Iterable[Act[Doing] | Switch[Doing] | None]) -> list[str | None]:
        return self._book.add(acts, lambda: self._doing)

    def _add_stage(self, row: StageRow) -> None:
        """Makes the actions of a stage."""
        acts = row.acts()
        self._of_stages[row.name] = [
            (
                menu,
                self._book.add(each, lambda: self._stage(row.name), row.name, lambda: self._doing.show_stage(row.name)),
            )
            for menu, each in acts.by_menu
        ]
        for names in acts.groups:
            self._book.group(names)

    def show_looks(self, contrast: bool, still: bool) -> None:
        """Shows what is on, when it is the desktop that asked for it."""
        for name, on in (("contrast", contrast), ("still", still)):
            action = self._book[name]
            with QSignalBlocker(action):
                action.setChecked(on)

    def complete(self, shown: str) -> None:
        """Makes what is left, and fills the menus; nothing where that is done. shown: the stage whose acts work now."""
        if not self._menus:
            return
        for row in STAGES:
            if row.name not in self._of_stages:
                self._add_stage(row)
            for menu, listed in self._of_stages[row.name]:
                self._own[menu] += [LINE, *listed] if self._own[menu] else listed
        self._own[tr("&Look")] += [LINE, *self._shades]
        for title, menu_ in self._menus.items():
            menu_.setToolTipsVisible(True)
            self._book.fill(menu_, self._own[title])
        _add_lists(self._desk, self._filing, self._menus[tr("&File")])
        _add_tempos(self._desk, self._menus[tr("&Walk")])
        self._choices.add_to(self._menus[tr("&Look")])
        self._menus = {}
        self._book.show_stage(shown)


@guarded
class _Top(QWidget):
    """The stages beside the menus, or below them where the window is too narrow for both.

    They are no corner of the menu bar, since what is in one is met by no screen reader.
    """

    def __init__(self, bar: QMenuBar, stages: QWidget) -> None:
        super().__init__()
        self.setObjectName("top")
        self._bar, self._stages = bar, stages
        self._row = QBoxLayout(QBoxLayout.Direction.LeftToRight, self)
        self._row.setContentsMargins(0, 1, 4, 1)
        self._row.setSpacing(0)
        self._row.addWidget(bar, 1)
        self._row.addWidget(stages, 0, Qt.AlignmentFlag.AlignLeft)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        wide = self._bar.sizeHint().width() + self._stages.sizeHint().width() + 12
        beside, below = QBoxLayout.Direction.LeftToRight, QBoxLayout.Direction.TopToBottom
        self._row.setDirection(beside if event.size().width() >= wide else below)


def _stage_act(name: str, title: str, key: str, purpose: str) -> Switch[Doing]:
    return Switch(f"stage {name}", f"{title}: {purpose}", lambda w, on: on and w.show_stage(name), (key,), on=False)


def _stage_buttons(desk: Desk) -> QWidget:
    """The stages in the order of the work, at the end of the menu bar."""
    holder = QWidget()
    row = QHBoxLayout(holder)
    row.setContentsMargins(0, 0, 6, 0)
    row.setSpacing(1)
    for stage in STAGES:
        action = desk.book[f"stage {stage.name}"]
        action.setIconText(stage.title.replace("&", ""))
        button = QToolButton()
        button.setObjectName("stage")
        button.setDefaultAction(action)
        button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
        row.addWidget(button)
    return holder


def _add_lists(desk: Desk, filing: Filing, menu: QMenu) -> None:
    """Files opened lately, and what was given up lately, each filled when it is looked into."""
    after = desk.book["open"]
    before = menu.actions()[menu.actions().index(after) + 1]
    for title, empty, listed in (
        (tr("Open &recent"), tr("No forms yet"), _recent),
        (tr("Recentl&y discarded"), tr("None"), _thrown_away),
    ):
        under = QMenu(title, menu)
        under.setToolTipsVisible(True)
        menu.insertMenu(before, under)

        def refill(under: QMenu = under, empty: str = empty, listed: Any = listed) -> None:
            under.clear()
            listed(desk, filing, under)
            if not under.actions():
                under.addAction(empty).setEnabled(False)

        under.aboutToShow.connect(safely(refill))
        refill()


def _recent(desk: Desk, filing: Filing, under: QMenu) -> None:
    for path in desk.settings.recent:
        action = under.addAction(menu_text(path.name))
        set_tip(action, str(path))
        action.triggered.connect(safely(lambda _checked=False, path=path: filing.open_instead(path)))


def _thrown_away(_desk: Desk, filing: Filing, under: QMenu) -> None:
    for kept in filing.thrown_away():
        action = under.addAction(menu_text(kept.title))
        set_tip(
            action,
            tr("Discarded; it was last saved as {path}.", path=kept.path)
            if kept.path
            else tr("Discarded; it was never saved."),
        )
        action.triggered.connect(safely(lambda _checked=False, kept=kept: filing.open_thrown_away(kept)))


def _add_tempos(desk: Desk, menu: QMenu) -> None:
    under = QMenu(tr("&Tempo"), menu)
    under.addActions(tempo_actions(desk.player, under))
    menu.insertMenu(menu.actions()[1], under)
