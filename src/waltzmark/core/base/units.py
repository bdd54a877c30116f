"""Lengths and masses as people write them, kept as written and turned into metres and kilograms."""

from __future__ import annotations

import math
import re
from decimal import Decimal
from functools import lru_cache
from typing import Literal, Protocol

from waltzmark.core.base.errors import WaltzmarkError, quoted
from waltzmark.core.base.records import Record

__all__ = [
    "BODY_UNITS",
    "METRES",
    "NAMED",
    "Length",
    "LengthUnit",
    "Measured",
    "UnitError",
    "as_float",
    "number_text",
    "read_length",
    "read_mass",
    "written_length",
]

#: Units that lengths are said in.
LengthUnit = Literal["cm", "m", "in", "fl", "sw"]
#: Metres in each unit that needs no body.
METRES = {"cm": 0.01, "m": 1.0, "mm": 0.001, "in": 0.0254, "ft": 0.3048}
#: Units that are parts of the practitioner's own body.
BODY_UNITS = {"fl": "foot lengths", "sw": "shoulder breadths", "hw": "hip breadths"}
#: Widths between heels that a body gives by itself, which stand as lengths of their own.
NAMED = ("shoulder", "hip")
_A_BODY_UNIT = 0.3  # metres or so
KILOGRAMS = {"kg": 1.0, "lb": 0.45359237}

_MEASURE = re.compile(r"([+-]?\d+(?:\.\d+)?) ?([a-z]*)", re.IGNORECASE | re.ASCII)
_LONGEST = 40  # characters of a measure


class Measured(Protocol):
    """Whoever lengths in `BODY_UNITS` are measured by; all in metres."""

    @property
    def foot_length(self) -> float: ...

    @property
    def shoulder_breadth(self) -> float: ...

    @property
    def hip_breadth(self) -> float: ...

    def named_width(self, name: str) -> float: ...


class UnitError(WaltzmarkError):
    """A measure that cannot be read or cannot be meant."""


class Length(Record):
    """A length as written: a number and its unit (one of `METRES` or `BODY_UNITS`), or one of `NAMED` by itself."""

    value: float
    unit: str = "cm"

    def metres(self, body: Measured) -> float:
        """The length in metres for one body."""
        if self.unit == "fl":
            return self.value * body.foot_length
        if self.unit == "sw":
            return self.value * body.shoulder_breadth
        if self.unit == "hw":
            return self.value * body.hip_breadth
        if self.unit in NAMED:
            return body.named_width(self.unit)
        return self.value * METRES[self.unit]

    def text(self, always_unit: bool = False) -> str:
        """The shortest way to write it: centimetres need no unit."""
        if self.unit in NAMED:
            return self.unit
        number = number_text(self.value)
        return number if self.unit == "cm" and not always_unit else number + self.unit


def as_float(number: float) -> float:
    """A number as a float; one too large for it is endless."""
    try:
        return float(number)
    except OverflowError:
        return math.inf if number > 0 else -math.inf


def number_text(value: float, decimals: int = 0) -> str:
    """A number as people write it: no exponent, no needless zeros beyond *decimals* places.

    >>> number_text(62.0), number_text(0.4, 2), number_text(22.5)
    ('62', '0.40', '22.5')
    """
    text = format(Decimal(repr(float(value))), "f")
    whole, _, fraction = text.partition(".")
    fraction = fraction.rstrip("0").ljust(decimals, "0")
    return f"{whole}.{fraction}" if fraction else whole


@lru_cache(maxsize=256)  # a school’s few lengths are asked for with every pose that is named
def written_length(text: str) -> Length:
    """A length as a school writes it, number and unit, of at most 5 m. Raises UnitError.

    >>> written_length("1.2sw")
    Length(value=1.2, unit='sw')
    """
    for unit in sorted([*METRES, *BODY_UNITS], key=len, reverse=True):
        if text.endswith(unit):
            try:
                value = float(text.removesuffix(unit))
            except ValueError:
                break
            if not abs(value) * METRES.get(unit, _A_BODY_UNIT) <= 5.0:  # so that NaN is refused too
                raise UnitError("unit.too-long", value=quoted(text))
            return Length(value, unit)
    raise UnitError("unit.stance-length", value=quoted(text))


def read_length(text: str | float, least: float, most: float, what: str) -> float:
    """Metres of a length such as ``"170cm"``; a bare number is metres.

    Raises UnitError when it is no length, has an unknown unit, or lies outside [least, most] metres.
    """
    return _measure(text, METRES, "m", least, most, what, "length")


def read_mass(text: str | float, least: float, most: float, what: str) -> float:
    """Kilograms of a mass such as ``"64kg"``; a bare number is kilograms. Raises UnitError."""
    return _measure(text, KILOGRAMS, "kg", least, most, what, "mass")


def _measure(
    text: str | float, units: dict[str, float], bare: str, least: float, most: float, what: str, wanted: str
) -> float:
    if isinstance(text, bool) or not isinstance(text, (str, int, float)):
        raise UnitError(f"unit.{wanted}", what=what)
    if isinstance(text, str):
        match = _MEASURE.fullmatch(" ".join(text.split())) if len(text) <= _LONGEST else None
        if not match:
            raise UnitError(f"unit.{wanted}.not", what=what, value=quoted(text))
        unit = match[2].lower() or bare
        if unit not in units:
            raise UnitError("unit.unknown", what=what, unit=match[2], known=tuple(units))
        # In decimals, so that 138 cm is exactly the 1.38 m that was meant.
        value = float(Decimal(match[1]) * Decimal(str(units[unit])))
    else:
        value = as_float(text)
    if not math.isfinite(value) or not least <= value <= most:
        raise UnitError("unit.impossible", what=what, value=quoted(text), least=least, most=most, unit=bare)
    return value
