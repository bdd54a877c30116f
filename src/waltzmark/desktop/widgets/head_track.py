"""How high the head is through the form, under the weight ribbon: bobbing is seen at once."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QAccessible, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap, QPolygonF
from PySide6.QtWidgets import QWidget

from waltzmark.core.base.arrays import Floats
from waltzmark.core.body.figure import JOINTS
from waltzmark.core.walk.figures import Figures
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.beats import LEFT, RIGHT, beat_at, beat_ends, beat_pixel, beat_pixels
from waltzmark.words.language import tr

__all__ = ["HeadTrack"]

#: Metres that the strip shows at the least, so that a steady walk does not look like a stormy one.
_LEAST = 0.30


@guarded
class HeadTrack(QWidget):
    """The height of the crown above the floor along the form's beats. Dragging walks, as on the weight ribbon."""

    role = QAccessible.Role.Chart

    def __init__(self, document: Document, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self._theme = document, theme
        self._known: tuple[Trace, Floats] | None = None
        self._strip: tuple[object, QPixmap] | None = None
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        self.setMinimumHeight(72)
        self.setMaximumHeight(110)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setAccessibleName(tr("Height of the head"))
        self.setAccessibleDescription(tr("How high the head is through the form; drag to move through it"))
        document.form_changed.connect(safely(self.update))
        document.session.moved.connect(safely(self.update))
        document.session.figures_changed.connect(safely(self._forget))

    def sizeHint(self) -> QSize:
        return QSize(600, 84)

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self._forget()

    def _forget(self) -> None:
        self._strip = None
        self.update()

    @property
    def heights(self) -> Floats:
        """(n,) metres of the crown above the floor at the end of every count."""
        trace = self._document.trace
        if self._known is None or self._known[0] is not trace:
            self._known = trace, Figures(trace).settled.joints[:, JOINTS["crown"], 2]
        return self._known[1]

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.drawPixmap(0, 0, self._drawn())
            ends = beat_ends(self._document.trace)
            x = beat_pixel(self._document.session.position, ends, self.width())
            painter.setPen(QPen(self._theme.color("ink"), 1.6))
            painter.drawLine(QPointF(x, 4.0), QPointF(x, self.height() - 4.0))

    def _drawn(self) -> QPixmap:
        heights, ends = self.heights, beat_ends(self._document.trace)
        look = heights.tobytes(), ends.tobytes(), self.size(), self.devicePixelRatioF()
        if self._strip is None or self._strip[0] != look:
            strip = QPixmap(self.size() * self.devicePixelRatioF())
            strip.setDevicePixelRatio(self.devicePixelRatioF())
            strip.fill(self._theme.color("paper"))
            with QPainter(strip) as painter:
                painter.setRenderHint(QPainter.RenderHint.Antialiasing)
                self._paint(painter, heights, beat_pixels(ends, self.width()))
            self._strip = look, strip
        return self._strip[1]

    def _paint(self, painter: QPainter, heights: Floats, xs: Floats) -> None:
        theme, say = self._theme, self._document.session.say
        low, high = float(heights.min()), float(heights.max())
        spare = max(_LEAST - (high - low), 0.0) / 2.0
        top, bottom = high + spare, low - spare
        band = QRectF(LEFT, 8.0, self.width() - LEFT - RIGHT, self.height() - 18.0)

        def y(height: Floats) -> Floats:
            return np.asarray(band.bottom() - (height - bottom) / max(top - bottom, 1e-9) * band.height())

        painter.setPen(QPen(theme.color("rule"), 1.0))
        painter.setBrush(theme.color("raised"))
        painter.drawRect(band)
        points = [QPointF(a, b) for a, b in zip(xs.tolist(), y(heights).tolist(), strict=True)]
        under = QPolygonF([QPointF(points[0].x(), band.bottom()), *points, QPointF(points[-1].x(), band.bottom())])
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("torso", 0.22))
        painter.drawPolygon(under)
        painter.setPen(QPen(theme.color("torso"), 1.8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF(points))
        painter.setFont(font(8.5))
        painter.setPen(theme.color("faint"))
        box = QRectF(0.0, band.top() - 2.0, LEFT - 5.0, band.height() + 4.0)
        painter.drawText(box, int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop), say.length(high))
        painter.drawText(box, int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignBottom), say.length(low))
        painter.drawText(box, int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter), tr("head"))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._go(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if event.buttons() & Qt.MouseButton.LeftButton:
            self._go(event)

    def _go(self, event: QMouseEvent) -> None:
        document = self._document
        document.session.go(beat_at(event.position().x(), beat_ends(document.trace), self.width()))
