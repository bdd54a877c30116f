"""A figure of a walk, seen from one of its sides: what the window, the sheets and the command draw."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.body.figure import Figure
from waltzmark.core.body.pose import Pose
from waltzmark.core.walk.figures import facing_between
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.painter.bearings import draw_bearings
from waltzmark.desktop.painter.figure import Looking, draw_figure, draw_ground
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.language import percent, tr

__all__ = ["SEEN_FROM", "draw_seen", "looked_along", "looking_at"]


class _Seen(NamedTuple):
    """A side that a figure is seen from. turn: degrees from the way the body faces to the way one looks; flip: whether
    left and right are exchanged."""

    words: str
    turn: float
    flip: bool = False


#: By name. Across the stance the turn follows the feet.
SEEN_FROM = {
    "behind": _Seen(tr("From behind"), 0.0),
    "front": _Seen(tr("From the front"), 180.0),
    "left": _Seen(tr("From the left"), 90.0),
    "right": _Seen(tr("From the right"), -90.0),
    "across": _Seen(tr("Across the stance"), -90.0),
    "mirrored": _Seen(tr("As a teacher facing you, mirrored"), 180.0, True),
}
_BELOW = 104.0  # pixels under the ground line, for the feet from above and what they carry
_MARGIN = 14.0  # pixels that it keeps from the sides
_TALL = 1.12  # statures that fit above it
_BROAD = 0.95  # statures that fit beside each other


def looked_along(name: str, facing: float, pose: Pose) -> float:
    """The heading one looks along from a side that is named, for a body that faces so."""
    if name != "across":
        return normal(facing + SEEN_FROM[name].turn)
    dx, dy = pose.right.x - pose.left.x, pose.right.y - pose.left.y
    if math.hypot(dx, dy) < 1e-6:
        return normal(facing + SEEN_FROM[name].turn)
    line = math.degrees(math.atan2(dx, dy))
    ways = (normal(line + 90.0), normal(line - 90.0))
    return min(ways, key=lambda way: abs(heading_difference(normal(facing - 90.0), way)))


def looking_at(trace: Trace, row: int, t: float, pose: Pose, seen: str, box: QRectF, turned: float = 0.0) -> Looking:
    """Where a figure is looked at from, so that it stands in a box of pixels. turned: degrees that a hand has turned it
    on from the side that is named."""
    heading = normal(looked_along(seen, facing_between(trace, row, t), pose) - turned)
    ground = box.bottom() - _BELOW
    stature = trace.body.stature
    scale = min((ground - box.top() - 8.0) / (_TALL * stature), box.width() / (_BROAD * stature))
    return Looking(heading, box.center().x(), ground, scale, pose.midpoint, SEEN_FROM[seen].flip)


def draw_seen(
    painter: QPainter,
    looking: Looking,
    trace: Trace,
    figure: Figure,
    pose: Pose,
    box: QRectF,
    lines: bool,
    theme: Theme,
) -> Looking:
    """Draws a figure with the floor it stands on and what each foot carries; *lines*: and what it is measured by.
    Returns where it is looked at from after all: what would not have been in the box is."""
    looking = looking.holding(figure.joints[0], box.left() + _MARGIN, box.right() - _MARGIN)
    painter.fillRect(box, theme.color("paper"))
    draw_ground(painter, looking, box, pose, trace.body.sole, theme)
    if lines:
        draw_bearings(painter, looking, figure, trace.body, pose, theme)
    draw_figure(painter, looking, figure, trace.body, theme)
    _draw_shares(painter, looking, pose, box, theme)
    return looking


def _draw_shares(painter: QPainter, looking: Looking, pose: Pose, box: QRectF, theme: Theme) -> None:
    """What each foot carries, below it."""
    painter.setFont(font(9.0, bold=True))
    places = []
    for side in SIDES:
        foot = pose.foot(side)
        places.append(looking.point(np.array([foot.x, foot.y, 0.0])).x())
    if abs(places[0] - places[1]) < 46.0:  # side by side where they would lie over each other
        middle, way = sum(places) / 2.0, 1.0 if places[0] <= places[1] else -1.0
        places = [middle - 23.0 * way, middle + 23.0 * way]
    for side, x in zip(Side, places, strict=True):
        painter.setPen(theme.color("left" if side is Side.LEFT else "right"))
        card = QRectF(x - 24.0, box.bottom() - 22.0, 48.0, 16.0)
        painter.drawText(card, Qt.AlignmentFlag.AlignCenter, percent(100.0 * pose.share(side)))
