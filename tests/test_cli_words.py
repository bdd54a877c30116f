"""What a command says and what it prints as JSON are the same: every figure of the one is found in the other."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import pytest

from tests.test_cli_answers import long_form
from waltzmark import demo
from waltzmark.cli import room as room_command
from waltzmark.cli.main import run
from waltzmark.files.reading import read_document

HERE = Path(__file__).parent
DEMO = Path(demo.__file__).parent / "ferry-round.waltz"
OFFICE = DEMO.parent / "rooms" / "2-harbour-office.waltz"
LINE = re.compile(r"(?:Start|Change|Class) +\d* *(.*)")


def both(capsys: pytest.CaptureFixture[str], *arguments: str) -> tuple[list[str], Any]:
    """The lines that a command says, and its JSON."""
    assert run(list(arguments)) in (0, 1)
    lines = capsys.readouterr().out.splitlines()
    assert run([*arguments, "--json"]) in (0, 1)
    return lines, json.loads(capsys.readouterr().out)


@pytest.fixture
def once(monkeypatch: pytest.MonkeyPatch) -> None:
    """Lets what takes long be found once for the words and the JSON."""
    for name in ("advice", "arranged"):
        found: list[Any] = []
        real = getattr(room_command, name)

        def known(*arguments: Any, found: list[Any] = found, real: Any = real) -> Any:
            if not found:
                found.append(real(*arguments))
            return found[0]

        monkeypatch.setattr(room_command, name, known)


def place(start: dict[str, float]) -> str:
    return f"{start['x']:.2f} m, {start['y']:.2f} m, facing {start['heading']:.0f}°"


def metres(text: str) -> float:
    """The first length of a text that is told in metres or centimetres; below 0 where it is too far."""
    number, unit = re.findall(r"(\d+(?:\.\d+)?) (cm|m)\b", text)[0]
    return float(number) * (0.01 if unit == "cm" else 1.0) * (-1.0 if "too far" in text else 1.0)


@pytest.mark.parametrize(
    ("form", "room", "more"),
    [
        (None, OFFICE, ()),
        (DEMO, DEMO, ("--here",)),
        (HERE / "forms" / "diagonals.waltz", HERE / "rooms" / "narrow-hall.waltz", ("--class", "2")),
        (HERE / "forms" / "diagonals.waltz", HERE / "rooms" / "l-with-stove.waltz", ("--class", "9")),
    ],
)
@pytest.mark.usefixtures("once")
def test_a_room_is_said_as_it_is_told(
    capsys: pytest.CaptureFixture[str], form: Path | None, room: Path, more: tuple[str, ...], tmp_path: Path
) -> None:
    form = form or long_form(tmp_path)
    lines, told = both(capsys, "room", str(form), "--room", str(room), *more)
    titles = {posture.id: posture.title for posture in read_document(form.read_text(encoding="utf-8")).form.postures}
    heads = [line for line in lines if LINE.fullmatch(line)]
    assert ("does not fit" in lines[0]) is not told["fits"] and place(told["start"]) in lines[0]
    near = [told, *told["starts"]]
    for line, each in zip(heads, near, strict=False):
        assert place(each if each is not told else told["start"]) in line
        figure = line.split(": ", 1)[1].removeprefix("fits, ").removeprefix("does not fit, ")
        assert metres(figure) == pytest.approx(each["clearance"], abs=0.0051)
        assert each["against"] in line
        if each["posture"]:
            assert f"in {titles[each['posture']]}" in line
    assert sum(line.startswith("Change") for line in heads) == len(told["changes"])
    under: list[str] = []
    for line in reversed(lines):  # what stands below a change is its own
        if not line.startswith("Change"):
            under = [] if LINE.fullmatch(line) else [line, *under]
            continue
        change = told["changes"][int(line.split()[1]) - 1]
        for each in change["changes"]:
            wanted = f"{titles[each['posture']]}, count {each['count']}: {each['what']}"
            (said,) = [words for words in under if wanted in words]
            if each["unit"] == "cm":
                before, after = (float(figure) for figure in re.findall(r"(\d+(?:\.\d+)?) cm", said)[-2:])
                assert (before, after) == pytest.approx((abs(each["from"]), abs(each["to"])), abs=0.51)
        under = []
    group = told["class"]
    if "--class" in more:
        (head,) = [line for line in lines if line.startswith("Class")]
        if group is None:
            assert head.startswith("Class ") and f" {more[-1]} " in head
        else:
            assert f"{len(group['walkers'])} walkers" in head
            assert metres(head) == pytest.approx(group["gap"], abs=0.006)
            assert [line.strip() for line in lines[lines.index(head) + 1 :]] == [place(w) for w in group["walkers"]]


@pytest.mark.parametrize("form", [DEMO, *sorted((HERE / "forms").glob("*s.waltz"))[:3]])
def test_the_way_home_is_said_as_it_is_told(capsys: pytest.CaptureFixture[str], form: Path) -> None:
    lines, told = both(capsys, "home", str(form))
    postures = read_document(form.read_text(encoding="utf-8")).form.postures
    ledger = [line for line in lines if re.search(r"cm right .*cm ahead .*° .*cm along", line)]
    assert len(ledger) == len(postures) == len(told["ledger"])
    for line, posture, row in zip(ledger, postures, told["ledger"], strict=True):
        right, ahead_, turn = (
            float(figure) for figure in re.findall(r"([+-]\d+(?:\.\d+)?)(?: cm (?:right|ahead)|°)", line)
        )
        assert line.startswith(posture.title[:30]) and row["posture"] == posture.id
        assert [right, ahead_] == pytest.approx([100 * each for each in row["offset"]], abs=0.051)
        assert (turn - row["turn"]) % 360.0 == pytest.approx(0.0, abs=0.51) or (turn - row["turn"]) % 360.0 > 359.4
    far = metres(lines[0]) if "cm" in lines[0] or " m" in lines[0] else 0.0
    assert far == pytest.approx(told["distance"], abs=0.0051)


def test_a_full_pipe_and_a_file_that_is_no_file_are_said_in_a_line(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    for what, path in (("folder", tmp_path), ("missing", tmp_path / "none.waltz")):
        for command in ("check", "room", "home", "sides", "trace", "loop"):
            assert run([command, str(path)]) == 2, what
            said = capsys.readouterr()
            assert said.out == "" and said.err.startswith("waltzmark: ") and len(said.err.splitlines()) == 1
