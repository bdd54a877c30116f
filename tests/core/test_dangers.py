"""How grave what a rule finds is: the same thing a little of is a note, and much of it what a teacher stops the class for."""

from __future__ import annotations

from typing import Any

import pytest

from tests.core.test_rules import LOW, SEAT, STEP, found
from waltzmark.core.body.body import Body


def grave(rule: str, *texts: str, **options: Any) -> list[str]:
    """How grave what a rule finds is."""
    return [finding.severity for finding in found(rule, *texts, **options)]


def test_how_grave_it_is_follows_how_far_it_goes() -> None:
    for turned, severity in ((20, "note"), (21, "caution")):
        assert grave("knee.inward", f"{SEAT}pivot L heel in {turned}\nshift L 50, sink 60, torso 12") == [severity]
    for turned, severity in ((25, "note"), (24, "caution")):
        assert grave("knee.inward", f"{LOW}{turned}\nshift R 100\nstep L 12 40x25\nsink 60\nshift R 70") == [severity]
    for degrees, severity in ((14, "note"), (15, "caution")):
        assert grave("trunk.lean", f"lean -{degrees}") == [severity]
    assert grave("trunk.lean", STEP + "bow\nshift L 50, lean 20") == ["note"]
    assert grave("gaze.beyond", "gaze 3:20") == ["note"] and grave("gaze.beyond", "gaze 3:22") == ["caution"]
    both = "pivot L ball 11:10, pivot R ball 11:10, torso 11:10"
    assert grave("pivot.both", both, school="ball-turn") == ["note"]
    assert grave("pivot.both", both.replace("ball 1", "heel 1", 1), school="ball-turn") == ["caution"]
    far = "shift R {}\npivot L heel in 76, torso 12"
    assert grave("pivot.hip-range", far.format(71)) == ["note"] and grave("pivot.hip-range", far.format(70)) == [
        "caution"
    ]
    held = "shift R 70, ball R\ntorso {}"
    assert grave("balance.part", held.format("12:42"), school="ball-turn") == ["note"]
    assert grave("balance.part", held.format("12:40"), school="ball-turn") == ["caution"]
    assert grave("balance.part", held.format("12:42")) == ["caution"]


def test_a_hand_that_does_not_take_its_turn_is_told_and_a_habit_of_the_form_is_not() -> None:
    bow, other = "step {} 12 bow\nshift {} 70, hand {} 12 chest push", {"L": "R", "R": "L"}
    feet = ("L", "R", "L", "R", "L")

    def run(hands: str) -> list[str | None]:
        texts = [
            f"shift {other[foot]} 100\n" + bow.format(foot, foot, hand) for foot, hand in zip(feet, hands, strict=True)
        ]
        return [finding.posture for finding in found("hand.front-leg", *texts)]

    assert run("RLRLR") == [] and run("LRLRL") == []
    assert run("RLLLR") == ["p3"]


def test_a_loaded_turn_on_the_tip_of_the_toes_is_never_one_with_the_body() -> None:
    text = "shift L 70\npivot L {} 11, torso 11"
    assert grave("pivot.loaded", text.format("ball"), body=Body(friction=0.4)) == ["note"]
    assert grave("pivot.loaded", text.format("toe"), body=Body(friction=0.4)) == ["caution"]


def test_feet_that_were_crossed_by_a_typed_width_are_told_and_the_word_cross_is_not() -> None:
    assert grave("stance.crossed", STEP + "40x-10\nshift L 70") == ["caution"]
    assert not found("stance.crossed", STEP + "cross\nshift L 70")
    assert grave("stance.crossed", STEP + "40x-10\nshift L 45\nhold\nhold") == ["note"]
    # The feet have turned round under a chest that faces the old way: they are crossed as they stand.
    turned = "shift R 100\npivot L heel {0}\nshift L 100\npivot R heel {0}\nshift R 50\nhold\nhold\nhold"
    (crossed,) = found("stance.crossed", turned.format("4:30"))
    assert crossed.count == 5 and crossed.measured == pytest.approx(-6.6, abs=0.1)
    assert not found("stance.crossed", turned.format("2"))
