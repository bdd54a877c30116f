"""Films out of the window and by the command: chosen, looked at, made, stopped, and killed."""

from __future__ import annotations

import os
import resource
import signal
import subprocess
import sys
import time
from pathlib import Path

import av
import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFileDialog
from pytestqt.qtbot import QtBot

from tests.waiting import until
from waltzmark.core.edit.forms import delete_posture
from waltzmark.core.form.film import Film
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.film_dialog import FilmDialog
from waltzmark.desktop.history import Selection
from waltzmark.desktop.window import MainWindow
from waltzmark.files.reading import read_file


def opened(window: MainWindow, last: int = 0) -> FilmDialog:
    dialog = window.dialogs.film()
    dialog.last.setCurrentIndex(last)
    dialog.last.activated.emit(last)
    until(lambda: dialog.plan is not None and not window.desk.jobs.busy("film plan"))
    return dialog


def test_what_is_chosen_is_shown_and_its_length_is_told(demo: MainWindow, qtbot: QtBot) -> None:
    dialog = opened(demo)
    assert dialog.plan is not None
    counts = demo.document.trace.span("quay")
    beats = float(demo.document.trace.beats[counts[0] : counts[1]].sum())
    assert dialog.plan.length == pytest.approx(5.0 + 1.5 * beats + 2.0)
    pictures = []
    for keys, box in (
        ((), None), ((Qt.Key.Key_Up,), dialog.show_), ((Qt.Key.Key_Down, Qt.Key.Key_Down), dialog.view),
    ):  # fmt: skip
        for key in keys:
            assert box is not None
            qtbot.keyClick(box, key)
        assert dialog.picture.image is not None
        pictures.append(dialog.picture.image.copy())
    assert pictures[0] != pictures[1] != pictures[2] and pictures[0] != pictures[2]
    assert (dialog.film.show, dialog.film.view) == ("figure", "front")
    dialog.tempo.setValue(3.0)
    dialog.passes.setValue(2)
    dialog.count_in.setValue(0)
    dialog.switches["waits"].click()
    until(lambda: dialog.plan is not None and dialog.plan.film == dialog.film)
    assert dialog.plan.length >= 2 * 3.0 * beats + 2.0
    # Words that have no time are told, and how many.
    dialog.switches["waits"].click()
    dialog.tempo.setValue(0.3)
    until(lambda: dialog.plan is not None and dialog.plan.film == dialog.film)
    assert dialog.plan.timeline.left and str(len(dialog.plan.timeline.left)) in dialog.said.text()
    dialog.close()


def test_a_film_is_made_beside_the_window_and_the_choices_are_kept_with_the_form(
    demo: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    dialog, document = opened(demo), demo.document
    dialog.show_.setCurrentIndex(0)
    dialog.tempo.setValue(0.3)
    dialog.count_in.setValue(1)
    for name, save, suffix in (("one", dialog.save_film, ".webm"), ("two", dialog.save_track, ".opus")):
        monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_, name=name: (str(tmp_path / name), ""))
        save()
        made = tmp_path / f"{name}{suffix}"
        until(made.exists, 60.0)
        until(lambda: not dialog.search.busy)
        with av.open(str(made)) as container:
            assert container.streams.audio and bool(container.streams.video) == (suffix == ".webm")
    wanted = Film(show="floor", tempo=0.3, count_in=1.0)
    assert document.form.film == wanted
    document.save(tmp_path / "kept.waltz")
    assert read_file(tmp_path / "kept.waltz").form.film == wanted
    dialog.close()
    document.undo()
    assert document.form.film == Film()


def test_stop_answers_at_once_and_leaves_nothing(demo: MainWindow, tmp_path: Path) -> None:
    dialog = opened(demo, 18)
    dialog.write(tmp_path / "long.webm")
    until(lambda: dialog.search.bar.value() > 0, 60.0)
    assert dialog.search.busy and list(tmp_path.glob("*.webm")) == []
    begun = time.monotonic()
    dialog.search.button.click()
    assert not dialog.search.busy and time.monotonic() - begun < 0.3
    until(lambda: "film" not in demo.desk.jobs._running)
    assert [each.name for each in tmp_path.iterdir() if "webm" in each.name] == []
    # Another can be made after it; where it cannot be written, that is told.
    dialog.write(tmp_path / "no" / "folder.webm")
    until(lambda: not dialog.search.busy)
    assert "folder.webm" in dialog.said.text()
    dialog.close()


def test_there_is_nothing_to_film_before_a_count_is_written(window: MainWindow) -> None:
    window.document.new()
    dialog = window.dialogs.film()
    assert not dialog.make.isEnabled() and not dialog.track.isEnabled() and dialog.picture.image is None
    dialog.close()


# By the command.


def command(*arguments: object) -> list[str]:
    return [sys.executable, "-m", "waltzmark", "film", *map(str, arguments)]


FORM = """
waltzmark = 1
[film]
show = "floor"
voice = "none"
tempo = 0.2
count_in = 0.5
[[posture]]
id = "mend"
counts = ["shift R 100", "step L 12 bow 50x20 heel", "shift L 70"]
[[posture]]
id = "fold"
counts = ["shift L 100", "step R 12 bow 50x20 heel", "shift R 70 @3", "pivot L heel 1", "shift L 100", "lift R", "kick R 12 waist heel @2"]
"""


@pytest.fixture
def form(tmp_path: Path) -> Path:
    made = tmp_path / "form.waltz"
    made.write_text(FORM, encoding="utf-8")
    return made


def test_the_command_takes_what_the_document_says_and_what_it_is_told_and_films_the_same_twice(
    form: Path, tmp_path: Path
) -> None:
    pictures = []
    for name in ("a", "b"):
        out = [tmp_path / f"{name}{suffix}" for suffix in (".mp4", ".vtt", ".wav", ".words.vtt")]
        ran = subprocess.run(
            command(form, "-o", out[0], "--track", out[2], "--to", "mend", "--passes", "2"),
            capture_output=True, text=True, timeout=120, env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
        )  # fmt: skip
        assert ran.returncode == 0, ran.stderr
        assert ran.stdout.split() == [str(each) for each in out]
        with av.open(str(out[0])) as container:
            pictures.append([hash(frame.to_ndarray().tobytes()) for frame in container.decode(video=0)])
    assert pictures[0] == pictures[1]
    read = read_file(form).form
    trace = walk(read)
    beats = float(trace.beats[slice(*trace.span("mend"))].sum())
    assert len(pictures[0]) == pytest.approx(25 * (0.5 + 2 * 0.2 * beats + 2.0), abs=1)
    with av.open(str(out[2])) as container:
        assert container.duration is not None
        assert container.duration / 1e6 == pytest.approx(0.5 + 2 * 0.2 * beats + 2.0, abs=0.1)


@pytest.mark.parametrize(
    ("options", "told"),
    [
        (("-o", "a.avi"), "a.avi"),
        (("-o", "a.webm", "--from", "nowhere"), "nowhere"),
        (("-o", "a.webm", "--tempo", "0"), "--tempo"),
        (("-o", "a.webm", "--passes", "many"), "--passes"),
        ((), "-o"),
    ],
)
def test_what_it_cannot_do_is_told(options: tuple[str, ...], told: str, form: Path, tmp_path: Path) -> None:
    ran = subprocess.run(command(form, *options), capture_output=True, text=True, timeout=60, cwd=tmp_path)
    assert ran.returncode == 2 and told in ran.stderr and "Traceback" not in ran.stderr
    assert not list(tmp_path.glob("a.*"))


@pytest.mark.parametrize("by", [signal.SIGKILL, signal.SIGTERM, signal.SIGINT])
def test_killing_it_while_it_films_leaves_nothing(by: signal.Signals, form: Path, tmp_path: Path) -> None:
    folder = tmp_path / "films"
    folder.mkdir()
    before = set(Path("/tmp").glob("waltzmark-film*"))
    running = subprocess.Popen(
        command(form, "-o", folder / "a.mp4", "--passes", "9"), stdout=subprocess.PIPE, stderr=subprocess.PIPE
    )
    handles = Path(f"/proc/{running.pid}/fd")

    def films() -> bool:
        """Whether a file of some size is open in the folder: it has no name."""
        for each in handles.iterdir():
            try:
                if str(folder) in os.readlink(each) and each.stat().st_size > 0:
                    return True
            except OSError:
                continue
        return False

    try:
        until(films, 60.0)
        running.send_signal(by)
        running.wait(timeout=30)
    finally:
        running.kill()
    assert running.returncode != 0 and list(folder.iterdir()) == []
    assert set(Path("/tmp").glob("waltzmark-film*")) == before


@pytest.mark.parametrize("name", ["a.webm", "a.mp4", "a.webp", "a.wav"])
def test_a_full_disk_is_told_and_leaves_nothing(name: str, form: Path, tmp_path: Path) -> None:
    folder = tmp_path / "films"
    folder.mkdir()

    def little() -> None:
        """No file may become larger than 12 kB."""
        resource.setrlimit(resource.RLIMIT_FSIZE, (12_000, 12_000))

    option = "--track" if name.endswith("wav") else "-o"
    ran = subprocess.run(
        command(form, option, folder / name, "--to", "mend"),
        capture_output=True, text=True, timeout=120, preexec_fn=little,
        env={**os.environ, "PYTHONDONTWRITEBYTECODE": "1"},  # which would be cut off too
    )  # fmt: skip
    assert ran.returncode == 2 and name in ran.stderr and "Traceback" not in ran.stderr
    assert list(folder.iterdir()) == []


def test_an_open_film_follows_the_form_and_there_is_one_of_it(demo: MainWindow) -> None:
    document = demo.document
    ids = [posture.id for posture in document.form.postures]
    dialog = opened(demo, len(ids) - 1)
    assert dialog.passage == (ids[0], ids[-1])

    def taken_out(name: str) -> None:
        document.edit("take it out", delete_posture(document.form, name), Selection())

    dialog.first.setCurrentIndex(3)
    for _ in range(2):  # the last posture goes: the film ends with the one before
        taken_out(document.form.postures[-1].id)
        assert dialog.passage == (ids[3], document.form.postures[-1].id)
    assert dialog.first.count() == dialog.last.count() == len(ids) - 2
    taken_out(ids[0])
    assert dialog.passage == (ids[3], ids[-3]) and dialog.first.currentIndex() == 2
    while document.undo_words is not None:
        document.undo()
    assert dialog.passage == (ids[3], ids[-1])
    assert demo.dialogs.film() is dialog
    dialog.close()
