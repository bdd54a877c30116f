"""What can be done, said once: words, keys, place in the menus. Menus, buttons and the shortcut sheet are made from it.

An `Act` is the saying of it, a value; the `Book` of a window makes a QAction of each. Acts of a stage work where that
stage is shown, and nowhere else.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from typing import Any, Generic, TypeAlias, TypeVar

from PySide6.QtCore import QObject
from PySide6.QtGui import QAction, QActionGroup, QKeySequence
from PySide6.QtWidgets import QMenu, QWidget

from waltzmark.core.base.records import Record
from waltzmark.desktop.guard import safely
from waltzmark.desktop.painter.icons import icon
from waltzmark.desktop.plain import key_words, set_tip
from waltzmark.desktop.theme import Theme
from waltzmark.words.language import listed

__all__ = ["LINE", "Act", "Acts", "Book", "ByMenu", "Switch", "menu_text"]

#: Whose act something is: a window or a stage.
Whose = TypeVar("Whose", contravariant=True)


class Act(Record, Generic[Whose]):
    """Something that can be done.

    name: what it is asked for by. words: with ``&`` before the letter that chooses it, and `` …`` where it asks for
    something first. run: is given whose act it is. keys: shortcuts, the first one is shown. sign: the name of its icon.
    goes: it is done from everywhere, and its stage is shown first.
    """

    name: str
    words: str
    run: Callable[[Whose], object]
    keys: tuple[str, ...] = ()
    sign: str = ""
    goes: bool = False

    @property
    def plain(self) -> str:
        """Its words as they are said."""
        return _plain(self.words)


class Switch(Record, Generic[Whose]):
    """Something that is on or off, as an `Act` otherwise. run: is also given whether it is on now; on: whether it is at
    first."""

    name: str
    words: str
    run: Callable[[Whose, bool], object]
    keys: tuple[str, ...] = ()
    on: bool = False
    sign: str = ""

    @property
    def plain(self) -> str:
        """Its words as they are said."""
        return _plain(self.words)


#: Acts in their order, with lines between groups of them.
Acts: TypeAlias = "tuple[Act[Whose] | Switch[Whose] | None, ...]"
#: Acts by the menu they are in.
ByMenu: TypeAlias = "tuple[tuple[str, tuple[Act[Whose] | Switch[Whose] | None, ...]], ...]"


def _plain(words: str) -> str:
    return words.replace("&", "").replace(" …", "")


#: A line between groups of a menu.
LINE = None


def menu_text(text: str) -> str:
    """Text of a document as part of a menu's words."""
    return text.replace("&", "&&")


class Book(QObject):
    """The actions of a window by name, and whose they are."""

    def __init__(self, window: QWidget, theme: Theme) -> None:
        super().__init__(window)
        self._window, self._theme = window, theme
        self._actions: dict[str, QAction] = {}
        self._acts: dict[str, Act[Any] | Switch[Any]] = {}
        self._owner: dict[str, str] = {}  # the stage an act belongs to; empty for those of the window
        self._stage = ""

    def __getitem__(self, name: str) -> QAction:
        return self._actions[name]

    def __iter__(self) -> Iterator[str]:
        return iter(self._actions)

    def act(self, name: str) -> Act[Any] | Switch[Any]:
        return self._acts[name]

    def add(
        self,
        acts: Iterable[Act[Whose] | Switch[Whose] | None],
        whose: Callable[[], Whose],
        owner: str = "",
        show: Callable[[], object] | None = None,
    ) -> list[QAction | None]:
        """Makes the actions of some acts, in their order with the lines between. *whose*: gives, when one is done, what
        it is done with; *owner*: the stage they belong to; *show*: shows that stage."""
        made: list[QAction | None] = []
        for act in acts:
            if act is None:
                made.append(None)
                continue
            if act.name in self._acts:
                raise ValueError(f"two acts are called {act.name}")
            made.append(self._make(act, whose, show))
            self._acts[act.name], self._owner[act.name] = act, owner
        return made

    def _make(
        self, act: Act[Whose] | Switch[Whose], whose: Callable[[], Whose], show: Callable[[], object] | None
    ) -> QAction:
        action = QAction(act.words, self._window)
        action.setShortcuts([QKeySequence(key) for key in act.keys])
        keys = action.shortcuts()
        set_tip(action, act.plain + (f"  ({key_words(keys[0])})" if keys else ""))
        if isinstance(act, Act):
            action.triggered.connect(safely(lambda _checked=False: self._do(act, whose, show)))
        else:
            action.setCheckable(True)
            action.setChecked(act.on)
            action.toggled.connect(safely(lambda on: act.run(whose(), on)))
        self._actions[act.name] = action
        if act.sign:
            self.set_sign(act.name, act.sign)
        self._window.addAction(action)
        return action

    def _do(self, act: Act[Whose], whose: Callable[[], Whose], show: Callable[[], object] | None) -> None:
        if act.goes and show is not None and self._stage != self._owner[act.name]:
            show()
        act.run(whose())

    def group(self, names: Iterable[str]) -> None:
        """Of these actions one is on."""
        group = QActionGroup(self)
        for name in names:
            group.addAction(self._actions[name])

    def show_stage(self, stage: str) -> None:
        """Lets the acts of a stage work, and those of the others not."""
        self._stage = stage
        for name, owner in self._owner.items():
            if owner:
                act = self._acts[name]
                self._actions[name].setEnabled(owner == stage or (isinstance(act, Act) and act.goes))

    def set_theme(self, theme: Theme) -> None:
        """Draws the icons anew."""
        self._theme = theme
        for name, act in self._acts.items():
            if act.sign:
                self._actions[name].setIcon(icon(act.sign, theme))

    def set_sign(self, name: str, sign: str) -> None:
        """Shows another icon for a while, such as pause instead of play."""
        self._actions[name].setIcon(icon(sign, self._theme))

    def lines(self, owner: str) -> list[tuple[str, str]]:
        """Keys and words of each act of a stage, or of the window, that has keys."""
        return [
            (
                listed((key_words(key) for key in action.shortcuts()), "or"),
                self._acts[name].plain,
            )
            for name, action in self._actions.items()
            if self._owner[name] == owner and action.shortcuts()
        ]


def fill(menu: QMenu, actions: Iterable[QAction | None]) -> None:
    """Puts actions, and lines between groups of them, into a menu."""
    for action in actions:
        if action is None:
            menu.addSeparator()
        else:
            menu.addAction(action)
