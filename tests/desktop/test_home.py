"""The Return stage: the ledger read, the form closed, a drill made of it, by mouse and by keys."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from PySide6.QtCore import QPointF, QSizeF, Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import reviewed
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.home.closing import CLOSED
from waltzmark.core.home.ledger import check_return
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.history import Selection
from waltzmark.desktop.returns.chain import ends_of
from waltzmark.desktop.returns.loops import way_of
from waltzmark.desktop.returns.stage import ReturnStage
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import all_windows
from waltzmark.files.reading import read_document
from waltzmark.files.writing import render
from waltzmark.words.returns import comes_home
from waltzmark.words.sentences import sentence


def opened(window: MainWindow, qtbot: QtBot) -> ReturnStage:
    """The Return stage with all its closings."""
    window.show_stage("return")
    stage = window.home
    reviewed(window, qtbot)  # its answers may need another line, and the view another size
    qtbot.waitUntil(lambda: bool(stage.ledger.found and stage.ledger.found.every), timeout=60_000)
    qtbot.waitUntil(lambda: not window.desk.jobs.busy("home closings"), timeout=60_000)
    stage.chain.grab()
    return stage


def test_the_answer_opens_the_ledger_and_a_row_chooses_its_posture(demo: MainWindow, qtbot: QtBot) -> None:
    demo.answers.cards[1].click()
    stage = opened(demo, qtbot)
    document, table = demo.document, stage.ledger.table
    assert (
        demo.answers.cards[1].words.text() in stage.ledger.said.text()
        and "scatter by 17 cm" in stage.ledger.said.text()
    )
    assert table.rowCount() == len(document.form.postures) and "1 turn clockwise" in stage.ledger.said.text()
    result = check_return(document.trace, document.form)
    row = next(n for n, part in enumerate(result.contributions) if part.posture == "light")
    figures = [table.item(row, column).text() for column in range(1, 6)]  # type: ignore[union-attr]
    part = result.contributions[row]
    assert figures == [
        f"18  {document.form.posture('light').title}",
        f"{100 * part.offset[0]:.0f} cm",
        f"{100 * part.offset[1]:.0f} cm",
        f"{part.turn:+.0f}°",
        f"{100 * part.share:.0f} cm",
    ]
    table.setCurrentCell(row, 1)
    assert document.session.selection.posture == "light"
    document.session.select(Selection("boat", 0, 0))
    assert stage.ledger._posture(table.currentRow()) == "boat"
    stage.ledger.order.setCurrentIndex(1)
    stage.ledger.order.activated.emit(1)
    away = [abs(p.share) for p in sorted(result.contributions, key=lambda p: -abs(p.share))]
    assert table.item(0, 5).text().lstrip("-") == f"{100 * away[0]:.0f} cm"  # type: ignore[union-attr]
    assert any(table.item(n, 1).toolTip() for n in range(table.rowCount()))  # type: ignore[union-attr]


def test_an_arrow_is_clicked_and_laid_head_to_tail(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    chain, ends = stage.chain, ends_of(demo.document.trace)
    number = demo.document.form.index("light")
    floor = chain.camera.transform(QSizeF(chain.size()))
    middle = floor.map(QPointF(*((ends[number] + ends[number + 1]) / 2).tolist()))
    qtbot.mouseClick(chain, Qt.MouseButton.LeftButton, pos=middle.toPoint())
    assert demo.document.session.selection.posture == "light"
    walked = chain.grab().toImage()
    demo.desk.book["head to tail"].setChecked(True)
    assert chain.grab().toImage() != walked
    laid = chain._chain(demo.document.trace)
    assert np.allclose([a for _, a, _ in laid[1:]], [b for _, _, b in laid[:-1]])
    assert np.allclose(laid[-1][2], ends[-1])  # whatever the order, they end where the form ends
    camera = chain.camera
    demo.desk.book["home larger"].trigger()
    assert chain.camera.scale > camera.scale
    qtbot.mouseDClick(chain, Qt.MouseButton.LeftButton)
    chain.grab()
    assert chain.camera.scale == pytest.approx(camera.scale)


def test_the_form_is_brought_home_as_one_step(demo: MainWindow, qtbot: QtBot) -> None:
    stage, document = opened(demo, qtbot), demo.document
    form, before = document.form, stage.chain.grab().toImage()
    assert stage.ledger.found is not None and stage.ledger.list.count() == len(stage.ledger.found.every)
    stage.ledger.list.setCurrentRow(0)
    closing = stage.ledger.closing(0)
    assert closing is not None and stage.chain.changed == {c.posture for c in closing.changes}
    assert stage.chain.grab().toImage() != before and document.form is form  # previewed, not taken
    assert f"{100 * closing.changes[0].after:.0f} cm" in stage.ledger.list.item(0).text()
    qtbot.keyClick(stage.ledger.list, Qt.Key.Key_Return)
    result = check_return(document.trace, document.form)
    assert result.distance <= CLOSED[0] and result.distance == pytest.approx(closing.distance)
    assert document.undo_words == sentence(closing.does)
    reviewed(demo, qtbot)
    assert demo.answers.cards[1].words.text().startswith("Returns")
    demo.undo()
    assert document.form == form
    demo.show_stage("plot")
    assert not demo.desk.book["close it"].isEnabled()


def test_locks_and_home_stand_in_the_document(demo: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    stage, document = opened(demo, qtbot), demo.document
    row = document.form.index("tide-right")
    stage.ledger.table.item(row, 0).setCheckState(Qt.CheckState.Checked)  # type: ignore[union-attr]
    assert document.form.home.locked == ("tide-right",) and document.undo_words == "lock Back from the tide, right"
    qtbot.waitUntil(lambda: bool(stage.ledger.found and stage.ledger.found.every), timeout=60_000)
    qtbot.waitUntil(lambda: not demo.desk.jobs.busy("home closings"), timeout=60_000)
    assert all(change.posture != "tide-right" for closing in stage.ledger.found.every for change in closing.changes)  # type: ignore[union-attr]
    document.session.select(Selection("coil", 0, 0))
    locked = []
    for _ in range(2):
        demo.desk.book["lock"].trigger()
        locked.append(document.form.home.locked)
    assert locked == [("tide-right", "coil"), ("tide-right",)]
    stage.ledger.along.setFocus()
    stage.ledger.along.selectAll()
    qtbot.keyClicks(stage.ledger.along, "0.5m")
    qtbot.keyClick(stage.ledger.along, Qt.Key.Key_Return)
    assert document.form.home.place == (0.0, 0.5)
    stage.ledger.facing.setText("9")
    stage.ledger.facing.editingFinished.emit()
    assert document.form.home.facing == Clock(9 * 60)
    reviewed(demo, qtbot)
    assert "from its home" in demo.answers.cards[1].words.text() and "90°" in demo.answers.cards[1].words.text()
    told: list[str] = []
    monkeypatch.setattr(Asking, "tell", lambda _self, _heading, words: told.append(words))
    stage.ledger.facing.setText("sideways")
    stage.ledger.facing.editingFinished.emit()
    assert "sideways" in told[0] and stage.ledger.facing.text() == "9"
    demo.desk.book["home here"].trigger()
    assert check_return(document.trace, document.form).distance < 0.001
    stage.ledger.turn.setValue(5)
    again = read_document(render(document.form, document.read)).form
    assert again.home == document.form.home and again.home.turn == 5.0 and again.home.locked == ("tide-right",)
    demo.desk.book["home start"].trigger()
    assert document.form.home.place == (0.0, 0.0) and document.form.home.facing is None


def test_a_loop_is_chosen_and_opens_as_a_form_beside(demo: MainWindow, qtbot: QtBot) -> None:
    demo.show_stage("return")
    stage = demo.home
    demo.desk.book["face loops"].trigger()
    view = stage.drawings
    qtbot.waitUntil(lambda: len(view.loops) > 0, timeout=60_000)
    qtbot.waitUntil(lambda: "stays in the room" in stage.loops.rounds.text(), timeout=60_000)
    assert "It is home after 1 round." in stage.loops.rounds.text()
    number = min((n for n, loop in enumerate(view.loops) if loop.left_out), key=lambda n: view.loops[n].away)
    loop = view.loops[number]
    view.grab()
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=view._card(number).center().toPoint())
    assert stage.loops.loop is loop
    names = [demo.document.form.postures[each].title for each in loop.left_out]
    said = stage.loops.said.text()
    assert all(f"Left out: {name}." in said for name in names)
    qtbot.waitUntil(lambda: "It stays in the room" in stage.loops.said.text(), timeout=60_000)
    assert stage.loops.said.text().startswith(said)
    ways = way_of(demo.document.form, demo.document.trace, loop)
    assert ways[-1][-1] == pytest.approx(loop.drift, abs=1e-9)
    assert all(np.allclose(a[-1], b[0]) for a, b in pairwise(ways))
    qtbot.keyClick(view, Qt.Key.Key_Right)
    assert view.at == number + 1
    qtbot.keyClick(view, Qt.Key.Key_Left)
    before = set(all_windows())
    qtbot.keyClick(view, Qt.Key.Key_Return)
    (beside,) = set(all_windows()) - before
    drill = beside.document.form
    assert drill.title == "The ferry round, loop" and beside.document.changed
    kept = [demo.document.form.postures[n].id for n in loop.postures]
    assert [p.id for p in drill.postures if not p.id.startswith("bridge")] == kept
    assert any(p.id.startswith("bridge") for p in drill.postures)
    assert check_return(walk(drill), drill).distance < 0.05
    assert demo.document.form.title == "The ferry round"  # the form it comes from stays
    stage.loops.most.setCurrentIndex(0)
    stage.loops.most.activated.emit(0)
    qtbot.waitUntil(lambda: bool(view.loops) and not any(each.left_out for each in view.loops), timeout=60_000)


def test_an_empty_form_has_nothing_to_close_and_no_loop(window: MainWindow, qtbot: QtBot) -> None:
    window.show_stage("return")
    stage = window.home
    qtbot.waitUntil(lambda: stage.ledger.list.count() == 1, timeout=60_000)
    assert stage.ledger.list.item(0).text() == sentence(message("closing.no-posture"))
    assert sentence(message("return.nothing")) in stage.ledger.said.text()
    assert stage.ledger.table.rowCount() == 0 and not stage.ledger.apply.isEnabled()
    stage.show_face("loops")
    qtbot.waitUntil(lambda: not stage.loops.view.loops and bool(stage.loops.said.text()), timeout=60_000)
    assert not stage.loops.make.isEnabled()
    stage.loops.take()
    window.set_dark(True)
    stage.chain.grab()
    stage.drawings.grab()


@pytest.mark.parametrize("name", ["room", "ledger", "loops"])
def test_what_was_asked_of_another_form_is_not_told(demo: MainWindow, qtbot: QtBot, name: str) -> None:
    """Postures go while a stage that is not seen, or a face behind another, still works something out of them."""
    told: list[str] = []
    demo.document.jobs.trouble.connect(lambda asker, error: told.append(f"{asker}: {error!r}"))

    def waits() -> None:
        qtbot.wait(700)  # until it has begun

    def cut() -> None:
        form = demo.document.form
        demo.desk.editor.take_form(replace(form, postures=form.postures[:1]), "cut")
        askers = ("home closings", "home loops", "room ground", "room map", "room advice")
        qtbot.waitUntil(lambda: not any(map(demo.desk.jobs.busy, askers)), timeout=90_000)
        qtbot.wait(200)
        demo.undo()

    demo.show_stage("room" if name == "room" else "return")
    if name == "loops":
        demo.home.show_face("loops")
    waits()
    demo.show_stage("plot")
    cut()
    demo.show_stage("room" if name == "room" else "return")
    waits()
    if name == "room":
        demo.room.show_face("tape")
    else:
        demo.home.show_face("loops" if name == "ledger" else "ledger")
    cut()
    assert told == []
    # It is looked for again once it is seen.
    if name == "room":
        demo.room.show_face("place")
        qtbot.waitUntil(lambda: demo.room.search.advice is not None, timeout=60_000)
    else:
        demo.home.show_face(name)
        ledger, view = demo.home.ledger, demo.home.drawings
        known = (lambda: bool(ledger.found and ledger.found.every)) if name == "ledger" else (lambda: bool(view.loops))
        qtbot.waitUntil(known, timeout=60_000)


def test_the_loops_follow_home_room_and_units(demo: MainWindow, qtbot: QtBot) -> None:
    demo.show_stage("return")
    demo.home.show_face("loops")
    face, view = demo.home.loops, demo.home.drawings
    qtbot.waitUntil(lambda: bool(view.loops), timeout=60_000)
    view.choose(next(n for n, loop in enumerate(view.loops) if loop.away > 0.1))
    qtbot.waitUntil(lambda: "in the room" in face.said.text() and "in the room" in face.rounds.text(), timeout=60_000)
    assert "home after 1 round" in face.said.text() and " cm" in face.said.text()
    home = demo.document.form.home
    demo.desk.editor.set_home(replace(home, within=0.0), "ask for more")
    qtbot.waitUntil(
        lambda: comes_home(None) in face.said.text() and comes_home(None) in face.rounds.text(), timeout=60_000
    )
    demo.desk.editor.set_room(None, "leave the room")
    next(a for a in demo.choices.lengths if a.data() == "in").trigger()
    qtbot.wait(600)
    assert "in the room" not in face.said.text() + face.rounds.text() and " cm" not in face.said.text()


def test_a_form_is_closed_by_keys_alone(demo: MainWindow, qtbot: QtBot) -> None:
    demo.activateWindow()
    qtbot.keyClick(demo, Qt.Key.Key_5, Qt.KeyboardModifier.ControlModifier)
    stage = opened(demo, qtbot)
    assert QApplication.focusWidget() is stage.ledger.table  # where a new stage puts the hands
    qtbot.keyClick(stage.ledger.table, Qt.Key.Key_Down)
    assert demo.document.session.selection.posture == stage.ledger._posture(stage.ledger.table.currentRow())
    for _ in range(3):
        if QApplication.focusWidget() is not stage.ledger.list:
            qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Tab)
    assert QApplication.focusWidget() is stage.ledger.list
    qtbot.keyClick(stage.ledger.list, Qt.Key.Key_Down)
    qtbot.keyClick(stage.ledger.list, Qt.Key.Key_Return)
    assert check_return(demo.document.trace, demo.document.form).distance <= CLOSED[0]


def test_whoever_measures_in_inches_closes_in_inches(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    next(a for a in demo.choices.lengths if a.data() == "in").trigger()
    assert stage.ledger.list.count() == 0  # what was found was in centimetres
    stage = opened(demo, qtbot)
    ledger, document = stage.ledger, demo.document
    assert ledger.within.text() == "11.8 in" and ledger.table.item(0, 2).text().endswith(" in")  # type: ignore[union-attr]
    assert ledger.found is not None
    for closing, row in zip(ledger.found.every, range(ledger.list.count()), strict=True):
        assert (" in" in ledger.list.item(row).text()) is bool(closing.changes)
        assert " cm" not in ledger.list.item(row).text()
        assert closing.distance <= 2 * CLOSED[0]
    whole = [c.after / 0.0254 for closing in ledger.found.every for c in closing.changes]
    assert sum(abs(each - round(each)) < 1e-6 for each in whole) >= len(whole) / 2
    ledger.across.setFocus()
    ledger.across.selectAll()
    qtbot.keyClicks(ledger.across, "14")
    qtbot.keyClick(ledger.across, Qt.Key.Key_Return)
    assert document.form.home.place[0] == pytest.approx(14 * 0.0254, abs=1e-4)
    ledger.across.selectAll()
    qtbot.keyClicks(ledger.across, "90m")
    qtbot.keyClick(ledger.across, Qt.Key.Key_Return)
    assert "Home lies outside the room" in ledger.said.text()
    qtbot.waitUntil(lambda: bool(ledger.found and ledger.found.nearest), timeout=60_000)
    assert ledger.found is not None and ledger.found.nearest is not None and not ledger.apply.isEnabled()
    demo.undo()
    assert "Home lies outside" not in ledger.said.text()


def test_a_loop_of_a_form_that_has_changed_meanwhile_opens_nothing(demo: MainWindow, qtbot: QtBot) -> None:
    demo.show_stage("return")
    stage, document = demo.home, demo.document
    demo.desk.book["face loops"].trigger()
    qtbot.waitUntil(lambda: len(stage.drawings.loops) > 0, timeout=60_000)
    stage.drawings.choose(len(stage.drawings.loops) - 1)
    demo.show_stage("plot")  # what changes now is not looked for there
    first = document.form.postures[0].id
    document.edit("keep the first", replace(document.form, postures=document.form.postures[:1]), Selection(first))
    before = set(all_windows())
    stage.loops.take()
    assert set(all_windows()) == before and stage.loops.loop is not None
    document.undo()
    demo.show_stage("return")
    qtbot.waitUntil(lambda: len(stage.drawings.loops) > 0, timeout=60_000)
    stage.loops.take()
    assert len(set(all_windows()) - before) == 1
