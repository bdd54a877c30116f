"""The three answers, what is useful next, and where a count is."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from waltzmark.core.answers.answers import place_of
from waltzmark.core.form.form import Form
from waltzmark.core.judge.finding import Finding
from waltzmark.words.figures import Figures
from waltzmark.words.language import N_, ntr, tr
from waltzmark.words.sentences import Plural, Sentence, fill, sentence

__all__ = ["SENTENCES", "places", "where"]

#: So many other places of a finding are named.
_PLACES = 3


def _same(fields: Mapping[str, Any], figures: Figures) -> str:
    said = [ntr("Mirror: {n} pair of sides agrees.", "Mirror: {n} pairs of sides agree.", fields["n"])]
    if fields["entered"]:
        said.append(
            ntr(
                "{n} of them begins from a different stance.",
                "{n} of them begin from a different stance.",
                fields["entered"],
            )
        )
    if fields["rest"] is not None:
        said.append(sentence(fields["rest"], figures))
    return " ".join(said)


def _differ(fields: Mapping[str, Any], figures: Figures) -> str:
    n, of = fields["n"], fields["of"]
    if of == 1:
        head = tr("The one pair of sides differs.")
    else:
        head = ntr("{n} of {of} pairs of sides differs.", "{n} of {of} pairs of sides differ.", n, of=of)
    point = fields["point"]
    if point.kind == "side.in-count":
        where = N_("{title}, count {count}: {point}.")
    elif point.kind == "side.in-count.entry":
        where = N_("{title}, count {count}: {point}, because it begins from a different stance.")
    else:
        told = N_("{title}: {point}")
        return f"{head} {fill(told, fields, figures)}"
    return f"{head} {fill(where, {'title': fields['title'], **dict(point.fields)}, figures)}"


SENTENCES: dict[str, Sentence] = {
    "place.opening": N_("the opening"),
    "place.beginning": N_("{title}, before its first count"),
    "place.count": N_("{title}, count {count}"),
    "room.none": N_("There is no room yet."),
    "room.fits": N_("Fits: {clearance:length} from {thing}, in {place}."),
    "room.too-close": N_("Too close: {clearance:length} from {thing}, in {place}; {wanted:length} is wanted."),
    "room.does-not-fit": N_("Does not fit: {beyond:length} past {thing}, in {place}."),
    "return.nothing": N_("Nothing to walk yet."),
    "return.on-mark": N_("Returns: it ends on its start mark, facing as it began."),
    "return.on-home": N_("Returns: it ends at its home, facing as it should."),
    "return.turned-mark": N_("Ends on its start mark, {ways:list}."),
    "return.turned-home": N_("Ends at its home, {ways:list}."),
    "return.within-mark": N_("Returns to within {distance:length} of its start mark ({ways:list})."),
    "return.within-home": N_("Returns to within {distance:length} of its home ({ways:list})."),
    "return.ends-mark": N_("Ends {distance:length} from its start mark ({ways:list})."),
    "return.ends-home": N_("Ends {distance:length} from its home ({ways:list})."),
    "off.ahead": N_("{by:length} ahead"),
    "off.behind": N_("{by:length} behind"),
    "off.right": N_("{by:length} to the right"),
    "off.left": N_("{by:length} to the left"),
    "off.turned.cw": N_("turned {by:degrees} clockwise"),
    "off.opposite": N_("facing the opposite way"),
    "off.turned.ccw": N_("turned {by:degrees} counter-clockwise"),
    "sides.none": N_("No posture has another side yet."),
    "sides.same": _same,
    "sides.differ": _differ,
    "onward.write": N_("Write the first count"),
    "onward.draft": N_("Take what your words come to"),
    "onward.sure": N_("Take all up to the next question"),
    "onward.practise": N_("Practise it"),
    "onward.sheet": N_("Print a sheet for the floor"),
    "onward.log": N_("See what to practise next"),
    "onward.mend": Plural("Fix {n} stop", "Fix {n} stops", "n"),
    "onward.room": N_("Choose the room it is walked in"),
    "onward.fit": N_("Make it fit the room"),
    "onward.home": N_("Bring it home"),
    "onward.sides": N_("See where its sides differ"),
}


def where(form: Form, posture: str | None, count: int) -> str:
    """A count's place in words."""
    return sentence(place_of(form, posture, count))


def places(form: Form, finding: Finding) -> str:
    """Where else a finding that is told once is so, in words; the first few of many."""
    found = [where(form, each.posture, each.count) for each in finding.again]
    more = len(found) - _PLACES
    named = "; ".join(found[:_PLACES])
    rest = ntr("{n} more", "{n} more", more)
    return named if more <= 0 else f"{named}; {rest}"
