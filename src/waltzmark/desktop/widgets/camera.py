"""How the floor is looked at: which place is in the middle, how large, and which way is up."""

from __future__ import annotations

from typing import Protocol

from PySide6.QtCore import QPointF, QSizeF
from PySide6.QtGui import QTransform

from waltzmark.core.base.records import Record, replace
from waltzmark.desktop.actions import Switch
from waltzmark.words.language import tr

__all__ = ["VIEWS", "Camera", "Watched", "view_acts"]

_SMALLEST, _LARGEST = 12.0, 1500.0
_TILT = 0.68  # how much of its depth a floor shows to somebody who stands at its edge


class Watched(Record):
    """Where the floor is watched from. words: with ``&`` before the letter that chooses it; turn: degrees that the way
    up is turned from 12 o'clock; flip: whether left and right are exchanged; tilt: how much of its depth it shows."""

    words: str
    turn: float = 0.0
    flip: bool = False
    tilt: float = 1.0


#: By name. Mirrored is what a class sees of a teacher who faces it and does the other side.
VIEWS = {
    "above": Watched(tr("From a&bove")),
    "behind": Watched(tr("From be&hind"), 0.0, False, _TILT),
    "front": Watched(tr("From the fro&nt"), 180.0, False, _TILT),
    "mirrored": Watched(tr("Mirrored like a &teacher"), 180.0, True, _TILT),
}


class Watching(Protocol):
    """What has a floor that is watched from somewhere."""

    def set_view(self, name: str) -> object: ...


def view_acts(stage: str) -> tuple[Switch[Watching], ...]:
    """An act for each way of watching the floor; the stage's `set_view` is told which."""
    return tuple(_view_act(stage, name, each.words) for name, each in VIEWS.items())


def _view_act(stage: str, name: str, words: str) -> Switch[Watching]:
    return Switch(f"{stage} {name}", words, lambda of, on: on and of.set_view(name), on=name == "above")


class Camera(Record):
    """x, y: metres of the floor in the middle of the view; scale: pixels a metre; up: the heading that is up; flip:
    whether left and right are exchanged; tilt: how much of its depth is seen, 1 from above."""

    x: float = 0.0
    y: float = 0.0
    scale: float = 150.0
    up: float = 0.0
    flip: bool = False
    tilt: float = 1.0

    def watched(self, view: str, up: float, twelve: float = 0.0) -> Camera:
        """The same from elsewhere: from above the heading *up* is up, else it is watched along the heading *twelve*."""
        way = VIEWS[view]
        heading = up if view == "above" else twelve + way.turn
        return replace(self, up=heading, flip=way.flip, tilt=way.tilt)

    def _looked(self, transform: QTransform, scale: float) -> QTransform:
        """With the floor turned, tilted and flipped as it is looked at."""
        transform.scale(-1.0 if self.flip else 1.0, self.tilt)
        transform.rotate(-self.up)
        transform.scale(scale, -scale)
        return transform

    def transform(self, size: QSizeF) -> QTransform:
        """From the floor frame to pixels of a view of this size."""
        transform = QTransform()
        transform.translate(size.width() / 2.0, size.height() / 2.0)
        self._looked(transform, self.scale)
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
        turn = self._looked(QTransform(), 1.0)
        seen = [turn.map(p) for p in points]
        xs, ys = [p.x() for p in seen], [p.y() for p in seen]
        wide, high = max(max(xs) - min(xs), 0.5), max(max(ys) - min(ys), 0.5)
        scale = min((size.width() - 2 * margin) / wide, (size.height() - 2 * margin) / high)
        middle = QPointF((max(xs) + min(xs)) / 2.0, (max(ys) + min(ys)) / 2.0)
        back, _ = turn.inverted()
        at = back.map(middle)
        return replace(self, x=at.x(), y=at.y(), scale=min(max(scale, _SMALLEST), _LARGEST))
