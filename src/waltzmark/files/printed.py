"""What the commands print as JSON: the types its parts have, from which the schemas in ``docs/schemas`` are made.

Figures are metres, degrees and beats unless they say otherwise.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal, NotRequired, TypedDict

import msgspec
from msgspec import Meta

__all__ = ["ANSWERS", "schema"]


PostureId = Annotated[str | None, Meta(description="id of the posture, null for the opening")]
CountNumber = Annotated[int, Meta(ge=0, description="number of the count in its posture, 0 for the beginning")]
Brings = Annotated[list[str], Meta(description="new stops and cautions that come with it")]
Two = Annotated[list[float], Meta(min_length=2, max_length=2)]


class Place(TypedDict):
    posture: PostureId
    count: CountNumber


class FindingTold(TypedDict):
    """A finding."""

    rule: Annotated[str, Meta(description="id of the rule")]
    severity: Literal["stop", "caution", "note"]
    posture: PostureId
    count: CountNumber
    measured: Annotated[float | None, Meta(description="in unit")]
    limit: Annotated[float | None, Meta(description="in unit")]
    unit: str
    kind: Annotated[str, Meta(description="the rule, or the rule and what tells this from its other findings")]
    fields: Annotated[dict[str, Any], Meta(description="what else its sentences speak of, by name")]
    side: Annotated[Literal["left", "right"] | None, Meta(description="the foot or leg it is about")]
    message: Annotated[str, Meta(description="what, in words")]
    times: Annotated[int, Meta(ge=1, description="how often it is so")]
    again: Annotated[
        list[Place], Meta(description="where else, in postures that take their counts from the same source")
    ]
    why: str
    caution: str
    mend: Annotated[str, Meta(description="what would mend it, in words")]
    mends: Annotated[list[str], Meta(description="changes that can be made")]


class Muted(TypedDict):
    rule: str
    posture: PostureId
    count: CountNumber
    message: str
    reason: Annotated[str, Meta(description="why it is left so")]


class EndOfWalk(TypedDict):
    """Where it ends, from the start mark."""

    offset: Annotated[Two, Meta(description="metres right and ahead")]
    distance: Annotated[float, Meta(ge=0, description="metres")]
    turn: Annotated[float, Meta(description="degrees, clockwise positive")]


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


class FootStands(TypedDict):
    """A foot."""

    heel: Annotated[
        list[float],
        Meta(min_length=2, max_length=2, description="heel centre, metres: right and ahead of the start mark"),
    ]
    heading: Annotated[float, Meta(description="degrees clockwise from 12 o'clock")]
    contact: Annotated[Literal["flat", "heel", "ball", "air"], Meta(description="what of it is on the floor")]


class Weight(TypedDict):
    """Share of the weight on each foot."""

    left: Annotated[float, Meta(ge=0, le=1)]
    right: Annotated[float, Meta(ge=0, le=1)]


class Pelvis(TypedDict):
    """The pelvis."""

    place: Annotated[Two, Meta(description="metres")]
    heading: Annotated[float, Meta(description="degrees clockwise from 12")]
    height: Annotated[
        float | None, Meta(description="metres of the hips above the floor, null where a leg cannot reach")
    ]


class Knees(TypedDict):
    """Bend of each knee in degrees, null in the air and where a leg cannot reach."""

    left: float | None
    right: float | None


class Raised(TypedDict):
    """What of each foot comes up by itself, so that a light leg reaches it; null where nothing does."""

    left: Literal["heel", "toes"] | None
    right: Literal["heel", "toes"] | None


class Stance(TypedDict):
    """The stance that it is nearest to."""

    name: Annotated[str | None, Meta(description="null where it is none")]
    front: Annotated[Literal["left", "right"] | None, Meta(description="the front foot, null where there is none")]
    match: Annotated[float, Meta(ge=0, le=1, description="how near")]
    length: Annotated[float, Meta(description="metres")]
    width: Annotated[float, Meta(description="metres")]
    rear: Annotated[float, Meta(description="degrees the rear foot is turned out")]


class CountWalked(TypedDict):
    """A count."""

    posture: PostureId
    count: CountNumber
    text: Annotated[str, Meta(description="the count as it is written")]
    beats: Annotated[float, Meta(ge=0, description="how long it lasts, 0 for the opening")]
    left: Annotated[FootStands, Meta(description="a foot")]
    right: Annotated[FootStands, Meta(description="a foot")]
    weight: Annotated[Weight, Meta(description="share of the weight on each foot")]
    torso: Annotated[float, Meta(description="degrees clockwise from 12 that the chest faces")]
    gaze: Annotated[float, Meta(description="degrees clockwise from 12 that the eyes look")]
    centre: Annotated[Two, Meta(description="centre of pressure, metres")]
    pelvis: Annotated[Pelvis, Meta(description="the pelvis")]
    waist: Annotated[float, Meta(description="degrees the chest is turned over the pelvis, clockwise positive")]
    knees: Annotated[Knees, Meta(description="degrees that each bends, null in the air and where a leg cannot reach")]
    raised: Annotated[Raised, Meta(description="what of each foot comes up by itself")]
    stance: Annotated[Stance, Meta(description="the stance that it is nearest to")]


class TraceAnswer(TypedDict):
    """Where everything is after each count, the opening first."""

    counts: list[CountWalked]


class Gaps(TypedDict):
    """Metres that a leg is short of its foot."""

    left: Annotated[float, Meta(ge=0)]
    right: Annotated[float, Meta(ge=0)]


class FigureCount(TypedDict):
    """The body at the end of a count."""

    posture: PostureId
    count: CountNumber
    places: Annotated[
        list[list[float]],
        Meta(description="of each joint, in their order: metres right, ahead and up from the start mark"),
    ]
    faces: Annotated[float, Meta(description="heading of the face, degrees")]
    gaps: Annotated[Gaps, Meta(description="metres that a leg is short of its foot")]


class FigureAnswer(TypedDict):
    """The joints of the body at the end of each count, the opening first."""

    joints: Annotated[list[str], Meta(description="the joints by name, in the order of their places")]
    counts: list[FigureCount]


#: A count as the score had it and as it has it now; several lines stand below each other.
AlsoFitted = TypedDict("AlsoFitted", {"posture": PostureId, "count": CountNumber, "from": str, "to": str})
FitChange = TypedDict(
    "FitChange",
    {
        "posture": PostureId,
        "count": CountNumber,
        "from": Annotated[str, Meta(description="the count as it was; several lines stand below each other")],
        "to": Annotated[str, Meta(description="what stands there now, empty where it is left out")],
        "why": Annotated[str, Meta(description="what it puts right, in words")],
        "does": Annotated[str, Meta(description="what it does, in words")],
        "kind": Literal["length", "depth", "turn", "pour", "waist", "way"],
        "also": Annotated[list[AlsoFitted], Meta(description="other counts that belong to it")],
        "shared": Annotated[
            list[str], Meta(description="postures that take these counts from the one that is changed")
        ],
    },
)


class BodyFitted(TypedDict):
    """A form fitted to one body."""

    name: str
    fits: Annotated[bool, Meta(description="whether nothing is left in the way")]
    changes: Annotated[list[FitChange], Meta(description="in the order of the walk")]
    left: Annotated[list[FindingTold], Meta(description="what is still in the way")]
    end: Annotated[EndOfWalk, Meta(description="where it ends, from home")]


class FitAnswer(TypedDict):
    """The nearest form that each body can walk."""

    bodies: Annotated[list[BodyFitted], Meta(description="in the order they were named")]


Span = Annotated[list[int], Meta(min_length=2, max_length=2, description="characters of the text, from and up to")]
How = Literal["said", "given", "chosen", "doubtful", "inserted"]
SlotDrafted = TypedDict("SlotDrafted", {"what": str, "how": How, "why": str, "from": list[Span]})
CountDrafted = TypedDict(
    "CountDrafted",
    {
        "text": Annotated[str, Meta(description="the count as the score has it")],
        "from": Annotated[list[Span], Meta(description="the words it came from")],
        "how": Annotated[How, Meta(description="its least sure slot")],
        "slots": list[SlotDrafted],
        "others": Annotated[list[str], Meta(description="other readings")],
    },
)


class PostureDrafted(TypedDict):
    """A posture of a draft."""

    id: str
    name: str
    repeat_of: NotRequired[str]
    mirror_of: NotRequired[str]
    counts: list[CountDrafted]


UnusedWords = TypedDict("UnusedWords", {"from": Span, "text": str, "why": Literal["idle", "unread", "not an act"]})


class DraftAnswer(TypedDict):
    """Plain instructions drafted as counts."""

    language: Literal["en", "es"]
    postures: list[PostureDrafted]
    unused: Annotated[list[UnusedWords], Meta(description="words that no count took up")]


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
