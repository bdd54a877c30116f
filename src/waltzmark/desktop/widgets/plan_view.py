"""A view of the floor: it is zoomed by the wheel or two fingers, moved by the hand, and shows the whole when asked to.

Floor, room, chain, sides and recall are such views. Each says what it draws, what the whole is and what a hand takes.
"""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt, Signal
from PySide6.QtGui import (
    QAccessible,
    QKeyEvent,
    QMouseEvent,
    QNativeGestureEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QTransform,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.camera import Camera

__all__ = ["PlanView"]

_ZOOM = 1.2
_MOVED = 3.0  # pixels from which a press is a drag


@guarded
class PlanView(QWidget):
    """What every view of the floor can do. The camera's figures are metres; a hand's places are pixels."""

    role = QAccessible.Role.Graphic

    moved_by_hand = Signal()  # the floor, not what stands on it

    def __init__(self, document: Document, theme: Theme, name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._document, self._theme = document, theme
        self.camera = Camera()
        self._fit_wanted = True
        self._pressed: QPointF | None = None
        self._last = QPointF()
        self._dragged = self._held = False
        self.setAccessibleName(name)
        self.setMinimumSize(320, 240)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # nothing below it needs to be painted

    def set_theme(self, theme: Theme) -> None:
        """Draws it in another theme."""
        self._theme = theme
        self.update()

    # What is looked at.

    @property
    def area(self) -> QSizeF:
        """What the camera looks through, pixels."""
        return QSizeF(self.size())

    @property
    def frame(self) -> QTransform:
        """From the floor in metres to pixels."""
        return self.camera.transform(self.area)

    def place(self, pixel: QPointF) -> QPointF:
        """The place on the floor under a pixel, metres."""
        return self.camera.floor(self.area, pixel)

    def fit(self) -> None:
        """Shows the whole when it is next painted."""
        self._fit_wanted = True
        self.update()

    def fitted(self, camera: Camera) -> Camera:
        """The camera that shows the whole; as it is where there is nothing to show."""
        return camera

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Larger or smaller about a pixel, or about the middle."""
        self.camera = self.camera.zoomed(factor, self.area, at or QRectF(QPointF(), self.area).center())
        self.update()

    def pan(self, start: QPointF, end: QPointF) -> None:
        """Moves what is under one pixel to another."""
        self.camera = self.camera.panned(self.area, start, end)
        self.update()

    # What it draws.

    def paint(self, painter: QPainter) -> None:
        """Draws one frame."""

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self.paint_frame(painter)

    def paint_frame(self, painter: QPainter) -> None:
        """Draws one frame, of the whole where that was asked for."""
        if self._fit_wanted:
            self._fit_wanted = False
            self.camera = self.fitted(self.camera)
        self.paint(painter)

    def paint_words(self, painter: QPainter, words: str) -> None:
        """Draws words alone, where there is nothing to see."""
        painter.fillRect(self.rect(), self._theme.color("outside"))
        painter.setPen(self._theme.color("faint"))
        painter.setFont(font(11.0))
        painter.drawText(
            self.rect().adjusted(40, 0, -40, 0), int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap), words
        )

    def resizeEvent(self, _event: QResizeEvent) -> None:
        self._fit_wanted = True

    # Hands.

    def take(self, event: QMouseEvent) -> bool:
        """A hand presses; whether it takes something, else it takes the floor."""
        return False

    def carry(self, event: QMouseEvent) -> None:
        """The hand moves what it has taken."""

    def drop(self, kept: bool) -> None:
        """The hand lets go; what it did is *kept*, or is as it was."""

    def click(self, at: QPointF) -> None:
        """A click on the floor."""

    def hover(self, at: QPointF) -> None:
        """The mouse moves over it with nothing pressed."""

    @property
    def carrying(self) -> bool:
        """Whether a hand has taken something."""
        return self._held

    def wheelEvent(self, event: QWheelEvent) -> None:
        if steps := event.angleDelta().y() / 120.0:
            self.zoom(_ZOOM**steps, event.position())
            event.accept()

    def event(self, event: object) -> bool:
        if isinstance(event, QNativeGestureEvent) and event.gestureType() == Qt.NativeGestureType.ZoomNativeGesture:
            self.zoom(1.0 + event.value(), event.position())
            return True
        return super().event(event)  # type: ignore[arg-type]

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() not in (Qt.MouseButton.LeftButton, Qt.MouseButton.MiddleButton):
            return
        self._pressed = self._last = event.position()
        self._dragged = False
        self._held = event.button() == Qt.MouseButton.LeftButton and self.take(event)
        self.setCursor(Qt.CursorShape.ClosedHandCursor)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        if self._pressed is None:
            self.hover(at)
            return
        if not self._dragged and (at - self._pressed).manhattanLength() <= _MOVED:
            return
        begins, self._dragged = not self._dragged, True
        if self._held:
            self.carry(event)
        else:
            if begins:
                self.moved_by_hand.emit()
            self.pan(self._last, at)
        self._last = at
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        pressed, held, dragged = self._pressed, self._held, self._dragged
        self._let_go()
        if held:
            self.drop(kept=dragged)
        if pressed is not None and not dragged and event.button() == Qt.MouseButton.LeftButton:
            self.click(event.position())
        self.update()

    def _let_go(self) -> None:
        self._pressed, self._held = None, False
        self.setCursor(Qt.CursorShape.OpenHandCursor)

    def mouseDoubleClickEvent(self, _event: QMouseEvent) -> None:
        self.fit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self._held:
            self._let_go()
            self.drop(kept=False)
            self.update()
        else:
            super().keyPressEvent(event)
