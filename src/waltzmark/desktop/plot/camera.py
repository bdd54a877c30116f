"""How the floor is looked at: which place is in the middle, how large, and which way is up."""

from __future__ import annotations

from dataclasses import dataclass, replace

from PySide6.QtCore import QPointF, QSizeF
from PySide6.QtGui import QTransform

__all__ = ["Camera"]

_SMALLEST, _LARGEST = 12.0, 1500.0


@dataclass(frozen=True)
class Camera:
    """x, y: metres of the floor in the middle of the view; scale: pixels a metre; up: the heading that is up."""

    x: float = 0.0
    y: float = 0.0
    scale: float = 150.0
    up: float = 0.0

    def transform(self, size: QSizeF) -> QTransform:
        """From the floor frame to pixels of a view of this size."""
        transform = QTransform()
        transform.translate(size.width() / 2.0, size.height() / 2.0)
        transform.rotate(-self.up)
        transform.scale(self.scale, -self.scale)
        transform.translate(-self.x, -self.y)
        return transform

    def floor(self, size: QSizeF, at: QPointF) -> QPointF:
        """The place on the floor under a pixel."""
        inverse, _ = self.transform(size).inverted()
        return inverse.map(at)

    def zoomed(self, factor: float, size: QSizeF, at: QPointF) -> Camera:
        """Larger by a factor, the place under a pixel staying under it."""
        scale = min(max(self.scale * factor, _SMALLEST), _LARGEST)
        before = self.floor(size, at)
        camera = replace(self, scale=scale)
        after = camera.floor(size, at)
        return replace(camera, x=self.x + before.x() - after.x(), y=self.y + before.y() - after.y())

    def panned(self, size: QSizeF, start: QPointF, end: QPointF) -> Camera:
        """Moved so that the place under *start* comes under *end*."""
        a, b = self.floor(size, start), self.floor(size, end)
        return replace(self, x=self.x + a.x() - b.x(), y=self.y + a.y() - b.y())

    def fitted(self, size: QSizeF, points: list[QPointF], margin: float = 26.0) -> Camera:
        """Showing all the points, with a margin in pixels."""
        turn = QTransform()
        turn.rotate(-self.up)
        turn.scale(1.0, -1.0)
        seen = [turn.map(p) for p in points]
        xs, ys = [p.x() for p in seen], [p.y() for p in seen]
        wide, high = max(max(xs) - min(xs), 0.5), max(max(ys) - min(ys), 0.5)
        scale = min((size.width() - 2 * margin) / wide, (size.height() - 2 * margin) / high)
        middle = QPointF((max(xs) + min(xs)) / 2.0, (max(ys) + min(ys)) / 2.0)
        back, _ = turn.inverted()
        at = back.map(middle)
        return replace(self, x=at.x(), y=at.y(), scale=min(max(scale, _SMALLEST), _LARGEST))
