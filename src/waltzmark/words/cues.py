"""Cues for the ear and the eye: what each count does, and the whole walk as a WebVTT track."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from waltzmark.core.base.angles import heading_difference
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.base.messages import Heading, Value
from waltzmark.core.body.pose import Pose
from waltzmark.core.practice.cues import beats_at
from waltzmark.core.score import actions as act
from waltzmark.core.walk.annotations import kicks_at
from waltzmark.core.walk.ground import PIVOT, STEP
from waltzmark.core.walk.trace import Trace
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import N_, tr
from waltzmark.words.sentences import fill
from waltzmark.words.steps import count_sentence, turns_when

__all__ = ["cue_track", "short", "spoken", "told_count"]

_LANDS = {
    Contact.AIR: N_("step {side:side} to {to:heading}"),
    Contact.BALL: N_("step {side:side} to {to:heading}, ball"),
    Contact.HEEL: N_("step {side:side} to {to:heading}, heel"),
    Contact.FLAT: N_("step {side:side} to {to:heading}, flat"),
}
_CONTACTS = {
    Contact.AIR: N_("lift {side:foot}"),
    Contact.BALL: N_("ball of {side:foot}"),
    Contact.HEEL: N_("heel of {side:foot}"),
    Contact.FLAT: N_("flat {side:foot}"),
}


def spoken(trace: Trace, row: int, figures: Figures = PLAIN) -> str:
    """What a count does, as it is said."""
    if row <= 0:
        return tr("stand ready to begin")
    moves = trace.move(row, Side.LEFT), trace.move(row, Side.RIGHT)
    return count_sentence(trace.pose(row - 1), trace.pose(row), moves, trace.written[row], figures)


def told_count(trace: Trace, row: int, titles: Mapping[str, str], figures: Figures = PLAIN) -> str:
    """A count and how the body stands at its end, for somebody who cannot see the floor.

    titles: of postures, by their ids.
    """
    pose, posture = trace.pose(row), trace.posture(row)
    words = spoken(trace, row, figures)
    if posture is not None:
        where = tr("{title}, count {count}", title=titles.get(posture, ""), count=int(trace.counts[row]))
        words = tr("{title}: {words}", title=where, words=words)
    stands = fill(
        N_("weight left {left:percent}, right {right:percent}; chest faces {to:heading}"),
        {"left": 100 * pose.left_share, "right": 100 - 100 * pose.left_share, "to": Heading(pose.torso, pose.torso)},
        figures,
    )
    return tr("{words}. Then: {stands}.", words=words, stands=stands)


def short(trace: Trace, row: int, figures: Figures = PLAIN) -> tuple[str, ...]:
    """What a count does in a few words a line, to be read from afar: feet, weight, chest, breath."""
    if row <= 0:
        return (tr("stand ready to begin"),)
    before, after, lines = trace.pose(row - 1), trace.pose(row), list[str]()
    when = turns_when(trace.written[row])
    timed: dict[str | None, list[str]] = {"early": [], None: lines, "late": []}

    def add(sentence: str, at: str | None = None, **fields: Value) -> None:
        timed[at].append(fill(sentence, fields, figures))

    for side in SIDES:
        move, foot = trace.move(row, side), after.foot(side)
        to = Heading(foot.heading, before.torso)
        if move.kind == STEP:
            add(_LANDS[Contact(foot.contact)], side=side, to=to)
        elif move.kind == PIVOT and abs(move.turn) > 0.5:
            add(N_("turn {side:foot} to {to:heading}"), when.get(side), side=side, to=to)
        elif foot.contact != before.foot(side).contact and not _rolls(before, after, side):
            add(_CONTACTS[Contact(foot.contact)], side=side)
    if trace.written[row].one(act.Kick) is not None:
        for kick in kicks_at(trace, row):
            add(N_("kick {side:side} to {to:heading}"), side=kick.side, to=Heading(kick.heading, before.torso))
    if abs(after.left_share - before.left_share) > 0.005:
        heavier = Side.LEFT if after.left_share > before.left_share else Side.RIGHT
        add(N_("weight {side:side} {share:percent}"), side=heavier, share=100 * after.share(heavier))
    if abs(heading_difference(before.torso, after.torso)) > 0.5:
        add(N_("chest to {to:heading}"), when.get(None), to=Heading(after.torso, before.torso))
    if abs(after.sink - before.sink) > 0.5:
        lines.append(tr("sink") if after.sink > before.sink else tr("rise"))
    if (inward := trace.breaths[row]) is not None:
        lines.append(tr("breathe in") if inward else tr("breathe out"))
    return (*timed["early"], *lines, *timed["late"]) or (tr("hold"),)


def _rolls(before: Pose, after: Pose, side: Side) -> bool:
    """Whether a foot comes flat by itself, as weight is poured onto it."""
    return after.foot(side).contact is Contact.FLAT and after.share(side) > before.share(side) + 0.005


def cue_track(
    trace: Trace,
    titles: Mapping[str, str],
    seconds: float,
    count_in: float = 10.0,
    figures: Figures = PLAIN,
    rows: Sequence[int] = (),
) -> str:
    """The whole walk, or its rows from the first to the last of *rows*, as a WebVTT track (W3C): one cue a count, the
    posture's title before its first count. count_in: seconds before it begins."""
    first, last = (rows[0], rows[-1]) if rows else (1, len(trace) - 1)
    lines = ["WEBVTT", ""]
    if count_in > 0:
        lines += [f"{_time(0.0)} --> {_time(count_in)}", _plain(tr("Count-in: stand ready to begin")), ""]
    for number, (row, start, end) in enumerate(beats_at(trace, first, last, seconds, count_in), 1):
        posture = trace.posture(row)
        words = spoken(trace, row, figures)
        if int(trace.counts[row]) == 1 or number == 1:
            words = tr("{title}: {words}", title=titles.get(posture or "", ""), words=words)
        lines += [str(number), f"{_time(start)} --> {_time(end)}", _plain(words), ""]
    return "\n".join(lines)


def _plain(words: str) -> str:
    """Words as the text of a cue: nothing in them is mark-up, nor an arrow that would end it."""
    for sign, written in (("&", "&amp;"), ("<", "&lt;"), (">", "&gt;"), ("\n", " ")):
        words = words.replace(sign, written)
    return words


def _time(seconds: float) -> str:
    whole = round(1000.0 * seconds)
    hours, rest = divmod(whole, 3_600_000)
    minutes, rest = divmod(rest, 60_000)
    return f"{hours:02d}:{minutes:02d}:{rest // 1000:02d}.{rest % 1000:03d}"
