"""Drill: a posture, a pair or a loop, so many times a side; one key after each, and each is in the book at once."""

from __future__ import annotations

import time
from functools import partial

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import QCheckBox, QPushButton

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.progress import Progress
from waltzmark.core.form.form import Form
from waltzmark.core.home.loop_drill import walked_loops
from waltzmark.core.home.loops import Loop
from waltzmark.core.practice.drill import MOST_REPS, Done, Drill, Order, Rep, drill_for, needs_rest, other_side_of
from waltzmark.core.practice.entries import Outcome, now
from waltzmark.core.sides.pairs import declared_pairs
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import set_tip, wrapped
from waltzmark.desktop.practise.face import PractiseFace
from waltzmark.desktop.practise.large import Banner, LargeView, seconds_words
from waltzmark.desktop.practise.voice import VoiceChoice
from waltzmark.desktop.speaker import Speaker
from waltzmark.desktop.widgets.fields import row_of_fields, whole_field
from waltzmark.desktop.widgets.parts import choice_box, refill
from waltzmark.desktop.widgets.search import Search
from waltzmark.words import named
from waltzmark.words.ear import drill_words
from waltzmark.words.errors import explained
from waltzmark.words.language import number, tr

__all__ = ["DrillFace"]

_ORDERS: tuple[tuple[str, Order], ...] = (
    (tr("alternate sides"), "alternating"),
    (tr("one side, then the other"), "blocks"),
)
_REST = 20  # seconds that are proposed after what is low or on one leg
_KEYS: dict[int, Outcome] = {
    Qt.Key.Key_Space: "done",
    Qt.Key.Key_Return: "done",
    Qt.Key.Key_Enter: "done",
    Qt.Key.Key_PageDown: "done",
    Qt.Key.Key_O: "off",
    Qt.Key.Key_M: "missed",
    Qt.Key.Key_H: "hurts",
}


def _searched(form: Form, told: Progress) -> tuple[Loop, ...]:
    return walked_loops(form, walk(form), 3, told)


class DrillFace(PractiseFace):
    """What is drilled, how often a side, in which order, with which rests."""

    name = tr("Drill")
    purpose = tr("Repeat a posture, a pair or a loop, a set number of times a side")

    def __init__(self, desk: Desk, large: LargeView, speaker: Speaker) -> None:
        super().__init__(desk, large)
        keys = Qt.Key
        self.acts = (
            (tr("Done"), keys.Key_Space),
            (tr("Off"), keys.Key_O),
            (tr("Missed"), keys.Key_M),
            (tr("It hurts"), keys.Key_H),
            (tr("End"), keys.Key_Escape),
        )
        self.done: Done | None = None
        self.speaker = speaker
        self._loops: tuple[Loop, ...] = ()
        self._began = self._left = 0.0
        self.what = choice_box(tr("What to drill"), run=lambda _at: self._chosen())
        self.other = QCheckBox(tr("and its other side"))
        self.each = whole_field(tr("Repetitions per side"), 1, MOST_REPS, 5, " " + tr("per side"))
        self.order = choice_box(tr("Order"), [words for words, _ in _ORDERS])
        self.rest = whole_field(tr("Rest between repetitions"), 0, 600, 0, " " + tr("s"))
        self.headings = whole_field(tr("Start headings"), 1, 4, 1)
        set_tip(
            self.headings,
            tr("1: always face as the form begins; more: each repetition starts a quarter turn further on"),
        )
        self.column.addLayout(
            row_of_fields(
                (
                    (tr("Drill"), self.what),
                    ("", self.other),
                    (tr("Times"), self.each),
                    (tr("Order"), self.order),
                    (tr("Rest"), self.rest),
                    (tr("Start headings"), self.headings),
                )
            )
        )
        self.column.addWidget(VoiceChoice(speaker))
        self.start = QPushButton(tr("Start"))
        set_tip(self.start, tr("Space: done   O: off   M: missed   H: hurts, which stops it   Esc: end"))
        self.start.clicked.connect(safely(desk.book["practise"].trigger))  # which shows the cautions before the first
        self.column.addWidget(self.start)
        self.said = wrapped()
        self.column.addWidget(self.said)
        self.column.addStretch(1)
        self.caution(
            tr(
                "Low stances and standing on one leg tire you before you notice: rest in between and "
                "keep a support within reach. H stops the drill at once and records that it hurt."
            )
        )
        self.search = Search(desk.jobs, "practise loops", pause=400)
        self.column.addWidget(self.search)
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
        if form.postures:
            asked = (form.postures, form.body, form.opening, form.school)
            if self.search.ask(asked, partial(_searched, form), self._take_loops, failed=lambda _error: None):
                self._loops = ()  # those of another form have postures that this one may not have
        else:
            self._loops = ()
        refill(
            self.what, [posture.title for posture in form.postures] + [self._loop_words(loop) for loop in self._loops]
        )
        self._chosen()
        self.start.setEnabled(bool(form.postures))

    def _take_loops(self, loops: tuple[Loop, ...]) -> None:
        self._loops = loops
        self.refresh()

    def _loop_words(self, loop: Loop) -> str:
        form = self.document.form
        first, last = form.postures[loop.postures[0]].title, form.postures[loop.postures[-1]].title
        if loop.left_out:
            return tr("Loop: {first} to {last}, {n} skipped", first=first, last=last, n=len(loop.left_out))
        return tr("Loop: {first} to {last}", first=first, last=last)

    def _postures(self) -> tuple[str, ...]:
        """The postures that are chosen, in a row; none where there are none, or not any more."""
        form, at = self.document.form, max(self.what.currentIndex(), 0)
        if at < len(form.postures):
            return (form.postures[at].id,)
        if at - len(form.postures) >= len(self._loops):
            return ()
        return tuple(form.postures[nth].id for nth in self._loops[at - len(form.postures)].postures)

    def _other(self) -> str | None:
        chosen = self._postures() if self.document.form.postures else ()
        if len(chosen) != 1:
            return None
        review = self.document.judge.review
        pairs = review.sides if review is not None else declared_pairs(self.document.form, self.document.trace)
        return other_side_of(pairs, chosen[0])

    def _chosen(self) -> None:
        other = self._other()
        title = (
            tr("and {title}", title=self.document.form.posture(other).title)
            if other is not None
            else tr("and its other side (it has none)")
        )
        self.other.setText(title)
        hard = any(
            needs_rest(self.document.trace, each) for each in (self._postures() if self.document.form.postures else ())
        )
        if hard and self.rest.value() == 0:
            self.rest.setValue(_REST)
        self.said.setText(
            tr("This is low, or long on one leg: resting {rest} s between repetitions is suggested.", rest=_REST)
            if hard
            else ""
        )
        self.other.setEnabled(other is not None)
        self.other.setChecked(other is not None)

    def drill(self) -> Drill:
        """The drill that is set up. Raises WaltzmarkError."""
        other = self._other() if self.other.isChecked() else None
        return drill_for(
            self.document.form,
            self.document.trace,
            self._postures(),
            self.each.value(),
            () if other is None else (other,),
            _ORDERS[max(self.order.currentIndex(), 0)][1],
            float(self.rest.value()),
            self.headings.value(),
        )

    def begin(self) -> None:
        """Begins the drill that is set up."""
        if self.running or not self._postures():
            return
        try:
            drill = self.drill()
        except WaltzmarkError as error:
            self.said.setText(explained(error))
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
        )
        self.keep(self.done.entries[-1])
        if self.done.next is None:
            self._over()
        elif self.done.drill.rest > 0:
            self._left = self.done.drill.rest
            self._timer.start()
            self._say()
            self.speaker.speak(tr("Rest."))
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
            self.document.session.go(float(max(self.document.trace.span(rep.postures[0])[0] - 1, 0)))
            self.large.set_turned(rep.heading)
            self.speaker.speak(self._spoken(rep))
        self._say()

    def _say(self) -> None:
        rep = self.done.next if self.done is not None else None
        if self.done is None or rep is None:
            return
        title = self._rep_words(rep)
        if self.resting:
            self.large.say(
                Banner(
                    seconds_words(self._left), tr("Rest"), tr("Next: {title}. Press any key to continue.", title=title)
                )
            )
            return
        number_, whole = len(self.done.entries) + 1, len(self.done.drill.reps)
        facing = (
            tr("Face {heading}° to the right of the start.", heading=number(rep.heading, 0)) + " "
            if rep.heading
            else ""
        )
        self.large.say(
            Banner(
                tr("{number} of {whole}", number=number_, whole=whole),
                title,
                facing,
            )
        )

    def _spoken(self, rep: Rep) -> str:
        """What is said of a repetition: which it is, on which side, and how many come after it."""
        done, form = self.done, self.document.form
        assert done is not None
        first, last = (form.posture(rep.postures[at]).title for at in (0, -1))
        title = first if len(rep.postures) == 1 else tr("{first} to {last}", first=first, last=last)
        return drill_words(title, rep.side, len(done.drill.reps) - len(done.entries) - 1)

    def _rep_words(self, rep: Rep) -> str:
        form = self.document.form
        first = form.posture(rep.postures[0]).title
        last = form.posture(rep.postures[-1]).title
        title = first if len(rep.postures) == 1 else tr("{first} to {last}", first=first, last=last)
        return (
            tr("{title}, {side} side {number}", title=title, side=named.side(rep.side), number=rep.number)
            if rep.side
            else f"{title}, {rep.number}"
        )

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
        sides = [
            tr("{done} on the {side}", done=done.done(side), side=named.side(side))
            for side in ("left", "right")
            if done.done(side)
        ]
        words = ", ".join(sides) or tr("{entries} times", entries=len(done.entries))
        self.speaker.speak(tr("Stopped. Rest now.") if hurt else tr("The drill is over: {words}.", words=words))
        stopped = " " + tr("It hurt: rest, and ask a doctor or physiotherapist if it happens again.") if hurt else ""
        self.said.setText(
            tr(
                "{title}: {words}, {off} of them off or missed. Recorded in the practice book.{stopped}",
                title=done.drill.title,
                words=words,
                off=off,
                stopped=stopped,
            )
        )

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
