"""The window as a screen reader meets it: every control has a name, a role and a state, and what is drawn is said."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractSpinBox, QApplication, QLineEdit, QPushButton, QWidget
from pytestqt.qtbot import QtBot

from waltzmark.desktop.app import settle
from waltzmark.desktop.stages import STAGES
from waltzmark.desktop.window import MainWindow
from waltzmark.words.cues import told_count

ROLE, TEXT = QAccessible.Role, QAccessible.Text


@pytest.fixture(autouse=True)
def heard() -> Iterator[None]:
    """Somebody listens."""
    QAccessible.setActive(True)
    yield
    QAccessible.setActive(False)


def shown(window: MainWindow) -> Iterator[str]:
    """Every stage and face, one after the other."""
    for row in STAGES:
        stage = window.show_stage(row.name)
        faces = ("body", "bodies", "school") if row.name == "ready" else tuple(getattr(stage, "faces", {"": None}))
        for face in faces:
            if face:
                stage.show_face(face)
            settle(window)
            yield f"{row.name} {face}"


def within(widget: QWidget) -> bool:
    """Whether it is the line inside a field that is read itself."""
    return isinstance(widget, QLineEdit) and isinstance(widget.parentWidget(), QAbstractSpinBox)


def test_whatever_can_have_the_keys_has_a_name_a_role_and_a_state(demo: MainWindow) -> None:
    nameless, seen = dict[str, str](), 0
    for where in shown(demo):
        for widget in demo.findChildren(QWidget):
            if not widget.isVisible() or within(widget) or not widget.focusPolicy() & Qt.FocusPolicy.TabFocus:
                continue
            seen += 1
            read = QAccessible.queryAccessibleInterface(widget)
            assert read is not None and read.isValid()
            state = read.state()
            good = (
                read.text(TEXT.Name)
                and read.role() != ROLE.NoRole
                and bool(state.disabled) == (not widget.isEnabled())
                and (state.focusable or not widget.isEnabled())
            )
            if not good:
                nameless.setdefault(type(widget).__name__, where)
    assert nameless == {} and seen > 300


def test_tab_goes_to_everything_and_comes_back_and_the_keys_are_never_lost(demo: MainWindow) -> None:
    demo.activateWindow()
    for where in shown(demo):
        wanted = {
            widget
            for widget in demo.findChildren(QWidget)
            if widget.isVisible() and widget.isEnabled() and widget.focusPolicy() & Qt.FocusPolicy.TabFocus
            and not within(widget) and widget.window() is demo
        }  # fmt: skip
        start = next(widget for widget in demo.answers.findChildren(QWidget) if widget in wanted)
        start.setFocus()
        visited: set[QWidget] = set()
        for _ in range(3 * len(wanted)):
            at = QApplication.focusWidget()
            assert at is not None and at.isVisible(), where
            visited.add(at)
            nexts = at.nextInFocusChain()
            while nexts is not None and nexts not in wanted and nexts is not at:
                nexts = nexts.nextInFocusChain()
            assert nexts is not None
            nexts.setFocus(Qt.FocusReason.TabFocusReason)
            if QApplication.focusWidget() is start:
                break
        assert wanted <= visited | {at for at in wanted if at.focusProxy() in visited}, where


def described(view: QWidget) -> str:
    read = QAccessible.queryAccessibleInterface(view)
    assert read is not None
    return str(read.text(TEXT.Description))


def test_the_floor_the_ribbon_and_the_figure_say_what_they_show(demo: MainWindow, qtbot: QtBot) -> None:
    document, plot = demo.document, demo.plot
    demo.show_stage("plot")
    plot.show_figure("beside")
    titles = {posture.id: posture.title for posture in document.form.postures}
    row = document.trace.row_of("cast-right", 6)
    document.session.go(float(row))
    told = told_count(document.trace, row, titles)
    assert "Cast the line, right" in told and "70" in told and "12" in told
    assert described(plot.floor) == told == described(plot.ribbon)
    figure = plot.figure.view
    assert described(figure) == figure.sentence() != ""
    before = described(figure)
    plot.figure.set_seen("left")
    assert described(figure) == figure.sentence() != before
    QTest.keyClick(plot.score, Qt.Key.Key_Down)
    assert document.session.row == row + 1 and described(plot.floor) != told
    # What is led says what it says large.
    stage = demo.show_stage("practise")
    demo.practise.show_face("walk")
    assert demo.practise is stage
    demo.practise.walk.begin()
    banner = demo.practise.large.banner
    assert banner is not None and banner.large in described(demo.practise.large)
    demo.practise.walk.leave()


def test_room_chain_and_sides_say_their_answer(demo: MainWindow, qtbot: QtBot) -> None:
    for name in ("room", "return", "sides"):
        demo.show_stage(name)
        settle(demo)
    demo.document.judge.reviewed.emit()
    demo.show_stage("room")
    demo.document.judge.reviewed.emit()
    said = [demo.document.answered(number) for number in range(3)]
    assert len(set(said)) == 3 and all(said) and described(demo.room.plan) == said[0]


def test_nothing_is_worked_out_while_nobody_listens(demo: MainWindow) -> None:
    QAccessible.setActive(False)
    demo.show_stage("plot")
    before = described(demo.plot.floor)
    demo.document.session.go(7.0)
    assert described(demo.plot.floor) == before


def test_enter_presses_the_button_that_has_the_keys(demo: MainWindow, qtbot: QtBot) -> None:
    stage = demo.show_stage("room")
    settle(demo)
    pressed = 0
    for button in stage.findChildren(QPushButton):
        if button.isVisible() and button.isEnabled() and button.isCheckable() and not button.isChecked():
            demo.activateWindow()
            button.setFocus()
            qtbot.waitUntil(button.hasFocus)
            qtbot.keyClick(button, Qt.Key.Key_Return)
            assert button.isChecked()
            pressed += 1
    assert pressed >= 3
