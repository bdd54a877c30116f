"""Long lists: an edit changes only the rows it is about, and every row keeps the height it needs."""

from __future__ import annotations

from hypothesis import given, settings
from hypothesis import strategies as st
from PySide6.QtWidgets import QTableView
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import reviewed, type_count
from tests.trying import tries
from tests.waiting import until
from waltzmark.desktop.app import make_application
from waltzmark.desktop.history import Selection
from waltzmark.desktop.widgets.rows import RowsModel, RowsView
from waltzmark.desktop.window import MainWindow

words = st.lists(st.sampled_from("abcde"), max_size=12)


@settings(max_examples=tries(60))
@given(st.lists(words, min_size=1, max_size=5))
def test_rows_are_exchanged_between_what_stays_and_keep_their_heights(lists: list[list[str]]) -> None:
    make_application()
    rows, view = RowsModel(), RowsView(20)
    told: list[tuple[int, int]] = []
    view.set_rows(rows, lambda entry: 20 + 10 * "abcde".index(entry))
    rows.rowsInserted.connect(lambda _, first, last: told.append((first, last)))
    for entries in lists:
        before, told[:] = list(rows.entries), []
        rows.exchange(entries)
        assert list(rows.entries) == entries and rows.rowCount() == len(entries) and not rows.changing
        assert [view.rowHeight(row) for row in range(len(entries))] == [20 + 10 * "abcde".index(e) for e in entries]
        came = sum(last - first + 1 for first, last in told)
        assert came == max(len(entries) - len(before), 0)  # rows come for what is longer, not for what only differs
    view.deleteLater()


def test_an_edit_changes_only_its_own_rows_of_the_score(demo: MainWindow, qtbot: QtBot) -> None:
    document, rows = demo.document, demo.plot.score.rows
    changed: list[tuple[int, int]] = []
    rows.dataChanged.connect(lambda first, last: changed.append((first.row(), last.row())))
    document.session.select(Selection("coil", 4, 5))
    at = rows.span_of(document.session.selection)[0]
    before = list(rows.entries)
    demo.desk.book["change"].trigger()
    demo.plot.entry.field.setText("step L 12 bow 60x36")
    demo.plot.entry.enter()
    assert changed == [(at, at)] and rows.entries[at].text == "step L 12 bow 60x36"
    assert all(new is old for n, (new, old) in enumerate(zip(rows.entries, before, strict=True)) if 0 < n < at - 5)
    type_count(demo, "hold")
    assert len(rows.entries) == len(before) + 1 and rows.entries[at + 1].text == "hold"
    after = [entry.row for entry in rows.entries if entry.number]
    assert after == list(range(1, len(document.trace)))  # every count knows its row of the walk
    document.undo()
    document.undo()
    assert [entry.text for entry in rows.entries] == [entry.text for entry in before]
    reviewed(demo, qtbot)


def test_long_words_get_higher_rows_and_fit_when_the_window_grows(demo: MainWindow, qtbot: QtBot) -> None:
    score = demo.plot.score
    assert isinstance(score, QTableView)
    at = next(n for n, e in enumerate(score.rows.entries) if e.text.startswith("sink 60, hand L 12"))
    narrow = score.rowHeight(at)
    demo.plot.splitter.setSizes([700, 500, 80])
    qtbot.waitUntil(lambda: score.rowHeight(at) < narrow, timeout=3000)
    demo.document.session.go(float(demo.document.trace.row_of("moor", 2)))
    demo.plot.splitter.setSizes([335, 800, 80])
    qtbot.waitUntil(lambda: score.rowHeight(at) >= narrow, timeout=3000)
    seen = score.viewport()
    until(lambda: seen.rect().contains(score.visualRect(score.currentIndex()).center()))  # still in view


def test_the_chosen_finding_tells_everything_in_a_higher_row(demo: MainWindow) -> None:
    demo.desk.book["findings"].setChecked(True)
    view = demo.plot.findings.list
    until(lambda: view.rowHeight(0) == view.height_of(demo.document.judge.findings[0]))  # it has taken its width
    low = [view.rowHeight(row) for row in range(view.model().rowCount())]
    demo.plot.findings.step(1)
    assert view.rowHeight(0) > low[0] + 30 and view.rowHeight(1) == low[1]
    demo.plot.findings.step(1)
    assert view.rowHeight(0) == low[0] and view.rowHeight(1) > low[1] + 30
    words = view.model().index(1, 0).data()
    assert words.startswith("stop: Ship the oars, count 2: ")
