"""The commands: a form's walk, its judgement, and where it fits, as text or as JSON."""

from __future__ import annotations

import argparse
from collections.abc import Callable, Sequence
from typing import Any

from waltzmark.cli.home import home_arguments, run_home, run_loop
from waltzmark.cli.room import room_arguments, run_room
from waltzmark.cli.saying import as_json, complain, say
from waltzmark.cli.scale import run_scale, scale_arguments
from waltzmark.cli.sides import run_compare, run_mirror, run_sides, sides_arguments
from waltzmark.core.answers.review import Review, review
from waltzmark.core.answers.words import places, where
from waltzmark.core.base.angles import clock_text
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import Contact, Side
from waltzmark.core.body.pose import Pose
from waltzmark.core.edit.editing import judged_by
from waltzmark.core.form.form import Form
from waltzmark.core.school.school import bundled_schools, load_school
from waltzmark.core.score.write import write_count
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.files.reading import read_file
from waltzmark.files.report import check_values, trace_values

__all__ = ["run"]

MOST_NOTICES = 50
#: Commands that answer a question of their own.
_ALONE = {
    "room": run_room, "home": run_home, "loop": run_loop, "sides": run_sides, "compare": run_compare,
    "mirror": run_mirror,
}  # fmt: skip


def parser(also: Sequence[Callable[[Any], object]] = ()) -> argparse.ArgumentParser:
    """The command line of the commands. also: what adds the arguments of others, those that draw."""
    top = argparse.ArgumentParser(prog="waltzmark")
    commands = top.add_subparsers(dest="command", required=True)
    for name, words in (
        ("trace", "walk a form and print where everything is after each count"),
        ("check", "judge a form: findings, room, return, sides; exit status 1 when a finding is a stop"),
    ):
        command = commands.add_parser(name, help=words, description=words)
        command.add_argument("file", metavar="FILE", help="a .waltz form")
        command.add_argument("--school", choices=bundled_schools(), help="walk and judge it by another school")
        command.add_argument("--json", action="store_true", help="print one JSON object")
    room_arguments(commands)
    home_arguments(commands)
    sides_arguments(commands)
    scale_arguments(commands)
    for more in also:
        more(commands)
    return top


def run(arguments: Sequence[str]) -> int:
    """Runs one command; its exit status is 0, 1 with a stop finding (check), 2 when the file cannot be read."""
    options = parser().parse_args(arguments)
    try:
        if options.command == "scale":
            return run_scale(options)
        read = read_file(options.file)
        if options.command in _ALONE:
            return _ALONE[options.command](options, read)
    except WaltzmarkError as error:
        complain(error)
        return 2
    for notice in read.notices[:MOST_NOTICES]:
        complain(notice)
    if len(read.notices) > MOST_NOTICES:
        complain(f"… and {len(read.notices) - MOST_NOTICES} more")
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
            lines.append("Opening" if posture is None else form.posture(posture).title)
        feet = "   ".join(_foot_text(row.pose, side) for side in Side)
        lines.append(
            f"{row.count:4}  {feet}   torso {clock_text(row.pose.torso):<5}  {write_count(row.written)}".rstrip()
        )
    return "\n".join(lines)


def _foot_text(pose: Pose, side: Side) -> str:
    foot = pose.foot(side)
    return (
        f"{side.letter} {100 * pose.share(side):3.0f} % {Contact(foot.contact).word:<4} "
        f"({foot.x:+z.2f}, {foot.y:+z.2f}) m to {clock_text(foot.heading):<5}"
    )


def check_text(form: Form, result: Review) -> str:
    """Findings, each with its reason and remedy, and the three answers."""
    lines: list[str] = []
    for finding in result.findings:
        again = f" ({finding.times} times, also in {places(form, finding)})" if finding.again else ""
        lines.append(f"{finding.severity}: {where(form, finding.posture, finding.count)}: {finding.message}{again}")
        lines.extend(
            f"    {words}"
            for words in (finding.why, finding.mend and f"Mend: {finding.mend}.", finding.caution)
            if words
        )
    for finding, mute in result.muted:
        lines.append(f"muted: {where(form, finding.posture, finding.count)}: {finding.message} ({mute.reason})")
    if not result.findings:
        lines.append("No findings.")
    for name, answer in zip(("Room", "Return", "Sides"), result.answers, strict=True):
        lines.append(f"{name + ':':<8}{answer.text}")
    return "\n".join(lines)
