"""Loops and their rounds in words, the same on the screen and on the command line."""

from __future__ import annotations

from waltzmark.core.form.form import Form
from waltzmark.core.home.loop_drill import as_walked
from waltzmark.core.home.loops import Loop, with_back
from waltzmark.core.home.rounds import MOST
from waltzmark.core.walk.trace import Trace
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import N_, listed, ntr, number, percent, tr
from waltzmark.words.sentences import Plural, Sentence, fill

__all__ = ["SENTENCES", "carries", "comes_home", "loop_lines", "stays"]

SENTENCES: dict[str, Sentence] = {
    "closing.no-posture": N_("There is no posture yet that could change."),
    "closing.home": N_("It is home: nothing needs to change."),
    "closing.no-turn": N_("No single turn brings it around: it ends {off:degrees} off."),
    "closing.locked": N_("Nothing may change: every posture is locked, or has no length of its own."),
    "closing.not-by-lengths": N_("Changing the lengths of steps cannot bring it home."),
    "closing.nearest": N_("It gets no nearer than {left:length}: no length leads that way."),
    "closing.nearest.full": N_(
        "It gets no nearer than {left:length}: there is nothing more to change in {postures:list}."
    ),
    "closing.pass.more": N_("do {titles:list} once more"),
    "closing.pass.often": N_("do {titles:list} twice more"),
    "closing.pass.less": N_("do {titles:list} once less"),
    "closing.passes": N_("How often: {parts:list}."),
    "closing.passes.left": N_("How often: {parts:list}; {left:length} is left."),
    "closing.added": Plural(
        "One more step: {n} plain step after {after:name}.",
        "More steps: {n} plain steps after {after:name}.",
        "n",
    ),
    "closing.added.left": Plural(
        "One more step: {n} plain step after {after:name}; {left:length} is left.",
        "More steps: {n} plain steps after {after:name}; {left:length} is left.",
        "n",
    ),
    "closing.turns": Plural("{n} turn", "{n} turns", "n"),
    "closing.lengths": Plural("{n} length by {total:length}", "{n} lengths by {total:length} altogether", "n"),
    "closing.lengths.even": Plural("{n} length by at most {most:length}", "{n} lengths by at most {most:length}", "n"),
    "closing.fewest": N_("Fewest changes: {parts:list}."),
    "closing.least": N_("Least change overall: {parts:list}."),
    "closing.even": N_("Most even: {parts:list}."),
    "closing.near": N_("Near enough to count as home: {parts:list}."),
    "closing.near.left": N_("Near enough to count as home: {parts:list}; {left:length} is left."),
    "closing.turn": N_("By turning: {parts:list}."),
    "closing.fewest.left": N_("Fewest changes: {parts:list}; {left:length} is left."),
    "closing.least.left": N_("Least change overall: {parts:list}; {left:length} is left."),
    "closing.even.left": N_("Most even: {parts:list}; {left:length} is left."),
    "closing.turn.left": N_("By turning: {parts:list}; {left:length} is left."),
}


def carries(metres: float, turn: float, figures: Figures, left_out: bool = False) -> str:
    """What a round does; left_out: what it does with the postures that were left out."""
    fields = {"away": metres, "turn": abs(turn)}
    still, turned = metres < 0.005, 1 if turn > 0 else 2
    if abs(turn) < 0.5:
        turned = 0
    if left_out:
        sentences = (
            (
                N_("With them a round ends where it began, facing the same way."),
                N_("With them a round ends where it began, turned {turn:degrees} clockwise."),
                N_("With them a round ends where it began, turned {turn:degrees} counter-clockwise."),
            ),
            (
                N_("With them a round ends {away:length} away, facing the same way."),
                N_("With them a round ends {away:length} away, turned {turn:degrees} clockwise."),
                N_("With them a round ends {away:length} away, turned {turn:degrees} counter-clockwise."),
            ),
        )
    else:
        sentences = (
            (
                N_("A round ends where it began, facing the same way."),
                N_("A round ends where it began, turned {turn:degrees} clockwise."),
                N_("A round ends where it began, turned {turn:degrees} counter-clockwise."),
            ),
            (
                N_("A round ends {away:length} away, facing the same way."),
                N_("A round ends {away:length} away, turned {turn:degrees} clockwise."),
                N_("A round ends {away:length} away, turned {turn:degrees} counter-clockwise."),
            ),
        )
    return fill(sentences[0 if still else 1][turned], fields, figures)


def comes_home(after: int | None) -> str:
    """When rounds are home."""
    if after is None:
        return ntr("It does not come home in {n} round.", "It does not come home in {n} rounds.", MOST)
    return ntr("It is home after {n} round.", "It is home after {n} rounds.", after)


def stays(rounds: int, wanted: int | None) -> str:
    """For how many rounds it stays in the room, of those it takes until it is home."""
    if rounds >= MOST:
        return tr("It stays in the room however often you walk it.")
    if rounds:
        said = ntr("It stays in the room for {n} round.", "It stays in the room for {n} rounds.", rounds)
    else:
        said = tr("It does not stay in the room for a single round.")
    if wanted is None or rounds >= wanted:
        return said
    more = ntr("It takes {n} round to come home.", "It takes {n} rounds to come home.", wanted)
    return f"{said} {more}"


def loop_lines(form: Form, trace: Trace, loop: Loop, figures: Figures = PLAIN) -> list[str]:
    """A loop as it is walked: what it is, what is left out and why, how each join fits, what a round does."""
    titles = [posture.title for posture in form.postures]
    length = ntr("{n} posture", "{n} postures", len(loop.postures))
    beats = ntr("{n} beat", "{n} beats", loop.beats)
    first, last = titles[loop.postures[0]], titles[loop.postures[-1]]
    lines = [tr("{first} … {last}: {postures}, {beats}.", first=first, last=last, postures=length, beats=beats)]
    for block, back in zip(loop.blocks, with_back(trace, loop), strict=True):
        back = as_walked(form, trace, back)
        names = listed([titles[each] for each in block])
        lines.append(tr("Left out: {names}.", names=names) + " " + carries(back.away, back.turn, figures, True))
    for (one, other), join in zip(loop.joined, loop.joins, strict=True):
        parts = [
            figures.length(join.cm / 100.0) if join.cm >= 0.5 else "",
            f"{number(join.degrees, 0)}°" if join.degrees >= 0.5 else "",
            tr("{share} of the weight", share=percent(join.percent)) if join.percent >= 0.5 else "",
        ]
        fields = {"one": titles[one], "other": titles[other], "parts": listed([part for part in parts if part])}
        back_to_first = other == loop.postures[0]
        if not fields["parts"]:
            same = tr("From {one} to {other} the stances match.", **fields)
            lines.append(tr("From {one} back to {other} the stances match.", **fields) if back_to_first else same)
        else:
            off = tr("From {one} to {other} the stances differ by {parts}.", **fields)
            back_off = tr("From {one} back to {other} the stances differ by {parts}.", **fields)
            lines.append(back_off if back_to_first else off)
    lines.append(carries(loop.away, loop.turn, figures))
    return lines
