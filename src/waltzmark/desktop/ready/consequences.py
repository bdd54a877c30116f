"""What the body's measures lead to: how far it steps empty, how wide it stands, what a scale shows."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QAccessible, QPainter, QPaintEvent, QPen, QPolygonF, QTransform
from PySide6.QtWidgets import QWidget

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose
from waltzmark.core.body.reach import longest_empty_length, reach_outline
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.soles import draw_sole, foot_transform
from waltzmark.desktop.painter.tracks import polygon
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words import named
from waltzmark.words.language import number, percent, tr

__all__ = ["ReachCurve", "ReachFloor", "figures"]

_WIDTHS = {"hip": tr("hip width"), "shoulder": tr("shoulder width")}
_BENDS = np.arange(0.0, 90.5, 2.0)


class _View(QWidget):
    """A view of the body that is painted anew when it changes."""

    role = QAccessible.Role.Chart

    def __init__(self, document: Document, theme: Theme, name: str) -> None:
        super().__init__()
        self._document, self._theme = document, theme
        self.setAccessibleName(name)
        Telling(self, self.told, document.form_changed, document.session.figures_changed)
        self.setMinimumSize(QSize(220, 112))
        document.form_changed.connect(safely(self.update))
        document.session.figures_changed.connect(safely(self.update))

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    @property
    def body(self) -> Body:
        return self._document.form.body

    @property
    def longest(self) -> float:
        """The longest empty step at the bend that the body is used to, at shoulder width, metres."""
        return longest_empty_length(self.body, self.body.seat, round(self.body.named_width("shoulder"), 3))

    def told(self) -> str:
        """What it comes to at the bend that the body is used to."""
        seat, length = number(self.body.seat, 0), self._document.session.say.length(self.longest)
        return tr("at {seat}°: {length}", seat=seat, length=length)


@guarded
class ReachCurve(_View):
    """The longest empty step against the bend of the standing knee, at hip and at shoulder width."""

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__(document, theme, tr("Longest empty step by knee bend"))

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            theme, body, say = self._theme, self.body, self._document.session.say
            box = QRectF(self.rect()).adjusted(58, 12, -16, -40)
            most = 0.8

            def at(bend: float, length: float) -> QPointF:
                return QPointF(box.left() + box.width() * bend / 90.0, box.bottom() - box.height() * length / most)

            painter.fillRect(box, theme.color("raised"))
            painter.setFont(font(9))
            for length in (0.0, 0.2, 0.4, 0.6, 0.8):
                y = at(0, length).y()
                painter.setPen(QPen(theme.color("rule"), 1.0))
                painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y))
                painter.setPen(theme.color("faint"))
                painter.drawText(
                    QRectF(0, y - 9, 52, 18),
                    Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
                    say.length(length),
                )
            for bend in range(0, 91, 15):
                x = at(bend, 0).x()
                painter.drawText(QRectF(x - 20, box.bottom() + 3, 40, 16), Qt.AlignmentFlag.AlignCenter, f"{bend}°")
            painter.drawText(
                QRectF(box.left(), box.bottom() + 19, box.width(), 18),
                Qt.AlignmentFlag.AlignCenter,
                tr("bend of the standing knee"),
            )
            for name, style in (("hip", Qt.PenStyle.SolidLine), ("shoulder", Qt.PenStyle.DashLine)):
                width = round(body.named_width(name), 3)
                points = [at(float(b), longest_empty_length(body, float(b), width)) for b in _BENDS]
                painter.setPen(QPen(theme.color("centre"), 2.2, style))
                painter.drawPolyline(QPolygonF(points))
                # Each beside its line: the upper one above it, the lower one below.
                place = (
                    at(20.0, longest_empty_length(body, 20.0, width))
                    if name == "hip"
                    else at(50.0, longest_empty_length(body, 50.0, width))
                )
                painter.setPen(theme.color("ink"))
                painter.drawText(place + (QPointF(-44, -18) if name == "hip" else QPointF(8, 18)), _WIDTHS[name])
            seat, length = body.seat, self.longest
            painter.setPen(QPen(theme.color("torso"), 1.2, Qt.PenStyle.DotLine))
            painter.drawLine(at(seat, 0), at(seat, most))
            painter.setPen(QPen(theme.color("paper"), 1.4))
            painter.setBrush(theme.color("torso"))
            painter.drawEllipse(at(seat, length), 4.5, 4.5)
            draw_tag(painter, at(seat, length) + QPointF(-52 if seat > 40 else 56, -16), self.told(), theme)


@guarded
class ReachFloor(_View):
    """A small floor: the standing foot, how far the other heel can be laid down empty, and the step ahead."""

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__(document, theme, tr("Reach on the floor"))

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            theme, body = self._theme, self.body
            painter.fillRect(self.rect(), theme.color("board"))
            outline = reach_outline(body, body.seat, Side.RIGHT)
            low, high = outline.min(axis=0) - 0.12, outline.max(axis=0) + (0.12, 0.30)
            scale = min(self.width() / (high[0] - low[0]), self.height() / (high[1] - low[1]))
            floor = QTransform().translate(self.width() / 2.0, self.height() / 2.0).scale(scale, -scale)
            floor = QTransform().translate(-(high[0] + low[0]) / 2.0, -(high[1] + low[1]) / 2.0) * floor
            support = FootPose(0.0, 0.0, 0.0, Contact.FLAT)
            painter.setBrush(theme.color("ghost", 0.12))
            painter.setPen(QPen(theme.color("ghost"), 1.4, Qt.PenStyle.DotLine))
            painter.drawPolygon((foot_transform(support) * floor).map(polygon(outline)))
            width = round(body.named_width("shoulder"), 3)
            length = self.longest
            draw_sole(painter, floor, body.sole, Side.RIGHT, support, 1.0, theme)
            draw_sole(painter, floor, body.sole, Side.LEFT, FootPose(-width, length, 0.0, Contact.HEEL), 0.0, theme)
            say = self._document.session.say
            start, end = floor.map(QPointF(-width, 0.0)), floor.map(QPointF(-width, length))
            painter.setPen(QPen(theme.color("torso"), 1.4))
            painter.drawLine(start, end)
            draw_tag(painter, (start + end) / 2.0 - QPointF(34, 0), say.length(length), theme)


def figures(document: Document) -> str:
    """Widths and scale readings as rich text."""
    body, say = document.form.body, document.session.say
    widths = " · ".join(
        f"{named.width(name)}: {say.length(body.named_width(name))}" for name in ("together", "hip", "shoulder")
    )
    cells = "".join(f"<td align='right'>{percent(share)}&nbsp;&nbsp;</td>" for share in (10, 30, 50, 70, 90))
    masses = [tr("{mass} kg", mass=number(body.scale_reading(p), 0)) for p in (10, 30, 50, 70, 90)]
    reads = "".join(f"<td align='right'><b>{each}</b>&nbsp;&nbsp;</td>" for each in masses)
    apart, shows = tr("Heels apart"), tr("A scale under one foot shows")
    level = tr("The other foot must stand equally high: a few centimetres shift the reading.")
    return (
        f"<p><b>{apart}</b><br>{widths}</p><p><b>{shows}</b></p>"
        f"<table cellpadding='2'><tr>{cells}</tr><tr>{reads}</tr></table>"
        f"<p>{level}</p>"
    )
