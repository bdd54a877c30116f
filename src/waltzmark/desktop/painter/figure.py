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
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.records import Record, replace
from waltzmark.core.body.body import Body
from waltzmark.core.body.figure import JOINTS, Figure
from waltzmark.core.body.foot import LANDMARKS, Sole
from waltzmark.core.body.pose import Pose
from waltzmark.desktop.painter.soles import draw_sole
from waltzmark.desktop.painter.tracks import polygons
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
_ARM = 3  # limbs of an arm; the others are of the leg
_CHEST_ENDS, _HIP_ENDS = ([JOINTS[f"{side} {name}"] for side in ("left", "right")] for name in ("shoulder", "hip"))
#: Half breadths of the trunk, in statures: at both shoulders, at both ends of the waist and at the collar, for the
#: outside and the inside; then at both hips, at the waist and at the pelvis.
_TRUNK = np.repeat(np.array([[0.032, 0.032, 0.056, 0.056, 0.042], [0.050, 0.050, 0.056, 0.056, 0.066]]), 2, axis=0)
_SOLES = ("heel", "ball", "toe", "ankle")
_FEET = np.array([[JOINTS[f"{side} {name}"] for name in _SOLES] for side in ("left", "right")])
#: Corners of a foot: its joint of these, whether it lies at the back of the heel, breadths of a foot to
#: the inside and heights of an ankle up from there, square to the sole, and heights straight up.
_CORNERS, _AT_BACK, _ASIDE, _UP, _ABOVE = np.array(
    [
        (0, 1, 0.0, 0.0, 0.0),
        (0, 1, 0.0, 0.9, 0.0),
        *(
            (joint, 0, sign * aside, up, above)
            for joint, aside, up, above in (
                (0, 0.33, 0.0, 0.0),
                (1, 0.48, 0.0, 0.0),
                (1, 0.40, 0.42, 0.0),
                (3, 0.30, 0.25, 0.0),
                (2, 0.24, 0.0, 0.0),
                (2, 0.20, 0.0, 0.24),
            )
            for sign in (-1.0, 1.0)
        ),
    ]
).T
_CORNERS = _CORNERS.astype(np.int64)
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


class _Shape(NamedTuple):
    """A shape as it is painted; its outline is what is left of a larger one under it: that takes half the time."""

    outside: QPainterPath
    inside: QPainterPath
    hatching: list[QLineF]


def draw_figure(
    painter: QPainter, looking: Looking, figure: Figure, body: Body, theme: Theme, line: float = 1.3
) -> None:
    """Draws the first figure of some. line: pixels of its outlines."""
    joints, high = figure.joints[0], body.stature
    flat, depth = looking.flat(joints), looking.depth(joints)
    trunk = float(depth[JOINTS["waist"]])
    cuts = limbs(flat[_ENDS_OF[:, 0]], flat[_ENDS_OF[:, 1]], _BREADTHS * high * looking.scale, line)
    neck, limb = len(cuts) - 1, len(_LIMBS)
    cuts += _feet(looking, joints, body, line)
    feet = (neck + 1 + Side.LEFT, neck + 1 + Side.RIGHT)
    left = [*range(limb * Side.LEFT, limb * (Side.LEFT + 1)), feet[Side.LEFT]]
    shapes = _shapes([*cuts, *_trunk(looking, flat, high, line)], left, 4.2 * line)
    parts: list[tuple[float, Side, list[_Shape]]] = []
    for side in SIDES:
        arm, leg = shapes[limb * side : limb * side + _ARM], shapes[limb * side + _ARM : limb * (side + 1)]
        away = depth[_CHAINS[side]].tolist()
        parts += [(sum(away[:2]) / 2.0, side, arm), (sum(away[2:]) / 3.0, side, [*leg, shapes[feet[side]]])]
    # A hand's breadth behind the middle of the trunk a limb is a far one.
    faint, ordered = trunk + 0.03 * high, sorted(parts, key=lambda part: -part[0])
    for off, side, limbs_ in ordered:
        if off > trunk:
            _lay(painter, limbs_, side, theme, _FAINT if off > faint else 1.0, line)
    ink, paper = theme.color("torso"), theme.laid("torso", "raised", 0.34)
    _fill(painter, [shapes[neck]], ink, paper)
    _fill(painter, shapes[len(cuts) :], ink, paper)
    for off, side, limbs_ in ordered:
        if off <= trunk:
            _lay(painter, limbs_, side, theme, 1.0, line)
    _head(painter, looking, figure, high, theme, line)
    _gaps(painter, looking, figure, theme)


def _lay(painter: QPainter, shapes: list[_Shape], side: Side, theme: Theme, strength: float, line: float) -> None:
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
        if shape.hatching:
            painter.drawLines(shape.hatching)


def _fill(painter: QPainter, shapes: list[_Shape], ink: QColor, paper: QColor) -> None:
    """One shape of several."""
    for shape in shapes:
        painter.fillPath(shape.outside, ink)
    for shape in shapes:
        painter.fillPath(shape.inside, paper)


def _shapes(cuts: list[Cut], hatched: list[int], apart: float) -> list[_Shape]:
    """Cut shapes made ready for painting, some of them with lines over them, so many pixels apart."""
    paths = []
    for each in polygons([points for cut in cuts for points in cut]):
        path = QPainterPath()
        path.addPolygon(each)
        paths.append(path)
    lines = dict(zip(hatched, hatchings([cuts[number].inside for number in hatched], apart), strict=True))
    return [_Shape(paths[2 * n], paths[2 * n + 1], lines.get(n, [])) for n in range(len(cuts))]


def hatchings(shapes: list[Floats], apart: float) -> list[list[QLineF]]:
    """Slanted lines over each of some shapes (n, 2) that are round everywhere, so many pixels apart."""
    sizes = np.array([len(each) for each in shapes])
    points, firsts = np.concatenate(shapes), np.cumsum(sizes) - sizes
    after = np.arange(1, len(points) + 1)
    after[firsts + sizes - 1] = firsts
    # A line x + y = c crosses the rim where that passes c, once on its way in and once on its way out.
    level, of = points[:, 0] + points[:, 1], np.repeat(np.arange(len(shapes)), sizes)
    first, step = np.minimum.reduceat(level, firsts) + apart, 1.4142 * apart
    passed = np.maximum(np.ceil((level - first[of]) / step), 0.0).astype(np.int64)  # how many lines lie below a point
    before, then = passed, passed[after]
    many = np.abs(then - before)
    edge = np.repeat(np.arange(len(points)), many)
    number = np.minimum(before, then)[edge] + np.arange(len(edge)) - np.repeat(np.cumsum(many) - many, many)
    t = (first[of[edge]] + step * number - level[edge]) / (level[after[edge]] - level[edge])
    crossed = points[edge] + t[:, None] * (points[after[edge]] - points[edge])
    order = np.lexsort((edge, number, of[edge]))
    ends = crossed[order].reshape(-1, 4)
    made: list[list[QLineF]] = [[] for _ in shapes]
    for shape, line in zip(of[edge[order[::2]]].tolist(), ends.tolist(), strict=True):
        made[shape].append(QLineF(*line))
    return made


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
    """(…, 36, 2) what goes round circles of radii (…, n) about places (…, n, 2): the point furthest out each way."""
    furthest = (points @ _WAYS.T + radii[..., None]).argmax(axis=-2)
    there = np.take_along_axis(points, furthest[..., None], axis=-2)
    return np.asarray(there + np.take_along_axis(radii, furthest, axis=-1)[..., None] * _WAYS)


def _trunk(looking: Looking, flat: Floats, high: float, line: float) -> list[Cut]:
    """The trunk: chest and hips, with the waist between them."""
    chest, hips = flat[_CHEST_ENDS], flat[_HIP_ENDS]
    waist = flat[JOINTS["waist"]] + 0.5 * (hips - hips.sum(axis=0) / 2.0) + 0.2 * (chest - chest.sum(axis=0) / 2.0)
    tips = ([*chest, *waist, flat[JOINTS["neck"]]], [*hips, *waist, flat[JOINTS["pelvis"]]])
    radii = _TRUNK * high * looking.scale
    outline = line * np.array([[0.5], [-0.5], [0.5], [-0.5]])
    made = around(np.array([each for each in tips for _ in (0, 1)]), np.maximum(radii + outline, 0.0))
    return [Cut(made[0], made[1]), Cut(made[2], made[3])]


def _feet(looking: Looking, joints: Floats, body: Body, line: float) -> list[Cut]:
    """The feet, left and right: round heel, ball and toes, and up to the ankle."""
    breadth, tall = body.foot_breadth, body.measure("ankle_height")
    heel, ball = joints[_FEET[:, 0]], joints[_FEET[:, 1]]
    way = ball - heel
    along = way / np.maximum(np.sqrt((way * way).sum(axis=1)), 1e-9)[:, None]
    level = np.stack([along[:, 1], -along[:, 0]], axis=1)
    aside = np.zeros_like(along)
    aside[:, :2] = level / np.maximum(np.sqrt((level * level).sum(axis=1)), 1e-9)[:, None]
    (ax, ay, _), (x, y, z) = aside.T, along.T
    up = np.stack([ay * z, -ax * z, ax * y - ay * x], axis=1)  # square to both
    long = np.array([body.sole.of(side) for side in SIDES])
    back = LANDMARKS["back"] * long[:, None] * along
    places = (
        joints[_FEET[:, _CORNERS]]
        + _AT_BACK[:, None] * back[:, None]
        + (breadth * _ASIDE)[:, None] * aside[:, None]
        + (tall * _UP)[:, None] * up[:, None]
    )
    places[..., 2] += tall * _ABOVE
    round_ = around(looking.flat(places), np.zeros(places.shape[:2]))
    return [Cut(each + line * _WAYS, each) for each in round_]


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
    for side in SIDES:
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
