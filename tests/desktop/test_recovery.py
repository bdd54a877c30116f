"""A crash loses at most the last seconds of typing, and no answer to any question destroys the last copy."""

from __future__ import annotations

import fcntl
import json
import math
import os
import signal
import stat
import subprocess
import sys
import time
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtWidgets import QMessageBox
from pytestqt.qtbot import QtBot

from tests.core import strategies as write
from tests.desktop.conftest import chooses, type_count
from tests.trying import tries
from waltzmark.core.base.records import replace
from waltzmark.core.edit.forms import judged_by
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.mutes import Mute
from waltzmark.core.school.school import bundled_schools, load_school
from waltzmark.core.score import write_count
from waltzmark.core.score.read import read_line
from waltzmark.demo import demo_text
from waltzmark.desktop.recovery import DELAY, Recovery, _read, folder, kept_values, left_behind
from waltzmark.desktop.window import MainWindow
from waltzmark.desktop.windows import all_windows
from waltzmark.files.reading import ReadForm, read_document
from waltzmark.files.writing import render

WRITER = """
import sys, platformdirs
platformdirs.user_state_dir = lambda *_: sys.argv[1] + "/state"
platformdirs.user_config_dir = lambda *_: sys.argv[1] + "/config"
from waltzmark.desktop.app import make_application
from waltzmark.core.score import read_count
application = make_application()
from waltzmark.desktop.windows import open_window
window = open_window()
window.filing.open_demo()
window.editor.insert([read_count("hold # typed before the crash")])
print("typed", flush=True)
application.exec()
"""


def files() -> list[Path]:
    return sorted(folder().glob("*.json"))


def keep(name: str, form: Form, read: ReadForm | None = None, path: Path | None = None) -> Path:
    """Leaves a kept document behind, as a crash does."""
    folder().mkdir(parents=True, exist_ok=True)
    file = folder() / f"{name}.json"
    file.write_text(json.dumps(kept_values(form, read, path, name)), encoding="utf-8")
    return file


def test_what_was_typed_before_a_kill_is_offered_again(
    window: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    (tmp_path / "state").mkdir()
    folder().mkdir(mode=0o755)
    writer = subprocess.Popen([sys.executable, "-c", WRITER, str(tmp_path)], stdout=subprocess.PIPE, text=True)
    assert writer.stdout is not None and writer.stdout.readline() == "typed\n"
    qtbot.waitUntil(lambda: len(files()) == 1, timeout=10_000)
    assert left_behind().kept == ()  # the writer still lives: its document is its own
    assert stat.S_IMODE(files()[0].stat().st_mode) == 0o600 and stat.S_IMODE(folder().stat().st_mode) == 0o700
    writer.send_signal(signal.SIGKILL)
    writer.wait()
    asked = chooses(monkeypatch, "Open it")
    assert window.filing.offer_recovery()
    assert "“The ferry round”" in asked[0] and "never saved" in asked[0]
    last = window.document.form.postures[0].lines[-1]
    assert write_count(last) == "hold # typed before the crash"
    assert window.document.changed and window.isWindowModified()
    assert len(files()) == 1 and left_behind().kept == ()  # now kept as this window's own


odd = st.sampled_from(['say "so"', "two\nlines", "", " edges ", "a\ud800b", "<b>&", "\x00\x1b", "ends = 9 # no"])
lines = st.lists(write.counts | st.sampled_from(["pivott", "step L 9 crane", '"']).map(read_line), max_size=4)


@given(odd, odd.filter(str.strip), lines, st.sampled_from(bundled_schools()), st.booleans(), st.booleans())
@settings(max_examples=tries(60), suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_what_is_kept_is_exactly_what_would_be_saved(
    tmp_path: Path, text: str, reason: str, counts: list[object], school: str, own: bool, based: bool
) -> None:
    base = read_document(demo_text()) if based else None
    judged = load_school(school)
    if own:  # a school of one's own, with a stance of its own
        judged = replace(judged, id="own", base=school, stances={**judged.stances, "crane": judged.stances["low"]})
    form = base.form if base else Form()
    form = replace(
        form,
        title=text,
        mutes=(Mute("pivot.part", reason),),
        body=replace(form.body, mass=70.0, name=text),
        postures=(*form.postures, Posture('odd "id" [x]', text, tuple(counts), note=text)),  # type: ignore[arg-type]
    )
    form = judged_by(form, judged)
    file = tmp_path / "kept.json"
    file.write_text(json.dumps(kept_values(form, base, None, text)), encoding="utf-8")
    found = _read(file)
    assert render(found.form, found.read) == render(form, base)


def test_a_save_takes_the_kept_changes_away_and_giving_up_moves_them_aside(
    window: MainWindow, qtbot: QtBot, tmp_path: Path
) -> None:
    type_count(window, "shift R 100")
    qtbot.waitUntil(lambda: len(files()) == 1, timeout=5000)
    assert _read(files()[0]).form == window.document.form and _read(files()[0]).path is None
    assert window.filing.save_to(tmp_path / "a.waltz") and files() == [] and not list(folder().glob("*.lock"))
    type_count(window, "hold")
    qtbot.waitUntil(lambda: len(files()) == 1, timeout=5000)
    assert _read(files()[0]).path == tmp_path / "a.waltz"
    window.document.undo()
    assert files() == []  # nothing to lose any more
    type_count(window, "torso 3")
    window.recovery.throw_away()
    (kept,) = window.filing.thrown_away()
    assert kept.form == window.document.form and files() == []


def test_kept_changes_may_be_thrown_away_or_left_for_later_and_what_is_damaged_is_told(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    mine = keep("a", Form("Mine"), path=Path("/tmp/form.waltz"))
    (folder() / "broken.json").write_text("{", encoding="utf-8")
    (folder() / "odd.json").write_text('{"kept": 1, "process": "x"}', encoding="utf-8")
    told: list[str] = []
    monkeypatch.setattr(type(window.desk.asking), "tell", lambda _self, heading, words: told.append(words))
    asked = chooses(monkeypatch, "Ask me later")
    assert not window.filing.offer_recovery() and mine.exists() and "/tmp/form.waltz" in asked[0]
    assert "broken.json" in told[0] and "odd.json" in told[0]
    chooses(monkeypatch, "Discard it")
    assert not window.filing.offer_recovery() and [file.name for file in files()] == ["broken.json", "odd.json"]
    assert [kept.title for kept in window.filing.thrown_away()] == ["a"]
    for number in range(25):  # a bound, so that it does not grow for ever
        os.utime(keep(f"n{number}", Form()), (number, number))
    for kept in left_behind().kept:
        kept.throw_away()
    assert len(window.filing.thrown_away()) == 20


def test_every_window_that_crashed_comes_back_in_one_of_its_own(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    for name in ("One", "Two"):
        keep(name, Form(postures=(Posture("p", name, (read_line("hold"),)),)))
    chooses(monkeypatch, "Open it")
    assert window.filing.offer_recovery()
    titles = {each.document.form.postures[0].name for each in all_windows()}
    assert titles == {"One", "Two"} and all(each.document.changed for each in all_windows())
    assert len(files()) == 2 and not {"One.json", "Two.json"} & {file.name for file in files()}


def test_a_recovered_file_has_not_changed_unless_it_has(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    path = tmp_path / "form.waltz"
    path.write_text(demo_text(), encoding="utf-8")
    read = read_document(demo_text())
    keep("mine", replace(read.form, title="Recovered"), read, path)
    chooses(monkeypatch, "Open it")
    assert window.filing.offer_recovery() and not window.document.disk.changed(window.document.path)
    window.filing.look_at_file()
    assert window.document.form.title == "Recovered" and len(files()) == 1
    path.write_text(demo_text().replace("The ferry round", "Else"), encoding="utf-8")
    chooses(monkeypatch, "Reload")
    window.filing.look_at_file()
    assert window.document.form.title == "Else"
    window.document.undo()
    assert window.document.form.title == "Recovered" and window.document.changed


def test_a_failure_to_keep_is_told_once(window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    def full(*_: object, **__: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("waltzmark.desktop.recovery.save_atomically", full)
    for text in ("shift R 100", "hold"):
        type_count(window, text)
        qtbot.wait(700)
    assert len(window.notices.told) == 1 and "No space left" in window.notices.told[0]
    assert window.notices.isVisible() and window.findChild(QMessageBox) is None  # it does not stand in the way
    window.notices.done.click()
    assert not window.notices.isVisible()


def test_two_windows_on_one_file_know_of_each_other(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    from PySide6.QtWidgets import QFileDialog

    path, told = tmp_path / "form.waltz", []
    path.write_text(demo_text(), encoding="utf-8")
    assert window.filing.open_path(path)
    window.desk.book["new window"].trigger()
    other = all_windows()[-1]
    assert other.filing.open_path(path) and other.document.path is None  # the first one comes forward instead
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(path), ""))
    monkeypatch.setattr(type(window.desk.asking), "tell", lambda _self, heading, words: told.append(words))
    assert not other.filing.save_as() and "form.waltz" in told[0]


def test_a_job_that_began_before_a_save_does_not_write_after_it(window: MainWindow) -> None:
    type_count(window, "hold")
    recovery: Recovery = window.recovery
    work = recovery._work()
    recovery.forget()
    work()
    assert files() == []


def test_a_change_is_kept_also_while_the_window_is_busy_with_the_next_ones(window: MainWindow) -> None:
    """No event loop is needed for it, and no end of the changes waited for."""
    type_count(window, "shift R 100")
    begun, seen = time.monotonic(), None
    while seen is None and time.monotonic() - begun < 10.0:  # one change after the other, and nothing else
        window.editor.insert([read_line("hold")])
        seen = next(iter(files()), None)
    assert seen is not None and time.monotonic() - begun < DELAY + 5.0
    made = len(window.document.form.postures[0].lines)
    while time.monotonic() - begun < 20.0:
        try:
            if len(_read(seen).form.postures[0].lines) >= made:
                break
        except ValueError:  # it is being replaced
            continue
    assert len(_read(seen).form.postures[0].lines) >= made


def test_what_is_left_of_a_save_that_was_killed_is_swept_at_the_next_start(window: MainWindow, tmp_path: Path) -> None:
    path = tmp_path / "form.waltz"
    path.write_text(demo_text(), encoding="utf-8")
    window.desk.settings.remember(path)
    (tmp_path / ".form.waltz.abc.part").write_text("half", encoding="utf-8")
    (tmp_path / ".other.waltz.abc.part").write_text("of somebody else", encoding="utf-8")
    (tmp_path / ".form.waltz.abc.whole").write_text("what was being written over", encoding="utf-8")
    with (tmp_path / ".form.waltz.def.part").open("w", encoding="utf-8") as alive:
        fcntl.flock(alive, fcntl.LOCK_EX | fcntl.LOCK_NB)  # another window saves it just now
        window.filing.offer_recovery()
        left = {each.name for each in tmp_path.iterdir() if each.is_file()}
    assert left == {"form.waltz", ".other.waltz.abc.part", ".form.waltz.abc.whole", ".form.waltz.def.part"}


def test_a_recent_file_in_a_folder_that_may_not_be_read_is_passed_over(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = tmp_path / "form.waltz"
    path.write_text(demo_text(), encoding="utf-8")
    window.desk.settings.remember(path)
    assert window.desk.settings.recent == [path]

    def refused(_path: Path) -> bool:
        raise PermissionError(13, "Permission denied")

    monkeypatch.setattr(Path, "is_file", refused)
    assert window.desk.settings.recent == []


def test_what_cannot_be_moved_aside_is_not_destroyed(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    mine = keep("a", Form("Mine"))
    type_count(window, "shift R 100")
    qtbot.waitUntil(lambda: len(files()) == 2, timeout=5000)

    def refused(*_: object) -> None:
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("waltzmark.desktop.recovery.os.replace", refused)
    asked = chooses(monkeypatch, "Discard them", "Cancel")
    before = {file: file.read_bytes() for file in files()}
    assert not window.filing.may_leave() and len(asked) == 2  # it asks once more, and goes back
    told: list[str] = []
    monkeypatch.setattr(type(window.desk.asking), "tell", lambda _self, _h, words: told.append(words))
    for kept in left_behind().kept:
        window.desk.asking.attempt(kept.throw_away)
    assert len(told) == 1 and mine.exists() and {file: file.read_bytes() for file in files()} == before


def test_a_document_that_cannot_be_saved_can_still_be_opened_from_what_was_kept(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch
) -> None:
    values = kept_values(replace(read_document(demo_text()).form, title="Mine"), None, None, "Mine")
    values["values"]["room"]["start"]["x"] = math.nan
    values["values"]["body"]["stature"] = "1e99"
    folder().mkdir(parents=True, exist_ok=True)
    (folder() / "odd.json").write_text(json.dumps(values), encoding="utf-8")
    chooses(monkeypatch, "Open it")
    assert window.filing.offer_recovery()
    form = window.document.form
    assert form.title == "Mine" and form.room is None and len(form.postures) == 19
    assert read_document(render(form)).form == form
