"""The window as a user meets it: opening, walking, selecting, judging, typing."""

from __future__ import annotations

import gc
import weakref
from collections.abc import Callable

import pytest
from PySide6.QtCore import QCoreApplication, QEvent, QPoint, QPointF, Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QDialog, QLabel, QMenu
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import found, reviewed, row_index, type_count
from waltzmark.core.judge.judging import judge
from waltzmark.core.score import write_count
from waltzmark.desktop import shortcuts
from waltzmark.desktop.plot.score_model import ENTRY, EntryKind
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.stages import STAGES
from waltzmark.desktop.theme import DARK, DARK_STRONG, LIGHT, LIGHT_STRONG, Theme
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import open_window
from waltzmark.words.findings import how_many

QUAY = [
    "shift R 100, breathe in",
    "step L 12 side parallel",
    "shift 50/50, breathe out",
    "hand L 12 chest open, hand R 12 chest open, breathe in @2",
    "sink 60, hand L 12 waist open, hand R 12 waist open, breathe out @2",
    "expect 50/50, expect torso 12",
]


def test_the_three_answers_are_in_sight_and_lead_to_their_place(demo: MainWindow, qtbot: QtBot) -> None:
    texts = [card.words.text() for card in demo.answers.cards]
    assert texts[0].startswith("Fits: 26 cm from the wall")
    assert "13 cm" in texts[1]
    assert "Lean on the pole, right, count 2" in texts[2]
    qtbot.mouseClick(demo.answers.cards[0], Qt.MouseButton.LeftButton)
    assert demo.document.trace.posture(demo.document.session.row) == "light"
    demo.answers.cards[2].setFocus()
    qtbot.keyClick(demo.answers.cards[2], Qt.Key.Key_Return)
    assert demo.document.trace.posture(demo.document.session.row) == "lean-right"


def test_a_count_selected_anywhere_is_selected_everywhere(demo: MainWindow, qtbot: QtBot) -> None:
    document, plot = demo.document, demo.plot
    row = document.trace.row_of("boat", 3)
    index = row_index(demo, row)
    plot.score.scrollTo(index)
    qtbot.mouseClick(plot.score.viewport(), Qt.MouseButton.LeftButton, pos=plot.score.visualRect(index).center())
    assert document.session.row == row and document.session.position == row
    # from the ribbon
    ribbon = plot.ribbon
    qtbot.mouseClick(ribbon, Qt.MouseButton.LeftButton, pos=QPoint(ribbon.width() // 2, 40))
    assert plot.score.currentIndex().data(ENTRY).row == document.session.row != row
    # from the floor: a click where the feet stood at a count goes to a count that stands there
    demo.desk.book["whole room"].trigger()
    place = document.trace.midpoints[3]
    at = plot.floor.camera.transform(plot.floor.size().toSizeF()).map(QPointF(*place)).toPoint()
    qtbot.mouseClick(plot.floor, Qt.MouseButton.LeftButton, pos=at)
    assert document.trace.midpoints[document.session.row] == pytest.approx(place, abs=0.05)
    assert plot.score.currentIndex().data(ENTRY).row == document.session.row


def test_dragging_the_ribbon_walks_the_form(demo: MainWindow, qtbot: QtBot) -> None:
    ribbon, seen = demo.plot.ribbon, []
    demo.document.session.moved.connect(lambda: seen.append(demo.document.session.position))
    qtbot.mousePress(ribbon, Qt.MouseButton.LeftButton, pos=QPoint(100, 40))
    for x in range(110, 400, 10):
        QTest.mouseMove(ribbon, QPoint(x, 40))
    assert seen == sorted(seen) and len(set(seen)) > 20
    assert any(position % 1 for position in seen)


def test_stepping_and_playing_by_keyboard(demo: MainWindow, qtbot: QtBot) -> None:
    document = demo.document
    qtbot.keyClick(demo, Qt.Key.Key_PageDown)
    qtbot.keyClick(demo, Qt.Key.Key_PageDown)
    assert document.session.position == 2
    document.session.go(2.4)
    qtbot.keyClick(demo, Qt.Key.Key_PageUp)
    assert document.session.position == 2
    qtbot.keyClick(demo, Qt.Key.Key_PageDown, Qt.KeyboardModifier.ControlModifier)
    assert document.trace.posture(document.session.row) == "coil"
    qtbot.keyClick(demo, Qt.Key.Key_End, Qt.KeyboardModifier.ControlModifier)
    assert document.session.row == len(document.trace) - 1
    qtbot.keyClick(demo, Qt.Key.Key_Home, Qt.KeyboardModifier.ControlModifier)
    assert document.session.position == 0
    frames: list[float] = []
    document.session.moved.connect(lambda: frames.append(document.session.position))
    qtbot.keyClick(demo, Qt.Key.Key_F5)
    qtbot.waitUntil(lambda: len(frames) > 8, timeout=5000)
    qtbot.keyClick(demo, Qt.Key.Key_F5)
    assert not demo.player.playing and frames == sorted(frames) and 0 < frames[-1] < 3


def test_playing_lasts_as_long_as_the_beats(demo: MainWindow) -> None:
    player, document = demo.player, demo.document
    player.seconds_per_beat = 2.0
    document.session.go(0)
    player.advance(6.0)
    assert document.session.position == pytest.approx(3.0)
    player.advance(2.0)
    assert document.session.position == pytest.approx(3.5)  # the fourth count lasts two beats
    document.session.go(len(document.trace) - 1.5)
    player.play()
    player.advance(100.0)
    assert not player.playing and document.session.position == len(document.trace) - 1


def test_findings_are_listed_and_lead_to_their_count(demo: MainWindow, qtbot: QtBot) -> None:
    assert demo.desk.book["findings"].iconText() == how_many(found(demo.document))
    assert not demo.plot.findings.isVisible()
    qtbot.keyClick(demo, Qt.Key.Key_F8)
    assert demo.plot.findings.isVisible()
    places = []
    for _ in range(5):
        qtbot.keyClick(demo, Qt.Key.Key_F4)
        places.append(demo.document.trace.posture(demo.document.session.row))
    assert places == ["haul", "oars", "oars", "light", "haul"]
    qtbot.keyClick(demo, Qt.Key.Key_F4, Qt.KeyboardModifier.ShiftModifier)
    assert demo.document.trace.posture(demo.document.session.row) == "light"
    entry = demo.plot.score.currentIndex().data(ENTRY)
    assert [f.rule for f in demo.plot.score.rows.findings(entry)] == ["posture.ends"]


def test_a_posture_is_written_by_typing_and_undone_and_done_again(window: MainWindow, qtbot: QtBot) -> None:
    document = window.document
    for text in QUAY:
        type_count(window, text)
    assert [write_count(line) for line in document.form.postures[0].lines] == QUAY
    assert document.session.row == 5 and document.session.pose.sink == 60
    assert window.desk.book["undo"].text() == "&Undo: add “expect 50/50, expect torso 12” to First posture"
    written = document.form
    for _ in QUAY:
        qtbot.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert document.form.postures == () and not document.changed and not window.desk.book["undo"].isEnabled()
    for _ in QUAY:
        window.desk.book["redo"].trigger()
    assert document.form == written and document.changed
    reviewed(window, qtbot)
    assert found(document) == ()


def test_what_is_typed_is_shown_before_it_is_entered(demo: MainWindow, qtbot: QtBot) -> None:
    document, entry = demo.document, demo.plot.entry
    document.session.go(document.trace.row_of("coil", 6))
    before = document.form
    type_count(demo, "shift R 80", enter=False)
    assert document.session.ghost is not None
    assert document.session.ghost.trace.pose(document.session.ghost.row).left_share == pytest.approx(0.2)
    assert entry.saying.text() == "80% shifts onto the right foot."
    entry.field.clear()
    type_count(demo, "step R 12 bow", enter=False)
    qtbot.waitUntil(lambda: "30%" in entry.saying.text())
    entry.field.setText("pivott R heel 9")
    assert document.session.ghost is None and entry.saying.text().endswith("Did you mean pivot?")
    QTest.keyClick(entry.field, Qt.Key.Key_Return)
    assert document.form is before and entry.field.text() == "pivott R heel 9"
    QTest.keyClick(entry.field, Qt.Key.Key_Escape)
    assert entry.field.text() == "" and document.session.ghost is None


def test_counts_go_after_before_or_to_the_end_but_not_into_a_mirror(demo: MainWindow) -> None:
    document, field = demo.document, demo.plot.entry.field
    document.session.go(document.trace.row_of("coil", 2))
    type_count(demo, "hold # after")
    assert document.session.row == document.trace.row_of("coil", 3)
    type_count(demo, "hold # before", enter=False)
    QTest.keyClick(field, Qt.Key.Key_Return, Qt.KeyboardModifier.ShiftModifier)
    assert document.session.row == document.trace.row_of("coil", 3)
    type_count(demo, "hold # end", enter=False)
    QTest.keyClick(field, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    notes = [line.note for line in document.form.posture("coil").lines]
    assert notes[2:4] == ["before", "after"] and notes[-1] == "end"
    assert document.session.row == document.trace.row_of("coil", 9)
    document.session.go(document.trace.row_of("cast-left", 2))
    assert "come from Cast the line, right" in demo.plot.entry.saying.text()
    type_count(demo, "hold")
    assert document.form.posture("cast-left").lines == () and demo.plot.entry.field.text() == "hold"


def test_an_edit_is_judged_anew(demo: MainWindow, qtbot: QtBot) -> None:
    document = demo.document
    document.session.go(document.trace.row_of("moor", 6))
    type_count(demo, "step R 12 bow, shift R 60")
    reviewed(demo, qtbot)
    rules = [f.rule for f in found(document) if f.row == document.session.row]
    assert rules[0] == "weight.loaded-lift" and "weight.falling-step" in rules
    assert demo.answers.cards[1].words.text().startswith("Ends 34 cm from its start")


def luminance(color: str) -> float:
    channels = [int(color[i : i + 2], 16) / 255 for i in (1, 3, 5)]
    linear = [c / 12.92 if c <= 0.03928 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


SIGNS = ("left", "right", "centre", "stop", "caution", "note", "good", "tape", "wall", "torso", "pelvis")


@pytest.mark.parametrize("theme", [LIGHT, DARK, LIGHT_STRONG, DARK_STRONG], ids=lambda theme: theme.name)
def test_text_stands_out_from_what_it_is_written_on(theme: Theme) -> None:
    strong = theme in (LIGHT_STRONG, DARK_STRONG)
    signs, least = (SIGNS, 7.0) if strong else ((), 4.5)
    written = {
        "paper": ("ink", "faint", "left", "right", "stop", "caution", "note", "good", *signs),
        "raised": ("ink", "faint", "stop", "caution", "ghost", "left", "right"),
        "chosen": ("chosen_ink",),
        "board": ("ink", "faint", *signs),
        "left_pale": ("left",),
        "right_pale": ("right",),
        "obstacle": ("ink",),
    }
    for ground, inks in written.items():
        for ink in inks:
            light, dark = sorted((luminance(getattr(theme, ground)), luminance(getattr(theme, ink))), reverse=True)
            assert (light + 0.05) / (dark + 0.05) >= least, (ground, ink)


def picture(window: MainWindow) -> QImage:
    return window.grab().toImage()


def test_the_dark_theme_is_remembered(
    demo: MainWindow, settings: Settings, make_window: Callable[[], MainWindow]
) -> None:
    before = picture(demo).pixelColor(5, 400).lightness()
    demo.desk.book["dark"].trigger()
    assert picture(demo).pixelColor(5, 400).lightness() < 60 < 180 < before
    assert settings.text("theme", "") == "dark" and make_window().desk.theme is DARK
    demo.desk.book["dark"].trigger()
    assert picture(demo).pixelColor(5, 400).lightness() == before


def test_the_floor_shows_own_facing_whole_room_and_feet(demo: MainWindow, qtbot: QtBot) -> None:
    floor, document = demo.plot.floor, demo.document
    picture(demo)
    room = document.form.room
    assert room is not None

    def seen(x: float, y: float) -> QPointF:
        return floor.camera.transform(floor.size().toSizeF()).map(QPointF(x, y))

    document.session.go(document.trace.row_of("light", 12))
    x, y = document.session.pose.midpoint
    assert floor.rect().adjusted(60, 60, -60, -60).contains(seen(x, y).toPoint())
    qtbot.keyClick(demo, Qt.Key.Key_U, Qt.KeyboardModifier.ControlModifier)
    ahead, here = seen(x + 0.707, y - 0.707), seen(x, y)  # the torso faces 4:30
    assert ahead.y() < here.y() and ahead.x() == pytest.approx(here.x(), abs=1)
    demo.desk.book["whole room"].trigger()
    assert floor.camera.up == 0 and not demo.desk.book["own facing"].isChecked()
    corners = [seen(cx - room.start.x, cy - room.start.y).toPoint() for cx, cy in room.outline]
    assert all(floor.rect().contains(corner) for corner in corners)
    scale = floor.camera.scale
    under = floor.camera.floor(floor.size().toSizeF(), QPointF(200, 300))
    floor.zoom(1.5, QPointF(200, 300))
    after = floor.camera.floor(floor.size().toSizeF(), QPointF(200, 300))
    assert floor.camera.scale == pytest.approx(1.5 * scale) and (after - under).manhattanLength() < 1e-9
    start = QPointF(seen(0, 0))
    demo.desk.book["follow"].setChecked(True)
    start = QPointF(seen(0, 0))
    qtbot.mousePress(floor, Qt.MouseButton.LeftButton, pos=QPoint(300, 300))
    for x_at in (310, 330, 350):
        QTest.mouseMove(floor, QPoint(x_at, 320))
    qtbot.mouseRelease(floor, Qt.MouseButton.LeftButton, pos=QPoint(350, 320))
    assert (seen(0, 0) - start).x() == pytest.approx(50, abs=2)
    assert not demo.desk.book["follow"].isChecked()


def test_a_sole_is_filled_as_far_as_it_is_loaded(demo: MainWindow) -> None:
    from PySide6.QtGui import QPainter, QTransform

    from waltzmark.core.base.leftright import Contact, Side
    from waltzmark.core.body.pose import FootPose
    from waltzmark.desktop.painter.soles import draw_sole

    sole, filled = demo.document.trace.body.sole, []
    for share in (0.0, 0.3, 0.7, 1.0):
        image = QImage(300, 500, QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.white)
        painter = QPainter(image)
        to_pixels = QTransform().translate(150, 400).scale(1300, -1300)
        draw_sole(painter, to_pixels, sole, Side.RIGHT, FootPose(0, 0, 0, Contact.FLAT), share, LIGHT, letter=False)
        painter.end()
        ink, pale = LIGHT.color("right").rgb(), LIGHT.color("right_pale").rgb()
        pixels = [image.pixel(x, y) for x in range(0, 300, 2) for y in range(0, 500, 2)]
        inside = sum(p in (ink, pale) for p in pixels)
        filled.append(sum(p == ink for p in pixels) / inside)
    assert filled == pytest.approx([0.05, 0.33, 0.71, 1.0], abs=0.05)  # the outline's own ink counts too


def test_everything_has_a_name_a_shortcut_sheet_and_fits_a_small_window(demo: MainWindow, qtbot: QtBot) -> None:
    for view in (demo.plot.floor, demo.plot.score, demo.plot.ribbon, demo.plot.entry.field, demo.plot.findings.list):
        assert view.accessibleName()
    book = demo.desk.book
    assert all(book[name].toolTip() for name in book)
    for stage in STAGES:  # only one stage's acts work at a time, beside those of the window
        demo.show_stage(stage.name)
        keys = [key.toString() for name in book if book[name].isEnabled() for key in book[name].shortcuts()]
        assert len(keys) == len(set(keys)) > 20
    demo.show_stage("plot")
    qtbot.keyClick(demo, Qt.Key.Key_F1, Qt.KeyboardModifier.ShiftModifier)
    sheet = demo.findChild(QDialog)
    assert isinstance(sheet, shortcuts.ShortcutSheet)
    assert {"Ctrl+Z", "F5 or Ctrl+Space", "Ctrl+Space or F5"} & {label.text() for label in sheet.findChildren(QLabel)}
    titles = [label.text() for label in sheet.findChildren(QLabel)]
    assert {"Everywhere", "In Ready", "In Plot"} <= set(titles) and sheet.height() <= 720 and sheet.width() <= 1200
    sheet.close()
    demo.resize(1024, 700)
    assert demo.width() == 1024 and demo.plot.floor.width() > 500


def test_the_score_has_a_row_for_everything_that_is_written(demo: MainWindow) -> None:
    entries = demo.plot.score.rows.entries
    kinds = [entry.kind for entry in entries]
    assert kinds.count(EntryKind.POSTURE) == len(demo.document.form.postures)
    assert kinds.count(EntryKind.COUNT) == len(demo.document.trace) - 1
    assert "expect L toe 12" in [entry.text for entry in entries if entry.kind is EntryKind.REMARK]
    index = row_index(demo, demo.document.trace.row_of("boat", 2))
    assert (
        index.data(Qt.ItemDataRole.AccessibleTextRole)
        == "Count 2: the left foot turns 70° in, to 2:20; the chest turns to 1:20"
    )


def test_what_the_first_picture_does_not_wait_for_comes_right_after_it(
    make_window: Callable[[], MainWindow], settings: Settings, qtbot: QtBot
) -> None:
    make_window()  # which closes whatever is opened beside
    window = open_window(settings, first=lambda filing: filing.open_demo(), late=True)
    assert window.document.judge.waits and window.document.judge.findings == ()
    assert "tightest" not in list(window.desk.book) and "type" in list(window.desk.book)
    qtbot.waitUntil(lambda: not window.document.judge.waits, timeout=10_000)
    assert found(window.document) == judge(window.document.form, window.document.trace)
    assert "3 stops" in window.desk.book["findings"].iconText()
    other = make_window()
    filled = [
        {menu.title(): len(menu.actions()) for menu in each.menus.bar.findChildren(QMenu) if menu.title()}
        for each in (window, other)
    ]
    assert filled[0] == filled[1] and all(filled[0].values())
    assert set(window.desk.book) == set(other.desk.book)
    assert not window.desk.book["tightest"].isEnabled() and window.desk.book["type"].isEnabled()


def test_a_closed_window_is_freed_with_all_that_is_in_it(window: MainWindow, qtbot: QtBot) -> None:
    def freed(known: weakref.ref[MainWindow]) -> bool:
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        gc.collect()
        return known() is None

    def opened_and_closed() -> weakref.ref[MainWindow]:
        other = open_window(window.desk.settings)
        other.filing.open_demo()
        for stage in ("room", "practise", "plot"):
            other.show_stage(stage)
            QApplication.processEvents()
        known = weakref.ref(other)
        other.close()
        return known

    opened_and_closed()  # what is made once for all is made
    many = []
    for _ in range(3):
        known = opened_and_closed()
        qtbot.waitUntil(lambda: freed(known), timeout=20_000)  # noqa: B023 - a search in a thread is told to stop first
        many.append(len(QApplication.allWidgets()))
    assert many[0] == many[-1]
