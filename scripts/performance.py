"""Runs the benchmarks and writes docs/performance.md, goals beside what was measured: ``make performance``."""

from __future__ import annotations

import os
import platform
import re
import subprocess
import sys
from datetime import UTC, datetime
from pathlib import Path

ROOT = Path(__file__).parent.parent
#: The benchmarks, and what the measures of each are about.
PARTS = {
    "run": "Starting, reading, walking, judging, painting",
    "plotting": "Plotting in forms of 1,500 and of 650 counts, on the screen",
    "rooms": "Room",
    "returns": "Return",
    "sides": "Sides",
    "fits": "Bodies",
    "drafts": "Words",
    "films": "Voice and film",
    "pages": "Sheets and the practice book",
}
LINE = re.compile(r"^\s*(\d+\.\d+)\s\s(.+?)\s\s\((.*)\)$")
HEAD = """# Performance

What the benchmarks measured on {day}, on a machine with {cores} cores ({machine}, Python {python},
without a screen). `make performance` writes this page; `make bench` only prints it. Each figure is a ratio, taken in
one run, to what comes after the slash: a plain NumPy loop over the same rows, an empty window, or the time the goal
allows. Seconds belong to this machine; ratios travel. A goal is an upper limit, and **over** marks a figure that
misses it. Goals in seconds and milliseconds are meant for a machine on which an empty window starts in 0.24 s. This
machine is not equally quick at all times, so empty windows are started before and after each part, and in the part
about plotting before and after each figure: where they took longer or less, so may what is held to seconds.
"""
#: Seconds that an empty window takes on the machine that the goals are meant for.
_BARE = 0.24
_WINDOW = re.compile(r", bare window ([\d.]+) s")


def machine() -> str:
    """The kind of processor."""
    for line in Path("/proc/cpuinfo").read_text(encoding="utf-8").splitlines():
        if line.startswith("model name"):
            return line.partition(":")[2].strip()
    return platform.machine()


def row(line: str, bare: float) -> str | None:
    """A line of a benchmark as a row of the table; None for what is no measure. bare: seconds that an empty window took
    meanwhile, unless the line says it itself."""
    if (found := LINE.match(line)) is None or "plain loop meanwhile" in line:
        return None
    ratio, what, figures = found.groups()
    own = _WINDOW.search(figures)
    pace = (float(own[1]) if own else bare) / _BARE
    aim = re.search(r",? ?aim:? (?:about |at most )?([\d.]+)( ms)?(?:[^,)]*)?(?:, at most ([\d.]+) ms)?", figures)
    told = figures[: aim.start()] if aim else figures
    goal, over = "", ""
    if aim and aim[2]:  # of a frame: the 95th percentile stands in the figures
        limit = float(aim[3] or aim[1])
        late = re.search(r"95 % ([\d.]+) ms", told)
        measured = float(late[1]) if late else float(re.findall(r"([\d.]+) ms", told)[0])
        goal, over = f"{limit:g} ms", "**over**" if measured > limit * pace else ""
    elif aim:
        about = 1.25 if "about" in aim[0] else 1.0  # a ratio of two sizes, which says that time is linear
        goal = f"about {aim[1]}" if about > 1.0 else aim[1]
        timed = re.search(r"/ (?:[\d.]+ s|a frame|its playing time)$", what)
        over = "**over**" if float(ratio) > about * float(aim[1]) * (pace if timed else 1.0) else ""
    return f"| {what} | {ratio} | {goal} {over} | {told} |".replace("  |", " |")


def page(outputs: dict[str, str], bare: dict[str, float]) -> str:
    """The page of what each benchmark printed. bare: seconds that an empty window took beside each."""
    day = f"{datetime.now(UTC):%-d %B %Y}"
    text = HEAD.format(day=day, cores=os.cpu_count(), machine=machine(), python=platform.python_version())
    for name, title in PARTS.items():
        rows = [made for line in outputs[name].splitlines() if (made := row(line, bare[name]))]
        text += (
            f"\n## {title}\n\nAn empty window: {bare[name]:.2f} s.\n\n"
            "| measure | ratio | goal | in this run |\n|---|---|---|---|\n" + "\n".join(rows) + "\n"
        )
    return text


def printed(name: str) -> str:
    """What a benchmark prints."""
    return subprocess.run(
        [sys.executable, str(ROOT / "benchmarks" / f"{name}.py")],
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
        capture_output=True,
        text=True,
        check=True,
    ).stdout


def main() -> int:
    outputs: dict[str, str] = {}
    windows = [float(printed("bare"))]
    for name in PARTS:
        outputs[name] = printed(name)
        print(outputs[name], end="", flush=True)
        windows.append(float(printed("bare")))
    bare = {name: sum(windows[at : at + 2]) / 2.0 for at, name in enumerate(PARTS)}
    (ROOT / "docs" / "performance.md").write_text(page(outputs, bare), encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
