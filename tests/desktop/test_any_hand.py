"""Whatever a hand does in the Room, Return and Sides stages is undone again, is kept as it is saved, and breaks nothing."""

from __future__ import annotations

import random
from collections.abc import Callable, Iterator

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QWidget
from pytestqt.qtbot import QtBot

from waltzmark.core.form.form import Form
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.window import MainWindow
from waltzmark.files.reading import read_document
from waltzmark.files.writing import render

ROOM = (
    "face place",
    "face room",
    "face tape",
    "face class",
    "tightest",
    "best here",
    "take",
    "add box",
    "add circle",
    "add door",
    "add tape",
    "add corner",
    "take out",
    "room larger",
    "room whole",
    "forward",
    "back",
)
HOME = (
    "face ledger",
    "face loops",
    "close it",
    "lock",
    "head to tail",
    "home here",
    "home start",
    "home larger",
    "home whole",
    "forward",
    "back",
)
_MAKING = ("make alike", "make count alike", "tie", "call side")
SIDES = (
    *_MAKING * 4,
    "face pairs",
    "face compare",
    "face balance",
    "next difference",
    "previous difference",
    "compare demo",
    "sides beside",
    "sides walked",
    "sides folded",
    "sides mirrored",
    "sides above",
    "sides larger",
    "sides whole",
    "forward",
    "back",
)
TYPED = ("3.2m", "40 cm", "", "-1", "12 boards", "1e9", "nonsense", "7 in", "0", "ten paces", "2 paces")
_TURNS = 45


@pytest.fixture
def troubles(demo: MainWindow, monkeypatch: pytest.MonkeyPatch) -> Iterator[list[str]]:
    """What the window would have told of errors; there should be nothing."""
    told: list[str] = []
    monkeypatch.setattr(demo, "tell_trouble", told.append)
    demo.document.jobs.trouble.connect(lambda asker, error: told.append(f"{asker}: {error!r}"))
    # What cannot be done is told in a window; a hand would close it.
    monkeypatch.setattr(Asking, "tell", lambda *_: None)
    monkeypatch.setattr(Asking, "text", lambda *_: "Named by hand")
    monkeypatch.setattr(Asking, "number", lambda *_: 1.0)
    yield told
    assert told == []


def anywhere(view: QWidget, dice: random.Random) -> QPoint:
    return QPoint(dice.randrange(view.width()), dice.randrange(view.height()))


def drag(view: QWidget, dice: random.Random) -> None:
    """A press somewhere, a few moves, and letting go; now and then Esc between."""
    button = Qt.MouseButton.LeftButton
    place = anywhere(view, dice)
    QTest.mousePress(view, button, pos=place)
    for _ in range(dice.randrange(4)):
        place = anywhere(view, dice)
        QTest.mouseMove(view, place)
    if dice.random() < 0.2:
        QTest.keyClick(view, Qt.Key.Key_Escape)
    QTest.mouseRelease(view, button, pos=place)
    if dice.random() < 0.2:
        QTest.mouseDClick(view, button, pos=place)


def type_somewhere(stage: QWidget, dice: random.Random) -> None:
    """Something is typed into one of the fields that can be seen, or chosen from a list."""
    fields = [each for each in stage.findChildren(QLineEdit) if each.isVisible() and each.isEnabled()]
    lists = [
        each for each in stage.findChildren(QComboBox) if each.isVisible() and each.count() and not each.isEditable()
    ]
    if lists and dice.random() < 0.3:
        chosen = dice.choice(lists)
        chosen.setCurrentIndex(dice.randrange(chosen.count()))
        chosen.activated.emit(chosen.currentIndex())
    elif fields:
        field = dice.choice(fields)
        field.setFocus()
        field.selectAll()
        QTest.keyClicks(field, dice.choice(TYPED))
        QTest.keyClick(field, dice.choice((Qt.Key.Key_Return, Qt.Key.Key_Tab)))


def keeps(form: Form) -> bool:
    """Whether a form is read as it is saved."""
    return read_document(render(form)).form == form


@pytest.mark.parametrize(
    ("name", "seed"), [("room", 1), ("room", 2), ("room", 3), ("return", 4), ("return", 5), ("sides", 10), ("sides", 7)]
)
def test_what_any_hand_does_is_undone_again(
    demo: MainWindow, qtbot: QtBot, troubles: list[str], name: str, seed: int
) -> None:
    dice, document = random.Random(seed), demo.document
    first = document.form
    demo.show_stage(name)
    stage = demo.stage(name)
    acts = {"room": ROOM, "return": HOME, "sides": SIDES}[name]

    def views() -> list[QWidget]:
        every: dict[str, Callable[[], list[QWidget]]] = {
            "room": lambda: [demo.room.plan],
            "return": lambda: [demo.home.chain, demo.home.drawings],
            "sides": lambda: [demo.sides.picture, demo.sides.columns],
        }
        return every[name]()

    if name == "sides":  # what can be mended is known before the hand comes
        qtbot.waitUntil(lambda: not demo.desk.jobs.busy("sides pairs"), timeout=60_000)
    edits = 0
    for _ in range(_TURNS):
        before = document.form
        what = dice.random()
        if what < 0.4:
            act = demo.desk.book[dice.choice(acts)]
            if act.isEnabled():
                act.setChecked(True) if act.isCheckable() else act.trigger()
        elif what < 0.7:
            drag(next(view for view in views() if view.isVisible()), dice)
        else:
            type_somewhere(stage, dice)
        if document.form != before:
            edits += 1
            assert keeps(document.form)
        if dice.random() < 0.15:
            demo.undo()
        QApplication.processEvents()
    assert edits > (0 if name == "sides" else 2) and troubles == []
    while document.undo_words is not None:
        demo.undo()
    assert document.form == first
    demo.grab()
