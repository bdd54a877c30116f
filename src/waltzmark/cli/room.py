"""The command ``room``: where a form fits, what would make it fit, and how many can walk it at once."""

from __future__ import annotations

import argparse
import math
from dataclasses import replace
from pathlib import Path
from typing import Any

from waltzmark.cli.saying import as_json, number_from_one, say
from waltzmark.core.answers.words import where
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.figures import PLAIN, Figures
from waltzmark.core.form.form import Form
from waltzmark.core.form.room import Room, Start
from waltzmark.core.room.changes import Advice, advice, here
from waltzmark.core.room.clearance import Clearance, name_of
from waltzmark.core.room.group import Group, arranged
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.files.reading import ReadForm, read_file
from waltzmark.files.report import room_values
from waltzmark.files.saving import save_atomically
from waltzmark.files.writing import render

__all__ = ["room_arguments", "run_room"]


def room_arguments(commands: Any) -> None:
    """Adds the command to the command line."""
    words = "where a form fits its room, what would make it fit, and how a class stands"
    command = commands.add_parser("room", help=words, description=words)
    command.add_argument("file", metavar="FILE", help="a .waltz form")
    command.add_argument("--room", metavar="OTHER.waltz", help="ask about the room of another document")
    command.add_argument("--class", dest="group", type=number_from_one, metavar="N", help="place so many walkers")
    command.add_argument("--here", action="store_true", help="ask about the document's own start only")
    applied = command.add_mutually_exclusive_group()
    applied.add_argument("--start", type=number_from_one, metavar="N", help="take the start of that number, from 1")
    applied.add_argument("--change", type=number_from_one, metavar="N", help="make the change of that number, from 1")
    command.add_argument("-o", dest="out", type=Path, metavar="OUT", help="where to write the document with it")
    command.add_argument("--json", action="store_true", help="print one JSON object")


def run_room(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs the command; its exit status is 0, or 2 when it cannot be done. Raises WaltzmarkError."""
    form = read.form
    if options.room is not None:
        form = replace(form, room=_room_of(options.room))
    if form.room is None:
        raise WaltzmarkError(f"{options.file} has no room; write one under [room], or ask with --room OTHER.waltz")
    if (options.start or options.change) and options.out is None:
        raise WaltzmarkError("--start and --change write a document: say where with -o OUT")
    if options.here and (options.start or options.change):
        raise WaltzmarkError("--here looks for no starts and no changes; leave it out")
    trace = walk(form)
    known = Advice(here(form, trace), done=True) if options.here else advice(form)
    group = arranged(trace, form.room, options.group) if options.group else None
    if options.out is not None:
        save_atomically(options.out, render(_applied(form, known, options), read))
    values = room_values(form, trace, known, group)
    return say(as_json(values) if options.json else _text(form, trace, known, group, options.group), 0)


def _room_of(path: str) -> Room:
    room = read_file(path).form.room
    if room is None:
        raise WaltzmarkError(f"{path} has no room; write one under [room]")
    return room


def _applied(form: Form, known: Advice, options: argparse.Namespace) -> Form:
    """The form with the start or the change of a number."""
    number = options.start or options.change
    found = known.starts if options.start else known.changes
    what = "start" if options.start else "change"
    if number is None:
        return form
    if number > len(found):
        there = f"there are {len(found)}" if len(found) != 1 else "there is one"
        raise WaltzmarkError(f"there is no {what} {number}: {there if found else 'none was found'}")
    if options.change:
        made: Form = known.changes[number - 1].form
        return made
    assert form.room is not None
    return replace(form, room=replace(form.room, start=known.starts[number - 1].start, breaks=()))


def _text(form: Form, trace: Trace, known: Advice, group: Group | None, wanted: int | None) -> str:
    """The same in words."""
    room, figures = form.room, PLAIN.of(form)
    assert room is not None

    def near(found: Clearance) -> str:
        place = where(form, trace.posture(found.row), int(trace.counts[found.row]))
        return f"{_apart(found.clearance, figures)} {name_of(room, found)}, in {place}"

    lines = [f"Start      {_start(room.start)}: {'fits' if known.here.fits else 'does not fit'}, {near(known.here)}."]
    for number, each in enumerate(known.starts, 1):
        suits = f" ({each.suits})" if each.suits else ""
        lines.append(f"Start {number}    {_start(each.start)}{suits}: {near(each.near)}.")
    for number, change in enumerate(known.changes, 1):
        lines.append(f"Change {number}   {change.words}")
        lines += [
            f"           {form.posture(each.posture).title}, count {each.count}: {each.what} "
            f"{figures.change(each.before, each.after)}"
            for each in change.resizes
        ]
        lines += [f"           It brings a {words}." for words in change.brings]
    if wanted is not None and group is None:
        lines.append(f"Class      No rows and columns of {wanted} fit this room.")
    elif group is not None:
        gap = f", {figures.length(group.gap)} between any two" if math.isfinite(group.gap) else ""
        lines.append(f"Class      {len(group.walkers)} walkers{gap}:")
        lines += [f"           {_start(each)}" for each in group.walkers]
    return "\n".join(lines)


def _apart(metres: float, figures: Figures) -> str:
    return f"{figures.length(metres)} from" if metres >= 0 else f"{figures.length(-metres)} too far at"


def _start(start: Start) -> str:
    return f"{start.x:.2f} m, {start.y:.2f} m, facing {start.heading:.0f}°"
