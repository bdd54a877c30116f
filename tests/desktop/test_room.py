"""The Room stage, used as somebody uses it who has never seen it."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QFileDialog, QPushButton
from pytestqt.qtbot import QtBot

from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.room import Break, Start
from waltzmark.core.room.clearance import check_room
from waltzmark.core.score import read_score
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.painter.standing import arm_length
from waltzmark.desktop.room.parts import Part
from waltzmark.desktop.room.stage import RoomStage
from waltzmark.desktop.widgets.lengths import LengthField
from waltzmark.desktop.window import MainWindow
from waltzmark.files import library
from waltzmark.files.plans import plan_text


def opened(window: MainWindow, qtbot: QtBot) -> RoomStage:
    """The Room stage with the sweep ready to be moved about."""
    window.show_stage("room")
    qtbot.waitUntil(lambda: window.room.search.ground is not None, timeout=10_000)
    window.room.plan.grab()
    return window.room


def pixel(stage: RoomStage, x: float, y: float) -> QPoint:
    return stage.plan.frame.map(QPointF(x, y)).toPoint()


def drag(
    stage: RoomStage, qtbot: QtBot, start: tuple[float, float], *ways: tuple[float, float], keep: bool = True
) -> None:
    plan = stage.plan
    qtbot.mousePress(plan, Qt.MouseButton.LeftButton, pos=pixel(stage, *start))
    for way in ways:
        qtbot.mouseMove(plan, pixel(stage, *way))
    if not keep:
        qtbot.keyClick(plan, Qt.Key.Key_Escape)
    qtbot.mouseRelease(plan, Qt.MouseButton.LeftButton, pos=pixel(stage, *ways[-1]))


def typed(field: LengthField, text: str, qtbot: QtBot) -> None:
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, text)
    qtbot.keyClick(field, Qt.Key.Key_Return)


def room_now(stage: RoomStage) -> object:
    return stage.desk.document.form.room


def test_the_answer_opens_the_stage_and_says_the_same(demo: MainWindow, qtbot: QtBot) -> None:
    demo.answers.cards[0].click()
    assert demo.stages.currentWidget() is demo.room
    stage = opened(demo, qtbot)
    review = demo.document.judge.review
    assert review is not None and review.room is not None and demo.document.session.row == review.room.row
    assert stage.place.verdict.text() == demo.answers.cards[0].words.text()
    near = stage.place.near
    assert near is not None and near.clearance == pytest.approx(review.room.clearance)
    demo.document.session.go(0.0)
    demo.desk.book["tightest"].trigger()
    assert demo.document.session.row == near.row
    demo.show_stage("plot")
    assert not demo.desk.book["tightest"].isEnabled() and demo.desk.book["next finding"].isEnabled()


def test_the_start_follows_the_hand_with_its_exact_clearance(demo: MainWindow, qtbot: QtBot) -> None:
    stage, document = opened(demo, qtbot), demo.document
    shown: list[float] = []
    stage.place.drawn.connect(lambda: shown.append(stage.place.near.spare if stage.place.near else math.nan))
    drag(stage, qtbot, (2.9, 1.2), (3.1, 1.3), (3.6, 1.5))
    room = document.form.room
    assert room is not None and (room.start.x, room.start.y) == pytest.approx((3.6, 1.5), abs=0.02)
    assert len(shown) >= 3 and stage.place.near is not None
    exact = check_room(document.trace, room)
    assert stage.place.near.clearance == pytest.approx(exact.clearance) and document.undo_words == "move the start"
    arm = arm_length(stage.plan.camera.scale)
    drag(
        stage,
        qtbot,
        (room.start.x, room.start.y + arm),
        (room.start.x + 0.4, room.start.y + 0.4),
        (room.start.x + 1.0, room.start.y),
    )
    turned = document.form.room
    assert (
        turned is not None and turned.start.heading == pytest.approx(90.0, abs=2.0) and turned.start.x == room.start.x
    )
    drag(stage, qtbot, (turned.start.x, turned.start.y), (1.0, 3.0), (1.5, 3.0), keep=False)
    assert document.form.room == turned and stage.place.start == turned.start  # Escape puts it back
    demo.undo()
    demo.undo()
    assert document.form.room is not None and document.form.room.start == Start(2.9, 1.2, 0.0)
    demo.desk.book["start right"].trigger()
    demo.desk.book["start cw"].trigger()
    typed(stage.place.along, "1.35m", qtbot)
    now = document.form.room
    assert now is not None and (now.start.x, now.start.y, now.start.heading) == pytest.approx((2.91, 1.35, 1.0))
    typed(stage.place.along, "far", qtbot)
    assert "“far”" in stage.place.along.toolTip() and document.form.room == now
    qtbot.keyClick(stage.place.along, Qt.Key.Key_Escape)
    assert stage.place.along.text() == "135 cm"


def test_the_best_start_is_offered_previewed_and_taken(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    search = stage.search
    qtbot.waitUntil(lambda: search.advice is not None and search.advice.done, timeout=60_000)
    assert search.advice is not None and search.map is not None
    assert stage.place.starts.count() == len(search.advice.starts) >= 4 and stage.place.changes.isHidden()
    before = stage.plan.grab().toImage()
    stage.place.starts.setCurrentRow(0)
    assert stage.place.ghost == search.advice.starts[0] and stage.plan.grab().toImage() != before
    assert demo.document.undo_words is None  # nothing is taken unasked
    qtbot.keyClick(stage.place.starts, Qt.Key.Key_Return)
    room = demo.document.form.room
    assert room is not None and room.start == search.advice.starts[0].start
    near = check_room(demo.document.trace, room)
    assert near.clearance == pytest.approx(search.advice.starts[0].near.clearance) and near.clearance > 0.9
    assert search.advice.starts  # another start in the same room: nothing is searched anew
    assert not search.searching
    stage.place.best_here()
    assert demo.document.form.room is not None
    assert check_room(demo.document.trace, demo.document.form.room).clearance >= near.clearance - 0.005


def test_a_form_that_does_not_fit_is_changed_as_one_step(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    short = Form(
        postures=(
            Posture(
                "a",
                "Along the pier",
                read_score("shift R 100\nstep L 12 bow 50x20\nshift L 100\nstep R 12 bow 50x20\nshift R 100"),
            ),
        )
    )
    trace = walk(short)
    deep = float(trace.heels[..., 1].max()) + 0.5
    room = replace(
        demo.document.form.room,
        name="Strip",
        outline=((0.0, 0.0), (1.2, 0.0), (1.2, deep), (0.0, deep)),
        obstacles=(),
        start=Start(0.6, 0.3),
    )  # type: ignore[type-var]
    demo.document.new(replace(short, room=room))
    assert stage.place.changes is not None
    qtbot.waitUntil(lambda: stage.search.advice is not None and stage.search.advice.done, timeout=90_000)
    assert stage.search.advice is not None and not stage.place.changes.isHidden()
    kinds = [change.kind for change in stage.search.advice.changes]
    assert "steps" in kinds and stage.place.changes.count() == len(kinds)
    stage.place.changes.setCurrentRow(kinds.index("steps"))
    assert stage.place.apply.text() == "Make this change"
    stage.plan.grab()
    stage.place.apply.click()
    made = demo.document.form
    assert made.room is not None and check_room(demo.document.trace, made.room).fits
    assert made.postures[0].lines != short.postures[0].lines
    demo.undo()
    assert demo.document.form.postures == short.postures and demo.document.form.room == room
    stage.search.search_again()
    assert stage.search.searching
    stage.place.waiting.button.click()
    assert not stage.search.searching and demo.document.form.room == room


def test_a_living_room_with_a_sofa_is_entered_by_mouse_and_by_keys(window: MainWindow, qtbot: QtBot) -> None:
    window.show_stage("room")
    stage, document = window.room, window.document
    assert stage.pages.currentIndex() == 1  # there is no room yet
    qtbot.mouseClick(stage.make, Qt.MouseButton.LeftButton)
    room = document.form.room
    assert room is not None and room.outline[2] == (5.0, 4.0) and stage.face is stage.making
    stage.plan.grab()
    qtbot.mouseClick(stage.plan, Qt.MouseButton.LeftButton, pos=pixel(stage, 2.5, 0.0) + QPoint(0, 19))  # its figure
    length = stage.making.detail.first
    assert isinstance(length, LengthField) and stage.making.part == Part("wall", 0)
    typed(length, "4.6m", qtbot)
    assert document.form.room is not None and document.form.room.outline[2] == (4.6, 4.0)
    stage.plan.fit()
    stage.plan.grab()
    window.desk.book["add box"].trigger()
    name = stage.making.detail.first
    assert name is not None and name is window.focusWidget()
    name.selectAll()  # type: ignore[attr-defined]
    qtbot.keyClicks(name, "sofa")
    qtbot.keyClick(name, Qt.Key.Key_Return)
    assert document.form.room.obstacles[0].name == "sofa"
    for words, text in (("Width", "2m"), ("Depth", "85"), ("From the left", "0"), ("From the bottom", "3.15m")):
        field = next(
            f for f in stage.making.detail.findChildren(LengthField) if f.accessibleName() == words and not f.isHidden()
        )
        typed(field, text, qtbot)
    sofa = document.form.room.obstacles[0]
    assert sofa.outline == ((0.0, 3.15), (2.0, 3.15), (2.0, 4.0), (0.0, 4.0))
    drag(stage, qtbot, (1.0, 3.5), (1.2, 3.5), (1.5, 3.5))
    assert document.form.room.obstacles[0].outline[0] == pytest.approx((0.5, 3.15), abs=0.03)
    drag(stage, qtbot, (4.6, 4.0), (4.8, 4.1), (5.0, 4.2))
    assert document.form.room.outline[2] == pytest.approx((5.0, 4.2), abs=0.04)
    before = document.form.room
    drag(
        stage, qtbot, before.outline[0], (2.0, 2.0), (4.0, 6.0)
    )  # the walls would cross: it stays where it last could be
    assert document.form.room.outline[0] != (4.0, 6.0)
    window.undo()
    window.desk.book["add door"].trigger()
    assert document.form.room.doors and "Door" in stage.making.list.item(stage.making.list.currentRow()).text()
    window.desk.book["take out"].trigger()
    assert not document.form.room.doors
    window.desk.book["add circle"].trigger()
    window.desk.book["start left"].trigger()  # moves the chosen part
    assert document.form.room.obstacles[1].centre is not None
    boxes = [box for box in stage.making.detail.findChildren(QComboBox) if not box.isHidden()]
    kind = next(box for box in boxes if box.accessibleName() == "Kind")
    kind.setCurrentIndex(2)
    kind.activated.emit(2)
    assert document.form.room.obstacles[1].kind == "support"
    window.desk.book["add corner"].trigger()
    assert len(document.form.room.outline) == 5
    stage.plan.grab()
    qtbot.mouseDClick(stage.plan, Qt.MouseButton.LeftButton, pos=pixel(stage, 1.0, 0.0))
    assert len(document.form.room.outline) == 6 and (1.0, 0.0) in [
        (round(x, 1), y) for x, y in document.form.room.outline
    ]
    undone = []
    while document.undo_words:
        undone.append(document.undo_words)
        window.undo()
    assert document.form.room is None and undone[-1] == "make a room" and "rename obstacle 1" in undone
    # What is still written in a field whose room has gone goes nowhere, and asks nothing.
    making = stage.making
    making.direction.setValue(33)
    making.spacing.changed.emit(0.5)
    making.offset.changed.emit(0.1)
    assert document.form.room is None and not document.undo_words


def test_rooms_are_kept_by_name_and_taken(demo: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    stage = opened(demo, qtbot)
    stage.show_face("room")
    making = stage.making
    assert [making.kept.itemText(n) for n in range(1, making.kept.count())] == [
        "Boathouse loft",
        "Harbour office",
        "Net hall",
    ]
    typed(making.clearance, "25", qtbot)
    making.arms.click()
    making.tiles.activated.emit(1)
    typed(making.other, "40cm", qtbot)
    typed(making.spacing, "2 paces", qtbot)
    monkeypatch.setattr(Asking, "text", lambda *_: "Old ferry house")
    next(b for b in making.findChildren(QPushButton) if b.text() == "Save as …").click()
    kept = {room.name: room for room in library.rooms()}
    room = kept["Old ferry house"]
    assert room.clearance == 0.25 and room.arms and room.lines.tiles and room.lines.spacings[1] == 0.4
    assert room.lines.spacing == pytest.approx(2 * 0.41 * 1.72)
    demo.undo()
    making.kept.activated.emit([making.kept.itemText(n) for n in range(making.kept.count())].index("Net hall"))
    assert demo.document.form.room == kept["Net hall"] and demo.document.undo_words == "use the room Net hall"
    told: list[str] = []
    monkeypatch.setattr(Asking, "tell", lambda _self, _heading, words: told.append(words))
    typed(making.spacing, "0.1cm", qtbot)
    assert told == ["Floor lines must be 2 cm to 5 m apart."] and demo.document.form.room == kept["Net hall"]
    making.choose(Part("wall", 0))
    assert isinstance(making.detail.first, LengthField)
    typed(making.detail.first, "3 cm", qtbot)
    assert "a wall is 0.05 to 1000 m long" in told[-1].lower() and demo.document.form.room == kept["Net hall"]


def test_plans_come_and_go_as_drawings(
    demo: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    stage, file = opened(demo, qtbot), tmp_path / "loft.dxf"
    room = demo.document.form.room
    assert room is not None
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(file), ""))
    demo.desk.book["export plan"].trigger()
    assert "LWPOLYLINE" in file.read_text() and file.read_text().endswith("EOF\n")
    told: list[str] = []
    monkeypatch.setattr(Asking, "tell", lambda _self, _heading, words: told.append(words))
    demo.editor.set_room(None, "leave the room")
    stage.take_plan(file)
    qtbot.waitUntil(lambda: demo.document.form.room is not None, timeout=60_000)
    taken = demo.document.form.room
    assert taken is not None and taken.outline == room.outline and taken.obstacles == room.obstacles and not told
    file.write_text("nothing")
    stage.take_plan(file)
    qtbot.waitUntil(lambda: bool(told), timeout=60_000)
    assert "loft.dxf" in told[0] and demo.document.form.room == taken
    assert plan_text(taken)


def test_tape_is_listed_numbered_and_copied(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    demo.desk.book["face tape"].trigger()
    qtbot.waitUntil(lambda: bool(stage.tape.marks), timeout=20_000)
    few = len(stage.tape.marks)
    assert stage.tape.list.count() == few and "from the left" in stage.tape.list.item(1).text()
    stage.tape.which.setCurrentIndex(2)
    stage.tape.which.activated.emit(2)
    every = 1 + 2 * len(demo.document.form.postures)
    qtbot.waitUntil(lambda: len(stage.tape.marks) == every, timeout=20_000)
    assert every > few
    stage.plan.grab()
    mark = stage.tape.marks[0]
    qtbot.mouseClick(stage.plan, Qt.MouseButton.LeftButton, pos=pixel(stage, *mark.place))
    assert stage.tape.list.currentRow() == 0
    next(b for b in stage.tape.findChildren(QPushButton) if b.text() == "Copy the list").click()
    assert QApplication.clipboard().text().count("corner of") == len(stage.tape.marks)


def test_a_class_stands_apart_and_walks_with_the_playhead(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    hall = next(room for room in library.rooms() if room.name == "Net hall")
    demo.editor.set_room(hall, "take the hall")
    demo.desk.book["face class"].trigger()
    stage.group.n.setValue(4)
    stage.group.place.click()
    assert not stage.group.placing.button.isHidden()
    qtbot.waitUntil(lambda: stage.group.group is not None, timeout=60_000)
    group = stage.group.group
    assert group is not None and len(group.walkers) == 4 and "4 walkers fit." in stage.group.said.text()
    stage.plan.fit()
    demo.document.session.go(0.0)
    still = np.array(stage.plan.grab().toImage().constBits())
    demo.document.session.go(20.5)
    assert (np.array(stage.plan.grab().toImage().constBits()) != still).any()
    stage.group.go_to_tightest()
    assert stage.group._beat(demo.document.session.position) == pytest.approx(group.beat, abs=1e-6)
    stage.plan.grab()
    demo.editor.set_room(replace(hall, clearance=0.4), "ask for more")
    assert stage.group.group is None and stage.group.said.text()
    demo.editor.set_room(next(room for room in library.rooms() if room.name == "Harbour office"), "take the office")
    stage.group.most.click()
    qtbot.waitUntil(lambda: "Not even one" in stage.group.said.text(), timeout=60_000)


def test_what_is_walked_from_a_second_mark_is_drawn_from_there(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    room = demo.document.form.room
    assert room is not None
    demo.editor.set_room(replace(room, breaks=(Break("boat", Start(2.0, 2.0, 90.0)),)), "break off")
    stage.plan.grab()
    demo.document.session.go(float(demo.document.trace.row_of("boat", 2)))
    trace, shown = demo.document.trace, demo.document.session.room
    assert shown is not None and shown.start.heading == 90.0
    assert shown.to_room(trace.midpoints[trace.span("boat")[0] - 1]) == pytest.approx([2.0, 2.0])
    demo.show_stage("plot")
    demo.plot.floor.grab()
    demo.document.session.go(1.0)
    assert demo.document.session.room is not None and demo.document.session.room.start == room.start


def test_another_form_forgets_what_was_known_and_a_dark_theme_is_drawn(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    light = stage.plan.grab().toImage()
    demo.set_dark(True)
    assert stage.plan.grab().toImage() != light
    demo.document.new()
    assert stage.pages.currentIndex() == 1 and stage.search.ground is None
    demo.filing.open_demo()
    qtbot.waitUntil(lambda: stage.search.ground is not None, timeout=10_000)
    assert stage.pages.currentIndex() == 0


def test_by_keys_alone_a_form_without_a_room_gets_one_and_gives_it_back(window: MainWindow, qtbot: QtBot) -> None:
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    stage = window.room
    window.show_stage("room")
    for _ in range(2):
        qtbot.waitUntil(lambda: window.focusWidget() is stage.make)
        QTest.keyClick(stage.make, Qt.Key.Key_Return)
        qtbot.waitUntil(lambda: window.focusWidget() is stage.plan)
        assert window.document.form.room is not None
        window.document.undo()


def test_tab_goes_from_a_part_to_its_figures(demo: MainWindow, qtbot: QtBot) -> None:
    demo.activateWindow()
    qtbot.waitUntil(demo.isActiveWindow)
    demo.show_stage("room")
    demo.room.show_face("room")
    making = demo.room.making
    for part in (Part("wall", 0), Part("obstacle", 0), Part("wall", 1)):
        making.choose(part)
        making.delete.setFocus()
        QTest.keyClick(making.delete, Qt.Key.Key_Tab)
        assert making.detail.first is not None and demo.focusWidget() is making.detail.first


def test_the_three_answers_are_equally_high(window: MainWindow, qtbot: QtBot) -> None:
    window.filing.open_demo()
    window.resize(1024, 700)
    qtbot.waitUntil(lambda: window.document.judge.review is not None)
    qtbot.waitUntil(lambda: len({card.height() for card in window.answers.cards}) == 1)
    assert all(
        card.words.height() >= card.words.heightForWidth(card.words.width()) and card.height() < 140
        for card in window.answers.cards
    )
