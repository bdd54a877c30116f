"""A school: the geometry of its stances and the limits of its rules, all read from a TOML file.

Nothing in the code asks which school it is; it asks for the value.
"""

from __future__ import annotations

import tomllib
from functools import cached_property, lru_cache
from importlib import resources
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator

from waltzmark.core.body import Body
from waltzmark.core.errors import WaltzmarkError
from waltzmark.core.reach import longest_empty_length
from waltzmark.core.units import BODY_UNITS, METRES, Length

__all__ = ["School", "StanceGeometry", "bundled_schools", "load_school", "school_from_toml"]

_NAMED_WIDTHS = ("together", "vee", "hip", "shoulder")


class _Value(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class ReachShare(_Value):
    """A step length as a share of the longest empty step at the present knee bend."""

    reach: float = Field(gt=0, le=1.5)


class StanceGeometry(_Value):
    """Where a stance puts the feet, in the frame of its facing.

    length: metres-with-unit text, or a share of reach. width: a named width or a length; negative is crossed.
    toe, rear_toe: outward turn of the stepping foot in front, and of a foot that becomes the rear one, degrees.
    """

    length: ReachShare | str
    width: str
    toe: float = 0.0
    rear_toe: float = 45.0
    land: Literal["heel", "ball", "flat", "air"] | None = None

    def length_metres(self, body: Body, knee_bend: float) -> float:
        if isinstance(self.length, ReachShare):
            return self.length.reach * longest_empty_length(body, knee_bend, abs(self.width_metres(body)))
        return _written_length(self.length).metres(body)

    def width_metres(self, body: Body) -> float:
        if self.width in _NAMED_WIDTHS:
            return body.named_width(self.width)
        return _written_length(self.width).metres(body)

    @model_validator(mode="after")
    def _readable(self) -> StanceGeometry:
        if isinstance(self.length, str):
            _written_length(self.length)
        if self.width not in _NAMED_WIDTHS:
            _written_length(self.width)
        return self


class RuleSetting(_Value):
    """The limits of one finding rule, why the school asks for it, and the caution shown with it."""

    limits: dict[str, float] = Field(default_factory=dict)
    why: str
    caution: str = ""


class School(_Value):
    """A way of doing the form. ``rules`` is by rule id, ``stances`` by the name used in the score."""

    id: str
    name: str
    summary: str
    stances: dict[str, StanceGeometry]
    rules: dict[str, RuleSetting]

    @model_validator(mode="after")
    def _has_bow_and_cross(self) -> School:
        missing = {"bow", "cross"} - set(self.stances)
        if missing:
            raise ValueError(f"a school needs the stances bow and cross; missing: {', '.join(sorted(missing))}")
        return self

    @cached_property
    def stance_names(self) -> frozenset[str]:
        return frozenset(self.stances)

    def limit(self, rule: str, name: str) -> float:
        """A limit of a rule, in the unit its TOML comment names. Raises WaltzmarkError when it is missing."""
        try:
            return self.rules[rule].limits[name]
        except KeyError:
            raise WaltzmarkError(f"school {self.id}: rule {rule} has no limit {name}") from None


def _written_length(text: str) -> Length:
    for unit in sorted([*METRES, *BODY_UNITS], key=len, reverse=True):
        if text.endswith(unit):
            try:
                return Length(float(text.removesuffix(unit)), unit)
            except ValueError:
                break
    raise ValueError(f"{text!r} is no length; write for example 62cm, 2fl or 1.2sw")


def school_from_toml(text: str, name: str) -> School:
    """A school from the text of its TOML file; *name* says in errors which one. Raises WaltzmarkError."""
    try:
        raw: dict[str, Any] = tomllib.loads(text)
        return School.model_validate(raw)
    except tomllib.TOMLDecodeError as error:
        raise WaltzmarkError(f"school {name}: {error}") from None
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the school"
        raise WaltzmarkError(f"school {name}: {where}: {first['msg']}") from None


@lru_cache(maxsize=1)
def bundled_schools() -> tuple[str, ...]:
    """Ids of the schools that ship with Waltzmark."""
    folder = resources.files("waltzmark.core").joinpath("schools")
    return tuple(sorted(f.name.removesuffix(".toml") for f in folder.iterdir() if f.name.endswith(".toml")))


@lru_cache(maxsize=16)
def load_school(school_id: str) -> School:
    """A bundled school by id. Raises WaltzmarkError naming the ones there are."""
    if school_id not in bundled_schools():
        raise WaltzmarkError(f"unknown school {school_id!r}; there are: {', '.join(bundled_schools())}")
    file = resources.files("waltzmark.core").joinpath("schools", f"{school_id}.toml")
    return school_from_toml(file.read_text(encoding="utf-8"), school_id)
