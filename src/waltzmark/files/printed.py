"""What the commands print as JSON: the types its parts have, from which the schemas in ``docs/schemas`` are made.

Figures are metres, degrees and beats unless they say otherwise.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal, NotRequired, TypedDict

import msgspec
from msgspec import Meta

from waltzmark.files.printed_forms import DraftAnswer, FigureAnswer, FitAnswer, TraceAnswer
from waltzmark.files.printed_parts import Brings, CountNumber, EndOfWalk, FindingTold, PostureId, Two

__all__ = ["ANSWERS", "schema"]


class Muted(TypedDict):
    rule: str
    posture: PostureId
    count: CountNumber
    message: str
    reason: Annotated[str, Meta(description="why it is left so")]


class PostureAdds(TypedDict):
    posture: PostureId
    offset: Annotated[Two, Meta(description="metres it moves")]
    turn: Annotated[float, Meta(description="degrees it turns")]


class CountOffs(TypedDict):
    count: int | None
    cm: Annotated[float, Meta(ge=0)]
    degrees: Annotated[float, Meta(ge=0)]
    percent: Annotated[float, Meta(ge=0)]


class SidePair(TypedDict):
    posture: str
    other: str
    axis: Annotated[float, Meta(description="heading of the mirror line, degrees")]
    same: bool
    counts: Annotated[list[CountOffs], Meta(description="the most that feet, facings and weight differ")]


class RoomChecked(TypedDict):
    """Where it comes nearest."""

    clearance: Annotated[float, Meta(description="metres, negative where it does not fit")]
    wanted: Annotated[float, Meta(description="metres")]
    what: Annotated[str, Meta(description="what it comes near to")]
    row: Annotated[int, Meta(ge=0, description="of the trace")]
    place: Annotated[Two, Meta(description="metres in the floor frame")]


class CheckAnswer(TypedDict):
    """Findings and the three answers."""

    school: Annotated[str, Meta(description="id of the school it is judged by")]
    findings: Annotated[list[FindingTold], Meta(description="in the order of the walk")]
    muted: Annotated[list[Muted], Meta(description="what was found and is left so")]
    end: Annotated[EndOfWalk, Meta(description="where it ends, from the start mark")]
    fits: Annotated[bool | None, Meta(description="whether the walk fits the room, null without one")]
    postures: Annotated[list[PostureAdds], Meta(description="what each posture adds")]
    sides: Annotated[list[SidePair], Meta(description="the pairs that the form declares")]
    room: NotRequired[Annotated[RoomChecked, Meta(description="where it comes nearest")]]


class ComparedPostures(TypedDict):
    a: Annotated[str | None, Meta(description="id in A")]
    b: Annotated[str | None, Meta(description="id in B")]
    likeness: Annotated[float, Meta(ge=0, le=1)]
    differences: list[str]


class CompareAnswer(TypedDict):
    """What differs from A to B."""

    form: Annotated[list[str], Meta(description="of the whole form, in words")]
    postures: Annotated[list[ComparedPostures], Meta(description="in the order of A")]


class HomeMark(TypedDict):
    """Home."""

    x: float
    y: float
    facing: Annotated[float, Meta(description="degrees")]
    within: Annotated[float, Meta(ge=0, description="metres that are as good as home")]
    turn: Annotated[float, Meta(ge=0, description="degrees that are")]


class LedgerLine(TypedDict):
    posture: PostureId
    offset: Annotated[Two, Meta(description="metres it moves")]
    turn: float
    along: Annotated[float, Meta(description="metres of it along the way from home to the end")]


CountChange = TypedDict(
    "CountChange",
    {
        "posture": Annotated[str, Meta(description="the one that has the line")],
        "count": CountNumber,
        "what": Literal["length", "width", "gap", "distance", "facing", "turn", "passes", "added"],
        "from": float,
        "to": float,
        "unit": Literal["cm", "°", "times", "steps"],
    },
)


class ClosingFound(TypedDict):
    words: str
    changes: list[CountChange]
    total: Annotated[float, Meta(ge=0, description="cm changed in all")]
    distance: Annotated[float, Meta(ge=0, description="metres from home that remain")]
    turn: Annotated[float, Meta(description="degrees that remain")]
    brings: Brings


class RoundsWalked(TypedDict):
    """Walked again and again."""

    drift: Annotated[Two, Meta(description="metres a round")]
    turn: Annotated[float, Meta(description="degrees a round")]
    home_after: Annotated[int | None, Meta(description="rounds until it is home, null when 72 do not bring it there")]


class HomeAnswer(TypedDict):
    """What carries it away from home, and what brings it back."""

    offset: Annotated[Two, Meta(description="metres from home to the end")]
    distance: Annotated[float, Meta(ge=0, description="metres")]
    turn: Annotated[float, Meta(description="degrees, clockwise positive")]
    turned: Annotated[float, Meta(description="degrees that the chest turns over the whole form")]
    target: Annotated[HomeMark, Meta(description="home")]
    ledger: Annotated[list[LedgerLine], Meta(description="adds up to the way from start to end")]
    closings: Annotated[list[ClosingFound], Meta(description="what would close it")]
    rounds: Annotated[RoundsWalked, Meta(description="walked again and again")]


class Mismatch(TypedDict):
    """The most of each at any join."""

    cm: Annotated[float, Meta(ge=0)]
    deg: Annotated[float, Meta(ge=0)]
    percent: Annotated[float, Meta(ge=0)]


class LoopFound(TypedDict):
    postures: Annotated[list[str], Meta(description="ids, in order")]
    left_out: Annotated[list[str], Meta(description="ids of those left out")]
    drift: Annotated[float, Meta(ge=0, description="metres a round")]
    turn: Annotated[float, Meta(description="degrees a round")]
    mismatch: Annotated[Mismatch, Meta(description="the most of each at any join")]
    beats: Annotated[float, Meta(ge=0, description="how long a round lasts")]


class LoopAnswer(TypedDict):
    """The drills hidden in a form, the best first."""

    loops: list[LoopFound]


class StartMark(TypedDict):
    """The form's own start."""

    x: Annotated[float, Meta(description="metres from the left of the room")]
    y: Annotated[float, Meta(description="metres from the bottom of the room")]
    heading: Annotated[float, Meta(description="degrees clockwise that 12 o'clock is turned in the room")]


class Near(TypedDict):
    """Where something is nearest."""

    posture: PostureId
    count: CountNumber
    against: Annotated[str, Meta(description="what it is nearest to")]


class BestStart(TypedDict):
    x: float
    y: float
    heading: float
    clearance: float
    posture: PostureId
    count: CountNumber
    against: Annotated[str, Meta(description="what it is nearest to")]


class BreakMark(TypedDict):
    before: Annotated[str, Meta(description="id of the posture the walk breaks off before")]
    x: Annotated[
        float, Meta(description="metres from the left of the room, where one stands then, midway between the heels")
    ]
    y: Annotated[float, Meta(description="metres from the bottom of the room")]
    heading: Annotated[float, Meta(description="degrees clockwise that 12 o'clock is turned in the room from there on")]


class RoomChange(TypedDict):
    kind: Literal["move", "turn", "passes", "shorter", "steps", "postures", "side", "break", "clearance", "arms"]
    words: str
    clearance: float
    start: StartMark
    changes: list[CountChange]
    brings: Brings
    breaks: Annotated[list[BreakMark], Meta(description="the marks to go on from")]


class ClassPlaced(TypedDict):
    """A class, null unless one was asked for and found."""

    gap: Annotated[float | None, Meta(description="metres between the two that come nearest, null for one alone")]
    wanted: float
    beat: Annotated[float, Meta(description="when they come nearest")]
    lag: Annotated[float, Meta(description="beats that one may be early or late")]
    walkers: list[StartMark]


RoomAnswer = TypedDict(
    "RoomAnswer",
    {
        "start": Annotated[StartMark, Meta(description="the form's own start")],
        "fits": bool,
        "clearance": Annotated[float, Meta(description="metres, negative where it does not fit")],
        "wanted": Annotated[float, Meta(description="metres")],
        "posture": PostureId,
        "count": CountNumber,
        "against": Annotated[str, Meta(description="what it is nearest to")],
        "starts": Annotated[list[BestStart], Meta(description="the best starts, the best first")],
        "changes": Annotated[list[RoomChange], Meta(description="what would make it fit")],
        "class": Annotated[ClassPlaced | None, Meta(description="a class, null unless one was asked for and found")],
    },
)


class EntryOffs(TypedDict):
    """The stance it begins in."""

    left_ahead: float
    left_aside: float
    right_ahead: float
    right_aside: float
    left_heading: float
    right_heading: float
    torso: float
    weight: float
    contact: bool
    part: bool
    round: Annotated[bool, Meta(description="whether a foot pivots the other way round")]
    sink: float
    lean: float


class Worst(TypedDict):
    """What differs most, null where nothing does."""

    count: int
    what: str
    by: float
    unit: Literal["cm", "°", "%", "count", ""]


class BesideFeet(TypedDict):
    what: Literal["hand", "kick", "gaze", "breath", "beats", "path"]
    side: Annotated[Literal["left", "right"] | None, Meta(description="the posture's hand or foot")]


class CountOfPair(TypedDict):
    count: int | None
    other: int | None
    left_ahead: float
    left_aside: float
    right_ahead: float
    right_aside: float
    left_heading: float
    right_heading: float
    torso: float
    weight: float
    contact: bool
    part: bool
    round: Annotated[bool, Meta(description="whether a foot pivots the other way round")]
    sink: float
    lean: float
    beside: Annotated[list[BesideFeet], Meta(description="what differs beside feet, weight and chest")]


class PairCompared(TypedDict):
    posture: Annotated[str, Meta(description="id, or id:first-last for a passage")]
    other: str
    kind: Literal["mirror", "repeat"]
    declared: Annotated[bool, Meta(description="whether the form says so")]
    same: bool
    axis: Annotated[float | None, Meta(description="heading of the mirror line, degrees")]
    cause: Literal["none", "entry", "written", "both"]
    entry: Annotated[EntryOffs, Meta(description="the stance it begins in")]
    worst: Annotated[Worst | None, Meta(description="what differs most, null where nothing does")]
    counts: list[CountOfPair]
    likeness: Annotated[float, Meta(ge=0, le=1)]


class OneSideDoes(TypedDict):
    """What a side of the body does."""

    load: Annotated[float, Meta(ge=0, description="beats times its share of the weight")]
    beats: Annotated[float, Meta(ge=0)]
    alone: Annotated[float, Meta(ge=0, description="beats it carries everything")]
    one_leg: int
    steps: int
    stances: Annotated[dict[str, int], Meta(description="how often each, by name")]
    pivots_out: int
    pivots_in: int
    loaded_pivots: int
    turned: Annotated[float, Meta(ge=0, description="degrees")]
    pushes: int
    kicks: int


class Balance(TypedDict):
    left: Annotated[OneSideDoes, Meta(description="what a side of the body does")]
    right: Annotated[OneSideDoes, Meta(description="what a side of the body does")]


class SidesAnswer(TypedDict):
    """Whether the sides mirror: the other's figures less the posture's, cm, degrees and % of the weight on the left."""

    pairs: list[PairCompared]
    balance: Balance


#: What each command prints, by its name.
ANSWERS: dict[str, type] = {
    "check": CheckAnswer,
    "compare": CompareAnswer,
    "draft": DraftAnswer,
    "figure": FigureAnswer,
    "fit": FitAnswer,
    "home": HomeAnswer,
    "loop": LoopAnswer,
    "room": RoomAnswer,
    "sides": SidesAnswer,
    "trace": TraceAnswer,
}


def schema(name: str) -> dict[str, Any]:
    """The JSON Schema of what a command prints: nothing is in it that is not described."""
    (reference,), parts = msgspec.json.schema_components([ANSWERS[name]], ref_template="#/$defs/{name}")
    whole = parts.pop(reference["$ref"].rpartition("/")[2])
    for part in (whole, *parts.values()):
        if "properties" in part:
            part["additionalProperties"] = False
    del whole["title"]
    head = {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": f"waltzmark {name} --json"}
    return {**head, **whole, "$defs": parts}
