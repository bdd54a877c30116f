"""The command ``fit``: the nearest form that each of several bodies can walk."""

from __future__ import annotations

import argparse
from pathlib import Path
from typing import Any

from waltzmark.cli.saying import as_json, say
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.fit.fitting import Fitted, fitted
from waltzmark.core.form.form import Form
from waltzmark.files.bodies import read_body
from waltzmark.files.fits import fit_values, fitted_form
from waltzmark.files.reading import ReadForm
from waltzmark.files.saving import save_atomically
from waltzmark.files.writing import render
from waltzmark.words.answers import where
from waltzmark.words.figures import PLAIN
from waltzmark.words.findings import severity_name, what
from waltzmark.words.fitting import does, ends_words, fits_words, lines_text, why
from waltzmark.words.language import tr

__all__ = ["fit_arguments", "run_fit"]


def fit_arguments(commands: Any) -> None:
    """Adds the command to the command line."""
    words = tr("the nearest form that each body can walk: what changes, why, and where it ends")
    fit = commands.add_parser("fit", help=words, description=words)
    fit.add_argument("file", metavar="FILE", help=tr("a .waltz form"))
    fit.add_argument(
        "--body",
        metavar="BODY.toml",
        action="append",
        type=Path,
        help=tr("a file with a [body] table (repeatable); without one, the people that the form knows"),
    )
    fit.add_argument("-o", dest="out", type=Path, metavar="OUT", help=tr("file to write the fitted form to"))
    fit.add_argument("--json", action="store_true", help=tr("print one JSON object"))


def run_fit(options: argparse.Namespace, read: ReadForm) -> int:
    """Runs ``fit``; its exit status is 0, or 2 when it cannot be done. Raises WaltzmarkError."""
    form = read.form
    bodies = [read_body(path) for path in options.body] if options.body else list(form.bodies)
    if not bodies:
        raise WaltzmarkError("cli.no-bodies")
    if options.out is not None and len(bodies) != 1:
        raise WaltzmarkError("cli.one-body", n=len(bodies))
    found = [fitted(form, body) for body in bodies]
    if options.out is not None:
        made = fitted_form(found[0], Path(options.file).name)
        save_atomically(options.out, render(made, read))
    return say(as_json(fit_values(found)) if options.json else "\n\n".join(_text(form, each) for each in found), 0)


def _text(form: Form, fit: Fitted) -> str:
    figures = PLAIN.of(form)
    lines = [tr("{name}: {fits}.", name=fit.form.body.name or tr("This body"), fits=fits_words(fit))]
    for change in fit.changes:
        lines.append(f"  {where(form, change.posture, change.count)}: {does(change, figures)}")
        for line in change.lines:
            lines.append(f"    - {lines_text(line.before)}")
            lines += [f"    + {each}" for each in lines_text(line.after).split("\n") if each]
        lines.append(f"    {why(change, figures)}")
    for finding in fit.left:
        place = where(form, finding.posture, finding.count)
        lines.append(f"  {severity_name(finding.severity)}: {place}: {what(finding, figures)}")
    lines.append(f"  {ends_words(fit, figures)}")
    return "\n".join(lines)
