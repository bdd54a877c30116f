"""A school: the geometry of its stances and the limits of its rules, all read from a TOML file.

Nothing in the code asks which school it is; it asks for the value.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from importlib import resources
from typing import Any, Literal

from waltzmark.core.body import Body
from waltzmark.core.errors import WaltzmarkError
from waltzmark.core.reach import longest_empty_length
from waltzmark.core.units import BODY_UNITS, METRES, Length

__all__ = ["RuleSetting", "School", "StanceGeometry", "bundled_schools", "load_school", "school_from_toml"]

_NAMED_WIDTHS = ("together", "vee", "hip", "shoulder")


@dataclass(frozen=True)
class ReachShare:
    """A step length as a share, above 0, of the longest empty step at the present knee bend."""

    reach: float

    def __post_init__(self) -> None:
        if not 0 < self.reach <= 1.5:
            raise ValueError(f"a share of reach lies above 0 and at most at 1.5, not at {self.reach}")


@dataclass(frozen=True)
class StanceGeometry:
    """Where a stance puts the feet, in the frame of its facing.

    length: a length with its unit, or a share of reach. width: a named width or a length; negative is crossed.
    toe, rear_toe: outward turn of the stepping foot in front, and of a foot that becomes the rear one, degrees.
    land: the part it lands on, where the stance asks for one.
    """

    length: ReachShare | str
    width: str
    toe: float = 0.0
    rear_toe: float = 45.0
    land: Literal["heel", "ball", "flat", "air"] | None = None

    def __post_init__(self) -> None:
        if isinstance(self.length, str):
            _written_length(self.length)
        if self.width not in _NAMED_WIDTHS:
            _written_length(self.width)

    def length_metres(self, body: Body, knee_bend: float) -> float:
        if isinstance(self.length, str):
            return _written_length(self.length).metres(body)
        return self.length.reach * longest_empty_length(body, knee_bend, abs(self.width_metres(body)))

    def width_metres(self, body: Body) -> float:
        if self.width in _NAMED_WIDTHS:
            return body.named_width(self.width)
        return _written_length(self.width).metres(body)


@dataclass(frozen=True)
class RuleSetting:
    """The limits of one finding rule, why the school asks for it, and the caution shown with it."""

    why: str
    limits: Mapping[str, float] = field(default_factory=dict)
    caution: str = ""


@dataclass(frozen=True)
class School:
    """A way of doing the form. ``rules`` is by rule id, ``stances`` by the name used in the score."""

    id: str
    name: str
    summary: str
    stances: Mapping[str, StanceGeometry]
    rules: Mapping[str, RuleSetting]

    def __post_init__(self) -> None:
        missing = {"bow", "cross"} - set(self.stances)
        if missing:
            raise ValueError(f"a school needs the stances bow and cross; missing: {', '.join(sorted(missing))}")

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
    # Imported here: only schools from outside need checking, and Pydantic takes a moment to import.
    from pydantic import ConfigDict, TypeAdapter, ValidationError, with_config

    try:
        checked = TypeAdapter(with_config(ConfigDict(extra="forbid", arbitrary_types_allowed=True))(School))
        return checked.validate_python(tomllib.loads(text))
    except tomllib.TOMLDecodeError as error:
        raise WaltzmarkError(f"school {name}: {error}") from None
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the school"
        raise WaltzmarkError(f"school {name}: {where}: {first['msg']}") from None


def _trusted(raw: dict[str, Any]) -> School:
    """A school that ships with Waltzmark: its file is checked by the tests, not at every start."""
    stances = {}
    for name, values in raw.pop("stances").items():
        length = values.pop("length")
        stances[name] = StanceGeometry(length if isinstance(length, str) else ReachShare(**length), **values)
    rules = {name: RuleSetting(**values) for name, values in raw.pop("rules").items()}
    return School(stances=stances, rules=rules, **raw)


@lru_cache(maxsize=1)
def bundled_schools() -> tuple[str, ...]:
    """Ids of the schools that ship with Waltzmark."""
    folder = resources.files("waltzmark.core").joinpath("schools")
    return tuple(sorted(f.name.removesuffix(".toml") for f in folder.iterdir() if f.name.endswith(".toml")))


def school_text(school_id: str) -> str:
    """The TOML text of a bundled school. Raises WaltzmarkError naming the ones there are."""
    if school_id not in bundled_schools():
        raise WaltzmarkError(f"unknown school {school_id!r}; there are: {', '.join(bundled_schools())}")
    return resources.files("waltzmark.core").joinpath("schools", f"{school_id}.toml").read_text(encoding="utf-8")


@lru_cache(maxsize=16)
def load_school(school_id: str) -> School:
    """A bundled school by id. Raises WaltzmarkError naming the ones there are."""
    return _trusted(tomllib.loads(school_text(school_id)))
