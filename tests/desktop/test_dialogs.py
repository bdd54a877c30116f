"""The real questions, answered by real keys and clicks: what is pressed is what is done."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import pytest
from pypdf import PdfReader
from PySide6.QtCore import QPoint, QPointF, Qt, QTimer
from PySide6.QtGui import QWheelEvent
from PySide6.QtPrintSupport import QPrinterInfo
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QApplication,
    QComboBox,
    QDialog,
    QDoubleSpinBox,
    QFileDialog,
    QInputDialog,
    QLabel,
    QLineEdit,
    QMessageBox,
    QPushButton,
    QWidget,
)
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import kept, logged, reviewed, type_count
from tests.desktop.test_sheets import refreshed
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.history import Selection
from waltzmark.desktop.sheets.dialog import SheetsDialog, Told
from waltzmark.desktop.window import MainWindow

REAL = {name: getattr(Asking, name) for name in ("choose", "text", "number", "item")}
MARKED = "<img src=x> & <b>bold</b>"
Act = Callable[[QDialog], object]


@pytest.fixture
def asking(demo: MainWindow, monkeypatch: pytest.MonkeyPatch) -> Asking:
    """The demo's window, whose questions are really asked."""
    for name, real in REAL.items():
        monkeypatch.setattr(Asking, name, real)
    return demo.desk.asking


def soon(*acts: Act) -> list[str]:
    """Lets each dialog that opens be acted on, one after the other; gathers what they say."""
    said: list[str] = []
    left = list(acts)

    def look(tries: int = 400) -> None:
        dialog = QApplication.activeModalWidget()
        if not isinstance(dialog, QDialog) or not dialog.isVisible():
            assert tries, "no dialog came"
            QTimer.singleShot(10, lambda: look(tries - 1))
            return
        said.append("\n".join([dialog.windowTitle(), *(label.text() for label in dialog.findChildren(QLabel))]))
        act = left.pop(0)
        if left:
            QTimer.singleShot(20, look)
        act(dialog)

    QTimer.singleShot(0, look)
    return said


def key(which: Qt.Key) -> Act:
    return lambda dialog: QTest.keyClick(dialog.focusWidget() or dialog, which)


def press(words: str) -> Act:
    """Clicks the button of these words."""

    def act(dialog: QDialog) -> None:
        button = next(b for b in dialog.findChildren(QPushButton) if b.text().replace("&", "") == words)
        QTest.mouseClick(button, Qt.MouseButton.LeftButton)

    return act


def typed(text: str, which: Qt.Key = Qt.Key.Key_Return) -> Act:
    """Types into the first field of a dialog, in place of what is there."""

    def act(dialog: QDialog) -> None:
        field = next(
            w for w in dialog.findChildren(QWidget) if isinstance(w, QLineEdit | QDoubleSpinBox) and w.isVisible()
        )
        field.selectAll()
        QTest.keyClicks(field, text)
        QTest.keyClick(field, which)

    return act


def test_a_question_is_answered_by_its_button_by_enter_or_by_escape(asking: Asking) -> None:
    answers = ["Record it", "Discard it", "Later"]

    def ask(act: Act, **how: int) -> tuple[int, str]:
        said = soon(act)
        return asking.choose(f"What of {MARKED}?", f"{MARKED}\nstands there.", answers, **how), said[0]

    for number, words in enumerate(answers):
        assert ask(press(words))[0] == number
    for default in range(3):
        assert ask(key(Qt.Key.Key_Return), default=default)[0] == default
    assert ask(key(Qt.Key.Key_Escape))[0] == 2 and ask(key(Qt.Key.Key_Escape), escape=0)[0] == 0
    assert ask(lambda dialog: dialog.close(), escape=1)[0] == 1
    plain: list[Qt.TextFormat] = []

    def look(dialog: QDialog) -> None:
        assert isinstance(dialog, QMessageBox)
        plain.extend(label.textFormat() for label in dialog.findChildren(QLabel) if MARKED in label.text())
        dialog.reject()

    assert MARKED in ask(look)[1]
    assert len(plain) == 2 and set(plain) == {Qt.TextFormat.PlainText}
    many = "\n".join(f"line {n}" for n in range(30))
    said = soon(key(Qt.Key.Key_Escape))
    asking.choose("Many", many, answers)
    assert "line 11\n… and 18 more" in said[0] and "line 12" not in said[0]


def test_a_text_a_number_and_one_of_several_are_typed_or_given_up(asking: Asking) -> None:
    said = soon(typed("  The harbour  "))
    assert asking.text("Name", f"What is {MARKED} called?", "now") == "The harbour" and MARKED in said[0]
    soon(typed("another", Qt.Key.Key_Escape))
    assert asking.text("Name", "Name of the posture:", "now") is None
    soon(key(Qt.Key.Key_Return))
    assert asking.text("Name", "Name of the posture:", "now") == "now"
    for words, value in (("12.3", 12.3), ("12.34", 12.3), ("999999", 1000.0), ("", 2.0)):
        soon(typed(words))
        got = asking.number("Beats", "How many?", 2.0, 0.1, 1000.0)
        assert got == pytest.approx(value) or (got is not None and words and 0.1 <= got <= 1000.0 and value == 1000.0)
    soon(key(Qt.Key.Key_Escape))
    assert asking.number("Beats", "How many?", 2.0, 0.1, 1000.0) is None
    names = ["12 o'clock", MARKED, "6 o'clock"]

    def down(dialog: QDialog) -> None:
        assert isinstance(dialog, QInputDialog)
        QTest.keyClick(dialog.findChildren(QComboBox)[0], Qt.Key.Key_Down)
        QTest.keyClick(dialog, Qt.Key.Key_Return)

    soon(down)
    assert asking.item("The other side", "About which line?", names, 1) == 2
    soon(key(Qt.Key.Key_Escape))
    assert asking.item("The other side", "About which line?", names, 1) is None


def test_what_is_not_saved_is_asked_about_and_escape_keeps_the_window(
    asking: Asking, demo: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    type_count(demo, "hold @3")
    said = soon(key(Qt.Key.Key_Escape))
    assert not demo.close() and demo.isVisible() and len(said) == 1
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: ("", ""))
    soon(press("Save"))  # and then no file is chosen
    assert not demo.close() and demo.isVisible()
    target = tmp_path / "kept.waltz"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    soon(press("Save"))
    assert demo.close() and "hold @3" in target.read_text(encoding="utf-8")


def test_postures_are_named_timed_and_noted_through_their_questions(asking: Asking, demo: MainWindow) -> None:
    posture, document = demo.document.form.postures[1], demo.document
    demo.plot.score.setFocus()
    document.session.go(float(document.trace.span(posture.id)[0]))
    soon(typed(MARKED))
    demo.desk.book["rename"].trigger()
    assert document.form.posture(posture.id).name == MARKED
    document.session.select(Selection(posture.id, 0, 1))
    soon(typed("2.5"))
    demo.desk.book["beats"].trigger()
    assert document.form.posture(posture.id).lines[0].beats == 2.5
    soon(typed("soft knees"))
    demo.desk.book["note"].trigger()
    noted = document.form.posture(posture.id)
    assert "soft knees" in (noted.note or "", noted.lines[0].note or "")
    before = document.form
    for name in ("rename", "beats", "note"):
        soon(key(Qt.Key.Key_Escape))
        demo.desk.book[name].trigger()
    assert document.form is before


def wheeled(widget: QWidget, steps: int) -> None:
    place = QPointF(widget.rect().center())
    event = QWheelEvent(
        place,
        widget.mapToGlobal(place),
        QPoint(),
        QPoint(0, 120 * steps),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(widget, event)


def sheets(demo: MainWindow, qtbot: QtBot, number: int) -> SheetsDialog:
    """The sheets, with the pages of one of them made."""
    reviewed(demo, qtbot)
    dialog = demo.dialogs.sheets()
    dialog.kind.setFocus()
    for _ in range(number):
        QTest.keyClick(dialog.kind, Qt.Key.Key_Down)
    qtbot.waitUntil(
        lambda: dialog.preview.made is not None and dialog.preview.made.sheet == dialog.sheet, timeout=20_000
    )
    return dialog


def test_pages_are_turned_printed_into_a_named_file_and_stopped(
    asking: Asking, demo: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    dialog = sheets(demo, qtbot, 2)
    dialog.figures.setCurrentIndex(2)  # none: there is less to draw
    refreshed(dialog, qtbot)
    preview = dialog.preview
    for act, page in (
        (lambda: wheeled(preview, -1), 1),
        (lambda: wheeled(preview, -1), 2),
        (lambda: wheeled(preview, 1), 1),
        (lambda: QTest.keyClick(preview, Qt.Key.Key_Left), 0),
        (lambda: wheeled(preview, 1), 0),
        (lambda: QTest.keyClick(preview, Qt.Key.Key_Down), 1),
    ):
        act()
        assert preview.page == page
    monkeypatch.setattr(QPrinterInfo, "availablePrinterNames", list)
    monkeypatch.setattr(Path, "home", lambda: tmp_path)
    fields: list[str] = []

    def printed(asked: QDialog) -> None:
        fields.extend(field.text() for field in asked.findChildren(QLineEdit) if field.objectName() == "filename")
        press("Print")(asked)

    soon(printed)
    dialog.print_it()
    printed_to = tmp_path / f"{dialog.document.title}, postures.pdf"
    assert fields == [str(printed_to)] and len(PdfReader(printed_to).pages) == 4
    soon(press("Cancel"))
    dialog.print_it()
    # Stopped after its second page: nothing is left of it.
    tell = Told.tell

    def stopping(told: Told, share: float, words: str = "") -> None:
        if share > 0.3:
            told.cancel()
        tell(told, share, words)

    monkeypatch.setattr(Told, "tell", stopping)
    dialog.write(tmp_path / "none.pdf")
    assert dialog.said.text() == "Stopped. Nothing was saved." and not (tmp_path / "none.pdf").exists()
    monkeypatch.setattr(Told, "tell", tell)
    proposed: list[str] = []
    for chosen, name in (("Drawing (*.svg)", "all.svg"), ("PDF (*.pdf)", "all.pdf")):

        def answer(*asked: object, chosen: str = chosen) -> tuple[str, str]:
            proposed.append(Path(str(asked[2])).name)
            return str(tmp_path / "all"), chosen

        monkeypatch.setattr(QFileDialog, "getSaveFileName", answer)
        dialog.choose_file()
        assert proposed[-1] == printed_to.name
        assert any(name.partition(".")[2] == path.suffix[1:] for path in tmp_path.iterdir())
    (tmp_path / "all.pdf").write_text("mine", encoding="utf-8")
    soon(key(Qt.Key.Key_Return))  # Enter keeps what is there
    dialog.write(tmp_path / "all.pdf")
    assert (tmp_path / "all.pdf").read_text(encoding="utf-8") == "mine"
    soon(press("Replace"))
    dialog.write(tmp_path / "all.pdf")
    assert len(PdfReader(tmp_path / "all.pdf").pages) == 4
    dialog.reject()


def test_the_book_goes_out_and_in_through_its_file_questions(
    asking: Asking, demo: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    stage = logged(demo, "book")
    soon(typed("the left knee felt stiff"))
    demo.desk.book["write note"].trigger()
    assert [entry.note for entry in kept()] == ["the left knee felt stiff"]
    told: list[str] = []
    monkeypatch.setattr(Asking, "tell", lambda _self, heading, words: told.append(f"{heading}: {words}"))
    for kind in ("csv", "json"):
        target = tmp_path / f"out.{kind}"
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, target=target: (str(target), ""))
        stage.export(kind)
        assert "the left knee felt stiff" in target.read_text(encoding="utf-8")
        monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_, target=target: (str(target), ""))
        stage.take_in()
        qtbot.waitUntil(lambda: bool(told))
        assert " 0 " in told.pop() and len(kept()) == 1
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(tmp_path / "none" / "x.csv"), ""))
    stage.export("csv")
    assert told.pop() and not told
    spoilt = tmp_path / "spoilt.csv"

    def read(path: Path) -> str:
        stage.read_book(path)
        qtbot.waitUntil(lambda: bool(told))
        return told.pop()

    for written, says in (
        (b"\xff\xfe\x00", "spoilt.csv"),
        (b"when,kind\nyesterday,walk\n", "line 2"),
        (b"{", "JSON"),
        (b"a,b\n1,2\n", "“kind”"),
    ):
        spoilt.write_bytes(written)
        assert says in read(spoilt) and len(kept()) == 1
    assert "No such file" in read(tmp_path / "missing.csv")
    with spoilt.open("wb") as file:
        file.truncate(50_000_001)
    assert "at most 50 MB" in read(spoilt)
