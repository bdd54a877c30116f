"""Long work runs beside the window: the newest wins, errors come back, and a window that closes waits for nothing."""

from __future__ import annotations

import contextlib
import os
import signal
import threading
import time
from collections.abc import Callable, Iterator
from functools import partial

import pytest
from pytestqt.exceptions import capture_exceptions
from pytestqt.qtbot import QtBot
from shiboken6 import delete

from tests.desktop.conftest import reviewed, type_count
from tests.desktop.far_work import broken, counted, deaf, endless, given, killed, leaving, number, odd, unsayable
from waltzmark.core.base.progress import SILENT, Progress
from waltzmark.desktop import app
from waltzmark.desktop.jobs import Jobs
from waltzmark.desktop.plot.floor import FloorView
from waltzmark.desktop.window import MainWindow


@pytest.fixture
def jobs(qapp: object) -> Iterator[Jobs]:
    made = Jobs()
    yield made
    made.close()


@pytest.mark.parametrize("work", [killed, unsayable, odd, leaving])
def test_a_process_that_ends_in_any_way_is_told_and_the_next_work_is_done(
    jobs: Jobs, qtbot: QtBot, work: Callable[[Progress], object]
) -> None:
    failed: list[BaseException] = []
    done: list[object] = []
    jobs.ask("a", work, done.append, failed=failed.append, process=True)
    qtbot.waitUntil(lambda: bool(failed), timeout=20_000)
    assert not done and len(failed) == 1 and not jobs.busy("a")
    if work in (killed, odd):
        assert str(failed[0]) == "its process ended before the work was done"
    jobs.ask("a", counted, done.append, failed=failed.append, process=True)
    qtbot.waitUntil(lambda: done == [5], timeout=20_000)
    assert len(failed) == 1


def numbered(jobs: Jobs, qtbot: QtBot, strange: bool = False) -> int:
    done: list[int] = []
    jobs.ask("a", number, done.append, process=True, strange=strange)
    qtbot.waitUntil(lambda: bool(done), timeout=20_000)
    return done[0]


def test_a_process_is_used_again_unless_it_reads_what_somebody_else_made_or_has_ended(jobs: Jobs, qtbot: QtBot) -> None:
    used = {numbered(jobs, qtbot) for _ in range(8)}
    assert os.getpid() not in used and len(used) <= 3  # what an earlier test has stopped may come back in between
    strange = numbered(jobs, qtbot, strange=True)
    assert strange not in used | {os.getpid()} and numbered(jobs, qtbot, strange=True) not in used | {strange}
    for each in used:  # as a system that is short of memory does
        with contextlib.suppress(ProcessLookupError):
            os.kill(each, signal.SIGKILL)
    assert numbered(jobs, qtbot) not in used | {strange, os.getpid()}


def test_what_is_stopped_leaves_no_word_behind_that_would_stop_the_next(jobs: Jobs, qtbot: QtBot) -> None:
    begun: list[float] = []
    jobs.ask("a", endless, lambda _: None, progress=lambda share, _: begun.append(share), process=True)
    qtbot.waitUntil(lambda: bool(begun), timeout=20_000)
    for _ in range(12):  # some are stopped before they begin, some while they work, some when they are done
        jobs.ask("a", counted, lambda _: None, process=True)
        qtbot.wait(3)
    done: list[int] = []
    jobs.ask("a", counted, done.append, process=True)
    qtbot.waitUntil(lambda: done == [5], timeout=20_000)


@pytest.mark.parametrize("process", [False, True])
def test_work_tells_how_far_it_is_and_what_it_has(jobs: Jobs, qtbot: QtBot, process: bool) -> None:
    told: list[object] = []
    done: list[int] = []
    jobs.ask("a", counted, done.append, progress=lambda *each: told.append(each), partial=told.append, process=process)
    assert jobs.busy("a")
    qtbot.waitUntil(lambda: done == [5], timeout=20_000)
    assert told == [(n / 5, f"{n} of 5") for n in range(5)] + [4] and not jobs.busy("a")
    assert counted(SILENT) == 5


@pytest.mark.parametrize("process", [False, True])
def test_an_error_comes_back_to_whoever_asked_else_as_trouble(jobs: Jobs, qtbot: QtBot, process: bool) -> None:
    failed: list[BaseException] = []
    troubles: list[str] = []
    jobs.trouble.connect(lambda asker, error: troubles.append(f"{asker}: {error}"))
    jobs.ask("a", broken, lambda _: None, failed=failed.append, process=process)
    jobs.ask("b", broken, lambda _: None, process=process)
    qtbot.waitUntil(lambda: len(failed) == len(troubles) == 1, timeout=20_000)
    assert isinstance(failed[0], ZeroDivisionError) and troubles == ["b: by nothing"]


@pytest.mark.parametrize(("work", "process"), [(endless, False), (endless, True), (deaf, True)])
def test_what_is_asked_anew_stops_what_runs(
    jobs: Jobs, qtbot: QtBot, work: Callable[[Progress], None], process: bool
) -> None:
    done: list[object] = []
    begun: list[float] = []
    jobs.ask("a", work, done.append, progress=lambda share, _: begun.append(share), process=process)
    if work is endless:
        qtbot.waitUntil(lambda: bool(begun), timeout=20_000)
    else:
        qtbot.wait(300)
    for each in range(20):
        jobs.ask("a", partial(given, each), done.append, pause=5)
    qtbot.waitUntil(lambda: done == [19], timeout=20_000)  # one runs at a time, and those in between never do


def test_a_stopped_work_says_nothing_more(jobs: Jobs, qtbot: QtBot) -> None:
    gate = threading.Event()
    done: list[object] = []
    jobs.ask("a", lambda _: gate.wait(5), done.append)
    qtbot.wait(30)
    jobs.stop("a")
    gate.set()
    qtbot.wait(60)
    assert done == [] and not jobs.busy("a")


def test_a_window_closes_at_once_while_work_goes_on_and_nothing_is_raised(
    make_window: Callable[[], MainWindow], qtbot: QtBot
) -> None:
    window, gate = make_window(), threading.Event()
    with capture_exceptions() as raised:
        window.document.jobs.ask("long", lambda _: gate.wait(10), lambda _: None)
        qtbot.wait(30)
        begun = time.monotonic()
        window.close()
        assert time.monotonic() - begun < 5  # it does not wait for the gate
        lone = Jobs()  # one that Qt deletes while it works
        lone.ask("long", lambda _: gate.wait(10), lambda _: None)
        qtbot.wait(30)
        delete(lone)
        gate.set()
        qtbot.wait(60)
    assert raised == []


def test_a_review_that_fails_is_told_once_and_the_window_goes_on(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    def fails(*_: object) -> None:
        raise ZeroDivisionError("in a rule")

    with monkeypatch.context() as patched:
        patched.setattr("waltzmark.core.answers.review.review", fails)
        for text in ("shift R 100", "hold"):
            type_count(window, text)
            qtbot.wait(250)
        assert len(window.notices.told) == 1 and "in a rule" in window.notices.told[0]
        assert window.notices.act.text() == "Save a copy …"
    type_count(window, "torso 3")
    reviewed(window, qtbot)  # the next one is as if nothing had been


def test_a_paint_that_fails_is_told_once_with_a_way_to_save(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr("sys.excepthook", app._tell)

    def fails(*_: object) -> None:
        raise ZeroDivisionError("in a paint")

    with monkeypatch.context() as patched:
        patched.setattr(FloorView, "paint_frame", fails)
        for _ in range(3):
            window.plot.floor.update()
            qtbot.wait(20)
    assert len(window.notices.told) == 1 and "in a paint" in window.notices.told[0]
    assert "ZeroDivisionError" in capsys.readouterr().err  # and it is in the terminal for whoever looks
