"""What the body does in each pose of a walk: hips, knees, balance and the load on turning feet.

The walk is slow, so the centre of mass is taken to stand above the centre of pressure. Everything here is the same
wherever on the floor the walk stands.
"""

from __future__ import annotations

from functools import cached_property

import numpy as np

from waltzmark.core.base.angles import heading_differences
from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.foot import ANKLE, LANDMARKS
from waltzmark.core.body.mass import ankles_over, pelvis_places
from waltzmark.core.body.pose import rest_of
from waltzmark.core.score.actions import Pivot
from waltzmark.core.walk.ground import PIVOT, STEP
from waltzmark.core.walk.patches import TABLE, TIE, outward, supports, tied
from waltzmark.core.walk.pelvis import CARRIES, hip_gaps, pelvis_headings
from waltzmark.core.walk.reaching import Raised, least_short, raised_parts, with_landings
from waltzmark.core.walk.stand import BINDS, Placed, Stand, leg_lengths, stand_of
from waltzmark.core.walk.trace import Trace

__all__ = ["IN_FRONT", "ROUGH", "UNSURE", "Mechanics"]

_DIRECTION = 4.0  # degrees between the directions in which the support is measured first
#: Then about those in which it is nearest, since two edges can look nearly as near: how many, how far about, in steps.
_LOOKS = ((4, _DIRECTION, 0.5), (2, 0.5, 0.03125))
#: Parts of a count at which a turn of the chest is looked at on its way.
_ON_THE_WAY = (0.25, 0.5, 0.75)
_EVERY = np.arange(0.0, 360.0, _DIRECTION)
_ANGLES = np.radians(_EVERY)
_WAYS = np.stack([np.sin(_ANGLES), np.cos(_ANGLES)])
#: Metres by which a margin that is told roughly is at most too large.
ROUGH = 0.03
#: Degrees that a bend found from the height of the hips may be off.
UNSURE = 5.0
#: A foot is in front of the other from this much on, metres.
IN_FRONT = 0.10


class Mechanics:
    """Arrays with one row per count of a trace, by side where there are two columns."""

    def __init__(self, trace: Trace) -> None:
        self.trace, self.body = trace, trace.body

    @cached_property
    def front(self) -> Ints:
        """(n,) the side that is in front, -1 where neither is."""
        along = self.trace.apart[:, 0]
        return np.where(np.abs(along) < IN_FRONT, -1, (along > 0).astype(np.int64))

    @cached_property
    def front_share(self) -> Floats:
        """(n,) share of the front foot, NaN where neither is in front."""
        share = np.where(self.front == 1, self.trace.shares[:, 1], self.trace.shares[:, 0])
        return np.where(self.front < 0, np.nan, share)

    @cached_property
    def carries(self) -> Bools:
        """(n, 2) whether a foot carries."""
        return self.trace.shares > CARRIES

    @cached_property
    def steps(self) -> Bools:
        """(n, 2) whether a foot steps in the count."""
        return np.asarray(self.trace.move_kinds == STEP)

    @cached_property
    def pivots(self) -> Bools:
        """(n, 2) whether a foot pivots in the count."""
        return np.asarray(self.trace.move_kinds == PIVOT)

    @cached_property
    def shares_before(self) -> Floats:
        """(n, 2) shares at the beginning of each count."""
        return np.vstack([self.trace.shares[:1], self.trace.shares[:-1]])

    @cached_property
    def load(self) -> Floats:
        """(n, 2) load of a turning foot: the larger of its shares before and after the count."""
        load = np.maximum(self.shares_before, self.trace.shares)
        for row, pivot in self.trace.of_kind(Pivot):
            if pivot.when and len(self.trace.written[row].parts) > 1:
                # Before the weight has moved, or after.
                shares = self.shares_before if pivot.when == "early" else self.trace.shares
                load[row, pivot.side] = shares[row, pivot.side]
        return load

    # The pelvis under the chest.

    @cached_property
    def pelvis(self) -> Floats:
        """(n,) heading of the pelvis, which follows the chest as far as the hips allow."""
        trace = self.trace
        return pelvis_headings(self.body, trace.headings, trace.contacts, trace.shares, trace.torso)

    @cached_property
    def waist(self) -> Floats:
        """(n,) degrees from the pelvis to the chest, clockwise positive."""
        return heading_differences(self.pelvis, self.trace.torso)

    @cached_property
    def passing_waist(self) -> Floats:
        """(n,) degrees from the pelvis to the chest where that is most within a count.

        While a count both turns the chest and shifts the weight, on its way from its first pose to its last; 0 where it
        does not do both.
        """
        trace = self.trace
        turn = np.append(0.0, heading_differences(trace.torso[:-1], trace.torso[1:]))
        shifts = np.append(0.0, np.diff(trace.shares[:, 0]))
        # Of half a turn it is not said which way round it goes.
        turns = (np.abs(turn) > 1.0) & (np.abs(turn) < 180.0 - 1e-6)
        rows = np.flatnonzero(turns & (np.abs(shifts) > 0.01))
        found = np.zeros(len(trace))
        if not len(rows):
            return found
        before = rows - 1
        moves = trace.move_kinds[rows] != 0
        on = np.where(moves, trace.move_contacts[rows].astype(np.int64), trace.contacts[before])
        for part in _ON_THE_WAY:
            share = trace.shares[before, 0] + part * shifts[rows]
            shares = np.column_stack([share, rest_of(share)])
            headings = trace.headings[before] + part * np.where(moves, trace.move_turns[rows], 0.0)
            torso = trace.torso[before] + part * turn[rows]
            pelvis = pelvis_headings(self.body, headings, on, shares, torso)
            waist = heading_differences(pelvis, torso)
            found[rows] = np.where(np.abs(waist) > np.abs(found[rows]), waist, found[rows])
        return found

    @cached_property
    def ankles(self) -> tuple[Floats, Floats]:
        """(n, 2, 2) floor positions of the ankles over what is down of their feet, and (n, 2) their heights, metres."""
        trace = self.trace
        return ankles_over(self.body, trace.heels, trace.headings, trace.contacts)

    @cached_property
    def pelvis_places(self) -> Floats:
        """(n, 2) floor position of the pelvis centre, the centre of mass above the centre of pressure, metres."""
        trace = self.trace
        return pelvis_places(self.body, trace.centres, self.ankles[0], trace.torso, trace.leans)

    @cached_property
    def seat(self) -> Stand:
        """How deep the body sits: pelvis, hips and knees over the feet, before it reaches for a foot that lands.

        How far that takes it is what `step.reach` judges; every other rule judges this.
        """
        trace, body = self.trace, self.body
        return stand_of(body, self.pelvis_places, self.pelvis, *self.ankles, trace.contacts, trace.shares, trace.sinks)

    @cached_property
    def landed(self) -> Stand:
        """How the body stands with a foot that lands reached for."""
        trace, body = self.trace, self.body
        ankles, heights = self.ankles
        contacts = trace.contacts
        rows, sides = np.nonzero(self._lands)
        return with_landings(body, self.seat, rows, sides, self._placed, ankles, heights, contacts)

    @cached_property
    def _placed(self) -> Placed:
        return Placed(self.pelvis, self.trace.heels, self.trace.headings, self.trace.centres)

    @cached_property
    def _lands(self) -> Bools:
        """(n, 2) whether a light foot lands from a step beside one that stands."""
        on = (self.trace.contacts != Contact.AIR).all(axis=1, keepdims=True)
        return np.asarray(self.steps & on & (self.trace.shares < BINDS) & ~self.steps[:, ::-1])

    @cached_property
    def stand(self) -> Stand:
        """How the body stands: its seat, with a foot that lands, or is left light far away, reached for.

        What a heel that comes up leaves missing of a light foot, the weight over the other sole makes good; a knee that
        is surely past its toes stays where it is judged.
        """
        trace, raised = self.trace, self._raised
        with np.errstate(invalid="ignore"):
            past = self.past_toe(self.shin_lean_within(UNSURE))[:, ::-1] > 0.0
        judged = past & self.carries.all(axis=1, keepdims=True)
        rows, sides = np.nonzero(self._left_behind & ~self._lands & ~judged)
        up = raised.ankles, raised.heights
        return with_landings(self.body, self.landed, rows, sides, self._placed, *up, trace.contacts, sinks=False)

    @cached_property
    def _left_behind(self) -> Bools:
        """(n, 2) whether a light foot is out of its leg's reach with its heel or toes up."""
        short, shares = self._raised.short > 0.0, self.trace.shares[:, ::-1]
        return np.asarray(short & (shares >= BINDS) & ~np.isnan(self.landed.tops))

    @cached_property
    def _raised(self) -> Raised:
        trace = self.trace
        turns_on = np.where(self.pivots, trace.move_contacts, float(Contact.AIR)).astype(np.int64)
        stays = np.vstack([turns_on[1:], np.full((1, 2), int(Contact.AIR))])
        placed = trace.heels, trace.headings, *self.ankles, trace.contacts, trace.shares
        return raised_parts(self.body, self.landed, *placed, stays)

    @property
    def raised(self) -> Floats:
        """(n, 2) degrees that the heel of a light flat foot comes up by itself, or, negative, its toes."""
        return self._raised.degrees

    @property
    def raised_ankles(self) -> Floats:
        """(n, 2, 3) the ankles, over feet whose heel or toes come up by themselves; metres."""
        return np.concatenate([self._raised.ankles, self._raised.heights[..., None]], axis=-1)

    @cached_property
    def beyond(self) -> Floats:
        """(n, 2) metres by which a light foot is out of its leg's reach even so.

        Wherever over the standing sole the weight is and however the pelvis tilts toward it.
        """
        raised, found = self._raised, np.zeros((len(self.trace), 2))
        rows, sides = np.nonzero(self._left_behind)
        up = raised.ankles, raised.heights
        found[rows, sides] = least_short(self.body, self.landed, rows, sides, self._placed, *up)
        return found

    @cached_property
    def hip_gap(self) -> Floats:
        """(n,) degrees by which the headings that the hips of two feet allow miss each other.

        0 where they meet, or only one foot holds the pelvis.
        """
        trace = self.trace
        return hip_gaps(self.body, trace.headings, trace.contacts, trace.shares)

    @cached_property
    def hip_turns(self) -> Floats:
        """(n, 2) degrees from the pelvis to each foot's heading, outward positive."""
        return outward(heading_differences(self.pelvis[:, None], self.trace.headings))

    @cached_property
    def toe_angles(self) -> Floats:
        """(n, 2) degrees from the stance's facing to each foot's heading, outward positive."""
        return outward(heading_differences(self.trace.facing[:, None], self.trace.headings))

    @cached_property
    def shin_lean(self) -> Floats:
        """(n, 2) degrees of each shank from upright, knee forward.

        In the plane of hip, ankle and the foot's heading; NaN for a foot that does not carry and where the height is
        unknown.
        """
        return self._shins(None)

    def shin_lean_within(self, unsure: float) -> Floats:
        """(n, 2) the lean of the shins for knees that bend less.

        A knee that is found bent deeper than is set bends so many degrees less, as far as what is set.
        """
        bends, sinks = self.seat.bends, self.trace.sinks[:, None]
        return self._shins(leg_lengths(self.body, np.fmax(np.fmin(bends, sinks), bends - unsure)))

    def _shins(self, shortest: Floats | None) -> Floats:
        """(n, 2) the shins' lean where the leg, from ankle to hip, is at least so long, metres."""
        a, b = self.body.shank, self.body.thigh
        angle = np.radians(self.trace.headings)
        ankles, heights = self.ankles
        away = self.seat.hips - ankles
        forward = away[..., 0] * np.sin(angle) + away[..., 1] * np.cos(angle)
        aside = away[..., 0] * np.cos(angle) - away[..., 1] * np.sin(angle)
        up = np.hypot(self.seat.tops - heights, aside)
        if shortest is not None:
            up = np.maximum(up, np.sqrt(np.maximum(np.square(shortest) - forward**2, 0.0)))  # unknown stays unknown
        leg = np.hypot(forward, up)
        cosine = (a * a + leg * leg - b * b) / (2 * a * leg)
        lean = np.degrees(np.arctan2(forward, up) + np.arccos(np.clip(cosine, -1.0, 1.0)))
        return np.where(self.carries, lean, np.nan)

    def past_toe(self, leans: Floats) -> Floats:
        """(n, 2) metres of each knee past its toe tip along the foot.

        For leans of the shins (n, 2) in degrees; NaN where the lean is.
        """
        lengths = np.array([self.body.sole.of(side) for side in SIDES])
        return np.asarray(self.body.shank * np.sin(np.radians(leans)) - (LANDMARKS["toe"] - ANKLE) * lengths)

    # When a stance is judged as one.

    @cached_property
    def settled(self) -> Bools:
        """(n,) whether a stance has settled in a row: the posture ends, or the next count steps or lifts a foot."""
        trace = self.trace
        last = np.append(trace.passage_of[1:] != trace.passage_of[:-1], True)
        air = trace.contacts == Contact.AIR
        leaves = (self.steps[1:] | (air[1:] & ~air[:-1])).any(axis=1)
        return np.asarray(last | np.append(leaves, True))

    # Balance: the support reaches h(d) in a direction d, so the centre c is h(d) - c d from the edge that way; the
    # margin is the least of these.

    def _reaches(self, ways: Floats, rows: Ints, between: bool = True) -> Floats:
        """(k, 2, m) how far each foot reaches from the floor's origin, in rows (k,), metres.

        In directions (1, m) or (k, m), degrees. between: whether between the directions of the table too, else in the
        nearest of them.
        """
        table, heels = supports(self.body.sole), self.trace.heels[rows]
        headings, contacts = self.trace.headings[rows][:, :, None], self.trace.contacts[rows][:, :, None]
        at, side = (ways[:, None, :] - headings) % 360.0 / TABLE, np.arange(2)[None, :, None]
        known = np.floor(at if between else at + 0.5).astype(np.int64) % (table.shape[2] - 1)
        own = table[side, contacts, known]
        if between:
            own += (at % 1.0) * (table[side, contacts, known + 1] - own)
        angle = np.radians(ways)[:, None, :]
        return np.asarray(heels[:, :, :1] * np.sin(angle) + heels[:, :, 1:] * np.cos(angle) + own)

    @cached_property
    def _coarse(self) -> Floats:
        return self._reaches(_EVERY[None, :], np.arange(len(self.trace)), between=False)

    @cached_property
    def _extents(self) -> Floats:
        """(n, directions) how far the support of the feet that carry reaches in each direction, metres."""
        return np.asarray(np.where(self.carries[:, :, None], self._coarse, -np.inf).max(axis=1))

    def _margins(self, standing: Bools, centres: Floats, rows: Ints) -> tuple[Floats, Floats]:
        """(k,) least distance in metres from *centres* (n, 2) to the edge of the support.

        Of the feet in *standing* (n, 2), positive inside, in rows (k,), and (k,) the direction it lies in, degrees.
        """
        standing, centres = standing[rows][:, :, None], centres[rows]

        def away(ways: Floats, reaches: Floats) -> Floats:
            angle = np.radians(ways)
            reach = np.where(standing, reaches, -np.inf).max(axis=1)
            return np.asarray(reach - centres[:, :1] * np.sin(angle) - centres[:, 1:] * np.cos(angle))

        # Every edge makes a hollow: neighbours in one hollow must not keep a sharper one from being looked at.
        found = away(_EVERY[None, :], self._coarse[rows])
        beside = np.minimum(np.roll(found, 1, axis=1), np.roll(found, -1, axis=1))
        hollow = found <= beside + TIE / 100
        found, ways = np.where(hollow, found, np.inf), np.broadcast_to(_EVERY, found.shape)
        for looks, spread, step in _LOOKS:
            first = np.argsort(tied(found), axis=1, kind="stable")[:, :looks]
            around = np.arange(-spread, spread + step / 2, step)
            tried = (np.take_along_axis(ways, first, axis=1)[:, :, None] + around).reshape(len(first), -1)
            exact = away(tried, self._reaches(tried, rows)).reshape(-1, looks, len(around))
            tried = tried.reshape(exact.shape)
            best = exact.argmin(axis=2)[:, :, None]
            found, ways = (np.take_along_axis(each, best, axis=2)[:, :, 0] for each in (exact, tried))
        best = tied(found).argmin(axis=1)[:, None]
        margin, toward = (np.take_along_axis(each, best, axis=1)[:, 0] for each in (found, ways % 360.0))
        return margin, toward

    @cached_property
    def rough_margin(self) -> Floats:
        """(n,) the distance from the centre to the edge of the support, told at most `ROUGH` too large; metres."""
        return np.asarray((self._extents - self.trace.centres @ _WAYS).min(axis=1))

    def margins(self, rows: Ints) -> tuple[Floats, Floats]:
        """(k,) distance in metres from the centre of pressure to the edge of the support.

        In rows (k,), positive inside, and (k,) the direction of that edge, degrees.
        """
        return self._margins(self.carries, self.trace.centres, rows)

    @cached_property
    def margin(self) -> Floats:
        """(n,) the same distance in every row."""
        return self.margins(np.arange(len(self.trace)))[0]

    def margin_on(self, side: Side, centres: Floats, rows: Ints) -> Floats:
        """(k,) distance in metres from *centres* (n, 2) to the edge of one foot's support.

        In rows (k,), positive inside.
        """
        standing = np.zeros((len(self.trace), 2), dtype=bool)
        standing[:, side] = True
        return self._margins(standing, centres, rows)[0]

    def rough_margin_on(self, side: Side, centres: Floats, rows: Ints) -> Floats:
        """(k,) the same distance, told at most `ROUGH` too large."""
        return np.asarray((self._coarse[rows, side] - centres[rows] @ _WAYS).min(axis=1))

    @cached_property
    def weak_half(self) -> Floats:
        """(n,) half the extent of the support in metres at right angles to the line through both contact centroids."""
        between = self.trace.footings[:, 1] - self.trace.footings[:, 0]
        line = np.degrees(np.arctan2(between[:, 0], between[:, 1]))
        number = self._extents.shape[1]
        across = np.rint(np.mod(line + 90.0, 360.0) / _DIRECTION).astype(np.int64) % number
        rows = np.arange(len(across))
        both = self._extents[rows, across] + self._extents[rows, (across + number // 2) % number]
        return np.asarray(both / 2.0)
