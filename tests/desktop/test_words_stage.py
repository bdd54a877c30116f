"""The Words stage: drafted while one types, taken by keys, changed, refused, taught; captions; Plot's entry line."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot

from tests.desktop.test_plotting import pressed
from waltzmark.core.answers.onward import onward
from waltzmark.core.score.write import write_count
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.drafting.stage import WordsStage
from waltzmark.desktop.window import MainWindow
from waltzmark.files import library
from waltzmark.files.reading import read_file

TEXT = (
    "Shift all your weight to the right and touch the ball of the left foot next to it. "
    "Step out with the left to nine, heel first, and bend the knee. "
    "Frobnicate the wimble. Now sit back."
)
CAPTIONS = """1
00:00:01,000 --> 00:00:04,000
shift all the weight to the right

2
00:00:07,000 --> 00:00:10,000
and step out with the left foot to nine
"""


@pytest.fixture
def stage(window: MainWindow, qtbot: QtBot) -> WordsStage:
    window.activateWindow()
    qtbot.waitUntil(window.isActiveWindow)
    pressed(window, Qt.Key.Key_2, Qt.KeyboardModifier.ControlModifier)
    made = window.show_stage("words")
    assert isinstance(made, WordsStage) and made.isVisible()
    return made


@pytest.fixture
def written(stage: WordsStage, qtbot: QtBot) -> WordsStage:
    return typed(stage, qtbot, TEXT)


def typed(stage: WordsStage, qtbot: QtBot, text: str) -> WordsStage:
    stage.text.setFocus()
    QTest.keyClicks(stage.text, text)
    settled(stage, qtbot, lambda: stage.bench.found is not None and stage.bench.found.of.page.text == text)
    return stage


def settled(stage: WordsStage, qtbot: QtBot, so: Callable[[], bool] = lambda: True) -> None:
    """Waits until the draft is that of the words in the document."""
    bench, document = stage.bench, stage.desk.document

    def fresh() -> bool:
        found = bench.found
        return found is not None and found.of.page == document.form.words == bench.page and so()

    qtbot.waitUntil(fresh)


def drafted(stage: WordsStage) -> list[str]:
    assert stage.bench.found is not None
    return [write_count(row.made.count) for row in stage.bench.found.of.rows if row.made is not None]


def lines(stage: WordsStage) -> list[str]:
    return [write_count(line) for posture in stage.desk.document.form.postures for line in posture.lines]


def key(stage: WordsStage, *keys: Qt.Key, shift: bool = False) -> None:
    held = Qt.KeyboardModifier.ShiftModifier if shift else Qt.KeyboardModifier.NoModifier
    for each in keys:
        QTest.keyClick(stage.rows, each, held)


def test_what_is_typed_is_drafted_and_walked(written: WordsStage) -> None:
    assert drafted(written) == ["shift R 100", "step L beside ball", "step L 9 bow heel", "shift L 70", "shift R 100"]
    bench = written.bench
    assert bench.hand == 0 and lines(written) == []
    for at, share in enumerate([0.0, 0.0, 0.0, 0.7, 0.0]):
        bench.go(at)
        floor = written.floor
        assert floor.trace.pose(floor.row).left_share == pytest.approx(share)
    written.show_figure(True)
    bench.go(3)
    figure = written.figure.view
    assert figure.trace is written.floor.trace and figure._when() == (written.floor.row, 1.0)
    assert written.figure.view.sentence()
    words = [written.bench.found.of.page.text[row.start : row.stop] for row in written.bench.found.of.rows]  # type: ignore[union-attr]
    assert words[0] == "Shift all your weight to the right" and words[2].startswith("Step out with the left to nine")


def test_enter_takes_and_goes_on_and_undo_gives_back(written: WordsStage, window: MainWindow, qtbot: QtBot) -> None:
    key(written, Qt.Key.Key_Return, Qt.Key.Key_Return)
    settled(written, qtbot)
    assert lines(written) == ["shift R 100", "step L beside ball"] and written.bench.hand == 2
    assert written.bench.row is not None and not written.bench.row.done
    window.document.undo()
    settled(written, qtbot, lambda: written.bench.found.of.next_row == 1)  # type: ignore[union-attr]
    assert lines(written) == ["shift R 100"]
    window.document.redo()
    key(written, Qt.Key.Key_Return, shift=True)
    settled(written, qtbot)
    assert lines(written) == drafted(written)
    assert window.document.form.postures[0].name == "Posture 1"


def test_by_keys_alone_one_goes_from_the_words_to_the_draft(
    written: WordsStage, window: MainWindow, qtbot: QtBot
) -> None:
    written.text.setFocus()
    assert window.focusWidget() is written.text
    pressed(window, Qt.Key.Key_J, Qt.KeyboardModifier.ControlModifier)
    assert window.focusWidget() is written.rows
    QTest.keyClick(window.focusWidget(), Qt.Key.Key_Return)
    settled(written, qtbot)
    assert lines(written) == ["shift R 100"] and written.text.toPlainText() == TEXT


def test_what_asks_nothing_is_taken_at_once_up_to_the_next_question(
    written: WordsStage, window: MainWindow, qtbot: QtBot
) -> None:
    window.document.judge.begin()
    qtbot.waitUntil(lambda: window.document.judge.review is not None)
    rows = written.bench.found.of.rows  # type: ignore[union-attr]
    first = next(at for at, row in enumerate(rows) if row.made is not None and row.made.how == "doubtful")
    assert 0 < first < len(rows)
    pressed(window, Qt.Key.Key_G, Qt.KeyboardModifier.ControlModifier)  # the next thing to do, in this stage
    settled(written, qtbot)
    assert lines(written) == drafted(written)[:first] and written.bench.hand == first
    written.bench.go(first + 1)
    alt = Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.AltModifier
    pressed(window, Qt.Key.Key_Return, alt)  # it waits for an answer
    settled(written, qtbot)
    assert lines(written) == drafted(written)[:first] and written.bench.hand == first
    qtbot.waitUntil(lambda: window.document.judge.review is not None)
    review = window.document.judge.review
    assert review is not None and onward(window.document.form, review, "words")[0].act == "take sure"
    assert window.focusWidget() is written.rows
    key(written, Qt.Key.Key_Return)
    pressed(window, Qt.Key.Key_Return, alt)
    settled(written, qtbot)
    assert lines(written) == drafted(written)
    for left in (first + 1, first, 0):
        window.document.undo()
        settled(written, qtbot)
        assert len(lines(written)) == left


def test_f2_del_tab_and_n_change_what_is_drafted(written: WordsStage, qtbot: QtBot) -> None:
    written.bench.go(2)
    key(written, Qt.Key.Key_F2)
    assert written.change.isVisible() and written.change.text() == "step L 9 bow heel"
    written.change.setText("step L 10:30 bow heal")
    QTest.keyClick(written.change, Qt.Key.Key_Return)
    assert written.change.isVisible()  # what cannot be read stays to be mended
    written.change.setText("step L 10:30 bow heel")
    QTest.keyClick(written.change, Qt.Key.Key_Return)
    settled(written, qtbot, lambda: "step L 10:30 bow heel" in drafted(written))
    assert written.bench.hand == 2
    written.bench.go(3)
    key(written, Qt.Key.Key_Tab)
    settled(written, qtbot, lambda: drafted(written)[3] == "shift L 100")
    key(written, Qt.Key.Key_Backtab)
    settled(written, qtbot, lambda: drafted(written)[3] == "shift L 70")
    key(written, Qt.Key.Key_N)
    settled(written, qtbot, lambda: drafted(written)[3] == "shift L 70 # bend the knee")
    written.bench.go(1)
    key(written, Qt.Key.Key_Delete)
    settled(written, qtbot)
    key(written, Qt.Key.Key_Down)
    key(written, Qt.Key.Key_Return, shift=True)
    settled(written, qtbot)
    assert lines(written)[:3] == ["shift R 100", "step L 10:30 bow heel", "shift L 70 # bend the knee"]


def test_the_words_and_how_far_one_is_are_kept_in_the_file(
    written: WordsStage, window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    key(written, Qt.Key.Key_Return)
    path = tmp_path / "spoken.waltz"
    window.document.save(path)
    page = read_file(path).form.words
    assert page is not None and page.text == TEXT and page.upto == len("Shift all your weight to the right")
    window.filing.open_path(path)
    settled(written, qtbot, lambda: written.bench.hand == 1)
    assert written.text.toPlainText() == TEXT


def test_a_click_in_the_text_puts_the_hand_on_its_count(written: WordsStage, qtbot: QtBot) -> None:
    place = TEXT.index("heel first") + 3
    at = written.text.box_at(place).center().toPoint()
    QTest.mouseClick(written.text.viewport(), Qt.MouseButton.LeftButton, pos=at)
    assert written.bench.hand == 2
    ends = written.tie.ends()
    assert ends is not None and ends[0].x() < ends[1].x()


def test_marked_words_are_taught_and_known_in_the_next_form(
    stage: WordsStage, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    typed(stage, qtbot, "Shift to the right. Do the lantern with the left foot.")
    text = stage.text.toPlainText()
    cursor = stage.text.textCursor()
    cursor.setPosition(text.index("the lantern"))
    cursor.setPosition(text.index("the lantern") + len("the lantern"), cursor.MoveMode.KeepAnchor)
    stage.text.setTextCursor(cursor)
    stage.teach()
    stage.teaching.counts.setText("step L 10:30 bow heel; shift L 70")
    QTest.keyClick(stage.teaching.counts, Qt.Key.Key_Return)
    settled(stage, qtbot, lambda: drafted(stage)[-2:] == ["step L 10:30 bow heel", "shift L 70"])
    assert [each.phrase for each in library.taught()] == ["the lantern"]
    stage.bench.write("Shift to the left. Now the lantern with the right.", "other words")
    settled(stage, qtbot, lambda: drafted(stage)[-2:] == ["step R 1:30 bow heel", "shift R 70"])


def test_captions_offer_their_times_as_beats(stage: WordsStage, qtbot: QtBot, tmp_path: Path) -> None:
    path = tmp_path / "lesson.srt"
    path.write_text(CAPTIONS, encoding="utf-8")
    stage.open_path(path)
    settled(stage, qtbot)
    assert drafted(stage) == ["shift R 100", "step L 9 bow"]
    stage.desk.player.set_tempo(1.5)
    stage.beats()
    settled(stage, qtbot, lambda: drafted(stage)[0] == "shift R 100 @4")


def test_what_cannot_be_read_is_told_and_nothing_is_lost(
    written: WordsStage, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    told: list[str] = []
    monkeypatch.setattr(Asking, "tell", lambda _self, heading, _words: told.append(heading))
    for name, content in (("a.txt", b"\x00\x01\x02" * 50), ("b.txt", b"x" * 10_000_000), ("c.srt", b"no times here")):
        (tmp_path / name).write_bytes(content)
        written.open_path(tmp_path / name)
    assert len(told) == 3 and written.text.toPlainText() == TEXT
    written.bench.write("Pasa el peso a la pierna derecha y levanta el talón izquierdo del suelo.", "x")
    settled(written, qtbot)
    written.language.setCurrentIndex(1)
    written.language.activated.emit(1)
    settled(written, qtbot, lambda: drafted(written) == ["shift R 100", "ball L"])


def test_the_entry_line_of_plot_takes_a_sentence(window: MainWindow, qtbot: QtBot) -> None:
    plot = window.plot
    field = plot.entry.field
    QTest.keyClicks(field, "shift R 100")
    QTest.keyClick(field, Qt.Key.Key_Return)
    QTest.keyClicks(field, "step out with the left to nine, heel first, and bend the knee")
    assert window.document.session.ghost is not None
    QTest.keyClick(field, Qt.Key.Key_Return)
    found = [write_count(line).split(" #")[0] for line in window.document.form.postures[0].lines]
    assert found == ["shift R 100", "step L 9 bow heel", "shift L 70"]
    QTest.keyClicks(field, "shfit R 100")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert field.text() == "shfit R 100" and len(window.document.form.postures[0].lines) == 3
