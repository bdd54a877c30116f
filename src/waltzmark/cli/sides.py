"""The commands ``sides``, ``compare`` and ``mirror``: whether sides mirror, what differs, the other side of it all."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from waltzmark.cli.saying import as_json, say
from waltzmark.core.answers.words import sides_answer
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.figures import PLAIN
from waltzmark.core.base.leftright import Side
from waltzmark.core.edit.resizing import mirrored_form
from waltzmark.core.form.form import Form
from waltzmark.core.sides.balance import Balance, balance_of
from waltzmark.core.sides.forms import compare_forms, report
from waltzmark.core.sides.pairs import Pair, declared_pairs, proposed_pairs
from waltzmark.core.sides.words import CAUSES, count_words, entry_words, pair_words
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.files.comparing import compare_values, sides_values
from waltzmark.files.reading import ReadForm, read_file
from waltzmark.files.saving import save_atomically
from waltzmark.files.writing import render

__all__ = ["run_compare", "run_mirror", "run_sides", "sides_arguments"]


def sides_arguments(commands: Any) -> None:
    """Adds the three commands to the command line."""
    words = "whether the sides of a form mirror, which are not declared, and how even both are"
    sides = commands.add_parser("sides", help=words, description=words)
    sides.add_argument("file", metavar="FILE", help="a .waltz form")
    words = "what differs between two forms"
    compare = commands.add_parser("compare", help=words, description=words)
    compare.add_argument("file", metavar="A", help="a .waltz form")
    compare.add_argument("other", metavar="B", help="the form it is compared with")
    for command in (sides, compare):
        command.add_argument("--json", action="store_true", help="print one JSON object")
    words = "write the whole form's other side"
    mirror = commands.add_parser("mirror", help=words, description=words)
    mirror.add_argument("file", metavar="FILE", help="a .waltz form")
    mirror.add_argument("-o", dest="out", type=Path, metavar="OUT", required=True, help="where to write the document")


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


def _sides_text(
    form: Form, trace: Trace, declared: tuple[Pair, ...], pairs: tuple[Pair, ...], balance: Balance
) -> str:  # fmt: skip
    figures = PLAIN.of(form)
    lines = [sides_answer(form, declared, trace, figures).text]
    for pair in pairs:
        what = "other side" if pair.kind == "mirror" else "repeat"
        said = "is the" if pair.declared else "looks like the"
        lines.append(f"{pair.names[1]} {said} {what} of {pair.names[0]}: {pair_words(pair, trace, figures)}")
        if entered := entry_words(pair.compared, figures):
            lines.append(f"    It is entered with {', '.join(entered)}.")
        for each in pair.compared.counts:
            if not each.same(pair.compared.within):
                words = "; ".join(count_words(pair.compared, each, (trace, trace), figures))
                cause = CAUSES[each.cause(pair.compared.within)]
                lines.append(f"    count {each.count or '-':>3} | {each.other or '-':<3} {words} ({cause})")
    lines.append("Balance")
    lines += [f"    {words}" for words in _balance_lines(form, balance)]
    return "\n".join(lines)


def _balance_lines(form: Form, balance: Balance) -> list[str]:
    both = [balance.side(side) for side in Side]
    rows = [
        ("load", [f"{each.load:g} beats" for each in both]),
        ("carries more", [f"{each.beats:g} beats" for each in both]),
        ("alone on it", [f"{each.alone:g} beats" for each in both]),
        ("chest turned to it", [f"{each.turned:.0f}°" for each in both]),
    ]
    rows += [
        (name.replace("_", " "), [str(getattr(each, name)) for each in both])
        for name in ("steps", "pivots_out", "pivots_in", "pushes", "kicks")
    ]
    stances = sorted({name for each in both for name in each.stances})
    rows += [(stance, [str(each.stances.get(stance, 0)) for each in both]) for stance in stances]
    lines = [f"{name:<20} left {left:>12}   right {right:>12}" for name, (left, right) in rows]
    if balance.one_sided:
        lines.append("Without another side: " + ", ".join(form.posture(each).title for each in balance.one_sided) + ".")
    return lines


def run_compare(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs ``compare``; its exit status is 0. Raises WaltzmarkError."""
    if Path(options.file).resolve() == Path(options.other).resolve():
        raise WaltzmarkError(f"{options.other} is the same file; name another one to compare it with")
    found = compare_forms(read.form, read_file(options.other).form)
    return say(
        as_json(compare_values(found)) if options.json else report(found, (options.file, options.other)).rstrip(), 0
    )


def run_mirror(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs ``mirror``; its exit status is 0. Raises WaltzmarkError."""
    save_atomically(options.out, render(mirrored_form(read.form), read))
    return 0
