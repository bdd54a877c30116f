"""The body seen from somewhere on the floor: a person cut from paper, on a ground line.

Limbs are tapered, the left ones hatched and the right ones plain, as on the floor; what is farther away lies behind
and is fainter. Nothing is drawn larger for being nearer.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from PySide6.QtCore import QLineF, QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen, QPolygonF, QTransform

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record, replace
from waltzmark.core.body.body import Body
from waltzmark.core.body.figure import JOINTS, Figure
from waltzmark.core.body.foot import LANDMARKS, Sole
from waltzmark.core.body.pose import Pose
from waltzmark.desktop.painter.soles import draw_sole
from waltzmark.desktop.painter.tracks import polygon
from waltzmark.desktop.theme import Theme

__all__ = ["ASLANT", "Looking", "draw_figure", "draw_ground"]

#: How much of its depth the floor under a figure shows.
ASLANT = 0.48
#: Half breadths of limbs at both ends, in statures.
_LIMBS = (
    ("shoulder", "elbow", 0.027, 0.020),
    ("elbow", "wrist", 0.020, 0.014),
    ("wrist", "hand", 0.015, 0.009),
    ("hip", "knee", 0.043, 0.030),
    ("knee", "ankle", 0.031, 0.019),
)
_NECK = ("neck", "head", 0.0288, 0.024)
_ENDS_OF = np.array(
    [[JOINTS[f"{side} {name}"] for name in each[:2]] for side in ("left", "right") for each in _LIMBS]
    + [[JOINTS[name] for name in _NECK[:2]]]
)
_BREADTHS = np.array([*(each[2:] for each in _LIMBS * 2), _NECK[2:]])
#: Joints that say how far away an arm is, and a leg, by side.
_CHAINS = [
    [JOINTS[f"{side} {name}"] for name in ("shoulder", "hand", "hip", "knee", "ankle")] for side in ("left", "right")
]
_HEAD = (0.044, 0.062)  # half breadth and half height of the head
#: Half breadths of the trunk, in statures: at the shoulders, at the hips, and along its middle.
_CHEST, _WAIST, _HIPS, _NECK_WIDE, _PELVIS = 0.032, 0.056, 0.050, 0.042, 0.066
#: Ways out from the middle of a round shape, and parts of the way round either end of a limb.
_WAYS = np.stack([each(np.linspace(0.0, 2.0 * math.pi, 36, endpoint=False)) for each in (np.cos, np.sin)], axis=-1)
_BEGINS, _ENDS = np.linspace(0.0, 1.0, 9), np.linspace(0.0, 1.0, 7)
_FAINT = 0.5  # strength of limbs behind the trunk


class Looking(Record):
    """Where a figure is looked at from. heading: the way one looks along, degrees; flip: whether left and right are
    exchanged; x, y: pixels of *at*, the place on the floor (metres) in the middle; scale: pixels a metre."""

    heading: float
    x: float
    y: float
    scale: float
    at: tuple[float, float] = (0.0, 0.0)
    flip: bool = False

    def flat(self, points: Floats) -> Floats:
        """(…, 2) pixels of places in space (…, 3), metres."""
        angle = math.radians(self.heading)
        sign = -1.0 if self.flip else 1.0
        across = (points[..., 0] - self.at[0]) * math.cos(angle) - (points[..., 1] - self.at[1]) * math.sin(angle)
        return np.stack([self.x + sign * self.scale * across, self.y - self.scale * points[..., 2]], axis=-1)

    def depth(self, points: Floats) -> Floats:
        """(…,) metres that places are away from the eye."""
        angle = math.radians(self.heading)
        return np.asarray(points[..., 0] * math.sin(angle) + points[..., 1] * math.cos(angle))

    def holding(self, points: Floats, left: float, right: float) -> Looking:
        """The same, moved or made smaller so far that places in space are between two pixels across."""
        across = self.flat(points)[..., 0]
        low, high = float(across.min()), float(across.max())
        if high - low > right - left:
            less = replace(self, scale=self.scale * (right - left) / (high - low))
            return less.holding(points, left - 0.5, right + 0.5)
        return replace(self, x=self.x + max(left - low, 0.0) - max(high - right, 0.0))

    def point(self, place: Floats) -> QPointF:
        """The pixel of one place in space."""
        x, y = self.flat(place).tolist()
        return QPointF(x, y)


class Cut(NamedTuple):
    """A shape cut from paper: (n, 2) pixels round the outside of its outline, and round the inside."""

    outside: Floats
    inside: Floats


def draw_figure(
    painter: QPainter, looking: Looking, figure: Figure, body: Body, theme: Theme, line: float = 1.3
) -> None:
    """Draws the first figure of some. line: pixels of its outlines."""
    joints, high = figure.joints[0], body.stature
    flat, depth = looking.flat(joints), looking.depth(joints)
    trunk = float(depth[JOINTS["waist"]])
    parts: list[tuple[float, Side, list[Cut]]] = []
    made = limbs(flat[_ENDS_OF[:, 0]], flat[_ENDS_OF[:, 1]], _BREADTHS * high * looking.scale, line)
    for side, name in ((Side.LEFT, "left"), (Side.RIGHT, "right")):
        arm, leg = (made[5 * side + first : 5 * side + last] for first, last in ((0, 3), (3, 5)))
        leg.append(_foot(looking, joints, name, body, side, line))
        away = depth[_CHAINS[side]].tolist()
        parts += [(sum(away[:2]) / 2.0, side, arm), (sum(away[2:]) / 3.0, side, leg)]
    # A hand's breadth behind the middle of the trunk a limb is a far one.
    faint, ordered = trunk + 0.03 * high, sorted(parts, key=lambda part: -part[0])
    for off, side, shapes in ordered:
        if off > trunk:
            _cut(painter, shapes, side, theme, _FAINT if off > faint else 1.0, line)
    _body(painter, looking, flat, made[-1], high, theme, line)
    for off, side, shapes in ordered:
        if off <= trunk:
            _cut(painter, shapes, side, theme, 1.0, line)
    _head(painter, looking, figure, high, theme, line)
    _gaps(painter, looking, figure, theme)


def _cut(painter: QPainter, shapes: list[Cut], side: Side, theme: Theme, strength: float, line: float) -> None:
    """Lays shapes down one over the other, as if cut from paper; nothing shines through. strength: of their colours,
    the rest is the wall behind."""
    wall = theme.color("paper")
    ink, paper = theme.foot(side), theme.foot_pale(side)
    if side is Side.RIGHT:
        paper = theme.laid("right", "right_pale", 0.62)
    ink, paper = _mixed(ink, wall, strength), _mixed(paper, wall, strength)
    painter.setPen(QPen(ink, 0.75 * line))
    for shape in shapes:
        _fill(painter, [shape], ink, paper)
        if side is Side.LEFT:
            painter.drawLines(_hatching(shape.inside, 4.2 * line))


def _fill(painter: QPainter, shapes: list[Cut], ink: QColor, paper: QColor) -> None:
    """One shape of several. Its outline is what is left of a larger one under it: that is drawn in half the time."""
    for points, color in [(each.outside, ink) for each in shapes] + [(each.inside, paper) for each in shapes]:
        path = QPainterPath()
        path.addPolygon(polygon(points))
        painter.fillPath(path, color)


def _hatching(points: Floats, apart: float) -> list[QLineF]:
    """Slanted lines over a shape (n, 2) that is round everywhere, so many pixels apart."""
    after = np.concatenate([points[1:], points[:1]])
    # A line x + y = c crosses the rim where that passes c, once on its way in and once on its way out.
    level, level_after = points[:, 0] + points[:, 1], after[:, 0] + after[:, 1]
    levels = np.arange(level.min() + apart, level.max(), 1.4142 * apart)[:, None]
    rows, at = np.nonzero((level <= levels) != (level_after <= levels))
    if len(rows) != 2 * len(levels):
        return []
    t = (levels[rows, 0] - level[at]) / (level_after[at] - level[at])
    ends = (points[at] + t[:, None] * (after[at] - points[at])).reshape(-1, 4).tolist()
    return [QLineF(*each) for each in ends]


def _mixed(one: QColor, other: QColor, strength: float) -> QColor:
    """A colour between two, so much of the first."""
    if strength >= 1.0:
        return one
    pairs = ((one.red(), other.red()), (one.green(), other.green()), (one.blue(), other.blue()))
    return QColor(*(round(strength * a + (1.0 - strength) * b) for a, b in pairs))


def limbs(ones: Floats, others: Floats, breadths: Floats, line: float) -> list[Cut]:
    """Tapered limbs between places (m, 2), with half their breadths (m, 2) at either, and their outlines; pixels."""
    half, many = line / 2.0, len(ones)
    both = np.concatenate([breadths + half, np.maximum(breadths - half, 0.0)])
    made = _tapered(np.concatenate([ones, ones]), np.concatenate([others, others]), both)
    return [Cut(*each) for each in zip(made[:many], made[many:], strict=True)]


def _tapered(ones: Floats, others: Floats, breadths: Floats) -> list[Floats]:
    """(n, 2) each, what goes round a limb."""
    d, taper = others - ones, breadths[:, 0] - breadths[:, 1]
    length = np.hypot(d[:, 0], d[:, 1])
    round_ = length <= np.abs(taper) + 1e-6
    way = np.arctan2(d[:, 1], d[:, 0])[:, None]
    lean = np.arccos(np.where(round_, 0.0, taper / np.where(round_, 1.0, length)))[:, None]
    first, last = way + lean + (2.0 * math.pi - 2.0 * lean) * _BEGINS, way - lean + 2.0 * lean * _ENDS
    angles = np.concatenate([first, last], axis=1)
    sizes = (len(_BEGINS), len(_ENDS))
    middles, radii = np.repeat(np.stack([ones, others], axis=1), sizes, axis=1), np.repeat(breadths, sizes, axis=1)
    made = list(middles + radii[..., None] * np.stack([np.cos(angles), np.sin(angles)], axis=-1))
    for number in np.flatnonzero(round_).tolist():  # seen from its end
        wide = int(breadths[number].argmax())
        made[number] = (ones, others)[wide][number] + breadths[number, wide] * _WAYS
    return made


def around(points: Floats, radii: Floats) -> Floats:
    """(36, 2) what goes round circles of radii (n,) about places (n, 2): the point furthest out each way."""
    furthest = (_WAYS @ points.T + radii).argmax(axis=1)
    return np.asarray(points[furthest] + radii[furthest, None] * _WAYS)


def _body(painter: QPainter, looking: Looking, flat: Floats, neck: Cut, high: float, theme: Theme, line: float) -> None:
    """Neck and trunk: chest and hips, with the waist between them."""
    ink, paper = theme.color("torso"), theme.laid("torso", "raised", 0.34)
    _fill(painter, [neck], ink, paper)
    hips, chest = (
        np.array([flat[JOINTS[f"{side} {name}"]] for side in ("left", "right")]) for name in ("hip", "shoulder")
    )
    waist = flat[JOINTS["waist"]] + 0.5 * (hips - hips.mean(axis=0)) + 0.2 * (chest - chest.mean(axis=0))
    collar, pelvis = flat[None, JOINTS["neck"]], flat[None, JOINTS["pelvis"]]
    parts = []
    for tips, wide, middle, round_ in ((chest, _CHEST, collar, _NECK_WIDE), (hips, _HIPS, pelvis, _PELVIS)):
        radii = np.repeat([wide, _WAIST, round_], (2, 2, 1)) * high * looking.scale
        places = np.concatenate([tips, waist, middle])
        parts.append(Cut(*(around(places, np.maximum(radii + way * line / 2.0, 0.0)) for way in (1.0, -1.0))))
    _fill(painter, parts, ink, paper)


def _foot(looking: Looking, joints: Floats, name: str, body: Body, side: Side, line: float) -> Cut:
    """A foot: round heel, ball and toes, and up to the ankle."""
    heel, ball, toe, ankle = (joints[JOINTS[f"{name} {each}"]] for each in ("heel", "ball", "toe", "ankle"))
    length, breadth, tall = body.sole.of(side), body.foot_breadth, body.measure("ankle_height")
    along = (ball - heel) / max(float(np.linalg.norm(ball - heel)), 1e-9)
    aside = np.array([along[1], -along[0], 0.0])
    aside /= max(float(np.linalg.norm(aside)), 1e-9)
    up = np.cross(aside, along)
    back = heel + LANDMARKS["back"] * length * along
    corners = [back]
    for sign in (-1.0, 1.0):
        corners += [
            heel + sign * 0.33 * breadth * aside,
            ball + sign * 0.48 * breadth * aside,
            ball + sign * 0.40 * breadth * aside + 0.42 * tall * up,
            ankle + sign * 0.30 * breadth * aside + 0.25 * tall * up,
            toe + sign * 0.24 * breadth * aside,
            toe + sign * 0.20 * breadth * aside + np.array([0.0, 0.0, 0.24 * tall]),
        ]
    corners.append(back + 0.9 * tall * up)
    places = looking.flat(np.array(corners))
    return Cut(*(around(places, np.full(len(places), radius)) for radius in (line, 0.0)))


def _head(painter: QPainter, looking: Looking, figure: Figure, high: float, theme: Theme, line: float) -> None:
    """The head, with a nose the way it faces; from behind the hair is seen instead."""
    at = looking.point(figure.joint("head")[0])
    wide, tall = (each * high * looking.scale for each in _HEAD)
    turn = math.radians(float(figure.faces[0]) - looking.heading)
    aside, toward = math.sin(turn) * (-1.0 if looking.flip else 1.0), -math.cos(turn)
    painter.save()
    painter.setPen(QPen(theme.color("torso"), line))
    painter.setBrush(theme.laid("torso", "raised", 0.20 if toward > -0.3 else 0.48))
    nose = QPainterPath()
    tip = at + QPointF(aside * wide * 1.28, tall * 0.12)
    nose.addPolygon(
        QPolygonF(
            [at + QPointF(aside * wide * 0.85, -tall * 0.16), tip, at + QPointF(aside * wide * 0.80, tall * 0.30)]
        )
    )
    if abs(aside) > 0.25:
        painter.drawPath(nose)
    painter.drawEllipse(at, wide, tall)
    if toward > 0.0:  # some of the face is seen
        painter.setPen(QPen(theme.color("torso"), line))
        middle = at.x() + aside * wide * 0.8
        painter.drawLine(QLineF(middle, at.y() - tall * 0.05, middle + aside * wide * 0.12, at.y() + tall * 0.28))
    painter.restore()


def _gaps(painter: QPainter, looking: Looking, figure: Figure, theme: Theme) -> None:
    """A leg that does not reach ends where it ends; dotted goes on to where its foot should be."""
    for side in Side:
        gap = float(figure.gaps[0, side])
        if gap < 0.005:
            continue
        name = "left" if side is Side.LEFT else "right"
        hip, ankle = (figure.joint(f"{name} {each}")[0] for each in ("hip", "ankle"))
        way = (ankle - hip) / max(float(np.linalg.norm(ankle - hip)), 1e-9)
        painter.setPen(QPen(theme.color("stop"), 2.0, Qt.PenStyle.DotLine))
        painter.drawLine(looking.point(ankle), looking.point(ankle + gap * way))


def draw_ground(painter: QPainter, looking: Looking, rect: QRectF, pose: Pose, sole: Sole, theme: Theme) -> QTransform:
    """The floor from its edge, seen aslant, with both feet under the figure, and a tick every half metre that stays
    where it is. Returns the way from the floor frame to that plan."""
    band = QRectF(rect.left(), looking.y, rect.width(), rect.bottom() - looking.y)
    painter.fillRect(band, theme.color("board"))
    angle = math.radians(looking.heading)
    own = looking.at[0] * math.cos(angle) - looking.at[1] * math.sin(angle)
    sign, step = (-1.0 if looking.flip else 1.0), 0.5
    half = rect.width() / looking.scale / 2.0 + step
    painter.setPen(QPen(theme.color("seam"), 1.0))
    for number in range(math.floor((own - half) / step), math.ceil((own + half) / step) + 1):
        x = looking.x + sign * looking.scale * (number * step - own)
        painter.drawLine(QPointF(x, looking.y), QPointF(x, looking.y + 7.0))
    painter.setPen(QPen(theme.color("seam"), 1.6))
    painter.drawLine(band.topLeft(), band.topRight())
    floor = QTransform()
    floor.translate(looking.x, looking.y + 0.46 * band.height())
    floor.scale(sign, ASLANT)
    floor.rotate(-looking.heading)
    floor.scale(looking.scale, -looking.scale)
    floor.translate(-looking.at[0], -looking.at[1])
    for side in sorted(Side, key=lambda each: pose.foot(each).contact is Contact.AIR):
        draw_sole(painter, floor, sole, side, pose.foot(side), pose.share(side), theme, letter=False)
    return floor
