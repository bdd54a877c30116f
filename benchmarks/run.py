"""Measures Waltzmark and prints each figure as a ratio taken in one run: ``make bench``."""

from __future__ import annotations

import math
import os
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable

from waltzmark.core.base.records import replace

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ.setdefault("QT_LOGGING_RULES", "default.warning=false")  # what the offscreen screen cannot do

import numpy as np
from PySide6.QtCore import QSize
from PySide6.QtGui import QImage, QPainter

from bare import bare_window, environment
from made_form import made_form, made_text
from waltzmark.core.form.form import Form
from waltzmark.core.judge.judging import judge
from waltzmark.core.score.read import forget_counts, read_count
from waltzmark.core.walk.figures import Figures
from waltzmark.core.walk.trace import Trace
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.desktop.app import make_application
from waltzmark.desktop.document import Document
from waltzmark.desktop.editor import Editor
from waltzmark.desktop.plot.floor import FloorView
from waltzmark.desktop.theme import LIGHT
from waltzmark.desktop.widgets.figure_view import FigureView
from waltzmark.files.reading import read_document

OURS = """
import os
import waltzmark.__main__
run = waltzmark.__main__.imported_window()
from waltzmark.desktop.plot.floor import FloorView
paint = FloorView.paintEvent
def painted(self, event):
    paint(self, event)
    os._exit(0)
FloorView.paintEvent = painted
run(["--demo"])
"""


def seconds(task: Callable[[], object], times: int) -> float:
    """Median seconds of a task."""
    taken = []
    for _ in range(times):
        start = time.perf_counter()
        task()
        taken.append(time.perf_counter() - start)
    return statistics.median(taken)


def start_ratio() -> None:
    around = environment()
    around["XDG_CACHE_HOME"] = tempfile.mkdtemp(prefix="waltzmark-bench-")
    around["XDG_STATE_HOME"] = tempfile.mkdtemp(prefix="waltzmark-bench-")  # no crash to be asked about

    def run() -> object:
        return subprocess.run([sys.executable, "-c", OURS], check=True, env=around, stderr=subprocess.DEVNULL)

    with tempfile.TemporaryDirectory(prefix="waltzmark-bench-") as folder:
        # It has been opened and closed before, as it has on a user's machine: bytecode, disk caches, what it keeps.
        shot = ["-m", "waltzmark", "--demo", "--shot", f"{folder}/demo.png"]
        subprocess.run([sys.executable, *shot], check=True, env=around, stderr=subprocess.DEVNULL)
    bare_window(1), run()
    bare, ours = [], []
    for _ in range(15):  # turn about, so that both see the same machine
        bare += bare_window(1)
        ours.append(seconds(run, 1))
    a, b = statistics.median(ours), statistics.median(bare)
    report("start to first painted window, demo / bare window", a / b, f"{a:.2f} s / {b:.2f} s, aim at most 2")


def plain_loop(trace: Trace) -> float:
    """What a plain NumPy loop over the same rows does: place both soles and the centre of each row."""
    total = 0.0
    for row in range(len(trace)):
        angle = np.radians(trace.headings[row])
        turn = np.array([[np.cos(angle), np.sin(angle)], [-np.sin(angle), np.cos(angle)]])
        feet = trace.heels[row] + (turn[:, :, 0] @ np.array([0.0, 0.1])) * 0.5
        total += float((trace.shares[row][:, None] * feet).sum())
    return total


def full_ratio(text: str) -> None:
    def whole() -> None:
        forget_counts()
        form = read_document(text).form
        judge(form, walk(form))

    trace = walk(read_document(text).form)
    a, b = seconds(whole, 5), seconds(lambda: plain_loop(trace), 5)
    report(
        "read, walk and judge 1,500 counts / plain NumPy loop over the rows",
        a / b,
        f"{1e3 * a:.0f} ms / {1e3 * b:.0f} ms",
    )
    form = read_document(text).form
    walking, judging = seconds(lambda: walk(form), 5), seconds(lambda: judge(form, walk(form)), 5)
    report("walk and judge / walk alone", judging / walking, f"{1e3 * judging:.0f} ms / {1e3 * walking:.0f} ms")


def review_ratio(form: Form) -> None:
    """A long form reviewed: findings, room, return, sides."""
    from waltzmark.core.answers.review import review

    trace = walk(form)
    a, b = seconds(lambda: review(form, walk(form)), 3), seconds(lambda: plain_loop(trace), 3)
    alone = seconds(lambda: walk(form), 3)
    report(
        "walk and review 4,000 counts / plain NumPy loop over the rows",
        a / b,
        f"{1e3 * (a - alone):.0f} ms of review, aim at most 800 ms; {1e3 * b:.0f} ms",
    )


def odd_ratios() -> None:
    """Files four times as long should take four times as long, whatever is odd about them."""
    head = "waltzmark = 1\n"

    def unknown(number: int) -> str:
        return head + "[form]\n" + "".join(f"k{n} = {n}\n" for n in range(number))

    def unread(number: int) -> str:
        return head + '[[posture]]\nid = "a"\ncounts = [' + "".join(f'"xx{n}",\n' for n in range(number)) + "]\n"

    def chain(number: int) -> str:
        links = "".join(f'[[posture]]\nid = "p{n}"\nrepeat_of = "p{n + 1}"\n' for n in range(number))
        return head + links + f'[[posture]]\nid = "p{number}"\ncounts = ["hold"]\n'

    def corners(number: int) -> str:
        ring = [
            [round(4 + math.cos(k * math.tau / 500), 4), round(4 + math.sin(k * math.tau / 500), 4)] for k in range(500)
        ]
        things = "".join(f'[[room.obstacle]]\nname = "o{n}"\noutline = {ring}\n' for n in range(number))
        return head + f"[room]\noutline = [[0, 0], [9, 0], [9, 9], [0, 9]]\nstart = {{ x = 1, y = 1 }}\n{things}"

    for words, text, few in (
        ("8,000 unknown keys / 2,000", unknown, 2000),
        ("8,000 lines that cannot be read / 2,000", unread, 2000),
        ("a chain of 4,400 repeats / 1,100", chain, 1100),
        ("300 obstacles of 500 corners / 75", corners, 75),
    ):
        times = []
        for number in (few, 4 * few):
            whole = text(number)
            forget_counts()
            times.append(seconds(lambda whole=whole: read_document(whole), 1))  # type: ignore[misc]
        report(f"reading {words}", times[1] / times[0], f"{times[1]:.2f} s / {times[0]:.2f} s, aim about 4")


def edited(form: Form, number: int) -> Form:
    """The form with a step in its middle posture made longer or shorter."""
    posture = form.postures[len(form.postures) // 2]
    lines = list(posture.lines)
    lines[4] = read_count(f"step R 12 bow {40 + number % 20}x35")
    return form.with_posture(replace(posture, lines=tuple(lines)))


def rewalk_ratio(form: Form) -> None:
    trace, forms = walk(form), [edited(form, n) for n in range(41)]
    whole, taken = seconds(lambda: walk(form), 5), []
    for each in forms:
        start = time.perf_counter()
        trace = walk(each, trace)
        _ = trace.table
        taken.append(time.perf_counter() - start)
    a, worst = statistics.median(taken), float(np.percentile(taken, 95))
    report(
        "walk again after one edit in the middle / full walk",
        a / whole,
        f"{1e3 * a:.1f} ms (95 %: {1e3 * worst:.1f} ms) / {1e3 * whole:.0f} ms, aim at most 16 ms",
    )


def joints_ratio(form: Form) -> None:
    trace = walk(form)
    whole, joints = seconds(lambda: walk(form), 5), seconds(lambda: Figures(trace).settled, 5)
    figures = f"{1e3 * joints:.0f} ms / {1e3 * whole:.0f} ms, aim at most 0.33"
    report("joints of every count / full walk", joints / whole, figures)


def frame_ratio(text: str, name: str, figure: bool = False) -> None:
    document = Document()
    document.open_text(text)
    floor, beside = FloorView(document, Editor(document), LIGHT), FigureView(document, LIGHT)
    floor.resize(1280, 800)
    beside.resize(330, 480)
    image = QImage(QSize(1280, 800), QImage.Format.Format_ARGB32_Premultiplied)
    positions = np.linspace(4.0, 8.0, 240)  # as played at 1 s a beat

    def frames() -> tuple[float, float]:
        taken = []
        for position in positions:
            document.session.go(float(position))
            start = time.perf_counter()
            painter = QPainter(image)
            floor.paint_frame(painter)
            if figure:
                beside.paint(painter)
            painter.end()
            taken.append(time.perf_counter() - start)
        return statistics.median(taken), float(np.percentile(taken, 95))

    def blank() -> None:
        painter = QPainter(image)
        painter.fillRect(image.rect(), LIGHT.color("board"))
        painter.end()

    (a, worst), b = frames(), seconds(blank, 50)
    figures = f"{1e3 * a:.1f} ms (95 %: {1e3 * worst:.1f} ms) / {1e3 * b:.2f} ms, aim at most 8 ms"
    what = "one frame with the figure" if figure else "one frame"
    report(f"paint {what} while walking, {name} / fill the view once", a / b, figures)
    document.close()


def report(what: str, ratio: float, figures: str) -> None:
    print(f"{ratio:8.2f}  {what}  ({figures})", flush=True)


def main() -> None:
    text = made_text()
    print("   ratio  what  (figures of this run)")
    start_ratio()
    full_ratio(text)
    rewalk_ratio(made_form())
    review_ratio(made_form(4000))
    odd_ratios()
    make_application()
    frame_ratio(demo_text(), "demo")
    frame_ratio(text, "1,500 counts")
    joints_ratio(made_form())
    frame_ratio(text, "1,500 counts", figure=True)


if __name__ == "__main__":
    main()
