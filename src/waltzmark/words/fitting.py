"""Forms fitted to bodies, in words: whether they fit, what changes, and why."""

from __future__ import annotations

from waltzmark.core.fit.fitting import Change, ChangedLine, Fitted
from waltzmark.core.score.actions import Count
from waltzmark.core.score.write import write_action, write_count
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.findings import what
from waltzmark.words.language import N_, ntr, ptr, tr
from waltzmark.words.sentences import Sentence, sentence

__all__ = [
    "SENTENCES",
    "change_from",
    "change_to",
    "difference",
    "does",
    "ends_words",
    "fits_words",
    "lines_text",
    "why",
]

_HEIGHTS = {
    "ankle": N_("Kick at the height of the ankle"),
    "knee": N_("Kick at the height of the knee"),
    "hip": N_("Kick at the height of the hip"),
    "waist": N_("Kick at the height of the waist"),
    "chest": N_("Kick at the height of the chest"),
}

SENTENCES: dict[str, Sentence] = {
    "fit.shorter": N_("Take the step at {share:percent} of its length"),
    "fit.pour": N_("Shift {share:percent} onto the {foot:foot} before the turn"),
    "fit.chest-later": N_("Turn the chest only part of the way here, and the rest in the next count"),
    "fit.support": N_("Keep something to hold within reach"),
    "fit.kick-lower": lambda fields, _: tr(_HEIGHTS[str(fields["height"])]),
    "fit.knee-lift": N_("Lift the knee instead of kicking"),
    "fit.toe-down": N_("Leave the toes on the floor instead of lifting the foot"),
}


def fits_words(fitted: Fitted) -> str:
    """Whether a body can walk a form, in a line."""
    left = {finding.rule for finding in fitted.left}
    if left:
        return ntr("Does not fit: {n} thing is in the way", "Does not fit: {n} things are in the way", len(fitted.left))
    if not fitted.changes:
        return tr("Fits as written")
    return ntr("Fits with {n} change", "Fits with {n} changes", len(fitted.changes))


def lines_text(lines: tuple[Count, ...]) -> str:
    """Lines of the score, one below the other, as they are written."""
    return "\n".join(write_count(line) for line in lines)


def _shown(change: Change) -> ChangedLine | None:
    return change.lines[0] if change.lines else None


def change_from(change: Change) -> str:
    """What stood there."""
    line = _shown(change)
    return tr("nothing to hold") if line is None else lines_text(line.before)


def change_to(change: Change) -> str:
    """What stands there instead; nothing where it is left out."""
    line = _shown(change)
    if line is None:
        return tr("something to hold within reach")
    return lines_text(line.after) or ptr("a count of the score", "left out")


def difference(line: ChangedLine) -> tuple[str, str]:
    """What of a line is gone and what has come, an action each; lines one after the other."""
    old = [action for count in line.before for action in count.actions]
    new = [[action for action in count.actions if action not in old] for count in line.after]
    kept = {action for count in line.after for action in count.actions}
    gone = ", ".join(write_action(action) for action in old if action not in kept)
    come = "; ".join(", ".join(write_action(action) for action in actions) for actions in new if actions)
    return gone, come or ("" if line.after else ptr("a count of the score", "left out"))


def ends_words(fitted: Fitted, figures: Figures = PLAIN) -> str:
    """Where a fitted form ends."""
    back = fitted.back
    if back.distance < 0.005:
        return tr("It ends at home.")
    away = figures.length(back.distance)
    if back.good:
        return tr("It ends {away} from home, which counts as home.", away=away)
    return tr("It ends {away} from home.", away=away)


def does(change: Change, figures: Figures = PLAIN) -> str:
    """What a change does."""
    return sentence(change.does, figures)


def why(change: Change, figures: Figures = PLAIN) -> str:
    """What it puts right."""
    return what(change.why, figures)
