"""What a figure is measured by: the plumb line into the support, knees over toes, the trunk against upright; and what
is found wrong with it, where it is."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPen

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.figure import Figure
from waltzmark.core.body.pose import Pose
from waltzmark.core.judge.finding import SEVERITIES, Finding
from waltzmark.core.walk.motion import centre_of
from waltzmark.core.walk.pelvis import CARRIES
from waltzmark.desktop.painter.figure import Looking
from waltzmark.desktop.painter.judgement import against
from waltzmark.desktop.painter.marks import draw_severity, draw_tag
from waltzmark.desktop.theme import Theme
from waltzmark.words.figures import Figures

__all__ = ["draw_bearings", "draw_told", "joint_of"]

#: Shares of the mass of trunk and leg, and where their centres are: `core.body.mass`.
_TRUNK, _LEG, _TRUNK_UP, _LEG_DOWN = 0.678, 0.161, 0.18, 0.447
#: Degrees from the way one looks from which a knee is seen over its toes.
_FROM_ASIDE = 40.0

#: The joint that findings of a rule are about, or of its family; those of a foot are at its ankle.
_WHERE = {
    "knee": "knee",
    "trunk": "neck",
    "hip": "waist",
    "waist": "waist",
    "gaze": "head",
    "hand": "hand",
    "kick": "toe",
    "balance": "pelvis",
    "posture": "neck",
    "split": "pelvis",
}


def draw_bearings(painter: QPainter, looking: Looking, figure: Figure, body: Body, pose: Pose, theme: Theme) -> None:
    """Draws what the body is measured by."""
    painter.save()
    _support(painter, looking, body, pose, theme)
    x, y = centre_of(pose, body)
    centre = np.array([x, y, _centre_height(figure, body)])
    top, foot = looking.point(centre), looking.point(np.array([x, y, 0.0]))
    painter.setPen(QPen(theme.color("centre"), 1.5, Qt.PenStyle.DashLine))
    painter.drawLine(top, foot)
    painter.setPen(QPen(theme.color("paper"), 1.2))
    painter.setBrush(theme.color("centre"))
    painter.drawEllipse(foot, 4.0, 4.0)
    for side in SIDES:
        _toe_line(painter, looking, figure, body, pose, side, theme)
    _upright(painter, looking, figure, body, theme)
    painter.restore()


def _centre_height(figure: Figure, body: Body) -> float:
    """How high the centre of mass is, metres: trunk and legs by their shares."""
    pelvis, neck = figure.joint("pelvis")[0, 2], figure.joint("neck")[0, 2]
    trunk = pelvis + (neck - pelvis) * _TRUNK_UP / 0.288
    legs = 0.0
    for side in ("left", "right"):
        hip, ankle = figure.joint(f"{side} hip")[0, 2], figure.joint(f"{side} ankle")[0, 2]
        legs += _LEG * (hip + (ankle - hip) * _LEG_DOWN)
    return float(_TRUNK * trunk + legs)


def _support(painter: QPainter, looking: Looking, body: Body, pose: Pose, theme: Theme) -> None:
    """The strip of floor that the body stands on, as far as it is seen from here."""
    ends: list[float] = []
    for side in SIDES:
        foot, patch = pose.foot(side), body.sole.patch(side, pose.foot(side).contact)
        if patch is not None and pose.share(side) > CARRIES:
            on = body.sole.placed(patch, foot.x, foot.y, foot.heading)
            flat = looking.flat(np.concatenate([on, np.zeros((len(on), 1))], axis=1))
            ends += [float(flat[:, 0].min()), float(flat[:, 0].max())]
    if ends:
        painter.setPen(QPen(theme.color("good", 0.85), 5.0, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        painter.drawLine(QLineF(min(ends), looking.y + 2.5, max(ends), looking.y + 2.5))


def _toe_line(
    painter: QPainter, looking: Looking, figure: Figure, body: Body, pose: Pose, side: Side, theme: Theme
) -> None:
    """Up from the toe tip to the height of the knee, where the foot carries and is seen from aside."""
    foot = pose.foot(side)
    off = abs(heading_difference(looking.heading, foot.heading))
    if foot.contact is not Contact.FLAT or pose.share(side) < 0.3 or not _FROM_ASIDE < off < 180.0 - _FROM_ASIDE:
        return
    name = "left" if side is Side.LEFT else "right"
    knee, toe = figure.joint(f"{name} knee")[0], figure.joint(f"{name} toe")[0]
    at, over = looking.point(toe), looking.point(np.array([toe[0], toe[1], knee[2]]))
    color = theme.color("left" if side is Side.LEFT else "right")
    painter.setPen(QPen(color, 1.3, Qt.PenStyle.DotLine))
    painter.drawLine(at, over)
    painter.setPen(QPen(color, 1.6))
    painter.drawLine(over, looking.point(knee))


def _upright(painter: QPainter, looking: Looking, figure: Figure, body: Body, theme: Theme) -> None:
    """Straight up from the hips, where the trunk leans away from that."""
    pelvis, neck = figure.joint("pelvis")[0], figure.joint("neck")[0]
    away = float(np.hypot(*(neck - pelvis)[:2]))
    if away < 0.02 * body.stature:
        return
    painter.setPen(QPen(theme.color("faint"), 1.2, Qt.PenStyle.DashLine))
    top = pelvis + np.array([0.0, 0.0, 0.32 * body.stature])
    painter.drawLine(looking.point(pelvis), looking.point(top))
    painter.setPen(QPen(theme.color("torso"), 1.6))
    painter.drawLine(looking.point(pelvis), looking.point(neck))


def joint_of(finding: Finding) -> str:
    """The joint that a finding is about."""
    family = finding.rule.partition(".")[0]
    name = _WHERE.get(family, "ankle")
    sided = name in ("knee", "hand", "toe", "ankle")
    if not sided:
        return name
    if finding.side is None:
        return "pelvis"
    return f"{'left' if finding.side is Side.LEFT else 'right'} {name}"


def _wanted(painter: QPainter, looking: Looking, figure: Figure, finding: Finding, theme: Theme) -> None:
    """Where a knee, or the trunk, would be as far as its rule lets it go."""
    if finding.limit is None:
        return
    painter.setPen(QPen(theme.color(finding.severity, 0.9), 2.0, Qt.PenStyle.DashLine))
    if finding.rule == "knee.past-toe" and finding.side is not None:
        name = "left" if finding.side is Side.LEFT else "right"
        knee, toe, ball = (figure.joint(f"{name} {each}")[0] for each in ("knee", "toe", "ball"))
        way = (toe - ball) / max(float(np.hypot(*(toe - ball)[:2])), 1e-9)
        edge = toe + finding.limit / 100.0 * way
        ends = (np.array([edge[0], edge[1], knee[2] + away]) for away in (-0.10, 0.10))
        painter.drawLine(*map(looking.point, ends))
    elif finding.rule == "trunk.lean":
        pelvis, neck = figure.joint("pelvis")[0], figure.joint("neck")[0]
        long, back = float(np.linalg.norm(neck - pelvis)), -1.0 if finding.kind.endswith(".back") else 1.0
        way = np.radians(figure.chests[0])
        lean = back * np.radians(finding.limit)
        ahead = np.array([np.sin(way) * np.sin(lean), np.cos(way) * np.sin(lean), np.cos(lean)])
        painter.drawLine(looking.point(pelvis), looking.point(pelvis + long * ahead))


def draw_told(
    painter: QPainter,
    looking: Looking,
    figure: Figure,
    findings: Iterable[Finding],
    say: Figures,
    theme: Theme,
    within: QRectF,
) -> None:
    """Marks what is found at the joint that it is about; the gravest of each with what was measured."""
    at: dict[str, list[Finding]] = {}
    for finding in findings:
        at.setdefault(joint_of(finding), []).append(finding)
    tags: list[QPointF] = []
    for name, here in at.items():
        here.sort(key=lambda each: SEVERITIES[each.severity])
        place = looking.point(figure.joint(name)[0])
        for finding in here:
            _wanted(painter, looking, figure, finding, theme)
        for number, finding in enumerate(here):
            draw_severity(painter, place + QPointF(15.0 * number, 0.0), 13.0, finding.severity, theme)
        if here[0].measured is not None:
            over = looking.point(figure.joint("crown")[0]) if name in ("neck", "head") else place
            tag = QPointF(place.x(), over.y() - 19.0)
            while any(abs(tag.x() - other.x()) < 116.0 and abs(tag.y() - other.y()) < 18.0 for other in tags):
                tag += QPointF(0.0, -20.0)  # above one that lies there
            tags.append(tag)
            draw_tag(painter, tag, against(here[0], say), theme, here[0].severity, within)
