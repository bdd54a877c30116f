"""The people a form is fitted to: added by keys, chosen by the mouse, a form and sheets made of what differs."""

from __future__ import annotations

from pathlib import Path

import pytest
from pypdf import PdfReader
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from tests.desktop.test_plotting import pressed
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Body
from waltzmark.core.fit.fitting import fitted
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.ready.bodies import BodiesFace
from waltzmark.desktop.ready.fit_floor import row_in
from waltzmark.desktop.sheets.dialog import SheetsDialog
from waltzmark.desktop.sheets.output import write
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import all_windows
from waltzmark.files import library
from waltzmark.files.fits import fitted_form
from waltzmark.files.reading import read_file
from waltzmark.files.writing import render
from waltzmark.words.fitting import difference, fits_words

FORM = """waltzmark = 1
[form]
title = "Short walk"
[body]
stature = "172cm"
[[posture]]
id = "sit"
name = "Sit"
counts = ["sink 60", "shift R 100", "step L 12 bow", "shift L 70"]
[[posture]]
id = "turn"
name = "Turn"
counts = ["shift R 60", "pivot L heel out 30", "shift L 100", "step R beside", "shift 50/50, torso 12"]
"""


@pytest.fixture
def face(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> BodiesFace:
    source = tmp_path / "short-walk.waltz"
    source.write_text(FORM, encoding="utf-8")
    window.filing.open_path(source)
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    window.show_stage("ready").setFocus()
    pressed(window, Qt.Key.Key_2, Qt.KeyboardModifier.AltModifier)
    assert window.ready.bodies.isVisible()
    return window.ready.bodies


def known(face: BodiesFace, qtbot: QtBot) -> None:
    """Waits until what the form is for everybody is known."""
    qtbot.waitUntil(lambda: all(face.fit_of(body) is not None for body in face.bodies), timeout=60_000)


def pages(dialog: SheetsDialog, qtbot: QtBot, folder: Path) -> str:
    """All the words of a sheet's pages."""
    qtbot.waitUntil(lambda: dialog.preview.made is not None, timeout=60_000)
    made = dialog.preview.made
    assert made is not None
    file = write(made, folder / "sheet.pdf")[0]
    return " ".join(" ".join(page.extract_text() for page in PdfReader(file).pages).split())


def test_ten_people_and_their_class_sheet_by_keys_alone(
    face: BodiesFace, window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    control = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier
    pressed(window, Qt.Key.Key_A, control)
    for number in range(10):
        focus = QApplication.focusWidget()
        assert focus is face.new.name
        QTest.keyClicks(focus, f"Person {number}")
        QTest.keyClick(focus, Qt.Key.Key_Tab)
        QTest.keyClicks(face.new.stature, str(150 + 5 * number))
        for field, downs in ((face.new.ranges, number % 3 - 1), (face.new.spare, int(number == 4))):
            field.setFocus()  # Tab, Tab: what an offscreen window without a manager does not pass on
            for _ in range(abs(downs)):
                QTest.keyClick(field, Qt.Key.Key_Down if downs > 0 else Qt.Key.Key_Up)
        face.new.name.setFocus()
        QTest.keyClick(face.new.name, Qt.Key.Key_Return)
    bodies = window.document.form.bodies
    assert [body.name for body in bodies] == [f"Person {number}" for number in range(10)]
    assert [round(100 * body.stature) for body in bodies] == [150 + 5 * number for number in range(10)]
    assert [body.spare for body in bodies] == ["left" if number == 4 else "" for number in range(10)]
    assert len({body.hip_in for body in bodies}) == 3
    known(face, qtbot)
    for row, body in enumerate(bodies):
        fit = fitted(window.document.form, body)
        item = face.table.item(row, 2)
        assert item is not None and item.text() == fits_words(fit)
    pressed(window, Qt.Key.Key_P, control)
    dialog = window.findChild(SheetsDialog)
    assert dialog is not None and dialog.sheet.kind == "bodies"
    words = pages(dialog, qtbot, tmp_path)
    assert all(body.name in words for body in bodies)
    dialog.accept()
    window.document.undo()  # the choice of a sheet
    for _ in range(10):
        window.document.undo()
    assert window.document.form.bodies == ()


def test_a_person_by_the_mouse_with_a_form_of_their_own(
    face: BodiesFace, window: MainWindow, qtbot: QtBot, settings: object
) -> None:
    low = replace(Body(1.72), name="Low knees", knee_one=45.0)
    library.keep_body(low)
    library.keep_body(replace(Body(1.72), name="As written"))
    face.refresh()
    for name in ("As written", "Low knees"):
        face.saved.setCurrentIndex(face.saved.findText(name))
        face.saved.activated.emit(face.saved.currentIndex())
    known(face, qtbot)

    def click(row: int) -> None:
        item = face.table.item(row, 0)
        assert item is not None
        at = face.table.visualItemRect(item).center()
        qtbot.mouseClick(face.table.viewport(), Qt.MouseButton.LeftButton, pos=at)

    click(0)
    assert face.list.count() == 0 and face.chosen is not None and face.chosen.name == "As written"
    click(1)
    fit = fitted(window.document.form, low)
    assert fit.changes and face.list.count() == len(fit.changes)
    line = fit.changes[0].lines[0]
    assert all(words in face.list.item(0).text() for words in difference(line))
    qtbot.mouseClick(
        face.list.viewport(), Qt.MouseButton.LeftButton, pos=face.list.visualItemRect(face.list.item(0)).center()
    )
    document = window.document
    assert document.session.row == document.trace.row_of(line.posture, line.count)
    written = document.trace.line(document.session.row)
    theirs = row_in(fit, line.posture, written)
    assert fit.trace.posture(theirs) == line.posture
    assert fit.rewritten.origin(line.posture, fit.trace.line(theirs)) == written
    image = face.floor.grab().toImage()
    face.floor.show_fit(None)
    assert face.floor.grab().toImage() != image  # the other walk was there
    qtbot.mouseClick(face.theirs, Qt.MouseButton.LeftButton)
    beside = next(each for each in all_windows() if each is not window)
    made = beside.document.form
    assert replace(made, title="") == replace(fitted_form(fit, "short-walk.waltz"), title="")
    assert made.fitted is not None and made.fitted.source == "short-walk.waltz" and low.name in made.title
    assert document.form.postures != made.postures


def test_their_sheet_is_of_their_own_figures_and_nothing_of_it_is_kept(
    face: BodiesFace, window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    face.add(replace(Body(1.72), name="Low knees", knee_one=45.0))
    known(face, qtbot)
    before = window.document.form
    qtbot.mouseClick(face.own_sheet, Qt.MouseButton.LeftButton)
    dialog = window.findChild(SheetsDialog)
    assert dialog is not None
    pages(dialog, qtbot, tmp_path)
    made = dialog.preview.made
    fit = face.fit_of(face.bodies[0])
    assert made is not None and fit is not None and made.sheet.kind == "postures"
    assert made.form.postures == fit.form.postures
    dialog.accept()
    assert window.document.form == before


def test_what_is_measured_of_a_person_is_fitted_anew_and_undone(
    face: BodiesFace, window: MainWindow, qtbot: QtBot
) -> None:
    face.add(replace(Body(1.72), name="Somebody"), replace(Body(1.80), name="Somebody"))
    assert [body.name for body in face.bodies] == ["Somebody", "Somebody 2"]
    face.table.setCurrentCell(0, 0)
    dialog = face.measure()
    assert dialog is not None
    dialog.measures.sided["knee_one"][0].setValue(40.0)
    dialog.name.setText("Somebody 2")
    dialog.name.editingFinished.emit()  # that is somebody else's
    dialog.name.setText("Measured")
    dialog.name.editingFinished.emit()
    dialog.accept()
    assert [body.name for body in face.bodies] == ["Measured", "Somebody 2"]
    assert face.bodies[0].knee_one == (40.0, 65.0)
    assert window.document.form.body.knee_one == 65.0  # that of the form stays
    known(face, qtbot)
    fit = face.fit_of(face.bodies[0])
    assert fit is not None and fit.changes == fitted(window.document.form, face.bodies[0]).changes
    window.document.undo()
    window.document.undo()
    assert [body.name for body in face.bodies] == ["Somebody", "Somebody 2"]


def test_people_come_from_files_and_one_that_cannot_be_read_is_told(
    face: BodiesFace, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    told: list[str] = []
    monkeypatch.setattr(Asking, "tell", lambda _self, heading, _words: told.append(heading))
    (tmp_path / "good.toml").write_text('[body]\nstature = "160cm"\n', encoding="utf-8")
    (tmp_path / "bad.toml").write_text("[body]\nwaist = 0\n", encoding="utf-8")
    face.add_files([tmp_path / "bad.toml", tmp_path / "good.toml"])
    assert [body.name for body in face.bodies] == ["good"]
    assert len(told) == 1 and "bad.toml" in told[0]


def test_a_source_that_has_changed_is_fitted_again(
    face: BodiesFace, window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    low = replace(Body(1.72), name="Low knees", knee_one=45.0)
    source = read_file(tmp_path / "short-walk.waltz").form
    theirs = tmp_path / "theirs.waltz"
    theirs.write_text(render(replace(fitted_form(fitted(source, low), "short-walk.waltz"), title="Mine")))
    (tmp_path / "short-walk.waltz").write_text(FORM.replace("step L 12 bow", "step L 12 40x24"), encoding="utf-8")
    window.filing.open_path(theirs)
    window.show_stage("ready")
    window.ready.show_page(1)
    assert window.ready.bodies.again.isVisible()
    qtbot.mouseClick(window.ready.bodies.again, Qt.MouseButton.LeftButton)
    document = window.document
    qtbot.waitUntil(lambda: document.form.lines(document.form.posture("sit")) != (), timeout=60_000)
    qtbot.waitUntil(lambda: not window.desk.jobs.busy("fit again"), timeout=60_000)
    wanted = fitted(read_file(tmp_path / "short-walk.waltz").form, low)
    qtbot.waitUntil(lambda: document.form.postures == wanted.form.postures, timeout=60_000)
    assert document.form.title == "Mine"
    assert (walk(document.form).heels == wanted.trace.heels).all()
