"""Draws the rows of the score: feet, beam, dial and words, by the same painter as the floor."""

from __future__ import annotations

from functools import lru_cache

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPen, QPixmap, QTransform
from PySide6.QtWidgets import QAbstractItemView, QStyledItemDelegate, QStyleOptionViewItem

from waltzmark.core.base.angles import ahead, heading_difference
from waltzmark.core.base.leftright import Side
from waltzmark.core.body.foot import Sole
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.form.form import Posture
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.write import write_aim
from waltzmark.core.walk.annotations import HandMark, hands_of
from waltzmark.core.walk.pelvis import pelvis_heading
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded
from waltzmark.desktop.painter.box import fill_box
from waltzmark.desktop.painter.marks import draw_beam, draw_breath, draw_dial, draw_gaze, draw_hand_ticks, draw_severity
from waltzmark.desktop.painter.soles import draw_sole
from waltzmark.desktop.plot.score_model import ENTRY, EntryKind, ScoreEntry, ScoreModel
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.language import tr

__all__ = ["COUNT_HEIGHT", "ScoreDelegate", "beam_box", "dial_centre"]

#: Pixels of the row of a count whose words take one line or two.
COUNT_HEIGHT = 46
_SEEN = 3.0  # degrees between pelvis and chest that a dial of its size can show
_POSTURE, _REMARK = 34, 26
_FEET = 30.0  # left edge of the drawings
_WORDS = 188.0  # left edge of the words
_KEPT = 400  # drawings of counts
_MARKS = 24.0  # room for severity marks at the right


def beam_box(row: QRectF) -> QRectF:
    """Where the beam of weight stands in a count's row."""
    return QRectF(row.left() + _FEET + 37, row.top() + COUNT_HEIGHT / 2.0 - 15, 42, 28)


def dial_centre(row: QRectF) -> QPointF:
    """The middle of the dial in a count's row."""
    return QPointF(row.left() + _FEET + 132, row.top() + COUNT_HEIGHT / 2.0)


@guarded
class ScoreDelegate(QStyledItemDelegate):
    """Paints `ScoreEntry` rows."""

    def __init__(self, document: Document, model: ScoreModel, theme: Theme, view: QAbstractItemView) -> None:
        super().__init__(view)
        self._document, self._model, self._view, self.theme = document, model, view, theme
        self._drawn: dict[object, QPixmap] = {}
        self._shown: dict[int, object] = {}  # how each row looked when it was painted last

    def height(self, entry: ScoreEntry) -> int:
        """The height of an entry's row in pixels."""
        if entry.kind is EntryKind.POSTURE:
            return _POSTURE
        if entry.kind is EntryKind.REMARK:
            return _REMARK
        if entry.kind is EntryKind.UNREAD:
            return 2 * _REMARK - 8
        lines = _lines(entry.text, bool(entry.note), self._view.viewport().width())
        return max(COUNT_HEIGHT, 14 + 16 * lines)

    def look(self, entry: ScoreEntry) -> tuple[object, ...]:
        """All that the drawing of an entry depends on, beside the theme and whether it is selected."""
        if entry.kind is EntryKind.POSTURE:
            assert entry.posture is not None
            return entry.text, _about(self._document, entry.posture)
        severities = tuple(f.severity for f in self._model.findings(entry)[:2])
        drawn = self._drawing(entry.row) if entry.kind in (EntryKind.OPENING, EntryKind.COUNT) else None
        return entry.kind, entry.text, entry.note, entry.number, severities, drawn

    def looks_new(self, index: int) -> bool:
        """Whether an entry looks otherwise than when it was painted last."""
        return self._shown.get(index) != self.look(self._model.entries[index])

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        entry: ScoreEntry = index.data(ENTRY)
        rect = option.rect
        self._shown[index.row()] = self.look(entry)
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        chosen = self._view.selectionModel().isSelected(index)
        if chosen:
            fill_box(painter, rect, self.theme.color("chosen"))
            fill_box(painter, QRect(rect.left(), rect.top(), 4, rect.height()), self.theme.color("centre"))
        if entry.kind is EntryKind.POSTURE:
            self._paint_posture(painter, QRectF(rect), entry, chosen)
        elif entry.kind is EntryKind.UNREAD:
            self._paint_unread(painter, QRectF(rect), entry)
        elif entry.kind is EntryKind.REMARK:
            self._paint_remark(painter, QRectF(rect), entry)
        else:
            self._paint_count(painter, QRectF(rect), entry, chosen)
        painter.restore()

    def _paint_posture(self, painter: QPainter, rect: QRectF, entry: ScoreEntry, chosen: bool) -> None:
        theme = self.theme
        assert entry.posture is not None
        if not chosen:
            fill_box(painter, rect, theme.color("raised"))
        painter.setPen(QPen(theme.color("rule"), 1))
        painter.drawLine(rect.topLeft(), rect.topRight())
        painter.setFont(font(11.5, bold=True))
        painter.setPen(theme.color("chosen_ink" if chosen else "ink"))
        box = rect.adjusted(12, 0, -12, 0)
        title = painter.fontMetrics().elidedText(entry.text, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, title)
        room = box.width() - painter.fontMetrics().horizontalAdvance(title) - 14
        painter.setFont(font(9.5))
        painter.setPen(theme.color("chosen_ink" if chosen else "faint"))
        about = _about(self._document, entry.posture)
        about = painter.fontMetrics().elidedText(about, Qt.TextElideMode.ElideRight, int(room))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, about)

    def _paint_remark(self, painter: QPainter, rect: QRectF, entry: ScoreEntry) -> None:
        theme = self.theme
        found = self._model.findings(entry)
        painter.setFont(font(9.5, italic=not entry.text))
        painter.setPen(theme.color(found[0].severity if found else "faint"))
        text = entry.text or entry.note
        box = rect.adjusted(_WORDS, 0, -_MARKS, 0)
        text = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(box.width()))
        painter.drawText(box, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, text)
        if entry.text and not found:
            painter.setPen(QPen(theme.color("good"), 2.0))
            x, y = _WORDS - 14, rect.center().y()
            painter.drawPolyline([QPointF(x - 4, y), QPointF(x - 1, y + 3), QPointF(x + 5, y - 4)])
        elif found:
            draw_severity(painter, QPointF(_WORDS - 13, rect.center().y()), 13, found[0].severity, theme)

    def _paint_unread(self, painter: QPainter, rect: QRectF, entry: ScoreEntry) -> None:
        """What was typed, and below it what is wrong with it."""
        theme = self.theme
        draw_severity(painter, QPointF(_WORDS - 13, rect.top() + 14), 13, "stop", theme)
        box = rect.adjusted(_WORDS, 4, -10, -4)
        top, bottom = Qt.AlignmentFlag.AlignTop, Qt.AlignmentFlag.AlignBottom
        for words, role, flag, italic in ((entry.text, "ink", top, False), (entry.note, "stop", bottom, True)):
            painter.setFont(font(9.5, italic=italic))
            painter.setPen(theme.color(role))
            shown = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, int(box.width()))
            painter.drawText(box, Qt.AlignmentFlag.AlignLeft | flag, shown)

    def _drawing(self, row: int) -> tuple[object, ...]:
        """What feet, beam and dial of a row depend on; the same wherever its posture stands."""
        trace = self._document.trace

        def drawing() -> tuple[object, ...]:
            pose, hands, breath = trace.pose(row), hands_of(trace, row), trace.breaths[row]
            feet = tuple((foot.heading, foot.contact) for foot in (pose.left, pose.right))
            return trace.body.sole, feet, pose.left_share, pose.torso, pose.gaze, hands, breath, _twisted(trace, pose)

        number = int(trace.passage_of[row])
        return trace.passages[number].known(f"drawing {row - int(trace.starts[number])}", drawing)

    def _drawings_of(self, trace: Trace, row: int, ratio: float) -> QPixmap:
        """Feet, beam and dial of a count; drawn once for all counts that look the same."""
        pose, hands, breath = trace.pose(row), hands_of(trace, row), trace.breaths[row]
        look = (*self._drawing(row), self.theme.name, ratio)
        drawn = self._drawn.get(look)
        if drawn is None:
            if len(self._drawn) >= _KEPT:
                self._drawn.clear()
            drawn = QPixmap(round(_WORDS * ratio), round(COUNT_HEIGHT * ratio))
            drawn.setDevicePixelRatio(ratio)
            drawn.fill(Qt.GlobalColor.transparent)
            with QPainter(drawn) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                self._draw(painter, trace.body.sole, pose, hands, breath, _twisted(trace, pose))
            self._drawn[look] = drawn
        return drawn

    def _draw(
        self,
        painter: QPainter,
        sole: Sole,
        pose: Pose,
        hands: tuple[HandMark, ...],
        breath: bool | None,
        pelvis: float | None,
    ) -> None:
        theme, box = self.theme, QRectF(0, 0, _WORDS, COUNT_HEIGHT)
        scale = 34.0 / sole.length
        for side, x in ((Side.LEFT, _FEET + 18), (Side.RIGHT, _FEET + 98)):
            # Each sole stands in the middle of its own place, turned to its heading.
            upright = QTransform().translate(x, COUNT_HEIGHT / 2.0).scale(scale, -scale)
            foot = pose.foot(side)
            x0, y0 = _middle_offset(foot, sole.of(side))
            placed = FootPose(-x0, -y0, foot.heading, foot.contact)
            draw_sole(painter, upright, sole, side, placed, pose.share(side), theme, letter=False)
        draw_beam(painter, beam_box(box), pose.left_share, theme)
        draw_dial(painter, dial_centre(box), 12.0, pose.torso, theme, pelvis)
        if abs(heading_difference(pose.torso, pose.gaze)) > 0.5:
            draw_gaze(painter, dial_centre(box), 12.0, pose.gaze, theme)
        draw_hand_ticks(painter, dial_centre(box), 12.5, hands, theme)
        if breath is not None:
            draw_breath(painter, QPointF(16, COUNT_HEIGHT / 2.0 + 15), breath, theme)

    def _paint_count(self, painter: QPainter, rect: QRectF, entry: ScoreEntry, chosen: bool) -> None:
        theme, trace = self.theme, self._document.trace
        ink = theme.color("chosen_ink" if chosen else "ink")
        middle = rect.top() + COUNT_HEIGHT / 2.0
        painter.setFont(font(10))
        painter.setPen(ink if chosen else theme.color("faint"))
        number = str(entry.number) if entry.kind is EntryKind.COUNT else ""
        painter.drawText(QRectF(rect.left() + 6, middle - 12, 20, 24), Qt.AlignmentFlag.AlignCenter, number)
        ratio = self._view.devicePixelRatioF()
        painter.drawPixmap(rect.topLeft(), self._drawings_of(trace, entry.row, ratio))
        box = rect.adjusted(_WORDS, 4, -_MARKS, -4)
        painter.setFont(font(10))
        painter.setPen(ink)
        flags = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap
        note_height = 16.0 if entry.note else 0.0
        painter.drawText(box.adjusted(0, 0, 0, -note_height), flags, entry.text)
        if entry.note:
            painter.setFont(font(9, italic=True))
            painter.setPen(ink if chosen else theme.color("faint"))
            line = QRectF(box.left(), box.bottom() - 16, box.width(), 16)
            words = painter.fontMetrics().elidedText(entry.note, Qt.TextElideMode.ElideRight, int(line.width()))
            painter.drawText(line, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, words)
        for at, finding in enumerate(self._model.findings(entry)[:2]):
            draw_severity(painter, QPointF(rect.right() - 13, middle - 8 + 17 * at), 14, finding.severity, theme)


def _twisted(trace: Trace, pose: Pose) -> float | None:
    """Where the pelvis faces, when it is not where the chest does."""
    heading = round(pelvis_heading(trace.body, pose), 1)
    return heading if abs(heading_difference(heading, pose.torso)) > _SEEN else None


@lru_cache(maxsize=8192)
def _lines(text: str, noted: bool, width: int) -> int:
    """How many lines the words of a count and its note take in a row of a width."""
    metrics = QFontMetricsF(font(10))
    room = QRectF(0, 0, width - _WORDS - _MARKS, 1000)
    words = metrics.boundingRect(room, Qt.TextFlag.TextWordWrap, text).height()
    return round(words / metrics.lineSpacing()) + noted


def _middle_offset(foot: FootPose, length: float) -> tuple[float, float]:
    """The middle of the sole from its heel centre, turned with the foot, metres."""
    ux, uy = ahead(foot.heading)
    return 0.37 * length * ux, 0.37 * length * uy


def _about(document: Document, posture: Posture) -> str:
    """Where a posture's counts come from and where it ends, in words."""
    words = []
    if posture.source:
        source = document.form.posture(posture.source).title
        words.append(
            tr("mirror of {title}", title=source) if posture.mirror_of else tr("repeat of {title}", title=source)
        )
        if posture.turned:
            turn = f"{posture.turned:+.0f}"
            words.append(tr("turned {turn}°", turn=turn))
    elif posture.side_of:
        words.append(tr("other side of {title}", title=document.form.posture(posture.side_of).title))
    ends = document.form.ends(posture)
    if ends is not None and not words:
        own = isinstance(ends, Clock) and ends.own  # it counts from where the posture begins
        facing = write_aim(ends) if own else document.session.say.toward(ends.heading(0.0, document.form.twelve))
        words.append(tr("ends facing {facing}", facing=facing))
    return ", ".join(words)
