"""The commands that answer for a room, for home, for loops and for bodies; and that each prints what its schema says."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import jsonschema
import pytest

from tests.test_cli import DEMO
from waltzmark import demo
from waltzmark.cli.main import run
from waltzmark.core.score.write import write_count
from waltzmark.files.printed import schema as described_by
from waltzmark.files.reading import read_document, read_file
from waltzmark.words.sentences import sentence_of

ROOMS = sorted((DEMO.parent / "rooms").glob("*.waltz"))
SHORT = str(Path(__file__).parent / "forms" / "diagonals.waltz")


def long_form(folder: Path) -> Path:
    """A form that is longer than the room, with few ways to make it fit."""
    file = folder / "long.waltz"
    steps = ", ".join(['"shift R 100", "step L 12 bow 50x20", "shift L 100", "step R 12 bow 50x20"'] * 3)
    text = f'# Longer than the room.\nwaltzmark = 1\n[[posture]]\nid = "out"\nname = "Out"\ncounts = [{steps}]\n'
    file.write_text(text, encoding="utf-8")
    return file


def test_a_form_is_told_where_it_fits_and_takes_a_start_or_a_change(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    _, office, hall = map(str, ROOMS)
    assert run(["room", str(DEMO), "--here", "--json"]) == 0
    here = json.loads(capsys.readouterr().out)
    assert (here["fits"], here["starts"], here["changes"], here["class"]) == (True, [], [], None)
    assert here["start"] == {"x": 2.9, "y": 1.2, "heading": 0.0} and here["against"] == "the wall at 6 o’clock"
    out = tmp_path / "out.waltz"
    too_long = str(long_form(tmp_path))
    assert run(["room", too_long, "--room", office, "--json", "--change", "2", "-o", str(out)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert list(told) == [
        "start",
        "fits",
        "clearance",
        "wanted",
        "posture",
        "count",
        "against",
        "starts",
        "changes",
        "class",
    ]
    assert not told["fits"] and told["clearance"] < 0
    assert all(
        set(each) == {"x", "y", "heading", "clearance", "posture", "count", "against"} for each in told["starts"]
    )
    change = told["changes"][1]
    assert change["kind"] == "steps" and change["clearance"] >= 0.1 - 1e-6
    first = change["changes"][0]
    assert set(first) == {"posture", "count", "what", "from", "to", "unit"} and first["unit"] == "cm"
    assert run(["room", str(out), "--here", "--json"]) == 0
    made = json.loads(capsys.readouterr().out)
    assert made["fits"] and made["clearance"] == pytest.approx(change["clearance"]) and made["start"] == change["start"]
    written = read_document(out.read_text()).form
    assert written.room is not None and written.room.name == "Harbour office"
    assert "# Longer than the room" in out.read_text()  # the rest of the document stays
    assert run(["room", SHORT, "--room", hall, "--class", "4", "--start", "1", "-o", str(out), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    group = told["class"]
    assert len(group["walkers"]) == 4 and group["gap"] >= group["wanted"] == 0.3 and abs(group["lag"]) <= 2
    room = read_document(out.read_text()).form.room
    assert room is not None and told["starts"][0]["x"] == pytest.approx(room.start.x)
    assert run(["room", SHORT, "--room", office, "--class", "9"]) == 0
    words = capsys.readouterr().out
    assert "Start 1    " in words and " 9 " in words.splitlines()[-1]


def beginning(kind: str) -> str:
    """How the sentence of a kind begins, up to its first field."""
    said = sentence_of(kind)
    assert isinstance(said, str)
    return said.partition("{")[0]


@pytest.mark.parametrize(
    ("more", "kind"),
    [
        (["--start", "1"], "cli.start-out"),
        (["--here", "--change", "1", "-o", "x"], "cli.here"),
        (["--change", "1", "-o", "x"], "cli.no-change"),
        (["--start", "40", "-o", "x"], "cli.no-start"),
        (["--room", "nowhere.waltz"], "file.unopened"),
    ],
)
def test_a_room_that_cannot_be_told_of_says_why(more: list[str], kind: str, capsys: pytest.CaptureFixture[str]) -> None:
    assert run(["room", SHORT, "--room", str(ROOMS[1]), *more]) == 2
    assert beginning(kind) in capsys.readouterr().err and not Path("x").exists()


def test_a_form_without_a_room_is_told_how_to_give_one(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    bare = tmp_path / "bare.waltz"
    bare.write_text("waltzmark = 1\n")
    assert run(["room", str(bare)]) == 2 and "--room OTHER.waltz" in capsys.readouterr().err
    assert run(["room", str(bare), "--room", str(ROOMS[2]), "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["fits"]


def test_a_form_is_told_what_closes_it_and_is_closed(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    out = tmp_path / "home.waltz"
    assert run(["home", str(DEMO), "--json", "--lock", "coil", "--close", "1", "-o", str(out)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert list(told) == ["offset", "distance", "turn", "turned", "target", "ledger", "closings", "rounds"]
    assert told["target"] == {"x": 0.0, "y": 0.0, "facing": 0.0, "within": 0.3, "turn": 15.0}
    assert sum(each["along"] for each in told["ledger"]) == pytest.approx(told["distance"], abs=1e-5)
    for axis in (0, 1):
        assert sum(each["offset"][axis] for each in told["ledger"]) == pytest.approx(told["offset"][axis], abs=1e-5)
    assert set(told["rounds"]) == {"drift", "turn", "home_after"} and told["turned"] == 360.0
    first = told["closings"][0]
    assert set(first) == {"words", "changes", "total", "distance", "turn", "brings"}
    assert first["total"] == pytest.approx(sum(abs(c["to"] - c["from"]) for c in first["changes"]), abs=1e-3)
    assert all(c["posture"] != "coil" and c["unit"] == "cm" for c in first["changes"])
    assert run(["home", str(out), "--json"]) == 0
    closed = json.loads(capsys.readouterr().out)
    assert closed["distance"] == pytest.approx(first["distance"], abs=1e-6) and closed["distance"] <= 0.01
    assert "# Three mistakes are planted in it" in out.read_text()
    assert run(["home", str(DEMO)]) == 0
    words = capsys.readouterr().out
    assert "Closing 1  Fewest changes" in words and "scatter by 17 cm" in words and "cm along" in words


def test_the_loops_of_a_form_are_told_and_made(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    assert run(["loop", str(DEMO), "--json"]) == 0
    loops = json.loads(capsys.readouterr().out)["loops"]
    assert all(set(each) == {"postures", "left_out", "drift", "turn", "mismatch", "beats"} for each in loops)
    number = next(n for n, each in enumerate(loops, 1) if each["left_out"] and each["drift"] < 0.03)
    out = tmp_path / "loop.waltz"
    assert run(["loop", str(DEMO), "--make", str(number), "-o", str(out)]) == 0
    assert f"Loop {number}  " in capsys.readouterr().out
    drill = read_document(out.read_text()).form
    assert [p.id for p in drill.postures if not p.id.startswith("bridge")] == loops[number - 1]["postures"]
    assert run(["loop", str(DEMO), "--json", "--leave-out", "0"]) == 0
    assert not any(each["left_out"] for each in json.loads(capsys.readouterr().out)["loops"])
    bare = tmp_path / "bare.waltz"
    bare.write_text("waltzmark = 1\n")
    assert run(["loop", str(bare)]) == 0 and len(capsys.readouterr().out.splitlines()) == 1
    for arguments, kind in (
        (["loop", str(DEMO), "--make", "1"], "cli.make-out"),
        (["loop", str(DEMO), "--make", "99", "-o", str(out)], "cli.no-loop"),
        (["home", str(DEMO), "--close", "1"], "cli.close-out"),
        (["home", str(bare), "--close", "1", "-o", str(out)], "cli.no-closing.nearest"),
        (["home", str(DEMO), "--lock", "nothing"], "cli.lock"),
    ):
        assert run(arguments) == 2 and beginning(kind) in capsys.readouterr().err


@pytest.fixture(scope="module")
def alone(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A form that lacks what the demo has: no room, one posture, a count that cannot be read, one muted finding."""
    file = tmp_path_factory.mktemp("alone") / "alone.waltz"
    file.write_text(
        'waltzmark = 1\n[form]\ntitle = "Alone"\n[[posture]]\nid = "one"\nname = "One"\ncounts = ["step L 12", "lift L knee", "stp R", "step L 3 70 cm"]\n'
        '[[mute]]\nrule = "weight.loaded-lift"\nreason = "meant so"\n',
        encoding="utf-8",
    )
    return file


def _body_file(folder: Path, text: str, name: str = "a") -> str:
    file = folder / f"{name}.toml"
    file.write_text(f"[body]\n{text}\n", encoding="utf-8")
    return str(file)


def test_a_form_is_fitted_to_bodies_and_the_fitted_one_is_written(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    stiff, usual = _body_file(tmp_path, "knee_one = 40"), _body_file(tmp_path, "", "b")
    out = tmp_path / "theirs.waltz"
    assert run(["fit", str(DEMO), "--body", stiff, "-o", str(out), "--json"]) == 0
    (told,) = json.loads(capsys.readouterr().out)["bodies"]
    assert told["name"] == "a" and told["fits"] and told["changes"]
    written = read_file(out).form
    assert written.body.name == "a" and written.fitted is not None and written.fitted.source == DEMO.name
    assert [(each.posture, each.count) for each in written.fitted.lines] == [
        (line["posture"], line["count"]) for each in told["changes"] for line in (each, *each["also"])
    ]
    for line in written.fitted.lines:
        standing = [write_count(each) for each in written.posture(line.posture).lines]
        assert all(text in standing for text in line.after)
    assert run(["fit", str(out), "--body", stiff, "--json"]) == 0
    (again,) = json.loads(capsys.readouterr().out)["bodies"]
    assert again["fits"] and not again["changes"]
    for arguments, kind in (
        (["--body", stiff, "--body", usual, "-o", str(out)], "cli.one-body"),
        (["--body", _body_file(tmp_path, "waist = 0", "c")], "file.problems"),
        (["--body", str(tmp_path / "none.toml")], "file.unopened"),
    ):
        assert run(["fit", str(DEMO), *arguments]) == 2
        assert (message := capsys.readouterr().err)
        assert kind == "file.problems" or beginning(kind) in message or "none.toml" in message
    bare = tmp_path / "bare.waltz"
    bare.write_text("waltzmark = 1\n")
    assert run(["fit", str(bare)]) == 2 and beginning("cli.no-bodies") in capsys.readouterr().err
    (tmp_path / "d.toml").write_text("[form]\n")
    assert run(["fit", str(DEMO), "--body", str(tmp_path / "d.toml")]) == 2
    assert "[body]" in capsys.readouterr().err


@pytest.mark.parametrize("name", ["trace", "check", "draft", "fit", "room", "home", "loop", "sides", "compare"])
def test_what_a_command_prints_is_as_its_schema_says(
    name: str, alone: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    kept = (Path(__file__).parent.parent / "docs" / "schemas" / f"{name}.json").read_text(encoding="utf-8")
    schema = described_by(name)
    assert json.loads(kept) == schema, "make schemas"
    jsonschema.Draft202012Validator.check_schema(schema)
    described = jsonschema.Draft202012Validator(schema)
    seen: list[dict[str, Any]] = []
    body = _body_file(tmp_path, "spare = 'left'\nknee_one = 40\nhip_in = 20\nwaist = 15")
    spared = _body_file(tmp_path, "spare = 'left'", "c")
    long = long_form(tmp_path)
    tight = Path(demo.__file__).parent / "rooms" / "2-harbour-office.waltz"
    for more in {
        "draft": ([str(Path(demo.__file__).parent / "lesson.md")], [str(Path(demo.__file__).parent / "lesson.srt")]),
        "compare": ([str(DEMO), str(demo.demo_earlier())], [str(DEMO), str(alone)]),
        "fit": ([str(DEMO), "--body", spared], [str(alone), "--body", body, "--body", _body_file(tmp_path, "", "b")]),
        "room": ([SHORT, "--room", str(ROOMS[2]), "--class", "3"], [str(long), "--room", str(tight)]),
    }.get(name, ([str(DEMO)], [str(alone)])):
        assert run([name, *more, "--json"]) in (0, 1)
        seen.append(json.loads(capsys.readouterr().out))
        assert [(error.json_path, error.message) for error in described.iter_errors(seen[-1])] == []
    assert name != "room" or (seen[0]["class"] and seen[1]["changes"])
    for key in seen[0]:  # a key that is missing, or of another kind, is not as the schema says
        spoilt = {**seen[0], key: "spoilt" if not isinstance(seen[0][key], str) else 7}
        missing = {name: value for name, value in seen[0].items() if name != key}
        assert not described.is_valid(spoilt)
        assert described.is_valid(missing) == (key not in schema["required"])
    assert not described.is_valid({**seen[0], "more": 1})


SAID = """# Open the gate

Shift all the weight to the right. Step out with the left to nine, heel first. Shift seventy to the left.

Three times.

The same on the other side.
"""


@pytest.mark.parametrize("after", [False, True])
def test_words_are_drafted_into_a_form_that_says_the_same(
    after: bool, alone: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    words, out = tmp_path / "words.md", tmp_path / "out.waltz"
    words.write_text(SAID, encoding="utf-8")
    options = ["--after", str(alone)] if after else []
    assert run(["draft", str(words), "-o", str(out), "--json", *options]) == 0
    told = json.loads(capsys.readouterr().out)["postures"]
    own = [posture.id for posture in read_file(alone).form.postures] if after else []
    form = read_file(out).form
    drafted = form.postures[len(own) :]
    assert [posture.id for posture in form.postures[: len(own)]] == own
    assert len({posture.id for posture in form.postures}) == len(form.postures) == len(own) + 4
    first, *again, other = drafted
    assert [write_count(line) for line in first.lines] == [count["text"] for count in told[0]["counts"]]
    assert [posture.repeat_of for posture in again] == [first.id] * 2 and other.mirror_of == first.id
    assert [posture.name for posture in drafted] == [
        "Open the gate", "Open the gate, again", "Open the gate, again 2", "Open the gate, other side"
    ]  # fmt: skip
