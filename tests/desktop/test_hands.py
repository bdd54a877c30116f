"""Hands where no other test puts them: on the ribbon, the score, the plan of the room, the playhead, a walk and a foot."""

from __future__ import annotations

import math
import random
from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QEvent, QPoint, QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog, QToolTip, QWidget
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import judged, opened
from tests.desktop.test_dialogs import wheeled
from tests.desktop.test_dragging import drag, row_of, selected
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.records import replace
from waltzmark.core.edit import rooms
from waltzmark.core.form.room import Door, Room
from waltzmark.desktop.history import Selection
from waltzmark.desktop.plot.score_delegate import beam_box
from waltzmark.desktop.plot.score_model import ENTRY, EntryKind
from waltzmark.desktop.room.parts import Part, held_at
from waltzmark.desktop.room.stage import RoomStage
from waltzmark.desktop.window import MainWindow


def hover(widget: QWidget, at: QPoint) -> None:
    """Moves the pointer over a widget with no button down, whatever was pressed before."""
    place = QPointF(at)
    event = QMouseEvent(
        QEvent.Type.MouseMove,
        place,
        widget.mapToGlobal(place),
        Qt.MouseButton.NoButton,
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(widget, event)


def test_the_ribbon_says_what_lies_under_the_pointer_and_is_walked_by_keys(
    demo: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    tips: list[str] = []
    monkeypatch.setattr(QToolTip, "showText", lambda _at, words, *_: tips.append(words))
    ribbon, document = demo.plot.ribbon, demo.document
    document.session.go(0.0)
    trace, dice = document.trace, random.Random(3)
    told = set()
    for x in sorted(dice.sample(range(20, ribbon.width() - 20), 25)):
        hover(ribbon, QPoint(x, ribbon.height() // 2))
        row = round(ribbon.position_at(float(x)))
        posture = trace.posture(row)
        title = "the opening" if posture is None else document.form.posture(posture).title
        left = 100 * trace.shares[row, 0]
        first, *findings = tips[-1].split("\n")
        assert first == f"{title}: left {left:.0f}%, right {100 - left:.0f}%"
        number = sum(finding.posture == posture for finding in judged(document).everywhere)
        assert sum(int(word) for word in "".join(findings).replace(",", "").split() if word.isdigit()) == number
        told.add(title)
    assert len(told) > 8
    ribbon.setFocus()
    for key, position in ((Qt.Key.Key_Right, 0.25), (Qt.Key.Key_Right, 0.5), (Qt.Key.Key_Left, 0.25)):
        qtbot.keyClick(ribbon, key)
        assert document.session.position == position
    # A pull along it moves the playhead with the pointer; the whole of it is the whole form.
    start, end = QPoint(100, 6), QPoint(ribbon.width() - 100, 6)
    drag(demo, start, end, on=ribbon)
    assert document.session.position == pytest.approx(ribbon.position_at(float(end.x())), abs=1e-6)
    document.session.go(trace.row_of("coil", 6))
    written, knob, band = selected(demo), ribbon._knob().toPoint(), ribbon._band()
    before = ribbon.grab().toImage()
    drag(demo, knob, QPoint(knob.x(), round(band.top() + 0.2 * band.height())), release=False, on=ribbon)
    assert ribbon.hand is not None and document.session.ghost is not None and ribbon.grab().toImage() != before
    qtbot.keyClick(ribbon, Qt.Key.Key_Escape)
    QTest.mouseRelease(ribbon, Qt.MouseButton.LeftButton, pos=knob)
    assert document.session.ghost is None and selected(demo) == written and not document.changed


def test_offers_go_before_what_was_typed_and_none_stay_empty(demo: MainWindow, qtbot: QtBot) -> None:
    entry = demo.plot.entry
    field = entry.field
    demo.activateWindow()
    field.setFocus()
    assert field.completer() is None
    QTest.keyClicks(field, "st")
    completer = field.completer()
    assert completer is not None
    popup = completer.popup()
    assert popup is not None
    qtbot.waitUntil(popup.isVisible)
    QTest.keyClick(popup, Qt.Key.Key_Escape)
    assert not popup.isVisible() and field.text() == "st"
    QTest.keyClick(field, Qt.Key.Key_Escape)
    assert not field.text() and not popup.isVisible()
    QTest.keyClicks(field, "sh")
    qtbot.waitUntil(popup.isVisible)
    QTest.keyClicks(popup, "zz")  # what nothing can follow
    assert field.text() == "shzz" and not popup.isVisible()
    field.selectAll()
    QTest.keyClicks(field, "pi")
    qtbot.waitUntil(popup.isVisible)
    QTest.keyClick(popup, Qt.Key.Key_Tab)
    assert field.text() == "pivot " and not popup.isVisible()


def test_headings_lines_and_ranges_of_the_score_are_chosen_by_the_mouse(demo: MainWindow, qtbot: QtBot) -> None:
    score, document = demo.plot.score, demo.document
    entries = score.rows.entries
    heads = [n for n, entry in enumerate(entries) if entry.kind is EntryKind.POSTURE]

    def click(row: int, modifiers: Qt.KeyboardModifier = Qt.KeyboardModifier.NoModifier, twice: bool = False) -> None:
        index = score.rows.index(row)
        score.scrollTo(index)
        place = score.visualRect(index).center() + QPoint(20, 0)
        QTest.mouseClick(score.viewport(), Qt.MouseButton.LeftButton, modifiers, place)
        if twice:
            QTest.mouseDClick(score.viewport(), Qt.MouseButton.LeftButton, modifiers, place)

    coil = heads[1]
    click(coil)
    assert document.session.selection == Selection("coil", 0, 0)
    lines = [n for n in range(coil + 1, heads[2]) if entries[n].line >= 0]
    click(lines[1])
    click(lines[3], Qt.KeyboardModifier.ShiftModifier)
    assert document.session.selection == Selection("coil", entries[lines[1]].line, entries[lines[3]].line + 1)
    click(lines[0], twice=True)
    assert demo.plot.entry.changing and demo.plot.entry.field.text() == entries[lines[0]].text
    qtbot.keyClick(demo.plot.entry.field, Qt.Key.Key_Escape)
    click(coil, twice=True)  # a heading is no count to change
    assert not demo.plot.entry.changing and not demo.plot.entry.field.text()
    # While weight is poured in a row, the row says how much.
    document.session.go(document.trace.row_of("coil", 6))
    demo.grab()
    beam = beam_box(row_of(demo)).center().toPoint()
    plain = score.grab().toImage()
    drag(demo, beam, beam + QPoint(9, 0), release=False, on=score.viewport())
    assert score.grab().toImage() != plain and score.hand is not None
    assert score.currentIndex().data(ENTRY).posture.id == "coil"
    qtbot.keyClick(score, Qt.Key.Key_Escape)
    QTest.mouseRelease(score.viewport(), Qt.MouseButton.LeftButton, pos=beam)
    assert not document.changed


def test_the_walk_goes_as_far_in_many_moments_as_in_one(demo: MainWindow, qtbot: QtBot) -> None:
    player, document = demo.player, demo.document
    dice, last = random.Random(5), len(document.trace) - 1
    times = np.cumsum(document.trace.beats)  # beats at which each row ends; the opening's are none
    for _ in range(30):
        player.set_tempo(dice.choice((0.4, 1.5, 3.0)))
        start, seconds = dice.uniform(0.0, last), dice.uniform(0.0, 40.0)
        document.session.go(start)
        player.advance(seconds)
        once = document.session.position
        document.session.go(start)
        cuts = sorted(dice.uniform(0.0, seconds) for _ in range(7))
        for moment in np.diff([0.0, *cuts, seconds]):
            player.advance(float(moment))
        assert document.session.position == pytest.approx(once, abs=1e-6)
        row = int(start)
        at = float(times[row] + (start - row) * document.trace.beats[min(row + 1, last)])
        beat = min(at + seconds / player.seconds_per_beat, float(times[-1]))
        assert once == pytest.approx(float(np.interp(beat, times, np.arange(last + 1))), abs=1e-6)
    document.session.go(float(last))
    player.toggle()
    assert player.playing and document.session.position < 1.0  # at the end it begins anew
    player.toggle()
    assert not player.playing
    document.session.go(7.4)
    player.step(1)
    assert document.session.position == 8.0
    player.step(-1)
    assert document.session.position == 7.0
    starts = [int(start) for start in document.trace.starts[:-1]]
    player.go_to_end(False)
    for start in (start for start in starts if start > 0):
        player.step_posture(1)
        assert document.session.row == start
    player.step_posture(1)  # there is none after the last
    assert document.session.row == starts[-1]
    for start in reversed(starts[:-1]):
        player.step_posture(-1)
        assert document.session.row == start
    player.go_to_end(True)
    assert document.session.row == last


@pytest.fixture
def plan(demo: MainWindow, qtbot: QtBot) -> RoomStage:
    """The demo's room with a door, its parts under the hand, and its first posture: after every change it is worked out
    anew what would make a form fit."""
    form, room = demo.document.form, demo.document.form.room
    assert room is not None
    demo.document.edit("keep the first posture", replace(form, postures=form.postures[:1]), Selection())
    demo.editor.set_room(replace(room, doors=(Door(0, 1.0, 0.8),)), "put in a door")
    demo.show_stage("room")
    demo.room.show_face("room")
    qtbot.waitUntil(lambda: demo.room.search.ground is not None, timeout=10_000)
    demo.room.plan.grab()
    return demo.room


def room_of(stage: RoomStage) -> Room:
    room = stage.desk.document.form.room
    assert room is not None
    return room


def pulled(stage: RoomStage, start: tuple[float, float], end: tuple[float, float], drop: bool = True) -> None:
    """Pulls something of the plan from one place of the room to another."""
    a, b = (stage.plan.frame.map(QPointF(*place)).toPoint() for place in (start, end))
    QTest.mouseMove(stage.plan, a)
    QTest.mousePress(stage.plan, Qt.MouseButton.LeftButton, pos=a)
    for k in range(1, 6):
        QTest.mouseMove(stage.plan, a + (b - a) * k / 5)
    if drop:
        QTest.mouseRelease(stage.plan, Qt.MouseButton.LeftButton, pos=b)


def test_walls_doors_handles_and_tape_follow_the_hand_on_the_plan(
    plan: RoomStage, demo: MainWindow, qtbot: QtBot
) -> None:
    near, first = 2.0 / plan.plan.camera.scale + 0.006, room_of(plan)
    hover(plan.plan, plan.plan.frame.map(QPointF(2.6, 2.9)).toPoint())
    assert plan.plan.cursor().shape() == Qt.CursorShape.OpenHandCursor
    pulled(plan, (5.6, 0.9), (5.35, 1.4))  # the wall at the right: only the way across counts
    wall = room_of(plan).outline
    assert (wall[0], wall[3]) == (first.outline[0], first.outline[3])
    assert wall[1] == pytest.approx((5.35, 0.0), abs=near) and wall[2] == pytest.approx((5.35, 4.2), abs=near)
    assert demo.document.undo_words is not None and demo.document.undo_words.startswith("move the wall")
    assert plan.plan.cursor().shape() == Qt.CursorShape.OpenHandCursor
    pulled(plan, (1.4, 0.0), (0.0, 2.0))
    door = room_of(plan).doors[0]
    assert (
        door.wall == 3
        and door.leaf == 0.8
        and held_at(room_of(plan), Part("door", 0)) == pytest.approx((0.0, 2.0), abs=near)
    )
    for key, way in ((Qt.Key.Key_Up, 0.01), (Qt.Key.Key_Down, -0.01)):  # by keys, a centimetre along its wall
        was = held_at(room_of(plan), Part("door", 0))
        qtbot.keyClick(plan.plan, key, Qt.KeyboardModifier.ControlModifier)
        assert held_at(room_of(plan), Part("door", 0)) == pytest.approx((was[0], was[1] + way), abs=2e-4)
    pillar = room_of(plan).obstacles[0]
    x, y, wide, deep = rooms.box_of(pillar)
    pulled(plan, (x + wide / 2, y + deep / 2), (x + wide / 2 + 0.3, y + deep / 2))
    moved = rooms.box_of(room_of(plan).obstacles[0])
    assert moved == pytest.approx((x + 0.3, y, wide, deep), abs=near)
    x = moved[0]
    pulled(plan, (x + wide, y + deep), (x + wide + 0.2, y + deep + 0.1))  # its handle, since it is chosen
    assert rooms.box_of(room_of(plan).obstacles[0]) == pytest.approx((x, y, wide + 0.2, deep + 0.1), abs=near)
    turned = [room_of(plan).obstacles[0]]
    for key in (Qt.Key.Key_BracketRight, Qt.Key.Key_BracketLeft):
        qtbot.keyClick(plan.plan, key, Qt.KeyboardModifier.ControlModifier)
        turned.append(room_of(plan).obstacles[0])
    assert turned[1] != turned[0] and np.allclose(turned[2].outline, turned[0].outline, atol=2e-4)
    a, b = (np.array(turned[n].outline[1]) - turned[n].outline[0] for n in (0, 1))
    clockwise = math.degrees(math.atan2(a[1], a[0]) - math.atan2(b[1], b[0]))
    assert clockwise == pytest.approx(1.0, abs=0.05)
    demo.desk.book["add tape"].trigger()
    (piece,) = room_of(plan).tape
    pulled(plan, piece[1], (piece[1][0], piece[1][1] + 0.5))
    assert room_of(plan).tape[0][0] == piece[0]
    assert room_of(plan).tape[0][1] == pytest.approx((piece[1][0], piece[1][1] + 0.5), abs=near)
    before = room_of(plan)
    pulled(plan, before.outline[2], (4.0, 3.0), drop=False)
    assert plan.making.draft is not None and plan.making.draft != before
    qtbot.keyClick(plan.plan, Qt.Key.Key_Escape)
    assert plan.making.draft is None and room_of(plan) == before
    QTest.mouseRelease(plan.plan, Qt.MouseButton.LeftButton)
    for part, left in ((Part("tape", 0), "tape"), (Part("door", 0), "doors"), (Part("obstacle", 0), "obstacles")):
        plan.making.choose(part)
        qtbot.keyClick(plan.plan, Qt.Key.Key_Delete, Qt.KeyboardModifier.ControlModifier)
        assert len(getattr(room_of(plan), left)) == len(getattr(before, left)) - 1 and plan.making.part is None
    steps = 0
    while demo.document.undo_words != "put in a door":
        demo.undo()
        steps += 1
    assert room_of(plan) == first and steps == 13


def test_the_plan_is_zoomed_about_the_pointer_and_shown_whole_again(plan: RoomStage, qtbot: QtBot) -> None:
    view = plan.plan
    whole, middle = view.camera, QRectF(view.rect()).center()
    under = view.frame.inverted()[0].map(middle)
    wheeled(view, 3)
    assert view.camera.scale > 1.3 * whole.scale
    assert (view.frame.map(under) - middle).manhattanLength() < 2.0  # what was under the pointer stays there
    at = view.frame.map(QPointF(2.6, 2.9)).toPoint()
    QTest.mousePress(view, Qt.MouseButton.LeftButton, pos=at)
    QTest.mouseMove(view, at + QPoint(60, 30))
    assert view.cursor().shape() == Qt.CursorShape.ClosedHandCursor
    QTest.mouseRelease(view, Qt.MouseButton.LeftButton, pos=at + QPoint(60, 30))
    assert view.frame.map(QPointF(2.6, 2.9)).toPoint() == at + QPoint(60, 30)
    plan.desk.book["room whole"].trigger()
    view.grab()
    QApplication.processEvents()
    assert view.camera.scale == pytest.approx(whole.scale)


def test_a_walk_faces_a_wall_by_its_name_and_its_cues_are_saved(
    demo: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    room = demo.document.form.room
    assert room is not None
    demo.editor.set_room(replace(room, walls=((1, "street wall"), (3, "garden wall"))), "name two walls")
    stage = opened(demo)
    walk = stage.walk
    named = {walk.facing.itemText(n): n for n in range(walk.facing.count())}
    assert list(named)[-2:] == ["facing the street wall", "facing the garden wall"]
    for words, heading in (("facing the street wall", 90.0), ("facing the garden wall", 270.0)):
        walk.facing.setCurrentIndex(named[words] - 1)
        QTest.keyClick(walk.facing, Qt.Key.Key_Down)
        # The wall from corner 1 lies at the right of the room, the one from corner 3 at its left.
        assert stage.large.turned == pytest.approx((heading - room.start.heading) % 360.0)
    target = tmp_path / "cues.vtt"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: ("", ""))
    walk.save_cues()
    assert not target.exists()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    walk.first.setCurrentIndex(1)
    walk.last.setCurrentIndex(1)
    walk.save_cues()
    track = target.read_text(encoding="utf-8")
    start, stop = demo.document.trace.span("coil")
    assert track.startswith("WEBVTT") and track.count(" --> ") >= stop - start
    assert "Coil the rope" in track and "Haul the net" not in track


def test_a_foot_is_turned_by_its_toes_from_memory(demo: MainWindow, qtbot: QtBot) -> None:
    floor = opened(demo, "recall").floor
    demo.desk.book["ask me"].trigger()
    floor.grab()
    assert floor.placed is not None
    right, sole = floor.placed.right, demo.document.trace.body.sole
    at = floor.camera.transform(QSizeF(floor.size()))

    def toe(heading: float) -> QPoint:
        x, y = sole.landmark(right.x, right.y, heading, "toe")
        return at.map(QPointF(right.x + 0.97 * (x - right.x), right.y + 0.97 * (y - right.y))).toPoint()

    QTest.mousePress(floor, Qt.MouseButton.LeftButton, pos=toe(right.heading))
    QTest.mouseMove(floor, toe(right.heading + 30.0))
    QTest.mouseRelease(floor, Qt.MouseButton.LeftButton, pos=toe(right.heading + 30.0))
    turned = floor.placed.right
    assert (turned.heading - right.heading) % 360.0 == pytest.approx(30.0, abs=3.0)
    assert (turned.x, turned.y) == (right.x, right.y) and floor.placed.left == demo.document.trace.pose(0).left
    floor.chosen = Side.RIGHT
    qtbot.keyClick(floor, Qt.Key.Key_Space)
    assert floor.chosen is Side.LEFT
    QTest.mouseMove(floor, toe(0.0))  # nothing is held any more
    assert floor.placed.right == turned
