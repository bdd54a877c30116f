"""Drill: a posture, a pair or a loop, so many times a side; one key after each, and each is in the book at once."""

from __future__ import annotations

import time
from functools import partial

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QCheckBox, QComboBox, QPushButton

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import Progress
from waltzmark.core.form.form import Form
from waltzmark.core.home.drill import walked_loops
from waltzmark.core.home.loops import Loop
from waltzmark.core.practice.drill import MOST_REPS, Done, Drill, Order, Rep, drill_for, needs_rest, other_side_of
from waltzmark.core.practice.entries import Outcome, now
from waltzmark.core.sides.pairs import declared_pairs
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import Label, set_tip
from waltzmark.desktop.practise.face import PractiseFace
from waltzmark.desktop.practise.large import Banner, LargeView, seconds_words
from waltzmark.desktop.widgets.fields import number, row_of_fields

__all__ = ["DrillFace"]

_ORDERS: tuple[tuple[str, Order], ...] = (("one side and the other by turns", "alternating"), ("in blocks", "blocks"))
_REST = 20  # seconds that are proposed after what is low or on one leg
_KEYS: dict[int, Outcome] = {
    Qt.Key.Key_Space: "done", Qt.Key.Key_Return: "done", Qt.Key.Key_Enter: "done", Qt.Key.Key_PageDown: "done",
    Qt.Key.Key_O: "off", Qt.Key.Key_M: "missed", Qt.Key.Key_H: "hurts",
}  # fmt: skip


def _searched(form: Form, told: Progress) -> tuple[Loop, ...]:
    return walked_loops(form, walk(form), 3, told)


class DrillFace(PractiseFace):
    """What is drilled, how often a side, in which order, with which rests."""

    name = "Drill"
    purpose = "Repeat a posture, a pair or a loop so many times a side"

    def __init__(self, desk: Desk, large: LargeView) -> None:
        super().__init__(desk, large)
        keys = Qt.Key
        self.acts = (
            ("Done", keys.Key_Space), ("Off", keys.Key_O), ("Missed", keys.Key_M), ("It hurts", keys.Key_H),
            ("End", keys.Key_Escape),
        )  # fmt: skip
        self.done: Done | None = None
        self._loops: tuple[Loop, ...] = ()
        self._asked: object = None
        self._began = self._left = 0.0
        self.what = QComboBox()
        self.what.setAccessibleName("What is drilled")
        self.what.activated.connect(safely(lambda _at: self._chosen()))
        self.other = QCheckBox("and its other side")
        self.each = number("Repetitions a side", 1, MOST_REPS, 5, " a side")
        self.order = QComboBox()
        self.order.setAccessibleName("Order")
        self.order.addItems([words for words, _ in _ORDERS])
        self.rest = number("Rest between", 0, 600, 0, " s")
        self.headings = number("Start headings", 1, 4, 1)
        set_tip(self.headings, "1: as the form begins; more: each repetition a quarter turn on")
        self.column.addLayout(row_of_fields((
            ("Drill", self.what), ("", self.other), ("Times", self.each), ("Order", self.order), ("Rest", self.rest),
            ("Start headings", self.headings),
        )))  # fmt: skip
        self.start = QPushButton("Start")
        set_tip(self.start, "Space: done   O: off   M: missed   H: hurts, which stops it   Esc: end")
        self.start.clicked.connect(safely(desk.book["practise"].trigger))  # which shows the cautions before the first
        self.column.addWidget(self.start)
        self.said = Label()
        self.said.setWordWrap(True)
        self.column.addWidget(self.said)
        self.column.addStretch(1)
        self.caution(
            "Low stances and standing on one leg tire before one notices: rest in between, keep a support within "
            "reach. H stops the drill at once and notes it; nothing is asked."
        )
        self._timer = QTimer(self)
        self._timer.setInterval(100)
        self._timer.timeout.connect(safely(lambda: self.advance(0.1)))
        self.document.form_changed.connect(safely(self.leave))

    @property
    def running(self) -> bool:
        return self.done is not None and self.done.next is not None

    @property
    def resting(self) -> bool:
        return self._timer.isActive()

    def refresh(self) -> None:
        form = self.document.form
        asked = (form.postures, form.body, form.opening, form.school)
        if asked != self._asked:
            self._loops = ()  # those of another form have postures that this one may not have
        lines = [posture.title for posture in form.postures] + [self._loop_words(loop) for loop in self._loops]
        if lines != [self.what.itemText(n) for n in range(self.what.count())]:
            chosen = self.what.currentText()
            self.what.clear()
            self.what.addItems(lines)
            self.what.setCurrentIndex(lines.index(chosen) if chosen in lines else 0)
        self._chosen()
        if asked != self._asked and form.postures:
            self._asked = asked
            self.desk.jobs.ask(
                "practise loops", partial(_searched, form), self._take_loops, pause=400, process=True,
                failed=lambda _error: None,
            )  # fmt: skip
        self.start.setEnabled(bool(form.postures))

    def _take_loops(self, loops: tuple[Loop, ...]) -> None:
        self._loops = loops
        self.refresh()

    def _loop_words(self, loop: Loop) -> str:
        form = self.document.form
        first, last = form.postures[loop.postures[0]].title, form.postures[loop.postures[-1]].title
        out = f", {len(loop.left_out)} left out" if loop.left_out else ""
        return f"Loop: {first} to {last}{out}"

    def _postures(self) -> tuple[str, ...]:
        """The postures that are chosen, in a row; none where there are none, or not any more."""
        form, at = self.document.form, max(self.what.currentIndex(), 0)
        if at < len(form.postures):
            return (form.postures[at].id,)
        if at - len(form.postures) >= len(self._loops):
            return ()
        return tuple(form.postures[number].id for number in self._loops[at - len(form.postures)].postures)

    def _other(self) -> str | None:
        chosen = self._postures() if self.document.form.postures else ()
        if len(chosen) != 1:
            return None
        review = self.document.review
        pairs = review.sides if review is not None else declared_pairs(self.document.form, self.document.trace)
        return other_side_of(pairs, chosen[0])

    def _chosen(self) -> None:
        other = self._other()
        title = (
            f"and {self.document.form.posture(other).title}" if other is not None else "and its other side: it has none"
        )
        self.other.setText(title)
        hard = any(
            needs_rest(self.document.trace, each) for each in (self._postures() if self.document.form.postures else ())
        )
        if hard and self.rest.value() == 0:
            self.rest.setValue(_REST)
        self.said.setText(f"This is low or long on one leg: {_REST} s of rest between are proposed." if hard else "")
        self.other.setEnabled(other is not None)
        self.other.setChecked(other is not None)

    def drill(self) -> Drill:
        """The drill that is set up. Raises WaltzmarkError."""
        other = self._other() if self.other.isChecked() else None
        return drill_for(
            self.document.form, self.document.trace, self._postures(), self.each.value(),
            () if other is None else (other,), _ORDERS[max(self.order.currentIndex(), 0)][1], float(self.rest.value()),
            self.headings.value(),
        )  # fmt: skip

    def begin(self) -> None:
        """Begins the drill that is set up."""
        if self.running or not self._postures():
            return
        try:
            drill = self.drill()
        except WaltzmarkError as error:
            self.said.setText(str(error))
            return
        self.done = Done(drill)
        self.alone(True)
        self.large.setFocus()
        self._next()

    def key(self, key: int | None) -> None:
        if not self.running:
            if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
                self.begin()
            return
        if key == Qt.Key.Key_Escape:
            self.leave()
        elif self.resting and key != Qt.Key.Key_H:
            self._timer.stop()
            self._say()
        else:
            outcome = _KEYS.get(key if key is not None else Qt.Key.Key_Space)
            if outcome is not None:
                self.finish(outcome)

    def finish(self, outcome: Outcome) -> None:
        """The repetition is over: it is in the book before the next begins."""
        assert self.done is not None
        self._timer.stop()
        minutes = max(time.monotonic() - self._began, 0.0) / 60.0
        self.done = self.done.with_rep(
            self.document.form, now(), round(minutes, 3), outcome, "", self.desk.practice.person
        )  # fmt: skip
        self.keep(self.done.entries[-1])
        if self.done.next is None:
            self._over()
        elif self.done.drill.rest > 0:
            self._left = self.done.drill.rest
            self._timer.start()
            self._say()
            self._began = time.monotonic() + self._left
        else:
            self._next()

    def advance(self, seconds: float) -> None:
        """A rest goes on."""
        self._left -= seconds
        if self._left <= 1e-9:
            self._timer.stop()
            self._next()
        else:
            self._say()

    def _next(self) -> None:
        self._began = time.monotonic()
        rep = self.done.next if self.done is not None else None
        if rep is not None:
            self.document.go(float(max(self.document.trace.span(rep.postures[0])[0] - 1, 0)))
            self.large.set_turned(rep.heading)
        self._say()

    def _say(self) -> None:
        rep = self.done.next if self.done is not None else None
        if self.done is None or rep is None:
            return
        title = self._rep_words(rep)
        if self.resting:
            self.large.say(Banner(seconds_words(self._left), "Rest", f"Next: {title}. Any key goes on."))
            return
        number_, whole = len(self.done.entries) + 1, len(self.done.drill.reps)
        facing = f"Begin {rep.heading:.0f}° to the right of the start. " if rep.heading else ""
        self.large.say(Banner(
            f"{number_} of {whole}", title, facing,
        ))  # fmt: skip

    def _rep_words(self, rep: Rep) -> str:
        form = self.document.form
        first = form.posture(rep.postures[0]).title
        title = first if len(rep.postures) == 1 else f"{first} to {form.posture(rep.postures[-1]).title}"
        return f"{title}, {rep.side} side {rep.number}" if rep.side else f"{title}, {rep.number}"

    def _over(self) -> None:
        """The drill is over: what was done is said."""
        done, self.done = self.done, None
        self._timer.stop()
        self.alone(False)
        self.large.say(None)
        self.large.set_turned(0.0)
        if done is None:
            return
        hurt = any(entry.outcome == "hurts" for entry in done.entries)
        off = sum(entry.outcome in ("off", "missed") for entry in done.entries)
        sides = [f"{done.done(side)} on the {side}" for side in ("left", "right") if done.done(side)]
        words = ", ".join(sides) or f"{len(done.entries)} times"
        stopped = " It hurt: rest, and ask a physician or physiotherapist if it comes again." if hurt else ""
        self.said.setText(f"{done.drill.title}: {words}, {off} of them off or missed. It is in the book.{stopped}")

    def leave(self) -> None:
        if self.done is not None:
            if self.done.entries:
                self._over()
            else:
                self.done = None
                self._timer.stop()
                self.alone(False)
                self.large.say(None)
                self.large.set_turned(0.0)
