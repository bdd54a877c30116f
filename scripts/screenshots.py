"""Makes the pictures in docs/screenshots from the demo form: ``make shots``."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("QT_LOGGING_RULES", "default.warning=false")  # what the offscreen screen cannot do

if __name__ == "__main__":  # first: tables of texts are made as their modules are imported
    from waltzmark.words.language import pick

    pick()

from PySide6.QtCore import QCoreApplication, QEvent, Qt
from PySide6.QtGui import QPainter, QPixmap
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog

from waltzmark.core.base.progress import SILENT
from waltzmark.core.form.film import Film
from waltzmark.core.practice.balancing import Person, Reading
from waltzmark.demo import demo_text, persons
from waltzmark.demo.book import demo_book
from waltzmark.desktop.app import make_application, settle
from waltzmark.desktop.drafting.stage import WordsStage
from waltzmark.desktop.filming import make_film
from waltzmark.desktop.history import Selection
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import open_window
from waltzmark.files import library
from waltzmark.files.reading import read_document
from waltzmark.files.scales import Hello
from waltzmark.words.language import language, tr

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


def plot(window: MainWindow) -> None:
    """The third cast of the line, as the weight has poured forward."""
    window.document.session.go(float(window.document.trace.row_of("cast-right-again", 6)))


def findings(window: MainWindow) -> None:
    """The findings, the second one chosen."""
    window.desk.book["findings"].setChecked(True)
    window.plot.findings.step(1)
    window.plot.findings.step(1)


def figured(window: MainWindow) -> None:
    """The figure beside the floor, seen across the stance, and the height of the head."""
    window.document.session.go(float(window.document.trace.row_of("cast-right-again", 6)))
    window.plot.show_figure("beside")  # without being remembered for the other pictures
    window.plot.figure.set_seen("right")


def typing(window: MainWindow) -> None:
    """A count being typed, with its ghost on the floor and the words that can follow."""
    window.document.session.go(float(window.document.trace.row_of("coil", 6)))
    field = window.plot.entry.field
    field.setText("shift L 100, torso 12")
    window.plot.entry.enter()
    window.activateWindow()
    field.setFocus()
    QTest.keyClicks(field, "step R 1:30 bow ")


def words(window: MainWindow) -> None:
    """A lesson in words, drafted, with the hand on a count in the middle."""
    window.document.new()
    stage = window.show_stage("words")
    assert isinstance(stage, WordsStage)
    stage.try_sample()
    for taken in (False, True, True, True):
        if taken:
            stage.bench.take()
        while stage.bench.found is None or stage.bench.found.of.page != window.document.form.words:
            QTest.qWait(20)
    stage.bench.go(5)


def doors(window: MainWindow) -> None:
    """What is seen first."""
    window.beginning.show_doors()


def ready(window: MainWindow) -> None:
    """Whose body walks, and what follows from it."""
    window.show_stage("ready")


def bodies(window: MainWindow) -> None:
    """The people of the form, one chosen, with what changes for them."""
    window.show_stage("ready").show_face("bodies")
    face = window.ready.bodies
    while face.search.busy or any(face.fit_of(body) is None for body in face.bodies):
        QTest.qWait(20)  # the last person is known a little before the search has ended
    face.table.setCurrentCell(2, 0)
    face.list.setCurrentRow(1)
    settle(window)


def in_room(window: MainWindow, name: str = "") -> None:
    """The Room stage on one of the demo's rooms, with all that is found out about it."""
    window.show_stage("room")
    if name:
        window.editor.set_room(next(room for room in library.rooms() if room.name == name), f"take the room {name}")
    window.room.plan.fit()
    search = window.room.search
    waited = 0
    while (search.map is None or search.advice is None or not search.advice.done) and waited < 6000:
        QTest.qWait(20)
        waited += 1
    window.room.plan.fit()


def place(window: MainWindow) -> None:
    """Where to stand: the second of the best starts previewed."""
    in_room(window)
    window.document.session.go(float(window.document.trace.row_of("cast-home", 3)))
    window.room.place.starts.setCurrentRow(1)


def together(window: MainWindow) -> None:
    """A class of seven in the hall, where two come nearest."""
    in_room(window, tr("Net hall"))
    window.room.show_face("class")
    group = window.room.group
    group.n.setValue(7)
    group.place.click()
    while group.group is None:
        QTest.qWait(20)
    group.go_to_tightest()
    window.room.plan.fit()


def ledger(window: MainWindow) -> None:
    """What carries the form away, and its smallest closing previewed."""
    window.show_stage("return")
    while window.home.ledger.found is None or window.desk.jobs.busy("home closings"):
        QTest.qWait(20)
    window.document.session.select(Selection("tide-right", 0, 0))
    window.home.ledger.list.setCurrentRow(0)


def loops(window: MainWindow) -> None:
    """The loops hidden in the form, one of them chosen."""
    window.show_stage("return")
    window.home.show_face("loops")
    while not window.home.drawings.loops:
        QTest.qWait(20)
    found = window.home.drawings.loops
    window.home.drawings.choose(next(n for n, loop in enumerate(found) if loop.left_out and loop.away < 0.02))
    while "in the room" not in window.home.loops.said.text():
        QTest.qWait(20)


def in_sides(window: MainWindow) -> None:
    """The Sides stage with all pairs, on the one that differs."""
    window.document.session.go(float(window.document.trace.row_of("lean-right", 2)))
    while window.document.judge.review is None:
        QTest.qWait(20)
    window.show_stage("sides")
    while not window.sides.pairs.proposed:
        QTest.qWait(20)


def folded(window: MainWindow) -> None:
    """The pair that differs, one side folded onto the other."""
    in_sides(window)
    window.activateWindow()


def compared(window: MainWindow) -> None:
    """The form beside its earlier writing, both where they are walked."""
    window.document.session.go(float(window.document.trace.row_of("tide-right", 2)))
    window.show_stage("sides")
    window.desk.book["compare demo"].trigger()
    window.desk.book["sides walked"].setChecked(True)
    for _ in range(2):  # what is found beside may have it compared anew
        while window.sides.compare.found is None or window.sides.compare.search.busy:
            QTest.qWait(20)
        settle(window)


def walked(window: MainWindow) -> None:
    """Led through the form, to be read from three metres."""
    window.show_stage("practise")
    window.document.session.go(window.document.trace.row_of("cast-right", 6) - 0.3)
    window.practise.show_alone(True)


def weighed(window: MainWindow) -> None:
    """Thirty percent on the left, nearly held for long enough, with the simulated scale."""
    window.show_stage("practise")
    window.practise.show_face("scales")
    scales = window.practise.scales
    scales.plates.state, scales.plates.hello = "on", Hello(2, 10.0, 0.0, True)
    scales._show()
    person = Person(window.document.form.body.mass, sway=0.012, seed=4)
    person.target = 0.3
    for n in range(76):
        scales._take(Reading(n / 10, *person.stand(0.1)))


def measured(window: MainWindow) -> None:
    """Three months of the demo's book: the weight on the left foot against its target."""
    form, trace = window.document.form, window.document.trace
    window.desk.practice.person = persons()[0]
    window.desk.practice.show_demo(lambda: demo_book(form, trace, datetime(2026, 5, 4, 12, 0, tzinfo=UTC)))
    window.show_stage("log")
    window.log.show_face("measures")


def sheet(window: MainWindow) -> None:
    """The floor chart before it is printed."""
    dialog = window.dialogs.sheets()
    dialog.landscape.setChecked(True)
    dialog.refresh()
    while window.desk.jobs.busy("sheets"):
        QTest.qWait(20)


def filmed(window: MainWindow) -> None:
    """What is filmed, with a picture of it, its length and its size."""
    dialog = window.dialogs.film()
    dialog.voice.setCurrentIndex(0)  # how long words take differs from voice to voice
    dialog.refresh()
    while dialog.plan is None:
        QTest.qWait(20)


def moving() -> Path:
    """Twenty seconds of the demo for the top of the README."""
    form = read_document(demo_text()).form
    film = Film(voice="none", tempo=1.5, count_in=0.0)
    make_film(form, film, FOLDER.parent / "film.webp", "cast-right", "cast-left", SILENT)
    return FOLDER.parent / "film.webp"


#: Tables of texts are made as their modules are imported: these are drawn in a process of their own.
IN_SPANISH = ("room-class",)

SHOTS: dict[str, tuple[Callable[[MainWindow], None], bool]] = {
    "doors": (doors, False),
    "plot-light": (plot, False),
    "findings": (findings, False),
    "entry": (typing, False),
    "ready": (ready, False),
    "room-place": (place, False),
    "bodies": (bodies, False),
    "room-class": (together, False),
    "return-ledger": (ledger, False),
    "return-loops": (loops, False),
    "sides-folded": (folded, False),
    "sides-compare": (compared, False),
    "figure": (figured, False),
    "practise-walk": (walked, False),
    "words": (words, False),
    "practise-scales": (weighed, True),
    "log-measures": (measured, False),
    "sheets": (sheet, False),
    "film": (filmed, False),
}


def picture(window: MainWindow) -> QPixmap:
    """The window, with the list of words that is open over it, or the dialog that is open before it."""
    made = window.grab()
    painter = QPainter(made)
    for dialog in window.findChildren(QDialog):
        if dialog.isVisible():
            around = dialog.rect()
            around.moveCenter(window.rect().center())
            painter.drawPixmap(around.topLeft(), dialog.grab())
            painter.drawRect(around)
    for popup in QApplication.topLevelWidgets():
        if popup.isVisible() and popup.windowType() == Qt.WindowType.Popup:
            painter.drawPixmap(popup.pos() - window.pos(), popup.grab())
    painter.end()
    return made


def made(name: str) -> QPixmap:
    """One picture, made in a window of its own; in a process of its own, where it shows another language."""
    if name in IN_SPANISH and language() == "en":
        with tempfile.TemporaryDirectory(prefix="waltzmark-shots-") as folder:
            target = Path(folder) / f"{name}.png"
            environment = {**os.environ, "LANGUAGE": "es", "LC_ALL": "es_CO.UTF-8"}
            subprocess.run(
                [sys.executable, __file__, name, str(target)], env=environment, check=True, capture_output=True
            )
            return QPixmap(str(target))
    prepare, dark = SHOTS[name]
    window = open_window()
    window.set_dark(dark)
    window.resize(1280, 800)
    window.filing.open_demo()
    settle(window)
    prepare(window)
    settle(window)
    shot = picture(window)
    window.document.new()  # nothing is asked about when it closes
    window.close()
    window.deleteLater()
    QApplication.processEvents()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)  # else the next window restyles this one too
    return shot


def main() -> None:
    """Makes all pictures, or those named on the command line."""
    # Pictures show Waltzmark as it comes, not as this user has set it up.
    for kind in ("CONFIG", "DATA", "STATE"):
        os.environ[f"XDG_{kind}_HOME"] = tempfile.mkdtemp(prefix="waltzmark-shots-")
    make_application()
    if len(sys.argv) == 3 and sys.argv[2].endswith(".png"):
        made(sys.argv[1]).save(sys.argv[2])
        return
    FOLDER.mkdir(parents=True, exist_ok=True)
    for name in sys.argv[1:] or [*SHOTS, "moving"]:
        if name == "moving":
            print(moving())
            continue
        made(name).save(str(FOLDER / f"{name}.png"))
        print(f"docs/screenshots/{name}.png")


if __name__ == "__main__":
    main()
