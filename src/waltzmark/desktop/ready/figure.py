"""The body drawn to its measures, from the front and from above."""

from __future__ import annotations

from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QAccessible, QPainter, QPaintEvent, QPen, QTransform
from PySide6.QtWidgets import QSizePolicy, QWidget

from waltzmark.core.base.leftright import SIDES, Contact
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body, sided
from waltzmark.core.body.figure import Figure
from waltzmark.core.body.mass import TRUNK
from waltzmark.core.body.pose import FootPose
from waltzmark.core.form.form import Form, Opening
from waltzmark.core.walk.figures import Figures
from waltzmark.core.walk.pelvis import Pelvis
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.document import Document
from waltzmark.desktop.guard import guarded, safely
from waltzmark.desktop.painter.figure import Looking, draw_figure
from waltzmark.desktop.painter.hips import arc, draw_pelvis, waist_fan
from waltzmark.desktop.painter.marks import draw_torso
from waltzmark.desktop.painter.soles import draw_sole
from waltzmark.desktop.theme import Theme, font
from waltzmark.desktop.widgets.telling import Telling
from waltzmark.words.language import tr

__all__ = ["BodyFigure"]


@lru_cache(maxsize=8)
def _standing(body: Body) -> Figure:
    """The body upright over feet at shoulder width, the knees as straight as they are let be."""
    form = Form(body=replace(body, knee_bend=1.0), opening=Opening("shoulder"))
    return Figures(walk(form)).at(0, 1.0)


@guarded
class BodyFigure(QWidget):
    """Front and top, with the measures that the walk uses."""

    role = QAccessible.Role.Graphic

    def __init__(self, document: Document, theme: Theme) -> None:
        super().__init__()
        self._document, self._theme = document, theme
        self.setMinimumSize(QSize(260, 280))
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)
        self.setAccessibleName(tr("The body, from the front and from above"))
        Telling(self, self.told, document.form_changed, document.session.figures_changed)
        document.form_changed.connect(safely(self.update))
        document.session.figures_changed.connect(safely(self.update))

    def told(self) -> str:
        """The measures that are drawn."""
        body = self._document.form.body
        measures = (
            tr("shoulders {length}", length=self._say(body.shoulder_breadth)),
            tr("hips {length}", length=self._say(body.hip_breadth)),
            tr("arm {length}", length=self._say(body.measure("arm"))),
            tr("thigh {length}", length=self._say(body.thigh)),
            tr("shank {length}", length=self._say(body.shank)),
            self._foot(),
        )
        return ", ".join(measures)

    def _foot(self) -> str:
        body = self._document.form.body
        lengths = self._say(body.foot_length)
        if body.left_foot and body.left_foot != body.foot_length:
            lengths = tr("left {left}, right {right}", left=self._say(body.left_foot), right=lengths)
        return tr("foot {length} × {breadth}", length=lengths, breadth=self._say(body.foot_breadth))

    def set_theme(self, theme: Theme) -> None:
        self._theme = theme
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        with QPainter(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            body, high = self._document.form.body, self.height()
            front = QRectF(0, 8, self.width(), high * 0.58)
            self._front(painter, front, body)
            self._top(painter, QRectF(0, front.bottom() + 6, self.width(), high - front.bottom() - 12), body)

    def _say(self, metres: float) -> str:
        return self._document.session.say.length(metres)

    def _front(self, painter: QPainter, box: QRectF, body: Body) -> None:
        theme, scale = self._theme, (box.height() - 26) / body.stature
        middle, ground = box.center().x(), box.bottom() - 8

        def at(x: float, y: float) -> QPointF:
            return QPointF(middle + x * scale, ground - y * scale)

        hip = body.measure("ankle_height") + body.shank + body.thigh
        shoulder = hip + TRUNK * body.stature
        half_shoulder, half_hip = body.shoulder_breadth / 2, body.hip_breadth / 2
        painter.setPen(QPen(theme.color("rule"), 1.0))
        painter.drawLine(QPointF(box.left() + 20, ground), QPointF(box.right() - 20, ground))
        looking, figure = Looking(180.0, middle, ground, scale), _standing(body)
        draw_figure(painter, looking, figure, body, theme)
        painter.setPen(QPen(theme.color("paper"), 1.2))
        painter.setBrush(theme.color("torso"))
        for name in ("hip", "knee", "ankle"):
            for side in ("left", "right"):
                painter.drawEllipse(looking.point(figure.joint(f"{side} {name}")[0]), 3.4, 3.4)
        left = middle - (half_shoulder + 0.16) * scale
        self._upright(
            painter, max(left - 92, box.left() + 62), at(0, 0).y(), at(0, body.stature).y(), self._say(body.stature), -1
        )
        right = middle + (half_shoulder + 0.16) * scale
        ankle_y, knee_y, hip_y = (
            at(0, y).y() for y in (body.measure("ankle_height"), body.measure("ankle_height") + body.shank, hip)
        )
        self._upright(painter, right, ankle_y, knee_y, tr("shank {length}", length=self._say(body.shank)), 1)
        self._upright(painter, right, knee_y, hip_y, tr("thigh {length}", length=self._say(body.thigh)), 1)
        self._upright(
            painter,
            right,
            hip_y,
            at(0, shoulder).y(),
            tr("arm {length}", length=self._say(body.measure("arm"))),
            1,
            line=False,
        )
        self._across(
            painter,
            at(0, shoulder).y() - 6,
            at(-half_shoulder, 0).x(),
            at(half_shoulder, 0).x(),
            tr("shoulders {length}", length=self._say(body.shoulder_breadth)),
            8,
        )
        self._across(
            painter,
            at(0, hip).y(),
            at(-half_hip, 0).x(),
            at(half_hip, 0).x(),
            tr("hips {length}", length=self._say(body.hip_breadth)),
            -4,
        )

    def _upright(
        self, painter: QPainter, x: float, low: float, high: float, words: str, side: int, line: bool = True
    ) -> None:
        theme = self._theme
        painter.setPen(QPen(theme.color("faint"), 1.2))
        if line:
            painter.drawLine(QPointF(x, low), QPointF(x, high))
            for y in (low, high):
                painter.drawLine(QPointF(x - 4, y), QPointF(x + 4, y))
        painter.setFont(font(9.5))
        painter.setPen(theme.color("ink"))
        wide = 104.0
        left = x + 8 if side > 0 else x - 8 - wide
        flags = Qt.AlignmentFlag.AlignVCenter | (
            Qt.AlignmentFlag.AlignLeft if side > 0 else Qt.AlignmentFlag.AlignRight
        )
        painter.drawText(QRectF(left, (low + high) / 2 - 10, wide, 20), flags, words)

    def _across(self, painter: QPainter, y: float, left: float, right: float, words: str, aside: float) -> None:
        """A breadth, its words so far to the right of it, or to the left where that is below 0."""
        theme = self._theme
        painter.setPen(QPen(theme.color("faint"), 1.2))
        painter.drawLine(QPointF(left, y), QPointF(right, y))
        for x in (left, right):
            painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        painter.setFont(font(9.5))
        painter.setPen(theme.color("ink"))
        wide = painter.fontMetrics().horizontalAdvance(words) + 4.0
        at = right + aside if aside > 0 else left + 8.0 * aside - wide
        painter.drawText(
            QRectF(at, y - 10, wide, 20), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, words
        )

    def _top(self, painter: QPainter, box: QRectF, body: Body) -> None:
        theme = self._theme
        room = box.adjusted(0, 0, 0, -38)  # the words stand below
        scale = min(room.height() / 0.52, room.width() / 1.1)
        floor = QTransform().translate(room.center().x(), room.center().y() + 0.06 * scale).scale(scale, -scale)
        half = body.named_width("shoulder") / 2
        for side in SIDES:
            foot = FootPose(side.sign * half, -0.06, 0.0, Contact.FLAT)
            draw_sole(painter, floor, body.sole, side, foot, 0.5, theme)
            out, inward = body.hip_range(side)
            low, high = (-out, inward) if side else (-inward, out)
            painter.setPen(QPen(theme.foot(side), 2.4, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
            painter.drawPolyline(arc(floor, foot.x, foot.y, 0.30, -high, -low))
        draw_pelvis(painter, floor, Pelvis(0.0, 0.0, 0.0), body, theme, ray=False)
        draw_torso(painter, floor, 0.0, 0.0, 0.0, body.shoulder_breadth, theme)
        waist_fan(painter, floor, (0.0, 0.0), 0.0, body, theme, 0.20)
        painter.setFont(font(9.5))
        painter.setPen(theme.color("ink"))
        below = QRectF(box.left(), box.bottom() - 20, box.width(), 20)
        painter.drawText(below, Qt.AlignmentFlag.AlignCenter, self._foot())
        waist = [f"{sided(body.waist, side):.0f}°" for side in SIDES]
        turns = waist[0] if waist[0] == waist[1] else tr("{left} left, {right} right", left=waist[0], right=waist[1])
        painter.setPen(theme.color("faint"))
        painter.drawText(
            QRectF(box.left(), box.bottom() - 36, box.width(), 18),
            Qt.AlignmentFlag.AlignCenter,
            tr("waist {turns} to each side; the arcs show the range of the hips", turns=turns),
        )
