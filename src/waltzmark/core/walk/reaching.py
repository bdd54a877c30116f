"""What a leg that is too short does: a landing that is reached for, a heel or toes that come up."""

from __future__ import annotations

import math

import numpy as np

from waltzmark.core.base.arrays import Bools, Floats, Ints
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.body import Body
from waltzmark.core.body.foot import ANKLE, LANDMARKS
from waltzmark.core.body.mass import WHOLE
from waltzmark.core.walk.stand import BINDS, LEFT_IN_KNEE, TOLERANCE, Placed, Stand, bends_of

__all__ = ["Raised", "least_short", "raised_parts", "with_landings"]

#: Degrees that a heel comes up at the most, and that toes do.
HEEL_UP, TOES_UP = 60.0, 30.0
_TILT = math.radians(6.0)  # of the pelvis, down toward the foot that lands
_ALONG, _ACROSS = 7, (-0.2, 0.0, 0.2)  # places of the centre over the standing sole: along it, and across in breadths
_PARTS = np.linspace(0.0, 1.0, 17)[1:]  # of the way to such a place
_AT_ONCE = 24  # landings that are looked at together: what fits into the cache


def with_landings(
    body: Body,
    stand: Stand,
    rows: Ints,
    sides: Ints,
    placed: Placed,
    ankles: Floats,
    heights: Floats,
    contacts: Ints,
    sinks: bool = True,
) -> Stand:
    """The same where a foot lands in some of the rows, or is left light far away: the body reaches with it.

    The centre of pressure, from the heel to the ball of the standing foot and a fifth of its breadth to either side,
    and a tilt of the pelvis of up to 6 degrees down toward the landing foot about the standing hip, give as much as is
    needed and no more; only what is missing beyond deepens the standing knee.

    Parameters
    ----------
    rows, sides : (m,)
        Rows in which a foot lands, and the side of that foot.
    placed
        Where the body stands.
    ankles, heights, contacts :
        As for `stand_of`.
    sinks
        Whether the standing knee deepens for what is missing; for a foot that is left behind it does not.
    """
    if not len(rows):
        return stand
    reach = _Reach(body, stand, rows, sides, placed.pelvis, ankles, heights)
    still = np.zeros((len(rows), 1, 2))
    near = reach.short(still, np.zeros((1, 1)))[:, 0] <= TOLERANCE
    if near.all():
        return stand
    reach = reach.of(~near)
    rows, sides = rows[~near], sides[~near]
    moves = _moves_over(body, rows, sides, placed)
    tilts = np.ones(moves.shape[1])
    if not sinks:  # toward a foot that is left behind the pelvis does not tilt where that serves it better
        moves, tilts = np.concatenate([moves, moves], axis=1), np.concatenate([tilts, 0.0 * tilts])
    parts = [slice(at, at + _AT_ONCE) for at in range(0, len(rows), _AT_ONCE)]
    found = [_least_way(reach.of(some), moves[some], tilts, sinks) for some in parts]
    chosen, least = (np.concatenate(each) for each in zip(*found, strict=True))
    shift = moves[np.arange(len(rows)), chosen] * least[:, None]
    return reach.taken(stand, rows, sides, shift, least * tilts[chosen], contacts, sinks)


def _least_way(reach: _Reach, moves: Floats, tilts: Floats, sinks: bool) -> tuple[Ints, Floats]:
    """(m,) the move of each landing that is enough with the least part of its way, and (m,) that part."""
    # Every place of the centre, every part of the way to it: the pelvis tilts by the same part, if it does.
    short = reach.short(moves[:, :, None, :] * _PARTS[:, None], _PARTS[None, :] * tilts[:, None])
    enough = short <= TOLERANCE
    ever = np.asarray(enough.any(axis=2))
    part = np.where(ever, _PARTS[enough.argmax(axis=2)], 2.0)  # of the way to each place that is enough
    any_ = np.asarray(ever.any(axis=1))
    if sinks:
        nearest = short[:, :, -1].argmin(axis=1)
    else:  # where none is, as far as brings it nearest
        part = np.where(any_[:, None], part, _PARTS[short.argmin(axis=2)])
        nearest = short.min(axis=2).argmin(axis=1)
    chosen = np.where(any_, part.argmin(axis=1), nearest)
    return chosen, np.minimum(part[np.arange(len(chosen)), chosen], 1.0)


def _moves_over(body: Body, rows: Ints, sides: Ints, placed: Placed) -> Floats:
    """(m, k, 2) moves of the pelvis that bring the centre of pressure to places over the soles that stand, metres."""
    others = rows, 1 - sides
    places = _places_over(body, placed.heels[others], placed.headings[others], sides)
    return np.asarray((places - placed.centres[rows, None]) / WHOLE)


def _places_over(body: Body, heels: Floats, headings: Floats, landing: Ints) -> Floats:
    """(m, k, 2) places over the soles that stand where the centre of pressure may be, metres."""
    along = np.linspace(0.0, LANDMARKS["ball"], _ALONG)
    lengths = np.array([body.sole.of(side) for side in SIDES])[1 - landing]
    across, ahead = (each.ravel() for each in np.meshgrid(np.array(_ACROSS) * body.foot_breadth, along))
    angle = np.radians(headings)
    u, v = np.stack([np.sin(angle), np.cos(angle)], axis=-1), np.stack([np.cos(angle), -np.sin(angle)], axis=-1)
    far = ahead[None, :] * lengths[:, None]
    # In the same order from the foot that lands, so that mirror images choose alike where two are as good.
    aside = across[None, :] * np.where(landing == Side.RIGHT, 1.0, -1.0)[:, None]
    return np.asarray(heels[:, None] + far[..., None] * u[:, None] + aside[..., None] * v[:, None])


class Raised(Record, eq=False):
    """What comes up by itself of feet that are light, by side.

    degrees : (n, 2) positive that the heel is up, to 60; negative that the toes are, to 30
    ankles, heights : (n, 2, 2), (n, 2) where the ankles then are, metres
    short : (n, 2) metres that are missing even so, for any foot under 30 % that is on the floor
    """

    degrees: Floats
    ankles: Floats
    heights: Floats
    short: Floats


class _Reach:
    """Whether a foot that lands is within reach, for m landings, each from its own pelvis."""

    def __init__(
        self, body: Body, stand: Stand, rows: Ints, sides: Ints, pelvis: Floats, ankles: Floats, heights: Floats
    ) -> None:
        self.body = body
        angle = np.radians(pelvis[rows])
        # From the standing hip to the stepping one.
        sign = np.where(sides == Side.RIGHT, 1.0, -1.0)[:, None]
        self.across = np.stack([np.cos(angle), -np.sin(angle)], axis=-1) * sign * body.hip_spacing
        self.hip, self.top = stand.hips[rows, 1 - sides], stand.tops[rows, 1 - sides]
        own = ankles[rows, 1 - sides]
        self.own, self.own_up = own, heights[rows, 1 - sides]
        self.foot, self.foot_up = ankles[rows, sides], heights[rows, sides]
        # The standing leg keeps the length that it has.
        self.leg = np.sqrt(((self.hip - own) ** 2).sum(axis=1) + (self.top - self.own_up) ** 2)
        self.places, self.heights = ankles, heights

    def of(self, some: Bools | slice) -> _Reach:
        """Those of some landings."""
        made = _Reach.__new__(_Reach)
        made.body, made.places, made.heights = self.body, self.places, self.heights
        for name in ("across", "hip", "top", "own", "own_up", "foot", "foot_up", "leg"):
            setattr(made, name, getattr(self, name)[some])
        return made

    def _stepping(self, shift: Floats, tilt: Floats) -> tuple[Floats, Floats, Floats]:
        """(m, …) squared distances across the floor from each hip to its ankle, and the drop.

        From the standing and from the stepping hip, and how much lower that one is; for moves (m, …, 2) of the pelvis
        and parts (…) of the tilt.
        """
        extra = (1,) * (shift.ndim - 2)
        angle = tilt * _TILT
        near, far = np.zeros(shift.shape[:-1]), np.zeros(shift.shape[:-1])
        for axis in (0, 1):  # a sum over an axis of two takes longer than all else here
            hip, across, own, foot = (
                each[:, axis].reshape(-1, *extra) for each in (self.hip, self.across, self.own, self.foot)
            )
            here = hip + shift[..., axis]
            away = here - own
            away *= away
            near += away
            here += across * np.cos(angle)
            here -= foot
            here *= here
            far += here
        return near, far, self.body.hip_spacing * np.sin(angle)

    def short(self, shift: Floats, tilt: Floats) -> Floats:
        """(m, …) metres by which the stepping leg does not reach, with 5 degrees left in its knee."""
        near, far, drop = self._stepping(shift, tilt)
        extra = (1,) * (shift.ndim - 2)
        high = np.subtract(self.leg.reshape(-1, *extra) ** 2, near, out=near)
        np.sqrt(np.maximum(high, 0.0, out=high), out=high)
        high += self.own_up.reshape(-1, *extra)
        high -= drop
        high -= self.foot_up.reshape(-1, *extra)
        high *= high
        high += far
        np.sqrt(high, out=high)
        high -= self.body.leg(LEFT_IN_KNEE)
        return np.asarray(high)

    def taken(
        self, stand: Stand, rows: Ints, sides: Ints, shift: Floats, part: Floats, contacts: Ints, sinks: bool
    ) -> Stand:
        """The stand with the pelvis moved and tilted in those rows.

        The standing knee is as deep as it then must be, or, where it *sinks* no further, as it was.
        """
        body = self.body
        near, far, drop = self._stepping(shift[:, None, :], part[:, None])
        near, far, drop = near[:, 0], far[:, 0], drop[:, 0]
        top = self.own_up + np.sqrt(np.maximum(self.leg**2 - near, 0.0))
        within = body.leg(LEFT_IN_KNEE) ** 2 - far
        # What is out of reach however deep one goes does not draw the body down.
        lower = self.foot_up + np.sqrt(np.maximum(within, 0.0)) + drop
        if sinks:
            top = np.where((within > 0.0) & (lower > self.own_up), np.minimum(top, lower), top)
        places, hips, tops = stand.places.copy(), stand.hips.copy(), stand.tops.copy()
        angle = part * _TILT
        standing = self.hip + shift
        hips[rows, 1 - sides] = standing
        hips[rows, sides] = standing + self.across * np.cos(angle)[:, None]
        tops[rows, 1 - sides] = top
        tops[rows, sides] = top - drop
        places[rows] = hips[rows].mean(axis=1)
        tops[np.isnan(stand.tops)] = np.nan
        bends = stand.bends.copy()
        bends[rows] = bends_of(body, hips[rows], tops[rows], self.places[rows], self.heights[rows], contacts[rows])
        return Stand(places, hips, tops, bends)


def raised_parts(
    body: Body,
    stand: Stand,
    heels: Floats,
    headings: Floats,
    ankles: Floats,
    heights: Floats,
    contacts: Ints,
    shares: Floats,
    stays: Ints,
) -> Raised:
    """Heels and toes that come up by themselves, so that a light leg reaches its foot.

    A flat foot under 30 % that is further from its hip than d(5°) raises its heel if the hip is ahead of its ankle,
    else its toes, by the least angle that reaches. The contact stays what the score says.

    Parameters
    ----------
    heels, headings, ankles, heights, contacts, shares : (n, 2, 2) and (n, 2)
        Of the feet, by side; metres and degrees.
    stays : (n, 2)
        The `Contact` on which a foot turns in the next count, which stays down; `Contact.AIR` for none.

    """
    lengths = np.array([body.sole.of(side) for side in SIDES])
    ankle, ball, high = ANKLE * lengths, LANDMARKS["ball"] * lengths, body.measure("ankle_height")
    angle = np.radians(headings)
    u = np.stack([np.sin(angle), np.cos(angle)], axis=-1)
    away = stand.hips - heels
    ahead = (away * u).sum(axis=-1)
    aside = away[..., 0] * u[..., 1] - away[..., 1] * u[..., 0]
    longest = body.leg(LEFT_IN_KNEE)
    whole = np.sqrt((ahead - ankle) ** 2 + aside**2 + (stand.tops - high) ** 2)
    flat, light = contacts == Contact.FLAT, (contacts != Contact.AIR) & (shares < BINDS - TOLERANCE)
    with np.errstate(invalid="ignore"):
        short = flat & light & (whole > longest + TOLERANCE)
    forward = ahead > ankle
    stays_down = np.where(forward, stays == Contact.HEEL, stays == Contact.BALL)
    # In the plane of the foot: the ankle turns about the ball forward, or about the heel backward. The hip lies at an
    # angle from that pivot, and the leg reaches when the ankle is near enough in angle to it.
    pivot = np.where(forward, ball, 0.0)
    arm_ahead = ankle - pivot
    arm, arm_at = np.hypot(arm_ahead, high), np.arctan2(high, arm_ahead)
    hip_ahead = ahead - pivot
    far, hip_at = np.hypot(hip_ahead, stand.tops), np.arctan2(stand.tops, hip_ahead)
    cosine = (far**2 + aside**2 + arm**2 - longest**2) / (2 * far * arm)
    between = np.where(forward, arm_at - hip_at, hip_at - arm_at)
    needed = np.degrees(between - np.arccos(np.clip(cosine, -1.0, 1.0)))
    most = np.where(forward, HEEL_UP, TOES_UP)
    turned = np.where(short & ~stays_down, np.clip(needed, 0.0, most), 0.0)
    turn = np.radians(turned)
    at = np.where(forward, arm_at - turn, arm_at + turn)
    left = np.sqrt(far**2 + aside**2 + arm**2 - 2 * far * arm * np.cos(at - hip_at)) - longest
    # On a heel or a ball that the score says, the foot stands as it is.
    other = np.sqrt(((stand.hips - ankles) ** 2).sum(axis=-1) + (stand.tops - heights) ** 2) - longest
    missing = np.where(short, np.maximum(left, 0.0), np.where(light & ~flat, np.maximum(other, 0.0), 0.0))
    missing = np.where(missing > TOLERANCE, missing, 0.0)
    # Where the ankle is with that part up.
    up = (turned > 0.0)[..., None]
    moved = heels + (pivot + arm * np.cos(at))[..., None] * u
    high_up = np.where(up[..., 0], arm * np.sin(at), heights)
    return Raised(np.where(forward, turned, -turned), np.where(up, moved, ankles), high_up, missing)


def least_short(
    body: Body,
    stand: Stand,
    rows: Ints,
    sides: Ints,
    placed: Placed,
    ankles: Floats,
    heights: Floats,
) -> Floats:
    """(m,) metres by which a foot is out of its leg's reach in some rows.

    With the centre where it is best over the sole that stands and the pelvis tilted toward the foot; the arguments as
    for `with_landings`.
    """
    if not len(rows):
        return np.zeros(0)
    reach = _Reach(body, stand, rows, sides, placed.pelvis, ankles, heights)
    moves = _moves_over(body, rows, sides, placed)
    moves = np.concatenate([np.zeros((len(rows), 1, 2)), moves], axis=1)
    least = np.minimum(
        reach.short(moves, np.zeros((1, 1))).min(axis=1), reach.short(moves, np.ones((1, 1))).min(axis=1)
    )
    return np.asarray(np.maximum(least, 0.0))
