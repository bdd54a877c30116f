"""The weight ribbon: the whole form in one strip, left above, right below; drag along it to walk."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QBrush, QKeyEvent, QMouseEvent, QPainter, QPainterPath, QPaintEvent, QPen, QPixmap, QPolygonF
from PySide6.QtWidgets import QToolTip, QWidget

from waltzmark.core.annotations import breath_of
from waltzmark.core.arrays import Floats
from waltzmark.core.motion import ease
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.painter.marks import draw_severity, draw_tag
from waltzmark.desktop.plot.drag import ShareDrag
from waltzmark.desktop.theme import Theme, font

__all__ = ["WeightRibbon"]

_NAMES = 18.0  # height of the line of posture names
_LEFT, _RIGHT = 42.0, 12.0  # margins
_KNOB = 8.0  # pixels about the knob that take it


class WeightRibbon(QWidget):
    """The shares of both feet along the form's beats, with postures, findings and the playhead.

    Dragging walks; dragging the knob on the playhead up or down pours the weight of the selected count.
    """

    def __init__(self, document: Document, editor: Editor, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self._editor, self._theme = document, editor, theme
        self.hand: ShareDrag | None = None
        self._pointer = QPointF()
        self._strip: QPixmap | None = None
        self.setMinimumHeight(86)
        self.setMaximumHeight(110)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setAccessibleName("Weight ribbon")
        self.setAccessibleDescription("The weight along the form; drag, or use the arrow keys, to walk through it")
        document.form_changed.connect(self._redraw)
        document.moved.connect(self.update)

    def sizeHint(self) -> QSize:
        return QSize(600, 94)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self._redraw()

    def _redraw(self) -> None:
        self._strip = None
        self.update()

    # Beats and pixels.

    def _times(self) -> Floats:
        """(n,) the beat at which each row ends; the opening ends at 0."""
        beats = self._document.trace.beats.copy()
        beats[0] = 0.0
        return np.cumsum(beats)

    def _x(self, position: float, times: Floats) -> float:
        """Pixel of a playhead position."""
        row = min(int(position), len(times) - 1)
        after = min(row + 1, len(times) - 1)
        return self._pixels(times[row] + (times[after] - times[row]) * (position - row), times)

    def _pixels(self, beat: float, times: Floats) -> float:
        return float(_LEFT + (self.width() - _LEFT - _RIGHT) * beat / max(times[-1], 1e-9))

    def position_at(self, x: float) -> float:
        """Playhead position under a pixel."""
        times = self._times()
        share = (x - _LEFT) / max(self.width() - _LEFT - _RIGHT, 1.0)
        return float(np.interp(share * times[-1], times, np.arange(len(times))))

    # Painting.

    def paintEvent(self, _event: QPaintEvent) -> None:
        painter = QPainter(self)
        ratio = self.devicePixelRatioF()
        if self._strip is None or self._strip.size() != self.size() * ratio or self._strip.devicePixelRatio() != ratio:
            self._strip = QPixmap(self.size() * ratio)
            self._strip.setDevicePixelRatio(ratio)
            self._strip.fill(self._theme.color("paper"))
            inner = QPainter(self._strip)
            self._paint_strip(inner)
            inner.end()
        painter.drawPixmap(0, 0, self._strip)
        self._paint_playhead(painter)
        if self.hand is not None and self.hand.label:
            at = QPointF(min(max(self._pointer.x(), 100.0), self.width() - 100.0), max(self._pointer.y() - 24, 12.0))
            draw_tag(painter, at, self.hand.label, self._theme)
        painter.end()

    def _band(self) -> QRectF:
        return QRectF(_LEFT, _NAMES + 2, self.width() - _LEFT - _RIGHT, self.height() - _NAMES - 22)

    def _paint_strip(self, painter: QPainter) -> None:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        theme, trace, band, times = self._theme, self._document.trace, self._band(), self._times()
        painter.setFont(font(9.0, bold=True))
        painter.setPen(theme.color("left"))
        label = QRectF(4, band.top(), _LEFT - 8, band.height() / 2)
        painter.drawText(label, Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, "left")
        painter.setPen(theme.color("right"))
        painter.drawText(
            label.translated(0, band.height() / 2), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, "right"
        )
        if len(trace) < 2:
            painter.setPen(theme.color("faint"))
            painter.setFont(font(9.5))
            painter.drawText(band, Qt.AlignmentFlag.AlignCenter, "The weight will run here, count by count.")
            return
        edge = self._edge(times, band)
        left = QPainterPath(edge)
        left.lineTo(band.topRight())
        left.lineTo(band.topLeft())
        left.closeSubpath()
        painter.fillRect(band, theme.color("right", 0.62))
        painter.fillPath(left, theme.color("paper"))
        painter.fillPath(left, theme.color("left", 0.70))
        hatch = QBrush(theme.color("left_pale", 0.30), Qt.BrushStyle.BDiagPattern)
        painter.fillPath(left, hatch)
        painter.setPen(QPen(theme.color("paper"), 1.0, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(band.left(), band.center().y()), QPointF(band.right(), band.center().y()))
        self._paint_postures(painter, times, band)
        self._paint_breath(painter, times, band)
        for finding in self._document.findings:
            at = QPointF(self._x(float(finding.row), times), band.bottom() + 12)
            draw_severity(painter, at, 13, finding.severity, theme)

    def _paint_breath(self, painter: QPainter, times: Floats, band: QRectF) -> None:
        """Breath along the foot of the band: a wedge that swells while breathing in and shrinks while breathing out."""
        painter.setPen(Qt.PenStyle.NoPen)
        for row, count in enumerate(self._document.trace.written):
            breath = breath_of(count)
            if breath is None:
                continue
            start, end = self._x(float(row - 1), times), self._x(float(row), times)
            low = band.bottom() + 1.0
            corner = QPointF(end if breath else start, low + 5.0)
            painter.setBrush(self._theme.color("breath_in" if breath else "breath_out"))
            painter.drawPolygon(QPolygonF([QPointF(start, low), QPointF(end, low), corner]))

    def _edge(self, times: Floats, band: QRectF) -> QPainterPath:
        """The line between left above and right below: high up when all weight is on the right."""
        left = self._document.trace.shares[:, 0]
        x = _LEFT + (self.width() - _LEFT - _RIGHT) * times / max(times[-1], 1e-9)
        steps = np.array([0.25, 0.5, 0.75, 1.0])
        eased = np.array([ease(float(step)) for step in steps])
        across = (x[:-1, None] + np.diff(x)[:, None] * steps).ravel()
        shares = (left[:-1, None] + np.diff(left)[:, None] * eased).ravel()
        down = band.top() + band.height() * shares
        points = [QPointF(band.left(), band.top() + band.height() * float(left[0]))]
        points += [QPointF(*point) for point in zip(across.tolist(), down.tolist(), strict=True)]
        path = QPainterPath()
        path.addPolygon(QPolygonF(points))
        return path

    def _paint_postures(self, painter: QPainter, times: Floats, band: QRectF) -> None:
        theme, trace = self._theme, self._document.trace
        painter.setFont(font(8.5))
        metrics = painter.fontMetrics()
        for number, passage in enumerate(trace.passages[1:], 1):
            if passage.posture is None or len(passage.table) == 0:
                continue
            start = self._x(float(trace.starts[number] - 1), times)
            end = self._x(float(trace.starts[number + 1] - 1), times)
            painter.setPen(QPen(theme.color("paper", 0.9), 1.2))
            painter.drawLine(QPointF(start, band.top()), QPointF(start, band.bottom()))
            painter.setPen(QPen(theme.color("faint"), 1.0))
            painter.drawLine(QPointF(start, band.top() - 4), QPointF(start, band.top()))
            title = f"{number} {self._document.form.posture(passage.posture).title}"
            room = end - start - 5
            words = title if metrics.horizontalAdvance(title) <= room else str(number)
            painter.setPen(theme.color("faint"))
            painter.drawText(QPointF(start + 4, band.top() - 5), words)

    def _knob(self) -> QPointF:
        """The middle of the knob on the playhead; while weight is poured, where it would be."""
        document, band = self._document, self._band()
        share = document.pose.left_share
        if self.hand is not None and document.ghost is not None:
            share = document.ghost.trace.pose(document.ghost.row).left_share
        return QPointF(self._x(document.position, self._times()), band.top() + band.height() * share)

    def _on_knob(self, at: QPointF) -> bool:
        away = at - self._knob()
        return self._document.row > 0 and abs(away.x()) <= _KNOB and abs(away.y()) <= _KNOB

    def _paint_playhead(self, painter: QPainter) -> None:
        times, band, theme = self._times(), self._band(), self._theme
        if len(times) < 2:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        x = self._x(self._document.position, times)
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
            self._document.go(float(self._document.row))  # the weight is poured at the end of the count
            self.hand = ShareDrag(self._document, self._editor)
        else:
            self._document.go(self.position_at(event.position().x()))

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
            self._document.go(position)
            return
        posture = self._document.trace.posture(round(position))
        title = "the opening" if posture is None else self._document.form.posture(posture).title
        left = 100 * float(self._document.trace.shares[round(position), 0])
        QToolTip.showText(
            event.globalPosition().toPoint(), f"{title}: left {left:.0f} %, right {100 - left:.0f} %", self
        )

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.hand is not None:
            self.hand.cancel()
            self.hand = None
            self.update()
            return
        ways = {Qt.Key.Key_Left: -0.25, Qt.Key.Key_Right: 0.25}
        if event.key() in ways and not event.modifiers():
            self._document.go(self._document.position + ways[Qt.Key(event.key())])
        else:
            super().keyPressEvent(event)
