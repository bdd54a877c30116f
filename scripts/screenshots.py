"""Makes the pictures in docs/screenshots from the demo form: ``make shots``."""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("QT_LOGGING_RULES", "default.warning=false")  # what the offscreen screen cannot do

from PySide6.QtCore import QCoreApplication, QEvent, QPointF, QSizeF, Qt
from PySide6.QtGui import QPainter, QPixmap
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from waltzmark.core.score.read import read_count
from waltzmark.desktop.app import make_application, settle
from waltzmark.desktop.document import Selection
from waltzmark.desktop.room.parts import Part
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import open_window
from waltzmark.files import library

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


def plot(window: MainWindow) -> None:
    """The third cast of the line, as the weight has poured forward."""
    window.document.go(float(window.document.trace.row_of("cast-right-again", 6)))


def pivot(window: MainWindow) -> None:
    """In the three-quarter turn, the right foot half-way round on its heel."""
    window.document.go(window.document.trace.row_of("light", 8) - 0.45)


def findings(window: MainWindow) -> None:
    """The findings, the second one chosen."""
    window.desk.book["findings"].setChecked(True)
    window.plot.findings.step(1)
    window.plot.findings.step(1)


def typing(window: MainWindow) -> None:
    """A count being typed, with its ghost on the floor and the words that can follow."""
    window.document.go(float(window.document.trace.row_of("coil", 6)))
    field = window.plot.entry.field
    field.setText("shift L 100, torso 12")
    window.plot.entry.enter()
    window.activateWindow()
    field.setFocus()
    QTest.keyClicks(field, "step R 1:30 bow ")


def dragging(window: MainWindow) -> None:
    """The right foot turned by its toe."""
    document, floor = window.document, window.plot.floor
    document.go(float(document.trace.row_of("coil", 1)))
    window.grab()
    foot, at = document.pose.right, floor.camera.transform(QSizeF(floor.size()))
    toe = QPointF(*document.trace.body.sole.landmark(foot.x, foot.y, foot.heading, "toe"))
    start, end = at.map(toe * 0.9 + QPointF(foot.x, foot.y) * 0.1), at.map(QPointF(foot.x + 0.22, foot.y + 0.12))
    QTest.mousePress(floor, Qt.MouseButton.LeftButton, pos=start.toPoint())
    for step in range(1, 9):
        QTest.mouseMove(floor, (start + (end - start) * step / 8).toPoint())


def ready(window: MainWindow) -> None:
    """Whose body walks, and what follows from it."""
    window.show_stage("ready")


def school(window: MainWindow) -> None:
    """The form judged by another school."""
    window.show_stage("ready")
    window.ready.show_page(1)
    names = [window.ready.school.list.item(row).text() for row in range(window.ready.school.list.count())]
    window.ready.school.list.setCurrentRow(names.index("Follow step"))
    window.ready.school.take()


def drawn_finding(window: MainWindow) -> None:
    """A stance that was written too narrow, drawn with its limit and its mend."""
    document, posture = window.document, "coil"
    document.select(Selection(posture, 4, 5))
    window.editor.change(read_count("step L 12 bow 47x6"))
    window.plot.offer.dismiss()
    window.desk.book["findings"].setChecked(True)
    rows = [n for n, finding in enumerate(document.findings) if finding.rule == "stance.narrow"]
    for _ in range(rows[0] + 1):
        window.plot.findings.step(1)


def support(window: MainWindow) -> None:
    """Support, reach and hips, as a foot is set down empty."""
    for name in ("support", "reach", "hips"):
        window.desk.book[name].setChecked(True)
    window.document.go(float(window.document.trace.row_of("coil", 5)))


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
    window.document.go(float(window.document.trace.row_of("cast-home", 3)))
    window.room.place.starts.setCurrentRow(1)


def changes(window: MainWindow) -> None:
    """A room the form does not fit, and the smallest changes of steps previewed."""
    in_room(window, "Harbour office")
    advice = window.room.search.advice
    assert advice is not None
    window.room.place.changes.setCurrentRow([each.kind for each in advice.changes].index("steps"))


def making(window: MainWindow) -> None:
    """The room being measured, a chair chosen."""
    window.show_stage("room")
    window.editor.set_room(next(room for room in library.rooms() if room.name == "Harbour office"), "take the office")
    window.room.show_face("room")
    window.room.making.choose(Part("obstacle", 1))
    window.room.plan.fit()


def tape(window: MainWindow) -> None:
    """What to tape to the floor."""
    window.show_stage("room")
    window.room.show_face("tape")
    window.room.tape.within.show_length(0.1)
    window.room.tape.refresh()
    window.room.tape.list.setCurrentRow(3)


def together(window: MainWindow) -> None:
    """A class of seven in the hall, where two come nearest."""
    in_room(window, "Net hall")
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
    window.document.select(Selection("tide-right", 0, 0))
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
    window.document.go(float(window.document.trace.row_of("lean-right", 2)))
    while window.document.review is None:
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
    window.document.go(float(window.document.trace.row_of("tide-right", 2)))
    window.show_stage("sides")
    window.desk.book["compare demo"].trigger()
    while window.sides.compare.found is None:
        QTest.qWait(20)
    window.desk.book["sides walked"].setChecked(True)


def balanced(window: MainWindow) -> None:
    """What each side of the body does over the form."""
    in_sides(window)
    window.sides.show_face("balance")


SHOTS: dict[str, tuple[Callable[[MainWindow], None], bool]] = {
    "plot-light": (plot, False),
    "three-quarter-turn": (pivot, False),
    "findings": (findings, False),
    "entry": (typing, False),
    "dragging": (dragging, False),
    "ready": (ready, False),
    "school": (school, False),
    "drawn-finding": (drawn_finding, False),
    "room-place": (place, False),
    "room-changes": (changes, False),
    "room-tape": (tape, False),
    "room-class": (together, False),
    "room-dark": (making, True),
    "return-ledger": (ledger, False),
    "return-loops": (loops, False),
    "sides-folded": (folded, False),
    "sides-compare": (compared, False),
    "sides-balance": (balanced, True),
    "support-dark": (support, True),
}


def picture(window: MainWindow) -> QPixmap:
    """The window, with the list of words that is open over it."""
    made = window.grab()
    painter = QPainter(made)
    for popup in QApplication.topLevelWidgets():
        if popup.isVisible() and popup.windowType() == Qt.WindowType.Popup:
            painter.drawPixmap(popup.pos() - window.pos(), popup.grab())
    painter.end()
    return made


def made(name: str) -> QPixmap:
    """One picture, made in a window of its own."""
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
    FOLDER.mkdir(parents=True, exist_ok=True)
    for name in sys.argv[1:] or SHOTS:
        made(name).save(str(FOLDER / f"{name}.png"))
        print(f"docs/screenshots/{name}.png")


if __name__ == "__main__":
    main()
