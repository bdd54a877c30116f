"""What the answers of several commands have in common, as JSON: see `waltzmark.files.printed`."""

from __future__ import annotations

from typing import Annotated, Any, Literal, TypedDict

from msgspec import Meta

__all__ = ["Brings", "CountNumber", "EndOfWalk", "FindingTold", "Place", "PostureId", "Two"]


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


class EndOfWalk(TypedDict):
    """Where it ends, from the start mark."""

    offset: Annotated[Two, Meta(description="metres right and ahead")]
    distance: Annotated[float, Meta(ge=0, description="metres")]
    turn: Annotated[float, Meta(description="degrees, clockwise positive")]
