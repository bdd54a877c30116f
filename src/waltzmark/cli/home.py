"""The commands ``home`` and ``loop``: what carries a form away, what brings it home, and the drills hidden in it."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from waltzmark.cli.saying import as_json, number_from_one, say
from waltzmark.core.answers.answers import return_answer
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.form.form import Form
from waltzmark.core.home.closing import Closings, closings
from waltzmark.core.home.ledger import Return, check_return, home_outside
from waltzmark.core.home.loop_drill import drill_of, walked_loops
from waltzmark.core.home.loops import Loop
from waltzmark.core.home.rounds import Rounds, rounds_of
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.files.reading import ReadForm
from waltzmark.files.report import home_values, loop_values
from waltzmark.files.saving import save_atomically
from waltzmark.files.writing import render
from waltzmark.words.figures import PLAIN, Figures
from waltzmark.words.language import listed, tr
from waltzmark.words.named import changed, named_steps
from waltzmark.words.returns import comes_home, loop_lines
from waltzmark.words.rules import graver_title
from waltzmark.words.sentences import sentence

__all__ = ["home_arguments", "run_home", "run_loop"]


def home_arguments(commands: Any) -> None:
    """Adds both commands to the command line."""
    words = tr("whether a form returns to its start, where each posture takes it, and ways to close the gap")
    home = commands.add_parser("home", help=words, description=words)
    home.add_argument(
        "--lock", metavar="ID", action="append", default=[], help=tr("keep a posture unchanged (repeatable)")
    )
    home.add_argument(
        "--close", type=number_from_one, metavar="N", help=tr("apply the closing with this number, from 1")
    )
    home.add_argument(
        "--any-length", action="store_true", help=tr("let lengths change by more than a quarter, and stances with them")
    )
    words = tr("loops inside a form: runs of postures that end the way they begin")
    loop = commands.add_parser("loop", help=words, description=words)
    loop.add_argument(
        "--leave-out",
        type=int,
        choices=range(4),
        default=3,
        metavar="K",
        help=tr("how many postures may be skipped, 0 to 3"),
    )
    loop.add_argument(
        "--make", type=number_from_one, metavar="N", help=tr("make a drill of the loop with this number, from 1")
    )
    for command in (home, loop):
        command.add_argument("file", metavar="FILE", help=tr("a .waltz form"))
        command.add_argument("-o", dest="out", type=Path, metavar="OUT", help=tr("file to write"))
        command.add_argument("--json", action="store_true", help=tr("print one JSON object"))


def run_home(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs ``home``; its exit status is 0, or 2 when it cannot be done. Raises WaltzmarkError."""
    form = read.form
    for name in options.lock:
        if all(posture.id != name for posture in form.postures):
            raise WaltzmarkError("cli.lock", posture=name)
    if options.close and options.out is None:
        raise WaltzmarkError("cli.close-out")
    trace = walk(form)
    found = closings(form, options.lock, freely=options.any_length)
    if options.close:
        if options.close > len(found.every):
            kind = "cli.no-closing.nearest" if found.nearest is not None else "cli.no-closing"
            raise WaltzmarkError(kind, n=options.close, there=len(found.every), nearest=found.nearest)
        save_atomically(options.out, render(found.every[options.close - 1].called(named_steps()), read))
    result, rounds = check_return(trace, form), rounds_of(form, trace)
    if options.json:
        return say(as_json(home_values(trace, result, found, rounds)), 0)
    return say(_home_text(form, result, found, rounds, len(trace) - 1), 0)


def _home_text(form: Form, result: Return, found: Closings, rounds: Rounds, last: int) -> str:
    figures = PLAIN.of(form)
    lines = [sentence(return_answer(result, last).message, figures)]
    if result.distance < result.scatter:
        lines.append(
            tr(
                "That counts as home: over this many steps, feet scatter by {length} anyway.",
                length=figures.length(result.scatter),
            )
        )
    if home_outside(form):
        lines.append(tr("Home lies outside the room, or in something that stands in it: nobody can end there."))
    for part in result.contributions:
        right, ahead = (100 * value for value in part.offset)
        lines.append(
            tr(
                "{title:<32} {right:+z7.1f} cm right {ahead:+z7.1f} cm ahead {turn:+z6.0f}°  {share:+z7.1f} cm along",
                title=form.posture(part.posture).title,
                right=right,
                ahead=ahead,
                turn=part.turn,
                share=100 * part.share,
            )
        )
    for number, each in enumerate(found.every, 1):
        lines.append(tr("Closing {number}  {sentence}", number=number, sentence=sentence(each.does, figures)))
        for done in each.passes:
            titles = listed([form.posture(name).title for name in done.postures])
            told = tr("{title}: {before} → {after} times", title=titles, before=done.before, after=done.after)
            lines.append(f"           {told}")
        for turn in each.turns:
            place = tr("{title}, count {count}", title=form.posture(turn.posture).title, count=turn.count)
            lines.append(f"           {place}: {changed(turn.what)} {turn.before:g}° → {turn.after:g}°")
        lines += [_changed(form, change, figures) for change in each.changes]
        lines += [tr("           It would add: {graver_title}.", graver_title=graver_title(new)) for new in each.brings]
    if found.nearest is not None:
        lines.append(sentence(found.nearest, figures))
    lines.append(tr("Repeated: {home}", home=comes_home(rounds.home_after)))
    return "\n".join(lines)


def _changed(form: Form, change: Any, figures: Figures) -> str:
    return tr(
        "           {title}, count {count}: {what} {change}",
        title=form.posture(change.posture).title,
        count=change.count,
        what=changed(change.what),
        change=figures.change(change.before, change.after),
    )


def run_loop(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs ``loop``; its exit status is 0, or 2 when it cannot be done. Raises WaltzmarkError."""
    form = read.form
    trace = walk(form)
    loops = walked_loops(form, trace, options.leave_out)
    if options.make:
        if options.out is None:
            raise WaltzmarkError("cli.make-out")
        if options.make > len(loops):
            raise WaltzmarkError("cli.no-loop", n=options.make, there=len(loops))
        save_atomically(options.out, render(drill_of(form, trace, loops[options.make - 1])))
    return say(as_json(loop_values(form, loops)) if options.json else _loop_text(form, trace, loops), 0)


def _loop_text(form: Form, trace: Trace, loops: tuple[Loop, ...]) -> str:
    if not loops:
        return tr("No run of postures ends the way it begins.")
    figures, lines = PLAIN.of(form), []
    for number, loop in enumerate(loops, 1):
        drill = drill_of(form, trace, loop)
        head, *more = loop_lines(form, trace, loop, figures)
        more.append(comes_home(rounds_of(drill, walk(drill)).home_after))
        lines.append(tr("Loop {number}  {head}", number=number, head=head))
        lines += [f"        {each}" for each in more]
    return "\n".join(lines)
