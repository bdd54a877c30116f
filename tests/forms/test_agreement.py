"""The rules agree with a careful teacher, and no danger that was planted is missed."""

from __future__ import annotations

import tomllib
from pathlib import Path

from tests.forms import FOLDER, agreement, labelled
from waltzmark.core.judge.judging import RULES
from waltzmark.core.school.school import bundled_schools


def test_a_careful_teacher_agrees_with_the_rules() -> None:
    found = agreement()
    assert not found.missed and found.share >= 95.0, "\n".join((*found.missed, *found.told))


def test_every_form_is_labelled_every_rule_has_a_planted_fault_and_every_school_is_met() -> None:
    labels = tomllib.loads((FOLDER / "labels.toml").read_text(encoding="utf-8"))
    assert {Path(file).stem for file in FOLDER.glob("*.waltz")} == set(labels)
    assert sum("under" in label for label in labels.values()) >= 15 <= sum(n.startswith("fault-") for n in labels)
    planted = {label.partition(" ")[0] for _, _, must, _ in labelled() for label in must}
    assert planted >= {rule.id for rule in RULES.values() if rule.severity != "note"}
    assert {form.school.id for _, form, _, _ in labelled()} == set(bundled_schools())
