"""Forms that a careful teacher has walked through and labelled, and how far the rules agree with the labels."""

from __future__ import annotations

import fnmatch
import tomllib
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form
from waltzmark.core.judge.judging import judge
from waltzmark.core.school.school import load_school
from waltzmark.core.walk.walk import walk
from waltzmark.files.reading import read_document

FOLDER = Path(__file__).parent


@dataclass
class Agreement:
    """Stops and cautions that are agreed with and false alarms, by rule, and what was missed."""

    agreed: Counter[str] = field(default_factory=Counter)
    false: Counter[str] = field(default_factory=Counter)
    told: list[str] = field(default_factory=list)
    missed: list[str] = field(default_factory=list)

    @property
    def share(self) -> float:
        """Percent of the stops and cautions that are agreed with."""
        right = sum(self.agreed.values())
        return 100.0 * right / max(right + sum(self.false.values()), 1)


def labelled() -> Iterator[tuple[str, Form, tuple[str, ...], tuple[str, ...]]]:
    """Name, form, what must be told and what may be; each form under its own school, then under the other one."""
    for name, label in tomllib.loads((FOLDER / "labels.toml").read_text(encoding="utf-8")).items():
        form = read_document((FOLDER / f"{name}.waltz").read_text(encoding="utf-8")).form
        for title, of, school in (
            (name, label, form.school.id),
            (f"{name} under {label.get('under', {}).get('school')}", label.get("under"), None),
        ):
            if of is not None:
                judged = replace(form, school=load_school(school or of["school"]))
                yield title, judged, tuple(of.get("must", ())), tuple(of.get("may", ()))


def agreement() -> Agreement:
    """The rules held against the labels."""
    found = Agreement()
    for name, form, must, may in labelled():
        told = [f for f in judge(form, walk(form)) if f.severity != "note"]
        keys = [f"{f.rule} {f.posture} {f.count}" for f in told]
        for key, finding in zip(keys, told, strict=True):
            if any(fnmatch.fnmatch(key, label) for label in must + may):
                found.agreed[finding.rule] += 1
            else:
                found.false[finding.rule] += 1
                found.told.append(f"{name}: {key}: {finding.message}")
        found.missed += [f"{name}: {label}" for label in must if not any(fnmatch.fnmatch(k, label) for k in keys)]
    return found
