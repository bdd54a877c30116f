"""A monkey at the window: seeded acts in all stages, faces and dialogs, and what must hold whatever it does.

Nothing it does may raise, hang for two seconds or end the program; what the window answers is what a fresh reading,
walk and review of the form answer; and all of it can be undone back to the beginning.
"""

from __future__ import annotations

import contextlib
import faulthandler
import random
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from PySide6.QtCore import QCoreApplication, QEvent, QPoint, Qt, QTimer
from PySide6.QtGui import QAction
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractItemView,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QDialog,
    QFileDialog,
    QLineEdit,
    QPushButton,
    QSlider,
    QToolButton,
    QWidget,
)

from tests.waiting import rest
from waltzmark.core.answers.review import review
from waltzmark.core.form.form import Form
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import all_windows, open_window
from waltzmark.files.reading import read_document
from waltzmark.files.writing import render
from waltzmark.words.sentences import sentence

__all__ = ["Monkey"]

HANG = 2.0  # seconds
_FORMS = sorted((Path(__file__).parent.parent / "forms").glob("*.waltz"))
_TYPED = (
    "3.2m",
    "40 cm",
    "",
    "-1",
    "12 boards",
    "1e9",
    "nonsense",
    "7 in",
    "0",
    "999",
    "71.5",
    "shift L 100",
    "step R 9 bow",
    "step L to 0.2 0.4",
    "pivot R heel 3",
    "hold # nothing moves",
    "kick R 12 waist heel",
    "nan",
    "inf",
)
_KEYS = (
    Qt.Key.Key_Return,
    Qt.Key.Key_Escape,
    Qt.Key.Key_Tab,
    Qt.Key.Key_Delete,
    Qt.Key.Key_Space,
    Qt.Key.Key_Up,
    Qt.Key.Key_Down,
    Qt.Key.Key_Left,
    Qt.Key.Key_Right,
    Qt.Key.Key_PageDown,
    Qt.Key.Key_PageUp,
    Qt.Key.Key_Home,
    Qt.Key.Key_H,
    Qt.Key.Key_M,
)
#: What closes windows, leaves the program, asks the system, or plays in real time.
_LEFT_OUT = ("quit", "close", "new window", "print")


def _name(view: QWidget) -> str:
    """What a view is called, or the one it belongs to."""
    named: QWidget | None = view
    while named is not None and not named.accessibleName():
        named = named.parentWidget()
    return view.objectName() if named is None else named.accessibleName()


class Monkey:
    """One monkey, in a window of its own on the demo. did: what it has done so far."""

    def __init__(self, seed: int, folder: Path) -> None:
        self.dice, self.folder = random.Random(seed), folder
        self.wrong: list[str] = []
        self.did: list[str] = []
        self.slowest = (0.0, "")
        self.long: list[str] = []  # what took long once
        self._patched: list[tuple[Any, str, Any]] = []
        self._patch()
        self.window: MainWindow = open_window()
        self.window.resize(1280, 800)
        self.window.filing.open_demo()
        self.first = self.window.document.form
        self.window.document.opened.connect(self._opened)

        # Menus and questions that wait for somebody in a loop of their own are closed, as by Escape.
        self._closer = QTimer()
        self._closer.timeout.connect(self._close_what_waits)
        self._closer.start(150)

    def _close_what_waits(self) -> None:
        for waits in (QApplication.activePopupWidget(), QApplication.activeModalWidget()):
            if waits is not None:
                waits.close()

    def _opened(self) -> None:
        """Another document: undo goes back to its beginning."""
        self.first = self.window.document.form

    # What would wait for somebody is answered at once.

    def _patch(self) -> None:
        dice = self.dice

        def put(owner: Any, name: str, made: Any) -> None:
            self._patched.append((owner, name, vars(owner).get(name)))
            setattr(owner, name, made)

        def closed(dialog: QDialog) -> int:
            dialog.show()
            for _ in range(dice.randrange(4)):
                self._hand(dialog)
            dialog.hide()
            return int(dice.random() < 0.5)

        put(Asking, "choose", lambda _self, _h, _w, answers, **_: dice.randrange(len(answers)))
        put(Asking, "text", lambda *_: dice.choice((None, "Named by hand", "a\u202eb", "x" * 60)))
        put(Asking, "number", lambda *_: dice.choice((None, 1.0, 30.0)))
        put(Asking, "item", lambda _self, _h, _w, items, *_: dice.choice((None, *range(len(items)))))
        put(Asking, "tell", lambda *_: None)
        put(QDialog, "exec", closed)
        put(
            QFileDialog,
            "getSaveFileName",
            staticmethod(lambda *_: (str(self.folder / f"saved-{dice.randrange(5)}"), "")),
        )
        put(QFileDialog, "getOpenFileName", staticmethod(lambda *_: (str(self._own_copy(dice.choice(_FORMS))), "")))
        put(sys, "excepthook", self._told)

    def _own_copy(self, form: Path) -> Path:
        """A file to open that may also be saved."""
        copy = self.folder / form.name
        if not copy.exists():
            copy.write_bytes(form.read_bytes())
        return copy

    def _told(self, kind: type[BaseException], error: BaseException, trace: Any) -> None:
        import traceback

        self.wrong.append("".join(traceback.format_exception(kind, error, trace))[-1500:])

    def close(self) -> None:
        """Leaves everything as it was."""
        self._closer.stop()
        for window in all_windows():
            window.document.jobs.close()
            window.close()
        QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        for owner, name, was in reversed(self._patched):
            setattr(owner, name, was) if was is not None else delattr(owner, name)

    # One act after the other.

    def run(self, acts: int, check: int = 100) -> None:
        """Does so many acts; every *check* of them what must hold is looked at, and every few checks all is undone."""
        for number in range(1, acts + 1):
            if self.wrong:
                return
            self._timed(self.act)
            if number % check == 0:
                self._timed(self._trouble)
                self.same_as_fresh()
                if number % (5 * check) == 0:
                    self.undone()
        self.same_as_fresh()
        self.undone()

    def _timed(self, act: Callable[[], None]) -> None:
        begun, worked = time.perf_counter(), time.thread_time()
        faulthandler.dump_traceback_later(30.0, exit=True)
        try:
            act()
            QApplication.processEvents()
        except Exception:
            self._told(*sys.exc_info())
        finally:
            faulthandler.cancel_dump_traceback_later()
        # What this thread works, or a third of the time there is: other monkeys and their solvers want the machine too.
        work, whole = time.thread_time() - worked, time.perf_counter() - begun
        took = max(work, whole / 3.0)
        last = self.did[-1] if self.did else ""
        self.slowest = max(self.slowest, (took, last))
        # A machine that stands still for a while is no fault of what was done then; what takes long does so again.
        if took > HANG and (took > 4.0 * HANG or last in self.long):
            self.wrong.append(f"{work:.1f} s of work in {whole:.1f} s for {last}")
        if took > HANG:
            self.long.append(last)

    def act(self) -> None:
        """Does something."""
        window, dice = self.window, self.dice
        what = dice.random()
        if what < 0.10:
            names = [name for name in window.desk.book if name.startswith(("stage ", "face "))]
            self._trigger(dice.choice(names))
        elif what < 0.35:
            self._trigger(dice.choice(list(window.desk.book)))
        elif what < 0.40:
            self._note("undo" if dice.random() < 0.6 else "redo")
            window.undo() if self.did[-1] == "undo" else window.document.redo()
        elif what < 0.43:
            self._another_form()
        elif what < 0.46:
            self._note("go")
            window.document.session.go(float(dice.randrange(len(window.document.trace))))
        elif what < 0.50:
            self._note("wait")
            rest(dice.randrange(120))
        else:
            active = QApplication.activeModalWidget() or self._dialog() or window
            self._hand(active)

    def _note(self, words: str) -> None:
        self.did.append(words)

    def _trigger(self, name: str) -> None:
        action: QAction = self.window.desk.book[name]
        if not action.isEnabled() or any(word in name for word in _LEFT_OUT):
            return
        self._note(f"act {name}")
        action.toggle() if action.isCheckable() else action.trigger()

    def _another_form(self) -> None:
        filing, dice = self.window.filing, self.dice
        chance = dice.random()
        self._note("another form")
        if chance < 0.3:
            filing.open_demo()
        elif chance < 0.5:
            self.window.document.open_text('waltzmark = 1\n[form]\ntitle = "Empty"\n')
        else:
            self.window.document.open_text(dice.choice(_FORMS).read_text(encoding="utf-8"))

    def _dialog(self) -> QWidget | None:
        shown = [each for each in QApplication.topLevelWidgets() if isinstance(each, QDialog) and each.isVisible()]
        return self.dice.choice(shown) if shown and self.dice.random() < 0.7 else None

    def _hand(self, of: QWidget) -> None:
        """A hand on something that can be seen in a window."""
        dice = self.dice
        seen = [
            w for w in of.findChildren(QWidget) if w.isVisible() and w.isEnabled() and w.width() > 4 and w.height() > 4
        ]
        if not seen:
            return
        view = dice.choice(seen)
        self._note(f"hand on {type(view).__name__} {_name(view)} of {self.window.shown}")
        with contextlib.suppress(RuntimeError):  # what is acted on may close itself
            if isinstance(view, QComboBox) and view.count():
                view.setCurrentIndex(dice.randrange(view.count()))
                view.activated.emit(view.currentIndex())
            elif isinstance(view, QAbstractSpinBox):
                view.stepBy(dice.choice((-3, -1, 1, 5)))
            elif isinstance(view, QSlider):
                view.setValue(dice.randrange(view.minimum(), view.maximum() + 1))
            elif isinstance(view, QLineEdit) or dice.random() < 0.1:
                view.setFocus()
                if isinstance(view, QLineEdit):
                    view.selectAll()
                QTest.keyClicks(view, dice.choice(_TYPED))
                QTest.keyClick(view, dice.choice(_KEYS))
            elif isinstance(view, QAbstractButton):
                menu = view.menu() if isinstance(view, QPushButton | QToolButton) else None
                if menu is None:
                    view.click()
                elif menu.actions():  # which would wait for somebody
                    dice.choice(menu.actions()).trigger()
            elif isinstance(view, QAbstractItemView) and view.model() is not None and view.model().rowCount():
                view.setCurrentIndex(view.model().index(dice.randrange(view.model().rowCount()), 0))
                if dice.random() < 0.3:
                    QTest.keyClick(view, dice.choice(_KEYS))
            else:
                self._drag(view)

    def _drag(self, view: QWidget) -> None:
        dice, button = self.dice, Qt.MouseButton.LeftButton

        def anywhere() -> QPoint:
            return QPoint(dice.randrange(view.width()), dice.randrange(view.height()))

        place = anywhere()
        QTest.mousePress(view, button, pos=place)
        for _ in range(dice.randrange(4)):
            place = anywhere()
            QTest.mouseMove(view, place)
        if dice.random() < 0.15:
            QTest.keyClick(view, Qt.Key.Key_Escape)
        QTest.mouseRelease(view, button, pos=place)

    # What must hold.

    def _trouble(self) -> None:
        if self.window.notices.told:
            self.wrong += [f"told: {words}" for words in self.window.notices.told]

    def same_as_fresh(self) -> None:
        """What the window answers is what a fresh reading of the form answers."""
        document = self.window.document
        end = time.perf_counter() + 30.0
        while document.judge.review is None and time.perf_counter() < end:
            rest(5)
        known = document.judge.review
        if known is None:
            self.wrong.append("no review came in 30 s")
            return
        form: Form = read_document(render(document.form, document.read)).form
        fresh = review(form, walk(form), document.judge.within)
        for mine, theirs in zip(known.answers, fresh.answers, strict=True):
            said = [(each.good, sentence(each.message), each.row) for each in (mine, theirs)]
            if said[0] != said[1]:
                self.wrong.append(f"answers {mine} and not {theirs}")
        # A passage that was moved measures the same but for how numbers are stored.
        mine_, fresh_ = (
            [
                (f.rule, f.severity, f.posture, f.count, None if f.measured is None else round(f.measured, 6))
                for f in each.findings
            ]
            for each in (known, fresh)
        )
        if mine_ != fresh_:
            only = [each for each in mine_ if each not in fresh_], [each for each in fresh_ if each not in mine_]
            self.wrong.append(f"finds {only[0]} where a fresh check finds {only[1]}")

    def undone(self) -> None:
        """All that was done to the document is undone, and done again."""
        document, now = self.window.document, self.window.document.form
        steps, done = 0, [step.words for step in document.history._done]
        while document.undo_words is not None:
            document.undo()
            steps += 1
        if document.form != self.first:
            self.wrong.append(f"undone {steps} times it is another form")
        for _ in range(steps):
            document.redo()
        if document.form != now:
            again = [step.words for step in document.history._done]
            self.wrong.append(f"done again {steps} times it is another form: {done}, and then {again}")
        self._timed(QApplication.processEvents)


def seeds(first: int) -> Iterator[int]:
    """Seeds from one on."""
    while True:
        yield first
        first += 1
