"""Sheets: true to scale in every format, read back by other libraries, with no text cut off and nothing half-written."""

from __future__ import annotations

import contextlib
import csv
import io
import re
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pypdf import PdfReader
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QImage, QPainter
from PySide6.QtPrintSupport import QPrinter
from pytestqt.qtbot import QtBot

from tests.core.strategies import counts
from tests.desktop.conftest import reviewed
from tests.trying import tries
from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.form.form import PAPERS, SHEETS, Form, Posture, Sheet
from waltzmark.core.practice.entries import Entry, now
from waltzmark.core.score.actions import Count
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.read import read_score
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.history import Selection
from waltzmark.desktop.sheet_command import run
from waltzmark.desktop.sheets.dialog import SheetsDialog
from waltzmark.desktop.sheets.output import Made, SheetError, as_picture, make, write
from waltzmark.desktop.sheets.paper import MM, Paper, fitted_text
from waltzmark.desktop.window import MainWindow
from waltzmark.files.reading import read_document
from waltzmark.files.writing import render
from waltzmark.words.sentences import sentence

DEMO = read_document(demo_text()).form
TRACE = walk(DEMO)
FEW = replace(DEMO, postures=DEMO.postures[:4])
SVG = "{http://www.w3.org/2000/svg}"
LONG = "Ein sehr langer Name mit Ümlauten, 名前と長い言葉, und noch mehr, " * 3


def made(sheet: Sheet, form: Form = DEMO, trace: Trace = TRACE, **more: object) -> Made:
    return make(form, trace, sheet, **more)  # type: ignore[arg-type]


def refreshed(dialog: SheetsDialog, qtbot: QtBot) -> None:
    """The pages made anew."""
    dialog.refresh()
    qtbot.waitUntil(lambda: not dialog.desk.jobs.busy("sheets"), timeout=20_000)


def ink(image: QImage) -> np.ndarray:
    """(h, w) where something is drawn."""
    assert image.depth() == 32
    lines = np.frombuffer(image.constBits(), dtype=np.uint8).reshape(image.height(), -1)[:, : 4 * image.width()]
    blue, green, red = (lines[:, at::4] for at in range(3))
    dark = green < 200  # where it is lighter, so is the whole
    found = np.zeros_like(dark)
    found[dark] = (11 * red[dark].astype(int) + 16 * green[dark] + 5 * blue[dark]) // 32 < 100
    return found


def longest_run(row: np.ndarray) -> int:
    """The most pixels in a row that are inked."""
    edges = np.flatnonzero(np.diff(np.concatenate([[0], row.astype(int), [0]])))
    return int(max(edges[1::2] - edges[::2], default=0))


@pytest.mark.parametrize("kind", SHEETS)
def test_every_sheet_is_made_on_every_paper_and_stays_inside_its_margins(qapp: object, kind: str) -> None:
    form = replace(DEMO, postures=DEMO.postures[:2]) if kind in ("bodies", "class") else DEMO
    trace, entries = walk(form), [Entry(now(), "walk", form=DEMO.title)]
    for paper in PAPERS:
        sheet = made(Sheet(kind, paper, landscape=paper == "A5"), form, trace, entries=entries)
        assert sheet.pages
        for number in range(len(sheet.pages)):
            image = as_picture(sheet, number, 1.0)
            drawn = ink(image)
            assert drawn.any()
            if kind in ("postures", "tape", "cues", "log"):  # what is written keeps off the edges
                edge = round(9.0 * MM)
                for side in (drawn[:edge], drawn[-edge:], drawn[:, :edge], drawn[:, -edge:]):
                    assert side.sum() < 0.02 * side.size
                assert not drawn[:edge].any()


def test_a_chart_at_one_to_twenty_measures_right_in_svg_and_in_pdf(qapp: object, tmp_path: Path) -> None:
    # A room that is on one page of A4 at 1:20, so that both corners are.
    assert DEMO.room is not None
    room = replace(DEMO.room, outline=((0.0, 0.0), (3.5, 0.0), (3.5, 4.0), (0.0, 4.0)), obstacles=())
    form = replace(DEMO, room=replace(room, start=replace(room.start, x=1.9, y=1.4)))
    sheet = made(Sheet(scale=20.0), form, walk(form))
    (svg,) = write(sheet, tmp_path / "chart.svg")
    root = ElementTree.parse(svg).getroot()
    assert root.get("width") == "210mm" and root.get("viewBox") == "0 0 210 297"
    outline = next(each for each in root.iter(f"{SVG}path") if each.get("id") == "room")
    corners = np.array([float(n) for n in re.findall(r"-?\d+\.\d+", outline.get("d") or "")]).reshape(-1, 2)
    sides = np.hypot(*(np.roll(corners, -1, axis=0) - corners).T)
    np.testing.assert_allclose(sides, np.array([3500.0, 4000.0, 3500.0, 4000.0]) / 20.0, atol=0.01)
    titles = {group.get("id"): group.findtext(f"{SVG}title") for group in root.iter(f"{SVG}g") if group.get("id")}
    assert titles == {posture.id: posture.title for posture in form.postures}
    # In the PDF the walls are where the SVG has them: their lines are among its strokes, 72 points an inch.
    (pdf,) = write(sheet, tmp_path / "chart.pdf")
    page = PdfReader(pdf).pages[0]
    assert [float(v) for v in page.mediabox[2:]] == pytest.approx([210 / 25.4 * 72, 297 / 25.4 * 72], abs=0.6)
    content = page.get_contents().get_data().decode("latin-1")  # type: ignore[union-attr]
    places = _places_in(content)
    for x, y in corners:
        point = np.array([x / 25.4 * 72, (297.0 - y) / 25.4 * 72])
        assert np.hypot(*(places - point).T).min() < 0.2 / 25.4 * 72


def _places_in(content: str) -> np.ndarray:
    """(n, 2) the ends of all lines of a page, in points: what m and l say, through each cm."""
    at, kept, found = np.eye(3), [], []
    numbers: list[float] = []
    for word in content.split():
        try:
            numbers.append(float(word))
            continue
        except ValueError:
            pass
        if word == "cm" and len(numbers) >= 6:
            a, b, c, d, e, f = numbers[-6:]
            at = np.array([[a, b, 0], [c, d, 0], [e, f, 1]]) @ at
        elif word == "q":
            kept.append(at)
        elif word == "Q" and kept:
            at = kept.pop()
        elif word in ("m", "l") and len(numbers) >= 2:
            found.append((np.array([*numbers[-2:], 1.0]) @ at)[:2])
        numbers = []
    return np.array(found)


def test_the_drawing_reads_back_with_the_same_coordinates(qapp: object, tmp_path: Path) -> None:
    import ezdxf

    (path,) = write(made(Sheet()), tmp_path / "chart.dxf")
    drawing: Any = ezdxf.readfile(path)  # type: ignore[attr-defined]
    assert drawing.header["$INSUNITS"] == 6 and DEMO.room is not None
    space = drawing.modelspace()
    (room,) = space.query('LWPOLYLINE[layer=="room"]')
    np.testing.assert_allclose([p[:2] for p in room.get_points()], DEMO.room.outline, atol=1e-4)
    assert room.closed and len(space.query('CIRCLE[layer=="obstacles"]')) == 1
    (way,) = space.query('LWPOLYLINE[layer=="path"]')
    np.testing.assert_allclose([p[:2] for p in way.get_points()], DEMO.room.to_room(TRACE.centres), atol=1e-4)
    for side in ("left", "right"):
        soles = space.query(f'LWPOLYLINE[layer=="soles-{side}"]')
        assert len(soles) == len(DEMO.postures) and all(sole.closed for sole in soles)
        lengths = [np.ptp(np.array([p[:2] for p in sole.get_points()]), axis=0).max() for sole in soles]
        assert max(lengths) <= 0.27
    marks = {text.dxf.text for text in space.query('TEXT[layer=="marks"]')}
    assert "17 Cast the line homeward" in marks and len(space.query('POINT[layer=="marks"]')) == len(DEMO.postures)


def test_every_posture_s_name_is_text_in_the_pdf_with_a_bookmark(qapp: object, tmp_path: Path) -> None:
    few = DEMO.postures[3:10]
    for kind in ("postures", "cues"):
        (path,) = write(made(Sheet(kind), postures=[each.id for each in few]), tmp_path / f"{kind}.pdf")
        reader = PdfReader(path)
        words = " ".join("\n".join(page.extract_text() for page in reader.pages).split())
        assert all(posture.title in words for posture in few)
        assert [each.title for each in reader.outline] == [each.title for each in few]  # type: ignore[union-attr]
        fonts = {name for page in reader.pages for name in page["/Resources"]["/Font"]}  # type: ignore[index]
        assert fonts


@settings(max_examples=tries(25), suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(lines=st.lists(counts, max_size=8), heading=st.floats(0.0, 359.0), kind=st.sampled_from(SHEETS))
def test_any_form_is_on_any_sheet_and_its_drawing_is_where_it_walks(
    qapp: object, tmp_path: Path, lines: list[Count], heading: float, kind: str
) -> None:
    import ezdxf

    assert DEMO.room is not None
    room = replace(DEMO.room, start=replace(DEMO.room.start, heading=heading))
    form = Form(
        postures=(Posture("any", lines=tuple(lines)), Posture("other", mirror_of="any", axis=Clock(0))),
        room=room,
        bodies=(Body(1.9, name="Tall"), Body(1.6, spare="left", name="Spared")),
    )
    trace = walk(form)
    with contextlib.suppress(*([SheetError] if kind == "class" else [])):  # there need not be room for two
        drawn = as_picture(made(Sheet(kind, findings=True, steps=True), form, trace), 0, 1.0)
        assert ink(drawn).any()
    drawing: Any = ezdxf.readfile(write(made(Sheet(), form, trace), tmp_path / "any.dxf")[0])  # type: ignore[attr-defined]
    (way,) = drawing.modelspace().query('LWPOLYLINE[layer=="path"]')
    np.testing.assert_allclose([p[:2] for p in way.get_points()], room.to_room(trace.centres), atol=1e-4)
    for side in Side:
        for number, sole in enumerate(drawing.modelspace().query(f'LWPOLYLINE[layer=="soles-{side.word}"]'), 1):
            row = int(trace.starts[number + 1]) - 1
            sole_of, (x, y) = trace.body.sole, trace.heels[row, side].tolist()
            outline = sole_of.placed(sole_of.outlines[side], x, y, float(trace.headings[row, side]))
            np.testing.assert_allclose([p[:2] for p in sole.get_points()], room.to_room(outline), atol=1e-4)


@pytest.mark.parametrize("paper", PAPERS)
@pytest.mark.parametrize("landscape", [False, True])
@pytest.mark.parametrize("stature", [1.45, 2.05])
def test_soles_are_as_large_as_they_are_and_the_rule_is_true_on_every_paper(
    qapp: object, paper: str, landscape: bool, stature: float
) -> None:
    body = replace(DEMO.body, stature=stature, measured=(), left_foot=0.0)
    sheet = made(Sheet("soles", paper, landscape), replace(DEMO, body=body))
    along = {"left": 0.0, "right": 0.0}
    for number, page in enumerate(sheet.pages):
        image = as_picture(sheet, number, 2.0)
        drawn = np.rot90(ink(image)) if landscape else ink(image)
        edge = round(4.5 * MM * 2.0)
        assert not any(side.any() for side in (drawn[:edge], drawn[-edge:], drawn[:, :edge], drawn[:, -edge:]))
        rule = np.asarray(drawn[:, round(12.0 * MM * 2.0) - 2 : round(12.0 * MM * 2.0) + 3].any(axis=1))
        assert longest_run(rule[round(15.0 * MM * 2.0) :]) == pytest.approx(100.0 * MM * 2.0, abs=6)
        middle = drawn.shape[1] // 2
        column = np.flatnonzero(np.asarray(drawn[:, middle - 2 : middle + 3].any(axis=1))) / (MM * 2.0)
        along[page.title.split()[0]] += np.ptp(column) - (6.0 if "sole " in page.title else 0.0)  # what overlaps
    outlines = body.sole.outlines[0][:, 1]
    for far in along.values():  # the axis: the sole and 3 mm before and behind it
        assert far == pytest.approx(1000.0 * float(np.ptp(outlines)) + 6.0, abs=0.8)


@pytest.mark.parametrize("words", [LONG, "Donaudampfschifffahrtsgesellschaft" * 6, "x" * 200])
def test_no_text_is_cut_off(qapp: object, words: str) -> None:
    image = QImage(500, 200, QImage.Format.Format_RGB32)
    for wrap in (True, False):
        for box in (QRectF(100.0, 60.0, 240.0, 40.0), QRectF(100.0, 60.0, 300.0, 16.0)):
            image.fill(Qt.GlobalColor.white)
            with QPainter(image) as painter:
                told = fitted_text(painter, box, words, 12.0, wrap=wrap, least=1.0)
            assert told.width() <= box.width() + 1 and told.height() <= box.height() + 1
            drawn = ink(image)
            inside = drawn[
                round(box.top()) - 3 : round(box.bottom()) + 3, round(box.left()) - 2 : round(box.right()) + 3
            ]
            assert drawn.sum() == inside.sum()


def test_names_of_two_hundred_signs_in_other_scripts_are_printed(qapp: object, tmp_path: Path) -> None:
    postures = tuple(replace(p, name=f"{n} {LONG}"[:200]) for n, p in enumerate(FEW.postures))
    form = replace(FEW, title=LONG, postures=postures)
    trace = walk(form)
    for kind in SHEETS:
        sheet = made(Sheet(kind), form, trace, entries=[Entry(now(), "walk", form=form.title, title=LONG[:200])])
        edge = round(9.0 * MM)
        for number in range(len(sheet.pages)):
            drawn = ink(as_picture(sheet, number, 1.0))
            assert not drawn[:, -edge:].any() or kind in ("soles", "cues")
        assert write(sheet, tmp_path / f"{kind}.pdf")


def test_a_large_scale_takes_more_pages_with_joining_marks_and_a_huge_one_is_refused(
    qapp: object, tmp_path: Path
) -> None:
    sheet = made(Sheet(scale=10.0))
    assert len(sheet.pages) == 8 and sheet.pages[0].title == "Floor chart part 1 of 8"
    written = write(sheet, tmp_path / "chart.png")
    assert [each.name for each in written] == [f"chart-{n}.png" for n in range(1, 9)]
    # One page that cannot be written leaves all as they were.
    for each in written[1:]:
        each.unlink()
    before = written[0].read_bytes()
    written[5].mkdir()
    with pytest.raises(WaltzmarkError):
        write(made(Sheet(scale=10.0, steps=True)), tmp_path / "chart.png")
    assert written[0].read_bytes() == before and not any(each.is_file() for each in written[1:])
    with pytest.raises(WaltzmarkError, match="sheet.pages"):
        made(Sheet(scale=1.0))
    # The tape plan as a table: the places of the marks in metres of the room.
    (path,) = write(made(Sheet("tape")), tmp_path / "tape.csv")
    rows = list(csv.DictReader(io.StringIO(path.read_text(encoding="utf-8"))))
    assert rows[0]["posture"] == "" and (float(rows[0]["x"]), float(rows[0]["y"])) == (2.9, 1.2)
    assert {row["foot"] for row in rows[1:]} == {"left", "right"}
    # What each distance is from is told; both cross where the mark is.
    row, room = rows[1], DEMO.room
    assert room is not None and row["square_1_from"] and row["corner_2_from"].startswith("right corner of ")
    far = np.hypot(*(np.array(room.outline) - (float(row["x"]), float(row["y"]))).T)
    for name in ("corner_1", "corner_2"):
        assert np.abs(far - float(row[name])).min() < 1e-3


@pytest.mark.parametrize(
    ("arguments", "says"),
    [
        (["--kind", "tape", "-o", "x.dxf"], "as DXF"),
        (["-o", "x.doc"], "x.doc"),
        (["-o", "nowhere/x.pdf"], "was not saved"),
        (["--postures", "coil,none", "-o", "x.pdf"], "“none”"),
        (["--kind", "chart", "-o", "x.csv"], "as CSV"),
    ],
)
def test_what_cannot_be_written_is_told_and_nothing_is_half_written(
    qapp: object,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
    capsys: pytest.CaptureFixture[str],
    arguments: list[str],
    says: str,
) -> None:
    monkeypatch.chdir(tmp_path)
    (tmp_path / "demo.waltz").write_text(demo_text(), encoding="utf-8")
    assert run(["sheet", "demo.waltz", *arguments]) == 2
    assert says in capsys.readouterr().err
    assert [each.name for each in tmp_path.iterdir()] == ["demo.waltz"]


def test_the_command_writes_a_sheet_as_the_document_has_it_or_as_it_is_told(
    qapp: object, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = tmp_path / "mine.waltz"
    file.write_text(demo_text() + '\n[sheet]\nkind = "cues"\npaper = "Letter"\nlandscape = true\n', encoding="utf-8")
    assert run(["sheet", str(file), "-o", str(tmp_path / "a.pdf")]) == 0
    box = PdfReader(tmp_path / "a.pdf").pages[0].mediabox
    assert (float(box[2]), float(box[3])) == pytest.approx((792.0, 612.0), abs=0.6)
    assert (
        run(["sheet", str(file), "--kind", "chart", "--paper", "A4", "--scale", "1:50", "-o", str(tmp_path / "b.svg")])
        == 0
    )
    assert capsys.readouterr().out.splitlines() == [str(tmp_path / "a.pdf"), str(tmp_path / "b.svg")]
    for wrong in ("2:20", "0", "x"):
        with pytest.raises(SystemExit):
            run(["sheet", str(file), "--scale", wrong, "-o", str(tmp_path / "c.pdf")])
    form = read_document(file.read_text(encoding="utf-8")).form
    assert form.sheet == Sheet("cues", "Letter", True) and read_document(render(form)).form == form
    for line in ('kind = "poster"', 'paper = "A0"', "landscape = 1", "scale = -3"):
        file.write_text(demo_text() + f"\n[sheet]\n{line}\n", encoding="utf-8")
        assert run(["sheet", str(file), "-o", str(tmp_path / "d.pdf")]) == 2 and "sheet" in capsys.readouterr().err


def test_a_form_without_a_room_or_without_postures_says_so(qapp: object) -> None:
    bare = Form()
    assert made(Sheet(), bare, walk(bare)).pages and made(Sheet("soles"), bare, walk(bare)).pages
    for kind, told in (
        ("tape", "sheet.tape-room"),
        ("class", "sheet.class-room"),
        ("postures", "sheet.empty"),
        ("cues", "sheet.empty"),
    ):
        with pytest.raises(WaltzmarkError, match=told):
            made(Sheet(kind), bare, walk(bare))
    form = Form(postures=(Posture("a", lines=read_score("shift R 100\nstep L 12 bow")),))
    assert made(Sheet("postures"), form, walk(form)).pages


def test_the_sheets_are_previewed_chosen_saved_and_kept_with_the_document(
    demo: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    few = demo.document.form.postures[:10]
    demo.document.edit("keep a few", replace(demo.document.form, postures=few), Selection())
    reviewed(demo, qtbot)
    dialog = demo.dialogs.sheets()
    refreshed(dialog, qtbot)
    preview = dialog.preview
    pictures = []
    for number in range(len(SHEETS)):
        dialog.kind.setCurrentIndex(number)
        refreshed(dialog, qtbot)
        assert preview.made is not None and preview.made.sheet.kind == SHEETS[number]
        pictures.append(preview.grab().toImage())
    assert all(a != b for n, a in enumerate(pictures) for b in pictures[:n])
    dialog.kind.setCurrentIndex(2)
    refreshed(dialog, qtbot)
    assert preview.made is not None and len(preview.made.pages) == 3 and not dialog.scale.isEnabled()
    shots = [preview.grab().toImage()]
    for side in (1, 2):  # figures from the front, and none, which takes less paper
        dialog.figures.setCurrentIndex(side)
        refreshed(dialog, qtbot)
        shots.append(preview.grab().toImage())
    assert shots[0] != shots[1] != shots[2] and len(preview.made.pages) == 2
    pictures[2] = shots[2]
    qtbot.keyClick(preview, Qt.Key.Key_PageDown)
    assert preview.page == 1 and preview.grab().toImage() != pictures[2]
    dialog.write(tmp_path / "postures")
    assert "postures.pdf" in dialog.said.text() and len(PdfReader(tmp_path / "postures.pdf").pages) == 2
    # Pages go into files of their own: what stands there already is not replaced without asking.
    mine = tmp_path / "postures-2.png"
    mine.write_text("mine", encoding="utf-8")
    monkeypatch.setattr(Asking, "choose", lambda *_, **__: 1)
    dialog.write(tmp_path / "postures.png", asked=tmp_path / "postures.png")
    assert mine.read_text(encoding="utf-8") == "mine"
    assert not (tmp_path / "postures-1.png").exists()
    monkeypatch.setattr(Asking, "choose", lambda *_, **__: 0)
    dialog.write(tmp_path / "postures.png")
    assert QImage(str(mine)).width() > 500
    dialog.write(tmp_path / "none" / "x.pdf")
    assert "was not saved" in dialog.said.text()
    printer = QPrinter(QPrinter.PrinterMode.HighResolution)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    printer.setPageLayout(Paper("A4").layout)
    dialog.print_on(printer)
    assert "Stand on the quay" in " ".join(PdfReader(tmp_path / "printed.pdf").pages[0].extract_text().split())
    dialog.paper.setCurrentIndex(2)
    dialog.accept()
    assert (
        demo.document.form.sheet == Sheet("postures", "Letter", figures="none")
        and demo.document.undo_words == "choose a sheet"
    )
    demo.undo()
    assert demo.document.form.sheet == Sheet()
    demo.editor.set_room(None, "take the room away")
    dialog = demo.dialogs.sheets()
    dialog.kind.setCurrentIndex(1)
    refreshed(dialog, qtbot)
    assert dialog.preview.words == sentence(message("sheet.tape-room")) and not dialog.save.isEnabled()
    dialog.preview.grab()
    dialog.kind.setCurrentIndex(0)
    dialog.reject()


def test_a_drawing_is_well_formed_whatever_a_name_holds(qapp: object, tmp_path: Path) -> None:
    odd = replace(DEMO.postures[0], name="bell \x07 <b> \ufffe & end")
    form = replace(DEMO, title="\x1b[2J", postures=(odd, *DEMO.postures[1:3]))
    for kind in ("chart", "postures"):
        for file in write(make(form, walk(form), Sheet(kind=kind), ()), tmp_path / f"{kind}.svg"):
            texts = ["".join(each.itertext()) for each in ElementTree.parse(file).iter(f"{SVG}title")]
            assert texts and all(sign not in "".join(texts) for sign in ("\x07", "\x1b", "\ufffe"))
