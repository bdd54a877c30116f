"""What memory a window takes: garbage is collected between events, and all of it, with the memory given back, at rest.

Left to itself Python's collector runs in whichever thread happens to allocate, in the middle of whatever that calls.
Cycles with Qt's objects in them are then destroyed while Qt goes through all its widgets (setting a style sheet ends
the program), or in a thread that does not own them. GNU's C library gives each thread memory of its own, and what a
job leaves free in there is used by nobody else: a long evening would take half as much again.
"""

from __future__ import annotations

import contextlib
import ctypes
import gc

from PySide6.QtCore import QAbstractEventDispatcher, QObject, Qt, QTimer
from PySide6.QtWidgets import QApplication
from shiboken6 import isValid

from waltzmark.desktop.courier import courier
from waltzmark.desktop.guard import safely

__all__ = ["Collector", "collect_all", "collect_between_events"]

#: Objects that have come, less those that went, from which the youngest are looked through. A large form is a million
#: objects that live long: they need not be looked through while somebody types.
_YOUNG = 200_000
_MIDDLE = 20  # times that was done, from which those that were left over are looked through too
_ARENAS = -8  # M_ARENA_MAX of malloc.h
_REST_MS = 3000  # since the last thing a thread has done: a hand that types or drags always has something done


def collect_between_events() -> None:
    """From now on the program collects so; asked again, it does already."""
    global _collector
    application = QApplication.instance()
    assert application is not None
    if _collector is None or not isValid(_collector):
        _collector = Collector(application)


class Collector(QObject):
    """Collects garbage for a program with windows, in place of Python's own way."""

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        gc.disable()
        _c_library("mallopt", _ARENAS, 2)
        self.rest = QTimer(self)
        self.rest.setSingleShot(True)
        self.rest.setInterval(_REST_MS)
        self.rest.timeout.connect(safely(collect_all))
        QAbstractEventDispatcher.instance().awake.connect(safely(self._between))
        courier().sent.connect(safely(self._later), Qt.ConnectionType.QueuedConnection)

    def _between(self) -> None:
        young, middle, _ = gc.get_count()
        if young >= _YOUNG:
            gc.collect(1 if middle >= _MIDDLE else 0)
            self.rest.start()

    def _later(self, _: object) -> None:
        if self.rest.isActive():
            self.rest.start()


#: The one of the application. Qt is not asked for it, for then all that the application holds is made known to Python.
_collector: Collector | None = None


def collect_all() -> None:
    """Collects all garbage, also what has long been there, and gives the system back what is free."""
    gc.collect()
    _c_library("malloc_trim", 0)


def _c_library(function: str, *values: int) -> None:
    """Calls a function of the C library, where it has it: others than GNU's have none of these."""
    with contextlib.suppress(AttributeError, OSError):
        getattr(ctypes.CDLL(None), function)(*values)
