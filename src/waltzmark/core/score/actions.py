"""What a score says: frozen values, one class an action, kept as written.

`Count.mirrored` and `Count.turned` give the other side and the turned repeat of a count.
"""

from __future__ import annotations

from functools import cached_property
from typing import Literal, TypeVar

from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.messages import Message
from waltzmark.core.base.records import Record, replace
from waltzmark.core.base.units import Length
from waltzmark.core.score.facings import Aim, Facing
from waltzmark.core.score.places import (
    Beside,
    Faced,
    Half,
    Manner,
    Mark,
    Part,
    Place,
    Spot,
    mirrored_place,
    turned_place,
)

__all__ = [
    "Action",
    "Beside",
    "Breathe",
    "Count",
    "Expect",
    "ExpectContact",
    "ExpectHeading",
    "ExpectMeasure",
    "ExpectShare",
    "Faced",
    "Gaze",
    "Half",
    "Hand",
    "Hold",
    "Kick",
    "Land",
    "Lean",
    "Lift",
    "Manner",
    "Mark",
    "Part",
    "Pivot",
    "Place",
    "Sense",
    "Shift",
    "Sink",
    "Spot",
    "Step",
    "Torso",
    "Unread",
    "When",
]

A = TypeVar("A")
#: The deepest bend of a knee that can be written, degrees.
DEEPEST = 120.0
Sense = Literal["cw", "ccw"]
#: A turn beside a shift comes before the weight has moved, or after.
When = Literal["early", "late"]
Path = Literal["close", "straight", "front", "behind", "slide"]
Height = Literal["knee", "hip", "waist", "chest", "shoulder", "head", "above"]
Shape = Literal["push", "guard", "fist", "hook", "open", "palm-up", "palm-down", "palm-in", "palm-out"]
KickHeight = Literal["ankle", "knee", "hip", "waist", "chest", "head"]
KickPart = Literal["heel", "toe", "edge", "sole"]


class Shift(Record):
    """Pour the weight: *percent* on *side*, or, as a pair (side None), on the left."""

    side: Side | None
    percent: float

    @property
    def left(self) -> float:
        """Share of the left foot, 0 to 1."""
        return (100.0 - self.percent if self.side is Side.RIGHT else self.percent) / 100.0


class Pivot(Record):
    """Turn a foot on its heel, ball or toe, to a facing or by a turn; *when*: before or after the shift."""

    side: Side
    part: Part
    aim: Aim
    sense: Sense | None = None
    when: When | None = None


class Step(Record):
    """Set the empty foot down at a place."""

    side: Side
    place: Place
    toe: Aim | None = None
    via: Path | None = None
    land: Contact | None = None


class Land(Record):
    """Change the contact of a foot in place: flat, heel or ball."""

    side: Side
    contact: Contact


class Lift(Record):
    """Take an empty foot off the floor, with *knee* for a raised knee."""

    side: Side
    knee: bool = False


class Kick(Record):
    """The lifted foot goes out: where to, how high, and with which part of it.

    It comes back with its next step, or when it is lifted or set down anew.
    """

    side: Side
    facing: Facing
    height: KickHeight
    part: KickPart | None = None


class Torso(Record):
    """Turn the waist; *when*: before or after the shift of its count."""

    aim: Aim
    when: When | None = None


class Gaze(Record):
    """Turn the eyes."""

    aim: Aim


class Hand(Record):
    """A hand: where it points, how high, and its shape."""

    side: Side
    facing: Facing
    height: Height
    shape: Shape | None = None


class Sink(Record):
    """Knee bend of the standing leg in degrees from here on; with *by*, so much more or less of it than now."""

    degrees: float
    by: Literal["more", "less"] | None = None

    def bend(self, now: float) -> float:
        """The bend in degrees it leads to from the one there is."""
        if self.by is None:
            return self.degrees
        return min(max(now + (self.degrees if self.by == "more" else -self.degrees), 0.0), DEEPEST)


class Lean(Record):
    """Degrees that the trunk leans forward from here on; below 0 it leans back."""

    degrees: float


class Breathe(Record):
    """Breathe in, or out."""

    inward: bool


class Hold(Record):
    """Nothing moves."""


class ExpectShare(Record):
    """The analyst says how the weight lies; side None means the left share of a pair."""

    side: Side | None
    percent: float


class ExpectHeading(Record):
    """The analyst says where the torso, the gaze, the hips or a foot's toe points (side None: not a foot)."""

    of: Literal["torso", "gaze", "hips", "toe"]
    facing: Facing
    side: Side | None = None


class ExpectContact(Record):
    """The analyst says which part of a foot is down."""

    side: Side
    contact: Contact


class ExpectMeasure(Record):
    """The analyst says how wide or long the stance is."""

    of: Literal["width", "length"]
    length: Length


class Unread(Record):
    """A line that cannot be read, kept as it was typed until it is mended.

    advice: what is wrong with it and what would mend it; column, length: the word it is about, column from 1.
    They say no more than the text does, so two unread lines are the same when their texts are.
    """

    text: str
    advice: Message = Message("score.unread")
    column: int = 1
    length: int = 1

    def __eq__(self, other: object) -> bool:
        return self.text == other.text if isinstance(other, Unread) else NotImplemented

    def __hash__(self) -> int:
        return hash(self.text)


Expect = ExpectShare | ExpectHeading | ExpectContact | ExpectMeasure
Action = (
    Shift
    | Pivot
    | Step
    | Land
    | Lift
    | Kick
    | Torso
    | Gaze
    | Hand
    | Sink
    | Lean
    | Breathe
    | Hold
    | ExpectShare
    | ExpectHeading
    | ExpectContact
    | ExpectMeasure
    | Unread
)


class Count(Record, dict=True):
    """One line of a score: actions that happen together, their beats and a note."""

    actions: tuple[Action, ...] = ()
    beats: float = 1.0
    note: str | None = None

    @cached_property
    def moves(self) -> bool:
        """Whether the line is a count: expectations alone, a note alone, or what cannot be read, take no number."""
        return any(not isinstance(action, Expect | Unread) for action in self.actions)

    @cached_property
    def parts(self) -> tuple[Count, ...]:
        """The count as the parts that come one after the other, each taking as long.

        What is early, the shift with all else, and what is late. One part where nothing is early or late, or nothing is
        shifted.
        """
        if not any(getattr(action, "when", None) for action in self.actions) or self.one(Shift) is None:
            return (self,)
        found: dict[str | None, list[Action]] = {"early": [], None: [], "late": []}
        expected = [action for action in self.actions if isinstance(action, Expect)]
        for action in self.actions:
            if isinstance(action, Pivot | Torso):
                found[action.when].append(replace(action, when=None))
            elif not isinstance(action, Expect):
                found[None].append(action)
        last = "late" if found["late"] else None
        found[last] += expected
        parts = [actions for actions in found.values() if actions]
        return tuple(Count(tuple(actions), max(round(self.beats / len(parts), 2), 0.01)) for actions in parts)

    @classmethod
    def of_parts(cls, parts: tuple[Count, ...], own: Count) -> Count | None:
        """The count whose `parts` these are, with the beats and the note of *own*.

        None where there is none such: what comes before the shift or after it may only turn.
        """
        shifting = [number for number, part in enumerate(parts) if part.one(Shift) is not None]
        if len(shifting) != 1:
            return None
        actions: list[Action] = []
        for number, part in enumerate(parts):
            when: When | None = None if number == shifting[0] else "early" if number < shifting[0] else "late"
            for action in part.actions:
                if isinstance(action, Pivot | Torso):
                    actions.append(replace(action, when=when))
                elif when is None or isinstance(action, Expect):
                    actions.append(action)
                else:
                    return None
        return cls(tuple(actions), own.beats, own.note)

    @cached_property
    def unread(self) -> Unread | None:
        """The line as typed, when it could not be read."""
        return next((action for action in self.actions if isinstance(action, Unread)), None)

    @cached_property
    def spots(self) -> bool:
        """Whether a foot is set to an absolute floor position."""
        return any(isinstance(action, Step) and isinstance(action.place, Spot) for action in self.actions)

    @cached_property
    def inward(self) -> bool | None:
        """True where it breathes in, False where out, None where it says nothing."""
        return next((action.inward for action in self.actions if isinstance(action, Breathe)), None)

    @property
    def expectations(self) -> tuple[Expect, ...]:
        return tuple(action for action in self.actions if isinstance(action, Expect))

    def one(self, kind: type[A], side: Side | None = None) -> A | None:
        """Its first action of a kind, of that side's foot or hand where a side is named; None when it has none."""
        return next(
            (a for a in self.actions if isinstance(a, kind) and (side is None or getattr(a, "side", None) is side)),
            None,
        )

    def exchanged(self, old: Action, new: Action) -> Count:
        """The count with one action exchanged."""
        return replace(self, actions=tuple(new if action is old else action for action in self.actions))

    def with_more(self, *actions: Action) -> Count:
        """The count with more actions: before what is expected of it, and in place of a hold."""
        kept = tuple(action for action in self.actions if not isinstance(action, Hold))
        moving = sum(not isinstance(action, Expect) for action in kept)
        return replace(self, actions=(*kept[:moving], *actions, *kept[moving:]))

    def mirrored(self, axis: float, twelve: str) -> Count:
        """The other side: left and right exchanged about a line of heading *axis* through the floor's origin."""
        return replace(self, actions=tuple(_mirrored(action, axis, twelve) for action in self.actions))

    def turned(self, degrees: float, twelve: str) -> Count:
        """The same count turned clockwise about the floor's origin."""
        return replace(self, actions=tuple(_turned(action, degrees, twelve) for action in self.actions))

    def moved(self, dx: float, dy: float) -> Count:
        """The same count with its floor positions moved by metres."""
        if not self.spots:
            return self
        return replace(self, actions=tuple(_moved(action, dx, dy) for action in self.actions))


def _mirrored(action: Action, axis: float, twelve: str) -> Action:
    changes: dict[str, object] = {}
    side = getattr(action, "side", None)
    if side is not None:
        changes["side"] = side.other
    elif isinstance(action, (Shift, ExpectShare)):
        changes["percent"] = round(100.0 - action.percent, 9)
    for name in ("aim", "facing", "toe"):
        value = getattr(action, name, None)
        if value is not None:
            changes[name] = value.mirrored(axis, twelve)
    if isinstance(action, Pivot) and action.sense:
        changes["sense"] = "ccw" if action.sense == "cw" else "cw"
    if isinstance(action, Step):
        changes["place"] = mirrored_place(action.place, axis, twelve)
    return replace(action, **changes) if changes else action  # type: ignore[arg-type]


def _turned(action: Action, degrees: float, twelve: str) -> Action:
    changes: dict[str, object] = {}
    for name in ("aim", "facing", "toe"):
        value = getattr(action, name, None)
        if value is not None:
            changes[name] = value.turned(degrees, twelve)
    if isinstance(action, Step):
        changes["place"] = turned_place(action.place, degrees, twelve)
    return replace(action, **changes) if changes else action  # type: ignore[arg-type]


def _moved(action: Action, dx: float, dy: float) -> Action:
    if isinstance(action, Step) and isinstance(action.place, Spot):
        return replace(action, place=Spot(action.place.x + dx, action.place.y + dy))
    return action
