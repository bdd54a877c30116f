"""The weight ribbon: the whole form in one strip, left above, right below; drag along it to walk."""

from __future__ import annotations

from collections import Counter

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QAccessible, QImage, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF
from PySide6.QtWidgets import QToolTip, QWidget

from waltzmark.core.base.arrays import Floats, Ints
from waltzmark.core.judge.finding import SEVERITIES, Finding, Severity
from waltzmark.core.walk.motion import ease
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.marks import draw_severity, draw_tag
from waltzmark.desktop.plain import plain
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.beats import LEFT, RIGHT, beat_at, beat_ends, beat_pixel, beat_pixels
from waltzmark.desktop.widgets.drag import ShareDrag
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.language import percent, ptr, tr

__all__ = ["WeightRibbon"]

_NAMES = 18.0  # height of the line of posture names
_APART = 7.0  # pixels at which the marks of findings can be told apart
_KNOB = 8.0  # pixels about the knob that take it

#: What stands for the left foot, its hatching and the right foot, and how thick each lies on the paper.
_SIDES = (("left", 0.70), ("left_pale", 0.46), ("right", 0.62))


def _mixed(one: int, other: int, share: Floats) -> Ints:
    """(n,) colours between two, *share* of the first."""
    mixed = np.full(len(share), 0xFF000000, dtype=np.int64)
    for shift in (16, 8, 0):
        a, b = one >> shift & 0xFF, other >> shift & 0xFF
        mixed |= np.rint(share * a + (1.0 - share) * b).astype(np.int64) << shift
    return mixed


@guarded
class WeightRibbon(QWidget):
    """The shares of both feet along the form's beats, with postures, findings and the playhead.

    Dragging walks; dragging the knob on the playhead up or down pours the weight of the selected count.
    """

    role = QAccessible.Role.Chart

    def __init__(self, document: Document, editor: Editor, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self._editor, self._theme = document, editor, theme
        self.hand: ShareDrag | None = None
        self._pointer = QPointF()
        self._strip: tuple[object, QPixmap] | None = None
        self._marked: tuple[object, QPixmap] | None = None
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # nothing below it needs to be painted
        self.setMinimumHeight(86)
        self.setMaximumHeight(110)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setAccessibleName(tr("Weight ribbon"))
        self.setAccessibleDescription(tr("The weight through the form; drag or use the arrow keys to move through it"))
        Telling(self, document.told, document.session.row_changed, document.form_changed)
        document.form_changed.connect(safely(self.update))
        document.judge.judged.connect(safely(self.update))
        document.session.moved.connect(safely(self.update))

    def sizeHint(self) -> QSize:
        return QSize(600, 94)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    # Beats and pixels.

    def _times(self) -> Floats:
        return beat_ends(self._document.trace)

    def _x(self, position: float, times: Floats) -> float:
        return beat_pixel(position, times, self.width())

    def _pixels(self, times: Floats) -> Floats:
        return beat_pixels(times, self.width())

    def position_at(self, x: float) -> float:
        """Playhead position under a pixel."""
        return beat_at(x, self._times(), self.width())

    # Painting.

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            times = self._times()
            painter.drawPixmap(0, 0, self._strip_for(times))
            self._paint_playhead(painter)
            if self.hand is not None and self.hand.label:
                at = QPointF(
                    min(max(self._pointer.x(), 100.0), self.width() - 100.0), max(self._pointer.y() - 24, 12.0)
                )
                draw_tag(painter, at, self.hand.label, self._theme)

    def _strip_for(self, times: Floats) -> QPixmap:
        """What does not move with the playhead, drawn once for the same beats, shares, postures and findings: an edit
        that only places a foot elsewhere leaves them."""
        document = self._document
        look = (
            self._marks_look(times),
            document.trace.shares.tobytes(),
            [(f.row, f.severity) for f in document.judge.everywhere],
        )
        if self._strip is None or self._strip[0] != look:
            ratio = self.devicePixelRatioF()
            strip = QPixmap(self.size() * ratio)
            strip.setDevicePixelRatio(ratio)
            strip.fill(self._theme.color("paper"))
            with QPainter(strip) as inner:
                self._paint_strip(inner, times)
            self._strip = look, strip
        return self._strip[1]

    def _marks_look(self, times: Floats) -> tuple[object, ...]:
        """What the marks of postures and breath depend on."""
        trace, form = self._document.trace, self._document.form
        titles = tuple(posture.title for posture in form.postures)
        return (
            times.tobytes(),
            trace.starts.tobytes(),
            titles,
            trace.breaths,
            self.width(),
            self.height(),
            self.devicePixelRatioF(),
            self._theme.name,
        )

    def _band(self) -> QRectF:
        return QRectF(LEFT, _NAMES + 2, self.width() - LEFT - RIGHT, self.height() - _NAMES - 22)

    def _paint_strip(self, painter: QPainter, times: Floats) -> None:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, trace, band = self._theme, self._document.trace, self._band()
        painter.setFont(font(9.0, bold=True))
        painter.setPen(theme.color("left"))
        label = QRectF(4, band.top(), LEFT - 8, band.height() / 2)
        painter.drawText(
            label, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, ptr("on the ribbon", "left")
        )
        painter.setPen(theme.color("right"))
        painter.drawText(
            label.translated(0, band.height() / 2),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            ptr("on the ribbon", "right"),
        )
        if len(trace) < 2:
            painter.setPen(theme.color("faint"))
            painter.setFont(font(9.5))
            painter.drawText(band, Qt.AlignmentFlag.AlignCenter, tr("The weight of each count will appear here."))
            return
        painter.drawImage(band, self._weights(times, band))
        painter.setPen(QPen(theme.color("paper"), 1.0, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(band.left(), band.center().y()), QPointF(band.right(), band.center().y()))
        painter.drawPixmap(0, 0, self._marks(times, band))
        for start, end, severity in self._heat(self._pixels(times)[trace.starts[1:] - 1]):
            painter.fillRect(QRectF(start, band.top() - 3.0, max(end - start - 1.0, 1.0), 3.0), theme.color(severity))
        self._paint_findings(painter, times, band)

    def _marks(self, times: Floats, band: QRectF) -> QPixmap:
        """Postures and breath, drawn once for the same beats and words: most edits leave them."""
        ratio, look = self.devicePixelRatioF(), self._marks_look(times)
        if self._marked is None or self._marked[0] != look:
            pixmap = QPixmap(self.size() * ratio)
            pixmap.setDevicePixelRatio(ratio)
            pixmap.fill(Qt.GlobalColor.transparent)
            with QPainter(pixmap) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                self._paint_postures(painter, times, band)
                self._paint_breath(painter, times, band)
            self._marked = look, pixmap
        return self._marked[1]

    def _paint_findings(self, painter: QPainter, times: Floats, band: QRectF) -> None:
        """A mark below each finding's count; where they would cover each other, the gravest one alone."""
        marks: dict[int, tuple[int, float, Finding]] = {}
        ends = self._pixels(times).tolist()
        for finding in self._document.judge.everywhere:
            x = ends[finding.row]
            mark = (SEVERITIES[finding.severity], x, finding)
            near = int(x / _APART)
            if near not in marks or mark[:2] < marks[near][:2]:
                marks[near] = mark
        for _, x, finding in marks.values():
            draw_severity(painter, QPointF(x, band.bottom() + 12), 13, finding.severity, self._theme)

    def _paint_breath(self, painter: QPainter, times: Floats, band: QRectF) -> None:
        """Breath along the foot of the band: a wedge that swells while breathing in and shrinks while breathing out."""
        painter.setPen(Qt.PenStyle.NoPen)
        ends, low = self._pixels(times).tolist(), band.bottom() + 1.0
        breaths = self._document.trace.breaths
        for inward, role in ((True, "breath_in"), (False, "breath_out")):
            spans = [(ends[row - 1], ends[row]) for row, way in enumerate(breaths) if way is inward]
            painter.setBrush(self._theme.color(role, 0.25))
            painter.drawRects([QRectF(start, low, end - start, 6.0) for start, end in spans])
            painter.setBrush(self._theme.color(role))
            for start, end in spans:
                if end - start >= 3.0:  # else no shape would be seen
                    corner = QPointF(end if inward else start, low + 6.0)
                    painter.drawPolygon(QPolygonF([QPointF(start, low), QPointF(end, low), corner]))

    def _weights(self, times: Floats, band: QRectF) -> QImage:
        """The two sides of the band: left above, hatched, down to its share; right below."""
        ratio, theme = self.devicePixelRatioF(), self._theme
        wide, high = round(band.width() * ratio), round(band.height() * ratio)
        level = high * self._left_shares(times, wide)[None, :]
        down, across = np.arange(high)[:, None], np.arange(wide)[None, :]
        hatched = (across + down) % round(7 * ratio) < ratio
        left, line, right = (theme.laid(role, "paper", alpha).rgb() for role, alpha in _SIDES)
        pixels = np.where(down < np.floor(level), np.where(hatched, line, left), right).astype(np.uint32)
        # The pixel on the edge is a mixture of both.
        x, y = across[0], np.minimum(np.floor(level[0]), high - 1).astype(np.int64)
        pixels[y, x] = _mixed(left, right, np.clip(level[0] - y, 0.0, 1.0))
        image = QImage(pixels.data, wide, high, 4 * wide, QImage.Format.Format_RGB32).copy()
        image.setDevicePixelRatio(ratio)
        return image

    def _left_shares(self, times: Floats, wide: int) -> Floats:
        """(wide,) the left foot's share along the form."""
        beat = times[-1] * (np.arange(wide) + 0.5) / wide
        left, row = self._document.trace.shares[:, 0], np.searchsorted(times, beat).clip(1, len(times) - 1)
        before, length = times[row - 1], np.maximum(times[row] - times[row - 1], 1e-9)
        return np.asarray(left[row - 1] + (left[row] - left[row - 1]) * ease(((beat - before) / length).clip(0, 1)))

    def _paint_postures(self, painter: QPainter, times: Floats, band: QRectF) -> None:
        theme, trace = self._theme, self._document.trace
        painter.setFont(font(8.5))
        metrics, ends = painter.fontMetrics(), self._pixels(times)
        borders = ends[trace.starts[1:] - 1]  # where each posture begins, and the end
        painter.setPen(QPen(theme.color("paper", 0.9), 1.2))
        painter.drawLines([QLineF(x, band.top(), x, band.bottom()) for x in borders[:-1].tolist()])
        painter.setPen(QPen(theme.color("faint"), 1.0))
        painter.drawLines([QLineF(x, band.top() - 4, x, band.top()) for x in borders[:-1].tolist()])
        free = 0.0  # up to where words have been written
        for number, posture in enumerate(self._document.form.postures, 1):
            start, room = float(borders[number - 1]), float(borders[number] - borders[number - 1]) - 5
            title = f"{number} {posture.title}"
            words = title if room > 40 and metrics.horizontalAdvance(title) <= room else str(number)
            if room > 0 and start + 4 >= free:
                painter.drawText(QPointF(start + 4, band.top() - 5), words)
                free = start + 8 + metrics.horizontalAdvance(words)

    def _heat(self, borders: Floats) -> list[tuple[float, float, Severity]]:
        """From where to where each posture with findings goes, and the gravest of them."""
        trace = self._document.trace
        gravest: dict[int, Severity] = {}
        for finding in self._document.judge.everywhere:
            number = int(trace.passage_of[finding.row])
            if number and (number not in gravest or SEVERITIES[finding.severity] < SEVERITIES[gravest[number]]):
                gravest[number] = finding.severity
        return [(float(borders[n - 1]), float(borders[n]), severity) for n, severity in gravest.items()]

    def _knob(self) -> QPointF:
        """The middle of the knob on the playhead; while weight is poured, where it would be."""
        document, band = self._document, self._band()
        share = document.session.pose.left_share
        if self.hand is not None and document.session.ghost is not None:
            share = document.session.ghost.trace.pose(document.session.ghost.row).left_share
        return QPointF(self._x(document.session.position, self._times()), band.top() + band.height() * share)

    def _on_knob(self, at: QPointF) -> bool:
        away = at - self._knob()
        return len(self._document.trace) > 1 and abs(away.x()) <= _KNOB and abs(away.y()) <= _KNOB

    def _paint_playhead(self, painter: QPainter) -> None:
        times, band, theme = self._times(), self._band(), self._theme
        if len(times) < 2:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        x = self._x(self._document.session.position, times)
        painter.setPen(QPen(theme.color("raised"), 4.0))
        painter.drawLine(QPointF(x, band.top() - 2), QPointF(x, band.bottom() + 2))
        painter.setPen(QPen(theme.color("ink"), 2.0))
        painter.drawLine(QPointF(x, band.top() - 3), QPointF(x, band.bottom() + 3))
        painter.setBrush(theme.color("raised"))
        painter.drawEllipse(self._knob(), 5.5, 5.5)
        if self.hasFocus():
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setPen(QPen(theme.color("centre"), 1.5))
            painter.drawRect(band.adjusted(-2, -2, 2, 2))

    # Hands on the ribbon.

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self._on_knob(event.position()):
            self._document.session.go(float(self._document.session.row))  # the weight is poured at the end of the count
            self.hand = ShareDrag(self._document, self._editor)
        else:
            self._document.session.go(self.position_at(event.position().x()))

    def mouseReleaseEvent(self, _event: QMouseEvent) -> None:
        hand, self.hand = self.hand, None
        if hand is not None:
            hand.release()
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self._pointer = event.position()
        if self.hand is not None:
            band, free = self._band(), bool(event.modifiers() & Qt.KeyboardModifier.AltModifier)
            self.hand.move((event.position().y() - band.top()) / band.height(), free)
            self.update()
            return
        on_knob = not event.buttons() and self._on_knob(event.position())
        self.setCursor(Qt.CursorShape.SizeVerCursor if on_knob else Qt.CursorShape.SizeHorCursor)
        position = self.position_at(event.position().x())
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._document.session.go(position)
            return
        posture = self._document.trace.posture(round(position))
        title = tr("the opening") if posture is None else self._document.form.posture(posture).title
        left = 100 * float(self._document.trace.shares[round(position), 0])
        words = tr("{title}: left {left}, right {right}", title=title, left=percent(left), right=percent(100 - left))
        families = Counter(f.rule.partition(".")[0] for f in self._document.judge.everywhere if f.posture == posture)
        if families:
            words += (
                "\n"
                + tr("Findings:")
                + " "
                + ", ".join(f"{family} {number}" for family, number in families.most_common())
            )
        QToolTip.showText(event.globalPosition().toPoint(), plain(words), self)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.hand is not None:
            self.hand.cancel()
            self.hand = None
            self.update()
            return
        ways = {Qt.Key.Key_Left: -0.25, Qt.Key.Key_Right: 0.25}
        if event.key() in ways and not event.modifiers():
            self._document.session.go(self._document.session.position + ways[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)
