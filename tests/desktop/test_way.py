"""The way through the stages: the doors, the first form, what is next, back to where one was, and help."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import Qt, QUrl
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import answers, reviewed, type_count
from waltzmark.core.answers.onward import onward
from waltzmark.core.answers.review import review
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.edit.forms import other_side
from waltzmark.core.edit.rooms import made_room
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.spoken import Page
from waltzmark.core.score.facings import Clock
from waltzmark.core.score.read import read_count
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.desktop.first_form import LESSONS
from waltzmark.desktop.new_form import NewForm
from waltzmark.desktop.stages import STAGES
from waltzmark.desktop.way import Place, Way
from waltzmark.desktop.window import MainWindow
from waltzmark.files.manual import found, manual
from waltzmark.files.reading import read_document
from waltzmark.words.sentences import sentence

TWELVE = Clock(0)
ALT = Qt.KeyboardModifier.AltModifier
CTRL = Qt.KeyboardModifier.ControlModifier


def offered(form: Form, here: str = "plot") -> list[str]:
    """The stages, or acts, of what is useful next."""
    return [step.stage or step.act for step in onward(form, review(form, walk(form)), here)]


def test_what_is_next_is_the_first_thing_open_in_the_order_of_the_work() -> None:
    written = [read_count(text) for text in ("shift R 100", "step L 12 bow", "shift L 50")]
    on = [read_count(text) for text in ("shift L 100", "step R 12 bow", "shift R 50")]
    away = Form(postures=(Posture("out", "Out", (*written, *on)),))
    home = [read_count(text) for text in ("shift R 100", "step L beside", "shift L 50")]
    back = Form(postures=(Posture("out", "Out and back", (*written, *home)),))
    assert offered(Form(), "room") == offered(Form(), "plot") == ["plot"]
    assert offered(replace(Form(), words=Page("step forward with the left"))) == ["words", "plot"]
    assert offered(replace(Form(), words=Page(" \n"))) == ["plot"]
    lifted = replace(away, postures=(Posture("out", "Out", (read_count("step R 12"), *written)),))
    assert offered(lifted) == ["plot", "room"]  # loaded, it cannot be lifted
    assert offered(away) == ["room", "return"]
    roomy, tight = (replace(away, room=made_room("", wide, wide)) for wide in (5.0, 0.7))
    assert offered(roomy) == ["return"] and offered(tight) == ["room", "return"]
    assert offered(tight, "room") == ["room", "return"]  # also where one is: its face says what would mend it
    closed = replace(back, room=made_room("", 5.0, 5.0))
    assert offered(closed) == ["practise", "sheets"]
    both = other_side(closed, "out", TWELVE)
    differs = replace(both.postures[1], mirror_of=None, axis=None, side_of="out", lines=tuple(written + home))
    assert offered(both) == ["practise", "sheets"]
    assert offered(replace(both, postures=(both.postures[0], differs))) == ["sides"]
    assert offered(both, "practise") == ["log", "sheets"] and offered(both, "log") == ["practise"]


def test_one_goes_on_and_back_with_face_and_playhead(demo: MainWindow, qtbot: QtBot) -> None:
    document = demo.document
    assert demo.onward.purpose.text().startswith("Plot: ") and demo.onward.buttons[0].isVisible()
    document.session.go(7.0)
    demo.answers.cards[1].click()
    review = document.judge.review
    assert review is not None and demo.shown == "return" and demo.home.face_name == "ledger"
    assert document.session.row == review.answers[1].row  # at what decides it
    demo.home.show_face("loops")
    demo.show_stage("room")
    demo.room.show_face("tape")
    qtbot.keyClick(demo, Qt.Key.Key_Left, ALT)
    assert (demo.shown, demo.room.face_name) == ("room", "place")
    for stage, face in (("return", "loops"), ("return", "ledger"), ("plot", "")):
        qtbot.keyClick(demo, Qt.Key.Key_Left, ALT)
        assert (demo.shown, demo.stage(stage).face_name) == (stage, face)
    assert document.session.row == 7 and not demo.way.back()
    qtbot.keyClick(demo, Qt.Key.Key_Right, ALT)
    assert (demo.shown, demo.home.face_name) == ("return", "ledger")
    demo.show_stage("ready")
    demo.ready.show_face("school")
    assert not demo.way.forward()  # another way was taken
    # A face's keys, pressed once more, go into the face.
    demo.show_stage("room")
    qtbot.keyClick(demo, Qt.Key.Key_4, ALT)
    qtbot.keyClick(demo, Qt.Key.Key_4, ALT)
    assert demo.room.face_name == "class" and demo.room.group.n.hasFocus()
    demo.show_stage("ready")
    qtbot.keyClick(demo, Qt.Key.Key_G, CTRL)
    step = onward(document.form, review, "ready")[0]
    assert demo.shown == step.stage


PLACES = st.tuples(st.sampled_from(["plot", "room", "return"]), st.sampled_from(["", "a", "b"]), st.floats(0.0, 9.0))


@given(st.lists(st.one_of(PLACES, st.sampled_from(["back", "forward"])), max_size=40))
def test_the_way_goes_back_over_what_was_left_and_forward_to_where_one_turned(steps: list[object]) -> None:
    """Against two plain lists: what lies behind, and what lies ahead until another way is taken."""
    now = [Place("plot", "", 0.0)]
    behind: list[Place] = []
    ahead: list[Place] = []
    way = Way(lambda: now[0], lambda place: now.__setitem__(0, place))
    for step in steps:
        if isinstance(step, str):
            source, other = (behind, ahead) if step == "back" else (ahead, behind)
            while source and source[-1][:2] == now[0][:2]:
                source.pop()
            expected = source.pop() if source else None
            if expected is not None:
                other.append(now[0])
            assert (way.back() if step == "back" else way.forward()) == (expected is not None)
            assert expected is None or now[0] == expected
        else:
            place = Place(*step)  # type: ignore[misc]
            if place[:2] != now[0][:2]:
                way.leave()
                if not behind or behind[-1] != now[0]:
                    behind.append(now[0])
                ahead.clear()
            now[0] = place


@pytest.mark.parametrize("row", STAGES, ids=lambda row: row.name)
def test_help_tells_of_the_stage_and_is_searched(row: object, demo: MainWindow, qtbot: QtBot) -> None:
    name, title = row.name, row.help  # type: ignore[attr-defined]
    demo.show_stage(name)
    qtbot.keyClick(demo, Qt.Key.Key_F1)
    shown = demo.show_help()
    assert shown.isVisible() and shown.list.currentItem().text() == title
    assert shown.page.toPlainText().startswith(title)
    QTest.keyClicks(shown.field, "heel ball")
    assert 0 < shown.list.count() < len(manual()) and shown.list.count() == len(found("heel ball"))
    words = shown.page.toPlainText().lower()
    assert "heel" in words and "ball" in words
    shown.field.setText("zzyzx")
    assert shown.list.count() == 0 and shown.none.isVisible()
    shown.page.anchorClicked.emit(QUrl("https://example.org"))  # leads out: nothing is fetched
    shown.page.anchorClicked.emit(QUrl("score.md"))
    assert shown.page.toPlainText().startswith("The score language")
    shown.close()


def test_the_doors_lead_to_the_demo_a_form_of_ones_own_and_a_file(
    make_window: Callable[[], MainWindow], qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    file = tmp_path / "mine.waltz"
    file.write_text(demo_text(), encoding="utf-8")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(file), ""))
    for key, title, written in (
        ("1", "The ferry round", True),
        ("2", "New form", False),
        ("3", "New form", False),
        ("4", "The ferry round", True),
    ):
        window = make_window()
        window.beginning.show_doors()
        doors = window.beginning.doors
        assert doors is not None and doors.isVisible() and not window.answers.isVisible() and window.shown == ""
        QTest.keyClicks(doors, key)
        assert window.beginning.doors is None and window.answers.isVisible()
        assert window.shown == ("words" if key == "3" else "plot")
        assert window.document.title == title and bool(window.document.form.postures) == written
        assert window.beginning.card.isVisible() == (key == "2")
    window.document.new()  # else its window comes forward
    window = make_window()
    window.beginning.show_doors()
    assert window.beginning.doors is not None
    lately = [button for button in window.beginning.doors.findChildren(type(window.onward.buttons[0])) if button.text()]
    assert [button.text() for button in lately] == ["mine"]
    lately[0].click()
    assert window.document.form == read_document(demo_text()).form
    window = make_window()
    window.beginning.show_doors()
    assert window.beginning.doors is not None
    QTest.keyClick(window.beginning.doors, Qt.Key.Key_Escape)
    assert window.shown == "plot" and not window.document.changed
    for name in ("plot", "room"):  # no stage stands chosen behind them, and each can be chosen
        window = make_window()
        window.beginning.show_doors()
        buttons = {row.name: window.desk.book[f"stage {row.name}"] for row in STAGES}
        assert not any(button.isChecked() for button in buttons.values())
        buttons[name].trigger()
        assert window.shown == name and window.answers.isVisible() and buttons[name].isChecked()


def test_the_doors_are_walked_by_arrows_and_give_way_to_whatever_is_opened(
    make_window: Callable[[], MainWindow], qtbot: QtBot, tmp_path: Path
) -> None:
    window = make_window()
    window.beginning.show_doors()
    doors = window.beginning.doors
    assert doors is not None
    window.activateWindow()
    qtbot.waitUntil(lambda: doors.doors["demo"].hasFocus(), timeout=5000)
    for key, name in (
        (Qt.Key.Key_Right, "begin"),
        (Qt.Key.Key_Right, "words"),
        (Qt.Key.Key_Right, "open"),
        (Qt.Key.Key_Left, "words"),
        (Qt.Key.Key_Left, "begin"),
        (Qt.Key.Key_Left, "demo"),
    ):
        QTest.keyClick(doors.focusWidget() or doors, key)
        assert doors.doors[name].hasFocus()
    drawn = doors.grab().toImage()
    window.set_dark(True)
    assert doors.grab().toImage() != drawn
    # A stage may be looked at first; acts of Plot do not work behind the doors.
    assert not window.desk.book["delete"].isEnabled() and window.shown == ""
    qtbot.keyClick(window, Qt.Key.Key_4, CTRL)
    assert window.shown == "room" and window.answers.isVisible()
    # What a crash left behind, or a file dropped on the window, is shown at once.
    file = tmp_path / "dropped.waltz"
    file.write_text(demo_text(), encoding="utf-8")
    window.filing.open_instead(file)
    assert window.beginning.doors is None and window.shown == "plot" and window.document.path == file
    assert window.desk.book["delete"].isEnabled()


def test_a_first_form_ends_with_an_answer_to_each_question(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    window.desk.book["first form"].trigger()
    card, field = window.beginning.card, window.plot.entry.field
    assert card.isVisible() and f"1 of {len(LESSONS)}" in card.heading.text()
    type_count(window, LESSONS[0].text)
    assert card.at == 1 and LESSONS[0].after in card.words.text()
    type_count(window, "hold")  # something else is no harm: it waits
    assert card.at == 1
    window.document.undo()
    answers(monkeypatch, text="12")
    for number, lesson in enumerate(LESSONS[1:], 2):
        card.type.click()
        if lesson.text:
            assert field.text() == lesson.text
            qtbot.keyClick(field, Qt.Key.Key_Return)
        assert card.at == number
    reviewed(window, qtbot)
    review = window.document.judge.review
    assert review is not None and [answer.good for answer in review.answers] == [True, True, True]
    assert sentence(review.answers[2].message, window.document.session.say) in card.words.text()
    assert not review.stops and window.shown == "room" and not window.onward.next.isVisible()
    window.document.undo()  # of the room
    assert card.at == len(LESSONS) - 1
    card.done.click()
    reviewed(window, qtbot)
    assert not card.isVisible() and window.onward.next.isVisible()


def test_a_new_form_is_shown_how_only_where_that_is_wanted(window: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    def choose(dialog: NewForm) -> NewForm.DialogCode:
        assert dialog.guided.isChecked()  # nothing was ever opened
        dialog.guided.setChecked(False)
        return NewForm.DialogCode.Accepted

    monkeypatch.setattr(NewForm, "exec", choose)
    window.desk.book["new"].trigger()
    assert not window.beginning.card.isVisible() and QApplication.focusWidget() in (window.plot.entry.field, None)


def test_an_empty_form_teaches_in_every_stage(window: MainWindow, qtbot: QtBot) -> None:
    reviewed(window, qtbot)
    assert [card.words.text() for card in window.answers.cards] == [
        sentence(message("room.none")),
        sentence(message("return.nothing")),
        "No posture has another side yet.",
    ]
    for stage in STAGES:
        window.show_stage(stage.name)
        assert window.onward.purpose.text() == f"{stage.title.replace('&', '')}: {stage.purpose}"
        assert window.onward.buttons[0].text() == "Write the first count"
    assert "no postures" in window.log.next.list.item(0).text()
    assert "nothing to walk yet" in window.practise.walk.said.text() and not window.practise.walk.start.isEnabled()
    assert "Ctrl+M" in window.sides.picture.empty and not window.room.make.isHidden()
    window.onward.buttons[0].click()
    assert window.shown == "plot" and "for example" in window.plot.entry.field.placeholderText()
    type_count(window, "shift R 100")
    window.show_stage("practise")
    assert window.practise.walk.said.text() == "" and window.practise.walk.start.isEnabled()
