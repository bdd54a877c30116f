"""The menus of a window, made from its acts and those of its stages, and the buttons of the stages beside them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QHBoxLayout, QMainWindow, QMenu, QToolButton, QWidget

from waltzmark.desktop.actions import LINE, Act, fill, menu_text
from waltzmark.desktop.choices import Choices
from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.filing import Filing
from waltzmark.desktop.plain import set_tip
from waltzmark.desktop.player import tempo_actions
from waltzmark.desktop.stages import STAGES

__all__ = ["make_menus"]

#: What the window can do in every stage, by menu.
_FILE = (
    Act("new", "&New form …", lambda w: w.filing.new_form(), ("Ctrl+N",)),
    Act("new window", "New &window", lambda w: w.others.open(), ("Ctrl+Shift+W",)),
    Act("open", "&Open …", lambda w: w.filing.choose_file(), ("Ctrl+O",)),
    LINE,
    Act("save", "&Save", lambda w: w.filing.save(), ("Ctrl+S",)),
    Act("save as", "Save &as …", lambda w: w.filing.save_as(), ("Ctrl+Shift+S",)),
    LINE,
    Act("sheets", "S&heets …", lambda w: w.show_sheets(), ("Ctrl+P",)),
    LINE,
    Act("export text", "Export the score as &text …", lambda w: w.filing.export("txt")),
    Act("export csv", "Export the trace as &CSV …", lambda w: w.filing.export("csv")),
    Act("import csv", "&Import a CSV table …", lambda w: w.filing.import_csv()),
    LINE,
    Act("demo", "Open the &demo form", lambda w: w.filing.open_demo()),
    LINE,
    Act("close", "&Close", lambda w: w.close(), ("Ctrl+Q",)),
)
_EDIT = (
    Act("undo", "&Undo", lambda w: w.undo(), ("Ctrl+Z",)),
    Act("redo", "&Redo", lambda w: w.document.redo(), ("Ctrl+Shift+Z",)),
)
_WALK = (
    Act("play", "&Play", lambda w: w.play(), ("Ctrl+Space", "F5"), sign="play"),
    LINE,
    Act("back", "Count &back", lambda w: w.player.step(-1), ("PgUp",), sign="back"),
    Act("forward", "Count &forward", lambda w: w.player.step(1), ("PgDown",), sign="forward"),
    Act("posture back", "Posture back", lambda w: w.player.step_posture(-1), ("Ctrl+PgUp",)),
    Act("posture forward", "Posture forward", lambda w: w.player.step_posture(1), ("Ctrl+PgDown",)),
    Act("first", "To the &opening", lambda w: w.player.go_to_end(False), ("Ctrl+Home",)),
    Act("last", "To the &end", lambda w: w.player.go_to_end(True), ("Ctrl+End",)),
)
_WAY = (
    Act("onward", "&Go on with what is next", lambda w: w.onward.go(), ("Ctrl+G",)),
    Act("way back", "Back to where you &were", lambda w: w.way.back(), ("Alt+Left",)),
    Act("way forward", "Forward a&gain", lambda w: w.way.forward(), ("Alt+Right",)),
)
_HELP = (
    Act("help", "&Help on this stage", lambda w: w.show_help(), ("F1",)),
    Act("first form", "Your &first form, step by step", lambda w: w.begin_first_form()),
    Act("cautions", "&Cautions", lambda w: w.show_cautions()),
    Act("shortcuts", "&Shortcut sheet", lambda w: w.show_shortcuts(), ("Shift+F1",)),
)


def make_menus(
    window: QMainWindow, desk: Desk, filing: Filing, choices: Choices, stage: Callable[[str], Stage]
) -> None:  # fmt: skip
    """Fills the menu bar of a window. stage: makes a stage when it is first wanted."""
    book = desk.book
    own: dict[str, list[QAction | None]] = {
        "&File": book.add(_FILE, lambda: window),
        "&Edit": book.add(_EDIT, lambda: window),
        "&Posture": [],
        "&Walk": book.add(_WALK, lambda: window),
        "&Room": [],
        "Re&turn": [],
        "&Sides": [],
        "Pra&ctise": [],
        "Lo&g": [],
        "&Look": book.add([_stage_act(row.name, row.title, row.key, row.purpose) for row in STAGES], lambda: window),
        "&Help": book.add(_HELP, lambda: window),
    }
    book.group(f"stage {row.name}" for row in STAGES)
    own["&Look"] += [LINE, *book.add(_WAY, lambda: window)]
    for row in STAGES:
        for menu, acts in row.acts:
            listed = book.add(acts, lambda name=row.name: stage(name), row.name)  # type: ignore[misc]
            own[menu] += [LINE, *listed] if own[menu] else listed
        for names in row.groups:
            book.group(names)
    dark = Act("dark", "&Dark theme", lambda w, on: w.set_dark(on), ("Ctrl+D",), on=desk.theme.name == "dark")
    own["&Look"] += [LINE, *book.add([dark], lambda: window)]
    for title, actions in own.items():
        menu_ = window.menuBar().addMenu(title)
        menu_.setToolTipsVisible(True)
        fill(menu_, actions)
        if title == "&File":
            _add_lists(desk, filing, menu_)
        elif title == "&Walk":
            _add_tempos(desk, menu_)
        elif title == "&Look":
            choices.add_to(menu_)
    window.menuBar().setCornerWidget(_stage_buttons(window, desk), Qt.Corner.TopRightCorner)


def _stage_act(name: str, title: str, key: str, purpose: str) -> Act:
    return Act(f"stage {name}", f"{title}: {purpose}", lambda w, on: on and w.show_stage(name), (key,), on=False)


def _stage_buttons(window: QMainWindow, desk: Desk) -> QWidget:
    """The stages in the order of the work, at the end of the menu bar."""
    holder = QWidget(window.menuBar())
    row = QHBoxLayout(holder)
    row.setContentsMargins(0, 0, 10, 0)
    row.setSpacing(4)
    for stage in STAGES:
        action = desk.book[f"stage {stage.name}"]
        action.setIconText(stage.title.replace("&", ""))
        button = QToolButton()
        button.setDefaultAction(action)
        button.setToolButtonStyle(Qt.ToolButtonStyle.ToolButtonTextOnly)
        row.addWidget(button)
    return holder


def _add_lists(desk: Desk, filing: Filing, menu: QMenu) -> None:
    """Files opened lately, and what was given up lately, each filled when it is looked into."""
    after = desk.book["open"]
    before = menu.actions()[menu.actions().index(after) + 1]
    for title, empty, listed in (
        ("Open &recent", "No forms yet", _recent), ("Thrown awa&y lately", "Nothing", _thrown_away),
    ):  # fmt: skip
        under = QMenu(title, menu)
        under.setToolTipsVisible(True)
        menu.insertMenu(before, under)

        def refill(under: QMenu = under, empty: str = empty, listed: Any = listed) -> None:
            under.clear()
            listed(desk, filing, under)
            if not under.actions():
                under.addAction(empty).setEnabled(False)

        under.aboutToShow.connect(refill)
        refill()


def _recent(desk: Desk, filing: Filing, under: QMenu) -> None:
    for path in desk.settings.recent:
        action = under.addAction(menu_text(path.name))
        set_tip(action, str(path))
        action.triggered.connect(lambda _checked=False, path=path: filing.open_instead(path))


def _thrown_away(_desk: Desk, filing: Filing, under: QMenu) -> None:
    for kept in filing.thrown_away():
        action = under.addAction(menu_text(kept.title))
        set_tip(action, f"Given up without saving; last saved as {kept.path or 'nothing'}")
        action.triggered.connect(lambda _checked=False, kept=kept: filing.open_thrown_away(kept))


def _add_tempos(desk: Desk, menu: QMenu) -> None:
    under = QMenu("&Tempo", menu)
    under.addActions(tempo_actions(desk.player, under))
    menu.insertMenu(menu.actions()[1], under)
