"""The figure of a walk: the one body that the rules judge, at the end of every count and on the way between two."""

from __future__ import annotations

import math
from functools import cached_property
from itertools import islice

import numpy as np

from waltzmark.core.base.angles import heading_difference, heading_differences, normal
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.body import Body
from waltzmark.core.body.figure import Arms, Figure, Limbs, figure_of, hanging
from waltzmark.core.body.foot import ANKLE, LANDMARKS
from waltzmark.core.body.mass import ankle_reach, pelvis_places
from waltzmark.core.body.pose import Pose
from waltzmark.core.score import actions as act
from waltzmark.core.walk.annotations import HEIGHTS, hand_mark, kicks_out
from waltzmark.core.walk.ground import PIVOT, STEP
from waltzmark.core.walk.mechanics import Mechanics
from waltzmark.core.walk.motion import centre_of, ease, pose_between
from waltzmark.core.walk.passage import COLUMN
from waltzmark.core.walk.pelvis import pelvis_headings
from waltzmark.core.walk.reaching import raised_parts
from waltzmark.core.walk.stand import Stand, stand_of
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
#: What of a count's row tells on which feet one turns in it.
_TURNS = ("left_kind", "left_on", "right_kind", "right_on")
#: Degrees that the thigh of a lifted knee is below level, and that a kicking foot is turned up or down.
_THIGH_BELOW, _TOES_HANG, _TOES_UP, _TOES_POINTED = 10.0, 20.0, -50.0, 40.0


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
        below = math.radians(_THIGH_BELOW)
        for row, side in np.argwhere(_knees_up(trace) & air).tolist():
            hip = np.append(stand.hips[row, side], stand.tops[row, side])
            angle = math.radians(float(self._mechanics.pelvis[row]))
            ahead = np.array([math.sin(angle), math.cos(angle), 0.0])
            knee = hip + body.thigh * (math.cos(below) * ahead - (0.0, 0.0, math.sin(below)))
            ankles[row, side], pitches[row, side] = knee - (0.0, 0.0, body.shank), _TOES_HANG
            # Who sits low lifts the knee higher: the toes clear the floor.
            ankles[row, side, 2] = max(ankles[row, side, 2], _over(body, Side(side), _TOES_HANG)[1])
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
        begins = trace.starts[trace.passage_of]  # the first row of each row's posture
        written = [(row, hand_mark(trace, row, hand)) for row, hand in trace.of_kind(act.Hand)]
        for side in SIDES:
            own = {row: hand for row, hand in written if hand.side is side}
            at = np.full(len(trace), -1)
            at[list(own)] = list(own)
            last = np.maximum.accumulate(at)
            held = np.flatnonzero(last >= begins)
            if not len(held):
                continue
            number = np.searchsorted(list(own), last[held])  # rows are in their order
            hands = list(own.values())
            headings = np.array([hand.heading for hand in hands])[number]
            ups = np.array([(_HAND_HEIGHTS[hand.height] - _HIPS) * stature for hand in hands])[number]
            stretches = np.array([_FAR.get(hand.shape or "", _STRETCH) for hand in hands])[number]
            away = side.sign * heading_differences(trace.torso[held], headings)
            # Half a turn is outward on both sides.
            arms.azimuth[held, side] = np.where(away < 1e-6 - 180.0, 180.0, away)
            arms.height[held, side], arms.stretch[held, side], arms.hangs[held, side] = ups, stretches, 0.0
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
        heels = np.array([[[foot.x, foot.y] for foot in (pose.left, pose.right)]])
        headings = np.array([[pose.left.heading, pose.right.heading]])
        torso, leans = np.array([pose.torso]), np.array([before.lean + (after.lean - before.lean) * s])
        sinks = np.array([before.sink + (after.sink - before.sink) * s])
        shares = np.array([[pose.left_share, 1.0 - pose.left_share]])
        ups = np.array([self._up(row, side, t) for side in SIDES])  # how far what a foot does has begun
        pitches = np.array([[self._pitch(row, side, before, after, s, ups[side]) for side in SIDES]])
        plain, heights = self._over(heels, headings, pitches)
        # The body stands over what is down before the count, while it is walked, and after it, each as far as that is.
        up = float(ups.max())
        now, then = self._turned_on(row), self._turned_on(row + 1)
        parts = [
            part
            for part in (
                (self._down(row, before), (1.0 - up) * (1.0 - s), now),
                (self._down(row, before if s < 0.5 else after, moving=True), up, now),
                (self._down(row, after), (1.0 - up) * s, then),
            )
            if part[1] > 0.0
        ]
        down, weights = np.concatenate([part[0] for part in parts]), np.array([part[1] for part in parts])
        stays = np.concatenate([part[2] for part in parts])
        feet, ways, soles, up_soles = (
            np.repeat(each, len(parts), axis=0) for each in (heels, headings, plain, heights)
        )
        carried, turned_to, leaning, bent = (
            np.repeat(each, len(parts), axis=0) for each in (shares, torso, leans, sinks)
        )
        faces = pelvis_headings(body, ways, down, carried, turned_to)
        centres = np.array([centre_of(_on(pose, one), body) for one in down.tolist()])
        places = pelvis_places(body, centres, soles, turned_to, leaning)
        found = stand_of(body, places, faces, soles, up_soles, down, carried, bent)
        stand = _known(body, found, places)
        reached, high = self._reaching(stand, self._mechanics.stand, row, s)
        hips, tops = (weights @ reached.reshape(-1, 4)).reshape(1, 2, 2), (weights @ high)[None]
        reached, high = self._reaching(stand, self._mechanics.landed, row, s)  # heels come up before it leans after
        moved = Stand(reached.mean(axis=1), reached, np.where(np.isnan(found.tops), np.nan, high), stand.bends)
        raised = (weights @ raised_parts(body, moved, feet, ways, soles, up_soles, down, carried, stays).degrees)[None]
        pelvis = np.mod(faces[:1] + weights @ heading_differences(faces[:1], faces), 360.0)
        pitches = pitches + raised
        places, up_there = self._over(heels, headings, pitches)
        ankles = np.concatenate([places, up_there[..., None]], axis=-1)
        swings = trace.move_kinds[row] == STEP
        for side in SIDES:
            if swings[side] or Contact.AIR in (before.foot(side).contact, after.foot(side).contact):
                # From where it was above its place on the floor to where it will be, over an arc.
                off = self._off(row - 1, side, before) * (1.0 - s) + self._off(row, side, after) * s
                own = np.append(plain[0, side], heights[0, side]) + off
                own[2] += 4.0 * s * (1.0 - s) * _SWUNG if swings[side] and not self._slides(row, side) else 0.0
                pitches[0, side] = limbs.pitches[row - 1, side] * (1.0 - s) + limbs.pitches[row, side] * s
                own[2] = max(own[2], _over(body, side, float(pitches[0, side]))[1])  # its sole clears the floor
                ankles[0, side] = _within_reach(body, np.append(hips[0, side], tops[0, side]), own)
        return Limbs(
            hips, tops, ankles, headings, pitches, pelvis, torso, np.array([pose.gaze]), leans, self._moving(row, s)
        )

    def _over(self, heels: Floats, headings: Floats, pitches: Floats) -> tuple[Floats, Floats]:
        """(1, 2, 2) and (1, 2) the ankles over soles that are so far up on their balls or their heels."""
        over = np.array([[_over(self.body, side, float(pitches[0, side])) for side in SIDES]])
        angle = np.radians(headings)
        return heels + over[..., :1] * np.stack([np.sin(angle), np.cos(angle)], axis=-1), over[..., 1]

    def _down(self, row: int, pose: Pose, moving: bool = False) -> Ints:
        """(1, 2) what of each foot is down; *moving*: while it steps, or turns on a part of itself."""
        down = [int(pose.left.contact), int(pose.right.contact)]
        for side in SIDES:
            kind = self.trace.move_kinds[row, side]
            if moving and kind == STEP:
                down[side] = int(Contact.AIR)
            elif moving and kind == PIVOT and down[side] != Contact.AIR:
                down[side] = int(self.trace.move_contacts[row, side])
        return np.array([down])

    def _turned_on(self, row: int) -> Ints:
        """(1, 2) the part on which each foot turns in a row, which stays down before it does; air for none."""
        if row >= len(self.trace):
            return np.full((1, 2), int(Contact.AIR))
        turns = self.trace.move_kinds[row] == PIVOT
        return np.where(turns, self.trace.move_contacts[row], float(Contact.AIR)).astype(np.int64)[None]

    def _up(self, row: int, side: Side, t: float) -> float:
        """How far a foot is in its move at a part of a count: 0 before it has begun and when it is over."""
        if self.trace.move_kinds[row, side] not in (PIVOT, STEP):
            return 0.0
        parts = self.trace.written[row].parts
        for number, part in enumerate(parts if len(parts) > 1 else ()):
            if part.one(act.Pivot, side) is not None:  # in its own part of the count
                t = min(max(t * len(parts) - number, 0.0), 1.0)
                break
        s = ease(max(t, 0.0))
        return min(6.0 * s * (1.0 - s), 1.0)

    def _slides(self, row: int, side: Side) -> bool:
        step = self.trace.written[row].one(act.Step, side)
        return step is not None and step.via == "slide"

    def _pitch(self, row: int, side: Side, before: Pose, after: Pose, s: float, up: float) -> float:
        """Degrees that a foot on the floor is up on its ball, or, negative, on its heel.

        It rolls evenly from one part to another, and comes up to turn.
        """
        pitch = float(_PITCH[before.foot(side).contact] * (1.0 - s) + _PITCH[after.foot(side).contact] * s)
        if self.trace.move_kinds[row, side] == PIVOT:
            pitch += up * float(_PITCH[int(self.trace.move_contacts[row, side])] - pitch)
        return pitch

    def _reaching(self, stand: Stand, reaches: Stand, row: int, s: float) -> tuple[Floats, Floats]:
        """(n, 2, 2) hips and (n, 2) their heights, with what the body does to reach a foot coming and going."""
        seat = self._mechanics.seat
        hips, tops = stand.hips.copy(), stand.tops.copy()
        for at, part in ((row - 1, 1.0 - s), (row, s)):
            hips += part * (reaches.hips[at] - seat.hips[at])
            drop = reaches.tops[at] - seat.tops[at]
            tops += part * np.where(np.isfinite(drop), drop, 0.0)
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
        one, other = (Arms(*(each[at : at + 1] for each in self._hands)) for at in (row - 1, row))
        # A hand that hangs goes the way that the other place of it points.
        ways = (
            np.where(one.hangs > 0.0, other.azimuth, one.azimuth),
            np.where(other.hangs > 0.0, one.azimuth, other.azimuth),
        )
        mixed = [a * (1.0 - s) + b * s for a, b in zip(one, other, strict=True)]
        return Arms(ways[0] * (1.0 - s) + ways[1] * s, *mixed[1:])


def _knees_up(trace: Trace) -> Bools:
    """(n, 2) where a foot was lifted with the knee, and has not been put down or lifted otherwise since."""
    up, knees = [False, False], np.zeros((len(trace), 2), dtype=bool)
    kinds = act.Lift, act.Step, act.Land
    if not any(lift.knee for _, lift in trace.of_kind(act.Lift)):
        return knees
    # A posture without counts may begin where the form has ended.
    first, air = {row for row in trace.starts.tolist() if row < len(trace)}, trace.contacts == Contact.AIR
    rows = sorted(first.union(row for kind in kinds for row, _ in trace.of_kind(kind)))
    for row, after in zip(rows, (*rows[1:], len(trace)), strict=True):
        if row in first and row and not air[row - 1].any():
            up = [False, False]
        for action in trace.written[row].actions:
            if isinstance(action, kinds):
                up[action.side] = isinstance(action, act.Lift) and action.knee
        knees[row:after] = up
    return knees


def _on(pose: Pose, down: list[int]) -> Pose:
    """A pose with those parts of its feet on the floor."""
    left, right = (Contact(each) for each in down)
    return pose._replace(left=pose.left._replace(contact=left), right=pose.right._replace(contact=right))


def _over(body: Body, side: Side, pitch: float) -> tuple[float, float]:
    """How far the ankle is ahead of the heel centre of a raised sole, and how high, metres.

    The sole is so far up on its ball, or on its heel where that is negative.
    """
    foot, high, angle = body.sole.of(side), body.measure("ankle_height"), math.radians(pitch)
    pivot = (LANDMARKS["ball"] if pitch > 0.0 else LANDMARKS["heel"]) * foot
    ahead = ANKLE * foot - pivot
    return (
        pivot + ahead * math.cos(angle) + high * math.sin(angle),
        high * math.cos(angle) - ahead * math.sin(angle),
    )


def _known(body: Body, stand: Stand, places: Floats) -> Stand:
    """The stand, with heights where they are unknown.

    As high as legs at their longest would have it over feet under the hips: so that what does not reach is seen as a
    gap.
    """
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


def raised_at(trace: Trace, row: int) -> tuple[float, float]:
    """Degrees that the heel of each foot comes up by itself in a row, or, negative, its toes.

    As `Mechanics.raised` has it, found from the posture alone and the beginning of the one after it, and remembered
    with the posture.
    """
    number = int(trace.passage_of[row])
    passage = trace.passages[number]
    after = tuple(islice((each for each in trace.passages[number + 1 :] if len(each)), 1))
    # A foot on which one turns in the next count stays down.
    turns = [after[0].rows[0, COLUMN[name]] for name in _TURNS] if after else []
    near = Trace(trace.ground, (passage, *after))
    degrees = passage.known(f"raised {turns}", lambda: Mechanics(near).raised[: len(passage)])
    left, right = degrees[row - int(trace.starts[number])].tolist()
    return left, right


def facing_between(trace: Trace, row: int, t: float) -> float:
    """The facing of the stance on the way through a count, degrees: from the one before it evenly to its own."""
    if row <= 0 or t >= 1.0:
        return float(trace.facing[max(row, 0)])
    one, other = float(trace.facing[row - 1]), float(trace.facing[row])
    return normal(one + heading_difference(one, other) * ease(max(t, 0.0)))
