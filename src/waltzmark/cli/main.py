"""The commands: a form's walk, its judgement, and where it fits, as text or as JSON."""

from __future__ import annotations

import argparse
from collections.abc import Callable, Sequence
from typing import Any

from waltzmark.cli.draft import draft_arguments, run_draft
from waltzmark.cli.fit import fit_arguments, run_fit
from waltzmark.cli.home import home_arguments, run_home, run_loop
from waltzmark.cli.room import room_arguments, run_room
from waltzmark.cli.saying import as_json, complain, say
from waltzmark.cli.scale import run_scale, scale_arguments
from waltzmark.cli.sides import run_compare, run_mirror, run_sides, sides_arguments
from waltzmark.core.answers.review import Review, review
from waltzmark.core.base.angles import clock_text
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import SIDES, Contact, Side
from waltzmark.core.body.pose import Pose
from waltzmark.core.edit.forms import judged_by
from waltzmark.core.form.form import Form
from waltzmark.core.school.school import bundled_schools, load_school
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.files.reading import read_file
from waltzmark.files.report import check_values, trace_values
from waltzmark.words.answers import places, where
from waltzmark.words.figures import PLAIN
from waltzmark.words.findings import remedy, severity_name, what
from waltzmark.words.language import ntr, shipped, tr
from waltzmark.words.sentences import sentence

__all__ = ["run"]

MOST_NOTICES = 50
#: Commands that answer a question of their own.
_ALONE = {
    "room": run_room,
    "home": run_home,
    "loop": run_loop,
    "fit": run_fit,
    "sides": run_sides,
    "compare": run_compare,
    "mirror": run_mirror,
}


def parser(also: Sequence[Callable[[Any], object]] = ()) -> argparse.ArgumentParser:
    """The command line of the commands. also: what adds the arguments of others, those that draw."""
    top = argparse.ArgumentParser(prog="waltzmark")
    commands = top.add_subparsers(dest="command", required=True)
    for name, words in (
        ("trace", tr("walk a form and print where everything is after each count")),
        ("check", tr("check a form: findings, room, return, sides; exit status 1 if there is a stop")),
    ):
        command = commands.add_parser(name, help=words, description=words)
        command.add_argument("file", metavar="FILE", help=tr("a .waltz form"))
        command.add_argument("--school", choices=bundled_schools(), help=tr("judge it by another school"))
        command.add_argument("--json", action="store_true", help=tr("print one JSON object"))
    room_arguments(commands)
    home_arguments(commands)
    fit_arguments(commands)
    sides_arguments(commands)
    scale_arguments(commands)
    draft_arguments(commands)
    for more in also:
        more(commands)
    return top


def run(arguments: Sequence[str]) -> int:
    """Runs one command; its exit status is 0, 1 with a stop finding (check), 2 when the file cannot be read."""
    options = parser().parse_args(arguments)
    try:
        if options.command == "scale":
            return run_scale(options)
        if options.command == "draft":
            return run_draft(options)
        read = read_file(options.file)
        if options.command in _ALONE:
            return _ALONE[options.command](options, read)
    except WaltzmarkError as error:
        complain(error)
        return 2
    for notice in read.notices[:MOST_NOTICES]:
        complain(sentence(notice.told))
    if len(read.notices) > MOST_NOTICES:
        complain(ntr("… and {n} more", "… and {n} more", len(read.notices) - MOST_NOTICES))
    form = judged_by(read.form, load_school(options.school)) if options.school else read.form
    trace = walk(form)
    if options.command == "trace":
        return say(as_json(trace_values(trace)) if options.json else trace_text(form, trace), 0)
    result = review(form, trace)
    words = as_json(check_values(form, result)) if options.json else check_text(form, result)
    return say(words, 1 if result.stops else 0)


def trace_text(form: Form, trace: Trace) -> str:
    """The walk, a line a count: weights, both feet, torso, and the words of the count."""
    lines: list[str] = []
    posture: str | None = ""
    for index in range(len(trace)):
        row = trace.row(index)
        if row.posture != posture:
            posture = row.posture
            lines.append(tr("Opening") if posture is None else form.posture(posture).title)
        feet = "   ".join(_foot_text(row.pose, side) for side in SIDES)
        lines.append(
            tr(
                "{count:4}  {feet}   torso {clock_text:<5}  {write_count}",
                count=row.count,
                feet=feet,
                clock_text=clock_text(row.pose.torso),
                write_count=write_count(row.written),
            ).rstrip()
        )
    return "\n".join(lines)


def _foot_text(pose: Pose, side: Side) -> str:
    foot = pose.foot(side)
    return tr(
        "{letter} {share:3.0f} % {word:<4} ({x:+z.2f}, {y:+z.2f}) m to {clock_text:<5}",
        letter=side.letter,
        share=100 * pose.share(side),
        word=Contact(foot.contact).word,
        x=foot.x,
        y=foot.y,
        clock_text=clock_text(foot.heading),
    )


def check_text(form: Form, result: Review) -> str:
    """Findings, each with its reason and remedy, and the three answers."""
    lines: list[str] = []
    for finding in result.findings:
        said = f"{severity_name(finding.severity)}: {where(form, finding.posture, finding.count)}: {what(finding)}"
        if finding.again:
            said = ntr(
                "{finding} ({n} time, also in {places})",
                "{finding} ({n} times, also in {places})",
                finding.times,
                finding=said,
                places=places(form, finding),
            )
        lines.append(said)
        why, caution = shipped(finding.why), shipped(finding.caution)
        lines.extend(f"    {words}" for words in (why, remedy(finding), caution) if words)
    for finding, mute in result.muted:
        lines.append(
            tr(
                "ignored: {where}: {what} ({reason})",
                where=where(form, finding.posture, finding.count),
                what=what(finding),
                reason=mute.reason,
            )
        )
    if not result.findings:
        lines.append(tr("No findings."))
    for name, answer in zip((tr("Room"), tr("Return"), tr("Sides")), result.answers, strict=True):
        lines.append(f"{name + ':':<8}{sentence(answer.message, PLAIN.of(form))}")
    return "\n".join(lines)
