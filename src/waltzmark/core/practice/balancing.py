"""The weight on scales, and a simulated person who stands on them.

What the plates read, a band about a target, how long it is held, and how far one feels it wrong.
"""

from __future__ import annotations

import math
import random
import statistics
from collections.abc import Sequence
from dataclasses import dataclass, field

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import Message, message
from waltzmark.core.base.records import Record

__all__ = ["BIAS_AFTER", "LEVEL", "Band", "Bias", "Holding", "Person", "Reading", "bias_of", "share_of"]

#: So many readings before a bias is told, and how much of a bias is worth telling, %.
BIAS_AFTER, _WORTH = 10, 1.0
#: Metres that the plates may differ in height before their readings are doubted: a lower foot takes more.
LEVEL = 0.01
_MOST = 1000.0  # kg that a plate can read


class Reading(Record):
    """What the plates read at a time: seconds, and kilograms of either plate, None where there is none."""

    t: float
    left: float | None = None
    right: float | None = None

    def __post_init__(self) -> None:
        for value in (self.left, self.right):
            if value is not None and not -1.0 <= value <= _MOST:  # which no nan is
                raise WaltzmarkError("scale.reading", most=_MOST, value=value)
        if not math.isfinite(self.t):
            raise WaltzmarkError("scale.time")


def share_of(reading: Reading, mass: float) -> float | None:
    """The left foot's share, 0 to 1: of both plates together where there are two, else of the body's mass in kg.

    None without a plate, or while nobody stands on them (less than a fifth of the mass).
    """
    if reading.left is not None and reading.right is not None:
        whole = reading.left + reading.right
        return min(max(reading.left / whole, 0.0), 1.0) if whole > 0.2 * mass else None
    one = reading.left if reading.left is not None else reading.right
    if one is None:
        return None
    share = min(max(one / mass, 0.0), 1.0)
    return share if reading.left is not None else 1.0 - share


class Band(Record):
    """A target and how far beside it still counts: shares of the left foot, 0 to 1."""

    target: float
    beside: float = 0.05

    def holds(self, share: float) -> bool:
        return abs(share - self.target) <= self.beside + 1e-9


@dataclass
class Holding:
    """How long a band has been held without a break. needed: seconds."""

    band: Band
    needed: float = 5.0
    held: float = 0.0
    best: float = 0.0
    _last: float | None = field(default=None, repr=False)

    def take(self, t: float, share: float | None) -> bool:
        """Takes a reading at a time in seconds; whether the band has now been held for long enough.

        A gap of more than a second, and a clock that goes back, begin anew.
        """
        within = share is not None and self.band.holds(share)
        step = None if self._last is None else t - self._last
        self._last = t if within else None
        if not within or step is None or not 0.0 <= step <= 1.0:
            self.held = 0.0
        else:
            self.held += step
        self.best = max(self.best, self.held)
        return self.held >= self.needed - 1e-9

    def begin_anew(self) -> None:
        """Nothing has been held yet."""
        self.held, self._last = 0.0, None


class Bias(Record):
    """How far a person puts more on the left foot than they mean to, % of the weight, and from how many readings."""

    percent: float
    readings: int

    @property
    def message(self) -> Message:
        side = Side.LEFT if self.percent > 0 else Side.RIGHT
        return message("scale.bias", by=abs(self.percent), side=side, n=self.readings)


def bias_of(found: Sequence[tuple[float, float]]) -> Bias | None:
    """The bias in readings (target, share found): their mean error.

    Told from `BIAS_AFTER` readings on, where it is worth telling and more than twice its standard error.
    """
    if len(found) < BIAS_AFTER:
        return None
    errors = [100.0 * (share - target) for target, share in found]
    mean = statistics.fmean(errors)
    doubt = statistics.stdev(errors) / math.sqrt(len(errors))
    return Bias(mean, len(errors)) if abs(mean) >= _WORTH and abs(mean) > 2.0 * doubt else None


class Person:
    """A simulated person on the plates, who follows a target and sways about it.

    mass: kg; bias: share put on the left too much; sway: share, the standard deviation of an Ornstein-Uhlenbeck process
    of one second's memory (postural sway is of that kind); drift: share a minute; lag: seconds it takes to follow.
    The same seed stands the same.
    """

    def __init__(
        self,
        mass: float = 65.0,
        bias: float = 0.0,
        sway: float = 0.02,
        drift: float = 0.0,
        lag: float = 0.6,
        seed: int = 1,
    ) -> None:
        self.mass, self.bias, self.sway, self.drift, self.lag = mass, bias, sway, drift, lag
        self.target = 0.5
        self._dice = random.Random(seed)
        self._share, self._sway, self._t = 0.5, 0.0, 0.0

    def stand(self, seconds: float) -> tuple[float, float]:
        """Stands on for some seconds; kilograms on the left and on the right foot then."""
        self._t += seconds
        wanted = self.target + self.bias + self.drift * self._t / 60.0
        self._share += (wanted - self._share) * (1.0 - math.exp(-seconds / self.lag))
        keeps = math.exp(-seconds)
        self._sway = keeps * self._sway + self.sway * math.sqrt(1.0 - keeps * keeps) * self._dice.gauss(0.0, 1.0)
        share = min(max(self._share + self._sway, 0.0), 1.0)
        return self.mass * share, self.mass * (1.0 - share)
