"""How large a stance is where the score does not say: what the school wants, as far as the body gives it."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from waltzmark.core.base.arrays import Floats
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record
from waltzmark.core.body.body import Body, sided
from waltzmark.core.body.gap import gaps
from waltzmark.core.body.reach import least_bends, longest_empty_length

__all__ = ["StepSize", "Stepping", "bow_size", "cross_length", "side_width"]

#: Foot lengths: a bow is so long at most by its share of reach, and never shorter than the least.
_WANTED, _LEAST = 1.7, 1.3
#: A share of reach rises so far before the width gives way; what a full bow takes, too.
_STRETCHED = 0.95
#: Degrees that the standing knee may bend more than is set, for a bow of the wanted length.
_MORE = 10.0
_CROSS = 1.1  # foot lengths of a crossing step at the least
_CLEAR = 0.02  # metres from the toes of the other foot
_FINE = 0.002  # metres to which a width is found


class StepSize(NamedTuple):
    """The size of a step's stance.

    Length and width in metres in the frame of a stance's facing; more: degrees that the standing knee must bend beyond
    what is set; full: whether the body gives all that the school wants.
    """

    length: float
    width: float
    more: float = 0.0
    full: bool = True


class Stepping(Record):
    """How a stance is stepped into.

    From which supporting side, its facing in degrees clockwise from that foot's heading, what it lands on, the landing
    foot's heading clockwise from the supporting one, and whether it steps back.
    """

    support: Side
    away: float
    landing: Contact
    toe: float
    back: bool


@lru_cache(maxsize=4096)
def bow_size(body: Body, bend: float, share: float, width: float, how: Stepping) -> StepSize:
    """The size of a bow, or of a low stance.

    Wanted are T = max(1.3, 1.7 min(1, share / 0.95)) foot lengths. First the share of reach rises to 0.95, then the
    width gives way to hip width, then the bend, by up to 10 degrees within what this leg takes alone, and then the
    length, to 1.3 foot lengths at the least.

    Parameters
    ----------
    bend
        Of the standing knee, degrees.
    share
        Of the longest empty step that the school asks for.
    width
        The school's, metres.
    """
    part, foot = max(share, _STRETCHED), body.foot_length

    def longest(wide: float, more: float = 0.0) -> float:
        return longest_empty_length(body, bend + more, wide, how.support, how.landing, how.away, how.toe, how.back)

    wanted = max(_LEAST, _WANTED * min(1.0, share / _STRETCHED)) * foot
    narrow = min(body.named_width("hip"), width)
    widths = np.linspace(width, narrow, 1 + math.ceil((width - narrow) / _FINE))
    # First as the school has it, then with the share of reach risen, ever narrower.
    lengths = np.append(wanted / share, np.full(len(widths), wanted / part))
    needs = _least_bends(body, lengths, np.append(width, widths), how)
    if needs[0] <= bend:
        return StepSize(max(share * longest(width), wanted), width)
    enough = np.flatnonzero(needs[1:] <= bend)
    if len(enough):
        return StepSize(wanted, float(widths[enough[0]]), full=bool(enough[0] == 0))
    most = max(min(_MORE, min(body.one_leg(how.support), sided(body.knee_most, how.support)) - bend), 0.0)
    more = float(needs[-1]) - bend
    if more <= most:
        return StepSize(wanted, narrow, more, full=False)
    return StepSize(max(_LEAST * foot, part * longest(narrow, most)), narrow, most, full=False)


def _least_bends(body: Body, lengths: Floats, widths: Floats, how: Stepping) -> Floats:
    """(n,) least bends in degrees that land a step so long and so wide, (n,), empty; metres."""
    ahead, across = _ways(how)
    heels = lengths[:, None] * ahead + how.support.other.sign * widths[:, None] * across
    number = len(widths)
    support = np.zeros((number, 2)), np.zeros(number)
    landing = np.full(number, how.toe), np.full(number, int(how.landing))
    return least_bends(body, how.support, heels, *landing, *support)


def _ways(how: Stepping) -> tuple[Floats, Floats]:
    """The way a step goes, and to the right of its facing, in the frame of the supporting foot."""
    angle = np.radians(how.away)
    ahead = np.array([np.sin(angle), np.cos(angle)]) * (-1.0 if how.back else 1.0)
    return ahead, np.array([np.cos(angle), -np.sin(angle)])


@lru_cache(maxsize=1024)
def cross_length(body: Body, bend: float, share: float, width: float, how: Stepping) -> float:
    """How long a crossing step is, metres.

    The longer of a share of reach and 1.1 foot lengths, and at least clear of the other foot's toes; bend in degrees,
    width in metres, negative where it has crossed.
    """
    reach = longest_empty_length(body, bend, width, how.support, how.landing, how.away, how.toe, how.back)
    length = max(share * reach, _CROSS * body.foot_length)
    side, (ahead, across) = how.support.other, _ways(how)
    lengths = length + np.arange(0.0, 1.5 * body.foot_length, _FINE)
    heels = lengths[:, None] * ahead + side.sign * width * across
    moving = np.column_stack([heels, np.full(len(heels), how.toe)])
    clear = gaps(body.sole, side, np.zeros(3), moving) >= _CLEAR
    return float(lengths[int(clear.argmax())]) if clear.any() else length


@lru_cache(maxsize=1024)
def side_width(body: Body, bend: float, width: float, how: Stepping) -> float:
    """How wide a step to the side is, metres.

    The school's width, or 0.95 of the widest empty step where that is less; bend in degrees.
    """
    away = how.away + how.support.other.sign * 90.0
    widest = longest_empty_length(body, bend, 0.0, how.support, how.landing, away, how.toe)
    return min(width, _STRETCHED * widest) if widest > 0.0 else width
