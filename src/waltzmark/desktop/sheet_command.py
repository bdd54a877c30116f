"""The command ``sheet``: a sheet of a form as a file, without a window."""

from __future__ import annotations

import argparse
import os
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import FIGURE_SIDES, PAPERS, SHEETS
from waltzmark.words.language import tr

__all__ = ["run", "sheet_arguments"]


def parser() -> argparse.ArgumentParser:
    """The command line of the command."""
    top = argparse.ArgumentParser(prog="waltzmark")
    sheet_arguments(top.add_subparsers(dest="command", required=True))
    return top


def sheet_arguments(commands: Any) -> None:
    """Adds the command to others."""
    words = tr("a page to take to the floor, as PDF, SVG, PNG, DXF (chart) or CSV (tape)")
    example = tr("for example: waltzmark sheet my-form.waltz --kind chart --scale 1:20 -o chart.pdf")
    made = commands.add_parser("sheet", help=words, description=words, epilog=example)
    made.add_argument("file", metavar="FILE", help=tr("a .waltz form"))
    made.add_argument(
        "--kind", choices=SHEETS, help=tr("which sheet (default: the document’s own, or the floor chart)")
    )
    made.add_argument(
        "-o", dest="out", type=Path, metavar="OUT", required=True, help=tr("OUT.pdf, .svg, .png, .dxf or .csv")
    )
    made.add_argument("--paper", choices=PAPERS, help=tr("paper size (default: the document’s own, or A4)"))
    made.add_argument("--landscape", action="store_true", help=tr("landscape paper"))
    made.add_argument("--steps", action="store_true", help=tr("show the feet of every count on the chart"))
    made.add_argument("--findings", action="store_true", help=tr("print the findings with the postures"))
    made.add_argument("--figures", choices=FIGURE_SIDES, help=tr("how the figures of the postures are seen"))
    made.add_argument(
        "--scale", type=_scale, metavar="1:N", help=tr("scale of charts (default: as large as fits on a page)")
    )
    made.add_argument("--postures", metavar="a,b", help=tr("ids of the postures to print (default: all)"))


def _scale(text: str) -> float:
    """How many to one, of ``1:20`` or ``20``. Raises ValueError."""
    number = float(text.partition(":")[2] if ":" in text else text)
    if ":" in text and float(text.partition(":")[0]) != 1.0:
        raise ValueError(text)
    if not 1.0 <= number <= 1000.0:
        raise ValueError(text)
    return number


def run(arguments: Sequence[str]) -> int:
    """Runs the command; its exit status is 0, or 2 when it cannot be done."""
    options = parser().parse_args(arguments)
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from waltzmark.cli.saying import complain, say
    from waltzmark.core.walk.walk import walk
    from waltzmark.desktop.app import make_application
    from waltzmark.desktop.sheets.output import make, write
    from waltzmark.files.book import Book, book_path
    from waltzmark.files.reading import read_file

    try:
        form = read_file(options.file).form
        sheet = form.sheet
        chosen: dict[str, object] = {
            "kind": options.kind,
            "paper": options.paper,
            "landscape": options.landscape or None,
            "scale": options.scale,
            "steps": options.steps or None,
            "findings": options.findings or None,
            "figures": options.figures,
        }
        sheet = replace(sheet, **{name: value for name, value in chosen.items() if value is not None})  # type: ignore[arg-type]
        application = make_application()
        entries = Book(book_path()).entries() if sheet.kind == "log" and book_path().exists() else ()
        postures = [each.strip() for each in (options.postures or "").split(",") if each.strip()]
        made = make(form, walk(form), sheet, postures, entries=entries)
        written = write(made, options.out)
        del application
    except WaltzmarkError as error:
        complain(error)
        return 2
    return say("\n".join(str(each) for each in written), 0)
