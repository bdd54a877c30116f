"""The body over its feet as joints in space: what is seen from the side, from behind and from the front.

Closed form, for whole walks: every array has a row for each of n moments, and by side where there are two columns.
Segment lengths as shares of stature: D. A. Winter, *Biomechanics and Motor Control of Human Movement*.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from waltzmark.core.base.angles import heading_differences
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import SIDES
from waltzmark.core.base.records import Record
from waltzmark.core.body.body import Body
from waltzmark.core.body.foot import ANKLE, LANDMARKS
from waltzmark.core.body.mass import TRUNK

__all__ = ["JOINTS", "SIDED", "Arms", "Figure", "Limbs", "figure_of", "hanging"]

#: Joints that there are two of; the left one of each stands before the right one.
SIDED = ("hip", "knee", "ankle", "heel", "ball", "toe", "shoulder", "elbow", "wrist", "hand")
#: Every joint, by the place it has in the arrays.
JOINTS: dict[str, int] = {
    **{
        f"{side} {name}": 2 * at + number
        for at, name in enumerate(SIDED)
        for number, side in enumerate(("left", "right"))
    },
    "pelvis": 2 * len(SIDED),
    "waist": 2 * len(SIDED) + 1,
    "neck": 2 * len(SIDED) + 2,
    "head": 2 * len(SIDED) + 3,
    "crown": 2 * len(SIDED) + 4,
}

#: Shares of stature.
_UPPER_ARM, _FOREARM, _HAND = 0.186, 0.146, 0.108
_WAIST, _HEAD, _CROWN = 0.10, 0.112, 0.182  # up the trunk from the hips; from the shoulders' height to head and crown
#: Degrees that the head turns against the chest, and that an arm goes across the body and outward of it.
_NECK, _ACROSS, _OUTWARD = 70.0, 75.0, 135.0
_BACKWARD = 120.0  # degrees from the hips from which a foot points backward
#: Of an arm: how far it is stretched at the most.
_STRETCHED = 0.98


class Arms(NamedTuple):
    """Where hands are from their shoulders, by side.

    azimuth : (n, 2) degrees from the chest's heading, outward positive
    height : (n, 2) metres above the hips
    stretch : (n, 2) share of the arm's length that is between shoulder and hand
    hangs : (n, 2) how far it hangs at the side instead, 0 to 1
    """

    azimuth: Floats
    height: Floats
    stretch: Floats
    hangs: Floats


class Limbs(NamedTuple):
    """What a figure is made from, in metres and degrees.

    hips, tops : (n, 2, 2), (n, 2) hip joints on the floor, and how high they are
    ankles : (n, 2, 3) ankles in space
    headings, pitches : (n, 2) where the feet point, and how far the heel is up; negative that the toes are
    pelvis, torso, gaze, leans : (n,) headings, and how far the trunk leans the way of the chest
    arms : where the hands are
    """

    hips: Floats
    tops: Floats
    ankles: Floats
    headings: Floats
    pitches: Floats
    pelvis: Floats
    torso: Floats
    gaze: Floats
    leans: Floats
    arms: Arms


class Figure(Record, eq=False):
    """The body at one moment of each of n counts.

    joints: (n, len(JOINTS), 3) metres in the floor frame, z up; gaps: (n, 2) metres that a leg is short of its ankle,
    drawn as far as it goes; faces, chests, pelvises: (n,) headings of head, chest and pelvis, degrees.
    """

    joints: Floats
    gaps: Floats
    faces: Floats
    chests: Floats
    pelvises: Floats

    def joint(self, name: str) -> Floats:
        """(n, 3) one joint, such as ``left knee``."""
        return self.joints[:, JOINTS[name]]


def hanging(number: int) -> Arms:
    """Arms that hang at the sides, for so many moments."""
    return Arms(np.zeros((number, 2)), np.zeros((number, 2)), np.full((number, 2), _STRETCHED), np.ones((number, 2)))


def figure_of(body: Body, limbs: Limbs) -> Figure:
    """The joints of a body, over what it stands on.

    Knees lie in the plane of hip, ankle and the way the foot points, as far as the hip lets it: with m the unit vector
    from ankle to hip, u the pointing on the floor and alpha the angle of the shank to m by the law of cosines, the knee
    is ankle + shank (cos alpha m + sin alpha e) for e = u - (u m)(z + m) / (1 + m_z), which is u turned as z is turned
    to m. A leg that does not reach is straight, and its gap is told.
    """
    number = len(limbs.pelvis)
    joints = np.zeros((number, len(JOINTS), 3))
    hips = np.concatenate([limbs.hips, limbs.tops[..., None]], axis=-1)
    knees, ankles, gaps = _legs(body, hips, limbs)
    _put(joints, "hip", hips)
    _put(joints, "knee", knees)
    _put(joints, "ankle", ankles)
    for name, points in zip(("heel", "ball", "toe"), _soles(body, ankles, limbs), strict=True):
        _put(joints, name, points)
    pelvis = hips.mean(axis=1)
    lean, high = np.radians(limbs.leans), body.stature
    up = np.concatenate([_level(limbs.torso) * np.sin(lean)[:, None], np.cos(lean)[:, None]], axis=-1)
    neck = pelvis + TRUNK * high * up
    joints[:, JOINTS["pelvis"]], joints[:, JOINTS["waist"]] = pelvis, pelvis + _WAIST * high * up
    joints[:, JOINTS["neck"]] = neck
    joints[:, JOINTS["head"]], joints[:, JOINTS["crown"]] = neck + _HEAD * high * up, neck + _CROWN * high * up
    shoulders = _shoulders(body, neck, limbs.torso)
    _put(joints, "shoulder", shoulders)
    for name, points in zip(("elbow", "wrist", "hand"), _arms(body, shoulders, pelvis, limbs), strict=True):
        _put(joints, name, points)
    turned = np.clip(heading_differences(limbs.torso, limbs.gaze), -_NECK, _NECK)
    return Figure(joints, gaps, np.mod(limbs.torso + turned, 360.0), limbs.torso, limbs.pelvis)


def _put(joints: Floats, name: str, points: Floats) -> None:
    first = JOINTS[f"left {name}"]
    joints[:, first : first + 2] = points


def _level(headings: Floats) -> Floats:
    """(…, 2) the way of headings on the floor."""
    angle = np.radians(headings)
    return np.stack([np.sin(angle), np.cos(angle)], axis=-1)


def _flat(headings: Floats) -> Floats:
    """(…, 3) the same in space."""
    way = _level(headings)
    return np.concatenate([way, np.zeros_like(way[..., :1])], axis=-1)


def _pointing(body: Body, limbs: Limbs) -> Floats:
    """(n, 2) headings of the knees: along the foot where the hip turns so far, else as far as it goes."""
    found = np.zeros_like(limbs.headings)
    for side in SIDES:
        out, inward = body.hip_range(side)
        turn = side.sign * heading_differences(limbs.pelvis, limbs.headings[:, side])
        # Where a foot points backward from the hips both ends of the range are as near: there it comes back to between.
        far = np.clip((np.abs(turn) - _BACKWARD) / (180.0 - _BACKWARD), 0.0, 1.0)
        within = np.clip(turn, -inward, out)
        found[:, side] = limbs.pelvis + side.sign * (within + ((out - inward) / 2.0 - within) * far)
    return found


def _legs(body: Body, hips: Floats, limbs: Limbs) -> tuple[Floats, Floats, Floats]:
    """(n, 2, 3) knees and ankles, and (n, 2) gaps."""
    a, b = body.shank, body.thigh
    away = hips - limbs.ankles
    far = np.sqrt((away**2).sum(axis=-1))
    long = np.clip(far, abs(a - b) + 1e-6, a + b)
    m = away / np.maximum(far, 1e-9)[..., None]
    ankles = hips - long[..., None] * m
    u = _flat(_pointing(body, limbs))
    across = (u * m).sum(axis=-1)
    e = u - (across / np.maximum(1.0 + m[..., 2], 1e-6))[..., None] * (m + (0.0, 0.0, 1.0))
    cos = np.clip((a * a + long**2 - b * b) / (2 * a * long), -1.0, 1.0)
    knees = ankles + a * (cos[..., None] * m + np.sqrt(1.0 - cos**2)[..., None] * e)
    return knees, ankles, np.maximum(far - long, 0.0)


def _soles(body: Body, ankles: Floats, limbs: Limbs) -> tuple[Floats, Floats, Floats]:
    """(n, 2, 3) heels, balls and toe tips.

    The sole is turned by its pitch about the ankle; the toes are flat where the floor is under them.
    """
    lengths = np.array([body.sole.of(side) for side in SIDES])
    high, pitch = body.measure("ankle_height"), np.radians(limbs.pitches)
    cos, sin, way = np.cos(pitch), np.sin(pitch), _flat(limbs.headings)

    def place(along: float) -> Floats:
        ahead = (along - ANKLE) * lengths
        x, z = ahead * cos - high * sin, -ahead * sin - high * cos
        return np.asarray(ankles + x[..., None] * way + z[..., None] * np.array([0.0, 0.0, 1.0]))

    heel, ball = place(LANDMARKS["heel"]), place(LANDMARKS["ball"])
    toes = (LANDMARKS["toe"] - LANDMARKS["ball"]) * lengths
    down = np.minimum(toes * sin, np.maximum(ball[..., 2], 0.0))
    ahead = np.sqrt(np.maximum(toes**2 - down**2, 0.0))
    toe = ball + ahead[..., None] * way
    toe[..., 2] -= down
    return heel, ball, toe


def _shoulders(body: Body, neck: Floats, torso: Floats) -> Floats:
    across = np.concatenate([_level(torso + 90.0), np.zeros((len(torso), 1))], axis=-1) * (body.shoulder_breadth / 2.0)
    return np.stack([neck - across, neck + across], axis=1)


def _arms(body: Body, shoulders: Floats, pelvis: Floats, limbs: Limbs) -> tuple[Floats, Floats, Floats]:
    """(n, 2, 3) elbows, wrists and finger tips: two links that bend down, or back where the arm hangs."""
    arm = body.measure("arm")
    scale = arm / (_UPPER_ARM + _FOREARM + _HAND)
    upper, lower = _UPPER_ARM * scale, (_FOREARM + _HAND) * scale
    arms, signs = limbs.arms, np.array([side.sign for side in SIDES])
    held = pelvis[:, None, 2] + arms.height - shoulders[..., 2]
    rise = arms.hangs * -_STRETCHED * arm + (1.0 - arms.hangs) * np.clip(held, -_STRETCHED * arm, _STRETCHED * arm)
    far = np.clip(np.maximum(arms.stretch * arm, np.abs(rise) + 0.01), abs(upper - lower) + 0.01, _STRETCHED * arm)
    rise = np.clip(rise, -far, far)
    level = np.sqrt(far**2 - rise**2)
    azimuth = limbs.torso[:, None] + signs * np.clip(arms.azimuth, -_ACROSS, _OUTWARD)
    to = level[..., None] * _flat(azimuth)
    to[..., 2] = rise
    n = to / far[..., None]
    f = _flat(limbs.torso)[:, None, :]
    down = (n[..., 2] / np.maximum(1.0 + (f * n).sum(axis=-1), 1e-6))[..., None] * (f + n) - np.array([0.0, 0.0, 1.0])
    cos = np.clip((upper**2 + far**2 - lower**2) / (2 * upper * far), -1.0, 1.0)
    elbows = shoulders + upper * (cos[..., None] * n + np.sqrt(1.0 - cos**2)[..., None] * down)
    hands = shoulders + to
    wrists = elbows + (hands - elbows) * (_FOREARM / (_FOREARM + _HAND))
    return elbows, wrists, hands
