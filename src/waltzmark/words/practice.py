"""Practice: what the book advises, what the scale and the turn check found."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from waltzmark.core.base.leftright import Side
from waltzmark.words.figures import Figures
from waltzmark.words.language import N_, ntr
from waltzmark.words.sentences import Plural, Sentence, fill

__all__ = ["SENTENCES"]


def _bias(fields: Mapping[str, Any], figures: Figures) -> str:
    left = N_("You put about {by:percent} more on the left than you mean to")
    right = N_("You put about {by:percent} more on the right than you mean to")
    head = fill(left if fields["side"] is Side.LEFT else right, fields, figures)
    return ntr("{said} ({n} reading).", "{said} ({n} readings).", fields["n"], said=head)


def _less(fields: Mapping[str, Any], figures: Figures) -> str:
    one = N_("the last measure came to {measured:degrees}, not {known:degrees}")
    many = N_("the last {n} measures came to {measured:degrees}, not {known:degrees}")
    return fill(one if fields["n"] == 1 else many, fields, figures)


SENTENCES: dict[str, Sentence] = {
    "advice.rest": N_("Give {title:name} a rest, and ask about it"),
    "advice.rest.it": N_("Give it a rest, and ask about it"),
    "advice.hurt": N_("It hurt on {day}. Ask a physician or physiotherapist."),
    "advice.posture": N_("{title}"),
    "advice.posture.left": N_("{title} (left side)"),
    "advice.posture.right": N_("{title} (right side)"),
    "advice.missed": N_("Missed or off in {missed} of {entries}."),
    "advice.side.left": N_("The left side"),
    "advice.side.right": N_("The right side"),
    "advice.weaker": N_("Missed or off in {here:percent} of its entries, against {there:percent}."),
    "advice.less": Plural("{n} repetition against {other}.", "{n} repetitions against {other}.", "n"),
    "advice.long-ago": Plural("Not practised for {n} day.", "Not practised for {n} days.", "n"),
    "advice.never": N_("Never practised yet."),
    "advice.never.others": Plural(
        "Never practised yet, and neither is {n} other.",
        "Never practised yet, and neither are {n} others.",
        "n",
    ),
    "scale.bias": _bias,
    "turn.less": _less,
    "turn.more": N_("on {n} days it came to at least {least:degrees}, and none hurt"),
}
