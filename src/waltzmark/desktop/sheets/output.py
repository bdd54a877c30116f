"""Sheets made: which pages a form gives on a paper, and those pages as PDF, SVG, PNG, DXF or CSV."""

from __future__ import annotations

import contextlib
import io
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from PySide6.QtCore import QBuffer, QIODevice, QSize
from PySide6.QtGui import QImage, QPainter, QPdfWriter

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.core.base.records import Record
from waltzmark.core.form.form import Form, Sheet
from waltzmark.core.form.room import Start
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import judge
from waltzmark.core.practice.entries import Entry
from waltzmark.core.room.group import arranged, greatest
from waltzmark.core.walk.trace import Trace
from waltzmark.desktop.fits import fit_all
from waltzmark.desktop.sheets.bodies import body_pages
from waltzmark.desktop.sheets.chart import chart_pages, scale_that_fits
from waltzmark.desktop.sheets.class_sheet import class_pages
from waltzmark.desktop.sheets.listed import cue_pages, log_pages, posture_pages
from waltzmark.desktop.sheets.paper import INK, Page, Paper
from waltzmark.desktop.sheets.svg import chart_svg, page_svg
from waltzmark.desktop.sheets.tape import tape_marks, tape_pages
from waltzmark.desktop.sheets.template import sole_pages
from waltzmark.files.charts import chart_drawing, tape_table
from waltzmark.files.saving import save_atomically
from waltzmark.words.errors import explained
from waltzmark.words.figures import PLAIN, Figures

__all__ = ["FORMATS", "SCALED", "Made", "SheetError", "as_picture", "files_of", "make", "write"]

FORMATS = ("pdf", "svg", "dxf", "png", "csv")
#: Sheets that are drawn to a scale.
SCALED = ("chart", "tape", "class")
_DPI = 150.0
_CLASS = 8  # walkers that are placed at the most


class SheetError(WaltzmarkError):
    """A sheet that cannot be made; its text says why and what to do."""


class Made(Record):
    """The pages of a sheet, and what they were made of."""

    form: Form
    trace: Trace
    sheet: Sheet
    paper: Paper
    chosen: tuple[str, ...]
    pages: tuple[Page, ...]
    say: Figures
    scale: float


def make(
    form: Form,
    trace: Trace,
    sheet: Sheet,
    postures: Sequence[str] = (),
    say: Figures = PLAIN,
    entries: Sequence[Entry] = (),
) -> Made:
    """The pages of a sheet. postures: those that are on it, all unless given. Raises WaltzmarkError."""
    for name in postures:
        if all(posture.id != name for posture in form.postures):
            raise SheetError("sheet.no-posture", posture=name)
    chosen = tuple(postures) or tuple(posture.id for posture in form.postures)
    if not chosen and sheet.kind in ("postures", "cues", "bodies"):
        raise SheetError("sheet.empty")
    if sheet.kind == "bodies" and not form.bodies:
        raise SheetError("sheet.no-bodies")
    paper, say, scale = Paper.of(sheet), say.of(form), sheet.scale
    if sheet.kind in SCALED:
        scale = sheet.scale or scale_that_fits(form, trace, paper)
    makers: dict[str, Callable[[], list[Page]]] = {
        "chart": lambda: chart_pages(form, trace, paper, scale, chosen, say, sheet.steps),
        "tape": lambda: tape_pages(form, trace, paper, scale, chosen, say),
        "postures": lambda: posture_pages(form, trace, paper, chosen, say, _found(form, trace, sheet), sheet.figures),
        "cues": lambda: cue_pages(form, trace, paper, chosen, say),
        "soles": lambda: sole_pages(form.body, paper),
        "class": lambda: class_pages(form, trace, paper, scale, *_walkers(form, trace), say),
        "bodies": lambda: body_pages(form, paper, fit_all(form, form.bodies), say),
        "log": lambda: log_pages(form, paper, [each for each in entries if each.form == form.title]),
    }
    return Made(form, trace, sheet, paper, chosen, tuple(makers[sheet.kind]()), say, scale)


def _found(form: Form, trace: Trace, sheet: Sheet) -> tuple[Finding, ...]:
    return judge(form, trace) if sheet.findings else ()


def _walkers(form: Form, trace: Trace) -> tuple[tuple[Start, ...], Start | None]:
    """Where `_CLASS` walkers begin, or as many as there is room for, and where their teacher stands, if anywhere.
    Raises SheetError where not even two fit."""
    if form.room is None:
        raise SheetError("sheet.class-room")
    group = arranged(trace, form.room, _CLASS) or greatest(trace, form.room)
    if group is None or len(group.walkers) < 2:
        raise SheetError("sheet.class-small")
    return group.walkers, group.teacher


def paint(page: Page, painter: QPainter) -> None:
    """One page, from a painter that has a unit a 96th of an inch."""
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.save()
    page.draw(painter)
    painter.restore()


def as_picture(made: Made, number: int, scale: float) -> QImage:
    """A page as a picture, so many pixels a unit."""
    size = made.paper.units * scale
    image = QImage(QSize(round(size.width()), round(size.height())), QImage.Format.Format_RGB32)
    image.setDotsPerMeterX(round(96.0 / 0.0254))
    image.setDotsPerMeterY(round(96.0 / 0.0254))
    image.fill(INK.color("paper"))
    with QPainter(image) as painter:
        painter.scale(scale, scale)
        paint(made.pages[number], painter)
    return image


def _pdf(made: Made, told: Progress) -> bytes:
    """All pages as PDF, with fonts embedded and a bookmark a posture."""
    from pypdf import PdfReader, PdfWriter

    buffer = QBuffer()
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QPdfWriter(buffer)
    writer.setResolution(96)
    writer.setPageLayout(made.paper.layout)
    writer.setTitle(made.form.title or "Waltzmark")
    writer.setCreator("Waltzmark")
    painter = QPainter(writer)
    try:
        for number, page in enumerate(made.pages):
            told.tell(number / len(made.pages))
            if number:
                writer.newPage()
            paint(page, painter)
    finally:
        painter.end()
    data = bytes(buffer.data().data())
    if not any(page.bookmarks for page in made.pages):
        return data
    out = PdfWriter(clone_from=PdfReader(io.BytesIO(data)))
    for number, page in enumerate(made.pages):
        for _, title in page.bookmarks:
            out.add_outline_item(title=title, page_number=number)
    whole = io.BytesIO()
    out.write(whole)
    return whole.getvalue()


def _svg(made: Made, number: int) -> bytes:
    if made.sheet.kind != "chart":
        return page_svg(made.paper, made.form.title, made.pages[number])
    return chart_svg(made.form, made.trace, made.paper, made.scale, number, made.chosen, made.sheet.steps, made.say)


def write(made: Made, path: Path, told: Progress = SILENT) -> tuple[Path, ...]:
    """Writes a sheet into a file, or several where pages are pictures; which they are. Nothing is half-written. Raises
    WaltzmarkError."""
    kind = path.suffix.lower().lstrip(".")
    if kind not in FORMATS:
        raise SheetError("sheet.format", name=path.name, known=tuple(FORMATS))
    if kind == "pdf":
        save_atomically(path, _pdf(made, told))
        return (path,)
    if kind == "dxf":
        if made.sheet.kind != "chart":
            raise SheetError("sheet.dxf")
        save_atomically(path, chart_drawing(made.form, made.trace, made.chosen).encode("utf-8"))
        return (path,)
    if kind == "csv":
        if made.sheet.kind != "tape" or made.form.room is None:
            raise SheetError("sheet.csv")
        marks = tape_marks(made.form, made.trace, made.chosen)
        save_atomically(path, tape_table(marks, made.say).encode("utf-8"))
        return (path,)
    written: dict[Path, bytes] = {}  # all are made before the first is saved
    for number, name in enumerate(files_of(made, path)):
        told.tell(number / len(made.pages))
        if kind == "svg":
            written[name] = _svg(made, number)
        else:
            buffer = QBuffer()
            buffer.open(QIODevice.OpenModeFlag.WriteOnly)
            as_picture(made, number, _DPI / 96.0).save(buffer, "PNG")  # type: ignore[call-overload]
            written[name] = bytes(buffer.data().data())
    _save_all(written)
    return tuple(written)


def files_of(made: Made, path: Path) -> tuple[Path, ...]:
    """The files that a sheet is written into: one for each page where pages are pictures."""
    pages = range(1, len(made.pages) + 1)
    if len(pages) == 1 or path.suffix.lower() not in (".svg", ".png"):
        return (path,)
    return tuple(path.with_name(f"{path.stem}-{number}{path.suffix}") for number in pages)


def _save_all(files: Mapping[Path, bytes]) -> None:
    """Saves several files, or leaves all as they were. Raises WaltzmarkError."""
    before: dict[Path, bytes | None] = {}
    try:
        for name, data in files.items():
            was = name.read_bytes() if name.is_file() else None
            save_atomically(name, data)
            before[name] = was
    except (WaltzmarkError, OSError) as error:
        for name, was in before.items():
            with contextlib.suppress(WaltzmarkError, OSError):
                if was is None:
                    name.unlink()
                else:
                    save_atomically(name, was)
        raise (
            error if isinstance(error, WaltzmarkError) else SheetError("sheet.unsaved", reason=explained(error))
        ) from error
