"""The commands ``sides``, ``compare`` and ``mirror``: whether sides mirror, what differs, the other side of it all."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from waltzmark.cli.saying import as_json, say
from waltzmark.core.answers.answers import sides_answer
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import SIDES
from waltzmark.core.edit.resizing import mirrored_form
from waltzmark.core.form.form import Form
from waltzmark.core.sides.balance import Balance, balance_of
from waltzmark.core.sides.forms import compare_forms
from waltzmark.core.sides.pairs import Pair, declared_pairs, proposed_pairs
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.files.comparing import compare_values, sides_values
from waltzmark.files.reading import ReadForm, read_file
from waltzmark.files.saving import save_atomically
from waltzmark.files.writing import render
from waltzmark.words.figures import PLAIN
from waltzmark.words.language import N_, listed, ntr, tr
from waltzmark.words.sentences import sentence
from waltzmark.words.sides import cause_name, count_differences, entry_differences, pair_difference, report

__all__ = ["run_compare", "run_mirror", "run_sides", "sides_arguments"]


def sides_arguments(commands: Any) -> None:
    """Adds the three commands to the command line."""
    words = tr("whether the sides of a form mirror, which similar pairs are not declared, and how balanced the form is")
    sides = commands.add_parser("sides", help=words, description=words)
    sides.add_argument("file", metavar="FILE", help=tr("a .waltz form"))
    words = tr("what differs between two forms")
    compare = commands.add_parser("compare", help=words, description=words)
    compare.add_argument("file", metavar="A", help=tr("a .waltz form"))
    compare.add_argument("other", metavar="B", help=tr("the form to compare it with"))
    for command in (sides, compare):
        command.add_argument("--json", action="store_true", help=tr("print one JSON object"))
    words = tr("write the mirror image of a form")
    mirror = commands.add_parser("mirror", help=words, description=words)
    mirror.add_argument("file", metavar="FILE", help=tr("a .waltz form"))
    mirror.add_argument("-o", dest="out", type=Path, metavar="OUT", required=True, help=tr("file to write"))


def run_sides(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs ``sides``; its exit status is 0."""
    form = read.form
    trace = walk(form)
    declared = declared_pairs(form, trace)
    pairs = (*declared, *proposed_pairs(form, trace))
    balance = balance_of(form, trace, pairs)
    if options.json:
        return say(as_json(sides_values(pairs, balance)), 0)
    return say(_sides_text(form, trace, declared, pairs, balance), 0)


_PAIRS = {
    (True, True): N_("{b} is the other side of {a}: {difference}"),
    (True, False): N_("{b} looks like the other side of {a}: {difference}"),
    (False, True): N_("{b} is the repeat of {a}: {difference}"),
    (False, False): N_("{b} looks like the repeat of {a}: {difference}"),
}


def _sides_text(form: Form, trace: Trace, declared: tuple[Pair, ...], pairs: tuple[Pair, ...], balance: Balance) -> str:
    figures = PLAIN.of(form)
    lines = [sentence(sides_answer(form, declared, trace).message, figures)]
    for pair in pairs:
        text = _PAIRS[pair.kind == "mirror", pair.declared]
        differs = pair_difference(pair, trace, figures)
        lines.append(tr(text, b=pair.names[1], a=pair.names[0], difference=differs))
        if entered := entry_differences(pair.compared, figures):
            lines.append(tr("    It begins from a different stance: {listed}.", listed=listed(entered)))
        for each in pair.compared.counts:
            if not each.same(pair.compared.within):
                words = "; ".join(count_differences(pair.compared, each, (trace, trace), figures))
                cause = cause_name(each.cause(pair.compared.within))
                lines.append(
                    tr(
                        "    count {n:>3} | {n2:<3} {words} ({cause})",
                        n=each.count or "-",
                        n2=each.other or "-",
                        words=words,
                        cause=cause,
                    )
                )
    lines.append(tr("Balance"))
    lines += [f"    {words}" for words in _balance_lines(form, balance)]
    return "\n".join(lines)


def _beats(n: float) -> str:
    return ntr("{n} beat", "{n} beats", round(n, 2))


def _balance_lines(form: Form, balance: Balance) -> list[str]:
    both = [balance.side(side) for side in SIDES]
    rows = [
        (tr("load"), [_beats(each.load) for each in both]),
        (tr("carries more"), [_beats(each.beats) for each in both]),
        (tr("alone on it"), [_beats(each.alone) for each in both]),
        (tr("chest turned to it"), [f"{each.turned:.0f}°" for each in both]),
    ]
    rows += [
        (words, [str(getattr(each, name)) for each in both])
        for name, words in (
            ("steps", tr("steps")),
            ("pivots_out", tr("pivots out")),
            ("pivots_in", tr("pivots in")),
            ("pushes", tr("pushes")),
            ("kicks", tr("kicks")),
        )
    ]
    stances = sorted({name for each in both for name in each.stances})
    rows += [(stance, [str(each.stances.get(stance, 0)) for each in both]) for stance in stances]
    lines = [
        tr("{name:<20} left {left:>12}   right {right:>12}", name=name, left=left, right=right)
        for name, (left, right) in rows
    ]
    if balance.one_sided:
        lines.append(
            tr("On one side only: {postures}.", postures=listed(form.posture(each).title for each in balance.one_sided))
        )
    return lines


def run_compare(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs ``compare``; its exit status is 0. Raises WaltzmarkError."""
    if Path(options.file).resolve() == Path(options.other).resolve():
        raise WaltzmarkError("cli.same-file", name=options.other)
    found = compare_forms(read.form, read_file(options.other).form)
    return say(
        as_json(compare_values(found)) if options.json else report(found, (options.file, options.other)).rstrip(), 0
    )


def run_mirror(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs ``mirror``; its exit status is 0. Raises WaltzmarkError."""
    save_atomically(options.out, render(mirrored_form(read.form), read))
    return 0
