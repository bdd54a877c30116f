"""The pelvis under the chest, and how far hips and waist let the chest turn: on the floor, and beside a body."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen, QPolygonF, QTransform

from waltzmark.core.base.angles import ahead, heading_difference
from waltzmark.core.base.leftright import SIDES, Contact
from waltzmark.core.body.body import Body, sided
from waltzmark.core.body.pose import Pose
from waltzmark.core.judge.finding import Finding
from waltzmark.core.walk.pelvis import HOLDS, Pelvis
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.theme import Theme
from waltzmark.words.figures import Figures
from waltzmark.words.language import number, tr

__all__ = ["arc", "draw_pelvis", "draw_range", "draw_room", "waist_fan"]

_FAN = 0.44  # metres about the pelvis at which the hips' room is drawn
_WAIST = 0.34  # and at which the waist's is, inside it


def arc(floor: QTransform, x: float, y: float, radius: float, low: float, high: float) -> QPolygonF:
    """Points of an arc about a place, clockwise from one heading to another, degrees."""
    steps = max(2, math.ceil(abs(high - low) / 4.0) + 1)
    angles = np.radians(np.linspace(low, high, steps))
    return floor.map(QPolygonF([QPointF(x + radius * math.sin(a), y + radius * math.cos(a)) for a in angles]))


def _spoke(floor: QTransform, x: float, y: float, heading: float, start: float, end: float) -> tuple[QPointF, QPointF]:
    ux, uy = ahead(heading)
    return floor.map(QPointF(x + start * ux, y + start * uy)), floor.map(QPointF(x + end * ux, y + end * uy))


def draw_pelvis(
    painter: QPainter, floor: QTransform, pelvis: Pelvis, body: Body, theme: Theme, ray: bool = True
) -> None:
    """The pelvis as a bowl with its two hip joints, and a ray where it faces."""
    x, y, heading = pelvis
    ux, uy = ahead(heading)
    half = body.hip_breadth / 2.0
    own = QTransform(uy * half, -ux * half, ux * half, uy * half, x, y) * floor
    bowl = QPainterPath(QPointF(-1.0, 0.12))
    bowl.cubicTo(QPointF(-1.0, -0.55), QPointF(-0.45, -0.62), QPointF(0.0, -0.50))
    bowl.cubicTo(QPointF(0.45, -0.62), QPointF(1.0, -0.55), QPointF(1.0, 0.12))
    bowl.quadTo(QPointF(0.5, 0.42), QPointF(0.0, 0.34))
    bowl.quadTo(QPointF(-0.5, 0.42), QPointF(-1.0, 0.12))
    painter.save()
    painter.setPen(QPen(theme.color("pelvis"), 1.8, Qt.PenStyle.DashLine))
    painter.setBrush(theme.color("pelvis", 0.14))
    painter.drawPath(own.map(bowl))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("pelvis"))
    joint = body.hip_spacing / body.hip_breadth
    for sign in (-1.0, 1.0):
        painter.drawEllipse(own.map(QPointF(sign * joint, 0.0)), 2.6, 2.6)
    if ray:
        painter.setPen(QPen(theme.color("pelvis"), 2.0))
        painter.drawLine(*_spoke(floor, x, y, heading, 0.0, _WAIST))
    painter.restore()


def draw_room(painter: QPainter, floor: QTransform, body: Body, pose: Pose, pelvis: Pelvis, theme: Theme) -> None:
    """Where the pelvis may face as each hip lets it, an arc for each foot that stands, faint where it does not hold the
    pelvis; inside them how far the waist lets the chest go from there; and where the chest faces."""
    x, y, heading = pelvis
    painter.save()
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for side in SIDES:
        foot = pose.foot(side)
        if foot.contact is Contact.AIR:
            continue
        out, inward = body.hip_range(side)
        low, high = (foot.heading - out, foot.heading + inward) if side else (foot.heading - inward, foot.heading + out)
        holds = foot.contact is Contact.FLAT and pose.share(side) > HOLDS
        colour = theme.foot(side)
        colour.setAlphaF(1.0 if holds else 0.3)
        painter.setPen(QPen(colour, 4.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        painter.drawPolyline(arc(floor, x, y, _FAN + 0.035 * side, low, high))
    draw_pelvis(painter, floor, pelvis, body, theme)
    waist_fan(painter, floor, (x, y), heading, body, theme)
    painter.setPen(QPen(theme.color("torso"), 2.4))
    painter.drawLine(*_spoke(floor, x, y, pose.torso, _WAIST - 0.05, _FAN + 0.09))
    painter.restore()


def waist_fan(
    painter: QPainter,
    floor: QTransform,
    place: tuple[float, float],
    heading: float,
    body: Body,
    theme: Theme,
    radius: float = _WAIST,
) -> None:
    """How far the waist lets the chest turn from a heading of the pelvis, to either side."""
    left, right = (sided(body.waist, side) for side in SIDES)
    painter.setPen(QPen(theme.color("torso", 0.9), 2.6, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
    painter.drawPolyline(arc(floor, *place, radius, heading - left, heading + right))
    for turn in (-left, right):
        painter.drawLine(*_spoke(floor, *place, heading + turn, radius - 0.025, radius + 0.025))


def draw_range(
    painter: QPainter,
    floor: QTransform,
    body: Body,
    pose: Pose,
    pelvis: Pelvis,
    finding: Finding,
    say: Figures,
    theme: Theme,
) -> None:
    """What the hips give, what the waist gives, and what is missing, with their figures."""
    draw_room(painter, floor, body, pose, pelvis, theme)
    if finding.measured is None or finding.limit is None:
        return
    x, y, heading = pelvis
    waist = heading_difference(heading, pose.torso)
    missing = finding.measured - finding.limit
    if finding.rule != "hip.range" or abs(abs(waist) - finding.measured) > 0.5:
        words = tr("{missing}° missing", missing=number(missing, 0))
        draw_tag(painter, floor.map(QPointF(x, y)) + QPointF(0, 24), words, theme, finding.severity)
        return
    end = heading + math.copysign(finding.limit, waist)
    painter.save()
    wedge = arc(floor, x, y, _FAN + 0.09, end, heading + waist)
    wedge.append(floor.map(QPointF(x, y)))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color(finding.severity, 0.32))
    painter.drawPolygon(wedge)
    painter.restore()
    far = _FAN + 0.17
    for at, words, role in (
        (heading + 180.0, tr("hips let the pelvis face {toward}", toward=say.toward(heading, pose.torso)), "pelvis"),
        (
            heading + math.copysign(finding.limit * 0.55, waist),
            tr("waist {limit}°", limit=number(finding.limit, 0)),
            "torso",
        ),
        ((end + heading + waist) / 2.0, tr("{missing}° missing", missing=number(missing, 0)), finding.severity),
    ):
        draw_tag(painter, _spoke(floor, x, y, at, 0.0, far)[1], words, theme, role)
