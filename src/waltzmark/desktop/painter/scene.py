"""One frame of the floor: trail, path of the centre, clock, arcs, feet and findings, over the ground."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath, QPen, QPolygonF, QTransform

from waltzmark.core.base.angles import ahead, heading_difference, rightward
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.foot import LANDMARKS, Sole
from waltzmark.core.body.mass import TRUNK
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.judge.finding import SEVERITIES, Finding
from waltzmark.core.walk.annotations import hands_at, kicks_at
from waltzmark.core.walk.figures import raised_at
from waltzmark.core.walk.ground import PIVOT, STEP
from waltzmark.core.walk.motion import centre_of, swing_of
from waltzmark.core.walk.pelvis import pelvis_of
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.painter.marks import (
    draw_arc,
    draw_clock,
    draw_hand,
    draw_kick,
    draw_severity,
    draw_tag,
    draw_torso,
    severity_mark,
)
from waltzmark.desktop.painter.soles import draw_sole, draw_sole_outline
from waltzmark.desktop.painter.tracks import draw_track
from waltzmark.desktop.theme import Theme
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import number, percent, tr

__all__ = [
    "CLOCK_RADIUS",
    "Overlays",
    "Scene",
    "draw_findings",
    "draw_former_feet",
    "draw_former_path",
    "draw_ghost",
    "draw_path",
    "draw_scene",
    "draw_trail",
    "trail",
]

_TRAIL = 9
_APART = 12.0  # pixels at which the marks of findings can be told apart
_SWING = np.linspace(0.0, 1.0, 16)  # the moments of a step that its path is drawn through
#: Radius of the clock about the body, metres.
CLOCK_RADIUS = 0.62


class Overlays(Record):
    """What of the judgement is shown at every count."""

    support: bool = False
    reach: bool = False
    hips: bool = False


class Scene(Record):
    """What a frame shows. fraction: how much of the row's count has been walked."""

    trace: Trace
    row: int
    fraction: float
    pose: Pose
    findings: tuple[Finding, ...] = ()
    chosen: Finding | None = None
    say: Figures = PLAIN

    @property
    def torso_before(self) -> float:
        """Where the torso faced when the count began: 12 of the own clock."""
        return float(self.trace.torso[max(self.row - 1, 0)])


def trail(trace: Trace, row: int, most: int = _TRAIL) -> list[tuple[Side, FootPose]]:
    """Where the feet stood before the count of a row, the newest first, each place once."""
    found: list[tuple[Side, FootPose]] = []
    for at in range(row - 1, -1, -1):
        moved = trace.move_kinds[at + 1]
        for side in SIDES:
            if moved[side] == STEP or (moved[side] == PIVOT and abs(trace.move_turns[at + 1, side]) > 1.0):
                found.append((side, trace.pose(at).foot(side)))
                if len(found) == most:
                    return found
    return found


def draw_trail(
    painter: QPainter, floor: QTransform, sole: Sole, feet: list[tuple[Side, FootPose]], theme: Theme
) -> None:
    """Draws where the feet were, the newest first in *feet*, fading."""
    for age, (side, foot) in enumerate(reversed(feet), 1):
        draw_sole_outline(painter, floor, sole, side, foot, theme, 0.10 + 0.38 * age / len(feet))


def draw_scene(painter: QPainter, floor: QTransform, scene: Scene, theme: Theme) -> None:
    """Draws what moves. *floor*: from the floor frame in metres to pixels."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    trace, sole = scene.trace, scene.trace.body.sole
    _draw_walked(painter, floor, scene, theme)
    x, y = centre_of(scene.pose, trace.body)
    draw_clock(painter, floor, (x, y), CLOCK_RADIUS, scene.say, scene.torso_before, theme)
    if scene.row and scene.fraction > 0:
        for side in SIDES:
            _draw_move(painter, floor, trace, scene.row, scene.fraction, scene.say, side, theme)
    standing = sorted(Side, key=lambda s: scene.pose.foot(s).contact is Contact.AIR)
    # At the end of a count; on the way a light heel is on its way too.
    up = raised_at(trace, scene.row) if scene.fraction >= 1.0 else (0.0, 0.0)
    for side in standing:
        draw_sole(painter, floor, sole, side, scene.pose.foot(side), scene.pose.share(side), theme, up=up[side])
    chest = _chest(trace, scene.pose)
    draw_torso(painter, floor, *chest, scene.pose.torso, trace.body.shoulder_breadth, theme)
    _draw_annotations(painter, floor, scene, chest, theme)
    centre = floor.map(QPointF(x, y))
    painter.setPen(QPen(theme.color("paper"), 1.5))
    painter.setBrush(theme.color("centre"))
    painter.drawEllipse(centre, 4.5, 4.5)


def _draw_annotations(
    painter: QPainter, floor: QTransform, scene: Scene, centre: tuple[float, float], theme: Theme
) -> None:
    """Hands from the shoulders, and a sight line where the eyes leave the torso's facing."""
    pose, half = scene.pose, scene.trace.body.shoulder_breadth / 2.0
    vx, vy = rightward(pose.torso)
    if scene.fraction >= 1.0:
        for kick in kicks_at(scene.trace, scene.row):
            draw_kick(painter, floor, _hip(scene.trace, pose, kick.side), kick, theme)
        for hand in hands_at(scene.trace, scene.row):
            reach = hand.side.sign * half
            shoulder = (centre[0] + reach * vx, centre[1] + reach * vy)
            draw_hand(painter, floor, centre, shoulder, hand, theme)
    if abs(heading_difference(pose.torso, pose.gaze)) > 0.5:
        ux, uy = ahead(pose.gaze)
        painter.setPen(QPen(theme.color("torso", 0.8), 1.2, Qt.PenStyle.DashDotLine))
        ends = (floor.map(QPointF(centre[0] + far * ux, centre[1] + far * uy)) for far in (0.12, 0.5))
        painter.drawLine(*ends)


def _chest(trace: Trace, pose: Pose) -> tuple[float, float]:
    """Where the shoulders are above the floor, metres: over the pelvis, and ahead of it where the trunk leans."""
    x, y, _ = pelvis_of(trace.body, pose)
    ux, uy = ahead(pose.torso)
    far = TRUNK * trace.body.stature * math.sin(math.radians(pose.lean))
    return x + far * ux, y + far * uy


def _hip(trace: Trace, pose: Pose, side: Side) -> tuple[float, float]:
    """Where a hip joint is on the floor, metres."""
    x, y, heading = pelvis_of(trace.body, pose)
    vx, vy = rightward(heading)
    half = side.sign * trace.body.hip_spacing / 2.0
    return x + half * vx, y + half * vy


def draw_path(painter: QPainter, floor: QTransform, view: QRectF, centres: Floats, theme: Theme) -> None:
    """The path of the centre through the whole walk, faint; only what is in view.

    A pen of one pixel that cannot be seen through, which Qt draws quickly: strokes of thousands of crossing segments
    are slow otherwise.
    """
    painter.setPen(QPen(theme.laid("centre", "board", 0.42), 1.0))
    draw_track(painter, floor, view, centres)


def draw_former_path(painter: QPainter, floor: QTransform, view: QRectF, centres: Floats, theme: Theme) -> None:
    """Where what follows an edit was walked before it: the path dotted."""
    painter.setPen(QPen(theme.laid("ghost", "board", 0.6), 1.0, Qt.PenStyle.DotLine))
    draw_track(painter, floor, view, centres)


def draw_former_feet(painter: QPainter, floor: QTransform, before: Trace, row: int, theme: Theme) -> None:
    """Where the feet stood in a row before an edit."""
    for side in SIDES:
        draw_sole_outline(painter, floor, before.body.sole, side, before.pose(row).foot(side), theme, 0.4, dashed=True)


def _draw_walked(painter: QPainter, floor: QTransform, scene: Scene, theme: Theme) -> None:
    """The path of the centre within the present posture, as far as it has been walked."""
    if scene.row == 0:
        return
    first = int(scene.trace.starts[int(scene.trace.passage_of[scene.row])]) - 1
    walked = [floor.map(QPointF(x, y)) for x, y in scene.trace.centres[first : scene.row].tolist()]
    walked.append(floor.map(QPointF(*centre_of(scene.pose, scene.trace.body))))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(theme.laid("centre", "board", 0.7), 2.0))
    painter.drawPolyline(QPolygonF(walked))


def _draw_move(
    painter: QPainter,
    floor: QTransform,
    trace: Trace,
    row: int,
    fraction: float,
    say: Figures,
    side: Side,
    theme: Theme,
    figures: bool = True,
) -> None:
    """How a foot moves in this count: the arc of a pivot about its point, or the curve of a swing."""
    move, before, after = trace.move(row, side), trace.pose(row - 1).foot(side), trace.pose(row).foot(side)
    role = "right" if side else "left"
    if move.kind == PIVOT and abs(move.turn) > 0.5:
        painter.save()
        draw_sole_outline(painter, floor, trace.body.sole, side, before, theme, 0.45)
        if fraction < 1.0:
            draw_sole_outline(painter, floor, trace.body.sole, side, after, theme, 0.45, dashed=True)
        on_heel = abs(move.x - before.x) + abs(move.y - before.y) < 1e-6
        start = before.heading if on_heel else before.heading + 180.0
        reach = (LANDMARKS["toe"] + 0.16 if on_heel else LANDMARKS["ball"] + 0.30) * trace.body.sole.of(side)
        by, to = number(abs(move.turn), 0), say.toward(after.heading, float(trace.torso[row - 1]))
        inward = (move.turn > 0) == (side is Side.LEFT)
        label = (
            tr("{turn}° in to {facing}", turn=by, facing=to)
            if inward
            else tr("{turn}° out to {facing}", turn=by, facing=to)
        )
        load = max(trace.pose(row - 1).share(side), trace.pose(row).share(side))
        if load > 0.005:
            label = tr("{turn}, carrying {load}", turn=label, load=percent(100 * load))
        draw_arc(painter, floor, (move.x, move.y), start, move.turn, reach, theme, role, label if figures else "")
        painter.restore()
    elif move.kind == STEP:
        path = QPainterPath(floor.map(QPointF(before.x, before.y)))
        path.quadTo(floor.map(QPointF(move.x, move.y)), floor.map(QPointF(after.x, after.y)))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        slides = move.contact != Contact.AIR
        pen = (2.4, Qt.PenStyle.SolidLine) if slides else (1.6, Qt.PenStyle.DashLine)
        painter.setPen(QPen(theme.color(role), *pen))
        painter.drawPath(path)
        if fraction < 1.0:
            draw_sole_outline(painter, floor, trace.body.sole, side, after, theme, 0.5, dashed=True)


def draw_findings(painter: QPainter, floor: QTransform, view: QRectF, scene: Scene, theme: Theme) -> None:
    """A mark on the floor where each finding is, beside the feet it is about. Where marks would cover each other the
    gravest is drawn; only what is in view is."""
    findings = [f for f in scene.findings if f.row != scene.row and f != scene.chosen]
    if findings:
        at = _finding_places(scene.trace, findings) @ np.array([[floor.m11(), floor.m12()], [floor.m21(), floor.m22()]])
        at += (floor.dx(), floor.dy())
        inside = (
            (at[:, 0] > view.left()) & (at[:, 0] < view.right()) & (at[:, 1] > view.top()) & (at[:, 1] < view.bottom())
        )
        marks: dict[tuple[int, int], int] = {}
        for nth in np.flatnonzero(inside).tolist():
            near = (int(at[nth, 0] / _APART), int(at[nth, 1] / _APART))
            known = marks.get(near)
            if known is None or SEVERITIES[findings[nth].severity] < SEVERITIES[findings[known].severity]:
                marks[near] = nth
        ratio = painter.device().devicePixelRatio()
        for nth in marks.values():
            mark = severity_mark(13, findings[nth].severity, theme, ratio)
            half = mark.deviceIndependentSize() / 2.0
            painter.drawPixmap(round(at[nth, 0] - half.width()), round(at[nth, 1] - half.height()), mark)
    here = [f for f in scene.findings if f.row == scene.row or f == scene.chosen]
    if here:
        for finding, place in zip(here, _finding_places(scene.trace, here).tolist(), strict=True):
            draw_severity(painter, floor.map(QPointF(*place)), 19, finding.severity, theme)


def _finding_places(trace: Trace, findings: list[Finding]) -> Floats:
    """(n, 2) a little behind the heel of the foot each is about, else between the feet; metres."""
    rows = np.array([f.row for f in findings])
    sides = np.array([-1 if f.side is None else int(f.side) for f in findings])
    angle = np.radians(trace.headings[rows, np.maximum(sides, 0)])
    behind = 2.2 * LANDMARKS["back"] * trace.body.foot_length
    foot = trace.heels[rows, np.maximum(sides, 0)] + behind * np.stack([np.sin(angle), np.cos(angle)], axis=-1)
    return np.asarray(np.where(sides[:, None] < 0, trace.midpoints[rows], foot))


def draw_ghost(
    painter: QPainter, floor: QTransform, trace: Trace, row: int, say: Figures, theme: Theme, figures: bool
) -> None:
    """Where the feet would be after the count being typed or dragged, a row of its own trace, and with which shares.

    figures: whether it says them; a hand that drags does so itself.
    """
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    before, pose = trace.pose(row - 1), trace.pose(row)
    for side in SIDES:
        foot = pose.foot(side)
        moved = trace.move_kinds[row, side] or foot.contact != before.foot(side).contact
        poured = abs(pose.share(side) - before.share(side)) > 0.005
        if moved or poured:
            draw_sole(painter, floor, trace.body.sole, side, foot, pose.share(side), theme, opacity=0.55)
        if trace.move_kinds[row, side] == PIVOT:
            _draw_move(painter, floor, trace, row, 1.0, say, side, theme, figures)
        elif trace.move_kinds[row, side] == STEP:
            move = trace.move(row, side)
            swung = swing_of(before.foot(side), foot, move, _SWING)
            painter.setPen(QPen(theme.color("ghost"), 1.6, Qt.PenStyle.DashLine))
            painter.drawPolyline(floor.map(QPolygonF([QPointF(x, y) for x, y in swung.tolist()])))
        if poured and figures:
            at = floor.map(QPointF(*trace.body.sole.landmark(foot.x, foot.y, foot.heading, "toe", side)))
            draw_tag(painter, at + QPointF(0, -12), percent(100 * pose.share(side)), theme, "ghost")
    for kick in kicks_at(trace, row):
        draw_kick(painter, floor, _hip(trace, pose, kick.side), kick, theme)
    if abs(pose.torso - before.torso) > 0.5 or abs(pose.lean - before.lean) > 0.5:
        draw_torso(painter, floor, *_chest(trace, pose), pose.torso, trace.body.shoulder_breadth, theme, "ghost")
