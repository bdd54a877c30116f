"""The Plot stage: answers above, score at the left, floor and ribbon, findings at the right when asked for."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QFrame, QSplitter, QStackedWidget, QVBoxLayout, QWidget

from waltzmark.core.judge import Finding
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.plot.answers import AnswerStrip
from waltzmark.desktop.plot.entry import EntryLine
from waltzmark.desktop.plot.findings import FindingsDrawer
from waltzmark.desktop.plot.first_form import FirstForm
from waltzmark.desktop.plot.floor import FloorView
from waltzmark.desktop.plot.offer import MoveOffer
from waltzmark.desktop.plot.ribbon import WeightRibbon
from waltzmark.desktop.plot.score import ScoreView
from waltzmark.desktop.plot.search_bar import SearchBar
from waltzmark.desktop.plot.text_view import TextPane
from waltzmark.desktop.plot.transport import Transport
from waltzmark.desktop.theme import Theme

__all__ = ["PlotStage"]


class PlotStage(QWidget):
    """Puts the views of the Plot stage side by side. They know the document, not each other."""

    def __init__(
        self,
        document: Document,
        editor: Editor,
        theme: Theme,
        walking: list[QAction],
        tempos: list[QAction],
        looking: list[QAction],
    ) -> None:
        super().__init__()
        self._document = document
        self.answers = AnswerStrip(document, theme)
        self.score = ScoreView(document, editor, theme)
        self.entry = EntryLine(document, editor, theme)
        self.floor = FloorView(document, editor, theme)
        self.ribbon = WeightRibbon(document, editor, theme)
        self.findings = FindingsDrawer(document, editor, theme)
        self.transport = Transport(walking, tempos, looking)
        self.search = SearchBar(document)
        self.text = TextPane(document, theme)
        self.first_form = FirstForm(document)
        self.offer = MoveOffer(document, editor, self.floor)
        self.drawn = _column(self.score, self.first_form, self.entry)
        self.stack = QStackedWidget()
        self.stack.addWidget(self.drawn)
        self.stack.addWidget(self.text)
        left = _column(self.stack)
        left_column = left.layout()
        assert isinstance(left_column, QVBoxLayout)
        left_column.insertWidget(0, self.search)
        self.search.hide()
        self.search.closed.connect(self._close_search)
        self.first_form.closed.connect(self.first_form.hide)
        self.first_form.wanted.connect(self._type_for)
        left.setMinimumWidth(330)
        middle = _column(self.floor, self.transport, self.ribbon)
        self.findings.setMinimumWidth(270)
        self.splitter = QSplitter(Qt.Orientation.Horizontal)
        self.splitter.setChildrenCollapsible(False)
        self.splitter.setHandleWidth(1)
        for part, stretch in ((left, 0), (middle, 1), (self.findings, 0)):
            self.splitter.addWidget(part)
            self.splitter.setStretchFactor(self.splitter.count() - 1, stretch)
        self.splitter.setSizes([420, 860, 310])
        self.findings.hide()
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.setSpacing(0)
        whole.addWidget(self.answers)
        whole.addWidget(_rule())
        whole.addWidget(self.splitter, 1)
        self.findings.chosen.connect(self._go_to)
        self.score.change_wanted.connect(self.entry.change_selected)
        self.floor.whole_wanted.connect(looking[0].trigger)
        self.floor.moved_by_hand.connect(lambda: looking[1].setChecked(False))
        self.floor.row_clicked.connect(lambda row: document.go(float(row)))

    def set_theme(self, theme: Theme) -> None:
        for view in (self.answers, self.score, self.entry, self.floor, self.ribbon, self.findings, self.text):
            view.set_theme(theme)

    def show_text(self, shown: bool) -> None:
        """Shows the score as text, or drawn."""
        self.stack.setCurrentWidget(self.text if shown else self.drawn)
        (self.text.text if shown else self.score).setFocus()

    def _close_search(self) -> None:
        self.search.hide()
        self.show_text(self.stack.currentWidget() is self.text)

    def _type_for(self, text: str) -> None:
        self.entry.field.setText(text)
        self.entry.field.setFocus()

    def show_findings(self, shown: bool) -> None:
        self.findings.setVisible(shown)

    def _go_to(self, finding: Finding) -> None:
        self.floor.chosen = finding
        self._document.go(float(finding.row))
        self.floor.update()


def _column(*parts: QWidget) -> QWidget:
    holder = QWidget()
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
