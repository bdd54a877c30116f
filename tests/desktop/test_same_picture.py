"""What is kept, moved, drawn ahead and drawn only in part looks as it would if it were made anew."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget

from tests.desktop.conftest import found, reviewed, type_count
from tests.waiting import rest
from waltzmark.core.base.records import replace
from waltzmark.desktop.history import Selection
from waltzmark.desktop.painter.layer import Layer
from waltzmark.desktop.window import MainWindow
from waltzmark.files.writing import render
from waltzmark.words.findings import what


def ink(widget: QWidget) -> Any:
    image = widget.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    return np.frombuffer(image.constBits(), np.uint32).reshape(image.height(), image.width()).copy()


def fresh_beside(window: MainWindow, make_window: Callable[[], MainWindow], qtbot: Any) -> MainWindow:
    """Another window on the same text that looks at the same place, with nothing kept from before."""
    document, other = window.document, make_window()
    other.document.open_text(render(document.form, document.read))
    other.set_dark(window.desk.theme.name == "dark")
    other.document.session.set_figures(document.session.say)
    reviewed(other, qtbot)
    other.document.session.select(document.session.selection)
    other.document.session.go(document.session.position)
    rest(30)
    # Lines that are told or taken away move what is below them, on a busy machine later than after a rest.
    qtbot.waitUntil(lambda: bool(other.plot.floor.size() == window.plot.floor.size()), timeout=5000)
    other.plot.floor.camera = window.plot.floor.camera
    other.plot.score.verticalScrollBar().setValue(window.plot.score.verticalScrollBar().value())
    return other


def assert_same(window: MainWindow, make_window: Callable[[], MainWindow], qtbot: Any) -> None:
    """Compares what is seen with a fresh window."""
    window.plot.offer.dismiss()  # where the form was before its last edit is not known to a fresh window
    window.plot.entry.field.clear()
    window.plot.score.setFocus()
    reviewed(window, qtbot)
    rest(30)
    other = fresh_beside(window, make_window, qtbot)
    for name in ("floor", "ribbon", "score", "answers"):
        mine, new = (ink(each.answers if name == "answers" else getattr(each.plot, name)) for each in (window, other))
        assert mine.shape == new.shape, name
        wrong = np.argwhere(mine != new)
        assert len(wrong) == 0, (name, len(wrong), wrong.min(axis=0), wrong.max(axis=0))
    assert [(f.row, what(f)) for f in found(window.document)] == [(f.row, what(f)) for f in found(other.document)]
    other.document.close()
    other.hide()


def test_an_edited_window_looks_like_a_fresh_one(
    demo: MainWindow, make_window: Callable[[], MainWindow], qtbot: Any
) -> None:
    document, entry = demo.document, demo.plot.entry
    document.session.select(Selection("coil", 4, 5))
    for size in ("40x35", "55x30"):
        entry.change_selected()
        entry.field.clear()
        type_count(demo, f"step L 12 bow {size}", enter=False)
        rest(80)  # judged and drawn ahead
        assert document.session.ghost is not None
        QTest.keyClick(entry.field, Qt.Key.Key_Return)
    assert_same(demo, make_window, qtbot)
    document.undo()
    rest(30)
    document.undo()
    assert_same(demo, make_window, qtbot)
    document.redo()
    type_count(demo, "hold @2 # breathe")  # not drawn ahead
    document.session.select(Selection("boat"))
    demo.editor.move_posture(-1)
    assert_same(demo, make_window, qtbot)
    document.session.select(Selection("coil"))
    demo.editor.other_side(document.form.postures[0].ends or next(p.ends for p in document.form.postures if p.ends))
    demo.set_dark(True)
    next(a for a in demo.choices.lengths if a.data() == "in").trigger()
    assert_same(demo, make_window, qtbot)


def test_what_was_drawn_ahead_is_not_shown_before_it_is_entered(demo: MainWindow, qtbot: Any) -> None:
    document, floor = demo.document, demo.plot.floor
    document.session.select(Selection("coil", 4, 5))
    demo.plot.entry.change_selected()
    demo.plot.entry.field.clear()
    demo.plot.score.setFocus()
    rest(50)
    before = ink(floor)
    type_count(demo, "step L 12 bow 40x35", enter=False)
    rest(80)
    demo.plot.entry.field.clear()
    demo.plot.score.setFocus()
    rest(50)
    assert document.session.ghost is None and (ink(floor) == before).all()
    type_count(demo, "step L 12 bow 40x35")
    assert (ink(floor) != before).any()


def test_what_undo_brings_back_is_drawn_while_the_hands_rest(
    demo: MainWindow, qtbot: Any, monkeypatch: pytest.MonkeyPatch
) -> None:
    document, floor = demo.document, demo.plot.floor
    document.session.select(Selection("coil", 4, 5))
    reviewed(demo, qtbot)
    form, looked = document.form, ink(floor)
    assert document.coming() is None  # nothing can be undone
    demo.plot.entry.change_selected()
    demo.plot.entry.field.clear()
    type_count(demo, "step L 12 bow 50x31")
    reviewed(demo, qtbot)
    rest(5)
    coming, drawn = document.coming(), list[object]()
    assert coming is not None and coming.form is form
    monkeypatch.setattr(floor, "_draw_standing", lambda *shown: drawn.append(shown))
    document.undo()
    assert (document.form, document.trace, document.session.row) == (form, coming.trace, coming.row)
    demo.plot.offer.dismiss()
    demo.plot.score.setFocus()
    assert (ink(floor) == looked).all() and not drawn


def test_a_layer_is_drawn_when_it_shows_something_else_and_as_large_as_is_asked(demo: MainWindow) -> None:
    drawn: list[str] = []
    size = demo.plot.floor.size()

    def show(layer: Layer, what: str, ratio: float = 1.0) -> tuple[int, int]:
        made = layer.drawn(what, size, ratio, lambda _painter: drawn.append(what))
        return made.width(), made.height()

    one, two = Layer(), Layer(ahead=True)
    for key in "aabbaa":
        show(one, key)
    assert "".join(drawn) == "aba"
    drawn.clear()
    for key in "abababcbca":
        show(two, key)
    assert "".join(drawn) == "abca"  # the one that was shown last but one is drawn over
    large = size * 1.5
    assert show(two, "a", 1.5) == (large.width(), large.height()) and drawn[-1] == "a"

    def breaks(_painter: object) -> None:
        raise ValueError("not drawn")

    for _ in range(3):
        with pytest.raises(ValueError, match="not drawn"):
            two.drawn("d", size, 1.0, breaks)
    assert show(two, "d") == (size.width(), size.height()) and drawn[-1] == "d"


def test_the_floor_is_moved_and_zoomed_by_keys_wheel_and_double_click(demo: MainWindow, qtbot: Any) -> None:
    floor, keys = demo.plot.floor, Qt.Key
    floor.setFocus()
    before = floor.camera
    QTest.keyClick(floor, keys.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    QTest.keyClick(floor, keys.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    moved = floor.camera
    assert ((moved.x - before.x) * before.scale, (moved.y - before.y) * before.scale) == pytest.approx((40, 40))
    for way in (keys.Key_Left, keys.Key_Down):
        QTest.keyClick(floor, way, Qt.KeyboardModifier.ShiftModifier)
    assert abs(floor.camera.x - before.x) < 1e-9 and abs(floor.camera.y - before.y) < 1e-9
    QTest.keyClick(floor, keys.Key_Right)
    assert floor.camera.x == pytest.approx(before.x) and floor.camera.scale == before.scale
    QTest.mouseDClick(floor, Qt.MouseButton.LeftButton, pos=floor.rect().center())
    assert floor.camera.scale < before.scale and floor._shows_whole()
    demo.document.open_text(render(replace(demo.document.form, room=None)))
    assert demo.document.form.room is None
    QTest.mouseDClick(floor, Qt.MouseButton.LeftButton, pos=floor.rect().center())
    rest(30)
    assert floor._shows_whole() and ink(floor).std() > 0
