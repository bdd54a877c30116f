"""What each rule finds, in a few words, and what changed between two judgements."""

from __future__ import annotations

from collections.abc import Iterable

from waltzmark.core.judge.compare import changes
from waltzmark.core.judge.finding import Finding, Severity
from waltzmark.words.findings import severity_name
from waltzmark.words.language import N_, listed, ntr, tr

__all__ = ["TITLES", "changed", "graver_title", "rule_title"]

TITLES: dict[str, str] = {
    "weight.loaded-lift": N_("Lifting a loaded foot"),
    "weight.in-air": N_("Weight on a foot in the air"),
    "weight.both-in-air": N_("Both feet in the air"),
    "weight.falling-step": N_("Falling into a step"),
    "score.unread": N_("A line that cannot be read"),
    "score.contradiction": N_("A count that contradicts itself"),
    "pivot.half-turn": N_("Half a turn without a direction"),
    "pivot.loaded": N_("Turning a loaded foot"),
    "pivot.both": N_("Turning both feet at once"),
    "pivot.sit-back": N_("A big turn without sitting back"),
    "pivot.far": N_("Turning too far at once"),
    "pivot.part": N_("The part a foot turns on"),
    "pivot.contact": N_("Turning on a part that is not down"),
    "pivot.hip-range": N_("Turned in beyond the hip"),
    "stance.narrow": N_("A narrow stance"),
    "stance.crossed": N_("Feet crossed or on one line"),
    "stance.unemptied": N_("A foot left out of reach"),
    "stance.wide": N_("A wide stance"),
    "stance.long": N_("A long stance"),
    "stance.rear-angle": N_("The angle of the rear foot"),
    "stance.heel-floats": N_("A rear heel off the floor"),
    "stance.overlap": N_("Overlapping soles"),
    "stance.low-held": N_("A low stance held long"),
    "step.reach": N_("A step beyond reach"),
    "step.landing": N_("The part a step lands on"),
    "step.order": N_("Turning and stepping out of order"),
    "step.cross-again": N_("Crossing twice in a row"),
    "step.swing": N_("A foot running into the other"),
    "step.back-open": N_("A front foot left open"),
    "step.drag": N_("Dragging a foot"),
    "step.flow": N_("Beginning on a loaded foot"),
    "hip.range": N_("Turned beyond hips and waist"),
    "waist.twist": N_("A waist left twisted"),
    "knee.past-toe": N_("A knee past its toes"),
    "knee.shin": N_("A leaning shin"),
    "knee.ankle": N_("A heel about to lift"),
    "knee.inward": N_("A knee falling inward"),
    "knee.locked": N_("A locked knee"),
    "knee.one-leg": N_("Too deep on one leg"),
    "knee.rising": N_("Rising or sinking on one leg"),
    "knee.deep": N_("Knees bent too deep"),
    "trunk.lean": N_("Leaning too far"),
    "kick.across": N_("Kicking too far across"),
    "balance.left": N_("A foot that leaves too early"),
    "balance.margin": N_("Standing near the edge"),
    "balance.weak-line": N_("A weak line across the feet"),
    "balance.part": N_("Standing on part of a foot"),
    "balance.bob": N_("Bobbing up and down"),
    "balance.one-leg": N_("Long on one leg"),
    "split.forward": N_("The weight in front"),
    "split.light": N_("The light front foot"),
    "split.light-contact": N_("Heel or ball of the light foot"),
    "split.even": N_("Even weight"),
    "hand.front-leg": N_("The hand that pushes"),
    "gaze.beyond": N_("Looking too far aside"),
    "expect.unmet": N_("An expectation not met"),
    "posture.ends": N_("The wrong facing at the end"),
}


def rule_title(rule: str) -> str:
    """What a rule finds; the id of one that is not known here, as words."""
    title = TITLES.get(rule)
    return tr(title) if title is not None else rule.replace(".", " ").replace("-", " ")


def graver_title(new: tuple[Severity, str]) -> str:
    """A stop or a caution that a change brings: “Caution: a narrow stance”."""
    severity, rule = new
    return tr("{severity}: {title}", severity=severity_name(severity), title=rule_title(rule))


def changed(name: str, before: Iterable[Finding], after: Iterable[Finding]) -> str:
    """What another school or body changes: “With Ball turn, 3 findings are gone (A narrow stance, 3).”"""
    gone, new = changes(before, after)
    said = []
    if gone:
        said.append(
            ntr(
                "{n} finding is gone ({rules})",
                "{n} findings are gone ({rules})",
                sum(gone.values()),
                rules=_rules(gone),
            )
        )
    if new:
        said.append(
            ntr("{n} finding is new ({rules})", "{n} findings are new ({rules})", sum(new.values()), rules=_rules(new))
        )
    if not said:
        return tr("With {name}, the findings stay the same.", name=name)
    return tr("With {name}, {changes}.", name=name, changes=listed(said))


def _rules(found: dict[str, int]) -> str:
    most = sorted(found.items(), key=lambda each: -each[1])
    said = [tr("{rule}: {n}", rule=rule_title(rule), n=number) for rule, number in most[:4]]
    return "; ".join([*said, "…"] if len(most) > 4 else said)
