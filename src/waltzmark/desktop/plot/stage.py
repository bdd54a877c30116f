"""The Plot stage: score at the left, floor and ribbon; findings, text and search are made when they are asked for."""

from __future__ import annotations

from functools import cached_property
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QMenu, QSplitter, QStackedWidget, QVBoxLayout, QWidget

from waltzmark.core.judge.finding import Finding
from waltzmark.desktop.actions import Acts
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
    from waltzmark.desktop.widgets.figure_view import FigurePane
    from waltzmark.desktop.widgets.head_track import HeadTrack

__all__ = ["FIGURE_PLACES", "PlotStage"]

#: Where the figure is shown: not at all, beside the floor, and instead of it.
FIGURE_PLACES = ("none", "beside", "alone")


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
        looking = [book[name] for name in ("whole room", "follow", "own facing", "figure", "findings")]
        self.transport = Transport(walking, desk.player, looking)
        self.offer = MoveOffer(document, editor, self.floor)
        self._offered = [None if act is None else act.name for act in menu]
        self.score.menu_wanted.connect(safely(lambda at: self._menu.popup(at)))
        # From the outside in: what is put into something is styled anew, with all that is in it.
        self.splitter = QSplitter(Qt.Orientation.Horizontal, self)
        self.stack = QStackedWidget()
        self._left = _column(self.splitter, self.stack)
        self._left.setMinimumWidth(330)
        self.drawn = _column(self.stack, self.score, self.entry)
        self.stack.addWidget(self.drawn)
        self.shown = QSplitter(Qt.Orientation.Horizontal)
        self.shown.setChildrenCollapsible(False)
        self.shown.setHandleWidth(1)
        self.shown.addWidget(self.floor)
        middle = self._middle = _column(self.splitter, self.shown, self.transport, self.ribbon)
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
        self.show_figure(desk.settings.text("figure", "none"))

    # What is not seen at first is made when it is first wanted: the window need not wait for it.

    @cached_property
    def _menu(self) -> QMenu:
        made = QMenu(self.score)
        self.desk.book.fill(made, self._offered)
        return made

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
    def figure(self) -> FigurePane:
        """The body, seen from the side, from behind or from the front."""
        from waltzmark.desktop.widgets.figure_view import FigurePane

        settings = self.desk.settings
        made = FigurePane(self.desk.document, self.desk.theme, settings.text("figure_seen", "behind"))
        made.chosen.connect(safely(lambda name: settings.set_text("figure_seen", name)))
        self.shown.addWidget(made)
        self.shown.setSizes([max(self.shown.width() - 330, 320), 330])
        return made

    @cached_property
    def head(self) -> HeadTrack:
        """How high the head is through the form."""
        from waltzmark.desktop.widgets.head_track import HeadTrack

        made = HeadTrack(self.desk.document, self.desk.theme)
        column = self._middle.layout()
        assert isinstance(column, QVBoxLayout)
        column.addWidget(made)
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
        for late in ("findings", "text", "figure", "head"):
            if self._made(late):
                getattr(self, late).set_theme(theme)

    def show_text(self, shown: bool) -> None:
        """Shows the score as text, or drawn."""
        self.stack.setCurrentWidget(self.text if shown else self.drawn)
        (self.text.text if shown else self.score).setFocus()

    def _close_search(self) -> None:
        self.search.hide()
        self.show_text(self.stack.currentWidget() is not self.drawn)

    def next_figure(self) -> None:
        """The figure beside the floor, instead of it, and not at all, in turn."""
        now = self.desk.settings.text("figure", "none")
        then = FIGURE_PLACES[(FIGURE_PLACES.index(now) + 1) % len(FIGURE_PLACES)] if now in FIGURE_PLACES else "beside"
        self.desk.settings.set_text("figure", then)
        self.show_figure(then)

    def show_figure(self, place: str) -> None:
        """Shows the figure in one of its places."""
        shown = place in FIGURE_PLACES[1:]
        if shown or self._made("figure"):
            self.figure.setVisible(shown)
        self.floor.setVisible(place != "alone")
        self.show_head(self.desk.book["head height"].isChecked())

    def show_head(self, shown: bool) -> None:
        """Shows how high the head is, where the figure is shown."""
        shown = shown and self._made("figure") and self.figure.isVisibleTo(self)
        if shown or self._made("head"):
            self.head.setVisible(shown)

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
