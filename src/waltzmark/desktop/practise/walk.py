"""Walk: led hands-free through the form or a passage of it, with what is to be read from three metres."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QPushButton

from waltzmark.core.base.records import Record
from waltzmark.core.practice.entries import Entry, Outcome, now, passage_words
from waltzmark.core.room.things import wall_heading
from waltzmark.desktop.desk import Desk
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import set_tip, wrapped
from waltzmark.desktop.practise.face import PractiseFace
from waltzmark.desktop.practise.large import Banner, LargeView, seconds_words
from waltzmark.desktop.practise.voice import VoiceChoice
from waltzmark.desktop.practise.walking import Walking
from waltzmark.desktop.speaker import Led, Speaker
from waltzmark.desktop.widgets.fields import row_of_fields, whole_field
from waltzmark.desktop.widgets.parts import choice_box, push_button, refill
from waltzmark.files.saving import save_atomically
from waltzmark.words.cues import cue_track
from waltzmark.words.language import ntr, number, tr

__all__ = ["WalkFace"]

_NOTHING = tr("There is nothing to walk yet. Write a count in Plot (Ctrl+3).")


class _Walked(Record):
    """What is walked: the title of the form, the ids of the passage's postures, their titles, whether it is all."""

    form: str
    postures: tuple[str, ...]
    titles: tuple[str, ...]
    whole: bool


class WalkFace(PractiseFace):
    """Which passage, how often, facing where; a count-in, and any key pauses."""

    name = tr("Walk")
    purpose = tr("Follow the form hands-free, readable from three metres away")

    def __init__(self, desk: Desk, large: LargeView, speaker: Speaker) -> None:
        super().__init__(desk, large)
        keys = Qt.Key
        self.acts = (
            (tr("Pause or continue"), keys.Key_Space),
            (tr("It hurts"), keys.Key_H),
            (tr("End"), keys.Key_Escape),
        )
        self.walking = Walking(desk.document, desk.player, self)
        self.speaker = speaker
        self._hurts = False
        self._was = "ready"
        self._walked = _Walked("", ("",), (), True)
        self._turns: list[float] = [0.0]
        self.first, self.last = QComboBox(), QComboBox()
        for box, words in ((self.first, tr("Passage from")), (self.last, tr("Passage to"))):
            box.setAccessibleName(words)
            box.activated.connect(safely(lambda _at: self._go()))
        self.rounds = whole_field(tr("Times"), 1, 99, 1, " ×")
        self.count_in = whole_field(tr("Count-in"), 0, 60, 10, " " + tr("s"))
        self.pause = whole_field(tr("Pause after each posture"), 0, 60, 0, " " + tr("s"))
        self.facing = choice_box(tr("Begin facing"), run=lambda _at: self._turn())
        self.column.addLayout(
            row_of_fields(
                (
                    (tr("From"), self.first),
                    (tr("to"), self.last),
                    (tr("Walk it"), self.rounds),
                    (tr("Count-in"), self.count_in),
                    (tr("Pause after a posture"), self.pause),
                    (tr("Begin facing"), self.facing),
                )
            )
        )
        self.voice = VoiceChoice(speaker, leads=True)
        self.column.addWidget(self.voice)
        self.start = QPushButton(tr("Start"))
        set_tip(
            self.start,
            tr(
                "Counts you in and leads the walk. Any key, or a presenter’s clicker, pauses and continues; Esc ends it"
            ),
        )
        self.start.clicked.connect(safely(desk.book["practise"].trigger))  # which shows the cautions before the first
        self.column.addWidget(self.start)
        self.cues = push_button(
            tr("Save the cues as subtitles (WebVTT) …"),
            self.save_cues,
            tr("The words of each count at the right time, for any player that shows subtitles or reads them aloud"),
        )
        self.column.addWidget(self.cues)
        self.said = wrapped()
        self.column.addWidget(self.said)
        self.column.addStretch(1)
        self.caution(
            tr("Stop when it hurts. Keep a support within reach, and rest after low stances and standing on one leg.")
        )
        self.walking.changed.connect(safely(self._show))
        self.walking.counted.connect(safely(self._counted))
        self.walking.ended.connect(safely(self._ended))
        self.walking.changed.connect(safely(self._speak))
        self.walking.waited.connect(safely(self._follow))
        self.walking.waits = self._waits
        self.document.session.moved.connect(safely(self._follow))
        desk.player.tempo_changed.connect(safely(self._prepare))
        speaker.changed.connect(safely(self._prepare))

    @property
    def running(self) -> bool:
        return self.walking.running

    def refresh(self) -> None:
        form = self.document.form
        titles = [posture.title for posture in form.postures]
        for box, at in ((self.first, 0), (self.last, len(titles) - 1)):
            if titles != [box.itemText(n) for n in range(box.count())]:
                refill(box, titles, at)
        room = form.room
        facings = [
            tr("as the form begins"),
            tr("a quarter turn to the right"),
            tr("half a turn"),
            tr("a quarter turn to the left"),
        ]
        self._turns = [0.0, 90.0, 180.0, 270.0]
        if room is not None:
            for corner, name in room.walls:
                facings.append(tr("facing the {name}", name=name))
                self._turns.append((wall_heading(room.outline, corner) - room.start.heading) % 360.0)
        refill(self.facing, facings)
        self.start.setEnabled(len(self.document.trace) > 1)
        if not self.start.isEnabled():
            self.said.setText(_NOTHING)
        elif self.said.text() == _NOTHING:
            self.said.clear()

    def _rows(self) -> tuple[int, int]:
        """The first and the last row of the passage that is chosen."""
        form, trace = self.document.form, self.document.trace
        if not form.postures:
            return 1, len(trace) - 1
        low, high = self._ends()
        return trace.span(form.postures[low].id)[0], trace.span(form.postures[high].id)[1] - 1

    def _ends(self) -> tuple[int, int]:
        """The numbers of the first and the last posture that are chosen, of those that there still are."""
        most = max(len(self.document.form.postures) - 1, 0)
        first, last = (min(max(box.currentIndex(), 0), most) for box in (self.first, self.last))
        return min(first, last), max(first, last)

    def _passage(self) -> list[str]:
        """The ids of the postures that are chosen."""
        low, high = self._ends()
        return [posture.id for posture in self.document.form.postures[low : high + 1]]

    def _go(self) -> None:
        if not self.running:
            self.document.session.go(float(max(self._rows()[0] - 1, 0)))

    def _turn(self) -> None:
        self.large.set_turned(self._turns[max(self.facing.currentIndex(), 0)])

    def begin(self) -> None:
        """Counts in and walks."""
        first, last = self._rows()
        if last < first or self.running:
            return
        self.walking.rounds, self.walking.count_in = self.rounds.value(), float(self.count_in.value())
        self.walking.pause = float(self.pause.value())
        form, chosen = self.document.form, self._passage() or [self.document.trace.posture(first) or ""]
        self._walked = _Walked(
            form.title,
            tuple(chosen),
            tuple(form.posture(each).title for each in chosen if each),
            len(chosen) >= len(form.postures),
        )
        self.alone(True)
        self.large.setFocus()
        self.walking.begin(first, last)
        self._prepare()

    def key(self, key: int | None) -> None:
        if key == Qt.Key.Key_H and self.running:  # it hurts: it stops, is noted, and nothing is asked
            self._hurts = True
            self.walking.give_up()
            self.speaker.speak(tr("Stopped. Rest now."))
        elif key == Qt.Key.Key_Escape:
            self.walking.give_up()
        elif self.running:
            self.walking.key()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.begin()

    def leave(self) -> None:
        self.walking.give_up()

    # What is heard.

    def _prepare(self) -> None:
        """Lays out what is said, for the tempo and the voice that are chosen now."""
        if self.running:
            walking = self.walking
            led = Led(
                (walking.first, walking.last),
                walking.rounds,
                self.desk.player.seconds_per_beat,
                walking.count_in,
                walking.pause,
                self.large.turned,
            )
            self.speaker.prepare(self.document.form, self.document.trace, led)

    def _waits(self, number: int) -> float:
        """Seconds for which the movement of a row waits for its words."""
        timeline = self.speaker.timeline
        if timeline is None or not self.speaker.chosen.waits or not 0 < number < len(timeline.rows):
            return 0.0
        begins = int(self.document.trace.counts[self.walking.row_of(number)]) == 1
        return max(timeline.pause(number) - (self.walking.pause if begins else 0.0), 0.0)

    def _now(self) -> float | None:
        """Where the walk is in the timeline of what is spoken; None where nothing is."""
        timeline, walking = self.speaker.timeline, self.walking
        if timeline is None or not 0 <= walking.number < len(timeline.rows):
            return None
        if walking.state in ("count-in", "resting", "waiting"):
            return timeline.rows[walking.number][1] - walking.left
        if walking.held(walking.number) > 0:
            return timeline.when(walking.number - 1, 1.0)
        return timeline.when(walking.number, walking.part)

    def _follow(self) -> None:
        if self.walking.state in ("count-in", "resting", "waiting", "walking") and (now := self._now()) is not None:
            self.speaker.at(now)

    def _counted(self, begins: bool) -> None:
        row = self.document.session.row
        trace = self.document.trace
        self.speaker.tick(begins, trace.breaths[row], float(trace.beats[row]) * self.desk.player.seconds_per_beat)

    def _speak(self) -> None:
        """The walk pauses or goes on: the voice does so too, and says it."""
        state, was = self.walking.state, self._was
        self._was = state
        if state == was:
            return
        if state == "paused":
            self.speaker.speak(tr("Paused"))
        elif state == "walking" and was == "paused":
            self.speaker.speak(tr("Go on"))
        elif state in ("ready", "done"):
            self.speaker.hush()
        if state == "walking" and was in ("paused", "ready") and (now := self._now()) is not None:
            self.speaker.seek(now)

    def _show(self) -> None:
        state, walking = self.walking.state, self.walking
        if state == "count-in":
            self.large.say(
                Banner(
                    seconds_words(walking.left),
                    tr("Stand in the first stance"),
                    tr("Press any key to begin now."),
                )
            )
        elif state == "resting":
            self.large.say(Banner(seconds_words(walking.left), tr("Rest"), tr("Press any key to continue.")))
        elif state == "paused":
            self.large.say(Banner(tr("Paused"), "", tr("Press any key to continue.")))
        else:
            self.large.say(None)

    def _ended(self, minutes: float, rounds: int) -> None:
        self.alone(False)
        self.large.say(None)
        walked = self._walked  # the form may be another by now: that is one way in which a walk ends
        posture, whole = walked.postures[0], walked.whole
        ends = tuple(dict.fromkeys((*walked.titles[:1], *walked.titles[-1:])))
        title = tr("{first} to {last}", first=ends[0], last=ends[1]) if len(ends) == 2 else "".join(ends)
        hurts, self._hurts = self._hurts, False
        if minutes < 0.02 and rounds == 0 and not hurts:
            return  # it was given up before it began
        outcome: Outcome = "done" if rounds >= self.rounds.value() else "off"
        if hurts:
            outcome = "hurts"
        self.keep(
            Entry(
                now(),
                "walk",
                self.desk.practice.person,
                walked.form,
                "" if whole else posture,
                "" if whole or not posture else title,
                "",
                self.large.turned,
                max(rounds, 0),
                round(minutes, 3),
                "" if whole else passage_words(walked.postures),
                outcome=outcome,
            )
        )
        times = ntr("{n} time", "{n} times", rounds)
        hurt = " " + tr("It hurt: rest, and ask a doctor or physiotherapist if it happens again.") if hurts else ""
        self.said.setText(
            tr(
                "Walked {times} in {minutes} min. Recorded in the practice book.{hurt}",
                times=times,
                minutes=number(minutes, 1),
                hurt=hurt,
            )
        )

    def save_cues(self) -> None:
        """Asks for a file and writes the track of the passage."""
        beside = self.document.beside(".vtt", tr("cues"))
        if path := self.desk.files.to_save(tr("Save the cues"), beside, tr("WebVTT (*.vtt)")):
            self.write_cues(path)

    def write_cues(self, path: Path) -> None:
        """Writes the track of the passage at the present tempo; tells why where it cannot."""
        form, (first, last) = self.document.form, self._rows()
        titles = {posture.id: posture.title for posture in form.postures}
        track = cue_track(
            self.document.trace,
            titles,
            self.desk.player.seconds_per_beat,
            float(self.count_in.value()),
            self.document.session.say,
            range(first, last + 1),
        )
        self.desk.asking.attempt(lambda: save_atomically(path, track))
