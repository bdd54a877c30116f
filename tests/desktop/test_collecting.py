"""What of Qt's is in a cycle goes between events and on the interface thread; at rest, also what has long been there."""

from __future__ import annotations

import gc
import threading
import weakref

import pytest
from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from waltzmark.desktop.collecting import Collector
from waltzmark.desktop.courier import courier
from waltzmark.desktop.widgets.lengths import LengthField
from waltzmark.desktop.window import MainWindow


def cycle(where: list[int]) -> weakref.ref[QObject]:
    """An object of Qt's that only itself still knows, and that says in which thread it is destroyed."""
    made = QObject()
    made.destroyed.connect(lambda: where.append(threading.get_ident()), Qt.ConnectionType.DirectConnection)
    made.itself = made  # type: ignore[attr-defined]
    return weakref.ref(made)


@pytest.mark.usefixtures("window")
def test_what_a_thread_makes_destroys_nothing_until_events_are_looked_at(qtbot: QtBot) -> None:
    where: list[int] = []
    known, kept = cycle(where), list[list[int]]()

    def work() -> None:
        kept.extend([number] for number in range(400_000))

    thread = threading.Thread(target=work)
    thread.start()
    thread.join()
    kept.extend([number] for number in range(400_000))
    assert known() is not None and not where
    qtbot.waitUntil(lambda: known() is None)
    assert where == [threading.get_ident()]


@pytest.mark.usefixtures("window")
def test_at_rest_all_is_collected_and_what_threads_do_puts_it_off(qtbot: QtBot) -> None:
    made = QObject()
    made.itself = made  # type: ignore[attr-defined]
    known = weakref.ref(made)
    gc.collect()  # it is old now
    del made
    application = QApplication.instance()
    assert application is not None
    collector = application.findChild(Collector)
    assert collector is not None
    usual = collector.rest.interval()
    collector.rest.setInterval(60_000)
    kept = [[number] for number in range(400_000)]
    qtbot.waitUntil(collector.rest.isActive)
    begun = collector.rest.timerId()
    thread = threading.Thread(target=courier().send, args=(kept.clear,))
    thread.start()
    thread.join()
    qtbot.waitUntil(lambda: not kept and collector.rest.timerId() != begun)
    assert known() is not None
    collector.rest.start(0)
    qtbot.waitUntil(lambda: known() is None)
    assert not collector.rest.isActive()
    collector.rest.setInterval(usual)


def test_fields_for_lengths_go_with_what_they_were_about(window: MainWindow) -> None:
    def there() -> list[LengthField]:
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        gc.collect()
        return [each for each in gc.get_objects() if type(each) is LengthField]

    before, fields = len(there()), [LengthField(window.document, "Width") for _ in range(5)]
    while fields:
        fields.pop().deleteLater()
    assert len(there()) == before
    window.document.session.figures_changed.emit()  # and nobody is told who has gone
