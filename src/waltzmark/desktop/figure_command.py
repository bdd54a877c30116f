"""The command ``figure``: the body in space at every count, as numbers, as sentences or drawn, without a window."""

from __future__ import annotations

import argparse
import os
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.form.form import Form
from waltzmark.core.walk.figures import Figures
from waltzmark.core.walk.seen import seen_of
from waltzmark.core.walk.trace import Trace
from waltzmark.files.figures import figure_values
from waltzmark.words.language import tr

__all__ = ["figure_arguments", "run"]

_SIDES = ("behind", "front", "left", "right", "across", "mirrored")
_SIZE = (480, 560)  # pixels of what is drawn


def parser() -> argparse.ArgumentParser:
    """The command line of the command."""
    top = argparse.ArgumentParser(prog="waltzmark")
    figure_arguments(top.add_subparsers(dest="command", required=True))
    return top


def figure_arguments(commands: Any) -> None:
    """Adds the command to others."""
    words = tr("the body in space at every count, or drawn from a side")
    example = tr("for example: waltzmark figure my-form.waltz --count 12 --side right -o figure.svg")
    made = commands.add_parser("figure", help=words, description=words, epilog=example)
    made.add_argument("file", metavar="FILE", help=tr("a .waltz form"))
    made.add_argument("--json", action="store_true", help=tr("print every joint at every count as JSON"))
    made.add_argument("--count", type=int, metavar="N", help=tr("a count of the form, from 1; 0 is the opening"))
    made.add_argument("--side", choices=_SIDES, default="behind", help=tr("where it is seen from"))
    made.add_argument("-o", dest="out", type=Path, metavar="OUT", help=tr("OUT.svg, a drawing of one count"))


def run(arguments: Sequence[str]) -> int:
    """Runs the command; its exit status is 0, or 2 when it cannot be done."""
    options = parser().parse_args(arguments)
    from waltzmark.cli.saying import as_json, complain, say
    from waltzmark.core.walk.walk import walk
    from waltzmark.files.reading import read_file

    try:
        form = read_file(options.file).form
        trace = walk(form)
        if options.count is not None and not 0 <= options.count < len(trace):
            raise WaltzmarkError("figure.no-count", count=options.count, last=len(trace) - 1)
        if options.out is not None:
            _draw(form, trace, options.count or 0, options.side, options.out)
            return say(str(options.out), 0)
        rows = range(len(trace)) if options.count is None else (options.count,)
        if options.json:
            return say(as_json(figure_values(trace, rows)), 0)
        return say("\n".join(_sentences(form, trace, rows, options.side)), 0)
    except WaltzmarkError as error:
        complain(error)
        return 2


def _sentences(form: Form, trace: Trace, rows: Sequence[int], side: str) -> list[str]:
    """A line for each count: where it is, and what is seen of it."""
    from waltzmark.words.figures import PLAIN
    from waltzmark.words.seen import seen_sentence

    walked, say, lines = Figures(trace), PLAIN.of(form), []
    for row in rows:
        figure = walked.at(row, 1.0)
        seen = seen_of(figure, trace.pose(row), walked.at(row - 1, 1.0) if row else None)
        posture = trace.posture(row)
        place = tr("opening") if posture is None else f"{form.posture(posture).title}, {int(trace.counts[row])}"
        lines.append(f"{place}. {seen_sentence(seen, side, say)}")
    return lines


def _draw(form: Form, trace: Trace, row: int, side: str, out: Path) -> None:
    """Writes the figure of a count as SVG; nothing is half-written."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from PySide6.QtCore import QBuffer, QIODevice, QRectF, QSize
    from PySide6.QtGui import QPainter
    from PySide6.QtSvg import QSvgGenerator

    from waltzmark.desktop.app import make_application
    from waltzmark.desktop.painter.seen import draw_seen, looking_at
    from waltzmark.desktop.theme import LIGHT
    from waltzmark.files.saving import save_atomically

    if out.suffix.lower() != ".svg":
        raise WaltzmarkError("figure.not-svg", name=out.name)
    application = make_application()
    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    made, box = QSvgGenerator(), QRectF(0.0, 0.0, *_SIZE)
    made.setOutputDevice(buffer)
    made.setSize(QSize(*_SIZE))
    made.setViewBox(box)
    made.setTitle(form.title)
    pose = trace.pose(row)
    with QPainter(made) as painter:
        looking = looking_at(trace, row, 1.0, pose, side, box)
        draw_seen(painter, looking, trace, Figures(trace).at(row, 1.0), pose, box, True, LIGHT)
    save_atomically(out, bytes(buffer.data().data()).decode("utf-8"))
    del application
