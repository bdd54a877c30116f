"""The commands ``home`` and ``loop``: what carries a form away, what brings it home, and the drills hidden in it."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from waltzmark.cli.saying import as_json, number_from_one, say
from waltzmark.core.answers.words import return_answer
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.form.form import Form
from waltzmark.core.home.closing import Closings, closings
from waltzmark.core.home.drill import drill_of, walked_loops
from waltzmark.core.home.ledger import Return, check_return, home_outside
from waltzmark.core.home.loops import Loop
from waltzmark.core.home.rounds import Rounds, rounds_of
from waltzmark.core.home.words import comes_home, loop_lines
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.files.reading import ReadForm
from waltzmark.files.report import home_values, loop_values
from waltzmark.files.saving import save_atomically
from waltzmark.files.writing import render

__all__ = ["home_arguments", "run_home", "run_loop"]


def home_arguments(commands: Any) -> None:
    """Adds both commands to the command line."""
    words = "whether a form comes home, what carries it away, and what closes it"
    home = commands.add_parser("home", help=words, description=words)
    home.add_argument("--lock", metavar="ID", action="append", default=[], help="leave a posture alone (repeatable)")
    home.add_argument("--close", type=number_from_one, metavar="N", help="make the closing of that number, from 1")
    words = "drills hidden in a form: runs of its postures that end as they begin"
    loop = commands.add_parser("loop", help=words, description=words)
    loop.add_argument(
        "--leave-out", type=int, choices=range(4), default=3, metavar="K", help="postures left out, 0 to 3"
    )
    loop.add_argument(
        "--make", type=number_from_one, metavar="N", help="make a form of the loop of that number, from 1"
    )
    for command in (home, loop):
        command.add_argument("file", metavar="FILE", help="a .waltz form")
        command.add_argument("-o", dest="out", type=Path, metavar="OUT", help="where to write the document")
        command.add_argument("--json", action="store_true", help="print one JSON object")


def run_home(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs ``home``; its exit status is 0, or 2 when it cannot be done. Raises WaltzmarkError."""
    form = read.form
    for name in options.lock:
        if all(posture.id != name for posture in form.postures):
            raise WaltzmarkError(f"--lock {name}: there is no posture with that id")
    if options.close and options.out is None:
        raise WaltzmarkError("--close writes a document: say where with -o OUT")
    trace = walk(form)
    found = closings(form, options.lock)
    if options.close:
        if options.close > len(found.every):
            raise WaltzmarkError(
                f"there is no closing {options.close}: there are {len(found.every)}. {found.nearest}".strip()
            )
        save_atomically(options.out, render(found.every[options.close - 1].form, read))
    result, rounds = check_return(trace, form), rounds_of(form, trace)
    if options.json:
        return say(as_json(home_values(trace, result, found, rounds)), 0)
    return say(_home_text(form, result, found, rounds, len(trace) - 1), 0)


def _home_text(form: Form, result: Return, found: Closings, rounds: Rounds, last: int) -> str:
    figures = PLAIN.of(form)
    lines = [return_answer(result, last, figures).text]
    if result.distance < result.scatter:
        lines.append(f"As good as home: over so many steps feet scatter by {figures.length(result.scatter)} anyway.")
    if outside := home_outside(form):
        lines.append(outside)
    for part in result.contributions:
        right, ahead = (100 * value for value in part.offset)
        lines.append(
            f"{form.posture(part.posture).title:<32} {right:+z7.1f} cm right {ahead:+z7.1f} cm ahead "
            f"{part.turn:+z6.0f}°  {100 * part.share:+z7.1f} cm along"
        )
    for number, each in enumerate(found.every, 1):
        lines.append(f"Closing {number}  {each.words}")
        for turn in each.turns:
            place = f"{form.posture(turn.posture).title}, count {turn.count}"
            lines.append(f"           {place}: {turn.what} {turn.before:g}° → {turn.after:g}°")
        lines += [_changed(form, change, figures) for change in each.changes]
        lines += [f"           It brings a {words}." for words in each.brings]
    if found.nearest:
        lines.append(found.nearest)
    after = rounds.home_after
    lines.append(comes_home(after).replace("It is", "Walked round and round it is"))
    return "\n".join(lines)


def _changed(form: Form, change: Any, figures: Figures) -> str:
    return (f"           {form.posture(change.posture).title}, count {change.count}: {change.what} "
            f"{figures.change(change.before, change.after)}")  # fmt: skip


def run_loop(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs ``loop``; its exit status is 0, or 2 when it cannot be done. Raises WaltzmarkError."""
    form = read.form
    trace = walk(form)
    loops = walked_loops(form, trace, options.leave_out)
    if options.make:
        if options.out is None:
            raise WaltzmarkError("--make writes a document: say where with -o OUT")
        if options.make > len(loops):
            raise WaltzmarkError(f"there is no loop {options.make}: there are {len(loops)}")
        save_atomically(options.out, render(drill_of(form, trace, loops[options.make - 1])))
    return say(as_json(loop_values(form, loops)) if options.json else _loop_text(form, trace, loops), 0)


def _loop_text(form: Form, trace: Trace, loops: tuple[Loop, ...]) -> str:
    if not loops:
        return "No run of its postures ends as it begins."
    figures, lines = PLAIN.of(form), []
    for number, loop in enumerate(loops, 1):
        drill = drill_of(form, trace, loop)
        head, *more = loop_lines(form, trace, loop, figures)
        more.append(comes_home(rounds_of(drill, walk(drill)).home_after))
        lines.append(f"Loop {number}  {head}")
        lines += [f"        {each}" for each in more]
    return "\n".join(lines)
