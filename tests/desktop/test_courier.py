"""What threads send comes to the interface thread in its order, also when who waited for it has gone."""

from __future__ import annotations

import threading

from pytestqt.qtbot import QtBot

from waltzmark.core.base.progress import Progress
from waltzmark.desktop.courier import courier
from waltzmark.desktop.jobs import Jobs


def test_what_many_threads_send_comes_on_the_interface_thread_each_in_its_order(qtbot: QtBot) -> None:
    came: list[tuple[int, int, bool]] = []
    own = threading.get_ident()

    def send(name: int) -> None:
        for number in range(200):
            carrier.send(lambda number=number: came.append((name, number, threading.get_ident() == own)))  # type: ignore[misc]

    carrier = courier()
    threads = [threading.Thread(target=send, args=(name,)) for name in range(4)]
    for each in threads:
        each.start()
    qtbot.waitUntil(lambda: len(came) == 800)
    assert all(here for *_, here in came) and courier() is carrier
    assert all([n for name, n, _ in came if name == one] == list(range(200)) for one in range(4))


def test_jobs_that_are_destroyed_while_their_threads_send_do_no_harm(qtbot: QtBot) -> None:
    """Many at once, so that some end just as they go: that was the end of the program one time in fifty."""
    told: list[None] = []

    def work(progress: Progress) -> None:
        for _ in range(20):
            progress.tell(0.5)

    for number in range(150):
        jobs = Jobs()
        for asker in "abc":
            jobs.ask(asker, work, told.append)
        qtbot.wait(1)
        jobs.deleteLater() if number % 2 else jobs.close()
        del jobs
    qtbot.waitUntil(lambda: threading.active_count() < 5, timeout=10_000)
