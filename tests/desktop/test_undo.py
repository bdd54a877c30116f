"""Whatever is done can be undone: random edits, taken back, give the first document."""

from __future__ import annotations

from collections.abc import Iterable
from contextlib import suppress

from hypothesis import settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from tests.core.strategies import counts, floor_clocks
from tests.desktop.conftest import found
from tests.trying import tries
from waltzmark.core.base.errors import FormError
from waltzmark.core.base.records import replace
from waltzmark.core.body.body import Sided
from waltzmark.core.form.score_text import read_score_text, write_score_text
from waltzmark.core.judge.finding import Finding
from waltzmark.core.judge.judging import judge
from waltzmark.core.school.school import bundled_schools, load_school
from waltzmark.core.score import write_count
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.desktop.app import make_application
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.history import Selection
from waltzmark.files.reading import read_document
from waltzmark.files.writing import render
from waltzmark.words.figures import FACINGS, LENGTHS, FacingWay, Figures, LengthUnit
from waltzmark.words.findings import what

places = st.sampled_from(["before", "after", "end"])


def told(findings: Iterable[Finding]) -> list[tuple[object, ...]]:
    """All that is said of a form: words, figures to a tenth, and what each mend would write."""
    return [
        (
            f.rule,
            f.severity,
            f.posture,
            f.count,
            f.row,
            f.side,
            what(f),
            f.why,
            [(m.does, m.posture, m.start, m.stop, tuple(map(write_count, m.lines))) for m in f.mends],
        )
        for f in findings
    ]


class Editing(RuleBasedStateMachine):
    """A document edited at random, with undo and redo in between."""

    def __init__(self) -> None:
        super().__init__()
        make_application()
        self.document = Document()
        self.document.open_text(demo_text())
        self.editor = Editor(self.document)
        self.first = self.document.form
        self.text = render(self.first, self.document.read)

    @initialize()
    def begins(self) -> None:
        assert self.document.undo_words is None and not self.document.changed

    @rule(posture=st.integers(0, 40), start=st.integers(0, 12), more=st.integers(0, 3))
    def select(self, posture: int, start: int, more: int) -> None:
        postures = self.document.form.postures
        if not postures:
            return
        chosen = postures[posture % len(postures)]
        lines = len(self.document.form.lines(chosen))
        start = min(start, lines)
        self.document.session.select(Selection(chosen.id, start, min(start + more, lines)))

    @rule(lines=st.lists(counts, min_size=1, max_size=3), where=places)
    def insert(self, lines: list, where: str) -> None:  # type: ignore[type-arg]
        with suppress(FormError):
            self.editor.insert(lines, where)  # type: ignore[arg-type]

    @rule(line=counts)
    def change(self, line) -> None:  # type: ignore[no-untyped-def]
        with suppress(FormError):
            self.editor.change(line)

    @rule(
        what=st.sampled_from(
            ["remove", "duplicate", "duplicate_posture", "split_posture", "join_posture", "delete_posture", "detach"]
        )
    )
    def do(self, what: str) -> None:
        with suppress(FormError):
            getattr(self.editor, what)()

    @rule(what=st.sampled_from(["move", "move_posture"]), by=st.sampled_from([-2, -1, 1, 2]))
    def move(self, what: str, by: int) -> None:
        with suppress(FormError):
            getattr(self.editor, what)(by)

    @rule(axis=floor_clocks, what=st.sampled_from(["other_side", "set_end", "set_axis"]))
    def turn(self, axis, what: str) -> None:  # type: ignore[no-untyped-def]
        with suppress(FormError):
            getattr(self.editor, what)(axis)

    @rule(turned=st.sampled_from([0.0, 90.0, -45.0]))
    def repeat(self, turned: float) -> None:
        with suppress(FormError):
            self.editor.repeat(turned)

    @rule(school=st.sampled_from(bundled_schools()))
    def judge_by(self, school: str) -> None:
        self.editor.set_school(load_school(school))

    @rule(sink=st.sampled_from([30.0, 55.0]), hip=st.sampled_from([20.0, (45.0, 40.0)]))
    def walk_by(self, sink: float, hip: Sided) -> None:
        body = replace(self.document.form.body, knee_bend=sink, hip_out=hip)
        self.editor.set_body(body, "another body")

    @rule(facings=st.sampled_from(FACINGS), unit=st.sampled_from(LENGTHS))
    def say(self, facings: FacingWay, unit: LengthUnit) -> None:
        self.document.session.set_figures(Figures(facings, unit))

    @rule(number=st.integers(0, 200))
    def mend(self, number: int) -> None:
        mends = [mend for finding in found(self.document) for mend in finding.mends]
        if mends:
            self.editor.mend(mends[number % len(mends)])

    @rule(text=st.text(max_size=30))
    def paste(self, text: str) -> None:
        with suppress(FormError):
            self.editor.paste(text)

    @rule(steps=st.integers(1, 4))
    def undo(self, steps: int) -> None:
        for _ in range(steps):
            self.document.undo()

    @rule(steps=st.integers(1, 4))
    def redo(self, steps: int) -> None:
        for _ in range(steps):
            self.document.redo()

    @invariant()
    def the_walk_is_that_of_the_form(self) -> None:
        document = self.document
        fresh = walk(document.form)
        assert len(fresh) == len(document.trace) and abs(fresh.table - document.trace.table).max() < 1e-6
        assert 0 <= document.session.row < len(fresh)

    @invariant()
    def what_is_found_does_not_depend_on_how_one_came_there(self) -> None:
        """And everything can be saved and read back."""
        document, form = self.document, self.document.form
        read = read_document(render(form, document.read)).form
        assert read == form
        assert told(found(document)) == told(judge(read, walk(read)))
        assert read_score_text(write_score_text(form), form).form == form
        for posture in form.postures:
            assert all(map(write_count, posture.lines))

    def teardown(self) -> None:
        steps = 0
        while self.document.undo_words is not None:
            self.document.undo()
            steps += 1
        assert self.document.form == self.first and not self.document.changed
        assert render(self.document.form, self.document.read) == self.text
        while self.document.redo_words is not None:
            self.document.redo()
            steps -= 1
        self.document.close()


TestEditing = Editing.TestCase
TestEditing.settings = settings(max_examples=tries(10), stateful_step_count=15)
