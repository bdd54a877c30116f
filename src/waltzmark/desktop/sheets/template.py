"""Soles to cut out: one to one, with what one turns them by, and a rule that tells whether the printer is true."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen, QTransform

from waltzmark.core.base.angles import ahead
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose
from waltzmark.desktop.painter.soles import draw_sole_outline
from waltzmark.desktop.sheets.paper import INK, MM, Page, Paper, fitted_text
from waltzmark.words import named
from waltzmark.words.language import number, tr

__all__ = ["sole_pages"]

_EDGE = 6.0  # millimetres that printers leave white
_BEYOND = 3.0  # millimetres of the axis before and behind the sole
_ARC = 0.058  # metres from the heel to the arc of angles
_JOIN = 0.45  # of the sole's length from the heel, where one that is longer than the paper is joined
_OVERLAP = 6.0  # millimetres


def sole_pages(body: Body, paper: Paper) -> list[Page]:
    """This body's soles one to one along the paper, to cut out and draw round; in two parts where they are longer."""
    pages = []
    for side in SIDES:
        low, high = _ends(body, side)
        parts = ("",) if (high - low) * 1000.0 <= max(paper.size) - 2.0 * _EDGE else ("toes", "heel")
        pages += [
            Page(
                tr("{side} sole {part}", side=named.side(side.word), part=part).strip(),
                partial(_draw, body, paper, side, part),
            )
            for part in parts
        ]
    return pages


def _ends(body: Body, side: Side) -> tuple[float, float]:
    """Where the axis of a sole begins and ends, metres from the heel's centre."""
    along = body.sole.outlines[side][:, 1]
    return float(along.min()) - _BEYOND / 1000.0, float(along.max()) + _BEYOND / 1000.0


def _draw(body: Body, paper: Paper, side: Side, part: str, painter: QPainter) -> None:
    """One page, upright; on a paper that lies on its side it is drawn turned."""
    wide, high = min(paper.size) * MM, max(paper.size) * MM
    painter.save()
    if paper.landscape:
        painter.translate(high, 0.0)
        painter.rotate(90.0)
    low, top = _ends(body, side)
    unit = 1000.0 * MM
    # The whole in the middle; of parts the toes at the top of their page, the heel at the bottom of its own.
    heel = {
        "": (high + (top + low) * unit) / 2.0,
        "toes": _EDGE * MM + top * unit,
        "heel": high - _EDGE * MM + low * unit,
    }[part]
    floor = QTransform.fromTranslate(wide / 2.0, heel).scale(unit, -unit)
    _rule(painter)
    painter.save()
    if part:
        join = floor.map(QPointF(0.0, _JOIN * body.sole.of(side))).y()
        painter.setPen(QPen(INK.color("ink"), 0.8, Qt.PenStyle.DashLine))
        painter.drawLine(QPointF(_EDGE * MM, join), QPointF(wide - _EDGE * MM, join))
        cut = join + (_OVERLAP if part == "toes" else -_OVERLAP) * MM
        words = QRectF(wide - 42.0 * MM, join + (2.0 if part == "toes" else -16.0), 34.0 * MM, 14.0)
        fitted_text(painter, words, tr("join here"), 7.5, flags=Qt.AlignmentFlag.AlignRight, wrap=False)
        painter.setClipRect(QRectF(0.0, 0.0, wide, cut) if part == "toes" else QRectF(0.0, cut, wide, high - cut))
    _sole(painter, body, side, floor, part)
    painter.restore()
    painter.restore()


def _rule(painter: QPainter) -> None:
    """A hundred millimetres at the upper left."""
    left, top = 12.0 * MM, 20.0 * MM
    painter.setPen(QPen(INK.color("ink"), 1.0))
    for millimetre in range(101):
        y = top + millimetre * MM
        painter.drawLine(QPointF(left, y), QPointF(left + (14.0 if millimetre % 10 == 0 else 5.0), y))
    painter.drawLine(QPointF(left, top), QPointF(left, top + 100.0 * MM))
    words = tr("This rule is 100 mm long if the printer prints to scale.")
    fitted_text(painter, QRectF(left, 9.0 * MM, 34.0 * MM, 10.0 * MM), words, 7.5)


def _sole(painter: QPainter, body: Body, side: Side, floor: QTransform, part: str) -> None:
    """The outline with axis, heel, ball and angles, and inside it, where it stays on the paper that is cut out, whose
    it is and the warning."""
    length = body.sole.of(side)
    draw_sole_outline(painter, floor, body.sole, side, FootPose(0.0, 0.0, 0.0, Contact.FLAT), INK, 1.0)
    painter.setPen(QPen(INK.color("ink"), 0.8))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    low, top = _ends(body, side)
    painter.drawLine(floor.map(QPointF(0.0, low)), floor.map(QPointF(0.0, top)))
    for name in ("heel", "ball"):
        at = floor.map(QPointF(*body.sole.landmark(0.0, 0.0, 0.0, name, side)))
        painter.drawEllipse(at, 4.0, 4.0)
        fitted_text(painter, QRectF(at.x() + 6.0, at.y() - 7.0, 60.0, 14.0), name, 7.5, wrap=False)
    if part != "toes":
        _angles(painter, floor)
    at = floor.map(QPointF(0.0, (0.34 if part == "heel" else 0.58) * length))
    half = (0.22 if part == "heel" else 0.30) * body.sole.breadth * 1000.0 * MM
    words = tr("{side}, {length} cm", side=named.side(side.word), length=number(100 * length, 1))
    fitted_text(painter, QRectF(at.x() - half - 4.0, at.y(), half, 30.0), words, 9.0, True)
    warning = tr("Never stand on paper: it slips. Trace round it, then take it away.")
    fitted_text(painter, QRectF(at.x() + 5.0, at.y(), half, 90.0), warning, 8.0)


def _angles(painter: QPainter, floor: QTransform) -> None:
    """An arc about the heel with a mark every 15°."""
    arc = QPainterPath()
    for degrees in range(-90, 91, 5):
        x, y = ahead(float(degrees))
        at = floor.map(QPointF(_ARC * x, _ARC * y))
        if degrees == -90:
            arc.moveTo(at)
        else:
            arc.lineTo(at)
    painter.drawPath(arc)
    for degrees in range(-90, 91, 15):
        x, y = ahead(float(degrees))
        painter.drawLine(*(floor.map(QPointF(far * x, far * y)) for far in (_ARC - 0.01, _ARC)))
        at = floor.map(QPointF((_ARC + 0.006) * x, (_ARC + 0.006) * y))
        if degrees % 30 == 0 and degrees:
            box = QRectF(at.x() - 12.0, at.y() - 6.0, 24.0, 12.0)
            fitted_text(painter, box, f"{abs(degrees)}°", 6.5, flags=Qt.AlignmentFlag.AlignCenter, wrap=False)
