"""The plan of the room at true proportions, which every face of the stage draws on."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QMouseEvent, QPainter

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
from waltzmark.desktop.widgets.plan_view import PlanView
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.language import tr

__all__ = ["RoomPlan"]

_NEAR = 12.0  # pixels a hand may miss by
_MARGIN = 46.0  # pixels around the room, for the figures of its walls
_STRIP = 40.0  # pixels at the bottom for scale and words


@guarded
class RoomPlan(PlanView):
    """Draws the room of the document with what the present face puts on it. The wheel zooms, dragging the floor moves
    it, a double click beside everything shows the whole room."""

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__(document, theme, tr("Plan of the room"))
        Telling(self, partial(document.answered, 0), document.judge.reviewed)
        self.face: RoomFace | None = None
        self._ground = Layer()
        self.setMouseTracking(True)
        document.opened.connect(safely(self.fit))
        document.form_changed.connect(safely(self.update))
        document.session.moved.connect(safely(self.update))
        document.session.figures_changed.connect(safely(self.update))

    @property
    def theme(self) -> Theme:
        return self._theme

    @property
    def room(self) -> Room | None:
        """The room that is drawn: the document's, or what a hand is making of it."""
        draft = self.face.draft if self.face is not None else None
        return draft or self._document.form.room

    def fitted(self, camera: Camera) -> Camera:
        room = self.room
        if room is None:
            return camera
        points = [QPointF(x, y) for x, y in room.outline]
        points += self.face.extent() if self.face is not None else []
        free = QSizeF(self.width(), self.height() - _STRIP)
        fitted = replace(camera, up=0.0).fitted(free, points, _MARGIN)
        # The free part lies above the line of words: what was fitted moves up by half its height.
        return fitted.panned(free, QPointF(0.0, 0.0), QPointF(0.0, -_STRIP / 2.0))

    def paint(self, painter: QPainter) -> None:
        room = self.room
        if room is None:
            painter.fillRect(self.rect(), self._theme.color("outside"))
            return
        frame, bare = self.frame, replace(room, start=Start(), breaks=())
        view = QRectF(self.rect())
        ground = self._ground.drawn(
            (self.camera, bare, self._theme.name),
            self.size(),
            self.devicePixelRatioF(),
            lambda ground: draw_ground(ground, view, frame, bare, self._theme, start=False),
        )
        painter.drawPixmap(0, 0, ground)
        if self.face is not None:
            self.face.paint_under(painter, frame)
            self.face.paint(painter, frame)
        draw_scale_bar(painter, self.size(), self.camera.scale, self._document.session.say, self._theme)
        if self.face is not None and self.face.legend:
            draw_legend(painter, self.size(), self.face.legend, self._theme)

    # Hands.

    @property
    def _near(self) -> float:
        return _NEAR / self.camera.scale

    def take(self, event: QMouseEvent) -> bool:
        face = self.face if self.room is not None else None
        return face is not None and face.press(self.place(event.position()), self._near)

    def carry(self, event: QMouseEvent) -> None:
        if self.face is not None:
            self.face.drag(self.place(event.position()), bool(event.modifiers() & Qt.KeyboardModifier.AltModifier))

    def drop(self, kept: bool) -> None:
        if self.face is not None:
            self.face.drop(kept=kept)

    def hover(self, at: QPointF) -> None:
        over = self.face is not None and self.room is not None and self.face.over(self.place(at), self._near)
        self.setCursor(Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.OpenHandCursor)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        at = self.place(event.position())
        if self.face is not None and self.room is not None:
            if self.face.over(at, self._near):
                self.face.double(at, self._near)
            else:
                self.fit()
