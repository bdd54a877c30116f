"""The voice of the trainer: what is said when, what is chosen of it, and that practice goes on without."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot

from tests.desktop.conftest import kept, opened
from tests.waiting import until
from waltzmark.core.form.film import VOICES
from waltzmark.core.practice.timeline import Timeline
from waltzmark.desktop import sound as sounding
from waltzmark.desktop.practise.stage import PractiseStage
from waltzmark.desktop.sound import SILENT_SOUND, Mixer
from waltzmark.desktop.speaker import VoiceSettings
from waltzmark.desktop.window import MainWindow


def said(stage: PractiseStage) -> list[str]:
    """What is said from now on."""
    words: list[str] = []
    stage.speaker.spoken.connect(words.append)
    return words


def begun(stage: PractiseStage, count_in: int = 10) -> Timeline:
    """The walk, begun by its key, as soon as what is said in it is laid out; its clock is the test's own."""
    walk = stage.walk
    walk.count_in.setValue(count_in)
    walk.begin()
    walk.walking._timer.stop()
    stage.desk.player._timer.stop()
    until(lambda: stage.speaker.timeline is not None)
    assert stage.speaker.timeline is not None
    return stage.speaker.timeline


def test_a_walk_says_its_cues_in_time_through_count_in_rests_and_rounds(demo: MainWindow) -> None:
    stage, document = opened(demo), demo.document
    walk, walking = stage.walk, stage.walk.walking
    walk.first.setCurrentIndex(1)
    walk.last.setCurrentIndex(2)
    walk.rounds.setValue(2)
    walk.pause.setValue(3)
    stage.speaker.choose(level="all", beats=True)
    timeline = begun(stage)
    first, last = document.trace.span("coil")[0], document.trace.span("cast-right")[1] - 1
    assert len(timeline.rows) == 2 * (last - first + 1)
    # Every sound is noted with the time of the walk it comes at, reckoned here from what goes by.
    clock, noted = 0.0, list[tuple[str, float]]()
    stage.speaker.spoken.connect(lambda text: noted.append((text, clock)))
    seconds = 0.05
    while walking.running:
        clock += seconds
        assert clock < timeline.length + 30.0
        if walking.state == "walking":
            demo.player.advance(seconds)
        else:
            walking.advance(seconds)
    assert clock == pytest.approx(timeline.length, abs=1.0)
    assert [text for text, _ in noted] == [cue.text for cue in timeline.cues]
    # Each state hands over within a step: a cue is never late by more than those steps.
    assert max(abs(at - cue.begin) for (_, at), cue in zip(noted, timeline.cues, strict=True)) < 0.6
    assert kept()[0].reps == 2


def test_a_count_waits_for_its_words_where_that_is_chosen(demo: MainWindow) -> None:
    stage = opened(demo)
    demo.player.set_tempo(0.3)
    stage.speaker.choose(level="all", waits=True)
    timeline = begun(stage)
    assert timeline.left == ()
    waiting = [number for number in range(1, 12) if timeline.pause(number) > 0.05]
    assert waiting
    walking, number = stage.walk.walking, waiting[0]
    walking.key()  # the count-in is skipped
    demo.player._timer.stop()
    demo.player.advance(0.3 * sum(float(demo.document.trace.beats[row]) for row in range(1, number + 1)) + 0.01)

    def state() -> str:
        return walking.state

    assert state() == "waiting" and walking.number == number
    assert walking.left == pytest.approx(timeline.pause(number))
    walking.key()
    assert state() == "paused"
    walking.key()
    demo.player._timer.stop()
    demo.player.advance(0.01)
    assert state() == "walking" and walking.number == number


def test_pausing_going_on_and_what_hurts_are_said_back(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo)
    stage.speaker.choose(level="steps")
    begun(stage)
    words = said(stage)
    qtbot.keyClick(stage.large, Qt.Key.Key_Space)  # begins now
    demo.player._timer.stop()
    assert words == []
    for _ in range(2):
        qtbot.keyClick(stage.large, Qt.Key.Key_Space)
        demo.player._timer.stop()
    qtbot.keyClick(stage.large, Qt.Key.Key_H)
    assert len(words) == len(set(words)) == 3 and kept()[0].outcome == "hurts"
    # Nothing is said where nothing is to be spoken.
    stage.speaker.choose(level="none")
    stage.walk.begin()
    qtbot.keyClick(stage.large, Qt.Key.Key_H)
    assert len(words) == 3


def test_a_drill_says_which_side_and_how_many_are_left_and_recall_asks(demo: MainWindow, qtbot: QtBot) -> None:
    stage = opened(demo, "drill")
    stage.speaker.choose(level="postures")
    words = said(stage)
    drill = stage.drill
    drill.what.setCurrentIndex(demo.document.form.index("coil"))
    drill.what.activated.emit(drill.what.currentIndex())
    drill.each.setValue(3)
    drill.rest.setValue(0)
    drill.begin()
    for _ in range(3):
        qtbot.keyClick(stage.large, Qt.Key.Key_Space)
    assert len(words) == 4 and len(set(words)) == 4 and all("Coil the rope" in each for each in words[:3])
    assert "2" in words[0]
    stage.show_face("recall")
    stage.recall.begin(("coil", 2))
    stage.recall.show_answer()
    assert "Coil the rope" in words[4] and "2" in words[4] and len(words) == 6


def test_what_is_chosen_is_the_same_in_every_face_and_remembered(
    demo: MainWindow, make_window: object, qtbot: QtBot
) -> None:
    stage = opened(demo)
    voice, other = stage.walk.voice, stage.recall.voice
    qtbot.keyClick(voice.level, Qt.Key.Key_Down)
    qtbot.keyClick(voice.level, Qt.Key.Key_Down)
    voice.speed.setValue(130)
    other.volume.setValue(40)
    for name in ("tick", "waits"):
        voice.switches[name].click()
    wanted = VoiceSettings("steps", 130, 40, "own", tick=True, waits=True)
    assert stage.speaker.chosen == wanted and other.level.currentIndex() == VOICES.index("steps")
    assert (other.speed.value(), voice.volume.value()) == (130, 40) and not other.switches
    assert callable(make_window)
    beside: MainWindow = make_window()
    assert opened(beside).speaker.chosen == wanted
    # What somebody wrote into the settings by hand does no harm.
    for name, text in (("level", "shout"), ("speed", "fast"), ("volume", "9999"), ("by", "me")):
        demo.desk.settings.set_text(f"voice_{name}", text)
    third: MainWindow = make_window()
    assert opened(third).speaker.chosen == VoiceSettings("none", 100, 100, "own", tick=True, waits=True)


def test_trying_it_plays_to_the_end(demo: MainWindow) -> None:
    stage = opened(demo)
    words = said(stage)
    stage.walk.voice.attempt.click()
    mixer = stage.speaker.sound.mixer
    until(lambda: bool(mixer._spoken))
    assert len(words) == 1 and len(mixer._spoken[0]) > 10_000
    stage.speaker.hush()
    assert not mixer._spoken
    stage.speaker.choose(tick=True, breath=True)
    stage.speaker.tick(True, False, 0.05)
    assert len(mixer._over) == 2
    until(lambda: not mixer._over)  # the device takes what it is given, though nobody hears it
    stage.speaker.close()


def test_no_sound_card_is_told_once_and_practice_goes_on(
    demo: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    stage = opened(demo)
    told: list[str] = []
    stage.speaker.failed.connect(told.append)

    class NoCard:
        class Backend:
            NULL = 0

        class SampleFormat:
            FLOAT32 = 0

        @staticmethod
        def PlaybackDevice(**_options: object) -> object:
            raise OSError("no card")

    monkeypatch.setattr(sounding, "library", lambda _name: NoCard)
    stage.speaker.choose(level="steps")
    stage.walk.voice.attempt.click()
    until(lambda: bool(told))
    assert len(told) == 1 and "no card" in told[0] and told[0] in stage.walk.said.text()
    begun(stage)
    qtbot.keyClick(stage.large, Qt.Key.Key_Space)
    assert stage.walk.walking.state == "walking" and len(told) == 1
    stage.speaker.tick(True, None, 1.0)
    monkeypatch.undo()
    monkeypatch.setenv(SILENT_SOUND, "1")
    stage.walk.voice.attempt.click()  # a card was put in: it is tried again
    until(lambda: stage.speaker.sound._device is not None)
    stage.speaker.close()


def test_the_desktops_voice_is_asked_where_it_is_chosen(
    demo: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    stage = opened(demo)
    assert stage.walk.voice.by.parent() is None or stage.speaker.dispatcher is not None
    # A stand-in for speech-dispatcher's command: it notes what it is asked to say.
    command, noted = tmp_path / "spd-say", tmp_path / "noted"
    command.write_text(f'#!/bin/sh\nfor each; do echo "$each"; done >> "{noted}"\n', encoding="utf-8")
    command.chmod(0o755)
    monkeypatch.setenv("PATH", f"{tmp_path}:/usr/bin:/bin")
    stage.speaker.choose(level="steps", by="desktop", speed=120, volume=75)
    stage.speaker.speak("--left foot to nine")
    until(lambda: noted.exists() and "left foot to nine" in noted.read_text(encoding="utf-8"))
    lines = noted.read_text(encoding="utf-8").splitlines()
    assert (
        "--left foot to nine" in lines and lines[lines.index("-r") + 1] == "20" and lines[lines.index("-i") + 1] == "50"
    )
    assert lines[lines.index("--left foot to nine") - 1] == "--"  # words are never taken for options


# What is played.


@given(
    st.lists(st.tuples(st.booleans(), st.integers(0, 30)), max_size=6),
    st.lists(st.integers(1, 40), min_size=1, max_size=8),
)
def test_speech_follows_speech_and_other_sounds_lie_over_it(sounds: list[tuple[bool, int]], asked: list[int]) -> None:
    mixer, spoken, over = Mixer(), np.zeros(0), np.zeros(400)
    for number, (says, length) in enumerate(sounds, 1):
        samples = np.full(length, 0.01 * number)
        if says:
            mixer.speak(samples)
            spoken = np.concatenate([spoken, samples])
        else:
            mixer.add(samples)
            over[:length] += samples
    whole = over.copy()
    whole[: len(spoken)] += spoken
    got = np.concatenate([mixer.take(number) for number in asked])
    assert np.allclose(got, whole[: sum(asked)], atol=1e-6)
    mixer.speak(np.full(3, 5.0))
    assert mixer.take(400).max() <= 1.0
    mixer.speak(np.ones(9))
    mixer.hush()
    assert not mixer.take(9).any()
