"""A form as written and as one body walks it, beside each other on the floor."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QPainter, QPen, QTransform

from waltzmark.core.base.leftright import SIDES
from waltzmark.core.base.records import replace
from waltzmark.core.fit.fitting import Fitted
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.painter.layer import Layer
from waltzmark.desktop.painter.scale_bar import draw_legend, draw_scale_bar
from waltzmark.desktop.painter.soles import draw_sole, draw_sole_outline
from waltzmark.desktop.painter.tracks import draw_track
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.camera import Camera
from waltzmark.desktop.widgets.plan_view import PlanView
from waltzmark.words.language import tr

__all__ = ["FitFloor", "row_in"]

_STRIP = 40.0  # pixels at the bottom for scale and words
_AROUND = 0.35  # metres shown about the walks


def row_in(fit: Fitted, posture: str | None, line: int) -> int:
    """The row of a fitted walk that stands for a line of a posture as written: the last of several."""
    if posture is None or posture not in fit.trace.numbers:
        return 0
    first, after = fit.trace.span(posture)
    own = [row for row in range(first, after) if fit.rewritten.origin(posture, fit.trace.line(row)) <= line]
    return own[-1] if own else max(first - 1, 0)


@guarded
class FitFloor(PlanView):
    """Draws both walks, with the feet of both at the playhead."""

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__(document, theme, tr("The form as written and as one body walks it"))
        self.fit_shown: Fitted | None = None
        self._ground = Layer()
        for signal in (document.session.moved, document.session.figures_changed):
            signal.connect(safely(self.update))
        document.form_changed.connect(safely(self.fit))

    def show_fit(self, fit: Fitted | None) -> None:
        """Shows the walk of another body, or none."""
        if fit is not self.fit_shown:
            self.fit_shown = fit
            self.fit()

    def fitted(self, camera: Camera) -> Camera:
        room = self._document.session.room
        points = [QPointF(x, y) for trace in self._traces() for x, y in trace.heels.reshape(-1, 2).tolist()]
        xs, ys = [p.x() for p in points], [p.y() for p in points]
        corners = [
            QPointF(x, y)
            for x in (min(xs) - _AROUND, max(xs) + _AROUND)
            for y in (min(ys) - _AROUND, max(ys) + _AROUND)
        ]
        free = QSizeF(self.width(), self.height() - _STRIP)
        turned = replace(camera, up=-room.start.heading if room else 0.0)
        return turned.fitted(free, corners).panned(free, QPointF(0.0, 0.0), QPointF(0.0, -_STRIP / 2.0))

    def _traces(self) -> list[Trace]:
        return [self._document.trace, *([self.fit_shown.trace] if self.fit_shown is not None else [])]

    def paint(self, painter: QPainter) -> None:
        document, theme, floor, view = self._document, self._theme, self.frame, QRectF(self.rect())
        room = document.session.room
        ground = self._ground.drawn(
            (self.camera, room, theme.name),
            self.size(),
            self.devicePixelRatioF(),
            lambda ground: draw_ground(ground, view, floor, room, theme),
        )
        painter.drawPixmap(0, 0, ground)
        trace, row = document.trace, document.session.row
        painter.setPen(QPen(theme.laid("centre", "board", 0.55), 1.6))
        draw_track(painter, floor, view, trace.centres)
        fit = self.fit_shown
        if fit is not None:
            painter.setPen(QPen(theme.color("ghost"), 1.8, Qt.PenStyle.DashLine))
            draw_track(painter, floor, view, fit.trace.centres)
        pose, sole = trace.pose(row), trace.body.sole
        for side in SIDES:
            draw_sole(painter, floor, sole, side, pose.foot(side), pose.share(side), theme)
        if fit is not None:
            self._theirs(painter, floor, fit, row)
        draw_scale_bar(painter, self.size(), self.camera.scale, document.session.say, theme)
        words = tr("Solid: as written.")
        if fit is not None:
            words = tr(
                "Solid: as written. Dashed: {name}. Rings: the ends.",
                name=fit.form.body.name or tr("the other body"),
            )
        draw_legend(painter, self.size(), words, theme)

    def _theirs(self, painter: QPainter, floor: QTransform, fit: Fitted, row: int) -> None:
        """The other body's feet at the playhead, and where both walks end."""
        trace, theme = self._document.trace, self._theme
        posture = trace.posture(row)
        theirs = row_in(fit, posture, trace.line(row) if row else 0)
        pose = fit.trace.pose(theirs)
        for side in SIDES:
            draw_sole_outline(painter, floor, fit.trace.body.sole, side, pose.foot(side), theme, 1.0, True, False)
        for one, role in ((trace, "ink"), (fit.trace, "ghost")):
            painter.setPen(QPen(theme.color(role), 2.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(floor.map(QPointF(*one.midpoints[-1].tolist())), 7.0, 7.0)
