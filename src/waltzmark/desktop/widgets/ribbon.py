"""The weight ribbon: the whole form in one strip, left above, right below; drag along it to walk."""

from __future__ import annotations

from collections import Counter
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QAccessible, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import QToolTip, QWidget

from waltzmark.core.base.arrays import Floats
from waltzmark.core.form.form import Form
from waltzmark.core.judge.finding import Finding
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.plain import plain
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.beats import beat_at, beat_ends, beat_pixel
from waltzmark.desktop.widgets.strip import Strip, Walked, band_of
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.language import percent, tr

if TYPE_CHECKING:
    from waltzmark.desktop.widgets.drag import ShareDrag

__all__ = ["WeightRibbon"]

_KNOB = 8.0  # pixels about the knob that take it


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
        self._strip = Strip()
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
        document.rested.connect(safely(self._draw_ahead))

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

    def position_at(self, x: float) -> float:
        """Playhead position under a pixel."""
        return beat_at(x, self._times(), self.width())

    # Painting.

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            document = self._document
            painter.drawPixmap(0, 0, self._drawn(document.form, document.trace, document.judge.everywhere))
            self._paint_playhead(painter)
            if self.hand is not None and self.hand.label:
                at = QPointF(
                    min(max(self._pointer.x(), 100.0), self.width() - 100.0), max(self._pointer.y() - 24, 12.0)
                )
                draw_tag(painter, at, self.hand.label, self._theme)

    def _drawn(self, form: Form, trace: Trace, found: tuple[Finding, ...]) -> QPixmap:
        return self._strip.drawn(Walked(form, trace, found), self.size(), self.devicePixelRatioF(), self._theme)

    def _draw_ahead(self) -> None:
        """Draws the strip as it may be next, while the hands rest."""
        if self.isVisible() and (coming := self._document.coming()) is not None:
            self._drawn(coming.form, coming.trace, coming.found)

    def _band(self) -> QRectF:
        return band_of(self.size())

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
            from waltzmark.desktop.widgets.drag import ShareDrag  # not needed until something is taken

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
