"""The Log stage in the real window: what to do next, measures, the book, damage, persons."""

from __future__ import annotations

import json
import os
from datetime import timedelta
from pathlib import Path

import platformdirs
import pytest
from PySide6.QtCore import QDateTime, Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import answers, kept, logged, opened
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.practice.entries import Entry, now
from waltzmark.core.practice.turns import turn_name
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.log.entering import CorrectDialog, PracticeDialog
from waltzmark.desktop.log.measures import against_plan
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.window import MainWindow
from waltzmark.files.book import book_path
from waltzmark.words.sentences import sentence

# The Log.


def test_the_log_says_what_to_do_next_and_goes_there(demo: MainWindow, qtbot: QtBot) -> None:
    demo.show_demo_book()
    log = logged(demo)
    lines = [log.next.list.item(n).text() for n in range(log.next.list.count())]
    assert lines[0].startswith("Cast the line, right again (right side)\n")
    log.calendar.grab()
    log.calendar.choose(log.calendar.today - timedelta(days=2))
    qtbot.keyClick(log.calendar, Qt.Key.Key_Left)
    assert log.calendar.day == log.calendar.today - timedelta(days=3)
    box = log.calendar._field(log.calendar.today).center()
    QTest.mouseClick(log.calendar, Qt.MouseButton.LeftButton, pos=box.toPoint())
    assert log.calendar.day == log.calendar.today
    log.next.list.setCurrentRow(0)
    log.next.go.click()
    assert demo.stages.currentWidget() is demo.practise and demo.practise.face is demo.practise.drill
    assert demo.document.session.selection.posture == "cast-right-again"
    # The demo's book is its own: nothing in it is kept, and one's own is as it was.
    demo.practise.turns.note.click()
    demo.desk.book["stage log"].trigger()
    demo.desk.book["own book"].trigger()
    assert demo.desk.practice.entries == () and kept() == ()


def test_measures_are_drawn_against_their_plan(demo: MainWindow, qtbot: QtBot) -> None:
    practice = demo.desk.practice
    for n in range(6):
        when = now() - timedelta(days=20 - n)
        practice.keep(
            Entry(when, "scale", what="share L", measured=34.0 - n / 2, planned=(30.0, 70.0)[n % 2], unit="%")
        )
        practice.keep(Entry(when, "turn", what=turn_name(Side.LEFT, "in"), measured=30.0 + n, planned=35.0, unit="°"))
    log = logged(demo, "measures")
    lines = [log.measures.list.item(n).text() for n in range(log.measures.list.count())]
    assert lines == ["Left hip, inward\n6 times", "Weight on the left foot\n6 times"]
    said = log.measures.said.text()
    assert [figure for figure in ("32.5", "1.9", "-2.5", "+3.0") if figure not in said] == []
    plain = log.chart.grab().toImage()
    log.measures.list.setCurrentRow(1)
    assert log.chart.series is not None and against_plan(log.chart.series) == (
        [4.0, -36.5, 3.0, -37.5, 2.0, -38.5],
        0.0,
    )
    assert log.chart.grab().toImage() != plain
    demo.set_dark(True)
    assert log.chart.grab().toImage() != plain


def test_entries_are_corrected_deleted_and_undone_and_stay_when_the_form_changes(
    demo: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    practice = demo.desk.practice
    for n in range(3):
        practice.keep(
            Entry(now(), "drill", form=demo.document.form.title, posture="coil", title="Coil the rope", note=str(n))
        )
    log = logged(demo, "book")
    log.table.selectRow(1)
    dialog = CorrectDialog(log.table.chosen[0])
    dialog.fields["minutes"].setText("long")
    dialog.take()
    assert "cannot be read" in dialog.wrong.text() and dialog.made is None
    dialog.fields["minutes"].setText("2.5")
    dialog.fields["outcome"].setText("fine")
    dialog.take()
    assert "“fine”" in dialog.wrong.text()
    dialog.fields["outcome"].setText("off")
    dialog.fields["measured"].setText("31")
    monkeypatch.setattr(
        CorrectDialog, "exec", lambda made: (made.fields["note"].setText("better"), made.take(), made.result())[2]
    )
    demo.desk.book["correct entry"].trigger()
    assert [e.note for e in kept()] == ["0", "better", "2"]
    log.table.selectAll()
    demo.desk.book["delete entry"].trigger()
    assert kept() == () and sentence(message("book.delete", n=3)) in log.book.said.text()
    demo.desk.book["undo log"].trigger()
    demo.desk.book["undo log"].trigger()
    assert [e.note for e in kept()] == ["0", "1", "2"]
    answers(monkeypatch, text="slept badly")
    demo.desk.book["write note"].trigger()
    assert kept()[-1].note == "slept badly" and kept()[-1].kind == "note"
    # The form is renamed and the posture goes; what was done stays.
    demo.document.session.select(demo.document.session.selection._replace(posture="coil", start=0, stop=0))
    demo.editor.delete_posture()
    assert log.table.rowCount() == 4 and "Coil the rope" in [log.table.item(n, 2).text() for n in range(4)]  # type: ignore[union-attr]
    log.book.kinds.setCurrentIndex(log.book.kinds.findText("note only"))
    log.book.kinds.activated.emit(log.book.kinds.currentIndex())
    assert log.table.rowCount() == 1
    told: list[str] = []
    monkeypatch.setattr(Asking, "tell", lambda _self, heading, words: told.append(f"{heading}: {words}"))
    log.table.clearSelection()
    demo.desk.book["correct entry"].trigger()
    assert len(told) == 1


def test_the_book_goes_out_and_comes_in(
    demo: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    told: list[str] = []
    monkeypatch.setattr(Asking, "tell", lambda _self, heading, words: told.append(f"{heading}: {words}"))
    demo.desk.practice.keep(Entry(now(), "walk", minutes=3.0))
    log = logged(demo, "book")
    for kind in ("csv", "json"):
        log.write_book(tmp_path / f"book.{kind}", kind)
    assert json.loads((tmp_path / "book.json").read_text(encoding="utf-8"))["entries"][0]["minutes"] == 3.0

    def read(name: str) -> str:
        log.read_book(tmp_path / name)
        qtbot.waitUntil(lambda: bool(told))
        return told.pop()

    assert " 0 " in read("book.csv")
    (tmp_path / "more.csv").write_text("when,kind,minutes\n2026-01-01T10:00,drill,1\n2026-01-02T10:00,drill,2\n")
    assert " 2 " in read("more.csv") and log.table.rowCount() == 3
    for name, data, says in (
        ("bad.csv", b"when,kind\nnever,walk\n", "bad.csv, line 2"),
        ("raw.csv", b"\xff\xfe\x00", "is not UTF-8 text"),
        ("none.csv", None, "none.csv"),
    ):
        if data is not None:
            (tmp_path / name).write_bytes(data)
        assert says in read(name) and log.table.rowCount() == 3
    os.mkfifo(tmp_path / "pipe.csv")  # nobody writes into it: to open it would wait for ever
    assert "pipe.csv" in read("pipe.csv")
    log.undo()
    assert log.table.rowCount() == 1


def test_a_damaged_book_is_told_put_aside_and_practice_goes_on(
    demo: MainWindow, settings: Settings, qtbot: QtBot
) -> None:
    path = book_path()
    assert str(path).startswith(platformdirs.user_data_dir("waltzmark"))
    path.parent.mkdir(parents=True)
    path.write_bytes(b"this is no book " * 400)
    practice = demo.desk.practice
    assert not practice.keep(Entry(now(), "walk", note="kept all the same"))
    assert (
        any(str(book_path()) in words for words in demo.notices.told) and practice.unkept[0].note == "kept all the same"
    )
    assert len(practice.entries) == 1
    while str(book_path()) not in demo.notices.words.text():
        demo.notices.done.click()
    demo.notices.act.click()
    assert path.read_bytes()[:6] == b"SQLite" and list(path.parent.glob("*.damaged-*"))
    assert practice.keep(Entry(now(), "walk", note="the next")) and [e.note for e in kept()] == [
        "kept all the same",
        "the next",
    ]
    # A clock that was set back is told, and the entry is kept.
    assert practice.keep(replace(kept()[-1], when=now() - timedelta(days=30), id=0)) and len(kept()) == 3
    assert any("30" in words for words in demo.notices.told)


def test_persons_are_told_apart(demo: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    answers(monkeypatch, text="the apprentice")
    opened(demo)
    demo.desk.book["person"].trigger()
    demo.practise.scales.note.click()
    assert kept()[0].person == "the apprentice"
    demo.desk.practice.name("somebody else")
    assert logged(demo, "book").table.rowCount() == 0
    demo.desk.practice.name("")
    assert demo.log.table.rowCount() == 1


def test_a_week_away_from_the_screen_is_put_into_the_book(demo: MainWindow, monkeypatch: pytest.MonkeyPatch) -> None:
    log, days = logged(demo, "book"), iter(range(7))
    today = QDateTime.currentDateTime()

    def filled(dialog: PracticeDialog) -> int:
        day = next(days)
        dialog.when.setDateTime(today.addDays(-day).addSecs(-60))
        dialog.what.setCurrentIndex(day)  # the whole form first, then single postures
        dialog.side.setCurrentIndex(day % 3)
        dialog.times.setValue(day + 1)
        dialog.minutes.setValue(5.5 + day)
        dialog.outcome.setCurrentIndex(day % 2)
        QTest.keyClicks(dialog.note, f"in the park {day}")
        dialog.accept()
        return dialog.result()

    monkeypatch.setattr(PracticeDialog, "exec", filled)
    for _ in range(7):
        demo.desk.book["add practice"].trigger()
    postures = demo.document.form.postures
    by_day = sorted(kept(), key=lambda entry: entry.when, reverse=True)
    assert [(e.kind, e.posture, e.side, e.reps, e.minutes, e.outcome, e.note) for e in by_day] == [
        (
            "walk",
            postures[day - 1].id if day else "",
            ("", "left", "right")[day % 3],
            day + 1,
            5.5 + day,
            ("done", "off")[day % 2],
            f"in the park {day}",
        )
        for day in range(7)
    ]
    assert [(by_day[0].when - e.when).days for e in by_day] == list(range(7))
    assert all(e.when.tzinfo is not None and e.when <= now() and e.form == demo.document.form.title for e in by_day)
    assert log.table.rowCount() == 7
    log.show_face("next")
    minutes, reps = log.calendar.days[by_day[0].when.date().isoformat()]
    assert (minutes, reps) == (5.5, 1) and len(log.calendar.days) == 7
    monkeypatch.setattr(PracticeDialog, "exec", lambda dialog: (dialog.reject(), dialog.result())[1])
    demo.desk.book["add practice"].trigger()
    demo.desk.book["undo log"].trigger()
    assert len(kept()) == 6
