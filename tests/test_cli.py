"""The commands, run as a user runs them, and the demo form they are tried on."""

from __future__ import annotations

import json
import os
import subprocess
import sys
from functools import lru_cache
from pathlib import Path
from xml.etree import ElementTree

import jsonschema
import numpy as np
import pytest

from waltzmark import demo
from waltzmark.cli.commands import COMMANDS, DRAWN
from waltzmark.cli.main import parser, run
from waltzmark.cli.saying import as_json
from waltzmark.core.body.figure import JOINTS
from waltzmark.core.edit.resizing import mirrored_form
from waltzmark.core.school.school import bundled_schools
from waltzmark.core.walk.figures import Figures
from waltzmark.core.walk.seen import seen_of
from waltzmark.core.walk.walk import walk
from waltzmark.desktop.figure_command import parser as figure_parser
from waltzmark.desktop.figure_command import run as run_figure
from waltzmark.desktop.film_command import parser as film_parser
from waltzmark.desktop.sheet_command import parser as sheet_parser
from waltzmark.files.printed import schema as described_by
from waltzmark.files.reading import read_document

DEMO = Path(demo.__file__).parent / "ferry-round.waltz"


def test_the_demo_is_judged_with_its_three_planted_mistakes_and_no_other_stop(
    capsys: pytest.CaptureFixture[str],
) -> None:
    assert run(["check", str(DEMO), "--json"]) == 1
    result = json.loads(capsys.readouterr().out)
    stops = [(f["rule"], f["posture"], f["count"]) for f in result["findings"] if f["severity"] == "stop"]
    assert stops == [("expect.unmet", "haul", 3), ("weight.loaded-lift", "oars", 2), ("posture.ends", "light", 12)]
    others = [(f["rule"], f["severity"], f["posture"]) for f in result["findings"] if f["severity"] != "stop"]
    assert others == [("balance.left", "caution", "oars")]  # it belongs to the foot that is lifted loaded
    assert result["fits"] is True
    assert result["end"]["distance"] < 0.30 and result["end"]["turn"] == 0
    assert [pair["other"] for pair in result["sides"] if not pair["same"]] == ["lean-right"]
    assert sum(p["offset"][0] for p in result["postures"]) == pytest.approx(result["end"]["offset"][0], abs=1e-5)


def _texts(value: object) -> list[str]:
    """An option as it was typed."""
    return ["1:20"] if value == 20.0 else [str(each) for each in value] if isinstance(value, list) else [str(value)]


@lru_cache
def _help() -> list[str]:
    command = [sys.executable, "-m", "waltzmark", "--help"]
    return subprocess.run(command, capture_output=True, text=True, check=True).stdout.splitlines()


@pytest.mark.parametrize("name", [*COMMANDS, *DRAWN])
def test_the_help_lists_each_command_with_an_example_that_is_understood(name: str) -> None:
    example, words = {**COMMANDS, **DRAWN}[name]
    assert any(f"waltzmark {example}" in line and line.endswith(words) for line in _help())
    made = {"sheet": sheet_parser, "figure": figure_parser, "film": film_parser}.get(name, parser)()
    options = vars(made.parse_args(example.split()))
    given = [word for word in example.split()[1:] if not word.startswith("-")]
    assert all(any(word in _texts(value) for value in options.values()) for word in given)


def test_the_demo_is_a_real_form() -> None:
    form = read_document(DEMO.read_text(encoding="utf-8")).form
    text = DEMO.read_text(encoding="utf-8")
    assert len(form.postures) >= 14
    assert sum(p.mirror_of is not None or p.side_of is not None for p in form.postures) >= 4
    for word in ("back bow", "half", "lift R knee", "beside", "pillar", "stove", "repeat_of"):
        assert word in text


def test_a_trace_tells_every_count(capsys: pytest.CaptureFixture[str]) -> None:
    assert run(["trace", str(DEMO), "--json"]) == 0
    counts = json.loads(capsys.readouterr().out)["counts"]
    assert counts[0]["count"] == 0 and counts[0]["posture"] is None
    first = counts[1]
    assert (first["posture"], first["count"], first["text"], first["beats"]) == (
        "quay",
        1,
        "shift R 100, breathe in",
        1.0,
    )
    assert set(first) == {
        "posture",
        "count",
        "text",
        "raised",
        "beats",
        "left",
        "right",
        "weight",
        "torso",
        "gaze",
        "centre",
        "stance",
        "pelvis",
        "waist",
        "knees",
    }
    # On one leg with the chest where the foot points: nothing is left to the waist, and the other knee hangs.
    lifted = next(count for count in counts if count["left"]["contact"] == "air" and count["weight"]["right"] == 1.0)
    assert lifted["knees"]["left"] is None and 10.0 <= lifted["knees"]["right"] <= 90.0
    for count in counts:
        twist = (count["torso"] - count["pelvis"]["heading"] - count["waist"]) % 360.0
        assert min(twist, 360.0 - twist) < 1e-5 and 0.4 < count["pelvis"]["height"] < 1.0
    assert first["stance"] == {
        "name": "together",
        "front": None,
        "match": 1.0,
        "length": 0.0,
        "width": 0.0946,
        "rear": 0.0,
    }
    assert first["weight"] == {"left": 0.0, "right": 1.0} and first["right"]["contact"] == "flat"
    assert all(
        0 <= c["left"]["heading"] < 360 and c["weight"]["left"] + c["weight"]["right"] == pytest.approx(1)
        for c in counts
    )


def test_what_repeats_is_told_once_with_its_places(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    form = tmp_path / "other.waltz"
    form.write_text(
        'waltzmark = 1\n[[posture]]\nid = "a"\nname = "One"\ncounts = ["shift R 100", "pivot L ball out 30"]\n'
        '[[posture]]\nid = "b"\nmirror_of = "a"\naxis = "12"\n[[posture]]\nid = "c"\nrepeat_of = "a"\n'
    )
    run(["check", str(form)])
    told = [line for line in capsys.readouterr().out.splitlines() if "turns on its ball" in line]
    assert len(told) == 1 and told[0].startswith("note: One, count 2: ")
    assert told[0].endswith("(3 times, also in b, count 2; c, count 2)")
    run(["check", str(form), "--json"])
    (ball,) = (f for f in json.loads(capsys.readouterr().out)["findings"] if f["rule"] == "pivot.part")
    assert ball["times"] == 3 and ball["again"] == [{"posture": "b", "count": 2}, {"posture": "c", "count": 2}]


def test_the_text_can_be_read_aloud(capsys: pytest.CaptureFixture[str]) -> None:
    run(["trace", str(DEMO)])
    traced = capsys.readouterr().out
    assert "Turn the boat" in traced and "L  20 % flat" in traced
    assert run(["check", str(DEMO)]) == 1
    checked = capsys.readouterr().out
    assert "stop: Ship the oars, count 2: " in checked and "15%" in checked
    assert "shift R 100." in checked
    assert checked.splitlines()[-3].startswith("Room:   Fits: 26 cm from the wall at 6 o’clock")


KEYS = {
    "left_ahead",
    "left_aside",
    "right_ahead",
    "right_aside",
    "left_heading",
    "right_heading",
    "torso",
    "weight",
    "contact",
    "part",
}


def test_sides_are_told_as_json_and_in_words(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert run(["sides", str(DEMO), "--json"]) == 0
    result = json.loads(capsys.readouterr().out)
    pairs = {pair["other"]: pair for pair in result["pairs"]}
    lean, passage = pairs["lean-right"], pairs["gunwale:5-8"]
    assert (lean["posture"], lean["kind"], lean["declared"], lean["same"], lean["axis"], lean["cause"]) == (
        "lean-left",
        "mirror",
        True,
        False,
        0.0,
        "written",
    )
    assert lean["worst"] == {"count": 2, "what": "left_length", "by": pytest.approx(2.8, abs=0.01), "unit": "cm"}
    assert set(lean["entry"]) >= KEYS and {*KEYS, "count", "other"} <= set(lean["counts"][0])
    assert (passage["posture"], passage["kind"], passage["declared"], passage["axis"]) == (
        "gunwale:1-4",
        "repeat",
        False,
        None,
    )
    assert passage["worst"] is None and {p["cause"] for p in result["pairs"]} >= {"none", "entry", "written"}
    both = result["balance"]
    assert set(both) == {"left", "right"} and both["left"]["stances"] and both["right"]["pushes"] > 0
    assert run(["sides", str(DEMO)]) == 0
    told = capsys.readouterr().out
    assert "count   2 | 2   " in told and "3 cm" in told
    assert "Stand on the quay, Haul the net, and Turn the boat" in told
    # A count that only one side has is null on the other.
    text = DEMO.read_text(encoding="utf-8")
    more = tmp_path / "more.waltz"
    old = '  "step R 3 bow 47x24, torso 1:30",\n'
    more.write_text(text.replace(old, f'{old}  "hold",\n'))
    run(["sides", str(more), "--json"])
    lean = next(p for p in json.loads(capsys.readouterr().out)["pairs"] if p["other"] == "lean-right")
    assert [(each["count"], each["other"]) for each in lean["counts"][1:4]] == [(2, 2), (None, 3), (3, 4)]
    assert lean["worst"]["count"] == 3 and lean["worst"]["unit"] == "count"


def test_two_documents_are_compared_and_the_other_side_of_one_is_written(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    earlier, other = str(demo.demo_earlier()), tmp_path / "other.waltz"
    assert run(["compare", str(DEMO), earlier, "--json"]) == 0
    result = json.loads(capsys.readouterr().out)
    told = {(each["a"], each["b"]): each["differences"] for each in result["postures"]}
    assert len(told[None, "bell"]) == 1 and all(0 <= p["likeness"] <= 1 for p in result["postures"])
    every = "\n".join([*result["form"], *(words for each in told.values() for words in each)])
    for words in (
        "feet together → feet hip-width apart",
        "20% → 40%",
        "70/30 → 60/40",
        "44 cm → 46 cm, 95% → 107%",
        "5 → 6",
        "4:30 → 3",
        "“Haul the net” → “Haul the net in”",
        "at the shoulder, pushing",
    ):
        assert words in every
    assert run(["compare", str(DEMO), earlier]) == 0
    assert "Coil the rope\n- count 6: 10% more" in capsys.readouterr().out
    assert run(["compare", str(DEMO), str(DEMO)]) == 2
    assert "is the same file" in capsys.readouterr().err
    assert run(["compare", str(DEMO), str(tmp_path / "none.waltz")]) == 2
    assert run(["mirror", str(DEMO), "-o", str(other)]) == 0
    assert run(["check", str(other), "--json"]) == 1
    capsys.readouterr()
    made, form = (
        read_document(other.read_text(encoding="utf-8")).form,
        read_document(DEMO.read_text(encoding="utf-8")).form,
    )
    assert made == mirrored_form(form) and made.posture("cast-left").name == "Cast the line, right"


def test_the_exit_status_says_how_it_went(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    fine, broken = tmp_path / "fine.waltz", tmp_path / "broken.waltz"
    fine.write_text('waltzmark = 1\n[form]\ntilte = "x"\n[[posture]]\nid = "a"\ncounts = ["shift R 100"]\n')
    broken.write_text("waltzmark = 1\n[[posture]\n")
    assert run(["check", str(fine), "--json"]) == 0
    captured = capsys.readouterr()
    assert (
        json.loads(captured.out)["fits"] is None and "form.tilte, line 3" in captured.err and "title?" in captured.err
    )
    assert run(["check", str(broken)]) == 2 and run(["trace", str(tmp_path / "none.waltz")]) == 2
    captured = capsys.readouterr()
    assert "broken.waltz: line 2, column 10" in captured.err and captured.out == ""


def test_the_command_runs_without_a_window_and_without_qt() -> None:
    code = (
        "import sys; sys.argv = ['waltzmark', 'check', sys.argv[1]]; from waltzmark.__main__ import main; main(); "
        "print('PySide6' in sys.modules)"
    )
    done = subprocess.run([sys.executable, "-c", code, str(DEMO)], capture_output=True, text=True, check=True)
    assert done.stdout.splitlines()[-1] == "False"


def test_a_form_is_judged_by_each_school(capsys: pytest.CaptureFixture[str]) -> None:
    found: dict[str, set[str]] = {}
    for school in bundled_schools():
        assert run(["check", str(DEMO), "--json", "--school", school]) == 1
        values = json.loads(capsys.readouterr().out)
        assert values["school"] == school and values["muted"] == []
        found[school] = {f["rule"] for f in values["findings"]}
    own = {"expect.unmet", "weight.loaded-lift", "balance.left", "posture.ends"}
    assert found["broad-frame"] == own and all(own <= rules for rules in found.values())
    # as the schools differ: part, load, split, even weight, order
    assert "pivot.part" in found["ball-turn"] & found["follow-step"] and "pivot.part" not in found["loaded-turn"]
    assert "pivot.loaded" in found["full-shift"] & found["chair-side"] and "pivot.loaded" not in found["loaded-turn"]
    assert "split.forward" in found["full-shift"] and "split.even" in found["full-shift"] & found["ball-turn"]
    assert "pivot.far" in found["chair-side"] and "step.order" in found["follow-step"]
    with pytest.raises(SystemExit):
        run(["check", str(DEMO), "--school", "mine"])


@pytest.mark.parametrize(
    ("typed", "offered"),
    [
        ("waltzmark ro", {"room"}),
        ("waltzmark s", {"scale", "sheet", "sides"}),
        ("waltzmark sheet --kind so", {"soles"}),
        ("waltzmark check --sch", {"--school"}),
        ("waltzmark check fer", {"ferry.waltz"}),
    ],
)
def test_a_shell_completes_commands_options_and_forms(typed: str, offered: set[str], tmp_path: Path) -> None:
    (tmp_path / "ferry.waltz").touch()
    (tmp_path / "ferry.txt").touch()
    told = tmp_path / "told"
    environment = {
        **os.environ,
        "_ARGCOMPLETE": "1",
        "_ARGCOMPLETE_STDOUT_FILENAME": str(told),
        "COMP_LINE": typed,
        "COMP_POINT": str(len(typed)),
        "IFS": "\n",
        "_ARGCOMPLETE_IFS": "\n",
    }
    subprocess.run([sys.executable, "-m", "waltzmark"], env=environment, cwd=tmp_path, check=True)
    assert {word.strip() for word in told.read_text(encoding="utf-8").splitlines() if word.strip()} == offered


ODD = """waltzmark = 1
[form]
title = "one\\ntwo"
[[posture]]
id = "a"
name = "=1+1 \\u001b[2J \\u202Eback \\u200D\\nstop: x"
counts = ["step L 60 in 12", "sh\\u0007ift", "step R beside"]
"""


def test_names_are_shown_and_not_obeyed(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "odd.waltz"
    file.write_text(ODD, encoding="utf-8")
    for arguments in (["check"], ["trace"], ["check", "--json"], ["trace", "--json"], ["sides"], ["home"]):
        run([arguments[0], str(file), *arguments[1:]])
        told = capsys.readouterr()
        assert not set(told.out + told.err) & {"\x1b", "\x07", "\u202e"}, arguments
        assert "\nstop: x" not in told.out


def test_what_is_no_number_is_null_in_json() -> None:
    values = {"a": [float("inf"), 1.5], "b": {"c": float("nan")}, "d": (-float("inf"),)}
    assert json.loads(as_json(values)) == {"a": [None, 1.5], "b": {"c": None}, "d": [None]}
    odd = {"name": "\x1b \u202e \\ é"}
    assert json.loads(as_json(odd)) == odd and "\u202e" not in as_json(odd)


@pytest.mark.parametrize("module", ["argparse", "multiprocessing", "json"])
def test_nothing_is_run_out_of_the_current_folder(module: str, tmp_path: Path) -> None:
    (tmp_path / f"{module}.py").write_text("open('ran', 'w')\nraise SystemExit('mine')\n", encoding="utf-8")
    outside = "import os, multiprocessing.resource_tracker as one; from waltzmark.__main__ import main; main(); one.ensure_running()"
    ran = subprocess.run(
        [sys.executable, "-P", "-c", outside, "check", str(DEMO)], cwd=tmp_path, capture_output=True, timeout=60
    )
    assert b"Traceback" not in ran.stderr and not (tmp_path / "ran").exists()


def test_without_an_output_it_says_so() -> None:
    command = f'"{sys.executable}" -m waltzmark check "{DEMO}" >&-'
    ran = subprocess.run(command, shell=True, capture_output=True, timeout=60)
    assert ran.returncode == 2 and ran.stderr.count(b"\n") == 1


def test_the_figure_is_told_as_numbers_in_words_and_drawn(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert run_figure(["figure", str(DEMO), "--json"]) == 0
    answer = json.loads(capsys.readouterr().out)
    jsonschema.validate(answer, described_by("figure"))
    walked = Figures(walk(read_document(DEMO.read_text(encoding="utf-8")).form))
    assert answer["joints"] == list(JOINTS) and len(answer["counts"]) == len(walked.trace)
    places = np.array([count["places"] for count in answer["counts"]])
    assert places == pytest.approx(walked.settled.joints, abs=1e-5)
    assert run_figure(["figure", str(DEMO), "--side", "right"]) == 0
    told = capsys.readouterr().out.splitlines()
    rows = range(1, len(walked.trace))
    seen = [seen_of(walked.at(row, 1.0), walked.trace.pose(row), walked.at(row - 1, 1.0)) for row in rows]
    past = [(each, line) for each, line in zip(seen, told[1:], strict=True) if each.front is not None]
    assert len(past) > 10 and all(f"{abs(100 * e.past):.0f} cm" in line for e, line in past if abs(e.past) > 0.02)
    drawing = tmp_path / "one.svg"
    assert run_figure(["figure", str(DEMO), "--count", "12", "--side", "right", "-o", str(drawing)]) == 0
    capsys.readouterr()
    drawn = [each.tag.rpartition("}")[2] for each in ElementTree.parse(drawing).getroot().iter()]
    assert sum(tag in ("path", "polygon", "polyline") for tag in drawn) > 20
    assert run_figure(["figure", str(DEMO), "--count", "9999"]) == 2
    assert run_figure(["figure", str(DEMO), "-o", str(tmp_path / "one.pdf")]) == 2
    assert capsys.readouterr().err.count("waltzmark: ") == 2
