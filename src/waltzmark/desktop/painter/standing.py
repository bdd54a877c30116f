"""The Room stage's drawing: what is swept, where one may stand, the rose about the start, and what is measured."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QImage, QPainter, QPainterPath, QPen, QPolygonF, QTransform

from waltzmark.core.base.angles import ahead
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import Pose
from waltzmark.core.form.room import Start
from waltzmark.core.walk.pelvis import pelvis_of
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.soles import draw_sole
from waltzmark.desktop.painter.tracks import polygon
from waltzmark.desktop.theme import Theme, font

__all__ = [
    "arm_length",
    "draw_between",
    "draw_cross",
    "draw_region",
    "draw_rose",
    "draw_swept",
    "draw_walker",
    "mark_lines",
    "region_image",
    "to_floor",
]

#: How long the arm of the start mark is, metres, but at least so many pixels; its end turns it.
_ARM, _ARM_PIXELS = 0.62, 52.0
_ROSE = 1.15  # metres that the rose reaches at most


def to_floor(start: Start, frame: QTransform) -> QTransform:
    """From the floor frame of a start to pixels, for a *frame* from the room to pixels."""
    turn = QTransform()
    turn.translate(start.x, start.y)
    turn.rotate(-start.heading)
    return turn * frame


def arm_length(scale: float) -> float:
    """How long the arm of the start mark is, metres, at so many pixels a metre."""
    return max(_ARM, _ARM_PIXELS / scale)


def draw_swept(
    painter: QPainter,
    floor: QTransform,
    rings: Sequence[Floats],
    theme: Theme,
    role: str = "centre",
    strength: float = 0.16,
    dashed: bool = False,
) -> None:
    """What a walk sweeps, as rings in its floor frame."""
    path = QPainterPath()
    for ring in rings:
        path.addPolygon(floor.map(polygon(ring)))
        path.closeSubpath()
    style = Qt.PenStyle.DashLine if dashed else Qt.PenStyle.SolidLine
    painter.setPen(QPen(theme.color(role, 0.75), 1.4, style))
    painter.setBrush(theme.color(role, strength))
    painter.drawPath(path)


def region_image(spare: Floats, theme: Theme) -> QImage:
    """Where one may stand, by what each start has to spare (ny, nx): the deeper the better, its edge drawn. Row 0 is
    the nearest, so it is drawn upside down."""
    high, wide = spare.shape
    best = max(float(spare.max()), 1e-3)
    inside = spare >= 0.0
    depth = np.clip(spare / best, 0.0, 1.0)
    around = np.pad(inside, 1)
    edge = inside & ~(around[:-2, 1:-1] & around[2:, 1:-1] & around[1:-1, :-2] & around[1:-1, 2:])
    color = theme.color("good")
    alpha = np.where(edge, 235.0, np.where(inside, 26.0 + 92.0 * depth, 0.0)) / 255.0
    pixels = np.empty((high, wide, 4), dtype=np.uint8)
    for channel, value in enumerate((color.blue(), color.green(), color.red(), 255)):
        pixels[..., channel] = np.round(value * alpha)
    image = QImage(pixels.data, wide, high, 4 * wide, QImage.Format.Format_ARGB32_Premultiplied)
    return image.copy()  # the pixels are kept by Qt


def draw_region(painter: QPainter, frame: QTransform, image: QImage, low: tuple[float, float], step: float) -> None:
    """Draws such an image; low: the first start in the room, step: metres from one to the next."""
    painter.save()
    here = QTransform()
    here.translate(low[0] - step / 2.0, low[1] - step / 2.0)
    here.scale(step, step)
    painter.setTransform(here * frame, combine=True)
    painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
    painter.drawImage(QPointF(0.0, 0.0), image)
    painter.restore()


def draw_rose(
    painter: QPainter,
    frame: QTransform,
    start: Start,
    headings: Sequence[float],
    spare: Floats,
    wanted: float,
    theme: Theme,
) -> None:
    """About the start, at each heading, the clearance of the best start at it: true to scale where there is room. A
    circle shows what is wanted; headings that reach beyond it fit."""
    reach = np.maximum(spare + wanted, 0.0)
    scale = min(1.0, _ROSE / max(float(reach.max()), 1e-6))
    points = [
        QPointF(start.x + scale * r * ahead(h)[0], start.y + scale * r * ahead(h)[1])
        for h, r in zip(headings, reach.tolist(), strict=True)
    ]
    painter.setPen(QPen(theme.color("note", 0.9), 1.2))
    painter.setBrush(theme.color("note", 0.16))
    painter.drawPolygon(frame.map(QPolygonF(points)))
    pixels = math.sqrt(abs(frame.determinant()))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(theme.color("stop", 0.8), 1.2, Qt.PenStyle.DotLine))
    radius = max(scale * wanted * pixels, 1.0)
    painter.drawEllipse(frame.map(QPointF(start.x, start.y)), radius, radius)


def draw_cross(painter: QPainter, frame: QTransform, start: Start, theme: Theme, ghost: bool = False) -> None:
    """The start mark, and its arm the way of 12 o'clock, with a knob to turn it by."""
    floor = to_floor(start, frame)
    scale = math.sqrt(abs(frame.determinant()))
    arm = arm_length(scale)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    color = theme.color("ghost" if ghost else "ink")
    for width, tint in ((7.0, theme.color("paper", 0.85)), (3.0, color)):
        painter.setPen(QPen(tint, width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
        painter.drawLines(mark_lines(frame, start))
    painter.setPen(QPen(theme.color("paper"), 1.5))
    painter.setBrush(color)
    knob = floor.map(QPointF(0.0, arm))
    painter.drawEllipse(knob, 8.0, 8.0)
    painter.drawEllipse(floor.map(QPointF(0.0, 0.0)), 6.0, 6.0)
    painter.setPen(theme.color("ink"))
    painter.setFont(font(9.0, bold=True))
    beyond = floor.map(QPointF(0.0, arm + 18.0 / scale))
    painter.drawText(QRectF(beyond.x() - 20, beyond.y() - 9, 40, 18), Qt.AlignmentFlag.AlignCenter, "12")


def mark_lines(frame: QTransform, start: Start) -> list[QLineF]:
    """The bar of a start mark and its arm, in pixels."""
    floor, arm = to_floor(start, frame), arm_length(math.sqrt(abs(frame.determinant())))
    ends = (((-0.12, 0.0), (0.12, 0.0)), ((0.0, -0.12), (0.0, arm)))
    return [QLineF(floor.map(QPointF(*a)), floor.map(QPointF(*b))) for a, b in ends]


def draw_walker(painter: QPainter, floor: QTransform, body: Body, pose: Pose, theme: Theme) -> None:
    """One who walks: the body's round and both soles."""
    x, y, _ = pelvis_of(body, pose)
    pixels = math.sqrt(abs(floor.determinant()))
    painter.setPen(QPen(theme.color("torso", 0.6), 1.2))
    painter.setBrush(theme.color("torso", 0.10))
    radius = body.shoulder_breadth / 2.0 * pixels
    painter.drawEllipse(floor.map(QPointF(x, y)), radius, radius)
    for side in sorted(Side, key=lambda s: pose.foot(s).contact is Contact.AIR):
        draw_sole(painter, floor, body.sole, side, pose.foot(side), pose.share(side), theme)


def draw_between(
    painter: QPainter,
    frame: QTransform,
    near: tuple[float, float],
    thing: tuple[float, float],
    words: str,
    fits: bool,
    theme: Theme,
) -> None:
    """What is tightest: a line from the sweep to the thing, with its figure."""
    a, b = frame.map(QPointF(*near)), frame.map(QPointF(*thing))
    color = theme.color("good" if fits else "stop")
    painter.setPen(QPen(color, 2.4))
    painter.drawLine(a, b)
    painter.setBrush(color)
    painter.setPen(QPen(theme.color("paper"), 1.2))
    for end in (a, b):
        painter.drawEllipse(end, 4.0, 4.0)
    draw_tag(painter, (a + b) / 2.0 + QPointF(0.0, -20.0), words, theme, "good" if fits else "stop")
