"""The figure of a walk: the one body that the rules judge, at the end of every count and on the way between two."""

from __future__ import annotations

import math
from functools import cached_property

import numpy as np

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.figure import Arms, Figure, Limbs, figure_of, hanging
from waltzmark.core.body.foot import ANKLE, LANDMARKS
from waltzmark.core.body.mass import ankle_reach, pelvis_places
from waltzmark.core.body.pose import Pose
from waltzmark.core.score import actions as act
from waltzmark.core.walk.annotations import HEIGHTS, hands_of, kicks_out
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.motion import centre_of, ease, pose_between
from waltzmark.core.walk.passage import Passage
from waltzmark.core.walk.pelvis import pelvis_headings
from waltzmark.core.walk.stand import Stand, raised_parts, stand_of
from waltzmark.core.walk.step import PIVOT, STEP
from waltzmark.core.walk.trace import Trace

__all__ = ["Figures", "facing_between", "raised_at"]

#: Degrees that the heel is up on the ball, and, negative, that the toes are on the heel.
_PITCH = np.array([0.0, 25.0, -20.0, 0.0])
#: Shares of stature: how high a hand is; `HEIGHTS` has the others.
_HAND_HEIGHTS = {**HEIGHTS, "shoulder": 0.82, "above": 1.06}
_HIPS = 0.53
#: Shares of an arm between shoulder and hand, by the hand's shape.
_STRETCH, _FAR = 0.55, {"push": 0.85, "fist": 0.85}
#: Metres that a lifted foot is off the floor, and a swinging one at its highest.
_LIFTED, _SWUNG = 0.10, 0.07
#: Degrees that the thigh of a lifted knee is below level, and that a kicking foot is turned up or down.
_THIGH_BELOW, _TOES_UP, _TOES_POINTED = 10.0, -50.0, 40.0


class Figures:
    """The figures of a walk. Settled ones are made all at once, when the first of them is asked for."""

    def __init__(self, trace: Trace) -> None:
        self.trace, self.body = trace, trace.body
        self._mechanics = Mechanics(trace)

    @cached_property
    def settled(self) -> Figure:
        """At the end of every count, a row each."""
        return figure_of(self.body, self._limbs)

    @cached_property
    def _limbs(self) -> Limbs:
        trace, found = self.trace, self._mechanics
        stand = _known(self.body, found.stand, found.pelvis_places)
        ankles, pitches = found.raised_ankles, _PITCH[trace.contacts] + found.raised
        self._lift(stand, ankles, pitches)
        return Limbs(
            stand.hips,
            stand.tops,
            ankles,
            trace.headings,
            pitches,
            found.pelvis,
            trace.torso,
            trace.gaze,
            trace.leans,
            self._hands,
        )

    def _lift(self, stand: Stand, ankles: Floats, pitches: Floats) -> None:
        """Puts feet that are in the air where they are: a little off the floor, under a lifted knee, or kicking."""
        trace, body = self.trace, self.body
        air = trace.contacts == Contact.AIR
        ankles[air, 2] += _LIFTED
        pitches[air] = 12.0
        knees = np.zeros((len(trace), 2), dtype=bool)
        first = set(trace.starts.tolist())
        up = [False, False]
        for row, count in enumerate(trace.written):
            if row in first and row and not air[row - 1].any():
                up = [False, False]
            for action in count.actions:
                if isinstance(action, act.Lift):
                    up[action.side] = action.knee
                elif isinstance(action, (act.Step, act.Land)):
                    up[action.side] = False
            knees[row] = up
        below = math.radians(_THIGH_BELOW)
        for row, side in np.argwhere(knees & air).tolist():
            hip = np.append(stand.hips[row, side], stand.tops[row, side])
            angle = math.radians(float(self._mechanics.pelvis[row]))
            ahead = np.array([math.sin(angle), math.cos(angle), 0.0])
            knee = hip + body.thigh * (math.cos(below) * ahead - (0.0, 0.0, math.sin(below)))
            ankles[row, side], pitches[row, side] = knee - (0.0, 0.0, body.shank), 20.0
        for row, kick in kicks_out(trace):
            side, angle = kick.side, math.radians(kick.heading)
            foot = (0.6 if kick.part == "toe" else 0.2) * body.sole.of(side)
            far = max(kick.reach - foot, 0.1)
            target = np.append(
                stand.hips[row, side] + far * np.array([math.sin(angle), math.cos(angle)]),
                HEIGHTS[kick.height] * body.stature,
            )
            ankles[row, side] = target
            pitches[row, side] = _TOES_POINTED if kick.part == "toe" else _TOES_UP

    @cached_property
    def _hands(self) -> Arms:
        """Of every row the hands as last written within its posture, else hanging."""
        trace, stature = self.trace, self.body.stature
        arms = hanging(len(trace))
        first = set(trace.starts.tolist())
        held: dict[Side, tuple[float, float, float]] = {}
        for row, count in enumerate(trace.written):
            if row in first:
                held = {}
            if count.one(act.Hand) is not None:
                for hand in hands_of(trace, row):
                    up = (_HAND_HEIGHTS[hand.height] - _HIPS) * stature
                    held[hand.side] = (hand.heading, up, _FAR.get(hand.shape or "", _STRETCH))
            for side, (heading, up, stretch) in held.items():
                away = side.sign * heading_difference(float(trace.torso[row]), heading)
                arms.azimuth[row, side], arms.height[row, side], arms.stretch[row, side] = away, up, stretch
        return arms

    # On the way.

    def at(self, row: int, t: float) -> Figure:
        """One figure, at *t* in [0, 1] of the count of a row."""
        if row <= 0 or t >= 1.0:
            found, at = self.settled, max(min(row, len(self.trace) - 1), 0)
            one = slice(at, at + 1)
            return Figure(found.joints[one], found.gaps[one], found.faces[one], found.chests[one], found.pelvises[one])
        return figure_of(self.body, self._between(row, t))

    def _between(self, row: int, t: float) -> Limbs:
        trace, body, limbs = self.trace, self.body, self._limbs
        pose, s = pose_between(trace, row, t), ease(max(t, 0.0))
        before, after = trace.pose(row - 1), trace.pose(row)
        swings = trace.move_kinds[row] == STEP
        slides = np.array([self._slides(row, side) for side in Side])
        feet = [pose.foot(side) for side in Side]
        heels = np.array([[[foot.x, foot.y] for foot in feet]])
        headings = np.array([[foot.heading for foot in feet]])
        contacts = np.array([[int(foot.contact) for foot in feet]])
        floor = np.where(swings, int(Contact.AIR), contacts)
        shares = np.array([[pose.left_share, 1.0 - pose.left_share]])
        torso, leans = np.array([pose.torso]), np.array([before.lean + (after.lean - before.lean) * s])
        sinks = np.array([before.sink + (after.sink - before.sink) * s])
        pelvis = pelvis_headings(body, headings, floor, shares, torso)
        pitches = np.array([[self._pitch(row, side, before, after, s) for side in Side]])
        over = np.array([_over(body, side, pitches[0, side]) for side in Side])
        angle = np.radians(headings[0])
        plain = heels + over[None, :, :1] * np.stack([np.sin(angle), np.cos(angle)], axis=-1)[None]
        heights = over[None, :, 1]
        places = pelvis_places(body, np.array([centre_of(pose, body)]), plain, torso, leans)
        stand = stand_of(body, places, pelvis, plain, heights, floor, shares, sinks)
        stand = _known(body, stand, places)
        hips, tops = self._reaching(stand, row, s)
        moved = Stand(hips.mean(axis=1), hips, tops, stand.bends)
        stays = np.where(trace.move_kinds[row] > 0, trace.move_contacts[row], float(Contact.AIR)).astype(np.int64)[None]
        raised = raised_parts(body, moved, heels, headings, plain, heights, floor, shares, stays)
        ankles = np.concatenate([raised.ankles, raised.heights[..., None]], axis=-1)
        pitches = pitches + raised.degrees
        for side in Side:
            if swings[side] or Contact.AIR in (before.foot(side).contact, after.foot(side).contact):
                # From where it was above its place on the floor to where it will be, over an arc.
                off = self._off(row - 1, side, before) * (1.0 - s) + self._off(row, side, after) * s
                own = np.append(plain[0, side], heights[0, side]) + off
                own[2] += 0.0 if slides[side] or not swings[side] else 4.0 * s * (1.0 - s) * _SWUNG
                ankles[0, side] = _within_reach(body, np.append(hips[0, side], tops[0, side]), own)
                pitches[0, side] = limbs.pitches[row - 1, side] * (1.0 - s) + limbs.pitches[row, side] * s
        return Limbs(
            hips, tops, ankles, headings, pitches, pelvis, torso, np.array([pose.gaze]), leans, self._moving(row, s)
        )

    def _slides(self, row: int, side: Side) -> bool:
        step = self.trace.written[row].one(act.Step, side)
        return step is not None and step.via == "slide"

    def _pitch(self, row: int, side: Side, before: Pose, after: Pose, s: float) -> float:
        """Degrees that a foot on the floor is up on its ball, or, negative, on its heel: it rolls evenly from one part
        to another, and comes up to turn."""
        pitch = float(_PITCH[before.foot(side).contact] * (1.0 - s) + _PITCH[after.foot(side).contact] * s)
        if self.trace.move_kinds[row, side] == PIVOT:
            up = _PITCH[int(self.trace.move_contacts[row, side])]
            pitch += min(6.0 * s * (1.0 - s), 1.0) * float(up - pitch)
        return pitch

    def _reaching(self, stand: Stand, row: int, s: float) -> tuple[Floats, Floats]:
        """(1, 2, 2) hips and (1, 2) their heights, with what the body does for a foot that lands coming and going."""
        found = self._mechanics
        hips, tops = stand.hips.copy(), stand.tops.copy()
        for at, part in ((row - 1, 1.0 - s), (row, s)):
            hips[0] += part * (found.stand.hips[at] - found.seat.hips[at])
            drop = found.stand.tops[at] - found.seat.tops[at]
            tops[0] += part * np.where(np.isfinite(drop), drop, 0.0)
        return hips, tops

    def _off(self, row: int, side: Side, pose: Pose) -> Floats:
        """(3,) how far an ankle is from where it would be over its foot on the floor, at the end of a count."""
        foot = pose.foot(side)
        ahead, up = ankle_reach(self.body, side, foot.contact)
        angle = math.radians(foot.heading)
        plain = np.array([foot.x + ahead * math.sin(angle), foot.y + ahead * math.cos(angle), up])
        return np.asarray(self._limbs.ankles[row, side] - plain)

    def _moving(self, row: int, s: float) -> Arms:
        """Hands on their way from one count's place to the next one's."""
        arms = self._hands
        one, other = (Arms(*(each[at : at + 1] for each in arms)) for at in (row - 1, row))
        low = -0.98 * self.body.measure("arm") + 0.288 * self.body.stature  # of a hand that hangs, above the hips
        ends = [np.where(np.isnan(each.height), low, each.height) for each in (one, other)]
        height = ends[0] * (1.0 - s) + ends[1] * s
        rest = np.isnan(one.height) & np.isnan(other.height)
        return Arms(
            one.azimuth * (1.0 - s) + other.azimuth * s,
            np.where(rest, np.nan, height),
            one.stretch * (1.0 - s) + other.stretch * s,
        )


def _over(body: Body, side: Side, pitch: float) -> tuple[float, float]:
    """How far the ankle is ahead of the heel centre of a sole that is so far up on its ball, or on its heel where that
    is negative, and how high above the floor, metres."""
    foot, high, angle = body.sole.of(side), body.measure("ankle_height"), math.radians(pitch)
    pivot = (LANDMARKS["ball"] if pitch > 0.0 else LANDMARKS["heel"]) * foot
    ahead = ANKLE * foot - pivot
    return (
        pivot + ahead * math.cos(angle) + high * math.sin(angle),
        high * math.cos(angle) - ahead * math.sin(angle),
    )


def _known(body: Body, stand: Stand, places: Floats) -> Stand:
    """The stand, where it is unknown as high as legs at their longest would have it over feet under the hips: so that
    what does not reach is seen as a gap."""
    unknown = np.isnan(stand.tops)
    if not unknown.any():
        return stand
    high = body.leg(30.0) + body.measure("ankle_height")
    return Stand(places, stand.hips, np.where(unknown, high, stand.tops), stand.bends)


def _within_reach(body: Body, hip: Floats, ankle: Floats) -> Floats:
    """An ankle in the air, drawn toward its hip as far as the leg asks for."""
    away = ankle - hip
    far, most = float(np.sqrt((away**2).sum())), body.shank + body.thigh - 1e-4
    return ankle if far <= most else hip + away * (most / far)


_raised: tuple[tuple[Passage, ...], Floats] | None = None  # of the last posture that was asked for


def raised_at(trace: Trace, row: int) -> tuple[float, float]:
    """Degrees that the heel of each foot comes up by itself in a row, or, negative, its toes; as `Mechanics.raised` has
    it, found from the posture alone and the one after it."""
    global _raised
    number = int(trace.passage_of[row])
    near = trace.passages[number : number + 2]
    if (
        _raised is None
        or len(_raised[0]) != len(near)
        or any(a is not b for a, b in zip(_raised[0], near, strict=True))
    ):
        _raised = near, Mechanics(Trace(trace.ground, near)).raised
    left, right = _raised[1][row - int(trace.starts[number])].tolist()
    return left, right


def facing_between(trace: Trace, row: int, t: float) -> float:
    """The facing of the stance on the way through a count, degrees: from the one before it evenly to its own."""
    if row <= 0 or t >= 1.0:
        return float(trace.facing[max(row, 0)])
    one, other = float(trace.facing[row - 1]), float(trace.facing[row])
    return normal(one + heading_difference(one, other) * ease(max(t, 0.0)))
