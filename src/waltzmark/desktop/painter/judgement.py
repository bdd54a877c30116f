"""What a finding is about, drawn on the floor: support and balance, reach, hip turn, widths and loads."""

from __future__ import annotations

import math
from functools import lru_cache

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen, QTransform

from waltzmark.core.base.angles import ahead, heading_difference, rightward
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.body.reach import reach_outline
from waltzmark.core.judge.finding import Finding
from waltzmark.core.walk.motion import centre_of
from waltzmark.core.walk.pelvis import CARRIES, pelvis_of
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.painter.hips import draw_range, draw_room
from waltzmark.desktop.painter.marks import draw_tag
from waltzmark.desktop.painter.scene import Overlays
from waltzmark.desktop.painter.soles import foot_transform
from waltzmark.desktop.painter.tracks import hull, polygon
from waltzmark.desktop.theme import Theme
from waltzmark.words.figures import Figures
from waltzmark.words.language import percent, tr

__all__ = ["against", "draw_finding", "draw_overlays", "draw_reach", "draw_support"]


def draw_overlays(
    painter: QPainter, floor: QTransform, trace: Trace, pose: Pose, shown: Overlays, say: Figures, theme: Theme
) -> None:
    """Draws what is switched on, for a pose of the walk or on the way between two."""
    if shown.reach:
        draw_reach(painter, floor, trace, pose, theme)
    if shown.support:
        margin = draw_support(painter, floor, trace, pose, theme)
        if margin is not None:
            at = floor.map(QPointF(*centre_of(pose, trace.body)))
            draw_tag(painter, at + QPointF(0, 24), tr("{length} to the edge", length=say.length(margin)), theme, "good")
    if shown.hips:
        draw_room(painter, floor, trace.body, pose, pelvis_of(trace.body, pose), theme)


def draw_support(painter: QPainter, floor: QTransform, trace: Trace, pose: Pose, theme: Theme) -> float | None:
    """The hull of what carries, the weak line across the feet, and the margin of the centre to the edge.

    Returns the margin in metres, None where nothing carries."""
    sole, patches = trace.body.sole, []
    for side in SIDES:
        foot, patch = pose.foot(side), trace.body.sole.patch(side, pose.foot(side).contact)
        if patch is not None and pose.share(side) > CARRIES:
            patches.append(sole.placed(patch, foot.x, foot.y, foot.heading))
    if not patches:
        return None
    painter.save()
    outline = hull(np.concatenate(patches))
    shape = floor.map(polygon(outline))
    painter.setBrush(theme.color("good", 0.13))
    painter.setPen(QPen(theme.color("good", 0.9), 1.4))
    painter.drawPolygon(shape)
    centre = np.array(centre_of(pose, trace.body))
    if len(patches) == 2:
        middles = [patch.mean(axis=0) for patch in patches]
        line = middles[1] - middles[0]
        across = np.array([line[1], -line[0]]) / max(float(np.hypot(*line)), 1e-9)
        reach = (outline - centre) @ across
        ends = [centre + across * reach.max(), centre + across * reach.min()]
        painter.setPen(QPen(theme.color("good"), 1.6, Qt.PenStyle.DashLine))
        painter.drawLine(floor.map(QPointF(*ends[0])), floor.map(QPointF(*ends[1])))
    edges = np.roll(outline, -1, axis=0) - outline
    lengths = np.maximum(np.hypot(edges[:, 0], edges[:, 1]), 1e-12)
    away = (edges[:, 0] * (centre[1] - outline[:, 1]) - edges[:, 1] * (centre[0] - outline[:, 0])) / lengths
    nearest = int(away.argmin())
    normal = np.array([edges[nearest, 1], -edges[nearest, 0]]) / lengths[nearest]
    painter.setPen(QPen(theme.color("good"), 2.4))
    painter.drawLine(floor.map(QPointF(*centre)), floor.map(QPointF(*(centre + normal * away[nearest]))))
    painter.restore()
    return float(away[nearest])


def draw_reach(painter: QPainter, floor: QTransform, trace: Trace, pose: Pose, theme: Theme) -> None:
    """How far the empty foot can be laid down, as its heel, about the foot that stands; dotted with what the school
    allows beyond it."""
    for side in SIDES:
        if pose.share(side) > 0.004 or pose.foot(side.other).contact is Contact.AIR:
            continue
        own = foot_transform(pose.foot(side.other)) * floor
        school = trace.ground.school
        slack = school.limit("step.reach", "slack") if school.applies("step.reach") else 0.0
        painter.save()
        painter.setBrush(theme.color("ghost", 0.08))
        for bend, line in ((pose.sink + slack, Qt.PenStyle.DotLine), (pose.sink, Qt.PenStyle.SolidLine)):
            painter.setPen(QPen(theme.color("ghost", 0.8), 1.2, line))
            painter.drawPolygon(own.map(polygon(_reach(trace.body, round(bend, 1), side.other))))
        painter.restore()


@lru_cache(maxsize=64)
def _reach(body: Body, bend: float, side: Side) -> Floats:
    return reach_outline(body, bend, side)


def draw_finding(
    painter: QPainter, floor: QTransform, trace: Trace, finding: Finding, say: Figures, theme: Theme
) -> None:
    """What was measured, between what, against which limit."""
    row = min(finding.row, len(trace) - 1)
    pose, family = trace.pose(row), finding.rule.partition(".")[0]
    if finding.rule in ("stance.narrow", "stance.crossed", "stance.wide"):
        _draw_width(painter, floor, pose, finding, say, theme)
    elif finding.rule in ("step.reach", "stance.long"):
        draw_reach(painter, floor, trace, pose, theme)
        _draw_between(painter, floor, pose.left, pose.right, against(finding, say), finding, theme)
    elif family in ("hip", "waist") or finding.rule == "pivot.hip-range":
        draw_range(painter, floor, trace.body, pose, pelvis_of(trace.body, pose), finding, say, theme)
    elif family == "balance":
        shown = trace.pose(max(row - 1, 0)) if finding.rule == "balance.left" else pose
        draw_support(painter, floor, trace, shown, theme)
        _tag_at_centre(painter, floor, trace, shown, finding, say, theme)
    elif finding.rule == "knee.past-toe" and finding.side is not None:
        foot = pose.foot(finding.side)
        toe = trace.body.sole.landmark(foot.x, foot.y, foot.heading, "toe", finding.side)
        ux, uy = ahead(foot.heading)
        past = (finding.measured or 0.0) / 100
        start, end = floor.map(QPointF(*toe)), floor.map(QPointF(toe[0] + past * ux, toe[1] + past * uy))
        _line(painter, start, end, against(finding, say), finding, theme)
    elif finding.measured is not None and finding.side is not None:
        foot = pose.foot(finding.side)
        at = floor.map(QPointF(*trace.body.sole.landmark(foot.x, foot.y, foot.heading, "toe", finding.side)))
        draw_tag(painter, at + QPointF(0, -16), against(finding, say), theme, finding.severity)
    elif finding.measured is not None:
        _tag_at_centre(painter, floor, trace, pose, finding, say, theme)


def against(finding: Finding, say: Figures) -> str:
    """The measured value against the limit, short."""
    if finding.measured is None:
        return tr("beyond reach")

    def told(value: float) -> str:
        if finding.unit == "cm":
            return say.length(value / 100.0)
        return (
            percent(value)
            if finding.unit == "%"
            else f"{round(value)}{'' if finding.unit == '°' else ' '}{finding.unit}"
        )

    if finding.limit is None:
        return told(finding.measured)
    return tr("{measured} against {limit}", measured=told(finding.measured), limit=told(finding.limit))


def _tag_at_centre(
    painter: QPainter, floor: QTransform, trace: Trace, pose: Pose, finding: Finding, say: Figures, theme: Theme
) -> None:
    at = floor.map(QPointF(*centre_of(pose, trace.body)))
    draw_tag(painter, at + QPointF(0, 24), against(finding, say), theme, finding.severity)


def _draw_width(painter: QPainter, floor: QTransform, pose: Pose, finding: Finding, say: Figures, theme: Theme) -> None:
    """Both heel lines the way that the width was measured, along the facing or the feet, and how far they are apart."""
    along = _measured_along(pose, finding)
    ux, uy = ahead(along)
    painter.save()
    for foot in (pose.left, pose.right):
        painter.setPen(QPen(theme.color(finding.severity, 0.8), 1.2, Qt.PenStyle.DashLine))
        painter.drawLine(
            floor.map(QPointF(foot.x - 0.9 * ux, foot.y - 0.9 * uy)),
            floor.map(QPointF(foot.x + 0.9 * ux, foot.y + 0.9 * uy)),
        )
    painter.restore()
    vx, vy = rightward(along)
    middle = QPointF(*pose.midpoint)
    half = ((pose.right.x - pose.left.x) * vx + (pose.right.y - pose.left.y) * vy) / 2.0
    ends = (floor.map(middle - QPointF(half * vx, half * vy)), floor.map(middle + QPointF(half * vx, half * vy)))
    _line(painter, *ends, against(finding, say), finding, theme)


def _measured_along(pose: Pose, finding: Finding) -> float:
    """The heading across which a width comes to what a finding measured: the stance's facing, or half-way between both
    feet."""
    between = pose.left.heading + heading_difference(pose.left.heading, pose.right.heading) / 2.0

    def off(heading: float) -> float:
        vx, vy = rightward(heading)
        width = (pose.right.x - pose.left.x) * vx + (pose.right.y - pose.left.y) * vy
        return abs(100.0 * width - (finding.measured or 0.0))

    return min((pose.facing, between), key=off)


def _draw_between(
    painter: QPainter, floor: QTransform, one: FootPose, other: FootPose, words: str, finding: Finding, theme: Theme
) -> None:
    _line(painter, floor.map(QPointF(one.x, one.y)), floor.map(QPointF(other.x, other.y)), words, finding, theme)


def _line(painter: QPainter, start: QPointF, end: QPointF, words: str, finding: Finding, theme: Theme) -> None:
    """A measured line with bars at its ends and its figure."""
    painter.save()
    painter.setPen(QPen(theme.color(finding.severity), 2.2))
    painter.drawLine(start, end)
    along = end - start
    length = math.hypot(along.x(), along.y())
    if length > 1:
        bar = QPointF(-along.y(), along.x()) * (6.0 / length)
        for at in (start, end):
            painter.drawLine(at - bar, at + bar)
    painter.restore()
    box = QRectF(start, end).normalized()
    draw_tag(painter, box.center() + QPointF(0, -18), words, theme, finding.severity)
