"""How well words are drafted: each case is drafted, and what comes out is walked beside what a teacher wrote."""

from __future__ import annotations

import re
import tomllib
from collections import Counter
from pathlib import Path
from typing import Any, NamedTuple

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.body.body import Body
from waltzmark.core.body.pose import Pose
from waltzmark.core.draft.drafting import Draft, draft
from waltzmark.core.form.form import Form, Opening, Posture
from waltzmark.core.score import read_score
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.walk import ground_of, walk

__all__ = ["CORPORA", "KINDS", "Case", "cases", "counted", "drafted", "judged"]

FOLDER = Path(__file__).parent
CORPORA = ("open", "sealed")
KINDS = ("right", "right but asked", "open", "silent")


class Case(NamedTuple):
    """What is said after some counts, and all that it may be written as."""

    id: str
    language: str
    voice: str
    before: tuple[str, ...]
    say: str
    wanted: tuple[tuple[str, ...], ...]


def cases(path: Path) -> list[Case]:
    """The cases of a corpus."""
    return [
        Case(
            each["id"],
            each.get("lang", "en"),
            each.get("voice", ""),
            tuple(each["before"]),
            each["say"],
            tuple(tuple(want) for want in (each["want"], *each.get("also", []))),
        )
        for each in tomllib.loads(path.read_text(encoding="utf-8"))["case"]
    ]


def form_of(counts: tuple[str, ...]) -> Form:
    lines = [line for line in counts if not line.startswith("@")] or ["hold"]
    return Form(opening=Opening("hip"), body=Body(1.72), postures=(Posture("a", lines=read_score("\n".join(lines))),))


def drafted(case: Case) -> Draft:
    """What a case is drafted as."""
    form = form_of(case.before)
    return draft(case.say + "\n", walk(form).passages[-1].exit, ground_of(form), case.language)


def judged(case: Case, found: Draft) -> str:
    """How good a draft is: one of `KINDS`."""
    got: list[str] = []
    asked = any(each.why != "idle" for each in found.unused)
    for posture in found.postures:
        got += ["@mirror"] * (posture.mirror_of is not None) + ["@repeat"] * (posture.repeat_of is not None)
        got += [write_count(made.count) for made in posture.counts]
        asked |= any(made.how == "doubtful" for made in posture.counts)
    right = any(_same(case.before, tuple(got), _plain(want)) for want in case.wanted)
    if right:
        return "right but asked" if asked else "right"
    return "open" if asked else "silent"


def counted(path: Path) -> dict[str, Counter[str]]:
    """How many cases of a corpus are of each kind, by language."""
    found: dict[str, Counter[str]] = {}
    for case in cases(path):
        found.setdefault(case.language, Counter())[judged(case, drafted(case))] += 1
    return found


def _plain(counts: tuple[str, ...]) -> tuple[str, ...]:
    return tuple(re.sub(r"^@(repeat|mirror).*", r"@\1", each) for each in counts if not each.startswith("@posture"))


def _same(before: tuple[str, ...], got: tuple[str, ...], want: tuple[str, ...]) -> bool:
    if _besides(got) != _besides(want):
        return False
    one, other = (_poses((*before, *counts)) for counts in (got, want))
    return len(one) == len(other) and all(_near(a, b) for a, b in zip(one, other, strict=True))


def _besides(counts: tuple[str, ...]) -> list[str]:
    """What is expected, kicked and done again, which no pose shows."""
    found: list[str] = []
    for count in counts:
        parts: list[Any] = [count] if count.startswith("@") else re.split(r"[#@]", count)[0].split(",")
        found += [" ".join(each.split()) for each in parts if re.match(r"\s*(@|expect\b|kick\b)", each)]
    return sorted(found)


def _poses(counts: tuple[str, ...]) -> list[Pose]:
    trace = walk(form_of(counts))
    every = [trace.pose(row) for row in range(len(trace))]
    return [pose for at, pose in enumerate(every) if at == 0 or not _near(pose, every[at - 1])]


def _near(one: Pose, other: Pose) -> bool:
    for a, b in ((one.left, other.left), (one.right, other.right)):
        if abs(a.x - b.x) >= 0.03 or abs(a.y - b.y) >= 0.03 or a.contact != b.contact:
            return False
        if abs(heading_difference(a.heading, b.heading)) > 5.0:
            return False
    turned = abs(heading_difference(one.torso, other.torso))
    return abs(one.left_share - other.left_share) <= 0.021 and turned <= 5.0
