"""What differs between two sides, and between two forms.

A point, such as “the right step is 3 cm longer”, is a clause: it always stands after a colon that says where.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from waltzmark.core.sides.differences import Compared, CountPair
from waltzmark.core.sides.forms import FormsCompared
from waltzmark.core.sides.pairs import Pair
from waltzmark.core.sides.points import beside_point, count_points, entry_points, rest_point, worst_point
from waltzmark.core.walk.trace import Trace
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import N_, ntr, tr
from waltzmark.words.sentences import Sentence, fill, sentence

__all__ = ["SENTENCES", "cause_name", "count_differences", "entry_differences", "pair_difference", "report"]


def _longer(plain: str, sized: str, reached: str) -> Sentence:
    """A step that is longer: by how much; and in what way from one length to another, and from one share of its reach
    to another, where two forms are compared."""

    def said(fields: Mapping[str, Any], figures: Figures) -> str:
        if "reach" in fields:
            return fill(reached, fields, figures)
        return fill(sized if "sizes" in fields else plain, fields, figures)

    return said


_POINTS: dict[str, Sentence] = {
    "side.step.longer": _longer(
        N_("the {side:step} is {by:length} longer"),
        N_("the {side:step} is {by:length} longer ({sizes:change})"),
        N_("the {side:step} is {by:length} longer ({sizes:change}, {reach:percents} of its reach)"),
    ),
    "side.step.shorter": _longer(
        N_("the {side:step} is {by:length} shorter"),
        N_("the {side:step} is {by:length} shorter ({sizes:change})"),
        N_("the {side:step} is {by:length} shorter ({sizes:change}, {reach:percents} of its reach)"),
    ),
    "side.step.wider": _longer(
        N_("the {side:step} is {by:length} wider"), N_("the {side:step} is {by:length} wider ({sizes:change})"), ""
    ),
    "side.step.narrower": _longer(
        N_("the {side:step} is {by:length} narrower"),
        N_("the {side:step} is {by:length} narrower ({sizes:change})"),
        "",
    ),
    "side.step.off": N_("the {side:step} lands {by:length} off"),
    "side.stance.ahead": N_("the {side:foot} stands {by:length} further ahead"),
    "side.stance.back": N_("the {side:foot} stands {by:length} further back"),
    "side.stance.wider": N_("the {side:foot} stands {by:length} further out"),
    "side.stance.narrower": N_("the {side:foot} stands {by:length} further in"),
    "side.foot.out": N_("the {side:foot} points {by:degrees} further out"),
    "side.foot.in": N_("the {side:foot} points {by:degrees} further in"),
    "side.foot.round": N_("the {side:foot} turns the other way around"),
    "side.foot.part": N_("the {side:foot} turns on a different part"),
    "side.foot.contact": N_("the {side:foot} rests differently on the floor"),
    "side.foot.turns-on": N_("the {side:foot} turns on its {there:part}, not on its {here:part}"),
    "side.foot.rests": N_("the {side:foot} is {there:resting}, not {here:resting}"),
    "side.foot.steps": N_("the {side:foot} steps"),
    "side.foot.stays": N_("the {side:foot} does not step"),
    "side.foot.slides": N_("the {side:foot} slides"),
    "side.foot.lifted": N_("the {side:foot} is lifted"),
    "side.foot.load": N_("the {side:foot} turns with {loads:percents} of the weight on it"),
    "side.chest.left": N_("the chest turns {by:degrees} further to the left"),
    "side.chest.right": N_("the chest turns {by:degrees} further to the right"),
    "side.weight": N_("{by:percent} more of the weight is on the {side:foot}"),
    "side.weight.split": N_("{by:percent} more of the weight is on the {side:foot} ({here} → {there})"),
    "side.knees.deeper": N_("the knees bend {by:degrees} deeper"),
    "side.knees.higher": N_("the knees bend {by:degrees} less"),
    "side.trunk.forward": N_("the trunk leans {by:degrees} further forward"),
    "side.trunk.back": N_("the trunk leans {by:degrees} further back"),
    "side.count.missing": N_("“{text}” is missing"),
    "side.count.added": N_("“{text}” is added"),
    "side.in-count": N_("Count {count}: {point}"),
    "side.in-count.entry": N_("Count {count}: {point}, because it begins from a different stance"),
    "side.rest": N_("Feet, weight and chest are the same. Different: {topics:list}."),
    "topic.kick": N_("kicks"),
    "topic.hand": N_("hands"),
    "topic.gaze": N_("gaze"),
    "topic.beats": N_("beats"),
    "topic.breath": N_("breath"),
    "topic.path": N_("paths of the steps"),
    # Besides feet, weight and chest
    "beside.hand": N_("the {side:hand} is {there:parts}, not {here:parts}"),
    "beside.hand.missing": N_("the {side:hand} is not written ({here:parts})"),
    "beside.hand.added": N_("the {side:hand} is written here only ({there:parts})"),
    "beside.kick": N_("the {side:foot} kicks {there:parts}, not {here:parts}"),
    "beside.kick.missing": N_("the kick of the {side:foot} is not written ({here:parts})"),
    "beside.kick.added": N_("the kick of the {side:foot} is written here only ({there:parts})"),
    "beside.gaze": N_("the eyes look {there:parts}, not {here:parts}"),
    "beside.gaze.missing": N_("the gaze is not written ({here:parts})"),
    "beside.gaze.added": N_("the gaze is written here only ({there:parts})"),
    "beside.beats": N_("it lasts {there:parts}, not {here:parts}"),
    "beside.breath": N_("the breath goes {there:parts}, not {here:parts}"),
    "beside.breath.missing": N_("the breath is not written ({here:parts})"),
    "beside.breath.added": N_("the breath is written here only ({there:parts})"),
    "beside.path": N_("the {side:foot} goes {there:parts}, not {here:parts}"),
    "beside.lasts": N_("{beats:beats}"),
    "beside.toward": N_("toward {heading:heading}"),
    "beside.same-way": N_("the same way"),
    "breath.in": N_("in"),
    "breath.out": N_("out"),
    "path.close": N_("close by"),
    "path.straight": N_("straight"),
    "path.front": N_("around the front"),
    "path.behind": N_("around behind"),
    "path.slide": N_("sliding"),
    "hand.height.knee": N_("at the knee"),
    "hand.height.hip": N_("at the hip"),
    "hand.height.waist": N_("at the waist"),
    "hand.height.chest": N_("at the chest"),
    "hand.height.shoulder": N_("at the shoulder"),
    "hand.height.head": N_("at the head"),
    "hand.height.above": N_("above the head"),
    "hand.shape.push": N_("pushing"),
    "hand.shape.guard": N_("guarding"),
    "hand.shape.fist": N_("as a fist"),
    "hand.shape.hook": N_("as a hook"),
    "hand.shape.open": N_("open"),
    "hand.shape.palm-up": N_("palm up"),
    "hand.shape.palm-down": N_("palm down"),
    "hand.shape.palm-in": N_("palm in"),
    "hand.shape.palm-out": N_("palm out"),
    "kick.height.ankle": N_("ankle-high"),
    "kick.height.knee": N_("knee-high"),
    "kick.height.hip": N_("hip-high"),
    "kick.height.waist": N_("waist-high"),
    "kick.height.chest": N_("chest-high"),
    "kick.height.head": N_("head-high"),
    "kick.shape.heel": N_("with the heel"),
    "kick.shape.toe": N_("with the toes"),
    "kick.shape.edge": N_("with the edge"),
    "kick.shape.sole": N_("with the sole"),
}
#: Two forms: from the first to the second.
_FORMS: dict[str, Sentence] = {
    "form.only-first": N_("only in the first form"),
    "form.only-second": N_("only in the second form"),
    "form.name": N_("name: {here:name} → {there:name}"),
    "form.place": N_("place in the form: {here} → {there}"),
    "form.source": N_("counts: {here} → {there}"),
    "form.own": N_("its own"),
    "form.taken": N_("from {title:name}"),
    "form.turned.cw": N_("walked turned {by:degrees} clockwise"),
    "form.turned.ccw": N_("walked turned {by:degrees} counter-clockwise"),
    "form.counts": N_("number of counts: {here} → {there}"),
    "form.entered": N_("it begins from a different stance: {points:list}"),
    "form.as-source": N_("as in {title:name}"),
    "form.ends": N_("faces {here:heading} → {there:heading} at the end"),
    "form.count": N_("count {count}: {point}"),
    "form.count-second": N_("count {count} of the second form: {point}"),
    "form.order": N_("“{text}” is count {here} → {there}"),
    "form.expects": N_("expects {here:list} → {there:list}"),
    "form.expects-nothing": N_("nothing"),
    "form.note": N_("note: {here} → {there}"),
    "form.no-note": N_("none"),
    "form.quoted": N_("“{text}”"),
    "form.found.first": N_("found in the first form only, in count {count}: {rule:rule}"),
    "form.found.second": N_("found in the second form only, in count {count}: {rule:rule}"),
    "form.opening": N_("opening: {here} → {there}"),
    "form.school": N_("school: {here} → {there}"),
    "form.torso": N_("torso: {here} → {there}"),
    "form.twelve": N_("at 12 o’clock: {here} → {there}"),
    "form.body": N_("body: {here} → {there}"),
    "form.a-body": N_("{height:length} tall"),
    "form.named-body": N_("{name}, {height:length} tall"),
    "form.postures": N_("postures: {here} → {there}"),
    "form.whole-turned.cw": N_("the second form is walked turned {by:degrees} clockwise"),
    "form.whole-turned.ccw": N_("the second form is walked turned {by:degrees} counter-clockwise"),
    "form.parting": N_(
        "the paths part in {title:name}, count {count}, by {apart:length}; at the end they are {end:length} apart"
    ),
}
_OPENINGS: dict[str, Sentence] = {
    "opening.together": N_("feet together"),
    "opening.vee": N_("heels together and toes open"),
    "opening.shoulder": N_("feet shoulder-width apart"),
    "opening.hip": N_("feet hip-width apart"),
    "opening.free": N_("feet placed freely"),
}

SENTENCES: dict[str, Sentence] = {**_POINTS, **_FORMS, **_OPENINGS}


def cause_name(cause: str) -> str:
    """Why a count differs, in a few words."""
    return {
        "none": "",
        "entry": tr("from where it begins"),
        "written": tr("from how it is written"),
        "both": tr("from how it is written and where it begins"),
    }[cause]


def count_differences(
    compared: Compared, pair: CountPair, traces: tuple[Trace, Trace], figures: Figures = PLAIN
) -> list[str]:
    """What the other's count does differently; empty where it does the same."""
    return [sentence(point, figures) for point in count_points(compared, pair, traces)]


def entry_differences(compared: Compared, figures: Figures = PLAIN) -> list[str]:
    """How the stance that the other begins from differs; empty where it does not."""
    return [sentence(point, figures) for point in entry_points(compared)]


def pair_difference(pair: Pair, trace: Trace, figures: Figures = PLAIN) -> str:
    """A pair in a sentence or two."""
    if pair.empty:
        return tr("Neither has counts yet, so there is nothing to compare.")
    said = []
    others = rest_point(pair.compared)
    if others is not None:
        count = next(each for each in pair.compared.counts if each.beside)
        point = sentence(beside_point(count.beside[0], pair.compared), figures)
        said = [sentence(others, figures), tr("Count {count}: {point}.", count=count.other, point=point)]
    elif pair.same:
        said = [tr("The same.")]
    else:
        different = sum(not each.same(pair.compared.within) for each in pair.compared.counts)
        worst = worst_point(pair.compared, (trace, trace))
        assert worst is not None
        said = [tr("{point}.", point=sentence(worst, figures))]
        if different > 1:
            said.append(ntr("{n} more count differs.", "{n} more counts differ.", different - 1))
    if pair.cause == "entry" and (pair.same or others is not None):
        said.append(tr("It begins from a different stance."))
    return " ".join(said)


def report(found: FormsCompared, names: tuple[str, str], figures: Figures = PLAIN) -> str:
    """A comparison as a text to keep."""
    lines = [tr("First:  {name}", name=names[0]), tr("Second: {name}", name=names[1]), ""]
    if found.same:
        return "\n".join([*lines, tr("Nothing differs."), ""])
    lines += [f"- {sentence(each.message, figures)}" for each in found.whole]
    for two in found.postures:
        if not two.differences:
            continue
        titles = [
            form.posture(name).title for form, name in zip(found.forms, (two.a, two.b), strict=True) if name is not None
        ]
        lines += ["", titles[0], *(f"- {sentence(each.message, figures)}" for each in two.differences)]
    return "\n".join([*lines, ""])
