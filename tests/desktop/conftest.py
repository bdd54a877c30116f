"""A real window for every test, with settings of its own and nothing left over."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator, Sequence
from functools import lru_cache
from pathlib import Path

import platformdirs
import pytest
from PySide6.QtCore import QCoreApplication, QEvent, QModelIndex, Qt
from PySide6.QtTest import QTest
from pytestqt.qtbot import QtBot
from shiboken6 import isValid

from tests.waiting import until
from waltzmark.core.judge.finding import Finding, Judged
from waltzmark.core.practice.entries import Entry
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text, told_here
from waltzmark.desktop.app import make_application
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.document import Document
from waltzmark.desktop.filing import Filing
from waltzmark.desktop.log.stage import LogStage
from waltzmark.desktop.new_form import NewForm
from waltzmark.desktop.practise.stage import PractiseStage
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.sound import SILENT_SOUND
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import all_windows, open_window
from waltzmark.files.book import Book, book_path
from waltzmark.files.reading import read_document

if not any(os.environ.get(name) for name in ("DISPLAY", "WAYLAND_DISPLAY")):
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ[SILENT_SOUND] = "1"  # what is played goes to a device that nobody hears


@pytest.fixture(scope="session")
def qapp() -> object:
    return make_application()


@pytest.fixture
def settings(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Settings:
    monkeypatch.setattr(platformdirs, "user_config_dir", lambda *_: str(tmp_path / "config"))
    monkeypatch.setattr(platformdirs, "user_state_dir", lambda *_: str(tmp_path / "state"))
    monkeypatch.setattr(platformdirs, "user_data_dir", lambda *_: str(tmp_path / "data"))
    made = Settings()
    made.set_text("cautions", "seen")
    return made


def found(document: Document) -> tuple[Finding, ...]:
    """The findings of the form as it is, as soon as they are known."""
    return judged(document).findings


def judged(document: Document) -> Judged:
    """All that is found in the form as it is, as soon as it is known."""
    until(lambda: document.judge.known)
    known = document.judge.judgement
    assert known is not None
    return known


def news(document: Document) -> str:
    """What the last change of body or school did to the findings, as soon as it is known."""
    until(lambda: document.judge.known and document.judge.news)  # what it was before may have to be judged first
    return document.judge.news


@pytest.fixture
def make_window(
    qtbot: QtBot, settings: Settings, monkeypatch: pytest.MonkeyPatch
) -> Iterator[Callable[[], MainWindow]]:
    made: list[MainWindow] = []

    def unasked(*arguments: object, **_: object) -> None:
        raise AssertionError(f"asked: {arguments[1:3]}")

    for asks in ("choose", "text", "number", "item"):  # a question nobody answers would wait for ever
        monkeypatch.setattr(Asking, asks, unasked)
    monkeypatch.setattr(NewForm, "exec", lambda _: NewForm.DialogCode.Accepted)

    def make(first: Callable[[Filing], object] = lambda _: None) -> MainWindow:
        window = open_window(settings, first)
        window.resize(1280, 800)
        qtbot.waitExposed(window)
        made.append(window)
        return window

    yield make
    chooses(monkeypatch, "Discard them", "Discard them for good")
    for window in (*made, *all_windows()):
        if isValid(window):  # one that was closed is gone
            window.close()
    # Else what is to be deleted stays, and every window after it restyles it all.
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


@pytest.fixture
def window(make_window: Callable[[], MainWindow]) -> MainWindow:
    return make_window()


@pytest.fixture
def demo(make_window: Callable[..., MainWindow], qtbot: QtBot) -> MainWindow:
    def first(filing: Filing) -> None:
        # What is known of the demo's postures is worked out once, and found again as after an edit.
        filing.document.trace = _demo_walked(told_here(demo_text()))
        filing.open_demo()

    window = make_window(first)
    reviewed(window, qtbot)
    return window


@lru_cache(maxsize=2)
def _demo_walked(text: str) -> Trace:
    return walk(read_document(text).form)


def chooses(monkeypatch: pytest.MonkeyPatch, *wanted: str) -> list[str]:
    """Lets every question be answered with one of its buttons, by its words, the first of several that it has; gathers
    what is asked."""
    asked: list[str] = []

    def choose(_self: Asking, heading: str, words: str, answers: Sequence[str], **_: int) -> int:
        asked.append(f"{heading}\n{words}")
        return next(list(answers).index(each) for each in wanted if each in answers)

    monkeypatch.setattr(Asking, "choose", choose)
    return asked


def answers(monkeypatch: pytest.MonkeyPatch, **given: object) -> None:
    """Lets what is asked for next be given: text, number or item; None closes the dialog."""
    for kind, value in given.items():
        monkeypatch.setattr(Asking, kind, lambda *_, value=value: value)


def opened(window: MainWindow, face: str = "walk") -> PractiseStage:
    window.show_stage("practise")
    window.practise.show_face(face)
    return window.practise


def logged(window: MainWindow, face: str = "next") -> LogStage:
    window.show_stage("log")
    window.log.show_face(face)
    return window.log


def kept() -> tuple[Entry, ...]:
    """What stands in the book on disk, read by another hand."""
    book = Book(book_path())
    found = book.entries()
    book.close()
    return found


def reviewed(window: MainWindow, qtbot: QtBot) -> None:
    """Waits for the findings and the review of what the window shows."""
    judge = window.document.judge
    qtbot.waitUntil(lambda: judge.known and judge.review is not None, timeout=20_000)


def row_index(window: MainWindow, row: int) -> QModelIndex:
    """The score's entry of a row of the trace."""
    rows = window.plot.score.rows
    return next(rows.index(n) for n, entry in enumerate(rows.entries) if entry.row == row and entry.number)


def type_count(window: MainWindow, text: str, enter: bool = True) -> None:
    """Types a count key by key into the entry line."""
    field = window.plot.entry.field
    field.setFocus()
    QTest.keyClicks(field, text)
    if enter:
        QTest.keyClick(field, Qt.Key.Key_Return)
