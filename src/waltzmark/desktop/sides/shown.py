"""Two passages that are shown, where both are at a position of the playhead, and the marks between them."""

from __future__ import annotations

import math
from functools import cached_property

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainter, QPen, QTransform

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.sides.differences import Compared, CountPair
from waltzmark.core.sides.folding import Fold, best_fold
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.document import Document
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.theme import Theme
from waltzmark.words.language import tr

__all__ = ["Shown", "draw_arrow", "draw_between", "feet_of", "lifted_last"]


class Shown(Record, eq=False, dict=True):
    """Two passages that are shown, with what each is called. mine: whether both are of the document's own walk."""

    compared: Compared
    traces: tuple[Trace, Trace]
    titles: tuple[str, str]
    mine: bool = True

    @cached_property
    def fold(self) -> Fold:
        """What lays the first where most heels of the second are, over the counts both have."""
        both = [each for each in self.compared.counts if not each.lone]
        first, other = self.compared.span, self.compared.other
        rows = [max(first.start - 1, 0), *(each.row or 0 for each in both)]
        others = [max(other.start - 1, 0), *(each.other_row or 0 for each in both)]
        fold = self.compared.fold
        return best_fold(self.traces[0].heels[rows], self.traces[1].heels[others], fold.mirror, fold.angle)

    def places(self, position: float) -> tuple[int, float, int, float, CountPair | None]:
        """Row and fraction of both at a position of the document's playhead, and the two counts; both stand in their
        entries where it is outside."""
        row = math.ceil(position - 1e-9)
        fraction = 1.0 - (row - position)
        at, other_at = max(self.compared.span.start - 1, 0), max(self.compared.other.start - 1, 0)
        for pair in self.compared.counts:
            if row in (pair.row, pair.other_row if self.mine else None):
                mine = (pair.row, fraction) if pair.row is not None else (at, 1.0)
                theirs = (pair.other_row, fraction) if pair.other_row is not None else (other_at, 1.0)
                return mine[0], mine[1], theirs[0], theirs[1], pair
            at = at if pair.row is None else pair.row
            other_at = other_at if pair.other_row is None else pair.other_row
        span, other = self.compared.span, self.compared.other
        return max(span.start - 1, 0), 1.0, max(other.start - 1, 0), 1.0, None


def lifted_last(pose: Pose) -> list[Side]:
    """Both sides, that of a foot in the air after the other, so that it is drawn above."""
    return sorted(Side, key=lambda side: pose.foot(side).contact is Contact.AIR)


def feet_of(trace: Trace, start: int, stop: int) -> list[tuple[float, float]]:
    """Where the feet stand from the entry of a passage to its end, metres."""
    heels = trace.heels[max(start - 1, 0) : max(stop, start, 1)]
    return [(float(x), float(y)) for x, y in heels.reshape(-1, 2).tolist()]


def draw_arrow(painter: QPainter, start: QPointF, end: QPointF, theme: Theme, width: float) -> None:
    """A short arrow from one sole to the other."""
    way = end - start
    far = math.hypot(way.x(), way.y())
    painter.setPen(QPen(theme.color("stop"), width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    painter.drawLine(start, end)
    if far < 1e-6:
        return
    ux, uy = way.x() / far, way.y() / far
    size = 5.0 + width
    for turn in (-1.0, 1.0):
        painter.drawLine(end, end - QPointF(ux * size - turn * uy * size * 0.6, uy * size + turn * ux * size * 0.6))


def draw_between(
    painter: QPainter, floor: QTransform, pose: Pose, other: Pose, document: Document, theme: Theme
) -> None:
    """How far two who walk it are apart."""
    feet = [FootPose(*each.midpoint, 0.0, Contact.FLAT) for each in (pose, other)]
    apart = math.hypot(feet[1].x - feet[0].x, feet[1].y - feet[0].y)
    if apart < 0.005:
        return
    a, b = (floor.map(QPointF(foot.x, foot.y)) for foot in feet)
    painter.setPen(QPen(theme.color("stop"), 2.0, Qt.PenStyle.DashLine))
    painter.drawLine(a, b)
    draw_tag(
        painter,
        (a + b) / 2.0 + QPointF(0.0, -20.0),
        tr("{length} apart", length=document.session.say.length(apart)),
        theme,
        "stop",
    )
