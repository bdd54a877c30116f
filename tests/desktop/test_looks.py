"""The look of the window: what is chosen is kept, else the desktop's wishes are heeded; and what does not glide."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from PySide6.QtWidgets import QScrollArea
from pytestqt.qtbot import QtBot

from tests.desktop.test_window import picture
from waltzmark.desktop.faced import FacedStage
from waltzmark.desktop.looks import Looks
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.theme import DARK, DARK_STRONG, LIGHT, LIGHT_STRONG, theme_of
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import heed_desktop
from waltzmark.desktop.wishes import Wish, Wishes, wish_of

CONTRAST = ("org.freedesktop.appearance", "contrast")
MOTION = ("org.freedesktop.appearance", "reduced-motion")
ANIMATED = ("org.gnome.desktop.interface", "enable-animations")
HIGH = ("org.gnome.desktop.a11y.interface", "high-contrast")


@pytest.mark.parametrize(
    ("settings", "wish"),
    [
        ({}, Wish()),
        ({CONTRAST: 1}, Wish(contrast=True)),
        ({CONTRAST: 0, HIGH: True}, Wish(contrast=True)),
        ({CONTRAST: 2, HIGH: False}, Wish()),
        ({MOTION: 1}, Wish(still=True)),
        ({MOTION: 0, ANIMATED: False}, Wish(still=True)),
        ({ANIMATED: True}, Wish()),
        ({CONTRAST: "odd", ANIMATED: "odd"}, Wish()),
        ({CONTRAST: 1, ANIMATED: False}, Wish(True, True)),
    ],
)
def test_what_a_desktop_asks_for(settings: dict[tuple[str, str], object], wish: Wish) -> None:
    assert wish_of(settings) == wish


def test_a_wish_is_told_when_it_is_another_and_only_then() -> None:
    wishes, told = Wishes(), list[Wish]()
    wishes.changed.connect(told.append)
    for setting, value in ((CONTRAST, 0), (CONTRAST, 1), (HIGH, True), (("else", "contrast"), 0), (MOTION, 1)):
        wishes.learn(setting, value)
    wishes.learn(CONTRAST, 0)  # the other setting asks for it still
    wishes.learn(HIGH, False)
    assert told == [Wish(contrast=True), Wish(True, True), Wish(still=True)] and wishes.wish == told[-1]


def test_what_is_chosen_goes_before_what_the_desktop_asks(settings: Settings) -> None:
    looks = Looks(settings)
    assert not (looks.dark or looks.contrast or looks.still) and looks.theme is LIGHT
    looks.take(Wish(True, True))
    assert looks.contrast and looks.still and looks.theme is LIGHT_STRONG
    looks.set_contrast(False)
    assert not looks.contrast and looks.still and looks.theme is LIGHT
    looks.set_dark(True)
    looks.set_still(False)
    again = Looks(settings)  # the next day, on a desktop that still asks for both
    again.take(Wish(True, True))
    assert again.dark and not again.contrast and not again.still and again.theme is DARK


@pytest.mark.parametrize("dark", [False, True])
@pytest.mark.parametrize("strong", [False, True])
def test_a_theme_is_found_by_what_it_is(dark: bool, strong: bool) -> None:
    theme = theme_of(dark, strong)
    assert (
        theme.dark is dark
        and theme
        is {
            (False, False): LIGHT,
            (False, True): LIGHT_STRONG,
            (True, False): DARK,
            (True, True): DARK_STRONG,
        }[dark, strong]
    )
    sheet = theme.style_sheet()
    assert "@" not in sheet.partition("*/")[2] and ("down-dark.svg" if dark else "down-light.svg") in sheet


def test_windows_heed_the_desktop_those_to_come_too(
    demo: MainWindow, make_window: Callable[[], MainWindow], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.delenv("DBUS_SESSION_BUS_ADDRESS", raising=False)
    wishes = heed_desktop()
    try:
        before = picture(demo).pixelColor(5, 400)
        wishes.learn(CONTRAST, 1)
        assert demo.desk.theme is LIGHT_STRONG and picture(demo).pixelColor(5, 400) != before
        assert demo.desk.book["contrast"].isChecked() and not demo.desk.book["still"].isChecked()
        assert demo.desk.settings.text("contrast", "none") == "none"  # nobody has chosen it
        assert make_window().desk.theme is LIGHT_STRONG
        demo.desk.book["contrast"].trigger()  # not here, whatever the desktop asks
        assert demo.desk.theme is LIGHT and demo.desk.settings.text("contrast", "") == "off"
        wishes.learn(MOTION, 1)
        assert demo.player.still and demo.desk.book["still"].isChecked()
    finally:
        wishes.learn(CONTRAST, 0)
        wishes.learn(MOTION, 0)
    assert demo.desk.theme is LIGHT and not demo.player.still


def test_without_gliding_each_count_is_shown_as_it_ends(demo: MainWindow, qtbot: QtBot) -> None:
    session, trace = demo.document.session, demo.document.trace
    demo.looks.set_still(True)
    row = trace.row_of("cast-right-again", 6)
    session.go(float(row - 1))
    demo.player.play()
    demo.player.advance(0.4 * float(trace.beats[row]) * demo.player.seconds_per_beat)
    demo.player._timer.stop()  # time stands still for the rest
    assert session.position == pytest.approx(row - 0.6) and session.row == row
    assert session.shown == row and session.part == 1.0
    at_end, floor = session.pose, demo.plot.floor
    seen = floor.grab().toImage()
    demo.player.advance(0.3 * float(trace.beats[row]) * demo.player.seconds_per_beat)
    assert session.pose == at_end and floor.grab().toImage() == seen  # nothing has moved
    demo.player.advance(0.5 * float(trace.beats[row]) * demo.player.seconds_per_beat)
    assert session.row == row + 1 and session.pose == trace.pose(row + 1) != at_end
    demo.player._timer.start()
    demo.player.pause()
    # Where it rests, it is shown as it is.
    assert session.part == pytest.approx(1.0 - (session.row - session.position)) and session.part < 1.0
    assert session.pose != trace.pose(row + 1) and floor.grab().toImage() != seen


def test_what_plays_stops_gliding_as_soon_as_that_is_asked(demo: MainWindow) -> None:
    session, row = demo.document.session, demo.document.trace.row_of("coil", 2)
    session.go(float(row - 1))
    demo.player.play()
    demo.player.advance(0.3 * float(demo.document.trace.beats[row]) * demo.player.seconds_per_beat)
    assert session.part < 0.9
    demo.looks.set_still(True)
    assert session.part == 1.0 and demo.player.playing
    demo.looks.set_still(False)
    assert session.part < 0.9
    demo.player.pause()


@pytest.mark.parametrize("stage", ["room", "return", "sides"])
def test_what_a_panel_does_is_in_view_without_scrolling(demo: MainWindow, qtbot: QtBot, stage: str) -> None:
    demo.resize(1280, 760)
    shown = demo.show_stage(stage)
    assert isinstance(shown, FacedStage)
    for name in shown.faces:
        shown.show_face(name)
        panel = shown.panels.currentWidget()
        assert isinstance(panel, QScrollArea)
        qtbot.waitUntil(lambda panel=panel: panel.verticalScrollBar().maximum() == 0)  # type: ignore[misc]
