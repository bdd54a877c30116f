"""What the commands print of a form counted, drawn, fitted and drafted as JSON: see `waltzmark.files.printed`."""

from __future__ import annotations

from typing import Annotated, Literal, NotRequired, TypedDict

from msgspec import Meta

from waltzmark.files.printed_parts import CountNumber, EndOfWalk, FindingTold, PostureId, Two

__all__ = []


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
