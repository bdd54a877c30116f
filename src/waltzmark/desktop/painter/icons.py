"""Small signs for buttons, drawn in the theme's ink."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QIcon, QPainter, QPen, QPixmap, QPolygonF

from waltzmark.desktop.theme import Theme

__all__ = ["icon"]

_SIZE = 20


def icon(name: str, theme: Theme) -> QIcon:
    """One of: back, forward, first, last, play, pause, fit, larger, smaller, own, follow."""
    pixmap = QPixmap(_SIZE * 3, _SIZE * 3)
    pixmap.fill(Qt.GlobalColor.transparent)
    with QPainter(pixmap) as painter:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.scale(3, 3)
        pen = QPen(theme.color("ink"), 1.9, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin)
        painter.setPen(pen)
        _DRAW[name](painter, theme)
    return QIcon(pixmap)


def _chevron(painter: QPainter, x: float, way: int) -> None:
    painter.drawPolyline(QPolygonF([QPointF(x - 3 * way, 4.5), QPointF(x + 3 * way, 10), QPointF(x - 3 * way, 15.5)]))


def _back(painter: QPainter, _theme: Theme) -> None:
    _chevron(painter, 10, -1)


def _forward(painter: QPainter, _theme: Theme) -> None:
    _chevron(painter, 10, 1)


def _first(painter: QPainter, _theme: Theme) -> None:
    painter.drawLine(QPointF(5, 4.5), QPointF(5, 15.5))
    _chevron(painter, 12, -1)


def _last(painter: QPainter, _theme: Theme) -> None:
    painter.drawLine(QPointF(15, 4.5), QPointF(15, 15.5))
    _chevron(painter, 8, 1)


def _play(painter: QPainter, theme: Theme) -> None:
    painter.setBrush(theme.color("ink"))
    painter.drawPolygon(QPolygonF([QPointF(6, 4), QPointF(16, 10), QPointF(6, 16)]))


def _pause(painter: QPainter, theme: Theme) -> None:
    painter.setBrush(theme.color("ink"))
    for x in (5.5, 12.0):
        painter.drawRect(QRectF(x, 4.5, 2.5, 11))


def _fit(painter: QPainter, _theme: Theme) -> None:
    for x, way in ((3.5, 1), (16.5, -1)):
        for y, down in ((3.5, 1), (16.5, -1)):
            painter.drawPolyline(QPolygonF([QPointF(x + 4 * way, y), QPointF(x, y), QPointF(x, y + 4 * down)]))


def _glass(painter: QPainter) -> None:
    painter.drawLine(QPointF(4, 10), QPointF(16, 10))


def _larger(painter: QPainter, _theme: Theme) -> None:
    _glass(painter)
    painter.drawLine(QPointF(10, 4), QPointF(10, 16))


def _smaller(painter: QPainter, _theme: Theme) -> None:
    _glass(painter)


def _follow(painter: QPainter, theme: Theme) -> None:
    """Two steps, one after the other."""
    painter.drawEllipse(QRectF(4, 10.5, 4.5, 7))
    painter.setBrush(theme.color("ink"))
    painter.drawEllipse(QRectF(11.5, 3, 4.5, 7))


def _own(painter: QPainter, theme: Theme) -> None:
    """Shoulders with a nose, turned up."""
    painter.drawArc(QRectF(3, 9, 14, 9), 0, 180 * 16)
    painter.setBrush(theme.color("ink"))
    painter.drawPolygon(QPolygonF([QPointF(7.5, 7.5), QPointF(10, 3), QPointF(12.5, 7.5)]))


_DRAW = {
    "back": _back,
    "forward": _forward,
    "first": _first,
    "last": _last,
    "play": _play,
    "pause": _pause,
    "fit": _fit,
    "larger": _larger,
    "smaller": _smaller,
    "own": _own,
    "follow": _follow,
}
