"""The Plot stage: answers above, score at the left, floor and ribbon, findings at the right when asked for."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QFrame, QSplitter, QVBoxLayout, QWidget

from waltzmark.core.findings import Finding
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.plot.answers import AnswerStrip
from waltzmark.desktop.plot.entry import EntryLine
from waltzmark.desktop.plot.findings import FindingsDrawer
from waltzmark.desktop.plot.floor import FloorView
from waltzmark.desktop.plot.ribbon import WeightRibbon
from waltzmark.desktop.plot.score import ScoreView
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
        self.score = ScoreView(document, theme)
        self.entry = EntryLine(document, editor, theme)
        self.floor = FloorView(document, editor, theme)
        self.ribbon = WeightRibbon(document, theme)
        self.findings = FindingsDrawer(document, theme)
        self.transport = Transport(walking, tempos, looking)
        left = _column(self.score, self.entry)
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
        for view in (self.answers, self.score, self.entry, self.floor, self.ribbon, self.findings):
            view.set_theme(theme)

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
