"""Dials, beams, arcs and severity marks, the same wherever they are drawn."""

from __future__ import annotations

import math
from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QPainter, QPainterPath, QPen, QPolygonF, QTransform

from waltzmark.core.angles import ahead
from waltzmark.core.findings import Severity
from waltzmark.desktop.theme import Theme, font

__all__ = ["draw_arc", "draw_beam", "draw_clock", "draw_dial", "draw_severity", "draw_torso"]


def draw_severity(painter: QPainter, at: QPointF, size: float, severity: Severity, theme: Theme) -> None:
    """Severity by shape and colour: an octagon with a bar for a stop, a shield-like drop for a caution, a ring
    for a note."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    color = theme.color(severity)
    painter.setPen(QPen(theme.color("paper"), 1.0))
    painter.setBrush(color)
    r = size / 2.0
    if severity == "stop":
        corners = [QPointF(at.x() + r * math.cos(a), at.y() + r * math.sin(a)) for a in _around(8, math.pi / 8)]
        painter.drawPolygon(QPolygonF(corners))
        painter.setPen(QPen(theme.color("paper"), max(size / 7, 1.4)))
        painter.drawLine(QPointF(at.x() - r * 0.45, at.y()), QPointF(at.x() + r * 0.45, at.y()))
    elif severity == "caution":
        path = QPainterPath(QPointF(at.x(), at.y() + r))
        path.quadTo(at.x() - r * 1.3, at.y() - r * 0.1, at.x() - r * 0.8, at.y() - r * 0.9)
        path.lineTo(at.x() + r * 0.8, at.y() - r * 0.9)
        path.quadTo(at.x() + r * 1.3, at.y() - r * 0.1, at.x(), at.y() + r)
        painter.drawPath(path)
    else:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(color, max(size / 5, 1.5)))
        painter.drawEllipse(at, r * 0.7, r * 0.7)
    painter.restore()


def _around(n: int, start: float) -> list[float]:
    return [start + 2 * math.pi * k / n for k in range(n)]


def draw_beam(painter: QPainter, box: QRectF, left: float, theme: Theme, points: float = 8.0) -> None:
    """The weight between the feet: a beam that tips to the heavier side, with both percentages."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    tip = (left - 0.5) * box.height() * 0.42
    a = QPointF(box.left() + 5, box.center().y() + 5 + tip)
    b = QPointF(box.right() - 5, box.center().y() + 5 - tip)
    painter.setPen(QPen(theme.color("faint"), 2.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    painter.drawLine(a, b)
    at = b + (a - b) * left
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("torso"))
    painter.drawEllipse(at, 3.6, 3.6)
    painter.setFont(font(points, bold=True))
    half = box.width() / 2
    top = QRectF(box.left(), box.top(), half, 14)
    painter.setPen(theme.color("left"))
    painter.drawText(top, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, f"{100 * left:.0f}")
    painter.setPen(theme.color("right"))
    painter.drawText(
        top.translated(half, 0), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, f"{100 - 100 * left:.0f}"
    )
    painter.restore()


def draw_dial(painter: QPainter, centre: QPointF, radius: float, heading: float, theme: Theme) -> None:
    """A small dial of the torso's facing, 12 up: a rim with its four hours, and the shoulders with a nose."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(theme.color("rule"), 1.2))
    painter.drawEllipse(centre, radius, radius)
    for hour in range(0, 12, 3):
        x, y = ahead(30.0 * hour)
        painter.drawLine(
            QPointF(centre.x() + x * (radius - 2.5), centre.y() - y * (radius - 2.5)),
            QPointF(centre.x() + x * radius, centre.y() - y * radius),
        )
    painter.translate(centre)
    painter.rotate(heading)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("torso"))
    painter.scale(radius * 0.00066, radius * 0.00066)
    painter.drawPath(_shoulders(-1.0))
    painter.restore()


@lru_cache(maxsize=2)
def _shoulders(up: float) -> QPainterPath:
    """Shoulders and head seen from above, 1000 units to each side; *up* is +1 where y grows ahead, -1 where it
    grows down. (Uniting shapes flattens their curves for the units at hand, so these are small.)"""
    path = QPainterPath()
    path.addEllipse(QPointF(0, 0), 1000, 400)
    nose = QPainterPath()
    nose.addEllipse(QPointF(0, 0), 360, 360)
    nose.moveTo(-240, up * 300)
    nose.lineTo(0, up * 800)
    nose.lineTo(240, up * 300)
    nose.closeSubpath()
    return path.united(nose)


def draw_torso(
    painter: QPainter, floor: QTransform, x: float, y: float, heading: float, breadth: float, theme: Theme
) -> None:
    """The shoulders above the centre of pressure, translucent, on the floor."""
    painter.save()
    ux, uy = ahead(heading)
    half = breadth / 2000.0
    own = QTransform(uy * half, -ux * half, ux * half, uy * half, x, y) * floor
    color = theme.color("torso")
    color.setAlphaF(0.12)
    painter.setBrush(color)
    color.setAlphaF(0.6)
    painter.setPen(QPen(color, 1.2))
    painter.drawPath(own.map(_shoulders(1.0)))
    painter.restore()


def draw_clock(painter: QPainter, floor: QTransform, x: float, y: float, radius: float, theme: Theme) -> None:
    """The clock laid on the floor about a place: hour marks and numerals, 12 where the floor has it."""
    painter.save()
    painter.setPen(QPen(theme.color("faint", 0.55), 1.0))
    for minute in range(0, 720, 30):
        ux, uy = ahead(minute / 2.0)
        inner = radius * (0.955 if minute % 60 == 0 else 0.98)
        a = floor.map(QPointF(x + ux * inner, y + uy * inner))
        b = floor.map(QPointF(x + ux * radius, y + uy * radius))
        painter.drawLine(a, b)
    for hour in range(1, 13):
        ux, uy = ahead(30.0 * hour)
        main = hour % 3 == 0
        painter.setFont(font(10.5 if main else 8.5, bold=main))
        painter.setPen(theme.color("ink" if main else "faint", 0.95 if main else 0.9))
        at = floor.map(QPointF(x + ux * radius * 1.07, y + uy * radius * 1.07))
        painter.drawText(QRectF(at.x() - 16, at.y() - 10, 32, 20), Qt.AlignmentFlag.AlignCenter, str(hour))
    painter.restore()


def draw_arc(
    painter: QPainter, floor: QTransform, point: tuple[float, float], start: float, turn: float, radius: float,
    theme: Theme, role: str, label: str = "",
) -> None:  # fmt: skip
    """The arc of a pivot about its true pivot point: from a heading through a turn, degrees, with its figure."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    steps = max(int(abs(turn) / 4), 2)
    path = QPainterPath()
    for k in range(steps + 1):
        ux, uy = ahead(start + turn * k / steps)
        at = floor.map(QPointF(point[0] + ux * radius, point[1] + uy * radius))
        if k:
            path.lineTo(at)
        else:
            path.moveTo(at)
    color = theme.color(role)
    painter.setPen(QPen(color, 2.0))
    painter.drawPath(path)
    end = path.currentPosition()
    back = path.pointAtPercent(max(1.0 - 8.0 / max(path.length(), 16.0), 0.0))
    along = end - back
    length = math.hypot(along.x(), along.y()) or 1.0
    along /= length
    across = QPointF(-along.y(), along.x())
    painter.setBrush(QBrush(color))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.drawPolygon(QPolygonF([end + along * 4, end - along * 6 + across * 4.5, end - along * 6 - across * 4.5]))
    pin = floor.map(QPointF(*point))
    painter.setBrush(theme.color("paper"))
    painter.setPen(QPen(color, 1.8))
    painter.drawEllipse(pin, 3.5, 3.5)
    if label:
        middle = start + turn / 2.0
        ux, uy = ahead(middle)
        at = floor.map(QPointF(point[0] + ux * radius * 1.2, point[1] + uy * radius * 1.2))
        draw_tag(painter, at, label, theme, role)
    painter.restore()


def draw_tag(painter: QPainter, at: QPointF, text: str, theme: Theme, role: str = "ink") -> None:
    """A figure on a small card, readable over anything."""
    painter.save()
    painter.setFont(font(9.0, bold=True))
    box = painter.fontMetrics().boundingRect(text)
    card = QRectF(0, 0, box.width() + 12, box.height() + 4)
    card.moveCenter(at)
    painter.setPen(QPen(theme.color("rule"), 1.0))
    painter.setBrush(theme.color("raised", 0.94))
    painter.drawRoundedRect(card, 4, 4)
    painter.setPen(theme.color(role))
    painter.drawText(card, Qt.AlignmentFlag.AlignCenter, text)
    painter.restore()
