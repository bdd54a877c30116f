"""A school: the geometry of its stances and the limits of its rules, all read from a TOML file.

Nothing in the code asks which school it is; it asks for the value.
"""

from __future__ import annotations

import os
from collections.abc import Mapping
from functools import cached_property, lru_cache
from pathlib import Path
from typing import Any, Literal

import tomli

from waltzmark.core.base.errors import WaltzmarkError, quoted
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.base.records import Record, field
from waltzmark.core.base.units import written_length
from waltzmark.core.body.body import Body
from waltzmark.core.body.reach import longest_empty_length
from waltzmark.core.school.sizes import Stepping, StepSize, bow_size, cross_length

__all__ = [
    "CHOICES",
    "FIRST",
    "FIT_PRICES",
    "NAMED_WIDTHS",
    "ReachShare",
    "RuleSetting",
    "School",
    "StanceGeometry",
    "bundled_schools",
    "load_school",
    "school_table",
    "whole_table",
]

_BUNDLED = Path(__file__).parent / "bundled"
#: What can be chosen where schools differ, by rule and name of the choice.
CHOICES: dict[tuple[str, str], tuple[str, ...]] = {
    ("pivot.part", "part"): ("heel", "ball", "heel-front-ball-rear"),
    ("stance.rear-angle", "correction"): ("hips", "heel pushed", "ball"),
    ("split.light-contact", "contact"): ("free", "waist"),
    ("split.even", "even"): ("on purpose", "passed through", "opening and closing"),
    ("step.landing", "ahead"): ("heel", "ball", "flat", "any"),
    ("step.landing", "back"): ("ball", "heel", "flat", "any"),
    ("step.order", "order"): ("turn first", "step first", "together"),
    ("hand.front-leg", "push"): ("opposite", "same", "either"),
}

#: The school of a form that names none, and of what a school leaves unsaid.
FIRST = "broad-frame"
#: Stances that are made as long as a bow should be, as far as the body gives it.
_STRETCHES = frozenset({"bow", "low"})
#: What a form is changed in to fit a body, and what each change costs where the school does not say: the dearer, the
#: later it is tried.
FIT_PRICES = {"length": 1.0, "depth": 2.0, "turn": 3.0, "pour": 4.0, "waist": 5.0, "way": 6.0}
#: Widths that a body gives by itself.
NAMED_WIDTHS = ("together", "vee", "hip", "shoulder")


class ReachShare(Record):
    """A step length as a share, above 0, of the longest empty step at the present knee bend."""

    reach: float

    def __post_init__(self) -> None:
        if not 0 < self.reach <= 1.5:
            raise WaltzmarkError("school.reach", reach=self.reach)


class StanceGeometry(Record):
    """Where a stance puts the feet, in the frame of its facing.

    length: a length with its unit, or a share of reach. width: a named width or a length; negative is crossed.
    toe, rear_toe: outward turn of the stepping foot in front, and of a foot that becomes the rear one, degrees.
    land: the part it lands on; empty where the stance does not ask for one.
    """

    length: ReachShare | str
    width: str
    toe: float = 0.0
    rear_toe: float = 45.0
    land: Literal["", "heel", "ball", "flat", "air"] = ""

    def __post_init__(self) -> None:
        if isinstance(self.length, str) and written_length(self.length).value < 0:
            raise WaltzmarkError("school.length", length=self.length)
        if self.width not in NAMED_WIDTHS:
            written_length(self.width)
        for turn in (self.toe, self.rear_toe):
            if not abs(turn) <= 180.0:  # so that NaN is refused too
                raise WaltzmarkError("school.toe", turn=turn)

    def width_metres(self, body: Body) -> float:
        if self.width in NAMED_WIDTHS:
            return body.named_width(self.width)
        return written_length(self.width).metres(body)


class RuleSetting(Record):
    """The limits of one finding rule, and what the school says of it.

    What it chooses where schools differ, why it asks for it, and the caution shown with it. A rule that is off does not
    apply.
    """

    why: str
    limits: Mapping[str, float] = field(default_factory=dict)
    choices: Mapping[str, str] = field(default_factory=dict)
    caution: str = ""
    off: bool = False

    def __post_init__(self) -> None:
        for name, value in self.limits.items():
            if not abs(value) <= 10_000.0:  # so that NaN is refused too
                raise WaltzmarkError("school.limit", name=name, value=value)


class School(Record, dict=True):
    """A way of doing the form.

    ``rules`` is by rule id, ``stances`` by the name used in the score; *base*: the school it says only the differences
    to; *spine*: how it holds the trunk, in words; *lean*: degrees that the trunk leans forward where the score does not
    say; *waist_twist*: degrees that the waist may stay twisted at a posture's end; *fit*: what each kind of change
    costs when a form is fitted to a body.
    """

    id: str
    name: str
    summary: str
    stances: Mapping[str, StanceGeometry]
    rules: Mapping[str, RuleSetting]
    spine: str = "upright"
    base: str = ""
    lean: float = 0.0
    waist_twist: float = 25.0
    fit: Mapping[str, float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for name, price in self.fit.items():
            if name not in FIT_PRICES:
                raise WaltzmarkError("school.fit", name=quoted(name), known=tuple(FIT_PRICES))
            if not 0.0 < price <= 100.0:  # so that NaN is refused too
                raise WaltzmarkError("school.fit-price", name=name, price=price)
        if not -30.0 <= self.lean <= 60.0:
            raise WaltzmarkError("school.lean", lean=self.lean)
        if not 0.0 <= self.waist_twist <= 180.0:
            raise WaltzmarkError("school.waist-twist", twist=self.waist_twist)
        missing = {"bow", "cross"} - set(self.stances)
        if missing:
            raise WaltzmarkError("school.stances", missing=tuple(sorted(missing)))
        for rule, setting in self.rules.items():
            for name, value in setting.choices.items():
                known = CHOICES.get((rule, name))
                if known is not None and value not in known:
                    raise WaltzmarkError("school.choice", rule=rule, name=name, known=known, value=quoted(value))

    def stance_size(
        self,
        name: str,
        body: Body,
        knee_bend: float,
        support: Side = Side.RIGHT,
        away: float = 0.0,
        back: bool = False,
        toe: float | None = None,
    ) -> StepSize:
        """How large a stance by name is; an unknown one is a bow.

        Parameters
        ----------
        knee_bend
            Of the supporting leg, degrees.
        support
            The supporting side.
        away
            The facing, degrees clockwise from the supporting foot's heading.
        back
            Whether it steps behind.
        toe
            Degrees that the landing foot is turned from the facing, clockwise, where that is not the stance's.

        Returns
        -------
        StepSize
            A share of reach is that of the longest empty step on the part it lands on; bows, low stances and crossing
            steps as `core.school.sizes` has it.
        """
        stance = self.stances.get(name, self.stances["bow"])
        width = stance.width_metres(body)
        if isinstance(stance.length, str):
            return StepSize(written_length(stance.length).metres(body), width)
        share, side = stance.length.reach, support.other
        if stance.land:
            landing = Contact.of(stance.land)
        elif back:
            landing = Contact.BALL
        else:
            landing = Contact.HEEL
        turn = side.sign * (stance.rear_toe if back else stance.toe) if toe is None else toe
        how = Stepping(support, round(away, 6) + 0.0, landing, round(away + turn, 6) + 0.0, back)
        if name == "cross":
            return StepSize(cross_length(body, knee_bend, share, width, how), width)
        if name in _STRETCHES or name not in self.stances:
            return bow_size(body, knee_bend, share, width, how)
        longest = longest_empty_length(body, knee_bend, width, support, landing, how.away, how.toe, back)
        return StepSize(share * longest, width)

    def price(self, kind: str) -> float:
        """What a change of a kind costs when a form is fitted to a body."""
        return self.fit.get(kind, FIT_PRICES[kind])

    @cached_property
    def stance_names(self) -> frozenset[str]:
        return frozenset(self.stances)

    def choice(self, rule: str, name: str) -> str:
        """What the school chooses for a rule; where it does not say, what the broad frame does.

        Raises KeyError where that one does not say either.
        """
        own = self.rules[rule].choices if rule in self.rules else {}
        return own[name] if name in own else load_school(FIRST).rules[rule].choices[name]

    def applies(self, rule: str) -> bool:
        """Whether a rule applies in this school."""
        return rule in self.rules and not self.rules[rule].off

    def limit(self, rule: str, name: str) -> float:
        """A limit of a rule, in the unit its TOML comment names. Raises KeyError.

        Where the school does not say, that of the broad frame; where that one does not say either, it is an error.
        """
        own = self.rules[rule].limits if rule in self.rules else {}
        return own[name] if name in own else load_school(FIRST).rules[rule].limits[name]


def _merged(raw: dict[str, Any], base: dict[str, Any]) -> dict[str, Any]:
    """A school's table laid over the one it is based on: what it does not say is the base's."""
    found = dict(base)
    for key, value in raw.items():
        old = found.get(key)
        found[key] = (
            _merged(value, old) if isinstance(value, dict) and isinstance(old, dict) and key != "length" else value
        )
    return found


def whole_table(raw: dict[str, Any], name: str, seen: tuple[str, ...] = ()) -> dict[str, Any]:
    """A school's table with those it is based on under it; *name* says in errors which one. Raises WaltzmarkError."""
    base = raw.get("base", "")
    if not base:
        return raw
    if not isinstance(base, str):
        raise WaltzmarkError("school.base", name=name)
    if base in seen:
        raise WaltzmarkError("school.base-itself", name=name)
    return _merged(raw, whole_table(tomli.loads(school_text(base)), base, (*seen, base)))


def school_table(school: School) -> dict[str, Any]:
    """A school as a table of plain values, to be written; without what its base says already."""
    table = _plain(school)
    base = table.pop("base")
    if not table["fit"]:
        del table["fit"]
    if not base:
        return table
    return {"base": base} | _differences(table, _plain(load_school(base)))


def _plain(school: School) -> dict[str, Any]:
    stances = {}
    for name, stance in school.stances.items():
        length = stance.length if isinstance(stance.length, str) else {"reach": stance.length.reach}
        stances[name] = {
            "length": length,
            "width": stance.width,
            "toe": float(stance.toe),
            "rear_toe": float(stance.rear_toe),
            "land": stance.land,
        }
    rules = {}
    for name, rule in school.rules.items():
        limits = {limit: float(value) for limit, value in rule.limits.items()}
        values = {
            "why": rule.why,
            "limits": limits,
            "choices": dict(rule.choices),
            "caution": rule.caution,
            "off": rule.off,
        }
        rules[name] = {key: value for key, value in values.items() if value or key == "why"}
    return {
        "id": school.id,
        "name": school.name,
        "summary": school.summary,
        "spine": school.spine,
        "lean": float(school.lean),
        "waist_twist": float(school.waist_twist),
        "base": school.base,
        "fit": {name: float(price) for name, price in school.fit.items()},
        "stances": stances,
        "rules": rules,
    }


def _differences(table: dict[str, Any], base: dict[str, Any]) -> dict[str, Any]:
    """What a table says otherwise than its base. What the base has and the table has not is said to be off."""
    found: dict[str, Any] = {}
    for key, value in table.items():
        old = base.get(key)
        if isinstance(value, dict) and isinstance(old, dict) and key != "length":
            if inner := _differences(value, old):
                found[key] = inner
        elif value != old:
            found[key] = value
    if "off" in base and "off" not in table:
        found["off"] = False
    return found


def _trusted(raw: dict[str, Any]) -> School:
    """A school that ships with Waltzmark: its file is checked by the tests, not at every start."""
    stances = {}
    for name, values in raw.pop("stances").items():
        values = dict(values)
        length = values.pop("length")
        stances[name] = StanceGeometry(length if isinstance(length, str) else ReachShare(**length), **values)
    rules = {name: RuleSetting(**values) for name, values in raw.pop("rules").items()}
    return School(stances=stances, rules=rules, **raw)


@lru_cache(maxsize=1)
def bundled_schools() -> tuple[str, ...]:
    """Ids of the schools that ship with Waltzmark."""
    return tuple(sorted(name[:-5] for name in os.listdir(_BUNDLED) if name.endswith(".toml")))


def school_text(school_id: str) -> str:
    """The TOML text of a bundled school. Raises WaltzmarkError naming the ones there are."""
    if school_id not in bundled_schools():
        raise WaltzmarkError("school.unknown", name=school_id, known=bundled_schools())
    return (_BUNDLED / f"{school_id}.toml").read_text(encoding="utf-8")


@lru_cache(maxsize=16)
def load_school(school_id: str) -> School:
    """A bundled school by id. Raises WaltzmarkError naming the ones there are."""
    return _trusted(whole_table(tomli.loads(school_text(school_id)), school_id))
