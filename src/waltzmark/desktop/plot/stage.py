"""The Plot stage: score at the left, floor and ribbon; findings, text and search are made when they are asked for."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QMenu, QSplitter, QStackedWidget, QVBoxLayout, QWidget

from waltzmark.core.judge.finding import Finding
from waltzmark.desktop.actions import Acts, fill
from waltzmark.desktop.desk import Desk, Stage
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plot.entry import EntryLine
from waltzmark.desktop.plot.floor import FloorView
from waltzmark.desktop.plot.offer import MoveOffer
from waltzmark.desktop.plot.score import ScoreView
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.ribbon import WeightRibbon
from waltzmark.desktop.widgets.transport import Transport
from waltzmark.words.findings import how_many
from waltzmark.words.language import tr

if TYPE_CHECKING:
    from waltzmark.desktop.plot.commands import EditCommands
    from waltzmark.desktop.plot.findings import FindingsDrawer
    from waltzmark.desktop.plot.search_bar import SearchBar
    from waltzmark.desktop.plot.text_view import TextPane

__all__ = ["PlotStage"]


class PlotStage(Stage):
    """Puts the views of the Plot stage side by side. They know the document, not each other."""

    entry: EntryLine
    floor: FloorView
    offer: MoveOffer

    def __init__(self, desk: Desk, menu: Acts[PlotStage] = ()) -> None:
        """menu: what is offered where a row of the score is clicked with the right button."""
        super().__init__(desk)
        document, editor, theme, book = desk.document, desk.editor, desk.theme, desk.book
        self._document = document
        self.score = ScoreView(document, editor, theme)
        self.entry = EntryLine(document, editor, theme)
        self.floor = FloorView(document, editor, theme)
        self.ribbon = WeightRibbon(document, editor, theme)
        walking = [book[name] for name in ("back", "play", "forward")]
        looking = [book[name] for name in ("whole room", "follow", "own facing", "findings")]
        self.transport = Transport(walking, desk.player, looking)
        self.offer = MoveOffer(document, editor, self.floor)
        self.score.menu = QMenu(self.score)
        fill(self.score.menu, [None if act is None else book[act.name] for act in menu])
        # From the outside in: what is put into something is styled anew, with all that is in it.
        self.splitter = QSplitter(Qt.Orientation.Horizontal, self)
        self.stack = QStackedWidget()
        self._left = _column(self.splitter, self.stack)
        self._left.setMinimumWidth(330)
        self.drawn = _column(self.stack, self.score, self.entry)
        self.stack.addWidget(self.drawn)
        middle = _column(self.splitter, self.floor, self.transport, self.ribbon)
        self.splitter.setChildrenCollapsible(False)
        self.splitter.setHandleWidth(1)
        for part, stretch in ((self._left, 0), (middle, 1)):
            self.splitter.addWidget(part)
            self.splitter.setStretchFactor(self.splitter.count() - 1, stretch)
        self.splitter.setSizes([420, 860])
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addWidget(self.splitter, 1)
        self.score.change_wanted.connect(safely(self.entry.change_selected))
        self.floor.whole_wanted.connect(safely(self.show_whole_room))
        self.floor.moved_by_hand.connect(safely(lambda: book["follow"].setChecked(False)))
        self.floor.row_clicked.connect(safely(lambda row: document.session.go(float(row))))
        document.form_changed.connect(safely(self._say_findings))
        document.judge.judged.connect(safely(self._say_findings))
        document.session.figures_changed.connect(safely(self._say_findings))
        self._say_findings()
        self.setFocusProxy(self.score)

    # What is not seen at first is made when it is first wanted: the window need not wait for it.

    @cached_property
    def editing(self) -> EditCommands:
        """What the menus do."""
        from waltzmark.desktop.plot.commands import EditCommands

        return EditCommands(self.desk, self.entry)

    @cached_property
    def findings(self) -> FindingsDrawer:
        """The list of findings."""
        from waltzmark.desktop.plot.findings import FindingsDrawer

        desk = self.desk
        made = FindingsDrawer(desk.document, desk.editor, desk.theme, desk.asking)
        made.setMinimumWidth(270)
        made.hide()
        sizes = self.splitter.sizes()
        self.splitter.addWidget(made)
        self.splitter.setSizes([sizes[0], max(sizes[1] - 310, 320), 310])
        made.chosen.connect(safely(self._go_to))
        return made

    @cached_property
    def text(self) -> TextPane:
        """The score as text."""
        from waltzmark.desktop.plot.text_view import TextPane

        made = TextPane(self.desk.document, self.desk.theme)
        self.stack.addWidget(made)
        return made

    @cached_property
    def search(self) -> SearchBar:
        """Find and replace."""
        from waltzmark.desktop.plot.search_bar import SearchBar

        made = SearchBar(self.desk.document)
        made.hide()
        made.closed.connect(safely(self._close_search))
        column = self._left.layout()
        assert isinstance(column, QVBoxLayout)
        column.insertWidget(0, made)
        return made

    def _made(self, name: str) -> bool:
        return name in self.__dict__

    def take_back(self) -> bool:
        """A text that could not be taken over goes first."""
        return self._made("text") and self.text.text.drop_held()

    def begin(self, text: str = "") -> None:
        if text:
            self.desk.book["text"].setChecked(False)
            self.entry.field.setText(text)
        self.entry.field.setFocus()

    def begin_search(self) -> None:
        """Opens find and replace."""
        self.search.show()
        self.search.begin()

    def show_whole_room(self) -> None:
        """Shows the whole room, and lets it stay so."""
        for name in ("own facing", "follow"):
            self.desk.book[name].setChecked(False)
        self.floor.fit()

    def set_view(self, view: str) -> None:
        """Watches the floor from elsewhere."""
        self.floor.set_view(view)

    def step_finding(self, by: int) -> None:
        """Opens the findings and goes to the next one."""
        self.desk.book["findings"].setChecked(True)
        self.findings.step(by)

    def _say_findings(self) -> None:
        words, action = how_many(self._document.judge.findings), self.desk.book["findings"]
        action.setText(tr("F&indings: {words}", words=words))
        action.setIconText(words)

    def set_theme(self, theme: Theme) -> None:
        for view in (self.score, self.entry, self.floor, self.ribbon):
            view.set_theme(theme)
        for late in ("findings", "text"):
            if self._made(late):
                getattr(self, late).set_theme(theme)

    def show_text(self, shown: bool) -> None:
        """Shows the score as text, or drawn."""
        self.stack.setCurrentWidget(self.text if shown else self.drawn)
        (self.text.text if shown else self.score).setFocus()

    def _close_search(self) -> None:
        self.search.hide()
        self.show_text(self.stack.currentWidget() is not self.drawn)

    def show_findings(self, shown: bool) -> None:
        self.findings.setVisible(shown)

    def _go_to(self, finding: Finding) -> None:
        self.floor.chosen = finding
        self._document.session.go(float(finding.row))
        self.floor.update()


def _column(parent: QWidget, *parts: QWidget) -> QWidget:
    holder = QWidget(parent)
    column = QVBoxLayout(holder)
    column.setContentsMargins(0, 0, 0, 0)
    column.setSpacing(0)
    for number, part in enumerate(parts):
        if number:
            column.addWidget(_rule())
        column.addWidget(part, 1 if number == 0 else 0)
    return holder


def _rule() -> QFrame:
    rule = QFrame()
    rule.setObjectName("rule")
    rule.setFixedHeight(1)
    return rule
