"""Soles drawn as soles: vessels filled by the weight they carry, inked where they touch the floor."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QPaintEngine,
    QPainter,
    QPainterPath,
    QPainterPathStroker,
    QPen,
    QTransform,
)

from waltzmark.core.base.angles import ahead, rightward
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.foot import LANDMARKS, Sole
from waltzmark.core.body.pose import FootPose
from waltzmark.desktop.painter.tracks import polygon
from waltzmark.desktop.theme import Theme, font

__all__ = ["draw_sole", "draw_sole_outline", "foot_transform", "outline_path"]

_HATCH = 0.020  # metres between the hatching lines of the left foot


def foot_transform(foot: FootPose) -> QTransform:
    """From the foot's own frame (across, along) to the floor frame, metres."""
    ux, uy = ahead(foot.heading)
    vx, vy = rightward(foot.heading)
    return QTransform(vx, vy, ux, uy, foot.x, foot.y)


def _closed(points: Floats) -> QPainterPath:
    path = QPainterPath()
    path.addPolygon(polygon(points))
    path.closeSubpath()
    return path


@lru_cache(maxsize=16)
def outline_path(sole: Sole, side: Side) -> QPainterPath:
    """The sole's outline in its own frame, metres."""
    return _closed(sole.outlines[side])


@lru_cache(maxsize=64)
def _patch_path(sole: Sole, side: Side, contact: Contact) -> QPainterPath:
    """What of a contact patch lies on the sole, in its own frame, thousandths of a metre: in metres the shapes would be
    too small to be cut well."""
    patch = sole.patch(side, contact)
    return (
        QPainterPath() if patch is None else _closed(1000.0 * patch).intersected(_closed(1000.0 * sole.outlines[side]))
    )


@lru_cache(maxsize=16)
def _levels(sole: Sole, side: Side) -> tuple[Floats, Floats]:
    """Shares of the sole's area, and how far along the axis one has to fill it from the heel for each."""
    outline = sole.outlines[side]
    along = np.linspace(outline[:, 1].min(), outline[:, 1].max(), 60)
    breadth = _breadths(outline, along)
    area = np.concatenate([[0.0], np.cumsum((breadth[1:] + breadth[:-1]) / 2.0)])
    return area / area[-1], along


def _breadths(outline: Floats, along: Floats) -> Floats:
    """How broad an outline is at each of those places."""
    x, y = outline.T
    across, up = np.roll(x, -1) - x, np.roll(y, -1) - y
    level = along[:, None] - y
    crosses = level * (level - up) < 0
    at = x + np.divide(level, up, out=np.zeros_like(level), where=crosses) * across
    breadth = np.where(crosses, at, -np.inf).max(axis=1) - np.where(crosses, at, np.inf).min(axis=1)
    breadths: Floats = np.maximum(breadth, 0.0)
    return breadths


@lru_cache(maxsize=1024)
def _filled(sole: Sole, side: Side, level: float) -> tuple[QPainterPath, QPainterPath]:
    """What of a sole lies below a *level* along its axis, metres, and slanted lines over that if it is the left one."""
    a = sole.outlines[side]
    b = np.roll(a, -1, axis=0)
    # Every edge gives its beginning where that is below, and the place where it crosses the level.
    begins = a[:, 1] <= level
    crosses = begins != (b[:, 1] <= level)
    share = np.divide(level - a[:, 1], b[:, 1] - a[:, 1], out=np.zeros(len(a)), where=crosses)
    points = np.stack([a, a + share[:, None] * (b - a)], axis=1)[np.stack([begins, crosses], axis=1)]
    if len(points) < 3:
        return QPainterPath(), QPainterPath()
    return _closed(points), _hatched(points) if side is Side.LEFT else QPainterPath()


def _hatched(points: Floats) -> QPainterPath:
    """Slanted lines over a shape (n, 2), metres: y = x + c crosses the rim where y - x passes c, and between a crossing
    and the next one it is inside."""
    after, lines = np.roll(points, -1, axis=0), QPainterPath()
    rise, rise_after = points[:, 1] - points[:, 0], after[:, 1] - after[:, 0]
    levels = np.arange(rise.min() + _HATCH / 2.0, rise.max(), _HATCH)
    number, edge = np.nonzero((rise <= levels[:, None]) != (rise_after <= levels[:, None]))
    t = (levels[number] - rise[edge]) / (rise_after[edge] - rise[edge])
    x = points[edge, 0] + t * (after[edge, 0] - points[edge, 0])
    order = np.lexsort((x, number))
    ends = np.stack([x[order], x[order] + levels[number[order]]], axis=-1)
    for left, right in ends.reshape(-1, 2, 2).tolist():
        lines.moveTo(*left)
        lines.lineTo(*right)
    return lines


@lru_cache(maxsize=256)
def _line_path(sole: Sole, side: Side, width: float, style: Qt.PenStyle) -> QPainterPath:
    """The outline drawn as a line, as a shape to fill: widening it at every drawing takes ten times as long."""
    stroker = QPainterPathStroker()
    # Widening flattens curves for the units at hand; in thousandths they stay smooth.
    stroker.setWidth(1000.0 * width)
    stroker.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    stroker.setDashPattern(style)
    large = QTransform.fromScale(1000.0, 1000.0)
    return stroker.createStroke(large.map(outline_path(sole, side)))


def _draw_line(
    painter: QPainter,
    transform: QTransform,
    sole: Sole,
    side: Side,
    color: QColor,
    width: float,
    style: Qt.PenStyle = Qt.PenStyle.SolidLine,
) -> None:
    """Draws the outline of a sole with a line of so many pixels. *transform*: from the foot's own frame."""
    if painter.paintEngine().type() is not QPaintEngine.Type.Raster:  # on paper a line is a line: it takes less to say
        pen = QPen(color, width, style, Qt.PenCapStyle.FlatCap, Qt.PenJoinStyle.RoundJoin)
        painter.strokePath(transform.map(outline_path(sole, side)), pen)
        return
    scale = abs(transform.determinant()) ** 0.5
    # A tenth of the scale more or less is not seen, and keeps the shapes few.
    step = round(math.log(scale) * 10.0) / 10.0
    line = _line_path(sole, side, width / math.exp(step), style)
    painter.fillPath((QTransform.fromScale(0.001, 0.001) * transform).map(line), color)


def draw_sole(
    painter: QPainter,
    floor: QTransform,
    sole: Sole,
    side: Side,
    foot: FootPose,
    share: float,
    theme: Theme,
    letter: bool = True,
    opacity: float = 1.0,
    up: float = 0.0,
) -> None:
    """Draws one sole. *floor*: from the floor frame in metres to the painter's; *share*: of the weight, 0 to 1; *up*:
    degrees that its heel comes up by itself, or, negative, its toes.

    Flat soles have a full outline, soles on the heel or ball only that part inked, soles in the air a broken
    outline, and so has what comes up by itself. The left foot is hatched, so that the sides differ without colour.
    """
    transform = foot_transform(foot) * floor
    outline = transform.map(outline_path(sole, side))
    ink, pale = theme.foot(side), theme.foot_pale(side)
    painter.save()
    painter.setOpacity(opacity * painter.opacity())
    in_air = foot.contact is Contact.AIR
    if not in_air:
        painter.fillPath(outline, pale)
    if share > 0.004:
        shares, along = _levels(sole, side)
        # To half a millimetre, which is not seen, so that what is drawn again and again is worked out once.
        vessel, lines = _filled(sole, side, round(2000.0 * float(np.interp(share, shares, along))) / 2000.0)
        painter.fillPath(transform.map(vessel), ink)
        if side is Side.LEFT:
            painter.setPen(QPen(pale, 1.0))
            painter.drawPath(transform.map(lines))
    partly = foot.contact in (Contact.HEEL, Contact.BALL)
    if partly:
        patch = (QTransform.fromScale(0.001, 0.001) * transform).map(_patch_path(sole, side, foot.contact))
        painter.setPen(QPen(ink, 1.6))
        painter.setBrush(QBrush(ink, Qt.BrushStyle.Dense3Pattern) if share <= 0.004 else QBrush(Qt.BrushStyle.NoBrush))
        painter.drawPath(patch)
    if in_air:
        style = Qt.PenStyle.DashLine
    elif partly:
        style = Qt.PenStyle.DotLine
    else:
        style = Qt.PenStyle.SolidLine
    if up and style is Qt.PenStyle.SolidLine:
        _draw_risen(painter, transform, sole, side, ink, up)
    else:
        _draw_line(painter, transform, sole, side, ink, 1.4 if partly or in_air else 2.0, style)
    if letter:
        _draw_letter(painter, transform, sole, side, share, theme)
    painter.restore()


def _draw_risen(painter: QPainter, transform: QTransform, sole: Sole, side: Side, ink: QColor, up: float) -> None:
    """The outline of a sole whose heel, or whose toes, are off the floor: dotted as far as that goes."""
    length, far = sole.of(side), 4.0 * sole.of(side)
    bend = (LANDMARKS["ball"] if up > 0.0 else LANDMARKS["heel"]) * length
    for risen, style in ((True, Qt.PenStyle.DotLine), (False, Qt.PenStyle.SolidLine)):
        behind = risen == (up > 0.0)
        part = QRectF(-far, bend - far if behind else bend, 2.0 * far, far)
        painter.save()
        painter.setClipPath(transform.map(_rectangle(part)), Qt.ClipOperation.IntersectClip)
        _draw_line(painter, transform, sole, side, ink, 1.4 if risen else 2.0, style)
        painter.restore()


def _rectangle(rect: QRectF) -> QPainterPath:
    path = QPainterPath()
    path.addRect(rect)
    return path


def _draw_letter(painter: QPainter, transform: QTransform, sole: Sole, side: Side, share: float, theme: Theme) -> None:
    """L or R on the ball of the foot, upright whatever way the foot points."""
    scale = abs(transform.determinant()) ** 0.5
    if scale * sole.breadth < 13:
        return
    at = transform.map(QPointF(0.0, 0.60 * sole.of(side)))
    painter.setFont(font(min(max(scale * sole.breadth * 0.24, 7.5), 15.0), bold=True))
    shares, along = _levels(sole, side)
    drowned = float(np.interp(share, shares, along)) > 0.66 * sole.of(side)
    if drowned:
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.foot(side))
        painter.drawEllipse(at, painter.fontMetrics().height() * 0.52, painter.fontMetrics().height() * 0.52)
    painter.setPen(theme.foot_pale(side) if drowned else theme.foot(side))
    painter.drawText(QRectF(at.x() - 14, at.y() - 14, 28, 28), Qt.AlignmentFlag.AlignCenter, side.letter)


def draw_sole_outline(
    painter: QPainter,
    floor: QTransform,
    sole: Sole,
    side: Side,
    foot: FootPose,
    theme: Theme,
    opacity: float,
    dashed: bool = False,
    filled: bool = True,
) -> None:
    """The bare outline of a sole: a trail of where it was, or a ghost of where it will be. filled: with the foot's pale
    colour, else what lies under it is seen."""
    painter.save()
    painter.setOpacity(opacity)
    transform = foot_transform(foot) * floor
    if filled:
        painter.fillPath(transform.map(outline_path(sole, side)), theme.foot_pale(side))
    style = Qt.PenStyle.DashLine if dashed else Qt.PenStyle.SolidLine
    _draw_line(painter, transform, sole, side, theme.foot(side), 1.6 if dashed else 1.2, style)
    painter.restore()
