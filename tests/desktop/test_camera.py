"""The camera, the playhead and the player: what can be said of them for every form and every view."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule
from PySide6.QtCore import QPointF, QSizeF

from tests.core import strategies as write
from tests.trying import tries
from waltzmark.core.score import Count
from waltzmark.demo import demo_text
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.player import Player
from waltzmark.desktop.plot.placard import place_of, place_words
from waltzmark.desktop.widgets.camera import Camera
from waltzmark.files.reading import read_document, read_file
from waltzmark.files.writing import render

pytestmark = pytest.mark.usefixtures("qapp")
VIEW = QSizeF(900, 600)
cameras = st.builds(Camera, st.floats(-5, 5), st.floats(-5, 5), st.floats(20, 900), st.floats(0, 360))
spots = st.builds(QPointF, st.floats(0, 900), st.floats(0, 600))


def near(a: QPointF, b: QPointF, within: float = 1e-6) -> bool:
    return (a - b).manhattanLength() < within


@given(cameras, spots)
def test_what_is_under_a_pixel_is_drawn_there(camera: Camera, at: QPointF) -> None:
    assert near(camera.transform(VIEW).map(camera.floor(VIEW, at)), at)
    middle = camera.floor(VIEW, QPointF(450, 300))
    assert near(middle, QPointF(camera.x, camera.y))


@given(cameras, spots, st.floats(0.5, 2.0))
def test_zooming_keeps_the_place_under_the_pointer(camera: Camera, at: QPointF, factor: float) -> None:
    zoomed = camera.zoomed(factor, VIEW, at)
    assert near(camera.floor(VIEW, at), zoomed.floor(VIEW, at))
    assert 12.0 <= zoomed.scale <= 1500.0


@given(cameras, spots, spots)
def test_dragging_carries_the_floor_along(camera: Camera, start: QPointF, end: QPointF) -> None:
    assert near(camera.floor(VIEW, start), camera.panned(VIEW, start, end).floor(VIEW, end))


@given(cameras, st.lists(st.builds(QPointF, st.floats(-4, 4), st.floats(-4, 4)), min_size=1, max_size=6))
def test_fitting_shows_every_point(camera: Camera, points: list[QPointF]) -> None:
    fitted = camera.fitted(VIEW, points)
    assert fitted.up == camera.up
    for point in points:
        at = fitted.transform(VIEW).map(point)
        assert 20 <= at.x() <= 880 and 20 <= at.y() <= 580


@given(cameras)
def test_the_heading_that_is_up_points_up(camera: Camera) -> None:
    from waltzmark.core.base.angles import ahead

    ux, uy = ahead(camera.up)
    transform = camera.transform(VIEW)
    here, there = transform.map(QPointF(camera.x, camera.y)), transform.map(QPointF(camera.x + ux, camera.y + uy))
    assert there.x() == pytest.approx(here.x(), abs=1e-6) and there.y() < here.y()


def test_the_playhead_stays_in_the_form_and_says_where_it_is() -> None:
    document = Document()
    document.open_text(demo_text())
    assert place_words(place_of(document)) == "Opening stance"
    rows: list[int] = []
    document.session.row_changed.connect(rows.append)
    document.session.go(2.5)
    assert (document.session.row, place_words(place_of(document))) == (3, "Stand on the quay  ·  count 3 of 5")
    document.session.go(2.9)
    document.session.go(1e9)
    assert document.session.position == len(document.trace) - 1
    document.session.go(-3)
    assert document.session.position == 0 and rows == [3, len(document.trace) - 1, 0]
    document.close()


@given(st.lists(st.floats(0.0, 5.0), max_size=12))
def test_playing_in_small_steps_is_playing_in_one(steps: list[float]) -> None:
    document = Document()
    document.open_text(demo_text())
    player = Player(document)
    for step in steps:
        player.advance(step)
    ended = document.session.position
    document.session.go(0.0)
    player.advance(sum(steps))
    assert document.session.position == pytest.approx(ended, abs=1e-6)
    document.close()


class Editing(RuleBasedStateMachine):
    """Random counts added here and there; undoing all of it gives the first form back, redoing all the last."""

    @initialize()
    def begin(self) -> None:
        self.document = Document()
        self.document.open_text(demo_text())
        self.first = self.document.form
        self.forms = [self.first]

    @rule(row=st.integers(0, 121), count=write.counts.filter(lambda c: bool(c.actions)))
    def add(self, row: int, count: Count) -> None:
        self.document.session.go(row)
        editor = Editor(self.document)
        _, posture, at = editor.place("after")
        if posture.source is None:
            editor.insert([count])
            self.forms.append(self.document.form)
            assert self.document.form.posture(posture.id).lines[at] == count
            assert self.document.session.selection == (posture.id, at, at + 1)
            assert self.document.session.ghost is None and self.document.undo_words is not None

    @rule()
    def back_and_forth(self) -> None:
        form = self.document.form
        self.document.undo()
        self.document.redo()
        assert self.document.form == (form if len(self.forms) > 1 else self.first)

    @invariant()
    def consistent(self) -> None:
        assert len(self.document.trace.written) == len(self.document.trace)
        assert 0 <= self.document.session.row < len(self.document.trace)
        assert self.document.changed == (self.document.form != self.first)

    def teardown(self) -> None:
        for form in reversed(self.forms[:-1]):
            self.document.undo()
            assert self.document.form == form
        assert self.document.form is self.first and not self.document.changed
        assert render(self.document.form, self.document.read) == demo_text()
        for form in self.forms[1:]:
            self.document.redo()
            assert self.document.form == form
        self.document.close()


TestEditing = Editing.TestCase
TestEditing.settings = settings(
    max_examples=tries(15), stateful_step_count=12, suppress_health_check=[HealthCheck.too_slow]
)


def test_saving_and_opening_again_keeps_the_document_and_forgets_the_undo(tmp_path: Path) -> None:
    document = Document()
    document.open_text(demo_text())
    document.session.go(3)
    Editor(document).insert(read_document(demo_text()).form.posture("coil").lines[:1])
    assert document.changed
    document.save(tmp_path / "a.waltz")
    assert not document.changed and document.undo_words is not None
    document.undo()
    assert document.changed
    document.open_file(tmp_path / "a.waltz")
    assert document.undo_words is None and document.redo_words is None
    assert read_file(tmp_path / "a.waltz").form == document.form
    document.close()
