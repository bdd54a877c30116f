"""How large a stance is where the score does not say: what the school wants, as far as the body gives it."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.body import Body, sided
from waltzmark.core.body.gap import gaps
from waltzmark.core.body.reach import longest_empty_length

__all__ = ["StepSize", "Stepping", "bow_size", "cross_length", "side_width"]

#: Foot lengths: a bow is so long at most by its share of reach, and never shorter than the least.
_WANTED, _LEAST = 1.7, 1.3
#: A share of reach rises so far before the width gives way; what a full bow takes, too.
_STRETCHED = 0.95
#: Degrees that the standing knee may bend more than is set, for a bow of the wanted length.
_MORE = 10.0
_CROSS = 1.1  # foot lengths of a crossing step at the least
_CLEAR = 0.02  # metres from the toes of the other foot
_FINE = 0.002  # metres to which a width is found, and a tenth of a degree of bend for it


class StepSize(NamedTuple):
    """Length and width in metres in the frame of a stance's facing; more: degrees that the standing knee must bend
    beyond what is set; full: whether the body gives all that the school wants."""

    length: float
    width: float
    more: float = 0.0
    full: bool = True


class Stepping(NamedTuple):
    """How a stance is stepped into: from which supporting side, its facing in degrees clockwise from that foot's
    heading, what it lands on, the landing foot's heading clockwise from the supporting one, and whether it steps
    back."""

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

    def long(wide: float, part: float = max(share, _STRETCHED), more: float = 0.0) -> float:
        return part * longest_empty_length(
            body, bend + more, wide, how.support, how.landing, how.away, how.toe, how.back
        )

    foot = body.foot_length
    wanted = max(_LEAST, _WANTED * min(1.0, share / _STRETCHED)) * foot
    own = long(width, share)
    if own >= wanted or long(width) >= wanted:
        return StepSize(max(own, wanted), width)
    narrow = min(body.named_width("hip"), width)
    if long(narrow) >= wanted:
        wide = width
        while wide - narrow > _FINE:
            middle = (narrow + wide) / 2.0
            narrow, wide = (middle, wide) if long(middle) >= wanted else (narrow, middle)
        return StepSize(wanted, narrow, full=False)
    most = min(_MORE, min(body.one_leg(how.support), sided(body.knee_most, how.support)) - bend)
    if most <= 0.0:
        return StepSize(max(_LEAST * foot, long(narrow)), narrow, full=False)
    if long(narrow, more=most) < wanted:
        return StepSize(max(_LEAST * foot, long(narrow, more=most)), narrow, most, False)
    less = 0.0
    while most - less > 0.1:
        middle = (less + most) / 2.0
        less, most = (less, middle) if long(narrow, more=middle) >= wanted else (middle, most)
    return StepSize(wanted, narrow, most, False)


@lru_cache(maxsize=1024)
def cross_length(body: Body, bend: float, share: float, width: float, how: Stepping) -> float:
    """How long a crossing step is, metres: the longer of a share of reach and 1.1 foot lengths, and at least clear of
    the other foot's toes; bend in degrees, width in metres, negative where it has crossed."""
    reach = longest_empty_length(body, bend, width, how.support, how.landing, how.away, how.toe, how.back)
    length = max(share * reach, _CROSS * body.foot_length)
    side, angle = how.support.other, np.radians(how.away)
    ahead, across = np.array([np.sin(angle), np.cos(angle)]), np.array([np.cos(angle), -np.sin(angle)])
    lengths = length + np.arange(0.0, 1.5 * body.foot_length, _FINE)
    heels = lengths[:, None] * ahead * (-1.0 if how.back else 1.0) + side.sign * width * across
    moving = np.column_stack([heels, np.full(len(heels), how.toe)])
    clear = gaps(body.sole, side, np.zeros(3), moving) >= _CLEAR
    return float(lengths[int(clear.argmax())]) if clear.any() else length


@lru_cache(maxsize=1024)
def side_width(body: Body, bend: float, width: float, how: Stepping) -> float:
    """How wide a step to the side is, metres: the school's width, or 0.95 of the widest empty step where that is less;
    bend in degrees."""
    away = how.away + how.support.other.sign * 90.0
    widest = longest_empty_length(body, bend, 0.0, how.support, how.landing, away, how.toe)
    return min(width, _STRETCHED * widest) if widest > 0.0 else width
