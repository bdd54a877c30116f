"""The command ``room``: where a form fits, what would make it fit, and how many can walk it at once."""

from __future__ import annotations

import argparse
import math
from pathlib import Path
from typing import Any

from waltzmark.cli.saying import as_json, number_from_one, say
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
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
from waltzmark.words.answers import where
from waltzmark.words.figures import PLAIN
from waltzmark.words.language import ntr, number, tr
from waltzmark.words.room import change_text
from waltzmark.words.rules import graver_title
from waltzmark.words.sentences import sentence

__all__ = ["room_arguments", "run_room"]


def room_arguments(commands: Any) -> None:
    """Adds the command to the command line."""
    words = tr("where a form fits its room, ways to make it fit, and how to place a class")
    command = commands.add_parser("room", help=words, description=words)
    command.add_argument("file", metavar="FILE", help=tr("a .waltz form"))
    command.add_argument("--room", metavar="OTHER.waltz", help=tr("use the room of another document"))
    command.add_argument("--class", dest="group", type=number_from_one, metavar="N", help=tr("place this many people"))
    command.add_argument("--here", action="store_true", help=tr("check the document’s own start only"))
    applied = command.add_mutually_exclusive_group()
    applied.add_argument(
        "--start", type=number_from_one, metavar="N", help=tr("apply the start with this number, from 1")
    )
    applied.add_argument(
        "--change", type=number_from_one, metavar="N", help=tr("apply the change with this number, from 1")
    )
    command.add_argument("-o", dest="out", type=Path, metavar="OUT", help=tr("file to write with the change"))
    command.add_argument("--json", action="store_true", help=tr("print one JSON object"))


def run_room(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs the command; its exit status is 0, or 2 when it cannot be done. Raises WaltzmarkError."""
    form = read.form
    if options.room is not None:
        form = replace(form, room=_room_of(options.room))
    if form.room is None:
        raise WaltzmarkError("cli.no-room.ask", name=options.file)
    if (options.start or options.change) and options.out is None:
        raise WaltzmarkError("cli.start-out")
    if options.here and (options.start or options.change):
        raise WaltzmarkError("cli.here")
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
        raise WaltzmarkError("cli.no-room", name=path)
    return room


def _applied(form: Form, known: Advice, options: argparse.Namespace) -> Form:
    """The form with the start or the change of a number."""
    number = options.start or options.change
    found = known.starts if options.start else known.changes
    if number is None:
        return form
    if number > len(found):
        kind = "cli.no-start" if options.start else "cli.no-change"
        raise WaltzmarkError(kind, n=number, there=len(found))
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
        thing, far = sentence(name_of(room, found), figures), figures.length(abs(found.clearance))
        if found.clearance >= 0:
            return tr("{far} from {thing}, in {place}", far=far, thing=thing, place=place)
        return tr("{far} too far at {thing}, in {place}", far=far, thing=thing, place=place)

    here, now = _start(room.start), near(known.here)
    lines = [
        tr("Start      {start}: fits, {near}.", start=here, near=now)
        if known.here.fits
        else tr("Start      {start}: does not fit, {near}.", start=here, near=now)
    ]
    for nth, each in enumerate(known.starts, 1):
        suits = f" ({sentence(each.suits, figures)})" if each.suits is not None else ""
        lines.append(
            tr(
                "Start {number}    {start}{suits}: {near}.",
                number=nth,
                start=_start(each.start),
                suits=suits,
                near=near(each.near),
            )
        )
    for nth, change in enumerate(known.changes, 1):
        lines.append(tr("Change {number}   {change_text}", number=nth, change_text=change_text(change, figures)))
        lines += [
            tr(
                "           {title}, count {count}: {what} {change}",
                title=form.posture(each.posture).title,
                count=each.count,
                what=each.what,
                change=figures.change(each.before, each.after),
            )
            for each in change.resizes
        ]
        lines += [
            tr("           It would add: {graver_title}.", graver_title=graver_title(new)) for new in change.brings
        ]
    if wanted is not None and group is None:
        lines.append(tr("Class      No arrangement of {wanted} fits this room.", wanted=wanted))
    elif group is not None:
        many = len(group.walkers)
        lines.append(
            ntr(
                "Class      {n} walker, {gap} apart:",
                "Class      {n} walkers, {gap} apart:",
                many,
                gap=figures.length(group.gap),
            )
            if math.isfinite(group.gap)
            else ntr("Class      {n} walker:", "Class      {n} walkers:", many)
        )
        lines += [f"           {_start(each)}" for each in group.walkers]
    return "\n".join(lines)


def _start(start: Start) -> str:
    return tr(
        "{x} m, {y} m, facing {heading}°", x=number(start.x, 2), y=number(start.y, 2), heading=number(start.heading, 0)
    )
