"""A school's page: every limit with its unit, what is typed as it is kept, and only what changed built anew."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QCoreApplication, QEvent, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QCheckBox, QComboBox, QDoubleSpinBox, QLabel, QWidget
from pytestqt.qtbot import QtBot

from waltzmark.core.base.records import replace
from waltzmark.core.school.school import bundled_schools, load_school
from waltzmark.desktop.history import Selection
from waltzmark.desktop.ready.school_page import _OTHER_UNITS, _UNITS, SchoolPage
from waltzmark.desktop.ready.schools import SchoolView
from waltzmark.desktop.window import MainWindow
from waltzmark.words import named
from waltzmark.words.figures import Figures
from waltzmark.words.rules import rule_title

#: Limits that are counted, or that are a ratio.
BARE = {"beats", "supported", "friction"}


@pytest.fixture
def view(demo: MainWindow, qtbot: QtBot) -> SchoolView:
    """The form's school a copy of its own, which can be changed."""
    school = demo.document.form.school
    demo.editor.set_school(replace(school, id="own", name="Own", base=school.id))
    demo.show_stage("ready").show_face("school")
    schools = demo.ready.school
    qtbot.waitUntil(lambda: bool(schools.page.findChildren(QDoubleSpinBox)))
    return schools


def field(page: SchoolPage, rule: str, key: str) -> QDoubleSpinBox:
    name = f"{rule_title(rule)}: {named.limit(key, rule)}"
    (spin,) = [each for each in page.findChildren(QDoubleSpinBox) if each.accessibleName() == name]
    return spin


def stops(page: SchoolPage) -> list[str]:
    """What the Tab key goes to on the page, in that order."""
    found, at = [], page.nextInFocusChain()
    while at is not None and at is not page:
        if page.isAncestorOf(at) and at.focusPolicy() & Qt.FocusPolicy.TabFocus and at.focusProxy() is None:
            found.append(at.accessibleName() or at.property("text"))
        at = at.nextInFocusChain()
    return found


def test_every_limit_of_every_school_has_a_unit_and_a_name_of_its_own() -> None:
    for school in map(load_school, bundled_schools()):
        for rule, setting in school.rules.items():
            for key in setting.limits:
                assert (rule, key) in _OTHER_UNITS or key in _UNITS or key in BARE, (rule, key)
            names = [named.limit(key, rule) for key in setting.limits]
            assert len(set(names)) == len(names), rule


def test_every_rule_of_the_school_is_on_its_page(view: SchoolView, demo: MainWindow) -> None:
    shown = sorted(box.text().replace("&", "") for box in view.page.findChildren(QCheckBox))
    assert shown == sorted(map(rule_title, demo.document.form.school.rules))


def test_what_is_typed_is_kept_and_only_its_line_is_built_anew(
    view: SchoolView, demo: MainWindow, qtbot: QtBot
) -> None:
    page, document = view.page, demo.document
    before = {each: each.accessibleName() for each in page.findChildren(QWidget) if each.accessibleName()}
    order = stops(page)
    spin = field(page, "pivot.loaded", "load")
    spin.setFocus()
    spin.setValue(33.0)
    assert document.form.school.limit("pivot.loaded", "load") == 33.0
    after = set(page.findChildren(QWidget))
    gone = {name for each, name in before.items() if each not in after}
    assert gone and all(name.startswith(rule_title("pivot.loaded")) for name in gone)
    # The keys stay where they were, on the field that came in its place.
    new = field(page, "pivot.loaded", "load")
    assert new is not spin and new.value() == 33.0 and new.hasFocus()
    # A stance's row is such a line too; wherever one was built anew, Tab goes on from there.
    (spin,) = [each for each in page.findChildren(QDoubleSpinBox) if each.accessibleName() == "bow: toes"]
    before = {each: each.accessibleName() for each in page.findChildren(QWidget) if each.accessibleName()}
    spin.setValue(5.0)
    assert document.form.school.stances["bow"].toe == 5.0
    after = set(page.findChildren(QWidget))
    gone = {name for each, name in before.items() if each not in after}
    assert gone and all(name.startswith("bow: ") for name in gone)
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    assert stops(page) == order
    document.undo()
    document.undo()
    assert field(page, "pivot.loaded", "load").value() == load_school("broad-frame").limit("pivot.loaded", "load")


def test_a_rule_is_put_aside_and_taken_up_with_the_keys(view: SchoolView, demo: MainWindow) -> None:
    def box() -> QCheckBox:
        title = rule_title("step.order")
        (found,) = [each for each in view.page.findChildren(QCheckBox) if each.text().replace("&", "") == title]
        return found

    for on in (False, True):
        box().setFocus()
        QTest.keyClick(box(), Qt.Key.Key_Space)
        assert demo.document.form.school.rules["step.order"].off is not on and box().isChecked() is on


def test_a_choice_is_kept_with_its_limits(view: SchoolView, demo: MainWindow) -> None:
    rule = "split.even"
    before = demo.document.form.school.rules[rule]
    (key,) = before.choices
    name = f"{rule_title(rule)}: {named.limit(key, rule)}"
    (combo,) = [each for each in view.page.findChildren(QComboBox) if each.accessibleName() == name]
    other = next(n for n in range(combo.count()) if n != combo.currentIndex())
    combo.activated.emit(other)
    after = demo.document.form.school.rules[rule]
    assert after.choices[key] != before.choices[key] and after.limits == before.limits


def test_who_measures_in_inches_types_inches_and_reads_them(view: SchoolView, demo: MainWindow) -> None:
    demo.document.session.set_figures(Figures("clock", "in"))
    kept = demo.document.form.school.limit("stance.narrow", "width")
    spin = field(view.page, "stance.narrow", "width")
    assert spin.value() == pytest.approx(kept / 2.54, abs=0.05) and spin.suffix().strip() == "in"
    spin.setValue(5.0)
    assert demo.document.form.school.limit("stance.narrow", "width") == pytest.approx(12.7)
    # Degrees and shares stay what they are.
    assert field(view.page, "pivot.loaded", "angle").suffix() == "°"
    assert field(view.page, "weight.loaded-lift", "share").suffix() == " %"
    view.list.setCurrentRow([school.id for school in view._schools].index("broad-frame"))
    shown = " ".join(label.text() for label in view.page.findChildren(QLabel))
    assert not view.page.findChildren(QDoubleSpinBox) and f"<b>{round(kept / 2.54, 2):g}</b> in" in shown


@pytest.mark.parametrize("key", ["lean", "waist_twist"])
def test_the_trunk_is_held_as_is_typed(view: SchoolView, demo: MainWindow, key: str) -> None:
    spins = [each for each in view.page.findChildren(QDoubleSpinBox) if each.accessibleName().startswith("Trunk")]
    spin = spins[["lean", "waist_twist"].index(key)]
    spin.setValue(12.0)
    assert getattr(demo.document.form.school, key) == 12.0


def test_a_finding_is_as_high_as_its_words_ask_whatever_was_shown_before(demo: MainWindow, qtbot: QtBot) -> None:
    """Its height is remembered: it must follow a name, a unit, the width, and which one is chosen."""
    demo.show_stage("plot")
    demo.desk.book["findings"].setChecked(True)
    rows = demo.plot.findings.list
    qtbot.waitUntil(lambda: rows.model().rowCount() > 0)
    listed, delegate = demo.plot.findings._rows, demo.plot.findings._delegate

    def right() -> bool:
        width, current = rows.viewport().width(), rows.currentIndex().row()
        asked = [
            int(delegate._layout(entry, number == current, width)[1]) for number, entry in enumerate(listed.entries)
        ]
        return [rows.rowHeight(number) for number in range(len(asked))] == asked

    qtbot.waitUntil(right)
    heights = [rows.rowHeight(number) for number in range(rows.model().rowCount())]
    rows.setCurrentIndex(rows.model().index(1, 0))
    qtbot.waitUntil(right)
    assert rows.rowHeight(1) > heights[1]
    first = listed.entries[0].posture
    demo.document.session.select(Selection(first))
    demo.editor.rename_posture("A name that is so long that it takes more than one line of the list " * 2)
    qtbot.waitUntil(lambda: demo.document.judge.known)
    rows.size_all()
    qtbot.waitUntil(right)
    assert rows.rowHeight(0) > heights[0]
    demo.document.session.set_figures(Figures("clock", "in"))
    qtbot.waitUntil(right)
    demo.resize(1024, 700)
    qtbot.waitUntil(right)
