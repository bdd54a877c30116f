"""A figure in a sentence: what is seen of it from one of its sides."""

from __future__ import annotations

from waltzmark.core.walk.seen import Seen
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import N_, tr
from waltzmark.words.sentences import fill

__all__ = ["seen_sentence"]

#: How a sentence begins, by the side that a figure is seen from.
_FROM = {
    "behind": N_("From behind: {seen}."),
    "front": N_("From the front: {seen}."),
    "left": N_("From the left: {seen}."),
    "right": N_("From the right: {seen}."),
    "across": N_("Across the stance: {seen}."),
    "mirrored": N_("As a teacher facing you: {seen}."),
}
_ASIDE = ("left", "right", "across")
_WORTH = 0.01  # metres
_UPRIGHT = 0.5  # degrees


def seen_sentence(seen: Seen, side: str, figures: Figures = PLAIN) -> str:
    """What one sees of a figure from a side by name: “From the right: the front knee is 3 cm behind its toes, the trunk
    is upright, the head is 4 cm lower than before.”"""
    parts = [part for part in (_knees(seen, side, figures), _trunk(seen, figures), _head(seen, figures)) if part]
    if seen.gap is not None:
        parts.append(fill(N_("the {side:leg} does not reach its foot"), {"side": seen.gap}, figures))
    return tr(_FROM[side], seen=", ".join(parts))


def _knees(seen: Seen, side: str, figures: Figures) -> str:
    if side not in _ASIDE:
        if seen.inward > 3 * _WORTH:
            return fill(N_("the knees fall in by {by:length}"), {"by": seen.inward}, figures)
        return tr("the knees are in line with hips and feet")
    if seen.front is None:
        return ""
    values = {"side": seen.front, "by": abs(seen.past)}
    if abs(seen.past) < _WORTH:
        return fill(N_("the {side:knee} is over its toes"), values, figures)
    past = N_("the {side:knee} is {by:length} past its toes")
    return fill(past if seen.past > 0.0 else N_("the {side:knee} is {by:length} behind its toes"), values, figures)


def _trunk(seen: Seen, figures: Figures) -> str:
    if abs(seen.lean) < _UPRIGHT:
        return tr("the trunk is upright")
    forward = N_("the trunk leans {lean:degrees} forward")
    return fill(
        forward if seen.lean > 0.0 else N_("the trunk leans {lean:degrees} back"), {"lean": abs(seen.lean)}, figures
    )


def _head(seen: Seen, figures: Figures) -> str:
    if abs(seen.risen) < _WORTH:
        return tr("the head is as high as before")
    higher = N_("the head is {by:length} higher than before")
    lower = N_("the head is {by:length} lower than before")
    return fill(higher if seen.risen > 0.0 else lower, {"by": abs(seen.risen)}, figures)
