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
misses it. Goals in seconds and milliseconds are meant for a machine on which the empty window of the first row takes
0.24 s. Here it took {bare:.2f} s, so what is held to seconds may take {pace:.2f} times as long.
"""
#: Seconds that an empty window takes on the machine that the goals are meant for.
_BARE = 0.24
_WINDOW = re.compile(r"demo / bare window  \([\d.]+ s / ([\d.]+) s")


def machine() -> str:
    """The kind of processor."""
    for line in Path("/proc/cpuinfo").read_text(encoding="utf-8").splitlines():
        if line.startswith("model name"):
            return line.partition(":")[2].strip()
    return platform.machine()


def row(line: str, pace: float) -> str | None:
    """A line of a benchmark as a row of the table; None for what is no measure. pace: how slow the machine is."""
    if (found := LINE.match(line)) is None or "plain loop meanwhile" in line:
        return None
    ratio, what, figures = found.groups()
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


def page(outputs: dict[str, str]) -> str:
    """The page of what each benchmark printed."""
    day = f"{datetime.now(UTC):%-d %B %Y}"
    (bare,) = (float(each) for each in _WINDOW.findall(outputs["run"]))
    pace = bare / _BARE
    text = HEAD.format(
        day=day, cores=os.cpu_count(), machine=machine(), python=platform.python_version(), bare=bare, pace=pace
    )
    for name, title in PARTS.items():
        rows = [made for line in outputs[name].splitlines() if (made := row(line, pace))]
        text += (
            f"\n## {title}\n\n| measure | ratio | goal | in this run |\n|---|---|---|---|\n" + "\n".join(rows) + "\n"
        )
    return text


def main() -> int:
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    outputs: dict[str, str] = {}
    for name in PARTS:
        done = subprocess.run(
            [sys.executable, str(ROOT / "benchmarks" / f"{name}.py")],
            env=environment,
            capture_output=True,
            text=True,
            check=True,
        )
        print(done.stdout, end="", flush=True)
        outputs[name] = done.stdout
    (ROOT / "docs" / "performance.md").write_text(page(outputs), encoding="utf-8")
    return 0


if __name__ == "__main__":
    sys.exit(main())
