"""The voice of the trainer: how much is spoken, by whom, how fast and how loud, with a button to try it."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QGridLayout, QSlider, QWidget

from waltzmark.core.form.film import VOICES
from waltzmark.desktop.guard import safely
from waltzmark.desktop.plain import Label, set_tip
from waltzmark.desktop.speaker import BY, Speaker
from waltzmark.desktop.widgets.parts import choice_box, push_button, quiet
from waltzmark.words.ear import HEARD_WORDS, LEVEL_WORDS
from waltzmark.words.language import N_, tr

__all__ = ["VoiceChoice"]

_BY = {"own": N_("this program’s voice"), "desktop": N_("the desktop’s voice")}
_WAITS = N_("A count waits until its words are spoken; else words that have no time are left out")


class VoiceChoice(QWidget):
    """Shows what is chosen, and chooses; the same wherever it stands. leads: whether what is heard along with a led
    walk is chosen too."""

    def __init__(self, speaker: Speaker, leads: bool = False) -> None:
        super().__init__()
        self.speaker = speaker
        self.level = choice_box(
            tr("Voice"),
            [tr(LEVEL_WORDS[each]) for each in VOICES],
            lambda at: speaker.choose(level=VOICES[at]),
            narrow=True,
        )
        self.by = choice_box(tr("Whose voice"), [tr(_BY[each]) for each in BY], lambda at: speaker.choose(by=BY[at]))
        self.speed = self._slider(tr("Speed of the voice"), "speed", 50, 200)
        self.volume = self._slider(tr("Volume of the voice"), "volume", 0, 100)
        self.attempt = push_button(tr("Try it"), self.try_it, tr("Says something with this voice"))
        self.switches: dict[str, QCheckBox] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setColumnStretch(1, 1)
        grid.setVerticalSpacing(4)
        fields = [(tr("Voice"), self.level), (tr("Speed"), self.speed), (tr("Volume"), self.volume)]
        if speaker.dispatcher is not None or speaker.chosen.by != BY[0]:
            fields.insert(1, (tr("Spoken by"), self.by))
        for row, (words, field) in enumerate(fields):
            grid.addWidget(Label(words), row, 0)
            grid.addWidget(field, row, 1)
        grid.addWidget(self.attempt, 0, 2)
        for at, (name, words) in enumerate(HEARD_WORDS.items() if leads else ()):
            check = self.switches[name] = QCheckBox(tr(words))
            if name == "waits":
                set_tip(check, tr(_WAITS))
            check.toggled.connect(safely(lambda on, name=name: speaker.choose(**{name: on})))
            grid.addWidget(check, len(fields) + at, 0, 1, 3)
        speaker.changed.connect(safely(self._show))
        self._show()

    def _slider(self, words: str, name: str, least: int, most: int) -> QSlider:
        made = QSlider(Qt.Orientation.Horizontal)
        made.setAccessibleName(words)
        made.setRange(least, most)
        made.setPageStep(10)
        made.valueChanged.connect(safely(lambda value: self._slid(made, words, name, value)))
        return made

    def _slid(self, slider: QSlider, words: str, name: str, value: int) -> None:
        set_tip(slider, tr("{words}: {value} %", words=words, value=value))
        self.speaker.choose(**{name: value})

    def _show(self) -> None:
        chosen = self.speaker.chosen
        with quiet(self.level, self.by, self.speed, self.volume, *self.switches.values()):
            self.level.setCurrentIndex(VOICES.index(chosen.level))
            self.by.setCurrentIndex(BY.index(chosen.by))
            self.speed.setValue(chosen.speed)
            self.volume.setValue(chosen.volume)
            for name, check in self.switches.items():
                check.setChecked(getattr(chosen, name))

    def try_it(self) -> None:
        """Says something."""
        self.speaker.attempt(tr("Weight on the right, all of it. Left foot to nine, heel first."))
