"""The rows of a draft: how sure each is, its weights and its count; those that are taken stand back."""

from __future__ import annotations

from typing import NamedTuple

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter, QPen, QPolygonF
from PySide6.QtWidgets import QAbstractItemView, QStyledItemDelegate, QStyleOptionViewItem, QWidget

from waltzmark.core.judge.finding import Severity
from waltzmark.core.score.write import write_count
from waltzmark.desktop.drafting.workbench import Workbench
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.marks import draw_beam, draw_dial, draw_severity
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.rows import RowsModel, RowsView
from waltzmark.words.drafts import how_named, reasons
from waltzmark.words.language import ntr, tr

__all__ = ["DraftRows", "draw_how"]

_HEAD, _ROW = 30, 44
_WORDS = 176  # pixels from the left at which counts begin


class _Entry(NamedTuple):
    """A row as it is shown. at: of the draft, -1 for the heading of a posture."""

    at: int
    text: str
    how: str
    why: str
    share: float
    torso: float
    done: bool
    refused: bool
    severity: Severity | None
    noted: bool = False


def draw_how(painter: QPainter, at: QPointF, how: str, theme: Theme) -> None:
    """How sure something is, by shape: a dot for said, a ring for given, a dotted ring for chosen, a question mark for
    doubtful, a plus for what was put in, a tick for taken, a stroke for refused."""
    painter.setBrush(Qt.BrushStyle.NoBrush)
    if how in ("said", "yours"):
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("good"))
        painter.drawEllipse(at, 4.0, 4.0)
    elif how == "given":
        painter.setPen(QPen(theme.color("good"), 1.8))
        painter.drawEllipse(at, 4.2, 4.2)
    elif how == "chosen":
        painter.setPen(QPen(theme.color("caution"), 2.2, Qt.PenStyle.DotLine))
        painter.drawEllipse(at, 6.0, 6.0)
    elif how == "doubtful":
        painter.setPen(QPen(theme.color("stop"), 1.6))
        painter.drawEllipse(at, 8.0, 8.0)
        painter.setFont(font(9.5, bold=True))
        painter.drawText(QRectF(at.x() - 8, at.y() - 8, 16, 16), Qt.AlignmentFlag.AlignCenter, "?")
    elif how == "inserted":
        painter.setPen(QPen(theme.color("caution"), 2.0))
        painter.drawLine(QPointF(at.x() - 5, at.y()), QPointF(at.x() + 5, at.y()))
        painter.drawLine(QPointF(at.x(), at.y() - 5), QPointF(at.x(), at.y() + 5))
    elif how == "taken":
        painter.setPen(QPen(theme.color("good"), 2.0))
        painter.drawPolyline(QPolygonF([at + QPointF(-5, 0), at + QPointF(-1.5, 4), at + QPointF(6, -5)]))
    else:
        painter.setPen(QPen(theme.color("faint"), 1.8))
        painter.drawLine(at + QPointF(-5, -5), at + QPointF(5, 5))


@guarded
class _Model(RowsModel):
    """Rows as those hear them who do not see them."""

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        if not index.isValid() or role not in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.AccessibleTextRole):
            return None
        entry: _Entry = self.entries[index.row()]
        if entry.at < 0:
            return entry.text
        how = how_named(entry.how)
        if entry.why:
            return tr("{count}, {how}: {why}", count=entry.text, how=how, why=entry.why)
        return tr("{count}, {how}", count=entry.text, how=how)


def _unnamed(number: int) -> str:
    """What a posture is called here that has no name."""
    return tr("Posture {number}", number=number + 1)


@guarded
class DraftRows(RowsView):
    """The list of drafted counts; choosing one puts the hand on it.

    Enter takes, Shift+Enter takes the posture, F2 changes, Del refuses, Tab goes through other readings, N notes.
    """

    change_wanted = Signal()
    told = Signal(str)  # what could not be done, in words

    def __init__(self, bench: Workbench, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(_ROW, parent)
        self._bench, self.theme = bench, theme
        self.show_given = False
        self._following = False
        self.rows = _Model(self)
        self.setItemDelegate(_Delegate(self))
        self.set_rows(self.rows, lambda entry: _HEAD if entry.at < 0 else _ROW)
        self.setSelectionMode(QAbstractItemView.SelectionMode.SingleSelection)
        self.setAccessibleName(tr("Draft"))
        self.setAccessibleDescription(
            tr("The counts that the words are drafted as; Enter takes the one under the hand and goes on")
        )
        bench.drafted.connect(safely(self.refresh))
        bench.moved.connect(safely(self._follow))
        self.selectionModel().currentChanged.connect(safely(self._chosen))
        self.doubleClicked.connect(safely(lambda _index: self.change_wanted.emit()))

    def set_theme(self, theme: Theme) -> None:
        self.theme = theme
        self.viewport().update()

    def set_given(self, shown: bool) -> None:
        """Whether what was given by convention is told."""
        self.show_given = shown
        self.refresh()

    def refresh(self) -> None:
        """Shows the draft as it is."""
        found = self._bench.found
        entries: list[_Entry] = []
        gravest: dict[int, Severity] = {}
        if found is not None:
            for finding in reversed(found.findings):
                gravest[finding.row] = finding.severity
            last = -1
            for at, row in enumerate(found.of.rows):
                told = found.of.draft.postures[row.posture]
                wanted = (told.repeat_of, told.mirror_of)
                source = next((p for p in found.of.draft.postures if p.id in wanted), None)
                if row.posture != last:
                    last = row.posture
                    name = told.name or (source.name if source is not None else "")
                    name = name or _unnamed(row.posture)
                    entries.append(_Entry(-1, name, "", "", 0.0, 0.0, row.done, False, None))
                made = row.made
                pose = found.trace.pose(found.walked[at])
                if made is None:
                    title = tr("the posture before")
                    if source is not None:
                        title = source.name or _unnamed(found.of.draft.postures.index(source))
                    text = tr("mirror of {title}", title=title)
                    if told.repeat_of:
                        text = ntr("repeat of {title}", "{n} repeats of {title}", told.copies, title=title)
                    how = "taken" if row.done else "doubtful"
                    entries.append(_Entry(at, text, how, "", pose.left_share, pose.torso, row.done, False, None))
                    continue
                how = "refused" if made.refused else "taken" if row.done else "yours" if made.yours else made.how
                why = "" if row.done or made.yours else reasons(made, self.show_given)
                if how == "given" and not self.show_given:
                    how = "said"
                grave = None if row.done or made.refused else gravest.get(found.walked[at])
                text = write_count(made.count)
                noted = bool(made.count.note)
                entries.append(
                    _Entry(at, text, how, why, pose.left_share, pose.torso, row.done, made.refused, grave, noted)
                )
        self._following = True
        self.rows.exchange(entries)
        self._following = False
        self._follow()
        self.viewport().update()

    def _follow(self) -> None:
        """Shows the row under the hand."""
        at = next((n for n, entry in enumerate(self.rows.entries) if entry.at == self._bench.hand), -1)
        if at < 0:
            return
        self._following = True
        if self.currentIndex().row() != at:
            self.setCurrentIndex(self.rows.index(at))
        self.scrollTo(self.rows.index(at))
        self._following = False

    def _chosen(self, now: QModelIndex, _before: QModelIndex) -> None:
        if self._following or not now.isValid():
            return
        entry: _Entry = self.rows.entries[now.row()]
        if entry.at >= 0:
            self._bench.go(entry.at)
        else:  # a heading: its first row
            self._bench.go(self.rows.entries[min(now.row() + 1, len(self.rows.entries) - 1)].at)

    def hand_at(self) -> QPointF | None:
        """Where the row under the hand begins, in the view; None where it is not seen."""
        at = next((n for n, entry in enumerate(self.rows.entries) if entry.at == self._bench.hand), -1)
        box = self.visualRect(self.rows.index(at)) if at >= 0 else None
        if box is None or not self.viewport().rect().intersects(box):
            return None
        return QPointF(0.0, box.center().y())

    def keyPressEvent(self, event: QKeyEvent) -> None:
        bench, key = self._bench, event.key()
        shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and not event.modifiers() & Qt.KeyboardModifier.ControlModifier:
            if not bench.take(whole=shift):
                self.told.emit(tr("All that was drafted is taken."))
        elif key in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace):
            bench.refuse()
        elif key == Qt.Key.Key_Tab or key == Qt.Key.Key_Backtab:
            if not bench.other_reading(-1 if key == Qt.Key.Key_Backtab else 1):
                self.told.emit(tr("There is no other reading of these words. F2 changes the count."))
        elif key == Qt.Key.Key_F2:
            self.change_wanted.emit()
        elif key == Qt.Key.Key_N and not event.modifiers():
            bench.note()
        elif key == Qt.Key.Key_Up or key == Qt.Key.Key_Down:
            bench.go(bench.hand + (1 if key == Qt.Key.Key_Down else -1))
        else:
            super().keyPressEvent(event)

    def event(self, event: object) -> bool:
        """Tab goes through readings where there is a draft, and does not leave it."""
        if isinstance(event, QKeyEvent) and event.type() == QKeyEvent.Type.KeyPress:
            onward = event.modifiers() & Qt.KeyboardModifier.ControlModifier
            if event.key() in (Qt.Key.Key_Tab, Qt.Key.Key_Backtab) and not onward and self.rows.rowCount():
                self.keyPressEvent(event)
                return True
        return super().event(event)  # type: ignore[arg-type]


@guarded
class _Delegate(QStyledItemDelegate):
    """Draws the rows."""

    def __init__(self, view: DraftRows) -> None:
        super().__init__(view)
        self._view = view

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        view, theme = self._view, self._view.theme
        entry: _Entry = view.rows.entries[index.row()]
        rect = QRectF(option.rect)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if entry.at < 0:
            painter.fillRect(rect, theme.color("raised"))
            painter.setPen(QPen(theme.color("rule"), 1))
            painter.drawLine(rect.topLeft(), rect.topRight())
            painter.setFont(font(11, bold=True))
            painter.setPen(theme.color("faint" if entry.done else "ink"))
            text = painter.fontMetrics().elidedText(entry.text, Qt.TextElideMode.ElideRight, int(rect.width() - 24))
            painter.drawText(rect.adjusted(12, 0, -12, 0), Qt.AlignmentFlag.AlignVCenter, text)
        else:
            self._count(painter, rect, entry, view.selectionModel().isSelected(index))
        painter.restore()

    def _count(self, painter: QPainter, rect: QRectF, entry: _Entry, chosen: bool) -> None:
        theme = self._view.theme
        if chosen:
            painter.fillRect(rect, theme.color("chosen"))
            painter.fillRect(QRectF(rect.left(), rect.top(), 4, rect.height()), theme.color("centre"))
        middle = rect.center().y()
        draw_how(painter, QPointF(rect.left() + 20, middle), entry.how, theme)
        if not entry.refused:
            painter.setOpacity(0.55 if entry.done else 1.0)
            draw_beam(painter, QRectF(rect.left() + 40, middle - 8, 88, 16), entry.share, theme)
            draw_dial(painter, QPointF(rect.left() + 150, middle), 11.0, entry.torso, theme, None)
            painter.setOpacity(1.0)
        ink = "chosen_ink" if chosen else "faint" if entry.done else "ink"
        box = rect.adjusted(_WORDS, 4, -30, -4)
        face = font(10.5)
        if entry.refused:
            face.setStrikeOut(True)
        painter.setFont(face)
        painter.setPen(theme.color(ink))
        metrics, elide = painter.fontMetrics(), Qt.TextElideMode.ElideRight
        flag = Qt.AlignmentFlag.AlignTop if entry.why else Qt.AlignmentFlag.AlignVCenter
        painter.drawText(box, flag, metrics.elidedText(entry.text, elide, int(box.width())))
        face.setStrikeOut(False)
        if entry.why:
            painter.setFont(font(9.0, italic=True))
            painter.setPen(theme.color("chosen_ink" if chosen else "stop" if entry.how == "doubtful" else "faint"))
            words = painter.fontMetrics().elidedText(entry.why, elide, int(box.width()))
            painter.drawText(box, Qt.AlignmentFlag.AlignBottom, words)
        if entry.severity is not None:
            draw_severity(painter, QPointF(rect.right() - 15, middle), 14, entry.severity, theme)
