"""The draft walked to the count under the hand, on the floor."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSizeF
from PySide6.QtGui import QPainter, QPen

from waltzmark.core.base.records import replace
from waltzmark.core.walk.motion import centre_of
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.drafting.workbench import Workbench
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.painter.layer import Layer
from waltzmark.desktop.painter.scale_bar import draw_scale_bar
from waltzmark.desktop.painter.scene import CLOCK_RADIUS, Scene, draw_path, draw_scene, draw_trail, trail
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.camera import Camera
from waltzmark.desktop.widgets.plan_view import PlanView
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.language import tr

__all__ = ["DraftFloor"]

_CLOCK = 1.12 * CLOCK_RADIUS  # metres that the clock and its hours take about the body
_AROUND = 0.78  # metres shown about it


@guarded
class DraftFloor(PlanView):
    """Draws the feet at the count under the hand, with the steps before it and the path of the whole draft."""

    def __init__(self, bench: Workbench, document: Document, theme: Theme) -> None:
        super().__init__(document, theme, tr("The draft walked on the floor"))
        self._bench = bench
        self._ground = Layer()
        self.setMinimumSize(200, 150)
        Telling(self, self.told, bench.drafted, bench.moved)
        for signal in (bench.drafted, bench.moved):
            signal.connect(safely(self._look))
        document.session.figures_changed.connect(safely(self.update))

    @property
    def trace(self) -> Trace:
        """The walk that is shown: with the draft where there is one."""
        found = self._bench.found
        return self._document.trace if found is None else found.trace

    @property
    def row(self) -> int:
        """The row of the walk at the hand."""
        found = self._bench.found
        if found is None or not found.walked:
            return len(self.trace) - 1 if found is None else 0
        return found.walked[min(self._bench.hand, len(found.walked) - 1)]

    def told(self) -> str:
        """The count under the hand, and how the body stands then."""
        from waltzmark.words.cues import told_count  # nobody may ask

        found = self._bench.found
        form = self._document.form if found is None else found.form
        titles = {posture.id: posture.title for posture in form.postures}
        return told_count(self.trace, self.row, titles, self._document.session.say)

    def _look(self) -> None:
        """Keeps the clock about the feet in view; the floor moves only when it leaves it."""
        at = self.frame.map(QPointF(*centre_of(self.trace.pose(self.row), self.trace.body)))
        around = min(_CLOCK * self.camera.scale, self.height() / 2.0 - 1.0, self.width() / 2.0 - 1.0)
        if not QRectF(self.rect()).adjusted(around, around, -around, -around).contains(at):
            self.fit()
        self.update()

    def fitted(self, camera: Camera) -> Camera:
        room = self._document.session.room
        x, y = centre_of(self.trace.pose(self.row), self.trace.body)
        corners = [QPointF(x + dx, y + dy) for dx in (-_AROUND, _AROUND) for dy in (-_AROUND, _AROUND)]
        turned = replace(camera, up=-room.start.heading if room else 0.0)
        return turned.fitted(QSizeF(self.width(), self.height()), corners)

    def paint(self, painter: QPainter) -> None:
        theme, floor, view = self._theme, self.frame, QRectF(self.rect())
        room, trace, row = self._document.session.room, self.trace, self.row
        ground = self._ground.drawn(
            (self.camera, room, theme.name),
            self.size(),
            self.devicePixelRatioF(),
            lambda ground: draw_ground(ground, view, floor, room, theme),
        )
        painter.drawPixmap(0, 0, ground)
        draw_path(painter, floor, view, trace.centres, theme)
        draw_trail(painter, floor, trace.body.sole, trail(trace, row), theme)
        findings = self._bench.found.findings if self._bench.found is not None else ()
        here = tuple(finding for finding in findings if finding.row == row)
        scene = Scene(trace, row, 1.0, trace.pose(row), here, None, self._document.session.say)
        draw_scene(painter, floor, scene, theme)
        painter.setPen(QPen(theme.color("ink")))
        draw_scale_bar(painter, self.size(), self.camera.scale, self._document.session.say, theme)
