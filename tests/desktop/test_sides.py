"""The Sides stage: why a pair differs found and mended, pairs proposed and tied, forms compared, the balance."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from PySide6.QtCore import QPoint, QPointF, QSizeF, Qt
from PySide6.QtGui import QColor, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import reviewed
from waltzmark.core.base.leftright import Side
from waltzmark.core.base.messages import message
from waltzmark.core.edit.resizing import mirrored_form
from waltzmark.core.sides.pairs import declared_pairs
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_earlier
from waltzmark.desktop.asking import Asking
from waltzmark.desktop.history import Selection
from waltzmark.desktop.settings import Settings
from waltzmark.desktop.sides.balance import rows_of
from waltzmark.desktop.sides.stage import SidesStage
from waltzmark.desktop.widgets.camera import VIEWS, Camera
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import all_windows
from waltzmark.words.sentences import sentence


def opened(window: MainWindow, qtbot: QtBot) -> SidesStage:
    """The Sides stage with all pairs that there are."""
    window.answers.cards[2].click()
    found(window, qtbot)
    return window.sides


def found(window: MainWindow, qtbot: QtBot) -> None:
    """Waits until what was asked for is there."""
    reviewed(window, qtbot)
    for asker in ("sides pairs", "sides compare"):
        qtbot.waitUntil(lambda asker=asker: not window.desk.jobs.busy(asker), timeout=60_000)  # type: ignore[misc]


def cells(stage: SidesStage) -> list[list[str]]:
    table = stage.pairs.table
    return [
        [table.item(row, column).text() for column in range(4)]  # type: ignore[union-attr]
        for row in range(table.rowCount())
    ]


def colored(view: QWidget, color: QColor) -> int:
    """How many pixels of a view have a colour, or nearly so."""
    image = view.grab().toImage().convertToFormat(QImage.Format.Format_RGB32)
    bits = np.frombuffer(image.constBits(), dtype=np.uint8).reshape(image.height(), -1, 4)[:, : image.width(), :3]
    return int((np.abs(bits.astype(int) - (color.blue(), color.green(), color.red())).max(axis=2) < 12).sum())


def test_a_first_time_user_finds_out_why_the_pair_differs_and_mends_it(demo: MainWindow, qtbot: QtBot) -> None:
    before = demo.document.form
    stage = opened(demo, qtbot)
    # The answer leads to the pair, to its count, and to why.
    assert stage.pairs.pair is not None and stage.pairs.pair.names == ("lean-left", "lean-right")
    assert stage.pairs.words.text() == "Lean on the pole, right. Count 2: the right step is 3 cm longer."
    assert demo.document.session.row == demo.document.trace.row_of("lean-right", 2)
    rows = cells(stage)
    assert rows[0] == ["start", "start", "the same", ""] and len(rows) == 11
    assert [row for row in rows[1:] if row[2] != "the same"] == [
        ["2", "2", "the right step is 3 cm longer", "from how it is written"]
    ]
    assert stage.pairs.table.currentRow() == 2  # where the playhead is
    assert stage.pairs.mends.effect.text() == "Either way, the feet move by up to 3 cm."
    # What remains is drawn, and no longer when it is mended.
    stop = demo.desk.theme.color("stop")
    assert colored(stage.picture, stop) > 60
    demo.desk.book["make count alike"].trigger()
    found(demo, qtbot)
    assert demo.document.undo_words == sentence(message("mend.count-alike", count=2, title="Lean on the pole, right"))
    assert demo.document.judge.review is not None and demo.document.judge.review.answers[2].good
    assert stage.pairs.pair is not None and stage.pairs.pair.names == ("lean-left", "lean-right")
    assert all(row[2] == "the same" for row in cells(stage)) and colored(stage.picture, stop) == 0
    assert not stage.pairs.mends.buttons["make alike"].isEnabled() and stage.pairs.mends.buttons["tie"].isEnabled()
    demo.undo()
    assert demo.document.form == before


def test_the_pairs_can_be_walked_by_keys_and_the_other_one_changed(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    rows = []
    for _ in range(3):  # two counts of a proposal, then the declared one again
        qtbot.keyClick(demo, Qt.Key.Key_F4)
        rows.append((stage.pairs.pair.names if stage.pairs.pair else None, demo.document.session.row))
    assert rows[2] == (("lean-left", "lean-right"), demo.document.trace.row_of("lean-right", 2))
    assert rows[0][0] == rows[1][0] == ("coil", "cast-right") and rows[0][1] + 1 == rows[1][1]
    stage.pairs.mends.which.setCurrentIndex(1)
    stage.pairs.mends.which.activated.emit(1)
    qtbot.keyClick(demo, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    assert demo.document.undo_words == sentence(
        message("mend.alike", one="Lean on the pole, left", other="Lean on the pole, right")
    )
    found(demo, qtbot)
    pair = next(p for p in declared_pairs(demo.document.form, demo.document.trace) if p.other == "lean-right")
    assert pair.same
    # The table leads the playhead, the playhead the table.
    stage.pairs.table.setCurrentCell(5, 2)
    assert demo.document.session.row == demo.document.trace.row_of("lean-right", 5)
    demo.document.session.go(float(demo.document.trace.row_of("lean-left", 7)))
    assert stage.pairs.table.currentRow() == 7


def test_a_proposal_is_tied_by_one_key_and_nothing_moves(demo: MainWindow, qtbot: QtBot) -> None:
    stage, document = opened(demo, qtbot), demo.document
    assert [pair.names for pair in stage.pairs.proposed] == [("coil", "cast-right"), ("gunwale:1-4", "gunwale:5-8")]
    stage.pairs.others.setCurrentRow(1)
    assert stage.pairs.pair is stage.pairs.proposed[1] and "nothing moves" in stage.pairs.mends.effect.text()
    assert stage.pairs.list.currentRow() == -1  # one is chosen of both lists
    heels = document.trace.heels
    qtbot.keyClick(demo, Qt.Key.Key_T, Qt.KeyboardModifier.ControlModifier)
    made = [p for p in document.form.postures if p.repeat_of == "gunwale"]
    assert len(made) == 1 and made[0].name == "Walk the gunwale, counts 5 to 8"
    np.testing.assert_allclose(document.trace.heels, heels, atol=1e-9)
    found(demo, qtbot)
    assert ("gunwale", made[0].id) in [pair.names for pair in stage.pairs.declared]
    # A proposal of another side can be called so, and keeps its counts.
    stage.pairs.others.setCurrentRow(0)
    demo.desk.book["call side"].trigger()
    assert document.form.posture("cast-right").side_of == "coil" and document.form.posture("cast-right").lines


def test_what_counts_as_the_same_can_be_set_and_is_kept(demo: MainWindow, qtbot: QtBot, settings: Settings) -> None:
    stage = opened(demo, qtbot)
    stage.pairs.fields["cm"].setValue(4.0)
    found(demo, qtbot)
    assert "agree" in demo.answers.cards[2].words.text() and settings.within.cm == 4.0
    assert all(row[2] == "the same" for row in cells(stage))
    settings.set_text("sides_within", "1 nonsense")
    assert settings.within.cm == 1.0
    settings.set_text("sides_within", "1 2 900")
    assert settings.within.percent == 1.0


def test_one_playhead_walks_both_sides(demo: MainWindow, qtbot: QtBot) -> None:
    stage, trace = opened(demo, qtbot), demo.document.trace
    shown = stage.picture.shown
    assert shown is not None
    for count in range(1, 11):
        for name in ("lean-left", "lean-right"):
            row, part, other, other_part, pair = shown.places(trace.row_of(name, count) - 0.25)
            assert (row, other) == (trace.row_of("lean-left", count), trace.row_of("lean-right", count))
            assert part == other_part == pytest.approx(0.75) and pair is shown.compared.counts[count - 1]
    row, part, other, other_part, pair = shown.places(3.0)  # elsewhere both stand where they are entered
    assert (row, other, pair) == (shown.compared.span.start - 1, shown.compared.other.start - 1, None)
    for way in ("beside", "walked", "folded"):
        demo.desk.book[f"sides {way}"].setChecked(True)
        assert stage.picture.way == way
        pictures = []
        for view in VIEWS:
            demo.desk.book[f"sides {view}"].setChecked(True)
            pictures.append(stage.picture.grab().toImage())
        assert all(a != b for n, a in enumerate(pictures) for b in pictures[:n])
    middle = stage.picture.rect().center()
    demo.desk.book["sides above"].setChecked(True)
    still = stage.picture.grab().toImage()
    QTest.mousePress(stage.picture, Qt.MouseButton.LeftButton, pos=middle)
    QTest.mouseMove(stage.picture, middle + QPoint(30, 10))
    QTest.mouseRelease(stage.picture, Qt.MouseButton.LeftButton, pos=middle + QPoint(30, 10))
    demo.desk.book["sides larger"].trigger()
    assert stage.picture.grab().toImage() != still
    QTest.mouseDClick(stage.picture, Qt.MouseButton.LeftButton, pos=middle)
    assert stage.picture.grab().toImage() == still


def test_the_floor_is_watched_from_behind_from_the_front_and_as_a_class_sees_its_teacher(demo: MainWindow) -> None:
    floor, size = demo.plot.floor, QSizeF(demo.plot.floor.size())
    demo.desk.book["whole room"].trigger()
    ways = {}
    for view, way in VIEWS.items():
        demo.desk.book[f"plot {view}"].setChecked(True)
        transform = floor.camera.transform(size)
        origin, right, ahead = (
            transform.map(QPointF(*at)) - transform.map(QPointF(0.0, 0.0))
            for at in ((0.0, 0.0), (1.0, 0.0), (0.0, 1.0))
        )
        ways[view] = (right.x() > 0, ahead.y() < 0)
        assert origin.isNull() and abs(ahead.y()) == pytest.approx(abs(right.x()) * way.tilt)
        # A hand still finds the place under it.
        at = floor.camera.floor(size, transform.map(QPointF(0.7, -0.4)))
        assert at.x() == pytest.approx(0.7) and at.y() == pytest.approx(-0.4)
    # Who walks from above and behind has the right at the right; from the front it is at the left; in the mirror again
    # at the right, though it comes toward one.
    assert ways == {"above": (True, True), "behind": (True, True), "front": (False, False), "mirrored": (True, False)}
    demo.desk.book["own facing"].setChecked(True)
    demo.document.session.go(float(demo.document.trace.row_of("boat", 7)))
    faces = floor.camera.transform(size).map(QPointF(0.0, -1.0)) - floor.camera.transform(size).map(QPointF(0.0, 0.0))
    assert faces.y() > 0  # it faces 6 now, and the one who watches
    demo.desk.book["plot above"].setChecked(True)
    assert floor.camera.tilt == 1.0 and not floor.camera.flip
    assert Camera().watched("mirrored", 0.0).fitted(QSizeF(800, 600), [QPointF(0, 0), QPointF(2, 1)]).scale > 200


def test_the_demo_s_earlier_writing_is_offered_and_every_difference_leads_somewhere(
    demo: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    stage, document = opened(demo, qtbot), demo.document
    demo.desk.book["face compare"].trigger()
    assert "Choose what" in stage.picture.empty and not stage.compare.save.isEnabled()
    stage.compare.demo.click()
    found(demo, qtbot)
    compared = stage.compare.found
    assert compared is not None and "The ferry round" in stage.compare.said.text()
    seen = set()
    number = len(compared.whole) + sum(len(two.differences) for two in compared.postures)
    for _ in range(number):
        qtbot.keyClick(demo, Qt.Key.Key_F4)
        item = stage.compare.tree.currentItem()
        assert item is not None
        _, told = stage.compare._of(item)
        seen.add((item.parent().text(0), told.message))  # type: ignore[union-attr]
        if told.row is not None:
            assert document.session.row == told.row
        stage.picture.grab()
    assert len(seen) == number > 40
    assert ("Ship the oars, 78% alike", message("form.counts", here=5, there=6)) in seen
    turns = message("side.foot.turns-on", side=Side.LEFT, there="ball", here="heel")
    assert ("Cast the line, right, 93% alike", message("form.count", count=2, point=turns)) in seen
    stage.compare.write_report(tmp_path / "report.txt")
    words = (tmp_path / "report.txt").read_text(encoding="utf-8")
    assert words.startswith("First:  The ferry round\nSecond: The ferry round, two summers ago\n")
    # The other document is only read, and the comparison follows an edit of this one.
    document.session.select(Selection("oars", 0, 1))
    demo.editor.remove()
    found(demo, qtbot)
    earlier = message("form.counts", here=5, there=6)
    assert not any(
        two.a == "oars" and any(each.message == earlier for each in two.differences)
        for two in stage.compare.found.postures  # type: ignore[union-attr]
    )
    assert demo_earlier().read_text(encoding="utf-8").startswith("# The demo form as it was written down two summers")


def test_what_cannot_be_compared_is_told(
    demo: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    told: list[str] = []
    monkeypatch.setattr(Asking, "tell", lambda _self, heading, words: told.append(f"{heading}: {words}"))
    stage = opened(demo, qtbot)
    stage.compare.save_report()
    assert told.pop() and not told
    broken = tmp_path / "broken.waltz"
    broken.write_text("waltzmark = 1\n[[posture]\n")
    stage.compare.compare_with(broken)
    assert told.pop().startswith("This form cannot be read: broken.waltz: line 2")
    demo.document.save(tmp_path / "mine.waltz")
    stage.compare.compare_with(tmp_path / "mine.waltz")
    assert told.pop().startswith("This is the same document")
    assert stage.compare.other is None and told == []


def test_the_same_form_by_another_school_and_by_another_body(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    stage.show_face("compare")
    kind, school = stage.compare.kind, stage.compare.school
    kind.setCurrentIndex(1)
    kind.activated.emit(1)
    school.setCurrentIndex(school.findText("Chair-side"))
    school.activated.emit(school.currentIndex())
    found(demo, qtbot)
    told = {each.message.kind for two in stage.compare.found.postures for each in two.differences}  # type: ignore[union-attr]
    assert "form.found.second" in told
    kind.setCurrentIndex(2)
    kind.activated.emit(2)
    stage.compare.stature.setValue(150.0)
    found(demo, qtbot)
    whole = {each.message.kind for each in stage.compare.found.whole}  # type: ignore[union-attr]
    assert {"form.body", "form.parting"} <= whole
    assert demo.document.form.body.stature == 1.72 and demo.document.undo_words is None


def test_the_balance_tells_both_sides_and_what_would_even_it_out(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    demo.desk.book["face balance"].trigger()
    assert stage.columns.balance is not None and "360° more to the right" in stage.balance.said.text()
    figures = {name: (left, right) for name, left, right, _ in rows_of(stage.columns.balance)}
    assert figures["pivots inward"] == (7, 3) and figures["steps"] == (17, 17) and "kicks" not in figures
    assert "pivots inward: left 7, right 3" in stage.columns.accessibleDescription()
    for side in ("left", "right"):
        assert colored(stage.columns, demo.desk.theme.color(side)) > 4000
    titles = [stage.balance.list.item(n).text() for n in range(stage.balance.list.count())]
    assert titles == ["Stand on the quay", "Haul the net", "Turn the boat"]
    stage.balance.list.setCurrentRow(2)
    assert demo.document.session.selection.posture == "boat"
    qtbot.keyClick(stage.balance.list, Qt.Key.Key_Return)
    made = demo.document.form.postures[demo.document.form.index("boat") + 1]
    assert made.mirror_of == "boat"
    found(demo, qtbot)
    titles = [stage.balance.list.item(n).text() for n in range(stage.balance.list.count())]
    assert titles == ["Stand on the quay", "Haul the net"]


def test_the_whole_form_s_other_side_opens_beside(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, qtbot)
    stage.balance.whole.click()
    (other,) = [window for window in all_windows() if window is not demo]
    assert other.document.form == mirrored_form(demo.document.form) and other.document.changed
    np.testing.assert_allclose(other.document.trace.heels, demo.document.trace.heels[:, ::-1] * (-1.0, 1.0), atol=1e-9)


def test_a_form_without_sides_and_an_edit_elsewhere_leave_the_stage_in_peace(window: MainWindow, qtbot: QtBot) -> None:
    reviewed(window, qtbot)
    stage = opened(window, qtbot)
    assert stage.pairs.pair is None and "Ctrl+M" in stage.picture.empty
    for name in ("compare", "balance", "pairs"):
        stage.show_face(name)
        window.grab()
    window.desk.book["next difference"].trigger()
    window.filing.open_demo()
    found(window, qtbot)
    assert len(stage.pairs.declared) == 7 and len(stage.pairs.proposed) == 2
    # What is looked for of a form that has changed while the stage is not seen is not told.
    window.document.session.select(Selection("gunwale", 0, 0))
    window.editor.delete_posture()
    window.show_stage("plot")
    window.undo()
    window.document.session.select(Selection("lean-right", 0, 0))
    window.editor.delete_posture()
    reviewed(window, qtbot)
    window.show_stage("sides")
    found(window, qtbot)
    assert "lean-right" not in [pair.other for pair in (*stage.pairs.declared, *stage.pairs.proposed)]
    assert walk(window.document.form).heels.shape == window.document.trace.heels.shape
