"""What can be done, said once: words, keys, place in the menus. Menus, buttons and the shortcut sheet are made from it.

An `Act` is the saying of it, a value; the `Book` of a window makes a QAction of it when it is first asked for. Acts of
a stage work where that stage is shown, and nowhere else.
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


class _Entry(Record):
    """An act with what it is done with; the stage it belongs to, empty for those of the window, and what shows that."""

    act: Act[Any] | Switch[Any]
    whose: Callable[[], Any]
    owner: str
    show: Callable[[], object] | None


class Book(QObject):
    """The actions of a window by name, and whose they are. Each is made when it is first asked for."""

    def __init__(self, window: QWidget, theme: Theme) -> None:
        super().__init__(window)
        self._window, self._theme = window, theme
        self._actions: dict[str, QAction] = {}
        self._entries: dict[str, _Entry] = {}
        self._groups: dict[str, QActionGroup] = {}
        self._stage = ""

    def __getitem__(self, name: str) -> QAction:
        return self._actions.get(name) or self._make(name)

    def __iter__(self) -> Iterator[str]:
        return iter(self._entries)

    def act(self, name: str) -> Act[Any] | Switch[Any]:
        return self._entries[name].act

    def add(
        self,
        acts: Iterable[Act[Whose] | Switch[Whose] | None],
        whose: Callable[[], Whose],
        owner: str = "",
        show: Callable[[], object] | None = None,
    ) -> list[str | None]:
        """Takes some acts in; gives their names in their order, with the lines between. *whose*: gives, when one is
        done, what it is done with; *owner*: the stage they belong to; *show*: shows that stage."""
        names: list[str | None] = []
        for act in acts:
            if act is None:
                names.append(None)
                continue
            if act.name in self._entries:
                raise ValueError(f"two acts are called {act.name}")
            self._entries[act.name] = _Entry(act, whose, owner, show)
            names.append(act.name)
        return names

    def _make(self, name: str) -> QAction:
        entry = self._entries[name]
        act, whose = entry.act, entry.whose
        action = QAction(act.words, self._window)
        action.setShortcuts([QKeySequence(key) for key in act.keys])
        keys = action.shortcuts()
        set_tip(action, act.plain + (f"  ({key_words(keys[0])})" if keys else ""))
        if isinstance(act, Act):
            action.triggered.connect(safely(lambda _checked=False: self._do(act, entry)))
        else:
            action.setCheckable(True)
            action.setChecked(act.on)
            action.toggled.connect(safely(lambda on: act.run(whose(), on)))
        self._actions[name] = action
        if name in self._groups:
            self._groups[name].addAction(action)
        if act.sign:
            self.set_sign(name, act.sign)
        if self._stage:
            action.setEnabled(self._works(entry))
        self._window.addAction(action)
        return action

    def _do(self, act: Act[Any], entry: _Entry) -> None:
        if act.goes and entry.show is not None and self._stage != entry.owner:
            entry.show()
        act.run(entry.whose())

    def _works(self, entry: _Entry) -> bool:
        act, owner = entry.act, entry.owner
        return not owner or owner == self._stage or (isinstance(act, Act) and act.goes)

    def group(self, names: Iterable[str]) -> None:
        """Of these actions one is on; said before any of them is made."""
        self._groups.update(dict.fromkeys(names, QActionGroup(self)))

    def show_stage(self, stage: str) -> None:
        """Lets the acts of a stage work, and those of the others not."""
        self._stage = stage
        for name, action in self._actions.items():
            entry = self._entries[name]
            if entry.owner:  # the window's are switched by itself
                action.setEnabled(self._works(entry))

    def set_theme(self, theme: Theme) -> None:
        """Draws the icons anew."""
        self._theme = theme
        for name, action in self._actions.items():
            if sign := self._entries[name].act.sign:
                action.setIcon(icon(sign, theme))

    def set_sign(self, name: str, sign: str) -> None:
        """Shows another icon for a while, such as pause instead of play."""
        self[name].setIcon(icon(sign, self._theme))

    def lines(self, owner: str) -> list[tuple[str, str]]:
        """Keys and words of each act of a stage, or of the window, that has keys."""
        return [
            (listed((key_words(key) for key in action.shortcuts()), "or"), entry.act.plain)
            for name, entry in self._entries.items()
            if entry.owner == owner and (action := self[name]).shortcuts()
        ]

    def fill(self, menu: QMenu, names: Iterable[str | None]) -> None:
        """Puts actions, and lines between groups of them, into a menu."""
        for name in names:
            if name is None:
                menu.addSeparator()
            else:
                menu.addAction(self[name])
