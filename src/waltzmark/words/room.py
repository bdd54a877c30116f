"""The room: what a walk comes near to, where to stand, what would make it fit, and how to find a mark."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from waltzmark.core.room.changes import Change
from waltzmark.core.room.tape import Mark
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import N_, listed, tr
from waltzmark.words.sentences import Plural, Sentence, fill, sentence

__all__ = ["SENTENCES", "by_corners", "by_lines", "change_text", "square_to_walls"]


def _facing_wall(fields: Mapping[str, Any], figures: Figures) -> str:
    """A wall by the facing one looks at it in, said as facings are."""
    clock = figures.facings in ("clock", "own")
    return fill(N_("wall at {at:heading} o’clock") if clock else N_("wall at {at:heading}"), fields, figures)


def _named_facing(fields: Mapping[str, Any], figures: Figures) -> str:
    clock = figures.facings in ("clock", "own")
    return fill(N_("{name} at {at:heading} o’clock") if clock else N_("{name} at {at:heading}"), fields, figures)


SENTENCES: dict[str, Sentence] = {
    # Things
    "thing.named": N_("the {name}"),
    "thing.numbered": N_("{name}"),
    "wall": N_("the {wall}"),
    "wall.at": _facing_wall,
    "wall.named": N_("{name}"),
    "wall.named-at": _named_facing,
    "wall.left": N_("the left {wall}"),
    "wall.right": N_("the right {wall}"),
    "wall.nearer": N_("the nearer {wall}"),
    "wall.farther": N_("the farther {wall}"),
    "wall.from-left": N_("the {n:nth} {wall} from the left"),
    "wall.nearest": N_("the {n:nth} nearest {wall}"),
    "wall.row": N_("the {n:nth} {wall}, from the left and from the front"),
    "wall.again": N_("{wall} ({n})"),
    # Starts
    "suits.wall": N_("facing the {name}"),
    "suits.square": N_("square to a wall"),
    "suits.boards": N_("along the boards"),
    "suits.tiles": N_("along the tiles"),
    "away.ahead": N_("{by:length} further ahead"),
    "away.back": N_("{by:length} further back"),
    "away.right": N_("{by:length} to the right"),
    "away.left": N_("{by:length} to the left"),
    "away.here": N_("where you stand"),
    "away.hair": N_("less than a centimetre from there"),
    # Changes that fit
    "change.move": N_("Stand {away:list}, facing as before."),
    "change.turn.cw": N_("Turn the whole form {turn:turn} clockwise and stand {away:list}."),
    "change.turn.ccw": N_("Turn the whole form {turn:turn} counter-clockwise and stand {away:list}."),
    "change.shorter": N_("Take all steps at {percent:percent}."),
    "change.shorter.longest": N_("Take all steps at {percent:percent}: the longest goes from {longest:change}."),
    "change.steps": Plural(
        "Change {n} length by {total:length}: {postures:list}.",
        "Change {n} lengths by {total:length} altogether: {postures:list}.",
        "n",
    ),
    "change.postures": Plural(
        "In the fewest postures, change {n} length by {total:length}: {postures:list}.",
        "In the fewest postures, change {n} lengths by {total:length} altogether: {postures:list}.",
        "n",
    ),
    "change.passes": N_("Less often: {parts:list}."),
    "change.pass": Plural(
        "{titles:list} {n} time instead of {before}", "{titles:list} {n} times instead of {before}", "n"
    ),
    "change.side": N_("Walk the whole form on its other side, left and right exchanged."),
    "change.break": N_("Break off and go on from there: {breaks:list}."),
    "break.before": N_("before {title:name} walk to mark {n}, {away:list} from the first mark"),
    "break.before.cw": N_(
        "before {title:name} walk to mark {n}, {away:list} from the first mark, turned {turn:turn} clockwise"
    ),
    "break.before.ccw": N_(
        "before {title:name} walk to mark {n}, {away:list} from the first mark, turned {turn:turn} counter-clockwise"
    ),
    "change.clearance": N_("Ask for less space."),
    "change.clearance.less": N_("Ask for less space: {less:list}."),
    "change.arms": N_("Keep the arms in."),
    "change.arms.less": N_("Keep the arms in, and ask for less space: {less:list}."),
    "less.around": N_("{change:change} around"),
    "less.behind": N_("{change:change} behind backward steps"),
    "change.stand": N_("Stand {away:list}."),
    "change.stand.cw": N_("Stand {away:list}, turned {turn:turn} clockwise."),
    "change.stand.ccw": N_("Stand {away:list}, turned {turn:turn} counter-clockwise."),
    "and-more": N_("{n} more"),
    # Tape
    "tape.start": N_("Start cross"),
    "tape.go-on": N_("Mark to go on from, before {title}"),
    "tape.heel": N_("{title}: {side:heel}"),
    "tape.start-of": N_("Start of {who}"),
    "tape.left-corner": N_("left corner of {wall}"),
    "tape.right-corner": N_("right corner of {wall}"),
    "tape.board": N_("{into:length} into the {n:nth} board from {wall}"),
    "tape.tile": N_("{into:length} into the {n:nth} tile from {wall}"),
}


def change_text(change: Change, figures: Figures = PLAIN) -> str:
    """What a change does, and where to stand for it."""
    parts = [change.does] if change.stand is None else [change.does, change.stand]
    return " ".join(sentence(part, figures) for part in parts)


def square_to_walls(mark: Mark, figures: Figures = PLAIN) -> str:
    """How to find a mark square from walls."""
    return listed([_from(far, sentence(wall, figures), figures) for far, wall in mark.square])


def by_corners(mark: Mark, figures: Figures = PLAIN) -> str:
    """How to find a mark from both corners of a wall."""
    (left, _), (right, other) = mark.corner
    return tr(
        "{left} from the left and {right} from the {corner}",
        left=figures.length(left),
        right=figures.length(right),
        corner=sentence(other, figures),
    )


def by_lines(mark: Mark, figures: Figures = PLAIN) -> str:
    """How to find a mark by the floor's lines."""
    return listed([sentence(line, figures) for line in mark.lines])


def _from(far: float, wall: str, figures: Figures) -> str:
    return tr("{far} from {wall}", far=figures.length(far), wall=wall)
