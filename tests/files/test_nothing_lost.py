"""Nothing a user wrote is lost: not by saving, not by a file that is odd, not by one that is hostile."""

from __future__ import annotations

import fcntl
import os
import stat
import subprocess
import sys
import time
from pathlib import Path

import pytest

from waltzmark.core.base.errors import WaltzmarkError
from waltzmark.core.base.messages import message
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form, Posture
from waltzmark.core.form.mutes import Mute
from waltzmark.core.form.room import Obstacle
from waltzmark.core.school.school import load_school
from waltzmark.core.score import read_count
from waltzmark.core.score.facings import Clock
from waltzmark.files.document_values import document_values
from waltzmark.files.reading import DocumentError, read_document, read_file
from waltzmark.files.saving import SaveError, save_atomically
from waltzmark.files.writing import render

HEAD = "waltzmark = 1\n"
INLINE = """\
waltzmark = 1
form = { title = "In line", colour = "red" }   # kept: form
body = { stature = "170cm" }
posture = [
  { id = "a", counts = ["hold", "shift L 70"], mood = "calm" },  # kept: a
  { id = "b", repeat_of = "a" },
]
"""
BESIDE = """\
waltzmark = 1

[[mute]]  # kept: header
rule = "pivot.part"
reason = "so"       # kept: reason
since = 1999

[[mute]]
rule = "hip.range"
reason = "warm"

[room]
name = "barn"
outline = [[0, 0], [6, 0],  # kept: corner
           [6, 6], [0, 6]]
start = { x = 3, y = 3 }
[[room.obstacle]]
name = "post"
outline = [[1, 1], [1.2, 1], [1.2, 1.2]]
colour = "green"

[school]
base = "ball-turn"
id = "own"
name = "Own"
founder = "nobody"   # kept: founder
[school.rules."pivot.loaded"]
limits = { load = 33 }   # kept: limits

[[posture]]
id = "a"
counts = ["hold"]
# kept: above b
[[posture]]
id = "b"
counts = ["hold"]
# kept: above c
[[posture]]
id = "c"
counts = ["hold"]

[unknown.deep.down.below]
value = { a = [{ b = { c = [1, [2, [3]]] } }] }
"""


def saved(text: str, **changes: object) -> str:
    """The text after a change of its form, which must read back as meant."""
    read = read_document(text)
    form = replace(read.form, **changes)  # type: ignore[arg-type]
    found = render(form, read)
    assert document_values(read_document(found).form) == document_values(form)
    return found


def test_tables_in_one_line_are_changed_where_they_stand() -> None:
    form = read_document(INLINE).form
    longer = replace(form.postures[0], lines=(*form.postures[0].lines, read_count("hold")))
    text = saved(INLINE, title="Else", body=replace(form.body, mass=70.0), postures=(longer, form.postures[1]))
    assert (
        'colour = "red"' in text and 'mood = "calm"' in text and text.count("# kept") == 2 and 'mass = "70kg"' in text
    )
    more = saved(INLINE, postures=(Posture("new", lines=(read_count("hold"),)), *form.postures))
    assert 'mood = "calm"' in more and more.index('"new"') < more.index('"a"')


def test_what_is_written_beside_survives_a_change_next_to_it() -> None:
    form = read_document(BESIDE).form
    assert form.room is not None
    room = replace(
        form.room,
        name="hall",
        obstacles=(*form.room.obstacles, Obstacle("chair", ((2.0, 2.0), (2.5, 2.0), (2.5, 2.5)))),
    )
    rules = dict(form.school.rules) | {"gaze.beyond": replace(form.school.rules["gaze.beyond"], off=True)}
    text = saved(
        BESIDE,
        title="New",
        room=room,
        school=replace(form.school, rules=rules),
        mutes=(*form.mutes, Mute("stance.wide", "tall")),
        postures=(form.postures[0], form.postures[2]),
    )
    for word in (
        "since = 1999",
        'colour = "green"',
        'founder = "nobody"',
        "value = { a = [{ b = { c = [1, [2, [3]]] } }] }",
    ):
        assert word in text
    assert text.count("# kept") == BESIDE.count("# kept") and 'id = "b"' not in text
    assert "33" not in saved(BESIDE, school=load_school("ball-turn"))


@pytest.mark.parametrize("text", [INLINE, BESIDE])
def test_line_ends_and_the_mark_before_the_text_stay(text: str, tmp_path: Path) -> None:
    windows = "\ufeff" + text.replace("\n", "\r\n")
    path = tmp_path / "windows.waltz"
    path.write_bytes(windows.encode())
    read = read_file(path)
    assert read.form == read_document(text).form and render(read.form, read) == windows
    changed = saved(windows, title="Else")
    assert changed.startswith("\ufeff") and changed.count("\n") == changed.count("\r\n") > 3
    assert changed.replace("\r\n", "\n").removeprefix("\ufeff") == saved(text, title="Else")
    save_atomically(path, changed)
    assert path.read_bytes().decode() == changed


def test_half_signs_and_hidden_ones_can_be_saved() -> None:
    form = Form(title="a\ud800b\x00", postures=(Posture("p", "x\u2028\x1b", note="\udfff"),))
    assert read_document(render(form)).form.title == "a\ufffdb\x00"


def test_a_file_keeps_what_it_is_beside_its_text(tmp_path: Path) -> None:
    path, other = tmp_path / "form.waltz", tmp_path / "same.waltz"
    path.write_text("one")
    os.chmod(path, 0o640)
    try:
        os.setxattr(path, "user.note", b"mine")
        marked = True
    except OSError:
        marked = False  # not every file system has them
    stale, fresh = tmp_path / ".form.waltz.abc.part", tmp_path / ".form.waltz.def.part"
    for part in (stale, fresh):
        part.write_text("left behind")
    with fresh.open("rb") as alive:  # another save has it just now
        fcntl.flock(alive, fcntl.LOCK_EX | fcntl.LOCK_NB)
        save_atomically(path, "two")
        assert fresh.exists()
    assert (
        path.read_text() == "two"
        and stat.S_IMODE(path.stat().st_mode) == 0o640
        and path.stat().st_mtime > time.time() - 60
    )
    assert not marked or os.getxattr(path, "user.note") == b"mine"
    assert fresh.exists()
    os.link(path, other)
    save_atomically(path, "three")
    assert other.read_text() == "three" and path.samefile(other)
    if os.getuid() == 0:
        os.chown(path, 1234, 1234)
        save_atomically(path, "four")
        assert path.stat().st_uid == 1234


def test_what_is_no_file_is_neither_opened_nor_written(tmp_path: Path) -> None:
    pipe = tmp_path / "pipe.waltz"
    os.mkfifo(pipe)
    for path in (pipe, tmp_path, Path("/dev/zero"), Path("a\0b"), Path("/proc/self/mem")):
        with pytest.raises(DocumentError):
            read_file(path)
        if path != Path("/proc/self/mem"):
            with pytest.raises(SaveError):
                save_atomically(path, "text")


#: Files that cost endless time or memory, or broke what read them: they are read or refused, with words that are short.
HOSTILE = {
    "a number of 400 digits": HEAD + "[body]\nstature = 1" + "0" * 400,
    "a number of 4301 digits": HEAD + "[body]\nstature = " + "1" * 4301,
    "a measure of a million digits": HEAD + '[body]\nstature = "' + "1" * 1_000_000 + 'cm"',
    "a measure of a million spaces": HEAD + '[body]\nstature = "1' + " " * 1_000_000 + 'x"',
    "a hexadecimal number of 4000 digits": HEAD + "[body]\nhip_out = { left = 0x" + "f" * 4000 + ", right = 1 }",
    "a place of 6000 digits": HEAD + "[room]\noutline = [[0, 0], [1, 0], [0x" + "f" * 6000 + ", 1]]",
    "a limit of 6000 digits": HEAD
    + '[school]\nbase = "broad-frame"\n[school.rules."pivot.loaded"]\nlimits = { load = 0x'
    + "f" * 6000
    + " }",
    "tables 5000 deep": HEAD + "a = " + "{a=" * 5000 + "1" + "}" * 5000,
    "a key of 40,000 parts": HEAD + ".".join(["a"] * 40_000) + " = 1",
    "a circle of 3000": HEAD
    + "".join(f'[[posture]]\nid = "p{n}"\nrepeat_of = "p{(n + 1) % 3000}"\n' for n in range(3000)),
    "2,000 counts 500 times": HEAD
    + '[[posture]]\nid = "p0"\ncounts = ['
    + '"hold",' * 2000
    + "]\n"
    + "".join(f'[[posture]]\nid = "p{n}"\nrepeat_of = "p0"\n' for n in range(1, 500)),
}


@pytest.mark.parametrize("name", HOSTILE)
def test_a_hostile_file_is_refused_with_few_words(name: str) -> None:
    with pytest.raises(DocumentError) as caught:
        read_document(HOSTILE[name])
    assert 15 < len(str(caught.value)) < 300


def test_a_long_chain_of_repeats_is_walked_and_its_ends_are_known() -> None:
    text = HEAD + "".join(f'[[posture]]\nid = "p{n}"\nrepeat_of = "p{n + 1}"\nturned = "90"\n' for n in range(1100))
    form = read_document(text + '[[posture]]\nid = "p1100"\nends = "12"\ncounts = ["torso 12"]\n').form
    assert len(form.lines(form.postures[0])) == 1
    ends = form.ends(form.postures[1])
    assert ends is not None and ends.heading(0.0, "N") == 1099 * 90 % 360
    own = replace(form.postures[0], repeat_of=None, mirror_of="p1", axis=Clock(180, own=True))
    with pytest.raises(WaltzmarkError, match="form.axis-own"):
        form.with_posture(own)


def test_a_count_that_can_be_read_can_be_read_again_when_it_is_written_out() -> None:
    many = HEAD + '[[posture]]\nid = "a"\ncounts = ["' + ", ".join(["L 70"] * 300) + '"]\n'
    read = read_document(many)
    assert read.form.postures[0].lines[0].unread is not None and read.notices[0].message["advice"] == message(
        "score.actions", n=300, most=60
    )
    assert render(replace(read.form, title="x"), read)


@pytest.mark.parametrize(("where", "status"), [("/dev/full", 2), ("/dev/null", 1)])
def test_a_command_whose_output_cannot_be_written_says_so(where: str, status: int) -> None:
    from waltzmark import demo

    form = str(Path(demo.__file__).parent / "ferry-round.waltz")
    command = [sys.executable, "-m", "waltzmark", "check", form]
    environment = os.environ | {"PYTHONIOENCODING": "ascii"}
    with open(where, "w") as out:
        run = subprocess.run(command, stdout=out, stderr=subprocess.PIPE, text=True, env=environment)
    assert run.returncode == status and "Traceback" not in run.stderr
    assert ("No space left" in run.stderr) == (status == 2)
