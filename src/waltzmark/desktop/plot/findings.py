"""The findings as one list: what, where, how much against what limit, why it matters, what would mend it."""

from __future__ import annotations

from collections import Counter
from functools import lru_cache
from itertools import groupby

from PySide6.QtCore import QModelIndex, QObject, QPersistentModelIndex, QPointF, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QPainter, QPen
from PySide6.QtWidgets import (
    QAbstractItemView,
    QCheckBox,
    QFrame,
    QHBoxLayout,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
)

from waltzmark.core.judge.finding import Finding
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.marks import draw_severity
from waltzmark.desktop.plain import Label, wrapped
from waltzmark.desktop.plot.mending import MendingPanel
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.rows import RowsModel, RowsView
from waltzmark.words.answers import places, where
from waltzmark.words.figures import Figures
from waltzmark.words.findings import how_many, remedy, remedy_kind, severity_name, what
from waltzmark.words.language import ntr, shipped, tr
from waltzmark.words.named import family as family_name
from waltzmark.words.rules import rule_title
from waltzmark.words.sentences import SPECS

__all__ = ["FindingsDrawer"]

_FINDING = Qt.ItemDataRole.UserRole + 1
_WORDS = 34.0
_MANY = 4096  # heights that are remembered


def measure(finding: Finding, say: Figures) -> str:
    """What was measured against what limit; empty where the words say it all."""
    told = finding.rule == "expect.unmet"  # its words compare already
    if told or finding.measured is None or finding.limit is None or finding.unit not in ("%", "°", "cm"):
        return ""
    spec = SPECS[{"cm": "cm", "%": "percent", "°": "degrees"}[finding.unit]]
    return tr("{measured} against {limit}", measured=spec(finding.measured, say), limit=spec(finding.limit, say))


def _kind(finding: Finding) -> tuple[str, str]:
    """What tells apart the ways to put findings right, whatever their figures are."""
    return finding.rule, remedy_kind(finding)


@guarded
class _Model(RowsModel):
    def __init__(self, document: Document, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._document = document
        self.by_mend = False
        self._headings: dict[int, str] = {}
        document.session.figures_changed.connect(safely(self._rebuild))
        document.form_changed.connect(safely(self._rebuild))
        document.judge.judged.connect(safely(self._rebuild))
        self._rebuild()

    def _rebuild(self) -> None:
        found = self._document.judge.findings
        self._headings = {}
        if self.by_mend:
            firsts = {_kind(finding): number for number, finding in reversed(list(enumerate(found)))}
            found = tuple(sorted(found, key=lambda finding: (firsts[_kind(finding)], finding.row)))
            for kind, same in groupby(found, key=_kind):
                group = list(same)
                remedies = {remedy(f, self._document.session.say) for f in group}
                words = remedies.pop() if len(remedies) == 1 else rule_title(kind[0])
                self._headings[id(group[0])] = f"{words.rstrip('.')}: {sum(f.times for f in group)}"
        self.exchange(found)

    def group(self, by_mend: bool) -> None:
        """Lists what one mend puts right together, or everything in the order of the walk."""
        self.by_mend = by_mend
        self._rebuild()

    def heading(self, finding: Finding) -> str:
        """The mend above the first finding it puts right, and how many it does; empty elsewhere."""
        return self._headings.get(id(finding), "")

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if not index.isValid():
            return None
        finding: Finding = self.entries[index.row()]
        if role == _FINDING:
            return finding
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            place = where(self._document.form, finding.posture, finding.count)
            if finding.again:
                place = ntr("{place}, {n} time", "{place}, {n} times", finding.times, place=place)
            return f"{severity_name(finding.severity)}: {place}: {what(finding, self._document.session.say)}"
        return None


@guarded
class _Delegate(QStyledItemDelegate):
    """Draws one finding; the chosen one tells everything, the others what and where."""

    def __init__(self, document: Document, theme: Theme, view: RowsView, model: _Model) -> None:
        super().__init__(view)
        self._document, self._view, self._model, self.theme = document, view, model, theme
        self._heights: dict[tuple[object, ...], int] = {}  # by the finding and what else they hang on
        document.session.figures_changed.connect(safely(self._heights.clear))

    def _parts(self, finding: Finding, chosen: bool) -> list[tuple[str, str, float, bool, bool]]:
        """(words, colour role, points, bold, italic) of each paragraph."""
        place = where(self._document.form, finding.posture, finding.count)
        message = what(finding, self._document.session.say)
        if finding.again:
            place += tr("  ·  {times} times", times=finding.times)
        parts = [(place, "faint", 9.5, False, False), (message, "ink", 10.5, True, False)]
        if heading := self._model.heading(finding):
            parts.insert(0, (heading, "centre", 10.5, True, False))
        if chosen:
            if finding.again:
                parts.append(
                    (tr("Also in {places}.", places=places(self._document.form, finding)), "faint", 10.0, False, False)
                )
            figures = measure(finding, self._document.session.say)
            if figures:
                parts.append((figures, finding.severity, 10.0, True, False))
            parts.append((shipped(finding.why), "ink", 10.0, False, False))
            if not finding.mends:
                parts.append((remedy(finding, self._document.session.say), "ink", 10.0, False, True))
            if finding.caution:
                parts.append((shipped(finding.caution), "caution", 10.0, False, False))
        return [part for part in parts if part[0]]

    def _layout(self, finding: Finding, chosen: bool, width: float) -> tuple[list[tuple[QRectF, int]], float]:
        parts = self._parts(finding, chosen)
        return _boxes(tuple((words, points, bold, italic) for words, _, points, bold, italic in parts), width)

    def height(self, finding: Finding) -> int:
        """The height of a finding's row in pixels; the current one tells more."""
        current = self._view.currentIndex()
        chosen = current.isValid() and current.data(_FINDING) is finding
        width = self._view.viewport().width()
        title = "" if finding.posture is None else self._document.form.posture(finding.posture).title
        known = finding, width, chosen, self._model.heading(finding), title
        if known not in self._heights:  # an edit makes few findings anew and moves many
            if len(self._heights) > _MANY:
                self._heights.clear()
            self._heights[known] = int(self._layout(finding, chosen, width)[1])
        return self._heights[known]

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        finding: Finding = index.data(_FINDING)
        chosen = self._view.selectionModel().isSelected(index)
        rect: QRect = option.rect
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if chosen:
            painter.fillRect(rect, self.theme.color("raised"))
            painter.fillRect(QRect(rect.left(), rect.top(), 4, rect.height()), self.theme.color(finding.severity))
        painter.setPen(QPen(self.theme.color("rule"), 1))
        painter.drawLine(rect.bottomLeft(), rect.bottomRight())
        draw_severity(painter, QPointF(rect.left() + 19, rect.top() + 17), 16, finding.severity, self.theme)
        painter.translate(rect.topLeft())
        parts = self._parts(finding, chosen)
        for box, number in self._layout(finding, chosen, rect.width())[0]:
            words, role, points, bold, italic = parts[number]
            painter.setFont(font(points, bold, italic))
            painter.setPen(self.theme.color(role))
            painter.drawText(box, Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignLeft, words)
        painter.restore()


@lru_cache(maxsize=2048)
def _boxes(parts: tuple[tuple[str, float, bool, bool], ...], width: float) -> tuple[list[tuple[QRectF, int]], float]:
    """Where each paragraph (words, points, bold, italic) of a finding stands in a row, and the row's height."""
    y, boxes = 8.0, []
    for number, (words, points, bold, italic) in enumerate(parts):
        metrics = QFontMetricsF(font(points, bold, italic))
        box = metrics.boundingRect(QRectF(0, 0, width - _WORDS - 12, 2000), Qt.TextFlag.TextWordWrap, words)
        boxes.append((QRectF(_WORDS, y, width - _WORDS - 12, box.height() + 1), number))
        y += box.height() + 4
    return boxes, y + 6


class FindingsDrawer(QFrame):
    """The list of findings; choosing one goes to its count."""

    chosen = Signal(object)  # Finding

    def __init__(self, document: Document, editor: Editor, theme: Theme, asking: Asking) -> None:
        super().__init__()
        self.setObjectName("drawer")
        self._document = document
        self.mending = MendingPanel(document, editor, asking)
        self.heading = Label(tr("Findings"))
        self.heading.setFont(font(12.5, bold=True))
        self.summary = wrapped("", faint=True)
        self.list = RowsView(62)
        self.list.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        rows = self._rows = _Model(document, self.list)
        self._delegate = _Delegate(document, theme, self.list, rows)
        self.list.set_rows(rows, self._delegate.height)
        self.list.setItemDelegate(self._delegate)
        self.list.setAccessibleName(tr("Findings"))
        self.list.selectionModel().currentChanged.connect(safely(self._choose))
        self.list.clicked.connect(safely(lambda index: self._choose(index, index)))
        # A heading may stand above another finding of those that stayed.
        rows.exchanged.connect(safely(lambda: self.list.size_all() if rows.by_mend else None))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 10, 0, 0)
        column.setSpacing(6)
        for label in (self.heading, self.summary):
            label.setContentsMargins(14, 0, 12, 0)
            column.addWidget(label)
        self.by_mend = QCheckBox(tr("Group by fix"))
        self.by_mend.toggled.connect(safely(self._group))
        row = QHBoxLayout()
        row.setContentsMargins(14, 0, 12, 0)
        row.addWidget(self.by_mend)
        column.addLayout(row)
        column.addWidget(self.list, 1)
        column.addWidget(self.mending)
        document.form_changed.connect(safely(self._say))
        document.judge.judged.connect(safely(self._say))
        document.judge.news_changed.connect(safely(self._say))
        self._say()

    def _group(self, on: bool) -> None:
        self._rows.group(on)
        self.list.size_all()

    def set_theme(self, theme: Theme) -> None:
        self._delegate.theme = theme
        self.list.viewport().update()

    def _say(self) -> None:
        families = Counter(finding.rule.partition(".")[0] for finding in self._document.judge.findings)
        listed = ", ".join(f"{family_name(family)} {number}" for family, number in families.most_common())
        words = [
            f"{how_many(self._document.judge.findings)}.",
            tr("By kind: {listed}.", listed=listed) if len(families) > 1 else "",
        ]
        self.summary.setText(" ".join(word for word in (*words, self._document.judge.news) if word))

    def _choose(self, index: QModelIndex, before: QModelIndex) -> None:
        if self._rows.changing:
            return  # what is current meanwhile may be about a posture that is no more
        for each in (before, index):
            if each.isValid():
                self.list.size_rows(each.row(), each.row())
        if index.isValid():
            self.mending.show_finding(index.data(_FINDING))
            self.chosen.emit(index.data(_FINDING))

    def step(self, by: int) -> None:
        """Chooses the next or previous finding."""
        count = self.list.model().rowCount()
        if count:
            now = self.list.currentIndex().row()
            if now >= 0:
                row = (now + by) % count
            elif by > 0:
                row = 0
            else:
                row = count - 1
            self.list.setCurrentIndex(self.list.model().index(row, 0))
