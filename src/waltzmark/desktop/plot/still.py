"""What stays as it is on the floor while a count is walked: ground, path, trail and findings, in layers."""

from __future__ import annotations

from operator import is_
from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, QSize, QSizeF
from PySide6.QtGui import QPainter, QPixmap, QTransform

from waltzmark.core.base.records import Record
from waltzmark.core.form.room import Room
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.painter.ground import draw_ground
from waltzmark.desktop.painter.layer import Layer
from waltzmark.desktop.painter.scene import Scene, draw_findings, draw_former_path, draw_path, draw_trail, trail
from waltzmark.desktop.theme import Theme
from waltzmark.desktop.widgets.camera import Camera

if TYPE_CHECKING:
    from waltzmark.core.edit.keeping import Moved

__all__ = ["Still", "Stretch", "View"]


class View(Record):
    """A piece of floor as it is looked at. ratio: pixels of the device a pixel."""

    camera: Camera
    size: QSize
    ratio: float
    room: Room | None
    theme: Theme

    @property
    def floor(self) -> QTransform:
        return self.camera.transform(QSizeF(self.size))

    @property
    def rect(self) -> QRectF:
        return QRectF(0, 0, self.size.width(), self.size.height())

    @property
    def ground(self) -> object:
        """What the ground looks like by; size and ratio are the layer's."""
        return self.camera, self.room, self.theme.name


class Stretch(Record, eq=False):
    """A walk with the one before its last edit, where what that moved is shown."""

    trace: Trace
    before: Trace | None = None
    moved: Moved | None = None

    @property
    def shows(self) -> object:
        return self.trace, self.moved and self.before


class Still:
    """The layers of one floor.

    An edit leaves the ground and the path before it, another count leaves all of the path. The path after an edit can
    be drawn before the edit is made.
    """

    def __init__(self) -> None:
        self._ground, self._begun, self._trail, self._all = Layer(), Layer(), Layer(), Layer()
        self._path = Layer(ahead=True)
        self._walked: tuple[Trace, int] | None = None

    def drawn(self, view: View, walk: Stretch, scene: Scene) -> QPixmap:
        """All of it for a count and a view."""
        feet, sole = trail(walk.trace, scene.row), walk.trace.body.sole

        def draw(painter: QPainter) -> None:
            painter.drawPixmap(0, 0, path)
            if feet:
                painter.drawPixmap(0, 0, steps())
            draw_findings(painter, view.floor, view.rect, scene, view.theme)

        def steps() -> QPixmap:
            return self._trail.drawn(
                (view.ground, feet, sole),
                view.size,
                view.ratio,
                lambda p: draw_trail(p, view.floor, sole, feet, view.theme),
                clear=True,
            )

        path = self.path(view, walk)
        shows = (view.ground, walk.shows, scene.row, scene.findings, scene.chosen)
        return self._all.drawn(shows, view.size, view.ratio, draw)

    def path(self, view: View, walk: Stretch) -> QPixmap:
        """The ground with the path of the centre, and the former path of what was moved."""
        settled, centres = self._settled_in(walk.trace), walk.trace.centres
        first = int(walk.trace.starts[settled])

        def begin(painter: QPainter) -> None:
            painter.drawPixmap(0, 0, ground)
            draw_path(painter, view.floor, view.rect, centres[:first], view.theme)

        def draw(painter: QPainter) -> None:
            if settled:
                begun = self._begun.drawn((view.ground, walk.trace.passages[:settled]), view.size, view.ratio, begin)
                painter.drawPixmap(0, 0, begun)
            else:
                painter.drawPixmap(0, 0, ground)
            draw_path(painter, view.floor, view.rect, centres[max(first - 1, 0) :], view.theme)
            if walk.before is not None and walk.moved is not None:
                former = walk.before.centres[max(walk.moved.old - 1, 0) :]
                draw_former_path(painter, view.floor, view.rect, former, view.theme)

        ground = self._ground.drawn(
            view.ground,
            view.size,
            view.ratio,
            lambda p: draw_ground(p, view.rect, view.floor, view.room, view.theme),
        )
        return self._path.drawn((view.ground, walk.shows), view.size, view.ratio, draw)

    def _settled_in(self, trace: Trace) -> int:
        """How many passages at the beginning of a walk are those of the walk that was drawn before it."""
        if self._walked is None or self._walked[0] is not trace:
            old = self._walked[0].passages if self._walked is not None else ()
            same = list(map(is_, old, trace.passages))
            self._walked = trace, same.index(False) if False in same else len(same)
        return self._walked[1]
