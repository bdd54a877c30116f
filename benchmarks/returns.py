"""Measures what brings a form home, each figure as a ratio taken in one run: ``make bench``."""

from __future__ import annotations

import time

from made_form import made_form
from run import plain_loop, report, seconds
from waltzmark.core.base.records import replace
from waltzmark.core.form.form import Form, Home, Posture
from waltzmark.core.home.closing import closings
from waltzmark.core.home.loops import loops_of
from waltzmark.core.score.facings import Clock
from waltzmark.core.walk.lengths import measures_of
from waltzmark.core.walk.walk import walk
from waltzmark.demo import demo_text
from waltzmark.files.reading import read_document


class _First:
    """Notes when the first closing is known."""

    def __init__(self) -> None:
        self.begun, self.first = time.perf_counter(), 0.0

    def tell(self, share: float, words: str = "") -> None:
        pass

    def hand_out(self, so_far: object) -> None:
        self.first = self.first or time.perf_counter() - self.begun


def closing() -> None:
    form = made_form(1500)
    trace = walk(form)
    end = trace.midpoints[-1]
    facing = Clock.at(float(trace.torso[-1]))
    form = replace(form, home=Home((float(end[0]) + 0.2, float(end[1]) - 0.3), facing))
    closings(form)  # SciPy is imported once
    loop = seconds(lambda: plain_loop(trace), 5)
    moves = seconds(lambda: measures_of(form, trace), 3)
    report("1,500 counts: what every length moves / a plain loop", moves / loop, f"{moves:.2f} s / {loop:.3f} s")
    watcher = _First()
    found = closings(form, progress=watcher)
    whole = time.perf_counter() - watcher.begun
    report("1,500 counts: first closing / 0.5 s", watcher.first / 0.5, f"{watcher.first:.2f} s, aim at most 1")
    report("1,500 counts: all closings / 1.5 s", whole / 1.5, f"{whole:.2f} s for {len(found.every)}, aim at most 1")


def loops() -> None:
    demo = read_document(demo_text()).form
    postures = list(demo.postures)
    for number in range(100 - len(postures)):
        source = demo.postures[number % len(demo.postures)]
        postures.append(Posture(f"more-{number}", repeat_of=source.source or source.id))
    form: Form = replace(demo, postures=tuple(postures))
    trace = walk(form)
    taken = seconds(lambda: loops_of(trace), 3)
    report("loops of 100 postures / 1 s", taken, f"{taken:.2f} s, aim at most 1")


if __name__ == "__main__":
    closing()
    loops()
