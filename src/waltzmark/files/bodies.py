"""Reading bodies: the one of a document, the people it can be fitted to, and those in files of their own."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import tomli

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
from waltzmark.core.base.units import read_mass
from waltzmark.core.body.body import LINK, MEASURES, PROPORTIONS, Body, link_problem
from waltzmark.files.texts import read_text
from waltzmark.files.values import DocumentError, Values

__all__ = ["BODY_KEYS", "BodyValues", "read_body"]

#: The keys of a body's table.
BODY_KEYS = (
    "name",
    "stature",
    "mass",
    "knee_bend",
    "knee_most",
    "knee_one",
    "hip_out",
    "hip_in",
    "waist",
    "ankle",
    "spare",
    "friction",
    "support",
    "implement",
    *MEASURES,
)


class BodyValues(Values):
    """Reads bodies."""

    def body(self, raw: dict[str, Any], table: str = "body", index: int | None = None) -> Body:
        """The body that a table says; a usual one with problems told. index: of it among several such tables."""
        self.within[table] = index
        before = len(self.problems)
        stature = self.length(table, raw, "stature", 1.70, 0.5, 2.8)
        mass = 65.0
        if "mass" in raw:
            try:
                mass = read_mass(raw["mass"], 10.0, 400.0, "mass")
            except WaltzmarkError as error:
                self.fail(self.place(table, "mass"), error.message)
        left_foot = 0.0
        if isinstance(feet := raw.get("foot_length"), dict):
            if set(feet) != {"left", "right"}:
                self.fail(self.place(table, "foot_length"), "file.foot-length")
                return Body()
            left_foot = self.length(table, {"foot_length": feet["left"]}, "foot_length", 0.0, 0.005, 1.5)
            raw = raw | {"foot_length": feet["right"]}
        measured = tuple((name, self.length(table, raw, name, 0.0, 0.005, 1.5)) for name in MEASURES if name in raw)
        bend = self.sided(table, raw, "knee_bend", 50.0, 0.5, 120.0, "degrees")
        most = self.sided(table, raw, "knee_most", 90.0, 0.5, 150.0, "degrees")
        out = self.sided(table, raw, "hip_out", 45.0, 1.0, 90.0, "degrees")
        inward = self.sided(table, raw, "hip_in", 35.0, 1.0, 90.0, "degrees")
        waist = self.sided(table, raw, "waist", 45.0, 1.0, 90.0, "degrees")
        ankle = self.sided(table, raw, "ankle", 42.0, 1.0, 80.0, "degrees")
        one = self.sided(table, raw, "knee_one", 65.0, 0.5, 150.0, "degrees")
        spare = self.choice(table, raw, "spare", ("left", "right"), "")
        friction = self.number(table, raw, "friction", 0.40, 0.02, 2.0, "")
        implement = self.length(table, raw, "implement", 0.0, 0.0, 5.0)
        support = raw.get("support", False)
        if not isinstance(support, bool):
            self.fail(self.place(table, "support"), "file.switch")
        name = self.string(table, raw, "name") or ""
        if len(self.problems) > before:  # the value would only repeat what has been said
            return Body()
        for key in ("shank", "thigh"):
            length = dict(measured).get(key, stature * PROPORTIONS[key])
            if not LINK[0] * stature <= length <= LINK[1] * stature:
                self.fail(self.place(table, key), link_problem(key, length, stature))
                return Body()
        return Body(
            stature,
            mass,
            bend,
            out,
            inward,
            measured,
            most,
            friction,
            support,
            implement,
            name,
            left_foot,
            waist,
            ankle,
            one,
            spare,  # type: ignore[arg-type]
        )


def read_body(path: Path | str) -> Body:
    """A body from a file with a ``[body]`` table, named by the file where it has no name. Raises DocumentError."""
    text, name = read_text(path).removeprefix("\ufeff"), Path(path).name
    try:
        raw = tomli.loads(text)
    except (ValueError, RecursionError) as error:
        raise DocumentError.of("file.toml", name=name, reason=str(error)) from None
    values, table = BodyValues(text), raw.get("body")
    if not isinstance(table, dict):
        raise DocumentError.of("file.no-body", name=name)
    for key in table:
        if key not in BODY_KEYS:
            values.unknown("body", key, BODY_KEYS)
    body = values.body(table)
    if values.problems:
        raise DocumentError(values.problems, name)
    return body if body.name else replace(body, name=Path(path).stem)
