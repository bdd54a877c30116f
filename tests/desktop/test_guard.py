"""What goes wrong where Qt calls Python is told, and ends nothing: on every supported Python."""

from __future__ import annotations

import ast
import functools
import gc
import importlib
import inspect
import subprocess
import sys
import weakref
from pathlib import Path

import pytest
from PySide6.QtCore import QObject, Signal

import waltzmark.desktop
from tests.sources import sources
from waltzmark.desktop.guard import guarded, overrides, safely

DESKTOP = Path(waltzmark.desktop.__path__[0])
MODULES = [
    "waltzmark.desktop." + ".".join(path.relative_to(DESKTOP).with_suffix("").parts).removesuffix(".__init__")
    for path in sorted(DESKTOP.rglob("*.py"))
    if path.name != "__init__.py"
]

#: Errors that C code raises, wherever Qt calls us; each must be told and survived.
WRONG = """
import os, sys
os.environ["QT_QPA_PLATFORM"] = "offscreen"
from PySide6.QtCore import QEvent, QSize, QTimer
from PySide6.QtWidgets import QApplication, QVBoxLayout, QWidget
from waltzmark.desktop.guard import guarded, safely
told = []
sys.excepthook = lambda kind, error, trace: told.append(kind.__name__)
application = QApplication([])

@guarded
class Wrong(QWidget):
    def paintEvent(self, event):
        [][0]
    def sizeHint(self):
        return 1 // 0
    def event(self, event):
        if event.type() == QEvent.Type.User:
            {}["x"]
        return super().event(event)
    def slot(self):
        int("x")

outer, wrong = QWidget(), Wrong()
QVBoxLayout(outer).addWidget(wrong)
outer.show()
application.sendEvent(wrong, QEvent(QEvent.Type.User))
for called in (lambda: [][0], wrong.slot):
    QTimer.singleShot(0, safely(called))
QTimer.singleShot(100, application.quit)
application.exec()
print(sorted(set(told)))
"""


def test_an_exception_of_c_code_is_told_and_ends_nothing() -> None:
    done = subprocess.run([sys.executable, "-c", WRONG], capture_output=True, text=True, timeout=60, check=False)
    assert done.returncode == 0, done.stderr[-2000:]
    assert done.stdout.strip() == "['IndexError', 'KeyError', 'ValueError', 'ZeroDivisionError']"


def test_every_class_that_overrides_something_of_qt_is_guarded() -> None:
    seen = 0
    for name in MODULES:
        module = importlib.import_module(name)
        for cls in vars(module).values():
            if inspect.isclass(cls) and cls.__module__ == name:
                found = overrides(cls)
                seen += len(found)
                assert all("guards" in function.__dict__ for function in found.values()), f"{name}.{cls.__name__}"
    assert seen > 80


def test_whatever_a_signal_or_a_timer_calls_is_called_safely() -> None:
    seen = 0
    for path, node in sources().calls:
        if "desktop" not in path.parts or path.name == "guard.py" or not isinstance(node.func, ast.Attribute):
            continue
        if node.func.attr not in ("connect", "singleShot") or len(node.args) > 2:
            continue  # the session bus calls a slot by its name
        words = ast.unparse(node.args[0] if node.func.attr == "connect" else node.args[-1])
        seen += 1
        safe = words.startswith("safely(") or words.endswith(".emit") or words.isidentifier()
        assert safe, f"{path.name}, line {node.lineno}: {words}"
    assert seen > 250


class Sender(QObject):
    sent = Signal(int, str)


class Receiver(QObject):
    def __init__(self) -> None:
        super().__init__()
        self.got: list[object] = []

    def none(self) -> None:
        self.got.append("none")

    def one(self, a: int) -> None:
        self.got.append(a)

    def two(self, a: int, b: str = "") -> None:
        self.got.append((a, b))

    def many(self, *values: object) -> None:
        self.got.append(values)


@pytest.mark.usefixtures("qapp")
def test_a_function_is_given_as_many_values_as_it_takes_and_can_be_disconnected() -> None:
    sender, receiver = Sender(), Receiver()
    for method in (receiver.none, receiver.one, receiver.two, receiver.many):
        sender.sent.connect(safely(method))
    sender.sent.connect(safely(lambda a, b, kept="mine": receiver.got.append((kept, a, b))))
    sender.sent.connect(safely(functools.partial(receiver.many, "first")))
    sender.sent.emit(7, "x")
    assert receiver.got == ["none", 7, (7, "x"), (7, "x"), ("mine", 7, "x"), ("first", 7, "x")]
    receiver.got.clear()
    sender.sent.disconnect(safely(receiver.one))
    sender.sent.emit(8, "y")
    assert 8 not in receiver.got and "none" in receiver.got
    assert safely(sender.sent.emit) is not None and safely(print) is print


@pytest.mark.usefixtures("qapp")
def test_a_connection_keeps_nobody_alive() -> None:
    sender, receiver = Sender(), Receiver()
    sender.sent.connect(safely(receiver.one))
    known = weakref.ref(receiver)
    del receiver
    gc.collect()
    assert known() is None
    sender.sent.emit(1, "x")


def test_only_what_stands_in_for_something_of_qt_is_guarded(monkeypatch: pytest.MonkeyPatch) -> None:
    told: list[object] = []
    monkeypatch.setattr("sys.excepthook", lambda _kind, error, _trace: told.append(error))

    @guarded
    class Both(QObject):
        def timerEvent(self, _event: object) -> None:
            raise ValueError("told")

        def own(self) -> None:
            raise ValueError("raised")

    both = Both()
    both.timerEvent(None)
    assert [str(error) for error in told] == ["told"]
    with pytest.raises(ValueError, match="raised"):
        both.own()
