"""The plan of the room at true proportions, which every face of the stage draws on."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QResizeEvent, QTransform, QWheelEvent
from PySide6.QtWidgets import QWidget

from waltzmark.core.base.records import replace
from waltzmark.core.form.room import Room, Start
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.painter.layer import Layer
from waltzmark.desktop.painter.scale_bar import draw_legend, draw_scale_bar
from waltzmark.desktop.room.face import RoomFace
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.camera import Camera
from waltzmark.words.language import tr

__all__ = ["RoomPlan"]

_ZOOM = 1.2
_NEAR = 12.0  # pixels a hand may miss by
_MARGIN = 46.0  # pixels around the room, for the figures of its walls
_STRIP = 40.0  # pixels at the bottom for scale and words
_MOVED = 3.0  # pixels from which a press is a drag


@guarded
class RoomPlan(QWidget):
    """Draws the room of the document with what the present face puts on it. The wheel zooms, dragging the floor moves
    it, a double click beside everything shows the whole room."""

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__()
        self._document, self._theme = document, theme
        self.face: RoomFace | None = None
        self.camera = Camera()
        self._fit_wanted = True
        self._ground = Layer()
        self._hand: str = ""
        self._pressed = self._last = QPointF()
        self._moved = False
        self.setAccessibleName(tr("Plan of the room"))
        self.setMinimumSize(320, 240)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)
        document.opened.connect(safely(self.fit))
        document.form_changed.connect(safely(self.update))
        document.moved.connect(safely(self.update))
        document.figures_changed.connect(safely(self.update))

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    @property
    def theme(self) -> Theme:
        return self._theme

    @property
    def room(self) -> Room | None:
        """The room that is drawn: the document's, or what a hand is making of it."""
        draft = self.face.draft if self.face is not None else None
        return draft or self._document.form.room

    @property
    def frame(self) -> QTransform:
        """From the room frame in metres to pixels."""
        return self.camera.transform(QSizeF(self.size()))

    def fit(self) -> None:
        """Shows the whole room when it is next painted."""
        self._fit_wanted = True
        self.update()

    def zoom(self, factor: float, at: QPointF | None = None) -> None:
        """Larger or smaller about a pixel, or about the middle."""
        self.camera = self.camera.zoomed(factor, QSizeF(self.size()), at or QRectF(self.rect()).center())
        self.update()

    def _fitted(self, room: Room) -> None:
        points = [QPointF(x, y) for x, y in room.outline]
        points += self.face.extent() if self.face is not None else []
        free = QSizeF(self.width(), self.height() - _STRIP)
        camera = replace(self.camera, up=0.0).fitted(free, points, _MARGIN)
        # The free part lies above the line of words: what was fitted moves up by half its height.
        self.camera = camera.panned(free, QPointF(0.0, 0.0), QPointF(0.0, -_STRIP / 2.0))

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            room = self.room
            if room is None:
                painter.fillRect(self.rect(), self._theme.color("outside"))
                return
            if self._fit_wanted:
                self._fit_wanted = False
                self._fitted(room)
            frame, bare = self.frame, replace(room, start=Start(), breaks=())
            view = QRectF(self.rect())
            shows = (self.camera, bare, self._theme.name)
            painter.drawPixmap(
                0,
                0,
                self._ground.drawn(
                    shows,
                    self.size(),
                    self.devicePixelRatioF(),
                    lambda ground: draw_ground(ground, view, frame, bare, self._theme, start=False),
                ),
            )
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            if self.face is not None:
                self.face.paint_under(painter, frame)
                self.face.paint(painter, frame)
            draw_scale_bar(painter, self.size(), self.camera.scale, self._document.say, self._theme)
            if self.face is not None and self.face.legend:
                draw_legend(painter, self.size(), self.face.legend, self._theme)

    def resizeEvent(self, _event: QResizeEvent) -> None:
        self._fit_wanted = True

    # Hands.

    def _at(self, pixel: QPointF) -> QPointF:
        return self.camera.floor(QSizeF(self.size()), pixel)

    @property
    def _near(self) -> float:
        return _NEAR / self.camera.scale

    def wheelEvent(self, event: QWheelEvent) -> None:
        if steps := event.angleDelta().y() / 120.0:
            self.zoom(_ZOOM**steps, event.position())
            event.accept()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._pressed = self._last = event.position()
        self._moved = False
        taken = event.button() == Qt.MouseButton.LeftButton and self.face is not None and self.room is not None
        if taken and self.face is not None and self.face.press(self._at(event.position()), self._near):
            self._hand = "face"
        else:
            self._hand = "floor"
        self.setCursor(Qt.CursorShape.ClosedHandCursor)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        if not self._hand:
            over = self.face is not None and self.room is not None and self.face.over(self._at(at), self._near)
            self.setCursor(Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.OpenHandCursor)
            return
        if not self._moved and (at - self._pressed).manhattanLength() <= _MOVED:
            return
        self._moved = True
        if self._hand == "face" and self.face is not None:
            self.face.drag(self._at(at), bool(event.modifiers() & Qt.KeyboardModifier.AltModifier))
        else:
            self.camera = self.camera.panned(QSizeF(self.size()), self._last, at)
        self._last = at
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        hand, self._hand = self._hand, ""
        if hand == "face" and self.face is not None:
            self.face.drop(kept=self._moved)
        self.setCursor(Qt.CursorShape.OpenHandCursor)
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        at = self._at(event.position())
        if self.face is not None and self.room is not None:
            if self.face.over(at, self._near):
                self.face.double(at, self._near)
            else:
                self.fit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self._hand == "face" and self.face is not None:
            self._hand = ""
            self.face.drop(kept=False)
            self.update()
            return
        super().keyPressEvent(event)
