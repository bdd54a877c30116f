"""Words for the ear: what each count does, said before it is done; no sign and no abbreviation, hours as one says them."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

from waltzmark.core.base.angles import heading_difference, normal
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.form.form import Form
from waltzmark.core.room.things import wall_heading
from waltzmark.core.score import actions as act
from waltzmark.core.walk.annotations import hands_of, kicks_at
from waltzmark.core.walk.ground import PIVOT, STEP
from waltzmark.core.walk.trace import Trace
from waltzmark.words.language import N_, tr
from waltzmark.words.steps import hand_words

__all__ = [
    "HEARD_WORDS",
    "LEVEL_WORDS",
    "Places",
    "beat_words",
    "drill_words",
    "hour_words",
    "places_of",
    "recall_words",
    "seconds_words",
    "wordings",
]

#: How much is spoken, by `VOICES`.
LEVEL_WORDS = {
    "none": N_("no voice"),
    "postures": N_("names of postures"),
    "steps": N_("feet and turns"),
    "all": N_("everything, with hands and breath"),
}
#: What else is heard, and whether a count waits.
HEARD_WORDS = {
    "tick": N_("A soft tick at each count"),
    "breath": N_("The sound of breath"),
    "beats": N_("Count the beats of long counts"),
    "waits": N_("Wait for the voice"),
}
_HOURS = (
    N_("twelve"), N_("one"), N_("two"), N_("three"), N_("four"), N_("five"), N_("six"), N_("seven"), N_("eight"),
    N_("nine"), N_("ten"), N_("eleven"),
)  # fmt: skip
_TO = (N_("to {hour}"), N_("to quarter past {hour}"), N_("to half past {hour}"), N_("to quarter to {hour}"))
_NEAR = 12.0  # degrees within which a wall with a name is told instead of an hour
_SIGHT = 6.0, 6.0  # degrees and metres within which a thing that stands in the room is
_SECONDS = (10, 5, 4, 3, 2, 1)  # of the count-in, said when so many are left
_STEPS = {
    (Side.LEFT, Contact.HEEL): N_("left foot {to}, heel first"),
    (Side.LEFT, Contact.BALL): N_("left foot {to}, ball first"),
    (Side.LEFT, Contact.FLAT): N_("left foot {to}, flat"),
    (Side.LEFT, Contact.AIR): N_("left foot {to}, in the air"),
    (Side.RIGHT, Contact.HEEL): N_("right foot {to}, heel first"),
    (Side.RIGHT, Contact.BALL): N_("right foot {to}, ball first"),
    (Side.RIGHT, Contact.FLAT): N_("right foot {to}, flat"),
    (Side.RIGHT, Contact.AIR): N_("right foot {to}, in the air"),
}
_SHORT_STEPS = {Side.LEFT: N_("left {to}"), Side.RIGHT: N_("right {to}")}
_TURNS = {
    (Side.LEFT, True): N_("turn the left foot in, {to}"),
    (Side.LEFT, False): N_("turn the left foot out, {to}"),
    (Side.RIGHT, True): N_("turn the right foot in, {to}"),
    (Side.RIGHT, False): N_("turn the right foot out, {to}"),
}
_SHORT_TURNS = {Side.LEFT: N_("left foot {to}"), Side.RIGHT: N_("right foot {to}")}
_CONTACTS = {
    (Side.LEFT, Contact.HEEL): N_("left toes up"),
    (Side.LEFT, Contact.BALL): N_("left heel up"),
    (Side.LEFT, Contact.FLAT): N_("left foot flat"),
    (Side.LEFT, Contact.AIR): N_("lift the left foot"),
    (Side.RIGHT, Contact.HEEL): N_("right toes up"),
    (Side.RIGHT, Contact.BALL): N_("right heel up"),
    (Side.RIGHT, Contact.FLAT): N_("right foot flat"),
    (Side.RIGHT, Contact.AIR): N_("lift the right foot"),
}
_ALL = {Side.LEFT: N_("weight on the left, all of it"), Side.RIGHT: N_("weight on the right, all of it")}
_SHARE = {Side.LEFT: N_("shift left, {share}"), Side.RIGHT: N_("shift right, {share}")}
_HANDS = {Side.LEFT: N_("left hand {how}"), Side.RIGHT: N_("right hand {how}")}
_SHORT_KICKS = {Side.LEFT: N_("kick left"), Side.RIGHT: N_("kick right")}
_KICKS = {Side.LEFT: N_("kick with the left, {to}"), Side.RIGHT: N_("kick with the right, {to}")}


def hour_words(heading: float) -> str:
    """Where a heading is, to a quarter of an hour, as one says it.

    >>> hour_words(315.0), hour_words(0.0), hour_words(97.0)
    ('to half past ten', 'to twelve', 'to quarter past three')
    """
    quarters = round(normal(heading) / 7.5) % 48
    hour, quarter = divmod(quarters, 4)
    return tr(_TO[quarter], hour=tr(_HOURS[(hour + (quarter == 3)) % 12]))


class Places(NamedTuple):
    """What has a name in the room. walls: the heading of each; things: where each stands, metres from the start mark;
    both as the form sees them."""

    walls: Mapping[str, float]
    things: Mapping[str, tuple[float, float]]

    def way(self, heading: float, beside: tuple[float, float] | None = None) -> str:
        """Where a heading goes: to something that has a name, else to an hour. beside: where the body is, if it looks
        there; a foot set down *to the pillar* would be heard as set down at it."""
        for name, at in self.walls.items():
            if abs(heading_difference(at, heading)) <= _NEAR:
                return tr("to the {name}", name=name)
        if beside is not None:
            for name, (x, y) in self.things.items():
                dx, dy = x - beside[0], y - beside[1]
                at = math.degrees(math.atan2(dx, dy))
                if 0.0 < math.hypot(dx, dy) <= _SIGHT[1] and abs(heading_difference(at, heading)) <= _SIGHT[0]:
                    return tr("to the {name}", name=name)
        return hour_words(heading)


def places_of(form: Form, turned: float = 0.0) -> Places:
    """What has a name in the room of a form that is begun so many degrees to the right of its start mark."""
    room = form.room
    if room is None:
        return Places({}, {})
    mark = room.start
    up = mark.heading + turned
    walls = {name: normal(wall_heading(room.outline, corner) - up) for corner, name in room.walls}
    angle, things = math.radians(up), {}
    for obstacle in room.obstacles:
        x, y = (sum(each) / len(obstacle.ring) for each in zip(*obstacle.ring, strict=True))
        dx, dy = x - mark.x, y - mark.y
        things[obstacle.name] = (
            dx * math.cos(angle) - dy * math.sin(angle),
            dx * math.sin(angle) + dy * math.cos(angle),
        )
    return Places(walls, things)


_NOWHERE = Places({}, {})


def wordings(
    trace: Trace, row: int, level: str, titles: Mapping[str, str], places: Places = _NOWHERE
) -> tuple[str, ...]:
    """What may be spoken before a count, the fullest first; nothing where the level has nothing to say.

    Parameters
    ----------
    trace, row
        The walk, and the count in it.
    level
        One of `VOICES`.
    titles
        Of postures, by their ids; they are spoken as they are.
    places
        What has a name in the room.

    Returns
    -------
    tuple of str
    """
    if level == "none" or row <= 0:
        return ()
    title = titles.get(trace.posture(row) or "", "") if int(trace.counts[row]) == 1 else ""
    if level == "postures":
        return (title,) if title else ()
    long, short = _feet(trace, row, places)
    if level == "all":
        long += _body(trace, row, places)
        long = long or [tr("hold")]
        short = short or long[:1]
    if title:
        long = [title, *long]
    spoken = [", ".join(long), ", ".join(long[1:] if title else short), ", ".join(short)]
    return tuple(dict.fromkeys(text for text in spoken if text))


def _feet(trace: Trace, row: int, places: Places) -> tuple[list[str], list[str]]:
    """What the feet do, in full and in short."""
    before, after = trace.pose(row - 1), trace.pose(row)
    long: list[str] = []
    short: list[str] = []
    for side in SIDES:
        move, foot = trace.move(row, side), after.foot(side)
        to = places.way(foot.heading)
        if move.kind == STEP:
            long.append(tr(_STEPS[side, Contact(foot.contact)], to=to))
            short.append(tr(_SHORT_STEPS[side], to=to))
        elif move.kind == PIVOT and abs(move.turn) > 0.5:
            inward = (move.turn > 0) is (side is Side.LEFT)
            long.append(tr(_TURNS[side, inward], to=to))
            short.append(tr(_SHORT_TURNS[side], to=to))
        elif foot.contact != before.foot(side).contact:
            rolled = foot.contact is Contact.FLAT and after.share(side) > before.share(side) + 0.005
            if not rolled:
                long.append(tr(_CONTACTS[side, Contact(foot.contact)]))
                short.append(long[-1])
    if trace.written[row].one(act.Kick) is not None:
        for kick in kicks_at(trace, row):
            long.append(tr(_KICKS[kick.side], to=places.way(kick.heading, after.midpoint)))
            short.append(tr(_SHORT_KICKS[kick.side]))
    return long, short


def _body(trace: Trace, row: int, places: Places) -> list[str]:
    """What weight, waist, hands and breath do."""
    before, after = trace.pose(row - 1), trace.pose(row)
    found: list[str] = []
    if abs(after.left_share - before.left_share) > 0.005:
        side = Side.LEFT if after.left_share > before.left_share else Side.RIGHT
        share = round(100.0 * after.share(side))
        found.append(tr(_ALL[side]) if share == 100 else tr(_SHARE[side], share=share))
    if abs(heading_difference(before.torso, after.torso)) > 0.5:
        found.append(tr("waist {way}", way=places.way(after.torso, after.midpoint)))
    if after.sink - before.sink > 0.5:
        found.append(tr("sink"))
    elif before.sink - after.sink > 0.5:
        found.append(tr("rise"))
    found += [tr(_HANDS[hand.side], how=hand_words(hand)) for hand in hands_of(trace, row)]
    if (inward := trace.breaths[row]) is not None:
        found.append(tr("breathe in") if inward else tr("breathe out"))
    return found


def seconds_words() -> dict[int, str]:
    """What is said of the count-in, by the seconds that are left."""
    words = {10: tr("ten seconds")}
    return {left: words.get(left) or tr(_HOURS[left % 12]) for left in _SECONDS}


def beat_words(beats: float) -> tuple[str, ...]:
    """What is counted aloud in a count of so many beats: nothing at the first one, which its own words lead to."""
    return tuple(tr(_HOURS[nth % 12]) for nth in range(2, min(round(beats), 12) + 1))


def drill_words(title: str, side: str, after: int) -> str:
    """What is to be done next of a drill. side: left, right or none; after: how many come after it.

    >>> drill_words("Haul the net", "left", 1)
    'Haul the net, the left side. One more after this.'
    """
    named = {"left": tr("{title}, the left side", title=title), "right": tr("{title}, the right side", title=title)}
    what = named.get(side, title)
    if after == 0:
        return tr("{what}. The last one.", what=what)
    if after == 1:
        return tr("{what}. One more after this.", what=what)
    return tr("{what}. {after} more after this.", what=what, after=after)


def recall_words(title: str, count: int, mark: int | None = None) -> str:
    """What is asked of a count, or how well it was known: a mark out of five.

    >>> recall_words("Haul the net", 2), recall_words("Haul the net", 2, 5)
    ('Haul the net, count 2. Where does it end?', '5 out of 5.')
    """
    if mark is None:
        return tr("{title}, count {count}. Where does it end?", title=title, count=count)
    return tr("{mark} out of 5.", mark=mark)
