"""Recall: a count is hidden, the hand places what it remembers, and what was missed comes again sooner.

The interval rule is SM-2 (P. A. Woźniak, Optimization of learning, 1990): quality q from 0 to 5; the easiness E begins
at 2.5 and becomes E + 0.1 − (5 − q)(0.08 + 0.02 (5 − q)), at least 1.3; the interval is 1 day, then 6 days, then the
last one times E; below q = 3 it begins again with 1 day, and E stays as it was.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from datetime import date, timedelta

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.leftright import SIDES, Side
from waltzmark.core.base.records import Record, replace
from waltzmark.core.body.pose import FootPose, Pose
from waltzmark.core.practice.entries import Entry
from waltzmark.core.walk.trace import Trace

__all__ = ["Answer", "Card", "Missed", "answered", "cards_of", "due", "missed", "quality", "questions", "reviewed"]

_EASY, _LEAST = 2.5, 1.3
#: What is still remembered well: centimetres, degrees, % of the weight (coaching defaults).
_CM, _DEGREES, _PERCENT = 8.0, 10.0, 10.0


class Answer(Record):
    """What the hand placed: the pose at the end of the count as it is remembered."""

    feet: tuple[FootPose, FootPose]
    left_share: float
    torso: float

    @classmethod
    def of(cls, pose: Pose) -> Answer:
        return cls((pose.left, pose.right), pose.left_share, pose.torso)


class Missed(Record):
    """How far an answer is off.

    The worse foot in cm and degrees, the chest in degrees, the weight in % (without a sign), and which foot the cm are
    of.
    """

    cm: float
    degrees: float
    torso: float
    percent: float
    side: Side

    @property
    def times(self) -> float:
        """The worst of them, in what is still remembered well."""
        return max(self.cm / _CM, self.degrees / _DEGREES, self.torso / _DEGREES, self.percent / _PERCENT)


def missed(trace: Trace, row: int, answer: Answer) -> Missed:
    """How far an answer is from the count of a row."""
    pose = trace.pose(row)
    apart = [math.hypot(answer.feet[s].x - pose.foot(s).x, answer.feet[s].y - pose.foot(s).y) for s in SIDES]
    turned = [abs(heading_difference(pose.foot(s).heading, answer.feet[s].heading)) for s in SIDES]
    side = Side.RIGHT if apart[1] > apart[0] else Side.LEFT
    return Missed(
        100.0 * apart[side],
        max(turned),
        abs(heading_difference(pose.torso, answer.torso)),
        100.0 * abs(answer.left_share - pose.left_share),
        side,
    )


def quality(off: Missed) -> int:
    """How well it was remembered, 0 to 5.

    5 within a quarter of what is still remembered well, 4 within half, 3 within it, 2 within twice, 1 within four
    times.
    """
    return next((q for q, most in ((5, 0.25), (4, 0.5), (3, 1.0), (2, 2.0), (1, 4.0)) if off.times <= most), 0)


class Card(Record):
    """What is remembered of one count.

    posture, count: which; the last quality, the easiness, how often in a row it was remembered, the interval in days,
    and the day it is due.
    """

    posture: str
    count: int
    easiness: float = _EASY
    row: int = 0
    interval: int = 0
    due: date | None = None
    quality: int = -1


def reviewed(card: Card, q: int, day: date) -> Card:
    """The card after it was asked on a day and answered with a quality: SM-2."""
    easiness = card.easiness
    if q < 3:
        row, interval = 0, 1
    else:
        easiness = max(easiness + 0.1 - (5 - q) * (0.08 + 0.02 * (5 - q)), _LEAST)
        row = card.row + 1
        if row == 1:
            interval = 1
        elif row == 2:
            interval = 6
        else:
            interval = math.ceil(card.interval * easiness)
    return replace(card, easiness=easiness, row=row, interval=interval, due=day + timedelta(days=interval), quality=q)


def questions(trace: Trace) -> tuple[tuple[str, int], ...]:
    """The counts that can be asked: those in which a foot moves, the weight is poured or the chest turns."""
    found = []
    for row in range(1, len(trace)):
        posture = trace.posture(row)
        moves = (trace.move_kinds[row] > 0).any() or abs(trace.shares[row, 0] - trace.shares[row - 1, 0]) > 0.005
        if posture is not None and (moves or abs(heading_difference(trace.torso[row - 1], trace.torso[row])) > 0.5):
            found.append((posture, int(trace.counts[row])))
    return tuple(found)


def answered(entry: Entry) -> tuple[tuple[str, int], int] | None:
    """Which count an entry of recall is about, and its quality; None for another entry."""
    if entry.kind != "recall" or entry.measured is None or not entry.what.startswith("count "):
        return None
    number = entry.what.removeprefix("count ")
    return ((entry.posture, int(number)), int(entry.measured)) if number.isdigit() else None


def cards_of(entries: Iterable[Entry]) -> dict[tuple[str, int], Card]:
    """The cards as the book has left them, by posture and count."""
    found: dict[tuple[str, int], Card] = {}
    for entry in sorted(entries, key=lambda each: (each.when, each.id)):
        known = answered(entry)
        if known is not None:
            key, q = known
            found[key] = reviewed(found.get(key, Card(*key)), q, entry.when.date())
    return found


def due(trace: Trace, cards: Mapping[tuple[str, int], Card], day: date) -> tuple[tuple[str, int], ...]:
    """What is to be asked on a day.

    What is due, the longest overdue first and of those the worst remembered; then what was never asked, in the order of
    the walk.
    """
    asked = questions(trace)
    known = [cards[key] for key in asked if key in cards]
    late = sorted(
        (card for card in known if card.due is not None and card.due <= day),
        key=lambda card: (card.due, card.quality),
    )
    return (*((card.posture, card.count) for card in late), *(key for key in asked if key not in cards))
