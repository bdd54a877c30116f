"""Dials, beams, arcs and severity marks, the same wherever they are drawn."""

from __future__ import annotations

import math
from collections.abc import Iterable
from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QPainter, QPainterPath, QPainterPathStroker, QPen, QPixmap, QPolygonF, QTransform

from waltzmark.core.base.angles import ahead, heading_difference
from waltzmark.core.base.leftright import Side
from waltzmark.core.judge.finding import Severity
from waltzmark.core.walk.annotations import HandMark, KickMark
from waltzmark.desktop.theme import Theme, font
from waltzmark.words.figures import Figures
from waltzmark.words.steps import hand_words, kick_words

__all__ = [
    "draw_arc",
    "draw_beam",
    "draw_breath",
    "draw_clock",
    "draw_dial",
    "draw_gaze",
    "draw_hand",
    "draw_hand_ticks",
    "draw_kick",
    "draw_severity",
    "draw_tag",
    "draw_torso",
    "severity_mark",
]

_FACES = 24  # of clocks, kept
_NOSE = 78.72  # degrees from the right around to where the nose leaves the shoulders


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


@lru_cache(maxsize=64)
def severity_mark(size: float, severity: Severity, theme: Theme, ratio: float) -> QPixmap:
    """The same drawn once, where there are many of them."""
    wide = math.ceil(size) + 4
    mark = QPixmap(round(wide * ratio), round(wide * ratio))
    mark.setDevicePixelRatio(ratio)
    mark.fill(Qt.GlobalColor.transparent)
    with QPainter(mark) as painter:
        draw_severity(painter, QPointF(wide / 2.0, wide / 2.0), size, severity, theme)
    return mark


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


def draw_dial(
    painter: QPainter, centre: QPointF, radius: float, heading: float, theme: Theme, pelvis: float | None = None
) -> None:
    """A small dial of the torso's facing, 12 up: a rim with its four hours, and the shoulders with a nose; where the
    pelvis faces another way, a wedge on the rim from the one to the other."""
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
    if pelvis is not None:
        box = QRectF(centre - QPointF(radius, radius), centre + QPointF(radius, radius))
        painter.setPen(QPen(theme.color("pelvis"), 2.6, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        painter.drawArc(box, round(16 * (90.0 - pelvis)), round(-16 * heading_difference(pelvis, heading)))
        x, y = ahead(pelvis)
        painter.drawLine(centre + QPointF(x, -y) * (radius - 5.0), centre + QPointF(x, -y) * (radius + 2.0))
    painter.translate(centre)
    painter.rotate(heading)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("torso"))
    painter.scale(radius * 0.00066, radius * 0.00066)
    painter.drawPath(_shoulders(-1.0))
    painter.restore()


def draw_hand_ticks(painter: QPainter, centre: QPointF, radius: float, hands: Iterable[HandMark], theme: Theme) -> None:
    """Where the hands point, about a dial: a stalk with a full bead for the right hand, a hollow one for the left."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for hand in hands:
        # Side by side where both point the same way.
        x, y = ahead(hand.heading + 16.0 * hand.side.sign)
        _bead(
            painter, centre + QPointF(x, -y) * radius, centre + QPointF(x, -y) * (radius + 5.0), 2.2, hand.side, theme
        )
    painter.restore()


def _bead(painter: QPainter, start: QPointF, end: QPointF, size: float, side: Side, theme: Theme) -> None:
    painter.setPen(QPen(theme.foot(side), 1.3))
    painter.drawLine(start, end)
    painter.setBrush(theme.foot(side) if side is Side.RIGHT else theme.color("raised"))
    painter.drawEllipse(end, size, size)


def draw_gaze(painter: QPainter, centre: QPointF, radius: float, heading: float, theme: Theme) -> None:
    """Where the eyes look, about a dial: a lid on its rim."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.translate(centre)
    painter.rotate(heading)
    lid = QPainterPath(QPointF(-4.5, -radius + 1.5))
    lid.quadTo(0, -radius - 6.5, 4.5, -radius + 1.5)
    lid.closeSubpath()
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("torso"))
    painter.drawPath(lid)
    painter.restore()


def draw_breath(painter: QPainter, at: QPointF, inward: bool, theme: Theme) -> None:
    """A breath: a wedge that opens upward for in, downward for out."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    up = -1.0 if inward else 1.0
    painter.setPen(QPen(theme.color("breath_in" if inward else "breath_out"), 1.6))
    painter.drawPolyline([at + QPointF(-5, up * 3), at - QPointF(0, up * 3), at + QPointF(5, up * 3)])
    painter.restore()


def draw_kick(painter: QPainter, floor: QTransform, hip: tuple[float, float], kick: KickMark, theme: Theme) -> None:
    """A leg that is out: from the hip joint to the foot, with its height and part."""
    ux, uy = ahead(kick.heading)
    start, end = floor.map(QPointF(*hip)), floor.map(QPointF(hip[0] + kick.reach * ux, hip[1] + kick.reach * uy))
    painter.save()
    painter.setPen(QPen(theme.foot(kick.side), 3.0, Qt.PenStyle.DashDotLine))
    painter.drawLine(start, end)
    painter.setPen(QPen(theme.foot(kick.side), 2.0))
    painter.setBrush(theme.foot(kick.side) if kick.side is Side.RIGHT else theme.color("raised"))
    painter.drawEllipse(end, 5.0, 5.0)
    painter.setFont(font(8.5))
    painter.drawText(end + QPointF(9.0, 4.0), kick_words(kick))
    painter.restore()


def draw_hand(
    painter: QPainter,
    floor: QTransform,
    centre: tuple[float, float],
    shoulder: tuple[float, float],
    hand: HandMark,
    theme: Theme,
) -> None:
    """A hand on the floor: a short stalk from its shoulder the way it points, with its height and shape, the words on
    the side away from the body's *centre*."""
    ux, uy = ahead(hand.heading)
    start = floor.map(QPointF(*shoulder))
    end = floor.map(QPointF(shoulder[0] + 0.22 * ux, shoulder[1] + 0.22 * uy))
    painter.save()
    _bead(painter, start, end, 4.0, hand.side, theme)
    painter.setFont(font(8.5))
    painter.setPen(theme.foot(hand.side))
    away = end - start
    wide = painter.fontMetrics().horizontalAdvance(hand_words(hand))
    if away.y() > 4:
        lift = 14.0
    elif away.y() < -4:
        lift = -6.0
    else:
        lift = 4.0
    out = start.x() - floor.map(QPointF(*centre)).x()
    right = out > 0 if abs(out) > 1.0 else hand.side is Side.RIGHT
    sideways = 8.0 if right else -8.0 - wide
    at = end + QPointF(sideways, lift if abs(away.x()) < 12 else 4.0)
    under = QRectF(painter.fontMetrics().boundingRect(hand_words(hand))).translated(at)
    painter.fillRect(under.adjusted(-2.0, -1.0, 2.0, 1.0), theme.color("raised", 0.82))
    painter.drawText(at, hand_words(hand))
    painter.restore()


@lru_cache(maxsize=2)
def _shoulders(up: float) -> QPainterPath:
    """Shoulders with a nose seen from above, 1000 units to each side; *up* is +1 where y grows ahead, -1 where it
    grows down."""
    path = QPainterPath()
    # Around the back from where the nose leaves the shoulders to where it comes back to them.
    path.arcMoveTo(-1000, -400, 2000, 800, -_NOSE)
    path.arcTo(-1000, -400, 2000, 800, -_NOSE, 180.0 + 2 * _NOSE)
    path.lineTo(0, 800)
    path.closeSubpath()
    return QTransform.fromScale(1.0, up).map(path)


@lru_cache(maxsize=32)
def _shoulder_line(step: float) -> QPainterPath:
    """The rim of the shoulders as a shape to fill, 1.2 pixels wide at exp(*step*) pixels a unit."""
    stroker = QPainterPathStroker()
    stroker.setWidth(1.2 / math.exp(step))
    return stroker.createStroke(_shoulders(1.0))


def draw_torso(
    painter: QPainter,
    floor: QTransform,
    x: float,
    y: float,
    heading: float,
    breadth: float,
    theme: Theme,
    role: str = "torso",
) -> None:
    """The shoulders above the centre of pressure, translucent, on the floor."""
    ux, uy = ahead(heading)
    half = breadth / 2000.0
    own = QTransform(uy * half, -ux * half, ux * half, uy * half, x, y) * floor
    # A tenth of the scale more or less is not seen, and keeps the shapes few.
    step = round(math.log(abs(own.determinant()) ** 0.5) * 10.0) / 10.0
    painter.fillPath(own.map(_shoulders(1.0)), theme.color(role, 0.12))
    painter.fillPath(own.map(_shoulder_line(step)), theme.laid(role, "board", 0.6))


def draw_clock(
    painter: QPainter,
    floor: QTransform,
    place: tuple[float, float],
    radius: float,
    say: Figures,
    torso: float,
    theme: Theme,
) -> None:
    """The clock laid on the floor about a place: hour marks and numerals, said as facings are.

    torso: the heading at 12 of the own clock, which turns with the walker. The clock is drawn once for a scale and a
    way up, and laid to the nearest pixel.
    """
    device = painter.device()
    ratio = device.devicePixelRatioF() if device else 1.0
    linear = QTransform(floor.m11(), floor.m12(), floor.m21(), floor.m22(), 0.0, 0.0)
    face = _clock_face(linear, radius, say, torso if say.facings == "own" else 0.0, theme, ratio)
    half = face.deviceIndependentSize() / 2.0
    painter.drawPixmap(floor.map(QPointF(*place)) - QPointF(half.width(), half.height()), face)


_faces: dict[object, QPixmap] = {}  # of clocks


def _clock_face(floor: QTransform, radius: float, say: Figures, turned: float, theme: Theme, ratio: float) -> QPixmap:
    """The clock about the middle of a picture, its 12 at a heading."""
    ways = (floor.m11(), floor.m12(), floor.m21(), floor.m22())
    key = (ways, radius, say, turned, theme.name, ratio)
    if (known := _faces.get(key)) is not None:
        return known
    if len(_faces) >= _FACES:
        _faces.clear()
    # Seen from the side the floor is less deep than wide: the wider way must have room.
    wide = max(math.hypot(floor.m11(), floor.m21()), math.hypot(floor.m12(), floor.m22()))
    half = math.ceil(radius * 1.07 * wide) + 24
    face = QPixmap(round(2 * half * ratio), round(2 * half * ratio))
    face.setDevicePixelRatio(ratio)
    face.fill(Qt.GlobalColor.transparent)
    with QPainter(face) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.translate(half, half)
        painter.setPen(QPen(theme.color("faint", 0.55), 1.0))
        for minute in range(0, 720, 30):
            ux, uy = ahead(turned + minute / 2.0)
            inner = radius * (0.955 if minute % 60 == 0 else 0.98)
            a = floor.map(QPointF(ux * inner, uy * inner))
            b = floor.map(QPointF(ux * radius, uy * radius))
            painter.drawLine(a, b)
        step = 45 if say.facings == "compass" else 30
        for angle in range(0, 360, step):
            heading = turned + angle
            ux, uy = ahead(heading)
            main = angle % 90 == 0
            painter.setFont(font(10.5 if main else 8.5, bold=main))
            painter.setPen(theme.color("ink" if main else "faint", 0.95 if main else 0.9))
            at = floor.map(QPointF(ux * radius * 1.07, uy * radius * 1.07))
            painter.drawText(
                QRectF(at.x() - 20, at.y() - 10, 40, 20), Qt.AlignmentFlag.AlignCenter, say.hour(heading, turned)
            )
    _faces[key] = face
    return face


def draw_arc(
    painter: QPainter,
    floor: QTransform,
    point: tuple[float, float],
    start: float,
    turn: float,
    radius: float,
    theme: Theme,
    role: str,
    label: str = "",
) -> None:
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
    painter.setBrush(Qt.BrushStyle.NoBrush)
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


def draw_tag(
    painter: QPainter, at: QPointF, text: str, theme: Theme, role: str = "ink", within: QRectF | None = None
) -> None:
    """A figure on a small card, readable over anything. within: a place in it has its whole card in it; what is painted
    in where it is not said."""
    if within is None and painter.hasClipping():
        within = painter.clipBoundingRect()
    painter.save()
    painter.setFont(font(9.0, bold=True))
    box = painter.fontMetrics().boundingRect(text)
    card = QRectF(0, 0, box.width() + 12, box.height() + 4)
    card.moveCenter(at)
    if within is not None and within.contains(at):
        card.moveLeft(max(min(card.left(), within.right() - card.width() - 2.0), within.left() + 2.0))
    painter.setPen(QPen(theme.color("rule"), 1.0))
    painter.setBrush(theme.color("raised", 0.94))
    painter.drawRoundedRect(card, 4, 4)
    painter.setPen(theme.color(role))
    painter.drawText(card, Qt.AlignmentFlag.AlignCenter, text)
    painter.restore()
